package adapt_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/reader"
)

// By hand at 1800 m (5906 ft): powder loses an eighth to a quarter, sugar 0 to 2 of 16
// tablespoons, milk gains 2 to 4 of 16.
func TestAtAltitude(t *testing.T) {
	rd, err := reader.Read("Lemon squares\n240 g plain flour\n200 g sugar\n8 g baking powder\n160 g milk\n100 g butter\n2 eggs\n\nBake at 175 °C for 30 minutes in a 20 cm square tin.", reader.Options{})
	require.NoError(t, err)
	a := adapt.AtAltitude(rd.Recipe, 1800, larder.Builtin())
	require.NotNil(t, a)
	got := map[larder.ID][2]float64{}
	for _, c := range a.Changes {
		got[c.ID] = [2]float64{c.Low, c.High}
	}
	require.Len(t, got, 3)
	for id, want := range map[larder.ID][2]float64{"sugar": {175, 200}, "baking-powder": {6, 7}, "milk": {180, 200}} {
		assert.InDeltaSlice(t, want[:], []float64{got[id][0], got[id][1]}, 0.01, string(id))
	}
	assert.InDelta(t, 8.3, float64(a.Hotter[0]), 0.1, "15 °F")
	assert.Nil(t, adapt.AtAltitude(rd.Recipe, 600, larder.Builtin()))
	higher := adapt.AtAltitude(rd.Recipe, 2600, larder.Builtin())
	assert.InDelta(t, 6, higher.Changes[1].High, 0.01, "above 7000 ft a quarter of the powder goes")
}
