package nutrition

import (
	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

// trace is what 100 g of a food may hold of a figure and count as free of it, in the
// row's unit. Source: published, EU 1924/2006 annex: energy-free, fat-free,
// saturated-fat-free, sugars-free and sodium-free; the others by their likeness.
var trace = map[string]float64{
	"energy": 4, "fat": 0.5, "saturates": 0.1, "carbohydrate": 0.5, "sugars": 0.5,
	"added": 0.5, "fibre": 0.5, "protein": 0.5, "salt": 0.0125, "net-carb": 0.5,
}

// greases says that a line is for the tin and not for the bake: the few grams that stick
// are by common practice not counted.
var greases = pattern.Must(
	`(?i)\bgreas|\bfor (?:the|lining|buttering|oiling) (?:tin|pan|dish|sheet|tray|mould|mold)|\bto (?:grease|line)\b`,
)

// Gap is a line that a sum leaves out, though it may add to it.
type Gap struct {
	Line   recipe.LineID `json:"line"`
	Text   string        `json:"text"`
	Unread bool          `json:"unread,omitempty"` // not understood: it could hold anything; else its amount is not given
}

// Gaps lists the lines that the sum of one figure leaves out and that could add to it: what
// was not understood, and what holds more than a trace of it but has no amount ("icing
// sugar, to taste"). What greases a tin is passed over. The figure is then no more than
// "at least".
func Gaps(r *recipe.Recipe, l *larder.Larder, row Row) []Gap {
	var out []Gap
	for _, ln := range r.Lines {
		i := l.Get(ln.Ingredient)
		switch {
		case !ln.Known || i == nil:
			out = append(out, Gap{ln.ID, ln.Text, true})
		case ln.Grams == 0 && !greases.MatchString(ln.Note+" "+ln.Text):
			f := Of(i)
			if *row.Of(&f) > trace[row.ID] {
				out = append(out, Gap{ln.ID, ln.Text, false})
			}
		}
	}
	return out
}

// RowOf finds the figure with that id.
func RowOf(id string) (Row, bool) {
	for _, row := range Rows {
		if row.ID == id {
			return row, true
		}
	}
	return Row{}, false
}

// AllGaps lists the lines that any figure leaves out, each once.
func AllGaps(r *recipe.Recipe, l *larder.Larder) []Gap {
	var out []Gap
	seen := map[recipe.LineID]bool{}
	for _, row := range Rows {
		for _, g := range Gaps(r, l, row) {
			if !seen[g.Line] {
				seen[g.Line] = true
				out = append(out, g)
			}
		}
	}
	return out
}
