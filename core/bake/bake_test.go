package bake_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/tin"
	"kollaris/internal/demo/recipes"
)

var (
	lib  = larder.Builtin()
	home = measure.DefaultKitchen()
	noon = time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)
)

// sheetOf reads a demo recipe and adapts it.
func sheetOf(t testing.TB, file string, diets ...diet.ID) bake.Sheet {
	t.Helper()
	rd, err := reader.Read(recipes.Text(file), reader.Options{})
	require.NoError(t, err)
	res, err := adapt.Adapt(rd.Recipe, adapt.Request{Diets: diets}, adapt.DefaultKit())
	require.NoError(t, err)
	require.Nil(t, res.Refused)
	return bake.Sheet{Name: res.Recipe.Title, Recipe: res.Recipe, Tasks: res.Method, Preheat: 20}
}

func loaf(t testing.TB) bake.Sheet {
	return sheetOf(t, "1-pear-cardamom-loaf.txt", diet.EggFree, diet.DairyFree)
}

func at(minutes float64) time.Time { return noon.Add(time.Duration(minutes * float64(time.Minute))) }

// lineOf is the line of a food.
func lineOf(t testing.TB, s bake.Sheet, id larder.ID) *recipe.Line {
	t.Helper()
	for n := range s.Recipe.Lines {
		if s.Recipe.Lines[n].Ingredient == id && s.Recipe.Lines[n].Grams > 0 {
			return &s.Recipe.Lines[n]
		}
	}
	t.Fatalf("no %s in %s", id, s.Name)
	return nil
}

func taskOf(t testing.TB, s bake.Sheet, v method.Verb) int {
	t.Helper()
	for n, x := range s.Tasks {
		if x.Verb == v {
			return n
		}
	}
	t.Fatalf("no %s in %s", v, s.Name)
	return -1
}

func kit(d ...diet.ID) bake.Kit {
	return bake.Kit{Larder: lib, Kitchen: home, Demand: diet.Demand{Diets: d}}
}

func fold(s bake.Sheet, events ...bake.Event) (bake.Strip, bake.State) {
	for n := range events {
		if events[n].ID == "" {
			events[n].ID = fmt.Sprint("e", n)
		}
		if events[n].At.IsZero() {
			events[n].At = at(float64(n))
		}
	}
	st := bake.Fold([]bake.Sheet{s}, events)
	return st.Strips[0], st
}

// A reload, two tablets and one that came back from being without network: the events come in
// any order, some of them twice, and there is one state.
func TestEventsInAnyOrderGiveOneState(t *testing.T) {
	s := loaf(t)
	sheets := []bake.Sheet{s, s}
	rnd := rand.New(rand.NewPCG(1, 2))
	for round := range 60 {
		var events []bake.Event
		for n := range 40 {
			e := bake.Event{
				ID: fmt.Sprint("e", n), At: at(float64(rnd.IntN(30))), Bake: rnd.IntN(3), What: bake.Whats[rnd.IntN(len(bake.Whats))],
				Task: rnd.IntN(len(s.Tasks) + 1), Line: s.Recipe.Lines[rnd.IntN(len(s.Recipe.Lines))].ID, Value: float64(rnd.IntN(200)),
				Key: []string{"a", "b", bake.TimerKey(0, 0)}[rnd.IntN(3)], Text: "x",
			}
			if e.What == bake.Undo {
				e.Key = fmt.Sprint("e", rnd.IntN(40))
			}
			events = append(events, e)
		}
		want := bake.Fold(sheets, events)
		rnd.Shuffle(len(events), func(a, b int) { events[a], events[b] = events[b], events[a] })
		events = append(events, events[:10]...)
		require.Equal(t, want, bake.Fold(sheets, events), "round %d", round)
	}
}

