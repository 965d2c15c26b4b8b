package formula

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

var lib = larder.Builtin()

type part struct {
	id      larder.ID
	grams   float64
	section string
}

// of is a recipe of some lines, numbered from 1.
func of(kind recipe.Kind, parts ...part) *Formula {
	r := &recipe.Recipe{Title: "test", Kind: kind, Servings: 8}
	for n, p := range parts {
		r.Lines = append(r.Lines, recipe.Line{
			ID: recipe.LineID(n + 1), Ingredient: p.id, Name: lib.Get(p.id).Name, Grams: p.grams, Section: p.section, Role: recipe.Role(p.section), Known: true,
		})
	}
	return &Formula{Recipe: r, Larder: lib, Kitchen: measure.DefaultKitchen()}
}

// with replaces the lines of a use by a school, in the batter or in a topping.
func (f *Formula) with(t *testing.T, use, school string, topping bool) *Formula {
	t.Helper()
	u := swap.Builtin().Use(use)
	require.NotNil(t, u, use)
	p := &Replaced{Use: u, School: u.School(school), Topping: topping}
	require.NotNil(t, p.School, school)
	for _, l := range f.Recipe.Lines {
		if got := swap.Builtin().For(l.Ingredient); got != nil && got.ID == use && l.Topping() == topping {
			p.Lines = append(p.Lines, l)
		}
	}
	require.NotEmpty(t, p.Lines, use)
	f.Replaced = append(f.Replaced, p)
	f.Becoming = f.Become()
	return f
}

func loaf() *Formula {
	return of(recipe.QuickBread, part{id: "plain-flour", grams: 240}, part{id: "sugar", grams: 150}, part{id: "butter", grams: 115},
		part{id: "egg", grams: 100}, part{id: "milk", grams: 120}, part{id: "baking-powder", grams: 9.2}, part{id: "salt", grams: 3})
}

func TestWhatTheFlourBecomes(t *testing.T) {
	assert.Nil(t, loaf().Become(), "its flour stays")
	assert.False(t, (*Becoming)(nil).Is(balance.GlutenFree))
	gf := loaf().with(t, "flour", "gf-blend", false)
	assert.True(t, gf.Becoming.Is(balance.GlutenFree))
	assert.InDelta(t, 240, gf.Becoming.grams, 12, "about as much flour")
	assert.Equal(t, 240.0, gf.Becoming.written)
	nut := loaf().with(t, "flour", "almond", false)
	assert.True(t, nut.Becoming.Is(balance.Nut))
	assert.Equal(t, nut.Becoming.grams, nut.base(balance.Balance{Base: 240}))
	assert.Equal(t, 240.0, loaf().base(balance.Balance{Base: 240}))
}

func TestWaterThatABaseWants(t *testing.T) {
	for _, c := range []struct {
		kind   recipe.Kind
		bc     Becoming
		lo, hi float64
	}{
		{recipe.LeanBread, Becoming{Base: balance.GlutenFree, grams: 100, water: 60}, 100, 118},
		{recipe.LeanBread, Becoming{Base: balance.GlutenFree, grams: 200, water: 60, husk: true}, 216, 270},
		{recipe.LeanBread, Becoming{Base: ketoYeast, grams: 50, dry: 200, water: 60}, 160, 200},
		{recipe.Biscuit, Becoming{Base: balance.Nut, grams: 100, water: 20}, 5, 22},
		{recipe.Biscuit, Becoming{Base: balance.Nut, grams: 100, water: 60}, 5, 32},
		{recipe.Scone, Becoming{Base: balance.Nut, grams: 100, water: 60}, 27, 48},
		{recipe.Flatbread, Becoming{Base: balance.Nut, grams: 100, water: 10}, 4.5, 12.5},
	} {
		lo, hi := c.bc.waterWindow(c.kind)
		assert.InDelta(t, c.lo, lo, 0.01, "%s %s", c.kind, c.bc.Base)
		assert.InDelta(t, c.hi, hi, 0.01, "%s %s", c.kind, c.bc.Base)
	}
	scone := Becoming{Base: balance.GlutenFree, grams: 100, water: 60}
	winLo, winHi, ok := scone.window(recipe.Scone, "water")
	require.True(t, ok)
	lo, hi := scone.waterWindow(recipe.Scone)
	assert.InDelta(t, math.Max(66, math.Min(winLo, 75)), lo, 0.01, "a tenth more, or a quarter of the way to what is usual")
	assert.LessOrEqual(t, hi, math.Max(winHi, 60))
	_, _, ok = scone.window(recipe.Scone, "moonshine")
	assert.False(t, ok)
	assert.InDelta(t, balance.WaterOf(lib.Get("carrot"))/2, looseWater(lib.Get("carrot")), 1e-9, "pieces keep half")
	assert.InDelta(t, balance.WaterOf(lib.Get("milk")), looseWater(lib.Get("milk")), 1e-9)
}

