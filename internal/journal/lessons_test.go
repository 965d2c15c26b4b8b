package journal

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/larder"
	"kollaris/core/learn"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

var nine = time.Date(2026, 11, 7, 9, 0, 0, 0, time.UTC)

func dough() bake.Sheet {
	return bake.Sheet{
		Name: "Rolls",
		Recipe: &recipe.Recipe{Title: "Rolls", Lines: []recipe.Line{
			{ID: 1, Ingredient: "strong-flour", Known: true, Grams: 400}, {ID: 2, Ingredient: "water", Known: true, Grams: 260},
			{ID: 3, Ingredient: "rye-flour", Known: true, Grams: 100},
		}},
		Tasks: []method.Task{
			{Verb: method.Mix, Hands: minutes(5), Uses: []method.Use{{Line: 1, Share: 1}, {Line: 2, Share: 1}, {Line: 3, Share: 1}}},
			{Verb: method.Knead, Hands: minutes(10)}, {Verb: method.Prove, Hands: minutes(1), Wait: minutes(60)}, {Verb: method.Shape, Hands: minutes(10)},
			{Verb: method.Brush, Hands: minutes(2)},
		},
	}
}

func minutes(m float64) method.Time { return method.Time{Minutes: recipe.Minutes{Min: m, Max: m}} }

// What was added by the spoon for each gram of the flour there is most of; more flour, a slip, or nobody who
// looked teach nothing.
func TestWhatAFlourTeaches(t *testing.T) {
	l := larder.Builtin()
	at := func(events ...bake.Event) []learn.Seen {
		s := dough()
		for n := range events {
			events[n].ID, events[n].At = string(rune('a'+n)), nine.Add(time.Duration(n)*time.Second)
		}
		state := bake.Fold([]bake.Sheet{s}, append([]bake.Event{{ID: "0", At: nine.Add(-time.Minute), What: bake.Done, Task: 0}}, events...))
		return flourSeen(&state.Strips[0], s, l, 0.01)
	}
	spoon := func(line recipe.LineID, food larder.ID, g float64) bake.Event {
		return bake.Event{What: bake.Spoon, Line: line, Food: food, Value: g}
	}
	one := func(x float64) []learn.Seen { return []learn.Seen{{Kind: learn.Flour, Key: "strong-flour", X: x}} }
	assert.InDelta(t, 0.01+12./400, at(spoon(2, "", 12))[0].X, 1e-9, "beside what was put in from the start")
	assert.InDelta(t, 0.01+20./400, at(spoon(2, "", 12), spoon(0, "milk", 8))[0].X, 1e-9)
	assert.Equal(t, one(0.01), at(bake.Event{What: bake.Stands, Text: "smooth"}), "it stood right as it was")
	assert.Empty(t, at())
	assert.Empty(t, at(spoon(1, "", 10)), "more flour")
	assert.Empty(t, at(spoon(0, "strong-flour", 10)))
	assert.Empty(t, at(spoon(2, "", 12), bake.Event{What: bake.Slip, Text: "double"}))
	flour, grams := FlourOf(dough().Recipe, l)
	assert.Equal(t, larder.ID("strong-flour"), flour.ID)
	assert.Equal(t, 400.0, grams)
}

// A task that follows one with nothing to wait for, pressed neither at once nor after lunch.
func TestWhatHandsTeach(t *testing.T) {
	done := func(minutes ...float64) []learn.Seen {
		s := dough()
		var events []bake.Event
		at := nine
		for n, m := range minutes {
			at = at.Add(time.Duration(m * float64(time.Minute)))
			events = append(events, bake.Event{ID: string(rune('a' + n)), At: at, What: bake.Done, Task: n})
		}
		state := bake.Fold([]bake.Sheet{s}, events)
		return tasksSeen(&state.Strips[0], s)
	}
	assert.Equal(t, []learn.Seen{{Kind: learn.Task, Key: "knead", X: math.Log(1.5)}}, done(0, 15))
	assert.Equal(t, []learn.Seen{{Kind: learn.Task, Key: "brush", X: 0}}, done(0, 41, 1, 62, 2), "kneading dawdled, the proof was waited for")
	assert.Len(t, done(0, 39), 1)
	assert.Empty(t, done(0, 2.4))
	assert.Len(t, done(0, 2.6), 1)
}

func TestWhatWordsTeachOfTheSweetness(t *testing.T) {
	res := &adapt.Result{Sums: []adapt.Sum{{ID: "sweet", Before: 200, After: 150}}}
	x := math.Log(0.75)
	for said, j := range map[learn.Verdict]bake.Judged{
		learn.TooSweet: {Symptoms: []string{"too-sweet"}, Overall: 4}, learn.TooLittle: {Symptoms: []string{"low", "not-sweet"}}, learn.JustSo: {Overall: 3},
	} {
		assert.Equal(t, []learn.Seen{{Kind: learn.Taste, X: x, Said: said}}, tasteSeen(j, res))
	}
	assert.Equal(t, []learn.Seen{{Kind: learn.Taste, Key: "", X: x, Said: learn.JustSo}, {Kind: learn.Taste, Key: "bow", X: x, Said: learn.TooSweet}, {Kind: learn.Taste, Key: "cox", X: x, Said: learn.JustSo}},
		tasteSeen(bake.Judged{Overall: 4, By: map[string]bake.Said{"bow": {Overall: 4, Sweet: learn.TooSweet}, "cox": {Overall: 3}, "six": {Overall: 2}}}, res))
	assert.Empty(t, tasteSeen(bake.Judged{Overall: 2}, res), "nobody said that it was good")
	assert.Empty(t, tasteSeen(bake.Judged{Overall: 4}, &adapt.Result{}))
}
