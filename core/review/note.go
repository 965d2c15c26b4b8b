package review

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

// Note is something that looks wrong in a recipe, or is missing: what was seen,
// what is usual, and a correction where there is one.
type Note struct {
	Code     string        `json:"code"`
	Severity string        `json:"severity"` // note, look or stop
	Line     recipe.LineID `json:"line,omitempty"`
	Seen     string        `json:"seen"`
	Usual    string        `json:"usual"`
	Source   fact.Source   `json:"source"` // of what is usual
	Sure     Sureness      `json:"sure"`   // that it is amiss
	Fix      *Fix          `json:"fix,omitempty"`
}

// Sureness says how surely something is amiss.
type Sureness = balance.Sureness

// Fix is a correction that one press makes: another amount of the line, the line
// left out, or a line added.
type Fix struct {
	Words  string `json:"words"`
	Amount string `json:"amount,omitempty"`
	Unit   string `json:"unit,omitempty"`
	Skip   bool   `json:"skip,omitempty"`
	Add    string `json:"add,omitempty"` // text of a line
}

// sure are the findings that are not merely likely.
var sure = map[string]Sureness{
	"wrong-spoon": balance.Sure, "too-much": balance.Sure, "no-lines": balance.Sure, "no-time": balance.Sure, "no-tin": balance.Sure,
	"not-used": balance.Perhaps, "acid-left": balance.Perhaps, "lift-little": balance.Perhaps, "cups-mixed": balance.Perhaps, "oven": balance.Perhaps, "sugar-liquid": balance.Perhaps,
}

// Message says the note in one or two sentences.
func (n Note) Message() string {
	if n.Usual == "" {
		return n.Seen
	}
	return n.Seen + " " + n.Usual
}

const practice fact.Source = "practice"

// Notes reviews a recipe as it is written. The most serious come first.
func Notes(r *recipe.Recipe, l *larder.Larder) []Note {
	items := balance.Items(r, l)
	b := balance.Add(items)
	v := &reviewer{r: r, l: l, items: items, b: b}
	if b.Base >= 60 && settled(r) {
		v.spoons()
		v.lift()
		v.proportions()
		v.gum()
		v.tin()
	}
	v.poisons()
	v.cups()
	v.heat()
	v.missing()
	v.method()
	rank := map[string]int{"stop": 0, "look": 1, "note": 2}
	slices.SortStableFunc(v.notes, func(a, b Note) int { return rank[a.Severity] - rank[b.Severity] })
	return v.notes
}

// settled reports whether so little is unknown that shares of the flour mean
// something: an unknown spoonful does no harm, an unknown cup may be the flour.
func settled(r *recipe.Recipe) bool {
	mass := 0.0
	for _, ln := range r.Unknown() {
		u, _ := measure.UnitByID(ln.Unit)
		if ln.Grams == 0 && ln.Amount.Mid() > 0 && ln.Unit != "tsp" && ln.Unit != "tbsp" && ln.Unit != "" &&
			u.Kind != measure.Piece {
			return false
		}
		mass += ln.Grams
	}
	return mass <= 0.1*float64(r.Mass())
}

type reviewer struct {
	r     *recipe.Recipe
	l     *larder.Larder
	items []balance.Item
	b     balance.Balance
	notes []Note
	slip  map[larder.ID]bool // ingredients whose spoon is in doubt: their lift is not judged again
}

func (v *reviewer) say(code, severity string, line recipe.LineID, seen, usual string) *Note {
	v.notes = append(
		v.notes,
		Note{
			Code: code, Severity: severity, Line: line, Seen: seen, Usual: usual, Source: practice,
			Sure: cmp.Or(sure[code], balance.Likely),
		},
	)
	return &v.notes[len(v.notes)-1]
}

func pc(x float64) string { return measure.Digits(x, 2) + " %" }

// lineOf is the first line of an ingredient, 0 for none.
func (v *reviewer) lineOf(id larder.ID) recipe.LineID {
	for _, ln := range v.r.Lines {
		if ln.Ingredient == id {
			return ln.ID
		}
	}
	return 0
}

