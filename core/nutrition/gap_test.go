package nutrition_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
)

func TestGapsByFigure(t *testing.T) {
	l := larder.Builtin()
	r := &recipe.Recipe{Lines: []recipe.Line{
		{ID: 1, Ingredient: "plain-flour", Known: true, Grams: 100, Text: "100 g plain flour"},
		{ID: 2, Ingredient: "icing-sugar", Known: true, Text: "icing sugar to dust"},
		{ID: 3, Ingredient: "salt", Known: true, Text: "salt to taste"},
		{ID: 4, Ingredient: "butter", Known: true, Text: "butter for greasing", Note: "for greasing"},
		{ID: 5, Ingredient: "water", Known: true, Text: "water as needed"},
		{ID: 6, Ingredient: "butter", Known: true, Text: "butter to serve"},
	}}
	for id, want := range map[string][]recipe.LineID{"sugars": {2}, "added": {2}, "net-carb": {2}, "salt": {3, 6}, "fat": {6}, "energy": {2, 6}, "fibre": nil} {
		row, ok := nutrition.RowOf(id)
		assert.True(t, ok)
		var got []recipe.LineID
		for _, g := range nutrition.Gaps(r, l, row) {
			assert.False(t, g.Unread)
			got = append(got, g.Line)
		}
		assert.Equal(t, want, got, id)
	}
	assert.Len(t, nutrition.AllGaps(r, l), 3)
	r.Lines = append(r.Lines, recipe.Line{ID: 7, Text: "zorblax", Grams: 50})
	for _, row := range nutrition.Rows {
		gaps := nutrition.Gaps(r, l, row)
		assert.Equal(t, nutrition.Gap{Line: 7, Text: "zorblax", Unread: true}, gaps[len(gaps)-1], "%s: it could hold anything", row.ID)
	}
	_, ok := nutrition.RowOf("moonlight")
	assert.False(t, ok)
}

// With a gap behind its figure no claim is met; with a line that was not understood there
// are no claims.
func TestNoClaimRestsOnWhatIsNotKnown(t *testing.T) {
	l := larder.Builtin()
	r := &recipe.Recipe{Lines: []recipe.Line{{Ingredient: "almond-flour", Known: true, Grams: 200}, {Ingredient: "egg", Known: true, Grams: 100}}}
	sum := nutrition.Sum(r, l)
	claims := func(gaps ...string) map[string]bool {
		out := map[string]bool{}
		for _, c := range nutrition.Claims(sum, sum, 8, func(row string) []nutrition.Gap {
			for _, g := range gaps {
				if g == row || g == "anything" {
					return []nutrition.Gap{{Text: "some", Unread: g == "anything"}}
				}
			}
			return nil
		}) {
			out[c.Words] = c.Meets
		}
		return out
	}
	assert.True(t, claims()["low sugars"])
	assert.True(t, claims()["high fibre"])
	assert.True(t, claims()["low sodium"])
	assert.False(t, claims("sugars")["low sugars"])
	assert.True(t, claims("sugars")["low sodium"])
	assert.False(t, claims("salt")["low sodium"])
	assert.False(t, claims("energy")["high fibre"])
	assert.Empty(t, claims("anything"))
}
