package oven_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/oven"
)

// By hand, the normal with known variance: prior 0 ± 12, one reading of +12 ± 8 gives
// 12·144/(144 + 64) = 8.31 ± √(144·64/208) = 6.66.
func TestAReadingByHand(t *testing.T) {
	l := oven.NewOven().Reading(180, 192)
	assert.InDelta(t, 8.308, l.Offset, 0.001)
	assert.InDelta(t, 6.656, l.OffsetSD(), 0.001)
	assert.InDelta(t, 1, l.Factor(), 1e-12, "a thermometer says nothing of the time")
	for range 40 {
		l = l.Reading(180, 192)
	}
	assert.InDelta(t, 12, l.Offset, 0.2)
	assert.Less(t, l.OffsetSD(), 1.5)
}

// By hand: one bake of 1.2 times the time, -0.006 a degree. What is seen varies by
// 0.15² + (0.006·12)² + 0.08² = 0.034084; the factor takes 0.0225/0.034084 of ln 1.2,
// the offset -0.006·144/0.034084 of it.
func TestABakeByHand(t *testing.T) {
	l := oven.NewOven().Bake(1.2, -0.006)
	miss := math.Log(1.2)
	assert.InDelta(t, 0.0225/0.034084*miss, l.Log, 1e-4)
	assert.InDelta(t, -0.864/0.034084*miss, l.Offset, 1e-3, "slow bakes mean a cool oven")
	assert.Less(t, l.TimeSD(-0.006), oven.NewOven().TimeSD(-0.006))
}

func TestTheOrderOfWhatIsSeenDoesNotMatter(t *testing.T) {
	a := oven.NewOven().Reading(180, 195).Bake(0.9, -0.006).Reading(160, 170).Bake(1.05, -0.004)
	b := oven.NewOven().Bake(1.05, -0.004).Reading(160, 170).Reading(180, 195).Bake(0.9, -0.006)
	assert.InDelta(t, a.Offset, b.Offset, 1e-9)
	assert.InDelta(t, a.Log, b.Log, 1e-12)
	assert.InDelta(t, a.Cov, b.Cov, 1e-9)
}

// An oven that is known to run hot bakes sooner; one of which nothing is known takes as
// long as any, in a wider window.
func TestForetellingInAnOvenThatIsKnown(t *testing.T) {
	k := known(t)
	plain, err := oven.Foretell(k, k)
	require.NoError(t, err)
	unknown, hot := k, k
	unknown.Learned = oven.NewOven()
	hot.Learned = oven.NewOven()
	for range 6 {
		hot.Learned = hot.Learned.Reading(180, 195)
	}
	u, err := oven.Foretell(k, unknown)
	require.NoError(t, err)
	assert.InDelta(t, plain.Minutes, u.Minutes, 1e-6)
	assert.Less(t, u.Low, plain.Low)
	h, err := oven.Foretell(k, hot)
	require.NoError(t, err)
	assert.InDelta(t, 0.91, h.Minutes/plain.Minutes, 0.05, "14 °C hotter")
	assert.Greater(t, h.Low/h.Minutes, u.Low/u.Minutes, "and the window is narrower again")
}

// By hand: two bakes that both took e^0.1 as long. Without learning each is off by a tenth; with it the second is
// off by what the first left over: the prior's 0.15² of 0.15² + 0.08² is taken in.
func TestHindsightByHand(t *testing.T) {
	seen := []oven.Seen{{Ratio: math.Exp(0.1)}, {Ratio: math.Exp(0.1)}}
	without, with := oven.Hindsight(oven.NewOven(), seen)
	assert.InDelta(t, math.Expm1(0.1), without, 1e-9)
	gain := 0.0225 / (0.0225 + 0.0064)
	assert.InDelta(t, math.Expm1((0.1+0.1*(1-gain))/2), with, 1e-9)
	without, with = oven.Hindsight(oven.NewOven(), nil)
	assert.Zero(t, without+with)
	hot := oven.Learned{Offset: 10, VarOff: 1, VarLog: 1e-6}
	without, _ = oven.Hindsight(hot, []oven.Seen{{Ratio: math.Exp(-0.06), PerDegree: -0.006}})
	assert.InDelta(t, 0, without, 1e-9, "its heat tells it all")
}

