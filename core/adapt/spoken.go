package adapt

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// spoken are foods that a step may name though no line lists them, each with the one that it is judged
// as: "brush with beaten egg", "serve with cream". Source: practice, what writers leave out of their lists.
var spoken = []struct {
	name string
	said *pattern.Pattern
	as   larder.ID
}{
	{"egg", pattern.Must(`(?i)\begg(?:s|[- ]?wash)?\b|\b(?:yolks?|egg whites?)\b`), "egg"},
	{"milk", pattern.Must(`(?i)\bmilk\b`), "milk"},
	{"butter", pattern.Must(`(?i)\b(?:butter|ghee)\b`), "butter"},
	{"cream", pattern.Must(`(?i)\b(?:cream|cr[eè]me fra[iî]che|ice cream)\b`), "double-cream"},
	{"dairy cream", pattern.Must(`(?i)\b(?:clotted|double|single|soured?|pouring) cream\b`), "double-cream"},
	{"yogurt", pattern.Must(`(?i)\byogh?urt\b`), "yogurt"},
	{"cheese", pattern.Must(`(?i)\b(?:cheese|parmesan|cheddar|mascarpone|ricotta|feta|mozzarella)\b`), "cheddar"},
	{"custard", pattern.Must(`(?i)\bcustard\b`), "milk"},
	{"walnuts", pattern.Must(`(?i)\b(?:walnuts?|pecans?|nuts)\b`), "walnuts"},
	{"almonds", pattern.Must(`(?i)\b(?:(?:flaked|chopped|ground|whole) almonds?|almonds|marzipan)\b`), "almonds"},
	{"hazelnuts", pattern.Must(`(?i)\bhazelnuts?\b`), "hazelnuts"},
	{"pistachios", pattern.Must(`(?i)\bpistachios?\b`), "pistachios"},
	{"peanuts", pattern.Must(`(?i)\bpeanuts?\b`), "peanuts"},
	{"sesame", pattern.Must(`(?i)\b(?:sesame(?: seeds?)?|tahini)\b`), "sesame-seeds"},
	{"honey", pattern.Must(`(?i)\bhoney\b`), "honey"},
	{"breadcrumbs", pattern.Must(`(?i)\b(?:dried|dry|fresh|with|in|of) breadcrumbs\b`), "breadcrumbs"},
	{"semolina", pattern.Must(`(?i)\bsemolina\b`), "semolina"},
	{"buttermilk", pattern.Must(`(?i)\bbuttermilk\b`), "buttermilk"},
	{"quark", pattern.Must(`(?i)\b(?:quark|kefir|fromage frais)\b`), "quark"},
	{"cashews", pattern.Must(`(?i)\bcashews?(?: nuts?)?\b`), "cashews"},
	{"Brazil nuts", pattern.Must(`(?i)\bbrazil nuts?\b`), "brazil-nuts"},
	{"macadamias", pattern.Must(`(?i)\bmacadamias?(?: nuts?)?\b`), "macadamias"},
	{"soy sauce", pattern.Must(`(?i)\b(?:soya? sauce|tamari|tofu)\b`), "soy-sauce"},
	{"mayonnaise", pattern.Must(`(?i)\bmayonnaise\b`), "mayonnaise"},
	{"lemon curd", pattern.Must(`(?i)\b(?:lemon|lime|orange|fruit) curd\b`), "lemon-curd"},
	{"milk chocolate", pattern.Must(`(?i)\bmilk chocolate\b`), "milk-chocolate"},
	{"white chocolate", pattern.Must(`(?i)\bwhite chocolate\b`), "white-chocolate"},
	{"gelatine", pattern.Must(`(?i)\b(?:gelatine?|marshmallows?)\b`), "gelatine"},
	{"lard", pattern.Must(`(?i)\b(?:lard|bacon)\b`), "lard"},
	{"mustard", pattern.Must(`(?i)\bmustard\b`), "mustard-powder"},
	{"wine", pattern.Must(`(?i)\b(?:red|white|sweet|sparkling|dessert|of|with) wine\b`), "wine"},
	{"beer", pattern.Must(`(?i)\b(?:with|of|in|more|the) (?:beer|stout|ale)\b`), "beer"},
	{"toffee", pattern.Must(`(?i)\b(?:toffee|fudge|caramel sauce|dulce de leche)\b`), "toffee"},
	{"crushed biscuits", pattern.Must(`(?i)\b(?:crushed|crumbled|digestive) biscuits?\b`), "crushed-biscuits"},
	{"wheat bran", pattern.Must(`(?i)\b(?:wheat ?bran|wheat ?germ|cracked wheat)\b`), "wheat-bran"},
	{"rye flour", pattern.Must(`(?i)\brye flour\b`), "rye-flour"},
	{"spelt flour", pattern.Must(`(?i)\bspelt flour\b`), "spelt-flour"},
	{"wholemeal flour", pattern.Must(`(?i)\bwhole(?:meal|wheat| wheat) flour\b`), "wholemeal-flour"},
}

