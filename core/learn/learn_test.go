package learn_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/learn"
)

// Truths drawn from the prior: the error falls as one over the root of the bakes once there are many, and the
// stated eight in ten hold. Source of the method: conjugate normal updates, any book on Bayes.
func TestEveryKindLearnsAsItSays(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 9))
	for kind, p := range learn.Priors {
		miss := map[int]float64{}
		for _, n := range []int{1, 16, 64} {
			const houses = 3000
			held, worth := 0, 0.0
			for range houses {
				truth := p.SD * rng.NormFloat64()
				var xs []float64
				for range n {
					xs = append(xs, truth+p.Noise*rng.NormFloat64())
				}
				got := p.Learn(xs)
				lo, hi := got.Interval()
				if lo <= truth && truth <= hi {
					held++
				}
				worth += math.Abs(got.Mean - truth)
				assert.Equal(t, n, got.N)
			}
			assert.InDelta(t, 0.8, float64(held)/houses, 0.03, "%s after %d", kind, n)
			miss[n] = worth / houses
		}
		assert.InDelta(t, 2, miss[16]/miss[64], 0.25, kind)
		assert.Less(t, miss[1], 0.8*p.SD*math.Sqrt(2/math.Pi)+p.Noise, kind)
	}
}

// By hand: two bags of three tablespoons each, 0.03 more to a gram: precision 1/0.03² + 2/0.02² = 6111,
// mean 2·0.03/0.02² / 6111 = 0.0245, spread 0.0128; the prior weighs 1111 of it.
func TestABagByHand(t *testing.T) {
	p := learn.Priors[learn.Flour]
	got := p.Learn([]float64{0.03, 0.03})
	assert.InDelta(t, 0.02455, got.Mean, 1e-5)
	assert.InDelta(t, 0.01279, got.SD, 1e-5)
	assert.InDelta(t, 1111.1/6111.1, p.Weight(2), 1e-4)
	lo, hi := got.Interval()
	assert.InDelta(t, 0.02455-1.2816*0.01279, lo, 1e-5)
	assert.InDelta(t, 0.02455+1.2816*0.01279, hi, 1e-5)
	doubted := p.Learn([]float64{0.03}, 0.02)
	assert.InDelta(t, 0.03/0.0008/(1/0.0009+1/0.0008), doubted.Mean, 1e-9, "as far off again: half as much is learned")
	nothing := p.Learn(nil)
	assert.Zero(t, nothing.Mean)
	assert.Equal(t, p.SD, nothing.SD)
	assert.Equal(t, 1.0, p.Weight(0))
}

func TestAPaceInWords(t *testing.T) {
	assert.Equal(t, "Your last 3 bakes of it took longer: this is 8 % more.", learn.Pace{Log: math.Log(1.08), Bakes: 3}.Words())
	assert.Equal(t, "Your last bake of it took less time: this is 5 % less.", learn.Pace{Log: math.Log(0.95), Bakes: 1}.Words())
	assert.Equal(t, "Your last 2 bakes of it took as long as foretold.", learn.Pace{Bakes: 2}.Words())
	assert.InDelta(t, 1.08, learn.Pace{Log: math.Log(1.08)}.Times(), 1e-12)
}

// Tables drawn from what is believed of tables, and what they say of bakes between half and all of the sweetness.
func TestATableIsLearned(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 2))
	const tables = 600
	for _, n := range []int{3, 12} {
		held, miss := 0, 0.0
		for range tables {
			best := 0.25 * rng.NormFloat64()
			var seen []learn.Seen
			for range n {
				x := -0.7 + 0.9*rng.Float64()
				said, felt := learn.JustSo, x-best+0.1*rng.NormFloat64()
				switch {
				case felt > 0.12:
					said = learn.TooSweet
				case felt < -0.12:
					said = learn.TooLittle
				}
				seen = append(seen, learn.Seen{Kind: learn.Taste, X: x, Said: said})
			}
			got := learn.LearnTaste(seen)
			lo, hi := got.Interval()
			if lo <= best && best <= hi {
				held++
			}
			miss += math.Abs(got.Mean - best)
		}
		t.Logf("after %d: off by %.3f, held %d of %d", n, miss/tables, held, tables)
		assert.InDelta(t, 0.8, float64(held)/tables, 0.05)
		assert.Less(t, miss/tables, map[int]float64{3: 0.14, 12: 0.08}[n])
	}
	some := learn.LearnTaste([]learn.Seen{{X: -0.3, Said: learn.JustSo}, {X: 0, Said: learn.TooSweet}})
	assert.Less(t, some.Mean, -0.12)
	assert.InDelta(t, some.Mean-0.12, some.Notice, 1e-12)
	assert.Greater(t, learn.LearnTaste([]learn.Seen{{X: -0.3, Said: learn.TooLittle}}).Mean, 0.0)
	none := learn.LearnTaste(nil)
	assert.InDelta(t, 0, none.Mean, 0.01)
	assert.InDelta(t, 0.25, none.SD, 0.01)
}
