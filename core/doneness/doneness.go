// Package doneness says when a bake is done from what is seen of it: a probe's readings, and looks.
//
// Two things are hidden: m, by how much longer this bake takes than was foretold, and the oven's offset.
// Both have a prior, from the recipe and from what was learned of the oven. For each of some offsets the
// heat model gives the middle's temperature over time; a bake that takes m times as long runs through it
// m times as slowly. Each reading and each look multiplies the weights of a grid of both (Bayes's rule),
// and the end is what the weights then say: its median, and the window that holds it in eight cases of
// ten. No clock is read here; times are minutes since it went in.
package doneness

import (
	"math"
	"slices"
)

// Curve is the middle of the bake over time, with the oven so far off its dial.
type Curve struct {
	Offset float64   // K, air less dial
	Step   float64   // minutes between two values
	Core   []float64 // °C, from going in till it is done at least
	Done   float64   // minutes when it is done
}

// At is the middle's temperature after some minutes; past its end it creeps on a little.
func (c Curve) At(minutes float64) float64 {
	k := minutes / c.Step
	n := int(k)
	switch {
	case k <= 0:
		return c.Core[0]
	case n+1 < len(c.Core):
		return c.Core[n] + (k-float64(n))*(c.Core[n+1]-c.Core[n])
	}
	last := len(c.Core) - 1
	return c.Core[last] + creeps*(1-math.Exp(-(minutes-c.Step*float64(last))/creepIn))
}

// How the middle goes on past done: boiling holds it. Source: calculated with the heat model, a loaf's.
const (
	creeps  = 1.5 // K
	creepIn = 8.0 // minutes
)

// Prior is what is believed before it is in the oven.
type Prior struct {
	Log      float64 // of m: the logarithm's mean
	LogSD    float64 // and its standard deviation
	Offset   float64 // of the oven, K
	OffsetSD float64
}

// The grid over both. Source: the steps lie within what a probe tells apart.
const (
	factors = 61
	reach   = 3.0 // standard deviations
	leastSD = 0.02
)

// Offsets are those for which a bake wants curves: nine, over two standard deviations each way.
func (p Prior) Offsets() []float64 {
	var out []float64
	for n := -4; n <= 4; n++ {
		out = append(out, p.Offset+float64(n)/2*p.OffsetSD)
	}
	return out
}

// Bake is a bake in the oven with what was seen of it.
type Bake struct {
	curves []Curve
	m      []float64
	weight [][]float64 // by curve and factor
	target float64     // °C of the middle when done
	odd    int         // readings in a row that the model cannot explain
	read   []reading   // all of them
}

type reading struct{ at, core float64 }

// New is a bake that has just gone in; target is the middle's temperature when it is done. Curves are
// those of the prior's offsets; none is empty.
func New(curves []Curve, p Prior, target float64) *Bake {
	b := &Bake{curves: curves, target: target}
	sd := math.Max(p.LogSD, leastSD)
	for n := range factors {
		z := reach * (2*float64(n)/(factors-1) - 1)
		b.m = append(b.m, math.Exp(p.Log+z*sd))
	}
	for _, c := range curves {
		off := 0.0
		if p.OffsetSD > 0 {
			off = (c.Offset - p.Offset) / p.OffsetSD
		}
		row := make([]float64, factors)
		for n := range row {
			z := reach * (2*float64(n)/(factors-1) - 1)
			row[n] = math.Exp(-(z*z + off*off) / 2)
		}
		b.weight = append(b.weight, row)
	}
	b.normal()
	return b
}

// Copy is the same bake, to be told of other things.
func (b *Bake) Copy() *Bake {
	c := *b
	c.weight = nil
	c.read = slices.Clone(b.read)
	for _, row := range b.weight {
		c.weight = append(c.weight, slices.Clone(row))
	}
	return &c
}

