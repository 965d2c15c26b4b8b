package plan_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/method"
	"kollaris/core/plan"
	"kollaris/core/reader"
	"kollaris/internal/demo/recipes"
)

func at(hour, minute int) time.Time { return time.Date(2026, 12, 5, hour, minute, 0, 0, time.UTC) }

func verbs(p *plan.Plan, bake int) (out []method.Verb) {
	for _, t := range p.Tasks {
		if t.Bake == bake {
			out = append(out, t.Verb)
		}
	}
	return out
}

// What is eaten warm comes from the oven as it is eaten; what is iced is cold first; what is
// eaten after a day is made the day before.
func TestHowItIsEaten(t *testing.T) {
	tasks := []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 40), task(method.Cool, 1, 60), task(method.Mature, 1, 2880)}
	make := func(s plan.Serve, tasks []method.Task) *plan.Plan {
		p, err := plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat, Serve: s}}, plan.Kitchen{})
		require.NoError(t, err)
		assert.True(t, p.Feasible)
		return p
	}
	p := make(plan.Warm, tasks)
	assert.Equal(t, []method.Verb{method.Heat, method.Mix, method.Bake, method.Cool}, verbs(p, 0), "it does not mature")
	assert.Equal(t, at(8, 49), find(t, p, 0, method.Cool).From)
	assert.Contains(t, find(t, p, 0, method.Cool).Note, "ten minutes")
	assert.Equal(t, eat.Add(-48*time.Hour-time.Minute), find(t, make(plan.Cold, tasks), 0, method.Mature).From)

	p = make(plan.Iced, tasks[:3])
	assert.Equal(t, at(8, 45), find(t, p, 0, method.Ice).From)
	assert.Equal(t, at(7, 44), find(t, p, 0, method.Cool).From)
	assert.Len(t, verbs(make(plan.Iced, append(tasks[:3:3], task(method.Ice, 10, 0))), 0), 5, "iced once")

	p = make(plan.Aged, tasks[:3])
	assert.Equal(t, eat.Add(-24*time.Hour-time.Minute), find(t, p, 0, method.Mature).From)
	assert.Len(t, verbs(make(plan.Aged, tasks), 0), 5)
}

// What is warm stays so half an hour: of two in one oven the first waits too long, and that is said.
func TestTwoWarmOnesAndOneOven(t *testing.T) {
	scones := func(wait float64) plan.Bake {
		return plan.Bake{Tasks: []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, wait)}, Ready: eat, Serve: plan.Warm}
	}
	p, err := plan.Make([]plan.Bake{scones(29), scones(29)}, plan.Kitchen{})
	require.NoError(t, err)
	assert.True(t, p.Feasible, p.Broken)
	p, err = plan.Make([]plan.Bake{scones(31), scones(31)}, plan.Kitchen{})
	require.NoError(t, err)
	assert.Len(t, p.Broken, 1)
	require.NotEmpty(t, p.Ways)
	assert.Contains(t, p.Ways[0].Words, "second oven")
	kept := scones(29)
	kept.Fresh = 600
	p, err = plan.Make([]plan.Bake{kept, kept}, plan.Kitchen{})
	require.NoError(t, err)
	assert.True(t, p.Feasible, "warm is warm, however long it keeps cold")
}

// A bake that is best the same day is not made the day before, where the hours allow it.
func TestWhatIsFresh(t *testing.T) {
	scones := []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 20), task(method.Cool, 1, 20)}
	k := plan.Kitchen{Awake: [2]string{"08:40", "22:30"}}
	p, err := plan.Make([]plan.Bake{{Tasks: scones, Ready: eat, Fresh: 720}}, k)
	require.NoError(t, err)
	assert.True(t, p.Feasible, "the evening before: ten and a half hours")
	p, err = plan.Make([]plan.Bake{{Tasks: scones, Ready: eat, Fresh: 600}}, k)
	require.NoError(t, err)
	assert.Equal(t, []string{"“cool 1/20.” would wait 10 h 10; it keeps 10 h."}, p.Broken)
}

