package web_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"html"
	"net"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/bake"
	"kollaris/internal/device"
	"kollaris/internal/store"
	"kollaris/internal/web"
)

// sittingWire is what a program reads of a bake.
type sittingWire struct {
	Seq   int64
	Over  bool
	Bakes []struct {
		Title string
		Task  *struct {
			N        int
			Verb     string
			Text     string
			NotReady []string `json:"not_ready"`
			Weigh    *struct {
				Line    int
				Name    string
				TargetG float64 `json:"target_g"`
			}
		}
		Bowl map[string]float64 `json:"in_the_bowl_g"`
		Told []string
		Oven *struct {
			Out      *time.Time
			NextLook float64 `json:"next_look"`
			DoneLow  float64 `json:"done_low"`
			Done     float64
			DoneHigh float64 `json:"done_high"`
			Readings []struct {
				Minutes float64
				Core    float64 `json:"core_c"`
				Look    string
			}
		}
	}
	Timers []struct {
		Key     string
		Name    string
		Seconds float64
		Paused  bool
	}
	Devices map[string]string
}

// begin begins a bake of the demo's loaf without egg and milk; it returns its address.
func (s site) begin(more ...string) string {
	s.t.Helper()
	b := s.id("Pear and cardamom loaf")[len("/recipes/"):] + ":diet=dairy-free&diet=egg-free"
	code, _, to := s.post("/bakes", url.Values{"b": append([]string{b}, more...)})
	require.Equal(s.t, 303, code)
	return to
}

func (s site) state(at string) (w sittingWire) {
	s.t.Helper()
	code, body := s.get(at + ".json")
	require.Equal(s.t, 200, code, body)
	require.NoError(s.t, json.Unmarshal([]byte(body), &w))
	return w
}

// tell tells something of the first bake: name, value, name, value.
func (s site) tell(at string, pairs ...string) string {
	s.t.Helper()
	form := url.Values{"bake": {"0"}}
	for n := 0; n+1 < len(pairs); n += 2 {
		form.Set(pairs[n], pairs[n+1])
	}
	code, body, to := s.post(at, form)
	require.Equal(s.t, 303, code, body)
	return to
}

// upTo does the tasks before one, each as it should be.
func (s site) upTo(at string, task int) {
	s.t.Helper()
	for n := 0; n < 60; n++ {
		x := s.state(at).Bakes[0].Task
		if x == nil || x.N >= task {
			return
		}
		if x.Weigh != nil {
			s.tell(at, "what", "in", "task", fmt.Sprint(x.N), "line", fmt.Sprint(x.Weigh.Line), "value", fmt.Sprint(x.Weigh.TargetG))
		} else {
			s.tell(at, "what", "done", "task", fmt.Sprint(x.N))
		}
	}
	s.t.Fatal("the bake does not go on")
}

