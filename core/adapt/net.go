package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/scan"
)

// net goes through all words that come out, and marks what must not be used: it is the net beside whatever the reader and the
// rewriting of the method made of them.
type net struct {
	*assessment
	stops  []Stop
	beside []Named
	labels []string
	foods  []*larder.Ingredient // that lines hold beside what they were taken for
	spoken []string             // what steps, notes and headings name
	noted  int                  // how many of them, the last, only notes do
}

// named fills the verdict with what the words of the result name.
func (r *assessment) named() {
	v := &r.res.Verdict
	s := &net{assessment: r}
	s.poisons()
	s.lines()
	if r.refused == nil {
		s.steps()
		s.heads()
		s.notes()
	}
	v.Stops, v.Beside, v.Spoken, v.noted = s.stops, s.beside, s.spoken, s.noted
	for _, l := range s.labels {
		if !slices.Contains(v.Labels, l) {
			v.Labels = append(v.Labels, l)
		}
	}
	r.also = s.foods
}

// poisons marks what no table may have, whatever was asked.
func (s *net) poisons() {
	for n := range s.res.Recipe.Lines {
		if l := &s.res.Recipe.Lines[n]; review.Poisonous(l.Text) {
			l.Text += scan.LeaveOut
		}
	}
	for n := range s.res.Method {
		if t := &s.res.Method[n]; review.Poisonous(t.Text) {
			t.Text += scan.LeaveOut
		}
	}
}

func (s *net) stop(place, text string, h scan.Hit) {
	s.stops = append(s.stops, Stop{place, text, h.Said, why(h), holdsOf(h.Mention)})
	s.foods = append(s.foods, h.Foods...)
	if place == InLine {
		return
	}
	if name := strings.ToLower(h.Said); !slices.Contains(s.spoken, name) {
		s.spoken = append(s.spoken, name)
		if place == InNote {
			s.noted++
		}
	}
}

// edit is what stands in the place of some bytes of a text.
type edit struct {
	from, to int
	text     string
}

// behind is a mark behind a mention.
func behind(h scan.Hit, mark string) edit { return edit{h.To, h.To, mark} }

// edited makes the edits of a text, which stand in its order.
func edited(text string, edits []edit) string {
	for _, e := range slices.Backward(edits) {
		text = text[:e.from] + e.text + text[e.to:]
	}
	return text
}

// lines holds every line that stays against the demand by its words: one that is not understood holds what its words say.
func (s *net) lines() {
	for n := range s.res.Recipe.Lines {
		l := &s.res.Recipe.Lines[n]
		i := s.Larder.Get(l.Ingredient)
		if i == nil || !l.Known {
			s.unread(l)
			continue
		}
		s.besideOwn(l, i)
		if v, _ := s.demand.Judge(s.Larder.Get("egg")); v == diet.Breaks { // what it is for has another name now
			l.Text, l.Note = washOfEgg.ReplaceAllString(l.Text, "glaze"), washOfEgg.ReplaceAllString(l.Note, "glaze")
		}
	}
	for n := range s.before.Lines {
		b := &s.before.Lines[n]
		if i := s.Larder.Get(b.Ingredient); i != nil && b.Known {
			_, labels := broken(b.Text, s.demand, s.Larder)
			for _, h := range labels {
				if slices.ContainsFunc(others(b.Text, i, s.Larder), func(o other) bool { return o.From == h.From && !o.or }) {
					s.labels = append(s.labels, labelOf(h))
				}
			}
		}
	}
	for _, b := range s.before.Lines { // what stood beside a line that something else stands for
		i := s.Larder.Get(b.Ingredient)
		if i != nil && b.Known && s.res.Recipe.Line(b.ID) == nil && s.pickOf(b.ID) != nil {
			for _, x := range ruledOut(b.Text, i, s.demand, s.Larder) {
				if !x.replaced(s.screened.groups, s.Larder) && !slices.Contains(s.beside, x.Named) {
					s.beside = append(s.beside, x.Named)
				}
			}
		}
	}
}

var washOfEgg = pattern.Must(`(?i)\begg[- ]?wash\b`)

