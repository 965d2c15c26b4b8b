// Package review says what a careful cook would say about a recipe before it is
// baked: findings, with what is usual and how sure, and cautions, short, shown
// where they apply, each with who decides. Nothing here is a medical claim or a
// certificate.
package review

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
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
	byFood   = "Your food authority decides."
	byCare   = "Your care team decides."
	byMaker  = "The maker's manual decides."
)

// scene is what the rules look at.
type scene struct {
	in       map[larder.ID]bool
	families map[larder.Family]bool
	demand   diet.Demand
	kind     recipe.Kind
	method   string // steps and lines, in lower case
	rawTop   bool   // egg in an icing or cream that nothing cooks
}

type rule struct {
	code   string
	defers string
	text   string
	holds  func(s scene) bool
}

func any(ids ...larder.ID) func(scene) bool {
	return func(s scene) bool {
		return slices.ContainsFunc(ids, func(id larder.ID) bool { return s.in[id] })
	}
}

func family(names ...larder.Family) func(scene) bool {
	return func(s scene) bool {
		return slices.ContainsFunc(names, func(f larder.Family) bool { return s.families[f] })
	}
}

// says matches the method, which is in lower case as the pattern is.
func says(expr string) func(scene) bool {
	re := pattern.Must(expr)
	return func(s scene) bool { return re.MatchString(s.method) }
}

func asks(id diet.ID) func(scene) bool { return func(s scene) bool { return s.demand.Has(id) } }

func without(allergen string) func(scene) bool {
	return func(s scene) bool { return s.demand.ShutsOut(allergen) }
}

func limits(what ...diet.Limited) func(scene) bool {
	return func(s scene) bool {
		return slices.ContainsFunc(s.demand.Limits, func(l diet.Limit) bool { return slices.Contains(what, l.What) })
	}
}

func both(a, b func(scene) bool) func(scene) bool {
	return func(s scene) bool { return a(s) && b(s) }
}

func not(a func(scene) bool) func(scene) bool { return func(s scene) bool { return !a(s) } }

// honeyed tells honey of any name, in whatever place.
var honeyed = pattern.Must(`\bhoney(?:comb)?s?\b`)

// eggFilled tells a filling with egg that is poured into a case or over a base.
var eggFilled = pattern.Must(`\b(?:eggs?|yolks?|custard)\b[^§]*\b(?:pour|spoon|spread)\b[^.]{0,60}\b(?:case|base|crust|shell)\b`)

// rawFinish tells an icing or cream of raw egg by its words; coldTop a part that is put on and not baked, and cooks a step that
// cooks it all the same.
var (
	rawFinish = pattern.Must(`\b(?:royal icing|raw eggs?|raw (?:egg )?whites?|tiramisu)\b|\bmousse\b[^.]*\begg`)
	coldTop   = pattern.Must(`(?i)\b(?:icing|frosting|glaze|buttercream|mousse|topping|cream)\b`)
	cooksTop  = pattern.Must(`\b(?:simmering|bain[- ]?marie|double boiler|syrup to|hot syrup|boiling syrup|swiss meringue|italian meringue|custard|whisk over|over a pan|blowtorch|bake|oven)\b`)
)

var alcohol = any("rum", "liqueur", "wine", "fortified-wine", "beer", "cider")

// What is said of gluten where everything is understood, and where it is not.
const (
	madeWithout    = "Made without gluten ingredients, which is not “gluten-free”: that is a measured figure."
	notMadeWithout = "Something here is not understood, or names gluten: nothing can be said of gluten until that is settled."
)

