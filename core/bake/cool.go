package bake

import (
	"math"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/tin"
)

// How long a bake cools till it may be cut, minutes: warm a crumb tears, and without gluten it gums. Source:
// practice: small things a quarter of an hour, cups half an hour, a loaf one to two hours, dense or gluten-free
// two to three.
const (
	smallCools = 15.0
	cupsCool   = 30.0
	loafCools  = 60.0
	denseCools = 120.0
)

// CutAfter is how long a bake cools till it may be cut, minutes: as the method says, at least what the kind asks.
func (s Sheet) CutAfter(l *larder.Larder) float64 {
	written := 0.0
	for _, t := range s.Tasks {
		if t.Part == "" && (t.Verb == method.Cool || t.Verb == method.CoolTin) {
			written += t.Wait.Min
		}
	}
	return math.Max(written, s.usualCooling(l))
}

func (s Sheet) usualCooling(l *larder.Larder) float64 {
	switch trade := s.Recipe.Kind.Trade(); {
	case trade.Cools == "small":
		return smallCools
	case trade.Cools == "dense":
		return denseCools
	}
	for _, t := range s.Recipe.Tins {
		if t.Shape == tin.Cups {
			return cupsCool
		}
	}
	if balance.BaseOf(balance.Items(s.Recipe, l)) != balance.Wheat {
		return denseCools
	}
	return loafCools
}
