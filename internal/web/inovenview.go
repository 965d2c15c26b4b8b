package web

import (
	"fmt"
	"slices"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/doneness"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// inOvenView is a bake that is in the oven.
type inOvenView struct {
	Title, Bake   string
	In, At, Probe string // as their boxes hold them
	Faults        []string
	Lead, Then    string
	Why           string // how it is known
	Odd, Past     string // a probe that stands badly; more minutes are no answer
	Tent          string // it is brown before it is through
	Buttons       []choice
	Seen          []string
	Sent          []string // as the address has them
	Undo          string
	Degrees       string
	Core          string // the middle that is expected now
	Set           string // oven and tin
	Fruity        string
}

// tell says what comes of all that was seen.
func (v *inOvenView) tell(b *doneness.Bake, res *adapt.Result, all []seenThing, in, now time.Time, k measure.Kitchen) {
	clock := func(minutes float64) string {
		return in.Add(time.Duration(minutes * float64(time.Minute))).Round(time.Minute).Format("15:04")
	}
	v.Degrees = k.Degrees()
	for _, l := range looked {
		v.Buttons = append(v.Buttons, choice{Value: l.code, Words: string(l.look)})
	}
	minutes := now.Sub(in).Minutes()
	low, median, high := b.End()
	v.Set = fmt.Sprintf("%s, %s", k.OvenText(res.Bake.Oven), res.Bake.Fill.Tin.Words())
	v.Then = fmt.Sprintf("Likely done %s to %s; as likely before %s as after.", clock(low), clock(high), clock(median))
	v.Core = fmt.Sprintf("The middle should read about %s now; done is %s.", k.Temperature(measure.Celsius(b.Core(minutes))), k.Temperature(res.Bake.Done))
	done, wet := false, false
	for _, x := range all {
		words := string(x.look)
		if x.look == "" {
			words = k.Temperature(measure.Celsius(x.core)) + " in the middle"
		}
		v.Seen = append(v.Seen, clock(x.at)+" "+words)
		done = x.look == doneness.SkewerClean || x.look == "" && x.core >= float64(res.Bake.Done)
		wet = x.look == doneness.SkewerWet || x.look == doneness.Dents || x.look == "" && x.core < float64(res.Bake.Done)-4
	}
	if !done {
		v.Tent = tentWords(all, median)
	}
	last := 0.0
	if len(all) > 0 {
		last = all[len(all)-1].at
	}
	switch {
	case done:
		v.Lead = "Done, by what you saw."
		v.Then = "Take it out. " + coolWords(res)
	case len(all) == 0:
		v.Lead = "First look at " + clock(res.Bake.FirstLook) + "."
	default:
		next := b.NextLook(max(last, minutes))
		v.Lead = fmt.Sprintf("Look again at %s, in %.0f min.", clock(next), max(0, next-minutes))
	}
	if b.Stuck() {
		v.Odd = "The probe always shows the same while the middle should rise: is it switched on, its plug in, its tip in the bake? Go by the skewer till then."
	}
	if b.Misplaced() {
		v.Odd = "The readings are not those of a middle: the probe stands near the wall, in air, or has slipped. Put it into the middle of the thickest part; till then they count little."
	}
	if !done && wet && b.Past(last) {
		v.Past = "It should be done by now, so more minutes may not be the answer. Is the oven as hot as its dial says? Was the door open long, the batter wetter or deeper than written? Try the skewer in another place, lay foil over it if it is dark, and go by a probe."
	}
	if res.Recipe.Kind == recipe.FruitCake || res.Recipe.Kind == recipe.Brownie {
		v.Fruity = "Of this kind a skewer with crumbs is done: quite clean it would be dry."
	}
	v.Why = "From the heat model with what was seen: how much longer this bake takes and how far the oven is off are both unknown, and each look or reading makes some of it likelier. The window holds eight bakes of ten. Where looks turn, and how often they mislead, is common practice and from memory."
}

// Before which share of its time golden is too early. Source: practice: a bake is as brown as wanted in the last
// fifth.
const goldenEarly = 0.8

// tentWords say that foil is wanted, "" where it is not: it is dark, or golden long before it is through.
func tentWords(all []seenThing, median float64) string {
	for _, x := range slices.Backward(all) {
		switch x.look {
		case doneness.Dark:
			return "Lay foil over it now: it is dark before it is through."
		case doneness.Golden:
			if x.at < goldenEarly*median {
				return "Lay foil over it now: it is golden, and has long to go."
			}
			return ""
		case doneness.Pale:
			return ""
		}
	}
	return ""
}

// coolWords say what follows.
func coolWords(res *adapt.Result) string {
	for _, t := range res.Method {
		if t.Verb == "cool-tin" || t.Verb == "cool" {
			return phrase.Sentence(t.Text)
		}
	}
	return ""
}
