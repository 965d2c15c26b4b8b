package reader_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// A text that mail broke at 60 columns is the recipe that it was; a list stays a list.
func TestWrappedLines(t *testing.T) {
	rd, err := reader.Read(`Boathouse loaf
Serves 10

250 g plain flour
2 tsp baking powder
150 g butter, softened, plus a little more for greasing the
tin
a handful of walnuts, toasted and chopped not too finely
salt

Heat the oven to 180C. Mix the flour and baking powder in a
large bowl. Rub in the butter. Leave the dough to stand for
2 hours. Spoon it into a lined 20 cm square tin. Bake for 15
to 18 minutes until golden.
`, reader.Options{})
	require.NoError(t, err)
	var names []string
	for _, l := range rd.Recipe.Lines {
		names = append(names, l.Name)
	}
	assert.Equal(t, []string{"plain flour", "baking powder", "unsalted butter", "walnuts", "fine salt"}, names)
	assert.Equal(t, recipe.Minutes{Min: 15, Max: 18}, rd.Recipe.Bake)
	assert.Equal(t, "square 20 cm", rd.Recipe.Tins[0].Name)
	assert.Contains(t, rd.Recipe.Steps[0].Text, "in a large bowl")
}

// Odd blanks, quoting, capitals and bold letters say nothing, and every line and step stands where the text has it.
func TestTheSameRecipeInOddSigns(t *testing.T) {
	plain := "Pear squares\nServes 9\n200 g plain flour\n1 tsp baking powder\n2 eggs\nMethod\nBeat the eggs. Pour into a 20 cm square tin.\nRest 12 hours, then bake at 180 C for 30 minutes."
	want, err := reader.Read(plain, reader.Options{})
	require.NoError(t, err)
	require.Len(t, want.Recipe.Lines, 3)
	require.Len(t, want.Recipe.Waits, 1)
	for name, text := range map[string]string{
		"no-break": strings.NewReplacer("0 ", "0\u00a0", "1 ", "1\u00a0", "2 ", "2\u202f").Replace(plain),
		"quoted":   "> " + strings.ReplaceAll(plain, "\n", "\n> "),
		"capitals": strings.ToUpper(plain),
		"bold":     strings.Replace(plain, "Rest", "**Rest**", 1),
	} {
		got, err := reader.Read(text, reader.Options{})
		require.NoError(t, err)
		a, b := want.Recipe, got.Recipe
		assert.Equal(t, [4]any{a.Servings, a.Oven, a.Bake, a.Tins}, [4]any{b.Servings, b.Oven, b.Bake, b.Tins}, name)
		require.Len(t, b.Lines, len(a.Lines), name)
		for n, l := range b.Lines {
			assert.Equal(t, [2]any{a.Lines[n].Ingredient, a.Lines[n].Grams}, [2]any{l.Ingredient, l.Grams}, name)
			assert.True(t, strings.EqualFold(strings.Join(strings.Fields(strings.NewReplacer("\u00a0", " ", "\u202f", " ").Replace(text[l.Span.From:l.Span.To])), " "), a.Lines[n].Text), name)
		}
		require.Len(t, b.Waits, 1, name)
		assert.Equal(t, a.Waits[0].Minutes, b.Waits[0].Minutes, name)
		assert.Regexp(t, `(?i)^12.{1,3}hours$`, text[b.Waits[0].Span.From:b.Waits[0].Span.To], name)
	}
}

// A correction that was made of a line with odd signs counts for it, and so does one under the key that is given.
func TestACorrectionOfALineInOddSigns(t *testing.T) {
	text := "Pear squares\n200\u00a0g plain flour\n2 eggs\nMix and bake."
	for _, key := range []string{"200\u00a0g plain flour", "200 g plain flour"} {
		got, err := reader.Read(text, reader.Options{Fixes: map[string]reader.Fix{key: {Amount: "300"}}})
		require.NoError(t, err)
		assert.Equal(t, 300.0, got.Recipe.Lines[0].Grams)
	}
}
