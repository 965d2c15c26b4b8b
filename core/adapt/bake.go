package adapt

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"kollaris/core/device"
	"math"
	"time"

	"kollaris/core/balance"
	"kollaris/core/heat"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/oven"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
	"kollaris/core/sweet"
	"kollaris/core/tin"
)

// knownBake is what the written recipe says of its bake, with what is usual for
// its kind where it says nothing.
func knownBake(written *recipe.Recipe) oven.Baking {
	b := oven.Baking{Kind: written.Kind, Oven: written.Oven, Minutes: written.Bake.Mid(), Tin: usualTin(written)}
	at := 0.0
	for n, s := range written.Stages {
		if n == 0 {
			b.Oven = max(s.Oven, written.Oven)
		} else if s.Oven > 0 {
			b.Setup.Stages = append(b.Setup.Stages, oven.Stage{After: at, Oven: s.Oven})
		}
		at += s.Minutes.Mid()
	}
	if b.Oven == 0 {
		b.Oven = written.Kind.Trade().Oven
	}
	return b
}

// standing is what stands in the oven when a recipe of several parts is last baked: a crust
// with its filling, rather than the crust alone.
type standing struct {
	parts    bool            // something was baked before
	sections map[string]bool // that are in it beside the batter
	tasks    []method.Task   // of the last baking
	custard  bool            // what went in last is set by egg
}

var bakeWord = pattern.Must(`(?i)\bbak(?:e|ed|ing)\b|\boven\b`)

// standsIn tells what stands in the oven at the last; the zero value where that is the
// batter and nothing else.
func standsIn(r *recipe.Recipe, l *larder.Larder) standing {
	var s standing
	filled := r.Kind == recipe.Custard || r.Kind == recipe.Cheesecake
	times := 0
	for _, st := range r.Steps {
		times += len(bakeWord.FindAllStringIndex(st.Text, -1))
	}
	if !filled && times < 2 {
		return s
	}
	tasks := method.Read(r, l)
	bakings := method.Bakings(tasks)
	if len(bakings) == 0 || !filled && len(bakings) < 2 {
		return s
	}
	last := bakings[len(bakings)-1]
	s.parts, s.sections = len(bakings) > 1, map[string]bool{}
	for _, t := range tasks[:last[0]] {
		for _, u := range t.Uses {
			if ln := r.Line(u.Line); ln != nil && ln.Section != "" {
				s.sections[ln.Section] = true
			}
		}
	}
	for _, n := range last {
		s.tasks = append(s.tasks, tasks[n])
	}
	if s.parts {
		s.custard = setByEgg(tasks[bakings[len(bakings)-2][0]:last[0]], r, l)
	}
	return s
}

// setByEgg tells a filling that egg sets and no flour does. Source: practice.
func setByEgg(tasks []method.Task, r *recipe.Recipe, l *larder.Larder) bool {
	egg, flour, all := 0.0, 0.0, 0.0
	for _, t := range tasks {
		for _, u := range t.Uses {
			ln := r.Line(u.Line)
			if ln == nil {
				continue
			}
			g := u.Share * ln.Grams
			all += g
			if i := l.Get(ln.Ingredient); i != nil && i.Origin == "egg" {
				egg += g
			} else if i != nil && i.IsBase() {
				flour += g
			}
		}
	}
	return egg >= 0.08*all && flour < 0.1*all && all > 0
}

// in is what of a recipe, written or adapted, stands in the oven.
func (s standing) in(r *recipe.Recipe) *recipe.Recipe {
	if s.sections == nil {
		return r
	}
	whole := *r
	whole.Lines = nil
	for _, ln := range r.Lines {
		if !ln.Topping() || s.sections[ln.Section] {
			ln.Role = recipe.Batter
			whole.Lines = append(whole.Lines, ln)
		}
	}
	return &whole
}

