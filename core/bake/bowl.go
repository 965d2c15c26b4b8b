package bake

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// Kit is what is worked out with at the bowl.
type Kit struct {
	Larder  *larder.Larder
	Kitchen measure.Kitchen
	Demand  diet.Demand
	Held    []larder.ID // held by the baker
}

// squeezed is what is left of grated vegetables once they are salted, drained and squeezed, as a share of
// what they weighed before. Source: practice, a working value: a quarter to a third runs out.
const squeezed = 0.72

// Expected is what a line should weigh made ready: as worked out, less what usually runs out where it is
// squeezed. Water is true where what it weighs otherwise is water, not more or less of the food; task is then
// the one after which it is weighed, -1 where no task says so.
func (s Sheet) Expected(id recipe.LineID) (grams float64, water bool, task int) {
	l := s.Recipe.Line(id)
	if l == nil {
		return 0, false, -1
	}
	last, task := false, -1 // the task before that took anything took this line
	for n, t := range s.Tasks {
		if len(t.Uses) > 0 {
			last = slices.ContainsFunc(t.Uses, func(u method.Use) bool { return u.Line == id })
		}
		switch {
		case !last:
		case t.Verb.Is(method.Drains) && wet(l):
			grams, water, task = squeezed*l.Grams, true, n
		case !water && (t.Verb == method.Soak || t.Verb == method.Simmer):
			return l.Grams, true, n
		}
	}
	switch {
	case water:
		return grams, true, task
	case wet(l) && strings.Contains(strings.ToLower(l.Note+" "+l.Text), "squeezed"):
		return squeezed * l.Grams, true, -1
	}
	return l.Grams, false, -1
}

// wet reports whether a line is of fruit or vegetable, of which water runs out.
func wet(l *recipe.Line) bool {
	i := larder.Builtin().Get(l.Ingredient)
	return i != nil && i.Shelf.Water == "half"
}

// Bowl is what really lies in the bowl or stands weighed, for package formula.
func (p *Strip) Bowl(sheet Sheet, kit Kit) formula.Bowl {
	aim := sheet.Recipe
	if p.Times != 1 {
		aim = timesWhole(aim, p.Times)
	}
	b := formula.Bowl{
		Aim: aim, Larder: kit.Larder, Kitchen: kit.Kitchen, Demand: kit.Demand,
		In: map[recipe.LineID]float64{}, Water: map[recipe.LineID]float64{},
	}
	for _, l := range aim.Batter() {
		if slices.Contains(kit.Held, l.Ingredient) {
			b.Held = append(b.Held, l.ID)
		}
		if p.Left[l.ID] {
			b.In[l.ID] = 0
			continue
		}
		g, settled, ready := p.settledWeight(sheet, l)
		if !settled {
			continue
		}
		if back := p.keptBack(sheet, l, kit.Larder); g < l.Grams && g > l.Grams-back-2 {
			g = l.Grams // the rest is kept back till it is seen how it stands
		}
		want, water, _ := sheet.Expected(l.ID)
		if !water || !ready { // before it is squeezed or soaked it is more or less of the food
			b.In[l.ID] = g
			continue
		}
		raw := l.Grams
		if in := p.In[l.ID]; in > 0 { // as it was weighed before
			want, raw = want*in/sheet.Recipe.Line(l.ID).Grams, in
		} else {
			want *= p.Times
		}
		b.In[l.ID], b.Water[l.ID] = raw, g-want
	}
	for _, s := range p.Spoons {
		if i := kit.Larder.Get(s.Food); i != nil && s.Line == 0 {
			b.Extra = append(b.Extra, balance.Item{Ingredient: i, Grams: s.Grams})
		}
	}
	for _, s := range p.Slips {
		if s.Kind == Twice {
			continue // it is the line's
		}
		if i := kit.Larder.Get(s.Food); i != nil && s.Grams > 0 {
			b.Extra = append(b.Extra, balance.Item{Ingredient: i, Grams: s.Grams})
		}
	}
	return b
}

// keptBack is how much of a line is kept back, g.
func (p *Strip) keptBack(sheet Sheet, l recipe.Line, lib *larder.Larder) float64 {
	i := lib.Get(l.Ingredient)
	for _, t := range sheet.Tasks {
		for _, u := range t.Uses {
			if u.Line == l.ID && i != nil {
				return holdBack(sheet, u, i, l.Grams, lib)
			}
		}
	}
	return 0
}

// Unlike is by how much a line that was corrected by the spoon ended above what was worked out, g; below
// where negative. Lines that nobody corrected are left out.
func (p *Strip) Unlike(sheet Sheet) map[recipe.LineID]float64 {
	out := map[recipe.LineID]float64{}
	for _, s := range p.Spoons {
		if l := sheet.Recipe.Line(s.Line); l != nil {
			out[s.Line] = p.In[s.Line] - p.Times*l.Grams
		}
	}
	return out
}

