package recipe

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
)

func TestTheTableOfKinds(t *testing.T) {
	require.Len(t, Kinds, 19)
	seen := map[Kind]bool{}
	for _, k := range Kinds {
		assert.False(t, seen[k.ID], k.ID)
		seen[k.ID] = true
		assert.True(t, k.Like.Known(), k.ID)
		assert.Greater(t, k.Density, 0.2, k.ID)
		assert.GreaterOrEqual(t, k.Expansion, 1.0, k.ID)
		assert.True(t, k.Done >= 70 && k.Done <= 99, k.ID)
		assert.True(t, k.Loss > 0.03 && k.Loss < 0.4, k.ID)
		assert.True(t, k.Oven >= 100 && k.Oven <= 230, k.ID)
		assert.LessOrEqual(t, k.Ovens[0], k.Ovens[1], k.ID)
		for _, d := range [][2]int{k.Room, k.Fridge, k.Freezer, k.Best} {
			assert.LessOrEqual(t, d[0], d[1], k.ID)
		}
		assert.NotEmpty(t, k.Stands+k.Tin+k.KeepsAs, k.ID)
	}
}

func TestWhatTheTradeSaysOfAKind(t *testing.T) {
	s := Scone.Trade()
	assert.Equal(t, []any{"scones", Scone, false, 1.1, 2.0, measure.Celsius(92), 3.6, 6.2, 0.11, measure.Celsius(210), [2]measure.Celsius{180, 240}, "baking sheet", "each", true, "tacky", true, "small", false},
		[]any{s.Words, s.Like, s.Yeast, s.Density, s.Expansion, s.Done, s.Thick, s.Across, s.Loss, s.Oven, s.Ovens, s.Tin, s.Pieces, s.Upright, s.Stands, s.Dough, s.Cools, s.Moist})
	assert.Equal(t, [4][2]int{{1, 2}, {0, 0}, {60, 60}, {0, 0}}, [4][2]int{s.Room, s.Fridge, s.Freezer, s.Best})
	assert.True(t, LeanBread.Yeasted() && RichBread.Yeasted() && !SodaBread.Yeasted())
	assert.Equal(t, []Kind{AllInCake, Biscuit, QuickBread, Scone}, []Kind{Sponge.Like(), Pastry.Like(), Griddle.Like(), Scone.Like()})
	assert.Equal(t, QuickBread.Trade(), Kind("no such").Trade(), "what is not settled is taken for a quick bread")
	assert.Equal(t, []any{"not settled", false, false, Kind("x")}, []any{Kind("x").Words(), Kind("x").Known(), Kind("x").Yeasted(), Kind("x").Like()})
}

func TestKindsAreRefusedWithTheirLine(t *testing.T) {
	head, row, _ := strings.Cut(kindFile, "\n")
	row, _, _ = strings.Cut(row, "\n")
	for from, want := range map[string]string{
		"1.75": "kind.csv:2: expansion: \"much\" is no figure", "practice": "kind.csv:2: source",
	} {
		_, err := readKinds(head + "\n" + strings.Replace(row, from, "much", 1) + "\n")
		assert.ErrorContains(t, err, want)
	}
	_, err := readKinds("kind\na,b\n")
	assert.ErrorContains(t, err, "kind.csv: ")
	assert.Panics(t, func() { mustKinds(readKinds("kind\na,b\n")) })
}