// The plan puts a rise into the fridge only where the hours ask for it, the last rather than the
// first; or the one that is asked for.
func TestARiseInTheFridge(t *testing.T) {
	rolls := []method.Task{task(method.Knead, 10, 0), task(method.Prove, 1, 90), task(method.Shape, 10, 0), task(method.Prove, 1, 45), task(method.Bake, 1, 20)}
	make := func(r plan.Retard, from string) *plan.Plan {
		p, err := plan.Make([]plan.Bake{{Tasks: rolls, Ready: eat, Serve: plan.Warm, Retard: r}}, plan.Kitchen{Awake: [2]string{from, "22:30"}})
		require.NoError(t, err)
		return p
	}
	cold := func(p *plan.Plan) (out []string) {
		for _, x := range p.Tasks {
			if x.Where == method.Fridge {
				out = append(out, clock(x.From)+" "+x.Key)
				assert.GreaterOrEqual(t, x.To.Sub(x.Hands), 8*time.Hour)
				assert.Contains(t, x.Note, "Instead of: prove")
			}
		}
		return out
	}
	p := make(plan.RetardIfNeeded, "05:00")
	assert.Empty(t, cold(p), "178 minutes before nine is two past six")
	assert.Empty(t, p.Retarded)
	p = make(plan.RetardIfNeeded, "07:00")
	assert.Equal(t, []string{"Fri 22:29 0.3"}, cold(p), "the last, set as late as it may be")
	assert.Equal(t, []int{0}, p.Retarded)
	assert.True(t, p.Feasible)
	p = make(plan.RetardNone, "07:00")
	assert.Empty(t, cold(p))
	assert.False(t, p.Feasible)
	p = make(plan.RetardFirst, "07:00")
	assert.Equal(t, []string{"Fri 22:29 0.1"}, cold(p))
	assert.Equal(t, 75*time.Minute, find(t, p, 0, method.Shape).From.Add(11*time.Minute+75*time.Minute).Sub(find(t, p, 0, method.Shape).From.Add(11*time.Minute)))
	for _, x := range p.Tasks {
		if x.Key == "0.3" {
			assert.Equal(t, 75*time.Minute, x.To.Sub(x.Hands), "half an hour longer, since it comes cold")
		}
	}
	assert.Empty(t, p.Retarded, "it was asked for")

	batter := []method.Task{task(method.Beat, 10, 0), task(method.Prove, 1, 90), task(method.Bake, 1, 20)}
	p, err := plan.Make([]plan.Bake{{Tasks: batter, Ready: eat, Serve: plan.Warm}}, plan.Kitchen{Awake: [2]string{"08:00", "22:30"}})
	require.NoError(t, err)
	assert.Empty(t, cold(p), "a batter that rises once in its tin is left alone")
}

// What is done is not planned again, keeps its times, and what may not stand goes on from it.
func TestTheDayGoesOn(t *testing.T) {
	tasks := []method.Task{task(method.Weigh, 10, 0), task(method.Mix, 5, 0), task(method.Bake, 1, 40), task(method.Cool, 1, 60)}
	make := func(now time.Time, done map[string]time.Time) *plan.Plan {
		p, err := plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{Now: now, Done: done})
		require.NoError(t, err)
		return p
	}
	p := make(at(6, 30), map[string]time.Time{"0.0": at(6, 20)})
	weigh := find(t, p, 0, method.Weigh)
	assert.True(t, weigh.Done)
	assert.Equal(t, [2]time.Time{at(6, 10), at(6, 20)}, [2]time.Time{weigh.From, weigh.Hands})
	assert.Equal(t, at(7, 13), find(t, p, 0, method.Mix).From, "what is weighed can wait")
	assert.True(t, p.Feasible)
	assert.Equal(t, 7, p.Busy-1, "the hands that are left, and a minute at the oven")

	// mixed early, before the oven is hot: it goes in when the oven is
	p = make(at(6, 30), map[string]time.Time{"0.0": at(6, 10), "0.1": at(6, 30)})
	assert.Equal(t, at(6, 30), find(t, p, 0, method.Bake).From, "batter may not stand")

	// in the oven at 7:30, twelve minutes late: out at 8:10, cold at 9:11
	p = make(at(7, 31), map[string]time.Time{"0.0": at(7, 10), "0.1": at(7, 20), "0.2": at(7, 30), "0.2h": at(7, 0)})
	assert.Equal(t, at(8, 10), find(t, p, 0, method.Cool).From)
	assert.False(t, p.Feasible)
	assert.Equal(t, at(9, 11), p.Soonest)
	assert.Equal(t, at(7, 0), find(t, p, 0, method.Heat).Hands, "it was lit then")
	p = make(at(7, 31), map[string]time.Time{"0.0": at(7, 10), "0.1": at(7, 12), "0.2": at(7, 18)})
	assert.True(t, p.Feasible, "in time")

	// nothing done, and it begins twenty minutes late
	p = make(at(7, 23), nil)
	assert.Equal(t, 25, p.Late[0].By, "the oven was to be lit at two to seven")
	assert.Equal(t, at(9, 25), p.Soonest)
	assert.Equal(t, "Eat 25 min later, at Sat 09:25.", p.Ways[len(p.Ways)-1].Words)
}

