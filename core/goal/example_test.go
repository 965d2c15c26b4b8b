package goal_test

import (
	"fmt"

	"kollaris/core/goal"
)

// Eggs went out: water and powder move, as little as may be, until the batter is as wet
// as it was and gives as much gas.
func ExampleProgramme_Solve() {
	p := goal.Programme{
		Vars: []goal.Var{
			{Name: "milk", Prior: 90, Min: 45, Max: 135, Drift: 0.1},
			{Name: "powder", Prior: 4, Min: 0, Max: 10, Drift: 0.1},
		},
		Goals: []goal.Goal{
			{Name: "water, g", Coef: []float64{0.88, 0}, Lo: 100, Hi: 110, Scale: 10, Weight: 1},
			{Name: "gas, mmol", Coef: []float64{0, 2.95}, Lo: 14, Hi: 16, Scale: 3, Weight: 1},
		},
	}
	s, err := p.Solve()
	fmt.Printf("%.1f g, %.2f g, %v\n", s.X[0], s.X[1], err)
	// Output: 113.6 g, 4.75 g, <nil>
}
