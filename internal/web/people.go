package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/table"
	"kollaris/internal/store"
)

// seats are those at the table, what they must not have read by today's rule, and by id
// what there is to ask of them where that changes it.
type seats struct {
	people []store.Person
	asked  map[int64][]diet.Changed
}

// atTable lists those at the table; it asks the store once a request.
func (s *Server) atTable(c *gin.Context) (seats, error) {
	if s.seats != nil {
		return *s.seats, nil
	}
	people, err := s.store.People(c)
	if err != nil {
		return seats{}, err
	}
	t := seats{people, map[int64][]diet.Changed{}}
	for n, p := range people {
		people[n].Person, t.asked[p.ID] = p.Reread(s.kit.Larder)
	}
	s.seats = &t
	return t, nil
}

// covers says in full what bans shut out, those aside that are just one food.
func covers(bans []string) string {
	var out []string
	for _, b := range bans {
		if c := diet.Covers(b); c != "" {
			out = append(out, c)
		}
	}
	return strings.Join(out, " · ")
}

// eaters lays what the people named in a request must have over it. Somebody who
// has left the table is dropped from the request.
func (s *Server) eaters(c *gin.Context, req *adapt.Request) error {
	if len(req.For) == 0 {
		return nil
	}
	seated, err := s.atTable(c)
	if err != nil {
		return err
	}
	var there []int64
	var chosen []table.Person
	for _, p := range seated.people {
		if slices.Contains(req.For, p.ID) {
			there, chosen = append(there, p.ID), append(chosen, p.Person)
		}
	}
	req.For, req.Theirs = there, table.Join(chosen)
	return nil
}

// benchPeople puts the people on the For bar.
func (s *Server) benchPeople(c *gin.Context, v *benchView, req adapt.Request) error {
	seated, err := s.atTable(c)
	if err != nil {
		return err
	}
	var chosen []table.Person
	for _, p := range seated.people {
		on := slices.Contains(req.For, p.ID)
		if on {
			chosen = append(chosen, p.Person)
		}
		v.People = append(v.People, checkbox{fmt.Sprint(p.ID), p.Name, strings.Join(p.Demand().Words(), ", "), on})
	}
	v.Traces = table.Traces(chosen)
	if len(seated.people) > len(chosen) {
		all := req
		all.For = nil
		for _, p := range seated.people {
			all.For = append(all.For, p.ID)
		}
		v.Everyone = recipeURL(v.ID, "adapt", all.Values().Encode())
	}
	return nil
}

// peopleView is those at the table, with the sentence of one of them open.
type peopleView struct {
	People []personView
	New    personView
	Undo   *personView
	Ask    []personView // of whom there is something to ask
}

type personView struct {
	ID, Rev  int64
	Name     string
	Sentence string
	Diets    []checkbox
	Bans     string
	Covers   string // what the bans shut out, in full
	Asked    []diet.Changed
	Limits   []limitField
	Degrees  []checkbox
	Portion  string
	Guest    bool
	Open     bool
	Faults   map[string]string
}

func (s *Server) personView(p store.Person) personView {
	v := personView{ID: p.ID, Rev: p.Rev, Name: p.Name, Sentence: p.Sentence(), Guest: p.Guest, Faults: map[string]string{}}
	for _, d := range diet.Diets {
		v.Diets = append(v.Diets, checkbox{string(d.ID), string(d.ID), d.Says, slices.Contains(p.Diets, d.ID)})
	}
	var bans []string
	for _, b := range p.Bans {
		bans = append(bans, diet.BanWords(b))
	}
	v.Bans = strings.Join(append(bans, p.Unread...), ", ")
	v.Covers = covers(p.Bans)
	for _, what := range diet.Limitable() {
		f := limitField{ID: string(what), Words: what.Words(), Unit: what.Unit(), Hint: "no limit"}
		for _, l := range p.Limits {
			if l.What == what {
				f.Value = fmt.Sprintf("%g", l.Max)
			}
		}
		v.Limits = append(v.Limits, f)
	}
	strict := p.Strict
	if strict == "" {
		strict = table.Upsets
	}
	for _, d := range table.Degrees {
		v.Degrees = append(v.Degrees, checkbox{ID: string(d.ID), Words: d.Words, On: d.ID == strict})
	}
	if p.Portion > 0 && p.Portion != 1 {
		v.Portion = fmt.Sprintf("%g", p.Portion)
	}
	return v
}

func (s *Server) people(c *gin.Context) error { return s.showPeople(c, http.StatusOK, nil) }