func (b *Bake) normal() {
	sum := 0.0
	for _, row := range b.weight {
		for _, w := range row {
			sum += w
		}
	}
	for _, row := range b.weight {
		for n := range row {
			row[n] /= sum
		}
	}
}

// see multiplies the weights by how likely something seen is with each.
func (b *Bake) see(likely func(c Curve, m float64) float64) {
	for k, c := range b.curves {
		for n, m := range b.m {
			b.weight[k][n] *= math.Max(likely(c, m), 1e-12)
		}
	}
	b.normal()
}

// How far a probe may be off, K, and how often it stands badly: near the wall, in a pocket of air, slipped.
// Source: from memory, household probes; a working value.
const (
	probeSD  = 1.5
	badShare = 0.05
	badSD    = 12.0
	oddFrom  = 6.0 // K that a reading lies off all that is likely
	oddRun   = 2   // readings in a row that are called so
)

// Probe takes in a reading of the middle.
func (b *Bake) Probe(minutes, core float64) {
	if math.IsNaN(core) || minutes < 0 {
		return
	}
	if off := core - b.Core(minutes); math.Abs(off) > oddFrom+3*b.coreSD(minutes) {
		b.odd++
	} else {
		b.odd = 0
	}
	b.read = append(b.read, reading{minutes, core})
	b.see(func(c Curve, m float64) float64 {
		d := core - c.At(minutes/m)
		return (1-badShare)*math.Exp(-d*d/(2*probeSD*probeSD))/probeSD + badShare*math.Exp(-d*d/(2*badSD*badSD))/badSD
	})
}

// Misplaced reports whether the last readings are not those of the middle: the probe leads or trails by
// more than any bake would.
func (b *Bake) Misplaced() bool { return b.odd >= oddRun }

// From when on a probe that always shows the same is called stuck: so many minutes within so little, where the
// middle should have risen by so much. Source: from memory, household probes flicker by some tenths.
const (
	stuckFor    = 5.0 // minutes
	stuckWithin = 0.3 // K
	stuckRise   = 3.0 // K
)

// Stuck reports whether the last readings are always the same while the middle should rise.
func (b *Bake) Stuck() bool {
	if len(b.read) == 0 {
		return false
	}
	last := b.read[len(b.read)-1]
	for _, r := range slices.Backward(b.read) {
		if math.Abs(r.core-last.core) > stuckWithin {
			return false
		}
		if last.at-r.at >= stuckFor {
			return b.Core(last.at)-b.Core(r.at) >= stuckRise
		}
	}
	return false
}

// Look is something seen of a bake.
type Look string

// What may be seen. A wet fruit loaf's skewer is never quite clean: crumbs are enough for it.
const (
	SkewerWet    Look = "skewer wet"
	SkewerCrumbs Look = "skewer with crumbs"
	SkewerClean  Look = "skewer clean"
	Springs      Look = "springs back"
	Dents        Look = "keeps the dent"
	Pale         Look = "pale"
	Golden       Look = "golden"
	Dark         Look = "dark"
	FromSides    Look = "away from the sides"
)

// Looks lists them.
var Looks = []Look{SkewerWet, SkewerCrumbs, SkewerClean, Springs, Dents, Pale, Golden, Dark, FromSides}

// How looks go with what is below done, K, and with the share of the time that has passed. Source:
// practice for where they turn, the widths from memory: a skewer comes out wet till some 6 K below done.
const (
	wetTill    = -6.0
	wetWide    = 2.0
	cleanFrom  = -2.0
	springFrom = -4.0
	springWide = 2.5
	sidesFrom  = -3.0
	sidesWide  = 3.0
	paleTill   = 0.75
	darkFrom   = 1.25
	colourWide = 0.12
	mistaken   = 0.03 // a look that says nothing
)

func sigmoid(x float64) float64 { return 1 / (1 + math.Exp(-x)) }

