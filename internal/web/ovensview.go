package web

import (
	"fmt"
	"math"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"time"

	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/internal/store"
)

// ovensView is the household's ovens and tins.
type ovensView struct {
	Torn       []*store.Broken // ovens and tins that cannot be read
	Ovens      []ovenView
	Tins       []tinView
	New        ovenView // one more
	NewTin     tinView
	Altitude   field
	Rev        int64  // of the settings, as the box for the altitude saw them
	Devices    fields // scale, probe
	DevicesRev int64
	Now        []string   // how they stand
	Known      []knownTin // the catalogue
	Saved      string
	Undo       *termRow // what was put away
	Unit       string
	Reading    string // how far a reading may be off
	Unknown    string // how far an oven that nobody measured may be
}

type ovenView struct {
	ID, Rev  int64
	Name     string
	Sentence string
	Fan      bool
	F        fields // name, width, depth, shelves; dial and air of a reading
	Readings []learnedView
	Bakes    []learnedView
	Open     bool
}

// learnedView is a bake or a reading that an oven was learned from.
type learnedView struct {
	N, Words  string
	Forgotten bool
}

// ovensTyped is what was sent and will not do: of which form, and why by field.
type ovensTyped struct {
	form   url.Values
	faults map[string]string
	of     string // "oven", "tin", "altitude" or "devices"
	oven   int64  // which, 0 for a new one
}

// ovenFields are the boxes of an oven, and of a reading of it.
func ovenFields(o store.Oven) fields {
	return formFields(
		fmt.Sprintf("oven-%d", o.ID),
		field{Name: "name", Words: "Called", Value: o.Name, Hint: "old gas oven", Size: 18},
		field{Name: "width", Words: "Width of its shelf", Value: number(o.Width), Hint: "44", Mode: "decimal", Size: 5},
		field{Name: "depth", Words: "Depth of its shelf", Value: number(o.Depth), Hint: "37", Mode: "decimal", Size: 5},
		field{
			Name: "shelves", Words: "Shelves used at once", Value: number(float64(o.Shelves)), Hint: "1",
			Mode: "numeric", Size: 3,
		},
		field{Name: "preheat", Words: "Minutes till it is hot", Value: number(float64(o.Preheat)), Hint: "20", Mode: "numeric", Size: 3},
		field{Name: "dial", Words: "Set to", Hint: "180", Size: 6},
		field{Name: "air", Words: "my thermometer says", Hint: "195", Size: 6},
	)
}

// deviceFields are the boxes of where scale and probe are.
func deviceFields(d store.Devices) fields {
	return formFields(
		"device", field{Name: "scale", Words: "Scale at", Value: d.Scale, Hint: "192.168.1.20:7411", Size: 20},
		field{Name: "probe", Words: "Probe at", Value: d.Probe, Hint: "192.168.1.21:7413", Size: 20},
	)
}

// typed lays over an oven what was sent of it; its sentence stands open unless it was a
// reading.
func (v *ovenView) typed(t ovensTyped) {
	reading := t.form.Get("do") == "reading"
	for name, f := range v.F {
		if _, sent := t.form[name]; sent {
			f.Value = strings.TrimSpace(t.form.Get(name))
		}
		if why := t.faults[name]; why != "" {
			f.Fault = phrase.Sentence(why)
		}
		v.F[name] = f
	}
	if v.Open = !reading; v.Open {
		v.Rev = seenRev(t.form)
		v.Fan = t.form.Get("fan") != ""
	}
}

// tinFields are the boxes of a tin.
func tinFields(id int64) fields {
	return formFields(
		fmt.Sprintf("tin-%d", id),
		field{Name: "name", Words: "Called", Hint: "dented ring", Size: 18},
		field{Name: "length", Words: "Inside it is", Unit: "cm long or across (or 9 in),", Hint: "23", Mode: "decimal", Size: 5},
		field{Name: "width", Words: "wide", Unit: "cm if oblong,", Hint: "—", Mode: "decimal", Size: 5},
		field{Name: "deep", Words: "deep", Unit: "cm;", Hint: "7", Mode: "decimal", Size: 5},
		field{Name: "count", Words: "cups", Unit: "if a muffin tin.", Hint: "12", Mode: "numeric", Size: 4},
		field{
			Name: "water", Words: "Filled to the rim on the scale it took",
			Unit: "g of water (the surest way, and enough by itself; a loose base leaks). For cups, one of them.", Hint: "—", Mode: "decimal",
			Size: 6,
		},
	)
}

// dayWords writes a date as people do.
func dayWords(on string) string {
	if t, err := time.Parse(time.DateOnly, on); err == nil {
		return t.Format("2 Jan 2006")
	}
	return on
}

// ovenSentence says what is known of an oven.
func ovenSentence(o store.Oven, k measure.Kitchen) string {
	l := o.Learned()
	if l.Readings == 0 && l.Bakes == 0 {
		return "Nothing is measured yet: " + ovensLie(k) + ", so times in it are given a wide window."
	}
	if math.Abs(l.Offset) < 2 {
		return fmt.Sprintf("True to its dial, within %s.", k.Warmer(measure.Celsius(l.OffsetSD())))
	}
	return phrase.Sentence(hotOrCool(l, k)) + readingsWords(o, k) + paceWords(l) + hindsightWords(o) + driftWords(o)
}

