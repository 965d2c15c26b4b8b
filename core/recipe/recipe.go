// Package recipe is the document: lines with their amounts, steps, tins and the
// times in the oven and beside it. A recipe is a value; editing makes a new one.
// The grammar of the text that a recipe is read from is in package reader.
package recipe

import (
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/tin"
)

// Schema is the number of the document's form as stored.
const Schema = 2

// LineID names a line for as long as the recipe lives: it survives editing,
// scaling and adapting, and is never given to another line.
type LineID int

// Kind is the kind of bake, which decides the usual windows.
type Kind string

// The kinds of bake. Source: practice, the trade's families by proportion and method.
const (
	QuickBread  Kind = "quick-bread"
	AllInCake   Kind = "all-in-cake"
	CreamedCake Kind = "creamed-cake"
	FruitCake   Kind = "fruit-cake"
	Scone       Kind = "scone"
	SodaBread   Kind = "soda-bread"
	Biscuit     Kind = "biscuit"
	LeanBread   Kind = "yeast-lean"
	RichBread   Kind = "yeast-rich"
	Flatbread   Kind = "flatbread" // without yeast, on a pan or stone
	OneBowl     Kind = "one-bowl"  // a cake for the microwave or a lidded pan
	Sponge      Kind = "whisked-sponge"
	WhiteFoam   Kind = "white-foam" // meringue, angel cake, macaroon shells
	Custard     Kind = "custard"    // tart, curd, flan, quiche: set by egg
	Cheesecake  Kind = "cheesecake" // baked
	Choux       Kind = "choux"
	Pastry      Kind = "pastry" // a short case or crust
	Brownie     Kind = "brownie"
	Griddle     Kind = "griddle" // pancakes and waffles
)

// Span is a place in the source text, in bytes.
type Span struct {
	From int `json:"from"`
	To   int `json:"to"`
}

// Origin says where a line's amount comes from.
type Origin string

// The origins.
const (
	Written Origin = ""       // from the text
	Worked  Origin = "worked" // worked out while adapting
	Held    Origin = "held"   // set by the person
)

// Line is one ingredient line.
type Line struct {
	ID         LineID           `json:"id"`
	Section    string           `json:"section,omitempty"` // the name of its part
	Role       Role             `json:"part,omitempty"`    // of its part
	Use        Use              `json:"use,omitempty"`
	Text       string           `json:"text"` // as written, or as Kollaris writes it
	Amount     measure.Quantity `json:"amount"`
	Unit       string           `json:"unit,omitempty"`
	Phrase     string           `json:"phrase,omitempty"` // what was written for the ingredient
	Ingredient larder.ID        `json:"ingredient,omitempty"`
	Name       string           `json:"name"`
	Grams      float64          `json:"grams"`
	How        string           `json:"how,omitempty"`  // how grams were reached: "1 cup × 120 g, spooned"
	Note       string           `json:"note,omitempty"` // preparation, temperature, "plus extra for dusting"
	Optional   bool             `json:"optional,omitempty"`
	Beside     bool             `json:"beside,omitempty"` // stands in one line of the text with the line before
	Known      bool             `json:"known"`            // ingredient and grams are settled
	Doubt      string           `json:"doubt,omitempty"`  // what to settle, as a question or sentence
	Choices    []larder.ID      `json:"choices,omitempty"`
	Span       Span             `json:"span"`
	Origin     Origin           `json:"origin,omitempty"`
	Replaces   LineID           `json:"replaces,omitempty"` // the written line that it stands for; 0 for none
}

// Minutes is a time or a range of times in minutes.
type Minutes struct {
	Min float64 `json:"min"`
	Max float64 `json:"max"`
}

// Mid is the middle of the range.
func (m Minutes) Mid() float64 { return (m.Min + m.Max) / 2 }

// Stage is one part of the time in the oven, in a bake that changes its heat.
type Stage struct {
	Oven    measure.Celsius `json:"oven_c"` // 0 when not written
	Minutes Minutes         `json:"minutes"`
}

// WaitKind is what a wait beside the oven is for.
type WaitKind string

// The waits, in the words the application prints.
const (
	Soak  WaitKind = "soak"
	Proof WaitKind = "proof"
	Chill WaitKind = "chill"
	Rest  WaitKind = "rest"
	Cool  WaitKind = "cool"
)

