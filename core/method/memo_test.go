package method

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// What is remembered is what would be read, whatever becomes of what was given or of the recipe; another recipe or larder is
// read anew, and only the last ones are kept.
func TestARememberedReading(t *testing.T) {
	l := larder.Builtin()
	r := &recipe.Recipe{
		Title: "Loaf", Lines: []recipe.Line{{ID: 1, Ingredient: "plain-flour", Name: "plain flour", Phrase: "plain flour", Grams: 200}, {ID: 2, Ingredient: "water", Name: "water", Phrase: "water", Grams: 150}},
		Steps: []recipe.Step{{Text: "Mix the flour with the water. Bake for 40 minutes."}},
	}
	fresh := readAnew(r.Clone(), l)
	first := read(r, l)
	assert.Equal(t, fresh.tasks, first.tasks)
	assert.Equal(t, fresh.mentions, first.mentions)
	first.tasks[0].Uses[0].Share, first.tasks[0].Text, first.mentions[0] = 0.5, "spoilt", nil
	assert.Equal(t, fresh.tasks, read(r, l).tasks)
	assert.Equal(t, fresh.mentions, read(r, l).mentions)
	was := r.Clone()
	r.Steps[0].Text, r.Lines[0].Name = "Boil it all.", "rye flour"
	assert.NotEqual(t, fresh.tasks, read(r, l).tasks)
	again := read(was, l)
	assert.Equal(t, fresh.tasks, again.tasks)
	assert.Equal(t, "plain flour", again.names.r.Lines[0].Name, "and the recipe that it is of")

	for n := range 2 * mostReadings {
		r.Title = fmt.Sprint("Loaf ", n)
		read(r, l)
		read(was, l) // what is asked for again stays
	}
	assert.LessOrEqual(t, len(remembered.young)+len(remembered.old), 2*mostReadings)
	_, young := remembered.young[keyOf(was, l)]
	_, old := remembered.old[keyOf(was, l)]
	assert.True(t, young || old)
}
