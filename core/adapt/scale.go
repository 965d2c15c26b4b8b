package adapt

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// scale makes the batch that is asked for.
func scale(written *recipe.Recipe, a asked) scaled {
	r := scaled{asked: a, written: written.Clone()}
	for n, l := range r.written.Lines {
		if r.Larder.Get(l.Ingredient) == nil {
			r.written.Lines[n].Known = false // the household may have forgotten an ingredient of its own
		}
	}
	if r.req.Scale > 0 && r.req.Scale != 1 {
		r.written = r.written.Scaled(r.req.Scale)
		for n := range r.written.Lines {
			r.sayScaled(&r.written.Lines[n])
		}
	}
	r.written.Servings = servings(written, r.req)
	r.before = r.written.Clone()
	r.fills = setsFilling(r.before, r.Larder)
	r.wholeEggs()
	r.leaveOut()
	r.keepAsWritten()
	r.exceeded = r.passes()
	return r
}

// sayScaled writes a line of a scaled batch with its amount.
func (r *scaled) sayScaled(l *recipe.Line) {
	i := r.Larder.Get(l.Ingredient)
	switch {
	case i != nil && l.Grams > 0:
		l.Text = r.lineText(i, l.Grams, l.Note)
	case !l.Amount.IsZero():
		unit, _ := measure.UnitByID(l.Unit)
		l.Text = strings.Join(strings.Fields(l.Amount.String()+" "+unit.Words(l.Amount)+" "+l.Phrase), " ")
		if l.Note != "" {
			l.Text += ", " + l.Note
		}
	}
}

// leaveOut removes the lines the person drops.
func (r *scaled) leaveOut() {
	gone := map[recipe.LineID]bool{}
	for _, id := range r.req.Drops {
		gone[id] = true
	}
	kept := r.written.Lines[:0]
	for _, l := range r.written.Lines {
		if gone[l.ID] {
			r.dropped = append(r.dropped, l)
			continue
		}
		kept = append(kept, l)
	}
	r.written.Lines = kept
}

// keepAsWritten holds what the baker keeps at what is written of it.
func (r *scaled) keepAsWritten() {
	if len(r.req.Keeps) == 0 {
		return
	}
	r.holds = maps.Clone(r.holds)
	if r.holds == nil {
		r.holds = map[larder.ID]float64{}
	}
	for _, id := range r.req.Keeps {
		sum := 0.0
		for _, l := range r.written.Lines {
			if l.Ingredient == id && !l.Topping() {
				sum += l.Grams
			}
		}
		if _, typed := r.holds[id]; !typed && sum > 0 {
			r.holds[id] = sum
		}
	}
}

// keeps reports whether an ingredient is not to go for a limit's sake.
func (r asked) keeps(id larder.ID) bool {
	_, held := r.holds[id]
	return held || slices.Contains(r.req.Keeps, id)
}

// wholeEggs brings the eggs of a scaled batch to whole ones, and gives the water
// that this adds or takes to the batter's main liquid. Eggs that go, that are
// held, or that come to less than half of one stay as they are. Source: common
// practice, eggs come whole; calculated, an egg's water.
func (r *scaled) wholeEggs() {
	if r.req.Scale == 0 || r.req.Scale == 1 {
		return
	}
	var liquid *recipe.Line
	for n := range r.written.Lines {
		l := &r.written.Lines[n]
		if i := r.Larder.Get(l.Ingredient); i != nil && !l.Topping() && formula.MovesAs(i) == "liquid" &&
			(liquid == nil || l.Grams > liquid.Grams) {
			liquid = l
		}
	}
	for n := range r.written.Lines {
		l := &r.written.Lines[n]
		i := r.Larder.Get(l.Ingredient)
		if i == nil || i.Family != larder.FamilyEgg || l.Amount.Mid() <= 0 || !counted(l.Unit) || r.goes(i, l) {
			continue
		}
		exact := l.Amount.Mid()
		whole := math.Floor(exact + 0.5)
		if whole == exact || whole == 0 {
			continue
		}
		from := []Amount{r.amount(*l)}
		r.setGrams(l, l.Grams/exact*whole, false)
		l.Amount, l.Unit = measure.One(whole), ""
		to := []Amount{r.amount(*l)}
		c := Change{
			Kind: Scaled, Title: fmt.Sprintf("%s %s", l.Name, measure.Grams(from[0].Grams)), Confidence: swap.WellTried,
			Reason: fmt.Sprintf(
				"Eggs come whole: %s would be %s times the written.", measure.Digits(exact, 3),
				measure.Digits(r.req.Scale, 3),
			),
		}
		// water the egg brings more than before; the liquid gives as much
		more := (to[0].Grams - from[0].Grams) * i.Facts[larder.Water] / 100
		if liquid != nil && !l.Topping() && r.holds[liquid.Ingredient] == 0 {
			per := r.Larder.Get(liquid.Ingredient).Facts[larder.Water] / 100
			if grams := liquid.Grams - more/per; grams > liquid.Grams/2 { // half a batter's liquid is too much to ask
				from, to = append(from, r.amount(*liquid)), append(to, Amount{})
				r.setGrams(liquid, r.round(r.Larder.Get(liquid.Ingredient), grams), false)
				to[1] = r.amount(*liquid)
				c.Reason += fmt.Sprintf(
					" The %s evens out the %s of water.", liquid.Name, measure.Grams(math.Abs(more)),
				)
			}
		}
		c.From, c.To = from, to
		r.moved = append(r.moved, c)
	}
}

func counted(unit string) bool { return unit == "" || unit == "piece" }

// goes reports whether a line will not stay as it is.
func (r asked) goes(i *larder.Ingredient, l *recipe.Line) bool {
	if v, _ := r.demand.Judge(i); v == diet.Breaks {
		return true
	}
	if _, held := r.holds[i.ID]; held {
		return true
	}
	use := r.Swaps.For(i.ID)
	if use == nil {
		return false
	}
	asked := r.req.Swaps[useKey(use.ID, l.Topping())]
	return asked != "" && asked != "as-written"
}
