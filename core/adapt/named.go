package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/scan"
)

// The places of a recipe in which a food is named.
const (
	InLine    = "line"
	InStep    = "step"
	InNote    = "note"
	InHeading = "heading"
)

// Stop is a food that the words of a recipe name, that the demand does not have, and that stays in what is shown: nobody may miss it.
type Stop struct {
	Place string   `json:"place"`
	Text  string   `json:"text"` // the line, sentence, note or heading
	Food  string   `json:"food"` // in its words
	Why   string   `json:"why"`  // "holds tree nuts"
	Holds []string `json:"holds,omitempty"`
}

// Words says where it stands and what to do.
func (s Stop) Words() string {
	where := map[string]string{InLine: "in the list", InStep: "in the method", InNote: "in a note", InHeading: "in a heading"}[s.Place]
	return fmt.Sprintf("%s “%s”: %s", where, phrase.Clip(s.Text, 60), s.Why)
}

// why says of a hit what is the matter: "pistachios holds tree nuts".
func why(h scan.Hit) string { return h.Why.Words() }

// holdsOf are the allergens of the law that the foods of a mention hold.
func holdsOf(m scan.Mention) []string {
	held, _ := diet.Holds(m.Foods)
	return held
}

// broken are the hits in a text that break a demand; those of which a label must be read are told apart.
func broken(text string, d diet.Demand, l *larder.Larder) (out, labels []scan.Hit) {
	if len(d.Diets)+len(d.Bans) == 0 {
		return nil, nil
	}
	for _, h := range scan.Against(text, d, l) {
		if h.Verdict == diet.Breaks {
			out = append(out, h)
		} else {
			labels = append(labels, h)
		}
	}
	return out, labels
}

// sameFood reports whether a mention names the food of another: the same, one of egg for another, or the noun alone ("milk" for whole
// milk; rye flour is not plain flour).
func sameFood(a, b scan.Mention) bool {
	generic := !strings.Contains(larder.Normal(a.Said), " ")
	if generic && lastWord(a.Said) == lastWord(b.Said) {
		return true
	}
	for _, x := range a.Foods {
		for _, y := range b.Foods {
			if generic && x.Family == y.Family && (x.Family == larder.FamilySugar || x.Family == larder.FamilyWheatFlour && lastWord(a.Said) == "flour") {
				return true // "flour", whatever wheat's; "sugared paper"
			}
			if x.ID == y.ID && x.ID != "" || x.Origin == "egg" && y.Origin == "egg" {
				return true
			}
		}
	}
	return false
}

func lastWord(said string) string {
	words := strings.Fields(larder.Normal(said))
	if len(words) == 0 {
		return ""
	}
	return words[len(words)-1]
}

// own is the mention that a line's own food makes.
func own(l recipe.Line, i *larder.Ingredient) scan.Mention {
	said := l.Phrase
	if said == "" {
		said = l.Name
	}
	return scan.Mention{Said: said, Foods: []*larder.Ingredient{i}}
}

// listed finds a written line whose own food a mention names; nil for none.
func listed(r *recipe.Recipe, lib *larder.Larder, m scan.Mention) *recipe.Line {
	for n := range r.Lines {
		l := &r.Lines[n]
		i := lib.Get(l.Ingredient)
		if i == nil || !l.Known {
			continue
		}
		if sameFood(m, own(*l, i)) {
			return l
		}
		for _, in := range scan.Mentions(textParts(l.Text)[0].text, lib) {
			if sameFood(m, in) {
				return l
			}
		}
	}
	return nil
}

// theProduct reports whether what is made of others is what this recipe makes: its title or a heading names it, or "the custard" is
// of eggs that stand in the list.
func theProduct(r *recipe.Recipe, lib *larder.Larder, text string, m scan.Mention) bool {
	if !m.Made {
		return false
	}
	named := func(s string) bool { // all its words: royal icing is not just any icing
		have := strings.Fields(larder.Normal(s))
		return !slices.ContainsFunc(strings.Fields(larder.Normal(m.Said)), func(w string) bool { return !slices.Contains(have, w) })
	}
	if named(r.Title) || slices.ContainsFunc(r.Lines, func(l recipe.Line) bool { return named(l.Section) }) {
		return true
	}
	before := strings.Fields(strings.ToLower(text[:m.From]))
	if len(before) == 0 || !slices.Contains(definite, before[len(before)-1]) {
		return false
	}
	return madeOf(r, lib, m)
}

// definite stand before what is there already. Source: practice.
var definite = []string{"the", "your", "this", "these", "each", "both", "hot", "warm", "cooled", "cold", "baked", "thick", "thickened", "remaining"}

