package web

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"

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
	Lost   []link // recipes that cannot be read
	Span   int
	Menu   *menuView
	Empty  bool
	Coming []field // how many of each come
	Pages  []link  // of the table, none where one holds all
	Among  string  // where the menu was not looked for among all
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
	Plan   string // the address of its timetable
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

// howMuch begins a change: "182 g buttermilk → ".
var howMuch = regexp.MustCompile(`^[\d.,½¼¾⅓⅔ ]+(?:(?:kg|g|ml|l) )?(?:unsalted |salted |granulated |plain )?`)

// shortChange says in a few words what changes: "egg → flax gel", "buttermilk → soured oat drink, and 2 more".
func shortChange(changes []string) string {
	from, to, _ := strings.Cut(changes[0], " → ")
	out := howMuch.ReplaceAllString(from, "")
	if short, _, _ := strings.Cut(to, ","); short != "" {
		out += " → " + short
	}
	if n := len(changes) - 1; n > 0 {
		out += fmt.Sprintf(", and %d more", n)
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
		why = append(
			why,
			fmt.Sprintf("Before bake %d (%s): that %s, not for %s.", g.Bake+1, title(g.Bake), holds(g), names(g.For)),
		)
	}
	for _, g := range b.Clean {
		clean = append(
			clean,
			fmt.Sprintf(
				"Clean first: bake %d (%s) %s, not for %s. Wash bowls, tins, boards and hands, fresh paper and cloth; or bake it another day.",
				g.Bake+1, title(g.Bake), holds(g), names(g.For),
			),
		)
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
	var todo []plannedBake
	for _, b := range m.Bakes {
		r := all[b.Recipe]
		serves := float64(max(r.Doc.Servings, 1))
		if r.Doc.Servings == 0 {
			serves = 8
		}
		req := adapt.Request{Diets: b.Demand.Diets, Bans: b.Demand.Bans, Limits: b.Demand.Limits}
		mb := menuBake{
			Title: r.Title, For: s.requestWords(req), Feeds: names(b.Feeds),
			URL: recipeURL(r.ID, "adapt", req.Values().Encode()), Labels: b.Labels, New: allergenWords(b.New),
		}
		if len(b.New) == 0 {
			mb.New = ""
		}
		mb.Why, mb.Clean = orderWords(m, b, names, func(n int) string { return all[m.Bakes[n].Recipe].Title })
		mb.Batch = fmt.Sprintf("%s servings of the %g it makes", measure.Digits(b.Wanted, 2), serves)
		if b.Wanted > serves {
			mb.Batch = fmt.Sprintf(
				"%s servings: %s times the batch", measure.Digits(b.Wanted, 2), measure.Digits(b.Wanted/serves, 2),
			)
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
		_, asked, _ := strings.Cut(mb.URL, "?")
		q, _ := url.ParseQuery(asked)
		if b.Wanted > serves {
			q.Set("scale", measure.Digits(b.Wanted/serves, 2))
		}
		todo = append(todo, plannedBake{id: r.ID, query: q})
		mb.URL = recipeURL(r.ID, "adapt", q.Encode())
		v.Bakes = append(v.Bakes, mb)
	}
	if len(todo) > 0 {
		v.Plan = planAddress(todo)
	}
	return v
}

// better is the menu that is better tried, nil where there is none.
func (v *tableView) better() *menuView {
	if v.Menu == nil {
		return nil
	}
	return v.Menu.Better
}

// bakes are those of a menu, none of no menu.
func (m *menuView) bakes() []menuBake {
	if m == nil {
		return nil
	}
	return m.Bakes
}
