package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/reader"
)

// Baker's percentages by the trade's convention: flour is 100, whatever it is.
// Figures worked by hand.
func TestBakersView(t *testing.T) {
	cases := []struct{ name, text, summary, base, counted string }{
		{"a lean dough", "Loaf\n400 g strong white flour\n100 g wholemeal flour\n340 g water\n10 g salt\n5 g instant yeast",
			"flour 100 %, water 68 %, yeast 1 %, salt 2 %", "500 g", "strong white bread flour, wholemeal flour"},
		{"almonds are the flour", "Cake\n200 g ground almonds\n100 g caster sugar\n4 eggs", "flour 100 %, water 76 %, sugar 50 %, fat 9.5 %, egg 100 %", "200 g", "ground almonds"},
	}
	for _, c := range cases {
		rd, err := reader.Read(c.text, reader.Options{})
		require.NoError(t, err, c.name)
		v := bakersOf(rd.Recipe, larder.Builtin())
		require.NotNil(t, v, c.name)
		assert.Equal(t, c.summary, v.Summary, c.name)
		assert.Equal(t, c.base, v.Base, c.name)
		assert.Equal(t, c.counted, v.Counted, c.name)
	}
	rd, err := reader.Read("Squares\nFor the topping:\n100 g icing sugar\nFor the cake:\n100 g plain flour\n50 g butter", reader.Options{})
	require.NoError(t, err)
	v := bakersOf(rd.Recipe, larder.Builtin())
	assert.Len(t, v.Rows, 2, "the topping is left out")
	rd, err = reader.Read("Meringue\n3 egg whites\n150 g caster sugar", reader.Options{})
	require.NoError(t, err)
	assert.Nil(t, bakersOf(rd.Recipe, larder.Builtin()), "nothing counts as flour")
}
