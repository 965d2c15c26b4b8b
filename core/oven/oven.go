// Package oven foretells how long a batter takes in a tin, and what goes on in it.
//
// The batter rises to its baked volume and warms by conduction (package heat) through
// faces that differ: the top in the oven's air, the tin's walls by their metal, a
// funnel. Water boils off where it comes to the boiling point of the altitude. It is
// done when its slowest point has held the temperature of its kind. The written time of
// the known recipe is the best datum there is: the model's time for the written bake is
// fitted to it by one factor, and the same factor foretells every other tin and oven.
//
// Working values, all from memory or practice, are beside their constants; composition
// gives heat capacity and conductivity (Choi and Okos).
package oven

import (
	"context"
	"fmt"
	"math"
	"sync"

	"kollaris/core/heat"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

const (
	startAt   = 22.0 // °C of the batter [practice]
	firstLook = 0.75 // of the expected time [practice]
	ownTime   = 0.9  // of the model's own time: where the written one is longer, the first look comes then [practice: early looks cost little]
	beforeLow = 0.92 // of the window's beginning at the latest, where the window is wide [likewise]
	toppings  = 0.90 // of the expected time: when what would sink goes on [practice]
	held      = 2.0  // minutes that the slowest point keeps the temperature of done [practice: one to two]
	margin    = 3.0  // K below boiling that nothing can be expected to pass [practice]
	working   = 6    // cells on the height of the coarser of two meshes, the other is twice as fine
)

// crumb is a crumb's conductivity over that of its dense food: pores hinder, vapour that
// moves in them helps more. Source: calculated, so that the tests' loaf, cups and rich
// fruit cake take their times.
func crumb(porosity float64) float64 { return 0.8 + 0.9*porosity }

// Baking is a bake: what, in which tin, in which oven.
type Baking struct {
	Kind    recipe.Kind     `json:"kind"`
	Mass    measure.Grams   `json:"mass_g"`           // in all tins together
	Pieces  int             `json:"pieces,omitempty"` // shaped pieces, 0 where that is not known
	Food    heat.Food       `json:"food"`             // zero: an ordinary batter
	Colour  float64         `json:"colour"`           // how readily it browns; 0 or 1 as an ordinary batter
	Tin     tin.Tin         `json:"tin"`
	Oven    measure.Celsius `json:"oven_c"` // what the dial is set to at first
	Setup   Setup           `json:"setup"`
	Learned Learned         `json:"learned,omitzero"`  // of the oven it stands in; zero: the dial is believed
	Minutes float64         `json:"minutes,omitempty"` // written time, 0 when none is written
	Dense   float64         `json:"dense,omitempty"`   // share by which it is denser than its kind; 0 as its kind
}

// character is the kind's, as dense as this batter is.
func (b Baking) character() recipe.Trade {
	c := b.Kind.Trade()
	c.Density *= 1 + b.Dense
	return c
}

// ordinary is the composition of a sweet quick bread. Source: calculated from the
// demo's pear loaf.
var ordinary = heat.Food{Water: 0.35, Protein: 0.06, Fat: 0.13, Fibre: 0.02, Ash: 0.015}

// Done is the temperature of the slowest point at which a kind is done; it never passes
// the boiling point at the altitude less 3 K, or nothing would be done in the mountains.
func Done(kind recipe.Kind, altitude float64) measure.Celsius {
	return measure.Celsius(math.Min(float64(kind.Trade().Done), heat.Boils(altitude)-margin))
}

// grid is the baked shape of one tin's share, cut into cells so many times finer than the
// working mesh.
func (b Baking) grid(finer int) (g *heat.Grid, density float64, err error) {
	c := b.character()
	density = 1000 * c.Density / c.Expansion
	if b.Tin.Shape == tin.Free || b.Tin.Volume <= 0 {
		r, h := c.Across/200, c.Thick/100
		by := b.pieceScale(density)
		r, h = r*by, h*by
		if b.Kind.Trade().Upright {
			return heat.Round(0, r, h, working, finer), density, nil // cut out: upright sides
		}
		return heat.Cap(r, math.Min(h, r), working, finer), density, nil
	}
	f := b.fill()
	height := f.BakedDepth / 100
	if !(height >= 0.002) {
		return nil, 0, fmt.Errorf("batter %.1f mm deep cannot be foretold: it dries as it bakes", 1000*height)
	}
	taper := math.Sqrt(b.Tin.Taper()) // the tin's mean opening, not its rim
	length, width := b.Tin.Length*taper/100, b.Tin.Width*taper/100
	switch b.Tin.Shape {
	case tin.Ring:
		outer := b.Tin.Length / 200
		inner := math.Sqrt(
			math.Max(0.01*outer*outer, outer*outer-b.Tin.Area()/1e4/math.Pi),
		) // what the volume leaves; a tenth of the radius at least
		return heat.Round(inner, outer, height, working, finer), density, nil
	case tin.Round, tin.Cups:
		return heat.Round(0, length/2, height, working, finer), density, nil
	}
	return heat.Box(length, width, height, working, finer), density, nil
}

// pieceScale is how much longer than usual a piece is in each direction, from its weight;
// a half to two and a half times, beyond which the count is taken for wrong [practice].
func (b Baking) pieceScale(density float64) float64 {
	if b.Pieces <= 0 || b.Mass <= 0 {
		return 1
	}
	c := b.character()
	r, h := c.Across/200, c.Thick/100
	usual := math.Pi * h * (3*r*r + h*h) / 6 // a cap's volume
	if b.Kind.Trade().Upright {
		usual = math.Pi * r * r * h
	}
	each := float64(b.Mass) / 1000 / float64(b.Pieces) / density
	return math.Max(0.5, math.Min(2.5, math.Cbrt(each/usual)))
}

// run puts the bake into its surroundings, so many times finer than the working mesh.
// Times of the oven's stages are divided by factor: the model's clock runs so much faster.
func (b Baking) run(finer int, factor float64) (*heat.Run, error) {
	g, density, err := b.grid(finer)
	if err != nil {
		return nil, err
	}
	food := b.Food
	if food == (heat.Food{}) {
		food = ordinary
	}
	boils := heat.Boils(b.Setup.Altitude)
	matter := matterOf(substance{food, density, boils, nutrition.Loss(b.Kind)})
	start := float64(b.Setup.Start)
	if start == 0 {
		start = startAt
	}
	return &heat.Run{
		Grid: g, Matter: matter, Start: start, Boils: boils, Skin: skin, Wet: b.wet(), Walls: b.Setup.walls(b.Tin),
		Stages: b.crowded().stages(float64(b.Oven), b.Learned.Offset, b.Tin, factor),
	}, nil
}

// crowded is the setup as its pieces stand: rolls rise until they shade each other, as
// tins in a full oven do. Source: memory.
func (b Baking) crowded() Setup {
	s := b.Setup
	s.Full = s.Full || b.Tin.Shape == tin.Free && b.Pieces > 1 && b.Kind.Yeasted()
	return s
}

// substance is what the tables of a baked batter are made from.
type substance struct {
	food                 heat.Food
	density, boils, loss float64 // kg/m³, °C, share of mass
}

// matters keeps the tables: every tin of a batter has the same.
var matters = cache[substance, *heat.Matter]{m: map[substance]*heat.Matter{}}

func matterOf(s substance) *heat.Matter {
	if m, ok := matters.get(s); ok {
		return m
	}
	conducts := crumb(1 - s.density/s.food.Density(startAt))
	m := heat.NewMatter(
		func(t float64) float64 { return s.density * s.food.Capacity(t) },
		func(t float64) float64 { return conducts * s.food.Conductivity(t) }, s.density*s.loss*heat.Latent, s.boils, 2,
	)
	matters.put(s, m)
	return m
}

// longest is how long a bake is followed, s.
const longest = 10 * 3600.0

// crossing is when the slowest point has been done for a while, s of the model's clock, by
// a mesh so many times finer than the working one. It is remembered: the written bake
// comes again with every change.
func (b Baking) crossing(ctx context.Context, finer int, factor float64) (float64, error) {
	if err := b.check(); err != nil {
		return 0, err
	}
	seen := b
	seen.Minutes, seen.Colour, seen.Learned = 0, 0, Learned{Offset: b.Learned.Offset} // what the time hangs on
	key := fmt.Sprint(seen, finer, factor)
	if x, ok := crossings.get(key); ok {
		return x, nil
	}
	r, err := b.run(finer, factor)
	if err != nil {
		return 0, err
	}
	target := float64(Done(b.Kind, b.Setup.Altitude))
	at, last, lastT := -1.0, 0.0, 0.0
	err = r.Follow(ctx, longest/factor, func(s *heat.Moment) bool {
		if s.Coldest >= target {
			at = last + (s.Seconds-last)*(target-lastT)/math.Max(s.Coldest-lastT, 1e-9)
			return false
		}
		last, lastT = s.Seconds, s.Coldest
		return true
	})
	switch {
	case err != nil:
		return 0, err
	case at < 0:
		return 0, neverReached(target, b.Oven)
	}
	at += 60 * held
	crossings.put(key, at)
	return at, nil
}

func neverReached(target float64, at measure.Celsius) error {
	return fmt.Errorf("%.0f °C in the middle is never reached at %.0f °C", target, float64(at))
}

// check refuses what no kitchen holds, so that every answer is finite.
func (b Baking) check() error {
	within := func(x, low, high float64) bool { return x >= low && x <= high } // not for NaN
	t := b.Tin
	free := t.Shape == tin.Free || t.Volume <= 0
	switch {
	case !within(float64(b.Mass), 1, 50000):
		return fmt.Errorf("a batter of %s cannot be foretold: 1 g to 50 kg can", b.Mass)
	case !within(float64(b.Oven), 0, 350):
		return fmt.Errorf("an oven of %.0f °C cannot be foretold: up to 350 °C can", float64(b.Oven))
	case !within(float64(b.Setup.Start), -25, 60):
		return fmt.Errorf("batter at %.0f °C cannot be foretold: -25 to 60 °C can", float64(b.Setup.Start))
	case !within(b.Setup.Altitude, -500, 6000):
		return fmt.Errorf("%.0f m of altitude cannot be foretold: up to 6000 m can", b.Setup.Altitude)
	case !free && !(within(t.Length, 2, 120) && within(t.Width, 2, 120) && within(t.Depth, 1, 40)):
		return fmt.Errorf(
			"a tin of %g × %g × %g cm cannot be foretold: 2 to 120 cm wide and 1 to 40 deep can", t.Length, t.Width,
			t.Depth,
		)
	}
	if target := float64(Done(b.Kind, b.Setup.Altitude)); b.Setup.hottest(
		float64(b.Oven),
	)+b.Learned.Offset <= target+1 {
		return neverReached(target, b.Oven)
	}
	for _, st := range b.Setup.Stages {
		if !within(float64(st.Oven), 0, 350) || !within(st.After, 0, 600) {
			return fmt.Errorf(
				"%.0f °C after %.0f min cannot be foretold: up to 350 °C and 600 min can", float64(st.Oven), st.After,
			)
		}
	}
	return nil
}

// model gives the unfitted minutes, extrapolated over two meshes.
func (b Baking) model(ctx context.Context, factor float64) (float64, error) {
	coarse, err := b.crossing(ctx, 1, factor)
	if err != nil {
		return 0, err
	}
	fine, err := b.crossing(ctx, 2, factor)
	return (fine + (fine-coarse)/(math.Pow(2, heat.Order)-1)) / 60, err
}

// coarse is the model by the coarser mesh.
func (b Baking) coarse(ctx context.Context, factor float64) (float64, error) {
	s, err := b.crossing(ctx, 1, factor)
	return s / 60, err
}

// cache keeps what was worked out, a few hundred of them.
type cache[K comparable, V any] struct {
	mu sync.Mutex
	m  map[K]V
}

var crossings = cache[string, float64]{m: map[string]float64{}}

func (m *cache[K, V]) get(key K) (V, bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	x, ok := m.m[key]
	return x, ok
}

func (m *cache[K, V]) put(key K, x V) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if len(m.m) > 500 {
		clear(m.m)
	}
	m.m[key] = x
}
