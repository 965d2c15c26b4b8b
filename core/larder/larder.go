// Package larder is the catalogue of ingredients: what each is made of, what it
// does in a batter, what it weighs by cup, spoon and piece, which allergens it
// holds, and by which names bakers call it.
//
// The data are narrow CSV tables in data/, one row an ingredient (ingredient,
// macro, sugars, minerals, acid, behave) or one row a fact (name, measure,
// allergen), each row with its source. An empty field is unknown, 0 is known
// to be none. Nothing that can be computed is stored: energy, total sugars
// and the sweetness of sugars follow from the rows.
package larder

import (
	"crypto/sha256"
	"embed"
	"encoding/csv"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"math"
	"path"
	"sort"
	"strconv"
	"strings"
	"sync"

	"kollaris/core/fact"
	"kollaris/core/measure"
)

//go:embed data/*.csv
var files embed.FS

// ID names an ingredient in the catalogue, for instance "plain-flour".
type ID string

// Level says how surely an allergen is in a food.
type Level string

// The levels. Check means that it depends on the maker: read the label.
const (
	Contains Level = "contains"
	May      Level = "may"
	Check    Level = "check"
)

// Weight is what one unit of an ingredient weighs, measured one way.
type Weight struct {
	How    string        // sifted, spooned, scooped, packed, liquid, level; or small, medium, large
	Unit   string        // cup, tbsp, tsp or piece
	Grams  measure.Grams // of one
	Source fact.Source
}

// Keeping is how long an unopened or well closed ingredient keeps, in days. 0 says
// not at all there.
type Keeping struct{ Room, Fridge, Freezer int }

// Ingredient is one row of the catalogue.
type Ingredient struct {
	ID        ID
	Name      string
	Family    Family
	Shelf     *Shelf // of its family, shared, never nil
	Origin    string // plant, milk, egg, meat, honey or mineral
	Facts     Facts
	Weights   []Weight
	Allergens map[string]Level
	Edible    float64 // share left when peel, stone or shell is off, 0 to 1
	Glycaemic string  // how fast its carbohydrate is felt: high, medium, low, none or "" for hardly any
	Keeps     Keeping
	Own       bool                   // added or changed by the household
	Like      ID                     // what one of the household's own behaves like, "" for the catalogue's
	Typed     [columns]bool          // of its figures, those that the household typed
	Pack      *Pack                  // what the household buys, nil where it did not say
	Sources   map[string]fact.Source // by table: ingredient, macro, sugars, minerals, acid, behave, keep
}

// Larder is a loaded catalogue. It is safe for concurrent reading.
type Larder struct {
	byID  map[ID]*Ingredient
	all   []*Ingredient
	ids   map[string]ID // normal form of an id → the id
	names index
}

// Builtin returns the embedded catalogue, loaded and checked once.
var Builtin = sync.OnceValue(func() *Larder {
	sub, _ := fs.Sub(files, "data")
	l, err := Load(sub)
	if err != nil {
		panic("larder: embedded catalogue: " + err.Error()) // a test loads it first
	}
	return l
})

// Get returns the ingredient with that id, or nil.
func (l *Larder) Get(id ID) *Ingredient { return l.byID[id] }

// All returns the ingredients sorted by id.
func (l *Larder) All() []*Ingredient { return l.all }

// Has reports whether the ingredient holds, may hold or should be checked for
// an allergen.
func (i *Ingredient) Has(allergen string) (Level, bool) {
	lv, ok := i.Allergens[allergen]
	return lv, ok
}

// MLGrams returns the grams of one millilitre, measured as the kitchen fills
// its cups, with the row that says so; ok is false when the catalogue knows no
// density.
func (i *Ingredient) MLGrams(k measure.Kitchen) (g float64, w Weight, ok bool) {
	best := -1
	for n, w := range i.Weights {
		if w.Unit != "piece" && (best < 0 || rankOf(w, k) > rankOf(i.Weights[best], k)) {
			best = n
		}
	}
	if best < 0 {
		return 0, Weight{}, false
	}
	w = i.Weights[best]
	us := measure.DefaultKitchen() // the table's rows are per US measure
	u, _ := measure.UnitByID(w.Unit)
	return float64(w.Grams) / float64(us.ML(u)), w, true
}

// rankOf prefers the kitchen's own filling, then the usual one.
func rankOf(w Weight, k measure.Kitchen) int {
	switch w.How {
	case k.Filling:
		return 3
	case "spooned", "liquid", "level":
		return 2
	}
	return 1
}

