package why

import (
	"maps"
	"math"
	"slices"

	"kollaris/core/adapt"
	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

// Of is what a recipe as it was adapted says of itself: what it is, and its figures. Symptoms and what happened
// at the counter and in the oven are added by who knows them.
func Of(res *adapt.Result, kit adapt.Kit) Case {
	c := Case{Is: map[string]bool{}, Figures: map[string]float64{}, Answers: map[string]bool{}}
	items := balance.Items(res.Recipe, kit.Larder)
	b := balance.Add(items)
	kind := res.Recipe.Kind
	base := balance.BaseOf(items)
	d := res.Request.Demand()
	c.Is["wheat"] = base == balance.Wheat
	c.Is["gluten-free"] = base != balance.Wheat
	c.Is["nut"] = base == balance.Nut || base == balance.Coconut
	c.Is["yeast"], c.Is["chemical"] = kind.Yeasted(), !kind.Yeasted()
	c.Is["biscuit"] = kind == recipe.Biscuit
	c.Is["egg-free"] = res.Before.Egg > 0 && res.After.Egg < 0.5*res.Before.Egg
	c.Is["dairy-free"] = slices.ContainsFunc(d.Diets, func(id diet.ID) bool { return id == diet.DairyFree || id == diet.Vegan })
	c.Is["sugar-cut"] = res.Before.Sugars > 0 && res.After.Sugars < 0.8*res.Before.Sugars
	for _, t := range res.Method {
		c.Is["creamed"] = c.Is["creamed"] || t.Verb == method.Cream
		c.Is["soak"] = c.Is["soak"] || t.Verb == method.Soak
		if t.Verb == method.Rest {
			c.Figures["rested"] = math.Max(c.Figures["rested"], t.Wait.Min)
		}
	}
	if b.Base > 0 {
		c.Figures["soda-left"] = b.Per(balance.SodaGrams(b.Surplus()))
		c.Figures["salt"], c.Figures["fat"], c.Figures["sugar"] = b.Per(b.Salt), balance.Percent(items, "fat"), b.Per(b.Sugars)
		if !kind.Yeasted() {
			c.Figures["powder"] = balance.Percent(items, "powder")
		}
		c.Figures["gum"] = balance.Percent(items, "gum")
		polyols, pieces := 0.0, 0.0
		for _, it := range items {
			polyols += it.Grams / 100 * it.Ingredient.Facts.Polyols()
			if it.Ingredient.Shelf.Texture == "fruit" {
				pieces += it.Grams
			}
		}
		c.Figures["polyols"], c.Figures["fruit"] = b.Per(polyols), b.Per(pieces)
	}
	if c.Is["egg-free"] {
		c.Figures["eggs-replaced"] = (res.Before.Egg - res.After.Egg) / 50
	}
	if res.Bake != nil && res.Bake.Fill.Share > 0 {
		c.Figures["fill"], c.Figures["depth"] = res.Bake.Fill.Share, res.Bake.Fill.Depth
	}
	return c
}

// Next is the request of the next trial: what was asked, with the cause's one change. What the batter then is
// around it is worked out by the engine. ok is false where the change is none of an amount or a heat.
func Next(res *adapt.Result, c Cause, kit adapt.Kit) (req adapt.Request, ok bool) {
	req = res.Request
	req.Holds = maps.Clone(req.Holds)
	if req.Holds == nil {
		req.Holds = map[larder.ID]float64{}
	}
	if c.Lever == "oven" {
		at := req.Oven.At
		if at == 0 {
			at = res.Recipe.Oven
		}
		if at == 0 {
			return req, false
		}
		req.Oven.At = at + measure.Celsius(c.Factor)
		return req, true
	}
	for _, id := range pulled(res.Recipe, c.Lever, kit.Larder) {
		sum := 0.0
		for _, l := range res.Recipe.Batter() {
			if l.Ingredient == id {
				sum += l.Grams
			}
		}
		i := kit.Larder.Get(id)
		grams := formula.Round(kit.Kitchen, i, c.Factor*sum)
		if math.Abs(grams-sum) < 0.02*sum {
			grams = math.Round(10*c.Factor*sum) / 10
		}
		req.Holds[id], ok = grams, true
	}
	return req, ok
}

// pulled are the ingredients that a lever moves: of liquids the largest alone.
func pulled(r *recipe.Recipe, lever string, l *larder.Larder) []larder.ID {
	most := map[larder.ID]float64{}
	for _, line := range r.Batter() {
		if i := l.Get(line.Ingredient); i != nil && line.Grams > 0 && moves(i, lever) {
			most[i.ID] += line.Grams
		}
	}
	ids := slices.Sorted(maps.Keys(most))
	if lever != "liquid" && lever != "fat" || len(ids) == 0 {
		return ids
	}
	return []larder.ID{slices.MaxFunc(ids, func(a, b larder.ID) int { return int(math.Round(10 * (most[a] - most[b]))) })}
}

// moves reports whether an ingredient is moved by a lever.
func moves(i *larder.Ingredient, lever string) bool {
	switch lever {
	case "powder":
		return i.ID == "baking-powder"
	case "soda":
		return i.ID == "baking-soda"
	case "salt":
		return i.Family == larder.FamilySalt
	case "yeast":
		return i.Family == larder.FamilyYeast
	case "binder":
		return i.Family == larder.FamilyGum || i.ID == "psyllium-husk" || i.ID == "psyllium-powder" || i.ID == "flax-ground" || i.ID == "chia-seed"
	case "liquid", "fat", "sugar":
		return formula.AtBowl(i) == lever
	}
	return false
}
