// Package plan counts backwards from when people eat: when each task of one or several bakes
// is done, by whom, in which oven, so that hands, ovens and nights are kept and what may not
// wait does not.
//
// The tasks of a bake stand in the order of its method. What may not stand long is bound into
// blocks (block.go), which are placed as late as they may, the last first; where one has to go
// earlier than the next may wait, the next goes earlier too. The order of the bakes is found by
// branch and bound (search.go): the one that begins latest is taken. No clock is read here.
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
	Clash  []int
	Serve  Serve      // how it is eaten
	Fresh  int        // minutes that it stays at its best; 0 for what its last task says
	Retard Retard     // which rise is made in the fridge
	Oven   string     // the oven it must have, by name; "" for any
	Tin    string     // what it is baked in, by name; "" not counted
	Room   [2]float64 // cm that its tins take of a shelf; zero not known, so that it shares no oven
	Full   int        // minutes longer that it bakes with another in the oven; 0 for a tenth
}

// heat is the heat of a bake's oven; false where it has none, or several.
func (b *Bake) heat() (measure.Celsius, bool) {
	var heat measure.Celsius
	for _, t := range b.Tasks {
		if t.Verb != method.Bake && t.Verb != method.BakeBlind {
			continue
		}
		if heat != 0 && t.Oven != heat {
			return 0, false
		}
		heat = t.Oven
	}
	return heat, heat > 0
}

// Oven is one that may be used.
type Oven struct {
	Name         string
	Preheat      int     // minutes till it is hot; 0 for UsualPreheat
	Width, Depth float64 // cm of a shelf; 0 not known, so that no two bakes share it
	Shelves      int     // used at once
}

// UsualPreheat is how long an oven takes to be hot, minutes. Source: practice, 15 to 25.
const UsualPreheat = 20

// Kitchen is what there is to work with.
type Kitchen struct {
	Cooks int             // hands at a time; 0 is one
	Ovens []Oven          // none: one oven without a name
	Awake [2]string       // "06:00", "22:30": hands work between; empty for always
	Away  []Away          // when nobody is there
	Room  measure.Celsius // how warm it is where dough proves; 0 for yeast.Usual
	Now   time.Time       // nothing can begin before; zero for no such bound
	// Has is how many there are of what is counted: "bowl", "tin " and a tin's name, a method.Place
	// such as "fridge" or "microwave"; what is not named is not counted.
	Has    map[string]int
	Done   map[string]time.Time // Placed.Key → when its hands were done
	Pins   map[string]time.Time // Placed.Key → when it begins at the latest
	Prefer []int                // the order of the bakes before, kept where it is as good

	quick bool // orders of whole bakes by rule only
}

// Placed is a task with its time.
type Placed struct {
	Bake int
	Key  string // by which it is known in Kitchen.Done and Pins
	method.Task
	From  time.Time // hands begin
	Hands time.Time // and end
	To    time.Time // what waits is ready
	Oven  string    // it stands in, "" for none
	With  []int     // the bakes in the oven with it
	Slack int       // minutes by which it may begin earlier, and what follows it at once with it
	Done  bool      // it has been done, at these times
	Block int       // tasks of one number follow each other at once; 0 for none
}

// Late is a task that should have begun already.
type Late struct {
	Bake int
	method.Task
	By      int // minutes
	WaysOut []string
}

// Way is a way out of a plan that cannot be kept, worked out.
type Way struct {
	Words string // what is done, and what it costs
	Late  int    // minutes that it is late even so
	Eat   time.Time
}

// Note is something for a day, without an hour: the jar is shaken, the cake is fed.
type Note struct {
	Bake int
	Key  string
	On   time.Time // some time of the day
	Text string
}

// Plan is a timetable.
type Plan struct {
	Tasks    []Placed // in order of From
	Notes    []Note   // in order of On
	Begin    time.Time
	Ready    time.Time // the last bake's
	Soonest  time.Time // when the last could be ready where it is late; zero otherwise
	Busy     int       // minutes of hands in all
	Late     []Late    // what should have begun before now
	Broken   []string  // what waits longer than it should, in words
	Ways     []Way     // out, the best first; none where it is feasible
	Order    string    // why a bake comes first, "" where none has to
	Sequence []int     // the order in which the bakes were placed
	Retarded []int     // the bakes of which the plan puts a rise into the fridge
	Whole    bool      // every order of the bakes was tried
	Feasible bool      // nothing is late and nothing waits too long

	behind int // minutes by which what is begun is late for what follows
}

// The bounds of what is planned.
const (
	Most    = 40           // bakes
	horizon = 21 * 24 * 60 // minutes back from the meal
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
	case slices.ContainsFunc(bakes, func(b Bake) bool { return b.Ready.IsZero() }):
		return nil, ErrNoReady
	}
	awake, err := parseAwake(k.Awake)
	if err != nil {
		return nil, err
	}
	if len(k.Ovens) == 0 {
		k.Ovens = []Oven{{}}
	}
	k.Now = k.Now.Truncate(time.Minute)
	p := made(bakes, k, awake)
	if p == nil {
		return nil, ErrNoRoom
	}
	if !p.Feasible {
		p.waysOut(bakes, k, awake)
		for n := range p.Late {
			for _, w := range p.Ways {
				p.Late[n].WaysOut = append(p.Late[n].WaysOut, w.Words)
			}
		}
	}
	return p, nil
}

// made is the plan of bakes; nil where there is no room.
func made(bakes []Bake, k Kitchen, awake [2]int) *Plan {
	end := slices.MaxFunc(bakes, func(a, b Bake) int { return a.Ready.Compare(b.Ready) }).Ready.Truncate(time.Minute)
	got := solve(bakes, k, awake, end)
	if got == nil {
		return nil
	}
	p := got.best.plan()
	p.Whole, p.Order, p.Sequence = got.whole, orderWords(bakes), got.order
	for n := range bakes {
		if got.bakes[n].Retard != bakes[n].Retard {
			p.Retarded = append(p.Retarded, n)
		}
	}
	p.Tasks = append(p.Tasks, got.finished...)
	slices.SortStableFunc(p.Tasks, func(a, b Placed) int { return a.From.Compare(b.From) })
	p.notes(bakes)
	if !k.Now.IsZero() {
		for _, t := range p.Tasks {
			if by := int(k.Now.Sub(t.From) / time.Minute); by > 0 && !t.Done {
				p.Late = append(p.Late, Late{t.Bake, t.Task, by, nil})
			}
		}
	}
	p.Feasible = len(p.Late) == 0 && len(p.Broken) == 0 && p.behind == 0
	return p
}

// by is how late a plan is, minutes.
func (p *Plan) by() int {
	most := p.behind
	for _, l := range p.Late {
		most = max(most, l.By)
	}
	return most
}

func minutesBack(end, t time.Time) int { return int(end.Sub(t.Truncate(time.Minute)) / time.Minute) }

// minutes rounds a time up to whole minutes.
func minutes(x float64) int { return int(math.Ceil(x - 1e-9)) }
