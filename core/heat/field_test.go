package heat_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/heat"
)

func plain(capacity, k float64) *heat.Matter {
	return heat.NewMatter(func(float64) float64 { return capacity }, func(float64) float64 { return k }, 0, 100, 2)
}

// even is surroundings of one temperature and one coefficient on all faces.
func even(air, h float64) []heat.Stage {
	return []heat.Stage{{From: air, To: air, H: [4]float64{h, h, h, h}}}
}

// timeTo is when the coldest cell reaches a temperature, between steps.
func timeTo(t testing.TB, r heat.Run, target float64) float64 {
	t.Helper()
	at, last, lastT := -1.0, 0.0, 0.0
	require.NoError(t, r.Follow(context.Background(), 40000, func(s *heat.Moment) bool {
		if s.Coldest >= target {
			at = last + (s.Seconds-last)*(target-lastT)/(s.Coldest-lastT)
			return false
		}
		last, lastT = s.Seconds, s.Coldest
		return true
	}))
	require.Positive(t, at, "never reached")
	return at
}

// The time to 96 °C from 22 in 177 °C against the series, for each shape, after
// extrapolation over two meshes: within 1 %.
func TestFieldAgainstSeries(t *testing.T) {
	const c, k, h = 1.28e6, 0.4, 20.0
	theta := (96.0 - 177) / (22 - 177)
	fo := func(half, s float64) float64 { return k * s / (c * half * half) }
	bi := func(half float64) float64 { return h * half / k }
	for _, x := range []struct {
		name   string
		grid   func(n int) *heat.Grid
		centre func(s float64) float64
		h      [4]float64
	}{
		{"box", func(n int) *heat.Grid { return heat.Box(0.22, 0.11, 0.07, 5, n) }, func(s float64) float64 {
			return slabAt(bi(0.11), fo(0.11, s)) * slabAt(bi(0.055), fo(0.055, s)) * slabAt(bi(0.035), fo(0.035, s))
		}, [4]float64{h, h, h, h}},
		{"short cylinder", func(n int) *heat.Grid { return heat.Round(0, 0.1, 0.06, 5, n) }, func(s float64) float64 {
			return cylinderAt(bi(0.1), fo(0.1, s)) * slabAt(bi(0.03), fo(0.03, s))
		}, [4]float64{h, h, h, h}},
		{"slab", func(n int) *heat.Grid { return heat.Box(0.3, 0.3, 0.05, 5, n) }, func(s float64) float64 { return slabAt(bi(0.025), fo(0.025, s)) }, [4]float64{h, h, 0, 0}},
		{"ring so wide that it is a slab", func(n int) *heat.Grid { return heat.Round(2, 2.05, 0.05, 5, n) }, func(s float64) float64 { return slabAt(bi(0.025), fo(0.025, s)) }, [4]float64{0, 0, h, h}},
		{"long cylinder", func(n int) *heat.Grid { return heat.Round(0, 0.05, 0.05, 5, n) }, func(s float64) float64 { return cylinderAt(bi(0.05), fo(0.05, s)) }, [4]float64{0, 0, h, 0}},
	} {
		at := func(n int) float64 {
			return timeTo(t, heat.Run{Grid: x.grid(n), Matter: plain(c, k), Start: 22, Stages: []heat.Stage{{To: 177, H: x.h}}}, 96)
		}
		a, b := at(1), at(2)
		got := b + (b-a)/3 // second order without a phase change
		lo, hi := 0.0, 40000.0
		for range 60 {
			if mid := (lo + hi) / 2; x.centre(mid) > theta {
				lo = mid
			} else {
				hi = mid
			}
		}
		assert.InEpsilon(t, lo, got, 0.01, "%s: %.0f s, with 5 and 10 cells on the height %.0f and %.0f", x.name, lo, a, b)
	}
}

// A half ball and its mirror image are a sphere: the flat side lets nothing through.
func TestCapAgainstSphere(t *testing.T) {
	const c, k, h, r = 1.28e6, 0.4, 20.0, 0.04
	at := func(n int) float64 {
		return timeTo(t, heat.Run{Grid: heat.Cap(r, r, n, 1), Matter: plain(c, k), Start: 22, Stages: []heat.Stage{{To: 177, H: [4]float64{h, 0, h, 0}}}}, 96)
	}
	theta := (96.0 - 177) / (22 - 177)
	lo, hi := 0.0, 40000.0
	for range 60 {
		if mid := (lo + hi) / 2; sphereAt(h*r/k, k*mid/(c*r*r)) > theta {
			lo = mid
		} else {
			hi = mid
		}
	}
	assert.InEpsilon(t, lo, at(24), 0.03, "stepped, with the area of the cap")
}

