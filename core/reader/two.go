package reader

import (
	"regexp"
	"strings"

	"kollaris/core/measure"
)

// One line may hold two ingredients: "juice and zest of 1 orange", "1 tbsp ground
// flax + 3 tbsp water". Each becomes a line of its own over the same words.
var (
	bothOf = regexp.MustCompile(
		`(?i)^(?:(?:finely |freely )?grated |the |freshly squeezed |some )*(zest|rind|juice)\s*(?:and|&|\+|,)\s*(?:(?:finely )?grated |the )*(zest|rind|juice) (?:of|from)\s+(.{1,60})$`,
	)
	bothAfter = regexp.MustCompile(
		`(?i)^((?:\S+ ){0,4}?(?:lemon|orange|lime)s?)\s*[,(:–-]+\s*(?:(?:finely )?grated |the |both )*(zest|rind|juice)\s*(?:and|&|\+|,)\s*(?:(?:finely )?grated |the )*(zest|rind|juice)\)?$`,
	)
	aside = regexp.MustCompile(
		`(?i)^[^\pL]*(?:(?:tbsp|tsp|tablespoons?|teaspoons?|g|ml|cups?)\s+)?(?:to|for|if|extra|more)\b`,
	)
	joined = regexp.MustCompile(`(?i)\s+(?:\+|plus|and|&)\s+`)
)

// twoInOne parts such a line; nil when it holds one ingredient.
func (r *reading) twoInOne(p piece) []piece {
	if _, corrected := r.opt.Fixes[r.key(p.text)]; corrected || len(p.text) > 160 {
		return nil
	}
	part := func(text string) piece { return piece{text: text, at: p.at, list: p.list, src: len(p.text)} }
	for _, m := range [][]string{bothOf.FindStringSubmatch(p.text), reorder(bothAfter.FindStringSubmatch(p.text))} {
		if m != nil && !strings.EqualFold(m[1], m[2]) && !twoThings.MatchString(m[3]) {
			return []piece{part(strings.ToLower(m[1]) + " of " + m[3]), part(strings.ToLower(m[2]) + " of " + m[3])}
		}
	}
	for _, at := range joined.FindAllStringIndex(p.text, 4) {
		left, right := p.text[:at[0]], p.text[at[1]:]
		if q, n, err := measure.ScanQuantity(right); err != nil || n == 0 || q.IsZero() {
			continue
		}
		if r.stands(left) && r.stands(right) {
			return []piece{{text: left, at: p.at, list: p.list}, {text: right, at: p.at + at[1], list: p.list}}
		}
	}
	return nil
}

func reorder(m []string) []string {
	if m == nil {
		return nil
	}
	return []string{m[0], m[2], m[3], m[1]}
}

// stands reports whether a text would do as an ingredient line of its own.
func (r *reading) stands(text string) bool {
	if aside.MatchString(text) {
		return false // "1 tbsp to sprinkle"
	}
	found := len(r.Findings)
	line, strong := r.tryLine(piece{text: text}, true)
	r.Findings = r.Findings[:found]
	return line != nil && strong && line.Known && line.Grams > 0
}
