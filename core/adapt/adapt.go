// Package adapt is the one function that the command line and the pages call:
// a recipe and what is asked of it in, an adapted recipe with its reasons out.
//
// The way through: screen every line against the demand; group the breaking
// lines by use; choose a school for each that satisfies all demands together;
// solve the amounts so that the sum of the recipe comes back (package goal);
// round to what a kitchen can weigh or spoon, and recompute; edit the method;
// feed the oven; say what changed and why.
package adapt

import (
	"fmt"
	"sort"
	"strings"

	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/oven"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/swap"
	"kollaris/core/tin"
)

// Kit is what an adaptation works with.
type Kit struct {
	Larder  *larder.Larder
	Swaps   *swap.Table
	Kitchen measure.Kitchen
}

// DefaultKit is the built-in catalogue and schools with the default kitchen.
func DefaultKit() Kit {
	return Kit{larder.Builtin(), swap.Builtin(), measure.DefaultKitchen()}
}

// group is the lines of one use, in the batter or in a topping.
type group struct {
	key     string // of Request.Swaps
	use     *swap.Use
	topping bool
	lines   []recipe.Line
	breaks  string
	choices []swap.Choice
	chosen  swap.Choice
	to      []recipe.Line // the new lines, once solved
}

// per is how many of the use's measure the group's lines make.
func (g *group) per() float64 {
	sum := 0.0
	for _, l := range g.lines {
		sum += l.Grams
	}
	return sum / g.use.Per
}

type run struct {
	Kit
	req     Request
	demand  diet.Demand
	written *recipe.Recipe // scaled, lines left out removed
	groups  []*group
	dropped []recipe.Line
	result  *Result
	slots   []*slot
	extra   []recipe.Line // lines added outside any group: powder, salt
	nextID  recipe.LineID
}

// Adapt adapts a recipe to a request. A recipe that cannot be adapted gives a
// result with Refused set; an error means that the computation itself broke.
func Adapt(written *recipe.Recipe, req Request, kit Kit) (*Result, error) {
	r := &run{Kit: kit, req: req, demand: req.Demand()}
	r.written = written.Clone()
	if req.Scale > 0 && req.Scale != 1 {
		r.written = r.written.Scaled(req.Scale)
	}
	r.written.Servings = servings(written, req)
	r.nextID = written.NextID()
	r.result = &Result{Request: req, Confidence: swap.WellTried, Measures: map[int]string{}}
	before := r.written.Clone()
	r.leaveOut()
	if refusal := r.screen(); refusal != nil {
		r.result.Refused = refusal
	} else {
		r.choose()
		if r.result.Refused == nil {
			if err := r.solve(); err != nil {
				return nil, err
			}
			r.assemble()
		}
	}
	if r.result.Refused != nil {
		r.result.Recipe = before
		r.result.Changes = nil
	}
	r.measures()
	r.sums(before)
	r.result.Serving = nutrition.Serving(r.result.Recipe, r.Larder)
	r.result.ServingBefore = nutrition.Serving(before, r.Larder)
	r.bake(written)
	r.method()
	r.verdict(before)
	return r.result, nil
}

// servings is what is asked, else what the recipe says, else eight.
func servings(r *recipe.Recipe, req Request) int {
	switch {
	case req.Servings > 0:
		return req.Servings
	case r.Servings > 0:
		return r.Servings
	}
	return 8
}

// leaveOut removes the lines the person drops.
func (r *run) leaveOut() {
	gone := map[recipe.LineID]bool{}
	for _, id := range r.req.Drops {
		gone[id] = true
	}
	kept := r.written.Lines[:0]
	for _, l := range r.written.Lines {
		if gone[l.ID] {
			r.dropped = append(r.dropped, l)
			continue
		}
		kept = append(kept, l)
	}
	r.written.Lines = kept
}

// screen groups the lines that break the demand. A breaking line that no school
// serves is dropped when it is optional, and refused otherwise.
func (r *run) screen() *Refusal {
	byKey := map[string]*group{}
	var kept []recipe.Line
	for _, l := range r.written.Lines {
		ing := r.Larder.Get(l.Ingredient)
		if ing == nil {
			kept = append(kept, l)
			continue
		}
		use := r.Swaps.For(ing.ID)
		v, why := r.demand.Judge(ing)
		top := recipe.IsTopping(l.Section)
		key := ""
		if use != nil {
			key = useKey(use.ID, top)
		}
		asked := use != nil && r.req.Swaps[key] != "" && r.req.Swaps[key] != "as-written"
		if v != diet.Breaks && !asked {
			kept = append(kept, l)
			continue
		}
		if use == nil {
			if l.Optional {
				r.dropped = append(r.dropped, l)
				continue
			}
			return r.refuse(&group{lines: []recipe.Line{l}, breaks: why})
		}
		g := byKey[key]
		if g == nil {
			g = &group{key: key, use: use, topping: top, breaks: why}
			byKey[key] = g
			r.groups = append(r.groups, g)
		}
		g.lines = append(g.lines, l)
		kept = append(kept, l)
	}
	r.written.Lines = kept
	return nil
}

