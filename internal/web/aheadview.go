package web

import (
	"fmt"
	"strings"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/keep"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/core/recipe"
	"kollaris/core/soak"
)

// aheadView is what of a bake is prepared ahead, and how it keeps.
type aheadView struct {
	Title, Bake    string
	Faults         []string
	Unread         bool // a line was not understood: no label
	As, Source     string
	Keeps          []keepRow
	Best, Refresh  string
	Raw            string // of raw batter
	Made           field
	Label          labelView
	Batches        field
	Jars           int
	Mix            []mixRow
	MixOne, MixAll string
	MixBy, MixWhy  string
	Jar            string // what its label says
	Tins           string // how many, how full, what is left over
}

type keepRow struct{ Where, Days, By string }

type mixRow struct{ Name, One, All string }

// labelView is what stands on a tub.
type labelView struct{ For, Holds, Made, Best, By, Refresh string }

func daysWords(d keep.Days) string {
	switch {
	case !d.Known():
		return "not"
	case d.Max >= 60 && d.Max%30 == 0:
		return fmt.Sprintf("%d months", d.Max/30)
	case d.Min == d.Max && d.Max == 1:
		return "a day"
	case d.Min == d.Max:
		return fmt.Sprintf("%d days", d.Max)
	}
	return fmt.Sprintf("%d to %d days", d.Min, d.Max)
}

// keeps says how long it keeps.
func (v *aheadView) keeps(l keep.Life, k measure.Kitchen) {
	v.As, v.Source = l.As, l.Source.Words()
	for _, x := range []struct {
		where string
		of    keep.Days
	}{{"At the room’s warmth, closed", l.Room}, {"In the fridge, closed", l.Fridge}, {"In the freezer", l.Freezer}} {
		v.Keeps = append(v.Keeps, keepRow{Where: x.where, Days: daysWords(x.of)})
	}
	v.Best, v.Refresh = bestWords(l), k.Say(refreshWords(l))
	if l.As == "a gluten-free yeast bread" {
		// Source: practice.
		v.Raw = "The raw batter keeps a month in the freezer, in its tin: thaw it overnight in the fridge, then let it rise."
	}
}

func bestWords(l keep.Life) string {
	switch {
	case l.Best.Max == 0:
		return "Best on the day."
	case l.Best.Min == 0:
		return fmt.Sprintf("Best on the day and the next %s.", map[bool]string{true: "day", false: fmt.Sprintf("%d days", l.Best.Max)}[l.Best.Max == 1])
	}
	return fmt.Sprintf("Best after %s.", daysWords(l.Best))
}

func refreshWords(l keep.Life) string {
	out := []string{}
	if l.Thaw != "" {
		out = append(out, "To thaw: "+l.Thaw+".")
	}
	if l.Refresh != "" {
		out = append(out, "To freshen: "+l.Refresh+".")
	}
	return strings.Join(out, " ")
}

// label is what stands on a tub of it.
func (v *aheadView) label(res *adapt.Result, l keep.Life, made time.Time, kit adapt.Kit) {
	day := func(n int) string { return made.AddDate(0, 0, n).Format("2 January 2006") }
	verdict := verdictOf(res.Verdict)
	v.Label = labelView{For: strings.Join(res.Request.Demand().Words(), ", "), Holds: verdict.Holds, Made: made.Format("Monday 2 January 2006"), Refresh: v.Refresh}
	if l.Best.Min > 0 {
		v.Label.Best = "best from " + day(l.Best.Min)
	}
	var by []string
	for n, d := range []keep.Days{l.Room, l.Fridge, l.Freezer} {
		if d.Known() {
			v.Keeps[n].By = day(d.Min)
			short := made.AddDate(0, 0, d.Min).Format("Mon 2 January")
			if d.Min >= 30 {
				short = day(d.Min)
			}
			by = append(by, []string{"", "in the fridge ", "frozen "}[n]+short)
		}
	}
	v.Label.By = strings.Join(by, " · ")
}

