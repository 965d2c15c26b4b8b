// Package heat solves conduction in bodies of simple shape: a box, a cylinder, a ring
// or a spherical cap, cut into cells whose state is their enthalpy. It knows nothing of
// baking.
//
// The method is explicit finite volumes: what leaves one cell enters the next, so that
// energy is kept to rounding; water that boils takes up its latent heat because
// temperature is read off the enthalpy, T = T(H). Reference: Voller and Cross, Accurate
// solutions of moving boundary problems using the enthalpy method, Int. J. Heat Mass
// Transfer 24 (1981).
package heat

import "math"

// Food is the composition of a body, shares of its mass. What they leave to 1 counts
// as carbohydrate.
type Food struct{ Water, Protein, Fat, Carbohydrate, Fibre, Ash float64 }

// choiOkos are the properties of the components of food as polynomials of °C, valid
// from -40 to 150 °C: conductivity W/(m K), density kg/m³, specific heat kJ/(kg K).
// Source: published, Choi and Okos (1986), as printed in the ASHRAE Handbook,
// Refrigeration, chapter “Thermal properties of foods”; coefficients from memory.
var choiOkos = [6]struct{ k, rho, c [3]float64 }{
	{
		[3]float64{5.7109e-1, 1.7625e-3, -6.7036e-6}, [3]float64{9.9718e2, 3.1439e-3, -3.7574e-3},
		[3]float64{4.1289, -9.0864e-5, 5.4731e-6},
	}, // water
	{
		[3]float64{1.7881e-1, 1.1958e-3, -2.7178e-6}, [3]float64{1.3299e3, -5.1840e-1, 0},
		[3]float64{2.0082, 1.2089e-3, -1.3129e-6},
	}, // protein
	{
		[3]float64{1.8071e-1, -2.7604e-4, -1.7749e-7}, [3]float64{9.2559e2, -4.1757e-1, 0},
		[3]float64{1.9842, 1.4733e-3, -4.8008e-6},
	}, // fat
	{
		[3]float64{2.0141e-1, 1.3874e-3, -4.3312e-6}, [3]float64{1.5991e3, -3.1046e-1, 0},
		[3]float64{1.5488, 1.9625e-3, -5.9399e-6},
	}, // carbohydrate
	{
		[3]float64{1.8331e-1, 1.2497e-3, -3.1683e-6}, [3]float64{1.3115e3, -3.6589e-1, 0},
		[3]float64{1.8459, 1.8306e-3, -4.6509e-6},
	}, // fibre
	{
		[3]float64{3.2962e-1, 1.4011e-3, -2.9069e-6}, [3]float64{2.4238e3, -2.8063e-1, 0},
		[3]float64{1.0926, 1.8896e-3, -3.6817e-6},
	}, // ash
}

// within keeps a temperature inside the range of the polynomials.
func within(t float64) float64 { return math.Max(-40, math.Min(150, t)) }

func poly(p [3]float64, t float64) float64 { return p[0] + p[1]*t + p[2]*t*t }

func (f Food) shares() [6]float64 {
	s := [6]float64{f.Water, f.Protein, f.Fat, f.Carbohydrate, f.Fibre, f.Ash}
	sum := 0.0
	for _, x := range s {
		sum += x
	}
	s[3] += math.Max(0, 1-sum)
	if sum > 1 {
		for n := range s {
			s[n] /= sum
		}
	}
	return s
}

// Capacity is the specific heat at a temperature in °C, J/(kg K).
func (f Food) Capacity(t float64) float64 {
	c, t := 0.0, within(t)
	for n, x := range f.shares() {
		c += x * poly(choiOkos[n].c, t)
	}
	return 1000 * c
}

// Density is that of the food without pores at a temperature in °C, kg/m³.
func (f Food) Density(t float64) float64 {
	v, t := 0.0, within(t)
	for n, x := range f.shares() {
		v += x / poly(choiOkos[n].rho, t)
	}
	return 1 / v
}

