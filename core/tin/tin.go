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
	"cmp"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"kollaris/core/measure"
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
	spoken *regexp.Regexp
}{
	{Bright, "thin bright metal", nil},
	{Dark, "dark metal", regexp.MustCompile(`(?i)\b(?:dark|black|non-?stick)\b`)},
	{Glass, "glass", regexp.MustCompile(`(?i)\bglass\b`)},
	{Silicone, "silicone", regexp.MustCompile(`(?i)\bsilicone\b`)},
	{Stone, "stoneware", regexp.MustCompile(`(?i)\b(?:stoneware|stone|ceramic|earthenware|clay)\b`)},
	{Iron, "cast iron", regexp.MustCompile(`(?i)\b(?:cast[- ]iron|skillet|dutch oven)\b`)},
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
	std("ring 10 in", Ring, 25.4, 25.4, 8.9, vol(12)),
	{Name: "muffin", Shape: Cups, Length: 7, Width: 7, Depth: 3.5, Volume: vol(0.5), Count: 12},
	{Name: "large muffin", Shape: Cups, Length: 9, Width: 9, Depth: 4.5, Volume: vol(1), Count: 6},
	{Name: "small muffin", Shape: Cups, Length: 4.5, Width: 4.5, Depth: 2.2, Volume: vol(0.15), Count: 24},
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
		return "on a " + t.Words()
	}
	return "in " + t.Words()
}

var (
	several   = regexp.MustCompile(`^(\d{1,2}) × ([a-z].+|\d+x\d+ in.*)$`) // as Words writes it
	number    = `(\d+(?:[.,]\d+)?(?:\s*(?:½|1/2))?)`
	inches    = `(?:\s*-?\s*(?:inches|inch|in\b\.?|"|”|″|''))`
	by        = `\s*[x×]\s*`
	sizes     = regexp.MustCompile(`(?i)` + number + `(` + inches + `|\s*cm)?` + by + number + `(` + inches + `|\s*cm)?(?:` + by + number + `)?(` + inches + `|\s*cm)?`)
	single    = regexp.MustCompile(`(?i)` + number + `\s*-?\s*(cm|inches|inch|in\b|"|”|″)`)
	weights   = regexp.MustCompile(`(?i)\b(\d+(?:\.\d+)?)\s*-?\s*(lb|pound|g|kg)s?\b[^.;]{0,14}\bloaf`)
	holds     = regexp.MustCompile(`(?i)\bholds (\d+(?:[.,]\d+)?)\s*(ml|l|litres?|liters?)\b`)
	deep      = regexp.MustCompile(`(?i)` + number + `\s*-?\s*(cm|inch|in)\s*(?:deep|high|tall)`)
	counts    = regexp.MustCompile(`(?i)(?:^|[^\d.,x×])\b(two|three|four|six|[2-6]) (?:[a-wyz]|\d+(?:\.\d+)?\s*-?\s*(?:cm|in))[^.;]{0,40}?\b(?:tins|pans|moulds|molds)\b`)
	timesRE   = regexp.MustCompile(`(?i)(?:^|[^\d.,])([2-6])\s*[x×]\s*(\d+(?:\.\d+)?\s*-?\s*(?:lb|pound|g|kg|cm|in|inch)\b[^x×]*(?:tins?|pans?|moulds?|molds?))`)
	cupsRE    = regexp.MustCompile(`(?i)\b(muffin|cupcake|cup-cake|fairy cake|bun tin|patty)`)
	cupsCount = regexp.MustCompile(`(?i)\b(?:(\d{1,2})[\s-]*(?:-?holes?|-?cups?|x|×|paper|lined|greased|small|large|mini|silicone)?[\s-]*(?:muffin|cupcake|cup-cake|fairy|bun|patty|cup|hole)|(?:muffin|cupcake|fairy cake|bun|patty)[^.\d]{0,12}(?:with|of|for|:|,|x|×)\s*(\d{1,2}))\b`)
	ringRE    = regexp.MustCompile(`(?i)\b(ring|tube|fluted)\b`)
	sheetRE   = regexp.MustCompile(`(?i)\b(baking sheet|cookie sheet|baking tray|oven tray|sheet pan|lined tray|on a tray|baking stone|flat tray)`)
)

