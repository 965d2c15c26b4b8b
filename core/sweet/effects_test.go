package sweet_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/sweet"
)

// What is brushed on suits the table.
func TestWhatIsBrushedOn(t *testing.T) {
	l := larder.Builtin()
	for _, c := range []struct {
		diets []diet.ID
		want  string
	}{{nil, "milk or egg"}, {[]diet.ID{diet.DairyFree}, "egg"}, {[]diet.ID{diet.EggFree}, "milk"}, {[]diet.ID{diet.Vegan}, "plant drink and a little syrup"}} {
		assert.Equal(t, c.want, sweet.Brush(diet.Demand{Diets: c.diets}, l))
	}
	assert.Equal(t, "paler: brush with egg", sweet.Brushed("paler: brush with milk or egg", "egg"))
	assert.Equal(t, "paler: brush it", sweet.Brushed("paler: brush it, or a spoon of milk powder", "egg"))
	assert.Equal(t, "paler: brush it, or a spoon of milk powder", sweet.Brushed("paler: brush it, or a spoon of milk powder", "milk"))
}
