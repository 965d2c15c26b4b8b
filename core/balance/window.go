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
	What   string // water, fat, added-fat, sugar, egg, powder, salt, gum or yeast
	Lo, Hi float64
	Source fact.Source
}

// Base is what a bake is built on, which decides the windows with its kind.
type Base string

// The bases: half of what counts as flour, or more, is of it.
const (
	Wheat      Base = "wheat" // and its kin: rye, barley, spelt
	GlutenFree Base = "gluten-free"
	Nut        Base = "nut"
	Coconut    Base = "coconut"
)

// Words gives the base as the application prints it before a kind.
func (b Base) Words() string {
	switch b {
	case GlutenFree:
		return "gluten-free "
	case Nut:
		return "nut-flour "
	case Coconut:
		return "coconut-flour "
	}
	return ""
}

// BaseOf tells what a formula is built on; Wheat when nothing counts as flour.
func BaseOf(items []Item) Base {
	by := map[Base]float64{}
	for _, it := range items {
		i := it.Ingredient
		switch {
		case !i.IsBase():
		case i.ID == "coconut-flour":
			by[Coconut] += 3 * it.Grams // it drinks and stands for three times its weight
		case i.Family == larder.FamilyNutFlour:
			by[Nut] += it.Grams
		case i.Facts[larder.Gluten] > 0 || i.Family == larder.FamilyWheatFlour:
			by[Wheat] += it.Grams
		default:
			by[GlutenFree] += it.Grams
		}
	}
	most := Wheat
	for _, b := range []Base{GlutenFree, Nut, Coconut} {
		if by[b] > by[most] {
			most = b
		}
	}
	return most
}

// key is a kind on a base.
type key struct {
	kind recipe.Kind
	base Base
}

// Windows returns the usual proportions of a kind on a base, none where there is
// no usage to speak of. Source: common practice, the trade's table
// (data/windows.csv).
func Windows(k recipe.Kind, b Base) []Window { return windows()[key{k, b}] }

var windows = sync.OnceValue(func() map[key][]Window {
	rows, err := csv.NewReader(strings.NewReader(windowsCSV)).ReadAll()
	if err != nil {
		panic("balance: windows.csv: " + err.Error()) // a test reads it first
	}
	out := map[key][]Window{}
	for _, r := range rows[1:] {
		lo, errLo := strconv.ParseFloat(r[3], 64)
		hi, errHi := strconv.ParseFloat(r[4], 64)
		if errLo != nil || errHi != nil {
			panic("balance: windows.csv: " + strings.Join(r, ","))
		}
		k := key{recipe.Kind(r[0]), Base(r[1])}
		out[k] = append(out[k], Window{r[2], lo, hi, fact.Source(r[5])})
	}
	return out
})

// PowderGas is the CO2 of a gram of baking powder at 13 %. Source:
// practice for the share, calculated for the rest.
const PowderGas = 2.95

// TspPowder and TspSoda are what a level teaspoon weighs, g. Source: published, GNU units, definitions.units.
const TspPowder, TspSoda = 4.6, 4.6

// Percent is a formula's baker's percentages: each thing per 100 g of the base.
func Percent(items []Item, what string) float64 {
	b := Add(items)
	switch what {
	case "water": // pieces of fruit and vegetable keep about half of theirs to themselves
		held := 0.0
		for _, it := range items {
			if it.Ingredient.Shelf.Water == "half" {
				held += it.Grams / 100 * it.Ingredient.Facts[larder.Water] / 2
			}
		}
		return b.Per(b.Water - held)
	case "fat":
		return b.Per(b.Fat - inPieces(items, func(f *larder.Facts) float64 { return f[larder.Fat] }))
	case "added-fat": // beside that of ground nuts
		own := 0.0
		for _, it := range items {
			if it.Ingredient.IsBase() {
				own += it.Grams / 100 * it.Ingredient.Facts[larder.Fat]
			}
		}
		return Percent(items, "fat") - b.Per(own)
	case "gum":
		sum := 0.0
		for _, it := range items {
			if it.Ingredient.Family == larder.FamilyGum || it.Ingredient.ID == "psyllium-husk" ||
				it.Ingredient.ID == "psyllium-powder" {
				sum += it.Grams
			}
		}
		return b.Per(sum)
	case "sugar":
		return b.Per(b.Sugars - inPieces(items, func(f *larder.Facts) float64 { return f.Sugars() }))
	case "egg":
		return b.Per(b.Egg)
	case "powder":
		return b.Per(b.CO2 / PowderGas)
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
		if it.Ingredient.Shelf.Pieces {
			sum += it.Grams / 100 * of(&it.Ingredient.Facts)
		}
	}
	return sum
}
