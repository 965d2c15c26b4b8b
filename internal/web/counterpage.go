package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/bake"
	"kollaris/core/doneness"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/internal/device"
	"kollaris/internal/store"
)

// counterOf fills the counter's page.
func (s *Server) counterOf(c *gin.Context, t *sitting, query url.Values) (*counterView, error) {
	n, _ := strconv.Atoi(query.Get("bake"))
	n = max(0, min(n, len(t.sheets)-1))
	sheet, p := t.sheets[n], &t.state.Strips[n]
	v := &counterView{
		ID: t.ID, Title: t.Of[n].Title, Strip: n, Seq: t.seq, Rate: s.counter.rate, Say: query.Get("say"), Typed: query.Get("typed"),
		NewID: newID, IsOver: !t.state.Over.IsZero(), Home: bakeURL(t.ID, n),
	}
	if today := t.Of[n].Result.Today(s.kit.Larder); today.State == "stop" {
		v.Stop = today.Words
	}
	if err := s.tabs(c, v, t, n); err != nil {
		return nil, err
	}
	v.Told = s.toldOf(t, n)
	at := p.At(sheet)
	show := at
	if k, err := strconv.Atoi(query.Get("task")); err == nil && k >= 0 && k < len(sheet.Tasks) {
		show, v.Looking = k, k != at
	}
	current := 0
	if show >= 0 {
		v.Task = s.taskOf(t, n, show, v.Told.Open)
		v.Stand = s.standOf(t, n, show)
		if v.Task.Weigh != nil {
			current = v.Task.Weigh.Line
		}
	}
	v.steps(t, n, show)
	v.Bowl = s.bowlOf(t, n, v.Told.Open, current)
	v.Over = s.overOf(t, n)
	ringing, err := s.ringing(c.Request.Context(), t)
	if err != nil {
		return nil, err
	}
	v.Timers = append(ringing, timersOf(t.state, t.now)...)
	v.Working, v.Late = s.workingOf(t, n)
	v.Last = lastOf(t, n, s.kit.Larder)
	for _, x := range p.Slips {
		v.Slips = append(v.Slips, phrase.Capital(x.Words(t.sheets[n], s.kit.Larder)))
	}
	v.Finished = at < 0
	for _, l := range []*device.Link{s.scale(), s.probe()} {
		if words := s.standing(l); words != "" {
			v.Devices = append(v.Devices, words)
		}
	}
	v.Scale, v.Probe = s.home.Devices.Scale != "", s.home.Devices.Probe != ""
	if query.Get("slip") != "" {
		v.Slip = s.slipOf(t, n)
	}
	if !p.WentIn.IsZero() {
		is, fresh, err := s.inOven(c.Request.Context(), t, n)
		if err != nil {
			return nil, err
		}
		v.Oven = s.panel(t, n, is, fresh)
	}
	return v, nil
}

// tabs are the bakes of the sitting, one strip each, with when what bakes comes out.
func (s *Server) tabs(c *gin.Context, v *counterView, t *sitting, n int) error {
	for k, sheet := range t.sheets {
		p := &t.state.Strips[k]
		where := "finished"
		if at := p.At(sheet); at >= 0 {
			where = phrase.Clip(sheet.Tasks[at].Text, 34)
			if !p.WentIn.IsZero() && p.Out.IsZero() {
				where = "in the oven since " + p.WentIn.Local().Format("15:04")
				is, _, err := s.inOven(c.Request.Context(), t, k)
				if err != nil {
					return err
				}
				if is != nil {
					low, _, high := is.End()
					clock := func(minutes float64) string {
						return p.WentIn.Add(time.Duration(minutes * float64(time.Minute))).Local().Format("15:04")
					}
					where = "in the oven, likely done " + clock(low) + " to " + clock(high)
				}
			}
		}
		v.Strips = append(v.Strips, stripTab{k, t.Of[k].Title, where, bakeURL(t.ID, k), k == n})
	}
	return nil
}