// Parse reads a tin as people write it: "9x5 in loaf tin", "loaf 9x5 in", "23 x
// 13 cm", "a 2 lb loaf tin", "20 cm round", "8-inch square", "13x9 in",
// "12-cup muffin tin", "two 18 cm tins". ok is false when no size or kind of tin
// is named.
func Parse(s string) (Tin, bool) {
	t := strings.ToLower(strings.TrimSpace(s))
	for _, std := range Standard {
		if t == std.Name {
			return std, true
		}
	}
	if m := several.FindStringSubmatch(t); m != nil {
		one, ok := Parse(m[2])
		if one.Count, _ = strconv.Atoi(m[1]); !ok || one.Count < 1 || one.Shape == Free {
			return Tin{}, false
		}
		return one, true
	}
	out, ok := parse(t)
	if !ok || !out.real() {
		return Tin{}, false
	}
	if v := filled(t); v > 0 && out.Shape != Free {
		out.Volume = v
		out.Name += fmt.Sprintf(", holds %.0f ml", float64(v))
	}
	if out.Of = materialOf(t); out.Of != Bright {
		out.Name += ", " + out.Of.Words()
	}
	return out, true
}

// real reports whether a tin of those sizes is made: 2 to 120 cm wide and 1 to 40 deep,
// what is named by one size 8 to 45 cm.
func (t Tin) real() bool {
	within := func(x, low, high float64) bool { return x >= low && x <= high }
	if (t.Shape == Round || t.Shape == Square || t.Shape == Ring) && !within(t.Length, 8, 45) {
		return false
	}
	return t.Count >= 1 && (t.Shape == Free || within(t.Length, 2, 120) && within(t.Width, 2, 120) && within(t.Depth, 1, 40))
}

// filled reads how much a tin was found to hold, 0 where that is not said or cannot be.
func filled(t string) measure.Millilitres {
	m := holds.FindStringSubmatch(t)
	if m == nil {
		return 0
	}
	ml := num(m[1])
	if m[2] != "ml" {
		ml *= 1000
	}
	if ml < 20 || ml > 20000 {
		return 0
	}
	return measure.Millilitres(ml)
}

