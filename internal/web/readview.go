package web

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kollaris/core/device"
	"kollaris/core/diet"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/tin"
	"kollaris/internal/store"
)

// readView is the Read screen: the text on one side, what was understood on the
// other.
type readView struct {
	DraftID   int64
	Rev       int64
	RecipeID  int64 // 0 for a new recipe
	Title     string
	Rail      []railItem
	Words     string // "11 of 12 lines understood. 1 to settle."
	Settled   bool
	Stop      bool // something must be mended before it is baked
	Wrong     int  // the line of the first thing that looks wrong; 0 for none
	Text      string
	Source    []sourcePart
	Rows      []readRow
	Facts     []factField
	Findings  []findingView // those that belong to no line
	Tasks     []taskRow
	TasksOpen bool
	TaskFault string   // of the correction of a task
	StepWords string   // "5 steps"
	Notes     []string // what stands before the ingredients
	Names     []string // of the larder, for completion
	Units     []string
	Kept      bool      // a kept recipe shown, not a draft
	Times     []termRow // what is done beside the oven, its stages, the sign that it is done
	Cautions  []review.Caution
	Take      takeView
	Bakers    *bakersView // nil when nothing counts as flour
	Skipped   []skippedLine
	Back      string // what would be taken back, "" for nothing
}

// sourcePart is a stretch of the source text, marked or plain.
type sourcePart struct {
	Text string
	Kind string // "" plain
	Line int
}

// skippedLine is a line that the baker says is no ingredient.
type skippedLine struct{ Key, Text string }

type readRow struct {
	Line       int
	Key        string // among the corrections
	Section    string // set where a section begins
	Role       string // of that section, in words
	Roles      []readChoice
	Text       string
	Phrase     string // what stands there for the ingredient
	Grams      string
	Name       string
	How        string
	Note       string
	Known      bool
	Doubt      string
	Choices    []readChoice
	Amount     string
	Unit       string
	Ingredient string
	Optional   bool
	Fixed      bool
	Open       bool
	Findings   []findingView
}

type readChoice struct {
	ID, Name string
}

// factField is one fact that stands outside the lines, as picked out or typed.
type factField struct {
	field
	Note    string       // how it was come by
	Asks    string       // what is not sure of it
	Or      []string     // what it may be instead
	Options []readChoice // a choice rather than free text
}

func (s *Server) readView(rd *reader.Reading, text string, typed store.Typed, open int) readView {
	r := rd.Recipe
	v := readView{Title: r.Title, Text: text, Source: sourceParts(text, rd.Marks)}
	if v.Title == "" {
		v.Title = "A recipe without a name"
	}
	unknown := len(r.Unknown())
	v.Settled = unknown == 0 && len(r.Lines) > 0
	switch {
	case len(r.Lines) == 0:
		v.Words = "No ingredient line was found. Put each ingredient on a line of its own, its amount first."
	case unknown == 0 && len(r.Lines) == 1:
		v.Words = "The one line is understood."
	case unknown == 0:
		v.Words = "All " + plural(len(r.Lines), "line") + " understood."
	default:
		v.Words = fmt.Sprintf(
			"%d of %s understood. %d to settle.", rd.Understood(), plural(len(r.Lines), "line"), unknown,
		)
	}
	section := ""
	lines := slices.Clone(r.Lines)
	slices.SortStableFunc(lines, func(a, b recipe.Line) int { return known(a) - known(b) }) // questions first
	for _, l := range lines {
		_, fixed := typed.Fixes[rd.Keys[l.ID]]
		row := readRow{
			Line: int(l.ID), Key: rd.Keys[l.ID], Text: l.Text, Phrase: l.Phrase, Name: l.Name, How: l.How, Note: l.Note,
			Known: l.Known, Doubt: l.Doubt, Amount: l.Amount.String(), Unit: l.Unit, Optional: l.Optional, Fixed: fixed,
			Open: int(l.ID) == open || !l.Known,
		}
		if ing := s.kit.Larder.Get(l.Ingredient); ing != nil {
			row.Ingredient = ing.Name
		}
		if l.Grams > 0 {
			row.Grams = measure.Grams(l.Grams).String()
		} else {
			row.Grams = "—"
		}
		if l.Known && l.Section != section {
			section = l.Section
			row.Section, row.Role, row.Roles = l.Section, roleWords[l.Role], roleChoices(l.Role)
			if l.Section == "" {
				row.Roles = nil // what has no heading has no name to be corrected by
			}
		}
		for _, id := range l.Choices {
			row.Choices = append(row.Choices, readChoice{string(id), s.kit.Larder.Get(id).Name})
		}
		v.Rows = append(v.Rows, row)
	}
	for _, l := range rd.Skipped {
		v.Skipped = append(v.Skipped, skippedLine{rd.Keys[l.ID], l.Text})
	}
	s.findings(&v, rd)
	v.Tasks = taskRows(r, s.kit.Larder)
	v.StepWords = fmt.Sprintf("%s of the method, %s to do", plural(len(r.Steps), "step"), plural(len(v.Tasks), "thing"))
	v.Notes = r.Notes
	v.Times = timeRows(r, s.kit.Kitchen)
	v.Cautions = review.Cautions(r, s.kit.Larder, diet.Demand{}, nil)
	for n := range v.Cautions {
		v.Cautions[n].Text = s.kit.Kitchen.Say(v.Cautions[n].Text)
	}
	v.Bakers = bakersOf(r, s.kit.Larder)
	v.Facts = s.factFields(r, rd.Faults, typed.Facts)
	for n := range v.Facts {
		if f := &v.Facts[n]; f.Name == "tin" && f.Fault == "" {
			f.Asks, f.Or = unsureTins(rd.Tins)
		}
	}
	if typed.Facts.Kind == "" && len(r.Lines) > 0 {
		v.Facts[1].Note = fmt.Sprintf("%s: %s", phrase.Capital(string(rd.Kind.Sure)), rd.Kind.Why)
	}
	for _, i := range s.kit.Larder.All() {
		v.Names = append(v.Names, i.Name)
	}
	for _, u := range measure.Units {
		v.Units = append(v.Units, u.ID)
	}
	return v
}