// tins says what some batches make, and in what.
func (v *aheadView) tins(res *adapt.Result, n int) {
	makes := "One batch makes"
	if n > 1 {
		makes = fmt.Sprintf("%d batches make", n)
	}
	v.Tins = fmt.Sprintf("%s %d portions", makes, n*max(1, res.Recipe.Servings))
	if b := res.Bake; b != nil {
		v.Tins += fmt.Sprintf(": %d × %s. %s", n, b.Fill.Tin.Words(), phrase.Sentence(b.Fill.Words))
		if over := b.Fill.Over(); over != "" {
			v.Tins += " Of each batch " + over + "."
		}
	} else {
		v.Tins += "."
	}
}

// mix lists a dry mix of some batches.
func (v *aheadView) mix(res *adapt.Result, n int, on time.Time, kit adapt.Kit) {
	m := res.DryMix(kit)
	if len(m.Lines) < 2 {
		return
	}
	v.Jars = n
	all := 0.0
	for _, l := range m.Lines {
		v.Mix = append(v.Mix, mixRow{l.Name, measure.Grams(l.Grams).String(), measure.Grams(l.Grams * float64(n)).String()})
		all += l.Grams * float64(n)
	}
	v.MixOne, v.MixAll = measure.Grams(m.Grams).String(), measure.Grams(all).String()
	v.MixBy = on.AddDate(0, 0, m.Days).Format("2 January 2006")
	v.MixWhy = "lift and scents fade by then"
	if m.Short != "" {
		v.MixWhy = "the " + m.Short + " keeps shortest"
	}
	var add []string
	for _, l := range m.Rest {
		if l.Grams > 0 {
			add = append(add, l.Words())
		}
	}
	v.Jar = measure.Grams(m.Grams).String() + " of mix. Add " + strings.Join(add, ", ") + "."
	if b := res.Bake; b != nil {
		v.Jar += fmt.Sprintf(" Bake at %s in the %s: look at %.0f min, likely done %.0f to %.0f.", kit.Kitchen.OvenText(b.Oven), b.Fill.Tin.Words(), b.FirstLook, b.Low, b.High)
	}
}

// soakView is how dried fruit is soaked.
type soakView struct {
	Fields fields
	Ways   []choice
	Whole  bool
	Answer string
	Says   []string
}

// answer says what comes of a soak.
func (v *soakView) answer(a soak.Asked, r soak.Result) {
	v.Answer = "Ready in " + between(r.Time) + "."
	range2 := func(x [2]measure.Grams) string {
		if x[0] == x[1] {
			return x[0].String()
		}
		return x[0].String() + " to " + x[1].String()
	}
	v.Says = append(v.Says, r.Way.Hands)
	if a.In == soak.Reduced {
		v.Says = append(v.Says, fmt.Sprintf("%s of juice become %s, with %.0f g of sugars in 100 g: its sugar stays, its water goes.", a.Liquid, r.Poured, r.Sugars))
	}
	v.Says = append(v.Says, fmt.Sprintf("The fruit takes up about %s. What is left over, %s, goes into the batter instead of as much of its liquid: weigh it.", range2(r.Taken), range2(r.Left)))
	if r.TooLittle {
		v.Says = append(v.Says, "It would take up more than there is: turn it now and then, so that all of it is wetted.")
	}
	if r.Way.Shake {
		v.Says = append(v.Says, "Clean dry jar, and a shake every day.")
	}
	if r.Way.Fridge {
		v.Says = append(v.Says, "In the fridge: some leave it at the room’s warmth; the careful way is the fridge, since only spirit keeps mould away.")
	} else {
		v.Says = append(v.Says, "In a cool dark place, the fruit covered by the spirit.")
	}
	v.Says = append(v.Says, r.Way.Keeps+" Mould, fizz or a sour smell mean the bin.")
	v.Says = append(v.Says, fmt.Sprintf("Nobody planned it? Simmer the fruit in it for %.0f minutes and let it cool for an hour: softer, less plump.", soak.Simmer.At))
}

// between writes a range of minutes: "1 to 4 h".
func between(m recipe.Minutes) string {
	if m.Max >= 48*60 {
		return fmt.Sprintf("%.0f to %.0f days", m.Min/1440, m.Max/1440)
	}
	return plan.Long(int(m.Min)) + " to " + plan.Long(int(m.Max))
}
