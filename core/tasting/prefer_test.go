package tasting

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Agresti, Categorical Data Analysis (2nd edition), tables 10.10 and 10.11, as remembered: games of seven baseball
// teams of 1987, each pair thirteen times; strengths against the last.
func TestStrengthsAgainstAWorkedExample(t *testing.T) {
	won := [][]float64{
		{0, 7, 9, 7, 7, 9, 11}, {6, 0, 7, 5, 11, 9, 9}, {4, 6, 0, 7, 7, 8, 12}, {6, 8, 6, 0, 6, 7, 10}, {6, 2, 6, 7, 0, 7, 12}, {4, 4, 5, 6, 6, 0, 6},
		{2, 4, 1, 3, 1, 7, 0},
	}
	got, err := prefer(won, 1e3) // no prior to speak of
	require.NoError(t, err)
	for k, want := range []float64{1.581, 1.436, 1.294, 1.248, 1.108, 0.684, 0} {
		assert.InDelta(t, want, got[k].Log-got[6].Log, 0.002, "%d", k)
	}
}

// By hand, two cups, four to two, prior sd 2: the difference d solves 4 - 6/(1+exp(-d)) = d/8.
func TestTwoCupsByHand(t *testing.T) {
	got, err := Prefer([][]float64{{0, 4}, {2, 0}})
	require.NoError(t, err)
	d := got[0].Log - got[1].Log
	assert.InDelta(t, d/8, 4-6/(1+math.Exp(-d)), 1e-6)
	assert.InDelta(t, 0.64, d, 0.05)
	assert.InDelta(t, 1, got[0].Best+got[1].Best, 1e-9)
	assert.InDelta(t, 0.77, got[0].Best, 0.03)
	swept, err := Prefer([][]float64{{0, 5}, {0, 0}})
	require.NoError(t, err)
	assert.Less(t, swept[0].Log-swept[1].Log, 3.0, "five to none is not for ever")
	assert.Greater(t, swept[0].Best, 0.9)
	for _, bad := range [][][]float64{nil, {{0}}, {{0, 0}, {0, 0}}, {{0, -1}, {2, 0}}, {{0, 1.5}, {0, 0}}, {{1, 1}, {0, 0}}, {{0, 5001}, {0, 0}}} {
		_, err := Prefer(bad)
		assert.ErrorIs(t, err, ErrPicks)
	}
}

// Drawn cups: what is said to be best nine times in ten is best about as often.
func TestHowSureTheBestIs(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	said, was := 0.0, 0
	const trials = 150
	for range trials {
		truth := []float64{priorLog * rng.NormFloat64(), priorLog * rng.NormFloat64(), priorLog * rng.NormFloat64()}
		won := [][]float64{{0, 0, 0}, {0, 0, 0}, {0, 0, 0}}
		for range 4 {
			for i := range 3 {
				for j := range i {
					if rng.Float64() < 1/(1+math.Exp(truth[j]-truth[i])) {
						won[i][j]++
					} else {
						won[j][i]++
					}
				}
			}
		}
		got, err := Prefer(won)
		require.NoError(t, err)
		best := 0
		for i := range got {
			if got[i].Best > got[best].Best {
				best = i
			}
		}
		said += got[best].Best
		if truth[best] >= max(truth[0], truth[1], truth[2]) {
			was++
		}
	}
	assert.InDelta(t, said/trials, float64(was)/trials, 0.07)
}

// A parabola without noise gives its top exactly; a line, or noise alone, finds nothing.
func TestTheBestAmount(t *testing.T) {
	amounts := []float64{10, 10, 14, 14, 18, 18}
	score := func(a float64) float64 { return 7 - 0.1*(a-15)*(a-15) }
	var exact []float64
	for _, a := range amounts {
		exact = append(exact, score(a))
	}
	o, err := Best(amounts, exact)
	require.NoError(t, err)
	assert.InDelta(t, 15, o.Best, 1e-6)
	assert.InDelta(t, 15, o.Low, 1e-5)
	assert.True(t, o.Found)
	assert.Equal(t, "Best at 15 g; eight times in ten between 15 and 15 g.", o.Words("g"))
	for name, scores := range map[string][]float64{"rises": {1, 1, 5, 5, 9, 9}, "dips": {8, 8, 3, 3, 8, 8}, "noise": {3, 8, 8, 3, 4, 7}} {
		o, err := Best(amounts, scores)
		require.NoError(t, err, name)
		assert.False(t, o.Found, name)
		assert.Contains(t, o.Words("g"), "No best amount is found")
	}
	for _, bad := range [][2][]float64{{{1, 2, 3}, {1, 2, 3}}, {{1, 1, 2, 2}, {1, 2, 3, 4}}, {amounts, {1}}} {
		_, err := Best(bad[0], bad[1])
		assert.ErrorIs(t, err, ErrScores)
	}
}

// The stated eight in ten, on drawn scores.
func TestTheBestAmountsInterval(t *testing.T) {
	rng := rand.New(rand.NewPCG(8, 1))
	held, found := 0, 0
	for range 2000 {
		top := 12 + 4*rng.Float64()
		var amounts, scores []float64
		for _, a := range []float64{10, 12, 14, 16, 18} {
			for range 8 {
				amounts, scores = append(amounts, a), append(scores, 7-0.15*(a-top)*(a-top)+rng.NormFloat64())
			}
		}
		o, err := Best(amounts, scores)
		require.NoError(t, err)
		if o.Found {
			found++
			if o.Low <= top && top <= o.High {
				held++
			}
		}
	}
	assert.Greater(t, found, 1900)
	assert.InDelta(t, 0.8, float64(held)/float64(found), 0.05)
}