// useKey tells a use in the batter from the same in a topping, which may want
// another school.
func useKey(use string, topping bool) string {
	if topping {
		return use + "-topping"
	}
	return use
}

// choose ranks the schools of each group and takes the best, or the one asked for.
func (r *run) choose() {
	already := map[string]bool{}
	for _, l := range r.written.Lines {
		if r.groupOf(l.ID) == nil {
			if i := r.Larder.Get(l.Ingredient); i != nil {
				for a, lv := range i.Allergens {
					already[a] = already[a] || lv == larder.Contains
				}
			}
		}
	}
	for _, g := range r.groups {
		kind := string(r.written.Kind)
		if g.topping {
			kind = "topping"
		}
		if g.use.ID == "egg" && !g.topping && !r.hasGluten() {
			r.result.Doubts = append(r.result.Doubts, "Eggs set this batter, since it has little or no gluten: without them expect it low and fragile, and try one cup first")
			r.result.Confidence = swap.Experiment
		}
		if n := r.perLoaf(g); g.use.ID == "egg" && !g.topping && n > sureEggs && r.hasGluten() {
			r.result.Doubts = append(r.result.Doubts, fmt.Sprintf("That is many eggs for the flour (%s to a loaf's worth): past three, nothing does all their work, so expect a lower, closer crumb and try one cup first", measure.Digits(n, 2)))
			r.result.Confidence = swap.Experiment
		}
		g.choices = g.use.Rank(swap.Case{Kind: kind, Count: r.perLoaf(g), Already: already, Gluten: r.hasGluten(), Without: onlyID(g.lines)}, r.demand, r.Larder)
		if len(g.choices) == 0 || g.choices[0].Shut != "" {
			if optionalOnly(g.lines) {
				r.dropGroup(g)
				continue
			}
			r.result.Refused = r.refuse(g)
			return
		}
		g.chosen = g.choices[0]
		if want := r.req.Swaps[g.key]; want != "" {
			for _, c := range g.choices {
				if c.School.ID == want {
					if c.Shut != "" {
						r.result.Doubts = append(r.result.Doubts, fmt.Sprintf("%s is shut: %s. %s was taken instead.", upper(c.School.Title), c.Shut, upper(g.chosen.School.Title)))
						continue
					}
					g.chosen = c
				}
			}
			if g.use.School(want) == nil {
				r.result.Doubts = append(r.result.Doubts, fmt.Sprintf("“%s” is no way to replace %s, so %s was taken", want, g.use.Title, g.chosen.School.Title))
			}
		}
		for _, a := range g.chosen.New {
			already[a] = true
		}
	}
	kept := r.groups[:0]
	for _, g := range r.groups {
		if g.chosen.School != nil {
			kept = append(kept, g)
		}
	}
	r.groups = kept
}

// loaf is the flour of an ordinary loaf or cake, two US cups, to which "two or
// three eggs" refers. Source: practice.
const loaf = 240.0

// sureEggs is how many eggs to a loaf's worth of flour can be replaced with
// confidence; gels and purées carry two to three eggs' work. Source: practice.
const sureEggs = 3.2

// perLoaf counts what a group replaces per loaf's worth of base, so that a double
// batch is judged like a single one.
func (r *run) perLoaf(g *group) float64 {
	b, _ := r.balanceOf(r.written)
	if g.topping || b.Base <= 0 {
		return g.per()
	}
	return g.per() * loaf / b.Base
}

// hasGluten reports whether the batter has enough gluten to hold together by
// itself: 3 g to 100 g of base, a third of plain flour's. Source: practice.
func (r *run) hasGluten() bool {
	b, items := r.balanceOf(r.written)
	g := 0.0
	for _, it := range items {
		g += it.Grams / 100 * it.Ingredient.Facts[larder.Gluten]
	}
	return b.Base > 0 && b.Per(g) >= 3
}

