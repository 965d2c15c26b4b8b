package web

import (
	"cmp"
	"fmt"
	"math"
	"net/url"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/tin"
	"kollaris/internal/store"
)

// heatView is the Tin & heat screen.
type heatView struct {
	ID       int64
	Title    string
	Rail     []railItem
	For      string   // whom and what it is worked out for
	InOven   string   // where looks at it are noted
	Hidden   []hidden // the rest of the request travels along
	F        fields   // tin, at, watts, then, after, batter, scale
	Ovens    []choice
	Metals   []choice
	Flags    []oven.Flag
	Moved    bool   // to a lower shelf then
	Lie      string // how far ovens are off
	More     bool   // some of the further settings is made
	NoMetal  string // why the material is none
	Hand     handView
	Bake     bakeView
	Written  string
	Hints    []string // of the chosen oven and shelf
	Cautions []string
	Section  sectionView
	Chart    *chartView
	Data     heatData
	Others   []otherTin
	Names    []choice
	TinAsks  string   // what is not sure of the tin that was typed
	TinOr    []link   // what it may be instead
	Named    []link   // that the recipe names as another way
	Beside   []string // what stands beside it, with a part of the batter
	Batter   string
	Facts    []termRow
	Rows     []minuteRow
	Fit      *link    // the batch that suits the tin
	Scaled   []string // what a batch of another size asks for beside more of everything
	Pin      string   // address that pins this set-up as A
	Let      string   // address that lets A go
	Against  *againstView
	Altitude *altitudeView
	Announce string
	Bowl     *bowlView // a one-bowl cake in the microwave
	Watts    string    // set, though it is no bowl
}

// bowlView is the answer for a microwave.
type bowlView struct{ FirstLook, Done, Watts string }

type hidden struct{ Name, Value string }

// askTin asks what is not sure of a tin that was typed, and says which others the recipe names.
func (v *heatView) askTin(r *store.Recipe, req adapt.Request, res *adapt.Result) {
	in := func(t tin.Tin) link {
		q := req
		q.Tin = t.Words()
		return link{recipeURL(r.ID, "heat", q.Values().Encode()), q.Tin}
	}
	if said, ok := tin.Read(req.Tin); ok && req.Tin != "" {
		v.TinAsks = said.Why
		for _, t := range said.Or {
			v.TinOr = append(v.TinOr, in(t))
		}
	}
	for _, t := range r.Doc.OtherTins {
		if t.Words() != req.Tin {
			v.Named = append(v.Named, in(t))
		}
	}
	for n, e := range res.Beside() {
		t := res.Recipe.Tins[n+1]
		v.Beside = append(v.Beside, fmt.Sprintf(
			"Beside it %s with %.0f %% of the batter: first look at %.0f min, likely done %.0f–%.0f.",
			t.In(), 100*tin.Shares(res.Recipe.Tins)[n+1], e.FirstLook, e.Low, e.High,
		))
	}
}

type choice struct {
	Value, Words string
	On           bool
}

// againstView is the set-up that was pinned as A.
type againstView struct{ Code, Words, Answer, Than string }

// minuteRow is a line of the table that says what the pictures show.
type minuteRow struct{ Minutes, Air, Crust, Middle, Done string }

// writtenBake says what the recipe says of its bake.
func writtenBake(r *recipe.Recipe, k measure.Kitchen) string {
	if r.Bake.Max <= 0 {
		return ""
	}
	out := fmt.Sprintf("As written: %s min", rangeWords(r.Bake))
	if r.Oven > 0 {
		out += " at " + k.OvenText(r.Oven)
	}
	if len(r.Tins) > 0 {
		out += " in " + tin.Together(r.Tins, r.OtherTins)
	}
	return out
}

// heatFields are the boxes of the form: what is set, else what was typed and will not do.
func heatFields(
	req adapt.Request, res *adapt.Result, faults []adapt.Fault, asked url.Values, k measure.Kitchen,
) fields {
	wrong := map[string]adapt.Fault{}
	for _, f := range faults {
		wrong[f.Field] = f
	}
	dial := func(t measure.Celsius) string {
		if t == 0 {
			return ""
		}
		return k.OvenText(t)
	}
	set := req.Oven
	at := ""
	if res.Bake != nil {
		at = k.OvenText(res.Bake.Oven)
	}
	f := formFields(
		"",
		field{Name: "tin", Words: "Tin", Value: req.Tin, Hint: bakeOf(res, k).Tin, Size: 22, List: "tins"},
		field{Name: "at", Words: "Heat", Value: dial(set.At), Hint: at, Size: 7},
		field{
			Name: "watts", Words: "Microwave of", Unit: "W", Value: number(set.Watts), Hint: "900", Mode: "numeric",
			Size: 5,
		},
		field{Name: "then", Words: "Then", Hint: k.OvenText(160), Size: 7},
		field{Name: "after", Words: "after", Hint: "15", Mode: "numeric", Size: 4},
		field{Name: "batter", Words: "Batter at", Hint: k.Temperature(22), Mode: "numeric", Size: 6},
	)
	f["scale"] = scaleBox(req)
	if len(set.Setup.Stages) > 0 {
		st := set.Setup.Stages[0]
		f.set("then", dial(st.Oven))
		f.set("after", fmt.Sprintf("%g", st.After))
	} else { // half of it, or what cannot be used: as it was typed
		f.set("then", asked.Get("then"))
		f.set("after", asked.Get("after"))
	}
	if set.Setup.Start != 0 {
		f.set("batter", k.Temperature(set.Setup.Start))
	}
	for name, b := range f {
		if x, ok := wrong[name]; ok {
			b.Value, b.Fault = cmp.Or(x.Typed, b.Value), phrase.Sentence(x.Why)
			f[name] = b
		}
	}
	return f
}

