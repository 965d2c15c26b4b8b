package adapt

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// equals are words by which a school's reason says that what comes in brings as much as what
// went out, with how it is said where the amounts found bring another share of it.
var equals = []struct{ as, share string }{
	{"is as sweet as the {from}", "brings %s of the sweetness of the {from}"},
	{"is as thick and sweet as the {from}", "brings %s of the sweetness of the {from}"},
	{"sweetens and moistens as the {from} did", "brings %s of the sweetness of the {from}"},
	{"sweetens as the {from} did", "brings %s of the sweetness of the {from}"},
	{"makes up the sweetness", "brings it to %s of the sweetness"},
	{"holds as much fat and water as the {from}", "brings %s of the fat of the {from}"},
	{"of oil carries as much", "of oil carries %s of that"},
	{"carries the fat of the {from}", "carries %s of the fat of the {from}"},
	{"is as fat and as firm as the {from}", "brings %s of the fat of the {from}"},
	{"is as fat as the {from}", "brings %s of the fat of the {from}"},
	{"has the fat and body of the {from}", "has %s of the fat of the {from}"},
	{"has the fat of the {from}", "has %s of the fat of the {from}"},
	{"bring the fat and tenderness of the {from}", "bring %s of the fat of the {from}"},
	{"binds as {n} would", "brings %s of the binding of {n}"},
}

// alike is how far what comes in may stray from what went out and still be said to bring as
// much. Source: calculated, what rounding to spoons and windows leave.
const alike = 0.12

// brings is what a use is there for, as a reason states it: its sweetness, its fat or its
// binding; nil for the others.
func bringsOf(use *swap.Use) func(*larder.Ingredient) float64 {
	of := func(c larder.Column) func(*larder.Ingredient) float64 {
		return func(i *larder.Ingredient) float64 { return i.Facts.Or(c, 0) }
	}
	switch {
	case use.Sweetens():
		return of(larder.Sweetness)
	case use.ID == "butter" || use.ID == "lard" || use.ID == "ghee" || use.ID == "seed-butter":
		return of(larder.Fat)
	case strings.HasPrefix(use.ID, "egg"):
		return of(larder.Binding)
	}
	return nil
}

// share is what the lines that came in bring of what went out, 1 for as much; ok is false
// where the use is there for something else.
func (r *assembled) share(g *brought) (share float64, ok bool) {
	of := bringsOf(g.Use)
	if of == nil {
		return 0, false
	}
	was, now := 0.0, 0.0
	for _, l := range g.Lines {
		if i := r.Larder.Get(l.Ingredient); i != nil {
			was += l.Grams * of(i)
		}
	}
	for _, l := range g.to {
		if i := r.Larder.Get(l.Ingredient); i != nil {
			now += l.Grams * of(i)
		}
	}
	if was <= 0 {
		return 0, false
	}
	return now / was, true
}

// reason is the text of a school's reason as far as it holds for the amounts that were found.
func (r *assembled) reason(g *brought) string {
	text := g.chosen.School.Reason
	share, ok := r.share(g)
	if t := r.withoutNone(g, text); t != text && share >= 0.01 {
		return t
	}
	if !ok || math.Abs(share-1) <= alike {
		return text
	}
	if share < 0.01 && !slices.ContainsFunc(g.to, func(l recipe.Line) bool { return l.Grams > 0 }) {
		return "Nothing is put in the place of the {from}."
	}
	pc := fmt.Sprintf("%.0f %%", 100*share)
	for _, e := range equals {
		if strings.Contains(text, e.as) {
			return strings.Replace(text, e.as, fmt.Sprintf(e.share, pc), 1)
		}
	}
	return text
}

// withoutNone writes a reason anew where one of the parts that it names came to nothing.
func (r *assembled) withoutNone(g *brought, text string) string {
	var come, none []string
	parts := g.chosen.School.Parts
	if base := g.Use.School(g.chosen.School.ID); base != nil {
		parts = base.Parts
	}
	for _, p := range parts {
		hole := "{" + string(p.ID) + "}"
		if p.ID == swap.From || !strings.Contains(text, hole) {
			continue
		}
		grams := 0.0
		for _, l := range g.to {
			if l.Ingredient == p.ID {
				grams += l.Grams
			}
		}
		name := r.Larder.Get(p.ID).Name
		if grams > 0 {
			come = append(come, hole+" of "+name)
		} else {
			none = append(none, name)
		}
	}
	if len(none) == 0 || len(come) == 0 {
		return text
	}
	verb := map[bool]string{true: "stands", false: "stand"}[len(come) == 1]
	return fmt.Sprintf("%s %s for the {from}; no %s is wanted beside it here.", phrase.And(come), verb, strings.Join(none, " or "))
}
