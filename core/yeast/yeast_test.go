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
