package heat_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/heat"
)

// The first eigenvalue and coefficient for convection are printed in Incropera
// and DeWitt, Fundamentals of Heat and Mass Transfer, table 5.1; at Fo = 1 the
// first term is all there is. The values below are C1·exp(-ζ1²) from its rows.
func TestSeriesAgainstPublishedTable(t *testing.T) {
	for _, c := range []struct {
		name       string
		f          func(bi, fo float64) float64
		bi, c1, z1 float64
	}{
		{"slab", heat.Slab, 0.1, 1.0160, 0.3111},
		{"slab", heat.Slab, 1, 1.1191, 0.8603},
		{"slab", heat.Slab, 10, 1.2620, 1.4289},
		{"cylinder", heat.Cylinder, 0.1, 1.0246, 0.4417},
		{"cylinder", heat.Cylinder, 1, 1.2071, 1.2558},
		{"cylinder", heat.Cylinder, 10, 1.5677, 2.1795},
		{"sphere", heat.Sphere, 0.1, 1.0298, 0.5423},
		{"sphere", heat.Sphere, 1, 1.2732, 1.5708},
		{"sphere", heat.Sphere, 10, 1.9249, 2.8363},
	} {
		want := c.c1 * math.Exp(-c.z1*c.z1)
		assert.InEpsilon(t, want, c.f(c.bi, 1), 0.01, "%s Bi %g", c.name, c.bi)
	}
}

func TestSeriesStartsAtOne(t *testing.T) {
	for _, f := range []func(bi, fo float64) float64{heat.Slab, heat.Cylinder, heat.Sphere} {
		assert.InDelta(t, 1, f(2, 0.01), 0.002)
	}
}

func TestTimeTo(t *testing.T) {
	m := heat.Matter{K: 0.4, RhoC: 1.3e6}
	small := heat.Body{Length: 0.2, Width: 0.1, Height: 0.06}
	large := heat.Body{Length: 0.2, Width: 0.1, Height: 0.08}
	a, err := small.TimeTo(m, 20, 22, 177, 96)
	require.NoError(t, err)
	b, err := large.TimeTo(m, 20, 22, 177, 96)
	require.NoError(t, err)
	assert.Greater(t, b, a, "a taller one takes longer")
	hot, err := small.TimeTo(m, 20, 22, 200, 96)
	require.NoError(t, err)
	assert.Less(t, hot, a, "a hotter oven is quicker")
	_, err = small.TimeTo(m, 20, 22, 90, 96)
	assert.ErrorContains(t, err, "never reached")
}
