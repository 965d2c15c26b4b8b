// Package reader turns the text of a recipe into lines, steps and facts.
//
// # What it understands
//
// A text is a title, ingredient lines, steps, and facts (servings, tin, oven,
// time) anywhere among them. [ ] is optional, { } any number, | or:
//
//	text     = { title | heading | fact | line | step | note }
//	heading  = "Ingredients" | "Method" | "Notes" | "For the icing:" | "Icing" …
//	line     = [bullet] [about] amount [x size] [size-word] [unit] [second] [of] name [alternative] { ", " note | "(" note ")" }
//	         | [bullet] name [- : ...] amount [unit]       "Maida - 1 1/2 cups", "eggs 3"
//	         | [bullet] name [purpose]                     "salt to taste", "butter for the tin": weighs nothing
//	         | line ("+" | "plus" | "and" | "&") line      two ingredients, each a line
//	         | ("juice" | "zest") ["and" …] "of" [amount] fruit
//	         | name percent "%" [amount]                   in a list whose flours come to 100 %
//	amount   = see measure.ScanQuantity: "1 1/2", "1½", "half a", "2-3", "a dozen", "a couple of"
//	size     = amount unit                                 "2 x 400 g tins", "1 (8 oz) pack"
//	second   = "(340 g)" | "/ 250 g" | "or 250 g" | "plus 2 tbsp"
//	alternative = "or" name                                the first is taken, the other noted
//	purpose  = "to glaze" | "for dusting" | "to taste" …   keeps the line out of the batter
//	fact     = "Serves 8" | "Oven: 180 C" | "Bake 50-55 min" | "2 lb loaf tin" …
//
// A list may also stand in one line with bars or commas, or in sentences
// ("cream 115 g of butter with half a cup of sugar, then …") where nothing is
// listed. From the steps come waits (soak, proof, chill, rest, cool), the stages
// of the bake, and the sign that it is done.
//
// Every line keeps its place in the source text. Nothing is dropped: what
// could not be understood is a line with a Doubt that says what to settle.
package reader

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	plain "kollaris/core/text"
	"kollaris/core/text/en"
	"kollaris/core/tin"
)

// The longest text read, in bytes and in lines.
const (
	MaxText  = 100 << 10
	MaxLines = 2000
)

// Options are what a household has settled.
type Options struct {
	Larder  *larder.Larder       // nil: the built-in catalogue
	Kitchen measure.Kitchen      // zero: measure.DefaultKitchen
	Phrases map[string]larder.ID // remembered: larder.Normal(phrase) → ingredient
	Amounts map[string]float64   // remembered: Measure → g of one
	Spoons  map[string]float64   // learned: Spoonful → how many times what the catalogue says it weighs
	Fixes   map[string]Fix       // by the line's key: its text as written, "… #2" for the second line of that text
	Facts   Facts                // typed over what was picked out
	Told    []recipe.Told        // typed of the method's tasks
}

// Fix is a baker's correction of one line. Empty fields leave what was read.
type Fix struct {
	Amount     string    `json:"amount,omitempty"`
	Unit       string    `json:"unit,omitempty"`
	Ingredient larder.ID `json:"ingredient,omitempty"`
	Skip       bool      `json:"skip,omitempty"` // not an ingredient at all
}

// Facts are typed corrections of what stands outside the lines, as typed; an
// empty one leaves what was read.
type Facts struct {
	Title    string `json:"title,omitempty"`
	Kind     string `json:"kind,omitempty"`
	Servings string `json:"servings,omitempty"`
	Tin      string `json:"tin,omitempty"`
	Oven     string `json:"oven,omitempty"`
	Time     string `json:"time,omitempty"`
	Device   string `json:"device,omitempty"` // by its name, "oven" for none
	// Roles are those of parts, by their name: "batter" and the roles of package recipe
	Roles map[string]string `json:"roles,omitempty"`
}

// None reports whether nothing was typed.
func (f Facts) None() bool {
	return f.Title+f.Kind+f.Servings+f.Tin+f.Oven+f.Time+f.Device == "" && len(f.Roles) == 0
}