// Neumann's solution of the one-phase Stefan problem: a body at the boiling point whose
// face is held hotter; the front stands at 2λ√(αt), λ exp(λ²) erf λ = St/√π. Source:
// Carslaw and Jaeger, section 11.2.
func TestFieldAgainstStefan(t *testing.T) {
	const c, k, latent, hot, boils = 1.28e6, 0.4, 1.2e8, 160.0, 100.0
	st := c * (hot - boils) / latent
	lo, hi := 0.0, 2.0
	for range 60 {
		if l := (lo + hi) / 2; l*math.Exp(l*l)*math.Erf(l) < st/math.Sqrt(math.Pi) {
			lo = l
		} else {
			hi = l
		}
	}
	const depth, seconds = 0.04, 2400.0
	want := 2 * lo * math.Sqrt(k/c*seconds)
	require.Less(t, want, depth*0.8, "half infinite while the front has not crossed it")
	matter := heat.NewMatter(func(float64) float64 { return c }, func(float64) float64 { return k }, latent, boils, 0.05)
	front := func(n int) float64 {
		over := 0.0
		run := heat.Run{Grid: heat.Box(0.004, 0.004, depth, n, 1), Matter: matter, Start: boils - 0.1, Stages: []heat.Stage{{To: hot, H: [4]float64{1e6, 0, 0, 0}}}}
		require.NoError(t, run.Follow(context.Background(), seconds, func(s *heat.Moment) bool { over = s.HeatIn; return true }))
		// the front by the heat that came in: latent behind it, and the profile that warms to it
		area := 0.002 * 0.002
		profile := func(x float64) float64 {
			sum := 0.0
			for i := range 400 {
				y := x * (float64(i) + 0.5) / 400
				sum += c * (hot - boils) * (1 - math.Erf(y/(2*math.Sqrt(k/c*seconds)))/math.Erf(lo)) * x / 400
			}
			return latent*x + sum
		}
		a, b := 0.0, depth
		for range 60 {
			if m := (a + b) / 2; profile(m) < over/area {
				a = m
			} else {
				b = m
			}
		}
		return a
	}
	assert.InEpsilon(t, want, front(40), 0.02)
}

// What came in through the faces is what the body holds more, to rounding, with a wall
// of its own heat, a phase change and stages.
func TestEnergyIsKept(t *testing.T) {
	food := heat.Food{Water: 0.35, Protein: 0.07, Fat: 0.14, Fibre: 0.02, Ash: 0.01}
	matter := heat.NewMatter(func(x float64) float64 { return 480 * food.Capacity(x) }, func(x float64) float64 { return 1.2 * food.Conductivity(x) }, 480*0.1*heat.Latent, 100, 2)
	for name, g := range map[string]*heat.Grid{"box": heat.Box(0.22, 0.11, 0.07, 10, 1), "ring": heat.Round(0.03, 0.11, 0.07, 10, 1), "cap": heat.Cap(0.04, 0.03, 10, 1)} {
		run := heat.Run{Grid: g, Matter: matter, Start: 22, Boils: 100, Walls: [4]heat.Wall{heat.Bottom: {Capacity: 20000, Contact: 120, Start: 20}, heat.Side: {Capacity: 4000, Contact: 120, Start: 20, Water: 0.4}},
			Stages: []heat.Stage{{Seconds: 900, From: 20, To: 200, H: [4]float64{20, 25, 20, 15}}, {Seconds: 1800, From: 200, To: 160, H: [4]float64{20, 25, 20, 15}}, {To: 22, H: [4]float64{8, 8, 8, 8}}}}
		in, held := 0.0, 0.0
		require.NoError(t, run.Follow(context.Background(), 3600, func(s *heat.Moment) bool { in, held = s.HeatIn, s.Enthalpy; return true }))
		assert.InEpsilon(t, in, held, 0.005, name)
		assert.Greater(t, held, 5000.0, name)
	}
}

// bread is the handbook's loaf: 1 kg baked to 474 kg/m³, a tenth boiling off.
func bread(n int) heat.Run {
	food := heat.Food{Water: 0.35, Protein: 0.07, Fat: 0.14, Fibre: 0.02, Ash: 0.01}
	matter := heat.NewMatter(func(x float64) float64 { return 474 * food.Capacity(x) }, func(float64) float64 { return 0.4 }, 474*0.1*heat.Latent, 100, 2)
	return heat.Run{Grid: heat.Box(0.215, 0.115, 0.0854, 6, n), Matter: matter, Start: 22, Stages: even(177, 20)}
}