// timeRows are the times and signs that the steps give.
func timeRows(r *recipe.Recipe, k measure.Kitchen) []termRow {
	var out []termRow
	for _, w := range r.Waits {
		words := "until " + w.Until
		if w.Minutes.Max > 0 {
			words = durationWords(w.Minutes)
			if w.Until != "" {
				words += ", until " + w.Until
			}
		}
		if n := len(out); n > 0 && out[n-1].Name == phrase.Capital(string(w.What)) {
			out[n-1].Value += ", then " + words
			continue
		}
		out = append(out, termRow{Name: phrase.Capital(string(w.What)), Value: words})
	}
	if len(r.Stages) > 0 {
		var stages []string
		for _, st := range r.Stages {
			s := durationWords(st.Minutes)
			if st.Oven > 0 {
				s += " at " + k.OvenText(st.Oven)
			}
			stages = append(stages, s)
		}
		out = append(out, termRow{Name: "In the oven", Value: strings.Join(stages, ", then ")})
	}
	if r.Done != "" {
		out = append(out, termRow{Name: "Done when", Value: r.Done})
	}
	return out
}

// durationWords writes minutes as a cook says them: "45 min", "1½ h", "8–12 h", "2–3 days".
func durationWords(m recipe.Minutes) string {
	unit, per := "min", 1.0
	switch {
	case m.Min >= 1440 && int(m.Min)%1440 == 0 && int(m.Max)%1440 == 0:
		unit, per = "days", 1440
		if m.Max == 1440 {
			unit = "day"
		}
	case m.Min >= 60 && int(m.Min)%30 == 0 && int(m.Max)%30 == 0:
		unit, per = "h", 60
	}
	return strings.ReplaceAll(rangeWords(recipe.Minutes{Min: m.Min / per, Max: m.Max / per}), ".5", "½") + " " + unit
}

// known orders the lines that need an answer before those that do not.
func known(l recipe.Line) int {
	if l.Known {
		return 1
	}
	return 0
}

