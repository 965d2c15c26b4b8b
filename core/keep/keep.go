// Package keep says how long a bake keeps, where, when it is at its best, and how what was
// frozen or has gone stale is brought back.
//
// Days are for what is closed and clean, in a cool kitchen, a fridge at 4 °C and a freezer at
// -18 °C. They say how long it is good, not that it is safe: mould, a sour smell or a wet surface
// mean the bin, whatever the label says.
package keep

import (
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Days is a range of days; the zero value says that it is not kept there.
type Days struct{ Min, Max int }

// Life is how long a bake keeps.
type Life struct {
	As      string // what it is kept as, in words
	Room    Days
	Fridge  Days
	Freezer Days
	Best    Days   // after the bake: 0 to 0 the same day
	Thaw    string // how it is thawed
	Refresh string // how it is brought back
	Source  fact.Source
}

const (
	practice fact.Source = "practice"
	memory   fact.Source = "memory: working value"
)

// How bakes are brought back. Source: practice.
const (
	thawLoaf  = "slices half an hour to an hour, a loaf 4 to 6 hours, wrapped"
	thawSmall = "half an hour to an hour, wrapped"
	warmed    = "5 minutes at 160 °C, or toasted"
	asIs      = "bring it to the room’s warmth"
)

// usual is how a kind keeps without what shortens it. Source: the table of kinds.
func usual(k recipe.Kind) Life {
	t := k.Trade()
	days := func(d [2]int) Days { return Days{d[0], d[1]} }
	return Life{t.KeepsAs, days(t.Room), days(t.Fridge), days(t.Freezer), days(t.Best), t.Thaw, t.Refresh, t.Keeping}
}

// What lies over the kind. Source: practice.
var (
	spirited  = Life{"a fruit cake with spirit", Days{30, 30}, Days{90, 90}, Days{365, 365}, Days{1, 42}, thawLoaf, asIs, practice}
	syrupy    = Life{"a cake soaked in syrup", Days{}, Days{10, 14}, Days{180, 180}, Days{1, 2}, thawLoaf, asIs, practice}
	creamy    = Life{"with cream or soft cheese", Days{}, Days{3, 3}, Days{}, Days{}, "", asIs, practice}
	gfYeast   = Life{"a gluten-free yeast bread", Days{1, 2}, Days{}, Days{90, 90}, Days{}, "slice it before it is frozen; toast the slices", warmed, practice}
	moistKeto = Life{"a moist loaf with little sugar", Days{1, 2}, Days{7, 7}, Days{60, 60}, Days{0, 1}, thawLoaf, warmed, practice}
)

// Baked is what of a bake tells how it keeps.
type Baked struct {
	Kind   recipe.Kind
	Base   string  // of the batter: "gluten-free", "nut" …; "" for wheat
	Sugar  float64 // g of sugars a 100 g of the bake's flour
	Creamy bool    // topped or filled with what must be kept cold
	Spirit bool    // fed or soaked with spirit
	Syrup  bool    // soaked in syrup
}

// littleSugar is the sugar a 100 g of flour below which a moist bake keeps shorter. Source:
// practice, a working value: sugar holds water that mould would have.
const littleSugar = 15

// Of is how long a bake keeps; of several things that lie over its kind the shortest at the
// room's warmth.
func Of(b Baked) Life {
	l := usual(b.Kind)
	switch {
	case b.Creamy:
		return creamy
	case b.Kind == recipe.FruitCake && b.Spirit:
		return spirited
	case b.Syrup && (b.Kind == recipe.FruitCake || b.Kind.Like() == recipe.AllInCake || b.Kind == recipe.CreamedCake):
		return syrupy
	case b.Kind.Yeasted() && b.Base == "gluten-free":
		return gfYeast
	case (b.Base == "nut" || b.Base == "keto-yeast" || b.Sugar < littleSugar) && l.Room.Max > moistKeto.Room.Max && b.Kind.Like().Trade().Moist:
		return moistKeto
	}
	return l
}

// Known reports whether it is kept there at all.
func (d Days) Known() bool { return d.Max > 0 }

// Perishable reports whether a topping or filling of an ingredient must be kept cold: it keeps
// itself in the fridge only, and is wet. Source: practice.
func Perishable(i *larder.Ingredient) bool {
	return i.Keeps.Room == 0 && i.Keeps.Fridge > 0 && i.Facts.Or(larder.Water, 0) > 40
}
