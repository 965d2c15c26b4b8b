package adapt_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/swap"
)

const plain = `Plain loaf
Serves 10
Ingredients
240 g plain flour
150 g sugar
100 g butter, melted
2 eggs
180 g milk
2 tsp baking powder
1/2 tsp salt
Method
Bake at 175C for 50 minutes in a 9x5 in loaf tin.`

// Every school of every use, taken by hand in a plain loaf: the amount comes
// within a third of the school's prior (the rest is the balance's), everything
// is finite, and where a sum ends outside its window the result says so.
func TestEverySchoolCanBeTaken(t *testing.T) {
	r := read(t, plain)
	for _, use := range []string{"egg", "butter", "milk"} {
		for _, s := range swap.Builtin().Use(use).Schools {
			req := adapt.Request{Diets: []diet.ID{diet.EggFree, diet.DairyFree}, Swaps: map[string]string{use: s.ID}}
			if len(s.Only) > 0 {
				continue // a glaze is no part of a batter
			}
			if s.ID == "yogurt" || s.ID == "lactose-free-milk" || s.ID == "buttermilk" && use == "egg" {
				req.Diets = []diet.ID{diet.EggFree} // dairy
			}
			res := run(t, r, req)
			require.Nil(t, res.Refused, s.ID)
			taken := false
			for _, c := range res.Changes {
				taken = taken || c.Use == use && c.School == s.ID
			}
			assert.True(t, taken, "%s for %s", s.ID, use)
			from := map[string]float64{"egg": 100, "butter": 100, "milk": 180}[use]
			for _, p := range s.Parts {
				if p.As == "liquid" || p.As == "gel" || p.As == "lift" || p.As == "soda" {
					continue // water and lift go where the balance wants them
				}
				want := from / swap.Builtin().Use(use).Per * p.Grams
				assert.InEpsilon(t, want, grams(res.Recipe, p.ID), 0.34, "%s in %s", p.ID, s.ID)
			}
			outside := false
			for _, sum := range res.Sums {
				outside = outside || sum.Out && sum.ID != "mass"
			}
			assert.Equal(t, outside, len(res.Doubts) > 0, "%s: %v", s.ID, res.Doubts)
			if outside {
				assert.NotEqual(t, swap.WellTried, res.Confidence, s.ID)
			}
		}
	}
}

// By hand: two eggs hold 152 g of water per 200 g, so 76 g; 14 g of ground flax
// drink 1.2 × 14 = 17 g and hold 1 g. For the same free water the gel and the
// other liquids must bring 76 + 17 - 1 = 92 g.
func TestFlaxGelArithmetic(t *testing.T) {
	r := read(t, plain)
	req := adapt.Request{Diets: []diet.ID{diet.EggFree}, Swaps: map[string]string{"egg": "flax-gel"}}
	res := run(t, r, req)
	brought := grams(res.Recipe, "water") + 0.88*(grams(res.Recipe, "milk")-180)
	window := 0.035 * res.Before.Water
	assert.InDelta(t, 92, brought, window+3)
}

// By hand: 15 g of 5 % vinegar are 12.5 meq of acid, 1.15 g of soda 13.7 meq; with
// the flour's own acid (2.5 meq to 100 g) no soda is left over.
func TestVinegarMeetsItsSoda(t *testing.T) {
	r := read(t, plain)
	res := run(t, r, adapt.Request{Diets: []diet.ID{diet.EggFree}, Swaps: map[string]string{"egg": "vinegar-soda"}})
	assert.LessOrEqual(t, res.After.Surplus(), 0.0025*240*11.904)
	assert.Positive(t, grams(res.Recipe, "baking-soda"))
}

// Salted butter carries 1.6 % salt: 100 g of it bring 1.6 g, and oil none, so a
// quarter teaspoon comes in.
func TestSaltThatWentOutWithTheButterComesBack(t *testing.T) {
	r := read(t, "Loaf\nIngredients\n240 g plain flour\n100 g sugar\n100 g salted butter\n150 g milk\n2 tsp baking powder")
	res := run(t, r, adapt.Request{Diets: []diet.ID{diet.DairyFree}, Swaps: map[string]string{"butter": "sunflower-oil"}})
	assert.InDelta(t, 1.6, grams(res.Recipe, "salt"), 0.4)
	added := false
	for _, c := range res.Changes {
		added = added || c.Kind == adapt.Added && c.To[0].Ingredient == "salt" && c.Reason != ""
	}
	assert.True(t, added)
}