// WeightHow returns the weight measured a stated way ("sifted", "large", "chopped").
func (i *Ingredient) WeightHow(how string) (Weight, bool) {
	for _, w := range i.Weights {
		if w.How == how {
			return w, true
		}
	}
	return Weight{}, false
}

// IsBase reports whether the ingredient counts as flour: the dry base that
// baker's percentages are taken of.
func (i *Ingredient) IsBase() bool { return i.Shelf.Flour }

// Load reads a catalogue from a folder of CSV tables. Every fault is reported
// as "file:line: column: why"; none is passed over.
func Load(fsys fs.FS) (*Larder, error) {
	l := &Larder{byID: map[ID]*Ingredient{}}
	ld := loader{fsys: fsys, l: l}
	shelves := ld.shelves()
	ld.table("ingredient", []string{"id", "name", "family", "origin", "source"}, func(row []string) {
		id := ID(row[0])
		if l.byID[id] != nil {
			ld.fault("id", "%q stands here twice", id)
			return
		}
		shelf := shelves[Family(row[2])]
		if shelf == nil {
			ld.fault("family", "%q is not in family.csv", row[2])
			shelf = &Shelf{}
		}
		i := &Ingredient{
			ID: id, Name: row[1], Family: Family(row[2]), Shelf: shelf, Origin: row[3], Allergens: map[string]Level{},
			Edible: 1, Sources: map[string]fact.Source{"ingredient": ld.source(row[4])},
		}
		for c := range i.Facts {
			i.Facts[c] = math.NaN()
		}
		l.byID[id] = i
		l.all = append(l.all, i)
	})
	for _, table := range []string{"macro", "sugars", "minerals", "acid", "behave"} {
		ld.facts(table)
	}
	ld.keeping()
	ld.table("name", []string{"phrase", "id", "locale", "ambiguous_with"}, func(row []string) {
		if ld.ingredient(row[1]) == nil {
			return
		}
		if row[3] != "" && l.byID[ID(row[3])] == nil {
			ld.fault("ambiguous_with", "%q is not in the catalogue", row[3])
		}
		if err := l.names.add(row[0], ID(row[1]), ID(row[3])); err != nil {
			ld.fault("phrase", "%v", err)
		}
	})
	for _, i := range l.all {
		if !i.Facts.Known(Sweetness) {
			i.Facts[Sweetness] = sweetnessOf(&i.Facts)
		}
		_ = l.names.add(i.Name, i.ID, "") // usually a synonym already
	}
	sort.Slice(l.all, func(a, b int) bool { return l.all[a].ID < l.all[b].ID })
	l.build()
	return l, errors.Join(ld.errs...)
}

// allergens are the fourteen of EU 1169/2011, annex II, with the words of the
// app, and wheat, which US law names by itself (FALCPA 2004; sesame since 2023).
var allergens = []struct {
	id, words string
	us        bool // one of the nine of US law
}{
	{"gluten", "gluten cereals", false},
	{"oats", "oats (gluten)", false}, // EU 1169/2011 annex II item 1, certified or not
	{"wheat", "wheat", true}, {"crustaceans", "crustaceans", true}, {"egg", "egg", true}, {"fish", "fish", true}, {"peanuts", "peanuts", true}, {"soya", "soya", true}, {"milk", "milk", true},
	{"nuts", "tree nuts", true},
	{"celery", "celery", false}, {"mustard", "mustard", false}, {"sesame", "sesame", true}, {"sulphites", "sulphites", false}, {"lupin", "lupin", false}, {"molluscs", "molluscs", false},
}

// Allergens returns the ids of the allergens that EU or US law names, in the EU's
// order: the fourteen, and of the gluten cereals oats and wheat by themselves.
func Allergens() []string {
	ids := make([]string, len(allergens))
	for n, a := range allergens {
		ids[n] = a.id
	}
	return ids
}

// IsUSAllergen reports whether id is one of the nine of US law.
func IsUSAllergen(id string) bool {
	for _, a := range allergens {
		if a.id == id {
			return a.us
		}
	}
	return false
}

// IsAllergen reports whether id is one that the law names.
func IsAllergen(id string) bool { return AllergenWords(id) != "" }

// AllergenWords gives an allergen as the application prints it, "" for what is
// none.
func AllergenWords(id string) string {
	for _, a := range allergens {
		if a.id == id {
			return a.words
		}
	}
	return ""
}

type loader struct {
	fsys fs.FS
	l    *Larder
	file string
	line int
	errs []error
}