func TestTasksAreDoneInTheirOrderAndTakenBack(t *testing.T) {
	s := loaf(t)
	p, _ := fold(s)
	assert.Equal(t, 0, p.At(s))
	assert.Equal(t, []int{1, 2}, p.After(s, 0, 2))
	p, _ = fold(s, bake.Event{What: bake.Done, Task: 0}, bake.Event{What: bake.Done, Task: 1})
	assert.Equal(t, 2, p.At(s))
	assert.Equal(t, []int{2, 3}, p.After(s, 0, 2), "what is done is no next")
	p, _ = fold(s, bake.Event{What: bake.Done, Task: 0}, bake.Event{What: bake.Undo, Key: "e0"})
	assert.Equal(t, 0, p.At(s))
	p, _ = fold(s, bake.Event{What: bake.Done, Task: 0}, bake.Event{What: bake.Undo, Key: "e0"}, bake.Event{What: bake.Undo, Key: "e1"})
	assert.Equal(t, 1, p.At(s), "an undo taken back")
	var all []bake.Event
	for n := range s.Tasks {
		all = append(all, bake.Event{What: bake.Done, Task: n})
	}
	p, st := fold(s, append(all, bake.Event{What: bake.Finish})...)
	assert.Equal(t, -1, p.At(s))
	assert.Empty(t, p.After(s, -1, 2))
	assert.Equal(t, at(float64(len(all))), st.Over)
	odd, _ := fold(s)
	assert.Empty(t, odd.Weighings(s, 99, lib, home, nil))
	assert.Empty(t, odd.Weighings(s, -1, lib, home, nil))
	fold(s, bake.Event{What: bake.Done, Task: -4}, bake.Event{What: bake.Put, Task: 99, Line: 1, Value: 3}, bake.Event{What: bake.Done, Bake: 7})
}

// Of a task that is done without weighing, all is in as it should be.
func TestWhatIsInTheBowl(t *testing.T) {
	s := loaf(t)
	flour, oil := lineOf(t, s, "plain-flour"), lineOf(t, s, "sunflower-oil")
	dry := taskOf(t, s, method.Beat)
	p, _ := fold(s, bake.Event{What: bake.Put, Task: dry, Line: flour.ID, Value: 214}, bake.Event{What: bake.Done, Task: dry})
	assert.Equal(t, 214.0, p.In[flour.ID])
	salt := lineOf(t, s, "salt")
	assert.Equal(t, salt.Grams, p.In[salt.ID])
	assert.NotContains(t, p.In, oil.ID)
	p, _ = fold(s, bake.Event{What: bake.Put, Task: dry, Line: flour.ID, Value: 214}, bake.Event{What: bake.Spoon, Line: flour.ID, Value: 8})
	assert.Equal(t, 222.0, p.In[flour.ID])
	require.Len(t, p.Spoons, 1)
	p, _ = fold(s, bake.Event{What: bake.Scale, Value: 1.5}, bake.Event{What: bake.Scale, Value: 0}, bake.Event{What: bake.Done, Task: dry})
	assert.InDelta(t, 1.5*flour.Grams, p.In[flour.ID], 1e-9)
}

func TestTimersRunPauseAndGoOn(t *testing.T) {
	s := loaf(t)
	gel := taskOf(t, s, method.Gel)
	_, st := fold(s, bake.Event{What: bake.Done, Task: gel})
	require.Len(t, st.Timers, 1)
	x := st.Timers[0]
	assert.Equal(t, bake.TimerKey(0, gel), x.Key)
	assert.Contains(t, x.Name, "flax gel")
	assert.Equal(t, 10*time.Minute, x.Remaining(at(0)))
	assert.Equal(t, -2*time.Minute, x.Remaining(at(12)), "it has rung")

	set := bake.Event{What: bake.TimerSet, Key: "k", Text: "nuts", Value: 8}
	only := func(events ...bake.Event) bake.Timer {
		_, st := fold(s, events...)
		require.Len(t, st.Timers, 1)
		return st.Timers[0]
	}
	assert.Equal(t, 13*time.Minute, only(set, bake.Event{What: bake.TimerMore, Key: "k", Value: 5}).Remaining(at(0)))
	x = only(set, bake.Event{What: bake.TimerPause, Key: "k", At: at(3)})
	assert.Equal(t, 5*time.Minute, x.Remaining(at(99)))
	x = only(set, bake.Event{What: bake.TimerPause, Key: "k", At: at(3)}, bake.Event{What: bake.TimerMore, Key: "k", Value: 5, At: at(4)}, bake.Event{What: bake.TimerGo, Key: "k", At: at(20)})
	assert.Equal(t, 10*time.Minute, x.Remaining(at(20)))
	x = only(set, bake.Event{What: bake.TimerMore, Key: "k", Value: 5, At: at(30)})
	assert.Equal(t, 5*time.Minute, x.Remaining(at(30)), "after it rang: from now on")
	assert.True(t, only(set, bake.Event{What: bake.TimerStop, Key: "k"}).Gone)
	_, st = fold(s, bake.Event{What: bake.TimerStop, Key: "none"})
	assert.Empty(t, st.Timers)
	heat := taskOf(t, s, method.Heat)
	_, st = fold(s, bake.Event{What: bake.Done, Task: heat})
	assert.Equal(t, 20*time.Minute, st.Timers[0].Remaining(at(0)), "the oven's own time")
	_, st = fold(s, bake.Event{What: bake.Done, Task: taskOf(t, s, method.Bake)})
	assert.Empty(t, st.Timers, "of a bake the oven's page tells")
	for d, want := range map[time.Duration]string{40 * time.Second: "40 s", 61 * time.Second: "2 min", 89 * time.Minute: "89 min", 100 * time.Minute: "1 h 40 min", -time.Second: "0 s"} {
		assert.Equal(t, want, bake.Minutes(d))
	}
}

