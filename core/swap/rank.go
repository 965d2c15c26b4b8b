package swap

import (
	"fmt"
	"slices"
	"sort"

	"kollaris/core/diet"
	"kollaris/core/larder"
)

// Case is where a school would be used.
type Case struct {
	Kind    string                        // of the bake, "topping", or "glaze" for what is brushed on
	Count   float64                       // eggs, or other pers, replaced for each loaf's worth of flour
	Already map[string]bool               // allergens the rest of the recipe holds anyway
	Gluten  bool                          // the batter holds gluten, which binds
	Egg     bool                          // the batter keeps an egg
	EU      bool                          // the law of the EU says what may be sold
	Diets   []diet.ID                     // asked for
	Job     string                        // what the baker says it is there for; "" as the kind has it
	Cut     float64                       // share of the use that a limit asks to go; 0 for none
	Have    func(*larder.Ingredient) bool // whether it is in the house; nil where that does not matter
	Breaks  bool                          // what is being replaced breaks the demand by itself
	Without larder.ID                     // what is being replaced: no school of itself
}

// Choice is a school weighed for a case.
type Choice struct {
	School     *School
	Score      float64
	Confidence Confidence
	Lift       float64  // mmol CO2 per "per"
	Say        []string // why here more or less than elsewhere
	New        []string // allergens it would bring
	Labels     []string // labels to read, in words
	Shut       Shut     // what shuts it out; zero when it may be used
}

// ShutBy is the sort of thing that shuts a school out.
type ShutBy string

// The sorts.
const (
	ByDemand ShutBy = "demand" // a part breaks what is asked
	ByItself ShutBy = "itself" // it is what is being replaced
	ByFrom   ShutBy = "from"   // it keeps some of what may not stay
	ByStock  ShutBy = "stock"  // a part is not in the house
)

// Shut is what shuts a school out. The zero value shuts nothing.
type Shut struct {
	By     ShutBy
	Reason diet.Reason // of ByDemand
	Part   string      // of ByStock, the part's name
}

// Open reports whether nothing shuts it.
func (s Shut) Open() bool { return s.By == "" }

// Words writes it, as the rest of a sentence; "" where it is open.
func (s Shut) Words() string {
	switch s.By {
	case ByDemand:
		return s.Reason.Words()
	case ByItself:
		return "it is what is being replaced"
	case ByFrom:
		return "none of it may stay"
	case ByStock:
		return s.Part + " is not in your larder"
	}
	return ""
}

// Points taken off a school. Source: practice, judged with the demo table: a new
// allergen weighs more than a small difference of fit, a label to read less.
const (
	newAllergen = 1.6
	readLabel   = 0.4
	doesJob     = 6.0 // added where it does what the baker asks, half of it taken off where not
)

// meets reports whether a condition holds.
func (c Case) meets(w When) bool {
	switch w.Test {
	case "kind":
		return slices.Contains(w.In, c.Kind)
	case "demand":
		return slices.ContainsFunc(c.Diets, func(d diet.ID) bool { return slices.Contains(w.In, string(d)) })
	case "count":
		return c.Count > w.Above
	case "cut":
		return c.Cut > w.Above
	case "no-gluten":
		return !c.Gluten
	case "no-egg":
		return !c.Egg
	case "eu":
		return c.EU
	}
	return false
}

// Rank weighs every school of a use for a case. Those that may be used come
// first, best first; the shut ones follow with what shuts them.
func (u *Use) Rank(c Case, d diet.Demand, l *larder.Larder) []Choice {
	var out []Choice
	for n := range u.Schools {
		s := &u.Schools[n]
		if len(s.For) > 0 && !slices.Contains(s.For, c.Without) || len(s.Only) > 0 && !slices.Contains(s.Only, c.Kind) {
			continue
		}
		ch := Choice{School: s, Score: s.Fit, Confidence: s.Confidence, Lift: s.Lift}
		for _, w := range s.When {
			if c.meets(w) {
				ch.Score += w.Fit
				ch.Lift += w.Lift
				ch.Say = append(ch.Say, w.Say)
				if w.Confidence != "" {
					ch.Confidence = ch.Confidence.Worse(w.Confidence)
				}
			}
		}
		if c.Job != "" && slices.Contains(u.Jobs, c.Job) {
			if slices.Contains(s.Good, c.Job) {
				ch.Score += doesJob
				ch.Say = append(ch.Say, "it "+c.Job+" as you say the "+u.Title+" does here")
			} else {
				ch.Score -= doesJob / 2
			}
		}
		if s.Most > 0 && c.Count > s.Most {
			ch.Score -= 4
			ch.Confidence = Experiment
			ch.Say = append(ch.Say, fmt.Sprintf("it carries the work of %g, not more", s.Most))
		}
		for _, p := range s.Parts {
			if p.ID == From {
				if c.Breaks {
					ch.Shut = Shut{By: ByFrom}
				}
				continue
			}
			i := l.Get(p.ID)
			if p.ID == c.Without {
				ch.Shut = Shut{By: ByItself}
			}
			if c.Have != nil && !c.Have(i) {
				ch.Shut = Shut{By: ByStock, Part: i.Name}
			}
			switch v, why := d.Judge(i); v {
			case diet.Breaks:
				ch.Shut = Shut{By: ByDemand, Reason: why}
			case diet.CheckLabel:
				ch.Labels = append(ch.Labels, why.Words())
				ch.Score -= readLabel
			}
			for _, a := range larder.Allergens() {
				lv, ok := i.Has(a)
				if !ok || c.Already[a] || slices.Contains(ch.New, a) {
					continue
				}
				if lv == larder.Contains || lv == larder.May {
					ch.New = append(ch.New, a)
					if a != "oats" { // counted by the gluten of which their label must be read
						ch.Score -= newAllergen
					}
				} else {
					ch.Score -= readLabel / 2
				}
			}
		}
		out = append(out, ch)
	}
	sort.SliceStable(out, func(a, b int) bool {
		if out[a].Shut.Open() != out[b].Shut.Open() {
			return out[a].Shut.Open()
		}
		return out[a].Score > out[b].Score
	})
	return out
}
