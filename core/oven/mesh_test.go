package oven

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/heat"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// The two working meshes, extrapolated, against two of twice the fineness: within 1 % for
// bakes of every shape. The coarser alone errs by up to a tenth, always early.
func TestWorkingMeshesAgainstFinerOnes(t *testing.T) {
	for _, c := range []struct {
		kind  recipe.Kind
		grams measure.Grams
		tin   string
		at    measure.Celsius
	}{
		{recipe.QuickBread, 1000, "loaf 8x4 in", 177}, {recipe.QuickBread, 800, "muffin", 177}, {recipe.Biscuit, 600, "baking sheet", 177}, {recipe.Scone, 600, "baking sheet", 205},
		{recipe.FruitCake, 2200, "round 20 cm, 7.5 cm deep", 145}, {recipe.RichBread, 600, "baking sheet", 190}, {recipe.AllInCake, 1200, "ring 10 in", 175}, {recipe.CreamedCake, 900, "round 20 cm", 175},
	} {
		x, ok := tin.Parse(c.tin)
		require.True(t, ok, c.tin)
		b := Baking{Kind: c.kind, Mass: c.grams, Tin: x, Oven: c.at}
		took := map[int]float64{}
		for _, finer := range []int{1, 2, 4} {
			s, err := b.crossing(context.Background(), finer, 1)
			require.NoError(t, err)
			took[finer] = s
		}
		whole := func(coarse, fine float64) float64 { return fine + (fine-coarse)/(math.Pow(2, heat.Order)-1) }
		best := whole(took[2], took[4])
		assert.InEpsilon(t, best, whole(took[1], took[2]), 0.01, "%s in %s", c.kind, c.tin)
		assert.Less(t, took[1], best, "%s in %s", c.kind, c.tin)
		assert.InEpsilon(t, best, took[1], 0.12, "%s in %s", c.kind, c.tin)
	}
}
