// Package tin knows baking tins: how people name them, how large they are and
// how much they hold.
//
// Volumes follow the US trade table of tin capacities (handbook of the trade,
// common practice), since real tins taper: straight-sided geometry overshoots
// an 8 × 4 in loaf tin by a third. Where the table has no row, geometry times
// a taper of 0.86 for loaf tins and 0.97 for others is used [calculated from
// the table's own rows].
package tin

import (
	"fmt"
	"math"
	"strings"

	"kollaris/core/measure"
	"kollaris/core/pattern"
)

// Shape is a tin's shape.
type Shape string

// The shapes.
const (
	Loaf   Shape = "loaf"
	Round  Shape = "round"
	Square Shape = "square"
	Sheet  Shape = "sheet" // a rectangle, up to a whole baking sheet
	Ring   Shape = "ring"
	Cups   Shape = "cups"
	Free   Shape = "free" // shaped pieces on a baking sheet
)

// Material is what a tin is made of.
type Material string

// The materials.
const (
	Bright   Material = "" // thin, bright metal
	Dark     Material = "dark"
	Glass    Material = "glass"
	Silicone Material = "silicone"
	Stone    Material = "stone"
	Iron     Material = "iron"
)

// Materials lists the materials with their words, and how people write them.
var Materials = []struct {
	ID     Material
	Words  string
	spoken *pattern.Pattern
}{
	{Bright, "thin bright metal", nil},
	{Dark, "dark metal", pattern.Must(`(?i)\b(?:dark|black|non-?stick)\b`)},
	{Glass, "glass", pattern.Must(`(?i)\bglass\b`)},
	{Silicone, "silicone", pattern.Must(`(?i)\bsilicone\b`)},
	{Stone, "stoneware", pattern.Must(`(?i)\b(?:stoneware|stone|ceramic|earthenware|clay)\b`)},
	{Iron, "cast iron", pattern.Must(`(?i)\b(?:cast[- ]iron|skillet|dutch oven)\b`)},
}

// Words names the material.
func (m Material) Words() string {
	for _, x := range Materials {
		if x.ID == m {
			return x.Words
		}
	}
	return string(m)
}

// materialOf finds a material in what was written.
func materialOf(s string) Material {
	for _, m := range Materials {
		if m.spoken != nil && m.spoken.MatchString(s) {
			return m.ID
		}
	}
	return Bright
}

// Tin is one kind of tin and how many of it. Lengths are inner ones in cm.
type Tin struct {
	Name   string              `json:"name"`
	Shape  Shape               `json:"shape"`
	Length float64             `json:"length"` // or diameter
	Width  float64             `json:"width"`
	Depth  float64             `json:"depth"`
	Volume measure.Millilitres `json:"volume_ml"` // of one
	Count  int                 `json:"count"`
	Of     Material            `json:"of,omitempty"`
}

const cup = float64(measure.USCup)

// Standard are the tins offered by name. Volumes: practice, the US trade table
// in cups (middle of its range), 1 cup = 236.6 ml.
var Standard = []Tin{
	std("loaf 8x4 in", Loaf, 20.3, 10.2, 6.4, vol(4.75)),
	std("loaf 8.5x4.5 in", Loaf, 21.6, 11.4, 6.4, vol(6)),
	std("loaf 9x5 in", Loaf, 22.9, 12.7, 7.6, vol(8)),
	std("loaf 15×8 cm", Loaf, 15, 8, 5.5, 0),
	std("loaf 16×11 cm", Loaf, 16, 11, 7, 0), // the British pound
	std("loaf 30×11 cm", Loaf, 30, 11, 7.5, 0),
	std("round 6 in", Round, 15.2, 15.2, 5.1, vol(4)),
	std("round 15 cm, 7.5 cm deep", Round, 15, 15, 7.5, 0),
	std("round 18 cm", Round, 18, 18, 5, 0),
	std("round 18 cm, 7.5 cm deep", Round, 18, 18, 7.5, 0),
	std("round 8 in", Round, 20.3, 20.3, 5.1, vol(6.5)),
	std("round 20 cm", Round, 20, 20, 5, 0),
	std("round 20 cm, 7.5 cm deep", Round, 20, 20, 7.5, 0),
	std("round 9 in", Round, 22.9, 22.9, 5.1, vol(8)),
	std("round 23 cm", Round, 23, 23, 5, 0),
	std("round 23 cm, 7.5 cm deep", Round, 23, 23, 7.5, 0),
	std("round 10 in", Round, 25.4, 25.4, 5.1, vol(10.5)),
	std("round 26 cm, 7 cm deep", Round, 26, 26, 7, 0),
	std("square 15 cm, 7.5 cm deep", Square, 15, 15, 7.5, 0),
	std("square 8 in", Square, 20.3, 20.3, 5.1, vol(8)),
	std("square 20 cm", Square, 20, 20, 5, 0),
	std("square 9 in", Square, 22.9, 22.9, 5.1, vol(10)),
	std("13x9 in", Sheet, 33, 22.9, 5.1, vol(14.5)),
	std("sheet 30×20 cm", Sheet, 30, 20, 4, 0),
	std("sheet 33×23 cm, 2 cm deep", Sheet, 33, 23, 2, 0),
	std("ring 20 cm", Ring, 20, 20, 8, 0),
	std("ring 25 cm", Ring, 25, 25, 8.8, vol(11.5)), // the next, as large as it is named
	std("ring 10 in", Ring, 25.4, 25.4, 8.9, vol(12)),
	{Name: "muffin", Shape: Cups, Length: 7, Width: 7, Depth: 3.5, Volume: vol(0.5), Count: 12},
	{Name: "large muffin", Shape: Cups, Length: 9, Width: 9, Depth: 4.5, Volume: vol(1), Count: 6},
	{Name: "small muffin", Shape: Cups, Length: 4.5, Width: 4.5, Depth: 2.2, Volume: vol(0.15), Count: 24},
	{Name: "ramekin", Shape: Cups, Length: 8.5, Width: 8.5, Depth: 4.2, Volume: vol(0.75), Count: 6},
	{Name: "baking sheet", Shape: Free, Length: 38, Width: 30, Count: 1},
}

