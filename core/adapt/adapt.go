// Package adapt is the one function that the command line and the pages call:
// a recipe and what is asked of it in, an adapted recipe with its reasons out.
//
// The way through is a line of stages, each a type of its own that holds all before it and
// never what comes after:
//
//	asked → scaled → screened → chosen → amounts → assembled → Result
//
// The batch is scaled; every line screened against the demand, and those that break it
// grouped by use; a school chosen for each group that satisfies all demands together; the
// amounts solved so that the sum of the recipe comes back (package goal); lines and
// changes assembled, rounded to what a kitchen can weigh or spoon; and what came of it
// assessed: sums, figures, limits, method, verdict. The oven is not asked: a result is told to Predict its bake.
package adapt

import (
	"cmp"
	"math"
	"sort"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// Kit is what an adaptation works with.
type Kit struct {
	Larder  *larder.Larder
	Swaps   *swap.Table
	Kitchen measure.Kitchen
	Law     nutrition.Law // by which packets are sold where it is baked; "" not known
	Memo    Memo          // remembers results, nil for none
	Stamp   string        // of the larder and the schools, without which nothing is remembered
	Stop    func() error  // asked before each adaptation: an error of it, that of a context for instance, is the answer; nil for never
}

// DefaultKit is the built-in catalogue and schools with the default kitchen.
func DefaultKit() Kit {
	return Kit{Larder: larder.Builtin(), Swaps: swap.Builtin(), Kitchen: measure.DefaultKitchen()}
}

// Adapt adapts a recipe to a request. A recipe that cannot be adapted gives a
// result with Refused set; an error means that the computation itself broke. A result may
// be shared with others who asked the same: nobody changes it.
func Adapt(written *recipe.Recipe, req Request, kit Kit) (*Result, error) {
	return kit.remembered(kit.key(written, req), "", func() (*Result, error) { return adapt(written, req, kit, true) })
}

// Judged is Adapt without what it takes to bake it: no Method, no Bakes, no Cautions. A table asks it of every recipe and
// everybody.
func Judged(written *recipe.Recipe, req Request, kit Kit) (*Result, error) {
	key := kit.key(written, req)
	if key != "" {
		if res, ok := kit.Memo.Get(key); ok {
			return res, nil
		}
	}
	return kit.remembered(key, " judged", func() (*Result, error) { return adapt(written, req, kit, false) })
}

// Predicted is Adapt with the bake foretold, remembered likewise.
func Predicted(written *recipe.Recipe, req Request, kit Kit) (*Result, error) {
	return kit.remembered(kit.key(written, req), " predicted", func() (*Result, error) {
		res, err := Adapt(written, req, kit)
		if err != nil {
			return nil, err
		}
		return res.Predict(kit.Kitchen), nil
	})
}

// adapt is the way through, a stage a line; whole goes on to what it takes to bake it.
func adapt(written *recipe.Recipe, req Request, kit Kit, whole bool) (*Result, error) {
	if kit.Stop != nil {
		if err := kit.Stop(); err != nil {
			return nil, err
		}
	}
	shown := Shown(written, kit.Larder)
	scaled := scale(written, newAsked(written, req.asWritten(shown), kit))
	screened := screen(scaled)
	chosen := choose(screened)
	assembled, err := finish(chosen)
	if err != nil {
		return nil, err
	}
	res := assess(written, assembled, whole)
	res.AsWritten, res.Doubts = shown, append(contradicted(shown), res.Doubts...)
	return res, nil
}

// servings is what is asked, else what the recipe says, else eight; a batch of
// another size makes as many more or fewer.
func servings(r *recipe.Recipe, req Request) int {
	if req.Servings > 0 {
		return req.Servings
	}
	return max(1, int(math.Round(float64(cmp.Or(r.Servings, 8))*cmp.Or(req.Scale, 1))))
}

// balanceOf sums a recipe's batter.
func (r asked) balanceOf(rec *recipe.Recipe) (balance.Balance, []balance.Item) {
	items := balance.Items(rec, r.Larder)
	return balance.Add(items), items
}

func sortedKeys[V any](m map[larder.ID]V) []larder.ID {
	keys := make([]larder.ID, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	sort.Slice(keys, func(a, b int) bool { return keys[a] < keys[b] })
	return keys
}
