package web

import (
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/plan"
	"kollaris/core/yeast"
	"kollaris/internal/store"
)

// planFields are the fields of a plan's form beside the bakes'; the second line stands once for each
// bake, in their order.
var planFields = []string{
	"eat", "from", "to", "cooks", "room", "b", "pin",
	"p-serve", "p-oven", "p-rise", "p-at",
}

// plannedBake is a bake of a plan's address: a recipe and what is asked of it, or a kept version.
type plannedBake struct {
	id    int64
	kept  bool // id is a version's
	query url.Values
}

// code is how a bake stands in an address: "3:diet=keto", or "v12" for a version.
func (b plannedBake) code() string {
	if b.kept {
		return fmt.Sprintf("v%d", b.id)
	}
	return fmt.Sprintf("%d:%s", b.id, b.query.Encode())
}

// plannedBakes reads the bakes of an address; what is none is left out.
func plannedBakes(query url.Values) []plannedBake {
	var bakes []plannedBake
	for _, b := range query["b"] {
		id, asked, _ := strings.Cut(b, ":")
		id, kept := strings.CutPrefix(id, "v")
		n, err := strconv.ParseInt(id, 10, 64)
		q, err2 := url.ParseQuery(asked)
		if err != nil || err2 != nil {
			continue
		}
		bakes = append(bakes, plannedBake{n, kept, q})
	}
	return bakes
}

// planAddress is the address of a plan for several bakes.
func planAddress(bakes []plannedBake) string {
	v := url.Values{}
	for _, b := range bakes {
		v.Add("b", b.code())
	}
	return "/plans?" + v.Encode()
}

// planQuery is what of an address or a form belongs to a plan.
func planQuery(from url.Values, bakes []plannedBake) url.Values {
	out := url.Values{}
	for _, name := range planFields {
		if values := from[name]; len(values) > 0 && name != "b" {
			out[name] = values
		}
	}
	for _, b := range bakes {
		out.Add("b", b.code())
	}
	return out
}

// nth is a field of a bake, of those that stand once for each.
func nth(query url.Values, name string, n int) string {
	if list := query[name]; n < len(list) {
		return strings.TrimSpace(list[n])
	}
	return ""
}

// setNth sets a field of a bake.
func setNth(query url.Values, name string, n int, to string) {
	list := slices.Clone(query[name])
	for len(list) <= n {
		list = append(list, "")
	}
	list[n] = to
	query[name] = list
}

// moveMeal puts the meal of a plan to another time; what is eaten at its own time moves with it.
func moveMeal(query url.Values, to string) {
	t, err := formTime(to)
	if err != nil {
		return
	}
	was, err := formTime(query.Get("eat"))
	query.Set("eat", to)
	if err != nil {
		return
	}
	for n, own := range query["p-at"] {
		if at, err := formTime(own); err == nil {
			setNth(query, "p-at", n, at.Add(t.Sub(was)).Format(timeForm))
		}
	}
}

// The bounds of a kitchen. Source: practice.
const (
	maxCooks = 9
	coldRoom = 5 // °C
	hotRoom  = 45
)

// timeForm is how a form writes a time of the household's zone.
const timeForm = "2006-01-02T15:04"

func formTime(s string) (time.Time, error) { return time.ParseInLocation(timeForm, s, time.Local) }

