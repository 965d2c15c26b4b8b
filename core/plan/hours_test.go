package plan_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/plan"
)

func TestHoursAway(t *testing.T) {
	days := func(list ...time.Weekday) (out [7]bool) {
		for _, d := range list {
			out[d] = true
		}
		return out
	}
	work := days(1, 2, 3, 4, 5)
	for typed, want := range map[string][]plan.Away{
		"":                                {},
		"Mon-Fri 08:30-17:00":             {{Days: work, From: 510, To: 1020}},
		"weekdays 8.30 to 17":             {{Days: work, From: 510, To: 1020}},
		"Fri–Mon 9–12":                    {{Days: days(5, 6, 0, 1), From: 540, To: 720}},
		"Wed, Saturday 18:00-20:00":       {{Days: days(3, 6), From: 1080, To: 1200}},
		"tue and thurs 22:00-06:00; ":     {{Days: days(2, 4), From: 1320, To: 360}},
		"daily 12-13; Sundays 9:15-10:45": {{Days: days(0, 1, 2, 3, 4, 5, 6), From: 720, To: 780}, {Days: days(0), From: 555, To: 645}},
		"weekends 7-8\nmon 9-10":          {{Days: days(6, 0), From: 420, To: 480}, {Days: days(1), From: 540, To: 600}},
	} {
		got, err := plan.ParseAway(typed)
		require.NoError(t, err, typed)
		assert.ElementsMatch(t, want, got, typed)
	}
	for _, typed := range []string{"at work", "Mon-Fri", "08:30-17:00", "Mon 25-26", "Mon 8:60-9", "Mo 8-9", "Mon 8-8", "Mon- 8-9", "Moon 8-9", "Mon-Fri 8-9; then"} {
		_, err := plan.ParseAway(typed)
		assert.ErrorContains(t, err, "try Mon-Fri 08:30-17:00", typed)
	}
}

func FuzzHoursAway(f *testing.F) {
	f.Add("Mon-Fri 08:30-17:00; daily 12-13")
	f.Add("sat 99999999999-1")
	f.Fuzz(func(t *testing.T, s string) {
		got, err := plan.ParseAway(s)
		if err != nil {
			assert.Nil(t, got)
		}
		for _, a := range got {
			assert.NotEqual(t, [7]bool{}, a.Days)
			assert.Less(t, max(a.From, a.To), 24*60)
		}
	})
}

// To the minute: ten minutes of hands that would end at nine end when somebody comes home, or
// before they leave, on the days that are named.
func TestNobodyIsThere(t *testing.T) {
	for away, want := range map[string]string{
		"Sat 08:00-12:00":           "Sat 07:50",
		"Sat 08:00-08:50":           "Sat 08:50", // they come home in time
		"Sat 08:00-08:51":           "Sat 07:50",
		"Sat 08:55-08:56":           "Sat 08:45", // a minute in the midst of it
		"Sun 08:00-12:00":           "Sat 08:50",
		"Fri 22:00-09:30":           "Fri 21:50", // past midnight it is still Friday's
		"Sat 22:00-09:30":           "Sat 08:50",
		"daily 00:00-12:00":         "Fri 23:50",
		"Sat 7-10; Sat 06:55-07:05": "Sat 06:45",
	} {
		hours, err := plan.ParseAway(away)
		require.NoError(t, err)
		p, err := plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Weigh, 10, 0)}, Ready: eat}}, plan.Kitchen{Away: hours})
		require.NoError(t, err)
		assert.Equal(t, want, clock(p.Begin), away)
	}
}

// What follows at once and waits by itself runs on though nobody is there: only hands are kept.
func TestWhatWaitsNeedsNobody(t *testing.T) {
	away, err := plan.ParseAway("Sat 07:01-08:59")
	require.NoError(t, err)
	p, err := plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Mix, 10, 0), task(method.Bake, 1, 119)}, Ready: eat}}, plan.Kitchen{Away: away})
	require.NoError(t, err)
	assert.Equal(t, "Sat 06:50", clock(find(t, p, 0, method.Mix).From))
	assert.True(t, p.Feasible)
}

