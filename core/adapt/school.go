package adapt

import (
	"fmt"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// choose ranks the schools of each group and takes the best, or the one asked for.
func (r *run) choose() {
	already := map[string]bool{}
	for _, l := range r.written.Lines {
		if r.groupOf(l.ID) == nil {
			if i := r.Larder.Get(l.Ingredient); i != nil {
				for a, lv := range i.Allergens {
					already[a] = already[a] || lv == larder.Contains
				}
			}
		}
	}
	for _, g := range r.groups {
		kind := string(r.written.Kind)
		if g.topping {
			kind = "topping"
			if !slices.ContainsFunc(g.lines, func(l recipe.Line) bool { return recipe.IsTopping(l.Section) }) {
				kind = "glaze"
			}
		}
		if g.use.ID == "egg" && !g.topping && !r.hasGluten() {
			if bc := r.become(); bc.of(balance.GlutenFree) {
				r.result.Doubts = append(r.result.Doubts, "With neither gluten nor egg, what stands for them does all the holding: expect a closer, more tender crumb, in a small or narrow tin")
				r.result.Confidence = r.result.Confidence.Worse(swap.Workable)
			} else {
				r.result.Doubts = append(r.result.Doubts, "Eggs set this batter, since it has little or no gluten: without them expect it low and fragile, and try one cup first")
				r.result.Confidence = swap.Experiment
			}
		}
		if n := r.perLoaf(g); g.use.ID == "egg" && !g.topping && n > sureEggs && r.hasGluten() {
			r.result.Doubts = append(r.result.Doubts, fmt.Sprintf("That is many eggs for the flour (%s to a loaf's worth): past three, nothing does all their work, so expect a lower, closer crumb and try one cup first", measure.Digits(n, 2)))
			r.result.Confidence = swap.Experiment
		}
		g.use = g.use.With(r.req.Swaps[g.key], r.Larder)
		g.choices = g.use.Rank(swap.Case{Have: r.have(), Job: r.req.Jobs[g.key], Kind: kind, Count: r.perLoaf(g), Already: already, Gluten: r.hasGluten(), Egg: r.keepsEgg(), Diets: r.demand.Diets, Cut: r.cut(g), Breaks: g.shuts, Without: onlyID(g.lines)}, r.demand, r.Larder)
		if len(g.choices) == 0 || !g.choices[0].Shut.Open() {
			if optionalOnly(g.lines) {
				r.dropGroup(g)
				continue
			}
			r.result.Refused = r.refuse(g)
			return
		}
		g.chosen = g.choices[0]
		if want := r.req.Swaps[g.key]; want != "" {
			for _, c := range g.choices {
				if c.School.ID == want {
					if !c.Shut.Open() {
						r.result.Doubts = append(r.result.Doubts, fmt.Sprintf("%s is shut: %s. %s was taken instead.", phrase.Capital(c.School.Title), c.Shut.Words(), phrase.Capital(g.chosen.School.Title)))
						continue
					}
					g.chosen = c
				}
			}
			if g.use.School(want) == nil {
				r.result.Doubts = append(r.result.Doubts, fmt.Sprintf("“%s” is no way to replace %s, so %s was taken", want, g.use.Title, g.chosen.School.Title))
			}
		}
		for _, a := range g.chosen.New {
			already[a] = true
		}
	}
	kept := r.groups[:0]
	for _, g := range r.groups {
		if g.chosen.School != nil {
			kept = append(kept, g)
		}
	}
	r.groups = kept
}

// loaf is the flour of an ordinary loaf or cake, two US cups, to which "two or
// three eggs" refers. Source: practice.
const loaf = 240.0

// sureEggs is how many eggs to a loaf's worth of flour can be replaced with
// confidence; gels and purées carry two to three eggs' work. Source: practice.
const sureEggs = 3.2

// perLoaf counts what a group replaces per loaf's worth of base, so that a double
// batch is judged like a single one.
func (r *run) perLoaf(g *group) float64 {
	b, _ := r.balanceOf(r.written)
	if g.topping || b.Base <= 0 {
		return g.per()
	}
	return g.per() * loaf / b.Base
}

// hasGluten reports whether the batter has enough gluten to hold together by
// itself: 3 g to 100 g of base, a third of plain flour's. Flour that is replaced
// counts as what takes its place. Source: practice.
func (r *run) hasGluten() bool {
	b, _ := r.balanceOf(r.written)
	g := 0.0
	for _, l := range r.written.Batter() {
		i := r.Larder.Get(l.Ingredient)
		if i == nil {
			continue
		}
		of := r.groupOf(l.ID)
		if of == nil || of.chosen.School == nil {
			g += l.Grams / 100 * i.Facts[larder.Gluten]
			continue
		}
		for _, p := range of.chosen.School.Parts {
			if part := r.Larder.Get(p.ID); part != nil {
				g += l.Grams / of.use.Per * p.Grams / 100 * part.Facts[larder.Gluten]
			}
		}
	}
	return b.Base > 0 && b.Per(g) >= 3
}

// have tells what is in the house, where only that may come in: what a pack says is
// in stock, what the recipe holds anyway, and water. It is nil where all may come.
func (r *run) have() func(*larder.Ingredient) bool {
	if !r.req.Stock {
		return nil
	}
	return func(i *larder.Ingredient) bool {
		if i.ID == "water" || i.Pack != nil && i.Pack.Stock > 0 {
			return true
		}
		return slices.ContainsFunc(r.written.Lines, func(l recipe.Line) bool { return l.Ingredient == i.ID })
	}
}

// keepsEgg reports whether the batter holds an egg that stays, or may be given one.
func (r *run) keepsEgg() bool {
	egg := r.Larder.Get("egg")
	if v, _ := r.demand.Judge(egg); v == diet.Breaks {
		return false
	}
	asked := r.req.Swaps["egg"]
	return asked == "" || asked == "as-written"
}
