package method

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

// said is a clause in the writer's words with what is in the bowl now.
type said struct {
	text    string
	changed bool
	takes   []string
}

var (
	butteredTin = pattern.Must(`(?i)\b(?:well[- ])?buttered\b`)
	dusting     = pattern.Must(`(?i)\b((?:dust|dusted|dusting|sprinkle|sprinkled|scatter)(?: [\pL]+){0,5}? with|knead in|work in)(?: (?:a (?:little|bit|dusting|spoonful)|some))?(?: of)?(?: (?:extra|more|additional|spare))?(?: (?:plain|white|bread|wheat))? flour\b`)
	flouredTop  = pattern.Must(`(?i)\b(?:lightly |well[- ])?floured (surface|board|worktop|work surface)\b`)
)

var (
	flouredCloth = pattern.Must(`(?i)\b(?:lightly |well[- ]|generously |heavily )?floured ((?:clean |large |small |linen |tea |baking |proving |round |oval |wooden |cotton |lined )*(?:towels?|tea[- ]?towels?|cloths?|couche|linen|basket|banneton|brotform|bowl|sheets?|trays?|peel|parchment|paper|tins?|pans?|bench|counter|table|worktop|hands|knife|cutter))\b`)
	flouring     = pattern.Must(`(?i)\bflour (?:the|a|an|your) ((?:clean |large |small |linen |tea |baking |proving |work )*(?:towels?|tea[- ]?towels?|cloths?|couche|basket|banneton|bowl|sheets?|trays?|peel|tins?|pans?|bench|counter|table|worktop|surface|board))\b`)
)

// programme is one of a bread machine that kneads wheat.
var programme = pattern.Must(`(?i)\b(?:basic |standard )?(?:white|wholemeal|whole ?wheat|french|basic|rye|spelt|bread|rapid|normal) (?:bread |loaf )?(?:programme|program|cycle|setting)\b`)

// prepare brings tins and boards to what may be eaten.
func (rw *rewriting) prepare(text string) string {
	if rw.NoButter {
		text = butteredTin.ReplaceAllString(text, "greased")
	}
	if rw.Base != "" || rw.NoWheat {
		text = dusting.ReplaceAllString(text, "${1} a little of its own flour")
		text = flouredTop.ReplaceAllString(text, "lightly oiled $1")
		text = programme.ReplaceAllString(text, "gluten-free programme (its own, or mix outside and bake only)")
		text = flouredCloth.ReplaceAllString(text, "$1 dusted with its own flour")
		text = flouring.ReplaceAllStringFunc(text, func(said string) string {
			dust := flouring.ReplaceAllString(said, "dust the $1 with its own flour")
			if strings.HasPrefix(said, "F") {
				return phrase.Capital(dust)
			}
			return dust
		})
	}
	return text
}

// onlyJust is how wheat is mixed.
var onlyJust = pattern.Must(`(?i),? (?:until (?:only )?just (?:combined|mixed|incorporated|comes together)|only just|as little as possible|(?:being careful|taking care) not to over-?mix)\b`)

var noMore = pattern.Must(`(?i)\bno (?:more )?(?:dry |streaks of |pockets of |traces of )*$`)

// oneByOne are words that hold for eggs alone.
var oneByOne = pattern.Must(`(?i),?\s*(?:one (?:at a time|by one)|1 at a time|one after (?:the other|another)|singly)(?:,? beating (?:well )?(?:between|after) each(?: addition)?)?`)

// saying is a clause while it is said: what has been written of it, and what of the task's
// uses has not been named.
type saying struct {
	*rewriting
	t      Task
	text   string
	left   map[recipe.LineID]float64
	byName map[recipe.LineID]bool
	b      strings.Builder
	at     int // of the text, up to which it has been written
	out    said
}

