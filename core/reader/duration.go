package reader

import (
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// Duration is a time that a text gives, in minutes, and the bytes it stands at.
type Duration struct {
	recipe.Minutes
	From, To int
}

// Durations finds the times in a text: "50-55 min", "1½ hours", "overnight", "for 2 days".
func Durations(text string) []Duration {
	var out []Duration
	for _, d := range en.Times(text) {
		out = append(out, Duration{recipe.Minutes{Min: d.Min, Max: d.Max}, d.From, d.To})
	}
	for _, at := range overnight.FindAllStringSubmatchIndex(text, -1) {
		out = append(out, Duration{nights(text, at), at[0], at[1]})
	}
	return out
}
