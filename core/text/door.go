// Package text is what a text goes through before anybody understands it, in whatever language it is written: odd signs become plain ones, and
// every byte knows where it stood.
package text

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// Door is a text as it is read, with the places of the text that was given.
type Door struct {
	Text string
	at   []int // of each byte of Text, and of its end, the byte of the source; nil where they are the same
}

// Same reports whether nothing was made plain.
func (d Door) Same() bool { return d.at == nil }

// At is where a byte of Text stands in the source; what lies outside stands at its ends.
func (d Door) At(n int) int {
	if d.at == nil {
		return min(max(n, 0), len(d.Text))
	}
	return d.at[min(max(n, 0), len(d.at)-1)]
}

// Shout is how much of a text's letters are capitals where it is written in capitals. Source: practice.
const shout = 0.9

// leastShouted is of how many letters it is seen whether a text is written in capitals.
const leastShouted = 40

// Open makes a text plain: no-break and other odd blanks are blanks, what has no width goes, letters with their accents apart become one,
// hyphens are one sign, marks of quoting at the beginning of lines go, as do Markdown's and a page's marks of emphasis; a text that is
// written in capitals throughout becomes sentences. What is plain stays as it is, byte for byte.
func Open(s string) Door {
	o := opener{src: s, upper: shouted(s)}
	o.loud = o.upper
	if !o.upper && plain(s) && !loudLine(s) {
		return Door{Text: s}
	}
	o.out.Grow(len(s))
	for o.n < len(s) {
		o.next()
	}
	if o.out.String() == s {
		return Door{Text: s}
	}
	o.at = append(o.at, len(s))
	return Door{Text: o.out.String(), at: o.at}
}

// plain reports whether nothing in a text can need a change: the common case, told fast.
func plain(s string) bool {
	line := true // only blanks so far in it
	for n := 0; n < len(s); n++ {
		c := s[n]
		switch {
		case c == '>' && line, c == '*' && n+1 < len(s) && s[n+1] == '*', c == '_' && n+1 < len(s) && s[n+1] == '_',
			c == '<', c == '&', c >= utf8.RuneSelf && odd(s[n:]):
			return false
		}
		line = c == '\n' || line && (c == ' ' || c == '\t')
	}
	return true
}

// odd reports whether a text begins with a sign that does not stay as it is.
func odd(s string) bool {
	c, _ := utf8.DecodeRuneInString(s)
	return c != '\u200d' && (unicode.IsSpace(c) || widthless[c] || hyphens[c] || unicode.Is(unicode.Mn, c) && c < '\ufe00' || c == '⁄')
}

// widthless are signs that nobody sees; hyphens are the other signs for one.
var (
	widthless = map[rune]bool{'\u200b': true, '\ufeff': true, '\u00ad': true, '\u2060': true}
	hyphens   = map[rune]bool{'\u2010': true, '\u2011': true}
)

// shouted reports whether a text is written in capitals.
func shouted(s string) bool {
	upper, letters := 0, 0
	for _, c := range s {
		if unicode.IsLetter(c) {
			letters++
		}
		if unicode.IsUpper(c) {
			upper++
		}
	}
	return letters >= leastShouted && float64(upper) >= shout*float64(letters)
}

// leastLoud is of how many words and letters a line is that counts as written in capitals by itself: a heading has fewer.
const (
	leastLoud  = 4
	loudInLine = 16
)

// loud reports whether a line is written in capitals, and long enough to be read as a sentence.
func loud(line string) bool {
	letters := 0
	for _, c := range line {
		if unicode.IsLower(c) {
			return false
		}
		if unicode.IsUpper(c) {
			letters++
		}
	}
	return letters >= loudInLine && len(strings.Fields(line)) >= leastLoud
}

// loudLine reports whether any line of a text is.
func loudLine(s string) bool {
	for line := range strings.Lines(s) {
		if loud(line) {
			return true
		}
	}
	return false
}

// opener is a text while it is made plain.
type opener struct {
	src   string
	n     int // where it has come to
	out   strings.Builder
	at    []int
	upper bool // it is written in capitals
	loud  bool // all of the text is
	begun bool // the sentence has a letter
	after rune // the letter or sign before
}

// put writes what stands for the source's bytes from n to to.
func (o *opener) put(s string, to int) {
	for range len(s) {
		o.at = append(o.at, o.n)
	}
	o.out.WriteString(s)
	o.n = to
}

