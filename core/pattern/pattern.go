// Package pattern is regexp with a look before the leap: of each expression it is known which words stand in whatever it
// matches ("bak", "roast" or "grill"), and a text with none of them is answered without asking the expression. Most lines hold none,
// so that reading a recipe takes a fraction of the time; what is answered is the same.
//
// Which words must be there follows from the parsed expression. Reference: Russ Cox, Regular Expression Matching with a
// Trigram Index (2012), for the sets; here whole words stand for trigrams, since there is no index to ask.
package pattern

import (
	"regexp"
	"regexp/syntax"
	"slices"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"
)

// Pattern is a compiled expression.
type Pattern struct {
	*regexp.Regexp
	once  sync.Once
	at    [256]uint8 // by its first byte, in lower case, where in words a word stands; 0 none
	words [][]string // of which one stands in whatever matches; nil where nothing is sure
}

// Must compiles an expression, or panics.
func Must(expr string) *Pattern { return &Pattern{Regexp: regexp.MustCompile(expr)} }

// look finds the words, when they are asked for first.
func (p *Pattern) look() {
	tree, err := syntax.Parse(p.String(), syntax.Perl)
	if err != nil {
		return // it was parsed when it was compiled
	}
	words := least(needOf(tree.Simplify()).must())
	if len(words) == 0 || begins(tree) { // what is held to the beginning is answered there
		return
	}
	p.words = [][]string{nil}
	for _, w := range words {
		if p.at[w[0]] == 0 {
			p.at[w[0]] = uint8(len(p.words)) // at most as many as there are bytes in lower case
			p.words = append(p.words, nil)
		}
		p.words[p.at[w[0]]] = append(p.words[p.at[w[0]]], w)
	}
}

// may reports whether a text holds one of the words.
func (p *Pattern) may(s string) bool {
	p.once.Do(p.look)
	if p.words == nil {
		return true
	}
	for i := 0; i < len(s); i++ {
		c := lower(s[i])
		if c == longS[0] || c == kelvin[0] {
			if rest := s[i:]; strings.HasPrefix(rest, longS) || strings.HasPrefix(rest, kelvin) {
				return true
			}
		}
		if at := p.at[c]; at != 0 {
			for _, w := range p.words[at] {
				if starts(s[i:], w) {
					return true
				}
			}
		}
	}
	return false
}

// longS and kelvin are written for s and k where case does not count.
const longS, kelvin = "ſ", "\u212a"

func lower(c byte) byte {
	if 'A' <= c && c <= 'Z' {
		c += 'a' - 'A'
	}
	return c
}

func starts(s, word string) bool {
	if len(s) < len(word) {
		return false
	}
	for i := 1; i < len(word); i++ {
		if lower(s[i]) != word[i] {
			return false
		}
	}
	return true
}

// begins reports whether an expression is held to the beginning of a text.
func begins(re *syntax.Regexp) bool {
	switch re.Op {
	case syntax.OpBeginText:
		return true
	case syntax.OpConcat, syntax.OpCapture:
		return begins(re.Sub[0])
	}
	return false
}

// most is how many words are looked for at once: more of them cost what they save. Source: tried on the product's own expressions.
const most = 120

// need is what stands in whatever a part of an expression matches, in lower case: all that it can match where that is a
// list of words, else some words of which one is in it.
type need struct {
	exact []string // nil where there is no such list
	some  []string // nil where nothing is sure
}

// must are words of which one is there, nil where the empty one is among them.
func (n need) must() []string {
	if n.exact == nil {
		return n.some
	}
	if shortest(n.exact) == 0 {
		return nil
	}
	return n.exact
}

