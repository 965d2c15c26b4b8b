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

var (
	several = regexp.MustCompile(`^(\d{1,2}) × ([a-z].+|\d+x\d+ in.*)$`) // as Words writes it
	number  = `(\d+(?:[.,]\d+)?(?:\s*(?:½|1/2))?)`
	plural  = `(?:tins|pans|moulds|molds|rounds|squares|springforms)\b`
	inches  = `(?:\s*-?\s*(?:inches|inch|in\b\.?|"|”|″|''))`
	cross   = `\s*[x×]\s*`
	sizes   = regexp.MustCompile(
		`(?i)` + number + `(` + inches + `|\s*cm)?` + cross + number + `(` + inches + `|\s*cm)?(?:` + cross + number + `)?(` + inches + `|\s*cm)?`,
	)
	single  = regexp.MustCompile(`(?i)` + number + `\s*-?\s*(cm|inches|inch|in\b|"|”|″)`)
	weights = regexp.MustCompile(`(?i)\b(\d+(?:\.\d+)?)\s*-?\s*(lb|pound|g|kg)s?\b[^.;]{0,14}\bloaf`)
	holds   = regexp.MustCompile(`(?i)\bholds (\d+(?:[.,]\d+)?)\s*(ml|l|litres?|liters?)\b`)
	deep    = regexp.MustCompile(`(?i)` + number + `\s*-?\s*(cm|inch|in)\s*(?:deep|high|tall)`)
	counts  = regexp.MustCompile(
		`(?i)(?:^|[^\d.,x×])\b(two|three|four|six|pair of|couple of|[2-6]) (?:[a-wyz]|\d+(?:\.\d+)?\s*-?\s*(?:cm|in))[^.;]{0,40}?\b` + plural,
	)
	times = regexp.MustCompile(
		`(?i)(?:^|[^\d.,x×]\s*)\b([2-6])\s*[x×]\s*((\d+(?:\.\d+)?)(?:` + cross + `(\d+(?:\.\d+)?))?\s*-?\s*(lb|pound|g|kg|cm|inches|inch|in\b|"|”|″)s?\b?[^x×.;]{0,40})`,
	)
	manyRE    = regexp.MustCompile(`(?i)\b` + plural)
	oneTin    = regexp.MustCompile(`(?i)\b(?:tins?|pans?|moulds?|molds?)\b`)
	notOblong = regexp.MustCompile(`(?i)\b(?:rounds?|squares?|rings?|springform)\b`)
	cupsRE    = regexp.MustCompile(`(?i)\b(muffin|cupcake|cup-cake|fairy cake|bun tin|patty)`)
	cupsCount = regexp.MustCompile(
		`(?i)\b(?:(\d{1,2})[\s-]*(?:-?holes?|-?cups?|x|×|paper|lined|greased|small|large|mini|silicone)?[\s-]*(?:muffin|cupcake|cup-cake|fairy|bun|patty|cup|hole)|(?:muffin|cupcake|fairy cake|bun|patty)[^.\d]{0,12}(?:with|of|for|:|,|x|×)\s*(\d{1,2}))\b`,
	)
	ringRE  = regexp.MustCompile(`(?i)\b(ring|tube|fluted)\b`)
	sheetRE = regexp.MustCompile(
		`(?i)\b(baking sheet|cookie sheet|baking tray|oven tray|sheet pan|lined tray|on a tray|baking stone|flat tray)`,
	)
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
	return t.Count >= 1 &&
		(t.Shape == Free || within(t.Length, 2, 120) && within(t.Width, 2, 120) && within(t.Depth, 1, 40))
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
	}
	if n, rest := setOf(t); n > 1 {
		count, t = n, rest
	}
	if cupsRE.MatchString(t) {
		return cups(t, count), true
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
		return bySizes(t, m, depth, count), true
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

// cups is a tin of cups, as many as are named.
func cups(t string, count int) Tin {
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
	return out
}

// bySizes is the tin of two or three sizes, as sizes found them.
func bySizes(t string, m []string, depth float64, count int) Tin {
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
		return sized(Round, a, a, b, count)
	}
	return sized(shape, a, b, d, count)
}

// setOf reads "2 x 2 lb loaf tins", "2 x 20 cm round": how many, and one of them. A first
// number is a count where more than one is spoken of, or where it can be no size: no tin
// is 2 inches or less than 8 cm wide, and a round or square one has no two widths. So
// "5 x 9 inch loaf pan" is one. Source: practice.
func setOf(t string) (int, string) {
	m := times.FindStringSubmatch(t)
	if m == nil {
		return 1, t
	}
	n, rest, size, second, unit := wordCount(m[1]), m[2], num(m[3]), m[4], m[5]
	isSet := manyRE.MatchString(rest)
	switch unit {
	case "lb", "pound", "g", "kg":
		isSet = strings.Contains(rest, "loaf") || oneTin.MatchString(rest)
	case "cm":
		isSet = isSet || second == ""
	default:
		isSet = isSet || n == 2 || second == "" && notOblong.MatchString(rest) && float64(n) < size
	}
	if !isSet {
		return 1, t
	}
	return n, rest
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
		if std.Shape == s && close(std.Length, length) && close(std.Width, width) &&
			(depth == 0 || close(std.Depth, depth)) &&
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
	x, _ := measure.ParseDecimal(s)
	return x
}

func wordCount(s string) int {
	if n, ok := map[string]int{"two": 2, "pair of": 2, "couple of": 2, "three": 3, "four": 4, "six": 6, "twelve": 12, "twenty-four": 24}[strings.ToLower(s)]; ok {
		return n
	}
	if n, err := strconv.Atoi(s); err == nil && n >= 1 && n <= 6 {
		return n
	}
	return 1
}
