package web

import (
	"fmt"
	"math"
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
	"kollaris/core/tin"
	"kollaris/internal/store"
)

// lay lays over a request what is the household's rather than the address's: what the
// people named must have, what is known of the oven, how high the kitchen lies.
func (s *Server) lay(c *gin.Context, req *adapt.Request) error {
	if err := s.eaters(c, req); err != nil {
		return err
	}
	h := s.home
	req.Oven.Setup.Altitude = h.Altitude
	if req.Oven.Oven == 0 {
		return nil
	}
	ovens, err := s.store.Ovens(c)
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

// ovensView is the household's ovens and tins.
type ovensView struct {
	Ovens    []ovenView
	Tins     []tinView
	New      map[string]string // of an oven, as typed
	NewTin   map[string]string
	Altitude string
	Faults   map[string]string // by form and field
	Known    []knownTin        // the catalogue
	Saved    string
	Undo     *termRow // what was put away
	Shapes   []choice
	Metals   []choice
	Unit     string
	Reading  string // how far a reading may be off
	Unknown  string // how far an oven that nobody measured may be
}

type ovenView struct {
	ID       int64
	Name     string
	Sentence string
	Fan      bool
	Width    string
	Depth    string
	Shelves  string
	Readings []readingView
	Typed    map[string]string
	Open     bool
}

type readingView struct{ N, Words string }

func (s *Server) ovens(c *gin.Context) error { return s.showOvens(c, http.StatusOK, ovensView{}, 0) }

// showOvens shows the page; v carries what was typed and its faults, of the oven open.
func (s *Server) showOvens(c *gin.Context, status int, v ovensView, open int64) error {
	h := s.home
	k := h.Kitchen
	v.Unit, v.Saved = k.Degrees(), c.Query("saved")
	v.Reading, v.Unknown = k.Warmer(oven.ReadingSD), k.Warmer(oven.PriorOffset)
	if v.Altitude == "" && h.Altitude > 0 {
		v.Altitude = fmt.Sprintf("%g", h.Altitude)
	}
	ovens, err := s.store.Ovens(c)
	if err != nil {
		return err
	}
	size := func(x float64) string {
		if x == 0 {
			return ""
		}
		return fmt.Sprintf("%g", x)
	}
	for _, o := range ovens {
		ov := ovenView{ID: o.ID, Name: o.Name, Fan: o.Fan, Width: size(o.Width), Depth: size(o.Depth), Shelves: size(float64(o.Shelves)), Sentence: ovenSentence(o, k), Open: o.ID == open}
		if ov.Open {
			ov.Typed = v.New
		}
		for n, r := range o.Readings {
			ov.Readings = append(ov.Readings, readingView{strconv.Itoa(n), fmt.Sprintf("%s: dial %s, thermometer %s", dayWords(r.On), k.Temperature(measure.Celsius(r.Dial)), k.Temperature(measure.Celsius(r.Air)))})
		}
		v.Ovens = append(v.Ovens, ov)
	}
	if open != 0 {
		v.New = nil
	}
	tins, err := s.store.OwnTins(c)
	if err != nil {
		return err
	}
	for _, t := range tins {
		row := tinView{ID: t.ID, Name: t.Name, Tin: t.Text}
		if x, ok := tin.Parse(t.Text); ok && x.Volume > 0 && !strings.Contains(t.Text, "holds") {
			row.Holds = fmt.Sprintf("about %.0f ml", math.Round(float64(x.Volume)/10)*10)
		}
		v.Tins = append(v.Tins, row)
	}
	v.Known = knownTins(k)
	for _, x := range []struct{ id, words string }{{"round", "round"}, {"loaf", "loaf"}, {"square", "square"}, {"sheet", "oblong"}, {"ring", "ring"}, {"cups", "muffin tin"}} {
		v.Shapes = append(v.Shapes, choice{x.id, x.words, v.NewTin["shape"] == x.id})
	}
	for _, m := range tin.Materials {
		v.Metals = append(v.Metals, choice{string(m.ID), m.Words, v.NewTin["metal"] == string(m.ID)})
	}
	if id := c.Query("gone"); id != "" {
		v.Undo = &termRow{ID: id, Name: c.Query("name")}
	}
	s.show(c, status, "ovens", page{Title: "Ovens and tins", Nav: "ovens", Script: "page", View: v})
	return nil
}

// dayWords writes a date as people do.
func dayWords(on string) string {
	if t, err := time.Parse(time.DateOnly, on); err == nil {
		return t.Format("2 Jan 2006")
	}
	return on
}

// ovenSentence says what is known of an oven.
func ovenSentence(o store.Oven, k measure.Kitchen) string {
	l := o.Learned()
	if len(o.Readings) == 0 {
		return "Nothing is measured yet: " + ovensLie(k) + ", so times in it are given a wide window."
	}
	if math.Abs(l.Offset) < 2 {
		return fmt.Sprintf("True to its dial, within %s.", k.Warmer(measure.Celsius(l.OffsetSD())))
	}
	return phrase.Sentence(hotOrCool(l, k))
}

// ovensLie says how far ovens are off. Source: practice.
func ovensLie(k measure.Kitchen) string {
	low, _, _ := strings.Cut(k.Warmer(10), " ")
	return "ovens lie by " + low + " to " + k.Warmer(15)
}

// gapUnits are the units that stand beside the gaps, and may be typed with the number.
var gapUnits = map[string][]string{"width": {"cm"}, "depth": {"cm"}, "length": {"cm"}, "deep": {"cm"}, "water": {"ml", "g"}, "altitude": {"m"}}

// gap reads a number from a gap of a sentence; an empty one is 0.
func gap(form url.Values, name string, low, high float64, try string, faults map[string]string) float64 {
	typed := strings.TrimSpace(form.Get(name))
	if typed == "" {
		return 0
	}
	x, err := measure.ParseDecimal(typed, gapUnits[name]...)
	if err != nil || !(x >= low && x <= high) {
		faults[name] = fmt.Sprintf("“%s” cannot be that: try %s", typed, try)
		return 0
	}
	return x
}

// typedOf keeps what was typed.
func typedOf(form url.Values) map[string]string {
	out := map[string]string{}
	for name := range form {
		out[name] = form.Get(name)
	}
	return out
}

// readOven reads the sentence of an oven.
func readOven(form url.Values, faults map[string]string) store.Oven {
	o := store.Oven{Name: strings.TrimSpace(form.Get("name")), Fan: form.Get("fan") != ""}
	if o.Name == "" || len([]rune(o.Name)) > 60 {
		faults["name"] = "Give it a name of at most 60 letters, such as “old gas oven”"
	}
	o.Width = gap(form, "width", 10, 120, "the shelf's width in cm, such as 44", faults)
	o.Depth = gap(form, "depth", 10, 120, "the shelf's depth in cm, such as 37", faults)
	o.Shelves = int(gap(form, "shelves", 1, 6, "1, 2 or 3", faults))
	return o
}

func (s *Server) addOven(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	faults := map[string]string{}
	o := readOven(form, faults)
	if len(faults) > 0 {
		return s.showOvens(c, http.StatusUnprocessableEntity, ovensView{New: typedOf(form), Faults: prefixed("oven-0", faults)}, 0)
	}
	if _, err := s.store.AddOven(c, o); err != nil {
		return err
	}
	return s.kept(c, o.Name)
}

// kept goes back to the page and says what was kept.
func (s *Server) kept(c *gin.Context, what string) error {
	c.Redirect(http.StatusSeeOther, "/ovens?saved="+urlEscape(what))
	return nil
}

// prefixed names faults after their form.
func prefixed(form string, faults map[string]string) map[string]string {
	out := map[string]string{}
	for field, why := range faults {
		out[form+"-"+field] = phrase.Sentence(why)
	}
	return out
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
	switch form.Get("do") {
	case "leave", "return":
		return s.putAway(c, id, form)
	case "forget":
		n, err := strconv.Atoi(form.Get("n"))
		change = func(o *store.Oven) {
			if err == nil && n >= 0 && n < len(o.Readings) {
				o.Readings = append(o.Readings[:n:n], o.Readings[n+1:]...)
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
		change = func(o *store.Oven) {
			o.Name, o.Fan, o.Width, o.Depth, o.Shelves, name = to.Name, to.Fan, to.Width, to.Depth, to.Shelves, to.Name
		}
	}
	if len(faults) > 0 {
		return s.showOvens(c, http.StatusUnprocessableEntity, ovensView{New: typedOf(form), Faults: prefixed(fmt.Sprintf("oven-%d", id), faults)}, id)
	}
	if err := s.store.ChangeOven(c, id, change); err != nil {
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
	if err := s.store.PutAway(c, id, gone); err != nil {
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
		return s.showOvens(c, http.StatusUnprocessableEntity, ovensView{Altitude: form.Get("altitude"), Faults: prefixed("kitchen", faults)}, 0)
	}
	if err := s.store.ChangeHousehold(c, store.AnyRev, func(h *store.Household) { h.Altitude = m }); err != nil {
		return err
	}
	return s.kept(c, "The altitude")
}
