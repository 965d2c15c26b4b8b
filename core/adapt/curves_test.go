package adapt_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/doneness"
	"kollaris/internal/demo/recipes"
)

// Before anything is seen the end is the foretold one with its window; a wet skewer puts it off, a
// reading below the curve too.
func TestABakeInTheOven(t *testing.T) {
	res, err := adapt.Predicted(read(t, recipes.Text("1-pear-cardamom-loaf.txt")), adapt.Request{Diets: []diet.ID{diet.EggFree}}, adapt.DefaultKit())
	require.NoError(t, err)
	b, err := res.InOven(t.Context())
	require.NoError(t, err)
	low, median, high := b.End()
	assert.InDelta(t, res.Bake.Minutes, median, 0.03*res.Bake.Minutes)
	assert.InDelta(t, res.Bake.Low, low, 0.06*res.Bake.Minutes)
	assert.InDelta(t, res.Bake.High, high, 0.06*res.Bake.Minutes)
	assert.InDelta(t, float64(res.Bake.Done), b.Core(median), 2.5)
	b.Look(median, doneness.SkewerWet)
	_, later, _ := b.End()
	assert.Greater(t, later, median+1)
	b.Probe(20, b.Core(20)-8)
	_, latest, _ := b.End()
	assert.Greater(t, latest, later)

	raw, err := adapt.Adapt(read(t, recipes.Text("1-pear-cardamom-loaf.txt")), adapt.Request{}, adapt.DefaultKit())
	require.NoError(t, err)
	_, err = raw.InOven(t.Context())
	assert.ErrorIs(t, err, adapt.ErrNoBake, "nothing was foretold")
}
