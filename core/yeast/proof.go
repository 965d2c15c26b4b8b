package yeast

import (
	"math"

	"kollaris/core/measure"
)

// How yeast goes with the temperature: its rate doubles with so many degrees between the
// least and the most; in a fridge it goes at an eighth. Source: from memory, common practice, 8 to
// 10 °C; spread a quarter either way, so a proof is ended by its sign.
const (
	doubles   = 9.0
	leastWarm = 15.0
	mostWarm  = 35.0
	fridge    = 8.0 // °C from which down it counts as one
	cold      = 8.0 // times as long
	// Spread is how far a proof may lie from what is foretold, as a share.
	Spread = 0.25
)

// Usual is the warmth that a written proof means where it says none.
const Usual measure.Celsius = 24

// Pace is how many times as long a proof takes at a temperature as at the one its time is
// written for: 2 where it is nine degrees cooler. Between 15 °C and a fridge it grows evenly;
// above 35 °C it gains no more.
func Pace(at, written measure.Celsius) float64 {
	return slow(float64(at)) / slow(float64(written))
}

// slow is the time at a temperature against that at 24 °C.
func slow(t float64) float64 {
	if t < leastWarm {
		least := math.Pow(2, (float64(Usual)-leastWarm)/doubles)
		return least + (cold-least)*math.Min(1, (leastWarm-t)/(leastWarm-fridge))
	}
	return math.Pow(2, (float64(Usual)-math.Min(t, mostWarm))/doubles)
}

// Dough is what a rise goes by beside its warmth, in per cent of the flour.
type Dough struct {
	Yeast float64 // as instant yeast
	Sugar float64 // that yeast eats, or that draws its water
	Salt  float64
	Rich  float64 // fat and egg together
}

// How a dough's formula slows its yeast. Source: from memory, common practice; a rise's length is
// good to a quarter either way (Spread).
const (
	usualYeast = 1.0  // per cent, instant
	byYeast    = 0.9  // the power with which less of it takes longer
	freeSugar  = 5.0  // per cent up to which sugar slows nothing
	sugarSlows = 0.05 // a per cent up to sweetAt: half as long again at 15
	sweetAt    = 15.0
	sweetSlows = 0.1 // a per cent above it: twice as long at 20
	mostSugar  = 35.0
	freeSalt   = 2.0
	saltSlows  = 1.15 // for each half per cent above it
	mostSalt   = 6.0
	leanTo     = 10.0 // per cent of fat and egg
	richFrom   = 25.0
	richSlows  = 1.3
)

// Slow is how many times as long a dough rises as a lean one with a per cent of instant yeast; 1
// where no yeast is known.
func (d Dough) Slow() float64 {
	t := 1.0
	if d.Yeast > 0 {
		t = math.Pow(usualYeast/d.Yeast, byYeast)
	}
	sugar := math.Min(d.Sugar, mostSugar)
	t *= 1 + sugarSlows*math.Max(0, math.Min(sugar, sweetAt)-freeSugar) + sweetSlows*math.Max(0, sugar-sweetAt)
	t *= math.Pow(saltSlows, math.Max(0, math.Min(d.Salt, mostSalt)-freeSalt)/0.5)
	return t * (1 + (richSlows-1)*math.Max(0, math.Min(1, (d.Rich-leanTo)/(richFrom-leanTo))))
}

// Instant is how much instant yeast works as a gram of a kind does, by its id in the larder: fresh
// a third, active dry three quarters. Source: common practice.
func Instant(id string) float64 {
	switch id {
	case "fresh-yeast":
		return 1. / 3
	case "active-dry-yeast":
		return 0.75
	}
	return 1
}