// Finding is something the reader noticed.
type Finding struct {
	Code     string        `json:"code"`
	Severity string        `json:"severity"` // note, look or stop
	Message  string        `json:"message"`
	Line     recipe.LineID `json:"line,omitempty"`
}

// Mark is a place in the text and what it was understood as: amount,
// ingredient, doubt, oven, time, tin, servings, wait or done.
type Mark struct {
	recipe.Span
	Kind string
	Line recipe.LineID
}

// Reading is what Read made of a text.
type Reading struct {
	Recipe   *recipe.Recipe
	Kind     balance.Inference // the kind of bake as taken from the text, before Facts
	Findings []Finding
	Skipped  []recipe.Line            // that the baker says are no ingredients
	Keys     map[recipe.LineID]string // of the lines, among Options.Fixes
	Marks    []Mark                   // in the order of the text, not overlapping
	Tins     []tin.Said               // as the text or Facts say them, with what is not sure
	Faults   map[string]string        // field of Facts → what is wrong with what was typed
}

// Understood counts the lines that need no answer.
func (r *Reading) Understood() int { return len(r.Recipe.Lines) - len(r.Recipe.Unknown()) }

type reading struct {
	Reading
	opt     Options
	foods   *larder.Larder
	text    string         // as it is read
	door    plain.Door     // by which it came in
	flour   float64        // g that percentages are of; 0 when the text gives none
	found   int            // lines so far, with those put aside
	count   map[string]int // of lines by their text
	amid    bool           // the piece before was an ingredient among the steps
	facted  bool           // figures of a slice began
	titled  piece          // where the title stands
	yielded int            // how plainly the text has said what it makes: a rank of en
}

var (
	headIngredients = pattern.Must(
		`(?i)^\W*(ingredients?|you(?:'ll| will) need|what you need|shopping list)\b[^.]{0,30}$`,
	)
	headMethod = pattern.Must(
		`(?i)^\W*(method|directions?|instructions?|preparation|steps|how to make(?: it)?|procedure|to make)\s*:?\W*$`,
	)
	headNotes   = pattern.Must(`(?i)^\W*(?:(?:recipe )?notes?|tips?|storage|to store|nutrition)\s*(?::|$)`)
	section     = pattern.Must(`(?i)^\W*(?:for (?:the )?)?([\pL][\pL\s,&'’-]{1,40}?)\s*(?::\s*|[-=~–—_]{2,}\W*)$`) // "Glaze:", "--- Glaze ---"
	sectionFor  = pattern.Must(`(?i)^\W*for (?:the )?([\pL][\pL\s&'’-]{1,30})$`)
	sectionWord = pattern.Must(
		`(?i)^(?:(?:the )?(?:dough|filling|icing|frosting|glaze|topping|crumble|streusel|syrup|drizzle|cake|sponge|batter|base|crust|sauce|soak|starter|poolish|decoration|cakes?|loaf|scones?|muffins?)|(?:dry|wet)(?: ingredients)?|to (?:finish|serve|decorate)|(?:lemon|orange|chocolate|vanilla|cream cheese|coffee|maple|buttercream|royal) (?:icing|frosting|glaze|drizzle|syrup|filling|topping)|buttercream)$`,
	)
	buttons = pattern.Must(
		`(?i)^(?:#?\w+\s+)*#\w+\s*$|^\W*(?:scale\b.*\dx|(?:print|save|pin|share|rate|jump to|video|advertisement|add to)\b.{0,24})$`,
	)
	bullet  = pattern.Must(`^(?:>[> ]*|[-*•·▢☐◦▪‣–—]+|\[[ xX✓✔]?\]|(?:[\p{So}\p{Sk}\x{FE0F}\x{200D}]\s*)+)\s*`)
	british = pattern.Must(
		`(?i)\bgas (?:mark )?\d|\b(?:caster|castor|self-?raising|plain flour|bicarb|treacle|demerara|muscovado|sultanas|double cream|wholemeal|golden syrup|dessertspoons?)\b`,
	)
	american = pattern.Must(
		`(?i)\d ?°? ?F\b|\bdegrees F|\b(?:cups?|sticks? of butter|sticks? butter|all[- ]purpose|confectioners|heavy cream|half[- ]and[- ]half|kosher)\b`,
	)
	symbols  = pattern.Must(`[\p{So}\p{Sk}\x{FE0F}\x{200D}]`)
	numbered = pattern.Must(`^(?:\(?\d{1,2}[.)]|[Ss]tep \d{1,2}[.:]?)\s+`)
)

