package method

import (
	"math"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// share settles how much of each line the tasks take: first what they name, then the sets.
func (rd *reading) share() {
	left := map[recipe.LineID]float64{}
	named := map[recipe.LineID]bool{}
	for _, l := range rd.r.Lines {
		left[l.ID] = 1
	}
	rd.narrowAll()
	for n := range rd.tasks {
		for _, m := range rd.mentions[n] {
			for _, id := range m.lines {
				named[id] = true
			}
		}
	}
	take := func(t *Task, id recipe.LineID, share float64) {
		share = math.Min(share, left[id])
		if share <= 1e-9 {
			return
		}
		left[id] -= share
		for n := range t.Uses {
			if t.Uses[n].Line == id {
				t.Uses[n].Share += share
				return
			}
		}
		t.Uses = append(t.Uses, Use{id, share})
	}
	for n := range rd.tasks { // what the baker says goes first
		for _, id := range rd.takes[n] {
			take(&rd.tasks[n], id, 1)
		}
	}
	for n := range rd.tasks {
		t := &rd.tasks[n]
		if _, said := rd.takes[n]; said {
			continue
		}
		except := rd.excepted(t, rd.mentions[n])
		if otherHalf.MatchString(t.Written) && (t.Verb.Is(Mixes) || t.Verb == Top || t.Verb == Brush) {
			parts := slices.ContainsFunc(rd.r.Lines, func(l recipe.Line) bool { return left[l.ID] > 1e-9 && left[l.ID] < 1-1e-9 })
			for _, l := range rd.r.Lines {
				if parts && left[l.ID] < 1-1e-9 || !parts && !named[l.ID] && rd.inSet("all", l, t, named) {
					take(t, l.ID, left[l.ID])
				}
			}
		}
		for _, m := range rd.mentions[n] {
			if m.set != "" {
				for _, l := range rd.r.Lines {
					if rd.inSet(m.set, l, t, named) && !except[l.ID] && !(m.set == "all" && rd.comesLater(n, l.ID)) {
						take(t, l.ID, left[l.ID])
					}
				}
				continue
			}
			if rd.spent(m, left) {
				m.lines = rd.unclaimed(m, left)
			}
			for _, id := range rd.fitting(m, t, left) {
				if !except[id] {
					take(t, id, rd.shareOf(m, t, id, left[id]))
				}
			}
		}
	}
	rd.rest(left)
	rd.byPart(left)
}

// shareOf is what a mention takes of a line of which so much is left.
func (rd *reading) shareOf(m mention, t *Task, id recipe.LineID, left float64) float64 {
	share := left
	switch l := rd.r.Line(id); {
	case t.Verb == Line || t.Verb == Heat || t.Verb == Test:
		share = 0
		if l.Grams == 0 {
			share = left
		}
	case m.share == aPinch && l.Grams <= wholePinch: // "a drop of milk" is all there is
	case m.share > 0:
		share = m.share
	case m.part:
		share = eggPart(t.Written, m)
	case m.grams > 0 && l.Grams > 0 && m.grams < 0.95*l.Grams:
		share = m.grams / l.Grams
	}
	return share
}

// comesLater reports whether a later task of the same part adds a line by its name, so that "everything" leaves it out.
func (rd *reading) comesLater(n int, id recipe.LineID) bool {
	for k := n + 1; k < len(rd.tasks); k++ {
		if t := rd.tasks[k]; t.Part == rd.tasks[n].Part && (t.Verb.Is(Mixes) || t.Verb == Work) && addsLater.In(t.Written) &&
			slices.ContainsFunc(rd.mentions[k], func(m mention) bool { return m.set == "" && m.share == 0 && !m.rest && slices.Contains(m.lines, id) }) {
			return true
		}
	}
	return false
}

// addsLater begins what puts in something new.
var addsLater = en.SignOf("adds-later")

// wholePinch is up to what weight a line is itself a pinch, g.
const wholePinch = 3

// otherHalf says what is left of what was taken in part, without naming it again.
var otherHalf = pattern.Must(`(?i)\bthe (?:other half|rest|remainder)\b(?:$|[.,;]| (?:in|over|on|and|until|to)\b)`)

// eggPart is what of a whole egg's weight a mention of its yolk or white takes. Source: a
// large egg of 50 g has a yolk of 17 g.
func eggPart(text string, m mention) float64 {
	if strings.Contains(strings.ToLower(text[m.name:min(m.to, len(text))]), "yolk") {
		return 0.34
	}
	return 0.66
}

// mostDust is up to what weight a flour may be meant for dusting, g. Source: practice.
const mostDust = 60

// fitting are the lines that a mention can mean here: of several of one name those that are
// left, and of those one that is for the tin alone only where the tin is spoken of.
func (rd *reading) fitting(m mention, t *Task, left map[recipe.LineID]float64) []recipe.LineID {
	var out []recipe.LineID
	for _, id := range m.lines {
		l := rd.r.Line(id)
		if l == nil || left[id] <= 1e-9 {
			continue
		}
		if bath := rd.bathOf(m); bath && (t.Verb == Simmer) != (l.Role == recipe.Bath) {
			continue // "boil in the malt water" is not the dough's
		}
		over := t.Verb == Top || t.Verb == Brush || t.Verb == Ice
		if t.Verb == Top && !l.Topping() && l.Grams > mostDust {
			if i := rd.l.Get(l.Ingredient); i != nil && i.IsBase() {
				continue // "dust with flour" is not all of it
			}
		}
		if len(m.lines) > 1 && !over && (l.Grams == 0 && l.Known && t.Verb != Line || onTop(strings.ToLower(l.Note+" "+l.Text))) {
			continue
		}
		out = append(out, id)
	}
	return rd.inTurn(m, t, out)
}

// bathOf reports whether a mention names what is in a bath, among others.
func (rd *reading) bathOf(m mention) bool {
	return slices.ContainsFunc(m.lines, func(id recipe.LineID) bool {
		l := rd.r.Line(id)
		return l != nil && l.Role == recipe.Bath
	})
}

// inTurn takes of several lines of one name, in sections that are made one after the other, those of the
// first: where the name is said as often as there are sections, "mix the yeast and flour" is the
// sponge's and "add the flour" the dough's.
func (rd *reading) inTurn(m mention, t *Task, ids []recipe.LineID) []recipe.LineID {
	section := func(id recipe.LineID) string { return strings.ToLower(rd.r.Line(id).Section) }
	sections := map[string]bool{}
	for _, id := range m.lines {
		if l := rd.r.Line(id); l != nil && !l.Topping() {
			sections[section(id)] = true
		}
	}
	if len(sections) < 2 || len(ids) < 2 {
		return ids
	}
	start := strings.ToLower(t.Written)
	for s := range sections { // "Tangzhong: whisk flour and milk"
		if s != "" && (strings.HasPrefix(start, s+":") || strings.HasPrefix(start, "for the "+s) || strings.HasPrefix(start, "make the "+s)) {
			return slices.DeleteFunc(slices.Clone(ids), func(id recipe.LineID) bool { return section(id) != s })
		}
	}
	if own := rd.sectionOf(t, m); own != "" && sections[own] {
		return slices.DeleteFunc(slices.Clone(ids), func(id recipe.LineID) bool { return section(id) != own })
	}
	said := 0
	for _, ms := range rd.mentions {
		if slices.ContainsFunc(ms, func(o mention) bool { return o.set == "" && slices.Equal(o.lines, m.lines) }) {
			said++
		}
	}
	if said < len(sections) {
		return ids
	}
	return slices.DeleteFunc(slices.Clone(ids), func(id recipe.LineID) bool { return section(id) != section(ids[0]) })
}

// sectionOf is the section that a task works on by what else it names: the one of all foods that stand in one section alone; "" where
// they are of several, or none.
func (rd *reading) sectionOf(t *Task, but mention) string {
	own := ""
	for n := range rd.tasks {
		if &rd.tasks[n] != t {
			continue
		}
		for _, m := range rd.mentions[n] {
			if m.set != "" || m.from == but.from {
				continue
			}
			for _, id := range m.lines {
				s := strings.ToLower(rd.r.Line(id).Section)
				if s == "" || own != "" && s != own {
					return ""
				}
				own = s
			}
		}
	}
	return own
}

// rest gives what is left of a line that was taken in parts to the last task that takes it.
func (rd *reading) rest(left map[recipe.LineID]float64) {
	for id, share := range left {
		if share <= 1e-9 || share >= 1-1e-9 {
			continue
		}
		for n := len(rd.tasks) - 1; n >= 0; n-- {
			done := false
			for k := range rd.tasks[n].Uses {
				if u := &rd.tasks[n].Uses[k]; u.Line == id {
					u.Share += share
					left[id], done = 0, true
				}
			}
			if done {
				break
			}
		}
	}
}

// excepted are the lines that a set leaves out: "everything but the seeds", "all of the dough with the paste, except butter".
func (rd *reading) excepted(t *Task, ms []mention) map[recipe.LineID]bool {
	out := map[recipe.LineID]bool{}
	set, going, last := false, false, 0
	text := strings.TrimRight(t.Written, " .;,")
	for _, m := range ms {
		if m.set != "" {
			set, going = true, false
			continue
		}
		if !set || m.from > len(text) {
			continue
		}
		if going = butFor.In(text[:m.from]) || going && andOnly(text[last:m.from]); going {
			for _, id := range m.lines {
				out[id] = true
			}
		}
		last = min(m.to, len(text))
	}
	return out
}

// butFor stands before what is left out.
var butFor = en.SignOf("but")

// andOnly reports whether nothing but "and" or a comma stands between two names.
func andOnly(between string) bool {
	switch strings.TrimSpace(between) {
	case "and", "&", ",", "or", "and the":
		return true
	}
	return false
}

// inSet reports whether a line belongs to "the dry ingredients", "the wet ones" or all, of
// this part; what some task names is not meant by dry or wet.
func (rd *reading) inSet(set string, l recipe.Line, t *Task, named map[recipe.LineID]bool) bool {
	section := ""
	if l.Topping() {
		section = l.Section
	}
	if l.Section != "" && set == "all" && !l.Topping() { // "the poolish ingredients"
		for _, other := range rd.r.Lines {
			if s := strings.ToLower(other.Section); s != "" && s != strings.ToLower(l.Section) && strings.Contains(strings.ToLower(t.Written), s+" ingredients") {
				return false
			}
		}
	}
	if section != t.Part || l.Use != recipe.In && !l.Role.Aside() {
		return false
	}
	if name, ok := strings.CutPrefix(set, partSet); ok {
		return l.Section == name && !named[l.ID]
	}
	if name, ok := strings.CutPrefix(set, wholeSet); ok {
		return l.Section == name && l.Use == recipe.In
	}
	i := rd.l.Get(l.Ingredient)
	switch {
	case i == nil:
		return set == "all"
	case l.Grams == 0 && l.Note != "": // for the tin
		return false
	case set == "all":
		return true
	case named[l.ID]:
		return false
	case set == "dry":
		return isDry(i)
	}
	return !isDry(i) && (i.Shelf.Texture != "fruit" || i.Family == larder.FamilyPuree || mashed.In(l.Text))
}

// mashed is fruit that wets.
var mashed = en.SignOf("mashed")

// isDry tells what a baker calls dry: it pours and does not wet.
func isDry(i *larder.Ingredient) bool {
	return i.Facts[larder.Water] < 20 && i.Shelf.Texture != "fat" && i.Facts[larder.Fat] < 75 &&
		!(i.Family == larder.FamilySugar && i.Facts[larder.Water] > 12) && i.Family != larder.FamilyExtract
}

// piecesOf is the share of a line that so many of its pieces are: "2 of the eggs" of three.
func (n *names) piecesOf(number string, ids []recipe.LineID) float64 {
	x := map[string]float64{"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6}[number]
	if x == 0 {
		x, _ = measure.ParseDecimal(number)
	}
	if l := n.r.Line(ids[0]); l != nil && l.Unit == "" && l.Amount.Mid() > x {
		return x / l.Amount.Mid()
	}
	return 0
}

// gramsOf is a written amount in grams, by what the line's ingredient weighs; 0 where that
// is not known.
func (n *names) gramsOf(number, unit string, ids []recipe.LineID) float64 {
	q, _, err := measure.ScanQuantity(number)
	if err != nil || len(ids) == 0 {
		return 0
	}
	x := q.Mid()
	id := map[string]string{"tablespoon": "tbsp", "tablespoons": "tbsp", "teaspoon": "tsp", "teaspoons": "tsp", "cups": "cup"}[unit]
	if id == "" {
		id = unit
	}
	if id == "g" {
		return x
	}
	u, ok := measure.UnitByID(id)
	l := n.r.Line(ids[0])
	if !ok || l == nil {
		return 0
	}
	i := n.l.Get(l.Ingredient)
	if i == nil {
		return 0
	}
	k := measure.DefaultKitchen()
	per, _, ok := i.MLGrams(k)
	if !ok {
		return 0
	}
	return x * float64(k.ML(u)) * per
}
