package balance_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

func items(pairs ...any) []balance.Item {
	var out []balance.Item
	for n := 0; n < len(pairs); n += 2 {
		var g float64
		switch x := pairs[n+1].(type) {
		case int:
			g = float64(x)
		case float64:
			g = x
		}
		out = append(out, balance.Item{Ingredient: larder.Builtin().Get(larder.ID(pairs[n].(string))), Grams: g})
	}
	return out
}

// NaHCO3 84.007 g/mol gives one CO2 an equivalent: 1 g is 11.90 meq and, fully
// met, 0.524 g CO2; heat alone gives half. Baking powder gives 13 % CO2.
func TestStoichiometryOfSodaAndPowder(t *testing.T) {
	const co2 = 44.010
	b := balance.Add(items("baking-soda", 1))
	assert.InDelta(t, 11.90, b.Soda, 0.01)
	assert.InDelta(t, 0.262, b.Gas()*co2/1000, 0.001, "alone: Na2CO3 stays")
	b = balance.Add(items("baking-soda", 1, "cream-of-tartar", 2.24))
	assert.InDelta(t, 0.524, b.Gas()*co2/1000, 0.002, "met by 2.24 g tartar")
	assert.InDelta(t, 0, b.Surplus(), 0.05)
	b = balance.Add(items("baking-powder", 100))
	assert.InDelta(t, 13, b.Gas()*co2/1000, 0.1)
	assert.InDelta(t, 1, balance.SodaGrams(11.904), 1e-3)
	kind := balance.Items(&recipe.Recipe{Lines: []recipe.Line{
		{ID: 1, Ingredient: "plain-flour", Grams: 100}, {ID: 2, Ingredient: "baking-powder", Grams: 4},
	}}, larder.Builtin())
	assert.InDelta(t, 4, balance.Percent(kind, "powder"), 0.05, "powder by its gas is powder by its weight")
}

// The kitchen's rules (handbook, practice), each within a quarter: half a
// teaspoon of soda to a cup of buttermilk, a quarter to a tablespoon of vinegar
// or lemon, a quarter to a cup of honey. A teaspoon of soda is 4.6 g.
func TestRulesOfSodaAndAcid(t *testing.T) {
	for _, c := range []struct {
		name      string
		acid      []balance.Item
		teaspoons float64
	}{
		{"a cup of buttermilk", items("buttermilk", 242), 0.5},
		{"a tablespoon of vinegar", items("vinegar", 14.9), 0.25},
		{"a tablespoon of lemon juice", items("lemon-juice", 15.25), 0.25},
		{"a cup of honey", items("honey", 333), 0.25},
	} {
		met := balance.SodaGrams(balance.Add(c.acid).Acid) / 4.6
		assert.InEpsilon(t, c.teaspoons, met, 0.26, c.name)
	}
}

func TestFreeWaterIsWhatTheFlourLeaves(t *testing.T) {
	b := balance.Add(items("plain-flour", 100, "water", 70))
	assert.InDelta(t, 70+11.9-58, b.FreeWater, 0.01)
	assert.InDelta(t, 70, b.Per(b.Water), 0.01, "hydration leaves out the flour's own water")
	assert.InDelta(t, 3.6, b.Per(balance.Add(items("plain-flour", 100, "butter", 4.44)).Fat)-1, 0.1)
}

func TestScalingMovesEveryGramAndNoPercentage(t *testing.T) {
	base := items("plain-flour", 210, "sugar", 130, "butter", 115, "egg", 100, "buttermilk", 180, "baking-powder", 7, "baking-soda", 1.2, "salt", 3)
	big := items("plain-flour", 630, "sugar", 390, "butter", 345, "egg", 300, "buttermilk", 540, "baking-powder", 21, "baking-soda", 3.6, "salt", 9)
	a, b := balance.Add(base), balance.Add(big)
	assert.InEpsilon(t, 3*a.Mass, b.Mass, 1e-9)
	assert.InEpsilon(t, 3*a.Gas(), b.Gas(), 1e-9)
	assert.InEpsilon(t, a.Per(a.Water), b.Per(b.Water), 1e-9)
	assert.InEpsilon(t, a.Per(a.Salt), b.Per(b.Salt), 1e-9)
}

func TestTermsAddUpToTheSum(t *testing.T) {
	its := items("plain-flour", 210, "butter", 115, "egg", 100)
	sum := 0.0
	for _, term := range balance.Term(its, func(i *larder.Ingredient) float64 { return i.Facts[larder.Fat] }) {
		sum += term.Value
	}
	assert.InDelta(t, balance.Add(its).Fat, sum, 1e-9)
}

