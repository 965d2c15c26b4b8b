package web

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/hashicorp/golang-lru/v2"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/doneness"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/internal/device"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// counter is what all requests to the counter share: the lines to devices, the clock, the heat
// model's curves of what is in the oven.
type counter struct {
	hub    *device.Hub
	mu     sync.Mutex
	from   time.Time // since when the clock runs otherwise
	rate   float64   // times as fast as the wall's
	curves *lru.Cache[string, *doneness.Bake]
	put    map[int64]time.Time // by the wall: when a line of a bake was last put in

	judging sync.Mutex // held from what is seen of a bake until what is said of it is kept
}

// mostCurves is how many bakes' curves are remembered.
const mostCurves = 24

func newCounter() *counter {
	curves, err := lru.New[string, *doneness.Bake](mostCurves)
	if err != nil {
		panic(err) // the size is a constant
	}
	return &counter{hub: device.NewHub(), rate: 1, curves: curves, put: map[int64]time.Time{}}
}

func (c *counter) hasten(times float64) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.from, c.rate = time.Now(), times
}

// putIn remembers that a line of a bake was put in, and putAt when.
func (c *counter) putIn(id int64) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.put[id] = time.Now()
}

func (c *counter) putAt(id int64) time.Time {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.put[id]
}

// now is the clock of the counter.
func (c *counter) now() time.Time {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.rate == 1 {
		return time.Now()
	}
	return c.from.Add(time.Duration(float64(time.Since(c.from)) * c.rate))
}

// sitting is a bake as it stands: what was begun, what happened, what follows.
type sitting struct {
	store.Bake
	sheets []bake.Sheet
	events []bake.Event
	state  bake.State
	seq    int64
	now    time.Time
}

// sit loads a bake and folds what happened.
func (s *Server) sit(c *gin.Context, id int64) (*sitting, error) {
	b, err := s.store.Bake(c.Request.Context(), id)
	if err != nil {
		return nil, err
	}
	t := &sitting{Bake: b, now: s.counter.now()}
	t.sheets = journal.Sheets(b)
	return t, s.fold(c, t)
}

// fold takes in what happened since.
func (s *Server) fold(c *gin.Context, t *sitting) (err error) {
	if t.events, t.seq, err = s.store.Events(c.Request.Context(), t.ID); err != nil {
		return err
	}
	t.now = s.counter.now()
	t.state = bake.Fold(t.sheets, t.events)
	return nil
}

// bowlKit is what a bake of the sitting is worked out with.
func (s *Server) bowlKit(t *sitting, n int) bake.Kit {
	req := t.Of[n].Result.Request
	return bake.Kit{Larder: s.kit.Larder, Kitchen: s.kit.Kitchen, Demand: req.Demand(), Held: slices.Sorted(maps.Keys(req.Holds))}
}

func bakeURL(id int64, strip int) string {
	if strip == 0 {
		return fmt.Sprintf("/bakes/%d", id)
	}
	return fmt.Sprintf("/bakes/%d?bake=%d", id, strip)
}

// showBake is the counter, or its state for programs where the address ends in .json.
func (s *Server) showBake(c *gin.Context) error {
	id, asJSON := strings.CutSuffix(c.Param("id"), ".json")
	n, err := strconv.ParseInt(id, 10, 64)
	if err != nil {
		return store.ErrNotFound
	}
	t, err := s.sit(c, n)
	if err != nil {
		return err
	}
	if asJSON {
		w, err := s.wireBake(c, t)
		if err != nil {
			return err
		}
		c.JSON(http.StatusOK, w)
		return nil
	}
	v, err := s.counterOf(c, t, c.Request.URL.Query())
	if err != nil {
		return err
	}
	s.show(c, http.StatusOK, "counter", page{Title: v.Title, Nav: "bakes", Script: "counter", Again: 60, View: v})
	return nil
}

