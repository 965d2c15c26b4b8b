package measure

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"kollaris/core/phrase"
)

// Quantity is a number as a recipe writes it: one value, or a range. The zero
// value means that none was written.
type Quantity struct {
	Min float64 `json:"min"`
	Max float64 `json:"max"`
}

// One returns the quantity of a single value.
func One(x float64) Quantity { return Quantity{x, x} }

// IsZero reports whether no quantity was written.
func (q Quantity) IsZero() bool { return q == Quantity{} }

// IsRange reports whether the quantity has two ends.
func (q Quantity) IsRange() bool { return q.Min != q.Max }

// Mid returns the middle of a range, or the value.
func (q Quantity) Mid() float64 { return (q.Min + q.Max) / 2 }

// Scale multiplies both ends by k.
func (q Quantity) Scale(k float64) Quantity { return Quantity{q.Min * k, q.Max * k} }

// maxQuantity is the largest number taken from a recipe; anything above is a slip.
const maxQuantity = 1e6

// ScanQuantity reads a quantity at the start of s and returns it with the
// number of bytes it took, 0 when s does not start with one. It understands
//
//	2   2.5   2,5   1,000   1/2   1 1/2   1-1/2   1½   1 and 1/2   1 & ½
//	half   half a   a half   one and a half   three quarters of a   a dozen
//	half a dozen   a couple of   a few (3)   two   2-3   2 to 3   2 or 3
//
// The error, if any, says what cannot be used: a zero below the line, a
// negative amount, a number too large.
func ScanQuantity(s string) (q Quantity, n int, err error) {
	lead := len(s) - len(strings.TrimLeft(s, " \t\u00a0"))
	rest := s[lead:]
	if neg := strings.TrimLeft(rest, "-–−"); neg != rest {
		if x, m, _ := scanNumber(neg); m > 0 && !startsWithWordNumber(neg) {
			return Quantity{}, lead + len(
				rest,
			) - len(neg) + m, fmt.Errorf("a negative amount (%s) cannot be measured: try %s", plain(-x), plain(x))
		}
		return Quantity{}, 0, nil
	}
	a, m, err := scanNumber(rest)
	if m == 0 || err != nil {
		return Quantity{}, lead + m, err
	}
	q = One(a)
	if b, k, rerr := scanRangeTail(rest[m:]); k > 0 {
		if rerr != nil {
			return Quantity{}, lead + m + k, rerr
		}
		m += k
		q = Quantity{math.Min(a, b), math.Max(a, b)}
	}
	if q.Max > maxQuantity {
		return Quantity{}, lead + m, fmt.Errorf("%s is too much for a kitchen", phrase.Clip(strings.TrimSpace(rest[:m]), 30))
	}
	return q, lead + m, nil
}

// ParseQuantity reads s as one quantity and nothing else.
func ParseQuantity(s string) (Quantity, error) {
	s = strings.TrimSpace(s)
	if s == "" {
		return Quantity{}, fmt.Errorf("no amount: try a number such as 2, 1/2 or 1.5")
	}
	q, n, err := ScanQuantity(s)
	switch {
	case err != nil:
		return q, err
	case n == 0 || strings.TrimSpace(s[n:]) != "":
		return Quantity{}, fmt.Errorf("%q is not an amount: try a number such as 2, 1/2 or 1.5", s)
	}
	return q, nil
}

// scanRangeTail reads "- 3", "to 3", "or 3" after a first number.
func scanRangeTail(s string) (float64, int, error) {
	t := strings.TrimLeft(s, " \u00a0")
	lead := len(s) - len(t)
	for _, sep := range []string{"–", "—", "-", "to ", "or "} {
		if !strings.HasPrefix(t, sep) {
			continue
		}
		if lead == 0 && strings.HasSuffix(sep, " ") {
			return 0, 0, nil
		}
		u := strings.TrimLeft(t[len(sep):], " \u00a0")
		if r, _ := utf8.DecodeRuneInString(u); !unicode.IsDigit(r) && vulgar[r] == 0 && !startsWithWordNumber(u) {
			return 0, 0, nil
		}
		if startsWithWordNumber(u) && (strings.HasPrefix(u, "a ") || strings.HasPrefix(u, "an ")) {
			return 0, 0, nil // "2 or a handful"
		}
		x, m, err := scanNumber(u)
		if m == 0 {
			return 0, 0, nil
		}
		return x, lead + len(t) - len(u) + m, err
	}
	return 0, 0, nil
}

