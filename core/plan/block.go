package plan

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"kollaris/core/method"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
	"kollaris/core/yeast"
)

// step is a task in a block: hands first, then what waits.
type step struct {
	todo
	at    int // minutes from the block's beginning
	hands int
	wait  int
	heat  int // minutes the oven is heated before, for a bake; 0 for none
}

func (s step) end() int { return s.at + s.hands + s.wait }

// block is what is done in one go, since none of it may stand long.
type block struct {
	bake  int
	steps []step
	size  int  // minutes from the first hands to the end of the last wait
	keeps int  // minutes that its result may wait for the next block, or for the meal
	runs  bool // it is begun and may not stand: it goes on at once
}

// apart is how long the result of a task must keep for a pause to be made after it, minutes.
// Source: practice.
const apart = 60

// inItsTin is how long a bake keeps in its tin, minutes. Source: practice, overnight under a cloth.
const inItsTin = 720

// stood is from how many minutes of standing another few hours do no harm. Source: practice, what stands
// overnight.
const stood = 240

// dayBefore tells what the writer does the day before, and overNight how long that may stand then, night how long at least,
// minutes. Source: practice.
var dayBefore = pattern.Must(`(?i)\b(?:the (?:night|evening|day) before|(?:a|one) day (?:before|ahead|in advance)|overnight)\b`)

const overNight, night = 16 * 60, 8 * 60

// todo is a task of a bake that is to be placed.
type todo struct {
	task    method.Task
	key     string
	keeps   int       // minutes its result keeps
	baked   bool      // it is done with what has been baked
	preheat int       // minutes the oven is heated for it, where the writer says so; 0 for what it takes
	done    time.Time // when its hands were done, zero for not yet
}

// todos are the tasks of a bake as they are to be placed, with how it is eaten.
func (b *Bake) todos(n int, done map[string]time.Time) []todo {
	var out []todo
	for at, t := range b.Tasks {
		if t.Verb.Is(method.Afterwards) || t.Verb == method.Heat {
			continue // the oven is heated with the bake
		}
		u, _ := method.Usuals(t.Verb)
		keeps := int(u.Keeps)
		if t.Verb == method.Rest && t.Wait.Max >= stood {
			keeps = max(keeps, stood)
		}
		if dayBefore.MatchString(t.Written) {
			keeps = max(keeps, overNight)
			if t.Wait.Max < night && !strings.Contains(strings.ToLower(t.Written), "overnight") {
				t.Wait.Min, t.Wait.Max = night, night
			}
		}
		one := todo{task: t, key: fmt.Sprintf("%d.%d", n, at), keeps: keeps}
		if heat := heating(b.Tasks, t); t.Oven > 0 && heat.Wait.Source == method.Written {
			one.preheat = minutes(heat.Wait.Max)
		}
		out = append(out, one)
	}
	for at := range out[:max(0, len(out)-1)] { // left in its tin it keeps, unless it has to come out of it
		if next := out[at+1].task.Verb; out[at].task.Verb == method.CoolTin && next != method.Cool {
			out[at].keeps = max(out[at].keeps, inItsTin)
		}
	}
	out = b.served(n, b.retarded(out))
	baked := false
	for at := range out {
		out[at].baked = baked
		baked = baked || out[at].task.Verb == method.Bake
	}
	for at := range out {
		out[at].done = done[out[at].key]
	}
	return out
}

// heats ends the key of the task by which a bake's oven is heated.
const heats = "h"

// stepsOf gives the tasks of a bake their minutes.
func stepsOf(todos []todo, k Kitchen, full int) []step {
	var out []step
	for _, t := range todos {
		s := step{todo: t, hands: minutes(t.task.Hands.Max), wait: minutes((t.task.Wait.Min + t.task.Wait.Max) / 2)}
		switch t.task.Verb {
		case method.Prove:
			if k.Room > 0 && t.task.Where != method.Fridge {
				s.wait = minutes(float64(s.wait) * yeast.Pace(k.Room, yeast.Usual))
			}
		case method.Mature:
			s.wait = minutes(t.task.Wait.Min)
		case method.Bake, method.BakeBlind:
			s.wait, s.heat = minutes(t.task.Wait.Max)+full, max(preheat(k.Ovens), t.preheat)
			if lit, ok := k.Done[t.key+heats]; ok { // it is being heated already
				s.heat = min(s.heat, max(1, s.heat-int(k.Now.Sub(lit)/time.Minute)))
			}
		}
		out = append(out, s)
	}
	return out
}

