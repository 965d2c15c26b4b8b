package method_test

import (
	"testing"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/internal/demo/recipes"
)

// What reading tasks from a recipe costs.
func BenchmarkRead(b *testing.B) {
	rd, err := reader.Read(recipes.Text("1-pear-cardamom-loaf.txt"), reader.Options{})
	if err != nil {
		b.Fatal(err)
	}
	l := larder.Builtin()
	for b.Loop() {
		method.Read(rd.Recipe, l)
	}
}