var vulgar = map[rune]float64{
	'¼': 1. / 4, '½': 1. / 2, '¾': 3. / 4, '⅓': 1. / 3, '⅔': 2. / 3, '⅛': 1. / 8, '⅜': 3. / 8, '⅝': 5. / 8, '⅞': 7. / 8,
	'⅕': 1. / 5, '⅖': 2. / 5, '⅗': 3. / 5, '⅘': 4. / 5, '⅙': 1. / 6, '⅚': 5. / 6,
}

// wordNumbers are tried longest first. A value of 1 for "a" counts only when
// a unit or a piece follows; the reader of lines decides that.
var wordNumbers = []struct {
	word  string
	value float64
}{
	{"three quarters of an", .75},
	{"three quarters of a", .75}, {"three-quarters of a", .75}, {"three quarters", .75}, {"three-quarters", .75},
	{"two thirds of a", 2. / 3}, {"two-thirds of a", 2. / 3}, {"two thirds", 2. / 3}, {"two-thirds", 2. / 3},
	{"one and three quarters", 1.75}, {"one and a quarter", 1.25}, {"one and a half", 1.5}, {"one-and-a-half", 1.5},
	{"two and a half", 2.5}, {"three and a half", 3.5}, {"four and a half", 4.5},
	{"one and a half dozen", 18},
	{"half a dozen", 6}, {"a half dozen", 6}, {"one dozen", 12}, {"two dozen", 24}, {"a dozen", 12}, {"dozen", 12},
	{"a couple of", 2}, {"a couple", 2}, {"couple of", 2}, {"a few", 3},
	{"one half of a", .5},
	{"one half", .5}, {"one-half", .5}, {"half of a", .5}, {"half an", .5}, {"half a", .5}, {"a half", .5}, {"half", .5},
	{"one quarter of a", .25},
	{"one quarter", .25}, {"one-quarter", .25}, {"one fourth", .25}, {"a quarter of an", .25}, {"a quarter of a", .25}, {"quarter of a", .25}, {"a quarter", .25}, {"quarter", .25},
	{"one third of a", 1. / 3},
	{"one third", 1. / 3}, {"one-third", 1. / 3}, {"a third of a", 1. / 3}, {"a third", 1. / 3},
	{"one", 1},
	{"two", 2}, {"three", 3}, {"four", 4}, {"five", 5}, {"six", 6}, {"seven", 7}, {"eight", 8}, {"nine", 9}, {"ten", 10},
	{"eleven", 11}, {"twelve", 12}, {"fifteen", 15}, {"twenty", 20}, {"an", 1}, {"a", 1},
}

// init puts "two and three-quarter" and its like before the rest.
func init() {
	type worded = struct {
		word  string
		value float64
	}
	var more []worded
	for n, whole := range []string{"one", "two", "three", "four", "five", "six"} {
		for _, part := range []worded{
			{"three quarters", .75}, {"three-quarters", .75}, {"three-quarter", .75}, {"three quarter", .75}, {"two thirds", 2. / 3}, {"two-thirds", 2. / 3},
			{"a quarter", .25}, {"one quarter", .25}, {"one-quarter", .25}, {"a half", .5}, {"one half", .5}, {"one-half", .5},
			{"a third", 1. / 3}, {"one third", 1. / 3}, {"one-third", 1. / 3},
		} {
			if whole != "one" || part.word != "a half" { // "one and a half dozen" is longer
				more = append(more, worded{whole + " and " + part.word, float64(n+1) + part.value})
			}
		}
	}
	for _, w := range more {
		wordNumbers = append([]struct {
			word  string
			value float64
		}{w}, wordNumbers...)
	}
}

func startsWithWordNumber(s string) bool { _, n := scanWord(s); return n > 0 }