// said keeps the writer's words, names what was replaced by what is in the bowl now, and
// puts the weights in once; ok is false where the words cannot be kept.
func (rw *rewriting) said(t Task, text string, ms []mention) (said, bool) {
	s := saying{rewriting: rw, t: t, text: text, left: map[recipe.LineID]float64{}, byName: rw.byName(ms)}
	for _, u := range t.Uses {
		s.left[u.Line] = u.Share
	}
	for _, m := range ms {
		switch {
		case m.from < s.at || m.to > len(text):
		case m.set != "":
			s.set(m)
		case noMore.MatchString(text[:m.from]): // "until no flour shows"
			s.write(m, "dry mix")
		case !s.name(m):
			return s.out, false
		}
	}
	s.b.WriteString(text[s.at:])
	words := rw.prepare(s.b.String())
	if list := rw.weights(t, s.left); list != "" && t.Verb != Line { // what the words do not name
		if strings.HasSuffix(words, ")") {
			words += ", with " + list
		} else {
			words += " (" + list + ")"
		}
	}
	if s.out.changed {
		words = oneByOne.ReplaceAllString(words, "")
	}
	if rw.Base == "gluten-free" || rw.Base == "nut" {
		beaten := onlyJust.ReplaceAllString(words, " for a minute: without gluten nothing toughens")
		if beaten != words && t.Verb != Fold {
			words, s.out.changed = beaten, true
		}
	}
	if !rw.fresh(words) {
		return s.out, false
	}
	s.out.text = phrase.Sentence(phrase.Capital(strings.TrimSpace(words)))
	return s.out, true
}

// write puts words in the place of a mention.
func (s *saying) write(m mention, words string) {
	s.b.WriteString(s.text[s.at:m.from] + words)
	s.at = m.to
}

// keep leaves a mention as it is written, with a weight behind it.
func (s *saying) keep(m mention, weight string) {
	s.b.WriteString(s.text[s.at:m.to])
	s.at = m.to
	if weight != "" {
		s.b.WriteString(" (" + weight + ")")
	}
}

// set lists behind "the dry ingredients" what they are, but for what the clause names.
func (s *saying) set(m mention) {
	here := map[recipe.LineID]float64{}
	for id, share := range s.left {
		if !s.byName[id] {
			here[id], s.left[id] = share, 0
		}
	}
	s.keep(m, s.weights(s.t, here))
}

// name says a mention of lines by what they are now; false where no words fit.
func (s *saying) name(m mention) bool {
	var stay, gone []recipe.LineID
	for _, id := range m.lines {
		if s.gone[id] {
			gone = append(gone, id)
		} else {
			stay = append(stay, id)
		}
	}
	used := slices.DeleteFunc(slices.Clone(gone), func(id recipe.LineID) bool { return !s.usedHere(id, s.left) })
	if len(used) > 0 {
		gone = used // of two of a name the one that goes in here
	}
	switch {
	case len(gone) == 0 && s.isMade(stay, s.left):
		s.out.changed, s.out.takes = true, append(s.out.takes, s.prepared[stay[0]])
		s.write(m, leading(s.text[m.from:m.state])+s.takeMade(stay, s.left))
	case len(gone) == 0 && m.grams > 0 && len(stay) == 1: // what is written of it may be another amount by now
		weight := s.weightOf(stay, s.portion(stay, s.left, m), false)
		if weight == "" {
			s.keep(m, "")
			break
		}
		s.write(m, weight+" "+s.text[m.state:m.to])
	case len(gone) == 0:
		s.keep(m, s.weightOf(stay, s.portion(stay, s.left, m), m.grams > 0))
	case len(stay) > 0 && len(used) == 0: // one of the name is still there
		s.keep(m, s.weightOf(stay, s.left, m.grams > 0))
	default:
		return s.replace(m, gone, stay)
	}
	return true
}

// replace says what stands for gone lines, with those of the name that stay.
func (s *saying) replace(m mention, gone, stay []recipe.LineID) bool {
	var to []recipe.LineID
	for _, id := range gone {
		to = append(to, s.replaced(id)...)
	}
	names, takes := s.instead(gone, s.portion(to, s.left, m))
	if names == "" || m.part && len(takes) > 0 && len(s.t.Uses) == 0 { // it went in with the other part of the egg
		return false
	}
	for _, id := range stay { // "the flours", of which one stays
		if w := s.weightOf([]recipe.LineID{id}, s.left, false); w != "" {
			names = strings.Replace(names, " and ", ", ", 1) + " and " + Short(s.Recipe.Line(id).Name) + " (" + w + ")"
		}
	}
	if more, ok := strings.CutPrefix(s.text[m.to:], " and "); ok {
		if _, does := verbOf(more, true); !does { // a list goes on
			names = strings.Replace(names, " and ", ", ", 1)
		}
	}
	s.out.changed = true
	s.out.takes = append(s.out.takes, takes...)
	before := leading(s.text[m.from:m.state])
	if m.grams > 0 {
		before = "the "
	}
	if at := counted.FindStringIndex(s.text[s.at:m.from]); at != nil { // "beat in 2 eggs" is "the gel"
		m.from, before = s.at+at[0], "the "
	}
	s.write(m, before+names)
	return true
}

