// Package phrase has the few turns of phrase that every list and sentence needs.
package phrase

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Capital begins s with a capital letter, whatever its script; a quotation mark or a
// digit stays.
func Capital(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	if n == 0 || r == utf8.RuneError {
		return s
	}
	return string(unicode.ToUpper(r)) + s[n:]
}

// Within begins s with a small letter, for the middle of a sentence.
func Within(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	if n == 0 || r == utf8.RuneError {
		return s
	}
	return string(unicode.ToLower(r)) + s[n:]
}

// Clip shortens s to n letters, and shows that something was cut.
func Clip(s string, n int) string {
	if rs := []rune(s); len(rs) > n {
		return string(rs[:n]) + "…"
	}
	return s
}

// Sentence is s with a capital and its full stop, unless it ends as a sentence does.
func Sentence(s string) string {
	s = Capital(s)
	if s != "" && !strings.ContainsAny(s[len(s)-1:], ".?!") && !strings.HasSuffix(s, ".)") {
		s += "."
	}
	return s
}

// And joins a list for reading: "a", "a and b", "a, b and c".
func And(list []string) string { return join(list, " and ") }

// Or joins what may be chosen from: "a, b or c".
func Or(list []string) string { return join(list, " or ") }

func join(list []string, last string) string {
	if n := len(list) - 1; n > 0 {
		return strings.Join(list[:n], ", ") + last + list[n]
	}
	return strings.Join(list, "")
}
