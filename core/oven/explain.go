package oven

import (
	"fmt"

	"kollaris/core/fact"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// Constant is a figure that the model works with, and where it comes from.
type Constant struct {
	What, Value string
	Source      fact.Source
}

// Constants are the model's, in the words of the application.
func Constants() []Constant {
	const kinds, faces = "memory: densities and expansion as in handbooks of the trade; done temperatures practice", "memory: working values, one set for the times that bakers report"
	var out []Constant
	add := func(source fact.Source, what, format string, args ...any) {
		out = append(out, Constant{what, fmt.Sprintf(format, args...), source})
	}
	for _, k := range recipe.Kinds {
		c := k
		add(
			kinds, k.Words, "%s g/ml, rises to %s times, done at %.0f °C", measure.Digits(c.Density, 3),
			measure.Digits(c.Expansion, 3), c.Done,
		)
	}
	for _, m := range tin.Materials {
		w := walls[m.ID]
		text := fmt.Sprintf("%.0f W/(m² K) at 177 °C", w.h)
		if w.capacity > 0 {
			text += fmt.Sprintf(", takes up %.1f kJ/(m² K) itself", w.capacity/1000)
		}
		add(faces, m.Words, "%s", text)
	}
	add(faces, "top in still air", "%.0f W/(m² K) at 177 °C, half of it radiation", stillTop)
	for _, x := range []struct {
		what string
		by   float64
	}{{"fan", fanTimes}, {"tray of water", steamTimes}, {"other tins beside it", fullTimes}, {"doubled paper", paperTimes}, {"foil on top", foilTimes}, {"top on a lower shelf", lowerTop}, {"floor on a lower shelf", lowerFloor}, {"inside a ring’s funnel, of its side", funnel}} {
		add(faces, x.what, "× %s", measure.Digits(x.by, 2))
	}
	add(
		"calculated: the tests' loaf, cups and fruit cake", "crumb over its dense food",
		"conducts 0.8 + 0.9 × porosity times as well",
	)
	add(
		"memory: calibrated with thin layers and cups beside a loaf", "a wet top",
		"evaporation takes %.0f %% of its heat from a batter, %.0f %% from a dough, until it boils", 100*wetBatter,
		100*wetDough,
	)
	add("practice", "done", "when the slowest point has held its temperature for %s min", measure.Digits(held, 2))
	add(
		"practice", "first look",
		"at %.0f %% of the time, before the window at the latest, and at %.0f %% of the model's own where the written time is longer",
		100*firstLook, 100*ownTime,
	)
	add(
		"practice: what one observation is worth is from memory", "an oven nobody measured",
		"0 ± %.0f °C, time × 1 ± %.2f; a reading ± %.0f °C, a bake ± %.0f %%", PriorOffset, priorLog, ReadingSD,
		100*bakeSD,
	)
	add(
		"memory: 60 to 110 kJ/mol in baked crusts; scale calculated", "browning of a top",
		"%.0f kJ/mol, golden in %s min at 150 °C", activation/1000, measure.Digits(goldenIn, 2),
	)
	return out
}
