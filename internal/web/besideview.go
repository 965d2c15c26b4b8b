package web

import (
	"cmp"
	"fmt"
	"maps"
	"net/url"
	"slices"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/balance"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
)

// mostBeside is how many versions are laid side by side, beside the written one.
const mostBeside = 3

// besideView lays up to three versions of a recipe beside the written one.
type besideView struct {
	ID      int64
	Title   string
	Rail    []railItem
	Columns []besideColumn
	Span    int // columns of the table
	Groups  []besideGroup
	Held    []string // the requests that are shown, for the form that adds one
	More    []moreWays
}

type besideColumn struct {
	Words, State, Icon string
	Verdict            string
	Adapt, Away        string // addresses: to the bench, and without this column
	Fields             []hidden
	Refused            bool
}

type besideGroup struct {
	Title string
	Rows  []besideRow
}

type besideRow struct {
	Name  string
	Cells []besideCell
}

type besideCell struct {
	Text    string
	Differs bool
}

// moreWays are requests that may be added, by what they change.
type moreWays struct {
	Label   string
	Options []readChoice
}

func besideURL(id int64, codes []string) string {
	return recipeURL(id, "beside", url.Values{"v": codes}.Encode())
}

// requestWords says what a request asks for: "egg-free, with chia gel".
func (s *Server) requestWords(req adapt.Request) string {
	if who := s.whoWords(req); who != "" {
		return who + ", " + s.waysWords(req)
	}
	return s.waysWords(req)
}

// whoWords names those it is for: "for cox and bow"; "" for nobody in particular.
func (s *Server) whoWords(req adapt.Request) string {
	if s.seats == nil {
		return ""
	}
	var who []string
	for _, p := range s.seats.people {
		if slices.Contains(req.For, p.ID) {
			who = append(who, p.Name)
		}
	}
	if len(who) == 0 {
		return ""
	}
	return "for " + phrase.And(who)
}

// waysWords says what is asked of it, without for whom.
func (s *Server) waysWords(req adapt.Request) string {
	words := req.Demand().Words()
	for _, key := range slices.Sorted(maps.Keys(req.Swaps)) {
		id, _, _ := strings.Cut(key, ".") // of a class that is replaced apart
		use := s.kit.Swaps.Use(strings.TrimSuffix(id, "-topping"))
		if use == nil {
			continue
		}
		if sc := use.School(req.Swaps[key]); sc != nil {
			words = append(words, "with "+sc.Title)
		}
	}
	if req.Stock {
		words = append(words, "only from the larder")
	}
	if len(words) == 0 {
		return "as written"
	}
	return strings.Join(words, ", ")
}

// moreWays offers the same request with another school or one more diet.
func (s *Server) moreWays(req adapt.Request, res *adapt.Result) []moreWays {
	var out []moreWays
	diets := moreWays{Label: "one more demand"}
	for _, d := range diet.Diets {
		if !slices.Contains(req.Diets, d.ID) {
			more := req
			more.Diets = append(slices.Clone(req.Diets), d.ID)
			slices.Sort(more.Diets)
			diets.Options = append(diets.Options, readChoice{more.Values().Encode(), "and " + string(d.ID)})
		}
	}
	for _, c := range res.Changes {
		if c.Use == "" {
			continue
		}
		group := moreWays{Label: "instead of " + c.Title}
		for _, o := range c.Options {
			if o.Shut != "" || o.School == c.School {
				continue
			}
			other := req
			other.Swaps = map[string]string{c.Use: o.School}
			for k, v := range req.Swaps {
				if k != c.Use {
					other.Swaps[k] = v
				}
			}
			group.Options = append(group.Options, readChoice{other.Values().Encode(), o.Title})
		}
		if len(group.Options) > 0 {
			out = append(out, group)
		}
	}
	return append(out, diets)
}

// besideGroups are the rows: what goes in, what it adds up to, what a serving
// holds, and what it costs, each cell against the written one.
func besideGroups(results []*adapt.Result, l *larder.Larder, currency string, k measure.Kitchen) []besideGroup {
	row := func(name string, of func(*adapt.Result) string) besideRow {
		r := besideRow{Name: name}
		for _, res := range results {
			text := "—"
			if res.Refused == nil {
				text = cmp.Or(of(res), "—")
			}
			r.Cells = append(r.Cells, besideCell{text, text != cmp.Or(of(results[0]), "—")})
		}
		return r
	}
	first := besideGroup{Title: "At a glance", Rows: []besideRow{
		row("How sure", func(res *adapt.Result) string {
			if len(res.Changes) == 0 {
				return ""
			}
			return confidenceWords(string(res.Confidence))
		}),
		row("New allergens", func(res *adapt.Result) string { _, newly, _ := res.Verdict.Allergens(""); return newly }),
		row("Allergens gone", func(res *adapt.Result) string { _, _, gone := res.Verdict.Allergens(""); return gone }),
		row("Labels to read", func(res *adapt.Result) string { return fmt.Sprint(len(res.Verdict.Labels)) }),
		row("First look", func(res *adapt.Result) string { return bakeOf(res, k).FirstLook }),
		row("Costs", func(res *adapt.Result) string {
			v := costOf(res.Recipe, l, currency)
			if v == nil {
				return ""
			}
			if _, unpriced := balance.Cost(res.Recipe, l); len(unpriced) > 0 {
				return fmt.Sprintf("%s, %d without a price", v.Total, len(unpriced))
			}
			return v.Total
		}),
	}}
	goes := besideGroup{Title: "What goes in"}
	seen := map[larder.ID]bool{}
	for _, res := range results {
		for _, ln := range res.Recipe.Lines {
			if ln.Ingredient == "" || seen[ln.Ingredient] {
				continue
			}
			seen[ln.Ingredient] = true
			goes.Rows = append(
				goes.Rows, row(ln.Name, func(res *adapt.Result) string { return gramsOf(res.Recipe, ln.Ingredient) }),
			)
		}
	}
	sums := besideGroup{Title: "Adds up"}
	for _, s := range results[0].Sums {
		sums.Rows = append(sums.Rows, row(s.Name, func(res *adapt.Result) string {
			n := slices.IndexFunc(res.Sums, func(x adapt.Sum) bool { return x.ID == s.ID })
			switch {
			case n < 0:
				return ""
			case res.Sums[n].Out:
				return res.Sums[n].Words
			}
			return measure.Digits(res.Sums[n].After, 3) + " " + res.Sums[n].Unit
		}))
	}
	slice := besideGroup{Title: "A serving"}
	for _, n := range nutrition.Rows {
		slice.Rows = append(slice.Rows, row(n.Name, func(res *adapt.Result) string {
			text := nutrientText(n.ID, *n.Of(&res.Serving)) + " " + n.Unit
			if len(nutrition.Gaps(res.Recipe, l, n)) > 0 {
				text = atLeast + text
			}
			return text
		}))
	}
	return []besideGroup{first, goes, sums, slice}
}

// gramsOf is what a recipe holds of an ingredient, "" for none.
func gramsOf(r *recipe.Recipe, id larder.ID) string {
	sum, some := 0.0, false
	for _, ln := range r.Lines {
		if ln.Ingredient == id {
			sum, some = sum+ln.Grams, true
		}
	}
	switch {
	case !some:
		return ""
	case sum == 0:
		return "a little"
	}
	return measure.Grams(sum).String()
}
