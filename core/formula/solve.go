package formula

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/goal"
	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// Amounts is what a formula comes to.
type Amounts struct {
	Slots  []*Slot // sorted by ingredient
	Why    map[larder.ID]Why
	Doubts []string // what nothing that may move brings within its limit, in words
}

// Why says how one amount was come by: where it began, how far it might go,
// what it came to before rounding, and what it brings to each sum.
type Why struct {
	Begins float64 `json:"begins"`
	Least  float64 `json:"least"`
	Most   float64 `json:"most"`
	Solved float64 `json:"solved"`
	Held   bool    `json:"held,omitempty"`
	Brings []Term  `json:"brings"`
}

// Term is what an amount brings to one sum.
type Term struct {
	Name  string  `json:"name"`
	Unit  string  `json:"unit"`
	Value float64 `json:"value"`
	Of    float64 `json:"of"` // the whole sum
}

// search is a programme over slots.
type search struct {
	goal.Programme
	slots []*Slot
}

// Solve finds the amounts of the new lines and of the lines that may move. A limit
// that no line may move brings is loosened and said in Doubts; an error means that the
// computation itself broke.
func (f *Formula) Solve() (Amounts, error) {
	b, items := f.balance()
	ts := f.Targets()
	s := search{slots: f.slots(b)}
	if len(s.slots) == 0 {
		return Amounts{}, nil
	}
	f.holdFats(ts, s.slots)
	s.Programme = f.programme(b, ts, s.slots)
	var doubts []string
	err := s.find()
	if errors.Is(err, goal.ErrLimit) { // what no line may move brings it: said, not hidden
		for n := range s.Limits {
			if !s.Limits[n].Wish {
				s.Limits[n].Wish = true
				doubts = append(
					doubts, phrase.Capital(s.Limits[n].Name)+" pass what a serving should hold: cut smaller servings",
				)
			}
		}
		err = s.find()
	}
	if err == nil {
		err = f.spoonSoda(&s)
	}
	if err != nil {
		return Amounts{}, fmt.Errorf("amounts of %s: %w", f.Recipe.Title, err)
	}
	for _, slot := range s.slots {
		slot.settle()
	}
	return Amounts{s.slots, why(s.slots, ts, items), doubts}, nil
}

// holdFats lets a written fat rise only for the fat that is missing, and fall only for what
// is too much: it is no carrier of water.
func (f *Formula) holdFats(ts []Target, slots []*Slot) {
	n := slices.IndexFunc(ts, func(t Target) bool { return t.ID == "fat" })
	if n < 0 {
		return
	}
	fat := ts[n]
	have := fat.Sum(f.fixed(slots))
	for _, s := range slots {
		have += s.Prior / 100 * fat.Of(s.Ingredient)
	}
	missing, tooMuch := fat.Lo-have, have-fat.Hi
	for _, s := range slots {
		of := fat.Of(s.Ingredient) / 100
		if s.Held || of < 0.3 || !s.stands("fat") || slices.ContainsFunc(s.Shares, func(sh Share) bool { return sh.Line == 0 }) {
			continue
		}
		s.Min = math.Max(s.Min, s.Prior-math.Max(0, tooMuch)/of)
		s.Max = math.Max(s.Min, math.Min(s.Max, s.Prior+math.Max(0, missing)/of))
	}
}

// find solves the programme into the slots.
func (s *search) find() error {
	sol, err := s.Programme.Solve()
	if err != nil {
		return err
	}
	for n := range s.slots {
		s.slots[n].Grams = sol.X[n]
	}
	return nil
}

// spoonSoda rounds soda that fell down to what is spooned; what that takes from the lift
// goes to the powder.
func (f *Formula) spoonSoda(s *search) error {
	for n, slot := range s.slots {
		if slot.Ingredient.ID == "baking-soda" && !slot.Held && slot.Grams < slot.Prior-0.05 {
			g := RoundDown(f.Kitchen, slot.Ingredient, slot.Grams)
			slot.Grams, slot.Held = g, true
			s.Vars[n].Min, s.Vars[n].Max, s.Vars[n].Prior = g, g, g
			return s.find()
		}
	}
	return nil
}

