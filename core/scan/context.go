package scan

import (
	"slices"
	"strings"

	"kollaris/core/larder"
)

// context is a phrase with what stands around it. Source of all its words: practice, what writers of recipes write.
type context struct {
	text     string
	tokens   []token
	from, to int // first and last token of the phrase
	since    int // the token behind the food before
}

func words(s string) map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(s) {
		m[w] = true
	}
	return m
}

var (
	// plants make milk, cream, butter and cheese others: "cashew milk", "vegan cream". What they are themselves is read by itself.
	plants = words("oat soya almond coconut rice plant vegan cashew hemp pea nut peanut seed sunflower cocoa shea apple hazelnut macadamia walnut flax flaxseed quinoa spelt potato barley pumpkin pistachio pecan sesame tofu avocado nondairy tigernut banana based")
	// dairies are what they may stand before.
	dairies = words("milk cream butter yogurt cheese buttermilk quark kefir custard spread block mascarpone ricotta feta mozzarella parmesan cheddar ghee fraiche condensed ice whipping soured single double buttercream caramel")
	// nothings say that what follows is not there; afar are those that do so over a few words.
	nothings = words("no not never non without avoid omit omitting skip minus nor sans neither")
	afar     = words("without avoid omit omitting instead place rather replace replacing replaces unless except sans")
	// turns end what a nothing reaches: what follows is there.
	turns = words("with by to for and use add but then using or brush serve sprinkle scatter stir fold pour top dot")
	// small may stand between a nothing and its food.
	small = words("any the a an of more extra added your need real usual other such")
	// likes compare with what follows.
	likes = words("like than resemble resembles resembling size thickness consistency texture colour color shape diameter")
	// looks stand before "as" where something is likened.
	looks = words("big small large soft thick thin runny smooth fine light pale pliable stiff loose yellow golden")
	// shaped, after a food, compare with it.
	shaped = words("size sized like style shaped shape coloured colour colored color brown")
	// others, after a food, are what stands for it, or tell what does without.
	others = words("replacer substitute alternative replacement")
	// determiners follow a verb.
	determiners = words("the a an your it them this these each both half all together until till remaining two some over on onto out evenly in into up")
	// openers stand before a verb.
	openers = words("and then to now next first finally gently lightly carefully meanwhile please or")
	// verbs are those names of foods that are verbs as well, and then say nothing of the food.
	verbs = words("browning cream spread squash stock mint sage ice preserve block port date lime")
	// containing say that something holds what follows.
	containing = words("contain contains containing trace traces hold holds")
	// then are what is done after creaming.
	then = words("add beat fold mix stir whisk then and")
	// plurals are foods in the plural alone: "whites" are of eggs, "white" is a colour.
	plurals = words("white sprinkle sweet spirit preserve pulse")
	// fats are what is creamed.
	fats = words("butter margarine fat sugar shortening block plant dairy vegan spread")
)

// back gives the token so many before the phrase where no stop stands between, else none.
func (c context) back(n int) (token, bool) {
	at := c.from - n
	if at < 0 {
		return token{}, false
	}
	for k := at + 1; k <= c.from; k++ {
		if c.tokens[k].stop {
			return token{}, false
		}
	}
	return c.tokens[at], true
}

// next is the token after the phrase, with what parts it; none after a stop.
func (c context) next() (token, bool) {
	if c.to+1 >= len(c.tokens) || c.tokens[c.to+1].stop {
		return token{}, false
	}
	return c.tokens[c.to+1], true
}

// plant reports whether a word of the dairy is a plant's: "soya quark".
func (c context) plant(e entry) bool {
	if len(e.foods) == 0 || e.foods[0].Allergens["milk"] != larder.Contains {
		return false
	}
	all := true
	for _, t := range c.tokens[c.from : c.to+1] {
		all = all && (dairies[t.norm] || t.norm == "creme")
	}
	before, ok := c.back(1)
	return all && ok && plants[before.norm]
}

// mostFreed is how far before a food stands what it is free of: "dairy-free, egg-free soft custard".
const mostFreed = 5

// freeOf are what a word before "free" takes out of a food.
var freeOf = map[string][]string{
	"dairy": {"milk"}, "milk": {"milk"}, "egg": {"egg"}, "gluten": {"gluten", "wheat"}, "wheat": {"wheat"}, "nut": {"nuts", "peanuts"},
	"peanut": {"peanuts"}, "soya": {"soya"}, "sesame": {"sesame"}, "mustard": {"mustard"}, "celery": {"celery"}, "sulphite": {"sulphites"},
	"fish": {"fish"}, "lupin": {"lupin"},
}