func needOf(re *syntax.Regexp) need {
	switch re.Op {
	case syntax.OpEmptyMatch, syntax.OpBeginLine, syntax.OpEndLine, syntax.OpBeginText, syntax.OpEndText, syntax.OpWordBoundary, syntax.OpNoWordBoundary:
		return need{exact: []string{""}}
	case syntax.OpLiteral:
		return needOfLiteral(re)
	case syntax.OpCharClass:
		return needOfClass(re)
	case syntax.OpCapture:
		return needOf(re.Sub[0])
	case syntax.OpPlus:
		return need{some: needOf(re.Sub[0]).must()}
	case syntax.OpQuest:
		if n := needOf(re.Sub[0]); n.exact != nil {
			return need{exact: distinct(append([]string{""}, n.exact...))}
		}
	case syntax.OpConcat:
		return needOfAll(re.Sub)
	case syntax.OpAlternate:
		return needOfOne(re.Sub)
	}
	return need{}
}

func needOfLiteral(re *syntax.Regexp) need {
	if re.Flags&syntax.FoldCase != 0 {
		for _, r := range re.Rune {
			if r >= utf8.RuneSelf && unicode.SimpleFold(r) != r { // its other case has other bytes
				return need{}
			}
		}
	}
	return need{exact: []string{lowered(string(re.Rune))}}
}

// lowered lowers what lower does.
func lowered(s string) string {
	b := []byte(s)
	for i := range b {
		b[i] = lower(b[i])
	}
	return string(b)
}

// mostRunes is up to which size a class is spelt out: digits and letters are in nearly every line. Source: likewise.
const mostRunes = 8

func needOfClass(re *syntax.Regexp) need {
	var out []string
	runes := 0
	for i := 0; i+1 < len(re.Rune); i += 2 {
		lo, hi := re.Rune[i], re.Rune[i+1]
		if runes += int(hi-lo) + 1; runes > mostRunes {
			return need{}
		}
		for r := lo; r <= hi; r++ {
			out = append(out, lowered(string(r)))
		}
	}
	if out == nil { // the class of none
		return need{}
	}
	return need{exact: distinct(out)}
}

// needOfAll is that of parts one after another: the words of neighbours are joined as far as they go.
func needOfAll(parts []*syntax.Regexp) need {
	run, whole := []string{""}, true
	var best []string
	offer := func(words []string) {
		if len(words) > 0 && (best == nil || shortest(words) > shortest(best) || shortest(words) == shortest(best) && len(words) < len(best)) && shortest(words) > 0 {
			best = words
		}
	}
	for _, part := range parts {
		n := needOf(part)
		if n.exact == nil {
			offer(run)
			offer(n.some)
			run, whole = []string{""}, false
			continue
		}
		if len(run)*len(n.exact) > most {
			offer(run)
			run, whole = n.exact, false
			continue
		}
		var joined []string
		for _, a := range run {
			for _, b := range n.exact {
				joined = append(joined, a+b)
			}
		}
		run = distinct(joined)
	}
	if whole {
		return need{exact: run}
	}
	offer(run)
	return need{some: best}
}

// needOfOne is that of one part or another: of which nothing is sure of one, nothing is of all.
func needOfOne(parts []*syntax.Regexp) need {
	var words, some []string
	exact, sure := true, true
	for _, part := range parts {
		n := needOf(part)
		must := n.must()
		exact, sure = exact && n.exact != nil, sure && must != nil
		words, some = append(words, n.exact...), append(some, must...)
	}
	words, some = distinct(words), distinct(some)
	switch {
	case exact && len(words) <= most:
		return need{exact: words}
	case sure && len(some) <= most:
		return need{some: some}
	}
	return need{}
}

func shortest(words []string) int {
	n := len(words[0])
	for _, w := range words {
		n = min(n, len(w))
	}
	return n
}

// least are the words without those that begin with another of them.
func least(words []string) (out []string) {
	for _, w := range slices.Sorted(slices.Values(words)) {
		if len(out) == 0 || !strings.HasPrefix(w, out[len(out)-1]) {
			out = append(out, w)
		}
	}
	return out
}

func distinct(words []string) []string {
	seen := make(map[string]bool, len(words))
	out := words[:0:0]
	for _, w := range words {
		if !seen[w] {
			seen[w] = true
			out = append(out, w)
		}
	}
	return out
}
