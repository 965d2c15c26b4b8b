package adapt

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

const iced = `Iced loaf
Serves 10
Ingredients
210 g plain flour
130 g sugar
115 g butter
3 eggs
150 g buttermilk
1½ tsp baking powder
¼ tsp baking soda
40 g walnuts (optional)
For the icing:
100 g icing sugar
40 g butter
Mix and bake in a 9x5 inch loaf tin at 175 C for 50 minutes.`

func stages(t *testing.T, req Request) (asked, *recipe.Recipe) {
	t.Helper()
	rd, err := reader.Read(iced, reader.Options{})
	require.NoError(t, err)
	require.Empty(t, rd.Recipe.Unknown())
	return newAsked(rd.Recipe, req, DefaultKit()), rd.Recipe
}

// seen is all of a stage that a later one could have changed.
func seen(t *testing.T, r *amounts) string {
	t.Helper()
	var picks, brings []string
	for _, p := range r.picks {
		picks = append(picks, fmt.Sprint(p.key, p.chosen.School.ID, p.Lines, p.Use.ID))
	}
	for _, b := range r.brings {
		brings = append(brings, fmt.Sprint(b.to, b.raw))
	}
	var groups []string
	for _, g := range r.groups {
		groups = append(groups, fmt.Sprint(g.key, g.Lines))
	}
	doc, err := json.Marshal([]any{r.before, r.written, r.dropped, r.moved, r.exceeded, r.doubts, r.confidence, r.nextID, groups, picks, brings, r.why})
	require.NoError(t, err)
	return string(doc)
}

// A stage makes another of what it is given and changes nothing of it, so that it gives
// the same when it is asked again.
func TestNoStageChangesWhatItWasGiven(t *testing.T) {
	for _, req := range []Request{
		{Diets: []diet.ID{diet.EggFree, diet.DairyFree}, Scale: 1.3}, {Diets: []diet.ID{diet.GlutenFree}, Bans: []string{"nuts"}}, {Diets: []diet.ID{diet.Keto}, Drops: []recipe.LineID{2}},
		{Limits: []diet.Limit{{What: diet.AddedSugars, Max: 6}}, Holds: map[larder.ID]float64{"butter": 90, "water": 40}}, {Bans: []string{"salt", "sugar", "polyol", "sweetener", "syrup", "fruit", "dried-fruit", "fibre"}},
	} {
		asked, written := stages(t, req)
		first := scale(written, asked)
		before := seen(t, &amounts{chosen: chosen{screened: screened{scaled: first}}})
		second := screen(first)
		assert.Equal(t, before, seen(t, &amounts{chosen: chosen{screened: screened{scaled: first}}}), "screen")
		before = seen(t, &amounts{chosen: chosen{screened: second}})
		third := choose(second)
		assert.Equal(t, before, seen(t, &amounts{chosen: chosen{screened: second}}), "choose")
		before = seen(t, &amounts{chosen: third})
		fourth, err := solve(third)
		require.NoError(t, err)
		assert.Equal(t, before, seen(t, &amounts{chosen: third}), "solve")
		before = seen(t, &fourth)
		a, b := assemble(fourth), assemble(fourth)
		assert.Equal(t, before, seen(t, &fourth), "assemble")
		assert.Equal(t, a.recipe, b.recipe)
		assert.Equal(t, a.changes, b.changes)
		assert.Equal(t, assess(written, a, true), assess(written, b, true))
	}
}

func TestTheBatchIsScaled(t *testing.T) {
	asked, written := stages(t, Request{Scale: 0.5, Servings: 6, Drops: []recipe.LineID{2}, Limits: []diet.Limit{{What: diet.Sodium, Max: 10}, {What: diet.Sugars, Max: 90}}})
	got := scale(written, asked)
	assert.Equal(t, 6, got.written.Servings)
	assert.InDelta(t, 105, got.before.Lines[0].Grams, 1e-9)
	assert.Equal(t, 150.0, got.before.Lines[3].Grams/got.before.Lines[3].Amount.Mid()*3, "as written, 1½ eggs")
	assert.Equal(t, 2.0, got.written.Lines[2].Amount.Mid(), "eggs come whole")
	require.Len(t, got.moved, 1)
	assert.Equal(t, Scaled, got.moved[0].Kind)
	require.Len(t, got.dropped, 1)
	assert.Equal(t, "granulated sugar", got.dropped[0].Name)
	assert.Equal(t, []diet.Limit{{What: diet.Sodium, Max: 10}}, got.exceeded)
}

