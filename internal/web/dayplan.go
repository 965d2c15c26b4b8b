package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/internal/store"
)

// dayView is with whom and with what the household bakes.
type dayView struct {
	Fields []field
	Rev    int64 // of the settings as they were seen
	Uses   bool
	Saved  bool
}

// dayFields are its boxes, with what is settled.
func dayFields(d store.Day, k measure.Kitchen) []field {
	count := func(n int) string {
		if n == 0 {
			return ""
		}
		return strconv.Itoa(n)
	}
	room := ""
	if d.Room != 0 {
		room = degreesOnly(k, d.Room)
	}
	return []field{
		{ID: "from", Words: "Hands work from", Value: d.From, Hint: "06:00", Size: 6},
		{ID: "to", Words: "to", Value: d.To, Hint: "22:30", Size: 6},
		{ID: "away", Words: "Nobody is there", Value: d.Away, Hint: "Mon-Fri 08:30-17:00; Sat 9-12", Size: 34},
		{ID: "cooks", Words: "Cooks at a time", Value: count(d.Cooks), Hint: "1", Mode: "numeric", Size: 3},
		{ID: "room", Words: "Dough rises at", Unit: k.Degrees(), Value: room, Hint: degreesOnly(k, orRoom(0)), Mode: "decimal", Size: 4},
		{ID: "bowls", Words: "Mixing bowls", Value: count(d.Bowls), Hint: "enough", Mode: "numeric", Size: 6},
		{ID: "tins", Words: "Tins of one kind", Value: count(d.Tins), Hint: "enough", Mode: "numeric", Size: 6},
		{ID: "fridge", Words: "Bowls or trays the fridge has room for", Value: count(d.Fridge), Hint: "enough", Mode: "numeric", Size: 6},
		{ID: "hob", Words: "Rings on the hob", Value: count(d.Hob), Hint: "enough", Mode: "numeric", Size: 6},
		{ID: "warm", Words: "Bowls or tins the warm place has room for", Value: count(d.Warm), Hint: "enough", Mode: "numeric", Size: 6},
	}
}

// readDay reads the boxes; faults by their names.
func readDay(form url.Values, k measure.Kitchen) (d store.Day, faults map[string]string) {
	faults = map[string]string{}
	get := func(name string) string { return strings.TrimSpace(form.Get(name)) }
	for name, to := range map[string]*string{"from": &d.From, "to": &d.To} {
		if *to = get(name); *to == "" {
			continue
		}
		h, err := plan.ParseHour(*to)
		if err != nil {
			faults[name] = err.Error()
		}
		*to = h
	}
	d.Away = get("away")
	if _, err := plan.ParseAway(d.Away); err != nil {
		faults["away"] = err.Error()
	}
	if typed := get("room"); typed != "" {
		t, ok := roomTyped(typed, k)
		if d.Room = t; !ok {
			faults["room"] = noRoom(typed, k)
		}
	}
	for name, to := range map[string]*int{"cooks": &d.Cooks, "bowls": &d.Bowls, "tins": &d.Tins, "fridge": &d.Fridge, "hob": &d.Hob, "warm": &d.Warm} {
		most := 50
		if name == "cooks" {
			most = maxCooks
		}
		typed := get(name)
		if typed == "" || typed == "enough" {
			continue
		}
		n, err := strconv.Atoi(typed)
		if *to = n; err != nil || n < 1 || n > most {
			faults[name] = fmt.Sprintf("“%s” are not so many: try 1 to %d, or leave it empty", phrase.Clip(typed, 10), most)
		}
	}
	d.Uses = form.Get("uses") != ""
	return d, faults
}

// saveDay keeps them.
func (s *Server) saveDay(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	d, faults := readDay(form, s.kit.Kitchen)
	if len(faults) > 0 {
		v := &dayView{Fields: dayFields(store.Day{}, s.kit.Kitchen), Rev: seenRev(form), Uses: d.Uses}
		for n := range v.Fields {
			f := &v.Fields[n]
			f.Value = strings.TrimSpace(form.Get(f.ID))
			if why := faults[f.ID]; why != "" {
				f.Fault = phrase.Sentence(why)
			}
		}
		return s.showSettings(c, http.StatusUnprocessableEntity, false, v)
	}
	if err := s.store.ChangeHousehold(c.Request.Context(), seenRev(form), func(h *store.Household) { h.Day = d }); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/settings?day=1#day")
	return nil
}
