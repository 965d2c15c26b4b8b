package review_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/review"
	"kollaris/internal/demo/recipes"
)

func notes(t *testing.T, text string) []review.Note {
	t.Helper()
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	return review.Notes(rd.Recipe, larder.Builtin())
}

func codes(ns []review.Note) string {
	var out []string
	for _, n := range ns {
		if n.Severity != "note" {
			out = append(out, n.Code)
		}
	}
	return strings.Join(out, " ")
}

// Sound recipes give nothing to look at.
func TestTheDemosRecipesAreSound(t *testing.T) {
	for _, name := range recipes.Names() {
		assert.Empty(t, codes(notes(t, recipes.Text(name))), name)
	}
}

const loaf = "Nut loaf\nServes 10\n\nIngredients\n{flour}\n150 g sugar\n100 g butter\n2 eggs\n{wet}\n{lift}\n1/2 tsp salt\n\nMethod\nMix all. Bake in a {tin} at 175C for {time} minutes."

func with(pairs ...string) string {
	all := []string{"{flour}", "240 g plain flour", "{wet}", "180 ml milk", "{lift}", "2 tsp baking powder", "{tin}", "9x5 in loaf tin", "{time}", "50"}
	text := loaf
	for n := 0; n < len(pairs); n += 2 {
		text = strings.ReplaceAll(text, pairs[n], pairs[n+1])
	}
	return strings.NewReplacer(all...).Replace(text)
}

func TestSlipsAreCaughtBeforeTheyAreBaked(t *testing.T) {
	for _, c := range []struct{ name, text, want string }{
		{"sound", with(), ""},
		{"a tablespoon of soda", with("{lift}", "1 tbsp baking soda"), "wrong-spoon"},
		{"a tablespoon too many of powder", with("{lift}", "2 tbsp baking powder"), "wrong-spoon"},
		{"soda with nothing acid", with("{lift}", "1 tsp baking soda"), "soda-without-acid"},
		{"soda with buttermilk", with("{lift}", "1/2 tsp baking soda\n1 tsp baking powder", "{wet}", "200 g buttermilk"), ""},
		{"powder on top of self-raising", with("{flour}", "240 g self-raising flour", "{lift}", "4 tsp baking powder"), "lift-much"},
		{"no lift", with("{lift}", ""), "lift-little"},
		{"far too wet", with("{wet}", "600 ml milk"), "water-high"},
		{"no liquid", "White loaf\nIngredients\n500 g strong flour\n7 g instant yeast\n10 g salt", "water-low no-liquid"},
		{"too much for the tin", with("{tin}", "5 inch round tin"), "tin-small"},
		{"a time that cannot be", with("{time}", "15"), "time"},
		{"a layer that bakes until dry", "Oat squares\nIngredients\n200 g rolled oats\n100 g butter\n80 g honey\nMethod\nMelt the butter and honey, stir in the oats. Bake 20 minutes at 180C in a 20 cm square tin.", ""},
		{"milk spoken of and not listed", strings.Replace(with("{wet}", "180 ml water"), "Mix all.", "Mix all, add the milk.", 1), "not-listed"},
		{"bread without salt", "White loaf\nIngredients\n500 g strong flour\n320 ml water\n7 g instant yeast\nMethod\nKnead all. Bake 30 minutes at 220C in a 2 lb loaf tin.", "no-salt"},
		{"a heap of yeast", "White loaf\nIngredients\n500 g strong flour\n320 ml water\n40 g instant yeast\n10 g salt\nMethod\nKnead all. Bake 30 minutes at 220C in a 2 lb loaf tin.", "yeast-high"},
		{"shares say nothing while the flour is not known", with("{flour}", "180 g blorf flour\n60 g tapioca starch"), ""},
		{"an unknown spoonful does not hide a slip", with("{flour}", "240 g plain flour\n1 tbsp blorf", "{lift}", "1 tbsp baking soda"), "wrong-spoon"},
		{"nothing at all", "A title and nothing more", "no-lines"},
	} {
		assert.Equal(t, c.want, codes(notes(t, c.text)), c.name)
	}
}

func TestAWrongSpoonOffersTheRightOne(t *testing.T) {
	ns := notes(t, with("{lift}", "1 tbsp baking soda"))
	require.NotEmpty(t, ns)
	assert.Equal(t, "stop", ns[0].Severity)
	assert.Equal(t, &review.Fix{Words: "Make it 1 tsp", Amount: "1", Unit: "tsp"}, ns[0].Fix)
	assert.Contains(t, ns[0].Message(), "5.8 % of the flour")
	assert.NotZero(t, ns[0].Line)
	assert.NoError(t, ns[0].Source.Check())
}
