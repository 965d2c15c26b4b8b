package adapt

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/step"
	"kollaris/core/swap"
)

// assemble puts the solved amounts into lines and writes the ledger.
func assemble(from amounts) assembled {
	r := assembled{amounts: from}
	if r.refused != nil {
		r.recipe = r.before
		return r
	}
	r.own()
	rec := r.written.Clone()
	var moved []Change
	for _, s := range r.slots {
		for _, sh := range s.Shares {
			if sh.Of == nil {
				if c := r.moveLine(rec.Line(sh.Line), s, sh.Grams); c != nil {
					moved = append(moved, *c)
					if c.Kind == Dropped {
						rec.Lines = slices.DeleteFunc(rec.Lines, func(l recipe.Line) bool { return l.ID == sh.Line })
					}
				}
				continue
			}
			if sh.Grams > 0.05 || s.Held {
				r.bring(sh, s)
			}
		}
		if len(s.Shares) == 0 {
			if c := r.addLine(s); c != nil {
				moved = append(moved, *c)
			}
		}
	}
	r.replace(rec)
	r.recipe = rec
	r.changes = []Change{}
	for _, g := range r.brings {
		r.changes = append(r.changes, r.swapChange(g))
		r.confidence = r.confidence.Worse(g.chosen.Confidence)
	}
	r.changes = append(append(r.changes, r.moved...), moved...)
	for _, l := range r.dropped {
		r.changes = append(r.changes, r.dropChange(l))
	}
	return r
}

// dropChange says why a line is left out.
func (r *assembled) dropChange(l recipe.Line) Change {
	why := "Left out, as you asked."
	if i := r.Larder.Get(l.Ingredient); i != nil && l.Optional {
		if v, w := r.demand.Judge(i); v != diet.Fine {
			why = phrase.Capital(w.Words()) + "; it is optional, so it is left out."
		}
	}
	return Change{
		Kind: Dropped, Title: l.Name, From: []Amount{r.amount(l)}, To: []Amount{}, Reason: why,
		Confidence: swap.WellTried,
	}
}

// bring puts a solved amount into the group's lines; two flours that become the same
// blend are one line, where the first of them stood.
func (r *assembled) bring(sh formula.Share, s *formula.Slot) {
	g, src := r.broughtBy(sh.Of), *r.written.Line(sh.For)
	ing, x, held := s.Ingredient, sh.Grams, s.Held
	if g.raw == nil {
		g.raw = map[recipe.LineID]float64{}
	}
	for n := range g.to {
		l := &g.to[n]
		if l.Ingredient == ing.ID && l.Section == src.Section && l.Grams > 0 {
			g.raw[l.ID] += x
			grams := g.raw[l.ID]
			if !held {
				grams = r.round(ing, grams)
			}
			r.setGrams(l, grams, held)
			return
		}
	}
	l := r.newLine(src, ing, x, held)
	l.Replaces = sh.For
	g.raw[l.ID] = x
	g.to = append(g.to, l)
}

// replace puts each group's new lines where its written line stood.
func (r *assembled) replace(rec *recipe.Recipe) {
	for _, g := range r.brings { // nothing comes in at less than a pinch
		g.to = slices.DeleteFunc(g.to, func(l recipe.Line) bool { return l.Grams <= 0 })
	}
	var out []recipe.Line
	for _, l := range rec.Lines {
		g := r.broughtOf(l.ID)
		if g == nil {
			out = append(out, l)
			continue
		}
		if l.Grams == 0 { // for greasing: the school's first part, unweighed
			nl := r.newLine(l, formula.Part(g.School.Parts[0], l, r.Larder), 0, false)
			nl.Replaces = l.ID
			g.to = append(g.to, nl)
			out = append(out, nl)
			continue
		}
		for n := range g.to {
			if g.to[n].Replaces == l.ID {
				out = append(out, g.to[n])
			} else if g.Topping && l.ID == g.Lines[0].ID {
				out = append(out, g.to[n])
			}
		}
	}
	rec.Lines = append(out, r.extra...)
}

// moveLine changes an existing line when it has moved by enough to be measured.
func (r *assembled) moveLine(l *recipe.Line, s *formula.Slot, x float64) *Change {
	x2 := x
	if !s.Held {
		x2 = r.round(s.Ingredient, x)
	}
	step := 0.03*l.Grams + 1
	if formula.Spooned(s.Ingredient, l.Grams) {
		step = formula.Teaspoon(r.Kitchen, s.Ingredient) / 8 * 0.9
	}
	if math.Abs(x2-l.Grams) < step && !s.Held || math.Abs(x2-l.Grams) < 0.01 {
		return nil
	}
	from := r.amount(*l)
	_, held := r.holds[s.Ingredient.ID]
	if x2 < 0.01 {
		if held {
			x2 = 0
		} else {
			l.Grams = 0
			return &Change{
				Kind: Dropped, Title: l.Name, From: []Amount{from}, To: []Amount{},
				Reason: r.moveReason(s.Ingredient, from.Grams, 0, false), Confidence: swap.WellTried,
			}
		}
	}
	r.setGrams(l, x2, held)
	to := r.amount(*l)
	to.Held = held
	return &Change{
		Kind: Moved, Title: l.Name, From: []Amount{from}, To: []Amount{to},
		Reason: r.moveReason(s.Ingredient, from.Grams, x2, held), Confidence: swap.WellTried,
	}
}

