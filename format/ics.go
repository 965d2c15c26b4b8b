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
// of hands that is left, and one of the whole day for each note. names are the bakes'. The ids are made of the plan's id and the task's key, so
// that a later file with a greater sequence moves the events of an earlier one.
func Calendar(id string, names []string, p *plan.Plan, sequence int, now time.Time) []byte {
	cal := ics.NewCalendarFor("Kollaris")
	cal.SetMethod(ics.MethodPublish)
	for _, t := range p.Tasks {
		if !t.Hands.After(t.From) || t.Done {
			continue
		}
		e := cal.AddEvent(uid(id, t.Key))
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
	for _, n := range p.Notes {
		e := cal.AddEvent(uid(id, n.Key))
		name := ""
		if n.Bake < len(names) {
			name = names[n.Bake] + ": "
		}
		e.SetSummary(oneLine(name + n.Text))
		e.SetSequence(sequence)
		e.SetDtStampTime(now)
		e.SetAllDayStartAt(n.On)
		e.SetAllDayEndAt(n.On.AddDate(0, 0, 1))
		e.SetTimeTransparency(ics.TransparencyTransparent)
	}
	return []byte(cal.Serialize())
}

// uid is the id of a task's event.
func uid(plan, task string) string {
	sum := sha256.Sum256([]byte(plan + "|" + task))
	return hex.EncodeToString(sum[:12]) + "@kollaris"
}