func TestKinds(t *testing.T) {
	rec := func(title, method string, pairs ...any) *recipe.Recipe {
		r := &recipe.Recipe{Title: title, Steps: []recipe.Step{{Text: method}}}
		for _, it := range items(pairs...) {
			r.Lines = append(r.Lines, recipe.Line{Ingredient: it.Ingredient.ID, Grams: it.Grams, Known: true})
		}
		return r
	}
	for _, c := range []struct {
		want recipe.Kind
		r    *recipe.Recipe
	}{
		{recipe.QuickBread, rec("Pear loaf", "Stir.", "plain-flour", 210, "sugar", 130, "butter", 115, "egg", 100, "buttermilk", 180)},
		{recipe.QuickBread, rec("Blueberry muffins", "Fold.", "plain-flour", 250, "sugar", 150, "sunflower-oil", 100, "egg", 100, "milk", 200)},
		{recipe.AllInCake, rec("Chocolate cake", "Whisk it all.", "plain-flour", 200, "sugar", 300, "sunflower-oil", 120, "egg", 100, "water", 240)},
		{recipe.CreamedCake, rec("Seed cake", "Cream the butter and sugar.", "self-raising-flour", 200, "caster-sugar", 200, "butter", 200, "egg", 200)},
		{recipe.FruitCake, rec("Simnel", "Mix.", "plain-flour", 225, "butter", 175, "egg", 200, "raisins", 600)},
		{recipe.Scone, rec("Rounds", "Rub in.", "self-raising-flour", 225, "butter", 55, "milk", 140, "sugar", 25)},
		{recipe.SodaBread, rec("Brown soda bread", "Mix.", "wholemeal-flour", 400, "buttermilk", 350, "baking-soda", 5)},
		{recipe.Biscuit, rec("Snaps", "Roll.", "plain-flour", 200, "butter", 120, "sugar", 100, "egg", 50)},
		{recipe.LeanBread, rec("White loaf", "Knead.", "strong-flour", 500, "water", 330, "instant-yeast", 7, "salt", 10)},
		{recipe.OneBowl, rec("Cup cake", "Stir in a mug. Microwave 90 seconds.", "self-raising-flour", 30, "sugar", 38, "egg", 50)},
		{recipe.OneBowl, rec("Pan cake", "Heat a lidded heavy pan with a rack inside on a low flame.", "plain-flour", 180, "sugar", 100, "yogurt", 245)},
		{recipe.Flatbread, rec("Spelt flatbreads", "Roll thin.", "spelt-flour", 250, "water", 140, "salt", 4)},
		{recipe.Choux, rec("Choux puffs", "Beat the eggs in.", "plain-flour", 75, "butter", 60, "water", 150, "egg", 120)},
		{recipe.QuickBread, rec("Choux puffs", "Beat.", "plain-flour", 75, "butter", 60, "water", 150)}, // nothing puffs them
		{recipe.Pastry, rec("Jam tarts", "Rub in.", "plain-flour", 200, "butter", 100, "water", 40)},
		{recipe.Pastry, rec("Plum galette", "Rub in.", "plain-flour", 200, "butter", 120, "water", 60, "plums", 500)}, // the fruit lies on it
		{recipe.Pastry, rec("Apple crumble", "Rub in.", "apple", 800, "plain-flour", 150, "butter", 100, "demerara-sugar", 75, "oats", 50)},
		{recipe.QuickBread, rec("Apple pie loaf", "Stir.", "plain-flour", 200, "sugar", 100, "milk", 150, "egg", 100)}, // too wet for one
		{recipe.Brownie, rec("Walnut brownies", "Melt.", "plain-flour", 90, "butter", 150, "dark-chocolate", 200, "sugar", 250, "egg", 150)},
		{recipe.Custard, rec("Custard tart", "Whisk.", "plain-flour", 200, "butter", 100, "egg", 150, "milk", 300)},
		{recipe.WhiteFoam, rec("Coffee clouds", "Whisk the whites to stiff peaks.", "egg-white", 120, "caster-sugar", 220)},
		{recipe.WhiteFoam, rec("Meringues", "Whisk.", "egg-white", 120, "caster-sugar", 220)},
		{recipe.Griddle, rec("Buttermilk pancakes", "Fry.", "plain-flour", 200, "buttermilk", 300, "egg", 100)},
		{recipe.AllInCake, rec("Hazelnut bake", "Stir.", "hazelnuts", 200, "sugar", 150, "egg", 150, "double-cream", 100)}, // hardly any flour, and sweet
		{recipe.RichBread, rec("Buns", "Knead.", "strong-flour", 500, "milk", 280, "instant-yeast", 7, "butter", 60, "sugar", 60)},
	} {
		assert.Equal(t, c.want, balance.Infer(c.r, larder.Builtin()).Kind, c.r.Title)
	}
}

