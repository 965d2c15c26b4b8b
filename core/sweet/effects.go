package sweet

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/measure"
)

// Case is where a mix goes.
type Case struct {
	Use      Use
	Servings int     // 0 not known
	Water    float64 // g of water it dissolves in, 0 not known
	Food     float64 // g of the whole batter, 0 not known
	Brush    string  // what may be brushed on it, as Brush says; "" is milk or egg
}

// Brush is what browns a top that a demand lets in: milk or egg, one of them, or a drink with syrup. Source: practice.
func Brush(d diet.Demand, l *larder.Larder) string {
	may := func(id larder.ID) bool {
		i := l.Get(id)
		if i == nil {
			return false
		}
		v, _ := d.Judge(i)
		return v != diet.Breaks
	}
	switch milk, egg := may("milk"), may("egg"); {
	case milk && egg:
		return usualBrush
	case milk:
		return "milk"
	case egg:
		return "egg"
	}
	return "plant drink and a little syrup"
}

const usualBrush = "milk or egg"

// Brushed puts what may be brushed on in place of milk and egg, and leaves out milk powder where milk may not be.
func Brushed(words, brush string) string {
	if brush == "" || brush == usualBrush {
		return words
	}
	if brush != "milk" {
		words = strings.ReplaceAll(words, ", or a spoon of milk powder", "")
	}
	return strings.ReplaceAll(words, usualBrush, brush)
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

// effects collects what a mix does otherwise than what it stands for.
type effects struct {
	now  Mix
	a, b Sum // before and after
	c    Case
	out  []Effect
}

// Effects tells what a mix does otherwise than what it stands for, in a case.
func Effects(was, now Mix, c Case) []Effect {
	e := effects{now: now, a: was.Sum(), b: now.Sum(), c: c}
	e.use()
	e.water()
	e.bulk()
	e.browning()
	e.gritty()
	e.cooling()
	e.yeast()
	e.gut()
	e.pets()
	e.taste()
	e.law()
	return e.out
}

func (e *effects) say(id string, state State, source fact.Source, format string, args ...any) {
	e.out = append(e.out, Effect{id, state, fmt.Sprintf(format, args...), source})
}

func (e *effects) use() {
	for _, p := range e.now {
		if f, ok := FitnessOf(e.c.Use, p.Of.ID); ok {
			e.say("use", f.State, f.Source, "%s: %s.", p.Of.Name, f.Say)
		}
	}
}

// water is the water and the acid that it brings or takes.
func (e *effects) water() {
	if d := e.b.Water - e.a.Water; d >= 3 {
		e.say("water", Look, "calculated", "It brings %s more water: hold back as much liquid.", measure.Grams(d))
	} else if d <= -3 {
		e.say("water", Look, "calculated", "It brings %s less water: add as much liquid.", measure.Grams(-d))
	}
	d := e.b.Acid - e.a.Acid
	soda := measure.Digits(math.Abs(d)*84.007/1000, 2)
	if d >= 1 {
		e.say("acid", Look, "calculated",
			"It brings %.1f meq of acid: %s g of soda would meet it, or leave it sharp.", d, soda)
	} else if d <= -1 {
		e.say("acid", Look, "calculated",
			"%.1f meq of acid go with the old sweetener: %s g less soda, or a little lemon.", -d, soda)
	}
}

func (e *effects) bulk() {
	if e.a.Bulk <= 0 || e.c.Use == Caramel {
		return
	}
	if share := e.b.Bulk / e.a.Bulk; share < 0.8 {
		e.say("bulk", Look, "practice",
			"Only %.0f %% of the bulk: closer, drier, done sooner; purée, yogurt or inulin can fill in.", 100*share)
	}
}

func (e *effects) browning() {
	if e.a.Browns <= 0 || e.c.Use == Icing || e.c.Use == Syrup {
		return
	}
	switch share := e.b.Browns / e.a.Browns; {
	case share > browningFast:
		e.say("browning", Look, "practice",
			"Browns about %.1f times as fast: set the oven 15 °C lower, or lay foil over it.", share)
	case share < browningPale:
		e.say("browning", Look, "practice",
			"Stays pale (%.0f %% of the browning): brush it with %s, or go by the skewer, not the colour.", 100*share, cmp.Or(e.c.Brush, usualBrush))
	}
}

func (e *effects) cooling() {
	if e.b.Grams <= 0 {
		return
	}
	switch j := e.b.Cools / e.b.Grams; {
	case j > coolStrong:
		e.say("cooling", Look, "memory: heats of solution",
			"Cools the mouth clearly (%.0f J a gram dissolved; sugar 18).", j)
	case j > coolFelt:
		e.say("cooling", Fine, "memory: heats of solution",
			"Cools the mouth a little (%.0f J a gram dissolved; sugar 18).", j)
	}
}

func (e *effects) yeast() {
	if e.c.Use == Yeast && e.b.Feeds < wakesYeast && e.a.Feeds >= wakesYeast {
		e.say("yeast", Look, "practice", "Nothing here feeds yeast: leave 2 to 4 g of sugar, most of which it eats.")
	}
}

// gut is the sugar alcohol of a serving, and what a pack would have to say of the whole.
func (e *effects) gut() {
	if e.c.Servings > 0 && e.b.Polyols > 0 {
		switch each := e.b.Polyols / float64(e.c.Servings); {
		case each > MostPolyols*1.02: // no fault of rounding
			e.say("gut", Stop, "practice",
				"%s of sugar alcohols a serving: more than many guts take. Cut it smaller, or take less.", measure.Grams(each))
		case each > somePolyols:
			e.say("gut", Look, "practice",
				"%s of sugar alcohols a serving: enough to trouble some.", measure.Grams(each))
		}
	}
	if e.c.Food > 0 && e.b.Polyols > excessPolyols*e.c.Food {
		e.say("label", Look, "published: EU 1169/2011 annex III", "Over a tenth of the food is sugar alcohols: "+
			"a pack would have to say “excessive consumption may produce laxative effects”.")
	}
}

func (e *effects) pets() {
	if e.b.Xylitol > 0 {
		e.say("dogs", Look, "practice", "Xylitol is deadly to dogs: no crumb for them, and the bag out of reach.")
	}
}

func (e *effects) taste() {
	if e.b.Intense > grittyShare && e.b.Bulk < 0.8*e.a.Bulk {
		e.say("taste", Look, "practice", "%.0f %% of the sweetness is extract with too little body: "+
			"it lingers, and the crumb is missing something.", 100*e.b.Intense)
	}
}

func (e *effects) law() {
	for _, p := range e.now {
		if t := TasteOf(p.Of.ID); !t.EU {
			e.say("eu", Look, "published: EU 2015/2283 and 1333/2008, as far as known in 2025",
				"%s is not authorised in the EU.", p.Of.Name)
		}
	}
}

// gritty warns of what comes out of solution as the bake cools.
func (e *effects) gritty() {
	if e.b.Erythritol <= 0 || e.c.Use == Caramel {
		return
	}
	water := e.c.Water + e.b.Water
	switch {
	case e.c.Water <= 0 && e.b.Erythritol > 0.5*e.b.Grams:
		e.say("crystals", Look, "practice",
			"Erythritol turns gritty as it cools beyond a third of the water's weight: %.0f g want %.0f g of water.",
			e.b.Erythritol, e.b.Erythritol/grittyShare)
	case e.c.Water > 0 && e.b.Erythritol > 1.03*water*grittyShare: // no fault of rounding
		state := Look
		if e.c.Use == Syrup {
			state = Stop
		}
		e.say("crystals", state, "practice", "%.0f g of erythritol in %.0f g of water: gritty as it cools, "+
			"since a third of the water's weight stays dissolved; %.0f g would.", e.b.Erythritol, water, water*grittyShare)
	}
}
