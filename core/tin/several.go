package tin

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/pattern"
)

// Said is a tin as a text says it, and where in it.
type Said struct {
	Reading
	From, To int  // bytes
	Else     bool // it stands in for those before, rather than beside them: "or"
}

var (
	joins     = pattern.Must(`(?i)\s*,?\s*(?:\b(and|plus|or|alternatively|instead of|otherwise)\b|&)\s*`)
	elseWords = pattern.Must(`(?i)^(?:or|alternatively|instead of|otherwise)$`)
)

// wordInches is a width in words.
var (
	wordInches = pattern.Must(`(?i)\b(?:six|seven|eight|nine|ten|eleven|twelve)[- ]inch\b`)
	inchWords  = map[string]int{"six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12}
)

// ReadAll reads all the tins of a text: "a 9x5 in loaf tin and four small ones" beside each other, "a loaf tin or 12
// muffin cups" one instead of the other. A tin that is said twice counts once.
func ReadAll(s string) []Said {
	s = wordInches.ReplaceAllStringFunc(s, func(m string) string { // "eight-inch": every letter stands where it stood
		at := strings.IndexAny(m, "- ")
		return fmt.Sprintf("%*d", at, inchWords[strings.ToLower(m[:at])]) + m[at:]
	})
	var out []Said
	from, word := 0, ""
	take := func(to int, next string, nextFrom int) {
		part := s[from:to]
		r, ok := readOne(part)
		if !ok && len(out) > 0 && strings.Contains(strings.ToLower(part), "one") {
			r, ok = readOne(part + " " + string(out[len(out)-1].Tin.Shape) + " tins") // "and four small ones"
		}
		if ok && !slices.ContainsFunc(out, func(x Said) bool { return r.Again(x.Tin) }) {
			out = append(out, Said{r, from, to, len(out) > 0 && elseWords.MatchString(word)})
		}
		from, word = nextFrom, next
	}
	for _, m := range joins.FindAllStringSubmatchIndex(s, -1) {
		next := ""
		if m[2] >= 0 {
			next = s[m[2]:m[3]]
		}
		take(m[0], next, m[1])
	}
	take(len(s), "", len(s))
	if real := slices.DeleteFunc(slices.Clone(out), func(x Said) bool { return x.Tin.Shape == Free }); len(real) > 0 {
		out = real // the sheet is what a tin stands on
		out[0].Else = false
	}
	for n := len(out) - 2; n >= 0; n-- { // "20 cm or 23 cm round": the word stands at the last
		if x := &out[n]; x.Why == roundOrSquare && out[n+1].Why == "" {
			if out[n+1].Tin.Shape == Square {
				x.Tin = x.Or[0]
			}
			x.Why, x.Or = "", nil
		}
	}
	if len(out) == 0 {
		if r, ok := readOne(s); ok {
			out = append(out, Said{Reading: r, To: len(s)})
		}
	}
	return out
}

// Again reports whether a reading is of a tin named before: of its shape, and of its size or of none.
func (r Reading) Again(t Tin) bool {
	return t.Shape == r.Tin.Shape &&
		(!r.Sized && r.Tin.Count <= 1 || t.Count == max(1, r.Tin.Count) && close(t.Length, r.Tin.Length) && close(t.Width, r.Tin.Width))
}

// Together names tins that are used beside each other, and those that would do instead: "loaf 9x5 in and 4 × loaf 15×8
// cm, or 12 muffin cups". ReadAll reads it back.
func Together(used, instead []Tin) string {
	var out strings.Builder
	for n, t := range used {
		if n > 0 {
			out.WriteString(" and ")
		}
		out.WriteString(t.Words())
	}
	for _, t := range instead {
		out.WriteString(" or " + t.Words())
	}
	return out.String()
}

// Shares is how a batter is parted among tins used beside each other, by what they hold; of all the same where one of
// them has no walls.
func Shares(tins []Tin) []float64 {
	out, sum := make([]float64, len(tins)), 0.0
	for n, t := range tins {
		out[n] = float64(t.Total())
		sum += out[n]
		if out[n] <= 0 {
			for k := range out {
				out[k] = 1 / float64(len(tins))
			}
			return out
		}
	}
	for n := range out {
		out[n] /= sum
	}
	return out
}
