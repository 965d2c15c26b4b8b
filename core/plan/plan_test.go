package plan_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/graph/path"
	"gonum.org/v1/gonum/graph/simple"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/plan"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/demo/recipes"
)

var eat = time.Date(2026, 12, 5, 9, 0, 0, 0, time.UTC)

// task is one of a bake made up for a test: hands and wait in minutes.
func task(v method.Verb, hands, wait float64) method.Task {
	makes := ""
	if v == method.Soak || v == method.Gel || v == method.Soften {
		makes = fmt.Sprintf("%s %g/%g", v, hands, wait)
	}
	return method.Task{
		Verb: v, Makes: makes, Text: fmt.Sprintf("%s %g/%g.", v, hands, wait), Hands: method.Time{Minutes: recipe.Minutes{Min: hands, Max: hands}},
		Wait: method.Time{Minutes: recipe.Minutes{Min: wait, Max: wait}}, Oven: 180,
	}
}

func clock(t time.Time) string { return t.Format("Mon 15:04") }

// find gives the placed task of a verb.
func find(t *testing.T, p *plan.Plan, bake int, v method.Verb) plan.Placed {
	t.Helper()
	for _, x := range p.Tasks {
		if x.Bake == bake && x.Verb == v {
			return x
		}
	}
	require.Fail(t, "no "+string(v))
	return plan.Placed{}
}

// By hand: eaten at 9:00; cooled 60 minutes from 7:59 (a minute of hands), out of the tin from
// 7:48 (1 + 10), baked 40 from 7:07 (1), so into the oven at 7:08 and lit 20 minutes before the
// bake's hands; filled 3 minutes before, mixed 5 before that.
func TestAPlanByHand(t *testing.T) {
	tasks := []method.Task{task(method.Heat, 1, 20), task(method.Mix, 5, 0), task(method.Fill, 3, 0), task(method.Bake, 1, 40), task(method.CoolTin, 1, 10), task(method.Cool, 1, 60), task(method.Store, 1, 0)}
	p, err := plan.Make([]plan.Bake{{Name: "loaf", Tasks: tasks, Ready: eat}}, plan.Kitchen{})
	require.NoError(t, err)
	assert.True(t, p.Feasible)
	assert.True(t, p.Whole)
	for v, want := range map[method.Verb][3]string{
		method.Cool: {"07:59", "08:00", "09:00"}, method.CoolTin: {"07:48", "07:49", "07:59"}, method.Bake: {"07:07", "07:08", "07:48"},
		method.Heat: {"06:47", "06:48", "07:07"}, method.Fill: {"07:04", "07:07", "07:07"}, method.Mix: {"06:59", "07:04", "07:04"},
	} {
		x := find(t, p, 0, v)
		assert.Equal(t, want, [3]string{x.From.Format("15:04"), x.Hands.Format("15:04"), x.To.Format("15:04")}, v)
	}
	assert.Equal(t, "Sat 06:47", clock(p.Begin))
	assert.Equal(t, 12, p.Busy, "a minute of it at the oven")
	assert.Len(t, p.Tasks, 6, "what is stored afterwards is no task of the morning")
}

// One oven bakes one after the other, two at once; one cook mixes one after the other.
func TestOvensAndHandsAreShared(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 20, 0), task(method.Bake, 1, 60), task(method.Cool, 1, 30)}
	two := []plan.Bake{{Name: "a", Tasks: loaf, Ready: eat}, {Name: "b", Tasks: loaf, Ready: eat}}
	begin := func(k plan.Kitchen) string {
		p, err := plan.Make(two, k)
		require.NoError(t, err)
		return clock(p.Begin)
	}
	// alone: 20 + 1 + 60 + 1 + 30 = 112 minutes before nine; the oven is lit as the mixing begins less a minute
	assert.Equal(t, "Sat 05:46", begin(plan.Kitchen{}), "81 minutes earlier, before the other's heating, and a minute for hands that turn out while the other is mixed")
	assert.Equal(t, "Sat 06:47", begin(plan.Kitchen{Ovens: []plan.Oven{{Name: "gas"}, {Name: "small"}}}), "with two ovens the one cook mixes twice")
	assert.Equal(t, "Sat 07:08", begin(plan.Kitchen{Cooks: 2, Ovens: []plan.Oven{{Name: "gas"}, {Name: "small"}}}))
}