// freed are the foods of a phrase without what the words before it say that they are free of: "egg-free custard", "gluten-free
// breadcrumbs". Of a vegan one nothing of animals is left.
func (c context) freed(foods []*larder.Ingredient) []*larder.Ingredient {
	var without []string
	vegan := false
	for n := 1; n <= mostFreed && c.from-n >= c.since; n++ {
		t, ok := c.back(n)
		if !ok {
			break
		}
		switch {
		case t.norm == "free" || t.norm == "less":
			if of, ok := c.back(n + 1); ok {
				without = append(without, freeOf[of.norm]...)
				if of.norm == "sugar" {
					return slices.DeleteFunc(slices.Clone(foods), func(i *larder.Ingredient) bool { return i.Family == larder.FamilySugar })
				}
				n++
			}
		case t.norm == "vegan" || t.norm == "plant" || t.norm == "based":
			vegan = true
		case t.norm == "eggless":
			without = append(without, "egg")
		case t.norm == "glutenfree":
			without = append(without, freeOf["gluten"]...)
		}
	}
	if len(without) == 0 && !vegan {
		return foods
	}
	if vegan {
		without = append(without, "milk", "egg", "fish", "crustaceans", "molluscs")
	}
	var out []*larder.Ingredient
	for _, i := range foods {
		if vegan && (i.Origin == "meat" || i.Origin == "honey") {
			continue
		}
		gone := false
		for _, a := range without {
			gone = gone || i.Allergens[a] != ""
		}
		if !gone {
			out = append(out, i)
			continue
		}
		copied := *i
		copied.Allergens = map[string]larder.Level{}
		for a, lv := range i.Allergens {
			if !slices.Contains(without, a) {
				copied.Allergens[a] = lv
			}
		}
		if i.Origin == "egg" && slices.Contains(without, "egg") || i.Origin == "milk" && slices.Contains(without, "milk") {
			copied.ID, copied.Origin = "", "plant"
		}
		if len(copied.Allergens) > 0 || copied.Origin != "plant" || copied.ID != "" && !slices.Contains(without, "gluten") {
			out = append(out, &copied)
		}
	}
	return out
}

// compared reports whether the food is only likened to, or named by what stands for it: "as thick as double cream", "walnut-sized",
// "egg replacer", "nut-free".
func (c context) compared() bool {
	if t, ok := c.next(); ok {
		hyphen := strings.Contains(t.gap, "-")
		switch {
		case t.low == "free" && (hyphen || strings.TrimSpace(t.gap) == "") && !c.range_():
			return true
		case others[t.norm], shaped[t.norm] && (hyphen || t.norm != "like" && t.norm != "shape" && t.norm != "brown"), t.low == "less" && hyphen:
			return true
		}
	}
	if t, ok := c.back(1); ok && t.low == "for" { // what it is for: "an egg, for the egg wash"
		return true
	} else if b, far := c.back(2); ok && far && b.low == "for" && (t.low == "the" || t.low == "an" || t.low == "a" || t.low == "your") {
		return true
	}
	for n := 1; n <= 3; n++ {
		t, ok := c.back(n)
		if b, than := c.back(n + 1); ok && t.low == "with" && than && b.low == "than" {
			return true
		}
		if !ok || turns[t.low] || isNumber(t.low) {
			return false
		}
		if likes[t.norm] {
			if b, ok := c.back(n + 1); t.norm == "like" && ok && (b.low == "you" || b.low == "they" || b.low == "we" || b.low == "i") {
				return false
			}
			return true
		}
		if t.low != "as" {
			continue
		}
		if b, ok := c.back(n - 1); ok && n > 1 && (b.low == "though" || b.low == "if" || b.low == "when") {
			return true
		}
		for k := n + 2; k <= n+4; k++ { // as runny as single cream
			if b, ok := c.back(k); ok && b.low == "as" {
				adjective, _ := c.back(n + 1)
				return adjective.low != "well" && adjective.low != "much" && adjective.low != "many" && adjective.low != "soon"
			}
		}
		if b, ok := c.back(n + 1); ok && n <= 2 && looks[b.low] { // "big as a walnut"
			return true
		}
	}
	return false
}