// An oven in which something bakes is not to be had for another before it is out.
func TestWhatIsInTheOvenStaysThere(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 60)}
	two := []plan.Bake{{Name: "a", Tasks: loaf, Ready: eat}, {Name: "b", Tasks: loaf, Ready: eat.Add(2 * time.Hour)}}
	p, err := plan.Make(two, plan.Kitchen{Now: at(8, 30), Done: map[string]time.Time{"0.0": at(8, 10), "0.1": at(8, 29), "1.0": at(8, 30)}})
	require.NoError(t, err)
	assert.Equal(t, at(9, 29), find(t, p, 1, method.Bake).From, "mixed already, it waits for the oven, whatever becomes of it")
}

// An oven that is being heated is hot when it is.
func TestAnOvenThatIsBeingHeated(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 60)}
	begin := func(done map[string]time.Time) string {
		p, err := plan.Make([]plan.Bake{{Tasks: loaf, Ready: eat}}, plan.Kitchen{Now: at(7, 50), Done: done})
		require.NoError(t, err)
		return clock(p.Begin)
	}
	assert.Equal(t, "Sat 07:39", begin(nil), "20 minutes before 7:59")
	assert.Equal(t, "Sat 07:49", begin(map[string]time.Time{"0.1h": at(7, 40)}))
	assert.Equal(t, "Sat 07:54", begin(map[string]time.Time{"0.1h": at(7, 20)}), "mixed at 7:54; it is hot long since")
}