// unread takes a line that is not understood for what its words say.
func (s *net) unread(l *recipe.Line) {
	for _, m := range scan.Mentions(l.Text, s.Larder) {
		s.foods = append(s.foods, m.Foods...)
	}
	hits, labels := broken(l.Text, s.demand, s.Larder)
	text := l.Text
	for _, h := range hits {
		switch {
		case h.Made && strings.Trim(text, " :") == h.Said && s.madeHere(h.Mention): // the name of a part that is made of the lines below it
		case h.Why.Of != "" && h.Why.Ban == "" && slices.Contains(pinches, l.Unit): // what little of it there is brings little sugar or starch
		default:
			s.stop(InLine, text, h)
			l.Text = strings.TrimSuffix(text, scan.LeaveOut) + scan.LeaveOut
		}
	}
	for _, h := range labels {
		s.labels = append(s.labels, labelOf(h))
	}
}

// pinches are the units of what is too little to count for a figure. Source: practice.
var pinches = []string{"tsp", "pinch", "dash", "drop"}

// besideOwn takes what a line names beside its own food, and this table must not have, out of its words. What is an alternative, or
// a warning of the pack, is told; what was to go in as well is a stop.
func (s *net) besideOwn(l *recipe.Line, own *larder.Ingredient) {
	written := l.Text
	if b := s.before.Line(l.ID); b != nil {
		written = b.Text
		for _, o := range others(written, own, s.Larder) {
			s.foods = append(s.foods, o.Foods...)
		}
	}
	var found []ruled
	if s.before.Line(l.ID) != nil {
		found = ruledOut(written, own, s.demand, s.Larder)
	} else if l.Note != "" { // what stands for another took over its note
		found = slices.DeleteFunc(ruledOut(own.Name+", "+l.Note, own, s.demand, s.Larder), func(x ruled) bool { return x.hit.From < len(own.Name) })
	}
	if len(found) == 0 {
		return
	}
	was := written
	if s.before.Line(l.ID) == nil {
		for _, b := range s.before.Lines { // what stands for another took over its note
			if b.Note == l.Note && l.Note != "" {
				was = b.Text
			}
		}
	}
	var without []string
	for _, x := range found {
		x.Text = was
		switch {
		case slices.Contains(s.beside, x.Named):
		case x.or || x.Holds:
			s.beside = append(s.beside, x.Named)
		case !slices.ContainsFunc(s.stops, func(t Stop) bool { return t.Text == was && t.Food == x.Food }):
			s.beside = append(s.beside, x.Named)
			s.stop(InLine, was, x.hit)
		}
		if words := "without " + x.Food; x.Holds && !slices.Contains(without, words) { // the warning of the pack is not taken off with its words
			without = append(without, words)
		}
	}
	var note []string
	for _, part := range strings.Split(l.Note, ", ") {
		if part != "" && len(ruledOut(own.Name+", "+part, own, s.demand, s.Larder)) == 0 {
			note = append(note, part)
		}
	}
	l.Note = strings.Join(append(note, without...), ", ")
	l.Text = s.lineText(own, l.Grams, l.Note)
}

// steps holds every sentence of the method against the demand. What still names a food for which another is used says which; what is
// used and stands in no line is told to be left out.
func (s *net) steps() {
	for n := range s.res.Method {
		t := &s.res.Method[n]
		if s.misread(*t) {
			t.Text += " As written: “" + strings.TrimSpace(t.Written) + "”"
		}
		hits, labels := broken(t.Text, s.demand, s.Larder)
		var edits []edit
		text := t.Text
		for _, h := range hits {
			if s.itsOwn(text, h.Mention) && !aside.MatchString(text[:h.From]) || theProduct(s.before, s.Larder, text, h.Mention) || holds(h.Mention, t.Unlisted) {
				continue
			}
			if to := greased[h.Said]; h.Verb && to != "" {
				edits = append(edits, edit{h.From, h.To, to})
				continue
			}
			if mark, ok := s.insteadOf(h.Mention); ok {
				edits = append(edits, behind(h, mark))
				continue
			}
			if h.Why.Of != "" && h.Why.Ban == "" && s.inAList(h.Said) {
				continue // a figure, judged by the amount of its line
			}
			s.stop(InStep, sentence(text, h.From), h)
			edits = append(edits, behind(h, scan.LeaveOut))
		}
		t.Text = edited(text, edits)
		for _, h := range labels { // of what the writer names; a way's own are told with its lines
			writers := strings.Contains(strings.ToLower(t.Written), strings.ToLower(h.Said))
			if listed(s.before, s.Larder, h.Mention) == nil && (writers || holds(h.Mention, t.Lacks)) && !s.itsOwn(t.Text, h.Mention) && !theProduct(s.before, s.Larder, text, h.Mention) {
				s.labels = append(s.labels, labelOf(h))
			}
		}
	}
}

