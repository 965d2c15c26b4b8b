package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
	"kollaris/internal/demo/demotest"
)

// The season's story: the gas oven is learned, the small one is true; the loaf was gummy and is not any more.
func TestTheSeason(t *testing.T) {
	st, _ := demotest.Open(t)
	require.NoError(t, demo.Season(t.Context(), st))
	log, err := st.Log(t.Context(), 0)
	require.NoError(t, err)
	require.Len(t, log, 11)
	assert.Contains(t, log[10].Words, "gummy inside")
	assert.Equal(t, "cut-warm", log[10].Tried)
	assert.Equal(t, 4, log[0].Overall)
	ovens, err := st.Ovens(t.Context())
	require.NoError(t, err)
	gas, electric := ovens[0].Learned(), ovens[1].Learned()
	assert.GreaterOrEqual(t, gas.Bakes, 5, "those that were seen to be done")
	assert.Greater(t, gas.Offset, 8.0, "it runs hot")
	assert.Equal(t, 3, electric.Bakes)
	assert.Less(t, electric.TimeSD(-0.006), 0.09, "and is known better")
	assert.Greater(t, electric.Log, 0.0)
}
