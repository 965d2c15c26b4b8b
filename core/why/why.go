// Package why finds what may be behind a fault, and the one change to try next.
//
// Causes are independent, each with how often it is the matter at all (data/cause.csv). A symptom shows with
// 1 - (1 - leak)·Π(1 - q) over the causes that are there (noisy-or); q follows from how often a cause is found
// behind the symptom (data/link.csv) by Bayes's rule. A bake's own figures make a cause likelier or rule it out
// (data/figure.csv). No cause, single causes and pairs are enumerated exactly. Reference: Pearl, Probabilistic
// Reasoning in Intelligent Systems (1988), for noisy-or; the tables are common practice.
package why

import (
	"bytes"
	_ "embed"
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/fact"
)

//go:embed data/symptom.csv
var symptomCSV []byte

//go:embed data/cause.csv
var causeCSV []byte

//go:embed data/link.csv
var linkCSV []byte

//go:embed data/figure.csv
var figureCSV []byte

// Symptom is what is seen, tasted or timed.
type Symptom struct {
	ID, Words, Group string // shape, crumb, crust, taste, making, time
	Source           fact.Source
}

// Cause is what may be behind it.
type Cause struct {
	ID, Words string
	Prior     float64 // how often it is the matter, of bakes that it can concern
	When      string  // the conditions of a bake that it can concern, as Case.Is has them; "" for all
	Tell      string  // the question that tells it apart, with yes for it
	Change    string  // the one change
	Lever     string  // what of the recipe that is: powder, liquid, …, oven; "" for what is no amount
	Factor    float64 // by how much; K of the oven
	Source    fact.Source

	shows map[string]float64 // symptom → q
}

// Figure is a rule by which a figure of the bake speaks for or against a cause.
type figure struct {
	name, cause  string
	above        bool
	at           float64
	holds, fails float64 // by which the cause's odds are multiplied
	fore, con    string
}

// complaints is how often any one fault is seen at all, and leak how often without any of the causes. Source:
// from memory, working values: ranks hardly move with either.
const (
	complaints = 0.1
	leak       = 0.02
	mostShown  = 0.95
)

// The tables.
var (
	symptoms = mustSymptoms()
	causes   = mustCauses()
	figures  = mustFigures()
)

// Symptoms lists what may be seen.
func Symptoms() []Symptom { return slices.Clone(symptoms) }

// Causes lists what may be behind it.
func Causes() []Cause { return slices.Clone(causes) }

// Find is a symptom by its id.
func Find(id string) (Symptom, bool) {
	n := slices.IndexFunc(symptoms, func(s Symptom) bool { return s.ID == id })
	if n < 0 {
		return Symptom{}, false
	}
	return symptoms[n], true
}

func rows(name string, data []byte, columns int) [][]string {
	r := csv.NewReader(bytes.NewReader(data))
	r.FieldsPerRecord = columns
	all, err := r.ReadAll()
	if err != nil {
		panic(fmt.Sprintf("why/data/%s: %v", name, err))
	}
	return all[1:]
}

func number(name, s string) float64 {
	x, err := strconv.ParseFloat(s, 64)
	if err != nil {
		panic(fmt.Sprintf("why/data/%s: %v", name, err))
	}
	return x
}

func mustSymptoms() (out []Symptom) {
	for _, r := range rows("symptom.csv", symptomCSV, 4) {
		out = append(out, Symptom{r[0], r[1], r[2], fact.Source(r[3])})
	}
	return out
}

func mustCauses() (out []Cause) {
	for _, r := range rows("cause.csv", causeCSV, 9) {
		out = append(out, Cause{
			ID: r[0], Words: r[1], Prior: number("cause.csv", r[2]), When: r[3], Tell: r[4], Change: r[5], Lever: r[6],
			Factor: number("cause.csv", r[7]), Source: fact.Source(r[8]), shows: map[string]float64{},
		})
	}
	for _, r := range rows("link.csv", linkCSV, 3) {
		n := slices.IndexFunc(out, func(c Cause) bool { return c.ID == r[1] })
		if n < 0 || !slices.ContainsFunc(symptoms, func(s Symptom) bool { return s.ID == r[0] }) {
			panic("why/data/link.csv: no such symptom or cause: " + strings.Join(r, ","))
		}
		out[n].shows[r[0]] = math.Min(mostShown, number("link.csv", r[2])*complaints/out[n].Prior)
	}
	return out
}

func mustFigures() (out []figure) {
	for _, r := range rows("figure.csv", figureCSV, 9) {
		if !slices.ContainsFunc(causes, func(c Cause) bool { return c.ID == r[1] }) {
			panic("why/data/figure.csv: no such cause: " + r[1])
		}
		out = append(out, figure{
			r[0], r[1], r[2] == ">", number("figure.csv", r[3]), number("figure.csv", r[4]), number("figure.csv", r[5]), r[6], r[7],
		})
	}
	return out
}

// Case is a bake that is asked about.
type Case struct {
	Symptoms []string
	Denied   []string           // symptoms that it does not show
	Is       map[string]bool    // what it is: wheat, gluten-free, nut, yeast, chemical, egg-free, dairy-free, sugar-cut, biscuit, creamed, soak
	Figures  map[string]float64 // its own, by their names in data/figure.csv; what is not known is left out
	Answers  map[string]bool    // cause → whether the question that tells it apart was answered with yes
	Helped   map[string][2]int  // cause → how often its change helped in this house, and how often not
}

