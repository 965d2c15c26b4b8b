package web

import (
	"fmt"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// sliceView is what one serving holds, before and after.
type sliceView struct {
	Of      string
	Rows    []sliceRow
	Missing string
}

type sliceRow struct {
	Name, Now, Was, Unit string
	Sub                  bool
	Why                  []termRow
}

type termRow struct{ ID, Name, Value string }

func sliceOf(res *adapt.Result, l *larder.Larder) sliceView {
	v := sliceView{Of: fmt.Sprintf("1 of %d", res.Recipe.Servings), Missing: notCounted(res.Gaps)}
	counted := map[string]bool{}
	for _, lim := range res.Limits {
		counted[string(lim.What)] = true
	}
	for _, row := range nutrition.Rows {
		if row.ID == "net-carb" && !counted["net-carb"] {
			continue // stands with the diets that count it
		}
		now, was := *row.Of(&res.Serving), *row.Of(&res.ServingBefore)
		sr := sliceRow{
			Name: row.Name, Unit: row.Unit, Sub: row.Sub, Now: nutrientText(row.ID, now),
			Was: nutrientText(row.ID, was),
		}
		if len(nutrition.Gaps(res.Recipe, l, row)) > 0 {
			sr.Now, sr.Was = atLeast+sr.Now, atLeast+sr.Was
		}
		for _, t := range nutrition.Figure(res.Recipe, l, row).Largest(6) {
			sr.Why = append(sr.Why, termRow{t.ID, t.Name, nutrientText(row.ID, t.Value) + " " + row.Unit})
		}
		v.Rows = append(v.Rows, sr)
	}
	return v
}

// atLeast stands before a figure that some line is left out of.
const atLeast = "at least "

// notCounted names the lines that figures leave out, as a sentence.
func notCounted(gaps []nutrition.Gap) string {
	var lines []string
	for _, g := range gaps {
		why := "no amount"
		if g.Unread {
			why = "not understood"
		}
		lines = append(lines, fmt.Sprintf("“%s” (%s)", g.Text, why))
	}
	if len(lines) == 0 {
		return ""
	}
	return "Not counted: " + phrase.And(lines) + "."
}

// nutrientText prints a figure with the precision it has: whole kcal, a tenth of
// a gram, a hundredth of salt.
func nutrientText(id string, x float64) string {
	switch id {
	case "energy":
		return fmt.Sprintf("%.0f", x)
	case "salt":
		return fmt.Sprintf("%.2f", x)
	}
	return fmt.Sprintf("%.1f", x)
}

// sumRow is one sum with its window drawn.
type sumRow struct {
	Name, Words  string
	Unit         string
	Before, Now  string
	Lo, Hi       string
	Less, More   string
	Method       string
	Why          []termRow
	BandX, BandW string
	HollowX      string
	SolidX       string
	OffLeft      bool
	OffRight     bool
	Remedy       *link // the amount that brings it back
}

// sumWidth is the drawing's width; the window fills its middle.
const sumWidth = 200.0

func sumRowOf(s adapt.Sum) sumRow {
	row := sumRow{Name: s.Name, Words: s.Words, Unit: s.Unit, Less: s.Less, More: s.More, Method: s.Method,
		Before: measure.Digits(s.Before, 3),
		Now:    measure.Digits(s.After, 3), Lo: measure.Digits(s.Lo, 3), Hi: measure.Digits(s.Hi, 3)}
	for _, t := range s.Why.Largest(6) {
		row.Why = append(row.Why, termRow{t.ID, t.Name, measure.Digits(t.Value, 2)})
	}
	span := s.Hi - s.Lo
	if span <= 0 {
		span = 1
	}
	at := func(x float64) (px float64, off int) {
		px = sumWidth * (0.3 + 0.4*(x-s.Lo)/span)
		switch {
		case px < 8:
			return 8, -1
		case px > sumWidth-8:
			return sumWidth - 8, 1
		}
		return px, 0
	}
	b, _ := at(s.Before)
	a, off := at(s.After)
	row.HollowX, row.SolidX = f1(b), f1(a)
	row.OffLeft, row.OffRight = off < 0, off > 0
	row.BandX, row.BandW = f1(sumWidth*0.3), f1(sumWidth*0.4)
	return row
}

// bakeView is the time in the oven in words.
type bakeView struct {
	FirstLook, Window, Oven, Tin, Why, Problem, Fill string
	TooMuch                                          string
	Warn                                             string
	In                                               string // "in loaf 9x5 in", "on a baking sheet"
}

func bakeOf(res *adapt.Result, k measure.Kitchen) bakeView {
	e := res.Bake
	if e == nil {
		return bakeView{Problem: res.BakeProblem}
	}
	v := bakeView{
		FirstLook: fmt.Sprintf("%.0f min", e.FirstLook), Window: fmt.Sprintf("%.0f–%.0f min", e.Low, e.High),
		Oven: ovenWords(e, k), Tin: e.Fill.Tin.Words(), Why: e.Why, Fill: e.Fill.Words,
	}
	v.In, v.TooMuch = e.Fill.Tin.In(), e.Fill.Over()
	v.Warn = e.Warn
	return v
}

// ovenWords says how the oven is used: "175 °C fan, then 150 °C after 20 min, covered
// with foil or a lid".
func ovenWords(e *oven.Estimate, k measure.Kitchen) string {
	words := k.OvenText(e.Oven)
	for _, f := range e.Setup.Flags() {
		switch {
		case !f.On:
		case f.Name == "fan":
			words += " fan"
		default:
			words += ", " + f.Words
		}
	}
	for _, st := range e.Setup.Stages {
		words += ", then"
		if st.Oven > 0 {
			words += " " + k.OvenText(st.Oven)
		}
		if st.Lower {
			words += " on a lower shelf"
		}
		words += fmt.Sprintf(" after %.0f min", st.After)
	}
	if strings.Contains(words, ",") {
		words += "," // "in loaf 9x5 in" follows
	}
	return words
}

// nutritionPer100 is what 100 g of an ingredient hold.
func nutritionPer100(i *larder.Ingredient) nutrition.Facts { return nutrition.Per100(&i.Facts) }

// costView is what a recipe costs, as far as prices are known.
type costView struct {
	Total, Serving string
	Missing        string
}

// costOf is nil where no line has a price.
func costOf(r *recipe.Recipe, l *larder.Larder, currency string) *costView {
	total, unpriced := balance.Cost(r, l)
	if total <= 0 {
		return nil
	}
	v := &costView{
		Total:   fmt.Sprintf("%s %.2f", currency, total),
		Serving: fmt.Sprintf("%s %.2f", currency, total/float64(max(1, r.Servings))),
	}
	if len(unpriced) > 0 {
		v.Missing = "without " + strings.Join(unpriced, ", ")
	}
	return v
}
