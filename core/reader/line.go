package reader

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

var (
	about = pattern.Must(
		`(?i)^(?:about|approx(?:imately|\.)?|around|roughly|ca\.?|~|scant|a scant|generous|a generous|heaped|a heaped|heaping|a heaping|level|rounded|a rounded|a good|good|at least|up to|another|or so)\s+`,
	)
	oneOf    = pattern.Must(`(?i)^a (?:scant|generous|heaped|heaping|rounded|level|good)\b`)
	sizeWord = pattern.Must(
		`(?i)^\s*(small|medium(?:[- ]sized?)?|large|big|extra[- ]large|xl|lg|med|sm)\b\.?[\s,-]*(?:(?:or|to)\s+(?:small|medium|large)\s+)?`,
	)
	spoonWord = pattern.Must(
		`(?i)^\s*(?:heaped|heaping|level|rounded|scant|generous|good|packed|firmly packed)\s+`,
	)
	times    = pattern.Must(`(?i)^\s*[x×]\s*`)
	optional = pattern.Must(`(?i)\(?\boptional(?:ly)?\b\)?`)
	noAmount = pattern.Must(
		`(?i)\b(to taste|as needed|as required|for (?:dusting|greasing|sprinkling|rolling|brushing|the tin|the pan|kneading|glazing|serving|decoration|decorating|topping|frying)|to (?:serve|finish|glaze|decorate|dust|grease|sprinkle|top|scatter)|to coat)\b`,
	)
	extra     = pattern.Must(`(?i)[,;]?\s*\(?(?:plus|and|\+)\s+(?:a little |some |a bit )?(?:extra|more)\b.*$`)
	plusTail  = pattern.Must(`(?i)^\s*(?:plus|\+|and|&)\s+`)
	slashTail = pattern.Must(`^\s*(?:/|=|,?\s*or(?:\s+about)?\s)\s*`)
	nameFirst = pattern.Must(
		`^([\pL][\pL\s'’()&-]{1,50}?)\s*(?:\s[-–—]|:|,|\.{2,}|…)\s*((?:\d|[½¼¾⅓⅔⅛]|(?:half|a|an|one|two|three)\s)[^\n]*)$`,
	)
	partsOf  = pattern.Must(`(?i)^(?:the )?(whites?|yolks?) (?:of|from) (.{1,20}?) eggs?$`)
	nameOnly = pattern.Must(
		`^([\pL][\pL\s'’()-]{2,40}?)\s+((?:\d+(?:[.,/]\d+)?|\d*\s?[½¼¾⅓⅔⅛])\s?(?:g|kg|ml|cl|dl|l|oz|lbs?|tsp|tbsp|cups?|grams?|ounces?|teaspoons?|tablespoons?)(?:[ ,].*)?)$`,
	)
	nameTimes = pattern.Must(`^([\pL][\pL\s'’()-]{2,40}?)\s+[x×]\s?(\d{1,2})$`)
	plusEnd   = pattern.Must(`(?i)\s+(?:\+|plus)\s+([\d½¼¾⅓⅔⅛][^,]*)$`)
	someOf    = pattern.Must(
		`(?i)^(?:a little|a bit|some|plenty|enough|extra|a (?:splash|drizzle|glug|scraping|touch|few (?:gratings|grinds|twists)))(?:\s+of)?(?:\s+(?:extra|more))?\s+`,
	)
	bracketed   = pattern.Must(`^[\[(]((?:about )?[\d½¼¾⅓⅔⅛][^\])]{0,20})[\])]\s*`) // "[200g] butter"
	leadParens  = pattern.Must(`^\(([^()]{1,30})\)\s+`)                             // "(zest of) 2 lemons"
	firstOf     = pattern.Must(`(?i)^([\pL-]+) or ([\pL-]+(?: [\pL-]+){1,2})$`)
	heaped      = pattern.Must(`(?i)^[^,]{0,14}\b(?:heaped|heaping|rounded)\b`)
	nameCount   = pattern.Must(`^([\pL][\pL\s'’-]{2,30}s)\s+(\d{1,2})$`)
	twoThings   = pattern.Must(`(?i)\b(?:plus|and|\+|&)\s+(?:about )?[\d½¼¾⅓⅔]`)
	unitSlash   = pattern.Must(`([a-zA-Z.])\s*/\s*(\d)`) // 340g/12oz
	amountSplit = pattern.Must(`\s+/\s+|;|,\s`)
	cocoaShare  = pattern.Must(`(?i)(?:^|\s)[5-9]\d\s?%(?:\s|$)`)
	parens      = pattern.Must(`\(([^()]*)\)`)
	altOr       = pattern.Must(`(?i)\s+or\s+|\s*/\s*`)
	citrusOf    = pattern.Must(
		`(?i)^(?:(?:finely |freely )?grated |the |freshly squeezed |some )*(juice|zest|rind|peel)(?: and (?:grated )?(juice|zest|rind))? (?:of|from)\s+`,
	)
	citrusBare = pattern.Must(
		`(?i)^((?:(?:finely |freely )?grated |the |freshly squeezed )*(juice|zest|rind)(?: and (?:grated )?(juice|zest|rind))? )(?:\d|[½¼¾⅓⅔]|an? |one |two |half )`,
	)
	cutNote = pattern.Must(
		`(?i)\s+[-–—]\s+|,\s*|;\s*|\s+at room temp|\s+(?:plus|and) (?:extra|more)\b|\s+for (?:the top|on top|dusting|greasing|sprinkling|rolling|brushing|the tin|the pan|kneading|glazing|serving|decoration|topping)\b|\s+to (?:taste|serve|finish|glaze|decorate|dust|grease|sprinkle|top|scatter|roll)\b|\s+as needed`,
	)
)

