// Package device speaks with a kitchen scale and a probe over a plain line protocol of our own
// (docs/device.md), and has stand-ins for both that ship with the program.
//
// A device sends lines, each ending with a line feed and at most 200 bytes long:
//
//	device scale 1 Kitchen scale
//	r 12 2026-11-28T09:12:03.25Z 412.3 g steady
//	r 57 2026-11-28T09:41:00Z 61.5 C ok core
//	ok tare
//
// and takes "tare". What is no such line is passed over and counted.
package device

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"
)

// MaxLine is the longest line, bytes without its line feed.
const MaxLine = 200

// Flag says how a reading is to be taken.
type Flag string

// The flags of a scale and of a probe.
const (
	Steady   Flag = "steady"
	Moving   Flag = "moving"
	Overload Flag = "overload" // its value means nothing
	OK       Flag = "ok"
	Open     Flag = "open" // a probe that is not plugged in; its value means nothing
)

// Channel is where a probe measures.
type Channel string

// The channels. A scale has the empty one.
const (
	Core Channel = "core"
	Oven Channel = "oven" // the air beside it
)

// Reading is one value of a device.
type Reading struct {
	Seq     int64
	At      time.Time // by the device's clock; zero where it gave none
	Value   float64   // g or °C
	Flag    Flag
	Channel Channel
}

// Means reports whether the value means something.
func (r Reading) Means() bool { return r.Flag != Overload && r.Flag != Open }

// units bring what devices send to grams and degrees Celsius. Source: published, the international
// pound of 1959: 453.59237 g exactly.
var units = map[string]func(float64) float64{
	"g":  func(x float64) float64 { return x },
	"kg": func(x float64) float64 { return 1000 * x },
	"oz": func(x float64) float64 { return x * 453.59237 / 16 },
	"lb": func(x float64) float64 { return x * 453.59237 },
	"C":  func(x float64) float64 { return x },
	"F":  func(x float64) float64 { return (x - 32) / 1.8 },
}

// ErrNoReading is said of a line that is none.
var ErrNoReading = errors.New("no reading")

// Parse reads a line "r SEQ TIME VALUE UNIT FLAG [CHANNEL]". TIME may be "-".
func Parse(line string) (Reading, error) {
	f := strings.Fields(line)
	if len(line) > MaxLine || len(f) < 6 || len(f) > 7 || f[0] != "r" {
		return Reading{}, ErrNoReading
	}
	var r Reading
	var err error
	if r.Seq, err = strconv.ParseInt(f[1], 10, 64); err != nil || r.Seq < 0 {
		return Reading{}, fmt.Errorf("%w: “%s” is no number of a reading", ErrNoReading, f[1])
	}
	if f[2] != "-" {
		if r.At, err = time.Parse(time.RFC3339Nano, f[2]); err != nil {
			return Reading{}, fmt.Errorf("%w: “%s” is no time", ErrNoReading, f[2])
		}
	}
	to, ok := units[f[4]]
	if !ok {
		return Reading{}, fmt.Errorf("%w: “%s” is no unit", ErrNoReading, f[4])
	}
	r.Flag = Flag(f[5])
	switch r.Flag {
	case Steady, Moving, Overload, OK, Open:
	default:
		return Reading{}, fmt.Errorf("%w: “%s” is no flag", ErrNoReading, f[5])
	}
	if len(f) == 7 {
		if r.Channel = Channel(f[6]); r.Channel != Core && r.Channel != Oven {
			return Reading{}, fmt.Errorf("%w: “%s” is no channel", ErrNoReading, f[6])
		}
	}
	x, err := strconv.ParseFloat(f[3], 64)
	if r.Means() && (err != nil || math.IsNaN(x) || math.Abs(x) > 1e6) {
		return Reading{}, fmt.Errorf("%w: “%s” is no value", ErrNoReading, f[3])
	}
	if r.Means() {
		r.Value = to(x)
	}
	return r, nil
}

// String writes a reading as its line; unit is "g" or "C".
func (r Reading) String() string {
	unit, at, channel := "g", "-", ""
	if r.Channel != "" {
		unit, channel = "C", " "+string(r.Channel)
	}
	if !r.At.IsZero() {
		at = r.At.UTC().Format(time.RFC3339Nano)
	}
	return fmt.Sprintf("r %d %s %s %s %s%s", r.Seq, at, strconv.FormatFloat(r.Value, 'f', 1, 64), unit, r.Flag, channel)
}
