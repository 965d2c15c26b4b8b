package reader

import (
	"strings"

	"kollaris/core/measure"
	"kollaris/core/pattern"
)

// In prose an ingredient runs from its amount to the next comma, full stop or
// joining word: "cream 115 g of butter with half a cup of sugar, then add 2 eggs".
var (
	proseAmount = pattern.Must(
		`(?i)(?:^|[\s(])(\d|[½¼¾⅓⅔⅛]|(?:a|an|half|quarter|one|two|three|four|five|six|eight|ten|twelve)\s)`,
	)
	proseEnd = pattern.Must(
		`(?i)[,;!?()]|\.(?:\s|$)|\s(?:and|with|then|into|in|to|over|on|for|until|till|plus|goes|go|is|are|together|along|while|at|by|from|as|before|after|each|per|so|which|that|you|using|once|again|a|an|the|\d)\b`,
	)
	proseSkip = pattern.Must(
		`(?i)^\s*(?:°|degrees|deg\b|minutes?\b|mins?\b|hours?\b|hrs?\b|seconds?\b|days?\b|cm\b|mm\b|inch|in\b|"|people\b|portions?\b|servings?\b|slices?\b|times?\b|of (?:the|it|them)\b|%)`,
	)
)

// maxProse is the most places in sentences that are tried as ingredients.
const maxProse = 500

// prose looks for ingredients within sentences, for a text that lists none.
func (r *reading) prose() {
	if r.found > 0 {
		return
	}
	r.Recipe.Steps, r.Recipe.Notes = nil, nil // a step a sentence instead
	tried := 0
	for n, p := range pieces(r.text) {
		if n > 0 || r.Recipe.Title == "" || len(p.text) > 120 {
			r.sentenceSteps(p)
		}
		for at := 0; at < len(p.text) && tried < maxProse; {
			m := proseAmount.FindStringSubmatchIndex(p.text[at:])
			if m == nil {
				break
			}
			from := at + m[2]
			tried++
			text, ok := proseItem(strings.ToValidUTF8(p.text[from:min(len(p.text), from+200)], ""))
			if !ok {
				at = from + 1
				for at < len(p.text) && isDigitOrDot(p.text[at]) {
					at++
				}
				continue
			}
			at = from + len(text)
			item := p.part(text, from)
			item.list = false
			line, strong := r.tryLine(item, false)
			if line == nil || !strong || tinWord.MatchString(line.Phrase) || line.Ingredient == "" && line.Unit == "" {
				continue
			}
			r.addLine(*line, item)
		}
	}
}

func (r *reading) sentenceSteps(p piece) {
	for _, s := range sentences(p) {
		if t := strings.TrimSpace(s.text); t != "" {
			r.step(piece{text: t, at: s.at + strings.Index(s.text, t)})
		}
	}
}

// proseItem takes the words of one ingredient, its amount first.
func proseItem(s string) (string, bool) {
	q, n, err := measure.ScanQuantity(s)
	if err != nil || n == 0 || q.IsZero() || proseSkip.MatchString(s[n:]) {
		return "", false
	}
	u, k := measure.ScanUnit(s[n:])
	if u.ID == "cup" && q.Mid() > 20 || strings.HasPrefix(s[n+k:], "/") {
		return "", false // 180C/350F
	}
	head := n + k
	for _, of := range []string{" of the ", " of a ", " of ", " the "} {
		if strings.HasPrefix(s[head:], of) {
			head += len(of)
			break
		}
	}
	end := len(s)
	if m := proseEnd.FindStringIndex(s[head:]); m != nil {
		end = head + m[0]
	}
	text := strings.TrimRight(s[:end], " .")
	return text, len(text) > n
}
