package oven

import (
	"context"
	"fmt"
	"math"
	"reflect"

	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// Estimate is the foretold bake.
type Estimate struct {
	Oven      measure.Celsius `json:"oven_c"`
	Setup     Setup           `json:"setup,omitzero"`
	Minutes   float64         `json:"minutes"`
	Low       float64         `json:"low"`
	High      float64         `json:"high"`
	FirstLook float64         `json:"first_look"`
	Topping   float64         `json:"topping"` // when what would sink goes on
	Done      measure.Celsius `json:"done_c"`  // at the slowest point
	Fill      Fill            `json:"fill"`
	Fitted    bool            `json:"fitted"` // to the recipe's own time
	Factor    float64         `json:"factor"` // written time over the model's
	Model     float64         `json:"model"`  // minutes of the model alone
	Why       string          `json:"why"`
	Warn      string          `json:"warn,omitempty"` // where the fit is hard to believe
	PerDegree float64         `json:"per_degree"`     // change of the logarithm of the time with a degree of air, of a learned oven

	dries bool // it is done when it is dry, not hot
}

// How far a time may be off, as a share of it: fitted to a believable written time in a tin
// of the same shape; in another shape, or with a factor that strays from 0.7 to 1.4; by
// the model alone, or with a factor outside 0.5 to 2, which is warned of. Source: ±10 %
// and the bounds of belief practice (handbook 4), the steps between from memory.
const (
	fittedSpread = 0.10
	otherSpread  = 0.15
	aloneSpread  = 0.25
	mostSpread   = 0.5 // in an oven nobody knows
)

// Foretell estimates a bake, fitted to the known one when that has a time.
func Foretell(known, now Baking) (Estimate, error) {
	return ForetellWithin(context.Background(), known, now)
}

// ForetellWithin is Foretell that can be cancelled.
func ForetellWithin(ctx context.Context, known, now Baking) (Estimate, error) {
	if !now.near(known) {
		return foretell(ctx, known, now, Baking.model)
	}
	return foretell(ctx, known, now, func(b Baking, ctx context.Context, factor float64) (float64, error) {
		of := [2]float64{} // of the same tin, the coarser mesh errs alike
		for n, x := range []Baking{b, known} {
			var err error
			if of[n], err = x.coarse(ctx, factor); err != nil {
				return 0, err
			}
		}
		whole, err := known.model(ctx, factor)
		return whole * of[0] / of[1], err
	})
}

// near reports whether a bake stands as a known one does, with a batter little different.
func (b Baking) near(known Baking) bool {
	same := b
	same.Mass, same.Food, same.Colour, same.Minutes, same.Learned = known.Mass, known.Food, known.Colour, known.Minutes, known.Learned
	return known.Minutes > 0 && reflect.DeepEqual(same, known) && b.Mass > 0.8*known.Mass && b.Mass < 1.25*known.Mass
}

// Glance is Foretell by the coarser mesh alone, for many tins at once: a twentieth of the
// work, within 6 % of it where a time is written, and within 1 % in the written tin.
func Glance(known, now Baking) (Estimate, error) {
	l := now.Learned
	now.Learned = Learned{Offset: l.Offset}
	e, err := foretell(context.Background(), known, now, Baking.coarse)
	if err == nil && l.Asked() {
		spread := math.Min(mostSpread, math.Hypot(1-e.Low/e.Minutes, l.TimeSD(usualSlope)))
		e.Minutes *= l.Factor()
		e.window(spread)
	}
	return e, err
}

// usualSlope is how the logarithm of a loaf's time changes with a degree of air. Source:
// calculated, the model's own figure between 160 and 190 °C.
const usualSlope = -0.006

// clock is a model of the time in minutes.
type clock func(b Baking, ctx context.Context, factor float64) (float64, error)

func foretell(ctx context.Context, known, now Baking, model clock) (Estimate, error) {
	e := Estimate{
		Oven: now.Oven, Setup: now.Setup, Done: Done(now.Kind, now.Setup.Altitude),
		Fill: now.fill(), Factor: 1, dries: now.Kind == recipe.WhiteFoam,
	}
	spread := aloneSpread
	e.Why = "No time is written for such a bake, so this is the conduction model alone: look early."
	if known.Minutes > 0 {
		ref, err := known.fit(ctx, model)
		switch {
		case err == nil:
			e.Fitted, spread, e.Factor = true, fittedSpread, known.Minutes/ref
			e.Why = fmt.Sprintf(
				"Fitted to the recipe's own %s min %s; the model alone says %s min there, so its times count %s times.",
				measure.Digits(known.Minutes, 3), known.Tin.In(), measure.Digits(ref, 2), measure.Digits(e.Factor, 2),
			)
			if e.dries {
				e.Why = fmt.Sprintf("It dries rather than bakes: the recipe's own %s min, by the change of tin and heat.", measure.Digits(known.Minutes, 3))
				break
			}
			if e.Factor > ownTime/firstLook {
				e.Why += " The written time is the longer one, so the first look comes when the model alone would look."
			}
			if now.Tin.Shape != known.Tin.Shape || e.Factor < 0.7 || e.Factor > 1.4 {
				spread = otherSpread
			}
			if e.Factor < 0.5 || e.Factor > 2 {
				spread = aloneSpread
				e.Warn = fmt.Sprintf(
					"The written time is %s times what such a bake should take: check its tin, heat and time.",
					measure.Digits(e.Factor, 2),
				)
			}
		case ctx.Err() != nil:
			return Estimate{}, ctx.Err()
		}
	}
	raw, err := model(now, ctx, e.Factor)
	if err != nil {
		return Estimate{}, err
	}
	e.Model = raw
	e.Minutes = raw * e.Factor
	if l := now.Learned; l.Asked() {
		e.Minutes *= l.Factor()
		slope, err := now.perDegree(ctx, e.Factor, raw, model)
		if err != nil {
			return Estimate{}, err
		}
		e.PerDegree = slope
		spread = math.Min(mostSpread, math.Hypot(spread, l.TimeSD(slope)))
	}
	e.window(spread)
	return e, nil
}

// window lays the likely window and its moments around the time.
func (e *Estimate) window(spread float64) {
	e.Low, e.High = e.Minutes*(1-spread), e.Minutes*(1+spread)
	e.FirstLook, e.Topping = math.Min(e.Minutes*firstLook, e.Low*beforeLow), e.Minutes*toppings
	if own := e.Minutes / e.Factor; e.Fitted && !e.dries &&
		own*ownTime < e.FirstLook { // many a written time is too long for its tin
		e.FirstLook = own * ownTime
	}
}

// perDegree is how the logarithm of the time changes with a degree of air.
func (b Baking) perDegree(ctx context.Context, factor, raw float64, model clock) (float64, error) {
	const step = 4.0
	b.Learned.Offset += step
	hotter, err := model(b, ctx, factor)
	return math.Log(hotter/raw) / step, err
}

// fit gives the model's minutes of a bake with a written time. Where its oven changes on
// the way, the model's clock depends on the factor, which is sought.
func (b Baking) fit(ctx context.Context, model clock) (float64, error) {
	factor := 1.0
	for range 6 {
		ref, err := model(b, ctx, factor)
		if err != nil || !b.Setup.changes() {
			return ref, err
		}
		next := b.Minutes / ref
		if math.Abs(next/factor-1) < 0.005 {
			return ref, nil
		}
		factor = next
	}
	return b.Minutes / factor, nil
}
