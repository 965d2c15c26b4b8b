package web

import (
	"cmp"
	"fmt"
	"math"
	"net/url"
	"slices"
	"sort"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/tin"
	"kollaris/internal/store"
)

// link is an address and what it is called.
type link struct{ URL, Words string }

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
	ID, Rev          int64
	Name, Tin, Holds string
	F                fields
	Shapes, Metals   []choice
	Open             bool
}

// tinViewOf is a tin with the boxes that change it: as it is, or as was typed and will not do.
func tinViewOf(own store.OwnTin, t ovensTyped) tinView {
	x, _ := tin.Parse(own.Text)
	v := tinView{ID: own.ID, Rev: own.Rev, Name: own.Name, Tin: own.Text, F: tinFields(own.ID)}
	shape, metal := x.Shape, x.Of
	if own.ID != 0 {
		holds := ""
		if _, after, ok := strings.Cut(own.Text, "holds "); ok {
			holds, _, _ = strings.Cut(after, " ml")
		} else if x.Volume > 0 {
			v.Holds = fmt.Sprintf("about %.0f ml", math.Round(float64(x.Volume)/10)*10)
		}
		v.F.set("name", own.Name)
		v.F.set("water", holds)
		if x.Shape == tin.Cups {
			v.F.set("count", fmt.Sprint(x.Count))
		} else {
			v.F.set("length", measure.Digits(x.Length, 3))
			v.F.set("deep", measure.Digits(x.Depth, 3))
			if x.Shape == tin.Loaf || x.Shape == tin.Sheet {
				v.F.set("width", measure.Digits(x.Width, 3))
			}
		}
	}
	if t.of == "tin" && t.oven == own.ID {
		v.Open, v.Rev = true, seenRev(t.form)
		shape, metal = tin.Shape(t.form.Get("shape")), tin.Material(t.form.Get("metal"))
		v.F.typed(t.form, t.faults)
	}
	for _, x := range []struct {
		id    tin.Shape
		words string
	}{{tin.Round, "round"}, {tin.Loaf, "loaf"}, {tin.Square, "square"}, {tin.Sheet, "oblong"}, {tin.Ring, "ring"}, {tin.Cups, "muffin tin"}} {
		v.Shapes = append(v.Shapes, choice{string(x.id), x.words, x.id == shape})
	}
	for _, m := range tin.Materials {
		v.Metals = append(v.Metals, choice{string(m.ID), m.Words, m.ID == metal})
	}
	return v
}

// asked reads a request from an address, with what is the household's: a tin of its own by its name, its people, its oven.
func (s *Server) asked(c *gin.Context, v url.Values, recipe int64) (adapt.Request, []adapt.Fault, error) {
	own, err := s.store.OwnTins(c.Request.Context())
	if err != nil {
		return adapt.Request{}, nil, err
	}
	if t, ok := ownTin(own, v.Get("tin")); ok {
		v.Set("tin", t.Text)
	}
	s.spooned(v)
	req, faults := adapt.ParseRequest(v, s.kit.Larder)
	for n := range faults {
		if f := &faults[n]; f.Field == "tin" && len(own) > 0 {
			f.Why += ", or one of yours: " + tinNames(own)
		}
	}
	return req, faults, s.lay(c, &req, recipe)
}

// spooned turns amounts that are held in cups, spoons or ounces into grams, by what a measure of the ingredient weighs in
// this kitchen.
func (s *Server) spooned(v url.Values) {
	for name, values := range v {
		id, ok := strings.CutPrefix(name, "hold.")
		i := s.kit.Larder.Get(larder.ID(id))
		if !ok || i == nil || len(values) == 0 {
			continue
		}
		if _, err := measure.ParseDecimal(values[0], "g"); err == nil || strings.TrimSpace(values[0]) == "" {
			continue
		}
		if g, doubt := s.weighed(values[0], recipe.Line{Ingredient: i.ID, Unit: "g"}); doubt == "" {
			v[name] = []string{fmt.Sprintf("%g", math.Round(10*g)/10)}
		}
	}
}

// ownTin finds a tin of the household's by its name, as people say it: "granny’s fluted", "the blue bowl".
func ownTin(own []store.OwnTin, said string) (store.OwnTin, bool) {
	name := plainName(said)
	for _, t := range own {
		if n := plainName(t.Name); n != "" && (n == name || t.Text == strings.TrimSpace(said)) {
			return t, true
		}
	}
	return store.OwnTin{}, false
}

// plainName is a name as it is compared: small letters, straight apostrophes, no article.
func plainName(s string) string {
	s = strings.Join(strings.Fields(strings.ToLower(strings.ReplaceAll(s, "’", "'"))), " ")
	for _, a := range []string{"the ", "my ", "our ", "in ", "a "} {
		s = strings.TrimPrefix(s, a)
	}
	return s
}

func tinNames(own []store.OwnTin) string {
	var names []string
	for _, t := range own {
		names = append(names, t.Name)
	}
	return strings.Join(names, ", ")
}

