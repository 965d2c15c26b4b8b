package adapt

import (
	"math"
	"slices"
	"sort"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// share is a slot's part in one line: an existing one, or one of a group's.
type share struct {
	line  *recipe.Line  // existing line that moves
	pick  *pick         // or of what a pick brings
	src   recipe.LineID // the written line that the group's share stands for
	as    string
	prior float64
}

// slot is one amount to find: an ingredient, wherever it stands in the batter,
// so that the order of lines cannot matter.
type slot struct {
	ing      *larder.Ingredient
	prior    float64
	min, max float64
	drift    float64
	shares   []share
	held     bool
	x        float64
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
	"same":    {1, 1, 1}, // a flavour: weight for weight
	"base":    {1, 1, 1}, // settled by the school
	"gum":     {1, 1, 1},
	"protein": {1, 1, 1},
}

// slots are what may move, by ingredient.
type slots map[larder.ID]*slot

// add lets a share move with what its role allows.
func (by slots) add(ing *larder.Ingredient, sh share) {
	m := moves[sh.as]
	s := by[ing.ID]
	if s == nil {
		s = &slot{ing: ing, drift: m.drift}
		by[ing.ID] = s
	}
	s.prior += sh.prior
	s.min += sh.prior * m.min
	s.max += sh.prior * m.max
	s.drift = math.Min(s.drift, m.drift)
	s.shares = append(s.shares, sh)
}

// fillSlots collects what may move, sorted by ingredient.
func (r *amounts) fillSlots(b balance.Balance) {
	by := slots{}
	small := r.addBrought(by)
	r.addWritten(by)
	r.addEggs(by)
	main := mainLiquid(by)
	for _, lo := range small {
		if main == nil {
			by.add(lo.ing, lo.share)
			continue
		}
		main.prior += lo.prior
		main.min += lo.prior * 0.5
		main.max += lo.prior * 1.5
		main.shares[0].prior += lo.prior
	}
	r.addOpenSlots(by, b)
	if r.base != nil && by["water"] == nil { // what milk alone should not bring
		missing := r.liquidMissing()
		if main != nil {
			missing -= 0.25 * main.prior
		}
		if missing > 25 { // less is left to the liquid there is
			by["water"] = &slot{ing: r.Larder.Get("water"), prior: missing, max: r.base.grams, drift: 0.05}
		}
	}
	for _, id := range sortedKeys(by) {
		r.bound(by[id], by[id] == main, b)
		r.slots = append(r.slots, by[id])
	}
}

// broughtLiquid is a small water that a school brings: it joins the main liquid.
type broughtLiquid struct {
	share
	ing *larder.Ingredient
}

// addBrought adds what the schools of the batter bring, but for small waters, which
// it returns.
func (r *amounts) addBrought(by slots) (small []broughtLiquid) {
	kind := string(r.written.Kind)
	for _, g := range r.brings {
		if g.topping {
			continue
		}
		sum := 0.0
		for _, p := range g.chosen.School.Parts {
			sum += p.In(kind)
		}
		for _, p := range g.chosen.School.Parts {
			for _, l := range g.lines {
				ing := r.Larder.Get(p.ID)
				if p.ID == swap.From {
					ing = r.Larder.Get(l.Ingredient)
				}
				sh := share{pick: g.pick, src: l.ID, as: p.As, prior: l.Grams / g.use.Per * p.In(kind)}
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
func (r *amounts) addWritten(by slots) {
	for n := range r.written.Lines {
		l := &r.written.Lines[n]
		ing := r.Larder.Get(l.Ingredient)
		if ing == nil || l.Grams <= 0 || l.Topping() || r.pickOf(l.ID) != nil {
			continue
		}
		as := movesAs(ing)
		switch {
		case r.base == nil:
		case ing.Shelf.Rebased == "liquid", ing.Shelf.Rebased == "yeast" && r.base.of(balance.GlutenFree):
			as = ing.Shelf.Rebased // another base drinks otherwise
		}
		if as != "" {
			by.add(ing, share{line: l, as: as, prior: l.Grams})
		}
	}
}

// bound sets how far a slot may go: what is held not at all, what a limit or another
// base asks further down or up.
func (r *amounts) bound(s *slot, isMain bool, b balance.Balance) {
	if g, ok := r.req.Holds[s.ing.ID]; ok {
		s.prior, s.min, s.max, s.held = g, g, g, true
		return
	}
	if r.base != nil && s.has("fat") {
		s.min = math.Min(s.min, 0.4*s.prior) // nuts bring their own
	}
	if r.base != nil && isMain {
		s.min = 0.25 * s.prior // another base drinks otherwise
		if s.ing.ID == "water" {
			s.max = math.Max(s.max, 2.6*s.prior)
		} else {
			s.max = math.Min(s.max, 1.25*s.prior)
		}
	}
	if s.ing.Facts.Polyols() > 50 {
		s.min = 0 // the cap of a serving is never exceeded
	}
	for _, l := range r.exceeded { // less sweet, less salty before over the limit
		switch {
		case s.ing.Family == larder.FamilySugar && l.What != diet.Sodium:
			s.min *= 0.6
		case s.ing.Family == larder.FamilySalt && l.What == diet.Sodium:
			s.min = 0
		}
	}
	if s.ing.ID == "baking-powder" {
		most := powderCap / 100 * r.baseGrams(b)
		s.max = math.Max(math.Max(most, s.prior), s.min)
	}
}

// liquidMissing is the water that the new base wants beyond what the recipe holds, g.
func (r *amounts) liquidMissing() float64 {
	lo, _ := r.base.waterWindow(r.written.Kind)
	return lo - r.base.water/100*r.base.written
}

// has reports whether a share of the slot stands for something.
func (s *slot) has(as string) bool {
	return slices.ContainsFunc(s.shares, func(sh share) bool { return sh.as == as })
}

// addEggs brings the eggs of the batter to what the new base asks for, whole ones.
func (r *amounts) addEggs(by map[larder.ID]*slot) {
	want := 0.0
	if r.base != nil {
		want = r.eggsWanted()
	}
	egg := r.Larder.Get("egg")
	if v, _ := r.demand.Judge(egg); want == 0 || v == diet.Breaks || r.pickFor("egg") != nil {
		return
	}
	one, _ := egg.WeightHow("large")
	s := &slot{ing: egg, drift: 1}
	for n := range r.written.Lines {
		if l := &r.written.Lines[n]; l.Ingredient == "egg" && !l.Topping() && l.Grams > 0 {
			s.prior += l.Grams
			s.shares = append(s.shares, share{line: l, as: "same", prior: l.Grams})
		}
	}
	grams := want * float64(one.Grams)
	if s.prior >= grams-5 {
		return // enough as written
	}
	s.min, s.max = grams, grams
	if len(s.shares) == 0 {
		s.prior = 0
	}
	by["egg"] = s
}

// part is the ingredient of a school's part, for the first of some lines.
func (r asked) part(lines []recipe.Line, p swap.Part) *larder.Ingredient {
	if p.ID == swap.From {
		return r.Larder.Get(lines[0].Ingredient)
	}
	return r.Larder.Get(p.ID)
}

// movesAs says whether and how a line that stays may move: liquid, lift, salt,
// and, reluctantly, sugar and fat; never flour or flavour.
func movesAs(i *larder.Ingredient) string {
	switch i.ID {
	case "baking-powder":
		return "lift"
	case "baking-soda":
		return "soda"
	}
	return i.Shelf.Moves
}

// mainLiquid is the largest liquid of the batter.
func mainLiquid(by map[larder.ID]*slot) *slot {
	var main *slot
	for _, id := range sortedKeys(by) {
		s := by[id]
		liquid := false
		for _, sh := range s.shares {
			liquid = liquid || sh.as == "liquid"
		}
		if liquid && (main == nil || s.prior > main.prior) {
			main = s
		}
	}
	if main != nil {
		sort.SliceStable(main.shares, func(a, b int) bool { return main.shares[a].as == "liquid" && main.shares[b].as != "liquid" })
	}
	return main
}

// addOpenSlots lets powder and salt come in where there was none.
func (r *amounts) addOpenSlots(by map[larder.ID]*slot, b balance.Balance) {
	open := func(id larder.ID, max float64) {
		ing := r.Larder.Get(id)
		if v, _ := r.demand.Judge(ing); by[id] == nil && v != diet.Breaks && max > 0 {
			by[id] = &slot{ing: ing, max: max, drift: 0.02}
		}
	}
	if !r.written.Kind.Yeasted() && b.Base > 0 {
		open("baking-powder", powderCap/100*r.baseGrams(b))
	}
	open("salt", 0.012*r.baseGrams(b))
}
