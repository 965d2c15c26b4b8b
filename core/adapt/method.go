package adapt

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/phrase"
	"kollaris/core/swap"
)

var (
	bakeStep = regexp.MustCompile(`(?i)\b(bake|into the oven|in the oven)\b`)
	mixing   = regexp.MustCompile(`(?i)\b(?:mix|stir|beat|whisk|combine|knead)\b`)
	prepares = regexp.MustCompile(`(?i)\b(?:mix|stir|beat|whisk|combine|knead|fold|rub|cream|sift|blend)\b`)
	preheat  = regexp.MustCompile(`(?i)\b(pre-?heat|heat the oven|set the oven)\b`)
)

// besides finds the written steps that an edit stands beside.
var besides = map[string]*regexp.Regexp{
	"knead": regexp.MustCompile(`(?i)\bknead`),
	"rise":  regexp.MustCompile(`(?i)\b(?:prove|proof|ris(?:e|ing)|doubled?)\b`),
	"cream": regexp.MustCompile(`(?i)\bcream\b`),
}

// method edits the steps: waits and extra bowls first, what belongs to mixing
// before the step that uses what was replaced, the rest before baking: beside the
// step where that one mixes and bakes at once. A written step is never
// rewritten; what is different in it stands beside it.
func (r *assessment) method() {
	type edit struct {
		at      int // index of the written step it stands before
		step    Step
		ordinal int
	}
	steps := r.res.Recipe.Steps
	var edits []edit
	notes, beside := make([][]string, len(steps)), make([][]string, len(steps))
	waits := make([]int, len(steps))
	bakeAt := len(steps)
	for n, s := range steps {
		if bakeStep.MatchString(s.Text) &&
			!(preheat.MatchString(s.Text) && !strings.Contains(strings.ToLower(s.Text), "bake")) {
			bakeAt = n
			break
		}
	}
	acid := false
	if r.res.Refused == nil {
		for _, g := range r.brings {
			if len(g.to) == 0 {
				continue
			}
			first := len(steps)
			for n, s := range steps {
				if n < first && mixing.MatchString(s.Text) && len(s.Lines) == 0 {
					first = n // "mix everything"
				}
				for _, l := range g.Lines {
					if slices.Contains(s.Lines, l.ID) {
						first = min(first, n)
						notes[n] = append(
							notes[n], fmt.Sprintf("instead of %s: %s", g.Use.Title, g.chosen.School.Title),
						)
					}
				}
			}
			values := r.values(g)
			for _, e := range g.chosen.School.Steps {
				if len(e.Only) > 0 && !slices.Contains(e.Only, string(r.written.Kind)) {
					continue
				}
				if e.At == "beside" {
					for n, s := range steps {
						if besides[e.Verb].MatchString(s.Text) {
							notes[n] = append(notes[n], r.Kitchen.Say(swap.Fill(e.Text, values)))
						}
					}
					continue
				}
				if text := r.Kitchen.Say(swap.Fill(e.Text, values)); e.At == "before-baking" && bakeAt < len(steps) &&
					prepares.MatchString(steps[bakeAt].Text) {
					beside[bakeAt] = append(beside[bakeAt], text)
					waits[bakeAt] = max(waits[bakeAt], e.Minutes)
					notes[bakeAt] = append(notes[bakeAt], phrase.Within(strings.TrimSuffix(text, ".")))
					continue
				}
				at := map[string]int{"start": 0, "mix": min(first, bakeAt), "before-baking": bakeAt, "end": len(steps)}[e.At]
				edits = append(
					edits,
					edit{
						at, Step{Text: r.Kitchen.Say(swap.Fill(e.Text, values)), Added: true, Minutes: e.Minutes},
						len(edits),
					},
				)
			}
			for _, p := range g.chosen.School.Parts {
				acid = acid || p.As == "acid"
			}
		}
		if acid && r.res.After.Soda > 0 &&
			!slices.ContainsFunc(
				edits, func(e edit) bool { return strings.HasPrefix(e.step.Text, "Into the oven at once") },
			) {
			edits = append(
				edits,
				edit{
					bakeAt,
					Step{
						Text:  "Into the oven at once: the soda begins to work as soon as the soured liquid meets it.",
						Added: true,
					},
					len(edits),
				},
			)
		}
	}
	for n := 0; n <= len(steps); n++ {
		for _, e := range edits {
			if e.at == n {
				r.res.Method = append(r.res.Method, e.step)
			}
		}
		if n < len(steps) {
			st := Step{Text: steps[n].Text, Minutes: waits[n], Beside: once(beside[n])}
			if len(notes[n]) > 0 {
				st.Note = strings.Join(once(notes[n]), "; ")
			}
			r.res.Method = append(r.res.Method, st)
		}
	}
}

// once keeps the first of what stands there twice.
func once(in []string) []string {
	var out []string
	for _, s := range in {
		if !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	return out
}

// looksLike says how a batter of another base looks in the bowl. Source: practice.
var looksLike = map[string]string{
	"gluten-free": "It looks thin at first, and thickens as it stands.",
	"nut":         "It should drop thickly from the spoon.",
	"keto-yeast":  "The dough should be soft and a little sticky.",
}

// Different lists what is different to do, for the tab of that name: what to
// begin earlier, the new steps, how the batter should look, and what each way
// does to the taste and the crumb.
func (res *Result) Different() []string {
	var out []string
	wait := 0
	for _, s := range res.Method {
		wait = max(wait, s.Minutes)
		out = append(out, s.Beside...)
		if s.Added {
			out = append(out, s.Text)
		}
	}
	if wait > 0 {
		out = append([]string{fmt.Sprintf("Begin %d minutes earlier: something has to stand.", wait)}, out...)
	}
	for _, s := range res.Sums {
		if s.ID == "water" && len(out) > 0 {
			looks := "The batter should look as wet as the written one."
			if w := looksLike[res.Becomes]; w != "" {
				looks = w
			}
			if s.Out {
				looks = "The batter comes out " + s.Words + "."
			}
			out = append(out, looks)
		}
	}
	for _, c := range res.Changes {
		if c.Kind == Swapped && c.Effect != "" {
			out = append(out, phrase.Capital(c.SchoolName)+": "+c.Effect+".")
		}
	}
	return out
}

// ToBuy lists what the adapted recipe needs that the written one did not.
func (res *Result) ToBuy(had map[larder.ID]bool) []Amount {
	var out []Amount
	for _, c := range res.Changes {
		for _, t := range c.To {
			if !had[t.Ingredient] && t.Ingredient != "water" {
				out = append(out, t)
			}
		}
	}
	return out
}
