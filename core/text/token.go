package text

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Kind is what a token is made of.
type Kind byte

// The kinds of tokens.
const (
	Word   Kind = iota // letters
	Figure             // 12, 2.5, 2,5
	Part               // ½, 1/2: less than one
	Mark               // any other sign
)

// Token is a word, a figure or a sign.
type Token struct {
	Kind
	Class           // of a word: of the lexicon that was asked
	Text     string // in lower case
	From, To int    // bytes
}

// Vulgar are the values of the fraction signs.
var Vulgar = map[rune]float64{
	'½': 1. / 2, '⅓': 1. / 3, '⅔': 2. / 3, '¼': 1. / 4, '¾': 3. / 4, '⅕': 1. / 5, '⅖': 2. / 5, '⅗': 3. / 5, '⅘': 4. / 5, '⅙': 1. / 6,
	'⅚': 5. / 6, '⅛': 1. / 8, '⅜': 3. / 8, '⅝': 5. / 8, '⅞': 7. / 8,
}

func digit(c rune) bool { return c >= '0' && c <= '9' }

// Tokens cuts a text; blanks of every kind part tokens and are none.
func Tokens(s string) []Token {
	out := make([]Token, 0, len(s)/5+2)
	at := func(n int) rune {
		if n >= len(s) {
			return 0
		}
		c, _ := utf8.DecodeRuneInString(s[n:])
		return c
	}
	for n := 0; n < len(s); {
		c, size := utf8.DecodeRuneInString(s[n:])
		end, k := n+size, Mark
		switch {
		case unicode.IsSpace(c) || widthless[c]:
			n = end
			continue
		case Vulgar[c] > 0:
			k = Part
		case digit(c):
			k = Figure
			for digit(at(end)) {
				end++
			}
			switch next := at(end); {
			case (next == '.' || next == ',') && digit(at(end+1)):
				for end++; digit(at(end)); {
					end++
				}
			case next == '/' && digit(at(end+1)):
				k = Part
				for end++; digit(at(end)); {
					end++
				}
			}
		case unicode.IsLetter(c):
			k = Word
			for c = at(end); unicode.IsLetter(c); c = at(end) {
				end += utf8.RuneLen(c)
			}
		}
		out = append(out, Token{Kind: k, Text: strings.ToLower(s[n:end]), From: n, To: end})
		n = end
	}
	return out
}
