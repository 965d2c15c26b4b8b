package heat

import (
	"context"
	"math"
)

// Order is the order of convergence in the size of a cell where water boils off, by which
// two meshes are extrapolated. Measured on ten bakes, from a sheet to a fruit cake, with
// 6, 12 and 24 cells on the height: between 0.6 and 1.5; with 1 the working meshes of
// 6 and 12 lie within 0.9 % of the finest, the tests' loaf within 0.5 %.
const Order = 1.0

// Wall is what stands between a face and the air: nothing worth its own heat where
// Capacity is 0.
type Wall struct {
	Capacity float64 // J/(m² K)
	Contact  float64 // W/(m² K) to the body
	Water    float64 // kg/m² that must boil off before it passes the boiling point
	Start    float64 // °C
}

// Stage is a time in surroundings: the air goes from one temperature to another, and
// each face has its coefficient.
type Stage struct {
	Seconds  float64
	From, To float64        // °C
	H        [faces]float64 // W/(m² K)
	Off      [faces]float64 // K that the surroundings of a face differ from the air
}

// Run is one body in its surroundings.
type Run struct {
	Grid   *Grid
	Matter *Matter
	Start  float64 // °C
	Boils  float64 // °C, for wet walls
	Walls  [faces]Wall
	Stages []Stage        // the last is held until the run ends
	Wet    [faces]float64 // share of a face's heat that evaporation takes while what lies beneath is below 75 °C, falling to none at 100 °C
	Skin   float64        // m² K/W of a dried skin on the top, which forms while what lies beneath passes 70 to 100 °C; it shows in Moment.Surface alone, being too thin to hold much heat
}

// Moment is what a step can be asked. It is valid only while it is being looked at.
type Moment struct {
	Seconds  float64
	Air      float64
	Coldest  float64 // °C of the coldest point
	Surface  float64 // °C of the top's skin in the middle
	HeatIn   float64 // J through the faces so far
	Enthalpy float64 // J held more than at the start
	run      *field
}

// Plane copies the temperatures of the plane through the middle, column by column from
// the middle outwards, upwards in each; cells that are not there are NaN.
func (s *Moment) Plane(to []float64) []float64 {
	g := s.run.grid
	across, _ := g.Across()
	to = to[:0]
	for n := range across {
		for k := range g.N[2] {
			c := g.at(n, 0, k)
			if g.N[1] > 1 {
				c = g.at(0, n, k)
			}
			if g.volume[c] == 0 {
				to = append(to, math.NaN())
				continue
			}
			to = append(to, s.run.t[c])
		}
	}
	return to
}

// Over is the share of the body's volume hotter than a temperature.
func (s *Moment) Over(t float64) float64 {
	v := 0.0
	for c, x := range s.run.t {
		if x > t {
			v += s.run.grid.volume[c]
		}
	}
	return v / s.run.grid.Volume
}

// field is a run's state.
type field struct {
	grid       *Grid
	h, t, k, q []float64
	wall       [faces]float64 // J/m² that a wall holds above 0 °C
}

// Follow steps through time and shows every other step to see, until that returns false or
// the limit of seconds is reached. It returns the context's error when it was cancelled. The steps allocate nothing.
func (r *Run) Follow(ctx context.Context, limit float64, see func(*Moment) bool) error {
	g := r.Grid
	f := &field{
		grid: g, h: make([]float64, len(g.volume)), t: make([]float64, len(g.volume)),
		k: make([]float64, len(g.volume)), q: make([]float64, len(g.volume)),
	}
	h0 := r.Matter.Enthalpy(r.Start)
	for c := range f.h {
		f.h[c] = h0
		f.t[c], f.k[c] = r.Matter.at(h0)
	}
	for n, w := range r.Walls {
		f.wall[n] = w.Capacity * w.Start
	}
	dt := r.step()
	seen := Moment{run: f}
	middle := g.at(0, 0, g.N[2]-1)
	stage, began := 0, 0.0
	for n := 0; ; n++ {
		if n%64 == 0 && ctx.Err() != nil {
			return ctx.Err()
		}
		for stage+1 < len(r.Stages) && seen.Seconds-began >= r.Stages[stage].Seconds {
			began += r.Stages[stage].Seconds
			stage++
		}
		st := &r.Stages[stage]
		air := st.To
		if st.Seconds > 0 && seen.Seconds-began < st.Seconds {
			air = st.From + (st.To-st.From)*(seen.Seconds-began)/st.Seconds
		}
		seen.Air = air
		if n%scan == 0 {
			seen.Coldest = f.coldest(r.Matter.boils)
			seen.Surface = f.skin(middle, g.size[2]/2, r.Skin, st.H[Top], air+st.Off[Top])
			if !see(&seen) || seen.Seconds >= limit {
				return nil
			}
		}
		f.conduct()
		in := f.faces(r, st, air, dt)
		held := 0.0
		for c, v := range g.volume {
			if v == 0 {
				continue
			}
			d := f.q[c] * dt
			f.h[c] += d / v
			held += d
			f.q[c] = 0
			f.t[c], f.k[c] = r.Matter.at(f.h[c])
		}
		seen.HeatIn += in
		seen.Enthalpy += held
		seen.Seconds += dt
	}
}

