package adapt_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

func bakeOf(t *testing.T, text string, address string) *adapt.Result {
	t.Helper()
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	v, err := url.ParseQuery(address)
	require.NoError(t, err)
	req, faults := adapt.ParseRequest(v, larder.Builtin())
	require.Empty(t, faults)
	return predicted(t, rd.Recipe, req)
}

// predicted is an adaptation with its bake.
func predicted(t *testing.T, r *recipe.Recipe, req adapt.Request) *adapt.Result {
	t.Helper()
	res, err := adapt.Predicted(r, req, adapt.DefaultKit())
	require.NoError(t, err)
	return res
}

// A result is whole after JSON: it tells the same, and can be predicted and simulated.
func TestAResultIsWholeAfterJSON(t *testing.T) {
	req, faults := adapt.ParseRequest(url.Values{"diet": {"egg-free", "gluten-free"}, "at": {"170"}, "fan": {"1"}, "tin": {"2 × round 18 cm"}}, larder.Builtin())
	require.Empty(t, faults)
	res := run(t, read(t, pear), req)
	doc, err := json.Marshal(res)
	require.NoError(t, err)
	var back adapt.Result
	require.NoError(t, json.Unmarshal(doc, &back))
	again, err := json.Marshal(&back)
	require.NoError(t, err)
	assert.JSONEq(t, string(doc), string(again))
	assert.Equal(t, res.Different(), back.Different())
	here, there := res.Predict(measure.DefaultKitchen()), back.Predict(measure.DefaultKitchen())
	require.NotNil(t, there.Bake)
	assert.Nil(t, res.Bake, "the result itself is nobody's to change")
	assert.Equal(t, here.Bake, there.Bake)
	assert.Same(t, here, here.Predict(measure.DefaultKitchen()))
	a, err := here.Simulate(t.Context())
	require.NoError(t, err)
	b, err := there.Simulate(t.Context())
	require.NoError(t, err)
	require.NotNil(t, b)
	assert.Equal(t, a.Curve, b.Curve)
}

// An address says what the oven does; the time follows.
func TestTheOvenOfARequest(t *testing.T) {
	written := bakeOf(t, pear, "").Bake
	require.NotNil(t, written)
	for address, want := range map[string][2]float64{ // new time over written
		"at=160": {1.05, 1.3}, "at=160+fan": {0.9, 1.1}, "at=350": {0.98, 1.02}, "at=350+F": {0.98, 1.02}, "at=gas+4": {0.98, 1.02}, "at=176.7C": {0.98, 1.02}, "fan=1": {0.9, 1.1}, "metal=glass": {0.9, 1.1}, "cold=1": {1.03, 1.3}, "batter=5": {1.02, 1.3},
		"at=200&then=160&after=15": {0.85, 1.15}, "lower=1&after=20": {0.97, 1.06}, "tin=12+muffin+cups": {0.2, 0.45}, "tin=loaf+9x5+in,+dark+metal": {0.85, 1},
	} {
		got := bakeOf(t, pear, address).Bake
		require.NotNil(t, got, address)
		ratio := got.Minutes / written.Minutes
		assert.GreaterOrEqual(t, ratio, want[0], address)
		assert.LessOrEqual(t, ratio, want[1], address)
	}
	assert.InDelta(t, float64(written.Oven)-20, float64(bakeOf(t, pear, "fan=1").Bake.Oven), 0.01, "a fan oven is set lower by itself")
	flame := bakeOf(t, pear, "flame=1&tin=round+20+cm").Bake
	require.NotNil(t, flame)
	assert.Positive(t, flame.Minutes)
}

// The handbook's own power: four minutes at 900 W are five and nine seconds at 700.
func TestAMicrowaveOfAnyPower(t *testing.T) {
	const bowl = "Almond bowl cake\nServes 2\n200 g almond flour\n150 g egg\n100 g butter\n100 g milk\n1 tsp baking powder\nMicrowave in one bowl for 4 minutes."
	res := bakeOf(t, bowl, "watts=700W")
	assert.Nil(t, res.Bake)
	assert.Regexp(t, `55\d g of batter take about 5 min 1\d s at 700 W`, res.BakeProblem)
	assert.Contains(t, bakeOf(t, bowl, "").BakeProblem, "at 900 W, 5 min")
	pan := bakeOf(t, bowl, "flame=1").Bake
	require.NotNil(t, pan, "in a pan it is foretold")
	assert.False(t, pan.Fitted, "four minutes in the microwave say nothing of it")
	assert.Greater(t, pan.FirstLook, 10.0)
	assert.False(t, bakeOf(t, bowl, "at=175").Bake.Fitted, "nor of the oven")
	assert.False(t, bakeOf(t, pear, "flame=1&tin=round+20+cm").Bake.Fitted, "nor an hour in the oven of a pan")
	m := bakeOf(t, bowl, "").Microwave
	require.NotNil(t, m)
	assert.InDelta(t, 4*60, m.Done().Seconds(), 10)
	assert.InDelta(t, 3*60, m.FirstLook().Seconds(), 10)
}

const twoStages = "Hearth loaf\nServes 12\n500 g strong flour\n340 g water\n7 g dried yeast\n10 g salt\n\nBake at 230 °C for 15 minutes, then at 200 °C for 25 minutes, in a loaf tin."

