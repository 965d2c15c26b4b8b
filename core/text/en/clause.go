package en

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"kollaris/core/text"
)

// Span is a piece of a text, in bytes.
type Span struct{ From, To int }

// shortened are words whose full stop ends no sentence. Source: practice.
var shortened = set("in ins approx tbsp tbs tsp oz lb lbs min mins hr hrs c f no temp med pkg dia cm mm st e.g i.e ca fl")

// Sentences cuts a text where a sentence ends: at a full stop, a mark of exclamation or question, or a semicolon, that white space and more
// text follow. "1.5", "9 x 5 in. tin" and "180 °C. fan" are whole.
func Sentences(s string) []Span {
	var out []Span
	from := 0
	put := func(to int) {
		if t := trimmed(s, Span{from, to}); t.To > t.From {
			out = append(out, t)
		}
		from = to
	}
	for n := 0; n < len(s); n++ {
		switch s[n] {
		case '\n':
			put(n + 1)
		case ';', '!', '?':
			if n+1 == len(s) || s[n+1] == ' ' {
				put(n + 1)
			}
		case '.':
			if n+1 < len(s) && s[n+1] != ' ' && s[n+1] != '\n' && !strings.HasPrefix(s[n+1:], "”") {
				continue
			}
			rest := strings.TrimLeft(s[n+1:], " ")
			next, _ := utf8.DecodeRuneInString(rest)
			if n > 0 && s[n-1] == '.' && unicode.IsLower(next) { // "170C fan... no, 180C"
				continue
			}
			if rest != "" && !unicode.IsUpper(next) && shortened[lastWord(s[from:n])] && !oven(rest) {
				continue
			}
			put(n + 1)
		}
	}
	put(len(s))
	return out
}

// oven reports whether a text begins with what an oven is set to: "30 mins. 200 C".
func oven(s string) bool {
	n := 0
	for n < len(s) && s[n] >= '0' && s[n] <= '9' {
		n++
	}
	return n == 3
}

// lastWord is the last run of letters and points of a text, in lower case.
func lastWord(s string) string {
	at := len(s)
	for at > 0 && (s[at-1] == '.' || unicode.IsLetter(rune(s[at-1]))) && s[at-1] < utf8.RuneSelf {
		at--
	}
	return strings.ToLower(s[at:])
}

// trimmed is a span without white space at its ends.
func trimmed(s string, at Span) Span {
	piece := s[at.From:at.To]
	left := len(piece) - len(strings.TrimLeftFunc(piece, unicode.IsSpace))
	right := len(piece) - len(strings.TrimRightFunc(piece, unicode.IsSpace))
	if left == len(piece) {
		return Span{at.To, at.To}
	}
	return Span{at.From + left, at.To - right}
}

// The classes that the grammar of clauses asks for.
var (
	aVerb    = lexicon.Class("verb")
	aThing   = lexicon.Class("thing")
	foodVerb = lexicon.Class("foodverb")
	topVerb  = lexicon.Class("topverb")
	itsVerb  = lexicon.Class("thingverb")
	workVerb = lexicon.Class("workverb")
	manner   = lexicon.Class("manner")
	aLead    = lexicon.Class("lead")
	aTin     = lexicon.Class("tin")
	function = lexicon.Class("function")
)

// mostAhead is how many words a clause is looked through for what tells its deed: the rest of a long one is not gone through.
const mostAhead = 90

// lookAhead is how many words after a verb tell whether it is one.
const lookAhead = 3

func head(t []text.Token, most int) []text.Token { return t[:min(len(t), most)] }

// adverbs goes over what says how something is done: "then gently".
func adverbs(t []text.Token) []text.Token {
	for len(t) > 0 && t[0].Is(manner) {
		t = t[1:]
		if len(t) > 0 && t[0].Text == "," {
			t = t[1:]
		}
	}
	return t
}

// opens reports whether words begin with what is to be done. A verb that names a food or a thing as well is one only before an article,
// a place or the like.
func opens(t []text.Token) bool {
	t = adverbs(t)
	if len(t) == 0 {
		return false
	}
	c, after := t[0].Class, head(t[1:], lookAhead)
	follows := func(name string) bool {
		_, ok := sign(name).At(after, 0)
		return ok
	}
	switch {
	case follows("be"): // "thin is right": what is told of
		return false
	case c&aVerb != 0, c&foodVerb != 0 && follows("opens-foodverb"), c&topVerb != 0 && follows("opens-topverb"),
		c&itsVerb != 0 && follows("opens-thingverb"), c&workVerb != 0 && follows("opens-workverb"):
		return true
	}
	return sign("opener").Match(head(t, lookAhead)) || sign("alone").Match(t) || bareBake(t)
}

