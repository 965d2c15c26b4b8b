package reader_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// Slips are marked, never swallowed: whatever the line, either the amount is what
// is written or the line is in doubt.
func TestNoWrongAmountPassesSilently(t *testing.T) {
	for text, want := range map[string]float64{
		"1 to 2 cups flour": 180, "1 cup flour or more": 120, "2 cups flour, divided": 240, "1 cup less 1 tbsp flour": -1, "flour, 2 cups": 240, "about 2 cups of flour": 240,
		"2 cups plus 3 tbsp flour": 262.5, "2¼ c flour": 270, "2 1/4 cups flour (270 g)": 270, "1 cup (heaped) flour": 120, "two cups flour": 240, "2 cups + 1 tbsp flour": 247.5,
		"1.5 cups flour": 180, "1,5 cups flour": 180, "500 grams flour": 500, "0.5kg flour": 500, "1 lb 2 oz flour": 510.3, "1 pound flour": 453.6, "17½ oz flour": 496.1,
	} {
		rd, err := reader.Read("A cake\n\nIngredients\n"+text, reader.Options{})
		require.NoError(t, err)
		require.Len(t, rd.Recipe.Lines, 1, text)
		l := rd.Recipe.Lines[0]
		if want < 0 {
			assert.False(t, l.Known, "%s was taken for %.0f g", text, l.Grams)
			continue
		}
		if l.Known {
			assert.InDelta(t, want, l.Grams, 1, text)
		}
	}
}

func TestKindIsTypedOverInferred(t *testing.T) {
	rd, err := reader.Read("Rounds\nIngredients\n225 g flour\n55 g butter\n140 ml milk", reader.Options{Facts: reader.Facts{Kind: "biscuit"}})
	require.NoError(t, err)
	assert.Equal(t, recipe.Biscuit, rd.Recipe.Kind)
}