// counted is a number of pieces before a name.
var counted = pattern.Must(`(?i)\b(?:\d+|two|three|four|five|six|both) (?:(?:large|medium|small|whole|free-range) )*(?:the )?$`)

// leading is what stands before a name, without a number of pieces: "one egg" is "the gel".
func leading(words string) string {
	if strings.EqualFold(strings.TrimSpace(words), "one") {
		return "the "
	}
	return words
}

// isMade reports whether all of some lines has been made into something before: water that
// the husk has drunk.
func (rw *rewriting) isMade(ids []recipe.LineID, left map[recipe.LineID]float64) bool {
	return len(ids) > 0 && !slices.ContainsFunc(ids, func(id recipe.LineID) bool { return rw.prepared[id] == "" || left[id] <= 0 })
}

// weightOfMade is the whole weight of what was made.
func (rw *rewriting) weightOfMade(made string) float64 {
	sum := 0.0
	for id, name := range rw.prepared {
		if name == made {
			sum += rw.Recipe.Line(id).Grams
		}
	}
	return sum
}

// takeMade names what lines were made into, with its whole weight the first time.
func (rw *rewriting) takeMade(ids []recipe.LineID, left map[recipe.LineID]float64) string {
	made := rw.prepared[ids[0]]
	sum := rw.weightOfMade(made)
	for id, name := range rw.prepared {
		if name == made {
			left[id] = 0
		}
	}
	if rw.spoken[made] {
		return made
	}
	rw.spoken[made] = true
	return made + " (" + measure.Grams(sum).String() + ")"
}

// byName are the adapted lines that mentions name by themselves, or what they replace.
func (rw *rewriting) byName(ms []mention) map[recipe.LineID]bool {
	out := map[recipe.LineID]bool{}
	for _, m := range ms {
		for _, id := range m.lines {
			out[id] = true
			for _, to := range rw.replaced(id) {
				out[to] = true
			}
		}
	}
	return out
}

// portion is what a mention takes of lines that the task uses: all that is left, or the
// part that the words give. What it takes is left no more.
func (rw *rewriting) portion(ids []recipe.LineID, left map[recipe.LineID]float64, m mention) map[recipe.LineID]float64 {
	if m.share <= 0 && !m.part && m.grams <= 0 {
		return left
	}
	out := map[recipe.LineID]float64{}
	for _, id := range ids {
		of := m.share
		switch {
		case m.part, m.vague: // "most of the buttermilk", of which the rest goes in here, too
			of = left[id]
		case m.grams > 0:
			of = rw.shareOf(id, m.grams)
		}
		out[id] = min(of, left[id])
		left[id] -= out[id]
	}
	return out
}

// shareOf is what written grams are of a line, or of the one that it stands for.
func (rw *rewriting) shareOf(id recipe.LineID, grams float64) float64 {
	l := rw.was.Line(id)
	if now := rw.Recipe.Line(id); now != nil && now.Replaces != 0 {
		l = rw.was.Line(now.Replaces)
	}
	if l == nil || l.Grams <= 0 || grams >= 0.95*l.Grams {
		return 1
	}
	return grams / l.Grams
}

// goneOnly reports whether mentions are of lines that are gone and of no others.
func (rw *rewriting) goneOnly(ms []mention) bool {
	return len(ms) > 0 && !slices.ContainsFunc(ms, func(m mention) bool {
		return m.set != "" || slices.ContainsFunc(m.lines, func(id recipe.LineID) bool { return !rw.gone[id] })
	})
}

// usedHere reports whether what a gone line became is still to be used in the task.
func (rw *rewriting) usedHere(id recipe.LineID, left map[recipe.LineID]float64) bool {
	return slices.ContainsFunc(rw.replaced(id), func(to recipe.LineID) bool { return left[to] > 0 })
}