func TestCostNamesWhatHasNoPrice(t *testing.T) {
	l, _ := larder.Builtin().With([]larder.Own{{ID: "plain-flour", Pack: &larder.Pack{Grams: 1500, Price: 1.2}}, {ID: "butter", Pack: &larder.Pack{Grams: 250, Price: 2.5}}})
	r := &recipe.Recipe{Lines: []recipe.Line{{Ingredient: "plain-flour", Grams: 300}, {Ingredient: "butter", Grams: 100}, {Ingredient: "water", Grams: 50}, {Ingredient: "egg", Name: "egg", Grams: 100}, {Ingredient: "salt", Grams: 0}}}
	total, unpriced := balance.Cost(r, l)
	assert.InDelta(t, 0.24+1.00, total, 1e-9)
	assert.Equal(t, []string{"egg"}, unpriced)
}

// A batter by hand, from the rows of the catalogue: 200 g plain flour, 100 g sugar, 80 g
// salted butter, an egg of 100 g, 120 g milk, 50 g raisins, 20 g erythritol.
func TestABatterByHand(t *testing.T) {
	b := balance.Add(items("plain-flour", 200, "sugar", 100, "salted-butter", 80, "egg", 100, "milk", 120, "raisins", 50, "erythritol", 20))
	for name, x := range map[string][2]float64{
		"mass":     {b.Mass, 670},
		"base":     {b.Base, 200},
		"water":    {b.Water, 0.02 + 0.8*15.9 + 76.2 + 1.2*88.1}, // not the flour's and the raisins'
		"fat":      {b.Fat, 2 + 0.8*81.1 + 9.5 + 1.2*3.3 + 0.5*0.5},
		"solid":    {b.SolidFat, 0.8 * 81},
		"sugars":   {b.Sugars, 2*0.3 + 99.8 + 0.4 + 0.8*0.1 + 1.2*4.8 + 0.5*58},
		"egg":      {b.Egg, 100},
		"binding":  {b.Binding, 2},
		"setting":  {b.Setting, 2*8.5 + 12.6},
		"acid":     {b.Acid, 2*2.5 + 1.2*1.5 + 0.5*10},
		"air":      {b.Air, 6.8},
		"salt":     {b.Salt, 0.8 * 643 / 1000 * 2.5},
		"sodium":   {b.Sodium, 2*2 + 1 + 0.8*643 + 142 + 1.2*43 + 0.5*11},
		"salt %":   {balance.Percent(items("plain-flour", 200, "salted-butter", 80), "salt"), 0.8 * 643 / 1000 * 2.5 / 2},
		"pieces %": {balance.Percent(items("plain-flour", 200, "milk", 100, "pear", 100), "water"), (88.1 + 84/2.) / 2},
	} {
		assert.InDelta(t, x[1], x[0], 0.12, name)
	}
	sweet := balance.Add(items("erythritol", 20)).Sweet
	assert.InDelta(t, 20*larder.Builtin().Get("erythritol").Facts[larder.Sweetness], sweet, 1e-9)
	assert.Less(t, sweet, 20.0)
}