// An oven that is hot anyway needs no heating, where the heats agree within ten degrees.
func TestAnOvenThatIsHotAnyway(t *testing.T) {
	begin := func(heat measure.Celsius) (string, int) {
		loaf := []method.Task{task(method.Mix, 20, 0), task(method.Bake, 1, 60), task(method.Cool, 1, 30)}
		other := []method.Task{task(method.Mix, 20, 0), task(method.Bake, 1, 60), task(method.Cool, 1, 30)}
		other[1].Oven = heat
		p, err := plan.Make([]plan.Bake{{Name: "a", Tasks: loaf, Ready: eat}, {Name: "b", Tasks: other, Ready: eat}}, plan.Kitchen{Cooks: 2})
		require.NoError(t, err)
		heated := 0
		for _, x := range p.Tasks {
			if x.Verb == method.Heat {
				heated++
			}
		}
		return clock(p.Begin), heated
	}
	// the later one goes in at 7:28, as the other comes out of it; that is 81 minutes earlier: mixed
	// and lit from 6:07. At another heat it comes out when the heating begins, at 7:08.
	for heat, want := range map[measure.Celsius]string{180: "Sat 06:07", 190: "Sat 06:07", 170: "Sat 06:07", 191: "Sat 05:47", 169: "Sat 05:47"} {
		got, heated := begin(heat)
		assert.Equal(t, want, got, "%g °C", float64(heat))
		assert.Equal(t, map[bool]int{true: 1, false: 2}[want == "Sat 06:07"], heated, "%g °C", float64(heat))
	}
}

// Nobody works at night: what must follow at once moves to the evening with it, what may wait
// waits.
func TestTheNightIsKept(t *testing.T) {
	bread := []method.Task{task(method.Mix, 10, 0), task(method.Prove, 1, 400), task(method.Bake, 1, 40), task(method.Cool, 1, 60)}
	p, err := plan.Make([]plan.Bake{{Tasks: bread, Ready: eat}}, plan.Kitchen{Awake: [2]string{"06:30", "22:30"}})
	require.NoError(t, err)
	// the proof would begin at night, and dough that has risen keeps an hour: all of it moves to the
	// evening before. Turned out before half past ten, so in the oven from 21:48, proving from 15:07.
	assert.Equal(t, "Fri 14:57", clock(find(t, p, 0, method.Mix).From))
	assert.Equal(t, "Fri 21:48", clock(find(t, p, 0, method.Bake).From))
	assert.True(t, p.Feasible, "a loaf keeps till the morning")

	p, err = plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Mix, 10, 0)}, Ready: eat.Add(-4 * time.Hour)}}, plan.Kitchen{Awake: [2]string{"06:30", "22:30"}})
	require.NoError(t, err)
	assert.Equal(t, []string{"“mix 10/0.” would wait 6 h 30; it keeps 30 min."}, p.Broken, "and what cannot be helped is said")
	assert.False(t, p.Feasible)

	cold := []method.Task{task(method.Mix, 10, 0), task(method.Chill, 1, 60), task(method.Bake, 1, 40), task(method.Cool, 1, 60)}
	p, err = plan.Make([]plan.Bake{{Tasks: cold, Ready: eat}}, plan.Kitchen{Awake: [2]string{"07:15", "22:30"}})
	require.NoError(t, err)
	assert.True(t, p.Feasible, "dough keeps three days in the fridge")
	assert.Equal(t, "Fri 22:19", clock(find(t, p, 0, method.Mix).From))
	assert.Equal(t, "Sat 07:18", clock(find(t, p, 0, method.Bake).From))
}

// A cool kitchen proves longer: at 15 °C twice as long as at 24, for which it is written.
func TestAProofGoesByTheRoom(t *testing.T) {
	bread := []method.Task{task(method.Mix, 10, 0), task(method.Prove, 1, 60), task(method.Bake, 1, 40)}
	for room, want := range map[measure.Celsius]time.Duration{0: 112, 24: 112, 15: 172, 33: 82} {
		p, err := plan.Make([]plan.Bake{{Tasks: bread, Ready: eat}}, plan.Kitchen{Room: room})
		require.NoError(t, err)
		assert.Equal(t, want*time.Minute, eat.Sub(p.Begin), "%g °C", float64(room))
	}
}