func scanWord(s string) (float64, int) {
	for _, w := range wordNumbers {
		if len(s) >= len(w.word) && strings.EqualFold(s[:len(w.word)], w.word) {
			next, _ := utf8.DecodeRuneInString(s[len(w.word):])
			if !unicode.IsLetter(next) && next != '-' && next != '\'' && next != '.' {
				return w.value, len(w.word)
			}
		}
	}
	return 0, 0
}

// scanNumber reads one number, with an attached fraction if there is one.
func scanNumber(s string) (float64, int, error) {
	if r, size := utf8.DecodeRuneInString(s); vulgar[r] > 0 {
		return vulgar[r], size, nil
	}
	x, n := scanDecimal(s)
	if n == 0 {
		x, n = scanWord(s)
		return x, n, nil
	}
	if d, m, err := scanBelow(s[n:]); m > 0 || err != nil { // 1/2
		return x / d, n + m, err
	}
	if x == math.Trunc(x) && !strings.ContainsAny(s[:n], ".,") {
		f, m, err := scanFractionTail(s[n:]) // 1 1/2, 1½, 1 and 1/2, 1-1/2
		if err != nil {
			return x + f, n + m, err
		}
		x, n = x+f, n+m
	}
	if strings.HasPrefix(s[n:], " dozen ") {
		return 12 * x, n + len(" dozen"), nil
	}
	return x, n, nil
}

// scanBelow reads "/2" and returns 2.
func scanBelow(s string) (float64, int, error) {
	t := strings.TrimLeft(s, " ")
	size := 0
	for _, bar := range []string{"/", "⁄", "∕"} {
		if strings.HasPrefix(t, bar) {
			size = len(bar)
		}
	}
	if size == 0 {
		return 1, 0, nil
	}
	u := strings.TrimLeft(t[size:], " ")
	d, m := scanDecimal(u)
	if m == 0 || strings.ContainsAny(u[:m], ".,") {
		return 1, 0, nil
	}
	n := len(s) - len(u) + m
	if d == 0 {
		return 1, n, fmt.Errorf("nothing can be divided by 0: try 1/2")
	}
	return d, n, nil
}

func scanFractionTail(s string) (float64, int, error) {
	t := strings.TrimLeft(s, " \u00a0")
	gap := len(s) - len(t)
	for _, joint := range []string{"and ", "& ", "-", "+ "} {
		if strings.HasPrefix(t, joint) && (gap > 0 || joint == "-") && !(gap > 0 && joint == "-") {
			t = strings.TrimLeft(t[len(joint):], " ")
			break
		}
	}
	n := len(s) - len(t)
	if r, size := utf8.DecodeRuneInString(t); vulgar[r] > 0 {
		return vulgar[r], n + size, nil
	}
	a, m := scanDecimal(t)
	if m == 0 || n == 0 {
		return 0, 0, nil
	}
	d, k, err := scanBelow(t[m:])
	if err != nil {
		return 0, n + m + k, err
	}
	if k == 0 || a >= d {
		return 0, 0, nil
	}
	return a / d, n + m + k, nil
}

// scanDecimal reads digits with a decimal point or comma; a comma or thin
// space before exactly three digits groups thousands.
func scanDecimal(s string) (float64, int) {
	i, x := 0, 0.0
	for i < len(s) && isDigit(s[i]) {
		x = x*10 + float64(s[i]-'0')
		i++
	}
	if i < len(s) && s[i] == ',' && i > 0 && i <= 3 && s[0] != '0' && digits(s[i+1:]) == 3 {
		for _, c := range s[i+1 : i+4] {
			x = x*10 + float64(c-'0')
		}
		return math.Min(x, 2*maxQuantity), i + 4
	}
	if i+1 < len(s) && (s[i] == '.' || s[i] == ',') && isDigit(s[i+1]) {
		n := digits(s[i+1:])
		x, _ = strconv.ParseFloat(s[:i]+"."+s[i+1:i+1+n], 64) // digits alone always read
		i += 1 + n
	}
	return math.Min(x, 2*maxQuantity), i
}

func isDigit(c byte) bool { return c >= '0' && c <= '9' }

func digits(s string) int {
	n := 0
	for n < len(s) && isDigit(s[n]) {
		n++
	}
	return n
}
