package adapt

import (
	"cmp"
	"fmt"
	"sort"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// leaveOut removes the lines the person drops.
func (r *run) leaveOut() {
	gone := map[recipe.LineID]bool{}
	for _, id := range r.req.Drops {
		gone[id] = true
	}
	kept := r.written.Lines[:0]
	for _, l := range r.written.Lines {
		if gone[l.ID] {
			r.dropped = append(r.dropped, l)
			continue
		}
		kept = append(kept, l)
	}
	r.written.Lines = kept
}

// screen groups the lines that break the demand. A breaking line that no school
// serves is dropped when it is optional, and refused otherwise.
func (r *run) screen() *Refusal {
	byKey := map[string]*group{}
	var kept []recipe.Line
	for _, l := range r.written.Lines {
		ing := r.Larder.Get(l.Ingredient)
		if ing == nil {
			kept = append(kept, l)
			continue
		}
		use := r.Swaps.For(ing.ID)
		v, reason := r.demand.Judge(ing)
		why := cause{reason: reason}
		top := l.Topping()
		key := ""
		if use != nil {
			key = useKey(use.ID, top)
		}
		asked := use != nil && r.req.Swaps[key] != "" && r.req.Swaps[key] != "as-written"
		breaks := v == diet.Breaks
		if use != nil && !breaks && r.req.Swaps[key] != "as-written" && l.Grams > 0 {
			if limit, words, over := r.over(use.Limits); over && limit.What.Of(nutrition.Of(ing)) > 0.5 {
				asked, why = true, cause{limit: words}
			}
		}
		if !breaks && !asked {
			kept = append(kept, l)
			continue
		}
		if use == nil {
			if l.Optional {
				r.dropped = append(r.dropped, l)
				continue
			}
			return r.refuse(&group{lines: []recipe.Line{l}, breaks: why})
		}
		g := byKey[key]
		if g == nil {
			g = &group{key: key, use: use, topping: top, breaks: why, shuts: breaks}
			byKey[key] = g
			r.groups = append(r.groups, g)
		}
		g.lines = append(g.lines, l)
		kept = append(kept, l)
	}
	r.written.Lines = kept
	// the flour first: what it becomes decides what binds and what lifts
	sort.SliceStable(r.groups, func(a, b int) bool { return r.groups[a].key == "flour" && r.groups[b].key != "flour" })
	return nil
}

// useKey tells a use in the batter from the same in a topping, which may want
// another school.
func useKey(use string, topping bool) string {
	if topping {
		return use + "-topping"
	}
	return use
}

func onlyID(lines []recipe.Line) larder.ID {
	id := lines[0].Ingredient
	for _, l := range lines {
		if l.Ingredient != id {
			return ""
		}
	}
	return id
}

func optionalOnly(lines []recipe.Line) bool {
	for _, l := range lines {
		if !l.Optional {
			return false
		}
	}
	return true
}

func (r *run) dropGroup(g *group) {
	for _, l := range g.lines {
		r.dropped = append(r.dropped, l)
		for n := range r.written.Lines {
			if r.written.Lines[n].ID == l.ID {
				r.written.Lines = append(r.written.Lines[:n:n], r.written.Lines[n+1:]...)
				break
			}
		}
	}
	g.chosen = swap.Choice{}
}

func (r *run) groupOf(id recipe.LineID) *group {
	for _, g := range r.groups {
		for _, l := range g.lines {
			if l.ID == id {
				return g
			}
		}
	}
	return nil
}

// refuse explains a use whose doors are all shut: each with what shuts it, and
// what would come nearest. It never offers to loosen a demand.
func (r *run) refuse(g *group) *Refusal {
	l := g.lines[0]
	ref := &Refusal{Reason: fmt.Sprintf("%s, and Kollaris knows nothing to put in its place yet.", phrase.Capital(g.breaks.words()))}
	if g.use != nil {
		var shut []string
		for _, c := range g.choices {
			if !c.Shut.Open() && c.Shut.By != swap.ByItself {
				shut = append(shut, fmt.Sprintf("%s (%s)", c.School.Title, c.Shut.Words()))
			}
		}
		ref.Reason = fmt.Sprintf("%s, and every way to replace %s is shut: %s.", phrase.Capital(g.breaks.words()), g.use.Title, strings.Join(shut, "; "))
		ref.Change = &Change{Kind: Swapped, Use: g.key, Title: g.title(r.Kitchen), Breaks: g.breaks.words(), Why: g.breaks.reason, Options: r.options(g)}
	}
	share := 0.0
	if m := float64(r.written.Mass()); m > 0 {
		share = 100 * l.Grams / m
	}
	switch {
	case share > 0 && share < 12:
		ref.Nearest = append(ref.Nearest, fmt.Sprintf("Leave out the %s (%s, %s %% of the weight): the rest can be adapted.", l.Name, measure.Grams(l.Grams), measure.Digits(share, 2)))
	case share > 0:
		ref.Nearest = append(ref.Nearest, fmt.Sprintf("The %s is %s %% of the weight: without it this is another recipe.", l.Name, measure.Digits(share, 2)))
	}
	ref.Nearest = append(ref.Nearest,
		"Take another recipe from the shelf for this table.",
		fmt.Sprintf("Bake this one as written for the others, and another for whoever must not have %s.", cmp.Or(g.breaks.reason.About(), "it")))
	return ref
}

// cause is why a group cannot stay: a demand that it breaks, or a limit that is passed, in
// words.
type cause struct {
	reason diet.Reason
	limit  string
}

func (c cause) words() string { return cmp.Or(c.limit, c.reason.Words()) }
