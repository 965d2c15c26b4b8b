package method

import (
	"kollaris/core/text/en"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// lostFat reports whether mentions speak of a firm fat that is gone, though an earlier task
// took what stands for it.
func (rw *rewriting) lostFat(ms []mention) bool {
	return slices.ContainsFunc(ms, func(m mention) bool {
		return slices.ContainsFunc(m.lines, func(id recipe.LineID) bool {
			l := rw.was.Line(id)
			if l == nil || !rw.gone[id] {
				return false
			}
			i := rw.Larder.Get(l.Ingredient)
			return i != nil && SolidFat(i)
		})
	})
}

// has reports whether a task uses an ingredient of a sort.
func (rw *rewriting) has(t Task, is func(*larder.Ingredient) bool) bool {
	return slices.ContainsFunc(t.Uses, func(u Use) bool {
		l := rw.Recipe.Line(u.Line)
		if l == nil {
			return false
		}
		i := rw.Larder.Get(l.Ingredient)
		return i != nil && is(i)
	})
}

// SolidFat tells a fat that is firm at 20 °C: it creams and rubs in.
func SolidFat(i *larder.Ingredient) bool { return i.Facts[larder.SolidFat] >= 40 }

// Foams tells what whisks to a foam: egg, its white, aquafaba, cream of 30 % fat and more.
// Source: practice.
func Foams(i *larder.Ingredient) bool {
	return i.Family == larder.FamilyEgg && !strings.Contains(string(i.ID), "yolk") || i.ID == "aquafaba" ||
		strings.Contains(string(i.ID), "cream") && i.Facts[larder.Fat] >= 30 && i.Facts[larder.Fat] < 60 && i.ID != "coconut-cream"
}

func isFat(i *larder.Ingredient) bool { return i.Shelf.Texture == "fat" && i.Facts[larder.Fat] >= 30 }

// turned writes a task whose verb does not fit what it works on any more; true where it is
// done with, be it dropped.
func (rw *rewriting) turned(t *Task, was Task, ms []mention) bool {
	changed := len(t.Uses) != len(was.Uses) || rw.lostFat(ms) ||
		slices.ContainsFunc(was.Uses, func(u Use) bool { return rw.gone[u.Line] })
	firm := rw.has(*t, SolidFat)
	if changed && !firm && browned.In(was.Written) && rw.has(*t, isOil) {
		return rw.notBrowned(t)
	}
	proofless := rw.was.Kind.Yeasted() && (rw.Base == "gluten-free" || rw.Base == "nut")
	switch t.Verb {
	case Brush:
		return eggWash.In(was.Written) && (changed || rw.NoEgg) && rw.washInstead(t)
	case Cream:
		return changed && !firm && rw.whiskInstead(t)
	case RubIn:
		return changed && !firm && rw.forkInstead(t)
	case Melt, Soften, ChillFat:
		return changed && !firm && rw.nothingToMelt(t)
	case Foam:
		return changed && !rw.has(*t, Foams) && rw.noFoam(t)
	case Separate:
		return changed
	case Knead:
		return (rw.Base == "gluten-free" || rw.Base == "nut") && rw.workInstead(t)
	case KnockBack:
		return proofless // one proof: nothing to knock back
	case Prove:
		return proofless && rw.proveOnce(t, was)
	case Shape:
		return rw.spooned() && (rw.laterFill(was) || rw.spoonInstead(t, was))
	case Fill:
		return rw.spooned() && onSheet.In(was.Text) && rw.spoonInstead(t, was)
	}
	return false
}

// browned is what is done to butter over a high heat, and never to oil, nor to water in hot fat: it spits and burns. Source: practice,
// milk solids are what browns.
var browned = en.SignOf("browned")

func isOil(i *larder.Ingredient) bool { return i.Family == larder.FamilyOil }

// notBrowned leaves oil, and the water that comes with it, out of the pan.
func (rw *rewriting) notBrowned(t *Task) bool {
	list := rw.list(*t)
	t.Wait, t.Where = Time{}, Counter
	return rw.say(t, Weigh, "Have "+list+" at hand, cold: oil is not browned, and water spits in hot fat. The nutty taste that browning gave is lost")
}

// eggWash is brushing with egg, in one word.
var eggWash = en.SignOf("egg-wash")

// washInstead is brushing with what stands for the egg, or with oil where the list names nothing.
func (rw *rewriting) washInstead(t *Task) bool {
	if list := rw.list(*t); len(t.Uses) > 0 && list != "" {
		return rw.say(t, Brush, "Brush with "+list)
	}
	return rw.say(t, Brush, "Brush with a little oil, if you like: it browns and shines less than with egg")
}

// say puts a turned task in, in words of its own.
func (rw *rewriting) say(t *Task, verb Verb, text string) bool {
	t.Verb, t.Changed, t.Until, t.Text = verb, true, "", phrase.Sentence(text)
	rw.put(*t)
	return true
}

// whiskInstead is creaming without a firm fat.
func (rw *rewriting) whiskInstead(t *Task) bool {
	text := "Whisk " + rw.together(*t) + " for a minute"
	if rw.has(*t, isFat) || rw.has(*t, func(i *larder.Ingredient) bool { return i.Family == larder.FamilyOil }) {
		text += ": with oil it stays runny, there is no fluff to wait for"
	}
	return rw.say(t, Beat, text)
}

// forkInstead is rubbing in without a firm fat.
func (rw *rewriting) forkInstead(t *Task) bool {
	return rw.say(t, Mix, "Stir "+rw.together(*t)+" with a fork: without a firm fat it is short and tender, not in layers")
}

// nothingToMelt drops what was melted or softened: it goes in where it is mixed, unless
// more was in the pan.
func (rw *rewriting) nothingToMelt(t *Task) bool {
	rw.unmelted = t.Verb == Melt
	others := slices.ContainsFunc(t.Uses, func(u Use) bool {
		i := rw.Larder.Get(rw.Recipe.Line(u.Line).Ingredient)
		return i != nil && i.Family != larder.FamilyOil && !isFat(i) && i.Family != larder.FamilyWater
	})
	if t.Verb != Melt || !others {
		rw.held, rw.heldPart = append(rw.held, t.Uses...), t.Part
		return true
	}
	t.Wait, t.Where = Time{}, Counter
	return rw.say(t, Mix, "Stir "+rw.list(*t)+" together; warm them only if the sugar will not dissolve")
}

// noFoam is whisking what holds no foam.
func (rw *rewriting) noFoam(t *Task) bool {
	if len(t.Uses) == 0 {
		return true
	}
	t.AtOnce = false
	if len(t.Uses) == 1 && rw.has(*t, isDry) && rw.prepared[t.Uses[0].Line] == "" { // nothing to whisk it with
		rw.held, rw.heldPart = append(rw.held, t.Uses...), t.Part
		return true
	}
	list := rw.list(*t)
	if strings.Contains(list, " and ") {
		list += " together"
	}
	return rw.say(t, Beat, "Whisk "+list+" until smooth: there is nothing in it that would trap air")
}

// workInstead is kneading without gluten: once, and what was to be kneaded in is worked in.
func (rw *rewriting) workInstead(t *Task) bool {
	list := rw.list(*t)
	if rw.worked {
		return list == "" || rw.say(t, Mix, "Work in "+list)
	}
	rw.worked = true
	t.Hands = Time{recipe.Minutes{Min: 2, Max: 3}, "practice"}
	text := "Beat it 3 minutes to a thick, even batter"
	shaped := !rw.was.Kind.Yeasted() && slices.ContainsFunc(rw.read, func(t Task) bool { return t.Verb == Shape })
	verb := Beat
	if husk(rw) || shaped {
		verb, text = Mix, "Work it together for 2 to 3 minutes, until it is even"
	}
	if rw.was.Kind.Yeasted() {
		text += "; it is not kneaded"
	}
	if list != "" {
		text += ", with " + list
	}
	return rw.say(t, verb, text)
}

// proveOnce leaves the last proof alone, in the tin.
func (rw *rewriting) proveOnce(t *Task, was Task) bool {
	if rw.laterProof(was) {
		return true
	}
	where := "in the tin, until it stands 1 cm below the rim"
	if husk(rw) {
		where = "in the tin or shaped, until it is half as high again"
	}
	t.Wait = Time{recipe.Minutes{Min: 40, Max: 60}, "practice"}
	return rw.say(t, Prove, "Let it prove once, "+where+", about "+fmtMinutes(40, 60)+" minutes at 24 °C: end it by the sign, not the clock")
}

// spooned reports whether what was shaped is a batter now.
func (rw *rewriting) spooned() bool {
	return rw.Base == "gluten-free" && rw.was.Kind.Yeasted() && !husk(rw)
}

var onSheet = en.SignOf("on-sheet")

// laterFill reports whether the method puts what a task shapes on a sheet by a task of its own.
func (rw *rewriting) laterFill(was Task) bool {
	past := false
	for _, t := range rw.read {
		if past && t.Verb == Fill && t.Part == was.Part {
			return true
		}
		past = past || t.Step == was.Step && t.Text == was.Text
	}
	return false
}

// spoonInstead is shaping what is a batter now.
func (rw *rewriting) spoonInstead(t *Task, was Task) bool {
	if rw.filled {
		return true
	}
	rw.filled = true
	into := "the greased tin"
	if rw.was.Servings > 1 && slices.ContainsFunc(rw.read, func(t Task) bool {
		return t.Part == was.Part && (t.Verb == Shape || t.Verb == Fill) && Rolls(t.Written)
	}) {
		into = "greased muffin cups or rings"
	}
	return rw.say(t, Fill, "Spoon the batter into "+into+", no more than half full, and smooth it with a wet spoon: it is too soft to shape")
}

var rolls = en.SignOf("small-pieces")

// Rolls reports whether a step shapes many small ones.
func Rolls(step string) bool { return rolls.In(step) }

// Shapes reports whether psyllium holds a dough without gluten, so that it can be shaped.
// Source: practice, from 8 g of husk in a loaf.
func Shapes(r *recipe.Recipe) bool {
	return slices.ContainsFunc(r.Lines, func(l recipe.Line) bool { return l.Ingredient == "psyllium-husk" && l.Grams >= 8 })
}

func husk(rw *rewriting) bool { return Shapes(rw.Recipe) }

// laterProof reports whether the method proves once more after a task.
func (rw *rewriting) laterProof(was Task) bool {
	past := false
	for _, t := range rw.read {
		if past && t.Verb == Prove {
			return true
		}
		past = past || t.Span == was.Span && t.Step == was.Step && t.Text == was.Text
	}
	return false
}

// list names what a task takes, with weights, for a sentence: products by their name.
func (rw *rewriting) list(t Task) string {
	left := map[recipe.LineID]float64{}
	for _, u := range t.Uses {
		left[u.Line] = u.Share
	}
	list := rw.weights(t, left)
	if list == "" {
		return ""
	}
	return phrase.And(strings.Split(list, ", "))
}

// together is the list with how it comes together: into each other, or into what is there.
func (rw *rewriting) together(t Task) string {
	list := rw.list(t)
	if strings.Contains(list, " and ") {
		return list + " together"
	}
	return list + " into it"
}

// unweighed names what a task takes and nobody weighs: sugar for dusting.
func (rw *rewriting) unweighed(t Task) string {
	var out []string
	for _, u := range t.Uses {
		out = append(out, Short(rw.Recipe.Line(u.Line).Name))
	}
	return phrase.And(out)
}

// anew is a task said by its verb alone, for words that cannot be kept; "" where nothing is
// left to do.
func (rw *rewriting) anew(t Task) string {
	list := rw.list(t)
	if list == "" && (t.Verb == Brush || t.Verb == Top) {
		list = rw.unweighed(t)
		if list == "" {
			return ""
		}
	}
	if list == "" {
		switch t.Verb {
		case Mix, Beat, Fold, Sift, Blend, Melt:
			return "Mix it through."
		case Line:
			return "Grease and line the tin."
		case Heat:
			return "Heat the oven."
		case Bake:
			return "Bake."
		}
		if u := usuals[t.Verb]; u.Words != "" {
			return phrase.Sentence(phrase.Capital(u.Words))
		}
		return ""
	}
	out := map[Verb]string{
		Mix: "Stir in %s", Beat: "Whisk %s together", Fold: "Fold in %s", Sift: "Sift %s together", Cream: "Cream %s until pale and light",
		RubIn: "Rub %s together to crumbs", Foam: "Whisk %s to a thick foam", Melt: "Melt %s", Blend: "Blend %s", Knead: "Knead in %s",
		Brush: "Brush with %s", Top: "Scatter %s over it", Ice: "Spread %s over it", Syrup: "Pour %s over it", Line: "Grease the tin with %s",
		Soak: "Soak %s", Simmer: "Warm %s gently", Toast: "Toast %s", Bloom: "Stir %s together and wait for the froth", Mash: "Mash %s",
		Grate: "Grate %s", Cut: "Cut up %s", Fill: "Put %s into the tin", Weigh: "Have %s at hand", Separate: "Have %s at hand",
		Rest: "Let %s stand", Chill: "Chill %s", Soften: "Let %s soften", Drain: "Drain %s", Squeeze: "Squeeze %s",
	}[t.Verb]
	if out == "" {
		out = "Stir in %s"
	}
	return phrase.Sentence(strings.Replace(out, "%s", list, 1))
}
