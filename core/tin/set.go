package tin

import (
	"math"

	"kollaris/core/measure"
)

// Usual is how full a tin of a shape is filled. Source: common practice, loaf and cake
// half to two thirds, cups and rings up to three quarters.
func Usual(s Shape) float64 {
	if s == Cups || s == Ring {
		return 0.67
	}
	return 0.58
}

// Most is how full a tin of a shape is filled at most before baking. Source: common
// practice.
func Most(s Shape) float64 {
	if s == Cups || s == Ring {
		return 0.75
	}
	return 0.67
}

// Set is as many of a tin as a batter fills to the usual share, at least one: "2 × round
// 18 cm" for a round of 20 cm and 7.5 deep; one more where they would be filled over the
// most. Shaped pieces stay as they are.
func (t Tin) Set(batter measure.Millilitres, usual, most float64) Tin {
	if t.Volume <= 0 || t.Shape == Free {
		return t
	}
	t.Count = max(1, int(math.Round(float64(batter/t.Volume)/usual)))
	if float64(batter/t.Total()) > most*1.03 {
		t.Count++
	}
	return t
}

// Cupfuls is how many cups of a muffin tin hold a left-over batter.
func Cupfuls(left measure.Millilitres) int {
	return int(math.Ceil(float64(left/byName("muffin").Volume) / Usual(Cups)))
}

// tray is how many cups a muffin tin has.
const tray = 12

// Footprint is the room that one tin or tray takes on a shelf with its rim and handles,
// cm. Source: common practice, 1.5 cm a side; trays of twelve three by four.
func (t Tin) Footprint() (length, width float64) {
	switch {
	case t.Shape == Cups:
		n := float64(min(t.Count, tray))
		rows := math.Ceil(math.Sqrt(n * 3 / 4))
		return math.Ceil(n/rows)*(t.Length+1.5) + 2, rows*(t.Width+1.5) + 2
	case t.Shape == Free:
		return t.Length, t.Width
	}
	return t.Length + 3, t.Width + 3
}

// Holders is how many tins or trays that makes.
func (t Tin) Holders() int {
	if t.Shape == Cups {
		return (max(1, t.Count) + tray - 1) / tray
	}
	return max(1, t.Count)
}

// PerShelf is how many stand on a shelf of an oven with room for the air to pass: 2.5 cm
// to the walls and between tins (common practice). Sizes in cm; a sheet may fill the
// shelf.
func (t Tin) PerShelf(width, depth float64) int {
	const room = 2.5
	a, b := t.Footprint()
	if t.Shape == Free {
		if math.Min(a, b) <= math.Min(width, depth) && math.Max(a, b) <= math.Max(width, depth) {
			return 1
		}
		return 0
	}
	fit := func(a, b float64) int {
		along, across := math.Floor((width-room)/(a+room)), math.Floor((depth-room)/(b+room))
		return max(0, int(along)) * max(0, int(across))
	}
	return max(fit(a, b), fit(b, a))
}
