package method

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"kollaris/core/pattern"
)

// span is a piece of a step's text, in bytes.
type span struct{ from, to int }

// abbreviations are words whose full stop ends no sentence.
var abbreviations = pattern.Must(`(?i)\b(?:in|ins|approx|tbsp|tbs|tsp|oz|lb|lbs|min|mins|hr|hrs|c|f|no|temp|med|pkg|dia|cm|mm|st|e\.g|i\.e|ca|fl)\.$`)

// sentences cuts a text where a sentence ends: at a full stop, a mark of exclamation or
// question, or a semicolon, that white space and more text follow. "1.5", "9 x 5 in. tin"
// and "180 °C. fan" are whole.
func sentences(text string) []span {
	var out []span
	from := 0
	put := func(to int) {
		s := trimmed(text, span{from, to})
		if s.to > s.from {
			out = append(out, s)
		}
		from = to
	}
	for n := 0; n < len(text); n++ {
		switch text[n] {
		case '\n':
			put(n + 1)
		case ';', '!', '?':
			if n+1 == len(text) || text[n+1] == ' ' {
				put(n + 1)
			}
		case '.':
			if n+1 < len(text) && text[n+1] != ' ' && text[n+1] != '\n' && !strings.HasPrefix(text[n+1:], "”") {
				continue
			}
			rest := strings.TrimLeft(text[n+1:], " ")
			next, _ := utf8.DecodeRuneInString(rest)
			if rest != "" && abbreviations.MatchString(text[from:n+1]) && !unicode.IsUpper(next) {
				continue
			}
			put(n + 1)
		}
	}
	put(len(text))
	return out
}

// trimmed is a span without white space at its ends.
func trimmed(text string, s span) span {
	piece := text[s.from:s.to]
	left := len(piece) - len(strings.TrimLeftFunc(piece, unicode.IsSpace))
	right := len(piece) - len(strings.TrimRightFunc(piece, unicode.IsSpace))
	if left == len(piece) {
		return span{s.to, s.to}
	}
	return span{s.from + left, s.to - right}
}

// join is what may stand between two clauses.
var join = pattern.Must(`(?i)(?:\s*[,:]\s*(?:and\s+|but\s+)?(?:then\s+|now\s+|next\s+|finally\s+)?|\s+and\s+(?:then\s+|immediately\s+)?|\s+then\s+|\s+[–—-]\s+)`)

// manner are adverbs that may stand before a verb.
const manner = `(?:(?:gently|carefully|quickly|lightly|slowly|gradually|briefly|thoroughly|just|finally|immediately|then|now|next|loosely|well|vigorously|evenly|always|please|generously|meanwhile,?|also)\s+)*`

// doing are the verbs that open a clause; those that are foods or things as well open one
// only where a determiner or a place follows.
var (
	doing = pattern.Must(`(?i)^` + manner + `(add|allow|arrange|bake|beat|blind[- ]bake|bulk(?:[- ](?:ferment|prove|proof|rise))?|autolyse|retard|blend|blitz|boil|break|bring|brush|carry on|check|chill|chop|coat|combine|continue|cook|core|cover|crack|crumble|cube|cut|dampen|decorate|deflate|dice|dimple|dissolve|dollop|ease|egg[- ]?wash|infuse|invert|marinate|nestle|pile|poke|push|reheat|rinse|run|scald|shred|smear|snip|spray|stud|sweat|tuck|twist|unroll|unwrap|whirl|wipe|wring|divide|drain|draw|drizzle|drop|feed|ferment|fill|finish|flatten|flip|fold|form|freeze|fry|gather|grate|grind|halve|heat|incorporate|increase|keep|knead|knock|lay|leave|let|level|lift|loosen|lower|macerate|make|measure|melt|microwave|mist|mix|moisten|pat|peel|pipe|plait|braid|knot|place|pop|pour|pre-?heat|press|prepare|pre-?soak|prick|process|prove|proof|pulse|punch|purée|puree|put|reduce|refrigerate|remove|repeat|reserve|return|roast|rotate|rub|salt (?:the|your|them)|sandwich|scatter|scrape|scoop|score|slash|seal|separate|serve|set|shape|shake|sieve|sift|simmer|slash|slide|smooth|soak|soften|spoon|sprinkle|squash|squeeze|stand|start|steam|steep|stir|stop|store|strain|stretch|swap|swirl|switch|take|tap|tear|test|thaw|thin|tie|tip|toast|toss|transfer|trim|turn|unmould|unmold|use|wait|warm|wash|weigh|whip|whisk|whizz|work|wrap)\b`)
	alike = pattern.Must(`(?i)^` + manner + `(?:(?:butter|cream|flour|oil|zest|juice|glaze|ice|frost|top)\s+(?:butter|margarine|together|the|a|an|it|them|each|your|both|two|half|together|up|and flour|and line|and dust|\d+)\b|(?:dust|grease|line|mash|rest|rise|roll|season|slice|spread|cool)\s+(?:the|a|an|it|them|each|your|in|into|on|onto|over|out|until|for|together|with|to|two|both|half|remaining|and line|and flour|and dust|up|thin|thinly|diagonally|across|crosswise|length(?:ways|wise)|horizontally|evenly|well|fully|completely|\d+))\b|^(?:cool|rest|rise|slice|mash|roll|cream)$`)
	other = pattern.Must(`(?i)^(?:bake|cook|prove|proof|rise|rest|brush|sprinkle|pour|spoon|scrape|leave|chill|knead|cover|turn|tip|put|divide|spread|transfer|shape|roll|set|freeze|cut|wrap|keep|store)\b`)
	// sign is the end of a clause that says how it should be by then; what follows "and" there is no task
	sign = pattern.Must(`(?i)\b(?:until|till|is|are|looks?|feels?|be)\b[^,]*$`)
	both = pattern.Must(`(?i)^(?:set|cool|cold|open|clean|dry|level|smooth|stand|soft)\b`)
)

