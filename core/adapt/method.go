package adapt

import (
	"fmt"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

// method writes the steps anew for what the recipe became; the figures of the oven are put
// in once the bake is foretold.
func (r *assessment) method() {
	butter, _ := r.demand.Judge(r.Larder.Get("butter"))
	wheat, _ := r.demand.Judge(r.Larder.Get("plain-flour"))
	egg, _ := r.demand.Judge(r.Larder.Get("egg"))
	b := method.Became{
		Recipe: r.res.Recipe, Larder: r.Larder, Base: r.res.Becomes, Measure: r.Measure, Cups: r.Kitchen.Cups, NoButter: butter == diet.Breaks,
		NoEgg: egg == diet.Breaks, NoWheat: wheat == diet.Breaks,
	}
	if r.refused == nil {
		for _, g := range r.brings {
			if len(g.to) > 0 {
				b.Swaps = append(b.Swaps, r.methodSwap(g))
			}
		}
	}
	r.res.Method = method.Rewrite(r.before, b)
	for n := range r.res.Method {
		t := &r.res.Method[n]
		t.Text = r.Kitchen.InScale(t.Text, t.Where == method.InOven)
	}
}

// methodSwap is what a pick brings, with the extra work of its school in words.
func (r *assessment) methodSwap(g *brought) method.Swap {
	s := method.Swap{Use: g.Use.ID, Title: g.School.Title}
	for _, l := range g.Lines {
		s.Gone = append(s.Gone, l.ID)
	}
	for _, l := range g.to {
		s.To = append(s.To, l.ID)
	}
	values := r.values(g)
	for _, e := range g.School.Steps {
		if e.In(r.written.Kind.Like()) {
			e.Text, e.Until = r.Kitchen.Say(step.Fill(e.Text, values)), r.Kitchen.Say(e.Until)
			s.Steps = append(s.Steps, e)
		}
	}
	return s
}

// timed puts the foretold bake into the method; without one the writer's figures stand.
func (res *Result) timed(k measure.Kitchen) {
	e := res.Bake
	if e == nil || len(res.Method) == 0 {
		return
	}
	a := method.Answer{
		Oven: e.Oven, Heat: k.OvenText(e.Oven), FirstLook: e.FirstLook, Low: e.Low, High: e.High,
		Tin: e.Fill.Tin.Words(), OtherTin: res.Request.Tin != "" || res.Bakes != nil && res.Bakes.Into,
		NoFlour: res.Becomes != "" || res.Request.Demand().ShutsOut("gluten") || res.Request.Demand().ShutsOut("wheat"),
	}
	if bakings := method.Bakings(res.Method); len(bakings) > 1 {
		if first := res.Method[bakings[0][0]].Oven; first > 0 {
			a.Before = k.OvenText(first)
		}
	}
	switch res.Recipe.Kind {
	case recipe.Biscuit, recipe.Scone, recipe.Flatbread, recipe.WhiteFoam, recipe.Choux, recipe.Pastry, recipe.Griddle: // too thin or too many for a probe, or dried
	default:
		a.Done = k.Temperature(e.Done)
	}
	for _, st := range e.Setup.Stages {
		a.Lower = append(a.Lower, method.Lower{Heat: k.OvenText(st.Oven), After: st.After})
	}
	res.Method = method.Timed(res.Method, a)
}

// looksLike says how a batter of another base looks in the bowl. Source: practice.
var looksLike = map[string]string{
	"gluten-free": "It looks thin at first, and thickens as it stands.",
	"nut":         "It should drop thickly from the spoon.",
	"keto-yeast":  "The dough should be soft and a little sticky.",
}

// Different lists what is different to do, for the tab of that name: what to
// begin earlier, the new steps, how the batter should look, and what each way
// does to the taste and the crumb.
func (res *Result) Different() []string {
	var out []string
	wait := 0.0
	for _, t := range res.Method {
		if t.Changed {
			out = append(out, t.Text)
			if t.Step < 0 && t.Verb != method.Cool && t.Verb != method.CoolTin {
				wait = max(wait, t.Wait.Min)
			}
		}
	}
	if wait > 0 {
		out = append([]string{fmt.Sprintf("Begin %.0f minutes earlier: something has to stand.", wait)}, out...)
	}
	for _, s := range res.Sums {
		if s.ID == "water" && len(out) > 0 {
			looks := "The batter should look as wet as the written one."
			if w := looksLike[res.Becomes]; w != "" {
				looks = w
			}
			if s.Out {
				looks = "The batter comes out " + s.Words + "."
			}
			out = append(out, looks)
		}
	}
	for _, c := range res.Changes {
		if c.Kind == Swapped && c.Effect != "" {
			out = append(out, phrase.Capital(c.SchoolName)+": "+c.Effect+".")
		}
	}
	return out
}

// ToBuy lists what the adapted recipe needs that the written one did not.
func (res *Result) ToBuy(had map[larder.ID]bool) []Amount {
	var out []Amount
	for _, c := range res.Changes {
		for _, t := range c.To {
			if !had[t.Ingredient] && t.Ingredient != "water" {
				out = append(out, t)
			}
		}
	}
	return out
}
