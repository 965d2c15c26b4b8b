package web

import (
	"cmp"
	"fmt"
	"math"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/tin"
)

// heatView is the Tin & heat screen.
type heatView struct {
	ID      int64
	Title   string
	Rail    []railItem
	Hidden  []hidden // the rest of the request travels along
	Tin     string
	Fault   string
	Scale   string
	Hand    handView
	Bake    bakeView
	Written string
	Section sectionView
	Others  []otherTin
	Names   []string
	Batter  string
	Done    string
	Facts   []termRow
	Fit     *fitView // the batch that suits the tin
	Scaled  []string // what a batch of another size asks for beside more of everything
}

type fitView struct{ URL, Words string }

type hidden struct{ Name, Value string }

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

// otherTin is what the same batter does in another tin.
type otherTin struct {
	Name, URL       string
	Fill, FirstLook string
	Window, Depth   string
	Fits            bool
	Current         bool
	Problem         string
}

func (s *Server) heat(c *gin.Context) {
	query := c.Request.URL.Query()
	hand, err := s.atHand(c, query)
	if err != nil {
		s.failed(c, err)
		return
	}
	r, req, faults, res, err := s.loadBench(c, query)
	if err != nil {
		s.failed(c, err)
		return
	}
	k := s.kitchen(c)
	v := heatView{ID: r.ID, Title: r.Title, Rail: rail(r.ID, "heat", req.Values().Encode()), Tin: req.Tin, Names: tinNames(), Bake: bakeOf(res, k), Hand: hand}
	for _, f := range faults {
		v.Fault = phrase.Sentence(f.Why)
		if f.Field == "tin" {
			v.Tin = f.Typed
		}
	}
	if req.Scale > 0 && req.Scale != 1 {
		v.Scale = fmt.Sprintf("%g", req.Scale)
	}
	for name, values := range req.Values() {
		for _, val := range values {
			if name != "tin" && name != "scale" {
				v.Hidden = append(v.Hidden, hidden{name, val})
			}
		}
	}
	for _, c := range res.Changes {
		if c.Kind == adapt.Scaled {
			v.Scaled = append(v.Scaled, c.Reason+" So: "+measureWords(c.To)+".")
		}
	}
	if e := res.Bake; e != nil {
		v.Section = sectionOf(*e)
		v.Fit = fitTin(r.ID, req, e.Fill)
		v.Batter = fmt.Sprintf("%s of batter", measure.Grams(float64(res.After.Mass)))
		v.Done = fmt.Sprintf("%.0f °C", e.Done)
		if k.Fahrenheit {
			v.Done = fmt.Sprintf("%.0f °F", e.Done.Fahrenheit())
		}
		v.Facts = []termRow{
			{"", "Fill before baking", fmt.Sprintf("%.0f %% of the tin, %.1f cm deep", 100*e.Fill.Share, e.Fill.Depth)},
			{"", "Likely height", fmt.Sprintf("%.1f cm in the middle of the rise", e.Fill.BakedDepth)},
			{"", "Done in the middle at", v.Done},
		}
		if e.Fill.Tin.Shape == tin.Free {
			v.Facts = v.Facts[1:]
			v.Facts[0].Value = fmt.Sprintf("%.1f cm", e.Fill.BakedDepth)
		}
	}
	if r.Doc.Bake.Max > 0 {
		v.Written = fmt.Sprintf("As written: %s min at %s", rangeWords(r.Doc.Bake), k.OvenText(r.Doc.Oven))
		if r.Doc.Oven == 0 {
			v.Written = fmt.Sprintf("As written: %s min", rangeWords(r.Doc.Bake))
		}
		if len(r.Doc.Tins) > 0 {
			v.Written += " in " + r.Doc.Tins[0].Words()
		}
	}
	v.Others = s.otherTins(r.ID, req, res, k)
	s.show(c, http.StatusOK, "heat", page{Title: r.Title, Nav: "shelf", Script: "bench", View: v})
}

// measureWords writes amounts as they are measured: "8 large egg (400 g)".
func measureWords(as []adapt.Amount) string {
	var out []string
	for _, a := range as {
		words := measure.Grams(a.Grams).String() + " " + a.Name
		if a.Measure != "" {
			words = a.Measure + " " + a.Name + ", " + measure.Grams(a.Grams).String()
		}
		out = append(out, words)
	}
	return strings.Join(out, "; ")
}