// range_ reports whether what follows is "free range".
func (c context) range_() bool {
	return c.to+2 < len(c.tokens) && strings.HasPrefix(c.tokens[c.to+2].low, "range")
}

func isNumber(s string) bool { return s[0] >= '0' && s[0] <= '9' }

// denied reports whether the text says that the food is not there, or stands in its place; last is the last mention that was
// denied, -1 for none: "no milk, eggs or nuts".
func (c context) denied(last int) bool {
	if last >= 0 && last < c.from {
		only := true
		for k := last + 1; k < c.from; k++ {
			only = only && (c.tokens[k].low == "or" || c.tokens[k].low == "nor" || small[c.tokens[k].low])
		}
		gap := c.text[c.tokens[last].to:c.tokens[c.from].from]
		if only && !strings.ContainsAny(gap, ".;:!?\n()") {
			return true
		}
	}
	for n := 1; n <= 4; n++ {
		t, ok := c.back(n)
		if !ok || turns[t.low] && t.low != "to" && t.low != "for" {
			break
		}
		near := true
		for k := 1; k < n; k++ {
			b, _ := c.back(k)
			near = near && (small[b.low] || k == 1 && n == 2)
		}
		if nothings[t.low] && near || afar[t.low] && n <= 3 {
			if t.low == "place" || t.low == "rather" || t.low == "instead" {
				b, ok := c.back(n - 1)
				if n < 2 || !ok || b.low != "of" && b.low != "than" {
					continue
				}
			}
			return true
		}
		if t.low == "free" { // free from milk, free of eggs
			if b, ok := c.back(n - 1); ok && n > 1 && (b.low == "from" || b.low == "of") {
				return true
			}
		}
	}
	return c.bracketed()
}

// bracketed reports whether a mark of this application follows, that says what stands in the place: "milk (instead: oat drink)".
func (c context) bracketed() bool {
	rest := c.text[c.tokens[c.to].to:]
	return strings.HasPrefix(rest, Instead) || strings.HasPrefix(rest, LeftOut)
}

// Instead begins the mark behind a word for which something else is used here.
const Instead = " (instead: "

// LeaveOut is the mark behind a word that must not be used, wherever the words are shown. What bears it is still a mention.
const LeaveOut = " (leave it out: not for this table)"

// LeftOut is the mark behind a word of which nothing goes in here.
const LeftOut = " (left out here)"

// verb reports whether the word is a verb that says nothing of the food: "cream the fat", "spread it out".
func (c context) verb() bool {
	if c.from != c.to || !verbs[c.tokens[c.from].low] {
		return false
	}
	t := c.tokens[c.from]
	opens := c.from == 0 || t.stop || openers[c.tokens[c.from-1].low] || isNumber(c.tokens[c.from-1].low) && strings.ContainsAny(t.gap, ".)")
	n, ok := c.next()
	if t.low == "browning" { // gravy browning is weighed, what browns is not
		b, weighed := c.back(1)
		return !weighed || !isNumber(b.low) && b.low != "gravy" && b.low != "of" && b.low != "tsp" && b.low != "tbsp"
	}
	if !ok {
		if c.to+1 >= len(c.tokens) || !opens || strings.TrimSpace(c.tokens[c.to+1].gap) != "," {
			return false
		}
		return t.low == "cream" && then[c.tokens[c.to+1].low] // "Cream, add the eggs"
	}
	if t.low == "spread" || t.low == "ice" { // in whatever place: "and spread thinly", "to spread"
		return opens || determiners[n.low]
	}
	return opens && (determiners[n.low] || fats[n.norm] || isNumber(n.low) && t.low == "cream")
}

// greases reports whether the word is the verb that uses the food: "Butter a basin", "flour the board".
func (c context) greases() bool {
	if c.from != c.to {
		return false
	}
	t := c.tokens[c.from]
	opens := c.from == 0 || t.stop || strings.Contains(t.gap, ",") || openers[c.tokens[c.from-1].low]
	n, ok := c.next()
	return t.low == "buttered" || opens && ok && (determiners[n.low] && n.low != "until" && n.low != "in" || n.low == "and" || isNumber(n.low)) && (t.low == "butter" || t.low == "flour" || t.low == "oil")
}

// holds reports whether the text says that something contains the food.
func (c context) holds() bool {
	for n := 1; n <= 3; n++ {
		if t, ok := c.back(n); ok && containing[t.low] {
			return true
		}
	}
	return false
}
