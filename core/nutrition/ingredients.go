package nutrition

import (
	"sort"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Listed is one entry of an ingredient list.
type Listed struct {
	Name      string
	Grams     float64
	Allergens []string // that it holds, by id: set off in print
	Check     []string // that its label has to be read for
	Unread    bool     // it was not understood, and could hold anything
}

// List names what a recipe holds in descending order of weight, as EU 1169/2011
// article 18 has it, with the allergens of annex II to be set off (article 21).
// Equal ingredients are one entry; what is not weighed stands last.
func List(r *recipe.Recipe, l *larder.Larder) []Listed {
	at := map[string]int{}
	var out []Listed
	for _, ln := range r.Lines {
		n, ok := at[ln.Name]
		if !ok {
			n = len(out)
			at[ln.Name] = n
			e := Listed{Name: ln.Name, Unread: !ln.Known}
			if i := l.Get(ln.Ingredient); i == nil {
				e.Unread = true
			} else {
				for _, a := range larder.Allergens() {
					switch lv, has := i.Has(a); {
					case !has:
					case lv == larder.Check:
						e.Check = append(e.Check, a)
					default:
						e.Allergens = append(e.Allergens, a)
					}
				}
			}
			out = append(out, e)
		}
		out[n].Grams += ln.Grams
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Grams > out[b].Grams })
	return out
}
