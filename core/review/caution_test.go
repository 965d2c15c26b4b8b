package review_test

import (
	"slices"
	"strings"
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
		{"water", diet.Demand{Diets: []diet.ID{diet.LactoseFree}}, "lactose", "milk allergy"},
		{"water", diet.Demand{Diets: []diet.ID{diet.GlutenFree}}, "coeliac", "Made without gluten ingredients"},
		{"water", diet.Demand{Diets: []diet.ID{diet.Keto}}, "diabetes", "care team"},
		{"water", diet.Demand{Diets: []diet.ID{diet.LowSugar}}, "diabetes", "does not treat a hypo"},
		{"water", diet.Demand{Diets: []diet.ID{diet.LowSodium}}, "sodium", "powder, soda and salt"},
		{"potassium-bicarbonate", diet.Demand{}, "potassium", "kidney disease"},
		{"lupin-flour", diet.Demand{}, "lupin", "peanut allergy"},
		{"allulose", diet.Demand{}, "allulose", "not authorised"},
		{"walnuts", diet.Demand{}, "choking", "small children"},
		{"rum", diet.Demand{}, "alcohol", "does not bake off"},
		{"cassava-flour", diet.Demand{}, "cassava", "sold for eating"},
		{"erythritol", diet.Demand{}, "polyols", "upset the gut"},
		{"apricots", diet.Demand{}, "sulphites", "dried apricots"},
	} {
		codes := func(id larder.ID) map[string]string {
			m := map[string]string{}
			for _, x := range review.Cautions(&recipe.Recipe{Lines: []recipe.Line{{Ingredient: id, Grams: 10, Known: true}}}, larder.Builtin(), c.demand, nil) {
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

// Where a line is not understood, or words name gluten, nothing is "made without" it.
func TestNothingIsMadeWithoutWhatIsNotKnown(t *testing.T) {
	l := larder.Builtin()
	text := func(known bool, also ...*larder.Ingredient) string {
		r := &recipe.Recipe{Lines: []recipe.Line{{Ingredient: "water", Grams: 10, Known: known}}}
		for _, x := range review.Cautions(r, l, diet.Demand{Diets: []diet.ID{diet.GlutenFree}}, nil, also...) {
			if x.Code == "coeliac" {
				return x.Text
			}
		}
		return ""
	}
	assert.Contains(t, text(true), "Made without gluten ingredients")
	assert.Contains(t, text(true, l.Get("sugar")), "Made without gluten ingredients")
	for _, open := range []string{text(false), text(true, l.Get("rye-flour")), text(true, l.Get("oats"))} {
		assert.Contains(t, open, "nothing can be said of gluten")
		assert.NotContains(t, open, "Made without")
	}
}

func TestNewAllergensStandFirst(t *testing.T) {
	got := review.Cautions(&recipe.Recipe{Lines: []recipe.Line{{Ingredient: "soya-drink", Known: true}, {Ingredient: "plain-flour", Known: true}}}, larder.Builtin(), diet.Demand{}, map[string]string{"soya": "soya drink"})
	assert.Equal(t, "New here: soya, from soya drink. The written recipe held none.", got[0].Text)
}

// Some cautions follow from what the method says.
func TestCautionsOfTheMethod(t *testing.T) {
	all := []string{"soak", "hot-sugar", "stove-top", "microwave", "glass", "jar", "fridge", "raw-finish"}
	for text, want := range map[string]string{
		"Soak the raisins in juice overnight.":                                                     "soak",
		"Leave the raisins to soak for 3 days at room temperature.":                                "soak",
		"Soak the raisins in juice for 30 minutes.":                                                "",
		"Boil the sugar and water to 118 °C.":                                                      "hot-sugar",
		"Let the sugar caramelise, then add the cream.":                                            "hot-sugar",
		"Cream the butter and sugar until pale.":                                                   "",
		"Heat a lidded heavy pan with a rack inside on a low flame, then set the tin on the rack.": "stove-top",
		"Melt the butter in a pan.":                                                                "",
		"Microwave for 4 minutes.":                                                                 "microwave",
		"Pour into a glass dish and bake.":                                                         "glass",
		"Seal in jars while hot to keep the cake.":                                                 "jar",
		"Sandwich with whipped cream.":                                                             "fridge",
		"Ice with royal icing.":                                                                    "raw-finish",
		"Bake 40 minutes and cool.":                                                                "",
	} {
		r := &recipe.Recipe{Lines: []recipe.Line{{Ingredient: "raisins", Text: "200 g raisins"}}, Steps: []recipe.Step{{Text: text}}}
		var got []string
		for _, c := range review.Cautions(r, larder.Builtin(), diet.Demand{}, nil) {
			if slices.Contains(all, c.Code) {
				got = append(got, c.Code)
			}
		}
		assert.Equal(t, want, strings.Join(got, " "), text)
	}
	r := &recipe.Recipe{Lines: []recipe.Line{{Ingredient: "raisins"}, {Ingredient: "rum"}}, Steps: []recipe.Step{{Text: "Soak the raisins in the rum for 7 days."}}}
	for _, c := range review.Cautions(r, larder.Builtin(), diet.Demand{}, nil) {
		assert.NotEqual(t, "soak", c.Code, "spirit keeps it")
	}
}
