package heat_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/heat"
)

// sides gives the hottest temperature at the side of a bake's cut while it is followed.
func hottestSide(t *testing.T, r heat.Run, seconds float64) float64 {
	t.Helper()
	across, _ := r.Grid.Across()
	hottest := 0.0
	require.NoError(t, r.Follow(context.Background(), seconds, func(s *heat.Moment) bool {
		plane := s.Plane(nil)
		for _, x := range plane[(across-1)*r.Grid.N[2]:] {
			hottest = math.Max(hottest, x)
		}
		return true
	}))
	return hottest
}

// While the strip around a tin is wet its wall stays at the boiling point, and so does
// all beside it; a dry wall of the same mass lets the side go past it.
func TestAWetStripHoldsTheWallAtBoiling(t *testing.T) {
	run := func(water float64) heat.Run {
		r := heat.Run{Grid: heat.Round(0, 0.1, 0.06, 8, 1), Matter: plain(1.2e6, 0.4), Start: 20, Boils: 100, Stages: []heat.Stage{{From: 170, To: 170, H: [4]float64{0, 0, 20, 0}}}}
		r.Walls[heat.Side] = heat.Wall{Capacity: 2000, Contact: 120, Start: 20, Water: water}
		return r
	}
	assert.LessOrEqual(t, hottestSide(t, run(5), 5400), 100.0)
	assert.Greater(t, hottestSide(t, run(0), 5400), 110.0)
	some := hottestSide(t, run(0.5), 5400) // 0.5 kg/m² × 2.26 MJ/kg at 20 W/(m² K) × 70 K is gone in under 15 min
	assert.Greater(t, some, 105.0)
	assert.Less(t, some, hottestSide(t, run(0), 5400)+0.1)
}

// A heavy wall comes late and stays long: the side is cooler at first and warmer after
// the oven is off than behind a thin one.
func TestAHeavyWallComesLateAndStaysLong(t *testing.T) {
	side := func(capacity, at float64) float64 {
		r := heat.Run{Grid: heat.Box(0.2, 0.1, 0.06, 8, 1), Matter: plain(1.2e6, 0.4), Start: 20, Stages: []heat.Stage{
			{Seconds: 1800, From: 180, To: 180, H: [4]float64{0, 0, 20, 0}}, {From: 20, To: 20, H: [4]float64{0, 0, 20, 0}}}}
		if capacity > 0 {
			r.Walls[heat.Side] = heat.Wall{Capacity: capacity, Contact: 120, Start: 20}
		}
		across, _ := r.Grid.Across()
		got := 0.0
		require.NoError(t, r.Follow(context.Background(), at, func(s *heat.Moment) bool {
			got = s.Plane(nil)[(across-1)*r.Grid.N[2]+r.Grid.N[2]/2]
			return true
		}))
		return got
	}
	assert.Less(t, side(30000, 400), side(0, 400)-5)
	assert.Greater(t, side(30000, 2500), side(0, 2500))
}

// The air goes from one stage's temperature to the next in a straight line, and holds
// the last.
func TestTheAirFollowsItsStages(t *testing.T) {
	r := heat.Run{Grid: heat.Box(0.1, 0.1, 0.05, 6, 2), Matter: plain(1.2e6, 0.4), Start: 20, Stages: []heat.Stage{
		{Seconds: 600, From: 20, To: 140}, {Seconds: 300, From: 140, To: 140}, {Seconds: 200, From: 140, To: 100}, {From: 100, To: 100}}}
	want := func(s float64) float64 {
		switch {
		case s < 600:
			return 20 + 120*s/600
		case s < 900:
			return 140
		case s < 1100:
			return 140 - 40*(s-900)/200
		}
		return 100
	}
	seen := 0
	require.NoError(t, r.Follow(context.Background(), 1500, func(s *heat.Moment) bool {
		assert.InDelta(t, want(s.Seconds), s.Air, 3, "at %.0f s", s.Seconds) // a step's worth
		seen++
		return true
	}))
	assert.Greater(t, seen, 20)
}

