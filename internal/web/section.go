package web

import (
	"fmt"
	"math"

	"kollaris/core/oven"
	"kollaris/core/tin"
)

// sectionView is the tin cut through, to scale.
type sectionView struct {
	Width, Height int
	Tin           string // path of the wall
	Batter        string // dashed level before baking
	Risen         string // path of the baked shape
	LevelY        string
	Ticks         []tick
	Summary       string
	Words         []label
	Flat          bool // shaped pieces on a sheet
}

type tick struct{ Y, Text, TextY string }

// sectionOf draws the tin cut across, 16 px a cm, with the batter's level
// dashed and the baked height solid.
func sectionOf(e oven.Estimate) sectionView {
	const cm = 16.0
	f := e.Fill
	v := sectionView{Width: 450, Height: 220}
	floor := 196.0
	mid := 222.0
	if f.Tin.Shape == tin.Free {
		w, h := 7*cm, math.Max(f.BakedDepth*cm, 10)
		v.Flat = true
		v.Risen = fmt.Sprintf("M%s %s q%s %s %s 0Z", f1(mid-w/2), f1(floor), f1(w/2), f1(-2*h), f1(w))
		v.Summary = fmt.Sprintf("Shaped pieces about %.1f cm high when baked.", f.BakedDepth)
		v.Tin = fmt.Sprintf("M%s %s H%s", f1(mid-150), f1(floor+2), f1(mid+150))
		return v
	}
	top := math.Min(f.Tin.Width*cm, 330)
	taper := math.Min(1, f.Tin.Area()/(f.Tin.Length*f.Tin.Width))
	if f.Tin.Shape == tin.Round || f.Tin.Shape == tin.Cups || f.Tin.Shape == tin.Ring {
		taper = 0.96
	}
	bottom := top * (2*math.Sqrt(taper) - 1)
	height := f.Tin.Depth * cm
	v.Tin = fmt.Sprintf(
		"M%s %s L%s %s H%s L%s %s", f1(mid-top/2), f1(floor-height), f1(mid-bottom/2), f1(floor), f1(mid+bottom/2),
		f1(mid+top/2), f1(floor-height),
	)
	half := func(h float64) float64 { return bottom/2 + (top-bottom)/2*math.Min(1, h/height) }
	level := f.Depth * cm
	v.LevelY = f1(floor - level)
	v.Batter = fmt.Sprintf("M%s %s H%s", f1(mid-half(level)), v.LevelY, f1(mid+half(level)))
	risen := f.BakedDepth * cm
	edge := math.Min(risen*0.88, height*1.15)
	v.Risen = fmt.Sprintf(
		"M%s %s L%s %s Q%s %s %s %s L%s %sZ", f1(mid-bottom/2), f1(floor), f1(mid-half(edge)), f1(floor-edge), f1(mid),
		f1(floor-2*risen*1.06+edge), f1(mid+half(edge)), f1(floor-edge), f1(mid+bottom/2), f1(floor),
	)
	for n := 0; float64(n)*cm < floor-8 && n <= 11; n += 2 {
		y := floor - float64(n)*cm
		v.Ticks = append(v.Ticks, tick{f1(y), fmt.Sprintf("%d", n), f1(y + 4)})
	}
	v.Summary = fmt.Sprintf(
		"%s cut across: batter %.1f cm deep before baking, about %.1f cm when risen; the tin is %.1f cm deep.",
		f.Tin.Words(), f.Depth, f.BakedDepth, f.Tin.Depth,
	)
	v.Words = []label{
		{f1(mid + top/2 + 8), f1(floor - level + 4), "batter", "start"},
		{f1(mid + top/2 + 8), f1(math.Min(floor-risen+4, floor-level-14)), "risen", "start"},
	}
	return v
}
