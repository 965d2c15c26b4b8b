package plan

import (
	"slices"

	"kollaris/core/method"
	"kollaris/core/recipe"
	"kollaris/core/yeast"
)

// step is a task in a block: hands first, then what waits.
type step struct {
	task  method.Task
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
	size  int // minutes from the first hands to the end of the last wait
	keeps int // minutes that its result may wait for the next block, or for the meal
}

// apart is how long the result of a task must keep for a pause to be made after it, minutes.
// Source: practice.
const apart = 60

// sideways are the verbs whose wait does not hold up the next task: it is done meanwhile.
var sideways = []method.Verb{
	method.Gel, method.Soak, method.Sour, method.Toast, method.Soften, method.Drain, method.Bloom, method.ChillFat,
}

// afterwards are the verbs of what is done when it has been eaten, or with what is left.
var afterwards = []method.Verb{method.Store, method.Wrap, method.Freeze, method.Thaw, method.Feed, method.Remark}

// blocksOf binds the tasks of a bake into blocks.
func blocksOf(bake int, tasks []method.Task, k Kitchen) []*block {
	var out []*block
	var b *block
	free := 0                        // when the hands are free, in the block
	made := map[string]int{}         // product → when it is ready, in the block
	lines := map[recipe.LineID]int{} // line → when what is done with it is ready
	start := func() {
		b, free = &block{bake: bake}, 0
		made, lines = map[string]int{}, map[recipe.LineID]int{}
		out = append(out, b)
	}
	holds := 0 // when the batter itself is ready for the next task
	for _, t := range tasks {
		if slices.Contains(afterwards, t.Verb) || t.Verb == method.Heat {
			continue // the oven is heated with the bake
		}
		if b == nil {
			start()
			holds = 0
		}
		s := step{task: t, at: max(free, holds), hands: minutes(t.Hands.Max), wait: minutes((t.Wait.Min + t.Wait.Max) / 2)}
		for _, of := range t.Takes {
			s.at = max(s.at, made[of])
		}
		for _, u := range t.Uses {
			s.at = max(s.at, lines[u.Line])
		}
		if t.Verb == method.Prove && k.Room > 0 && t.Where != method.Fridge {
			s.wait = minutes(float64(s.wait) * yeast.Pace(k.Room, yeast.Usual))
		}
		if t.Verb == method.Bake || t.Verb == method.BakeBlind {
			s.wait, s.heat = minutes(t.Wait.Max), preheat(k.Ovens)
		}
		b.steps = append(b.steps, s)
		free = s.at + s.hands
		b.size = max(b.size, s.end())
		u, _ := method.Usuals(t.Verb)
		side := slices.Contains(sideways, t.Verb)
		if side {
			made[t.Makes] = s.end()
			for _, u := range t.Uses {
				lines[u.Line] = s.end()
			}
		} else {
			holds = s.end()
		}
		keeps := int(u.Keeps)
		b.keeps = keeps
		if keeps >= apart && !t.AtOnce && !u.Bound && !(side && s.wait < apart) {
			b = nil // it may stand: the next begins a block of its own
		}
	}
	return out
}

// Wash is the verb of the cleaning between two bakes that must not meet.
const Wash method.Verb = "wash"

// washing is how long that cleaning takes, minutes. Source: practice, 5 to 15 and the cloth.
const washing = 15

// cleaned are the blocks of a bake before which all is cleaned.
func cleaned(parts []*block) []*block {
	if len(parts) == 0 {
		return parts
	}
	first := *parts[0]
	first.steps = []step{{
		task: method.Task{
			Verb: Wash, Text: "Wash bowls, tins, boards and hands; fresh paper and cloth.", Where: "counter", Step: -1, Inferred: true,
		},
		hands: washing,
	}}
	for _, s := range parts[0].steps {
		s.at += washing
		first.steps = append(first.steps, s)
	}
	first.size += washing
	return append([]*block{&first}, parts[1:]...)
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

// preheat is the longest that one of the ovens takes to be hot.
func preheat(ovens []Oven) int {
	most := 0
	for _, o := range ovens {
		p := o.Preheat
		if p <= 0 {
			p = UsualPreheat
		}
		most = max(most, p)
	}
	return most
}

// length is how long the blocks of a bake take in all.
func length(parts []*block) int {
	sum := 0
	for _, b := range parts {
		sum += b.size
	}
	return sum
}
