package reader_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// one reads a single ingredient line.
func one(t *testing.T, text string, opt reader.Options) recipe.Line {
	t.Helper()
	rd, err := reader.Read("A cake\n\nIngredients\n"+text, opt)
	require.NoError(t, err)
	require.Len(t, rd.Recipe.Lines, 1, text)
	return rd.Recipe.Lines[0]
}

// Lines as people write them. Grams follow from the catalogue's weights: 1 cup
// plain flour 120, sugar 200, milk 242, butter 227, oil 213; 1 tsp powder or
// soda 4.6, salt 6; one large egg 50.
func TestLines(t *testing.T) {
	for _, c := range []struct {
		text  string
		id    larder.ID
		unit  string
		grams float64
	}{
		{"1 cup plain flour", "plain-flour", "cup", 120},
		{"1 3/4 cups all-purpose flour", "plain-flour", "cup", 210},
		{"1¾ c. flour", "plain-flour", "cup", 210},
		{"2 cups sifted plain flour", "plain-flour", "cup", 226},
		{"1 cup sifted flour", "plain-flour", "cup", 113},
		{"200g plain flour", "plain-flour", "g", 200},
		{"200 g of plain flour", "plain-flour", "g", 200},
		{"• 280 g self-raising flour", "self-raising-flour", "g", 280},
		{"- 8 oz (225 g) self-raising flour", "self-raising-flour", "oz", 226.8},
		{"1 cup (120 g) plain flour", "plain-flour", "cup", 120},
		{"1 cup / 125 g plain flour", "plain-flour", "cup", 125},
		{"0.5 kg strong white flour", "strong-flour", "kg", 500},
		{"1 lb bread flour", "strong-flour", "lb", 453.6},
		{"half a cup of sugar", "sugar", "cup", 100},
		{"½ cup caster sugar", "caster-sugar", "cup", 100},
		{"3/4 cup firmly packed brown sugar", "light-brown-sugar", "cup", 162.75},
		{"2 heaped tbsp golden syrup", "golden-syrup", "tbsp", 63.75},
		{"1 stick unsalted butter, melted", "butter", "stick", 113.4},
		{"1/2 cup (1 stick) salted butter, softened", "salted-butter", "cup", 113.5},
		{"115 g butter or margarine", "butter", "g", 115},
		{"a knob of butter", "butter", "knob", 15},
		{"2 eggs", "egg", "", 100},
		{"2 large eggs, beaten", "egg", "", 100},
		{"3 medium eggs", "egg", "", 132},
		{"1 extra-large egg", "egg", "", 56},
		{"half a dozen eggs", "egg", "", 300},
		{"3 egg whites", "egg-white", "", 99},
		{"1 egg yolk", "egg-yolk", "", 17},
		{"250 ml milk", "milk", "ml", 255.7},
		{"1,5 dl milk", "milk", "dl", 153.4},
		{"¼ litre whole milk", "milk", "l", 255.7},
		{"8 fl oz buttermilk", "buttermilk", "fl oz", 242},
		{"2-3 tbsp milk", "milk", "tbsp", 37.8},
		{"1 cup plus 2 tbsp milk", "milk", "cup", 272.3},
		{"1½ tsp baking powder", "baking-powder", "tsp", 6.9},
		{"1 tsp. bicarb", "baking-soda", "tsp", 4.6},
		{"2 t soda", "baking-soda", "tsp", 9.2},
		{"1 T. vinegar", "vinegar", "tbsp", 14.9},
		{"a pinch of salt", "salt", "pinch", 0.375},
		{"pinch of nutmeg", "nutmeg", "pinch", 0.1375},
		{"1/2 tsp salt", "salt", "tsp", 3},
		{"2 medium pears, peeled and grated (about 220 g)", "pear", "", 220},
		{"2 large ripe bananas, mashed (about 1 1/3 cups)", "banana", "", 300},
		{"300 g carrots, coarsely grated", "carrot", "g", 300},
		{"juice of 1 lemon", "lemon-juice", "", 45},
		{"Grated zest of ½ orange", "lemon-zest", "", 4},
		{"1 lemon, zest only", "lemon-zest", "", 6},
		{"1 lemon, juiced", "lemon-juice", "", 45},
		{"7g sachet fast-action yeast", "instant-yeast", "g", 7},
		{"7 g sachet instant yeast", "instant-yeast", "g", 7},
		{"1 sachet instant yeast", "instant-yeast", "sachet", 7},
		{"1 (8 oz) pack cream cheese, at room temperature", "cream-cheese", "oz", 226.8},
		{"2 x 400g tins coconut milk", "coconut-milk", "g", 800},
		{"1 14-oz can coconut milk", "coconut-milk", "oz", 396.9},
		{"about 100 g walnuts, roughly chopped", "walnuts", "g", 100},
		{"a handful of raisins", "raisins", "handful", 40},
		{"½ cup neutral oil (e.g. sunflower)", "sunflower-oil", "cup", 106.5},
		{"1 bunch chives", "herbs", "bunch", 25},
		{"100 g almonds, ground", "almond-flour", "g", 100},
		{"2 tbsp ground flaxseed", "flax-ground", "tbsp", 13},
		{"2 lg. eggs", "egg", "", 100},
		{"Maida - 1 1/2 cups", "plain-flour", "cup", 180},
		{"Water: 700ml, warm", "water", "ml", 700},
		{"Yeast: 15g fresh", "fresh-yeast", "g", 15},
		{"Flour: 1 kg strong wholemeal", "wholemeal-flour", "kg", 1000},
		{"Caster sugar 150 g", "caster-sugar", "g", 150},
		{"A punnet (150g) of blueberries", "blueberries", "punnet", 150},
		{"175g/6oz self-raising flour", "self-raising-flour", "g", 175},
		{"200g dark chocolate (70%), chopped", "dark-chocolate", "g", 200},
	} {
		l := one(t, c.text, reader.Options{})
		assert.True(t, l.Known, "%s: %s", c.text, l.Doubt)
		assert.Equal(t, c.id, l.Ingredient, c.text)
		assert.Equal(t, c.unit, l.Unit, c.text)
		assert.InEpsilon(t, c.grams, l.Grams, 0.005, c.text)
		assert.NotEmpty(t, l.How, c.text)
	}
}