// rules follow the handbook of cautions of the trade. Sources: EU 1169/2011
// annexes II and III for allergens and polyols; USDA's 160 °F for egg dishes and its table of nutrient
// retention for alcohol; the rest common practice of food agencies.
var rules = []rule{
	{
		"milk-allergy", byLabel,
		"Milk allergy is not lactose intolerance, and “vegan” on a packet is no allergen promise. Read the label of every spread, block, chocolate and baking powder.",
		without("milk"),
	},
	{
		"lactose", byDoctor, "Lactose-free is no help for a milk allergy: the milk's protein is all there.",
		asks(diet.LactoseFree),
	},
	{
		"coeliac", byLabel,
		madeWithout + " Clean tools and boards, a toaster of its own, oats only certified, and read the labels of powder, spices and icing sugar. Wheat allergy is another thing: wheat starch sold as gluten-free is not for it.",
		without("gluten"),
	},
	{
		"basket", byDoctor,
		"A basket, a cloth or a wooden board that has held wheat keeps it: not for coeliac disease. Take one that never has.",
		both(without("gluten"), says(`\b(?:banneton|brotform|proving baskets?|couche|floured|linen cloth|basket)\b|dusted with its own flour`)),
	},
	{
		"diabetes", byCare,
		"Carbohydrate figures are estimates: weighing at home is right to about a tenth. Doses of insulin or tablets, and eating this low in carbohydrate with diabetes tablets, in pregnancy or with kidney disease, are for the care team. A sugar-free bake does not treat a hypo.",
		func(s scene) bool {
			return asks(diet.Keto)(s) || asks(diet.LowSugar)(s) ||
				limits(diet.NetCarb, diet.Sugars, diet.AddedSugars)(s)
		},
	},
	{
		"sodium", byDoctor,
		"The sodium counted is that of the lines: how much comes from powder, soda and salt stands with the figure.",
		func(s scene) bool { return asks(diet.LowSodium)(s) || limits(diet.Sodium)(s) },
	},
	{
		"potassium", byDoctor,
		"Potassium in place of sodium is not for everyone: not with kidney disease or with some heart tablets.",
		any("potassium-bicarbonate", "salt-substitute"),
	},
	{"lupin", byDoctor, "Lupin may set off a peanut allergy.", any("lupin-flour")},
	{
		"allulose", byFood,
		"Allulose is not authorised as a food in the EU. At once no more than 0.4 g for each kg of body, 0.9 in a day (28 and 63 g at 70 kg, from memory of a trial of 2018), and a child half: more upsets the gut.",
		any("allulose", "allulose-syrup"),
	},
	{
		"gluten", byLabel,
		"This still holds wheat or another gluten cereal. Nothing here is made for coeliac disease or wheat allergy.",
		family(larder.FamilyWheatFlour),
	},
	{
		"gel-dry", byDoctor,
		"Psyllium, flax and gums are never eaten dry: always with their water, and psyllium two hours apart from medicines.",
		any("psyllium-husk", "psyllium-powder", "flax-ground", "chia", "xanthan", "guar"),
	},
	{"xylitol", "Your vet decides.", "Xylitol is deadly to dogs, in crumbs too.", any("xylitol")},
	{
		"honey", byDoctor, "Honey is not for children under twelve months, baked in or not.",
		func(s scene) bool { return s.in["honey"] || honeyed.MatchString(s.method) },
	},
	{
		"choking", byDoctor, "Whole nuts and hard dried fruit can choke small children.",
		family(larder.FamilyNut, larder.FamilyDriedFruit),
	},
	{
		"alcohol", byDoctor,
		"Alcohol does not bake off entirely, and spirit fed after baking stays: think of children, pregnancy, recovery, driving and faith.",
		alcohol,
	},
	{"cassava", "The packet decides.", "Use only cassava flour that is sold for eating.", any("cassava-flour")},
	{"polyols", byLabel, "Sugar alcohols upset the gut in large servings.", family(larder.FamilyPolyol)},
	{
		"soak", byFood,
		"Soaked fruit without spirit stands in the fridge, in a clean dry jar, three to four days at most; mould means bin.",
		both(
			both(
				says(
					`\b(?:soak|steep|macerat)[^.]{0,80}(?:overnight|days?\b|\b(?:[6-9]|1\d|2\d)\s*(?:hours?|hrs?)|room temperature|on the counter)|\bsoaked overnight`,
				),
				family(larder.FamilyDriedFruit),
			),
			not(alcohol),
		),
	},
	{
		"hot-sugar", byMaker,
		"Boiling sugar sticks and burns, and spits when water or cream goes in: a deep pan, long sleeves, no children near.",
		says(
			`\bcaramel(?:is|iz)|\b(?:boil|simmer|bubble|heat)[^.]{0,60}\b(?:sugar|syrup|honey|treacle)\b[^.]{0,40}(?:until|to|for|°)|\b1[1-7]\d ?°? ?c\b[^.]{0,30}(?:sugar|syrup)|soft[- ]ball|hard[- ]crack`,
		),
	},
	{
		"stove-top", byMaker,
		"Baking on the stove: only a pan that its maker allows dry and empty over heat, no coated pan overheated, and a window open.",
		says(
			`\b(?:lidded|covered|heavy|empty|kadai|pressure)\b[^.]{0,40}\b(?:pan|pot|cooker|wok)\b[^.]{0,80}\b(?:flame|hob|stove|gas|low heat|rack|salt|sand)\b|\b(?:low|medium) flame\b`,
		),
	},
	{
		"microwave", byMaker,
		"In the microwave: nothing of metal, and let it stand before it is eaten, since the middle is hotter than the edge.",
		says(`\bmicrowav`),
	},
	{
		"glass", byMaker, "Glass and stoneware crack when they go from cold to hot at once.",
		says(`\b(?:glass|stoneware|ceramic|pyrex|baking stone)\b[^.]{0,30}\b(?:dish|tin|pan|bowl|stone)?`),
	},
	{
		"jar", byFood, "A cake is never sealed in a jar to keep it.",
		says(
			`\b(?:seal|lid)[^.]{0,40}\bjars?\b[^.]{0,60}\b(?:hot|cake|bread|bake|keep|store)|\b(?:bake|cake|bread)[^.]{0,40}\bin (?:a |the )?jars?\b`,
		),
	},
	{
		"fridge", byFood,
		"Cream, custard and curd cheese go into the fridge within two hours, one where it is hotter than 32 °C.",
		says(
			`\b(?:whipped? (?:the )?cream|cream cheese (?:icing|frosting)|custard|filling)[^.]*\b(?:spread|fill|sandwich|top|pipe|pour)|\b(?:spread|fill|sandwich|top|pipe)[^.]*\b(?:whipped cream|cream cheese|custard)`,
		),
	},
	{
		"egg-set", byFood,
		"A filling of egg is set at 71 to 77 °C in its middle, and 71 °C is the figure of food safety for egg dishes: where a wobble is wanted, measure. Into the fridge within two hours.",
		both(family(larder.FamilyEgg), func(s scene) bool {
			return s.kind == recipe.Custard || s.kind == recipe.Cheesecake || eggFilled.MatchString(s.method)
		}),
	},
	{
		"raw-finish", byFood,
		"Raw egg stays raw in this icing or cream: not for small children, the old, the pregnant or the ill. Pasteurised white, or white powder, does the same.",
		func(s scene) bool { return rawFinish.MatchString(s.method) || s.rawTop },
	},
	{
		"raw", byFood, "Raw flour, raw batter and raw egg are not for tasting.",
		family(larder.FamilyWheatFlour, larder.FamilyGFFlour, larder.FamilyEgg),
	},
}

