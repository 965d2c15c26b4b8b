package adapt

import (
	"fmt"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/swap"
	"kollaris/core/tin"
)

// assessment fills a result from what was assembled.
type assessment struct {
	assembled
	res *Result
}

// assess says what came of it: sums, figures, limits, what will be baked, method, verdict.
func assess(written *recipe.Recipe, from assembled) *Result {
	r := assessment{assembled: from, res: &Result{Request: from.req, Recipe: from.recipe, Refused: from.refused, Changes: from.changes, Confidence: from.confidence, Doubts: from.doubts, Why: from.why, Measures: map[int]string{}}}
	if r.base != nil {
		r.res.Becomes = string(r.base.base)
	}
	r.measures()
	r.sums()
	r.res.Serving = nutrition.Serving(r.res.Recipe, r.Larder)
	r.res.ServingBefore = nutrition.Serving(r.before, r.Larder)
	r.res.Gaps = nutrition.AllGaps(r.res.Recipe, r.Larder)
	r.limits()
	r.doubtGaps()
	r.res.Bakes = r.bakes(written)
	if r.res.Bakes != nil && r.req.Tin != "" && !r.res.Bakes.Bowl {
		r.res.Recipe.Tins = []tin.Tin{r.res.Bakes.Yours.Tin}
	}
	r.method()
	r.verdict()
	return r.res
}

// sweetened reports whether the batter's sugar has to go, or would have had to.
func (r *assessment) sweetened() bool {
	if r.refused == nil {
		return r.pickFor("sugar") != nil
	}
	return slices.ContainsFunc(r.groups, func(g *group) bool { return g.use.ID == "sugar" && !g.topping })
}

// sums compares what the recipe adds up to before and after.
func (r *assessment) sums() {
	b, itemsBefore := r.balanceOf(r.before)
	a, itemsAfter := r.balanceOf(r.res.Recipe)
	r.res.Before, r.res.After = b, a
	changed := len(r.res.Changes) > 0
	for _, t := range targets(b, r.before.Kind, r.extraLift(), r.base, r.sweetened()) {
		s := Sum{ID: t.id, Name: t.name, Unit: t.unit, Before: t.sumOf(itemsBefore), After: t.sumOf(itemsAfter), Lo: t.lo, Hi: t.hi, Less: t.less, More: t.more, Words: t.same, Method: t.method}
		s.Why = fact.Figure{Value: s.After, Unit: t.unit, Terms: balance.Term(itemsAfter, t.of)}
		slack := 0.02*t.scale + 0.01*math.Abs(t.hi) // what rounding to spoons may move
		miss := 0.0
		if s.After > t.hi+slack {
			miss = s.After - t.hi
		} else if s.After < t.lo-slack {
			miss = s.After - t.lo
		}
		if !changed {
			s.Words = "as written"
		} else if miss != 0 {
			s.Out = true
			word := t.less
			if miss > 0 {
				word = t.more
			}
			s.Words = fmt.Sprintf("%s by %s %s", word, measure.Digits(math.Abs(miss), 2), t.unit)
			if t.id != "mass" {
				r.res.Doubts = append(r.res.Doubts, fmt.Sprintf("%s: %s.", t.name, s.Words))
				r.res.Confidence = r.res.Confidence.Worse(swap.Workable)
			}
		}
		r.res.Sums = append(r.res.Sums, s)
	}
}