func TestEggsThatABaseWants(t *testing.T) {
	for _, c := range []struct {
		kind recipe.Kind
		bc   *Becoming
		want float64
	}{
		{recipe.CreamedCake, nil, 0},
		{recipe.CreamedCake, &Becoming{Base: balance.Nut, grams: 200}, 2}, // 110 g: two and a fifth
		{recipe.CreamedCake, &Becoming{Base: balance.Nut, grams: 240}, 3}, // 132 g
		{recipe.CreamedCake, &Becoming{Base: balance.Nut, grams: 60}, 1},  // never none
		{recipe.Scone, &Becoming{Base: balance.Nut, grams: 200}, 2},       // 80 g
		{recipe.Biscuit, &Becoming{Base: balance.Nut, grams: 200}, 0},
		{recipe.LeanBread, &Becoming{Base: balance.GlutenFree, grams: 400}, 2}, // 80 g
		{recipe.LeanBread, &Becoming{Base: balance.GlutenFree, grams: 400, husk: true}, 0},
		{recipe.CreamedCake, &Becoming{Base: balance.GlutenFree, grams: 400}, 0},
	} {
		f := of(c.kind)
		f.Becoming = c.bc
		assert.Equal(t, c.want, f.eggsWanted(), "%s %+v", c.kind, c.bc)
	}
	keto := of(recipe.LeanBread, part{id: "strong-flour", grams: 400}).with(t, "flour", "gluten-almond", false)
	assert.True(t, keto.setsWithoutEgg())
	assert.False(t, loaf().with(t, "flour", "almond", false).setsWithoutEgg())
}

func TestWhatHasToComeBack(t *testing.T) {
	b := balance.Balance{Base: 240, Mass: 1000, Water: 180, FreeWater: 100, AllWater: 200, Fat: 110, Sweet: 150, Binding: 2, Bulk: 150,
		Soda: 12, Acid: 8, CO2: 20, Air: 6, Salt: 3}
	find := func(ts []Target, id string) *Target {
		for n := range ts {
			if ts[n].ID == id {
				return &ts[n]
			}
		}
		return nil
	}
	type window struct{ lo, hi, scale float64 }
	for _, c := range []struct {
		why   string
		kind  recipe.Kind
		lift  float64
		to    *Becoming
		sugar bool
		want  map[string]*window
	}{
		{"as it is", recipe.QuickBread, 0, nil, false, map[string]*window{
			"water": {93.7, 106.3, 180}, "fat": {103.4, 116.6, 110}, "sweet": {138, 162, 150}, "binding": {1.7, 2.6, 2}, "lift": {34.8, 44.4, 36},
			"acid": {-12, 5 + 0.25*0.0025*240*1000/84.007, 10}, "salt": {2.55, 5.5, 3}, "mass": {930, 1070, 1000}, "yeast": nil, "bulk": nil}},
		{"a stiff dough", recipe.Biscuit, 0, nil, false, map[string]*window{
			"water": {184, 216, 180}, "lift": {28.8, 37.5, 30}, "acid": {-12, 5 + 0.25*0.015*240*1000/84.007, 10}}},
		{"soda bread tastes of some", recipe.SodaBread, 0, nil, false, map[string]*window{
			"acid": {-12, 5 + 0.25*0.004*240*1000/84.007, 10}}},
		{"with what a school needs, and sugar replaced", recipe.QuickBread, 4, nil, true, map[string]*window{
			"lift": {38.8, 49, 40}, "bulk": {75, 172.5, 150}}},
		{"without gluten", recipe.QuickBread, 0, &Becoming{Base: balance.GlutenFree, grams: 250}, false, map[string]*window{
			"fat": {93.5, 126.5, 110}, "binding": {1.8, 7.5, 2}, "lift": {43.8, 54.75, 45}, "mass": {750, 1250, 1000}}},
		{"of nuts", recipe.QuickBread, 0, &Becoming{Base: balance.Nut, grams: 250}, false, map[string]*window{
			"fat": {0, 62.5, 110}, "lift": {34.2, 43.71, 35.4}, "binding": {1.8, 7.5, 2}}},
		{"biscuits of nuts", recipe.Biscuit, 0, &Becoming{Base: balance.Nut, grams: 250}, false, map[string]*window{
			"lift": {28.8, 37.5, 30}}},
		{"bread without gluten", recipe.LeanBread, 0, &Becoming{Base: balance.GlutenFree, grams: 400}, false, map[string]*window{
			"yeast": {4.8, 12, 4.8}, "lift": nil}},
	} {
		ts := Targets(b, c.kind, c.lift, c.to, c.sugar)
		for id, w := range c.want {
			got := find(ts, id)
			if w == nil {
				assert.Nil(t, got, "%s: %s", c.why, id)
				continue
			}
			if assert.NotNil(t, got, "%s: %s", c.why, id) {
				assert.InDelta(t, w.lo, got.Lo, 0.01, "%s: %s from", c.why, id)
				assert.InDelta(t, w.hi, got.Hi, 0.01, "%s: %s to", c.why, id)
				assert.InDelta(t, w.scale, got.Scale, 0.01, "%s: %s scale", c.why, id)
			}
		}
	}
	poor := Targets(balance.Balance{Base: 240, Binding: 0.2, Salt: 0.3}, recipe.QuickBread, 0, nil, false)
	assert.Nil(t, find(poor, "binding"))
	assert.Nil(t, find(poor, "salt"))
	assert.Nil(t, find(poor, "acid"), "no soda")
	assert.InDelta(t, 100/2.7, dryYeast(lib.Get("fresh-yeast")), 1e-9)
	assert.Equal(t, 100.0, dryYeast(lib.Get("instant-yeast")))
	assert.Zero(t, dryYeast(lib.Get("salt")))
}

