package adapt

import (
	"fmt"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/structure"
	"kollaris/core/swap"
)

// finish works out the amounts of what was chosen and puts the recipe together. Where
// nothing would hold it up, other open ways are tried for what nobody chose; where that
// does not help it is refused.
func finish(from chosen) (assembled, error) {
	from = from.withinPolyols()
	got, err := settle(from)
	if err != nil || from.refused != nil {
		return got, err
	}
	hold := got.hold()
	for _, p := range from.picks {
		if !hold.Doubtful() && !hold.Fails() {
			break
		}
		if p.Topping && !got.fills || from.wants(p.key) != "" {
			continue
		}
		for _, c := range p.choices {
			if !c.Shut.Open() || c.School.ID == p.chosen.School.ID || !hold.Fails() && c.Score < p.chosen.Score-near {
				continue
			}
			other, err := settle(got.chosen.with(p.key, c))
			if err != nil {
				continue // no amounts for it
			}
			if h := other.hold(); h.better(hold.Hold) {
				got, hold = other, h
			}
			if !hold.Doubtful() && !hold.Fails() {
				break
			}
		}
	}
	got.held = hold.Hold
	if hold.Fails() && len(got.brings) > 0 {
		refused := got.chosen
		refused.refused = refused.refuseStructure(hold.Hold)
		return settle(refused)
	}
	if hold.Other() && len(got.brings) > 0 {
		got.doubts = append(got.doubts, "Egg is what makes it what it is: without it this is another bake, so try a small one first.")
		got.confidence = got.confidence.Worse(swap.Experiment)
	}
	if hold.Doubtful() && len(got.brings) > 0 {
		got.doubts = append(got.doubts, fmt.Sprintf(
			"It has %.0f %% of what holds such a bake up (%s): expect it low and fragile, and bake one cup first.",
			100*hold.Share(), hold.Words(),
		))
		got.confidence = got.confidence.Worse(swap.Experiment)
	}
	return got, nil
}

// near is how much less a way may fit and still be taken for a bake that would come out low
// with the better one, in the points of a school's fit. Source: practice.
const near = 3.0

// settle works out the amounts and puts the recipe together.
func settle(from chosen) (assembled, error) {
	a, err := solve(from)
	if err != nil {
		return assembled{}, err
	}
	return assemble(a), nil
}

// with is the batch with another school for one use.
func (c chosen) with(key string, choice swap.Choice) chosen {
	picks := c.picks
	c.picks = nil
	for _, p := range picks {
		if p.key == key {
			other := *p
			other.chosen, other.School, other.Lift = choice, choice.School, choice.Lift
			p = &other
		}
		c.picks = append(c.picks, p)
	}
	return c
}

// held is how a batter is held up.
type held struct{ structure.Hold }

// better reports whether a batter is held clearly better than by another way.
func (h held) better(than structure.Hold) bool {
	if h.Fails() != than.Fails() {
		return than.Fails()
	}
	return h.Share() > than.Share()+0.1
}

// hold judges the assembled recipe against the batch as written: the batter, or of a custard
// or cheesecake in a case its filling.
func (a *assembled) hold() held {
	kind := a.before.Kind
	items := func(r *recipe.Recipe) []balance.Item {
		if kind != recipe.Custard && kind != recipe.Cheesecake {
			return balance.Items(r, a.Larder)
		}
		filling := *r
		filling.Lines = nil
		for _, l := range r.Lines {
			if a.fills == l.Role.Aside() && !a.ofCrust(l) {
				l.Role = recipe.Batter
				filling.Lines = append(filling.Lines, l)
			}
		}
		return balance.Items(&filling, a.Larder)
	}
	return held{structure.Judge(kind, items(a.before), items(a.recipe))}
}

// ofCrust tells a line that is flour, or that stands for it: it does not set a filling. A
// starch by itself does.
func (a *assembled) ofCrust(l recipe.Line) bool {
	if was := a.before.Line(l.Replaces); was != nil {
		l = *was
	}
	i := a.Larder.Get(l.Ingredient)
	return i != nil && i.IsBase() && i.Facts.Or(larder.Protein, 0) > 3
}

// setsFilling reports whether the egg of a custard or cheesecake stands in a part of its own.
func setsFilling(r *recipe.Recipe, l *larder.Larder) bool {
	if r.Kind != recipe.Custard && r.Kind != recipe.Cheesecake {
		return false
	}
	for _, ln := range r.Lines {
		if i := l.Get(ln.Ingredient); i != nil && i.Origin == "egg" && ln.Role.Aside() {
			return true
		}
	}
	return false
}

// refuseStructure explains that nothing left can hold a bake up.
func (r *chosen) refuseStructure(h structure.Hold) *Refusal {
	gone := h.Gone()
	x := structure.InsteadOf(r.written.Kind, gone)
	ref := &Refusal{Reason: fmt.Sprintf(
		"%s. What is left gives %.0f %% of the hold it needs (%s): it would not come out.", x.Did, 100*h.Share(), h.Words(),
	)}
	if h.Lacks != "" || h.Share() < 0.05 {
		ref.Reason = x.Did + ": without it nothing holds it up, and it would not come out."
	}
	for _, p := range r.picks {
		for _, l := range p.Lines {
			if i := r.Larder.Get(l.Ingredient); i != nil && (i.Origin == "egg") == (gone == "egg") && ref.Change == nil {
				ref.Change = &Change{
					Kind: Swapped, Use: p.key, Title: p.title(r.Kitchen), Breaks: p.breaks.words(), Why: p.breaks.reason, Options: r.options(p),
				}
				ref.elsewhere(p.breaks)
			}
		}
	}
	ref.Nearest = append([]string{x.Words + "."}, ref.Nearest...)
	return ref
}
