package web

import (
	"fmt"
	"maps"
	"net/url"
	"slices"
	"strings"
	"unicode"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/scan"
	"kollaris/internal/store"
)

// benchView is the Adapt screen.
type benchView struct {
	ID         int64
	Title      string
	Rail       []railItem
	Diets      []checkbox
	Kept       []checkbox // ingredients that stay as written
	Shown      []checkbox // what the recipe shows itself to be free of; On where it is taken off
	Bans       []checkbox
	Ban        field // one more that it must not hold
	BanNames   []string
	Covers     string // what the bans shut out, in full
	People     []checkbox
	Everyone   string   // address that chooses them all
	LastTime   *link    // what was asked for last, to be taken up
	Table      string   // the table that it was opened from, as its address asks
	Traces     []string // how to keep traces out
	Stock      bool     // only from what is in the house
	Limits     []field
	Limited    bool // some limit a serving is asked for
	Counts     []countView
	Becomes    string
	Trial      *link // a small batch to try first
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
	Method     methodView
	Orders     []railItem // ways to list the ingredients
	Different  []string
	Dough      *doughView // of a yeast bread
	Sweet      *sweetTab  // on its tab
	Asks       []askRow   // what each demand costs
	Buy        []string
	Sums       []sumRow
	Folded     []sumRow
	Slice      sliceView
	Cost       *costView
	Bake       bakeView
	Refused    *refusedView
	Confidence string
	Doubts     []string
	Cautions   []cautionView
	Servings   field
	Scale      field
	Tin        string
	OvenSet    []hidden // how the oven is used, which travels along
	Nutrition  string   // address of all figures
	Beside     string   // address that sets this side by side with others
	Versions   []versionLink
	Announce   string
}

// askRow is what one demand costs.
type askRow struct {
	Words, Says string
	Changes     []string
}

func askRows(asks []adapt.Asking) []askRow {
	var out []askRow
	for _, a := range asks {
		row := askRow{Words: a.Words, Changes: a.Changes}
		switch {
		case a.Opens:
			row.Says = "Without it the recipe could be adapted."
		case len(a.Changes) == 0:
			row.Says = "Nothing is changed for its sake alone."
		}
		if a.Confidence != "" {
			row.Says = strings.TrimSpace(row.Says + " Without it: " + confidenceWords(string(a.Confidence)) + ".")
		}
		out = append(out, row)
	}
	return out
}

type checkbox struct {
	ID, Words, Note string
	On              bool
}

type verdictView struct {
	State, Icon, Words string
	Holds, New, Gone   string
	IsNew              bool     // an allergen has come
	More               []string // what else is to be known
	Labels             []string // to read, where no sentence says so: of versions kept before it did
}

type lineRow struct {
	ID       int
	Text     string
	Name     string
	Grams    string
	Measure  string
	Section  string
	Stopped  bool // it must not be used: its words name what this table does not have
	New      bool
	Known    bool
	Note     string
	Ban      string // of this food alone, where "I've none of this" can be answered
	Use      string // of the swaps, where the line can be replaced by choice
	Ways     []readChoice
	Optional bool
	Behind   string // the catalogue's name, where the writer's stands
}

type refusedView struct {
	Reason  string
	Nearest []string
	Doors   []optionView
	Ways    []link // requests near it that can be had
}

type cautionView struct{ Text, Defers string }

func (s *Server) benchView(
	r *store.Recipe, req adapt.Request, faults []adapt.Fault, res *adapt.Result, asked url.Values, k measure.Kitchen,
	currency string,
) benchView {
	tab := asked.Get("tab")
	l := s.kit.Larder
	query := req.Values().Encode()
	v := benchView{
		ID: r.ID, Title: r.Title, Rail: rail(r.ID, "adapt", query), Tin: req.Tin, Changed: len(res.Changes) > 0,
		Doubts: res.Doubts, Confidence: confidenceWords(string(res.Confidence)), Scale: scaleBox(req),
		Servings: field{
			ID: "servings", Words: "Servings", Mode: "numeric", Size: 4, Value: fmt.Sprint(res.Recipe.Servings),
		},
		Ban: field{
			ID: "ban-new", Name: "ban", Words: "Must not hold", List: "bans", Size: 14, Hint: "soya, nuts, coconut",
		},
	}
	set := url.Values{}
	req.Oven.Values(set)
	for _, name := range slices.Sorted(maps.Keys(set)) {
		v.OvenSet = append(v.OvenSet, hidden{name, set.Get(name)})
	}
	v.Nutrition = recipeURL(r.ID, "nutrition", query)
	v.Stock, v.Beside = req.Stock, besideURL(r.ID, []string{query})
	v.limits(req, faults, res)
	v.faulty(faults)
	v.demands(r.Doc, req, res, l)
	v.Verdict = verdictOf(res.Verdict)
	v.Strips, v.Upright = benchStrips(scaledWritten(r.Doc, req), res, l, false, k), benchStrips(
		scaledWritten(r.Doc, req), res, l, true, k,
	)
	if tab != "recipe" && tab != "different" && tab != "sweet" {
		tab = "swaps"
	}
	if tab == "sweet" {
		v.Sweet = s.sweetTab(r.ID, scaledWritten(r.Doc, req), req, res)
	}
	v.Tab = tab
	for _, t := range []struct{ id, words string }{{"swaps", "Swaps"}, {"recipe", "Full recipe"}, {"different", "What's different to do"}, {"sweet", "Sweetness"}} {
		q := req.Values()
		q.Set("tab", t.id)
		v.Tabs = append(v.Tabs, railItem{t.words, recipeURL(r.ID, "adapt", q.Encode()), t.id == tab, ""})
	}
	v.Ledger = ledgerOf(res, req, k)
	v.unchanged(s, res, k)
	v.Method = methodOf(tasksInSpoons(res, k), res.Recipe, freshNames(res))
	if byUse := asked.Get("lines") == "task"; len(res.Method) > 0 {
		v.Orders = orderLinks(r.ID, req.Values(), byUse)
		if byUse && tab == "recipe" {
			v.Lines = byTask(v.Lines, res.Method, res.Recipe)
		}
	}
	v.Different = res.Different()
	v.Dough = doughOf(res, l, asked, k)
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
	v.Slice = sliceOf(res, l)
	v.Bake = bakeOf(res, k)
	v.Cost = costOf(res.Recipe, l, currency)
	v.refuse(res.Refused)
	for _, c := range res.Cautions {
		v.Cautions = append(v.Cautions, cautionView{c.Text, c.Defers})
	}
	v.Announce = v.Verdict.Words
	if len(res.Verdict.New) > 0 {
		v.Announce += " New here: " + v.Verdict.New + "."
	}
	return v
}

