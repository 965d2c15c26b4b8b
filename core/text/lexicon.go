package text

import (
	"encoding/csv"
	"fmt"
	"strings"
)

// Class is a set of the kinds of words that a lexicon tells.
type Class uint32

// Lexicon is the words of a language with what each may be: a verb, a tool, a state. One word may be several things.
type Lexicon struct {
	words   map[string]Class
	classes map[string]Class // by name
}

// ReadLexicon reads a table of words: words parted by blanks, their classes, source. Errors name the file and line.
func ReadLexicon(name, file string) (*Lexicon, error) {
	rows, err := csv.NewReader(strings.NewReader(file)).ReadAll()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	l := &Lexicon{words: map[string]Class{}, classes: map[string]Class{}}
	for n, row := range rows[1:] {
		if row[2] == "" || row[1] == "" {
			return nil, fmt.Errorf("%s:%d: want classes and a source", name, n+2)
		}
		var of Class
		for _, c := range strings.Fields(row[1]) {
			if l.classes[c] == 0 {
				if len(l.classes) == 32 {
					return nil, fmt.Errorf("%s:%d: %s is one class too many", name, n+2, c)
				}
				l.classes[c] = 1 << len(l.classes)
			}
			of |= l.classes[c]
		}
		for _, w := range strings.Fields(row[0]) {
			if l.words[w] != 0 {
				return nil, fmt.Errorf("%s:%d: %s stands there twice", name, n+2, w)
			}
			l.words[w] = of
		}
	}
	return l, nil
}

// Class is a class by its name; 0 for none.
func (l *Lexicon) Class(name string) Class { return l.classes[name] }

// Is reports whether a word is of a class.
func (l *Lexicon) Is(word string, c Class) bool { return l.words[word]&c != 0 }

// Words cuts a text into tokens that know their classes. A hyphen within a word is none: "egg-wash" is "egg wash"; what an apostrophe cuts off
// a word goes with it: "don't", "cake's" is "cake".
func (l *Lexicon) Words(s string) []Token {
	all := Tokens(s)
	out := all[:0]
	for n := 0; n < len(all); n++ {
		t := all[n]
		within := n > 0 && n+1 < len(all) && all[n-1].Kind == Word && all[n+1].Kind == Word && all[n-1].To == t.From && t.To == all[n+1].From
		switch {
		case within && (t.Text == "-" || t.Text == "‑"):
			continue
		case within && (t.Text == "'" || t.Text == "’") && len(out) > 0:
			last := &out[len(out)-1]
			last.To = all[n+1].To
			if all[n+1].Text != "s" {
				last.Text += "'" + all[n+1].Text
			}
			last.Class = l.words[last.Text]
			n++
			continue
		case t.Kind == Word:
			t.Class = l.words[t.Text]
		}
		out = append(out, t)
	}
	return out
}

// Is reports whether a token may be of a class.
func (t *Token) Is(c Class) bool { return t.Class&c != 0 }
