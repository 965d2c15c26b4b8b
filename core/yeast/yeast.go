// Package yeast knows the temperature of a dough and what slows its yeast.
//
// A dough's temperature is the mean of what goes into it, each by its share, and
// what kneading adds. Bakers count flour, water and room alike and solve for the
// water they can choose:
//
//	water = n × dough - (flour + room + … + friction)
//
// where n counts the terms, friction apart. Source: common practice.
package yeast

import (
	"fmt"

	"kollaris/core/measure"
)

// What kneading adds to a dough, °C of the sum. Source: common practice.
const (
	ByHand    measure.Celsius = 6
	ByMachine measure.Celsius = 14
)

// Bounds of the water, °C. Above DieAbove yeast is harmed even in flour; below
// Ice there is no water. Source: common practice: yeast dies at 57 to 60 °C, and
// instant yeast in flour bears 49 to 54.
const (
	DieAbove measure.Celsius = 54
	Ice      measure.Celsius = 2
)

// Water gives the temperature of the water for a wanted dough temperature, with
// what has to be said about it in the kitchen's scale. Flour, room and any other term (a starter) count
// alike.
func Water(
	k measure.Kitchen, dough, friction measure.Celsius, terms ...measure.Celsius,
) (water measure.Celsius, say string) {
	water = measure.Celsius(float64(len(terms)+1))*dough - friction
	for _, t := range terms {
		water -= t
	}
	switch {
	case water > DieAbove:
		return DieAbove, fmt.Sprintf(
			"It would have to be %s, which harms the yeast: take %s and let it rise longer.", k.Temperature(water),
			k.Temperature(DieAbove),
		)
	case water < Ice:
		return Ice, "Colder than water gets: take ice water, and cool the flour too."
	case water > 43:
		return water, fmt.Sprintf(
			"Stir it into the flour before the yeast meets it: above %s it harms yeast that is woken in it.",
			k.Temperature(43),
		)
	}
	return water, ""
}

// Slows says what slows the yeast of a formula: sugar above 5 %, more above 10, salt
// above 2.2, per cent of the flour. Source: common practice.
func Slows(sugar, salt float64) []string {
	var out []string
	switch {
	case sugar > 10:
		out = append(
			out,
			fmt.Sprintf(
				"Sugar is %.0f %% of the flour: it draws water from the yeast. Take a quarter to a half more yeast, or the kind for sweet doughs, and let it rise longer.",
				sugar,
			),
		)
	case sugar > 5:
		out = append(out, fmt.Sprintf("Sugar is %.0f %% of the flour: it slows the rise a little.", sugar))
	}
	if salt > 2.2 {
		out = append(out, fmt.Sprintf("Salt is %.1f %% of the flour: above 2 it slows the rise.", salt))
	}
	return out
}
