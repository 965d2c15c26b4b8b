// Package fact holds what every number in Kollaris carries with it: where it
// comes from and what it is the sum of.
//
// A source is written "tag: name", for instance
// "published: GNU units, definitions.units" or "memory: USDA SR Legacy".
// The tags say how far to trust the figure.
package fact

import (
	"fmt"
	"sort"
	"strings"
)

// Tag says how a figure is known.
type Tag string

// The tags, from the firmest to the softest.
const (
	Published  Tag = "published"  // a named standard, law or table
	Calculated Tag = "calculated" // follows from chemistry, physics or other rows
	Practice   Tag = "practice"   // common practice of the trade, no source
	Memory     Tag = "memory"     // a working value from memory, to be improved by data
	Yours      Tag = "yours"      // typed by the household
)

// Words gives the tag as the application prints it.
func (t Tag) Words() string {
	switch t {
	case Published:
		return "published"
	case Calculated:
		return "calculated"
	case Practice:
		return "common practice"
	case Memory:
		return "from memory"
	case Yours:
		return "yours"
	}
	return "source not stated"
}

// Source is where a figure comes from, written "tag: name".
type Source string

// Tag returns the part before the colon, or "" when it is none of the tags.
func (s Source) Tag() Tag {
	head, _, _ := strings.Cut(string(s), ":")
	switch t := Tag(strings.TrimSpace(head)); t {
	case Published, Calculated, Practice, Memory, Yours:
		return t
	}
	return ""
}

// Name returns the part after the colon, which may be empty.
func (s Source) Name() string {
	_, name, _ := strings.Cut(string(s), ":")
	return strings.TrimSpace(name)
}

// Words gives the source as the application prints it.
func (s Source) Words() string {
	if n := s.Name(); n != "" {
		return s.Tag().Words() + ": " + n
	}
	return s.Tag().Words()
}

// Check reports a source without a tag, or a published source
// without a name.
func (s Source) Check() error {
	switch {
	case s.Tag() == "":
		return fmt.Errorf("source %q: want published, calculated, practice or memory before a colon", string(s))
	case s.Tag() == Published && s.Name() == "":
		return fmt.Errorf("source %q: a published source needs its name", string(s))
	}
	return nil
}

// Term is one contribution to a figure.
type Term struct {
	ID    string  `json:"id,omitempty"` // of the row behind it, where there is one
	Name  string  `json:"name"`
	Value float64 `json:"value"`
}

// Figure is a number with its unit, its terms, and the share of the mass it
// speaks of for which there was no data. Unknown is not zero: a Missing of
// 0.2 says a fifth of the food, by weight, could not be counted.
type Figure struct {
	Value   float64 `json:"value"`
	Unit    string  `json:"unit"`
	Missing float64 `json:"missing,omitempty"` // 0 to 1
	Terms   []Term  `json:"terms,omitempty"`
}

// Largest returns the n largest terms by size, largest first.
func (f Figure) Largest(n int) []Term {
	terms := append([]Term(nil), f.Terms...)
	sort.SliceStable(terms, func(i, j int) bool { return abs(terms[i].Value) > abs(terms[j].Value) })
	if len(terms) > n {
		terms = terms[:n]
	}
	return terms
}

func abs(x float64) float64 {
	if x < 0 {
		return -x
	}
	return x
}
