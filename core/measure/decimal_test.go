package measure_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
)

func TestParseDecimal(t *testing.T) {
	for typed, want := range map[string]float64{
		"14": 14, " 2.5 ": 2.5, "2,5": 2.5, "0,35": .35, "2.": 2, ".5": .5, ",5": .5,
		"1,000": 1000, "12,500 g": 12500, "0,125": .125, "1,25": 1.25, "1.000": 1,
		"-10": -10, "−10": -10, "–2,5": -2.5, "+3": 3,
		"14 g": 14, "14g": 14, "14 G": 14, "140 mg": 140,
		"½": .5, "1½": 1.5, "1 1/2": 1.5, "3/4 g": .75, "5e-05": .00005,
	} {
		x, err := measure.ParseDecimal(typed, "mg", "g")
		require.NoError(t, err, typed)
		assert.Equal(t, want, x, typed)
	}
	for _, typed := range []string{
		"", " ", "g", "-", "--3", "-+3", "+-3", "NaN", "inf", "0x10", "1_000", "2 3", "2-3", "1.2.3",
		"14 oz", "14 g g", "1e", "e5", "1e999", "1/0", "a few of them", "12 g or so",
	} {
		_, err := measure.ParseDecimal(typed, "g")
		assert.Error(t, err, "%q", typed)
	}
	_, err := measure.ParseDecimal("14 mg", "g")
	assert.EqualError(t, err, "“14 mg” is no number: try one such as 14 or 2.5", "a unit that was not asked for is no unit")
}

// FuzzParseDecimal: what a field takes is finite, and is taken again as it is written.
func FuzzParseDecimal(f *testing.F) {
	for _, s := range []string{"14 g", "2,5", "1 1/2", "-10", "1,000", "5e-05"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, typed string) {
		x, err := measure.ParseDecimal(typed, "g")
		if err != nil {
			return
		}
		require.False(t, math.IsNaN(x) || math.IsInf(x, 0), typed)
		again, err := measure.ParseDecimal(fmt.Sprintf("%g g", x), "g")
		require.NoError(t, err, typed)
		assert.Equal(t, x, again, typed)
	})
}
