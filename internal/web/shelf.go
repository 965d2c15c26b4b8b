package web

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"golang.org/x/sync/errgroup"

	"kollaris/core/diet"
	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/table"
	"kollaris/core/tin"
	"kollaris/internal/store"
)

// shelfRow is one recipe in the list.
type shelfRow struct {
	ID    int64
	Title string
	shelfFace
	Versions []versionLink
	Last     string // when it was baked last, and what was seen
	Suits    string // how it suits whom it is looked for
}

// shelfFace is what a recipe shows of itself there. It follows from its text and the larder, and is remembered by these.
type shelfFace struct {
	Kind, Facts string // "10 servings · 50–55 min"
	Strip       template.HTML
}

// mostFaces is how many are remembered, of some 2 KB each.
const mostFaces = 1000

// faces are those of some recipes, by id; whole, each recipe is read for it too. Those that cannot be read are lost.
func (s *Server) faces(c *gin.Context, heads []store.Head, whole bool) (out map[int64]shelfFace, read map[int64]*store.Recipe, lost []store.Unreadable, err error) {
	out, read = map[int64]shelfFace{}, map[int64]*store.Recipe{}
	key := func(head int64) string { return fmt.Sprint(head, " ", s.kit.Stamp) }
	var unseen []int64
	for _, h := range heads {
		if f, ok := s.looks.Get(key(h.Head)); ok && !whole {
			out[h.ID] = f
		} else {
			unseen = append(unseen, h.ID)
		}
	}
	recipes, lost, err := s.store.ShelfOf(c.Request.Context(), unseen)
	for _, r := range recipes {
		f := shelfFace{r.Doc.Kind.Words(), factsWords(r.Doc), smallStrip(r.Doc, s.kit.Larder, 420, 26).Small()}
		s.looks.Add(key(r.Head), f)
		out[r.ID], read[r.ID] = f, r
	}
	return out, read, lost, err
}

type versionLink struct {
	ID    int64
	Title string
	Words string
}

// shelfPage is how many recipes stand on a page of the shelf.
const shelfPage = 50

type shelfView struct {
	Query     string
	Kinds     []choice
	Suits     []choice // diets, then people: whom it suits
	Asked     bool     // something is looked for
	Drafts    []draftRow
	Away      int // things put away
	Pages     []link
	Among     string             // where not all were judged
	Lost      []store.Unreadable // recipes that cannot be read, with their text
	Torn      []*store.Broken    // people that cannot be read
	Rows      []shelfRow
	Empty     bool // nothing on the shelf at all
	Unsettled bool // it was never said how the household measures
	Suggest   string
	New       newView
	Undo      *undo
}

type undo struct {
	ID    int64
	Title string
}

// newView is the field for a new recipe with what went wrong with it.
type newView struct {
	Text      string
	Fault     string
	FileFault string
	Drafts    []draftRow
}

func (s *Server) shelf(c *gin.Context) error {
	v := shelfView{Query: soughtFor(c)}
	demand, err := s.lookedFor(c, &v)
	if err != nil {
		return err
	}
	if v.Drafts, err = s.unfinished(c); err != nil {
		return err
	}
	if v.Away, err = s.store.CountPutAway(c.Request.Context()); err != nil {
		return err
	}
	v.Unsettled = s.home.Rev == 0
	kind := c.Query("kind")
	heads, from, all, err := s.onShelf(c, v.Query, kind, &v.Pages)
	if err != nil {
		return err
	}
	if demand != nil && len(heads) < all {
		v.Among = fmt.Sprintf("Of recipes %d to %d of %d; the other pages may hold more.", from+1, from+len(heads), all)
	}
	faces, read, lost, err := s.faces(c, heads, demand != nil)
	if err != nil {
		return err
	}
	v.Lost = lost
	for _, h := range heads {
		if _, ok := faces[h.ID]; !ok && !slices.ContainsFunc(lost, func(l store.Unreadable) bool { return l.ID == fmt.Sprint(h.ID) }) {
			v.Lost = append(v.Lost, store.Unreadable{ID: fmt.Sprint(h.ID), Why: "its text is not there", Doc: h.Title})
		}
	}
	if err := s.shelfRows(c, &v, heads, faces, read, demand); err != nil {
		return err
	}
	if len(v.Rows) == 0 {
		some, err := s.store.CountHeads(c.Request.Context(), "", "")
		if err != nil {
			return err
		}
		v.Empty = some == 0
		if v.Suggest, err = s.nearestTitle(c, v.Query); err != nil {
			return err
		}
	}
	if id, err := strconv.ParseInt(c.Query("undo"), 10, 64); err == nil {
		v.Undo = &undo{id, c.Query("title")}
	}
	s.show(c, http.StatusOK, "shelf", page{Title: "Shelf", Nav: "shelf", Script: "new", View: v})
	return nil
}

