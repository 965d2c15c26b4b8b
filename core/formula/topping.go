package formula

import (
	"math"

	"kollaris/core/goal"
	"kollaris/core/larder"
	"kollaris/core/recipe"
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

// ToppingShare is an amount of a topping: of a line that comes in, or of one that moves.
type ToppingShare struct {
	Of         *Replaced     // that brings it, nil for a line that moves
	For        recipe.LineID // the line that it stands for, or that moves
	Ingredient *larder.Ingredient
	Grams      float64
	prior      float64
}

// toppingSearch is what a topping's amounts are found from.
type toppingSearch struct {
	shares map[larder.ID][]ToppingShare
	vars   map[larder.ID]*goal.Var
	want   []float64 // the written sums
	fixed  []float64 // what lines that stay bring to them
}

// Topping finds the amounts of one section that is not baked in the batter, sorted by
// ingredient. Where nothing can be worked out they are the usual ones.
func (f *Formula) Topping(section string) []ToppingShare {
	s := f.toppingSearch(section)
	ids := sorted(s.vars)
	p := goal.Programme{}
	for _, id := range ids {
		p.Vars = append(p.Vars, *s.vars[id])
	}
	for k, t := range toppingGoals {
		coef := make([]float64, len(ids))
		for n, id := range ids {
			coef[n] = t.of(f.Larder.Get(id)) / 100
		}
		scale := math.Max(s.want[k], t.floor)
		p.Goals = append(p.Goals, goal.Goal{
			Coef: coef, Const: s.fixed[k], Lo: s.want[k] - t.share*scale, Hi: s.want[k] + t.share*scale, Scale: scale, Weight: t.weight,
		})
	}
	sol, err := p.Solve()
	var out []ToppingShare
	for n, id := range ids {
		x := p.Vars[n].Prior
		if err == nil {
			x = sol.X[n]
		}
		for _, sh := range s.shares[id] {
			sh.Grams = x * sh.prior / math.Max(s.vars[id].Prior, 1e-9)
			out = append(out, sh)
		}
	}
	return out
}

// toppingSearch collects what comes in, what may move and what the sums were.
func (f *Formula) toppingSearch(section string) toppingSearch {
	s := toppingSearch{
		map[larder.ID][]ToppingShare{}, map[larder.ID]*goal.Var{},
		make([]float64, len(toppingGoals)), make([]float64, len(toppingGoals)),
	}
	for _, l := range f.Recipe.Lines {
		i := f.Larder.Get(l.Ingredient)
		if i == nil || l.Section != section || l.Grams <= 0 {
			continue
		}
		for k, t := range toppingGoals {
			s.want[k] += l.Grams / 100 * t.of(i)
		}
		if p := f.Of(l.ID); p != nil {
			for _, part := range p.School.Parts {
				s.add(part.As, ToppingShare{
					Of: p, For: l.ID, Ingredient: Part(part, l, f.Larder), prior: l.Grams / p.Use.Per * part.In("topping"),
				})
			}
			continue
		}
		if as := MovesAs(i); as == "liquid" || as == "sugar" || i.Family == larder.FamilyJuice {
			if as == "" {
				as = "liquid"
			}
			s.add(as, ToppingShare{For: l.ID, Ingredient: i, prior: l.Grams})
			continue
		}
		for k, t := range toppingGoals {
			s.fixed[k] += l.Grams / 100 * t.of(i)
		}
	}
	return s
}

// add lets a share move as far as its role allows.
func (s *toppingSearch) add(as string, sh ToppingShare) {
	id, m := sh.Ingredient.ID, moves[as]
	v := s.vars[id]
	if v == nil {
		v = &goal.Var{Name: string(id), Drift: m.drift}
		s.vars[id] = v
	}
	v.Prior, v.Min, v.Max = v.Prior+sh.prior, v.Min+m.min*sh.prior, v.Max+m.max*sh.prior
	v.Drift = math.Min(v.Drift, m.drift)
	s.shares[id] = append(s.shares[id], sh)
}
