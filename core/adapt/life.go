package adapt

import (
	"slices"

	"kollaris/core/balance"
	"kollaris/core/keep"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

// Life is how long what a result bakes keeps.
func (res *Result) Life(l *larder.Larder) keep.Life {
	b := balance.Add(balance.Items(res.Recipe, l))
	of := keep.Baked{Kind: res.Recipe.Kind, Base: res.Becomes, Sugar: b.Per(b.Sugars)}
	for _, ln := range res.Recipe.Lines {
		i := l.Get(ln.Ingredient)
		if i == nil {
			continue
		}
		of.Creamy = of.Creamy || (ln.Role.Aside() || res.afterBake(ln.ID)) && ln.Grams > 0 && keep.Perishable(i)
		of.Spirit = of.Spirit || i.Family == larder.FamilySpirit && ln.Grams >= spirited
	}
	of.Syrup = slices.ContainsFunc(res.Method, func(t method.Task) bool { return t.Verb == method.Syrup })
	return keep.Of(of)
}

// afterBake reports whether a line is used once all is baked.
func (res *Result) afterBake(id recipe.LineID) bool {
	for _, t := range slices.Backward(res.Method) {
		if t.Verb == method.Bake {
			return false
		}
		if slices.ContainsFunc(t.Uses, func(u method.Use) bool { return u.Line == id && u.Share > 0 }) {
			return slices.ContainsFunc(res.Method, func(t method.Task) bool { return t.Verb == method.Bake })
		}
	}
	return false
}

// spirited is from how much spirit on a cake counts as kept by it, g. Source: practice, two
// tablespoons.
const spirited = 28

// DryMix is what of a recipe can be weighed out ahead for several batches and kept in jars.
type DryMix struct {
	Lines []MixLine // of one batch
	Rest  []MixLine // what comes to it on the day, g
	Grams float64   // of one batch, dry
	Days  int       // that it keeps: the least of its lines
	Short string    // the one that keeps least, its name
}

// MixLine is a line of a mix.
type MixLine struct {
	Name    string
	Grams   float64
	Measure string // in a kitchen's measures
}

// How a dry mix is chosen. Source: practice.
const (
	dryAt     = 15.0 // g of water in 100 g up to which it is dry; starches hold 12 to 14
	mixKeeps  = 60   // days at the room's warmth that an ingredient must keep
	longest   = 180  // days a jar is told to keep: lift loses its power
	fattiest  = 75.0 // g of fat in 100 g: it is a fat, not a flour
	yeastDays = 30   // that yeast in a mix is told to keep
)

// dryTextures are of what may stand in a jar of mix.
var dryTextures = []string{"flour", "lift", "salt", "sugar"}

// DryMix picks the lines of a batter that are dry, keep, and go in with the flour.
func (res *Result) DryMix(kit Kit) DryMix {
	m := DryMix{Days: longest}
	for _, ln := range res.Recipe.Lines {
		i := kit.Larder.Get(ln.Ingredient)
		if i == nil || ln.Grams <= 0 || ln.Topping() {
			continue
		}
		one := MixLine{ln.Name, ln.Grams, res.Measures[int(ln.ID)]}
		days := i.Keeps.Room
		if i.Family == larder.FamilyYeast {
			days = min(days, yeastDays)
		}
		dry := slices.Contains(dryTextures, i.Shelf.Texture) && i.Facts.Or(larder.Water, 100) <= dryAt && i.Facts.Or(larder.Fat, 0) < fattiest &&
			(days >= mixKeeps || i.Family == larder.FamilyYeast && days > 0) && !res.elsewhere(ln.ID)
		if !dry {
			m.Rest = append(m.Rest, one)
			continue
		}
		m.Lines, m.Grams = append(m.Lines, one), m.Grams+ln.Grams
		if days < m.Days {
			m.Days, m.Short = days, ln.Name
		}
	}
	return m
}

// elsewhere reports whether a line is used for something else than the flour's own bowl.
func (res *Result) elsewhere(id recipe.LineID) bool {
	return slices.ContainsFunc(res.Method, func(t method.Task) bool {
		return t.Verb.Is(method.OtherBowl) && slices.ContainsFunc(t.Uses, func(u method.Use) bool { return u.Line == id && u.Share > 0 })
	})
}

// Words are the line as a label has it: "100 g egg".
func (l MixLine) Words() string {
	if l.Grams < 0.05 {
		return l.Name
	}
	return measure.Grams(l.Grams).String() + " " + l.Name
}