// shelfRows lays a page of recipes on the shelf, of those that can be read; with a demand, those that suit it.
func (s *Server) shelfRows(c *gin.Context, v *shelfView, heads []store.Head, faces map[int64]shelfFace, read map[int64]*store.Recipe, demand *diet.Demand) error {
	ids := idsOf(heads)
	names, err := s.store.VersionNames(c.Request.Context(), ids...)
	if err != nil {
		return err
	}
	log, err := s.store.LastOf(c.Request.Context(), ids)
	if err != nil {
		return err
	}
	last := lastBaked(log)
	for _, r := range heads {
		f, ok := faces[r.ID]
		if !ok { // it cannot be read
			continue
		}
		row := shelfRow{ID: r.ID, Title: r.Title, Last: last[r.ID], shelfFace: f}
		for _, ver := range names[r.ID] {
			row.Versions = append(row.Versions, versionLink{ver.ID, ver.Title, versionShort(r.Title, ver.Title)})
		}
		if demand != nil {
			versions, err := s.store.Versions(c.Request.Context(), r.ID)
			if err != nil {
				return err
			}
			row.Suits, err = s.suits(c, read[r.ID], versions, *demand)
			if torn := store.BrokenOf(err); torn != nil {
				v.Lost = append(v.Lost, store.Unreadable{ID: fmt.Sprint(r.ID), Why: torn.Err.Error(), Doc: torn.Doc})
				continue
			}
			if err != nil {
				return err
			}
			if row.Suits == "" {
				continue
			}
		}
		v.Rows = append(v.Rows, row)
	}
	return nil
}

// mostSought is the longest search in letters: each word of it is a walk over the shelf. No source; a whole sentence fits.
const mostSought = 200

// soughtFor is what is looked for, as far as it is taken; the page shows that in its field.
func soughtFor(c *gin.Context) string {
	words := []rune(strings.TrimSpace(c.Query("q")))
	return strings.TrimSpace(string(words[:min(len(words), mostSought)]))
}

// onShelf are the recipes on the page of the shelf that is asked for, which begins at from, of so many in all that are found.
// Counting them and listing them are each a walk over what is found, of half the time of the page: they go at once.
func (s *Server) onShelf(c *gin.Context, query, kind string, pages *[]link) (heads []store.Head, from, all int, err error) {
	asked := 0
	if n, err := strconv.Atoi(c.Query("page")); err == nil && n > 1 && n < math.MaxInt/shelfPage {
		asked = (n - 1) * shelfPage
	}
	both, ctx := errgroup.WithContext(c.Request.Context())
	both.Go(func() (err error) {
		all, err = s.store.CountHeads(ctx, query, kind)
		return err
	})
	both.Go(func() (err error) {
		heads, err = s.store.Heads(ctx, query, kind, asked, shelfPage)
		return err
	})
	if err = both.Wait(); err != nil {
		return nil, 0, 0, err
	}
	if from, _, *pages = pagesOf(c, "/", all, shelfPage, nil); from != asked { // there is no such page
		heads, err = s.store.Heads(c.Request.Context(), query, kind, from, shelfPage)
	}
	return heads, from, all, err
}

// versionShort is a version's name beside its recipe: what its title adds, or the name it was given.
func versionShort(title, version string) string {
	return phrase.Clip(strings.TrimPrefix(version, title+", "), 60)
}

// lookedFor fills what the shelf can be looked through for, and is the demand that was chosen; nil for none.
func (s *Server) lookedFor(c *gin.Context, v *shelfView) (*diet.Demand, error) {
	var known []string
	for _, k := range recipe.Kinds {
		known = append(known, string(k.ID))
	}
	kinds, err := s.store.KindsOf(c.Request.Context(), known)
	if err != nil {
		return nil, err
	}
	for _, k := range recipe.Kinds {
		if kinds[string(k.ID)] {
			v.Kinds = append(v.Kinds, choice{string(k.ID), k.Words, c.Query("kind") == string(k.ID)})
		}
	}
	var out *diet.Demand
	suits := c.Query("suits")
	put := func(value, words string, d diet.Demand) {
		v.Suits = append(v.Suits, choice{value, words, suits == value})
		if suits == value {
			out = &d
		}
	}
	for _, d := range diet.Diets {
		put(string(d.ID), string(d.ID), diet.Demand{Diets: []diet.ID{d.ID}})
	}
	seated, err := s.atTable(c)
	if torn := store.BrokenOf(err); torn != nil && (suits == "" || out != nil) { // nobody is judged for
		v.Torn, err = append(v.Torn, torn), nil
	}
	for _, p := range seated.people {
		put(fmt.Sprint(p.ID), p.Name, p.Demand())
	}
	v.Asked = v.Query != "" || out != nil || c.Query("kind") != ""
	return out, err
}

// suits says how a recipe suits a demand: as it is written, or by a version that was kept; "" not.
func (s *Server) suits(c *gin.Context, r *store.Recipe, versions []*store.Version, d diet.Demand) (string, error) {
	if err := s.reread(c, r); err != nil {
		return "", err
	}
	fits := func(state table.State, _ []string) (words string, ok bool) {
		switch state {
		case table.Fits:
			return "", true
		case table.Label:
			return ", after reading a label", true
		}
		return "", false
	}
	if words, ok := fits(table.Written(r.Doc, d, s.kit)); ok {
		return "suits as it is" + words, nil
	}
	for _, ver := range versions {
		if words, ok := fits(table.Kept(ver.Result, d, s.kit)); ok {
			return "suits as “" + versionShort(r.Title, ver.Title) + "”" + words, nil
		}
	}
	return "", nil
}