// ovenHints says what is known of the oven that was chosen, at the heat that was asked for
// or the written one, and what stands in it.
func ovenHints(o store.Oven, e *oven.Estimate, asked bool, k measure.Kitchen) []string {
	var out []string
	l := o.Learned()
	if off := math.Round(l.Offset); math.Abs(off) >= 3 {
		what := fmt.Sprintf(
			"For %s inside, set it to %s.", k.OvenText(e.Oven), k.OvenText(e.Oven-measure.Celsius(l.Offset)),
		)
		if asked {
			what = fmt.Sprintf(
				"Set to %s it bakes at about %s.", k.OvenText(e.Oven), k.OvenText(e.Oven+measure.Celsius(l.Offset)),
			)
		}
		out = append(out, fmt.Sprintf("%s is about %s. %s", phrase.Capital(o.Name), hotOrCool(l, k), what))
	}
	t := e.Fill.Tin
	if n := t.PerShelf(o.Width, o.Depth); o.Width > 0 && o.Depth > 0 {
		things := map[bool]string{true: "trays", false: "tins"}[t.Shape == tin.Cups]
		room := n * max(1, o.Shelves)
		switch {
		case n == 0:
			out = append(
				out,
				fmt.Sprintf(
					"%s does not go on a shelf of %.0f × %.0f cm with room for the air.", phrase.Capital(t.Words()),
					o.Width, o.Depth,
				),
			)
		case t.Holders() > room:
			out = append(
				out, fmt.Sprintf("%d of %d %s go in at once: bake the rest after them.", room, t.Holders(), things),
			)
		case t.Holders() > 1:
			out = append(out, fmt.Sprintf("All %d %s go in at once.", t.Holders(), things))
		}
	}
	return out
}

// hotOrCool says how an oven is: "9 ± 6 °C hotter than its dial".
func hotOrCool(l oven.Learned, k measure.Kitchen) string {
	way := "hotter"
	if l.Offset < 0 {
		way = "cooler"
	}
	off, _, _ := strings.Cut(k.Warmer(measure.Celsius(math.Abs(l.Offset))), " ")
	return fmt.Sprintf("%s ± %s %s than its dial", off, k.Warmer(measure.Celsius(l.OffsetSD())), way)
}

// than says how much sooner or later b is than a.
func than(b, a float64) string {
	switch d := math.Round(b - a); {
	case d < 0:
		return fmt.Sprintf("B is done %.0f min sooner.", -d)
	case d > 0:
		return fmt.Sprintf("B is done %.0f min later.", d)
	}
	return "Both are done together."
}

// heatFacts are the moments and figures of a bake in words.
func heatFacts(s *oven.Simulation, k measure.Kitchen) []termRow {
	row := func(name, format string, args ...any) termRow { return termRow{"", name, fmt.Sprintf(format, args...)} }
	var out []termRow
	if s.Golden > 0 {
		out = append(out, row("Top golden at about", "%.0f min (the roughest of these figures)", s.Golden))
	} else if s.ColourFollowed() {
		words := "stays pale: judge by the middle"
		if s.Colour > 0.5 {
			words = "light gold when the middle is done (the roughest of these figures)"
		}
		out = append(out, row("Top", "%s", words))
	}
	if s.Tent > 0 {
		out = append(out, row("Lay foil over it at", "%.0f min, before it is too brown", s.Tent))
	}
	out = append(out, row("What would sink goes on at", "%.0f min", s.Topping))
	out = append(out, row("Done in the middle at", "%s", k.Temperature(s.Done)))
	if s.Peak.Minutes > s.Minutes+1 && s.Peak.Centre > float64(s.Done)+0.5 {
		out = append(
			out,
			row(
				"Out of the oven it goes on to", "%s in the middle, %.0f min later",
				k.Temperature(measure.Celsius(s.Peak.Centre)), s.Peak.Minutes-s.Minutes,
			),
		)
	}
	out = append(out, row("Weight lost as steam", "about %.0f %%", 100*s.Loss))
	if s.Fill.Tin.Shape == tin.Free {
		return append(out, row("Likely height", "%s", lengthWords(s.Height, k)))
	}
	return append(
		out, row("Fill before baking", "%.0f %% of the tin, %s deep", 100*s.Fill.Share, lengthWords(s.Fill.Depth, k)),
		row("Likely height", "%s in the middle of the rise", lengthWords(s.Fill.BakedDepth, k)),
	)
}

// minuteRows are the bake in steps of about five minutes.
func minuteRows(s *oven.Simulation, k measure.Kitchen) []minuteRow {
	step := 5.0
	switch {
	case s.Minutes < 15:
		step = 1
	case s.Minutes < 30:
		step = 2
	case s.Minutes > 120:
		step = 15
	}
	var out []minuteRow
	for m := 0.0; m < s.Minutes+step; m += step {
		p := s.At(m)
		t := func(x float64) string { return k.Temperature(measure.Celsius(x)) }
		out = append(
			out,
			minuteRow{fmt.Sprintf("%.0f", m), t(p.Air), t(p.Crust), t(p.Centre), fmt.Sprintf("%.0f %%", 100*p.Done)},
		)
	}
	return out
}

// measureWords writes amounts as they are measured: "8 large egg (400 g)".
func measureWords(as []adapt.Amount) string {
	var out []string
	for _, a := range as {
		words := measure.Grams(a.Grams).String() + " " + a.Name
		if a.Measure != "" {
			words = a.Measure + " " + a.Name + ", " + measure.Grams(a.Grams).String()
		}
		out = append(out, words)
	}
	return strings.Join(out, "; ")
}
