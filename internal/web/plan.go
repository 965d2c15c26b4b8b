package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/core/yeast"
	"kollaris/format"
)

// planFields are the fields of a plan's form beside the bakes'.
var planFields = []string{"eat", "from", "to", "cooks", "room", "b"}

// plannedBake is a bake of a plan's address: a recipe and what is asked of it, or a kept version.
type plannedBake struct {
	id    int64
	kept  bool // id is a version's
	query url.Values
}

// code is how a bake stands in an address: "3:diet=keto", or "v12" for a version.
func (b plannedBake) code() string {
	if b.kept {
		return fmt.Sprintf("v%d", b.id)
	}
	return fmt.Sprintf("%d:%s", b.id, b.query.Encode())
}

// maxCooks is how many a home kitchen holds. Source: practice.
const maxCooks = 9

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

// plans is the timetable of several bakes, each a b as plannedBake.code writes it.
func (s *Server) plans(c *gin.Context) error {
	query := c.Request.URL.Query()
	return s.showPlan(c, plannedBakes(query), query)
}

// plannedBakes reads the bakes of an address; what is none is left out.
func plannedBakes(query url.Values) []plannedBake {
	var bakes []plannedBake
	for _, b := range query["b"] {
		id, asked, _ := strings.Cut(b, ":")
		id, kept := strings.CutPrefix(id, "v")
		n, err := strconv.ParseInt(id, 10, 64)
		q, err2 := url.ParseQuery(asked)
		if err != nil || err2 != nil {
			continue
		}
		bakes = append(bakes, plannedBake{n, kept, q})
	}
	return bakes
}

// planned is a bake of a plan with its time foretold: adapted, or as it was kept.
func (s *Server) planned(c *gin.Context, b plannedBake) (title string, res *adapt.Result, err error) {
	if b.kept {
		ver, err := s.store.Version(c, b.id)
		switch {
		case err != nil:
			return "", nil, err
		case ver.Result != nil:
			return ver.Title, ver.Result.Predict(s.kit.Kitchen), nil
		}
		b = plannedBake{id: ver.Recipe} // the written recipe itself
	}
	r, err := s.store.Recipe(c, b.id)
	if err != nil {
		return "", nil, err
	}
	if err := s.reread(c, r); err != nil {
		return "", nil, err
	}
	req, _ := adapt.ParseRequest(b.query, s.kit.Larder)
	if err := s.lay(c, &req); err != nil {
		return "", nil, err
	}
	res, err = adapt.Predicted(r.Doc, req, s.kit)
	return r.Title, res, err
}

func cannotBake(title string, res *adapt.Result) string {
	return fmt.Sprintf("%s cannot be baked so: %s", title, res.Refused.Reason)
}

// planAddress is the address of a plan for several bakes.
func planAddress(bakes []plannedBake) string {
	v := url.Values{}
	for _, b := range bakes {
		v.Add("b", b.code())
	}
	return "/plans?" + v.Encode()
}