// used is what a note tells to do with a food, in the same sentence before it, or how much of it: "brush with egg", "egg wash: 1 egg".
// What a note only tells of is left alone. Source: practice, what notes say.
var used = pattern.Must(`(?i)\b(?:brush|glaz|sprinkl|scatter|top|spread|dust|drizzl|dot|greas|fold|stir|mix|add|serv|fill|decorat|finish|knead|whisk|pour|coat|roll|spoon|us|contain|swap|replac|try|enjoy|eat|good|nice|lovely|delicious|perfect|better|best|goes?|made|hold|need)(?:e|es|ed|ing|ting|ping|ring|red|s)?\b[^.;!?\n]{0,80}$|[\d½¼¾⅓⅔] *(?:\pL+ +){0,3}$|\bwith (?:\pL+ +){0,3}$|^\W*$|[:;] *(?:\pL+ +){0,2}$`)

// tells reports whether a note only tells a tale of what it names: "my aunt liked hers with butter".
var tells = pattern.Must(`(?i)\b(?:my|his|her|hers|she|he|liked|loved|used to|remember)\b`)

// states follows what a note only speaks of: "butter goes soft there".
var states = pattern.Must(`(?i)^ (?:goes|go|is|are|was|were|will|would|should|can|gets?|keeps?|makes?|melts?|turns?|tends?|dries|sinks?)\b`)

// mostBare is how many words a note has at most that only names something.
const mostBare = 4

// inNotes are the hits of a note that it tells to use.
func inNotes(note string, hits []scan.Hit) (out []scan.Hit) {
	for _, h := range hits {
		if len(strings.Fields(note)) <= mostBare { // no sentence: "melted butter, to serve"
			out = append(out, h)
			continue
		}
		from := strings.LastIndexAny(note[:h.From], ".;!?\n") + 1
		if !tells.MatchString(note[from:h.From]) && !states.MatchString(note[h.To:]) && used.MatchString(note[from:h.From]) {
			out = append(out, h)
		}
	}
	return out
}

// Unlisted are the foods that the steps, notes and headings of a recipe as it is written name, that no line lists and that a demand
// rules out: "brush with beaten egg", "butter and flour the tin".
func Unlisted(written *recipe.Recipe, d diet.Demand, l *larder.Larder) (out []string) {
	see := func(text string, hits []scan.Hit) {
		for _, h := range hits {
			name := strings.ToLower(h.Said)
			if slices.Contains(out, name) || theProduct(written, l, text, h.Mention) || listed(written, l, h.Mention) != nil {
				continue
			}
			out = append(out, name)
		}
	}
	for _, st := range written.Steps {
		hits, _ := broken(st.Text, d, l)
		see(st.Text, hits)
	}
	for _, note := range written.Notes {
		hits, _ := broken(note, d, l)
		see(note, inNotes(note, hits))
	}
	for _, head := range headings(written) {
		hits, _ := broken(head, d, l)
		see(head, hits)
	}
	return out
}

// headings are the names of a recipe's parts, each once.
func headings(r *recipe.Recipe) (out []string) {
	for _, l := range r.Lines {
		if l.Section != "" && !slices.Contains(out, l.Section) {
			out = append(out, l.Section)
		}
	}
	return out
}

// shown goes through all words that come out, and marks what must not be used: it is the net beside whatever the reader and the
// rewriting of the method made of them.
type shown struct {
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
	s := &shown{assessment: r}
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
	r.also, r.labels = s.foods, len(v.Labels)
}

