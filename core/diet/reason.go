package diet

import (
	"fmt"
	"strings"

	"kollaris/core/larder"
)

// ReasonKind is the sort of reason for which a food does not simply fit.
type ReasonKind string

// The sorts.
const (
	HoldsIt   ReasonKind = "holds"    // it holds an allergen, or a substance
	MayHold   ReasonKind = "may-hold" // its maker says so
	ReadLabel ReasonKind = "read-label"
	OfAnimals ReasonKind = "of-animals"
	OfGrain   ReasonKind = "of-grain"
	ShutOut   ReasonKind = "shut-out" // by a ban of its family or of itself
	Behaves   ReasonKind = "behaves"  // one of the household's own, like what is banned
	Named     ReasonKind = "named"    // by a word that was asked and that the larder does not know
)

// Reason is why a food does not simply fit. The zero value is none.
type Reason struct {
	Kind     ReasonKind `json:"kind,omitempty"`
	Food     larder.ID  `json:"food,omitempty"`
	Name     string     `json:"name,omitempty"`     // of the food
	Allergen string     `json:"allergen,omitempty"` // of the law, that it is about
	Ban      string     `json:"ban,omitempty"`      // or the ban
	Of       string     `json:"of,omitempty"`       // or the substance: "lactose", "net carbohydrate"
	Grams    float64    `json:"grams,omitempty"`    // of it in 100 g
}

// because begins a reason about a food.
func because(k ReasonKind, i *larder.Ingredient) Reason {
	return Reason{Kind: k, Food: i.ID, Name: i.Name}
}

// About says what the reason is about, in words: "milk", "coconut"; "" for what the food
// is by itself.
func (r Reason) About() string {
	switch {
	case r.Allergen != "":
		return larder.AllergenWords(r.Allergen)
	case r.Ban != "":
		return BanWords(r.Ban)
	}
	return r.Of
}

// Words writes the reason, as the rest of a sentence; "" for none.
func (r Reason) Words() string {
	switch r.Kind {
	case HoldsIt:
		if r.Grams > 0 {
			digits := 0
			if r.Grams < 20 && r.Of == lactoseOf {
				digits = 1
			}
			return fmt.Sprintf("%s holds %.*f g of %s in 100 g", r.Name, digits, r.Grams, r.About())
		}
		return r.Name + " holds " + r.About()
	case MayHold:
		return r.Name + " may hold " + r.About()
	case ReadLabel:
		return r.Name + ": read the label for " + r.About()
	case OfAnimals:
		return r.Name + " is of animals"
	case OfGrain:
		return r.Name + " is of grain"
	case ShutOut:
		return fmt.Sprintf("%s is shut out by “%s”", r.Name, NoWords(r.Ban))
	case Named:
		return fmt.Sprintf("“%s” is what must not be here", r.Name)
	case Behaves:
		return fmt.Sprintf("%s behaves like %s: read its label", r.Name, strings.TrimPrefix(r.About(), "only "))
	}
	return ""
}