// What each food need be weighed to. Source: practice.
func TestToleranceByFood(t *testing.T) {
	fine := home
	fine.FineScale = true
	for _, c := range []struct {
		id    larder.ID
		g     float64
		k     measure.Kitchen
		near  float64
		spoon bool
	}{
		{"plain-flour", 250, home, 2.5, false}, {"plain-flour", 60, home, 1, false}, {"milk", 250, home, 5, false}, {"milk", 20, home, 1, false},
		{"baking-soda", 2.3, fine, 0.1, false}, {"baking-powder", 9.2, fine, 0.2, false}, {"baking-powder", 9.2, home, 0.575, true},
		{"vanilla", 4, fine, 0.1, false},
	} {
		near, spoon := bake.Tolerance(lib.Get(c.id), c.g, c.k)
		assert.InDelta(t, c.near, near, 0.02, "%s %g", c.id, c.g)
		assert.Equal(t, c.spoon, spoon, "%s %g", c.id, c.g)
	}
}

func TestALineIsInWhenTheScaleStands(t *testing.T) {
	s := loaf(t)
	p, _ := fold(s)
	dry := taskOf(t, s, method.Beat)
	ws := p.Weighings(s, dry, lib, home, nil)
	w := ws[0]
	require.Equal(t, larder.ID("plain-flour"), w.Food.ID)
	assert.InDelta(t, 2.1, w.Tolerance, 0.01)
	assert.False(t, w.Is)
	reading := func(sec, g float64, steady bool) bake.Reading {
		return bake.Reading{At: noon.Add(time.Duration(sec * float64(time.Second))), Grams: g, Steady: steady}
	}
	assert.True(t, w.Settled([]bake.Reading{reading(0, 180, true), reading(1, 211, true), reading(2.2, 210, true)}))
	assert.False(t, w.Settled([]bake.Reading{reading(1, 211, true), reading(2.1, 210, true)}), "not long enough")
	assert.False(t, w.Settled([]bake.Reading{reading(0, 210, true), reading(1, 210, false), reading(2.2, 210, true)}))
	assert.False(t, w.Settled([]bake.Reading{reading(0, 213, true), reading(2.2, 213, true)}))
	assert.False(t, w.Settled(nil))
	w.Whole = true
	assert.False(t, w.Settled([]bake.Reading{reading(0, 210, true), reading(2.2, 210, true)}), "a person says that the eggs are in")
	w.Whole = false
	_, over := w.Over(212)
	assert.False(t, over)
	o, over := w.Over(231)
	assert.True(t, over)
	assert.InDelta(t, 21, o.Over, 1e-9)
	assert.InDelta(t, 1.1, o.Factor, 1e-9)
	pear := lineOf(t, s, "pear")
	for _, w := range p.Weighings(s, taskOf(t, s, method.Fold), lib, home, nil) {
		assert.Equal(t, pear.ID, w.Line.ID)
		assert.True(t, w.Whole)
	}
	for _, w := range p.Weighings(s, dry, lib, home, map[recipe.LineID]float64{lineOf(t, s, "plain-flour").ID: 230}) {
		if w.Food.ID == "plain-flour" {
			assert.Equal(t, 230.0, w.Target)
		}
	}
}

