package larder

import "math"

// Column names one figure of the composition table. Facts, CSV columns, sums
// and comparison bars are loops over Columns.
type Column int

// The columns, per 100 g of the ingredient as sold.
const (
	Water Column = iota
	Protein
	Fat
	Saturates
	Carbohydrate // by difference, fibre included
	Fibre
	Ash
	Alcohol
	Sucrose
	Glucose
	Fructose
	Lactose
	Maltose
	Starch
	Erythritol
	Xylitol
	Maltitol
	Sorbitol
	Isomalt
	Allulose
	Sodium
	Cholesterol
	Potassium
	Calcium
	Iron
	Phosphorus
	Acid       // meq of acid (negative where the food is alkaline) apart from soda
	Soda       // meq of alkali that gives CO2 when acid meets it
	CO2        // mmol CO2 the ingredient gives by itself, its own acid included
	Absorption // g water per g that the dry matter takes up in a batter
	Sweetness  // sucrose = 1
	Binding    // egg-equivalents (50 g egg = 1) per 100 g, given its water
	Gluten     // g gluten-forming protein
	EggProtein
	SettingProtein // g protein that sets in the heat, egg included
	SolidFat       // g fat from a fat that is solid at 20 °C
	Air            // mmol CO2 that would do the work of the air it holds
	columns        // how many there are
)

// ColumnInfo describes a column.
type ColumnInfo struct {
	Table string // CSV file it lives in
	Name  string // CSV header
	Unit  string
	Min   float64
	Max   float64
}

// Columns is the column table, in the order of the constants.
var Columns = [columns]ColumnInfo{
	{"macro", "water", "g", 0, 100},
	{"macro", "protein", "g", 0, 100},
	{"macro", "fat", "g", 0, 100},
	{"macro", "saturates", "g", 0, 100},
	{"macro", "carbohydrate", "g", 0, 100},
	{"macro", "fibre", "g", 0, 100},
	{"macro", "ash", "g", 0, 100},
	{"macro", "alcohol", "g", 0, 100},
	{"sugars", "sucrose", "g", 0, 100},
	{"sugars", "glucose", "g", 0, 100},
	{"sugars", "fructose", "g", 0, 100},
	{"sugars", "lactose", "g", 0, 100},
	{"sugars", "maltose", "g", 0, 100},
	{"sugars", "starch", "g", 0, 100},
	{"sugars", "erythritol", "g", 0, 100},
	{"sugars", "xylitol", "g", 0, 100},
	{"sugars", "maltitol", "g", 0, 100},
	{"sugars", "sorbitol", "g", 0, 100},
	{"sugars", "isomalt", "g", 0, 100},
	{"sugars", "allulose", "g", 0, 100},
	{"minerals", "sodium", "mg", 0, 40000},
	{"minerals", "cholesterol", "mg", 0, 4000},
	{"minerals", "potassium", "mg", 0, 50000},
	{"minerals", "calcium", "mg", 0, 40000},
	{"minerals", "iron", "mg", 0, 200},
	{"minerals", "phosphorus", "mg", 0, 30000},
	{"acid", "acid", "meq", -200, 1600},
	{"acid", "soda", "meq", 0, 1300},
	{"acid", "co2", "mmol", 0, 2600},
	{"behave", "absorption", "g/g", 0, 12},
	{"behave", "sweetness", "× sucrose", 0, 1000},
	{"behave", "binding", "egg", 0, 100},
	{"behave", "gluten", "g", 0, 100},
	{"behave", "egg_protein", "g", 0, 100},
	{"behave", "setting_protein", "g", 0, 100},
	{"behave", "solid_fat", "g", 0, 100},
	{"behave", "air", "mmol", 0, 100},
}

// Facts is what is known of one food per 100 g: a figure for each column,
// NaN where it is not known. Unknown is not zero.
type Facts [columns]float64

// Known reports whether the figure of a column is known.
func (f *Facts) Known(c Column) bool { return !math.IsNaN(f[c]) }

// Or returns the figure, or other where it is not known.
func (f *Facts) Or(c Column, other float64) float64 {
	if f.Known(c) {
		return f[c]
	}
	return other
}

// Sugars is the sum of mono- and disaccharides, g per 100 g.
func (f *Facts) Sugars() float64 {
	return f[Sucrose] + f[Glucose] + f[Fructose] + f[Lactose] + f[Maltose]
}

// Polyols is the sum of the sugar alcohols, g per 100 g.
func (f *Facts) Polyols() float64 {
	return f[Erythritol] + f[Xylitol] + f[Maltitol] + f[Sorbitol] + f[Isomalt]
}

// Bulk is what fills the place of sugar: sugars, polyols and allulose, g per 100 g.
func (f *Facts) Bulk() float64 { return f.Sugars() + f.Polyols() + f[Allulose] }

// FreeWater is the water left when the dry matter has drunk, g per 100 g; it is
// negative for flours and gums.
func (f *Facts) FreeWater() float64 { return f[Water] - 100*f[Absorption] }

// sweetnessOf weighs the sugars by their sweetness against sucrose. Source:
// memory, the working values of common tables (fructose 1.2, glucose 0.7,
// maltose 0.4, lactose 0.2, erythritol 0.65, xylitol 1, maltitol 0.9,
// sorbitol 0.55, isomalt 0.5, allulose 0.7).
func sweetnessOf(f *Facts) float64 {
	return (f[Sucrose] + 1.2*f[Fructose] + 0.7*f[Glucose] + 0.4*f[Maltose] + 0.2*f[Lactose] +
		0.65*f[Erythritol] + f[Xylitol] + 0.9*f[Maltitol] + 0.55*f[Sorbitol] + 0.5*f[Isomalt] + 0.7*f[Allulose]) / 100
}
