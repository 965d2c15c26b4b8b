package method

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strings"

	"kollaris/core/fact"
	"kollaris/core/pattern"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// Device is what a recipe is heated with where that is no oven: a row of data/device.csv. The zero value is an oven.
type Device struct {
	Name   string // "slow cooker"
	Place  Place  // where it stands
	Says   string // what is said instead of a time foretold
	Source fact.Source
	words  *pattern.Pattern // by which it is known
	cooks  *pattern.Pattern // in the sentence that cooks
}

// Other reports whether it is anything but an oven.
func (d Device) Other() bool { return d.Name != "" }

//go:embed data/device.csv
var deviceFile string

// devices are the rows of data/device.csv, in the order in which they are looked for.
var devices = mustDevices(deviceFile)

func mustDevices(text string) (out []Device) {
	rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	if err != nil {
		panic(fmt.Sprintf("method/data/device.csv: %v", err))
	}
	for n, row := range rows[1:] {
		source := fact.Source(row[5])
		if err := source.Check(); err != nil {
			panic(fmt.Sprintf("method/data/device.csv:%d: source: %v", n+2, err))
		}
		out = append(out, Device{
			Name: row[0], Place: Place(row[2]), Says: row[4], Source: source,
			words: pattern.Must(`(?i)\b(?:` + row[1] + `)\b`), cooks: pattern.Must(`(?i)\b(?:` + row[3] + `)\b`),
		})
	}
	return out
}

var (
	microOven = pattern.Must(`(?i)\b(microwave) ovens?\b`)
	// noOven are words of an oven that is none, or is not wanted.
	noOven = pattern.Must(`(?i)\b(?:dutch|toaster) oven\b|\boven[- ]?(?:proof|safe|gloves?|mitts?|cloth|ready)\b|\b(?:no|without(?: an?| the)?|instead of(?: an?| the)?|needs no|not in the) ovens?\b|\bno[- ]bake\b`)
	anOven = pattern.Must(`(?i)\bovens?\b`)
	// bakes tells a bake from what is only called so.
	bakes = pattern.Must(`(?i)\bbak(?:e|ed|es|ing)\b(?:[^.;]{0,3}[^.;]*)`)
	named = pattern.Must(`(?i)\bbaking (?:powder|soda|sheets?|papers?|parchment|trays?|tins?|beans?|dish(?:es)?|pans?|stones?|spread|margarine|block)\b|\bbake (?:only|programme|program|cycle|setting)\b|\bun-?baked\b`)
	// lidded is a pot with its lid in the oven, which keeps its own two times.
	lidded  = pattern.Must(`(?i)\b(?:dutch oven|lidded (?:pot|pan|casserole)|casserole|cast[- ]iron pot|cocotte|la cloche|cloche)\b`)
	withLid = pattern.Must(`(?i)\b(?:lid|covered|uncover(?:ed)?|cover,? (?:and )?bake)\b`)
	// hotFat is a tin or pan that is heated empty or with fat, or must not be greased: no paper goes into it. Source: practice.
	hotFat = pattern.Must(`(?i)\bungreased\b|\bdo not grease\b|\b(?:hot|smoking|sizzling) (?:fat|oil|dripping|lard|skillet|pan|tins?)\b|\b(?:heat|preheat|warm)\b[^.;]{0,40}\b(?:skillet|fat|oil|dripping|lard|muffin tins?|pan)\b|\b(?:oil|fat|dripping|lard|butter)\b[^.;]{0,30} (?:in|into|to|between) (?:each|every|the (?:holes|cups))\b|\buntil (?:it is |they are )?(?:smoking|sizzling|very hot)\b|\bskillet\b`)
)

// words is all that a recipe tells to do.
func wordsOf(r *recipe.Recipe) string {
	var b strings.Builder
	b.WriteString(r.Title + ". ")
	for _, s := range r.Steps {
		b.WriteString(s.Text + ". ")
	}
	for _, n := range r.Notes {
		b.WriteString(n + ". ")
	}
	return b.String()
}

// DeviceOf is what a recipe is heated with: another device where its words name one and no oven. An oven's words win: what is melted
// in a microwave and baked at 180 °C is baked.
func DeviceOf(r *recipe.Recipe) Device {
	all := wordsOf(r)
	if lidded.MatchString(all) && withLid.MatchString(all) {
		return Device{Name: Lidded, Place: InOven, Says: "It bakes in a lidded pot: pot, lid and both times stay as written, 96 to 98 °C in the middle. The pot is hot: no paper but one that stands the heat.", Source: "practice"}
	}
	text := noOven.ReplaceAllString(microOven.ReplaceAllString(all, "$1"), "")
	if anOven.MatchString(text) {
		return Device{}
	}
	for _, d := range devices {
		if !d.words.MatchString(text) {
			continue
		}
		if bakesElsewhere(r, d) {
			return Device{}
		}
		return d
	}
	return Device{}
}

