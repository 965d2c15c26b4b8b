package web

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
)

// larderView is the list of ingredients.
type larderView struct {
	Query    string
	Family   string
	Free     string
	Families []readChoice
	Frees    []readChoice
	Rows     []larderRow
	Words    string
	Picked   int
	Import   *importView
	Own      int // records of the household
	Textures []readChoice
	Kept     int      // records that a file brought
	Pages    []link   // of what was found
	Hold     []string // ticked, on other pages
}

type larderRow struct {
	ID, Name, Family string
	Does             string
	Bar              barView
	Holds            string
	Own              bool
	Picked           bool
}

// barView is what 100 g are made of, as one bar.
type barView struct {
	Width   int
	Blocks  []block
	Summary string
}

// parts of a composition bar, in order, with the texture that says which.
var barParts = []struct {
	name, texture string
	of            func(f *larder.Facts) float64
}{
	{"water", "liquid", func(f *larder.Facts) float64 { return f[larder.Water] }},
	{"protein", "egg", func(f *larder.Facts) float64 { return f[larder.Protein] }},
	{"fat", "fat", func(f *larder.Facts) float64 { return f[larder.Fat] }},
	{"sugars and polyols", "sugar", func(f *larder.Facts) float64 { return f.Bulk() }},
	{"starch", "flour", func(f *larder.Facts) float64 { return f[larder.Starch] }},
	{"fibre", "fruit", func(f *larder.Facts) float64 { return f[larder.Fibre] }},
}

func compositionBar(f *larder.Facts, width, height float64) barView {
	v := barView{Width: int(width)}
	var words []string
	u := 0.5
	for _, p := range barParts {
		x := p.of(f)
		w := x / 100 * (width - 1)
		if x >= 0.5 {
			words = append(words, fmt.Sprintf("%s %s g", p.name, measure.Digits(x, 2)))
		}
		if w < 0.8 {
			continue
		}
		t := p.texture
		if w < 12 {
			t = "flat-" + t
		}
		v.Blocks = append(
			v.Blocks,
			block{
				X: f1(u), Y: "0.5", W: f1(w), H: f1(height - 1), Texture: t,
				Title: fmt.Sprintf("%s %s g", p.name, measure.Digits(x, 3)),
			},
		)
		u += w
	}
	v.Summary = "per 100 g: " + strings.Join(words, ", ")
	return v
}

// holdsWords lists what an ingredient holds, then what it may hold, then what its
// label tells.
func holdsWords(i *larder.Ingredient) string {
	var out []string
	for _, lv := range []larder.Level{larder.Contains, larder.May, larder.Check} {
		var names []string
		for _, a := range larder.Allergens() {
			if i.Allergens[a] == lv {
				names = append(names, larder.AllergenWords(a))
			}
		}
		if len(names) > 0 {
			out = append(
				out,
				map[larder.Level]string{larder.Contains: "", larder.May: "may hold ", larder.Check: "read the label for "}[lv]+strings.Join(
					names, ", ",
				),
			)
		}
	}
	return strings.Join(out, "; ")
}

// larderList is the Larder screen: search, families, what is free of an allergen.
func (s *Server) larderList(c *gin.Context) error { return s.showLarder(c, http.StatusOK, nil) }