// Words by which a food that is named is another, is not eaten, or is only likened.
var (
	otherBefore = pattern.Must(`(?i)(?:\b(?:oat|soya?|almond|coconut|rice|plant|vegan|dairy[- ]free|egg[- ]free|nut[- ]free|nut|peanut|cashew|cocoa|shea|apple|flax|chia|no|not|without|never|instead of|like|as|than|than with|in place of|size of|big as)\b[- ]*(?:\pL+[- ]+)?)$`)
	otherAfter  = pattern.Must(`(?i)^(?:[- ]?(?:free|less|sized?)\b| (?:replacer|gel|substitute|bread|loaf|rolls?|beans?|of tartar|the\b|together|until|till|your|it\b|them\b|biscuits?|crackers?|sponge mixture|powder replaced))`)
)

// unlisted are the foods that the method names, that no line lists and that this table must not have, and those that only a note
// tells to use. The tasks that name them say so.
func (r *assessment) unlisted() (out, noted []string) {
	if r.refused != nil {
		return nil, nil
	}
	heard, _ := heardIn(r.before)
	for k, s := range spoken {
		i := r.Larder.Get(s.as)
		if !heard[k] || i == nil {
			continue
		}
		if j, _ := r.demand.Judge(i); j != diet.Breaks {
			continue
		}
		for n := range r.res.Method {
			t := &r.res.Method[n]
			if !done(*t) || !names(t.Text, s.said) {
				continue
			}
			if !slices.Contains(out, s.name) {
				out = append(out, s.name)
			}
			t.Note = strings.TrimSpace(t.Note + " " + fmt.Sprintf("Not for this table: leave out the %s, which no line lists.", s.name))
		}
		if !slices.Contains(out, s.name) && notes(r.before, s.said) {
			noted = append(noted, s.name)
		}
	}
	return out, noted
}

// used is what a note tells to do with a food, in the same sentence before it, or how much of it: "brush with egg", "egg wash: 1 egg".
// What a note only tells of is left alone. Source: practice, what notes say.
var used = pattern.Must(`(?i)\b(?:brush|glaz|sprinkl|scatter|top|spread|dust|drizzl|dot|greas|fold|stir|mix|add|serv|fill|decorat|finish|knead|whisk|pour|coat|roll|spoon|us)(?:e|es|ed|ing|ting|ping|ring|red|s)?\b[^.;!?\n]{0,80}$|[\d½¼¾⅓⅔] *(?:\pL+ +){0,3}$`)

// notes reports whether a note of a recipe tells to use a food.
func notes(written *recipe.Recipe, said *pattern.Pattern) bool {
	return slices.ContainsFunc(written.Notes, func(note string) bool {
		return slices.ContainsFunc(said.FindAllStringIndex(note, -1), func(at []int) bool {
			return isIt(note, at) && used.MatchString(note[max(0, at[0]-2*lead):at[0]])
		})
	})
}

// mostBare is how many words a remark has at most that is no sentence: "beaten egg", "a little melted butter".
const mostBare = 4

// done reports whether a task does something with what it names: a remark does nothing, unless it is no sentence but only names a food.
func done(t method.Task) bool {
	return t.Verb != method.Remark || len(strings.Fields(t.Text)) <= mostBare
}

// lists reports whether a written line names a food: then what the method says of it was written anew
// with it, and it is judged there.
func lists(written *recipe.Recipe, said *pattern.Pattern) bool {
	for _, l := range written.Lines {
		own := l.Text // what is named beside the line's own food is not listed by that
		if l.Known {
			own = textParts(l.Text)[0].text
		}
		if said.MatchString(own) || said.MatchString(l.Name) {
			return true
		}
	}
	return false
}

