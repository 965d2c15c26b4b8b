package reader

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"kollaris/core/pattern"
	"kollaris/core/text/en"
)

// Of wrapped lines, as mail, scans and PDF have them: how long the longest line of a block may be, and how long one must be that goes on in
// the next, in letters. Source: practice, mail wraps at 60 to 78.
const (
	mostWrapped  = 100
	leastWrapped = 36
)

var (
	endsSentence = pattern.Must(`[.!?:;][)”"’']?$`)
	goesOn       = pattern.Must(`(?i)(?:,|\b(?:a|an|the|and|or|of|to|for|at|in|into|on|onto|with|from|until|by|about|over|then|your|each|plus)|\d|[–—-])$`)
	hangs        = pattern.Must(`^(?:to|and|or|with|until|for|in|into|at|of|on|from|then|plus|minutes?|mins?|hours?|deep|wide|tins?|pans?)\b`)
	inside       = pattern.Must(`\pL{3}[.!?] [A-Z]`)
	startsList   = pattern.Must(`^(?:[-*•·>|#☐□]|\d{1,2}[.)] )`)
)

// unwrapped joins lines that were broken at a column only: a blank takes the place of the break, so that all stands where it stood.
func unwrapped(text string) string {
	lines := strings.SplitAfter(text, "\n")
	if len(lines) < 3 {
		return text
	}
	column := columnOf(lines)
	var out strings.Builder
	out.Grow(len(text))
	length := func(s string) int { return utf8.RuneCountInString(strings.TrimRightFunc(s, unicode.IsSpace)) }
	for from := 0; from < len(lines); {
		to, widest := from, 0
		for to < len(lines) && strings.TrimSpace(lines[to]) != "" {
			widest = max(widest, length(lines[to]))
			to++
		}
		if column > 0 {
			widest = column
		}
		prose := false
		for n := from; n < to; n++ {
			ln := strings.TrimRightFunc(lines[n], unicode.IsSpace)
			prose = prose && n > from || tellsAfterNumber(ln) || inside.MatchString(ln)
			joined := n+1 < to && widest <= mostWrapped && wrapsInto(ln, lines[n+1], widest, prose, column > 0)
			if !joined {
				out.WriteString(lines[n])
				prose = false
				continue
			}
			out.WriteString(ln)
			out.WriteString(strings.Repeat(" ", len(lines[n])-len(ln)))
		}
		if to < len(lines) {
			out.WriteString(lines[to])
		}
		from = to + 1
	}
	return out.String()
}

// tellsAfterNumber reports whether a line tells to do something, behind its number.
func tellsAfterNumber(ln string) bool {
	ln = strings.TrimSpace(ln)
	return en.Tells(ln[len(numbered.FindString(ln)):])
}

// columnOf is the column at which all of a text was broken, in letters: where some line goes on in the next by its words, every line that
// is as long is broken, too, even at the end of a sentence. 0 where nothing tells that.
func columnOf(lines []string) int {
	widest := 0
	for _, ln := range lines {
		widest = max(widest, utf8.RuneCountInString(strings.TrimRightFunc(ln, unicode.IsSpace)))
	}
	if widest > mostWrapped || widest < leastWrapped {
		return 0
	}
	for n := range lines[:len(lines)-1] {
		ln, next := strings.TrimRightFunc(lines[n], unicode.IsSpace), lines[n+1]
		word, _, _ := strings.Cut(strings.TrimSpace(next), " ")
		full := utf8.RuneCountInString(ln)+1+utf8.RuneCountInString(word) > widest
		c, _ := utf8.DecodeRuneInString(word)
		if word != "" && full && unicode.IsLower(c) && !endsSentence.MatchString(ln) && (goesOn.MatchString(ln) || hangs.MatchString(next) || inside.MatchString(ln) || tellsAfterNumber(ln) && !en.Tells(next)) {
			return widest
		}
	}
	return 0
}

// wrapsInto reports whether a line was broken at the column that the widest of its block tells, and goes on in the next.
func wrapsInto(ln, next string, widest int, prose, column bool) bool {
	word, _, _ := strings.Cut(strings.TrimSpace(next), " ")
	long := utf8.RuneCountInString(ln)
	if word == "" || next[0] == ' ' || next[0] == '\t' || long < leastWrapped || long+1+utf8.RuneCountInString(word) <= widest ||
		endsSentence.MatchString(ln) && !(prose && column) || startsList.MatchString(next) {
		return false
	}
	c, _ := utf8.DecodeRuneInString(word)
	switch {
	case column && prose:
		return true
	case column && unicode.IsLower(c) && strings.Count(ln, ",") > 1 && !en.Tells(next): // a list in one line
		return true
	case goesOn.MatchString(ln), hangs.MatchString(next), strings.Count(ln, "(") > strings.Count(ln, ")"):
		return prose || unicode.IsLower(c) || goesOn.MatchString(ln) && unicode.IsDigit(c) && prose
	case prose:
		return unicode.IsLower(c) && !en.Tells(next) || unicode.IsDigit(c) // a line that tells to do something begins itself
	}
	return false
}
