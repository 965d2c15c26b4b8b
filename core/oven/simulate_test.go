package oven_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/heat"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
)

func simulated(t testing.TB, known, now oven.Baking) *oven.Simulation {
	t.Helper()
	s, err := oven.Simulate(context.Background(), known, now)
	require.NoError(t, err)
	return s
}

// The clock of frames and curve is that of the foretold time: the slowest point passes
// the temperature of done when the estimate says.
func TestASimulationIsDoneWhenForetold(t *testing.T) {
	k := known(t)
	s := simulated(t, k, k)
	require.Equal(t, len(s.Frames), len(s.Curve))
	assert.InDelta(t, 52, s.Minutes, 0.01)
	assert.InDelta(t, 2*s.Factor, s.Minutes-s.Passes, 0.1, "after it has held for two minutes of the model's")
	for n, p := range s.Curve {
		switch {
		case p.Minutes < s.Passes-0.5:
			assert.Less(t, p.Centre, float64(s.Done), "at %.0f min", p.Minutes)
		case p.Minutes > s.Passes+0.5 && p.Minutes <= s.Minutes:
			assert.GreaterOrEqual(t, p.Centre, float64(s.Done), "at %.0f min", p.Minutes)
		}
		assert.Equal(t, p.Minutes, s.Frames[n].Minutes)
		if n > 0 && p.Minutes < s.Minutes {
			assert.GreaterOrEqual(t, p.Centre, s.Curve[n-1].Centre-0.05, "the middle only warms")
			assert.GreaterOrEqual(t, p.Done, s.Curve[n-1].Done)
		}
	}
	assert.InDelta(t, 177, s.Out.Air, 0.01)
	assert.Greater(t, s.Out.Crust, s.At(45).Crust, "the crust only warms while it is in")
	assert.InDelta(t, s.Out.Crust, s.At(s.Minutes).Crust, 0.5, "as it leaves, not on the way to the side")
	assert.InDelta(t, s.Out.Centre, s.At(s.Minutes).Centre, 0.5)
	assert.Less(t, s.Curve[len(s.Curve)-1].Air, 30.0, "then it stands in the room")
	assert.Greater(t, s.Peak.Minutes, s.Minutes, "and goes on cooking for a while")
	assert.LessOrEqual(t, s.Peak.Centre, heat.Boils(0))
	assert.Equal(t, 0, s.Slowest[0], "the slowest point is in the middle")
	assert.InDelta(t, 11.8, s.Width, 0.1)
}

// Bakers see a loaf golden after about two thirds of its time, tent what browns
// quickly, and never see erythritol brown.
func TestTheTop(t *testing.T) {
	loaf := baking(t, recipe.QuickBread, 1000, "loaf 9x5 in", 177)
	s := simulated(t, oven.Baking{}, loaf)
	assert.InDelta(t, 0.67, s.Golden/s.Minutes, 0.06)
	assert.InDelta(t, 1, simulated(t, oven.Baking{}, baking(t, recipe.AllInCake, 900, "square 8 in", 175)).Colour, 0.35, "a cake of half an hour is golden when it is done")
	quick, pale, foil := loaf, loaf, loaf
	quick.Colour, pale.Colour, foil.Setup.Covered = 2, 0.25, true
	fast := simulated(t, oven.Baking{}, quick)
	assert.Less(t, fast.Golden, s.Golden)
	assert.Greater(t, fast.Tent, fast.Golden)
	assert.Less(t, fast.Tent, fast.Minutes)
	assert.Zero(t, simulated(t, oven.Baking{}, pale).Golden)
	covered := simulated(t, oven.Baking{}, foil)
	assert.Zero(t, covered.Tent)
	assert.Less(t, covered.Curve[len(covered.Curve)-1].Colour, s.Curve[len(s.Curve)-1].Colour)
	assert.Zero(t, simulated(t, oven.Baking{}, baking(t, recipe.QuickBread, 800, "muffin", 177)).Tent)
}

// In a ring the slowest point lies in the middle of the wall; over a flame it lies
// nearer to the lid than to the floor; a usual share of the weight leaves.
func TestWhereItIsSlowest(t *testing.T) {
	ring := simulated(t, oven.Baking{}, baking(t, recipe.AllInCake, 1300, "ring 10 in", 175))
	assert.InDelta(t, float64(ring.Cells[0])/2, float64(ring.Slowest[0]), 2)
	assert.Positive(t, ring.Funnel)
	pan := baking(t, recipe.OneBowl, 500, "round 18 cm", 160)
	pan.Setup.Flame = true
	s := simulated(t, oven.Baking{}, pan)
	assert.Greater(t, s.Slowest[1], s.Cells[1]/2)
	for _, c := range s.Curve {
		assert.False(t, math.IsNaN(c.Crust+c.Centre+c.Air))
	}
	assert.InDelta(t, 0.11, ring.Loss, 0.05)
}

// The oven is set lower on the way: the air follows, and the bake takes longer.
func TestStagesOfTheOven(t *testing.T) {
	loaf := baking(t, recipe.QuickBread, 1000, "loaf 9x5 in", 190)
	two := loaf
	two.Setup.Stages = []oven.Stage{{After: 20, Oven: 160}}
	a, b := simulated(t, oven.Baking{}, loaf), simulated(t, oven.Baking{}, two)
	assert.Greater(t, b.Minutes, a.Minutes)
	for _, p := range b.Curve {
		switch {
		case p.Minutes < 20:
			assert.InDelta(t, 190, p.Air, 0.01)
		case p.Minutes > 30 && p.Minutes < b.Minutes:
			assert.InDelta(t, 160, p.Air, 0.01)
		}
	}
	cold := loaf
	cold.Setup.Cold = true
	c := simulated(t, oven.Baking{}, cold)
	assert.InDelta(t, 22, c.Curve[0].Air, 0.01)
	assert.Less(t, c.Curve[0].Crust, 30.0)
}

func BenchmarkSimulate(b *testing.B) {
	k := known(b)
	for n := range b.N {
		now := k
		now.Mass += measure.Grams(n%997) / 10
		_, err := oven.Simulate(context.Background(), k, now)
		require.NoError(b, err)
	}
}
