package web

import (
	"crypto/rand"
	"crypto/subtle"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/format"
	"kollaris/internal/store"
)

// plansView lists the plans that are kept.
type plansView struct {
	Torn []*store.Broken // that cannot be read
	Rows []plansRow
	Shop string  // one list for all that are to come, "" for fewer than two
	Undo *hidden // one that was taken away: its id and name
}

type plansRow struct {
	ID                int64
	Name, When, Ticks string
	Past              bool
}

// listPlans lists the plans that are kept, those to come first.
func (s *Server) listPlans(c *gin.Context) error {
	kept, err := s.store.Plans(c.Request.Context())
	if err != nil {
		return err
	}
	v := plansView{}
	if v.Torn, err = s.store.Torn(c.Request.Context(), "plan"); err != nil {
		return err
	}
	now := time.Now()
	all, coming := url.Values{}, 0
	for _, p := range kept {
		row := plansRow{ID: p.ID, Name: p.Name}
		if q, err := url.ParseQuery(p.Query); err == nil {
			if eat, err := formTime(q.Get("eat")); err == nil {
				row.When, row.Past = eat.Format("Monday 2 January, 15:04"), eat.Before(now)
				if !row.Past {
					coming++
					all["b"] = append(all["b"], q["b"]...)
				}
			}
		}
		if n := len(p.Done); n > 0 {
			row.Ticks = fmt.Sprintf("%d done", n)
		}
		v.Rows = append(v.Rows, row)
	}
	slices.SortStableFunc(v.Rows, func(a, b plansRow) int { return b2i(a.Past) - b2i(b.Past) })
	if coming > 1 {
		v.Shop = "/plans/shop?" + all.Encode()
	}
	if id := c.Query("gone"); id != "" {
		v.Undo = &hidden{id, c.Query("name")}
	}
	s.show(c, http.StatusOK, "plans", page{Title: "Plans", Nav: "plans", Script: "page", View: v})
	return nil
}

// keepPlan keeps a plan as its page asked for it.
func (s *Server) keepPlan(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	query, err := url.ParseQuery(form.Get("plan"))
	bakes := plannedBakes(query)
	if err != nil || len(bakes) == 0 {
		return fmt.Errorf("%w: no bakes", errForm)
	}
	names, _, _, err := s.allPlanned(c, bakes)
	if err != nil {
		return err
	}
	name := strings.TrimSpace(form.Get("name"))
	if name == "" {
		name = phrase.And(names)
	}
	if query.Get("eat") == "" {
		query.Set("eat", time.Now().AddDate(0, 0, 1).Format(time.DateOnly)+"T09:00")
	}
	id, err := s.store.AddPlan(c.Request.Context(), store.Plan{Name: phrase.Clip(name, 120), Query: planQuery(query, bakes).Encode()})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, planURL(id))
	return nil
}

func planURL(id int64) string { return fmt.Sprintf("/plans/%d", id) }

// keptPlan works a kept plan out.
func (s *Server) keptPlan(c *gin.Context) (store.Plan, *timetable, error) {
	p, err := s.store.Plan(c.Request.Context(), paramID(c))
	if err != nil {
		return p, nil, err
	}
	query, err := url.ParseQuery(p.Query)
	if err != nil {
		return p, nil, err
	}
	t, err := s.timetable(c, plannedBakes(query), query, &p)
	return p, t, err
}

// showKept shows a kept plan: to tick off, to move, to take to the shop.
func (s *Server) showKept(c *gin.Context) error {
	p, t, err := s.keptPlan(c)
	if err != nil {
		return err
	}
	v := &t.view
	at := planURL(p.ID)
	v.Title, v.Action, v.Say = p.Name, at, c.Query("say")
	if len(t.names) > 1 {
		v.Names = phrase.And(t.names)
	}
	v.Kept = &keptView{ID: p.ID, Rev: p.Rev, Name: p.Name, NameRev: store.RevOf(p.Name), Done: len(p.Done)}
	if p.From.After(t.now) {
		v.Kept.From = p.From.Format("15:04")
	}
	query, _ := url.ParseQuery(p.Query)
	for _, b := range query["b"] {
		v.Hidden = append(v.Hidden, hidden{"b", b})
	}
	for _, pin := range query["pin"] {
		v.Hidden = append(v.Hidden, hidden{"pin", pin})
	}
	v.Hidden = append(v.Hidden, hidden{"rev", strconv.FormatInt(p.Rev, 10)})
	if t.made != nil {
		v.planned(t.made, t.names, t.now, s.kit.Kitchen)
		v.pinned(query["pin"])
		v.baking(t.made, t.now)
		v.Shop, v.Calendar = at+"/shop", at+"/plan.ics"
		v.Bake = "/bakes/new?" + url.Values{"b": query["b"], "plan": {strconv.FormatInt(p.ID, 10)}}.Encode()
		if p.Calendar != "" {
			v.Kept.Address = "http://" + c.Request.Host + at + "/calendar.ics?word=" + p.Calendar
		}
		v.later(t.made, func(string) string { return "" })
	}
	s.show(c, http.StatusOK, "plan", page{Title: v.Title, Nav: "plans", Script: "plan", View: *v})
	return nil
}

