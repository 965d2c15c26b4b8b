package adapt

import (
	"cmp"
	"fmt"
	"slices"
	"sort"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// screen groups the lines that break the demand. A breaking line that no school
// serves is dropped when it is optional, and refused otherwise.
func screen(from scaled) screened {
	r := screened{scaled: from}
	r.written = r.written.Clone()
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
		if use != nil {
			key = apart(byKey, key, use.Class(ing.ID))
		}
		wanted := r.wants(key)
		asked := use != nil && wanted != "" && wanted != "as-written"
		breaks := v == diet.Breaks
		if asked && slices.Contains(r.req.Keeps, ing.ID) {
			asked = false // the line is kept, the others of its use go
		}
		if use != nil && !breaks && wanted != "as-written" && l.Grams > 0 && !r.keeps(ing.ID) {
			if limit, words, over := r.over(use.Limits); over && limit.What.Of(nutrition.Of(ing)) > 0.5 && !r.little(use, limit) {
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
			r.refused = refuseLine(r.written, l, why)
			return r
		}
		g := byKey[key]
		if g == nil {
			g = &group{Replaced: formula.Replaced{Use: use, Topping: top}, key: key, class: use.Class(ing.ID), breaks: why, shuts: breaks}
			byKey[key] = g
			r.groups = append(r.groups, g)
		}
		g.Lines = append(g.Lines, l)
		kept = append(kept, l)
	}
	r.written.Lines = kept
	sort.SliceStable(r.groups, func(a, b int) bool { return r.groups[a].key == "flour" && r.groups[b].key != "flour" })
	return r
}

// What of a limit fruit may take and stay as it is, and what is left of a figure where something else stands for what brings
// it: nothing of sugar and syrups, some of chocolate, jam and dried fruit. Sources: practice, working values: the rest of
// the serving needs some too, and amounts are right to about a tenth.
const (
	fruitMay   = 0.4
	withFruit  = 0.93
	leftOthers = 0.4
)

// little reports whether the fruit of a batch may stay: it brings little of a limited figure, berries in a keto muffin, or the
// limit is kept with it once the sweeteners are others.
func (r *scaled) little(use *swap.Use, limit diet.Limit) bool {
	if use.ID != "fruit" {
		return false
	}
	fruit, rest := 0.0, 0.0
	for _, l := range r.written.Lines {
		i := r.Larder.Get(l.Ingredient)
		if i == nil {
			continue
		}
		x := l.Grams / 100 * limit.What.Of(nutrition.Of(i))
		switch u := r.Swaps.For(i.ID); {
		case slices.Contains(use.For, i.ID):
			fruit += x
		case u == nil || !slices.Contains(u.Limits, string(limit.What)) || r.keeps(i.ID):
			rest += x
		case !u.Sweetens():
			rest += leftOthers * x
		}
	}
	most := limit.Max * float64(max(1, r.written.Servings))
	return fruit <= fruitMay*most || fruit+rest <= withFruit*most
}

// apart is the key of a class of ingredients that is replaced by itself: the first class of a
// use has the use's own, another that is met beside it the use's with the class.
func apart(groups map[string]*group, key, class string) string {
	if g := groups[key]; g == nil || g.class == class {
		return key
	}
	return key + "." + cmp.Or(class, "other")
}

// wants is the school that is asked for a group: by its own key, else by its use's.
func (r asked) wants(key string) string {
	if w := r.req.Swaps[key]; w != "" {
		return w
	}
	use, _, _ := strings.Cut(key, ".")
	return r.req.Swaps[use]
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

// refuseLine explains a line that nothing can take the place of.
func refuseLine(written *recipe.Recipe, l recipe.Line, why cause) *Refusal {
	ref := &Refusal{
		Reason: fmt.Sprintf("%s, and Kollaris knows nothing to put in its place yet.", phrase.Capital(why.words())),
	}
	ref.nearest(written, l, why)
	return ref
}

// refusePick explains a use whose doors are all shut: each with what shuts it.
func (r *chosen) refusePick(g *pick) *Refusal {
	var shut []string
	for _, c := range g.choices {
		if !c.Shut.Open() && c.Shut.By != swap.ByItself {
			shut = append(shut, fmt.Sprintf("%s (%s)", c.School.Title, c.Shut.Words()))
		}
	}
	ref := &Refusal{
		Reason: fmt.Sprintf(
			"%s, and every way to replace %s is shut: %s.", phrase.Capital(g.breaks.words()), g.Use.Title,
			strings.Join(shut, "; "),
		),
	}
	ref.Change = &Change{
		Kind: Swapped, Use: g.key, Title: g.title(r.Kitchen), Breaks: g.breaks.words(), Why: g.breaks.reason,
		Options: r.options(g),
	}
	ref.nearest(r.written, g.Lines[0], g.breaks)
	return ref
}

// nearest adds what would come nearest. It never offers to loosen a demand.
func (ref *Refusal) nearest(written *recipe.Recipe, l recipe.Line, why cause) {
	share := 0.0
	if m := float64(written.Mass()); m > 0 {
		share = 100 * l.Grams / m
	}
	switch {
	case share > 0 && share < 12:
		ref.Nearest = append(
			ref.Nearest,
			fmt.Sprintf(
				"Leave out the %s (%s, %s %% of the weight): the rest can be adapted.", l.Name, measure.Grams(l.Grams),
				measure.Digits(share, 2),
			),
		)
	case share > 0:
		ref.Nearest = append(
			ref.Nearest,
			fmt.Sprintf(
				"The %s is %s %% of the weight: without it this is another recipe.", l.Name, measure.Digits(share, 2),
			),
		)
	}
	ref.elsewhere(why)
}

// elsewhere adds what can always be done.
func (ref *Refusal) elsewhere(why cause) {
	ref.Nearest = append(
		ref.Nearest,
		"Take another recipe from the shelf for this table.",
		fmt.Sprintf(
			"Bake this one as written for the others, and another for whoever must not have %s.",
			cmp.Or(why.reason.About(), "it"),
		),
	)
}

// cause is why a group cannot stay: a demand that it breaks, or a limit that is exceeded, in
// words.
type cause struct {
	reason diet.Reason
	limit  string
}

func (c cause) words() string { return cmp.Or(c.limit, c.reason.Words()) }
