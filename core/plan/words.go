package plan

import (
	"fmt"
	"strings"
	"time"

	"kollaris/core/method"
	"kollaris/core/phrase"
)

// instead are the ways to win time on a task, with what they cost. Source: practice.
var instead = map[method.Verb]string{
	method.Soak:    "Simmer the fruit for 10 minutes instead and let it cool an hour: softer, less plump.",
	method.Prove:   "Prove it warmer (30 °C) or with half as much yeast again: about half the time, less taste.",
	method.Bake:    "Bake it as cups: about a third of the time.",
	method.Cool:    "Eat it warm: it crumbles when it is cut, and a gluten-free one gums.",
	method.Mature:  "Eat it the same day: it is drier and cuts less well.",
	method.Chill:   "Freeze the dough a third of the time, flat: turn it once.",
	method.Soften:  "Cut the butter small, or beat it with a warm whisk: 20 minutes.",
	method.CoolTin: "Turn it out early onto a cloth, with care.",
}

// waysOut are the ways for a task that is late.
func waysOut(t Placed, by int, ready time.Time) []string {
	var out []string
	if w := instead[t.Verb]; w != "" {
		out = append(out, w)
	}
	return append(out, fmt.Sprintf("Eat it %s later, at %s.", long(by), ready.Add(time.Duration(by)*time.Minute).Format("15:04")))
}

// long writes minutes as people say them: "40 min", "1 h 30", "3 days".
func long(m int) string {
	switch {
	case m < 60:
		return fmt.Sprintf("%d min", m)
	case m >= 48*60:
		return fmt.Sprintf("%d days", (m+12*60)/(24*60))
	case m%60 == 0:
		return fmt.Sprintf("%d h", m/60)
	}
	return fmt.Sprintf("%d h %02d", m/60, m%60)
}

// Long writes minutes as people say them.
func Long(m int) string { return long(m) }

func clip(s string) string { return phrase.Clip(s, 40) }

// orderWords says which bake comes before which, and why.
func orderWords(bakes []Bake) string {
	var out []string
	for n, b := range bakes {
		var before []string
		for _, m := range b.Before {
			if m != n && m < len(bakes) {
				before = append(before, bakes[m].Name)
			}
		}
		if len(before) > 0 {
			out = append(out, b.Name+" before "+phrase.And(before))
		}
	}
	if len(out) == 0 {
		return ""
	}
	return phrase.Capital(strings.Join(out, "; ")) + ": on clean tools, since what comes after holds what the first one’s eaters must not have."
}