// instead names what stands for gone lines, with its weight where this task takes it.
func (rw *rewriting) instead(gone []recipe.LineID, left map[recipe.LineID]float64) (names string, takes []string) {
	var list []string
	for _, id := range gone {
		s := rw.swapOf[id]
		if s == nil {
			return "", nil // left out
		}
		to := rw.replaced(id)
		if len(to) == 0 {
			to = s.To // it came with another line of its kind
		}
		if s.last {
			return "", nil
		}
		if len(to) > 0 && rw.prepared[to[0]] == huskGel && s.whole { // the husk has drunk it
			takes = append(takes, huskGel)
			if name := rw.takeMade(to, left); !slices.Contains(list, name) {
				list = append(list, name)
			}
			continue
		}
		if s.whole && slices.ContainsFunc(to, func(x recipe.LineID) bool { return rw.prepared[x] != "" }) || rw.willMix(s) {
			name := s.Title
			if g := rw.gramsOf(to, left); g > 0 {
				name += " (" + measure.Grams(g).String() + ")"
				for _, x := range to {
					left[x] = 0
				}
			}
			if !slices.Contains(list, name) {
				list = append(list, name)
			}
			takes = append(takes, s.Title)
			continue
		}
		if s.Use == "flour" && len(to) > 1 && rw.gramsOf(to, left) == 0 { // it was mixed before
			list = append(list, "flour mix")
			continue
		}
		for _, x := range to {
			l := rw.Recipe.Line(x)
			if l == nil {
				continue
			}
			if rw.prepared[x] != "" {
				left[x] = 0
				continue // it has been made into something, which is named where its liquid was
			}
			name := Short(l.Name)
			if w := rw.weightOf([]recipe.LineID{x}, left, false); w != "" {
				name += " (" + w + ")"
			}
			if !slices.Contains(list, name) && !slices.ContainsFunc(list, func(have string) bool { return strings.HasPrefix(have, Short(l.Name)+" (") }) {
				list = append(list, name)
			}
		}
	}
	return phrase.And(list), takes
}

// willMix reports whether a swap is mixed only when it is wanted.
func (rw *rewriting) willMix(s *Swap) bool {
	return s.whole && !s.last && slices.ContainsFunc(s.Steps, func(p step.Step) bool { return p.Place == step.AtMix })
}

// gramsOf are the grams of what a task takes of some lines.
func (rw *rewriting) gramsOf(ids []recipe.LineID, left map[recipe.LineID]float64) float64 {
	sum := 0.0
	for _, id := range ids {
		if l := rw.Recipe.Line(id); l != nil {
			sum += left[id] * l.Grams
		}
	}
	return sum
}

// weightOf is what a task takes of lines, in the household's words, and marks it as said.
func (rw *rewriting) weightOf(ids []recipe.LineID, left map[recipe.LineID]float64, said bool) string {
	var out, named []string
	for _, id := range ids {
		share := left[id]
		left[id] = 0
		if w := rw.amount(id, share); w != "" && !said {
			out, named = append(out, w), append(named, w+" "+Short(rw.Recipe.Line(id).Name))
		}
	}
	if len(out) == 1 {
		return out[0]
	}
	return strings.Join(named, ", ")
}

// amount is a share of a line: "115 g", or by cup and spoon where the household measures so.
func (rw *rewriting) amount(id recipe.LineID, share float64) string {
	l := rw.Recipe.Line(id)
	if l == nil || share <= 0 || l.Grams <= 0 {
		return ""
	}
	return rw.weight(l.Ingredient, l.Grams*share)
}

// weight is so much of a food in the household's words.
func (rw *rewriting) weight(of larder.ID, grams float64) string {
	i := rw.Larder.Get(of)
	if i != nil && rw.Measure != nil && (rw.Cups || i.Shelf.Spooned && grams < 20) {
		if m := rw.Measure(i, grams); m != "" {
			return m
		}
	}
	return measure.Grams(grams).String()
}

