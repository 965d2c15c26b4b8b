package web

import (
	"cmp"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

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
	Hidden   []hidden // the rest of the request travels along
	Tin      string
	At       string // what the dial is asked to be set to
	Dial     string // what it is set to
	Ovens    []choice
	Metals   []choice
	Flags    []oven.Flag
	Then     string
	After    string
	Moved    bool   // to a lower shelf then
	BatterAt string // temperature of the batter as asked
	Room     string // of a batter that was not asked about
	Lower    string // a second heat, for instance
	Lie      string // how far ovens are off
	More     bool   // some of the further settings is made
	Faults   map[string]string
	Scale    string
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
	Batter   string
	Facts    []termRow
	Rows     []minuteRow
	Fit      *fitView // the batch that suits the tin
	Scaled   []string // what a batch of another size asks for beside more of everything
	Pin      string   // address that pins this set-up as A
	Let      string   // address that lets A go
	Against  *againstView
	Altitude *altitudeView
	Announce string
	Bowl     *bowlView // a one-bowl cake in the microwave
	Watts    string
}

// bowlView is the answer for a microwave.
type bowlView struct{ FirstLook, Done, Watts string }

type hidden struct{ Name, Value string }

type choice struct {
	Value, Words string
	On           bool
}

// againstView is the set-up that was pinned as A.
type againstView struct{ Code, Words, Answer, Than string }

// minuteRow is a line of the table that says what the pictures show.
type minuteRow struct{ Minutes, Air, Crust, Middle, Done string }

func (s *Server) heat(c *gin.Context) error {
	query := c.Request.URL.Query()
	pinned := query.Get("a")
	query.Del("a")
	hand, err := s.atHand(c, query)
	if err != nil {
		return err
	}
	r, req, faults, res, err := s.loadBench(c, query)
	if err != nil {
		return err
	}
	k := s.kit.Kitchen
	v := heatView{ID: r.ID, Title: r.Title, Rail: rail(r.ID, "heat", req.Values().Encode()), Tin: req.Tin, Bake: bakeOf(res, k), Hand: hand, Faults: map[string]string{}}
	if req.Scale > 0 && req.Scale != 1 {
		v.Scale = fmt.Sprintf("%g", req.Scale)
	}
	for _, change := range res.Changes {
		if change.Kind == adapt.Scaled {
			v.Scaled = append(v.Scaled, change.Reason+" So: "+measureWords(change.To)+".")
		}
	}
	if err := s.heatControls(c, &v, req, faults, res, k); err != nil {
		return err
	}
	sim, err := res.Simulate(c.Request.Context())
	if c.Request.Context().Err() != nil {
		return nil // a later change is on its way
	}
	if err != nil {
		return err
	}
	if sim != nil {
		v.Data.Unit, v.Data.B = k.Degrees(), fieldOf(sim)
		v.Fit = fitTin(r.ID, req, r.Doc.Kind, sim.Fill)
		v.Batter = fmt.Sprintf("%s of batter", measure.Grams(float64(res.After.Mass)))
		v.Facts, v.Rows = heatFacts(sim, k), minuteRows(sim, k)
		if err := s.pinned(c, &v, r, pinned, sim); err != nil {
			return err
		}
		v.Section = sectionOf(sim.Estimate)
		v.Chart = chartOf(sim, v.Data.a, k)
	}
	v.Written = writtenBake(r.Doc, k)
	v.Others = s.otherTins(r.ID, req, res)
	v.Announce = "First look " + v.Bake.FirstLook + ", likely done " + v.Bake.Window
	s.show(c, http.StatusOK, "heat", page{Title: r.Title, Nav: "shelf", Script: "heat", View: v})
	return nil
}

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
		out += " " + r.Tins[0].In()
	}
	return out
}

