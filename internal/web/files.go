package web

import (
	"archive/zip"
	"bytes"
	"fmt"
	"math"
	"net/http"
	"strings"
	"time"
	"unicode"

	"github.com/gin-gonic/gin"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/format"
	"kollaris/internal/store"
)

// maxFiles is the largest set of files taken at once, in bytes.
const maxFiles = 24 << 20

// forms are the open formats that a recipe is given in.
var forms = []fileForm{
	{"json", "JSON-LD", "application/ld+json"}, {"md", "Markdown", "text/markdown; charset=utf-8"},
	{"csv", "CSV of the lines", "text/csv; charset=utf-8"}, {"txt", "plain text", "text/plain; charset=utf-8"},
}

type fileForm struct{ Ext, Words, mime string }

// takeView is a version with the forms it is given in.
type takeView struct {
	ID    int64
	Forms []fileForm
}

// document is what a version gives away: its recipe, and the text it was read
// from while that says all of it. The verdict, allergens, doubts and cautions of
// an adapted version go with it.
func document(ver *store.Version, l *larder.Larder) (doc *recipe.Recipe, tasks []method.Task, source string) {
	if !ver.Adapted() {
		if len(ver.Typed.Fixes) == 0 && ver.Typed.Facts.None() {
			source = ver.SourceText
		}
		return ver.Doc, method.Read(ver.Doc, l), source
	}
	r := *ver.Result.Recipe
	r.Title, r.Steps, r.Notes = ver.Title, nil, nil
	if e := ver.Result.Bake; e != nil { // what it says of the oven is the answer, as its method does
		r.Oven, r.Bake, r.Stages = e.Oven, recipe.Minutes{Min: math.Round(e.Low), Max: math.Round(e.High)}, nil
	}
	for _, st := range ver.Result.Method {
		text := st.Text
		if st.Note != "" {
			text += " (" + st.Note + ")"
		}
		r.Steps = append(r.Steps, recipe.Step{Text: text})
	}
	w := verdictOf(ver.Result.Today(l))
	r.Notes = append(
		r.Notes, phrase.Sentence(w.Words), fmt.Sprintf("Still holds: %s. New: %s. Gone: %s.", w.Holds, w.New, w.Gone),
	)
	if len(w.Labels) > 0 {
		r.Notes = append(r.Notes, "Labels to read: "+strings.Join(w.Labels, ", ")+".")
	}
	r.Notes = append(r.Notes, ver.Result.Doubts...)
	for _, ca := range ver.Result.Cautions {
		r.Notes = append(r.Notes, strings.TrimSpace(ca.Text+" "+ca.Defers))
	}
	return &r, ver.Result.Method, ""
}

func (s *Server) fileOf(ver *store.Version, ext string) ([]byte, error) {
	doc, tasks, source := document(ver, s.kit.Larder)
	switch ext {
	case "json":
		return format.JSONLD(doc, tasks, source, s.kit.Larder)
	case "md":
		return []byte(format.Markdown(doc, s.kit.Larder)), nil
	case "csv":
		var b bytes.Buffer
		err := format.WriteLines(&b, doc, s.kit.Larder)
		return b.Bytes(), err
	}
	if source != "" {
		return []byte(source), nil
	}
	return []byte(format.Text(doc, s.kit.Larder)), nil
}

// versionFile gives a version as a file.
func (s *Server) versionFile(c *gin.Context) error {
	ver, err := s.store.Version(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	for _, f := range forms {
		if f.Ext == c.Param("form") {
			b, err := s.fileOf(ver, f.Ext)
			if err != nil {
				return err
			}
			download(c, fileName(ver.Title)+"."+f.Ext, f.mime, b)
			return nil
		}
	}
	s.fail(c, http.StatusNotFound, notFound)
	return nil
}

// shelfZip gives the whole shelf: every recipe and kept version as JSON-LD. It is written as it is sent, so that a large one
// takes no more room; what breaks on the way breaks the file, which then does not open.
func (s *Server) shelfZip(c *gin.Context) error {
	c.Header("Content-Disposition", `attachment; filename="kollaris-shelf.zip"`)
	c.Header("Content-Type", "application/zip")
	patient(c)
	z := zip.NewWriter(c.Writer)
	if err := s.shelfFiles(c, z, ""); err != nil {
		return err
	}
	return z.Close()
}

// mostSending is how long a large file may take to come or to be sent: half a gigabyte by a weak radio.
const mostSending = 15 * time.Minute

// patient lets a large file take longer than a page may, on its way in and out.
func patient(c *gin.Context) {
	wire := http.NewResponseController(c.MustGet(plainWriter).(http.ResponseWriter))
	wire.SetReadDeadline(time.Now().Add(mostSending))  //nolint:errcheck // a recorder has none
	wire.SetWriteDeadline(time.Now().Add(mostSending)) //nolint:errcheck // likewise
}

// shelfFiles puts the recipes and kept versions of the shelf into a folder of a zip.
func (s *Server) shelfFiles(c *gin.Context, z *zip.Writer, folder string) error {
	heads, err := s.store.Heads(c.Request.Context(), "", "", 0, -1)
	if err != nil {
		return err
	}
	used := map[string]bool{}
	add := func(ver *store.Version) error {
		b, err := s.fileOf(ver, "json")
		if err != nil {
			return err
		}
		name := fileName(ver.Title)
		for n := 2; used[name]; n++ {
			name = fmt.Sprintf("%s-%d", fileName(ver.Title), n)
		}
		used[name] = true
		f, err := z.Create(folder + name + ".json")
		if err == nil {
			_, err = f.Write(b)
		}
		return err
	}
	for _, h := range heads {
		r, err := s.store.Recipe(c.Request.Context(), h.ID)
		if err != nil {
			continue // it cannot be read, as the shelf says, or is gone meanwhile
		}
		kept, err := s.store.Versions(c.Request.Context(), r.ID)
		if err != nil {
			return err
		}
		written, err := s.store.Version(c.Request.Context(), r.Head)
		if err != nil {
			return err
		}
		for _, ver := range append([]*store.Version{written}, kept...) {
			if err := add(ver); err != nil {
				return err
			}
		}
		if err := c.Request.Context().Err(); err != nil {
			return err
		}
	}
	return nil
}

func download(c *gin.Context, name, mime string, data []byte) {
	c.Header("Content-Disposition", fmt.Sprintf("attachment; filename=%q", name))
	c.Data(http.StatusOK, mime, data)
}

// fileName makes a name of letters, digits and hyphens.
func fileName(title string) string {
	s := strings.Map(func(r rune) rune {
		if r < 128 && (unicode.IsLetter(r) || unicode.IsDigit(r)) {
			return unicode.ToLower(r)
		}
		return '-'
	}, title)
	s = strings.Join(strings.FieldsFunc(s, func(r rune) bool { return r == '-' }), "-")
	if s == "" {
		return "recipe"
	}
	return s[:min(len(s), 80)]
}