func (s *Server) changeTin(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	id := paramID(c)
	if do := form.Get("do"); do == "leave" || do == "return" {
		return s.putAway(c, id, form)
	}
	return s.keepTin(c, id, form)
}

// addTin puts a tin into the cupboard, by its inner sizes or by how much water it held.
func (s *Server) addTin(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	return s.keepTin(c, 0, form)
}

// keepTin adds a tin, or changes one.
func (s *Server) keepTin(c *gin.Context, id int64, form url.Values) error {
	own, err := s.store.OwnTins(c.Request.Context())
	if err != nil {
		return err
	}
	t, faults := readTin(form)
	for _, o := range own {
		if o.ID != id && plainName(o.Name) == plainName(t.Name) {
			faults["name"] = fmt.Sprintf("A tin is called “%s” already: another name tells them apart", o.Name)
		}
	}
	if len(faults) > 0 {
		return s.ovensBad(c, ovensTyped{form, faults, "tin", id})
	}
	if id == 0 {
		_, err = s.store.AddTin(c.Request.Context(), t)
	} else {
		err = s.store.ChangeTin(c.Request.Context(), id, seenRev(form), func(to *store.OwnTin) { to.Name, to.Text = t.Name, t.Text })
	}
	if err != nil {
		return err
	}
	return s.kept(c, t.Name)
}

// readTin reads the sentences of a tin. Its sizes, or the water that it holds to the rim: then it is taken to have the
// usual proportions of its shape.
func readTin(form url.Values) (store.OwnTin, map[string]string) {
	faults := map[string]string{}
	name := strings.TrimSpace(form.Get("name"))
	if name == "" || len([]rune(name)) > 60 {
		faults["name"] = "Give it a name of at most 60 letters, such as “dented ring”"
	}
	if _, known := slices.BinarySearch(standardNames, strings.ToLower(name)); known {
		faults["name"] = fmt.Sprintf("“%s” is a tin that is known already: another name tells yours from it", name)
	}
	length := gap(form, "length", 4, 60, "the inner length or diameter, such as 23 or 9 in", faults)
	width := gap(form, "width", 4, 60, "the inner width, such as 13 or 5 in", faults)
	deep := gap(form, "deep", 1, 20, "the inner depth, such as 7 or 2¾ in", faults)
	water := gap(form, "water", 20, 20000, "the water it holds in g or ml, such as 1900", faults)
	shape := tin.Shape(form.Get("shape"))
	oblong := shape == tin.Loaf || shape == tin.Sheet
	text := ""
	switch {
	case shape == tin.Cups:
		text = fmt.Sprintf("%.0f muffin cups", math.Max(1, gap(form, "count", 1, 48, "how many cups it has, such as 12", faults)))
	case length == 0 && faults["length"] == "" && water > 0:
		t := tin.ThatHolds(shape, measure.Millilitres(water), 1)
		length, width = t.Length, t.Width
		if deep == 0 {
			deep = t.Depth
		}
	case length == 0 && faults["length"] == "":
		faults["length"] = "Measure inside, rim to rim: a number of cm such as 23. Or fill it: the water alone is enough"
	case oblong && width == 0 && faults["width"] == "":
		faults["width"] = "Measure inside: a number of cm such as 13"
	}
	switch {
	case shape == tin.Cups:
	case oblong:
		text = fmt.Sprintf("%s %s×%s cm", shape, measure.Digits(math.Max(length, width), 3), measure.Digits(math.Min(length, width), 3))
	default:
		text = fmt.Sprintf("%s %s cm", shape, measure.Digits(length, 3))
	}
	if deep > 0 && shape != tin.Cups {
		text += fmt.Sprintf(", %s cm deep", measure.Digits(deep, 3))
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
	return store.OwnTin{Name: name, Text: x.Words()}, faults
}

var standardNames = func() (out []string) {
	for _, t := range tin.Standard {
		out = append(out, strings.ToLower(t.Name))
	}
	slices.Sort(out)
	return out
}()

// fitTin is the batch that fills the tin as it is usually filled; nil while it does.
func fitTin(id int64, req adapt.Request, kind recipe.Kind, f oven.Fill) *link {
	if !f.WantsOther() {
		return nil
	}
	scale := math.Round(20*cmp.Or(req.Scale, 1)*oven.Usual(kind, f.Tin)/f.Share) / 20
	if scale < 0.1 || scale > 20 || scale == cmp.Or(req.Scale, 1) {
		return nil
	}
	req.Scale = scale
	return &link{
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
		o.Depth = lengthWords(e.Fill.Depth, s.kit.Kitchen)
		o.FirstLook = fmt.Sprintf("%.0f", e.FirstLook)
		o.Window = fmt.Sprintf("%.0f–%.0f", e.Low, e.High)
		o.Problem = e.Fill.Words
		o.Fits = e.Fill.Fits()
		out = append(out, o)
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Fits && !out[b].Fits })
	return out
}