// Read reads a text. It refuses a text that is empty or longer than MaxText or MaxLines;
// everything else gives a Reading, whatever is in it.
func Read(text string, opt Options) (*Reading, error) {
	switch {
	case strings.TrimSpace(text) == "":
		return nil, fmt.Errorf("there is no text to read: paste a recipe, its ingredients one to a line")
	case len(text) > MaxText:
		return nil, fmt.Errorf(
			"that is %d KB of text; a recipe of up to %d KB can be read: paste one recipe at a time", len(text)>>10,
			MaxText>>10,
		)
	case strings.Count(text, "\n") > MaxLines:
		return nil, fmt.Errorf(
			"that is %d lines of text; a recipe of up to %d can be read: paste one recipe at a time",
			strings.Count(text, "\n"), MaxLines,
		)
	case !utf8.ValidString(text):
		return nil, fmt.Errorf(
			"this is not plain text (it holds bytes that are no letters): copy the recipe as text and paste it again",
		)
	}
	if opt.Larder == nil {
		opt.Larder = larder.Builtin()
	}
	if opt.Kitchen.Cup == 0 {
		opt.Kitchen = measure.DefaultKitchen()
	}
	door := plain.Open(text)
	r := &reading{opt: opt, foods: opt.Larder, text: unwrapped(door.Text), door: door, count: map[string]int{}}
	r.Keys = map[recipe.LineID]string{}
	if text = r.text; british.MatchString(text) {
		if opt.Kitchen.Pint == 0 {
			r.opt.Kitchen.Pint = measure.UKPint
		}
		if opt.Kitchen.Eggs == "" && !american.MatchString(text) {
			r.opt.Kitchen.Eggs = measure.EUEggs
		}
	}
	r.Recipe = &recipe.Recipe{Schema: recipe.Schema, Told: opt.Told}
	r.Faults = map[string]string{}
	r.percents()
	r.lines()
	r.prose()
	r.stepLines()
	Settle(r.Recipe)
	r.roles()
	r.beside()
	for n := range r.Skipped {
		settle(&r.Skipped[n])
	}
	r.facts()
	r.waits()
	r.Kind = balance.Infer(r.Recipe, r.foods)
	r.Recipe.Kind = r.Kind.Kind
	r.typedFacts()
	r.device()
	r.tidyMarks()
	r.outside()
	return &r.Reading, nil
}

// beside marks the lines that stand in one line of the text with the line before.
func (r *reading) beside() {
	var all []*recipe.Line // with those that the baker put aside
	for n := range r.Recipe.Lines {
		all = append(all, &r.Recipe.Lines[n])
	}
	for n := range r.Skipped {
		all = append(all, &r.Skipped[n])
	}
	slices.SortFunc(all, func(a, b *recipe.Line) int { return cmp.Compare(a.ID, b.ID) })
	for n := 1; n < len(all); n++ {
		l, before := all[n], all[n-1]
		l.Beside = before.Span.To <= l.Span.From && l.Span.From <= len(r.text) && !strings.Contains(r.text[before.Span.To:l.Span.From], "\n")
	}
}

// outside makes places of the text as it was read those of the text that was given.
func (r *reading) outside() {
	there := func(s *recipe.Span) { s.From, s.To = r.door.At(s.From), r.door.At(s.To) }
	for n := range r.Recipe.Lines {
		there(&r.Recipe.Lines[n].Span)
	}
	for n := range r.Skipped {
		there(&r.Skipped[n].Span)
	}
	for n := range r.Recipe.Steps {
		there(&r.Recipe.Steps[n].Span)
	}
	for n := range r.Recipe.Waits {
		there(&r.Recipe.Waits[n].Span)
	}
	for n := range r.Marks {
		there(&r.Marks[n].Span)
	}
}