// Jam brings 30 g of sugar an egg; without a word the sugar line gives way.
func TestSugarGivesWayToWhatBringsItsOwn(t *testing.T) {
	r := read(t, plain)
	res := run(t, r, adapt.Request{Diets: []diet.ID{diet.EggFree}, Swaps: map[string]string{"egg": "jam"}})
	assert.Less(t, grams(res.Recipe, "sugar"), 145.0)
	assert.InEpsilon(t, res.Before.Sweet, res.After.Sweet, 0.10)
}

// A creamed cake without butter's air, a rubbed-in scone without a solid fat: the
// choice is allowed, and lowers the confidence.
func TestOilWhereASolidFatIsNeeded(t *testing.T) {
	for kind, want := range map[string]swap.Confidence{"Cream the butter and sugar.": swap.Workable, "": swap.WellTried} {
		r := read(t, "Seed cake\nIngredients\n200 g self-raising flour\n180 g sugar\n180 g butter\n150 g milk\nMethod\n"+kind+" Bake 40 minutes at 175C.")
		res := run(t, r, adapt.Request{Diets: []diet.ID{diet.DairyFree}, Swaps: map[string]string{"butter": "sunflower-oil"}})
		for _, c := range res.Changes {
			if c.Use == "butter" {
				assert.Equal(t, want, c.Confidence, kind)
			}
		}
	}
}

func TestAFineScaleWeighsTenths(t *testing.T) {
	kit := adapt.DefaultKit()
	kit.Kitchen.FineScale = true
	res, err := adapt.Adapt(read(t, plain), adapt.Request{Diets: []diet.ID{diet.EggFree}}, kit)
	require.NoError(t, err)
	powder := grams(res.Recipe, "baking-powder")
	assert.InDelta(t, 0, powder*10-float64(int(powder*10+0.5)), 1e-6)
}

func TestWhatTheLedgerOffers(t *testing.T) {
	res := run(t, read(t, plain), adapt.Request{Diets: []diet.ID{diet.EggFree}, Bans: []string{"soya"}})
	for _, c := range res.Changes {
		if c.Use != "egg" {
			continue
		}
		assert.Equal(t, "2 eggs", c.Title)
		assert.True(t, c.Options[0].Auto)
		assert.Equal(t, c.School, c.Options[0].School, "the chosen one stands first")
		for _, o := range c.Options {
			if o.School == "silken-tofu" {
				assert.Contains(t, o.Shut, "soya")
			}
			assert.NotEmpty(t, o.About)
		}
	}
	had := map[larder.ID]bool{"water": true, "plain-flour": true, "baking-powder": true}
	buy := res.ToBuy(had)
	require.Len(t, buy, 1)
	assert.Equal(t, larder.ID("flax-ground"), buy[0].Ingredient)
}

// The baker knows what the egg is there for: said to lift, what lifts comes first;
// the word is no job of another use, and an unknown one changes nothing.
func TestARoleCanBeCorrected(t *testing.T) {
	r := read(t, plain)
	chosen := func(jobs map[string]string) string {
		for _, c := range run(t, r, adapt.Request{Diets: []diet.ID{diet.EggFree}, Jobs: jobs}).Changes {
			if c.Use == "egg" {
				return c.School
			}
		}
		return ""
	}
	assert.Equal(t, "flax-gel", chosen(nil))
	assert.Contains(t, []string{"starch-replacer", "vinegar-soda", "own-starch", "aquafaba"}, chosen(map[string]string{"egg": "lifts"}))
	assert.Contains(t, []string{"soya-yogurt", "yogurt", "silken-tofu"}, chosen(map[string]string{"egg": "enriches"}))
	assert.Equal(t, "flax-gel", chosen(map[string]string{"egg": "sings", "butter": "creams"}))

	req, _ := adapt.ParseRequest(url.Values{"job.egg": {"lifts"}, "job.butter": {""}}, larder.Builtin())
	assert.Equal(t, map[string]string{"egg": "lifts"}, req.Jobs)
	assert.Equal(t, "job=egg%3Alifts", req.Values().Encode())
}

