package en

import "strings"

// NamesPart reports whether a text names a part of a recipe by its heading: "pipe the cross" of "cross", "ice" of "royal icing".
func NamesPart(text, heading string) bool {
	heading, _, _ = strings.Cut(heading, "(")
	want := Words(heading)
	if len(want) == 0 {
		return false
	}
	last := stem(want[len(want)-1].Text)
	for _, w := range Words(text) {
		if stem(w.Text) == last {
			return true
		}
	}
	return false
}

// stem is a word without the endings of its plural and of its doing: "icing", "ices" and "ice" are one.
func stem(w string) string {
	if w = strings.TrimSuffix(w, "es"); !strings.HasSuffix(w, "ss") {
		w = strings.TrimSuffix(w, "s")
	}
	for _, end := range []string{"ing", "ed"} {
		if cut := strings.TrimSuffix(w, end); len(cut) > 1 {
			w = cut
		}
	}
	return strings.TrimSuffix(w, "e")
}
