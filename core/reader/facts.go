package reader

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"

	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
	"kollaris/core/tin"
)

var (
	factLine = pattern.Must(
		`(?i)^\W*(?:serves|servings?|makes|yields?|yield|portions?|oven|temperature|bak(?:e|ing) time|cook(?:ing)? time|prep(?:aration)? time|total time|time|tin|pan|difficulty|source|author)\b\s*(?::|at\b|to\b|\d|about|approx|one|a |an |two|six|eight|ten|twelve)`,
	)
	// yieldOnly is what comes of it in a line by itself: "1 loaf, 12 slices", "2 loaves".
	yieldOnly = pattern.Must(
		`(?i)^\W*(?:about |approx\.? )?(?:\d{1,2}|a|an|one|two|three|four) (?:large |small |medium |big |round |\d+ ?(?:lb|cm|in|inch|g) )*(?:loaf|loaves|cakes?|rings?|tarts?|trays?)\W*(?:(?:of |makes |serves |cuts? into |or )?(?:about |approx\.? |around )?(?:\d{1,3}|` + numberWord + `)(?: (?:thick |thin |large |small )?(?:slices|servings|portions|pieces|squares|wedges|people))?\W*)?$`,
	)
	factOnly = pattern.Must(
		`(?i)^\W*(?:serves|servings?|makes|yields?|portions?|oven|temperature|bak(?:e|ing) time|cook(?:ing)? time|prep(?:aration)? time|total time)\s*:[^.]{1,40}$`,
	)
	bakeWord = pattern.Must(`(?i)\b(bake|bakes|baked|baking|cook|oven|cook(?:ing)? time|done)\b`)
	then     = pattern.Must(`(?i)\b(then|reduce|lower|turn (?:it |the oven )?down|turn the heat down|turn (?:it |them )?over|flip|lid off|uncover)\b`)
	thenOn   = pattern.Must(
		`(?i)^\s*(?:(?:without opening (?:the )?(?:oven|door|oven door),?|immediately|after \d+ min(?:ute)?s,?)\s+)?(?:then|reduce|lower|turn (?:it |the oven |the heat |oven |heat )*(?:down|up)|increase|raise|uncover|after (?:that|which|this)|remove the (?:foil|lid|cover)|take (?:off|away) the|drop)\b`,
	)
	more     = pattern.Must(`(?i)\b(?:more|further|another|longer|again)\b`)
	heating  = pattern.Must(`(?i)heat`)
	bakeVerb = pattern.Must(`(?i)\b(?:bake|bakes|baked|cook)\b`)
	notBake  = pattern.Must(
		`(?i)\b(heat (?:a|the|your|it|up|on)|prep|preparation|rest|stand|soak|cool|chill|prove|proof|rise|knead|mix|beat|whisk|total|preheat(?:ed|ing)?)\b`,
	)
	tinWord = pattern.Must(
		`(?i)\b(tins?|pans?|sheets?|tray|trays|muffin|cupcake|mould|mold|loaf|loaves|ring|tube|baking stone|dish|rounds|squares|springform|bundt|ku?gelhopf|gugelhupf|guglhupf|skillet|ramekins?|basin|kastenform|panettone case|paper cases|cake cases)\b`,
	)
)

// isFact reports whether a line outside the method states a fact rather than an
// ingredient; the fact itself is found by facts.
func (r *reading) isFact(s string) bool {
	if y, ok := en.Best(en.Yields(s, en.InFacts)); ok && strings.Trim(about.ReplaceAllString(s[:y.From], "")+s[y.To:], " .,;:*_#-–—•") == "" {
		return true // "about 20 biscuits", "Slices: 10"
	}
	return (factLine.MatchString(s) || yieldOnly.MatchString(s)) && len(s) < 160
}