// opensClause is opens where a clause may begin: a verb before a thing that is worked on counts, too ("spread jam").
func opensClause(t []text.Token, starts bool) bool {
	if opens(t) {
		return true
	}
	t = adverbs(t)
	if len(t) < 2 {
		return false
	}
	after := head(t[1:], lookAhead+1)
	at := func(name string) bool {
		_, ok := sign(name).At(after, 0)
		return ok
	}
	switch {
	case t[0].Is(workVerb) && at("loose-workverb"):
		return true
	case !starts:
		return false
	case t[0].Is(workVerb) && t[1].Kind == text.Word && !t[1].Is(function), t[0].Is(foodVerb) && at("start-foodverb"):
		return true
	}
	return sign("bare-start").Match(t)
}

// bareBake is a bake told by its figures alone: "190C for 20-25 min".
func bareBake(t []text.Token) bool { return sign("bare-bake").Match(head(t, mostAhead)) }

// Opens reports whether a text begins with what is to be done.
func Opens(s string) bool { return opens(Words(s[:min(len(s), mostOpening)])) }

// mostOpening is how far into a text what opens it is looked for, in bytes.
const mostOpening = 200

// Tells reports whether a line of a recipe tells to do something by how it begins: "Toast the nuts", "Then the flour", "In a bowl, mix …", and
// neither "toast crumbs" nor "drizzle". It is stricter than Opens, since a line may as well be a food or a heading.
func Tells(s string) bool {
	t := Words(s[:min(len(s), mostOpening)])
	if len(t) == 0 {
		return false
	}
	if sign("begins-deed").Match(head(t, lookAhead)) {
		return true
	}
	rest := adverbs(t)
	switch {
	case len(rest) == 0:
		return false
	case len(rest) < len(t) && rest[0].Kind == text.Word && (t[0].Text == "then" || t[0].Text == "now" || t[0].Text == "next" || t[0].Text == "meanwhile" || t[0].Text == "finally"):
		return true
	case rest[0].Is(aThing):
		_, ok := sign("tells-after").At(rest, 1)
		return ok
	case rest[0].Is(foodVerb) && len(rest) > 1 && rest[1].Kind != text.Word: // "juice 1 lemon" of a list
		return false
	}
	return opens(rest)
}

// Clauses cuts a sentence of a text where another thing to do begins.
func Clauses(s string, sentence Span) []Span {
	var out []Span
	t := Words(s[sentence.From:sentence.To])
	from := 0 // token
	at := func(n int) int { return sentence.From + t[n].From }
	for n := 1; n < len(t); n++ {
		next, and := joint(t, n)
		if next == 0 || next >= len(t) || !opensClause(t[next:], false) {
			continue
		}
		left := t[from:n]
		if len(left) == 0 || holdsOn(left, t[next:], from == 0, and) {
			continue
		}
		out = append(out, trimmed(s, Span{at(from), sentence.From + t[n-1].To}))
		from = next
		n = next
	}
	if from < len(t) {
		out = append(out, trimmed(s, Span{at(from), sentence.To}))
	}
	return out
}

// joint is the word after what may stand between two clauses, 0 where nothing of that stands at n; and tells that it is "and" or "then" alone.
func joint(t []text.Token, n int) (next int, and bool) {
	is := func(k int, words ...string) bool {
		for _, w := range words {
			if k < len(t) && t[k].Text == w {
				return true
			}
		}
		return false
	}
	switch {
	case is(n, ",", ":"):
		n++
		if is(n, "and", "but") {
			n++
		}
		if is(n, "then", "now", "next", "finally") {
			n++
		}
		return n, false
	case is(n, "and"):
		if is(n+1, "then", "immediately") {
			return n + 2, true
		}
		return n + 1, true
	case is(n, "then"):
		return n + 1, true
	case is(n, "–", "—", "-", "/") && n+1 < len(t) && t[n-1].To < t[n].From && t[n].To < t[n+1].From:
		return n + 1, false
	}
	return 0, false
}

