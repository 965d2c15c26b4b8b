package web

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// eaten is a recipe before and after with what of it is eaten at once.
type eaten struct {
	was, now nutrition.Total
	recipe   *recipe.Recipe
	larder   *larder.Larder
	servings int
	law      nutrition.Law
}

// share is what of the whole a serving is.
func (e eaten) share() float64 { return 1 / float64(e.servings) }

// gaps are the lines that could add to a figure and are not counted.
func (e eaten) gaps(id string) []nutrition.Gap {
	row, ok := nutrition.RowOf(map[string]string{"energy-kj": "energy", "sodium": "salt"}[id])
	if !ok {
		row, ok = nutrition.RowOf(id)
	}
	if !ok {
		row = nutrition.Rows[0]
	}
	return nutrition.Gaps(e.recipe, e.larder, row)
}

func (s *Server) nutritionView(
	id int64, title string, written *recipe.Recipe, req adapt.Request, res *adapt.Result, law nutrition.Law,
	slice string,
) nutritionView {
	l := s.kit.Larder
	e := eaten{nutrition.Sum(written, l), nutrition.Sum(res.Recipe, l), res.Recipe, l, max(1, res.Recipe.Servings), law}
	code := req.Values()
	at := func(name string, extra ...string) string {
		q := maps.Clone(code)
		for n := 0; n+1 < len(extra); n += 2 {
			q.Set(extra[n], extra[n+1])
		}
		return recipeURL(id, name, q.Encode())
	}
	v := nutritionView{
		ID: id, Title: title, Rail: rail(id, "adapt", code.Encode()), Verdict: verdictOf(res.Verdict), For: s.requestWords(req), Law: law,
		Back: at("adapt"),
		Card: at("tablecard"), Sticker: at("tablecard", "size", "sticker"), Read: recipeURL(id, "read", ""),
		Gaps: openWords(res), Unread: res.Verdict.Open(), Counts: countsOf(res),
		Serving: fmt.Sprintf("1 of %d, %s as baked", e.servings, measure.Grams(e.now.Baked*e.share())),
		Rows:    e.rows(), Net: e.net(), Claims: nutrition.Claims(e.was, e.now, e.servings, e.gaps), Ingredients: listed(res.Recipe, l),
		Slice: mySlice(slice, e.now, tinOf(res), e.gaps("carbohydrate")),
	}
	for _, x := range []struct {
		law   nutrition.Law
		words string
	}{{nutrition.EU, "EU label"}, {nutrition.US, "US label"}} {
		v.Laws = append(v.Laws, railItem{x.words, at("nutrition", "law", string(x.law)), x.law == law, ""})
	}
	for name, values := range code {
		for _, val := range values {
			v.Hidden = append(v.Hidden, hidden{name, val})
		}
	}
	v.Hidden = append(v.Hidden, hidden{"law", string(law)})
	for _, r := range v.Rows {
		if r.ID == "energy" {
			v.Headline = r.Now + " kcal a serving"
		}
	}
	if a := e.now.Facts[larder.Alcohol] * e.share(); a >= 0.05 {
		v.Alcohol = fmt.Sprintf("%.1f g of alcohol is left in a serving", a)
	}
	return v
}

// rows are the figures of the label, with what could add to one and what brings it.
func (e eaten) rows() []nutritionRow {
	before, per100, batch := e.was.Label(e.law, e.share()), e.now.Label(e.law, e.now.Of100()), e.now.Label(e.law, 1)
	text := func(rows []nutrition.LabelRow, id string) string {
		for _, r := range rows {
			if r.ID == id {
				return r.Text
			}
		}
		return "0"
	}
	var out []nutritionRow
	for _, r := range e.now.Label(e.law, e.share()) {
		row := nutritionRow{
			ID: r.ID, Name: r.Name, Unit: r.Unit, Sub: r.Sub,
			Was: text(before, r.ID), Now: r.Text, Per100: text(per100, r.ID), Batch: text(batch, r.ID),
			Exact: fmt.Sprintf("%s ± %s", measure.Digits(r.Exact, 3), measure.Digits(r.Plus, 1)),
		}
		if r.Daily >= 0.5 {
			row.Daily = fmt.Sprintf("%.0f %%", r.Daily)
		}
		if len(e.gaps(r.ID)) > 0 {
			row.Was, row.Now = atLeast+row.Was, atLeast+row.Now
			for _, text := range []*string{&row.Per100, &row.Batch, &row.Exact, &row.Daily} {
				if *text != "" {
					*text = "≥ " + *text // the columns are narrow
				}
			}
		}
		if r.Known < 0.995 {
			row.Known = fmt.Sprintf("known for %.0f %% of the weight", 100*r.Known)
			if r.Known < 0.5 {
				row.Was, row.Now, row.Per100, row.Batch, row.Daily = "not known", "not known", "not known", "not known", ""
			}
		}
		if t, ok := nutrition.RowOf(r.ID); ok {
			for _, term := range nutrition.Figure(e.recipe, e.larder, t).Largest(6) {
				row.Why = append(row.Why, termRow{term.ID, term.Name, nutrientText(t.ID, term.Value) + " " + t.Unit})
			}
		}
		out = append(out, row)
	}
	return out
}

