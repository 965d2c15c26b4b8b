package oven

import (
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/heat"
	"kollaris/core/measure"
	"kollaris/core/tin"
)

func loafTin(t *testing.T) tin.Tin {
	t.Helper()
	x, ok := tin.Parse("loaf 9x5 in")
	require.True(t, ok)
	return x
}

// By hand: an oven warms by 12 °C a minute and cools by 4, so from 22 to 180 it takes
// 13 min 10 s and from 220 down to 180 ten minutes. On a clock that runs twice as fast
// everything takes half as long.
func TestTheOvensClock(t *testing.T) {
	type stage struct{ seconds, from, to float64 }
	const on = longest
	for _, c := range []struct {
		name   string
		s      Setup
		first  float64
		factor float64
		want   []stage
	}{
		{"preheated", Setup{}, 180, 1, []stage{{on, 180, 180}}},
		{"from cold", Setup{Cold: true}, 180, 1, []stage{{790, 22, 180}, {on - 790, 180, 180}}},
		{"set lower after 20 min", Setup{Stages: []Stage{{After: 20, Oven: 180}}}, 220, 1, []stage{{1200, 220, 220}, {600, 220, 180}, {on - 1800, 180, 180}}},
		{"set higher after 10 min", Setup{Stages: []Stage{{After: 10, Oven: 204}}}, 180, 1, []stage{{600, 180, 180}, {120, 180, 204}, {on - 720, 204, 204}}},
		{"changed before it was hot", Setup{Cold: true, Stages: []Stage{{After: 5, Oven: 100}}}, 180, 1, []stage{{300, 22, 82}, {90, 82, 100}, {on - 390, 100, 100}}},
		{"moved lower, the heat as before", Setup{Stages: []Stage{{After: 15, Lower: true}}}, 180, 1, []stage{{900, 180, 180}, {on - 900, 180, 180}}},
		{"twice as fast", Setup{Stages: []Stage{{After: 20, Oven: 180}}}, 220, 2, []stage{{600, 220, 220}, {300, 220, 180}, {(on - 1800) / 2, 180, 180}}},
	} {
		got := c.s.stages(c.first, 0, loafTin(t), c.factor)
		require.Len(t, got, len(c.want), c.name)
		for n, w := range c.want {
			assert.InDelta(t, w.seconds, got[n].Seconds, 0.5, "%s, stage %d", c.name, n)
			assert.InDelta(t, w.from, got[n].From, 0.5, "%s, stage %d", c.name, n)
			assert.InDelta(t, w.to, got[n].To, 0.5, "%s, stage %d", c.name, n)
		}
	}
	foil := Setup{Covered: true, Stages: []Stage{{After: 30}}}.stages(180, 0, loafTin(t), 1)
	assert.InDelta(t, foilTimes, foil[0].H[heat.Top]/foil[1].H[heat.Top], 1e-9, "it is uncovered for the last part")
	hot := Setup{Cold: true}.stages(180, 12, loafTin(t), 1)
	assert.InDelta(t, 192, hot[1].To, 1e-9, "an oven that runs hot is hotter all along")
}

// What stands around a tin changes the face it should and no other.
func TestCoefficientsOfTheFaces(t *testing.T) {
	l := loafTin(t)
	plain := Setup{}.coefficients(l, 177, false, false)
	assert.InDelta(t, stillTop, plain[heat.Top], 0.6, "the constants are for 177 °C")
	for _, c := range []struct {
		name    string
		s       Setup
		covered bool
		top     float64 // over the plain
		side    float64
	}{
		{"fan", Setup{Fan: true}, false, fanTimes, fanTimes},
		{"tray of water", Setup{Steam: true}, false, steamTimes, steamTimes},
		{"others beside it", Setup{Full: true}, false, fullTimes, fullTimes},
		{"doubled paper", Setup{Paper: true}, false, 1, paperTimes},
		{"foil", Setup{}, true, foilTimes, 1},
		{"dark metal", Setup{Of: tin.Dark}, false, 1, walls[tin.Dark].h / walls[tin.Bright].h},
		{"silicone", Setup{Of: tin.Silicone}, false, 1, walls[tin.Silicone].h / walls[tin.Bright].h},
		{"fan and paper", Setup{Fan: true, Paper: true}, false, fanTimes, fanTimes * paperTimes},
	} {
		h := c.s.coefficients(l, 177, c.covered, false)
		assert.InDelta(t, c.top, h[heat.Top]/plain[heat.Top], 1e-9, c.name)
		assert.InDelta(t, c.side, h[heat.Side]/plain[heat.Side], 1e-9, c.name)
		assert.InDelta(t, c.side, h[heat.Bottom]/plain[heat.Bottom], 1e-9, c.name)
		assert.Less(t, h[heat.Inner], h[heat.Side], "a funnel gets less: %s", c.name)
	}
	low := Setup{}.coefficients(l, 177, false, true)
	assert.Less(t, low[heat.Top], plain[heat.Top], "less from above on a lower shelf")
	assert.Greater(t, low[heat.Bottom], plain[heat.Bottom])
	assert.InDelta(t, plain[heat.Side], low[heat.Side], 1e-9)
	dark := l
	dark.Of = tin.Dark
	assert.Equal(t, Setup{Of: tin.Dark}.coefficients(l, 177, false, false), Setup{}.coefficients(dark, 177, false, false), "the tin says what it is made of")
	assert.Equal(t, Setup{Of: tin.Glass}.walls(l), Setup{Of: tin.Glass}.walls(dark), "unless the setup does")
	last := 0.0
	for at := 100.0; at <= 280; at += 20 {
		h := Setup{}.coefficients(l, at, false, false)[heat.Top]
		assert.Greater(t, h, last, "radiation grows with the oven's heat")
		last = h
	}
}

