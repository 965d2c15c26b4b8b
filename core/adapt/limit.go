package adapt

import (
	"fmt"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// LimitOutcome is how a wished limit a serving ended.
type LimitOutcome struct {
	diet.Limit
	Written float64  `json:"written"`
	Got     float64  `json:"got"`
	Plus    float64  `json:"plus"` // ± of Got, by weighing, tables and brands
	Kept    bool     `json:"kept"`
	Near    bool     `json:"near,omitempty"` // kept, but within Plus of the limit
	Words   string   `json:"words"`
	Open    []string `json:"open,omitempty"` // lines that are not counted and could add to it: then it is never kept
	Ways    []string `json:"ways,omitempty"` // what would reach it, where it is exceeded
}

// passes are the limits that the recipe as written passes, each with the share
// of a use that would have to go.
func (r *scaled) passes() []diet.Limit {
	s := nutrition.Serving(r.written, r.Larder)
	var out []diet.Limit
	for _, l := range r.demand.Limited() {
		if l.What.Of(s) > l.Max*1.005 {
			out = append(out, l)
		}
	}
	return out
}

// over finds an exceeded limit that asks a use to go, with the words for it.
func (r *scaled) over(limits []string) (diet.Limit, string, bool) {
	s := nutrition.Serving(r.written, r.Larder)
	for _, l := range r.exceeded {
		if slices.Contains(limits, string(l.What)) {
			return l, fmt.Sprintf(
				"%s come to %.1f %s a serving, over your %g", l.What.Words(), l.What.Of(s), l.What.Unit(), l.Max,
			), true
		}
	}
	return diet.Limit{}, "", false
}

// cut is the share of a group's sugar or sodium that the exceeded limits ask to go:
// 0 where none does, 1 where more than all of it would have to.
func (r *scaled) cut(g *group) float64 {
	share := 0.0
	servings := float64(max(1, r.written.Servings))
	for _, l := range r.exceeded {
		if !slices.Contains(g.Use.Limits, string(l.What)) {
			continue
		}
		total, ours := 0.0, 0.0
		for _, ln := range r.written.Lines {
			i := r.Larder.Get(ln.Ingredient)
			if i == nil {
				continue
			}
			x := l.What.Of(nutrition.Of(i)) * ln.Grams / 100
			total += x
			if u := r.Swaps.For(i.ID); u != nil && slices.Contains(u.Limits, string(l.What)) && !r.keeps(i.ID) && !r.little(u, l) {
				ours += x // may go
			}
		}
		if ours > 0 {
			share = math.Max(share, math.Min(1, (total-l.Max*servings)/ours))
		}
	}
	return share
}

// aside are the lines that no sum of the batter counts but a serving holds:
// toppings, with what the schools put there.
func (r *amounts) aside() []balance.Item {
	var out []balance.Item
	put := func(l recipe.Line) {
		if i := r.Larder.Get(l.Ingredient); i != nil && l.Grams > 0 {
			out = append(out, balance.Item{Ingredient: i, Grams: l.Grams})
		}
	}
	for _, l := range r.written.Lines {
		if l.Topping() && r.pickOf(l.ID) == nil {
			put(l)
		}
	}
	for _, g := range r.brings {
		if g.Topping {
			for _, l := range g.to {
				put(l)
			}
		}
	}
	return out
}

// limits says how each wish ended, by the nutrition of the rounded recipe, a path
// that does not share the programme's matrix.
func (r *assessment) limits() {
	for _, l := range r.demand.Limited() {
		o := LimitOutcome{Limit: l, Written: l.What.Of(r.res.ServingBefore), Got: l.What.Of(r.res.Serving)}
		var most recipe.Line
		o.Plus, most = nutrition.Plus(
			r.res.Recipe, r.Larder, func(i *larder.Ingredient) float64 { return l.What.Of(nutrition.Of(i)) },
		)
		for _, g := range l.What.Gaps(r.res.Recipe, r.Larder) {
			o.Open = append(o.Open, g.Text)
		}
		o.Kept = l.Keeps(o.Got) && len(o.Open) == 0
		o.Near = o.Kept && !l.Keeps(o.Got+o.Plus)
		switch {
		case len(o.Open) > 0 && l.Keeps(o.Got):
			o.Words = fmt.Sprintf(
				"%s: at least %.1f %s a serving. %s not counted, so nothing says that it is within your %g.",
				phrase.Capital(l.What.Words()), o.Got, l.What.Unit(), quoted(o.Open), l.Max,
			)
			o.Ways = append(o.Ways, "Say on Read what it is and how much, or leave it out.")
		case o.Kept:
			o.Words = fmt.Sprintf(
				"%s: %.1f ± %s %s a serving, within your %g.", phrase.Capital(l.What.Words()), o.Got,
				measure.Digits(o.Plus, 1), l.What.Unit(), l.Max,
			)
			if o.Near {
				o.Words = fmt.Sprintf(
					"%s: %.1f ± %s %s a serving, at your %g: weighing, tables and brands may put it over.",
					phrase.Capital(l.What.Words()), o.Got, measure.Digits(o.Plus, 1), l.What.Unit(), l.Max,
				)
				if i := r.Larder.Get(most.Ingredient); i != nil && i.Shelf.Brands > 0 {
					o.Ways = append(o.Ways, fmt.Sprintf("Most of the ± is the %s: brands differ by ±%.0f %%. Enter the figures of your pack in the larder.", i.Name, 100*i.Shelf.Brands))
				}
			}
			if all := diet.Sugars.Of(r.res.Serving); l.What == diet.AddedSugars && all > o.Got+5 {
				o.Words += fmt.Sprintf(" Fruit and milk bring more: %.1f g of sugars in all.", all)
			}
		default:
			least := ""
			if len(o.Open) > 0 {
				least = "at least "
			}
			o.Words = fmt.Sprintf(
				"%s: %s%.1f %s a serving, %.1f over your %g.", phrase.Capital(l.What.Words()), least, o.Got,
				l.What.Unit(), o.Got-l.Max, l.Max,
			)
			if l.Max > 0 {
				n := int(math.Ceil(o.Got * float64(r.res.Recipe.Servings) / l.Max))
				o.Ways = append(o.Ways, fmt.Sprintf("Cut it into %d servings instead of %d.", n, r.res.Recipe.Servings))
			}
			if top := r.most(l); top != "" {
				o.Ways = append(o.Ways, top)
			}
			o.Ways = append(o.Ways, "Choose another way for what brings the most of it, or another recipe.")
		}
		r.res.Limits = append(r.res.Limits, o)
	}
}

// doubtGaps says which lines the figures leave out.
func (r *assessment) doubtGaps() {
	var lines []string
	for _, g := range r.res.Gaps {
		lines = append(lines, g.Text)
	}
	if len(lines) > 0 {
		r.res.Doubts = append(
			r.res.Doubts, quoted(lines)+" not counted: figures it could add to are at least what stands there.",
		)
	}
}

// quoted names lines that are not counted, with the verb: "“1 cup glorp” is".
func quoted(lines []string) string {
	var out []string
	for _, t := range lines {
		out = append(out, "“"+phrase.Clip(t, 40)+"”")
	}
	if len(out) == 1 {
		return out[0] + " is"
	}
	return phrase.And(out) + " are"
}

// most names the line that brings the most of a limited figure.
func (r *assessment) most(l diet.Limit) string {
	name, top, total := "", 0.0, 0.0
	for _, ln := range r.res.Recipe.Lines {
		i := r.Larder.Get(ln.Ingredient)
		if i == nil {
			continue
		}
		x := l.What.Of(nutrition.Of(i)) * ln.Grams / 100
		total += x
		if x > top {
			name, top = ln.Name, x
		}
	}
	if total <= 0 {
		return ""
	}
	return fmt.Sprintf("Use less of the %s, or leave it out: it brings %.0f %% of it.", name, 100*top/total)
}
