package heat_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Analytic solutions of conduction, against which the field is held. A body at T0 is
// put into surroundings at T∞ with a surface coefficient h. The excess temperature at
// the centre, θ = (T - T∞)/(T0 - T∞), is
//
//	θ(t) = Σ Cn exp(-ζn² Fo),  Fo = k t / (ρc L²),  Bi = h L / k
//
// slab of half thickness L: ζ tan ζ = Bi,  C = 4 sin ζ / (2ζ + sin 2ζ)
// long cylinder of radius L: ζ J1(ζ)/J0(ζ) = Bi,  C = 2 J1 / (ζ (J0² + J1²))
// sphere of radius L: 1 - ζ cot ζ = Bi,  C = 4 (sin ζ - ζ cos ζ)/(2ζ - sin 2ζ)
//
// and the product of such θ for a body that is their intersection (box, short
// cylinder). Source: Carslaw and Jaeger, Conduction of Heat in Solids, 2nd ed.
// (1959), sections 3.11, 7.7 and 9.4; product rule section 1.15.

// terms is how many terms of a series are summed; the 20th is below 1e-6 for
// Fo > 0.005, a minute into any bake.
const terms = 20

// series is one body's eigenvalues and coefficients for one Biot number.
type series struct{ zeta, c [terms]float64 }

// at sums the series at a Fourier number.
func (s *series) at(fo float64) float64 {
	sum := 0.0
	for n, z := range s.zeta {
		e := z * z * fo
		if e > 40 {
			break
		}
		sum += s.c[n] * math.Exp(-e)
	}
	return sum
}

// slabAt returns θ at the centre of a slab.
func slabAt(bi, fo float64) float64 { return slab(bi).at(fo) }

// cylinderAt returns θ on the axis of a long cylinder.
func cylinderAt(bi, fo float64) float64 { return cylinder(bi).at(fo) }

// sphereAt returns θ at the centre of a sphere.
func sphereAt(bi, fo float64) float64 { return sphere(bi).at(fo) }

func slab(bi float64) *series {
	s := &series{}
	for n := range terms {
		lo, hi := float64(n)*math.Pi, (float64(n)+0.5)*math.Pi
		z := root(lo, hi, func(z float64) float64 { return z*math.Sin(z) - bi*math.Cos(z) })
		s.zeta[n], s.c[n] = z, 4*math.Sin(z)/(2*z+math.Sin(2*z))
	}
	return s
}

func cylinder(bi float64) *series {
	s, lo := &series{}, 0.0
	f := func(z float64) float64 { return z*math.J1(z) - bi*math.J0(z) }
	for n := range terms {
		hi := lo + 0.5
		for f(lo+1e-9)*f(hi) > 0 {
			hi += 0.25
		}
		z := root(lo+1e-9, hi, f)
		j0, j1 := math.J0(z), math.J1(z)
		s.zeta[n], s.c[n] = z, 2/z*j1/(j0*j0+j1*j1)
		lo = z + 0.5
	}
	return s
}

func sphere(bi float64) *series {
	s := &series{}
	for n := range terms {
		lo, hi := float64(n)*math.Pi+1e-9, (float64(n)+1)*math.Pi-1e-9
		z := root(lo, hi, func(z float64) float64 { return math.Sin(z) - z*math.Cos(z) - bi*math.Sin(z) })
		s.zeta[n], s.c[n] = z, 4*(math.Sin(z)-z*math.Cos(z))/(2*z-math.Sin(2*z))
	}
	return s
}

// root bisects f between lo and hi, where it changes sign once.
func root(lo, hi float64, f func(float64) float64) float64 {
	neg := f(lo) < 0
	for range 60 {
		mid := (lo + hi) / 2
		if (f(mid) < 0) == neg {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2
}

// The first eigenvalue and coefficient for convection are printed in Incropera
// and DeWitt, Fundamentals of Heat and Mass Transfer, table 5.1; at Fo = 1 the
// first term is all there is. The values below are C1·exp(-ζ1²) from its rows.
func TestSeriesAgainstPublishedTable(t *testing.T) {
	for _, c := range []struct {
		name       string
		f          func(bi, fo float64) float64
		bi, c1, z1 float64
	}{
		{"slab", slabAt, 0.1, 1.0160, 0.3111},
		{"slab", slabAt, 1, 1.1191, 0.8603},
		{"slab", slabAt, 10, 1.2620, 1.4289},
		{"cylinder", cylinderAt, 0.1, 1.0246, 0.4417},
		{"cylinder", cylinderAt, 1, 1.2071, 1.2558},
		{"cylinder", cylinderAt, 10, 1.5677, 2.1795},
		{"sphere", sphereAt, 0.1, 1.0298, 0.5423},
		{"sphere", sphereAt, 1, 1.2732, 1.5708},
		{"sphere", sphereAt, 10, 1.9249, 2.8363},
	} {
		want := c.c1 * math.Exp(-c.z1*c.z1)
		assert.InEpsilon(t, want, c.f(c.bi, 1), 0.01, "%s Bi %g", c.name, c.bi)
	}
}

func TestSeriesStartsAtOne(t *testing.T) {
	for _, f := range []func(bi, fo float64) float64{slabAt, cylinderAt, sphereAt} {
		assert.InDelta(t, 1, f(2, 0.01), 0.002)
	}
}
