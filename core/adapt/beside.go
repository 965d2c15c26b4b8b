package adapt

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/scan"
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
	onlyIf  = pattern.Must(`(?i)^(?:if|when|less if|more if|only if)\b`)
	holding = pattern.Must(`(?i)^(?:(?:may |might |it )?contain|(?:has |have )?traces?\b|made (?:with|from|of)\b|holds?\b|has\b)`)
)

// textPart is a piece of a line's text, with the mark or word that parts it from what stands before.
type textPart struct {
	by, text string
	from     int // in the line
}

// textParts are the parts of a line's text, the first its own food.
func textParts(text string) []textPart {
	var out []textPart
	at, by := 0, ""
	for _, cut := range append(parting.FindAllStringIndex(text, -1), []int{len(text), len(text)}) {
		piece := strings.TrimSpace(text[at:cut[0]])
		if len(out) == 0 || piece != "" {
			out = append(out, textPart{by, piece, at})
		}
		at, by = cut[1], strings.ToLower(text[cut[0]:cut[1]])
	}
	return out
}

// other is a mention in a line beside its own food.
type other struct {
	scan.Mention
	or, holds bool // an alternative, or a warning of the pack
}

// others are the foods that a line names beside its own, by its text alone.
func others(text string, own *larder.Ingredient, lib *larder.Larder) (out []other) {
	found := scan.Mentions(text, lib)
	if len(found) == 0 || len(found) == 1 && len(found[0].Foods) == 1 && found[0].Foods[0].ID == own.ID {
		return nil
	}
	parts := textParts(text)
	for _, m := range found {
		if slices.ContainsFunc(m.Foods, func(i *larder.Ingredient) bool { return i.ID == own.ID }) {
			continue
		}
		at := 0
		for n := range parts {
			if parts[n].from <= m.From {
				at = n
			}
		}
		if ownWords(parts, at, own, lib) || onlyIf.MatchString(parts[at].text) && !strings.Contains(parts[at].by, "or") {
			continue
		}
		or := strings.Contains(" "+parts[at].by+" ", " or ") || strings.HasPrefix(strings.ToLower(parts[at].text), "or ")
		out = append(out, other{m, or, m.Holds || holding.MatchString(parts[at].text)})
	}
	return out
}

// ownWords reports whether a part of a line says, with the parts before or behind it, what its own food is: the "gluten-free" of "flour,
// gluten-free", the "flour" of "almond meal/flour", the "crushed" of "plain biscuits, crushed".
func ownWords(parts []textPart, at int, own *larder.Ingredient, lib *larder.Larder) bool {
	is := func(words string) bool {
		m, ok := lib.Find(words, nil)
		return ok && m.ID == own.ID && m.Confidence == 1
	}
	first := parts[0].text
	if at == 0 {
		return is(first) || len(parts) > 1 && !strings.ContainsFunc(parts[1].by, unicode.IsLetter) && is(first+" "+parts[1].text)
	}
	if !strings.ContainsFunc(parts[at].by, unicode.IsLetter) && is(first+" "+parts[at].text) {
		return true
	}
	cut := strings.LastIndex(first, " ")
	return cut > 0 && strings.Contains(parts[at].by, "/") && is(first[:cut]+" "+parts[at].text)
}

// ruled is what of them a demand rules out.
type ruled struct {
	Named
	or  bool
	hit scan.Hit
}

// replaced reports whether what is named stands in the list too, where another stands for it.
func (x ruled) replaced(groups []*group, lib *larder.Larder) bool {
	return slices.ContainsFunc(groups, func(g *group) bool {
		return slices.ContainsFunc(g.Lines, func(l recipe.Line) bool {
			i := lib.Get(l.Ingredient)
			return i != nil && sameFood(x.hit.Mention, own(l, i))
		})
	})
}

// ruledOut are those of them that a demand rules out.
func ruledOut(text string, own *larder.Ingredient, d diet.Demand, lib *larder.Larder) (out []ruled) {
	hits, _ := broken(text, d, lib)
	if len(hits) == 0 {
		return nil
	}
	beside := others(text, own, lib)
	for _, h := range hits {
		x := ruled{Named: Named{strings.ToLower(h.Said), text, h.Holds}, hit: h}
		if h.Word == "" {
			n := slices.IndexFunc(beside, func(o other) bool { return o.From == h.From })
			if n < 0 {
				continue
			}
			x.or, x.Holds = beside[n].or, beside[n].holds
		}
		if !slices.ContainsFunc(out, func(have ruled) bool { return have.Named == x.Named }) {
			out = append(out, x)
		}
	}
	return out
}

// Beside are the foods that the lines of a recipe name beside what they were taken for and that a demand rules out.
func Beside(r *recipe.Recipe, d diet.Demand, lib *larder.Larder) (out []Named) {
	for _, l := range r.Lines {
		if own := lib.Get(l.Ingredient); own != nil && l.Known { // one that is not understood could hold anything, and is asked about
			for _, x := range ruledOut(l.Text, own, d, lib) {
				out = append(out, x.Named)
			}
		}
	}
	return out
}
