package balance

import (
	"strings"

	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

var (
	wordScone   = pattern.Must(`(?i)\bscones?\b|\bbiscuits? and gravy\b|\bbuttermilk biscuits\b`)
	wordBiscuit = pattern.Must(`(?i)\b(biscuits?|cookies?|shortbread|snaps|crackers?|crispbreads?|flapjacks?|biscotti|cantucc?ini|pfeffern(?:ü|u|ue)sse|lebkuchen|speculoos|spekulatius|brandy snaps|ginger ?nuts)\b`)
	wordCreamed = pattern.Must(
		`(?i)\bcream (?:[\d½¼¾./]+ ?(?:g|oz|cups?|tbsp) (?:of )?)?(?:the |together |the softened |softened )?(?:butter|margarine|fat|sugar|spread|block)|\bbeat (?:the |together |together the )?(?:soft(?:ened)? )?butter (?:and|with|until)|light and fluffy|pale and fluffy|creamed`,
	)
	wordMicrowave = pattern.Must(`(?i)\bmicrowav`)
	wordPan       = pattern.Must(
		`(?i)\b(?:lidded|covered)\b[^.]{0,40}\b(?:pan|pot|cooker|wok)\b[^.]{0,80}\b(?:flame|hob|stove|low heat|rack)`,
	)
	wordFlat = pattern.Must(
		`(?i)\b(?:flat ?breads?|chapatis?|rotis?|tortillas?|wraps?|farls?|piadinas?|pittas?)\b`,
	)
	wordSoda     = pattern.Must(`(?i)\bsoda bread\b`)
	wordFruit    = pattern.Must(`(?i)\b(fruit ?cake|tea ?loaf|barm ?brack)\b`)
	wordLoafLike = pattern.Must(`(?i)\b(loaf|muffins?|quick bread|bread)\b`)
	wordCake     = pattern.Must(
		`(?i)\b(\pL*kuchen|cake|cakes|sponge|squares|brownies|gateau|torte|traybake|cupcakes)\b`,
	)
)

var (
	wordGriddle    = pattern.Must(`(?i)\b(?:pancakes?|waffles?|cr[eê]pes?|drop scones|blinis?|pikelets?)\b`)
	wordChoux      = pattern.Must(`(?i)\b(?:choux|[eé]clairs?|profiteroles?|cream puffs|goug[eè]res?)\b`)
	wordCheesecake = pattern.Must(`(?i)\bcheese ?cakes?\b`)
	wordCustard    = pattern.Must(`(?i)\b(?:custards?|quiches?|curd tarts?|lemon tart|flans?|clafoutis|cr[eè]me (?:caramel|br[uû]l[eé]e)|pumpkin (?:pie|tart))\b`)
	wordBrownie    = pattern.Must(`(?i)\b(?:brownies?|blondies?)\b`)
	wordWhite      = pattern.Must(`(?i)\b(?:meringues?|pavlovas?|macarons?|angel(?: food)? cake|dacquoises?)\b`)
	wordPastry     = pattern.Must(`(?i)\b(?:shortcrust|short pastry|sweet pastry|pastry (?:case|shell|dough|crust)|(?:pie|tart) (?:crust|shell|case|dough)|p[aâ]te sucr[eé]e|tarts?|tartlets?|pies?|galettes?|turnovers?|pasties|crumbles?|crisp)\b`)
	wordFoam       = pattern.Must(`(?i)\b(?:whisk|whip|beat)\b[^.]{0,60}\b(?:until|till|to)\b[^.]{0,30}\b(?:thick|tripled|ribbon|trail|mousse|stiff|(?:soft|firm) peaks|pale and (?:thick|fluffy|doubled)|doubled in volume)\b`)
)

// starchOf is the starch of the flours, grams: nut flours have none.
func starchOf(items []Item) float64 {
	sum := 0.0
	for _, it := range items {
		if it.Ingredient.IsBase() {
			sum += it.Grams / 100 * it.Ingredient.Facts[larder.Starch]
		}
	}
	return sum
}

// eggOf is the egg of a whole recipe, fillings too, grams.
func eggOf(r *recipe.Recipe, l *larder.Larder) float64 {
	sum := 0.0
	for _, ln := range r.Lines {
		if i := l.Get(ln.Ingredient); i != nil && i.Origin == "egg" {
			sum += ln.Grams
		}
	}
	return sum
}

// Inference is a guess at the kind of bake, which the baker can change.
type Inference struct {
	Kind recipe.Kind
	Sure Sureness
	Why  string // what it was taken from
}

// Sureness says how far to trust a guess.
type Sureness string

// The degrees, in the words the application prints.
const (
	Sure    Sureness = "sure"
	Likely  Sureness = "likely"
	Perhaps Sureness = "perhaps"
)

// Infer takes the kind of bake from its proportions and the words of its title
// and method. Source: common practice.
func Infer(r *recipe.Recipe, l *larder.Larder) Inference {
	items := Items(r, l)
	b := Add(items)
	var steps []string
	for _, s := range r.Steps {
		steps = append(steps, s.Text)
	}
	method := strings.Join(steps, " ")
	yeast, dried := 0.0, 0.0
	for _, it := range items {
		switch it.Ingredient.Family {
		case larder.FamilyYeast:
			yeast += it.Grams
		case larder.FamilyDriedFruit:
			dried += it.Grams
		}
	}
	if kind, ok := named(r, l, items, b, method, yeast == 0); ok {
		return kind
	}
	sugar, water, fat := b.Per(b.Sugars), b.Per(b.Water), b.Per(b.Fat)
	thin := Percent(items, "water") // pieces of fruit keep theirs
	loaf := wordLoafLike.MatchString(r.Title)
	switch {
	case yeast > 0 && (Percent(items, "added-fat") > 6.5 || sugar-ownSugar(items, b) > 6.5): // beside what flour and seeds bring
		return Inference{recipe.RichBread, Sure, "there is yeast, and more than a little fat or sugar"}
	case yeast > 0:
		return Inference{recipe.LeanBread, Sure, "there is yeast, and hardly any fat or sugar"}
	case r.Oven == 0 && wordMicrowave.MatchString(method):
		return Inference{recipe.OneBowl, Sure, "the method says “microwave”"}
	case r.Oven == 0 && wordPan.MatchString(method):
		return Inference{recipe.OneBowl, Likely, "the method bakes it in a pan on the flame"}
	case wordFlat.MatchString(r.Title):
		return Inference{recipe.Flatbread, Likely, says(wordFlat, "title", r.Title)}
	case wordSoda.MatchString(r.Title):
		return Inference{recipe.SodaBread, Sure, says(wordSoda, "title", r.Title)}
	case wordScone.MatchString(r.Title):
		return Inference{recipe.Scone, Sure, says(wordScone, "title", r.Title)}
	case wordFruit.MatchString(r.Title):
		return Inference{recipe.FruitCake, Sure, says(wordFruit, "title", r.Title)}
	case b.Base > 0 && b.Per(dried) > 90:
		return Inference{recipe.FruitCake, Likely, "it holds nearly as much dried fruit as flour, or more"}
	case wordBiscuit.MatchString(r.Title):
		return Inference{recipe.Biscuit, Likely, says(wordBiscuit, "title", r.Title)}
	case b.Base > 0 && thin < 32 && fat > 25 && b.Per(b.Egg) < 45 && sugar > 20:
		return Inference{recipe.Biscuit, Perhaps, "it is stiff, fat and sweet"}
	case wordCreamed.MatchString(method) && b.SolidFat > 0 && !loaf:
		return Inference{recipe.CreamedCake, Likely, says(wordCreamed, "method", method)}
	case wordCake.MatchString(r.Title) && (b.Per(b.Bulk) > 20 || b.Base == 0):
		return Inference{recipe.AllInCake, Likely, says(wordCake, "title", r.Title)}
	case b.Base > 0 && water >= 40 && water < 75 && sugar < 22 && b.Per(b.Egg) < 25 && !loaf:
		return Inference{recipe.Scone, Perhaps, "it is a soft dough with little sugar"}
	case b.Base < 0.1*b.Mass && b.Sugars > 0:
		return Inference{recipe.AllInCake, Perhaps, "it holds hardly any flour"}
	case sugar > 85 && !loaf, sugar > 45 && (b.Per(b.Egg) > 75 || Percent(items, "fat") > 65) && !loaf:
		return Inference{recipe.AllInCake, Perhaps, "it is as rich as a cake"}
	case loaf:
		return Inference{recipe.QuickBread, Likely, says(wordLoafLike, "title", r.Title) + " and there is no yeast"}
	}
	return Inference{recipe.QuickBread, Perhaps, "nothing says otherwise"}
}

// says is why a word settles a kind.
func says(re *pattern.Pattern, where, text string) string {
	return "the " + where + " says “" + strings.ToLower(re.FindString(text)) + "”"
}

// named is the kind that a title names, where what it is made of agrees, or whose eggs are whisked to a foam: what
// comes before yeast and proportions.
func named(r *recipe.Recipe, l *larder.Larder, items []Item, b Balance, method string, yeastless bool) (Inference, bool) {
	title, foams := r.Title, wordFoam.MatchString(method)
	whites := 0.0
	for _, it := range items {
		if strings.Contains(string(it.Ingredient.ID), "egg-white") {
			whites += it.Grams
		}
	}
	switch {
	case yeastless && wordGriddle.MatchString(title) && r.Bake.Max < 30:
		return Inference{recipe.Griddle, Sure, says(wordGriddle, "title", title)}, true
	case wordChoux.MatchString(title) && b.Egg > 0:
		return Inference{recipe.Choux, Sure, says(wordChoux, "title", title)}, true
	case wordCheesecake.MatchString(title) && b.Egg+eggOf(r, l) > 0 && r.Oven > 0:
		return Inference{recipe.Cheesecake, Sure, says(wordCheesecake, "title", title)}, true
	case wordCustard.MatchString(title) && eggOf(r, l) > 0 && !wordCake.MatchString(title):
		return Inference{recipe.Custard, Sure, says(wordCustard, "title", title)}, true
	case wordBrownie.MatchString(title):
		return Inference{recipe.Brownie, Sure, says(wordBrownie, "title", title)}, true
	case yeastless && wordWhite.MatchString(title) && whites > 0:
		return Inference{recipe.WhiteFoam, Sure, says(wordWhite, "title", title)}, true
	case yeastless && whites > 0 && whites > 0.9*b.Egg && b.Base < 2*whites && b.Sugars > whites && foams && b.Fat < whites/4:
		return Inference{recipe.WhiteFoam, Likely, "it is whites and sugar, " + says(wordFoam, "method", method)}, true
	case yeastless && foams && !wordCreamed.MatchString(method) && b.Base > 0 && b.Per(b.Egg) > 90 && Percent(items, "added-fat") < 70 &&
		starchOf(items) > 0.4*b.Base && b.Per(b.Sugars) > 60 && Percent(items, "powder") < 3:
		return Inference{recipe.Sponge, Likely, "its eggs are whisked to a foam, " + says(wordFoam, "method", method)}, true
	case wordPastry.MatchString(title) && b.Base > 0 && doughWater(items, b) < 45:
		return Inference{recipe.Pastry, Sure, says(wordPastry, "title", title)}, true
	}
	return Inference{}, false
}

// doughWater is the water beside that of fruit and vegetables, which lie in or on a pastry, per
// cent of the base.
func doughWater(items []Item, b Balance) float64 {
	sum := 0.0
	for _, it := range items {
		if it.Ingredient.Shelf.Carbohydrate != "cup" {
			sum += it.Grams / 100 * WaterOf(it.Ingredient)
		}
	}
	return b.Per(sum)
}

// ownSugar is what the flour itself brings, per cent of the base.
func ownSugar(items []Item, b Balance) float64 {
	own := inPieces(items, func(f *larder.Facts) float64 { return f.Sugars() })
	for _, it := range items {
		if it.Ingredient.IsBase() {
			own += it.Grams / 100 * it.Ingredient.Facts.Sugars()
		}
	}
	return b.Per(own)
}
