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