// facts picks servings, oven, time and tins out of the whole text.
func (r *reading) facts() {
	rec := r.Recipe
	ingredient := map[int]bool{} // places of ingredient lines
	for _, l := range rec.Lines {
		ingredient[l.Span.From] = true
	}
	bakeScore, follows, onBase := 0, false, false // follows: the sentence before held the time in the oven
	for _, p := range pieces(r.text) {
		if ingredient[p.at] {
			continue
		}
		r.findServings(p, r.whereIs(p))
		fact, section := factLine.MatchString(p.text), sectionWord.MatchString(strings.Trim(p.text, ":"))
		for _, s := range sentences(p) {
			if c, from, to, ok := measure.FindOven(s.text); ok && (rec.Oven == 0 || goesIn.In(s.text)) {
				rec.Oven = c
				r.mark("oven", s.at+from, s.at+to)
				r.scaleOfOven(s.text[from:to])
			}
			score, stages, from, to := bakeTime(s.text)
			if _, _, _, ok := measure.FindOven(s.text); ok && score == 1 {
				score = 3 // "220C 25 min"
			}
			if fact {
				score = min(score, 2) // "Cook time: 1 hr": what the method says comes first
			}
			onBase = onBase || ontoBase.MatchString(s.text)
			switch {
			case score >= 3 && onBase && len(rec.Stages) == 1: // the first was of the base alone
				bakeScore, follows, onBase = score, true, false
				rec.Stages = stages
				if stages[0].Oven > 0 {
					rec.Oven = stages[0].Oven
				}
				r.dropMarks("time")
				r.mark("time", s.at+from, s.at+to)
			case score >= 3 && bakeScore > 2 && !fact && len(stages) == 1 && moreBake.MatchString(s.text): // "Bake 10 minutes more at 200C", under what was spread on it
				rec.Stages = append(rec.Stages, stages...)
				r.mark("time", s.at+from, s.at+to)
			case follows && thenOn.MatchString(s.text) && (score > 2 || score > 0 && more.MatchString(s.text)):
				rec.Stages = append(rec.Stages, stages...)
				r.mark("time", s.at+from, s.at+to)
			case score > bakeScore, score == bakeScore && len(stages) > 1 && len(rec.Stages) < 2: // two heats say more than their sum
				bakeScore, follows = score, true
				rec.Stages = stages
				r.dropMarks("time")
				r.mark("time", s.at+from, s.at+to)
			case len(stages) > 0 || len(s.text) > 80:
				follows = false
			}
			if tinWord.MatchString(s.text) && !section {
				r.findTins(s.text, s.at)
			}
		}
	}
	settleStages(rec)
}

// goesIn tells that the oven is turned to a heat as the bake goes in; otherWay that a heat is another oven's.
var goesIn, otherWay = en.SignOf("goes-in"), en.SignOf("other-way")

// ontoBase is filling what has been baked empty: the bake that counts comes after it.
var ontoBase = pattern.Must(`(?i)\b(?:pour|spread|spoon|tip|scrape|smooth|ladle)\b[^.;]*\b(?:on|onto|over|into|in) (?:the |your )?(?:\pL+ )?(?:base|crust|case|shell|pastry)\b`)

// moreBake is a bake that goes on where one was.
var moreBake = pattern.Must(`(?i)^\W*(?:then )?bake\b[^.;]*\b(?:more|again|another|a further)\b`)

// inAPan is what is done in a pan that nothing is baked in.
var inAPan = pattern.Must(`(?i)\b(?:melt|simmer|boil|fry|saucepan|toast|warm|reduce|hob|stove)`)

// poured is what is done with it then.
var poured = pattern.Must(`(?i)\b(?:pour|tip|transfer|scrape|spoon|turn)\b[^.;]*\binto\b`)

// findTins takes the tins of a sentence: the first that are named are those it is baked in, what is named later is another
// way. A sheet counts only where there is nothing else.
func (r *reading) findTins(text string, at int) {
	rec := r.Recipe
	first := len(rec.Tins) == 0
	said := tin.ReadAll(text)
	if len(said) > 1 && inAPan.MatchString(text) && poured.MatchString(text) { // "melt it in a 20 cm pan and pour it into a 23 cm tin"
		said = said[len(said)-1:]
		said[0].Else = false
	}
	for _, x := range said {
		switch {
		case x.Tin.Shape == tin.Free && (len(rec.Lines) == 0 || !first), !first && inAPan.MatchString(text),
			slices.ContainsFunc(slices.Concat(rec.Tins, rec.OtherTins), x.Again):
			continue
		case first && !x.Else:
			rec.Tins = append(rec.Tins, x.Tin)
		default:
			rec.OtherTins = append(rec.OtherTins, x.Tin)
		}
		r.Tins = append(r.Tins, x)
		if m := tinWord.FindStringIndex(text[x.From:x.To]); m != nil {
			r.mark("tin", at+x.From+m[0], at+x.From+m[1])
		}
	}
}

// settleStages sums the stages of the bake, and drops them where there is one.
func settleStages(rec *recipe.Recipe) {
	for n, st := range rec.Stages {
		rec.Bake.Min += st.Minutes.Min
		rec.Bake.Max += st.Minutes.Max
		if n == 0 && st.Oven == 0 {
			rec.Stages[0].Oven = rec.Oven
		}
		if n > 0 && st.Oven == 0 { // "lid off, 15 minutes more"
			rec.Stages[n].Oven = rec.Stages[n-1].Oven
		}
	}
	if len(rec.Stages) < 2 {
		rec.Stages = nil
	}
}

