package adapt

import (
	"fmt"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/review"
)

// verdict says how the result stands to the demand, and which allergens came and went; whole, what to mind as well.
func (r *assessment) verdict(whole bool) {
	v := &r.res.Verdict
	beforeHolds, _ := diet.Holds(r.ingredients(r.before))
	after, check := diet.Holds(r.ingredients(r.res.Recipe))
	v.Holds, v.Check = after, check
	v.New, v.Gone = minus(after, beforeHolds), minus(beforeHolds, after)
	newFrom := map[string]string{}
	for _, a := range v.New {
		for _, i := range r.ingredients(r.res.Recipe) {
			if i.Allergens[a] == larder.Contains {
				newFrom[a] = i.Name
			}
		}
	}
	if whole {
		r.res.Cautions = review.Cautions(r.res.Recipe, r.Larder, r.demand, newFrom)
	}
	for n := range r.res.Cautions {
		r.res.Cautions[n].Text = r.Kitchen.Say(r.res.Cautions[n].Text)
	}
	var breaking []string
	for _, i := range r.ingredients(r.res.Recipe) {
		switch j, why := r.demand.Judge(i); j {
		case diet.Breaks:
			breaking = append(breaking, why.Words())
		case diet.CheckLabel:
			words := why.Words()
			if day := i.ReadOn(); day != "" {
				words += " (your pack’s label was read on " + day + ": read it again when you buy another)"
			}
			v.Labels = append(v.Labels, words)
		}
	}
	unknown := r.res.Recipe.Unknown()
	for _, l := range unknown {
		v.Unread = append(v.Unread, l.Text)
	}
	if len(unknown) > 0 {
		v.Gone = nil
	}
	told, noted := r.unlisted()
	v.Spoken, v.noted = slices.Concat(told, noted), len(noted)
	v.Beside = r.withoutOthers()
	r.say(v, breaking)
}

// say gives the verdict its state and its sentence, the gravest first.
func (r *assessment) say(v *Verdict, breaking []string) {
	unknown := r.res.Recipe.Unknown()
	demands := len(r.demand.Diets) + len(r.demand.Bans) + len(r.demand.Limits)
	var missed []string
	for _, kept := range []bool{false, true} { // those exceeded before those that are only near
		for _, l := range r.res.Limits {
			if l.Kept == kept && (!l.Kept || l.Near) {
				missed = append(missed, l.Words)
			}
		}
	}
	switch {
	case r.res.Refused != nil || len(breaking) > 0:
		v.State = "stop"
		v.Words = "Not for this table."
		if len(breaking) > 0 {
			v.Words = fmt.Sprintf("Not for this table: %s.", breaking[0])
		}
	case len(r.demand.Unread) > 0:
		v.State = "look"
		v.Words = fmt.Sprintf(
			"“%s” was asked and is not understood: until it is, nothing fits.", phrase.Clip(r.demand.Unread[0], 40),
		)
	case len(unknown) > 0:
		v.State = "look"
		v.Words = fmt.Sprintf(
			"%s not understood: “%s” could hold anything.", count(len(unknown), "line is", "lines are"),
			phrase.Clip(unknown[0].Text, 40),
		)
	case len(v.Beside) > 0:
		v.State, v.Words = "look", besideWords(v.Beside)
	case len(v.Spoken) > 0:
		v.State, v.Words = "look", spokenWords(v.Spoken[:len(v.Spoken)-v.noted], v.Spoken[len(v.Spoken)-v.noted:])
	case len(r.res.Slips) > 0:
		v.State, v.Words = "look", "First look at what is written: "+r.res.Slips[0].Message()
	case len(v.Labels) > 0:
		var names []string
		for _, i := range r.ingredients(r.res.Recipe) {
			if j, _ := r.demand.Judge(i); j == diet.CheckLabel {
				names = append(names, i.Name)
			}
		}
		v.State = "look"
		v.Words = fmt.Sprintf("%s to read: %s.", count(len(names), "label", "labels"), strings.Join(names, ", "))
	case len(missed) > 0:
		v.State, v.Words = "look", missed[0]
	case demands == 0:
		v.State = "fine"
		v.Words = "As written. Choose what it has to be."
		if len(r.res.Changes) > 0 {
			v.Words = "Changed as you chose. Nothing was asked that it must not hold."
		}
	case demands == 1:
		v.State, v.Words = "fine", "Nothing here breaks your demand."
	default:
		v.State, v.Words = "fine", fmt.Sprintf("Nothing here breaks your %s demands.", numberWord(demands))
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
