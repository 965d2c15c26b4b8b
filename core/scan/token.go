package scan

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"kollaris/core/larder"
)

// token is a word of a text.
type token struct {
	from, to int
	low      string // in lower case
	norm     string // as the larder writes it: singular, one spelling, without marks
	gap      string // what parts it from the word before
	stop     bool   // a mark stands between it and the word before: no phrase goes over it
}

func digit(b byte) bool { return b >= '0' && b <= '9' }

// tokenise parts a text into words: letters, digits, apostrophes within a word, "%".
func tokenise(text string) []token {
	var out []token
	last := 0
	put := func(from, to int) {
		word := strings.Trim(text[from:to], "'’")
		if word == "" {
			return
		}
		from += strings.Index(text[from:to], word)
		to = from + len(word)
		t := token{from: from, to: to, low: strings.ToLower(word), gap: text[last:from]}
		t.norm = larder.Normal(word)
		if t.norm == "" {
			t.norm = t.low
		}
		t.stop = strings.ContainsAny(t.gap, ".,;:!?()[]{}/\n•·|—")
		out = append(out, t)
		last = to
	}
	from := -1
	for n := 0; n < len(text); {
		r, size := utf8.DecodeRuneInString(text[n:])
		word := unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.Is(unicode.Mn, r) || r == '%' || (r == '\'' || r == '’') && from >= 0 ||
			r == ':' && n > 0 && n+1 < len(text) && digit(text[n-1]) && digit(text[n+1]) // "1:1 blend"
		switch {
		case word && from < 0:
			from = n
		case !word && from >= 0:
			put(from, n)
			from = -1
		}
		n += size
	}
	if from >= 0 {
		put(from, len(text))
	}
	return out
}
