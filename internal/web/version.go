package web

import (
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/structure"
	"kollaris/core/swap"
	"kollaris/core/sweet"
	"kollaris/internal/store"
)

// versionView is a kept version, as it was when it was kept.
type versionView struct {
	ID, RecipeID int64
	Title        string
	For          string
	Kept         string
	Verdict      verdictView
	Lines        []lineRow
	Ledger       []ledgerRow
	Method       methodView
	Slice        sliceView
	Bake         bakeView
	Cautions     []cautionView
	Doubts       []string
	Confidence   string
	Again        string // address of the bench with the same request
	Facts        string
	Note         string
	Rev          int64 // of title and note
	Gone         bool
	A5           bool // printed on two small sheets
	Long         bool // so much text that it is set smaller
	Engine       string
	Adapted      bool
	Take         takeView
}

// keep keeps what stands on the bench as a version under its recipe.
func (s *Server) keep(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	r, req, faults, res, err := s.loadBench(c, form)
	if err != nil {
		return err
	}
	if len(faults) > 0 || res.Refused != nil {
		v := s.benchView(r, req, faults, res, form, s.kit.Kitchen, s.currency())
		if res.Refused != nil {
			v.Faults = append(v.Faults, "Nothing was kept: this cannot be adapted as asked.")
		}
		s.show(c, http.StatusUnprocessableEntity, "adapt", page{Title: r.Title + ": adapt", Nav: "shelf", Script: "bench", View: v})
		return nil
	}
	kept, err := s.store.Versions(c.Request.Context(), r.ID)
	if err != nil {
		return err
	}
	if n := slices.IndexFunc(kept, func(ver *store.Version) bool { return sameVersion(ver, r.Head, res) }); n >= 0 {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/versions/%d", kept[n].ID)) // pressed twice
		return nil
	}
	id, err := s.store.KeepAdapted(c.Request.Context(), r.ID, r.Head, s.versionTitle(r.Title, req, kept), res)
	if err == nil {
		err = s.setLast(c, req)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/versions/%d", id))
	return nil
}

// sameVersion reports whether a version was kept of the same text for the same request with the same outcome.
func sameVersion(ver *store.Version, head int64, res *adapt.Result) bool {
	if ver.Parent != head || ver.Request != res.Request.Values().Encode() {
		return false
	}
	return slices.EqualFunc(ver.Result.Recipe.Lines, res.Recipe.Lines, func(a, b recipe.Line) bool {
		return a.Ingredient == b.Ingredient && a.Grams == b.Grams
	})
}

// versionTitle names a version by what it is for, and tells it from those kept before by what else differs.
func (s *Server) versionTitle(title string, req adapt.Request, kept []*store.Version) string {
	taken := func(name string) bool {
		return slices.ContainsFunc(kept, func(v *store.Version) bool { return v.Title == name })
	}
	name := title + ", " + s.waysWords(req)
	for _, more := range s.furtherWords(req) {
		if !taken(name) {
			return name
		}
		name += ", " + more
	}
	for n, plain := 2, name; taken(name); n++ {
		name = fmt.Sprintf("%s (%d)", plain, n)
	}
	return name
}

// forWords says for whom and as what a page is worked out: what was asked, and the kept version that is the same.
func (s *Server) forWords(c *gin.Context, r *store.Recipe, req adapt.Request) (string, error) {
	words := phrase.Capital(s.requestWords(req))
	kept, err := s.store.Versions(c.Request.Context(), r.ID)
	code := req.Values().Encode()
	for _, ver := range kept {
		if ver.Request == code {
			return words + " · kept as “" + versionShort(r.Title, ver.Title) + "”", nil
		}
	}
	return words, err
}

// furtherWords are what a request asks for beside demands and ways.
func (s *Server) furtherWords(req adapt.Request) []string {
	var out []string
	if who := s.whoWords(req); who != "" {
		out = append(out, who)
	}
	if req.Scale > 0 && req.Scale != 1 {
		out = append(out, measure.Digits(req.Scale, 2)+" × the batch")
	}
	if req.Servings > 0 {
		out = append(out, fmt.Sprintf("serves %d", req.Servings))
	}
	if req.Tin != "" {
		out = append(out, "in "+req.Tin)
	}
	for _, id := range slices.Sorted(maps.Keys(req.Holds)) {
		if i := s.kit.Larder.Get(id); i != nil {
			out = append(out, measure.Grams(req.Holds[id]).String()+" "+i.Name)
		}
	}
	if n := len(req.Drops); n > 0 {
		out = append(out, plural(n, "line")+" left out")
	}
	if req.Oven.At > 0 {
		out = append(out, "at "+s.kit.Kitchen.OvenText(req.Oven.At))
	}
	return out
}

// changeVersion names a version, notes something on it, puts it away or brings it back.
func (s *Server) changeVersion(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	id := paramID(c)
	switch form.Get("do") {
	case "leave", "return":
		err = s.store.DropVersion(c.Request.Context(), id, form.Get("do") == "leave")
	default:
		name, note := strings.Join(strings.Fields(form.Get("name")), " "), strings.TrimSpace(form.Get("note"))
		err = s.store.MarkVersion(c.Request.Context(), id, seenRev(form), phrase.Clip(name, 120), phrase.Clip(note, 2000))
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/versions/%d", id))
	return nil
}

// duplicate begins a new recipe with the text of another and all that was settled of it.
func (s *Server) duplicate(c *gin.Context) error {
	r, ver, err := s.headOf(c)
	if err != nil {
		return err
	}
	typed := ver.Typed
	typed.Facts.Title = phrase.Clip(r.Title, 100) + " (2)"
	id, err := s.store.AddDraft(c.Request.Context(), 0, ver.SourceText, typed)
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/drafts/%d", id))
	return nil
}

func (s *Server) loadVersion(c *gin.Context) (versionView, *store.Version, error) {
	ver, err := s.store.Version(c.Request.Context(), paramID(c))
	if err != nil {
		return versionView{}, nil, err
	}
	if _, err := s.atTable(c); err != nil { // whose version it is
		return versionView{}, nil, err
	}
	return s.versionView(ver, s.kit.Kitchen), ver, nil
}

func (s *Server) versionView(ver *store.Version, k measure.Kitchen) versionView {
	v := versionView{
		ID: ver.ID, RecipeID: ver.Recipe, Title: ver.Title, Kept: ver.CreatedAt.Local().Format("2 January 2006, 15:04"),
		Note: ver.Note, Rev: ver.MarkRev(), Gone: ver.Gone, Engine: ver.Engine, Adapted: ver.Adapted(), Take: takeView{ver.ID, forms},
	}
	if res := ver.Result; res != nil {
		changed := map[recipe.LineID]bool{}
		for _, ch := range res.Changes {
			for _, t := range ch.To {
				changed[t.Line] = true
			}
		}
		v.For = phrase.Capital(s.requestWords(res.Request))
		v.Verdict = verdictOf(res.Today(s.kit.Larder))
		v.Lines = s.lineRows(res, changed, k)
		v.Ledger = ledgerOf(res, res.Request, k)
		v.Method = methodOf(tasksInSpoons(res, k), res.Recipe, freshNames(res))
		v.Slice = sliceOf(res, s.kit.Larder)
		v.Bake = bakeOf(res, k)
		v.Doubts, v.Confidence = res.Doubts, confidenceWords(string(res.Confidence))
		for _, ca := range res.Cautions {
			v.Cautions = append(v.Cautions, cautionView{ca.Text, ca.Defers})
		}
		v.Again = recipeURL(ver.Recipe, "adapt", ver.Request)
		v.Facts = fmt.Sprintf("serves %d", res.Recipe.Servings)
		v.Long = longCard(v)
		return v
	}
	res := &adapt.Result{Recipe: ver.Doc, Measures: map[int]string{}}
	for _, l := range ver.Doc.Lines {
		res.Measures[int(l.ID)] = strings.TrimSpace(l.Amount.String() + " " + l.Unit)
	}
	v.Lines = s.lineRows(res, nil, k)
	for _, st := range ver.Doc.Steps { // as it is written
		v.Method.Steps = append(v.Method.Steps, stepRow{Text: []textPart{{Text: st.Text}}})
	}
	v.Facts = factsWords(ver.Doc)
	v.Long = longCard(v)
	v.Again = recipeURL(ver.Recipe, "adapt", "")
	return v
}

// mostOnACard is how many letters of a method, and how many lines, stand on one sheet in letters to be read at arm's length.
// Source: calculated from A4 less its margins.
const mostOnACard, mostLines = 1900, 26

func longCard(v versionView) bool {
	n := 0
	for _, st := range v.Method.Steps {
		for _, t := range st.Text {
			n += len(t.Text)
		}
		n += 40 // what is left of its last line
	}
	return n > mostOnACard || len(v.Lines) > mostLines
}

func (s *Server) version(c *gin.Context) error {
	v, _, err := s.loadVersion(c)
	if err != nil {
		return err
	}
	s.show(c, http.StatusOK, "version", page{Title: v.Title, Nav: "shelf", View: v})
	return nil
}

// card is the version as one sheet to print.
func (s *Server) card(c *gin.Context) error {
	v, _, err := s.loadVersion(c)
	if err != nil {
		return err
	}
	v.A5 = c.Query("on") == "a5"
	if strings.Contains(strings.ToLower(v.Title), strings.ToLower(v.For)) {
		v.For = "" // its name says it
	}
	s.show(c, http.StatusOK, "card", page{Title: v.Title + ": card", Nav: "shelf", Script: "card", View: v})
	return nil
}

// sourcesView lists where the numbers come from.
type sourcesView struct {
	Ingredients []sourceRow
	Schools     []schoolRow
	Sweet       []substanceRow
	Heat        []termRow // with the source as ID
	Bans        []termRow // likewise
	Holds       []termRow // likewise: what holds a bake up, and what each kind needs
	Count       int
}

// substanceRow is what a pure sugar or sugar alcohol does.
type substanceRow struct{ Name, Browns, Feeds, Cools, Dissolves, Source string }

type sourceRow struct {
	Name, Family, Source, Weights, Allergens string
	Energy, Water, Fat, Sugars               string
}

type schoolRow struct{ Use, Title, Parts, Source string }

func (s *Server) sources(c *gin.Context) error {
	v := sourcesView{Count: len(s.kit.Larder.All())}
	for _, i := range s.kit.Larder.All() {
		n := nutritionPer100(i)
		row := sourceRow{
			Name: i.Name, Family: i.Family.Words(), Source: i.Sources["macro"].Words(),
			Energy: fmt.Sprintf("%.0f", n.Energy), Water: measure.Digits(i.Facts[larder.Water], 3),
			Fat: measure.Digits(i.Facts[larder.Fat], 3), Sugars: measure.Digits(i.Facts.Sugars(), 3),
		}
		var ws []string
		for _, w := range i.Weights {
			ws = append(ws, fmt.Sprintf("%s %s %s (%s)", w.How, w.Unit, w.Grams, w.Source.Tag().Words()))
		}
		row.Weights = strings.Join(ws, "; ")
		row.Allergens = holdsWords(i)
		v.Ingredients = append(v.Ingredients, row)
	}
	for _, u := range s.kit.Swaps.Uses() {
		for _, sc := range u.Schools {
			var ps []string
			for _, p := range sc.Parts {
				if p.ID == swap.From {
					continue // some of it stays
				}
				ps = append(ps, fmt.Sprintf("%s %s", measure.Grams(p.Grams), s.kit.Larder.Get(p.ID).Name))
			}
			v.Schools = append(
				v.Schools,
				schoolRow{fmt.Sprintf("%g g %s", u.Per, u.Title), sc.Title, strings.Join(ps, " + "), sc.Source.Words()},
			)
		}
	}
	for _, x := range sweet.Substances() {
		feeds := "no"
		if x.Feeds > 0 {
			feeds = "yes"
		}
		v.Sweet = append(
			v.Sweet,
			substanceRow{
				larder.Columns[x.Column].Name, measure.Digits(x.Browns, 2), feeds, measure.Digits(x.Cools, 3),
				measure.Digits(x.Dissolves, 3), x.Source.Words(),
			},
		)
	}
	for _, b := range diet.Bans() {
		v.Bans = append(v.Bans, termRow{b.Source.Words(), phrase.Capital(b.Words), b.Says})
	}
	for _, x := range structure.Carriers() {
		v.Holds = append(v.Holds, termRow{
			x.Source.Words(), phrase.Capital(x.Words), fmt.Sprintf("%g g give %g, at most %g", x.Per, x.Gives, x.Cap),
		})
	}
	for _, x := range structure.Needs() {
		v.Holds = append(v.Holds, termRow{x.Source.Words(), phrase.Capital(x.Kind.Words()), fmt.Sprintf("needs %g", x.Need)})
	}
	for _, x := range oven.Constants() {
		v.Heat = append(v.Heat, termRow{x.Source.Words(), phrase.Capital(x.What), x.Value})
	}
	s.show(c, http.StatusOK, "sources", page{Title: "Where the numbers come from", Nav: "sources", View: v})
	return nil
}
