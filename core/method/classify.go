package method

import (
	"slices"
	"strings"

	"kollaris/core/pattern"
)

// rule names the verb of a clause by its words, in lower case. The first that fits counts. Source:
// practice, the writers of the corpus.
type rule struct {
	verb Verb
	like *pattern.Pattern
	any  []string // of which one stands in whatever fits, so that the rest is passed over fast
}

func like(verb Verb, expr string, any ...string) rule {
	r := rule{verb: verb, like: pattern.Must(expr)}
	for _, words := range any {
		r.any = append(r.any, strings.Fields(words)...)
	}
	return r
}

func (r rule) fits(text string) bool {
	if len(r.any) > 0 && !slices.ContainsFunc(r.any, func(w string) bool { return strings.Contains(text, w) }) {
		return false
	}
	return r.like.MatchString(text)
}

const tinWords = `(?:(?:baking |loaf |cake |bread |muffin |bundt |roasting |spring-?form |sandwich |square |round |deep )*(?:tins?|pans?|trays?|sheets?|moulds?|molds?|dish(?:es)?|cases?|liners?|ramekins?|stone|cups))`

// rules are tried in order on the clause from its verb on.
var rules = []rule{
	like(Heat, `^(?:pre-?heat|heat it to|(?:heat|warm|set|switch on|turn on|turn)\b (?:up |on )?(?:the |your |an )?oven)\b`),
	like(Heat, `^oven\b|\boven temperature\b`, "oven"),
	like(Heat, `\b(?:stone|steel)\b.*\boven\b`),
	like(Heat, `\b(?:baking sheet|baking tray|stone|steel)\b.*\b(?:hot|heat up|in the oven to heat)\b`, "sheet tray stone steel"),
	like(BakeBlind, `\bbake blind\b|\bblind[- ]bake\b|\bbaking beans\b`, "blind beans"),
	like(Line, `^(?:grease|line|butter|oil|flour|dust|spray|coat)\b.*\b`+tinWords+`\b`, "grease line butter oil flour dust spray coat"),
	like(Line, `^(?:place|put|arrange|drop|pop|set) .*\b(?:paper|muffin|cupcake|foil) (?:cases|liners|cups)\b`),
	like(Line, `^(?:prepare|line)\b.*\b(?:`+tinWords+`|paper|parchment)\b`),
	like(Bake, `^bake\b.*\b(?:minutes?|mins?|hours?)\b.*\b(?:foil|tent)`, "foil tent"),
	like(Tent, `\b(?:foil|tent)\b`, "foil tent"),
	like(Turn, `^(?:turn|rotate|swap|flip)\b.*\b(?:round|around|over|sheets?|trays?|half-?way|shelves)\b`),
	like(Bake, `^(?:reduce|lower|increase|raise|turn down|turn (?:the )?(?:oven|heat)|drop)\b.*(?:\boven\b|\bheat\b|\btemperature\b|°|\d{3})`),
	like(Simmer, `^cook\b.*\b(?:gently|over|in a (?:small )?(?:pan|saucepan)|until (?:soft|tender|thick))\b`),
	like(Toast, `^roast\b`),
	like(Bake, `^(?:bake|cook)\b.*(?:\bminutes?|\bmins?\b|\bhours?|\bhrs?\b|\boven\b|°|\buntil\b|\d{3})`),
	like(Bake, `^bake\b`),
	like(Bake, `^(?:put|place|slide|pop|return|transfer|get)\b.*\boven\b|\binto the (?:hot |pre-?heated )?oven\b`, "oven"),
	like(Bake, `^(?:microwave)\b.*(?:\bminutes?|\bmins?\b|\bseconds?)`),
	like(Soak, `^(?:soak|steep|macerate|pre-?soak)\b`),
	like(Test, `^(?:test|check)\b|\b(?:skewer|toothpick|cocktail stick)\b`, "test check skewer toothpick stick"),
	like(CoolTin, `\b(?:cool|cold|leave|stand|rest|wait)\b.*\bin (?:(?:the|its|their) )?(?:`+tinWords+`)`, "cool cold leave stand rest wait"),
	like(CoolTin, `^(?:turn|take|lift|tip)\b.*\bout\b.*\bafter\b`),
	like(CoolTin, `^(?:leave|let|cool)\b.*\bon the (?:sheet|tray|baking sheet)\b`),
	like(Cool, `\bwire rack\b|\bon(?:to)? a rack\b|^(?:turn|take|lift|tip)\b.*\bout\b(?:.*\b(?:tin|pan|rack|cool)\b|\s+after\b|$)|^un-?mou?ld\b|^remove (?:from|it from|them from) the (?:tin|pan|oven)`, "rack out mould mold remove"),
	like(Cool, `^(?:leave|let|allow|set aside)\b.*\b(?:cool|cold)\b|^cool\b`),
	like(Bloom, `\byeast\b.*\b(?:froth|foam|bubbl|activate|dissolve|warm)|\b(?:froth|foamy|bubbly)\b.*\byeast|^(?:dissolve|crumble|sprinkle|activate)\b.*\byeast\b`, "yeast"),
	like(KnockBack, `\b(?:knock (?:it |the dough )?back|punch (?:it |the dough )?down|deflate|knock the air)\b`, "knock punch deflate"),
	like(Prove, `\b(?:prove|proof|proving|rise|rising|ferment|doubled|double in (?:size|bulk)|puffy)\b`, "prov proof ris ferment double puffy"),
	like(Freeze, `^freeze\b.*\b(?:slices?|cake|bread|loaf|wrapped|months?|paper)\b|\bfreezes? (?:well|for)\b`, "freez"),
	like(ChillFat, `\b(?:butter|fat|lard|block)\b.*\bfreezer\b|^freeze\b.*\b(?:butter|fat|lard|block)\b`, "freez"),
	like(Chill, `\b(?:chill|refrigerate|fridge|refrigerator|freezer)\b`, "chill refrigerat fridge freezer"),
	like(Separate, `^(?:separate|crack|break)\b.*\b(?:yolks?|whites?|eggs?)\b.*(?:\byolk|\bwhite|$)`, "yolk white egg"),
	like(Sour, `^(?:stir|mix|add)\b.*\b(?:lemon juice|vinegar)\b.*\b(?:in)?to\b.*\b(?:drink|milk)\b(?: |,|$)`, "lemon vinegar"),
	like(Simmer, `^(?:whisk|stir|beat|mix)\b.*\b(?:in a (?:small |heavy )?(?:sauce)?pan|over (?:a )?(?:low|medium|gentle) heat)\b`, "pan heat"),
	like(Foam, `^(?:whisk|whip|beat)\b.*\b(?:peaks?|stiff|stiffly|foamy?|thick(?:ened)?(?:,)? (?:and |creamy )?(?:pale|creamy|fluffy|light)|pale and (?:thick|fluffy|doubled)|until (?:very )?thick|tripled|doubled in volume|ribbon|trail|mousse)\b`, "peak stiff foam thick pale tripled doubled ribbon trail mousse"),
	like(Foam, `^whip\b`),
	like(Cream, `^cream\b`),
	like(Cream, `^(?:beat|whisk|work|mix)\b (?:together )?(?:the |your |plant |unsalted |salted |soft(?:ened)? |\d+ ?g )*(?:butter|margarine|fat|spread|block|shortening)\b.*\b(?:sugar|sweetener|erythritol|allulose|fluffy|creamy|pale|light)\b`),
	like(RubIn, `^rub\b|^(?:cut|work) (?:in )?(?:the |cold |cubed |plant )*(?:butter|fat|lard|margarine|block)\b|\bbreadcrumbs\b`, "rub cut work breadcrumbs"),
	like(Fold, `^fold\b`),
	like(Sift, `^(?:sift|sieve)\b`),
	like(Knead, `\bknead\b`, "knead"),
	like(Toast, `^toast\b|\btoast(?:ed)? (?:the )?(?:nuts|seeds|almonds|hazelnuts|walnuts)`, "toast"),
	like(Melt, `^melt\b`),
	like(Soften, `^soften\b|\bcome to room temperature\b`, "soften room"),
	like(Soak, `^(?:soak|steep|macerate|pre-?soak)\b|\b(?:soak|steep|plump)\b`, "soak steep macerat plump"),
	like(Simmer, `^(?:simmer|boil|scald|heat|warm|bring\b.*\bboil|cook|fry|steam)\b`),
	like(Gel, `\b(?:to|into|until it is|until it forms|like) (?:a )?(?:thick )?gel\b|\bto gel\b|\bgels\b`, "gel"),
	like(Grate, `^(?:grate|zest)\b`),
	like(Mash, `^mash\b`),
	like(Drain, `\bto drain\b`),
	like(Drain, `^(?:drain|strain)\b`),
	like(Mix, `^(?:loosen|let down|slacken|thin)\b.*\bwith\b`),
	like(Mix, `^salt (?:the|your|them|it)\b`),
	like(Squeeze, `^(?:squeeze|juice)\b`),
	like(Fill, `^(?:pour|spoon|scrape|spread|put|tip|transfer|slide|ease|ladle|invert|pile|nestle|tuck|turn|divide|scoop|press|place|set|arrange|drop|fill|pop|lay|lift|pack|pipe|ladle|distribute)\b.*\b(?:into|in|between|among|onto|on|to|over)\b.*\b`+tinWords+`\b`),
	like(Fill, `^(?:pour|spread|spoon|scrape|tip)\b.*\b(?:over|into|onto) (?:the )?(?:hot |cold |baked |cooled )?(?:base|crust|pastry case|case)\b`),
	like(Fill, `^fill\b.*\b(?:liners|cups|cases|moulds?|molds?|tins?)\b`),
	like(Syrup, `\bsyrup\b.*\b(?:over|brush|soak)|^(?:pour|spoon|drizzle|brush)\b.*\b(?:syrup|drizzle)\b`, "syrup drizzle"),
	like(Top, `^(?:sprinkle|scatter|dust)\b`),
	like(Ice, `^(?:fill|spread) with\b|^spread\b.*\b(?:jam|curd|marmalade)\b`),
	like(Ice, `^(?:ice|frost)\b|\b(?:icing|frosting|glaze|filling|buttercream|ganache)\b.*\b(?:over|on top|spread|between|on the)|^(?:sandwich|pipe)\b|^(?:spread|pour|drizzle|spoon)\b.*\b(?:icing|frosting|glaze|buttercream|ganache|filling)\b`, "ic frosting glaze filling buttercream ganache sandwich pipe"),
	like(Ice, `^(?:spread|pour|drizzle|spoon) it (?:on|over)\b|^(?:spread|pour|drizzle|spoon)\b.*\b(?:cooled|cold) (?:cake|loaf|bread|squares|buns|biscuits)`),
	like(Slice, `^(?:slice|cut)\b.*\b(?:slices|squares|bars|wedges|serve|before serving|fingers|pieces to serve)\b|^slice\b`),
	like(Shape, `^(?:shape|form|roll|pat|flatten|plait|braid|divide|cut|stamp|press|stretch)\b.*\b(?:rounds?|balls?|rolls?|pieces|log|loaf|loaves|sausage|thick|dough|scones?|biscuits?|cookies|out|together|strips?|cm|inch|circles?|wedges|disc|buns?)\b`),
	like(Shape, `^roll\b|^press\b.*\b(?:hollow|dent|well|thumb)\b`),
	like(Shape, `^divide\b.*\b(?:in|into) (?:\d+|two|three|four|six|eight|half|equal)|^cut\b.*\b(?:cross|slashes|slits)\b|^(?:knot|slash)\b|^roll (?:thin|thinly|up)\b`),
	like(Shape, `^(?:shape|roll out|knot|slash|flatten|plait|braid|slash|score|prick)\b`),
	like(Brush, `^(?:brush|glaze|egg[- ]?wash|mist)\b`),
	like(Fill, `^(?:smooth|level|tap)\b`),
	like(Fill, `^(?:drop|scoop|spoon|pipe)\b.*\b(?:spoonfuls|heaps|mounds|tablespoons?|apart|rounds)\b`),
	like(Top, `^(?:sprinkle|scatter|drizzle|top|dust|decorate|finish|press|arrange|dot|crumble)\b`),
	like(Wrap, `^wrap\b`),
	like(Mature, `\bmature\b`, "matur"),
	like(Feed, `^feed\b`),
	like(Thaw, `^(?:thaw|defrost)\b`),
	like(Weigh, `^(?:keep back|hold back|reserve|set aside (?:a|half|some|one))\b`),
	like(Store, `^(?:store|keep)\b|\bairtight\b|\bkeeps?\b.*\b(?:days?|weeks?|tin)\b`, "store keep airtight"),
	like(Rest, `^(?:rest|leave|let|stand|set aside|allow|put aside|wait|cover)\b`),
	like(Cut, `^(?:chop|cut|dice|cube|peel|core|slice|halve|tear|trim|break|crack)\b`),
	like(Blend, `^(?:blend|blitz|process|pulse|whizz|pur[ée]e|grind)\b`),
	like(Weigh, `^(?:weigh|measure|reserve)\b`),
	like(Beat, `^(?:beat|whisk)\b`),
	like(Mix, `^(?:mix|stir|combine|add|work|incorporate|pour|tip|toss|put|place|make|bring|dissolve|coat|swirl|drop|crumble|spoon|sprinkle|return|use|continue|repeat|gather|turn|shake|thin|warm|divide|dip|cook)\b`),
	like(Slice, `^serve\b`),
}

var adverbs = pattern.Must(`^` + manner)

// bareBake is a bake told by its figures alone: "190C for 20-25 min".
var bareBake = pattern.Must(`^(?:at )?(?:gas (?:mark )?\d|\d{3} ?(?:°|c\b|f\b|degrees)).*\bmin`)

// forbids tells a clause that says what not to do, or what only under a condition.
var forbids = pattern.Must(`(?i)^(?:do not|don't|don’t|never|avoid|try not|take care|be careful|without)\b|^into the oven at once\b|\bonly if\b`)

// verbOf names what a clause does; ok is false where it says nothing to do.
func verbOf(clause string) (Verb, bool) {
	if forbids.MatchString(clause) {
		return Remark, false
	}
	text, does := core(clause)
	text = adverbs.ReplaceAllString(strings.ToLower(text), "")
	if !does && bareBake.MatchString(text) {
		return Bake, true
	}
	for _, r := range rules {
		if (does || r.verb == Heat || r.verb == Bake || r.verb == Store) && r.fits(text) {
			return r.verb, true
		}
	}
	return Remark, false
}
