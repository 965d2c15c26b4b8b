package adapt

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/goal"
	"kollaris/core/larder"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// solve finds the amounts of the new lines and of the lines that may move.
func solve(from chosen) (amounts, error) {
	r := amounts{chosen: from}
	if r.refused != nil {
		return r, nil
	}
	r.written = r.written.Clone()
	for _, p := range r.picks {
		r.brings = append(r.brings, &brought{pick: p})
	}
	r.toppings()
	r.heldLines()
	batter := slices.ContainsFunc(r.picks, func(p *pick) bool { return !p.topping })
	if !batter && len(r.req.Holds) == 0 && len(r.exceeded) == 0 {
		return r, nil
	}
	b, _ := r.balanceOf(r.written)
	ts := targets(b, r.written.Kind, r.extraLift(), r.base, r.pickFor("sugar") != nil)
	r.fillSlots(b)
	if len(r.slots) == 0 {
		return r, nil
	}
	p := r.programme(b, ts)
	err := r.find(p)
	if errors.Is(err, goal.ErrLimit) { // what no line may move brings it: said, not hidden
		for n := range p.Limits {
			if !p.Limits[n].Wish {
				p.Limits[n].Wish = true
				r.doubts = append(r.doubts, phrase.Capital(p.Limits[n].Name)+" pass what a serving should hold: cut smaller servings")
			}
		}
		err = r.find(p)
	}
	if err != nil {
		return r, err
	}
	if err := r.spoonSoda(p); err != nil {
		return r, err
	}
	r.why = r.whyAmounts(ts)
	return r, nil
}

// extraLift is the gas that the chosen schools need beyond the air that was lost, mmol.
func (r *chosen) extraLift() float64 {
	extra := 0.0
	for _, g := range r.picks {
		if !g.topping {
			extra += g.per() * g.chosen.Lift
		}
	}
	return extra
}

// spoonSoda rounds soda that fell down to what is spooned; what that takes from the lift
// goes to the powder.
func (r *amounts) spoonSoda(p goal.Programme) error {
	for n, s := range r.slots {
		if s.ing.ID == "baking-soda" && !s.held && s.x < s.prior-0.05 {
			s.x, _ = r.roundDown(s.ing, s.x)
			p.Vars[n].Min, p.Vars[n].Max, p.Vars[n].Prior = s.x, s.x, s.x
			s.held = true
			return r.find(p)
		}
	}
	return nil
}

// whyAmounts says how the amounts were come by.
func (r *amounts) whyAmounts(ts []target) map[larder.ID]AmountWhy {
	why := map[larder.ID]AmountWhy{}
	_, items := r.balanceOf(r.written)
	for _, s := range r.slots {
		w := AmountWhy{Begins: s.prior, Least: s.min, Most: s.max, Solved: s.x, Held: s.held}
		for _, t := range ts {
			if v := s.x / 100 * t.of(s.ing); math.Abs(v) >= 0.02*t.scale && t.id != "mass" {
				w.Brings = append(w.Brings, GoalTerm{t.name, t.unit, v, t.sumOf(items)})
			}
		}
		why[s.ing.ID] = w
	}
	return why
}

// find solves the programme into the slots.
func (r *amounts) find(p goal.Programme) error {
	sol, err := p.Solve()
	if err != nil {
		return fmt.Errorf("amounts of %s: %w", r.written.Title, err)
	}
	for n := range r.slots {
		r.slots[n].x = sol.X[n]
	}
	return nil
}

// baseGrams is what counts as flour once the schools are chosen.
func (r *chosen) baseGrams(b balance.Balance) float64 {
	if r.base != nil {
		return r.base.grams
	}
	return b.Base
}

// programme builds the goal programme over the slots.
func (r *amounts) programme(b balance.Balance, ts []target) goal.Programme {
	moving := map[recipe.LineID]bool{}
	for _, s := range r.slots {
		for _, sh := range s.shares {
			if sh.line != nil {
				moving[sh.line.ID] = true
			}
		}
	}
	var fixed []balance.Item
	for _, l := range r.written.Batter() {
		ing := r.Larder.Get(l.Ingredient)
		if ing != nil && l.Grams > 0 && !moving[l.ID] && r.pickOf(l.ID) == nil {
			fixed = append(fixed, balance.Item{Ingredient: ing, Grams: l.Grams})
		}
	}
	p := goal.Programme{}
	for _, s := range r.slots {
		p.Vars = append(p.Vars, goal.Var{Name: string(s.ing.ID), Prior: s.prior, Min: s.min, Max: s.max, Drift: s.drift})
	}
	coef := func(of func(*larder.Ingredient) float64) []float64 {
		out := make([]float64, len(r.slots))
		for n, s := range r.slots {
			out[n] = of(s.ing) / 100
		}
		return out
	}
	for _, t := range ts {
		p.Goals = append(p.Goals, goal.Goal{Name: t.id, Coef: coef(t.of), Const: t.sumOf(fixed), Lo: t.lo, Hi: t.hi, Scale: t.scale, Weight: t.weight})
	}
	r.servingLimits(func(name string, of func(*larder.Ingredient) float64, max float64, wish bool) {
		t := target{of: of}
		p.Limits = append(p.Limits, goal.Limit{Name: name, Coef: coef(of), Const: t.sumOf(fixed) + t.sumOf(r.aside()), Max: max, Wish: wish})
	})
	soda := target{of: func(i *larder.Ingredient) float64 { return i.Facts[larder.Soda] - i.Facts[larder.Acid] }}
	if b.Soda > 0 || by(r.slots, "baking-soda") {
		most := math.Max(b.Surplus(), tasteLimit(r.written.Kind)/100*r.baseGrams(b)*meqPerGramSoda)
		p.Limits = append(p.Limits, goal.Limit{Name: "soda without acid", Coef: coef(soda.of), Const: soda.sumOf(fixed), Max: most, Wish: r.holdsLift()})
	}
	return p
}

func by(slots []*slot, id larder.ID) bool {
	for _, s := range slots {
		if s.ing.ID == id {
			return true
		}
	}
	return false
}

// holdsLift reports whether the person holds an amount that may break the soda
// limit by itself; then it is reported instead of refused.
func (r asked) holdsLift() bool { return len(r.req.Holds) > 0 }

// heldLines sets the lines of a held ingredient that no group brings.
func (r *amounts) heldLines() {
	for _, id := range sortedKeys(r.req.Holds) {
		sum := 0.0
		for _, l := range r.written.Lines {
			if l.Ingredient == id && r.pickOf(l.ID) == nil && !l.Topping() {
				sum += l.Grams
			}
		}
		if sum <= 0 {
			continue
		}
		if movesAs(r.Larder.Get(id)) != "" {
			continue // its slot is held
		}
		for n := range r.written.Lines {
			l := &r.written.Lines[n]
			if l.Ingredient == id && r.pickOf(l.ID) == nil && !l.Topping() {
				r.setGrams(l, l.Grams*r.req.Holds[id]/sum, true)
			}
		}
	}
}
