package sweet

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

func mix(t *testing.T, parts map[string]float64) Mix {
	t.Helper()
	var m Mix
	for id, g := range parts {
		i := larder.Builtin().Get(larder.ID(id))
		require.NotNil(t, i, id)
		m = append(m, Part{i, g})
	}
	return m
}

func these(t *testing.T, ids ...string) []*larder.Ingredient {
	t.Helper()
	var out []*larder.Ingredient
	for _, id := range ids {
		i := larder.Builtin().Get(larder.ID(id))
		require.NotNil(t, i, id)
		out = append(out, i)
	}
	return out
}

// The tables name only what the larder has, and each row says something.
func TestTablesStand(t *testing.T) {
	l := larder.Builtin()
	for _, row := range Tastes() {
		i := l.Get(row.ID)
		if assert.NotNil(t, i, row.ID) {
			assert.Positive(t, i.Facts[larder.Sweetness], row.ID)
		}
	}
	for _, row := range fitnesses() {
		assert.NotNil(t, l.Get(row.ID), row.ID)
		assert.NotEmpty(t, row.Say)
	}
	for _, row := range Fruits() {
		assert.NotNil(t, l.Get(row.ID), row.ID)
	}
	for _, k := range []string{"quick-bread", "all-in-cake", "creamed-cake", "fruit-cake", "scone", "soda-bread", "biscuit", "yeast-lean", "yeast-rich", "flatbread", "one-bowl", "topping"} {
		steps := Steps(k)
		require.NotEmpty(t, steps, k)
		for n := 1; n < len(steps); n++ {
			assert.Greater(t, steps[n].UpTo, steps[n-1].UpTo, k)
		}
		assert.Equal(t, 1.0, steps[len(steps)-1].UpTo, k)
	}
	assert.Len(t, Substances(), 11)
}

// Weights that the trade gives for 200 g of sugar, each within a tenth. Sources:
// handbook of practice for honey (three quarters of the volume: ¾ cup of 333 g);
// the rest from the sweetness by weight that common tables print.
func TestAloneByAnchors(t *testing.T) {
	was := mix(t, map[string]float64{"sugar": 200}).Sum()
	for id, want := range map[string]float64{"honey": 235, "fructose": 167, "erythritol": 308, "xylitol": 200, "allulose": 286, "maltitol": 222, "stevia-extract": 0.8, "sucralose": 0.333, "sweetener-1to1": 200} {
		g, ok := Alone(these(t, id)[0], was, BySweetness)
		require.True(t, ok, id)
		assert.InEpsilon(t, want, g, 0.10, id)
	}
	_, ok := Alone(these(t, "water")[0], was, BySweetness)
	assert.False(t, ok)
	g, _ := Alone(these(t, "erythritol")[0], was, ByBulk)
	assert.InEpsilon(t, 200, g, 0.01)
}

// What stands for a mix is as sweet as it was, whatever it is made of.
func TestBlendKeepsSweetness(t *testing.T) {
	for _, with := range [][]string{{"erythritol", "allulose", "stevia-extract"}, {"xylitol"}, {"honey", "sugar"}, {"maltitol", "inulin", "sucralose"}, {"sweetener-1to1"}, {"erythritol"}, {"monk-fruit-extract", "fibre-syrup"}} {
		b, err := Solve(Ask{Was: mix(t, map[string]float64{"sugar": 180, "honey": 20}), Match: Both, With: these(t, with...), NetCarb: -1, Sugars: -1})
		require.NoError(t, err)
		assert.InEpsilon(t, b.Was.Sweet, b.Sum.Sweet, 0.04, "%v: %v", with, b.Missed)
		assert.GreaterOrEqual(t, b.Sum.Bulk/b.Was.Bulk, 0.78, "%v: %v", with, b.Mix)
	}
}

// Asked by bulk, bulk comes back nearly whole; asked by both, half to all of it does.
func TestBulkIsMatchedWhereItIsAsked(t *testing.T) {
	was := mix(t, map[string]float64{"sugar": 200})
	b, err := Solve(Ask{Was: was, Match: ByBulk, With: these(t, "allulose", "erythritol"), NetCarb: -1, Sugars: -1})
	require.NoError(t, err)
	assert.InEpsilon(t, was.Sum().Bulk, b.Sum.Bulk, sweetWithin+0.01)
}

