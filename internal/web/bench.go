package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/internal/store"
)

// benchView is the Adapt screen.
type benchView struct {
	ID         int64
	Title      string
	Rail       []railItem
	Diets      []checkbox
	Bans       []checkbox
	BanTyped   string
	BanFault   string
	BanNames   []string
	Faults     []string
	Verdict    verdictView
	Changed    bool
	Strips     stripView
	Upright    stripView
	Tabs       []railItem
	Tab        string
	Ledger     []ledgerRow
	Unchanged  []lineRow
	Lines      []lineRow
	Steps      []stepRow
	Different  []string
	Buy        []string
	Sums       []sumRow
	Folded     []sumRow
	Slice      sliceView
	Bake       bakeView
	Refused    *refusedView
	Confidence string
	Doubts     []string
	Cautions   []cautionView
	Servings   string
	Scale      string
	Tin        string
	Versions   []versionLink
	Announce   string
}

type checkbox struct {
	ID, Words, Note string
	On              bool
}

type verdictView struct {
	State, Icon, Words string
	Holds, New, Gone   string
	Labels             []string
}

type ledgerRow struct {
	Key, Kind     string
	Title         string
	Becomes       string
	Role          string
	Breaks        string
	Reason        string
	Effect        string
	Confidence    string
	ConfidenceKey string
	Use           string
	Amounts       []amountField
	Shown, More   []optionView
	MoreWords     string
	DropID        int
	New           string
}

type amountField struct {
	ID, Name, Grams, Held, Measure string
}

type optionView struct {
	Use, School, Value string
	Title, About       string
	Effect             string
	Confidence         string
	New, Labels, Say   string
	Shut               string
	Chosen             bool
	Source             string
}

type lineRow struct {
	ID       int
	Text     string
	Name     string
	Grams    string
	Measure  string
	Section  string
	New      bool
	Known    bool
	Note     string
	Ban      string // ingredient id, where "I've none of this" can be answered
	Optional bool
}

type stepRow struct {
	Text, Note string
	Added      bool
	Wait       string
}

type refusedView struct {
	Reason  string
	Nearest []string
	Doors   []optionView
}

type cautionView struct{ Text, Defers string }

// loadBench reads the recipe and the request of a bench or heat screen.
func (s *Server) loadBench(c *gin.Context, v url.Values) (*store.Recipe, adapt.Request, []adapt.Fault, *adapt.Result, error) {
	r, err := s.store.Recipe(c, paramID(c))
	if err != nil {
		return nil, adapt.Request{}, nil, nil, err
	}
	req, faults := adapt.ParseRequest(v, s.kit.Larder)
	res, err := adapt.Adapt(r.Doc, req, s.kitFor(c))
	return r, req, faults, res, err
}

func (s *Server) bench(c *gin.Context) {
	query := c.Request.URL.Query()
	h, err := s.store.Household(c)
	if err != nil {
		s.failed(c, err)
		return
	}
	if len(query) == 0 && h.Last != "" && c.GetHeader("X-Fragment") == "" {
		c.Redirect(http.StatusSeeOther, c.Request.URL.Path+"?"+h.Last)
		return
	}
	r, req, faults, res, err := s.loadBench(c, query)
	if err != nil {
		s.failed(c, err)
		return
	}
	if last := (adapt.Request{Diets: req.Diets, Bans: req.Bans}).Values().Encode(); last != h.Last && len(query) > 0 {
		h.Last = last
		if err := s.store.SetHousehold(c, h); err != nil {
			s.failed(c, err)
			return
		}
	}
	v := s.benchView(r, req, faults, res, query.Get("tab"))
	versions, err := s.store.Versions(c, r.ID)
	if err != nil {
		s.failed(c, err)
		return
	}
	for _, ver := range versions {
		v.Versions = append(v.Versions, versionLink{ver.ID, ver.Title, ver.CreatedAt.Format("2 Jan 2006")})
	}
	s.show(c, http.StatusOK, "adapt", page{Title: r.Title, Nav: "shelf", Script: "bench", View: v})
}

