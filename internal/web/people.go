package web

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/table"
	"kollaris/internal/store"
)

// atTable lists those at the table; it asks the store once a request.
func (s *Server) atTable(c *gin.Context) (seats, error) {
	if s.seats != nil {
		return *s.seats, nil
	}
	people, err := s.store.People(c.Request.Context())
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

// names are those of who is at the table. Nothing is judged by a name: where somebody cannot be read it is nobody's.
func (s *Server) names(c *gin.Context) (out []string, err error) {
	seated, err := s.atTable(c)
	if store.BrokenOf(err) != nil {
		return nil, nil
	}
	for _, p := range seated.people {
		out = append(out, p.Name)
	}
	return out, err
}

// leftOut notes somebody for whom a page is asked, and who is no longer at the table: the page says so.
func (s *Server) leftOut(c *gin.Context, id int64) error {
	name, err := s.store.NameOf(c.Request.Context(), "person", id)
	if errors.Is(err, store.ErrNotFound) {
		name, err = "Somebody", nil
	}
	if err == nil && !slices.Contains(s.gone, name) {
		s.gone = append(s.gone, name)
	}
	return err
}

// eaters lays what the people named in a request must have over it. Somebody who
// has left the table is dropped from the request, and the page says so.
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
	for _, id := range req.For {
		if !slices.ContainsFunc(seated.people, func(p store.Person) bool { return p.ID == id }) {
			if err := s.leftOut(c, id); err != nil {
				return err
			}
		}
	}
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

func (s *Server) addPerson(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	p, bad := s.readPerson(form, store.Person{})
	if bad != nil {
		return s.showPeople(c, http.StatusUnprocessableEntity, bad)
	}
	if _, err := s.store.AddPerson(c.Request.Context(), p.Person); err != nil {
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
		if err := s.store.LeaveTable(c.Request.Context(), was.ID, form.Get("do") == "leave"); err != nil {
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
	if err := s.store.SetPerson(c.Request.Context(), p); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/people")
	return nil
}