// Each way out is worked out anew: what it wins is told, what wins nothing is not offered.
func TestWaysOutAreWorkedOut(t *testing.T) {
	ways := func(k plan.Kitchen, bakes ...plan.Bake) map[string]int {
		for n := range bakes {
			bakes[n].Ready = eat
		}
		p, err := plan.Make(bakes, k)
		require.NoError(t, err)
		assert.False(t, p.Feasible)
		out := map[string]int{}
		for n, w := range p.Ways {
			out[w.Words[:12]] = w.Late
			assert.True(t, n == 0 || !w.Eat.IsZero() || p.Ways[n-1].Late <= w.Late, "the best first")
		}
		return out
	}
	soaked := []method.Task{task(method.Soak, 5, 240), task(method.Mix, 10, 0), task(method.Bake, 1, 60), task(method.Cool, 1, 90)}
	// 245 + 10 + 61 + 91 = 407 minutes; five hours are left. Simmered 170 less; as cups 40 and 60 less;
	// warm 80 less.
	got := ways(plan.Kitchen{Now: at(4, 0)}, plan.Bake{Tasks: soaked})
	assert.Equal(t, map[string]int{"Simmer the f": 0, "Bake what is": 7, "Eat it warm:": 27, "Eat 1 h 47 l": 0}, got)
	got = ways(plan.Kitchen{Now: at(7, 0)}, plan.Bake{Name: "a loaf of it", Tasks: soaked[1:3]}, plan.Bake{Name: "another one", Tasks: soaked[1:3]})
	assert.Contains(t, got, "A second ove")
	assert.Contains(t, got, "Another day,")
	assert.NotContains(t, got, "Simmer the f")
	got = ways(plan.Kitchen{Now: at(3, 0), Awake: [2]string{"06:00", "22:30"}}, plan.Bake{Tasks: []method.Task{task(method.Mix, 10, 0), task(method.Chill, 1, 240)}})
	assert.Equal(t, 0, got["Get up earli"], "mixed the evening before, for nobody works at half past four")
	got = ways(plan.Kitchen{Now: at(8, 0)}, plan.Bake{Tasks: []method.Task{task(method.Mix, 10, 0), task(method.Prove, 1, 100), task(method.Soften, 0, 90), task(method.Mature, 0, 200)}})
	assert.Contains(t, got, "Let dough ri")
	assert.Contains(t, got, "Eat it the s")

	// Mixed at 4:39, before anybody is up, to be eaten at nine; baked in part the evening before, only
	// ten minutes are left. What does not rise is not part-baked, nor what bakes no longer than that, nor
	// what has to keep an order with another.
	night := plan.Kitchen{Now: at(-9, 0), Awake: [2]string{"06:00", "22:30"}}
	rolls := func(risen method.Verb, bakes float64) plan.Bake {
		return plan.Bake{Name: "rolls", Tasks: []method.Task{task(method.Mix, 10, 0), task(risen, 0, 190), task(method.Bake, 1, bakes)}}
	}
	got = ways(night, rolls(method.Prove, 60))
	assert.Contains(t, got, "Part-bake ro")
	assert.Equal(t, 0, got["Part-bake ro"])
	assert.NotContains(t, ways(night, rolls(method.Rest, 60)), "Part-bake ro")
	assert.NotContains(t, ways(night, rolls(method.Prove, 10)), "Part-bake ro")
	first, then := rolls(method.Prove, 60), rolls(method.Prove, 60)
	first.Before = []int{1}
	assert.NotContains(t, ways(night, first, then), "Part-bake ro")
	then.Clash = []int{1}
	assert.NotContains(t, ways(night, then, plan.Bake{Name: "cake", Tasks: soaked[1:3], Clash: []int{0}}), "Part-bake ro")
}

// A meal that has passed is moved to when all fits, whatever the hour: in the evening the work is left for the morning.
func TestAPassedMealIsMovedAtAnyHour(t *testing.T) {
	bake := []method.Task{task(method.Mix, 30, 0), task(method.Bake, 1, 45), task(method.Cool, 1, 60)} // 137 minutes
	for hour := range 24 {
		for _, minute := range []int{0, 30} {
			now := at(hour, minute)
			p, err := plan.Make([]plan.Bake{{Tasks: bake, Ready: at(-200, 0)}}, plan.Kitchen{Now: now, Awake: [2]string{"06:00", "22:00"}})
			require.NoError(t, err)
			require.NotEmpty(t, p.Ways, "%s", now)
			soonest := p.Soonest.Sub(now)
			want := 137 * time.Minute
			if hour < 6 || now.Add(78*time.Minute).After(at(22, 0)) { // it cannot be taken out before the night
				want = at(6, 0).Sub(now)
				if hour >= 6 {
					want += 24 * time.Hour
				}
				want += 137 * time.Minute
			}
			assert.InDelta(t, want.Minutes(), soonest.Minutes(), 16, "%s", now)
		}
	}
}

// A jar is shaken on every day between, and a cake fed on its days till it is eaten.
func TestNotesForADay(t *testing.T) {
	feed := task(method.Feed, 3, 0)
	tasks := []method.Task{task(method.Soak, 5, 3*1440), task(method.Mix, 5, 0), task(method.Bake, 1, 60), task(method.Mature, 1, 8*1440), feed}
	p, err := plan.Make([]plan.Bake{{Tasks: tasks, Ready: eat}}, plan.Kitchen{})
	require.NoError(t, err)
	var got []string
	for _, n := range p.Notes {
		got = append(got, n.On.Format("2 Jan ")+n.Text+n.Key)
	}
	// baked on the 27th, the fruit soaked from the 24th
	assert.Equal(t, []string{
		"25 Nov Shake the jar.0.0.shake1", "26 Nov Shake the jar.0.0.shake2", "28 Nov feed 3/0.0.2.feed1", "30 Nov feed 3/0.0.2.feed3", "4 Dec feed 3/0.0.2.feed7",
	}, got)
}