func slotOf(slots []*Slot, id larder.ID) *Slot {
	for _, s := range slots {
		if s.Ingredient.ID == id {
			return s
		}
	}
	return nil
}

func TestWhatMayMove(t *testing.T) {
	f := loaf().with(t, "egg", "flax-gel", false)
	f.Holds = map[larder.ID]float64{"sugar": 120}
	b, _ := f.balance()
	slots := f.slots(b)
	flax := slotOf(slots, "flax-ground")
	require.NotNil(t, flax)
	assert.InDelta(t, 14, flax.Prior, 1, "7 g an egg")
	assert.InDelta(t, flax.Prior*0.85, flax.Min, 1e-9)
	assert.InDelta(t, flax.Prior*1.3, flax.Max, 1e-9)
	assert.Equal(t, recipe.LineID(4), flax.Shares[0].For)
	sugar := slotOf(slots, "sugar")
	assert.True(t, sugar.Held)
	assert.Equal(t, []float64{120, 120, 120}, []float64{sugar.Prior, sugar.Min, sugar.Max})
	powder := slotOf(slots, "baking-powder")
	assert.InDelta(t, 4.6, powder.Min, 1e-9)
	assert.InDelta(t, 7.7*2.4, powder.Max, 1e-9, "two teaspoons to 120 g")
	assert.Nil(t, slotOf(slots, "plain-flour"), "flour never moves by itself")
	salt := slotOf(of(recipe.QuickBread, part{id: "plain-flour", grams: 200}).slots(balance.Balance{Base: 200}), "salt")
	require.NotNil(t, salt, "may come in")
	assert.InDelta(t, 2.4, salt.Max, 1e-9)
	assert.Nil(t, slotOf(of(recipe.LeanBread, part{id: "strong-flour", grams: 200}).slots(balance.Balance{Base: 200}), "baking-powder"), "a dough with yeast gets none")

	gf := loaf().with(t, "flour", "gf-blend", false)
	b, _ = gf.balance()
	milk := slotOf(gf.slots(b), "milk")
	assert.InDelta(t, 30, milk.Min, 1e-9, "another base drinks otherwise")
	assert.InDelta(t, 162, milk.Max, 1e-9)
	nut := loaf().with(t, "flour", "almond", false)
	b, _ = nut.balance()
	slots = nut.slots(b)
	assert.InDelta(t, 46, slotOf(slots, "butter").Min, 1e-9)
	eggs := slotOf(slots, "egg")
	require.NotNil(t, eggs)
	assert.InDelta(t, 50*nut.eggsWanted(), eggs.Min, 1e-9)

	salty := loaf()
	salty.Exceeded = []diet.Limit{{What: diet.Sodium, Max: 10}}
	assert.Zero(t, slotOf(salty.slots(b), "salt").Min)
	salty.Exceeded = []diet.Limit{{What: diet.AddedSugars, Max: 10}}
	assert.InDelta(t, 150*0.75*0.6, slotOf(salty.slots(b), "sugar").Min, 1e-9)
}

