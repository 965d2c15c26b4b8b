// Package plan counts backwards from when people eat: when each task of one or several bakes
// is done, by whom, in which oven, so that hands, ovens and nights are kept and what may not
// wait does not.
//
// The tasks of a bake stand in the order of its method. What may not stand long is bound into
// blocks (block.go), which are placed as late as they may, the last first; where one has to go
// earlier than the next may wait, the next goes earlier too. Every order of the bakes is tried
// while they are few, and the one that begins latest is taken. No clock is read here.
package plan

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"kollaris/core/measure"
	"kollaris/core/method"
)

// Bake is something to be ready at a time.
type Bake struct {
	Name  string
	Tasks []method.Task // with the bake foretold (method.Timed)
	Ready time.Time     // when it is eaten or fetched
	// Before are the bakes, by their place, that hold what this one's eaters must not have: it is in
	// the oven before they are begun, on clean tools.
	Before []int
	// Clash are the bakes that harm this one's eaters as it harms theirs: one comes after the
	// other, and between them all is cleaned. It stands on both sides.
	Clash []int
}

// Oven is one that may be used.
type Oven struct {
	Name    string
	Preheat int // minutes till it is hot; 0 for UsualPreheat
}

// UsualPreheat is how long an oven takes to be hot, minutes. Source: practice, 15 to 25.
const UsualPreheat = 20

// Kitchen is what there is to work with.
type Kitchen struct {
	Cooks int             // hands at a time; 0 is one
	Ovens []Oven          // none: one oven without a name
	Awake [2]string       // "06:00", "22:30": hands work between; empty for always
	Room  measure.Celsius // how warm it is where dough proves; 0 for yeast.Usual
	Now   time.Time       // nothing can begin before; zero for no such bound
}

// Placed is a task with its time.
type Placed struct {
	Bake int
	method.Task
	From  time.Time // hands begin
	Hands time.Time // and end
	To    time.Time // what waits is ready
	Oven  string    // it stands in, "" for none
}

// Late is a task that should have begun already.
type Late struct {
	Bake int
	method.Task
	By      int // minutes
	WaysOut []string
}

// Plan is a timetable.
type Plan struct {
	Tasks    []Placed // in order of From
	Begin    time.Time
	Ready    time.Time // the last bake's
	Busy     int       // minutes of hands in all
	Late     []Late    // what should have begun before now
	Broken   []string  // what waits longer than it should, in words
	Order    string    // why a bake comes first, "" where none has to
	Whole    bool      // every order of the bakes was tried
	Feasible bool      // nothing is late and nothing waits too long
}

// The bounds of what is planned.
const (
	Most    = 40           // bakes
	horizon = 21 * 24 * 60 // minutes back from the meal
	tryAll  = 5            // bakes whose every order is tried
)

// The errors of Make.
var (
	ErrNone    = errors.New("nothing to plan: name a recipe")
	ErrMany    = fmt.Errorf("that is more than %d bakes: plan them a day at a time", Most)
	ErrNoReady = errors.New("say when it is eaten: for instance 2026-12-05T09:00")
	ErrNoRoom  = errors.New("no room within three weeks: more waking hours, another oven or fewer bakes would do")
)

// Make plans bakes. An error says what would do.
func Make(bakes []Bake, k Kitchen) (*Plan, error) {
	switch {
	case len(bakes) == 0:
		return nil, ErrNone
	case len(bakes) > Most:
		return nil, ErrMany
	}
	awake, err := parseAwake(k.Awake)
	if err != nil {
		return nil, err
	}
	if len(k.Ovens) == 0 {
		k.Ovens = []Oven{{}}
	}
	end := bakes[0].Ready
	for _, b := range bakes {
		if b.Ready.IsZero() {
			return nil, ErrNoReady
		}
		if b.Ready.After(end) {
			end = b.Ready
		}
	}
	end = end.Truncate(time.Minute)
	var parts [][]*block
	for n, b := range bakes {
		parts = append(parts, blocksOf(n, b.Tasks, k))
	}
	best, whole := search(bakes, parts, k, awake, end)
	if best == nil {
		return nil, ErrNoRoom
	}
	p := best.plan(bakes, k, end)
	p.Whole, p.Order = whole, orderWords(bakes)
	return p, nil
}

// search tries the orders of the bakes; whole is false where there are too many to try.
func search(bakes []Bake, parts [][]*block, k Kitchen, awake [2]int, end time.Time) (best *board, whole bool) {
	order := make([]int, len(bakes))
	for n := range order {
		order[n] = n
	}
	slices.SortStableFunc(order, func(a, b int) int { return bakes[b].Ready.Compare(bakes[a].Ready) })
	try := func(order []int) {
		b := newBoard(k, awake, end)
		for at, n := range order {
			blocks, before := parts[n], slices.Clone(bakes[n].Before)
			for _, m := range bakes[n].Clash {
				switch {
				case slices.Contains(order[:at], m): // it stands after this one already
					before = append(before, m)
				case slices.Contains(order[at:], m) && m != n:
					blocks = cleaned(parts[n])
				}
			}
			if !b.place(blocks, minutesBack(end, bakes[n].Ready), b.dusty(before)) {
				return
			}
		}
		if best == nil || b.better(best) {
			best = b
		}
	}
	if len(bakes) > tryAll {
		try(lastFirst(bakes, order))
		slices.SortStableFunc(order, func(a, b int) int { return length(parts[b]) - length(parts[a]) })
		try(lastFirst(bakes, order))
		return best, false
	}
	permute(order, 0, func(o []int) {
		if slices.Equal(o, lastFirst(bakes, o)) {
			try(o)
		}
	})
	return best, true
}

// lastFirst is an order in which each bake is placed after those that it comes before, since
// what is placed last comes to stand first; where that goes in a circle the order stays.
func lastFirst(bakes []Bake, order []int) []int {
	var out []int
	for len(out) < len(order) {
		next := -1
		for _, n := range order {
			free := !slices.Contains(out, n) && !slices.ContainsFunc(bakes[n].Before, func(m int) bool { return m != n && m < len(bakes) && !slices.Contains(out, m) })
			if free {
				next = n
				break
			}
		}
		if next < 0 { // a circle
			next = order[slices.IndexFunc(order, func(n int) bool { return !slices.Contains(out, n) })]
		}
		out = append(out, next)
	}
	return out
}

// permute calls with every order of a list from a place on.
func permute(list []int, from int, with func([]int)) {
	if from >= len(list)-1 {
		with(slices.Clone(list))
		return
	}
	for n := from; n < len(list); n++ {
		list[from], list[n] = list[n], list[from]
		permute(list, from+1, with)
		list[from], list[n] = list[n], list[from]
	}
}

func minutesBack(end, t time.Time) int { return int(end.Sub(t.Truncate(time.Minute)) / time.Minute) }

// parseAwake reads the waking hours as minutes of the day; {0, 0} for always.
func parseAwake(s [2]string) (out [2]int, err error) {
	if s[0] == "" && s[1] == "" {
		return out, nil
	}
	for n, typed := range s {
		t, err := time.Parse("15:04", typed)
		if err != nil {
			return out, fmt.Errorf("“%s” is no hour of the day: try 06:00 to 22:30", typed)
		}
		out[n] = t.Hour()*60 + t.Minute()
	}
	if out[0] == out[1] {
		return [2]int{}, nil
	}
	return out, nil
}

// minutes rounds a time up to whole minutes.
func minutes(x float64) int { return int(math.Ceil(x - 1e-9)) }