// fix is the baker's correction of a line by its key; one that was made before signs were made plain counts, too.
func (r *reading) fix(key string) (Fix, bool) {
	if f, ok := r.opt.Fixes[key]; ok || r.door.Same() {
		return f, ok
	}
	for k, f := range r.opt.Fixes {
		if strings.EqualFold(plain.Open(k).Text, key) {
			return f, true
		}
	}
	return Fix{}, false
}

// ReadLines reads ingredient lines that stand by themselves, one to a line, as they
// would in a recipe. Errors are those of Read.
func ReadLines(text string, opt Options) ([]recipe.Line, error) {
	rd, err := Read("A bake\nIngredients\n"+text, opt)
	if err != nil {
		return nil, err
	}
	return rd.Recipe.Lines, nil
}

// ReadLine reads one ingredient line; ok is false where text is none, or more than one.
func ReadLine(text string, opt Options) (line recipe.Line, ok bool) {
	lines, err := ReadLines(text, opt)
	if err != nil || len(lines) != 1 {
		return recipe.Line{}, false
	}
	return lines[0], true
}

// ware are things that a list names beside the foods: paper, string.
var ware = en.SignOf("ware")

// part is where in a recipe's text a piece stands.
type part int

const (
	before part = iota
	ingredients
	method
	notes
)

// lines sorts the pieces of the text into title, lines and steps.
func (r *reading) lines() {
	state, sect, headed := before, "", false
	all := pieces(r.text)
	for n, p := range all {
		switch {
		case headIngredients.MatchString(p.text):
			state, headed = ingredients, true
			continue
		case headMethod.MatchString(p.text), headNotes.MatchString(p.text) && r.found > 0:
			state = method
			if headNotes.MatchString(p.text) {
				state = notes
				r.Recipe.Notes = append(r.Recipe.Notes, phrase.Clip(p.text, 1000))
			}
			continue
		case state == notes && !section.MatchString(p.text):
			r.Recipe.Notes = append(r.Recipe.Notes, phrase.Clip(p.text, 1000))
			continue
		}
		if buttons.MatchString(p.text) && !en.Tells(p.text) || strings.HasSuffix(p.text, "wrote:") {
			r.Recipe.Notes = append(r.Recipe.Notes, p.text) // what a copied page had to press
			continue
		}
		if state == ingredients && ware.In(withoutAmounts(p.text)) { // "1 sheet baking paper"
			r.Recipe.Notes = append(r.Recipe.Notes, phrase.Clip(p.text, 1000))
			continue
		}
		if r.isFact(p.text) && (state != method || factOnly.MatchString(p.text)) {
			if saysToDo(p.text) {
				r.step(p)
			}
			continue
		}
		if state == before && r.Recipe.Title == "" && greeting.In(p.text) && n+1 < len(all) && titled(all[n+1].text) {
			r.Recipe.Notes = append(r.Recipe.Notes, phrase.Clip(p.text, 1000))
			continue
		}
		word := (sectionWord.MatchString(p.text) || r.headsPart(all, n)) && (r.Recipe.Title != "" || r.found > 0)
		if m := section.FindStringSubmatch(p.text); m != nil || word || sectionFor.MatchString(p.text) {
			if word {
				m = []string{p.text, p.text}
			} else if m == nil {
				m = sectionFor.FindStringSubmatch(p.text)
			}
			if state == before && r.Recipe.Title == "" && r.found == 0 &&
				!strings.HasPrefix(strings.ToLower(p.text), "for ") &&
				!strings.HasSuffix(p.text, ":") {
				r.title(p)
				continue
			}
			sect = strings.ToLower(strings.TrimSpace(m[1]))
			if state == method && (strings.HasPrefix(strings.ToLower(p.text), "for ") || word) || state == before {
				state = ingredients
			}
			continue
		}
		if state == ingredients || state == before && r.Recipe.Title != "" || state == method && !en.Tells(p.text) { // "Topping: 50 g butter, 2 tbsp honey"
			if of, parts := r.listed(p); parts != nil {
				if of != "" {
					sect = strings.ToLower(of)
				}
				for _, part := range parts {
					r.place(part, ingredients, sect, headed)
				}
				state = ingredients
				continue
			}
			if parts := r.parted(p); parts != nil {
				for _, part := range parts {
					line, _ := r.tryLine(part, true)
					line.Section = sect
					r.addLine(*line, part)
				}
				state = ingredients
				continue
			}
		}
		state = r.place(p, state, sect, headed)
	}
}

