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
	lru "github.com/hashicorp/golang-lru/v2"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/doneness"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/plan"
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
			v.Bakes, v.Shut = append(v.Bakes, newBakeOf{Title: gone, Code: b.code(), N: n, Fault: fault}), true
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
