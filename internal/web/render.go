package web

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"errors"
	"fmt"
	"html"
	"html/template"
	"io/fs"
	"log/slog"
	"net/http"
	"net/url"
	"path"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"

	"kollaris/core/phrase"
	"kollaris/internal/store"
)

//go:embed templates/*.html
var templateFiles embed.FS

//go:embed all:static
var staticFiles embed.FS

// views are the parsed templates, one set a page, and the hash of the static tree.
type views struct {
	pages   map[string]func() *template.Template
	tree    string
	worker  []byte // sw.js
	screens []byte // css/screens.css, the sheets of css/screens one after the other
}

// loadViews parses layout and partials (names that begin with "_") for each page.
func loadViews() (*views, error) {
	v := &views{pages: map[string]func() *template.Template{}}
	sum := sha256.New()
	err := fs.WalkDir(staticFiles, "static", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := staticFiles.ReadFile(p)
		sum.Write([]byte(p))
		sum.Write(b)
		if path.Dir(p) == "static/css/screens" {
			v.screens = append(v.screens, b...)
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	v.tree = hex.EncodeToString(sum.Sum(nil))[:12]
	if v.worker, err = workerOf(v.tree); err != nil {
		return nil, err
	}
	funcs := template.FuncMap{
		"static":  func(p string) string { return "/static/" + v.tree + "/" + p },
		"dict":    dict,
		"options": options,
		"offers":  offers,
	}
	shared, err := template.New("").Funcs(funcs).ParseFS(templateFiles, "templates/_*.html")
	if err != nil {
		return nil, err
	}
	names, err := fs.Glob(templateFiles, "templates/[a-z]*.html")
	if err != nil {
		return nil, err
	}
	for _, n := range names { // a page is read when it is first asked for: they are part of the program, and the tests ask for all
		v.pages[strings.TrimSuffix(path.Base(n), ".html")] = sync.OnceValue(func() *template.Template {
			return template.Must(template.Must(shared.Clone()).ParseFS(templateFiles, n))
		})
	}
	return v, nil
}

// options are the choices of a list, and offers the words that a field suggests, some hundred of them: they are written at
// once, since each value costs a template more than its letters.
func options(of []readChoice) template.HTML {
	var b strings.Builder
	for _, x := range of {
		b.WriteString(`<option value="` + html.EscapeString(x.ID) + `">` + html.EscapeString(x.Name) + "</option>\n")
	}
	return template.HTML(b.String())
}

func offers(words []string) template.HTML {
	var b strings.Builder
	for _, w := range words {
		b.WriteString(`<option value="` + html.EscapeString(w) + `"></option>`)
	}
	return template.HTML(b.String())
}

// dict makes a map of key, value, key, value… for a partial.
func dict(pairs ...any) (map[string]any, error) {
	if len(pairs)%2 != 0 {
		return nil, errors.New("dict: a key without a value")
	}
	m := map[string]any{}
	for n := 0; n < len(pairs); n += 2 {
		k, ok := pairs[n].(string)
		if !ok {
			return nil, fmt.Errorf("dict: key %v is no string", pairs[n])
		}
		m[k] = pairs[n+1]
	}
	return m, nil
}

// page is what the layout needs around a view.
type page struct {
	Title  string
	Nav    string // shelf, settings, sources
	Units  string // how the household measures, in a few words
	Script string // module of this screen, "" for none
	Keys   string // "off" where single letters are no shortcuts
	Cups   string // "yes" where cups stand first
	Paper  string // in the printer: "a4" or "letter"
	Worker bool   // it may keep pages for when there is no network
	Quit   bool   // the program can be stopped from here
	Gone   string // who has left the table, and is not asked for here
	Again  int    // seconds after which a browser without scripts asks anew; 0 for never
	View   any
}

// show renders a whole page, or only its fragment where the request asks for it.
func (s *Server) show(c *gin.Context, status int, name string, p page) {
	t := s.views.pages[name]()
	block := "layout"
	if c.GetHeader("X-Fragment") != "" && t.Lookup("fragment") != nil {
		block = "fragment"
	}
	k := s.kit.Kitchen
	p.Paper = cmp.Or(s.home.Paper, "a4")
	p.Keys = s.home.Keys
	p.Worker = !s.noWorker
	p.Quit = s.quit != nil && s.fromHere(c)
	if len(s.gone) > 0 {
		p.Gone = phrase.And(s.gone) + map[bool]string{true: " has", false: " have"}[len(s.gone) == 1] + " left the table: what they must not have is not asked here."
	}
	p.Units = "grams"
	if k.Cups {
		p.Cups = "yes"
		p.Units = "cups"
	}
	if k.Fahrenheit {
		p.Units += " · °F"
	} else {
		p.Units += " · °C"
	}
	buf := buffers.Get().(*bytes.Buffer)
	buf.Reset()
	defer buffers.Put(buf)
	if err := t.ExecuteTemplate(buf, block, p); err != nil {
		slog.Error("render", "page", name, "err", err)
		if name == "problem" {
			c.String(http.StatusInternalServerError, "Something broke.\n")
			return
		}
		s.fail(c, http.StatusInternalServerError, broken)
		return
	}
	c.Data(status, "text/html; charset=utf-8", buf.Bytes())
}

// problem is anything that went wrong, in words, with what would do.
type problem struct {
	Title string
	Do    string
	Lost  []store.Unreadable // records that cannot be read, each with a way out
	Torn  *store.Broken      // likewise another row, nil for none
}

var (
	notFound = problem{
		Title: "There is nothing here", Do: "It may have been taken off the shelf, or the address has a slip in it.",
	}
	broken = problem{
		Title: "Something broke on our side",
		Do:    "Your recipes are safe. Go back and try again; if it happens again, the log of the program says why.",
	}
	changed = problem{
		Title: "This was changed in another window",
		Do:    "What you typed is not lost: go back to copy it, load the page again, and make your change there.",
	}
)

func (s *Server) fail(c *gin.Context, status int, p problem) {
	s.show(c, status, "problem", page{Title: p.Title, View: p})
	c.Abort()
}

// errForm is a form that cannot be taken in: too large, or not written as a form is.
var errForm = errors.New("the form cannot be read")

// postForm is what a form posted.
func postForm(c *gin.Context) (url.Values, error) {
	if err := c.Request.ParseForm(); err != nil {
		return nil, fmt.Errorf("%w: %w", errForm, err)
	}
	return c.Request.PostForm, nil
}

// statusGone is written to the log for an answer that nobody waits for any more; the number is common practice.
const statusGone = 499

// failed answers an error of the store or the core.
func (s *Server) failed(c *gin.Context, err error) {
	var lost *lostOwn
	var torn *store.Broken
	switch {
	case errors.As(err, &lost):
		slog.Error("own ingredients", "path", c.Request.URL.Path, "err", err)
		s.fail(
			c, http.StatusServiceUnavailable,
			problem{
				Title: "What this house says of its ingredients cannot be read",
				Do:    "It may name an allergen, so nothing is judged before it is settled. Nothing else is lost. Copy what stands there, take the record out, and write it in again under Larder.",
				Lost:  lost.records,
			},
		)
	case errors.Is(err, context.Canceled) && c.Request.Context().Err() != nil: // nobody is there any more
		c.AbortWithStatus(statusGone)
	case errors.As(err, &torn):
		slog.Error("unreadable", "path", c.Request.URL.Path, "err", err)
		s.fail(c, http.StatusServiceUnavailable, problem{
			Title: "What stands here of “" + torn.Name + "” cannot be read",
			Do:    "It may be what somebody must not eat, so that nothing is judged or shown before it is settled. Nothing else is lost. Copy what stands there, put it away, and write it in again.",
			Torn:  torn,
		})
	case errors.Is(err, errForm):
		s.fail(c, http.StatusBadRequest, broken)
	case errors.Is(err, store.ErrNotFound):
		s.fail(c, http.StatusNotFound, notFound)
	case errors.Is(err, store.ErrChanged):
		s.conflict(c)
	case store.TroubleOf(err) != store.NoTrouble:
		of := store.TroubleOf(err)
		slog.Error("request", "path", c.Request.URL.Path, "trouble", string(of), "err", err)
		s.fail(c, http.StatusServiceUnavailable, problem{Title: phrase.Capital(string(of)), Do: of.WhatToDo()})
	default:
		slog.Error("request", "path", c.Request.URL.Path, "err", err)
		s.fail(c, http.StatusInternalServerError, broken)
	}
}

// static serves the embedded files; the hash in the path lets them be kept for good.
func (s *Server) static(c *gin.Context) {
	p := path.Clean("static" + c.Param("path"))
	b, err := staticFiles.ReadFile(p)
	if p == "static/css/screens.css" {
		b, err = s.views.screens, nil
	}
	if err != nil {
		s.fail(c, http.StatusNotFound, notFound)
		return
	}
	if c.Param("tree") == s.views.tree {
		c.Header("Cache-Control", "public, max-age=31536000, immutable")
	}
	kind := map[string]string{".css": "text/css; charset=utf-8", ".js": "text/javascript; charset=utf-8", ".svg": "image/svg+xml", ".woff2": "font/woff2", ".png": "image/png", ".txt": "text/plain; charset=utf-8"}[path.Ext(p)]
	c.Data(http.StatusOK, kind, b)
}
