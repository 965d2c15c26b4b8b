// Package table sets people beside recipes: who may eat what as it is written,
// with which changes, after reading which label; and the fewest bakes that feed
// them all.
//
// Strictness says what gives way. An allergy or coeliac disease never does, and
// neither does what upsets somebody; a choice is only the last to be cared for when
// bakes are counted. Nothing here makes a bake safe: a kitchen that also handles
// other foods leaves traces, and whoever is to eat it decides.
package table

import (
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
)

// Strictness is how much hangs on a person's demands.
type Strictness string

// The degrees, strictest first.
const (
	Allergy Strictness = "allergy" // or coeliac disease: traces matter
	Upsets  Strictness = "upsets"
	Choice  Strictness = "choice"
)

// Degrees are all of them, in order, with the application's words.
var Degrees = []struct {
	ID    Strictness
	Words string
}{{Allergy, "an allergy or coeliac disease: traces matter"}, {Upsets, "it upsets them: clean tools are enough"}, {Choice, "by choice"}}

// Rank orders the degrees, 0 for the strictest.
func (s Strictness) Rank() int {
	for n, d := range Degrees {
		if d.ID == s {
			return n
		}
	}
	return len(Degrees)
}

// Person is one who eats at the table.
type Person struct {
	Name    string       `json:"name"`
	Diets   []diet.ID    `json:"diets,omitempty"`
	Bans    []string     `json:"bans,omitempty"`
	Limits  []diet.Limit `json:"limits,omitempty"`
	Strict  Strictness   `json:"strict"`
	Portion float64      `json:"portion,omitempty"` // servings; 0 is 1
	Guest   bool         `json:"guest,omitempty"`   // today only
	Rule    int          `json:"rule,omitempty"`    // diet.Rule by which the bans were read; 0 is the first
	Unread  []string     `json:"-"`                 // of the bans, what today's rule does not understand
}

// Reread reads somebody's bans by today's rule, and says what there is to ask where that
// changes them.
func (p Person) Reread(l *larder.Larder) (Person, []diet.Changed) {
	if p.Rule >= diet.Rule {
		return p, nil
	}
	d, asked := diet.Reread(p.Bans, l)
	d = diet.Demand{Diets: p.Diets}.With(d)
	p.Diets, p.Bans, p.Unread = d.Diets, d.Bans, d.Unread
	return p, asked
}

// Demand is what must be kept for the person.
func (p Person) Demand() diet.Demand {
	return diet.Demand{Diets: p.Diets, Bans: p.Bans, Limits: p.Limits, Unread: p.Unread}
}

// Servings is how much the person eats.
func (p Person) Servings() float64 {
	if p.Portion > 0 {
		return p.Portion
	}
	return 1
}

// Sentence says what the person must have or not: "must not have tree nuts; has to
// be egg-free; traces matter."
func (p Person) Sentence() string {
	var out []string
	if len(p.Bans) > 0 {
		var words []string
		for _, b := range p.Bans {
			words = append(words, diet.BanWords(b))
		}
		out = append(out, "must not have "+strings.Join(words, ", "))
	}
	if len(p.Diets) > 0 {
		var words []string
		for _, d := range p.Diets {
			words = append(words, string(d))
		}
		out = append(out, "eats "+strings.Join(words, ", "))
	}
	for _, l := range p.Limits {
		out = append(out, l.Words())
	}
	for _, u := range p.Unread {
		out = append(out, "“"+u+"” is not understood")
	}
	if len(out) == 0 {
		return "eats everything."
	}
	switch p.Strict {
	case Allergy:
		out = append(out, "traces matter")
	case Choice:
		out = append(out, "by choice")
	}
	return strings.Join(out, "; ") + "."
}

// Join is the demand that keeps everybody's: all diets and bans, and the least of
// each limit.
func Join(people []Person) diet.Demand {
	var d diet.Demand
	for _, p := range people {
		d = d.With(p.Demand())
	}
	slices.Sort(d.Diets)
	slices.Sort(d.Bans)
	return d
}

// Traces says how to keep what a person must not have from getting in by another
// way than the recipe. Source: common practice of food agencies; who is to eat it
// decides.
func Traces(people []Person) []string {
	var names, shut []string
	for _, p := range people {
		if p.Strict != Allergy {
			continue
		}
		names = append(names, p.Name)
		for _, b := range p.Bans {
			shut = append(shut, diet.BanWords(b))
		}
		for _, id := range p.Diets {
			if x, _ := diet.Find(id); x.Allergen != "" {
				shut = append(shut, larder.AllergenWords(x.Allergen))
			}
		}
	}
	if len(names) == 0 {
		return nil
	}
	slices.Sort(shut)
	shut = slices.Compact(shut)
	what := "what they must not have"
	if n := len(shut); n > 0 {
		what = shut[n-1]
		if n > 1 {
			what = strings.Join(shut[:n-1], ", ") + " or " + what
		}
	}
	return []string{
		"Bake it before anything that holds " + what + ", and cover it: " + strings.Join(
			names, ", ",
		) + " must not be given a crumb of that.",
		"Clean bowls, tins and boards, a sieve and a wooden spoon of its own; fresh paper in the tin; its own knife and plate at the table.",
		"A kitchen that also handles " + what + " leaves traces: say so, and let them decide.",
	}
}
