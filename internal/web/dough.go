package web

import (
	"fmt"
	"net/url"
	"strconv"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/core/yeast"
)

// doughView is the water of a yeast dough: how warm, and what slows its yeast.
type doughView struct {
	Fields []doughField
	Water  string
	Say    []string
}

type doughField struct{ ID, Words, Value, Hint, Fault string }

// doughOf works out the water for the dough's wanted temperature; nil where there
// is no yeast. Temperatures are typed in °C.
func doughOf(res *adapt.Result, l *larder.Larder, asked url.Values) *doughView {
	if k := res.Recipe.Kind; k != recipe.LeanBread && k != recipe.RichBread {
		return nil
	}
	v := &doughView{}
	read := func(id, words string, usual measure.Celsius) measure.Celsius {
		f := doughField{ID: id, Words: words, Value: strings.TrimSpace(asked.Get(id)), Hint: fmt.Sprintf("%g", float64(usual))}
		t := usual
		if f.Value != "" {
			x, err := strconv.ParseFloat(strings.Replace(strings.TrimSuffix(f.Value, "°C"), ",", ".", 1), 64)
			if err != nil || !(x >= 0 && x <= 50) {
				f.Fault = fmt.Sprintf("“%s” is no such temperature: try %g", f.Value, float64(usual))
			} else {
				t = measure.Celsius(x)
			}
		}
		v.Fields = append(v.Fields, f)
		return t
	}
	dough := read("dough", "The dough should be", 26)
	room := read("room", "The room is", 20)
	flour := read("flour", "The flour is", 20)
	water, say := yeast.Water(dough, yeast.ByHand, flour, room)
	v.Water = fmt.Sprintf("%.0f °C", float64(water))
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