// The example of the trade: erythritol at half, allulose, a trace of extract.
func TestBlendWithinLimits(t *testing.T) {
	ask := Ask{Was: mix(t, map[string]float64{"sugar": 200}), Match: Both, With: these(t, "erythritol", "allulose", "stevia-extract"), Case: Case{Servings: 10, Water: 240}, Polyols: 8, NetCarb: -1, Sugars: -1}
	b, err := Solve(ask)
	require.NoError(t, err)
	assert.Empty(t, b.Missed)
	assert.LessOrEqual(t, b.Sum.Polyols, 80.6)
	assert.LessOrEqual(t, b.Sum.Erythritol, 240/3.0+0.6)
	body := 0.0
	for _, p := range b.Mix {
		if !IsIntense(p.Of) {
			body += p.Grams
		}
	}
	assert.LessOrEqual(t, b.Sum.Erythritol, body/2+0.6)
	ask.With = these(t, "sugar", "xylitol")
	ask.Sugars, ask.Polyols = 5, 5
	b, err = Solve(ask)
	require.NoError(t, err)
	assert.InDelta(t, 50, b.Sum.Sugars, 0.6)
	assert.NotEmpty(t, b.Missed, "half of it cannot be made up")
	b, err = Solve(Ask{Was: ask.Was, Match: Both, With: these(t, "erythritol", "inulin"), NetCarb: -1, Sugars: -1})
	require.NoError(t, err)
	assert.Len(t, b.Mix, 2, "shares that cannot make a whole are widened")
	assert.NotEmpty(t, b.Missed)
	_, err = Solve(Ask{With: ask.With})
	assert.ErrorIs(t, err, ErrNothing)
	_, err = Solve(Ask{Was: ask.Was})
	assert.ErrorIs(t, err, ErrNoParts)
}

// The programme does no worse than trying every blend in steps, priced by a sum
// written out here.
func TestBlendAgainstTryingThemAll(t *testing.T) {
	was := mix(t, map[string]float64{"sugar": 120})
	price := func(m Mix) float64 {
		s, w := m.Sum(), was.Sum()
		outside := func(x, lo, hi float64) float64 { return math.Max(0, math.Max(lo-x, x-hi)) }
		off := 0.0
		for _, p := range m {
			off += TasteOf(p.Of.ID).Off * p.Grams * p.Of.Facts[larder.Sweetness]
		}
		return 10*outside(s.Sweet/w.Sweet, 0.97, 1.03) + 6*outside(s.Bulk/w.Bulk, 0.8, 1.05) + 0.5*off/w.Sweet + 0.05*s.Grams/w.Grams
	}
	for _, with := range [][]string{{"erythritol", "allulose", "stevia-extract"}, {"xylitol", "inulin", "monk-fruit-extract"}, {"sugar", "erythritol", "sucralose"}} {
		parts := these(t, with...)
		for _, polyols := range []float64{4, 15} {
			b, err := Solve(Ask{Was: was, Match: Both, With: parts, Case: Case{Servings: 8}, Polyols: polyols, NetCarb: -1, Sugars: 6})
			require.NoError(t, err)
			best := math.Inf(1)
			for x := 0.0; x <= 200; x += 2 {
				for y := 0.0; y <= 200; y += 2 {
					for z := 0.0; z <= 0.6; z += 0.02 {
						m := Mix{{parts[0], x}, {parts[1], y}, {parts[2], z}}
						s := m.Sum()
						ok := s.Polyols <= 8*polyols && s.Sugars <= 48
						for _, p := range m[:2] {
							ok = ok && p.Grams <= TasteOf(p.Of.ID).Most*(x+y)+1e-9
						}
						if ok {
							best = math.Min(best, price(m))
						}
					}
				}
			}
			assert.LessOrEqual(t, price(b.Mix), best+0.06, "%v polyols %g: %v", with, polyols, b.Mix) // rounding of an extract to 0.01 g
			assert.GreaterOrEqual(t, price(b.Mix), best-0.25, "the steps find nearly as good a one")
		}
	}
}