// From the first gram till it is put away, by forms alone.
func TestABakeFromTheFirstGram(t *testing.T) {
	s := newSite(t)
	code, body := s.get("/bakes")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "Nothing was baked with Kollaris yet")
	loaf := s.id("Pear and cardamom loaf")[len("/recipes/"):]
	code, body = s.get("/bakes/new?b=" + url.QueryEscape(loaf+":diet=egg-free"))
	require.Equal(t, 200, code)
	assert.Contains(t, body, "Nothing here breaks your demand")
	at := s.begin()
	w := s.state(at)
	require.NotNil(t, w.Bakes[0].Task)
	assert.Equal(t, "gel", w.Bakes[0].Task.Verb)
	require.NotNil(t, w.Bakes[0].Task.Weigh)
	assert.Equal(t, 14.0, w.Bakes[0].Task.Weigh.TargetG)
	_, body = s.get(at)
	body = html.UnescapeString(body)
	assert.Contains(t, body, "task 1 of 10")
	assert.Contains(t, body, ">It is in</button>")
	assert.Contains(t, body, "14 g</b>")

	s.tell(at, "what", "in", "task", "0", "line", fmt.Sprint(w.Bakes[0].Task.Weigh.Line), "value", "14,4 g")
	assert.Equal(t, 14.4, s.state(at).Bakes[0].Bowl[fmt.Sprint(w.Bakes[0].Task.Weigh.Line)])
	s.upTo(at, 6)
	w = s.state(at)
	require.Len(t, w.Timers, 1, "the oven's: gel and soured drink are taken up")
	assert.Equal(t, "oven heating", w.Timers[0].Name)
	require.Len(t, w.Bakes[0].Task.NotReady, 1)
	assert.Contains(t, w.Bakes[0].Task.NotReady[0], "the oven heats since")
	_, body = s.get(at)
	assert.Contains(t, body, "How does it stand?")
	assert.Contains(t, body, "c-act unready")

	s.tell(at, "what", "hot")
	s.tell(at, "what", "stands", "text", "stands")
	_, body = s.get(at)
	assert.Contains(t, body, "1 tablespoon of oat drink (15")
	s.tell(at, "what", "spoon", "line", "14", "food", "oat-drink", "value", "15.4")
	s.upTo(at, 8)
	_, body = s.get(at)
	assert.Contains(t, body, "Soda works as soon as acid meets it")
	s.tell(at, "what", "went-in", "task", "8")
	w = s.state(at)
	require.NotNil(t, w.Bakes[0].Oven)
	first := w.Bakes[0].Oven
	assert.InDelta(t, 53, first.Done, 5)
	assert.Less(t, first.DoneLow, first.Done)
	assert.Less(t, first.Done, first.DoneHigh)
	assert.Empty(t, w.Timers, "the oven is hot")
	_, body = s.get(at)
	assert.Contains(t, body, ">It is out</button>")
	assert.Regexp(t, `First look at \d\d:\d\d`, body)
	s.tell(at, "what", "look", "text", "golden")
	assert.Equal(t, "golden", s.state(at).Bakes[0].Oven.Readings[0].Look)
	s.tell(at, "what", "probe", "value", "21")
	assert.Equal(t, 21.0, s.state(at).Bakes[0].Oven.Readings[1].Core)
	s.tell(at, "what", "out", "task", "8")
	_, body = s.get(at)
	assert.Contains(t, body, "Not to be cut before")
	s.tell(at, "what", "weighed-out", "value", "830")
	_, body = s.get(at)
	assert.Contains(t, body, "was baked out")
	s.upTo(at, 99)
	_, body = s.get(at)
	assert.Contains(t, body, "All is done.")
	s.tell(at, "what", "finish")
	assert.True(t, s.state(at).Over)
	_, body = s.get("/bakes")
	assert.Contains(t, body, "Pear and cardamom loaf")
	assert.NotContains(t, body, "goes on")
	_, body = s.get("/bakes/new?b=" + url.QueryEscape(loaf+":diet=dairy-free&diet=egg-free"))
	assert.Contains(t, body, "it took 15 g more oat drink than it says here", "next time begins from it")
}

