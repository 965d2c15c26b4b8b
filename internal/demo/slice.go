package demo

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"math"
	"math/rand/v2"
)

// slice is a drawn picture of a cut face, in place of a photograph. All invented.
type slice struct {
	high float64 // of its width
	dome float64 // how far the top is rounded, of its width
	open int     // holes
	wet  float64 // how much of its height is a wet streak
	dark bool    // the crust
	seed uint64
}

// How large a picture of a slice is, px, and how much of it the slice's width takes.
const (
	sliceWide, sliceHigh = 960, 720
	sliceShare           = 0.7
)

// png draws it: a board, a shadow, crust, crumb with its holes.
func (s slice) png() ([]byte, error) {
	rng := rand.New(rand.NewPCG(s.seed, 7))
	type hole struct{ x, y, r, flat float64 }
	var holes []hole
	for range s.open {
		holes = append(holes, hole{rng.Float64()*2 - 1, rng.Float64(), 0.006 + 0.022*rng.Float64()*rng.Float64(), 0.6 + 0.5*rng.Float64()})
	}
	half := sliceShare * sliceWide / 2
	foot := 0.86 * sliceHigh
	img := image.NewRGBA(image.Rect(0, 0, sliceWide, sliceHigh))
	crust, crumb := color.RGBA{150, 96, 52, 255}, color.RGBA{232, 205, 160, 255}
	if s.dark {
		crust = color.RGBA{84, 48, 28, 255}
	}
	for y := range sliceHigh {
		for x := range sliceWide {
			u := (float64(x) - sliceWide/2) / half   // -1 to 1 across
			v := (foot - float64(y)) / (2 * half)    // heights above the foot, of the width
			top := s.high - s.dome*u*u*(0.4+0.6*u*u) // of its surface here
			side := 1 - 0.05*math.Max(0, 1-v/s.high) // it narrows to the foot
			grain := 6 * math.Sin(float64(y)/9+3*math.Sin(float64(x)/70))
			at := color.RGBA{uint8(196 + grain), uint8(176 + grain), uint8(150 + grain), 255}
			edge := math.Min(math.Min(v, top-v), (side-math.Abs(u))/2)
			switch {
			case edge < 0 && edge > -0.03 && v < 0.02:
				at = color.RGBA{150, 132, 110, 255} // its shadow
			case edge < 0:
			case edge < 0.022:
				at = crust
			default:
				at = crumb
				if v < s.wet*s.high {
					at = color.RGBA{190, 150, 100, 255}
				}
				for _, h := range holes {
					dx, dy := (u-h.x)/2, (v-h.y*s.high)/h.flat
					if dx*dx+dy*dy < h.r*h.r {
						at = color.RGBA{206, 172, 122, 255}
					}
				}
			}
			img.SetRGBA(x, y, at)
		}
	}
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}

// Slice is a drawn cut face, PNG.
func Slice() ([]byte, error) { return season[5].picture.png() }
