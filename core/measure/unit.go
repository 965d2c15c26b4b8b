// Package measure knows the quantities, units, spoons, cups and temperatures
// of kitchens, and how to write them back as a cook would.
//
// Sources: US customary measures, the metric cup (250 ml) and the Australian
// tablespoon (20 ml) are published (NIST Handbook 44, appendix C; 21 CFR
// 101.9(b)(5)(viii) for the 240 ml labelling cup); pinch, dash, drop and
// handful are common practice.
package measure

import (
	"slices"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Grams is a mass in grams.
type Grams float64

// Millilitres is a volume in millilitres.
type Millilitres float64

// Celsius is a temperature in degrees Celsius.
type Celsius float64

// Volumes of US customary measures. Source: published, NIST Handbook 44.
const (
	USCup        Millilitres = 236.588
	USTablespoon Millilitres = 14.787
	USFluidOunce Millilitres = 29.574
	USPint       Millilitres = 473.176
	UKPint       Millilitres = 568.261 // Weights and Measures Act 1985
	Inch                     = 2.54    // cm, exact
	Ounce        Grams       = 28.3495 // avoirdupois, NIST Handbook 44
	Pound        Grams       = 453.592
	ButterStick  Grams       = 113.4 // a quarter of a pound, the US trade's pack
)

// Kind tells masses, volumes and counted pieces apart.
type Kind int

// The kinds of unit.
const (
	NoUnit Kind = iota // "2 eggs"
	Mass
	Volume
	Piece // stick, slice, clove: a weight that the ingredient decides
)

// Unit is one unit of a kitchen.
type Unit struct {
	ID     string
	Kind   Kind
	Factor float64 // g or ml for one; 0 where the kitchen or the ingredient decides
	names  []string
}

// Units is the table of units, found by Scan. Cup, tablespoon and teaspoon
// take their volume from the Kitchen.
var Units = []Unit{
	{"g", Mass, 1, []string{"g", "gr", "gm", "gms", "gram", "grams", "gramme", "grammes"}},
	{"kg", Mass, 1000, []string{"kg", "kgs", "kilo", "kilos", "kilogram", "kilograms"}},
	{"etto", Mass, 100, []string{"etto", "etti"}},
	{"mg", Mass, 0.001, []string{"mg"}},
	{"oz", Mass, float64(Ounce), []string{"oz", "ounce", "ounces", "ozs"}},
	{"lb", Mass, float64(Pound), []string{"lb", "lbs", "pound", "pounds"}},
	{"ml", Volume, 1, []string{"ml", "mls", "millilitre", "millilitres", "milliliter", "milliliters", "cc"}},
	{"cl", Volume, 10, []string{"cl", "centilitre", "centilitres"}},
	{"dl", Volume, 100, []string{"dl", "decilitre", "decilitres", "deciliter", "deciliters"}},
	{"l", Volume, 1000, []string{"l", "litre", "litres", "liter", "liters"}},
	{
		"fl oz", Volume, float64(USFluidOunce),
		[]string{"fl oz", "fl. oz", "floz", "fluid ounce", "fluid ounces", "fl ounce", "fl ounces"},
	},
	{"pint", Volume, float64(USPint), []string{"pint", "pints", "pt"}},
	{"quart", Volume, 2 * float64(USPint), []string{"quart", "quarts", "qt"}},
	{"cup", Volume, 0, []string{"cup", "cups", "c"}},
	{
		"tbsp", Volume, 0,
		[]string{
			"tbsp", "tbsps", "tbs", "tbl", "tblsp", "tablespoon", "tablespoons", "tablespoonful", "tablespoonfuls",
			"table spoon", "table spoons", "tablesp", "T",
			// other languages' own words, from memory
			"EL", "Esslöffel", "eetlepel", "eetlepels", "msk", "matsked", "spsk", "rkl", "cuillère à soupe", "cuillères à soupe", "c. à soupe", "c. à s.", "càs",
			"cucharada", "cucharadas", "cucchiaio", "cucchiai",
		},
	},
	{
		"tsp", Volume, 0,
		[]string{
			"tsp", "tsps", "teaspoon", "teaspoons", "teaspoonful", "teaspoonfuls", "tea spoon", "tea spoons", "teasp",
			"t",
			"TL", "Teelöffel", "theelepel", "theelepels", "tsk", "tesked", "cuillère à café", "cuillères à café", "c. à café", "c. à c.", "càc",
			"cucharadita", "cucharaditas", "cucchiaino", "cucchiaini",
		},
	},
	{
		"dessertspoon", Volume, 10,
		[]string{
			"dessertspoon", "dessertspoons", "dessertspoonful", "dessertspoonfuls", "dessert spoon", "dessert spoons",
			"dsp", "dstspn",
		},
	},
	{"squeeze", Volume, float64(USTablespoon) / 3, []string{"squeeze", "squeezes"}},                                                                   // a teaspoon, practice
	{"pinch", Volume, float64(USTablespoon) / 48, []string{"pinch", "pinches", "Prise", "Prisen", "pincée", "pincées", "pizca", "pizcas", "pizzico"}}, // 1/16 tsp, practice
	{"dash", Volume, float64(USTablespoon) / 24, []string{"dash", "dashes", "grating", "gratings", "grind", "grinds"}},                                // 1/8 tsp, practice
	{"drop", Volume, 0.05, []string{"drop", "drops"}},                                                                                                 // practice
	{"krm", Volume, 1, []string{"krm", "kryddmått"}},                                                                                                  // a Swedish spice measure
	{"handful", Piece, 0, []string{"handful", "handfuls", "fistful", "fistfuls"}},
	{"stick", Piece, float64(ButterStick), []string{"stick", "sticks"}},
	{"knob", Piece, 15, []string{"knob", "knobs", "lump", "lumps", "walnut-sized lump", "walnut-sized knob", "walnut-sized piece"}}, // practice
	{
		"sachet", Piece, 0,
		[]string{
			"sachet", "sachets", "packet", "packets", "pack", "packs", "package", "packages", "pkg", "envelope",
			"envelopes", "pouch", "pkt", "pkts", "bag", "bags", "box", "bar", "bars",
		},
	},
	{"tin", Piece, 0, []string{"tin", "tins", "can", "cans", "carton", "bottle", "tub", "block"}},
	{"jar", Piece, 0, []string{"jar", "jars"}},
	{"pot", Piece, 0, []string{"pot", "pots"}},
	{"punnet", Piece, 0, []string{"punnet", "punnets"}},
	{"glass", Piece, 0, []string{"glass", "glasses"}},
	{"mug", Piece, 0, []string{"mug", "mugs"}},
	{"shot", Piece, 0, []string{"shot", "shots"}},
	{"katori", Piece, 0, []string{"katori", "katoris"}},
	{"sleeve", Piece, 0, []string{"sleeve", "sleeves"}},
	{"sheet", Piece, 0, []string{"sheet", "sheets"}},
	{"slice", Piece, 0, []string{"slice", "slices"}},
	{"clove", Piece, 0, []string{"clove", "cloves"}},
	{"sprig", Piece, 0, []string{"sprig", "sprigs", "leaf", "leaves"}},
	{"square", Piece, float64(Ounce), []string{"square", "squares"}}, // one ounce of baking chocolate, practice
	{"bunch", Piece, 0, []string{"bunch", "bunches"}},
	{"piece", Piece, 0, []string{"piece", "pieces", "cube", "cubes", "pcs", "nos", "no"}},
}

// Holds reports whether a unit is a vessel or a pack, of which nobody knows how much it holds until it is said.
func (u Unit) Holds() bool {
	return u.Kind == Piece && slices.Contains([]string{"sachet", "tin", "jar", "pot", "punnet", "glass", "mug", "shot", "katori", "sleeve"}, u.ID)
}

// Words is the unit as it is written after an amount: "1 cup", "2 cups".
func (u Unit) Words(q Quantity) string {
	switch u.ID {
	case "cup", "pint", "quart", "stick", "knob", "drop", "slice", "clove", "sachet", "tin", "jar", "pot", "punnet", "mug", "shot", "katori", "sleeve", "sheet", "sprig", "dessertspoon", "handful", "squeeze":
		if q.Mid() > 1 {
			return u.ID + "s"
		}
	case "pinch", "dash", "bunch", "glass":
		if q.Mid() > 1 {
			return u.ID + "es"
		}
	}
	return u.ID
}

type unitName struct {
	name string
	unit Unit
}

var unitNames = func() []unitName {
	var all []unitName
	for _, u := range Units {
		for _, n := range u.names {
			all = append(all, unitName{n, u})
		}
	}
	sort.SliceStable(all, func(i, j int) bool { return len(all[i].name) > len(all[j].name) })
	return all
}()

// UnitByID returns the unit with that id, or false.
func UnitByID(id string) (Unit, bool) {
	for _, u := range Units {
		if u.ID == id {
			return u, true
		}
	}
	return Unit{}, false
}

// ScanUnit reads a unit at the start of s, with the number of bytes it took (a
// full stop after an abbreviation counts). "T" is a tablespoon, "t" a
// teaspoon; every other name is read in either case.
func ScanUnit(s string) (Unit, int) {
	t := strings.TrimLeft(s, " \t\u00a0")
	lead := len(s) - len(t)
	for _, un := range unitNames {
		n := len(un.name)
		if len(t) < n {
			continue
		}
		if n == 1 && un.unit.Kind == Volume && (un.name == "T" || un.name == "t") {
			if t[:1] != un.name {
				continue
			}
		} else if !strings.EqualFold(t[:n], un.name) {
			continue
		}
		next, size := utf8.DecodeRuneInString(t[n:])
		if unicode.IsLetter(next) || next == '\'' || next == '’' {
			continue
		}
		if next == '.' {
			if after, _ := utf8.DecodeRuneInString(t[n+size:]); !unicode.IsDigit(after) {
				n += size
			}
		}
		if next == '-' && un.unit.Kind == Piece {
			continue // "pot-set", "tin-baked"
		}
		return un.unit, lead + n
	}
	return Unit{}, 0
}

// Kitchen is how one household measures.
type Kitchen struct {
	Cup        Millilitres `json:"cup"`            // 236.588, 240 or 250
	Tablespoon Millilitres `json:"tablespoon"`     // 14.787, 15 or 20
	Pint       Millilitres `json:"pint,omitempty"` // 473.176 or 568.261; 0 is the first
	Eggs       EggSizes    `json:"eggs,omitempty"`
	Filling    string      `json:"filling"`    // sifted, spooned or scooped: how flour gets into the cup
	FineScale  bool        `json:"fine_scale"` // weighs a tenth of a gram
	Fahrenheit bool        `json:"fahrenheit"`
	Cups       bool        `json:"cups"` // prefers cups and spoons over grams
}

// EggSizes says whose sizes "medium" and "large" eggs are; "" is by the words of the recipe.
type EggSizes string

// The sizes of eggs. A European large egg is 60 g without its shell, a US one 50.
const (
	EUEggs EggSizes = "eu"
	USEggs EggSizes = "us"
)

// DefaultKitchen is US customary cups, flour spooned in.
func DefaultKitchen() Kitchen {
	return Kitchen{Cup: USCup, Tablespoon: USTablespoon, Filling: "spooned"}
}

// Teaspoon is a third of a tablespoon, a quarter of the 20 ml one.
func (k Kitchen) Teaspoon() Millilitres {
	if k.Tablespoon >= 20 {
		return k.Tablespoon / 4
	}
	return k.Tablespoon / 3
}

// ML returns the millilitres in one u, 0 when u is not a volume.
func (k Kitchen) ML(u Unit) Millilitres {
	switch u.ID {
	case "cup":
		return k.Cup
	case "tbsp":
		return k.Tablespoon
	case "tsp":
		return k.Teaspoon()
	case "pint", "quart":
		if k.Pint > 0 {
			return k.Pint * Millilitres(u.Factor/float64(USPint))
		}
	}
	if u.Kind != Volume {
		return 0
	}
	return Millilitres(u.Factor)
}
