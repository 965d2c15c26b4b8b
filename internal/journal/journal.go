// Package journal keeps what came of bakes: a line each for lists, and what the household's ovens learn. All of it
// follows from a bake's events, so that it can be written anew at any time and taken back.
package journal

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/doneness"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/why"
	"kollaris/internal/store"
)

// Overall are the words for what a bake was, all in all, by bake.Judged.Overall.
var Overall = []string{"not said", "not again", "so-so", "good", "just so again"}

// Sheets are the bakes of a sitting, as they were begun.
func Sheets(b store.Bake) []bake.Sheet {
	var out []bake.Sheet
	for _, of := range b.Of {
		out = append(out, bake.Sheet{Name: of.Title, Recipe: of.Result.Recipe, Tasks: of.Result.Method, Preheat: of.Preheat})
	}
	return out
}

// RecipeOf is the recipe of a bake's code, "3:diet=keto" or "v12" for a kept version; 0 where it is no longer there.
func RecipeOf(ctx context.Context, st *store.Store, code string) (int64, error) {
	id, _, _ := strings.Cut(code, ":")
	id, kept := strings.CutPrefix(id, "v")
	n, err := strconv.ParseInt(id, 10, 64)
	if err != nil || !kept {
		return n, nil
	}
	ver, err := st.Version(ctx, n)
	if errors.Is(err, store.ErrNotFound) {
		return 0, nil // the log stays
	}
	return ver.Recipe, err
}

// Drop takes a bake away with all that was learned from it, or brings both back. What is away already stays so.
func Drop(ctx context.Context, st *store.Store, l *larder.Larder, id int64, gone bool) error {
	if gone {
		b, err := st.Bake(ctx, id)
		switch {
		case err == nil:
			err = teach(ctx, st, b, bake.Fold(Sheets(b), nil))
		case errors.Is(err, store.ErrNotFound), store.BrokenOf(err) != nil: // it taught nothing, or nobody knows what
			err = nil
		}
		if err != nil {
			return err
		}
		return st.DropBake(ctx, id, true) // its lines are read with it alone
	}
	if err := st.DropBake(ctx, id, false); err != nil {
		return err
	}
	err := keepAnew(ctx, st, l, id)
	if store.BrokenOf(err) != nil {
		return nil // it is back as it was
	}
	return err
}

// Mend writes the lines of bakes that are over and have none, since the program was killed before they were written. One that
// cannot be read holds up none of the others.
func Mend(ctx context.Context, st *store.Store, l *larder.Larder) error {
	ids, err := st.Unlogged(ctx)
	for _, id := range ids {
		err = errors.Join(err, keepAnew(ctx, st, l, id))
	}
	return err
}

// keepAnew is Keep of a bake as it was told.
func keepAnew(ctx context.Context, st *store.Store, l *larder.Larder, id int64) error {
	b, err := st.Bake(ctx, id)
	if err != nil {
		return err
	}
	events, _, err := st.Events(ctx, id)
	if err != nil {
		return err
	}
	return Keep(ctx, st, l, b, bake.Fold(Sheets(b), events))
}

// Keep writes the lines of a bake, of what came out of the oven or is over, and lets the ovens learn from it.
func Keep(ctx context.Context, st *store.Store, l *larder.Larder, b store.Bake, state bake.State) error {
	var lines []store.Logged
	for n := range state.Strips {
		p := &state.Strips[n]
		at := p.Out
		if at.IsZero() {
			at = state.Over
		}
		if at.IsZero() {
			continue
		}
		recipe, err := RecipeOf(ctx, st, b.Of[n].Code)
		if err != nil {
			return err
		}
		seen, err := lessons(ctx, l, b, state, n, recipe)
		if err != nil {
			return err
		}
		lines = append(lines, store.Logged{
			Bake: b.ID, Strip: n, Recipe: recipe, Title: b.Of[n].Title, At: at, Overall: p.Judged.Overall, Words: Words(p.Judged),
			Tried: p.Judged.Tried, Helped: p.Judged.Helped, Seen: seen, Who: b.Who,
		})
	}
	if err := st.SetLogged(ctx, b.ID, lines); err != nil {
		return err
	}
	return teach(ctx, st, b, state)
}

// Words are what was seen of a bake in a few words.
func Words(j bake.Judged) string {
	var out []string
	for _, id := range j.Symptoms {
		if s, ok := why.Find(id); ok {
			words, _, _ := strings.Cut(s.Words, ",")
			out = append(out, words)
		}
	}
	if len(out) == 0 && j.Overall > 0 {
		return Overall[j.Overall]
	}
	return phrase.And(out)
}

// How near its figure the middle must have been, K, so that a bake was done when it came out. Source: practice.
const doneNear = 1.5

// raw are symptoms of what came out too early.
var raw = []string{"wet-line", "dark-raw"}

// doneAfter is after how many minutes a bake was done, as far as it is known: it came out as a probe or a skewer
// said so, and nobody found it raw. 0 where it is not known.
func doneAfter(p *bake.Strip, done measure.Celsius) float64 {
	if p.Out.IsZero() || p.WentIn.IsZero() || slices.ContainsFunc(raw, func(s string) bool { return slices.Contains(p.Judged.Symptoms, s) }) {
		return 0
	}
	for _, x := range slices.Backward(p.Sights) {
		if x.Look == string(doneness.SkewerClean) || x.Look == "" && x.Core >= float64(done)-doneNear {
			return p.Out.Sub(p.WentIn).Minutes()
		}
		if x.Look == "" || x.Look == string(doneness.SkewerWet) {
			return 0
		}
	}
	return 0
}

// teach lets the household's ovens learn from a bake that was seen to be done, and unlearn one that was taken back.
func teach(ctx context.Context, st *store.Store, b store.Bake, state bake.State) error {
	sheets := Sheets(b)
	for n := range state.Strips {
		res, p := b.Of[n].Result, &state.Strips[n]
		id := res.Request.Oven.Oven
		if id == 0 || res.Bake == nil || res.Bakes == nil {
			continue
		}
		one := store.OvenBake{Bake: b.ID, Strip: n, Title: b.Of[n].Title, On: p.Out.Local().Format(time.DateOnly)}
		if minutes := doneAfter(p, res.Bake.Done); minutes > 0 && !sheets[n].Again(max(p.Baking, 0)) {
			e, err := honest(ctx, res)
			if err != nil {
				return err
			}
			one.Ratio, one.PerDegree = minutes/e.Minutes, e.PerDegree
		}
		err := st.ChangeOven(ctx, id, store.AnyRev, func(o *store.Oven) { take(o, one) })
		if err != nil && !errors.Is(err, store.ErrNotFound) { // it may have been put away
			return err
		}
	}
	return nil
}

// honest foretells a bake in an oven that tells the truth.
func honest(ctx context.Context, res *adapt.Result) (oven.Estimate, error) {
	b := res.Bakes.Yours
	b.Learned = oven.NewOven()
	return oven.ForetellWithin(ctx, res.Bakes.Written, b)
}

// take puts a bake among those of an oven in place of what it was before; one without a time is taken out.
func take(o *store.Oven, one store.OvenBake) {
	at := slices.IndexFunc(o.Bakes, func(b store.OvenBake) bool { return b.Bake == one.Bake && b.Strip == one.Strip })
	switch {
	case at < 0 && one.Ratio > 0:
		o.Bakes = append(o.Bakes, one)
	case at >= 0 && one.Ratio > 0:
		one.Forgotten = o.Bakes[at].Forgotten
		o.Bakes[at] = one
	case at >= 0:
		o.Bakes = slices.Delete(o.Bakes, at, at+1)
	}
}
