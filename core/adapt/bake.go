package adapt

import (
	"cmp"
	"context"
	"fmt"
	"regexp"
	"time"

	"kollaris/core/heat"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/sweet"
	"kollaris/core/tin"
)

// knownBake is what the written recipe says of its bake, with what is usual for
// its kind where it says nothing.
func knownBake(written *recipe.Recipe, l *larder.Larder) oven.Baking {
	b := oven.Baking{Kind: written.Kind, Oven: written.Oven, Minutes: written.Bake.Mid(), Tin: usualTin(written)}
	at := 0.0
	for n, s := range written.Stages {
		if n == 0 {
			b.Oven = max(s.Oven, written.Oven)
		} else if s.Oven > 0 {
			b.Setup.Stages = append(b.Setup.Stages, oven.Stage{After: at, Oven: s.Oven})
		}
		at += s.Minutes.Mid()
	}
	if b.Oven == 0 {
		b.Oven = usualOven(written.Kind)
	}
	return weighed(b, written, l)
}

// weighed puts a recipe's batter into a bake.
func weighed(b oven.Baking, r *recipe.Recipe, l *larder.Larder) oven.Baking {
	b.Mass, b.Food, b.Colour, b.Pieces = batterMass(r), foodOf(r, l), colourOf(r, l), 0
	if b.Tin.Shape == tin.Free {
		b.Pieces = pieces(r)
	}
	return b
}

// foodOf is the composition of a batter, zero where less than three quarters of its
// weight is known.
func foodOf(r *recipe.Recipe, l *larder.Larder) heat.Food {
	var f larder.Facts
	grams, all := 0.0, 0.0
	for _, ln := range r.Batter() {
		all += ln.Grams
		if i := l.Get(ln.Ingredient); i != nil && ln.Grams > 0 {
			grams += ln.Grams
			for _, c := range []larder.Column{larder.Water, larder.Protein, larder.Fat, larder.Fibre, larder.Ash} {
				f[c] += i.Facts.Or(c, 0) * ln.Grams / 100
			}
		}
	}
	if grams <= 0 || grams < 0.75*all {
		return heat.Food{}
	}
	return heat.Food{Water: f[larder.Water] / grams, Protein: f[larder.Protein] / grams, Fat: f[larder.Fat] / grams, Fibre: f[larder.Fibre] / grams, Ash: f[larder.Ash] / grams}
}

// colourOf is how readily a batter browns against an ordinary sweet one: its sugars by
// how they brown, its protein twice and a little for starch. Source: memory, a working
// value; the sugars' are the table of sweeteners.
func colourOf(r *recipe.Recipe, l *larder.Larder) float64 {
	const ordinary = 0.38 // the demo's pear loaf
	grams, browns := 0.0, 0.0
	for _, ln := range r.Batter() {
		i := l.Get(ln.Ingredient)
		if i == nil || ln.Grams <= 0 {
			continue
		}
		grams += ln.Grams
		x := 2*i.Facts.Or(larder.Protein, 0) + 0.15*i.Facts.Or(larder.Starch, 0)
		for _, s := range sweet.Substances() {
			x += s.Browns * i.Facts.Or(s.Column, 0)
		}
		browns += x * ln.Grams / 100
	}
	if grams <= 0 {
		return 1
	}
	return max(0.1, min(3, browns/grams/ordinary)) // what has no sugar at all still browns a little [memory]
}

// inPieces are the words of breads that are shaped one a person.
var inPieces = regexp.MustCompile(`(?i)\b(?:rolls?|buns?|baps?|bagels?|knots|sticks|pittas?)\b`)

// pieces is how many shaped pieces a recipe makes, 0 where that cannot be told: scones
// and biscuits are counted by serving, a bread is one loaf unless it says otherwise.
func pieces(r *recipe.Recipe) int {
	switch r.Kind {
	case recipe.SodaBread, recipe.LeanBread, recipe.RichBread:
		if inPieces.MatchString(r.Title) {
			return r.Servings
		}
		return 1
	case recipe.Scone, recipe.Biscuit, recipe.Flatbread:
		return r.Servings
	}
	return 0
}

// bakes gives the written bake and the one that is asked for: of a recipe as adapted, in
// the tin and the oven of the request.
func bakes(written, adapted *recipe.Recipe, req Request, l *larder.Larder) (known, now oven.Baking) {
	known = knownBake(written, l)
	now = known
	if asked, ok := tin.Parse(req.Tin); ok {
		now.Tin = asked
	}
	now = weighed(now, adapted, l)
	now.Minutes = 0
	if req.Oven.Setup.Flame || written.Kind == recipe.OneBowl && written.Oven == 0 {
		known.Minutes = 0 // a time in another kind of heat says nothing here
	}
	return known, req.Oven.Apply(now)
}