// missing names what a recipe cannot do without.
func (v *reviewer) missing() {
	if len(v.r.Lines) == 0 {
		v.say(
			"no-lines", "stop", 0, "No ingredient line was found.",
			"Put each ingredient on a line of its own, its amount first.",
		)
		return
	}
	if v.b.Base >= 100 && v.b.Per(v.b.Water) < 4 && v.r.Kind != recipe.Biscuit && len(v.r.Unknown()) == 0 {
		v.say(
			"no-liquid", "look", 0, "Nothing in the list wets the flour.", "Has the milk, water or egg been left out?",
		)
	}
	if v.r.Kind.Yeasted() && v.b.Salt == 0 && v.lineOf("salt") == 0 {
		n := v.say(
			"no-salt", "look", 0, "There is no salt in this bread.",
			"1.6 to 2.2 % of the flour is usual; without it dough slackens and tastes flat.",
		)
		if grams := math.Round(0.019 * v.b.Base); grams >= 1 {
			n.Fix = &Fix{Words: fmt.Sprintf("Add %.0f g salt", grams), Add: fmt.Sprintf("%.0f g salt", grams)}
		}
	}
	if v.r.Bake.Max == 0 && len(v.r.Steps) > 0 {
		v.say(
			"no-time", "note", 0, "The recipe says no baking time.", "It is worked out from the tin alone: look early.",
		)
	}
	if v.r.Servings == 0 && len(v.r.Steps) > 0 {
		v.say("no-servings", "note", 0, "The recipe does not say how much it makes.", "Eight servings are taken until you say: what a serving holds rests on it.")
	}
	if len(v.r.Tins) == 0 && len(v.r.Steps) > 0 {
		v.say("no-tin", "note", 0, "The recipe names no tin.", "")
	}
}

var (
	generic = pattern.Must(
		`(?i)\b(all|everything|ingredients?|dry|wet|rest|remaining|mixture|batter|dough|filling|icing|topping|the others)\b|\b(?:mix|combine|stir|knead)[,.]`,
	)
	spokenOf = []struct {
		word string
		ids  []string // any id or family that answers to it
	}{
		{
			"egg", []string{"egg", "egg-replacer"},
		}, {"butter", []string{"butter", "plant-block", "spread"}}, {"milk", []string{"milk", "plant-drink", "plant-cream", "milk-powder"}}, {"buttermilk", []string{"buttermilk", "buttermilk-powder"}},
		{
			"sugar", []string{"sugar", "polyol", "syrup"},
		}, {"oil", []string{"oil", "solid-fat"}}, {"yeast", []string{"yeast"}}, {"honey", []string{"honey"}}, {"salt", []string{"salt"}}, {"vanilla", []string{"vanilla", "vanilla-pod", "vanilla-sugar"}},
		{
			"cinnamon", []string{"cinnamon", "mixed-spice"},
		}, {"yogurt", []string{"cultured", "plant-yogurt"}}, {"cocoa", []string{"cocoa"}}, {"raisin", []string{"dried-fruit"}},
	}
)

// method holds the steps against the list: what is spoken of and not listed, and
// what is listed and never used.
func (v *reviewer) method() {
	if len(v.r.Steps) == 0 || len(v.r.Lines) < 3 {
		return
	}
	var text strings.Builder
	used := map[recipe.LineID]bool{}
	for _, s := range v.r.Steps {
		text.WriteString(s.Text + " ")
		for _, id := range s.Lines {
			used[id] = true
		}
	}
	said := strings.Fields(larder.Normal(text.String()))
	for _, sp := range spokenOf {
		at := slices.Index(said, sp.word)
		if at < 0 || sp.word == "butter" && (slices.Contains(said, "peanut") || slices.Contains(said, "nut")) ||
			sp.word == "milk" && slices.Contains(said, "buttermilk") && v.lineOf("buttermilk") != 0 {
			continue
		}
		listed := false
		for _, ln := range v.r.Lines {
			if i := v.l.Get(ln.Ingredient); i != nil {
				listed = listed || slices.Contains(sp.ids, string(i.ID)) || slices.Contains(sp.ids, string(i.Family))
			}
			listed = listed || slices.Contains(strings.Fields(larder.Normal(ln.Text)), sp.word)
		}
		if !listed {
			v.say("not-listed", "look", 0, fmt.Sprintf("The method speaks of %s; the list has none.", sp.word), "")
		}
	}
	if generic.MatchString(text.String()) {
		return
	}
	for _, ln := range v.r.Lines {
		if ln.Known && ln.Grams > 5 && !used[ln.ID] {
			v.say("not-used", "note", ln.ID, fmt.Sprintf("The method never uses the %s.", ln.Name), "")
		}
	}
}
