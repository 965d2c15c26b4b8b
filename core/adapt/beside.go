package adapt

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"unicode"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// Named is a food that a line names beside the one it was taken for, and that this table must not have: the milk of
// "100 ml oat drink (or milk)", the butter of "chocolate, melted with butter".
type Named struct {
	Food  string `json:"food"`
	Text  string `json:"text"`            // the line as it was written
	Holds bool   `json:"holds,omitempty"` // the line says that what it is of contains it
}

// Words says what to do about it.
func (n Named) Words() string {
	if n.Holds {
		return fmt.Sprintf("“%s” says that it holds %s: for this table only one without", phrase.Clip(n.Text, 60), n.Food)
	}
	return fmt.Sprintf("“%s” names %s too, which is not for this table: leave it out", phrase.Clip(n.Text, 60), n.Food)
}

// besideWords says what to do about all.
func besideWords(list []Named) string {
	var out []string
	for _, n := range list {
		out = append(out, n.Words())
	}
	return strings.Join(out, ". ") + "."
}

var (
	parting = pattern.Must(`(?i)\s*[,;()\[\]/]\s*|:\s+|\s+[-–—+&]\s+|\s+(?:or|and|with|in|into|plus|from)\s+`)
	// leads stands at the head of a piece and names nothing.
	leads = pattern.Must(`(?i)^(?:(?:or|and|plus|with|in|into|from|a|an|some|the|your|any|little|few|bit|splash|drop|drops|dash|knob|touch|of|extra|more|contains?|may|might|traces?|made)\s+)+`)
	// likened is a piece that names a food only to tell what stands for it, what it is not, or what it is for.
	likened = pattern.Must(`(?i)^(?:or )?(?:no|not|non|without|never|free|instead|in place|rather|like|as|than|for|unless|except|replac\w+|to replace|equal|same)\b`)
	onlyIf  = pattern.Must(`(?i)^(?:if|when|less if|more if|only if)\b`)
	holding = pattern.Must(`(?i)^(?:(?:may |might |it )?contain|(?:has |have )?traces?\b|made (?:with|from|of)\b|holds?\b|has\b)`)
)

// mostWords is how many words of a piece are looked up together: the longest names of the larder.
const mostWords = 5

// heardOf is a food that a line's text names after its own, in its words.
type heardOf struct {
	id    larder.ID
	said  string
	holds bool
}

// besides are the foods that a line names after its own, by its text alone; the same for every table, and remembered.
func besides(text string, own *larder.Ingredient, lib *larder.Larder) []heardOf {
	type key struct {
		lib  *larder.Larder
		own  larder.ID
		text string
	}
	k := key{lib, own.ID, text}
	if v, ok := besidesOf.Load(k); ok {
		return v.([]heardOf)
	}
	var out []heardOf
	parts := textParts(text)
	for n, part := range parts[1:] {
		holds := holding.MatchString(part.text)
		piece := leads.ReplaceAllString(part.text, "")
		if m, ok := lib.Find(parts[0].text+" "+piece, nil); ok && m.ID == own.ID && m.Confidence == 1 && !strings.ContainsFunc(part.by, unicode.IsLetter) {
			continue // the "gluten-free" of "flour, gluten-free"
		}
		if cut := strings.LastIndex(parts[0].text, " "); cut > 0 && strings.Contains(part.by, "/") { // "almond meal/flour"
			if m, ok := lib.Find(parts[0].text[:cut]+" "+piece, nil); ok && m.ID == own.ID && m.Confidence == 1 {
				continue
			}
		}
		if n+2 < len(parts) { // "plain biscuits, crushed"
			next, _, _ := strings.Cut(parts[n+2].text, " if ")
			if m, ok := lib.Find(piece+" "+next, nil); ok && m.Confidence == 1 && m.ID != own.ID {
				out = append(out, heardOf{m.ID, piece + ", " + next, holds})
				continue
			}
		}
		found := namedIn(piece, lib)
		for _, h := range found {
			if h.id != own.ID {
				out = append(out, heardOf{h.id, h.said, holds})
			}
		}
		if len(found) > 0 {
			continue
		}
		for _, s := range spoken {
			if names(piece, s.said) && !s.said.MatchString(own.Name) {
				out = append(out, heardOf{s.as, s.name, holds})
			}
		}
	}
	if besidesCount.Add(1) > mostUnlisted*20 {
		besidesOf.Clear()
		besidesCount.Store(0)
	}
	besidesOf.Store(k, out)
	return out
}

