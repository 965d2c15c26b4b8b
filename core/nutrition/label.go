package nutrition

import (
	"fmt"
	"math"
	"strings"

	"kollaris/core/larder"
)

// Law is the school of a label: its factors, its carbohydrate and its rounding.
type Law string

// The schools. Sources: published, EU 1169/2011 annexes I, XIII, XIV and the
// Commission's guidance on tolerances (rounding, as remembered); 21 CFR 101.9.
const (
	EU Law = "eu" // carbohydrate without fibre; salt
	US Law = "us" // carbohydrate by difference, fibre included; sodium
)

// LabelRow is one line of a label.
type LabelRow struct {
	ID, Name, Unit string
	Sub            bool
	Exact, Plus    float64
	Text           string  // as the law rounds it
	Daily          float64 // per cent of the reference intake or daily value; 0 where there is none
	Known          float64 // share of the food that is known, by weight
}

// Energy factors, per gram. Sources: published, EU 1169/2011 annex XIV; 21 CFR
// 101.9(c)(1)(i)(C) and (F); allulose: FDA guidance, 2020. Fibre in the US is 2
// where soluble and 0 where not; which it is is not known, so 1.
type factors struct {
	protein, fat, carb, alcohol, fibre                                 float64
	erythritol, xylitol, maltitol, sorbitol, isomalt, otherPolyol, all float64
}

var (
	euKcal = factors{4, 9, 4, 7, 2, 0, 2.4, 2.4, 2.4, 2.4, 2.4, 0.4}
	euKJ   = factors{17, 37, 17, 29, 8, 0, 10, 10, 10, 10, 10, 1.7}
	usKcal = factors{4, 9, 4, 7, 1, 0, 2.4, 2.1, 2.6, 2.0, 2.4, 0.4}
)

func (k factors) of(f *larder.Facts) float64 {
	return k.protein*f[larder.Protein] + k.fat*f[larder.Fat] + k.carb*available(
		f,
	) + k.alcohol*f[larder.Alcohol] + k.fibre*f[larder.Fibre] +
		k.erythritol*f[larder.Erythritol] + k.xylitol*f[larder.Xylitol] + k.maltitol*f[larder.Maltitol] + k.sorbitol*f[larder.Sorbitol] + k.isomalt*f[larder.Isomalt] + k.all*f[larder.Allulose]
}

// available is the carbohydrate that the body takes up as such.
func available(f *larder.Facts) float64 {
	return math.Max(0, f[larder.Carbohydrate]-f[larder.Fibre]-f.Polyols()-f[larder.Allulose])
}

// daily are reference intakes of the EU and daily values of the US, in the unit of
// the row. Sources: EU 1169/2011 annex XIII; 21 CFR 101.9(c)(8) and (9).
var daily = map[Law]map[string]float64{
	EU: {
		"energy-kj": 8400, "energy": 2000, "fat": 70, "saturates": 20, "carbohydrate": 260,
		"sugars": 90, "protein": 50, "salt": 6,
	},
	US: {
		"fat": 78, "saturates": 20, "cholesterol": 300, "sodium": 2300, "carbohydrate": 275,
		"fibre": 28, "added": 50, "protein": 50, "calcium": 1300, "iron": 18,
		"potassium": 4700,
	},
}

type rowOf struct {
	id, name, unit string
	sub            bool
	col            larder.Column // whose ± and known share it has
	of             func(t *Total) float64
}

func column(c larder.Column) func(*Total) float64 {
	return func(t *Total) float64 { return t.Facts[c] }
}

var labels = map[Law][]rowOf{
	EU: {
		{"energy-kj", "Energy", "kJ", false, larder.Carbohydrate, func(t *Total) float64 { return euKJ.of(&t.Facts) }},
		{"energy", "Energy", "kcal", false, larder.Carbohydrate, func(t *Total) float64 { return euKcal.of(&t.Facts) }},
		{"fat", "Fat", "g", false, larder.Fat, column(larder.Fat)},
		{"saturates", "of which saturates", "g", true, larder.Saturates, column(larder.Saturates)},
		{
			"carbohydrate", "Carbohydrate", "g", false, larder.Carbohydrate,
			func(t *Total) float64 { return available(&t.Facts) + t.Facts.Polyols() + t.Facts[larder.Allulose] },
		},
		{"sugars", "of which sugars", "g", true, larder.Sucrose, func(t *Total) float64 { return t.Facts.Sugars() }},
		{
			"polyols", "of which polyols", "g", true, larder.Erythritol,
			func(t *Total) float64 { return t.Facts.Polyols() },
		},
		{"fibre", "Fibre", "g", false, larder.Fibre, column(larder.Fibre)},
		{"protein", "Protein", "g", false, larder.Protein, column(larder.Protein)},
		{
			"salt", "Salt", "g", false, larder.Sodium,
			func(t *Total) float64 { return t.Facts[larder.Sodium] * saltPerSodium / 1000 },
		},
	},
	US: {
		{"energy", "Calories", "", false, larder.Carbohydrate, func(t *Total) float64 { return usKcal.of(&t.Facts) }},
		{"fat", "Total fat", "g", false, larder.Fat, column(larder.Fat)},
		{"saturates", "Saturated fat", "g", true, larder.Saturates, column(larder.Saturates)},
		{"cholesterol", "Cholesterol", "mg", false, larder.Cholesterol, column(larder.Cholesterol)},
		{"sodium", "Sodium", "mg", false, larder.Sodium, column(larder.Sodium)},
		{"carbohydrate", "Total carbohydrate", "g", false, larder.Carbohydrate, column(larder.Carbohydrate)},
		{"fibre", "Dietary fiber", "g", true, larder.Fibre, column(larder.Fibre)},
		{"sugars", "Total sugars", "g", true, larder.Sucrose, func(t *Total) float64 { return t.Facts.Sugars() }},
		{"added", "includes added sugars", "g", true, larder.Sucrose, func(t *Total) float64 { return t.Added }},
		{"polyols", "Sugar alcohol", "g", true, larder.Erythritol, func(t *Total) float64 { return t.Facts.Polyols() }},
		{"protein", "Protein", "g", false, larder.Protein, column(larder.Protein)},
		{"potassium", "Potassium", "mg", false, larder.Potassium, column(larder.Potassium)},
		{"calcium", "Calcium", "mg", false, larder.Calcium, column(larder.Calcium)},
		{"iron", "Iron", "mg", false, larder.Iron, column(larder.Iron)},
	},
}

