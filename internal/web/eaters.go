package web

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/table"
	"kollaris/internal/store"
)

// tableView is the recipes against the people, and the fewest bakes.
type tableView struct {
	People []string
	Rows   []tableRow
	Span   int
	Menu   *menuView
	Empty  bool
	Coming []comingField // how many of each come
}

// comingField is how many of one sort of person come to a gathering.
type comingField struct {
	ID                 int64
	Name, Value, Fault string
}

type tableRow struct {
	Title string
	ID    int64
	Cells []tableCell
}

type tableCell struct {
	Person, Words, State string
	Why                  []string
	Changes              []string
	URL                  string
}

// menuView is the fewest bakes that feed everybody, in the order of baking.
type menuView struct {
	Words  string
	Better *menuView // more bakes, better tried
	Bakes  []menuBake
	Unfed  string
	Traces []string
}

type menuBake struct {
	Title, For, Feeds, Batch string
	URL                      string
	Labels                   []string
	New                      string   // allergens that have come
	Why                      []string // it stands where it does
	Clean                    []string // before it
}

// eatersAndRecipes loads both sides of the table.
func (s *Server) eatersAndRecipes(c *gin.Context) ([]store.Person, []*store.Recipe, error) {
	seated, err := s.atTable(c)
	if err != nil {
		return nil, nil, err
	}
	rows, err := s.store.Recipes(c, "")
	if err != nil {
		return nil, nil, err
	}
	for _, r := range rows {
		if err := s.reread(c, r); err != nil {
			return nil, nil, err
		}
	}
	return seated.people, rows, nil
}

func (s *Server) table(c *gin.Context) error {
	people, all, err := s.eatersAndRecipes(c)
	if err != nil {
		return err
	}
	v := tableView{Span: len(people) + 1, Empty: len(people) == 0 || len(all) == 0}
	for _, p := range people {
		v.People = append(v.People, p.Name)
	}
	docs, seats := docsAndSeats(all, people)
	grid, err := table.Grid(docs, seats, s.kit)
	if err != nil {
		return err
	}
	for n, r := range all {
		row := tableRow{Title: r.Title, ID: r.ID}
		for k, p := range people {
			cell := grid[n][k]
			req := adapt.Request{For: []int64{p.ID}}
			row.Cells = append(row.Cells, tableCell{p.Name, cell.State.Words(), string(cell.State), cell.Why, cell.Changes, recipeURL(r.ID, "adapt", req.Values().Encode())})
		}
		v.Rows = append(v.Rows, row)
	}
	status, coming := http.StatusOK, v.coming(c, people)
	switch {
	case c.Query("menu") == "" || v.Empty:
	case len(coming) == 0:
		status = http.StatusUnprocessableEntity
	default:
		if v.Menu, err = s.menu(coming, all); err != nil {
			return err
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
		f := comingField{ID: p.ID, Name: p.Name, Value: strings.TrimSpace(c.DefaultQuery(fmt.Sprintf("n.%d", p.ID), "1"))}
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

// docsAndSeats are both sides of the table without what the store adds.
func docsAndSeats(all []*store.Recipe, people []store.Person) (docs []*recipe.Recipe, seats []table.Person) {
	for _, r := range all {
		docs = append(docs, r.Doc)
	}
	for _, p := range people {
		seats = append(seats, p.Person)
	}
	return docs, seats
}

// menu finds the fewest bakes, with how much of each.
func (s *Server) menu(people []store.Person, all []*store.Recipe) (*menuView, error) {
	docs, who := docsAndSeats(all, people)
	m, err := table.Fewest(docs, who, s.kit)
	if err != nil {
		return nil, err
	}
	v := s.menuOf(m, people, all)
	if m.Better != nil {
		v.Better = s.menuOf(*m.Better, people, all)
		v.Better.Words = fmt.Sprintf("Or, better tried, %s.", plural(len(m.Better.Bakes), "bake"))
	}
	if notes := table.Traces(who); len(notes) > 0 {
		v.Traces = notes[1:] // the first is said at each bake
	}
	return v, nil
}

// orderWords says why a bake stands where it does, and what has to be cleaned before it.
func orderWords(m table.Menu, b table.Bake, names func([]int) string, title func(int) string) (why, clean []string) {
	holds := func(g table.Guard) string {
		if g.Label {
			return "may hold " + phrase.Or(g.What) + " by its labels"
		}
		return "holds " + phrase.And(g.What)
	}
	for _, g := range b.Before {
		why = append(why, fmt.Sprintf("Before bake %d (%s): that %s, not for %s.", g.Bake+1, title(g.Bake), holds(g), names(g.For)))
	}
	for _, g := range b.Clean {
		clean = append(clean, fmt.Sprintf("Clean first: bake %d (%s) %s, not for %s. Wash bowls, tins, boards and hands, fresh paper and cloth; or bake it another day.", g.Bake+1, title(g.Bake), holds(g), names(g.For)))
	}
	return why, clean
}

// menuOf writes a menu.
func (s *Server) menuOf(m table.Menu, who []store.Person, all []*store.Recipe) *menuView {
	names := func(ids []int) string {
		var out []string
		for _, n := range ids {
			out = append(out, who[n].Name)
		}
		return strings.Join(out, ", ")
	}
	v := &menuView{Words: "One bake feeds everybody."}
	if m.Trial {
		v.Words = "One bake feeds everybody, as an experiment."
	}
	if len(m.Bakes) != 1 {
		v.Words = fmt.Sprintf("%d bakes feed everybody.", len(m.Bakes))
	}
	if len(m.Unfed) > 0 {
		v.Words = fmt.Sprintf("%d bakes feed all but %s.", len(m.Bakes), names(m.Unfed))
		v.Unfed = "Nothing on the shelf can be made for " + names(m.Unfed) + "."
	}
	for _, b := range m.Bakes {
		r := all[b.Recipe]
		serves := float64(max(r.Doc.Servings, 1))
		if r.Doc.Servings == 0 {
			serves = 8
		}
		req := adapt.Request{Diets: b.Demand.Diets, Bans: b.Demand.Bans, Limits: b.Demand.Limits}
		mb := menuBake{Title: r.Title, For: s.requestWords(req), Feeds: names(b.Feeds), URL: recipeURL(r.ID, "adapt", req.Values().Encode()), Labels: b.Labels, New: allergenWords(b.New)}
		if len(b.New) == 0 {
			mb.New = ""
		}
		mb.Why, mb.Clean = orderWords(m, b, names, func(n int) string { return all[m.Bakes[n].Recipe].Title })
		mb.Batch = fmt.Sprintf("%s servings of the %g it makes", measure.Digits(b.Wanted, 2), serves)
		if b.Wanted > serves {
			mb.Batch = fmt.Sprintf("%s servings: %s times the batch", measure.Digits(b.Wanted, 2), measure.Digits(b.Wanted/serves, 2))
		}
		if b.Joint { // the verdict speaks of them by name
			var ids []int64
			for _, k := range b.Feeds {
				ids = append(ids, who[k].ID)
			}
			mb.URL = recipeURL(r.ID, "adapt", adapt.Request{For: ids}.Values().Encode())
		}
		if len(b.Demand.Words()) == 0 {
			mb.URL += "diet="
		}
		v.Bakes = append(v.Bakes, mb)
	}
	return v
}