// planAsked reads when and with what; what cannot be used is said, at its place.
func (s *Server) planAsked(v *planView, query url.Values, now time.Time) (k plan.Kitchen, eat time.Time) {
	day := s.home.Day
	k = plan.Kitchen{Now: now, Pins: map[string]time.Time{}}
	or := func(name, usual string) string {
		if x := strings.TrimSpace(query.Get(name)); x != "" {
			return x
		}
		return usual
	}
	v.Eat = or("eat", now.AddDate(0, 0, 1).Format(time.DateOnly)+"T09:00")
	v.EatWords = v.Eat
	v.From, v.To = or("from", orHour(day.From, "06:00")), or("to", orHour(day.To, "22:30"))
	v.Cooks = field{ID: "cooks", Words: "Cooks", Mode: "numeric", Size: 2, Value: or("cooks", strconv.Itoa(max(1, day.Cooks)))}
	eat, err := formTime(v.Eat)
	if err != nil {
		v.Faults = append(v.Faults, phrase.Sentence(fmt.Sprintf("“%s” is no time: %v", phrase.Clip(v.Eat, 20), plan.ErrNoReady)))
	}
	if err == nil {
		v.EatWords = eat.Format("Monday 2 January, 15:04")
	}
	if n, err := strconv.Atoi(v.Cooks.Value); err == nil && n >= 1 && n <= maxCooks {
		k.Cooks = n
	} else {
		k.Cooks = 1
		v.Cooks.Fault = fmt.Sprintf("“%s” cannot be the number of cooks: try 1 to %d", phrase.Clip(v.Cooks.Value, 10), maxCooks)
	}
	k.Room = day.Room
	kitchen := s.kit.Kitchen
	v.Room = field{ID: "room", Words: "kitchen", Unit: kitchen.Degrees(), Mode: "decimal", Size: 3, Value: strings.TrimSpace(query.Get("room")), Hint: degreesOnly(kitchen, orRoom(day.Room))}
	if v.Room.Value != "" {
		if t, ok := roomTyped(v.Room.Value, kitchen); ok {
			k.Room = t
		} else {
			v.Room.Fault = noRoom(v.Room.Value, kitchen)
		}
	}
	k.Awake = [2]string{v.From, v.To}
	if k.Away, err = plan.ParseAway(day.Away); err == nil && day.Away != "" {
		v.Away = day.Away
	}
	for _, pin := range query["pin"] {
		key, at, _ := strings.Cut(pin, "@")
		if t, err := formTime(at); err == nil {
			k.Pins[key] = t
		}
	}
	return k, eat
}

func orHour(hour, usual string) string {
	if hour == "" {
		return usual
	}
	return hour
}

func orRoom(t measure.Celsius) measure.Celsius {
	if t == 0 {
		return yeast.Usual
	}
	return t
}

// degreesOnly is a temperature without its scale.
func degreesOnly(k measure.Kitchen, t measure.Celsius) string {
	return strings.TrimSuffix(strings.TrimSuffix(k.Temperature(t), " °C"), " °F")
}

// roomTyped reads how warm a kitchen is.
func roomTyped(s string, k measure.Kitchen) (measure.Celsius, bool) {
	t, ok := measure.ParseTemperature(s, k.Fahrenheit)
	return t, ok && t >= coldRoom && t <= hotRoom
}

func noRoom(s string, k measure.Kitchen) string {
	return fmt.Sprintf("“%s” is not how warm a kitchen is: try %s", phrase.Clip(s, 10), k.Temperature(21))
}

// options lays what is asked of each bake over them, and shows it. Each bake is ready when the
// meal is, unless it says its own time.
func (v *planView) options(todo []plan.Bake, bakes []plannedBake, eat time.Time, ovens []store.Oven, query url.Values) {
	if len(todo) != len(bakes) { // one cannot be baked: nothing is planned, and what is asked of them stays
		for _, name := range []string{"p-serve", "p-oven", "p-rise", "p-at"} {
			for _, value := range query[name] {
				v.Hidden = append(v.Hidden, hidden{name, value})
			}
		}
		return
	}
	for n := range todo {
		b, row := &todo[n], planBake{Name: todo[n].Name, Code: bakes[n].code(), At: nth(query, "p-at", n)}
		b.Ready = eat
		if row.At != "" {
			t, err := formTime(row.At)
			switch {
			case err != nil:
				row.Fault = fmt.Sprintf("“%s” is no time: try %s", phrase.Clip(row.At, 20), v.Eat)
			default:
				b.Ready = t
			}
		}
		b.Serve, b.Oven, b.Retard = plan.Serve(nth(query, "p-serve", n)), nth(query, "p-oven", n), plan.Retard(nth(query, "p-rise", n))
		for _, x := range plan.Serves {
			row.Serves = append(row.Serves, choice{string(x.ID), x.Words, x.ID == b.Serve})
		}
		if len(ovens) > 1 {
			row.Ovens = append(row.Ovens, choice{"", "any oven", b.Oven == ""})
			for _, o := range ovens {
				row.Ovens = append(row.Ovens, choice{o.Name, o.Name, o.Name == b.Oven})
			}
		}
		if b.Rises() {
			for _, x := range plan.Retards {
				row.Rises = append(row.Rises, choice{string(x.ID), x.Words, x.ID == b.Retard})
			}
		}
		v.Bakes = append(v.Bakes, row)
	}
}
