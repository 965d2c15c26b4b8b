package oven

import (
	"fmt"

	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// Fill is how a batter stands in a tin.
type Fill struct {
	Tin        tin.Tin             `json:"tin"`
	Batter     measure.Millilitres `json:"batter_ml"`
	Share      float64             `json:"share"`      // of the tin's volume
	Depth      float64             `json:"depth_cm"`   // before baking
	BakedDepth float64             `json:"baked_cm"`   // at the middle of the rise
	Words      string              `json:"words"`      // how full that is
	TooMuch    measure.Grams       `json:"too_much_g"` // batter above the usual fill, 0 when it fits
	Cups       int                 `json:"cups"`       // of a muffin tin, that hold what is too much
}

// most is how full a tin should be at most before baking; a proved yeast dough to 1 cm
// below the rim. Source: common practice.
func most(kind recipe.Kind, t tin.Tin) float64 {
	if kind.Yeasted() {
		return 0.9
	}
	return tin.Most(t.Shape)
}

// proved is how full a tin stands with proved dough. Source: common practice.
const proved = 0.8

// How little a tin may hold before another batch, or another tin, is better: below
// half it wants more batter, below a third it bakes to a biscuit. Source: practice.
const (
	wantsMore = 0.45
	tooLittle = 0.33
)

// Fits reports whether a tin holds neither too much nor so little that another is
// better.
func (f Fill) Fits() bool { return f.TooMuch == 0 && f.Share > tooLittle }

// Over says what is too much for the tin, "" where it fits.
func (f Fill) Over() string {
	switch {
	case f.TooMuch <= 0:
		return ""
	case f.Cups == 1:
		return f.TooMuch.String() + " too much for it: make one cup with it"
	}
	return fmt.Sprintf("%s too much for it: make %d cups with it", f.TooMuch, f.Cups)
}

// WantsOther reports whether another batch would fill the tin better: it holds too much,
// or less than half. What is shaped by hand fills nothing.
func (f Fill) WantsOther() bool {
	return f.Tin.Shape != tin.Free && f.Share > 0 && (f.Share < wantsMore || f.TooMuch > 0)
}

// Usual is how full a tin stands with a kind's batter or proved dough.
func Usual(kind recipe.Kind, t tin.Tin) float64 {
	if kind.Yeasted() {
		return proved
	}
	return tin.Usual(t.Shape)
}

// SetOf is as many of a tin as the batter of a mass fills as usual.
func SetOf(kind recipe.Kind, mass measure.Grams, t tin.Tin) tin.Tin {
	return t.Set(measure.Millilitres(float64(mass)/kind.Trade().Density), Usual(kind, t), most(kind, t))
}

// FillOf says how the batter of a mass stands in a tin.
func FillOf(kind recipe.Kind, mass measure.Grams, t tin.Tin) Fill {
	return Baking{Kind: kind, Mass: mass, Tin: t}.fill()
}

func (b Baking) fill() Fill {
	c, t := b.character(), b.Tin
	f := Fill{Tin: t, Batter: measure.Millilitres(float64(b.Mass) / c.Density)}
	if t.Shape == tin.Free || t.Volume <= 0 {
		f.Depth, f.BakedDepth, f.Words = c.Thick/c.Expansion, c.Thick, "shaped by hand"
		return f
	}
	f.Share = float64(f.Batter / t.Total())
	f.Depth = f.Share * t.Depth
	f.BakedDepth = f.Depth * c.Expansion
	limit := most(b.Kind, t)
	switch {
	case f.Share > limit*1.06:
		over := measure.Millilitres(f.Share-limit) * t.Total()
		f.TooMuch, f.Cups = measure.Grams(float64(over)*c.Density), tin.Cupfuls(over)
		f.Words = "too full: it may run over"
	case f.Share < 0.33:
		f.Words = "low: it comes out flat and is done early"
	case f.Share < 0.48:
		f.Words = "on the low side"
	default:
		f.Words = "a usual fill"
	}
	return f
}
