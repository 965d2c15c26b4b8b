package diet_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/diet"
	"kollaris/core/larder"
)

func TestJudge(t *testing.T) {
	l := larder.Builtin()
	for _, c := range []struct {
		demand diet.Demand
		id     larder.ID
		want   diet.Verdict
		why    string
	}{
		{diet.Demand{Diets: []diet.ID{diet.EggFree}}, "egg", diet.Breaks, "egg holds egg"},
		{diet.Demand{Diets: []diet.ID{diet.EggFree}}, "egg-white", diet.Breaks, "holds egg"},
		{diet.Demand{Diets: []diet.ID{diet.EggFree}}, "milk", diet.Fine, ""},
		{diet.Demand{Diets: []diet.ID{diet.EggFree}}, "starch-replacer", diet.CheckLabel, "read the label for egg"},
		{diet.Demand{Diets: []diet.ID{diet.DairyFree}}, "butter", diet.Breaks, "holds milk"},
		{diet.Demand{Diets: []diet.ID{diet.DairyFree}}, "cheddar", diet.Breaks, "holds milk"},
		{diet.Demand{Diets: []diet.ID{diet.DairyFree}}, "ghee", diet.Breaks, "holds milk"},
		{diet.Demand{Diets: []diet.ID{diet.DairyFree}}, "dark-chocolate", diet.CheckLabel, "read the label for milk"},
		{diet.Demand{Diets: []diet.ID{diet.DairyFree}}, "coconut-milk", diet.Fine, ""},
		{diet.Demand{Bans: []string{"soya"}}, "silken-tofu", diet.Breaks, "holds soya"},
		{diet.Demand{Bans: []string{"nuts"}}, "almond-drink", diet.Breaks, "holds tree nuts"},
		{diet.Demand{Bans: []string{"gluten"}}, "oats", diet.CheckLabel, "read the label for gluten cereals"},
		{diet.Demand{Bans: []string{"wheat"}}, "plain-flour", diet.Breaks, "holds wheat"},
		{diet.Demand{Bans: []string{"wheat"}}, "wheat-starch-gf", diet.Breaks, "holds wheat"},
		{diet.Demand{Bans: []string{"wheat"}}, "rye-flour", diet.CheckLabel, "read the label for wheat"},
		{diet.Demand{Bans: []string{"coconut"}}, "coconut-oil", diet.Breaks, "no coconut"},
		{diet.Demand{Bans: []string{"coconut"}}, "desiccated-coconut", diet.Breaks, "no coconut"},
		{diet.Demand{Bans: []string{"gum"}}, "psyllium-husk", diet.Breaks, "no gums"},
		{diet.Demand{Bans: []string{"banana"}}, "apple", diet.Fine, ""},
		{diet.Demand{}, "egg", diet.Fine, ""},
	} {
		v, why := c.demand.Judge(l.Get(c.id))
		assert.Equal(t, c.want, v, "%v %s", c.demand, c.id)
		assert.Contains(t, why.Words(), c.why)
		if c.want == diet.Fine {
			assert.Zero(t, why)
		} else {
			assert.Equal(t, []any{c.id, l.Get(c.id).Name}, []any{why.Food, why.Name})
		}
	}
}

func TestReasonsInWords(t *testing.T) {
	for words, r := range map[string]diet.Reason{
		"milk holds 4.8 g of lactose in 100 g":               {Kind: diet.HoldsIt, Name: "milk", Of: "lactose", Grams: 4.8},
		"sugar holds 100 g of net carbohydrate in 100 g":     {Kind: diet.HoldsIt, Name: "sugar", Of: "net carbohydrate", Grams: 100},
		"rusk holds 12 g of net carbohydrate in 100 g":       {Kind: diet.HoldsIt, Name: "rusk", Of: "net carbohydrate", Grams: 12.3},
		"bar may hold tree nuts":                             {Kind: diet.MayHold, Name: "bar", Allergen: "nuts"},
		"flakes: read the label for gluten cereals":          {Kind: diet.ReadLabel, Name: "flakes", Allergen: "gluten"},
		"honey is of animals":                                {Kind: diet.OfAnimals, Name: "honey"},
		"rice is of grain":                                   {Kind: diet.OfGrain, Name: "rice"},
		"peanut butter is shut out by “no nuts”":             {Kind: diet.ShutOut, Name: "peanut butter", Ban: "nuts"},
		"Mill drink behaves like soya drink: read its label": {Kind: diet.Behaves, Name: "Mill drink", Ban: "only:soya-drink"},
		"": {},
	} {
		assert.Equal(t, words, r.Words())
	}
	assert.Equal(t, []string{"tree nuts", "nuts", "lactose", ""}, []string{diet.Reason{Allergen: "nuts"}.About(), diet.Reason{Ban: "nuts"}.About(), diet.Reason{Of: "lactose"}.About(), diet.Reason{Kind: diet.OfGrain}.About()})
}