// why says how the amounts were come by; items are the batter before.
func why(slots []*Slot, ts []Target, items []balance.Item) map[larder.ID]Why {
	out := map[larder.ID]Why{}
	for _, s := range slots {
		w := Why{Begins: s.Prior, Least: s.Min, Most: s.Max, Solved: s.Grams, Held: s.Held}
		for _, t := range ts {
			if v := s.Grams / 100 * t.Of(s.Ingredient); math.Abs(v) >= 0.02*t.Scale && t.ID != "mass" {
				w.Brings = append(w.Brings, Term{t.Name, t.Unit, v, t.Sum(items)})
			}
		}
		out[s.Ingredient.ID] = w
	}
	return out
}

// programme builds the goal programme over the slots.
func (f *Formula) programme(b balance.Balance, ts []Target, slots []*Slot) goal.Programme {
	fixed := f.fixed(slots)
	p := goal.Programme{}
	for _, s := range slots {
		p.Vars = append(
			p.Vars, goal.Var{Name: string(s.Ingredient.ID), Prior: s.Prior, Min: s.Min, Max: s.Max, Drift: s.drift},
		)
	}
	coef := func(of func(*larder.Ingredient) float64) []float64 {
		out := make([]float64, len(slots))
		for n, s := range slots {
			out[n] = of(s.Ingredient) / 100
		}
		return out
	}
	for _, t := range ts {
		p.Goals = append(p.Goals, goal.Goal{
			Name: t.ID, Coef: coef(t.Of), Const: t.own(fixed), Lo: t.Lo, Hi: t.Hi, Scale: t.Scale, Weight: t.Weight,
		})
	}
	for _, l := range f.servingLimits() {
		t := Target{Of: l.of}
		p.Limits = append(p.Limits, goal.Limit{
			Name: l.name, Coef: coef(l.of), Const: t.Sum(fixed) + t.Sum(f.Aside), Max: l.max, Wish: l.wish,
		})
	}
	f.mixed(&p, slots, fixed)
	if b.Soda > 0 || slices.ContainsFunc(slots, func(s *Slot) bool { return s.Ingredient.ID == "baking-soda" }) {
		soda := Target{Of: sodaLeft}
		p.Limits = append(p.Limits, goal.Limit{
			Name: "soda without acid", Coef: coef(soda.Of), Const: soda.Sum(fixed),
			Max: math.Max(b.Surplus(), b.SodaTasted(f.Recipe.Kind.Like())/100*f.base(b)*meqPerGramSoda),
			// an amount that is held may break it by itself; then it is reported instead of refused
			Wish: len(f.Holds) > 0,
		})
		f.meet(&p, slots, fixed)
	}
	return p
}

// What erythritol may be of a mix of sweeteners, and of the water that keeps it dissolved, or
// it turns gritty as the bake cools. Source: practice, the cautious figures.
const (
	mostOfMix   = 0.5
	mostOfWater = 1. / 3
)

// mixed keeps erythritol to its share of the mix and of the water, where there is something
// to mix it with.
func (f *Formula) mixed(p *goal.Programme, slots []*Slot, fixed []balance.Item) {
	bodies, erythritol := 0, false
	for _, s := range slots {
		if s.stands("sugar") || s.stands("body") {
			bodies++
		}
		erythritol = erythritol || s.Ingredient.Facts[larder.Erythritol] > 20
	}
	if bodies < 2 || !erythritol {
		return
	}
	mix := func(i *larder.Ingredient) float64 {
		x := i.Facts[larder.Erythritol]
		switch {
		case i.Family == larder.FamilySugar: // it keeps twice its weight from turning gritty
			x -= 100
		case i.Shelf.Sweetens || i.Shelf.Fills:
			x -= 100 * mostOfMix
		}
		return x
	}
	water := func(i *larder.Ingredient) float64 {
		return i.Facts[larder.Erythritol] - mostOfWater*i.Facts[larder.Water]
	}
	rules := []func(*larder.Ingredient) float64{mix, water}
	if f.Recipe.Kind.Like() == recipe.Biscuit {
		rules = rules[:1] // dry, and meant to be crisp
	}
	for n, of := range rules {
		name := []string{"erythritol in the mix", "erythritol in the water"}[n]
		coef := make([]float64, len(slots))
		for n, s := range slots {
			coef[n] = of(s.Ingredient) / 100
		}
		p.Limits = append(p.Limits, goal.Limit{Name: name, Coef: coef, Const: Target{Of: of}.own(fixed), Wish: true})
	}
}

