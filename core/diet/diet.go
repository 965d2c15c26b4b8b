// Package diet judges whether an ingredient may be eaten by those at the table.
//
// A demand is a set of diets, bans and limits a serving. Bans name an allergen of EU 1169/2011
// annex II or US law ("nuts", "wheat"), an ingredient ("xanthan"), a family ("gum") or a word that
// ingredients share in their ids ("coconut"). A verdict is never better than
// what the label can say: an ingredient whose allergen depends on the maker is
// "check the label".
package diet

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"kollaris/core/larder"
)

// ID names a diet.
type ID string

// Verdict is how an ingredient stands to a demand. Fine < CheckLabel < Breaks.
type Verdict int

// The verdicts.
const (
	Fine Verdict = iota
	CheckLabel
	Breaks
)

// Demand is what the table must not be given.
type Demand struct {
	Diets  []ID
	Bans   []string
	Limits []Limit
}

// Empty reports whether nothing is asked.
func (d Demand) Empty() bool { return len(d.Diets) == 0 && len(d.Bans) == 0 && len(d.Limits) == 0 }

// Has reports whether a diet is among those asked for.
func (d Demand) Has(id ID) bool { return slices.Contains(d.Diets, id) }

// With is the demand that keeps both: all diets and bans, and the least of each
// limit.
func (d Demand) With(other Demand) Demand {
	out := Demand{Diets: slices.Clone(d.Diets), Bans: slices.Clone(d.Bans), Limits: slices.Clone(d.Limits)}
	for _, id := range other.Diets {
		if !slices.Contains(out.Diets, id) {
			out.Diets = append(out.Diets, id)
		}
	}
	for _, b := range other.Bans {
		if !slices.Contains(out.Bans, b) {
			out.Bans = append(out.Bans, b)
		}
	}
	for _, l := range other.Limits {
		n := slices.IndexFunc(out.Limits, func(x Limit) bool { return x.What == l.What })
		switch {
		case n < 0:
			out.Limits = append(out.Limits, l)
		case l.Max < out.Limits[n].Max:
			out.Limits[n].Max = l.Max
		}
	}
	return out
}

// Words lists the demand in the application's words.
func (d Demand) Words() []string {
	var out []string
	for _, id := range d.Diets {
		out = append(out, string(id))
	}
	for _, b := range d.Bans {
		out = append(out, "no "+BanWords(b))
	}
	for _, l := range d.Limits {
		out = append(out, l.Words())
	}
	return out
}

// BanWords gives a ban as the application prints it.
func BanWords(ban string) string {
	if w := larder.AllergenWords(ban); w != "" {
		return w
	}
	return strings.ReplaceAll(ban, "-", " ")
}

// usual maps words that people type to the ids of the law.
var usual = map[string]string{
	"soy": "soya", "eggs": "egg", "dairy": "milk", "peanut": "peanuts", "nut": "nuts", "tree-nuts": "nuts", "tree nuts": "nuts", "tree-nut": "nuts",
	"shellfish": "crustaceans", "sulfites": "sulphites", "lupine": "lupin",
}

// ParseBan reads what was typed for a ban and returns its id. The error says
// what would do.
func ParseBan(typed string, l *larder.Larder) (string, error) {
	s := strings.ToLower(strings.TrimSpace(typed))
	if u := usual[s]; u != "" {
		s = u
	}
	if larder.IsAllergen(s) || l.Get(larder.ID(s)) != nil {
		return s, nil
	}
	if m, ok := l.Find(s, nil); ok && m.Confidence >= 1 && !strings.Contains(s, "-") && !sharesWord(l, s) {
		return string(m.ID), nil
	}
	s = strings.ReplaceAll(strings.TrimSuffix(s, "s"), " ", "-")
	if sharesWord(l, s) {
		return s, nil
	}
	return "", fmt.Errorf("“%s” is neither an allergen nor in the larder: try nuts, soya, sesame, or an ingredient such as coconut oil", typed)
}

func sharesWord(l *larder.Larder, s string) bool {
	for _, i := range l.All() {
		if matches(i, s) {
			return true
		}
	}
	return false
}

func matches(i *larder.Ingredient, ban string) bool {
	if string(i.ID) == ban || string(i.Family) == ban {
		return true
	}
	return strings.Contains("-"+string(i.ID)+"-", "-"+ban+"-")
}

// Judge gives the verdict on one ingredient and why.
func (d Demand) Judge(i *larder.Ingredient) (Verdict, string) {
	worst, why := Fine, ""
	see := func(v Verdict, reason string) {
		if v > worst {
			worst, why = v, reason
		}
	}
	allergen := func(a string) {
		switch lv, ok := i.Has(a); {
		case !ok:
		case lv == larder.Contains:
			see(Breaks, fmt.Sprintf("%s holds %s", i.Name, larder.AllergenWords(a)))
		case lv == larder.May:
			see(Breaks, fmt.Sprintf("%s may hold %s", i.Name, larder.AllergenWords(a)))
		default:
			see(CheckLabel, fmt.Sprintf("%s: read the label for %s", i.Name, larder.AllergenWords(a)))
		}
	}
	for _, id := range d.Diets {
		x, _ := Find(id)
		if x.Allergen != "" {
			allergen(x.Allergen)
		}
		if x.judge != nil {
			see(x.judge(i))
		}
	}
	for _, ban := range d.Bans {
		if larder.IsAllergen(ban) {
			allergen(ban)
		} else if matches(i, ban) {
			see(Breaks, fmt.Sprintf("%s is shut out by “no %s”", i.Name, BanWords(ban)))
		}
	}
	return worst, why
}

// Holds lists the allergens that a list of ingredients holds, and those for
// which a label must be read, in the order of the law.
func Holds(ings []*larder.Ingredient) (contains, check []string) {
	level := map[string]larder.Level{}
	for _, i := range ings {
		for a, lv := range i.Allergens {
			if level[a] != larder.Contains {
				level[a] = lv
			}
		}
	}
	order := map[string]int{}
	for n, a := range larder.Allergens() {
		order[a] = n
	}
	for a, lv := range level {
		if lv == larder.Contains {
			contains = append(contains, a)
		} else {
			check = append(check, a)
		}
	}
	byLaw := func(s []string) { sort.Slice(s, func(a, b int) bool { return order[s[a]] < order[s[b]] }) }
	byLaw(contains)
	byLaw(check)
	return contains, check
}
