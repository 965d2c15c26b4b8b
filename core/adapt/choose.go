package adapt

import (
	"fmt"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// choose ranks the schools of each group and takes the best, or the one asked for.
func choose(from screened) chosen {
	r := chosen{screened: from, confidence: swap.WellTried}
	if r.refused != nil {
		return r
	}
	r.written = r.written.Clone()
	for _, g := range r.groups {
		for _, l := range g.Lines {
			if slices.Contains(r.req.Keeps, l.Ingredient) {
				r.doubts = append(r.doubts, fmt.Sprintf("The %s cannot be kept: %s.", l.Name, g.breaks.words()))
			}
		}
	}
	already := r.alreadyHolds()
	for _, g := range r.groups {
		p := r.weigh(g, already)
		if len(p.choices) == 0 || !p.choices[0].Shut.Open() {
			if optionalOnly(g.Lines) {
				r.dropGroup(g)
				continue
			}
			r.refused = r.refusePick(p)
			return r
		}
		r.take(p)
		for _, a := range p.chosen.New {
			already[a] = true
		}
	}
	return r
}

// alreadyHolds are the allergens of the lines that stay.
func (r *chosen) alreadyHolds() map[string]bool {
	goes := map[recipe.LineID]bool{}
	for _, g := range r.groups {
		for _, l := range g.Lines {
			goes[l.ID] = true
		}
	}
	already := map[string]bool{}
	for _, l := range r.written.Lines {
		if i := r.Larder.Get(l.Ingredient); i != nil && !goes[l.ID] {
			for a, lv := range i.Allergens {
				already[a] = already[a] || lv == larder.Contains
			}
		}
	}
	return already
}

// weigh ranks the schools of a group, and says what an egg that goes costs this batter.
func (r *chosen) weigh(g *group, already map[string]bool) *pick {
	gluten := r.hasGluten()
	if g.Use.ID == "egg" && !g.Topping {
		switch n := r.perLoaf(g); {
		case r.written.Kind == recipe.RichBread && n > richEggs:
			r.doubts = append(r.doubts, "Eggs are much of this dough: without them it is another bread, less soft, less golden and sooner stale")
			r.confidence = r.confidence.Worse(map[bool]swap.Confidence{true: swap.Experiment, false: swap.Workable}[n > 2*richEggs])
		case gluten && n > sureEggs, r.flourBecomes() == balance.GlutenFree && n > 4*sureEggs/3:
			r.doubts = append(
				r.doubts,
				fmt.Sprintf(
					"That is many eggs for the flour (%s to a loaf's worth): past three, nothing does all their work, so expect a lower, closer crumb and try one cup first",
					measure.Digits(n, 2),
				),
			)
			r.confidence = swap.Experiment
		case gluten:
		case r.flourBecomes() == balance.GlutenFree:
			r.doubts = append(
				r.doubts,
				"With neither gluten nor egg, what stands for them does all the holding: expect a closer, more tender crumb, in a small or narrow tin",
			)
			r.confidence = r.confidence.Worse(swap.Workable)
		default:
			r.doubts = append(
				r.doubts,
				"Eggs set this batter, since it has little or no gluten: without them expect it low and fragile, and try one cup first",
			)
			r.confidence = swap.Experiment
		}
	}
	p := &pick{group: *g}
	p.Use = g.Use.With(r.wants(g.key), r.Larder).WithOwn(r.Larder)
	p.choices = p.Use.Rank(
		swap.Case{
			Have: inHouse(r.req, r.written), Job: r.req.Jobs[g.key], Kind: swapKind(r.written.Kind, g.Lines),
			Count: r.perLoaf(g), Already: already, Gluten: gluten, Egg: r.keepsEgg(), EU: r.Law == nutrition.EU, Diets: r.demand.Diets,
			Cut: r.cut(g), Breaks: g.shuts, Without: onlyID(g.Lines),
		},
		r.demand,
		r.Larder,
	)
	return p
}

// take chooses the best school of a group, or the one that is asked for where it is open.
func (r *chosen) take(p *pick) {
	p.chosen = p.choices[0]
	if want := r.wants(p.key); want != "" {
		for _, c := range p.choices {
			if c.School.ID == want {
				if !c.Shut.Open() {
					r.doubts = append(
						r.doubts,
						fmt.Sprintf(
							"%s is shut: %s. %s was taken instead.", phrase.Capital(c.School.Title), c.Shut.Words(),
							phrase.Capital(p.chosen.School.Title),
						),
					)
					continue
				}
				p.chosen = c
			}
		}
		if p.Use.School(want) == nil {
			r.doubts = append(
				r.doubts,
				fmt.Sprintf("“%s” is no way to replace %s, so %s was taken", want, p.Use.Title, p.chosen.School.Title),
			)
		}
	}
	if keep := r.mayStay(p); keep > 0 {
		p.chosen.School = p.Use.Keeping(p.chosen.School, keep, r.Larder)
	}
	p.chosen.School = r.withoutTraces(p.chosen.School, p)
	p.School, p.Lift = p.chosen.School, p.chosen.Lift
	r.picks = append(r.picks, p)
}

// trace is the most that a part for colour and taste is, of what it replaces. Source: practice.
const trace = 0.06

// withoutTraces is a school less what it brings for colour and taste where the recipe holds
// that anyway.
func (r *chosen) withoutTraces(s *swap.School, p *pick) *swap.School {
	held := func(part swap.Part) bool {
		return part.As == "same" && part.Grams < trace*p.Use.Per && slices.ContainsFunc(r.written.Lines, func(l recipe.Line) bool {
			return l.Ingredient == part.ID && l.Grams > 0 && l.Topping() == p.Topping
		})
	}
	if !slices.ContainsFunc(s.Parts, held) {
		return s
	}
	less := *s
	less.Parts = slices.DeleteFunc(slices.Clone(s.Parts), held)
	return &less
}

// leastKept is the share of a sugar that is worth keeping where a limit allows it. Source:
// practice, a working value.
const leastKept = 0.06

// mayStay is the share of a pick's sugar that the limits leave: limits are met, not overshot.
// It is 0 where none may stay, or the baker says how.
func (r *chosen) mayStay(p *pick) float64 {
	if p.shuts || !p.Use.Sweetens() || r.wants(p.key) != "" {
		return 0
	}
	cut := r.cut(&p.group)
	if keep := 0.88 * (1 - cut); cut > 0 && keep >= leastKept {
		return keep
	}
	return 0
}

// dropGroup leaves out a group of optional lines.
func (r *chosen) dropGroup(g *group) {
	for _, l := range g.Lines {
		r.dropped = append(r.dropped, l)
		r.written.Lines = slices.DeleteFunc(r.written.Lines, func(x recipe.Line) bool { return x.ID == l.ID })
	}
}

// flourBecomes is the base that the chosen flour makes of the batter, "" while it stays.
func (r *chosen) flourBecomes() balance.Base {
	if flour := r.pickFor("flour"); flour != nil {
		return balance.Base(flour.School.Becomes)
	}
	return ""
}

// loaf is the flour of an ordinary loaf or cake, two US cups, to which "two or
// three eggs" refers. Source: practice.
const loaf = 240.0

// sureEggs is how many eggs to a loaf's worth of flour can be replaced with
// confidence; gels and purées carry two to three eggs' work. Source: practice.
const sureEggs = 3.2

// richEggs is how many eggs to a loaf's worth of flour a rich dough can be without and still
// be the same bread: three a kilogram. Source: practice.
const richEggs = 0.75

// perLoaf counts what a group replaces per loaf's worth of base, so that a double
// batch is judged like a single one.
func (r *scaled) perLoaf(g *group) float64 {
	b, _ := r.balanceOf(r.written)
	if g.Topping || b.Base <= 0 {
		return g.Per()
	}
	return g.Per() * loaf / b.Base
}

// hasGluten reports whether the batter has enough gluten to hold together by
// itself. Flour that is replaced counts as what takes its place.
func (r *chosen) hasGluten() bool {
	b, _ := r.balanceOf(r.written)
	g := 0.0
	for _, l := range r.written.Batter() {
		i := r.Larder.Get(l.Ingredient)
		if i == nil {
			continue
		}
		of := r.pickOf(l.ID)
		if of == nil {
			g += l.Grams / 100 * i.Facts[larder.Gluten]
			continue
		}
		for _, p := range of.School.Parts {
			if part := r.Larder.Get(p.ID); part != nil {
				g += l.Grams / of.Use.Per * p.Grams / 100 * part.Facts[larder.Gluten]
			}
		}
	}
	return b.Base > 0 && b.Per(g) >= enoughGluten
}

// inHouse tells what is in the house, where only that may come in: what a pack says is
// in stock, what the recipe holds anyway, and water. It is nil where all may come.
func inHouse(req Request, held *recipe.Recipe) func(*larder.Ingredient) bool {
	if !req.Stock {
		return nil
	}
	return func(i *larder.Ingredient) bool {
		if i.ID == "water" || i.Pack != nil && i.Pack.Stock > 0 {
			return true
		}
		return slices.ContainsFunc(held.Lines, func(l recipe.Line) bool { return l.Ingredient == i.ID })
	}
}

// keepsEgg reports whether the batter holds an egg that stays, or may be given one.
func (r asked) keepsEgg() bool {
	egg := r.Larder.Get("egg")
	if v, _ := r.demand.Judge(egg); v == diet.Breaks {
		return false
	}
	asked := r.req.Swaps["egg"]
	return asked == "" || asked == "as-written"
}
