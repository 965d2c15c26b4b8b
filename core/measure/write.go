package measure

import (
	"math"
	"strconv"
	"strings"
)

// plain writes x with as few digits as it needs, at most three decimals.
func plain(x float64) string {
	return strings.TrimSuffix(strings.TrimRight(strconv.FormatFloat(x, 'f', 3, 64), "0"), ".")
}

// Digits writes x with n significant digits and no exponent: 0.463, 14, 1235.
func Digits(x float64, n int) string {
	if x == 0 || math.IsNaN(x) || math.IsInf(x, 0) {
		return "0"
	}
	places := n - 1 - int(math.Floor(math.Log10(math.Abs(x))))
	if places < 0 {
		places = 0
	}
	s := strconv.FormatFloat(x, 'f', places, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimSuffix(strings.TrimRight(s, "0"), ".")
	}
	return s
}

// Nearest rounds to a whole number, half away from zero, and takes what the last bits of
// a sum leave a hair below a half for the half: they must not decide what is printed.
func Nearest(x float64) float64 { return math.Round(x + math.Copysign(1e-9, x)) }

// String writes a mass as a scale shows it: a tenth below 10 g, whole grams
// above, kilograms from 10 kg on.
func (g Grams) String() string {
	switch x := float64(g); {
	case math.Abs(x) < 10:
		return plain(Nearest(x*10)/10) + " g"
	case math.Abs(x) < 10000:
		return plain(Nearest(x)) + " g"
	default:
		return plain(Nearest(x/10)/100) + " kg"
	}
}

var fractions = []struct {
	value float64
	text  string
}{{0, ""}, {1. / 8, "⅛"}, {1. / 4, "¼"}, {1. / 3, "⅓"}, {1. / 2, "½"}, {2. / 3, "⅔"}, {3. / 4, "¾"}, {1, ""}}

// Fraction writes x as a whole number and the nearest kitchen fraction (⅛, ¼,
// ⅓, ½, ⅔, ¾), and returns the value it wrote.
func Fraction(x float64) (string, float64) {
	if x < 0 {
		return "0", 0
	}
	whole, part := math.Modf(x)
	best := fractions[0]
	for _, f := range fractions[1:] {
		if math.Abs(f.value-part) < math.Abs(best.value-part) {
			best = f
		}
	}
	if best.value == 1 {
		whole, best = whole+1, fractions[0]
	}
	switch {
	case whole == 0 && best.text == "":
		return "0", 0
	case whole == 0:
		return best.text, best.value
	}
	return plain(whole) + best.text, whole + best.value
}

// String writes a quantity as it would stand in a recipe.
func (q Quantity) String() string {
	if q.IsZero() {
		return ""
	}
	a := amountText(q.Min)
	if q.IsRange() {
		return a + "–" + amountText(q.Max)
	}
	return a
}

func amountText(x float64) string {
	if text, v := Fraction(x); math.Abs(v-x) < 0.006 {
		return text
	}
	return plain(math.Round(x*100) / 100)
}

// Spoons writes a volume in cups and spoons the way a cook would measure it
// ("1 cup + 2 tbsp", "¾ tsp") and returns the volume that stands for. What is
// left below an eighth of a teaspoon is dropped.
func (k Kitchen) Spoons(v Millilitres) (string, Millilitres) {
	cup, tbsp, tsp := float64(k.Cup), float64(k.Tablespoon), float64(k.Teaspoon())
	x := float64(v)
	var words []string
	var sum float64
	add := func(text string, n, unit float64, name string) {
		if n > 0 {
			if name == "cup" && n > 1 {
				name = "cups"
			}
			words = append(words, text+" "+name)
			sum += n * unit
		}
	}
	if x >= 0.24*cup {
		// the largest of ¼ ⅓ ½ ⅔ ¾ that leaves a whole number of tablespoons or little else
		whole := math.Floor(x / cup)
		bestErr, bestN, bestSpoons := math.Inf(1), 0.0, 0.0
		for _, f := range []float64{0, .25, 1. / 3, .5, 2. / 3, .75, 1} {
			n := whole + f
			left := x - n*cup
			spoons := math.Max(0, Nearest(left/tbsp))
			if n == 0 || left < -0.01*cup-1 || spoons > 3 {
				continue
			}
			miss := math.Abs(x-n*cup-spoons*tbsp) + 0.6*spoons // fewer spoons are better
			if miss < bestErr {
				bestErr, bestN, bestSpoons = miss, n, spoons
			}
		}
		text, _ := Fraction(bestN)
		add(text, bestN, cup, "cup")
		add(plain(bestSpoons), bestSpoons, tbsp, "tbsp")
		return strings.Join(words, " + "), Millilitres(sum)
	}
	if x >= 0.955*tbsp {
		n := math.Floor(x/tbsp + 0.045) // what is short of a spoon by less than an eighth of a teaspoon is that spoon
		if half := x - n*tbsp; half > 0.4*tbsp && half < 0.6*tbsp {
			text, v := Fraction(n + 0.5)
			add(text, v, tbsp, "tbsp")
			return strings.Join(words, " + "), Millilitres(sum)
		}
		add(plain(n), n, tbsp, "tbsp")
		x -= n * tbsp
	}
	n := Nearest(x/tsp*4) / 4
	if x < 0.45*tsp && len(words) == 0 {
		n = Nearest(x/tsp*8) / 8
	}
	if n == 0 && len(words) == 0 && x >= tsp/32 {
		return "a pinch", Millilitres(tsp / 16)
	}
	if n == 0.375 { // no spoon of its own
		add("¼", 0.25, tsp, "tsp")
		n = 0.125
	}
	text, n := Fraction(n)
	add(text, n, tsp, "tsp")
	return strings.Join(words, " + "), Millilitres(sum)
}
