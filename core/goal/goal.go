// Package goal solves small linear goal programmes: find amounts x that bring
// several sums into their windows, straying as little as may be from prior
// amounts.
//
//	minimise   Σ wₖ (overₖ + underₖ)/scaleₖ  +  Σ dⱼ |xⱼ - pⱼ|/max(pⱼ, floor)
//	subject to loₖ - underₖ ≤ aₖ·x + cₖ ≤ hiₖ + overₖ      goals: what lies inside costs nothing
//	           gᵢ·x + cᵢ ≤ maxᵢ                            limits: hard, or wishes
//	           minⱼ ≤ xⱼ ≤ maxⱼ
//
// The standard form is built with its starting basis, so that no phase I runs:
// each row brings a column that is feasible by itself. Limits come first: the
// least excess is found before the goals are weighed, so that no price of a
// goal can buy a broken limit. Reference: Charnes and Cooper, Management
// Models and Industrial Applications of Linear Programming (1961).
package goal

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/floats"
	"gonum.org/v1/gonum/mat"
)

// Var is an amount to find.
type Var struct {
	Name     string
	Prior    float64
	Min, Max float64 // Min ≥ 0; Max ≥ Min
	Drift    float64 // price of moving by a whole prior
}

// Goal is a sum and the window it should end in.
type Goal struct {
	Name   string
	Coef   []float64 // for each variable
	Const  float64   // what does not move
	Lo, Hi float64
	Scale  float64 // one unit of missing it; > 0
	Weight float64
}

// Limit is a sum that must not pass Max. A Wish may be missed when it cannot be
// kept; the excess says by how much.
type Limit struct {
	Name  string
	Coef  []float64
	Const float64
	Max   float64
	Wish  bool
}

// Programme is a goal programme.
type Programme struct {
	Vars   []Var
	Goals  []Goal
	Limits []Limit
}

// Outcome is how a goal ended.
type Outcome struct {
	Value float64
	Miss  float64 // above the window: positive; below: negative; inside: 0
}

// Solution is the amounts found.
type Solution struct {
	X      []float64
	Goals  []Outcome
	Excess []float64 // of each limit, 0 where it is kept
}

// ErrLimit says that a limit that is no wish cannot be kept.
var ErrLimit = errors.New("a limit cannot be kept")

// Solve finds the amounts. With no variables it returns the outcomes of the
// constants. It returns ErrLimit when a hard limit cannot be kept, and an
// error that names the term when a figure is not finite.
func (p *Programme) Solve() (Solution, error) {
	if err := p.check(); err != nil {
		return Solution{}, err
	}
	if len(p.Vars) == 0 {
		return p.solution(nil)
	}
	excess, err := p.leastExcess()
	if err != nil {
		return Solution{}, fmt.Errorf("least excess: %w", err)
	}
	t := p.build(excess, true)
	y, err := t.solve()
	if err != nil {
		return Solution{}, fmt.Errorf("goals: %w", err)
	}
	return p.solution(y[:len(p.Vars)])
}

// leastExcess finds how little each limit need be exceeded: the hard ones together
// first, then each wish in the order of Limits, with all before it kept. So a wish
// gives way only to what stands before it.
func (p *Programme) leastExcess() ([]float64, error) {
	excess := make([]float64, len(p.Limits))
	if !p.mustCheckLimits() {
		return excess, nil
	}
	hard := *p
	hard.Limits = nil
	var at []int // places of the limits that stand so far
	for i, l := range p.Limits {
		if !l.Wish {
			hard.Limits, at = append(hard.Limits, l), append(at, i)
		}
	}
	settle := func(q *Programme, price ...float64) error {
		t := q.build(nil, false, price...)
		x, err := t.solve()
		if err != nil {
			return err
		}
		for n, e := range q.excessOf(x[:len(q.Vars)]) {
			excess[at[n]] = e
		}
		return nil
	}
	if len(hard.Limits) > 0 {
		if err := settle(&hard); err != nil {
			return nil, err
		}
	}
	for i, l := range p.Limits {
		if !l.Wish {
			continue
		}
		// what stands before is kept by being priced far above the wish
		q, price := *p, []float64{}
		q.Limits = nil
		for _, j := range at {
			kept := p.Limits[j]
			kept.Max += excess[j]
			q.Limits, price = append(q.Limits, kept), append(price, firm)
		}
		q.Limits, at = append(q.Limits, l), append(at, i)
		before := append([]float64(nil), excess...)
		if err := settle(&q, append(price, 1)...); err != nil {
			return nil, err
		}
		for _, j := range at[:len(at)-1] {
			excess[j] += before[j] // it was measured against the raised maximum
		}
	}
	return excess, nil
}

