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

// gfLift is how much more lift a gluten-free batter gets, and nutPowder the powder
// of nut flour, per cent: a teaspoon (4.6 g) a cup (96 g). Source: practice.
const (
	gfLift    = 1.25
	nutPowder = 4.8
)

// dryYeast is an ingredient's yeast as dry, g per 100 g; fresh is 2.7 times dry.
func dryYeast(i *larder.Ingredient) float64 {
	switch {
	case i.ID == "fresh-yeast":
		return 100 / 2.7
	case i.Family == larder.FamilyYeast:
		return 100
	}
	return 0
}

// meqPerGramSoda is 1000/84.007. Source: calculated from the molar mass.
const meqPerGramSoda = 1000 / 84.007

func gasOf(i *larder.Ingredient) float64 {
	return i.Facts[larder.Soda] + i.Facts[larder.CO2] + i.Facts[larder.Air]
}

// targets lists what has to come back for a batter whose written sum is b.
// extra is the lift, in mmol CO2, that the chosen schools need beyond the air
// that was lost.
// bc, where the flour is replaced, moves the windows to those of the base that the
// batter becomes; bulk is a goal of its own where sugar is replaced.
func targets(b balance.Balance, kind recipe.Kind, extra float64, bc *becoming, sugar bool) []target {
	out := []target{waterTarget(b, kind, bc), fatTarget(b, bc)}
	lo, hi := around(b.Sweet, 0.08)
	out = append(out, target{id: "sweet", name: "Sweetness", unit: "g as sugar", less: "less sweet", more: "sweeter", same: "the same", method: "Weight × sweetness against sugar, every line.",
		of: func(i *larder.Ingredient) float64 { return 100 * i.Facts[larder.Sweetness] }, lo: lo, hi: hi, scale: math.Max(b.Sweet, 20), weight: 1})
	binding := [2]float64{0.85 * b.Binding, 1.3 * b.Binding}
	if bc != nil { // without gluten more must bind, and nothing is lost by it
		binding = [2]float64{0.9 * b.Binding, math.Max(2.2*b.Binding, 0.03*bc.grams)}
	}
	if b.Binding > 0.2 {
		out = append(out, target{id: "binding", name: "Binding", unit: "eggs' worth", less: "binds less", more: "binds more", same: "as well bound", method: "Eggs and what stands for them, 50 g of egg = 1.",
			of: func(i *larder.Ingredient) float64 { return i.Facts[larder.Binding] }, lo: binding[0], hi: binding[1], scale: math.Max(b.Binding, 1), weight: 1})
	}
	if !kind.Yeasted() {
		out = append(out, liftTarget(b, kind, extra, bc))
	}
	if b.Soda > 0 {
		out = append(out, target{id: "acid", name: "Soda against acid", unit: "meq soda left", less: "sharper", more: "soapier", same: "in balance",
			method: "Soda less the acid of every line, the flour's own included: above 0 some soda is left.",
			of:     func(i *larder.Ingredient) float64 { return i.Facts[larder.Soda] - i.Facts[larder.Acid] },
			lo:     math.Min(b.Surplus(), 0) - 0.05*b.Base, hi: math.Max(b.Surplus(), 0) + 1 + 0.25*tasteLimit(kind)/100*b.Base*meqPerGramSoda, scale: 10, weight: 1.5})
	}
	if b.Salt > 0.3 {
		lo, hi = around(b.Salt, 0.15)
		out = append(out, target{id: "salt", name: "Salt", unit: "g", less: "less salty", more: "saltier", same: "the same", method: "Salt, and the salt in salted fats and cheese.",
			of: balance.SaltOf, lo: lo, hi: hi, scale: math.Max(b.Salt, 1), weight: 0.6})
	}
	if bc.of(balance.GlutenFree) && kind.Yeasted() {
		out = append(out, target{id: "yeast", name: "Yeast", unit: "g as dry", less: "slower", more: "faster", same: "enough", method: "Dry yeast, fresh by 2.7: 1.2 to 3 % of a gluten-free base.",
			of: dryYeast, lo: 0.012 * bc.grams, hi: 0.03 * bc.grams, scale: math.Max(0.012*bc.grams, 1), weight: 1})
	}
	if sugar {
		out = append(out, target{id: "bulk", name: "Bulk of sugar", unit: "g", less: "less body", more: "more body", same: "as much body", method: "Sugars, sugar alcohols and allulose: they hold water, soften and fill.",
			of: func(i *larder.Ingredient) float64 { return i.Facts.Bulk() }, lo: 0.5 * b.Bulk, hi: 1.15 * b.Bulk, scale: math.Max(b.Bulk, 20), weight: 0.8})
	}
	lo, hi = around(b.Mass, 0.07)
	if bc != nil {
		lo, hi = around(b.Mass, 0.25)
	}
	out = append(out, target{id: "mass", name: "Batter", unit: "g", less: "less batter", more: "more batter", same: "as much", method: "The weight of all lines that go into the tin.",
		of: func(*larder.Ingredient) float64 { return 100 }, lo: lo, hi: hi, scale: math.Max(b.Mass, 50), weight: 0.5})
	return out
}

