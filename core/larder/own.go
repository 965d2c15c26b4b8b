package larder

import (
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"
	"time"

	"kollaris/core/fact"
	"kollaris/core/measure"
)

// Own is what a household says of an ingredient: a new one of its own, or other
// values for one of the catalogue. Empty fields leave what the catalogue, or the
// ingredient it behaves like, says.
type Own struct {
	ID        ID                 `json:"id"`
	Name      string             `json:"name,omitempty"`
	Like      ID                 `json:"like,omitempty"`   // a new one behaves like this
	Values    map[string]float64 `json:"values,omitempty"` // column → per 100 g
	Weights   []Weight           `json:"weights,omitempty"`
	Allergens map[string]Level   `json:"allergens,omitempty"` // nil leaves them; an empty map says there are none
	Names     []string           `json:"names,omitempty"`
	Pack      *Pack              `json:"pack,omitempty"`
}

// Pack is what the household buys, and what of it is in the house.
type Pack struct {
	Grams float64 `json:"grams"`          // in one
	Price float64 `json:"price"`          // of one, in the household's currency
	Stock float64 `json:"stock"`          // g in the house
	Read  string  `json:"read,omitempty"` // the day its label was read, 2006-01-02; "" for not yet
}

// ReadOn says when the label of the household's pack was read, as words; "" where it
// was not, or not written down.
func (i *Ingredient) ReadOn() string {
	if i.Pack == nil || i.Pack.Read == "" {
		return ""
	}
	day, err := time.Parse(time.DateOnly, i.Pack.Read)
	if err != nil {
		return ""
	}
	return day.Format("2 January 2006")
}

// Per is the price of some grams.
func (p Pack) Per(grams float64) float64 {
	if p.Grams <= 0 {
		return 0
	}
	return p.Price * grams / p.Grams
}

// yours is the source of what a household typed.
const yours fact.Source = "yours: typed from your packet"

// columnByName finds a column of the table.
func columnByName(name string) (Column, bool) {
	for c, info := range Columns {
		if info.Name == name {
			return Column(c), true
		}
	}
	return 0, false
}

// Check reports what is wrong with a household's record, each with the field.
func (o Own) Check(l *Larder) []OwnFault {
	var faults []OwnFault
	fault := func(field, format string, args ...any) {
		faults = append(faults, OwnFault{field, fmt.Sprintf(format, args...)})
	}
	known := l.byID[o.ID]
	if known == nil {
		if strings.TrimSpace(o.Name) == "" {
			fault("name", "give it a name")
		}
		if l.byID[o.Like] == nil {
			fault(
				"like",
				"“%s” is not in the larder: choose what it behaves like, so that what a label does not say can be filled in",
				o.Like,
			)
		}
	}
	if o.ID == "" || strings.ContainsAny(string(o.ID), " /,:=?&#") {
		fault("id", "“%s” cannot be an id: letters, digits and hyphens do", o.ID)
	}
	for _, name := range slices.Sorted(maps.Keys(o.Values)) {
		c, ok := columnByName(name)
		if !ok {
			fault(name, "“%s” is no figure that the larder knows", name)
			continue
		}
		if x := o.Values[name]; !(x >= Columns[c].Min && x <= Columns[c].Max) {
			fault(name, "%g is outside %g to %g %s in 100 g", x, Columns[c].Min, Columns[c].Max, Columns[c].Unit)
		}
	}
	for _, w := range o.Weights {
		if !(w.Grams > 0 && w.Grams < 5000) {
			fault("weight", "a %s of %g g cannot be: try the weight in grams of one", w.Unit, float64(w.Grams))
		}
	}
	for a, lv := range o.Allergens {
		if !IsAllergen(a) || lv != Contains && lv != May && lv != Check {
			fault("allergens", "“%s=%s”: name one that the law names with contains, may or check", a, lv)
		}
	}
	if p := o.Pack; p != nil && p.Read != "" {
		if _, err := time.Parse(time.DateOnly, p.Read); err != nil {
			fault("read", "“%s” is no day: write it as 2026-11-20", p.Read)
		}
	}
	if p := o.Pack; p != nil &&
		!((p.Grams > 0 || p.Grams == 0 && p.Price == 0) && p.Grams <= 1e5 && p.Price >= 0 && p.Price < 1e6 && p.Stock >= 0) {
		fault("pack", "a pack of %g g for %g cannot be: try its grams and its price", p.Grams, p.Price)
	}
	return faults
}