// meet lets soda give the other half of its gas where acid meets it: a variable of its own,
// at most the soda there is and at most the acid. Source: calculated, see balance.Gas.
func (f *Formula) meet(p *goal.Programme, slots []*Slot, fixed []balance.Item) {
	met := goal.Var{Name: "soda that acid meets", Drift: 1e-4}
	var soda, acid []float64
	for _, s := range slots {
		soda = append(soda, -s.Ingredient.Facts[larder.Soda]/100)
		acid = append(acid, -math.Max(0, s.Ingredient.Facts[larder.Acid])/100)
		met.Max += s.Max * s.Ingredient.Facts[larder.Soda] / 100
	}
	sum := balance.Add(fixed)
	met.Max += sum.Soda
	p.Vars = append(p.Vars, met)
	for n := range p.Goals {
		of := 0.0
		if p.Goals[n].Name == "lift" {
			of = 0.5
		}
		p.Goals[n].Coef = append(p.Goals[n].Coef, of)
	}
	for n := range p.Limits {
		p.Limits[n].Coef = append(p.Limits[n].Coef, 0)
	}
	p.Limits = append(p.Limits,
		goal.Limit{Name: "met soda", Coef: append(soda, 1), Const: -sum.Soda},
		goal.Limit{Name: "met acid", Coef: append(acid, 1), Const: -math.Max(0, sum.Acid)},
	)
}

// fixed are the lines of the batter that stay and do not move.
func (f *Formula) fixed(slots []*Slot) []balance.Item {
	moves := map[recipe.LineID]bool{}
	for _, s := range slots {
		for _, sh := range s.Shares {
			moves[sh.Line] = true
		}
	}
	var out []balance.Item
	for _, l := range f.Recipe.Batter() {
		i := f.Larder.Get(l.Ingredient)
		if i != nil && l.Grams > 0 && !moves[l.ID] && f.Of(l.ID) == nil {
			out = append(out, balance.Item{Ingredient: i, Grams: l.Grams})
		}
	}
	return out
}

// MostPolyols is the most sugar alcohol of a serving, g; above it many guts
// complain. Source: practice, the upper end of 10 to 15 g.
const MostPolyols = 15.0

// aimBelow is where a wish is aimed at, of the limit, so that what a kitchen weighs and
// tables know, right to about a tenth, does not pass it. Source: practice.
const aimBelow = 0.9

// servingLimit is a row of the programme that holds what all servings may hold.
type servingLimit struct {
	name string
	of   func(*larder.Ingredient) float64
	max  float64
	wish bool
}

// servingLimits are the safety caps of polyols, and of allulose with them, then the wishes in the order they were
// asked for.
func (f *Formula) servingLimits() []servingLimit {
	servings := float64(max(1, f.Recipe.Servings))
	polyols := func(i *larder.Ingredient) float64 { return i.Facts.Polyols() }
	load := func(i *larder.Ingredient) float64 { return i.Facts.Polyols() + i.Facts[larder.Allulose] }
	out := []servingLimit{
		{"polyols", polyols, MostPolyols * servings, false}, {"allulose and sugar alcohols", load, f.Demand.LoadMax() * servings, false},
	}
	for _, l := range f.Demand.Limited() {
		if l.What == diet.Load {
			continue // a cap, not a wish
		}
		of := func(i *larder.Ingredient) float64 { return l.What.Of(nutrition.Of(i)) }
		out = append(out, servingLimit{string(l.What), of, aimBelow * l.Max * servings, true})
	}
	return out
}