// The bound work of a recipe begins where acid meets soda, where powder gets wet, where a foam is made.
func TestWhereItBeginsToWork(t *testing.T) {
	for _, c := range []struct {
		file    string
		verb    method.Verb
		minutes float64
		diets   []diet.ID
	}{
		{"1-pear-cardamom-loaf.txt", method.Mix, 5, nil},                                     // wet into dry
		{"2-carrot-hazelnut-ring.txt", method.Fold, 5, nil},                                  // the flour into the rest
		{"8-almond-orange-cake.txt", method.Foam, 5, nil},                                    // a foam
		{"4-rye-honey-rolls.txt", "", 0, nil},                                                // yeast has time
		{"1-pear-cardamom-loaf.txt", method.Mix, 5, []diet.ID{diet.EggFree, diet.DairyFree}}, // the same with soured drink
	} {
		s := sheetOf(t, c.file, c.diets...)
		n, minutes, why := s.Working(lib)
		if c.verb == "" {
			assert.Equal(t, -1, n, c.file)
			continue
		}
		require.GreaterOrEqual(t, n, 0, c.file)
		assert.Equal(t, c.verb, s.Tasks[n].Verb, "%s: %s", c.file, s.Tasks[n].Text)
		assert.Equal(t, c.minutes, minutes, c.file)
		assert.NotEmpty(t, why)
	}
	s := sheetOf(t, "5-lemon-poppy-squares.txt")
	n, minutes, _ := s.Working(lib)
	assert.Contains(t, s.Tasks[n].Text, "in turns with the milk")
	assert.Equal(t, 15.0, minutes, "double-acting powder waits")
}

func TestTheOvenIsHotAndTheTinLinedBeforeAcidMeetsSoda(t *testing.T) {
	s := loaf(t)
	mix, _, _ := s.Working(lib)
	ready := func(minutes float64, events ...bake.Event) []string {
		p, st := fold(s, events...)
		var out []string
		for _, r := range p.ReadyFor(s, 0, mix, st.Timers, at(minutes), lib) {
			out = append(out, fmt.Sprint(r.Is, " ", r.Words))
		}
		return out
	}
	heat, line := taskOf(t, s, method.Heat), taskOf(t, s, method.Line)
	assert.Equal(t, []string{"false the oven is not on yet", "false the tin is not lined yet"}, ready(0))
	on := bake.Event{What: bake.Done, Task: heat, At: at(0)}
	assert.Contains(t, ready(5, on), "false the oven heats since 09:00: 15 min more")
	assert.Contains(t, ready(21, on), "true the oven should be hot")
	assert.Contains(t, ready(5, on, bake.Event{What: bake.Hot}), "true the oven is hot")
	assert.Contains(t, ready(5, bake.Event{What: bake.Done, Task: line}), "true the tin is lined")
	assert.Contains(t, ready(5, bake.Event{What: bake.Lined}), "true the tin is lined")

	p, st := fold(s, bake.Event{What: bake.Done, Task: taskOf(t, s, method.Gel), At: at(0)})
	wet := -1
	for n, x := range s.Tasks {
		if len(x.Takes) > 0 {
			wet = n
			break
		}
	}
	require.Positive(t, wet)
	words := func(minutes float64) string {
		var out []string
		for _, r := range p.ReadyFor(s, 0, wet, st.Timers, at(minutes), lib) {
			out = append(out, r.Words)
		}
		return strings.Join(out, "; ")
	}
	assert.Contains(t, words(4), "flax gel wants 6 min more")
	assert.Contains(t, words(11), "flax gel stands ready since 09:00")
	assert.Contains(t, words(11), "is not made yet", "the soured drink")
	assert.Nil(t, p.ReadyFor(s, 0, 99, st.Timers, noon, lib))
}