// changePlan changes what is asked of a kept plan, or one thing of it: what is ticked, moved, begun
// late, renamed, taken away.
func (s *Server) changePlan(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	id := paramID(c)
	rev := seenRev(form)
	to := planURL(id)
	switch form.Get("do") {
	case "drop":
		name, err := s.store.NameOf(c.Request.Context(), "plan", id)
		if err != nil {
			return err
		}
		if err := s.store.DropPlan(c.Request.Context(), id, true); err != nil {
			return err
		}
		to = fmt.Sprintf("/plans?gone=%d&name=%s", id, urlEscape(name))
	case "restore":
		if err := s.store.DropPlan(c.Request.Context(), id, false); err != nil {
			return err
		}
	case "tick":
		if err := s.tick(c, id, form); err != nil {
			return err
		}
		to += "#next"
	case "rename": // over the name that was seen: ticks change the plan meanwhile, and not that
		err := s.store.ChangePlan(c.Request.Context(), id, store.AnyRev, func(p *store.Plan) error {
			if rev != store.AnyRev && rev != store.RevOf(p.Name) {
				return store.ErrChanged
			}
			if name := strings.TrimSpace(form.Get("name")); name != "" {
				p.Name = phrase.Clip(name, 120)
			}
			return nil
		})
		if err != nil {
			return err
		}
	default:
		bad := ""
		err := s.store.ChangePlan(c.Request.Context(), id, rev, func(p *store.Plan) error {
			bad = change(p, form, time.Now().Truncate(time.Minute))
			return nil
		})
		if err != nil {
			return err
		}
		if bad != "" {
			to += "?say=" + urlEscape(bad)
		}
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// change does one thing to a kept plan; what cannot be done is said.
func change(p *store.Plan, form url.Values, now time.Time) string {
	query, _ := url.ParseQuery(p.Query)
	switch form.Get("do") {
	case "late":
		n, err := strconv.Atoi(strings.TrimSpace(form.Get("minutes")))
		if err != nil || n < 0 || n > 24*60 {
			return fmt.Sprintf("“%s” are no minutes: try 20.", phrase.Clip(form.Get("minutes"), 10))
		}
		p.From = now.Add(time.Duration(n) * time.Minute)
	case "eat":
		if _, err := formTime(form.Get("at")); err != nil {
			return fmt.Sprintf("“%s” is no time.", phrase.Clip(form.Get("at"), 20))
		}
		moveMeal(query, form.Get("at"))
	case "pin":
		key := form.Get("key")
		query["pin"] = slices.DeleteFunc(query["pin"], func(pin string) bool { return strings.HasPrefix(pin, key+"@") })
		if t, err := formTime(form.Get("at")); err == nil {
			query.Add("pin", key+"@"+t.Format(timeForm))
		}
	case "oven":
		if n, err := strconv.Atoi(form.Get("bake")); err == nil && n >= 0 && n < len(query["b"]) {
			setNth(query, "p-oven", n, form.Get("oven"))
		}
	case "calendar":
		p.Calendar = ""
		if form.Get("on") != "" {
			p.Calendar = strings.ToLower(rand.Text())
		}
	default:
		bakes := plannedBakes(form)
		if len(bakes) == 0 {
			return "Nothing was changed: the form named no bake."
		}
		query = planQuery(form, bakes)
	}
	p.Query = query.Encode()
	return ""
}

// tick takes a task as done, or as not done after all. What goes into an oven stays in the one it
// was planned for.
func (s *Server) tick(c *gin.Context, id int64, form url.Values) error {
	p, t, err := s.keptPlan(c)
	if err != nil {
		return err
	}
	key, done := form.Get("key"), form.Get("done") != ""
	at := t.now
	if typed, err := formTime(form.Get("at")); err == nil && !typed.After(t.now) {
		at = typed
	}
	oven, bake := "", -1
	if t.made == nil {
		return nil
	}
	n := slices.IndexFunc(t.made.Tasks, func(x plan.Placed) bool { return x.Key == key })
	if n < 0 {
		return nil // it went with a change of the recipe, or was never there
	}
	if x := t.made.Tasks[n]; x.Oven != "" {
		oven, bake = x.Oven, x.Bake
	}
	err = s.store.ChangePlan(c.Request.Context(), id, store.AnyRev, func(now *store.Plan) error {
		if shape := plan.Shape(t.bakes); now.Shape != shape {
			now.Done, now.Shape = nil, shape
		}
		if now.Done == nil {
			now.Done = map[string]time.Time{}
		}
		delete(now.Done, key)
		if done {
			now.Done[key] = at
		}
		now.Order = t.made.Sequence
		if done && bake >= 0 {
			query, _ := url.ParseQuery(p.Query)
			setNth(query, "p-oven", bake, oven)
			now.Query = query.Encode()
		}
		return nil
	})
	if err != nil {
		return err
	}
	p, t, err = s.keptPlan(c)
	if err != nil || t.made == nil {
		return err
	}
	finished := !slices.ContainsFunc(t.made.Tasks, func(x plan.Placed) bool { return !x.Done })
	return s.useStock(c, p, finished)
}

// planCalendar sends a kept plan as a calendar: to be saved, or to be subscribed to with the word that
// the household gave out.
func (s *Server) planCalendar(c *gin.Context) error {
	p, t, err := s.keptPlan(c)
	if err != nil {
		return err
	}
	subscribed := strings.HasSuffix(c.Request.URL.Path, "/calendar.ics")
	if subscribed && (p.Calendar == "" || subtle.ConstantTimeCompare([]byte(p.Calendar), []byte(c.Query("word"))) != 1) || t.made == nil {
		return store.ErrNotFound
	}
	data := format.Calendar(p.UID, t.names, t.made, int(p.Rev), p.Kept)
	if subscribed {
		c.Data(http.StatusOK, "text/calendar; charset=utf-8", data)
		return nil
	}
	attach(c, "text/calendar; charset=utf-8", "plan.ics", data)
	return nil
}