// Warm is the caution of raw egg or milk that stands in the warm for longer than two hours.
func Warm(foods []string) Caution {
	return Caution{
		"warm", "More than two hours in the warm here: " + phrase.And(foods) + ". Let the long wait be in the fridge, or put it in at the last mixing.", byFood,
	}
}

// toppingSteps are the sentences of a method that speak of an icing or cream, in lower case.
func (scene) toppingSteps(r *recipe.Recipe) string {
	var out []string
	for _, st := range r.Steps {
		if coldTop.MatchString(st.Text) {
			for _, s := range strings.Split(strings.ToLower(st.Text), ".") {
				if coldTop.MatchString(s) {
					out = append(out, s)
				}
			}
		}
	}
	return strings.Join(out, ". ")
}

// Cautions lists what applies to a recipe for those it is made for. Newly come
// allergens stand first. Also are foods that its words name beside what its lines were taken for.
func Cautions(r *recipe.Recipe, l *larder.Larder, d diet.Demand, newAllergens map[string]string, also ...*larder.Ingredient) []Caution {
	var out []Caution
	held := "The written recipe held none."
	if len(r.Unknown()) > 0 {
		held = "What was understood of the written recipe held none."
	}
	for _, a := range larder.Allergens() {
		if from := newAllergens[a]; from != "" {
			out = append(
				out,
				Caution{
					"new-allergen", fmt.Sprintf("New here: %s, from %s. %s", larder.AllergenWords(a), from, held),
					"Whoever is to eat it decides.",
				},
			)
		}
	}
	sc := scene{in: map[larder.ID]bool{}, families: map[larder.Family]bool{}, demand: d, kind: r.Kind}
	var method strings.Builder
	for _, st := range r.Steps {
		method.WriteString(st.Text + " ")
	}
	sulphites := []string{}
	for _, ln := range r.Lines {
		if i := l.Get(ln.Ingredient); i != nil {
			sc.rawTop = sc.rawTop || i.Origin == "egg" && i.ID != "egg-white-powder" && i.ID != "egg-powder" && ln.Topping() && coldTop.MatchString(ln.Section)
			sc.in[i.ID], sc.families[i.Family] = true, true
			if _, ok := i.Has("sulphites"); ok {
				sulphites = append(sulphites, i.Name)
			}
		}
	}
	for _, i := range also {
		sc.in[i.ID], sc.families[i.Family] = true, true
	}
	for _, ln := range r.Lines {
		method.WriteString(ln.Text + ". ")
	}
	sc.method = strings.ToLower(method.String())
	sc.rawTop = sc.rawTop && !cooksTop.MatchString(sc.toppingSteps(r))
	open := len(r.Unknown()) > 0
	for _, i := range also {
		_, gluten := i.Has("gluten")
		open = open || gluten
	}
	for _, rl := range rules {
		if !rl.holds(sc) {
			continue
		}
		if rl.code == "coeliac" && open {
			rl.text = strings.Replace(rl.text, madeWithout, notMadeWithout, 1)
		}
		out = append(out, Caution{rl.code, rl.text, rl.defers})
	}
	if len(sulphites) > 0 {
		out = append(out, Caution{"sulphites", "Sulphites may be in: " + strings.Join(sulphites, ", ") + ".", byLabel})
	}
	return out
}