// A bowl, a tin, a place in the fridge: what there is one of is had by one after the other.
func TestThereIsOnlyOne(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 10, 0), task(method.Fill, 5, 0), task(method.Bake, 1, 40), task(method.CoolTin, 1, 10), task(method.Cool, 1, 20)}
	chilled := []method.Task{task(method.Mix, 10, 0), task(method.Chill, 1, 60), task(method.Bake, 1, 10)}
	chilled[1].Where = method.Fridge
	ovens := []plan.Oven{{Name: "a"}, {Name: "b"}}
	begin := func(tasks []method.Task, has map[string]int) string {
		two := []plan.Bake{{Name: "one", Tasks: tasks, Ready: eat, Tin: "loaf"}, {Name: "two", Tasks: tasks, Ready: eat, Tin: "loaf"}}
		p, err := plan.Make(two, plan.Kitchen{Cooks: 2, Ovens: ovens, Has: has})
		require.NoError(t, err)
		first := find(t, p, 0, method.Mix).From
		if x := find(t, p, 1, method.Mix).From; x.Before(first) {
			first = x
		}
		return clock(first)
	}
	assert.Equal(t, "Sat 07:32", begin(loaf, nil), "10 + 5 + 41 + 11 + 21 before nine")
	assert.Equal(t, "Sat 07:32", begin(loaf, map[string]int{"tin loaf": 2}))
	// the tin is had from 7:42, so the other is out of it at 8:39 less ten minutes of washing: filled
	// 57 + 10 minutes before 7:42, mixed ten before
	assert.Equal(t, "Sat 06:25", begin(loaf, map[string]int{"tin loaf": 1}))
	assert.Equal(t, "Sat 07:22", begin(loaf, map[string]int{"bowl": 1}), "mixed ten minutes earlier")
	assert.Equal(t, "Sat 07:32", begin(loaf, map[string]int{"bowl": 2}))
	assert.Equal(t, "Sat 07:38", begin(chilled, nil))
	assert.Equal(t, "Sat 06:37", begin(chilled, map[string]int{"fridge": 1}), "61 minutes in the fridge earlier")
	for where, words := range map[method.Place]string{method.Hob: "hob", method.Warm: "warm place"} {
		chilled[1].Where = where
		assert.Equal(t, "Sat 06:37", begin(chilled, map[string]int{words: 1}), words)
		assert.Equal(t, "Sat 07:38", begin(chilled, map[string]int{words: 2, "fridge": 1}), words)
	}
}

// Two bakes share an oven where that wins a quarter of an hour, both fit, and the heats agree.
func TestTwoInOneOven(t *testing.T) {
	mk := func(heat measure.Celsius) []method.Task {
		loaf := []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 60), task(method.Cool, 1, 30)}
		loaf[1].Oven = heat
		return loaf
	}
	big := plan.Oven{Name: "gas", Width: 44, Depth: 37, Shelves: 2}
	small := plan.Oven{Name: "small", Width: 33.5, Depth: 28, Shelves: 1}
	loafTin, ring := [2]float64{23, 13}, [2]float64{25, 25}
	shared := func(a, b plan.Bake, o plan.Oven) bool {
		a.Ready, b.Ready = eat, eat
		p, err := plan.Make([]plan.Bake{a, b}, plan.Kitchen{Ovens: []plan.Oven{o}})
		require.NoError(t, err)
		x, y := find(t, p, 0, method.Bake), find(t, p, 1, method.Bake)
		together := x.From.Before(y.To) && y.From.Before(x.To)
		assert.Equal(t, together, len(x.With) == 1 && len(y.With) == 1)
		if together { // each a tenth longer
			assert.Equal(t, 66*time.Minute, x.To.Sub(x.Hands))
			assert.Equal(t, 66*time.Minute, y.To.Sub(y.Hands))
		} else {
			assert.Equal(t, 60*time.Minute, x.To.Sub(x.Hands))
		}
		return together
	}
	a, b := plan.Bake{Name: "a", Tasks: mk(180), Room: loafTin}, plan.Bake{Name: "b", Tasks: mk(180), Room: loafTin}
	assert.True(t, shared(a, b, big))
	assert.True(t, shared(a, b, small), "13 + 2.5 + 13 by 23, and air round them")
	small.Width = 33.4
	assert.False(t, shared(a, b, small))
	c := b
	c.Room = ring
	assert.True(t, shared(a, c, big), "each on its shelf")
	big.Shelves = 1
	assert.False(t, shared(a, c, big), "13 + 2.5 + 25 are more than 37, 23 + 2.5 + 25 more than 44")
	big.Shelves = 2
	c.Room = [2]float64{40, 32.1}
	assert.False(t, shared(a, c, big), "no air round it")
	c = b
	c.Room = [2]float64{}
	assert.False(t, shared(a, c, big), "a tin nobody knows")
	for heat, want := range map[measure.Celsius]bool{190: true, 191: false, 170: true, 169: false} {
		c = b
		c.Tasks = mk(heat)
		assert.Equal(t, want, shared(a, c, big), "%g °C", float64(heat))
	}
	strict := a
	strict.Before = []int{1}
	assert.False(t, shared(strict, b, big), "nothing dusty beside what is free of it")
	own := b
	own.Full = 6
	assert.True(t, shared(a, own, big), "as it was foretold")
	short := plan.Bake{Name: "s", Room: loafTin, Tasks: []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 10)}}
	p, err := plan.Make([]plan.Bake{{Name: "s", Tasks: short.Tasks, Room: loafTin, Ready: eat}, {Name: "t", Tasks: short.Tasks, Room: loafTin, Ready: eat}}, plan.Kitchen{Ovens: []plan.Oven{big}})
	require.NoError(t, err)
	assert.Empty(t, find(t, p, 0, method.Bake).With, "eleven minutes are not worth it")
}

