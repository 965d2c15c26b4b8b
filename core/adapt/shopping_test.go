package adapt_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
)

// What two bakes need together, less what is in the house, in the household's packs; eggs whole,
// labels to read, water free, in the order of a shop.
func TestShoppingForTwo(t *testing.T) {
	kit := adapt.DefaultKit()
	l, left := kit.Larder.With([]larder.Own{
		{ID: "plain-flour", Pack: &larder.Pack{Grams: 1000, Price: 1.2, Stock: 150}}, {ID: "sugar", Pack: &larder.Pack{Grams: 500, Price: 0.9}},
		{ID: "salt", Pack: &larder.Pack{Grams: 500, Stock: 200}},
	})
	require.Empty(t, left)
	kit.Larder = l
	one := read(t, "Loaf\nServes 8\n\n700 g plain flour\n300 g sugar\n3 eggs\n3 g salt\n100 ml water\n2 apples\n\nMix. Bake at 180C.")
	two := read(t, "Cake\nServes 8\n\n500 g plain flour\n200 g sugar\n2 eggs\n1 yolk\n100 ml milk\n100 g butter\na little butter, for greasing\n\nMix. Bake at 180C.")
	first, err := adapt.Adapt(one, adapt.Request{}, kit)
	require.NoError(t, err)
	second, err := adapt.Adapt(two, adapt.Request{Diets: []diet.ID{diet.DairyFree}}, kit)
	require.NoError(t, err)
	by := map[larder.ID]adapt.Buy{}
	at := map[larder.ID]int{}
	for n, b := range adapt.Shopping([]*adapt.Result{first, second}, kit) {
		by[b.Ingredient], at[b.Ingredient] = b, n
	}
	flour := by["plain-flour"]
	assert.Equal(t, 1200.0, flour.Grams)
	assert.Equal(t, 150.0, flour.Have)
	assert.Equal(t, "2 × 1000 g", flour.Buy, "1050 g are wanted")
	assert.Equal(t, 2, flour.Packs)
	assert.InDelta(t, 2.4, flour.Cost, 1e-9)
	assert.Equal(t, "1 × 500 g", by["sugar"].Buy, "just one")
	assert.Equal(t, "6", by["egg"].Buy, "three, two, and one for its yolk")
	assert.NotContains(t, by, larder.ID("egg-yolk"))
	assert.Empty(t, by["salt"].Buy, "there is enough")
	assert.Equal(t, 3.0, by["salt"].Have)
	assert.NotContains(t, by, larder.ID("water"))
	assert.NotContains(t, by, larder.ID("butter"), "dairy-free")
	third, err := adapt.Adapt(two, adapt.Request{Diets: []diet.ID{diet.GlutenFree}}, kit)
	require.NoError(t, err)
	for _, b := range adapt.Shopping([]*adapt.Result{third, first}, kit) {
		assert.Equal(t, b.Ingredient == "gf-blend", len(b.Labels) > 0, b.Name)
	}
	assert.Empty(t, flour.Labels)
	assert.Less(t, at["apple"], at["egg"])
	assert.Less(t, at["egg"], at["plain-flour"])
	assert.Less(t, at["plain-flour"], at["salt"])
}
