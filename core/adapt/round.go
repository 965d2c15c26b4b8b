package adapt

import (
	"fmt"
	"math"
	"strings"

	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

// round brings grams to what the kitchen can measure.
func (r asked) round(i *larder.Ingredient, grams float64) float64 {
	return formula.Round(r.Kitchen, i, grams)
}

// Measure writes grams as cups and spoons, or pieces, or "" where neither is
// sensible.
func (k Kit) Measure(i *larder.Ingredient, grams float64) string {
	if grams <= 0 {
		return ""
	}
	if i.Origin == "egg" {
		if w, ok := i.WeightHow("large"); ok {
			text, v := measure.Fraction(grams / float64(w.Grams))
			if math.Abs(v*float64(w.Grams)-grams) < 2 {
				return text + " large"
			}
		}
	}
	per, row, ok := i.MLGrams(k.Kitchen)
	if !ok || row.How == "chopped" || row.How == "whole" {
		return ""
	}
	text, _ := k.Kitchen.Spoons(measure.Millilitres(grams / per))
	return text
}

// eggWash is what a line of an egg says that it is for, which what stands for it does not.
var eggWash = pattern.Must(`(?i)(?:beaten,? )?for (?:the )?egg[- ]?wash(?:ing)?`)

// lineText writes a line as a recipe would.
func (r asked) lineText(i *larder.Ingredient, grams float64, note string) string {
	m := r.Measure(i, grams)
	var s string
	switch {
	case grams <= 0:
		s = i.Name
	case m == "":
		s = fmt.Sprintf("%s %s", measure.Grams(grams), i.Name)
	case formula.Spooned(i, grams) || r.Kitchen.Cups:
		s = fmt.Sprintf("%s %s (%s)", m, i.Name, measure.Grams(grams))
	default:
		s = fmt.Sprintf("%s %s (%s)", measure.Grams(grams), i.Name, m)
	}
	if note != "" && i.Origin != "egg" {
		note = eggWash.ReplaceAllString(note, "for brushing")
	}
	if note != "" {
		s += ", " + note
	}
	return s
}

// newLine is the line of an ingredient that stands for a written one.
func (r *asked) newLine(src recipe.Line, i *larder.Ingredient, grams float64, held bool) recipe.Line {
	if !held {
		grams = r.round(i, grams)
	}
	note := ""
	if src.Grams == 0 || src.Use != recipe.In && !src.Role.Aside() {
		note = src.Note // for greasing, to glaze
	}
	l := recipe.Line{
		ID: r.nextID, Section: src.Section, Role: src.Role, Use: src.Use, Phrase: i.Name, Ingredient: i.ID, Name: i.Name, Known: true,
		Optional: src.Optional, Note: note,
	}
	r.nextID++
	r.setGrams(&l, grams, held)
	return l
}

// setGrams gives a line a new amount and the text that goes with it.
func (r asked) setGrams(l *recipe.Line, grams float64, held bool) {
	i := r.Larder.Get(l.Ingredient)
	l.Grams = grams
	l.Amount, l.Unit = measure.One(grams), "g"
	if formula.Spooned(i, grams) {
		l.Amount, l.Unit = measure.One(grams/formula.Teaspoon(r.Kitchen, i)), "tsp"
	}
	if grams <= 0 {
		l.Amount, l.Unit = measure.Quantity{}, ""
	}
	l.How, l.Origin = "worked out", recipe.Worked
	if held {
		l.How, l.Origin = "held by you", recipe.Held
	}
	l.Text = r.lineText(i, grams, l.Note)
}

// measures fills the kitchen's words for every line: as written where a line is
// unchanged.
func (r *assessment) measures() {
	for _, l := range r.res.Recipe.Lines {
		i := r.Larder.Get(l.Ingredient)
		unit := l.Unit
		if unit == "cup" && l.Amount.Max > 1 {
			unit = "cups"
		}
		text := strings.TrimSpace(l.Amount.String() + " " + unit)
		if i != nil && l.Origin != recipe.Written {
			if m := r.Measure(i, l.Grams); m != "" || l.Grams == 0 {
				text = m
			} else {
				text = measure.Grams(l.Grams).String()
			}
		}
		r.res.Measures[int(l.ID)] = text
	}
}
