package sweet

import (
	"fmt"
	"math"

	"kollaris/core/fact"
	"kollaris/core/measure"
)

// Case is where a mix goes.
type Case struct {
	Use      Use
	Servings int     // 0 not known
	Water    float64 // g of water it dissolves in, 0 not known
	Food     float64 // g of the whole batter, 0 not known
}

// Effect is one thing that a mix does otherwise than what it stands for.
type Effect struct {
	ID     string
	State  State
	Words  string
	Source fact.Source
}

// The thresholds of what is felt. Sources at the effects below.
const (
	MostPolyols   = 15.0 // g a serving: above it many guts complain
	somePolyols   = 10.0
	coolFelt      = 50.0  // J/g of mix
	coolStrong    = 110.0 // J/g of mix
	grittyShare   = 1 / 3.0
	browningFast  = 1.4
	browningPale  = 0.5
	wakesYeast    = 2.0 // g
	excessPolyols = 0.10
)

// Effects tells what a mix does otherwise than what it stands for, in a case.
func Effects(was, now Mix, c Case) []Effect {
	a, b := was.Sum(), now.Sum()
	var out []Effect
	say := func(id string, state State, source fact.Source, format string, args ...any) {
		out = append(out, Effect{id, state, fmt.Sprintf(format, args...), source})
	}
	grams := func(x float64) string { return measure.Grams(x).String() }
	for _, p := range now {
		if f, ok := FitnessOf(c.Use, p.Of.ID); ok {
			say("use", f.State, f.Source, "%s: %s.", p.Of.Name, f.Say)
		}
	}
	if d := b.Water - a.Water; math.Abs(d) >= 3 {
		if d > 0 {
			say("water", Look, "calculated", "It brings %s more water: hold back as much liquid.", grams(d))
		} else {
			say("water", Look, "calculated", "It brings %s less water: add as much liquid.", grams(-d))
		}
	}
	if d := b.Acid - a.Acid; math.Abs(d) >= 1 {
		soda := math.Abs(d) * 84.007 / 1000
		if d > 0 {
			say("acid", Look, "calculated", "It brings %.1f meq of acid: %s g of soda would meet it, or leave it sharp.", d, measure.Digits(soda, 2))
		} else {
			say("acid", Look, "calculated", "%.1f meq of acid go with the old sweetener: %s g less soda, or a little lemon.", -d, measure.Digits(soda, 2))
		}
	}
	if a.Bulk > 0 && c.Use != Caramel {
		if share := b.Bulk / a.Bulk; share < 0.8 {
			say("bulk", Look, "practice", "Only %.0f %% of the bulk: closer, drier, done sooner; purée, yogurt or inulin can fill in.", 100*share)
		}
	}
	if a.Browns > 0 && c.Use != Icing && c.Use != Syrup {
		switch share := b.Browns / a.Browns; {
		case share > browningFast:
			say("browning", Look, "practice", "Browns about %.1f times as fast: set the oven 15 °C lower, or lay foil over it.", share)
		case share < browningPale:
			say("browning", Look, "practice", "Stays pale (%.0f %% of the browning): brush it with milk or egg, or go by the skewer, not the colour.", 100*share)
		}
	}
	gritty(say, b, c)
	if b.Grams > 0 {
		switch j := b.Cools / b.Grams; {
		case j > coolStrong:
			say("cooling", Look, "memory: heats of solution", "Cools the mouth clearly (%.0f J a gram dissolved; sugar 18).", j)
		case j > coolFelt:
			say("cooling", Fine, "memory: heats of solution", "Cools the mouth a little (%.0f J a gram dissolved; sugar 18).", j)
		}
	}
	if c.Use == Yeast && b.Feeds < wakesYeast && a.Feeds >= wakesYeast {
		say("yeast", Look, "practice", "Nothing here feeds yeast: leave 2 to 4 g of sugar, most of which it eats.")
	}
	if c.Servings > 0 && b.Polyols > 0 {
		switch each := b.Polyols / float64(c.Servings); {
		case each > MostPolyols*1.02: // no fault of rounding
			say("gut", Stop, "practice", "%s of sugar alcohols a serving: more than many guts take. Cut it smaller, or take less.", grams(each))
		case each > somePolyols:
			say("gut", Look, "practice", "%s of sugar alcohols a serving: enough to trouble some.", grams(each))
		}
	}
	if c.Food > 0 && b.Polyols > excessPolyols*c.Food {
		say("label", Look, "published: EU 1169/2011 annex III", "Over a tenth of the food is sugar alcohols: a pack would have to say “excessive consumption may produce laxative effects”.")
	}
	if b.Xylitol > 0 {
		say("dogs", Look, "practice", "Xylitol is deadly to dogs: no crumb for them, and the bag out of reach.")
	}
	if b.Intense > grittyShare && b.Bulk < 0.8*a.Bulk {
		say("taste", Look, "practice", "%.0f %% of the sweetness is extract with too little body: it lingers, and the crumb is missing something.", 100*b.Intense)
	}
	for _, p := range now {
		if t := TasteOf(p.Of.ID); !t.EU {
			say("eu", Look, "published: EU 2015/2283 and 1333/2008, as far as known in 2025", "%s is not authorised in the EU.", p.Of.Name)
		}
	}
	return out
}

// gritty warns of what comes out of solution as the bake cools.
func gritty(say func(string, State, fact.Source, string, ...any), b Sum, c Case) {
	if b.Erythritol <= 0 || c.Use == Caramel {
		return
	}
	water := c.Water + b.Water
	switch {
	case c.Water <= 0 && b.Erythritol > 0.5*b.Grams:
		say("crystals", Look, "practice", "Erythritol turns gritty as it cools beyond a third of the water's weight: %.0f g want %.0f g of water.", b.Erythritol, b.Erythritol/grittyShare)
	case c.Water > 0 && b.Erythritol > water*grittyShare:
		state := Look
		if c.Use == Syrup {
			state = Stop
		}
		say("crystals", state, "practice", "%.0f g of erythritol in %.0f g of water: gritty as it cools, since a third of the water's weight stays dissolved; %.0f g would.", b.Erythritol, water, water*grittyShare)
	}
}
