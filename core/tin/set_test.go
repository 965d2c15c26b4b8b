package tin_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
	"kollaris/core/tin"
)

// A round of 20 cm and 7.5 deep filled as usual makes two of 18 cm (handbook 4); a loaf
// of a kilogram makes a dozen cups and four small loaves (practice).
func TestSetsOfTins(t *testing.T) {
	deep, _ := tin.Parse("round 20 cm, 7.5 cm deep")
	for _, c := range []struct {
		batter measure.Millilitres
		name   string
		low    int
		high   int
	}{
		{deep.Volume * 0.6, "round 18 cm", 2, 2}, {1000, "muffin", 12, 13}, {1000, "loaf 15×8 cm", 3, 4}, {1000, "loaf 9x5 in", 1, 1}, {10, "13x9 in", 1, 1}, {1000, "baking sheet", 1, 1},
	} {
		std, ok := tin.Parse(c.name)
		require.True(t, ok, c.name)
		got := std.Set(c.batter, tin.Usual(std.Shape), tin.Most(std.Shape))
		assert.GreaterOrEqual(t, got.Count, c.low, c.name)
		assert.LessOrEqual(t, got.Count, c.high, c.name)
	}
	for ml := measure.Millilitres(50); ml < 6000; ml += 37 { // never over what a tin takes
		for _, std := range tin.Standard {
			if s := std.Set(ml, tin.Usual(std.Shape), tin.Most(std.Shape)); s.Volume > 0 {
				assert.LessOrEqual(t, float64(ml/s.Total()), tin.Most(s.Shape)*1.03+1e-9, "%s of %v", s.Name, ml)
			}
		}
	}
	assert.Equal(t, 3, tin.Cupfuls(180), "180 ml: 79 ml a cup")
}

// By hand: a shelf of 44 × 37 cm takes two loaf tins side by side (2 × 15.7 + 3 × 2.5),
// one 23 cm round, and not two trays of twelve.
func TestWhatStandsOnAShelf(t *testing.T) {
	for name, want := range map[string]int{"loaf 9x5 in": 2, "round 23 cm": 1, "muffin": 1, "loaf 15×8 cm": 4, "baking sheet": 1, "round 18 cm": 1} {
		std, _ := tin.Parse(name)
		assert.Equal(t, want, std.PerShelf(44, 37), name)
	}
	small, _ := tin.Parse("13x9 in")
	assert.Zero(t, small.PerShelf(30, 25))
	cups, _ := tin.Parse("24 muffin cups")
	assert.Equal(t, 2, cups.Holders())
}

// A tin measured or filled with water is named so that its name reads as the same tin.
func TestNamesReadAsTheSameTin(t *testing.T) {
	for _, s := range []string{"ring 24 cm, 9 cm deep, holds 2100 ml", "loaf 26×10 cm, 8 cm deep, dark metal", "a cast-iron pan, 25 cm, 5 cm deep", "round 22 cm glass dish", "silicone 6 muffin cups"} {
		a, ok := tin.Parse(s)
		require.True(t, ok, s)
		b, ok := tin.Parse(a.Name)
		require.True(t, ok, a.Name)
		b.Count = a.Count
		assert.Equal(t, a, b, s)
	}
	for s, want := range map[string]tin.Material{"dark loaf tin": tin.Dark, "20 cm glass dish": tin.Glass, "silicone muffin cups": tin.Silicone, "a baking stone, or a lined tray": tin.Stone, "cast iron 25 cm": tin.Iron, "20 cm round": tin.Bright} {
		got, _ := tin.Parse(s)
		assert.Equal(t, want, got.Of, s)
	}
	got, _ := tin.Parse("ring 24 cm, 9 cm deep, holds 2.1 l")
	assert.Equal(t, measure.Millilitres(2100), got.Volume)
	for _, std := range tin.Standard {
		for _, n := range []int{1, 2, 7, 24, 96} {
			if std.Shape == tin.Free {
				n = 1
			}
			std.Count = n
			again, ok := tin.Parse(std.Words())
			assert.True(t, ok && again == std, std.Words())
		}
	}
}

// The opening of a tin is its volume over its depth; a sheet has no depth.
func TestTheOpeningOfATin(t *testing.T) {
	assert.InDelta(t, 600, tin.Tin{Length: 30, Width: 20}.Area(), 1e-9)
	assert.InDelta(t, 200, tin.Tin{Length: 30, Width: 20, Depth: 5, Volume: 1000}.Area(), 1e-9)
}

// Practice: cups and rings bear three quarters, other tins two thirds.
func TestHowFullATinIsAtMost(t *testing.T) {
	for s, want := range map[tin.Shape]float64{tin.Cups: 0.75, tin.Ring: 0.75, tin.Round: 0.67, tin.Loaf: 0.67} {
		assert.Equal(t, want, tin.Most(s), string(s))
	}
}
