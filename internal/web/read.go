package web

import (
	"cmp"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/larder"
	"kollaris/core/learn"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/store"
)

func urlEscape(s string) string { return url.QueryEscape(s) }

// remembered is what the household settled; it asks the store once a request.
func (s *Server) remembered(c *gin.Context) (store.Remembered, error) {
	if s.settledWords == nil {
		known, err := s.store.Remembered(c.Request.Context())
		if err != nil {
			return known, err
		}
		s.settledWords = &known
	}
	return *s.settledWords, nil
}

// forgotten lets what was settled be asked for again, after a change of it.
func (s *Server) forgotten() { s.settledWords = nil }

func (s *Server) reading(c *gin.Context, text string, typed store.Typed) (*reader.Reading, error) {
	opt, err := s.readingOptions(c)
	if err != nil {
		return nil, err
	}
	opt.Fixes, opt.Facts, opt.Told = typed.Fixes, typed.Facts, typed.Told
	return reader.Read(text, opt)
}

// readingOptions are what the household has settled.
func (s *Server) readingOptions(c *gin.Context) (reader.Options, error) {
	known, err := s.remembered(c)
	if err != nil {
		return reader.Options{}, err
	}
	taught, err := s.learned(c)
	if err != nil {
		return reader.Options{}, err
	}
	return reader.Options{
		Larder: s.kit.Larder, Kitchen: s.kit.Kitchen, Phrases: known.Phrases, Amounts: known.Amounts, Spoons: taught.Times(learn.Spoon, 1),
	}, nil
}

