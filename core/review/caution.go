// Package review says what a careful cook would say about a recipe before it is
// baked. So far it holds the cautions: short, shown where they apply, each with
// who decides. Nothing here is a medical claim or a certificate.
package review

import (
	"fmt"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Caution is one thing to know before eating or baking.
type Caution struct {
	Code   string `json:"code"`
	Text   string `json:"text"`
	Defers string `json:"defers"` // who decides
}

// Who decides.
const (
	byLabel  = "The maker's label decides."
	byDoctor = "Your doctor or dietitian decides."
)

type rule struct {
	code   string
	defers string
	text   string
	holds  func(in map[larder.ID]bool, families map[larder.Family]bool, d diet.Demand) bool
}

func any(ids ...larder.ID) func(map[larder.ID]bool, map[larder.Family]bool, diet.Demand) bool {
	return func(in map[larder.ID]bool, _ map[larder.Family]bool, _ diet.Demand) bool {
		for _, id := range ids {
			if in[id] {
				return true
			}
		}
		return false
	}
}

// rules follow the handbook of cautions of the trade. Sources: EU 1169/2011
// annexes II and III for allergens and polyols; the rest common practice of
// food agencies.
var rules = []rule{
	{"milk-allergy", byLabel, "Milk allergy is not lactose intolerance, and “vegan” on a packet is no allergen promise. Read the label of every spread, block, chocolate and baking powder.",
		func(_ map[larder.ID]bool, _ map[larder.Family]bool, d diet.Demand) bool {
			for _, id := range d.Diets {
				if id == diet.DairyFree {
					return true
				}
			}
			return false
		}},
	{"gluten", byLabel, "This still holds wheat or another gluten cereal. Nothing here is made for coeliac disease or wheat allergy.",
		func(_ map[larder.ID]bool, f map[larder.Family]bool, _ diet.Demand) bool { return f["wheat-flour"] }},
	{"gel-dry", byDoctor, "Psyllium, flax and gums are never eaten dry: always with their water, and psyllium two hours apart from medicines.", any("psyllium-husk", "flax-ground", "chia", "xanthan", "guar")},
	{"xylitol", "Your vet decides.", "Xylitol is deadly to dogs, in crumbs too.", any("xylitol")},
	{"honey", byDoctor, "Honey is not for children under twelve months, baked in or not.", any("honey")},
	{"choking", byDoctor, "Whole nuts and hard dried fruit can choke small children.",
		func(_ map[larder.ID]bool, f map[larder.Family]bool, _ diet.Demand) bool {
			return f["nut"] || f["dried-fruit"]
		}},
	{"alcohol", byDoctor, "Alcohol does not bake off entirely: think of children, pregnancy, recovery, driving and faith.", any("rum")},
	{"cassava", "The packet decides.", "Use only cassava flour that is sold for eating.", any("cassava-flour")},
	{"polyols", byLabel, "Sugar alcohols upset the gut in large servings.",
		func(_ map[larder.ID]bool, f map[larder.Family]bool, _ diet.Demand) bool { return f["polyol"] }},
	{"raw", "Your food authority decides.", "Raw flour, raw batter and raw egg are not for tasting.",
		func(_ map[larder.ID]bool, f map[larder.Family]bool, _ diet.Demand) bool {
			return f["wheat-flour"] || f["gf-flour"] || f["egg"]
		}},
}

// Cautions lists what applies to a recipe for those it is made for. Newly come
// allergens stand first.
func Cautions(r *recipe.Recipe, l *larder.Larder, d diet.Demand, newAllergens map[string]string) []Caution {
	var out []Caution
	for _, a := range larder.Allergens() {
		if from := newAllergens[a]; from != "" {
			out = append(out, Caution{"new-allergen", fmt.Sprintf("New here: %s, from %s. The written recipe held none.", larder.AllergenWords(a), from), "Whoever is to eat it decides."})
		}
	}
	in, families := map[larder.ID]bool{}, map[larder.Family]bool{}
	sulphites := []string{}
	for _, ln := range r.Lines {
		if i := l.Get(ln.Ingredient); i != nil {
			in[i.ID], families[i.Family] = true, true
			if _, ok := i.Has("sulphites"); ok {
				sulphites = append(sulphites, i.Name)
			}
		}
	}
	for _, rl := range rules {
		if rl.holds(in, families, d) {
			out = append(out, Caution{rl.code, rl.text, rl.defers})
		}
	}
	if len(sulphites) > 0 {
		out = append(out, Caution{"sulphites", "Sulphites may be in: " + strings.Join(sulphites, ", ") + ".", byLabel})
	}
	return out
}
