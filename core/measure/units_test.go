package measure_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/measure"
	"kollaris/internal/gnuunits"
)

// Every unit that the reference table knows, against it.
func TestUnitsAgainstGNUUnits(t *testing.T) {
	k := measure.DefaultKitchen()
	for id, theirs := range map[string]string{
		"kg": "kg", "mg": "mg", "oz": "oz", "lb": "lb", "cl": "cl", "dl": "dl", "l": "litre",
		"fl oz": "usfloz", "pint": "uspint", "quart": "usquart", "cup": "uscup", "tbsp": "ustablespoon", "tsp": "usteaspoon",
	} {
		u, ok := measure.UnitByID(id)
		assert.True(t, ok, id)
		if u.Kind == measure.Mass {
			assert.InEpsilon(t, gnuunits.Convert(t, theirs, "g"), u.Factor, 1e-4, id)
		} else {
			assert.InEpsilon(t, gnuunits.Convert(t, theirs, "ml"), float64(k.ML(u)), 1e-4, id)
		}
	}
	assert.InEpsilon(t, gnuunits.Convert(t, "brpint", "ml"), float64(measure.UKPint), 1e-4)
	assert.InEpsilon(t, gnuunits.Convert(t, "0.25 lb", "g"), float64(measure.ButterStick), 1e-3, "a stick is a quarter of a pound")
}
