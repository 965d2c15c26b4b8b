package formula

import (
	"math"
	"slices"
	"sort"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// Share is a slot's part in one line: a written one that moves, or one that comes in.
type Share struct {
	Line  recipe.LineID // that moves, 0 where one comes in
	Of    *Replaced     // that brings it, nil for a line that moves
	For   recipe.LineID // the written line that it stands for
	Grams float64       // that come to it
	as    string
	prior float64
}

// Slot is one amount to find: an ingredient, wherever it stands in the batter,
// so that the order of lines cannot matter. Without shares it comes in by itself.
type Slot struct {
	Ingredient *larder.Ingredient
	Prior      float64 // g, where the search begins
	Min, Max   float64 // g, how far it may go
	Held       bool    // by the baker, or since it was spooned
	Grams      float64 // found
	Shares     []Share
	drift      float64
}

// How far a part may move from its prior and what moving costs. Source:
// practice, calibrated on the worked examples of the tests.
var moves = map[string]struct{ min, max, drift float64 }{
	"binder":  {0.85, 1.3, 0.10},
	"gel":     {0.75, 1.4, 0.08},
	"liquid":  {0.55, 1.45, 0.04},
	"fat":     {0.9, 1.12, 0.12},
	"acid":    {0.8, 1.15, 0.20}, // a baker lets the soda fall rather than the batter turn sour
	"soda":    {0, 1, 0.02},
	"lift":    {0.5, 2, 0.02},
	"body":    {0.85, 1.15, 0.12},
	"sugar":   {0.75, 1.1, 0.15},
	"salt":    {0.3, 2, 0.05},
	"syrup":   {0.7, 1.1, 0.12},
	"yeast":   {1, 2.5, 0.05},
	"pieces":  {0.45, 1.4, 0.06}, // what stands for fruit goes by the wetness wanted
	"same":    {1, 1, 1},         // a flavour: weight for weight
	"base":    {1, 1, 1},         // settled by the school
	"gum":     {1, 1, 1},
	"protein": {1, 1, 1},
}

// moving is what may move, by ingredient.
type moving map[larder.ID]*Slot

// add lets a share move with what its role allows.
func (by moving) add(ing *larder.Ingredient, sh Share) {
	m := moves[sh.as]
	s := by[ing.ID]
	if s == nil {
		s = &Slot{Ingredient: ing, drift: m.drift}
		by[ing.ID] = s
	}
	s.Prior += sh.prior
	s.Min += sh.prior * m.min
	s.Max += sh.prior * m.max
	s.drift = math.Min(s.drift, m.drift)
	s.Shares = append(s.Shares, sh)
}

// slots collects what may move, sorted by ingredient.
func (f *Formula) slots(b balance.Balance) []*Slot {
	by := moving{}
	small := f.addBrought(by)
	f.addWritten(by)
	f.addEggs(by)
	main := mainLiquid(by)
	for _, lo := range small {
		if main == nil {
			by.add(lo.ing, lo.Share)
			continue
		}
		main.Prior += lo.prior
		main.Min += lo.prior * 0.5
		main.Max += lo.prior * 1.5
		main.Shares[0].prior += lo.prior
	}
	f.addOpenSlots(by, b)
	if f.Becoming != nil && by["water"] == nil { // what milk alone should not bring
		missing := f.liquidMissing()
		if main != nil {
			missing -= 0.25 * main.Prior
		}
		if missing > kilo(b, 25) { // less is left to the liquid there is
			by["water"] = &Slot{Ingredient: f.Larder.Get("water"), Prior: missing, Max: f.Becoming.grams, drift: 0.05}
		}
	}
	var out []*Slot
	for _, id := range sorted(by) {
		f.bound(by[id], by[id] == main, b)
		out = append(out, by[id])
	}
	return out
}

// broughtLiquid is a small water that a school brings: it joins the main liquid.
type broughtLiquid struct {
	Share
	ing *larder.Ingredient
}

// addBrought adds what the schools of the batter bring, but for small waters, which
// it returns.
func (f *Formula) addBrought(by moving) (small []broughtLiquid) {
	kind := string(f.Recipe.Kind.Like())
	for _, g := range f.Replaced {
		if g.Topping {
			continue
		}
		sum := 0.0
		for _, p := range g.School.Parts {
			sum += p.In(kind)
		}
		for _, p := range g.School.Parts {
			for _, l := range g.Lines {
				ing := Part(p, l, f.Larder)
				sh := Share{Of: g, For: l.ID, as: p.As, prior: l.Grams / g.Use.Per * p.In(kind)}
				switch {
				case sh.prior <= 0:
				case p.As == "liquid" && p.Grams < sum/2:
					small = append(small, broughtLiquid{sh, ing})
				default:
					by.add(ing, sh)
				}
			}
		}
	}
	return small
}

// addWritten adds the lines that stay and may move.
func (f *Formula) addWritten(by moving) {
	for n := range f.Recipe.Lines {
		l := &f.Recipe.Lines[n]
		ing := f.Larder.Get(l.Ingredient)
		if ing == nil || l.Grams <= 0 || l.Topping() || f.Of(l.ID) != nil {
			continue
		}
		as := MovesAs(ing)
		switch {
		case f.Becoming == nil:
		case ing.Shelf.Rebased == "liquid", ing.Shelf.Rebased == "yeast" && f.Becoming.Is(balance.GlutenFree):
			as = ing.Shelf.Rebased // another base drinks otherwise
		}
		if as != "" {
			by.add(ing, Share{Line: l.ID, as: as, prior: l.Grams})
		}
	}
}

// bound sets how far a slot may go: what is held not at all, what a limit or another
// base asks further down or up.
func (f *Formula) bound(s *Slot, isMain bool, b balance.Balance) {
	if g, ok := f.Holds[s.Ingredient.ID]; ok {
		s.Prior, s.Min, s.Max, s.Held = g, g, g, true
		return
	}
	if f.Becoming != nil && s.stands("fat") {
		s.Min = math.Min(s.Min, 0.4*s.Prior) // nuts bring their own
	}
	if f.Becoming != nil && isMain {
		s.Min = 0.25 * s.Prior // another base drinks otherwise
		if s.Ingredient.ID == "water" {
			s.Max = math.Max(s.Max, 2.6*s.Prior)
		} else {
			s.Max = math.Min(s.Max, 1.35*s.Prior)
		}
	}
	if s.Ingredient.Facts.Polyols()+s.Ingredient.Facts[larder.Allulose] > 50 {
		s.Min = 0 // the caps of a serving are never exceeded
	}
	for _, l := range f.Exceeded { // less sweet, less salty before over the limit
		switch {
		case s.Ingredient.Family == larder.FamilySugar && l.What != diet.Sodium:
			s.Min *= 0.6
		case s.Ingredient.Family == larder.FamilySalt && l.What == diet.Sodium:
			s.Min = 0
		}
	}
	if s.Ingredient.ID == "baking-powder" {
		most := powderCap / 100 * f.base(b)
		s.Max = math.Max(math.Max(most, s.Prior), s.Min)
	}
}

// liquidMissing is the water that the new base wants beyond what the recipe holds, g.
func (f *Formula) liquidMissing() float64 {
	lo, _ := f.Becoming.waterWindow(f.Recipe.Kind.Like())
	return lo - f.Becoming.water/100*f.Becoming.written
}

// stands reports whether a share of the slot stands for something.
func (s *Slot) stands(as string) bool {
	return slices.ContainsFunc(s.Shares, func(sh Share) bool { return sh.as == as })
}

// addEggs brings the eggs of the batter to what the new base asks for, whole ones.
func (f *Formula) addEggs(by map[larder.ID]*Slot) {
	want := 0.0
	if f.Becoming != nil {
		want = f.eggsWanted()
	}
	egg := f.Larder.Get("egg")
	if v, _ := f.Demand.Judge(egg); want == 0 || v == diet.Breaks || f.For("egg") != nil {
		return
	}
	one, _ := egg.WeightHow("large")
	s := &Slot{Ingredient: egg, drift: 1}
	for n := range f.Recipe.Lines {
		if l := &f.Recipe.Lines[n]; l.Ingredient == "egg" && !l.Topping() && l.Grams > 0 {
			s.Prior += l.Grams
			s.Shares = append(s.Shares, Share{Line: l.ID, as: "same", prior: l.Grams})
		}
	}
	grams := want * float64(one.Grams)
	if s.Prior >= grams-5 {
		return // enough as written
	}
	s.Min, s.Max = grams, grams
	if len(s.Shares) == 0 {
		s.Prior = 0
	}
	by["egg"] = s
}

// MovesAs says whether and how a line that stays may move: liquid, lift, salt,
// and, reluctantly, sugar and fat; never flour or flavour.
func MovesAs(i *larder.Ingredient) string {
	switch i.ID {
	case "baking-powder":
		return "lift"
	case "baking-soda":
		return "soda"
	}
	return i.Shelf.Moves
}

// mainLiquid is the largest liquid of the batter.
func mainLiquid(by map[larder.ID]*Slot) *Slot {
	var main *Slot
	for _, id := range sorted(by) {
		s := by[id]
		liquid := false
		for _, sh := range s.Shares {
			liquid = liquid || sh.as == "liquid"
		}
		if liquid && (main == nil || s.Prior > main.Prior) {
			main = s
		}
	}
	if main != nil {
		sort.SliceStable(
			main.Shares, func(a, b int) bool { return main.Shares[a].as == "liquid" && main.Shares[b].as != "liquid" },
		)
	}
	return main
}

// addOpenSlots lets powder and salt come in where there was none.
func (f *Formula) addOpenSlots(by map[larder.ID]*Slot, b balance.Balance) {
	open := func(id larder.ID, max float64) {
		ing := f.Larder.Get(id)
		if v, _ := f.Demand.Judge(ing); by[id] == nil && v != diet.Breaks && max > 0 {
			by[id] = &Slot{Ingredient: ing, Max: max, drift: 0.02}
		}
	}
	if !f.Recipe.Kind.Yeasted() && b.Base > 0 {
		open("baking-powder", powderCap/100*f.base(b))
	}
	open("salt", 0.012*f.base(b))
}

// settle parts what was found among the shares.
func (s *Slot) settle() {
	sum := 0.0
	for _, sh := range s.Shares {
		sum += sh.prior
	}
	for n := range s.Shares {
		sh := &s.Shares[n]
		sh.Grams = s.Grams
		if s.Prior > 0 {
			sh.Grams = s.Grams * sh.prior / math.Max(sum, 1e-9)
		}
	}
}
