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

// Where a text was broken at a column, a line as long as that goes on, behind a full stop and behind a number, too; a list in one line goes
// on as well, and a line that tells to do something does not belong to it.
func TestAllOfATextIsWrappedAtOneColumn(t *testing.T) {
	plain := "Orange squares\nServes 9\n\n175 g unsalted butter\n175 g caster sugar\n140 g plain flour\nSyrup: 60 ml orange juice, 40 g caster sugar, 1 tbsp lemon juice\n\nMethod\n" +
		"1. Heat the oven to 180°C. Butter a 20 cm square springform tin and line the base with paper.\n" +
		"2. Beat the butter and sugar together for 4 to 5 minutes, until pale and fluffy. The mixture will look almost white.\n" +
		"3. Fold in the flour gently. Spoon the mixture into the tin. Bake for 35 to 40 minutes, until golden."
	want, err := reader.Read(plain, reader.Options{})
	require.NoError(t, err)
	var wrapped []string
	for _, line := range strings.Split(plain, "\n") {
		at := ""
		for _, w := range strings.Fields(line) {
			if at != "" && len(at)+1+len(w) > 60 {
				wrapped, at = append(wrapped, at), ""
			}
			at = strings.TrimSpace(at + " " + w)
		}
		wrapped = append(wrapped, at)
	}
	got, err := reader.Read(strings.Join(wrapped, "\n"), reader.Options{})
	require.NoError(t, err)
	require.Len(t, got.Recipe.Steps, len(want.Recipe.Steps))
	for n, s := range got.Recipe.Steps {
		assert.Equal(t, want.Recipe.Steps[n].Text, s.Text)
	}
	require.Len(t, got.Recipe.Lines, len(want.Recipe.Lines))
	for n, l := range got.Recipe.Lines {
		assert.Equal(t, [3]any{want.Recipe.Lines[n].Ingredient, want.Recipe.Lines[n].Grams, want.Recipe.Lines[n].Section}, [3]any{l.Ingredient, l.Grams, l.Section})
	}
	// the same lines in a text that is not wrapped stay apart
	apart, err := reader.Read("Squares\n100 g flour\n50 g butter\nMethod\nRub the butter into the flour until it looks like fine crumbs\nBake at 180 C for 20 minutes until it is golden all over", reader.Options{})
	require.NoError(t, err)
	assert.Len(t, apart.Recipe.Steps, 2)
}