// mostLine is how many words an ingredient line has at most. Source: practice.
const mostLine = 24

// tryLine reads a piece as an ingredient line; nil when it can be none. It is
// strong when it opens with an amount, so that it is a line wherever it stands.
func (r *reading) tryLine(p piece, listed bool) (*recipe.Line, bool) {
	if len(p.text) > 300 || len(p.text) > 140 && len(strings.Fields(p.text)) > mostLine {
		return nil, false
	}
	l := recipe.Line{Text: p.text, Span: p.span()}
	if fix, ok := r.fix(r.key(p.text)); ok && !fix.Skip {
		r.parse(&l)
		r.applyFix(&l, fix)
		return &l, true
	}
	amount := r.parse(&l)
	words := len(strings.Fields(p.text))
	strong := amount && words <= mostLine && !(en.Tells(p.text) && l.Ingredient == "") &&
		(l.Ingredient != "" || l.Unit != "" || words <= 8 || l.Doubt != "" && strings.Contains(l.Doubt, ":"))
	if p.list && !listed && amount && l.Ingredient == "" && l.Unit == "" && words > 6 {
		strong = false // "2. Grease the tin" after a numbered method without heading
	}
	if !amount {
		if !listed || words > 12 {
			return nil, false
		}
		if l.Ingredient == "" && en.Tells(p.text) {
			return nil, false
		}
	}
	return &l, strong
}

// parse fills the line from its text and reports whether it opens with an amount.
// dotted is an amount with its thousands parted by a point, "1.000 g": nobody weighs thousandths of a gram.
var dotted = pattern.Must(`(?i)\b([1-9]\d{0,2})\.(\d{3})( ?(?:g|gr|grams?|ml|millilit(?:er|re)s?)\b)`)

