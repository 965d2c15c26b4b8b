package reader

import (
	"cmp"
	"fmt"
	"slices"
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
	joined = pattern.Must(`(?i)\s+(?:\+|plus|and|&|with|in|into|over)\s+|\s*[,;]\s+`)
	// ofIt opens what is taken of another line: "dissolved in 2 tbsp of the milk".
	ofIt = pattern.Must(`(?i)^[^\pL]*(?:[\pL.]+\s+)?(?:(?:out )?of|from) (?:the|your|that|it|this|those|above)\b`)
	// instead stands before what may be taken for the line's own food.
	instead = pattern.Must(`(?i)(?:[(,;]\s*|\s)or\s[^),;]*$`)
	// doneTo is what is done to a food with what is named after it.
	doneTo = pattern.Must(`(?i)\s*,?\s*(?:(?:and |then )?(?:dissolved|soaked|steeped|melted|mixed|beaten|blended|stirred|whisked|combined|slaked|bloomed|mashed|softened|made up|shaken|to a (?:smooth )?paste|together|well|lightly)\s*)+$`)
	// purpose is where a line goes: ", to glaze".
	purpose = pattern.Must(`(?i),?\s+(?:to|for)\s+[^,;]+$`)
	// drained tells that what a food lay in is poured away.
	drained = pattern.Must(`(?i)\b(?:drained|squeezed|strained|rinsed|discard\w*|boiled|cooked|steamed|poached)\b`)
)

// twoInOne parts such a line; nil when it holds one ingredient.
func (r *reading) twoInOne(p piece) []piece {
	if _, corrected := r.fix(r.key(p.text)); corrected || len(p.text) > 160 {
		return nil
	}
	part := func(text string) piece {
		return piece{text: text, at: p.at, list: p.list, src: cmp.Or(p.src, len(p.text))}
	}
	for _, m := range [][]string{bothOf.FindStringSubmatch(p.text), reorder(bothAfter.FindStringSubmatch(p.text))} {
		if m != nil && !strings.EqualFold(m[1], m[2]) && !twoThings.MatchString(m[3]) {
			return []piece{part(strings.ToLower(m[1]) + " of " + m[3]), part(strings.ToLower(m[2]) + " of " + m[3])}
		}
	}
	return r.several(p)
}

// several parts a line at each amount that stands for a food of its own: "2 eggs, beaten with 1 tbsp milk"; nil where it holds one.
func (r *reading) several(p piece) (out []piece) {
	from := 0 // of the piece that grows
	grown := piece{text: p.text, at: p.at, list: p.list}
	for _, at := range joined.FindAllStringIndex(p.text, 12) {
		left, right := p.text[from:at[0]], p.text[at[1]:]
		if instead.MatchString(left) {
			break // "buttermilk (or 200 ml milk and 1 tsp vinegar)" is the buttermilk
		}
		if q, n, err := measure.ScanQuantity(right); err != nil || n == 0 || q.IsZero() || ofIt.MatchString(right[n:]) {
			continue
		}
		by := strings.ToLower(strings.TrimSpace(p.text[at[0]:at[1]]))
		if slices.Contains([]string{"in", "into", "over"}, by) && drained.MatchString(p.text) {
			continue
		}
		if open := strings.LastIndex(left, "("); open >= 0 && !strings.Contains(left[open:], ")") {
			if startsWithDigit(strings.TrimSpace(left[open+1:])) {
				break // "1 flax egg (1 tbsp flax + 3 tbsp water)" says what that is
			}
			left = left[:open] + ", " + left[open+1:]
		}
		if slices.Contains([]string{"with", "in", "into", "over"}, by) { // they go in together
			if done := doneTo.FindStringIndex(left); done != nil {
				left = left[:done[0]] + ", " + strings.TrimLeft(left[done[0]:], " ,")
			}
			left += purpose.FindString(right)
		}
		a, b := r.alone(left), r.first(right)
		twice := a == b && !slices.Contains([]string{"and", "plus", "+", "&"}, by) // "2 carrots, 150 g carrot"
		if a != "" && b != "" && !twice {
			one := p.part(left, from)
			one.src = cmp.Or(one.src, at[0]-from)
			from, out = at[1], append(out, one)
			grown = p.part(right, from)
		}
	}
	if out == nil {
		return nil
	}
	if strings.Count(grown.text, ")") > strings.Count(grown.text, "(") {
		grown.text, grown.src = strings.Replace(grown.text, ")", "", 1), cmp.Or(grown.src, len(grown.text))
	}
	return append(out, grown) // the last may still hold what is asked about
}

// ofTheSame are the words after a second amount that say more of the line's own food.
var ofTheSame = pattern.Must(`(?i)^(?:same|each|in total|total|weight|net|gross|drained|peeled|unpeeled|shelled|pitted|stoned|trimmed|prepared|cooked|raw|chopped|grated|mashed|sifted|packed|heaped|level|cut|sliced|cubed|diced|when|once|after|before|without|with|plus|for|to|of|at|per|more|extra|less|or|about|approx\w*|measured|melted|size|tins?|cans?|pack\w*|jars?|bags?|box(?:es)?|blocks?|long|thick|wide|square|deep|pieces?|chunks?|slices?|rounds?|room|warm|cold|hot|and|from|will|as|is|was|should|needed|if|us|uk|metric|imperial|dry|wet|whole|the)\b`)

