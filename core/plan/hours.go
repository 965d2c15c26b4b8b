package plan

import (
	"fmt"
	"strings"
	"time"

	"kollaris/core/pattern"
)

// Away is a stretch of the day on some weekdays in which nobody is there to work.
type Away struct {
	Days     [7]bool // by time.Weekday
	From, To int     // minutes of the day; To before From goes past midnight
}

// weekdays are the short names of the days, by time.Weekday.
var weekdays = []string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}

// awayForm is one stretch: "Mon-Fri 08:30-17:00", "Wed, Sat 18:00 to 20:00", "daily 12-13".
var awayForm = pattern.Must(`(?i)^\s*([a-z][a-z ,–-]*?)\s+(\d{1,2}(?:[:.]\d\d)?)\s*(?:-|–|to)\s*(\d{1,2}(?:[:.]\d\d)?)\s*$`)

// ParseAway reads the hours away by weekday, stretches with semicolons or lines between:
// "Mon-Fri 08:30-17:00; Sat 9-12". An error says what would do.
func ParseAway(s string) ([]Away, error) {
	var out []Away
	for _, one := range strings.FieldsFunc(s, func(r rune) bool { return r == ';' || r == '\n' }) {
		if strings.TrimSpace(one) == "" {
			continue
		}
		m := awayForm.FindStringSubmatch(one)
		if m == nil {
			return nil, awayFault(one)
		}
		days, ok := parseDays(m[1])
		from, ok2 := hourOf(m[2])
		to, ok3 := hourOf(m[3])
		if !ok || !ok2 || !ok3 || from == to {
			return nil, awayFault(one)
		}
		out = append(out, Away{days, from, to})
	}
	return out, nil
}

func awayFault(s string) error {
	return fmt.Errorf("“%s” are no hours away: try Mon-Fri 08:30-17:00, several with a semicolon between", clip(strings.TrimSpace(s)))
}

// parseDays reads "Mon-Fri", "Wed, Sat", "daily".
func parseDays(s string) (days [7]bool, ok bool) {
	s = strings.ToLower(strings.ReplaceAll(s, "–", "-"))
	switch strings.TrimSpace(s) {
	case "daily", "every day":
		return [7]bool{true, true, true, true, true, true, true}, true
	case "weekdays":
		s = "mon-fri"
	case "weekends":
		s = "sat,sun"
	}
	for _, part := range strings.FieldsFunc(s, func(r rune) bool { return r == ',' || r == ' ' }) {
		if part == "and" {
			continue
		}
		a, b, ranged := strings.Cut(part, "-")
		from, to := dayNumber(a), dayNumber(a)
		if ranged {
			to = dayNumber(b)
		}
		if from < 0 || to < 0 {
			return days, false
		}
		for d := from; ; d = (d + 1) % 7 {
			days[d] = true
			if d == to {
				break
			}
		}
		ok = true
	}
	return days, ok
}

// dayNumber is the weekday of a name of three letters or more, -1 for none.
func dayNumber(s string) int {
	for n, short := range weekdays {
		full := strings.ToLower(time.Weekday(n).String())
		s := strings.TrimSuffix(s, "s")
		if len(s) >= 3 && strings.HasPrefix(s, short) && strings.HasPrefix(full, s) {
			return n
		}
	}
	return -1
}

// hourOf reads an hour of the day as minutes: "8", "08:30", "17.00".
func hourOf(s string) (int, bool) {
	h, m, _ := strings.Cut(strings.ReplaceAll(s, ".", ":"), ":")
	var hour, minute int
	if _, err := fmt.Sscanf(h, "%d", &hour); err != nil {
		return 0, false
	}
	if m != "" {
		if _, err := fmt.Sscanf(m, "%d", &minute); err != nil {
			return 0, false
		}
	}
	return hour*60 + minute, hour < 24 && minute < 60
}

// ParseHour reads an hour of the day, as 15:04.
func ParseHour(s string) (string, error) {
	m, ok := hourOf(s)
	if !ok || !hourForm.MatchString(s) {
		return s, noHour(s)
	}
	return fmt.Sprintf("%02d:%02d", m/60, m%60), nil
}

var hourForm = pattern.Must(`^\d{1,2}(?:[:.]\d\d)?$`)

func noHour(s string) error {
	return fmt.Errorf("“%s” is no hour of the day: try 06:00 to 22:30", clip(s))
}

// parseAwake reads the waking hours as minutes of the day; {0, 0} for always.
func parseAwake(s [2]string) (out [2]int, err error) {
	if s[0] == "" && s[1] == "" {
		return out, nil
	}
	for n, typed := range s {
		hour, err := ParseHour(typed)
		if err != nil {
			return out, err
		}
		out[n], _ = hourOf(hour)
	}
	if out[0] == out[1] {
		return [2]int{}, nil
	}
	return out, nil
}

// hours knows in which minutes before the end hands may work. It grows as it is asked.
type hours struct {
	awake [2]int
	away  []Away
	end   time.Time
	off   []int // off[n]: of the n minutes before the end, how many nobody works in
}

// until is by how many minutes at least a span, minutes before the end, must lie earlier for hands
// to work all through it; 0 where they may.
func (h *hours) until(s span) int {
	if h.awake == [2]int{} && len(h.away) == 0 {
		return 0
	}
	if len(h.off) == 0 {
		h.off = []int{0}
	}
	for len(h.off) <= s.from+1 {
		back := len(h.off) // the minute that begins so many before the end
		t := h.end.Add(-time.Duration(back) * time.Minute)
		n := h.off[back-1]
		if !h.works(t) {
			n++
		}
		h.off = append(h.off, n)
	}
	if s.to < 0 {
		return 1
	}
	if h.off[s.from] == h.off[s.to] {
		return 0
	}
	last := s.to + 1 // the first minute off
	for h.off[last] == h.off[last-1] {
		last++
	}
	for last < s.from && h.off[last+1] > h.off[last] { // and those that follow it
		last++
	}
	return last - s.to
}

// works reports whether hands may work in the minute that begins at t.
func (h *hours) works(t time.Time) bool {
	m := t.Hour()*60 + t.Minute()
	if h.awake != [2]int{} && !within(m, h.awake[0], h.awake[1]) {
		return false
	}
	for _, a := range h.away {
		day := int(t.Weekday())
		if a.To < a.From && m < a.To { // past midnight it is still the evening's
			day = (day + 6) % 7
		}
		if a.Days[day] && within(m, a.From, a.To) {
			return false
		}
	}
	return true
}

// within reports whether a minute of the day lies in a stretch, which may go past midnight.
func within(m, from, to int) bool {
	if from < to {
		return m >= from && m < to
	}
	return m >= from || m < to
}
