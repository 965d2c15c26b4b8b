package diet_test

import (
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
		{diet.Demand{Bans: []string{"gum"}}, "psyllium-husk", diet.Breaks, "no gum"},
		{diet.Demand{Bans: []string{"banana"}}, "apple", diet.Fine, ""},
		{diet.Demand{}, "egg", diet.Fine, ""},
	} {
		v, why := c.demand.Judge(l.Get(c.id))
		assert.Equal(t, c.want, v, "%v %s", c.demand, c.id)
		assert.Contains(t, why, c.why)
	}
}

func TestBansAsPeopleTypeThem(t *testing.T) {
	l := larder.Builtin()
	for typed, want := range map[string]string{"soya": "soya", "Soy": "soya", "eggs": "egg", "wheat": "wheat", "tree nuts": "nuts", "peanut": "peanuts", " sesame ": "sesame", "coconut": "coconut", "coconut oil": "coconut-oil", "xanthan gum": "xanthan", "plain flour": "plain-flour", "gum": "gum", "bananas": "banana"} {
		got, err := diet.ParseBan(typed, l)
		require.NoError(t, err, typed)
		assert.Equal(t, want, got, typed)
	}
	_, err := diet.ParseBan("moon dust", l)
	assert.ErrorContains(t, err, "neither an allergen nor in the larder: try nuts")
}

func TestDietsThatAreNotBuiltAreNotOffered(t *testing.T) {
	for _, id := range []diet.ID{diet.Vegan, diet.GlutenFree, diet.Keto} {
		assert.True(t, diet.NotBuilt(id))
		assert.False(t, diet.IsBuilt(id))
	}
}

func TestHoldsInTheOrderOfTheLaw(t *testing.T) {
	l := larder.Builtin()
	contains, check := diet.Holds([]*larder.Ingredient{l.Get("milk"), l.Get("baking-powder"), l.Get("almonds"), l.Get("egg"), l.Get("plain-flour"), l.Get("dark-chocolate")})
	assert.Equal(t, []string{"gluten", "wheat", "egg", "milk", "nuts"}, contains)
	assert.Equal(t, []string{"soya"}, check)
}
