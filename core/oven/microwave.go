package oven

import (
	"time"

	"kollaris/core/measure"
)

// Microwave is the time a one-bowl cake takes: power × time ÷ mass is constant,
// four minutes at 900 W for 550 g. Source: common practice.
func Microwave(mass measure.Grams, watts float64) time.Duration {
	if mass <= 0 || watts <= 0 {
		return 0
	}
	return time.Duration(float64(mass) / 550 * 900 / watts * float64(4*time.Minute)).Round(5 * time.Second)
}
