// Package learn is what a household's bakes teach of its recipes, flours, spoons, hands and taste. (Ovens learn in
// package oven.) Each figure is a normal belief that observations narrow by Bayes's rule: shrunk towards the prior
// while there are few, and nothing but the prior when they are forgotten.
package learn

import (
	"fmt"
	"math"

	"kollaris/core/fact"
)

// Kind is what is learned.
type Kind string

// The kinds, with what an observation X is of.
const (
	Recipe Kind = "recipe" // logarithm of how long it took over what was foretold for the oven as it is known
	Flour  Kind = "flour"  // g of liquid more than the recipe gives, for each g of the flour
	Spoon  Kind = "spoon"  // logarithm of what a spoonful weighs over what the catalogue says
	Task   Kind = "task"   // logarithm of the minutes that hands took over those that were foretold
	Taste  Kind = "taste"  // logarithm of the sweetness over the written recipe's; see Sweetness
)

// Prior is what is believed of a kind before anything is seen: a mean of 0 with a spread, and how far one
// observation may be off.
type Prior struct {
	SD     float64
	Noise  float64
	Source fact.Source
}

// Priors of the kinds.
//
// Recipe: one recipe's time against another's in the same oven, and when a bake is called done. Flour: flours take
// up some 3 % more or less; a spoonful is 10 to 15 g in 400 g of flour. Spoon: level to heaped, and one spoonful
// against the next. Task: slow and quick hands, and one morning against the next.
var Priors = map[Kind]Prior{
	Recipe: {0.08, 0.08, "memory: a recipe's time against another's in the same oven"},
	Flour:  {0.03, 0.02, "memory: flours take up some 3 % more or less"},
	Spoon:  {0.25, 0.12, "memory: level to heaped"},
	Task:   {0.5, 0.4, "memory: slow hands take twice as long as quick ones"},
}

// Seen is what one bake says of a figure.
type Seen struct {
	Kind Kind    `json:"kind"`
	Key  string  `json:"key"` // of what: a recipe's id, a flour, "tbsp flax-ground", a verb
	X    float64 `json:"x"`

	// of a Recipe: in which of the household's ovens, 0 for none, and how X changes with a degree of its air
	Oven      int64   `json:"oven,omitempty"`
	PerDegree float64 `json:"per_degree,omitempty"`
	// of a Taste
	Said Verdict `json:"said,omitempty"`
}

// Normal is a belief.
type Normal struct {
	Mean float64 `json:"mean"`
	SD   float64 `json:"sd"`
	N    int     `json:"n"` // observations
}

// Learn narrows a prior by observations. More is by how much an observation may be off beside the noise of its
// kind, a standard deviation each; 0 for those that it does not name.
func (p Prior) Learn(xs []float64, more ...float64) Normal {
	precision, sum := 1/(p.SD*p.SD), 0.0
	for n, x := range xs {
		of := p.Noise * p.Noise
		if n < len(more) {
			of += more[n] * more[n]
		}
		precision += 1 / of
		sum += x / of
	}
	return Normal{Mean: sum / precision, SD: math.Sqrt(1 / precision), N: len(xs)}
}

// Weight is the prior's share of the mean, from 0 to 1: how far it is shrunk.
func (p Prior) Weight(n int) float64 {
	a, b := 1/(p.SD*p.SD), float64(n)/(p.Noise*p.Noise)
	return a / (a + b)
}

// eighty is how many standard deviations hold eight in ten about the mean.
const eighty = 1.2815515655446004

// Interval holds it eight times in ten.
func (n Normal) Interval() (lo, hi float64) { return n.Mean - eighty*n.SD, n.Mean + eighty*n.SD }

// Pace is a recipe's own, beside its oven's: its time over what is foretold. Its zero value changes nothing.
type Pace struct {
	Log   float64 `json:"log"`
	SD    float64 `json:"sd"`
	Bakes int     `json:"bakes"`
}

// Times is the factor.
func (p Pace) Times() float64 { return math.Exp(p.Log) }

// Words say what it does to a foretold time.
func (p Pace) Words() string {
	per := math.Round(100 * math.Expm1(p.Log))
	bakes := fmt.Sprintf("Your last %d bakes of it", p.Bakes)
	if p.Bakes == 1 {
		bakes = "Your last bake of it"
	}
	switch {
	case per > 0:
		return fmt.Sprintf("%s took longer: this is %.0f %% more.", bakes, per)
	case per < 0:
		return fmt.Sprintf("%s took less time: this is %.0f %% less.", bakes, -per)
	}
	return bakes + " took as long as foretold."
}
