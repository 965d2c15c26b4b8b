package format_test

import (
	"bytes"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/method"
	"kollaris/core/plan"
	"kollaris/core/recipe"
	"kollaris/format"
)

// Each task of hands is an event with an alarm, at its time; the same task of a plan that was
// moved has the same id and a greater sequence.
func TestACalendarIsReadBack(t *testing.T) {
	eat := time.Date(2026, 12, 5, 9, 0, 0, 0, time.UTC)
	least := func(x float64) method.Time { return method.Time{Minutes: recipe.Minutes{Min: x, Max: x}} }
	bake := []method.Task{
		{Verb: method.Mix, Text: "Mix it, then\nrest; \"well\".", Written: "Mix.", Hands: least(10)}, {Verb: method.Mix, Text: "Mix again.", Written: "Mix.", Hands: least(5)},
		{Verb: method.Rest, Text: "Rest.", Wait: least(20)}, {Verb: method.Bake, Text: "Bake.", Hands: least(1), Wait: least(40), Oven: 180},
	}
	events := func(ready time.Time, sequence int) map[string]*ics.VEvent {
		p, err := plan.Make([]plan.Bake{{Name: "Loaf", Tasks: bake, Ready: ready}}, plan.Kitchen{Ovens: []plan.Oven{{Name: "gas oven"}}})
		require.NoError(t, err)
		cal, err := ics.ParseCalendar(bytes.NewReader(format.Calendar("breakfast", []string{"Loaf"}, p, sequence, eat)))
		require.NoError(t, err)
		out := map[string]*ics.VEvent{}
		for _, e := range cal.Events() {
			out[e.Id()] = e
		}
		return out
	}
	first, moved := events(eat, 1), events(eat.Add(time.Hour), 2)
	assert.Len(t, first, 4, "two mixings, the heating and the bake; a rest is no work")
	for id, e := range first {
		at, err := e.GetStartAt()
		require.NoError(t, err)
		require.NotNil(t, moved[id], "the same id")
		later, err := moved[id].GetStartAt()
		require.NoError(t, err)
		assert.Equal(t, time.Hour, later.Sub(at))
		assert.Equal(t, "1", e.GetProperty(ics.ComponentPropertySequence).Value)
		assert.Equal(t, "2", moved[id].GetProperty(ics.ComponentPropertySequence).Value)
		require.Len(t, e.Alarms(), 1)
		summary := e.GetProperty(ics.ComponentPropertySummary).Value
		assert.Contains(t, summary, "Loaf: ")
		if end, _ := e.GetEndAt(); end.Sub(at) == 10*time.Minute {
			assert.Equal(t, "07:44", at.Format("15:04"), "9:00 less 41, 20, 5 and 10 minutes")
		}
	}
}

// What is done has no event any more; what is for a day is of the whole day, busy for nobody.
func TestACalendarOfADay(t *testing.T) {
	eat := time.Date(2026, 12, 5, 9, 0, 0, 0, time.UTC)
	mk := func(v method.Verb, wait float64) method.Task {
		one := method.Time{Minutes: recipe.Minutes{Min: 5, Max: 5}}
		return method.Task{Verb: v, Text: string(v), Hands: one, Wait: method.Time{Minutes: recipe.Minutes{Min: wait, Max: wait}}, Oven: 180}
	}
	bake := []method.Task{mk(method.Soak, 2*1440), mk(method.Mix, 0), mk(method.Bake, 40)}
	p, err := plan.Make([]plan.Bake{{Tasks: bake, Ready: eat}}, plan.Kitchen{Now: eat.Add(-50 * time.Hour), Done: map[string]time.Time{"0.0": eat.Add(-50 * time.Hour)}})
	require.NoError(t, err)
	cal, err := ics.ParseCalendar(bytes.NewReader(format.Calendar("x", nil, p, 1, eat)))
	require.NoError(t, err)
	var words []string
	for _, e := range cal.Events() {
		words = append(words, e.GetProperty(ics.ComponentPropertySummary).Value)
		if e.GetProperty(ics.ComponentPropertySummary).Value == "Shake the jar." {
			at, err := e.GetAllDayStartAt()
			require.NoError(t, err)
			assert.Equal(t, "2026-12-04", at.Format(time.DateOnly))
			assert.Equal(t, "TRANSPARENT", e.GetProperty(ics.ComponentPropertyTransp).Value)
		}
	}
	assert.ElementsMatch(t, []string{"Heat the oven to 180 °C.", "mix", "bake", "Shake the jar."}, words)
}