func TestAmountsBringTheSumBack(t *testing.T) {
	f := loaf().with(t, "egg", "flax-gel", false)
	got, err := f.Solve()
	require.NoError(t, err)
	assert.Empty(t, got.Doubts)
	after := 0.0
	for _, s := range got.Slots {
		sum := 0.0
		for _, sh := range s.Shares {
			sum += sh.Grams
		}
		if len(s.Shares) > 0 {
			assert.InDelta(t, s.Grams, sum, 1e-6, s.Ingredient.Name)
		}
		after += s.Grams / 100 * s.Ingredient.Facts.FreeWater()
	}
	after += 240. / 100 * lib.Get("plain-flour").Facts.FreeWater()
	water := f.Targets()[0]
	assert.GreaterOrEqual(t, after, water.Lo-0.5)
	assert.LessOrEqual(t, after, water.Hi+0.5)
	assert.NotEmpty(t, got.Why["baking-powder"].Brings)
	none, err := of(recipe.QuickBread).Solve()
	require.NoError(t, err)
	assert.Empty(t, none.Slots)
}

func TestSodaIsSpooned(t *testing.T) {
	f := of(recipe.QuickBread, part{id: "plain-flour", grams: 240}, part{id: "buttermilk", grams: 240}, part{id: "baking-soda", grams: 4.6}, part{id: "salt", grams: 3}, part{id: "egg", grams: 50})
	f.with(t, "buttermilk", "soured-oat", false)
	got, err := f.Solve()
	require.NoError(t, err)
	soda := slotOf(got.Slots, "baking-soda")
	require.Less(t, soda.Grams, 4.6)
	eighth := Teaspoon(f.Kitchen, soda.Ingredient) / 8
	assert.InDelta(t, math.Round(soda.Grams/eighth), soda.Grams/eighth, 1e-6, "whole eighths of a teaspoon")
}

func TestACapThatNothingBringsIsSaid(t *testing.T) {
	f := of(recipe.QuickBread, part{id: "plain-flour", grams: 240}, part{id: "erythritol", grams: 300}, part{id: "egg", grams: 100}, part{id: "milk", grams: 120})
	f.Holds = map[larder.ID]float64{"erythritol": 300}
	got, err := f.Solve()
	require.NoError(t, err)
	assert.Equal(t, []string{"Polyols pass what a serving should hold: cut smaller servings", "Allulose and sugar alcohols pass what a serving should hold: cut smaller servings"}, got.Doubts)
}

func TestAToppingStaysAsThick(t *testing.T) {
	f := of(recipe.CreamedCake, part{id: "plain-flour", grams: 200}, part{"butter", 100, "icing"}, part{"icing-sugar", 200, "icing"}, part{"milk", 20, "icing"})
	f.with(t, "butter", "plant-block", true)
	got := f.Topping("icing")
	var water, fat float64
	for _, sh := range got {
		water += sh.Grams / 100 * sh.Ingredient.Facts[larder.Water]
		fat += sh.Grams / 100 * sh.Ingredient.Facts[larder.Fat]
		if sh.Of != nil {
			assert.Equal(t, recipe.LineID(2), sh.For)
		}
	}
	var wasWater, wasFat float64
	for _, l := range f.Recipe.Lines[1:] {
		wasWater += l.Grams / 100 * lib.Get(l.Ingredient).Facts[larder.Water]
		wasFat += l.Grams / 100 * lib.Get(l.Ingredient).Facts[larder.Fat]
	}
	assert.InDelta(t, wasWater, water, 0.06*wasWater+0.3)
	assert.InDelta(t, wasFat, fat, 0.09*wasFat)
	assert.Empty(t, f.Topping("filling"))
}

