// Package oven foretells how long a batter takes in a tin.
//
// The batter rises to its baked volume and is then a box, a short cylinder or a
// shaped piece that warms by conduction (package heat) until its centre is
// done. The written time of the known recipe is the best datum there is: the
// model's time for the written tin is fitted to it by one factor, and the same
// factor foretells the other tin.
//
// Working values, all from memory or practice: surface coefficient 20 W/m²K on
// all faces; effective conductivity of crumb 0.4 W/m·K; heat capacity 2.7
// kJ/kg·K, raised by the latent heat of the tenth of the mass that boils off
// near the surface (2.26 MJ/kg spread over the warming).
package oven

import (
	"fmt"
	"math"

	"kollaris/core/heat"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

const (
	surface      = 20.0  // W/m²K, still oven and thin metal [memory]
	conductivity = 0.4   // W/mK, moist crumb [memory]
	heatCapacity = 2700. // J/kgK [memory]
	boilsOff     = 0.10  // of the mass [practice: 8 to 14 %]
	latent       = 2.26e6
	startAt      = 22.0 // °C of the batter [practice]
	firstLook    = 0.75 // of the expected time [practice]
)

// shape of a bake by kind. Sources: batter density and expansion from memory
// (handbook of the trade), done temperatures practice.
type character struct {
	density   float64 // g/ml of the batter
	expansion float64 // baked volume over batter volume
	done      float64 // °C at the centre
	piece     float64 // thickness in cm of a shaped piece when baked
	across    float64 // cm
}

var characters = map[recipe.Kind]character{
	recipe.QuickBread:  {1.05, 1.6, 96, 4, 8},
	recipe.AllInCake:   {1.0, 1.6, 96, 4, 8},
	recipe.CreamedCake: {0.9, 1.6, 96, 4, 8},
	recipe.FruitCake:   {1.15, 1.15, 97, 5, 18},
	recipe.Scone:       {1.1, 1.6, 94, 4, 6.5},
	recipe.SodaBread:   {1.0, 1.5, 97, 8, 19},
	recipe.Biscuit:     {1.15, 1.2, 94, 1.2, 7},
	recipe.LeanBread:   {0.55, 1.3, 96, 6, 8}, // proved dough
	recipe.RichBread:   {0.55, 1.3, 89, 6, 8},
	recipe.Flatbread:   {1.1, 1.2, 94, 0.8, 16},
	recipe.OneBowl:     {1.0, 1.5, 96, 5, 10},
}

func of(kind recipe.Kind) character {
	if c, ok := characters[kind]; ok {
		return c
	}
	return characters[recipe.QuickBread]
}

// Fill is how a batter stands in a tin.
type Fill struct {
	Tin        tin.Tin             `json:"tin"`
	Batter     measure.Millilitres `json:"batter_ml"`
	Share      float64             `json:"share"`      // of the tin's volume
	Depth      float64             `json:"depth_cm"`   // before baking
	BakedDepth float64             `json:"baked_cm"`   // at the middle of the rise
	Words      string              `json:"words"`      // how full that is
	TooMuch    measure.Grams       `json:"too_much_g"` // batter above the usual fill, 0 when it fits
}

// most is how full a tin should be at most before baking [practice: loaf and
// cake ½ to ⅔, cups ⅔ to ¾, ring up to ¾; a
// proved yeast dough to 1 cm below the rim].
func most(kind recipe.Kind, t tin.Tin) float64 {
	switch {
	case kind == recipe.LeanBread || kind == recipe.RichBread:
		return 0.9
	case t.Shape == tin.Cups || t.Shape == tin.Ring:
		return 0.75
	}
	return 0.67
}

// FillOf says how the batter of a mass stands in a tin.
func FillOf(kind recipe.Kind, mass measure.Grams, t tin.Tin) Fill {
	c := of(kind)
	f := Fill{Tin: t, Batter: measure.Millilitres(float64(mass) / c.density)}
	if t.Shape == tin.Free || t.Volume <= 0 {
		f.Depth, f.BakedDepth, f.Words = c.piece/c.expansion, c.piece, "shaped by hand"
		return f
	}
	f.Share = float64(f.Batter / t.Total())
	f.Depth = f.Share * t.Depth
	f.BakedDepth = f.Depth * c.expansion
	limit := most(kind, t)
	switch {
	case f.Share > limit*1.06:
		f.TooMuch = measure.Grams((f.Share - limit) * float64(t.Total()) * c.density)
		f.Words = "too full: it may run over"
	case f.Share < 0.33:
		f.Words = "low: it comes out flat and is done early"
	case f.Share < 0.48:
		f.Words = "on the low side"
	default:
		f.Words = "a usual fill"
	}
	return f
}

// Estimate is the foretold bake.
type Estimate struct {
	Oven      measure.Celsius `json:"oven_c"`
	Minutes   float64         `json:"minutes"`
	Low       float64         `json:"low"`
	High      float64         `json:"high"`
	FirstLook float64         `json:"first_look"`
	Done      measure.Celsius `json:"done_c"` // at the centre
	Fill      Fill            `json:"fill"`
	Fitted    bool            `json:"fitted"` // to the recipe's own time
	Factor    float64         `json:"factor"` // written time over the model's
	Why       string          `json:"why"`
}

// body is the baked shape of one tin's share.
func body(kind recipe.Kind, mass measure.Grams, t tin.Tin) (heat.Body, float64) {
	c := of(kind)
	f := FillOf(kind, mass, t)
	if t.Shape == tin.Free || t.Volume <= 0 {
		return heat.Body{Length: c.across / 100, Height: c.piece / 100, Round: true}, c.density / c.expansion
	}
	taper := math.Sqrt(t.Area() / openArea(t)) // the tin's mean opening, not its rim
	b := heat.Body{Length: t.Length * taper / 100, Width: t.Width * taper / 100, Height: f.BakedDepth / 100, Round: t.Shape == tin.Round || t.Shape == tin.Cups}
	if t.Shape == tin.Ring { // unrolled: a bar as wide as the wall between funnel and rim
		b.Round = false
		b.Length, b.Width = math.Pi*t.Length*0.62/100, t.Length*0.34/100
	}
	return b, c.density / c.expansion
}

func openArea(t tin.Tin) float64 {
	a := t.Length * t.Width
	if t.Shape == tin.Round || t.Shape == tin.Cups || t.Shape == tin.Ring {
		a *= math.Pi / 4
	}
	return math.Max(a, 1)
}

// model gives the unfitted minutes.
func model(kind recipe.Kind, mass measure.Grams, t tin.Tin, oven measure.Celsius) (float64, error) {
	b, density := body(kind, mass, t)
	if b.Height <= 0 {
		return 0, fmt.Errorf("there is no batter to bake")
	}
	c := of(kind)
	// the vapour that leaves takes its latent heat: spread over the warming
	capacity := heatCapacity + boilsOff*latent/(c.done-startAt)*0.15 // the share that the centre feels [calculated: the handbook loaf then takes 57 min]
	s, err := b.TimeTo(heat.Matter{K: conductivity, RhoC: density * 1000 * capacity}, surface, startAt, float64(oven), c.done)
	return s / 60, err
}

// Baking is a known bake: what the recipe says.
type Baking struct {
	Kind    recipe.Kind
	Mass    measure.Grams
	Tin     tin.Tin
	Oven    measure.Celsius
	Minutes float64 // written time, 0 when none is written
}

// Foretell estimates the bake of mass in t at oven, fitted to the known bake
// when that has a time. The window is ±10 % where it is fitted and the tin's
// kind stays, wider otherwise.
func Foretell(known Baking, mass measure.Grams, t tin.Tin, oven measure.Celsius) (Estimate, error) {
	raw, err := model(known.Kind, mass, t, oven)
	if err != nil {
		return Estimate{}, err
	}
	e := Estimate{Oven: oven, Done: measure.Celsius(of(known.Kind).done), Fill: FillOf(known.Kind, mass, t), Factor: 1}
	spread := 0.25
	e.Why = "The recipe gives no time, so this is the conduction model alone: look early."
	if known.Minutes > 0 {
		ref, err := model(known.Kind, known.Mass, known.Tin, known.Oven)
		if err == nil && ref > 0 {
			e.Fitted, spread = true, 0.10
			e.Factor = known.Minutes / ref
			e.Why = fmt.Sprintf("Fitted to the recipe's own %s min in the %s; the model alone says %s min there.", measure.Digits(known.Minutes, 3), known.Tin.Words(), measure.Digits(ref, 2))
			if t.Shape != known.Tin.Shape || e.Factor < 0.6 || e.Factor > 1.7 {
				spread = 0.15
			}
		}
	}
	e.Minutes = raw * e.Factor
	e.Low, e.High = e.Minutes*(1-spread), e.Minutes*(1+spread)
	e.FirstLook = e.Minutes * firstLook
	return e, nil
}
