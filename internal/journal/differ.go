package journal

import (
	"fmt"
	"math"
	"slices"

	"kollaris/core/bake"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/internal/store"
)

// Baked is one bake as it was done: what it was begun as, and what happened.
type Baked struct {
	Of    store.BakeOf
	Sheet bake.Sheet
	Strip *bake.Strip
	Begun string // date, as it is shown
}

// Row is a thing of several bakes, in words for each; "" where it is not known.
type Row struct {
	What  string
	Words []string
	Large bool // a difference that is worth a word between neighbours
}

// Differs reports whether not all are the same.
func (r Row) Differs() bool {
	return slices.ContainsFunc(r.Words, func(w string) bool { return w != r.Words[0] })
}

// The least differences that are said between neighbours. Source: practice: below them a kitchen does not repeat
// itself.
const (
	sayGrams   = 0.03 // of an amount
	sayMinutes = 2.0

	anotherBatch = 0.15 // of the whole: it is another batch, and its amounts are laid against each other by shares
)

// went is what really went in of an ingredient by name, g: what was weighed or corrected, else what was to be.
func (b Baked) went() map[string]float64 {
	out := map[string]float64{}
	for _, l := range b.Sheet.Recipe.Lines {
		if l.Grams <= 0 {
			continue
		}
		g := b.Strip.In[l.ID]
		if !b.put(l.ID) { // but for spoonfuls nobody said how much
			g += l.Grams * b.Strip.Times
		}
		out[l.Name] += g
	}
	for _, s := range b.Strip.Spoons {
		if s.Line == 0 && s.Food != "" {
			out[string(s.Food)] += s.Grams
		}
	}
	return out
}

// put reports whether a line was put in, rather than only corrected.
func (b Baked) put(id recipe.LineID) bool {
	for _, lines := range b.Strip.Each {
		if _, ok := lines[id]; ok {
			return true
		}
	}
	return false
}

// minutes is how long it was in the oven, 0 where not known.
func (b Baked) minutes() float64 {
	if b.Strip.WentIn.IsZero() || b.Strip.Out.IsZero() {
		return 0
	}
	return b.Strip.Out.Sub(b.Strip.WentIn).Minutes()
}

// core is what the probe read last, 0 where there was none.
func (b Baked) core() float64 {
	for _, x := range slices.Backward(b.Strip.Sights) {
		if x.Look == "" {
			return x.Core
		}
	}
	return 0
}

// Compare lays bakes side by side, a row a thing: how they were made, amounts, what came of them.
func Compare(bakes []Baked, k measure.Kitchen) (made, amounts, came []Row) {
	row := func(what string, of func(b Baked) (string, float64), least float64) Row {
		r := Row{What: what}
		var xs []float64
		for _, b := range bakes {
			words, x := of(b)
			r.Words, xs = append(r.Words, words), append(xs, x)
		}
		r.Large = r.Differs() && slices.Max(xs)-slices.Min(xs) >= least
		return r
	}
	words := func(what string, of func(b Baked) string) Row {
		return row(what, func(b Baked) (string, float64) { return of(b), 0 }, 0)
	}
	figure := func(form string, x float64) (string, float64) {
		if x <= 0 {
			return "", 0
		}
		return fmt.Sprintf(form, x), x
	}
	made = []Row{
		words("Oven", func(b Baked) string { return b.Of.Oven }),
		row("Set to", func(b Baked) (string, float64) {
			if b.Of.Result.Bake == nil {
				return "", 0
			}
			return k.OvenText(b.Of.Result.Bake.Oven), float64(b.Of.Result.Bake.Oven)
		}, 1),
		words("Tin", func(b Baked) string {
			if b.Of.Result.Bake == nil {
				return ""
			}
			return b.Of.Result.Bake.Fill.Tin.Words()
		}),
		row("Foretold", func(b Baked) (string, float64) {
			if b.Of.Result.Bake == nil {
				return "", 0
			}
			return figure("%.0f min", b.Of.Result.Bake.Minutes)
		}, math.Inf(1)),
		row("In the oven", func(b Baked) (string, float64) { return figure("%.0f min", b.minutes()) }, sayMinutes),
		row("The middle last", func(b Baked) (string, float64) {
			c := b.core()
			if c <= 0 {
				return "", 0
			}
			return k.Temperature(measure.Celsius(c)), c
		}, 1),
		row("Cooled", func(b Baked) (string, float64) { return figure("%.3g h", b.Strip.Judged.Cooled) }, 0.5),
	}
	came = []Row{
		words("All in all", func(b Baked) string {
			if b.Strip.Judged.Overall == 0 {
				return ""
			}
			return Overall[b.Strip.Judged.Overall]
		}),
		words("What was seen", func(b Baked) string {
			j := b.Strip.Judged
			j.Overall = 0
			return Words(j)
		}),
		row("Height", func(b Baked) (string, float64) { return figure("%.3g cm", b.Strip.Judged.Height) }, math.Inf(1)),
		row("Baked weight", func(b Baked) (string, float64) { return figure("%.0f g", b.Strip.Weight) }, math.Inf(1)),
		words("In words", func(b Baked) string { return b.Strip.Judged.Words }),
	}
	for n := range came {
		came[n].Large = false // that is what came of it, not what was done otherwise
	}
	return drop(made), compareAmounts(bakes, nil), drop(came)
}