// What must not meet the others comes first, whatever they take.
func TestTheStrictestComesFirst(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 20, 0), task(method.Bake, 1, 30), task(method.Cool, 1, 30)}
	for _, strict := range []int{0, 1, 2} {
		var bakes []plan.Bake
		for n := range 3 {
			b := plan.Bake{Name: fmt.Sprint(n), Tasks: loaf, Ready: eat}
			if n == strict {
				b.Before = []int{0, 1, 2}
			}
			bakes = append(bakes, b)
		}
		p, err := plan.Make(bakes, plan.Kitchen{})
		require.NoError(t, err)
		assert.Regexp(t, fmt.Sprintf(`^%d before \d and \d: on clean tools`, strict), p.Order)
		first := find(t, p, strict, method.Bake)
		for n := range 3 {
			if n != strict {
				assert.True(t, first.From.Before(find(t, p, n, method.Mix).From), "%d before %d", strict, n)
			}
		}
	}
}

// The strictest is not left for the morning when another was baked the evening before.
func TestTheStrictestComesBeforeTheNight(t *testing.T) {
	short := []method.Task{task(method.Mix, 10, 0), task(method.Bake, 1, 20), task(method.Cool, 1, 20)}
	long := []method.Task{task(method.Mix, 30, 0), task(method.Rest, 0, 30), task(method.Bake, 1, 90), task(method.Cool, 1, 90)}
	k := plan.Kitchen{Awake: [2]string{"07:30", "22:30"}, Ovens: []plan.Oven{{Name: "a"}, {Name: "b"}}}
	begin := func(before ...int) (a, b plan.Placed) {
		p, err := plan.Make([]plan.Bake{{Name: "short", Tasks: short, Ready: eat, Before: before}, {Name: "long", Tasks: long, Ready: eat}}, k)
		require.NoError(t, err)
		assert.Equal(t, len(before) == 0, p.Order == "")
		return find(t, p, 0, method.Bake), find(t, p, 1, method.Mix)
	}
	a, b := begin()
	assert.True(t, b.From.Before(a.From), "the long one in the evening, the short one in the morning")
	a, b = begin(1)
	assert.False(t, b.From.Before(a.Hands), "in the oven before the other is mixed")
}

// To the minute: the other is mixed from 7:38 on, so the strictest goes in at 7:37 and is mixed
// from 7:17 on; it cools when it will.
func TestTheStrictestIsInTheOvenBeforeTheOtherIsMixed(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 20, 0), task(method.Bake, 1, 30), task(method.Cool, 1, 30)}
	p, err := plan.Make([]plan.Bake{{Tasks: loaf, Ready: eat, Before: []int{1}}, {Tasks: loaf, Ready: eat}}, plan.Kitchen{Ovens: []plan.Oven{{Name: "a"}, {Name: "b"}}})
	require.NoError(t, err)
	assert.Equal(t, "07:37", find(t, p, 0, method.Bake).From.Format("15:04"))
	assert.Equal(t, "07:38", find(t, p, 1, method.Mix).From.Format("15:04"))
	assert.Equal(t, "Sat 07:17", clock(p.Begin))
}

// Where no hour suits, what waits too long is said, and all else is kept.
func TestWhatCannotBeHelpedIsSaid(t *testing.T) {
	bread := []method.Task{task(method.Mix, 10, 0), task(method.Prove, 1, 400), task(method.Shape, 5, 0), task(method.Chill, 1, 0)}
	p, err := plan.Make([]plan.Bake{{Tasks: bread, Ready: eat}}, plan.Kitchen{Awake: [2]string{"12:00", "12:30"}})
	require.NoError(t, err)
	assert.False(t, p.Feasible)
	require.Len(t, p.Broken, 1)
	// mixed and set by 12:30 two days before, risen at 19:10, shaped at noon of the next day
	assert.Equal(t, "Thu 12:19", clock(find(t, p, 0, method.Mix).From))
	assert.Equal(t, "Fri 12:24", clock(find(t, p, 0, method.Shape).From))
	assert.Equal(t, "“prove 1/400.” would wait 17 h 14; it keeps 1 h.", p.Broken[0])
}