// of puts the last baking's heat and time into a bake.
func (s standing) of(b oven.Baking) oven.Baking {
	if !s.parts {
		return b
	}
	b.Setup.Stages, b.Minutes = nil, 0
	if s.custard && b.Kind != recipe.Cheesecake {
		b.Kind = recipe.Custard
	}
	for n, t := range s.tasks {
		switch {
		case n == 0:
			b.Oven = cmp.Or(t.Oven, b.Oven)
		case t.Oven > 0 && t.Oven != b.Oven:
			b.Setup.Stages = append(b.Setup.Stages, oven.Stage{After: b.Minutes, Oven: t.Oven})
		}
		b.Minutes += t.Wait.Mid()
	}
	return b
}

// weighed puts what stands in the oven into a bake.
func weighed(b oven.Baking, r *recipe.Recipe, l *larder.Larder) oven.Baking {
	b.Mass, b.Food, b.Colour, b.Pieces = batterMass(r), foodOf(r, l), colourOf(r, l), 0
	if len(r.Tins) > 1 && b.Tin == r.Tins[0] {
		b.Mass *= measure.Grams(tin.Shares(r.Tins)[0])
	}
	if b.Tin.Shape == tin.Free {
		b.Pieces = pieces(r)
	}
	return b
}

// foodOf is the composition of a batter, zero where less than three quarters of its
// weight is known.
func foodOf(r *recipe.Recipe, l *larder.Larder) heat.Food {
	var f larder.Facts
	grams, all := 0.0, 0.0
	for _, ln := range r.Batter() {
		all += ln.Grams
		if i := l.Get(ln.Ingredient); i != nil && ln.Grams > 0 {
			grams += ln.Grams
			for _, c := range []larder.Column{larder.Water, larder.Protein, larder.Fat, larder.Fibre, larder.Ash} {
				f[c] += i.Facts.Or(c, 0) * ln.Grams / 100
			}
		}
	}
	if grams <= 0 || grams < 0.75*all {
		return heat.Food{}
	}
	return heat.Food{
		Water: f[larder.Water] / grams, Protein: f[larder.Protein] / grams, Fat: f[larder.Fat] / grams,
		Fibre: f[larder.Fibre] / grams, Ash: f[larder.Ash] / grams,
	}
}

// colourOf is how readily a batter browns against an ordinary sweet one: its sugars by
// how they brown, its protein twice and a little for starch. Source: memory, a working
// value; the sugars' are the table of sweeteners.
func colourOf(r *recipe.Recipe, l *larder.Larder) float64 {
	const ordinary = 0.38 // the demo's pear loaf
	grams, browns := 0.0, 0.0
	for _, ln := range r.Batter() {
		i := l.Get(ln.Ingredient)
		if i == nil || ln.Grams <= 0 {
			continue
		}
		grams += ln.Grams
		x := 2*i.Facts.Or(larder.Protein, 0) + 0.15*i.Facts.Or(larder.Starch, 0)
		for _, s := range sweet.Substances() {
			x += s.Browns * i.Facts.Or(s.Column, 0)
		}
		browns += x * ln.Grams / 100
	}
	if grams <= 0 {
		return 1
	}
	return max(0.1, min(3, browns/grams/ordinary)) // what has no sugar at all still browns a little [memory]
}

// inPieces are the words of breads that are shaped one a person.
var inPieces = pattern.Must(`(?i)\b(?:rolls?|buns?|baps?|bagels?|knots|sticks|pittas?)\b`)

// pieces is how many shaped pieces a recipe makes, 0 where that cannot be told: scones
// and biscuits are counted by serving, a bread is one loaf unless it says otherwise.
func pieces(r *recipe.Recipe) int {
	switch r.Kind.Trade().Pieces {
	case "loaf":
		if inPieces.MatchString(r.Title) {
			return r.Servings
		}
		return 1
	case "each":
		return r.Servings
	}
	return 0
}

// bakes gives the written bake and the one that is asked for: of a recipe as adapted, in
// the tin and the oven of the request.
func bakes(stands standing, written, adapted *recipe.Recipe, req Request, l *larder.Larder) (known, now oven.Baking) {
	known = weighed(stands.of(knownBake(written)), stands.in(written), l)
	now = known
	if asked, ok := tin.Parse(req.Tin); ok {
		now.Tin = asked
	}
	now = weighed(now, stands.in(adapted), l)
	now.Minutes = 0
	if req.Oven.Setup.Flame || written.Kind == recipe.OneBowl && written.Oven == 0 {
		known.Minutes = 0 // a time in another kind of heat says nothing here
	}
	return known, req.Oven.Apply(now)
}

