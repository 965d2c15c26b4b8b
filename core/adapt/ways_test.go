package adapt_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
)

// 99.8 g of added sugar in all (table sugar, USDA): the ways follow by hand.
func TestSweetTargets(t *testing.T) {
	r := read(t, "Squares\nServes 10\n200 g plain flour\n100 g sugar\n50 g butter\n2 eggs\n2 tsp baking powder")
	sugar := larder.Builtin().Get("sugar").Facts.Sugars()
	type way struct{ pieces, less int }
	for _, c := range []struct {
		most float64
		want []way
	}{
		{10, nil}, // 9.98 a serving keeps it
		{5, []way{{20, 0}, {0, 50}, {0, 0}}},
		{2.5, []way{{40, 0}, {0, 75}, {0, 0}}}, // four times as many is the most
		{2.4, []way{{0, 80}, {0, 0}}},
		{.5, []way{{0, 95}, {0, 0}}},
		{0, []way{{0, 0}}}, // no leaving out keeps it
	} {
		req := adapt.Request{Limits: []diet.Limit{{What: diet.AddedSugars, Max: c.most}, {What: diet.Sodium, Max: 1}}, Swaps: map[string]string{"sugar": "honey", "egg": "flax-gel"}}
		got := adapt.SweetTargets(r, req, adapt.DefaultKit())
		if c.want == nil {
			assert.Empty(t, got)
			continue
		}
		require.Len(t, got, 1, "salt is no matter of sweetness")
		assert.InDelta(t, sugar/10, got[0].Serving, 1e-9)
		var ways []way
		for _, w := range got[0].Ways {
			ways = append(ways, way{w.Servings, w.Less})
			assert.Equal(t, "flax-gel", w.Request.Swaps["egg"])
		}
		assert.Equal(t, c.want, ways, "at most %g g", c.most)
		assert.NotContains(t, got[0].Ways[len(ways)-1].Request.Swaps, "sugar", "the last leaves the choice open")
		assert.Equal(t, "honey", req.Swaps["sugar"], "what was asked for stays as it was")
		if first := got[0].Ways[0]; first.Servings > 0 {
			assert.Equal(t, first.Servings, first.Request.Servings)
			assert.Equal(t, "as-written", first.Request.Swaps["sugar"])
		}
	}
}

// Ways by choice are ranked for the batter as it is: a gel that binds comes before a
// purée where there is no gluten, and none of them reads as the ingredient itself.
func TestWaysByChoiceAreJudgedByTheBatter(t *testing.T) {
	rank := func(flour string, id larder.ID) (string, []string) {
		res := run(t, read(t, "Squares\nServes 10\n200 g "+flour+"\n100 g sugar\n50 g butter\n2 eggs\n100 ml milk\n2 tsp baking powder"), adapt.Request{})
		var ids []string
		for n := range res.Recipe.Lines {
			if ln := &res.Recipe.Lines[n]; ln.Ingredient == id {
				use, ways := res.Ways(ln, adapt.DefaultKit())
				for _, w := range ways {
					ids = append(ids, w.School.ID)
				}
				return use, ids
			}
		}
		return "", nil
	}
	at := func(ids []string, id string) int {
		for n := range ids {
			if ids[n] == id {
				return n
			}
		}
		return len(ids)
	}
	use, wheat := rank("plain flour", "egg")
	assert.Equal(t, "egg", use)
	_, rice := rank("rice flour", "egg")
	assert.Less(t, at(wheat, "yogurt"), at(wheat, "psyllium-gel"))
	assert.Less(t, at(rice, "psyllium-gel"), at(rice, "yogurt"))
	_, milk := rank("plain flour", "milk")
	assert.NotContains(t, milk, "milk")
	stock := run(t, read(t, "Squares\nServes 10\n200 g plain flour\n100 g sugar\n50 g butter\n2 eggs\n100 ml milk\n2 tsp baking powder"), adapt.Request{Stock: true})
	for n := range stock.Recipe.Lines {
		if ln := &stock.Recipe.Lines[n]; ln.Ingredient == "milk" {
			_, ways := stock.Ways(ln, adapt.DefaultKit())
			require.Len(t, ways, 1, "of what the house holds")
			assert.Equal(t, "water", ways[0].School.ID)
		}
	}
	use, none := rank("plain flour", "baking-powder")
	assert.Empty(t, use)
	assert.Empty(t, none)
}