// Somebody who works past midnight is awake then, and not at noon.
func TestHoursPastMidnight(t *testing.T) {
	p, err := plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Mix, 10, 0), task(method.Chill, 1, 60)}, Ready: eat.Add(6 * time.Hour)}}, plan.Kitchen{Awake: [2]string{"18:00", "02:00"}})
	require.NoError(t, err)
	assert.Equal(t, "Sat 01:49", clock(find(t, p, 0, method.Mix).From))
	p, err = plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Mix, 10, 0), task(method.Chill, 1, 60)}, Ready: eat.Add(14 * time.Hour)}}, plan.Kitchen{Awake: [2]string{"18:00", "02:00"}})
	require.NoError(t, err)
	assert.Equal(t, "Sat 21:49", clock(find(t, p, 0, method.Mix).From), "11 minutes and an hour before 23:00")
}

// Where each harms the other one is in the oven before the other begins, which begins with the
// cleaning: fifteen minutes of hands, whichever comes first.
func TestCleaningBetweenThoseThatClash(t *testing.T) {
	short := []method.Task{task(method.Mix, 10, 0), task(method.Bake, 1, 20), task(method.Cool, 1, 20)}
	long := []method.Task{task(method.Mix, 30, 0), task(method.Bake, 1, 60), task(method.Cool, 1, 60)}
	p, err := plan.Make([]plan.Bake{{Tasks: short, Ready: eat, Clash: []int{1}}, {Tasks: long, Ready: eat, Clash: []int{0}}}, plan.Kitchen{Ovens: []plan.Oven{{Name: "a"}, {Name: "b"}}})
	require.NoError(t, err)
	var washed []plan.Placed
	for _, x := range p.Tasks {
		if x.Verb == plan.Wash {
			washed = append(washed, x)
		}
	}
	require.Len(t, washed, 1)
	assert.Equal(t, 15*time.Minute, washed[0].Hands.Sub(washed[0].From))
	first, second := find(t, p, 1, method.Bake), find(t, p, 0, method.Mix)
	assert.Equal(t, 0, washed[0].Bake, "the short one comes second")
	assert.False(t, washed[0].From.Before(first.Hands), "the long one is in its oven")
	assert.Equal(t, washed[0].Hands, second.From)
}

// Orders that hang together are kept; of those that go in a circle what can be.
func TestOrdersOfSeveral(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 20, 0), task(method.Bake, 1, 30), task(method.Cool, 1, 30)}
	for _, before := range [][][]int{{{1}, {2}, {}}, {{}, {0}, {1}}, {{1}, {2}, {0}}, {{0}, {9}, {}}, {{1, 2, 3, 4, 5}, {2}, {3}, {4}, {5}, {}}} {
		var bakes []plan.Bake
		for n, b := range before {
			bakes = append(bakes, plan.Bake{Name: fmt.Sprint(n), Tasks: loaf, Ready: eat, Before: b})
		}
		p, err := plan.Make(bakes, plan.Kitchen{Ovens: []plan.Oven{{Name: "a"}, {Name: "b"}}})
		require.NoError(t, err, before)
		assert.True(t, p.Whole)
		circle := len(before) == 3 && len(before[0]) == 1 && before[0][0] == 1 && len(before[2]) == 1
		for n, b := range before {
			for _, m := range b {
				if m != n && m < len(before) && !circle {
					assert.False(t, find(t, p, m, method.Mix).From.Before(find(t, p, n, method.Bake).Hands), "%v: %d before %d", before, n, m)
				}
			}
		}
	}
}

// What should have begun is late, by how much, and what would do is named.
func TestWhatIsLate(t *testing.T) {
	tasks := []method.Task{task(method.Soak, 5, 240), task(method.Mix, 10, 0), task(method.Bake, 1, 40), task(method.Cool, 1, 60)}
	now := eat.Add(-5 * time.Hour)
	p, err := plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{Now: now})
	require.NoError(t, err)
	require.Len(t, p.Late, 1)
	assert.Equal(t, method.Soak, p.Late[0].Verb)
	assert.Equal(t, 57, p.Late[0].By, "245 + 112 minutes before nine is 3:03")
	assert.Contains(t, p.Late[0].WaysOut[0], "Simmer the fruit")
	assert.Equal(t, "Eat 57 min later, at Sat 09:57.", p.Late[0].WaysOut[len(p.Late[0].WaysOut)-1])
	assert.False(t, p.Feasible)
	p, err = plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{Now: now.Add(-57 * time.Minute)})
	require.NoError(t, err)
	assert.True(t, p.Feasible, "to the minute")
}