// steps are what comes after the task that is shown, and the ways to its neighbours.
func (v *counterView) steps(t *sitting, n, show int) {
	sheet, p := t.sheets[n], &t.state.Strips[n]
	to := func(task int) string { return fmt.Sprintf("/bakes/%d?bake=%d&task=%d", t.ID, n, task) }
	if show < 0 {
		show = len(sheet.Tasks)
	}
	if show > 0 {
		v.Back = to(show - 1)
	}
	if show+1 < len(sheet.Tasks) {
		v.Forth = to(show + 1)
	}
	for k, task := range p.After(sheet, min(show, len(sheet.Tasks)-1), 2) {
		x := sheet.Tasks[task]
		row := afterRow{Lead: []string{"Next", "Then"}[k], Text: phrase.Clip(x.Text, 84), URL: to(task)}
		switch {
		case x.AtOnce:
			row.Right = "at once"
		case len(x.Takes) > 0:
			row.Right = "takes " + phrase.And(x.Takes)
		}
		v.After = append(v.After, row)
	}
}

// slipOf is the page of a slip: what may have happened, and what can be saved of the last that was told.
func (s *Server) slipOf(t *sitting, n int) *slipView {
	v := &slipView{}
	for _, k := range bake.SlipKinds {
		v.Kinds = append(v.Kinds, choice{Value: string(k.ID), Words: k.Words})
	}
	for _, l := range t.sheets[n].Recipe.Batter() {
		if l.Grams > 0 {
			v.Lines = append(v.Lines, choice{Value: strconv.Itoa(int(l.ID)), Words: l.Name})
		}
	}
	if slips := t.state.Strips[n].Slips; len(slips) > 0 {
		last := slips[len(slips)-1]
		r := t.state.Strips[n].Judge(t.sheets[n], last, s.bowlKit(t, n))
		v.Remedy, v.Undo = &r, last.ID
	}
	return v
}

// How often a stream looks whether anything changed, and how long it stays open: after that the page opens
// it anew, so that no proxy and no sleeping tablet holds one for ever.
const (
	liveEvery = 250 * time.Millisecond
	liveLong  = 50 * time.Second
	probeNote = time.Minute // how often a probe's reading is written down
)

// liveState is what a stream sends of the devices.
type liveState struct {
	Scale string `json:"scale"` // in words
	Probe string `json:"probe"`
	Weigh *live  `json:"weigh,omitempty"`
}

// stay stays with one bake of a sitting that a page shows: each is called at once and then every liveEvery, with all that was told
// folded in, until the page, the program or liveLong ends.
func (s *Server) stay(c *gin.Context, begin, each func(t *sitting, n int)) error {
	t, err := s.sit(c, paramID(c))
	if err != nil {
		return err
	}
	n, _ := strconv.Atoi(c.Query("bake"))
	if n < 0 || n >= len(t.sheets) {
		return store.ErrNotFound
	}
	begin(t, n)
	end := time.After(liveLong)
	tick := time.NewTicker(liveEvery)
	defer tick.Stop()
	for {
		if seq, err := s.store.LastEvent(c.Request.Context(), t.ID); err != nil {
			return nil
		} else if seq != t.seq {
			if err := s.fold(c, t); err != nil {
				return nil
			}
		}
		t.now = s.counter.now()
		each(t, n)
		select {
		case <-c.Request.Context().Done():
			return nil
		case <-s.counter.hub.Done():
			return nil
		case <-end:
			return nil
		case <-tick.C:
		}
	}
}