func (r *reading) parse(l *recipe.Line) bool {
	s := dotted.ReplaceAllString(bracketed.ReplaceAllString(l.Text, "$1 "), "$1$2$3")
	if optional.MatchString(s) {
		l.Optional = true
		s = strings.TrimSpace(optional.ReplaceAllString(s, ""))
		s = strings.Trim(s, " ,;:")
	}
	s = leadParens.ReplaceAllString(s, "$1 ")
	if t := about.ReplaceAllString(s, ""); t != s {
		if oneOf.MatchString(s) && !unread.MatchString(t[:min(len(t), 2)]) {
			t = "1 " + t // "a heaped teaspoon of"
		}
		s = t
	}
	s = someOf.ReplaceAllString(s, "")
	if part, rest, ok := citrus(s); ok {
		return r.citrusLine(l, part, rest)
	}
	s, percent := r.amountOfPercent(s)
	s = r.amountFirst(s)
	q, n, err := measure.ScanQuantity(s)
	if err != nil {
		rest := s[n:]
		if u, k := measure.ScanUnit(rest); k > 0 {
			l.Unit, rest = u.ID, rest[k:]
		}
		r.name(l, strings.TrimPrefix(strings.TrimSpace(rest), "of "))
		l.Doubt = phrase.Capital(err.Error())
		return true
	}
	size := ""
	rest := s[n:]
	written := writtenAmounts{heaped: heaped.MatchString(l.Text)}
	var unit measure.Unit
	if n > 0 {
		l.Amount = q
		unit, size, rest = r.unitOf(l, q, rest)
		rest = r.secondAmount(l, rest, unit, &written)
	} else if u, k := measure.ScanUnit(s); k > 1 && (u.ID == "pinch" || u.ID == "dash" || u.ID == "handful" || u.ID == "knob" || u.ID == "squeeze") {
		l.Amount, unit, rest, n = measure.One(1), u, s[k:], k // "pinch of salt"
	} else {
		rest = r.secondAmount(l, rest, unit, &written) // "butter (100 g)"
	}
	l.Unit = unit.ID
	rest = strings.TrimSpace(rest)
	if t := strings.TrimPrefix(strings.TrimPrefix(rest, "of "), "Of "); t != rest {
		rest = strings.TrimSpace(strings.TrimPrefix(t, "the "))
	}
	if m := sizeWord.FindStringSubmatch(rest); m != nil && size == "" {
		size = strings.Split(strings.ToLower(m[1]), " ")[0]
	}
	if m := reducedTo.FindStringSubmatch(rest); m != nil && unit.Kind == measure.Volume {
		rest = r.reduced(l, m, unit)
		unit, _ = measure.UnitByID(l.Unit)
	}
	if m := sizeEnd.FindStringSubmatch(rest); m != nil && size == "" && unit.Kind == measure.NoUnit { // "4 eggs L"
		size, rest = letterSizes[m[2]], m[1]
	}
	r.name(l, rest)
	r.weigh(l, unit, size, written)
	if more := r.another(l.Text, l.Ingredient); l.Known && more != "" {
		l.Known, l.Doubt = false, fmt.Sprintf("“%s” stands in it too: change your text, so that it is on a line of its own", phrase.Clip(more, 60))
	}
	if percent != "" && l.Grams > 0 {
		l.How = percent
	}
	return n > 0
}

// sizeEnd is the size of eggs by its letter. Source: EU 2023/2465, the weight classes of eggs.
var (
	sizeEnd     = pattern.Must(`(?i)^(.*\beggs?)\s*(?-i:,? ?\(?(XL|L|M|S)\)?)(?:$|,)`)
	letterSizes = map[string]string{"XL": "extra-large", "L": "large", "M": "medium", "S": "small"}
)

var reducedTo = pattern.Must(`(?i)^(.*\bjuice)\b\s*,?\s*(?:boiled down|boiled|simmered|cooked down|reduced|concentrated)\s+(?:down )?to\s+(.{2,20}?)\s*$`)

