package tin

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/measure"
	"kollaris/core/pattern"
)

var (
	several = pattern.Must(`^(\d{1,2}) × ([a-z].+|\d+x\d+ in.*)$`) // as Words writes it
	number  = `(\d+(?:[.,]\d+)?(?:\s*(?:½|1/2))?)`
	plural  = `(?:tins|pans|moulds|molds|rounds|squares|springforms|loaves|rings|dishes|ramekins)\b`
	inches  = `(?:\s*-?\s*(?:inches|inch|in\b\.?|"|”|″|''))`
	ofTins  = `(?:a|fluted|deep|round|square|non-?stick|metal|glass|heavy|large|small|loaf|baking|casserole|ovenproof|oven|pudding|cake|ring|tube|bundt|springform|ceramic)`
	cross   = `\s*(?:[x×]|\bby\b)\s*`
	sizes   = pattern.Must(
		`(?i)` + number + `(` + inches + `|\s*cm)?` + cross + number + `(` + inches + `|\s*cm)?(?:` + cross + number + `)?(` + inches + `|\s*cm)?`,
	)
	single  = pattern.Must(`(?i)` + number + `\s*-?\s*(cm|inches|inch|in\b|"|”|″)`)
	weights = pattern.Must(`(?i)\b(\d+(?:\.\d+)?)\s*-?\s*(lb|pound|g|kg)s?\b[^.;]{0,14}\bloaf`)
	holds   = pattern.Must(`(?i)\bholds (\d+(?:[.,]\d+)?)\s*(ml|l|litres?|liters?)\b`)
	deep    = pattern.Must(`(?i)` + number + `\s*-?\s*(cm|inches|inch|in)\s*(?:deep|high|tall)`)
	counts  = pattern.Must(
		`(?i)(?:^|[^\d.,x×])\b(two|three|four|five|six|eight|pair of|couple of|[2-8])[ -](?:(?:rounds|squares)\b|(?:[a-wyz]|\d+(?:\.\d+)?\s*-?\s*(?:cm|in|lb|pound|g\b|kg|"|”|″)|\d+(?:\.\d+)?(?:` + inches + `|\s*cm)?` + cross + `\d)[^.;]{0,40}?\b` + plural + `|\d+(?:\.\d+)?` + cross + `\d+(?:\.\d+)?s\b)`,
	)
	times = pattern.Must(
		`(?i)(?:^|[^\d.,x×]\s*)\b([2-6])\s*[x×]\s*((\d+(?:\.\d+)?)(?:` + cross + `(\d+(?:\.\d+)?))?\s*-?\s*(lb|pound|g|kg|cm|inches|inch|in\b|"|”|″)s?\b?[^x×.;]{0,40})`,
	)
	manyRE    = pattern.Must(`(?i)\b` + plural)
	oneTin    = pattern.Must(`(?i)\b(?:tins?|pans?|moulds?|molds?)\b`)
	notOblong = pattern.Must(`(?i)\b(?:rounds?|squares?|rings?|springform)\b`)
	cupsRE    = pattern.Must(`(?i)\b(muffin|cupcake|cup-cake|fairy cake|bun tin|patty|ramekin|popover|paper cases|cake cases)`)
	cupsCount = pattern.Must(
		`(?i)\b(?:(\d{1,2}|a dozen|six|twelve|twenty-four)[\s-]*(?:-?holes?|-?cups?|x|×|paper|lined|greased|small|large|mini|jumbo|silicone)?[\s-]*(?:muffin|cupcake|cup-cake|fairy|bun|patty|cup|hole|ramekin|case)(?:s|es)?|(?:muffin|cupcake|fairy cake|bun|patty)[^.\d]{0,12}(?:with|of|for|:|,|x|×)\s*(\d{1,2}))\b`,
	)
	ringRE    = pattern.Must(`(?i)\b(?:rings?|tube|bundts?|ku?gelhopf|gugelhupf|gu?gl?huo?pf(?:form)?|guglhupf(?:form)?|angel[ -]food|chiffon|savarin)\b`)
	squareRE  = pattern.Must(`(?i)\bsquares?\b|\bsq\b`)
	onceRE    = pattern.Must(`(?i)^(?:1|one) ?[x×] ?`)
	fluted    = pattern.Must(`(?i)\bfluted\b`)
	loafRE    = pattern.Must(`(?i)\b(?:loaf|loaves|kastenform|königskuchenform|pullman)\b`)
	shallow   = pattern.Must(`(?i)\b(?:tart|flan|quiche|pie)\b`)
	rimmed    = pattern.Must(`(?i)\b(?:swiss[ -]roll|jelly[ -]roll|roulade)\b`)
	basin     = pattern.Must(`(?i)\b(?:basin|charlotte|panettone)\b`)
	springRE  = pattern.Must(`(?i)spring-?form`)
	deepRE    = pattern.Must(`(?i)\bdeep\b`)
	otherForm = pattern.Must(`(?i)\b(?:heart|hexagon|star|number|petal|oval)\b`)
	shapeWord = pattern.Must(`(?i)\b(?:rounds?|squares?|sq|sandwich|springform|layer|skillet|dutch oven|pie|tart|flan|quiche|cake|basin|panettone|charlotte|cocotte|frying)\b|form\b`)
	byVolume  = pattern.Must(
		`(?i)` + number + `\s*-?\s*(cups?|quarts?|qt|pints?|litres?|liters?|l|ml)\b[\s-]*(?:capacity )?((?:` + ofTins + `[\s-]){0,3}?(?:rings?|tube|bundts?|ku?gelhopf|gugelhupf|guglhupf|angel[ -]food|loaf|casserole|dish|mould|mold|basin|charlotte|tin|pan)\b)`,
	)
	volumeAfter = pattern.Must(`(?i)^((?:` + ofTins + `[\s-]+){0,3}(?:rings?|bundts?|gugelhupf|guglhupf|mould|mold|basin|charlotte|casserole|dish|tin|pan|loaf)),?\s+(?:of |for )?` + number + `\s*-?\s*(cups?|quarts?|qt|pints?|litres?|liters?|l|ml)$`)
	onlyCups    = pattern.Must(`(?i)^(\d{1,2}|a dozen|six|twelve) (?:cups?|holes?)$`)
	onlyNumber  = pattern.Must(`^(?:ø\s*)?(\d{1,2})(?:er\b.*)?$`)
	sheetsRE    = pattern.Must(`(?i)\b(two|three|four|[2-4]) (?:[\pL-]+ ){0,3}(?:sheets|trays)\b`)
	manySheets  = pattern.Must(`(?i)\b(?:sheets|trays)\b`)
	sheetRE     = pattern.Must(
		`(?i)\b((?:baking|cookie|oven|biscuit) (?:sheets?|trays?)|sheet pans?|(?:lined|floured|greased|oiled|buttered|dusted|parchment|papered) (?:(?:baking|cookie|oven) )?(?:sheets?|trays?)|(?:half|quarter)[ -]sheet|on(?:to)? (?:a|the|two) (?:sheet|tray)s?|baking stone|flat tray)`,
	)
)

