package reader

import "kollaris/core/recipe"

// Duration is a time that a text gives, in minutes, and the bytes it stands at.
type Duration struct {
	recipe.Minutes
	From, To int
}

// Durations finds the times in a text: "50-55 min", "1½ hours", "overnight", "for 2 days".
func Durations(text string) []Duration {
	var out []Duration
	for _, at := range duration.FindAllStringSubmatchIndex(text, -1) {
		if m, ok := minutesOf(text, at); ok && m.Max > 0 {
			out = append(out, Duration{m, at[0], at[1]})
		}
	}
	for _, at := range overnight.FindAllStringSubmatchIndex(text, -1) {
		out = append(out, Duration{nights(text, at), at[0], at[1]})
	}
	return out
}