func TestLinesWithoutAnAmountAreKnownAndWeighNothing(t *testing.T) {
	for text, id := range map[string]larder.ID{"Salt, to taste": "salt", "Oil for greasing": "sunflower-oil", "a little butter, for greasing": "butter", "butter or margarine, for the tin": "butter", "Icing sugar to dust": "icing-sugar"} {
		l := one(t, text, reader.Options{})
		assert.True(t, l.Known, text)
		assert.Equal(t, id, l.Ingredient, text)
		assert.Zero(t, l.Grams, text)
	}
}

// Both of a glaze that one line gives are for the glaze.
func TestAGlazeOfTwo(t *testing.T) {
	rd, err := reader.Read("Buns\n\n300 g flour\n1 egg, beaten with 1 tbsp milk, to glaze\n\nMix.", reader.Options{})
	require.NoError(t, err)
	require.Len(t, rd.Recipe.Lines, 3)
	assert.Equal(t, []string{"1 egg, beaten, to glaze", "1 tbsp milk, to glaze"}, []string{rd.Recipe.Lines[1].Text, rd.Recipe.Lines[2].Text})
	assert.True(t, rd.Recipe.Lines[1].Topping() && rd.Recipe.Lines[2].Topping())
}

func TestDoubtsSayWhatWouldDo(t *testing.T) {
	for text, want := range map[string]string{
		"1/0 cup sugar":         "divided by 0: try 1/2",
		"-2 cups flour":         "try 2",
		"2 tbsp blorf seeds":    "not in the larder",
		"1 cup corn flour":      "cornflour (maize starch) or maize flour",
		"1 tin coconut milk":    "how much is in the tin",
		"3 plain flour":         "in what?",
		"2 tbsp":                "No ingredient is named",
		"50 kg flour":           "more than a home oven bakes",
		"30 g salt, 90 g blorf": "“90 g blorf” stands in it too",
		"30 g cornflour, 3 eggs whisked until pale": "“3 eggs whisked until pale” stands in it too",
		"juice of 900 lemons":                       "more than a home oven bakes",
		"Zest 7000000 limes":                        "7000000 is too much",
		"Sea salt (25 kg)":                          "more than a home oven bakes",
		"Sea salt (40 litres)":                      "more than a home oven bakes",
		"Zest of 1 lemon plus 2 tablespoons juice":  "Two things in one line",
		"1 cup oyster sauce":                        "oyster sauce",
	} {
		l := one(t, text, reader.Options{})
		assert.False(t, l.Known, text)
		assert.Contains(t, l.Doubt, want, text)
	}
}

