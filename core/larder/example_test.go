package larder_test

import (
	"fmt"

	"kollaris/core/larder"
)

// What a recipe calls an ingredient, taken for one of the catalogue.
func ExampleLarder_Find() {
	l := larder.Builtin()
	m, _ := l.Find("freshly milled linseed", nil)
	i := l.Get(m.ID)
	fmt.Println(i.Name, m.Confidence >= larder.SureEnough)
	fmt.Println(i.Does())
	// Output:
	// ground flaxseed true
	// Binds, and drinks its own weight in water.
}
