package formula

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/balance"
	"kollaris/core/recipe"
)

func bowlOf(f *Formula) Bowl {
	return Bowl{Aim: f.Recipe, Larder: lib, Kitchen: f.Kitchen, In: map[recipe.LineID]float64{}, Water: map[recipe.LineID]float64{}}
}

func (a BowlAmounts) sum(id string) BowlSum {
	for _, s := range a.Sums {
		if s.ID == id {
			return s
		}
	}
	return BowlSum{}
}

// Lines of loaf(): 1 flour 240, 2 sugar 150, 3 butter 115, 4 egg 100, 5 milk 120, 6 powder 9.2, 7 salt 3.
func TestABowlAsWorkedOutMovesNothing(t *testing.T) {
	b := bowlOf(loaf())
	b.In[1], b.In[2], b.In[4] = 240, 151, 100
	got, err := b.Solve()
	require.NoError(t, err)
	assert.Empty(t, got.Moves)
	assert.Equal(t, 151.0, got.Grams[2])
	assert.Equal(t, 120.0, got.Grams[5])
	for _, s := range got.Sums {
		assert.Zero(t, s.Off, s.ID)
		assert.Equal(t, s.Is, s.Then, s.ID)
	}
}

func TestWaterThatCameWithTheFruitGoesFromTheMilk(t *testing.T) {
	for _, water := range []float64{60, -60} {
		b := bowlOf(loaf())
		b.In[1], b.In[4] = 240, 100
		b.Water[4] = water
		got, err := b.Solve()
		require.NoError(t, err)
		w := got.sum("water")
		assert.NotZero(t, w.Off)
		assert.InDelta(t, w.Aim+water, w.Is, 1e-9)
		assert.Zero(t, w.Miss)
		require.NotEmpty(t, got.Moves)
		m := got.Moves[0]
		assert.Equal(t, recipe.LineID(5), m.Line)
		assert.False(t, m.More)
		assert.Equal(t, 120.0, m.From)
		assert.InDelta(t, 120-water/0.881, m.To, 12, "what a window of 3.5 %% leaves")
		assert.Equal(t, m.To, got.Grams[5])
	}
}

// Held lines stay; what is in is only added to.
func TestWhatIsHeldStaysAndWhatIsInIsAddedTo(t *testing.T) {
	b := bowlOf(loaf())
	b.Water[4], b.Held = -40, []recipe.LineID{5}
	b.In[1] = 240
	got, err := b.Solve()
	require.NoError(t, err)
	for _, m := range got.Moves {
		assert.NotContains(t, []recipe.LineID{5}, m.Line)
	}
	b = bowlOf(loaf())
	for n, g := range []float64{240, 150, 115, 100, 120, 9.2, 3} {
		b.In[recipe.LineID(n+1)] = g
	}
	b.Water[4] = -40
	got, err = b.Solve()
	require.NoError(t, err)
	require.NotEmpty(t, got.Moves)
	for _, m := range got.Moves {
		assert.True(t, m.More)
		assert.Greater(t, m.To, m.From)
		assert.Equal(t, m.To, got.Grams[m.Line])
	}
	assert.Equal(t, recipe.LineID(5), got.Moves[0].Line)
	assert.Zero(t, got.sum("water").Miss)

	b.Water[4] = 60 // too wet, and all is in: only flour is left
	got, err = b.Solve()
	require.NoError(t, err)
	require.Len(t, got.Moves, 1)
	assert.Equal(t, recipe.LineID(1), got.Moves[0].Line)
	assert.InDelta(t, 48, got.Moves[0].To-got.Moves[0].From, 1, "a fifth, no more")
	assert.Positive(t, got.sum("water").Miss, "and it is said")
}

func TestSugarThatIsInTwiceStaysTooSweet(t *testing.T) {
	b := bowlOf(loaf())
	b.In[2] = 300
	got, err := b.Solve()
	require.NoError(t, err)
	assert.InDelta(t, 150, got.sum("sweet").Then-got.sum("sweet").Aim, 3)
	assert.InDelta(t, got.sum("sweet").Then-1.08*got.sum("sweet").Aim, got.sum("sweet").Miss, 2)
	b.Extra = []balance.Item{{Ingredient: lib.Get("sugar"), Grams: 100}}
	got, err = b.Solve()
	require.NoError(t, err)
	assert.InDelta(t, 250, got.sum("sweet").Is-got.sum("sweet").Aim, 1e-6, "a spoonful counts")
}

// A line that was left out is none, and one that weighs more is what it weighs.
func TestALineLeftOutIsMissed(t *testing.T) {
	b := bowlOf(loaf())
	b.In[4] = 0
	got, err := b.Solve()
	require.NoError(t, err)
	assert.InDelta(t, -2, got.sum("binding").Then-got.sum("binding").Aim, 1e-9)
	assert.Negative(t, got.sum("binding").Miss)
	assert.Zero(t, got.Grams[4])
}

func TestMissedIsBeyondWhatRoundingMoves(t *testing.T) {
	x := Target{ID: "water", Unit: "g", Lo: 90, Hi: 110, Scale: 100}
	for sum, want := range map[float64]float64{113.5: 0, 115: 5, 86.6: 0, 85: -5} {
		assert.InDelta(t, want, x.Missed(sum, 500), 1e-9, "%g: 2 of scale, 1.1 of the upper end, 0.5 of the mass", sum)
	}
	x.ID = "salt"
	assert.InDelta(t, 3.3, x.Missed(113.3, 500), 1e-9, "salt has no share of the mass")
	x.Unit = "mmol gas"
	x.ID = "lift"
	assert.InDelta(t, 3.3, x.Missed(113.3, 500), 1e-9)
}
