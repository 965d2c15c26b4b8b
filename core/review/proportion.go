package review

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// proportions holds the formula against the kind's windows. A figure a sixth
// outside is said, since kinds are guesses and bakers differ.
func (v *reviewer) proportions() {
	words := map[string]string{
		"water": "Water of every source", "fat": "Fat", "added-fat": "Fat beside the ground nuts'",
		"sugar": "Sugar", "egg": "Egg", "salt": "Salt", "yeast": "Yeast, as dry",
	}
	base := balance.BaseOf(v.items)
	kind := base.Words() + v.r.Kind.Words()
	for _, w := range balance.Windows(v.r.Kind, base) {
		if words[w.What] == "" {
			continue // powder is judged by lift
		}
		x := balance.Percent(v.items, w.What)
		if w.What == "water" {
			x -= v.soakedUp()
		}
		if w.What == "salt" && (x == 0 || v.slip["salt"]) || w.What == "yeast" && x == 0 || w.What == "egg" && x == 0 {
			continue // missing things have words of their own
		}
		far := "look"
		switch {
		case x > w.Hi*1.17+1:
			if x < w.Hi*1.4+2 {
				far = "note"
			}
			v.say(
				w.What+"-high", far, 0, fmt.Sprintf("%s is %s of the flour.", words[w.What], pc(x)),
				fmt.Sprintf("%s to %s is usual for %s.", measure.Digits(w.Lo, 2), pc(w.Hi), kind),
			)
		case x < w.Lo*0.83-1:
			if (w.What == "sugar" || w.What == "fat") && v.r.Kind == recipe.QuickBread && x < w.Lo/3 {
				continue // a savoury or a lean loaf means it
			}
			if x > w.Lo*0.6 || w.What == "sugar" || w.What == "fat" && v.r.Kind == recipe.QuickBread {
				far = "note"
			}
			v.say(
				w.What+"-low", far, 0, fmt.Sprintf("%s is %s of the flour.", words[w.What], pc(x)),
				fmt.Sprintf("%s to %s is usual for %s.", measure.Digits(w.Lo, 2), pc(w.Hi), kind),
			)
		}
	}
	if k := v.r.Kind; (k == recipe.AllInCake || k == recipe.CreamedCake) && v.b.Per(v.b.Sugars) > 102 {
		if liquids := balance.Percent(v.items, "water"); liquids < 0.9*v.b.Per(v.b.Sugars) && base == balance.Wheat {
			v.say(
				"sugar-liquid", "note", 0,
				fmt.Sprintf(
					"There is more sugar than flour, %s, and liquids are only %s.", pc(v.b.Per(v.b.Sugars)),
					pc(liquids),
				),
				"A cake with more sugar than flour wants at least as much liquid as sugar, eggs counted.",
			)
		}
	}
}

// soakedUp is the liquid that dried fruit takes up where the recipe soaks it, per
// cent of the flour: half its weight. Source: practice.
func (v *reviewer) soakedUp() float64 {
	soaks := slices.ContainsFunc(v.r.Waits, func(w recipe.Wait) bool { return w.What == recipe.Soak })
	fruit := 0.0
	for _, it := range v.items {
		if it.Ingredient.Family == larder.FamilyDriedFruit {
			fruit += it.Grams
		}
	}
	if !soaks {
		return 0
	}
	return v.b.Per(fruit / 2)
}

// gum holds gums and husk against a gluten-free base.
func (v *reviewer) gum() {
	base := balance.BaseOf(v.items)
	if base != balance.GlutenFree {
		return
	}
	gum := balance.Percent(v.items, "gum")
	husk, blend := 0.0, false
	for _, it := range v.items {
		switch it.Ingredient.ID {
		case "psyllium-husk", "psyllium-powder":
			husk += v.b.Per(it.Grams)
		case "gf-blend", "gf-blend-gum", "gf-bread-blend", "gf-self-raising": // may hold gum already
			blend = true
		}
	}
	switch {
	case gum-husk > 4.2:
		v.say(
			"gum-high", "look", 0, fmt.Sprintf("Gum is %s of the flour.", pc(gum-husk)),
			"Above 4 % a crumb turns gummy; 0.5 to 1 % is usual for cakes, 1.5 to 4 % for yeast bread.",
		)
	case v.r.Kind.Yeasted() && gum < 1 && !blend && v.b.Per(v.b.Egg) < 30:
		v.say(
			"gum-none", "look", 0, "Nothing holds this gluten-free dough together.",
			"1.5 to 4 % xanthan, or 4 to 7 % psyllium husk, is usual for yeast bread.",
		)
	}
}

