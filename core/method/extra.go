package method

import (
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

// early are the tasks that come before all others: gels, soured drinks.
func (rw *rewriting) early() []Task {
	var out []Task
	for _, drinks := range []bool{false, true} { // what drinks the liquid comes when it is soured
		for n := range rw.Swaps {
			s := &rw.Swaps[n]
			for k := range s.Steps {
				p := &s.Steps[k]
				if p.Place != step.AtStart || p.InLiquid() != drinks {
					continue
				}
				t := rw.prep(s, p)
				if len(t.Uses) > 0 {
					out = append(out, t)
				} // else it is said where the ingredient goes in: see complete
			}
		}
	}
	return out
}

// opVerbs are what the ops of swaps are among the verbs.
var opVerbs = map[step.Op]Verb{
	step.Tell: Remark, step.Gel: Gel, step.Sour: Sour, step.Foam: Foam, step.Whisk: Beat, step.Stir: Mix, step.Blend: Blend, step.Boil: Simmer,
	step.AcidLast: Mix, step.AtOnce: Remark, step.Rest: Rest, step.Chill: Chill, step.FillTin: Fill, step.Tent: Tent, step.Cool: Cool,
	step.CoolTin: CoolTin,
}

// takes reports whether an extra work takes a line of the result.
func (rw *rewriting) takes(p *step.Step, id recipe.LineID) bool {
	l := rw.Recipe.Line(id)
	if l == nil {
		return false
	}
	return p.Takes(l.Ingredient) || p.Takes(step.From) && rw.wasIngredient(l.Replaces) == l.Ingredient
}

// wasIngredient is what a written line is of.
func (rw *rewriting) wasIngredient(id recipe.LineID) larder.ID {
	if l := rw.was.Line(id); l != nil {
		return l.Ingredient
	}
	return ""
}

// sayStep is the text of an extra work, with its holes filled; where nothing fills them they go.
func sayStep(p *step.Step, weights, liquid string) string {
	if liquid == "" {
		liquid = "the liquid"
	}
	if weights != "" {
		weights = " (" + weights + ")"
	}
	return step.Fill(strings.ReplaceAll(p.Text, " {"+step.WeightsHole+"}", weights), map[string]string{step.LiquidHole: liquid})
}

// begun is the task of an extra work as such.
func begun(p *step.Step) Task {
	verb := opVerbs[p.Op]
	u := usuals[verb]
	t := Task{Verb: verb, Text: phrase.Sentence(sayStep(p, "", "")), Step: -1, Changed: true, AtOnce: p.AtOnce, Where: u.Where, Hands: Time{u.Hands, u.Source}}
	if p.Wait > 0 {
		t.Wait = Time{recipe.Minutes{Min: p.Wait, Max: p.Wait}, "practice"}
	}
	return t
}

// huskGel is what the husk of a gluten-free dough makes of its liquid.
const huskGel = "husk gel"

// prep is the task of an extra work, with the lines of the swap that it takes.
func (rw *rewriting) prep(s *Swap, p *step.Step) Task {
	t := begun(p)
	for _, id := range s.To {
		if rw.prepared[id] == "" && rw.takes(p, id) {
			t.Uses = append(t.Uses, whole(id))
		}
	}
	if len(t.Uses) == 0 {
		return t
	}
	for _, id := range append(slices.Clone(p.Of), p.Into...) {
		if id != step.From && id != step.Liquid && !slices.ContainsFunc(rw.Recipe.Lines, func(l recipe.Line) bool { return l.Ingredient == id }) {
			t.Lacks = append(t.Lacks, id)
		}
	}
	t.Makes = s.Title
	if s.Use == "flour" {
		t.Makes = "flour mix"
		if p.Op == step.Gel {
			t.Makes = huskGel
		}
	}
	weights, liquid := rw.weightsOf(t.Uses), ""
	rw.made[p] = true
	if p.InLiquid() {
		if rw.blooms() {
			t.Text, t.Makes = phrase.Sentence(sayStep(p, weights, "the water with the yeast")), ""
			for _, u := range t.Uses {
				rw.prepared[u.Line] = "yeast water"
			}
			rw.huskTask = &t
			return Task{}
		}
		if liquid = rw.drink(s, &t); liquid == "" { // it goes in with what is mixed first
			return Task{}
		}
		liquid = "the liquid (" + liquid + ")"
	}
	t.Text = phrase.Sentence(sayStep(p, weights, liquid))
	for _, u := range t.Uses {
		rw.prepared[u.Line] = t.Makes
	}
	if l := rw.Recipe.Line(t.Uses[0].Line); l != nil && l.Topping() {
		t.Part = l.Section
	}
	return t
}

// weightsOf is how much of lines goes in, with their names where they are of several foods.
func (rw *rewriting) weightsOf(uses []Use) string {
	first, grams := rw.Recipe.Line(uses[0].Line), 0.0
	for _, u := range uses {
		l := rw.Recipe.Line(u.Line)
		if l.Ingredient != first.Ingredient {
			return rw.parts(uses)
		}
		grams += l.Grams * u.Share
	}
	return rw.weight(first.Ingredient, grams)
}

// drink puts all the liquid of the batter into a work, soured as it is; where nothing is poured in, the eggs, unless they are whipped.
// It gives what went in, "" where there is neither.
func (rw *rewriting) drink(s *Swap, t *Task) string {
	into := rw.intoIt(s, t, func(l recipe.Line, i *larder.Ingredient) bool { return i.Shelf.Moves == "liquid" })
	if len(into) == 0 {
		into = rw.intoIt(s, t, func(l recipe.Line, i *larder.Ingredient) bool {
			return i.Origin == "egg" && !slices.ContainsFunc(rw.read, func(t Task) bool { return t.Verb == Foam && t.uses(l.ID) })
		})
	}
	for id, made := range rw.prepared {
		if slices.Contains(t.Takes, made) {
			rw.prepared[id] = t.Makes
		}
	}
	return strings.Join(into, ", ")
}

// intoIt puts the lines of the batter that are of a kind into a work, and says what goes in.
func (rw *rewriting) intoIt(s *Swap, t *Task, of func(recipe.Line, *larder.Ingredient) bool) (into []string) {
	for _, l := range rw.Recipe.Lines {
		i := rw.Larder.Get(l.Ingredient)
		if i == nil || !of(l, i) || l.Topping() || l.Grams <= 0 || t.uses(l.ID) {
			continue
		}
		switch made := rw.prepared[l.ID]; {
		case slices.Contains(t.Takes, made):
		case strings.HasPrefix(made, "soured"):
			t.Takes = append(t.Takes, made)
			into = append(into, measure.Grams(rw.weightOfMade(made)).String()+" "+made)
		case made == "" && !rw.another(s, l):
			t.Uses = append(t.Uses, whole(l.ID))
			into = append(into, rw.named(l.ID, 1))
		}
	}
	return into
}

// blooms reports whether the yeast is woken in the recipe's own liquid.
func (rw *rewriting) blooms() bool {
	return slices.ContainsFunc(rw.read, func(t Task) bool { return t.Verb == Bloom && len(t.Uses) > 1 })
}

// another reports whether a line belongs to another swap that makes something of it.
func (rw *rewriting) another(s *Swap, l recipe.Line) bool {
	other := rw.swapOf[l.Replaces]
	return l.Replaces != 0 && other != nil && other != s && other.whole
}

// mixNow puts in what a swap mixes only when it is wanted.
func (rw *rewriting) mixNow(s *Swap, part string) {
	for n := range s.Steps {
		p := &s.Steps[n]
		if p.Place != step.AtMix || rw.made[p] {
			continue
		}
		t := rw.prep(s, p)
		if len(t.Uses) == 0 {
			continue
		}
		t.Part = part
		rw.out = append(rw.out, t)
	}
}
