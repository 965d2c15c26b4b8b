// Package step holds what a way of replacing something changes in a method, as values: what is done, with what, into what, where it
// stands in the method and how long it takes. The schools (package swap) write them in their tables, the method (package method) carries
// them out. Neither goes by a step's text, which is only printed.
package step

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Op is what a step does. The method goes by it, and by the step's other fields, never by its text.
type Op uint8

// The ops.
const (
	_        Op = iota
	Tell        // it only says something
	Gel         // stirs what binds into water, until it has set
	Sour        // an acid into a drink
	Foam        // whips it to a foam, that is folded in last
	Whisk       // also beats
	Stir        // into each other
	Blend       // also grinds
	Boil        // also simmers
	AcidLast    // the soda among what is dry, the acid when all else is mixed
	AtOnce      // into the oven without a wait
	Rest        // of the batter or dough
	Chill       // of the same
	FillTin     // into the tin, otherwise than written
	Tent        // lays foil over it while it bakes
	Cool        // before it is cut
	CoolTin     // where it was baked
)

var opWords = []string{"", "tell", "gel", "sour", "foam", "whisk", "stir", "blend", "boil", "acid-last", "at-once", "rest", "chill", "fill", "tent", "cool", "cool-tin"}

// OfAnOven tells a step that makes no sense where no oven bakes.
func (o Op) OfAnOven() bool {
	return slices.Contains([]Op{AtOnce, FillTin, Tent, Cool, CoolTin}, o)
}

// Place is where a step stands in the method.
type Place uint8

// The places.
const (
	_          Place = iota
	AtStart          // before all else
	AtMix            // when what it makes is wanted
	AtLast           // when all else is mixed
	BeforeOven       // between the mixing and the oven
	AtEnd            // after the oven
	BesideStep       // at a written step that does what Beside says
)

var placeWords = []string{"", "start", "mix", "last", "before-oven", "end", "beside"}

// Besides is what a written step does that another stands beside.
type Besides uint8

// What they do.
const (
	_ Besides = iota
	BesideKnead
)

var besidesWords = []string{"", "knead"}

// UnmarshalText reads an op of the vocabulary, and refuses any other word.
func (o *Op) UnmarshalText(text []byte) error { return word(o, text, opWords) }

// UnmarshalText reads a place of the vocabulary, and refuses any other word.
func (p *Place) UnmarshalText(text []byte) error { return word(p, text, placeWords) }

// UnmarshalText reads what a step may stand beside, and refuses any other word.
func (b *Besides) UnmarshalText(text []byte) error { return word(b, text, besidesWords) }

// String is the op's word in the tables.
func (o Op) String() string { return opWords[o] }

// String is the place's word in the tables.
func (p Place) String() string { return placeWords[p] }

// String is the word in the tables.
func (b Besides) String() string { return besidesWords[b] }

// word is the value of a word of a vocabulary. The types are numbers, since the reader of the tables says the place of a fault only then.
func word[T ~uint8](to *T, text []byte, of []string) error {
	n := slices.Index(of, string(text))
	if n <= 0 {
		return fmt.Errorf("%q is none of %s", text, strings.Join(of[1:], ", "))
	}
	*to = T(n)
	return nil
}

// From is what a step takes where that is the written ingredient itself.
const From larder.ID = "from"

// Liquid is what a step goes into where that is all the liquid of the batter.
const Liquid larder.ID = "liquid"

// Holes of a step's text beside those of its parts.
const (
	WeightsHole = "weights" // the weights of what the step takes, in brackets
	LiquidHole  = "liquid"  // the liquid of the batter
)

// Step is a change of the method that a school asks for: what it does, with what, where it stands and how long it takes. Its text is only
// printed; holes in it are the school's parts ("{water}": their amount), {weights} and {liquid}.
type Step struct {
	Op       Op          `toml:"op"`
	Place    Place       `toml:"place"`
	Beside   Besides     `toml:"beside"`   // of place beside
	Of       []larder.ID `toml:"of"`       // parts of the school, or From
	Into     []larder.ID `toml:"into"`     // the same, or Liquid
	Wait     float64     `toml:"wait"`     // minutes that must be waited
	Until    string      `toml:"until"`    // the sign of the bake, of op cool
	AtOnce   bool        `toml:"at_once"`  // what it makes does not wait
	Unlisted []larder.ID `toml:"unlisted"` // foods that it names though no line lists them: what yeast eats up
	Only     []string    `toml:"only"`     // kinds of bake
	Text     string      `toml:"text"`
}

// InLiquid reports whether the step is done with all the liquid of the batter.
func (e *Step) InLiquid() bool { return slices.Contains(e.Into, Liquid) }

// Takes reports whether the step takes an ingredient that the school brings.
func (e *Step) Takes(id larder.ID) bool {
	return slices.Contains(e.Of, id) || slices.Contains(e.Into, id)
}

// In reports whether the step is for a kind of bake.
func (e *Step) In(k recipe.Kind) bool { return len(e.Only) == 0 || slices.Contains(e.Only, string(k)) }

// With gives the step with another ingredient in the place of one.
func (e Step) With(was, now larder.ID) Step {
	for _, ids := range []*[]larder.ID{&e.Of, &e.Into} {
		*ids = slices.Clone(*ids)
		for n, id := range *ids {
			if id == was {
				(*ids)[n] = now
			}
		}
	}
	e.Text = strings.ReplaceAll(e.Text, "{"+string(was)+"}", "{"+string(now)+"}")
	return e
}

// Check reports what is wrong with a step of a school that brings some parts.
func (e *Step) Check(parts []larder.ID, l *larder.Larder) (out []string) {
	fault := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	if e.Op == 0 || e.Place == 0 || e.Text == "" {
		fault("want op, place and text")
	}
	if (e.Place == BesideStep) != (e.Beside != 0) {
		fault("place %q beside %q", e.Place, e.Beside)
	}
	for _, id := range append(slices.Clone(e.Of), e.Into...) {
		if id != From && id != Liquid && !slices.Contains(parts, id) {
			fault("takes %q, which is no part", id)
		}
	}
	for _, id := range e.Unlisted {
		if l.Get(id) == nil {
			fault("names %q, which is not in the larder", id)
		}
	}
	works := slices.Contains([]Op{Gel, Sour, Foam, Blend, Boil, Stir, AcidLast}, e.Op)
	if works && len(e.Of) == 0 || e.Op == Tell && len(e.Of) > 0 {
		fault("op %q of %q", e.Op, e.Of)
	}
	if slices.Contains(e.Of, Liquid) || e.InLiquid() != slices.Contains(Holes(e.Text), LiquidHole) {
		fault("want into = [%q] and {%s} in the text, both or none", Liquid, LiquidHole)
	}
	if e.Until != "" && e.Op != Cool {
		fault("op %q until %q", e.Op, e.Until)
	}
	return out
}

// Holes are the names in braces of a text, in their order.
func Holes(s string) (out []string) {
	for {
		a := strings.IndexByte(s, '{')
		b := strings.IndexByte(s, '}')
		if a < 0 || b < a {
			return out
		}
		out = append(out, s[a+1:b])
		s = s[b+1:]
	}
}

// Fill puts values into the holes of a text: "{water}" becomes values["water"].
func Fill(text string, values map[string]string) string {
	for _, h := range Holes(text) {
		if v, ok := values[h]; ok {
			text = strings.ReplaceAll(text, "{"+h+"}", v)
		}
	}
	return text
}