// titled reports whether a line may be a title: short, of words, with nothing to do in it.
func titled(s string) bool {
	_, k, err := measure.ScanQuantity(s)
	return err == nil && k == 0 && !strings.ContainsAny(s, "0123456789") && len(strings.Fields(s)) <= 8 && !strings.HasSuffix(s, ".") && !en.Tells(s)
}

// greeting begins a letter, not a title.
var greeting = en.SignOf("greeting")

// batterHeading ends the heading of what is baked: "main dough".
var batterHeading = en.SignOf("batter-heading")

// mostHeading is how many words the heading of a part has at most. Source: practice.
const mostHeading = 4

// headsPart reports whether a line without amount, colon or "for the" is the heading of a part: it stands over amounts, behind an empty line,
// or says what it is ("Lemon curd" over egg yolks and sugar) or what the recipe is ("Cupcakes" of lemon cupcakes).
func (r *reading) headsPart(all []piece, n int) bool {
	p := all[n]
	p.text, _, _ = strings.Cut(p.text, " (") // "Poolish (night before)"
	words := en.Words(p.text)
	if len(words) == 0 || len(words) > mostHeading || n+1 >= len(all) || p.list || words[0].Text == "for" {
		return false
	}
	for _, w := range words {
		if w.Kind == plain.Figure || w.Kind == plain.Part || w.Kind == plain.Mark && w.Text != "&" {
			return false
		}
	}
	amounts := 0
	for _, next := range all[n+1 : min(n+3, len(all))] {
		if _, k, err := measure.ScanQuantity(next.text); err == nil && k > 0 && !en.Tells(next.text[k:]) {
			amounts++
		}
	}
	role := RoleOf(p.text).Aside() || RoleNamed(p.text) || batterHeading.In(p.text)
	switch {
	case amounts == 0 || en.Tells(p.text) || noAmount.MatchString(p.text):
		return false
	case p.head:
		m, food := r.find(p.text)
		return role || !food || m.Confidence < 1 || amounts == 2 && len(words) > 1
	}
	return amounts == 2 && (role || r.found > 0 && en.NamesPart(r.Recipe.Title, p.text))
}

// place puts a piece where it belongs, as title, line, step or note, and says where the
// text has come to.
func (r *reading) place(p piece, state part, sect string, headed bool) part {
	if r.found > 0 && bareHeat.MatchString(p.text) {
		r.step(p)
		return method
	}
	if state == method && en.Tells(p.text) { // a step, whatever foods it names
		r.amid = false
		r.step(p)
		return state
	}
	line, strong := r.tryLine(p, state == ingredients)
	if state == before && r.Recipe.Title == "" && strong && line.Unit == "" &&
		(line.Ingredient == "" || !startsWithDigit(p.text)) {
		strong = false // "A seed cake", "Two-minute scones"
	}
	switch {
	case state == before && r.Recipe.Title == "" && !strong && !(len(p.text) > 120 && strings.ContainsAny(p.text, ".,;")):
		r.title(p)
	case state == before && !strong && r.found == 0 && len(r.Recipe.Steps) == 0 && !en.Tells(p.text):
		r.Recipe.Notes = append(r.Recipe.Notes, phrase.Clip(p.text, 1000))
	case state == method && r.amongSteps(p, line, strong, sect):
	case state == method:
		r.amid = false
		r.step(p)
	case line != nil && state == ingredients && r.pointsBack(line, sect):
		r.Findings = append(r.Findings, Finding{"made-above", "note", fmt.Sprintf(
			"“%s” is taken as what is made above: it is not counted again.", phrase.Clip(p.text, 60),
		), 0})
	case line != nil && (strong || state == ingredients && !looksLikeStep(p)):
		line.Section = sect
		r.addLine(*line, p)
		state = ingredients
	case state == ingredients && r.found > 0 && (looksLikeStep(p) || !headed):
		state = method
		r.step(p)
	case looksLikeStep(p):
		r.step(p)
	case state == ingredients:
		r.step(p)
	}
	return state
}