// firm is the price of passing a limit that stands before a wish, against 1 for the
// wish itself.
const firm = 1e4

// mustCheckLimits reports whether a limit is broken at the lower bounds, so that
// it is not certain that all can be kept.
func (p *Programme) mustCheckLimits() bool {
	for _, l := range p.Limits {
		at := l.Const
		for j, v := range p.Vars {
			at += l.Coef[j] * v.Min
		}
		if at > l.Max {
			return true
		}
	}
	return false
}

func (p *Programme) check() error {
	finite := func(name string, xs ...float64) error {
		for _, x := range xs {
			if math.IsNaN(x) || math.IsInf(x, 0) {
				return fmt.Errorf("%s: not a finite number", name)
			}
		}
		return nil
	}
	for _, v := range p.Vars {
		if err := finite(v.Name, v.Prior, v.Min, v.Max, v.Drift); err != nil {
			return err
		}
		if v.Min < 0 || v.Max < v.Min {
			return fmt.Errorf("%s: bounds %g to %g are no range", v.Name, v.Min, v.Max)
		}
	}
	for _, g := range p.Goals {
		if err := finite(g.Name, append([]float64{g.Const, g.Lo, g.Hi, g.Scale, g.Weight}, g.Coef...)...); err != nil {
			return err
		}
		if len(g.Coef) != len(p.Vars) || g.Lo > g.Hi || g.Scale <= 0 {
			return fmt.Errorf(
				"%s: window %g to %g, scale %g, %d terms for %d amounts", g.Name, g.Lo, g.Hi, g.Scale, len(g.Coef),
				len(p.Vars),
			)
		}
	}
	for _, l := range p.Limits {
		if err := finite(l.Name, append([]float64{l.Const, l.Max}, l.Coef...)...); err != nil {
			return err
		}
		if len(l.Coef) != len(p.Vars) {
			return fmt.Errorf("%s: %d terms for %d amounts", l.Name, len(l.Coef), len(p.Vars))
		}
	}
	return nil
}

// table is a standard form: minimise c·y, A y = b, y ≥ 0, with a feasible basis. y are the
// ways up and down from where each amount begins, and what the rows need.
type table struct {
	begin []float64 // where each amount begins: its prior, within its bounds
	up    []int     // column of an amount's way up, -1 where there is none
	down  []int
	cols  int
	rows  []map[int]float64
	b     []float64
	c     []float64
	basis []int
}

func (t *table) col(cost float64) int {
	t.c = append(t.c, cost)
	t.cols++
	return t.cols - 1
}

func (t *table) row(b float64, basic int, terms map[int]float64) {
	t.rows = append(t.rows, terms)
	t.b = append(t.b, b)
	t.basis = append(t.basis, basic)
}

// way adds a column by which an amount strays from where it begins, by room at most.
func (t *table) way(room, cost float64) int {
	if room <= 0 {
		return -1
	}
	y, s := t.col(cost), t.col(0)
	t.row(room, s, map[int]float64{y: 1, s: 1})
	return y
}

