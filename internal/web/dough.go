package web

import (
	"fmt"
	"net/url"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/yeast"
)

// doughView is the water of a yeast dough: how warm, and what slows its yeast.
type doughView struct {
	Fields   []field
	Water    string
	Unit     string
	Kneading string // what it warms the dough
	Say      []string
}

// doughOf works out the water for the dough's wanted temperature; nil where there
// is no yeast. Temperatures are typed and shown in the household's scale.
func doughOf(res *adapt.Result, l *larder.Larder, asked url.Values, k measure.Kitchen) *doughView {
	if !res.Recipe.Kind.Yeasted() {
		return nil
	}
	v := &doughView{Unit: k.Degrees(), Kneading: k.Warmer(yeast.ByHand)}
	read := func(id, words string, usual measure.Celsius) measure.Celsius {
		hint, _, _ := strings.Cut(k.Temperature(usual), " ")
		f := field{
			ID: id, Words: words, Unit: v.Unit, Mode: "decimal", Size: 4, Value: strings.TrimSpace(asked.Get(id)),
			Hint: hint,
		}
		t := usual
		if f.Value != "" {
			x, ok := measure.ParseTemperature(f.Value, k.Fahrenheit)
			if !ok || !(x >= 0 && x <= 50) {
				f.Fault = fmt.Sprintf("“%s” is no such temperature: try %s", f.Value, hint)
			} else {
				t = x
			}
		}
		v.Fields = append(v.Fields, f)
		return t
	}
	dough := read("dough", "The dough should be", 26)
	room := read("room", "The room is", 20)
	flour := read("flour", "The flour is", 20)
	water, say := yeast.Water(k, dough, yeast.ByHand, flour, room)
	v.Water = k.Temperature(water)
	if say != "" {
		v.Say = append(v.Say, say)
	}
	items := balance.Items(res.Recipe, l)
	b := balance.Add(items)
	lactose := 0.0 // which yeast neither eats nor minds
	for _, it := range items {
		lactose += it.Grams / 100 * it.Ingredient.Facts.Or(larder.Lactose, 0)
	}
	v.Say = append(v.Say, yeast.Slows(b.Per(b.Sugars-lactose), b.Per(b.Salt))...)
	return v
}
