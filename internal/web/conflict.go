package web

import (
	"bytes"
	"cmp"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strconv"
	"strings"

	"github.com/PuerkitoBio/goquery"
	"github.com/gin-gonic/gin"

	"kollaris/core/phrase"
	"kollaris/internal/store"
)

// conflictView is a change that another window overtook: what was typed beside what stands there now.
type conflictView struct {
	Action string     // where the form was sent
	Send   []hidden   // the form again, over what stands there now
	Rows   []bothView // what differs
	Back   string     // the page as it is
}

type bothView struct{ Words, Mine, Theirs string }

// conflict shows both, with a press for either. What stands there now is read from the page that shows the form, so that
// it holds for every form that carries the rev it saw.
func (s *Server) conflict(c *gin.Context) {
	typed := c.Request.PostForm
	at := c.Request.URL.Path
	shown := at
	if b := typed.Get("bake"); b != "" { // one of several on the page
		shown += "?bake=" + url.QueryEscape(b)
	}
	for _, back := range []string{shown, path.Dir(at), collections[path.Dir(at)]} {
		page := s.pageOf(c, back)
		if page == nil {
			continue
		}
		form := formLike(page, at, typed)
		if form == nil {
			continue
		}
		v := conflictView{Action: at, Back: back}
		rev, _ := form.Find("input[name=rev]").Attr("value")
		v.Rows = differing(page, form, typed)
		for name, values := range typed {
			for _, x := range values {
				if name == "rev" {
					x = rev
				}
				v.Send = append(v.Send, hidden{name, x})
			}
		}
		slices.SortFunc(v.Send, func(a, b hidden) int { return strings.Compare(a.Name, b.Name) })
		s.show(c, http.StatusConflict, "conflict", pageOfConflict(v))
		c.Abort()
		return
	}
	s.fail(c, http.StatusConflict, changed)
}

func pageOfConflict(v conflictView) page {
	return page{Title: "Changed in another window", View: v}
}

// seenRev is the state of a thing that a form saw; any where it does not say.
func seenRev(form url.Values) int64 {
	rev, err := strconv.ParseInt(form.Get("rev"), 10, 64)
	if err != nil || rev < 0 {
		return store.AnyRev
	}
	return rev
}

// noMethod leads who asks for the address of a form, as a page that refused what was typed has it, to the page where the form stands.
func (s *Server) noMethod(c *gin.Context) {
	at := c.Request.URL.Path
	if c.Request.Method != http.MethodGet {
		s.fail(c, http.StatusMethodNotAllowed, notFound)
		return
	}
	back := collections[at]
	for back == "" && at != "/" {
		if at = path.Dir(at); at != "/" {
			back = collections[at]
		}
		if back != "" {
			break
		}
		if w := s.answerOf(c, at); w != nil && w.code < http.StatusBadRequest {
			back = at
		}
	}
	c.Redirect(http.StatusSeeOther, cmp.Or(back, "/"))
}

// collections are the pages on which forms stand that are sent to an address of their own.
var collections = map[string]string{
	"/tins": "/ovens", "/kitchen": "/ovens", "/devices": "/ovens", "/": "/ovens", "/backups": "/settings", "/door": "/settings", "/file": "/settings", "/everything": "/settings", "/log": "/bakes", "/recipes/import": "/new",
}

// answer takes what a page writes.
type answer struct {
	header http.Header
	code   int
	body   bytes.Buffer
}

func (a *answer) Header() http.Header         { return a.header }
func (a *answer) WriteHeader(code int)        { a.code = code }
func (a *answer) Write(b []byte) (int, error) { return a.body.Write(b) }

// pageOf is a page of ours as it is now, nil where there is none.
func (s *Server) pageOf(c *gin.Context, at string) *goquery.Document {
	w := s.answerOf(c, at)
	if w == nil || w.code != http.StatusOK {
		return nil
	}
	doc, err := goquery.NewDocumentFromReader(&w.body)
	if err != nil {
		return nil
	}
	return doc
}

