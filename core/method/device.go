package method

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strings"

	"kollaris/core/fact"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// Device is what a recipe is heated with where that is no ordinary oven: a row of data/device.csv. The zero value is an oven.
type Device struct {
	Name     string // "slow cooker"
	Place    Place  // where it stands
	Foretold bool   // it stands in an oven, whose heat and time are known
	Wet      bool   // what comes out of it has no dry crust
	Says     string // what is said instead of a time foretold
	Source   fact.Source
	words    en.Sign // by which it is known
	and      en.Sign // which must be said, too
	cooks    en.Sign // in the sentence that cooks
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
		source := fact.Source(row[8])
		if err := source.Check(); err != nil {
			panic(fmt.Sprintf("method/data/device.csv:%d: source: %v", n+2, err))
		}
		sign := func(col int) en.Sign {
			if row[col] == "" {
				return en.Sign{}
			}
			s, err := en.Alone(row[col])
			if err != nil {
				panic(fmt.Sprintf("method/data/device.csv:%d: %s: %v", n+2, rows[0][col], err))
			}
			return s
		}
		out = append(out, Device{
			Name: row[0], words: sign(1), and: sign(2), Place: Place(row[3]), cooks: sign(4), Foretold: row[5] == "yes", Wet: row[6] == "yes",
			Says: row[7], Source: source,
		})
	}
	return out
}

// DeviceCalled is a device by its name; the zero value, an oven, where none is called so.
func DeviceCalled(name string) Device {
	for _, d := range devices {
		if d.Name == name {
			return d
		}
	}
	return Device{}
}

// What tells an oven from what is only called so, a bake from what has its name, and a tin that is heated empty or with fat, or must not be
// greased: no paper goes into it.
var (
	anOven, noOven   = en.SignOf("an-oven"), en.SignOf("no-oven")
	bakes, bakeNamed = en.SignOf("bakes"), en.SignOf("bake-named")
	hotFat           = en.SignOf("hot-fat")
	heatsFirst       = en.SignOf("heats-first")
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
// in a microwave and baked at 180 °C is baked. A lidded pot stands in an oven.
func DeviceOf(r *recipe.Recipe) Device {
	all := en.Words(wordsOf(r))
	oven := anOven.BesideIn(noOven, all)
	for _, d := range devices {
		if oven && !d.Foretold || !d.words.Match(all) || d.and.Phrase != nil && !d.and.Match(all) {
			continue
		}
		if !d.Foretold && bakesElsewhere(r, d) {
			return Device{}
		}
		return d
	}
	return Device{}
}

// bakesElsewhere reports whether a recipe bakes at a heat in a sentence that does not name the device.
func bakesElsewhere(r *recipe.Recipe, d Device) bool {
	if r.Oven == 0 {
		return false
	}
	for _, s := range r.Steps {
		for _, at := range en.Sentences(s.Text) {
			sentence := s.Text[at.From:at.To]
			if !d.words.In(sentence) && bakes.Beside(bakeNamed, sentence) {
				return true
			}
		}
	}
	return false
}

// inDevice takes the work that cooks for a bake in the device, and whatever would be an oven's for what it is.
func (rd *reading) inDevice(d Device) {
	if d.Foretold {
		for n := range rd.tasks {
			if t := &rd.tasks[n]; (t.Verb == Simmer || t.Verb == Mix) && d.words.In(t.Text) && heatsFirst.In(t.Text) {
				u := usuals[Heat]
				t.Verb, t.Where, t.Hands, t.Wait = Heat, InOven, Time{u.Hands, u.Source}, Time{u.Wait, u.Source}
			} else if t.Verb != Bake && t.Wait.Source == Written && bakes.Beside(bakeNamed, t.Text) {
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
		case t.Part == "" && d.cooks.In(t.Text) && t.Wait.Source == Written && t.Wait.Max > 0 && len(t.Uses) == 0 &&
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
			if s.From == 0 || !d.cooks.In(sentence) || !figures.MatchString(sentence) {
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
func BurntPaper(r *recipe.Recipe) bool { return hotFat.In(wordsOf(r)) }