func (s *Server) showLarder(c *gin.Context, status int, imported *importView) error {
	v := larderView{
		Query: soughtFor(c), Family: c.Query("family"), Free: c.Query("free"), Import: imported,
	}
	picked := c.QueryArray("pick")
	v.Picked = len(picked)
	l := s.kit.Larder
	seen := map[larder.Family]bool{}
	for _, i := range l.All() {
		if !seen[i.Family] {
			seen[i.Family] = true
			v.Families = append(v.Families, readChoice{string(i.Family), i.Family.Words()})
		}
	}
	slices.SortFunc(v.Families, func(a, b readChoice) int { return strings.Compare(a.Name, b.Name) })
	for _, d := range diet.Diets {
		if d.Limit.What == diet.AddedSugars || d.Limit.What == diet.Sodium {
			continue // a limit a serving shuts out no ingredient
		}
		v.Frees = append(v.Frees, readChoice{string(d.ID), string(d.ID)})
	}
	for _, a := range larder.Allergens() {
		v.Frees = append(v.Frees, readChoice{a, "no " + larder.AllergenWords(a)})
	}
	demand := diet.Demand{}
	if _, ok := diet.Find(diet.ID(v.Free)); ok {
		demand.Diets = []diet.ID{diet.ID(v.Free)}
	} else if larder.IsAllergen(v.Free) {
		demand.Bans = []string{diet.OfAllergen(v.Free)}
	}
	for _, i := range l.Search(v.Query) {
		if j, _ := demand.Judge(i); j == diet.Breaks || v.Family != "" && string(i.Family) != v.Family {
			continue
		}
		v.Rows = append(
			v.Rows,
			larderRow{
				string(i.ID), i.Name, i.Family.Words(), i.Does(), compositionBar(&i.Facts, 240, 16), holdsWords(i),
				i.Own, slices.Contains(picked, string(i.ID)),
			},
		)
	}
	v.Words = fmt.Sprintf("%d of %d ingredients", len(v.Rows), len(l.All()))
	v.page(c, picked)
	own, _, err := s.store.Own(c.Request.Context()) // what cannot be read answered before
	if err != nil {
		return err
	}
	v.Own = len(own)
	v.Kept, _ = strconv.Atoi(c.Query("kept"))
	for _, p := range barParts {
		v.Textures = append(v.Textures, readChoice{p.texture, p.name})
	}
	s.show(c, status, "larder", page{Title: "Larder", Nav: "larder", Script: "larder", View: v})
	return nil
}

// pageSize is how many ingredients stand on a page.
const pageSize = 60

// page keeps of what was found the page that is asked for, with the way to the others; what is ticked goes along.
func (v *larderView) page(c *gin.Context, picked []string) {
	var from, to int
	from, to, v.Pages = pagesOf(c, "/larder", len(v.Rows), pageSize, func(n int) string { return v.Rows[n].Name })
	v.Rows = v.Rows[from:to]
	for _, id := range picked {
		if !slices.ContainsFunc(v.Rows, func(r larderRow) bool { return r.ID == id }) {
			v.Hold = append(v.Hold, id)
		}
	}
}

// around is how many pages each way of the one that is shown can be turned to at once, beside the first and the last.
const around = 3

// pagesOf parts a list of so many by the page that the address names: what of it stands there, and the ways to the others, none
// where one page holds all. A page is called by the names of its first and its last, or where there are none by their numbers.
func pagesOf(c *gin.Context, path string, all, size int, name func(int) string) (from, to int, pages []link) {
	n := (all + size - 1) / size
	at, err := strconv.Atoi(c.Query("page"))
	if err != nil || at < 1 || at > n {
		at = 1
	}
	if n <= 1 {
		return 0, all, nil
	}
	if name == nil {
		name = func(k int) string { return strconv.Itoa(k + 1) }
	}
	q := c.Request.URL.Query()
	left := false // some were left out
	for k := 1; k <= n; k++ {
		if k > 1 && k < n && (k < at-around || k > at+around) {
			left = true
			continue
		}
		q.Set("page", strconv.Itoa(k))
		first, last := (k-1)*size, min(all, k*size)-1
		l := link{path + "?" + q.Encode(), name(first) + " – " + name(last)}
		if left {
			l.Words, left = "… "+l.Words, false
		}
		if k == at {
			l.URL = ""
		}
		pages = append(pages, l)
	}
	return (at - 1) * size, min(all, at*size), pages
}

// ingredientView is one ingredient: what it is, does, weighs, holds, and where
// each figure comes from.
type ingredientView struct {
	Rev              int64 // of what the household says of it, as the form saw it
	ID, Name, Family string
	Origin           string
	Does             string
	Own              bool
	Bar              barView
	Holds            string
	Facts            []factRow
	Behaviour        []factRow
	Weights          []factRow
	Keeps            string
	Notes            []string
	Instead          []string
	StandsFor        []string
	Recipes          []versionLink
	More             bool // than are named
	Names            []string
	Form             ownForm
	Saved            bool
}

type factRow struct{ Name, Value, Source string }

func (s *Server) ingredient(c *gin.Context) error {
	i := s.kit.Larder.Get(larder.ID(c.Param("id")))
	if i == nil {
		s.fail(c, http.StatusNotFound, notFound)
		return nil
	}
	return s.showIngredient(c, http.StatusOK, i, s.formOf(c, i))
}

// holdingShown is how many recipes are named that hold an ingredient.
const holdingShown = 50