// poisons marks what no table may have, whatever was asked.
func (s *shown) poisons() {
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

func (s *shown) stop(place, text string, h scan.Hit) {
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

// marked puts a mark behind places of a text, from the last to the first.
func marked(text string, at []int, marks []string) string {
	for n := len(at) - 1; n >= 0; n-- {
		text = text[:at[n]] + marks[n] + text[at[n]:]
	}
	return text
}

// lines holds every line that stays against the demand by its words: one that is not understood holds what its words say.
func (s *shown) lines() {
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
func (s *shown) unread(l *recipe.Line) {
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
func (s *shown) besideOwn(l *recipe.Line, own *larder.Ingredient) {
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
func (s *shown) steps() {
	for n := range s.res.Method {
		t := &s.res.Method[n]
		hits, labels := broken(t.Text, s.demand, s.Larder)
		var at []int
		var marks []string
		text := t.Text
		for _, h := range hits {
			if s.itsOwn(text, h.Mention) || theProduct(s.before, s.Larder, text, h.Mention) || strings.HasPrefix(text[h.To:], knowingly) {
				continue
			}
			if h.Verb && s.greased(&text, h.Mention) {
				continue
			}
			if mark, ok := s.insteadOf(h.Mention); ok {
				at, marks = append(at, h.To), append(marks, mark)
				continue
			}
			if h.Why.Of != "" && h.Why.Ban == "" && s.inAList(h.Said) {
				continue // a figure, judged by the amount of its line
			}
			s.stop(InStep, sentence(text, h.From), h)
			at, marks = append(at, h.To), append(marks, scan.LeaveOut)
		}
		t.Text = strings.ReplaceAll(marked(text, at, marks), "reased  ", "reased ")
		for _, h := range labels {
			if listed(s.before, s.Larder, h.Mention) == nil && !s.itsOwn(t.Text, h.Mention) && !theProduct(s.before, s.Larder, text, h.Mention) {
				s.labels = append(s.labels, labelOf(h))
			}
		}
	}
}

// knowingly follows what a school takes in on purpose, as the sugar that yeast eats up in a keto dough.
const knowingly = ", which is not in the list"

// sentence is the one of a text in which a place stands.
func sentence(text string, at int) string {
	from := strings.LastIndexAny(text[:at], ".;!?\n") + 1
	to := len(text)
	if n := strings.IndexAny(text[at:], ".;!?\n"); n >= 0 {
		to = at + n + 1
	}
	return strings.TrimSpace(text[from:to])
}

// greased writes "grease" for "butter", where butter is a verb: the fat is any that the table may have. Both words have as many letters.
func (s *shown) greased(text *string, m scan.Mention) bool {
	to := map[string]string{"butter": "grease", "Butter": "Grease", "buttered": "greased ", "Buttered": "Greased "}[m.Said]
	if to == "" {
		return false
	}
	*text = (*text)[:m.From] + to + (*text)[m.To:]
	return true
}

// itsOwn reports whether a word is that of a line of the result which may be eaten: "flour" where a gluten-free flour stands in the
// list, "milk" beside oat milk.
func (s *shown) itsOwn(text string, m scan.Mention) bool {
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
func (s *shown) inAList(word string) bool {
	return slices.ContainsFunc(s.res.Recipe.Lines, func(l recipe.Line) bool {
		return strings.Contains(strings.ToLower(l.Text), strings.ToLower(word))
	})
}

// within reports whether a word stands in the name of something that came in: the cream of "lemon cream set with starch".
func (s *shown) within(text string, m scan.Mention) bool {
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
func (s *shown) insteadOf(m scan.Mention) (mark string, ok bool) {
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
func (s *shown) heads() {
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
func (s *shown) madeHere(m scan.Mention) bool { return m.Made && madeOf(s.before, s.Larder, m) }

// madeOf reports whether a recipe lists something of the kind that a thing is made of: the eggs of a custard, the flour of a roux.
func madeOf(r *recipe.Recipe, lib *larder.Larder, m scan.Mention) bool {
	return slices.ContainsFunc(r.Lines, func(l recipe.Line) bool {
		i := lib.Get(l.Ingredient)
		return i != nil && l.Known && slices.ContainsFunc(m.Foods, func(f *larder.Ingredient) bool { return f.ID == i.ID || f.Family == i.Family })
	})
}

// notes holds the notes against the demand.
func (s *shown) notes() {
	s.res.Recipe.Notes = slices.Clone(s.res.Recipe.Notes)
	for n, note := range s.res.Recipe.Notes {
		hits, labels := broken(note, s.demand, s.Larder)
		for _, h := range inNotes(note, labels) {
			if listed(s.before, s.Larder, h.Mention) == nil && !s.itsOwn(note, h.Mention) {
				s.labels = append(s.labels, labelOf(h))
			}
		}
		var at []int
		var marks []string
		for _, h := range inNotes(note, hits) {
			if s.itsOwn(note, h.Mention) || theProduct(s.before, s.Larder, note, h.Mention) {
				continue
			}
			if mark, ok := s.insteadOf(h.Mention); ok {
				at, marks = append(at, h.To), append(marks, mark)
				continue
			}
			s.stop(InNote, sentence(note, h.From), h)
			at, marks = append(at, h.To), append(marks, scan.LeaveOut)
		}
		s.res.Recipe.Notes[n] = marked(note, at, marks)
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

// counted is a recipe with each line that is not understood taken for the one food that its words say it is, where its weight can be
// told: for sums that are then "at least". The line itself stays one that is not understood.
func (r *assessment) counted(rec *recipe.Recipe) *recipe.Recipe {
	var out *recipe.Recipe
	for n, l := range rec.Lines {
		if l.Known || l.Ingredient != "" {
			continue
		}
		found := scan.Mentions(l.Text, r.Larder)
		if len(found) != 1 || len(found[0].Foods) != 1 || r.Larder.Get(found[0].Foods[0].ID) == nil {
			continue
		}
		i := r.Larder.Get(found[0].Foods[0].ID)
		grams := l.Grams
		if u, ok := measure.UnitByID(l.Unit); ok && grams == 0 && u.Kind == measure.Volume {
			if perML, _, ok := i.MLGrams(r.Kitchen); ok {
				grams = l.Amount.Mid() * float64(r.Kitchen.ML(u)) * perML
			}
		}
		if grams <= 0 {
			continue
		}
		if out == nil {
			out = rec.Clone()
		}
		out.Lines[n].Ingredient, out.Lines[n].Grams = i.ID, grams
	}
	if out == nil {
		return rec
	}
	return out
}