// With latent heat the order falls below two; the working meshes, extrapolated with the
// order measured, lie within 1 % of the finest.
func TestRefinement(t *testing.T) {
	at := map[int]float64{}
	for _, n := range []int{1, 2, 4} {
		at[n] = timeTo(t, bread(n), 96)
	}
	t.Logf("6, 12, 24 cells: %.0f, %.0f, %.0f s", at[1], at[2], at[4])
	finer := func(coarse, fine float64) float64 { return fine + (fine-coarse)/(math.Pow(2, heat.Order)-1) }
	assert.InEpsilon(t, finer(at[2], at[4]), finer(at[1], at[2]), 0.01)
}

// Printed values at 20 °C, from the polynomials' source and general tables: water
// 4.18 kJ/kgK, 0.60 W/mK, 998 kg/m³; a lean dough of 42 % water about 2.7 kJ/kgK; fat
// 0.18 W/mK and 917 kg/m³ [published and calculated].
func TestPropertiesOfFood(t *testing.T) {
	water := heat.Food{Water: 1}
	assert.InEpsilon(t, 4180, water.Capacity(20), 0.015)
	assert.InEpsilon(t, 0.598, water.Conductivity(20), 0.015)
	assert.InEpsilon(t, 998, water.Density(20), 0.005)
	fat := heat.Food{Fat: 1}
	assert.InEpsilon(t, 917, fat.Density(20), 0.005)
	assert.InEpsilon(t, 0.175, fat.Conductivity(20), 0.02)
	assert.InEpsilon(t, 2730, (heat.Food{Water: 0.42, Protein: 0.08, Fat: 0.02}).Capacity(20), 0.03)
	assert.InEpsilon(t, (heat.Food{Carbohydrate: 1}).Capacity(60), (heat.Food{}).Capacity(60), 1e-9, "the rest counts as carbohydrate")
}

// Boiling points printed in cooks' and engineers' tables [published: US Department of
// Agriculture, high altitude cooking; standard atmosphere]: 1500 m 95, 3000 m 90.
func TestBoilingPoint(t *testing.T) {
	for altitude, want := range map[float64]float64{0: 100, 500: 98.3, 1000: 96.7, 1500: 95, 2000: 93.4, 3000: 90} {
		assert.InDelta(t, want, heat.Boils(altitude), 0.35, "%g m", altitude)
	}
}

// Hotter is sooner, thicker is later, colder to begin with is later; a wet wall and a
// heavy one delay, and what was cancelled stops.
func TestTimeIsMonotonic(t *testing.T) {
	base := bread(1)
	s := timeTo(t, base, 96)
	change := func(f func(*heat.Run)) float64 {
		r := bread(1)
		f(&r)
		return timeTo(t, r, 96)
	}
	assert.Less(t, change(func(r *heat.Run) { r.Stages = even(200, 20) }), s)
	assert.Greater(t, change(func(r *heat.Run) { r.Grid = heat.Box(0.215, 0.115, 0.1, 6, 1) }), s)
	assert.Greater(t, change(func(r *heat.Run) { r.Start = 5 }), s)
	assert.Greater(t, change(func(r *heat.Run) {
		r.Walls[heat.Side] = heat.Wall{Capacity: 3000, Contact: 120, Start: 20, Water: 1}
		r.Boils = 100
	}), s)
	assert.Greater(t, change(func(r *heat.Run) { r.Walls[heat.Bottom] = heat.Wall{Capacity: 40000, Contact: 120, Start: 20} }), s)
	ctx, stop := context.WithCancel(context.Background())
	stop()
	assert.ErrorIs(t, base.Follow(ctx, 4000, func(*heat.Moment) bool { return true }), context.Canceled)
}

func BenchmarkLoaf(b *testing.B) {
	for _, n := range []int{1, 2, 3} {
		run := bread(n)
		b.Run(map[int]string{1: "6", 2: "12", 3: "18"}[n], func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				timeTo(b, run, 96)
			}
			cells, steps := float64(run.Grid.N[0]*run.Grid.N[1]*run.Grid.N[2]), 0
			_ = run.Follow(context.Background(), 4000, func(*heat.Moment) bool { steps += 2; return true }) // every other is shown
			b.ReportMetric(cells, "cells")
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/cells/float64(steps), "ns/cell-step")
		})
	}
}
