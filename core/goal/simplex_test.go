package goal

import (
	"math"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/floats"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"
)

// Worked examples from print, each with its slacks as the first basis.
func TestSimplexOnWorkedExamples(t *testing.T) {
	for _, c := range []struct {
		name  string
		costs []float64
		rows  [][]float64
		b     []float64
		want  float64
		x     []float64
	}{
		{"Hillier and Lieberman, Wyndor Glass", []float64{-3, -5}, [][]float64{{1, 0}, {0, 2}, {3, 2}}, []float64{4, 12, 18}, -36, []float64{2, 6}},
		{"Beale 1955, which cycles by the least reduced cost alone", []float64{-0.75, 150, -0.02, 6}, [][]float64{{0.25, -60, -0.04, 9}, {0.5, -90, -0.02, 3}, {0, 0, 1, 0}}, []float64{0, 0, 1}, -0.05, []float64{0.04, 0, 1, 0}},
		{"Klee and Minty 1972, three sides", []float64{-100, -10, -1}, [][]float64{{1, 0, 0}, {20, 1, 0}, {200, 20, 1}}, []float64{1, 100, 10000}, -10000, []float64{0, 0, 10000}},
		{"Chvátal 1983, page 13", []float64{-5, -4, -3}, [][]float64{{2, 3, 1}, {4, 1, 2}, {3, 4, 2}}, []float64{5, 11, 8}, -13, []float64{2, 0, 1}},
	} {
		n, m := len(c.costs), len(c.rows)
		a := mat.NewDense(m, n+m, nil)
		var basis []int
		for i, row := range c.rows {
			for j, v := range row {
				a.Set(i, j, v)
			}
			a.Set(i, n+i, 1)
			basis = append(basis, n+i)
		}
		costs := append(append([]float64(nil), c.costs...), make([]float64, m)...)
		y, err := simplex(costs, a, c.b, basis)
		require.NoError(t, err, c.name)
		assert.InDelta(t, c.want, floats.Dot(costs, y), 1e-9, c.name)
		assert.InDeltaSlice(t, c.x, y[:n], 1e-9, c.name)
	}
}

// What has no answer is said.
func TestSimplexWithoutAnAnswer(t *testing.T) {
	_, err := simplex([]float64{-1, 0}, mat.NewDense(1, 2, []float64{-1, 1}), []float64{1}, []int{1})
	require.ErrorContains(t, err, "free to grow")
	_, err = simplex([]float64{1, 0}, mat.NewDense(1, 2, []float64{1, 0}), []float64{1}, []int{1})
	require.ErrorContains(t, err, "does not hold it")
}

// gonum's simplex, which solves each basis anew, finds the same least cost for programmes of every shape that is asked here.
func TestGonumFindsTheSame(t *testing.T) {
	r := rand.New(rand.NewSource(3))
	figure := func() float64 { // a round one often, so that there are ties and moves that stand still
		if r.Intn(2) == 0 {
			return float64(r.Intn(7) - 2)
		}
		return 10 * (r.Float64() - 0.2)
	}
	compared := 0
	for range 800 {
		p := Programme{}
		for range 1 + r.Intn(6) {
			lo := math.Max(0, figure())
			p.Vars = append(p.Vars, Var{Prior: math.Abs(figure()), Min: lo, Max: lo + math.Abs(figure()), Drift: math.Abs(figure())})
		}
		coef := func() (out []float64) {
			for range p.Vars {
				out = append(out, figure())
			}
			return out
		}
		for range r.Intn(6) {
			lo := figure()
			p.Goals = append(p.Goals, Goal{Coef: coef(), Const: figure(), Lo: lo, Hi: lo + math.Max(0, figure()), Scale: 0.5 + r.Float64(), Weight: math.Abs(figure())})
		}
		for range r.Intn(4) {
			p.Limits = append(p.Limits, Limit{Coef: coef(), Const: figure(), Max: 3 * figure(), Wish: true})
		}
		excess, err := p.leastExcess()
		require.NoError(t, err)
		for _, tab := range []*table{p.build(nil, false), p.build(excess, true)} {
			if len(tab.rows) == 0 {
				continue
			}
			a := mat.NewDense(len(tab.rows), tab.cols, nil)
			for i, terms := range tab.rows {
				for j, v := range terms {
					a.Set(i, j, v)
				}
			}
			y, err := simplex(tab.c, a, tab.b, tab.basis)
			require.NoError(t, err)
			var left mat.VecDense
			left.MulVec(a, mat.NewVecDense(len(y), y))
			assert.InDeltaSlice(t, tab.b, left.RawVector().Data, 1e-6, "it holds")
			want, _, err := lp.Simplex(tab.c, a, tab.b, tol, tab.basis)
			if err != nil { // it gives up where a move stands still
				continue
			}
			compared++
			assert.InDelta(t, want, floats.Dot(tab.c, y), 1e-6*(1+math.Abs(want)))
		}
	}
	assert.Greater(t, compared, 1200)
}
