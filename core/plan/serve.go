package plan

import (
	"fmt"
	"slices"

	"kollaris/core/method"
	"kollaris/core/recipe"
)

// Serve is how a bake is eaten.
type Serve string

// How a bake may be eaten.
const (
	Cold Serve = ""     // cooled as its method says
	Warm Serve = "warm" // from the oven
	Iced Serve = "iced" // cold, with its icing
	Aged Serve = "aged" // after a day
)

// Serves lists them with their words.
var Serves = []struct {
	ID    Serve
	Words string
}{{Cold, "cooled"}, {Warm, "warm"}, {Iced, "iced"}, {Aged, "after a day"}}

// Known reports whether s is one of the ways to eat.
func (s Serve) Known() bool {
	for _, x := range Serves {
		if x.ID == s {
			return true
		}
	}
	return false
}

// Retard says which rise of a dough is made in the fridge.
type Retard string

// The rises that may be made in the fridge.
const (
	RetardIfNeeded Retard = ""      // the plan chooses, where the hours do not fit otherwise
	RetardNone     Retard = "none"  // all at the room's warmth
	RetardFirst    Retard = "first" // the first: 8 to 24 hours
	RetardFinal    Retard = "final" // the last, shaped: 8 to 16 hours
)

// Retards lists them with their words.
var Retards = []struct {
	ID    Retard
	Words string
}{{RetardIfNeeded, "as the hours ask"}, {RetardNone, "not in the fridge"}, {RetardFirst, "first rise in the fridge"}, {RetardFinal, "last rise in the fridge"}}

// Known reports whether r is one of them.
func (r Retard) Known() bool {
	for _, x := range Retards {
		if x.ID == r {
			return true
		}
	}
	return false
}

// How what is eaten warm is served, and a dough rises in the fridge, minutes. Source: practice
// (fridge 8 to 24 hours for the first rise, 8 to 16 for the last; a cold dough comes to the room's
// warmth in its next rise).
const (
	warmCools = 10      // on the rack
	warmKeeps = 30      // it is warm so long
	coldRise  = 8 * 60  // at least
	firstMore = 16 * 60 // beyond it, the first rise
	finalMore = 8 * 60  // likewise the last
	coldDough = 30      // longer, the rise after a cold one
	iceHands  = 15      // to ice what the method does not
	aged      = 24 * 60 // a day
)

// served lays the tasks out for how the bake is eaten.
func (b *Bake) served(n int, todos []todo) []todo {
	if len(todos) == 0 {
		return todos
	}
	add := func(verb method.Verb, text string, hands, wait float64) {
		u, _ := method.Usuals(verb)
		todos = append(todos, todo{
			task: method.Task{
				Verb: verb, Text: text, Where: method.Counter, Step: -1, Inferred: true,
				Hands: method.Time{Minutes: recipe.Minutes{Min: hands, Max: hands}}, Wait: method.Time{Minutes: recipe.Minutes{Min: wait, Max: wait}},
			},
			key: fmt.Sprintf("%d.%s", n, verb), keeps: int(u.Keeps),
		})
	}
	has := func(v method.Verb) bool {
		return slices.ContainsFunc(todos, func(t todo) bool { return t.task.Verb == v })
	}
	switch b.Serve {
	case Warm:
		todos = slices.DeleteFunc(todos, func(t todo) bool { return t.task.Verb == method.Mature })
		for at := range todos {
			t := &todos[at]
			if t.task.Verb == method.Cool && t.task.Wait.Max > warmCools {
				t.task.Wait.Min, t.task.Wait.Max = warmCools, warmCools
				t.task.Note = "It is eaten warm: ten minutes on the rack will do."
			}
		}
		if last := len(todos) - 1; last >= 0 {
			todos[last].keeps = warmKeeps
		}
		return todos
	case Iced:
		if !has(method.Ice) {
			add(method.Ice, "Ice it when it is quite cold.", iceHands, 0)
		}
	case Aged:
		if !has(method.Mature) {
			add(method.Mature, "Wrap it and let it stand a day before it is cut.", 1, aged)
		}
	}
	if b.Fresh > 0 {
		todos[len(todos)-1].keeps = b.Fresh
	}
	return todos
}

// rises are the places of the rises at the room's warmth.
func rises(todos []todo) []int {
	var out []int
	for at, t := range todos {
		if t.task.Verb == method.Prove && t.task.Where != method.Fridge {
			out = append(out, at)
		}
	}
	return out
}

// Rises reports whether the bake has a dough that rises at the room's warmth, as it is written.
func (b *Bake) Rises() bool {
	return slices.ContainsFunc(b.Tasks, func(t method.Task) bool { return t.Verb == method.Prove && t.Where != method.Fridge })
}

// retards are the rises of a bake that may be made in the fridge, the plan choosing: those of a
// dough that is kneaded, or rises twice. A batter that rises once in its tin is left alone.
func (b *Bake) retards() []Retard {
	todos := []todo{}
	kneaded := false
	for _, t := range b.Tasks {
		todos = append(todos, todo{task: t})
		kneaded = kneaded || t.Verb == method.Knead
	}
	switch n := len(rises(todos)); {
	case n >= 2:
		return []Retard{RetardFinal, RetardFirst}
	case n == 1 && kneaded:
		return []Retard{RetardFinal}
	}
	return nil
}

// retarded puts a rise into the fridge, where it is asked for and there is one.
func (b *Bake) retarded(todos []todo) []todo {
	at := rises(todos)
	if len(at) == 0 || b.Retard == RetardIfNeeded || b.Retard == RetardNone || b.Retard == RetardFirst && len(at) < 2 {
		return todos
	}
	n, more, span := at[len(at)-1], finalMore, "8 to 16 hours"
	if b.Retard == RetardFirst {
		n, more, span = at[0], firstMore, "8 to 24 hours"
		next := &todos[at[1]].task.Wait
		next.Min, next.Max = next.Min+coldDough, next.Max+coldDough
		todos[at[1]].task.Note = fmt.Sprintf("The dough comes cold: %d minutes longer.", coldDough)
	}
	t := &todos[n]
	t.task.Note = "Instead of: " + t.task.Text
	t.task.Text = "Cover it and set it in the fridge to rise slowly, " + span + "."
	t.task.Where, t.task.Changed, t.task.AtOnce = method.Fridge, true, false
	t.task.Wait.Min, t.task.Wait.Max = coldRise, coldRise
	t.keeps = more
	return todos
}