// addLine brings in powder or salt that the recipe did not have.
func (r *assembled) addLine(s *formula.Slot) *Change {
	x := r.round(s.Ingredient, s.Grams)
	if x < 0.7 || s.Ingredient.Family == larder.FamilyLift && x < 1 { // less is not worth a spoon
		return nil
	}
	l := r.newLine(recipe.Line{Grams: x}, s.Ingredient, x, s.Held)
	r.extra = append(r.extra, l)
	return &Change{
		Kind: Added, Title: l.Name, From: []Amount{}, To: []Amount{r.amount(l)},
		Reason: r.moveReason(s.Ingredient, 0, x, false), Confidence: swap.WellTried,
	}
}

func (r *assembled) uses(ids ...string) bool {
	for _, g := range r.picks {
		for _, id := range ids {
			if !g.Topping && g.Use.ID == id {
				return true
			}
		}
	}
	return false
}

// moveReason says in one sentence why an amount moved.
func (r *assembled) moveReason(i *larder.Ingredient, from, to float64, held bool) string {
	if held {
		return "Held by you; the rest was worked out around it."
	}
	up := to > from
	switch {
	case i.ID == "baking-soda":
		return "Less acid is left to meet it, and soda that meets no acid tastes soapy."
	case i.ID == "egg":
		return "This base brings no starch and no gluten to set: whole eggs do that work."
	case i.Family == larder.FamilyYeast:
		return "A batter without gluten loses gas, so it gets more yeast and one proof."
	case r.becoming.Is(balance.GlutenFree) && i.ID == "baking-powder" && up:
		return "A gluten-free crumb holds less of its gas: a quarter more lift, and what the flour brought."
	case r.becoming.Is(balance.Nut) && i.ID == "baking-powder":
		return "A teaspoon to a cup of nut flour."
	case r.becoming.Is(balance.GlutenFree) && formula.MovesAs(i) == "liquid" && up:
		return "Gluten-free flours and starches drink more."
	case r.becoming.Is(balance.Nut) && formula.MovesAs(i) == "liquid" && !up:
		return "Nut flour drinks little."
	case r.becoming.Is(balance.Nut) && formula.MovesAs(i) == "fat" && !up:
		return "The nuts bring fat of their own."
	case i.ID == "baking-powder" && up && r.uses("egg", "egg-white"):
		return "The eggs held air; without them powder takes over that lift."
	case i.ID == "baking-powder" && up:
		return "Takes over the lift that soda and acid no longer give."
	case i.ID == "baking-powder":
		return "What came in brings lift of its own."
	case i.Family == larder.FamilySalt && r.wishes(diet.Sodium):
		return "Salt gives way first to the sodium you allow a serving."
	case i.Family == larder.FamilySugar && (r.wishes(diet.AddedSugars) || r.wishes(diet.Sugars) || r.wishes(diet.NetCarb)):
		return "Gives way to the limit of a serving."
	case i.Family == larder.FamilySalt && up:
		return "Brings back the salt that went out with what was replaced."
	case i.Family == larder.FamilySalt:
		return "What came in brings salt of its own."
	case i.Family == larder.FamilySugar:
		return "What came in brings sugar of its own, so less is needed."
	case formula.MovesAs(i) == "fat" && !up:
		return "What came in brings fat of its own, so less is needed."
	case formula.MovesAs(i) == "fat":
		return "What came in is leaner, so more fat is needed."
	case up:
		return "Brings back the water that went out with what was replaced."
	}
	return "What came in is wetter, so less liquid is needed."
}

// wishes reports whether the written recipe passes a limit of what.
func (r *scaled) wishes(what diet.Limited) bool {
	return slices.ContainsFunc(r.exceeded, func(l diet.Limit) bool { return l.What == what })
}

// pieces counts the eggs as written: four medium ones are four, whatever they weigh.
func (g *group) pieces() float64 {
	n := 0.0
	for _, l := range g.Lines {
		if l.Unit != "" || l.Amount.IsZero() {
			return g.Per()
		}
		n += l.Amount.Mid()
	}
	return n
}