// What cannot be used is said at its place and changes nothing; told twice it happened once; what was
// taken back stands no more.
func TestWhatIsToldAtTheCounter(t *testing.T) {
	s := newSite(t)
	at := s.begin()
	line := fmt.Sprint(s.state(at).Bakes[0].Task.Weigh.Line)
	for _, c := range []struct{ what, value, says string }{
		{"in", "a lot", "“a lot” cannot be weighed"}, {"in", "-3", "shows nothing, or less"}, {"in", "0", "Is it in?"}, {"in", "", "type what went in"}, {"in", "−2 g", "shows nothing"}, {"in", "99999", "cannot be weighed"}, {"in", "NaN", "cannot be weighed"},
		{"probe", "400", "is not how warm the middle is"}, {"timer", "0", "are no minutes"}, {"scale", "9", "is no size of batch"},
		{"look", "", "Say what you see"}, {"dance", "", "nothing that happens at the counter"}, {"slip", "", "Say which line it was"},
	} {
		form := []string{"what", c.what, "value", c.value, "task", "0", "line", line}
		if c.what == "slip" {
			form = form[:4]
		}
		to := s.tell(at, form...)
		code, body := s.get(to)
		assert.Equal(t, 200, code)
		assert.Contains(t, html.UnescapeString(body), c.says, c.what+c.value)
		assert.Zero(t, s.state(at).Seq, c.what+c.value)
	}
	_, body := s.get(s.tell(at, "what", "in", "value", "1o4", "task", "0", "line", line))
	assert.Contains(t, body, `value="1o4"`, "nothing typed is lost")
	_, body = s.get(s.tell(at, "what", "slip", "text", "got-in", "foodname", "quartz sand"))
	assert.Contains(t, html.UnescapeString(body), "“quartz sand” is not in the larder")

	for range 3 {
		s.tell(at, "what", "in", "task", "0", "line", line, "value", "14", "id", "press")
	}
	assert.Equal(t, 14.0, s.state(at).Bakes[0].Bowl[line])
	_, body = s.get(at)
	assert.Contains(t, body, "Take back: ground flaxseed in: 14 g")
	s.tell(at, "what", "undo", "key", "press")
	assert.Empty(t, s.state(at).Bakes[0].Bowl)

	for _, path := range []string{"/bakes/99", "/bakes/x", "/bakes/99.json", "/bakes/99/live", at + "/live?bake=4"} {
		code, _ := s.get(path)
		assert.Equal(t, 404, code, path)
	}
	for _, odd := range []url.Values{
		{"what": {"in"}, "task": {"99999999999999999999"}, "line": {line}, "value": {"5"}}, {"what": {"done"}, "task": {"-1"}}, {"what": {"went-in"}, "task": {"77"}}, {"what": {"in"}, "line": {"-9"}, "value": {"5"}},
		{"what": {"timer"}, "key": {"<script>alert(1)</script>"}, "text": {"<script>alert(1)</script>"}, "value": {"5"}}, {"what": {"stands"}, "text": {`"><script>alert(1)</script>`}}, {"what": {"out"}}, {"what": {"judge"}, "key": {"overall"}},
		{"what": {"in"}, "line": {line}, "value": {"5"}, "ago": {"1e99"}}, {"what": {"undo"}, "key": {"nothing"}}, {"what": {"slip"}, "text": {"weird"}, "line": {line}}, {"what": {"spoon"}, "food": {"<b>"}, "value": {"5"}}, {"what": {"done"}, "bake": {"-1"}},
	} {
		code, _, to := s.post(at, odd)
		assert.Equal(t, 303, code, odd)
		for _, path := range []string{to, at, at + ".json", at + "/log", at + "?slip=1"} {
			code, body := s.get(path)
			assert.Equal(t, 200, code, "%v: %s", odd, path)
			assert.NotContains(t, body, "<script>alert", path)
		}
	}
	code, _, _ := s.post("/bakes/99", url.Values{"what": {"hot"}})
	assert.Equal(t, 404, code)
	code, _ = s.get("/bakes/new")
	assert.Equal(t, 400, code)
	code, body = s.get(at + "?bake=99&task=-3")
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "task 1 of 10")

	_, _, to := s.post(at, url.Values{"what": {"drop"}})
	code, body = s.get(to)
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "is taken away")
	code, _ = s.get(at)
	assert.Equal(t, 404, code)
	s.post(at, url.Values{"what": {"restore"}})
	code, _ = s.get(at)
	assert.Equal(t, 200, code)
}

// What is weighed otherwise moves what is to come; too much is said with a way on; a slip with what is banned
// is never rescued for those it is baked for.
func TestTheRecipeFollowsTheBowl(t *testing.T) {
	s := newSite(t)
	at := s.begin()
	pear := ""
	s.upTo(at, 4)
	for n := 1; n < 30; n++ { // the pears weigh what they weigh
		s.tell(at, "what", "weighs", "line", fmt.Sprint(n), "value", "330", "id", fmt.Sprint("w", n))
		if told := s.state(at).Bakes[0].Told; n == 10 {
			pear = strings.Join(told, " ")
		}
		s.tell(at, "what", "undo", "key", fmt.Sprint("w", n))
	}
	assert.Contains(t, pear, "What stays:", "the liquid is in already")
	w := s.state(at)
	require.Equal(t, 4, w.Bakes[0].Task.N)
	flour := fmt.Sprint(w.Bakes[0].Task.Weigh.Line)
	s.tell(at, "what", "in", "task", "4", "line", flour, "value", "240")
	_, body := s.get(at)
	assert.Contains(t, body, "30 g too much plain flour went in.")
	assert.Contains(t, body, "scale the rest to it ×1.14")
	s.tell(at, "what", "scale", "value", "1.1429")
	s.upTo(at, 5)
	assert.InDelta(t, 133.3*1.1429, s.state(at).Bakes[0].Task.Weigh.TargetG, 0.5)

	to := s.tell(at, "what", "slip", "text", "got-in", "foodname", "eggs", "value", "3", "to", "slip")
	_, body = s.get(to)
	body = html.UnescapeString(body)
	assert.Contains(t, body, "Not for those you bake this for")
	assert.Contains(t, body, "begin anew for the rest")
	to = s.tell(at, "what", "slip", "text", "twice", "line", flour, "to", "slip")
	_, body = s.get(to)
	assert.Contains(t, body, "Make it a double batch")
}