// Every diet against foods that show where it draws its line.
func TestWhereEachDietDrawsItsLine(t *testing.T) {
	l := larder.Builtin()
	for _, c := range []struct {
		diet                diet.ID
		fine, breaks, check string
	}{
		{diet.LactoseFree, "lactose-free-milk butter cheddar parmesan soya-drink egg", "milk yogurt cream-cheese condensed-milk milk-chocolate", "dark-chocolate"},
		{diet.Vegan, "plain-flour oat-drink agar maple-syrup sugar rum", "egg milk butter honey gelatine lard ghee collagen whey-protein", "dark-chocolate"},
		{diet.GlutenFree, "rice-flour tapioca buckwheat-flour almond-flour egg xanthan", "plain-flour spelt-flour rye-flour barley-flour semolina malt-extract breadcrumbs", "oats oat-flour baking-powder gf-blend"},
		{diet.GrainFree, "almond-flour coconut-flour cassava-flour arrowroot tapioca potato-starch chickpea-flour egg", "plain-flour rice-flour oats oat-drink cornflour buckwheat-flour gf-blend corn-syrup rice-drink", "baking-powder"},
		{diet.Keto, "almond-flour egg butter cream erythritol allulose raspberries walnuts courgette cinnamon baking-powder cocoa", "plain-flour rice-flour sugar honey banana raisins dates oats cornflour milk-chocolate jam", ""},
		{diet.LowSugar, "sugar honey", "", ""},
	} {
		d := diet.Demand{Diets: []diet.ID{c.diet}}
		for want, ids := range map[diet.Verdict]string{diet.Fine: c.fine, diet.Breaks: c.breaks, diet.CheckLabel: c.check} {
			for _, id := range strings.Fields(ids) {
				i := l.Get(larder.ID(id))
				require.NotNil(t, i, id)
				v, why := d.Judge(i)
				assert.Equal(t, want, v, "%s: %s: %s", c.diet, id, why)
				assert.Equal(t, want != diet.Fine, why.Words() != "", id)
			}
		}
	}
}

func TestLimitsAsPeopleTypeThem(t *testing.T) {
	for typed, want := range map[string]diet.Limit{"net-carb:6": {What: diet.NetCarb, Max: 6}, "sugars=9 g": {What: diet.Sugars, Max: 9}, "added-sugars:4,5": {What: diet.AddedSugars, Max: 4.5}, "sodium: 140 mg": {What: diet.Sodium, Max: 140}} {
		got, err := diet.ParseLimit(typed)
		require.NoError(t, err, typed)
		assert.Equal(t, want, got)
	}
	for typed, says := range map[string]string{"fat:3": "is no limit: try net-carb:6", "sugars:lots": "try a number from 0 to 100 g", "sodium:-1": "from 0 to 3000 mg", "sugars:NaN": "try a number"} {
		_, err := diet.ParseLimit(typed)
		assert.ErrorContains(t, err, says, typed)
	}
	d := diet.Demand{Diets: []diet.ID{diet.Keto, diet.LowSugar}, Limits: []diet.Limit{{What: diet.NetCarb, Max: 4}}}
	assert.Equal(t, []diet.Limit{{What: diet.NetCarb, Max: 4}, {What: diet.AddedSugars, Max: 5}}, d.Limited(), "what is asked for comes before what a diet brings")
}

func TestHoldsInTheOrderOfTheLaw(t *testing.T) {
	l := larder.Builtin()
	contains, check := diet.Holds([]*larder.Ingredient{l.Get("milk"), l.Get("baking-powder"), l.Get("almonds"), l.Get("egg"), l.Get("plain-flour"), l.Get("dark-chocolate")})
	assert.Equal(t, []string{"gluten", "wheat", "egg", "milk", "nuts"}, contains)
	assert.Equal(t, []string{"soya"}, check)
}

// Who cannot have lactose is told to read the label wherever milk may be in, and of the
// household's own food that contains it, whose lactose nobody measured.
func TestLactoseWhereMilkMayBe(t *testing.T) {
	own, left := larder.Builtin().With([]larder.Own{
		{ID: "own-spread", Name: "Spread", Like: "dark-chocolate", Allergens: map[string]larder.Level{"milk": larder.Contains}},
		{ID: "own-bar", Name: "Bar", Like: "dark-chocolate", Allergens: map[string]larder.Level{"milk": larder.May}},
		{ID: "own-fudge", Name: "Fudge", Like: "dark-chocolate", Values: map[string]float64{"lactose": 1.1}, Allergens: map[string]larder.Level{"milk": larder.Contains}},
		{ID: "own-thin", Name: "Thin", Like: "dark-chocolate", Values: map[string]float64{"lactose": 1}, Allergens: map[string]larder.Level{"milk": larder.Contains}},
	})
	require.Empty(t, left)
	d := diet.Demand{Diets: []diet.ID{diet.LactoseFree}}
	for id, want := range map[larder.ID]diet.Verdict{
		"own-spread": diet.CheckLabel, "own-bar": diet.Fine, "own-fudge": diet.Breaks, "own-thin": diet.CheckLabel,
		"drinking-chocolate": diet.CheckLabel, "liqueur": diet.CheckLabel, "custard-powder": diet.CheckLabel,
		"milk": diet.Breaks, "butter": diet.Fine, "lactose-free-milk": diet.Fine, "lemon-curd": diet.Fine, "oat-drink": diet.Fine,
	} {
		got, why := d.Judge(own.Get(id))
		assert.Equal(t, want, got, "%s: %s", id, why.Words())
	}
}

// A limit is kept by half a per cent and a hair more, no further: that is what printing hides.
func TestWhatKeepsALimit(t *testing.T) {
	l := diet.Limit{What: diet.Sodium, Max: 140}
	for x, keeps := range map[float64]bool{0: true, 139.9: true, 140: true, 140.7: true, 140.71: false, 141: false} {
		assert.Equal(t, keeps, l.Keeps(x), "%g", x)
	}
	assert.True(t, diet.Limit{What: diet.Sugars}.Keeps(0.005))
	assert.False(t, diet.Limit{What: diet.Sugars}.Keeps(0.006))
}
