package method

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/fact"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// Verb is what is done: a row of data/verb.csv.
type Verb string

// The verbs, in about the order of a bake.
const (
	Weigh     Verb = "weigh"
	Soak      Verb = "soak"
	Simmer    Verb = "simmer"
	Bloom     Verb = "bloom"
	Gel       Verb = "gel"
	Sour      Verb = "sour"
	Drain     Verb = "drain"
	Squeeze   Verb = "squeeze"
	Toast     Verb = "toast"
	Soften    Verb = "soften"
	Melt      Verb = "melt"
	ChillFat  Verb = "chill-fat"
	Grate     Verb = "grate"
	Mash      Verb = "mash"
	Blend     Verb = "blend"
	Cut       Verb = "cut"
	Separate  Verb = "separate"
	Sift      Verb = "sift"
	RubIn     Verb = "rub-in"
	Cream     Verb = "cream"
	Beat      Verb = "beat"
	Foam      Verb = "foam"
	Fold      Verb = "fold"
	Mix       Verb = "mix"
	Knead     Verb = "knead"
	Rest      Verb = "rest"
	Prove     Verb = "prove"
	KnockBack Verb = "knock-back"
	Shape     Verb = "shape"
	Chill     Verb = "chill"
	Line      Verb = "line"
	Fill      Verb = "fill"
	Heat      Verb = "heat"
	BakeBlind Verb = "bake-blind"
	Bake      Verb = "bake"
	Brush     Verb = "brush"
	Top       Verb = "top"
	Tent      Verb = "tent"
	Turn      Verb = "turn"
	Test      Verb = "test"
	CoolTin   Verb = "cool-tin"
	Cool      Verb = "cool"
	Syrup     Verb = "syrup"
	Ice       Verb = "ice"
	Wrap      Verb = "wrap"
	Store     Verb = "store"
	Mature    Verb = "mature"
	Feed      Verb = "feed"
	Slice     Verb = "slice"
	Freeze    Verb = "freeze"
	Thaw      Verb = "thaw"
	Work      Verb = "work"   // what the lexicon does not know: hands guessed
	Remark    Verb = "remark" // nothing to do: the writer says how it should look, or more

)

// Place is where something is done or left.
type Place string

// The places.
const (
	Counter   Place = "counter"
	Hob       Place = "hob"
	InOven    Place = "oven"
	Warm      Place = "warm place"
	Fridge    Place = "fridge"
	Freezer   Place = "freezer"
	Microwave Place = "microwave"
)

// Usual is what the trade says of a verb.
type Usual struct {
	Verb   Verb
	Words  string         // in the infinitive: "rub in"
	Hands  recipe.Minutes // up to HandsG of what is worked on
	HandsG float64        // g; what is more takes longer; 0 for any amount
	Wait   recipe.Minutes // without hands, where nothing is written
	Where  Place
	Keeps  float64 // minutes that the result may stand, 0 for not at all
	Bound  bool    // what it makes does not wait
	Asks   string  // of what it works on: solid-fat, foamer, egg, gluten, dough, yeast or ""
	Props  Property
	Source fact.Source
}

// Property is what the trade says of a verb beside its times, as the column "is" of data/verb.csv has it.
type Property uint16

// The properties. Source: practice.
const (
	Mixes      Property = 1 << 0  // brings ingredients together
	Sideways   Property = 1 << 1  // waits without holding up the next task: it is done meanwhile
	Aside      Property = 1 << 2  // is prepared beside the batter, and meets it later
	Afterwards Property = 1 << 3  // is done when it has been eaten, or with what is left
	Harmless   Property = 1 << 4  // a few hours more do no harm
	Combines   Property = 1 << 5  // makes a batter that does not stand
	OtherBowl  Property = 1 << 6  // happens in a bowl or pan of its own
	Drains     Property = 1 << 7  // loses water on purpose
	Inside     Property = 1 << 8  // is done while it stands in the oven
	OnWarm     Property = 1 << 9  // is done while the bake is warm
	OfWhole    Property = 1 << 10 // works on all of a part, whatever its sentence names
	TakesUp    Property = 1 << 11 // works on what others have made
	Prepares   Property = 1 << 12 // makes something ready that goes in with everything
	MayCook    Property = 1 << 13 // may be what cooks in another device
)

var properties = map[string]Property{
	"mixes":      Mixes,
	"sideways":   Sideways,
	"aside":      Aside,
	"afterwards": Afterwards,
	"harmless":   Harmless,
	"combines":   Combines,
	"other-bowl": OtherBowl,
	"drains":     Drains,
	"inside":     Inside,
	"on-warm":    OnWarm,
	"of-whole":   OfWhole,
	"takes-up":   TakesUp,
	"prepares":   Prepares,
	"may-cook":   MayCook,
}

// Is reports whether a verb has a property.
func (v Verb) Is(p Property) bool { return usuals[v].Props&p != 0 }

// allOf are the verbs that have a property, in the order of the table.
func allOf(p Property) (out []Verb) {
	for _, v := range vocabulary {
		if v.Is(p) {
			out = append(out, v)
		}
	}
	return out
}

//go:embed data/verb.csv
var verbFile string

// usuals are the rows of data/verb.csv by verb.
var (
	vocabulary []Verb // in the order of the table
	usuals     = mustUsuals()
)

// Usuals returns what the trade says of a verb; ok is false for none of the vocabulary.
func Usuals(v Verb) (Usual, bool) {
	u, ok := usuals[v]
	return u, ok
}

// Verbs are the vocabulary, in about the order of a bake.
func Verbs() []Verb { return slices.Clone(vocabulary) }

func mustUsuals() map[Verb]Usual {
	rows, err := csv.NewReader(strings.NewReader(verbFile)).ReadAll()
	if err != nil {
		panic(fmt.Sprintf("method/data/verb.csv: %v", err))
	}
	out := map[Verb]Usual{}
	for n, row := range rows[1:] {
		number := func(col int) float64 {
			x, err := strconv.ParseFloat(row[col], 64)
			if err != nil {
				panic(fmt.Sprintf("method/data/verb.csv:%d: %s: %v", n+2, rows[0][col], err))
			}
			return x
		}
		place := Place(row[7])
		if row[7] == "warm" {
			place = Warm
		}
		var props Property
		for _, name := range strings.Fields(row[11]) {
			if properties[name] == 0 {
				panic(fmt.Sprintf("method/data/verb.csv:%d: is: %s is no property", n+2, name))
			}
			props |= properties[name]
		}
		vocabulary = append(vocabulary, Verb(row[0]))
		out[Verb(row[0])] = Usual{
			Verb: Verb(row[0]), Words: row[1], Hands: recipe.Minutes{Min: number(2), Max: number(3)}, HandsG: number(4),
			Wait: recipe.Minutes{Min: number(5), Max: number(6)}, Where: place, Keeps: number(8),
			Bound: row[9] == "yes", Asks: row[10], Props: props, Source: fact.Source(row[12]),
		}
	}
	for _, does := range append(en.Deeds(), en.Work) {
		if _, known := out[Verb(does)]; !known {
			panic(fmt.Sprintf("text/en/data/deed.csv: %s is no verb of method/data/verb.csv", does))
		}
	}
	return out
}

// verbOf names what a clause does, which may begin a sentence; ok is false where it says nothing to do.
func verbOf(clause string, starts bool) (Verb, bool) {
	does, ok := en.DeedOf(clause, starts)
	return Verb(does), ok
}