func TestRounding(t *testing.T) {
	k := measure.DefaultKitchen()
	fine := k
	fine.FineScale = true
	powder, soda, flour := lib.Get("baking-powder"), lib.Get("baking-soda"), lib.Get("plain-flour")
	tsp := Teaspoon(k, powder)
	assert.InDelta(t, 4.6, tsp, 0.1)
	for _, c := range []struct {
		k           measure.Kitchen
		i           *larder.Ingredient
		grams, want float64
	}{
		{k, powder, tsp * 1.1, tsp}, {k, powder, tsp * 1.13, tsp * 1.25}, {k, powder, tsp * 0.2, tsp * 0.25}, {k, powder, tsp * 0.14, tsp / 8},
		{fine, powder, 4.57, 4.6}, {k, flour, 1.3, 1.5}, {k, flour, 1.2, 1}, {k, flour, 2.4, 2}, {k, flour, 99.4, 99}, {k, flour, 102.4, 100}, {k, flour, 102.5, 105},
	} {
		assert.InDelta(t, c.want, Round(c.k, c.i, c.grams), 1e-9, "%s %g", c.i.Name, c.grams)
	}
	eighth := Teaspoon(k, soda) / 8
	assert.InDelta(t, eighth, RoundDown(k, soda, 1.9*eighth), 1e-9)
	assert.InDelta(t, 2*eighth, RoundDown(k, soda, 2*eighth), 1e-9)
	assert.InDelta(t, 1.2, RoundDown(fine, soda, 1.29), 1e-9)
	assert.True(t, Spooned(powder, 19.9))
	assert.False(t, Spooned(powder, 20))
	assert.False(t, Spooned(lib.Get("aquafaba"), 5))
	assert.Equal(t, 5.0, Teaspoon(k, &larder.Ingredient{}))
}

func TestTheLimitsOfAServing(t *testing.T) {
	f := loaf()
	f.Demand = diet.Demand{Limits: []diet.Limit{{What: diet.Sugars, Max: 10}, {What: diet.Sodium, Max: 200}}}
	got := f.servingLimits()
	require.Len(t, got, 4)
	type row struct {
		name string
		max  float64
		wish bool
	}
	var rows []row
	for _, l := range got {
		rows = append(rows, row{l.name, l.max, l.wish})
	}
	assert.Equal(t, []row{{"polyols", 15 * 8, false}, {"allulose and sugar alcohols", 28 * 8, false}, {"sugars", 0.9 * 10 * 8, true}, {"sodium", 0.9 * 200 * 8, true}}, rows,
		"for eight; wishes a little below, so that rounding does not pass them")
	assert.InDelta(t, 100, got[2].of(lib.Get("sugar")), 1, "per 100 g")
	assert.Greater(t, got[3].of(lib.Get("salt")), 30000.0)
}

func TestWhatATargetCounts(t *testing.T) {
	powder, soda, egg := lib.Get("baking-powder"), lib.Get("baking-soda"), lib.Get("egg")
	assert.InDelta(t, powder.Facts[larder.Soda]+powder.Facts[larder.CO2], gasOf(powder), 1e-9)
	assert.Greater(t, gasOf(egg), 0.0, "eggs hold air")
	assert.Zero(t, liftOf(egg))
	assert.InDelta(t, soda.Facts[larder.Soda]/2, liftOf(soda), 1e-9, "the other half wants acid")
	assert.Less(t, sodaLeft(lib.Get("buttermilk")), 0.0)
	weights := map[string]float64{}
	b := balance.Balance{Base: 240, Mass: 740, Binding: 2, Soda: 12, Salt: 0.35}
	for _, t := range Targets(b, recipe.QuickBread, 0, nil, true) {
		weights[t.ID] = t.Weight
	}
	assert.Equal(t, map[string]float64{"water": 3, "fat": 1.5, "sweet": 1, "binding": 1, "lift": 2, "acid": 1.5, "salt": 0.6, "bulk": 0.8, "mass": 0.5}, weights)
	items := []balance.Item{{Ingredient: lib.Get("butter"), Grams: 50}, {Ingredient: lib.Get("sugar"), Grams: 200}}
	assert.InDelta(t, 250, massTarget(b, nil).Sum(items), 1e-9)
}

func TestSmallWatersJoinTheMainLiquid(t *testing.T) {
	f := loaf().with(t, "butter", "sunflower-oil", false)
	b, _ := f.balance()
	small := f.addBrought(moving{})
	sum := 0.0
	for _, l := range small {
		assert.Equal(t, "liquid", l.as)
		sum += l.prior
	}
	milk := slotOf(f.slots(b), "milk")
	assert.InDelta(t, 115*0.16, sum, 0.01, "what butter held")
	assert.InDelta(t, 120+sum, milk.Prior, 1e-9)
	assert.InDelta(t, 120*0.55+sum*0.5, milk.Min, 1e-9)
	assert.InDelta(t, 120*1.45+sum*1.5, milk.Max, 1e-9)
}