// next takes the next sign of the source.
func (o *opener) next() {
	rest := o.src[o.n:]
	if o.n == 0 || o.src[o.n-1] == '\n' {
		o.begun, o.after = false, 0
		line, _, _ := strings.Cut(rest, "\n")
		o.upper = o.loud || loud(line)
		if to := quoted(rest); to > 0 {
			o.n += to
			return
		}
	}
	if to, parts := emphasis(rest); to > 0 {
		if parts {
			o.put("\n", o.n+to)
			o.begun = false
		} else {
			o.n += to
		}
		return
	}
	if sign, to := entity(rest); to > 0 {
		o.put(sign, o.n+to)
		return
	}
	c, size := utf8.DecodeRuneInString(rest)
	switch {
	case widthless[c]:
		o.n += size
	case hyphens[c]:
		o.put("-", o.n+size)
	case c == '⁄':
		o.put("/", o.n+size)
	case c >= utf8.RuneSelf && unicode.IsSpace(c):
		o.put(" ", o.n+size)
	case unicode.IsLetter(c):
		end := size
		for m, k := utf8.DecodeRuneInString(rest[end:]); unicode.IsLetter(m) || unicode.Is(unicode.Mn, m) && m < '\ufe00'; m, k = utf8.DecodeRuneInString(rest[end:]) {
			end += k
		}
		o.word(rest[:end])
	default:
		ends := o.n+size == len(o.src) || unicode.IsSpace(rune(o.src[o.n+size]))
		if ends && (c == '.' || c == '!' || c == '?' || c == ':') {
			o.begun = false
		}
		o.put(rest[:size], o.n+size)
	}
	o.after = c
}

// word writes a run of letters: one letter for each with its accent, and of a text in capitals as in a sentence.
func (o *opener) word(w string) {
	whole := norm.NFC.String(w)
	if o.upper && !(utf8.RuneCountInString(whole) == 1 && strings.Contains("CFTL", whole)) { // degrees, spoons and litres stay
		whole = strings.ToLower(whole)
		if c, size := utf8.DecodeRuneInString(whole); !o.begun && !unicode.IsDigit(o.after) {
			whole = string(unicode.ToUpper(c)) + whole[size:]
		}
	}
	o.begun = true
	if len(whole) != len(w) {
		o.put(whole, o.n+len(w))
		return
	}
	for n := range len(w) { // letter by letter, as they stand
		o.at = append(o.at, o.n+n)
	}
	o.out.WriteString(whole)
	o.n += len(w)
}

// quoted is how long the marks of quoting are that begin a line: "> > ".
func quoted(s string) int {
	end := 0
	for n := 0; n < len(s); n++ {
		switch s[n] {
		case '>':
			end = n + 1
		case ' ', '\t':
			if end == n && end > 0 {
				end = n + 1
			}
		default:
			return end
		}
	}
	return end
}

// emphasis is how long the marks are that make letters bold or slanted, Markdown's and a page's; parts where a page's begins a line.
func emphasis(s string) (size int, parts bool) {
	if strings.HasPrefix(s, "**") || strings.HasPrefix(s, "__") {
		return 2, false
	}
	if s[0] != '<' {
		return 0, false
	}
	end := strings.IndexByte(s[:min(len(s), longestTag)], '>')
	if end < 0 {
		return 0, false
	}
	name := strings.ToLower(strings.Trim(s[1:end], "/ "))
	if at := strings.IndexAny(name, " \t"); at >= 0 {
		name = name[:at]
	}
	switch {
	case within[name]:
		return end + 1, false
	case lines[name]:
		return end + 1, true
	}
	return 0, false
}

// longestTag is how long a tag of a page may be, in bytes.
const longestTag = 100

// within are a page's marks of letters, which part no words; lines are those that begin a line. Source: HTML.
var (
	within = map[string]bool{"b": true, "i": true, "em": true, "strong": true, "u": true, "span": true, "font": true, "small": true, "mark": true}
	lines  = map[string]bool{"br": true, "p": true, "div": true, "li": true, "ul": true, "ol": true, "h1": true, "h2": true, "h3": true, "h4": true, "h5": true, "h6": true}
)

// entity reads a sign that a page writes by its name: "&nbsp;", "&frac12;".
func entity(s string) (sign string, size int) {
	if s[0] != '&' {
		return "", 0
	}
	end := strings.IndexByte(s[:min(len(s), 10)], ';')
	if end < 0 {
		return "", 0
	}
	if sign, known := entities[s[:end+1]]; known {
		return sign, end + 1
	}
	return "", 0
}

// entities are the names of the signs that stand in recipes. Source: HTML's named character references.
var entities = map[string]string{
	"&nbsp;": " ", "&amp;": "&", "&deg;": "°", "&frac12;": "½", "&frac14;": "¼", "&frac34;": "¾", "&ndash;": "–", "&mdash;": "—", "&times;": "×",
	"&quot;": `"`, "&#39;": "'", "&rsquo;": "’", "&lsquo;": "‘", "&lt;": "<", "&gt;": ">", "&eacute;": "é", "&egrave;": "è",
}
