package trial_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/reader"
	"kollaris/core/trial"
)

const squares = "Squares\nServes 12\nIngredients\n200 g plain flour\n100 g sugar\n14 g ground flaxseed\n80 g sunflower oil\n200 g oat milk\n6 g baking powder\nMethod\n1. Mix and bake at 180 C for 30 minutes in a 20 cm square tin."

func adapted(t *testing.T) (*adapt.Result, adapt.Kit) {
	t.Helper()
	kit := adapt.DefaultKit()
	rd, err := reader.Read(squares, reader.Options{})
	require.NoError(t, err)
	res, err := adapt.Adapt(rd.Recipe, adapt.Request{}, kit)
	require.NoError(t, err)
	return res, kit
}

// By hand: 600 g of batter, three cups of 70 g: the bowl is 0.35 of all but the flax, and a cup gets 10, 14 or
// 18 g · 70/600.
func TestThreeCupsFromOneBowl(t *testing.T) {
	res, kit := adapted(t)
	p, err := trial.Cups(res, []trial.Vary{{Food: "flax-ground", Tried: []float64{18, 10, 14, 14}}}, 7, kit)
	require.NoError(t, err)
	require.Len(t, p.Cups, 3)
	codes, of := map[string]bool{}, map[float64]float64{}
	for _, c := range p.Cups {
		codes[c.Code], of[c.Of[0]] = true, c.Adds[0]
	}
	assert.Len(t, codes, 3)
	for tried, adds := range map[float64]float64{10: 70. / 60, 14: 98. / 60, 18: 126. / 60} {
		assert.InDelta(t, adds, of[tried], 1e-9)
	}
	assert.Equal(t, "plain flour", p.Bowl[0].Name)
	assert.InDelta(t, 70, p.Bowl[0].Grams, 1e-9)
	for _, a := range p.Bowl {
		assert.NotEqual(t, "flax-ground", string(a.Food))
	}
	assert.InDelta(t, 586*0.35/3, p.Share, 1e-9)
	assert.Empty(t, p.Faint)
	require.NotNil(t, p.Res.Bake)
	assert.Less(t, p.Res.Bake.Minutes, 30.0, "small cups are done sooner")
	again, err := trial.Cups(res, []trial.Vary{{Food: "flax-ground", Tried: []float64{10, 14, 18}}}, 7, kit)
	require.NoError(t, err)
	assert.Equal(t, p.Cups, again.Cups, "the same seed lays them out alike")
}

func TestTwoAmountsAtOnce(t *testing.T) {
	res, kit := adapted(t)
	flax, milk := trial.Vary{Food: "flax-ground", Tried: []float64{14, 14.5}}, trial.Vary{Food: "oat-drink", Tried: []float64{180, 200, 220}}
	p, err := trial.Cups(res, []trial.Vary{flax, milk}, 1, kit)
	require.NoError(t, err)
	assert.Len(t, p.Cups, 6)
	assert.Contains(t, p.Faint, "less than 0.2 g of ground flaxseed")
	milk.Tried = append(milk.Tried, 240)
	for want, varies := range map[error][]trial.Vary{
		trial.ErrMany: {flax, milk}, trial.ErrFood: {{Food: "butter", Tried: []float64{1, 2}}}, trial.ErrTried: {{Food: "flax-ground", Tried: []float64{14, 14}}},
	} {
		_, err := trial.Cups(res, varies, 1, kit)
		assert.ErrorIs(t, err, want)
	}
	for _, tried := range [][]float64{{-1, 3}, {1, 9000}, {1, 2, 3, 4, 5, 6, 7}} {
		_, err := trial.Cups(res, []trial.Vary{{Food: "flax-ground", Tried: tried}}, 1, kit)
		assert.ErrorIs(t, err, trial.ErrTried)
	}
	for _, varies := range [][]trial.Vary{nil, {flax, flax}, {flax, milk, milk}} {
		_, err := trial.Cups(res, varies, 1, kit)
		assert.ErrorIs(t, err, trial.ErrFood)
	}
}
