package journal

import (
	"context"
	"maps"
	"math"
	"slices"
	"strconv"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/learn"
	"kollaris/core/method"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/internal/store"
)

// lessons are what one bake of a sitting teaches.
func lessons(ctx context.Context, l *larder.Larder, b store.Bake, state bake.State, n int, recipe int64) ([]learn.Seen, error) {
	p, sheet, res := &state.Strips[n], Sheets(b)[n], b.Of[n].Result
	out := slices.Concat(flourSeen(p, sheet, l, b.Of[n].Drinks), tasksSeen(p, sheet), tasteSeen(p.Judged, res))
	if recipe == 0 || res.Bake == nil || res.Bakes == nil || sheet.Again(max(p.Baking, 0)) {
		return out, nil
	}
	if minutes := doneAfter(p, res.Bake.Done); minutes > 0 {
		e, err := honest(ctx, res)
		if err != nil {
			return nil, err
		}
		out = append(out, learn.Seen{
			Kind: learn.Recipe, Key: strconv.FormatInt(recipe, 10), X: math.Log(minutes / e.Minutes), Oven: res.Request.Oven.Oven, PerDegree: e.PerDegree,
		})
	}
	return out, nil
}

// FlourOf is the flour of which a recipe holds most, and its grams; nil for none.
func FlourOf(r *recipe.Recipe, l *larder.Larder) (flour *larder.Ingredient, grams float64) {
	of := map[larder.ID]float64{}
	for _, ln := range r.Batter() {
		if i := l.Get(ln.Ingredient); i != nil && i.IsBase() {
			of[i.ID] += ln.Grams
			if of[i.ID] > grams {
				flour, grams = i, of[i.ID]
			}
		}
	}
	return flour, grams
}

// flourSeen is how much more the flour drank than was written: somebody added by the spoon, or said how it
// stands and had to add nothing.
func flourSeen(p *bake.Strip, sheet bake.Sheet, l *larder.Larder, before float64) []learn.Seen {
	flour, grams := FlourOf(sheet.Recipe, l)
	if flour == nil || grams < 100 || len(p.Spoons) == 0 && p.Stands == "" || len(p.Slips) > 0 {
		return nil
	}
	added := 0.0
	for id, g := range p.Unlike(sheet) {
		if i := l.Get(sheet.Recipe.Line(id).Ingredient); i != nil && formula.AtBowl(i) == "liquid" {
			added += g
		}
	}
	for _, s := range p.Spoons {
		i := l.Get(s.Food)
		switch {
		case s.Line == 0 && i != nil && formula.AtBowl(i) == "liquid":
			added += s.Grams
		case s.Line == 0 || i == nil && formula.AtBowl(l.Get(sheet.Recipe.Line(s.Line).Ingredient)) == "flour": // more flour is as good as less water, and tells less
			return nil
		}
	}
	return []learn.Seen{{Kind: learn.Flour, Key: string(flour.ID), X: added/(p.Times*grams) + before}}
}

// hurried and dawdled bound the minutes of a task over those foretold: beyond them, somebody pressed later or at once,
// or did something else. Source: practice.
const hurried, dawdled = 0.25, 4.0

// leastHands are the fewest minutes of a task that tells anything. Source: practice.
const leastHands = 2.0

// tasksSeen is how long tasks took, of those that followed another which leaves nothing to wait for.
func tasksSeen(p *bake.Strip, sheet bake.Sheet) (out []learn.Seen) {
	for k := 1; k < len(sheet.Tasks); k++ {
		t, before := sheet.Tasks[k], sheet.Tasks[k-1]
		at, done := p.Done[k]
		from, was := p.Done[k-1]
		hands := t.Hands.Mid()
		if !done || !was || hands < leastHands || t.Hands.Source == method.Yours || t.Where == method.InOven || before.Where == method.InOven || before.Wait.Max > 0 {
			continue
		}
		if times := at.Sub(from).Minutes() / hands; times > hurried && times < dawdled {
			out = append(out, learn.Seen{Kind: learn.Task, Key: string(t.Verb), X: math.Log(times)})
		}
	}
	return out
}

// tasteSeen is what was said of the sweetness.
func tasteSeen(j bake.Judged, res *adapt.Result) []learn.Seen {
	said := map[string]learn.Verdict{} // by who; "" for the table
	switch {
	case slices.Contains(j.Symptoms, "too-sweet"):
		said[""] = learn.TooSweet
	case slices.Contains(j.Symptoms, "not-sweet"):
		said[""] = learn.TooLittle
	case j.Overall >= 3: // somebody said that it was good
		said[""] = learn.JustSo
	}
	for who, x := range j.By {
		switch {
		case x.Sweet != "":
			said[who] = x.Sweet
		case x.Overall >= 3:
			said[who] = learn.JustSo
		}
	}
	var out []learn.Seen
	for _, s := range res.Sums {
		if s.ID == "sweet" && s.Before > 0 && s.After > 0 {
			for _, who := range slices.Sorted(maps.Keys(said)) {
				out = append(out, learn.Seen{Kind: learn.Taste, Key: who, X: math.Log(s.After / s.Before), Said: said[who]})
			}
		}
	}
	return out
}

