package tin_test

import (
	"math"
	"testing"

	"kollaris/core/tin"
)

// Whatever is typed names no tin, or one whose sizes are real and whose words read as
// the same tin.
func FuzzParse(f *testing.F) {
	for _, s := range []string{"9 x 5 in loaf", "2 × round 18 cm", "12-cup muffin tin", "ring 24 cm, 9 cm deep, holds 2100 ml", "a 2 lb loaf tin", "99 × 13x9 in", "holds 0,0001 l", "cast iron 26 cm, 0 cm deep", "½ x ½ in", "8½ x 4½ in loaf tin"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		got, ok := tin.Parse(s)
		if !ok {
			return
		}
		for _, x := range []float64{got.Length, got.Width, got.Depth, float64(got.Volume)} {
			if math.IsNaN(x) || math.IsInf(x, 0) || x < 0 {
				t.Fatalf("%q gives %+v", s, got)
			}
		}
		if got.Count < 1 || got.Shape != tin.Free && got.Volume <= 0 {
			t.Fatalf("%q gives %+v", s, got)
		}
		again, ok := tin.Parse(got.Words())
		if !ok || again.Shape != got.Shape || again.Count != got.Count || again.Of != got.Of || math.Abs(float64(again.Volume-got.Volume)) > 0.02*float64(got.Volume)+1 {
			t.Fatalf("%q is “%s” = %+v, which reads as %+v", s, got.Words(), got, again)
		}
		if n := got.PerShelf(44, 37); n < 0 || n > 200 {
			t.Fatalf("%d of %q on a shelf", n, s)
		}
	})
}