// Bakes are the written bake and the one that was asked for: all that a prediction is made
// from, so that a kept result can be predicted and simulated anew.
type Bakes struct {
	Written oven.Baking     `json:"written"`
	Yours   oven.Baking     `json:"yours"`
	Lower   measure.Celsius `json:"lower,omitempty"`   // that a substitution asks, K
	For     string          `json:"for,omitempty"`     // its title
	NoTin   bool            `json:"no_tin,omitempty"`  // neither the recipe nor the request names one
	NoOven  bool            `json:"no_oven,omitempty"` // nor a heat
	Asked   bool            `json:"asked,omitempty"`   // the request names a heat
	Bowl    bool            `json:"bowl,omitempty"`    // a one-bowl cake for the microwave, by power
	Watts   float64         `json:"watts,omitempty"`   // of it; 0 where not said
	Minutes recipe.Minutes  `json:"minutes"`           // as written
	Into    bool            `json:"into,omitempty"`    // a tin comes, since it cannot be shaped any more
	Parts   bool            `json:"parts,omitempty"`   // a crust, or another part, is baked before
	Share   float64         `json:"share,omitempty"`   // of the batter that is in Yours's tin, where others stand beside it; 0 all of it
	Griddle bool            `json:"griddle,omitempty"` // on a hot plate or in an iron, not in the oven
	Device  string          `json:"device,omitempty"`  // another than an oven, by its name
	Says    string          `json:"says,omitempty"`    // what is said of it instead of a time
}

// bakes puts together what the bake of a result will be; nil where no weight is known.
func (r *assessment) bakes(written *recipe.Recipe) *Bakes {
	stands := standsIn(written, r.Larder)
	known, now := bakes(stands, written, r.res.Recipe, r.req, r.Larder)
	if known.Mass <= 0 || now.Mass <= 0 {
		return nil
	}
	b := &Bakes{
		Written: known, Yours: now, NoTin: len(written.Tins) == 0 && r.req.Tin == "",
		NoOven: written.Oven == 0 && r.req.Oven.At == 0, Asked: r.req.Oven.At != 0, Watts: r.req.Oven.Watts,
		Minutes: written.Bake,
		Bowl:    written.Kind == recipe.OneBowl && written.Oven == 0 && !now.Setup.Flame && r.req.Oven.At == 0,
	}
	b.Parts = stands.parts
	if t := r.res.Recipe.Tins; len(t) > 1 && now.Tin == t[0] {
		b.Share = tin.Shares(t)[0]
	}
	if r.becoming.Is(balance.GlutenFree) && r.written.Kind.Yeasted() {
		b.Yours.Dense = gfDenser
	}
	if r.intoATin(b) && !device.Of(r.before).Other() {
		std, _ := tin.Parse(into(r.before))
		std.Count = max(1, int(math.Round(float64(b.Yours.Mass)/halfFull/float64(std.Volume))))
		b.Yours.Tin, b.NoTin, b.Into = std, false, true
		r.res.Doubts = append(r.res.Doubts, "It is a batter now, too soft to shape: it proves and bakes "+b.Yours.Tin.In()+".")
	}
	b.Griddle = written.Kind == recipe.Griddle && b.NoOven
	if d := device.Of(written); d.Other() && !b.Asked && !b.Bowl && !b.Griddle && !now.Setup.Flame {
		b.Device, b.Says, b.Into = d.Name, d.Says, false
		if !d.Foretold {
			b.NoTin = true
		}
	}
	if b.Bowl || b.Griddle || b.Device != "" {
		return b
	}
	for _, g := range r.picks {
		s := g.chosen.School
		if g.Topping || r.refused != nil {
			continue
		}
		most := measure.Celsius(s.Ceiling(string(written.Kind.Like())))
		if by := b.Written.Oven - most; most > 0 && by > b.Lower {
			b.Lower, b.For = by, s.Title
		}
	}
	if !b.Asked && b.Lower > 0 {
		b.Yours = b.Yours.AtMost(b.Yours.Oven - b.Lower)
	}
	return b
}

