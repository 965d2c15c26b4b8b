// Package heat solves conduction in simple bodies. It knows nothing of baking.
//
// A body at T0 is put into surroundings at T∞ with a surface coefficient h. The
// excess temperature at the centre, θ = (T - T∞)/(T0 - T∞), is
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
package heat

import (
	"fmt"
	"math"
)

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

// Slab returns θ at the centre of a slab.
func Slab(bi, fo float64) float64 { return slab(bi).at(fo) }

// Cylinder returns θ on the axis of a long cylinder.
func Cylinder(bi, fo float64) float64 { return cylinder(bi).at(fo) }

// Sphere returns θ at the centre of a sphere.
func Sphere(bi, fo float64) float64 { return sphere(bi).at(fo) }

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

// Body is a box or an upright cylinder. Lengths in m.
type Body struct {
	Length, Width, Height float64
	Round                 bool // Length is the diameter, Width is not used
}

// Matter is what the body is made of.
type Matter struct {
	K    float64 // W/(m K)
	RhoC float64 // J/(m³ K)
}

// centre returns θ at the middle of a body as a function of seconds.
func (b Body) centre(m Matter, h float64) func(t float64) float64 {
	type axis struct {
		s    *series
		half float64
	}
	of := func(f func(bi float64) *series, length float64) axis {
		return axis{f(h * length / 2 / m.K), length / 2}
	}
	axes := []axis{of(slab, b.Height)}
	if b.Round {
		axes = append(axes, of(cylinder, b.Length))
	} else {
		axes = append(axes, of(slab, b.Length), of(slab, b.Width))
	}
	return func(t float64) float64 {
		theta := 1.0
		for _, a := range axes {
			theta *= a.s.at(m.K * t / (m.RhoC * a.half * a.half))
		}
		return theta
	}
}

// TimeTo returns the seconds until the centre, starting at t0 in surroundings
// at tInf, reaches target (any one temperature scale). It is an error when the
// target is not between the two.
func (b Body) TimeTo(m Matter, h, t0, tInf, target float64) (float64, error) {
	if !(target > t0 && target < tInf) {
		return 0, fmt.Errorf("%g lies outside %g to %g: it is never reached", target, t0, tInf)
	}
	want := (target - tInf) / (t0 - tInf)
	lo, hi, centre := 0.0, 60.0, b.centre(m, h)
	for centre(hi) > want {
		lo, hi = hi, hi*2
		if hi > 1e6 {
			return 0, fmt.Errorf("not reached within days")
		}
	}
	for range 40 {
		mid := (lo + hi) / 2
		if centre(mid) > want {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2, nil
}
