package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/scan"
)

// The places of a recipe in which a food is named.
const (
	InLine    = "line"
	InStep    = "step"
	InNote    = "note"
	InHeading = "heading"
)

// Stop is a food that the words of a recipe name, that the demand does not have, and that stays in what is shown: nobody may miss it.
type Stop struct {
	Place string   `json:"place"`
	Text  string   `json:"text"` // the line, sentence, note or heading
	Food  string   `json:"food"` // in its words
	Why   string   `json:"why"`  // "holds tree nuts"
	Holds []string `json:"holds,omitempty"`
}

// Words says where it stands and what to do.
func (s Stop) Words() string {
	where := map[string]string{InLine: "in the list", InStep: "in the method", InNote: "in a note", InHeading: "in a heading"}[s.Place]
	return fmt.Sprintf("%s “%s”: %s", where, phrase.Clip(s.Text, 60), s.Why)
}

// why says of a hit what is the matter: "pistachios holds tree nuts".
func why(h scan.Hit) string { return h.Why.Words() }

// holdsOf are the allergens of the law that the foods of a mention hold.
func holdsOf(m scan.Mention) []string {
	held, _ := diet.Holds(m.Foods)
	return held
}

// broken are the hits in a text that break a demand; those of which a label must be read are told apart.
func broken(text string, d diet.Demand, l *larder.Larder) (out, labels []scan.Hit) {
	if len(d.Diets)+len(d.Bans) == 0 {
		return nil, nil
	}
	for _, h := range scan.Against(text, d, l) {
		if h.Verdict == diet.Breaks {
			out = append(out, h)
		} else {
			labels = append(labels, h)
		}
	}
	return out, labels
}

// sameFood reports whether a mention names the food of another: the same, one of egg for another, or the noun alone ("milk" for whole
// milk; rye flour is not plain flour). What is only like a food is it where it is called so: "brown butter", not "milk powder".
func sameFood(a, b scan.Mention) bool {
	generic := !strings.Contains(larder.Normal(a.Said), " ")
	if generic && lastWord(a.Said) == lastWord(b.Said) {
		return true
	}
	for _, x := range a.Foods {
		for _, y := range b.Foods {
			if generic && x.Family == y.Family && (x.Family == larder.FamilySugar || x.Family == larder.FamilyWheatFlour && lastWord(a.Said) == "flour") {
				return true // "flour", whatever wheat's; "sugared paper"
			}
			if x.ID == y.ID && x.ID != "" && (!a.Like || lastWord(a.Said) == lastWord(b.Said)) || x.Origin == "egg" && y.Origin == "egg" {
				return true
			}
		}
	}
	return false
}

func lastWord(said string) string {
	words := strings.Fields(larder.Normal(said))
	if len(words) == 0 {
		return ""
	}
	return words[len(words)-1]
}

// own is the mention that a line's own food makes.
func own(l recipe.Line, i *larder.Ingredient) scan.Mention {
	said := l.Phrase
	if said == "" {
		said = l.Name
	}
	return scan.Mention{Said: said, Foods: []*larder.Ingredient{i}}
}

// listed finds a written line whose own food a mention names; nil for none.
func listed(r *recipe.Recipe, lib *larder.Larder, m scan.Mention) *recipe.Line {
	for n := range r.Lines {
		l := &r.Lines[n]
		i := lib.Get(l.Ingredient)
		if i == nil || !l.Known {
			continue
		}
		if sameFood(m, own(*l, i)) {
			return l
		}
		for _, in := range scan.Mentions(textParts(l.Text)[0].text, lib) {
			if sameFood(m, in) {
				return l
			}
		}
	}
	return nil
}

// theProduct reports whether what is made of others is what this recipe makes: its title or a heading names it, or "the custard" is
// of eggs that stand in the list.
func theProduct(r *recipe.Recipe, lib *larder.Larder, text string, m scan.Mention) bool {
	if !m.Made {
		return false
	}
	named := func(s string) bool { // all its words: royal icing is not just any icing
		have := strings.Fields(larder.Normal(s))
		return !slices.ContainsFunc(strings.Fields(larder.Normal(m.Said)), func(w string) bool { return !slices.Contains(have, w) })
	}
	if named(r.Title) || slices.ContainsFunc(r.Lines, func(l recipe.Line) bool { return named(l.Section) }) {
		return true
	}
	before := strings.Fields(strings.ToLower(text[:m.From]))
	if len(before) == 0 || !slices.Contains(definite, before[len(before)-1]) {
		return false
	}
	return madeOf(r, lib, m)
}

