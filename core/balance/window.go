package balance

import (
	_ "embed"
	"encoding/csv"
	"strconv"
	"strings"
	"sync"

	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

//go:embed data/windows.csv
var windowsCSV string

// Window is what is usual of one thing in a kind of bake, per cent of the base.
type Window struct {
	What   string // water, fat, sugar, egg, powder, salt or yeast
	Lo, Hi float64
	Source fact.Source
}

// Windows returns the usual proportions of a kind. Source: common practice, the
// trade's table (data/windows.csv).
func Windows(k recipe.Kind) []Window { return windows()[k] }

var windows = sync.OnceValue(func() map[recipe.Kind][]Window {
	rows, err := csv.NewReader(strings.NewReader(windowsCSV)).ReadAll()
	if err != nil {
		panic("balance: windows.csv: " + err.Error()) // a test reads it first
	}
	out := map[recipe.Kind][]Window{}
	for _, r := range rows[1:] {
		lo, errLo := strconv.ParseFloat(r[2], 64)
		hi, errHi := strconv.ParseFloat(r[3], 64)
		if errLo != nil || errHi != nil {
			panic("balance: windows.csv: " + strings.Join(r, ","))
		}
		k := recipe.Kind(r[0])
		out[k] = append(out[k], Window{r[1], lo, hi, fact.Source(r[4])})
	}
	return out
})

// mmolPerGramPowder is the CO2 of a gram of baking powder at 13 %. Source:
// practice for the share, calculated for the rest.
const mmolPerGramPowder = 2.95

// Percent is a formula's baker's percentages: each thing per 100 g of the base.
func Percent(items []Item, what string) float64 {
	b := Add(items)
	switch what {
	case "water": // pieces of fruit and vegetable keep about half of theirs to themselves
		held := 0.0
		for _, it := range items {
			if it.Ingredient.Family == "fruit" || it.Ingredient.Family == "vegetable" {
				held += it.Grams / 100 * it.Ingredient.Facts[larder.Water] / 2
			}
		}
		return b.Per(b.Water - held)
	case "fat":
		return b.Per(b.Fat - inPieces(items, func(f *larder.Facts) float64 { return f[larder.Fat] }))
	case "sugar":
		return b.Per(b.Sugars - inPieces(items, func(f *larder.Facts) float64 { return f.Sugars() }))
	case "egg":
		return b.Per(b.Egg)
	case "powder":
		return b.Per(b.CO2 / mmolPerGramPowder)
	case "salt":
		return b.Per(b.Salt)
	case "yeast": // as dry: fresh yeast is 3 to 1.1 of dry
		dry := 0.0
		for _, it := range items {
			switch it.Ingredient.ID {
			case "instant-yeast", "active-dry-yeast":
				dry += it.Grams
			case "fresh-yeast":
				dry += it.Grams / 2.7
			}
		}
		return b.Per(dry)
	}
	return 0
}

// inPieces is what stands in the batter in pieces, chips, nuts, fruit and cheese,
// and belongs to no window. Source: practice.
func inPieces(items []Item, of func(*larder.Facts) float64) float64 {
	sum := 0.0
	for _, it := range items {
		switch it.Ingredient.Family {
		case "chocolate", "nut", "seed", "dried-fruit", "cheese", "finishing", "fruit":
			sum += it.Grams / 100 * of(&it.Ingredient.Facts)
		}
	}
	return sum
}

// WheatShare is the part of the base that is wheat and its kin, to which the
// windows apply.
func WheatShare(items []Item) float64 {
	base, wheat := 0.0, 0.0
	for _, it := range items {
		if it.Ingredient.IsBase() {
			base += it.Grams
			if it.Ingredient.Facts[larder.Gluten] > 0 || it.Ingredient.Family == "wheat-flour" {
				wheat += it.Grams
			}
		}
	}
	if base == 0 {
		return 0
	}
	return wheat / base
}
