package en_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/text/en"
)

// How much a recipe makes, as writers say it; 0 for what says nothing of it.
func TestYields(t *testing.T) {
	for _, row := range []struct {
		text  string
		where en.Where
		want  int
	}{
		{"Serves 8", en.InFacts, 8}, {"Serves: about 8 to 10", en.InFacts, 8}, {"serves eight", en.InFacts, 8}, {"Enough for eight", en.InFacts, 8}, {"Feeds 6", en.InFacts, 6},
		{"Makes 12", en.InFacts, 12}, {"Makes about 24 biscuits", en.InFacts, 24}, {"Makes 1 loaf", en.InFacts, 0}, {"Makes 1 large loaf, 14 slices", en.InFacts, 14},
		{"Makes one 9-inch cake, 12 servings", en.InFacts, 12}, {"makes 3, serves 9", en.InFacts, 9}, {"Yield: 24 bars", en.InFacts, 24}, {"Slices: 10", en.InFacts, 10},
		{"24 bars", en.InFacts, 24}, {"Three milks cake", en.InFacts, 0}, {"Three milks cake", en.InTitle, 0}, {"Divide into 3 pieces and roll", en.InStep, 0}, {"Divide the dough into 4 balls", en.InStep, 0}, {"Cut into 4 wedges", en.InStep, 4}, {"shape 8 bundles", en.InStep, 8}, {"Makes 12 small, even rolls", en.InFacts, 12}, {"about 20 biscuits", en.InFacts, 20}, {"2 dozen cookies", en.InFacts, 24}, {"Makes two dozen", en.InFacts, 24}, {"Makes a dozen", en.InFacts, 12},
		{"Makes a 20 cm cake", en.InFacts, 0}, {"Makes one 2 lb loaf", en.InFacts, 0}, {"Makes 500 g", en.InFacts, 0}, {"Ready in 45 minutes", en.InFacts, 0},
		{"Flapjacks, makes 16", en.InTitle, 16}, {"Choc chip cookies (24)", en.InTitle, 24}, {"Bakery muffins — 12", en.InTitle, 12}, {"Crumpets, about 10", en.InTitle, 10},
		{"Cheese straws x12", en.InTitle, 12}, {"Hazel bakes, 18 of them", en.InTitle, 18}, {"Pizza dough, 4 bases", en.InTitle, 4}, {"Buns (about 24)", en.InTitle, 24}, {"No-knead bread (18 hours)", en.InTitle, 0},
		{"Cake (20 cm)", en.InTitle, 0}, {"Cake 2", en.InTitle, 0}, {"1-2-3 cake", en.InTitle, 0}, {"Loaf no. 7", en.InTitle, 0}, {"12 honey buns", en.InTitle, 12}, {"Rye 100 %, 70 %", en.InTitle, 0},
		{"Cool in the pan before cutting into 24.", en.InStep, 24}, {"Cut into 16 squares", en.InStep, 16}, {"Cut in 20.", en.InStep, 20}, {"Mark into 16 fingers while warm", en.InStep, 16},
		{"Divide the dough into 12 equal pieces", en.InStep, 12}, {"Divide in 4 strands, braid", en.InStep, 0}, {"Divide between 2 tins", en.InStep, 0}, {"Shape 10 buns.", en.InStep, 10},
		{"Cut into 1 cm cubes", en.InStep, 0}, {"Roll out 5 mm thick", en.InStep, 0}, {"Cut the cake into 3 layers", en.InStep, 0}, {"Divide into 8, roll into balls", en.InStep, 8},
		{"Spoon into 12 paper cases", en.InStep, 12}, {"a 12-hole muffin tin", en.InStep, 12}, {"Grease a 12-cup bundt pan", en.InStep, 0}, {"Grease a 12 cup muffin pan", en.InStep, 12}, {"Serve with 3 spoons of cream", en.InStep, 0},
		{"Bake 20 minutes, rotate after 10", en.InStep, 0}, {"Beat in 4 eggs", en.InStep, 0}, {"Drop 10 heaps on the sheet", en.InStep, 10}, {"", en.InStep, 0},
		{"Serves 250", en.InFacts, 0}, {"Turn out and cool. 12 slices.", en.InStep, 12}, {"bake in a 9x5 loaf tin", en.InStep, 0}, {"Serves 2.5", en.InFacts, 0}, {"Makes 9 x 13 in pan", en.InFacts, 0},
	} {
		y, _ := en.Best(en.Yields(row.text, row.where))
		assert.Equal(t, row.want, y.Count, row.text)
		assert.LessOrEqual(t, y.To, len(row.text))
	}
	y, ok := en.Best(en.Yields("Buns. Makes 12, serves 4.", en.InFacts))
	assert.True(t, ok)
	assert.Equal(t, en.Yield{Count: 4, Rank: en.RankServes, From: 16, To: 24}, y)
}

func TestATitleAlone(t *testing.T) {
	for title, want := range map[string]string{
		"Flapjacks, makes 16": "Flapjacks", "PIZZA DOUGH, 4 bases": "PIZZA DOUGH", "Crumpets, about 10": "Crumpets", "Cookies (24)": "Cookies", "Muffins — 12": "Muffins",
		"Straws x12": "Straws", "Baguettes (makes 3, serves 9)": "Baguettes", "12 honey buns": "12 honey buns", "Cake": "Cake", "Cake 2": "Cake 2", "Makes 12": "Makes 12",
		"Plain bagels – makes 8": "Plain bagels", "Bread (18 hours)": "Bread (18 hours)", "": "",
	} {
		assert.Equal(t, want, en.TitleAlone(title), title)
	}
}

func FuzzYields(f *testing.F) {
	f.Add("makes 12 to", 0)
	f.Add("(12", 1)
	f.Add("cut into 1/0", 2)
	f.Fuzz(func(t *testing.T, s string, where int) {
		for _, y := range en.Yields(s, en.Where(where)) {
			if y.Count < 1 || y.Count > 200 || y.From >= y.To || y.To > len(s) {
				t.Fatalf("%q: %+v", s, y)
			}
		}
	})
}
