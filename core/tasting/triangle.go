// Package tasting says what a tasting shows and what may be chance.
package tasting

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// guess is how often somebody who tastes no difference picks the odd one of three. Source: calculated.
const guess = 1.0 / 3

// MostTasters is the largest tasting that is worked out.
const MostTasters = 2000

// ErrTasters is said of numbers that are none of a tasting.
var ErrTasters = errors.New("how many picked the odd one, of how many? For instance 5 of 8")

// Triangle is a triangle test: each taster gets three coded slices, two of them alike, and names the odd one.
type Triangle struct {
	Right, Of int
	Chance    float64 // that as many or more are right by guessing alone
	Tasters   int     // that would do to find a difference that three in ten taste
}

// risk is how often chance may be taken for a difference, and power how often a difference is to be found that
// share of the tasters really taste. Source: practice, ISO 4120 as remembered uses the same.
const (
	risk  = 0.05
	power = 0.8
	share = 0.3
)

// Tri works a triangle test out.
func Tri(right, of int) (Triangle, error) {
	if of < 1 || of > MostTasters || right < 0 || right > of {
		return Triangle{}, ErrTasters
	}
	return Triangle{right, of, atLeast(right, of, guess), Needed(share, risk, power)}, nil
}

// atLeast is how likely k or more of n are right, each with a chance p.
func atLeast(k, n int, p float64) float64 {
	if k <= 0 {
		return 1
	}
	return distuv.Binomial{N: float64(n), P: p}.Survival(float64(k) - 1)
}

// RightWanted is how many of n must be right so that chance is rarer than a risk; n+1 where all would not do.
func RightWanted(n int, risk float64) int {
	for k := 0; k <= n; k++ {
		if atLeast(k, n, guess) <= risk {
			return k
		}
	}
	return n + 1
}

// Needed is how many tasters find a difference that a share of them tastes, in so many tastings of all, with that
// risk of taking chance for one.
func Needed(share, risk, power float64) int {
	p := share + (1-share)*guess
	for n := 3; n <= MostTasters; n++ {
		if atLeast(RightWanted(n, risk), n, p) >= power {
			return n
		}
	}
	return MostTasters
}

// Words say what a triangle test shows.
func (t Triangle) Words() string {
	in := fmt.Sprintf("%d of %d right", t.Right, t.Of)
	switch {
	case t.Chance > 0.5:
		return in + ": no more than guessing gives."
	case t.Chance > risk:
		return fmt.Sprintf("%s: could be chance, 1 in %.0f.", in, math.Round(1/t.Chance))
	default:
		return fmt.Sprintf("%s: they can tell. By chance it would be so once in %.0f.", in, math.Round(1/t.Chance))
	}
}
