package review

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// Note is something that looks wrong in a recipe, or is missing: what was seen,
// what is usual, and a correction where there is one.
type Note struct {
	Code     string        `json:"code"`
	Severity string        `json:"severity"` // note, look or stop
	Line     recipe.LineID `json:"line,omitempty"`
	Seen     string        `json:"seen"`
	Usual    string        `json:"usual"`
	Source   fact.Source   `json:"source"`
	Fix      *Fix          `json:"fix,omitempty"`
}

// Fix is a correction that one press makes.
type Fix struct {
	Words  string `json:"words"`
	Amount string `json:"amount"`
	Unit   string `json:"unit"`
}

// Message says the note in one or two sentences.
func (n Note) Message() string {
	if n.Usual == "" {
		return n.Seen
	}
	return n.Seen + " " + n.Usual
}

const practice fact.Source = "practice"

// slips are the spoons that are mistaken for one another, with the share of the
// flour from which it is one. Source: practice: soda about 1 %, powder 4 to 6 %,
// salt in cakes up to 1.2 % and in bread 2 %.
var slips = map[larder.ID]float64{"baking-soda": 2.2, "baking-powder": 9, "salt": 3.6}

// Notes reviews a recipe as it is written. The most serious come first.
func Notes(r *recipe.Recipe, l *larder.Larder) []Note {
	items := balance.Items(r, l)
	b := balance.Add(items)
	v := &reviewer{r: r, l: l, items: items, b: b}
	if b.Base >= 60 && settled(r) {
		v.spoons()
		v.lift()
		if balance.WheatShare(items) >= 0.5 {
			v.proportions()
		}
		v.tin()
	}
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
		if ln.Grams == 0 && ln.Amount.Mid() > 0 && ln.Unit != "tsp" && ln.Unit != "tbsp" && ln.Unit != "" && u.Kind != measure.Piece {
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
	v.notes = append(v.notes, Note{Code: code, Severity: severity, Line: line, Seen: seen, Usual: usual, Source: practice})
	return &v.notes[len(v.notes)-1]
}

func pc(x float64) string { return measure.Digits(x, 2) + " %" }

// spoons finds a tablespoon where a teaspoon is meant, and the reverse.
func (v *reviewer) spoons() {
	v.slip = map[larder.ID]bool{}
	for _, ln := range v.r.Batter() {
		most, ok := slips[ln.Ingredient]
		share := v.b.Per(ln.Grams)
		if !ok || share <= most || v.slip[ln.Ingredient] {
			continue
		}
		if ln.Unit == "tbsp" {
			v.slip[ln.Ingredient] = true
			n := v.say("wrong-spoon", "stop", ln.ID, fmt.Sprintf("%s %s of %s is %s of the flour.", ln.Amount, ln.Unit, ln.Name, pc(share)), fmt.Sprintf("More than %s is hardly ever meant: probably a teaspoon.", pc(most)))
			n.Fix = &Fix{Words: fmt.Sprintf("Make it %s tsp", ln.Amount), Amount: ln.Amount.String(), Unit: "tsp"}
		} else if share > 1.6*most {
			v.slip[ln.Ingredient] = true
			v.say("too-much", "stop", ln.ID, fmt.Sprintf("%s of %s is %s of the flour.", measure.Grams(ln.Grams), ln.Name, pc(share)), fmt.Sprintf("More than %s is hardly ever meant.", pc(most)))
		}
	}
}

// lineOf is the first line of an ingredient, 0 for none.
func (v *reviewer) lineOf(id larder.ID) recipe.LineID {
	for _, ln := range v.r.Lines {
		if ln.Ingredient == id {
			return ln.ID
		}
	}
	return 0
}

func isYeast(k recipe.Kind) bool { return k == recipe.LeanBread || k == recipe.RichBread }

// lift weighs gas against flour and soda against acid.
func (v *reviewer) lift() {
	if isYeast(v.r.Kind) || len(v.slip) > 0 {
		return
	}
	per := func(x float64) float64 { return v.b.Per(x) }
	taste := 0.25
	switch v.r.Kind {
	case recipe.Biscuit:
		taste = 1.5
	case recipe.SodaBread:
		taste = 0.4
	}
	left := per(balance.SodaGrams(math.Max(0, v.b.Surplus())))
	soda := v.lineOf("baking-soda")
	switch {
	case left > 1.5*taste && v.b.Acid < 0.4*v.b.Soda:
		v.say("soda-without-acid", "look", soda, fmt.Sprintf("The soda has little acid to meet: %s of the flour is left over.", pc(left)), fmt.Sprintf("Above %s it tastes of soap; buttermilk, yogurt, lemon or vinegar would meet it, or powder take its place.", pc(taste)))
	case left > 1.5*taste:
		v.say("soda-left", "look", soda, fmt.Sprintf("More soda than its acid can use: %s of the flour is left over.", pc(left)), fmt.Sprintf("Above %s it is tasted.", pc(taste)))
	case v.b.Soda > 0 && per(-v.b.Surplus()) > 14:
		v.say("acid-left", "note", soda, fmt.Sprintf("%s meq of acid to 100 g flour meet no soda.", measure.Digits(per(-v.b.Surplus()), 2)), "That tastes fresh to sour; it is right for lemon cakes.")
	}
	powder := balance.Percent(v.items, "powder")
	if powder > 9 {
		severity := "note"
		if powder > 10.5 {
			severity = "look"
		}
		seen := fmt.Sprintf("Powder, with what the flour brings, is %s of the flour.", pc(powder))
		if v.lineOf("self-raising-flour") != 0 {
			seen = fmt.Sprintf("Self-raising flour holds powder already; with the powder added it comes to %s.", pc(powder))
		}
		v.say("lift-much", severity, v.lineOf("baking-powder"), seen, "4 to 6 % is usual; above 8 % a crumb turns coarse and falls.")
	}
	gas := per(v.b.Gas())
	if gas < 7 && v.b.Base >= 100 && (v.r.Kind == recipe.QuickBread || v.r.Kind == recipe.Scone || v.r.Kind == recipe.AllInCake || v.r.Kind == recipe.SodaBread) && v.b.Per(v.b.Egg) < 60 {
		v.say("lift-little", "look", 0, fmt.Sprintf("Powder, soda and egg give %s mmol of gas to 100 g flour.", measure.Digits(gas, 2)), "A bake of this kind wants 10 to 25: is self-raising flour meant, or has the powder been forgotten?")
	}
}

// proportions holds the formula against the kind's windows. A figure a sixth
// outside is said, since kinds are guesses and bakers differ.
func (v *reviewer) proportions() {
	words := map[string]string{"water": "Water of every source", "fat": "Fat", "sugar": "Sugar", "egg": "Egg", "salt": "Salt", "yeast": "Yeast, as dry"}
	for _, w := range balance.Windows(v.r.Kind) {
		if words[w.What] == "" {
			continue // powder is judged by lift
		}
		x := balance.Percent(v.items, w.What)
		if w.What == "salt" && (x == 0 || v.slip["salt"]) || w.What == "yeast" && x == 0 || w.What == "egg" && x == 0 {
			continue // missing things have words of their own
		}
		far := "look"
		switch {
		case x > w.Hi*1.17+1:
			if x < w.Hi*1.4+2 {
				far = "note"
			}
			v.say(w.What+"-high", far, 0, fmt.Sprintf("%s is %s of the flour.", words[w.What], pc(x)), fmt.Sprintf("%s to %s is usual for %s.", measure.Digits(w.Lo, 2), pc(w.Hi), v.r.Kind.Words()))
		case x < w.Lo*0.83-1:
			if x > w.Lo*0.6 {
				far = "note"
			}
			v.say(w.What+"-low", far, 0, fmt.Sprintf("%s is %s of the flour.", words[w.What], pc(x)), fmt.Sprintf("%s to %s is usual for %s.", measure.Digits(w.Lo, 2), pc(w.Hi), v.r.Kind.Words()))
		}
	}
}

// tin holds the batter against the tin, and the time against both.
func (v *reviewer) tin() {
	if len(v.r.Tins) == 0 {
		return
	}
	t := v.r.Tins[0]
	f := oven.FillOf(v.r.Kind, measure.Grams(v.b.Mass), t)
	if t.Shape != tin.Free && t.Volume > 0 {
		switch {
		case f.TooMuch > 0 && f.Share > 0.8 && (f.Share > 1.05 || !isYeast(v.r.Kind)):
			v.say("tin-small", "look", 0, fmt.Sprintf("The batter fills %.0f %% of the %s.", 100*f.Share, t.Words()), fmt.Sprintf("Half to two thirds is usual: about %s is too much for it.", f.TooMuch))
		case f.Share < 0.25:
			v.say("tin-large", "note", 0, fmt.Sprintf("The batter fills only %.0f %% of the %s.", 100*f.Share, t.Words()), "It comes out low and is done sooner than written.")
		}
	}
	// a layer as thin as this bakes until it is dry or coloured, which no time to a
	// warm middle foretells
	if v.r.Bake.Max > 0 && v.r.Oven > 0 && t.Shape != tin.Free && f.Share >= 0.25 {
		e, err := oven.Foretell(oven.Baking{Kind: v.r.Kind}, measure.Grams(v.b.Mass), t, v.r.Oven)
		if err != nil {
			return
		}
		if ratio := v.r.Bake.Mid() / e.Minutes; ratio < 0.5 || ratio > 2.1 {
			v.say("time", "look", 0, fmt.Sprintf("%s min are written.", measure.Digits(v.r.Bake.Mid(), 3)), fmt.Sprintf("This much batter in the %s at %.0f °C would take about %.0f.", t.Words(), float64(v.r.Oven), e.Minutes))
		}
	}
}

// missing names what a recipe cannot do without.
func (v *reviewer) missing() {
	if len(v.r.Lines) == 0 {
		v.say("no-lines", "stop", 0, "No ingredient line was found.", "Put each ingredient on a line of its own, its amount first.")
		return
	}
	if v.b.Base >= 100 && v.b.Per(v.b.Water) < 4 && v.r.Kind != recipe.Biscuit && len(v.r.Unknown()) == 0 {
		v.say("no-liquid", "look", 0, "Nothing in the list wets the flour.", "Has the milk, water or egg been left out?")
	}
	if isYeast(v.r.Kind) && v.b.Salt == 0 && v.lineOf("salt") == 0 {
		v.say("no-salt", "look", 0, "There is no salt in this bread.", "1.6 to 2.2 % of the flour is usual; without it dough slackens and tastes flat.")
	}
	if v.r.Bake.Max == 0 && len(v.r.Steps) > 0 {
		v.say("no-time", "note", 0, "The recipe says no baking time.", "It is worked out from the tin alone: look early.")
	}
	if len(v.r.Tins) == 0 && len(v.r.Steps) > 0 {
		v.say("no-tin", "note", 0, "The recipe names no tin.", "")
	}
}

var (
	generic  = regexp.MustCompile(`(?i)\b(all|everything|ingredients?|dry|wet|rest|remaining|mixture|batter|dough|filling|icing|topping|the others)\b|\b(?:mix|combine|stir|knead)[,.]`)
	spokenOf = []struct {
		word string
		ids  []string // any id or family that answers to it
	}{
		{"egg", []string{"egg", "egg-replacer"}}, {"butter", []string{"butter", "plant-block", "spread"}}, {"milk", []string{"milk", "plant-drink", "plant-cream", "milk-powder"}}, {"buttermilk", []string{"buttermilk", "buttermilk-powder"}},
		{"sugar", []string{"sugar", "polyol", "syrup"}}, {"oil", []string{"oil", "solid-fat"}}, {"yeast", []string{"yeast"}}, {"honey", []string{"honey"}}, {"salt", []string{"salt"}}, {"vanilla", []string{"vanilla", "vanilla-pod", "vanilla-sugar"}},
		{"cinnamon", []string{"cinnamon", "mixed-spice"}}, {"yogurt", []string{"cultured", "plant-yogurt"}}, {"cocoa", []string{"cocoa"}}, {"raisin", []string{"dried-fruit"}},
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
		if at < 0 || sp.word == "butter" && (slices.Contains(said, "peanut") || slices.Contains(said, "nut")) || sp.word == "milk" && slices.Contains(said, "buttermilk") && v.lineOf("buttermilk") != 0 {
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