// Conductivity is that of the food without pores at a temperature in °C, W/(m K), its
// components side by side by volume.
func (f Food) Conductivity(t float64) float64 {
	k, v, t := 0.0, 0.0, within(t)
	for n, x := range f.shares() {
		part := x / poly(choiOkos[n].rho, t)
		v += part
		k += part * poly(choiOkos[n].k, t)
	}
	return k / v
}

// Latent is the heat of evaporation of water near 100 °C, J/kg. Source: published,
// steam tables.
const Latent = 2.257e6

// Matter is what a body is made of as the field sees it: temperature and conductivity
// as functions of its enthalpy by volume, from a table without allocation.
type Matter struct {
	step     float64 // enthalpy between entries, J/m³
	entry    []struct{ t, k float64 }
	least    float64 // heat capacity by volume, J/(m³ K), nowhere less
	mostK    float64
	boils    float64 // °C where latent heat begins to be taken up, infinite where there is none
	enthalpy func(t float64) float64
}

// The table's ends in °C and its number of entries, few enough to stay in the fastest
// memory.
const (
	coldest = -40.0
	hottest = 400.0
	entries = 1536
)

// NewMatter makes the table. Capacity is J/(m³ K) and conductivity W/(m K), of °C.
// Latent J/m³ is taken up between boils - spread and boils + spread.
func NewMatter(capacity, conductivity func(t float64) float64, latent, boils, spread float64) *Matter {
	dt := math.Min(0.2, spread/5)
	n := int(math.Ceil((hottest - coldest) / dt))
	hs := make([]float64, n+1)
	m := &Matter{least: math.Inf(1), boils: math.Inf(1), entry: make([]struct{ t, k float64 }, entries)}
	if latent > 0 {
		m.boils = boils - spread
	}
	at := func(n int) float64 { return coldest + dt*float64(n) }
	for i := 1; i <= n; i++ {
		mid := at(i) - dt/2
		c := capacity(mid)
		m.least = math.Min(m.least, c)
		if mid > boils-spread && mid < boils+spread {
			c += latent / (2 * spread)
		}
		hs[i] = hs[i-1] + c*dt
	}
	m.step = hs[n] / (entries - 1)
	j := 0
	for e := range m.entry {
		h := float64(e) * m.step
		for j < n-1 && hs[j+1] < h {
			j++
		}
		x := &m.entry[e]
		x.t = at(j) + dt*math.Min(1, (h-hs[j])/(hs[j+1]-hs[j]))
		x.k = conductivity(x.t)
		m.mostK = math.Max(m.mostK, x.k)
	}
	m.enthalpy = func(t float64) float64 {
		x := math.Max(0, math.Min(float64(n)-1e-9, (t-coldest)/dt))
		i := int(x)
		return hs[i] + (x-float64(i))*(hs[i+1]-hs[i])
	}
	return m
}

// Enthalpy is that of a temperature in °C, J/m³ above the tables' first.
func (m *Matter) Enthalpy(t float64) float64 { return m.enthalpy(t) }

// at looks up temperature and conductivity.
func (m *Matter) at(h float64) (t, k float64) {
	x := h / m.step
	i := int(x)
	if i < 0 || i >= entries-1 {
		end := m.entry[max(0, min(i, entries-1))]
		return end.t, end.k
	}
	f := x - float64(i)
	a, b := &m.entry[i], &m.entry[i+1]
	return a.t + f*(b.t-a.t), a.k + f*(b.k-a.k)
}

// Boils is the temperature in °C at which water boils at an altitude in m: the
// pressure of the standard atmosphere (ICAO, ISO 2533) in the Antoine equation of
// water (8.07131, 1730.63, 233.426, mmHg). Source: published and calculated.
func Boils(altitude float64) float64 {
	mmHg := 760 * math.Pow(1-2.25577e-5*math.Max(-500, math.Min(6000, altitude)), 5.25588)
	return 1730.63/(8.07131-math.Log10(mmHg)) - 233.426
}
