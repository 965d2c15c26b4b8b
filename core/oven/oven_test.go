package oven_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

func tinOf(t *testing.T, name string) tin.Tin {
	t.Helper()
	got, ok := tin.Parse(name)
	require.True(t, ok, name)
	return got
}

// Times that bakers know (handbook, practice), by the model alone, unfitted.
// The handbook's own case: 900 W four minutes, 700 W five minutes and nine seconds.
func TestMicrowave(t *testing.T) {
	assert.Equal(t, 4*time.Minute, oven.Microwave(550, 900))
	assert.InDelta(t, (5*time.Minute + 9*time.Second).Seconds(), oven.Microwave(550, 700).Seconds(), 3)
	assert.Equal(t, 80*time.Second, oven.Microwave(165, 810).Round(5*time.Second))
	assert.Zero(t, oven.Microwave(0, 900))
}

func TestAnchors(t *testing.T) {
	for _, c := range []struct {
		name     string
		kind     recipe.Kind
		mass     float64
		tin      string
		oven     measure.Celsius
		min, max float64
	}{
		{"loaf", recipe.QuickBread, 1000, "loaf 9x5 in", 177, 50, 62},
		{"the same batter in cups", recipe.QuickBread, 800, "muffin", 177, 15, 22},
		{"scone", recipe.Scone, 600, "baking sheet", 205, 12, 20},
		{"biscuit", recipe.Biscuit, 600, "baking sheet", 177, 8, 14},
		{"20 cm creamed cake", recipe.CreamedCake, 900, "round 20 cm", 177, 35, 60},
	} {
		e, err := oven.Foretell(oven.Baking{Kind: c.kind}, measure.Grams(c.mass), tinOf(t, c.tin), c.oven)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, e.Minutes, c.min, c.name)
		assert.LessOrEqual(t, e.Minutes, c.max, c.name)
		assert.False(t, e.Fitted)
	}
}

func known(t *testing.T) oven.Baking {
	return oven.Baking{Kind: recipe.QuickBread, Mass: 1000, Tin: tinOf(t, "loaf 9x5 in"), Oven: 177, Minutes: 52}
}

func TestTheWrittenBakeGivesTheWrittenTime(t *testing.T) {
	k := known(t)
	e, err := oven.Foretell(k, k.Mass, k.Tin, k.Oven)
	require.NoError(t, err)
	assert.InDelta(t, 52, e.Minutes, 0.01)
	assert.InDelta(t, 39, e.FirstLook, 0.01, "three quarters of it")
	assert.True(t, e.Fitted)
}

func TestTimeFollowsSizeHeatAndShape(t *testing.T) {
	k := known(t)
	minutes := func(mass float64, name string, at measure.Celsius) float64 {
		e, err := oven.Foretell(k, measure.Grams(mass), tinOf(t, name), at)
		require.NoError(t, err)
		return e.Minutes
	}
	assert.Less(t, minutes(1000, "loaf 9x5 in", 190), 52.0, "hotter is quicker")
	assert.Greater(t, minutes(1200, "loaf 9x5 in", 177), 52.0, "more takes longer")
	assert.Greater(t, minutes(1000, "loaf 8x4 in", 177), 52*1.1, "a narrower, taller loaf takes longer")
	assert.Less(t, minutes(1000, "13x9 in", 177), 52*0.6, "spread thin it is done far sooner")
	cups := minutes(900, "muffin", 177) / 52
	assert.InDelta(t, 1./3, cups, 0.09, "cup-cakes take about a third of the loaf's time")
}

func TestFill(t *testing.T) {
	f := oven.FillOf(recipe.QuickBread, 1000, tinOf(t, "loaf 9x5 in"))
	assert.InDelta(t, 0.503, f.Share, 0.01)
	assert.Zero(t, f.TooMuch)
	f = oven.FillOf(recipe.QuickBread, 1000, tinOf(t, "loaf 8x4 in"))
	assert.InDelta(t, 210, float64(f.TooMuch), 15, "0.85 of the tin where 0.67 fits")
	f = oven.FillOf(recipe.QuickBread, 1000, tinOf(t, "13x9 in"))
	assert.Contains(t, f.Words, "flat")
}

func TestAnOvenThatIsTooCoolSaysSo(t *testing.T) {
	_, err := oven.Foretell(known(t), 1000, tinOf(t, "loaf 9x5 in"), 90)
	assert.ErrorContains(t, err, "never reached")
}
