// Package nutrition adds up what a serving holds.
//
// Energy follows the factors of EU regulation 1169/2011, annex XIV (kcal/g):
// available carbohydrate 4, protein 4, fat 9, alcohol 7, fibre 2, polyols 2.4,
// erythritol 0. Allulose, which that law does not know, counts 0.4 (FDA
// guidance, 2020). The carbohydrate figure is the EU's, without fibre; net
// carbohydrate is the school "total less fibre, all polyols and allulose",
// which equals the EU figure less polyols and allulose, with half of maltitol.
package nutrition

import (
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// kcal per gram. Source: published, EU 1169/2011 annex XIV; allulose FDA guidance 2020.
const (
	kcalProtein  = 4.0
	kcalFat      = 9.0
	kcalCarb     = 4.0
	kcalAlcohol  = 7.0
	kcalFibre    = 2.0
	kcalPolyol   = 2.4
	kcalAllulose = 0.4
)

// maltitolCounts is the share of maltitol that counts as net carbohydrate: it raises blood
// sugar about half as much as sugar does. Source: common practice.
const maltitolCounts = 0.5

// saltPerSodium turns sodium into salt. Source: published, EU 1169/2011 annex I.
const saltPerSodium = 2.5

// Facts are the figures of one serving.
type Facts struct {
	Energy       float64 `json:"energy_kcal"`
	Fat          float64 `json:"fat_g"`
	Saturates    float64 `json:"saturates_g"`
	Carbohydrate float64 `json:"carbohydrate_g"` // without fibre
	Sugars       float64 `json:"sugars_g"`
	Added        float64 `json:"added_sugars_g"` // of sugar, syrup, jam, chocolate and sweetened milk; what fruit and milk hold is none
	Fibre        float64 `json:"fibre_g"`
	Protein      float64 `json:"protein_g"`
	Salt         float64 `json:"salt_g"`
	NetCarb      float64 `json:"net_carb_g"`
	Load         float64 `json:"sweet_load_g,omitempty"` // allulose and sugar alcohols together, of which the gut bears so much at once
	Weight       float64 `json:"weight_g"`               // of the raw mix
	Missing      float64 `json:"missing_share,omitempty"`
}

// Per100 gives the figures of 100 g of an ingredient.
func Per100(f *larder.Facts) Facts {
	polyols := f.Polyols()
	available := max(0, f[larder.Carbohydrate]-f[larder.Fibre]-polyols-f[larder.Allulose])
	return Facts{
		Energy: kcalProtein*f[larder.Protein] + kcalFat*f[larder.Fat] + kcalCarb*available + kcalFibre*f[larder.Fibre] +
			kcalPolyol*(polyols-f[larder.Erythritol]) + kcalAllulose*f[larder.Allulose] + kcalAlcohol*f[larder.Alcohol],
		Fat:          f[larder.Fat],
		Saturates:    f[larder.Saturates],
		Carbohydrate: available + polyols + f[larder.Allulose],
		Sugars:       f.Sugars(),
		Fibre:        f[larder.Fibre],
		Protein:      f[larder.Protein],
		Salt:         f.Or(larder.Sodium, 0) * saltPerSodium / 1000,
		NetCarb:      available + f[larder.Maltitol]*maltitolCounts,
		Load:         polyols + f[larder.Allulose],
		Weight:       100,
	}
}

// Row names a figure of a serving and how it is read and printed.
type Row struct {
	ID, Name, Unit string
	Sub            bool // "of which"
	Of             func(*Facts) *float64
}

// Rows lists the figures in the order of an EU label.
var Rows = []Row{
	{"energy", "Energy", "kcal", false, func(f *Facts) *float64 { return &f.Energy }},
	{"fat", "Fat", "g", false, func(f *Facts) *float64 { return &f.Fat }},
	{"saturates", "of which saturates", "g", true, func(f *Facts) *float64 { return &f.Saturates }},
	{"carbohydrate", "Carbohydrate", "g", false, func(f *Facts) *float64 { return &f.Carbohydrate }},
	{"sugars", "of which sugars", "g", true, func(f *Facts) *float64 { return &f.Sugars }},
	{"added", "of which added", "g", true, func(f *Facts) *float64 { return &f.Added }},
	{"fibre", "Fibre", "g", false, func(f *Facts) *float64 { return &f.Fibre }},
	{"protein", "Protein", "g", false, func(f *Facts) *float64 { return &f.Protein }},
	{"salt", "Salt", "g", false, func(f *Facts) *float64 { return &f.Salt }},
	{"net-carb", "Net carbohydrate", "g", false, func(f *Facts) *float64 { return &f.NetCarb }},
}

// IsAdded reports whether an ingredient's sugars count as added. Date and prune
// paste count, as they do where purées are free sugars (UK), which is the stricter
// reading. Source: published, 21 CFR 101.9(c)(6)(iii), but for purées.
func IsAdded(i *larder.Ingredient) bool {
	if i.Shelf.AddedSugar {
		return i.ID != "pumpkin-puree" // which no sugar was ever made of
	}
	switch i.ID {
	case "condensed-milk",
		"caramel-milk",
		"coconut-condensed",
		"candied-ginger",
		"candied-peel",
		"glace-cherries",
		"dried-cranberries",
		"choc-nut-spread",
		"custard-powder",
		"crushed-biscuits",
		"lemonade":
		return true
	}
	return false
}

// Of gives the figures of 100 g of an ingredient, with its added sugars.
func Of(i *larder.Ingredient) Facts {
	f := Per100(&i.Facts)
	if IsAdded(i) {
		f.Added = f.Sugars
	}
	return f
}

// Serving divides the whole recipe, toppings included, by its servings (at
// least one). Lines without a weight or an ingredient count as missing mass
// where their weight is known.
func Serving(r *recipe.Recipe, l *larder.Larder) Facts {
	var sum Facts
	missing := 0.0
	for _, ln := range r.Lines {
		ing := l.Get(ln.Ingredient)
		if ing == nil {
			missing += ln.Grams
			continue
		}
		f := Of(ing)
		if !ing.Facts.Known(larder.Sodium) {
			missing += ln.Grams
		}
		k := ln.Grams / 100
		for _, row := range Rows {
			*row.Of(&sum) += k * *row.Of(&f)
		}
		sum.Load += k * f.Load
		sum.Weight += ln.Grams
	}
	n := float64(max(1, r.Servings))
	for _, row := range Rows {
		*row.Of(&sum) /= n
	}
	if total := sum.Weight + missing; total > 0 {
		sum.Missing = missing / total
	}
	sum.Weight /= n
	sum.Load /= n
	return sum
}

// Figure explains one row of a serving: what each line brings to it.
func Figure(r *recipe.Recipe, l *larder.Larder, row Row) fact.Figure {
	n := float64(max(1, r.Servings))
	fig := fact.Figure{Unit: row.Unit}
	for _, ln := range r.Lines {
		ing := l.Get(ln.Ingredient)
		if ing == nil {
			continue
		}
		f := Of(ing)
		if v := *row.Of(&f) * ln.Grams / 100 / n; v != 0 {
			fig.Value += v
			fig.Terms = append(fig.Terms, fact.Term{ID: string(ing.ID), Name: ing.Name, Value: v})
		}
	}
	return fig
}
