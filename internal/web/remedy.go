package web

import (
	"maps"
	"math"
	"slices"

	"kollaris/core/adapt"
	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
)

// remedy is the amount to hold that would bring a sum back, where one does: of what brings it most. Nil where none helps.
func (s *Server) remedy(id int64, doc *recipe.Recipe, req adapt.Request, res *adapt.Result, sum adapt.Sum) *link {
	var food larder.ID
	per := 1.0 // of the sum, a gram of it
	switch sum.ID {
	case "lift":
		food, per = "baking-powder", balance.PowderGas
	case "acid":
		food, per = "baking-soda", 1/balance.SodaGrams(1)
	case "salt":
		food = "salt"
	case "water":
		food, per = mostOf(res, s.kit.Larder, func(i *larder.Ingredient) float64 { return i.Facts[larder.Water] }, larder.FamilyWater, larder.FamilyJuice, "milk", "plant-drink", "cultured", "liquid")
	case "fat":
		food, per = mostOf(res, s.kit.Larder, func(i *larder.Ingredient) float64 { return i.Facts[larder.Fat] }, "butter", larder.FamilyOil, larder.FamilySolidFat, larder.FamilySpread, "plant-block")
	}
	i := s.kit.Larder.Get(food)
	if i == nil || per <= 0 {
		return nil
	}
	now := 0.0
	for _, l := range res.Recipe.Batter() {
		if l.Ingredient == food {
			now += l.Grams
		}
	}
	want := math.Round(10*math.Max(0, now-sum.Miss/per)) / 10
	if want > 20 {
		want = math.Round(want)
	}
	q := req
	q.Holds = maps.Clone(req.Holds)
	if q.Holds == nil {
		q.Holds = map[larder.ID]float64{}
	}
	q.Holds[food] = want
	then, err := adapt.Judged(doc, q, s.kit)
	if err != nil || then.Refused != nil || want == now {
		return nil
	}
	at := slices.IndexFunc(then.Sums, func(x adapt.Sum) bool { return x.ID == sum.ID })
	if at < 0 || math.Abs(then.Sums[at].Miss) > 0.5*math.Abs(sum.Miss) {
		return nil
	}
	words := measure.Grams(want).String() + " " + i.Name
	if now > 0 {
		words += " instead of " + measure.Grams(now).String()
	}
	return &link{recipeURL(id, "adapt", q.Values().Encode()), "Take " + words}
}

// mostOf is the food of some families that a result holds most of, and what a gram of it brings of a figure.
func mostOf(res *adapt.Result, l *larder.Larder, of func(*larder.Ingredient) float64, families ...larder.Family) (food larder.ID, per float64) {
	most := 0.0
	for _, ln := range res.Recipe.Batter() {
		if i := l.Get(ln.Ingredient); i != nil && slices.Contains(families, i.Family) && ln.Grams > most {
			most, food, per = ln.Grams, i.ID, of(i)/100
		}
	}
	return food, per
}
