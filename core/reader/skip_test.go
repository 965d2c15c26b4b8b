package reader_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/reader"
	"kollaris/internal/demo/recipes"
)

// Whichever line is said to be no ingredient, all others, the method and the facts are
// read as before; and taking it back gives the first reading.
func TestOnlyTheSkippedLineChanges(t *testing.T) {
	texts := []string{"A loaf\n\nserves 8\n240 g flour\n1 cup sugar\n2 eggs\n3 tbsp blorf\nzest and juice of 1 lemon\n1 tsp salt\n1 tsp salt\n80 g butter\n\nMix and bake.",
		"Morning cake\n\nYou begin by creaming 115 g of butter with 100 g of sugar, then you stir in 2 eggs and fold through 200 g of flour with a little patience.\n\nBake it for 30 minutes."}
	for _, name := range recipes.Names() {
		texts = append(texts, recipes.Text(name))
	}
	for _, text := range texts {
		was, err := reader.Read(text, reader.Options{})
		require.NoError(t, err)
		require.Greater(t, len(was.Recipe.Lines), 3)
		for n, l := range was.Recipe.Lines {
			now, err := reader.Read(text, reader.Options{Fixes: map[string]reader.Fix{was.Keys[l.ID]: {Skip: true}}})
			require.NoError(t, err)
			want := append(append(was.Recipe.Lines[:0:0], was.Recipe.Lines[:n]...), was.Recipe.Lines[n+1:]...)
			assert.Equal(t, want, now.Recipe.Lines, l.Text)
			require.Len(t, now.Skipped, 1)
			assert.Equal(t, l, now.Skipped[0])
			assert.Equal(t, len(was.Recipe.Steps), len(now.Recipe.Steps), l.Text)
			for k, st := range was.Recipe.Steps {
				assert.Equal(t, st.Text, now.Recipe.Steps[k].Text)
			}
			assert.Equal(t, []any{was.Recipe.Title, was.Recipe.Servings, was.Recipe.Oven, was.Recipe.Bake, was.Recipe.Tins, was.Recipe.Notes}, []any{now.Recipe.Title, now.Recipe.Servings, now.Recipe.Oven, now.Recipe.Bake, now.Recipe.Tins, now.Recipe.Notes}, l.Text)
			for _, f := range now.Findings {
				assert.NotEqual(t, l.ID, f.Line, "what was wrong with it does not matter any more")
			}
		}
	}
}

// Two lines of the same text are two lines.
func TestTheSecondOfTwoEqualLinesIsCorrectedByItself(t *testing.T) {
	text := "A cake\nIngredients\n50 g sugar\n100 g flour\nFor the icing:\n50 g sugar"
	rd, err := reader.Read(text, reader.Options{Fixes: map[string]reader.Fix{"50 g sugar #2": {Amount: "80"}}})
	require.NoError(t, err)
	require.Len(t, rd.Recipe.Lines, 3)
	assert.Equal(t, []float64{50, 100, 80}, []float64{rd.Recipe.Lines[0].Grams, rd.Recipe.Lines[1].Grams, rd.Recipe.Lines[2].Grams})
	rd, err = reader.Read(text, reader.Options{Fixes: map[string]reader.Fix{"50 g sugar": {Skip: true}}})
	require.NoError(t, err)
	require.Len(t, rd.Recipe.Lines, 2)
	assert.True(t, strings.Contains(rd.Recipe.Lines[1].Section, "icing"))
}

func TestAllLinesMayBeSkipped(t *testing.T) {
	rd, err := reader.Read("A cake\nIngredients\n50 g sugar", reader.Options{Fixes: map[string]reader.Fix{"50 g sugar": {Skip: true}}})
	require.NoError(t, err)
	assert.Empty(t, rd.Recipe.Lines)
	assert.Len(t, rd.Skipped, 1)
}
