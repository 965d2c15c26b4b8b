package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/internal/device"
	"kollaris/internal/store"
)

// lay lays over a request what is the household's rather than the address's: what the
// people named must have, what is known of the oven and of the recipe's own pace, how high the kitchen lies.
func (s *Server) lay(c *gin.Context, req *adapt.Request, recipe int64) error {
	if err := s.eaters(c, req); err != nil {
		return err
	}
	h := s.home
	req.Oven.Setup.Altitude = h.Altitude
	taught, err := s.learned(c)
	if err != nil {
		return err
	}
	req.Oven.Pace = taught.Pace(recipe)
	if req.Oven.Oven == 0 {
		return nil
	}
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return err
	}
	for _, o := range ovens {
		if o.ID == req.Oven.Oven {
			req.Oven.Learned = o.Learned()
			req.Oven.Setup.Fan = req.Oven.Setup.Fan || o.Fan
			return nil
		}
	}
	req.Oven.Oven = 0 // it was put away
	return nil
}

func (s *Server) ovens(c *gin.Context) error { return s.showOvens(c, http.StatusOK, ovensTyped{}) }

// ovensBad shows the page with what was typed and why it will not do.
func (s *Server) ovensBad(c *gin.Context, t ovensTyped) error {
	return s.showOvens(c, http.StatusUnprocessableEntity, t)
}

func (s *Server) showOvens(c *gin.Context, status int, t ovensTyped) error {
	k := s.home.Kitchen
	v := ovensView{
		Rev: s.home.Rev, DevicesRev: s.home.Rev,
		Unit: k.Degrees(), Saved: c.Query("saved"), Known: knownTins(k),
		Reading: k.Warmer(oven.ReadingSD), Unknown: k.Warmer(oven.PriorOffset),
		New: ovenView{F: ovenFields(store.Oven{})}, NewTin: tinViewOf(store.OwnTin{}, t),
		Altitude: field{
			ID: "altitude", Words: "It is at", Unit: "m above the sea.", Value: number(s.home.Altitude), Hint: "0",
			Mode: "numeric", Size: 6,
		},
	}
	v.Devices = deviceFields(s.home.Devices)
	for _, l := range []*device.Link{s.scale(), s.probe()} {
		if words := s.standing(l); words != "" {
			v.Now = append(v.Now, words)
		}
	}
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return err
	}
	for _, o := range ovens {
		ov := ovenView{ID: o.ID, Rev: o.Rev, Name: o.Name, Fan: o.Fan, Sentence: ovenSentence(o, k), F: ovenFields(o)}
		for n, r := range o.Readings {
			ov.Readings = append(
				ov.Readings,
				learnedView{
					strconv.Itoa(n),
					fmt.Sprintf(
						"%s: dial %s, thermometer %s", dayWords(r.On), k.Temperature(measure.Celsius(r.Dial)),
						k.Temperature(measure.Celsius(r.Air)),
					),
					r.Forgotten,
				},
			)
		}
		for n, b := range o.Bakes {
			words := fmt.Sprintf("%s: %s took %.2f of the time", dayWords(b.On), b.Title, b.Ratio)
			ov.Bakes = append(ov.Bakes, learnedView{strconv.Itoa(n), words, b.Forgotten})
		}
		if t.of == "oven" && t.oven == o.ID {
			ov.typed(t)
		}
		v.Ovens = append(v.Ovens, ov)
	}
	switch {
	case t.of == "oven" && t.oven == 0:
		v.New.typed(t)
	case t.of == "devices":
		v.Devices.typed(t.form, t.faults)
		v.DevicesRev = seenRev(t.form)
	case t.of == "altitude":
		v.Altitude.Value, v.Altitude.Fault = t.form.Get("altitude"), phrase.Sentence(t.faults["altitude"])
		v.Rev = seenRev(t.form)
	}
	tins, err := s.store.OwnTins(c.Request.Context())
	if err != nil {
		return err
	}
	for _, own := range tins {
		v.Tins = append(v.Tins, tinViewOf(own, t))
	}
	for _, kind := range []string{"oven", "tin"} {
		torn, err := s.store.Torn(c.Request.Context(), kind)
		if err != nil {
			return err
		}
		v.Torn = append(v.Torn, torn...)
	}
	if id := c.Query("gone"); id != "" {
		v.Undo = &termRow{ID: id, Name: c.Query("name")}
	}
	s.show(c, status, "ovens", page{Title: "Ovens and tins", Nav: "ovens", Script: "page", View: v})
	return nil
}