// holdsOn reports whether what follows a joint is one thing with what stands before it.
func holdsOn(left, right []text.Token, starts, and bool) bool {
	goesOn := sign("goes-on").Match(head(right, 1)) || bareBake(right)
	words := 0
	for n := range left {
		if left[n].Kind != text.Mark {
			words++
		}
	}
	switch {
	case sign("cover-only").Match(left): // "cover and leave"
		return true
	case words < 2 && !goesOn && (and || listsVerbs(right)): // "grease and line the tin", "peel, core and dice": one thing
		return true
	case and && words == 2 && !goesOn && !sign("after-it").Match(left): // "peel well and grate"
		return true
	case sign("state-not-deed").Match(head(right, 1)) && endsInResult(left): // "until risen and set"
		return true
	case isIntro(left):
		return true
	case bareBake(right) && sign("untimed-bake").Match(head(left, 1)) && !sign("timed").Match(left): // "bake in a moderate oven, gas mark 4, for 50 minutes"
		return true
	}
	return !opensClause(left, starts) && !leads(left) && !BareTin(left) // no task yet: "with the butter, beat"
}

// listsVerbs reports whether words begin with a verb that another follows: "core and dice the pears".
func listsVerbs(t []text.Token) bool {
	next, _ := joint(t, 1)
	return len(t) > 1 && next > 0 && next < len(t) && opens(t[next:])
}

// endsInResult reports whether words end by saying how it should be: what follows "and" there is no task.
func endsInResult(t []text.Token) bool {
	for n := len(t) - 1; n >= 0 && t[n].Text != ","; n-- {
		if sign("result").Match(t[n : n+1]) {
			return true
		}
	}
	return false
}

// isIntro is a clause that says what the next is for: "To make the dough".
func isIntro(t []text.Token) bool {
	end, ok := sign("intro").At(t, 0)
	if !ok || end >= len(t) || t[len(t)-1].To-t[end].From > longestThing {
		return false
	}
	for _, w := range t[end:] {
		if w.Kind != text.Word {
			return false
		}
	}
	return true
}

// hasLead reports whether words begin with what may stand before a verb: "in a large bowl".
func hasLead(t []text.Token) bool {
	return len(t) > 0 && (t[0].Is(aLead|manner) || sign("leads").Match(head(t, lookAhead)))
}

// isArticle reports whether a word stands before a thing, so that no verb follows it: "in a separate bowl".
func isArticle(t *text.Token) bool { return t.Text == "the" || t.Text == "a" || t.Text == "an" }

// leads reports whether words lead up to what is to be done: "In a large bowl whisk …".
func leads(t []text.Token) bool {
	if !hasLead(t) {
		return false
	}
	for n := range t[:min(len(t), mostAhead)] {
		if n > 0 && !isArticle(&t[n-1]) && opens(t[n:]) {
			return true
		}
	}
	return false
}

// longestCall is how long what a step calls itself may be, in bytes ("Second rise: …"), and longestThing what it is for ("to make the dough").
// Source: practice, the writers of the corpus.
const (
	longestCall  = 28
	longestThing = 24
)

// longestIntro is how long what a sentence is for may be, in bytes, before its comma: "To make the filling, mix".
const longestIntro = 40

// deedAt is the word of a clause at which its deed begins; ok is false where it tells of none.
func deedAt(t []text.Token, starts bool) (n int, ok bool) {
	if opensClause(t, starts) {
		return 0, true
	}
	for k := 1; k < len(t) && t[k].From-t[0].From < longestCall; k++ { // "Tangzhong: whisk …"
		if t[k].Text == ":" && t[0].Kind == text.Word && t[k].From-t[0].From > 2 {
			at, ok := deedAt(t[k+1:], true)
			return k + 1 + at, ok
		}
		if t[k].Kind != text.Word {
			break
		}
	}
	if !hasLead(t) {
		return 0, false
	}
	if end, ok := sign("intro").At(t, 0); ok {
		for k := end; k < len(t) && t[k].From-t[0].From < longestIntro; k++ {
			if t[k].Text == "," {
				at, ok := deedAt(t[k+1:], true)
				return k + 1 + at, ok
			}
		}
	}
	for k := 1; k < len(t) && k < mostAhead; k++ {
		if t[k-1].Kind == text.Mark && t[k-1].Text != "," || isArticle(&t[k-1]) || !opensClause(t[k:], false) {
			continue
		}
		if k+1 < len(t) || t[k-1].Text == "," || sign("before-a-verb").Match(t[k-1:k]) {
			return k, true
		}
	}
	return 0, false
}