// Reading is a text read as a tin, and how sure that is.
type Reading struct {
	Tin   Tin
	Sized bool   // a size, a volume or a number of cups is said; else it is the usual one of its shape
	Why   string // what is not sure, as a question; "" where it is
	Or    []Tin  // what it may be instead, the likelier first
}

// Parse reads a tin as people write it: "9x5 in loaf tin", "loaf 9x5 in", "23 x
// 13 cm", "a 2 lb loaf tin", "20 cm round", "8-inch square", "13x9 in",
// "12-cup muffin tin", "two 18 cm tins". ok is false when no size or kind of tin
// is named.
func Parse(s string) (Tin, bool) {
	r, ok := Read(s)
	return r.Tin, ok
}

// Read reads a tin as Parse does, and says where it might be another, or where several are named.
func Read(s string) (Reading, bool) {
	all := ReadAll(s)
	if len(all) == 0 {
		return Reading{}, false
	}
	first := all[0].Reading
	if len(all) > 1 {
		first.Why, first.Or = severalNamed, nil
		for _, x := range all[1:] {
			first.Or = append(first.Or, x.Tin)
		}
	}
	return first, true
}

// readOne reads a text that speaks of one tin.
func readOne(s string) (Reading, bool) {
	t := strings.ToLower(strings.TrimSpace(s))
	for _, std := range Standard {
		if t == std.Name {
			return Reading{Tin: std, Sized: true}, true
		}
	}
	if m := several.FindStringSubmatch(t); m != nil {
		one, ok := readOne(m[2])
		if one.Tin.Count, _ = strconv.Atoi(m[1]); !ok || one.Tin.Count < 1 || one.Tin.Shape == Free {
			return Reading{}, false
		}
		return one, true
	}
	out, ok := parse(onceRE.ReplaceAllString(t, ""))
	if !ok || !out.Tin.real() {
		return Reading{}, false
	}
	dress := func(x *Tin) {
		if v := filled(t); v > 0 && x.Shape != Free {
			x.Volume = v
			x.Name += fmt.Sprintf(", holds %.0f ml", float64(v))
		}
		if x.Of = materialOf(t); x.Of != Bright {
			x.Name += ", " + x.Of.Words()
		}
	}
	dress(&out.Tin)
	out.Or = slices.DeleteFunc(out.Or, func(x Tin) bool { return !x.real() })
	for n := range out.Or {
		dress(&out.Or[n])
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
func parse(t string) (Reading, bool) {
	count := 1
	if m := counts.FindStringSubmatch(t); m != nil {
		count = wordCount(m[1])
	}
	if n, rest := setOf(t); n > 1 {
		count, t = n, rest
	}
	if cupsRE.MatchString(t) {
		x, said := cups(t, count)
		return Reading{Tin: x, Sized: said}, true
	}
	if r, ok := holding(t, count); ok {
		return r, true
	}
	depth := 0.0
	if m := deep.FindStringSubmatchIndex(t); m != nil {
		depth = num(t[m[2]:m[3]])
		if t[m[4]:m[5]] != "cm" {
			depth *= measure.Inch
		}
		if depth > mostDeep {
			depth = 0 // "20 cm deep round tin": it is as wide, and deep
		} else {
			t = t[:m[0]] + t[m[1]:]
		}
	}
	if m := sizes.FindStringSubmatch(t); m != nil {
		r := bySizes(t, m, cmp.Or(depth, usualDepth(t, 0)), count)
		if r.Tin.Length < leastWide {
			return Reading{}, false
		}
		return r, true
	}
	if m := weights.FindStringSubmatch(t); m != nil {
		big := map[string]float64{"lb": 453.6, "pound": 453.6, "g": 1, "kg": 1000}[m[2]] * num(m[1])
		out := byName("loaf 8x4 in")
		if big > 700 {
			out = byName("loaf 9x5 in")
		}
		out.Count = count
		return Reading{Tin: out, Sized: true}, true
	}
	if m := single.FindStringSubmatch(t); m != nil {
		x := num(m[1])
		if m[2] != "cm" {
			x *= measure.Inch
		}
		return bySize(t, x, depth, count)
	}
	if m := onlyNumber.FindStringSubmatch(t); m != nil {
		x, inches := num(m[1]), num(m[1]) <= 14
		if inches {
			x *= measure.Inch
		}
		r, ok := bySize(t, x, depth, count)
		if inches {
			r.Why = "Inches, or how many cups?"
			r.Or = append(r.Or, withCount(byName("muffin"), int(num(m[1]))))
		}
		return r, ok
	}
	return unsized(t, count)
}

const (
	roundOrSquare = "Round or square?"
	severalNamed  = "Several are named: the first?"
)

// widestLoaf is the inner width above which an oblong tin is no loaf tin, cm. Source: practice, loaf tins are 8 to 14 cm wide.
const widestLoaf = 15.0

// bySize is the tin of one size in cm.
func bySize(t string, x, depth float64, count int) (Reading, bool) {
	shape := Round
	switch {
	case squareRE.MatchString(t):
		shape = Square
	case isRing(t):
		shape = Ring
	case loafRE.MatchString(t) || strings.Contains(t, "kastenform"):
		out := byName("loaf 9x5 in")
		switch {
		case x < 17:
			out = byName("loaf 15×8 cm")
		case x < 21:
			out = byName("loaf 8x4 in")
		case x > 27:
			out = byName("loaf 30×11 cm")
		}
		return Reading{Tin: withCount(out, count), Sized: true}, true
	}
	if x < leastWide || x > 45 {
		return Reading{}, false
	}
	depth = cmp.Or(depth, usualDepth(t, x))
	out := Reading{Tin: sized(shape, x, x, depth, count), Sized: true}
	switch square := sized(Square, x, x, depth, count); {
	case otherForm.MatchString(t):
		out.Why, out.Or = "It is counted as a round one. Nearer to a square?", []Tin{square}
	case shape == Round && !shapeWord.MatchString(t):
		out.Why, out.Or = roundOrSquare, []Tin{square}
	}
	return out, true
}

// usualDepth is how deep a tin is that is named for what is baked in it, cm; 0 where its name says nothing. Source:
// practice: pie dishes 3.5, tart tins 2.8, rolls 2 to 2.5, springforms 6 to 7, what is called deep 7.5 cm.
func usualDepth(t string, across float64) float64 {
	switch {
	case isRing(t):
		return 0
	case rimmed.MatchString(t):
		return 2
	case strings.Contains(t, "pie"):
		return 3.5
	case shallow.MatchString(t):
		return 2.8
	case basin.MatchString(t):
		return 0.65 * across
	case deepRE.MatchString(t) && !loafRE.MatchString(t):
		return 7.5
	case springRE.MatchString(t):
		return 6.5
	}
	return 0
}

// isRing reports whether a tin is one with a funnel. What is fluted is, unless it is for tarts.
func isRing(t string) bool {
	return ringRE.MatchString(t) || fluted.MatchString(t) && !shallow.MatchString(t)
}

// unsized is the usual tin of a shape that is named without a size.
func unsized(t string, count int) (Reading, bool) {
	small := strings.Contains(t, "mini") || strings.Contains(t, "small")
	switch {
	case onlyCups.MatchString(t):
		n := wordCount(onlyCups.FindStringSubmatch(t)[1])
		if n < 4 {
			return Reading{}, false
		}
		out := Reading{Tin: withCount(byName("muffin"), n), Sized: true, Why: "Muffin cups, or a tin that holds so many cups?"}
		for _, s := range []Shape{Ring, Loaf, Round} {
			out.Or = append(out.Or, ThatHolds(s, vol(float64(n)), 1))
		}
		return out, true
	case loafRE.MatchString(t) && (strings.Contains(t, "tin") || strings.Contains(t, "pan") || t == "loaf" || small && manyRE.MatchString(t)):
		if small {
			return Reading{Tin: withCount(byName("loaf 15×8 cm"), count)}, true
		}
		return Reading{
			Tin: withCount(byName("loaf 9x5 in"), count), Why: "No size is said: the larger of the two usual ones?",
			Or: []Tin{withCount(byName("loaf 8x4 in"), count)},
		}, true
	case sheetRE.MatchString(t):
		sheets := 1
		if m := sheetsRE.FindStringSubmatch(t); m != nil {
			sheets = wordCount(m[1])
		} else if manySheets.MatchString(t) {
			sheets = 2 // "onto lined sheets": practice
		}
		return Reading{Tin: withCount(byName("baking sheet"), sheets)}, true
	case ringRE.MatchString(t) && (oneTin.MatchString(t) || !strings.ContainsAny(t, " ")):
		return Reading{
			Tin: withCount(byName("ring 10 in"), count), Why: "No size is said: the usual large one?",
			Or: []Tin{withCount(byName("ring 20 cm"), count)},
		}, true
	}
	return Reading{}, false
}

// holding is a tin named by what it holds: "10-cup ring", "2 quart casserole", "a 1.5 litre basin".
func holding(t string, count int) (Reading, bool) {
	m := byVolume.FindStringSubmatch(t)
	if m == nil {
		if a := volumeAfter.FindStringSubmatch(t); a != nil {
			m = []string{a[0], a[2], a[3], a[1]}
		}
	}
	if m == nil {
		return Reading{}, false
	}
	unit := map[byte]measure.Millilitres{'c': measure.USCup, 'q': 4 * measure.USCup, 'p': 2 * measure.USCup, 'l': 1000, 'm': 1}[m[2][0]]
	v := unit * measure.Millilitres(num(m[1]))
	if v < 200 || v > 8000 {
		return Reading{}, false
	}
	shape, of := Round, m[3]
	switch {
	case isRing(of):
		shape = Ring
	case loafRE.MatchString(of):
		shape = Loaf
	case strings.Contains(of, "square"):
		shape = Square
	case strings.Contains(of, "dish"), strings.Contains(of, "casserole"):
		shape = Sheet
	}
	out := Reading{Tin: ThatHolds(shape, v, count), Sized: true}
	if basin.MatchString(of) {
		d := math.Cbrt(float64(v) / (0.65 * math.Pi / 4 * 0.97))
		out.Tin = sized(Round, d, d, 0.65*d, count)
	}
	if shape == Round && !shapeWord.MatchString(of) {
		out.Why = "Of what shape?"
		for _, s := range []Shape{Ring, Loaf, Square} {
			out.Or = append(out.Or, ThatHolds(s, v, count))
		}
	}
	return out, true
}

// leastDish is how deep a dish is at least, cm. Source: practice.
const leastDish = 3.0

// ThatHolds is the standard tin of a shape that holds within 4 % of a volume, else one of the usual proportions. Source:
// calculated from the catalogue's tins.
func ThatHolds(s Shape, v measure.Millilitres, count int) Tin {
	var like Tin
	for _, std := range Standard {
		if std.Shape == s && (like.Volume == 0 || math.Abs(float64(std.Volume-v)) < math.Abs(float64(like.Volume-v))) {
			like = std
		}
	}
	if close(float64(like.Volume), float64(v)) && !(s == Sheet && like.Depth < leastDish) { // a dish is no tray for a roll
		return withCount(like, count)
	}
	round := func(x float64) float64 { return math.Round(10*x) / 10 }
	by := math.Cbrt(float64(v / like.Volume))
	deep := by
	if s == Sheet { // dishes are about as deep, and wider
		like = byName("13x9 in")
		by, deep = math.Sqrt(float64(v/like.Volume)), 1
	}
	out := sized(s, round(like.Length*by), round(like.Width*by), round(like.Depth*deep), count)
	if !close(float64(out.Volume), float64(v)) {
		out.Volume = v
		out.Name += fmt.Sprintf(", holds %.0f ml", float64(v))
	}
	return out
}

func withCount(t Tin, n int) Tin {
	t.Count = max(1, n)
	return t
}

// cups is a tin of cups, as many as are named.
func cups(t string, count int) (x Tin, said bool) {
	out := byName("muffin")
	switch {
	case strings.Contains(t, "ramekin"):
		out = byName("ramekin")
	case strings.Contains(t, "popover"): // six deep cups
		out = byName("large muffin")
	case strings.Contains(t, "mini"), strings.Contains(t, "small"):
		out = byName("small muffin")
	case strings.Contains(t, "large"), strings.Contains(t, "jumbo"), strings.Contains(t, "giant"):
		out = byName("large muffin")
	}
	if m := cupsCount.FindStringSubmatch(t); m != nil {
		if k := wordCount(cmp.Or(m[1], m[2])); k >= 1 {
			return withCount(out, k), true
		}
	} else if count > 1 {
		return withCount(out, count), true
	}
	return out, false
}

// mostDeep is how deep a tin is at most of which a size is said with that word, cm. Source: practice; tall moulds have 15.
const mostDeep = 15.0

// leastWide is what the longest side of a tin that is no cup has, cm. Source: practice; mini loaf tins are 8 and more.
const leastWide = 8.0

// bySizes is the tin of two or three sizes, as sizes found them.
func bySizes(t string, m []string, depth float64, count int) Reading {
	unit := m[2] + m[4] + m[6]
	scale, why := 1.0, ""
	if strings.Contains(unit, "in") || strings.ContainsAny(unit, "\"”″'") {
		scale = measure.Inch
	} else if !strings.Contains(unit, "cm") && num(m[1]) <= 15 {
		scale = measure.Inch // 9 x 5 without a unit is inches
		if num(m[1]) > 13 && !rimmed.MatchString(t) {
			why = "Inches, or cm?"
		}
	}
	a, b, d := num(m[1])*scale, num(m[3])*scale, cmp.Or(num(m[5])*scale, depth)
	if a < b {
		a, b = b, a
	}
	shape := Sheet
	switch {
	case isRing(t):
		return Reading{Tin: sized(Ring, a, a, cmp.Or(d, b), count), Sized: true}
	case loafRE.MatchString(t) || a/b > 1.55 && a < 32 && b <= widestLoaf:
		shape = Loaf
	case a/b < 1.08:
		shape, a = Square, math.Sqrt(a*b)
		b = a
	}
	if rimmed.MatchString(t) {
		shape = Sheet
	}
	if strings.Contains(t, "round") && num(m[5]) == 0 {
		return Reading{Tin: sized(Round, a, a, b, count), Sized: true}
	}
	out := Reading{Tin: sized(shape, a, b, d, count), Sized: true, Why: why}
	if why != "" {
		out.Or = []Tin{sized(shape, a/measure.Inch, b/measure.Inch, d/measure.Inch, count)}
	}
	return out
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
	if s == Ring {
		depth = max(depth, 8.5)
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
	if n, ok := map[string]int{
		"two": 2, "pair of": 2, "couple of": 2, "three": 3, "four": 4, "five": 5, "six": 6, "eight": 8,
		"twelve": 12, "a dozen": 12, "twenty-four": 24,
	}[strings.ToLower(s)]; ok {
		return n
	}
	if n, err := strconv.Atoi(s); err == nil && n >= 1 && n <= 99 {
		return n
	}
	return 1
}
