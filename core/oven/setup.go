package oven

import (
	"cmp"
	"math"

	"kollaris/core/heat"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// walls are how heat gets through a tin: W/(m² K) from the oven, J/(m² K) that the wall
// itself takes up, thickness times its heat by volume. Sources: coefficients from
// memory; capacities calculated from 5 mm of glass (2.1 MJ/m³K), 7 mm of stone (2.0),
// 5 mm of iron (3.6).
var walls = map[tin.Material]struct{ h, capacity float64 }{
	tin.Bright: {
		20, 0,
	}, tin.Dark: {26, 0}, tin.Glass: {26, 10500}, tin.Silicone: {12, 0}, tin.Stone: {20, 14000}, tin.Iron: {24, 18000},
}

// Setup is how a bake stands in its oven. Its zero value is a preheated still oven, a
// bright tin, at sea level.
type Setup struct {
	Of       tin.Material    `json:"of,omitempty"`         // what the tin is made of, as the tin itself says where empty
	Fan      bool            `json:"fan,omitempty"`        //
	Steam    bool            `json:"steam,omitempty"`      // a tray of water below
	Full     bool            `json:"full,omitempty"`       // other tins beside it
	Collar   bool            `json:"collar,omitempty"`     // a wet strip around the tin
	Paper    bool            `json:"paper,omitempty"`      // wrapped in doubled paper
	Cold     bool            `json:"cold,omitempty"`       // put in before the oven is hot
	Covered  bool            `json:"covered,omitempty"`    // under foil or a lid, until the last stage where there are several
	Flame    bool            `json:"flame,omitempty"`      // in a lidded pan on a low flame: the heat is that of the pan's floor
	Start    measure.Celsius `json:"start_c,omitempty"`    // of the batter; 0 for the room's
	Altitude float64         `json:"altitude_m,omitempty"` //
	Stages   []Stage         `json:"stages,omitempty"`     // how the oven is set after the first setting
}

// Stage is a setting that begins after so many minutes in all.
type Stage struct {
	After float64         `json:"after_min"`       // from the start
	Oven  measure.Celsius `json:"oven_c"`          // 0 as before
	Lower bool            `json:"lower,omitempty"` // moved to a lower shelf
}

func (s Setup) changes() bool { return len(s.Stages) > 0 || s.Cold }

// hottest is the hottest setting, °C.
func (s Setup) hottest(first float64) float64 {
	for _, st := range s.Stages {
		first = math.Max(first, float64(st.Oven))
	}
	return first
}

// How surroundings change the coefficients. Sources: memory, calibrated so that a fan
// oven set 20 °C lower takes the same time.
const (
	stillTop   = 20.0 // W/(m² K)
	fanTimes   = 1.30
	steamTimes = 0.92
	fullTimes  = 0.85
	paperTimes = 0.62
	foilTimes  = 0.55  // at the top
	heatsUp    = 12.0  // °C a minute, an oven that is warming
	coolsDown  = 4.0   // °C a minute, a closed oven that is set lower
	touches    = 120.0 // W/(m² K), tin to batter
	collar     = 0.5   // kg/m² of water in a wet strip
	roomAt     = 22.0
	lowerTop   = 0.88  // on a lower shelf: less from above,
	lowerFloor = 1.12  // and more from below
	funnel     = 0.8   // of the side's, inside a ring
	underLid   = 105.0 // °C, the air in a lidded pan
	lidFollows = 0.2   // of what its floor is hotter
	steamed    = 18.0  // W/(m² K), from it
	floor      = 60.0  // W/(m² K), from the pan's floor through paper
)

// radiant is how a coefficient given for 177 °C changes with the oven's heat: half of it
// is radiation, which goes with the third power of the mean of oven and crust (373 K).
// Source: calculated, Stefan-Boltzmann.
func radiant(air float64) float64 {
	mean := (math.Max(air, 100) + 273 + 373) / 2
	return 0.5 + 0.5*math.Pow(mean/411.5, 3)
}

// coefficients are those of the faces in an oven of that heat, °C.
func (s Setup) coefficients(t tin.Tin, air float64, covered, lower bool) (h [4]float64) {
	if s.Flame {
		h[heat.Top], h[heat.Side], h[heat.Bottom], h[heat.Inner] = steamed, steamed, floor, steamed
		return h
	}
	all := radiant(air)
	for _, x := range []struct {
		on bool
		by float64
	}{{s.Fan, fanTimes}, {s.Steam, steamTimes}, {s.Full, fullTimes}} {
		if x.on {
			all *= x.by
		}
	}
	wall := walls[s.of(t)].h
	if s.Paper {
		wall *= paperTimes
	}
	top, side, bottom := stillTop*all, wall*all, wall*all
	if t.Shape == tin.Free {
		side = top // nothing stands around it
	}
	if covered {
		top *= foilTimes
	}
	if lower {
		top, bottom = top*lowerTop, bottom*lowerFloor
	}
	h[heat.Top], h[heat.Side], h[heat.Bottom], h[heat.Inner] = top, side, bottom, funnel*side
	return h
}

// of is the material: what is asked, or what the tin says.
func (s Setup) of(t tin.Tin) tin.Material { return cmp.Or(s.Of, t.Of) }

// walls are the tin's walls where they take up heat of their own or are wet.
func (s Setup) walls(t tin.Tin) (w [4]heat.Wall) {
	if c := walls[s.of(t)].capacity; c > 0 {
		one := heat.Wall{Capacity: c, Contact: touches, Start: roomAt}
		w[heat.Side], w[heat.Bottom], w[heat.Inner] = one, one, one
	}
	if s.Collar {
		w[heat.Side] = heat.Wall{
			Capacity: math.Max(2000, w[heat.Side].Capacity), Contact: touches, Start: roomAt, Water: collar,
		}
	}
	return w
}

// stages writes the oven's settings for the model's clock.
func (s Setup) stages(first, offset float64, t tin.Tin, factor float64) []heat.Stage {
	var out []heat.Stage
	add := func(minutes, from, to float64, covered, lower bool) {
		st := heat.Stage{
			Seconds: 60 * minutes / factor, From: from + offset, To: to + offset,
			H: s.coefficients(t, to, covered, lower),
		}
		if s.Flame {
			lid := underLid + lidFollows*(to-underLid) - to
			st.Off[heat.Top], st.Off[heat.Side], st.Off[heat.Inner] = lid, lid, lid
		}
		out = append(out, st)
	}
	at, air, to := 0.0, first, first
	settings := append([]Stage{{Oven: measure.Celsius(first)}}, s.Stages...)
	if s.Cold {
		air = roomAt
	}
	for n, set := range settings {
		ends := longest / 60
		if n+1 < len(settings) {
			ends = math.Max(settings[n+1].After, at)
		}
		covered := s.Covered && (len(settings) == 1 || n+1 < len(settings))
		if set.Oven > 0 {
			to = float64(set.Oven)
		}
		rate := heatsUp
		if to < air {
			rate = coolsDown
		}
		if ramp := math.Min(math.Abs(to-air)/rate, ends-at); ramp > 0 {
			reached := air + math.Copysign(ramp*rate, to-air)
			add(ramp, air, reached, covered, set.Lower)
			at, air = at+ramp, reached
		}
		if ends > at {
			add(ends-at, air, air, covered, set.Lower)
			at = ends
		}
	}
	return out
}

// How much of the heat at an open face evaporation takes while the surface is wet. Source:
// memory, calibrated so that thin layers and cups take their times beside a loaf.
const (
	wetBatter = 0.5
	wetDough  = 0.3 // shaped, floured or skinned
)

// wet is what evaporation takes at the faces that stand open.
func (b Baking) wet() (w [4]float64) {
	share := wetBatter
	switch b.Kind {
	case recipe.Scone, recipe.Biscuit, recipe.Flatbread, recipe.SodaBread, recipe.LeanBread, recipe.RichBread:
		share = wetDough
	}
	w[heat.Top] = share
	if b.Tin.Shape == tin.Free {
		w[heat.Side] = share
	}
	if b.Setup.Flame {
		w = [4]float64{} // under a lid the air is steam
	}
	return w
}
