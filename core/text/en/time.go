package en

import (
	"strings"

	"kollaris/core/text"
)

// Time is a length of time that a text gives, or a range of them, in minutes, and the bytes it stands at.
type Time struct {
	Min, Max float64
	From, To int
}

// mostTimes is how many times are looked for in one text: more are no recipe.
const mostTimes = 400

// Times finds the lengths of time in a text, in their order: "50-55 min", "1½ to 2 hours", "three quarters of an hour", "50 mins to 1 hour",
// "1h20", "an hour and a quarter". Figures without a unit are none; nights and days neither.
func Times(s string) []Time {
	var out []Time
	if !strings.ContainsAny(s, "'’′") && !anyUnit(s) {
		return nil
	}
	t := stream(text.Tokens(s))
	for n := 0; n < len(t) && len(out) < mostTimes; {
		low, high, end := t.timeRange(n)
		if end == 0 || high <= 0 {
			n++
			continue
		}
		out = append(out, Time{min(low, high), max(low, high), t[n].From, t[end-1].To})
		n = end
	}
	return out
}

// anyUnit reports whether a text may hold a unit of time at all.
func anyUnit(s string) bool {
	for _, w := range []string{"min", "our", "h", "MIN", "H", "Min"} {
		if strings.Contains(s, w) {
			return true
		}
	}
	return false
}

// unit is how many minutes a unit of time has; 0 for none. Letters alone count behind a figure.
func (t stream) unit(n int) float64 {
	switch {
	case t.is(n, "hour", "hours", "hr", "hrs"), t.is(n, "h") && n > 0 && t[n-1].Kind != text.Word:
		return 60
	case t.is(n, "minute", "minutes", "min", "mins"), t.is(n, "'", "’", "′") && n > 0 && t[n-1].Kind == text.Figure && t[n-1].To == t[n].From:
		return 1
	}
	return 0
}

// hyphen goes over a hyphen between a number and its unit: "40-minute".
func (t stream) hyphen(n int) int {
	if t.is(n, "-", "‑") && t.unit(n+1) > 0 {
		return n + 1
	}
	return n
}

// timeOf reads one length of time at n.
func (t stream) timeOf(n int) (minutes float64, end int) {
	x, at := t.number(n)
	per := t.unit(t.hyphen(at))
	if at == 0 || per == 0 {
		x, at = t.ofOne(n)
		per = t.unit(t.hyphen(at))
	}
	if at == 0 || per == 0 {
		return 0, 0
	}
	at = t.hyphen(at)
	minutes, end = x*per, at+1
	if t.is(end, ".") && t.is(end-1, "hr", "hrs", "min", "mins") && end+1 < len(t) && t[end+1].Kind != text.Word { // "1 hr. 10 min."
		end++
	}
	if per != 60 {
		return minutes, end
	}
	if share, to := t.andShare(end); to > 0 { // "an hour and a half"
		return minutes + 60*share, to
	}
	more := end
	if t.is(more, "and") {
		more++
	}
	if y, to := t.number(more); to > 0 && t.unit(t.hyphen(to)) == 1 {
		return minutes + y, t.hyphen(to) + 1
	} else if to > 0 && t.is(to, "m") || to > 0 && t.is(end-1, "h") && t[end-1].To == t[more].From { // "1h 20m", "1h20"
		if t.is(to, "m") {
			to++
		}
		return minutes + y, to
	} else if to == more+1 && t[more].Kind == text.Figure && y >= 5 && y < 60 && (to == len(t) || t[to].Kind == text.Mark && !t.is(to, "-", "–", "%", "°", "/")) {
		return minutes + y, to // "1 hr 10."
	}
	return minutes, end
}

// ofOne reads the number of "an hour", "half an hour", "a quarter of an hour", "three quarters of an hour", "another hour".
func (t stream) ofOne(n int) (x float64, end int) {
	one := func(at int) int { // "of an", "an", "of one", or nothing before the unit
		if t.is(at, "of") {
			at++
		}
		if t.is(at, "a", "an", "one") {
			at++
		}
		return at
	}
	times, at := 1.0, n
	switch {
	case at < len(t) && small[t[at].Text] > 1 && small[t[at].Text] < 4:
		times, at = small[t[at].Text], at+1
		if t.is(at, "-") {
			at++
		}
	case t.is(at, "a") && at+1 < len(t) && shares[t[at+1].Text] > 0:
		at++
	}
	if at < len(t) && shares[t[at].Text] > 0 {
		return times * shares[t[at].Text], one(at + 1)
	}
	switch {
	case t.is(n, "a", "an", "another"):
		end = n + 1
	}
	if end > 0 && t.is(n, "a") && t.is(end, "further", "good", "full") {
		end++
	}
	return 1, end
}

// timeRange reads a length of time, or two of them, or two numbers with one unit.
func (t stream) timeRange(n int) (low, high float64, end int) {
	to := []string{"to", "-", "–", "—", "‑", "−", "or"}
	if low, end = t.timeOf(n); end > 0 {
		if t.is(end, to...) {
			if high, next := t.timeOf(end + 1); next > 0 {
				return low, high, next
			}
		}
		return low, low, end
	}
	a, at := t.number(n)
	if at == 0 {
		return 0, 0, 0
	}
	if t.is(n-1, "between") {
		to = append(to, "and")
	}
	if !t.is(at, to...) {
		return 0, 0, 0
	}
	b, after := t.number(at + 1)
	if after == 0 {
		return 0, 0, 0
	}
	after = t.hyphen(after)
	per := t.unit(after)
	if per == 0 {
		return 0, 0, 0
	}
	high, end = t.timeOf(at + 1) // with what follows: "1 to 1 hour 10"
	if end == 0 {
		high, end = b*per, after+1
	}
	return a * per, high, end
}