// Lidded is the name of a lidded pot in the oven.
const Lidded = "lidded pot"

// bakesElsewhere reports whether a recipe bakes at a heat in a sentence that does not name the device.
func bakesElsewhere(r *recipe.Recipe, d Device) bool {
	if r.Oven == 0 {
		return false
	}
	for _, s := range r.Steps {
		for _, at := range en.Sentences(s.Text) {
			sentence := s.Text[at.From:at.To]
			if !d.words.MatchString(sentence) && bakes.MatchString(named.ReplaceAllString(sentence, "")) {
				return true
			}
		}
	}
	return false
}

// inDevice takes the work that cooks for a bake in the device, and whatever would be an oven's for what it is.
func (rd *reading) inDevice(d Device) {
	if d.Name == Lidded {
		for n := range rd.tasks {
			if t := &rd.tasks[n]; (t.Verb == Simmer || t.Verb == Mix) && lidded.MatchString(t.Text) && strings.HasPrefix(strings.TrimLeft(strings.ToLower(t.Text), "pre"), "heat") {
				u := usuals[Heat]
				t.Verb, t.Where, t.Hands, t.Wait = Heat, InOven, Time{u.Hands, u.Source}, Time{u.Wait, u.Source}
			} else if t.Verb != Bake && t.Wait.Source == Written && bakes.MatchString(named.ReplaceAllString(t.Text, "")) {
				t.Verb, t.Where = Bake, InOven
			}
		}
		return
	}
	if d.Name != "fridge" && !slices.ContainsFunc(rd.tasks, func(t Task) bool { return t.Verb == Bake }) {
		rd.partCook(d)
	}
	for n := range rd.tasks {
		t := &rd.tasks[n]
		switch {
		case t.Verb == Bake || t.Verb == BakeBlind:
			t.Where, t.Oven = d.Place, 0
		case t.Verb == Heat:
			t.Where, t.Oven = d.Place, 0
		case t.Part == "" && d.cooks.MatchString(t.Text) && t.Wait.Source == Written && t.Wait.Max > 0 && len(t.Uses) == 0 &&
			t.Verb.Is(MayCook) && rd.onlyCook(n, d):
			t.Verb, t.Where = Bake, d.Place
		}
	}
}

// partCook makes a task of its own of the sentence that cooks, where it was read with the work before it.
func (rd *reading) partCook(d Device) {
	for n := len(rd.tasks) - 1; n >= 0; n-- {
		t := &rd.tasks[n]
		if t.Part != "" {
			continue
		}
		for _, s := range en.Sentences(t.Written) {
			sentence := strings.TrimRight(t.Written[s.From:s.To], " .;,")
			if s.From == 0 || !d.cooks.MatchString(sentence) || !figures.MatchString(sentence) {
				continue
			}
			cook := *t
			cook.Verb, cook.Where, cook.Uses, cook.Oven = Bake, d.Place, nil, 0
			cook.Written, cook.Text = t.Written[s.From:], phrase.Sentence(phrase.Capital(strings.TrimRight(t.Written[s.From:], " .;,")))
			cook.Span.From = t.Span.From + s.From
			u := usuals[t.Verb]
			t.Written = strings.TrimSpace(t.Written[:s.From])
			t.Text, t.Span.To = phrase.Sentence(phrase.Capital(strings.TrimRight(t.Written, " .;,"))), cook.Span.From
			t.Wait = Time{u.Wait, u.Source}
			rd.details(&cook, cook.Text)
			cook.Where, cook.Oven = d.Place, 0
			rd.insert(n+1, cook)
			return
		}
	}
}

// onlyCook reports whether no task before has cooked.
func (rd *reading) onlyCook(n int, d Device) bool {
	if d.Name == "fridge" {
		return false
	}
	return !slices.ContainsFunc(rd.tasks[:n], func(t Task) bool { return t.Verb == Bake })
}

// BurntPaper reports whether a recipe heats its tin empty or with fat, or wants it ungreased: then nothing lines it.
func BurntPaper(r *recipe.Recipe) bool { return hotFat.MatchString(wordsOf(r)) }