func onlyID(lines []recipe.Line) larder.ID {
	id := lines[0].Ingredient
	for _, l := range lines {
		if l.Ingredient != id {
			return ""
		}
	}
	return id
}

func optionalOnly(lines []recipe.Line) bool {
	for _, l := range lines {
		if !l.Optional {
			return false
		}
	}
	return true
}

func (r *run) dropGroup(g *group) {
	for _, l := range g.lines {
		r.dropped = append(r.dropped, l)
		for n := range r.written.Lines {
			if r.written.Lines[n].ID == l.ID {
				r.written.Lines = append(r.written.Lines[:n:n], r.written.Lines[n+1:]...)
				break
			}
		}
	}
	g.chosen = swap.Choice{}
}

func (r *run) groupOf(id recipe.LineID) *group {
	for _, g := range r.groups {
		for _, l := range g.lines {
			if l.ID == id {
				return g
			}
		}
	}
	return nil
}

// refuse explains a use whose doors are all shut: each with what shuts it, and
// what would come nearest. It never offers to loosen a demand.
func (r *run) refuse(g *group) *Refusal {
	l := g.lines[0]
	ref := &Refusal{Reason: fmt.Sprintf("%s, and Kollaris knows nothing to put in its place yet.", upper(g.breaks))}
	if g.use != nil {
		var shut []string
		for _, c := range g.choices {
			if c.Shut != "" && !strings.HasPrefix(c.Shut, "it is what") {
				shut = append(shut, fmt.Sprintf("%s (%s)", c.School.Title, c.Shut))
			}
		}
		ref.Reason = fmt.Sprintf("%s, and every way to replace %s is shut: %s.", upper(g.breaks), g.use.Title, strings.Join(shut, "; "))
		ref.Change = &Change{Kind: Swapped, Use: g.key, Title: g.title(r.Kitchen), Breaks: g.breaks, Options: r.options(g)}
	}
	share := 0.0
	if m := float64(r.written.Mass()); m > 0 {
		share = 100 * l.Grams / m
	}
	switch {
	case share > 0 && share < 12:
		ref.Nearest = append(ref.Nearest, fmt.Sprintf("Leave out the %s (%s, %s %% of the weight): the rest can be adapted.", l.Name, measure.Grams(l.Grams), measure.Digits(share, 2)))
	case share > 0:
		ref.Nearest = append(ref.Nearest, fmt.Sprintf("The %s is %s %% of the weight: without it this is another recipe.", l.Name, measure.Digits(share, 2)))
	}
	ref.Nearest = append(ref.Nearest,
		"Take another recipe from the shelf for this table.",
		fmt.Sprintf("Bake this one as written for the others, and another for whoever must not have %s.", strings.TrimSpace(holdsWhat(g.breaks))))
	return ref
}

// holdsWhat takes "milk" out of "cheddar cheese holds milk".
func holdsWhat(breaks string) string {
	for _, mark := range []string{" may hold ", " holds "} {
		if _, what, ok := strings.Cut(breaks, mark); ok {
			return what
		}
	}
	return "it"
}

// knownBake is what the written recipe says of its bake, with what is usual for
// its kind where it says nothing.
func knownBake(written *recipe.Recipe) oven.Baking {
	known := oven.Baking{Kind: written.Kind, Mass: batterMass(written), Oven: written.Oven, Minutes: written.Bake.Mid(), Tin: usualTin(written)}
	if known.Oven == 0 {
		known.Oven = usualOven(written.Kind)
	}
	return known
}

// BakeIn foretells an adapted recipe in another tin, fitted to the written bake.
func BakeIn(written, adapted *recipe.Recipe, t tin.Tin) (oven.Estimate, error) {
	known := knownBake(written)
	return oven.Foretell(known, batterMass(adapted), t, known.Oven)
}

// bake foretells the time: fitted to the written bake, in the tin asked for.
func (r *run) bake(written *recipe.Recipe) {
	rec := r.result.Recipe
	known := knownBake(written)
	if known.Mass <= 0 || batterMass(rec) <= 0 {
		r.result.BakeProblem = "No weight is known, so no time can be foretold."
		return
	}
	t := known.Tin
	if asked, ok := tin.Parse(r.req.Tin); ok {
		t = asked
		rec.Tins = []tin.Tin{asked}
	}
	e, err := oven.Foretell(known, batterMass(rec), t, known.Oven)
	if err != nil {
		r.result.BakeProblem = fmt.Sprintf("No time can be foretold: at %s the middle never gets done.", r.Kitchen.OvenText(known.Oven))
		return
	}
	if len(written.Tins) == 0 && r.req.Tin == "" {
		e.Why += fmt.Sprintf(" No tin is named, so %s is assumed.", t.Words())
	}
	if written.Oven == 0 {
		e.Why += fmt.Sprintf(" No oven heat is named, so %s is assumed.", r.Kitchen.OvenText(known.Oven))
	}
	r.result.Bake = &e
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
	name := "loaf 9x5 in"
	switch r.Kind {
	case recipe.Scone, recipe.Biscuit, recipe.SodaBread, recipe.RichBread:
		name = "baking sheet"
	case recipe.AllInCake, recipe.CreamedCake, recipe.FruitCake:
		name = "round 20 cm"
	}
	t, _ := tin.Parse(name)
	return t
}