// A dough as the trade writes it, by hand.
func TestBakersPercentagesByHand(t *testing.T) {
	f, ok := balance.Baker(items("strong-flour", 400, "rye-flour", 100, "water", 300, "salt", 10, "salted-butter", 20, "fresh-yeast", 15, "milk", 50))
	require.True(t, ok)
	assert.Equal(t, 500.0, f.Base)
	assert.Equal(t, 895.0, f.Mass)
	assert.Len(t, f.Counted, 2)
	assert.Equal(t, balance.Share{Name: f.Lines[2].Name, Grams: 300, Percent: 60}, f.Lines[2])
	sums := map[string]balance.Sum{}
	for _, s := range f.Sums {
		sums[s.Name] = s
	}
	yeastWater := larder.Builtin().Get("fresh-yeast").Facts[larder.Water]
	for name, grams := range map[string]float64{"water": 300 + 0.5*88.1 + 0.2*15.9 + 0.15*yeastWater, "salt": 10 + 0.2*643/1000*2.5, "yeast": 15} {
		assert.InDelta(t, grams, sums[name].Grams, 0.05, name)
		assert.InDelta(t, grams/5, sums[name].Percent, 0.01, name)
	}
	assert.Equal(t, 300.0, sums["water"].From[0].Value, "the most first")
	assert.NotContains(t, sums, "egg", "none of it is in")
	_, ok = balance.Baker(items("water", 300))
	assert.False(t, ok, "nothing counts as flour")
	assert.InDelta(t, 15/2.7/5, balance.Percent(items("strong-flour", 500, "fresh-yeast", 15), "yeast"), 1e-9)
	assert.InDelta(t, 1, balance.Percent(items("strong-flour", 500, "instant-yeast", 5), "yeast"), 1e-9)
	assert.InDelta(t, 100*0.5*81.1/100, balance.Percent(items("almond-flour", 100, "salted-butter", 50), "added-fat"), 0.01, "beside that of the nuts")
}

// The base is what there is most of; coconut flour counts threefold.
func TestTheBaseOfAFormula(t *testing.T) {
	for _, c := range []struct {
		want balance.Base
		of   []balance.Item
	}{
		{balance.Wheat, items("plain-flour", 101, "rice-flour", 100)}, {balance.GlutenFree, items("plain-flour", 100, "rice-flour", 101)}, {balance.Wheat, items("plain-flour", 100, "rice-flour", 100)},
		{balance.Nut, items("almond-flour", 100, "coconut-flour", 33)}, {balance.Coconut, items("almond-flour", 100, "coconut-flour", 34)}, {balance.Wheat, items("water", 5)},
	} {
		assert.Equal(t, c.want, balance.BaseOf(c.of), "%v", c.of)
	}
}

// Nuts, fruit and chips stand in the batter in pieces and belong to no window.
func TestPiecesAreNoPartOfTheBatter(t *testing.T) {
	plain := items("plain-flour", 200, "butter", 100, "sugar", 100)
	with := items("plain-flour", 200, "butter", 100, "sugar", 100, "walnuts", 80, "raisins", 50, "dark-chocolate", 60)
	for _, what := range []string{"fat", "sugar"} {
		assert.InDelta(t, balance.Percent(plain, what), balance.Percent(with, what), 1e-9, what)
	}
	assert.InDelta(t, (2+81.1)/2, balance.Percent(plain, "fat"), 0.1)
}

// Ammonium bicarbonate, 79.06 g/mol, leaves nothing behind: a mole of it gives one of CO2 and one
// of ammonia, so a gram twice 12.65 mmol of gas.
func TestAmmoniumGivesAmmoniaToo(t *testing.T) {
	assert.InDelta(t, 2*1000/79.06, balance.Add(items("ammonium-carbonate", 1)).Gas(), 0.02)
}

// From which share of the flour soda that meets no acid is tasted, by kind; where cocoa, molasses
// or fruit hide it, from three times as much. A twenty-fifth of cocoa is just enough.
func TestFromWhichShareSodaIsTasted(t *testing.T) {
	plain := balance.Add(items("plain-flour", 250))
	for k, want := range map[recipe.Kind]float64{recipe.QuickBread: 0.25, recipe.AllInCake: 0.25, recipe.SodaBread: 0.4, recipe.Biscuit: 1.5, recipe.Pastry: 1.5} {
		assert.Equal(t, want, plain.SodaTasted(k), k)
	}
	for _, c := range []struct {
		id    string
		grams float64
		hides bool
	}{
		{"cocoa", 10, true}, {"cocoa", 9.9, false}, {"treacle", 25, true}, {"treacle", 24.9, false}, {"banana", 100, true}, {"banana", 99, false},
		{"dark-brown-sugar", 25, true}, {"sugar", 250, false}, {"instant-coffee", 10, true},
	} {
		b := balance.Add(items("plain-flour", 250, c.id, c.grams))
		assert.Equal(t, map[bool]float64{true: 0.8, false: 0.25}[c.hides], b.SodaTasted(recipe.AllInCake), c)
		assert.Equal(t, map[bool]float64{true: 0.8, false: 0.4}[c.hides], b.SodaTasted(recipe.SodaBread), c)
	}
	assert.Equal(t, 0.25, balance.Add(items("cocoa", 50)).SodaTasted(recipe.AllInCake), "no flour")
}