// Two that undo each other leave all else as it is, and nothing hangs.
func TestUndoInACircle(t *testing.T) {
	s := loaf(t)
	p, st := fold(s, bake.Event{ID: "a", What: bake.Undo, Key: "b"}, bake.Event{ID: "b", What: bake.Undo, Key: "a"}, bake.Event{ID: "c", What: bake.Done, Task: 0})
	assert.Len(t, st.Last, 1)
	assert.Equal(t, 1, p.At(s))
	_, st = fold(s, bake.Event{ID: "a", What: bake.Undo, Key: "a"}, bake.Event{ID: "d", What: bake.Hot})
	assert.Len(t, st.Last, 1)
	p, _ = fold(s, bake.Event{ID: "e", What: bake.Hot}, bake.Event{ID: "a", What: bake.Undo, Key: "e"}, bake.Event{ID: "b", What: bake.Undo, Key: "a"}, bake.Event{ID: "c", What: bake.Undo, Key: "b"})
	assert.True(t, p.Hot.IsZero(), "undone, redone, undone")
}

// How it stands is asked once flour and liquid are together, not before.
func TestWhereItIsTogether(t *testing.T) {
	for _, c := range []struct {
		file  string
		diets []diet.ID
		text  string
	}{
		{"1-pear-cardamom-loaf.txt", nil, "Stir the wet into the dry"}, {"1-pear-cardamom-loaf.txt", []diet.ID{diet.EggFree, diet.DairyFree}, "Stir the wet into the dry"},
		{"2-carrot-hazelnut-ring.txt", nil, "Fold in"}, {"4-rye-honey-rolls.txt", nil, "Mix everything"}, {"3-cheddar-chive-scones.txt", nil, "Beat egg (50 g) and milk"},
		{"7-buckwheat-seed-bread.txt", nil, "Beat egg (50 g), buttermilk"}, {"8-almond-orange-cake.txt", nil, "Fold in the almonds"},
	} {
		s := sheetOf(t, c.file, c.diets...)
		n := s.Together(lib)
		require.GreaterOrEqual(t, n, 0, c.file)
		assert.Contains(t, s.Tasks[n].Text, c.text, c.file)
	}
	assert.Equal(t, -1, bake.Sheet{Recipe: &recipe.Recipe{}, Tasks: []method.Task{{Verb: method.Mix}}}.Together(lib), "nothing to be together")
}

func TestWhatWeighsWhatItWeighs(t *testing.T) {
	s := sheetOf(t, "1-pear-cardamom-loaf.txt")
	pear, egg := lineOf(t, s, "pear"), lineOf(t, s, "egg")
	p, _ := fold(s, bake.Event{What: bake.Weighs, Line: pear.ID, Value: 180})
	for n := range s.Tasks {
		for _, w := range p.Weighings(s, n, lib, home, nil) {
			switch w.Line.ID {
			case pear.ID:
				assert.Equal(t, 180.0, w.Target, "as it was weighed ready")
			case egg.ID:
				assert.True(t, w.Whole)
				assert.InDelta(t, 20, w.Tolerance, 1e-9, "a fifth of two eggs")
			}
		}
	}
	scones := sheetOf(t, "3-cheddar-chive-scones.txt")
	cheese := lineOf(t, scones, "cheddar")
	p, _ = fold(scones, bake.Event{What: bake.Weighs, Line: cheese.ID, Value: 100})
	sum := 0.0
	for n := range scones.Tasks {
		for _, w := range p.Weighings(scones, n, lib, home, nil) {
			if w.Line.ID == cheese.ID {
				sum += w.Target
				assert.Less(t, w.Target, 100.0)
			}
		}
	}
	assert.InDelta(t, 100, sum, 1e-6, "parted between the tasks that take of it")
	_, st := fold(scones, bake.Event{What: bake.Done, Task: taskOf(t, scones, method.Heat)}, bake.Event{What: bake.Done, Task: taskOf(t, scones, method.Cool)})
	require.Len(t, st.Timers, 2)
	assert.Equal(t, "oven heating", st.Timers[0].Name)
	assert.Equal(t, "cool on a rack", st.Timers[1].Name)
}