// fitTin is the batch that fills the tin as it is usually filled; nil while it does.
func fitTin(id int64, req adapt.Request, f oven.Fill) *fitView {
	const usual = 0.6 // of the tin, practice: half to two thirds
	if f.Tin.Shape == tin.Free || f.Share <= 0 || f.Share >= 0.45 && f.TooMuch == 0 {
		return nil
	}
	scale := math.Round(20*cmp.Or(req.Scale, 1)*usual/f.Share) / 20
	if scale < 0.1 || scale > 20 || scale == cmp.Or(req.Scale, 1) {
		return nil
	}
	req.Scale = scale
	return &fitView{fmt.Sprintf("/recipes/%d/heat?%s", id, req.Values().Encode()), fmt.Sprintf("Make %s times the batch for this tin", measure.Digits(scale, 3))}
}

// otherTins foretells the same batter in each of the common tins.
func (s *Server) otherTins(id int64, req adapt.Request, res *adapt.Result, k measure.Kitchen) []otherTin {
	var out []otherTin
	if res.Bake == nil {
		return nil
	}
	for _, t := range tin.Standard {
		if t.Shape == tin.Free {
			continue
		}
		q := req
		q.Tin = t.Name
		o := otherTin{Name: t.Words(), URL: fmt.Sprintf("/recipes/%d/heat?%s", id, q.Values().Encode()), Current: t.Name == res.Bake.Fill.Tin.Name}
		e, err := res.In(t)
		if err != nil {
			continue
		}
		o.Fill = fmt.Sprintf("%.0f %%", 100*e.Fill.Share)
		o.Depth = fmt.Sprintf("%.1f cm", e.Fill.Depth)
		o.FirstLook = fmt.Sprintf("%.0f", e.FirstLook)
		o.Window = fmt.Sprintf("%.0f–%.0f", e.Low, e.High)
		o.Problem = e.Fill.Words
		o.Fits = e.Fill.TooMuch == 0 && e.Fill.Share > 0.33
		if e.Fill.TooMuch > 0 {
			o.FirstLook, o.Window = "—", "—"
		}
		out = append(out, o)
	}
	return out
}

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
	v.Tin = fmt.Sprintf("M%s %s L%s %s H%s L%s %s", f1(mid-top/2), f1(floor-height), f1(mid-bottom/2), f1(floor), f1(mid+bottom/2), f1(mid+top/2), f1(floor-height))
	half := func(h float64) float64 { return bottom/2 + (top-bottom)/2*math.Min(1, h/height) }
	level := f.Depth * cm
	v.LevelY = f1(floor - level)
	v.Batter = fmt.Sprintf("M%s %s H%s", f1(mid-half(level)), v.LevelY, f1(mid+half(level)))
	risen := f.BakedDepth * cm
	edge := math.Min(risen*0.88, height*1.15)
	v.Risen = fmt.Sprintf("M%s %s L%s %s Q%s %s %s %s L%s %sZ", f1(mid-bottom/2), f1(floor), f1(mid-half(edge)), f1(floor-edge), f1(mid), f1(floor-2*risen*1.06+edge), f1(mid+half(edge)), f1(floor-edge), f1(mid+bottom/2), f1(floor))
	for n := 0; float64(n)*cm < floor-8 && n <= 11; n += 2 {
		y := floor - float64(n)*cm
		v.Ticks = append(v.Ticks, tick{f1(y), fmt.Sprintf("%d", n), f1(y + 4)})
	}
	v.Summary = fmt.Sprintf("%s cut across: batter %.1f cm deep before baking, about %.1f cm when risen; the tin is %.1f cm deep.", f.Tin.Words(), f.Depth, f.BakedDepth, f.Tin.Depth)
	v.Words = []label{{f1(mid + top/2 + 8), f1(floor - level + 4), "batter", "start"}, {f1(mid + top/2 + 8), f1(math.Min(floor-risen+4, floor-level-14)), "risen", "start"}}
	return v
}