// numberWord are the numbers of servings that people write out.
const numberWord = `two dozen|half a dozen|a dozen|four|five|six|seven|eight|nine|ten|twelve|fourteen|fifteen|sixteen|eighteen|twenty|twenty-four`

// whereIs tells what of the recipe a piece is: its title, a step or neither.
func (r *reading) whereIs(p piece) en.Where {
	switch {
	case r.titled.text != "" && p.at == r.titled.at:
		return en.InTitle
	case slices.ContainsFunc(r.Recipe.Steps, func(s recipe.Step) bool { return p.at >= s.Span.From && p.at < s.Span.To }):
		return en.InStep
	}
	return en.InFacts
}

// findServings takes what a piece says of how much the recipe makes, where it says it more plainly than what stood before.
func (r *reading) findServings(p piece, where en.Where) {
	y, ok := en.Best(en.Yields(p.text, where))
	if !ok || y.Rank <= r.yielded {
		return
	}
	r.dropMarks("servings")
	r.Recipe.Servings, r.yielded = y.Count, y.Rank
	r.mark("servings", p.at+y.From, p.at+y.To)
}

type sentence struct {
	text string
	at   int
}

// sentences are those of a piece, with their places in the text.
func sentences(p piece) (out []sentence) {
	for _, s := range en.Sentences(p.text) {
		out = append(out, sentence{p.text[s.From:s.To], p.at + s.From})
	}
	return out
}

var (
	scaleNamed = pattern.Must(`(?i)\d\s*(?:°|º|˚|deg(?:rees)?\.?)?\s*[cf](?:elsius|entigrade|ahrenheit)?\b|\b(?:gas|fan)\b`)
	figure     = pattern.Must(`\d{3}`)
)

// scaleOfOven says which scale a heat without one was taken in.
func (r *reading) scaleOfOven(written string) {
	if scaleNamed.MatchString(written) {
		return
	}
	x, taken := figure.FindString(written), "°C"
	if x > "280" {
		taken = "°F, since no home oven is set to that in °C"
	}
	r.Findings = append(r.Findings, Finding{"oven-scale", "note", fmt.Sprintf("%s is written without °C or °F: taken as %s.", x, taken), 0})
}

var (
	baking = pattern.Must(`(?i)\bbak(?:e|es|ed|ing)\b|\boven\b`)
	// bareStage is a heat that the oven is turned to, without a scale: "lower to 350".
	bareStage = pattern.Must(`(?i)\b(?:(?:reduce|lower|turn|drop|increase|raise)\b[^.;]{0,30}?\bto|then(?: at| to)?) (\d{3})\b`)

	onHob = pattern.Must(`(?i)\b(?:simmer|boil|saucepan|frying pan|fr(?:y|ied)|(?:low|medium|high)[- ]heat|sauce|syrup|caramel|custard|stirring|whisking)\b`)
)

// mostTimes is how many times are looked at in one sentence: more are no recipe, and each is held against the whole of it.
const mostTimes = 50

// bakeTime finds the time in the oven in a sentence, with a score: a sentence
// that speaks of baking counts most, one of resting or cooling least. A bake that
// changes its heat has a stage for each time.
func bakeTime(s string) (score int, stages []recipe.Stage, from, to int) {
	heat := func(s string) measure.Celsius {
		if c, _, _, ok := measure.FindOven(s); ok {
			return c
		}
		m := bareStage.FindStringSubmatch(s)
		if m == nil {
			return 0
		}
		c, _ := measure.ParseTemperature(m[1], m[1] > "280") // no home oven is set to more than 280 °C
		return c
	}
	times := en.Times(s)
	for _, d := range times[:min(mostTimes, len(times))] {
		at, x := []int{d.From, d.To}, recipe.Minutes{Min: d.Min, Max: d.Max}
		if x.Max < 3 || x.Max > 600 {
			continue
		}
		near := s[max(0, at[0]-45):at[0]]
		sc := 1
		if bakeWord.MatchString(near) {
			sc = 4
		} else if bakeWord.MatchString(s) {
			sc = 3
		}
		switch {
		case sc == 3 && baking.MatchString(s[:at[0]]):
			sc = 4 // "bake until a skewer comes out clean, 30 to 35 min"
		case onHob.MatchString(s) && !baking.MatchString(s):
			sc = 0 // "cook the sauce for 4 minutes"
		}
		if other := notBake.FindAllStringIndex(near, -1); other != nil && !bakeVerb.MatchString(near) {
			last := other[len(other)-1]
			if heating.MatchString(near[last[0]:last[1]]) ||
				heat(near[last[1]:]) == 0 { // "mix, 220C 12 min" is the oven's
				sc = 0
			}
		}
		turn := then.FindStringIndex(s[to:at[0]])
		if between := s[to:at[0]]; turn == nil && to > 0 && heat(between) > 0 && !otherWay.In(between) { // "20 min lid on, 230 C 25 min lid off"
			turn = []int{0, 0}
		}
		if score >= 3 && sc > 0 && turn != nil && at[0]-to < 90 { // "15 minutes, then turn down for 30"
			until := at[1]
			if end := then.FindStringIndex(s[until:]); end != nil {
				until += end[0]
			} else {
				until = len(s)
			}
			c := heat(s[to+turn[0] : until])
			if c == 0 { // "10 minutes at 210, then 20 more": no other is said
				c = heat(s[to:until])
			}
			stages = append(stages, recipe.Stage{Oven: c, Minutes: x})
			to = at[1]
			continue
		}
		if sc > score {
			until := len(s)
			if end := then.FindStringIndex(s[at[1]:]); end != nil {
				until = at[1] + end[0]
			}
			score, stages, from, to = sc, []recipe.Stage{{Oven: heat(s[:until]), Minutes: x}}, at[0], at[1]
		}
	}
	return
}