func (s *Server) benchView(r *store.Recipe, req adapt.Request, faults []adapt.Fault, res *adapt.Result, tab string) benchView {
	l := s.kit.Larder
	query := req.Values().Encode()
	v := benchView{ID: r.ID, Title: r.Title, Rail: rail(r.ID, "adapt", query), Tin: req.Tin, Changed: len(res.Changes) > 0, Doubts: res.Doubts,
		Servings: fmt.Sprint(res.Recipe.Servings), Confidence: confidenceWords(string(res.Confidence))}
	if req.Scale > 0 && req.Scale != 1 {
		v.Scale = fmt.Sprintf("%g", req.Scale)
	}
	for _, f := range faults {
		if f.Field == "ban" {
			v.BanTyped, v.BanFault = f.Typed, f.Why
		} else {
			v.Faults = append(v.Faults, sentence(f.Why))
		}
	}
	for _, d := range diet.Built {
		n := 0
		for _, ln := range r.Doc.Lines {
			if i := l.Get(ln.Ingredient); i != nil {
				if j, _ := (diet.Demand{Diets: []diet.ID{d.ID}}).Judge(i); j == diet.Breaks {
					n++
				}
			}
		}
		note := "fits as written"
		if n > 0 {
			note = plural(n, "line")
		}
		v.Diets = append(v.Diets, checkbox{string(d.ID), d.Words, note, slices.Contains(req.Diets, d.ID)})
	}
	for _, b := range req.Bans {
		v.Bans = append(v.Bans, checkbox{ID: b, Words: "no " + diet.BanWords(b), On: true})
	}
	v.BanNames = append(v.BanNames, larder.Allergens()...)
	for _, i := range l.All() {
		v.BanNames = append(v.BanNames, i.Name)
	}
	v.Verdict = verdictOf(res)
	v.Strips, v.Upright = benchStrips(scaledWritten(r.Doc, req), res, l, false), benchStrips(scaledWritten(r.Doc, req), res, l, true)
	if tab != "recipe" && tab != "different" {
		tab = "swaps"
	}
	v.Tab = tab
	for _, t := range []struct{ id, words string }{{"swaps", "Swaps"}, {"recipe", "Full recipe"}, {"different", "What's different to do"}} {
		q := req.Values()
		q.Set("tab", t.id)
		v.Tabs = append(v.Tabs, railItem{t.words, fmt.Sprintf("/recipes/%d/adapt?%s", r.ID, q.Encode()), t.id == tab})
	}
	v.Ledger = ledgerOf(res, req)
	changed := map[recipe.LineID]bool{}
	for _, c := range res.Changes {
		for _, t := range c.To {
			changed[t.Line] = true
		}
	}
	v.Lines = s.lineRows(res, changed)
	for _, row := range v.Lines {
		if !row.New {
			v.Unchanged = append(v.Unchanged, row)
		}
	}
	v.Steps = stepRows(res)
	v.Different = res.Different()
	had := map[larder.ID]bool{}
	for _, ln := range r.Doc.Lines {
		had[ln.Ingredient] = true
	}
	for _, a := range res.ToBuy(had) {
		v.Buy = append(v.Buy, fmt.Sprintf("%s %s", measure.Grams(a.Grams), a.Name))
	}
	for _, sum := range res.Sums {
		row := sumRowOf(sum)
		if sum.Out {
			v.Sums = append(v.Sums, row)
		} else {
			v.Folded = append(v.Folded, row)
		}
	}
	v.Slice = sliceOf(res, r.Doc, l)
	v.Bake = bakeOf(res, s.kit.Kitchen)
	if res.Refused != nil {
		v.Refused = &refusedView{Reason: res.Refused.Reason, Nearest: res.Refused.Nearest}
		if ch := res.Refused.Change; ch != nil {
			for _, o := range ch.Options {
				v.Refused.Doors = append(v.Refused.Doors, optionOf(ch.Use, o, ""))
			}
		}
	}
	for _, c := range res.Cautions {
		v.Cautions = append(v.Cautions, cautionView{c.Text, c.Defers})
	}
	v.Announce = v.Verdict.Words
	if len(res.Verdict.New) > 0 {
		v.Announce += " New here: " + v.Verdict.New + "."
	}
	return v
}

func scaledWritten(r *recipe.Recipe, req adapt.Request) *recipe.Recipe {
	if req.Scale > 0 && req.Scale != 1 {
		return r.Scaled(req.Scale)
	}
	return r
}

func verdictOf(res *adapt.Result) verdictView {
	w := res.Verdict
	v := verdictView{State: w.State, Words: w.Words, Holds: allergenWords(w.Holds), New: allergenWords(w.New), Gone: allergenWords(w.Gone), Labels: w.Labels}
	v.Icon = map[string]string{"fine": "check-circle-fill", "look": "exclamation-triangle-fill", "stop": "x-octagon-fill"}[w.State]
	return v
}

func allergenWords(ids []string) string {
	if len(ids) == 0 {
		return "none of the fourteen"
	}
	var out []string
	for _, id := range ids {
		out = append(out, larder.AllergenWords(id))
	}
	return strings.Join(out, ", ")
}

