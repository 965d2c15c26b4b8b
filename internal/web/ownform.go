package web

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
)

// readForm turns the form into a record; what is wrong stands at its field, and
// what was typed is kept.
func (s *Server) readForm(base *larder.Ingredient, form url.Values) (larder.Own, ownForm) {
	p := packet{
		form: form, f: ownForm{Fields: map[string]string{}, Faults: map[string]string{}, Currency: s.currency()},
	}
	for k := range form {
		p.f.Fields[k] = strings.TrimSpace(form.Get(k))
	}
	o := larder.Own{}
	like := base
	if base == nil {
		like = p.named(&o, s.kit.Larder)
	} else {
		o.ID = base.ID
	}
	if lb := p.label(); like != nil {
		p.values(&o, lb, like)
		w := fillingOf(like, s.kit.Kitchen)
		p.f.Filling = w.Unit + ", " + w.How
		if g := p.number("weight"); g > 0 {
			o.Weights = append(o.Weights, larder.Weight{How: w.How, Unit: w.Unit, Grams: measure.Grams(g)})
		}
	}
	if p.f.Fields["pack"] != "" || p.f.Fields["price"] != "" || p.f.Fields["read"] != "" {
		o.Pack = &larder.Pack{
			Grams: p.number("pack"), Price: p.number("price"), Stock: p.number("stock"), Read: p.f.Fields["read"],
		}
	}
	p.allergens(&o, base == nil, like)
	if len(p.f.Faults) == 0 {
		for _, ft := range o.Check(s.kit.Larder) {
			p.f.Faults[ft.Field] = phrase.Sentence(ft.Why)
		}
	}
	return o, p.f
}

// packet reads what a form says of a packet.
type packet struct {
	form url.Values
	f    ownForm
}

// unit is what may be typed behind a number.
func (p *packet) unit(name string) string {
	switch name {
	case "energy":
		return "kcal"
	case "price":
		return p.f.Currency
	case "salt":
		if p.form.Get("label") == "us" { // there the field is sodium
			return "mg"
		}
		return "g"
	case "serving", "fat", "saturates", "carbohydrate", "sugars", "fibre", "protein", "weight", "pack", "stock":
		return "g"
	}
	return ""
}

// number reads a figure; 0 for an empty field and for one that is none, whose fault it keeps.
func (p *packet) number(name string) float64 {
	typed := p.f.Fields[name]
	if typed == "" {
		return 0
	}
	x, err := measure.ParseDecimal(typed, p.unit(name))
	if err != nil || !(x >= 0 && x < 1e6) {
		p.f.Faults[name] = fmt.Sprintf("“%s” is no figure: try a number such as 3.5, or leave it empty", typed)
		return 0
	}
	return x
}

// named reads what a new one is called and what it behaves like, nil where that is nothing.
func (p *packet) named(o *larder.Own, l *larder.Larder) *larder.Ingredient {
	o.Name = p.f.Fields["name"]
	o.ID = larder.ID("own-" + strings.ReplaceAll(larder.Normal(o.Name), " ", "-"))
	if o.Name == "" {
		p.f.Faults["name"] = "Give it the name that your recipes use."
	}
	m, ok := l.Find(p.f.Fields["like"], nil)
	if !ok || m.Confidence < larder.SureEnough {
		p.f.Faults["like"] = "Choose from the list what it behaves like: that fills in what a label does not say."
		return nil
	}
	o.Like = m.ID
	return l.Get(m.ID)
}

// label reads the packet's table.
func (p *packet) label() larder.Label {
	p.f.US = p.form.Get("label") == "us"
	return larder.Label{
		Serving: p.number("serving"),
		US:      p.f.US, Energy: p.number("energy"), Fat: p.number("fat"), Saturates: p.number("saturates"),
		Carbohydrate: p.number("carbohydrate"),
		Sugars:       p.number("sugars"), Fibre: p.number("fibre"), Protein: p.number("protein"), Salt: p.number("salt"),
	}
}

// values are what the label says, where one was typed, and what was typed of a batter
// that differs from what it behaves like.
func (p *packet) values(o *larder.Own, lb larder.Label, like *larder.Ingredient) {
	if slices.ContainsFunc(labelFields, func(name string) bool { return p.f.Fields[name] != "" }) {
		values, e, faults := lb.Values(like)
		for _, ft := range faults {
			if p.f.Faults[ft.Field] == "" {
				p.f.Faults[ft.Field] = phrase.Sentence(ft.Why)
			}
		}
		o.Values = values
		p.f.Explained = fmt.Sprintf("%s of 100 g explained", measure.Digits(e.Sum+e.Water, 3))
		if e.Rest >= 0.5 {
			p.f.Explained += fmt.Sprintf("; %s g is probably ash or fibre", measure.Digits(e.Rest, 2))
		}
	}
	for _, b := range behaviourFields {
		if x := p.number(b.name); p.f.Fields[b.name] != "" &&
			measure.Digits(like.Facts[b.col], 4) != p.f.Fields[b.name] {
			if o.Values == nil {
				o.Values = map[string]float64{}
			}
			o.Values[larder.Columns[b.col].Name] = x
		}
	}
}

// allergens are as chosen; a new one takes those of what it behaves like wherever nothing
// else was said, so that it never loses one because a field was passed over.
func (p *packet) allergens(o *larder.Own, isNew bool, like *larder.Ingredient) {
	o.Allergens = map[string]larder.Level{}
	typed := map[string]larder.Level{}
	for _, a := range larder.Allergens() {
		lv := larder.Level(p.form.Get("allergen." + a))
		typed[a] = lv
		if _, said := p.form["allergen."+a]; isNew && !said {
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
	p.f.Allergens = allergenFields(typed)
}
