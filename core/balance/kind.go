package balance

import (
	"regexp"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

var (
	wordScone    = regexp.MustCompile(`(?i)\bscones?\b|\bbiscuits? and gravy\b|\bbuttermilk biscuits\b`)
	wordBiscuit  = regexp.MustCompile(`(?i)\b(biscuits?|cookies?|shortbread|snaps|crackers?|crispbreads?|flapjacks?)\b`)
	wordCreamed  = regexp.MustCompile(`(?i)\bcream (?:[\d½¼¾./]+ ?(?:g|oz|cups?|tbsp) (?:of )?)?(?:the |together |the softened |softened )?(?:butter|margarine|fat|sugar|spread|block)|\bbeat (?:the |together |together the )?(?:soft(?:ened)? )?butter (?:and|with|until)|light and fluffy|pale and fluffy|creamed`)
	wordSoda     = regexp.MustCompile(`(?i)\bsoda bread\b`)
	wordFruit    = regexp.MustCompile(`(?i)\b(fruit ?cake|tea ?loaf|barm ?brack)\b`)
	wordLoafLike = regexp.MustCompile(`(?i)\b(loaf|muffins?|quick bread|bread)\b`)
	wordCake     = regexp.MustCompile(`(?i)\b(\pL*kuchen|cake|cakes|sponge|squares|brownies|gateau|torte|traybake|cupcakes)\b`)
)

// InferKind takes the kind of bake from its proportions and the words of its
// title and method. The result is a guess that the baker can change.
func InferKind(r *recipe.Recipe, l *larder.Larder) recipe.Kind {
	items := Items(r, l)
	b := Add(items)
	var steps []string
	for _, s := range r.Steps {
		steps = append(steps, s.Text)
	}
	method := strings.Join(steps, " ")
	yeast, dried, ownFat, ownSugar := 0.0, 0.0, 0.0, 0.0
	for _, it := range items {
		if it.Ingredient.IsBase() {
			ownFat += it.Grams / 100 * it.Ingredient.Facts[larder.Fat]
			ownSugar += it.Grams / 100 * it.Ingredient.Facts.Sugars()
		}
		switch it.Ingredient.Family {
		case "yeast":
			yeast += it.Grams
		case "dried-fruit":
			dried += it.Grams
		}
	}
	fat, sugar, water := b.Per(b.Fat), b.Per(b.Sugars), b.Per(b.Water)
	switch {
	case yeast > 0 && (Percent(items, "fat")-b.Per(ownFat) > 6.5 || Percent(items, "sugar")-b.Per(ownSugar) > 6.5): // beside what flour and seeds bring
		return recipe.RichBread
	case yeast > 0:
		return recipe.LeanBread
	case wordSoda.MatchString(r.Title):
		return recipe.SodaBread
	case wordScone.MatchString(r.Title):
		return recipe.Scone
	case wordFruit.MatchString(r.Title) || b.Base > 0 && b.Per(dried) > 90:
		return recipe.FruitCake
	case wordBiscuit.MatchString(r.Title) || b.Base > 0 && Percent(items, "water") < 32 && fat > 25 && b.Per(b.Egg) < 45 && sugar > 20:
		return recipe.Biscuit
	case wordCreamed.MatchString(method) && b.SolidFat > 0 && !wordLoafLike.MatchString(r.Title):
		return recipe.CreamedCake
	case wordCake.MatchString(r.Title) && (b.Per(b.Bulk) > 20 || b.Base == 0):
		return recipe.AllInCake
	case b.Base > 0 && water >= 40 && water < 75 && sugar < 22 && b.Per(b.Egg) < 25 && !wordLoafLike.MatchString(r.Title):
		return recipe.Scone
	case b.Base < 0.1*b.Mass && b.Sugars > 0, // chocolate and eggs, no flour
		sugar > 45 && (b.Per(b.Egg) > 75 || Percent(items, "fat") > 65) && !wordLoafLike.MatchString(r.Title):
		return recipe.AllInCake
	case b.Per(b.Sugars) > 85 && !wordLoafLike.MatchString(r.Title):
		return recipe.AllInCake
	}
	return recipe.QuickBread
}
