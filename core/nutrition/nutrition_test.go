package nutrition_test

import (
	_ "embed"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
)

//go:embed testdata/energy.txt
var energies string

// EU 1169/2011, annex XIV: 4 kcal/g carbohydrate and protein, 9 fat, 7 alcohol,
// 2 fibre, 2.4 polyols, 0 erythritol. Annex I: salt is sodium × 2.5.
func TestFactorsOfTheLaw(t *testing.T) {
	for _, c := range []struct {
		column larder.Column
		also   []larder.Column // columns that hold the same grams
		kcal   float64
	}{
		{larder.Protein, nil, 4}, {larder.Fat, nil, 9}, {larder.Alcohol, nil, 7}, {larder.Carbohydrate, nil, 4},
		{larder.Carbohydrate, []larder.Column{larder.Fibre}, 2}, {larder.Carbohydrate, []larder.Column{larder.Xylitol}, 2.4}, {larder.Carbohydrate, []larder.Column{larder.Erythritol}, 0}, {larder.Carbohydrate, []larder.Column{larder.Allulose}, 0.4},
	} {
		var f larder.Facts
		f[c.column] = 10
		for _, a := range c.also {
			f[a] = 10
		}
		assert.InDelta(t, 10*c.kcal, nutrition.Per100(&f).Energy, 1e-9, "%v", c)
	}
	var f larder.Facts
	f[larder.Sodium] = 400
	assert.InDelta(t, 1, nutrition.Per100(&f).Salt, 1e-9)
}

// Energies of USDA FoodData Central, from memory, for some 150 foods. That table counts fibre
// as carbohydrate or by factors of its own, EU law at 2: its figure stands, within 5 % or 5 kcal,
// between the EU's and 4-9-4 by difference.
func TestEnergyOfKnownFoods(t *testing.T) {
	own, checked := false, 0
	for _, row := range strings.Split(energies, "\n") {
		if strings.HasPrefix(row, "#") {
			continue
		}
		own = own || strings.HasPrefix(row, "! ")
		f := strings.Fields(row)
		for n := 0; n+1 < len(f) && f[0] != "!"; n += 2 {
			i := larder.Builtin().Get(larder.ID(f[n]))
			require.NotNil(t, i, f[n])
			kcal, err := strconv.ParseFloat(f[n+1], 64)
			require.NoError(t, err)
			c := &i.Facts
			least, most := nutrition.Per100(c).Energy, 4*c[larder.Protein]+9*c[larder.Fat]+4*c[larder.Carbohydrate]+7*c[larder.Alcohol]
			within := kcal >= least-max(0.05*least, 5) && kcal <= most+max(0.05*most, 5)
			assert.Equal(t, !own, within, "%s: %g, by the law %.0f to %.0f", f[n], kcal, least, most)
			checked++
		}
	}
	assert.GreaterOrEqual(t, checked, 150)
}

// 100 g butter, 200 g flour, 100 g sugar in 8 pieces, by hand from the rows:
// fat (81.1 + 2.0)/8, sugars (0.1 + 0.6 + 99.8)/8, fibre 5.4/8.
func TestAServingByHand(t *testing.T) {
	r := &recipe.Recipe{Servings: 8, Lines: []recipe.Line{{Ingredient: "butter", Grams: 100}, {Ingredient: "plain-flour", Grams: 200}, {Ingredient: "sugar", Grams: 100}}}
	f := nutrition.Serving(r, larder.Builtin())
	assert.InDelta(t, (81.1+2.0)/8, f.Fat, 1e-9)
	assert.InDelta(t, (0.1+0.6+99.8)/8, f.Sugars, 1e-9)
	assert.InDelta(t, 5.4/8, f.Fibre, 1e-9)
	assert.InDelta(t, 50, f.Weight, 1e-9)
	assert.InDelta(t, f.Carbohydrate, f.NetCarb, 1e-9, "no polyols: the EU figure is the net one")

	double := nutrition.Serving(r.Scaled(2), larder.Builtin())
	assert.InEpsilon(t, 2*f.Energy, double.Energy, 1e-9)
	for _, row := range nutrition.Rows {
		assert.InDelta(t, *row.Of(&f), nutrition.Figure(r, larder.Builtin(), row).Value, 1e-9, "the terms of %s add up", row.ID)
	}
}

func TestNetCarbohydrateLeavesOutPolyolsAndAllulose(t *testing.T) {
	r := &recipe.Recipe{Servings: 1, Lines: []recipe.Line{{Ingredient: "erythritol", Grams: 50}, {Ingredient: "allulose", Grams: 50}, {Ingredient: "plain-flour", Grams: 100}}}
	f := nutrition.Serving(r, larder.Builtin())
	assert.InDelta(t, 76.3-2.7, f.NetCarb, 1)
	assert.Greater(t, f.Carbohydrate, f.NetCarb+90)
	f = nutrition.Serving(&recipe.Recipe{Servings: 1, Lines: []recipe.Line{{Ingredient: "maltitol", Grams: 100}, {Ingredient: "xylitol", Grams: 100}}}, larder.Builtin())
	assert.InDelta(t, larder.Builtin().Get("maltitol").Facts[larder.Maltitol]/2, f.NetCarb, 1, "half of maltitol, nothing of xylitol")
}

func TestWhatIsNotKnownIsNotZero(t *testing.T) {
	r := &recipe.Recipe{Servings: 2, Lines: []recipe.Line{{Ingredient: "sugar", Grams: 75}, {Name: "something", Grams: 25}}}
	assert.InDelta(t, 0.25, nutrition.Serving(r, larder.Builtin()).Missing, 1e-9)
}
