package learn

import "math"

// Verdict is what is said of the sweetness.
type Verdict string

// The verdicts.
const (
	TooSweet  Verdict = "too-sweet"
	JustSo    Verdict = "just-so"
	TooLittle Verdict = "too-little"
)

// The figures of Sweetness, and the grid that it is summed over: from a third of the sweetness up.
const (
	priorTaste  = 0.25
	noticed     = 0.12
	tasteSpread = 0.1

	steps             = 240
	leastLog, mostLog = -1.2, 0.6
)

// Sweetness is what a table likes: how sweet it wants a bake, against the written recipes', as a logarithm; and
// from where on it says that it is too little.
//
// The best is believed at 0 ± 25 % before anything is said. What is within 12 % of the best is called just so, give
// or take 10 %. Sources: memory: a difference of about a tenth in sugar is just noticed in water; in a bake rather
// more.
type Sweetness struct {
	Normal
	Notice float64 // of ten tables that like it so, five would say that it is too little
}

// LearnTaste narrows what a table likes by what was said of bakes of known sweetness.
func LearnTaste(seen []Seen) Sweetness {
	var weights [steps]float64
	sum, mean := 0.0, 0.0
	for k := range weights {
		at := grid(k)
		w := math.Exp(-at * at / (2 * priorTaste * priorTaste))
		for _, s := range seen {
			w *= says(s.Said, s.X-at)
		}
		weights[k] = w
		sum += w
		mean += w * at
	}
	mean /= sum
	variance := 0.0
	for k, w := range weights {
		variance += w * (grid(k) - mean) * (grid(k) - mean)
	}
	return Sweetness{Normal{mean, math.Sqrt(variance / sum), len(seen)}, mean - noticed}
}

func grid(k int) float64 { return leastLog + (mostLog-leastLog)*float64(k)/(steps-1) }

// says is how likely something is said of a bake that is sweeter than the best by so much. Nothing is impossible:
// people slip.
func says(v Verdict, above float64) float64 {
	sweet, little := phi((above-noticed)/tasteSpread), phi((-above-noticed)/tasteSpread)
	p := 1 - sweet - little
	switch v {
	case TooSweet:
		p = sweet
	case TooLittle:
		p = little
	}
	return 0.02 + 0.94*math.Max(0, p)
}

// phi is the standard normal distribution.
func phi(z float64) float64 { return 0.5 * math.Erfc(-z/math.Sqrt2) }
