package bake_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/bake"
	"kollaris/core/diet"
	"kollaris/core/larder"
)

// A slip that was told stays told: its amounts lie in the bowl from then on, in all that is worked out of it, until it is taken back.
func TestASlipStaysTold(t *testing.T) {
	sheet := loaf(t)
	salt, sugar := lineOf(t, sheet, "salt").ID, lineOf(t, sheet, "sugar").ID
	of := func(events ...bake.Event) *bake.Strip {
		p, _ := fold(sheet, events...)
		return &p
	}
	kit := kit()
	g := sheet.Recipe.Line(salt).Grams
	sweet := sheet.Recipe.Line(sugar).Grams

	p := of(bake.Event{What: bake.Slip, Text: string(bake.Twice), Line: salt}, bake.Event{What: bake.Stands, Text: "pours"})
	assert.InDelta(t, g, p.In[salt], 1e-9, "once more")
	assert.InDelta(t, 2*g, p.Bowl(sheet, kit).In[salt], 0.01)
	assert.InDelta(t, 2*g, p.Slipped(sheet.Recipe, kit.Larder).Line(salt).Grams, 1e-9)
	assert.Contains(t, p.Slips[0].Words(sheet, kit.Larder), "salt went in twice: ")

	p = of(bake.Event{What: bake.Slip, Text: string(bake.Forgot), Line: sugar})
	assert.Zero(t, p.Bowl(sheet, kit).In[sugar])
	assert.Contains(t, p.Bowl(sheet, kit).In, sugar)
	assert.Zero(t, p.Slipped(sheet.Recipe, kit.Larder).Line(sugar).Grams)
	p = of(bake.Event{What: bake.Slip, Text: string(bake.Forgot), Line: sugar}, bake.Event{What: bake.Spoon, Line: sugar, Value: sweet})
	assert.InDelta(t, sweet, p.In[sugar], 1e-9, "it went in after all")
	assert.False(t, p.Left[sugar])

	p = of(bake.Event{What: bake.Slip, Text: string(bake.Instead), Line: sugar, Food: "salt"})
	b := p.Bowl(sheet, kit)
	assert.Zero(t, b.In[sugar])
	require.Len(t, b.Extra, 1)
	assert.InDelta(t, sweet, b.Extra[0].Grams, 1e-9, "as much of it as was wanted")
	assert.Equal(t, "fine salt went in for "+sheet.Recipe.Line(sugar).Name+": 133 g", p.Slips[0].Words(sheet, kit.Larder))

	p = of(bake.Event{What: bake.Slip, Text: string(bake.GotIn), Food: "egg", Value: 50})
	assert.Len(t, p.Bowl(sheet, kit).Extra, 1)
	assert.Equal(t, "egg got in: 50 g", p.Slips[0].Words(sheet, kit.Larder))
	made := p.Slipped(sheet.Recipe, kit.Larder)
	assert.Equal(t, larder.ID("egg"), made.Lines[len(made.Lines)-1].Ingredient)
	assert.Same(t, sheet.Recipe, of().Slipped(sheet.Recipe, kit.Larder))

	p = of(bake.Event{What: bake.Slip, Text: string(bake.Twice), Line: salt}, bake.Event{What: bake.Undo, Key: "e0"})
	assert.Empty(t, p.Slips, "taken back")
}

// What no one who eats may have is never rescued, whatever was told before or after it.
func TestAnAllergenIsNeverRescued(t *testing.T) {
	sheet := loaf(t)
	kit := kit(diet.EggFree, diet.DairyFree)
	p, _ := fold(sheet, []bake.Event{{What: bake.Slip, Text: string(bake.GotIn), Food: "egg", Value: 5}, {What: bake.Slip, Text: string(bake.GotIn), Food: "water", Value: 5}}...)
	r := p.Judge(sheet, p.Slips[0], kit)
	assert.Contains(t, r.Never, "egg holds egg")
	require.Len(t, r.Ways, 1)
	assert.Contains(t, r.Ways[0].How, "begin anew")
}