// draftRow is a text that was begun and not kept, or several that were brought in together.
type draftRow struct {
	URL   string
	Title string
	Of    bool   // it corrects a recipe
	Drop  string // where it is given up
	Does  string // by what
}

func (s *Server) unfinished(c *gin.Context) ([]draftRow, error) {
	files, err := s.store.UnfinishedBrought(c.Request.Context())
	if err != nil {
		return nil, err
	}
	var out []draftRow
	for _, b := range files {
		at := fmt.Sprintf("/brought/%d", b.ID)
		out = append(out, draftRow{URL: at, Title: fmt.Sprintf("%s from files, %s", plural(b.Found, "recipe"), onDay(b.At)), Drop: at + "/undo"})
	}
	all, err := s.store.Drafts(c.Request.Context())
	for _, d := range all {
		at := fmt.Sprintf("/drafts/%d", d.ID)
		out = append(out, draftRow{at, phrase.Clip(firstLine(d.Text), 60), d.Recipe != 0, at, "leave"})
	}
	return out, err
}

// nearestTitle is a word of a title that begins as a word of the query does; "" none.
func (s *Server) nearestTitle(c *gin.Context, query string) (string, error) {
	for _, q := range strings.Fields(strings.ToLower(query)) {
		rs := []rune(q)
		if len(rs) < 3 {
			continue
		}
		head := string(rs[:3])
		found, err := s.store.Heads(c.Request.Context(), head, "", 0, shelfPage)
		if err != nil {
			return "", err
		}
		for _, r := range found {
			for _, w := range strings.Fields(strings.ToLower(r.Title)) {
				if strings.HasPrefix(w, head) {
					return strings.Trim(w, ",.:()"), nil
				}
			}
		}
	}
	return "", nil
}

// idsOf are the ids of recipes.
func idsOf(heads []store.Head) (ids []int64) {
	for _, h := range heads {
		ids = append(ids, h.ID)
	}
	return ids
}

func factsWords(r *recipe.Recipe) string {
	var out []string
	if r.Servings > 0 {
		out = append(out, fmt.Sprintf("serves %d", r.Servings))
	}
	if m := r.Bake; m.Max > 0 {
		out = append(out, rangeWords(m)+" min")
	}
	if len(r.Tins) > 0 {
		out = append(out, tin.Together(r.Tins, nil))
	}
	return strings.Join(out, " · ")
}

func rangeWords(m recipe.Minutes) string {
	if m.Min == m.Max {
		return fmt.Sprintf("%g", m.Min)
	}
	return fmt.Sprintf("%g–%g", m.Min, m.Max)
}

func (s *Server) newRecipe(c *gin.Context) error {
	drafts, err := s.unfinished(c)
	if err != nil {
		return err
	}
	s.show(c, http.StatusOK, "new", page{Title: "New recipe", Nav: "shelf", Script: "new", View: newView{Drafts: drafts}})
	return nil
}

// newFromText begins a draft from pasted text; a text that cannot be read comes
// back with what would do.
func (s *Server) newFromText(c *gin.Context) error {
	text, err := formText(c, "text")
	if err == nil {
		_, err = reader.Read(text, reader.Options{Kitchen: s.kit.Kitchen})
	}
	if err != nil {
		s.show(
			c, http.StatusUnprocessableEntity, "new",
			page{
				Title: "New recipe", Nav: "shelf", Script: "new",
				View: newView{Text: text, Fault: phrase.Sentence(err.Error())},
			},
		)
		return nil
	}
	id, err := s.store.AddDraft(c.Request.Context(), 0, text, store.Typed{})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/drafts/%d", id))
	return nil
}

// formText reads a long field with the line ends that forms send made plain.
func formText(c *gin.Context, name string) (string, error) {
	if err := c.Request.ParseForm(); err != nil {
		return "", fmt.Errorf(
			"that is more text than can be taken: paste one recipe of up to %d KB at a time", reader.MaxText>>10,
		)
	}
	return strings.ReplaceAll(c.Request.PostForm.Get(name), "\r\n", "\n"), nil
}

func paramID(c *gin.Context) int64 {
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		return 0 // no row has it: not found
	}
	return id
}

func (s *Server) recipe(c *gin.Context) error {
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, recipeURL(r.ID, "adapt", ""))
	return nil
}

func (s *Server) deleteRecipe(c *gin.Context) error {
	id := paramID(c)
	title, err := s.store.NameOf(c.Request.Context(), "recipe", id)
	if err == nil {
		err = s.store.Delete(c.Request.Context(), id)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/?undo=%d&title=%s", id, urlEscape(title)))
	return nil
}

func (s *Server) restoreRecipe(c *gin.Context) error {
	if err := s.store.Restore(c.Request.Context(), paramID(c)); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/")
	return nil
}