// Wait is a time that a recipe asks for beside that in the oven.
type Wait struct {
	What    WaitKind `json:"what"`
	Minutes Minutes  `json:"minutes"`         // zero when only a sign is given
	Until   string   `json:"until,omitempty"` // "doubled", "cold"
	Span    Span     `json:"span"`
}

// Recipe is a whole recipe.
type Recipe struct {
	Schema    int             `json:"schema"`
	Title     string          `json:"title"`
	Kind      Kind            `json:"kind"`
	Servings  int             `json:"servings"`
	Oven      measure.Celsius `json:"oven_c"` // 0 when not written
	Bake      Minutes         `json:"bake_minutes"`
	Stages    []Stage         `json:"stages,omitempty"`     // two or more; Bake is their sum
	Waits     []Wait          `json:"waits,omitempty"`      // soaking, proofing, chilling, resting, cooling
	Done      string          `json:"done,omitempty"`       // the sign that it is done, as written
	Tins      []tin.Tin       `json:"tins"`                 // that the batter goes into, beside each other; its time is the first's
	OtherTins []tin.Tin       `json:"other_tins,omitempty"` // that the recipe names as another way
	Device    string          `json:"device,omitempty"`     // what it is heated with, by its name; "oven"; "" in documents that were kept before it was part of them
	Parts     []Part          `json:"parts,omitempty"`      // in the order of the lines
	Lines     []Line          `json:"lines"`
	Steps     []Step          `json:"steps"`
	Notes     []string        `json:"notes,omitempty"` // what stands before the ingredients
	Told      []Told          `json:"told,omitempty"`  // what the baker says of tasks of the method
}

// Told is a baker's correction of one task of the method. Empty fields leave what was read.
type Told struct {
	Clause  string   `json:"clause"`            // as written; "… #2" for the second of these words
	Verb    string   `json:"verb,omitempty"`    // of the method's vocabulary
	Minutes Minutes  `json:"minutes,omitzero"`  // that it takes by itself, or by hand where it never waits
	Lines   []string `json:"lines,omitempty"`   // the texts of the lines that it takes
	Nothing bool     `json:"nothing,omitempty"` // it takes no line
	Move    int      `json:"move,omitempty"`    // places that it is done later than written, earlier where negative
}

// Step is one step of the method.
type Step struct {
	Text  string   `json:"text"`
	Lines []LineID `json:"lines,omitempty"` // the lines it uses
	Span  Span     `json:"span"`
}

// Line returns the line with that id, or nil.
func (r *Recipe) Line(id LineID) *Line {
	for n := range r.Lines {
		if r.Lines[n].ID == id {
			return &r.Lines[n]
		}
	}
	return nil
}

// NextID is an id that no line of the recipe has had, given that ids only grow.
func (r *Recipe) NextID() LineID {
	next := LineID(1)
	for _, l := range r.Lines {
		next = max(next, l.ID+1)
	}
	return next
}

// Mass is the weight of all lines whose grams are known.
func (r *Recipe) Mass() measure.Grams {
	sum := 0.0
	for _, l := range r.Lines {
		sum += l.Grams
	}
	return measure.Grams(sum)
}

// Unknown returns the lines that were not understood.
func (r *Recipe) Unknown() []Line {
	var out []Line
	for _, l := range r.Lines {
		if !l.Known {
			out = append(out, l)
		}
	}
	return out
}

// Clone copies the recipe so that neither shares a slice with the other.
func (r *Recipe) Clone() *Recipe {
	c := *r
	c.Tins = append([]tin.Tin(nil), r.Tins...)
	c.OtherTins = append([]tin.Tin(nil), r.OtherTins...)
	c.Parts = append([]Part(nil), r.Parts...)
	c.Lines = append([]Line(nil), r.Lines...)
	c.Steps = append([]Step(nil), r.Steps...)
	c.Stages = append([]Stage(nil), r.Stages...)
	c.Waits = append([]Wait(nil), r.Waits...)
	c.Told = append([]Told(nil), r.Told...)
	return &c
}

// Scaled multiplies every amount by k. Percentages stay as they are.
func (r *Recipe) Scaled(k float64) *Recipe {
	c := r.Clone()
	for n := range c.Lines {
		c.Lines[n].Grams *= k
		c.Lines[n].Amount = c.Lines[n].Amount.Scale(k)
	}
	return c
}
