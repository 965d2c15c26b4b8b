package bake

import (
	"fmt"
	"math"
	"slices"

	"kollaris/core/balance"
	"kollaris/core/fact"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// Stand is how a batter or a dough stands, from the softest to the stiffest of its row.
type Stand struct {
	ID    string
	Words string
}

// How a batter falls from the spoon, and how a dough feels, the softest first. Source: practice.
var (
	Batters = []Stand{
		{"pours", "pours like cream"}, {"ribbons", "falls in ribbons"}, {"drops", "drops in lumps"}, {"stands", "stands on the spoon"},
	}
	Doughs = []Stand{
		{"sticky", "sticks to the hand"}, {"tacky", "tacky, lets go of it"}, {"smooth", "smooth and dry"}, {"crumbles", "crumbles, does not hold"},
	}
)

// Consistency is how a bake should stand before it goes into the tin.
type Consistency struct {
	Dough  bool
	Wanted string // of Batters or Doughs
	Source fact.Source
}

// Row are the stands that it is one of.
func (c Consistency) Row() []Stand {
	if c.Dough {
		return Doughs
	}
	return Batters
}

// ConsistencyOf is how a recipe should stand. What is raised by yeast without gluten is a batter that
// drops; ground nuts make a batter stiffer by one.
func ConsistencyOf(r *recipe.Recipe, l *larder.Larder) Consistency {
	trade := r.Kind.Trade()
	c := Consistency{Wanted: trade.Stands, Dough: trade.Dough, Source: fact.Source(fact.Practice)}
	base := balance.BaseOf(balance.Items(r, l))
	switch {
	case r.Kind.Yeasted() && base == balance.GlutenFree:
		c.Dough, c.Wanted = false, "drops"
	case base == balance.Nut && !c.Dough:
		if n := slices.IndexFunc(Batters, func(s Stand) bool { return s.ID == c.Wanted }); n < len(Batters)-1 {
			c.Wanted = Batters[n+1].ID
		}
	}
	return c
}

// Spoonfuls that a baker corrects by. Source: practice: a tablespoon at a time.
const spoonML = 15.0

// Correction is what to add by the spoon, and how much it is.
type Correction struct {
	Line  recipe.LineID
	Food  larder.ID
	Name  string
	Grams float64
	Words string
}

// Correct says what to do with a bake that stands as it should not; ok is false where it is as it
// should be, or nothing is known.
func Correct(r *recipe.Recipe, stands string, l *larder.Larder, k measure.Kitchen) (c Correction, ok bool) {
	want := ConsistencyOf(r, l)
	row := want.Row()
	is := slices.IndexFunc(row, func(s Stand) bool { return s.ID == stands })
	at := slices.IndexFunc(row, func(s Stand) bool { return s.ID == want.Wanted })
	if is < 0 || is == at {
		return c, false
	}
	most := 0.0
	for _, line := range r.Batter() {
		i := l.Get(line.Ingredient)
		if i == nil || line.Grams <= most {
			continue
		}
		if is > at && formula.AtBowl(i) == "liquid" && i.Facts[larder.Water] > 60 || is < at && i.IsBase() {
			c.Line, c.Food, c.Name, most = line.ID, i.ID, line.Name, line.Grams
		}
	}
	if most == 0 {
		if is < at {
			return c, false
		}
		c.Food, c.Name = "water", "water"
	}
	i := l.Get(c.Food)
	per, _, known := i.MLGrams(k)
	if !known {
		per = 1
	}
	c.Grams = math.Round(spoonML*per*10) / 10
	word := "softer"
	if is > at {
		word = "stiffer"
	}
	c.Words = fmt.Sprintf("It is %s than it should be: 1 tablespoon of %s (%s), stir, look again.", word, c.Name, grams(c.Grams))
	return c, true
}