// liveBake streams to a page that something was told, and what scale and probe say (server-sent events). It writes nothing down:
// see attendBake.
func (s *Server) liveBake(c *gin.Context) error {
	sent, last := int64(-1), ""
	if id, err := strconv.ParseInt(c.GetHeader("Last-Event-ID"), 10, 64); err == nil {
		sent = id
	}
	begin := func(*sitting, int) {
		h := c.Writer.Header()
		h.Set("Content-Type", "text/event-stream")
		h.Set("X-Accel-Buffering", "no")
		c.Status(http.StatusOK)
		fmt.Fprint(c.Writer, "retry: 500\n\n")
	}
	return s.stay(c, begin, func(t *sitting, n int) {
		if t.seq != sent {
			sent = t.seq
			fmt.Fprintf(c.Writer, "id: %d\nevent: told\ndata: %d\n\n", sent, sent)
		}
		state := asJSON(s.hear(t, n))
		if state != last {
			last = state
			fmt.Fprintf(c.Writer, "event: devices\ndata: %s\n\n", state)
		}
		c.Writer.Flush()
	})
}

// attendBake is what a page that somebody works at asks for again and again while it is open: what scale and probe say is written
// down. A line that stands steady within its tolerance is put in, once, however many pages do so, and a reading of the probe a minute.
func (s *Server) attendBake(c *gin.Context) error {
	auto := c.Query("auto") != ""
	begin := func(*sitting, int) { c.Status(http.StatusNoContent) }
	return s.stay(c, begin, func(t *sitting, n int) { s.note(c, t, n, auto) })
}

// onScale is what the scale says of the line that is weighed, with its readings; nil where it says nothing.
func (s *Server) onScale(t *sitting, n int) (*live, bake.Weighing, int, []bake.Reading) {
	w, task, ok := s.weighing(t, n)
	heard := s.scale().Readings("", 4*time.Second)
	if !ok || len(heard) == 0 {
		return nil, w, task, nil
	}
	var rs []bake.Reading
	for _, h := range heard {
		rs = append(rs, bake.Reading{At: h.Came, Grams: h.Value, Steady: h.Flag == device.Steady})
	}
	x := liveOf(w, rs, s.spoonOf(w))
	return &x, w, task, rs
}

// hear is what the devices say.
func (s *Server) hear(t *sitting, n int) liveState {
	v := liveState{Scale: s.standing(s.scale()), Probe: s.standing(s.probe())}
	v.Weigh, _, _, _ = s.onScale(t, n)
	return v
}

// note writes down what follows from what the devices say: a line that is in, a reading a minute.
func (s *Server) note(c *gin.Context, t *sitting, n int, auto bool) {
	if x, w, task, rs := s.onScale(t, n); auto && x != nil && x.Settled && s.mayPut(t, n) && len(s.spoilsOf(t, n, task)) == 0 {
		s.putIn(c, t, n, task, w, rs[len(rs)-1].Grams)
	}
	s.hotByProbe(c, t, n)
	if h, ok := s.probe().Latest(device.Core); ok && firstIn(t) == n {
		p := &t.state.Strips[n]
		minute := int(t.now.Sub(p.WentIn) / probeNote)
		if len(p.Sights) == 0 || t.now.Sub(lastReading(p)) >= probeNote {
			_, _ = s.store.AddEvents(c.Request.Context(), t.ID, []bake.Event{{
				ID: fmt.Sprintf("probe-%d-%d-%d", n, p.WentIn.Unix(), minute), At: t.now, Bake: n, What: bake.Probe, Value: h.Value, Device: "probe",
			}})
		}
	}
}

// mayPut reports whether what the scale shows may be put in by itself: it was next to nothing since the last line
// went in, so that no weight counts twice; and the bake is the one that was worked at last, since one scale weighs for all.
func (s *Server) mayPut(t *sitting, n int) bool {
	at := 0
	for _, e := range slices.Backward(t.state.Last) {
		if e.What != bake.Probe && e.Device != "probe" {
			at = e.Bake
			break
		}
	}
	return at == n && s.scale().Emptied().After(s.counter.putAt(t.ID))
}

// hotNear is how near its heat an oven counts as hot, K. Source: practice, ovens swing by as much.
const hotNear = 8.0

