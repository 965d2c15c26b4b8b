package adapt_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

const tart = `Nutmeg custard tart
Serves 8

For the pastry
200 g plain flour
100 g cold butter
1 egg yolk
2 tbsp water

For the filling
500 ml double cream
6 egg yolks
80 g sugar

Rub the butter into the flour. Stir in the yolk and water. Roll out and line a 23 cm round tart tin. Bake blind at 190C for 20 minutes. Whisk the yolks, sugar and cream. Pour into the case and bake at 140C for 40 minutes until just set. Cool in the tin.`

// Where a crust is baked and then the whole, the whole is what is foretold, at its own heat,
// and an egg filling is done when it sets; the crust's bake stays as it is written.
func TestPartsAreBakedEachAtItsOwn(t *testing.T) {
	for _, c := range []struct {
		name, text string
		kind       recipe.Kind
		oven       float64
		minutes    float64
		done       float64
		mass       float64
		keeps      string // of the method, as written
	}{
		{"custard tart", tart, recipe.Custard, 140, 40, 74, 1000, "Bake blind at 190C for 20 minutes."},
		{
			"cheesecake whose base is not called blind", `Lemon baked cheesecake
For the base
200 g digestive biscuits
80 g butter, melted

For the filling
600 g full-fat cream cheese
150 g sugar
3 eggs
Mix the biscuits and butter. Press into a 20 cm springform tin and bake at 180C for 10 minutes. Beat the cheese, sugar and eggs. Pour over the base. Bake at 150C for 50 minutes until set with a wobble. Chill overnight.`,
			recipe.Cheesecake, 150, 50, 74, 1180, "Bake at 180C for 10 minutes.",
		},
		{
			"egg filling without a section", `Pumpkin squares
150 g plain flour
75 g butter
2 eggs
300 g pumpkin puree
Rub the butter into the flour. Press into a 20 cm square tin. Bake blind at 190C for 15 minutes. Whisk the eggs and pumpkin. Pour over the base. Bake at 160C for 30 minutes.`,
			recipe.QuickBread, 160, 30, 74, 625, "Bake blind at 190C for 15 minutes.",
		},
		{
			"a batter over a crust is a crumb", `Almond squares
150 g plain flour
75 g butter
For the topping
120 g ground almonds
100 g sugar
60 g self-raising flour
60 ml milk
Rub the butter into the flour. Press into a 20 cm square tin. Bake for 15 minutes at 180C. Mix the almonds, sugar, self-raising flour and milk. Spread over the base. Bake at 170C for 25 minutes.`,
			recipe.QuickBread, 170, 25, 96, 567, "Bake for 15 minutes at 180C.",
		},
		{
			"two heats are one baking", `Rye loaf
400 g strong white flour
7 g instant yeast
280 ml water
Mix everything. Knead. Prove for 1 hour. Shape and put in a 2 lb tin. Bake at 230C for 15 minutes, then reduce the oven to 200C and bake for 25 minutes.`,
			recipe.LeanBread, 230, 40, 96, 687, "",
		},
		{
			"browning is no baking of its own", `Corn bake
200 g cornmeal
200 ml milk
2 eggs
100 g cheddar
Mix the cornmeal, milk and eggs. Pour into a 20 cm square tin. Bake at 180C for 30 minutes. Mix the cheddar with a spoon of milk, scatter over and bake for 5 minutes.`,
			recipe.QuickBread, 180, 0, 96, 606, "",
		},
	} {
		res, err := adapt.Predicted(written(t, c.text), adapt.Request{}, adapt.DefaultKit())
		require.NoError(t, err)
		require.NotNil(t, res.Bake, c.name)
		assert.Equal(t, c.kind, res.Recipe.Kind, c.name)
		assert.InDelta(t, c.oven, float64(res.Bake.Oven), 0.5, c.name)
		assert.InDelta(t, c.done, float64(res.Bake.Done), 0.5, c.name)
		assert.InDelta(t, c.mass, float64(res.Bakes.Yours.Mass), 0.06*c.mass, c.name)
		if c.minutes > 0 {
			assert.InDelta(t, c.minutes, res.Bake.Minutes, 0.03*c.minutes, c.name)
		}
		assert.Equal(t, c.keeps != "", res.Bakes.Parts, c.name)
		text := ""
		bakes := 0
		for _, task := range res.Method {
			text += task.Text + "\n"
			if task.Verb == method.Bake || task.Verb == method.BakeBlind {
				bakes++
			}
		}
		if c.keeps != "" {
			assert.Contains(t, text, c.keeps, c.name)
			assert.Equal(t, 2, bakes, c.name)
		}
		assert.Equal(t, 1, strings.Count(text, "Look first at"), c.name)
		egg := false
		for _, x := range res.Cautions {
			egg = egg || x.Code == "egg-set"
		}
		assert.Equal(t, c.done == 74, egg, c.name)
	}
}