// parse reads shape, sizes and count.
func parse(t string) (Tin, bool) {
	count := 1
	if m := counts.FindStringSubmatch(t); m != nil {
		count = wordCount(m[1])
	} else if m := timesRE.FindStringSubmatchIndex(t); m != nil { // "2 x 2lb loaf tins"
		count = wordCount(t[m[2]:m[3]])
		t = t[m[4]:]
	}
	if cupsRE.MatchString(t) {
		out := byName("muffin")
		switch {
		case strings.Contains(t, "mini"), strings.Contains(t, "small"):
			out = byName("small muffin")
		case strings.Contains(t, "large"), strings.Contains(t, "jumbo"), strings.Contains(t, "giant"):
			out = byName("large muffin")
		}
		if m := cupsCount.FindStringSubmatch(t); m != nil {
			if k, _ := strconv.Atoi(cmp.Or(m[1], m[2])); k >= 1 {
				out.Count = k
			}
		} else if count > 1 {
			out.Count = count
		}
		return out, true
	}
	depth := 0.0
	if m := deep.FindStringSubmatchIndex(t); m != nil {
		depth = num(t[m[2]:m[3]])
		if t[m[4]:m[5]] != "cm" {
			depth *= measure.Inch
		}
		t = t[:m[0]] + t[m[1]:]
	}
	if m := sizes.FindStringSubmatch(t); m != nil {
		unit := m[2] + m[4] + m[6]
		scale := 1.0
		if strings.Contains(unit, "in") || strings.ContainsAny(unit, "\"”″'") {
			scale = measure.Inch
		} else if !strings.Contains(unit, "cm") && num(m[1]) <= 15 {
			scale = measure.Inch // 9 x 5 without a unit is inches
		}
		a, b, d := num(m[1])*scale, num(m[3])*scale, cmp.Or(num(m[5])*scale, depth)
		if a < b {
			a, b = b, a
		}
		shape := Sheet
		switch {
		case strings.Contains(t, "loaf") || a/b > 1.55 && a < 32:
			shape = Loaf
		case a/b < 1.08:
			shape, a = Square, math.Sqrt(a*b)
			b = a
		}
		if strings.Contains(t, "round") && d == 0 {
			return sized(Round, a, a, b, count), true
		}
		return sized(shape, a, b, d, count), true
	}
	if m := weights.FindStringSubmatch(t); m != nil {
		big := map[string]float64{"lb": 453.6, "pound": 453.6, "g": 1, "kg": 1000}[m[2]] * num(m[1])
		out := byName("loaf 8x4 in")
		if big > 700 {
			out = byName("loaf 9x5 in")
		}
		out.Count = count
		return out, true
	}
	if m := single.FindStringSubmatch(t); m != nil {
		x := num(m[1])
		if m[2] != "cm" {
			x *= measure.Inch
		}
		shape := Round
		switch {
		case strings.Contains(t, "square"):
			shape = Square
		case ringRE.MatchString(t):
			shape = Ring
		case strings.Contains(t, "loaf"):
			out := byName("loaf 9x5 in")
			if x < 21 {
				out = byName("loaf 8x4 in")
			}
			out.Count = count
			return out, true
		}
		if x >= 8 && x <= 45 {
			return sized(shape, x, x, depth, count), true
		}
	}
	switch {
	case strings.Contains(t, "loaf tin"), strings.Contains(t, "loaf pan"), t == "loaf":
		out := byName("loaf 9x5 in")
		out.Count = count
		return out, true
	case sheetRE.MatchString(t):
		return byName("baking sheet"), true
	}
	return Tin{}, false
}

// sized returns the trade table's tin within 4 % of the lengths given, or one
// by geometry.
func sized(s Shape, length, width, depth float64, count int) Tin {
	given := depth
	if s == Ring {
		depth = max(depth, 8.5)
	}
	var nearest *Tin
	for n := range Standard {
		std := &Standard[n]
		if std.Shape == s && close(std.Length, length) && close(std.Width, width) && (depth == 0 || close(std.Depth, depth)) &&
			(nearest == nil || math.Abs(std.Length-length) < math.Abs(nearest.Length-length)) {
			nearest = std
		}
	}
	if nearest != nil {
		t := *nearest
		t.Count = count
		return t
	}
	name := fmt.Sprintf("%s %s cm", s, measure.Digits(length, 3))
	if s == Loaf || s == Sheet {
		name = fmt.Sprintf("%s %s×%s cm", s, measure.Digits(length, 3), measure.Digits(width, 3))
	}
	if given != 0 {
		name += fmt.Sprintf(", %s cm deep", measure.Digits(given, 3))
	} else if depth == 0 {
		depth = 5.1
		if s == Loaf {
			depth = 6.8
		}
	}
	t := std(name, s, length, width, depth, 0)
	t.Count = count
	return t
}

func close(a, b float64) bool { return math.Abs(a-b) <= 0.04*a }

func byName(name string) Tin {
	for _, t := range Standard {
		if t.Name == name {
			return t
		}
	}
	panic("tin: no standard tin " + name)
}

func num(s string) float64 {
	s = strings.TrimSpace(strings.ReplaceAll(s, ",", "."))
	half := 0.0
	for _, h := range []string{"½", "1/2"} {
		if strings.HasSuffix(s, h) && s != h {
			s, half = strings.TrimSpace(strings.TrimSuffix(s, h)), 0.5
		}
	}
	x, _ := strconv.ParseFloat(s, 64)
	return x + half
}

func wordCount(s string) int {
	if n, ok := map[string]int{"two": 2, "three": 3, "four": 4, "six": 6, "twelve": 12, "twenty-four": 24}[strings.ToLower(s)]; ok {
		return n
	}
	if n, err := strconv.Atoi(s); err == nil && n >= 1 && n <= 6 {
		return n
	}
	return 1
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