func confidenceWords(c string) string {
	return map[string]string{"well-tried": "well tried", "workable": "workable", "experiment": "an experiment: try one cup first"}[c]
}

func plural(n int, one string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %ss", n, one)
}

// shownOptions is how many schools of a use stand open; the rest fold.
const shownOptions = 3

func ledgerOf(res *adapt.Result, req adapt.Request) []ledgerRow {
	var out []ledgerRow
	seen := map[string]bool{} // one field an ingredient: it is held wherever it stands
	for n, c := range res.Changes {
		row := ledgerRow{Key: fmt.Sprintf("change-%d", n), Kind: c.Kind, Title: c.Title, Role: c.Role, Breaks: sentenceCase(c.Breaks), Reason: c.Reason, Effect: c.Effect,
			Confidence: confidenceWords(string(c.Confidence)), ConfidenceKey: string(c.Confidence), Use: c.Use, Becomes: amountWords(c.To)}
		if c.Kind == adapt.Swapped {
			total := 0.0
			for _, t := range c.To {
				total += t.Grams
			}
			row.Becomes = c.SchoolName
			if total > 0 {
				row.Becomes += " " + measure.Grams(total).String()
			}
			if len(c.New) > 0 {
				row.New = "brings " + allergenWords(c.New)
			}
		}
		if c.Kind == adapt.Dropped {
			row.Becomes = "left out"
			row.DropID = int(c.From[0].Line)
		}
		if c.Kind == adapt.Moved && len(c.To) == 1 {
			row.Title = fmt.Sprintf("%s %s", c.Title, measure.Grams(c.From[0].Grams))
			row.Becomes = measure.Grams(c.To[0].Grams).String()
		}
		for _, t := range c.To {
			if seen[string(t.Ingredient)] || t.Grams == 0 && !t.Held {
				continue
			}
			seen[string(t.Ingredient)] = true
			f := amountField{ID: string(t.Ingredient), Name: t.Name, Grams: measure.Digits(t.Grams, 3), Measure: t.Measure}
			if g, ok := req.Holds[t.Ingredient]; ok {
				f.Held = fmt.Sprintf("%g", g)
			}
			row.Amounts = append(row.Amounts, f)
		}
		for m, o := range c.Options {
			ov := optionOf(c.Use, o, c.School)
			if m < shownOptions && o.Shut == "" {
				row.Shown = append(row.Shown, ov)
			} else {
				row.More = append(row.More, ov)
			}
		}
		if len(row.More) > 0 {
			row.MoreWords = fmt.Sprintf("%d more ways", len(row.More))
		}
		out = append(out, row)
	}
	return out
}

func optionOf(use string, o adapt.Option, chosen string) optionView {
	v := optionView{Use: use, School: o.School, Value: o.School, Title: o.Title, Effect: o.Effect, Confidence: confidenceWords(string(o.Confidence)), Shut: o.Shut, Chosen: o.School == chosen, Source: o.Source.Words(), Say: strings.Join(o.Say, "; ")}
	if o.Auto {
		v.Value = "" // chosen unless somebody chooses
	}
	var about []string
	if len(o.About) == 1 && strings.HasPrefix(o.About[0].Name, strings.Split(o.Title, ",")[0]) {
		about = append(about, measure.Grams(o.About[0].Grams).String())
		o.About = nil
	}
	for _, a := range o.About {
		about = append(about, measure.Grams(a.Grams).String()+" "+a.Name)
	}
	v.About = strings.Join(about, " + ")
	if len(o.New) > 0 {
		v.New = "brings " + allergenWords(o.New)
	}
	v.Labels = strings.Join(o.Labels, "; ")
	if len(o.Labels) == 1 {
		_, v.Labels, _ = strings.Cut(v.Labels, ": ")
	}
	return v
}

func (s *Server) lineRows(res *adapt.Result, changed map[recipe.LineID]bool) []lineRow {
	var out []lineRow
	section := ""
	for _, ln := range res.Recipe.Lines {
		row := lineRow{ID: int(ln.ID), Text: ln.Text, Name: ln.Name, Measure: res.Measures[int(ln.ID)], New: changed[ln.ID], Known: ln.Known, Note: ln.Note, Optional: ln.Optional}
		if ln.Grams > 0 {
			row.Grams = measure.Grams(ln.Grams).String()
		}
		if s.kit.Swaps.For(ln.Ingredient) != nil {
			row.Ban = string(ln.Ingredient)
		}
		if ln.Section != section {
			section = ln.Section
			row.Section = ln.Section
		}
		out = append(out, row)
	}
	return out
}