func TestEffects(t *testing.T) {
	sugar := mix(t, map[string]float64{"sugar": 200})
	has := func(es []Effect, id string) *Effect {
		for n := range es {
			if es[n].ID == id {
				return &es[n]
			}
		}
		return nil
	}
	es := Effects(sugar, mix(t, map[string]float64{"honey": 235}), Case{Use: Batter})
	require.NotNil(t, has(es, "water"))
	assert.Contains(t, has(es, "water").Words, "40 g more water")
	require.NotNil(t, has(es, "acid"))
	assert.Contains(t, has(es, "acid").Words, "0.69 g of soda", "a quarter teaspoon a cup, within a quarter of the trade's 1.15 g a 333 g")
	assert.NotNil(t, has(es, "browning"))
	es = Effects(sugar, mix(t, map[string]float64{"erythritol": 300}), Case{Use: Batter, Servings: 10, Water: 200, Food: 900})
	for id, state := range map[string]State{"crystals": Look, "gut": Stop, "browning": Look, "cooling": Look, "label": Look} {
		if assert.NotNil(t, has(es, id), id) {
			assert.Equal(t, state, has(es, id).State, id)
		}
	}
	assert.Equal(t, Stop, has(Effects(sugar, mix(t, map[string]float64{"erythritol": 150}), Case{Use: Syrup, Water: 100}), "crystals").State)
	assert.NotNil(t, has(Effects(sugar, mix(t, map[string]float64{"xylitol": 150}), Case{Use: Yeast}), "yeast"))
	assert.NotNil(t, has(Effects(sugar, mix(t, map[string]float64{"xylitol": 150}), Case{}), "dogs"))
	assert.NotNil(t, has(Effects(sugar, mix(t, map[string]float64{"allulose": 150}), Case{}), "eu"))
	es = Effects(sugar, mix(t, map[string]float64{"stevia-extract": 0.8}), Case{})
	assert.NotNil(t, has(es, "bulk"))
	assert.NotNil(t, has(es, "taste"))
	assert.Empty(t, Effects(sugar, sugar, Case{Use: Batter, Servings: 10, Water: 100}))
}

// A dilution is weighed to a twentieth by the scale it is meant for, and holds what
// was wanted.
func TestDilutions(t *testing.T) {
	d, ok := Dilute(0.2, 1)
	require.True(t, ok)
	assert.Equal(t, Dilution{Ratio: 50, Take: 10, Weigh: 5, Water: 245}, d)
	d, ok = Dilute(0.2, 0.1)
	require.True(t, ok)
	assert.Equal(t, 10, d.Ratio)
	for _, grams := range []float64{0.03, 0.1, 0.5, 0.9} {
		for _, step := range []float64{0.1, 0.5, 1} {
			d, ok := Dilute(grams, step)
			if !ok {
				assert.GreaterOrEqual(t, grams, 10*step)
				continue
			}
			assert.InDelta(t, grams, d.Take*d.Weigh/(d.Weigh+d.Water), 1e-9)
			assert.True(t, d.Take >= 10*step || d.Ratio == 200)
		}
	}
	_, ok = Dilute(10, 1)
	assert.False(t, ok)
	_, ok = Dilute(0, 1)
	assert.False(t, ok)
}

func TestStepsOfLeavingOut(t *testing.T) {
	for _, c := range []struct {
		kind  string
		share float64
		want  State
	}{{"quick-bread", 0.33, Fine}, {"quick-bread", 0.4, Look}, {"biscuit", 0.33, Look}, {"creamed-cake", 0.6, Stop}, {"yeast-lean", 1, Fine}} {
		s, ok := StepAt(c.kind, c.share)
		require.True(t, ok)
		assert.Equal(t, c.want, s.State, "%s %g", c.kind, c.share)
	}
	_, ok := StepAt("quick-bread", 0)
	assert.False(t, ok)
}

// What sweetens, and what a blend is made of where nobody chose, exists and sweetens.
func TestWhatSweetens(t *testing.T) {
	for id, want := range map[larder.ID]bool{"sugar": true, "honey": true, "erythritol": true, "stevia-extract": true, "date-paste": true, "jam": true, "inulin": true, "plain-flour": false, "milk": false, "raisins": false, "choc-chips": false} {
		if i := larder.Builtin().Get(id); i != nil {
			assert.Equal(t, want, Sweetens(i), id)
		}
	}
	for _, u := range Uses {
		for _, us := range []bool{false, true} {
			parts := UsualParts(u.ID, us)
			assert.NotEmpty(t, parts)
			for _, id := range parts {
				assert.True(t, Sweetens(larder.Builtin().Get(id)), "%s of %s", id, u.ID)
			}
		}
	}
	assert.Equal(t, []larder.ID{"allulose"}, UsualParts(Syrup, true))
	assert.NotContains(t, UsualParts(Batter, false), larder.ID("allulose"), "the EU has not allowed it")
}

