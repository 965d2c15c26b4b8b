package adapt

import (
	"slices"

	"kollaris/core/diet"
)

// traced are the diets for which crumbs and dust of another bake matter. Source: practice: those
// that allergies and coeliac disease ask for.
var traced = []diet.ID{diet.EggFree, diet.DairyFree, diet.GlutenFree, diet.GrainFree}

// harms reports whether a bake holds what another's eaters must not meet: by their bans, and by
// the diets of which crumbs matter.
func (r *Result) harms(other *Result, kit Kit) bool {
	d := other.Request.Demand()
	d.Limits = nil
	d.Diets = slices.DeleteFunc(slices.Clone(d.Diets), func(id diet.ID) bool { return !slices.Contains(traced, id) })
	for _, l := range r.Recipe.Lines {
		if i := kit.Larder.Get(l.Ingredient); i != nil {
			if v, _ := d.Judge(i); v == diet.Breaks {
				return true
			}
		}
	}
	return false
}

// Orders says of bakes made together which come before which, by their places: those that hold
// nothing of what another's eaters must not meet, before that other where it holds what theirs
// must not. Where each harms the other nothing but cleaning between helps: those pairs are clash.
func Orders(results []*Result, kit Kit) (before [][]int, clash [][2]int) {
	before = make([][]int, len(results))
	for n, a := range results {
		for m, b := range results[:n] {
			to, from := a.harms(b, kit), b.harms(a, kit)
			switch {
			case to && from:
				clash = append(clash, [2]int{m, n})
			case to:
				before[m] = append(before[m], n)
			case from:
				before[n] = append(before[n], m)
			}
		}
	}
	return before, clash
}
