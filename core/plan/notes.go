package plan

import (
	"fmt"
	"slices"
	"time"

	"kollaris/core/method"
)

// fed are the days after the bake on which it is fed. Source: practice.
var fed = []int{1, 3, 7, 14, 21}

const day = 24 * time.Hour

// notes adds what is done on a day without an hour: a jar that stands for days is shaken daily,
// what is fed is fed on its days.
func (p *Plan) notes(bakes []Bake) {
	for _, t := range p.Tasks {
		switch t.Verb {
		case method.Soak:
			for n, on := 1, t.Hands.Add(day); t.To.Sub(on) > day/4; n, on = n+1, on.Add(day) {
				p.Notes = append(p.Notes, Note{t.Bake, fmt.Sprintf("%s.shake%d", t.Key, n), on, "Shake the jar."})
			}
		case method.Bake:
			for _, of := range bakes[t.Bake].Tasks {
				if of.Verb != method.Feed {
					continue
				}
				for _, n := range fed {
					if on := t.To.Add(time.Duration(n) * day); on.Before(bakes[t.Bake].Ready.Add(-day / 4)) {
						p.Notes = append(p.Notes, Note{t.Bake, fmt.Sprintf("%s.feed%d", t.Key, n), on, of.Text})
					}
				}
			}
		}
	}
	slices.SortStableFunc(p.Notes, func(a, b Note) int { return a.On.Compare(b.On) })
}