func (s *Server) showIngredient(c *gin.Context, status int, i *larder.Ingredient, form ownForm) error {
	v := ingredientViewOf(i, s.kit)
	v.Form, v.Saved = form, c.Query("saved") != ""
	rev, err := s.store.OwnRev(c.Request.Context(), i.ID)
	if err != nil {
		return err
	}
	if v.Rev = rev; status != http.StatusOK {
		v.Rev = seenRev(c.Request.PostForm)
	}
	recipes, err := s.store.Holds(c.Request.Context(), string(i.ID), holdingShown+1)
	if err != nil {
		return err
	}
	if v.More = len(recipes) > holdingShown; v.More {
		recipes = recipes[:holdingShown]
	}
	for _, r := range recipes {
		v.Recipes = append(v.Recipes, versionLink{r.ID, r.Title, measure.Grams(r.Grams).String()})
	}
	s.show(c, status, "ingredient", page{Title: i.Name, Nav: "larder", View: v})
	return nil
}

// compareView lays two to four ingredients on one scale.
type compareView struct {
	Columns []compareColumn
	Rows    []compareRow
	Again   string
}

type compareColumn struct {
	ID, Name, Does, Holds string
	Bar                   barView
}

type compareRow struct {
	Name, Unit string
	Cells      []compareCell
}

type compareCell struct{ Text, Width string }

func (s *Server) compare(c *gin.Context) error {
	var picked []*larder.Ingredient
	for _, id := range c.QueryArray("pick") {
		if i := s.kit.Larder.Get(larder.ID(id)); i != nil && len(picked) < 4 {
			picked = append(picked, i)
		}
	}
	v := compareView{Again: "/larder?" + url.Values{"pick": c.QueryArray("pick")}.Encode()}
	for _, i := range picked {
		v.Columns = append(
			v.Columns, compareColumn{string(i.ID), i.Name, i.Does(), holdsWords(i), compositionBar(&i.Facts, 260, 28)},
		)
	}
	figures := []struct {
		name, unit string
		full       float64 // a bar is never longer than its share of this, so that traces look like traces
		of         func(*larder.Ingredient) (float64, bool)
	}{
		{
			"Energy", "kcal", 100,
			func(i *larder.Ingredient) (float64, bool) { return nutrition.Per100(&i.Facts).Energy, true },
		},
		{"Water", "g", 10, col(larder.Water)},
		{"Protein", "g", 10, col(larder.Protein)}, {"Fat", "g", 10, col(larder.Fat)}, {"Carbohydrate by difference", "g", 10, col(larder.Carbohydrate)},
		{
			"Sugars", "g", 10, func(i *larder.Ingredient) (float64, bool) { return i.Facts.Sugars(), true },
		}, {"Fibre", "g", 10, col(larder.Fibre)}, {"Sodium", "mg", 100, col(larder.Sodium)},
		{"Drinks", "g water per g", 0.5, col(larder.Absorption)},
		{"Sweetness", "× sugar", 0.5, col(larder.Sweetness)}, {"Binds", "eggs' worth", 2, col(larder.Binding)}, {"Acid", "meq", 10, col(larder.Acid)},
		{"Price", "per 100 g", 0, func(i *larder.Ingredient) (float64, bool) {
			if i.Pack == nil {
				return 0, false
			}
			return i.Pack.Per(100), true
		}},
	}
	for _, fg := range figures {
		row := compareRow{Name: fg.name, Unit: fg.unit}
		most := fg.full
		for _, i := range picked {
			x, _ := fg.of(i)
			most = max(most, x)
		}
		for _, i := range picked {
			x, ok := fg.of(i)
			cell := compareCell{Text: "not known", Width: "0"}
			if ok {
				cell.Text = measure.Digits(x, 3)
				if most > 0 && x > 0 {
					cell.Width = f1(100 * x / most)
				}
			}
			row.Cells = append(row.Cells, cell)
		}
		v.Rows = append(v.Rows, row)
	}
	s.show(c, http.StatusOK, "compare", page{Title: "Side by side", Nav: "larder", View: v})
	return nil
}

func col(k larder.Column) func(*larder.Ingredient) (float64, bool) {
	return func(i *larder.Ingredient) (float64, bool) { return i.Facts.Or(k, 0), i.Facts.Known(k) }
}