// weights lists what a task takes and has not been said: "133 g sugar, 104 g flax gel".
func (rw *rewriting) weights(t Task, left map[recipe.LineID]float64) string {
	var out []string
	for _, u := range t.Uses {
		l := rw.Recipe.Line(u.Line)
		if l == nil || left[u.Line] <= 0 || l.Grams <= 0 {
			continue
		}
		if made := rw.product(u.Line); made != "" {
			sum := 0.0
			for _, v := range t.Uses {
				if x := rw.Recipe.Line(v.Line); x != nil && rw.product(v.Line) == made {
					sum += x.Grams * left[v.Line]
					left[v.Line] = 0
				}
			}
			if rw.spoken[made] {
				continue // all of it went in before
			}
			if whole := rw.weightOfMade(made); whole > sum && sum > 0 && made == huskGel {
				sum, rw.spoken[made] = whole, true // it is taken up at once
			}
			out = append(out, measure.Grams(sum).String()+" "+made)
			continue
		}
		share := left[u.Line]
		left[u.Line] = 0
		more := 0.0 // of the same, from other lines
		for _, v := range t.Uses {
			if x := rw.Recipe.Line(v.Line); x != nil && x.Ingredient == l.Ingredient && left[v.Line] > 0 && rw.product(v.Line) == "" {
				more += left[v.Line] * x.Grams
				left[v.Line] = 0
			}
		}
		out = append(out, rw.named(u.Line, share+more/l.Grams))
	}
	return strings.Join(out, ", ")
}

// product is what a line has been made into, or will be before this task; "" for none.
func (rw *rewriting) product(id recipe.LineID) string {
	if made := rw.prepared[id]; made != "" {
		return made
	}
	l := rw.Recipe.Line(id)
	if l == nil || l.Replaces == 0 {
		return ""
	}
	if s := rw.swapOf[l.Replaces]; s != nil && rw.willMix(s) {
		return s.Title
	}
	return ""
}

// Short is a name as one says it: without what stands behind a comma or in brackets.
func Short(name string) string {
	name, _, _ = strings.Cut(name, ",")
	name, _, _ = strings.Cut(name, " (")
	return name
}

// named is an amount with its name.
func (rw *rewriting) named(id recipe.LineID, share float64) string {
	l := rw.Recipe.Line(id)
	return strings.TrimSpace(rw.amount(id, share) + " " + Short(l.Name))
}

// goneWords collects the words by which lines that are gone are known.
func (rw *rewriting) goneWords() {
	for _, of := range []map[string][]recipe.LineID{rw.names.of, rw.names.kind} {
		for name, ids := range of {
			if slices.ContainsFunc(ids, func(id recipe.LineID) bool { return rw.gone[id] }) {
				for _, w := range strings.Fields(name) {
					rw.stale[w] = true
				}
			}
		}
	}
}

// fresh reports whether a text speaks of nothing that is gone.
func (rw *rewriting) fresh(text string) bool {
	if !slices.ContainsFunc(words(text), func(w word) bool { return rw.stale[w.norm] }) {
		return true
	}
	for _, m := range rw.names.mentions(text, "") {
		if m.set != "" || len(m.lines) == 0 {
			continue
		}
		all := true
		for _, id := range m.lines {
			all = all && rw.gone[id]
		}
		if !all {
			continue
		}
		// the same word may name what is there now: "plant block butter", "oat flour"
		known := false
		for _, n := range rw.now.mentions(text, "") {
			known = known || n.set == "" && n.name <= m.name && n.to >= m.to
		}
		if !known && !rw.inTitle(text, m) {
			return false
		}
	}
	return true
}

// inTitle reports whether a mention stands inside the title of what was swapped in:
// "soured oat drink", "coconut milk".
func (rw *rewriting) inTitle(text string, m mention) bool {
	for n := range rw.Swaps {
		title := rw.Swaps[n].Title
		for at := 0; ; {
			k := strings.Index(text[at:], title)
			if k < 0 {
				break
			}
			if at+k <= m.name && at+k+len(title) >= m.to {
				return true
			}
			at += k + len(title)
		}
	}
	return false
}

// fmtMinutes writes minutes: "27", "33 to 40".
func fmtMinutes(lo, hi float64) string {
	if int(lo+0.5) == int(hi+0.5) {
		return fmt.Sprintf("%.0f", lo)
	}
	return fmt.Sprintf("%.0f to %.0f", lo, hi)
}
