package reader

import (
	"strings"
	"unicode"

	"kollaris/core/pattern"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// piece is one line of the source text with its place.
type piece struct {
	text string // trimmed, without bullet
	at   int    // byte offset of text
	list bool   // it had a bullet or a number
	src  int    // bytes it takes in the source, where the text is another; else 0
	head bool   // an empty line, or nothing, stands before it and none behind it
}

// span is where the piece stands in the source.
func (p piece) span() recipe.Span {
	if p.src > 0 {
		return recipe.Span{From: p.at, To: p.at + p.src}
	}
	return recipe.Span{From: p.at, To: p.at + len(p.text)}
}

// part is a text out of the piece, from a byte of it on; of one whose text is another than the source's, it stands where the whole does.
func (p piece) part(text string, from int) piece {
	if p.src > 0 {
		return piece{text: text, at: p.at, list: p.list, src: p.src}
	}
	return piece{text: text, at: p.at + from, list: p.list}
}

func pieces(text string) []piece {
	var out []piece
	at, blank := 0, true
	lines := strings.SplitAfter(text, "\n")
	for n, ln := range lines {
		raw := strings.TrimFunc(ln, unicode.IsSpace)
		start := at + strings.Index(ln, raw)
		at += len(ln)
		if raw == "" {
			blank = true
			continue
		}
		p := piece{text: raw, at: start, head: blank && n+1 < len(lines) && strings.TrimSpace(lines[n+1]) != ""}
		blank = false
		if row, is := tableRow(raw); is {
			if row != "" {
				out = append(out, piece{text: row, at: start, list: true, src: len(raw)})
			}
			continue
		}
		if m := bullet.FindString(raw); m != "" &&
			!(strings.HasPrefix(raw, "-") && len(m) == 1 && len(raw) > 1 && isDigitOrDot(raw[1])) {
			p.text, p.at, p.list = raw[len(m):], start+len(m), true
		}
		m := numbered.FindString(p.text)
		if bare := bareNumber.FindString(p.text); m == "" && bare != "" && tellsToDo.MatchString(p.text[len(bare):]) && en.Tells(p.text[len(bare):]) {
			m = bare // "2 Beat the butter": no amount of anything
		}
		if m != "" {
			p.text, p.at, p.list = p.text[len(m):], p.at+len(m), true
		}
		if t := strings.TrimLeft(p.text, "*_#"); t != p.text &&
			(strings.HasPrefix(p.text, "**") || strings.HasPrefix(p.text, "_") || strings.HasPrefix(p.text, "#")) {
			t = strings.TrimLeft(t, " ")
			p.text, p.at = t, p.at+len(p.text)-len(t)
		}
		p.text = strings.TrimRight(p.text, "*_ ") // Markdown's emphasis
		if p.text != "" {
			for _, part := range splitBars(p) {
				out = append(out, splitPercents(part)...)
			}
		}
	}
	return out
}

var (
	bareNumber = pattern.Must(`^\d{1,2}\s+`)
	tellsToDo  = pattern.Must(`^[A-Z][a-z-]+ (?:the|your|in|into|together|all|oven|to|over|up|out|an?|both|half|everything|it|them|on|with|until|for)\b`)
	ruleRow    = pattern.Must(`^[|:\-–—\s]+$`)
	headCell   = pattern.Must(`(?i)^\W*(?:ingredients?|amounts?|quantit(?:y|ies)|weights?|measures?|units?|grams?|what|item|how much)\W*$`)
	startsAt   = pattern.Must(`^(?:\d|[½¼¾⅓⅔⅛])`)
)

// tableRow reads a row of a table in Markdown as a line: its amount, then what it is of. text is "" for
// a rule or the head of the table; is is false where it is no row.
func tableRow(raw string) (text string, is bool) {
	if !strings.HasPrefix(raw, "|") || strings.Count(raw, "|") < 3 {
		return "", false
	}
	var amount, rest []string
	for _, cell := range strings.Split(strings.Trim(raw, "|"), "|") {
		cell = strings.Trim(cell, " *_")
		switch {
		case ruleRow.MatchString(cell) || headCell.MatchString(cell) || cell == "":
		case startsAt.MatchString(cell) && len(amount) == 0:
			amount = append(amount, cell)
		default:
			rest = append(rest, cell)
		}
	}
	if len(rest) == 0 && len(amount) == 0 {
		return "", true
	}
	return strings.TrimSpace(strings.Join(amount, " ") + " " + strings.Join(rest, ", ")), true
}

var barAmount = pattern.Must(`(?:^| \| )[\d½¼¾⅓⅔⅛]`)

// splitBars parts "500 g flour | 2 tsp salt | 400 ml water" at its bars.
func splitBars(p piece) []piece {
	if len(barAmount.FindAllString(p.text, 3)) < 3 {
		return []piece{p}
	}
	return split(p, " | ")
}

// split parts a piece after each sep and trims what joins the parts.
func split(p piece, sep string) []piece {
	var out []piece
	at := p.at
	for _, part := range strings.SplitAfter(p.text, sep) {
		if t := strings.Trim(part, " |,."); t != "" {
			out = append(out, piece{text: t, at: at + strings.Index(part, t), list: p.list})
		}
		at += len(part)
	}
	return out
}

func isDigitOrDot(c byte) bool { return c >= '0' && c <= '9' || c == '.' }