// opens reports whether a text begins with what is to be done.
func opens(text string) bool {
	text = text[:min(len(text), mostOpening)]
	return doing.MatchString(text) || alike.MatchString(text) || bareBake.MatchString(strings.ToLower(text))
}

// mostOpening is how far into a text what opens it is looked for: the rest of a long one is not gone through at each of its commas.
const mostOpening = 200

// clauses cuts a sentence where another thing to do begins.
func clauses(text string, sentence span) []span {
	var out []span
	from := sentence.from
	for _, j := range join.FindAllStringIndex(text[sentence.from:sentence.to], -1) {
		a, b := sentence.from+j[0], sentence.from+j[1]
		if a <= from || !opens(text[b:sentence.to]) {
			continue
		}
		left := text[from:a]
		words := len(strings.Fields(left))
		andOnly := !strings.ContainsAny(text[a:b], ",:–—-")
		switch {
		case strings.EqualFold(strings.TrimSpace(left), "cover"): // "cover and leave"
			continue
		case words < 2 && !other.MatchString(text[b:sentence.to]): // "grease and line the tin": one thing
			continue
		case andOnly && words == 2 && !other.MatchString(text[b:sentence.to]) && !strings.HasSuffix(strings.ToLower(left), " it"):
			continue // "peel well and grate"
		case both.MatchString(text[b:sentence.to]) && sign.MatchString(left):
			continue // "until risen and set"
		case intro.MatchString(left), !opens(left) && !leads(left) && !bareTin.MatchString(left):
			continue // no task yet: "with the butter, beat"
		}
		out = append(out, trimmed(text, span{from, a}))
		from = b
	}
	return append(out, trimmed(text, span{from, sentence.to}))
}

// bareTin is a tin that is named and nothing more: "20 cm round tin, double lined". It says where all goes.
var bareTin = pattern.Must(`(?i)^(?:(?:in|into|for) )?(?:an? |one |two |the )?(?:[\d.,x×½¼/" -]+(?:cm|inch(?:es)?|in|lb|g|litre|l)?\b[ -]*)?(?:[\pL-]+ ){0,4}?` + tinWords + `(?:,? (?:double[- ]|base[- ]|well[- ])?(?:lined|greased|buttered|floured))*$`)

// lead is what may stand before the verb of a clause.
var lead = pattern.Must(`(?i)^(?:you|i|we|in|into|to|using|with|once|when|while|after|before|as soon as|meanwhile|for|on|at|over|if|by|from|until|next|then|first|lastly|finally|to make|towards|without|now|second|third|final|1st|2nd|the (?:night|evening|day|morning|next|following)|(?:a|one|two|three) (?:day|night|evening|hour)s?|ahead|early|at least|up to)\b`)

// intro is a clause that says what the next is for: "To make the dough".
var intro = pattern.Must(`(?i)^(?:to make|for|to assemble|to finish|to serve) (?:the |an? |up )?[\pL -]{2,24}$`)

// leads reports whether a text leads up to what is to be done: "In a large bowl whisk …".
func leads(text string) bool {
	if !lead.MatchString(text) {
		return false
	}
	fields := strings.Fields(text)
	for n := range fields {
		if n > 0 && opens(strings.Join(fields[n:], " ")) {
			return true
		}
	}
	return false
}

var introLead = pattern.Must(`(?i)^(?:to make|for|to assemble|to finish|to serve) [^,]{2,30},\s*`)

// headed is what a step calls itself: "Tangzhong: whisk …", "Second rise: …".
var headed = pattern.Must(`^[\pL][\pL -]{2,24}:\s+`)

var (
	// article stands before a thing, so that no verb follows it: "half the milk and the rest", "with the whip of the mixer".
	article = pattern.Must(`(?i)\b(?:the|an?) $`)
	// leadsTo stands before a verb that ends the clause: "and leave to rest".
	leadsTo = pattern.Must(`(?i)(?:^|,|\b(?:and|then|to|it|them|dough|batter|let|leave|before|until))\s*$`)
)

// core is a clause without what leads up to its verb, and whether there is one.
func core(clause string) (string, bool) {
	if opens(clause) {
		return clause, true
	}
	if m := headed.FindString(clause); m != "" {
		return core(clause[len(m):])
	}
	if !lead.MatchString(clause) {
		return clause, false
	}
	if m := introLead.FindString(clause); m != "" {
		return core(clause[len(m):])
	}
	at := 0
	for at < len(clause) {
		n := strings.IndexAny(clause[at:], " ")
		if n < 0 {
			break
		}
		at += n + 1
		if opens(clause[at:]) && !article.MatchString(clause[:at]) && (strings.ContainsRune(clause[at:], ' ') || leadsTo.MatchString(clause[:at])) {
			return clause[at:], true
		}
	}
	return clause, false
}
