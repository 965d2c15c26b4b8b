package reader

import (
	"fmt"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

// One line may hold two ingredients: "juice and zest of 1 orange", "1 tbsp ground
// flax + 3 tbsp water". Each becomes a line of its own over the same words.
var (
	bothOf = pattern.Must(
		`(?i)^(?:(?:finely |freely )?grated |the |freshly squeezed |some )*(zest|rind|juice)\s*(?:and|&|\+|,)\s*(?:(?:finely )?grated |the )*(zest|rind|juice) (?:(?:of|from)\s+)?((?:\d|[½¼¾⅓⅔\pL]).{1,60})$`,
	)
	bothAfter = pattern.Must(
		`(?i)^((?:\S+ ){0,4}?(?:lemon|orange|lime)s?)\s*[,(:–-]+\s*(?:(?:finely )?grated |the |both )*(zest|rind|juice)\s*(?:and|&|\+|,)\s*(?:(?:finely )?grated |the )*(zest|rind|juice)\)?$`,
	)
	aside = pattern.Must(
		`(?i)^[^\pL]*(?:(?:tbsp|tsp|tablespoons?|teaspoons?|g|ml|cups?)\s+)?(?:to|for|if|extra|more)\b`,
	)
	joined = pattern.Must(`(?i)\s+(?:\+|plus|and|&)\s+`)
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

// parted are the lines of a text that holds more than one, nil for any other; what was
// divided by us is said.
func (r *reading) parted(p piece) []piece {
	if parts := r.twoInOne(p); parts != nil {
		return parts
	}
	if _, corrected := r.opt.Fixes[r.key(p.text)]; corrected {
		return nil
	}
	parts, each := r.shared(p)
	if parts != nil && !each {
		r.Findings = append(r.Findings, Finding{"shared", "note", fmt.Sprintf(
			"“%s” is one amount for %d foods: taken in equal parts. Correct them where yours are not.", p.text, len(parts),
		), recipe.LineID(r.found + 1)})
	}
	return parts
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

// sharedOf is one amount for two or three foods: "½ cup mixed nuts and raisins", "100 g each
// of butter and sugar", "a pinch of salt and pepper".
var (
	eachOf   = pattern.Must(`(?i)^\s*(?:of\s+)?each(?:\s+of)?(?:\s+the)?:?\s+`)
	eachEnd  = pattern.Must(`(?i)\s*(?:[,(]\s*)?\beach\)?\s*$`)
	betweens = pattern.Must(`(?i)\s*,\s*(?:and\s+)?|\s+(?:and|&)\s+`)
	ofThe    = pattern.Must(`(?i)^\s*of\s+(?:the\s+)?`)
)

// shared parts a line whose one amount is for several foods, which are taken in equal parts
// unless it says "each"; nil where it is one food, or where a part of it is not sure.
func (r *reading) shared(p piece) (parts []piece, each bool) {
	if len(p.text) > 100 || !betweens.MatchString(p.text) {
		return nil, false
	}
	q, n, err := measure.ScanQuantity(p.text)
	if err != nil {
		return nil, false
	}
	unit, k := measure.ScanUnit(p.text[n:])
	rest, head := p.text[n+k:], strings.TrimSpace(p.text[n:n+k])
	if t := eachOf.ReplaceAllString(rest, ""); t != rest {
		each, rest = true, t
	} else if t := eachEnd.ReplaceAllString(rest, ""); t != rest {
		each, rest = true, t
	}
	rest = strings.TrimSpace(ofThe.ReplaceAllString(rest, ""))
	after := ""
	if at := strings.LastIndex(rest, ", "); at > 0 && betweens.MatchString(rest[:at]) { // "almonds and walnuts, chopped"
		if m, ok := r.find(rest[at+2:]); !ok || m.Confidence < larder.SureEnough {
			rest, after = rest[:at], rest[at:]
		}
	}
	rest = strings.TrimSuffix(rest, " mixed")
	names := betweens.Split(rest, -1)
	few := unit.ID == "pinch" || unit.ID == "dash" || n == 0 // of each, whatever is meant
	if len(names) < 2 || len(names) > 4 || n == 0 && unit.ID != "pinch" && unit.ID != "dash" && len(names) > 2 ||
		unit.Kind == measure.NoUnit && n > 0 && !each {
		return nil, false
	}
	if m, ok := r.find(rest); ok && m.Confidence >= larder.SureEnough {
		return nil, false
	}
	if plain, mixed := strings.CutPrefix(names[0], "mixed "); mixed { // mixed nuts are one thing, "mixed walnuts and sultanas" two
		if m, ok := r.find(names[0]); !ok || m.Confidence < larder.SureEnough {
			names[0] = plain
		}
	}
	for _, name := range names {
		if m, ok := r.find(name); !ok || m.Confidence < larder.SureEnough || len(strings.Fields(name)) > 4 {
			return nil, false
		}
	}
	amount := ""
	switch {
	case n == 0 && k > 0:
		amount = head + " "
	case n > 0 && (each || few):
		amount = strings.TrimSpace(p.text[:n]+" "+head) + " "
	case n > 0:
		amount = strings.TrimSpace(q.Scale(1/float64(len(names))).String()+" "+head) + " "
	}
	for _, name := range names {
		parts = append(parts, piece{text: amount + strings.TrimSpace(name) + after, at: p.at, list: p.list, src: len(p.text)})
	}
	return parts, each || few
}

var (
	listHead  = pattern.Must(`(?i)^(?:for (?:the )?)?([\pL][\pL &'’]{1,30}?)(?:\s*:\s+|\s+[–—-]\s+)`)
	listSplit = pattern.Must(`\s*[,;]\s+(?:and\s+|plus\s+)?|\s+and\s+`)
	amountAt  = pattern.Must(`(?i)^(?:\d|[½¼¾⅓⅔⅛]|(?:an?|half|one|two|three|four|pinch|some|juice of|zest of|grated zest of)\s)`)
)

// leastListed is how many amounts in one line make it a list of lines, where nothing heads it.
const leastListed = 3

// listed parts a line in which several ingredients stand one after the other, each with its amount:
// "Filling: 300 g walnuts, ground, 100 g sugar, 120 ml hot milk". head is its section, "" for none; parts
// are nil where it is no such list.
func (r *reading) listed(p piece) (head string, parts []piece) {
	at := 0
	if m := listHead.FindStringSubmatchIndex(p.text); m != nil {
		head, at = p.text[m[2]:m[3]], m[1]
	}
	if at == 0 && (looksLikeStep(p) || len(p.text) > 300) {
		return "", nil
	}
	from, amounts := at, 0
	cut := func(to int) {
		text := strings.TrimSpace(p.text[from:to])
		if text != "" {
			parts = append(parts, piece{text: strings.TrimRight(text, " .,;"), at: p.at + from, src: p.src})
		}
	}
	for _, s := range append(listSplit.FindAllStringIndex(p.text[at:], -1), []int{len(p.text) - at, len(p.text) - at}) {
		next := p.text[at+s[1]:]
		if s[1] < len(p.text)-at && !amountAt.MatchString(next) {
			continue // "ground" belongs to the walnuts before it
		}
		if piece := p.text[from : at+s[0]]; amountAt.MatchString(piece) && r.stands(strings.TrimRight(piece, " .,;")) {
			amounts++
		}
		cut(at + s[0])
		from = at + s[1]
	}
	least := leastListed
	if head != "" {
		least = 2
	}
	if amounts < least || amounts < len(parts)-1 {
		return "", nil
	}
	return head, parts
}
