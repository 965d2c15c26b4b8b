package larder

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"kollaris/core/pattern"
)

// ignored are words that do not change what an ingredient is. Words that do
// (ground, dried, self-raising, unsalted, brown, gluten-free) are never here.
var ignored = words(
	`fresh freshly ripe overripe melted softened sifted room temperature cold warm hot lukewarm tepid boiling chilled cubed diced
	chopped roughly finely coarsely grated sliced peeled cored stoned pitted drained squeezed mashed beaten lightly well large medium small extra big
	good quality organic best plus more for of the a an and some your favourite favorite plain natural pure optional toasted roasted
	packed heaped heaping level scant rounded generous firmly divided shredded crumbled thinly about approx approximately at whole halved quartered
	unwaxed new zested juiced quick cooking softened soft very real liquid squeezed cut into pieces cubes chunks needed as to taste thick low fat certified choice warmed warming heated cooled stiff stiffly separated rinsed unpeeled blended strongly fine sieved superfine raw seedless little slightly sharp active powdery other any such homemade leftover canned frozen carton pot tub unbleached creamy brewed chunk cube piece temp shelled de di del des du d`,
)

func words(s string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(s) {
		m[w] = true
	}
	return m
}

type entry struct {
	phrase string
	tokens []string
	id     ID
	also   ID
}

type index struct {
	entries []entry
	exact   map[string]int   // normal form → entry
	sorted  map[string]int   // the same words in any order
	byToken map[string][]int // token → entries
	byFirst [256][]string    // tokens by their first byte
}

func (x *index) add(phrase string, id, also ID) error {
	if x.exact == nil {
		x.exact = map[string]int{}
	}
	tokens := tokenise(phrase)
	key := strings.Join(tokens, " ")
	if key == "" {
		return fmt.Errorf("%q holds no word", phrase)
	}
	if n, ok := x.exact[key]; ok {
		if x.entries[n].id != id {
			return fmt.Errorf("%q is already a name of %s", phrase, x.entries[n].id)
		}
		return nil
	}
	x.exact[key] = len(x.entries)
	x.entries = append(x.entries, entry{phrase, tokens, id, also})
	return nil
}

// replace gives a phrase to another ingredient.
func (x *index) replace(phrase string, id ID) {
	if n, ok := x.exact[strings.Join(tokenise(phrase), " ")]; ok {
		x.entries[n].id, x.entries[n].also = id, ""
		return
	}
	_ = x.add(phrase, id, "") // a phrase without a word is none
}

func (x *index) build() {
	x.byToken, x.byFirst = map[string][]int{}, [256][]string{}
	x.sorted = map[string]int{}
	for n, e := range x.entries {
		if _, ok := x.sorted[inOrder(e.tokens)]; !ok {
			x.sorted[inOrder(e.tokens)] = n
		}
		for _, t := range e.tokens {
			if len(x.byToken[t]) == 0 {
				x.byFirst[t[0]] = append(x.byFirst[t[0]], t)
			}
			x.byToken[t] = append(x.byToken[t], n)
		}
	}
}

// inOrder is the key of words whatever their order.
func inOrder(tokens []string) string {
	return strings.Join(slices.Sorted(slices.Values(tokens)), " ")
}

// freeRange is dropped before the words are parted: any other "free" says what a
// food does not hold, and matters.
var freeRange = pattern.Must(`\bfree[- ]?range\b`)

// tokenise lowers, splits and singularises a phrase.
func tokenise(s string) []string {
	s = strings.ToLower(norm.NFC.String(s))
	if strings.Contains(s, "free") {
		s = freeRange.ReplaceAllString(s, " ")
	}
	f := strings.FieldsFunc(s, func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '%' && r != ':' && r != '\'' && r != '’'
	})
	out := f[:0]
	for _, w := range f {
		w = strings.Trim(strings.TrimSuffix(strings.TrimSuffix(strings.ReplaceAll(w, "’", "'"), "'s"), "'"), ":'")
		if w = singular(unmarked(w)); w != "" {
			if same := spelling[w]; same != "" {
				w = same
			}
			out = append(out, w)
		}
	}
	return out
}

// unmarked takes the marks off letters, and parts those that are written as one.
func unmarked(w string) string {
	if strings.IndexFunc(w, func(r rune) bool { return r > unicode.MaxASCII }) < 0 {
		return w
	}
	bare := strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Mn, r) {
			return -1
		}
		return r
	}, norm.NFD.String(w))
	return letters.Replace(bare)
}

// letters are those whose stroke is no mark of its own.
var letters = strings.NewReplacer("ø", "o", "ł", "l", "đ", "d", "ß", "ss", "œ", "oe", "æ", "ae", "ı", "i")

// spelling brings the spellings of other places to one.
var spelling = map[string]string{
	"yoghurt": "yogurt", "gelatin": "gelatine", "linseed": "flaxseed", "fibre": "fiber",
	"soy": "soya", "flavour": "flavor", "powdered": "powder", "flavouring": "flavoring",
	"colouring": "coloring", "colour": "color", "veg": "vegetable", "marg": "margarine", "pwdr": "powder",
}

func singular(w string) string {
	switch {
	case len(w) < 4 || strings.HasSuffix(w, "ss") || strings.HasSuffix(w, "us") || w == "molasses" || w == "molas":
		return w
	case strings.HasSuffix(w, "ies"):
		return w[:len(w)-3] + "y"
	case strings.HasSuffix(w, "oes"), strings.HasSuffix(w, "ches"), strings.HasSuffix(w, "shes"):
		return w[:len(w)-2]
	case strings.HasSuffix(w, "leaves"):
		return strings.TrimSuffix(w, "aves") + "af"
	case strings.HasSuffix(w, "s"):
		return w[:len(w)-1]
	}
	return w
}

// build makes the indices by which ingredients are found.
func (l *Larder) build() {
	l.names.build()
	l.ids = map[string]ID{}
	for _, i := range l.all {
		l.ids[Normal(string(i.ID))] = i.ID
	}
}

// Normal is the form of a phrase under which a household's choice is kept.
func Normal(phrase string) string { return strings.Join(tokenise(phrase), " ") }
