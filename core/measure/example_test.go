package measure_test

import (
	"fmt"

	"kollaris/core/measure"
)

// An amount as recipes write it, and what is left of the line.
func ExampleScanQuantity() {
	line := "1 1/2 to 2 cups plain flour"
	q, n, err := measure.ScanQuantity(line)
	fmt.Println(q.Min, q.Max, line[n:], err)
	// Output: 1.5 2  cups plain flour <nil>
}

// A number typed into a field, with the unit that the field has.
func ExampleParseDecimal() {
	x, _ := measure.ParseDecimal("1,5 g", "g")
	_, err := measure.ParseDecimal("a lot", "g")
	fmt.Println(x, err)
	// Output: 1.5 “a lot” is no number: try one such as 14 or 2.5
}
