package adapt

import (
	"fmt"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/scan"
	"kollaris/core/swap"
	"kollaris/core/sweet"
	"kollaris/core/tin"
)

// assessment fills a result from what was assembled.
type assessment struct {
	assembled
	res  *Result
	also []*larder.Ingredient // foods that the words of lines and steps name beside what the lines were taken for
}

// assess says what came of it: sums, figures, limits, verdict; whole, what will be baked and the method as well.
func assess(written *recipe.Recipe, from assembled, whole bool) *Result {
	r := assessment{
		assembled: from,
		res: &Result{
			Request: from.req, Recipe: from.recipe, Refused: from.refused, Changes: from.changes,
			Confidence: from.confidence, Doubts: from.doubts, Why: from.why, Measures: map[int]string{},
		},
	}
	if r.becoming != nil {
		r.res.Becomes = string(r.becoming.Base)
	}
	for _, n := range review.Notes(r.before, r.Larder) {
		if n.Severity == "stop" {
			r.res.Slips = append(r.res.Slips, n)
		}
	}
	r.measures()
	r.sums()
	r.res.Serving = nutrition.Serving(r.counted(r.res.Recipe), r.Larder)
	r.res.ServingBefore = nutrition.Serving(r.counted(r.before), r.Larder)
	r.res.Gaps = nutrition.AllGaps(r.res.Recipe, r.Larder)
	r.limits()
	r.doubtGaps()
	r.doubtSweets()
	switch {
	case whole:
		r.res.Bakes = r.bakes(written)
		if r.res.Bakes != nil && r.req.Tin != "" && !r.res.Bakes.Bowl {
			r.res.Recipe.Tins, r.res.Recipe.OtherTins, r.res.Bakes.Share = []tin.Tin{r.res.Bakes.Yours.Tin}, nil, 0
		}
		r.method()
		r.rises()
	case len(Unlisted(r.before, r.demand, r.Larder)) > 0: // its verdict asks what is left of that
		r.method()
	}
	r.verdict(whole)
	if !whole {
		r.res.Method = nil
	}
	return r.res
}

// sweetened reports whether the batter's sugar has to go, or would have had to.
func (r *assessment) sweetened() bool {
	if r.refused == nil {
		return r.pickFor("sugar") != nil
	}
	return slices.ContainsFunc(r.groups, func(g *group) bool { return g.Use.ID == "sugar" && !g.Topping })
}

// farOut is the share of what was written by which a sum may miss its window and still be
// the same bake. Source: practice, a working value.
const farOut = 0.5

// sums compares what the recipe adds up to before and after.
func (r *assessment) sums() {
	b, itemsBefore := r.balanceOf(r.before)
	a, itemsAfter := r.balanceOf(r.res.Recipe)
	r.res.Before, r.res.After = b, a
	changed := len(r.res.Changes) > 0
	for _, t := range formula.Targets(b, r.before.Kind.Like(), r.lift, r.becoming, r.sweetened()) {
		s := Sum{
			ID: t.ID, Name: t.Name, Unit: t.Unit, Before: t.Sum(itemsBefore), After: t.Sum(itemsAfter), Lo: t.Lo,
			Hi: t.Hi, Less: t.Less, More: t.More, Words: t.Same, Method: t.Method,
		}
		s.Why = fact.Figure{Value: s.After, Unit: t.Unit, Terms: balance.Term(itemsAfter, t.Of)}
		met := s.After
		for _, x := range s.Why.Terms {
			met -= x.Value
		}
		if t.All != nil && met > 0.05 {
			s.Why.Terms = append(s.Why.Terms, fact.Term{ID: "met", Name: "acid that meets soda", Value: met})
		}
		miss := t.Missed(s.After, b.Mass)
		if !changed {
			s.Words = "as written"
		} else if miss != 0 {
			s.Out = true
			word := t.Less
			if miss > 0 {
				word = t.More
			}
			s.Miss = miss
			s.Words = missWords(t, word, miss, r.Kitchen)
			if t.ID != "mass" {
				r.res.Doubts = append(r.res.Doubts, fmt.Sprintf("%s: %s.", t.Name, s.Words))
				r.res.Confidence = r.res.Confidence.Worse(swap.Workable)
				if math.Abs(miss) > farOut*math.Abs(s.Before) && math.Abs(miss) > t.Scale/4 && t.ID != "salt" && !r.fills {
					r.res.Confidence = r.res.Confidence.Worse(swap.Experiment)
				}
			}
		}
		r.res.Sums = append(r.res.Sums, s)
	}
}

