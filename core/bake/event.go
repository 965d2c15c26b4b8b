// Package bake follows what happens at the counter and in the oven.
//
// A bake is a list of events that only grows: a task is done, a line is in the bowl and weighs so
// much, it went into the oven, somebody looked. Its State is the fold of them, the same in whatever
// order they came in: a reload, two tablets and one that was without network agree. From the state
// and the Sheet (the recipe as it was begun) everything else follows: what is to be done now, what
// must be ready before, what is still to come when something weighs otherwise (package formula),
// which timers run, what a slip asks for. No clock is read here.
package bake

import (
	"cmp"
	"slices"
	"time"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// What is a kind of event.
type What string

// The events. Behind each, the fields of Event that it reads beside Bake.
const (
	Done       What = "done"        // Task: its hands are done
	Put        What = "in"          // Task, Line, Value g: that much of a line is in the bowl
	Weighs     What = "weighs"      // Line, Value g: it weighs that, made ready, before it goes in
	Spoon      What = "spoon"       // Line or Food, Value g: a spoonful more
	Stands     What = "stands"      // Text: how the batter stands, a Look of Consistency
	Slip       What = "slip"        // Text a SlipKind, Line or Food, Value g
	Scale      What = "scale"       // Value: all that is to come is made so many times as much
	TimerSet   What = "timer"       // Key, Text, Value minutes
	TimerMore  What = "more"        // Key, Value minutes
	TimerPause What = "pause"       // Key
	TimerGo    What = "go"          // Key
	TimerStop  What = "stop"        // Key
	Hot        What = "hot"         // the oven is hot
	Lined      What = "lined"       // the tin is lined
	WentIn     What = "went-in"     // Task: the tin is in the oven
	Seen       What = "look"        // Text: what is seen of it, a doneness.Look
	Probe      What = "probe"       // Value °C of the middle
	CameOut    What = "out"         // Task
	WeighedOut What = "weighed-out" // Value g of the bake, without its tin
	Judge      What = "judge"       // Key of what is judged (Judged), Value or Text
	Finish     What = "finish"      // the whole is over
	Undo       What = "undo"        // Key: the ID of an event that is taken back; of an undo, it stands again
)

// Whats lists them.
var Whats = []What{
	Done, Put, Weighs, Spoon, Stands, Slip, Scale, TimerSet, TimerMore, TimerPause, TimerGo, TimerStop, Hot, Lined,
	WentIn, Seen, Probe, CameOut, WeighedOut, Judge, Finish, Undo,
}

// Event is something that happened.
type Event struct {
	ID     string        `json:"id"` // given by who tells it: told twice, it happened once
	At     time.Time     `json:"at"` // by the server's clock
	Bake   int           `json:"bake"`
	What   What          `json:"what"`
	Task   int           `json:"task,omitempty"`
	Line   recipe.LineID `json:"line,omitempty"`
	Food   larder.ID     `json:"food,omitempty"`
	Key    string        `json:"key,omitempty"`
	Text   string        `json:"text,omitempty"`
	Value  float64       `json:"value,omitempty"`
	Who    string        `json:"who,omitempty"`
	Device string        `json:"device,omitempty"`
}

// standing are the events in their order, each once, without those that were taken back.
func standing(events []Event) []Event {
	events = slices.Clone(events)
	slices.SortStableFunc(events, func(a, b Event) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID), cmp.Compare(a.What, b.What), cmp.Compare(a.Value, b.Value))
	})
	seen, undoing := map[string]bool{}, map[string][]string{} // what is undone → by which
	once := events[:0]
	for _, e := range events {
		if seen[e.ID] {
			continue
		}
		seen[e.ID] = true
		if e.What == Undo {
			undoing[e.Key] = append(undoing[e.Key], e.ID)
		}
		once = append(once, e)
	}
	var stands func(id string, asked map[string]bool) bool
	stands = func(id string, asked map[string]bool) bool {
		if asked[id] {
			return true // it would undo itself
		}
		asked[id] = true
		defer delete(asked, id)
		return !slices.ContainsFunc(undoing[id], func(by string) bool { return stands(by, asked) })
	}
	return slices.DeleteFunc(once, func(e Event) bool { return e.What == Undo || !stands(e.ID, map[string]bool{}) })
}
