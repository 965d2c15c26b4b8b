package web

import (
	"fmt"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/measure"
	"kollaris/core/swap"
)

// limitBox is the box of a limit a serving; its id ends in whose it is, "" for nobody's.
func limitBox(whose string, what diet.Limited) field {
	f := field{
		ID: "limit-" + string(what), Name: "limit." + string(what), Words: what.Words(), Unit: what.Unit(),
		Hint: "no limit", Mode: "decimal", Size: 5,
	}
	if whose != "" {
		f.ID += "-" + whose
	}
	return f
}

// countView is a figure that this table counts, with how it ended.
type countView struct {
	State, Icon, Figure, Words, Was string
	Ways                            []string
}

// limits fills what is asked of a serving and what came of it.
func (v *benchView) limits(req adapt.Request, faults []adapt.Fault, res *adapt.Result) {
	hints := map[diet.Limited]float64{}
	for _, l := range req.Demand().Limited() {
		hints[l.What] = l.Max
	}
	for _, what := range diet.Limitable() {
		f := limitBox("", what)
		if x, ok := hints[what]; ok {
			f.Hint, f.On, v.Limited = fmt.Sprintf("%g", x), true, true
		}
		for _, l := range req.Limits {
			if l.What == what {
				f.Value = fmt.Sprintf("%g", l.Max)
			}
		}
		v.Limits = append(v.Limits, f)
	}
	for _, x := range faults {
		for n := range v.Limits {
			if f := &v.Limits[n]; x.Field == "limit" && "limit."+x.What == f.Name {
				f.Value, f.Fault, f.On, v.Limited = x.Typed, x.Why, true, true
			}
		}
	}
	v.Counts = countsOf(res)
	v.Becomes = map[string]string{
		"gluten-free": "It becomes a gluten-free batter, and is held to what is usual for those.",
		"nut":         "It becomes a nut-flour batter, and is held to what is usual for those.",
		"keto-yeast":  "It becomes a dough of wheat gluten and nuts, and is held to what is usual for those.",
	}[res.Becomes]
	if (res.Confidence == swap.Experiment || len(res.Doubts) > 0) && res.Refused == nil && (req.Scale == 0 || req.Scale == 1) {
		small := req
		small.Scale, small.Tin = 0.33, "4 muffin cups"
		v.Trial = &link{recipeURL(v.ID, "heat", small.Values().Encode()), "Try a third of it in four cups first"}
	}
}

// countsOf writes how each limit ended.
func countsOf(res *adapt.Result) []countView {
	var out []countView
	for _, l := range res.Limits {
		c := countView{
			State: "fine", Icon: "check-circle-fill", Figure: fmt.Sprintf("%.1f %s", l.Got, l.What.Unit()),
			Words: fmt.Sprintf("± %s, %s a serving, within your %g", measure.Digits(l.Plus, 1), l.What.Words(), l.Max),
			Was:   fmt.Sprintf("%.1f", l.Written), Ways: l.Ways,
		}
		if _, more, ok := strings.Cut(l.Words, ". "); ok && l.Kept {
			c.Words += ". " + more
		}
		if l.Near {
			c.State, c.Icon, c.Words = "look", "exclamation-triangle-fill", fmt.Sprintf(
				"± %s, %s a serving, at your %g: weighing, tables and brands may put it over", measure.Digits(l.Plus, 1),
				l.What.Words(), l.Max,
			)
		}
		if len(l.Open) > 0 {
			c.Figure = atLeast + c.Figure
		}
		switch _, more, _ := strings.Cut(l.Words, " a serving. "); {
		case len(l.Open) > 0 && more != "":
			c.State, c.Icon, c.Words = "look", "exclamation-triangle-fill", l.What.Words()+" a serving. "+more
		case !l.Kept:
			c.State, c.Icon, c.Words = "look", "exclamation-triangle-fill", fmt.Sprintf(
				"± %s, %s a serving, over your %g", measure.Digits(l.Plus, 1), l.What.Words(), l.Max,
			)
		}
		out = append(out, c)
	}
	return out
}
