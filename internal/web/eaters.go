package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"runtime"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"golang.org/x/sync/errgroup"

	"kollaris/core/adapt"
	"kollaris/core/table"
	"kollaris/internal/store"
)

// How many recipes stand on a page of the table, and among how many, of those changed last, the fewest bakes are looked
// for: each has to be adapted for everybody.
const tablePage, menuAmong = 50, 200

// readAll reads recipes anew, side by side, without those that cannot be read.
func (s *Server) readAll(c *gin.Context, heads []store.Head) ([]*store.Recipe, error) {
	rows, _, err := s.store.ShelfOf(c.Request.Context(), idsOf(heads))
	if err != nil {
		return nil, err
	}
	if _, err := s.readingOptions(c); err != nil { // once, before they are read side by side
		return nil, err
	}
	var all errgroup.Group
	all.SetLimit(runtime.GOMAXPROCS(0))
	for _, r := range rows {
		all.Go(func() (err error) {
			defer func() {
				if broken := recover(); broken != nil { // here nobody else would catch it
					err = fmt.Errorf("reading %s: %v", r.Title, broken)
				}
			}()
			if err := s.kit.Stop(); err != nil {
				return err
			}
			err = s.reread(c, r)
			if store.BrokenOf(err) != nil {
				r.Doc, err = nil, nil
			}
			return err
		})
	}
	err = all.Wait()
	return slices.DeleteFunc(rows, func(r *store.Recipe) bool { return r.Doc == nil }), err
}

// mostRows is how many rows of the table are remembered, of some 3 KB each.
const mostRows = 2000

// judged sets recipes before people: a row of cells each, by its id. Rows whose recipe, people and household are as they were are
// remembered; one that cannot be read has none.
func (s *Server) judged(c *gin.Context, heads []store.Head, people []store.Person) (map[int64][]table.Cell, error) {
	ground, err := s.ground(c)
	if err != nil {
		return nil, err
	}
	_, seats := docsAndSeats(nil, people)
	who, err := json.Marshal(seats)
	if err != nil {
		return nil, err
	}
	key := func(head int64) string { return fmt.Sprint(head, " ", ground, " ", string(who)) }
	out := map[int64][]table.Cell{}
	var unseen []store.Head
	for _, h := range heads {
		if row, ok := s.rows.Get(key(h.Head)); ok {
			out[h.ID] = row
		} else {
			unseen = append(unseen, h)
		}
	}
	if len(unseen) == 0 {
		return out, nil
	}
	all, err := s.readAll(c, unseen)
	if err != nil {
		return nil, err
	}
	docs, _ := docsAndSeats(all, nil)
	grid, err := table.Grid(docs, seats, s.kit)
	if err != nil {
		return nil, err
	}
	for n, r := range all {
		s.rows.Add(key(r.Head), grid[n])
		out[r.ID] = grid[n]
	}
	return out, nil
}

func (s *Server) table(c *gin.Context) error {
	seated, err := s.atTable(c)
	if err != nil {
		return err
	}
	people := seated.people
	recipes, err := s.store.CountHeads(c.Request.Context(), "", "")
	if err != nil {
		return err
	}
	from, to, pages := pagesOf(c, "/table", recipes, tablePage, nil)
	heads, err := s.store.Heads(c.Request.Context(), "", "", from, to-from)
	if err != nil {
		return err
	}
	v := tableView{Pages: pages, Span: len(people) + 1}
	for _, p := range people {
		v.People = append(v.People, p.Name)
	}
	grid, err := s.judged(c, heads, people)
	if err != nil {
		return err
	}
	for _, r := range heads {
		cells, ok := grid[r.ID]
		if !ok {
			v.Lost = append(v.Lost, link{recipeURL(r.ID, "adapt", ""), r.Title})
			continue
		}
		row := tableRow{Title: r.Title, ID: r.ID}
		for k, p := range people {
			cell := cells[k]
			req := adapt.Request{For: []int64{p.ID}}
			words := cell.State.Words()
			if cell.State == table.Changes && len(cell.Changes) > 0 {
				words = shortChange(cell.Changes)
			}
			row.Cells = append(
				row.Cells,
				tableCell{
					p.Name, words, string(cell.State), cell.Why, cell.Changes,
					recipeURL(r.ID, "adapt", req.Values().Encode()),
				},
			)
		}
		v.Rows = append(v.Rows, row)
	}
	v.Empty = len(people) == 0 || len(v.Rows) == 0
	status, coming := http.StatusOK, v.coming(c, people)
	switch {
	case c.Query("menu") == "" || v.Empty:
	case len(coming) == 0:
		status = http.StatusUnprocessableEntity
	default:
		among, err := s.store.Heads(c.Request.Context(), "", "", 0, menuAmong)
		if err != nil {
			return err
		}
		some, err := s.readAll(c, among)
		if err != nil {
			return err
		}
		if v.Menu, err = s.menu(coming, some); err != nil {
			return err
		}
		if len(among) < recipes {
			v.Among = fmt.Sprintf("Looked for among the %d recipes that were changed last.", menuAmong)
		}
	}
	back := "&table=" + urlEscape(c.Request.URL.RawQuery)
	for n := range v.Rows {
		for k := range v.Rows[n].Cells {
			v.Rows[n].Cells[k].URL += back
		}
	}
	for _, m := range []*menuView{v.Menu, v.better()} {
		for n := range m.bakes() {
			m.Bakes[n].URL += back
		}
	}
	s.show(c, status, "table", page{Title: "The table", Nav: "people", Script: "page", View: v})
	return nil
}

// coming reads how many of each come, one where nothing is said. It returns nobody
// where a number cannot be read.
func (v *tableView) coming(c *gin.Context, people []store.Person) []store.Person {
	var out []store.Person
	bad := false
	for _, p := range people {
		f := field{
			ID: fmt.Sprintf("n-%d", p.ID), Name: fmt.Sprintf("n.%d", p.ID), Words: p.Name, Mode: "numeric", Size: 3,
		}
		f.Value = strings.TrimSpace(c.DefaultQuery(f.Name, "1"))
		n, err := strconv.Atoi(f.Value)
		switch {
		case f.Value == "":
			n = 0
		case err != nil || n < 0 || n > 200:
			f.Fault, bad = fmt.Sprintf("“%s” people cannot come: try 0 to 200.", f.Value), true
		}
		v.Coming = append(v.Coming, f)
		if n < 1 {
			continue
		}
		if p.Portion = p.Servings() * float64(n); n > 1 {
			p.Name = fmt.Sprintf("%d × %s", n, p.Name)
		}
		out = append(out, p)
	}
	if len(out) == 0 && !bad && len(v.Coming) > 0 {
		v.Coming[0].Fault, bad = "Nobody comes: say how many of somebody.", true
	}
	if bad {
		return nil
	}
	return out
}