// showPlan works the plan out and shows it, or sends it as a calendar.
func (s *Server) showPlan(c *gin.Context, bakes []plannedBake, query url.Values) error {
	v := planView{Title: fmt.Sprintf("Plan of %d bakes", len(bakes)), Action: c.Request.URL.Path}
	v.Action = strings.TrimSuffix(v.Action, ".ics")
	k, eat := s.planAsked(&v, query)
	ovens, err := s.store.Ovens(c)
	if err != nil {
		return err
	}
	for _, o := range ovens {
		k.Ovens = append(k.Ovens, plan.Oven{Name: o.Name})
	}
	var todo []plan.Bake
	var results []*adapt.Result
	var names []string
	for _, b := range bakes {
		title, res, err := s.planned(c, b)
		if err != nil {
			return err
		}
		if len(bakes) == 1 {
			v.Title = title
		}
		if strings.HasPrefix(v.Action, "/recipes/") {
			v.Rail = rail(b.id, "plan", res.Request.Values().Encode())
			for name, values := range res.Request.Values() {
				for _, val := range values {
					v.Hidden = append(v.Hidden, hidden{name, val})
				}
			}
			slices.SortFunc(v.Hidden, func(a, b hidden) int { return strings.Compare(a.Name+a.Value, b.Name+b.Value) })
		} else {
			v.Hidden = append(v.Hidden, hidden{"b", b.code()})
		}
		if res.Refused != nil {
			v.Faults = append(v.Faults, cannotBake(title, res))
			continue
		}
		todo = append(todo, plan.Bake{Name: title, Tasks: res.Method, Ready: eat})
		results = append(results, res)
		names = append(names, title)
	}
	if len(names) > 1 {
		v.Names = phrase.And(names)
	}
	before, clash := adapt.Orders(results, s.kit)
	for n := range todo {
		todo[n].Before = before[n]
	}
	for _, x := range clash {
		todo[x[0]].Clash, todo[x[1]].Clash = append(todo[x[0]].Clash, x[1]), append(todo[x[1]].Clash, x[0])
		v.Clashes = append(v.Clashes, fmt.Sprintf(
			"%s and %s each hold what the other’s eaters must not: all is washed between them, or bake one another day.",
			names[x[0]], names[x[1]],
		))
	}
	if len(v.Faults) == 0 {
		made, err := plan.Make(todo, k)
		switch {
		case err != nil:
			v.Faults = append(v.Faults, phrase.Sentence(err.Error()))
		case strings.HasSuffix(c.Request.URL.Path, ".ics"):
			id := v.Action + strings.Join(names, "|") + made.Ready.Format(time.DateOnly)
			attach(c, "text/calendar; charset=utf-8", "plan.ics", format.Calendar(id, names, made, int(k.Now.Unix()/60), k.Now))
			return nil
		default:
			v.planned(made, names, k.Now, s.kit.Kitchen)
			v.Shop = shopAddress(bakes)
			v.Calendar = v.Action + ".ics?" + query.Encode()
		}
	}
	s.show(c, http.StatusOK, "plan", page{Title: v.Title + ": plan", Nav: "shelf", Script: "card", View: v})
	return nil
}

// planAsked reads when and with how many hands; what cannot be used is said.
func (s *Server) planAsked(v *planView, query url.Values) (k plan.Kitchen, eat time.Time) {
	k = plan.Kitchen{Cooks: 1, Now: time.Now().Truncate(time.Minute)}
	or := func(name, usual string) string {
		if x := strings.TrimSpace(query.Get(name)); x != "" {
			return x
		}
		return usual
	}
	tomorrow := k.Now.AddDate(0, 0, 1)
	v.Eat = or("eat", tomorrow.Format("2006-01-02")+"T09:00")
	v.From, v.To = or("from", "06:00"), or("to", "22:30")
	v.Cooks = field{ID: "cooks", Words: "Cooks", Mode: "numeric", Size: 2, Value: or("cooks", "1")}
	eat, err := time.ParseInLocation("2006-01-02T15:04", v.Eat, time.Local)
	if err != nil {
		v.Faults = append(v.Faults, phrase.Sentence(fmt.Sprintf("“%s” is no time: %v", phrase.Clip(v.Eat, 20), plan.ErrNoReady)))
	}
	if n, err := strconv.Atoi(v.Cooks.Value); err == nil && n >= 1 && n <= maxCooks {
		k.Cooks = n
	} else {
		v.Cooks.Fault = fmt.Sprintf("“%s” cannot be the number of cooks: try 1 to %d", phrase.Clip(v.Cooks.Value, 10), maxCooks)
	}
	kitchen := s.kit.Kitchen
	v.Room = field{ID: "room", Words: "kitchen", Unit: kitchen.Degrees(), Mode: "decimal", Size: 3, Value: strings.TrimSpace(query.Get("room")), Hint: strings.TrimSuffix(strings.TrimSuffix(kitchen.Temperature(yeast.Usual), " °C"), " °F")}
	if v.Room.Value != "" {
		if t, ok := measure.ParseTemperature(v.Room.Value, kitchen.Fahrenheit); ok && t >= 5 && t <= 45 {
			k.Room = t
		} else {
			v.Room.Fault = fmt.Sprintf("“%s” is not how warm a kitchen is: try %s", phrase.Clip(v.Room.Value, 10), kitchen.Temperature(21))
		}
	}
	k.Awake = [2]string{v.From, v.To}
	return k, eat
}
