package web

import (
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// bakesPage is how many bakes stand on a page of them.
const bakesPage = 100

// bakes lists what was baked, what goes on first; what is asked for by words, month or who baked it.
func (s *Server) bakes(c *gin.Context) error {
	all, err := s.store.Bakes(c.Request.Context())
	if err != nil {
		return err
	}
	log, err := s.store.Log(c.Request.Context(), 0)
	if err != nil {
		return err
	}
	said := map[int64][]string{}
	for _, l := range log {
		if l.Words != "" {
			said[l.Bake] = append(said[l.Bake], l.Words)
		}
	}
	v := bakesView{Words: soughtFor(c), Say: c.Query("say"), Bad: c.Query("bad") != ""}
	month, who := c.Query("month"), c.Query("who")
	for _, b := range all {
		on := b.Begun.Local()
		v.Months = addChoice(v.Months, choice{on.Format("2006-01"), on.Format("January 2006"), month == on.Format("2006-01")})
		if b.Who != "" {
			v.People = addChoice(v.People, choice{b.Who, b.Who, who == b.Who})
		}
		row := bakeRow{ID: b.ID, Name: b.Name, When: on.Format("Monday ") + onDay(on) + on.Format(", 15:04"), Over: !b.Over.IsZero(), Who: b.Who, Said: strings.Join(said[b.ID], "; ")}
		if month != "" && on.Format("2006-01") != month || who != "" && b.Who != who || !saysAll(b.Name+" "+row.Said+" "+b.Who, v.Words) {
			continue
		}
		v.Rows = append(v.Rows, row)
	}
	v.Asked = month != "" || who != "" || v.Words != ""
	var from, to int
	from, to, v.Pages = pagesOf(c, "/bakes", len(v.Rows), bakesPage, nil)
	v.Rows = v.Rows[from:to]
	if id := c.Query("gone"); id != "" {
		v.Undo = &hidden{id, c.Query("name")}
	}
	s.show(c, http.StatusOK, "bakes", page{Title: "Bakes", Nav: "bakes", Script: "page", View: v})
	return nil
}

// addChoice adds a choice that is not there yet.
func addChoice(list []choice, c choice) []choice {
	if slices.ContainsFunc(list, func(x choice) bool { return x.Value == c.Value }) {
		return list
	}
	return append(list, c)
}

// saysAll reports whether a text holds every word that is sought, without regard to case and accents.
func saysAll(text, sought string) bool {
	text = larder.Normal(text)
	for _, w := range strings.Fields(larder.Normal(sought)) {
		if !strings.Contains(text, w) {
			return false
		}
	}
	return true
}

// newBake is the page before a bake is begun: what is baked, and what was found out last time.
func (s *Server) newBake(c *gin.Context) error {
	query := c.Request.URL.Query()
	bakes := plannedBakes(query)
	if len(bakes) == 0 {
		return fmt.Errorf("%w: no bake", errForm)
	}
	v := newBakeView{Plan: query.Get("plan")}
	var err error
	if v.People, err = s.names(c); err != nil {
		return err
	}
	running, err := s.store.Running(c.Request.Context())
	if err != nil {
		return err
	}
	for _, b := range running {
		if slices.ContainsFunc(bakes, func(x plannedBake) bool { return slices.Contains(b.Codes, x.code()) }) {
			v.Running = append(v.Running, bakeRow{ID: b.ID, Name: b.Name, When: b.Begun.Local().Format("Monday 15:04")})
		}
	}
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return err
	}
	for n, b := range bakes {
		title, res, err := s.planned(c, b)
		if gone, fault, err := s.notThere(c, b, err); err != nil {
			return err
		} else if fault != "" {
			v.Names = append(v.Names, gone)
			v.Bakes, v.Shut = append(v.Bakes, newBakeOf{Title: gone, Code: b.code(), N: n, Fault: fault + " Begin the others by themselves, or bring it back first."}), true
			continue
		}
		one := newBakeOf{Title: title, Code: b.code(), N: n}
		if !b.kept {
			for _, o := range ovens {
				one.Ovens = append(one.Ovens, choice{strconv.FormatInt(o.ID, 10), o.Name, o.ID == res.Request.Oven.Oven})
			}
		}
		v.Names = append(v.Names, title)
		if res.Refused != nil {
			one.Fault = cannotBake(title, res)
			v.Shut = true
		} else {
			for _, x := range res.Cautions {
				one.Cautions = append(one.Cautions, x.Text+" "+x.Defers)
			}
			one.Verdict = verdictOf(res.Today(s.kit.Larder))
			if _, drinks, words, err := s.drinks(c, res); err != nil {
				return err
			} else if drinks > 0 {
				one.Drinks = words
			}
			one.Last, err = s.lastTime(c, b.code())
			if err != nil {
				return err
			}
		}
		v.Bakes = append(v.Bakes, one)
	}
	v.Title = phrase.And(v.Names)
	s.show(c, http.StatusOK, "newbake", page{Title: "Bake: " + v.Title, Nav: "bakes", Script: "page", View: v})
	return nil
}