func TestTheMixOfARecipe(t *testing.T) {
	r := &recipe.Recipe{Lines: []recipe.Line{{Ingredient: "sugar", Grams: 100}, {Ingredient: "water", Grams: 50}, {Ingredient: "honey", Grams: 0}, {Ingredient: "honey", Grams: 30, Role: recipe.Icing}, {Ingredient: "", Grams: 10}}}
	m, water := MixOf(r, larder.Builtin(), false)
	require.Len(t, m, 1)
	assert.Equal(t, 100.0, m[0].Grams)
	assert.Equal(t, 50.0, water)
	if top, _ := MixOf(r, larder.Builtin(), true); assert.Len(t, top, 1) {
		assert.Equal(t, larder.ID("honey"), top[0].Of.ID)
	}
}

// Effects on both sides of their lines, the figures by hand.
func TestLinesOfTheEffects(t *testing.T) {
	says := func(was, now Mix, c Case, id string) string {
		for _, e := range Effects(was, now, c) {
			if e.ID == id {
				return e.Words
			}
		}
		return ""
	}
	sugar := mix(t, map[string]float64{"sugar": 100})
	with := func(id string, g float64) Mix { return mix(t, map[string]float64{id: g}) }
	assert.Contains(t, says(sugar, with("sugar", 79), Case{}, "bulk"), "79 %")
	assert.Empty(t, says(sugar, with("sugar", 81), Case{}, "bulk"))
	assert.Empty(t, says(sugar, with("sugar", 50), Case{Use: Caramel}, "bulk"), "caramel is all sugar")
	assert.NotEmpty(t, says(sugar, with("erythritol", 100), Case{Use: Batter}, "browning"))
	for _, u := range []Use{Icing, Syrup} {
		assert.Empty(t, says(sugar, with("erythritol", 100), Case{Use: u}, "browning"), "it is not baked")
	}
	assert.Empty(t, says(with("erythritol", 50), with("honey", 50), Case{Use: Batter}, "browning"), "nothing browned before")
	assert.NotEmpty(t, says(sugar, with("erythritol", 60), Case{}, "crystals"), "no water known")
	assert.Empty(t, says(sugar, mix(t, map[string]float64{"erythritol": 40, "inulin": 60}), Case{}, "crystals"), "less than half of it")
	assert.NotEmpty(t, says(sugar, with("erythritol", 40), Case{Water: 100}, "crystals"), "over a third of the water")
	assert.Empty(t, says(sugar, with("erythritol", 30), Case{Water: 100}, "crystals"))
	assert.Empty(t, says(sugar, with("xylitol", 40), Case{Use: Yeast}, "crystals"))
	assert.Empty(t, says(with("erythritol", 60), with("xylitol", 60), Case{Use: Yeast}, "yeast"), "nothing fed it before")
}

func TestSumsOfAMixByHand(t *testing.T) {
	s := mix(t, map[string]float64{"sugar": 50, "erythritol": 40}).Sum()
	assert.InDelta(t, 0.5*99.9*4, s.Energy, 2, "erythritol has none")
	assert.InDelta(t, 50+0.65*40, s.Sweet, 0.2)
	assert.InDelta(t, 40, s.Polyols, 0.1)
	for _, e := range Effects(mix(t, map[string]float64{"sugar": 100}), mix(t, map[string]float64{"erythritol": 90}), Case{Use: Icing}) {
		assert.NotEqual(t, "gut", e.ID, "a serving is not known")
	}
}

// Fifteen grams of sugar alcohols a serving are the end, ten a look; what a rounding passes is let be.
func TestWhatAGutBears(t *testing.T) {
	was := mix(t, map[string]float64{"sugar": 100})
	for each, want := range map[float64]State{9.9: "", 10.2: Look, 15: Look, 15.2: Look, 15.5: Stop, 30: Stop} {
		var got State
		for _, e := range Effects(was, mix(t, map[string]float64{"erythritol": each * 10 / 0.998}), Case{Use: Batter, Servings: 10}) {
			if e.ID == "gut" {
				got = e.State
			}
		}
		assert.Equal(t, want, got, "%g g a serving", each)
	}
}