// concerns reports whether a cause can concern the bake: "a|b" any of them, "a&b" all.
func (c Case) concerns(when string) bool {
	if when == "" {
		return true
	}
	return slices.ContainsFunc(strings.Split(when, "|"), func(any string) bool {
		return !slices.ContainsFunc(strings.Split(any, "&"), func(all string) bool { return !c.Is[all] })
	})
}

// Finding is a cause with how likely it is behind what is seen.
type Finding struct {
	Cause
	Odds    float64  // how likely it is there, 0 to 1
	For     []string // what of this bake speaks for it
	Against []string
}

// What an answer to a cause's question is worth, and how much a household's own bakes weigh against the table.
// Source: from memory, working values.
const (
	answered = 6.0  // times the odds
	tableN   = 12.0 // bakes that the table's figure stands for
	ruledOut = 0.02 // a cause below it is not named
)

// candidate is a cause with its odds before the symptoms.
type candidate struct {
	n        int
	odds     float64
	fore, ag []string
}

// candidates are the causes that can concern a bake, weighed by its figures.
func (c Case) candidates() []candidate {
	var out []candidate
	for n, cause := range causes {
		if !c.concerns(cause.When) {
			continue
		}
		p := cause.Prior
		if h := c.Helped[cause.ID]; h[0]+h[1] > 0 {
			p = (p*tableN + float64(h[0])) / (tableN + float64(h[0]+h[1]))
		}
		x := candidate{n: n, odds: p / (1 - p)}
		for _, f := range figures {
			v, known := c.Figures[f.name]
			if f.cause != cause.ID || !known {
				continue
			}
			if holds := v > f.at == f.above && v != f.at; holds {
				x.odds *= f.holds
				x.fore = append(x.fore, words(f.fore, v))
			} else {
				x.odds *= f.fails
				if f.con != "" {
					x.ag = append(x.ag, words(f.con, v))
				}
			}
		}
		if yes, asked := c.Answers[cause.ID]; asked && yes {
			x.odds *= answered
			x.fore = append(x.fore, "you said so")
		} else if asked {
			x.odds /= answered
			x.ag = append(x.ag, "you said that it is not so")
		}
		out = append(out, x)
	}
	return out
}

func words(form string, v float64) string {
	if strings.Contains(form, "%") {
		return fmt.Sprintf(form, v)
	}
	return form
}

// Diagnose names the causes that may be behind a case, the likeliest first. Without symptoms there is none.
func Diagnose(c Case) []Finding {
	if len(c.Symptoms) == 0 {
		return nil
	}
	cand := c.candidates()
	p := c.posterior(cand)
	var out []Finding
	for k, x := range cand {
		if explains(causes[x.n], c.Symptoms) && p[k] >= ruledOut {
			out = append(out, Finding{causes[x.n], p[k], x.fore, x.ag})
		}
	}
	slices.SortStableFunc(out, func(a, b Finding) int {
		switch {
		case a.Odds > b.Odds:
			return -1
		case a.Odds < b.Odds:
			return 1
		}
		return 0
	})
	return out
}

func explains(c Cause, symptoms []string) bool {
	return slices.ContainsFunc(symptoms, func(s string) bool { return c.shows[s] > 0 })
}

// seen is how likely the symptoms are with some causes there.
func (c Case) seen(there ...Cause) float64 {
	p := 1.0
	missing := func(s string) float64 {
		q := 1 - leak
		for _, x := range there {
			q *= 1 - x.shows[s]
		}
		return q
	}
	for _, s := range c.Symptoms {
		p *= 1 - missing(s)
	}
	for _, s := range c.Denied {
		p *= missing(s)
	}
	return p
}

// posterior is how likely each candidate is there, with none, one or two of them there.
func (c Case) posterior(cand []candidate) []float64 {
	total := c.seen()
	out := make([]float64, len(cand))
	for a, x := range cand {
		one := x.odds * c.seen(causes[x.n])
		total += one
		out[a] += one
		for b := a + 1; b < len(cand); b++ {
			two := x.odds * cand[b].odds * c.seen(causes[x.n], causes[cand[b].n])
			total += two
			out[a] += two
			out[b] += two
		}
	}
	for n := range out {
		out[n] /= total
	}
	return out
}

// Ask is the question that would part the likeliest causes most: of the cause whose answer lowers the doubt
// most; ok is false where nothing is left to ask.
func Ask(c Case) (cause Cause, ok bool) {
	found := Diagnose(c)
	best := 1e-3
	before := doubt(found)
	for n, f := range found {
		if _, asked := c.Answers[f.ID]; asked || f.Tell == "" || n > 7 || c.known(f.ID) {
			continue
		}
		yes := f.Odds*answered/(1+answered) + (1-f.Odds)/(1+answered)
		gain := before
		for _, answer := range []bool{true, false} {
			then := c
			then.Answers = map[string]bool{f.ID: answer}
			for id, a := range c.Answers {
				then.Answers[id] = a
			}
			share := yes
			if !answer {
				share = 1 - yes
			}
			gain -= share * doubt(Diagnose(then))
		}
		if gain > best {
			best, cause, ok = gain, f.Cause, true
		}
	}
	return cause, ok
}

// known reports whether a figure of the bake answers a cause's question already.
func (c Case) known(cause string) bool {
	return slices.ContainsFunc(figures, func(f figure) bool {
		_, has := c.Figures[f.name]
		return has && f.cause == cause
	})
}

// doubt is the entropy of which cause it is, bits.
func doubt(found []Finding) float64 {
	sum := 0.0
	for _, f := range found {
		sum += f.Odds
	}
	h := 0.0
	for _, f := range found {
		if q := f.Odds / sum; q > 0 {
			h -= q * math.Log2(q)
		}
	}
	return h
}
