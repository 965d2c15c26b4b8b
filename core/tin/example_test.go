package tin_test

import (
	"fmt"

	"kollaris/core/tin"
)

// A tin as a baker names it.
func ExampleParse() {
	t, ok := tin.Parse("2 x 8 inch round")
	fmt.Println(t.Words(), ok)
	fmt.Printf("%.1f l in all\n", float64(t.Total())/1000)
	// Output:
	// 2 × round 8 in true
	// 3.1 l in all
}
