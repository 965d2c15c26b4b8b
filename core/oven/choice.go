package oven

import (
	"fmt"
	"net/url"
	"strconv"
	"strings"

	"kollaris/core/learn"
	"kollaris/core/measure"
	"kollaris/core/tin"
)

// Choice is how an oven is to be used, as a person asks for it. Its zero value asks for
// the bake as the recipe says. It is written into addresses by Values and read by
// ParseChoice.
type Choice struct {
	At      measure.Celsius `json:"at_c,omitempty"` // of the dial
	Setup   Setup           `json:"setup,omitzero"`
	Oven    int64           `json:"oven,omitempty"`   // of the household, by id
	Watts   float64         `json:"watts,omitempty"`  // of the microwave, for a one-bowl cake; 0 where not said
	Learned Learned         `json:"learned,omitzero"` // of that oven; no part of the address
	Pace    learn.Pace      `json:"pace,omitzero"`    // of the recipe, likewise
}

// FanLower is how much lower a fan oven is set, °C. Source: common practice.
const FanLower = 20

// flameAt is the floor of a pan on a low flame, °C. Source: memory, a working value.
const flameAt = 160

// Apply lays the choice over a bake.
func (c Choice) Apply(b Baking) Baking {
	written, stages := b.Oven, b.Setup.Stages
	b.Setup, b.Learned = c.Setup, c.Learned
	switch {
	case c.At > 0:
		b.Oven = c.At
	case c.Setup.Flame:
		b.Oven = flameAt
	case c.Setup.Fan:
		b.Oven -= FanLower
	}
	if len(b.Setup.Stages) == 0 && !b.Setup.Flame { // the written ones, as much lower or higher
		for _, s := range stages {
			b.Setup.Stages = append(b.Setup.Stages, Stage{After: s.After, Oven: s.Oven + b.Oven - written})
		}
	}
	return b
}

// AtMost is the bake with no setting above a heat.
func (b Baking) AtMost(most measure.Celsius) Baking {
	b.Oven = min(b.Oven, most)
	stages := b.Setup.Stages
	b.Setup.Stages = nil
	for _, s := range stages {
		s.Oven = min(s.Oven, most)
		b.Setup.Stages = append(b.Setup.Stages, s)
	}
	return b
}

// flags are the settings that are on or off, with the words of the application.
var flags = []struct {
	Name, Words string
	of          func(*Setup) *bool
}{
	{"fan", "fan", func(s *Setup) *bool { return &s.Fan }},
	{"cold", "goes into a cold oven", func(s *Setup) *bool { return &s.Cold }},
	{"covered", "covered with foil or a lid", func(s *Setup) *bool { return &s.Covered }},
	{"paper", "wrapped in doubled paper", func(s *Setup) *bool { return &s.Paper }},
	{"collar", "wet strip around the tin", func(s *Setup) *bool { return &s.Collar }},
	{"steam", "tray of water below", func(s *Setup) *bool { return &s.Steam }},
	{"full", "other tins beside it", func(s *Setup) *bool { return &s.Full }},
	{"flame", "in a lidded pan on a low flame", func(s *Setup) *bool { return &s.Flame }},
}

// Flag is a setting that is on or off.
type Flag struct {
	Name, Words string
	On          bool
}

// Flags lists them as a setup has them.
func (s Setup) Flags() []Flag {
	var out []Flag
	for _, f := range flags {
		out = append(out, Flag{f.Name, f.Words, *f.of(&s)})
	}
	return out
}

// Values writes the choice into an address, temperatures with their scale.
func (c Choice) Values(v url.Values) {
	degrees := func(name string, t measure.Celsius) {
		if t != 0 {
			v.Set(name, fmt.Sprintf("%gC", float64(t)))
		}
	}
	degrees("at", c.At)
	degrees("batter", c.Setup.Start)
	if c.Setup.Of != tin.Bright {
		v.Set("metal", string(c.Setup.Of))
	}
	for _, f := range c.Setup.Flags() {
		if f.On {
			v.Set(f.Name, "1")
		}
	}
	if len(c.Setup.Stages) > 0 {
		st := c.Setup.Stages[0]
		degrees("then", st.Oven)
		v.Set("after", fmt.Sprintf("%g", st.After))
		if st.Lower {
			v.Set("lower", "1")
		}
	}
	if c.Watts > 0 {
		v.Set("watts", fmt.Sprintf("%g", c.Watts))
	}
	if c.Oven > 0 {
		v.Set("in", strconv.FormatInt(c.Oven, 10))
	}
}

// ParseChoice reads an address; a temperature without a scale is in °C, or in °F where no
// oven goes so high. What cannot be used is left out and told to fault, with
// its field, what was typed and what would do.
func ParseChoice(v url.Values, fault func(field, typed, why string)) Choice {
	var c Choice
	heat := func(name string) measure.Celsius {
		s := strings.TrimSpace(v.Get(name))
		if s == "" {
			return 0
		}
		dial, _, fan := strings.Cut(strings.ToLower(s), "fan")
		dial = strings.TrimSpace(dial)
		t, ok := measure.ParseTemperature(dial, false)
		if ok && t > 280 && strings.Trim(dial, "0123456789") == "" { // no home oven is set to 280 °C
			t = measure.FromFahrenheit(float64(t))
		}
		if !ok {
			t, _, _, ok = measure.FindOven(dial)
		}
		ok = ok && t >= 100 && t <= 300
		if !ok {
			fault(name, s, fmt.Sprintf("“%s” is not an oven's heat: try 180, 350 F or gas 4", s))
			return 0
		}
		c.Setup.Fan = c.Setup.Fan || fan
		return t
	}
	number := func(name string, low, high float64, why string) (float64, bool) {
		s := strings.TrimSpace(v.Get(name))
		if s == "" {
			return 0, false
		}
		x, err := measure.ParseDecimal(s, "W", "min")
		if err != nil || !(x >= low && x <= high) {
			fault(name, s, fmt.Sprintf("“%s” %s", s, why))
			return 0, false
		}
		return x, true
	}
	c.At = heat("at")
	then, lower := heat("then"), v.Get("lower") != ""
	after, given := number("after", 1, 600, "is no time to change the heat: try minutes such as 15")
	switch {
	case (then > 0 || lower) && given:
		c.Setup.Stages = []Stage{{after, then, lower}}
	case (then > 0 || lower) && v.Get("after") == "":
		fault("after", "", "Say after how many minutes that is")
	}
	if s := strings.TrimSpace(v.Get("batter")); s != "" {
		if t, ok := measure.ParseTemperature(s, false); ok && t >= -20 && t <= 45 {
			c.Setup.Start = t
		} else {
			fault("batter", s, fmt.Sprintf("“%s” is no batter's temperature: try 5 C, 22 C or 72 F", s))
		}
	}
	c.Watts, _ = number("watts", 100, 2000, "is no microwave's power: try 700 or 900")
	for _, f := range flags {
		if v.Get(f.Name) != "" {
			*f.of(&c.Setup) = true
		}
	}
	if s := tin.Material(v.Get("metal")); s != tin.Bright {
		known := false
		for _, m := range tin.Materials {
			known = known || m.ID == s
		}
		if known {
			c.Setup.Of = s
		} else {
			fault("metal", string(s), fmt.Sprintf("“%s” is no material of tins: try glass or dark", s))
		}
	}
	if n, err := strconv.ParseInt(v.Get("in"), 10, 64); err == nil && n > 0 {
		c.Oven = n
	}
	return c
}
