package table

import (
	"errors"
	"fmt"
	"runtime"
	"slices"
	"sync"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
)

// State is how a recipe stands to a person.
type State string

// The states, best first.
const (
	Fits    State = "fits"    // as it is written
	Label   State = "label"   // as it is written, after reading a label
	Changes State = "changes" // adapted
	No      State = "no"
)

// Words are the state as the table prints it.
func (s State) Words() string {
	return map[State]string{Fits: "fits as it is", Label: "read a label", Changes: "with changes", No: "no"}[s]
}

// Cell is a recipe and a person.
type Cell struct {
	State   State
	Why     []string // what breaks, or what label to read
	Changes []string // what would be changed: "2 eggs → flax gel"
	Result  *adapt.Result
}

// Written judges a recipe as it is written, without adapting.
func Written(r *recipe.Recipe, d diet.Demand, kit adapt.Kit) (State, []string) {
	return written(r, d, adapt.Unlisted(r, d, kit.Larder), kit)
}

// Kept judges a version as it was kept: by its lines, and by the method that was written for it.
func Kept(res *adapt.Result, d diet.Demand, kit adapt.Kit) (State, []string) {
	r := res.Recipe.Clone()
	if len(res.Method) > 0 {
		r.Steps = nil
		for _, t := range res.Method {
			r.Steps = append(r.Steps, recipe.Step{Text: t.Text})
		}
	}
	return Written(r, d, kit)
}

func written(r *recipe.Recipe, d diet.Demand, unlisted []string, kit adapt.Kit) (State, []string) {
	state, why := holds(r, d, kit)
	for _, name := range unlisted {
		state = No
		why = append(why, fmt.Sprintf("the method speaks of %s, which no line lists", name))
	}
	return state, why
}

// holds judges a recipe by its lines alone.
func holds(r *recipe.Recipe, d diet.Demand, kit adapt.Kit) (State, []string) {
	state := Fits
	var why, labels []string
	for _, u := range d.Unread {
		state = No
		why = append(why, fmt.Sprintf("“%s” is not understood: say under People what is meant", u))
	}
	for _, u := range d.Unknowns() {
		labels = append(labels, fmt.Sprintf("“%s” is not known here: read every label for it", u))
	}
	for _, l := range r.Lines {
		i := kit.Larder.Get(l.Ingredient)
		if i == nil || !l.Known {
			state = No
			why = append(why, fmt.Sprintf("“%s” is not understood: it could hold anything", l.Text))
			continue
		}
		switch v, reason := d.Judge(i); v {
		case diet.Breaks:
			state = No
			why = append(why, reason.Words())
		case diet.CheckLabel:
			labels = append(labels, reason.Words())
		}
	}
	for _, n := range adapt.Beside(r, d, kit.Larder) {
		state = No
		why = append(why, n.Words())
	}
	s := nutrition.Serving(r, kit.Larder)
	for _, l := range d.Limited() {
		if x := l.What.Of(s); !l.Keeps(x) {
			state = No
			why = append(why, fmt.Sprintf("%.1f %s %s a serving, over %g", x, l.What.Unit(), l.What.Words(), l.Max))
		}
		for _, g := range l.What.Gaps(r, kit.Larder) {
			if !g.Unread { // those stand there already
				state = No
				why = append(why, fmt.Sprintf("“%s” gives no amount: the %s cannot be told", g.Text, l.What.Words()))
			}
		}
	}
	if state == Fits && len(labels) > 0 {
		return Label, labels
	}
	return state, append(why, labels...)
}

// Look sets a recipe before a person: as it is, else adapted.
func Look(r *recipe.Recipe, d diet.Demand, kit adapt.Kit) (Cell, error) {
	unlisted := adapt.Unlisted(r, d, kit.Larder)
	state, why := written(r, d, unlisted, kit)
	c := Cell{State: state, Why: why}
	if state != No {
		return c, nil
	}
	res, err := adapt.Judged(r, adapt.Request{Diets: d.Diets, Bans: d.Bans, Limits: d.Limits}, kit)
	if err != nil {
		return c, err
	}
	c.Result = res
	if res.Refused != nil {
		c.Why = append(c.Why, res.Refused.Reason)
		return c, nil
	}
	for _, l := range res.Limits {
		if !l.Kept {
			c.Why = append(c.Why, l.Words)
			return c, nil
		}
	}
	if len(res.Recipe.Unknown()) > 0 || len(d.Unread) > 0 {
		return c, nil
	}
	c.State = Changes
	c.Changes = res.Swaps()
	for _, name := range unlisted {
		what := "another than the %s that only the method names"
		if slices.Contains(res.Verdict.Spoken, name) {
			what = "leave out the %s, which only the method names"
		}
		c.Changes = append(c.Changes, fmt.Sprintf(what, name))
	}
	for _, n := range res.Verdict.Beside {
		c.Changes = append(c.Changes, n.Words())
	}
	c.Why = append(c.Why, res.Verdict.Labels...)
	return c, nil
}

// Grid sets every recipe before every person, a row a recipe: people with the same
// demand share the answer, and recipes are looked at side by side.
func Grid(recipes []*recipe.Recipe, people []Person, kit adapt.Kit) ([][]Cell, error) {
	var demands []diet.Demand
	of := make([]int, len(people)) // person → demand
	for k, p := range people {
		d := p.Demand()
		if of[k] = slices.IndexFunc(demands, func(x diet.Demand) bool { return same(x, d) }); of[k] < 0 {
			of[k] = len(demands)
			demands = append(demands, d)
		}
	}
	cells := make([]Cell, len(recipes)*len(demands))
	err := sideBySide(len(cells), func(n int) (err error) {
		cells[n], err = Look(recipes[n/len(demands)], demands[n%len(demands)], kit)
		return err
	})
	rows := make([][]Cell, len(recipes))
	for n := range recipes {
		for k := range people {
			rows[n] = append(rows[n], cells[n*len(demands)+of[k]])
		}
	}
	return rows, err
}

// sideBySide does so many pieces of work, as many at once as there are processors.
func sideBySide(pieces int, work func(n int) error) error {
	errs := make([]error, pieces)
	var all sync.WaitGroup
	room := make(chan bool, runtime.GOMAXPROCS(0))
	for n := range pieces {
		room <- true
		all.Go(func() {
			defer func() {
				if broken := recover(); broken != nil { // here nobody else would catch it
					errs[n] = fmt.Errorf("place %d of the table: %v", n+1, broken)
				}
				<-room
			}()
			errs[n] = work(n)
		})
	}
	all.Wait()
	return errors.Join(errs...)
}