// tellBake takes in what happened, or takes something back.
func (s *Server) tellBake(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	id := paramID(c)
	switch form.Get("what") {
	case "drop", "restore":
		return s.dropBake(c, id, form)
	case "tare":
		if err := s.scale().Tare(); err != nil && !errors.Is(err, device.ErrGone) {
			return err
		}
		c.Redirect(http.StatusSeeOther, s.backTo(id, form))
		return nil
	}
	t, err := s.sit(c, id)
	if err != nil {
		return err
	}
	e, fault := s.eventOf(t, form)
	if fault != "" {
		query := url.Values{"bake": {form.Get("bake")}, "say": {fault}, "typed": {form.Get("value")}, "task": form["view"]}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bakes/%d?%s", id, query.Encode()))
		return nil
	}
	if e.What == bake.Put { // before anybody sees the next line and pours
		s.counter.putIn(id)
		_ = s.scale().Tare() // where there is none, it is typed
	}
	_, err = s.store.AddEvents(c.Request.Context(), id, []bake.Event{e})
	if err != nil {
		if errors.Is(err, store.ErrFull) {
			s.fail(c, http.StatusConflict, problem{Title: "This bake holds all it can", Do: "Finish it, and begin another."})
			return nil
		}
		return err
	}
	if e.What == bake.Finish || e.What == bake.Undo {
		if err := s.fold(c, t); err != nil {
			return err
		}
		if err := s.useByBake(c, t); err != nil {
			return err
		}
	}
	if slices.Contains(judgements, e.What) {
		if err := s.fold(c, t); err != nil {
			return err
		}
		if err := journal.Keep(c.Request.Context(), s.store, s.kit.Larder, t.Bake, t.state); err != nil {
			return err
		}
	}
	c.Redirect(http.StatusSeeOther, s.backTo(id, form))
	return nil
}

// backTo is where a form of the counter leads back to.
func (s *Server) backTo(id int64, form url.Values) string {
	n, _ := strconv.Atoi(form.Get("bake"))
	if to := form.Get("to"); to == "slip" {
		return fmt.Sprintf("/bakes/%d?bake=%d&slip=1", id, n)
	}
	return bakeURL(id, n)
}