var (
	madeBefore = pattern.Must(
		`(?i)^(?:all |half |the rest )?(?:of )?(?:the |your )?(?:soaked|simmered|poached|stewed|steeped|cooled|prepared|roasted|strained|reserved|rested|reduced|boiled|ripe|active)\s+(?:fruit|fruits|mix(?:ture)?|syrup|liquid|juice|pulp|pur[ée]e|paste|nuts|gel|soak|starter|dough)\b`,
	)
	above = pattern.Must(`(?i)\b(?:from |see |as |made )?above\b`)
)

// pointsBack reports whether a line without amount names what an earlier part of the list
// makes: "soaked fruit, blended", "the syrup (above)".
func (r *reading) pointsBack(l *recipe.Line, sect string) bool {
	return (l.Amount.IsZero() || l.Unit == "") && l.Grams == 0 && (!l.Known && madeBefore.MatchString(l.Text) || above.MatchString(l.Text)) &&
		slices.ContainsFunc(r.Recipe.Lines, func(x recipe.Line) bool { return x.Section != sect })
}

// bareHeat is a line of the oven's heat and the time alone: "350F, 10 to 12 minutes."
var bareHeat = pattern.Must(`(?i)^(?:at )?\d{3} ?(?:°|degrees)? ?[CF]\b[^.]{0,40}\b(?:min|hour)`)

func startsWithDigit(s string) bool { return s != "" && s[0] >= '0' && s[0] <= '9' }

// figures are of what a slice holds, not of what goes in; below them stand more.
var figures = pattern.Must(`(?i)\b(?:kcal|kj|calories|energy|per (?:slice|serving|portion|piece|100 ?g)|each (?:slice|serving|portion)|nutrition\w*|(?:of )?which (?:sugars|saturates))\b|^\W*\d[\d.,]* ?m?g (?:of )?(?:(?:saturated|total|trans) )?(?:fats?|saturates|protein|carb\w*|fib(?:re|er)|sodium|cholesterol|sugars)\b`)

// mostAmong is how many words a line among the steps has at most. Source: practice; what tells what to do has more, or a verb.
const mostAmong = 8

// amongSteps takes what stands among the steps and tells nothing to do for an ingredient: "2 eggs", "50 g walnuts, chopped", and below
// such a one also "salt". A writer who goes on with a second list heads it or not; a step that says only "2 eggs" is none.
func (r *reading) amongSteps(p piece, line *recipe.Line, strong bool, sect string) bool {
	if r.amid && line == nil {
		line, _ = r.tryLine(p, true)
		strong = line != nil && line.Ingredient != ""
	}
	if figures.MatchString(p.text) {
		r.facted = true
	}
	if r.facted || line == nil || !strong || en.Tells(p.text) || len(strings.Fields(p.text)) > mostAmong || strings.Contains(p.text, " of the ") {
		return false
	}
	if u, ok := measure.UnitByID(line.Unit); line.Ingredient == "" && !(ok && (u.Kind == measure.Mass || u.Kind == measure.Volume)) {
		return false
	}
	line.Section = sect
	r.Findings = append(r.Findings, Finding{"among-steps", "note", fmt.Sprintf(
		"“%s” stands among the steps, and is counted as an ingredient.", phrase.Clip(p.text, 60),
	), recipe.LineID(r.found + 1)})
	r.addLine(*line, p)
	r.amid = true
	return true
}