func stepRows(res *adapt.Result) []stepRow {
	var out []stepRow
	for _, st := range res.Method {
		row := stepRow{Text: st.Text, Note: st.Note, Added: st.Added}
		if st.Minutes > 0 {
			row.Wait = fmt.Sprintf("%d min", st.Minutes)
		}
		out = append(out, row)
	}
	return out
}

// sliceView is what one serving holds, before and after.
type sliceView struct {
	Of      string
	Rows    []sliceRow
	Missing string
}

type sliceRow struct {
	Name, Now, Was, Unit string
	Sub                  bool
	Why                  []termRow
}

type termRow struct{ Name, Value string }

func sliceOf(res *adapt.Result, written *recipe.Recipe, l *larder.Larder) sliceView {
	v := sliceView{Of: fmt.Sprintf("1 of %d", res.Recipe.Servings)}
	if n := len(res.Recipe.Unknown()); n > 0 {
		v.Missing = fmt.Sprintf("Without %s that could not be read.", plural(n, "line"))
	}
	for _, row := range nutrition.Rows {
		if row.ID == "net-carb" {
			continue // stands with the diets that count it
		}
		now, was := *row.Of(&res.Serving), *row.Of(&res.ServingBefore)
		sr := sliceRow{Name: row.Name, Unit: row.Unit, Sub: row.Sub, Now: nutrientText(row.ID, now), Was: nutrientText(row.ID, was)}
		for _, t := range nutrition.Figure(res.Recipe, l, row).Largest(6) {
			sr.Why = append(sr.Why, termRow{t.Name, nutrientText(row.ID, t.Value) + " " + row.Unit})
		}
		v.Rows = append(v.Rows, sr)
	}
	return v
}

// nutrientText prints a figure with the precision it has: whole kcal, a tenth of
// a gram, a hundredth of salt.
func nutrientText(id string, x float64) string {
	switch id {
	case "energy":
		return fmt.Sprintf("%.0f", x)
	case "salt":
		return fmt.Sprintf("%.2f", x)
	}
	return fmt.Sprintf("%.1f", x)
}

// sumRow is one sum with its window drawn.
type sumRow struct {
	Name, Words  string
	Unit         string
	Before, Now  string
	Lo, Hi       string
	Less, More   string
	Method       string
	Why          []termRow
	BandX, BandW string
	HollowX      string
	SolidX       string
	OffLeft      bool
	OffRight     bool
}

// sumWidth is the drawing's width; the window fills its middle.
const sumWidth = 200.0

func sumRowOf(s adapt.Sum) sumRow {
	row := sumRow{Name: s.Name, Words: s.Words, Unit: s.Unit, Less: s.Less, More: s.More, Method: s.Method,
		Before: measure.Digits(s.Before, 3), Now: measure.Digits(s.After, 3), Lo: measure.Digits(s.Lo, 3), Hi: measure.Digits(s.Hi, 3)}
	for _, t := range s.Why.Largest(6) {
		row.Why = append(row.Why, termRow{t.Name, measure.Digits(t.Value, 2)})
	}
	span := s.Hi - s.Lo
	if span <= 0 {
		span = 1
	}
	at := func(x float64) (px float64, off int) {
		px = sumWidth * (0.3 + 0.4*(x-s.Lo)/span)
		switch {
		case px < 8:
			return 8, -1
		case px > sumWidth-8:
			return sumWidth - 8, 1
		}
		return px, 0
	}
	b, _ := at(s.Before)
	a, off := at(s.After)
	row.HollowX, row.SolidX = f1(b), f1(a)
	row.OffLeft, row.OffRight = off < 0, off > 0
	row.BandX, row.BandW = f1(sumWidth*0.3), f1(sumWidth*0.4)
	return row
}

// bakeView is the time in the oven in words.
type bakeView struct {
	FirstLook, Window, Oven, Tin, Why, Problem, Fill string
	TooMuch                                          string
}

func bakeOf(res *adapt.Result, k measure.Kitchen) bakeView {
	e := res.Bake
	if e == nil {
		return bakeView{Problem: res.BakeProblem}
	}
	v := bakeView{FirstLook: fmt.Sprintf("%.0f min", e.FirstLook), Window: fmt.Sprintf("%.0f–%.0f min", e.Low, e.High), Oven: k.OvenText(e.Oven), Tin: e.Fill.Tin.Words(), Why: e.Why, Fill: e.Fill.Words}
	if e.Fill.TooMuch > 0 {
		v.TooMuch = e.Fill.TooMuch.String() + " too much for it"
	}
	return v
}

// nutritionPer100 is what 100 g of an ingredient hold.
func nutritionPer100(i *larder.Ingredient) nutrition.Facts { return nutrition.Per100(&i.Facts) }

func sentenceCase(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