// Label writes a share of the whole (1/12 for a serving, Of100 for 100 g) as a law
// has it. Polyols stand there only where there are any.
func (t Total) Label(law Law, share float64) []LabelRow {
	var out []LabelRow
	for _, r := range labels[law] {
		x := r.of(&t) * share
		if r.id == "polyols" && x < 0.05 {
			continue
		}
		row := LabelRow{ID: r.id, Name: r.name, Unit: r.unit, Sub: r.sub, Exact: x, Known: t.Known(r.col)}
		switch whole := t.Facts[r.col]; {
		case r.unit == "kJ" || r.name == "Calories" || r.unit == "kcal":
			row.Plus = x * t.energyOff()
		case whole > 0:
			row.Plus = x * t.Plus[r.col] / whole
		}
		if d := daily[law][r.id]; d > 0 {
			row.Daily = 100 * x / d
		}
		if law == US {
			row.Text = RoundUS(r.id, x)
		} else {
			row.Text = RoundEU(r.id, x)
		}
		out = append(out, row)
	}
	return out
}

// energyOff is the ± of the energy as a share of it, from its three great parts.
func (t Total) energyOff() float64 {
	whole, off := 0.0, 0.0
	for c, kcal := range map[larder.Column]float64{larder.Protein: 4, larder.Fat: 9, larder.Carbohydrate: 4} { // Source: published, EU 1169/2011 annex XIV
		whole, off = whole+kcal*t.Facts[c], math.Hypot(off, kcal*t.Plus[c])
	}
	if whole == 0 {
		return 0
	}
	return off / whole
}

func to(x, step float64) string {
	n := math.Floor(x/step+0.5+1e-9) * step
	if step < 1 {
		return fmt.Sprintf("%.*f", int(math.Round(-math.Log10(step)+0.3)), n)
	}
	return fmt.Sprintf("%.0f", n)
}

// RoundUS rounds as 21 CFR 101.9(c) has it, in the row's unit.
func RoundUS(id string, x float64) string {
	switch id {
	case "energy":
		switch {
		case x < 5:
			return "0"
		case x <= 50:
			return to(x, 5)
		}
		return to(x, 10)
	case "fat", "saturates":
		switch {
		case x < 0.5:
			return "0"
		case x < 5:
			return strings.TrimSuffix(to(x, 0.5), ".0")
		}
		return to(x, 1)
	case "cholesterol":
		switch {
		case x < 2:
			return "0"
		case x <= 5:
			return "less than 5"
		}
		return to(x, 5)
	case "sodium", "potassium":
		switch {
		case x < 5:
			return "0"
		case x <= 140:
			return to(x, 5)
		}
		return to(x, 10)
	case "calcium":
		return to(x, 10)
	case "iron":
		return to(x, 0.1)
	}
	switch {
	case x < 0.5:
		return "0"
	case x < 1:
		return "less than 1"
	}
	return to(x, 1)
}

// RoundEU rounds as the Commission's guidance has it, in the row's unit.
func RoundEU(id string, x float64) string {
	switch id {
	case "energy", "energy-kj":
		return to(x, 1)
	case "saturates":
		switch {
		case x <= 0.1:
			return "<0.1"
		case x < 9.95:
			return to(x, 0.1)
		}
		return to(x, 1)
	case "salt":
		switch {
		case x <= 0.0125:
			return "<0.01"
		case x < 0.995:
			return to(x, 0.01)
		}
		return to(x, 0.1)
	}
	switch {
	case x <= 0.5:
		return "<0.5"
	case x < 9.95:
		return to(x, 0.1)
	}
	return to(x, 1)
}

// NetSchool is a way of counting net carbohydrate.
type NetSchool struct {
	ID, Words string
	Grams     float64
}

// Net counts the net carbohydrate of a share of the whole by the three schools.
// Source: common practice.
func (t Total) Net(share float64) []NetSchool {
	f := &t.Facts
	a := available(f) * share
	half := (f.Polyols() - f[larder.Erythritol]) / 2 * share
	return []NetSchool{
		{"a", "without fibre, sugar alcohols and allulose", a},
		{"b", "the same, with half of the sugar alcohols other than erythritol", a + half},
		{"c", "the EU figure without its sugar alcohols; allulose counts", a + f[larder.Allulose]*share},
	}
}
