package web

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"mime/multipart"
	"net/http"
	"runtime/debug"
	"strconv"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"

	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/format"
	"kollaris/internal/store"
)

// Files that are brought in together are one job: what they hold is read one recipe after the other beside the pages, each becomes a draft at
// once, and the page of the job shows how far it is. It can be stopped, kept, and undone as a whole.

// broughtView is what files held, one row a recipe.
type broughtView struct {
	ID       int64
	When     string
	Words    string
	Running  bool
	Done, Of int          // while it runs
	Bad      int          // files that could not be read
	Ready    int          // recipes whose every line is understood, and that the shelf has none of
	Kept     int          // recipes that are on the shelf by now
	Found    int          // recipes in all
	Away     bool         // all of it is put away
	Left     string       // what was not put away with the rest
	Rows     []broughtRow // of the page that is shown
	All      int
	Pages    []link
}

// broughtPage is how many rows stand on a page.
const broughtPage = 100

type broughtRow struct {
	broughtSeen
	DraftID, Kept int64
	Twin          bool   // the shelf has one of that name
	Ready         bool   // every line is understood, and the shelf has none of that name
	Fault         string // why nothing could be read
}

// broughtSeen is what was found when it was read; it is kept beside the draft.
type broughtSeen struct {
	File       string `json:"file"`
	Title      string `json:"title"`
	Words      string `json:"words"` // "9 of 10 lines understood. 1 to settle."
	Understood bool   `json:"understood,omitempty"`
	Settled    bool   `json:"settled,omitempty"` // and nothing looks wrong
}

// jobs are those that run, by what they bring.
type jobs struct {
	sync.Mutex
	of map[int64]*job
}

// job reads what files held.
type job struct {
	id   int64
	ctx  context.Context
	stop context.CancelFunc
	does string // "Reading"
	left int    // that wait, under the lock of jobs
}

// begin makes room for more of what a job does.
func (j *jobs) begin(id int64, does string, more int) *job {
	j.Lock()
	defer j.Unlock()
	x := j.of[id]
	if x == nil || x.ctx.Err() != nil {
		ctx, stop := context.WithCancel(context.Background())
		x = &job{id: id, ctx: ctx, stop: stop, does: does}
		j.of[id] = x
	}
	x.left += more
	return x
}

// more is found to be done by a job that runs.
func (j *jobs) more(x *job, n int) {
	j.Lock()
	defer j.Unlock()
	x.left += n
}

// done takes what was read, or will not be, off a job; the last ends it.
func (j *jobs) done(x *job, n int) {
	j.Lock()
	defer j.Unlock()
	if x.left -= n; x.left > 0 {
		return
	}
	x.stop()
	if j.of[x.id] == x {
		delete(j.of, x.id)
	}
}

// left is how many of a job are still to be done, and what is done; 0 where none runs.
func (j *jobs) left(id int64) (int, string) {
	j.Lock()
	defer j.Unlock()
	if x := j.of[id]; x != nil {
		return x.left, x.does
	}
	return 0, ""
}

// end stops a job, or with 0 all of them.
func (j *jobs) end(id int64) {
	j.Lock()
	defer j.Unlock()
	for n, x := range j.of {
		if id == 0 || n == id {
			x.stop()
		}
	}
}