// holds reports whether a mention is of one of some foods.
func holds(m scan.Mention, of []larder.ID) bool {
	return slices.ContainsFunc(m.Foods, func(i *larder.Ingredient) bool { return slices.Contains(of, i.ID) })
}

// sentence is the one of a text in which a place stands.
func sentence(text string, at int) string {
	from := strings.LastIndexAny(text[:at], ".;!?\n") + 1
	to := len(text)
	if n := strings.IndexAny(text[at:], ".;!?\n"); n >= 0 {
		to = at + n + 1
	}
	return strings.TrimSpace(text[from:to])
}

// greased are the words for what is done with butter, where butter is a verb: the fat is any that the table may have.
var greased = map[string]string{"butter": "grease", "Butter": "Grease", "buttered": "greased", "Buttered": "Greased"}

// misread reports whether a task was written anew with another food for a word that is only part of a name, so that what the writer
// named, and this table must not have, stands there no more: "malted oat drink powder".
func (s *net) misread(t method.Task) bool {
	hits, _ := broken(t.Written, s.demand, s.Larder)
	return t.Changed && slices.ContainsFunc(hits, func(h scan.Hit) bool {
		return strings.Contains(h.Said, " ") && !strings.Contains(strings.ToLower(t.Text), strings.ToLower(h.Said)) && !s.endsALine(lastWord(h.Said)) &&
			listed(s.before, s.Larder, h.Mention) == nil && !theProduct(s.before, s.Larder, t.Written, h.Mention)
	})
}

// endsALine reports whether a line of the written recipe is called by a word.
func (s *net) endsALine(word string) bool {
	return slices.ContainsFunc(s.before.Lines, func(l recipe.Line) bool {
		return lastWord(l.Name) == word || lastWord(l.Phrase) == word
	})
}

// itsOwn reports whether a word is that of a line of the result which may be eaten: "flour" where a gluten-free flour stands in the
// list, "milk" beside oat milk.
func (s *net) itsOwn(text string, m scan.Mention) bool {
	if s.within(text, m) {
		return true
	}
	if strings.ContainsAny(m.Said, " -") {
		return false
	}
	word := lastWord(m.Said)
	return slices.ContainsFunc(s.res.Recipe.Lines, func(l recipe.Line) bool {
		i := s.Larder.Get(l.Ingredient)
		if i == nil || !l.Known {
			return false
		}
		if v, _ := s.demand.Judge(i); v == diet.Breaks {
			return false
		}
		has := func(text string) bool { name, _, _ := strings.Cut(text, ","); return lastWord(name) == word }
		return has(i.Name) || has(l.Phrase) || word == "flour" && i.IsBase()
	})
}

// inAList reports whether a line of the result has a word.
func (s *net) inAList(word string) bool {
	return slices.ContainsFunc(s.res.Recipe.Lines, func(l recipe.Line) bool {
		return strings.Contains(strings.ToLower(l.Text), strings.ToLower(word))
	})
}

// within reports whether a word stands in the name of something that came in: the cream of "lemon cream set with starch".
func (s *net) within(text string, m scan.Mention) bool {
	low := strings.ToLower(text)
	var came []string
	for _, l := range s.res.Recipe.Lines {
		if s.before.Line(l.ID) == nil {
			came = append(came, l.Name)
		}
	}
	for _, b := range s.brings {
		came = append(came, b.School.Title)
	}
	return slices.ContainsFunc(came, func(name string) bool {
		name = strings.ToLower(name)
		for _, said := range []string{name, strings.Split(name, ",")[0]} {
			for at := 0; strings.Contains(said, strings.ToLower(m.Said)) && strings.Contains(said, " "); {
				n := strings.Index(low[at:], said)
				if n < 0 {
					break
				}
				if at+n <= m.From && m.To <= at+n+len(said) {
					return true
				}
				at += n + len(said)
			}
		}
		return false
	})
}

