package device_test

import (
	"kollaris/core/device"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

func readText(t *testing.T, steps string) *recipe.Recipe {
	t.Helper()
	rd, err := reader.Read("Bake\nServes 8\n\n300 g plain flour\n200 ml water\n7 g instant yeast\n2 eggs\n\n"+steps, reader.Options{})
	require.NoError(t, err)
	return rd.Recipe
}

// What it is heated with, by its words; an oven that is named wins. Source: the rows of data/device.csv.
func TestWhatARecipeIsHeatedWith(t *testing.T) {
	for steps, want := range map[string]string{
		"Mix. Microwave on full power for 3 minutes.":                                                   "microwave",
		"Mix. Put in the pressure cooker, high pressure for 35 minutes, natural release.":               "pressure cooker",
		"Mix. Cook in the slow cooker on HIGH for 2 hours, a tea towel under the lid.":                  "slow cooker",
		"Put all in the bread machine. Basic programme, about 3 hours.":                                 "bread machine",
		"Mix. Air fry at 160C for 20 minutes.":                                                          "air fryer",
		"Mix. Steam for 90 minutes in a pudding basin.":                                                 "steamer",
		"Mix. Cook in a dry frying pan for 2 minutes a side.":                                           "pan",
		"Mix and press in. Chill until set, no baking needed.":                                          "fridge",
		"Mix. Bake at 180C for 30 minutes.":                                                             "",
		"Melt the butter in the microwave. Mix. Bake at 180C for 30 minutes.":                           "",
		"Toast the nuts in a frying pan. Mix. Bake in the oven for 30 minutes.":                         "",
		"Mix. Tip into a hot Dutch oven, cover and bake at 230C for 30 minutes, uncover for 15.":        "lidded pot",
		"Mix. Chill for 30 minutes. Bake at 180C for 12 minutes.":                                       "",
		"Mix. Bake with steam at 240C for 25 minutes.":                                                  "",
		"Mix. Microwave oven on high for 4 minutes.":                                                    "microwave",
		"Mix. Cook in the slow cooker on low for 4 hours; no oven needed.":                              "slow cooker",
		"Bake in the air fryer at 170C for 15 minutes.":                                                 "air fryer",
		"Mix and pour on a hot griddle, 2 minutes each side.":                                           "pan",
		"Mix in the bread machine on the dough programme. Shape. Bake at 200C in the oven, 25 minutes.": "",
	} {
		assert.Equal(t, want, device.Of(readText(t, steps)).Name, steps)
	}
}

// What no oven bakes gets no oven, no lining, no foil and no rack; what bakes gets its bake at the device.
func TestNothingOfAnOvenWhereThereIsNone(t *testing.T) {
	for _, steps := range []string{
		"Mix. Microwave on full power for 3 minutes.", "Mix. Cook in the slow cooker on HIGH for 2 hours.", "Mix. Steam for 90 minutes in a pudding basin.",
		"Mix. Air fry at 160C for 20 minutes.", "Put all in the bread machine. Basic white programme, about 3 hours.", "Mix. Pressure cook at high pressure for 35 minutes.",
	} {
		r := readText(t, steps)
		baked := false
		for _, x := range method.Read(r, larder.Builtin()) {
			assert.NotEqual(t, method.InOven, x.Where, x.Text)
			assert.False(t, x.Inferred && x.Verb != method.Mix, "%s: %s", steps, x.Text)
			baked = baked || x.Verb == method.Bake
		}
		assert.True(t, baked, steps)
		assert.NotContains(t, strings.Join(method.Equipment(method.Read(r, larder.Builtin()), r), " "), "rack")
	}
}

// No paper where a tin is heated empty, holds hot fat or must not be greased.
func TestNoPaperInHotFat(t *testing.T) {
	for steps, burnt := range map[string]bool{
		"Put a teaspoon of oil into each hole and heat until smoking. Pour in.": true, "Heat the skillet in the oven.": true, "Pour it into an ungreased tube tin.": true,
		"Heat the oil in the tin until hot, then pour on the hot oil.": true, "Heat the milk in a saucepan.": false, "Line the tin.": false, "Warm the bowl.": false,
	} {
		assert.Equal(t, burnt, device.BurntPaper(readText(t, steps+" Bake at 220C for 20 minutes.")), steps)
	}
}