func (s *Server) draft(c *gin.Context) error {
	d, err := s.store.Draft(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	if d.Kept != 0 { // gone back to: it is a recipe now
		c.Redirect(http.StatusSeeOther, recipeURL(d.Kept, "read", ""))
		return nil
	}
	return s.showDraft(c, http.StatusOK, d, 0)
}

func (s *Server) showDraft(c *gin.Context, status int, d *store.Draft, open int) error {
	return s.showDraftWith(c, status, d, open, nil)
}

// showDraftWith shows a draft, with the correction of a task that will not do, as typed.
func (s *Server) showDraftWith(c *gin.Context, status int, d *store.Draft, open int, bad *badTask) error {
	rd, err := s.reading(c, d.Text, d.Typed)
	if err != nil {
		s.show(
			c, http.StatusUnprocessableEntity, "new",
			page{
				Title: "New recipe", Nav: "shelf", Script: "new",
				View: newView{Text: d.Text, Fault: phrase.Sentence(err.Error())},
			},
		)
		return nil
	}
	v := s.readView(rd, d.Text, d.Typed, open)
	v.DraftID, v.Rev, v.RecipeID = d.ID, d.Rev, d.Recipe
	v.wrong(bad)
	if n := len(d.Past); n > 0 {
		v.Back = d.Past[n-1].Words
	}
	s.show(c, status, "read", page{Title: v.Title + ": read", Nav: "shelf", Script: "read", View: v})
	return nil
}

// addLine puts a line into the text behind the last ingredient line of the batter.
func addLine(text string, r *recipe.Recipe, line string) string {
	at := 0
	for _, l := range r.Batter() {
		at = max(at, l.Span.To)
	}
	line = strings.Join(strings.Fields(line), " ")
	if at == 0 || at > len(text) || line == "" || len(line) > 100 {
		return text
	}
	if end := strings.IndexByte(text[at:], '\n'); end >= 0 {
		at += end
	} else {
		at = len(text)
	}
	return text[:at] + "\n" + line + text[at:]
}

// saveDraft takes one of the draft's forms: the text again, one line, the facts,
// or keeping it.
func (s *Server) saveDraft(c *gin.Context) error {
	_, tooMuch := formText(c, "text") // first: a form that broke off reads as an empty one afterwards
	switch do := c.Request.PostForm.Get("do"); do {
	case "leave", "return": // a begun text is given up, or taken up again
		if err := s.store.DropDraft(c.Request.Context(), paramID(c), do == "leave"); err != nil {
			return err
		}
		c.Redirect(http.StatusSeeOther, map[string]string{"leave": "/new", "return": fmt.Sprintf("/drafts/%d", paramID(c))}[do])
		return nil
	}
	d, err := s.store.Draft(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	if tooMuch != nil {
		s.unreadable(c, d.Text, tooMuch)
		return nil
	}
	form := c.Request.PostForm
	if d.Kept != 0 {
		if d, err = s.takenUp(c, d, form); d == nil {
			return err
		}
	} else if rev := form.Get("rev"); rev != "" && rev != fmt.Sprint(d.Rev) {
		return store.ErrChanged
	}
	all := append(alsoTyped(form), form)
	slices.SortStableFunc(all, func(a, b url.Values) int { // lines are those of the text
		return cmp.Compare(b2i(b.Get("do") == "text"), b2i(a.Get("do") == "text"))
	})
	open, wrong := 0, (*badTask)(nil)
	for _, f := range all {
		if f.Get("do") == "text" {
			text := strings.ReplaceAll(f.Get("text"), "\r\n", "\n")
			if _, err := s.reading(c, text, d.Typed); err != nil {
				s.unreadable(c, text, err)
				return nil
			}
			before, typed := d.Text, d.Typed
			d.Text = text
			d.Did("your text was changed", before, typed)
			continue
		}
		at, fault, err := s.change(c, d, f)
		if err != nil {
			return err
		}
		open, wrong = cmp.Or(at, open), cmp.Or(wrong, fault)
	}
	keep := form.Get("do") == "keep" || form.Get("then") == "keep"
	if keep && open == 0 && wrong == nil {
		rd, err := s.reading(c, d.Text, d.Typed)
		if err != nil || len(rd.Faults) == 0 {
			return s.keepDraft(c, d)
		}
	}
	if err := s.store.SaveDraft(c.Request.Context(), d); err != nil {
		return err
	}
	switch {
	case wrong != nil:
		return s.showDraftWith(c, http.StatusUnprocessableEntity, d, open, wrong)
	case open > 0 || keep || form.Get("do") == "facts":
		return s.showDraft(c, http.StatusOK, d, open)
	}
	at := ""
	if form.Get("do") == "line" { // the page comes again, at this line
		if rd, err := s.reading(c, d.Text, d.Typed); err == nil {
			for id, key := range rd.Keys {
				if key == form.Get("line") {
					at = fmt.Sprintf("#line-%d", id)
				}
			}
		}
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/drafts/%d%s", d.ID, at))
	return nil
}

// unreadable shows a text that cannot be read, as it was typed, with why.
func (s *Server) unreadable(c *gin.Context, text string, why error) {
	s.show(
		c, http.StatusUnprocessableEntity, "new",
		page{
			Title: "New recipe", Nav: "shelf", Script: "new", View: newView{Text: text, Fault: phrase.Sentence(why.Error())},
		},
	)
}

// takenUp is what becomes of a form of a draft that was kept meanwhile: keeping it again leads to the recipe (nil), a change of
// it begins a correction of the recipe.
func (s *Server) takenUp(c *gin.Context, d *store.Draft, form url.Values) (*store.Draft, error) {
	if form.Get("do") == "keep" || form.Get("then") == "keep" {
		c.Redirect(http.StatusSeeOther, recipeURL(d.Kept, "adapt", ""))
		return nil, nil
	}
	id, err := s.store.AddDraft(c.Request.Context(), d.Kept, d.Text, d.Typed)
	if err != nil {
		return nil, err
	}
	return s.store.Draft(c.Request.Context(), id)
}

// alsoTyped are the other forms of the page in which something stood that was not sent yet.
func alsoTyped(form url.Values) (also []url.Values) {
	for _, code := range form["also"] {
		if f, err := url.ParseQuery(code); err == nil && len(also) < 200 {
			also = append(also, f)
		}
	}
	return also
}

// change does what one of the draft's forms asks for: the line to leave open where the correction does not do, or what is
// wrong with a task.
func (s *Server) change(c *gin.Context, d *store.Draft, form url.Values) (open int, wrong *badTask, err error) {
	before, typed := d.Text, d.Typed
	typed.Fixes = maps.Clone(d.Typed.Fixes)
	switch form.Get("do") {
	case "back":
		s.forgotten()
		return 0, nil, s.store.Restored(c.Request.Context(), d.Back())
	case "line":
		open, known, err := s.fixLine(c, d, form)
		if err != nil {
			return 0, nil, err
		}
		d.Did(didToLine(form), before, typed, known...)
		return open, nil, nil
	case "task":
		rd, err := s.reading(c, d.Text, d.Typed)
		if err != nil {
			return 0, nil, err
		}
		all, fault := readTold(d.Typed.Told, form, rd.Recipe, s.kit.Larder)
		if fault != "" {
			return 0, &badTask{form, fault}, nil
		}
		d.Typed.Told = all
		d.Did("what is to be done was corrected", before, typed)
	case "facts":
		if err := s.fixFacts(c, d, form); err != nil {
			return 0, nil, err
		}
		d.Did("name, kind, tin, oven or time were set", before, typed)
	case "role":
		roles := maps.Clone(d.Typed.Facts.Roles)
		if roles == nil {
			roles = map[string]string{}
		}
		roles[form.Get("part")] = form.Get("role")
		d.Typed.Facts.Roles = roles
		d.Did("what “"+form.Get("part")+"” is was set", before, typed)
	case "add":
		rd, err := s.reading(c, d.Text, d.Typed)
		if err != nil {
			return 0, nil, err
		}
		d.Text = addLine(d.Text, rd.Recipe, form.Get("add"))
		d.Did("“"+form.Get("add")+"” was added", before, typed)
	}
	return 0, nil, nil
}

// didToLine says what a press did to a line.
func didToLine(form url.Values) string {
	text, _, _ := strings.Cut(form.Get("line"), " #")
	switch {
	case form.Get("undo") != "":
		return "“" + text + "” was read as at first"
	case form.Get("skip") != "":
		return "“" + text + "” was taken out"
	}
	return "“" + text + "” was corrected"
}

// fixLine takes a correction of one line. A name is remembered for next time, and so is
// the weight of what was counted: "1 tin" corrected to 400 g; known is what had been
// settled of them before. It returns the line to leave open when the correction does not
// do.
func (s *Server) fixLine(c *gin.Context, d *store.Draft, form url.Values) (open int, known []store.Known, err error) {
	key := form.Get("line")
	defer s.forgotten() // it may teach something
	settled, err := s.remembered(c)
	if err != nil {
		return 0, nil, err
	}
	fixes := maps.Clone(d.Typed.Fixes)
	if fixes == nil {
		fixes = map[string]reader.Fix{}
	}
	was, fixed := fixes[key]
	delete(fixes, key)
	d.Typed.Fixes = fixes
	rd, err := s.reading(c, d.Text, d.Typed)
	if err != nil {
		return 0, nil, nil // the text itself is at fault; shown by the page
	}
	read := lineOf(rd, key)
	if form.Get("undo") != "" {
		if fixed && was.Ingredient != "" && settled.Phrases[larder.Normal(read.Phrase)] == was.Ingredient {
			known = []store.Known{settled.Known(read.Phrase, "")} // what the correction taught goes with it
			err = s.store.Forget(c.Request.Context(), known[0].Phrase, true)
		}
		return 0, known, err
	}
	f := reader.Fix{
		Amount: strings.TrimSpace(form.Get("amount")), Unit: strings.TrimSpace(form.Get("unit")),
		Skip: form.Get("skip") != "",
	}
	if what := strings.TrimSpace(form.Get("what")); what != "" {
		f.Ingredient = larder.ID(what)
		if m, ok := s.kit.Larder.Find(what, nil); ok && (m.Confidence >= larder.SureEnough || m.Ambiguous != "") {
			f.Ingredient = m.ID
		}
	}
	if id := form.Get("choice"); id != "" {
		f.Ingredient = larder.ID(id)
	}
	if f.Skip {
		f = reader.Fix{Skip: true}
	}
	fixes[key] = f
	if rd, err = s.reading(c, d.Text, d.Typed); err != nil {
		return 0, nil, nil
	}
	l := lineOf(rd, key)
	switch {
	case l.ID == 0:
		return 0, nil, nil
	case !l.Known:
		return int(l.ID), nil, nil
	}
	if f.Ingredient != "" && f.Ingredient != read.Ingredient && l.Phrase != "" {
		known = append(known, settled.Known(l.Phrase, ""))
		err = s.store.RememberPhrase(c.Request.Context(), l.Phrase, f.Ingredient)
	}
	if counted := reader.Measure(read); err == nil && counted != "" && reader.Measure(l) == "" && l.Grams > 0 {
		known = append(known, settled.Known("", counted))
		err = s.store.RememberAmount(c.Request.Context(), counted, l.Grams/cmp.Or(read.Amount.Mid(), 1))
	}
	return 0, known, err
}

// lineOf finds a line of a reading by its key; an empty line when there is none.
func lineOf(rd *reader.Reading, key string) recipe.Line {
	for _, l := range rd.Recipe.Lines {
		if rd.Keys[l.ID] == key {
			return l
		}
	}
	return recipe.Line{}
}

func (s *Server) fixFacts(c *gin.Context, d *store.Draft, form url.Values) error {
	if or := form.Get("tin-or"); or != "" {
		form.Set("tin", or)
	}
	own, err := s.store.OwnTins(c.Request.Context())
	if t, ok := ownTin(own, form.Get("tin")); ok {
		form.Set("tin", t.Text)
	}
	d.Typed.Facts = reader.Facts{
		Title: form.Get("title"), Kind: form.Get("kind"), Servings: form.Get("servings"), Tin: form.Get("tin"),
		Oven: form.Get("oven"), Time: form.Get("time"), Device: form.Get("device"), Roles: d.Typed.Facts.Roles,
	}
	return err
}

// keepDraft puts the draft on the shelf, or corrects the recipe it belongs to.
func (s *Server) keepDraft(c *gin.Context, d *store.Draft) error {
	rd, err := s.reading(c, d.Text, d.Typed)
	if err != nil || len(rd.Recipe.Lines) == 0 {
		return s.showDraft(c, http.StatusUnprocessableEntity, d, 0)
	}
	id, err := s.shelve(c, d, rd.Recipe)
	if errors.Is(err, store.ErrChanged) && d.Recipe != 0 {
		return s.overtaken(c, d)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, recipeURL(id, "adapt", ""))
	return nil
}

// nameless is what a recipe is called that has no name.
const nameless = "A recipe without a name"

// shelve puts a draft's recipe on the shelf, or its correction; a draft that was kept already is the recipe it became.
func (s *Server) shelve(c *gin.Context, d *store.Draft, doc *recipe.Recipe) (id int64, err error) {
	doc.Title = cmp.Or(doc.Title, nameless)
	if c.Request.PostForm.Get("over") != "" {
		if err := s.store.Rebase(c.Request.Context(), d); err != nil {
			return 0, err
		}
	}
	return s.store.KeepDraft(c.Request.Context(), d, doc)
}

// understood lists what was read of a recipe, line by line.
func understood(r *recipe.Recipe) string {
	out := []string{r.Title}
	for _, l := range r.Lines {
		out = append(out, measure.Grams(l.Grams).String()+" "+l.Name)
	}
	return strings.Join(out, "\n")
}

// headOf loads the recipe that the address names, with its written version.
func (s *Server) headOf(c *gin.Context) (*store.Recipe, *store.Version, error) {
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err != nil {
		return nil, nil, err
	}
	ver, err := s.store.Version(c.Request.Context(), r.Head)
	return r, ver, err
}

// readRecipe shows how a kept recipe was read.
func (s *Server) readRecipe(c *gin.Context) error {
	r, ver, err := s.headOf(c)
	if err != nil {
		return err
	}
	rd, err := s.reading(c, ver.SourceText, ver.Typed)
	if err != nil {
		return err
	}
	v := s.readView(rd, ver.SourceText, ver.Typed, 0)
	v.Take = takeView{ver.ID, forms}
	v.RecipeID, v.Kept, v.Rail = r.ID, true, rail(r.ID, "read", c.Request.URL.RawQuery)
	s.show(c, http.StatusOK, "read", page{Title: r.Title + ": read", Nav: "shelf", Script: "read", View: v})
	return nil
}

// correctRecipe begins a draft from a kept recipe's text.
func (s *Server) correctRecipe(c *gin.Context) error {
	r, ver, err := s.headOf(c)
	if err != nil {
		return err
	}
	id, err := s.store.AddDraft(c.Request.Context(), r.ID, ver.SourceText, ver.Typed)
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/drafts/%d", id))
	return nil
}

// weigh answers the grams of one line while it is being typed.
func (s *Server) weigh(c *gin.Context) error {
	line := strings.Join(strings.Fields(c.Query("amount")+" "+c.Query("unit")+" "+c.Query("what")), " ")
	opt, err := s.readingOptions(c)
	if err != nil {
		return err
	}
	switch l, ok := reader.ReadLine(line, opt); {
	case !ok:
		c.String(http.StatusOK, "")
	case l.Doubt != "":
		c.String(http.StatusOK, l.Doubt)
	default:
		c.String(http.StatusOK, measure.Grams(l.Grams).String()+" ("+l.How+")")
	}
	return nil
}

// railItem is one work place of a recipe.
type railItem struct {
	Words, URL string
	Current    bool
	Key        string // that leads there
}

// rail lists the work places that are built; the request travels along.
func rail(id int64, current, query string) []railItem {
	var out []railItem
	for _, p := range []struct{ id, words, key string }{{"read", "Read", "r"}, {"adapt", "Adapt", "a"}, {"heat", "Tin & heat", "t"}, {"plan", "Plan", "p"}} {
		out = append(out, railItem{p.words, recipeURL(id, p.id, query), p.id == current, p.key})
	}
	asked, _ := url.ParseQuery(query)
	for _, name := range planFields {
		asked.Del(name)
	}
	return append(
		out, railItem{"Bake", "/bakes/new?" + url.Values{"b": {plannedBake{id: id, query: asked}.code()}}.Encode(), false, "b"},
		railItem{"Log", recipeURL(id, "log", ""), current == "log", "l"},
	)
}