// answerOf is what we answer to an address, nil where it is none.
func (s *Server) answerOf(c *gin.Context, at string) *answer {
	if at == "" {
		return nil
	}
	r, err := http.NewRequestWithContext(c.Request.Context(), http.MethodGet, at, nil)
	if err != nil {
		return nil
	}
	r.Host, r.RemoteAddr = c.Request.Host, c.Request.RemoteAddr // with what whoever asks may see
	r.Header["Cookie"] = c.Request.Header["Cookie"]
	w := &answer{header: http.Header{}, code: http.StatusOK}
	s.engine.ServeHTTP(w, r)
	return w
}

// formLike finds the form that was sent: to the same address, with the same fixed fields.
func formLike(doc *goquery.Document, action string, typed map[string][]string) *goquery.Selection {
	var found *goquery.Selection
	doc.Find("form[action='" + action + "']").EachWithBreak(func(_ int, f *goquery.Selection) bool {
		same := f.Find("input[name=rev]").Length() > 0
		f.Find("input[type=hidden]").Each(func(_ int, h *goquery.Selection) {
			name, _ := h.Attr("name")
			value, _ := h.Attr("value")
			if name != "rev" && name != "called" && !slices.Contains(typed[name], value) {
				same = false
			}
		})
		if same {
			found = f
		}
		return !same
	})
	return found
}

// differing are the boxes of a form whose value is not the one that was typed.
func differing(doc *goquery.Document, form *goquery.Selection, typed map[string][]string) []bothView {
	var rows []bothView
	nth := map[string]int{} // boxes of a name so far
	form.Find("input, select, textarea").Each(func(_ int, e *goquery.Selection) {
		name, _ := e.Attr("name")
		kind, _ := e.Attr("type")
		if name == "" || kind == "hidden" || kind == "submit" || kind == "file" {
			return
		}
		id, _ := e.Attr("id")
		words := strings.TrimSpace(doc.Find("label[for='" + id + "']").First().Text())
		if words == "" {
			label := e.Closest("label").Clone()
			label.Find("select, textarea").Remove()
			words = strings.TrimSpace(label.Text())
		}
		value, _ := e.Attr("value")
		mine, theirs := "", value
		if sent := typed[name]; nth[name] < len(sent) {
			mine = sent[nth[name]]
		}
		nth[name]++
		switch {
		case kind == "checkbox" || kind == "radio":
			_, on := e.Attr("checked")
			mine, theirs = ticked(slices.Contains(typed[name], value)), ticked(on)
		case goquery.NodeName(e) == "textarea":
			theirs = e.Text()
		case goquery.NodeName(e) == "select":
			theirs = strings.TrimSpace(e.Find("option[selected]").First().Text())
			e.Find("option").Each(func(_ int, o *goquery.Selection) {
				if v, ok := o.Attr("value"); ok && v == mine {
					mine = strings.TrimSpace(o.Text())
				}
			})
		}
		if mine != strings.TrimSpace(theirs) {
			rows = append(rows, bothView{phrase.Capital(strings.Join(strings.Fields(words), " ")), mine, theirs})
		}
	})
	return rows
}

func ticked(on bool) string {
	if on {
		return "yes"
	}
	return "no"
}

// overtaken shows a correction of a recipe that another window corrected since it was begun: both texts.
func (s *Server) overtaken(c *gin.Context, d *store.Draft) error {
	r, err := s.store.Recipe(c.Request.Context(), d.Recipe)
	if err != nil {
		return err
	}
	ver, err := s.store.Version(c.Request.Context(), r.Head)
	if err != nil {
		return err
	}
	at := c.Request.URL.Path
	v := conflictView{
		Action: at, Back: recipeURL(r.ID, "read", ""),
		Send: []hidden{{"do", "keep"}, {"over", "1"}},
	}
	if d.Text != ver.SourceText {
		v.Rows = append(v.Rows, bothView{"Your text", d.Text, ver.SourceText})
	}
	mine, err := s.reading(c, d.Text, d.Typed)
	if err != nil {
		return err
	}
	if a, b := understood(mine.Recipe), understood(r.Doc); a != b {
		v.Rows = append(v.Rows, bothView{"What was understood", a, b})
	}
	s.show(c, http.StatusConflict, "conflict", pageOfConflict(v))
	return nil
}