// reduced takes of "250 ml orange juice, reduced to 80 ml" what goes in: a juice that has lost
// more than half its water is counted as one boiled down to a third.
func (r *reading) reduced(l *recipe.Line, m []string, unit measure.Unit) string {
	first := l.Amount.Mid() * float64(r.opt.Kitchen.ML(unit))
	q, n, err := measure.ScanQuantity(m[2])
	to, k := measure.ScanUnit(m[2][max(0, n):])
	left := q.Mid() * float64(r.opt.Kitchen.ML(to))
	switch {
	case err != nil || n == 0 || k == 0 || left <= 0 || left >= first:
		return m[0]
	case left > first/2:
		l.Amount, l.Unit = q, to.ID
		return m[1]
	}
	l.Amount, l.Unit = q, to.ID
	return "reduced juice"
}

// unitOf reads what follows an amount: the unit, the size of pieces or packs, and the
// rest of the line. "2 x 400 g tins" is an amount of its own.
func (r *reading) unitOf(l *recipe.Line, q measure.Quantity, rest string) (unit measure.Unit, size, left string) {
	if m := times.FindString(rest); m != "" { // 2 x 400 g tins
		if q2, k, err := measure.ScanQuantity(rest[len(m):]); err == nil && k > 0 {
			if u, j := measure.ScanUnit(rest[len(m)+k:]); u.Kind == measure.Mass ||
				u.Kind == measure.Volume && u.Factor > 0 {
				l.Amount, unit = q2.Scale(q.Mid()), u
				rest = rest[len(m)+k+j:]
				if pack, k := measure.ScanUnit(rest); pack.Kind == measure.Piece {
					rest = rest[k:]
				}
			}
		}
	}
	if unit.Kind == measure.NoUnit {
		if m := spoonWord.FindString(rest); m != "" {
			if _, k := measure.ScanUnit(rest[len(m):]); k > 0 {
				rest = rest[len(m):]
			}
		}
		if m := sizeWord.FindStringSubmatch(rest); m != nil {
			size = strings.Split(strings.ToLower(m[1]), " ")[0]
			rest = rest[len(m[0]):]
		}
		rest = r.packSize(l, rest, &unit)
	}
	if unit.Kind == measure.NoUnit {
		u, k := measure.ScanUnit(rest)
		if k > 0 && strings.TrimSpace(strings.TrimLeft(rest[k:], " .")) != "" || k > 0 && u.Kind != measure.Piece {
			unit, rest = u, rest[k:]
		}
		if pack, k := measure.ScanUnit(rest); unit.Kind == measure.Mass && pack.Holds() {
			rest = rest[k:] // "7 g sachet instant yeast"
		}
	}
	return unit, size, rest
}

// citrus splits "juice of 1 lemon", "zest of ½ an orange".
func citrus(s string) (part, rest string, ok bool) {
	m := citrusOf.FindStringSubmatch(s)
	if m == nil {
		if m = citrusBare.FindStringSubmatch(s); m == nil { // "zest 1 lemon"
			return "", "", false
		}
		m[0] = m[1]
		m = append([]string{m[0]}, m[2:]...)
	}
	part = strings.ToLower(m[1])
	if strings.EqualFold(m[2], "juice") {
		part = "juice"
	}
	return strings.NewReplacer("rind", "zest", "peel", "zest").Replace(part), s[len(m[0]):], true
}

func (r *reading) citrusLine(l *recipe.Line, part, rest string) bool {
	q, n, err := measure.ScanQuantity(rest)
	if err != nil {
		l.Doubt = phrase.Capital(err.Error())
		return true
	}
	if n == 0 {
		q = measure.One(1)
	}
	l.Amount = q
	fruit := strings.TrimSpace(rest[n:])
	if twoThings.MatchString(fruit) {
		r.name(l, part+" of "+fruit)
		l.Ingredient, l.Choices = "", nil
		l.Doubt = "Two things in one line: change your text to two lines, such as “zest of 1 lemon” and “2 tbsp lemon juice”"
		return true
	}
	r.name(l, part+" of "+strings.TrimPrefix(fruit, "of "))
	how := "lemon"
	for _, kind := range []string{"orange", "lime"} {
		if strings.Contains(strings.ToLower(fruit), kind) {
			how = kind
		}
	}
	switch {
	case part == "zest":
		l.Ingredient = "lemon-zest"
	default:
		l.Ingredient = larder.ID(how + "-juice")
	}
	ing := r.foods.Get(l.Ingredient)
	if w, ok := ing.WeightHow(how); ok {
		l.Name, l.Doubt = ing.Name, ""
		weighs(l, q.Mid()*float64(w.Grams), fmt.Sprintf("%s × %s each", q, w.Grams))
	}
	return true
}