// readingsWords say what the thermometer said on average, where what is believed lies nearer to an honest dial.
func readingsWords(o store.Oven, k measure.Kitchen) string {
	sum, n := 0.0, 0
	for _, r := range o.Readings {
		if !r.Forgotten {
			sum, n = sum+r.Air-r.Dial, n+1
		}
	}
	if n == 0 || len(o.Bakes) > 0 || math.Abs(sum/float64(n)) < math.Abs(o.Learned().Offset)+0.5 {
		return ""
	}
	return fmt.Sprintf(
		" Your %s %s by %s; so few draw it a little towards an honest dial.", plural(n, "reading"),
		map[bool]string{true: "differs", false: "differ on average"}[n == 1], k.Warmer(measure.Celsius(math.Abs(sum/float64(n)))),
	)
}

// lengthWords writes a length in cm, or in inches where the household's oven is in °F.
func lengthWords(cm float64, k measure.Kitchen) string {
	if k.Fahrenheit {
		return fmt.Sprintf("%.1f in", cm/measure.Inch)
	}
	return fmt.Sprintf("%.1f cm", cm)
}

// fewBakes are too few for an error to say anything. Source: practice.
const fewBakes = 3

// hindsightWords say how far foretold times in an oven were off, without learning and with it.
func hindsightWords(o store.Oven) string {
	without, with, n := o.Hindsight()
	if n < fewBakes {
		return ""
	}
	return fmt.Sprintf(" Times foretold in it were off by %.0f %% by the thermometer alone, by %.0f %% with what each bake before had taught.", 100*without, 100*with)
}

// driftWords say where an oven seems to have changed.
func driftWords(o store.Oven) string {
	longer, ok := o.Drift()
	switch {
	case !ok:
		return ""
	case longer > 0:
		return fmt.Sprintf(" Its last bakes took %.0f %% longer than those before had taught: measure it again, it may have changed.", 100*longer)
	}
	return fmt.Sprintf(" Its last bakes took %.0f %% less than those before had taught: measure it again, it may have changed.", -100*longer)
}

// paceWords say how an oven's pace differs beside its heat, "" where it hardly does.
func paceWords(l oven.Learned) string {
	n := ""
	if l.Bakes > 0 {
		n = fmt.Sprintf(" Learned from %d bakes.", l.Bakes)
		if l.Bakes == 1 {
			n = " Learned from one bake."
		}
	}
	switch f := l.Factor(); {
	case f > 1.03:
		return fmt.Sprintf(" A bake takes %.0f %% longer in it than its heat tells.", 100*(f-1)) + n
	case f < 0.97:
		return fmt.Sprintf(" A bake takes %.0f %% less in it than its heat tells.", 100*(1-f)) + n
	}
	return n
}

// ovensLie says how far ovens are off. Source: practice.
func ovensLie(k measure.Kitchen) string {
	low, _, _ := strings.Cut(k.Warmer(10), " ")
	return "ovens lie by " + low + " to " + k.Warmer(15)
}

// gapUnits are the units that stand beside the gaps, and may be typed with the number.
var gapUnits = map[string][]string{
	"width": {"cm"}, "depth": {"cm"}, "length": {"cm"}, "deep": {"cm"}, "water": {"ml", "g"},
	"altitude": {"m"},
}

// inInches is a length in inches: “9 in”, “2¾"”.
var inInches = regexp.MustCompile(`(?i)^(\S(?:.*\S)?)\s*(?:in|inch|inches|"|″|”)\.?$`)

// gap reads a number from a gap of a sentence; an empty one is 0.
func gap(form url.Values, name string, low, high float64, try string, faults map[string]string) float64 {
	typed := strings.TrimSpace(form.Get(name))
	if typed == "" {
		return 0
	}
	x, err := measure.ParseDecimal(typed, gapUnits[name]...)
	if m := inInches.FindStringSubmatch(typed); m != nil && slices.Contains(gapUnits[name], "cm") {
		if q, n, wrong := measure.ScanQuantity(m[1]); wrong == nil && n == len(m[1]) {
			x, err = math.Round(q.Max*measure.Inch*10)/10, nil
		}
	}
	if err != nil || !(x >= low && x <= high) {
		faults[name] = fmt.Sprintf("“%s” cannot be that: try %s", typed, try)
		return 0
	}
	return x
}

// readOven reads the sentence of an oven.
func readOven(form url.Values, faults map[string]string) store.Oven {
	o := store.Oven{Name: strings.TrimSpace(form.Get("name")), Fan: form.Get("fan") != ""}
	if o.Name == "" || len([]rune(o.Name)) > 60 {
		faults["name"] = "Give it a name of at most 60 letters, such as “old gas oven”"
	}
	o.Width = gap(form, "width", 10, 120, "the shelf's width in cm, such as 44", faults)
	o.Depth = gap(form, "depth", 10, 120, "the shelf's depth in cm, such as 37", faults)
	o.Shelves = int(gap(form, "shelves", 1, 6, "1, 2 or 3", faults))
	o.Preheat = int(gap(form, "preheat", 1, 120, "the minutes till it is hot, such as 20", faults))
	return o
}
