package adapt

import (
	"context"
	"errors"
	"math"
	"sync"

	"kollaris/core/doneness"
	"kollaris/core/oven"
)

// ErrNoBake is said of what is not baked in an oven, or has no foretold time.
var ErrNoBake = errors.New("no bake in an oven is foretold for it")

// What is believed of an oven that nobody measured, beside what the foretold window says of the recipe.
// Source: from memory, half of what ovens lie by, since a written time was found in one of them.
const unmeasured = 6.0 // K

// eighty is how many standard deviations hold eight cases of ten.
const eighty = 1.2816

// InOven is a predicted bake that has just gone in, to be told of readings and looks: the heat model's
// curves for what the oven may be off, with what is believed before. It takes some tenths of a second.
func (res *Result) InOven(ctx context.Context) (*doneness.Bake, error) {
	if res.Bake == nil || res.Bakes == nil {
		return nil, ErrNoBake
	}
	learned := res.Bakes.Yours.Learned
	p := doneness.Prior{LogSD: math.Log(res.Bake.High/res.Bake.Minutes) / eighty, OffsetSD: unmeasured}
	if learned.Asked() {
		p.Offset, p.OffsetSD = learned.Offset, learned.OffsetSD()
	}
	offsets := p.Offsets()
	curves, errs := make([]doneness.Curve, len(offsets)), make([]error, len(offsets))
	var all sync.WaitGroup
	for n, off := range offsets {
		all.Go(func() { curves[n], errs[n] = res.curve(ctx, off) })
	}
	all.Wait()
	if err := errors.Join(errs...); err != nil {
		return nil, err
	}
	return doneness.New(curves, p, float64(res.Bake.Done)), nil
}

// Truth is a predicted bake as it may really go, for trials: it takes m times as long as foretold, in an oven
// that is so far off, K. At gives the middle and the air after some minutes, °C; done when it is.
func (res *Result) Truth(ctx context.Context, m, offset float64) (at func(minutes float64) (core, air float64), done float64, err error) {
	if res.Bake == nil || res.Bakes == nil {
		return nil, 0, ErrNoBake
	}
	b := res.Bakes.Yours
	b.Learned = oven.Learned{Offset: offset}
	s, err := oven.Simulate(ctx, res.Bakes.Written, b)
	if err != nil {
		return nil, 0, err
	}
	c := curveOf(s, offset, m)
	return func(minutes float64) (core, air float64) {
		return c.At(minutes), s.At(math.Min(minutes/m, s.Minutes)).Air
	}, c.Done, nil
}

// curveOf is the middle of a simulated bake at a pace.
func curveOf(s *oven.Simulation, offset, pace float64) doneness.Curve {
	c := doneness.Curve{Offset: offset, Step: pace, Done: pace * s.Minutes}
	for m := 0.0; m <= s.Minutes; m++ {
		c.Core = append(c.Core, s.At(m).Centre)
	}
	return c
}

// curve is the middle of the bake in an oven that is so far off, with the recipe's own pace.
func (res *Result) curve(ctx context.Context, offset float64) (doneness.Curve, error) {
	b := res.Bakes.Yours
	pace := b.Learned.Factor()
	if !b.Learned.Asked() {
		pace = 1
	}
	pace *= res.Request.Oven.Pace.Times()
	b.Learned = oven.Learned{Offset: offset}
	s, err := oven.Simulate(ctx, res.Bakes.Written, b)
	if err != nil {
		return doneness.Curve{}, err
	}
	return curveOf(s, offset, pace), nil
}