// What stands in an order is kept where another is no better.
func TestTheOrderIsKept(t *testing.T) {
	loaf := []method.Task{task(method.Mix, 20, 0), task(method.Bake, 1, 60)}
	bakes := []plan.Bake{{Name: "a", Tasks: loaf, Ready: eat}, {Name: "b", Tasks: loaf, Ready: eat}}
	for _, prefer := range [][]int{{0, 1}, {1, 0}} {
		p, err := plan.Make(bakes, plan.Kitchen{Prefer: prefer})
		require.NoError(t, err)
		assert.Equal(t, prefer, p.Sequence)
	}
	p, err := plan.Make(bakes, plan.Kitchen{Prefer: []int{0, 0}})
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1}, p.Sequence, "no order of these")
}

// What is left in its tin may be cut the next day; what is ready keeps as it does, however it was cut.
func TestWhatIsCutLater(t *testing.T) {
	squares := []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 30), task(method.CoolTin, 1, 20), task(method.Cut, 5, 0)}
	p, err := plan.Make([]plan.Bake{{Tasks: squares, Ready: eat, Fresh: 1440}}, plan.Kitchen{Awake: [2]string{"08:30", "22:00"}})
	require.NoError(t, err)
	assert.True(t, p.Feasible, p.Broken)
	assert.Equal(t, "Fri 21:53", clock(find(t, p, 0, method.CoolTin).From.Add(-6*time.Minute)), "it goes on cooling at night")
	assert.Equal(t, "Sat 08:55", clock(find(t, p, 0, method.Cut).From))
}

// Fruit soaks whatever is baked meanwhile: only what is mixed waits for the strictest.
func TestASoakSoilsNothing(t *testing.T) {
	soaked := []method.Task{task(method.Soak, 5, 2880), task(method.Mix, 5, 0), task(method.Bake, 1, 30), task(method.Cool, 1, 20)}
	loaf := []method.Task{task(method.Mix, 5, 0), task(method.Bake, 1, 30), task(method.Cool, 1, 20)}
	for _, clash := range [][]int{nil, {1}} {
		bakes := []plan.Bake{{Name: "strict", Tasks: loaf, Ready: eat}, {Name: "soaked", Tasks: soaked, Ready: eat}}
		if clash == nil {
			bakes[0].Before = []int{1}
		} else {
			bakes[0].Clash, bakes[1].Clash = []int{1}, []int{0}
		}
		p, err := plan.Make(bakes, plan.Kitchen{})
		require.NoError(t, err)
		assert.Equal(t, "Sat", find(t, p, 0, method.Mix).From.Format("Mon"))
		assert.Equal(t, "Thu", find(t, p, 1, method.Soak).From.Format("Mon"))
		for _, x := range p.Tasks {
			if x.Verb == plan.Wash {
				assert.Equal(t, "Sat", x.From.Format("Mon"), "before what is mixed")
			}
		}
	}
}

// Each oven is lit as long before as it takes itself.
func TestEachOvenTakesItsTime(t *testing.T) {
	loaf := []method.Task{task(method.Bake, 1, 60)}
	for name, lit := range map[string]time.Time{"gas": at(7, 44), "electric": at(7, 29), "": at(7, 44)} {
		p, err := plan.Make([]plan.Bake{{Tasks: loaf, Ready: eat, Oven: name}}, plan.Kitchen{Ovens: []plan.Oven{{Name: "gas", Preheat: 15}, {Name: "electric", Preheat: 30}}})
		require.NoError(t, err)
		assert.Equal(t, lit, find(t, p, 0, method.Heat).From, name)
		assert.Equal(t, lit, p.Begin)
	}
}

