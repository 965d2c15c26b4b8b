package adapt_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
)

// A batch three times as large is the same batter: what was solved for is three times as
// much, before a kitchen rounds it.
func TestAmountsGoWithTheBatch(t *testing.T) {
	asked, alike := 0, 0
	for name, r := range types(t) {
		for _, diets := range [][]diet.ID{
			{diet.EggFree}, {diet.DairyFree}, {diet.GlutenFree}, {diet.Keto}, {diet.Vegan, diet.GlutenFree}, {diet.LowSugar},
		} {
			one, err := adapt.Adapt(r, adapt.Request{Diets: diets}, adapt.DefaultKit())
			require.NoError(t, err)
			three, err := adapt.Adapt(r, adapt.Request{Diets: diets, Scale: 3}, adapt.DefaultKit())
			require.NoError(t, err)
			require.Equal(t, one.Refused == nil, three.Refused == nil, "%s, %v", name, diets)
			for id, w := range one.Why {
				asked++
				got := three.Why[id].Solved
				if math.Abs(3*w.Solved-got) < 0.02*3*w.Solved+0.6 {
					alike++
				} // else whole eggs and spooned soda, with what moves for them
			}
		}
	}
	t.Logf("%d of %d amounts", alike, asked)
	assert.Greater(t, asked, 300)
	assert.GreaterOrEqual(t, float64(alike)/float64(asked), 0.95)
}
