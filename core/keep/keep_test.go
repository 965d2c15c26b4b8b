package keep_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/keep"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// The trade's days, closed: quick bread 3-4 / 7 / 90; fruit cake with spirit 30 / 90 / 365, without
// and in syrup - / 10-14 / 180; scone 1-2 / - / 60; yeast bread 3-4 / - / 90, gluten-free 1-2 / - / 90;
// keto or sugar-free moist loaf 1-2 / 7 / 60; cream-filled - / 3 / -.
func TestHowLongItKeeps(t *testing.T) {
	d := func(x ...int) keep.Days { return keep.Days{Min: x[0], Max: x[len(x)-1]} }
	no := keep.Days{}
	for name, c := range map[string]struct {
		of                    keep.Baked
		room, fridge, freezer keep.Days
	}{
		"quick bread":       {keep.Baked{Kind: recipe.QuickBread, Sugar: 50}, d(3, 4), d(7), d(90)},
		"of little sugar":   {keep.Baked{Kind: recipe.QuickBread, Sugar: 14.9}, d(1, 2), d(7), d(60)},
		"of enough":         {keep.Baked{Kind: recipe.QuickBread, Sugar: 15}, d(3, 4), d(7), d(90)},
		"on nuts":           {keep.Baked{Kind: recipe.CreamedCake, Base: "nut", Sugar: 50}, d(1, 2), d(7), d(60)},
		"with spirit":       {keep.Baked{Kind: recipe.FruitCake, Sugar: 50, Spirit: true}, d(30), d(90), d(365)},
		"in syrup":          {keep.Baked{Kind: recipe.AllInCake, Sugar: 50, Syrup: true}, no, d(10, 14), d(180)},
		"a loaf with rum":   {keep.Baked{Kind: recipe.QuickBread, Sugar: 50, Spirit: true}, d(3, 4), d(7), d(90)},
		"fruit in syrup":    {keep.Baked{Kind: recipe.FruitCake, Sugar: 50, Syrup: true}, no, d(10, 14), d(180)},
		"a bun in syrup":    {keep.Baked{Kind: recipe.RichBread, Sugar: 50, Syrup: true}, d(3, 4), no, d(90)},
		"scone":             {keep.Baked{Kind: recipe.Scone}, d(1, 2), no, d(60)},
		"yeast bread":       {keep.Baked{Kind: recipe.LeanBread}, d(3, 4), no, d(90)},
		"without gluten":    {keep.Baked{Kind: recipe.RichBread, Base: "gluten-free"}, d(1, 2), no, d(90)},
		"filled with cream": {keep.Baked{Kind: recipe.Sponge, Creamy: true}, no, d(3), no},
		"biscuits on nuts":  {keep.Baked{Kind: recipe.Biscuit, Base: "nut"}, d(7, 14), no, d(90)},
		"not settled":       {keep.Baked{Sugar: 50}, d(3, 4), d(7), d(90)},
	} {
		l := keep.Of(c.of)
		assert.Equal(t, [3]keep.Days{c.room, c.fridge, c.freezer}, [3]keep.Days{l.Room, l.Fridge, l.Freezer}, name)
		assert.Equal(t, c.room != no, l.Room.Known(), name)
	}
}

func TestEveryKindKeepsSomewhere(t *testing.T) {
	for _, k := range recipe.Kinds {
		l := keep.Of(keep.Baked{Kind: k.ID, Sugar: 50})
		assert.True(t, l.Room.Known() || l.Fridge.Known(), k.ID)
		assert.NotEmpty(t, l.As, k.ID)
		assert.NoError(t, l.Source.Check(), k.ID)
		assert.Equal(t, l.Freezer.Known(), l.Thaw != "", k.ID)
		for _, d := range []keep.Days{l.Room, l.Fridge, l.Freezer, l.Best} {
			assert.LessOrEqual(t, d.Min, d.Max, k.ID)
		}
	}
}

func TestWhatMustBeKeptCold(t *testing.T) {
	l := larder.Builtin()
	for id, want := range map[larder.ID]bool{"double-cream": true, "cream-cheese": true, "butter": false, "icing-sugar": false, "coconut-milk": true, "caramel-milk": false, "apple": false} {
		i := l.Get(id)
		if assert.NotNil(t, i, id) {
			assert.Equal(t, want, keep.Perishable(i), id)
		}
	}
}