// A crust and its filling are each heated for by their own words.
func TestEachBakingIsHeatedFor(t *testing.T) {
	crust, filling := task(method.BakeBlind, 1, 15), task(method.Bake, 1, 30)
	filling.Oven = 150
	first, second := task(method.Heat, 1, 20), task(method.Heat, 1, 20)
	first.Text, second.Text, second.Oven = "Heat it to 180.", "Turn it to 150.", 150
	p, err := plan.Make([]plan.Bake{{Tasks: []method.Task{first, task(method.RubIn, 8, 0), crust, second, task(method.Beat, 40, 0), filling}, Ready: eat}}, plan.Kitchen{})
	require.NoError(t, err)
	var words []string
	for _, x := range p.Tasks {
		if x.Verb == method.Heat {
			words = append(words, x.Text)
		}
	}
	assert.Equal(t, []string{"Heat it to 180.", "Turn it to 150."}, words)
}

// A bake without tasks is ready as it is, and is in nobody's way.
func TestNothingToDo(t *testing.T) {
	p, err := plan.Make([]plan.Bake{{Name: "bought", Ready: eat}, {Tasks: []method.Task{task(method.Weigh, 10, 0)}, Ready: eat}}, plan.Kitchen{})
	require.NoError(t, err)
	assert.Len(t, p.Tasks, 1)
	assert.Equal(t, at(8, 50), p.Begin)
	assert.True(t, p.Feasible)
}

func TestWaysToEatAndToRise(t *testing.T) {
	for _, x := range plan.Serves {
		assert.True(t, x.ID.Known())
	}
	for _, x := range plan.Retards {
		assert.True(t, x.ID.Known())
	}
	assert.False(t, plan.Serve("hot").Known())
	assert.False(t, plan.Retard("both").Known())
}

// Of results come their tins, how long they keep, and how much longer they take in a full oven, which
// one alone has no use for.
func TestBakesOfResults(t *testing.T) {
	var results []*adapt.Result
	for _, name := range []string{"1-pear-cardamom-loaf.txt", "3-cheddar-chive-scones.txt"} {
		rd, err := reader.Read(recipes.Text(name), reader.Options{})
		require.NoError(t, err)
		res, err := adapt.Predicted(rd.Recipe, adapt.Request{}, adapt.DefaultKit())
		require.NoError(t, err)
		results = append(results, res)
	}
	two := plan.Bakes([]string{"loaf", "scones"}, results, adapt.DefaultKit())
	assert.Equal(t, "loaf", two[0].Name)
	assert.Equal(t, [2]float64{25.9, 15.7}, [2]float64{math.Round(two[0].Room[0]*10) / 10, math.Round(two[0].Room[1]*10) / 10}, "9 by 5 inches and its rims")
	assert.Equal(t, 3*1440, two[0].Fresh)
	assert.Equal(t, 1440, two[1].Fresh)
	assert.NotEmpty(t, two[0].Tin)
	assert.Empty(t, two[1].Tin, "on a sheet")
	assert.InDelta(t, 0.1*results[0].Bake.High, float64(two[0].Full), 0.06*results[0].Bake.High, "5 to 15 %, as practice has it")
	assert.Zero(t, plan.Bakes([]string{"loaf"}, results[:1], adapt.DefaultKit())[0].Full)
	assert.Equal(t, map[string]int{"microwave": 1, "tin " + two[0].Tin: 2, "bowl": 3, "fridge": 4, "hob": 5, "warm place": 6}, plan.Counts{Tins: 2, Bowls: 3, Fridge: 4, Hob: 5, Warm: 6}.Has(two))
	assert.Equal(t, map[string]int{"microwave": 1}, plan.Counts{}.Has(two))
	assert.NotEqual(t, plan.Shape(two), plan.Shape(two[:1]))
	assert.Empty(t, plan.ClashWords(two))
	two[0].Clash, two[1].Clash = []int{1}, []int{0}
	assert.Equal(t, []string{"loaf and scones each hold what the other’s eaters must not: all is washed between them, or bake one another day."}, plan.ClashWords(two))
}