// A recipe that turns the oven down takes its written time in all; where the first heat
// is set lower, the second goes down with it.
func TestAWrittenChangeOfHeatIsFollowed(t *testing.T) {
	res := bakeOf(t, twoStages, "")
	require.NotNil(t, res.Bake)
	assert.InDelta(t, 40, res.Bake.Minutes, 0.5)
	s, err := res.Simulate(context.Background())
	require.NoError(t, err)
	at := func(s *oven.Simulation, minutes float64) (air float64) {
		for _, p := range s.Curve {
			if p.Minutes <= minutes {
				air = p.Air
			}
		}
		return air
	}
	assert.InDelta(t, 230, at(s, 10), 0.1)
	assert.InDelta(t, 200, at(s, 35), 0.1)
	lower, err := bakeOf(t, twoStages, "at=220").Simulate(context.Background())
	require.NoError(t, err)
	assert.InDelta(t, 190, at(lower, 35), 0.1)
}

// What a batter is made of tells in its time and colour.
func TestErythritolStaysPaleInTheOven(t *testing.T) {
	golden := func(address string) float64 {
		s, err := bakeOf(t, pear, address).Simulate(context.Background())
		require.NoError(t, err)
		return s.Curve[len(s.Curve)-1].Colour
	}
	assert.Less(t, golden("swap=sugar:erythritol"), 0.75*golden(""))
}

// As many of another tin as the batter fills, by the coarse model.
func TestTheSameBatterInOtherTins(t *testing.T) {
	res := bakeOf(t, pear, "")
	for name, count := range map[string]int{"muffin": 12, "loaf 15×8 cm": 4, "loaf 9x5 in": 1} {
		std, _ := tin.Parse(name)
		e, err := res.In(std)
		require.NoError(t, err)
		assert.InDelta(t, count, e.Fill.Tin.Count, 2, name)
		assert.Zero(t, e.Fill.TooMuch, name)
		if count == 1 {
			assert.InEpsilon(t, res.Bake.Minutes, e.Minutes, 0.02, "a glance comes near the whole model")
		}
	}
}

// What browns early has a ceiling of its own, not a step: a cool oven stays as it is.
func TestNutAndAlluloseBattersHaveACeiling(t *testing.T) {
	for _, c := range []struct {
		oven, want string
		req        adapt.Request
		kind       string
	}{
		{"200", "165", adapt.Request{Diets: []diet.ID{diet.Keto}}, "loaf"},
		{"160", "160", adapt.Request{Diets: []diet.ID{diet.Keto}}, "loaf"},
		{"200", "175", adapt.Request{Diets: []diet.ID{diet.Keto}, Swaps: map[string]string{"sugar": "sweetener-1to1"}}, "scones"},
		{"200", "170", adapt.Request{Diets: []diet.ID{diet.Keto}}, "scones"}, // with allulose
		{"190", "165", adapt.Request{Swaps: map[string]string{"sugar": "allulose"}}, "loaf"},
		{"150", "150", adapt.Request{Swaps: map[string]string{"sugar": "allulose"}}, "loaf"},
		{"190", "190", adapt.Request{Diets: []diet.ID{diet.EggFree}}, "loaf"},
	} {
		text := "Seed " + c.kind + "\nServes 10\n240 g plain flour\n30 g sugar\n2 tsp baking powder\n100 g butter\n2 eggs\n100 ml milk\nRub the butter into the flour, stir in the rest. Bake in a 2 lb loaf tin at " + c.oven + "C for 45 minutes."
		if c.kind == "loaf" {
			text = strings.Replace(text, "30 g sugar", "150 g sugar", 1)
		}
		res, err := adapt.Predicted(written(t, text), c.req, adapt.DefaultKit())
		require.NoError(t, err)
		require.NotNil(t, res.Bake, c)
		assert.Equal(t, c.want, fmt.Sprintf("%.0f", float64(res.Bake.Oven)), "%+v", c)
	}
}

// A dough that has become a batter stands in a tin: a loaf's, or cups for rolls; husk makes
// it a dough again.
func TestABatterGoesIntoATin(t *testing.T) {
	text := "Cob\nMakes 12 slices\n500 g strong flour\n320 ml water\n7 g instant yeast\n10 g salt\nKnead 10 minutes. Prove 1 hour. Shape into a round and put on a baking sheet. Prove 40 minutes. Bake 35 minutes at 220C."
	gf := []diet.ID{diet.GlutenFree}
	for _, c := range []struct {
		text, ban, tin string
		steps          []string
	}{
		{text, "psyllium", "loaf 9x5 in", []string{"Grease and line the loaf 9x5 in tin.", "Put it into the loaf 9x5 in tin and level it."}},
		{strings.Replace(text, "a round", "12 rolls", 1), "psyllium", "muffin", []string{"Spoon it into the 16 muffin cups"}},
		{text, "", "baking sheet", []string{"Shape into a round."}},
	} {
		res := predicted(t, written(t, c.text), adapt.Request{Diets: gf, Bans: list(c.ban)})
		require.NotNil(t, res.Bake, res.BakeProblem)
		assert.Contains(t, res.Bake.Fill.Tin.Words(), c.tin)
		assert.Zero(t, res.Bake.Fill.TooMuch, c.tin)
		said, method := strings.Join(res.Doubts, "\n"), ""
		for _, m := range res.Method {
			method += m.Text + "\n"
		}
		for _, s := range c.steps {
			assert.Contains(t, method, s)
		}
		assert.Equal(t, c.ban != "", strings.Contains(said, "too soft to shape"), said)
		assert.Equal(t, c.ban == "", strings.Contains(method, "aking sheet"), method)
	}
}

func list(s string) []string { return strings.Fields(s) }
