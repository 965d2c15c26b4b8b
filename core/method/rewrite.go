package method

import (
	"kollaris/core/device"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

// Swap is what stands for some lines, as the method needs to know it.
type Swap struct {
	Use   string          // what was replaced: "egg"
	Gone  []recipe.LineID // of the written recipe
	To    []recipe.LineID // of the adapted one, in the order they come in
	Title string          // "flax gel"
	Steps []step.Step     // extra work, its texts in the household's words

	whole bool            // it is known by its title once it is made, not by its parts
	last  bool            // it is folded in last of all
	acid  []recipe.LineID // that meets its soda last of all
	soda  []recipe.LineID // that goes into the dry things
}

// Became is what a recipe was adapted to.
type Became struct {
	Recipe  *recipe.Recipe
	Larder  *larder.Larder
	Swaps   []Swap
	Base    string // of the batter: gluten-free, nut or keto-yeast; "" where it stays
	Measure func(i *larder.Ingredient, grams float64) string
	Cups    bool // cups and spoons first
	// NoButter: none may be eaten, so that the tin gets none either.
	NoButter bool
	// NoEgg: none may be eaten, so that nothing is brushed with it though the list names none.
	NoEgg bool
	// NoWheat: none may be eaten, so that boards, cloths and tins get none either.
	NoWheat bool
}

// rewriting is a method while it is written anew.
type rewriting struct {
	Became
	was      *recipe.Recipe
	names    names // of the written lines
	now      names // of the adapted lines
	gone     map[recipe.LineID]bool
	swapOf   map[recipe.LineID]*Swap
	prepared map[recipe.LineID]string // adapted line → what it was made into
	spoken   map[string]bool          // what was made, once its weight has been said
	stale    map[string]bool          // words by which what is gone is known
	given    map[recipe.LineID]bool   // eggs that what stands for them has gone in for
	made     map[*step.Step]bool      // the extra works that are tasks
	read     []Task                   // as written
	huskTask *Task                    // of a husk that goes into the yeast's water
	unmelted bool                     // what was to be melted is not
	held     []Use                    // of a task that fell away, for the next that mixes
	heldPart string
	anyGone  bool // a written line is
	hurried  bool // a swap asks for the oven at once
	worked   bool // a batter has been beaten instead of kneaded
	filled   bool // a batter stands in its tin
	out      []Task
}

// Rewrite writes the method of a recipe for what the recipe became. The words of the writer
// stay wherever what they say still stands, with the grams at hand; figures of the oven are
// those of the answer only once Timed has put them in.
func Rewrite(was *recipe.Recipe, b Became) []Task {
	rd := read(was, b.Larder)
	rw := &rewriting{
		Became: b, was: was, names: rd.names, now: namesOf(b.Recipe, b.Larder),
		gone: map[recipe.LineID]bool{}, swapOf: map[recipe.LineID]*Swap{}, prepared: map[recipe.LineID]string{},
		made: map[*step.Step]bool{}, given: map[recipe.LineID]bool{}, stale: map[string]bool{}, spoken: map[string]bool{}, read: rd.tasks,
	}
	for _, l := range was.Lines {
		rw.gone[l.ID] = b.Recipe.Line(l.ID) == nil
		rw.anyGone = rw.anyGone || rw.gone[l.ID]
	}
	for n := range b.Swaps {
		for _, id := range b.Swaps[n].Gone {
			rw.swapOf[id] = &b.Swaps[n]
		}
	}
	for n := range b.Swaps {
		b.Swaps[n].Steps = slices.Clone(b.Swaps[n].Steps)
		if device.Of(was).Other() {
			b.Swaps[n].Steps = slices.DeleteFunc(b.Swaps[n].Steps, func(p step.Step) bool { return p.Op.OfAnOven() })
		}
		rw.ways(&b.Swaps[n])
	}
	early := rw.early()
	rw.goneWords()
	for n, t := range rd.tasks {
		rw.task(t, rd.mentions[n])
	}
	rw.out = append(early, rw.out...)
	rw.late()
	rw.soured()
	rw.complete()
	rw.bound()
	return paced(rw.out, b.Recipe)
}

// ways settles how a swap comes in: made before, mixed when it is wanted, or folded in last.
func (rw *rewriting) ways(s *Swap) {
	s.Title = Short(s.Title)
	if rw.foamFirst(s) { // a foam is all it begins with: it is whipped where the whites were
		s.Title = strings.TrimPrefix(s.Title, "whipped ")
		s.Steps = slices.DeleteFunc(s.Steps, func(p step.Step) bool { return p.Op == step.Foam })
	}
	for n := range s.Steps {
		p := &s.Steps[n]
		if p.Op == step.AcidLast {
			rw.parted(s)
			continue
		}
		names := slices.ContainsFunc(s.To, func(id recipe.LineID) bool { return rw.takes(p, id) })
		s.whole = s.whole || names && s.Use != "flour" && s.Use != "butter" && s.Use != "sugar"
		s.last = s.last || names && p.Place == step.AtLast
	}
}

// parted settles which of a swap's lines make gas when they meet.
func (rw *rewriting) parted(s *Swap) {
	for _, id := range s.To {
		switch i := rw.Larder.Get(rw.Recipe.Line(id).Ingredient); {
		case i == nil:
		case i.ID == "baking-soda":
			s.soda = append(s.soda, id)
		case i.Facts[larder.Acid] > 0:
			s.acid = append(s.acid, id)
		}
	}
}

// foamFirst reports whether the foam of what a swap replaces, alone or with sugar, is what a part
// begins with.
func (rw *rewriting) foamFirst(s *Swap) bool {
	foams := slices.ContainsFunc(s.To, func(id recipe.LineID) bool {
		l := rw.Recipe.Line(id)
		return l != nil && l.Known && Foams(rw.Larder.Get(l.Ingredient))
	})
	if !foams {
		return false
	}
	for _, t := range rw.read {
		if t.Verb.Is(Mixes) && t.Part == "" {
			sugar := func(u Use) bool {
				i := rw.Larder.Get(rw.was.Line(u.Line).Ingredient)
				return i != nil && i.Family == larder.FamilySugar
			}
			return t.Verb == Foam && slices.ContainsFunc(t.Uses, func(u Use) bool { return slices.Contains(s.Gone, u.Line) }) &&
				!slices.ContainsFunc(t.Uses, func(u Use) bool { return !slices.Contains(s.Gone, u.Line) && !sugar(u) })
		}
	}
	return false
}

// replaced are the adapted lines that a share of a written line has become.
func (rw *rewriting) replaced(id recipe.LineID) []recipe.LineID {
	s := rw.swapOf[id]
	if s == nil {
		return nil
	}
	var out []recipe.LineID
	for _, to := range s.To {
		if slices.Contains(s.acid, to) || slices.Contains(s.soda, to) {
			continue // see late, complete
		}
		if l := rw.Recipe.Line(to); l != nil && l.Replaces == id {
			out = append(out, to)
		}
	}
	if len(out) == 0 && len(s.Gone) > 0 && !slices.ContainsFunc(s.To, func(to recipe.LineID) bool {
		l := rw.Recipe.Line(to)
		return l != nil && l.Replaces != 0
	}) && s.Gone[0] == id {
		return s.To
	}
	return out
}

// gel reports whether a line of the result is husk or gum, which kills a foam.
func (rw *rewriting) gel(id recipe.LineID) bool {
	l := rw.Recipe.Line(id)
	if l == nil {
		return false
	}
	i := rw.Larder.Get(l.Ingredient)
	return i != nil && i.Family == larder.FamilyGum
}

// uses are a task's uses after the change.
func (rw *rewriting) uses(t Task) []Use {
	var out []Use
	for _, u := range t.Uses {
		if t.Verb == Foam && rw.gel(u.Line) {
			continue // no husk and no gum in a foam: complete puts it to what is folded in
		}
		if !rw.gone[u.Line] {
			out = append(out, u)
			continue
		}
		s := rw.swapOf[u.Line]
		if s != nil && s.last {
			continue // see late
		}
		if s != nil && strings.HasPrefix(s.Use, "egg") { // what stands for an egg has no yolk and white: all at once
			if rw.given[u.Line] {
				continue
			}
			rw.given[u.Line], u.Share = true, 1
		}
		for _, to := range rw.replaced(u.Line) {
			if t.Verb == Foam && rw.gel(to) {
				continue
			}
			out = append(out, Use{to, u.Share})
		}
	}
	return out
}

// task writes one written task anew.
func (rw *rewriting) task(t Task, ms []mention) {
	was := t
	t.Uses = rw.uses(t)
	if rw.anyGone {
		t.Makes, t.Takes = "", nil // by the names of lines that may be gone
	}
	text := strings.TrimRight(t.Written, " .;,")
	if t.Inferred {
		text = strings.TrimRight(t.Text, " .")
	}
	if t.Verb == Rest && rw.unmelted && len(was.Uses) == 0 {
		rw.unmelted = false
		return // nothing is hot
	}
	if t.Verb.Is(Mixes) && t.Part == rw.heldPart {
		t.Uses = append(t.Uses, rw.held...)
		rw.held = nil
	}
	if rw.turned(&t, was, ms) {
		return
	}
	if t.Verb == Line && rw.NoButter {
		if clean := buttered.ReplaceAllString(text, "${1}rease"); clean != text {
			text, t.Changed = grease(clean), true
			ms = nil
		}
	}
	if len(t.Uses) == 0 && len(was.Uses) > 0 && t.Verb.Is(Mixes) && rw.waits(was) {
		return // what stands for it goes in later
	}
	if said, ok := rw.said(t, text, ms); ok {
		t.Changed = t.Changed || said.changed
		t.Text = said.text
		t.Takes = append(t.Takes, said.takes...)
	} else {
		if len(t.Uses) == 1 && (t.Verb == Beat || t.Verb == Foam || t.Verb == Cream) && rw.mixedLater(was) {
			rw.held, rw.heldPart = append(rw.held, t.Uses...), t.Part // nothing to beat it with: it goes into the next
			return
		}
		if len(t.Uses) == 0 && t.Verb.Is(Mixes) && (len(was.Uses) > 0 || rw.goneOnly(ms)) {
			return // all that it took has gone in before, or is gone
		}
		if t.Text, t.Changed = rw.anew(t), true; t.Text == "" {
			return
		}
	}
	rw.put(t)
}

var buttered = pattern.Must(`(?i)^((?:\w+ )?)butter\b`)

// grease puts the letter before "rease" that the first word asks for.
func grease(text string) string {
	return phrase.Capital(pattern.Must(`(^|\s)rease\b`).ReplaceAllString(text, "${1}grease"))
}

// mixedLater reports whether the method mixes more of the same part after a task.
func (rw *rewriting) mixedLater(was Task) bool {
	past := false
	for _, t := range rw.read {
		if past && t.Part == was.Part && t.Verb.Is(Mixes) && t.Verb != Fold {
			return true
		}
		past = past || t.Span == was.Span && t.Text == was.Text
	}
	return false
}

// waits reports whether all that a task took is folded in last now.
func (rw *rewriting) waits(was Task) bool {
	for _, u := range was.Uses {
		if s := rw.swapOf[u.Line]; s == nil || !s.last {
			return false
		}
	}
	return true
}

// put adds a task, with what its swaps mix only when it is wanted before it.
func (rw *rewriting) put(t Task) {
	for _, u := range t.Uses {
		l := rw.Recipe.Line(u.Line)
		if l == nil || l.Replaces == 0 {
			continue
		}
		if s := rw.swapOf[l.Replaces]; s != nil {
			rw.mixNow(s, t.Part)
		}
	}
	for n, u := range t.Uses { // what has been made of them is taken in their stead
		if made := rw.prepared[u.Line]; made != "" {
			if !slices.Contains(t.Takes, made) && strings.Contains(t.Text, made) {
				t.Takes = append(t.Takes, made)
			}
			t.Uses[n].Share = 0
		}
	}
	t.Uses = slices.DeleteFunc(t.Uses, func(u Use) bool { return u.Share <= 0 })
	rw.out = append(rw.out, t)
	if t.Verb == Bloom && rw.huskTask != nil {
		rw.out, rw.huskTask = append(rw.out, *rw.huskTask), nil
	}
}

// parts lists uses with their weights.
func (rw *rewriting) parts(uses []Use) string {
	var out []string
	for _, u := range uses {
		out = append(out, rw.named(u.Line, u.Share))
	}
	return strings.Join(out, ", ")
}
