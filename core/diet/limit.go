package diet

import (
	"fmt"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
)

// Limited is a figure of a serving that may be limited.
type Limited string

// What can be limited, per serving.
const (
	NetCarb     Limited = "net-carb"     // g
	Sugars      Limited = "sugars"       // g, of whatever source
	AddedSugars Limited = "added-sugars" // g
	Sodium      Limited = "sodium"       // mg
	Load        Limited = "sweet-load"   // g of allulose and sugar alcohols together
)

// Limit is a wish: the most of one figure that a serving should hold. It is kept
// where it can be, and answered with how near where it cannot.
type Limit struct {
	What Limited `json:"what"`
	Max  float64 `json:"max"`
}

// limits are the figures with their words, units and bounds of what can be asked.
var limits = []struct {
	What        Limited
	Words, Unit string
	Most        float64
	row         string // of nutrition.Rows, by which it is known whether a line could add to it
	of          func(nutrition.Facts) float64
}{
	{NetCarb, "net carbohydrate", "g", 100, "net-carb", func(f nutrition.Facts) float64 { return f.NetCarb }},
	{Sugars, "sugars", "g", 100, "sugars", func(f nutrition.Facts) float64 { return f.Sugars }},
	{AddedSugars, "added sugars", "g", 100, "added", func(f nutrition.Facts) float64 { return f.Added }},
	{Load, "allulose and sugar alcohols", "g", 100, "", func(f nutrition.Facts) float64 { return f.Load }},
	{Sodium, "sodium", "mg", 3000, "salt", func(f nutrition.Facts) float64 { return f.Salt / 2.5 * 1000 }},
}

// Limitable lists what can be limited.
func Limitable() []Limited {
	var out []Limited
	for _, l := range limits {
		out = append(out, l.What)
	}
	return out
}

// Words names the figure, and Unit gives its unit.
func (w Limited) Words() string { return w.row().Words }

// Unit is the unit of the figure.
func (w Limited) Unit() string { return w.row().Unit }

// Of takes the figure from a serving, or from 100 g.
func (w Limited) Of(f nutrition.Facts) float64 { return w.row().of(f) }

// Gaps lists the lines that the figure leaves out and that could add to it.
func (w Limited) Gaps(r *recipe.Recipe, l *larder.Larder) []nutrition.Gap {
	row, ok := nutrition.RowOf(w.row().row)
	if !ok {
		return nil
	}
	return nutrition.Gaps(r, l, row)
}

func (w Limited) row() (out struct {
	What        Limited
	Words, Unit string
	Most        float64
	row         string
	of          func(nutrition.Facts) float64
}) {
	for _, l := range limits {
		if l.What == w {
			return l
		}
	}
	out.Words, out.of = string(w), func(nutrition.Facts) float64 { return 0 }
	return out
}

// LoadPerKg is the allulose that the gut of most bears at once, g per kg of body, and LoadMost what that is for an adult of 70 kg. A child
// bears half. Source: memory, Han and others, Nutrients 2018: 0.4 g a kg at once, 0.9 a day.
const (
	LoadPerKg = 0.4
	LoadMost  = 70 * LoadPerKg
)

// LoadMax is the most of allulose and sugar alcohols together that a serving may hold: what is asked, else that of an adult.
func (d Demand) LoadMax() float64 {
	for _, l := range d.Limits {
		if l.What == Load {
			return l.Max
		}
	}
	return LoadMost
}

// Words writes the limit: "at most 5 g added sugars a serving".
func (l Limit) Words() string {
	return fmt.Sprintf("at most %g %s %s a serving", l.Max, l.What.Unit(), l.What.Words())
}

// Keeps reports whether a figure is within the limit, what the rounding of a printed
// figure hides aside.
func (l Limit) Keeps(x float64) bool { return x <= l.Max*1.005+0.005 }

// ParseLimit reads "net-carb:6" or "sodium=140 mg". The error says what would do.
func ParseLimit(s string) (Limit, error) {
	what, amount, ok := strings.Cut(s, ":")
	if !ok {
		what, amount, ok = strings.Cut(s, "=")
	}
	w := Limited(strings.TrimSpace(what))
	row := w.row()
	if !ok || row.What == "" {
		return Limit{}, fmt.Errorf("“%s” is no limit: try net-carb:6, sugars:9, added-sugars:5, sweet-load:14 or sodium:140", s)
	}
	x, err := measure.ParseDecimal(amount, row.Unit)
	if err != nil || x < 0 || x > row.Most {
		return Limit{}, fmt.Errorf(
			"“%s” cannot be the %s of a serving: try a number from 0 to %g %s", strings.TrimSpace(amount), row.Words,
			row.Most, row.Unit,
		)
	}
	return Limit{w, x}, nil
}

// Limited lists the limits of the demand: those asked for, and those that its
// diets bring where none of the kind is asked for.
func (d Demand) Limited() []Limit {
	out := append([]Limit(nil), d.Limits...)
	for _, id := range d.Diets {
		x, _ := Find(id)
		if x.Limit.What == "" {
			continue
		}
		has := false
		for _, l := range out {
			has = has || l.What == x.Limit.What || x.Limit.What == AddedSugars && l.What == Sugars
		}
		if !has {
			out = append(out, x.Limit)
		}
	}
	return out
}
