// Package structure judges what holds a bake up: gluten, egg, gelled starch, husk and gum,
// foam, curd. Every kind of bake needs so much of it; what a recipe as written has is known
// to work, so an adapted one is held against the lesser of the two.
//
// Data: data/carrier.csv says what each carrier gives, for 100 g of what counts as flour;
// data/need.csv how much each kind needs and how far each carrier counts in it;
// data/instead.csv what was held up by what went, and which bake does without it. All are
// common practice: working values, calibrated on recipes that come out.
package structure

import (
	"cmp"
	_ "embed"
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

//go:embed data/carrier.csv
var carrierCSV string

//go:embed data/need.csv
var needCSV string

//go:embed data/instead.csv
var insteadCSV string

// Carrier is one thing that holds a bake up.
type Carrier struct {
	ID     string
	Words  string
	Of     string      // fact:NAME, or id: and ingredients
	Per    float64     // grams of it, for 100 g of flour,
	Gives  float64     // that give so much
	Cap    float64     // and no more however much there is
	Source fact.Source // of the figures
}

// Need is what a kind of bake needs.
type Need struct {
	Kind   recipe.Kind
	Need   float64
	Counts map[string]float64 // how far a carrier counts, 1 where not named
	Must   map[string]float64 // share of what was there that cannot be missing
	Source fact.Source

	floured bool // what was written has flour in it
}

// Instead says what held a kind of bake up, and which bake does without it.
type Instead struct {
	Kind   recipe.Kind // "" for any
	Gone   string      // egg, flour or sugar
	Did    string
	Words  string
	Source fact.Source
}

type tables struct {
	carriers []Carrier
	needs    map[recipe.Kind]Need
	instead  []Instead
}

var data = sync.OnceValue(func() tables {
	t, err := load(carrierCSV, needCSV, insteadCSV)
	if err != nil {
		panic("structure: " + err.Error()) // own data: the tests load it
	}
	return t
})

func rows(name, text string, fields int) ([][]string, error) {
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord = fields
	all, err := r.ReadAll()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	for n, row := range all[1:] {
		if err := fact.Source(row[fields-1]).Check(); err != nil {
			return nil, fmt.Errorf("%s:%d: %w", name, n+2, err)
		}
	}
	return all[1:], nil
}

// weights reads "egg:0.7 starch:0.8".
func weights(s string, known func(string) bool) (map[string]float64, error) {
	out := map[string]float64{}
	for _, f := range strings.Fields(s) {
		id, x, _ := strings.Cut(f, ":")
		v, err := strconv.ParseFloat(x, 64)
		if err != nil || !known(id) {
			return nil, fmt.Errorf("%q is no carrier with its weight", f)
		}
		out[id] = v
	}
	return out, nil
}

func load(carriers, needs, instead string) (tables, error) {
	t := tables{needs: map[recipe.Kind]Need{}}
	var wrong error // the first number that is none
	number := func(file string, n int, s string) float64 {
		x, err := strconv.ParseFloat(s, 64)
		if err != nil {
			wrong = cmp.Or(wrong, fmt.Errorf("%s:%d: %w", file, n+2, err))
		}
		return x
	}
	all, err := rows("carrier.csv", carriers, 7)
	if err != nil {
		return t, err
	}
	for n, r := range all {
		t.carriers = append(t.carriers, Carrier{
			r[0], r[1], r[2], number("carrier.csv", n, r[3]), number("carrier.csv", n, r[4]), number("carrier.csv", n, r[5]), fact.Source(r[6]),
		})
	}
	if wrong != nil {
		return t, wrong
	}
	known := func(id string) bool {
		return id == "sugar" || slices.ContainsFunc(t.carriers, func(c Carrier) bool { return c.ID == id })
	}
	if all, err = rows("need.csv", needs, 5); err != nil {
		return t, err
	}
	if err = t.need(all, number, known); err != nil {
		return t, err
	}
	if all, err = rows("instead.csv", instead, 5); err != nil {
		return t, err
	}
	for _, r := range all {
		t.instead = append(t.instead, Instead{recipe.Kind(r[0]), r[1], r[2], r[3], fact.Source(r[4])})
	}
	return t, wrong
}

// need reads the rows of need.csv.
func (t *tables) need(all [][]string, number func(string, int, string) float64, known func(string) bool) error {
	for n, r := range all {
		x := Need{Kind: recipe.Kind(r[0]), Need: number("need.csv", n, r[1]), Source: fact.Source(r[4])}
		if !x.Kind.Known() {
			return fmt.Errorf("need.csv:%d: %q is no kind", n+2, r[0])
		}
		for k, to := range []*map[string]float64{&x.Counts, &x.Must} {
			w, e := weights(r[2+k], known)
			if e != nil {
				return fmt.Errorf("need.csv:%d: %w", n+2, e)
			}
			*to = w
		}
		t.needs[x.Kind] = x
	}
	return nil
}

// Carriers lists what can hold a bake up.
func Carriers() []Carrier { return data().carriers }

// Needs lists what the kinds need, in the order of the kinds.
func Needs() []Need {
	var out []Need
	for _, k := range recipe.Kinds {
		if n, ok := data().needs[k.ID]; ok {
			out = append(out, n)
		}
	}
	return out
}

// grams is how much of a carrier's stuff 100 g of an ingredient hold.
func (c Carrier) grams(i *larder.Ingredient) float64 {
	f := func(x larder.Column) float64 { return math.Max(0, i.Facts.Or(x, 0)) }
	if ids, ok := strings.CutPrefix(c.Of, "id:"); ok {
		if slices.Contains(strings.Fields(ids), string(i.ID)) {
			return 100
		}
		if c.ID == "gum" && strings.HasSuffix(string(i.ID), "-gum") && i.IsBase() { // a blend with its gum in it
			return 0.6
		}
		return 0
	}
	switch strings.TrimPrefix(c.Of, "fact:") {
	case "gluten":
		return f(larder.Gluten)
	case "egg":
		return f(larder.EggProtein)
	case "starch":
		return f(larder.Starch)
	case "setting":
		if i.ID == "whey-protein" || i.ID == "casein" {
			return 0 // a carrier of its own
		}
		return math.Max(0, f(larder.SettingProtein)-f(larder.EggProtein))
	case "binding":
		if i.Shelf.Texture == "fruit" || i.Facts.Or(larder.Water, 0) > 60 && i.Origin != "egg" && i.ID != "aquafaba" {
			return f(larder.Binding)
		}
	}
	return 0
}

// Hold is how well a bake is held up.
type Hold struct {
	Kind   recipe.Kind        `json:"kind"`
	Need   float64            `json:"need"`    // the lesser of what the kind needs and what was written
	Before float64            `json:"written"` // of the recipe as written
	After  float64            `json:"now"`
	By     map[string]float64 `json:"by"`    // carriers of what it has become
	Was    map[string]float64 `json:"was"`   // and of what was written
	Lacks  string             `json:"lacks"` // what cannot be missing and is: a carrier, "sugar", or "no yolk"
}

// noYolk is what a white foam lacks that whole egg has come into, noHusk one that husk has: it drinks the foam's water.
const (
	noYolk = "no yolk"
	noHusk = "no husk"
)

// Shares of the need below which a bake is a trial, and below which it does not come out.
// Source: practice.
const (
	Trial = 0.6
	Never = 0.4
)

// Share is what it has of what it needs, 0 to 1 and more.
func (h Hold) Share() float64 {
	if h.Need <= 0 {
		return 1
	}
	return h.After / h.Need
}

// Fails reports whether it does not come out.
func (h Hold) Fails() bool { return h.Share() < Never || h.Lacks != "" }

// Other reports whether egg, which makes bakes of this kind what they are, is no longer what
// holds it: it may come out, as another one.
func (h Hold) Other() bool {
	switch h.Kind {
	case recipe.Sponge, recipe.WhiteFoam, recipe.Custard, recipe.Cheesecake, recipe.Choux:
		return h.Was["egg"] > 0 && h.By["egg"] < h.Was["egg"]/2
	}
	return false
}

// Doubtful reports whether it is a trial.
func (h Hold) Doubtful() bool { return h.Share() < Trial }

// Gone is what went that held it up most: egg, flour or sugar.
func (h Hold) Gone() string {
	switch h.Lacks {
	case "sugar":
		return "sugar"
	case noYolk:
		return "yolk"
	case noHusk:
		return "husk"
	}
	if h.Lacks == "starch" || h.Lacks == "gluten" {
		return "flour"
	}
	egg := h.Was["egg"] - h.By["egg"]
	flour := h.Was["gluten"] + h.Was["starch"] - h.By["gluten"] - h.By["starch"]
	if egg >= flour*0.5 && egg > 0 || h.Lacks != "" {
		return "egg"
	}
	return "flour"
}

// Words says how it is held, for a sentence: "egg protein 0.6, gelled starch 0.3".
func (h Hold) Words() string {
	var out []string
	for _, c := range Carriers() {
		if x := h.By[c.ID]; x >= 0.05 {
			out = append(out, fmt.Sprintf("%s %.2g", c.Words, x))
		}
	}
	if len(out) == 0 {
		return "nothing"
	}
	return strings.Join(out, ", ")
}

// InsteadOf is what a kind's egg, flour or sugar did, and what would come out instead.
func InsteadOf(k recipe.Kind, gone string) Instead {
	for _, of := range []recipe.Kind{k, ""} {
		for _, x := range data().instead {
			if x.Kind == of && x.Gone == gone {
				return x
			}
		}
	}
	return Instead{}
}

// flourless is the share of a batter's weight that stands for its flour where it holds
// less: custards, foams. Source: memory, a working value.
const flourless = 0.25

// Judge holds an adapted batter against the written one, both of the same batch.
func Judge(kind recipe.Kind, before, after []balance.Item) Hold {
	need := data().needs[kind]
	need.Kind = kind
	base, mass := 0.0, 0.0
	for _, it := range before {
		mass += it.Grams
		if it.Ingredient.IsBase() {
			base += it.Grams
		}
	}
	base = math.Max(base, flourless*mass)
	need.floured = flourOf(before) > 0.1*base
	h := Hold{Kind: kind}
	h.Was, h.Before = need.of(before, base)
	h.By, h.After = need.of(after, base)
	if kind == recipe.AllInCake && !need.floured {
		need.Need = math.Max(need.Need, foamed)
	}
	h.Need = math.Min(need.Need, h.Before)
	for id, share := range need.Must {
		was, now := stuff(before, id), stuff(after, id)
		if was > 0 && now < share*was {
			h.Lacks = id
		}
	}
	switch {
	case kind == recipe.WhiteFoam && yolks(after) > yolks(before)+5:
		h.Lacks = noYolk
	case kind == recipe.WhiteFoam && husk(after) > husk(before):
		h.Lacks = noHusk
	}
	return h
}

// of sums what carries a batter, each carrier as far as it counts.
func (n Need) of(items []balance.Item, base float64) (by map[string]float64, sum float64) {
	by = map[string]float64{}
	if base <= 0 {
		return by, 0
	}
	for _, c := range Carriers() {
		if c.Per <= 0 {
			continue
		}
		count, named := n.Counts[c.ID]
		if !named {
			count = 1
		}
		if c.ID == "foam" && n.Kind == recipe.WhiteFoam && n.floured || // it holds air, and no flour
			(c.ID == "foam" || c.ID == "protein") && n.Kind == recipe.AllInCake && !n.floured { // beside flour they help
			count *= helps
		}
		grams := 0.0
		for _, it := range items {
			if n.Kind == recipe.WhiteFoam && c.ID == "egg" && !isWhite(it.Ingredient) {
				continue
			}
			grams += it.Grams / 100 * c.grams(it.Ingredient)
		}
		if x := count * math.Min(c.Cap, grams/base*100/c.Per*c.Gives); x > 0 {
			by[c.ID] = x
			sum += x
		}
	}
	gels := by["psyllium"] + by["gum"] + by["seed"]
	if most := gelAlone + gelWithStarch*by["starch"]; gels > most { // a gel holds starch together: alone it sets nothing
		for _, id := range []string{"psyllium", "gum", "seed"} {
			by[id] *= most / gels
		}
		sum -= gels - most
	}
	return by, sum
}

// What gels carry by themselves, and beside gelled starch for each share of it. Source:
// practice: a husk loaf is starch and husk; nut meal and husk without egg make a brick.
const (
	gelAlone      = 0.2
	gelWithStarch = 2.0
)

// foamed is the need of a cake without flour, which the foam of its eggs carries. Source:
// practice, a working value.
const foamed = 0.9

// helps is how far a foam of aquafaba, or tofu, counts where there is nothing to help: flour
// in a white foam is more than aquafaba bears, and a cake without flour has nothing else to
// set it. Source: practice, a working value.
const helps = 0.4

// flourOf is what counts as flour, grams.
func flourOf(items []balance.Item) float64 {
	sum := 0.0
	for _, it := range items {
		if it.Ingredient.IsBase() && it.Ingredient.Family != larder.FamilyNutFlour {
			sum += it.Grams
		}
	}
	return sum
}

func isWhite(i *larder.Ingredient) bool { return strings.Contains(string(i.ID), "egg-white") }

// yolks are the grams of egg that is no white: its fat brings a white foam down.
func yolks(items []balance.Item) float64 {
	sum := 0.0
	for _, it := range items {
		if it.Ingredient.Origin == "egg" && !isWhite(it.Ingredient) {
			sum += it.Grams
		}
	}
	return sum
}

// stuff is what a batter holds of a carrier, or of what sweetens and holds a foam: sugar
// and allulose. Grams.
func stuff(items []balance.Item, id string) float64 {
	sum := 0.0
	for _, it := range items {
		if id == "sugar" {
			sum += it.Grams / 100 * (it.Ingredient.Facts.Sugars() + it.Ingredient.Facts.Or(larder.Allulose, 0))
			continue
		}
		for _, c := range Carriers() {
			if c.ID == id {
				sum += it.Grams / 100 * c.grams(it.Ingredient)
			}
		}
	}
	return sum
}

// husk is the psyllium of a batter, g.
func husk(items []balance.Item) (sum float64) {
	for _, it := range items {
		if it.Ingredient.ID == "psyllium-husk" || it.Ingredient.ID == "psyllium-powder" {
			sum += it.Grams
		}
	}
	return sum
}
