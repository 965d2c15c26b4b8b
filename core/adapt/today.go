package adapt

import (
	"fmt"
	"slices"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/phrase"
)

// Today is the verdict of a kept result as it would be said now. What was worked out stays
// as it was kept, but a word for what must not be eaten may since be read more widely, or
// the household have learned of an allergen: then the verdict says so. It is never milder
// than the one that was kept.
func (res *Result) Today(l *larder.Larder) Verdict {
	v := res.Verdict
	v.Labels, v.Unread = slices.Clone(v.Labels), nil
	kept := res.Request.Demand()
	d, _ := diet.Reread(kept.Bans, l)
	d = diet.Demand{Diets: kept.Diets}.With(d)
	breaks, labels := "", 0
	for _, ln := range res.Recipe.Lines {
		i := l.Get(ln.Ingredient)
		if i == nil || !ln.Known {
			v.Unread = append(v.Unread, ln.Text)
			if hits, _ := broken(ln.Text, d, l); len(hits) > 0 && breaks == "" {
				breaks = why(hits[0])
			}
			continue
		}
		switch j, why := d.Judge(i); {
		case j == diet.Breaks && breaks == "":
			breaks = why.Words()
		case j == diet.CheckLabel && !slices.Contains(v.Labels, why.Words()) && i.ReadOn() == "":
			v.Labels = append(v.Labels, why.Words())
			labels++
		}
	}
	worse := func(state, words string) {
		v.State, v.Words = state, words
	}
	switch {
	case v.State == "stop":
	case breaks != "":
		worse("stop", fmt.Sprintf("Kept as fitting, but read again today it is not for this table: %s.", breaks))
	case len(d.Unread) > 0:
		worse("look", fmt.Sprintf("“%s” was asked and is not understood: until it is, nothing fits.", d.Unread[0]))
	case len(d.Unknowns()) > 0:
		worse("look", fmt.Sprintf("“%s” was asked, and Kollaris does not know what holds it: read every label.", d.Unknowns()[0]))
	case len(v.Unread) > 0:
		worse(
			"look",
			fmt.Sprintf(
				"%s not understood: “%s” could hold anything.", count(len(v.Unread), "line is", "lines are"),
				phrase.Clip(v.Unread[0], 40),
			),
		)
	case v.State == "fine" && labels > 0:
		worse(
			"look",
			fmt.Sprintf(
				"Read again today, %s to read: %s.", count(labels, "label is", "labels are"),
				v.Labels[len(v.Labels)-labels],
			),
		)
	}
	return v
}