// Ovens drawn from what is believed of them, baked in with the spread that is stated: the time's error falls about
// as one over the root of the bakes, and the stated interval of eight in ten holds in 75 to 85 of a hundred.
func TestOvensAreLearned(t *testing.T) {
	rnd := rand.New(rand.NewPCG(17, 4))
	const ovens, slope = 600, -0.006
	errs, held := map[int]float64{}, map[int]int{}
	for range ovens {
		truth := slope*oven.PriorOffset*rnd.NormFloat64() + 0.15*rnd.NormFloat64()
		l := oven.NewOven()
		for n := 1; n <= 16; n++ {
			l = l.Bake(math.Exp(truth+0.08*rnd.NormFloat64()), slope)
			if n == 1 || n == 4 || n == 16 {
				miss := truth - slope*l.Offset - l.Log
				errs[n] += miss * miss
				if math.Abs(miss) < 1.2816*l.TimeSD(slope) {
					held[n]++
				}
			}
		}
	}
	rms := func(n int) float64 { return math.Sqrt(errs[n] / ovens) }
	t.Logf("error after 1, 4, 16 bakes: %.3f %.3f %.3f; held %v of %d", rms(1), rms(4), rms(16), held, ovens)
	assert.InDelta(t, 0.5, rms(4)/rms(1), 0.12)
	assert.InDelta(t, 0.5, rms(16)/rms(4), 0.1)
	for n, k := range held {
		assert.InDelta(t, 0.8, float64(k)/ovens, 0.05, "after %d", n)
	}
}

// Three bakes after six, by hand: all that is known of the pace is those six. Ovens that stay as they were are asked
// about once in twenty; one whose bakes take a quarter longer is found nearly always.
func TestAnOvenThatChanged(t *testing.T) {
	start := oven.Learned{VarLog: 0.15 * 0.15} // its heat is known
	seen := func(ratios ...float64) (out []oven.Seen) {
		for _, r := range ratios {
			out = append(out, oven.Seen{Ratio: r})
		}
		return out
	}
	longer, ok := oven.Drift(start, seen(1, 1, 1, 1, 1, 1, 1.2, 1.2, 1.2))
	assert.InDelta(t, 0.2, longer, 1e-9)
	assert.True(t, ok, "0.18 against 2 · √(0.08²/3 + 0.032²) = 0.11")
	longer, ok = oven.Drift(start, seen(1, 1, 1, 1, 1, 1, 1.1, 1.1, 1.1))
	assert.InDelta(t, 0.1, longer, 1e-9)
	assert.False(t, ok)
	_, ok = oven.Drift(start, seen(1, 1, 1.9, 1.9, 1.9))
	assert.False(t, ok, "too few before")
	rng := rand.New(rand.NewPCG(6, 1))
	asked, found := 0, 0
	const ovens = 2000
	for range ovens {
		truth := 0.15 * rng.NormFloat64()
		var same, other []oven.Seen
		for n := range 9 {
			x := truth + 0.08*rng.NormFloat64()
			same = append(same, oven.Seen{Ratio: math.Exp(x)})
			if n > 5 {
				x += math.Log(1.25)
			}
			other = append(other, oven.Seen{Ratio: math.Exp(x)})
		}
		if _, ok := oven.Drift(start, same); ok {
			asked++
		}
		if _, ok := oven.Drift(start, other); ok {
			found++
		}
	}
	assert.InDelta(t, 0.045, float64(asked)/ovens, 0.015)
	assert.Greater(t, float64(found)/ovens, 0.95)
}
