package recipe

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/fact"
	"kollaris/core/measure"
)

// Trade is what the trade says of a kind of bake: a row of data/kind.csv.
type Trade struct {
	ID        Kind
	Words     string             // of the application
	Like      Kind               // whose proportions and ways of replacing it shares; itself for most
	Yeast     bool               // raised by yeast
	Density   float64            // g/ml of the batter
	Expansion float64            // baked volume over batter volume
	Done      measure.Celsius    // at the centre
	Thick     float64            // cm of a shaped piece when baked
	Across    float64            // cm of a shaped piece
	Loss      float64            // share of the weight that is lost in the oven
	Oven      measure.Celsius    // the usual heat
	Ovens     [2]measure.Celsius // between which a heat is usual; zero where that is not known
	Tin       string             // the usual one, by name
	Pieces    string             // "each": a serving is a piece; "loaf": one, unless the title says rolls; "": of a tin
	Upright   bool               // pieces are cut out, not shaped round
	Stands    string             // how the batter stands before it goes in: a word of bake.Batters or bake.Doughs
	Dough     bool               // it is a dough
	Cools     string             // "small" fast, "dense" slowly, "" by tin and flour
	Moist     bool               // little sugar lets it spoil sooner
	KeepsAs   string             // what it is kept as
	Room      [2]int             // days, from and to
	Fridge    [2]int
	Freezer   [2]int
	Best      [2]int // days after the bake
	Thaw      string
	Refresh   string
	Keeping   fact.Source // of the days
	Source    fact.Source
}

//go:embed data/kind.csv
var kindFile string

// Kinds are the kinds of bake in the order in which they are shown.
var Kinds = mustKinds(readKinds(kindFile))

func mustKinds(out []Trade, err error) []Trade {
	if err != nil {
		panic(err)
	}
	return out
}

// readKinds reads the table of kinds. Errors name file, line and column.
func readKinds(file string) (out []Trade, err error) {
	rows, err := csv.NewReader(strings.NewReader(file)).ReadAll()
	if err != nil {
		return nil, fmt.Errorf("recipe/data/kind.csv: %w", err)
	}
	head := rows[0]
	for n, row := range rows[1:] {
		at := func(name string) string { return row[slices.Index(head, name)] }
		number := func(name string) float64 {
			if at(name) == "" {
				return 0
			}
			x, bad := strconv.ParseFloat(at(name), 64)
			if bad != nil || x < 0 {
				err = fmt.Errorf("recipe/data/kind.csv:%d: %s: %q is no figure", n+2, name, at(name))
			}
			return x
		}
		yes := func(name string) bool { return at(name) == "yes" }
		days := func(name string) [2]int { return [2]int{int(number(name + "_min")), int(number(name + "_max"))} }
		k := Trade{
			ID: Kind(at("kind")), Words: at("words"), Like: Kind(at("like")), Yeast: yes("yeast"), Density: number("density"),
			Expansion: number("expansion"), Done: measure.Celsius(number("done")), Thick: number("thick"), Across: number("across"),
			Loss: number("loss"), Oven: measure.Celsius(number("oven")),
			Ovens: [2]measure.Celsius{measure.Celsius(number("oven_min")), measure.Celsius(number("oven_max"))},
			Tin:   at("tin"), Pieces: at("pieces"), Upright: yes("upright"), Stands: at("stands"), Dough: yes("dough"), Cools: at("cools"),
			Moist: yes("moist"), KeepsAs: at("keeps_as"), Room: days("room"), Fridge: days("fridge"), Freezer: days("freezer"), Best: days("best"),
			Thaw: at("thaw"), Refresh: at("refresh"), Keeping: fact.Source(at("keep_source")), Source: fact.Source(at("source")),
		}
		if k.Like == "" {
			k.Like = k.ID
		}
		for _, s := range []fact.Source{k.Keeping, k.Source} {
			if bad := s.Check(); bad != nil {
				err = fmt.Errorf("recipe/data/kind.csv:%d: %w", n+2, bad)
			}
		}
		if err != nil {
			return nil, err
		}
		out = append(out, k)
	}
	return out, nil
}

// trades are the kinds by their id.
var trades = func() map[Kind]*Trade {
	out := map[Kind]*Trade{}
	for n := range Kinds {
		out[Kinds[n].ID] = &Kinds[n]
	}
	return out
}()

// Trade is what the trade says of a kind; of one that is not settled what it says of a quick bread.
func (k Kind) Trade() Trade {
	if t := trades[k]; t != nil {
		return *t
	}
	return *trades[QuickBread]
}

// Like is the kind whose proportions and ways of replacing a kind shares where it has none of its own; most are their own. Source: practice.
func (k Kind) Like() Kind {
	if t := trades[k]; t != nil {
		return t.Like
	}
	return k
}

// Words gives the kind as the application prints it.
func (k Kind) Words() string {
	if t := trades[k]; t != nil {
		return t.Words
	}
	return "not settled"
}

// Yeasted reports whether the kind is raised by yeast.
func (k Kind) Yeasted() bool { return trades[k] != nil && trades[k].Yeast }

// Known reports whether k is one of the kinds.
func (k Kind) Known() bool { return trades[k] != nil }
