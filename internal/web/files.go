package web

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"math"
	"mime/multipart"
	"net/http"
	"strconv"
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

// mostReading is how long the files of one request are read, so that the answer comes while somebody waits for it.
const mostReading = 25 * time.Second

// broughtView is what files held, one row a recipe.
type broughtView struct {
	Words string
	Bad   int     // files that could not be read
	Ready []int64 // drafts whose every line is understood
	Rows  []broughtRow
}

type broughtRow struct {
	File, Title string
	DraftID     int64
	Words       string // "9 of 10 lines understood. 1 to settle."
	Understood  bool   // every line
	Settled     bool   // and nothing looks wrong
	Twin        bool   // the shelf has one of that name
	Ready       bool   // every line is understood, and the shelf has none of that name
	Fault       string // why nothing could be read
}

// bringIn reads recipes from files; each becomes a draft and has its own result.
func (s *Server) bringIn(c *gin.Context) error {
	sorry := func(words string) {
		s.show(
			c, http.StatusUnprocessableEntity, "new",
			page{Title: "New recipe", Nav: "shelf", Script: "new", View: newView{FileFault: words}},
		)
	}
	form, err := c.MultipartForm()
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		sorry(fmt.Sprintf("Those files are more than the %d MB that can be taken at once: choose fewer.", maxFiles>>20))
		return nil
	case errors.Is(err, multipart.ErrMessageTooLarge):
		sorry("Those are more files than can be taken at once: choose at most 500, or put them into one zip.")
		return nil
	case err != nil || len(form.File["files"]) == 0:
		sorry("No file was chosen: choose one or more, or a zip of them.")
		return nil
	}
	titles, err := s.titles(c)
	if err != nil {
		return err
	}
	v := broughtView{}
	until := time.Now().Add(mostReading)
	for _, h := range form.File["files"] {
		data, err := contents(h)
		if err != nil {
			return err
		}
		for _, found := range format.Recipes(h.Filename, data) {
			if err := c.Request.Context().Err(); err != nil {
				return err
			}
			if time.Now().After(until) && found.Fault == "" {
				found = format.Found{File: found.File, Title: found.Title, Fault: "there was no time left to read it with the others: bring it in by itself"}
			}
			row, err := s.bringOne(c, found, titles)
			if err != nil {
				return err
			}
			switch {
			case row.Fault != "":
				v.Bad++
			case row.Understood && !row.Twin:
				row.Ready = true
				v.Ready = append(v.Ready, row.DraftID)
			}
			v.Rows = append(v.Rows, row)
		}
	}
	v.Words = plural(len(v.Rows)-v.Bad, "recipe") + " found."
	if v.Bad > 0 {
		v.Words += " " + plural(v.Bad, "file") + " could not be read."
	}
	s.show(c, http.StatusOK, "brought", page{Title: "From files", Nav: "shelf", View: v})
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

func (s *Server) bringOne(c *gin.Context, found format.Found, titles map[string]bool) (broughtRow, error) {
	row := broughtRow{File: found.File, Title: found.Title}
	if found.Fault != "" {
		row.Fault = phrase.Sentence(found.Fault)
		return row, nil
	}
	rd, err := s.reading(c, found.Text, store.Typed{})
	if err != nil {
		row.Fault = phrase.Sentence(err.Error())
		return row, nil
	}
	if len(rd.Recipe.Lines) == 0 {
		row.Fault = "No ingredient line was found in it: paste its text, the ingredients one to a line."
		return row, nil
	}
	read := s.readView(rd, found.Text, store.Typed{}, 0)
	row.Title, row.Words, row.Settled = read.Title, read.Words, read.Settled
	row.Understood = len(rd.Recipe.Unknown()) == 0
	key := strings.ToLower(row.Title)
	row.Twin, titles[key] = titles[key], true
	row.DraftID, err = s.store.AddDraft(c.Request.Context(), 0, found.Text, store.Typed{})
	return row, err
}

// titles are those on the shelf, in lower case.
func (s *Server) titles(c *gin.Context) (map[string]bool, error) {
	all, err := s.store.Recipes(c.Request.Context(), "")
	if err != nil {
		return nil, err
	}
	out := map[string]bool{}
	for _, r := range all {
		out[strings.ToLower(r.Title)] = true
	}
	return out, nil
}

// keepBrought puts the named drafts on the shelf, those that still can be read.
func (s *Server) keepBrought(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	for _, x := range form["draft"] {
		id, _ := strconv.ParseInt(x, 10, 64)
		d, err := s.store.Draft(c.Request.Context(), id)
		if errors.Is(err, store.ErrNotFound) {
			continue // pressed twice
		}
		if err == nil {
			rd, bad := s.reading(c, d.Text, d.Typed)
			if bad != nil || len(rd.Recipe.Lines) == 0 {
				continue
			}
			_, err = s.shelve(c, d, rd.Recipe)
		}
		if err != nil {
			return err
		}
	}
	c.Redirect(http.StatusSeeOther, "/")
	return nil
}

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
		if len(ver.Typed.Fixes) == 0 && ver.Typed.Facts == (store.Typed{}).Facts {
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

// mostSending is how long a large file may take to send.
const mostSending = 15 * time.Minute

// patient lets an answer take longer than a page may.
func patient(c *gin.Context) {
	http.NewResponseController(c.Writer).SetWriteDeadline(time.Now().Add(mostSending)) //nolint:errcheck // a recorder has none
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
