package method

import (
	"regexp"
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
	changed := len(t.Uses) != len(was.Uses) || slices.ContainsFunc(was.Uses, func(u Use) bool { return rw.gone[u.Line] })
	changed = changed || rw.lostFat(ms)
	fat := rw.has(*t, isFat) || rw.has(*t, func(i *larder.Ingredient) bool { return i.Family == larder.FamilyOil })
	solid := rw.has(*t, SolidFat)
	dough := rw.Base == "gluten-free" || rw.Base == "nut"
	switch t.Verb {
	case Cream:
		if changed && !solid {
			t.Verb, t.Changed = Beat, true
			t.Text = "Whisk " + rw.together(*t) + " for a minute"
			if fat {
				t.Text += ": with oil it stays runny, there is no fluff to wait for"
			}
			t.Text, t.Until = phrase.Sentence(t.Text), ""
			rw.put(*t)
			return true
		}
	case RubIn:
		if changed && !solid {
			t.Verb, t.Changed, t.Until = Mix, true, ""
			t.Text = phrase.Sentence("Stir " + rw.together(*t) + " with a fork: without a firm fat it is short and tender, not in layers")
			rw.put(*t)
			return true
		}
	case Melt, Soften, ChillFat:
		if changed && !solid {
			others := slices.ContainsFunc(t.Uses, func(u Use) bool {
				i := rw.Larder.Get(rw.Recipe.Line(u.Line).Ingredient)
				return i != nil && i.Family != larder.FamilyOil && !isFat(i) && i.Family != larder.FamilyWater
			})
			if t.Verb != Melt || !others {
				rw.unmelted = t.Verb == Melt
				return true // nothing to melt or soften: it goes in where it is mixed
			}
			t.Verb, t.Changed, t.Until = Mix, true, ""
			rw.unmelted = true
			t.Text = phrase.Sentence("Stir " + rw.list(*t) + " together; warm them only if the sugar will not dissolve")
			rw.put(*t)
			return true
		}
	case Foam:
		if changed && !rw.has(*t, Foams) {
			if len(t.Uses) == 0 {
				return true
			}
			t.Verb, t.Changed, t.Until, t.AtOnce = Beat, true, "", false
			t.Text = phrase.Sentence("Whisk " + rw.list(*t) + " together until smooth: there is nothing in it that would hold a foam")
			rw.put(*t)
			return true
		}
	case Separate:
		if changed {
			return true
		}
	case Knead:
		if rw.Base == "gluten-free" || rw.Base == "nut" {
			if rw.worked { // once is enough; what was to be kneaded in is worked in
				if len(t.Uses) == 0 {
					return true
				}
				t.Verb, t.Changed, t.Until = Mix, true, ""
				t.Text = phrase.Sentence("Work in " + rw.list(*t))
				rw.put(*t)
				return true
			}
			rw.worked = true
			t.Verb, t.Changed, t.Until = Beat, true, ""
			t.Hands = Time{recipe.Minutes{Min: 2, Max: 3}, "practice"}
			text := "Beat it 3 minutes to a thick, even batter"
			if husk(rw) {
				text = "Work it together for 2 to 3 minutes, until it is even"
			}
			if rw.was.Kind.Yeasted() {
				text += "; it is not kneaded"
			}
			if l := rw.list(*t); l != "" {
				text += ", with " + l
			}
			t.Text = phrase.Sentence(text)
			rw.put(*t)
			return true
		}
	case KnockBack:
		if dough && rw.was.Kind.Yeasted() {
			return true // one proof: nothing to knock back
		}
	case Prove:
		if dough && rw.was.Kind.Yeasted() && rw.laterProof(was) {
			return true // only the last, in the tin
		}
		if dough && rw.was.Kind.Yeasted() {
			t.Changed = true
			t.Text = "Let it prove once, in the tin, until it stands 1 cm below the rim, about " + fmtMinutes(40, 60) + " minutes at 24 °C: end it by the sign, not the clock."
			if husk(rw) {
				t.Text = "Let it prove once, in the tin or shaped, until it is half as high again, about " + fmtMinutes(40, 60) + " minutes at 24 °C: end it by the sign, not the clock."
			}
			t.Wait, t.Until = Time{recipe.Minutes{Min: 40, Max: 60}, "practice"}, ""
			rw.put(*t)
			return true
		}
	case Shape:
		if rw.Base == "gluten-free" && rw.was.Kind.Yeasted() && !husk(rw) {
			if rw.filled {
				return true
			}
			rw.filled = true
			t.Verb, t.Changed, t.Until = Fill, true, ""
			t.Text = "Spoon the batter into the greased tin, no more than half full, and smooth it with a wet spoon: it is too soft to shape."
			if rw.was.Servings > 1 && rolls.MatchString(was.Written) {
				t.Text = "Spoon the batter into greased muffin cups or rings, no more than half full, and smooth it with a wet spoon: it is too soft to shape by hand."
			}
			rw.put(*t)
			return true
		}
	}
	return false
}

var rolls = regexp.MustCompile(`(?i)\b(?:rolls|buns|balls|pieces)\b`)

// husk reports whether psyllium holds the dough, so that it can be shaped.
func husk(rw *rewriting) bool {
	return slices.ContainsFunc(rw.Recipe.Lines, func(l recipe.Line) bool {
		return l.Ingredient == "psyllium-husk" && l.Grams >= 8
	})
}

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

// anew is a task said by its verb alone, for words that cannot be kept.
func (rw *rewriting) anew(t Task) string {
	list := rw.list(t)
	if list == "" {
		switch t.Verb {
		case Mix, Beat, Fold, Sift, Blend, Melt:
			return "Mix it through."
		case Brush, Top:
			return "Leave the top as it is."
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