// mostLooked is how many bakes of a recipe are looked at for the last that was of the same version. No source: a year of Saturdays.
const mostLooked = 52

// lastTime says what was added by the spoon when this was baked last, "" for nothing.
func (s *Server) lastTime(c *gin.Context, code string) (string, error) {
	recipe, err := journal.RecipeOf(c.Request.Context(), s.store, code)
	if err != nil || recipe == 0 {
		return "", err
	}
	lines, err := s.store.Log(c.Request.Context(), recipe)
	if err != nil {
		return "", err
	}
	for _, l := range lines[:min(len(lines), mostLooked)] {
		b, err := s.store.Bake(c.Request.Context(), l.Bake)
		if err != nil {
			return "", err
		}
		n := slices.IndexFunc(b.Of, func(of store.BakeOf) bool { return of.Code == code })
		if n < 0 || b.Over.IsZero() {
			continue
		}
		t, err := s.sit(c, b.ID)
		if err != nil {
			return "", err
		}
		sheet, p := t.sheets[n], &t.state.Strips[n]
		added := p.Unlike(sheet)
		var words []string
		for _, id := range slices.Sorted(maps.Keys(added)) {
			switch g, name := added[id], sheet.Recipe.Line(id).Name; {
			case g >= 1:
				words = append(words, fmt.Sprintf("%s more %s", measure.Grams(g), name))
			case g <= -1:
				words = append(words, fmt.Sprintf("%s less %s", measure.Grams(-g), name))
			}
		}
		for _, x := range p.Spoons {
			if i := s.kit.Larder.Get(x.Food); i != nil && x.Line == 0 {
				words = append(words, fmt.Sprintf("%s of %s beside", measure.Grams(x.Grams), i.Name))
			}
		}
		if len(words) == 0 {
			return "", nil
		}
		return fmt.Sprintf("On %s it took %s than it says here.", onDay(b.Begun), phrase.And(words)), nil
	}
	return "", nil
}

// beginBake begins a bake of one or several.
func (s *Server) beginBake(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	bakes := plannedBakes(form)
	if len(bakes) == 0 || len(bakes) > plan.Most {
		return fmt.Errorf("%w: no bake", errForm)
	}
	b := store.Bake{Begun: s.counter.now()}
	b.Plan, _ = strconv.ParseInt(form.Get("plan"), 10, 64)
	b.Who = phrase.Clip(strings.TrimSpace(form.Get("who")), 40)
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return err
	}
	var names []string
	for n, x := range bakes {
		code := x.code() // without the oven, so that the next bake is known as one of the same
		if in := nth(form, "in", n); in != "" && !x.kept {
			x.query.Set("in", in)
		}
		title, res, err := s.planned(c, x)
		if err != nil {
			return err
		}
		if res.Refused != nil {
			s.fail(c, http.StatusUnprocessableEntity, problem{Title: "That cannot be baked", Do: cannotBake(title, res)})
			return nil
		}
		of := store.BakeOf{Title: title, Code: code, Result: res, Preheat: plan.UsualPreheat}
		if slices.Contains(form["drinks"], strconv.Itoa(n)) {
			if of.Result, of.Drinks, _, err = s.drinks(c, res); err != nil {
				return err
			}
		}
		for _, o := range ovens {
			if o.ID == res.Request.Oven.Oven {
				of.Oven = o.Name
				if o.Preheat > 0 {
					of.Preheat = o.Preheat
				}
			}
		}
		b.Of, names = append(b.Of, of), append(names, title)
	}
	b.Name = phrase.Clip(phrase.And(names), 160)
	id, err := s.store.AddBake(c.Request.Context(), b)
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, bakeURL(id, 0))
	return nil
}
