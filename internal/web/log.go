package web

import (
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/bake"
	"kollaris/core/learn"
	"kollaris/core/phrase"
	"kollaris/core/why"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// logBake is what came of a bake: what happened, what people say of it, what may be behind it.
func (s *Server) logBake(c *gin.Context) error {
	t, err := s.sit(c, paramID(c))
	if err != nil {
		return err
	}
	n, _ := strconv.Atoi(c.Query("bake"))
	return s.showLog(c, http.StatusOK, t, max(0, min(n, len(t.sheets)-1)), nil, nil)
}

// showLog shows it; form is a judgement that cannot be kept, nil for none, with its faults by the names of its boxes.
func (s *Server) showLog(c *gin.Context, status int, t *sitting, n int, form url.Values, faults map[string]string) error {
	stands := t.state.Strips[n].Judged
	v := logView{ID: t.ID, Title: t.Of[n].Title, Strip: n, NewID: newID, Say: c.Query("say"), Rev: store.RevOf(stands), Symptoms: len(stands.Symptoms)}
	for k := range t.sheets {
		v.Strips = append(v.Strips, stripTab{N: k, Title: t.Of[k].Title, URL: logURL(t.ID, k), Current: k == n})
	}
	v.happened(t, n, s.kit)
	if err := s.photosOf(c, &v); err != nil {
		return err
	}
	said := stands
	if form != nil {
		said, v.Rev = judgementTyped(form), seenRev(form)
	}
	v.judged(said)
	if form != nil {
		v.F.typed(form, faults)
		v.Say = "Nothing was kept yet: " + phrase.And(slices.Sorted(maps.Values(faults))) + "."
	}
	names, err := s.names(c)
	if err != nil {
		return err
	}
	v.eaters(names, said)
	asked := s.caseOf(t, n)
	log, err := s.store.Log(c.Request.Context(), 0)
	if err != nil {
		return err
	}
	asked.Helped = helpedBy(log)
	v.why(asked)
	v.lastTrial(log, t, n)
	if err := s.trials(c, &v, t, n); err != nil {
		return err
	}
	s.show(c, status, "log", page{Title: "What came of it: " + v.Title, Nav: "bakes", Script: "page", View: v})
	return nil
}

func logURL(id int64, strip int) string { return fmt.Sprintf("/bakes/%d/log?bake=%d", id, strip) }

// caseOf is a bake as it is asked about: what it is, what its recipe, the counter and the oven say, what is seen.
func (s *Server) caseOf(t *sitting, n int) why.Case {
	p, sheet, res := &t.state.Strips[n], t.sheets[n], t.Of[n].Result
	if len(p.Slips) > 0 { // its figures are those of what lay in the bowl
		bowl := *res
		bowl.Recipe = p.Slipped(res.Recipe, s.kit.Larder)
		res = &bowl
	}
	c := why.Of(res, s.kit)
	c.Symptoms, c.Answers = p.Judged.Symptoms, p.Judged.Answers
	if p.Judged.Cooled > 0 {
		c.Figures["cooled"] = p.Judged.Cooled
	}
	if b := res.Bakes; b != nil && b.Yours.Learned.Asked() {
		c.Figures["oven-off"] = b.Yours.Learned.Offset
	}
	if task, _, _ := sheet.Working(s.kit.Larder); task >= 0 && !p.WentIn.IsZero() {
		if at, done := p.Done[task]; done {
			c.Figures["stood"] = p.WentIn.Sub(at).Minutes()
		}
	}
	if !p.Out.IsZero() && res.Bake != nil && !sheet.Again(max(p.Baking, 0)) {
		c.Figures["longer"] = p.Out.Sub(p.WentIn).Minutes() / res.Bake.Minutes
		for _, x := range p.Sights {
			if x.Look == "" {
				c.Figures["core-below"] = float64(res.Bake.Done) - x.Core
			}
		}
	}
	if mass := p.Mass(sheet); p.Weight > 0 && mass > p.Weight {
		c.Figures["loss"] = 1 - p.Weight/mass
	}
	s.bowlFigures(c, t, n)
	return c
}

// bowlFigures are what lay in the bowl against what was worked out.
func (s *Server) bowlFigures(c why.Case, t *sitting, n int) {
	p, sheet := &t.state.Strips[n], t.sheets[n]
	if len(p.In) == 0 {
		return
	}
	got, err := p.Bowl(sheet, s.bowlKit(t, n)).Solve()
	if err != nil {
		return
	}
	for _, x := range got.Sums {
		if x.ID == "water" && x.Scale > 0 {
			c.Figures["water-off"] = (x.Is - x.Aim) / x.Scale
		}
	}
	added, liquid := 0.0, 0.0
	for id, g := range p.Unlike(sheet) {
		if l := sheet.Recipe.Line(id); l != nil && g > 0 {
			added, liquid = added+g, liquid+l.Grams
		}
	}
	if liquid > 0 {
		c.Figures["spoons"] = added / liquid
	}
}

// trials gives each cause whose change is an amount or a heat its next version.
func (s *Server) trials(c *gin.Context, v *logView, t *sitting, n int) error {
	recipe, err := journal.RecipeOf(c.Request.Context(), s.store, t.Of[n].Code)
	if err != nil || recipe == 0 {
		return err
	}
	v.Recipe = recipeURL(recipe, "log", "")
	for k := range v.Causes {
		if req, ok := why.Next(t.Of[n].Result, v.Causes[k].cause, s.kit); ok {
			v.Causes[k].Next = recipeURL(recipe, "adapt", req.Values().Encode())
		}
	}
	return nil
}

// judgements are the events after which the log's lines are written anew.
var judgements = []bake.What{bake.Finish, bake.Undo, bake.Judge, bake.CameOut}

// judgeForm takes a whole judgement as the log's form sends it, an event for each part that changed.
func (s *Server) judgeForm(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	s.counter.judging.Lock() // what was seen stands until what is said of it does
	defer s.counter.judging.Unlock()
	t, err := s.sit(c, paramID(c))
	if err != nil {
		return err
	}
	n, err := strconv.Atoi(form.Get("bake"))
	if err != nil || n < 0 || n >= len(t.sheets) {
		return fmt.Errorf("%w: no bake", errForm)
	}
	events, faults := s.judgedOf(t, n, form)
	to := logURL(t.ID, n)
	if len(faults) > 0 {
		return s.showLog(c, http.StatusUnprocessableEntity, t, n, form, faults)
	}
	if rev := seenRev(form); rev != store.AnyRev && rev != store.RevOf(t.state.Strips[n].Judged) {
		return store.ErrChanged
	}
	if _, err := s.store.AddEvents(c.Request.Context(), t.ID, events); err != nil {
		return err
	}
	if err := s.fold(c, t); err != nil {
		return err
	}
	if err := journal.Keep(c.Request.Context(), s.store, s.kit.Larder, t.Bake, t.state); err != nil {
		return err
	}
	if cause := strings.TrimSpace(form.Get("tried")); cause != "" { // and on to the bench
		v := logView{}
		v.why(s.caseOf(t, n))
		if err := s.trials(c, &v, t, n); err != nil {
			return err
		}
		for _, x := range v.Causes {
			if x.ID == cause && x.Next != "" {
				to = x.Next
			}
		}
		c.Redirect(http.StatusSeeOther, to)
		return nil
	}
	c.Redirect(http.StatusSeeOther, to+"#why-h")
	return nil
}

// judgedOf are the events of a judgement's form; faults say by the names of its boxes what cannot be used.
func (s *Server) judgedOf(t *sitting, n int, form map[string][]string) (events []bake.Event, faults map[string]string) {
	faults = map[string]string{}
	was := t.state.Strips[n].Judged
	at := s.counter.now()
	add := func(key string, value float64, text string) {
		events = append(events, bake.Event{ID: newID(), At: at, Bake: n, What: bake.Judge, Key: key, Value: value, Text: text})
	}
	first := func(name string) string {
		if list := form[name]; len(list) > 0 {
			return strings.TrimSpace(list[0])
		}
		return ""
	}
	for _, one := range []string{"answer", "helped", "tried"} {
		cause := phrase.Clip(first(one), 30)
		switch {
		case cause == "":
		case one == "tried":
			add(one, 0, cause)
			return events, nil
		default:
			add(one+":"+cause, float64(b2i(first("yes") != "")), "")
			return events, nil
		}
	}
	for _, x := range why.Symptoms() {
		now, before := contains(form["symptom"], x.ID), contains(was.Symptoms, x.ID)
		if now != before {
			add("symptom:"+x.ID, float64(b2i(now)), "")
		}
	}
	if k, err := strconv.Atoi(first("overall")); err == nil && k != was.Overall {
		add("overall", float64(k), "")
	}
	for _, f := range []struct {
		name string
		was  float64
		most float64
		what string
	}{{"height", was.Height, 40, "how high in cm: try 7.5"}, {"cooled", was.Cooled, 200, "how many hours it cooled: try 2"}} {
		typed := first(f.name)
		if typed == "" {
			if f.was > 0 {
				add(f.name, 0, "")
			}
			continue
		}
		x, ok := decimalUpTo(typed, f.most)
		if !ok {
			faults[f.name] = fmt.Sprintf("“%s” is not %s", phrase.Clip(typed, 20), f.what)
		} else if x != f.was {
			add(f.name, x, "")
		}
	}
	if words := phrase.Clip(first("words"), 500); words != was.Words {
		add("words", 0, words)
	}
	for k, name := range form["eater"] {
		name = phrase.Clip(name, 40)
		if k < len(form["eater-overall"]) {
			if x, err := strconv.Atoi(form["eater-overall"][k]); err == nil && x != was.By[name].Overall {
				add("overall:"+name, float64(x), "")
			}
		}
		if k < len(form["eater-sweet"]) {
			said := learn.Verdict(form["eater-sweet"][k])
			if said != was.By[name].Sweet && slices.ContainsFunc(sweetWords, func(x sweetWord) bool { return x.said == said }) {
				add("sweet:"+name, 0, string(said))
			}
		}
	}
	return events, faults
}

// judgementTyped is a judgement as its form has it, but for the boxes of figures.
func judgementTyped(form url.Values) (j bake.Judged) {
	j.Symptoms, j.Words = form["symptom"], form.Get("words")
	j.Overall, _ = strconv.Atoi(form.Get("overall"))
	overall, sweet := form["eater-overall"], form["eater-sweet"]
	j.By = map[string]bake.Said{}
	for k, name := range form["eater"] {
		if k < len(overall) && k < len(sweet) {
			x, _ := strconv.Atoi(overall[k])
			j.By[name] = bake.Said{Overall: x, Sweet: learn.Verdict(sweet[k])}
		}
	}
	return j
}
