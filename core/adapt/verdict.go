package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/scan"
)

// verdict says how the result stands to the demand, and which allergens came and went; whole, what to mind as well.
func (r *assessment) verdict(whole bool) {
	v := &r.res.Verdict
	r.named()
	had, has := slices.Concat(r.ingredients(r.before), r.worded(r.before)), slices.Concat(r.ingredients(r.res.Recipe), r.also)
	beforeHolds, _ := diet.Holds(had)
	after, check := diet.Holds(has)
	v.Holds, v.Check = after, check
	v.New, v.Gone = minus(after, beforeHolds), minus(beforeHolds, after)
	newFrom := map[string]string{}
	for _, a := range v.New {
		for _, i := range has {
			if i.Allergens[a] == larder.Contains {
				newFrom[a] = i.Name
			}
		}
	}
	if whole {
		r.res.Cautions = review.Cautions(r.res.Recipe, r.Larder, r.demand, newFrom, r.also...)
	}
	if raw := method.LeftWarm(r.res.Method, r.res.Recipe, r.Larder); len(raw) > 0 {
		r.res.Cautions = append(r.res.Cautions, review.Warm(raw))
	}
	for n := range r.res.Cautions {
		r.res.Cautions[n].Text = r.Kitchen.Say(r.res.Cautions[n].Text)
	}
	var breaking, labels []string
	for _, i := range r.ingredients(r.res.Recipe) {
		switch j, why := r.demand.Judge(i); j {
		case diet.Breaks:
			breaking = append(breaking, why.Words())
		case diet.CheckLabel:
			words := r.demand.LabelWords(i)
			if day := i.ReadOn(); day != "" {
				words += " (your pack’s label was read on " + day + ": read it again when you buy another)"
			}
			labels = append(labels, words)
		}
	}
	v.Labels = append(labels, v.Labels...)
	unknown := r.res.Recipe.Unknown()
	for _, l := range r.before.Lines {
		if slices.ContainsFunc(unknown, func(u recipe.Line) bool { return u.ID == l.ID }) {
			v.Unread = append(v.Unread, l.Text)
		}
	}
	if len(unknown) > 0 {
		v.Gone = nil
	}
	r.say(v, breaking)
}

// worded are the foods that the words of a recipe's lines hold beside what they were taken for.
func (r *assessment) worded(rec *recipe.Recipe) (out []*larder.Ingredient) {
	for _, l := range rec.Lines {
		i := r.Larder.Get(l.Ingredient)
		if i == nil || !l.Known {
			for _, m := range scan.Mentions(l.Text, r.Larder) {
				out = append(out, m.Foods...)
			}
			continue
		}
		for _, o := range others(l.Text, i, r.Larder) {
			if !o.or {
				out = append(out, o.Foods...)
			}
		}
	}
	return out
}

// say gives the verdict its state and its sentences, the gravest first: none pushes another out.
func (r *assessment) say(v *Verdict, breaking []string) {
	var all []string
	worst := "fine"
	put := func(state, words string) {
		if len(all) == 0 {
			worst = state
		}
		all = append(all, words)
	}
	if r.res.Refused != nil || len(breaking) > 0 {
		words := "Not for this table."
		if len(breaking) > 0 {
			words = fmt.Sprintf("Not for this table: %s.", strings.Join(breaking, "; "))
		}
		put("stop", words)
	}
	for _, n := range r.res.Slips {
		if n.IsPoison() {
			put("stop", n.Message())
		}
	}
	if len(v.Stops) > 0 {
		lead, where := stopWords(v.Stops)
		put("stop", lead)
		put("stop", where)
	}
	if len(r.demand.Unread) > 0 {
		put("look", fmt.Sprintf(
			"“%s” was asked and is not understood: until it is, nothing fits.", phrase.Clip(r.demand.Unread[0], 40),
		))
	}
	if words := r.demand.Unknowns(); len(words) > 0 {
		put("look", fmt.Sprintf("“%s” was asked, and Kollaris does not know what holds it: read every label.", strings.Join(words, "”, “")))
	}
	if n := len(v.Unread); n > 0 {
		put("look", fmt.Sprintf("%s not understood: “%s” could hold anything.", count(n, "line is", "lines are"), phrase.Clip(v.Unread[0], 40)))
	}
	var beside []Named
	for _, b := range v.Beside {
		if !slices.ContainsFunc(v.Stops, func(s Stop) bool { return s.Text == b.Text && strings.EqualFold(s.Food, b.Food) }) {
			beside = append(beside, b)
		}
	}
	if len(beside) > 0 {
		put("look", besideWords(beside))
	}
	if n := slices.IndexFunc(r.res.Slips, func(n review.Note) bool { return !n.IsPoison() }); n >= 0 {
		put("look", "First look at what is written: "+r.res.Slips[n].Message())
	}
	if n := len(v.Labels); n > 0 && r.res.Refused == nil {
		put("look", fmt.Sprintf("%s to read: %s.", count(n, "label", "labels"), strings.Join(v.Labels, "; ")))
	}
	for _, kept := range []bool{false, true} { // those exceeded before those that are only near
		for _, l := range r.res.Limits {
			if l.Kept == kept && (!l.Kept || l.Near) {
				put("look", l.Words)
			}
		}
	}
	if len(all) == 0 {
		put("fine", r.fits())
	}
	v.State, v.Words, v.More = worst, all[0], all[1:]
}

// fits is the sentence of a result that nothing speaks against.
func (r *assessment) fits() string {
	switch demands := len(r.demand.Diets) + len(r.demand.Bans) + len(r.demand.Limits); {
	case demands == 0 && len(r.res.Changes) > 0:
		return "Changed as you chose. Nothing was asked that it must not hold."
	case demands == 0:
		return "As written. Choose what it has to be."
	case demands == 1:
		return "Nothing here breaks your demand."
	default:
		return fmt.Sprintf("Nothing here breaks your %s demands.", numberWord(demands))
	}
}

func (r asked) ingredients(rec *recipe.Recipe) []*larder.Ingredient {
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