// name takes the rest of a line for the ingredient and its notes.
func (r *reading) name(l *recipe.Line, rest string) {
	var notes []string
	rest = strings.TrimSpace(rest)
	if m := extra.FindString(rest); m != "" {
		notes = append(notes, strings.Trim(m, " ,;()"))
		rest = strings.TrimSuffix(rest, m)
	}
	rest = parens.ReplaceAllStringFunc(rest, func(m string) string {
		if inner := strings.Trim(m, "()"); !isAmount(inner) {
			notes = append(notes, inner)
		}
		return " "
	})
	if m := noAmount.FindString(rest); m != "" {
		notes = append(notes, strings.TrimSpace(m))
	}
	phrase := strings.Join(strings.Fields(rest), " ")
	whole := phrase
	if at := cutNote.FindStringIndex(phrase); at != nil && at[0] > 0 {
		if note := strings.Trim(phrase[at[0]:], " ,;-–—"); note != "" {
			notes = append(notes, note)
		}
		phrase = strings.TrimSpace(phrase[:at[0]])
	}
	phrase = strings.Trim(phrase, " .,:;-*")
	if phrase == "" && len(notes) == 1 { // "2 cups (flour)"
		phrase, notes = notes[0], nil
	}
	l.Note = strings.Join(withoutRepeats(notes), ", ")
	l.Phrase = phrase
	l.Name = phrase
	m, ok := r.findWhole(l, phrase, whole)
	r.settle(l, m, ok)
	r.partOfFruit(l, strings.ToLower(l.Note+" "+phrase))
}

// findWhole finds what a phrase names: as it stands, with what follows its comma, without a share of cocoa or fat, as
// the first of two. What it leaves out is noted at the line.
func (r *reading) findWhole(l *recipe.Line, phrase, whole string) (m larder.Match, ok bool) {
	m, ok = r.find(phrase)
	if whole != phrase && !strings.Contains(strings.ToLower(l.Note), "squeezed") {
		// "almonds, ground", "cocoa powder, alkalised": what follows the comma may matter; what is
		// squeezed after it has been weighed before
		if m2, ok2 := r.find(whole); ok2 && m2.Confidence >= 0.9 {
			m, ok = m2, true
		}
	}
	if cut := cocoaShare.FindString(phrase); cut != "" && strings.Contains(strings.ToLower(phrase), "chocolate") &&
		(!ok || m.Confidence < larder.SureEnough) {
		// "dark chocolate 70 %": any share up to 75 is one ingredient
		if m2, ok2 := r.find(strings.Join(strings.Fields(strings.Replace(phrase, cut, " ", 1)), " ")); ok2 &&
			decimal(strings.Trim(cut, " %()")) <= 75 {
			m, ok = m2, true
			l.Note = strings.Trim(strings.TrimSpace(cut)+", "+l.Note, ", ")
		}
	}
	if cut := fatShare.FindString(phrase); cut != "" && (!ok || m.Confidence < larder.SureEnough) { // "whipping cream 30 %"
		m2, ok2 := r.find(strings.Join(strings.Fields(strings.Replace(phrase, cut, " ", 1)), " "))
		if i := r.foods.Get(m2.ID); ok2 && m2.Confidence >= larder.SureEnough && i.Origin == "milk" {
			m, ok = m2, true
		}
	}
	if first := firstOf.FindStringSubmatch(phrase); first != nil { // "plain or wholemeal flour"
		last := phrase[strings.LastIndex(phrase, " ")+1:]
		if m2, ok2 := r.find(first[1] + " " + last); ok2 && m2.Confidence == 1 {
			m, ok = m2, true
			l.Note = strings.Trim("or "+first[2]+", "+l.Note, ", ")
		}
	}
	if !ok || m.Confidence < larder.SureEnough {
		for _, alt := range altOr.Split(phrase, 4)[0:] {
			if alt == phrase {
				break
			}
			if m2, ok2 := r.find(alt); ok2 && m2.Confidence >= larder.SureEnough {
				m, ok = m2, true
				l.Note = strings.Trim(strings.Replace(phrase, alt, "", 1)+", "+l.Note, ", ")
				break
			}
		}
	}
	if !ok || m.Confidence < larder.SureEnough { // "butter for the base", "butter @ room temp"
		if at := apartFrom.FindStringIndex(phrase); at != nil && at[0] > 0 {
			if m2, ok2 := r.find(phrase[:at[0]]); ok2 && m2.Confidence == 1 {
				m, ok = m2, true
				l.Note = strings.Trim(strings.TrimSpace(phrase[at[0]:])+", "+l.Note, ", ")
			}
		}
	}
	if !ok { // "roomboter (real butter)": the bracket says it in words that are known
		for _, note := range parens.FindAllStringSubmatch(l.Text, 2) {
			if m2, ok2 := r.find(note[1]); ok2 && m2.Confidence == 1 {
				m, ok = m2, true
			}
		}
	}
	if ok {
		m = r.byFat(m, phrase+" "+l.Note)
	}
	return m, ok
}

