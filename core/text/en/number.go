package en

import (
	"strconv"
	"strings"
	"unicode/utf8"

	"kollaris/core/text"
)

// small are the numbers that people write out, and tens those that another may follow: "forty-five".
var (
	small = map[string]float64{
		"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12,
		"thirteen": 13, "fourteen": 14, "fifteen": 15, "sixteen": 16, "seventeen": 17, "eighteen": 18, "nineteen": 19,
	}
	tens = map[string]float64{"twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "seventy": 70, "eighty": 80, "ninety": 90}
	// shares are parts of one: "half an hour", "three quarters of an hour".
	shares = map[string]float64{"half": 1. / 2, "quarter": 1. / 4, "quarters": 1. / 4, "third": 1. / 3, "thirds": 1. / 3}
)

// stream is a text while it is gone through.
type stream []text.Token

// is reports whether the token at n is one of some words or signs.
func (t stream) is(n int, words ...string) bool {
	if n < 0 || n >= len(t) {
		return false
	}
	for _, w := range words {
		if t[n].Text == w {
			return true
		}
	}
	return false
}

// value is that of a figure or a fraction.
func value(t text.Token) float64 {
	if c, _ := utf8.DecodeRuneInString(t.Text); text.Vulgar[c] > 0 {
		return text.Vulgar[c]
	}
	if over, under, ok := strings.Cut(t.Text, "/"); ok {
		a, _ := strconv.ParseFloat(over, 64)
		b, _ := strconv.ParseFloat(under, 64)
		if b == 0 {
			return 0
		}
		return a / b
	}
	x, _ := strconv.ParseFloat(strings.Replace(t.Text, ",", ".", 1), 64)
	return x
}

// number reads a number at n, and gives where it ends: 0 where there is none. Read are "12", "1½", "1 1/2", "½", "forty-five", "one and a
// half", "half a dozen", "two dozen".
func (t stream) number(n int) (x float64, end int) {
	if n >= len(t) {
		return 0, 0
	}
	dozen := func(x float64, end int) (float64, int) {
		if t.is(end, "dozen") {
			return 12 * x, end + 1
		}
		return x, end
	}
	switch w := t[n]; {
	case w.Kind == text.Part:
		return dozen(value(w), n+1)
	case w.Kind == text.Figure:
		x, end = value(w), n+1
		if end < len(t) && t[end].Kind == text.Part && value(t[end]) < 1 {
			return x + value(t[end]), end + 1
		}
	case tens[w.Text] > 0:
		x, end = tens[w.Text], n+1
		at := end
		if t.is(at, "-") {
			at++
		}
		if at < len(t) && small[t[at].Text] > 0 && small[t[at].Text] < 10 {
			x, end = x+small[t[at].Text], at+1
		}
	case small[w.Text] > 0:
		x, end = small[w.Text], n+1
	case (w.Text == "a" || w.Text == "half") && (t.is(n+1, "dozen") || w.Text == "half" && t.is(n+1, "a") && t.is(n+2, "dozen")):
		x = 12
		if w.Text == "half" {
			x = 6
		}
		for end = n + 1; !t.is(end-1, "dozen"); {
			end++
		}
		return x, end
	default:
		return 0, 0
	}
	if half, to := t.andShare(end); to > 0 {
		return x + half, to
	}
	return dozen(x, end)
}

// andShare reads "and a half", "and three quarters".
func (t stream) andShare(n int) (x float64, end int) {
	if !t.is(n, "and") {
		return 0, 0
	}
	times, at := 1.0, n+1
	switch {
	case t.is(at, "a"):
		at++
	case at < len(t) && small[t[at].Text] > 1 && small[t[at].Text] < 4:
		times = small[t[at].Text]
		at++
	}
	if at < len(t) && shares[t[at].Text] > 0 {
		return times * shares[t[at].Text], at + 1
	}
	return 0, 0
}