// another is what a line names after a second amount and that was not parted from it, "" for nothing: it would be lost.
// What is counted, not measured, is asked about where it is another food of the larder: "3 eggs whisked until pale", not "3 small ones".
func (r *reading) another(text string, own larder.ID) string {
	for _, at := range joined.FindAllStringIndex(text, 12) {
		left, right := text[:at[0]], text[at[1]:]
		open := strings.LastIndex(left, "(")
		if instead.MatchString(left) || open >= 0 && !strings.Contains(left[open:], ")") {
			return ""
		}
		if withoutAmounts(left) == "" {
			continue // "1 cup plus 2 tbsp milk"
		}
		by := strings.ToLower(strings.TrimSpace(text[at[0]:at[1]]))
		if more, ok := strings.CutPrefix(right, "plus "); ok { // ", plus 2 tbsp of the syrup"
			right, by = more, "plus"
		}
		_, n, err := measure.ScanQuantity(right)
		if err != nil || n == 0 || ofIt.MatchString(right[n:]) && by != "plus" && by != "+" { // "stem ginger, plus 2 tbsp of the syrup"
			continue
		}
		unit, k := measure.ScanUnit(right[n:])
		food := strings.TrimSpace(right[n+k:])
		if end := strings.IndexAny(food, ",;()"); end >= 0 {
			food = strings.TrimSpace(food[:end])
		}
		food = strings.TrimSpace(ofThe.ReplaceAllString(food, ""))
		if len(food) < 3 || ofTheSame.MatchString(food) || unit.Kind == measure.NoUnit && !r.opensWithAnother(food, own) {
			continue
		}
		return strings.TrimSpace(right[:n+k]) + " " + food
	}
	return ""
}

// opensWithAnother reports whether a text opens with the name of another food.
func (r *reading) opensWithAnother(text string, own larder.ID) bool {
	words := strings.Fields(strings.TrimSpace(sizeWord.ReplaceAllString(text, " ")))
	for n := min(len(words), 3); n > 0; n-- {
		if m, ok := r.find(strings.Join(words[:n], " ")); ok && m.Confidence == 1 {
			return m.ID != own
		}
	}
	return false
}

// withoutAmounts is a text without the amounts that open it.
func withoutAmounts(text string) string {
	for {
		_, n, err := measure.ScanQuantity(text)
		_, k := measure.ScanUnit(text[n:])
		if err != nil || n+k == 0 {
			return strings.Trim(text, " ,;()+&")
		}
		text = strings.TrimLeft(text[n+k:], " ,;()+&")
	}
}

// first is the food of a text up to its next amount, or of all of it; "" where neither stands alone.
func (r *reading) first(text string) larder.ID {
	for _, at := range joined.FindAllStringIndex(text, 4) {
		if _, n, err := measure.ScanQuantity(text[at[1]:]); err == nil && n > 0 {
			left := text[:at[0]]
			if done := doneTo.FindStringIndex(left); done != nil {
				left = left[:done[0]]
			}
			if id := r.alone(left); id != "" {
				return id
			}
		}
	}
	return r.alone(strings.TrimRight(text, ") "))
}

// parted are the lines of a text that holds more than one, nil for any other; what was
// divided by us is said.
func (r *reading) parted(p piece) []piece {
	if parts := r.twoInOne(p); parts != nil {
		return parts
	}
	if _, corrected := r.fix(r.key(p.text)); corrected {
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
func (r *reading) stands(text string) bool { return r.alone(text) != "" }

// alone is what a text is of as an ingredient line of its own, "" where it would not do as one.
func (r *reading) alone(text string) larder.ID {
	if aside.MatchString(text) {
		return "" // "1 tbsp to sprinkle"
	}
	found := len(r.Findings)
	line, strong := r.tryLine(piece{text: text}, true)
	r.Findings = r.Findings[:found]
	if line == nil || !strong || !line.Known || line.Grams <= 0 {
		return ""
	}
	return line.Ingredient
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
	if m, ok := r.find(rest); ok && m.Confidence >= larder.SureEnough && !each {
		return nil, false
	}
	if plain, mixed := strings.CutPrefix(names[0], "mixed "); mixed { // mixed nuts are one thing, "mixed walnuts and sultanas" two
		if m, ok := r.find(names[0]); !ok || m.Confidence < larder.SureEnough {
			names[0] = plain
		}
	}
	for n, name := range names {
		if n > 0 && amountAt.MatchString(name) {
			return nil, false // each has an amount of its own
		}
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
		parts = append(parts, piece{text: amount + strings.TrimSpace(name) + after, at: p.at, list: p.list, src: cmp.Or(p.src, len(p.text))})
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

// beginsLine reports whether a text begins with a food and its amount, in either order: "200 g sugar", "sugar 200 g".
func beginsLine(s string) bool { return amountAt.MatchString(s) || nameOnly.MatchString(s) }

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
	parted := listSplit.FindAllStringIndex(p.text[at:], -1)
	if head == "" && len(parted) < leastListed-1 {
		return "", nil
	}
	from, amounts := at, 0
	cut := func(to int) {
		text := strings.TrimSpace(p.text[from:to])
		if text != "" {
			of := p.part(strings.TrimRight(text, " .,;"), from)
			of.list = false
			parts = append(parts, of)
		}
	}
	for _, s := range append(parted, []int{len(p.text) - at, len(p.text) - at}) {
		next := p.text[at+s[1]:]
		if s[1] < len(p.text)-at && !beginsLine(next) {
			continue // "ground" belongs to the walnuts before it
		}
		if piece := p.text[from : at+s[0]]; beginsLine(piece) && r.stands(strings.TrimRight(piece, " .,;")) {
			amounts++
		}
		cut(at + s[0])
		from = at + s[1]
	}
	least := leastListed
	if head != "" {
		least = 2
		if RoleOf(head) != recipe.Batter {
			least = 1 // "Glaze: 2 tbsp apricot jam"
		}
	}
	if amounts < least || amounts < len(parts)-1 {
		return "", nil
	}
	return head, parts
}
