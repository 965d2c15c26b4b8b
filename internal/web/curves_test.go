package web

import (
	"context"
	"encoding/json"
	"math"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

func simulate(t *testing.T, kind recipe.Kind, grams measure.Grams, name string, at measure.Celsius) *oven.Simulation {
	t.Helper()
	x, ok := tin.Parse(name)
	require.True(t, ok, name)
	s, err := oven.Simulate(context.Background(), oven.Baking{}, oven.Baking{Kind: kind, Mass: grams, Tin: x, Oven: at})
	require.NoError(t, err)
	return s
}

var pointsRE = regexp.MustCompile(`[ML]([\d.]+) ([\d.]+)`)

// Every curve lies inside the axes, from left to right; A and B share them, and the
// window stands where the minutes say.
func TestChartsAreToScale(t *testing.T) {
	loaf, cups := simulate(t, recipe.QuickBread, 1000, "loaf 9x5 in", 177), simulate(t, recipe.QuickBread, 800, "muffin", 190)
	for _, k := range []measure.Kitchen{measure.DefaultKitchen(), {Fahrenheit: true}} {
		for _, c := range []struct {
			b, a   *oven.Simulation
			curves int
		}{{loaf, nil, 3}, {cups, loaf, 4}, {loaf, cups, 4}} {
			v := chartOf(c.b, c.a, k)
			require.Len(t, v.Curves, c.curves)
			for _, curve := range v.Curves {
				points := pointsRE.FindAllStringSubmatch(curve.Path, -1)
				require.Greater(t, len(points), 20, curve.Words)
				last := -1.0
				for _, p := range points {
					x, y := px(t, p[1]), px(t, p[2])
					assert.Greater(t, x, last, "%s goes on to the right", curve.Words)
					assert.True(t, x >= chartLeft && x <= chartRight+0.1 && y >= chartTop-0.1 && y <= chartFloor+0.1, "%s at %g, %g", curve.Words, x, y)
					last = x
				}
			}
			end := math.Max(c.b.High+math.Max(2, c.b.Minutes*0.06), 0)
			if c.a != nil {
				end = math.Max(end, c.a.High+math.Max(2, c.a.Minutes*0.06))
			}
			per := (chartRight - chartLeft) / end
			assert.InDelta(t, chartLeft+per*c.b.Low, px(t, v.WindowX), 0.2)
			assert.InDelta(t, per*(c.b.High-c.b.Low), px(t, v.WindowW), 0.2)
			assert.InDelta(t, chartLeft+per*c.b.FirstLook, px(t, v.Marks[0].X), 0.2)
			assert.Equal(t, "first look", v.Marks[0].Text)
			assert.LessOrEqual(t, len(v.Across), 11)
			for n := 1; n < len(v.Up); n++ {
				assert.Less(t, px(t, v.Up[n].Y), px(t, v.Up[n-1].Y), "hotter is higher")
			}
			assert.True(t, strings.HasSuffix(v.DoneTxt, k.Degrees()))
		}
	}
}

// The data that the script draws from holds a temperature for every cell of every frame,
// nothing outside a round piece, and whole figures that JSON can carry.
func TestFieldsCarryEveryCell(t *testing.T) {
	for name, s := range map[string]*oven.Simulation{
		"loaf": simulate(t, recipe.QuickBread, 1000, "loaf 9x5 in", 177), "ring": simulate(t, recipe.AllInCake, 1300, "ring 10 in", 175),
		"cups": simulate(t, recipe.QuickBread, 800, "muffin", 177), "roll": simulate(t, recipe.RichBread, 600, "baking sheet", 190),
	} {
		f := fieldOf(s)
		require.NotEmpty(t, f.Frames, name)
		gone := 0
		for n, frame := range f.Frames {
			require.Len(t, frame.T, f.Across*f.Up, name)
			for _, x := range frame.T {
				if x == -99 {
					gone++
					continue
				}
				assert.True(t, x >= 15 && x <= 200, "%s: %d °C", name, x)
			}
			if n > 0 {
				assert.Greater(t, frame.Minutes, f.Frames[n-1].Minutes)
			}
		}
		assert.Equal(t, name == "roll", gone > 0, "%s: outside a round piece there is nothing", name)
		assert.Equal(t, name == "ring", f.Funnel > 0, name)
		assert.Equal(t, name != "roll", f.Tin > 0 && f.Batter > 0, name)
		assert.InDelta(t, s.Minutes, f.Ready, 1e-9)
		assert.Less(t, f.Slow[0], f.Across)
		assert.Less(t, f.Slow[1], f.Up)
		text, err := heatData{Unit: "°C", B: f}.JSON()
		require.NoError(t, err)
		var back map[string]any
		require.NoError(t, json.Unmarshal([]byte(text), &back))
		assert.NotContains(t, back, "a", "nothing is pinned")
		assert.Less(t, len(text), 120_000, "%s: a page must stay light", name)
	}
}

// Rows of the table come in even steps that suit the length of the bake, from the
// beginning past the end.
func TestTheTableOfMinutes(t *testing.T) {
	for _, c := range []struct {
		s    *oven.Simulation
		step int
	}{
		{simulate(t, recipe.Biscuit, 600, "baking sheet", 180), 1}, {simulate(t, recipe.QuickBread, 800, "muffin", 177), 2},
		{simulate(t, recipe.QuickBread, 1000, "loaf 9x5 in", 177), 5}, {simulate(t, recipe.FruitCake, 2200, "round 20 cm, 8 cm deep", 145), 15},
	} {
		rows := minuteRows(c.s, measure.Kitchen{})
		assert.Equal(t, "0", rows[0].Minutes)
		for n := 1; n < len(rows); n++ {
			assert.InDelta(t, float64(c.step), px(t, rows[n].Minutes)-px(t, rows[n-1].Minutes), 1e-9)
		}
		assert.GreaterOrEqual(t, px(t, rows[len(rows)-1].Minutes)+float64(c.step), c.s.Minutes)
		assert.Equal(t, "0 %", rows[0].Done)
	}
}