// around is a window of a share on either side.
func around(x, share float64) (lo, hi float64) {
	return x - share*math.Abs(x), x + share*math.Abs(x)
}

// waterTarget is how wet the batter should be: as written, or as its new base wants.
func waterTarget(b balance.Balance, kind recipe.Kind, bc *becoming) target {
	water := target{id: "water", name: "Wetness", unit: "g free water", less: "drier", more: "wetter", same: "as wet as written",
		method: "All water less what flours, seeds and gums drink (absorption × weight).",
		of:     func(i *larder.Ingredient) float64 { return i.Facts.FreeWater() },
		lo:     b.FreeWater - 0.035*b.Water, hi: b.FreeWater + 0.035*b.Water, scale: math.Max(b.Water, 20), weight: 3}
	if isStiff(kind) {
		water.of, water.unit = func(i *larder.Ingredient) float64 { return i.Facts[larder.Water] }, "g water"
		water.method = "All water: in a stiff dough it is the total that must stay."
		water.lo, water.hi = around(b.AllWater, 0.08)
	}
	if bc != nil {
		water.of, water.unit, water.same = looseWater, "g water", "as wet as this base wants"
		water.method = "Water of every source but the flour's own; pieces of fruit and vegetable keep half of theirs. Gluten-free flours and starches want 8 to 25 % more than wheat, a gluten-free yeast batter about its own weight, nut flour little more than half."
		water.lo, water.hi = bc.waterWindow(kind)
	}
	return water
}

// fatTarget is how rich it should be: nuts bring fat of their own.
func fatTarget(b balance.Balance, bc *becoming) target {
	lo, hi := around(b.Fat, 0.06)
	fat := target{id: "fat", name: "Fat", unit: "g", less: "leaner", more: "richer", same: "the same", method: "Fat of every line.",
		of: func(i *larder.Ingredient) float64 { return i.Facts[larder.Fat] }, lo: lo, hi: hi, scale: math.Max(b.Fat, 10), weight: 1.5}
	switch {
	case bc.of(balance.GlutenFree):
		fat.lo, fat.hi = around(b.Fat, 0.15)
	case bc != nil: // nuts bring their own
		fat.name, fat.method, fat.same = "Fat beside the nuts'", "Fat of every line but the ground nuts': a quarter of their weight is plenty.", "as rich as this base bears"
		fat.of = func(i *larder.Ingredient) float64 {
			if i.IsBase() {
				return 0
			}
			return i.Facts[larder.Fat]
		}
		fat.lo, fat.hi = 0, math.Max(0.25*bc.grams, 10)
	}
	return fat
}

// liftTarget is the gas, with what the schools need and the base wants beyond.
func liftTarget(b balance.Balance, kind recipe.Kind, extra float64, bc *becoming) target {
	of, was := gasOf, b.Soda+b.CO2+b.Air
	if kind == recipe.Biscuit { // nothing holds the air an egg brings to a biscuit
		of, was = func(i *larder.Ingredient) float64 { return i.Facts[larder.Soda] + i.Facts[larder.CO2] }, b.Soda+b.CO2
	}
	need := was + extra
	switch {
	case bc.of(balance.GlutenFree) && kind != recipe.Biscuit: // a gluten-free crumb holds less of its gas
		need *= gfLift
	case bc.of(balance.Nut):
		of, need = liftOf, nutPowder/100*bc.grams*2.95
		if kind == recipe.Biscuit {
			need = math.Min(need, b.Soda+b.CO2)
		}
	}
	return target{id: "lift", name: "Lift", unit: "mmol gas", less: "rises less", more: "rises more", same: "as much lift",
		method: "CO2 of powder and of soda, and the air that eggs hold (6.8 mmol for two eggs: the half teaspoon of powder that bakers add without them).",
		of:     of, lo: need - 1.2, hi: need*1.15 + 3, scale: math.Max(need, 10), weight: 2}
}

// sumOf adds a target over items.
func (t target) sumOf(items []balance.Item) float64 {
	s := 0.0
	for _, it := range items {
		s += it.Grams / 100 * t.of(it.Ingredient)
	}
	return s
}