// The oven that is asked for is had; one that is not there is no demand.
func TestTheOvenThatIsAskedFor(t *testing.T) {
	for asked, want := range map[string]string{"": "a", "a": "a", "b": "b", "gone": "a"} {
		p, err := plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Bake, 1, 10)}, Ready: eat, Oven: asked}}, plan.Kitchen{Ovens: []plan.Oven{{Name: "a"}, {Name: "b"}}})
		require.NoError(t, err)
		assert.Equal(t, want, find(t, p, 0, method.Bake).Oven, asked)
	}
}

// A task that is pinned begins no later, and what follows it at once goes with it; what keeps
// does not.
func TestATaskIsPinned(t *testing.T) {
	tasks := []method.Task{task(method.Weigh, 10, 0), task(method.Mix, 5, 0), task(method.Bake, 1, 40), task(method.Cool, 1, 60)}
	begin := func(key string, to time.Time) [3]string {
		p, err := plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{Pins: map[string]time.Time{key: to}})
		require.NoError(t, err)
		return [3]string{clock(find(t, p, 0, method.Weigh).From), clock(find(t, p, 0, method.Mix).From), clock(find(t, p, 0, method.Bake).From)}
	}
	friday := eat.Add(-14 * time.Hour)
	assert.Equal(t, [3]string{"Sat 07:03", "Sat 07:13", "Sat 07:18"}, begin("0.9", friday))
	assert.Equal(t, [3]string{"Fri 19:00", "Sat 07:13", "Sat 07:18"}, begin("0.0", friday))
	assert.Equal(t, [3]string{"Sat 06:45", "Sat 06:55", "Sat 07:00"}, begin("0.2", eat.Add(-2*time.Hour)), "the mixing with it")
	assert.Equal(t, [3]string{"Sat 07:03", "Sat 07:13", "Sat 07:18"}, begin("0.2", eat), "later than it can be")
	p, err := plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{})
	require.NoError(t, err)
	assert.Equal(t, 10080, find(t, p, 0, method.Weigh).Slack, "what is weighed keeps a week")
	assert.Equal(t, 1440, find(t, p, 0, method.Mix).Slack, "what is baked a day, from the mixing on")
	assert.Zero(t, find(t, p, 0, method.Bake).Slack, "it follows at once")
	p, err = plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{Now: eat.Add(-2 * time.Hour)})
	require.NoError(t, err)
	assert.Equal(t, 3, find(t, p, 0, method.Weigh).Slack, "not before now, which is three minutes before it")
}