func (s *Server) factFields(r *recipe.Recipe, faults map[string]string, typed reader.Facts) []factField {
	pick := func(read, was, fault string) string {
		if fault != "" {
			return was // keep what was typed
		}
		return read
	}
	num := func(n int) string {
		if n == 0 {
			return ""
		}
		return fmt.Sprint(n)
	}
	oven, time, tinName := "", "", ""
	if r.Oven > 0 {
		oven = asWritten(r.Oven)
	}
	if r.Bake.Max > 0 {
		time = rangeWords(r.Bake) + " min"
	}
	if len(r.Tins) > 0 {
		tinName = tin.Together(r.Tins, r.OtherTins)
	}
	box := func(name, words, value, hint string) field {
		return field{ID: "f-" + name, Name: name, Words: words, Value: value, Hint: hint, Fault: faults[name]}
	}
	kinds := factField{field: box("kind", "Kind of bake", string(r.Kind), "")}
	for _, k := range recipe.Kinds {
		kinds.Options = append(kinds.Options, readChoice{string(k.ID), k.Words})
	}
	in := factField{field: box("device", "Baked in", r.Device, "")}
	in.Options = append(in.Options, readChoice{device.Oven, "an oven"})
	for _, d := range device.All() {
		in.Options = append(in.Options, readChoice{d.Name, deviceWords(d.Name)})
	}
	return []factField{
		{field: box("title", "Name", r.Title, "")},
		kinds,
		{field: box("servings", "Serves", pick(num(r.Servings), typed.Servings, faults["servings"]), "8?")},
		{field: box("tin", "Tin", pick(tinName, typed.Tin, faults["tin"]), "loaf 9x5 in")},
		{field: box("oven", "Oven", pick(oven, typed.Oven, faults["oven"]), "180 °C")},
		{field: box("time", "Time", pick(time, typed.Time, faults["time"]), "50–55 min")},
		in,
	}
}

// deviceWords is a device with its article; what sets in the cold is baked in nothing.
func deviceWords(name string) string {
	switch {
	case name == "fridge":
		return "nothing: it sets cold"
	case strings.ContainsAny(name[:1], "aeiou"):
		return "an " + name
	}
	return "a " + name
}

// asWritten is a heat in the scale in which it is a round figure: what the field sends back is what was read.
func asWritten(c measure.Celsius) string {
	f := c.Fahrenheit()
	if off := math.Abs(float64(c) - 5*math.Round(float64(c)/5)); off > 0.1 && math.Abs(f-5*math.Round(f/5)) < 0.6 {
		return fmt.Sprintf("%.0f °F", 5*math.Round(f/5))
	}
	return (measure.Kitchen{}).OvenText(c)
}

// roleWords say what a part is of the whole.
var roleWords = map[recipe.Role]string{
	recipe.Batter: "goes into the batter or dough", recipe.Preferment: "made ahead, goes into the dough", recipe.Scald: "cooked paste, goes into the dough",
	recipe.Soaker: "soaked, goes in", recipe.CrumbBase: "crumb base", recipe.Crust: "pastry case", recipe.Filling: "filling", recipe.Icing: "icing",
	recipe.Glaze: "glaze", recipe.Syrup: "syrup", recipe.Topping: "topping", recipe.Sauce: "sauce", recipe.Wash: "brushed on before baking",
	recipe.Bath: "boiled in and thrown away", recipe.ToServe: "served with it",
}

// roleChoices are the other roles that a part may have, in the order of the roles.
func roleChoices(but recipe.Role) (out []readChoice) {
	for _, r := range recipe.Roles() {
		if r == but {
			continue
		}
		id := string(r)
		if r == recipe.Batter {
			id = reader.BatterRole
		}
		out = append(out, readChoice{id, roleWords[r]})
	}
	return out
}

// unsureTins is the first question of tins that were read, and each of its answers: all of them with that one.
func unsureTins(said []tin.Said) (asks string, or []string) {
	for n, x := range said {
		if x.Why == "" {
			continue
		}
		for _, t := range x.Or {
			var used, instead []tin.Tin
			for k, y := range said {
				if k == n {
					y.Tin = t
				}
				if y.Else {
					instead = append(instead, y.Tin)
				} else {
					used = append(used, y.Tin)
				}
			}
			or = append(or, tin.Together(used, instead))
		}
		return x.Why, or
	}
	return "", nil
}

// sourceParts cuts the text at the marks.
func sourceParts(text string, marks []reader.Mark) []sourcePart {
	var out []sourcePart
	at := 0
	for _, m := range marks {
		if m.From < at || m.To > len(text) {
			continue
		}
		if m.From > at {
			out = append(out, sourcePart{Text: text[at:m.From]})
		}
		out = append(out, sourcePart{text[m.From:m.To], m.Kind, int(m.Line)})
		at = m.To
	}
	if at < len(text) {
		out = append(out, sourcePart{Text: text[at:]})
	}
	return out
}