func TestWhatCannotBePlanned(t *testing.T) {
	one := []plan.Bake{{Tasks: []method.Task{task(method.Mix, 10, 0)}, Ready: eat}}
	_, err := plan.Make(nil, plan.Kitchen{})
	assert.ErrorIs(t, err, plan.ErrNone)
	_, err = plan.Make(make([]plan.Bake, plan.Most+1), plan.Kitchen{})
	assert.ErrorIs(t, err, plan.ErrMany)
	_, err = plan.Make([]plan.Bake{{Tasks: one[0].Tasks}}, plan.Kitchen{})
	assert.ErrorIs(t, err, plan.ErrNoReady)
	_, err = plan.Make(one, plan.Kitchen{Awake: [2]string{"late", "22:30"}})
	assert.ErrorContains(t, err, "“late” is no hour of the day")
	_, err = plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Knead, 600, 0)}, Ready: eat}}, plan.Kitchen{Awake: [2]string{"12:00", "14:00"}})
	assert.ErrorIs(t, err, plan.ErrNoRoom, "ten hours of hands in two waking hours")
}

// Across the night the clocks change the minutes are those that pass.
func TestTheNightTheClocksChange(t *testing.T) {
	berlin, err := time.LoadLocation("Europe/Berlin")
	if err != nil {
		t.Skip("no time zones here")
	}
	ready := time.Date(2026, 10, 25, 9, 0, 0, 0, berlin) // an hour longer
	p, err := plan.Make([]plan.Bake{{Tasks: []method.Task{task(method.Mature, 1, 720), task(method.Slice, 5, 0)}, Ready: ready}}, plan.Kitchen{})
	require.NoError(t, err)
	assert.Equal(t, 726*time.Minute, ready.Sub(p.Begin))
	assert.Equal(t, "Sat 21:54", clock(p.Begin))
}

// Of random bakes nothing is ever done by more hands than there are, no oven bakes two at once that
// do not share it, nobody works at night or while away, all is ready, each task after the one before
// it in its block, what there is one of is had by one, and what may not wait does not unless it is said.
func TestRandomPlansKeepTheirRules(t *testing.T) {
	for round := range uint64(150) {
		checkRandomPlan(t, 7, round)
	}
}

func FuzzPlan(f *testing.F) {
	f.Add(uint64(1), uint64(2))
	f.Fuzz(func(t *testing.T, a, b uint64) { checkRandomPlan(t, a, b) })
}

