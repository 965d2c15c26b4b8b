package web

import (
	"fmt"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// mostWaysOut is how many ways out of a refusal are offered.
const mostWaysOut = 5

// waysOut are requests near a refused one that can be had, each with what it would mean.
func (s *Server) waysOut(c *gin.Context, id int64, doc *recipe.Recipe, req adapt.Request) ([]link, error) {
	type try struct {
		words string
		req   adapt.Request
	}
	var tries []try
	without := func(words string, change func(*adapt.Request)) {
		q := req
		change(&q)
		tries = append(tries, try{words, q})
	}
	if req.Stock {
		without("Buy", func(q *adapt.Request) { q.Stock = false })
	}
	if len(req.Swaps) > 0 || len(req.Holds) > 0 {
		without("Let Kollaris choose the ways and amounts", func(q *adapt.Request) { q.Swaps, q.Holds = map[string]string{}, nil })
	}
	for n, l := range req.Limits {
		without(fmt.Sprintf("Without at most %g %s %s", l.Max, l.What.Unit(), l.What.Words()), func(q *adapt.Request) { q.Limits = slices.Delete(slices.Clone(q.Limits), n, n+1) })
	}
	for n, d := range req.Diets {
		without("Without "+string(d), func(q *adapt.Request) { q.Diets = slices.Delete(slices.Clone(q.Diets), n, n+1) })
	}
	for n, b := range req.Bans {
		without("Though it may hold "+strings.ToLower(diet.BanWords(b)), func(q *adapt.Request) { q.Bans = slices.Delete(slices.Clone(q.Bans), n, n+1) })
	}
	if s.seats != nil {
		for _, p := range s.seats.people {
			if slices.Contains(req.For, p.ID) {
				without("Without "+p.Name+" at this table", func(q *adapt.Request) {
					q.For = slices.DeleteFunc(slices.Clone(q.For), func(id int64) bool { return id == p.ID })
					q.Theirs = diet.Demand{}
				})
			}
		}
	}
	var out []link
	for _, t := range tries {
		if len(out) == mostWaysOut {
			break
		}
		if err := s.eaters(c, &t.req); err != nil { // what those that are left must have
			return nil, err
		}
		res, err := adapt.Adapt(doc, t.req, s.kit)
		if err != nil {
			return nil, err
		}
		if res.Refused != nil {
			continue
		}
		words := t.words
		if words == "Buy" {
			missing := s.notInTheHouse(doc, res)
			if len(missing) == 0 {
				continue
			}
			words += " " + phrase.And(missing)
		}
		changes := res.Swaps()
		switch {
		case len(changes) == 0:
			words += ": nothing has to change"
		case len(changes) > 3:
			words += ": " + strings.Join(changes[:3], ", ") + " …"
		default:
			words += ": " + strings.Join(changes, ", ")
		}
		out = append(out, link{recipeURL(id, "adapt", t.req.Values().Encode()), words})
	}
	return out, nil
}

// notInTheHouse are the amounts that came in and are neither in stock nor in the written recipe, each named once.
func (s *Server) notInTheHouse(doc *recipe.Recipe, res *adapt.Result) []string {
	grams := map[string]float64{}
	var names []string
	for _, l := range res.Recipe.Lines {
		i := s.kit.Larder.Get(l.Ingredient)
		if i == nil || l.Grams <= 0 || i.ID == "water" || i.Pack != nil && i.Pack.Stock > 0 ||
			slices.ContainsFunc(doc.Lines, func(w recipe.Line) bool { return w.Ingredient == l.Ingredient }) {
			continue
		}
		if grams[i.Name] == 0 {
			names = append(names, i.Name)
		}
		grams[i.Name] += l.Grams
	}
	for n, name := range names {
		names[n] = measure.Grams(grams[name]).String() + " " + name
	}
	return names
}
