package web

import (
	"bytes"
	"cmp"
	"fmt"
	"maps"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/swap"
	"kollaris/format"
)

type swapPart = swap.Part

// ownForm is an ingredient as a packet tells it, as typed, with what is wrong.
type ownForm struct {
	New       bool
	Fields    map[string]string
	Faults    map[string]string
	Allergens []allergenField
	Explained string // "97 of 100 g explained; 3 g is probably ash or fibre"
	Names     []string
	Currency  string
	Filling   string // how the household fills this ingredient's cup
	US        bool
}

// Box is a box of the form.
func (f ownForm) Box(name, words, unit string) field {
	b := field{
		ID: "f-" + name, Name: name, Words: words, Unit: unit, Value: f.Fields[name], Fault: f.Faults[name],
		Mode: "decimal",
	}
	switch name {
	case "like":
		b.Mode, b.List = "", "names"
	case "name":
		b.Mode = ""
	}
	return b
}

type allergenField struct {
	ID, Words string
	Level     string
}

// labelFields are the figures of a packet's table in its order.
var labelFields = []string{"energy", "fat", "saturates", "carbohydrate", "sugars", "fibre", "protein", "salt"}

// behaviourFields are the figures of a batter that can be typed over, with their
// columns.
var behaviourFields = []struct {
	name string
	col  larder.Column
}{{"absorption", larder.Absorption}, {"sweetness", larder.Sweetness}, {"binding", larder.Binding}, {"acid", larder.Acid}}

func allergenFields(levels map[string]larder.Level) []allergenField {
	var out []allergenField
	for _, a := range larder.Allergens() {
		out = append(out, allergenField{a, larder.AllergenWords(a), string(levels[a])})
	}
	return out
}

// fillingOf is the kitchen's way of filling a cup with an ingredient.
func fillingOf(i *larder.Ingredient, k measure.Kitchen) larder.Weight {
	if _, w, ok := i.MLGrams(k); ok {
		return w
	}
	return larder.Weight{How: "level", Unit: "cup"}
}

// formOf fills the form with what is known of an ingredient.
func (s *Server) formOf(c *gin.Context, i *larder.Ingredient) ownForm {
	f := &i.Facts
	fields := map[string]string{"serving": "100"}
	put := func(name string, x float64) { fields[name] = measure.Digits(x, 4) }
	put("fat", f[larder.Fat])
	put("saturates", f[larder.Saturates])
	put("carbohydrate", f[larder.Carbohydrate]-f[larder.Fibre])
	put("sugars", f.Sugars())
	put("fibre", f[larder.Fibre])
	put("protein", f[larder.Protein])
	put("salt", f.Or(larder.Sodium, 0)*2.5/1000)
	for _, b := range behaviourFields {
		put(b.name, f[b.col])
	}
	w := fillingOf(i, s.kit.Kitchen)
	if w.Grams > 0 {
		put("weight", float64(w.Grams))
	}
	if p := i.Pack; p != nil {
		put("pack", p.Grams)
		put("price", p.Price)
		put("stock", p.Stock)
		fields["read"] = p.Read
	}
	return ownForm{
		Fields: fields, Allergens: allergenFields(i.Allergens), Currency: s.currency(), Filling: w.Unit + ", " + w.How,
	}
}

// currency is what stands before a price.
func (s *Server) currency() string { return cmp.Or(s.home.Currency, "€") }

func (s *Server) newIngredient(c *gin.Context) error {
	asThat := map[string]larder.Level{}
	for _, a := range larder.Allergens() {
		asThat[a] = asLike
	}
	return s.showNewIngredient(
		c, http.StatusOK,
		ownForm{
			Fields: map[string]string{"serving": "100", "name": c.Query("name")}, Allergens: allergenFields(asThat),
		},
	)
}

// asLike is the form's word for "what it behaves like says": a new ingredient
// never loses an allergen because a field was passed over.
const asLike larder.Level = "like"

func (s *Server) showNewIngredient(c *gin.Context, status int, f ownForm) error {
	f.New = true
	f.Currency = s.currency()
	f.Filling = "cup"
	h := s.home
	f.US = h.Labels == "us"
	for _, i := range s.kit.Larder.All() {
		f.Names = append(f.Names, i.Name)
	}
	s.show(c, status, "own", page{Title: "An ingredient of your own", Nav: "larder", View: f})
	return nil
}

func (s *Server) addIngredient(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	o, f := s.readForm(nil, form)
	if len(f.Faults) == 0 && s.kit.Larder.Get(o.ID) != nil {
		f.Faults["name"] = "There is one of that name already: change it on its own page."
	}
	if len(f.Faults) > 0 {
		return s.showNewIngredient(c, http.StatusUnprocessableEntity, f)
	}
	return s.keepOwn(c, o)
}

