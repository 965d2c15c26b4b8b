package adapt

import (
	"math"
	"slices"

	"kollaris/core/formula"
	"kollaris/core/swap"
)

// solve finds the amounts of the new lines and of the lines that may move.
func solve(from chosen) (amounts, error) {
	r := amounts{chosen: from}
	f := r.formula()
	r.lift = f.Lift()
	if r.refused != nil {
		return r, nil
	}
	f.Becoming = f.Become()
	r.becoming = f.Becoming
	r.written = r.written.Clone()
	f.Recipe = r.written
	for _, p := range r.picks {
		r.brings = append(r.brings, &brought{pick: p})
	}
	r.toppings(f)
	r.heldLines()
	batter := slices.ContainsFunc(r.picks, func(p *pick) bool { return !p.Topping })
	if !batter && len(r.holds) == 0 && len(r.exceeded) == 0 {
		return r, nil
	}
	f.Aside = r.aside()
	got, err := f.Solve()
	if err != nil {
		return r, err
	}
	r.slots, r.why = got.Slots, got.Why
	r.doubts = append(r.doubts, got.Doubts...)
	return r, nil
}

// toppings works out what the groups bring to each section that is not baked in
// the batter. What is brushed on or dusted over comes weight for weight.
func (r *amounts) toppings(f *formula.Formula) {
	var sections []string
	for _, g := range r.brings {
		if !g.Topping {
			continue
		}
		for _, l := range g.Lines {
			switch {
			case l.Grams <= 0:
			case !l.Role.Aside():
				for _, p := range g.School.Parts {
					g.to = append(
						g.to, r.newLine(l, formula.Part(p, l, r.Larder), l.Grams/g.Use.Per*p.In("glaze"), false),
					)
				}
			case !slices.Contains(sections, l.Section):
				sections = append(sections, l.Section)
			}
		}
	}
	for _, s := range sections {
		for _, sh := range f.Topping(s) {
			r.settle(s, sh)
		}
	}
}

// settle gives a part of a topping its grams: a line that comes in, or one that moves
// where that is worth saying.
func (r *amounts) settle(section string, sh formula.ToppingShare) {
	own := r.written.Line(sh.For)
	if sh.Of != nil {
		g := r.broughtBy(sh.Of)
		g.to = append(g.to, r.newLine(*own, sh.Ingredient, r.sweetened(sh, own), false))
		return
	}
	to := r.round(sh.Ingredient, sh.Grams)
	if math.Abs(to-own.Grams) < 0.05*own.Grams+1 {
		return
	}
	from := r.amount(*own)
	r.setGrams(own, to, false)
	r.moved = append(r.moved, Change{
		Kind: Moved, Title: own.Name, From: []Amount{from}, To: []Amount{r.amount(*own)},
		Reason: "Keeps the " + section + " as thick and as sweet as it was.", Confidence: swap.WellTried,
	})
}

// heldLines sets the lines of a held ingredient that no group brings.
func (r *amounts) heldLines() {
	for _, id := range sortedKeys(r.holds) {
		sum := 0.0
		for _, l := range r.written.Lines {
			if l.Ingredient == id && r.pickOf(l.ID) == nil && !l.Topping() {
				sum += l.Grams
			}
		}
		if sum <= 0 {
			continue
		}
		if formula.MovesAs(r.Larder.Get(id)) != "" {
			continue // its slot is held
		}
		for n := range r.written.Lines {
			l := &r.written.Lines[n]
			if l.Ingredient == id && r.pickOf(l.ID) == nil && !l.Topping() && math.Abs(r.holds[id]-sum) > 0.005 {
				r.setGrams(l, l.Grams*r.holds[id]/sum, true)
			}
		}
	}
}
