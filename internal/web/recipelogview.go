package web

import (
	"fmt"
	"slices"

	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// recipeLogView is what was baked of a recipe.
type recipeLogView struct {
	Title, URL string
	Cups       string
	Rail       []railItem
	Rows       []logRow
	Line       *verdictLine
	Fault      string

	// to write a bake down
	On, Minutes, Who, Now string
	Of, Ovens             []choice
}

type logRow struct {
	URL, When, Title, Words, Overall string
	Best                             bool
	Pick                             string // by which it is ticked
	Facts, Since                     []string
	Told                             []string // all of it but when
	Picture                          int64
	PictureWords                     string
}

// verdictLine is how bakes were found through time, drawn.
type verdictLine struct {
	Width, Height int
	Path          string
	Points        []verdictPoint
	Levels        []label
	Summary       string
}

type verdictPoint struct {
	X, Y, When, Words, URL string
	Best                   bool
}

// draw draws the line of verdicts where there are two or more.
func (v *recipeLogView) draw(lines []store.Logged) {
	const wide, high, left = 640.0, 132.0, 110.0
	var said []store.Logged
	for _, l := range slices.Backward(lines) {
		if l.Overall > 0 {
			said = append(said, l)
		}
	}
	if len(said) < 2 {
		return
	}
	y := func(overall int) float64 { return high - 26 - float64(overall-1)*(high-44)/3 }
	line := &verdictLine{Width: int(wide), Height: int(high)}
	for n := 1; n < len(journal.Overall); n++ {
		line.Levels = append(line.Levels, label{"0", f1(y(n) + 5), journal.Overall[n], "start"})
	}
	for n, l := range said {
		x := left + (wide-left-34)*float64(n)/float64(len(said)-1)
		line.Path += map[bool]string{true: "M", false: "L"}[n == 0] + f1(x) + " " + f1(y(l.Overall))
		best := slices.ContainsFunc(v.Rows, func(r logRow) bool { return r.Best && r.URL == logURL(l.Bake, l.Strip) })
		line.Points = append(line.Points, verdictPoint{f1(x), f1(y(l.Overall)), l.At.Local().Format("2 Jan"), journal.Overall[l.Overall], logURL(l.Bake, l.Strip), best})
	}
	line.Summary = fmt.Sprintf("%d bakes through time, from %s to %s", len(said), journal.Overall[said[0].Overall], journal.Overall[said[len(said)-1].Overall])
	v.Line = line
}

// bakesBesideView is bakes side by side.
type bakesBesideView struct {
	Columns             []bakesBesideColumn
	Span                int
	Charts              bool
	Made, Amounts, Came []journal.Row
}

type bakesBesideColumn struct {
	Title, When, URL string
	Picture          int64
	PictureWords     string
	Chart            *coreChart
}

func (v *recipeLogView) fill(lines []store.Logged) {
	best := 0
	for _, l := range lines {
		best = max(best, l.Overall)
	}
	for _, l := range lines {
		row := logRow{URL: logURL(l.Bake, l.Strip), Pick: fmt.Sprintf("%d.%d", l.Bake, l.Strip), When: l.At.Local().Format("Monday 2 January 2006"), Title: l.Title, Words: l.Words}
		if l.Overall > 0 {
			if row.Overall = journal.Overall[l.Overall]; row.Words == row.Overall {
				row.Words = ""
			}
			row.Best = l.Overall == best && best >= 3
		}
		v.Rows = append(v.Rows, row)
	}
}
