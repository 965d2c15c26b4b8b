package swap

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/larder"
)

// Sweetens reports whether the use is sugar or syrup, of which a baker may leave a
// share out or put a mix of one's own in the place.
func (u *Use) Sweetens() bool {
	return slices.Contains(u.Limits, "added-sugars") &&
		slices.ContainsFunc(
			u.Schools, func(s School) bool { return s.Parts[0].As == "sugar" || s.Parts[0].As == "syrup" },
		)
}

// Less is the school of leaving percent of it out and changing nothing else.
func Less(percent int) string { return fmt.Sprintf("less:%d", percent) }

// Mix is the school of a mix of one's own, grams for 100 g of what it replaces.
func Mix(parts []Part) string {
	var out []string
	for _, p := range parts {
		out = append(out, fmt.Sprintf("%s=%g", p.ID, p.Grams))
	}
	return "mix:" + strings.Join(out, "+")
}

// With gives the use with the school that id writes out ("less:33" or
// "mix:erythritol=50+allulose=60") beside its own; u itself where id names one of the
// table or nothing that can be made.
func (u *Use) With(id string, l *larder.Larder) *Use {
	what, rest, ok := strings.Cut(id, ":")
	if !ok || !u.Sweetens() {
		return u
	}
	s := School{ID: id, Confidence: Workable, Fit: 1, Source: "practice"}
	const as = "same" // weight for weight: what the baker says is what goes in
	switch what {
	case "less":
		n, err := strconv.Atoi(rest)
		if err != nil || n < 1 || n > 95 {
			return u
		}
		s.Parts = []Part{{ID: From, Grams: u.Per * float64(100-n) / 100, As: as}}
		s.Title = fmt.Sprintf("%d %% less, as it is", n)
		s.Effect = "less sweet, paler, drier, the more the more is left out"
		s.Reason = fmt.Sprintf("%d %% of the {from} is left out and nothing put in its place.", n)
		if n > 34 {
			s.Confidence = Experiment
		}
	case "mix":
		for _, typed := range strings.Split(rest, "+") {
			name, grams, _ := strings.Cut(typed, "=")
			g, err := strconv.ParseFloat(grams, 64)
			i := l.Get(larder.ID(name))
			if err != nil || !(g > 0 && g <= 1000) || i == nil || i.Facts[larder.Sweetness] < 0.03 {
				return u
			}
			s.Parts = append(s.Parts, Part{ID: i.ID, Grams: g * u.Per / 100, As: as})
		}
		var names []string
		for _, p := range s.Parts {
			names = append(names, l.Get(p.ID).Name)
		}
		s.Title = "my mix: " + strings.Join(names, ", ")
		s.Effect = "as the mix was worked out"
		s.Reason = "Your own mix stands for the {from}."
	default:
		return u
	}
	with := *u
	with.Schools = append(slices.Clone(u.Schools), s)
	return &with
}

// Beside ends the title of a school of which some of what it replaces stays.
const Beside = ", beside some of it"

// Keeping is a school of which a share of what it replaces stays as it is, for a limit that
// allows so much; s itself where it keeps some anyway.
func (u *Use) Keeping(s *School, share float64, l *larder.Larder) *School {
	if share <= 0 || slices.ContainsFunc(s.Parts, func(p Part) bool { return p.ID == From }) {
		return s
	}
	k := *s
	k.Parts = []Part{{ID: From, Grams: u.Per * share, As: s.Parts[0].As}}
	var names []string
	for _, p := range s.Parts {
		p.Grams *= 1 - share
		by := map[string]float64{}
		for kind, g := range p.By {
			by[kind] = g * (1 - share)
		}
		p.By = by
		k.Parts = append(k.Parts, p)
		names = append(names, "{"+string(p.ID)+"} of "+l.Get(p.ID).Name)
	}
	k.Title = s.Title + Beside
	k.Reason = "As much of the {from} stays as your limit allows; the rest of its sweetness comes from " + strings.Join(names, " and ") + "."
	return &k
}