// Timers and all that was told stand after the program was killed; a tablet that was away tells what happened
// and when.
func TestNothingThatWasToldIsLost(t *testing.T) {
	s := newSite(t)
	at := s.begin()
	s.tell(at, "what", "timer", "key", "nuts", "text", "nuts", "value", "8")
	s.tell(at, "what", "more", "key", "nuts", "value", "5")
	h, err := web.New(s.st) // another program on the same file
	require.NoError(t, err)
	again := site{t, h, s.st, s.file}
	w := again.state(at)
	require.Len(t, w.Timers, 1)
	assert.InDelta(t, 13*60, w.Timers[0].Seconds, 5)
	again.tell(at, "what", "pause", "key", "nuts")
	assert.True(t, s.state(at).Timers[0].Paused)
	s.tell(at, "what", "timer", "key", "late", "text", "late", "value", "2", "ago", "90")
	for _, x := range s.state(at).Timers {
		if x.Key == "late" {
			assert.Greater(t, x.Seconds, 60.0, "not before the bake was begun")
			assert.LessOrEqual(t, x.Seconds, 120.0)
		}
	}
}

// lines reads what a stream sends till it holds some words.
func lines(t *testing.T, res *http.Response, till string) string {
	t.Helper()
	var all strings.Builder
	in := bufio.NewScanner(res.Body)
	for in.Scan() {
		all.WriteString(in.Text() + "\n")
		if strings.Contains(all.String(), till) {
			return all.String()
		}
	}
	t.Fatalf("the stream ended without %q: %s", till, all.String())
	return ""
}

// attend works at a bake, as an open page does, until a test is over.
func attend(ctx context.Context, url string) {
	go func() {
		for ctx.Err() == nil {
			req, err := http.NewRequestWithContext(ctx, "POST", url, nil)
			if err != nil {
				return
			}
			res, err := http.DefaultClient.Do(req)
			if err != nil {
				return
			}
			res.Body.Close()
		}
	}()
}

// Twenty screens look on: what one tells all hear, and what the scale settles is put in once.
func TestTwentyScreensAndAScale(t *testing.T) {
	s := newSite(t)
	ctx, stop := context.WithTimeout(t.Context(), 40*time.Second)
	defer stop()
	scale := device.NewStandScale(1)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = scale.Serve(ctx, l) }()
	code, body, _ := s.post("/devices", url.Values{"scale": {"nowhere"}})
	require.Equal(t, 422, code)
	assert.Contains(t, html.UnescapeString(body), "“nowhere” is no address")
	code, _, _ = s.post("/devices", url.Values{"scale": {l.Addr().String()}})
	require.Equal(t, 303, code)
	at := s.begin()
	srv := httptest.NewServer(s.h)
	defer srv.Close()
	var heard sync.WaitGroup
	first := s.state(at).Bakes[0].Task.Weigh
	for range 20 {
		heard.Go(func() {
			attend(ctx, srv.URL+at+"/attend?auto=1")
			req, err := http.NewRequestWithContext(ctx, "GET", srv.URL+at+"/live", nil)
			if !assert.NoError(t, err) {
				return
			}
			res, err := http.DefaultClient.Do(req)
			if !assert.NoError(t, err) {
				return
			}
			defer res.Body.Close()
			got := lines(t, res, "event: told\ndata: 1\n")
			assert.Contains(t, got, "id: 1")
			assert.Contains(t, got, `"scale":"scale: `)
		})
	}
	require.Eventually(t, func() bool {
		return s.state(at).Devices["scale"] == "scale: 0.0 g, steady" || strings.HasSuffix(s.state(at).Devices["scale"], "steady")
	}, 10*time.Second, 50*time.Millisecond)
	scale.Pour(first.TargetG)
	heard.Wait()
	w := s.state(at)
	assert.Equal(t, int64(1), w.Seq, "put in once")
	assert.InDelta(t, first.TargetG, w.Bakes[0].Bowl[fmt.Sprint(first.Line)], 1)
	_, truth := scale.Shows()
	assert.InDelta(t, 0, truth, 0.01, "and tared")
	code, body = s.get("/ovens")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "scale: ")

	// The stream of a page that comes back tells it what it missed.
	req, err := http.NewRequestWithContext(ctx, "GET", srv.URL+at+"/live", nil)
	require.NoError(t, err)
	req.Header.Set("Last-Event-ID", "0")
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	assert.Contains(t, lines(t, res, "event: told"), "id: 1")
	res.Body.Close()
}

