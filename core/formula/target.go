package formula

import (
	"math"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Target is a sum over the batter that should come back, with the window in
// which it counts as the same. Sources of the windows: practice, judged so that
// the usual swaps of the trade land inside.
type Target struct {
	ID, Name, Unit string
	Less, More     string                             // words for outside
	Same           string                             // words for inside
	Method         string                             // how it is worked out
	Of             func(i *larder.Ingredient) float64 // what 100 g bring by themselves
	All            func([]balance.Item) float64       // of all together, where that is more than the sum: acid and soda that meet
	Lo, Hi         float64
	Scale, Weight  float64 // of the goal programme
}

// isStiff tells doughs whose total water is kept, since matching free water
// soaks them.
func isStiff(k recipe.Kind) bool { return k == recipe.Biscuit || k == recipe.Scone }

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

// gasOf is the gas that comes of itself, mmol a 100 g: of soda half; the rest wants acid.
func gasOf(i *larder.Ingredient) float64 {
	return i.Facts[larder.Soda]/2 + i.Facts[larder.CO2] + i.Facts[larder.Air]
}

// Targets lists what has to come back for a batter whose written sum is b. lift is the
// gas, in mmol CO2, that the chosen schools need beyond the air that was lost; to, where
// the flour is replaced, moves the windows to those of the base that the batter becomes;
// bulk is a target of its own where sugar is replaced.
func Targets(b balance.Balance, kind recipe.Kind, lift float64, to *Becoming, sugar bool) []Target {
	out := []Target{waterTarget(b, kind, to), fatTarget(b, to), sweetTarget(b)}
	if b.Binding > 0.2 {
		out = append(out, bindingTarget(b, to))
	}
	if !kind.Yeasted() {
		out = append(out, liftTarget(b, kind, lift, to))
	}
	if b.Soda > 0 {
		out = append(out, acidTarget(b, kind))
	}
	if b.Salt > 0.3 {
		out = append(out, saltTarget(b))
	}
	if to.Is(balance.GlutenFree) && kind.Yeasted() {
		out = append(out, yeastTarget(to))
	}
	if sugar {
		out = append(out, bulkTarget(b))
	}
	return append(out, massTarget(b, to))
}

// kilo is an amount that holds for a kilogram of batter, in this one: what is asked must not
// go by the size of the batch.
func kilo(b balance.Balance, x float64) float64 { return x * math.Max(b.Mass, 1) / 1000 }

// around is a window of a share on either side.
func around(x, share float64) (lo, hi float64) {
	return x - share*math.Abs(x), x + share*math.Abs(x)
}

// waterTarget is how wet the batter should be: as written, or as its new base wants.
func waterTarget(b balance.Balance, kind recipe.Kind, to *Becoming) Target {
	t := Target{
		ID: "water", Name: "Wetness", Unit: "g free water",
		Less: "drier", More: "wetter", Same: "as wet as written",
		Method: "All water less what flours, seeds and gums drink (absorption × weight).",
		Of:     func(i *larder.Ingredient) float64 { return i.Facts.FreeWater() },
		Lo:     b.FreeWater - 0.035*b.Water, Hi: b.FreeWater + 0.035*b.Water,
		Scale: math.Max(b.Water, kilo(b, 20)), Weight: 3,
	}
	if isStiff(kind) {
		t.Of, t.Unit = func(i *larder.Ingredient) float64 { return i.Facts[larder.Water] }, "g water"
		t.Method = "All water: in a stiff dough it is the total that must stay."
		t.Lo, t.Hi = around(b.AllWater, 0.08)
	}
	if to != nil {
		t.Of, t.Unit, t.Same = looseWater, "g water", "as wet as this base wants"
		t.Method = "Water of every source but the flour's own; pieces of fruit and vegetable keep half of theirs. " +
			"Gluten-free flours and starches want 8 to 25 % more than wheat, a gluten-free yeast batter about its own weight, " +
			"nut flour little more than half."
		t.Lo, t.Hi = to.waterWindow(kind)
	}
	return t
}

// fatTarget is how rich it should be: nuts bring fat of their own.
func fatTarget(b balance.Balance, to *Becoming) Target {
	t := Target{
		ID: "fat", Name: "Fat", Unit: "g",
		Less: "leaner", More: "richer", Same: "the same",
		Method: "Fat of every line.",
		Of:     func(i *larder.Ingredient) float64 { return i.Facts[larder.Fat] },
		Scale:  math.Max(b.Fat, kilo(b, 10)), Weight: 1.5,
	}
	t.Lo, t.Hi = around(b.Fat, 0.06)
	switch {
	case to.Is(balance.GlutenFree):
		t.Lo, t.Hi = around(b.Fat, 0.15)
	case to != nil: // nuts bring their own
		t.Name, t.Same = "Fat beside the nuts'", "as rich as this base bears"
		t.Method = "Fat of every line but the ground nuts': a quarter of their weight is plenty."
		t.Of = func(i *larder.Ingredient) float64 {
			if i.IsBase() {
				return 0
			}
			return i.Facts[larder.Fat]
		}
		t.Lo, t.Hi = 0, math.Max(0.25*to.grams, kilo(b, 10))
	}
	return t
}

// unsweet is the sweetness that is not tasted, g as sugar in a kilogram. Source: practice,
// half of one per cent.
const unsweet = 5.0

func sweetTarget(b balance.Balance) Target {
	t := Target{
		ID: "sweet", Name: "Sweetness", Unit: "g as sugar",
		Less: "less sweet", More: "sweeter", Same: "the same",
		Method: "Weight × sweetness against sugar, every line.",
		Of:     func(i *larder.Ingredient) float64 { return 100 * i.Facts[larder.Sweetness] },
		Scale:  math.Max(b.Sweet, kilo(b, 20)), Weight: 1,
	}
	t.Lo, t.Hi = around(b.Sweet, 0.08)
	if least := kilo(b, unsweet); t.Hi < b.Sweet+least { // a bread that is not sweet
		t.Lo, t.Hi = b.Sweet-least, b.Sweet+least
	}
	return t
}

// Fruit binds up to so many eggs' worth to a loaf's flour, two US cups; past that it only
// weighs. Source: practice, purées carry two to three eggs' work.
const (
	fruitBinds = 2.0
	aLoaf      = 240.0 // g
)

// bindingTarget is what holds it; without gluten more must, and nothing is lost by it.
func bindingTarget(b balance.Balance, to *Becoming) Target {
	k := 1.0 // how far fruit counts
	if most := fruitBinds * b.Base / aLoaf; b.Fruity > most {
		k = most / b.Fruity
		b.Binding -= (1 - k) * b.Fruity
	}
	t := Target{
		ID: "binding", Name: "Binding", Unit: "eggs' worth",
		Less: "binds less", More: "binds more", Same: "as well bound",
		Method: "Eggs and what stands for them, 50 g of egg = 1; fruit up to two eggs' work a loaf.",
		Of: func(i *larder.Ingredient) float64 {
			if balance.Fruity(i) {
				return k * i.Facts[larder.Binding]
			}
			return i.Facts[larder.Binding]
		},
		Lo: 0.85 * b.Binding, Hi: 1.3 * b.Binding, Scale: math.Max(b.Binding, kilo(b, 1)), Weight: 1,
	}
	if to != nil {
		t.Lo, t.Hi = 0.9*b.Binding, math.Max(2.2*b.Binding, 0.03*to.grams)
	}
	return t
}

// liftTarget is the gas, with what the schools need and the base wants beyond.
func liftTarget(b balance.Balance, kind recipe.Kind, lift float64, to *Becoming) Target {
	of, was := gasOf, b.Gas()
	sum := func(items []balance.Item) float64 { return balance.Add(items).Gas() }
	noAir := func(items []balance.Item) float64 { x := balance.Add(items); return x.Gas() - x.Air }
	if kind == recipe.Biscuit { // nothing holds the air an egg brings to a biscuit
		of, was, sum = liftOf, b.Gas()-b.Air, noAir
	}
	need := was + lift
	switch {
	case to.Is(balance.GlutenFree) && kind != recipe.Biscuit: // a gluten-free crumb holds less of its gas
		need *= gfLift
	case to.Is(balance.Nut):
		of, need, sum = liftOf, nutPowder/100*to.grams*2.95, noAir
		if kind == recipe.Biscuit {
			need = math.Min(need, b.Gas()-b.Air)
		}
	}
	return Target{
		ID: "lift", Name: "Lift", Unit: "mmol gas",
		Less: "rises less", More: "rises more", Same: "as much lift",
		Method: "CO2 of powder, of soda that meets acid, half of the soda that meets none (heat splits it), and the air " +
			"that eggs hold (6.8 mmol for two eggs: the half teaspoon of powder that bakers add without them).",
		Of: of, All: sum, Lo: need - kilo(b, 1.2), Hi: need*1.15 + kilo(b, 3), Scale: math.Max(need, kilo(b, 10)), Weight: 2,
	}
}

// sodaLeft is soda less acid, meq a 100 g.
func sodaLeft(i *larder.Ingredient) float64 { return i.Facts[larder.Soda] - i.Facts[larder.Acid] }

func acidTarget(b balance.Balance, kind recipe.Kind) Target {
	return Target{
		ID: "acid", Name: "Soda against acid", Unit: "meq soda left",
		Less: "sharper", More: "soapier", Same: "in balance",
		Method: "Soda less the acid of every line, the flour's own included: above 0 some soda is left.",
		Of:     sodaLeft,
		Lo:     math.Min(b.Surplus(), 0) - 0.05*b.Base,
		Hi:     math.Max(b.Surplus(), 0) + kilo(b, 1) + 0.25*b.SodaTasted(kind)/100*b.Base*meqPerGramSoda,
		Scale:  kilo(b, 10), Weight: 1.5,
	}
}

// unsalted is the salt that a salted block or cheese may bring and is hardly tasted, g a
// kilogram. Source: practice.
const unsalted = 2.5

func saltTarget(b balance.Balance) Target {
	t := Target{
		ID: "salt", Name: "Salt", Unit: "g",
		Less: "less salty", More: "saltier", Same: "the same",
		Method: "Salt, and the salt in salted fats and cheese.",
		Of:     balance.SaltOf,
		Scale:  math.Max(b.Salt, kilo(b, 1)), Weight: 0.6,
	}
	t.Lo, t.Hi = around(b.Salt, 0.15)
	t.Hi = math.Max(t.Hi, b.Salt+kilo(b, unsalted))
	return t
}

func yeastTarget(to *Becoming) Target {
	return Target{
		ID: "yeast", Name: "Yeast", Unit: "g as dry",
		Less: "slower", More: "faster", Same: "enough",
		Method: "Dry yeast, fresh by 2.7: 1.2 to 3 % of a gluten-free base.",
		Of:     dryYeast,
		Lo:     0.012 * to.grams, Hi: 0.03 * to.grams, Scale: math.Max(0.012*to.grams, 1), Weight: 1,
	}
}

func bulkTarget(b balance.Balance) Target {
	return Target{
		ID: "bulk", Name: "Bulk of sugar", Unit: "g",
		Less: "less body", More: "more body", Same: "as much body",
		Method: "Sugars, sugar alcohols and allulose: they hold water, soften and fill.",
		Of:     func(i *larder.Ingredient) float64 { return i.Facts.Bulk() },
		Lo:     0.5 * b.Bulk, Hi: 1.15 * b.Bulk, Scale: math.Max(b.Bulk, kilo(b, 20)), Weight: 0.8,
	}
}

// massTarget is how much batter there is; another base may make more or less of it.
func massTarget(b balance.Balance, to *Becoming) Target {
	t := Target{
		ID: "mass", Name: "Batter", Unit: "g",
		Less: "less batter", More: "more batter", Same: "as much",
		Method: "The weight of all lines that go into the tin.",
		Of:     func(*larder.Ingredient) float64 { return 100 },
		Scale:  math.Max(b.Mass, 1), Weight: 0.5,
	}
	t.Lo, t.Hi = around(b.Mass, 0.07)
	if to != nil {
		t.Lo, t.Hi = around(b.Mass, 0.25)
	}
	return t
}

// Sum adds a target over items.
func (t Target) Sum(items []balance.Item) float64 {
	if t.All != nil {
		return t.All(items)
	}
	return t.own(items)
}

// own adds what items bring each by itself.
func (t Target) own(items []balance.Item) float64 {
	s := 0.0
	for _, it := range items {
		s += it.Grams / 100 * t.Of(it.Ingredient)
	}
	return s
}
