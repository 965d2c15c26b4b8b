package plan

import (
	"fmt"

	"kollaris/core/adapt"
	"kollaris/core/method"
	"kollaris/core/oven"
	"kollaris/core/tin"
)

// Bakes are the bakes of predicted results, by their names: their tasks, tins and how long they
// stay fresh, which come before which, and which clash. None is refused.
func Bakes(names []string, results []*adapt.Result, kit adapt.Kit) []Bake {
	var out []Bake
	before, clash := adapt.Orders(results, kit)
	for n, res := range results {
		life := res.Life(kit.Larder)
		b := Bake{Name: names[n], Tasks: res.Method, Before: before[n]}
		if b.Fresh = life.Room.Min * 24 * 60; b.Fresh == 0 {
			b.Fresh = life.Fridge.Min * 24 * 60
		}
		if res.Bake != nil && res.Bakes != nil {
			t := res.Bake.Fill.Tin
			if t.Shape != tin.Free {
				b.Tin = t.Name
			}
			length, width := t.Footprint()
			held := float64(t.Holders())
			b.Room = [2]float64{held*(length+air) - air, width}
			if len(results) > 1 {
				full := res.Bakes.Yours
				full.Setup.Full = true
				if e, err := oven.Foretell(res.Bakes.Written, full); err == nil {
					b.Full = max(1, minutes(e.High-res.Bake.High))
				}
			}
		}
		out = append(out, b)
	}
	for _, x := range clash {
		out[x[0]].Clash, out[x[1]].Clash = append(out[x[0]].Clash, x[1]), append(out[x[1]].Clash, x[0])
	}
	return out
}

// ClashWords say which bakes harm each other's eaters.
func ClashWords(bakes []Bake) (out []string) {
	for n, b := range bakes {
		for _, m := range b.Clash {
			if m > n {
				out = append(out, fmt.Sprintf("%s and %s each hold what the other’s eaters must not: all is washed between them, or bake one another day.", b.Name, bakes[m].Name))
			}
		}
	}
	return out
}

// Counts is how many there are of what bakes share; 0 of any for as many as are wanted.
type Counts struct {
	Tins   int // of one kind
	Bowls  int // for mixing
	Fridge int // bowls or trays that it has room for
	Hob    int // rings
	Warm   int // bowls or tins that the warm place has room for
}

// Has is what is counted, for Kitchen.Has. There is one microwave.
func (c Counts) Has(bakes []Bake) map[string]int {
	out := map[string]int{string(method.Microwave): 1}
	for what, n := range map[string]int{bowls: c.Bowls, string(method.Fridge): c.Fridge, string(method.Hob): c.Hob, string(method.Warm): c.Warm} {
		if n > 0 {
			out[what] = n
		}
	}
	for _, b := range bakes {
		if b.Tin != "" && c.Tins > 0 {
			out[tinOf(b.Tin)] = c.Tins
		}
	}
	return out
}

// Shape is how the methods of some bakes read, by which a kept plan sees that its ticks still mean
// the same tasks.
func Shape(bakes []Bake) string {
	s := ""
	for _, b := range bakes {
		for _, t := range b.Tasks {
			s += string(t.Verb) + " "
		}
		s += "; "
	}
	return s
}