// heatControls fills what can be set.
func (s *Server) heatControls(c *gin.Context, v *heatView, req adapt.Request, faults []adapt.Fault, res *adapt.Result, k measure.Kitchen) error {
	typed := map[string]string{}
	for _, f := range faults {
		v.Faults[f.Field], typed[f.Field] = phrase.Sentence(f.Why), f.Typed
	}
	dial := func(name string, t measure.Celsius) string {
		if t == 0 {
			return typed[name]
		}
		return k.OvenText(t)
	}
	set := req.Oven
	v.Tin, v.Scale = cmp.Or(typed["tin"], v.Tin), cmp.Or(typed["scale"], v.Scale)
	v.At, v.Flags = dial("at", set.At), set.Setup.Flags()
	v.BatterAt = typed["batter"]
	if len(set.Setup.Stages) > 0 {
		st := set.Setup.Stages[0]
		v.Then, v.After, v.Moved = dial("then", st.Oven), fmt.Sprintf("%g", st.After), st.Lower
	} else { // half of it, or what cannot be used: as it was typed
		v.Then, v.After, v.Moved = c.Query("then"), c.Query("after"), c.Query("lower") != ""
	}
	v.Room, v.Lower, v.Lie = k.Temperature(22), k.OvenText(160), phrase.Capital(ovensLie(k))
	if m := res.Microwave; m != nil {
		v.Bowl = &bowlView{adapt.Clock(m.FirstLook()), adapt.Clock(m.Done()), fmt.Sprintf("%.0f W", m.Watts)}
	}
	v.Watts = typed["watts"]
	if set.Watts > 0 {
		v.Watts = fmt.Sprintf("%g", set.Watts)
	}
	if set.Setup.Start != 0 {
		v.BatterAt = k.Temperature(set.Setup.Start)
	}
	for _, m := range tin.Materials {
		words := m.Words
		if m.ID == tin.Bright {
			words = "as the tin says"
		}
		v.Metals = append(v.Metals, choice{string(m.ID), words, m.ID == set.Setup.Of})
	}
	for n, f := range v.Flags {
		v.More = v.More || f.On && f.Name != "fan"
		v.Flags[n].Words = phrase.Capital(f.Words)
	}
	v.More = v.More || v.Moved || v.Then != "" || v.After != "" || v.BatterAt != "" || set.Setup.Of != tin.Bright || v.Faults["metal"] != ""
	elsewhere := req // what this form does not ask for
	elsewhere.Tin, elsewhere.Scale, elsewhere.Oven = "", 0, oven.Choice{}
	for name, values := range elsewhere.Values() {
		for _, val := range values {
			v.Hidden = append(v.Hidden, hidden{name, val})
		}
	}
	ovens, err := s.store.Ovens(c)
	if err != nil {
		return err
	}
	v.Ovens = []choice{{"", "an oven true to its dial", set.Oven == 0}}
	for _, o := range ovens {
		v.Ovens = append(v.Ovens, choice{fmt.Sprint(o.ID), o.Name, o.ID == set.Oven})
		if o.ID == set.Oven && res.Bake != nil {
			v.Hints = append(v.Hints, ovenHints(o, res.Bake, set.At > 0, k)...)
		}
	}
	tins, err := s.store.OwnTins(c)
	if err != nil {
		return err
	}
	for _, t := range tins {
		v.Names = append(v.Names, choice{Value: t.Text, Words: t.Name})
	}
	for _, t := range tin.Standard {
		v.Names = append(v.Names, choice{Value: t.Words()})
	}
	if res.Bake != nil {
		v.Dial = k.OvenText(res.Bake.Oven)
		v.Cautions = oven.Cautions(set.Setup, res.Bake.Fill.Tin)
	}
	v.Altitude = s.altitude(req, res, k)
	return nil
}

// ovenHints says what is known of the oven that was chosen, at the heat that was asked for
// or the written one, and what stands in it.
func ovenHints(o store.Oven, e *oven.Estimate, asked bool, k measure.Kitchen) []string {
	var out []string
	l := o.Learned()
	if off := math.Round(l.Offset); math.Abs(off) >= 3 {
		what := fmt.Sprintf("For %s inside, set it to %s.", k.OvenText(e.Oven), k.OvenText(e.Oven-measure.Celsius(l.Offset)))
		if asked {
			what = fmt.Sprintf("Set to %s it bakes at about %s.", k.OvenText(e.Oven), k.OvenText(e.Oven+measure.Celsius(l.Offset)))
		}
		out = append(out, fmt.Sprintf("%s is about %s. %s", phrase.Capital(o.Name), hotOrCool(l, k), what))
	}
	t := e.Fill.Tin
	if n := t.PerShelf(o.Width, o.Depth); o.Width > 0 && o.Depth > 0 {
		things := map[bool]string{true: "trays", false: "tins"}[t.Shape == tin.Cups]
		room := n * max(1, o.Shelves)
		switch {
		case n == 0:
			out = append(out, fmt.Sprintf("%s does not go on a shelf of %.0f × %.0f cm with room for the air.", phrase.Capital(t.Words()), o.Width, o.Depth))
		case t.Holders() > room:
			out = append(out, fmt.Sprintf("%d of %d %s go in at once: bake the rest after them.", room, t.Holders(), things))
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

// pinned lays the set-up that was pinned as A beside this one.
func (s *Server) pinned(c *gin.Context, v *heatView, r *store.Recipe, code string, b *oven.Simulation) error {
	here := v.Rail[2].URL
	_, query, _ := strings.Cut(here, "?")
	v.Pin = here + map[bool]string{true: "&", false: "?"}[query != ""] + "a=" + urlEscape(query+"&")
	if code == "" {
		return nil
	}
	v.Let = here
	q, err := url.ParseQuery(code)
	if err != nil {
		return nil // no address of ours: B stands alone
	}
	q.Del("a")
	_, _, _, res, err := s.loadBench(c, q)
	if err != nil {
		return err
	}
	a, err := res.Simulate(c.Request.Context())
	if err != nil || a == nil {
		return err
	}
	k := s.kit.Kitchen
	at := bakeOf(res, k)
	v.Against = &againstView{Code: code, Words: at.Tin + " at " + strings.TrimSuffix(at.Oven, ","), Answer: fmt.Sprintf("First look %s. Likely done %s.", at.FirstLook, at.Window), Than: than(b.Minutes, a.Minutes)}
	f := fieldOf(a)
	v.Data.A, v.Data.a = &f, a
	return nil
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
		out = append(out, row("Out of the oven it goes on to", "%s in the middle, %.0f min later", k.Temperature(measure.Celsius(s.Peak.Centre)), s.Peak.Minutes-s.Minutes))
	}
	out = append(out, row("Weight lost as steam", "about %.0f %%", 100*s.Loss))
	if s.Fill.Tin.Shape == tin.Free {
		return append(out, row("Likely height", "%.1f cm", s.Height))
	}
	return append(out, row("Fill before baking", "%.0f %% of the tin, %.1f cm deep", 100*s.Fill.Share, s.Fill.Depth), row("Likely height", "%.1f cm in the middle of the rise", s.Fill.BakedDepth))
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
		out = append(out, minuteRow{fmt.Sprintf("%.0f", m), t(p.Air), t(p.Crust), t(p.Centre), fmt.Sprintf("%.0f %%", 100*p.Done)})
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
