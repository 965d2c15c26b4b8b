package reader

import (
	"fmt"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// apart is the difference between two written amounts of one line that is
// reported. Source: practice, packs and tables agree within 8 %.
const apart = 0.08

// maxGrams is the most of one line that a home oven bakes. Source: practice.
const maxGrams = 20000

// heap is how many level spoons a heaped or rounded one holds. Source: practice;
// it differs from hand to hand, so the page says it.
const heap = 1.5

func isSpoon(u measure.Unit) bool { return u.ID == "tsp" || u.ID == "tbsp" || u.ID == "dessertspoon" }

var (
	unread      = pattern.Must(`[1-9½¼¾⅓⅔⅛]`)
	percentSign = pattern.Must(
		`\d+(?:[.,]\d+)?\s*%|\b0{2}\b|\b\d:\d|\bfor [\dx× ]+[^,;]*`,
	) // numbers that are no amount
)

// withSkin tells that a food was weighed with what is not eaten of it.
var withSkin = en.SignOf("with-skin")

// weigh works out the grams of a line and says how.
func (r *reading) weigh(l *recipe.Line, unit measure.Unit, size string, w writtenAmounts) {
	if l.Ingredient == "" {
		if g := l.Amount.Mid() * unit.Factor; unit.Kind == measure.Mass &&
			g <= maxGrams { // the weight at least is known
			l.Grams, l.How = g, "as written"
		}
		return
	}
	ing := r.foods.Get(l.Ingredient)
	if l.Amount.IsZero() {
		switch {
		case w.grams > 0:
			weighs(l, w.grams, "as written")
		case r.opt.Amounts[Measure(*l)] > 0:
			weighs(l, r.opt.Amounts[Measure(*l)], "as you settled it")
		case w.ml > 0: // "sea salt (1 tsp)"
			per, _, ok := r.density(ing, l)
			if !ok {
				l.Doubt = fmt.Sprintf("what a spoon or cup of %s weighs is not known: give it in grams", ing.Name)
				return
			}
			weighs(l, w.ml*per, "by the volume written")
		case unread.MatchString(percentSign.ReplaceAllString(l.Text, "")):
			l.Doubt = "A number stands in it that was not understood: how much is it?"
			return
		default:
			weighs(l, 0, "not weighed")
		}
		return
	}
	grams, how, doubt := r.grams(l, ing, unit, size, w)
	if unit.ID == "pint" || unit.ID == "quart" {
		r.Findings = append(
			r.Findings, Finding{"pint", "note", pintWords(r.opt.Kitchen.Pint), recipe.LineID(r.found + 1)},
		)
	}
	if w.grams > 0 {
		if grams > 0 && unit.Kind != measure.NoUnit && differ(grams, w.grams) > apart && doubt == "" {
			severity := "look"
			if unit.Kind == measure.Mass && differ(grams, w.grams) < 0.2 { // ounces are often rounded that far
				severity = "note"
			}
			r.Findings = append(r.Findings, Finding{"amounts-differ", severity,
				disagree(l, unit, grams, w.grams), recipe.LineID(r.found + 1)})
		}
		if unit.Kind != measure.Mass || grams == 0 {
			grams, how, doubt = w.grams, "by the weight written", ""
		}
	}
	if doubt != "" {
		l.Doubt = doubt
		return
	}
	if (w.grams > 0 || unit.Kind == measure.Mass) && ing.Edible < 1 && withSkin.In(l.Text) {
		grams, how = grams*ing.Edible, fmt.Sprintf("%s, of which %.0f %% is left when it is peeled", how, 100*ing.Edible)
	}
	weighs(l, grams, how)
}

// weighs settles what a line weighs, or doubts what is more than an oven holds.
func weighs(l *recipe.Line, grams float64, how string) {
	if grams > maxGrams {
		l.Known, l.Doubt = false, fmt.Sprintf("%s is more than a home oven bakes: is the unit right?", measure.Grams(grams))
		return
	}
	l.Grams, l.How, l.Known = grams, how, true
}

func pintWords(used measure.Millilitres) string {
	if used == measure.UKPint {
		return "A pint is 568 ml in Britain and 473 ml in the US. The British one is used, since the text uses British words."
	}
	return "A pint is 473 ml in the US and 568 ml in Britain. The US one is used."
}

// disagree says how two amounts of one line differ, and which is used.
func disagree(l *recipe.Line, unit measure.Unit, first, second float64) string {
	written := strings.TrimSpace(l.Amount.String() + " " + unit.Words(l.Amount))
	if unit.Kind == measure.Mass {
		return fmt.Sprintf(
			"%s: %s and %s are written side by side, and they differ. The first is used.", l.Name, written,
			measure.Grams(second),
		)
	}
	return fmt.Sprintf(
		"%s: %s is about %s, but %s is written beside it. The weight is used.", l.Name, written, measure.Grams(first),
		measure.Grams(second),
	)
}

func (r *reading) grams(
	l *recipe.Line, ing *larder.Ingredient, unit measure.Unit, size string, w writtenAmounts,
) (g float64, how, doubt string) {
	switch unit.Kind {
	case measure.Mass:
		return r.weighed(l, ing, unit, w)
	case measure.Volume:
		return r.spooned(l, ing, unit, w)
	}
	n := l.Amount.Mid()
	if one := r.opt.Amounts[Measure(*l)]; one > 0 && size == "" && w.grams == 0 && w.ml == 0 {
		return n * one, fmt.Sprintf("%s × %s, as you settled it", l.Amount, measure.Grams(one)), ""
	}
	if _, own := r.pieceWeight(ing, unit, ""); (unit.ID == "stick" || unit.ID == "knob" || unit.ID == "square") && !own {
		how = fmt.Sprintf("%s %s × %s", l.Amount, unit.Words(l.Amount), measure.Grams(unit.Factor))
		if w.words != "" { // "1 stick + 2 tbsp butter"
			how += " " + w.words
		}
		per, _, _ := r.density(ing, l)
		return n*unit.Factor + w.plusG + w.plusML*per, how, ""
	}
	if unit.ID == "handful" {
		return n * 40, fmt.Sprintf("%s handful × 40 g", l.Amount), "" // 40 g of dried fruit, practice
	}
	if w.ml > 0 { // "2 bananas, mashed (about 1 1/3 cups)"
		if per, _, ok := r.density(ing, l); ok {
			return w.ml * per, "by the volume written", ""
		}
	}
	for _, word := range strings.Fields(larder.Normal(l.Phrase)) { // "2 limes, juice only", "8 medjool dates"
		if row, ok := ing.WeightHow(word); ok && row.Unit == "piece" && unit.Kind == measure.NoUnit && size == "" {
			size = word
		}
	}
	if ing.Origin == "egg" {
		size = r.eggSize(l, size)
	}
	if row, ok := r.pieceWeight(ing, unit, size); ok {
		how = fmt.Sprintf("%s × %s", l.Amount, row.Grams)
		if of, eu := strings.CutPrefix(row.How, "eu-"); eu {
			how += ", " + of + " by European sizes"
		} else if row.How == "small" || row.How == "medium" || row.How == "large" || row.How == "extra-large" {
			how += ", " + row.How
		} else {
			how += " a " + row.How
		}
		if w.words != "" { // "1 stick + 2 tbsp butter"
			how += " " + w.words
		}
		per, _, _ := r.density(ing, l)
		return n*float64(row.Grams) + w.plusG + w.plusML*per, how, ""
	}
	if w.grams > 0 {
		return 0, "", ""
	}
	switch {
	case unit.Holds():
		return 0, "", fmt.Sprintf("how much is in the %s of %s? Give it in grams or millilitres", unit.ID, ing.Name)
	case unit.ID == "":
		return 0, "", fmt.Sprintf("%s %s: in what? Give a unit, or grams", l.Amount, l.Phrase)
	}
	return 0, "", fmt.Sprintf("what a %s of %s weighs is not known: give it in grams", unit.ID, ing.Name)
}

// weighed are the grams of a line by weight.
func (r *reading) weighed(
	l *recipe.Line, ing *larder.Ingredient, unit measure.Unit, w writtenAmounts,
) (g float64, how, doubt string) {
	g, how = l.Amount.Mid()*unit.Factor, "as written"
	if unit.ID != "g" {
		how = fmt.Sprintf("%s %s × %s g", l.Amount, unit.ID, measure.Digits(unit.Factor, 4))
	}
	if w.plusML > 0 { // "250 g flour, plus 2 tbsp"
		per, _, ok := r.density(ing, l)
		if !ok {
			return 0, "", fmt.Sprintf("what a spoon of %s weighs is not known: give it in grams", ing.Name)
		}
		g, how = g+w.plusML*per, how+" "+w.words
	}
	return g + w.plusG, how, ""
}

// spooned are the grams of a line by volume.
func (r *reading) spooned(
	l *recipe.Line, ing *larder.Ingredient, unit measure.Unit, w writtenAmounts,
) (g float64, how, doubt string) {
	ml := l.Amount.Mid()*float64(r.opt.Kitchen.ML(unit)) + w.plusML
	per, row, ok := r.density(ing, l)
	if !ok {
		if w.ml > 0 || w.grams > 0 {
			return 0, "", ""
		}
		return 0, "", fmt.Sprintf("what a %s of %s weighs is not known: give it in grams", unit.ID, ing.Name)
	}
	yours := r.opt.Spoons[Spoonful(unit.ID, ing.ID)]
	if yours > 0 {
		per *= yours
	}
	one := float64(r.opt.Kitchen.ML(unit)) * per
	if w.heaped && isSpoon(unit) {
		ml *= heap
	}
	how = fmt.Sprintf("%s %s × %s g", l.Amount, unit.Words(l.Amount), measure.Digits(one, 3))
	if row.How != "liquid" && row.How != "level" {
		how += ", " + row.How
	}
	if yours > 0 {
		how += ", as yours was learned"
	}
	if w.heaped && isSpoon(unit) {
		how += ", heaped: taken as 1½ level"
	}
	if w.words != "" {
		how += " " + w.words
	}
	return ml*per + w.plusG, how, ""
}

// Measure names what is counted in a line, as a household's weight for one of it
// is kept: "tin coconut milk", "piece pear", "some butter" where the line gives no
// amount. It is "" for a line by weight or volume, which needs none.
func Measure(l recipe.Line) string {
	u, _ := measure.UnitByID(l.Unit)
	if u.Kind == measure.Mass || u.Kind == measure.Volume {
		return ""
	}
	of := l.Unit
	switch {
	case l.Amount.IsZero():
		of = "some"
	case of == "":
		of = "piece"
	}
	return of + " " + larder.Normal(l.Phrase)
}

// Spoonful names a spoon or cup of an ingredient, as what a household's weighs is kept: "tbsp flax-ground".
func Spoonful(unit string, of larder.ID) string { return unit + " " + string(of) }

// density picks the row for how the line says it is filled, else the kitchen's.
func (r *reading) density(ing *larder.Ingredient, l *recipe.Line) (float64, larder.Weight, bool) {
	k := r.opt.Kitchen
	before := strings.Fields(strings.ToLower(l.Phrase))
	all := append(before, strings.Fields(strings.ToLower(l.Note))...)
	for n, word := range all {
		word = strings.Trim(word, ",.()")
		if word == "sifted" && n >= len(before)-1 {
			continue // "1 cup flour, sifted" is measured first, "1 cup sifted flour" after
		}
		if row, ok := ing.WeightHow(word); ok && row.Unit != "piece" {
			k.Filling = word
		}
	}
	return ing.MLGrams(k)
}

var (
	euSizes  = pattern.Must(`\b(?:EU|UK|European|British)\b`)
	usSizes  = pattern.Must(`\b(?:US|USA|American)\b`)
	noteSize = pattern.Must(`(?i)\b(small|medium|extra[- ]large|large)\b`)
)

// eggSize is the size of the eggs of a line as a row of weights knows it. A size means what
// the line says, else the kitchen, else the words of the text: a European large egg is a US
// extra large. No size is the same egg of 50 g in both.
func (r *reading) eggSize(l *recipe.Line, size string) string {
	if m := noteSize.FindString(l.Note); size == "" && m != "" {
		size = m
	}
	eu := r.opt.Kitchen.Eggs == measure.EUEggs
	switch {
	case euSizes.MatchString(l.Text):
		eu = true
	case usSizes.MatchString(l.Text):
		eu = false
	}
	size = sizeOf(size)
	if eu && size != "" {
		return "eu-" + size
	}
	return size
}

// sizeOf brings the ways to write a size to one.
func sizeOf(size string) string {
	switch size = strings.ToLower(size); size {
	case "big", "lg", "lg.":
		return "large"
	case "med", "medium-sized":
		return "medium"
	case "sm":
		return "small"
	case "extra-large", "extra large", "extra", "xl":
		return "extra-large"
	}
	return size
}

// pieceWeight finds what one piece weighs: the stated size, the unit's own row
// ("sachet"), else large for eggs and medium for the rest.
func (r *reading) pieceWeight(ing *larder.Ingredient, unit measure.Unit, size string) (larder.Weight, bool) {
	usual := "medium"
	if ing.Origin == "egg" {
		usual = "large"
	}
	tries := []string{sizeOf(size), usual, "lemon", "whole"}
	if unit.ID != "" && unit.ID != "piece" {
		tries = []string{unit.ID}
	}
	for _, how := range tries {
		if w, ok := ing.WeightHow(how); ok && w.Unit == "piece" {
			return w, true
		}
	}
	return larder.Weight{}, false
}
