package tasting_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/tasting"
)

// By hand: all three of three by chance is 1/27; five or more of eight is (56·8 + 28·4 + 8·2 + 1)/6561.
func TestTrianglesByHand(t *testing.T) {
	for _, c := range []struct {
		right, of int
		chance    float64
		words     string
	}{
		{3, 3, 1.0 / 27, "3 of 3 right: they can tell. By chance it would be so once in 27."},
		{5, 8, 577.0 / 6561, "5 of 8 right: could be chance, 1 in 11."},
		{0, 6, 1, "0 of 6 right: no more than guessing gives."},
		{1, 1, 1.0 / 3, "1 of 1 right: could be chance, 1 in 3."},
		{1, 2, 5.0 / 9, "1 of 2 right: no more than guessing gives."},
		{8, 14, 0.0576163, "8 of 14 right: could be chance, 1 in 17."},
	} {
		got, err := tasting.Tri(c.right, c.of)
		require.NoError(t, err)
		assert.InDelta(t, c.chance, got.Chance, 1e-6)
		assert.Equal(t, tasting.Needed(0.3, 0.05, 0.8), got.Tasters)
		assert.Equal(t, c.words, got.Words())
	}
	for _, bad := range [][2]int{{1, 0}, {-1, 3}, {4, 3}, {1, 2001}} {
		_, err := tasting.Tri(bad[0], bad[1])
		assert.ErrorIs(t, err, tasting.ErrTasters)
	}
}

// The least right answers at 5 % of ISO 4120's table, from memory.
func TestRightAnswersThatAreWanted(t *testing.T) {
	for n, want := range map[int]int{3: 3, 5: 4, 6: 5, 8: 6, 10: 7, 12: 8, 15: 9, 20: 11, 24: 13, 30: 15} {
		assert.Equal(t, want, tasting.RightWanted(n, 0.05), "%d tasters", n)
	}
	assert.Equal(t, 3, tasting.RightWanted(2, 0.05), "two are never enough")
}

// More tasters find smaller differences; a smaller risk wants more of them.
func TestHowManyTastersWouldDo(t *testing.T) {
	n := tasting.Needed(0.3, 0.05, 0.8)
	assert.InDelta(t, 38, n, 3, "ISO 4120, from memory: 39 with the same risks")
	assert.Greater(t, tasting.Needed(0.2, 0.05, 0.8), n)
	assert.Less(t, tasting.Needed(0.5, 0.05, 0.8), n)
	assert.Greater(t, tasting.Needed(0.3, 0.01, 0.8), n)
	assert.Greater(t, tasting.Needed(0.3, 0.05, 0.95), n)
	assert.Equal(t, tasting.MostTasters, tasting.Needed(0, 0.05, 0.8), "nobody tastes it")
}

// Each order as often as any other, no code twice, the odd one marked; by its seed the same again.
func TestCards(t *testing.T) {
	cards, err := tasting.Cards(24, 5)
	require.NoError(t, err)
	orders, codes, places := map[[3]byte]int{}, map[string]bool{}, map[int]int{}
	for _, c := range cards {
		orders[c.Of]++
		places[c.Odd]++
		for k, code := range c.Codes {
			assert.Regexp(t, `^[1-9]\d\d$`, code)
			assert.False(t, codes[code], code)
			codes[code] = true
			if k != c.Odd {
				assert.NotEqual(t, c.Of[c.Odd], c.Of[k])
			}
		}
	}
	assert.Len(t, orders, 6)
	for o, n := range orders {
		assert.Equal(t, 4, n, string(o[:]))
	}
	assert.Equal(t, map[int]int{0: 8, 1: 8, 2: 8}, places)
	again, _ := tasting.Cards(24, 5)
	assert.Equal(t, cards, again)
	other, _ := tasting.Cards(24, 6)
	assert.NotEqual(t, cards, other)
	for _, n := range []int{2, 121, -1} {
		_, err := tasting.Cards(n, 1)
		assert.ErrorIs(t, err, tasting.ErrCards)
	}
	most, err := tasting.Cards(120, 1)
	require.NoError(t, err)
	assert.Len(t, most, 120)
}