// A scale that is not tared, whose weight fits the next line as well, puts nothing in twice; and it weighs for the bake
// that was worked at last alone.
func TestAWeightCountsOnce(t *testing.T) {
	s := newSite(t)
	ctx, stop := context.WithTimeout(t.Context(), 30*time.Second)
	defer stop()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	shows := make(chan string, 1)
	shows <- "0"
	go func() { // it hears no tare
		conn, err := l.Accept()
		if err != nil {
			return
		}
		defer conn.Close()
		value := "0"
		for n := 0; ctx.Err() == nil; n++ {
			select {
			case value = <-shows:
			default:
			}
			if _, err := fmt.Fprintf(conn, "r %d - %s g steady\n", n, value); err != nil {
				return
			}
			time.Sleep(100 * time.Millisecond)
		}
	}()
	require.NoError(t, s.st.ChangeHousehold(ctx, store.AnyRev, func(h *store.Household) { h.Devices.Scale = l.Addr().String() }))
	twins := s.shelve("Twin cake\nServes 4\n\n150 g plain flour\n150 g caster sugar\n150 g butter\n3 eggs\n1 tsp baking powder\n\nBeat the butter, sugar, flour, powder and eggs. Bake in a 20 cm round tin at 180C for 30 minutes.")
	code, _, at := s.post("/bakes", url.Values{"b": {twins[len("/recipes/"):] + ":", s.id("Cheddar-and-chive scones")[len("/recipes/"):] + ":"}})
	require.Equal(t, 303, code)
	for n := 0; n < 9 && s.state(at).Bakes[0].Task.Weigh == nil; n++ {
		s.upTo(at, s.state(at).Bakes[0].Task.N+1)
	}
	s.tell(at, "what", "hot")
	s.tell(at, "what", "lined")
	srv := httptest.NewServer(s.h)
	defer srv.Close()
	defer stop()
	for _, strip := range []string{"0", "1"} {
		attend(ctx, srv.URL+at+"/attend?auto=1&bake="+strip)
		req, err := http.NewRequestWithContext(ctx, "GET", srv.URL+at+"/live?bake="+strip, nil)
		require.NoError(t, err)
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		defer res.Body.Close()
		go func() {
			in := bufio.NewScanner(res.Body)
			for in.Scan() {
			}
		}()
	}
	require.Eventually(t, func() bool { return s.state(at).Devices["scale"] == "scale: 0.0 g, steady" }, 8*time.Second, 50*time.Millisecond)
	before := s.state(at).Seq
	shows <- "150"
	require.Eventually(t, func() bool { return s.state(at).Seq == before+1 }, 8*time.Second, 50*time.Millisecond, "the first is in")
	time.Sleep(2500 * time.Millisecond)
	assert.Equal(t, before+1, s.state(at).Seq, "the same weight is none of the next")
	shows <- "0"
	require.Eventually(t, func() bool { return s.state(at).Devices["scale"] == "scale: 0.0 g, steady" }, 8*time.Second, 50*time.Millisecond)
	shows <- "150"
	require.Eventually(t, func() bool { return s.state(at).Seq == before+2 }, 8*time.Second, 50*time.Millisecond, "and then it is")
	assert.Empty(t, s.state(at).Bakes[1].Bowl, "nothing of the other bake")
}

