package nutrition

import (
	"fmt"
	"strings"

	"kollaris/core/larder"
)

// Claim is a figure that a law ties to words. Meeting it is no certificate: a home
// kitchen is not measured.
type Claim struct {
	Words string // the law's
	Law   string // named
	Meets bool
	Why   string
}

// Claims holds a recipe against the figures of the laws, and against the written
// one where they compare. A serving is 1/servings. Gaps are the lines that a figure of
// Rows leaves out: what rests on such a figure is never claimed, and with a line that was
// not understood there are no claims at all.
func Claims(written, yours Total, servings int, gaps func(row string) []Gap) []Claim {
	for _, g := range gaps("energy") {
		if g.Unread {
			return nil
		}
	}
	per100, was100 := yours.Of100(), written.Of100()
	share := 1 / float64(max(1, servings))
	sugars, was := yours.Facts.Sugars()*per100, written.Facts.Sugars()*was100
	kcal, wasKcal := euKcal.of(&yours.Facts)*per100, euKcal.of(&written.Facts)*was100
	fibre := yours.Facts[larder.Fibre] * per100
	sodium := yours.Facts[larder.Sodium] * per100
	less := func(now, before float64) float64 {
		if before <= 0 {
			return 0
		}
		return 100 * (1 - now/before)
	}
	perKcal := 0.0
	if kcal > 0 {
		perKcal = 100 * fibre / kcal
	}
	const eu, us = "EU 1924/2006, annex", "21 CFR 101"
	g := func(x float64) string { return fmt.Sprintf("%.1f g", x) }
	out := []Claim{
		{"low sugars", eu, sugars <= 5, g(sugars) + " of sugars in 100 g; 5 at most"},
		{"sugars-free", eu, sugars <= 0.5, g(sugars) + " of sugars in 100 g; 0.5 at most"},
		{
			"reduced sugars", eu + " and 1047/2012", less(sugars, was) >= 30 && kcal <= wasKcal,
			fmt.Sprintf(
				"%.0f %% less sugars than written, energy %.0f against %.0f kcal in 100 g; 30 %% less and no more energy",
				less(sugars, was), kcal, wasKcal,
			),
		},
		{
			"source of fibre", eu, fibre >= 3 || perKcal >= 1.5,
			fmt.Sprintf("%s of fibre in 100 g, %.1f g in 100 kcal; 3 or 1.5", g(fibre), perKcal),
		},
		{
			"high fibre", eu, fibre >= 6 || perKcal >= 3,
			fmt.Sprintf("%s of fibre in 100 g, %.1f g in 100 kcal; 6 or 3", g(fibre), perKcal),
		},
		{"low sodium", eu, sodium <= 120, fmt.Sprintf("%.0f mg of sodium in 100 g; 120 at most", sodium)},
		{
			"sugar free", us + ".60(c)", yours.Facts.Sugars()*share < 0.5,
			g(yours.Facts.Sugars()*share) + " of sugars a serving; less than 0.5",
		},
		{
			"reduced sugar", us + ".60(c)",
			less(yours.Facts.Sugars()/yours.Baked, written.Facts.Sugars()/max(written.Baked, 1)) >= 25,
			fmt.Sprintf("%.0f %% less than written; 25", less(sugars, was)),
		},
		{
			"low sodium", us + ".61", yours.Facts[larder.Sodium]*share <= 140,
			fmt.Sprintf(
				"%.0f mg a serving; 140 at most, and in the reference amount", yours.Facts[larder.Sodium]*share,
			),
		},
	}
	for n, c := range out {
		row := "sugars"
		switch {
		case strings.Contains(c.Words, "fibre"):
			row = "energy" // what is left out may dilute it
		case strings.Contains(c.Words, "sodium"):
			row = "salt"
		}
		if open := gaps(row); len(open) > 0 {
			out[n].Meets, out[n].Why = false, fmt.Sprintf("not known: “%s” gives no amount", open[0].Text)
		}
	}
	return out
}