// net is the net carbohydrate a serving by each way of counting it.
func (e eaten) net() []netRow {
	var out []netRow
	was := e.was.Net(e.share())
	for n, x := range e.now.Net(e.share()) {
		row := netRow{"(" + x.ID + ") " + x.Words, fmt.Sprintf("%.1f", was[n].Grams), fmt.Sprintf("%.1f g", x.Grams)}
		if len(e.gaps("net-carb")) > 0 {
			row.Was, row.Now = atLeast+row.Was, atLeast+row.Now
		}
		out = append(out, row)
	}
	return out
}

// listed is the list of ingredients as a label has it.
func listed(r *recipe.Recipe, l *larder.Larder) []listedView {
	var out []listedView
	list := nutrition.List(r, l)
	for n, e := range list {
		var off []string
		if e.Unread {
			off = append(off, "not understood: it could hold anything")
		}
		if len(e.Allergens) > 0 {
			off = append(off, cerealByName(e.Allergens))
		}
		if len(e.Check) > 0 {
			off = append(off, "read the label for "+cerealByName(e.Check))
		}
		out = append(out, listedView{Name: e.Name, Last: n == len(list)-1, Allergens: strings.Join(off, "; ")})
	}
	return out
}

// cerealByName lists allergens, the cereal by its own name where it is known, as a
// list of ingredients has it.
func cerealByName(ids []string) string {
	var out []string
	for _, a := range ids {
		if a == "gluten" && slices.Contains(ids, "wheat") {
			continue
		}
		out = append(out, larder.AllergenWords(a))
	}
	return strings.Join(out, ", ")
}

// mySlice works out the carbohydrate of a slice of that weight, and the slice that
// holds 15 g. With a line that is not counted it says no more than "at least", and no
// slice for a dose.
func mySlice(typed string, t nutrition.Total, in tin.Tin, gaps []nutrition.Gap) sliceOfMine {
	v := sliceOfMine{
		field: field{
			ID: "slice", Words: "My slice weighs", Unit: "g", Hint: "62", Mode: "decimal", Size: 5,
			Value: strings.TrimSpace(typed),
		},
	}
	per100, plus := 0.0, 0.0
	for _, r := range t.Label(nutrition.EU, t.Of100()) {
		if r.ID == "carbohydrate" && r.Exact > 0 {
			per100, plus = r.Exact, math.Hypot(r.Plus/r.Exact, 0.02) // and the slice on the scale
		}
	}
	least := ""
	if len(gaps) > 0 {
		least = atLeast
		v.Says = append(
			v.Says, notCounted(gaps)+" Nobody can be told how much carbohydrate a slice holds before that is settled.",
		)
	} else if per100 > 0 {
		v.Says = append(v.Says, fmt.Sprintf("15 g of carbohydrate are in %s of it, %s %% of the whole%s.", measure.Grams(1500/per100), measure.Digits(100*1500/per100/t.Baked, 2), cut(in, 1500/per100/t.Baked)))
	}
	if v.Value == "" {
		return v
	}
	x, err := measure.ParseDecimal(v.Value, "g")
	if err != nil || !(x > 0 && x <= 5000) {
		v.Fault = fmt.Sprintf("“%s” is no weight of a slice: try 62", v.Value)
		return v
	}
	v.Says = append(
		[]string{
			fmt.Sprintf(
				"A slice of %s holds %s%.1f g of carbohydrate, ± %s%s.", measure.Grams(x), least, per100*x/100,
				measure.Digits(plus*per100*x/100, 1), cut(in, x/t.Baked),
			),
		},
		v.Says...)
	return v
}

// cut says how thick a share of the bake is, as the rest of a sentence.
func cut(in tin.Tin, share float64) string {
	if words := in.Slice(share); words != "" {
		return ": " + words
	}
	return ""
}

// tinOf is the tin that a bake is worked out for, empty where there is none.
func tinOf(res *adapt.Result) tin.Tin {
	if res.Bake == nil {
		return tin.Tin{}
	}
	return res.Bake.Fill.Tin
}

// tableCardView is what stands beside the bake on the table.
type tableCardView struct {
	nutritionView
	Size   string // a6 or sticker
	Sheet  bool   // as many as a sheet holds
	Copies []struct{}
	Long   bool // so much is listed that it is set smaller
	Sizes  []choice
}

// openWords says what the figures leave out, and what must not be in it as it stands.
func openWords(res *adapt.Result) string {
	words := notCounted(res.Gaps)
	if len(res.Verdict.Stops) > 0 {
		words = strings.TrimSpace(res.Verdict.Words + " " + words)
	}
	return words
}