// keeping reads what the foods weigh, how they keep and which allergens they hold.
func (ld *loader) keeping() {
	ld.table("measure", []string{"id", "how", "unit", "grams", "source"}, func(row []string) {
		i := ld.ingredient(row[0])
		g := ld.number("grams", row[3], 0.01, 5000)
		if i == nil {
			return
		}
		i.Weights = append(i.Weights, Weight{row[1], row[2], measure.Grams(g), ld.source(row[4])})
	})
	ld.table(
		"keep", []string{"id", "edible", "glycaemic", "room_days", "fridge_days", "freezer_days", "source"},
		func(row []string) {
			i := ld.ingredient(row[0])
			if i == nil {
				return
			}
			i.Edible = ld.number("edible", row[1], 0.05, 1)
			switch i.Glycaemic = row[2]; row[2] {
			case "high", "medium", "low", "none", "":
			default:
				ld.fault("glycaemic", "%q: want high, medium, low, none or nothing", row[2])
			}
			days := func(column, s string) int { return int(ld.number(column, s, 0, 3650)) }
			i.Keeps = Keeping{days("room_days", row[3]), days("fridge_days", row[4]), days("freezer_days", row[5])}
			i.Sources["keep"] = ld.source(row[6])
		},
	)
	ld.table("allergen", []string{"id", "allergen", "level", "source"}, func(row []string) {
		i := ld.ingredient(row[0])
		if !IsAllergen(row[1]) {
			ld.fault("allergen", "%q is no allergen that the law names", row[1])
		}
		switch lv := Level(row[2]); lv {
		case Contains, May, Check:
			if i != nil {
				i.Allergens[row[1]] = lv
			}
		default:
			ld.fault("level", "%q: want contains, may or check", row[2])
		}
		ld.source(row[3])
	})
}

func (ld *loader) fault(column, format string, args ...any) {
	ld.errs = append(ld.errs, fmt.Errorf("%s:%d: %s: %s", ld.file, ld.line, column, fmt.Sprintf(format, args...)))
}

func (ld *loader) source(s string) fact.Source {
	if err := fact.Source(s).Check(); err != nil {
		ld.fault("source", "%v", err)
	}
	return fact.Source(s)
}

func (ld *loader) ingredient(id string) *Ingredient {
	i := ld.l.byID[ID(id)]
	if i == nil {
		ld.fault("id", "%q is not in ingredient.csv", id)
	}
	return i
}

func (ld *loader) number(column, s string, min, max float64) float64 {
	x, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsNaN(x) || x < min || x > max {
		ld.fault(column, "%q: want a number from %g to %g", s, min, max)
		return min
	}
	return x
}

func (ld *loader) table(name string, head []string, row func([]string)) {
	ld.file, ld.line = path.Join(name+".csv"), 1
	f, err := ld.fsys.Open(ld.file)
	if err != nil {
		ld.fault("file", "%v", err)
		return
	}
	defer f.Close()
	r := csv.NewReader(f)
	r.FieldsPerRecord = len(head)
	for n := 0; ; n++ {
		rec, err := r.Read()
		if err != nil {
			if err.Error() != "EOF" {
				ld.fault("row", "%v", err)
			}
			return
		}
		ld.line, _ = r.FieldPos(0)
		if n == 0 {
			if strings.Join(rec, ",") != strings.Join(head, ",") {
				ld.fault("head", "want %s", strings.Join(head, ","))
				return
			}
			continue
		}
		row(rec)
	}
}

func (ld *loader) facts(table string) {
	head := []string{"id"}
	var cols []Column
	for c, info := range Columns {
		if info.Table == table {
			head = append(head, info.Name)
			cols = append(cols, Column(c))
		}
	}
	ld.table(table, append(head, "source"), func(row []string) {
		i := ld.ingredient(row[0])
		if i == nil {
			return
		}
		for n, c := range cols {
			if s := row[n+1]; s != "" {
				i.Facts[c] = ld.number(Columns[c].Name, s, Columns[c].Min, Columns[c].Max)
			}
		}
		i.Sources[table] = ld.source(row[len(row)-1])
	})
}

// Stamp is a hash of the embedded tables: kept versions carry it, so that one
// can tell with which data they were worked out.
var Stamp = sync.OnceValue(func() string {
	sum := sha256.New()
	names, _ := fs.Glob(files, "data/*.csv")
	for _, n := range names {
		b, _ := files.ReadFile(n)
		sum.Write(b)
	}
	return hex.EncodeToString(sum.Sum(nil))[:12]
})