// floured finds flour that only the method names: for a tin or a board. An adapted method takes another for it.
var floured = pattern.Must(`(?i)\b(?:well[- ]|lightly )?floured (?:board|surface|tin|pan|work\w*|bench|counter|basket|banneton|cloth)\b|\b(?:butter|grease|oil) and flour\b|\b(?:dust|sprinkle|coat)(?:ed|ing)?\b[^.;]{0,40}\bwith (?:a little |some |plain )?flour\b|\bdusting of flour\b`)

// Unlisted are the foods that the steps of a recipe as it is written name, or its notes tell to use, that no line lists and that a demand
// rules out: "brush with beaten egg", "butter and flour the tin".
func Unlisted(written *recipe.Recipe, d diet.Demand, l *larder.Larder) []string {
	var out []string
	breaks := func(id larder.ID) bool {
		i := l.Get(id)
		if i == nil {
			return false
		}
		j, _ := d.Judge(i)
		return j == diet.Breaks
	}
	does := func(is func(text string) bool) bool {
		return slices.ContainsFunc(method.Read(written, l), func(t method.Task) bool { return done(t) && is(t.Text) })
	}
	heard, flour := heardIn(written)
	for n, s := range spoken {
		if heard[n] && breaks(s.as) && (does(func(text string) bool { return names(text, s.said) }) || notes(written, s.said)) {
			out = append(out, s.name)
		}
	}
	wheat := slices.ContainsFunc(written.Lines, func(ln recipe.Line) bool { return breaks(ln.Ingredient) && l.Get(ln.Ingredient).IsBase() })
	if !wheat && flour && breaks("plain-flour") && does(floured.MatchString) {
		out = append(out, "flour")
	}
	return out
}

// unlistedWords remembers what the steps of a recipe name that none of its lines does: the same for every table.
var unlistedWords = struct {
	sync.Mutex
	of map[string][]bool
}{of: map[string][]bool{}}

// mostUnlisted is how many recipes are remembered at most.
const mostUnlisted = 500

// heardIn tells of each of the spoken foods whether a step names it and no line does; and whether one flours a tin or board.
func heardIn(written *recipe.Recipe) (heard []bool, flour bool) {
	var key strings.Builder
	for _, st := range written.Steps {
		key.WriteString(st.Text + "\x00")
	}
	for _, n := range written.Notes {
		key.WriteString(n + "\x00")
	}
	for _, l := range written.Lines {
		key.WriteString(l.Text + "\x00" + l.Name + "\x00")
	}
	unlistedWords.Lock()
	out, known := unlistedWords.of[key.String()]
	unlistedWords.Unlock()
	if !known {
		steps := func(is func(text string) bool) bool {
			return slices.ContainsFunc(written.Steps, func(st recipe.Step) bool { return is(st.Text) })
		}
		for _, s := range spoken {
			out = append(out, (steps(func(text string) bool { return names(text, s.said) }) || notes(written, s.said)) && !lists(written, s.said))
		}
		out = append(out, steps(floured.MatchString))
		unlistedWords.Lock()
		if len(unlistedWords.of) >= mostUnlisted {
			clear(unlistedWords.of)
		}
		unlistedWords.of[key.String()] = out
		unlistedWords.Unlock()
	}
	return out[:len(spoken)], out[len(spoken)]
}

// lead is how far before a word is looked for what makes it another's: more than the longest of these, two spaces and a word.
const lead = 80

// names reports whether a text names a food itself, not another by its word.
func names(text string, said *pattern.Pattern) bool {
	return slices.ContainsFunc(said.FindAllStringIndex(text, -1), func(at []int) bool { return isIt(text, at) })
}

// isIt reports whether the word at a place is the food itself.
func isIt(text string, at []int) bool {
	return !otherBefore.MatchString(text[max(0, at[0]-lead):at[0]]) && !otherAfter.MatchString(text[at[1]:])
}

// spokenWords says what to leave out: what the method names, and what only a note does.
func spokenWords(list, noted []string) string {
	who, all := "The method speaks", list
	switch {
	case len(list) == 0:
		who, all = "A note speaks", noted
	case len(noted) > 0:
		who, all = "The method and a note speak", slices.Concat(list, noted)
	}
	return fmt.Sprintf("%s of %s, which no line lists: leave it out for this table.", who, phrase.And(all))
}
