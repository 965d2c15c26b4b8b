package diet

import (
	"strings"

	"kollaris/core/larder"
)

// Rule is the number of the way in which ParseBan reads words. A ban that was kept under
// a lower one may mean less than its word: the first rule matched fragments of ids.
const Rule = 2

// Changed is a kept ban that today's rule reads otherwise than it was kept, or is not
// sure of: to be asked about.
type Changed struct {
	Was string // as it was kept, in words
	Now string // what it is taken for until somebody says; "" where it is not understood
}

// Reread reads bans that were kept under the first rule by today's. What they are taken
// for is never less than what they were kept as.
func Reread(kept []string, l *larder.Larder) (Demand, []Changed) {
	var d Demand
	var asked []Changed
	for _, id := range kept {
		words := strings.ReplaceAll(id, "-", " ")
		one, err := ParseBan(words, l)
		if err != nil {
			d.Unread = append(d.Unread, words)
			asked = append(asked, Changed{Was: words})
			continue
		}
		d = d.With(one)
		if !larder.IsAllergen(id) || len(one.Bans) != 1 || id == "nuts" { // the law's other names were read well
			asked = append(asked, Changed{words, strings.Join(one.Covers(), "; ")})
		}
	}
	return d, asked
}

// Covers says in full what the bans of a demand shut out, and what its diets mean.
func (d Demand) Covers() []string {
	var out []string
	for _, b := range d.Bans {
		if c := Covers(b); c != "" {
			out = append(out, c)
		} else {
			out = append(out, BanWords(b))
		}
	}
	for _, id := range d.Diets {
		x, _ := Find(id)
		out = append(out, string(id)+": "+x.Says)
	}
	return out
}
