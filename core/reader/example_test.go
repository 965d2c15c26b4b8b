package reader_test

import (
	"fmt"

	"kollaris/core/measure"
	"kollaris/core/reader"
)

// A pasted text becomes lines with an ingredient and grams, and facts.
func ExampleRead() {
	rd, _ := reader.Read("Pear squares\nServes 9\n1 1/2 cups plain flour, sifted\n2 eggs\nBake at 350 F for 30 minutes.", reader.Options{})
	fmt.Println(rd.Recipe.Title, rd.Recipe.Servings, measure.DefaultKitchen().Temperature(rd.Recipe.Oven))
	for _, ln := range rd.Recipe.Lines {
		fmt.Println(ln.Ingredient, ln.Grams)
	}
	// Output:
	// Pear squares 9 177 °C
	// plain-flour 180
	// egg 100
}
