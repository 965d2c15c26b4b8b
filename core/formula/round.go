package formula

import (
	"math"

	"kollaris/core/larder"
	"kollaris/core/measure"
)

// Spooned tells what a kitchen takes by the teaspoon rather than by weight.
func Spooned(i *larder.Ingredient, grams float64) bool {
	return i.Shelf.Spooned && grams < 20 && i.ID != "aquafaba" && i.ID != "silken-tofu"
}

// intense is the sweetness from which a tenth of a gram is tasted. Source: practice.
const intense = 100.0

// Round brings grams to what the kitchen can measure: quarter teaspoons for what
// is spooned (eighths of soda, a pinch below), a gram below 100 g, 5 g above; a tenth of a gram
// below 5 g where the scale shows it.
func Round(k measure.Kitchen, i *larder.Ingredient, grams float64) float64 {
	if i.Facts[larder.Sweetness] >= intense { // weighed as a dilution
		return measure.Nearest(grams*10) / 10
	}
	if Spooned(i, grams) {
		if k.FineScale {
			return measure.Nearest(grams*10) / 10
		}
		tsp := Teaspoon(k, i)
		step := tsp / 4
		switch {
		case grams >= tsp/32 && grams < tsp/16:
			return tsp / 16 // a pinch
		case i.ID == "baking-soda" || grams < tsp/4:
			step = tsp / 8
		}
		return measure.Nearest(grams/step) * step
	}
	switch {
	case grams < 2:
		return measure.Nearest(grams*2) / 2
	case grams >= 100:
		return measure.Nearest(grams/5) * 5
	}
	return measure.Nearest(grams)
}

// RoundDown brings grams to what is spooned and not more, for what must not pass a limit.
func RoundDown(k measure.Kitchen, i *larder.Ingredient, grams float64) float64 {
	if k.FineScale {
		return math.Floor(grams*10+1e-9) / 10
	}
	step := Teaspoon(k, i) / 8
	return math.Floor(grams/step+1e-6) * step
}

// Teaspoon is the grams of one level teaspoon, 5 where it is not known.
func Teaspoon(k measure.Kitchen, i *larder.Ingredient) float64 {
	per, _, ok := i.MLGrams(k)
	if !ok {
		return 5
	}
	return per * float64(k.Teaspoon())
}
