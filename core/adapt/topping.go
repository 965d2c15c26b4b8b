package adapt

import (
	"math"
	"slices"

	"kollaris/core/goal"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// An icing, a filling, a syrup or a soak has sums of its own: it should stay as
// thick, as rich and as sweet as it was. Source of the windows: practice.
var toppingGoals = []struct {
	of           func(*larder.Ingredient) float64
	share, floor float64 // half of the window, of the written sum; the least scale, g
	weight       float64
}{
	{func(i *larder.Ingredient) float64 { return i.Facts[larder.Water] }, 0.05, 5, 2},
	{func(i *larder.Ingredient) float64 { return i.Facts[larder.Fat] }, 0.08, 5, 1},
	{func(i *larder.Ingredient) float64 { return 100 * i.Facts[larder.Sweetness] }, 0.12, 10, 0.6},
}

// toppings works out what the groups bring to each section that is not baked in
// the batter. What is brushed on or dusted over comes weight for weight.
func (r *amounts) toppings() {
	var sections []string
	for _, g := range r.brings {
		if !g.topping {
			continue
		}
		for _, l := range g.lines {
			switch {
			case l.Grams <= 0:
			case !recipe.IsTopping(l.Section):
				for _, p := range g.chosen.School.Parts {
					g.to = append(g.to, r.newLine(l, r.part([]recipe.Line{l}, p), l.Grams/g.use.Per*p.In("glaze"), false))
				}
			case !slices.Contains(sections, l.Section):
				sections = append(sections, l.Section)
			}
		}
	}
	for _, s := range sections {
		r.solveTopping(s)
	}
}

// toppingPart is what a school brings to a topping, or a line of it that may move.
type toppingPart struct {
	g     *brought
	line  recipe.Line  // that it stands for
	own   *recipe.Line // or a line that may move
	prior float64
}

// solveTopping finds the amounts of one section.
func (r *amounts) solveTopping(section string) {
	parts := map[larder.ID][]toppingPart{}
	vars := map[larder.ID]*goal.Var{}
	add := func(id larder.ID, as string, p toppingPart) {
		m := moves[as]
		v := vars[id]
		if v == nil {
			v = &goal.Var{Name: string(id), Drift: m.drift}
			vars[id] = v
		}
		v.Prior, v.Min, v.Max, v.Drift = v.Prior+p.prior, v.Min+m.min*p.prior, v.Max+m.max*p.prior, math.Min(v.Drift, m.drift)
		parts[id] = append(parts[id], p)
	}
	want := make([]float64, len(toppingGoals))
	fixed := make([]float64, len(toppingGoals))
	for n := range r.written.Lines {
		l := &r.written.Lines[n]
		i := r.Larder.Get(l.Ingredient)
		if i == nil || l.Section != section || l.Grams <= 0 {
			continue
		}
		for k, t := range toppingGoals {
			want[k] += l.Grams / 100 * t.of(i)
		}
		if g := r.broughtOf(l.ID); g != nil {
			for _, p := range g.chosen.School.Parts {
				ing := r.part([]recipe.Line{*l}, p)
				add(ing.ID, p.As, toppingPart{g: g, line: *l, prior: l.Grams / g.use.Per * p.In("topping")})
			}
			continue
		}
		if as := movesAs(i); as == "liquid" || as == "sugar" || i.Family == larder.FamilyJuice {
			if as == "" {
				as = "liquid"
			}
			add(i.ID, as, toppingPart{own: l, prior: l.Grams})
			continue
		}
		for k, t := range toppingGoals {
			fixed[k] += l.Grams / 100 * t.of(i)
		}
	}
	ids := sortedKeys(vars)
	p := goal.Programme{}
	for _, id := range ids {
		p.Vars = append(p.Vars, *vars[id])
	}
	for k, t := range toppingGoals {
		coef := make([]float64, len(ids))
		for n, id := range ids {
			coef[n] = t.of(r.Larder.Get(id)) / 100
		}
		scale := math.Max(want[k], t.floor)
		p.Goals = append(p.Goals, goal.Goal{Coef: coef, Const: fixed[k], Lo: want[k] - t.share*scale, Hi: want[k] + t.share*scale, Scale: scale, Weight: t.weight})
	}
	sol, err := p.Solve()
	for n, id := range ids {
		x := p.Vars[n].Prior // as usual, where nothing can be worked out
		if err == nil {
			x = sol.X[n]
		}
		for _, pt := range parts[id] {
			r.settle(section, pt, r.Larder.Get(id), x*pt.prior/math.Max(vars[id].Prior, 1e-9))
		}
	}
}

// settle gives a part of a topping its grams: a line that comes in, or one that moves
// where that is worth saying.
func (r *amounts) settle(section string, pt toppingPart, ing *larder.Ingredient, grams float64) {
	if pt.own == nil {
		pt.g.to = append(pt.g.to, r.newLine(pt.line, ing, grams, false))
		return
	}
	to := r.round(ing, grams)
	if math.Abs(to-pt.own.Grams) < 0.05*pt.own.Grams+1 {
		return
	}
	from := r.amount(*pt.own)
	r.setGrams(pt.own, to, false)
	r.moved = append(r.moved, Change{Kind: Moved, Title: pt.own.Name, From: []Amount{from}, To: []Amount{r.amount(*pt.own)}, Reason: "Keeps the " + section + " as thick and as sweet as it was.", Confidence: swap.WellTried})
}