// insteadOf is the mark that says what stands for a food that the list had, or that it was left out; ok is false where it had none.
func (s *net) insteadOf(m scan.Mention) (mark string, ok bool) {
	if m.Made {
		return "", false
	}
	l := listed(s.before, s.Larder, m)
	if l == nil {
		return "", false
	}
	p := s.pickOf(l.ID)
	if p == nil {
		return scan.LeftOut, s.res.Recipe.Line(l.ID) == nil
	}
	b := s.broughtBy(&p.Replaced)
	if b == nil || len(b.to) == 0 {
		return "", false
	}
	var list []string
	for _, x := range b.to {
		if !slices.Contains(list, x.Name) {
			list = append(list, x.Name)
		}
	}
	return scan.Instead + phrase.And(list) + ")", true
}

// heads holds the names of the parts against the demand, where no line of theirs is what they name.
func (s *net) heads() {
	for _, head := range headings(s.res.Recipe) {
		hits, _ := broken(head, s.demand, s.Larder)
		for _, h := range hits {
			part := recipe.Recipe{Title: s.before.Title, Lines: slices.DeleteFunc(slices.Clone(s.before.Lines), func(l recipe.Line) bool { return l.Section != head })}
			if listed(&part, s.Larder, h.Mention) == nil && !s.itsOwn(head, h.Mention) && !(h.Made && madeOf(&part, s.Larder, h.Mention)) {
				s.stop(InHeading, head, h)
			}
		}
	}
}

// madeHere reports whether what a heading names is made of what the list has.
func (s *net) madeHere(m scan.Mention) bool { return m.Made && madeOf(s.before, s.Larder, m) }

// madeOf reports whether a recipe lists something of the kind that a thing is made of: the eggs of a custard, the flour of a roux.
func madeOf(r *recipe.Recipe, lib *larder.Larder, m scan.Mention) bool {
	return slices.ContainsFunc(r.Lines, func(l recipe.Line) bool {
		i := lib.Get(l.Ingredient)
		return i != nil && l.Known && slices.ContainsFunc(m.Foods, func(f *larder.Ingredient) bool { return f.ID == i.ID || f.Family == i.Family })
	})
}

// notes holds the notes against the demand.
func (s *net) notes() {
	s.res.Recipe.Notes = slices.Clone(s.res.Recipe.Notes)
	for n, note := range s.res.Recipe.Notes {
		hits, labels := broken(note, s.demand, s.Larder)
		for _, h := range inNotes(note, labels) {
			if listed(s.before, s.Larder, h.Mention) == nil && !s.itsOwn(note, h.Mention) {
				s.labels = append(s.labels, labelOf(h))
			}
		}
		var edits []edit
		for _, h := range inNotes(note, hits) {
			if theProduct(s.before, s.Larder, note, h.Mention) {
				continue
			}
			if mark, ok := s.insteadOf(h.Mention); ok {
				edits = append(edits, behind(h, mark))
				continue
			}
			if s.itsOwn(note, h.Mention) && !aside.MatchString(note[:h.From]) {
				continue
			}
			s.stop(InNote, sentence(note, h.From), h)
			edits = append(edits, behind(h, scan.LeaveOut))
		}
		s.res.Recipe.Notes[n] = edited(note, edits)
	}
}

// labelOf says which label to read, and for what.
func labelOf(h scan.Hit) string {
	if about := h.Why.About(); about != "" {
		return h.Said + " for " + about
	}
	return h.Said
}

// mostStops is how many are named in the sentence; each is marked where it stands.
const mostStops = 5

// stopWords says what to leave out, and where it stands, the list first.
func stopWords(stops []Stop) (lead, where string) {
	var foods, out []string
	for _, s := range stops {
		if w := s.Words(); !slices.Contains(out, w) {
			out = append(out, w)
		}
		if f := strings.ToLower(s.Food); !slices.Contains(foods, f) {
			foods = append(foods, f)
		}
	}
	rest := ""
	if n := len(out) - mostStops; n > 0 {
		out, rest = out[:mostStops], fmt.Sprintf("; and %d more, each marked where it stands", n)
	}
	if n := len(foods) - mostStops; n > 0 {
		foods = append(foods[:mostStops], fmt.Sprintf("%d more", n))
	}
	return "Not for this table as it stands: leave out " + phrase.And(foods) + ", or say what is meant.", phrase.Capital(strings.Join(out, "; ")) + rest + "."
}
