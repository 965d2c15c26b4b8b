// Package swap holds the schools: what bakers put in the place of an
// ingredient, how much of it to begin with, what it does, and when it fails.
// The schools are data (data/*.toml, one file a use); this package loads,
// checks and ranks them. The amounts that come out in the end are solved from
// the balance by package adapt, with the figures here as priors.
//
// A file names the use ("egg"), the ingredients it stands for, how many grams
// of them the parts replace, and a list of schools:
//
//	parts   what goes in, in grams, and as what: binder, gel, liquid, fat, acid, soda, lift, body,
//	        sugar, syrup, base (what counts as flour), gum, protein, or same (weight for weight);
//	        by gives other grams in a kind of bake; the id "from" is the written ingredient itself
//	good    the jobs of the use that the school does well, for a baker who says what it is there for
//	for     the ingredients of the use that the school is for, where it is not for all
//	only    the kinds of bake that it is offered in, where not in all
//	becomes the base that the batter is built on from then on: gluten-free, nut or keto-yeast
//	oven    °C that the oven is set higher (lower where negative)
//	when    conditions: test = kind (in = [...]), demand (in = diets), count (above = n, in eggs or
//	        pieces), cut (above = share of the use that a limit asks to go), no-gluten (nothing in
//	        the batter binds but eggs), no-egg (the batter keeps none) or eu (its law holds); each moves the fit,
//	        may set the confidence, adds lift (mmol CO2 for one per) and says why
//	steps   what it changes in the method: see package step
//	most    pieces beyond which the school is an experiment
//
// A use may set ingredients apart, and it may name the limits a serving, such as added-sugars, that ask for it
// to be replaced when the written recipe passes them.
package swap

