// Package sweet is about what sweetens: how sweet a mix is, how much of sugar's
// bulk it has, what else it does in a bake, which blend would stand for it, how to
// weigh an extract, and what happens when some of the sugar is left out.
//
// What a sweetener is made of comes from the larder. What its pure substances do
// (cool the mouth, dissolve, brown, feed yeast) is data/substance.csv; how the
// things that are sold taste is data/taste.csv; what leaving sugar out does in a
// kind of bake is data/cut.csv; where sweeteners are used is data/use.csv; and how
// ripe or drained fruit differs is data/fruit.csv. Each row has its source.
package sweet

import (
	"math"

	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
)

// Part is a weight of one sweetener.
type Part struct {
	Of    *larder.Ingredient
	Grams float64
}

// Mix is what sweetens, together.
type Mix []Part

// Sum is what a mix brings. Weights are in grams, of the whole mix.
type Sum struct {
	Grams      float64
	Sweet      float64 // of sucrose that would be as sweet
	Bulk       float64 // that fills sugar's place: sugars, polyols, allulose, soluble fibre, dextrin
	Water      float64
	Acid       float64 // meq
	Sugars     float64
	Added      float64
	Polyols    float64
	Erythritol float64
	Xylitol    float64
	NetCarb    float64
	Energy     float64 // kcal, EU factors
	Browns     float64 // of sucrose that would brown as much
	Feeds      float64 // of sugar that yeast eats
	Cools      float64 // J taken up in dissolving
	Intense    float64 // share of the sweetness that brings no bulk, 0 to 1
}

// BulkOf is what of 100 g of a sweetener fills sugar's place.
func BulkOf(i *larder.Ingredient) float64 {
	b := i.Facts.Bulk()
	if i.Shelf.Fills {
		b += i.Facts[larder.Fibre] + i.Facts[larder.Starch]
	}
	return b
}

// Sweetens reports whether an ingredient stands in a recipe to sweeten it: its family
// does, or it is a paste or jam that takes sugar's place, or the fibre that fills it.
// Source: practice.
func Sweetens(i *larder.Ingredient) bool {
	return i.Shelf.Sweetens || i.ID == "date-paste" || i.ID == "inulin" || i.ID == "jam"
}

// MixOf is what sweetens a recipe's batter, or its toppings, and the water, g, that
// all else there brings.
func MixOf(r *recipe.Recipe, l *larder.Larder, topping bool) (m Mix, water float64) {
	for _, ln := range r.Lines {
		i := l.Get(ln.Ingredient)
		if i == nil || ln.Grams <= 0 || ln.Topping() != topping {
			continue
		}
		if Sweetens(i) {
			m = append(m, Part{Of: i, Grams: ln.Grams})
			continue
		}
		water += ln.Grams / 100 * i.Facts[larder.Water]
	}
	return m, water
}

// IsIntense reports whether a sweetener is so sweet that it brings no bulk worth
// the name: ten times sugar or more.
func IsIntense(i *larder.Ingredient) bool { return i.Facts[larder.Sweetness] >= 10 }

// Sum adds up a mix.
func (m Mix) Sum() Sum {
	var s Sum
	intense := 0.0
	for _, p := range m {
		f, k := &p.Of.Facts, p.Grams/100
		n := nutrition.Of(p.Of)
		sweet := p.Grams * f[larder.Sweetness]
		s.Grams += p.Grams
		s.Sweet += sweet
		s.Bulk += k * BulkOf(p.Of)
		s.Water += k * f[larder.Water]
		s.Acid += k * f[larder.Acid]
		s.Sugars += k * f.Sugars()
		s.Added += k * n.Added
		s.Polyols += k * f.Polyols()
		s.Erythritol += k * f[larder.Erythritol]
		s.Xylitol += k * f[larder.Xylitol]
		s.NetCarb += k * n.NetCarb
		s.Energy += k * n.Energy
		for _, sub := range Substances() {
			g := k * f[sub.Column]
			s.Browns += g * sub.Browns
			s.Feeds += g * sub.Feeds
			s.Cools += g * sub.Cools
		}
		if IsIntense(p.Of) {
			intense += sweet
		}
	}
	if s.Sweet > 0 {
		s.Intense = intense / s.Sweet
	}
	return s
}

// Alone is the weight of one sweetener that stands for a sum by itself, by
// sweetness or by bulk; false where it has none.
func Alone(i *larder.Ingredient, was Sum, by Match) (grams float64, ok bool) {
	have, want := i.Facts[larder.Sweetness], was.Sweet
	if by == ByBulk {
		have, want = BulkOf(i)/100, was.Bulk
	}
	if have <= 0.02 || want <= 0 {
		return 0, false
	}
	return want / have, true
}

// Match says what a blend has to equal.
type Match string

// The matches.
const (
	Both        Match = "both" // as sweet, with four fifths of the bulk or more
	BySweetness Match = "sweetness"
	ByBulk      Match = "bulk"
)

// Round gives a weight as a kitchen can weigh it: to 1 g from 10 g, to 0.1 g from
// 1 g, below to a hundredth.
func Round(g float64) float64 {
	step := 1.0
	switch {
	case g < 1:
		step = 0.01
	case g < 10:
		step = 0.1
	}
	return math.Round(g/step) * step
}
