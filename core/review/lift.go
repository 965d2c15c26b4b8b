package review

import (
	"fmt"
	"math"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// slips are the spoons that are mistaken for one another, with the share of the
// flour from which it is one. Source: practice: soda about 1 %, powder 4 to 6 %,
// salt in cakes up to 1.2 % and in bread 2 %.
var slips = map[larder.ID]float64{"baking-soda": 2.2, "baking-powder": 9, "salt": 3.6}

// spoons finds a tablespoon where a teaspoon is meant, and the reverse.
func (v *reviewer) spoons() {
	v.slip = map[larder.ID]bool{}
	for _, ln := range v.r.Batter() {
		most, ok := slips[ln.Ingredient]
		share := v.b.Per(ln.Grams)
		if ln.Ingredient == "baking-soda" && ln.Unit != "tbsp" { // what acid meets was meant
			share -= v.b.Per(balance.SodaGrams(math.Min(v.b.Acid, v.b.Soda)))
		}
		if !ok || share <= most || v.slip[ln.Ingredient] {
			continue
		}
		if ln.Unit == "tbsp" {
			v.slip[ln.Ingredient] = true
			n := v.say(
				"wrong-spoon", "stop", ln.ID,
				fmt.Sprintf("%s %s of %s is %s of the flour.", ln.Amount, ln.Unit, ln.Name, pc(share)),
				fmt.Sprintf("More than %s is hardly ever meant: probably a teaspoon.", pc(most)),
			)
			n.Fix = &Fix{Words: fmt.Sprintf("Make it %s tsp", ln.Amount), Amount: ln.Amount.String(), Unit: "tsp"}
		} else if share > 1.6*most {
			v.slip[ln.Ingredient] = true
			v.say("too-much", "stop", ln.ID, fmt.Sprintf("%s of %s is %s of the flour.", measure.Grams(ln.Grams), ln.Name, pc(share)), fmt.Sprintf("More than %s is hardly ever meant.", pc(most)))
		}
	}
}

// lift weighs gas against flour and soda against acid.
func (v *reviewer) lift() {
	if v.r.Kind.Yeasted() || len(v.slip) > 0 {
		return
	}
	per := func(x float64) float64 { return v.b.Per(x) }
	taste := v.b.SodaTasted(v.r.Kind)
	left := per(balance.SodaGrams(math.Max(0, v.b.Surplus())))
	soda := v.lineOf("baking-soda")
	switch {
	case left > 1.5*taste && v.b.Acid < 0.4*v.b.Soda:
		v.say(
			"soda-without-acid", "look", soda,
			fmt.Sprintf("The soda has little acid to meet: %s of the flour is left over.", pc(left)),
			fmt.Sprintf(
				"Above %s it tastes of soap; buttermilk, yogurt, lemon or vinegar would meet it, or powder take its place.",
				pc(taste),
			),
		)
	case left > 1.5*taste:
		n := v.say(
			"soda-left", "look", soda,
			fmt.Sprintf("More soda than its acid can use: %s of the flour is left over.", pc(left)),
			fmt.Sprintf("Above %s it is tasted.", pc(taste)),
		)
		n.Fix = v.lessSoda(taste)
	case v.b.Soda > 0 && per(-v.b.Surplus()) > 14:
		v.say(
			"acid-left", "note", soda,
			"More acid than its soda meets: "+pc(balance.SodaGrams(per(-v.b.Surplus())))+" of the flour in soda would.",
			"That tastes fresh to sour; it is right for lemon cakes.",
		)
	}
	powder := balance.Percent(v.items, "powder")
	if powder > 9 {
		severity := "note"
		if powder > 10.5 {
			severity = "look"
		}
		seen := fmt.Sprintf("Powder, with what the flour brings, is %s of the flour.", pc(powder))
		if v.lineOf("self-raising-flour") != 0 {
			seen = fmt.Sprintf(
				"Self-raising flour holds powder already; with the powder added it comes to %s.", pc(powder),
			)
		}
		n := v.say(
			"lift-much", severity, v.lineOf("baking-powder"), seen,
			"4 to 6 % is usual; above 8 % a crumb turns coarse and falls.",
		)
		if v.lineOf("self-raising-flour") != 0 && n.Line != 0 {
			n.Fix = &Fix{Words: "Leave the powder out", Skip: true}
		}
	}
	gas := per(v.b.Gas())
	if gas < 7 && v.b.Base >= 100 &&
		(v.r.Kind == recipe.QuickBread || v.r.Kind == recipe.Scone || v.r.Kind == recipe.AllInCake || v.r.Kind == recipe.SodaBread) &&
		v.b.Per(v.b.Egg) < 60 {
		n := v.say(
			"lift-little", "look", 0,
			fmt.Sprintf("It rises little: powder, soda and egg lift it as %s of powder in the flour would.", pc(gas/balance.PowderGas)),
			"A bake of this kind wants as much as 3.5 to 8.5 %: is self-raising flour meant, or has the powder been forgotten?",
		)
		if tsp := math.Round(2*(enoughGas-gas)/100*v.b.Base/balance.PowderGas/balance.TspPowder) / 2; tsp >= 0.5 && v.lineOf("baking-powder") == 0 {
			text, _ := measure.Fraction(tsp)
			n.Fix = &Fix{Words: "Add " + text + " tsp baking powder", Add: text + " tsp baking powder"}
		}
	}
}

// enoughGas is what a forgotten powder is made up to, mmol to 100 g of flour. Source: practice, the lower middle of 10 to 25.
const enoughGas = 14.0

// lessSoda is the soda that its acid can use, in the line's own spoon, to an
// eighth of a teaspoon; nil when the line is no spoon or would come to nothing.
func (v *reviewer) lessSoda(taste float64) *Fix {
	ln := v.r.Line(v.lineOf("baking-soda"))
	if ln == nil || ln.Unit != "tsp" && ln.Unit != "tbsp" || ln.Grams <= 0 {
		return nil
	}
	most := balance.SodaGrams(v.b.Acid) + taste/100*v.b.Base
	perTsp := ln.Grams / ln.Amount.Mid()
	if ln.Unit == "tbsp" {
		perTsp /= 3
	}
	tsp := math.Floor(8*most/perTsp) / 8
	if tsp < 0.125 || tsp*perTsp >= ln.Grams {
		return nil
	}
	text, _ := measure.Fraction(tsp)
	return &Fix{Words: "Make it " + text + " tsp", Amount: text, Unit: "tsp"}
}