func TestOptionalAndNotes(t *testing.T) {
	l := one(t, "50 g walnuts, chopped (optional)", reader.Options{})
	assert.True(t, l.Optional)
	assert.Equal(t, "chopped", l.Note)
	l = one(t, "150ml milk, plus extra for brushing", reader.Options{})
	assert.Equal(t, "plus extra for brushing", l.Note)
	assert.InDelta(t, 153.4, l.Grams, 0.1)
}

func TestTwoAmountsThatDisagreeAreReported(t *testing.T) {
	rd, err := reader.Read("A cake\n\nIngredients\n12 oz (250 g) plain flour\n1 cup (200 g) sugar", reader.Options{})
	require.NoError(t, err)
	require.Len(t, rd.Findings, 1)
	assert.Equal(t, "amounts-differ", rd.Findings[0].Code)
	assert.Contains(t, rd.Findings[0].Message, "12 oz and 250 g")
}

func TestTheKitchenDecidesCupsAndSpoons(t *testing.T) {
	k := measure.Kitchen{Cup: 250, Tablespoon: 20, Filling: "scooped"}
	assert.InDelta(t, 150, one(t, "1 cup plain flour", reader.Options{Kitchen: k}).Grams, 0.2)
	assert.InDelta(t, 21.2, one(t, "1 tbsp plain yogurt", reader.Options{Kitchen: k}).Grams, 0.8)
}

func TestCorrections(t *testing.T) {
	fixes := map[string]reader.Fix{
		"2 tbsp blorf seeds":     {Ingredient: "poppy-seeds"},
		"1 cup sugar":            {Amount: "3/4"},
		"1 tin coconut milk":     {Amount: "400", Unit: "ml"},
		"2 things I do not need": {Skip: true},
	}
	rd, err := reader.Read("A cake\n\nIngredients\n2 tbsp blorf seeds\n1 cup sugar\n1 tin coconut milk\n2 things I do not need", reader.Options{Fixes: fixes})
	require.NoError(t, err)
	require.Len(t, rd.Recipe.Lines, 3)
	for n, grams := range []float64{17.6, 150, 382} {
		assert.True(t, rd.Recipe.Lines[n].Known, rd.Recipe.Lines[n].Doubt)
		assert.InDelta(t, grams, rd.Recipe.Lines[n].Grams, 1)
	}
	for _, bad := range []reader.Fix{{Amount: "lots"}, {Unit: "bucket"}, {Ingredient: "moon-dust"}} {
		l := one(t, "1 cup sugar", reader.Options{Fixes: map[string]reader.Fix{"1 cup sugar": bad}})
		assert.False(t, l.Known)
		assert.NotEmpty(t, l.Doubt)
	}
}

// Grams written as text and read again are the same grams.
func TestGramsToTextToGrams(t *testing.T) {
	for _, i := range larder.Builtin().All() {
		for _, g := range []float64{3, 14, 105, 950} {
			l := one(t, fmt.Sprintf("%s %s", measure.Grams(g), i.Name), reader.Options{})
			assert.Equal(t, i.ID, l.Ingredient, i.Name)
			assert.InDelta(t, g, l.Grams, 0.05, i.Name)
		}
	}
}

func TestAWeightSettledOnceIsUsedAgain(t *testing.T) {
	settled := map[string]float64{"tin coconut milk": 390, "piece pear": 200, "some butter": 15, "handful raisin": 30}
	for text, want := range map[string]float64{"2 tins coconut milk": 780, "half a tin of coconut milk": 195, "1 (400 g) tin coconut milk": 400, "3 pears, diced": 600, "2 large pears": 420, "butter for the tin": 15, "50 g butter": 50, "a handful of raisins": 30} {
		l := one(t, text, reader.Options{Amounts: settled})
		assert.Equal(t, want, l.Grams, text)
		assert.True(t, l.Known, text)
	}
}
