package reader

import (
	"regexp"
	"strings"
	"unicode"

	"kollaris/core/recipe"
)

// piece is one line of the source text with its place.
type piece struct {
	text string // trimmed, without bullet
	at   int    // byte offset of text
	list bool   // it had a bullet or a number
	src  int    // bytes it takes in the source, where the text is another; else 0
}

// span is where the piece stands in the source.
func (p piece) span() recipe.Span {
	if p.src > 0 {
		return recipe.Span{From: p.at, To: p.at + p.src}
	}
	return recipe.Span{From: p.at, To: p.at + len(p.text)}
}

func pieces(text string) []piece {
	var out []piece
	at := 0
	for _, ln := range strings.SplitAfter(text, "\n") {
		raw := strings.TrimFunc(ln, unicode.IsSpace)
		start := at + strings.Index(ln, raw)
		at += len(ln)
		if raw == "" {
			continue
		}
		p := piece{text: raw, at: start}
		if m := bullet.FindString(raw); m != "" &&
			!(strings.HasPrefix(raw, "-") && len(m) == 1 && len(raw) > 1 && isDigitOrDot(raw[1])) {
			p.text, p.at, p.list = raw[len(m):], start+len(m), true
		}
		if m := numbered.FindString(p.text); m != "" {
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

var barAmount = regexp.MustCompile(`(?:^| \| )[\d½¼¾⅓⅔⅛]`)

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
