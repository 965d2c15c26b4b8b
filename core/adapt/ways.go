package adapt

import (
	"maps"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// enoughGluten is the gluten, g per 100 g of base, by which a batter holds together
// by itself: a third of plain flour's. Source: practice.
const enoughGluten = 3.0

// Ways ranks the schools by which a line of the adapted recipe that may stay can be
// replaced by choice, and names their use as Request.Swaps does. It judges the batter
// as it has become: whether it holds enough gluten and an egg. use is "" where no
// school replaces the line's ingredient.
func (r *Result) Ways(ln *recipe.Line, kit Kit) (use string, ways []swap.Choice) {
	u := kit.Swaps.For(ln.Ingredient)
	if u == nil {
		return "", nil
	}
	c := swap.Case{
		Kind: swapKind(r.Recipe.Kind, []recipe.Line{*ln}), Without: ln.Ingredient, Have: inHouse(r.Request, r.Recipe),
		EU: kit.Law == nutrition.EU,
	}
	items, gluten := balance.Items(r.Recipe, kit.Larder), 0.0
	for _, it := range items {
		gluten += it.Grams / 100 * it.Ingredient.Facts[larder.Gluten]
		c.Egg = c.Egg || it.Ingredient.Family == larder.FamilyEgg && it.Ingredient.ID != ln.Ingredient
	}
	b := balance.Add(items)
	c.Gluten = b.Base > 0 && b.Per(gluten) >= enoughGluten
	for _, ch := range u.Rank(c, r.Request.Demand(), kit.Larder) {
		if ch.Shut.Open() {
			ways = append(ways, ch)
		}
	}
	if use = u.ID; ln.Topping() {
		use += "-topping"
	}
	return use, ways
}

// swapKind is the kind by which schools are ranked for lines that stand together: the
// bake's, or for what is not in the batter "topping", or "glaze" for what is brushed on.
func swapKind(k recipe.Kind, lines []recipe.Line) string {
	switch {
	case !lines[0].Topping() && slices.ContainsFunc(lines, func(l recipe.Line) bool { return l.Role == recipe.Crust }):
		return string(recipe.Pastry.Like())
	case !lines[0].Topping():
		return string(k.Like())
	case slices.ContainsFunc(lines, func(l recipe.Line) bool { return l.Role.Aside() }):
		return "topping"
	}
	return "glaze"
}

// SweetTarget is a limit of what sweetens that the written recipe exceeds, with ways
// to keep it in the order in which the taste suffers.
type SweetTarget struct {
	Limit   diet.Limit
	Serving float64    // of the written recipe, in the limit's unit
	AtLeast bool       // lines that are not understood would add to it
	Ways    []SweetWay // never empty
}

// SweetWay is one way to keep a limit: smaller servings, less sugar, or, with neither,
// another sweetener as the tool chooses.
type SweetWay struct {
	Servings int // to cut it into; 0 leaves them
	Less     int // per cent of the sugar to leave out; 0 for none
	Request  Request
}

// What a target still offers. Sources: practice.
const (
	mostSmaller = 4    // times as many servings: past that they are crumbs
	mostLess    = 0.95 // of the sugar, the least that the slider leaves being a twentieth
)

// SweetTargets works out, for each limit of sugar that the written recipe exceeds, a
// smaller serving, less sugar and another sweetener.
func SweetTargets(written *recipe.Recipe, req Request, kit Kit) []SweetTarget {
	var out []SweetTarget
	n := max(1, written.Servings)
	for _, lim := range req.Demand().Limited() {
		if lim.What == diet.Sodium {
			continue
		}
		total, ours := 0.0, 0.0
		for _, ln := range written.Lines {
			i := kit.Larder.Get(ln.Ingredient)
			if i == nil {
				continue
			}
			x := lim.What.Of(nutrition.Of(i)) * ln.Grams / 100
			total += x
			if u := kit.Swaps.For(i.ID); u != nil && u.ID == "sugar" && !ln.Topping() {
				ours += x
			}
		}
		if lim.Keeps(total / float64(n)) {
			continue
		}
		t := SweetTarget{Limit: lim, Serving: total / float64(n), AtLeast: len(lim.What.Gaps(written, kit.Larder)) > 0}
		with := func(w SweetWay, sugar string) {
			w.Request = req
			w.Request.Swaps = map[string]string{}
			maps.Copy(w.Request.Swaps, req.Swaps)
			delete(w.Request.Swaps, "sugar")
			if sugar != "" {
				w.Request.Swaps["sugar"] = sugar
			}
			if w.Servings > 0 {
				w.Request.Servings = w.Servings
			}
			t.Ways = append(t.Ways, w)
		}
		if lim.Max > 0 {
			if pieces := int(math.Ceil(total / lim.Max)); pieces <= mostSmaller*n {
				with(SweetWay{Servings: pieces}, "as-written")
			}
		}
		if need := (total - lim.Max*float64(n)) / math.Max(ours, 1e-9); need <= mostLess {
			less := min(5*int(math.Ceil(20*need)), int(100*mostLess))
			with(SweetWay{Less: less}, swap.Less(less))
		}
		with(SweetWay{}, "")
		out = append(out, t)
	}
	return out
}
