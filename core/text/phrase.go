package text

import (
	"fmt"
	"strings"
)

// Phrase is what words may say, as a row of a table has it: alternatives parted by "|", each a run of
//
//	word       that word; "bak*" any that begins so
//	a/b/c      one of these
//	@tin       a word of a class of the lexicon
//	#          a number; #3 one of three digits
//	word?      or nothing: so with any of these
//	~          up to three tokens of the same sentence
//	..         any number of them
//	^ and $    the beginning, and the end, behind which only signs stand
//
// Everything else is a sign that stands there: "," or "%".
type Phrase struct {
	runs  [][]item
	begun bool // all runs begin at the beginning
}

type item struct {
	words  []string
	starts []string // "bak*"
	class  Class
	number bool
	digits int // of the figure asked for: "#3"
	maybe  bool
	gap    int // most tokens between; -1 any number
	begin  bool
	end    bool
}

// near is how many tokens "~" may stand for.
const near = 3

// ReadPhrase reads a phrase as written in a table.
func (l *Lexicon) ReadPhrase(s string) (*Phrase, error) {
	p := &Phrase{begun: true}
	for _, alt := range strings.Split(s, "|") {
		var run []item
		for _, f := range strings.Fields(alt) {
			it := item{}
			if len(f) > 1 && strings.HasSuffix(f, "?") {
				it.maybe, f = true, strings.TrimSuffix(f, "?")
			}
			switch {
			case f == "~":
				it.gap = near
			case f == "..":
				it.gap = -1
			case f == "^":
				it.begin = true
			case f == "$":
				it.end = true
			default:
				for _, w := range strings.Split(f, "/") {
					switch {
					case w == "#":
						it.number = true
					case w == "#3":
						it.digits = 3
					case strings.HasPrefix(w, "@"):
						c := l.Class(w[1:])
						if c == 0 {
							return nil, fmt.Errorf("%s is no class of the lexicon", w)
						}
						it.class |= c
					case strings.HasSuffix(w, "*"):
						it.starts = append(it.starts, w[:len(w)-1])
					case w == "":
						return nil, fmt.Errorf("%q holds nothing between two strokes", f)
					default:
						it.words = append(it.words, w)
					}
				}
			}
			run = append(run, it)
		}
		if len(run) == 0 {
			return nil, fmt.Errorf("%q has an alternative without words", s)
		}
		p.begun = p.begun && run[0].begin
		p.runs = append(p.runs, run)
	}
	return p, nil
}

// is reports whether a token is what an item asks for.
func (it *item) is(t *Token) bool {
	if t.Class&it.class != 0 || it.number && (t.Kind == Figure || t.Kind == Part) || it.digits > 0 && t.Kind == Figure && len(t.Text) == it.digits {
		return true
	}
	for _, w := range it.words {
		if w == t.Text {
			return true
		}
	}
	for _, w := range it.starts {
		if strings.HasPrefix(t.Text, w) {
			return true
		}
	}
	return false
}

// Match reports whether a phrase stands in tokens.
func (p *Phrase) Match(t []Token) bool {
	_, _, ok := p.Find(t, 0)
	return ok
}

// Find is where a phrase stands first, from a token on: its first token and the one after its last.
func (p *Phrase) Find(t []Token, from int) (first, end int, ok bool) {
	if p.begun && from > 0 {
		return 0, 0, false
	}
	for n := from; n < len(t) || n == from; n++ {
		for _, run := range p.runs {
			if end, ok := along(run, t, n); ok {
				return n, end, true
			}
		}
		if p.begun {
			return 0, 0, false
		}
	}
	return 0, 0, false
}

// At is the token after a phrase that stands at a token; ok is false where none does.
func (p *Phrase) At(t []Token, n int) (end int, ok bool) {
	for _, run := range p.runs {
		if to, fits := along(run, t, n); fits && (!ok || to > end) {
			end, ok = to, true
		}
	}
	return end, ok
}

// ends reports whether a sentence ends at a sign.
func ends(t *Token) bool {
	return t.Kind == Mark && (t.Text == "." || t.Text == ";" || t.Text == "!" || t.Text == "?")
}

// along goes along a run from the token at n.
func along(run []item, t []Token, n int) (end int, ok bool) {
	if len(run) == 0 {
		return n, true
	}
	it := &run[0]
	switch {
	case it.begin:
		if n > 0 {
			return 0, false
		}
		return along(run[1:], t, n)
	case it.end:
		for k := n; k < len(t); k++ {
			if t[k].Kind != Mark {
				return 0, false
			}
		}
		return n, len(run) == 1 && n <= len(t)
	case it.gap != 0:
		most := len(t) - n
		if it.gap > 0 {
			most = min(most, it.gap)
		}
		for k := 0; k <= most; k++ {
			if k > 0 && it.gap > 0 && ends(&t[n+k-1]) {
				return 0, false // a sentence ends between
			}
			if end, ok = along(run[1:], t, n+k); ok {
				return end, true
			}
		}
		return 0, false
	}
	if n < len(t) && it.is(&t[n]) {
		if end, ok = along(run[1:], t, n+1); ok {
			return end, true
		}
	}
	if it.maybe {
		return along(run[1:], t, n)
	}
	return 0, false
}
