package web

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// recipeLog is what was baked of a recipe, the last first.
func (s *Server) recipeLog(c *gin.Context) error {
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	lines, err := s.store.Log(c.Request.Context(), r.ID)
	if err != nil {
		return err
	}
	v := recipeLogView{Title: r.Title, Rail: rail(r.ID, "log", ""), URL: recipeURL(r.ID, "log", ""), Cups: recipeURL(r.ID, "cups", ""), Fault: c.Query("say")}
	v.fill(lines)
	photos, err := s.store.Photos(c.Request.Context(), 0)
	if err != nil {
		return err
	}
	var bakes []journal.Baked
	for n, l := range lines {
		row := &v.Rows[n]
		for _, p := range photos {
			if p.Bake == l.Bake && p.Strip == l.Strip && row.Picture == 0 {
				row.Picture, row.PictureWords = p.ID, photoWords(p, l.Title)
			}
		}
		if n >= mostTold {
			continue
		}
		b, err := s.bakedOf(c, l.Bake, l.Strip)
		if err != nil {
			return err
		}
		bakes = append(bakes, b)
		row.Facts = b.Facts()
	}
	for n := 0; n+1 < len(bakes); n++ {
		v.Rows[n].Since = journal.Since(bakes[n+1], bakes[n], s.kit.Kitchen)
	}
	for n := range v.Rows {
		row := &v.Rows[n]
		for _, x := range append([]string{strings.TrimPrefix(row.Title, r.Title), row.Overall, row.Words}, row.Facts...) {
			if x != "" {
				row.Told = append(row.Told, x)
			}
		}
	}
	v.draw(lines)
	if err := s.ways(c, &v); err != nil {
		return err
	}
	s.show(c, http.StatusOK, "recipelog", page{Title: r.Title + ": log", Nav: "shelf", Script: "page", View: v})
	return nil
}

// ways are what may be written down: the recipe as it is, and its kept versions; the ovens.
func (s *Server) ways(c *gin.Context, v *recipeLogView) error {
	v.On, v.Minutes, v.Who, v.Now = c.Query("on"), c.Query("minutes"), c.Query("who"), s.counter.now().Format("2006-01-02T15:04")
	if v.On == "" {
		v.On = v.Now
	}
	id := paramID(c)
	v.Of = append(v.Of, choice{fmt.Sprintf("%d:", id), "as it is written", false})
	versions, err := s.store.Versions(c.Request.Context(), id)
	if err != nil {
		return err
	}
	for _, ver := range versions {
		if ver.Result != nil {
			v.Of = append(v.Of, choice{fmt.Sprintf("v%d", ver.ID), ver.Title, fmt.Sprintf("v%d", ver.ID) == c.Query("of")})
		}
	}
	ovens, err := s.store.Ovens(c.Request.Context())
	for _, o := range ovens {
		v.Ovens = append(v.Ovens, choice{strconv.FormatInt(o.ID, 10), o.Name, strconv.FormatInt(o.ID, 10) == c.Query("in")})
	}
	return err
}

// mostTold is of how many bakes it is said what was done otherwise.
const mostTold = 40

// bakedOf is one bake as it was done.
func (s *Server) bakedOf(c *gin.Context, id int64, strip int) (journal.Baked, error) {
	t, err := s.sit(c, id)
	if err != nil {
		return journal.Baked{}, err
	}
	if strip < 0 || strip >= len(t.sheets) {
		return journal.Baked{}, store.ErrNotFound
	}
	return journal.BakedOf(t.Bake, t.state, strip), nil
}

// bakesBeside lays bakes side by side.
func (s *Server) bakesBeside(c *gin.Context) error {
	picked := c.QueryArray("pick")
	if len(picked) < 2 || len(picked) > mostBakesBeside {
		to := c.Query("from")
		if !strings.HasPrefix(to, "/recipes/") {
			to = "/bakes"
		}
		c.Redirect(http.StatusSeeOther, to+"?say="+urlEscape(fmt.Sprintf("Tick two to %d bakes to lay them side by side.", mostBakesBeside)))
		return nil
	}
	v := bakesBesideView{Span: len(picked) + 1}
	var bakes []journal.Baked
	for _, code := range picked {
		bake, strip, _ := strings.Cut(code, ".")
		id, _ := strconv.ParseInt(bake, 10, 64)
		n, _ := strconv.Atoi(strip)
		t, err := s.sit(c, id)
		if err != nil {
			return err
		}
		if n < 0 || n >= len(t.sheets) {
			return store.ErrNotFound
		}
		b := journal.BakedOf(t.Bake, t.state, n)
		bakes = append(bakes, b)
		col := bakesBesideColumn{Title: b.Of.Title, When: b.Begun, URL: logURL(id, n)}
		photos, err := s.store.Photos(c.Request.Context(), id)
		if err != nil {
			return err
		}
		for _, p := range photos {
			if p.Strip == n && col.Picture == 0 {
				col.Picture, col.PictureWords = p.ID, photoWords(p, b.Of.Title)
			}
		}
		if p := &t.state.Strips[n]; !p.WentIn.IsZero() && !p.Out.IsZero() {
			is, fresh, err := s.inOven(c.Request.Context(), t, n)
			if err != nil {
				return err
			}
			if is != nil {
				col.Chart = coreChartOf(is, fresh, p.Sights, p.WentIn, p.Out, b.Of.Result.Bake.Done, s.kit.Kitchen)
				col.Chart.WinText, col.Chart.Last, v.Charts = "", nil, true
			}
		}
		v.Columns = append(v.Columns, col)
	}
	v.Made, v.Amounts, v.Came = journal.Compare(bakes, s.kit.Kitchen)
	s.show(c, http.StatusOK, "bakesbeside", page{Title: "Bakes side by side", Nav: "bakes", Script: "page", View: v})
	return nil
}