// blocksOf binds the tasks of a bake into blocks; full is how many minutes longer it bakes
// since another is in the oven with it.
func blocksOf(bake int, todos []todo, k Kitchen, full int) []*block {
	var out []*block
	var b *block
	batter := false // there is one, which an aside does not part from what follows
	for _, s := range longFirst(stepsOf(todos, k, full)) {
		if b == nil && batter && isAside(s) && out[len(out)-1].keeps < fresh {
			b = out[len(out)-1]
		}
		batter = batter || !isAside(s)
		if b == nil {
			b = &block{bake: bake}
			out = append(out, b)
		}
		b.steps = append(b.steps, s)
		u, _ := method.Usuals(s.task.Verb)
		beside := b.lay(k.Now)
		b.keeps = b.stands()
		if b.keeps >= apart && !s.task.AtOnce && !u.Bound && (!isSideways(s) || s.wait >= apart) && !beside {
			b = nil // it may stand: the next begins a block of its own
		}
	}
	for _, b := range out {
		b.steps = slices.DeleteFunc(b.steps, func(s step) bool { return !s.done.IsZero() })
	}
	return slices.DeleteFunc(out, func(b *block) bool { return len(b.steps) == 0 })
}

// fresh is how long a batter keeps that may wait for what is prepared beside it, minutes. Source:
// practice, chilled dough and what is baked.
const fresh = 1440

// longFirst puts what stands long beside the batter, a soak for instance, before it, wherever the
// method has it, unless it takes what was made.
func longFirst(steps []step) []step {
	var first, rest []step
	used := map[recipe.LineID]bool{}
	for _, s := range steps {
		made := len(s.task.Takes) > 0 || slices.ContainsFunc(s.task.Uses, func(u method.Use) bool { return used[u.Line] })
		for _, u := range s.task.Uses {
			used[u.Line] = true
		}
		if isSideways(s) && s.wait >= apart && !made {
			first = append(first, s)
		} else {
			rest = append(rest, s)
		}
	}
	return append(first, rest...)
}

// stands is how long all that a block has made may stand when it is over, minutes: the batter as its last task left
// it, and what was prepared since beside it. A tin that is lined keeps no dough from rising.
func (b *block) stands() int {
	least := -1
	for n := len(b.steps) - 1; n >= 0; n-- {
		s := b.steps[n]
		left := s.keeps // when the block is over
		if s.done.IsZero() {
			left = max(0, s.keeps-(b.size-s.end()))
		}
		if least < 0 || left < least {
			least = left
		}
		if !isAside(s) {
			break
		}
	}
	return least
}

func isAside(s step) bool { return !s.baked && s.task.Verb.Is(method.Aside) }

func isSideways(s step) bool {
	return s.task.Verb.Is(method.Sideways) && (len(s.task.Uses) > 0 || s.task.Makes != "" || s.task.Step < 0 || s.wait < apart)
}

