package heat_test

import (
	"fmt"

	"kollaris/core/heat"
)

// Water boils cooler in the mountains, and nothing moist gets hotter than that.
func ExampleBoils() {
	fmt.Printf("%.1f %.1f\n", heat.Boils(0), heat.Boils(2000))
	// Output: 100.0 93.4
}
