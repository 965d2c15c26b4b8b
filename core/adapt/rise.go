package adapt

import (
	"fmt"
	"math"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/recipe"
	"kollaris/core/yeast"
)

// dough is what the rise of a yeast dough goes by.
func dough(r *recipe.Recipe, l *larder.Larder) yeast.Dough {
	items := balance.Items(r, l)
	b := balance.Add(items)
	lactose, works := 0.0, 0.0 // lactose it neither eats nor minds, nor what is within pieces of fruit and nut
	pieces := balance.Balance{}
	for _, it := range items {
		if it.Ingredient.Shelf.Pieces {
			one := balance.Add([]balance.Item{it})
			pieces.Sugars, pieces.Fat = pieces.Sugars+one.Sugars, pieces.Fat+one.Fat
		}
		lactose += it.Grams / 100 * it.Ingredient.Facts.Or(larder.Lactose, 0)
		if it.Ingredient.Family == larder.FamilyYeast {
			works += it.Grams * yeast.Instant(string(it.Ingredient.ID))
		}
	}
	return yeast.Dough{
		Yeast: b.Per(works), Sugar: b.Per(b.Sugars - lactose - pieces.Sugars), Salt: b.Per(b.Salt), Rich: b.Per(b.Fat + b.Egg - pieces.Fat),
	}
}

// worthSaying is by how much a rise must change to be told anew: less lies within its spread.
// Source: practice.
const worthSaying = 0.15

// mostRise bounds what a formula may do to a rise: beyond it the model says nothing.
const mostRise = 4.0

// calculated is the source of a rise that was worked out.
const calculated fact.Source = "calculated"

// rises works out how long the dough rises with what it became: written times by what changed, the
// trade's usual ones by what it is.
func (r *assessment) rises() {
	if !r.written.Kind.Yeasted() || r.refused != nil {
		return
	}
	was, is := dough(r.before, r.Larder), dough(r.res.Recipe, r.Larder)
	if was.Yeast <= 0 || is.Yeast <= 0 {
		return
	}
	for n := range r.res.Method {
		t := &r.res.Method[n]
		if t.Verb == method.Prove && r.eggCame(n) && t.Wait.Source != method.Yours {
			if t.Wait.Max > method.WarmAtMost {
				t.Wait.Minutes = recipe.Minutes{Min: min(t.Wait.Min, method.WarmAtMost/2), Max: method.WarmAtMost}
			}
			t.Note = "No longer than two hours in the warm: raw egg or milk came in. It rises little; bake it then."
			continue
		}
		if t.Verb != method.Prove || t.Where == method.Fridge || t.Wait.Max <= 0 || t.Wait.Source == method.Yours {
			continue
		}
		times, than := is.Slow()/was.Slow(), "than written"
		if t.Wait.Source != method.Written {
			times, than = is.Slow(), "than usual"
		}
		times = math.Max(1/mostRise, math.Min(mostRise, times))
		if math.Abs(times-1) < worthSaying {
			continue
		}
		t.Wait = method.Time{Minutes: recipe.Minutes{Min: fives(times * t.Wait.Min), Max: fives(times * t.Wait.Max)}, Source: calculated}
		word := "Longer " + than
		if times < 1 {
			word = "Shorter " + than
		}
		t.Note = fmt.Sprintf("%s, about %s: %s. A quarter more or less; end it by its sign.", word, span(t.Wait.Minutes), whyRise(was, is, than == "than usual"))
	}
}

// eggCame reports whether raw egg, or milk, that the written recipe did not have goes in before a task.
func (r *assessment) eggCame(n int) bool {
	for _, t := range r.res.Method[:n] {
		for _, u := range t.Uses {
			l := r.res.Recipe.Line(u.Line)
			if l != nil && l.Replaces == 0 && r.before.Line(l.ID) == nil && method.Spoils(r.Larder.Get(l.Ingredient)) {
				return true
			}
		}
	}
	return false
}

// fives rounds minutes to fives.
func fives(x float64) float64 { return 5 * math.Round(x/5) }

func span(m recipe.Minutes) string {
	if m.Min == m.Max {
		return fmt.Sprintf("%.0f min", m.Max)
	}
	return fmt.Sprintf("%.0f to %.0f min", m.Min, m.Max)
}

// whyRise names what changes a rise most.
func whyRise(was, is yeast.Dough, usual bool) string {
	if usual {
		was = yeast.Dough{Yeast: 1, Sugar: 0, Salt: 2, Rich: 0}
	}
	best, words := 0.0, ""
	for _, x := range []struct {
		one  yeast.Dough
		what string
		more bool
	}{
		{yeast.Dough{Yeast: is.Yeast, Sugar: was.Sugar, Salt: was.Salt, Rich: was.Rich}, "yeast for the flour", is.Yeast > was.Yeast},
		{yeast.Dough{Yeast: was.Yeast, Sugar: is.Sugar, Salt: was.Salt, Rich: was.Rich}, "sugar, which slows yeast", is.Sugar > was.Sugar},
		{yeast.Dough{Yeast: was.Yeast, Sugar: was.Sugar, Salt: is.Salt, Rich: was.Rich}, "salt, which slows yeast", is.Salt > was.Salt},
		{yeast.Dough{Yeast: was.Yeast, Sugar: was.Sugar, Salt: was.Salt, Rich: is.Rich}, "fat and egg, which slow yeast", is.Rich > was.Rich},
	} {
		if by := math.Abs(math.Log(x.one.Slow() / was.Slow())); by > best {
			best, words = by, map[bool]string{true: "more ", false: "less "}[x.more]+x.what
		}
	}
	return words
}
