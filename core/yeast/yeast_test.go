package yeast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/measure"
	"kollaris/core/yeast"
)

// By hand: 3 × 26 - (20 + 20 + 6) = 32; 4 × 26 - (20 + 20 + 24 + 6) = 34 with a starter.
func TestWaterForADough(t *testing.T) {
	for _, c := range []struct {
		dough, friction measure.Celsius
		terms           []measure.Celsius
		water           measure.Celsius
		says            string
	}{
		{26, yeast.ByHand, []measure.Celsius{20, 20}, 32, ""},
		{26, yeast.ByHand, []measure.Celsius{20, 20, 24}, 34, ""},
		{26, yeast.ByMachine, []measure.Celsius{28, 30}, 6, ""},
		{24, yeast.ByMachine, []measure.Celsius{30, 32}, 2, "ice water"},
		{28, yeast.ByHand, []measure.Celsius{16, 14}, 48, "before the yeast meets it"},
		{30, yeast.ByHand, []measure.Celsius{8, 10}, 54, "would have to be 66 °C"},
	} {
		water, say := yeast.Water(measure.Kitchen{}, c.dough, c.friction, c.terms...)
		assert.Equal(t, c.water, water)
		if c.says == "" {
			assert.Empty(t, say)
		}
		assert.Contains(t, say, c.says)
	}
}

func TestWhatSlowsYeast(t *testing.T) {
	assert.Empty(t, yeast.Slows(4, 2))
	assert.Len(t, yeast.Slows(7, 2), 1)
	sweet := yeast.Slows(14, 2.6)
	assert.Contains(t, sweet[0], "a quarter to a half more yeast")
	assert.Contains(t, sweet[1], "2.6 %")
}

// By hand: nine degrees cooler take twice as long, a fridge eight times; past 35 °C nothing is
// gained. Source: common practice, the rate doubles in 8 to 10 °C.
func TestHowLongAProofTakes(t *testing.T) {
	for _, c := range []struct{ at, written, want float64 }{
		{24, 24, 1}, {15, 24, 2}, {33, 24, 0.5}, {24, 33, 2}, {20, 24, 1.361}, {4, 24, 8}, {8, 24, 8}, {11.5, 24, 5}, {35, 24, 0.429}, {45, 24, 0.429},
	} {
		assert.InDelta(t, c.want, yeast.Pace(measure.Celsius(c.at), measure.Celsius(c.written)), 0.001, "%v", c)
	}
	last := 100.0
	for at := 0.0; at < 45; at += 0.5 {
		p := yeast.Pace(measure.Celsius(at), yeast.Usual)
		assert.LessOrEqual(t, p, last, "warmer is never slower: %g °C", at)
		last = p
	}
}

// By hand, from the trade's figures: half the yeast 2^0.9; half as long again at 15 % sugar and
// twice at 20; 1.15 for each half per cent of salt above two; 1.3 where it is rich.
func TestWhatSlowsARise(t *testing.T) {
	for _, c := range []struct {
		d    yeast.Dough
		want float64
	}{
		{yeast.Dough{}, 1}, {yeast.Dough{Yeast: 1, Sugar: 5, Salt: 2, Rich: 10}, 1},
		{yeast.Dough{Yeast: 0.5}, 1.866}, {yeast.Dough{Yeast: 2}, 0.536},
		{yeast.Dough{Yeast: 1, Sugar: 10}, 1.25}, {yeast.Dough{Yeast: 1, Sugar: 15}, 1.5}, {yeast.Dough{Yeast: 1, Sugar: 20}, 2},
		{yeast.Dough{Yeast: 1, Sugar: 90}, 3.5},
		{yeast.Dough{Yeast: 1, Salt: 2.5}, 1.15}, {yeast.Dough{Yeast: 1, Salt: 3}, 1.3225}, {yeast.Dough{Yeast: 1, Salt: 50}, 3.059},
		{yeast.Dough{Yeast: 1, Rich: 17.5}, 1.15}, {yeast.Dough{Yeast: 1, Rich: 25}, 1.3}, {yeast.Dough{Yeast: 1, Rich: 80}, 1.3},
		{yeast.Dough{Yeast: 0.5, Sugar: 15, Rich: 40}, 3.639},
	} {
		assert.InDelta(t, c.want, c.d.Slow(), 0.001, "%+v", c.d)
	}
	assert.InDelta(t, 7.0, 21*yeast.Instant("fresh-yeast"), 0.001)
	assert.InDelta(t, 6.0, 8*yeast.Instant("active-dry-yeast"), 0.001)
	assert.Equal(t, 1.0, yeast.Instant("instant-yeast"))
}