// chance is how likely a look is with the middle x K from done after the share u of its time.
func (l Look) chance(x, u float64) float64 {
	wet := sigmoid((wetTill - x) / wetWide)
	clean := sigmoid((x - cleanFrom) / wetWide)
	pale, dark := sigmoid((paleTill-u)/colourWide), sigmoid((u-darkFrom)/colourWide)
	p := 0.0
	switch l {
	case SkewerWet:
		p = wet
	case SkewerClean:
		p = clean * (1 - wet)
	case SkewerCrumbs:
		p = (1 - clean) * (1 - wet)
	case Springs:
		p = sigmoid((x - springFrom) / springWide)
	case Dents:
		p = sigmoid((springFrom - x) / springWide)
	case FromSides:
		p = sigmoid((x - sidesFrom) / sidesWide)
	case Pale:
		p = pale
	case Dark:
		p = dark * (1 - pale)
	case Golden:
		p = (1 - pale) * (1 - dark)
	default:
		return 1
	}
	return mistaken + (1-2*mistaken)*p
}

// Look takes in what was seen.
func (b *Bake) Look(minutes float64, l Look) {
	if minutes < 0 {
		return
	}
	b.see(func(c Curve, m float64) float64 { return l.chance(c.At(minutes/m)-b.target, minutes/(m*c.Done)) })
}

// Core is the middle's temperature that is expected after some minutes.
func (b *Bake) Core(minutes float64) float64 {
	sum := 0.0
	for k, c := range b.curves {
		for n, m := range b.m {
			sum += b.weight[k][n] * c.At(minutes/m)
		}
	}
	return sum
}

func (b *Bake) coreSD(minutes float64) float64 {
	mean, sum := b.Core(minutes), 0.0
	for k, c := range b.curves {
		for n, m := range b.m {
			d := c.At(minutes/m) - mean
			sum += b.weight[k][n] * d * d
		}
	}
	return math.Sqrt(sum)
}

// End is when it is done, minutes since it went in: the median, and the window of eight in ten.
func (b *Bake) End() (low, median, high float64) {
	type end struct{ at, weight float64 }
	var ends []end
	for k, c := range b.curves {
		for n, m := range b.m {
			ends = append(ends, end{m * c.Done, b.weight[k][n]})
		}
	}
	slices.SortFunc(ends, func(a, b end) int {
		switch {
		case a.at < b.at:
			return -1
		case a.at > b.at:
			return 1
		}
		return 0
	})
	quantile := func(q float64) float64 {
		sum, last := 0.0, ends[0].at
		for _, e := range ends {
			if next := sum + e.weight; next >= q {
				if e.weight > 0 {
					return last + (q-sum)/e.weight*(e.at-last)
				}
				return e.at
			}
			sum, last = sum+e.weight, e.at
		}
		return last
	}
	return quantile(0.1), quantile(0.5), quantile(0.9)
}

// Chance is how likely it is done by then.
func (b *Bake) Chance(minutes float64) float64 {
	sum := 0.0
	for k, c := range b.curves {
		for n, m := range b.m {
			if m*c.Done <= minutes {
				sum += b.weight[k][n]
			}
		}
	}
	return sum
}

// When to look again: as it is likelier done than not, or sooner where much may happen till then, never
// at once. Source: practice, a door that is opened costs heat.
const (
	likelyDone = 0.6
	mostRise   = 0.2 // of the chance between two looks
	soonest    = 3.0 // minutes from now
	latest     = 240.0
)

// NextLook is when to look again, minutes since it went in.
func (b *Bake) NextLook(now float64) float64 {
	at, till := now+soonest, math.Min(likelyDone, b.Chance(now)+mostRise)
	for at < now+latest && b.Chance(at) < till {
		at++
	}
	return at
}

// Past reports whether what was to be expected is over, so that more minutes are no answer: it is likely
// done though the looks say otherwise, or something else is wrong.
func (b *Bake) Past(minutes float64) bool { return b.Chance(minutes) > 0.95 }
