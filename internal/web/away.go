package web

import (
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
)

// awayView lists what was put away.
type awayView struct {
	Rows  []awayRow
	Pages []link
}

// awayPage is how many things stand on a page of them.
const awayPage = 100

type awayRow struct {
	Kind, Name, When string
	Action           string // where it is brought back
	Send             []hidden
}

// awayKinds say how each kind is called and brought back.
var awayKinds = map[string]struct {
	words, at string
	send      []hidden
}{
	"recipe":     {"recipe", "/recipes/ID/restore", nil},
	"version":    {"version", "/versions/ID", []hidden{{"do", "return"}}},
	"draft":      {"begun text", "/drafts/ID", []hidden{{"do", "return"}}},
	"person":     {"at the table", "/people/ID", []hidden{{"do", "return"}}},
	"oven":       {"oven", "/ovens/ID", []hidden{{"do", "return"}}},
	"tin":        {"tin", "/tins/ID", []hidden{{"do", "return"}}},
	"ingredient": {"your word on an ingredient", "/larder/i/ID/forget", []hidden{{"do", "return"}}},
	"plan":       {"plan", "/plans/ID", []hidden{{"do", "restore"}}},
	"bake":       {"bake", "/bakes/ID", []hidden{{"what", "restore"}}},
	"photo":      {"picture", "/photos/ID", []hidden{{"do", "restore"}}},
	"phrase":     {"what a word means", "/settings/forget", []hidden{{"do", "return"}, {"key", "ID"}}},
	"measure":    {"what one weighs", "/settings/forget", []hidden{{"do", "return"}, {"key", "ID"}}},
	"tasting":    {"tasting", "/tasting", []hidden{{"do", "restore"}, {"id", "ID"}}},
}

// away shows what was put away, and brings it back.
func (s *Server) away(c *gin.Context) error {
	n, err := s.store.CountPutAway(c.Request.Context())
	if err != nil {
		return err
	}
	var v awayView
	var from, to int
	from, to, v.Pages = pagesOf(c, "/away", n, awayPage, nil)
	all, err := s.store.PutAwayThings(c.Request.Context(), from, to-from)
	if err != nil {
		return err
	}
	for _, a := range all {
		k := awayKinds[a.Kind]
		row := awayRow{Kind: k.words, Name: s.awayName(a.Kind, a.ID, a.Name), Action: strings.ReplaceAll(k.at, "ID", a.ID)}
		for _, h := range k.send {
			row.Send = append(row.Send, hidden{h.Name, strings.ReplaceAll(h.Value, "ID", a.ID)})
		}
		if at, err := time.Parse(time.RFC3339Nano, a.At); err == nil {
			row.When = at.Local().Format("2 January 2006")
		}
		v.Rows = append(v.Rows, row)
	}
	s.show(c, http.StatusOK, "away", page{Title: "Put away", Nav: "shelf", View: v})
	return nil
}

// awayName is what a thing is called: a draft by the first line of its text, an ingredient of the catalogue by its name there.
func (s *Server) awayName(kind, id, name string) string {
	switch kind {
	case "draft":
		return firstLine(name)
	case "ingredient":
		for _, i := range s.kit.Larder.All() {
			if string(i.ID) == id {
				return i.Name
			}
		}
	}
	return name
}

// firstLine is the first line of a text that says something.
func firstLine(text string) string {
	for line := range strings.Lines(text) {
		if line = strings.Trim(line, "#*_ \t\r\n"); line != "" {
			return line
		}
	}
	return "a text"
}

// putUnreadable puts a row away that cannot be read.
func (s *Server) putUnreadable(c *gin.Context) error {
	if err := s.store.PutBroken(c.Request.Context(), c.Param("kind"), paramID(c)); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/away")
	return nil
}