// A probe's readings are written down by themselves, one a minute of the counter's clock, and the end moves.
func TestAProbeIsWrittenDown(t *testing.T) {
	s := newSite(t)
	app, err := web.New(s.st)
	require.NoError(t, err)
	app.Hasten(600)
	defer app.Close()
	s.h = app
	ctx, stop := context.WithTimeout(t.Context(), 30*time.Second)
	defer stop()
	probe := device.NewStandProbe(1, 600, func(m float64) (float64, float64) { return min(20+1.2*m, 96), 175 })
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = probe.Serve(ctx, l) }()
	require.NoError(t, s.st.ChangeHousehold(ctx, store.AnyRev, func(h *store.Household) { h.Devices.Probe = l.Addr().String() }))
	at := s.begin()
	s.tell(at, "what", "hot")
	s.upTo(at, 8)
	s.tell(at, "what", "went-in", "task", "8")
	probe.PutIn(true)
	srv := httptest.NewServer(s.h)
	defer srv.Close()
	defer stop()
	attend(ctx, srv.URL+at+"/attend")
	req, err := http.NewRequestWithContext(ctx, "GET", srv.URL+at+"/live", nil)
	require.NoError(t, err)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	go func() {
		in := bufio.NewScanner(res.Body)
		for in.Scan() {
		}
	}()
	var o sittingWire
	require.Eventually(t, func() bool {
		o = s.state(at)
		return len(o.Bakes[0].Oven.Readings) >= 6
	}, 20*time.Second, 200*time.Millisecond)
	for n, x := range o.Bakes[0].Oven.Readings[1:] {
		assert.GreaterOrEqual(t, x.Minutes-o.Bakes[0].Oven.Readings[n].Minutes, 1.0)
	}
	code, body := s.get(at)
	require.Equal(t, 200, code)
	assert.Contains(t, body, "c-measured")
}

// Several bakes of a plan stand beside each other; what was kept and is no longer for this table says so.
func TestSeveralBakesAtOnce(t *testing.T) {
	s := newSite(t)
	scones := s.id("Cheddar-and-chive scones")[len("/recipes/"):] + ":"
	at := s.begin(scones)
	w := s.state(at)
	require.Len(t, w.Bakes, 2)
	assert.Equal(t, "heat", w.Bakes[1].Task.Verb)
	code, body := s.get(at + "?bake=1")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "Cheddar-and-chive scones · task 1 of")
	assert.Contains(t, body, `aria-label="What is baked"`)
	s.post(at, url.Values{"bake": {"1"}, "what": {"done"}, "task": {"0"}})
	assert.Equal(t, 0, s.state(at).Bakes[0].Task.N)
	assert.Equal(t, 1, s.state(at).Bakes[1].Task.N)
	s.tell(at, "what", "went-in", "task", "8")
	_, body = s.get(at + "?bake=1")
	assert.Regexp(t, `in the oven, likely done \d\d:\d\d to \d\d:\d\d`, body)
	assert.Regexp(t, `First look: Pear and cardamom`, body, "it rings on the other's page as well")
	code, body, _ = s.post("/bakes", url.Values{"b": {s.id("Almond-orange cake")[len("/recipes/"):] + ":diet=egg-free&ban=aquafaba&ban=nuts&ban=seeds"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "cannot be baked")
}

// What a bake really used goes from the house once it is finished, and comes back where it goes on after all.
func TestABakeTakesFromTheHouse(t *testing.T) {
	s := newSite(t)
	stock := func() float64 {
		own, _, err := s.st.Own(t.Context())
		require.NoError(t, err)
		for _, o := range own {
			if o.ID == "plain-flour" {
				return o.Pack.Stock
			}
		}
		return -1
	}
	require.NoError(t, s.st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Day.Uses = true }))
	was := stock()
	at := s.begin()
	s.upTo(at, 4)
	s.tell(at, "what", "in", "task", "4", "line", "1", "value", "214")
	s.tell(at, "what", "finish", "id", "end")
	assert.InDelta(t, was-214, stock(), 1e-9, "as it was weighed")
	s.tell(at, "what", "finish", "id", "again")
	assert.InDelta(t, was-214, stock(), 1e-9, "once")
	s.tell(at, "what", "undo", "key", "end")
	assert.InDelta(t, was-214, stock(), 1e-9, "it was finished twice")
	s.tell(at, "what", "undo", "key", "again")
	assert.InDelta(t, was, stock(), 1e-9)
	assert.False(t, s.state(at).Over)
}

