package web

import (
	"cmp"
	"fmt"
	"math"
	"sort"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/tin"
	"kollaris/internal/store"
)

type fitView struct{ URL, Words string }

// otherTin is what the same batter does in another tin.
type otherTin struct {
	Name, URL       string
	Fill, FirstLook string
	Window, Depth   string
	Fits            bool
	Current         bool
	Problem         string
}

// knownTin is a tin of the catalogue.
type knownTin struct{ Name, Inside, Deep, Holds, Taper string }

// knownTins lists the catalogue; cups beside millilitres where the household measures so.
func knownTins(k measure.Kitchen) []knownTin {
	var out []knownTin
	for _, t := range tin.Standard {
		if t.Shape == tin.Free {
			continue
		}
		row := knownTin{
			t.Words(), measure.Digits(t.Length, 3), measure.Digits(t.Depth, 2) + " cm",
			fmt.Sprintf("%.0f ml", math.Round(float64(t.Volume)/10)*10), fmt.Sprintf("%.0f %%", 100*t.Taper()),
		}
		if t.Width != t.Length {
			row.Inside += " × " + measure.Digits(t.Width, 3)
		}
		row.Inside += " cm"
		if k.Cups {
			row.Holds += fmt.Sprintf(", %s cups", measure.Digits(float64(t.Volume/k.Cup), 2))
		}
		out = append(out, row)
	}
	return out
}

type tinView struct {
	ID               int64
	Name, Tin, Holds string
}

func (s *Server) changeTin(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	return s.putAway(c, paramID(c), form)
}

// addTin puts a tin into the cupboard, by its inner sizes or by how much water it held.
func (s *Server) addTin(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	faults := map[string]string{}
	name := strings.TrimSpace(form.Get("name"))
	if name == "" || len([]rune(name)) > 60 {
		faults["name"] = "Give it a name of at most 60 letters, such as “dented ring”"
	}
	length := gap(form, "length", 4, 60, "the inner length or diameter in cm, such as 23", faults)
	width := gap(form, "width", 4, 60, "the inner width in cm, such as 13", faults)
	deep := gap(form, "deep", 1, 20, "the inner depth in cm, such as 7", faults)
	water := gap(form, "water", 20, 20000, "the water it holds in g or ml, such as 1900", faults)
	shape := tin.Shape(form.Get("shape"))
	oblong := shape == tin.Loaf || shape == tin.Sheet
	switch {
	case length == 0 && faults["length"] == "" && shape != tin.Cups:
		faults["length"] = "Measure inside, rim to rim: a number of cm such as 23"
	case oblong && width == 0 && faults["width"] == "":
		faults["width"] = "Measure inside: a number of cm such as 13"
	}
	text := fmt.Sprintf("%s %g cm", shape, length)
	if oblong {
		text = fmt.Sprintf("%s %g×%g cm", shape, math.Max(length, width), math.Min(length, width))
	}
	if shape == tin.Cups {
		text = fmt.Sprintf(
			"%.0f muffin cups", math.Max(1, gap(form, "count", 1, 48, "how many cups it has, such as 12", faults)),
		)
	} else if deep > 0 {
		text += fmt.Sprintf(", %g cm deep", deep)
	}
	if water > 0 {
		text += fmt.Sprintf(", holds %.0f ml", water)
	}
	if m := tin.Material(form.Get("metal")); m != tin.Bright {
		text += ", " + m.Words()
	}
	x, known := tin.Parse(text)
	if !known && len(faults) == 0 {
		faults["length"] = "No such tin is made: try a diameter from 8 to 45 cm"
	}
	if len(faults) > 0 {
		return s.ovensBad(c, ovensTyped{form, faults, "tin", 0})
	}
	if _, err := s.store.AddTin(c, store.OwnTin{Name: name, Text: x.Words()}); err != nil {
		return err
	}
	return s.kept(c, name)
}

// fitTin is the batch that fills the tin as it is usually filled; nil while it does.
func fitTin(id int64, req adapt.Request, kind recipe.Kind, f oven.Fill) *fitView {
	if !f.WantsOther() {
		return nil
	}
	scale := math.Round(20*cmp.Or(req.Scale, 1)*oven.Usual(kind, f.Tin)/f.Share) / 20
	if scale < 0.1 || scale > 20 || scale == cmp.Or(req.Scale, 1) {
		return nil
	}
	req.Scale = scale
	return &fitView{
		recipeURL(id, "heat", req.Values().Encode()),
		fmt.Sprintf("Make %s times the batch for this tin", measure.Digits(scale, 3)),
	}
}

// otherTins foretells the same batter in as many of each of the common tins as it fills.
func (s *Server) otherTins(id int64, req adapt.Request, res *adapt.Result) []otherTin {
	var out []otherTin
	if res.Bake == nil {
		return nil
	}
	for _, t := range tin.Standard {
		if t.Shape == tin.Free {
			continue
		}
		e, err := res.In(t)
		if err != nil {
			continue
		}
		q := req
		q.Tin = e.Fill.Tin.Words()
		o := otherTin{
			Name: q.Tin, URL: recipeURL(id, "heat", q.Values().Encode()), Current: q.Tin == res.Bake.Fill.Tin.Words(),
		}
		o.Fill = fmt.Sprintf("%.0f %%", 100*e.Fill.Share)
		o.Depth = fmt.Sprintf("%.1f cm", e.Fill.Depth)
		o.FirstLook = fmt.Sprintf("%.0f", e.FirstLook)
		o.Window = fmt.Sprintf("%.0f–%.0f", e.Low, e.High)
		o.Problem = e.Fill.Words
		o.Fits = e.Fill.Fits()
		out = append(out, o)
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Fits && !out[b].Fits })
	return out
}