// std is one tin of the catalogue, its volume by geometry where the trade's table has
// no row.
func std(name string, s Shape, length, width, depth float64, v measure.Millilitres) Tin {
	if v == 0 {
		v = geometric(s, length, width, depth)
	}
	return Tin{Name: name, Shape: s, Length: length, Width: width, Depth: depth, Volume: v, Count: 1}
}

func vol(cups float64) measure.Millilitres { return measure.Millilitres(cups * cup) }

func geometric(s Shape, length, width, depth float64) measure.Millilitres {
	v := length * width * depth
	switch s {
	case Round, Cups:
		v *= math.Pi / 4 * 0.97
	case Ring:
		v *= math.Pi / 4 * 0.72 // the funnel takes about a quarter [practice: 10 × 3½ in about 12 cups]
	case Loaf:
		v *= 0.86
	default:
		v *= 0.97
	}
	return measure.Millilitres(v)
}

// Area is the area of one tin's opening in cm², the volume over the depth.
func (t Tin) Area() float64 {
	if t.Depth <= 0 {
		return t.Length * t.Width
	}
	return float64(t.Volume) / t.Depth
}

// Taper is the mean opening over that at the rim, 1 for upright walls: what a tin holds
// over what a box or cylinder of its inner sizes would. 0 where it has no walls.
func (t Tin) Taper() float64 {
	upright := t.Length * t.Width * t.Depth
	if t.Shape == Round || t.Shape == Cups || t.Shape == Ring {
		upright *= math.Pi / 4
	}
	if upright <= 0 {
		return 0
	}
	return float64(t.Volume) / upright
}

// Total is the volume of all of them.
func (t Tin) Total() measure.Millilitres { return t.Volume * measure.Millilitres(max(1, t.Count)) }

// Words names the tin with its count: "2 × round 20 cm", "12 muffin cups".
func (t Tin) Words() string {
	switch {
	case t.Shape == Cups:
		name, rest, found := strings.Cut(t.Name, ", ")
		if found {
			rest = ", " + rest
		}
		return fmt.Sprintf("%d %s cups%s", t.Count, name, rest)
	case t.Count > 1:
		return fmt.Sprintf("%d × %s", t.Count, t.Name)
	}
	return t.Name
}

// In says where a bake stands: "in loaf 9x5 in", "on a baking sheet".
func (t Tin) In() string {
	if t.Shape == Free {
		if t.Count > 1 {
			return fmt.Sprintf("on %d %ss", t.Count, t.Name)
		}
		return "on a " + t.Words()
	}
	return "in " + t.Words()
}

// Slice says how much of a bake a share of it is, as one would cut it: "a slice 9 mm
// thick", "a wedge 2.4 cm wide at the rim", "a third of a piece". Share is of all tins
// or pieces together; it is "" where nothing can be said.
func (t Tin) Slice(share float64) string {
	n := float64(max(1, t.Count))
	of := share * n // of one tin or piece
	switch {
	case share <= 0 || share > 1:
		return ""
	case t.Shape == Cups:
		return fmt.Sprintf("%s of a cup", measure.Digits(of, 2))
	case of > 1:
		return fmt.Sprintf("%s of them", measure.Digits(of, 2))
	case t.Shape == Loaf && t.Length > 0:
		return fmt.Sprintf("a slice %.0f mm thick", 10*t.Length*of)
	case (t.Shape == Round || t.Shape == Ring) && t.Length > 0:
		return fmt.Sprintf("a wedge %s cm wide at the rim", measure.Digits(math.Pi*t.Length*of, 2))
	case (t.Shape == Square || t.Shape == Sheet) && t.Length > 0 && t.Width > 0:
		side := math.Sqrt(of * t.Length * t.Width)
		return fmt.Sprintf("a piece %s cm square", measure.Digits(side, 2))
	}
	return ""
}