// Cups and degrees are the household's: without a scale by the cup, the probe in its degrees.
func TestTheCounterInCupsAndFahrenheit(t *testing.T) {
	s := newSite(t)
	require.NoError(t, s.st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Kitchen.Cups, h.Kitchen.Fahrenheit = true, true }))
	at := s.begin()
	s.upTo(at, 4)
	_, body := s.get(at)
	assert.Contains(t, body, `id="c-big">1¾ cups</b>`)
	assert.Contains(t, body, "210 g plain flour")
	s.upTo(at, 8)
	s.tell(at, "what", "went-in", "task", "8")
	s.tell(at, "what", "probe", "value", "70")
	_, body = s.get(at)
	assert.Contains(t, body, "now 70 °F")
	assert.Contains(t, body, "done 205 °F")
	assert.InDelta(t, 21.1, s.state(at).Bakes[0].Oven.Readings[0].Core, 0.1)
}

// What is more than a page holds is counted and can be turned to: bakes, what was put away, texts that were begun.
func TestNothingIsCutOffALongList(t *testing.T) {
	s := newSite(t)
	for n := range 230 {
		id, err := s.st.AddBake(t.Context(), store.Bake{Name: fmt.Sprintf("Loaf %03d", n), Who: "bow", Begun: time.Date(2026, 1, 1, 7, n, 0, 0, time.Local)}, bake.Event{ID: "f", What: bake.Finish, At: time.Date(2026, 1, 1, 9, n, 0, 0, time.Local)})
		require.NoError(t, err)
		if n < 120 {
			require.NoError(t, s.st.DropBake(t.Context(), id, true))
			require.NoError(t, s.st.DropBake(t.Context(), id, false))
		}
		plan, err := s.st.AddPlan(t.Context(), store.Plan{Name: fmt.Sprintf("Plan %03d", n)})
		require.NoError(t, err)
		require.NoError(t, s.st.DropPlan(t.Context(), plan, true))
	}
	for range 130 {
		_, err := s.st.AddDraft(t.Context(), 0, "Squares\n"+strings.Repeat("200 g flour\n", 100), store.Typed{})
		require.NoError(t, err)
	}
	_, running := s.get(s.begin())
	require.NotEmpty(t, running)
	names := regexp.MustCompile(`class="plans-name"[^>]*>((?:Loaf|Plan) \d+)<`)
	list := func(path string) (out []string) {
		for n := 1; n <= 4; n++ {
			_, body := s.get(fmt.Sprintf("%s?page=%d", path, n))
			if n > 1 && !strings.Contains(body, fmt.Sprintf("page=%d", n-1)) {
				break // there is no such page
			}
			for _, m := range names.FindAllStringSubmatch(body, -1) {
				if !slices.Contains(out, m[1]) {
					out = append(out, m[1])
				}
			}
		}
		return out
	}
	bakes := list("/bakes")
	require.Len(t, bakes, 230)
	assert.Equal(t, "Loaf 229", bakes[0])
	assert.Equal(t, "Loaf 000", bakes[229])
	_, body := s.get("/bakes")
	assert.Less(t, strings.Index(body, "goes on"), strings.Index(body, "Loaf 229"), "what goes on is first")
	assert.Contains(t, body, `<option value="bow"`)
	assert.Len(t, list("/away"), 230)
	_, body = s.get("/")
	assert.Contains(t, body, `<a href="/new">all 130</a>`)
	_, body = s.get("/new")
	assert.Equal(t, 130, strings.Count(body, "Give up Squares"))
}

// Looking on writes nothing: a stream that is asked for with GET leaves a bake as it is, whatever its address says, though the scale
// stands at just what is wanted.
func TestLookingOnWritesNothing(t *testing.T) {
	s := newSite(t)
	ctx, stop := context.WithTimeout(t.Context(), 20*time.Second)
	defer stop()
	scale := device.NewStandScale(1)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = scale.Serve(ctx, l) }()
	require.NoError(t, s.st.ChangeHousehold(ctx, store.AnyRev, func(h *store.Household) { h.Devices.Scale = l.Addr().String() }))
	at := s.begin()
	srv := httptest.NewServer(s.h)
	defer srv.Close()
	scale.Pour(s.state(at).Bakes[0].Task.Weigh.TargetG)
	req, err := http.NewRequestWithContext(ctx, "GET", srv.URL+at+"/live?auto=1", nil)
	require.NoError(t, err)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	assert.Contains(t, lines(t, res, "steady"), "steady")
	time.Sleep(1500 * time.Millisecond) // six looks of the stream
	assert.Zero(t, s.state(at).Seq)
	code, _, _ := s.post("/bakes/99/attend", url.Values{})
	assert.Equal(t, 404, code)
}
