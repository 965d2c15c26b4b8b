package format

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// Text writes a recipe as plain text that reads back to the same lines, facts and
// steps. A line stands as it was written, unless reading it again with larder l
// would not give what the recipe holds, for instance after a correction: then it
// is written from its parts.
func Text(r *recipe.Recipe, l *larder.Larder) string {
	return sheet(r, l, marks{heading: "%s", section: "For the %s:", line: "%s", step: "%d. %s"})
}

// Markdown writes a recipe as Markdown; it reads back like Text.
func Markdown(r *recipe.Recipe, l *larder.Larder) string {
	return sheet(
		r, l, marks{title: "# ", heading: "## %s", section: "### For the %s", line: "- %s", step: "%d. %s", gap: true},
	)
}

type marks struct {
	title, heading, section, line, step string
	gap                                 bool // an empty line around each heading
}

func sheet(r *recipe.Recipe, l *larder.Larder, m marks) string {
	var b strings.Builder
	put := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	gap := func() {
		if m.gap {
			b.WriteByte('\n')
		}
	}
	put("%s%s", m.title, oneLine(r.Title))
	gap()
	for _, f := range factLines(r) {
		put("%s", f)
	}
	b.WriteByte('\n')
	put(m.heading, "Ingredients")
	gap()
	sect := ""
	for _, ln := range r.Lines {
		if ln.Section != sect {
			sect = ln.Section
			gap()
			put(m.section, cmp.Or(sect, "cake"))
			gap()
		}
		put(m.line, lineText(ln, l))
	}
	b.WriteByte('\n')
	put(m.heading, "Method")
	gap()
	for n, st := range r.Steps {
		put(m.step, n+1, oneLine(st.Text))
	}
	if len(r.Notes) > 0 {
		b.WriteByte('\n')
		if first := strings.ToLower(r.Notes[0]); !strings.HasPrefix(first, "note") {
			put(m.heading, "Notes")
			gap()
		}
		for _, n := range r.Notes {
			put("%s", oneLine(n))
			gap()
		}
	}
	return b.String()
}

// factLines says what stands outside the lines: servings, tin, oven and time.
func factLines(r *recipe.Recipe) []string {
	var out []string
	if r.Servings > 0 {
		out = append(out, fmt.Sprintf("Serves %d", r.Servings))
	}
	if len(r.Tins) > 0 {
		out = append(out, "Tin: "+tin.Together(r.Tins, r.OtherTins))
	}
	if r.Oven > 0 {
		out = append(out, fmt.Sprintf("Oven: %.0f °C", float64(r.Oven)))
	}
	if m := r.Bake; m.Max > 0 {
		if m.Min == m.Max {
			out = append(out, fmt.Sprintf("Bake time: %g minutes", m.Max))
		} else {
			out = append(out, fmt.Sprintf("Bake time: %g to %g minutes", m.Min, m.Max))
		}
	}
	return out
}

// lineText writes a line so that it reads back to the same ingredient and grams.
func lineText(ln recipe.Line, l *larder.Larder) string {
	if text := oneLine(ln.Text); l.Get(ln.Ingredient) == nil || text != "" && same(text, ln, l) {
		return text
	}
	amount, unit, what, note := parts(ln, l)
	return join(amount, unit, what, note)
}

// parts gives a line in columns: as measured when that reads back to its grams,
// else in grams.
func parts(ln recipe.Line, l *larder.Larder) (amount, unit, what, note string) {
	ing := l.Get(ln.Ingredient)
	if ing == nil {
		return "", "", oneLine(ln.Text), ""
	}
	note = oneLine(ln.Note)
	if ln.Optional && !strings.Contains(note, "optional") {
		note = strings.TrimPrefix(note+", optional", ", ")
	}
	amount, unit = ln.Amount.String(), ln.Unit
	if unit == "piece" {
		unit = ""
	}
	if !ln.Amount.IsZero() && same(join(amount, unit, ing.Name, note), ln, l) {
		return amount, unit, ing.Name, note
	}
	return num(math.Round(ln.Grams*10) / 10), "g", ing.Name, note
}

func join(amount, unit, what, note string) string {
	text := oneLine(amount + " " + unit + " " + what)
	if note != "" {
		text += ", " + note
	}
	return text
}

// same reports whether text reads to the ingredient and grams of ln.
func same(text string, ln recipe.Line, l *larder.Larder) bool {
	got, ok := reader.ReadLine(text, reader.Options{Larder: l})
	return ok && got.Ingredient == ln.Ingredient && math.Abs(got.Grams-ln.Grams) <= 0.05+0.001*ln.Grams
}

func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }
