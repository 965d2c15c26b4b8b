package reader

import (
	"strings"

	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// A time belongs to the work that is named last before it: "knead 10 minutes,
// then leave to rise for an hour".
var (
	waitWord = pattern.Must(
		`(?i)\b(?:(soak|steep|macerat|plump)|(prove|proof|ris(?:e|ing)\b|ferment|bulk)|(chill|refrigerat|fridge|freez)|(cool|in (?:the|its) (?:tin|pan) (?:for )?$)|(rest\b|resting|stand|leave|left|sit\b|set aside|relax|hydrate|thicken)|(bak|cook|knead|beat|mix\b|mixing|whisk|boil|simmer|heat|oven|microwav|fry|stir|cream\b|blend|toast|roast|froth|process))[a-z]*`,
	)
	waitKinds = []recipe.WaitKind{"", recipe.Soak, recipe.Proof, recipe.Chill, recipe.Cool, recipe.Rest, ""}
	overnight = pattern.Must(
		`(?i)\b(?:overnight|(\d|one|two|three|four)\s*(?:(?:to|-|–|or)\s*(\d|two|three|four)\s*)?days?)\b`,
	)
	inTheTin  = pattern.Must(`(?i)\b(?:in|inside) (?:the|its|their) (?:tins?|pans?)(?: for)?(?: about)?\s*$`)
	untilSign = pattern.Must(
		`(?i)\buntil (?:it (?:has |is )?|they (?:have |are )?|completely |quite |well |almost |nearly |about )*(doubled|double|risen|puffy|puffed|cold|cool|set|firm|soft|plump|thick)\b`,
	)
	doneSign = pattern.Must(
		`(?i)\b(?:until|till|(?:done|ready|cooked) (?:when|once|if)|when)\s+([^.;!]*\b(?:skewer|toothpick|tester|cocktail stick|knife|straw|golden|gold|brown|browned|colou?red|springs?|hollow|firm|set|away from|shrink\w*|risen|crisp|dry|\d{2,3}\s*(?:°|º|degrees)?\s*[CF]\b)[^.;!(]*)`,
	)
	sureSign = pattern.Must(
		`(?i)\b(?:skewer|toothpick|tester|cocktail stick|straw|springs? back|hollow|internal|centre|center|middle|clean)\b`,
	)
)

// nights are what the words for long waits come to, in minutes. Source: common
// practice: overnight is eight to twelve hours.
func nights(s string, at []int) recipe.Minutes {
	if at[2] < 0 {
		return recipe.Minutes{Min: 480, Max: 720}
	}
	days := func(from, to int) float64 {
		if w, ok := map[string]float64{"one": 1, "two": 2, "three": 3, "four": 4}[strings.ToLower(s[from:to])]; ok {
			return w
		}
		return decimal(s[from:to])
	}
	m := recipe.Minutes{Min: 1440 * days(at[2], at[3])}
	m.Max = m.Min
	if at[4] >= 0 {
		m.Max = max(m.Min, 1440*days(at[4], at[5]))
	}
	return m
}

// maxWaits is the most waits that are picked out of one recipe.
const maxWaits = 24

// waits picks soaking, proofing, chilling, resting and cooling out of the steps
// and the notes of the lines, and the sign that the bake is done.
func (r *reading) waits() {
	for _, l := range r.Recipe.Lines {
		if soaked := waitWord.FindStringSubmatchIndex(l.Text); soaked != nil && soaked[2] >= 0 {
			r.waitsOf(sentence{l.Text, l.Span.From})
		}
	}
	best := 0
	for _, st := range r.Recipe.Steps {
		baked := false // the time in the oven has been said
		for _, s := range sentences(piece{text: st.Text, at: st.Span.From}) {
			r.waitsOf(s)
			_, _, _, hot := measure.FindOven(s.text)
			baked = baked || hot || bakeWord.MatchString(s.text)
			m := doneSign.FindStringSubmatchIndex(s.text)
			if m == nil {
				continue
			}
			score := 1
			switch {
			case sureSign.MatchString(s.text[m[2]:m[3]]):
				score = 3
			case baked:
				score = 2
			}
			if score > best && score > 1 {
				best = score
				r.Recipe.Done = phrase.Clip(strings.TrimRight(s.text[m[2]:m[3]], " ,"), 120)
				r.dropMarks("done")
				r.mark("done", s.at+m[2], s.at+m[3])
			}
		}
	}
}

// waitsOf picks the waits out of a sentence.
func (r *reading) waitsOf(s sentence) {
	words := waitWord.FindAllStringSubmatchIndex(s.text, -1)
	if len(words) == 0 || len(r.Recipe.Waits) >= maxWaits {
		return
	}
	kindAt := func(at int) recipe.WaitKind {
		kind, found := recipe.WaitKind(""), false
		for _, w := range words {
			if w[0] >= at && found {
				break
			}
			for n := 1; n < len(waitKinds); n++ {
				if w[2*n] >= 0 {
					kind, found = waitKinds[n], true
				}
			}
		}
		if kind == recipe.Rest && inTheTin.MatchString(s.text[:at]) {
			return recipe.Cool
		}
		return kind
	}
	until, untilAt := "", -1
	if m := untilSign.FindStringSubmatchIndex(s.text); m != nil {
		until, untilAt = strings.ToLower(s.text[m[2]:m[3]]), m[0]
	}
	add := func(m recipe.Minutes, from, to int) {
		kind := kindAt(from)
		if kind == "" || len(r.Recipe.Waits) >= maxWaits {
			return
		}
		w := recipe.Wait{What: kind, Minutes: m, Span: r.within(s.at+from, s.at+to)}
		if until != "" && kindAt(untilAt) == kind {
			w.Until, until = until, ""
		}
		r.Recipe.Waits = append(r.Recipe.Waits, w)
		r.mark("wait", w.Span.From, w.Span.To)
	}
	for _, d := range en.Times(s.text) {
		if d.Max <= 3000 {
			add(recipe.Minutes{Min: d.Min, Max: d.Max}, d.From, d.To)
		}
	}
	for _, at := range overnight.FindAllStringSubmatchIndex(s.text, -1) {
		add(nights(s.text, at), at[0], at[1])
	}
	if until != "" &&
		(kindAt(untilAt) == recipe.Proof || kindAt(untilAt) == recipe.Chill || kindAt(untilAt) == recipe.Soak) {
		m := untilSign.FindStringIndex(s.text)
		add(recipe.Minutes{}, m[0], m[1])
	}
}
