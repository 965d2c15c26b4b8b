package web

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/learn"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/why"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// logView is what came of a bake.
type logView struct {
	ID       int64
	Title    string
	Strip    int
	Strips   []stripTab
	Facts    []string
	Groups   []symptomGroup
	Overall  []choice
	F        fields // height, cooled
	Rev      int64  // of the judgement that was seen
	Words    string
	Say      string
	Causes   []causeRow
	More     int // causes beside those that are named
	Ask      *causeRow
	Recipe   string
	Trial    *causeRow // whose change this bake was to try
	TrialOn  string
	TrialIs  string // what was said of it, "" for nothing yet
	NewID    func() string
	Eaters   []eaterSays
	Photos   []photoView
	Room     string // what may be kept, and how much is
	UndoPic  string // the picture that was taken away
	Symptoms int
}

// eaterSays is what one of the eaters says, in boxes.
type eaterSays struct {
	Name           string
	Overall, Sweet []choice
}

// EatersSaid reports whether one of them said something.
func (v logView) EatersSaid() bool {
	return slices.ContainsFunc(v.Eaters, func(e eaterSays) bool { return !e.Overall[0].On || !e.Sweet[0].On })
}

// eaters fills in what each of those at the table says.
func (v *logView) eaters(names []string, j bake.Judged) {
	for _, name := range slices.Sorted(maps.Keys(j.By)) {
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	for _, name := range names {
		e := eaterSays{Name: name}
		for n, words := range journal.Overall {
			e.Overall = append(e.Overall, choice{strconv.Itoa(n), words, n == j.By[name].Overall})
		}
		for _, x := range sweetWords {
			e.Sweet = append(e.Sweet, choice{string(x.said), x.words, x.said == j.By[name].Sweet})
		}
		v.Eaters = append(v.Eaters, e)
	}
}

// sweetWords are what may be said of the sweetness.
var sweetWords = []sweetWord{{"", "not said"}, {learn.TooSweet, "too sweet"}, {learn.JustSo, "just so"}, {learn.TooLittle, "not sweet enough"}}

type sweetWord struct {
	said  learn.Verdict
	words string
}

type symptomGroup struct {
	Words string
	Of    []choice
}

// causeRow is what may be behind it.
type causeRow struct {
	ID, Words, Odds, Tell, Change string
	For, Against                  []string
	Next                          string // the bench with the change, "" where it is none of an amount
	cause                         why.Cause
}

// groupWords are the groups of symptoms, in the order of the form.
var groupWords = []struct{ id, words string }{
	{"shape", "Shape"}, {"crumb", "Crumb"}, {"crust", "Crust"}, {"taste", "Taste"}, {"making", "While making it"}, {"time", "Time"},
}

// happened are the facts of a bake.
func (v *logView) happened(t *sitting, n int, kit adapt.Kit) {
	k := kit.Kitchen
	p, res, sheet := &t.state.Strips[n], t.Of[n].Result, t.sheets[n]
	add := func(form string, args ...any) { v.Facts = append(v.Facts, fmt.Sprintf(form, args...)) }
	add("Begun %s.", t.Begun.Local().Format("Monday 2 January 2006, 15:04"))
	if of := t.Of[n].Oven; of != "" {
		add("In the %s.", of)
	}
	if !p.WentIn.IsZero() {
		words := "In the oven at " + p.WentIn.Local().Format("15:04")
		if !p.Out.IsZero() {
			words += fmt.Sprintf(", out after %.0f min", p.Out.Sub(p.WentIn).Minutes())
			if res.Bake != nil {
				words += fmt.Sprintf(" (foretold %.0f, %.0f to %.0f)", res.Bake.Minutes, res.Bake.Low, res.Bake.High)
			}
		}
		add("%s.", words)
	}
	var seen []string
	for _, x := range p.Sights {
		if x.Look != "" {
			seen = append(seen, x.Look)
		}
	}
	for k2 := len(p.Sights) - 1; k2 >= 0; k2-- {
		if p.Sights[k2].Look == "" {
			seen = append(seen, "the middle read "+k.Temperature(measure.Celsius(p.Sights[k2].Core))+" last")
			break
		}
	}
	if len(seen) > 0 {
		add("%s.", phrase.Capital(phrase.And(seen)))
	}
	if mass := p.Mass(sheet); mass > 0 {
		words := "In the bowl " + gramWords(mass)
		if p.Weight > 0 {
			words += ", baked " + gramWords(p.Weight)
		}
		add("%s.", words)
	}
	for _, x := range p.Spoons {
		name := string(x.Food)
		if l := sheet.Recipe.Line(x.Line); l != nil {
			name = l.Name
		}
		add("%s more %s by the spoon.", gramWords(x.Grams), name)
	}
	for _, x := range p.Slips {
		add("A slip: %s.", x.Words(sheet, kit.Larder))
	}
}

// judged fills the form with what was said.
func (v *logView) judged(j bake.Judged) {
	for _, g := range groupWords {
		group := symptomGroup{Words: g.words}
		for _, x := range why.Symptoms() {
			if x.Group == g.id {
				group.Of = append(group.Of, choice{x.ID, x.Words, slices.Contains(j.Symptoms, x.ID)})
			}
		}
		v.Groups = append(v.Groups, group)
	}
	for n, words := range journal.Overall {
		v.Overall = append(v.Overall, choice{strconv.Itoa(n), words, n == j.Overall})
	}
	v.Words = j.Words
	v.F = formFields(
		"", field{Name: "height", Words: "It stood", Unit: "cm high.", Value: number(j.Height), Mode: "decimal", Size: 4},
		field{Name: "cooled", Words: "It cooled", Unit: "hours before it was cut.", Value: number(j.Cooled), Mode: "decimal", Size: 4},
	)
}

// helpedBy is how often the change of each cause helped in this house, and how often not.
func helpedBy(log []store.Logged) map[string][2]int {
	out := map[string][2]int{}
	for _, l := range log {
		for cause, yes := range l.Helped {
			x := out[cause]
			x[b2i(!yes)]++
			out[cause] = x
		}
	}
	return out
}

// lastTrial is the change that was noted at the bake of the same recipe before this one.
func (v *logView) lastTrial(log []store.Logged, t *sitting, n int) {
	mine := slices.IndexFunc(log, func(l store.Logged) bool { return l.Bake == t.ID && l.Strip == n })
	if mine < 0 {
		return
	}
	for _, l := range log[mine+1:] { // the last first
		if l.Recipe != log[mine].Recipe || l.Recipe == 0 {
			continue
		}
		for _, c := range why.Causes() {
			if c.ID == l.Tried {
				row := rowOf(c, 0, nil, nil)
				v.Trial, v.TrialOn = &row, onDay(l.At)
				if yes, said := t.state.Strips[n].Judged.Helped[c.ID]; said {
					v.TrialIs = map[bool]string{true: "it helped", false: "it did not help"}[yes]
				}
			}
		}
		return
	}
}

// mostNamed is how many causes are named. Source: practice: of more than three nobody changes one.
const mostNamed = 3

// why names what may be behind it.
func (v *logView) why(c why.Case) {
	found := why.Diagnose(c)
	for _, f := range found[:min(len(found), mostNamed)] {
		v.Causes = append(v.Causes, rowOf(f.Cause, f.Odds, f.For, f.Against))
	}
	v.More = max(0, len(found)-mostNamed)
	if q, ok := why.Ask(c); ok {
		row := rowOf(q, 0, nil, nil)
		v.Ask = &row
	}
}

func rowOf(c why.Cause, odds float64, fore, against []string) causeRow {
	return causeRow{
		ID: c.ID, Words: phrase.Capital(c.Words), Odds: fmt.Sprintf("%.0f %%", 100*odds), Tell: c.Tell, Change: c.Change, For: fore, Against: against, cause: c,
	}
}

// lastBaked says of the last bake of a recipe when it was and what was seen: "3 May: too wet".
func lastBaked(lines []store.Logged) map[int64]string {
	out := map[int64]string{}
	for _, l := range lines { // the last first
		if _, has := out[l.Recipe]; has || l.Recipe == 0 {
			continue
		}
		words := "last baked " + onDay(l.At)
		if l.Words != "" {
			words += ": " + l.Words
		}
		out[l.Recipe] = words
	}
	return out
}

// onDay is a day of this year without it, of another with it.
func onDay(t time.Time) string {
	if t = t.Local(); t.Year() != time.Now().Year() {
		return t.Format("2 January 2006")
	}
	return t.Format("2 January")
}

// decimalUpTo reads a figure from above 0 to a most.
func decimalUpTo(typed string, most float64) (float64, bool) {
	x, err := measure.ParseDecimal(typed, "cm", "h", "hours")
	return x, err == nil && x > 0 && x <= most
}

func contains(list []string, x string) bool { return slices.Contains(list, x) }
