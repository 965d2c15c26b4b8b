package diet

import (
	"cmp"
	"fmt"
	"io/fs"
	"maps"
	"slices"
	"strings"
	"sync"
	"unicode"

	"kollaris/core/larder"
	"kollaris/core/phrase"
)

// meaning is what a word stands for.
type meaning struct {
	ban  string
	diet ID
	food larder.ID
}

// vocabulary is the words by which bans and diets are called, in their normal form:
// those of data/word.csv, and the ids and names of the bans and diets themselves.
var vocabulary = sync.OnceValue(func() map[string]meaning {
	sub, _ := fs.Sub(files, "data")
	out, err := loadWords(sub, larder.Builtin())
	if err != nil {
		panic("diet: embedded words: " + err.Error()) // a test loads them first
	}
	return out
})

func loadWords(fsys fs.FS, l *larder.Larder) (map[string]meaning, error) {
	out := map[string]meaning{}
	err := rows(fsys, "word.csv", "means,locale,words,source", func(f []string) error {
		m := meaning{ban: f[0]}
		if id, ok := strings.CutPrefix(f[0], "diet:"); ok {
			m = meaning{diet: ID(id)}
			if _, known := Find(m.diet); !known {
				return fmt.Errorf("%q is no diet", id)
			}
		} else if id, ok := strings.CutPrefix(f[0], "food:"); ok {
			m = meaning{food: larder.ID(id)}
			if l.Get(m.food) == nil {
				return fmt.Errorf("%q is not in the larder", id)
			}
		} else if bans()[f[0]] == nil {
			return fmt.Errorf("%q is no ban", f[0])
		}
		for _, w := range strings.Split(f[2], ";") {
			key := larder.Normal(w)
			if was, has := out[key]; key == "" || has && was != m {
				return fmt.Errorf("%q means %v already, or nothing", w, was)
			}
			out[key] = m
		}
		return nil
	})
	name := func(m meaning, words ...string) {
		for _, w := range words {
			if _, has := out[larder.Normal(w)]; !has {
				out[larder.Normal(w)] = m
			}
		}
	}
	for id, b := range bans() {
		name(meaning{ban: id}, id, b.words)
	}
	for _, d := range Diets {
		name(meaning{diet: d.ID}, string(d.ID))
	}
	return out, err
}

// demand is a meaning as what must be kept.
func (m meaning) demand(l *larder.Larder) Demand {
	switch {
	case m.diet != "":
		return Demand{Diets: []ID{m.diet}}
	case m.food != "":
		return Demand{Bans: []string{Alone(m.food, l)}}
	}
	return Demand{Bans: []string{m.ban}}
}

// Alone is the ban of one food and of no family: its id, marked where its name by itself
// would mean more.
func Alone(id larder.ID, l *larder.Larder) string {
	key := larder.Normal(string(id))
	m, word := vocabulary()[key]
	named, ok := foodNamed(key, l)
	if word && m.food == id || !word && ok && named == id && len(touched(strings.Fields(key), l.Get(id), l).Bans) == 0 {
		return string(id)
	}
	return only + string(id)
}

// around are words that say nothing of what is banned, at the head and at the end of a
// phrase; within are those that turn its meaning, so that it is not read without asking.
var (
	around = set(
		"no any all every free from of allergic to avoid avoiding containing contain the a an my our kind sort type in form intolerant intolerance allergy product food trace raw fresh organic must have not without eat please nothing with based everything anything",
	)
	within = set("but except not no without unless apart free only other than instead some certified less")
)

func set(words string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(words) {
		m[w] = true
	}
	return m
}

// mostWords is the most words that one food is described with, mostTyped the most letters, and mostListed how many are looked at in
// one list: comparing a word with all that are known takes some milliseconds.
const (
	mostWords  = 12
	mostTyped  = 120
	mostPart   = 500 // of letters, of several foods parted by "and"
	mostListed = 100
)

