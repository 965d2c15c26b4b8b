package web

import (
	"fmt"
	"net/url"
	"sort"
	"strconv"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/swap"
	"kollaris/core/sweet"
)

// sweetTab is the Sweetness tab of the bench: how sweet, where the sugar is, what
// leaving some out does, and the way to a blend.
type sweetTab struct {
	Lead    string
	Targets []targetView
	Cuts    []cutView
	Hidden  []sugarRow
	Total   string
	Effects []effectView
}

// targetView is the ways to a limit that the written recipe passes, what changes the
// taste least first.
type targetView struct {
	Words string
	Ways  []link
}

// cutView is the slider of one use that sweetens, with what each step does.
type cutView struct {
	Use, Title, Say, Blend string
	Less                   int // per cent left out
	Rows                   []cutRow
}

type cutRow struct {
	UpTo, Sugars, State, Icon, Tender, Colour, Rises, Keeps string
	Here                                                    bool
}

type sugarRow struct {
	ID, Name, Sugars, Share, Kind string
	Percent                       int
	Added                         bool
}

func (s *Server) sweetTab(id int64, written *recipe.Recipe, req adapt.Request, res *adapt.Result) *sweetTab {
	l := s.kit.Larder
	now, water := sweet.MixOf(res.Recipe, l, false)
	was, _ := sweet.MixOf(written, l, false)
	before, after := was.Sum(), now.Sum()
	v := &sweetTab{}
	switch {
	case len(was) == 0 && len(now) == 0:
		v.Lead = "Nothing is there to sweeten it."
	case res.Refused != nil || gramsText(before.Sweet) == gramsText(after.Sweet):
		v.Lead = fmt.Sprintf("As sweet as %s of sugar.", gramsText(after.Sweet))
	default:
		v.Lead = fmt.Sprintf(
			"As sweet as %s of sugar; as written, %s.", gramsText(after.Sweet), gramsText(before.Sweet),
		)
	}
	n := max(1, res.Recipe.Servings)
	v.Effects = effectsOf(
		sweet.Effects(
			was, now, sweet.Case{Use: sweet.UseOf(written.Kind), Servings: n, Water: water, Food: res.After.Mass},
		),
	)
	topNow, topWater := sweet.MixOf(res.Recipe, l, true)
	if topWas, _ := sweet.MixOf(written, l, true); len(topWas) > 0 {
		for _, e := range effectsOf(sweet.Effects(topWas, topNow, sweet.Case{Use: sweet.Icing, Servings: n, Water: topWater})) {
			e.Words = "On top: " + e.Words
			v.Effects = append(v.Effects, e)
		}
	}
	v.targets(s, id, written, req)
	v.hidden(res.Recipe, l, n)
	v.cuts(s, id, written, req, water)
	return v
}

// hidden lists which lines bring the sugars of a serving, the most first.
func (v *sweetTab) hidden(r *recipe.Recipe, l *larder.Larder, servings int) {
	type bring struct {
		line  recipe.Line
		i     *larder.Ingredient
		grams float64
	}
	var all []bring
	total, added := 0.0, 0.0
	for _, ln := range r.Lines {
		i := l.Get(ln.Ingredient)
		if i == nil {
			continue
		}
		if g := ln.Grams / 100 * i.Facts.Sugars() / float64(servings); g >= 0.05 {
			all = append(all, bring{ln, i, g})
			total += g
			if nutrition.IsAdded(i) {
				added += g
			}
		}
	}
	sort.SliceStable(all, func(a, b int) bool { return all[a].grams > all[b].grams })
	for _, b := range all {
		row := sugarRow{
			ID: string(b.i.ID), Name: b.i.Name, Sugars: fmt.Sprintf("%.1f g", b.grams),
			Share: fmt.Sprintf("%.0f %%", 100*b.grams/total), Percent: int(100*b.grams/total + 0.5),
			Added: nutrition.IsAdded(b.i), Kind: "its own",
		}
		if row.Added {
			row.Kind = "added"
		}
		v.Hidden = append(v.Hidden, row)
	}
	v.Total = fmt.Sprintf("%.1f g of sugars a serving, %.1f g of them added", total, added)
	if len(diet.Sugars.Gaps(r, l)) > 0 {
		v.Total = atLeast + v.Total
	}
}

