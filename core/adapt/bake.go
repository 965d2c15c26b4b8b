package adapt

import (
	"fmt"
	"time"

	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// knownBake is what the written recipe says of its bake, with what is usual for
// its kind where it says nothing.
func knownBake(written *recipe.Recipe) oven.Baking {
	known := oven.Baking{Kind: written.Kind, Mass: batterMass(written), Oven: written.Oven, Minutes: written.Bake.Mid(), Tin: usualTin(written)}
	if known.Oven == 0 {
		known.Oven = usualOven(written.Kind)
	}
	return known
}

// BakeIn foretells an adapted recipe in another tin, fitted to the written bake.
func BakeIn(written, adapted *recipe.Recipe, t tin.Tin) (oven.Estimate, error) {
	known := knownBake(written)
	return oven.Foretell(known, batterMass(adapted), t, known.Oven)
}

// bake foretells the time: fitted to the written bake, in the tin asked for.
func (r *run) bake(written *recipe.Recipe) {
	rec := r.result.Recipe
	known := knownBake(written)
	if known.Mass <= 0 || batterMass(rec) <= 0 {
		r.result.BakeProblem = "No weight is known, so no time can be foretold."
		return
	}
	if written.Kind == recipe.OneBowl && written.Oven == 0 {
		r.result.BakeProblem = microwaveWords(batterMass(rec))
		if written.Bake.Max > 0 {
			r.result.BakeProblem = fmt.Sprintf("Written: %s to %s min. ", measure.Digits(written.Bake.Min, 3), measure.Digits(written.Bake.Max, 3)) + r.result.BakeProblem
		}
		return
	}
	t := known.Tin
	if asked, ok := tin.Parse(r.req.Tin); ok {
		t = asked
		rec.Tins = []tin.Tin{asked}
	}
	at, cooler := known.Oven, ""
	for _, g := range r.groups {
		if s := g.chosen.School; s != nil && !g.topping && r.result.Refused == nil && known.Oven+measure.Celsius(s.Oven) < at {
			at = known.Oven + measure.Celsius(s.Oven)
			cooler = s.Title
		}
	}
	e, err := oven.Foretell(known, batterMass(rec), t, at)
	if err == nil && cooler != "" {
		e.Why += fmt.Sprintf(" The oven is set %.0f °C lower: %s browns sooner than it is done.", float64(known.Oven-at), cooler)
	}
	if err != nil {
		r.result.BakeProblem = fmt.Sprintf("No time can be foretold: at %s the middle never gets done.", r.Kitchen.OvenText(known.Oven))
		return
	}
	if len(written.Tins) == 0 && r.req.Tin == "" {
		e.Why += fmt.Sprintf(" No tin is named, so %s is assumed.", t.Words())
	}
	if written.Oven == 0 {
		e.Why += fmt.Sprintf(" No oven heat is named, so %s is assumed.", r.Kitchen.OvenText(known.Oven))
	}
	r.result.Bake = &e
}

// microwaveWords gives the time of a one-bowl cake at common powers.
func microwaveWords(mass measure.Grams) string {
	say := func(d time.Duration) string {
		return fmt.Sprintf("%d min %02d s", int(d.Minutes()), int(d.Seconds())%60)
	}
	return fmt.Sprintf("In the microwave the time goes with weight and power: %s of batter take about %s at 900 W, %s at 700 W. Look after three quarters of it, and let it stand as long again as it took. In a lidded pan on the flame no time can be foretold: look from half an hour on.",
		mass, say(oven.Microwave(mass, 900)), say(oven.Microwave(mass, 700)))
}

func batterMass(r *recipe.Recipe) measure.Grams {
	sum := 0.0
	for _, l := range r.Batter() {
		sum += l.Grams
	}
	return measure.Grams(sum)
}

// usualTin is the written tin, or what the kind is usually baked in [practice].
func usualTin(r *recipe.Recipe) tin.Tin {
	if len(r.Tins) > 0 {
		return r.Tins[0]
	}
	name := "loaf 9x5 in"
	switch r.Kind {
	case recipe.Scone, recipe.Biscuit, recipe.SodaBread, recipe.RichBread:
		name = "baking sheet"
	case recipe.AllInCake, recipe.CreamedCake, recipe.FruitCake:
		name = "round 20 cm"
	}
	t, _ := tin.Parse(name)
	return t
}

// usualOven is the heat a kind is usually baked at [practice].
func usualOven(k recipe.Kind) measure.Celsius {
	switch k {
	case recipe.Scone, recipe.SodaBread, recipe.LeanBread:
		return 210
	case recipe.FruitCake:
		return 150
	case recipe.RichBread:
		return 190
	}
	return 175
}
