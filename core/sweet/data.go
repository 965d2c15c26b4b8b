package sweet

import (
	"embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"

	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

//go:embed data/*.csv
var files embed.FS

// load reads a table, whose first row names the columns, and makes a value of each
// other row. The tables are embedded and a test loads each, so a fault panics.
func load[T any](
	name string, columns string, of func(get func(string) string, number func(string) float64) T,
) func() []T {
	return sync.OnceValue(func() []T {
		f, err := files.Open("data/" + name + ".csv")
		if err != nil {
			panic("sweet: " + err.Error())
		}
		defer f.Close()
		rows, err := csv.NewReader(f).ReadAll()
		if err != nil || strings.Join(rows[0], ",") != columns {
			panic(fmt.Sprintf("sweet: %s: columns %q, want %q: %v", name, rows[0], columns, err))
		}
		var out []T
		for n, row := range rows[1:] {
			get := func(col string) string { return row[slices.Index(rows[0], col)] }
			number := func(col string) float64 {
				x, err := strconv.ParseFloat(get(col), 64)
				if err != nil {
					panic(fmt.Sprintf("sweet: %s: row %d: %s %q is no number", name, n+2, col, get(col)))
				}
				return x
			}
			if err := fact.Source(get("source")).Check(); err != nil {
				panic(fmt.Sprintf("sweet: %s: row %d: %v", name, n+2, err))
			}
			out = append(out, of(get, number))
		}
		return out
	})
}

// Substance is a pure substance that sweetens.
type Substance struct {
	Column    larder.Column
	Browns    float64 // g of sucrose that would brown as much as 1 g
	Feeds     float64 // share that yeast eats
	Cools     float64 // J/g taken up in dissolving
	Dissolves float64 // g in 100 g of water at 25 °C
	Source    fact.Source
}

// Substances are the pure substances with what they do.
var Substances = load(
	"substance", "column,browns,feeds,cools,dissolves,source",
	func(get func(string) string, number func(string) float64) Substance {
		at := slices.IndexFunc(larder.Columns[:], func(c larder.ColumnInfo) bool { return c.Name == get("column") })
		if at < 0 {
			panic("sweet: substance: no column " + get("column"))
		}
		return Substance{
			larder.Column(at), number("browns"), number("feeds"), number("cools"), number("dissolves"),
			fact.Source(get("source")),
		}
	},
)

// Taste is how near to sugar a thing that is sold tastes, and how it is used.
type Taste struct {
	ID     larder.ID
	Off    float64 // 0 as sugar to 3 lingering and bitter
	Most   float64 // of the weight of a mix, 0 to 1
	EU     bool    // authorised as food in the EU
	Note   string
	Source fact.Source
}

// Tastes are the sweeteners that a blend may be made of, sugar first.
var Tastes = load(
	"taste", "id,taste,most,eu,note,source",
	func(get func(string) string, number func(string) float64) Taste {
		return Taste{
			larder.ID(get("id")), number("taste"), number("most"), get("eu") == "yes", get("note"),
			fact.Source(get("source")),
		}
	},
)

// TasteOf finds the row of a sweetener; its zero says that nothing is known.
func TasteOf(id larder.ID) Taste {
	for _, t := range Tastes() {
		if t.ID == id {
			return t
		}
	}
	return Taste{ID: id, Most: 1, EU: true}
}

// Use is what is sweetened, as far as it matters to sweeteners.
type Use string

// The uses.
const (
	Batter  Use = "batter"
	Biscuit Use = "biscuit"
	Yeast   Use = "yeast"
	Icing   Use = "icing"
	Syrup   Use = "syrup"
	Caramel Use = "caramel"
)

// Uses lists the uses with their words.
var Uses = []struct {
	ID    Use
	Words string
}{{Batter, "cake or quick bread"}, {Biscuit, "biscuits"}, {Yeast, "yeast dough"}, {Icing, "icing or filling"}, {Syrup, "syrup or soak"}, {Caramel, "caramel"}}

// UseOf is the use of a kind of bake's batter.
func UseOf(k recipe.Kind) Use {
	switch k {
	case recipe.Biscuit:
		return Biscuit
	case recipe.LeanBread, recipe.RichBread:
		return Yeast
	}
	return Batter
}

// State says how much attention an effect asks.
type State string

// The states.
const (
	Fine State = "fine"
	Look State = "look"
	Stop State = "stop" // it will not work so
)

// Fitness is what a sweetener does in a use.
type Fitness struct {
	Use    Use
	ID     larder.ID
	State  State
	Say    string
	Source fact.Source
}

var fitnesses = load("use", "use,id,verdict,say,source", func(get func(string) string, _ func(string) float64) Fitness {
	return Fitness{Use(get("use")), larder.ID(get("id")), State(get("verdict")), get("say"), fact.Source(get("source"))}
})

// FitnessOf tells what a sweetener does in a use; false where nothing is said.
func FitnessOf(use Use, id larder.ID) (Fitness, bool) {
	for _, f := range fitnesses() {
		if f.Use == use && f.ID == id {
			return f, true
		}
	}
	return Fitness{}, false
}

// FruitState is one state of a fruit and how sweet it is then.
type FruitState struct {
	ID     larder.ID
	State  string
	Factor float64 // its sugars against the larder's row
	Say    string
	Source fact.Source
}

// Fruits are the fruits that sweeten, in their states.
var Fruits = load(
	"fruit", "id,state,factor,say,source",
	func(get func(string) string, number func(string) float64) FruitState {
		return FruitState{larder.ID(get("id")), get("state"), number("factor"), get("say"), fact.Source(get("source"))}
	},
)

// Step is what leaving out up to a share of the sugar does in a kind of bake.
type Step struct {
	Kinds                        []string
	UpTo                         float64 // share left out, 0 to 1
	State                        State
	Tender, Colour, Rises, Keeps string
	Source                       fact.Source
}

var steps = load(
	"cut", "kinds,upto,state,tender,colour,rises,keeps,source",
	func(get func(string) string, number func(string) float64) Step {
		return Step{
			strings.Fields(get("kinds")), number("upto"), State(get("state")), get("tender"), get("colour"),
			get("rises"), get("keeps"), fact.Source(get("source")),
		}
	},
)

// Steps are the steps of leaving sugar out of a kind of bake, the least first.
// Topping is a kind of its own here.
func Steps(kind string) []Step {
	var out []Step
	for _, s := range steps() {
		if slices.Contains(s.Kinds, kind) {
			out = append(out, s)
		}
	}
	return out
}

// StepAt is the step that a share left out falls into; false for none left out.
func StepAt(kind string, share float64) (Step, bool) {
	if share <= 0 {
		return Step{}, false
	}
	for _, s := range Steps(kind) {
		if share <= s.UpTo+1e-9 {
			return s, true
		}
	}
	return Step{}, false
}
