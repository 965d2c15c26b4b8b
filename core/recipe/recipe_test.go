package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/measure"
	"kollaris/core/recipe"
)

func TestTheBatterIsWhatGoesIntoTheTin(t *testing.T) {
	r := &recipe.Recipe{Lines: []recipe.Line{{ID: 1, Section: ""}, {ID: 2, Section: "dough"}, {ID: 3, Section: "cream cheese frosting"}, {ID: 4, Section: "glaze"}, {ID: 5, Section: "for the cake"}, {ID: 6, Section: "lemon drizzle"}}}
	var ids []recipe.LineID
	for _, l := range r.Batter() {
		ids = append(ids, l.ID)
	}
	assert.Equal(t, []recipe.LineID{1, 2, 5}, ids)
}

func TestACopySharesNothing(t *testing.T) {
	r := &recipe.Recipe{Lines: []recipe.Line{{ID: 4, Grams: 10, Amount: measure.One(1)}}}
	c := r.Scaled(3)
	assert.Equal(t, 30.0, c.Lines[0].Grams)
	assert.Equal(t, measure.One(3), c.Lines[0].Amount)
	assert.Equal(t, 10.0, r.Lines[0].Grams)
	assert.Equal(t, recipe.LineID(5), r.NextID())
	assert.Nil(t, r.Line(9))
	assert.False(t, recipe.Kind("pie").Known())
	assert.Equal(t, 52.5, recipe.Minutes{Min: 50, Max: 55}.Mid())
	for _, k := range recipe.Kinds {
		assert.Equal(t, k.ID == recipe.LeanBread || k.ID == recipe.RichBread, k.ID.Yeasted(), k.ID)
	}
}

// What is extra is no part of the amount: the amount itself is mixed in.
func TestWhatIsExtraMakesNoTopping(t *testing.T) {
	for note, topping := range map[string]bool{
		"plus extra for brushing": false, "plus a little more for dusting": false, "and some extra to glaze": false, "for brushing": true,
		"to serve": true, "melted, for greasing, plus extra for the tin": true, "plus more to serve": false, "beaten, to glaze": true, "+ extra for rolling in": false,
	} {
		assert.Equal(t, topping, recipe.Line{Note: note}.Topping(), note)
	}
}