// cups finds flour by the cup beside weights: how the cup was filled then changes
// the proportions, which it does not where all is in cups.
func (v *reviewer) cups() {
	var flour *recipe.Line
	weighed := 0.0
	for n := range v.r.Lines {
		ln := &v.r.Lines[n]
		i := v.l.Get(ln.Ingredient)
		if i == nil || ln.Grams < 40 {
			continue
		}
		u, _ := measure.UnitByID(ln.Unit)
		switch {
		case ln.Unit == "cup" && i.IsBase() && strings.Contains(ln.How, "×"):
			if flour == nil || ln.Grams > flour.Grams {
				flour = ln
			}
		case u.Kind == measure.Mass && !i.IsBase():
			weighed += ln.Grams
		}
	}
	if flour == nil || weighed < 0.4*flour.Grams {
		return
	}
	i := v.l.Get(flour.Ingredient)
	low, okLow := i.WeightHow("sifted")
	high, okHigh := i.WeightHow("scooped")
	seen := fmt.Sprintf("%s is by the cup, other things by weight.", i.Name)
	usual := fmt.Sprintf("%s is used. A cup of 250 ml instead of 237 would be 6 %% more.", measure.Grams(flour.Grams))
	if okLow && okHigh {
		cups := flour.Amount.Mid()
		usual = fmt.Sprintf(
			"%s is used; by how the cup was filled it may be %s to %s.", measure.Grams(flour.Grams),
			measure.Grams(cups*float64(low.Grams)), measure.Grams(cups*float64(high.Grams)),
		)
	}
	n := v.say("cups-mixed", "note", flour.ID, seen, usual)
	n.Fix = &Fix{
		Words: "Keep " + measure.Grams(flour.Grams).String(), Amount: fmt.Sprintf("%.0f", flour.Grams), Unit: "g",
	}
}

// heat finds an oven that is set for something else.
func (v *reviewer) heat() {
	usual := v.r.Kind.Trade().Ovens
	if c := v.r.Oven; v.r.Kind.Known() && usual[0] > 0 && c > 0 && len(v.r.Stages) == 0 &&
		(c < usual[0]-6 || c > usual[1]+6) { // half a gas mark is no finding
		v.say(
			"oven", "note", 0, fmt.Sprintf("The oven is at %.0f °C.", float64(c)),
			fmt.Sprintf("%.0f to %.0f °C is usual for %s.", float64(usual[0]), float64(usual[1]), v.r.Kind.Words()),
		)
	}
}

// tin holds the batter against the tin, and the time against both.
func (v *reviewer) tin() {
	if len(v.r.Tins) == 0 {
		return
	}
	t := v.r.Tins[0]
	f := oven.FillOf(v.r.Kind, measure.Grams(v.b.Mass*tin.Shares(v.r.Tins)[0]), t)
	if t.Shape != tin.Free && t.Volume > 0 {
		switch {
		case f.TooMuch > 0 && f.Share > 0.8 && (f.Share > 1.05 || !v.r.Kind.Yeasted()):
			v.say(
				"tin-small", "look", 0, fmt.Sprintf("The batter fills %.0f %% of the %s.", 100*f.Share, t.Words()),
				fmt.Sprintf("Half to two thirds is usual: about %s is too much for it.", f.TooMuch),
			)
		case f.Share < 0.25:
			v.say(
				"tin-large", "note", 0, fmt.Sprintf("The batter fills only %.0f %% of the %s.", 100*f.Share, t.Words()),
				"It comes out low and is done sooner than written.",
			)
		}
	}
	// a layer as thin as this bakes until it is dry or coloured, which no time to a
	// warm middle foretells
	if v.r.Bake.Max > 0 && v.r.Oven > 0 && t.Shape != tin.Free && f.Share >= 0.25 {
		e, err := oven.Glance(
			oven.Baking{}, oven.Baking{Kind: v.r.Kind, Mass: measure.Grams(v.b.Mass), Tin: t, Oven: v.r.Oven},
		)
		if err != nil {
			return
		}
		if ratio := v.r.Bake.Mid() / e.Minutes; ratio < 0.5 || ratio > 2.1 {
			v.say(
				"time", "look", 0, fmt.Sprintf("%s min are written.", measure.Digits(v.r.Bake.Mid(), 3)),
				fmt.Sprintf(
					"This much batter in the %s at %.0f °C would take about %.0f.", t.Words(), float64(v.r.Oven),
					e.Minutes,
				),
			)
		}
	}
}