// changeIngredient lays a packet's figures over an ingredient; only what differs
// from what is known is kept.
func (s *Server) changeIngredient(c *gin.Context) error {
	i := s.kit.Larder.Get(larder.ID(c.Param("id")))
	if i == nil {
		s.fail(c, http.StatusNotFound, notFound)
		return nil
	}
	form, err := postForm(c)
	if err != nil {
		return err
	}
	o, f := s.readForm(i, form)
	if len(f.Faults) > 0 {
		return s.showIngredient(c, http.StatusUnprocessableEntity, i, f)
	}
	old := s.formOf(c, i)
	same := true
	for _, name := range labelFields {
		same = same && f.Fields[name] == old.Fields[name]
	}
	before, err := s.ownRecord(c, i.ID)
	if err != nil {
		return err
	}
	if same { // the label was not touched: only what a batter feels may have changed
		values := maps.Clone(before.Values)
		if values == nil {
			values = map[string]float64{}
		}
		for _, b := range behaviourFields {
			if x, ok := o.Values[larder.Columns[b.col].Name]; ok && f.Fields[b.name] != old.Fields[b.name] {
				values[larder.Columns[b.col].Name] = x
			}
		}
		o.Values = values
	}
	if f.Fields["weight"] == old.Fields["weight"] {
		o.Weights = before.Weights
	}
	o.Name, o.Like, o.Names = before.Name, before.Like, before.Names
	if before.Allergens == nil && sameLevels(o.Allergens, i.Allergens) {
		o.Allergens = nil
	}
	if err := s.store.ChangeOwn(c.Request.Context(), seenRev(form), o); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/larder/i/%s?saved=1", o.ID))
	return nil
}

func sameLevels(a, b map[string]larder.Level) bool {
	if len(a) != len(b) {
		return false
	}
	for k, v := range a {
		if b[k] != v {
			return false
		}
	}
	return true
}

func (s *Server) ownRecord(c *gin.Context, id larder.ID) (larder.Own, error) {
	own, _, err := s.store.Own(c.Request.Context()) // what cannot be read answered before
	if err != nil {
		return larder.Own{}, err
	}
	for _, o := range own {
		if o.ID == id {
			return o, nil
		}
	}
	return larder.Own{ID: id}, nil
}

func (s *Server) keepOwn(c *gin.Context, o larder.Own) error {
	if err := s.store.ChangeOwn(c.Request.Context(), 0, o); err != nil { // of that name there is none yet
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/larder/i/%s?saved=1", o.ID))
	return nil
}

// forgetIngredient goes back to the catalogue's own figures.
func (s *Server) forgetIngredient(c *gin.Context) error {
	id := larder.ID(c.Param("id"))
	form, err := postForm(c)
	if err != nil {
		return err
	}
	back := form.Get("do") == "return"
	if err := s.store.DropOwn(c.Request.Context(), id, !back); err != nil {
		return err
	}
	if back {
		c.Redirect(http.StatusSeeOther, "/larder/i/"+string(id))
		return nil
	}
	if larder.Builtin().Get(id) == nil {
		c.Redirect(http.StatusSeeOther, "/larder")
		return nil
	}
	c.Redirect(http.StatusSeeOther, "/larder/i/"+string(id))
	return nil
}

// importView is what came of a file.
type importView struct {
	Good   int
	Faults []format.RowFault
	Error  string
	Text   string // the good rows, to be kept
}

func (s *Server) exportLarder(c *gin.Context) error {
	own, _, err := s.store.Own(c.Request.Context()) // what cannot be read answered before
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if err := format.WriteLarder(&b, own); err != nil {
		return err
	}
	download(c, "kollaris-larder.csv", "text/csv; charset=utf-8", b.Bytes())
	return nil
}

// importLarder reads a CSV. A file with bad rows is shown first, its good rows
// offered; a file without is kept at once.
func (s *Server) importLarder(c *gin.Context) error {
	text := c.PostForm("text")
	if text == "" {
		file, err := c.FormFile("file")
		if err != nil {
			return s.showLarder(
				c, http.StatusUnprocessableEntity, &importView{Error: "Choose a CSV file of up to 500 KB."},
			)
		}
		b, err := contents(file)
		if err != nil {
			return s.showLarder(
				c, http.StatusUnprocessableEntity,
				&importView{Error: "The file could not be read: choose one of up to 500 KB."},
			)
		}
		text = string(b)
	}
	own, faults, err := format.ReadLarder(strings.NewReader(text), larder.Builtin())
	switch {
	case err != nil:
		return s.showLarder(c, http.StatusUnprocessableEntity, &importView{Error: phrase.Sentence(err.Error())})
	case len(faults) > 0:
		var b bytes.Buffer
		if err := format.WriteLarder(&b, own); err != nil {
			return err
		}
		return s.showLarder(
			c, http.StatusUnprocessableEntity, &importView{Good: len(own), Faults: faults, Text: b.String()},
		)
	}
	if err := s.store.SetOwn(c.Request.Context(), own...); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/larder?kept=%d", len(own)))
	return nil
}
