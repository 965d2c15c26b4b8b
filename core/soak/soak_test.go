package soak_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
	"kollaris/core/soak"
)

// By hand: 250 g of fruit takes up 75 to 150 g; juice boiled down to half weighs half and is twice as
// sweet.
func TestASoak(t *testing.T) {
	for _, c := range []struct {
		of       soak.Asked
		min, max float64
		poured   measure.Grams
		left     [2]measure.Grams
		sugars   float64
		little   bool
	}{
		{soak.Asked{Fruit: 250, Liquid: 200, Sugars: 10, In: soak.Juice}, 60, 240, 200, [2]measure.Grams{50, 125}, 10, false},
		{soak.Asked{Fruit: 250, Liquid: 150, In: soak.Tea, Whole: true}, 480, 1440, 150, [2]measure.Grams{0, 75}, 0, false},
		{soak.Asked{Fruit: 250, Liquid: 149, In: soak.Tea}, 240, 480, 149, [2]measure.Grams{0, 74}, 0, true},
		{soak.Asked{Fruit: 250, Liquid: 60, In: soak.Juice, Whole: true}, 480, 840, 60, [2]measure.Grams{0, 0}, 0, true},
		{soak.Asked{Fruit: 300, Liquid: 400, Sugars: 11, In: soak.Reduced}, 1440, 2880, 200, [2]measure.Grams{20, 110}, 22, false},
		{soak.Asked{Fruit: 300, Liquid: 400, Sugars: 60, In: soak.Reduced, Whole: true}, 1440, 4320, 200, [2]measure.Grams{20, 110}, 90, false},
		{soak.Asked{Fruit: 100, Liquid: 100, In: soak.Spirit}, 2880, 10080, 100, [2]measure.Grams{40, 70}, 0, false},
	} {
		r, err := soak.Of(c.of)
		require.NoError(t, err)
		assert.Equal(t, [2]float64{c.min, c.max}, [2]float64{r.Time.Min, r.Time.Max}, "%+v", c.of)
		assert.Equal(t, c.poured, r.Poured)
		assert.InDelta(t, float64(c.left[0]), float64(r.Left[0]), 1e-9)
		assert.InDelta(t, float64(c.left[1]), float64(r.Left[1]), 1e-9)
		assert.Equal(t, c.sugars, r.Sugars)
		assert.Equal(t, c.little, r.TooLittle)
	}
	for _, w := range soak.Ways {
		assert.Equal(t, w.ID == soak.Reduced || w.ID == soak.Spirit, w.Shake, w.ID)
		assert.Equal(t, w.ID != soak.Spirit, w.Fridge, "only what is under spirit stands at the room’s warmth")
		assert.LessOrEqual(t, w.Chopped.Max, w.Whole.Max)
	}
}

func TestWhatCannotBeSoaked(t *testing.T) {
	good := soak.Asked{Fruit: 1, Liquid: 20000, Sugars: 90, In: soak.Juice}
	_, err := soak.Of(good)
	require.NoError(t, err)
	for _, sugars := range []float64{-0.1, math.NaN()} {
		bad := good
		bad.Sugars = sugars
		_, err := soak.Of(bad)
		assert.ErrorIs(t, err, soak.ErrSugars)
	}
	for want, change := range map[error]func(*soak.Asked){
		soak.ErrFruit: func(a *soak.Asked) { a.Fruit = 0 }, soak.ErrLiquid: func(a *soak.Asked) { a.Liquid = 20001 },
		soak.ErrSugars: func(a *soak.Asked) { a.Sugars = 90.1 }, soak.ErrWay: func(a *soak.Asked) { a.In = "milk" },
	} {
		bad := good
		change(&bad)
		_, err := soak.Of(bad)
		assert.ErrorIs(t, err, want)
	}
}