// In foretells the bake in as many of another tin as its batter fills, by the coarse
// model.
func (r *Result) In(t tin.Tin) (oven.Estimate, error) {
	now := r.now
	now.Tin = oven.SetOf(now.Kind, now.Mass, t)
	return oven.Glance(r.known, now)
}

// bake foretells the time: fitted to the written bake, in the tin and oven asked for.
func (r *run) bake(written *recipe.Recipe) {
	rec := r.result.Recipe
	known, now := bakes(written, rec, r.req, r.Larder)
	if known.Mass <= 0 || now.Mass <= 0 {
		r.result.BakeProblem = "No weight is known, so no time can be foretold."
		return
	}
	if written.Kind == recipe.OneBowl && written.Oven == 0 && !now.Setup.Flame && r.req.Oven.At == 0 {
		r.result.Microwave = &Microwave{Mass: now.Mass, Watts: cmp.Or(r.req.Oven.Watts, 900)}
		r.result.BakeProblem = microwaveWords(now.Mass, r.req.Oven.Watts)
		if b := written.Bake; b.Max > b.Min {
			r.result.BakeProblem = fmt.Sprintf("Written: %s to %s min. ", measure.Digits(b.Min, 3), measure.Digits(b.Max, 3)) + r.result.BakeProblem
		} else if b.Max > 0 {
			r.result.BakeProblem = fmt.Sprintf("Written: %s min. ", measure.Digits(b.Max, 3)) + r.result.BakeProblem
		}
		return
	}
	if r.req.Tin != "" {
		rec.Tins = []tin.Tin{now.Tin}
	}
	lower, cooler := measure.Celsius(0), ""
	for _, g := range r.groups {
		if s := g.chosen.School; s != nil && !g.topping && r.result.Refused == nil && measure.Celsius(s.Oven) < lower {
			lower, cooler = measure.Celsius(s.Oven), s.Title
		}
	}
	if r.req.Oven.At == 0 {
		now = now.Cooler(-lower)
	}
	e, err := oven.Foretell(known, now)
	if err != nil {
		r.result.BakeProblem = r.Kitchen.Say(fmt.Sprintf("No time can be foretold: %v.", err))
		return
	}
	if cooler != "" && r.req.Oven.At == 0 {
		e.Why += fmt.Sprintf(" The oven is set %s lower: %s browns sooner than it is done.", r.Kitchen.Warmer(-lower), cooler)
	}
	if now.Setup.Fan && r.req.Oven.At == 0 {
		e.Why += fmt.Sprintf(" A fan oven is set %s lower.", r.Kitchen.Warmer(oven.FanLower))
	}
	if len(written.Tins) == 0 && r.req.Tin == "" {
		e.Why += fmt.Sprintf(" No tin is named, so %s is assumed.", now.Tin.Words())
	}
	if written.Oven == 0 && r.req.Oven.At == 0 {
		e.Why += fmt.Sprintf(" No oven heat is named, so %s is assumed.", r.Kitchen.OvenText(known.Oven))
	}
	r.result.Bake, r.result.known, r.result.now = &e, known, now
}

// Simulate follows the bake of a result minute by minute; nil where it has none.
func (r *Result) Simulate(ctx context.Context) (*oven.Simulation, error) {
	if r.Bake == nil {
		return nil, nil
	}
	return oven.Simulate(ctx, r.known, r.now)
}

// Microwave is a one-bowl cake's time by power, instead of a bake.
type Microwave struct {
	Mass  measure.Grams `json:"mass_g"`
	Watts float64       `json:"watts"`
}

// Done is when it is likely done.
func (m Microwave) Done() time.Duration { return oven.Microwave(m.Mass, m.Watts) }

// FirstLook is three quarters of that. Source: common practice.
func (m Microwave) FirstLook() time.Duration { return (m.Done() * 3 / 4).Round(5 * time.Second) }

// Clock writes a short time: "5 min 10 s".
func Clock(d time.Duration) string {
	return fmt.Sprintf("%d min %02d s", int(d.Minutes()), int(d.Seconds())%60)
}

// microwaveWords gives the time of a one-bowl cake at a power, or at common ones.
func microwaveWords(mass measure.Grams, watts float64) string {
	say := func(watts float64) string {
		return fmt.Sprintf("%s at %.0f W", Clock(oven.Microwave(mass, watts)), watts)
	}
	times := say(900) + ", " + say(700)
	if watts > 0 {
		times = say(watts)
	}
	return fmt.Sprintf("In the microwave the time goes with weight and power: %s of batter take about %s. Look after three quarters of it, and let it stand as long again as it took. No metal in it; the maker's manual decides.", mass, times)
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
	case recipe.AllInCake, recipe.CreamedCake, recipe.FruitCake, recipe.OneBowl:
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
