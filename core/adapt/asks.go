package adapt

import (
	"slices"

	"kollaris/core/diet"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// Asking is what one demand of several costs: what would stay as written without it.
type Asking struct {
	Words      string          // the demand
	Changes    []string        // made for its sake alone: "2 eggs → flax gel"
	Confidence swap.Confidence // of the whole without it, where that is surer; else ""
	Opens      bool            // without it the recipe would no longer be refused
}

// Asks works out what each demand of a request costs, by adapting once more without
// it. Whose demand it is makes no difference.
func Asks(r *recipe.Recipe, req Request, res *Result, kit Kit) ([]Asking, error) {
	var out []Asking
	all := res.Request.Demand()
	try := func(words string, d diet.Demand) error {
		q := req
		q.Diets, q.Bans, q.Limits, q.For, q.Theirs = d.Diets, d.Bans, d.Limits, nil, diet.Demand{}
		for _, c := range res.AsWritten { // it is among them
			q.Loose = append(slices.Clone(q.Loose), c.ID())
		}
		without, err := Adapt(r, q, kit)
		if err != nil {
			return err
		}
		a := Asking{Words: words, Opens: res.Refused != nil && without.Refused == nil}
		if without.Refused == nil && without.Confidence != res.Confidence &&
			without.Confidence.Worse(res.Confidence) == res.Confidence {
			a.Confidence = without.Confidence
		}
		still := without.Swaps()
		for _, c := range res.Swaps() {
			if !slices.Contains(still, c) {
				a.Changes = append(a.Changes, c)
			}
		}
		out = append(out, a)
		return nil
	}
	for n, id := range all.Diets {
		d := all
		d.Diets = slices.Delete(slices.Clone(all.Diets), n, n+1)
		if err := try(string(id), d); err != nil {
			return nil, err
		}
	}
	for n, b := range all.Bans {
		d := all
		d.Bans = slices.Delete(slices.Clone(all.Bans), n, n+1)
		if err := try(diet.NoWords(b), d); err != nil {
			return nil, err
		}
	}
	for n, l := range all.Limits {
		d := all
		d.Limits = slices.Delete(slices.Clone(all.Limits), n, n+1)
		if err := try(l.Words(), d); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Swaps are what went out and what came in its place, in words.
func (res *Result) Swaps() []string {
	var out []string
	for _, c := range res.Changes {
		switch c.Kind {
		case Swapped:
			out = append(out, c.Title+" → "+c.SchoolName)
		case Dropped:
			out = append(out, "without "+c.Title)
		}
	}
	return out
}