func checkRandomPlan(t *testing.T, seed, round uint64) {
	rnd := rand.New(rand.NewPCG(seed, round))
	verbs := []method.Verb{method.Mix, method.Line, method.Gel, method.Soak, method.Fold, method.Prove, method.Chill, method.Fill, method.Cream, method.Shape}
	k := plan.Kitchen{Cooks: 1 + rnd.IntN(2), Awake: [2]string{"06:00", "22:00"}}
	for n := range 1 + rnd.IntN(2) {
		k.Ovens = append(k.Ovens, plan.Oven{Name: fmt.Sprint("oven ", n), Preheat: 10 + rnd.IntN(20), Width: 44, Depth: 37, Shelves: 2})
	}
	if rnd.IntN(2) == 0 {
		k.Away, _ = plan.ParseAway("Fri 14:00-18:00; Sat 07:30-08:00")
	}
	if rnd.IntN(2) == 0 {
		k.Has = map[string]int{"tin loaf": 1}
	}
	var bakes []plan.Bake
	for range 1 + rnd.IntN(5) {
		var tasks []method.Task
		for range 1 + rnd.IntN(6) {
			tasks = append(tasks, task(verbs[rnd.IntN(len(verbs))], float64(1+rnd.IntN(15)), float64(rnd.IntN(90))))
		}
		tasks = append(tasks, task(method.Bake, 1, float64(10+rnd.IntN(60))), task(method.Cool, 1, float64(rnd.IntN(90))))
		bakes = append(bakes, plan.Bake{
			Tasks: tasks, Ready: eat.Add(time.Duration(rnd.IntN(300)) * time.Minute), Serve: plan.Serves[rnd.IntN(len(plan.Serves))].ID,
			Room: [2]float64{20 + float64(rnd.IntN(20)), 12}, Tin: "loaf", Retard: plan.RetardNone,
		})
	}
	p, err := plan.Make(bakes, k)
	require.NoError(t, err, "round %d", round)
	assert.NotEmpty(t, p.Tasks)
	for n, x := range p.Tasks {
		assert.False(t, x.To.After(bakes[x.Bake].Ready), "round %d: %s ready", round, x.Text)
		assert.False(t, x.From.Before(p.Begin), "round %d: %s begins", round, x.Text)
		if x.Verb == method.Heat {
			continue
		}
		hour := func(t time.Time) float64 { return float64(t.Hour()) + float64(t.Minute())/60 }
		assert.GreaterOrEqual(t, hour(x.From), 6.0, "round %d: %s at night", round, x.Text)
		assert.LessOrEqual(t, hour(x.Hands), 22.0, "round %d: %s at night", round, x.Text)
		if len(k.Away) > 0 && x.Hands.After(x.From) {
			away := func(from, to float64, d time.Weekday) bool {
				return x.From.Weekday() == d && hour(x.From) < to && hour(x.Hands) > from
			}
			assert.False(t, away(14, 18, time.Friday) || away(7.5, 8, time.Saturday), "round %d: %s %s while nobody is there", round, clock(x.From), x.Text)
		}
		busy := 1
		for m, y := range p.Tasks {
			if m == n || y.Verb == method.Heat {
				continue
			}
			if !y.From.After(x.From) && y.Hands.After(x.From) {
				busy++
			}
			if x.Oven != "" && x.Oven == y.Oven && x.Bake != y.Bake && y.From.Before(x.To) && x.From.Before(y.To) {
				assert.Contains(t, x.With, y.Bake, "round %d: %s and %s in one oven", round, x.Text, y.Text)
				assert.Nil(t, k.Has, "round %d: in one tin", round)
			}
		}
		assert.LessOrEqual(t, busy, k.Cooks, "round %d: hands at %s", round, x.From)
	}
	for n, b := range bakes {
		var want, after []string
		var got []plan.Placed
		for _, x := range b.Tasks { // a long soak comes first, wherever the method has it
			if (x.Verb == method.Soak || x.Verb == method.Gel) && x.Wait.Max >= 60 {
				want = append(want, x.Text)
			} else {
				after = append(after, x.Text)
			}
		}
		want = append(want, after...)
		for _, x := range p.Tasks {
			if x.Bake == n && x.Verb != method.Heat {
				got = append(got, x)
			}
		}
		for m, x := range got {
			if m < len(want) {
				assert.Equal(t, want[m], x.Text, "round %d: in the order of the method", round)
			}
			if slices.Contains([]method.Verb{method.Gel, method.Soak, method.Line}, x.Verb) || len(p.Broken) > 0 {
				continue // what is prepared beside the batter
			}
			next := slices.IndexFunc(got[m+1:], func(y plan.Placed) bool {
				return !slices.Contains([]method.Verb{method.Gel, method.Soak, method.Line}, y.Verb)
			})
			if next < 0 {
				continue
			}
			u, _ := method.Usuals(x.Verb)
			longest, busy := time.Duration(u.Keeps)*time.Minute, time.Duration(0)
			for _, y := range got[:m+1+next] { // a gel or a soak holds the next up, and the hands that make it
				if y.Verb != x.Verb && y.To.After(x.To) {
					busy = max(busy, y.To.Sub(x.To))
				}
			}
			assert.LessOrEqual(t, got[m+1+next].From.Sub(x.To), max(longest, busy), "round %d: %s waits for %s", round, x.Text, got[m+1+next].Text)
		}
	}
}

