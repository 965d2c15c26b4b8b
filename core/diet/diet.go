// Package diet judges whether an ingredient may be eaten by those at the table.
//
// A demand is a set of diets, bans and limits a serving. A ban is the id of an allergen of
// EU 1169/2011 annex II or US law ("wheat"), of a family of foods listed in data/ ("coconut",
// "gum", and "nuts", which at home means tree nuts and peanuts), or of one ingredient
// ("coconut-oil"). ParseBan reads what people type. A verdict is never better than what the
// label can say: an ingredient whose allergen depends on the maker is "check the label".
// Where a demand holds words that nobody understood (Unread), nothing is fine.
package diet

import (
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
	Unread []string // what was typed and not understood: it could mean anything
}

// Empty reports whether nothing is asked.
func (d Demand) Empty() bool {
	return len(d.Diets) == 0 && len(d.Bans) == 0 && len(d.Limits) == 0 && len(d.Unread) == 0
}

// Has reports whether a diet is among those asked for.
func (d Demand) Has(id ID) bool { return slices.Contains(d.Diets, id) }

// ShutsOut reports whether a diet or a ban shuts an allergen of the law out.
func (d Demand) ShutsOut(allergen string) bool {
	for _, id := range d.Diets {
		if x, _ := Find(id); x.Allergen == allergen {
			return true
		}
	}
	return slices.ContainsFunc(d.Bans, func(b string) bool { return slices.Contains(AllergensOf(b), allergen) })
}

// With is the demand that keeps both: all diets and bans, and the least of each
// limit.
func (d Demand) With(other Demand) Demand {
	out := Demand{
		Diets: slices.Clone(d.Diets), Bans: slices.Clone(d.Bans), Limits: slices.Clone(d.Limits),
		Unread: slices.Clone(d.Unread),
	}
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
	for _, u := range other.Unread {
		if !slices.Contains(out.Unread, u) {
			out.Unread = append(out.Unread, u)
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
		out = append(out, NoWords(b))
	}
	for _, l := range d.Limits {
		out = append(out, l.Words())
	}
	for _, u := range d.Unread {
		out = append(out, "“"+u+"”, which is not understood")
	}
	return out
}

// Judge gives the verdict on one ingredient and why.
func (d Demand) Judge(i *larder.Ingredient) (Verdict, Reason) {
	worst, why := Fine, Reason{}
	see := func(v Verdict, reason Reason) {
		if v > worst {
			worst, why = v, reason
		}
	}
	for _, id := range d.Diets {
		x, _ := Find(id)
		if x.Allergen != "" {
			see(allergenIn(i, x.Allergen))
		}
		if x.judge != nil {
			see(x.judge(i))
		}
	}
	for _, ban := range d.Bans {
		see(banned(ban, i))
	}
	return worst, why
}

// LabelWords says of a food whose label must be read for what: "dark chocolate for milk, soya"; its name alone where that cannot be
// said in a word.
func (d Demand) LabelWords(i *larder.Ingredient) string {
	var of []string
	see := func(v Verdict, why Reason) {
		if about := strings.TrimPrefix(why.About(), "only "); v == CheckLabel && about != "" && !slices.Contains(of, about) {
			of = append(of, about)
		}
	}
	for _, id := range d.Diets {
		x, _ := Find(id)
		if x.Allergen != "" {
			see(allergenIn(i, x.Allergen))
		}
		if id == Vegan { // of each that it may hold
			for _, a := range []string{"egg", "milk", "fish", "crustaceans", "molluscs"} {
				see(allergenIn(i, a))
			}
		} else if x.judge != nil {
			see(x.judge(i))
		}
	}
	for _, ban := range d.Bans {
		see(banned(ban, i))
		for _, a := range AllergensOf(ban) {
			see(allergenIn(i, a))
		}
	}
	if len(of) == 0 {
		return i.Name
	}
	return i.Name + " for " + strings.Join(of, ", ")
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
