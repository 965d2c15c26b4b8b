package diet

import (
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
	judge    func(i *larder.Ingredient) (Verdict, Reason)
}

// Diets are all of them, in the order of the pages.
var Diets = []Diet{
	{ID: EggFree, Says: "no egg, in whatever form", Allergen: "egg"},
	{ID: DairyFree, Says: "no milk of any animal, for a milk allergy", Allergen: "milk"},
	{ID: LactoseFree, Says: "milk without lactose stays: not for a milk allergy", judge: lactose},
	{ID: Vegan, Says: "nothing of animals, honey and gelatine neither; no promise about traces", judge: vegan},
	{ID: GlutenFree, Says: "no gluten cereal; oats only where the packet says certified", Allergen: "gluten"},
	{ID: GrainFree, Says: "no cereal at all, rice, maize and buckwheat neither", judge: grain},
	{
		ID: Keto, Says: "no starch and no sugar; net carbohydrate a serving within your limit", judge: starchy,
		Limit: Limit{NetCarb, 6},
	},
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

// The substances that a reason may be about.
const (
	lactoseOf = "lactose"
	netCarbOf = "net carbohydrate"
	starchOf  = "maize or wheat starch"
)

func lactose(i *larder.Ingredient) (Verdict, Reason) {
	holds := because(HoldsIt, i)
	holds.Of = lactoseOf
	known := i.Facts.Known(larder.Lactose)
	milk, has := i.Allergens["milk"]
	if i.Origin != "milk" {
		switch {
		case !has || milk == larder.May: // a trace of milk is no lactose to speak of
			return Fine, Reason{}
		case milk == larder.Check || i.Own: // the figure is that of one without, or of what it behaves like
			known = known && i.Facts[larder.Lactose] > mostLactose
		}
	}
	switch g := i.Facts[larder.Lactose]; {
	case !known:
		holds.Kind = ReadLabel
		return CheckLabel, holds
	case g > mostLactose:
		holds.Grams = g
		return Breaks, holds
	}
	return Fine, Reason{}
}

func vegan(i *larder.Ingredient) (Verdict, Reason) {
	switch i.Origin {
	case "egg", "milk", "honey", "meat":
		return Breaks, because(OfAnimals, i)
	}
	for _, a := range []string{"egg", "milk", "fish", "crustaceans", "molluscs"} {
		if lv := i.Allergens[a]; lv == larder.May { // a trace is no matter of conviction
			continue
		}
		if v, why := allergenIn(i, a); v > Fine {
			return v, why
		}
	}
	return Fine, Reason{}
}

// grain shuts out the family of that name. Source: practice of the grain-free school.
func grain(i *larder.Ingredient) (Verdict, Reason) {
	switch lv, ok := bans()["grain"].level(i); {
	case !ok:
		return Fine, Reason{}
	case lv == larder.Check:
		why := because(ReadLabel, i)
		why.Of = starchOf
		return CheckLabel, why
	}
	return Breaks, because(OfGrain, i)
}

// starchyFrom is the net carbohydrate from which a keto table shuts an ingredient out, g per
// 100 g. What is used by the pinch is passed over, and fruit below this is judged by what a
// serving holds of it: the limit counts both. Source: practice.
const starchyFrom = 20.0

func starchy(i *larder.Ingredient) (Verdict, Reason) {
	f := &i.Facts
	net := f[larder.Carbohydrate] - f[larder.Fibre] - f.Polyols() - f[larder.Allulose]
	if i.Shelf.Carbohydrate == "pinch" {
		return Fine, Reason{}
	}
	if net >= starchyFrom {
		why := because(HoldsIt, i)
		why.Of, why.Grams = netCarbOf, net
		return Breaks, why
	}
	return Fine, Reason{}
}