// Without anything that there is too little of a plan is as long as the longest way through its
// tasks, which gonum finds in the graph of them.
func TestAgainstTheCriticalPath(t *testing.T) {
	rnd := rand.New(rand.NewPCG(1, 4))
	verbs := []method.Verb{method.Mix, method.Gel, method.Soften, method.Prove, method.Chill, method.Weigh, method.Shape}
	for round := range 80 {
		g := simple.NewWeightedDirectedGraph(0, math.Inf(1))
		var tasks []method.Task
		size := 1 + rnd.IntN(8)
		ends := func(n int) int64 { return int64(2*n + 1) }
		arc := func(from, to int64, minutes float64) { // the longest, where there are several
			if w, ok := g.Weight(from, to); !ok || -minutes < w || from != to && g.Edge(from, to) == nil {
				g.SetWeightedEdge(g.NewWeightedEdge(simple.Node(from), simple.Node(to), -minutes))
			}
		}
		last := int64(-1) // what the next must wait for
		for n := range size {
			hands, wait := float64(1+rnd.IntN(20)), float64(rnd.IntN(60))
			x := task(verbs[rnd.IntN(len(verbs))], hands, wait)
			side := x.Verb == method.Gel || x.Verb == method.Soften
			if side {
				x.Makes = fmt.Sprint("thing ", n)
			}
			tasks = append(tasks, x)
			begin := int64(2 * n)
			arc(begin, ends(n), hands+wait)
			if n > 0 { // the hands go on
				arc(begin-2, begin, tasks[n-1].Hands.Max)
			}
			if last >= 0 {
				arc(last, begin, 0)
			}
			if side && wait >= 60 || !side {
				last = ends(n)
			}
		}
		for n := range size {
			arc(ends(n), 1000, 0)
		}
		p, err := plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{Cooks: 9})
		require.NoError(t, err)
		ways, ok := path.BellmanFordFrom(simple.Node(0), g)
		require.True(t, ok)
		assert.Equal(t, -ways.WeightTo(1000), eat.Sub(p.Begin).Minutes(), "round %d: %v", round, tasks)
	}
}

// Recipes of the demo for a breakfast at half past eight: each is planned whole.
func TestTheDemosBreakfast(t *testing.T) {
	var bakes []plan.Bake
	for n, name := range recipes.Names()[:4] {
		rd, err := reader.Read(recipes.Text(name), reader.Options{})
		require.NoError(t, err)
		req := adapt.Request{}
		if n == 0 {
			req.Diets = []diet.ID{diet.GlutenFree, diet.EggFree}
		}
		res, err := adapt.Predicted(rd.Recipe, req, adapt.DefaultKit())
		require.NoError(t, err)
		b := plan.Bake{Name: name, Tasks: res.Method, Ready: eat}
		if n == 0 {
			b.Before = []int{1, 2, 3}
		}
		bakes = append(bakes, b)
	}
	p, err := plan.Make(bakes, plan.Kitchen{Ovens: []plan.Oven{{Name: "gas oven", Preheat: 15}, {Name: "small oven", Preheat: 20}}, Awake: [2]string{"06:00", "22:30"}})
	require.NoError(t, err)
	assert.Empty(t, p.Late)
	assert.NotEmpty(t, p.Tasks)
	for _, x := range p.Tasks {
		if x.Verb == method.Bake {
			assert.NotEmpty(t, x.Oven, x.Text)
		}
	}
}

func BenchmarkSixBakes(b *testing.B) {
	loaf := []method.Task{
		task(method.Soak, 5, 240), task(method.Line, 4, 0), task(method.Sift, 3, 0), task(method.Gel, 2, 10), task(method.Cream, 6, 0), task(method.Beat, 3, 0),
		task(method.Mix, 3, 0), task(method.Fold, 2, 0), task(method.Fill, 3, 0), task(method.Bake, 1, 45), task(method.CoolTin, 1, 15), task(method.Cool, 1, 90), task(method.Ice, 12, 0),
	}
	var bakes []plan.Bake
	for n := range 6 {
		bakes = append(bakes, plan.Bake{Name: fmt.Sprint(n), Tasks: loaf, Ready: eat})
	}
	for b.Loop() {
		if _, err := plan.Make(bakes, plan.Kitchen{Ovens: []plan.Oven{{}, {}}, Awake: [2]string{"06:00", "22:30"}}); err != nil {
			b.Fatal(err)
		}
	}
}