// apartFrom begins what says no more of the food itself: what it is for, and how warm it is.
var apartFrom = pattern.Must(`(?i)\s+(?:for|@|in (?:small |large |little |thin )?(?:cubes|pieces|chunks|slices|strips|bits|dice|shavings))(?:\s|$)`)

// partOfFruit takes a citrus fruit for its juice or its zest where the words say so.
func (r *reading) partOfFruit(l *recipe.Line, lower string) {
	if l.Ingredient == "lemon" || l.Ingredient == "orange" || l.Ingredient == "lime" {
		switch {
		case strings.Contains(lower, "juice"):
			l.Ingredient += "-juice"
			l.Name = r.foods.Get(l.Ingredient).Name
		case strings.Contains(lower, "zest") || strings.Contains(lower, "rind"):
			l.Ingredient = "lemon-zest"
			l.Name = r.foods.Get(l.Ingredient).Name
		}
	}
}

var (
	fatShare = pattern.Must(`(\d{1,2}(?:[.,]\d+)?) ?% ?(?:fat|milk ?fat)?(?:$|[\s,;)])`)
	// dairies are the creams and milks that are told apart by their fat.
	dairies = [][]larder.ID{{"half-and-half", "single-cream", "cream", "double-cream"}, {"milk-skimmed", "milk-semi", "milk"}}
)

// fatApart is how far a written share of fat may be from that of the dairy taken for it, per
// cent of the weight. Source: practice, the trade's classes are further apart.
const fatApart = 7.0

// byFat takes of the creams or milks the one whose fat is nearest to what is written beside.
func (r *reading) byFat(m larder.Match, text string) larder.Match {
	at := fatShare.FindStringSubmatch(text)
	if at == nil {
		return m
	}
	share := decimal(at[1])
	for _, of := range dairies {
		if !slices.Contains(of, m.ID) {
			continue
		}
		best, away := m.ID, fatApart
		for _, id := range of {
			if i := r.foods.Get(id); i != nil && math.Abs(i.Facts[larder.Fat]-share) < away {
				best, away = id, math.Abs(i.Facts[larder.Fat]-share)
			}
		}
		m.ID = best
	}
	return m
}