// build sets up the standard form about the priors. Without goals it prices only the excess of
// the limits, each at 1 or at its price; with goals the limits may be exceeded by what is
// given, and by no more at any price of a goal.
func (p *Programme) build(excess []float64, goals bool, price ...float64) *table {
	t := &table{}
	dearest := 0.0 // of the goals and ways
	for j, v := range p.Vars {
		begin := math.Max(v.Min, math.Min(v.Max, v.Prior))
		cost := 0.0
		if goals {
			cost = v.Drift * (1 + 0.001*float64(j)) / math.Max(v.Prior, 1) // |x-p|/p breaks at p = 0
			dearest += cost
		}
		t.begin = append(t.begin, begin)
		t.up = append(t.up, t.way(v.Max-begin, cost))
		t.down = append(t.down, t.way(begin-v.Min, cost))
	}
	if goals {
		for _, g := range p.Goals {
			dearest += g.Weight * largest(g.Coef) / g.Scale
		}
	}
	for i, l := range p.Limits {
		scale := largest(l.Coef)
		room := l.Max - l.Const - floats.Dot(l.Coef, t.begin)
		cost := 1.0
		switch {
		case goals:
			room += excess[i] + 1e-9*scale
			cost = firm * math.Max(dearest, 1)
		case i < len(price):
			cost = price[i]
		}
		terms := t.terms(l.Coef, scale)
		slack := t.col(0)
		terms[slack] = 1
		basic := slack
		if !goals || room < 0 {
			e := t.col(cost)
			terms[e] = -1
			if room < 0 {
				basic = e
			}
		}
		t.row(room/scale, basic, terms)
	}
	if goals {
		for _, g := range p.Goals {
			t.goal(g)
		}
	}
	return t
}

// goal adds the rows of a goal: over and under its window is priced, within it is free.
func (t *table) goal(g Goal) {
	hi := (g.Hi - g.Const - floats.Dot(g.Coef, t.begin)) / g.Scale // from where it begins
	width := (g.Hi - g.Lo) / g.Scale
	over, under := t.col(g.Weight), t.col(g.Weight)
	terms := t.terms(g.Coef, g.Scale)
	terms[over], terms[under] = -1, 1
	basic := under
	if hi < 0 {
		basic = over
	}
	if width > 0 {
		free, slack := t.col(0), t.col(0)
		terms[free] = 1
		within := slack
		switch {
		case hi > width:
			within = free
		case hi >= 0:
			basic = free
		}
		t.row(width, within, map[int]float64{free: 1, slack: 1})
	}
	t.row(hi, basic, terms)
}

// terms are a row's, by the ways up and down.
func (t *table) terms(coef []float64, scale float64) map[int]float64 {
	terms := map[int]float64{}
	for j, a := range coef {
		if a == 0 {
			continue
		}
		if t.up[j] >= 0 {
			terms[t.up[j]] = a / scale
		}
		if t.down[j] >= 0 {
			terms[t.down[j]] = -a / scale
		}
	}
	return terms
}

// solve finds the amounts.
func (t *table) solve() ([]float64, error) {
	x := slices.Clone(t.begin)
	if len(t.rows) == 0 { // nothing moves, and nothing holds
		return x, nil
	}
	a := mat.NewDense(len(t.rows), t.cols, nil)
	for i, terms := range t.rows {
		for j, v := range terms {
			a.Set(i, j, v)
		}
	}
	y, err := simplex(t.c, a, t.b, t.basis)
	if err != nil {
		return nil, err
	}
	for j := range x {
		if n := t.up[j]; n >= 0 {
			x[j] += y[n]
		}
		if n := t.down[j]; n >= 0 {
			x[j] -= y[n]
		}
	}
	return x, nil
}

func (p *Programme) excessOf(x []float64) []float64 {
	out := make([]float64, len(p.Limits))
	for i, l := range p.Limits {
		out[i] = math.Max(0, l.Const+floats.Dot(l.Coef, x)-l.Max)
	}
	return out
}

// solution measures the outcome of amounts by a path that does not share the
// matrix.
func (p *Programme) solution(x []float64) (Solution, error) {
	s := Solution{X: x, Excess: p.excessOf(x)}
	for _, g := range p.Goals {
		v := g.Const + floats.Dot(g.Coef, x)
		o := Outcome{Value: v}
		slack := 1e-6 * g.Scale
		if v > g.Hi+slack {
			o.Miss = v - g.Hi
		} else if v < g.Lo-slack {
			o.Miss = v - g.Lo
		}
		s.Goals = append(s.Goals, o)
	}
	for i, l := range p.Limits {
		if s.Excess[i] > 1e-6*math.Max(1, math.Abs(l.Max)) && !l.Wish {
			return s, fmt.Errorf("%s: %w", l.Name, ErrLimit)
		}
	}
	return s, nil
}

// largest is the largest term's size, 1 where all are 0.
func largest(a []float64) float64 {
	if m := floats.Norm(a, math.Inf(1)); m > 0 {
		return m
	}
	return 1
}