// saysToDo reports whether a line of facts also tells what to do: "Oven 170 C.
// Line a round tin."
func saysToDo(s string) bool {
	for _, part := range sentences(piece{text: s}) {
		if t := strings.TrimSpace(part.text); en.Tells(t) && (!factLine.MatchString(t) || len(t) > 50) {
			return true
		}
	}
	return false
}

func looksLikeStep(p piece) bool {
	return en.Tells(p.text) && len(strings.Fields(p.text)) >= 3 || len(p.text) > 140 ||
		strings.Count(p.text, ". ") > 0 && len(p.text) > 60
}

func (r *reading) title(p piece) {
	t := strings.Join(strings.Fields(strings.Trim(symbols.ReplaceAllString(p.text, ""), "#*_:> ")), " ")
	if t == strings.ToUpper(t) { // shouted
		t = phrase.Capital(strings.ToLower(t))
	}
	r.Recipe.Title, r.titled = phrase.Clip(en.TitleAlone(t), 120), p
}

func (r *reading) step(p piece) {
	if next := fmt.Sprintf("%d ", len(r.Recipe.Steps)+1); strings.HasPrefix(p.text, next) &&
		en.Tells(p.text[len(next):]) {
		p = p.part(p.text[len(next):], len(next)) // "1 Preheat the oven": a number without its dot
	}
	r.Recipe.Steps = append(r.Recipe.Steps, recipe.Step{Text: p.text, Span: p.span()})
}

// key names a line among the corrections: its text, and from the second of that text on
// which of them it is.
func (r *reading) key(text string) string {
	if n := r.count[text]; n > 0 {
		return fmt.Sprintf("%s #%d", text, n+1)
	}
	return text
}

// addLine takes a line, or, where the baker says that it is none, puts it aside. Either
// way it has its number and its place, so that no other line is read otherwise for it.
func (r *reading) addLine(l recipe.Line, p piece) {
	key := r.key(l.Text)
	r.count[l.Text]++
	r.found++
	l.ID = recipe.LineID(r.found)
	r.Keys[l.ID] = key
	if f, _ := r.fix(key); f.Skip {
		r.Skipped = append(r.Skipped, l)
		r.Findings = slices.DeleteFunc(r.Findings, func(f Finding) bool { return f.Line == l.ID })
		return
	}
	r.Recipe.Lines = append(r.Recipe.Lines, l)
	kind := "ingredient"
	if !l.Known {
		kind = "doubt"
	}
	r.Marks = append(r.Marks, Mark{p.span(), kind, l.ID})
}

// stepLines finds which lines each step speaks of: a line is used where the last
// word of its name, or the ingredient's, stands.
func (r *reading) stepLines() {
	by := map[string][]recipe.LineID{}
	for _, l := range r.Recipe.Lines {
		if words := strings.Fields(larder.Normal(l.Phrase)); len(words) > 0 {
			last := words[len(words)-1]
			by[last] = append(by[last], l.ID)
			for _, part := range []string{"zest", "juice", "rind"} { // "zest of 2 lemons"
				if part != last && slices.Contains(words, part) {
					by[part] = append(by[part], l.ID)
				}
			}
		}
	}
	for n := range r.Recipe.Steps {
		st := &r.Recipe.Steps[n]
		for _, w := range strings.Fields(larder.Normal(st.Text)) {
			for _, id := range by[w] {
				if !slices.Contains(st.Lines, id) && len(st.Lines) < 60 {
					st.Lines = append(st.Lines, id)
				}
			}
		}
		slices.Sort(st.Lines)
	}
}

// tidyMarks sorts the marks and drops those that overlap an earlier one.
func (r *reading) tidyMarks() {
	sortMarks(r.Marks)
	out := r.Marks[:0]
	end := 0
	for _, m := range r.Marks {
		if m.From >= end && m.To > m.From {
			out = append(out, m)
			end = m.To
		}
	}
	r.Marks = out
}
