// Package adapt is the one function that the command line and the pages call:
// a recipe and what is asked of it in, an adapted recipe with its reasons out.
//
// The way through: screen every line against the demand; group the breaking
// lines by use; choose a school for each that satisfies all demands together;
// solve the amounts so that the sum of the recipe comes back (package goal);
// round to what a kitchen can weigh or spoon, and recompute; edit the method;
// say what changed and why. The oven is not asked: a result is told to Predict its bake.
package adapt

import (
	"cmp"
	"math"
	"sort"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/swap"
	"kollaris/core/tin"
)

// Kit is what an adaptation works with.
type Kit struct {
	Larder  *larder.Larder
	Swaps   *swap.Table
	Kitchen measure.Kitchen
	Memo    Memo   // remembers results, nil for none
	Stamp   string // of the larder and the schools, without which nothing is remembered
}

// DefaultKit is the built-in catalogue and schools with the default kitchen.
func DefaultKit() Kit {
	return Kit{Larder: larder.Builtin(), Swaps: swap.Builtin(), Kitchen: measure.DefaultKitchen()}
}

// group is the lines of one use, in the batter or in a topping.
type group struct {
	key     string // of Request.Swaps
	use     *swap.Use
	topping bool
	lines   []recipe.Line
	breaks  cause
	shuts   bool // it breaks the demand by itself, rather than passing a limit
	choices []swap.Choice
	chosen  swap.Choice
	to      []recipe.Line             // the new lines, once solved
	raw     map[recipe.LineID]float64 // their grams before rounding
}

// per is how many of the use's measure the group's lines make.
func (g *group) per() float64 {
	sum := 0.0
	for _, l := range g.lines {
		sum += l.Grams
	}
	return sum / g.use.Per
}

type run struct {
	Kit
	req     Request
	demand  diet.Demand
	written *recipe.Recipe // scaled, lines left out removed
	groups  []*group
	dropped []recipe.Line
	scaled  []Change // eggs brought to whole ones
	passed  []diet.Limit
	bc      *becoming // nil while the flour stays of a kind
	result  *Result
	slots   []*slot
	extra   []recipe.Line // lines added outside any group: powder, salt
	nextID  recipe.LineID
}

// Adapt adapts a recipe to a request. A recipe that cannot be adapted gives a
// result with Refused set; an error means that the computation itself broke. A result may
// be shared with others who asked the same: nobody changes it.
func Adapt(written *recipe.Recipe, req Request, kit Kit) (*Result, error) {
	key := kit.key(written, req)
	if key != "" {
		if res, ok := kit.Memo.Get(key); ok {
			return res, nil
		}
	}
	res, err := adapt(written, req, kit)
	if err == nil && key != "" {
		kit.Memo.Add(key, res)
	}
	return res, err
}

// Predicted is Adapt with the bake foretold, remembered likewise.
func Predicted(written *recipe.Recipe, req Request, kit Kit) (*Result, error) {
	key := kit.key(written, req)
	if key != "" {
		key += " predicted"
		if res, ok := kit.Memo.Get(key); ok {
			return res, nil
		}
	}
	res, err := Adapt(written, req, kit)
	if err != nil {
		return nil, err
	}
	res = res.Predict(kit.Kitchen)
	if key != "" {
		kit.Memo.Add(key, res)
	}
	return res, nil
}

func adapt(written *recipe.Recipe, req Request, kit Kit) (*Result, error) {
	r := &run{Kit: kit, req: req, demand: req.Demand()}
	r.written = written.Clone()
	for n, l := range r.written.Lines {
		if r.Larder.Get(l.Ingredient) == nil {
			r.written.Lines[n].Known = false // the household may have forgotten an ingredient of its own
		}
	}
	if req.Scale > 0 && req.Scale != 1 {
		r.written = r.written.Scaled(req.Scale)
	}
	r.written.Servings = servings(written, req)
	r.nextID = written.NextID()
	r.result = &Result{Request: req, Confidence: swap.WellTried, Measures: map[int]string{}}
	before := r.written.Clone()
	r.wholeEggs()
	r.leaveOut()
	r.passed = r.exceeded()
	if refusal := r.screen(); refusal != nil {
		r.result.Refused = refusal
	} else {
		r.choose()
		if r.result.Refused == nil {
			if r.bc = r.become(); r.bc != nil {
				r.result.Becomes = string(r.bc.base)
			}
			if err := r.solve(); err != nil {
				return nil, err
			}
			r.assemble()
		}
	}
	if r.result.Refused != nil {
		r.result.Recipe = before
		r.result.Changes = nil
	}
	r.measures()
	r.sums(before)
	r.result.Serving = nutrition.Serving(r.result.Recipe, r.Larder)
	r.result.ServingBefore = nutrition.Serving(before, r.Larder)
	r.result.Gaps = nutrition.AllGaps(r.result.Recipe, r.Larder)
	r.limits(before)
	r.doubtGaps()
	r.result.Bakes = r.bakes(written)
	if r.result.Bakes != nil && r.req.Tin != "" && !r.result.Bakes.Bowl {
		r.result.Recipe.Tins = []tin.Tin{r.result.Bakes.Yours.Tin}
	}
	r.method()
	r.verdict(before)
	return r.result, nil
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
func (r *run) balanceOf(rec *recipe.Recipe) (balance.Balance, []balance.Item) {
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