func TestWhatHasToGoIsGrouped(t *testing.T) {
	asked, written := stages(t, Request{Diets: []diet.ID{diet.DairyFree, diet.GlutenFree}, Bans: []string{"nuts"}})
	got := screen(scale(written, asked))
	require.Nil(t, got.refused)
	var keys []string
	for _, g := range got.groups {
		keys = append(keys, g.key)
		assert.True(t, g.shuts)
		assert.NotEmpty(t, g.breaks.words())
	}
	assert.Equal(t, []string{"flour", "butter", "buttermilk", "nuts", "butter-topping"}, keys, "the flour first")
	assert.Equal(t, "milk", got.groups[1].breaks.reason.About())
	asked, written = stages(t, Request{Bans: []string{"only:buttermilk", "only:baking-powder"}})
	refused := screen(scale(written, asked))
	require.NotNil(t, refused.refused)
	assert.Contains(t, refused.refused.Reason, "Baking powder is shut out by “no baking powder, that alone”, and Kollaris knows nothing")
	assert.NotEmpty(t, refused.refused.Nearest)
}

func TestSchoolsAreChosen(t *testing.T) {
	asked, written := stages(t, Request{Diets: []diet.ID{diet.EggFree, diet.GlutenFree}, Swaps: map[string]string{"egg": "chia-gel", "flour": "moonshine"}})
	got := choose(screen(scale(written, asked)))
	require.Nil(t, got.refused)
	assert.Equal(t, "chia-gel", got.pickFor("egg").chosen.School.ID)
	assert.Nil(t, got.pickFor("butter"))
	assert.Equal(t, balance.GlutenFree, got.flourBecomes())
	assert.Equal(t, swap.Workable, got.confidence)
	assert.Contains(t, fmt.Sprint(got.doubts), "“moonshine” is no way to replace flour")
	assert.Contains(t, fmt.Sprint(got.doubts), "With neither gluten nor egg")
	assert.Equal(t, got.picks[0], got.pickOf(written.Lines[0].ID))
	assert.Nil(t, got.pickOf(written.Lines[1].ID), "sugar stays")

	asked, written = stages(t, Request{Bans: []string{"nuts", "seeds", "fruit", "coconut", "dried-fruit", "grain", "chocolate"}})
	got = choose(screen(scale(written, asked)))
	if got.refused == nil {
		assert.False(t, slices.ContainsFunc(got.picks, func(p *pick) bool { return len(p.choices) == 0 || !p.chosen.Shut.Open() }), "what is chosen is open")
	}
}

func TestAmountsAreSolvedAndAssembled(t *testing.T) {
	asked, written := stages(t, Request{Diets: []diet.ID{diet.EggFree, diet.DairyFree}, Holds: map[larder.ID]float64{"oat-drink": 140}})
	got, err := solve(choose(screen(scale(written, asked))))
	require.NoError(t, err)
	require.NotEmpty(t, got.slots)
	for _, s := range got.slots {
		assert.GreaterOrEqual(t, s.Grams, s.Min-1e-6, s.Ingredient.Name)
		assert.LessOrEqual(t, s.Grams, s.Max+1e-6, s.Ingredient.Name)
		assert.Contains(t, got.why, s.Ingredient.ID)
		if s.Ingredient.ID == "oat-drink" {
			assert.True(t, s.Held)
			assert.InDelta(t, 140, s.Grams, 1e-9)
		}
	}
	out := assemble(got)
	for _, l := range out.recipe.Lines {
		if l.Replaces != 0 {
			assert.NotNil(t, written.Line(l.Replaces), l.Name)
			assert.NotEqual(t, recipe.Written, l.Origin)
		}
	}
	held := out.recipe.Lines[slices.IndexFunc(out.recipe.Lines, func(l recipe.Line) bool { return l.Ingredient == "oat-drink" })]
	assert.Equal(t, recipe.Held, held.Origin)
	assert.InDelta(t, 140, held.Grams, 1e-9)

	asked, written = stages(t, Request{Holds: map[larder.ID]float64{written.Lines[0].Ingredient: 321}})
	flour, err := solve(choose(screen(scale(written, asked))))
	require.NoError(t, err)
	assert.InDelta(t, 321, flour.written.Lines[0].Grams, 1e-9, "what moves by itself is held on its line")
	for n, l := range flour.written.Lines[1:] {
		assert.Equal(t, written.Lines[n+1].Grams, l.Grams, l.Name)
	}

	asked, written = stages(t, Request{})
	none, err := solve(choose(screen(scale(written, asked))))
	require.NoError(t, err)
	assert.Empty(t, none.slots, "where nothing goes nothing is solved")
	assert.Empty(t, assemble(none).changes)
}