// A share of the sugar left out stays out, and a mix of one's own goes in as it was
// worked out; a ban shuts it like any other way.
func TestSugarByOnesOwnMix(t *testing.T) {
	r := read(t, "Oat loaf\nServes 10\n200 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n120 ml milk\n2 tsp baking powder\n\n1. Mix and bake at 175 °C for 45 minutes in a 2 lb loaf tin.")
	res := run(t, r, adapt.Request{Swaps: map[string]string{"sugar": "less:30"}})
	assert.InDelta(t, 70, grams(res.Recipe, "sugar"), 1)
	res = run(t, r, adapt.Request{Swaps: map[string]string{"sugar": "mix:xylitol=80+inulin=15"}})
	assert.InDelta(t, 80, grams(res.Recipe, "xylitol"), 1)
	assert.InDelta(t, 15, grams(res.Recipe, "inulin"), 1)
	assert.Zero(t, grams(res.Recipe, "sugar"))
	res = run(t, r, adapt.Request{Bans: []string{"xylitol"}, Swaps: map[string]string{"sugar": "mix:xylitol=80+inulin=15"}})
	assert.Zero(t, grams(res.Recipe, "xylitol"))
	assert.Contains(t, res.Doubts[0], "is shut")
}

// What a demand costs is what would stay as written without it.
func TestWhatEachDemandCosts(t *testing.T) {
	r := read(t, plain)
	req := adapt.Request{Diets: []diet.ID{diet.EggFree}, Bans: []string{"sesame"}, Theirs: diet.Demand{Diets: []diet.ID{diet.DairyFree}}}
	res := run(t, r, req)
	asks, err := adapt.Asks(r, req, res, adapt.DefaultKit())
	require.NoError(t, err)
	require.Len(t, asks, 3)
	by := map[string]adapt.Asking{}
	for _, a := range asks {
		by[a.Words] = a
	}
	require.Len(t, by["egg-free"].Changes, 1)
	assert.Contains(t, by["egg-free"].Changes[0], "eggs →")
	assert.Empty(t, by["no sesame"].Changes)
	for _, c := range by["dairy-free"].Changes {
		assert.NotContains(t, c, "egg")
	}
	assert.NotEmpty(t, by["dairy-free"].Changes)
}

