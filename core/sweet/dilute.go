package sweet

import "math"

// Dilution is a way to measure what a scale cannot show.
type Dilution struct {
	Ratio int     // grams of the dilution that hold 1 g
	Take  float64 // g of the dilution that hold what is wanted
	Weigh float64 // g of the pure thing to make it
	Water float64 // g to make it with
}

// ratios are the dilutions that are easily made.
var ratios = []int{10, 20, 50, 100, 200}

// tenSteps is the least reading that is off by no more than a twentieth, in steps of
// the scale: half a step in ten. Source: calculated.
const tenSteps = 10.0

// Dilute finds the weakest dilution by which a scale that shows step (g) can weigh
// grams to a twentieth. It is not wanted where the scale can weigh them outright.
func Dilute(grams, step float64) (Dilution, bool) {
	if grams <= 0 || step <= 0 || grams >= tenSteps*step {
		return Dilution{}, false
	}
	r := ratios[len(ratios)-1]
	for _, x := range ratios {
		if grams*float64(x) >= tenSteps*step {
			r = x
			break
		}
	}
	weigh := math.Max(tenSteps*step/2, grams) // off by a tenth at most
	return Dilution{Ratio: r, Take: grams * float64(r), Weigh: weigh, Water: weigh * float64(r-1)}, true
}
