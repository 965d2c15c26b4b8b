package adapt

import (
	"math"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// target is a sum over the batter that should come back, with the window in
// which it counts as the same. Sources of the windows: practice, judged so that
// the usual swaps of the trade land inside.
type target struct {
	id, name, unit string
	less, more     string // words for outside
	same           string // words for inside
	method         string // how it is worked out
	of             func(i *larder.Ingredient) float64
	lo, hi         float64
	scale, weight  float64 // of the goal programme
}

// isStiff tells doughs whose total water is kept, since matching free water
// soaks them.
func isStiff(k recipe.Kind) bool { return k == recipe.Biscuit || k == recipe.Scone }

func isYeast(k recipe.Kind) bool { return k == recipe.LeanBread || k == recipe.RichBread }

// tasteLimit is the soda without acid that is not yet tasted, per cent of the
// flour. Source: practice.
func tasteLimit(k recipe.Kind) float64 {
	switch k {
	case recipe.Biscuit:
		return 1.5
	case recipe.SodaBread:
		return 0.4
	}
	return 0.25
}

// powderCap is the most baking powder, per cent of the flour: two teaspoons to
// 120 g; above it a crumb turns coarse and falls. Source: practice.
const powderCap = 7.7

// meqPerGramSoda is 1000/84.007. Source: calculated from the molar mass.
const meqPerGramSoda = 1000 / 84.007

func gasOf(i *larder.Ingredient) float64 {
	return i.Facts[larder.Soda] + i.Facts[larder.CO2] + i.Facts[larder.Air]
}

// targets lists what has to come back for a batter whose written sum is b.
// extra is the lift, in mmol CO2, that the chosen schools need beyond the air
// that was lost.
func targets(b balance.Balance, kind recipe.Kind, extra float64) []target {
	around := func(x, share float64) (lo, hi float64) { return x - share*math.Abs(x), x + share*math.Abs(x) }
	var out []target
	water := target{id: "water", name: "Wetness", unit: "g free water", less: "drier", more: "wetter", same: "as wet as written",
		method: "All water less what flours, seeds and gums drink (absorption × weight).",
		of:     func(i *larder.Ingredient) float64 { return i.Facts.FreeWater() },
		lo:     b.FreeWater - 0.035*b.Water, hi: b.FreeWater + 0.035*b.Water, scale: math.Max(b.Water, 20), weight: 3}
	if isStiff(kind) {
		water.of, water.unit = func(i *larder.Ingredient) float64 { return i.Facts[larder.Water] }, "g water"
		water.method = "All water: in a stiff dough it is the total that must stay."
		water.lo, water.hi = around(b.AllWater, 0.08)
	}
	out = append(out, water)
	lo, hi := around(b.Fat, 0.06)
	out = append(out, target{id: "fat", name: "Fat", unit: "g", less: "leaner", more: "richer", same: "the same", method: "Fat of every line.",
		of: func(i *larder.Ingredient) float64 { return i.Facts[larder.Fat] }, lo: lo, hi: hi, scale: math.Max(b.Fat, 10), weight: 1.5})
	lo, hi = around(b.Sweet, 0.08)
	out = append(out, target{id: "sweet", name: "Sweetness", unit: "g as sugar", less: "less sweet", more: "sweeter", same: "the same", method: "Weight × sweetness against sugar, every line.",
		of: func(i *larder.Ingredient) float64 { return 100 * i.Facts[larder.Sweetness] }, lo: lo, hi: hi, scale: math.Max(b.Sweet, 20), weight: 1})
	if b.Binding > 0.2 {
		out = append(out, target{id: "binding", name: "Binding", unit: "eggs' worth", less: "binds less", more: "binds more", same: "as well bound", method: "Eggs and what stands for them, 50 g of egg = 1.",
			of: func(i *larder.Ingredient) float64 { return i.Facts[larder.Binding] }, lo: 0.85 * b.Binding, hi: 1.3 * b.Binding, scale: math.Max(b.Binding, 1), weight: 1})
	}
	if !isYeast(kind) {
		of, was := gasOf, b.Soda+b.CO2+b.Air
		if kind == recipe.Biscuit { // nothing holds the air an egg brings to a biscuit
			of, was = func(i *larder.Ingredient) float64 { return i.Facts[larder.Soda] + i.Facts[larder.CO2] }, b.Soda+b.CO2
		}
		need := was + extra
		out = append(out, target{id: "lift", name: "Lift", unit: "mmol gas", less: "rises less", more: "rises more", same: "as much lift",
			method: "CO2 of powder and of soda, and the air that eggs hold (6.8 mmol for two eggs: the half teaspoon of powder that bakers add without them).",
			of:     of, lo: need - 1.2, hi: need*1.15 + 3, scale: math.Max(need, 10), weight: 2})
	}
	if b.Soda > 0 {
		out = append(out, target{id: "acid", name: "Soda against acid", unit: "meq soda left", less: "sharper", more: "soapier", same: "in balance",
			method: "Soda less the acid of every line, the flour's own included: above 0 some soda is left.",
			of:     func(i *larder.Ingredient) float64 { return i.Facts[larder.Soda] - i.Facts[larder.Acid] },
			lo:     math.Min(b.Surplus(), 0) - 0.05*b.Base, hi: math.Max(b.Surplus(), 0) + 1, scale: 10, weight: 1.5})
	}
	if b.Salt > 0.3 {
		lo, hi = around(b.Salt, 0.15)
		out = append(out, target{id: "salt", name: "Salt", unit: "g", less: "less salty", more: "saltier", same: "the same", method: "Salt, and the salt in salted fats and cheese.",
			of: balance.SaltOf, lo: lo, hi: hi, scale: math.Max(b.Salt, 1), weight: 0.6})
	}
	lo, hi = around(b.Mass, 0.07)
	out = append(out, target{id: "mass", name: "Batter", unit: "g", less: "less batter", more: "more batter", same: "as much", method: "The weight of all lines that go into the tin.",
		of: func(*larder.Ingredient) float64 { return 100 }, lo: lo, hi: hi, scale: math.Max(b.Mass, 50), weight: 0.5})
	return out
}

// sumOf adds a target over items.
func (t target) sumOf(items []balance.Item) float64 {
	s := 0.0
	for _, it := range items {
		s += it.Grams / 100 * t.of(it.Ingredient)
	}
	return s
}
