// Package balance adds up what a formula does: its water, fat, sugar, lift,
// acid, binding and structure, per batch and per 100 g of the flour-like base.
//
// Everything that adapts a recipe reads only this sum. Free water is all water
// less what the dry matter takes up (absorption × mass); gas is what acid and
// soda give together plus what powder gives by itself.
package balance

import (
	"math"

	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Item is an amount of an ingredient.
type Item struct {
	Ingredient *larder.Ingredient
	Grams      float64
}

// Items are the batter's lines whose ingredient and weight are known.
func Items(r *recipe.Recipe, l *larder.Larder) []Item {
	var out []Item
	for _, ln := range r.Batter() {
		if ing := l.Get(ln.Ingredient); ing != nil && ln.Grams > 0 {
			out = append(out, Item{ing, ln.Grams})
		}
	}
	return out
}

// Balance is the sum of a formula. Amounts are for the whole batch.
type Balance struct {
	Mass      float64 // g
	Base      float64 // g of flour, starch, ground nuts and oats
	Water     float64 // g, the flour's own and whole dried fruit's left out
	AllWater  float64 // g, of every line
	FreeWater float64 // g, what the dry matter leaves
	Fat       float64 // g
	SolidFat  float64 // g, of fats that are solid at 20 °C
	Sugars    float64 // g
	Bulk      float64 // g, sugars, polyols, allulose
	Sweet     float64 // g of sucrose that would be as sweet
	Egg       float64 // g of egg as it stands in the list
	Binding   float64 // egg-equivalents
	Fruity    float64 // egg-equivalents of Binding that purées and fruit bring
	Setting   float64 // g of protein that sets, and gluten
	Acid      float64 // meq, the flour's own included
	Soda      float64 // meq
	CO2       float64 // mmol from powder, its own acid included
	Air       float64 // mmol CO2 that the beaten air stands for
	Sodium    float64 // mg
	Salt      float64 // g, put in as salt or with salted fats and cheese
	Hides     float64 // by how much cocoa, molasses and fruit hide soda; the base's weight is enough
}

// Add sums items. It is linear in the grams but for Gas.
func Add(items []Item) Balance {
	var b Balance
	for _, it := range items {
		f, k := &it.Ingredient.Facts, it.Grams/100
		b.Mass += it.Grams
		if it.Ingredient.IsBase() {
			b.Base += it.Grams
		}
		b.Water += k * WaterOf(it.Ingredient)
		b.AllWater += k * f[larder.Water]
		b.FreeWater += k * f.FreeWater()
		b.Fat += k * f[larder.Fat]
		b.SolidFat += k * f[larder.SolidFat]
		b.Sugars += k * f.Sugars()
		b.Bulk += k * f.Bulk()
		b.Sweet += it.Grams * f[larder.Sweetness]
		if it.Ingredient.Origin == "egg" {
			b.Egg += it.Grams
		}
		b.Binding += k * f[larder.Binding]
		if Fruity(it.Ingredient) {
			b.Fruity += k * f[larder.Binding]
		}
		b.Setting += k * (f[larder.SettingProtein] + f[larder.Gluten])
		b.Acid += k * f[larder.Acid]
		b.Soda += k * f[larder.Soda]
		b.CO2 += k * f[larder.CO2]
		b.Air += k * f[larder.Air]
		b.Sodium += k * f.Or(larder.Sodium, 0)
		b.Salt += k * SaltOf(it.Ingredient)
		b.Hides += it.Grams * hides(it.Ingredient)
	}
	return b
}

// Fruity reports whether an ingredient binds as purées do, which past two eggs' work only
// make a batter heavier. Source: practice.
func Fruity(i *larder.Ingredient) bool {
	return i.Shelf.Carbohydrate == "cup" || i.Family == larder.FamilyJam
}

// hides is how much of the taste of soda an ingredient hides: a bake whose flour has a
// twenty-fifth of cocoa beside it, a tenth of molasses or four tenths of fruit tastes of
// those. Source: practice, working values.
func hides(i *larder.Ingredient) float64 {
	switch {
	case i.ID == "cocoa" || i.ID == "dutch-cocoa" || i.ID == "carob" || i.ID == "instant-coffee":
		return 25
	case i.ID == "treacle" || i.ID == "dark-brown-sugar" || i.ID == "jaggery":
		return 10
	case i.Shelf.Carbohydrate == "cup":
		return 2.5
	}
	return 0
}

// SodaTasted is the soda without acid from which it is tasted, per cent of the flour: least in
// a plain cake, more where it is baked brown, or where something hides it. Source: practice.
func (b Balance) SodaTasted(k recipe.Kind) float64 {
	switch {
	case k.Like() == recipe.Biscuit:
		return 1.5
	case b.Base > 0 && b.Hides >= b.Base:
		return 0.8
	case k == recipe.SodaBread:
		return 0.4
	}
	return 0.25
}

// SaltOf is the salt, g per 100 g, that an ingredient brings as salt: salt itself,
// salted fats and cheese; not the sodium of lift, eggs or milk, which is hardly
// tasted.
func SaltOf(i *larder.Ingredient) float64 {
	if i.Shelf.Salted {
		return i.Facts.Or(larder.Sodium, 0) / 1000 * 2.5
	}
	return 0
}

// WaterOf is the water, g per 100 g, that an ingredient brings to a batter: the
// flour's own and that of whole dried fruit is left out.
func WaterOf(i *larder.Ingredient) float64 {
	if !countsAsWater(i) {
		return 0
	}
	return i.Facts[larder.Water]
}

// countsAsWater leaves out the flour's own moisture and that of whole dried
// fruit, as the trade's percentages do.
func countsAsWater(i *larder.Ingredient) bool {
	return i.Shelf.Water != "none"
}

// Gas is the CO2 the formula gives, mmol: what acid and soda make together, half
// of the soda left over (heat splits 2 NaHCO3 into Na2CO3 + CO2 + H2O), what
// powder gives, and the air. Source: calculated.
func (b Balance) Gas() float64 {
	met := math.Min(b.Acid, b.Soda)
	return math.Max(0, met) + math.Max(0, b.Soda-met)/2 + b.CO2 + b.Air
}

// Surplus is the soda that no acid meets, meq; negative when acid is left over.
func (b Balance) Surplus() float64 { return b.Soda - b.Acid }

// SodaGrams turns meq of soda into grams: 84.007 g/mol, one equivalent [calculated].
func SodaGrams(meq float64) float64 { return meq * 84.007 / 1000 }

// Per gives an amount as per cent of the base, 0 when there is no base.
func (b Balance) Per(x float64) float64 {
	if b.Base <= 0 {
		return 0
	}
	return 100 * x / b.Base
}

// Term explains one figure of the balance: what each item brings to it.
func Term(items []Item, of func(*larder.Ingredient) float64) []fact.Term {
	var out []fact.Term
	for _, it := range items {
		if v := it.Grams / 100 * of(it.Ingredient); math.Abs(v) > 1e-9 {
			out = append(out, fact.Term{ID: string(it.Ingredient.ID), Name: it.Ingredient.Name, Value: v})
		}
	}
	return out
}
