package bake

import (
	"fmt"
	"math"
	"slices"
	"time"

	"kollaris/core/balance"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

// At is the task at hand: the first that is not done, -1 when all are. What only remarks, and looks
// that the oven's page asks for, are no task to press through.
func (p *Strip) At(sheet Sheet) int {
	for n, t := range sheet.Tasks {
		if _, done := p.Done[n]; !done && t.Verb != method.Remark && t.Verb != method.Test {
			return n
		}
	}
	return -1
}

// After are the next tasks that are not done after one, at most so many.
func (p *Strip) After(sheet Sheet, task, most int) []int {
	var out []int
	for n := task + 1; n > 0 && n < len(sheet.Tasks) && len(out) < most; n++ {
		if _, done := p.Done[n]; !done && sheet.Tasks[n].Verb != method.Remark && sheet.Tasks[n].Verb != method.Test {
			out = append(out, n)
		}
	}
	return out
}

// Weighing is a line as a task takes it.
type Weighing struct {
	Line      recipe.Line
	Food      *larder.Ingredient
	Target    float64 // g, less what is kept back
	In        float64 // g of it that are in by this task
	Is        bool    // it was put in
	Tolerance float64 // g either way
	Spoon     bool    // the scale cannot: by the spoon
	Whole     bool    // it weighs what it weighs: eggs, fruit
	Back      float64 // g of it to keep back till it is seen how it stands
}

// How near a weight is near enough, as a share, with at least a gram. Source: practice: 1 % of flour;
// of the rest twice as much is neither tasted nor seen.
const (
	flourNear = 0.01
	otherNear = 0.02
	fineNear  = 0.1 // g, of what is weighed to a tenth
	eggNear   = 0.2 // an egg more or less than usual
)

// Tolerance is how near so many grams of a food need be weighed, g either way; spoon is true where the
// kitchen's scale cannot show that.
func Tolerance(i *larder.Ingredient, grams float64, k measure.Kitchen) (near float64, spoon bool) {
	switch {
	case formula.Spooned(i, grams) && !k.FineScale:
		return formula.Teaspoon(k, i) / 8, true
	case grams < 5:
		return fineNear, !k.FineScale
	case formula.Spooned(i, grams):
		return fineNear * 2, false
	case i.IsBase():
		return math.Max(1, flourNear*grams), false
	}
	return math.Max(1, otherNear*grams), false
}

// weighsItself reports whether a food is taken by the piece, so that what it weighs is found out
// rather than poured: eggs, fruit and vegetables.
func weighsItself(i *larder.Ingredient, l recipe.Line) bool {
	return i.ID == "egg" || i.Shelf.Carbohydrate == "cup" || i.Shelf.Water == "half" || l.Unit == "" && l.Amount.Min > 0 && i.Shelf.Moves == ""
}

// Weighings are the lines of a task, in its order; those of it that are to be as the bowl's solution
// has them come to that.
func (p *Strip) Weighings(sheet Sheet, task int, l *larder.Larder, k measure.Kitchen, open map[recipe.LineID]float64) []Weighing {
	var out []Weighing
	if task < 0 || task >= len(sheet.Tasks) {
		return nil
	}
	for _, u := range sheet.Tasks[task].Uses {
		line := sheet.Recipe.Line(u.Line)
		if line == nil {
			continue
		}
		w := Weighing{Line: *line, Food: l.Get(line.Ingredient), Target: p.due(u, sheet)}
		if g, ok := open[u.Line]; ok && p.Weighs[u.Line] == 0 {
			w.Target = g * u.Share
		}
		w.In, w.Is = p.Each[task][u.Line]
		if w.Food != nil && w.Target > 0 {
			w.Tolerance, w.Spoon = Tolerance(w.Food, w.Target, k)
			if w.Whole = weighsItself(w.Food, *line); w.Whole {
				w.Tolerance = eggNear * w.Target
			}
			w.Back = holdBack(sheet, u, w.Food, w.Target, l)
			w.Target -= w.Back
		}
		out = append(out, w)
	}
	return out
}

// keptBack is the share of a dough's liquid that a baker keeps back till it is seen how it stands.
// Source: practice, a tenth.
const keptBack = 0.1

// holdBack is how much of a line to keep back: of the main liquid of a dough, and of a batter whose
// flour drinks otherwise than wheat does, where it comes in at once.
func holdBack(sheet Sheet, u method.Use, i *larder.Ingredient, target float64, l *larder.Larder) float64 {
	if formula.AtBowl(i) != "liquid" || target < 40 || u.Share < 0.99 {
		return 0
	}
	for _, other := range sheet.Recipe.Batter() {
		if o := l.Get(other.Ingredient); o != nil && other.ID != u.Line && other.Grams > target && formula.AtBowl(o) == "liquid" {
			return 0
		}
	}
	if !ConsistencyOf(sheet.Recipe, l).Dough && balance.BaseOf(balance.Items(sheet.Recipe, l)) == balance.Wheat {
		return 0
	}
	return math.Round(keptBack*target/5) * 5
}

// Overshot is what may be done about too much of a line.
type Overshot struct {
	Over   float64 // g
	Factor float64 // by which the rest would be scaled
}

// Over judges a weight against what it should be; ok is false where it is not too much.
func (w Weighing) Over(grams float64) (o Overshot, ok bool) {
	if w.Target <= 0 || grams <= w.Target+w.Tolerance {
		return o, false
	}
	return Overshot{grams - w.Target, grams / w.Target}, true
}

// Reading is what a scale shows.
type Reading struct {
	At     time.Time
	Grams  float64
	Steady bool
}

// settles is how long a scale must stand within the tolerance till a line counts as in. Source:
// practice, a working value: kitchen scales settle in about a second.
const settles = 1200 * time.Millisecond

// Settled reports whether the last readings stand steady within the tolerance for long enough.
func (w Weighing) Settled(readings []Reading) bool {
	if w.Whole || w.Spoon || len(readings) == 0 {
		return false // a person says so
	}
	last := readings[len(readings)-1]
	for _, r := range slices.Backward(readings) {
		if !r.Steady || math.Abs(r.Grams-w.Target) > w.Tolerance+1e-9 {
			return false
		}
		if last.At.Sub(r.At) >= settles {
			return true
		}
	}
	return false
}

// Ready is one thing that must be so before a task.
type Ready struct {
	Words string
	Is    bool
}

// bound is how long what begins to work at a task may wait for the oven, minutes. Source: practice:
// soda works at once, double-acting powder waits a quarter of an hour, a foam not at all.
const (
	sodaWaits   = 5.0
	powderWaits = 15.0
	foamWaits   = 5.0
)

// From when on a food is an acid that soda meets, meq in 100 g, and wet, g of water in 100 g. Source: practice: milk
// and flour hardly start it, buttermilk does.
const (
	sourFrom = 5.0
	wetFrom  = 60.0
)

// Working is the task from which on it may not stand: where acid meets soda, or a foam is made.
// Minutes is how long it may, Why says what works; task is -1 where nothing does.
func (s Sheet) Working(l *larder.Larder) (task int, minutes float64, why string) {
	if s.Recipe.Kind.Yeasted() {
		return -1, 0, ""
	}
	baked := slices.IndexFunc(s.Tasks, func(t method.Task) bool { return t.Verb == method.Bake })
	if baked < 0 {
		return -1, 0, ""
	}
	lift, acid, wet := -1, -1, -1
	task, minutes = -1, powderWaits
	// What is made in a cup of its own comes in where it is taken.
	sour, watery := map[string]bool{}, map[string]bool{}
	dry := map[string]bool{} // with what lifts
	both := -1               // the task that takes up such a cup and what is wet
	first := func(at *int, n int) {
		if *at < 0 {
			*at = n
		}
	}
	for n, t := range s.Tasks[:baked] {
		for _, takes := range t.Takes {
			if sour[takes] {
				first(&acid, n)
			}
			if watery[takes] {
				first(&wet, n)
			}
			if dry[takes] && slices.ContainsFunc(t.Takes, func(x string) bool { return sour[x] || watery[x] }) {
				first(&both, n)
			}
		}
		for _, u := range t.Uses {
			line := s.Recipe.Line(u.Line)
			if line == nil || line.Topping() {
				continue
			}
			i := l.Get(line.Ingredient)
			if i == nil {
				continue
			}
			sours, wets := i.Facts[larder.Acid] > sourFrom && !i.IsBase(), i.Facts[larder.Water] > wetFrom
			switch {
			case i.Facts[larder.Soda] > 100:
				lift, minutes = n, sodaWaits
				dry[t.Makes] = t.Makes != ""
			case i.Facts[larder.CO2] > 0:
				lift = max(lift, n)
				dry[t.Makes] = t.Makes != ""
			case t.Makes != "":
				sour[t.Makes], watery[t.Makes] = sour[t.Makes] || sours, watery[t.Makes] || wets
			default:
				if sours {
					first(&acid, n)
				}
				if wets {
					first(&wet, n)
				}
			}
		}
		if t.Verb == method.Foam && t.Part == "" {
			task, minutes, why = n, foamWaits, "The foam falls as it stands"
		}
	}
	if task >= 0 {
		return task, minutes, why
	}
	if lift < 0 {
		return -1, 0, ""
	}
	partner := wet
	if minutes == sodaWaits && acid >= 0 {
		partner, why = acid, "Soda works as soon as acid meets it"
	} else {
		why, minutes = "The powder begins to work as soon as it is wet", powderWaits
	}
	meets := max(lift, partner)
	if lift != partner && partner != both { // in bowls of their own till they are mixed
		for n := meets + 1; n < baked; n++ {
			if v := s.Tasks[n].Verb; v == method.Mix || v == method.Fold || v == method.Beat {
				return n, minutes, why
			}
		}
	}
	return meets, minutes, why
}

// Together is the first task at which flour and liquid of the batter are together, so that it stands in some way;
// -1 where there are not both.
func (s Sheet) Together(l *larder.Larder) int {
	flour, wet := -1, -1
	made := map[string]bool{} // what an earlier task made that is wet
	dry := map[string]bool{}  // or that is flour
	both := -1                // the task that takes both up
	for n, t := range s.Tasks {
		for _, takes := range t.Takes {
			if made[takes] {
				wet = n
				if slices.ContainsFunc(t.Takes, func(x string) bool { return dry[x] }) {
					both = n
				}
			}
		}
		for _, u := range t.Uses {
			line := s.Recipe.Line(u.Line)
			if line == nil || line.Topping() {
				continue
			}
			switch i := l.Get(line.Ingredient); {
			case i == nil:
			case i.IsBase():
				flour = n
				dry[t.Makes] = t.Makes != ""
			case formula.AtBowl(i) == "liquid", i.Family == larder.FamilyEgg:
				wet = n
				made[t.Makes] = t.Makes != ""
			}
		}
	}
	if flour < 0 || wet < 0 {
		return -1
	}
	from := max(flour, wet)
	if flour < wet && wet != both { // in bowls of their own till they are mixed
		for n := from + 1; n < len(s.Tasks) && s.Tasks[n].Verb != method.Bake; n++ {
			if v := s.Tasks[n].Verb; v == method.Mix || v == method.Fold {
				return n
			}
		}
	}
	return from
}

// ReadyFor is what must be so before a task, and whether it is: the oven hot and the tin lined before
// what may not stand is begun; what an earlier task made, taken up.
func (p *Strip) ReadyFor(sheet Sheet, bake, task int, timers []Timer, now time.Time, l *larder.Larder) []Ready {
	var out []Ready
	if task < 0 || task >= len(sheet.Tasks) {
		return nil
	}
	for _, takes := range sheet.Tasks[task].Takes {
		for n, t := range sheet.Tasks[:task] {
			if t.Makes != takes {
				continue
			}
			done, is := p.Done[n]
			words := takes + " is not made yet"
			if is {
				words = fmt.Sprintf("%s stands ready since %s", takes, done.Format("15:04"))
				for _, timer := range timers {
					if left := timer.Remaining(now); timer.Key == TimerKey(bake, n) && !timer.Gone && left > 0 {
						is, words = false, fmt.Sprintf("%s wants %s more", takes, Minutes(left))
					}
				}
			}
			out = append(out, Ready{words, is})
		}
	}
	if first, _, _ := sheet.Working(l); first == task {
		hot, words := p.hot(sheet, bake, timers, now)
		out = append(out, Ready{words, hot})
		lined := !p.Lined.IsZero()
		if slices.ContainsFunc(sheet.Tasks, func(t method.Task) bool { return t.Verb == method.Line }) || !lined {
			words = "the tin is lined"
			if !lined {
				words = "the tin is not lined yet"
			}
			out = append(out, Ready{words, lined})
		}
	}
	return out
}

// hot says how warm the oven is, as far as it is known.
func (p *Strip) hot(sheet Sheet, bake int, timers []Timer, now time.Time) (bool, string) {
	if !p.Hot.IsZero() {
		return true, "the oven is hot"
	}
	for n, t := range sheet.Tasks {
		at, on := p.Done[n]
		if t.Verb != method.Heat || !on {
			continue
		}
		for _, timer := range timers {
			if timer.Key == TimerKey(bake, n) {
				if left := timer.Remaining(now); left > 0 && !timer.Gone {
					return false, fmt.Sprintf("the oven heats since %s: %s more", at.Format("15:04"), Minutes(left))
				}
			}
		}
		return true, "the oven should be hot"
	}
	return false, "the oven is not on yet"
}

// Minutes writes a time that is left: "6 min", "40 s", "1 h 20 min".
func Minutes(d time.Duration) string {
	switch {
	case d < time.Minute:
		return fmt.Sprintf("%.0f s", max(0, math.Ceil(d.Seconds())))
	case d < 90*time.Minute:
		return fmt.Sprintf("%.0f min", math.Ceil(d.Minutes()))
	}
	m := int(math.Ceil(d.Minutes()))
	return fmt.Sprintf("%d h %d min", m/60, m%60)
}
