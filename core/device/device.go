// Package device says what a recipe is heated with, by the rows of data/device.csv: an oven, or something that no oven's time is foretold of.
package device

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strings"

	"kollaris/core/fact"
	"kollaris/core/recipe"
	"kollaris/core/text/en"
)

// Device is what a recipe is heated with where that is no ordinary oven: a row of data/device.csv. The zero value is an oven.
type Device struct {
	Name     string // "slow cooker"
	Place    string // where it stands, as a verb's place
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
		panic(fmt.Sprintf("device/data/device.csv: %v", err))
	}
	for n, row := range rows[1:] {
		source := fact.Source(row[8])
		if err := source.Check(); err != nil {
			panic(fmt.Sprintf("device/data/device.csv:%d: source: %v", n+2, err))
		}
		sign := func(col int) en.Sign {
			if row[col] == "" {
				return en.Sign{}
			}
			s, err := en.Alone(row[col])
			if err != nil {
				panic(fmt.Sprintf("device/data/device.csv:%d: %s: %v", n+2, rows[0][col], err))
			}
			return s
		}
		out = append(out, Device{
			Name: row[0], words: sign(1), and: sign(2), Place: row[3], cooks: sign(4), Foretold: row[5] == "yes", Wet: row[6] == "yes",
			Says: row[7], Source: source,
		})
	}
	return out
}

// Called is a device by its name; the zero value, an oven, where none is called so.
func Called(name string) Device {
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
)

// Of is what a recipe is heated with: another device where its words name one and no oven. An oven's words win: what is melted
// in a microwave and baked at 180 °C is baked. A lidded pot stands in an oven.
func Of(r *recipe.Recipe) Device {
	if r.Device != "" { // settled where the text was read, or typed
		return Called(r.Device)
	}
	return Read(r)
}

// Oven is the name of no other device: what is settled to bake in an oven.
const Oven = "oven"

// All are the devices beside the oven, in the order of the table.
func All() []Device { return slices.Clone(devices) }

// Read is what the words of a recipe say that it is heated with.
func Read(r *recipe.Recipe) Device {
	all := en.Words(r.Words())
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

// BurntPaper reports whether a recipe heats its tin empty or with fat, or wants it ungreased: then nothing lines it.
func BurntPaper(r *recipe.Recipe) bool { return hotFat.In(r.Words()) }

// Cooks reports whether a sentence is the one in which it cooks.
func (d Device) Cooks(sentence string) bool { return d.cooks.Phrase != nil && d.cooks.In(sentence) }

// Named reports whether a text names the device.
func (d Device) Named(text string) bool { return d.words.Phrase != nil && d.words.In(text) }

// Bakes reports whether a text tells to bake, and does not only name what is called after it: baking powder, a baking sheet.
func Bakes(text string) bool { return bakes.Beside(bakeNamed, text) }
