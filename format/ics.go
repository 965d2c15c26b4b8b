package format

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"

	ics "github.com/arran4/golang-ical"

	"kollaris/core/plan"
)

// alarmBefore is how long before a task a calendar reminds of it, minutes.
const alarmBefore = 5

// Calendar writes a plan as an iCalendar file (RFC 5545): an event with an alarm for each task
// of hands. names are the bakes'. The ids are made of the plan's id, the bake and the task, so
// that a later file with a greater sequence moves the events of an earlier one.
func Calendar(id string, names []string, p *plan.Plan, sequence int, now time.Time) []byte {
	cal := ics.NewCalendarFor("Kollaris")
	cal.SetMethod(ics.MethodPublish)
	seen := map[string]int{}
	for _, t := range p.Tasks {
		if !t.Hands.After(t.From) {
			continue
		}
		key := fmt.Sprintf("%s|%d|%s|%s", id, t.Bake, t.Verb, t.Written)
		seen[key]++
		sum := sha256.Sum256([]byte(fmt.Sprintf("%s|%d", key, seen[key])))
		e := cal.AddEvent(hex.EncodeToString(sum[:12]) + "@kollaris")
		name := ""
		if t.Bake < len(names) {
			name = names[t.Bake] + ": "
		}
		e.SetSummary(oneLine(name + t.Text))
		if t.To.After(t.Hands) {
			e.SetDescription("Ready at " + t.To.Format("15:04") + ".")
		}
		if t.Oven != "" {
			e.SetLocation(t.Oven)
		}
		e.SetSequence(sequence)
		e.SetDtStampTime(now)
		e.SetStartAt(t.From)
		e.SetEndAt(t.Hands)
		a := e.AddAlarm()
		a.SetAction(ics.ActionDisplay)
		a.SetDescription(oneLine(t.Text))
		a.SetTrigger(fmt.Sprintf("-PT%dM", alarmBefore))
	}
	return []byte(cal.Serialize())
}
