package goal_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/goal"
)

func TestPriorsStayWhenEveryGoalIsMet(t *testing.T) {
	p := goal.Programme{
		Vars:  []goal.Var{{"water", 90, 45, 135, 0.1}, {"powder", 4, 0, 10, 0.1}},
		Goals: []goal.Goal{{"wet", []float64{1, 0}, 20, 100, 120, 10, 1}},
	}
	s, err := p.Solve()
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{90, 4}, s.X, 1e-6)
	assert.Zero(t, s.Goals[0].Miss)
}

func TestTheNearerEdgeOfAWindowIsTaken(t *testing.T) {
	p := goal.Programme{
		Vars:  []goal.Var{{"water", 90, 0, 300, 0.01}},
		Goals: []goal.Goal{{"wet", []float64{1}, 0, 120, 140, 10, 1}},
	}
	s, err := p.Solve()
	require.NoError(t, err)
	assert.InDelta(t, 120, s.X[0], 1e-6)
}

func TestLimitsComeBeforeGoals(t *testing.T) {
	vars := []goal.Var{{"soda", 5, 0, 10, 0.01}}
	goals := []goal.Goal{{"gas", []float64{11.9}, 0, 100, 110, 1, 1e6}}
	t.Run("kept however dear the goal", func(t *testing.T) {
		p := goal.Programme{vars, goals, []goal.Limit{{"no soap", []float64{11.9}, 0, 24, false}}}
		s, err := p.Solve()
		require.NoError(t, err)
		assert.InDelta(t, 24/11.9, s.X[0], 1e-6)
		assert.Less(t, s.Goals[0].Miss, -70.0)
	})
	t.Run("a hard one that cannot be kept is an error", func(t *testing.T) {
		p := goal.Programme{vars, goals, []goal.Limit{{"no soap", []float64{11.9}, 30, 24, false}}}
		_, err := p.Solve()
		assert.ErrorIs(t, err, goal.ErrLimit)
	})
	t.Run("a wish that cannot be kept is missed by the least", func(t *testing.T) {
		p := goal.Programme{vars, goals, []goal.Limit{{"sugar", []float64{1}, 30, 24, true}}}
		s, err := p.Solve()
		require.NoError(t, err)
		assert.InDelta(t, 6, s.Excess[0], 1e-4)
		assert.InDelta(t, 0, s.X[0], 1e-4)
	})
}

func TestNotANumberIsNamed(t *testing.T) {
	p := goal.Programme{Vars: []goal.Var{{"flour", math.NaN(), 0, 1, 1}}}
	_, err := p.Solve()
	assert.ErrorContains(t, err, "flour")
}

// TestAgainstVertexEnumeration solves random programmes of two amounts a second
// way: the cost is piecewise linear, so an optimum lies where two of the lines
// (bounds, window edges, priors, limits) cross.
func TestAgainstVertexEnumeration(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 11))
	for range 300 {
		p := goal.Programme{Vars: []goal.Var{
			{"a", rng.Float64() * 80, 0, 100, 0.05}, {"b", rng.Float64() * 80, 0, 100, 0.05}}}
		for range 3 {
			lo := rng.Float64()*200 - 50
			p.Goals = append(p.Goals, goal.Goal{Name: "g", Coef: []float64{rng.Float64()*4 - 1, rng.Float64()*4 - 1}, Const: rng.Float64() * 20, Lo: lo, Hi: lo + rng.Float64()*60, Scale: 10, Weight: 1})
		}
		p.Limits = []goal.Limit{{"l", []float64{rng.Float64(), rng.Float64()}, 0, 20 + rng.Float64()*100, false}}
		s, err := p.Solve()
		require.NoError(t, err)
		best := math.Inf(1)
		for _, v := range vertices(p) {
			best = math.Min(best, cost(p, v))
		}
		require.InDelta(t, best, cost(p, s.X), 1e-5)
	}
}

func cost(p goal.Programme, x []float64) float64 {
	c := 0.0
	for j, v := range p.Vars {
		c += v.Drift * (1 + 0.001*float64(j)) * math.Abs(x[j]-v.Prior) / math.Max(v.Prior, 1)
	}
	for _, g := range p.Goals {
		v := g.Const + g.Coef[0]*x[0] + g.Coef[1]*x[1]
		c += g.Weight * (math.Max(0, v-g.Hi) + math.Max(0, g.Lo-v)) / g.Scale
	}
	return c
}

func vertices(p goal.Programme) [][]float64 {
	type ln struct{ a, b, c float64 } // a x + b y = c
	var lines []ln
	for j, v := range p.Vars {
		for _, at := range []float64{v.Min, v.Max, v.Prior} {
			if j == 0 {
				lines = append(lines, ln{1, 0, at})
			} else {
				lines = append(lines, ln{0, 1, at})
			}
		}
	}
	for _, g := range p.Goals {
		lines = append(lines, ln{g.Coef[0], g.Coef[1], g.Lo - g.Const}, ln{g.Coef[0], g.Coef[1], g.Hi - g.Const})
	}
	for _, l := range p.Limits {
		lines = append(lines, ln{l.Coef[0], l.Coef[1], l.Max})
	}
	var out [][]float64
	for i, m := range lines {
		for _, n := range lines[:i] {
			d := m.a*n.b - m.b*n.a
			if math.Abs(d) < 1e-12 {
				continue
			}
			x, y := (m.c*n.b-m.b*n.c)/d, (m.a*n.c-m.c*n.a)/d
			l := p.Limits[0]
			if x > -1e-9 && y > -1e-9 && x < 100+1e-9 && y < 100+1e-9 && l.Coef[0]*x+l.Coef[1]*y <= l.Max+1e-7 {
				out = append(out, []float64{x, y})
			}
		}
	}
	return out
}

