package web

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/learn"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/format"
	"kollaris/internal/store"
)

// plan is the timetable of one recipe, as it is asked for.
func (s *Server) plan(c *gin.Context) error {
	query := c.Request.URL.Query()
	of := url.Values{}
	for name, values := range query {
		if !slices.Contains(planFields, name) {
			of[name] = values
		}
	}
	return s.showPlan(c, []plannedBake{{id: paramID(c), query: of}}, query)
}

// plans is the timetable of several bakes, each a b as plannedBake.code writes it; without any it
// lists the plans that are kept.
func (s *Server) plans(c *gin.Context) error {
	query := c.Request.URL.Query()
	if !query.Has("b") && c.Request.URL.Path == "/plans" {
		return s.listPlans(c)
	}
	return s.showPlan(c, plannedBakes(query), query)
}

// theBake is the one bake of an address, with its time foretold.
func (s *Server) theBake(c *gin.Context, query url.Values) (code, title string, res *adapt.Result, err error) {
	bakes := plannedBakes(query)
	if len(bakes) == 0 {
		return "", "", nil, fmt.Errorf("%w: no bake", errForm)
	}
	title, res, err = s.planned(c, bakes[0])
	return bakes[0].code(), title, res, err
}

// planned is a bake of a plan with its time foretold: adapted, or as it was kept.
func (s *Server) planned(c *gin.Context, b plannedBake) (title string, res *adapt.Result, err error) {
	if b.kept {
		ver, err := s.store.Version(c.Request.Context(), b.id)
		switch {
		case err != nil:
			return "", nil, err
		case ver.Result != nil:
			return ver.Title, ver.Result.Predict(s.kit.Kitchen), nil
		}
		b = plannedBake{id: ver.Recipe} // the written recipe itself
	}
	r, err := s.store.Recipe(c.Request.Context(), b.id)
	if err != nil {
		return "", nil, err
	}
	if err := s.reread(c, r); err != nil {
		return "", nil, err
	}
	req, _, err := s.asked(c, b.query, b.id)
	if err != nil {
		return "", nil, err
	}
	res, err = adapt.Predicted(r.Doc, req, s.kit)
	return r.Title, res, err
}

// paced is a result whose hands take as long as this household's do; for plans.
func (s *Server) paced(c *gin.Context, res *adapt.Result) (*adapt.Result, error) {
	taught, err := s.learned(c)
	if err != nil {
		return nil, err
	}
	times := taught.Times(learn.Task, leastTold)
	if len(times) == 0 {
		return res, nil
	}
	copied := *res
	copied.Method = method.WithHands(res.Method, times)
	return &copied, nil
}

// leastTold is how often a task must have been timed before plans count on it. Source: practice: the first time
// somebody looks for the grater.
const leastTold = 3

func cannotBake(title string, res *adapt.Result) string {
	return fmt.Sprintf("%s cannot be baked so: %s", title, res.Refused.Reason)
}

// allPlanned are the bakes of a plan that can be baked; of the others why not.
func (s *Server) allPlanned(c *gin.Context, bakes []plannedBake) (names []string, results []*adapt.Result, faults []string, err error) {
	for _, b := range bakes {
		title, res, err := s.planned(c, b)
		if _, fault, err := s.notThere(c, b, err); err != nil {
			return nil, nil, nil, err
		} else if fault != "" {
			faults = append(faults, fault)
			continue
		}
		if res.Refused != nil {
			faults = append(faults, cannotBake(title, res))
			continue
		}
		if res, err = s.paced(c, res); err != nil {
			return nil, nil, nil, err
		}
		names, results = append(names, title), append(results, res)
	}
	return names, results, faults, nil
}

// notThere says of a bake that was put away or cannot be read that it is left out, "" of one that is there. What never
// was is not found.
func (s *Server) notThere(c *gin.Context, b plannedBake, err error) (title, fault string, _ error) {
	torn := store.BrokenOf(err)
	switch {
	case torn != nil:
		return torn.Name, fmt.Sprintf("“%s” cannot be read, and is left out here.", torn.Name), nil
	case !errors.Is(err, store.ErrNotFound):
		return "", "", err
	}
	kind := "recipe"
	if b.kept {
		kind = "version"
	}
	title, err = s.store.NameOf(c.Request.Context(), kind, b.id)
	return title, fmt.Sprintf("“%s” was put away, and is left out here. It can be brought back from what was put away.", title), err
}

