package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
)

// Buy is an ingredient that bakes need, together.
type Buy struct {
	Ingredient larder.ID
	Name       string
	Grams      float64
	Buy        string   // eggs as whole ones, the rest by weight
	Labels     []string // to read, and for what
	Unweighed  bool     // some of it is needed beside, such as for greasing
}

// shelfOrder is how one walks a shop, by the texture of a food. Source: practice.
var shelfOrder = []string{"fruit", "egg", "liquid", "fat", "flour", "sugar", "lift", "salt"}

// Shopping lists what the recipes of some results need, as one walks a shop. Water is free.
func Shopping(results []*Result, kit Kit) []Buy {
	by := map[larder.ID]*Buy{}
	var order []larder.ID
	for _, res := range results {
		demand := res.Request.Demand()
		for _, l := range res.Recipe.Lines {
			i := kit.Larder.Get(l.Ingredient)
			if i == nil || i.Family == larder.FamilyWater {
				continue
			}
			b := by[i.ID]
			if b == nil {
				b = &Buy{Ingredient: i.ID, Name: i.Name}
				by[i.ID] = b
				order = append(order, i.ID)
			}
			b.Grams += l.Grams
			b.Unweighed = b.Unweighed || l.Grams == 0
			if v, why := demand.Judge(i); v == diet.CheckLabel && !slices.Contains(b.Labels, why.Words()) {
				b.Labels = append(b.Labels, why.Words())
			}
		}
	}
	var out []Buy
	for _, id := range order {
		b, i := by[id], kit.Larder.Get(id)
		b.Buy = measure.Grams(b.Grams).String()
		if one, ok := i.WeightHow("large"); ok && i.Family == larder.FamilyEgg && i.ID == "egg" {
			n := int(b.Grams/float64(one.Grams) + 0.99)
			b.Buy = fmt.Sprintf("%d", n)
		}
		if b.Grams == 0 {
			b.Buy = "a little"
		}
		out = append(out, *b)
	}
	rank := func(b Buy) int { return slices.Index(shelfOrder, kit.Larder.Get(b.Ingredient).Shelf.Texture) }
	slices.SortStableFunc(out, func(a, b Buy) int {
		if x, y := rank(a), rank(b); x != y {
			return x - y
		}
		return strings.Compare(a.Name, b.Name)
	})
	return out
}