// What goes into a filling, and what a demand would best have, by a word for each.
func TestWhatIsTakenForWhat(t *testing.T) {
	tart := "Jam tarts\nMakes 12\n\nFor the pastry:\n200 g plain flour\n100 g butter\n2 tbsp water\n\nFilling:\n200 g jam\n\nRub in the butter, add the water, roll out and line 12 tartlet tins. Fill with jam. Bake 15 minutes at 190C."
	curd := "Lemon cake\nServes 10\n\n200 g plain flour\n150 g butter\n150 g sugar\n3 eggs\n2 tsp baking powder\n100 ml milk\n\nFilling:\n150 g lemon curd\n\nMix all. Bake in two 20 cm round tins at 180C for 25 minutes. Sandwich with the curd."
	quiche := "Leek quiche\nServes 8\n\nPastry:\n200 g plain flour\n100 g butter\n3 tbsp cold water\n\nFilling:\n3 eggs\n300 ml double cream\n1 leek\n\nRub the butter into the flour, add the water, roll out and line a 23 cm tart tin. Bake blind 15 minutes at 200C. Beat the filling, pour in and bake 30 minutes at 170C."
	swirls := "Swirls\nMakes 12\n\nDough:\n500 g strong flour\n7 g instant yeast\n250 ml milk\n75 g butter\n50 g sugar\n1 egg\n1 tsp salt\n\nFilling:\n80 g butter\n100 g light brown sugar\n\nIcing:\n100 g icing sugar\n1 tbsp milk\n\nKnead, prove, roll out, fill, roll up, cut, prove, bake 25 minutes at 190C. Ice."
	galette := "Plum galette\nServes 6\n\nPastry:\n200 g plain flour\n120 g cold butter, cubed\n4 tbsp ice water\n500 g plums, sliced\n60 g sugar\n1 egg, beaten, to glaze\n\nRub butter into flour, bring together with the water. Roll out, lay the plums on it. Fold the edges, brush with egg. Bake 40 minutes at 200C."
	crumble := "Apple crumble\nServes 6\n\n800 g apples, sliced\n50 g sugar\n\nFor the crumble:\n150 g plain flour\n100 g butter\n75 g demerara sugar\n\nRub the butter into the flour, stir in the sugar. Scatter over the apples. Bake 40 minutes at 180C."
	bread := "Milk bread\nServes 12\n\n500 g strong flour\n300 ml milk\n100 g yogurt\n50 g butter\n7 g instant yeast\n8 g salt\n\nKnead, prove, shape in a 2 lb loaf tin, prove, bake 30 minutes at 200C."
	for _, c := range []struct{ text, asks, want string }{
		{tart, "diet=low-sugar", "jam-topping=half-jam"}, {tart, "limit=added-sugars:2", "jam-topping=chia-jam"}, {tart, "limit=added-sugars:2&ban=chia", "jam-topping=starch-jam"},
		{tart, "diet=keto", "jam-topping=chia-jam"}, {tart, "diet=dairy-free", "butter=plant-block"},
		{curd, "diet=egg-free", "curd-topping=starch-curd"}, {curd, "limit=added-sugars:2", "curd-topping=own-curd"},
		{curd, "diet=vegan&limit=added-sugars:2", "curd-topping=starch-curd-sweetener"}, {curd, "diet=vegan&diet=keto", "curd-topping=agar-curd"},
		{quiche, "diet=dairy-free", "butter=plant-block"}, {quiche, "diet=dairy-free&ban=nuts", "butter=plant-block"}, {quiche, "diet=lactose-free", "cream-topping=lactose-free-cream"},
		{galette, "diet=egg-free", "egg-topping=oat-glaze"}, {galette, "diet=dairy-free", "butter=plant-block"}, {crumble, "diet=dairy-free", "butter=plant-block"},
		{swirls, "diet=low-sugar", "sugar=blend sugar-topping=brown-blend sugar-topping.icing=icing-sweetener"},
		{swirls, "diet=low-sugar&swap=sugar-topping.icing:allulose", "sugar-topping=brown-blend sugar-topping.icing=allulose"},
		{swirls, "diet=low-sugar&swap=sugar-topping:erythritol", "sugar-topping=erythritol sugar-topping.icing=erythritol"}, // of all, where none is named
		{bread, "diet=lactose-free", "milk=lactose-free-milk yogurt=lactose-free-yogurt"}, {bread, "diet=dairy-free", "butter=plant-block milk=oat-drink"},
	} {
		v, err := url.ParseQuery(c.asks)
		require.NoError(t, err)
		req, faults := adapt.ParseRequest(v, larder.Builtin())
		require.Empty(t, faults)
		res := run(t, read(t, c.text), req)
		require.Nil(t, res.Refused, c.asks)
		taken := ""
		for _, ch := range res.Changes {
			taken += ch.Use + "=" + ch.School + " "
		}
		for _, want := range strings.Fields(c.want) {
			assert.Contains(t, taken, want+" ", "%s for %s", res.Recipe.Title, c.asks)
		}
	}
}

// A shortbread of almonds wants half the butter that wheat's had: nuts bring their own fat.
// Source: common practice, 120 to 160 g to 350 g of ground almonds.
func TestAShortbreadOfAlmonds(t *testing.T) {
	r := read(t, "Shortbread fingers\nMakes 20\n\n250 g butter\n120 g caster sugar\n300 g plain flour\n70 g rice flour\npinch of salt\n\nCream butter and sugar, work in the flours, press into a 23 cm square tin. Bake 45 minutes at 150C.")
	res := run(t, r, adapt.Request{Diets: []diet.ID{diet.Keto}})
	require.Nil(t, res.Refused)
	share := grams(res.Recipe, "butter") / grams(res.Recipe, "almond-flour")
	assert.GreaterOrEqual(t, share, 0.28)
	assert.LessOrEqual(t, share, 160./350)
	assert.NotEqual(t, swap.Experiment, res.Confidence, res.Doubts)
}
