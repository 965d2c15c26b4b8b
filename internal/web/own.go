package web

import (
	"bytes"
	"cmp"
	"fmt"
	"maps"
	"net/http"
	"net/url"
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
	return ownForm{Fields: fields, Allergens: allergenFields(i.Allergens), Currency: s.currency(), Filling: w.Unit + ", " + w.How}
}

// currency is what stands before a price.
func (s *Server) currency() string { return cmp.Or(s.home.Currency, "€") }

func (s *Server) newIngredient(c *gin.Context) error {
	asThat := map[string]larder.Level{}
	for _, a := range larder.Allergens() {
		asThat[a] = asLike
	}
	return s.showNewIngredient(c, http.StatusOK, ownForm{Fields: map[string]string{"serving": "100", "name": c.Query("name")}, Allergens: allergenFields(asThat)})
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

// readForm turns the form into a record; what is wrong stands at its field, and
// what was typed is kept.
func (s *Server) readForm(c *gin.Context, base *larder.Ingredient, form url.Values) (larder.Own, ownForm) {
	f := ownForm{Fields: map[string]string{}, Faults: map[string]string{}, Currency: s.currency()}
	for k := range form {
		f.Fields[k] = strings.TrimSpace(form.Get(k))
	}
	unit := map[string]string{"energy": "kcal", "salt": "g", "price": f.Currency}
	for _, name := range []string{"serving", "fat", "saturates", "carbohydrate", "sugars", "fibre", "protein", "weight", "pack", "stock"} {
		unit[name] = "g"
	}
	if form.Get("label") == "us" { // there the field is sodium
		unit["salt"] = "mg"
	}
	number := func(name string) float64 {
		if f.Fields[name] == "" {
			return 0
		}
		x, err := measure.ParseDecimal(f.Fields[name], unit[name])
		if err != nil || !(x >= 0 && x < 1e6) {
			f.Faults[name] = fmt.Sprintf("“%s” is no figure: try a number such as 3.5, or leave it empty", f.Fields[name])
			return 0
		}
		return x
	}
	o := larder.Own{}
	like := base
	if base == nil {
		o.Name = f.Fields["name"]
		o.ID = larder.ID("own-" + strings.ReplaceAll(larder.Normal(o.Name), " ", "-"))
		if o.Name == "" {
			f.Faults["name"] = "Give it the name that your recipes use."
		}
		m, ok := s.kit.Larder.Find(f.Fields["like"], nil)
		if !ok || m.Confidence < larder.SureEnough {
			f.Faults["like"] = "Choose from the list what it behaves like: that fills in what a label does not say."
		} else {
			like = s.kit.Larder.Get(m.ID)
			o.Like = m.ID
		}
	} else {
		o.ID = base.ID
	}
	serving := number("serving")
	lb := larder.Label{Serving: serving, US: form.Get("label") == "us", Energy: number("energy"), Fat: number("fat"), Saturates: number("saturates"), Carbohydrate: number("carbohydrate"), Sugars: number("sugars"), Fibre: number("fibre"), Protein: number("protein"), Salt: number("salt")}
	f.US = lb.US
	if like != nil {
		typed := false
		for _, name := range labelFields {
			typed = typed || f.Fields[name] != ""
		}
		if typed {
			values, e, faults := lb.Values(like)
			for _, ft := range faults {
				if f.Faults[ft.Field] == "" {
					f.Faults[ft.Field] = phrase.Sentence(ft.Why)
				}
			}
			o.Values = values
			f.Explained = fmt.Sprintf("%s of 100 g explained", measure.Digits(e.Sum+e.Water, 3))
			if e.Rest >= 0.5 {
				f.Explained += fmt.Sprintf("; %s g is probably ash or fibre", measure.Digits(e.Rest, 2))
			}
		}
		for _, b := range behaviourFields {
			if x := number(b.name); f.Fields[b.name] != "" && measure.Digits(like.Facts[b.col], 4) != f.Fields[b.name] {
				if o.Values == nil {
					o.Values = map[string]float64{}
				}
				o.Values[larder.Columns[b.col].Name] = x
			}
		}
		w := fillingOf(like, s.kit.Kitchen)
		f.Filling = w.Unit + ", " + w.How
		if g := number("weight"); g > 0 {
			o.Weights = append(o.Weights, larder.Weight{How: w.How, Unit: w.Unit, Grams: measure.Grams(g)})
		}
	}
	if f.Fields["pack"] != "" || f.Fields["price"] != "" || f.Fields["read"] != "" {
		o.Pack = &larder.Pack{Grams: number("pack"), Price: number("price"), Stock: number("stock"), Read: f.Fields["read"]}
	}
	o.Allergens = map[string]larder.Level{}
	typed := map[string]larder.Level{}
	for _, a := range larder.Allergens() {
		lv := larder.Level(form.Get("allergen." + a))
		typed[a] = lv
		if _, said := form["allergen."+a]; base == nil && !said {
			lv = asLike
		}
		if lv == asLike {
			lv = ""
			if like != nil {
				lv = like.Allergens[a]
			}
		}
		if lv != "" {
			o.Allergens[a] = lv
		}
	}
	f.Allergens = allergenFields(typed)
	if len(f.Faults) == 0 {
		for _, ft := range o.Check(s.kit.Larder) {
			f.Faults[ft.Field] = phrase.Sentence(ft.Why)
		}
	}
	return o, f
}

func (s *Server) addIngredient(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	o, f := s.readForm(c, nil, form)
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
	o, f := s.readForm(c, i, form)
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
	return s.keepOwn(c, o)
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
	own, _, err := s.store.Own(c) // what cannot be read answered before
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
	if err := s.store.SetOwn(c, o); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/larder/i/%s?saved=1", o.ID))
	return nil
}

// forgetIngredient goes back to the catalogue's own figures.
func (s *Server) forgetIngredient(c *gin.Context) error {
	id := larder.ID(c.Param("id"))
	if err := s.store.DropOwn(c, id); err != nil {
		return err
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
	own, _, err := s.store.Own(c) // what cannot be read answered before
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
			return s.showLarder(c, http.StatusUnprocessableEntity, &importView{Error: "Choose a CSV file of up to 500 KB."})
		}
		b, err := contents(file)
		if err != nil {
			return s.showLarder(c, http.StatusUnprocessableEntity, &importView{Error: "The file could not be read: choose one of up to 500 KB."})
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
		return s.showLarder(c, http.StatusUnprocessableEntity, &importView{Good: len(own), Faults: faults, Text: b.String()})
	}
	if err := s.store.SetOwn(c, own...); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/larder")
	return nil
}