// definite stand before what is there already. Source: practice.
var definite = []string{"the", "your", "this", "these", "each", "both", "hot", "warm", "cooled", "cold", "baked", "thick", "thickened", "remaining"}

// used is what a note tells to do with a food, in the same sentence before it, or how much of it: "brush with egg", "egg wash: 1 egg".
// What a note only tells of is left alone. Source: practice, what notes say.
var used = pattern.Must(`(?i)\b(?:brush|glaz|sprinkl|scatter|top|spread|dust|drizzl|dot|greas|fold|stir|mix|add|serv|fill|decorat|finish|knead|whisk|put|pour|coat|roll|spoon|us|contain|swap|replac|try|enjoy|eat|good|nice|lovely|delicious|perfect|better|best|goes?|made|hold|need)(?:e|es|ed|ing|ting|ping|ring|red|s)?\b[^.;!?\n]{0,80}$|[\d½¼¾⅓⅔] *(?:\pL+ +){0,3}$|\b(?:dollop|spoon|spoonful|slug|splash|knob|blob|drizzle|dash|handful|bit|smear) of (?:\pL+ +){0,3}$|\bwith (?:\pL+ +){0,3}$|^\W*$|[:;] *(?:\pL+ +){0,2}$`)

// tells reports whether a note only tells a tale of what it names: "my aunt liked hers with butter".
var tells = pattern.Must(`(?i)\b(?:liked|loved|used to|remember)\b`)

// aside precedes what is eaten with a bake, so that no line of it is meant: "good with yogurt".
var aside = pattern.Must(`(?i)\b(?:serv|good|nice|lovely|great|delicious|goes|eat|enjoy|best)\w*\b[^.;!?]*\bwith (?:\pL+ +){0,3}$`)

// states follows what a note only speaks of: "butter goes soft there".
var states = pattern.Must(`(?i)^ (?:goes|go|is|are|was|were|will|would|should|can|gets?|keeps?|melts?|turns?|tends?|dries|sinks?)\b`)

// mostBare is how many words a note has at most that only names something.
const mostBare = 4

// inNotes are the hits of a note that it tells to use.
func inNotes(note string, hits []scan.Hit) (out []scan.Hit) {
	for _, h := range hits {
		if len(strings.Fields(note)) <= mostBare { // no sentence: "melted butter, to serve"
			out = append(out, h)
			continue
		}
		from := strings.LastIndexAny(note[:h.From], ".;!?\n") + 1
		if !tells.MatchString(note[from:h.From]) && !states.MatchString(note[h.To:]) && used.MatchString(note[from:h.From]) {
			out = append(out, h)
		}
	}
	return out
}

// Unlisted are the foods that the steps, notes and headings of a recipe as it is written name, that no line lists and that a demand
// rules out: "brush with beaten egg", "butter and flour the tin".
func Unlisted(written *recipe.Recipe, d diet.Demand, l *larder.Larder) (out []string) {
	see := func(text string, hits []scan.Hit) {
		for _, h := range hits {
			name := strings.ToLower(h.Said)
			if slices.Contains(out, name) || theProduct(written, l, text, h.Mention) || listed(written, l, h.Mention) != nil {
				continue
			}
			out = append(out, name)
		}
	}
	for _, st := range written.Steps {
		hits, _ := broken(st.Text, d, l)
		see(st.Text, hits)
	}
	for _, note := range written.Notes {
		hits, _ := broken(note, d, l)
		see(note, inNotes(note, hits))
	}
	for _, head := range headings(written) {
		hits, _ := broken(head, d, l)
		see(head, hits)
	}
	return out
}

// headings are the names of a recipe's parts, each once.
func headings(r *recipe.Recipe) (out []string) {
	for _, l := range r.Lines {
		if l.Section != "" && !slices.Contains(out, l.Section) {
			out = append(out, l.Section)
		}
	}
	return out
}
