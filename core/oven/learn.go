package oven

import "math"

// Learned is what is known of one oven: how far its air is from its dial, and how its
// times compare with those foretold in that air. It is a bivariate normal of the offset
// and of the logarithm of the time factor; readings and bakes narrow it by Bayes's rule
// for a linear observation. Its zero value is an oven that nobody asked about.
type Learned struct {
	Offset   float64 `json:"offset_c"` // °C, air less dial
	Log      float64 `json:"log"`      // natural logarithm of the time factor
	VarOff   float64 `json:"var_off"`
	VarLog   float64 `json:"var_log"`
	Cov      float64 `json:"cov"`
	Readings int     `json:"readings"`
	Bakes    int     `json:"bakes"`
}

// What is believed of an oven before anything is known, and how far one observation may
// be off. Sources: ovens lie by 10 to 15 °C, offset 0 ± 12 °C and factor 1 ± 0.15
// (handbook 4, practice); an oven thermometer with the oven's own cycling ± 8 °C, and
// when a bake is called done ± 8 % (memory).
const (
	PriorOffset = 12.0
	priorLog    = 0.15
	ReadingSD   = 8.0
	bakeSD      = 0.08
)

// NewOven is an oven of which nothing is known yet.
func NewOven() Learned {
	return Learned{VarOff: PriorOffset * PriorOffset, VarLog: priorLog * priorLog}
}

// Asked reports whether an oven was chosen at all.
func (l Learned) Asked() bool { return l.VarOff > 0 || l.VarLog > 0 }

// observe takes in y = a·offset + b·log + noise.
func (l Learned) observe(a, b, y, sd float64) Learned {
	o, g := a*l.VarOff+b*l.Cov, a*l.Cov+b*l.VarLog // covariances with what is seen
	v := a*o + b*g + sd*sd
	miss := y - a*l.Offset - b*l.Log
	l.Offset += o / v * miss
	l.Log += g / v * miss
	l.VarOff, l.Cov, l.VarLog = l.VarOff-o*o/v, l.Cov-o*g/v, l.VarLog-g*g/v
	return l
}

// Reading takes in a thermometer's reading: °C on the dial and in the air.
func (l Learned) Reading(dial, air float64) Learned {
	l = l.observe(1, 0, air-dial, ReadingSD)
	l.Readings++
	return l
}

// Bake takes in how long a bake took over what was foretold for an oven that tells the
// truth; perDegree is how the logarithm of the time changes with a degree of air
// (about -0.006 for a loaf).
func (l Learned) Bake(ratio, perDegree float64) Learned {
	l = l.observe(perDegree, 1, math.Log(ratio), bakeSD)
	l.Bakes++
	return l
}

// Factor is the time factor.
func (l Learned) Factor() float64 { return math.Exp(l.Log) }

// OffsetSD is the standard deviation of the offset, °C.
func (l Learned) OffsetSD() float64 { return math.Sqrt(l.VarOff) }

// TimeSD is the relative standard deviation of a time foretold for this oven.
func (l Learned) TimeSD(perDegree float64) float64 {
	return math.Sqrt(math.Max(0, l.VarLog+2*perDegree*l.Cov+perDegree*perDegree*l.VarOff))
}

// Seen is a bake that was seen to be done: how long it took over what was foretold for an oven that tells the truth,
// and how the logarithm of that changes with a degree of air.
type Seen struct{ Ratio, PerDegree float64 }

// Hindsight is how far foretold times were off, as a mean share, without learning from bakes and with what had been
// learned before each. Start is what was known without bakes.
func Hindsight(start Learned, seen []Seen) (without, with float64) {
	if len(seen) == 0 {
		return 0, 0
	}
	l := start
	for _, s := range seen {
		miss := func(l Learned) float64 { return math.Abs(math.Log(s.Ratio) - s.PerDegree*l.Offset - l.Log) }
		without += miss(start)
		with += miss(l)
		l = l.Bake(s.Ratio, s.PerDegree)
	}
	n := float64(len(seen))
	return math.Expm1(without / n), math.Expm1(with / n)
}

// driftOf is how many of its last bakes are laid against those before, of which there must be as many; driftSure how
// many standard deviations they must be off. Source: practice: one in twenty ovens that have not changed is asked
// about.
const (
	driftOf   = 3
	driftSure = 2.0
)

// Drift is by how much the last bakes of an oven took longer than those before had taught, as a share; ok where that
// is more than chance gives: its door, its seal or its thermostat may have changed. Start is what was known without
// bakes.
func Drift(start Learned, seen []Seen) (longer float64, ok bool) {
	if len(seen) < 2*driftOf {
		return 0, false
	}
	before, last := seen[:len(seen)-driftOf], seen[len(seen)-driftOf:]
	l := start
	for _, s := range before {
		l = l.Bake(s.Ratio, s.PerDegree)
	}
	mean, per := 0.0, 0.0
	for _, s := range last {
		mean += (math.Log(s.Ratio) - s.PerDegree*l.Offset - l.Log) / driftOf
		per += s.PerDegree / driftOf
	}
	sd := math.Sqrt(bakeSD*bakeSD/driftOf + math.Pow(l.TimeSD(per), 2))
	return math.Expm1(mean), math.Abs(mean) > driftSure*sd
}