func BenchmarkSolve(b *testing.B) {
	rng := rand.New(rand.NewPCG(1, 2))
	p := goal.Programme{}
	for range 9 {
		p.Vars = append(p.Vars, goal.Var{Name: "v", Prior: 50, Max: 100, Drift: 0.05})
	}
	for range 10 {
		g := goal.Goal{Name: "g", Lo: 100, Hi: 120, Scale: 10, Weight: 1}
		for range p.Vars {
			g.Coef = append(g.Coef, rng.Float64()-0.2)
		}
		p.Goals = append(p.Goals, g)
	}
	for b.Loop() {
		if _, err := p.Solve(); err != nil {
			b.Fatal(err)
		}
	}
}

// Two wishes that cannot both be kept: the one that stands first is, whatever the
// other would cost; a hard limit comes before both.
func TestWishesGiveWayInTheirOrder(t *testing.T) {
	low := func(name string, max float64, wish bool, coef ...float64) goal.Limit {
		return goal.Limit{Name: name, Coef: coef, Max: max, Wish: wish}
	}
	vars := []goal.Var{{Name: "x", Prior: 50, Max: 100, Drift: 0.1}, {Name: "y", Prior: 50, Max: 100, Drift: 0.1}}
	// x + y must be at least 80, as -x - y at most -80: less x asks for more y
	enough := low("enough", -80, false, -1, -1)
	for name, c := range map[string]struct {
		limits []goal.Limit
		x, y   float64
	}{
		"x first":            {[]goal.Limit{low("x", 10, true, 1, 0), low("y", 10, true, 0, 1), enough}, 10, 70},
		"y first":            {[]goal.Limit{low("y", 10, true, 0, 1), low("x", 10, true, 1, 0), enough}, 70, 10},
		"ten of x for one y": {[]goal.Limit{low("y", 10, true, 0, 1), low("10x", 10, true, 10, 0), enough}, 70, 10},
	} {
		p := goal.Programme{Vars: vars, Limits: c.limits}
		s, err := p.Solve()
		require.NoError(t, err, name)
		assert.InDelta(t, c.x, s.X[0], 1e-4, name)
		assert.InDelta(t, c.y, s.X[1], 1e-4, name)
	}
}

// A goal that bounds keep from its window is missed by what lacks, or by what is over.
func TestWhatAGoalMisses(t *testing.T) {
	for _, c := range []struct{ lo, hi, miss float64 }{{120, 130, -20}, {40, 60, 10}, {90, 110, 0}} {
		p := goal.Programme{Vars: []goal.Var{{"water", 90, 70, 100, 0.01}}, Goals: []goal.Goal{{"wet", []float64{1}, 0, c.lo, c.hi, 10, 1}}}
		s, err := p.Solve()
		require.NoError(t, err)
		assert.InDelta(t, c.miss, s.Goals[0].Miss, 1e-6)
		assert.InDelta(t, s.X[0], s.Goals[0].Value, 1e-9)
	}
}

// What misses a window by less than a millionth of its goal's scale is inside.
func TestSlackGoesByTheScale(t *testing.T) {
	for over, missed := range map[float64]bool{5e-4: false, 2e-3: true, -5e-4: false} {
		p := goal.Programme{Goals: []goal.Goal{{Name: "x", Const: 100 + over, Lo: 0, Hi: 100, Scale: 1000, Weight: 1}}}
		sol, err := p.Solve()
		require.NoError(t, err)
		assert.Equal(t, missed, sol.Goals[0].Miss != 0, "%g over", over)
	}
}

// Of two amounts that would do alike the first moves, so that the same recipe always gives the same answer; an
// amount begins at the nearer bound where its prior lies outside, and a window without width is met.
func TestTheFirstOfTwoAlikeMoves(t *testing.T) {
	p := goal.Programme{
		Vars: []goal.Var{
			{Name: "a", Prior: 50, Max: 100, Drift: 0.1}, {Name: "b", Prior: 50, Max: 100, Drift: 0.1},
			{Name: "low", Prior: 5, Min: 10, Max: 20, Drift: 0.1}, {Name: "high", Prior: 90, Max: 30, Drift: 0.1},
		},
		Goals: []goal.Goal{{Name: "sum", Coef: []float64{1, 1, 1, 1}, Lo: 170, Hi: 170, Scale: 10, Weight: 9}},
	}
	s, err := p.Solve()
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{80, 50, 10, 30}, s.X, 1e-6)
	p.Goals[0].Lo, p.Goals[0].Hi = 110, 110
	s, err = p.Solve()
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{50, 50, 10, 0}, s.X, 1e-6, "what was to be 90 strays a smaller share of it")
	p.Vars[3].Max = 0
	s, err = p.Solve()
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{50, 50, 10, 0}, s.X, 1e-6)
}
