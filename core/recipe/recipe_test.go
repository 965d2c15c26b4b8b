package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/measure"
	"kollaris/core/recipe"
)

func TestTheBatterIsWhatGoesIntoTheTin(t *testing.T) {
	r := &recipe.Recipe{Lines: []recipe.Line{
		{ID: 1}, {ID: 2, Role: recipe.Preferment}, {ID: 3, Role: recipe.Icing}, {ID: 4, Role: recipe.Bath}, {ID: 5, Role: recipe.Crust}, {ID: 6, Use: recipe.Brush},
		{ID: 7, Role: recipe.Syrup, Use: recipe.Serve},
	}}
	var ids []recipe.LineID
	for _, l := range r.Batter() {
		ids = append(ids, l.ID)
	}
	assert.Equal(t, []recipe.LineID{1, 2, 5}, ids)
	assert.False(t, recipe.Role("jelly").Known())
	assert.False(t, recipe.Use("eat").Known())
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
