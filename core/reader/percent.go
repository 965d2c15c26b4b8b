package reader

import (
	"fmt"
	"math"
	"strings"

	"kollaris/core/measure"
	"kollaris/core/pattern"
)

// Bakers list a dough in percent of its flour: "flour 100 %, water 68 %, salt 2 %".
var (
	percentLast  = pattern.Must(`^([\pL][^\d%]{1,60}?)\s*[-–—:=,(.…]*\s*(\d{1,3}(?:[.,]\d+)?)\s*%\)?(.*)$`)
	percentFirst = pattern.Must(`^(\d{1,3}(?:[.,]\d+)?)\s*%\s*(?:of )?([\pL].{1,60})$`)
	percentGrams = pattern.Must(`(?i)\(?\b(\d{1,5}(?:[.,]\d+)?)\s*(g|kg)\b\)?`)
)

// usualFlour is the flour a list of percentages is worked out for when no weight
// stands in it, in g. Source: common practice, one tin loaf.
const usualFlour = 500

type share struct {
	what  string
	pct   float64
	grams float64 // written beside it; 0 for none
}

func percentOf(s string) (share, bool) {
	var sh share
	if !strings.ContainsRune(s, '%') {
		return sh, false // most lines
	}
	rest := ""
	if m := percentLast.FindStringSubmatch(s); m != nil {
		sh.what, rest, sh.pct = m[1], m[3], decimal(m[2])
	} else if m := percentFirst.FindStringSubmatch(s); m != nil {
		sh.what, sh.pct = m[2], decimal(m[1])
		if at := percentGrams.FindStringIndex(m[2]); at != nil {
			sh.what, rest = m[2][:at[0]], m[2][at[0]:]
		}
	} else {
		return sh, false
	}
	if m := percentGrams.FindStringSubmatch(rest); m != nil {
		rest = strings.Replace(rest, m[0], "", 1)
		sh.grams = decimal(m[1])
		if strings.EqualFold(m[2], "kg") {
			sh.grams *= 1000
		}
	}
	sh.what = strings.Trim(sh.what, " -–—:=,(.…")
	if rest = strings.Trim(rest, " ,;-–—()"); rest != "" {
		sh.what += ", " + rest
	}
	return sh, sh.what != "" && sh.pct > 0 && sh.pct <= 300
}

func decimal(s string) float64 {
	x, _ := measure.ParseDecimal(s)
	return x
}

// splitPercents parts "flour 100 %, water 68 %, salt 2 %" at its commas.
func splitPercents(p piece) []piece {
	if strings.Count(p.text, "%") < 3 || len(p.text) > 600 {
		return []piece{p}
	}
	return split(p, ", ")
}

// percents settles the flour that percentages are of, when the text is such a
// list: at least three lines in percent, whose flours come to 100.
func (r *reading) percents() {
	count, flour, grams := 0, 0.0, 0.0
	for _, p := range pieces(r.text) {
		sh, ok := percentOf(p.text)
		if !ok || len(p.text) > 100 {
			continue
		}
		name, _, _ := strings.Cut(sh.what, ",")
		m, ok := r.find(name)
		if !ok {
			continue
		}
		count++
		if i := r.foods.Get(m.ID); i != nil && i.IsBase() {
			flour += sh.pct
		}
		if sh.grams > 0 && grams == 0 {
			grams = sh.grams / sh.pct * 100
		}
	}
	if count < 3 || math.Abs(flour-100) > 2 {
		return
	}
	r.flour = grams
	if grams == 0 {
		r.flour = usualFlour
		r.Findings = append(
			r.Findings,
			Finding{
				Code: "percent", Severity: "note",
				Message: fmt.Sprintf(
					"The list is in percent of the flour, without a weight: worked out for %d g of flour.", usualFlour,
				),
			},
		)
	}
}

// amountOfPercent turns "water 68 %" into "340 g water" when the text is a list in
// percent, and says how.
func (r *reading) amountOfPercent(s string) (text, how string) {
	sh, ok := percentOf(s)
	if r.flour == 0 || !ok {
		return s, ""
	}
	if sh.grams > 0 {
		return fmt.Sprintf("%g g %s", sh.grams, sh.what), fmt.Sprintf("as written, %g %% of the flour", sh.pct)
	}
	return fmt.Sprintf(
		"%g g %s", math.Round(r.flour*sh.pct)/100, sh.what,
	), fmt.Sprintf("%g %% of %g g flour", sh.pct, math.Round(r.flour))
}