// timetable is a plan worked out: what it is asked, what came of it.
type timetable struct {
	view  planView
	bakes []plan.Bake
	names []string
	made  *plan.Plan // nil where the view says why not
	now   time.Time
}

// timetable works out the plan of some bakes; kept is the plan as it is kept, nil for none.
func (s *Server) timetable(c *gin.Context, bakes []plannedBake, query url.Values, kept *store.Plan) (*timetable, error) {
	t := &timetable{now: time.Now().Truncate(time.Minute)}
	v := &t.view
	begin := t.now
	if kept != nil && kept.From.After(begin) {
		begin = kept.From
	}
	k, eat := s.planAsked(v, query, begin)
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return nil, err
	}
	for _, o := range ovens {
		k.Ovens = append(k.Ovens, plan.Oven{Name: o.Name, Preheat: o.Preheat, Width: o.Width, Depth: o.Depth, Shelves: o.Shelves})
	}
	var results []*adapt.Result
	t.names, results, v.Faults, err = func() ([]string, []*adapt.Result, []string, error) {
		names, results, faults, err := s.allPlanned(c, bakes)
		return names, results, append(v.Faults, faults...), err
	}()
	if err != nil {
		return nil, err
	}
	t.bakes = plan.Bakes(t.names, results, s.kit)
	v.options(t.bakes, bakes, eat, ovens, query)
	v.Clashes = plan.ClashWords(t.bakes)
	if len(v.Faults) > 0 {
		if len(t.names) > 0 && len(t.names) < len(bakes) { // their ovens and hours are told by their places
			v.Faults = append(v.Faults, "Until then the others are not planned either.")
		}
		return t, nil
	}
	day := s.home.Day
	k.Has = day.Counts().Has(t.bakes)
	if kept != nil {
		k.Prefer = kept.Order
		if len(kept.Done) > 0 && kept.Shape != plan.Shape(t.bakes) {
			v.Faults = append(v.Faults, "A recipe has changed since: what was ticked off is no longer the same, and stands as not done.")
		} else {
			k.Done = kept.Done
		}
	}
	if t.made, err = plan.Make(t.bakes, k); err != nil {
		t.made = nil
		v.Faults = append(v.Faults, phrase.Sentence(err.Error()))
	}
	return t, nil
}

// showPlan works the plan out and shows it, or sends it as a calendar.
func (s *Server) showPlan(c *gin.Context, bakes []plannedBake, query url.Values) error {
	t, err := s.timetable(c, bakes, query, nil)
	if err != nil {
		return err
	}
	v := &t.view
	v.Action = strings.TrimSuffix(c.Request.URL.Path, ".ics")
	v.title(t.names, len(bakes))
	whole := planQuery(query, bakes)
	if strings.HasPrefix(v.Action, "/recipes/") {
		of := bakes[0].query.Encode()
		v.Rail = rail(bakes[0].id, "plan", of)
		for name, values := range bakes[0].query {
			for _, val := range values {
				v.Hidden = append(v.Hidden, hidden{name, val})
			}
		}
		slices.SortFunc(v.Hidden, func(a, b hidden) int { return strings.Compare(a.Name+a.Value, b.Name+b.Value) })
	} else {
		for _, b := range bakes {
			v.Hidden = append(v.Hidden, hidden{"b", b.code()})
		}
	}
	if t.made != nil {
		if strings.HasSuffix(c.Request.URL.Path, ".ics") {
			id := v.Action + strings.Join(t.names, "|") + t.made.Ready.Format(time.DateOnly)
			attach(c, "text/calendar; charset=utf-8", "plan.ics", format.Calendar(id, t.names, t.made, int(t.now.Unix()/60), t.now))
			return nil
		}
		v.planned(t.made, t.names, t.now, s.kit.Kitchen)
		v.Shop = "/plans/shop?" + url.Values{"b": whole["b"]}.Encode()
		v.Bake = "/bakes/new?" + url.Values{"b": whole["b"]}.Encode()
		v.Calendar = v.Action + ".ics?" + query.Encode()
		v.Keep = whole.Encode()
		v.later(t.made, func(eat string) string {
			moved, _ := url.ParseQuery(query.Encode())
			moveMeal(moved, eat)
			return v.Action + "?" + moved.Encode()
		})
	}
	s.show(c, http.StatusOK, "plan", page{Title: v.Title + ": plan", Nav: "plans", Script: "plan", View: *v})
	return nil
}
