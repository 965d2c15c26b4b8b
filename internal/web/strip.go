package web

import (
	"fmt"
	"html"
	"html/template"
	"math"
	"slices"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// A strip is a recipe drawn as one bar, each line a block as wide as its weight
// with the texture of its family. On the bench the written strip lies above,
// yours below on the same scale, and ribbons run from what went out to what
// came in. What weighs less than tailShare is drawn tailScale times wider in a
// tail at the end.
const (
	tailShare = 0.02
	tailScale = 10
	tailMin   = 46.0 // px of a tail block at least
	tailMax   = 80.0
)

// block is one rectangle with its words.
type block struct {
	X, Y, W, H   string
	Texture      string
	Moved        bool
	Line         int
	Title        string // full words, for pointer and reader
	Name         string // "" where there is no room
	NameX, NameY string
	Anchor       string
	Grams        string // "" where there is no room
	PillX, PillY string
	PillW        string
	TextX, TextY string
	Key          string // ties blocks and ribbons of one change together
}

// Where the parts of a block stand, as one value: a page has some forty of them, and a value costs more than its digits.
func (b block) Box() template.HTMLAttr {
	return stands("x", b.X, "y", b.Y, "width", b.W, "height", b.H)
}
func (b block) Pill() template.HTMLAttr   { return stands("x", b.PillX, "y", b.PillY, "width", b.PillW) }
func (b block) TextAt() template.HTMLAttr { return stands("x", b.TextX, "y", b.TextY) }
func (b block) NameAt() template.HTMLAttr {
	return stands("x", b.NameX, "y", b.NameY, "text-anchor", b.Anchor)
}

// stands writes attributes of numbers and words of ours.
func stands(pairs ...string) template.HTMLAttr {
	var b strings.Builder
	for n := 0; n < len(pairs); n += 2 {
		b.WriteString(pairs[n] + `="` + pairs[n+1] + `" `)
	}
	return template.HTMLAttr(b.String())
}

// ribbon is the band from a block that went out to one that came in.
type ribbon struct {
	Path    string
	Texture string
	Moved   bool
	Key     string
}

// stripView is one drawing.
type stripView struct {
	Width, Height int
	Upright       bool
	Blocks        []block
	Ribbons       []ribbon
	Labels        []label
	Summary       string
}

type label struct {
	X, Y, Text, Anchor string
}

// bar is one line on its way into a drawing: u runs along the strip.
type bar struct {
	line  recipe.Line
	ing   *larder.Ingredient
	u, w  float64
	tail  bool
	moved bool
	key   string
}

func f1(x float64) string { return fmt.Sprintf("%.1f", x) }

// smallStrip draws one recipe without words, for rows of a list.
func smallStrip(r *recipe.Recipe, l *larder.Larder, width, height float64) stripView {
	bars := barsOf(r, l, nil)
	total := 0.0
	for _, b := range bars {
		total += b.line.Grams
	}
	v := stripView{Width: int(width), Height: int(height), Summary: "what it is made of, by weight: " + heaviest(r)}
	u := 0.5
	for _, b := range bars {
		w := b.line.Grams / math.Max(total, 1) * (width - 1)
		if w < 0.8 {
			continue
		}
		v.Blocks = append(
			v.Blocks,
			block{
				X: f1(u), Y: "0.5", W: f1(w), H: f1(height - 1), Texture: texture(b.ing, w),
				Title: b.line.Name + " " + measure.Grams(b.line.Grams).String(),
			},
		)
		u += w
	}
	return v
}

// Small is the drawing of smallStrip, written at once: a shelf has some hundreds of blocks.
func (v stripView) Small() template.HTML {
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="strip small" viewBox="0 0 %d %d" preserveAspectRatio="none" role="img" aria-label="%s">`, v.Width, v.Height, html.EscapeString(v.Summary))
	for _, bl := range v.Blocks {
		b.WriteString(`<rect class="b ` + bl.Texture + `" ` + string(bl.Box()) + `><title>` + html.EscapeString(bl.Title) + `</title></rect>`)
	}
	b.WriteString("</svg>")
	return template.HTML(b.String())
}

// texture is flat below 12 px, where a pattern is only noise.
func texture(i *larder.Ingredient, w float64) string {
	t := "salt"
	if i != nil {
		t = i.Shelf.Texture
	}
	if w < 12 {
		return "flat-" + t
	}
	return t
}

// heaviest names the three heaviest lines in words.
func heaviest(r *recipe.Recipe) string {
	lines := append([]recipe.Line(nil), r.Lines...)
	var out []string
	for len(out) < 3 {
		best := -1
		for n, l := range lines {
			if l.Grams > 0 && (best < 0 || l.Grams > lines[best].Grams) {
				best = n
			}
		}
		if best < 0 {
			break
		}
		out = append(out, lines[best].Name+" "+measure.Grams(lines[best].Grams).String())
		lines[best].Grams = 0
	}
	return strings.Join(out, ", ")
}

// barsOf takes the weighed lines; keys tells which belong to a change.
func barsOf(r *recipe.Recipe, l *larder.Larder, keys map[recipe.LineID]string) []bar {
	var out []bar
	for _, ln := range r.Lines {
		if ln.Grams <= 0 {
			continue
		}
		k := keys[ln.ID]
		if k == "" {
			k = fmt.Sprintf("line-%d", ln.ID)
		}
		out = append(out, bar{line: ln, ing: l.Get(ln.Ingredient), moved: keys[ln.ID] != "", key: k})
	}
	return out
}

// benchStrips draws the written strip, yours, and the ribbons. Lying, it is 1232
// wide; upright, for a narrow screen, two columns.
func benchStrips(written *recipe.Recipe, res *adapt.Result, l *larder.Larder, upright bool, k measure.Kitchen) stripView {
	keysTop, keysBottom := map[recipe.LineID]string{}, map[recipe.LineID]string{}
	for n, c := range res.Changes {
		k := fmt.Sprintf("change-%d", n)
		for _, a := range c.From {
			keysTop[a.Line] = k
		}
		for _, a := range c.To {
			keysBottom[a.Line] = k
		}
	}
	top, bottom := barsOf(written, l, keysTop), barsOf(res.Recipe, l, keysBottom)
	d := drawing{length: 1232, gapU: 2, upright: upright, pill: func(ln recipe.Line, isTop bool) string { return pillWords(ln, res, isTop, k) }, a0: 36, a1: 78, b0: 124, b1: 166}
	if upright {
		d.length, d.a0, d.a1, d.b0, d.b1 = 520, 118, 158, 204, 244
	}
	d.place(top, bottom)
	v := stripView{Width: 1232, Height: 204, Upright: upright}
	if upright {
		v.Width, v.Height = 362, 540
	}
	massA, massB := written.Mass(), res.Recipe.Mass()
	v.Labels = d.labels(massA, massB)
	if len(res.Changes) == 0 || res.Refused != nil { // one strip, not the same twice
		v.Blocks = d.blocks(top, true)
		v.Labels = slices.DeleteFunc(v.Labels, func(l label) bool { return strings.HasPrefix(l.Text, "Yours") })
		if !upright {
			v.Height = 84
		}
		v.Summary = "As written " + massA.String() + ": " + heaviest(written) + "."
		return v
	}
	v.Ribbons = d.ribbons(top, bottom, res.Changes)
	v.Blocks = append(d.blocks(top, true), d.blocks(bottom, false)...)
	v.Summary = fmt.Sprintf("As written %s, yours %s. ", massA, massB)
	for _, c := range res.Changes {
		v.Summary += c.Title + " becomes " + amountWords(c.To) + ". "
	}
	return v
}

// Shares of a strip that its gaps, and its small amounts, take at most, however many lines there are.
const mostGaps, mostTail = 0.1, 0.4

// drawing maps along (u) and across (v) to x and y.
type drawing struct {
	length         float64
	gapU           float64
	upright        bool
	pill           func(ln recipe.Line, isTop bool) string // what stands on a block instead of its grams; "" for those
	a0, a1, b0, b1 float64                                 // across: the written strip, then yours
	tailAt         float64
}

func (d *drawing) place(top, bottom []bar) {
	mass := func(bars []bar) float64 {
		s := 0.0
		for _, b := range bars {
			s += b.line.Grams
		}
		return s
	}
	total := math.Max(math.Max(mass(top), mass(bottom)), 1)
	tailMinimum, tailMaximum := tailMin, tailMax
	if d.upright {
		tailMinimum, tailMaximum = 17, 26
	}
	if n := float64(max(len(top), len(bottom))); n*d.gapU > mostGaps*d.length { // many lines stand closer
		d.gapU = mostGaps * d.length / n
	}
	small := 0
	for _, bars := range [][]bar{top, bottom} {
		k := 0
		for _, b := range bars {
			if b.line.Grams < tailShare*total {
				k++
			}
		}
		small = max(small, k)
	}
	if each := mostTail * d.length / float64(max(1, small)); each < tailMaximum+d.gapU {
		tailMaximum = math.Max(0.5, each-d.gapU)
		tailMinimum = math.Min(tailMinimum, tailMaximum)
	}
	tail := func(bars []bar, scale float64) (width, heavy float64, n int) {
		for i := range bars {
			b := &bars[i]
			b.tail = b.line.Grams < tailShare*total
			if b.tail {
				b.w = math.Min(tailMaximum, math.Max(tailMinimum, b.line.Grams*scale*tailScale))
				width += b.w + d.gapU
			} else {
				heavy += b.line.Grams
				n++
			}
		}
		return
	}
	scale := d.length / total
	ta, _, _ := tail(top, scale)
	tb, _, _ := tail(bottom, scale)
	room := d.length - math.Max(ta, tb) - 28
	heavyA, heavyB, na, nb := 0.0, 0.0, 0, 0
	_, heavyA, na = tail(top, scale)
	_, heavyB, nb = tail(bottom, scale)
	scale = (room - d.gapU*float64(max(na, nb))) / math.Max(math.Max(heavyA, heavyB), 1)
	d.tailAt = room + 28
	for _, bars := range [][]bar{top, bottom} {
		u, t := 0.0, d.tailAt
		for i := range bars {
			b := &bars[i]
			if b.tail {
				b.u = t
				t += b.w + d.gapU
				continue
			}
			b.w = b.line.Grams * scale
			b.u = u
			u += b.w + d.gapU
		}
	}
}

func (d *drawing) rect(u, w, v0, v1 float64) (x, y, rw, rh float64) {
	if d.upright {
		return v0, u + 14, v1 - v0, w
	}
	return u, v0, w, v1 - v0
}

func (d *drawing) blocks(bars []bar, isTop bool) []block {
	v0, v1 := d.a0, d.a1
	if !isTop {
		v0, v1 = d.b0, d.b1
	}
	var out []block
	for _, b := range bars {
		x, y, w, h := d.rect(b.u, b.w, v0, v1)
		bl := block{
			X: f1(x), Y: f1(y), W: f1(w), H: f1(h), Texture: texture(b.ing, b.w), Moved: b.moved, Line: int(b.line.ID),
			Key: b.key, Title: fmt.Sprintf("%s, %s", b.line.Name, measure.Grams(b.line.Grams)), Anchor: "middle",
		}
		grams := strings.TrimSuffix(measure.Grams(b.line.Grams).String(), " g")
		if !strings.HasSuffix(grams, "kg") {
			grams += " g"
		}
		if words := d.pill(b.line, isTop); words != "" && (d.upright || b.w >= float64(len([]rune(words)))*6.6+10) {
			grams = words
		}
		pill := float64(len([]rune(grams)))*6.6 + 8
		if d.upright {
			if b.w >= 13 {
				name := fit(shortName(b.line.Name), 96)
				bl.Name = name
				bl.NameY, bl.NameX, bl.Anchor = f1(y+h/2+4), f1(d.a0-8), "end"
				if !isTop {
					bl.NameX, bl.Anchor = f1(d.b1+8), "start"
				}
			}
			if b.w >= 17 {
				bl.Grams, bl.PillX, bl.PillY, bl.PillW = strings.TrimSuffix(grams, " g"), f1(x+5), f1(y+h/2-8), f1(w-10)
				bl.TextX, bl.TextY = f1(x+w/2), f1(y+h/2+4)
			}
		} else {
			if name := fit(shortName(b.line.Name), b.w+1); name != "" {
				bl.Name, bl.NameX, bl.NameY = name, f1(x+w/2), f1(v0-7)
				if !isTop {
					bl.NameY = f1(v1 + 16)
				}
			}
			if b.w >= pill+2 {
				bl.Grams, bl.PillX, bl.PillY, bl.PillW = grams, f1(x+w/2-pill/2), f1(y+h/2-9), f1(pill)
				bl.TextX, bl.TextY = f1(x+w/2), f1(y+h/2+4.5)
			}
		}
		out = append(out, bl)
	}
	return out
}

func (d *drawing) labels(a, b measure.Grams) []label {
	if d.upright {
		return []label{
			{f1((d.a0 + d.a1) / 2), "10", "As written " + a.String(), "end"},
			{f1((d.b0 + d.b1) / 2), "10", "Yours " + b.String(), "start"},
		}
	}
	return []label{
		{"0", "11", "As written · " + a.String(), "start"}, {"0", "200", "Yours · " + b.String(), "start"},
		{f1(d.length), "11", "small amounts, drawn 10× wider", "end"},
	}
}

// ribbons joins unchanged lines to themselves, and each change's outgoing blocks
// to its incoming ones in proportion to their weight.
func (d *drawing) ribbons(top, bottom []bar, changes []adapt.Change) []ribbon {
	find := func(bars []bar, id recipe.LineID) *bar {
		for i := range bars {
			if bars[i].line.ID == id {
				return &bars[i]
			}
		}
		return nil
	}
	var out []ribbon
	for _, b := range bottom {
		if b.moved {
			continue
		}
		if a := find(top, b.line.ID); a != nil {
			out = append(out, ribbon{Path: d.band(a.u, a.u+a.w, b.u, b.u+b.w), Texture: b.texture(), Key: b.key})
		}
	}
	for n, c := range changes {
		key := fmt.Sprintf("change-%d", n)
		var from, to []*bar
		sumFrom, sumTo := 0.0, 0.0
		for _, a := range c.From {
			if b := find(top, a.Line); b != nil {
				from = append(from, b)
				sumFrom += b.line.Grams
			}
		}
		for _, a := range c.To {
			if b := find(bottom, a.Line); b != nil {
				to = append(to, b)
				sumTo += b.line.Grams
			}
		}
		for _, a := range from {
			at := a.u
			for _, b := range to {
				share := b.line.Grams / math.Max(sumTo, 1e-9)
				w := a.w * share
				// of the incoming block, the part that this outgoing one pays for
				part := a.line.Grams / math.Max(sumFrom, 1e-9)
				before := 0.0
				for _, o := range from {
					if o == a {
						break
					}
					before += o.line.Grams / math.Max(sumFrom, 1e-9)
				}
				out = append(
					out,
					ribbon{
						Path: d.band(at, at+w, b.u+b.w*before, b.u+b.w*(before+part)), Texture: a.texture(),
						Moved: true, Key: key,
					},
				)
				at += w
			}
		}
	}
	return out
}

func (b *bar) texture() string { return strings.TrimPrefix(texture(b.ing, 0), "flat-") }

// band is the path from u0..u1 on the written strip to w0..w1 on yours.
func (d *drawing) band(u0, u1, w0, w1 float64) string {
	m := (d.a1 + d.b0) / 2
	p := func(u, v float64) string {
		x, y, _, _ := d.rect(u, 0, v, v)
		return f1(x) + " " + f1(y)
	}
	return "M" + p(u0, d.a1) + "C" + p(u0, m) + " " + p(w0, m) + " " + p(w0, d.b0) + "L" + p(w1, d.b0) + "C" + p(
		w1, m,
	) + " " + p(u1, m) + " " + p(u1, d.a1) + "Z"
}

// shortName drops the words that a small label can do without.
func shortName(s string) string {
	s, _, _ = strings.Cut(s, ",")
	s, _, _ = strings.Cut(s, " (")
	words := strings.Fields(s)
	for len(words) > 1 && (words[0] == "ground" || words[0] == "fine" || words[0] == "baking" || words[0] == "unsalted" || words[0] == "granulated" || words[0] == "whole" || words[0] == "fresh" || words[0] == "rolled") {
		words = words[1:]
	}
	return strings.Join(words, " ")
}

// fit cuts a name to a width at about 6.3 px a letter; "" when not even four
// letters fit.
func fit(name string, width float64) string {
	n := int(width / 6.3)
	rs := []rune(name)
	if len(rs) <= n {
		return name
	}
	if n < 4 {
		return ""
	}
	return strings.TrimSpace(string(rs[:n-1])) + "…"
}

func amountWords(as []adapt.Amount) string {
	var out []string
	for _, a := range as {
		if a.Grams == 0 {
			continue // for greasing
		}
		out = append(out, measure.Grams(a.Grams).String()+" "+a.Name)
	}
	if len(out) == 0 {
		return "nothing"
	}
	return strings.Join(out, " and ")
}