// bringIn takes files in and begins to read the recipes in them. Sent with the number of what was brought before, they go with it.
func (s *Server) bringIn(c *gin.Context) error {
	sorry := func(words string) error {
		s.show(
			c, http.StatusUnprocessableEntity, "new",
			page{Title: "New recipe", Nav: "shelf", Script: "new", View: newView{FileFault: words}},
		)
		return nil
	}
	form, err := c.MultipartForm()
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		return sorry(fmt.Sprintf("Those files are more than the %d MB that can be taken at once: choose fewer.", maxFiles>>20))
	case errors.Is(err, multipart.ErrMessageTooLarge):
		return sorry("Those are more files than can be taken at once: choose at most 500, or put them into one zip.")
	case err != nil || len(form.File["files"]) == 0:
		return sorry("No file was chosen: choose one or more, or a zip of them.")
	}
	var files []file
	for _, h := range form.File["files"] {
		data, err := contents(h)
		if err != nil {
			return err
		}
		files = append(files, file{h.Filename, data})
	}
	opt, err := s.readingOptions(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	id, err := strconv.ParseInt(c.PostForm("brought"), 10, 64)
	if err == nil {
		_, err = s.store.Brought(ctx, id)
	}
	if err != nil { // the first of them
		if id, err = s.store.BeginBrought(ctx); err != nil {
			return err
		}
	}
	j := s.jobs.begin(id, reading, len(files))
	worker := *s
	worker.kit.Stop = j.ctx.Err
	go worker.readBrought(j, files, opt)
	if c.GetHeader("X-Fragment") != "" {
		return s.showBrought(c, id)
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/brought/%d", id))
	return nil
}

func contents(h *multipart.FileHeader) ([]byte, error) {
	f, err := h.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return io.ReadAll(f)
}

// What jobs do.
const reading, keeping = "Reading", "Putting on the shelf"

// file is one as it was sent.
type file struct {
	name string
	data []byte
}

// readBrought finds the recipes in files and reads them, one after the other.
func (s *Server) readBrought(j *job, files []file, opt reader.Options) {
	for n, f := range files {
		found, err := s.lookInto(j, f)
		files[n].data = nil
		if err == nil && s.turns(j, len(found), func(k int) error { return s.readOne(j.ctx, j.id, found[k], opt) }) {
			s.jobs.done(j, 1)
			continue
		}
		left := files[n+1:]
		switch {
		case err != nil && j.ctx.Err() == nil:
			slog.Error("brought", "id", j.id, "file", f.name, "err", err)
			s.lose(j, "Something broke while it was looked into: paste its text.", f)
			s.jobs.done(j, 1)
			continue
		case err != nil:
			left = files[n:]
		}
		s.lose(j, "It was not looked into: it was stopped before.", left...)
		s.jobs.done(j, len(files)-n)
		return
	}
}

// lose notes files that are not looked into, also when the job was stopped.
func (s *Server) lose(j *job, why string, files ...file) {
	ctx := context.WithoutCancel(j.ctx)
	for _, f := range files {
		err := errors.Join(s.store.ExpectBrought(ctx, j.id, 1), s.store.LoseBrought(ctx, j.id, store.LostFile{File: f.name, Fault: why}))
		if err != nil {
			slog.Error("brought", "id", j.id, "err", err)
		}
	}
}

// lookInto finds the recipes in a file.
func (s *Server) lookInto(j *job, f file) (found []format.Found, err error) {
	err = s.inTurn(j, func() error {
		found = format.Recipes(f.name, f.data)
		s.jobs.more(j, len(found))
		err := s.store.ExpectBrought(j.ctx, j.id, len(found))
		if err != nil {
			s.jobs.done(j, len(found))
		}
		return err
	})
	return found, err
}

// inTurn does a piece of a job in its turn among the pages that work something out. What breaks in it is an error: beside the pages
// nobody else would catch it.
func (s *Server) inTurn(j *job, do func() error) (err error) {
	if _, err := s.gates.heavy.enter(j.ctx, true); err != nil {
		return err
	}
	defer s.gates.heavy.leave()
	defer func() {
		if broken := recover(); broken != nil {
			err = fmt.Errorf("%v\n%s", broken, debug.Stack())
		}
	}()
	return do()
}

// turns does so many pieces of a job, each in its turn among the pages that work something out; what is not done any more is taken off.
// It reports whether all of it was done.
func (s *Server) turns(j *job, pieces int, do func(n int) error) bool {
	for n := range pieces {
		if err := s.inTurn(j, func() error { return do(n) }); err != nil {
			if j.ctx.Err() == nil {
				slog.Error("brought", "id", j.id, "err", err)
			}
			s.jobs.done(j, pieces-n)
			return false
		}
		s.jobs.done(j, 1)
	}
	return true
}

func (s *Server) readOne(ctx context.Context, id int64, found format.Found, opt reader.Options) (err error) {
	lose := func(why string) error {
		return s.store.LoseBrought(ctx, id, store.LostFile{File: found.File, Fault: phrase.Sentence(why)})
	}
	defer func() {
		if broken := recover(); broken != nil { // nobody else would catch it here
			slog.Error("brought", "id", id, "panic", broken)
			err = lose("something broke while it was read: paste its text")
		}
	}()
	if found.Fault != "" {
		return lose(found.Fault)
	}
	rd, err := reader.Read(found.Text, opt)
	if err != nil {
		return lose(err.Error())
	}
	if len(rd.Recipe.Lines) == 0 {
		return lose("no ingredient line was found in it: paste its text, the ingredients one to a line")
	}
	read := s.readView(rd, found.Text, store.Typed{}, 0)
	seen, err := json.Marshal(broughtSeen{found.File, read.Title, read.Words, len(rd.Recipe.Unknown()) == 0, read.Settled})
	if err != nil {
		return err
	}
	_, err = s.store.AddBrought(ctx, id, found.Text, string(seen))
	return err
}

// brought is the page of what was brought in together.
func (s *Server) brought(c *gin.Context) error { return s.showBrought(c, paramID(c)) }

func (s *Server) showBrought(c *gin.Context, id int64) error {
	v, err := s.broughtOf(c, id)
	if err != nil {
		return err
	}
	var from, to int
	from, to, v.Pages = pagesOf(c, fmt.Sprintf("/brought/%d", id), len(v.Rows), broughtPage, nil)
	v.All, v.Rows = len(v.Rows), v.Rows[from:to]
	p := page{Title: "From files", Nav: "shelf", Script: "new", View: v}
	if v.Running {
		p.Again = 2
	}
	s.show(c, http.StatusOK, "brought", p)
	return nil
}

func (s *Server) broughtOf(c *gin.Context, id int64) (*broughtView, error) {
	left, does := s.jobs.left(id) // before what was read is asked for: it may end meanwhile
	b, err := s.store.Brought(c.Request.Context(), id)
	if err != nil {
		return nil, err
	}
	titles, err := s.titles(c)
	if err != nil {
		return nil, err
	}
	v := &broughtView{ID: id, When: b.At.Local().Format("2 January, 15:04"), Running: left > 0, Done: max(0, b.Found-left), Of: max(b.Found, left), Bad: len(b.Lost)}
	for _, l := range b.Lost { // first what needs somebody
		v.Rows = append(v.Rows, broughtRow{broughtSeen: broughtSeen{File: l.File}, Fault: l.Fault})
	}
	for _, one := range b.Of {
		row := broughtRow{DraftID: one.Draft, Kept: one.Kept}
		if err := json.Unmarshal([]byte(one.Seen), &row.broughtSeen); err != nil {
			row.Title = "A recipe"
		}
		key := strings.ToLower(row.Title)
		if row.Kept != 0 {
			v.Kept++
		} else {
			row.Twin, titles[key] = titles[key], true
			row.Ready = row.Understood && !row.Twin
		}
		if row.Ready {
			v.Ready++
		}
		v.Rows = append(v.Rows, row)
	}
	if v.Running {
		if does == keeping {
			v.Done, v.Of = v.Kept, v.Kept+left
		}
		v.Words = fmt.Sprintf("%s: %d of %d.", does, v.Done, v.Of)
		return v, nil
	}
	if n, err := strconv.Atoi(c.Query("left")); err == nil && n > 0 {
		v.Left = plural(n, "recipe") + " stayed on the shelf, since there are versions of it: take it off there."
	}
	v.Found = len(b.Of)
	v.Words = plural(v.Found, "recipe") + " found."
	if v.Bad > 0 {
		v.Words += " " + plural(v.Bad, "file") + " could not be read."
	}
	if v.Kept > 0 {
		v.Words += fmt.Sprintf(" %d on the shelf.", v.Kept)
	}
	switch {
	case b.Away > 0 && v.Found == 0:
		v.Away, v.Words = true, plural(b.Away, "recipe")+" put away."
	case b.Away > 0:
		v.Words += fmt.Sprintf(" %d put away.", b.Away)
	}
	if unread := b.Found - v.Bad - v.Found - b.Away; unread > 0 {
		v.Words += fmt.Sprintf(" %d not read: it was stopped.", unread)
	}
	return v, nil
}

// titles are those on the shelf, in lower case.
func (s *Server) titles(c *gin.Context) (map[string]bool, error) {
	all, err := s.store.Heads(c.Request.Context(), "", "", 0, -1)
	out := map[string]bool{}
	for _, r := range all {
		out[strings.ToLower(r.Title)] = true
	}
	return out, err
}

// onBrought does something with what was brought in together: stop stops reading it, keep puts what is ready on the shelf, undo puts all
// of it away, and back brings that back.
func (s *Server) onBrought(c *gin.Context) error {
	id := paramID(c)
	if _, err := s.store.Brought(c.Request.Context(), id); err != nil {
		return err
	}
	to := fmt.Sprintf("/brought/%d", id)
	switch c.Param("do") {
	case "stop":
		s.jobs.end(id)
	case "keep":
		v, err := s.broughtOf(c, id)
		if err != nil {
			return err
		}
		var ready []int64
		for _, row := range v.Rows {
			if row.Ready {
				ready = append(ready, row.DraftID)
			}
		}
		opt, err := s.readingOptions(c)
		if err != nil {
			return err
		}
		if v.Running {
			break
		}
		if len(ready) == 0 { // pressed twice
			to = "/"
			break
		}
		j := s.jobs.begin(id, keeping, len(ready))
		worker := *s
		worker.kit.Stop = j.ctx.Err
		keep := func() {
			worker.turns(j, len(ready), func(n int) error { return worker.keepOne(j.ctx, ready[n], opt) })
		}
		if len(ready) > fewReady {
			go keep()
			break
		}
		keep()
		to = "/"
	case "undo":
		s.jobs.end(id)
		left, err := s.store.UndoBrought(c.Request.Context(), id)
		if err != nil {
			return err
		}
		if left > 0 {
			to += "?left=" + strconv.Itoa(left)
		}
	case "back":
		if err := s.store.RedoBrought(c.Request.Context(), id); err != nil {
			return err
		}
	default:
		return store.ErrNotFound
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// fewReady are put on the shelf while one waits.
const fewReady = 30

// keepOne puts a draft on the shelf, where it still can be read; one that is there already stays.
func (s *Server) keepOne(ctx context.Context, id int64, opt reader.Options) error {
	d, err := s.store.Draft(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil // put away meanwhile
	}
	if err != nil {
		return err
	}
	opt.Fixes, opt.Facts, opt.Told = d.Typed.Fixes, d.Typed.Facts, d.Typed.Told
	rd, err := reader.Read(d.Text, opt)
	if err != nil || len(rd.Recipe.Lines) == 0 {
		return nil // it is left among the drafts, where that is said
	}
	rd.Recipe.Title = cmp.Or(rd.Recipe.Title, nameless)
	_, err = s.store.KeepDraft(ctx, d, rd.Recipe)
	return err
}
