package adapt

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"sort"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/goal"
	"kollaris/core/larder"
	"kollaris/core/phrase"
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

// solve finds the amounts of the new lines and of the lines that may move.
func solve(from chosen) (amounts, error) {
	r := amounts{chosen: from}
	if r.refused != nil {
		return r, nil
	}
	r.written = r.written.Clone()
	for _, p := range r.picks {
		r.brings = append(r.brings, &brought{pick: p})
	}
	r.toppings()
	r.heldLines()
	batter := slices.ContainsFunc(r.picks, func(p *pick) bool { return !p.topping })
	if !batter && len(r.req.Holds) == 0 && len(r.exceeded) == 0 {
		return r, nil
	}
	b, _ := r.balanceOf(r.written)
	ts := targets(b, r.written.Kind, r.extraLift(), r.base, r.pickFor("sugar") != nil)
	r.fillSlots(b)
	if len(r.slots) == 0 {
		return r, nil
	}
	p := r.programme(b, ts)
	err := r.find(p)
	if errors.Is(err, goal.ErrLimit) { // what no line may move brings it: said, not hidden
		for n := range p.Limits {
			if !p.Limits[n].Wish {
				p.Limits[n].Wish = true
				r.doubts = append(r.doubts, phrase.Capital(p.Limits[n].Name)+" pass what a serving should hold: cut smaller servings")
			}
		}
		err = r.find(p)
	}
	if err != nil {
		return r, err
	}
	if err := r.spoonSoda(p); err != nil {
		return r, err
	}
	r.why = r.whyAmounts(ts)
	return r, nil
}

// extraLift is the gas that the chosen schools need beyond the air that was lost, mmol.
func (r *chosen) extraLift() float64 {
	extra := 0.0
	for _, g := range r.picks {
		if !g.topping {
			extra += g.per() * g.chosen.Lift
		}
	}
	return extra
}

// spoonSoda rounds soda that fell down to what is spooned; what that takes from the lift
// goes to the powder.
func (r *amounts) spoonSoda(p goal.Programme) error {
	for n, s := range r.slots {
		if s.ing.ID == "baking-soda" && !s.held && s.x < s.prior-0.05 {
			s.x, _ = r.roundDown(s.ing, s.x)
			p.Vars[n].Min, p.Vars[n].Max, p.Vars[n].Prior = s.x, s.x, s.x
			s.held = true
			return r.find(p)
		}
	}
	return nil
}

// whyAmounts says how the amounts were come by.
func (r *amounts) whyAmounts(ts []target) map[larder.ID]AmountWhy {
	why := map[larder.ID]AmountWhy{}
	_, items := r.balanceOf(r.written)
	for _, s := range r.slots {
		w := AmountWhy{Begins: s.prior, Least: s.min, Most: s.max, Solved: s.x, Held: s.held}
		for _, t := range ts {
			if v := s.x / 100 * t.of(s.ing); math.Abs(v) >= 0.02*t.scale && t.id != "mass" {
				w.Brings = append(w.Brings, GoalTerm{t.name, t.unit, v, t.sumOf(items)})
			}
		}
		why[s.ing.ID] = w
	}
	return why
}

// find solves the programme into the slots.
func (r *amounts) find(p goal.Programme) error {
	sol, err := p.Solve()
	if err != nil {
		return fmt.Errorf("amounts of %s: %w", r.written.Title, err)
	}
	for n := range r.slots {
		r.slots[n].x = sol.X[n]
	}
	return nil
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

// baseGrams is what counts as flour once the schools are chosen.
func (r *chosen) baseGrams(b balance.Balance) float64 {
	if r.base != nil {
		return r.base.grams
	}
	return b.Base
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

// programme builds the goal programme over the slots.
func (r *amounts) programme(b balance.Balance, ts []target) goal.Programme {
	moving := map[recipe.LineID]bool{}
	for _, s := range r.slots {
		for _, sh := range s.shares {
			if sh.line != nil {
				moving[sh.line.ID] = true
			}
		}
	}
	var fixed []balance.Item
	for _, l := range r.written.Batter() {
		ing := r.Larder.Get(l.Ingredient)
		if ing != nil && l.Grams > 0 && !moving[l.ID] && r.pickOf(l.ID) == nil {
			fixed = append(fixed, balance.Item{Ingredient: ing, Grams: l.Grams})
		}
	}
	p := goal.Programme{}
	for _, s := range r.slots {
		p.Vars = append(p.Vars, goal.Var{Name: string(s.ing.ID), Prior: s.prior, Min: s.min, Max: s.max, Drift: s.drift})
	}
	coef := func(of func(*larder.Ingredient) float64) []float64 {
		out := make([]float64, len(r.slots))
		for n, s := range r.slots {
			out[n] = of(s.ing) / 100
		}
		return out
	}
	for _, t := range ts {
		p.Goals = append(p.Goals, goal.Goal{Name: t.id, Coef: coef(t.of), Const: t.sumOf(fixed), Lo: t.lo, Hi: t.hi, Scale: t.scale, Weight: t.weight})
	}
	r.servingLimits(func(name string, of func(*larder.Ingredient) float64, max float64, wish bool) {
		t := target{of: of}
		p.Limits = append(p.Limits, goal.Limit{Name: name, Coef: coef(of), Const: t.sumOf(fixed) + t.sumOf(r.aside()), Max: max, Wish: wish})
	})
	soda := target{of: func(i *larder.Ingredient) float64 { return i.Facts[larder.Soda] - i.Facts[larder.Acid] }}
	if b.Soda > 0 || by(r.slots, "baking-soda") {
		most := math.Max(b.Surplus(), tasteLimit(r.written.Kind)/100*r.baseGrams(b)*meqPerGramSoda)
		p.Limits = append(p.Limits, goal.Limit{Name: "soda without acid", Coef: coef(soda.of), Const: soda.sumOf(fixed), Max: most, Wish: r.holdsLift()})
	}
	return p
}

func by(slots []*slot, id larder.ID) bool {
	for _, s := range slots {
		if s.ing.ID == id {
			return true
		}
	}
	return false
}

// holdsLift reports whether the person holds an amount that may break the soda
// limit by itself; then it is reported instead of refused.
func (r asked) holdsLift() bool { return len(r.req.Holds) > 0 }

// heldLines sets the lines of a held ingredient that no group brings.
func (r *amounts) heldLines() {
	for _, id := range sortedKeys(r.req.Holds) {
		sum := 0.0
		for _, l := range r.written.Lines {
			if l.Ingredient == id && r.pickOf(l.ID) == nil && !l.Topping() {
				sum += l.Grams
			}
		}
		if sum <= 0 {
			continue
		}
		if movesAs(r.Larder.Get(id)) != "" {
			continue // its slot is held
		}
		for n := range r.written.Lines {
			l := &r.written.Lines[n]
			if l.Ingredient == id && r.pickOf(l.ID) == nil && !l.Topping() {
				r.setGrams(l, l.Grams*r.req.Holds[id]/sum, true)
			}
		}
	}
}