// Walls that take up heat, and a strip that is wet.
func TestWalls(t *testing.T) {
	l := loafTin(t)
	assert.Zero(t, Setup{}.walls(l)[heat.Side].Capacity, "thin metal takes up next to nothing")
	glass := Setup{Of: tin.Glass}.walls(l)
	assert.InDelta(t, 2.1e6*0.005, glass[heat.Bottom].Capacity, 1, "5 mm of glass")
	assert.Zero(t, glass[heat.Top].Capacity, "there is no lid")
	wet := Setup{Collar: true}.walls(l)
	assert.Positive(t, wet[heat.Side].Water)
	assert.Zero(t, wet[heat.Bottom].Water)
	assert.InDelta(t, 14000, Setup{Collar: true, Of: tin.Stone}.walls(l)[heat.Side].Capacity, 1, "a strip around stone is still stone")
}

// A pan's floor heats, the air under the lid hardly more than boils.
func TestAPanOnTheFlame(t *testing.T) {
	st := Setup{Flame: true}.stages(160, 0, loafTin(t), 1)[0]
	assert.InDelta(t, 160, st.To, 1e-9)
	assert.InDelta(t, 116, st.To+st.Off[heat.Top], 1, "105 and a fifth of what the floor is hotter")
	assert.Zero(t, st.Off[heat.Bottom])
	assert.Greater(t, st.H[heat.Bottom], 2*st.H[heat.Top])
	b := Choice{Setup: Setup{Flame: true}}.Apply(Baking{Oven: 175, Setup: Setup{Stages: []Stage{{After: 15, Oven: 150}}}})
	assert.InDelta(t, flameAt, float64(b.Oven), 1e-9)
	assert.Empty(t, b.Setup.Stages, "an oven's stages are no flame's")
}

// A choice laid over a written bake: the written change of heat goes along.
func TestAChoiceOverAWrittenBake(t *testing.T) {
	written := Baking{Oven: 220, Setup: Setup{Stages: []Stage{{After: 15, Oven: 190}}}}
	for _, c := range []struct {
		name  string
		c     Choice
		first measure.Celsius
		then  []Stage
	}{
		{"nothing asked", Choice{}, 220, []Stage{{After: 15, Oven: 190}}},
		{"lower", Choice{At: 200}, 200, []Stage{{After: 15, Oven: 170}}},
		{"a fan", Choice{Setup: Setup{Fan: true}}, 200, []Stage{{After: 15, Oven: 170}}},
		{"a fan at its own heat", Choice{At: 210, Setup: Setup{Fan: true}}, 210, []Stage{{After: 15, Oven: 180}}},
		{"another second heat", Choice{Setup: Setup{Stages: []Stage{{After: 10, Oven: 150}}}}, 220, []Stage{{After: 10, Oven: 150}}},
	} {
		b := c.c.Apply(written)
		assert.Equal(t, c.first, b.Oven, c.name)
		assert.Equal(t, c.then, b.Setup.Stages, c.name)
	}
	low := written.AtMost(175)
	assert.Equal(t, measure.Celsius(175), low.Oven)
	assert.Equal(t, []Stage{{After: 15, Oven: 175}}, low.Setup.Stages)
	mild := written.AtMost(200)
	assert.Equal(t, measure.Celsius(200), mild.Oven)
	assert.Equal(t, []Stage{{After: 15, Oven: 190}}, mild.Setup.Stages, "what is below stays")
	assert.Equal(t, []Stage{{After: 15, Oven: 190}}, written.Setup.Stages, "the written one is left as it is")
}

// What is typed of the batter and the tin is within what there is, or a fault.
func TestWhatIsTypedOfTheBatterAndTheTin(t *testing.T) {
	for typed, want := range map[string]float64{"5 C": 5, "-20": -20, "45": 45, "72 F": 22.22, "46": 0, "-21 C": 0, "cool": 0} {
		faults := 0
		c := ParseChoice(url.Values{"batter": {typed}}, func(field, _, _ string) { faults += map[bool]int{true: 1}[field == "batter"] })
		assert.InDelta(t, want, float64(c.Setup.Start), 0.01, typed)
		assert.Equal(t, want == 0, faults == 1, typed)
	}
	for typed, ok := range map[string]bool{"glass": true, "dark": true, "gold": false} {
		faults := 0
		c := ParseChoice(url.Values{"metal": {typed}}, func(field, _, _ string) { faults++ })
		assert.Equal(t, ok, string(c.Setup.Of) == typed, typed)
		assert.Equal(t, ok, faults == 0, typed)
	}
}
