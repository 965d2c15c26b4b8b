package heat

import "math"

// Face is a part of a body's surface.
type Face int

// The faces. Inner is the wall of a ring's funnel.
const (
	Top Face = iota
	Bottom
	Side
	Inner
	faces
)

// Grid is a body cut into cells, of which symmetry leaves a quarter of a box, or a
// half-plane of what is round. Axis 0 runs from the middle outwards (length or
// radius), axis 1 likewise (width; one cell where the body is round), axis 2 upwards.
type Grid struct {
	N       [3]int
	volume  []float64    // m³ of each cell, 0 where there is none
	links   [3][]float64 // area over distance to the next cell along an axis, m
	contact [faces][]contact
	Volume  float64 // m³ of all cells
	Inner   float64 // m, radius of a ring's funnel
	size    [3]float64
}

// Height is the body's, m.
func (g *Grid) Height() float64 { return g.size[2] * float64(g.N[2]) }

// contact is where a cell meets the air or the tin.
type contact struct {
	cell       int32
	area, half float64 // m², and m from the cell's middle to its face
}

func newGrid(n [3]int) *Grid {
	g := &Grid{N: n, volume: make([]float64, n[0]*n[1]*n[2])}
	for a := range g.links {
		g.links[a] = make([]float64, len(g.volume))
	}
	return g
}

func (g *Grid) at(i, j, k int) int { return (i*g.N[1]+j)*g.N[2] + k }

// cells is how many lie along an axis of that many cells' length where n stand on the
// height, before each is cut finer. They are capped: a sheet tin is long and shallow, and
// its middle hardly knows of its ends.
func cells(x float64, n, finer int) int {
	return finer * max(3, min(n, int(math.Round(x))))
}

// Box cuts a box; n cells stand on its height, others as nearly as deep as the cap
// allows. Lengths in m.
func Box(length, width, height float64, n, finer int) *Grid {
	a, b := length/2, width/2
	d := height / float64(n)
	g := newGrid([3]int{cells(a/d, n, finer), cells(b/d, n, finer), finer * n})
	dx, dy, dz := a/float64(g.N[0]), b/float64(g.N[1]), height/float64(g.N[2])
	g.size = [3]float64{dx, dy, dz}
	for i := range g.N[0] {
		for j := range g.N[1] {
			for k := range g.N[2] {
				c := g.at(i, j, k)
				g.volume[c] = dx * dy * dz
				if i+1 < g.N[0] {
					g.links[0][c] = dy * dz / dx
				} else {
					g.touch(Side, c, dy*dz, dx/2)
				}
				if j+1 < g.N[1] {
					g.links[1][c] = dx * dz / dy
				} else {
					g.touch(Side, c, dx*dz, dy/2)
				}
				g.ends(c, k, dx*dy, dz)
			}
		}
	}
	g.sum()
	return g
}

// Round cuts a cylinder, or a ring where inner is more than 0. Radii and height in m.
func Round(inner, outer, height float64, n, finer int) *Grid {
	d := height / float64(n)
	g := newGrid([3]int{cells((outer-inner)/d, n, finer), 1, finer * n})
	dr, dz := (outer-inner)/float64(g.N[0]), height/float64(g.N[2])
	g.size, g.Inner = [3]float64{dr, 0, dz}, inner
	for i := range g.N[0] {
		r0, r1 := inner+float64(i)*dr, inner+float64(i+1)*dr
		flat := math.Pi * (r1*r1 - r0*r0)
		for k := range g.N[2] {
			c := g.at(i, 0, k)
			g.volume[c] = flat * dz
			if i+1 < g.N[0] {
				g.links[0][c] = 2 * math.Pi * r1 * dz / dr
			} else {
				g.touch(Side, c, 2*math.Pi*r1*dz, dr/2)
			}
			if i == 0 && inner > 0 {
				g.touch(Inner, c, 2*math.Pi*inner*dz, dr/2)
			}
			g.ends(c, k, flat, dz)
		}
	}
	g.sum()
	return g
}

// Cap cuts a spherical cap, flat side down: a roll or a biscuit. Its stepped surface is
// given the area of the cap.
func Cap(radius, height float64, n, finer int) *Grid {
	d := height / float64(n)
	g := newGrid([3]int{cells(radius/d, n, finer), 1, finer * n})
	dr, dz := radius/float64(g.N[0]), height/float64(g.N[2])
	g.size = [3]float64{dr, 0, dz}
	sphere := (radius*radius + height*height) / (2 * height)
	top := func(r float64) float64 { return math.Sqrt(math.Max(0, sphere*sphere-r*r)) - (sphere - height) }
	in := func(i, k int) bool {
		return i < g.N[0] && k < g.N[2] && (float64(k)+0.5)*dz <= math.Max(top((float64(i)+0.5)*dr), dz)
	}
	for i := range g.N[0] {
		r0, r1 := float64(i)*dr, float64(i+1)*dr
		flat := math.Pi * (r1*r1 - r0*r0)
		for k := range g.N[2] {
			if !in(i, k) {
				continue
			}
			c := g.at(i, 0, k)
			g.volume[c] = flat * dz
			if in(i+1, k) {
				g.links[0][c] = 2 * math.Pi * r1 * dz / dr
			} else {
				g.touch(Top, c, 2*math.Pi*r1*dz, dr/2)
			}
			if k == 0 {
				g.touch(Bottom, c, flat, dz/2)
			}
			if in(i, k+1) {
				g.links[2][c] = flat / dz
			} else {
				g.touch(Top, c, flat, dz/2)
			}
		}
	}
	g.sum()
	want := math.Pi * height * height * (3*sphere - height) / 3
	for c := range g.volume { // the steps hold a little more or less than the cap
		g.volume[c] *= want / g.Volume
	}
	g.Volume = want
	area := 0.0
	for _, t := range g.contact[Top] {
		area += t.area
	}
	for n := range g.contact[Top] {
		g.contact[Top][n].area *= 2 * math.Pi * sphere * height / area
	}
	return g
}

func (g *Grid) touch(f Face, cell int, area, half float64) {
	g.contact[f] = append(g.contact[f], contact{int32(cell), area, half})
}

// ends links a cell upwards, or to top and bottom.
func (g *Grid) ends(c, k int, flat, dz float64) {
	if k == 0 {
		g.touch(Bottom, c, flat, dz/2)
	}
	if k+1 < g.N[2] {
		g.links[2][c] = flat / dz
	} else {
		g.touch(Top, c, flat, dz/2)
	}
}

func (g *Grid) sum() {
	g.Volume = 0
	for _, v := range g.volume {
		g.Volume += v
	}
}

// Across is how many cells lie from the middle outwards in Plane, and their size in m:
// along the width of a box, along the radius of what is round.
func (g *Grid) Across() (n int, size float64) {
	if g.N[1] > 1 {
		return g.N[1], g.size[1]
	}
	return g.N[0], g.size[0]
}