var (
	besidesOf    sync.Map
	besidesCount atomic.Int64
)

// namedIn are the foods of the larder that a piece of text names, the longest name first.
func namedIn(piece string, lib *larder.Larder) (out []heardOf) {
	if m, ok := lib.Find(piece, nil); ok && m.Confidence >= larder.SureEnough {
		return []heardOf{{id: m.ID, said: piece}}
	}
	words := strings.Fields(piece)
	if len(words) > 12 {
		words = words[:12]
	}
	for from := 0; from < len(words); from++ {
		for n := min(mostWords, len(words)-from); n > 0; n-- {
			said := strings.Join(words[from:from+n], " ")
			m, ok := lib.Find(said, nil)
			if from > 0 && (words[from-1] == "to" || words[from-1] == "for") { // "to sprinkle", "whizzed to flour"
				break
			}
			if !ok || m.Confidence < 1 || otherBefore.MatchString(strings.Join(words[:from], " ")+" ") {
				continue
			}
			out = append(out, heardOf{id: m.ID, said: said})
			from += n - 1
			break
		}
	}
	return out
}

// textPart is a piece of a line's text, with the mark or word that parts it from what stands before.
type textPart struct{ by, text string }

// textParts are the parts of a line's text, the first its own food; those that name a food only in comparison are left out.
func textParts(text string) []textPart {
	var out []textPart
	at, by := 0, ""
	for _, cut := range append(parting.FindAllStringIndex(text, -1), []int{len(text), len(text)}) {
		piece := strings.TrimSpace(text[at:cut[0]])
		skip := likened.MatchString(piece) || onlyIf.MatchString(piece) && !strings.Contains(by, "or")
		if len(out) == 0 || piece != "" && !skip {
			out = append(out, textPart{by, piece})
		}
		at, by = cut[1], strings.ToLower(text[cut[0]:cut[1]])
	}
	return out
}

// ruledOut are those of them that a demand rules out.
func ruledOut(text string, own *larder.Ingredient, d diet.Demand, lib *larder.Larder) (out []Named) {
	if !parting.MatchString(text) {
		return nil
	}
	for _, h := range besides(text, own, lib) {
		i := lib.Get(h.id)
		if i == nil {
			continue
		}
		if j, _ := d.Judge(i); j != diet.Breaks {
			continue
		}
		if n := (Named{h.said, text, h.holds}); !slices.Contains(out, n) {
			out = append(out, n)
		}
	}
	return out
}

// Beside are the foods that the lines of a recipe name beside what they were taken for and that a demand rules out.
func Beside(r *recipe.Recipe, d diet.Demand, lib *larder.Larder) (out []Named) {
	for _, l := range r.Lines {
		if own := lib.Get(l.Ingredient); own != nil && l.Known { // one that is not understood could hold anything, and is asked about
			out = append(out, ruledOut(l.Text, own, d, lib)...)
		}
	}
	return out
}

// withoutOthers takes what a line names beside its own food, and this table must not have, out of its words.
func (r *assessment) withoutOthers() (out []Named) {
	for n := range r.res.Recipe.Lines {
		l := &r.res.Recipe.Lines[n]
		own := r.Larder.Get(l.Ingredient)
		if own == nil || !l.Known {
			continue
		}
		named := ruledOut(l.Text, own, r.demand, r.Larder)
		if len(named) == 0 {
			continue
		}
		was := l.Text
		if !slices.ContainsFunc(r.before.Lines, func(b recipe.Line) bool { return b.Text == l.Text }) {
			for _, b := range r.before.Lines { // what stands for another took over its note
				if b.Note == l.Note && l.Note != "" {
					was = b.Text
				}
			}
		}
		for _, b := range named {
			if b.Text = was; !slices.Contains(out, b) {
				out = append(out, b)
			}
		}
		var note []string
		for _, part := range strings.Split(l.Note, ", ") {
			if part != "" && len(ruledOut(own.Name+", "+part, own, r.demand, r.Larder)) == 0 {
				note = append(note, part)
			}
		}
		for _, b := range named {
			if b.Holds { // the warning of the pack is not taken off with its words
				note = append(note, "without "+b.Food)
			}
		}
		l.Note = strings.Join(note, ", ")
		l.Text = r.lineText(own, l.Grams, l.Note)
	}
	return out
}