// title names what a group replaces: "2 eggs", "115 g unsalted butter".
func (g *group) title(k measure.Kitchen) string {
	if g.Use.Piece != "" {
		n := math.Round(g.pieces()*4) / 4
		text, _ := measure.Fraction(n)
		name := g.Use.Title
		if n > 1 {
			name += "s"
		}
		if text == "0" {
			return name
		}
		return text + " " + name
	}
	sum := 0.0
	for _, l := range g.Lines {
		sum += l.Grams
	}
	name := g.Lines[0].Name
	if onlyID(g.Lines) == "" {
		name = g.Use.Title
	}
	if sum == 0 {
		return name
	}
	return measure.Grams(sum).String() + " " + name
}

func (r asked) amount(l recipe.Line) Amount {
	a := Amount{Line: l.ID, Ingredient: l.Ingredient, Name: l.Name, Grams: l.Grams, Held: l.Origin == recipe.Held}
	if i := r.Larder.Get(l.Ingredient); i != nil {
		a.Measure = r.Measure(i, l.Grams)
	}
	return a
}

func (r *assembled) swapChange(g *brought) Change {
	c := Change{
		Kind: Swapped, Use: g.key, Title: g.title(r.Kitchen), Breaks: g.breaks.words(), Why: g.breaks.reason,
		School: g.chosen.School.ID, SchoolName: g.chosen.School.Title, Effect: g.chosen.School.Effect,
		Confidence: g.chosen.Confidence, New: g.chosen.New, Options: r.options(g.pick),
	}
	c.Role = g.Use.Role(string(r.written.Kind))
	if !g.Topping {
		c.Jobs, c.Job = g.Use.Jobs, r.req.Jobs[g.key]
	}
	if g.Topping {
		c.Role = "in the " + g.Lines[0].Section
	}
	for _, l := range g.Lines {
		c.From = append(c.From, r.amount(l))
	}
	for _, l := range g.to {
		c.To = append(c.To, r.amount(l))
	}
	c.Reason = phrase.Capital(r.Kitchen.Say(step.Fill(r.reason(g), r.values(g))))
	if g.Per() == 0 { // for the tin only
		c.Reason = phrase.Capital(g.chosen.School.Title) + " does as well."
		return c
	}
	if len(g.chosen.Say) > 0 {
		c.Reason += " " + phrase.Capital(strings.Join(g.chosen.Say, "; ")) + "."
	}
	return c
}

// values are the words for the holes of a school's texts.
func (r *assembled) values(g *brought) map[string]string {
	sum := map[larder.ID]float64{}
	for _, l := range g.to {
		sum[l.Ingredient] += l.Grams
	}
	v := map[string]string{"n": g.title(r.Kitchen)}
	from := 0.0
	for _, l := range g.Lines {
		from += l.Grams
	}
	name := g.Lines[0].Name
	if onlyID(g.Lines) == "" { // several of a use: the flours
		name = g.Use.Title
	}
	v["from"] = name
	if from > 0 {
		v["from"] = measure.Grams(from).String() + " of " + name
	}
	for _, p := range g.chosen.School.Parts {
		i := formula.Part(p, g.Lines[0], r.Larder)
		if p.ID == swap.From {
			continue // "from" says what was written
		}
		text := measure.Grams(sum[p.ID]).String()
		if formula.Spooned(i, sum[p.ID]) {
			text = r.Measure(i, sum[p.ID])
		}
		v[string(p.ID)] = text
	}
	return v
}

// options lists the schools of a group, the chosen one first, the shut ones last.
func (r *chosen) options(g *pick) []Option {
	var out []Option
	per := g.Per()
	for n, c := range g.choices {
		if c.Shut.By == swap.ByItself {
			continue
		}
		o := Option{
			School: c.School.ID, Title: c.School.Title, Effect: c.School.Effect, Confidence: c.Confidence, New: c.New,
			Labels: c.Labels, Say: c.Say, Shut: c.Shut.Words(), ShutBy: c.Shut.By, Auto: n == 0 && c.Shut.Open(),
			Source: c.School.Source,
		}
		kind := string(r.written.Kind)
		if g.Topping {
			kind = "topping"
		}
		for _, p := range c.School.Parts {
			i := formula.Part(p, g.Lines[0], r.Larder)
			g := r.round(i, per*p.In(kind))
			o.About = append(o.About, Amount{Ingredient: i.ID, Name: i.Name, Grams: g, Measure: r.Measure(i, g)})
		}
		if g.chosen.School != nil && c.School.ID == g.chosen.School.ID {
			out = append([]Option{o}, out...)
		} else {
			out = append(out, o)
		}
	}
	if !g.shuts && g.chosen.School != nil { // it may also stay
		out = append(
			out,
			Option{
				School: "as-written", Title: "leave it as written", Effect: "nothing changes here",
				Confidence: swap.WellTried, Source: "practice",
			},
		)
	}
	return out
}

func count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

func numberWord(n int) string {
	words := []string{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"}
	if n < len(words) {
		return words[n]
	}
	return fmt.Sprint(n)
}