func (r *reading) mark(kind string, from, to int) {
	r.Marks = append(r.Marks, Mark{r.within(from, to), kind, 0})
}

// within is a place in the text: of a table's row, whose words are longer than what stands there, no more than that.
func (r *reading) within(from, to int) recipe.Span {
	return recipe.Span{From: min(from, len(r.text)), To: min(to, len(r.text))}
}

func (r *reading) dropMarks(kind string) {
	out := r.Marks[:0]
	for _, m := range r.Marks {
		if m.Kind != kind {
			out = append(out, m)
		}
	}
	r.Marks = out
}

func sortMarks(m []Mark) { sort.SliceStable(m, func(a, b int) bool { return m[a].From < m[b].From }) }

// typedFacts lays the typed corrections over what was picked out; a field that
// cannot be used is left as read and explained in Faults.
func (r *reading) typedFacts() {
	f, rec := r.opt.Facts, r.Recipe
	if f.Title != "" {
		rec.Title = phrase.Clip(strings.TrimSpace(f.Title), 120)
	}
	if f.Kind != "" {
		if k := recipe.Kind(f.Kind); k.Known() {
			rec.Kind = k
		} else {
			r.Faults["kind"] = fmt.Sprintf("“%s” is not a kind of bake: choose one from the list", phrase.Clip(f.Kind, 40))
		}
	}
	if f.Servings != "" {
		n, err := strconv.Atoi(strings.TrimSpace(f.Servings))
		if err != nil || n < 1 || n > 200 {
			r.Faults["servings"] = fmt.Sprintf(
				"“%s” cannot be the number of servings: try a whole number from 1 to 200", phrase.Clip(f.Servings, 20),
			)
		} else {
			rec.Servings = n
		}
	}
	if f.Tin != "" {
		rec.Tins, rec.OtherTins, r.Tins = nil, nil, nil
		for _, x := range tin.ReadAll(f.Tin) {
			r.Tins = append(r.Tins, x)
			if x.Else {
				rec.OtherTins = append(rec.OtherTins, x.Tin)
			} else {
				rec.Tins = append(rec.Tins, x.Tin)
			}
		}
		if len(rec.Tins) == 0 {
			r.Faults["tin"] = fmt.Sprintf("“%s” names no tin: try “loaf 9x5 in”, “round 20 cm” or “12 muffin cups”", phrase.Clip(f.Tin, 40))
		}
	}
	if f.Oven != "" {
		s := f.Oven
		if _, err := strconv.Atoi(strings.TrimSpace(s)); err == nil {
			s += "°"
		}
		if c, _, _, ok := measure.FindOven(s); ok {
			rec.Oven = c
		} else {
			r.Faults["oven"] = fmt.Sprintf("“%s” is not an oven's heat: try 180 °C, 350 °F or gas 4", phrase.Clip(f.Oven, 20))
		}
	}
	if f.Time != "" {
		s := f.Time
		if q, err := measure.ParseQuantity(s); err == nil {
			s = fmt.Sprintf("%g to %g minutes", q.Min, q.Max)
		}
		if d := en.Times(s); len(d) > 0 && d[0].Min >= 1 && d[0].Max <= 600 {
			rec.Bake = recipe.Minutes{Min: d[0].Min, Max: d[0].Max}
			return
		}
		r.Faults["time"] = fmt.Sprintf(
			"“%s” is not a baking time: try 50, 50-60 min or 1 hour 10 min", phrase.Clip(f.Time, 20),
		)
	}
}