// usualOven is the heat a kind is usually baked at [practice].
func usualOven(k recipe.Kind) measure.Celsius {
	switch k {
	case recipe.Scone, recipe.SodaBread, recipe.LeanBread:
		return 210
	case recipe.FruitCake:
		return 150
	case recipe.RichBread:
		return 190
	}
	return 175
}

// verdict says how the result stands to the demand, and which allergens came and went.
func (r *run) verdict(before *recipe.Recipe) {
	v := &r.result.Verdict
	beforeHolds, _ := diet.Holds(r.ingredients(before))
	after, check := diet.Holds(r.ingredients(r.result.Recipe))
	v.Holds, v.Check = after, check
	v.New, v.Gone = minus(after, beforeHolds), minus(beforeHolds, after)
	newFrom := map[string]string{}
	for _, a := range v.New {
		for _, i := range r.ingredients(r.result.Recipe) {
			if i.Allergens[a] == larder.Contains {
				newFrom[a] = i.Name
			}
		}
	}
	r.result.Cautions = review.Cautions(r.result.Recipe, r.Larder, r.demand, newFrom)
	var breaking []string
	for _, i := range r.ingredients(r.result.Recipe) {
		switch j, why := r.demand.Judge(i); j {
		case diet.Breaks:
			breaking = append(breaking, why)
		case diet.CheckLabel:
			v.Labels = append(v.Labels, why)
		}
	}
	unknown := r.result.Recipe.Unknown()
	demands := len(r.req.Diets) + len(r.req.Bans)
	switch {
	case r.result.Refused != nil || len(breaking) > 0:
		v.State = "stop"
		v.Words = "Not for this table."
		if len(breaking) > 0 {
			v.Words = fmt.Sprintf("Not for this table: %s.", breaking[0])
		}
	case len(unknown) > 0:
		v.State = "look"
		v.Words = fmt.Sprintf("%s not understood: “%s” could hold anything.", count(len(unknown), "line is", "lines are"), clip(unknown[0].Text, 40))
	case len(v.Labels) > 0:
		var names []string
		for _, i := range r.ingredients(r.result.Recipe) {
			if j, _ := r.demand.Judge(i); j == diet.CheckLabel {
				names = append(names, i.Name)
			}
		}
		v.State = "look"
		v.Words = fmt.Sprintf("%s to read: %s.", count(len(names), "label", "labels"), strings.Join(names, ", "))
	case demands == 0:
		v.State = "fine"
		v.Words = "As written. Choose what it has to be."
	case demands == 1:
		v.State, v.Words = "fine", "Nothing here breaks your demand."
	default:
		v.State, v.Words = "fine", fmt.Sprintf("Nothing here breaks your %s demands.", numberWord(demands))
	}
}

func (r *run) ingredients(rec *recipe.Recipe) []*larder.Ingredient {
	var out []*larder.Ingredient
	seen := map[larder.ID]bool{}
	for _, l := range rec.Lines {
		if i := r.Larder.Get(l.Ingredient); i != nil && !seen[i.ID] {
			seen[i.ID] = true
			out = append(out, i)
		}
	}
	return out
}

func minus(a, b []string) []string {
	has := map[string]bool{}
	for _, x := range b {
		has[x] = true
	}
	var out []string
	for _, x := range a {
		if !has[x] {
			out = append(out, x)
		}
	}
	return out
}

// balanceOf sums a recipe's batter.
func (r *run) balanceOf(rec *recipe.Recipe) (balance.Balance, []balance.Item) {
	items := balance.Items(rec, r.Larder)
	return balance.Add(items), items
}

func sortedKeys[V any](m map[larder.ID]V) []larder.ID {
	keys := make([]larder.ID, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	sort.Slice(keys, func(a, b int) bool { return keys[a] < keys[b] })
	return keys
}