// hotByProbe writes down that the oven is hot once the probe's own channel for the air says so.
func (s *Server) hotByProbe(c *gin.Context, t *sitting, n int) {
	p, res := &t.state.Strips[n], t.Of[n].Result
	on := slices.IndexFunc(res.Method, func(x method.Task) bool { return x.Verb == method.Heat })
	if on < 0 || res.Bake == nil || !p.Hot.IsZero() || !p.WentIn.IsZero() {
		return
	}
	h, ok := s.probe().Latest(device.Oven)
	if at, done := p.Done[on]; ok && done && h.Value >= float64(res.Bake.Oven)-hotNear {
		_, _ = s.store.AddEvents(c.Request.Context(), t.ID, []bake.Event{{
			ID: fmt.Sprintf("hot-%d-%d", n, at.Unix()), At: t.now, Bake: n, What: bake.Hot, Device: "probe",
		}})
	}
}

func lastReading(p *bake.Strip) time.Time {
	for _, x := range slices.Backward(p.Sights) {
		if x.Look == "" {
			return x.At
		}
	}
	return time.Time{}
}

// firstIn is the bake that went into the oven first and is still there: the probe stands in it. -1 for none.
func firstIn(t *sitting) int {
	at := -1
	for n := range t.state.Strips {
		p := &t.state.Strips[n]
		if !p.WentIn.IsZero() && p.Out.IsZero() && (at < 0 || p.WentIn.Before(t.state.Strips[at].WentIn)) {
			at = n
		}
	}
	return at
}

// weighing is the line that is weighed at the task at hand.
func (s *Server) weighing(t *sitting, n int) (w bake.Weighing, task int, ok bool) {
	p, sheet := &t.state.Strips[n], t.sheets[n]
	task = p.At(sheet)
	if task < 0 {
		return w, task, false
	}
	for _, w := range p.Weighings(sheet, task, s.kit.Larder, s.kit.Kitchen, s.toldOf(t, n).Open) {
		if w.Target > 0 && !w.Is {
			return w, task, true
		}
	}
	return w, task, false
}

// spoilsOf is what is not ready for a task, so that nothing is put in by itself.
func (s *Server) spoilsOf(t *sitting, n, task int) []bake.Ready {
	return slices.DeleteFunc(
		t.state.Strips[n].ReadyFor(t.sheets[n], n, task, t.state.Timers, t.now, s.kit.Larder), func(r bake.Ready) bool { return r.Is },
	)
}

// putIn writes down that a line is in, once.
func (s *Server) putIn(c *gin.Context, t *sitting, n, task int, w bake.Weighing, g float64) {
	added, err := s.store.AddEvents(c.Request.Context(), t.ID, []bake.Event{{
		ID: fmt.Sprintf("scale-%d-%d-%d-%d", n, task, w.Line.ID, t.seq), At: t.now, Bake: n, What: bake.Put, Task: task, Line: w.Line.ID, Value: g, Device: "scale",
	}})
	if err == nil && added > 0 {
		s.counter.putIn(t.ID)
		_ = s.scale().Tare()
	}
}

// wireStrip is one bake of a sitting, as programs read it.
type wireStrip struct {
	Title string             `json:"title"`
	Task  *wireNow           `json:"task"` // null once all is done
	Bowl  map[string]float64 `json:"in_the_bowl_g"`
	Told  []string           `json:"told"`
	Oven  *wireOven          `json:"oven"` // null while it is not in one
}

type wireNow struct {
	N        int      `json:"n"`
	Of       int      `json:"of"`
	Verb     string   `json:"verb"`
	Text     string   `json:"text"`
	NotReady []string `json:"not_ready"`
	Weigh    *struct {
		Line    int     `json:"line"`
		Name    string  `json:"name"`
		TargetG float64 `json:"target_g"`
		NearG   float64 `json:"near_g"`
	} `json:"weigh"`
}