// timesWhole scales a recipe; eggs stay whole ones.
func timesWhole(r *recipe.Recipe, k float64) *recipe.Recipe {
	out := r.Scaled(k)
	for n := range out.Lines {
		if was := r.Lines[n]; was.Ingredient == "egg" && was.Grams > 0 {
			one := was.Grams / math.Max(1, math.Round(was.Grams/50))
			out.Lines[n].Grams = one * math.Max(1, math.Round(was.Grams*k/one))
		}
	}
	return out
}

// settledWeight is what a line weighs, where that is known: all of it is in, or it was weighed ready. Where
// a part is in and is not what it should be, the rest is taken as it should. Ready is true of what was
// weighed made ready.
func (p *Strip) settledWeight(sheet Sheet, l recipe.Line) (grams float64, settled, ready bool) {
	in, rest, some, all := 0.0, 0.0, false, true
	for n, t := range sheet.Tasks {
		for _, u := range t.Uses {
			if u.Line != l.ID {
				continue
			}
			if g, ok := p.Each[n][u.Line]; ok {
				in, some = in+g, true
			} else {
				rest, all = rest+p.due(u, sheet), false
			}
		}
	}
	for _, s := range p.Spoons {
		if s.Line == l.ID {
			in, some = in+s.Grams, true
		}
	}
	if more := p.twice(l.ID); more > 0 {
		if !some && rest == 0 { // a line that no task weighs
			rest = l.Grams
		}
		return in + rest + more, true, false
	}
	w, weighed := p.Weighs[l.ID]
	switch _, water, _ := sheet.Expected(l.ID); {
	case weighed && water:
		return w, true, true
	case some && all:
		return in, true, false
	case some && math.Abs(in+rest-l.Grams) > 0.5:
		return in + rest, true, false
	case weighed:
		return w, true, false
	}
	return 0, false, false
}

// Told is what a person is told of the bowl.
type Told struct {
	Moves []string // what is to be otherwise
	Why   string   // what the bowl would be without, "" where nothing moves
	Stays []string // what nothing that is to come takes up
	Open  map[recipe.LineID]float64
}

// Same reports whether there is nothing to tell.
func (t Told) Same() bool { return len(t.Moves) == 0 && len(t.Stays) == 0 }

// Tell says what comes of what lies in a bowl. Names are the recipe's.
func Tell(b formula.Bowl, a formula.BowlAmounts) Told {
	r := b.Aim
	t := Told{Open: map[recipe.LineID]float64{}}
	var off []string
	for _, s := range a.Sums {
		if s.Off != 0 && s.ID != "mass" {
			off = append(off, fmt.Sprintf("%s (%s %s than worked out)", s.Word(s.Off), amountOf(s.Is-s.Aim, s.Unit), moreOrLess(s.Is-s.Aim)))
		}
	}
	why := "As it lies: " + phrase.And(off) + "."
	for _, m := range a.Moves {
		if m.Line != 0 {
			t.Open[m.Line] = m.To
		}
		name := m.Ingredient.Name
		if l := r.Line(m.Line); l != nil && l.Name != "" {
			name = l.Name
		}
		switch {
		case m.More || m.From == 0:
			t.Moves = append(t.Moves, fmt.Sprintf("Add %s more %s.", grams(m.To-m.From), name))
		case m.To < 0.05:
			t.Moves = append(t.Moves, fmt.Sprintf("Leave out the %s.", name))
		default:
			t.Moves = append(t.Moves, fmt.Sprintf("%s: %s instead of %s.", phrase.Capital(name), grams(m.To), grams(m.From)))
		}
	}
	if len(t.Moves) > 0 && len(off) > 0 {
		t.Why = why
	}
	for _, s := range a.Sums {
		if s.Miss == 0 {
			continue
		}
		if line, left := wettest(b); s.ID == "water" && s.Miss > 0 && left > 0 {
			more := math.Min(math.Ceil(s.Miss), left)
			t.Moves = append(t.Moves, fmt.Sprintf("Squeeze the %s again: %s more should run out.", r.Line(line).Name, grams(more)))
			if more >= s.Miss {
				continue
			}
		}
		t.Stays = append(t.Stays, fmt.Sprintf("What stays: %s, by %s. Nothing that is still to come takes that up.", s.Word(s.Miss), amountOf(s.Miss, s.Unit)))
	}
	return t
}

// Mass is what lies in the bowl of the batter, g.
func (p *Strip) Mass(sheet Sheet) float64 {
	sum := 0.0
	for _, l := range sheet.Recipe.Batter() {
		sum += p.In[l.ID]
	}
	return sum
}

// wettest is the line that brings most water beyond what was worked out, and how much, g.
func wettest(b formula.Bowl) (line recipe.LineID, most float64) {
	for _, l := range b.Aim.Batter() {
		if b.Water[l.ID] > most {
			line, most = l.ID, b.Water[l.ID]
		}
	}
	return line, most
}

func moreOrLess(x float64) string {
	if x < 0 {
		return "less"
	}
	return "more"
}

func amountOf(x float64, unit string) string { return measure.Digits(math.Abs(x), 2) + " " + unit }

func grams(x float64) string {
	if x < 10 {
		return fmt.Sprintf("%.1f g", x)
	}
	return fmt.Sprintf("%.0f g", x)
}