// OwnFault is what is wrong with one field of a household's record.
type OwnFault struct{ Field, Why string }

// With returns a larder in which a household's records are laid over the
// catalogue. Records that Check finds fault with are left out and returned.
// The catalogue itself does not change.
func (l *Larder) With(own []Own) (*Larder, []Own) {
	if len(own) == 0 {
		return l, nil
	}
	out := &Larder{byID: maps.Clone(l.byID), all: slices.Clone(l.all)}
	var left []Own
	for _, o := range own {
		if len(o.Check(l)) > 0 {
			left = append(left, o)
			continue
		}
		base := l.byID[o.ID]
		isNew := base == nil
		if isNew {
			base = l.byID[o.Like]
		}
		i := *base
		if isNew {
			i.Like = base.ID
		}
		i.ID, i.Own = o.ID, true
		i.Weights, i.Allergens, i.Sources = slices.Clone(base.Weights), maps.Clone(base.Allergens), maps.Clone(
			base.Sources,
		)
		if o.Name != "" {
			i.Name = o.Name
		}
		o.lay(&i)
		if isNew {
			out.all = append(out.all, &i)
		} else {
			out.all[slices.IndexFunc(out.all, func(x *Ingredient) bool { return x.ID == o.ID })] = &i
		}
		out.byID[o.ID] = &i
	}
	sort.Slice(out.all, func(a, b int) bool { return out.all[a].ID < out.all[b].ID })
	for _, e := range l.names.entries {
		_ = out.names.add(e.phrase, e.id, e.also)
	}
	for _, o := range own {
		if out.byID[o.ID] != nil && out.byID[o.ID].Own {
			for _, n := range append([]string{o.Name}, o.Names...) {
				if strings.TrimSpace(n) != "" {
					out.names.replace(n, o.ID) // the household's word comes first
				}
			}
		}
	}
	out.build()
	return out, left
}

// lay puts the record's values into an ingredient. Sweetness follows the sugars
// unless it was said.
func (o Own) lay(i *Ingredient) {
	sugars := false
	for name, x := range o.Values {
		c, _ := columnByName(name)
		i.Facts[c], i.Typed[c] = x, true
		i.Sources[Columns[c].Table] = yours
		sugars = sugars || Columns[c].Table == "sugars"
	}
	if _, said := o.Values["sweetness"]; sugars && !said && i.Facts[Sweetness] < 2 {
		i.Facts[Sweetness] = sweetnessOf(&i.Facts)
	}
	for _, w := range o.Weights {
		w.Source = yours
		at := slices.IndexFunc(
			i.Weights, func(x Weight) bool { return x.How == w.How && (x.Unit == "piece") == (w.Unit == "piece") },
		)
		if at < 0 {
			i.Weights = append(i.Weights, w)
		} else {
			i.Weights[at] = w
		}
	}
	if o.Allergens != nil {
		i.Allergens = maps.Clone(o.Allergens)
	}
	i.Pack = o.Pack
}

// Label is what a packet's table says, per Serving grams.
type Label struct {
	Serving      float64 // g; 100 on an EU label
	US           bool    // carbohydrate includes fibre
	Energy       float64 // kcal
	Fat          float64
	Saturates    float64
	Carbohydrate float64
	Sugars       float64
	Fibre        float64
	Protein      float64
	Salt         float64 // g
}

// Explained is how a label's sum comes out, g of 100 g.
type Explained struct {
	Sum   float64 // protein, fat, carbohydrate, fibre, salt
	Water float64
	Rest  float64 // probably ash, fibre or water that the label does not tell
	Kcal  float64 // by the factors of EU 1169/2011
}