// scaleBox is the box of the size of the batch.
func scaleBox(req adapt.Request) field {
	f := field{ID: "scale", Words: "Batch ×", Hint: "1", Mode: "decimal", Size: 4}
	if req.Scale != 1 {
		f.Value = number(req.Scale)
	}
	return f
}

// faulty puts what was not understood at its field, or above all where it has none.
func (v *benchView) faulty(faults []adapt.Fault) {
	for _, f := range faults {
		switch f.Field {
		case "limit":
			if f.What == "" || !slices.Contains(diet.Limitable(), diet.Limited(f.What)) {
				v.Faults = append(v.Faults, phrase.Sentence(f.Why)) // else it stands at its field
			}
		case "ban":
			v.Ban.Value, v.Ban.Fault = strings.Trim(v.Ban.Value+", "+f.Typed, ", "), strings.TrimSpace(
				v.Ban.Fault+" "+phrase.Sentence(f.Why),
			)
		default:
			v.Faults = append(v.Faults, phrase.Sentence(f.Why))
		}
	}
}

// AskOpen tells that what else can be asked for stands open: a word there was not understood.
func (v benchView) AskOpen() bool { return v.Ban.Value != "" || v.Ban.Fault != "" }

// demands shows the diets with how the written recipe stands to each, and the bans.
func (v *benchView) demands(written *recipe.Recipe, req adapt.Request, res *adapt.Result, l *larder.Larder) {
	shown := map[diet.ID]bool{}
	for _, c := range res.AsWritten {
		if c.Against != "" || slices.Contains(req.Diets, c.Diet) || slices.Contains(req.Bans, c.Ban) {
			continue
		}
		shown[c.Diet] = true
		v.Shown = append(v.Shown, checkbox{c.ID(), c.Words(), c.By, slices.Contains(req.Loose, c.ID())})
	}
	for _, id := range req.Keeps {
		if i := l.Get(id); i != nil {
			v.Kept = append(v.Kept, checkbox{ID: string(id), Words: i.Name, On: true})
		}
	}
	for _, d := range diet.Diets {
		if shown[d.ID] {
			continue
		}
		v.Diets = append(
			v.Diets,
			checkbox{string(d.ID), string(d.ID), standing(written, d, res, l), slices.Contains(req.Diets, d.ID)},
		)
	}
	for _, b := range req.Bans {
		v.Bans = append(v.Bans, checkbox{ID: b, Words: diet.NoWords(b), On: true})
	}
	v.Covers = covers(res.Request.Demand().Bans)
	for _, b := range diet.Bans() {
		v.BanNames = append(v.BanNames, b.Words)
	}
	for _, i := range l.All() {
		v.BanNames = append(v.BanNames, i.Name)
	}
}

// standing says in a few words how the written recipe stands to a diet.
func standing(written *recipe.Recipe, d diet.Diet, res *adapt.Result, l *larder.Larder) string {
	breaks, labels, gaps := 0, 0, len(written.Unknown())
	for _, ln := range written.Lines {
		if i := l.Get(ln.Ingredient); i != nil {
			switch j, _ := (diet.Demand{Diets: []diet.ID{d.ID}}).Judge(i); j {
			case diet.Breaks:
				breaks++
			case diet.CheckLabel:
				labels++
			}
		}
	}
	x := d.Limit
	if x.What != "" {
		gaps += len(x.What.Gaps(written, l))
	}
	switch {
	case breaks > 0:
		return fmt.Sprintf("%d to change", breaks)
	case gaps > 0:
		return "not known"
	case x.What != "" && x.What.Of(res.ServingBefore) > x.Max:
		return fmt.Sprintf("%.0f %s a serving", x.What.Of(res.ServingBefore), x.What.Unit())
	case labels > 0:
		return plural(labels, "label") + " to read"
	}
	return "fits as it is"
}