func (r *reading) find(phrase string) (larder.Match, bool) {
	m, ok := r.foods.Find(phrase, r.opt.Phrases)
	if ok && m.Confidence >= larder.SureEnough {
		return m, ok
	}
	if t := powdered.ReplaceAllString(phrase, ""); t != phrase { // "turmeric powder" is ground turmeric
		for _, as := range []string{"ground " + t, t} {
			m2, ok2 := r.foods.Find(as, r.opt.Phrases)
			if i := r.foods.Get(m2.ID); ok2 && m2.Confidence >= larder.SureEnough && i != nil && i.Family == larder.FamilySpice {
				return m2, true
			}
		}
	}
	return m, ok
}

var powdered = pattern.Must(`(?i)\s+powder(?:ed)?$|^(?:powdered|dry)\s+`)

// settle takes a match for the line's ingredient, or leaves a question.
func (r *reading) settle(l *recipe.Line, m larder.Match, ok bool) {
	switch {
	case !ok:
		l.Doubt = fmt.Sprintf("“%s” is not in the larder: say what it is", phrase.Clip(l.Phrase, 60))
		if l.Phrase == "" {
			l.Doubt = "No ingredient is named: say what it is"
		}
	case m.Ambiguous != "" && m.Confidence < larder.SureEnough:
		a, b := r.foods.Get(m.ID), r.foods.Get(m.Ambiguous)
		l.Doubt = fmt.Sprintf("“%s”: %s or %s?", l.Phrase, a.Name, b.Name)
		l.Choices = []larder.ID{m.ID, m.Ambiguous}
	case m.Confidence < larder.SureEnough:
		l.Doubt = fmt.Sprintf("Not sure what “%s” is: %s?", phrase.Clip(l.Phrase, 60), r.foods.Get(m.ID).Name)
		l.Choices = []larder.ID{m.ID}
		if m.RunnerUp != "" {
			l.Choices = append(l.Choices, m.RunnerUp)
		}
	default:
		l.Ingredient = m.ID
		l.Name = r.foods.Get(m.ID).Name
	}
}

// applyFix lays a baker's correction over a line as read.
func (r *reading) applyFix(l *recipe.Line, f Fix) {
	unit, _ := measure.UnitByID(l.Unit)
	if f.Ingredient != "" {
		ing := r.foods.Get(f.Ingredient)
		if ing == nil {
			l.Known, l.Doubt = false, fmt.Sprintf(
				"“%s” is not in the larder: choose a name from the list", f.Ingredient,
			)
			return
		}
		l.Ingredient, l.Name, l.Doubt, l.Choices = ing.ID, ing.Name, "", nil
	}
	if f.Amount != "" {
		q, err := measure.ParseQuantity(f.Amount)
		if err != nil {
			l.Known, l.Doubt = false, phrase.Capital(err.Error())
			return
		}
		l.Amount, l.Doubt = q, ""
	}
	if f.Unit != "" {
		if f.Unit == "piece" {
			f.Unit = ""
		}
		u, n := measure.ScanUnit(f.Unit)
		if f.Unit != "" && (n == 0 || n != len(f.Unit)) {
			l.Known, l.Doubt = false, fmt.Sprintf("“%s” is not a unit: try g, ml, cup, tbsp or tsp", f.Unit)
			return
		}
		unit = u
		l.Unit = u.ID
	}
	l.Known = false
	r.weigh(l, unit, "", writtenAmounts{})
}

// withoutRepeats drops the words that another one before holds.
func withoutRepeats(words []string) []string {
	var out []string
	for _, w := range words {
		out = slices.DeleteFunc(out, func(o string) bool { return o != w && strings.Contains(w, o) })
		if w != "" && !slices.ContainsFunc(out, func(o string) bool { return strings.Contains(o, w) }) {
			out = append(out, w)
		}
	}
	return out
}

func differ(a, b float64) float64 { return math.Abs(a-b) / math.Max(a, b) }
