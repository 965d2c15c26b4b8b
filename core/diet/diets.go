package diet

import (
	"fmt"
	"slices"

	"kollaris/core/larder"
)

// The diets.
const (
	EggFree     ID = "egg-free"
	DairyFree   ID = "dairy-free"
	LactoseFree ID = "lactose-free"
	Vegan       ID = "vegan"
	GlutenFree  ID = "gluten-free"
	GrainFree   ID = "grain-free"
	Keto        ID = "keto"
	LowSugar    ID = "low-sugar"
	LowSodium   ID = "low-sodium"
)

// Diet is one that can be asked for.
type Diet struct {
	ID       ID
	Says     string // what it means here
	Allergen string // that it shuts out, "" for none
	Limit    Limit  // that it brings where none is asked for; zero for none
	judge    func(i *larder.Ingredient) (Verdict, string)
}

// Diets are all of them, in the order of the pages.
var Diets = []Diet{
	{ID: EggFree, Says: "no egg, in whatever form", Allergen: "egg"},
	{ID: DairyFree, Says: "no milk of any animal, for a milk allergy", Allergen: "milk"},
	{ID: LactoseFree, Says: "milk without lactose stays: not for a milk allergy", judge: lactose},
	{ID: Vegan, Says: "nothing of animals, honey and gelatine neither; no promise about traces", judge: vegan},
	{ID: GlutenFree, Says: "no gluten cereal; oats only where the packet says certified", Allergen: "gluten"},
	{ID: GrainFree, Says: "no cereal at all, rice, maize and buckwheat neither", judge: grain},
	{ID: Keto, Says: "no starch and no sugar; net carbohydrate a serving within your limit", judge: starchy, Limit: Limit{NetCarb, 6}},
	{ID: LowSugar, Says: "added sugars a serving within your limit", Limit: Limit{AddedSugars, 5}},
	{ID: LowSodium, Says: "sodium a serving within your limit", Limit: Limit{Sodium, 140}},
}

// Find returns the diet with that id.
func Find(id ID) (Diet, bool) {
	n := slices.IndexFunc(Diets, func(d Diet) bool { return d.ID == id })
	if n < 0 {
		return Diet{}, false
	}
	return Diets[n], true
}

// mostLactose is the lactose that counts as none, g per 100 g. Source: practice:
// labels say lactose-free at 0.1 g in several countries; hard cheese and butter
// hold less than this and are commonly eaten.
const mostLactose = 1.0

func lactose(i *larder.Ingredient) (Verdict, string) {
	if i.Origin != "milk" {
		if lv := i.Allergens["milk"]; lv == larder.Contains && i.Facts.Or(larder.Lactose, 1) > mostLactose {
			return Breaks, i.Name + " holds lactose"
		}
		return Fine, ""
	}
	switch g := i.Facts[larder.Lactose]; {
	case !i.Facts.Known(larder.Lactose):
		return CheckLabel, i.Name + ": read the label for lactose"
	case g > mostLactose:
		return Breaks, fmt.Sprintf("%s holds %.1f g of lactose in 100 g", i.Name, g)
	}
	return Fine, ""
}

func vegan(i *larder.Ingredient) (Verdict, string) {
	switch i.Origin {
	case "egg", "milk", "honey", "meat":
		return Breaks, i.Name + " is of animals"
	}
	for _, a := range []string{"egg", "milk", "fish", "crustaceans", "molluscs"} {
		if lv := i.Allergens[a]; lv == larder.May { // a trace is no matter of conviction
			continue
		}
		if v, why := allergenIn(i, a); v > Fine {
			return v, why
		}
	}
	return Fine, ""
}

// grain shuts out the family of that name. Source: practice of the grain-free school.
func grain(i *larder.Ingredient) (Verdict, string) {
	switch lv, ok := bans()["grain"].level(i); {
	case !ok:
		return Fine, ""
	case lv == larder.Check:
		return CheckLabel, i.Name + ": read the label for maize or wheat starch"
	}
	return Breaks, i.Name + " is of grain"
}

// Net carbohydrate from which a keto table shuts an ingredient out, g per 100 g.
// What is used by the pinch is passed over: the limit a serving counts it. Source:
// practice.
const (
	starchyFrom = 20.0
	sweetFrom   = 11.0 // of fruit, vegetables and juice, used by the cup
)

func starchy(i *larder.Ingredient) (Verdict, string) {
	f := &i.Facts
	net := f[larder.Carbohydrate] - f[larder.Fibre] - f.Polyols() - f[larder.Allulose]
	from := starchyFrom
	switch i.Family {
	case "spice", "extract", "lift", "yeast", "salt", "gum", "cocoa", "acid", "zest", "herb", "sweetener", "protein", "fibre", "egg-replacer":
		return Fine, ""
	case "fruit", "vegetable", "juice", "puree":
		from = sweetFrom
	}
	if net >= from {
		return Breaks, fmt.Sprintf("%s holds %.0f g of net carbohydrate in 100 g", i.Name, net)
	}
	return Fine, ""
}
