package method

import (
	"math"

	"kollaris/core/fact"
	"kollaris/core/recipe"
)

// mostPace is how much longer a large batch may take the hands: past that another tool does it.
// Source: practice.
const mostPace = 6.0

// slower is how hands go with the amount: twice as much takes half as long again. Source:
// practice, the batch to the power of 0.6.
const slower = 0.6

// paced gives the usual times of hands by how much there is to do. What is written, or typed,
// stands.
func paced(tasks []Task, r *recipe.Recipe) []Task {
	for n := range tasks {
		t := &tasks[n]
		u := usuals[t.Verb]
		if u.HandsG <= 0 || t.Hands.Source != u.Source || t.Hands.Minutes != u.Hands {
			continue
		}
		if k := math.Min(mostPace, math.Pow(t.worksOn(r)/u.HandsG, slower)); k > 1 {
			t.Hands.Min, t.Hands.Max = math.Round(k*u.Hands.Min), math.Round(k*u.Hands.Max)
		}
	}
	return tasks
}

// worksOn is what a task works on, g.
func (t *Task) worksOn(r *recipe.Recipe) float64 {
	sum := 0.0
	if t.Verb.Is(OfWhole) {
		for _, l := range r.Lines {
			if l.Topping() == (t.Verb == Ice) {
				sum += l.Grams
			}
		}
		return sum
	}
	for _, u := range t.Uses {
		if l := r.Line(u.Line); l != nil {
			sum += u.Share * l.Grams
		}
	}
	return sum
}

// Learned is the source of a time that the household's own bakes taught.
const Learned fact.Source = "yours: as long as it took you"

// WithHands are tasks with the times of their hands as a household takes them: times by verb, as a factor. What the
// baker typed stays. Minutes are rounded to halves.
func WithHands(tasks []Task, times map[string]float64) []Task {
	out := clone(tasks)
	for n := range out {
		h := &out[n].Hands
		f, ok := times[string(out[n].Verb)]
		if !ok || h.Source == Yours || h.Max <= 0 {
			continue
		}
		h.Min, h.Max, h.Source = halves(f*h.Min), halves(f*h.Max), Learned
	}
	return out
}

func halves(minutes float64) float64 { return math.Max(0.5, math.Round(2*minutes)/2) }