// A bake that changes its heat stays in the oven from one task to the next, and comes out once.
func TestABakeWithTwoHeats(t *testing.T) {
	s := bake.Sheet{Recipe: &recipe.Recipe{}, Tasks: []method.Task{
		{Verb: method.Mix}, {Verb: method.Bake}, {Verb: method.Turn}, {Verb: method.Bake}, {Verb: method.Cool}, {Verb: method.Bake}, {Verb: method.Slice},
	}}
	for n, stays := range map[int]bool{1: true, 2: true, 3: false, 5: false} {
		assert.Equal(t, stays, s.Stays(n), "task %d", n)
	}
	for n, again := range map[int]bool{1: false, 3: false, 5: true} {
		assert.Equal(t, again, s.Again(n), "task %d", n)
	}
	s.Tasks[5].Wait.Min = 12
	_, st := fold(s, bake.Event{What: bake.WentIn, Task: 5})
	require.Len(t, st.Timers, 1)
	assert.Equal(t, 12*time.Minute, st.Timers[0].Remaining(at(0)))
	p, st := fold(s, bake.Event{What: bake.Done, Task: 0}, bake.Event{What: bake.WentIn, Task: 1}, bake.Event{What: bake.CameOut, Task: 3})
	assert.Empty(t, st.Timers)
	assert.Equal(t, 4, p.At(s), "all of it is done, and what follows is not")
	p, _ = fold(s, bake.Event{What: bake.Done, Task: 0}, bake.Event{What: bake.WentIn, Task: 1}, bake.Event{What: bake.Done, Task: 1}, bake.Event{What: bake.Done, Task: 2})
	assert.Equal(t, 3, p.At(s))
	assert.True(t, p.Out.IsZero())
}

// Handbook figures of cooling, practice: cups half an hour, a loaf an hour, without gluten or dense two.
func TestWhenItMayBeCut(t *testing.T) {
	for _, c := range []struct {
		file  string
		diets []diet.ID
		want  float64
	}{
		{"1-pear-cardamom-loaf.txt", nil, 60}, {"1-pear-cardamom-loaf.txt", []diet.ID{diet.GlutenFree}, 120}, {"8-almond-orange-cake.txt", nil, 120},
		{"2-carrot-hazelnut-ring.txt", nil, 80}, // 20 in the tin, then till it is cold: an hour
	} {
		assert.Equal(t, c.want, sheetOf(t, c.file, c.diets...).CutAfter(lib), c.file)
	}
	kind := func(k recipe.Kind, tins ...string) float64 {
		r := &recipe.Recipe{Kind: k, Lines: []recipe.Line{{ID: 1, Ingredient: "plain-flour", Grams: 100}}}
		for _, name := range tins {
			x, ok := tin.Parse(name)
			require.True(t, ok)
			r.Tins = append(r.Tins, x)
		}
		return bake.Sheet{Recipe: r}.CutAfter(lib)
	}
	assert.Equal(t, 30.0, kind(recipe.QuickBread, "12 muffin cups"))
	assert.Equal(t, 15.0, kind(recipe.Scone))
	assert.Equal(t, 120.0, kind(recipe.FruitCake))
}

// What only remarks, and looks, are no task to press through.
func TestRemarksAreNoTasks(t *testing.T) {
	s := bake.Sheet{Recipe: &recipe.Recipe{}, Tasks: []method.Task{{Verb: method.Remark}, {Verb: method.Mix}, {Verb: method.Test}, {Verb: method.Remark}, {Verb: method.Cool}}}
	p, _ := fold(s)
	assert.Equal(t, 1, p.At(s))
	assert.Equal(t, []int{4}, p.After(s, 1, 3))
	p, _ = fold(s, bake.Event{What: bake.Done, Task: 1}, bake.Event{What: bake.Done, Task: 4})
	assert.Equal(t, -1, p.At(s))
	assert.Empty(t, p.After(s, 0, 3))
}