// scan is how many steps pass between two looks.
const scan = 2

// coldest is the temperature of the coldest point: that of the coldest cell, less what
// the parabola through its neighbours' means falls below its own mean. Beyond the front
// where water boils off the parabola does not hold: neighbours count up to boiling.
func (f *field) coldest(boils float64) float64 {
	g := f.grid
	at, low := -1, math.Inf(1)
	for c, x := range f.t {
		if x < low && g.volume[c] > 0 {
			at, low = c, x
		}
	}
	over := func(c int) float64 { return math.Max(0, math.Min(f.t[c], boils)-low) }
	out := low
	for a, stride := range [3]int{g.N[1] * g.N[2], g.N[2], 1} {
		i := at / stride % g.N[a]
		up := i+1 < g.N[a] && g.volume[at+stride] > 0
		switch {
		case !up:
		case i > 0 && g.volume[at-stride] > 0:
			before, after := over(at-stride), over(at+stride)
			if d := before + after; d > 1e-9 {
				out -= d/24 + (after-before)*(after-before)/(8*d)
			}
		case i == 0 && a == 0 && g.N[1] == 1 && g.Inner == 0: // at the axis of what is round
			out -= over(at+stride) / 4
		case i == 0 && (a == 1 || a == 0 && g.Inner == 0): // at a plane of symmetry
			out -= over(at+stride) / 6
		}
	}
	return out
}

// skin is the temperature of the face of a cell.
func (f *field) skin(cell int, half, dried, h, air float64) float64 {
	dried *= math.Max(0, math.Min(1, (f.t[cell]-70)/30))
	inside := 1 / (half/f.k[cell] + dried)
	return (inside*f.t[cell] + h*air) / (inside + h)
}

// conduct adds the heat that passes between cells, W.
func (f *field) conduct() {
	g := f.grid
	strides := [3]int{g.N[1] * g.N[2], g.N[2], 1}
	for a, link := range g.links {
		d := strides[a]
		t, k, q := f.t, f.k, f.q
		for c, l := range link {
			if l == 0 {
				continue
			}
			w := l * 0.5 * (k[c] + k[c+d]) * (t[c] - t[c+d])
			q[c] -= w
			q[c+d] += w
		}
	}
}

// faces adds the heat that passes through the faces, W, and returns what came in
// during the step, J.
func (f *field) faces(r *Run, st *Stage, air, dt float64) float64 {
	in := 0.0
	for n := range f.grid.contact {
		list := f.grid.contact[n]
		h, outside := st.H[n], air+st.Off[n]
		wall := &r.Walls[n]
		if wall.Capacity > 0 {
			h, outside = wall.Contact, f.wallAt(n, wall, r.Boils)
		}
		total, area := 0.0, 0.0
		wet := r.Wet[n]
		for _, c := range list {
			h := h
			if wet > 0 {
				h *= 1 - wet*math.Max(0, math.Min(1, (100-f.t[c.cell])/25))
			}
			u := c.area / (1/h + c.half/f.k[c.cell])
			w := u * (outside - f.t[c.cell])
			f.q[c.cell] += w
			total += w
			area += c.area
		}
		in += total * dt
		if wall.Capacity > 0 && area > 0 {
			f.wall[n] += (st.H[n]*(air+st.Off[n]-outside) - total/area) * dt
		}
	}
	return in
}

// wallAt is the temperature of a wall, held at the boiling point while it is wet.
func (f *field) wallAt(n int, w *Wall, boils float64) float64 {
	t := f.wall[n] / w.Capacity
	if w.Water <= 0 || t <= boils {
		return t
	}
	return math.Max(boils, t-w.Water*Latent/w.Capacity)
}

// step is the largest step at which no cell can overshoot, s.
func (r *Run) step() float64 {
	g := r.Grid
	sum := make([]float64, len(g.volume))
	strides := [3]int{g.N[1] * g.N[2], g.N[2], 1}
	for a, link := range g.links {
		for c, l := range link {
			if l > 0 {
				sum[c] += l * r.Matter.mostK
				sum[c+strides[a]] += l * r.Matter.mostK
			}
		}
	}
	area := [faces]float64{}
	for n, list := range g.contact {
		most := r.Walls[n].Contact
		for _, st := range r.Stages {
			most = math.Max(most, st.H[n])
		}
		for _, c := range list {
			if most > 0 {
				sum[c.cell] += c.area / (1/most + c.half/r.Matter.mostK)
			}
			area[n] += c.area
		}
	}
	dt := math.Inf(1)
	for c, s := range sum {
		if s > 0 {
			dt = math.Min(dt, r.Matter.least*g.volume[c]/s)
		}
	}
	for n, w := range r.Walls { // a wall must not overshoot either
		if w.Capacity > 0 && area[n] > 0 {
			most := w.Contact
			for _, st := range r.Stages {
				most = math.Max(most, w.Contact+st.H[n])
			}
			dt = math.Min(dt, w.Capacity/most)
		}
	}
	return 0.9 * dt
}