// gfDenser is by how much a yeast dough or batter without gluten stands denser when it is
// proved. Source: practice, it comes half as high again where wheat doubles.
const gfDenser = 1. / 3

// halfFull is how full a tin stands with gluten-free yeast batter before it proves, g a
// millilitre. Source: practice, about half.
const halfFull = 0.55

// intoATin reports whether what was shaped by hand has become a batter that has to stand in
// a tin: a yeast dough without gluten, unless husk makes it a dough again.
func (r *assessment) intoATin(b *Bakes) bool {
	return r.req.Tin == "" && r.refused == nil && r.becoming.Is(balance.GlutenFree) && r.written.Kind.Yeasted() &&
		b.Yours.Tin.Shape == tin.Free && !method.Shapes(r.res.Recipe)
}

// into is the tin for what was shaped: cups for rolls, else loaf tins.
func into(r *recipe.Recipe) string {
	for _, st := range r.Steps {
		if method.Rolls(st.Text) {
			return "muffin"
		}
	}
	return "loaf 9x5 in"
}

// Predict is the result with its bake foretold, in the words of a kitchen: with Bake, or
// with BakeProblem and, for a one-bowl cake, Microwave. It takes some milliseconds, so that
// only who shows a time asks for it.
func (res *Result) Predict(k measure.Kitchen) *Result {
	if res.Bake != nil || res.BakeProblem != "" {
		return res // predicted before, or kept so
	}
	copied := *res
	copied.predict(k)
	copied.timed(k)
	return &copied
}

func (res *Result) predict(k measure.Kitchen) {
	b := res.Bakes
	switch {
	case b == nil:
		res.BakeProblem = "No weight is known, so no time can be foretold."
		return
	case b.Bowl:
		res.Microwave = &Microwave{Mass: b.Yours.Mass, Watts: cmp.Or(b.Watts, 900)}
		res.BakeProblem = microwaveWords(b.Yours.Mass, b.Watts)
		if w := b.Minutes; w.Max > w.Min {
			res.BakeProblem = fmt.Sprintf(
				"Written: %s to %s min. ", measure.Digits(w.Min, 3), measure.Digits(w.Max, 3),
			) + res.BakeProblem
		} else if w.Max > 0 {
			res.BakeProblem = fmt.Sprintf("Written: %s min. ", measure.Digits(w.Max, 3)) + res.BakeProblem
		}
		return
	}
	if b.Device != "" {
		res.BakeProblem = b.Says
		if sooner := res.sooner(); sooner != "" {
			res.BakeProblem += " " + sooner
		}
		return
	}
	if b.Griddle {
		res.BakeProblem = "On a griddle, in a pan or an iron, by the sign: turn it when bubbles stay open on top and the rim is dry. Try one first."
		return
	}
	e, err := oven.Foretell(b.Written, b.Yours)
	if err != nil {
		res.BakeProblem = k.Say(fmt.Sprintf("No time can be foretold: %v.", err))
		return
	}
	if p := res.Request.Oven.Pace; p.Bakes > 0 {
		e.Stretch(p.Times())
		e.Why += " " + p.Words()
	}
	if b.For != "" && !b.Asked {
		e.Why += fmt.Sprintf(" The oven is set %s lower: %s browns sooner than it is done.", k.Warmer(b.Lower), b.For)
	}
	if b.Yours.Setup.Fan && !b.Asked {
		e.Why += fmt.Sprintf(" A fan oven is set %s lower.", k.Warmer(oven.FanLower))
	}
	if b.Parts {
		e.Why += " This is the last baking, of the whole; what is baked before it keeps the writer's time, so in another tin or oven go by its colour."
	}
	if b.NoTin {
		e.Why += fmt.Sprintf(" No tin is named, so %s is assumed.", b.Yours.Tin.Words())
	}
	if b.NoOven {
		e.Why += fmt.Sprintf(" No oven heat is named, so %s is assumed.", k.OvenText(b.Written.Oven))
	}
	res.Bake = &e
}

