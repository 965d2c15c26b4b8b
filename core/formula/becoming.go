package formula

import (
	"math"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Becoming is the base that a batter is built on once its flour is replaced. What
// wheat asked for is then no measure: liquid, fat, egg and lift go to the windows
// of the kind that it becomes. Source: practice, the trade's table of windows.
type Becoming struct {
	Base    balance.Base
	grams   float64 // of what counts as flour from then on
	dry     float64 // with protein and fibre that stand in for flour
	water   float64 // per cent of the written base; pieces of fruit keep half of theirs
	husk    bool    // psyllium holds it
	written float64 // g of base as written
}

// ketoYeast is a dough of wheat gluten, ground almonds and fibre.
const ketoYeast balance.Base = "keto-yeast"

// Become settles what the chosen schools make of the batter; nil while its flour
// stays of a kind.
func (f *Formula) Become() *Becoming {
	flour := f.For("flour")
	if flour == nil {
		return nil
	}
	b, items := f.balance()
	bc := &Becoming{Base: balance.Base(flour.School.Becomes), written: b.Base}
	for _, l := range f.Recipe.Batter() {
		if i := f.Larder.Get(l.Ingredient); i != nil && i.IsBase() && f.Of(l.ID) == nil {
			bc.grams += l.Grams
		}
	}
	held := map[larder.ID]bool{}
	for _, g := range f.Replaced {
		if g.Topping {
			continue
		}
		for _, p := range g.School.Parts {
			i := Part(p, g.Lines[0], f.Larder)
			if i == nil {
				continue
			}
			grams := g.Per() * p.In(string(f.Recipe.Kind.Like()))
			if held[i.ID] {
				continue // counted with what it stands for elsewhere
			}
			if x, ok := f.Holds[i.ID]; ok { // the baker's amount of flour is what the rest is worked out around
				grams, held[i.ID] = x, true
			}
			switch {
			case i.IsBase():
				bc.grams += grams
			case p.As == "protein":
				bc.dry += grams
			}
			bc.husk = bc.husk || g == flour && i.ID == "psyllium-husk" && p.In(string(f.Recipe.Kind.Like())) >= 4
		}
	}
	bc.dry += bc.grams
	bc.water = balance.Percent(items, "water")
	return bc
}

// Is reports whether the batter becomes a base; false while it stays.
func (bc *Becoming) Is(base balance.Base) bool { return bc != nil && bc.Base == base }

// window is a usual share of the new base, per cent; ok is false where none is known.
func (bc *Becoming) window(k recipe.Kind, what string) (lo, hi float64, ok bool) {
	for _, w := range balance.Windows(k, bc.Base) {
		if w.What == what {
			return w.Lo, w.Hi, true
		}
	}
	return 0, 0, false
}

// waterWindow is the water that the new batter wants, g: more than wheat for
// gluten-free flours and starches, less for nuts.
func (bc *Becoming) waterWindow(k recipe.Kind) (lo, hi float64) {
	w := bc.water
	winLo, winHi, ok := bc.window(k, "water")
	if !ok {
		winLo, winHi = 0, 400
	}
	of := bc.grams
	switch {
	case bc.Base == ketoYeast:
		lo, hi, of = 80, 100, bc.dry
	case bc.Base == balance.Nut && k == recipe.Biscuit:
		lo, hi = math.Min(w, winLo), math.Min(w, 30)+2 // butter that goes takes its water along
	case bc.Base == balance.Nut && (k == recipe.Scone || k == recipe.Flatbread): // a dough that is cut
		lo, hi = 0.45*w, math.Max(0.8*w, 0.45*w+8)
	case bc.Base == balance.Nut:
		lo = math.Min(math.Max(winLo, 0.5*w), winHi-15)
		hi = math.Max(lo+12, math.Min(winHi, 0.85*w))
	case k.Yeasted():
		lo, hi = 100, 118
		if bc.husk {
			lo, hi = 108, 135
		}
	default:
		more := [2]float64{1.08, 1.25}
		switch k {
		case recipe.Scone:
			more = [2]float64{1.1, 1.3}
		case recipe.Biscuit:
			more = [2]float64{0.95, 1.12}
		}
		// towards the usual window, a quarter of the written at a time
		lo = math.Max(more[0]*w, math.Min(winLo, 1.25*w))
		hi = math.Max(more[1]*w, lo+5)
		if hi > winHi {
			hi = math.Max(winHi, w)
			lo = math.Min(lo, hi-5)
		}
	}
	return lo * of / 100, hi * of / 100
}

// looseWater is the water, g per 100 g, that an ingredient gives to the batter:
// pieces of fruit and vegetable keep half of theirs to themselves. Source: practice.
func looseWater(i *larder.Ingredient) float64 {
	if i.Shelf.Water == "half" {
		return balance.WaterOf(i) / 2
	}
	return balance.WaterOf(i)
}

// Eggs, per cent of the base, below which a batter without gluten is given one
// more: nut flour brings no starch to set. Source: practice.
const (
	eggOfNuts    = 55.0
	eggOfDough   = 40.0 // scones of nut flour
	eggOfGFBread = 20.0
)

// eggsWanted is how many whole eggs the new base asks for, 0 to leave them be.
func (f *Formula) eggsWanted() float64 {
	bc, k := f.Becoming, f.Recipe.Kind.Like()
	var least, most float64
	switch {
	case bc.Is(balance.Nut) && k != recipe.Biscuit && !f.setsWithoutEgg():
		least, most = eggOfNuts, 85
		if k == recipe.Scone || k == recipe.Flatbread {
			least, most = eggOfDough, 60
		}
	case bc.Is(balance.GlutenFree) && k.Yeasted() && !bc.husk:
		least, most = eggOfGFBread, 40
	default:
		return 0
	}
	const egg = 50 // g, large
	n := math.Ceil(least*bc.grams/100/egg - 0.25)
	return math.Max(1, math.Min(n, math.Floor(most*bc.grams/100/egg)))
}

// setsWithoutEgg reports whether a chosen school brings protein that sets.
func (f *Formula) setsWithoutEgg() bool {
	for _, g := range f.Replaced {
		for _, p := range g.School.Parts {
			if p.As == "protein" && g.Use.ID == "flour" {
				return true
			}
		}
	}
	return false
}

// liftOf is the lift of powder and soda alone: nothing else is counted on where
// there is no gluten to hold it.
func liftOf(i *larder.Ingredient) float64 { return i.Facts[larder.Soda]/2 + i.Facts[larder.CO2] }