func (s *Server) dropBake(c *gin.Context, id int64, form url.Values) error {
	gone := form.Get("what") == "drop"
	name, err := s.store.NameOf(c.Request.Context(), "bake", id)
	if err != nil {
		return err
	}
	if err := journal.Drop(c.Request.Context(), s.store, s.kit.Larder, id, gone); err != nil {
		return err
	}
	to := bakeURL(id, 0)
	if gone {
		to = fmt.Sprintf("/bakes?gone=%d&name=%s", id, urlEscape(name))
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// longestAway is how long ago something may have happened that is told only now, by a device that was
// without network.
const longestAway = 24 * time.Hour

// eventOf reads what happened from a form; fault says what would do where it cannot be used.
func (s *Server) eventOf(t *sitting, form url.Values) (e bake.Event, fault string) {
	number := func(name string) int { n, _ := strconv.Atoi(form.Get(name)); return n }
	e = bake.Event{
		ID: phrase.Clip(form.Get("id"), 64), At: s.counter.now(), Bake: number("bake"), What: bake.What(form.Get("what")), Task: number("task"),
		Line: recipe.LineID(number("line")), Food: larder.ID(form.Get("food")), Key: phrase.Clip(form.Get("key"), 64), Text: phrase.Clip(form.Get("text"), 120),
		Who: phrase.Clip(form.Get("who"), 40), Device: phrase.Clip(form.Get("device"), 40),
	}
	if e.ID == "" {
		e.ID = newID()
	}
	if away, err := strconv.ParseFloat(form.Get("ago"), 64); err == nil && away > 0 { // seconds of the wall
		ago := min(time.Duration(away*float64(time.Second)*s.counter.rate), longestAway)
		if e.At = e.At.Add(-ago); e.At.Before(t.Begun) {
			e.At = t.Begun
		}
	}
	if !slices.Contains(bake.Whats, e.What) || e.Bake < 0 || e.Bake >= len(t.sheets) {
		return e, "That is nothing that happens at the counter."
	}
	if e.What == bake.Seen {
		n := slices.IndexFunc(looked, func(l lookedFor) bool { return l.code == e.Text })
		if n < 0 {
			return e, "Say what you see."
		}
		e.Text = string(looked[n].look)
	}
	sheet := t.sheets[e.Bake]
	if e.Task < 0 || e.Task >= len(sheet.Tasks) || e.Line != 0 && sheet.Recipe.Line(e.Line) == nil {
		return e, "That is no task or line of this recipe."
	}
	e.Value, fault = s.valueOf(e, form.Get("value"))
	if fault != "" {
		return e, fault
	}
	if typed := form.Get("foodname"); e.Food == "" && typed != "" {
		m, ok := s.kit.Larder.Find(typed, nil)
		if !ok {
			return e, fmt.Sprintf("“%s” is not in the larder: try another word for it.", phrase.Clip(typed, 30))
		}
		e.Food = m.ID
	}
	if e.What == bake.Slip && e.Line == 0 && e.Food == "" {
		return e, "Say which line it was, or what got in."
	}
	return e, ""
}

// The most that is typed at a counter: g, minutes of a timer, times a batch.
const mostGrams, mostTimer, mostTimes = 20000.0, 24 * 60.0, 4.0

// valueOf reads the figure of an event.
func (s *Server) valueOf(e bake.Event, typed string) (float64, string) {
	typed = strings.TrimSpace(typed)
	clipped := phrase.Clip(typed, 20)
	switch e.What {
	case bake.Probe:
		core, ok := measure.ParseTemperature(typed, s.kit.Kitchen.Fahrenheit)
		if !ok || core < 0 || core > 120 {
			return 0, fmt.Sprintf("“%s” is not how warm the middle is: try %s.", clipped, s.kit.Kitchen.Temperature(85))
		}
		return float64(core), ""
	case bake.Put, bake.Weighs, bake.Spoon, bake.WeighedOut:
		g, err := measure.ParseDecimal(typed, "g")
		if e.What == bake.Put && (err != nil && (typed == "" || strings.HasPrefix(typed, "-") || strings.HasPrefix(typed, "−")) || err == nil && g <= 0) {
			return 0, "The scale shows nothing, or less. Is it in? Put it on and press again, or type what went in. What was left out is told under “a slip”: it was forgotten."
		}
		if err != nil || !(g >= 0 && g <= mostGrams) {
			return 0, fmt.Sprintf("“%s” cannot be weighed: try a number of grams such as 212.", clipped)
		}
		return g, ""
	case bake.TimerSet, bake.TimerMore:
		m, err := measure.ParseDecimal(typed, "min", "minutes")
		if err != nil || !(m > 0 && m <= mostTimer) {
			return 0, fmt.Sprintf("“%s” are no minutes: try 10.", clipped)
		}
		return m, ""
	case bake.Scale:
		k, err := measure.ParseDecimal(typed, "×", "x")
		if err != nil || !(k > 0.2 && k <= mostTimes) {
			return 0, fmt.Sprintf("“%s” is no size of batch: try 1.1.", clipped)
		}
		return k, ""
	case bake.Slip:
		if g, err := measure.ParseDecimal(typed, "g"); err == nil && g >= 0 && g <= mostGrams {
			return g, ""
		}
	}
	return 0, ""
}

func newID() string { return strings.ToLower(rand.Text()) }

// scale and probe are the household's devices, nil where it has none.
func (s *Server) scale() *device.Link { return s.counter.hub.At(device.Scale, s.home.Devices.Scale) }
func (s *Server) probe() *device.Link { return s.counter.hub.At(device.Probe, s.home.Devices.Probe) }

// standing says how a device stands, in the household's degrees.
func (s *Server) standing(l *device.Link) string {
	return l.Words(func(c float64) string { return s.kit.Kitchen.Temperature(measure.Celsius(c)) })
}

// inOven is what is in the oven, told of all that was seen; nil where no time is foretold for it.
func (s *Server) inOven(c context.Context, t *sitting, n int) (is, fresh *doneness.Bake, err error) {
	if b := t.state.Strips[n].Baking; b >= 0 && t.sheets[n].Again(b) {
		return nil, nil, nil
	}
	key := fmt.Sprintf("%d %d", t.ID, n)
	fresh, ok := s.counter.curves.Get(key)
	if !ok {
		if fresh, err = t.Of[n].Result.InOven(c); errors.Is(err, adapt.ErrNoBake) {
			return nil, nil, nil
		} else if err != nil {
			return nil, nil, err
		}
		s.counter.curves.Add(key, fresh)
	}
	is = fresh.Copy()
	p := t.state.Strips[n]
	for _, x := range p.Sights {
		if m := x.At.Sub(p.WentIn).Minutes(); x.Look == "" {
			is.Probe(m, x.Core)
		} else {
			is.Look(m, doneness.Look(x.Look))
		}
	}
	return is, fresh, nil
}

// saveDevices keeps where the scale and the probe are.
func (s *Server) saveDevices(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	d := store.Devices{Scale: strings.TrimSpace(form.Get("scale")), Probe: strings.TrimSpace(form.Get("probe"))}
	t := ovensTyped{of: "devices", form: form, faults: map[string]string{}}
	for name, address := range map[string]string{"scale": d.Scale, "probe": d.Probe} {
		if fault := device.Check(address); fault != "" {
			t.faults[name] = fault
		}
	}
	if len(t.faults) > 0 {
		return s.ovensBad(c, t)
	}
	if err := s.store.ChangeHousehold(c.Request.Context(), seenRev(form), func(h *store.Household) { h.Devices = d }); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/ovens?saved="+urlEscape("Where scale and probe are")+"#devices-h")
	return nil
}

// asJSON writes a value for a script.
func asJSON(v any) string {
	b, err := json.Marshal(v)
	if err != nil {
		return "{}"
	}
	return string(b)
}