// mostBakesBeside is how many bakes stand side by side.
const mostBakesBeside = 3

// writeDown keeps a bake that was made without the counter: when, in which oven for how long, and goes on to what
// came of it.
func (s *Server) writeDown(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	back := func(fault string) error {
		q := url.Values{"say": {fault}, "on": {form.Get("on")}, "minutes": {form.Get("minutes")}, "of": {form.Get("of")}, "in": {form.Get("in")}, "who": {form.Get("who")}}
		c.Redirect(http.StatusSeeOther, recipeURL(r.ID, "log", q.Encode())+"#write-h")
		return nil
	}
	now := s.counter.now()
	begun, err := time.ParseInLocation("2006-01-02T15:04", form.Get("on"), time.Local)
	if err != nil || begun.After(now) {
		return back(fmt.Sprintf("“%s” is not when it went into the oven: a time that is past would do.", phrase.Clip(form.Get("on"), 20)))
	}
	minutes, ok := 0.0, true
	if typed := strings.TrimSpace(form.Get("minutes")); typed != "" {
		if minutes, ok = decimalUpTo(strings.TrimSuffix(typed, "min"), longestBake); !ok {
			return back(fmt.Sprintf("“%s” is not how many minutes it was in: try 54.", phrase.Clip(typed, 12)))
		}
	}
	bakes := plannedBakes(url.Values{"b": {cmp.Or(form.Get("of"), fmt.Sprintf("%d:", r.ID))}})
	if len(bakes) != 1 {
		return fmt.Errorf("%w: no bake", errForm)
	}
	x := bakes[0]
	code := x.code()
	if in := form.Get("in"); in != "" && !x.kept {
		x.query.Set("in", in)
	}
	title, res, err := s.planned(c, x)
	if err != nil {
		return err
	}
	if res.Refused != nil {
		return back(cannotBake(title, res))
	}
	b := store.Bake{Name: title, Begun: begun, Who: phrase.Clip(strings.TrimSpace(form.Get("who")), 40)}
	b.Of = []store.BakeOf{{Title: title, Code: code, Result: res, Preheat: plan.UsualPreheat}}
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return err
	}
	for _, o := range ovens {
		if o.ID == res.Request.Oven.Oven {
			b.Of[0].Oven = o.Name
		}
	}
	events := writtenDown(res, begun, minutes)
	if b.ID, err = s.store.AddBake(c.Request.Context(), b, events...); err != nil {
		return err
	}
	if err := journal.Keep(c.Request.Context(), s.store, s.kit.Larder, b, bake.Fold(journal.Sheets(b), events)); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, logURL(b.ID, 0))
	return nil
}

// longestBake is the longest that anything is in the oven, minutes.
const longestBake = 24 * 60

// writtenDown is what is known of a bake that nobody followed: it went in, and came out.
func writtenDown(res *adapt.Result, begun time.Time, minutes float64) []bake.Event {
	at := slices.IndexFunc(res.Method, func(t method.Task) bool { return t.Verb == method.Bake })
	end := begun.Add(time.Duration(minutes * float64(time.Minute)))
	var out []bake.Event
	if at >= 0 && minutes > 0 {
		out = append(out, bake.Event{ID: newID(), At: begun, What: bake.WentIn, Task: at}, bake.Event{ID: newID(), At: end, What: bake.CameOut, Task: at})
	}
	return append(out, bake.Event{ID: newID(), At: end.Add(time.Second), What: bake.Finish})
}

// maxLog is the largest log that is brought in, bytes.
const maxLog = 600 << 20

// logZip is the whole log as a file, written as it is sent.
func (s *Server) logZip(c *gin.Context) error {
	c.Header("Content-Disposition", `attachment; filename="kollaris-log.zip"`)
	c.Header("Content-Type", "application/zip")
	c.Status(http.StatusOK)
	patient(c)
	return journal.Zip(c.Request.Context(), s.store, c.Writer)
}

// bringLog brings a log back.
func (s *Server) bringLog(c *gin.Context) error {
	say := func(words string, bad bool) error {
		q := url.Values{"say": {words}}
		if bad {
			q.Set("bad", "1")
		}
		c.Redirect(http.StatusSeeOther, "/bakes?"+q.Encode())
		return nil
	}
	head, err := c.FormFile("file")
	if err != nil {
		return say("No file was chosen: choose the zip that was taken out.", true)
	}
	f, err := head.Open()
	if err != nil {
		return err
	}
	defer f.Close()
	came, there, err := journal.Bring(c.Request.Context(), s.store, s.kit.Larder, f, head.Size)
	switch {
	case errors.Is(err, journal.ErrCarried):
		return say(fmt.Sprintf("“%s”: %v.", phrase.Clip(head.Filename, 40), err), true)
	case errors.Is(err, store.ErrNoRoom):
		return say(phrase.Sentence(err.Error()), true)
	case err != nil:
		return err
	}
	words := counted(came, "bake is", "bakes are") + " back."
	if there > 0 {
		words += " " + counted(there, "was", "were") + " there already."
	}
	return say(words, false)
}
