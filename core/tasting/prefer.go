package tasting

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat/distmv"
	"gonum.org/v1/gonum/stat/distuv"
)

// Trial cups: how many there are at most, and how often they may be laid against each other.
const (
	MostCups  = 6
	mostPicks = 5000
)

// priorLog is how far the logarithms of two cups' strengths lie apart before anybody tasted, as a standard deviation:
// weak, so that five to none does not mean that it wins for ever. Source: practice.
const priorLog = 2.0

// ErrPicks is said of preferences that cannot be used.
var ErrPicks = errors.New("which of two cups was better? At least one pair, for instance 4 to 2")

// Strength is how well a cup does against the others.
type Strength struct {
	Log  float64 // against the mean of all
	SD   float64
	Best float64 // how likely it is the best of all
}

// Prefer ranks cups by who was taken over whom: won[i][j] is how often i was preferred to j. Model: Bradley and Terry
// (1952), Rank analysis of incomplete block designs; the most likely strengths under a normal prior, by Newton's
// method, with their spread from the curvature there.
func Prefer(won [][]float64) ([]Strength, error) { return prefer(won, priorLog) }

func prefer(won [][]float64, prior float64) ([]Strength, error) {
	n, picks := len(won), 0.0
	if n < 2 {
		return nil, ErrPicks
	}
	for i := range won {
		for j, w := range won[i] {
			if w < 0 || w != math.Trunc(w) || i == j && w != 0 {
				return nil, ErrPicks
			}
			picks += w
		}
	}
	if picks < 1 || picks > mostPicks {
		return nil, ErrPicks
	}
	theta := mat.NewVecDense(n, nil)
	var chol mat.Cholesky
	for range 100 {
		grad, curve := mat.NewVecDense(n, nil), mat.NewSymDense(n, nil)
		for i := range n {
			g, c := -theta.AtVec(i)/(prior*prior), 1/(prior*prior)
			for j := range n {
				if i == j {
					continue
				}
				games := won[i][j] + won[j][i]
				p := 1 / (1 + math.Exp(theta.AtVec(j)-theta.AtVec(i)))
				g += won[i][j] - games*p
				c += games * p * (1 - p)
				curve.SetSym(i, j, -games*p*(1-p))
			}
			grad.SetVec(i, g)
			curve.SetSym(i, i, c)
		}
		if !chol.Factorize(curve) {
			return nil, ErrPicks
		}
		var step mat.VecDense
		if err := chol.SolveVecTo(&step, grad); err != nil {
			return nil, err
		}
		theta.AddVec(theta, &step)
		if mat.Norm(&step, 2) < 1e-10 {
			break
		}
	}
	var cov mat.SymDense
	if err := chol.InverseTo(&cov); err != nil {
		return nil, err
	}
	return strengths(theta, &cov)
}

// draws is how many times the strengths are drawn to see which is best; the seed is fixed, so that the same picks
// give the same answer.
const draws = 20000

func strengths(theta *mat.VecDense, cov *mat.SymDense) ([]Strength, error) {
	n := theta.Len()
	mean := mat.Sum(theta) / float64(n)
	out := make([]Strength, n)
	for i := range out {
		out[i] = Strength{Log: theta.AtVec(i) - mean, SD: math.Sqrt(cov.At(i, i))}
	}
	normal, ok := distmv.NewNormal(theta.RawVector().Data, cov, rand.NewPCG(1, 2))
	if !ok {
		return nil, ErrPicks
	}
	x := make([]float64, n)
	for range draws {
		normal.Rand(x)
		best := 0
		for i := range x {
			if x[i] > x[best] {
				best = i
			}
		}
		out[best].Best += 1.0 / draws
	}
	return out, nil
}

// ErrScores is said of scores that cannot be used.
var ErrScores = errors.New("scores of three amounts or more, four in all at least, for instance 6 7 5")

// Optimum is the amount that tastes best by the scores of several.
type Optimum struct {
	Best      float64
	Low, High float64 // eight times in ten
	Found     bool    // false: no difference was found in the range that was tried
}

// Best fits a parabola through the scores of amounts and finds its top, by least squares. Where the fit has no top
// within the range, or it could lie anywhere in it, nothing is found. The interval is by the delta method with
// Student's t. Source: any book on response surfaces.
func Best(amounts, scores []float64) (Optimum, error) {
	n := len(scores)
	levels := map[float64]bool{}
	least, most := math.Inf(1), math.Inf(-1)
	for _, a := range amounts {
		levels[a] = true
		least, most = math.Min(least, a), math.Max(most, a)
	}
	if n != len(amounts) || n < 4 || len(levels) < 3 || n > mostPicks {
		return Optimum{}, ErrScores
	}
	half, middle := (most-least)/2, (most+least)/2
	x, y := mat.NewDense(n, 3, nil), mat.NewVecDense(n, scores)
	for k, a := range amounts {
		u := (a - middle) / half // -1 to 1
		x.SetRow(k, []float64{1, u, u * u})
	}
	var gram mat.SymDense
	gram.SymOuterK(1, x.T())
	var chol mat.Cholesky
	if !chol.Factorize(&gram) {
		return Optimum{}, ErrScores
	}
	var rhs, b, fitted mat.VecDense
	rhs.MulVec(x.T(), y)
	if err := chol.SolveVecTo(&b, &rhs); err != nil {
		return Optimum{}, err
	}
	fitted.MulVec(x, &b)
	fitted.SubVec(y, &fitted)
	variance := mat.Dot(&fitted, &fitted) / math.Max(1, float64(n-3))
	var inverse mat.SymDense
	if err := chol.InverseTo(&inverse); err != nil {
		return Optimum{}, err
	}
	b1, b2 := b.AtVec(1), b.AtVec(2)
	if b2 >= 0 {
		return Optimum{}, nil
	}
	at := -b1 / (2 * b2)
	d1, d2 := -1/(2*b2), b1/(2*b2*b2)
	sd := math.Sqrt(variance * (d1*d1*inverse.At(1, 1) + 2*d1*d2*inverse.At(1, 2) + d2*d2*inverse.At(2, 2)))
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: math.Max(1, float64(n-3))}.Quantile(0.9)
	lo, hi := at-t*sd, at+t*sd
	o := Optimum{Best: middle + half*at, Low: middle + half*math.Max(-1, lo), High: middle + half*math.Min(1, hi)}
	o.Found = at > -1 && at < 1 && !(lo <= -1 && hi >= 1)
	return o, nil
}

// Words say what was found, with a unit.
func (o Optimum) Words(unit string) string {
	if !o.Found {
		return "No best amount is found among these: they taste alike, or the best lies beyond them."
	}
	return fmt.Sprintf("Best at %.3g %s; eight times in ten between %.3g and %.3g %s.", o.Best, unit, o.Low, o.High, unit)
}