func (s *Server) showPeople(c *gin.Context, status int, bad *personView) error {
	seated, err := s.atTable(c)
	if err != nil {
		return err
	}
	v := peopleView{New: s.personView(store.Person{})}
	for _, p := range seated.people {
		pv := s.personView(p)
		if pv.Asked = seated.asked[p.ID]; len(pv.Asked) > 0 {
			pv.Open = true
			v.Ask = append(v.Ask, pv)
		}
		if bad != nil && bad.ID == p.ID {
			pv = *bad
		}
		v.People = append(v.People, pv)
	}
	if bad != nil && bad.ID == 0 {
		v.New = *bad
	}
	if id, name := c.Query("gone"), c.Query("name"); id != "" {
		n, _ := strconv.ParseInt(id, 10, 64)
		v.Undo = &personView{ID: n, Name: name}
	}
	s.show(c, status, "people", page{Title: "People", Nav: "people", Script: "page", View: v})
	return nil
}

// readPerson reads the sentence's gaps; what cannot be used stays as typed with its
// fault.
func (s *Server) readPerson(form url.Values, p store.Person) (store.Person, *personView) {
	p.Name, p.Guest = strings.TrimSpace(form.Get("name")), form.Get("guest") != ""
	p.Diets, p.Bans, p.Limits, p.Portion = nil, nil, nil, 0
	faults := map[string]string{}
	if p.Name == "" || len(p.Name) > 40 {
		faults["name"] = "Say who it is: a name or a role of up to 40 letters."
	}
	for _, id := range form["diet"] {
		if _, ok := diet.Find(diet.ID(id)); ok {
			p.Diets = append(p.Diets, diet.ID(id))
		}
	}
	must, bad := diet.ParseBans(form.Get("bans"), s.kit.Larder)
	for _, m := range bad {
		faults["bans"] = strings.TrimSpace(faults["bans"] + " " + phrase.Sentence(m.Why))
	}
	must = diet.Demand{Diets: p.Diets}.With(must) // "no lactose" is a diet
	p.Diets, p.Bans = must.Diets, must.Bans
	for _, what := range diet.Limitable() {
		typed := strings.TrimSpace(form.Get("limit." + string(what)))
		if typed == "" {
			continue
		}
		l, err := diet.ParseLimit(string(what) + ":" + typed)
		if err != nil {
			faults["limit."+string(what)] = phrase.Sentence(err.Error())
			continue
		}
		p.Limits = append(p.Limits, l)
	}
	p.Strict = table.Strictness(form.Get("strict"))
	if p.Strict.Rank() == len(table.Degrees) {
		p.Strict = table.Upsets
	}
	if typed := strings.TrimSpace(form.Get("portion")); typed != "" {
		x, err := measure.ParseDecimal(typed)
		if err != nil || !(x > 0 && x <= 20) {
			faults["portion"] = fmt.Sprintf("“%s” is no number of servings: try 1 or 2.", typed)
		} else {
			p.Portion = x
		}
	}
	if len(faults) == 0 {
		return p, nil
	}
	v := s.personView(p)
	v.Faults, v.Open, v.Bans, v.Portion, v.Name = faults, true, form.Get("bans"), form.Get("portion"), form.Get("name")
	for n := range v.Limits {
		v.Limits[n].Value, v.Limits[n].Fault = form.Get("limit."+v.Limits[n].ID), faults["limit."+v.Limits[n].ID]
	}
	return p, &v
}

func (s *Server) addPerson(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	p, bad := s.readPerson(form, store.Person{})
	if bad != nil {
		return s.showPeople(c, http.StatusUnprocessableEntity, bad)
	}
	if _, err := s.store.AddPerson(c, p.Person); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/people")
	return nil
}

func (s *Server) changePerson(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	rev, _ := strconv.ParseInt(form.Get("rev"), 10, 64)
	was := store.Person{ID: paramID(c), Rev: rev}
	switch form.Get("do") {
	case "leave", "return":
		if err := s.store.LeaveTable(c, was.ID, form.Get("do") == "leave"); err != nil {
			return err
		}
		to := "/people"
		if form.Get("do") == "leave" {
			to += fmt.Sprintf("?gone=%d&name=%s", was.ID, urlEscape(form.Get("name")))
		}
		c.Redirect(http.StatusSeeOther, to)
		return nil
	}
	p, bad := s.readPerson(form, was)
	if bad != nil {
		return s.showPeople(c, http.StatusUnprocessableEntity, bad)
	}
	if err := s.store.SetPerson(c, p); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/people")
	return nil
}
