package larder

import (
	"slices"
	"strings"

	"kollaris/core/fact"
)

// Family is the shelf an ingredient stands on, for instance "wheat-flour": a row of
// data/family.csv, which says what its foods have in common (Shelf).
type Family string

// The families that a rule names by themselves. Each is a row of data/family.csv, as
// loading checks; what more than one family shares is a column of that table.
const (
	FamilyDriedFruit Family = "dried-fruit"
	FamilyPuree      Family = "puree"
	FamilyEgg        Family = "egg"
	FamilyExtract    Family = "extract"
	FamilyFibre      Family = "fibre"
	FamilyGFFlour    Family = "gf-flour"
	FamilyGum        Family = "gum"
	FamilyHerb       Family = "herb"
	FamilyJam        Family = "jam"
	FamilyJuice      Family = "juice"
	FamilyLift       Family = "lift"
	FamilyNut        Family = "nut"
	FamilyNutButter  Family = "nut-butter"
	FamilyNutFlour   Family = "nut-flour"
	FamilyOil        Family = "oil"
	FamilyPolyol     Family = "polyol"
	FamilySalt       Family = "salt"
	FamilySeed       Family = "seed"
	FamilySolidFat   Family = "solid-fat"
	FamilySpice      Family = "spice"
	FamilySpirit     Family = "spirit"
	FamilySpread     Family = "spread"
	FamilySugar      Family = "sugar"
	FamilySweetener  Family = "sweetener"
	FamilyWater      Family = "water"
	FamilyWheatFlour Family = "wheat-flour"
	FamilyYeast      Family = "yeast"
	FamilyZest       Family = "zest"
)

var namedFamilies = []Family{
	FamilyDriedFruit, FamilyEgg, FamilyExtract, FamilyFibre, FamilyGFFlour, FamilyGum, FamilyHerb, FamilyJam, FamilyJuice, FamilyLift, FamilyNut, FamilyNutButter, FamilyNutFlour, FamilyOil, FamilyPolyol, FamilySalt, FamilySeed, FamilySolidFat, FamilySpice, FamilySpirit, FamilySpread, FamilySugar, FamilySweetener, FamilyWater, FamilyWheatFlour, FamilyYeast, FamilyZest,
}

// Words gives the family as the application prints it.
func (f Family) Words() string { return strings.ReplaceAll(string(f), "-", " ") }

// Shelf is what the foods of a family have in common: a row of data/family.csv.
type Shelf struct {
	// Texture is the look and use shared with other families: flour, liquid, fat,
	// sugar, egg, lift, fruit (and nut) or salt (and flavour).
	Texture string
	// Flour: it counts as the dry base that baker's percentages are taken of.
	Flour bool
	// Moves is what a line that stays may move as when amounts are worked out:
	// liquid, sugar, fat, salt or "" for not at all.
	Moves string
	// Rebased is what it moves as once another base drinks otherwise: liquid, yeast
	// (without gluten) or "".
	Rebased string
	// Spooned: a kitchen takes it by the teaspoon.
	Spooned bool
	// AddedSugar: its sugars count as added on a label.
	AddedSugar bool
	// Carbohydrate says how a keto table looks at it: by the "pinch", passed over; by
	// the "cup", fruit and the like, judged more strictly; "" as all else.
	Carbohydrate string
	// Pieces: it stands in a batter in pieces and belongs to no window.
	Pieces bool
	// Salted: its sodium is tasted as salt.
	Salted bool
	// Sweetens: it is in a recipe to sweeten.
	Sweetens bool
	// Fills: its fibre and starch fill the place of sugar.
	Fills bool
	// Water says what of its water a batter gets: all, half or none of it.
	Water string
	// Brands is how far the carbohydrate and the salt of a food of the family lie from one
	// pack, or one fruit, to the next, as a share of the figure; 0 where they lie no further
	// than tables do. A pack that was entered itself has none of it.
	Brands float64
	Source fact.Source
}

var shelfHead = []string{
	"family", "texture", "flour", "moves", "rebased", "spooned", "added_sugar", "carbohydrate", "pieces", "salted",
	"sweetens", "fills", "water", "brands", "source",
}

// shelves reads data/family.csv.
func (ld *loader) shelves() map[Family]*Shelf {
	out := map[Family]*Shelf{}
	ld.table("family", shelfHead, func(row []string) {
		brands := 0.0
		if row[13] != "" {
			brands = ld.number("brands", row[13], 0.01, 1)
		}
		if out[Family(row[0])] != nil {
			ld.fault("family", "%q stands here twice", row[0])
			return
		}
		column := 0
		one := func(of ...string) string { // the next column, which is one of these
			column++
			if !slices.Contains(of, row[column]) {
				ld.fault(shelfHead[column], "%q: want one of %s", row[column], strings.Join(of, ", "))
			}
			return row[column]
		}
		yes := func() bool { return one("yes", "") == "yes" }
		out[Family(row[0])] = &Shelf{
			Texture: one("flour", "liquid", "fat", "sugar", "egg", "lift", "fruit", "salt"), Flour: yes(),
			Moves:   one("liquid", "sugar", "fat", "salt", ""),
			Rebased: one("liquid", "yeast", ""), Spooned: yes(), AddedSugar: yes(),
			Carbohydrate: one("pinch", "cup", ""),
			Pieces:       yes(), Salted: yes(), Sweetens: yes(), Fills: yes(), Water: one("all", "half", "none"),
			Brands: brands, Source: ld.source(row[14]),
		}
	})
	for _, f := range namedFamilies {
		if out[f] == nil {
			ld.fault("family", "a rule names %q, which has no row here", f)
		}
	}
	return out
}
