package reader_test

import (
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