func (s *Server) addOven(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	faults := map[string]string{}
	o := readOven(form, faults)
	if err := s.soleOven(c, 0, o.Name, faults); err != nil {
		return err
	}
	if len(faults) > 0 {
		return s.ovensBad(c, ovensTyped{form, faults, "oven", 0})
	}
	if _, err := s.store.AddOven(c.Request.Context(), o); err != nil {
		return err
	}
	return s.kept(c, o.Name)
}

// soleOven refuses a name that another oven has.
func (s *Server) soleOven(c *gin.Context, id int64, name string, faults map[string]string) error {
	ovens, err := s.store.Ovens(c.Request.Context())
	for _, o := range ovens {
		if o.ID != id && plainName(o.Name) == plainName(name) {
			faults["name"] = fmt.Sprintf("An oven is called “%s” already: another name tells them apart", o.Name)
		}
	}
	return err
}

// kept goes back to the page and says what was kept.
func (s *Server) kept(c *gin.Context, what string) error {
	c.Redirect(http.StatusSeeOther, "/ovens?saved="+urlEscape(what))
	return nil
}

func (s *Server) changeOven(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	id := paramID(c)
	faults := map[string]string{}
	var change func(*store.Oven)
	name := ""
	switch do := form.Get("do"); do {
	case "leave", "return":
		return s.putAway(c, id, form)
	case "forget", "count":
		n, err := strconv.Atoi(form.Get("n"))
		change = func(o *store.Oven) {
			if err == nil && n >= 0 && n < len(o.Readings) {
				o.Readings[n].Forgotten = do == "forget"
			}
			name = o.Name
		}
	case "forget-bake", "count-bake":
		n, err := strconv.Atoi(form.Get("n"))
		change = func(o *store.Oven) {
			if err == nil && n >= 0 && n < len(o.Bakes) {
				o.Bakes[n].Forgotten = do == "forget-bake"
			}
			name = o.Name
		}
	case "reading":
		r := store.Reading{On: time.Now().Format(time.DateOnly)}
		for _, x := range []struct {
			field string
			to    *float64
		}{{"dial", &r.Dial}, {"air", &r.Air}} {
			*x.to = s.heatTyped(c, form.Get(x.field), x.field, faults)
		}
		change = func(o *store.Oven) { o.Readings, name = append(o.Readings, r), o.Name }
	default:
		to := readOven(form, faults)
		if err := s.soleOven(c, id, to.Name, faults); err != nil {
			return err
		}
		change = func(o *store.Oven) {
			o.Name, o.Fan, o.Width, o.Depth, o.Shelves, o.Preheat, name = to.Name, to.Fan, to.Width, to.Depth, to.Shelves, to.Preheat, to.Name
		}
	}
	if len(faults) > 0 {
		return s.ovensBad(c, ovensTyped{form, faults, "oven", id})
	}
	if err := s.store.ChangeOven(c.Request.Context(), id, seenRev(form), change); err != nil {
		return err
	}
	return s.kept(c, name)
}

// heatTyped reads a temperature in the household's scale, or with its scale written;
// °C.
func (s *Server) heatTyped(c *gin.Context, typed, field string, faults map[string]string) float64 {
	t, ok := measure.ParseTemperature(typed, s.kit.Kitchen.Fahrenheit)
	if !ok || !(t >= 50 && t <= 320) {
		faults[field] = fmt.Sprintf("“%s” is no oven's heat: try 180 C or 350 F", strings.TrimSpace(typed))
	}
	return float64(t)
}

// scaled gives temperatures that were typed without one the household's scale.
func (s *Server) scaled(c *gin.Context, v url.Values) {
	if !s.kit.Kitchen.Fahrenheit {
		return
	}
	for _, name := range []string{"at", "then", "batter"} {
		if t := strings.TrimSpace(v.Get(name)); t != "" && strings.Trim(t, "0123456789.,-") == "" {
			v.Set(name, t+" F")
		}
	}
}

// putAway takes an oven or tin out of the kitchen, or brings it back.
func (s *Server) putAway(c *gin.Context, id int64, form url.Values) error {
	gone := form.Get("do") == "leave"
	if err := s.store.PutAway(c.Request.Context(), id, gone); err != nil {
		return err
	}
	if gone {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/ovens?gone=%d&name=%s", id, urlEscape(form.Get("called"))))
		return nil
	}
	c.Redirect(http.StatusSeeOther, "/ovens")
	return nil
}

func (s *Server) saveAltitude(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	faults := map[string]string{}
	m := gap(form, "altitude", 0, 6000, "metres above the sea, such as 1600", faults)
	if len(faults) > 0 {
		return s.ovensBad(c, ovensTyped{form, faults, "altitude", 0})
	}
	if err := s.store.ChangeHousehold(c.Request.Context(), seenRev(form), func(h *store.Household) { h.Altitude = m }); err != nil {
		return err
	}
	return s.kept(c, "The altitude")
}
