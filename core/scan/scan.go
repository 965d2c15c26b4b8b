// Package scan finds the foods that a piece of text names, whoever wrote it and whatever a reader took it for: a net beside the
// reader. Mentions reads any words (a line, its brackets, a step, a note, a heading); Against holds them against a demand.
//
// A food is known by a name of the larder, by a word of a ban (package diet), or by a row of data/word.csv, which says for each
// further word what it is like. A row that is like nothing makes its words harmless ("cream of tartar", "natural release").
// The longest phrase that stands at a place counts. Words around it may say that the food is another (“oat cream”), is not there
// ("without milk", "egg-free"), is only likened ("as thick as double cream", "walnut-sized") or that the word is a verb ("cream
// the fat"): then it is no mention. Nothing is guessed: a word that no table holds is passed over.
package scan

import (
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"kollaris/core/diet"
	"kollaris/core/larder"
)

// Mention is a food that a text names.
type Mention struct {
	From, To int                  // bytes in the text
	Said     string               // the words, as they stand there
	Foods    []*larder.Ingredient // what it is like, or made of; none for the name of a class only
	Ban      string               // the ban whose word it is, "" for none
	Made     bool                 // a thing that is made of others: "custard", "meringue"
	Like     bool                 // Foods are only like it: it is in no larder
	Verb     bool                 // what is done with it, by its own name: "butter the tin"
	Holds    bool                 // the text says that something contains it: "may contain nuts"
	Word     string               // what was asked by that word alone, which no table knows: "kiwi"
}

// Hit is a mention of what a demand does not have, or of what a label must be read for.
type Hit struct {
	Mention
	Verdict diet.Verdict
	Why     diet.Reason
}

// Against are the mentions of a text that break a demand or ask for a label, in their order.
func Against(text string, d diet.Demand, l *larder.Larder) (out []Hit) {
	for _, m := range Mentions(text, l) {
		if h, ok := m.judged(d); ok {
			out = append(out, h)
		}
	}
	for _, word := range d.Unknowns() {
		for _, m := range wordIn(text, word) {
			out = append(out, Hit{m, diet.Breaks, diet.Reason{Kind: diet.Named, Name: m.Said, Ban: diet.WordBan(word)}})
		}
	}
	return out
}

// judged holds a mention against a demand; ok is false where it is fine.
func (m Mention) judged(d diet.Demand) (Hit, bool) {
	h := Hit{Mention: m}
	for _, i := range m.Foods {
		if v, why := d.Judge(i); v > h.Verdict {
			h.Verdict, h.Why = v, why
		}
	}
	if h.Verdict < diet.Breaks && m.Ban != "" && slices.Contains(d.Bans, m.Ban) {
		h.Verdict, h.Why = diet.Breaks, diet.Reason{Kind: diet.ShutOut, Name: m.Said, Ban: m.Ban}
	}
	h.Why.Name = m.Said
	return h, h.Verdict > diet.Fine
}

// Mentions are the foods that a text names, in their order. The answer is shared: nobody changes it.
func Mentions(text string, l *larder.Larder) []Mention {
	lex := lexiconOf(l)
	if v, ok := lex.memo.Load(text); ok {
		return v.([]Mention)
	}
	out := lex.read(text)
	if lex.count.Add(1) > mostRemembered {
		lex.memo.Clear()
		lex.count.Store(0)
	}
	lex.memo.Store(text, out)
	return out
}

// mostRemembered is how many texts are remembered at most: a line or a step has some hundred bytes.
const mostRemembered = 20000

// lexicon is the words of one larder.
type lexicon struct {
	phrases map[string]entry // by their words in the larder's normal form, joined by a space
	longest map[string]int   // the most words of a phrase that begins with a word
	memo    sync.Map
	count   atomic.Int64
}

// entry is what a phrase stands for; the zero value is harmless.
type entry struct {
	foods []*larder.Ingredient
	ban   string
	made  bool
	like  bool // a row of the table says so
}

// read goes through a text, the longest phrase at each place.
func (x *lexicon) read(text string) (out []Mention) {
	tokens := tokenise(text)
	since := 0   // after the food before: what that is free of says nothing of the next
	denied := -1 // end of the last mention that is not there: what is listed after it is not either
	for at := 0; at < len(tokens); {
		n, e := x.at(tokens, at)
		if n == 0 || n == 1 && plurals[tokens[at].norm] && !strings.HasSuffix(tokens[at].low, "s") {
			at++
			continue
		}
		c := context{text, tokens, at, at + n - 1, since}
		if len(e.foods) > 0 {
			since = at + n
		}
		foods := c.freed(e.foods)
		switch {
		case len(e.foods) == 0 && e.ban == "":
		case len(e.foods) > 0 && len(foods) == 0, c.plant(e), c.compared(), c.verb():
		case c.denied(denied):
			denied = at + n - 1
		default:
			from, to := tokens[at].from, tokens[at+n-1].to
			out = append(out, Mention{From: from, To: to, Said: text[from:to], Foods: foods, Ban: e.ban, Made: e.made, Like: e.like, Holds: c.holds(), Verb: c.greases()})
		}
		at += n
	}
	return out
}

// at finds the longest phrase that begins at a token.
func (x *lexicon) at(tokens []token, at int) (int, entry) {
	most := min(x.longest[tokens[at].norm], len(tokens)-at)
	for n := 1; n < most; n++ { // no phrase goes over a stop
		if tokens[at+n].stop {
			most = n
		}
	}
	words := make([]string, 0, most)
	for n := range most {
		words = append(words, tokens[at+n].norm)
	}
	for n := most; n > 0; n-- {
		if e, ok := x.phrases[strings.Join(words[:n], " ")]; ok {
			return n, e
		}
	}
	return 0, entry{}
}
