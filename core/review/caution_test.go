package review_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/review"
)

// Each caution of the handbook stands where it applies and nowhere else, and
// ends with who decides.
func TestCautionsStandWhereTheyApply(t *testing.T) {
	for _, c := range []struct {
		ingredient larder.ID
		demand     diet.Demand
		code       string
		says       string
	}{
		{"plain-flour", diet.Demand{}, "gluten", "coeliac"},
		{"plain-flour", diet.Demand{}, "raw", "not for tasting"},
		{"water", diet.Demand{Diets: []diet.ID{diet.DairyFree}}, "milk-allergy", "no allergen promise"},
		{"psyllium-husk", diet.Demand{}, "gel-dry", "two hours apart from medicines"},
		{"honey", diet.Demand{}, "honey", "twelve months"},
		{"xylitol", diet.Demand{}, "xylitol", "dogs"},
		{"walnuts", diet.Demand{}, "choking", "small children"},
		{"rum", diet.Demand{}, "alcohol", "does not bake off"},
		{"cassava-flour", diet.Demand{}, "cassava", "sold for eating"},
		{"erythritol", diet.Demand{}, "polyols", "upset the gut"},
		{"apricots", diet.Demand{}, "sulphites", "dried apricots"},
	} {
		codes := func(id larder.ID) map[string]string {
			m := map[string]string{}
			for _, x := range review.Cautions(&recipe.Recipe{Lines: []recipe.Line{{Ingredient: id, Grams: 10}}}, larder.Builtin(), c.demand, nil) {
				m[x.Code] = x.Text
				assert.NotEmpty(t, x.Defers, x.Code)
			}
			return m
		}
		assert.Contains(t, codes(c.ingredient)[c.code], c.says, c.code)
		if len(c.demand.Diets) == 0 {
			assert.NotContains(t, codes("water"), c.code)
		}
	}
}

func TestNewAllergensStandFirst(t *testing.T) {
	got := review.Cautions(&recipe.Recipe{Lines: []recipe.Line{{Ingredient: "soya-drink"}, {Ingredient: "plain-flour"}}}, larder.Builtin(), diet.Demand{}, map[string]string{"soya": "soya drink"})
	assert.Equal(t, "New here: soya, from soya drink. The written recipe held none.", got[0].Text)
}
