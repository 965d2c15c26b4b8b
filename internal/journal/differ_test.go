package journal

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/oven"
	"kollaris/internal/store"
)

// baked is the rolls' dough, baked so long with what happened.
func baked(minutes float64, events ...bake.Event) Baked {
	s := dough()
	s.Tasks = append(s.Tasks, method.Task{Verb: method.Bake})
	all := append([]bake.Event{{ID: "in", At: nine, What: bake.WentIn, Task: 5}, {ID: "out", At: nine.Add(time.Duration(minutes * float64(time.Minute))), What: bake.CameOut, Task: 5}}, events...)
	for n := range all {
		if all[n].ID == "" {
			all[n].ID, all[n].At = string(rune('a'+n)), nine.Add(-time.Hour+time.Duration(n)*time.Second)
		}
	}
	state := bake.Fold([]bake.Sheet{s}, all)
	return Baked{Of: store.BakeOf{Oven: "old gas oven", Result: &adapt.Result{Recipe: s.Recipe, Bake: &oven.Estimate{Oven: 200, Minutes: 22}}}, Sheet: s, Strip: &state.Strips[0]}
}

func line(rows []Row, what string) Row {
	for _, r := range rows {
		if r.What == what {
			return r
		}
	}
	return Row{}
}

// What was done otherwise is what a kitchen could repeat: 3 % of an amount, two minutes, another oven.
func TestWhatWasDoneOtherwise(t *testing.T) {
	k := measure.DefaultKitchen()
	name := func(b Baked) Baked {
		for n, words := range []string{"strong flour", "water", "rye flour"} {
			b.Sheet.Recipe.Lines[n].Name = words
		}
		return b
	}
	spoon := func(g float64) bake.Event { return bake.Event{What: bake.Spoon, Line: 2, Value: g} }
	first := bake.Event{What: bake.Put, Task: 0, Line: 2, Value: 260}
	was := name(baked(22, first))
	assert.Empty(t, Since(was, name(baked(23.9, first, spoon(7))), k), "7 of 260 g, two minutes less six seconds")
	assert.Equal(t, []string{"water 269 g, not 260 g", "24 min in the oven, not 22 min"}, Since(was, name(baked(24, first, spoon(9))), k))
	small := name(baked(22))
	small.Of.Oven, small.Of.Result.Bake.Oven = "small oven", 190
	assert.Equal(t, []string{"small oven, not old gas oven", "190 °C, not 200 °C"}, Since(was, small, k))
	double := name(baked(22, bake.Event{What: bake.Scale, Value: 2}, spoon(10)))
	assert.Equal(t, []string{"2 times as much"}, Since(was, double, k), "its shares are nearly those")
	gone := name(baked(22, first))
	gone.Sheet.Recipe.Lines = gone.Sheet.Recipe.Lines[:2]
	gone.Sheet.Recipe.Lines[1].Grams = 360
	assert.Contains(t, Since(was, gone, k), "rye flour none, not 100 g")
}

func TestBakesSideBySide(t *testing.T) {
	judged := func(key string, value float64) bake.Event {
		return bake.Event{What: bake.Judge, Key: key, Value: value}
	}
	a := baked(22, judged("overall", 2), judged("symptom:gummy", 1), judged("height", 6.1))
	b := baked(25, judged("overall", 4), judged("height", 7.4), bake.Event{What: bake.WeighedOut, Value: 690}, bake.Event{What: bake.Probe, Value: 96})
	made, amounts, came := Compare([]Baked{a, b}, measure.DefaultKitchen())
	assert.Equal(t, []string{"so-so", "just so again"}, line(came, "All in all").Words)
	assert.Equal(t, []string{"gummy inside", ""}, line(came, "What was seen").Words)
	assert.Equal(t, []string{"6.1 cm", "7.4 cm"}, line(came, "Height").Words)
	assert.Equal(t, []string{"", "690 g"}, line(came, "Baked weight").Words)
	assert.Equal(t, []string{"22 min", "25 min"}, line(made, "In the oven").Words)
	assert.Equal(t, []string{"", "96 °C"}, line(made, "The middle last").Words)
	assert.True(t, line(made, "In the oven").Large)
	assert.False(t, line(made, "Oven").Differs())
	assert.Empty(t, line(made, "Cooled").Words, "nobody said")
	assert.Len(t, amounts, 1, "lines without a name are one")
	assert.Equal(t, []string{"25 min", "old gas oven", "7.4 cm high"}, b.Facts())
}
