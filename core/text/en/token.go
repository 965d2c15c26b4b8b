// Package en understands English as recipes are written in it: numbers and times so far. What it finds are values with the places they
// stand at; nothing above it knows an English word for them.
package en

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// kind is what a token is made of.
type kind byte

const (
	word   kind = iota // letters
	figure             // 12, 2.5, 2,5
	part               // ½, 1/2: less than one
	mark               // any other sign
)

// token is a word, a figure or a sign.
type token struct {
	kind
	text     string // in lower case
	from, to int    // bytes
}

// vulgar are the values of the fraction signs.
var vulgar = map[rune]float64{
	'½': 1. / 2, '⅓': 1. / 3, '⅔': 2. / 3, '¼': 1. / 4, '¾': 3. / 4, '⅕': 1. / 5, '⅖': 2. / 5, '⅗': 3. / 5, '⅘': 4. / 5, '⅙': 1. / 6,
	'⅚': 5. / 6, '⅛': 1. / 8, '⅜': 3. / 8, '⅝': 5. / 8, '⅞': 7. / 8,
}

func digit(c rune) bool { return c >= '0' && c <= '9' }

// tokens cuts a text; blanks of every kind part tokens and are none.
func tokens(s string) []token {
	var out []token
	at := func(n int) rune {
		if n >= len(s) {
			return 0
		}
		c, _ := utf8.DecodeRuneInString(s[n:])
		return c
	}
	for n := 0; n < len(s); {
		c, size := utf8.DecodeRuneInString(s[n:])
		end, k := n+size, mark
		switch {
		case unicode.IsSpace(c) || c == '\u200b' || c == '\ufeff':
			n = end
			continue
		case vulgar[c] > 0:
			k = part
		case digit(c):
			k = figure
			for digit(at(end)) {
				end++
			}
			switch next := at(end); {
			case (next == '.' || next == ',') && digit(at(end+1)):
				for end++; digit(at(end)); {
					end++
				}
			case next == '/' && digit(at(end+1)):
				k = part
				for end++; digit(at(end)); {
					end++
				}
			}
		case unicode.IsLetter(c):
			k = word
			for c = at(end); unicode.IsLetter(c); c = at(end) {
				end += utf8.RuneLen(c)
			}
		}
		out = append(out, token{k, strings.ToLower(s[n:end]), n, end})
		n = end
	}
	return out
}