import (
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"slices"
	"strings"
	"sync"

	"github.com/pelletier/go-toml/v2"

	"kollaris/core/diet"
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

//go:embed data/*.toml
var files embed.FS

// Confidence says how surely a swap works.
type Confidence string

// The confidences, surest first.
const (
	WellTried  Confidence = "well-tried"
	Workable   Confidence = "workable"
	Experiment Confidence = "experiment"
)

var confidences = []Confidence{WellTried, Workable, Experiment}

// Worse returns the less sure of two confidences.
func (c Confidence) Worse(d Confidence) Confidence {
	if slices.Index(confidences, d) > slices.Index(confidences, c) {
		return d
	}
	return c
}

// Part is one ingredient of a school.
type Part struct {
	ID    larder.ID          `toml:"id"`
	Grams float64            `toml:"grams"`
	As    string             `toml:"as"`
	By    map[string]float64 `toml:"by"` // grams in a kind of bake
}

// From is the id of a part that is the written ingredient itself.
const From = step.From

// In gives the grams of the part in a kind of bake.
func (p Part) In(kind string) float64 {
	if g, ok := p.By[kind]; ok {
		return g
	}
	return p.Grams
}

// When is a condition on a school.
type When struct {
	Test       string     `toml:"test"`
	In         []string   `toml:"in"`
	Above      float64    `toml:"above"`
	Fit        float64    `toml:"fit"`
	Lift       float64    `toml:"lift"`
	Confidence Confidence `toml:"confidence"`
	Say        string     `toml:"say"`
}

// School is one way to replace a use.
type School struct {
	ID         string      `toml:"id"`
	Title      string      `toml:"title"`
	For        []larder.ID `toml:"for"`  // the only ingredients it stands for; all of the use where empty
	Good       []string    `toml:"good"` // the jobs of the use that it does well
	Only       []string    `toml:"only"` // the only kinds of bake it is offered in
	Parts      []Part      `toml:"parts"`
	Effect     string      `toml:"effect"`
	Reason     string      `toml:"reason"`
	Confidence Confidence  `toml:"confidence"`
	Fit        float64     `toml:"fit"`
	Lift       float64     `toml:"lift"` // mmol CO2 that one per needs beyond the air it held
	Most       float64     `toml:"most"`
	Becomes    string      `toml:"becomes"` // base of the batter, "" where it stays
	// OvenMost is the hottest oven, °C of a still one, that a bake bears with it, by kind and by
	// default: what browns early is baked lower and longer. Source: practice, 150 to 175 °C.
	OvenMost map[string]float64 `toml:"oven_most"`
	Source   fact.Source        `toml:"source"`
	When     []When             `toml:"when"`
	Steps    []step.Step        `toml:"steps"`
}

// Ceiling is the hottest oven that a kind of bake bears with the school, °C; 0 for any.
func (s *School) Ceiling(kind string) float64 {
	if c, ok := s.OvenMost[kind]; ok {
		return c
	}
	return s.OvenMost["default"]
}

// Use is something that can be replaced.
type Use struct {
	ID     string      `toml:"use"`
	Title  string      `toml:"title"`
	For    []larder.ID `toml:"for"`
	Per    float64     `toml:"per"`    // grams of it that the parts stand for
	Piece  string      `toml:"piece"`  // counted in these, "" when weighed
	Limits []string    `toml:"limits"` // figures of a serving whose limit asks for it to go
	Jobs   []string    `toml:"jobs"`   // what it may be there for, to be told apart
	// Apart are the ingredients that are replaced by themselves, where others of the use stand
	// beside them: an icing wants a powder, brown sugar its treacle.
	Apart   map[string][]larder.ID `toml:"apart"`
	Roles   map[string]string      `toml:"roles"`
	Schools []School               `toml:"school"`
}

// Class is what an ingredient of the use is replaced apart as; "" with the rest.
func (u *Use) Class(id larder.ID) string {
	for _, name := range slices.Sorted(maps.Keys(u.Apart)) {
		if slices.Contains(u.Apart[name], id) {
			return name
		}
	}
	return ""
}

// Role says what the use does in a kind of bake.
func (u *Use) Role(kind string) string {
	if r := u.Roles[kind]; r != "" {
		return r
	}
	return u.Roles["default"]
}

// School returns the school with that id, or nil.
func (u *Use) School(id string) *School {
	for n := range u.Schools {
		if u.Schools[n].ID == id {
			return &u.Schools[n]
		}
	}
	return nil
}

// Table is every use with its schools.
type Table struct {
	uses []*Use
}

// Builtin returns the embedded table, loaded and checked once.
var Builtin = sync.OnceValue(func() *Table {
	sub, _ := fs.Sub(files, "data")
	t, err := Load(sub, larder.Builtin())
	if err != nil {
		panic("swap: embedded table: " + err.Error()) // a test loads it first
	}
	return t
})

// Uses returns all uses.
func (t *Table) Uses() []*Use { return t.uses }

// Use returns the use with that id, or nil.
func (t *Table) Use(id string) *Use {
	for _, u := range t.uses {
		if u.ID == id {
			return u
		}
	}
	return nil
}

// For returns the use that an ingredient serves, or nil.
func (t *Table) For(id larder.ID) *Use {
	for _, u := range t.uses {
		if slices.Contains(u.For, id) {
			return u
		}
	}
	return nil
}

var (
	parts = []string{
		"binder", "gel", "liquid", "fat", "acid", "soda", "lift", "body", "same", "pieces", "base", "gum", "protein", "sugar",
		"syrup",
	}
	tests = []string{"kind", "demand", "count", "cut", "no-gluten", "no-egg", "eu"}
	bases = []string{"", "gluten-free", "nut", "keto-yeast"}
)

// placed says where in a file something cannot be read: "file:line:column: why".
func placed(name string, err error) error {
	var strict *toml.StrictMissingError
	if errors.As(err, &strict) && len(strict.Errors) > 0 {
		line, column := strict.Errors[0].Position()
		return fmt.Errorf("%s:%d:%d: no field %q", name, line, column, strings.Join(strict.Errors[0].Key(), "."))
	}
	var at *toml.DecodeError
	if errors.As(err, &at) {
		line, column := at.Position()
		return fmt.Errorf("%s:%d:%d: %w", name, line, column, err)
	}
	return fmt.Errorf("%s: %w", name, err)
}

// Load reads and checks the table. A word or field that it does not know is a fault
// "file:line:column: why", what does not fit together one "file: school: why".
func Load(fsys fs.FS, l *larder.Larder) (*Table, error) {
	t := &Table{}
	var errs []error
	names, err := fs.Glob(fsys, "*.toml")
	if err != nil {
		return nil, err
	}
	for _, name := range names {
		f, err := fsys.Open(name)
		if err != nil {
			return nil, err
		}
		u := &Use{}
		dec := toml.NewDecoder(f)
		dec.DisallowUnknownFields()
		err = dec.Decode(u)
		f.Close()
		if err != nil {
			errs = append(errs, placed(name, err))
			continue
		}
		errs = append(errs, check(name, u, l)...)
		t.uses = append(t.uses, u)
	}
	return t, errors.Join(errs...)
}

func check(name string, u *Use, l *larder.Larder) (errs []error) {
	fault := func(school, format string, args ...any) {
		errs = append(errs, fmt.Errorf("%s: %s: %s", name, school, fmt.Sprintf(format, args...)))
	}
	if u.ID == "" || u.Title == "" || u.Per <= 0 || len(u.For) == 0 || u.Roles["default"] == "" || len(u.Schools) == 0 {
		fault("use", "want use, title, per, for, roles.default and a school")
	}
	for _, w := range u.Limits {
		if !slices.Contains(diet.Limitable(), diet.Limited(w)) {
			fault("limits", "%q is no figure that can be limited", w)
		}
	}
	for _, id := range u.For {
		if l.Get(id) == nil {
			fault("for", "%q is not in the larder", id)
		}
	}
	for _, ids := range u.Apart {
		for _, id := range ids {
			if !slices.Contains(u.For, id) {
				fault("apart", "%q, which the use is not for", id)
			}
		}
	}
	kinds := func(school, where string, names []string) {
		for _, k := range names {
			if k != "topping" && k != "glaze" && !recipe.Kind(k).Known() {
				fault(school, "%s %q, which is no kind of bake", where, k)
			}
		}
	}
	kinds(
		"roles", "says",
		slices.DeleteFunc(slices.Sorted(maps.Keys(u.Roles)), func(k string) bool { return k == "default" }),
	)
	seen := map[string]bool{}
	for _, s := range u.Schools {
		if seen[s.ID] {
			fault(s.ID, "want an id of its own")
		}
		seen[s.ID] = true
		s.check(u, l, fault, kinds)
	}
	return errs
}

// check reports what is wrong with one school of a use.
func (s School) check(
	u *Use, l *larder.Larder, fault func(school, format string, args ...any),
	kinds func(school, where string, names []string),
) {
	kinds(s.ID, "is only in", s.Only)
	if s.ID == "" || s.Title == "" || s.Effect == "" || s.Reason == "" || len(s.Parts) == 0 {
		fault(s.ID, "want an id of its own, title, effect, reason and parts")
	}
	for _, job := range s.Good {
		if !slices.Contains(u.Jobs, job) {
			fault(s.ID, "is good at %q, which is no job of the use", job)
		}
	}
	for _, id := range s.For {
		if !slices.Contains(u.For, id) {
			fault(s.ID, "is for %q, which the use is not for", id)
		}
	}
	if err := s.Source.Check(); err != nil {
		fault(s.ID, "%v", err)
	}
	if !slices.Contains(bases, s.Becomes) {
		fault(s.ID, "becomes %q", s.Becomes)
	}
	if !slices.Contains(confidences, s.Confidence) {
		fault(s.ID, "confidence %q", s.Confidence)
	}
	texts := []string{s.Reason}
	for _, p := range s.Parts {
		if l.Get(p.ID) == nil && p.ID != From || p.Grams <= 0 || !slices.Contains(parts, p.As) {
			fault(s.ID, "part %q, %g g as %q", p.ID, p.Grams, p.As)
		}
		kinds(s.ID, "gives grams by", slices.Sorted(maps.Keys(p.By)))
	}
	for _, w := range s.When {
		if !slices.Contains(tests, w.Test) || w.Say == "" {
			fault(s.ID, "when: test %q", w.Test)
		}
		for _, id := range w.In {
			if _, ok := diet.Find(diet.ID(id)); w.Test == "demand" && !ok {
				fault(s.ID, "when: %q is no diet", id)
			}
		}
		if w.Test == "kind" {
			kinds(s.ID, "when: in", w.In)
		} else if w.Test != "demand" && len(w.In) > 0 {
			fault(s.ID, "when: test %q asks for nothing to be in", w.Test)
		}
	}
	var ids []larder.ID
	for _, p := range s.Parts {
		ids = append(ids, p.ID)
	}
	for n, e := range s.Steps {
		for _, w := range e.Check(ids, l) {
			fault(s.ID, "step %d: %s", n+1, w)
		}
		kinds(s.ID, "step only in", e.Only)
		texts = append(texts, e.Text)
	}
	for _, text := range texts {
		for _, hole := range step.Holes(text) {
			if hole != "n" && hole != "from" && hole != step.WeightsHole && hole != step.LiquidHole &&
				!slices.ContainsFunc(s.Parts, func(p Part) bool { return string(p.ID) == hole }) {
				fault(s.ID, "text names {%s}, which is no part", hole)
			}
		}
	}
}