// sooner says which way what came in moves a time that is not foretold. Source: practice; only dry heat browns.
func (res *Result) sooner() string {
	wet := device.Called(res.Bakes.Device).Wet
	for _, l := range res.Recipe.Lines {
		if (l.Ingredient == "allulose" || l.Ingredient == "fructose" || l.Ingredient == "honey") && l.Replaces != 0 && !wet {
			return "Look sooner: " + l.Name + " browns fast."
		}
	}
	if res.Becomes == "gluten-free" || res.Becomes == "nut" {
		return "Look from the written time on: this batter sets later."
	}
	return ""
}

// In foretells the bake in as many of another tin as its batter fills, by the coarse
// model.
func (res *Result) In(t tin.Tin) (oven.Estimate, error) {
	if res.Bakes == nil {
		return oven.Estimate{}, errors.New("no weight is known")
	}
	now := res.Bakes.Yours
	now.Mass /= measure.Grams(cmp.Or(res.Bakes.Share, 1))
	now.Tin = oven.SetOf(now.Kind, now.Mass, t)
	return oven.Glance(res.Bakes.Written, now)
}

// Beside foretells the bake in the tins that stand beside the first, each with its part of the batter, by the coarse model.
func (res *Result) Beside() []oven.Estimate {
	if res.Bakes == nil || res.Bakes.Share == 0 {
		return nil
	}
	var out []oven.Estimate
	for n, part := range tin.Shares(res.Recipe.Tins)[1:] {
		now := res.Bakes.Yours
		now.Tin = res.Recipe.Tins[n+1]
		now.Mass *= measure.Grams(part / res.Bakes.Share)
		if e, err := oven.Glance(res.Bakes.Written, now); err == nil {
			out = append(out, e)
		}
	}
	return out
}

// Simulate follows the bake of a predicted result minute by minute; nil where it has
// none.
func (res *Result) Simulate(ctx context.Context) (*oven.Simulation, error) {
	if res.Bake == nil || res.Bakes == nil {
		return nil, nil
	}
	s, err := oven.Simulate(ctx, res.Bakes.Written, res.Bakes.Yours)
	if p := res.Request.Oven.Pace; err == nil && s != nil && p.Bakes > 0 {
		s.Stretch(p.Times())
	}
	return s, err
}

// Microwave is a one-bowl cake's time by power, instead of a bake.
type Microwave struct {
	Mass  measure.Grams `json:"mass_g"`
	Watts float64       `json:"watts"`
}

// Done is when it is likely done.
func (m Microwave) Done() time.Duration { return oven.Microwave(m.Mass, m.Watts) }

// FirstLook is three quarters of that. Source: common practice.
func (m Microwave) FirstLook() time.Duration { return (m.Done() * 3 / 4).Round(5 * time.Second) }

// Clock writes a short time: "5 min 10 s".
func Clock(d time.Duration) string {
	return fmt.Sprintf("%d min %02d s", int(d.Minutes()), int(d.Seconds())%60)
}

// microwaveWords gives the time of a one-bowl cake at a power, or at common ones.
func microwaveWords(mass measure.Grams, watts float64) string {
	say := func(watts float64) string {
		return fmt.Sprintf("%s at %.0f W", Clock(oven.Microwave(mass, watts)), watts)
	}
	times := say(900) + ", " + say(700)
	if watts > 0 {
		times = say(watts)
	}
	return fmt.Sprintf(
		"In the microwave the time goes with weight and power: %s of batter take about %s. Look after three quarters of it, and let it stand as long again as it took. No metal in it; the maker's manual decides.",
		mass, times,
	)
}

func batterMass(r *recipe.Recipe) measure.Grams {
	sum := 0.0
	for _, l := range r.Batter() {
		sum += l.Grams
	}
	return measure.Grams(sum)
}

// usualTin is the written tin, or what the kind is usually baked in [practice].
func usualTin(r *recipe.Recipe) tin.Tin {
	if len(r.Tins) > 0 {
		return r.Tins[0]
	}
	t, _ := tin.Parse(r.Kind.Trade().Tin)
	return t
}