// lay gives the steps of a block their times: the hands follow each other in the method's order,
// and what waits by itself waits beside them. What is done already holds up the rest only as long
// as it still waits. It tells whether something waits beside for longer than the last step takes.
func (b *block) lay(now time.Time) (beside bool) {
	made := map[string]int{}         // product → when it is ready, in the block
	lines := map[recipe.LineID]int{} // line → when what is done with it is ready
	free, holds := 0, 0              // when the hands are free, and the batter itself is ready for the next task
	b.size, b.runs = 0, false
	for n := range b.steps {
		s, ready := &b.steps[n], 0
		if s.done.IsZero() {
			s.at = max(free, holds)
			for _, of := range s.task.Takes {
				s.at = max(s.at, made[of])
			}
			for _, u := range s.task.Uses {
				s.at = max(s.at, lines[u.Line])
			}
			free, ready = s.at+s.hands, s.end()
			b.size = max(b.size, ready)
		} else {
			ready = max(0, int(s.done.Add(time.Duration(s.wait)*time.Minute).Sub(now)/time.Minute))
			b.runs = s.keeps < apart || ready > 0 && s.wait > 0
		}
		if isSideways(*s) {
			made[s.task.Makes] = ready
			for _, u := range s.task.Uses {
				lines[u.Line] = ready
			}
		} else {
			holds = ready
		}
		beside = b.size > max(ready, free)
	}
	return beside
}

// Wash is the verb of the cleaning between two bakes that must not meet.
const Wash method.Verb = "wash"

// washing is how long that cleaning takes, minutes. Source: practice, 5 to 15 and the cloth.
const washing = 15

// washTin is how long a tin is washed and dried for another bake, minutes. Source: practice.
const washTin = 10

// cleaned are the blocks of a bake before which all is cleaned.
func cleaned(parts []*block) []*block {
	at := slices.IndexFunc(parts, (*block).soils)
	if at < 0 {
		return parts
	}
	first := *parts[at]
	first.steps = []step{{
		todo: todo{
			key: fmt.Sprintf("%d.wash", first.bake),
			task: method.Task{
				Verb: Wash, Text: "Wash bowls, tins, boards and hands; fresh paper and cloth.", Where: "counter", Step: -1, Inferred: true,
			},
		},
		hands: washing,
	}}
	for _, s := range parts[at].steps {
		s.at += washing
		first.steps = append(first.steps, s)
	}
	first.size += washing
	out := slices.Clone(parts)
	out[at] = &first
	return out
}

// soils reports whether a block has to do with more than what stands by itself.
func (b *block) soils() bool {
	return slices.ContainsFunc(b.steps, func(s step) bool { return !s.task.Verb.Is(method.Harmless) })
}

// inOven is when the last of a block that is baked is in the oven, minutes from its beginning; 0
// where nothing is baked.
func (b *block) inOven() int {
	for n := len(b.steps) - 1; n >= 0; n-- {
		if s := b.steps[n]; s.heat > 0 {
			return s.at + s.hands
		}
	}
	return 0
}

// inTin is from when to when a block has the tin, minutes from its beginning; false where nothing
// in it is baked. Filled, baked and cooled in it, and washed.
func (b *block) inTin() (from, to int, ok bool) {
	from = -1
	for _, s := range b.steps {
		switch {
		case from < 0 && (s.task.Verb == method.Line || s.task.Verb == method.Fill || s.heat > 0):
			from = s.at
		}
		if s.heat > 0 || ok && s.task.Verb == method.CoolTin {
			to, ok = s.end()+washTin, true
		}
	}
	return from, to, ok
}

// inBowl is from when to when a block has a bowl, minutes from its beginning: till the tin is
// filled, or the block is over.
func (b *block) inBowl() (from, to int, ok bool) {
	for _, s := range b.steps {
		if !ok && s.task.Verb.Is(method.Combines) {
			from, to, ok = s.at, b.size, true
		}
		if ok && (s.task.Verb == method.Fill || s.heat > 0) {
			return from, s.at, true
		}
	}
	return from, to, ok
}

// preheat is the longest that one of the ovens takes to be hot.
func preheat(ovens []Oven) int {
	most := 0
	for _, o := range ovens {
		most = max(most, o.hot())
	}
	return most
}

// hot is how long the oven takes to be hot, minutes.
func (o Oven) hot() int {
	if o.Preheat <= 0 {
		return UsualPreheat
	}
	return o.Preheat
}

// length is how long the blocks of a bake take in all.
func length(parts []*block) int {
	sum := 0
	for _, b := range parts {
		sum += b.size
	}
	return sum
}