// felt are what a mix of sweeteners does in the mouth that is said where it comes.
var felt = []string{"crystals", "cooling", "taste"}

// doubtSweets says where what sweetens now turns gritty, cools the mouth or lingers, in the
// batter and in the toppings.

// missWords says by how much a sum is outside its window, in what a kitchen has: lift in spoons of powder, soda in spoons of soda,
// the rest in grams.
func missWords(t formula.Target, word string, miss float64, k measure.Kitchen) string {
	spoons := func(grams, perTsp float64) string {
		if words, _ := k.Spoons(measure.Millilitres(grams/perTsp) * k.Teaspoon()); words != "" {
			return words
		}
		return "a pinch"
	}
	far := math.Abs(miss)
	switch {
	case t.ID == "lift" && miss < 0:
		return fmt.Sprintf("rises less, as if %s of powder were missing", spoons(far/balance.PowderGas, balance.TspPowder))
	case t.ID == "lift":
		return fmt.Sprintf("rises more, as with %s of powder too much", spoons(far/balance.PowderGas, balance.TspPowder))
	case t.ID == "acid" && miss > 0:
		return fmt.Sprintf("tastes of soda: %s of it meets no acid", spoons(balance.SodaGrams(far), balance.TspSoda))
	case t.ID == "acid":
		return fmt.Sprintf("more sour: acid is left that %s of soda would meet", spoons(balance.SodaGrams(far), balance.TspSoda))
	}
	return fmt.Sprintf("%s by %s %s", word, measure.Digits(far, 2), t.Unit)
}

func (r *assessment) doubtSweets() {
	for _, topping := range []bool{false, true} {
		was, _ := sweet.MixOf(r.before, r.Larder, topping)
		now, water := sweet.MixOf(r.res.Recipe, r.Larder, topping)
		if was.Sum().Polyols > 0 || now.Sum().Polyols == 0 {
			continue
		}
		c, where := sweet.Case{Use: sweet.Batter, Water: water}, ""
		if r.before.Kind.Like() == recipe.Biscuit {
			c = sweet.Case{Use: sweet.Biscuit}
		}
		if topping {
			c.Use, where = sweet.Icing, "In the topping: "
		}
		for _, e := range sweet.Effects(was, now, c) {
			if topping && e.ID == "crystals" {
				continue // a powder is as fine as it was ground
			}
			if e.State != sweet.Fine && slices.Contains(felt, e.ID) {
				r.res.Doubts = append(r.res.Doubts, where+e.Words)
			}
		}
	}
}

// counted is a recipe with each line that is not understood taken for the one food that its words say it is, where its weight can be
// told: for sums that are then "at least". The line itself stays one that is not understood.
func (r *assessment) counted(rec *recipe.Recipe) *recipe.Recipe {
	var out *recipe.Recipe
	for n, l := range rec.Lines {
		if l.Known || l.Ingredient != "" {
			continue
		}
		found := scan.Mentions(l.Text, r.Larder)
		if len(found) != 1 || len(found[0].Foods) != 1 || r.Larder.Get(found[0].Foods[0].ID) == nil {
			continue
		}
		i := r.Larder.Get(found[0].Foods[0].ID)
		grams := l.Grams
		if u, ok := measure.UnitByID(l.Unit); ok && grams == 0 && u.Kind == measure.Volume {
			if perML, _, ok := i.MLGrams(r.Kitchen); ok {
				grams = l.Amount.Mid() * float64(r.Kitchen.ML(u)) * perML
			}
		}
		if grams <= 0 {
			continue
		}
		if out == nil {
			out = rec.Clone()
		}
		out.Lines[n].Ingredient, out.Lines[n].Grams = i.ID, grams
	}
	if out == nil {
		return rec
	}
	return out
}