// Against exhaustive search: small plans of bakes in one block, or in two with a dough chilled
// between; one cook, one oven, all times tens of minutes. Every set of beginnings within eight
// hours is tried; the plan begins as late as the best of them.
func TestAgainstExhaustiveSearch(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 9))
	const step, preheat, within = 10, 20, 480
	type span struct{ from, to int } // minutes before the end
	type piece struct {              // a block: hands at offsets, an oven or none
		bake, size, heat int
		hands            []span // offsets from its beginning
		in, out          int    // of the oven, likewise; -1 for none
		last             bool
	}
	best := func(pieces []piece) int {
		start, found := make([]int, len(pieces)), 1<<30
		ok := func(n int) bool { // the last placed against those before
			p := pieces[n]
			for k := range n {
				q := pieces[k]
				if q.bake == p.bake && start[n]-p.size < start[k] { // pieces of a bake come last first
					return false
				}
				for _, x := range p.hands {
					for _, y := range q.hands {
						if start[n]-x.from > start[k]-y.to && start[k]-y.from > start[n]-x.to {
							return false
						}
					}
				}
				if p.in < 0 || q.in < 0 {
					continue
				}
				lead := preheat
				if p.heat-q.heat <= 10 && q.heat-p.heat <= 10 {
					lead = 0
				}
				inP, outP, inQ, outQ := start[n]-p.in, start[n]-p.out, start[k]-q.in, start[k]-q.out
				if !(outP >= inQ+lead || outQ >= inP+lead) {
					return false
				}
			}
			return true
		}
		begin := func() int {
			most := 0
			for k, p := range pieces {
				most = max(most, start[k])
				if p.in < 0 {
					continue
				}
				lit := start[k] - p.in + preheat
				for m, q := range pieces { // another keeps it hot
					if m != k && q.in >= 0 && start[m]-q.in > start[k]-p.in && start[m]-q.out < lit && p.heat-q.heat <= 10 && q.heat-p.heat <= 10 {
						lit = 0
					}
				}
				most = max(most, lit)
			}
			return most
		}
		var try func(n int)
		try = func(n int) {
			if n == len(pieces) {
				found = min(found, begin())
				return
			}
			for s := pieces[n].size; s <= within; s += step {
				if start[n] = s; s < found && ok(n) {
					try(n + 1)
				}
			}
		}
		try(0)
		return found
	}
	worse := 0
	for round := range 60 {
		var pieces []piece
		var todo []plan.Bake
		for n := range 2 + rnd.IntN(2) {
			mix, heat, wait, cool, chill := step*(1+rnd.IntN(3)), 170+10*rnd.IntN(4), step*(2+rnd.IntN(4)), step*rnd.IntN(4), step*rnd.IntN(5)
			tasks := []method.Task{task(method.Mix, float64(mix), 0)}
			oven := piece{bake: n, heat: heat, hands: []span{{0, step}, {step + wait, 2*step + wait}}, out: step + wait, size: 2*step + wait + cool, last: true}
			first := piece{bake: n, in: -1, hands: []span{{0, mix + step}}, size: mix + step + chill}
			if chill > 0 && n < 2 {
				tasks = append(tasks, task(method.Chill, step, float64(chill)))
				pieces = append(pieces, oven, first)
			} else {
				for k := range oven.hands {
					oven.hands[k].from, oven.hands[k].to = oven.hands[k].from+mix, oven.hands[k].to+mix
				}
				oven.hands[0].from, oven.in, oven.out, oven.size = 0, mix, oven.out+mix, oven.size+mix
				pieces = append(pieces, oven)
			}
			tasks = append(tasks, task(method.Bake, step, float64(wait)), task(method.Cool, step, float64(cool)))
			tasks[len(tasks)-2].Oven = measure.Celsius(heat)
			todo = append(todo, plan.Bake{Name: fmt.Sprint(n), Tasks: tasks, Ready: eat})
		}
		p, err := plan.Make(todo, plan.Kitchen{Ovens: []plan.Oven{{Preheat: preheat}}})
		require.NoError(t, err)
		if got, want := int(eat.Sub(p.Begin)/time.Minute), best(pieces); got != want {
			t.Logf("round %d: %d, the best is %d: %v", round, got, want, pieces)
			worse++
		}
	}
	assert.Equal(t, 0, worse)
}
