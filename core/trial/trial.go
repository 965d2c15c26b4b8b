// Package trial plans trial cups: a few small bakes from one bowl that differ in one or two amounts, so that the
// best is found without a whole bake of each.
package trial

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/tasting"
)

// Vary is an ingredient of the batter and the amounts of it that are tried, g in the whole recipe.
type Vary struct {
	Food  larder.ID
	Tried []float64
}

// Cup is one of the cups.
type Cup struct {
	Code string    // three digits that mean nothing
	Of   []float64 // g in the whole recipe, of each that varies
	Adds []float64 // g into this cup, of each that varies
}

// Amount is what goes into the bowl that all cups share.
type Amount struct {
	Food  larder.ID
	Name  string
	Grams float64
}

// Plan is a trial.
type Plan struct {
	Varies []*larder.Ingredient
	Bowl   []Amount // mixed once
	Share  float64  // of the bowl into each cup, g
	Cups   []Cup    // in the order in which they are laid out
	Res    *adapt.Result
	Faint  string // where the cups differ by less than a kitchen can weigh, what would do
}

// What a cup holds and what a scale of a kitchen tells apart, g. Sources: practice: a muffin cup two thirds full; scales
// for spoons show tenths.
const (
	cupGrams  = 70.0
	scaleStep = 0.1
	leastCups = 2
)

// Errors say what cannot be tried, and what would do.
var (
	ErrFood  = errors.New("that is none of its batter: take one of those listed")
	ErrTried = fmt.Errorf("amounts: two to %d different ones, in g of the whole recipe, for instance 10 14 18", tasting.MostCups)
	ErrMany  = fmt.Errorf("that makes more than %d cups: try fewer amounts", tasting.MostCups)
	ErrBatch = errors.New("it is not known how much batter it makes")
)

// Cups plans a trial of an adapted recipe: every amount of the first with every one of the second. The codes and the
// order are drawn by a seed. Kit is what it was adapted with.
func Cups(res *adapt.Result, varies []Vary, seed uint64, kit adapt.Kit) (*Plan, error) {
	if len(varies) == 0 || len(varies) > 2 {
		return nil, ErrFood
	}
	p := &Plan{}
	batter := res.Recipe.Batter()
	mass := 0.0
	for _, l := range batter {
		mass += l.Grams
	}
	if mass <= 0 || res.Refused != nil {
		return nil, ErrBatch
	}
	cups := [][]float64{nil}
	for n, v := range varies {
		i := kit.Larder.Get(v.Food)
		if i == nil || !slices.ContainsFunc(batter, func(l recipe.Line) bool { return l.Ingredient == v.Food && l.Grams > 0 }) || n > 0 && v.Food == varies[0].Food {
			return nil, ErrFood
		}
		tried := slices.Compact(slices.Sorted(slices.Values(v.Tried)))
		if len(tried) < leastCups || len(tried) > tasting.MostCups || tried[0] < 0 || tried[len(tried)-1] > mass {
			return nil, ErrTried
		}
		p.Varies = append(p.Varies, i)
		var next [][]float64
		for _, c := range cups {
			for _, g := range tried {
				next = append(next, append(slices.Clone(c), g))
			}
		}
		cups = next
	}
	if len(cups) > tasting.MostCups {
		return nil, ErrMany
	}
	p.bowl(batter, varies, mass, len(cups))
	rng := rand.New(rand.NewPCG(seed, 0x63757073))
	codes := rng.Perm(900)
	for k, n := range rng.Perm(len(cups)) {
		c := Cup{Code: fmt.Sprint(100 + codes[k]), Of: cups[n]}
		for _, g := range c.Of {
			c.Adds = append(c.Adds, g*cupGrams/mass)
		}
		p.Cups = append(p.Cups, c)
	}
	p.faint(varies, mass)
	return p, p.bake(res, float64(len(cups))*cupGrams/mass, kit)
}

// bowl is what all cups share: everything but what varies.
func (p *Plan) bowl(batter []recipe.Line, varies []Vary, mass float64, cups int) {
	k := float64(cups) * cupGrams / mass
	for _, l := range batter {
		if l.Grams <= 0 || slices.ContainsFunc(varies, func(v Vary) bool { return v.Food == l.Ingredient }) {
			continue
		}
		at := slices.IndexFunc(p.Bowl, func(a Amount) bool { return a.Food == l.Ingredient })
		if at < 0 {
			p.Bowl = append(p.Bowl, Amount{Food: l.Ingredient, Name: l.Name})
			at = len(p.Bowl) - 1
		}
		p.Bowl[at].Grams += k * l.Grams
		p.Share += k * l.Grams / float64(cups)
	}
}

// faint says where a scale does not tell the cups apart.
func (p *Plan) faint(varies []Vary, mass float64) {
	for n, v := range varies {
		tried := slices.Sorted(slices.Values(v.Tried))
		step := math.Inf(1)
		for k := 1; k < len(tried); k++ {
			if d := tried[k] - tried[k-1]; d > 0 {
				step = math.Min(step, d)
			}
		}
		if step*cupGrams/mass < 2*scaleStep {
			p.Faint = fmt.Sprintf("The cups differ by less than %.1f g of %s: a scale that shows tenths hardly tells that. Try amounts further apart.", 2*scaleStep, p.Varies[n].Name)
		}
	}
}

// bake adapts the recipe anew at the size of the trial, in small cups, so that its time is foretold.
func (p *Plan) bake(res *adapt.Result, scale float64, kit adapt.Kit) (err error) {
	req := res.Request
	req.Scale, req.Servings, req.Holds = scale, len(p.Cups), nil
	req.Tin = fmt.Sprintf("%d muffin cups", len(p.Cups))
	written := res.Recipe.Clone()
	req.Diets, req.Bans, req.Limits, req.Theirs, req.Swaps, req.Keeps, req.Drops = nil, nil, nil, diet.Demand{}, nil, nil, nil // it is adapted already
	p.Res, err = adapt.Predicted(written, req, kit)
	return err
}
