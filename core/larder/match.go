package larder

import (
	"slices"
	"sort"
	"strings"
	"unicode"

	"kollaris/core/measure"
	"kollaris/core/pattern"
)

// Match is what a phrase was taken for.
type Match struct {
	ID         ID
	Confidence float64 // 0 to 1; below SureEnough the baker is asked
	RunnerUp   ID      // the next best, "" for none
	Ambiguous  ID      // the other thing that bakers elsewhere call by this name
}

// SureEnough is the confidence from which a match is taken without asking.
const SureEnough = 0.7

// Find takes a phrase for an ingredient. An exact name is certain; otherwise
// words that do not matter are put aside, then the entry that covers the
// phrase best is taken, allowing for one slip of the pen in a long word. A
// phrase that leaves a meaningful word over is never more than a guess.
// Remembered, which may be nil, maps phrases that the household settled.
func (l *Larder) Find(phrase string, remembered map[string]ID) (Match, bool) {
	if id, ok := remembered[Normal(phrase)]; ok && l.byID[id] != nil {
		return Match{ID: id, Confidence: 1}, true
	}
	tokens := tokenise(phrase)
	if _, ok := l.names.exact[strings.Join(tokens, " ")]; !ok {
		tokens = tokenise(withoutAmount(phrase))
	}
	if len(tokens) == 0 {
		return Match{}, false
	}
	if n, ok := l.names.exact[strings.Join(tokens, " ")]; ok {
		return l.exactMatch(n), true
	}
	if n, ok := l.names.sorted[inOrder(tokens)]; ok { // "yeast, fresh"
		return l.exactMatch(n), true
	}
	strong := tokens[:0:0]
	for _, t := range tokens {
		if !ignored[t] {
			strong = append(strong, t)
		}
	}
	if len(strong) == 0 {
		strong = tokens
	}
	if n, ok := l.longest(tokens); ok {
		return l.exactMatch(n), true
	}
	return l.best(tokens, strong)
}

// Named returns the ingredient that has a phrase for its id or a name, word for word;
// none where bakers elsewhere call something else by it.
func (l *Larder) Named(phrase string) (ID, bool) {
	if id, ok := l.ids[Normal(phrase)]; ok {
		return id, true
	}
	n, ok := l.names.exact[Normal(phrase)]
	if !ok || l.names.entries[n].also != "" {
		return "", false
	}
	return l.names.entries[n].id, true
}

// longest finds the longest name whose words all stand in the phrase, when every
// other word of the phrase is one that does not matter: "grated fresh ginger" is
// fresh ginger, though "fresh" by itself says nothing.
func (l *Larder) longest(tokens []string) (int, bool) {
	have := map[string]bool{}
	for _, t := range tokens {
		have[t] = true
	}
	best := -1
	for _, t := range tokens {
		for _, n := range l.names.byToken[t] {
			e := l.names.entries[n]
			if best >= 0 &&
				(len(e.tokens) < len(l.names.entries[best].tokens) || len(e.tokens) == len(l.names.entries[best].tokens) && n >= best) {
				continue
			}
			if fits(e.tokens, tokens, have) {
				best = n
			}
		}
	}
	return best, best >= 0
}

func fits(name, tokens []string, have map[string]bool) bool {
	in := map[string]bool{}
	for _, t := range name {
		if !have[t] {
			return false
		}
		in[t] = true
	}
	for _, t := range tokens {
		if !in[t] && !ignored[t] {
			return false
		}
	}
	return true
}

// purpose is what stands behind a name and says only what it is for.
var purpose = pattern.Must(
	`(?i),?\s*(?:(?:plus|and) (?:a little )?(?:extra|more)\b.*|for (?:dusting|greasing|rolling|brushing|sprinkling|kneading|frying|the tin|the pan|glazing|serving)\b.*)`,
)

// withoutAmount drops "2 tbsp of" from the head of a phrase. A number that is part
// of the name ("1:1 blend", "2% milk", "00 flour") stays.
func withoutAmount(phrase string) string {
	if at := purpose.FindStringIndex(phrase); at != nil && at[0] > 0 {
		phrase = strings.Trim(phrase[:at[0]], " ,")
	}
	_, n, err := measure.ScanQuantity(phrase)
	if err != nil || n == 0 || n >= len(phrase) {
		return phrase
	}
	u, k := measure.ScanUnit(phrase[n:])
	if k == 0 && phrase[n] != ' ' || u.ID == "" && !unicode.IsDigit(rune(phrase[0])) {
		return phrase
	}
	return strings.TrimPrefix(strings.TrimSpace(phrase[n+k:]), "of ")
}

func (l *Larder) exactMatch(n int) Match {
	e := l.names.entries[n]
	m := Match{ID: e.id, Confidence: 1, Ambiguous: e.also}
	if e.also != "" {
		m.Confidence, m.RunnerUp = 0.6, e.also
	}
	return m
}

