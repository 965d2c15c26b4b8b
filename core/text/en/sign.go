package en

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"strings"

	"kollaris/core/text"
)

//go:embed data/lexicon.csv
var lexiconFile string

//go:embed data/sign.csv
var signFile string

// lexicon is what words may be.
var lexicon = must(text.ReadLexicon("text/en/data/lexicon.csv", lexiconFile))

func must[T any](x T, err error) T {
	if err != nil {
		panic(err)
	}
	return x
}

// signs are the small phrases by what they say.
var signs = must(readSigns(signFile))

func readSigns(file string) (map[string]*text.Phrase, error) {
	rows, err := csv.NewReader(strings.NewReader(file)).ReadAll()
	if err != nil {
		return nil, fmt.Errorf("text/en/data/sign.csv: %w", err)
	}
	out := map[string]*text.Phrase{}
	for n, row := range rows[1:] {
		p, err := lexicon.ReadPhrase(row[1])
		switch {
		case err != nil:
			return nil, fmt.Errorf("text/en/data/sign.csv:%d: %w", n+2, err)
		case out[row[0]] != nil:
			return nil, fmt.Errorf("text/en/data/sign.csv:%d: %s stands there twice", n+2, row[0])
		case row[2] == "":
			return nil, fmt.Errorf("text/en/data/sign.csv:%d: want a source", n+2)
		}
		out[row[0]] = p
	}
	return out, nil
}

// sign is a phrase by what it says; one that no row has is a mistake of ours.
func sign(name string) *text.Phrase {
	p := signs[name]
	if p == nil {
		panic("text/en/data/sign.csv has no " + name)
	}
	return p
}

// Words are a text's tokens, which know what they may be.
func Words(s string) []text.Token { return lexicon.Words(s) }

// Sign is something that words may say, by a row of data/sign.csv.
type Sign struct{ *text.Phrase }

// SignOf is a sign by its name; it panics where the table has none, as a package begins.
func SignOf(name string) Sign { return Sign{sign(name)} }

// Alone is a sign of a phrase that a table beside ours has: a row of devices. Errors are those of the phrase.
func Alone(phrase string) (Sign, error) {
	p, err := lexicon.ReadPhrase(phrase)
	return Sign{p}, err
}

// Beside reports whether a text says it anywhere but where it says another: "oven", and not "oven gloves".
func (s Sign) Beside(other Sign, in string) bool { return s.BesideIn(other, Words(in)) }

// BesideIn is Beside of words.
func (s Sign) BesideIn(other Sign, t []text.Token) bool {
	taken := make([]bool, len(t))
	for n := range t {
		if end, ok := other.At(t, n); ok {
			for k := n; k < end; k++ {
				taken[k] = true
			}
		}
	}
	for n := range t {
		if _, ok := s.At(t, n); ok && !taken[n] {
			return true
		}
	}
	return false
}

// In reports whether a text says it.
func (s Sign) In(text string) bool { return s.Match(Words(text)) }

// Place is where a text says it, in bytes; ok is false where it does not.
func (s Sign) Place(in string) (from, to int, ok bool) {
	t := Words(in)
	first, end, ok := s.Find(t, 0)
	if !ok || end == first {
		return 0, 0, false
	}
	return t[first].From, t[end-1].To, true
}