// drop leaves out what nothing is known of.
func drop(rows []Row) []Row {
	return slices.DeleteFunc(rows, func(r Row) bool { return !slices.ContainsFunc(r.Words, func(w string) bool { return w != "" }) })
}

// compareAmounts are the ingredients in the order in which they are first listed; each bake's amounts over its own
// of times, where there are some.
func compareAmounts(bakes []Baked, times []float64) []Row {
	var names []string
	var all []map[string]float64
	for n, b := range bakes {
		went := b.went()
		for name := range went {
			if len(times) > 0 {
				went[name] /= times[n]
			}
		}
		all = append(all, went)
		listed := slices.Collect(func(yield func(string) bool) {
			for _, l := range b.Sheet.Recipe.Lines {
				if !yield(l.Name) {
					return
				}
			}
		})
		for _, s := range b.Strip.Spoons {
			listed = append(listed, string(s.Food))
		}
		for _, name := range listed {
			if went[name] > 0 && !slices.Contains(names, name) {
				names = append(names, name)
			}
		}
	}
	var out []Row
	for _, name := range names {
		r := Row{What: name}
		least, most := math.Inf(1), 0.0
		for _, went := range all {
			g := went[name]
			words := "none"
			if g > 0 {
				words = measure.Grams(g).String()
			}
			r.Words = append(r.Words, words)
			least, most = math.Min(least, g), math.Max(most, g)
		}
		r.Large = most-least > sayGrams*most
		out = append(out, r)
	}
	return out
}

// Since says what was done otherwise than at the bake before, a few words each: "oat drink 170 g, not 180 g".
func Since(before, b Baked, k measure.Kitchen) []string {
	made, _, _ := Compare([]Baked{before, b}, k)
	var out []string
	mass := func(b Baked) (sum float64) {
		for _, g := range b.went() {
			sum += g
		}
		return sum
	}
	times := 1.0
	if was := mass(before); was > 0 && math.Abs(mass(b)/was-1) > anotherBatch {
		times = mass(b) / was
		out = append(out, fmt.Sprintf("%s times as much", measure.Digits(times, 2)))
	}
	amounts := compareAmounts([]Baked{before, b}, []float64{1, times})
	for _, r := range slices.Concat(amounts, made) {
		if !r.Large || r.What == "Cooled" || r.What == "The middle last" {
			continue
		}
		was, is := r.Words[0], r.Words[1]
		if was == "" || is == "" {
			continue
		}
		switch r.What {
		case "In the oven":
			out = append(out, fmt.Sprintf("%s in the oven, not %s", is, was))
		case "Oven", "Tin", "Set to":
			out = append(out, fmt.Sprintf("%s, not %s", is, was))
		default:
			out = append(out, fmt.Sprintf("%s %s, not %s", r.What, is, was))
		}
	}
	return out
}

// Facts are what is known of it in a few words each.
func (b Baked) Facts() []string {
	var out []string
	add := func(ok bool, form string, args ...any) {
		if ok {
			out = append(out, fmt.Sprintf(form, args...))
		}
	}
	add(b.minutes() > 0, "%.0f min", b.minutes())
	add(b.Of.Oven != "", "%s", b.Of.Oven)
	add(b.Strip.Judged.Height > 0, "%.3g cm high", b.Strip.Judged.Height)
	add(b.Strip.Judged.Words != "", "“%s”", b.Strip.Judged.Words)
	return out
}

// BakedOf is one bake of a sitting.
func BakedOf(b store.Bake, state bake.State, n int) Baked {
	return Baked{Of: b.Of[n], Sheet: Sheets(b)[n], Strip: &state.Strips[n], Begun: b.Begun.Local().Format("2 January 2006")}
}
