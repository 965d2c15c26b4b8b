package adapt_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

func written(t *testing.T, text string) *recipe.Recipe {
	t.Helper()
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	return rd.Recipe
}

func TestWhatARecipeShowsItselfToBeFreeOf(t *testing.T) {
	const plain = "200 g rice flour\n2 eggs\n100 g butter\n100 g sugar\n"
	for text, want := range map[string][]string{
		"Gluten-free squares\n" + plain:                                 {"gluten-free"},
		"GF squares\n" + plain:                                          {"gluten-free"},
		"Squares with a gluten-free option\n" + plain:                   nil,
		"Squares, not gluten-free\n" + plain:                            nil,
		"Nut-free squares\n" + plain:                                    {"nuts"},
		"Squares without nuts\n" + plain:                                {"nuts"},
		"Squares\n" + plain:                                             nil,
		"Squares\n2 tsp xanthan gum\n" + plain:                          {"gluten-free"},
		"Squares\n2 tsp xanthan gum\n50 g plain flour\n" + plain:        nil,
		"Squares\n20 g psyllium husk\n200 g ground almonds\n1 egg\n":    nil,
		"Squares\n200 g gluten-free oats\n1 egg\n":                      {"gluten-free"},
		"Squares\n200 g gluten-free oats\n100 g plain flour\n":          nil,
		"Squares\n200 g rice flour\n100 g dairy-free spread\n1 egg\n":   {"dairy-free"},
		"Squares\n200 g rice flour\n100 g dairy-free spread\n50 g milk": nil,
		"Vegan, egg-free and dairy-free squares\n200 g rice flour\n":    {"vegan"},
		"Eggless squares\n200 g rice flour\n50 g milk\n":                {"egg-free"},
		"Keto squares\n200 g ground almonds\n3 eggs\n":                  {"keto"},
		"Keto squares\n200 g ground almonds\n3 eggs\n100 g dates\n":     {"keto against dates, dried"},
		"Low-carb bread\nServes 2\n150 g ground almonds\n90 g cocoa\n":  {"keto against net carbohydrate"},
		"Vegan squares\n200 g rice flour\n60 g honey\n":                 {"vegan against honey"},
		"Vegan squares\n200 g rice flour\n60 g honey (optional)\n":      {"vegan"},
		"Squares\n200 g plain flour\n1 tbsp sugar-free jam\n":           nil,
		"Squares\nFor the gluten-free base\n200 g rice flour\n1 egg\n":  {"gluten-free"},
	} {
		r := written(t, text)
		var got []string
		for _, c := range adapt.Shown(r, larder.Builtin()) {
			s := c.ID()
			if c.Against != "" {
				s += " against " + c.Against
			}
			got = append(got, s)
			assert.NotEmpty(t, c.By, text)
		}
		assert.Equal(t, want, got, text)
	}
}

// What comes in does not undo what the recipe shows itself to be free of, unless the baker
// takes that off.
func TestWhatIsShownIsADemand(t *testing.T) {
	r := written(t, "Gluten-free bread\nMakes 12 slices\n300 g brown rice flour\n100 g tapioca starch\n20 g psyllium husk\n7 g instant yeast\n2 eggs\n330 ml milk\n")
	keto := adapt.Request{Diets: []diet.ID{diet.Keto}}
	res, err := adapt.Adapt(r, keto, adapt.DefaultKit())
	require.NoError(t, err)
	assert.NotContains(t, res.Verdict.Holds, "gluten")
	assert.Contains(t, res.Request.Demand().Diets, diet.GlutenFree)
	assert.NotContains(t, res.Request.Values()["diet"], "gluten-free", "it is no choice of the baker's")
	keto.Loose = []string{"gluten-free"}
	res, err = adapt.Adapt(r, keto, adapt.DefaultKit())
	require.NoError(t, err)
	assert.Contains(t, res.Verdict.Holds, "gluten")
	assert.Len(t, res.AsWritten, 1, "it is still shown, to be put back")

	broken := written(t, "Vegan oat squares\n200 g rice flour\n60 g honey\n100 g oil\n")
	res, err = adapt.Adapt(broken, adapt.Request{}, adapt.DefaultKit())
	require.NoError(t, err)
	assert.Empty(t, res.Changes, "a title alone changes nothing")
	require.NotEmpty(t, res.Doubts)
	assert.Contains(t, res.Doubts[0], "honey is against it")
}