// The surroundings of one face differ from the air of the others: a floor that is
// hotter warms from below.
func TestAFaceOfItsOwn(t *testing.T) {
	r := heat.Run{Grid: heat.Round(0, 0.09, 0.04, 8, 1), Matter: plain(1.2e6, 0.4), Start: 20, Stages: []heat.Stage{{From: 100, To: 100, H: [4]float64{20, 20, 20, 0}}}}
	even := r
	r.Stages = []heat.Stage{{From: 100, To: 100, H: [4]float64{20, 20, 20, 0}}}
	r.Stages[0].Off[heat.Bottom] = 60
	rows := func(r heat.Run) (bottom, top float64) {
		require.NoError(t, r.Follow(context.Background(), 900, func(s *heat.Moment) bool {
			p := s.Plane(nil)
			bottom, top = p[0], p[r.Grid.N[2]-1]
			return true
		}))
		return bottom, top
	}
	b0, t0 := rows(even)
	b1, t1 := rows(r)
	assert.InDelta(t, b0, t0, 0.01, "alike above and below")
	assert.Greater(t, b1, t1+10)
	assert.Greater(t, t1, t0-0.01)
}

// The crust lies between what is beneath it and the air, and a dried skin brings it
// nearer to the air; it changes nothing inside.
func TestTheSkinOfTheTop(t *testing.T) {
	at := func(dried float64) (surface, middle float64) {
		r := bread(1)
		r.Skin = dried
		require.NoError(t, r.Follow(context.Background(), 2400, func(s *heat.Moment) bool {
			assert.True(t, s.Surface > 19 && s.Surface < 177, "%g °C", s.Surface)
			surface, middle = s.Surface, s.Coldest
			return true
		}))
		return surface, middle
	}
	wet, inside := at(0)
	dry, same := at(0.015)
	assert.Greater(t, dry, wet+5)
	assert.InDelta(t, inside, same, 1e-9)
}

// A wet face takes less heat until what lies beneath comes to boil; what it does not take
// is not counted as heat that came in.
func TestAWetFace(t *testing.T) {
	at := func(share float64) float64 {
		r := bread(2)
		r.Wet[heat.Top] = share
		require.NoError(t, r.Follow(context.Background(), 3000, func(x *heat.Moment) bool {
			return assert.InDelta(t, x.HeatIn, x.Enthalpy, 1+0.005*math.Abs(x.HeatIn))
		}))
		return timeTo(t, r, 96)
	}
	dry, half, most := at(0), at(0.5), at(0.9)
	assert.Greater(t, half, dry*1.01)
	assert.Less(t, half, dry*1.1)
	assert.Greater(t, most, half*1.05)
}

// Cells of a finer mesh nest in those of the coarser one: the same body, twice as many
// along each axis.
func TestMeshesNest(t *testing.T) {
	for name, grid := range map[string]func(finer int) *heat.Grid{
		"box": func(f int) *heat.Grid { return heat.Box(0.33, 0.23, 0.02, 6, f) }, "round": func(f int) *heat.Grid { return heat.Round(0, 0.1, 0.07, 6, f) },
		"ring": func(f int) *heat.Grid { return heat.Round(0.03, 0.12, 0.07, 6, f) }, "cap": func(f int) *heat.Grid { return heat.Cap(0.05, 0.04, 6, f) },
	} {
		a, b := grid(1), grid(2)
		for axis, n := range a.N {
			if n > 1 {
				assert.Equal(t, 2*n, b.N[axis], "%s, axis %d", name, axis)
			}
			assert.LessOrEqual(t, n, 6, "%s: capped", name)
		}
		assert.InEpsilon(t, a.Volume, b.Volume, 1e-9, name)
		assert.InEpsilon(t, a.Height(), b.Height(), 1e-12, name)
	}
	assert.InEpsilon(t, 0.33*0.23*0.02/4, heat.Box(0.33, 0.23, 0.02, 6, 1).Volume, 1e-9, "symmetry leaves a quarter")
	assert.InEpsilon(t, math.Pi*0.04*(3*0.05*0.05+0.04*0.04)/6, heat.Cap(0.05, 0.04, 6, 1).Volume, 1e-9, "a cap's volume")
}
