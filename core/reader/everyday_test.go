package reader_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"

	"kollaris/core/reader"
)

// Lines as they stand in home notes that need no question: the food, and grams between two figures. Source: the weights are kitchen facts
// (a sheet of gelatine 2 g, a large European egg 57 to 65 g with its shell, two thirds of a banana left when it is peeled).
func TestEverydayLinesNeedNoQuestion(t *testing.T) {
	for line, want := range map[string]struct {
		food     larder.ID
		from, to float64
	}{
		"100 g cold butter in cubes":                     {"butter", 100, 100},
		"100 g butter @ room temp":                       {"butter", 100, 100},
		"150 g baking marg":                              {"margarine", 150, 150},
		"50 ml veg oil":                                  {"sunflower-oil", 44, 48},
		"3 eggs L":                                       {"egg", 145, 195},
		"2 eggs (M)":                                     {"egg", 85, 110},
		"100 g white caster sugar":                       {"caster-sugar", 100, 100},
		"200 ml unsweetened oat milk":                    {"oat-drink", 195, 210},
		"50 g cashewnuts":                                {"cashews", 50, 50},
		"4 gelatine sheets":                              {"gelatine", 6, 8.1},
		"2 sheets gelatine":                              {"gelatine", 3, 4.1},
		"1 envelope unflavored gelatin":                  {"gelatine", 6.5, 8},
		"3 egg whites whipped stiff":                     {"egg-white", 85, 115},
		"100 g white chocolate chunks":                   {"white-chocolate", 100, 100},
		"1 sachet (16 g) of baking powder for cakes":     {"baking-powder", 16, 16},
		"250 g flour type 405":                           {"plain-flour", 250, 250},
		"500 g strong wholemeal bread flour":             {"wholemeal-flour", 500, 500},
		"200 g passata":                                  {"passata", 200, 200},
		"1 tsp garlic powder":                            {"garlic-powder", 2.5, 3.5},
		"2 sprigs rosemary":                              {"herbs", 1, 5},
		"pan spray":                                      {"sunflower-oil", 0, 0},
		"1 stick cinnamon":                               {"cinnamon", 2, 4},
		"3 cloves":                                       {"cloves", 0.2, 0.4},
		"2 EL rum":                                       {"rum", 26, 30},
		"1 TL Salz":                                      {"salt", 4, 6.5},
		"2 krm salt":                                     {"salt", 2, 3},
		"2 etti butter":                                  {"butter", 200, 200},
		"1 c. à soupe honey":                             {"honey", 18, 23},
		"1 fistful walnuts":                              {"walnuts", 25, 45},
		"a walnut-sized lump of butter":                  {"butter", 8, 20},
		"1 stick + 2 tbsp butter":                        {"butter", 138, 144},
		"peel of half a lemon":                           {"lemon-zest", 1, 5},
		"2 overripe bananas (about 400 g with skins on)": {"banana", 225, 285},
		"100 g roomboter (real butter), cold":            {"butter", 100, 100},
		"200 g \"zelfrijzend bakmeel\" (self-raising flour)": {"self-raising-flour", 200, 200},
		"250 g pkt plain sweet biscuits":                     {"crushed-biscuits", 250, 250},
		"icing sugar mixture, to dust":                       {"icing-sugar", 0, 0},
		"a grating of nutmeg":                                {"nutmeg", 0.1, 0.5},
		"100 g de beurre":                                    {"butter", 100, 100},
	} {
		l := one(t, line, reader.Options{})
		assert.True(t, l.Known, "%s: %s", line, l.Doubt)
		assert.Equal(t, want.food, l.Ingredient, line)
		assert.GreaterOrEqual(t, l.Grams, want.from-0.01, line)
		assert.LessOrEqual(t, l.Grams, want.to+0.01, line)
	}
}

// A vessel that nobody knows the size of is asked about, once, by its own name.
func TestVesselsAreAskedAbout(t *testing.T) {
	for line, want := range map[string]string{
		"1 glass milk": "in the glass of", "2 mugs flour": "in the mug of", "1 pot yogurt": "in the pot of", "1 katori semolina": "in the katori of",
		"1 punnet blueberries": "in the punnet of", "1 sleeve sweet biscuits": "in the sleeve of", "1 shot coffee": "in the shot of", "1 jar jam": "in the jar of",
		"25 g stem ginger, plus 2 tbsp of the syrup": "“2 tbsp syrup” stands in it too",
	} {
		l := one(t, line, reader.Options{})
		assert.False(t, l.Known, line)
		assert.Contains(t, l.Doubt, want, line)
	}
	known := one(t, "2 mugs flour", reader.Options{Amounts: map[string]float64{"mug flour": 150}})
	assert.True(t, known.Known)
	assert.Equal(t, 300.0, known.Grams)
}

// What is no food is a note.
func TestWareIsNoIngredient(t *testing.T) {
	rd, err := reader.Read("Squares\nIngredients\n200 g flour\n1 sheet baking paper\nfoil\n12 paper cases\n2 eggs\nMethod\nMix and bake.", reader.Options{})
	require.NoError(t, err)
	assert.Len(t, rd.Recipe.Lines, 2)
	assert.Contains(t, strings.Join(rd.Recipe.Notes, "|"), "1 sheet baking paper|foil")
}

// How heats, times and tins are said. Source: practice; a fan is set 20 °C lower (handbook 4).
func TestHowElseTheBakeIsSaid(t *testing.T) {
	for step, want := range map[string]struct {
		oven     float64
		min, max float64
	}{
		"Bake at 325 F convection for 30 minutes.":                                             {183, 30, 30},
		"Bake at 160°C circulating air for 30 min.":                                            {180, 30, 30},
		"Preheat to 200C. Turn down to 180C when the cake goes in and bake 40 minutes.":        {180, 40, 40},
		"Bake at 180C for 25 minutes on one side, turn over and bake 20 minutes more.":         {180, 45, 45},
		"Bake 250 C 20 min lid on, 230 C 25 min lid off.":                                      {250, 45, 45},
		"Bake at 180C for 30 minutes (fan 160C, 25 minutes).":                                  {180, 30, 30},
		"Bake at 220C for 10 minutes, or 200C for 15 minutes if they are large, until golden.": {220, 10, 10},
	} {
		rd, err := reader.Read("A loaf\n300 g flour\n1 tsp baking powder\n200 ml milk\nMix. "+step, reader.Options{})
		require.NoError(t, err)
		assert.InDelta(t, want.oven, float64(rd.Recipe.Oven), 1, step)
		assert.Equal(t, [2]float64{want.min, want.max}, [2]float64{rd.Recipe.Bake.Min, rd.Recipe.Bake.Max}, step)
	}
	for step, want := range map[string]string{
		"Pan in two 9x13s.": "2 13x9 in", "Pour into an eight-inch round tin.": "1 round 8 in", "Pour into a nine inch square tin.": "1 square 9 in",
	} {
		rd, err := reader.Read("A loaf\n300 g flour\n200 ml milk\nMix. "+step+" Bake.", reader.Options{})
		require.NoError(t, err)
		require.Len(t, rd.Recipe.Tins, 1, step)
		assert.Equal(t, want, fmt.Sprintf("%d %s", rd.Recipe.Tins[0].Count, rd.Recipe.Tins[0].Name), step)
	}
	rd, err := reader.Read("A loaf\nFeeds a crowd of 20\n300 g flour\n200 ml milk\nMix.", reader.Options{})
	require.NoError(t, err)
	assert.Equal(t, 20, rd.Recipe.Servings)
}
