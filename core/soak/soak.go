// Package soak works out how dried fruit takes up what it stands in: how long, how much, what is
// left over for the batter, and how it is kept meanwhile.
//
// Dried fruit takes up 30 to 60 per cent of its weight. Source: practice; so are the hours. What is
// not taken up belongs to the recipe: it goes into the batter in place of as much of its liquid.
package soak

import (
	"errors"

	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// In is what the fruit stands in.
type In string

// What fruit is soaked in.
const (
	Juice   In = "juice"
	Tea     In = "tea"
	Reduced In = "reduced" // juice boiled down to half
	Spirit  In = "spirit"
)

// Way is how fruit is soaked in something.
type Way struct {
	ID      In
	Words   string
	Chopped recipe.Minutes // till taken up, chopped or small fruit
	Whole   recipe.Minutes // large fruit whole
	Shake   bool           // daily
	Fridge  bool           // the careful place
	Keeps   string         // when it is ready
	Hands   string         // what is done first
}

const hour, day = 60, 24 * 60

// Ways are how fruit is soaked. Source: practice.
var Ways = []Way{
	{
		Juice, "fruit juice", recipe.Minutes{Min: 1 * hour, Max: 4 * hour}, recipe.Minutes{Min: 8 * hour, Max: 14 * hour}, false, true,
		"It keeps 3 to 4 days in the fridge.", "Pour the juice over the fruit, cover, stir once or twice.",
	},
	{
		Tea, "strong tea", recipe.Minutes{Min: 4 * hour, Max: 8 * hour}, recipe.Minutes{Min: 8 * hour, Max: 24 * hour}, false, true,
		"It keeps 2 days in the fridge.", "Brew it strong, let it cool for an hour, pour it over the fruit, cover.",
	},
	{
		Reduced, "juice boiled down to half", recipe.Minutes{Min: 1 * day, Max: 2 * day}, recipe.Minutes{Min: 1 * day, Max: 3 * day}, true, true,
		"Use it when it is taken up.", "Boil the juice down to half (about 7 minutes at the boil for a cup), let it cool to the room’s warmth, pour it over the fruit in a clean dry jar.",
	},
	{
		Spirit, "spirit", recipe.Minutes{Min: 2 * day, Max: 7 * day}, recipe.Minutes{Min: 7 * day, Max: 60 * day}, true, false,
		"It keeps months, in a closed jar.", "Pour the spirit over the fruit in a clean dry jar till it is covered.",
	},
}

// How much dried fruit takes up, as a share of its weight. Source: practice.
const (
	leastTaken = 0.3
	mostTaken  = 0.6
)

// Simmer is the way when nobody planned: minutes at the simmer, and to cool. Source: practice.
var Simmer = struct{ At, Cool float64 }{10, 60}

// Asked is what is soaked.
type Asked struct {
	Fruit  measure.Grams // dried, as weighed
	Liquid measure.Grams // as poured; of reduced juice before it is boiled down
	Sugars float64       // of the liquid, g in 100 g
	In     In
	Whole  bool
}

// Result is what comes of it.
type Result struct {
	Way       Way
	Time      recipe.Minutes
	Poured    measure.Grams // onto the fruit: half of a juice that is boiled down
	Sugars    float64       // g in 100 g of what is poured
	Taken     [2]measure.Grams
	Left      [2]measure.Grams // least and most that is left over: into the batter
	TooLittle bool             // the fruit would take up more than there is
}

// The errors of Of say what would do.
var (
	ErrFruit  = errors.New("how much dried fruit? Try 250 g")
	ErrLiquid = errors.New("how much liquid? Try 150 g")
	ErrWay    = errors.New("in what? Juice, tea, reduced juice or spirit")
	ErrSugars = errors.New("sugars are 0 to 90 g in 100 g")
)

// Bounds of what is soaked at home, g.
const most = 20000

// Of works out a soak.
func Of(a Asked) (Result, error) {
	var r Result
	for _, w := range Ways {
		if w.ID == a.In {
			r.Way = w
		}
	}
	switch {
	case r.Way.ID == "":
		return r, ErrWay
	case !(a.Fruit > 0 && a.Fruit <= most):
		return r, ErrFruit
	case !(a.Liquid > 0 && a.Liquid <= most):
		return r, ErrLiquid
	case !(a.Sugars >= 0 && a.Sugars <= 90):
		return r, ErrSugars
	}
	r.Time, r.Poured, r.Sugars = r.Way.Chopped, a.Liquid, a.Sugars
	if a.Whole {
		r.Time = r.Way.Whole
	}
	if a.In == Reduced {
		r.Poured = a.Liquid / 2
		r.Sugars = min(2*a.Sugars, 90)
	}
	r.Taken[0], r.Taken[1] = min(leastTaken*a.Fruit, r.Poured), min(mostTaken*a.Fruit, r.Poured)
	r.Left[0], r.Left[1] = r.Poured-r.Taken[1], r.Poured-r.Taken[0]
	r.TooLittle = mostTaken*a.Fruit > r.Poured
	return r, nil
}