func TestLimitsMoveOnlyWhatTheyCount(t *testing.T) {
	f := loaf()
	b, _ := f.balance()
	f.Exceeded = []diet.Limit{{What: diet.Sodium, Max: 10}}
	slots := f.slots(b)
	assert.InDelta(t, 150*0.75, slotOf(slots, "sugar").Min, 1e-9, "sodium is no sugar's")
	f.Exceeded = []diet.Limit{{What: diet.Sugars, Max: 10}}
	slots = f.slots(b)
	assert.InDelta(t, 3*0.3, slotOf(slots, "salt").Min, 1e-9)
	none := of(recipe.QuickBread, part{id: "milk", grams: 100})
	nb, _ := none.balance()
	assert.Nil(t, slotOf(none.slots(nb), "baking-powder"), "no powder where there is no flour")
	shut := of(recipe.QuickBread, part{id: "plain-flour", grams: 200})
	shut.Demand = diet.Demand{Bans: []string{"only:salt"}}
	sb, _ := shut.balance()
	assert.Nil(t, slotOf(shut.slots(sb), "salt"), "what is banned does not come in")
	require.NotNil(t, slotOf(shut.slots(sb), "baking-powder"))
	assert.InDelta(t, 0.077*200, slotOf(shut.slots(sb), "baking-powder").Max, 1e-9)
}

// Soda gives the gas of what acid meets and half of the rest: powder is asked only for what
// is missing then, and is not given beside soda that has its acid.
func TestSodaCountsAsFarAsItsAcid(t *testing.T) {
	gas := func(sour larder.ID, grams float64) float64 {
		f := of(recipe.QuickBread, part{id: "plain-flour", grams: 240}, part{id: "sugar", grams: 120}, part{id: "egg", grams: 100},
			part{id: sour, grams: grams}, part{id: "baking-soda", grams: 4}).with(t, "egg", "flax-gel", false)
		got, err := f.Solve()
		require.NoError(t, err)
		for _, s := range got.Slots {
			if s.Ingredient.ID == "baking-powder" {
				return s.Grams
			}
		}
		return 0
	}
	sour, sweet := gas("buttermilk", 240), gas("water", 240)
	assert.InDelta(t, sour, sweet, 1.5, "what was there before comes back, be it met or split by heat")
	b := balance.Add([]balance.Item{{Ingredient: lib.Get("baking-soda"), Grams: 4}, {Ingredient: lib.Get("buttermilk"), Grams: 240}})
	ts := Targets(b, recipe.QuickBread, 0, nil, false)
	for _, target := range ts {
		if target.ID == "lift" {
			soda := 4. / 100 * lib.Get("baking-soda").Facts[larder.Soda]
			acid := 240. / 100 * lib.Get("buttermilk").Facts[larder.Acid]
			assert.InDelta(t, acid+(soda-acid)/2, target.Sum([]balance.Item{{Ingredient: lib.Get("baking-soda"), Grams: 4}, {Ingredient: lib.Get("buttermilk"), Grams: 240}}), 0.01)
		}
	}
}

// Fruit binds up to two eggs' work to a loaf's flour: with 340 g of banana beside two eggs the
// batter is bound as by four, and an egg-free one is asked for no more gel for it.
func TestWhatFruitBindsSaturates(t *testing.T) {
	binding := func(banana float64) (lo, sum float64) {
		f := loaf()
		f.Recipe.Lines = append(f.Recipe.Lines, recipe.Line{ID: 9, Ingredient: "banana", Grams: banana, Known: true})
		b, items := f.balance()
		for _, x := range Targets(b, f.Recipe.Kind, 0, nil, false) {
			if x.ID == "binding" {
				return x.Lo / 0.85, x.Sum(items)
			}
		}
		t.Fatal("no such target")
		return 0, 0
	}
	for banana, want := range map[float64]float64{0: 2, 60: 3.05, 340: 4, 680: 4} {
		lo, sum := binding(banana)
		assert.InDelta(t, want, lo, 0.01, "%g g", banana)
		assert.InDelta(t, want, sum, 0.01, "%g g", banana)
	}
}
