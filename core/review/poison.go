package review

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

//go:embed data/poison.csv
var poisonFile string

// poison is what makes ill or kills: a row of data/poison.csv. Severity is stop where no kitchen makes it fit to eat.
type poison struct {
	code, severity string
	words, unless  *pattern.Pattern // unless stands before or behind the words, in the same sentence
	seen, usual    string
	source         fact.Source
}

// poisons are the rows of data/poison.csv; a faulty one ends the program at its start, and a test loads them first.
var poisons = mustPoisons(poisonFile)

func mustPoisons(text string) (out []poison) {
	rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	if err != nil {
		panic(fmt.Sprintf("review/data/poison.csv: %v", err))
	}
	for n, row := range rows[1:] {
		source := fact.Source(row[6])
		if err := source.Check(); err != nil || row[1] != "stop" && row[1] != "look" {
			panic(fmt.Sprintf("review/data/poison.csv:%d: severity %q, source %q: %v", n+2, row[1], source, err))
		}
		p := poison{code: row[0], severity: row[1], seen: row[4], usual: row[5], source: source}
		p.words = pattern.Must(`(?i)\b(?:` + row[2] + `)\b`)
		if row[3] != "" {
			p.unless = pattern.Must(`(?i)(?:` + row[3] + `)`)
		}
		out = append(out, p)
	}
	return out
}

// in reports whether a text names it, in a sentence that does not take the harm off.
func (p poison) in(text string) bool {
	for _, at := range p.words.FindAllStringIndex(text, -1) {
		from := strings.LastIndexAny(text[:at[0]], ".;!?\n") + 1
		to := len(text)
		if n := strings.IndexAny(text[at[1]:], ".;!?\n"); n >= 0 {
			to = at[1] + n
		}
		if p.unless == nil || !p.unless.MatchString(text[from:to]) {
			return true
		}
	}
	return false
}

// Poisonous reports whether a text names what no kitchen makes fit to eat.
func Poisonous(text string) bool {
	return slices.ContainsFunc(poisons, func(p poison) bool { return p.severity == "stop" && p.in(text) })
}

// nutmegHarms is the nutmeg from which a batch is a matter of harm and no longer of taste, g. Source: practice, poisonings begin at about
// 5 g for one person.
const nutmegHarms = 5.0

// poisons names what makes ill, wherever a recipe names it.
func (v *reviewer) poisons() {
	for _, p := range poisons {
		line, found := recipe.LineID(0), false
		for _, ln := range v.r.Lines {
			if p.in(ln.Text) && !found {
				line, found = ln.ID, true
			}
		}
		elsewhere := func(text string) bool { return p.in(text) }
		found = found || slices.ContainsFunc(v.r.Steps, func(s recipe.Step) bool { return elsewhere(s.Text) }) || slices.ContainsFunc(v.r.Notes, elsewhere)
		if !found {
			continue
		}
		n := v.say("poison-"+p.code, p.severity, line, p.seen, p.usual)
		n.Source, n.Sure = p.source, balance.Sure
		if line != 0 {
			n.Fix = &Fix{Words: "Leave it out", Skip: true}
		}
	}
	for _, ln := range v.r.Lines {
		if ln.Ingredient == "nutmeg" && ln.Grams >= nutmegHarms {
			n := v.say("poison-nutmeg", "stop", ln.ID, measure.Grams(ln.Grams).String()+" of nutmeg can make ill: it is a poison by the spoon.", "A bake has a pinch to half a teaspoon.")
			n.Sure = balance.Sure
		}
	}
}

// IsPoison reports whether a note is of what makes ill rather than of a slip.
func (n Note) IsPoison() bool { return strings.HasPrefix(n.Code, "poison-") }
