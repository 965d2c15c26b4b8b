package reader

import (
	"strings"

	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

// amountFirst turns "Maida - 1 1/2 cups" and "Plain flour 200 g" round, where the
// name is one the larder knows.
func (r *reading) amountFirst(s string) string {
	if _, n, err := measure.ScanQuantity(s); n > 0 || err != nil {
		return s // the amount is first
	}
	if m := partsOf.FindStringSubmatch(s); m != nil {
		return m[2] + " egg " + m[1] // "whites of 2 eggs"
	}
	if m := nameCount.FindStringSubmatch(s); m != nil { // "eggs 3"
		if match, ok := r.find(m[1]); ok && match.Confidence >= 0.9 {
			if _, ok := r.pieceWeight(r.foods.Get(match.ID), measure.Unit{}, ""); ok {
				return m[2] + " " + m[1]
			}
		}
	}
	for _, form := range []*pattern.Pattern{nameFirst, nameOnly, nameTimes} {
		m := form.FindStringSubmatch(s)
		if m == nil {
			continue
		}
		if match, ok := r.find(m[1]); ok && match.Confidence >= 0.6 {
			amount, note, _ := strings.Cut(m[2], ",")
			q, n, err := measure.ScanQuantity(amount)
			if err != nil || n == 0 || q.IsZero() {
				return s
			}
			_, k := measure.ScanUnit(amount[n:])
			turned := amount[:n+k] + " " + m[1] + " " + strings.TrimSpace(amount[n+k:])
			if note != "" {
				turned += "," + note
			}
			return turned
		}
	}
	return s
}

// packSize reads "(8 oz) pack" or "8-oz package" after a count.
func (r *reading) packSize(l *recipe.Line, rest string, unit *measure.Unit) string {
	t := strings.TrimLeft(rest, " ")
	inner, after := "", ""
	if strings.HasPrefix(t, "(") {
		if end := strings.Index(t, ")"); end > 0 {
			inner, after = t[1:end], t[end+1:]
			if pack, k := measure.ScanUnit(after); pack.Kind == measure.Piece {
				after = after[k:]
			} else {
				return rest
			}
		}
	} else if q, k, err := measure.ScanQuantity(t); err == nil && k > 0 && len(t) < len(rest) {
		u, j := measure.ScanUnit(strings.TrimLeft(t[k:], "- "))
		skip := len(t[k:]) - len(strings.TrimLeft(t[k:], "- "))
		if u.Kind == measure.Mass || u.ID == "fl oz" || u.ID == "ml" {
			if pack, m := measure.ScanUnit(t[k+skip+j:]); pack.Kind == measure.Piece {
				l.Amount, *unit = q.Scale(l.Amount.Mid()), u
				return t[k+skip+j+m:]
			}
		}
	}
	if inner == "" {
		return rest
	}
	q, k, err := measure.ScanQuantity(about.ReplaceAllString(inner, ""))
	if err != nil || k == 0 {
		return rest
	}
	u, j := measure.ScanUnit(strings.TrimLeft(about.ReplaceAllString(inner, "")[k:], "- "))
	if j == 0 || u.Kind == measure.Piece {
		return rest
	}
	l.Amount, *unit = q.Scale(l.Amount.Mid()), u
	return after
}

// writtenAmounts are amounts beside the first one.
type writtenAmounts struct {
	grams  float64 // a second amount by weight, of the whole line
	ml     float64 // a second amount by volume
	plusML float64 // added by "plus 2 tbsp"
	plusG  float64
	heaped bool // heaped or rounded spoons
	words  string
}

// secondAmount reads "plus 2 tbsp", "/ 250 g", "(340 g)", "or 250 g" after the first amount.
func (r *reading) secondAmount(l *recipe.Line, rest string, unit measure.Unit, w *writtenAmounts) string {
	read := func(s string) (measure.Quantity, measure.Unit, int) {
		lead := len(s) - len(about.ReplaceAllString(strings.TrimLeft(s, " "), ""))
		q, k, err := measure.ScanQuantity(s[lead:])
		if err != nil || k == 0 {
			return q, measure.Unit{}, 0
		}
		u, j := measure.ScanUnit(s[lead+k:])
		if j == 0 || u.Kind == measure.Piece {
			return q, measure.Unit{}, 0
		}
		return q, u, lead + k + j
	}
	if m := plusTail.FindString(rest); m != "" && unit.Kind != measure.NoUnit {
		if q, u, k := read(rest[len(m):]); k > 0 {
			w.plusG, w.plusML = q.Mid()*massOf(u), q.Mid()*float64(r.opt.Kitchen.ML(u))
			w.words = strings.TrimSpace(rest[:len(m)+k])
			rest = rest[len(m)+k:]
		}
	}
	if q, u, k := read(rest); k > 0 && unit.Kind == measure.Mass && u.Kind == measure.Mass && w.words == "" &&
		u.Factor < unit.Factor { // "1 lb 2 oz"
		w.plusG, w.words = q.Mid()*u.Factor, strings.TrimSpace(rest[:k])
		rest = rest[k:]
	}
	if at := plusEnd.FindStringSubmatchIndex(rest); at != nil && unit.Kind != measure.NoUnit &&
		w.words == "" { // "1/2 cup milk + 2 tbsp"
		if q, u, k := read(rest[at[2]:]); k > 0 && strings.TrimSpace(rest[at[2]+k:]) == "" {
			w.plusG, w.plusML = q.Mid()*massOf(u), q.Mid()*float64(r.opt.Kitchen.ML(u))
			w.words = strings.TrimSpace(rest[at[0]:])
			rest = rest[:at[0]]
		}
	}
	if m := slashTail.FindString(rest); m != "" {
		if q, u, k := read(rest[len(m):]); k > 0 {
			w.grams, w.ml = q.Mid()*massOf(u), q.Mid()*float64(r.opt.Kitchen.ML(u))
			rest = rest[len(m)+k:]
		}
	}
	for _, m := range parens.FindAllStringSubmatchIndex(rest, -1) {
		inner := rest[m[2]:m[3]]
		if !l.Amount.IsZero() && unit.Kind == measure.NoUnit && madeOf.MatchString(inner) {
			continue // "2 flax eggs (2 tbsp ground flax + 6 tbsp water)": what it is made of
		}
		for _, part := range amountSplit.Split(unitSlash.ReplaceAllString(inner, "$1; $2"), -1) {
			q, u, k := read(strings.TrimSpace(part))
			if k == 0 || strings.Contains(strings.ToLower(inner), "each") {
				continue
			}
			if u.Kind == measure.Mass {
				w.grams = q.Mid() * massOf(u)
			} else {
				w.ml = q.Mid() * float64(r.opt.Kitchen.ML(u))
			}
		}
	}
	if m := packOf.FindString(rest); m != "" { // "1 sachet (16 g) of baking powder"
		rest = rest[len(m):]
	}
	return rest
}

var packOf = pattern.Must(`^\s*\([^()]*\)\s*of\s+`)

var madeOf = pattern.Must(`(?i)\s(?:\+|plus|and|&|in)\s+(?:about )?[\d½¼¾⅓⅔]`)

// isAmount reports whether s is an amount and a unit and nothing else.
func isAmount(s string) bool {
	s = about.ReplaceAllString(strings.TrimSpace(s), "")
	_, n, err := measure.ScanQuantity(s)
	if err != nil || n == 0 {
		return false
	}
	u, k := measure.ScanUnit(s[n:])
	return k > 0 && u.Kind != measure.Piece && strings.TrimSpace(s[n+k:]) == ""
}

func massOf(u measure.Unit) float64 {
	if u.Kind == measure.Mass {
		return u.Factor
	}
	return 0
}