// targets writes out the limits of sugar that the written recipe exceeds, each with
// its ways as links.
func (v *sweetTab) targets(s *Server, id int64, written *recipe.Recipe, req adapt.Request) {
	for _, t := range adapt.SweetTargets(written, req, s.kit) {
		least := map[bool]string{true: atLeast}[t.AtLeast]
		what := t.Limit.What
		row := targetView{
			Words: fmt.Sprintf(
				"To %g %s %s a serving; as written it is %s%.1f", t.Limit.Max, what.Unit(), what.Words(), least,
				t.Serving,
			),
		}
		for _, w := range t.Ways {
			words := "Another sweetener: let Kollaris choose"
			switch {
			case w.Servings > 0:
				words = fmt.Sprintf(
					"A smaller slice: cut it into %d instead of %d", w.Servings, max(1, written.Servings),
				)
			case w.Less > 0:
				words = fmt.Sprintf("Less sugar: leave out %d %% of it", w.Less)
			}
			code := w.Request.Values()
			code.Set("tab", "sweet")
			row.Ways = append(row.Ways, link{recipeURL(id, "adapt", code.Encode()), words})
		}
		v.Targets = append(v.Targets, row)
	}
}

// cuts makes a slider for each use that sweetens the batter or a topping.
func (v *sweetTab) cuts(s *Server, id int64, written *recipe.Recipe, req adapt.Request, water float64) {
	type of struct {
		use     *swap.Use
		topping bool
		lines   []recipe.Line
	}
	var uses []*of
	total := 0.0
	for _, ln := range written.Lines {
		i := s.kit.Larder.Get(ln.Ingredient)
		if i == nil || ln.Grams <= 0 {
			continue
		}
		total += ln.Grams / 100 * i.Facts.Sugars()
		u := s.kit.Swaps.For(i.ID)
		if u == nil || !u.Sweetens() {
			continue
		}
		var at *of
		for _, x := range uses {
			if x.use == u && x.topping == ln.Topping() {
				at = x
			}
		}
		if at == nil {
			at = &of{use: u, topping: ln.Topping()}
			uses = append(uses, at)
		}
		at.lines = append(at.lines, ln)
	}
	n := float64(max(1, written.Servings))
	for _, x := range uses {
		key, kind, where := x.use.ID, string(written.Kind), ""
		if x.topping {
			key, kind, where = key+"-topping", "topping", " on top"
		}
		c := cutView{Use: key, Title: x.use.Title + where}
		if less, ok := strings.CutPrefix(req.Swaps[key], "less:"); ok {
			c.Less, _ = strconv.Atoi(less)
		} else if req.Swaps[key] != "" && req.Swaps[key] != "as-written" {
			c.Say = "Another way is chosen under Swaps; moving this puts it aside."
		}
		ours := 0.0
		var was []string
		for _, ln := range x.lines {
			i := s.kit.Larder.Get(ln.Ingredient)
			ours += ln.Grams / 100 * i.Facts.Sugars()
			was = append(was, fmt.Sprintf("%s %s", measure.Grams(ln.Grams), i.Name))
		}
		here, chosen := sweet.StepAt(kind, float64(c.Less)/100)
		for _, st := range sweet.Steps(kind) {
			c.Rows = append(
				c.Rows,
				cutRow{
					UpTo: shareWords(st.UpTo), Sugars: fmt.Sprintf("%.1f g", (total-st.UpTo*ours)/n),
					State:  string(st.State),
					Icon:   map[sweet.State]string{sweet.Fine: "check-circle-fill", sweet.Look: "exclamation-triangle-fill", sweet.Stop: "x-octagon-fill"}[st.State],
					Tender: st.Tender, Colour: sweet.Brushed(st.Colour, sweet.Brush(req.Demand(), s.kit.Larder)), Rises: st.Rises, Keeps: st.Keeps,
					Here: chosen && st.UpTo == here.UpTo,
				},
			)
		}
		q := url.Values{
			"recipe": {fmt.Sprint(id)}, "q": {req.Values().Encode()}, "key": {key},
			"was": {strings.Join(was, " + ")}, "serves": {fmt.Sprint(max(1, written.Servings))},
			"water": {fmt.Sprintf("%.0f", water)}, "use": {string(sweet.UseOf(written.Kind))},
		}
		if x.topping {
			q.Set("use", string(sweet.Icing))
			q.Del("water")
		}
		c.Blend = "/sweeten?" + q.Encode()
		v.Cuts = append(v.Cuts, c)
	}
}

// shareWords says a share of the steps as a baker would.
func shareWords(x float64) string {
	for _, w := range []struct {
		upTo  float64
		words string
	}{{0.2, "up to a fifth"}, {0.34, "to a third"}, {0.5, "to half"}, {0.75, "to three quarters"}} {
		if x <= w.upTo {
			return w.words
		}
	}
	return "more, or all"
}
