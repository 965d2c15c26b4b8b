package method

import (
	"slices"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// mention is where a clause speaks of lines.
type mention struct {
	from, to int // bytes of the text, with what stands before the name and belongs to it
	state    int // where the words for its state begin: "melted"
	name     int // where the name itself begins
	lines    []recipe.LineID
	wide     []recipe.LineID // that its name may mean in any part
	share    float64         // of each, 0 where the text gives none
	grams    float64         // or so much of it
	rest     bool            // what is left of them
	vague    bool            // the share is a word like "most": what the task takes of it tells how much
	set      string          // dry, wet or all, where it is no name
	part     bool            // of an egg: the yolk or the white
}

// word is a word of a text in the larder's normal form.
type word struct {
	from, to int
	norm     string
}

var wordRun = pattern.Must(`\pL[\pL\pM]*(?:['’](?:s|t|re|ll)\b)?|\d+`)

func words(text string) []word {
	var out []word
	for _, at := range wordRun.FindAllStringIndex(text, -1) {
		if n := larder.Normal(text[at[0]:at[1]]); n != "" && !strings.Contains(n, " ") {
			out = append(out, word{at[0], at[1], n})
		}
	}
	return out
}

// state are words that say in what state a food is, beside its name.
var state = pattern.Must(`(?i)^(?:melted|softened|soft|softened|cooled|cold|warm|warmed|hot|lukewarm|tepid|cubed|diced|grated|chopped|sliced|mashed|beaten|sifted|toasted|soaked|drained|squeezed|dry|fresh|ripe|prepared|browned|creamed|whisked|whipped|peeled|ground|room-temperature|chilled|frozen|runny|liquid|dissolved|frothy|roasted|crushed|reserved)$`)

// names are the ways in which a recipe's method may name its lines: runs of normal words.
type names struct {
	of   map[string][]recipe.LineID
	kind map[string][]recipe.LineID // by a word for their kind, where none is called so
	long int
	r    *recipe.Recipe
	l    *larder.Larder
}

// compound are ends of names by which a method names the whole: of blackberries, of blackcurrants.
var compound = []string{"berry", "currant"}

// heads are words that name a food by a part of its name or another word for it.
var heads = map[string][]string{
	"baking soda":   {"soda", "bicarb", "bicarbonate", "bicarbonate of soda", "baking soda", "bicarbonate soda"},
	"baking powder": {"powder", "baking powder"},
}

func namesOf(r *recipe.Recipe, l *larder.Larder) names {
	n := names{of: map[string][]recipe.LineID{}, kind: map[string][]recipe.LineID{}, r: r, l: l}
	for _, line := range r.Lines {
		seen := map[string]bool{}
		put := func(name string) {
			name = strings.TrimSpace(name)
			if name == "" || seen[name] {
				return
			}
			seen[name] = true
			n.of[name] = append(n.of[name], line.ID)
			n.long = max(n.long, strings.Count(name, " ")+1)
		}
		for _, phrase := range []string{line.Phrase, line.Name} {
			ws := strings.Fields(larder.Normal(phrase))
			for from := range ws { // every tail of the name: "unsalted butter", "butter"
				tail := ws[from:]
				if len(tail) == 1 && weak[tail[0]] {
					continue
				}
				put(strings.Join(tail, " "))
			}
			for _, of := range compound {
				if last := len(ws) - 1; last >= 0 && ws[last] != of && strings.HasSuffix(ws[last], of) && !slices.Contains(n.kind[of], line.ID) {
					n.kind[of] = append(n.kind[of], line.ID) // "fold in the berries"
				}
			}
			for k, w := range ws { // "zest of 2 lemons": the zest
				if w == "white" && k+1 < len(ws) && ws[k+1] != "of" && ws[k+1] != "from" {
					continue // of vinegar, sugar or chocolate, not of egg
				}
				if w == "zest" || w == "juice" || w == "rind" || w == "yolk" || w == "white" {
					put(w)
					if k > 0 {
						put(ws[k-1] + " " + w)
					}
				}
			}
		}
		for _, w := range strings.Fields(larder.Normal(line.Phrase)) { // "vanilla" of vanilla extract, "pumpkin" of pumpkin purée
			if !seen[w] && !describes[w] && !weak[w] && len(w) > 2 && !slices.Contains(n.kind[w], line.ID) {
				n.kind[w] = append(n.kind[w], line.ID)
			}
		}
		i := l.Get(line.Ingredient)
		if i == nil {
			continue
		}
		for name, others := range heads {
			if string(i.ID) == strings.ReplaceAll(name, " ", "-") {
				for _, o := range others {
					put(o)
				}
			}
		}
		for _, w := range kinds(i) {
			if !seen[w] && !slices.Contains(n.kind[w], line.ID) {
				n.kind[w] = append(n.kind[w], line.ID)
				n.long = max(n.long, strings.Count(w, " ")+1)
			}
		}
	}
	return n
}

// classes are words that mean all of their kind, though one line is called so: "work in the fruit" where there is fruit peel, too.
var classes = map[string]bool{"fruit": true, "nut": true, "seed": true, "spice": true, "berry": true, "herb": true}

// merged gives all of two lists of lines, each once.
func merged(a, b []recipe.LineID) []recipe.LineID {
	out := slices.Clone(a)
	for _, id := range b {
		if !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	return out
}

// weak are last words of names that say too little by themselves.
var weak = map[string]bool{"mix": true, "blend": true, "piece": true, "cup": true, "tin": true, "of": true, "one": true, "whole": true}

// describes are words of names that say what sort it is and never stand for it.
var describes = map[string]bool{}

func init() {
	for _, w := range strings.Fields("ground plain white brown dark light fine self raising rising purpose strong bread caster granulated icing " +
		"powder baking soft large medium small fresh dried whole unsalted salted extra virgin double single heavy ripe raw free range quick " +
		"instant active dry mixed hot cold warm rolled natural runny clear golden pure good quality sea table kosher all rich lean low full " +
		"fat semi skimmed unsweetened sweetened toasted chopped grated and for the with about plus serve taste") {
		describes[w] = true
	}
}

// kinds are the words for an ingredient's kind, by which a method often names it.
func kinds(i *larder.Ingredient) []string {
	switch {
	case i.Origin == "egg" && strings.Contains(string(i.ID), "white"):
		return []string{"white", "egg white"}
	case i.Origin == "egg" && strings.Contains(string(i.ID), "yolk"):
		return []string{"yolk", "egg yolk"}
	case i.Family == larder.FamilyEgg:
		return []string{"egg", "yolk", "white", "egg yolk", "egg white"}
	case i.IsBase():
		return []string{"flour"}
	case i.Family == larder.FamilyNut:
		return []string{"nut"}
	case i.Family == larder.FamilySeed:
		return []string{"seed"}
	case i.Family == larder.FamilyDriedFruit:
		return []string{"fruit", "dried fruit"}
	case i.Family == larder.FamilySpice:
		return []string{"spice"}
	case i.Family == larder.FamilyHerb:
		return []string{"herb"}
	case i.Family == larder.FamilyOil:
		return []string{"oil"}
	case i.Family == larder.FamilySolidFat:
		return []string{"fat"}
	case i.Family == larder.FamilyYeast:
		return []string{"yeast"}
	case i.Family == larder.FamilySalt:
		return []string{"salt"}
	case i.Shelf.Texture == "fat":
		return []string{"fat"}
	case i.Family == larder.FamilySugar && i.Facts[larder.Water] < 15:
		return []string{"sugar"}
	case i.Family == larder.FamilySugar:
		return []string{"syrup"}
	}
	return nil
}

var (
	sets = pattern.Must(`(?i)\b(?:(?:all|rest) (?:of )?(?:the )?|the (?:rest of the |remaining |other |sifted )?|remaining |other )?(dry|wet|liquid)\s+(?:ingredients|things|mix(?:ture)?|ones|stuff|bits|goods)\b|\bthe (dry|wet)\b|\b(dry|wet) (?:into|to|in) (?:the )?(?:dry|wet)\b|\b(?:mix|whisk|add|sift|combine|stir|fold|beat|blend)(?: in| together| up)?(?: all)? (dry|wet)\b`)
	all  = pattern.Must(`(?i)\b(?:everything|all (?:of )?(?:the )?(?:other |remaining )?ingredients|all (?:the )?(?:icing|cake|filling|dough|topping|glaze) ingredients|(?:the )?(?:remaining|other|rest of the) ingredients|the (?:[\pL]+ )?ingredients|all together|it all|all (?:but|except|apart from|bar)|in the order (?:listed|given|written))\b`)
	// allInto is everything, where it goes somewhere: "put all into the pan".
	allInto = pattern.Must(`(?i)\b(all) in(?:to)? (?:the|a|an|your)\b`)

	// before is what may stand before a name and says how much of it
	before = pattern.Must(`(?i)^(?:(?:about |roughly )?(half|a half|one half|a third|one third|two[- ]thirds|three[- ]quarters|a quarter|one quarter|most|some|a little|a few|a handful|(?:a )?(?:tiny |good |generous )?(?:pinch|splash|dash|drop|spoonful|sprinkle|drizzle)|one|the rest|the remaining|remaining|rest|the last|the other half|another third|the other|1/2|½|1/3|⅓|2/3|⅔|3/4|¾|1/4|¼)(?: (?:of )?(?:the |your )?|\s+)|(\d+(?:[.,]\d+)?(?: ?[½¼¾⅓⅔]| \d/\d)?|\d/\d|[½¼¾⅓⅔])\s*(g|ml|tbsp|tsp|tablespoons?|teaspoons?|cups?)\s+(?:of )?(?:the )?|(one|two|three|four|five|six|\d) of (?:the|your) |(?:all (?:of )?)?(?:the|your|that) )$`)
)

var shares = map[string]float64{ // of a line. Source: what the words say; "most" and "some" practice
	"half": 0.5, "a half": 0.5, "one half": 0.5, "1/2": 0.5, "½": 0.5, "a third": 1. / 3, "one third": 1. / 3, "1/3": 1. / 3, "⅓": 1. / 3,
	"another third": 1. / 3, "two thirds": 2. / 3, "two-thirds": 2. / 3, "2/3": 2. / 3, "⅔": 2. / 3, "three quarters": 0.75, "three-quarters": 0.75,
	"3/4": 0.75, "¾": 0.75, "a quarter": 0.25, "one quarter": 0.25, "1/4": 0.25, "¼": 0.25, "most": 0.75, "some": 0.25, "a little": 0.1,
	"a few": 0.1, "a handful": 0.1,
}

// vague are shares that no figure stands behind.
var vague = map[string]bool{"most": true, "some": true, "a little": true, "a few": true, "a handful": true}

// pinchOf is a little that no scale shows, and aPinch the share of a line that it is taken for. Source:
// practice, half a gram of a few spoons.
var pinchOf = pattern.Must(`(?:pinch|splash|dash|drop|spoonful|sprinkle|drizzle)$`)

const aPinch = 0.02

// mentions finds what a clause of a part speaks of, in order.
func (n *names) mentions(text string, part string) []mention { return n.within(n.all(text), part) }

// within takes of several lines of a name those of the part.
func (n *names) within(ms []mention, part string) []mention {
	for k := range ms {
		ms[k].wide = ms[k].lines
		ms[k].lines = n.narrow(ms[k].lines, part)
	}
	return ms
}

// all finds what a text speaks of, whatever the part.
func (n *names) all(text string) []mention {
	var out []mention
	ws := words(text)
	taken := make([]bool, len(text)+1)
	for k := 0; k < len(ws); k++ {
		var ids []recipe.LineID
		span := 0
		for run := min(n.long, len(ws)-k); run > 0 && ids == nil; run-- {
			var key []string
			for _, w := range ws[k : k+run] {
				key = append(key, w.norm)
			}
			if apart(text[ws[k].from:ws[k+run-1].to]) {
				continue
			}
			name := strings.Join(key, " ")
			if ids, span = n.of[name], run; ids == nil || classes[name] {
				ids = merged(ids, n.kind[name])
			}
		}
		if ids == nil || n.means(text, ws, k, span) {
			continue
		}
		m := mention{from: ws[k].from, name: ws[k].from, to: ws[k+span-1].to, lines: ids}
		last := ws[k+span-1].norm
		if last == "egg" && k+span < len(ws) && ws[k+span].norm == "wash" { // the egg that is for it
			m.to, m.lines = ws[k+span].to, n.forWash()
		}
		m.part = span <= 2 && (last == "yolk" || last == "white") && n.wholeEgg(ids)
		n.quantify(text, &m, ws, k)
		for b := m.from; b < m.to; b++ {
			taken[b] = true
		}
		out = append(out, m)
		k += span - 1
	}
	low := strings.ToLower(text)
	if m := n.ofPart(low); m.set != "" && !taken[m.from] {
		out = append(out, m)
	}
	if !strings.Contains(low, "dry") && !strings.Contains(low, "wet") && !strings.Contains(low, "liquid") &&
		!strings.Contains(low, "all") && !strings.Contains(low, "everything") && !strings.Contains(low, "ingredients") && !strings.Contains(low, "in the order") {
		return out
	}
	for _, at := range sets.FindAllStringSubmatchIndex(text, -1) {
		for g := 1; g <= 4; g++ {
			if at[2*g] >= 0 && !taken[at[2*g]] {
				if g == 4 { // "mix dry": the verb is no part of the name, and "ingredients" is
					at[0] = at[8]
					if rest := strings.TrimPrefix(low[at[1]:], " "); strings.HasPrefix(rest, "ingredients") {
						at[1] += len(" ingredients")
					}
				}
				kind := low[at[2*g]:at[2*g+1]]
				if kind == "liquid" {
					kind = "wet"
				}
				out = append(out, mention{from: at[0], name: at[0], to: at[1], set: kind})
				for b := at[0]; b < at[1]; b++ {
					taken[b] = true
				}
				break
			}
		}
	}
	everything := all.FindAllStringIndex(text, -1)
	for _, at := range allInto.FindAllStringSubmatchIndex(text, -1) {
		everything = append(everything, at[2:4])
	}
	for _, at := range everything {
		if !taken[at[0]] && !taken[at[1]-1] {
			out = append(out, mention{from: at[0], name: at[0], to: at[1], set: "all"})
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].from < out[b].from })
	return out
}

// makesPart begins a clause that makes a part of the recipe: "mix the sponge", "cook tangzhong". Source: practice.
var makesPart = en.SignOf("makes-part")

// withPart stands before what is put to something, not made.
var withPart = en.SignOf("with-part")

// ofPart is the part of the recipe that a clause makes by its name: all that no other clause names of it.
func (n *names) ofPart(low string) mention {
	makes := makesPart.In(low)
	for _, p := range n.r.Parts {
		name := p.Name
		for _, lead := range []string{"for the ", "for ", "the "} {
			name = strings.TrimPrefix(name, lead)
		}
		name, _, _ = strings.Cut(name, " (") // "poolish (night before)"
		name = strings.TrimSuffix(name, "s") // "cupcake ingredients" of the cupcakes
		at := strings.Index(low, " "+name)
		if name == "" || at < 0 || withPart.In(low[:at]) { // "with the sponge": it is made already
			continue
		}
		end := at + 1 + len(name)
		if strings.HasPrefix(low[end:], "s") {
			end++
		}
		switch rest := low[end:]; {
		case strings.HasPrefix(rest, " ingredients"):
			return mention{from: at + 1, name: at + 1, to: end + len(" ingredients"), set: wholeSet + p.Name}
		case !makes:
		case rest == "" || !unicode.IsLetter(rune(rest[0])) && !strings.HasPrefix(rest, " sugar"):
			return mention{from: at + 1, name: at + 1, to: end, set: partSet + p.Name}
		}
	}
	return mention{}
}

// What begins the set that is what is left of a part by its name, or all of it: "the filling ingredients".
const (
	partSet  = "part "
	wholeSet = "whole "
)

// wholeEgg reports whether lines are whole eggs, of which a yolk is a part.
func (n *names) wholeEgg(ids []recipe.LineID) bool {
	return slices.ContainsFunc(ids, func(id recipe.LineID) bool {
		l := n.r.Line(id)
		return l != nil && !strings.Contains(string(l.Ingredient), "yolk") && !strings.Contains(string(l.Ingredient), "white")
	})
}

// apart reports whether words are parted by a mark, so that they are no one name.
func apart(s string) bool { return strings.ContainsAny(s, ",;:()/") }

// otherFlour are words that make a flour another than the one that is only called flour.
var otherFlour = en.SignOf("other-flour")

// settings follow the name of what a device is set to.
var settings = []string{"programme", "program", "cycle", "setting", "release", "pressure"}

// thingsOf follow the name of a food that they are made of, and dried are those of which there is a powder that is not they. Source: practice.
var (
	thingsOf = []string{"chocolate", "solid", "crisp", "crumb", "biscuit", "cracker", "liqueur", "noodle", "brittle", "liquor"}
	dried    = []string{"milk", "cream", "egg", "white", "yolk", "butter", "buttermilk", "yogurt", "honey"}
)

// means reports whether a food's word means something else here: "butter the tin",
// "cream the butter", "flour mixture", "ice the cake", "oil a pan".
func (n *names) means(text string, ws []word, k, span int) bool {
	if span > 1 {
		return false
	}
	w := ws[k].norm
	next := ""
	if k+1 < len(ws) && !apart(text[ws[k].to:ws[k+1].from]) {
		next = ws[k+1].norm
	}
	previous := ""
	if k > 0 {
		previous = ws[k-1].norm
	}
	switch {
	case next == "mixture" || next == "mix" || next == "batter":
		return true // a product: what was made of it
	case slices.Contains(settings, next):
		return true // "natural release", "white programme": of a device
	case slices.Contains(thingsOf, next), next == "powder" && slices.Contains(dried, w):
		return true // "milk chocolate", "milk powder": another thing, and no line is called so
	case w != "cream" && next == "together" && previous == "and": // "the sugar and butter together"
		return false
	case (w == "cream" || w == "butter" || w == "oil" || w == "flour" || w == "juice") && en.Opens(text[ws[k].from:]) &&
		(k == 0 || previous == "and" || previous == "then" || strings.HasSuffix(previous, "ly") || apart(text[ws[k-1].to:ws[k].from])):
		return true
	case w == "white" && (next == "and" || previous == "until" || previous == "and"):
		return true
	case (w == "powder" || w == "sugar") && previous == "icing" && k > 0:
		return false
	case w == "egg" && next == "wash":
		return len(n.forWash()) == 0
	case w == "soda" && next == "bread", w == "ice" || w == "one":
		return true
	case w == "water" && (next == "bath" || previous == "boiling" && strings.Contains(text, "tray")):
		return true
	case w == "flour" && (previous == "extra" || previous == "more" || previous == "additional" || previous == "spare"):
		return true // for the hands: what is not weighed
	case w == "flour" && (previous == "little" || previous == "lightly" || previous == "floured"):
		return true // for the board: not of the batter's
	case w == "flour" && otherFlour.In(previous) && !apart(text[ws[k-1].to:ws[k].from]):
		return true // "dust with rye flour", which no line is
	case w == "syrup" && len(n.of[w]) == 0:
		return true
	}
	return false
}

// forWash are the eggs of a list that stay outside the dough.
func (n *names) forWash() (out []recipe.LineID) {
	for _, l := range n.r.Lines {
		if l.Topping() && strings.HasPrefix(string(l.Ingredient), "egg") || l.Use == recipe.Brush && !l.Role.Aside() {
			out = append(out, l.ID)
		}
	}
	return out
}

// narrow takes of several lines of a name those of the part, where some are.
func (n *names) narrow(ids []recipe.LineID, part string) []recipe.LineID {
	var here []recipe.LineID
	for _, id := range ids {
		if l := n.r.Line(id); l != nil && (l.Section == part || part == "" && !l.Topping()) {
			here = append(here, id)
		}
	}
	if len(here) > 0 {
		return here
	}
	return slices.Clone(ids)
}

// howMuch finds in what stands before a name how much of it, from the beginning of some word up to the name.
func howMuch(text string) []int {
	if last, _ := utf8.DecodeLastRuneInString(text); !unicode.IsSpace(last) { // how much stands apart
		return nil
	}
	for from := max(0, len(text)-32); from < len(text); from++ {
		r, _ := utf8.DecodeRuneInString(text[from:])
		prev, _ := utf8.DecodeLastRuneInString(text[:from])
		if !utf8.RuneStart(text[from]) || unicode.IsSpace(r) || unicode.IsLetter(prev) && unicode.IsLetter(r) || unicode.IsDigit(prev) && unicode.IsDigit(r) {
			continue
		}
		if at := before.FindStringSubmatchIndex(text[from:]); at != nil {
			for g := range at {
				if at[g] >= 0 {
					at[g] += from
				}
			}
			return at
		}
	}
	return nil
}

// quantify reads what stands before a name and says how much of it, and takes in the
// words for its state.
func (n *names) quantify(text string, m *mention, ws []word, k int) {
	for k > 0 && state.MatchString(text[ws[k-1].from:ws[k-1].to]) && !apart(text[ws[k-1].to:m.from]) {
		m.from = ws[k-1].from
		k--
	}
	m.state = m.from
	at := howMuch(text[:m.from])
	if at == nil {
		return
	}
	if at[2] >= 0 {
		words := strings.ToLower(text[at[2]:at[3]])
		switch {
		case shares[words] > 0:
			m.share, m.vague = shares[words], vague[words]
		case pinchOf.MatchString(words):
			m.share = aPinch
		case strings.Contains(words, "rest") || strings.Contains(words, "remaining") || strings.Contains(words, "other") || strings.Contains(words, "last"):
			m.rest = true
		}
	}
	if at[8] >= 0 {
		m.share = n.piecesOf(strings.ToLower(text[at[8]:at[9]]), m.lines)
	}
	if at[4] >= 0 {
		m.grams = n.gramsOf(text[at[4]:at[5]], strings.ToLower(text[at[6]:at[7]]), m.lines)
	}
	m.from = at[0]
}
