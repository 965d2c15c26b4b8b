package adapt

import (
	"fmt"
	"math"

	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// Altitude is what the extension services advise for a recipe above 3000 ft, as amounts
// of this recipe. Source: from memory, the table of a US state university's extension
// service for high-altitude baking; its figures and bands as remembered.
type Altitude struct {
	Metres  float64
	Changes []AltitudeChange
	Hotter  [2]measure.Celsius // least and most that the oven is set higher
	Yeast   bool               // dough rises faster: shorter proof, knock back twice
}

// AltitudeChange is one amount with what it becomes, grams.
type AltitudeChange struct {
	ID        larder.ID
	Name      string
	From      float64
	Low, High float64
}

// Middle is the middle of the advice.
func (c AltitudeChange) Middle() float64 { return (c.Low + c.High) / 2 }

// From3000Feet is the lowest altitude that the table speaks of, m.
const From3000Feet = 914.0

// bands of the table, by altitude in feet: teaspoons off a teaspoon of powder or soda,
// tablespoons off a cup of sugar, tablespoons on a cup of liquid.
var bands = []struct {
	to                  float64
	lift, sugar, liquid [2]float64
}{
	{5000, [2]float64{1. / 8, 1. / 8}, [2]float64{0, 1}, [2]float64{1, 2}},
	{7000, [2]float64{1. / 8, 1. / 4}, [2]float64{0, 2}, [2]float64{2, 4}},
	{math.Inf(1), [2]float64{1. / 4, 1. / 4}, [2]float64{1, 3}, [2]float64{3, 4}},
}

// AtAltitude gives the advice for a recipe's batter; nil below 3000 ft.
func AtAltitude(r *recipe.Recipe, metres float64, l *larder.Larder) *Altitude {
	if metres < From3000Feet {
		return nil
	}
	feet := metres / 0.3048
	band := bands[0]
	for _, b := range bands {
		band = b
		if feet < b.to {
			break
		}
	}
	out := &Altitude{Metres: metres, Hotter: [2]measure.Celsius{15 / 1.8, 25 / 1.8}}
	var liquid *recipe.Line
	lines := r.Batter()
	change := func(ln recipe.Line, i *larder.Ingredient, low, high float64) {
		out.Changes = append(
			out.Changes,
			AltitudeChange{
				ln.Ingredient, i.Name, ln.Grams, ln.Grams * math.Min(low, high), ln.Grams * math.Max(low, high),
			},
		)
	}
	for n := range lines {
		ln := &lines[n]
		i := l.Get(ln.Ingredient)
		if i == nil || ln.Grams <= 0 {
			continue
		}
		switch formula.MovesAs(i) {
		case "lift", "soda":
			change(*ln, i, 1-band.lift[1], 1-band.lift[0])
		case "sugar": // a cup has 16 tablespoons
			change(*ln, i, 1-band.sugar[1]/16, 1-band.sugar[0]/16)
		case "liquid":
			if liquid == nil || ln.Grams > liquid.Grams {
				liquid = ln
			}
		}
		out.Yeast = out.Yeast || i.Family == larder.FamilyYeast
	}
	if liquid != nil {
		change(*liquid, l.Get(liquid.Ingredient), 1+band.liquid[0]/16, 1+band.liquid[1]/16)
	}
	return out
}

// Words says one change: "baking powder 8 g → 6 to 7 g".
func (c AltitudeChange) Words() string {
	to := measure.Grams(c.Low).String()
	if high := measure.Grams(c.High).String(); high != to {
		to += " to " + high
	}
	return fmt.Sprintf("%s %s → %s", c.Name, measure.Grams(c.From), to)
}