// Values turns a label into the figures of the table, with what the ingredient it
// behaves like tells of the water and the starch. Faults name the field.
func (lb Label) Values(like *Ingredient) (map[string]float64, Explained, []OwnFault) {
	var faults []OwnFault
	fault := func(field, format string, args ...any) {
		faults = append(faults, OwnFault{field, fmt.Sprintf(format, args...)})
	}
	if !(lb.Serving > 0 && lb.Serving <= 2000) {
		fault("serving", "%g g is no serving: try 100, or what the packet says", lb.Serving)
		return nil, Explained{}, faults
	}
	k := 100 / lb.Serving
	fat, sat, carb, sugars, fibre, protein, salt := lb.Fat*k, lb.Saturates*k, lb.Carbohydrate*k, lb.Sugars*k, lb.Fibre*k, lb.Protein*k, lb.Salt*k
	if !lb.US {
		carb += fibre // by difference, fibre included
	}
	e := Explained{Sum: fat + protein + carb + salt, Kcal: 9*fat + 4*protein + 4*max(0, carb-fibre) + 2*fibre}
	switch {
	case sat > fat+0.1:
		fault(
			"saturates", "saturates of %s g are more than the fat of %s g", measure.Digits(sat, 3),
			measure.Digits(fat, 3),
		)
	case sugars > carb+0.1:
		fault(
			"sugars", "sugars of %s g are more than the carbohydrate of %s g", measure.Digits(sugars, 3),
			measure.Digits(carb, 3),
		)
	case lb.US && fibre > carb+0.1:
		fault(
			"fibre", "fibre of %s g is more than the carbohydrate of %s g that includes it", measure.Digits(fibre, 3),
			measure.Digits(carb, 3),
		)
	}
	if e.Sum > 101.5 {
		fault(
			"carbohydrate",
			"this adds up to %s g of 100 g: is it per serving, or does the carbohydrate include the fibre?",
			measure.Digits(e.Sum, 4),
		)
	}
	if lb.Energy > 0 {
		if kcal := lb.Energy * k; kcal > 1.15*e.Kcal+15 || kcal < 0.85*e.Kcal-15 {
			fault(
				"energy", "%s kcal is written, but the figures give %s: is it kJ, or another serving?",
				measure.Digits(kcal, 3), measure.Digits(e.Kcal, 3),
			)
		}
	}
	if like.Facts.Polyols()+like.Facts[Allulose] > 0 { // polyols and allulose carry less: the factors do not fit
		faults = slices.DeleteFunc(faults, func(f OwnFault) bool { return f.Field == "energy" })
	}
	e.Water = min(like.Facts[Water], max(0, 100-e.Sum))
	if like.Facts[Water] >= 50 {
		e.Water = max(0, 100-e.Sum)
	}
	e.Rest = max(0, 100-e.Sum-e.Water)
	v := map[string]float64{
		"fat": fat, "saturates": sat, "carbohydrate": carb, "fibre": fibre, "protein": protein,
		"sodium": salt * 400, "water": e.Water, "ash": min(100, salt+e.Rest),
	}
	spreadSugars(v, sugars, like)
	room := max(0, carb-fibre-sugars)
	for _, c := range []Column{Starch, Erythritol, Xylitol, Maltitol, Sorbitol, Isomalt, Allulose} {
		if all := like.Facts[Starch] + like.Facts.Polyols() + like.Facts[Allulose]; all > 0 {
			v[Columns[c].Name] = room * like.Facts[c] / all
		}
	}
	return v, e, faults
}

// spreadSugars shares a label's sugars out as they stand in what it behaves like;
// all sucrose where that has none.
func spreadSugars(v map[string]float64, sugars float64, like *Ingredient) {
	all := like.Facts.Sugars()
	for _, c := range []Column{Sucrose, Glucose, Fructose, Lactose, Maltose} {
		switch {
		case all > 0:
			v[Columns[c].Name] = sugars * like.Facts[c] / all
		case c == Sucrose:
			v["sucrose"] = sugars
		default:
			v[Columns[c].Name] = 0
		}
	}
}