// ParseBan reads one thing that must not be eaten, as somebody typed it, and returns the
// demand it stands for. A word is never narrowed: whatever touches the name of an
// allergen or a family, in whatever form, becomes the whole of it, and a food that is
// named after an allergen it holds ("soya drink") stands for the allergen. "Only soya
// drink" means that food alone. What is not certain is an error that names what comes
// near; no part of a word or of an id ever matches.
func ParseBan(typed string, l *larder.Larder) (Demand, error) {
	if len(typed) > mostTyped {
		return Demand{}, fmt.Errorf("“%s” is too long to be one food: part them by commas", phrase.Clip(typed, 30))
	}
	if word, ok := strings.CutPrefix(typed, wordly); ok { // as it is kept
		typed = strings.ReplaceAll(word, "-", " ")
	}
	if name, ok := strings.CutPrefix(strings.ToLower(strings.TrimSpace(typed)), "only"); ok && name != "" &&
		(name[0] == ':' || name[0] == ' ') {
		if id, ok := l.Named(larder.Normal(name)); ok {
			return Demand{Bans: []string{Alone(id, l)}}, nil
		}
	}
	tokens := strings.Fields(larder.Normal(typed))
	if len(tokens) > mostWords {
		return Demand{}, fmt.Errorf(
			"“%s” is too long to be one food: part them by commas", phrase.Clip(strings.Join(strings.Fields(typed), " "), 30),
		)
	}
	if d, ok := read(strings.Join(tokens, " "), l); ok {
		return d, nil
	}
	for len(tokens) > 0 && around[tokens[0]] {
		tokens = tokens[1:]
	}
	for len(tokens) > 0 && around[tokens[len(tokens)-1]] {
		tokens = tokens[:len(tokens)-1]
	}
	if len(tokens) > 0 && !slices.ContainsFunc(tokens, func(t string) bool { return within[t] }) {
		if d, ok := read(strings.Join(tokens, " "), l); ok {
			return d, nil
		}
		if d := touched(tokens, nil, l); len(d.Bans) > 0 {
			return d, nil
		}
	}
	if d, ok := unknown(tokens, l); ok {
		return d, nil
	}
	return Demand{}, unsure(strings.TrimSpace(typed), tokens, l)
}

// mostUnknown is how many words a thing has at most that is shut out by its name alone.
const mostUnknown = 3

// unknown takes a word that no table knows, and that is no slip for one that is known, for what it says: nothing can be proved free of
// it, and what names it is stopped.
func unknown(tokens []string, l *larder.Larder) (Demand, bool) {
	if len(tokens) == 0 || len(tokens) > mostUnknown || len(nearest(strings.Join(tokens, " "), l)) > 0 {
		return Demand{}, false
	}
	for _, t := range tokens {
		if len(t) < 3 || within[t] || strings.ContainsFunc(t, func(r rune) bool { return !unicode.IsLetter(r) }) {
			return Demand{}, false
		}
	}
	return Demand{Bans: []string{WordBan(strings.Join(tokens, " "))}}, true
}

// read takes a phrase in its normal form for a word of the vocabulary or the exact name
// of a food.
func read(key string, l *larder.Larder) (Demand, bool) {
	if m, ok := vocabulary()[key]; ok {
		return m.demand(l), true
	}
	id, ok := foodNamed(key, l)
	if !ok {
		return Demand{}, false
	}
	i := l.Get(id)
	if d := touched(strings.Fields(key), i, l); len(d.Bans) > 0 {
		return d, true
	}
	return Demand{Bans: []string{string(id)}}, true // the whole family, where it gives its name to one
}

// foodNamed finds the food that a phrase names for certain. A word that several foods
// share ("bran", "flour") names none.
func foodNamed(key string, l *larder.Larder) (larder.ID, bool) {
	id, ok := l.Named(key)
	if !ok {
		m, found := l.Find(key, nil)
		if !found || m.Confidence < 1 || m.Ambiguous != "" {
			return "", false
		}
		id = m.ID
	}
	if larder.Normal(l.Get(id).Name) == key || strings.Contains(key, " ") {
		return id, true
	}
	for _, i := range l.All() {
		if i.ID != id && slices.Contains(strings.Fields(larder.Normal(i.Name)), key) {
			return "", false
		}
	}
	return id, true
}

// touched is the allergens and whole families whose words stand in a phrase: of a known
// food those that it holds. "Soya-free" touches nothing.
func touched(tokens []string, food *larder.Ingredient, l *larder.Larder) (d Demand) {
	for from := 0; from < len(tokens); {
		next := from + 1
		for to := min(len(tokens), from+3); to > from; to-- {
			key := strings.Join(tokens[from:to], " ")
			m, known := vocabulary()[key]
			b := bans()[m.ban]
			if known && b != nil && b.whole && !(to < len(tokens) && tokens[to] == "free") {
				if _, holds := holding(b, food); food == nil || holds {
					d = d.With(Demand{Bans: []string{m.ban}})
				}
			}
			if _, named := l.Named(key); known || named && to-from > 1 && food == nil {
				next = to // "coconut milk" says nothing of milk
				break
			}
		}
		from = next
	}
	return d
}

func holding(b *ban, i *larder.Ingredient) (larder.Level, bool) {
	if i == nil {
		return "", false
	}
	return b.level(i)
}

// unsure says that a word was not understood, with the nearest that are.
func unsure(typed string, tokens []string, l *larder.Larder) error {
	if near := nearest(strings.Join(tokens, " "), l); len(near) > 0 {
		return fmt.Errorf("“%s” is not certain, so nothing was shut out by it: is it %s?", typed, phrase.Or(near))
	}
	return fmt.Errorf(
		"“%s” is neither an allergen nor in the larder, so nothing was shut out by it: try nuts, soya, sesame, or an ingredient such as coconut oil",
		typed,
	)
}