func (l *Larder) best(tokens, strong []string) (Match, bool) {
	have := map[string]bool{}
	for _, t := range tokens {
		have[t] = true
	}
	type scored struct {
		n     int
		score float64
	}
	var found []scored
	seen := map[int]bool{}
	consider := func(n int, slips map[string]string) {
		found = append(found, scored{n, l.names.entries[n].score(have, strong, slips)})
	}
	for _, t := range strong {
		for _, n := range l.names.byToken[t] {
			if !seen[n] {
				seen[n] = true
				consider(n, nil)
			}
		}
	}
	slips := map[string]string{} // catalogue word → word as typed
	for _, t := range strong {
		if len(t) < 5 || len(l.names.byToken[t]) > 0 {
			continue
		}
		for _, w := range l.names.byFirst[t[0]] {
			if near(t, w) {
				slips[w] = t
			}
		}
	}
	for w := range slips {
		for _, n := range l.names.byToken[w] {
			consider(n, slips)
		}
	}
	sort.SliceStable(found, func(a, b int) bool {
		if found[a].score != found[b].score {
			return found[a].score > found[b].score
		}
		return found[a].n < found[b].n
	})
	if len(found) == 0 || found[0].score < 0.3 {
		return Match{}, false
	}
	top := l.names.entries[found[0].n]
	m := Match{ID: top.id, Confidence: found[0].score, Ambiguous: top.also}
	for _, f := range found[1:] {
		if id := l.names.entries[f.n].id; id != top.id {
			m.RunnerUp = id
			if found[0].score-f.score < 0.08 {
				m.Confidence = min(m.Confidence, SureEnough-0.05)
			}
			break
		}
	}
	return m, true
}

// score says how well a name covers a phrase, 0 to 0.95: have are the phrase's words,
// strong those that matter, in order; slips are catalogue words as they were typed.
// Source: practice, judged with the reader's corpus.
func (e entry) score(have map[string]bool, strong []string, slips map[string]string) float64 {
	hit, need := 0.0, 0.0
	covered := map[string]bool{}
	for _, t := range e.tokens {
		weight := 1.0
		if ignored[t] {
			weight = 0.3
		}
		need += weight
		switch {
		case have[t]:
			hit += weight
			covered[t] = true
		case slips[t] != "":
			hit += weight * slipWeight(slips[t], t)
			covered[slips[t]] = true
		}
	}
	left := 0.0
	for i, t := range strong {
		if !covered[t] {
			left++
			if i == len(strong)-1 {
				left += 0.5 // the last word is usually the noun
			}
		}
	}
	score := hit / (need + left)
	if hit < need-0.35 {
		score *= 0.8 // a word of the name is missing
	}
	if len(e.tokens) > 1 {
		score += 0.01 * float64(len(e.tokens)) // the longer name says more
	}
	return min(score, 0.95)
}

// How far a slip of the pen counts as the word. Source: practice.
const (
	slipped = 0.85
	unlike  = 0.6 // another consonant in a short word: it may be a name of its own
	short   = 8
)

// slipWeight is how much of a catalogue word a word as typed counts for.
func slipWeight(typed, word string) float64 {
	if len(typed) != len(word) || len(word) >= short {
		return slipped
	}
	var off []int
	for i := range word {
		if typed[i] != word[i] {
			off = append(off, i)
		}
	}
	if len(off) == 1 && !strings.ContainsAny(typed[off[0]:off[0]+1]+word[off[0]:off[0]+1], "aeiouy") {
		return unlike
	}
	return slipped
}

// near reports whether two words of five letters or more differ by one letter
// put in, left out, changed, or by two neighbours swapped.
func near(a, b string) bool {
	if len(a) > len(b) {
		a, b = b, a
	}
	if len(a) < 5 || len(b)-len(a) > 1 || a[0] != b[0] {
		return false
	}
	i := 0
	for i < len(a) && a[i] == b[i] {
		i++
	}
	if len(a) == len(b) {
		return i == len(a) || a[i+1:] == b[i+1:] ||
			i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:]
	}
	return a[i:] == b[i+1:]
}

// EachName gives every phrase by which an ingredient is called with the one that it names first.
func (l *Larder) EachName(see func(phrase string, id ID)) {
	for _, e := range l.names.entries {
		see(e.phrase, e.id)
	}
}

// NamesOf lists the phrases by which an ingredient is called, sorted.
func (l *Larder) NamesOf(id ID) []string {
	var out []string
	for _, e := range l.names.entries {
		if e.id == id {
			out = append(out, e.phrase)
		}
	}
	slices.Sort(out)
	return out
}

// Search lists the ingredients of which a name holds all the typed words, the
// last of which may be unfinished; all of them for an empty query. Those whose
// own name begins with it come first.
func (l *Larder) Search(typed string) []*Ingredient {
	words := tokenise(typed)
	if len(words) == 0 {
		return l.all
	}
	hit := map[ID]bool{}
	for _, e := range l.names.entries {
		all := true
		for n, w := range words {
			all = all && slices.ContainsFunc(e.tokens, func(t string) bool {
				return t == w || n == len(words)-1 && strings.HasPrefix(t, w)
			})
		}
		if all {
			hit[e.id] = true
		}
	}
	var head, rest []*Ingredient
	for _, i := range l.all {
		switch {
		case !hit[i.ID]:
		case strings.HasPrefix(Normal(i.Name), words[0]):
			head = append(head, i)
		default:
			rest = append(rest, i)
		}
	}
	return append(head, rest...)
}