type wireOven struct {
	Since    time.Time     `json:"since"`
	Out      *time.Time    `json:"out"`
	NextLook float64       `json:"next_look"` // minutes from now
	DoneLow  float64       `json:"done_low"`
	Done     float64       `json:"done"`
	DoneHigh float64       `json:"done_high"`
	Readings []wireReading `json:"readings"`
}

type wireReading struct {
	Minutes float64 `json:"minutes"` // since it went in
	Core    float64 `json:"core_c,omitempty"`
	Look    string  `json:"look,omitempty"`
}

type wireTimer struct {
	Key     string  `json:"key"`
	Name    string  `json:"name"`
	Seconds float64 `json:"seconds"` // left; below 0 since it rang
	Paused  bool    `json:"paused"`
}

type wireSitting struct {
	ID     int64             `json:"id"`
	Name   string            `json:"name"`
	Seq    int64             `json:"seq"`
	Now    time.Time         `json:"now"`
	Over   bool              `json:"over"`
	Bakes  []wireStrip       `json:"bakes"`
	Timers []wireTimer       `json:"timers"`
	Things map[string]string `json:"devices"`
}

// wireBake is a bake's state for programs.
func (s *Server) wireBake(c *gin.Context, t *sitting) (wireSitting, error) {
	w := wireSitting{
		ID: t.ID, Name: t.Name, Seq: t.seq, Now: t.now, Over: !t.state.Over.IsZero(), Timers: []wireTimer{},
		Things: map[string]string{"scale": s.standing(s.scale()), "probe": s.standing(s.probe())},
	}
	for _, x := range t.state.Timers {
		if !x.Gone {
			w.Timers = append(w.Timers, wireTimer{x.Key, x.Name, x.Remaining(t.now).Seconds(), x.Paused})
		}
	}
	for n, sheet := range t.sheets {
		p := &t.state.Strips[n]
		one := wireStrip{Title: t.Of[n].Title, Bowl: map[string]float64{}, Told: []string{}}
		for id, g := range p.In {
			one.Bowl[strconv.Itoa(int(id))] = g
		}
		told := s.toldOf(t, n)
		one.Told = append(append(one.Told, told.Moves...), told.Stays...)
		if at := p.At(sheet); at >= 0 {
			one.Task = s.wireTask(t, n, at)
		}
		if !p.WentIn.IsZero() {
			is, _, err := s.inOven(c.Request.Context(), t, n)
			if err != nil {
				return w, err
			}
			one.Oven = wireOvenOf(p, is, t.now)
		}
		w.Bakes = append(w.Bakes, one)
	}
	return w, nil
}

func (s *Server) wireTask(t *sitting, n, at int) *wireNow {
	x := t.sheets[n].Tasks[at]
	out := &wireNow{N: at, Of: len(t.sheets[n].Tasks), Verb: string(x.Verb), Text: x.Text, NotReady: []string{}}
	for _, r := range s.spoilsOf(t, n, at) {
		out.NotReady = append(out.NotReady, r.Words)
	}
	if w, _, ok := s.weighing(t, n); ok {
		out.Weigh = &struct {
			Line    int     `json:"line"`
			Name    string  `json:"name"`
			TargetG float64 `json:"target_g"`
			NearG   float64 `json:"near_g"`
		}{int(w.Line.ID), w.Line.Name, w.Target, w.Tolerance}
	}
	return out
}

func wireOvenOf(p *bake.Strip, is *doneness.Bake, now time.Time) *wireOven {
	o := &wireOven{Since: p.WentIn, Readings: []wireReading{}}
	if !p.Out.IsZero() {
		o.Out = &p.Out
	}
	minutes := now.Sub(p.WentIn).Minutes()
	if is != nil {
		low, median, high := is.End()
		o.DoneLow, o.Done, o.DoneHigh, o.NextLook = low-minutes, median-minutes, high-minutes, is.NextLook(minutes)-minutes
	}
	for _, x := range p.Sights {
		o.Readings = append(o.Readings, wireReading{x.At.Sub(p.WentIn).Minutes(), x.Core, x.Look})
	}
	return o
}