// Figure is one thing that was learned.
type Figure struct {
	Kind      learn.Kind
	Key       string
	Of        []store.Lesson // what counts
	Normal    learn.Normal
	Taste     learn.Sweetness // of a Taste
	Forgotten bool            // what was seen before counts no more
	Before    int             // lessons that were forgotten
}

// Taught is all that the bakes of a household taught beside its ovens.
type Taught struct {
	Figures []Figure // in the order of their kinds and keys
}

// Kinds are the kinds in the order in which they are shown.
var Kinds = []learn.Kind{learn.Recipe, learn.Flour, learn.Spoon, learn.Task, learn.Taste}

// Learned works out what is learned as it stands.
func Learned(ctx context.Context, st *store.Store) (Taught, error) {
	var out Taught
	all, err := st.Lessons(ctx)
	if err != nil {
		return out, err
	}
	forgotten, err := st.Forgotten(ctx)
	if err != nil {
		return out, err
	}
	ovens, err := st.Ovens(ctx)
	if err != nil {
		return out, err
	}
	figures := map[store.Forgot]*Figure{}
	for _, x := range all {
		id := store.Forgot{Kind: x.Kind, Key: x.Key}
		f := figures[id]
		if f == nil {
			f = &Figure{Kind: x.Kind, Key: x.Key}
			figures[id] = f
		}
		if at, gone := forgotten[id]; gone {
			f.Forgotten = true
			if !x.At.After(at) {
				f.Before++
				continue
			}
		}
		f.Of = append(f.Of, x)
	}
	for _, f := range figures {
		f.learn(ovens)
		if f.Kind == learn.Taste {
			var seen []learn.Seen
			for _, x := range f.Of {
				seen = append(seen, x.Seen)
			}
			f.Taste = learn.LearnTaste(seen)
			f.Normal = f.Taste.Normal
		}
		out.Figures = append(out.Figures, *f)
	}
	slices.SortFunc(out.Figures, func(a, b Figure) int {
		if k := slices.Index(Kinds, a.Kind) - slices.Index(Kinds, b.Kind); k != 0 {
			return k
		}
		if a.Key < b.Key {
			return -1
		}
		return 1
	})
	return out, nil
}

// learn narrows the figure's prior. Of a recipe's time, what its oven is known to do is taken off first; of an oven
// that is not known it may be anything that ovens do.
func (f *Figure) learn(ovens []store.Oven) {
	p, ok := learn.Priors[f.Kind]
	if !ok {
		return
	}
	var xs, more []float64
	for _, x := range f.Of {
		at, doubt := x.X, 0.0
		if x.Kind == learn.Recipe {
			doubt = oven.NewOven().TimeSD(x.PerDegree)
		}
		for _, o := range ovens {
			if o.ID == x.Oven && x.Oven > 0 {
				l := o.Learned()
				at -= x.PerDegree*l.Offset + l.Log
				doubt = 0
			}
		}
		xs, more = append(xs, at), append(more, doubt)
	}
	f.Normal = p.Learn(xs, more...)
}

// Of finds a figure by its kind and key; zero where nothing is known.
func (t Taught) Of(kind learn.Kind, key string) learn.Normal {
	for _, f := range t.Figures {
		if f.Kind == kind && f.Key == key {
			return f.Normal
		}
	}
	return learn.Normal{}
}

// Pace is a recipe's own.
func (t Taught) Pace(recipe int64) learn.Pace {
	n := t.Of(learn.Recipe, strconv.FormatInt(recipe, 10))
	return learn.Pace{Log: n.Mean, SD: n.SD, Bakes: n.N}
}

// Times are the factors of a kind by key, of what was seen at least so often.
func (t Taught) Times(kind learn.Kind, least int) map[string]float64 {
	out := map[string]float64{}
	for _, f := range t.Figures {
		if f.Kind == kind && f.Normal.N >= least {
			out[f.Key] = math.Exp(f.Normal.Mean)
		}
	}
	return out
}

// Since is when the oldest lesson of a figure is of.
func (f Figure) Since() time.Time {
	if len(f.Of) == 0 {
		return time.Time{}
	}
	return f.Of[0].At
}