// unchanged lists the lines, and of those that stay the ways to replace them by choice.
func (v *benchView) unchanged(s *Server, res *adapt.Result, k measure.Kitchen) {
	changed := map[recipe.LineID]bool{}
	for _, c := range res.Changes {
		for _, t := range c.To {
			changed[t.Line] = true
		}
	}
	v.Lines = s.lineRows(res, changed, k)
	offered := map[string]bool{} // one field a use: it is replaced wherever it stands
	for _, row := range v.Lines {
		if !row.New {
			if ln := res.Recipe.Line(recipe.LineID(row.ID)); ln != nil && ln.Grams > 0 && res.Refused == nil {
				use, ways := res.Ways(ln, s.kit)
				row.Use = use
				for _, w := range ways {
					row.Ways = append(row.Ways, readChoice{w.School.ID, w.School.Title})
				}
				if offered[row.Use] {
					row.Ways = nil
				}
				offered[row.Use] = true
			}
			v.Unchanged = append(v.Unchanged, row)
		}
	}
}

// refuse shows why nothing can be had, and the doors there are.
func (v *benchView) refuse(refused *adapt.Refusal) {
	if refused == nil {
		return
	}
	v.Refused = &refusedView{Reason: refused.Reason, Nearest: refused.Nearest}
	if ch := refused.Change; ch != nil {
		for _, o := range ch.Options {
			v.Refused.Doors = append(v.Refused.Doors, optionOf(ch.Use, o, ""))
		}
		if why, _, ok := strings.Cut(refused.Reason, " is shut: "); ok {
			v.Refused.Reason = why + " is shut." // each is listed below
		}
	}
}

func scaledWritten(r *recipe.Recipe, req adapt.Request) *recipe.Recipe {
	if req.Scale > 0 && req.Scale != 1 {
		return r.Scaled(req.Scale)
	}
	return r
}

func verdictOf(w adapt.Verdict) verdictView {
	v := verdictView{State: w.State, Words: w.Words, More: w.More, IsNew: len(w.New) > 0, Labels: w.Labels}
	if strings.Contains(strings.Join(append([]string{w.Words}, w.More...), " "), " to read: ") {
		v.Labels = nil
	}
	v.Holds, v.New, v.Gone = w.Allergens("none that the law names")
	v.Icon = map[string]string{"fine": "check-circle-fill", "look": "exclamation-triangle-fill", "stop": "x-octagon-fill"}[w.State]
	return v
}

func allergenWords(ids []string) string {
	if len(ids) == 0 {
		return "none that the law names"
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

// ownWords are the writer's words for an ingredient where they say another thing than the catalogue's name, which then stands
// behind them: "lemon zest", citrus zest.
func ownWords(ln recipe.Line) (name, behind string) {
	words := func(s string) map[string]bool {
		out := map[string]bool{}
		for _, w := range strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '\'' }) {
			out[strings.TrimSuffix(w, "s")] = true
		}
		return out
	}
	lacks := func(a, b map[string]bool) bool {
		for w := range a {
			if !b[w] {
				return true
			}
		}
		return false
	}
	mine, theirs := words(ln.Phrase), words(ln.Name)
	if ln.Ingredient == "" || len(ln.Phrase) > 40 || !lacks(mine, theirs) || !lacks(theirs, mine) {
		return ln.Name, ""
	}
	return ln.Phrase, ln.Name
}

// lineRows lists the lines, weight or spoons first as the kitchen likes.
func (s *Server) lineRows(res *adapt.Result, changed map[recipe.LineID]bool, k measure.Kitchen) []lineRow {
	var out []lineRow
	section := ""
	for _, ln := range res.Recipe.Lines {
		row := lineRow{
			ID: int(ln.ID), Text: ln.Text, Name: ln.Name, Measure: res.Measures[int(ln.ID)], New: changed[ln.ID],
			Known: ln.Known, Note: ln.Note, Optional: ln.Optional, Stopped: strings.HasSuffix(ln.Text, scan.LeaveOut),
		}
		row.Name, row.Behind = ownWords(ln)
		if ln.Grams > 0 {
			row.Grams = measure.Grams(ln.Grams).String()
			if k.Cups && row.Measure != "" {
				row.Grams, row.Measure = row.Measure, row.Grams
			}
		}
		if s.kit.Swaps.For(ln.Ingredient) != nil {
			row.Ban = diet.Alone(ln.Ingredient, s.kit.Larder)
		}
		if ln.Section != section {
			section = ln.Section
			row.Section = ln.Section
		}
		out = append(out, row)
	}
	return out
}
