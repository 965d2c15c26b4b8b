package plan

import (
	"fmt"
	"strings"

	"kollaris/core/phrase"
)

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