// nearest lists up to four words of the vocabulary or names of the larder that share a
// word with a phrase or are a few slips of the pen away from it.
func nearest(key string, l *larder.Larder) []string {
	type near struct {
		words string
		far   int
	}
	var found []near
	if m, ok := l.Find(key, nil); ok {
		found = append(found, near{l.Get(m.ID).Name, 2})
	}
	see := func(name, words string) {
		if name == "" || key == "" {
			return
		}
		far := distance(key, name)
		shares := 0
		for _, t := range strings.Fields(name) {
			if len(t) > 2 && slices.Contains(strings.Fields(key), t) {
				shares++
			}
		}
		switch {
		case far == 1, far <= slips(len(key)) && name[0] == key[0]: // nobody slips twice and in the first letter
		case shares > 0:
			far += 10 - 3*shares
		default:
			return
		}
		if !slices.ContainsFunc(found, func(n near) bool { return n.words == words }) {
			found = append(found, near{words, far})
		}
	}
	for _, name := range slices.Sorted(maps.Keys(vocabulary())) {
		m := vocabulary()[name]
		switch {
		case m.ban != "":
			see(name, BanWords(m.ban))
		case m.diet != "":
			see(name, string(m.diet))
		case l.Get(m.food) != nil:
			see(name, l.Get(m.food).Name)
		}
	}
	for _, i := range l.All() {
		see(larder.Normal(i.Name), i.Name)
	}
	slices.SortStableFunc(found, func(a, b near) int { return cmp.Compare(a.far, b.far) })
	var out []string
	for _, n := range found[:min(4, len(found))] {
		out = append(out, n.words)
	}
	return out
}

// slips is how many slips of the pen are still near a word of so many letters.
func slips(letters int) int {
	switch {
	case letters < 5:
		return 1
	case letters < 8:
		return 2
	}
	return 3
}

// distance is how many letters must be put in, left out, changed or swapped with their
// neighbour to make one word of another: optimal string alignment.
func distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	rows := make([][]int, len(x)+1)
	for i := range rows {
		rows[i] = make([]int, len(y)+1)
		rows[i][0] = i
	}
	for j := range rows[0] {
		rows[0][j] = j
	}
	for i := 1; i <= len(x); i++ {
		for j := 1; j <= len(y); j++ {
			change := rows[i-1][j-1]
			if x[i-1] != y[j-1] {
				change++
			}
			rows[i][j] = min(change, rows[i-1][j]+1, rows[i][j-1]+1)
			if i > 1 && j > 1 && x[i-1] == y[j-2] && x[i-2] == y[j-1] {
				rows[i][j] = min(rows[i][j], rows[i-2][j-2]+1)
			}
		}
	}
	return rows[len(x)][len(y)]
}

// Misread is a word of a list that was not understood.
type Misread struct{ Typed, Why string }

// ParseBans reads a list of what must not be eaten, parted by commas, semicolons, lines,
// slashes, "and" or "or". What is not understood comes back beside the rest.
func ParseBans(typed string, l *larder.Larder) (Demand, []Misread) {
	var d Demand
	var bad []Misread
	seen := 0
	for _, part := range strings.FieldsFunc(typed, func(r rune) bool { return strings.ContainsRune(",;\n\r•·", r) }) {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		if seen++; seen > mostListed || len(part) > mostPart {
			return d, append(bad, Misread{phrase.Clip(part, 60), fmt.Sprintf("“%s” and what follows was not looked at: no more than %d things at once, each by its name", phrase.Clip(part, 30), mostListed)})
		}
		parts := []string{part}
		if key := larder.Normal(part); vocabulary()[key] == (meaning{}) {
			if _, named := l.Named(key); !named { // "half and half"
				parts = listed(part)
			}
		}
		for n, p := range parts {
			if seen += min(n, 1); seen > mostListed {
				return d, append(bad, Misread{phrase.Clip(p, 60), "more than can be looked at at once"})
			}
			one, err := ParseBan(p, l)
			if err != nil {
				bad = append(bad, Misread{strings.TrimSpace(p), err.Error()})
				continue
			}
			d = d.With(one)
		}
	}
	return d, bad
}

// listed parts a phrase at its "and", "or", slashes and the like.
func listed(s string) []string {
	var out []string
	part := ""
	for _, w := range strings.Fields(strings.NewReplacer("/", " / ", "&", " & ", "+", " + ").Replace(s)) {
		switch strings.ToLower(w) {
		case "and", "or", "nor", "plus", "/", "&", "+":
			if strings.TrimSpace(part) != "" {
				out = append(out, part)
			}
			part = ""
		default:
			part += " " + w
		}
	}
	if strings.TrimSpace(part) != "" {
		out = append(out, part)
	}
	if len(out) == 0 {
		return []string{s}
	}
	return out
}