func TestWhatIsSaidOfABake(t *testing.T) {
	s := loaf(t)
	j := func(key string, value float64, text string) bake.Event {
		return bake.Event{What: bake.Judge, Key: key, Value: value, Text: text}
	}
	p, _ := fold(s, j("symptom:low", 1, ""), j("symptom:gummy", 1, ""), j("symptom:low", 0, ""), j("symptom:dry", 1, ""), j("overall", 9, ""), j("height", 7.5, ""), j("cooled", 2, ""),
		j("words", 0, "nobody could tell"), j("answer:cut-warm", 1, ""), j("answer:wet", 0, ""), j("humming", 3, ""),
		j("helped:low", 1, ""), j("helped:wet", 0, ""), j("tried", 0, "stiff"))
	assert.Equal(t, []string{"dry", "gummy"}, p.Judged.Symptoms)
	assert.Equal(t, map[string]bool{"cut-warm": true, "wet": false}, p.Judged.Answers)
	assert.Equal(t, 4, p.Judged.Overall, "no more than there is")
	assert.Equal(t, map[string]bool{"low": true, "wet": false}, p.Judged.Helped)
	assert.Equal(t, "stiff", p.Judged.Tried)
	assert.Equal(t, 7.5, p.Judged.Height)
	assert.Equal(t, 2.0, p.Judged.Cooled)
	assert.Equal(t, "nobody could tell", p.Judged.Words)
	assert.Equal(t, at(13), p.Judged.At)
	p, _ = fold(s, j("overall", -2, ""))
	assert.Zero(t, p.Judged.Overall)
}

// By hand: where soda, powder, acid and water meet, by which bowl they lie in.
func TestWhereTheyMeet(t *testing.T) {
	foods := []larder.ID{"", "plain-flour", "baking-soda", "baking-powder", "lemon-juice", "water", "raisins"}
	r := &recipe.Recipe{Kind: recipe.QuickBread}
	for id, f := range foods {
		if id > 0 {
			r.Lines = append(r.Lines, recipe.Line{ID: recipe.LineID(id), Ingredient: f, Grams: 50})
		}
	}
	const flour, soda, powder, lemon, water, raisins = 1, 2, 3, 4, 5, 6
	task := func(v method.Verb, lines ...recipe.LineID) method.Task {
		x := method.Task{Verb: v}
		for _, l := range lines {
			x.Uses = append(x.Uses, method.Use{Line: l, Share: 1})
		}
		return x
	}
	for _, c := range []struct {
		name    string
		tasks   []method.Task
		at      int
		minutes float64
		why     string
	}{
		{"soda and water, no acid: as powder", []method.Task{task(method.Mix, flour, soda), task(method.Beat, water), task(method.Mix), task(method.Bake)}, 2, 15, "powder"},
		{"powder and acid", []method.Task{task(method.Mix, flour, powder), task(method.Beat, water, lemon), task(method.Mix), task(method.Bake)}, 2, 15, "powder"},
		{"soda and acid", []method.Task{task(method.Beat, water, lemon), task(method.Mix, flour, soda), task(method.Fold, raisins), task(method.Bake)}, 2, 5, "Soda"},
		{"all in one bowl, fruit after", []method.Task{task(method.Beat, flour, powder, water), task(method.Fold, raisins), task(method.Bake)}, 0, 15, "powder"},
		{"soda and acid in one bowl", []method.Task{task(method.Mix, flour, soda, lemon, water), task(method.Fold, raisins), task(method.Bake)}, 0, 5, "Soda"},
		{"dry last, stirred in", []method.Task{task(method.Beat, water), task(method.Mix, flour, powder), task(method.Bake)}, 1, 15, "powder"},
		{"nothing lifts", []method.Task{task(method.Mix, flour, water), task(method.Bake)}, -1, 0, ""},
		{"not baked", []method.Task{task(method.Mix, flour, soda, lemon)}, -1, 0, ""},
	} {
		at, minutes, why := bake.Sheet{Recipe: r, Tasks: c.tasks}.Working(lib)
		assert.Equal(t, c.at, at, c.name)
		if c.at >= 0 {
			assert.Equal(t, c.minutes, minutes, c.name)
			assert.Contains(t, why, c.why, c.name)
		}
	}
}
