package web

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/tin"
)

// nutritionView is all that a recipe holds, by serving, by 100 g and whole.
type nutritionView struct {
	ID          int64
	Title       string
	Rail        []railItem
	Verdict     verdictView
	For         string // what it was adapted to
	Law         nutrition.Law
	Laws        []railItem
	Back        string
	Headline    string
	Counts      []countView
	Serving     string // "1 of 10, 88 g as baked"
	Rows        []nutritionRow
	Net         []netRow
	Claims      []nutrition.Claim
	Ingredients []listedView
	Slice       sliceOfMine
	Hidden      []hidden
	Card        string // addresses of what can be printed
	Sticker     string
	Alcohol     string
	Gaps        string // lines that the figures leave out, as a sentence
	Unread      bool   // a line was not understood: no label, no claim, no card
	Read        string // address where it is settled
}

type nutritionRow struct {
	Name, Unit                     string
	Sub                            bool
	Was, Now, Per100, Batch, Exact string
	Daily                          string
	Known                          string // "known for 82 % of the weight", "" for all
	Why                            []termRow
}

type netRow struct{ Words, Was, Now string }

type listedView struct {
	Name      string
	Allergens string // set off
	Last      bool
}

// sliceOfMine is the carbohydrate of one person's own slice.
type sliceOfMine struct {
	Grams, Fault string
	Words        []string
}

func (s *Server) nutrition(c *gin.Context) error {
	query := c.Request.URL.Query()
	r, req, _, res, err := s.loadBench(c, query)
	if err != nil {
		return err
	}
	h := s.home
	law := nutrition.EU
	if h.Labels == "us" {
		law = nutrition.US
	}
	switch asked := nutrition.Law(query.Get("law")); asked {
	case nutrition.EU, nutrition.US:
		law = asked
	}
	v := s.nutritionView(r.ID, r.Title, scaledWritten(r.Doc, req), req, res, law, query.Get("slice"))
	s.show(c, http.StatusOK, "nutrition", page{Title: r.Title, Nav: "shelf", Script: "page", View: v})
	return nil
}

func (s *Server) nutritionView(id int64, title string, written *recipe.Recipe, req adapt.Request, res *adapt.Result, law nutrition.Law, slice string) nutritionView {
	code := req.Values()
	at := func(name string, extra ...string) string {
		q := url.Values{}
		for k, vs := range code {
			q[k] = vs
		}
		for n := 0; n+1 < len(extra); n += 2 {
			q.Set(extra[n], extra[n+1])
		}
		return recipeURL(id, name, q.Encode())
	}
	v := nutritionView{ID: id, Title: title, Rail: rail(id, "adapt", code.Encode()), Verdict: verdictOf(res.Verdict), For: s.requestWords(req), Law: law, Back: at("adapt"), Card: at("tablecard"), Sticker: at("tablecard", "size", "sticker")}
	for _, x := range []struct {
		law   nutrition.Law
		words string
	}{{nutrition.EU, "EU label"}, {nutrition.US, "US label"}} {
		v.Laws = append(v.Laws, railItem{x.words, at("nutrition", "law", string(x.law)), x.law == law})
	}
	for name, values := range code {
		for _, val := range values {
			v.Hidden = append(v.Hidden, hidden{name, val})
		}
	}
	v.Hidden = append(v.Hidden, hidden{"law", string(law)})
	was, now := nutrition.Sum(written, s.kit.Larder), nutrition.Sum(res.Recipe, s.kit.Larder)
	n := max(1, res.Recipe.Servings)
	v.Gaps, v.Unread, v.Read = notCounted(res.Gaps), len(res.Verdict.Unread) > 0, recipeURL(id, "read", "")
	gaps := func(id string) []nutrition.Gap {
		row, ok := nutrition.RowOf(map[string]string{"energy-kj": "energy", "sodium": "salt"}[id])
		if !ok {
			row, ok = nutrition.RowOf(id)
		}
		if !ok {
			row = nutrition.Rows[0]
		}
		return nutrition.Gaps(res.Recipe, s.kit.Larder, row)
	}
	share := 1 / float64(n)
	wasShare := 1 / float64(n)
	v.Serving = fmt.Sprintf("1 of %d, %s as baked", n, measure.Grams(now.Baked*share))
	v.Counts = countsOf(res)
	terms := map[string]nutrition.Row{}
	for _, row := range nutrition.Rows {
		terms[row.ID] = row
	}
	before, after, per100, batch := was.Label(law, wasShare), now.Label(law, share), now.Label(law, now.Of100()), now.Label(law, 1)
	text := func(rows []nutrition.LabelRow, id string) string {
		for _, r := range rows {
			if r.ID == id {
				return r.Text
			}
		}
		return "0"
	}
	for _, r := range after {
		row := nutritionRow{Name: r.Name, Unit: r.Unit, Sub: r.Sub, Was: text(before, r.ID), Now: r.Text, Per100: text(per100, r.ID), Batch: text(batch, r.ID), Exact: fmt.Sprintf("%s ± %s", measure.Digits(r.Exact, 3), measure.Digits(r.Plus, 1))}
		if r.Daily >= 0.5 {
			row.Daily = fmt.Sprintf("%.0f %%", r.Daily)
		}
		if len(gaps(r.ID)) > 0 {
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
		if t, ok := terms[r.ID]; ok {
			for _, term := range nutrition.Figure(res.Recipe, s.kit.Larder, t).Largest(6) {
				row.Why = append(row.Why, termRow{term.ID, term.Name, nutrientText(t.ID, term.Value) + " " + t.Unit})
			}
		}
		v.Rows = append(v.Rows, row)
		if r.ID == "energy" {
			v.Headline = row.Now + " kcal a serving"
		}
	}
	wasNet := was.Net(wasShare)
	for k, x := range now.Net(share) {
		row := netRow{"(" + x.ID + ") " + x.Words, fmt.Sprintf("%.1f", wasNet[k].Grams), fmt.Sprintf("%.1f g", x.Grams)}
		if len(gaps("net-carb")) > 0 {
			row.Was, row.Now = atLeast+row.Was, atLeast+row.Now
		}
		v.Net = append(v.Net, row)
	}
	v.Claims = nutrition.Claims(was, now, n, gaps)
	list := nutrition.List(res.Recipe, s.kit.Larder)
	for k, e := range list {
		lv := listedView{Name: e.Name, Last: k == len(list)-1}
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
		lv.Allergens = strings.Join(off, "; ")
		v.Ingredients = append(v.Ingredients, lv)
	}
	if a := now.Facts[larder.Alcohol] * share; a >= 0.05 {
		v.Alcohol = fmt.Sprintf("%.1f g of alcohol is left in a serving", a)
	}
	v.Slice = mySlice(slice, now, tinOf(res), gaps("carbohydrate"))
	return v
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
	v := sliceOfMine{Grams: strings.TrimSpace(typed)}
	per100, plus := 0.0, 0.0
	for _, r := range t.Label(nutrition.EU, t.Of100()) {
		if r.ID == "carbohydrate" && r.Exact > 0 {
			per100, plus = r.Exact, math.Hypot(r.Plus/r.Exact, 0.02) // and the slice on the scale
		}
	}
	least := ""
	if len(gaps) > 0 {
		least = atLeast
		v.Words = append(v.Words, notCounted(gaps)+" Nobody can be told how much carbohydrate a slice holds before that is settled.")
	} else if per100 > 0 {
		v.Words = append(v.Words, fmt.Sprintf("15 g of carbohydrate are in %s of it, %s %% of the whole%s.", measure.Grams(1500/per100), measure.Digits(100*1500/per100/t.Baked, 2), cut(in, 1500/per100/t.Baked)))
	}
	if v.Grams == "" {
		return v
	}
	x, err := measure.ParseDecimal(v.Grams, "g")
	if err != nil || !(x > 0 && x <= 5000) {
		v.Fault = fmt.Sprintf("“%s” is no weight of a slice: try 62", v.Grams)
		return v
	}
	v.Words = append([]string{fmt.Sprintf("A slice of %s holds %s%.1f g of carbohydrate, ± %s%s.", measure.Grams(x), least, per100*x/100, measure.Digits(plus*per100*x/100, 1), cut(in, x/t.Baked))}, v.Words...)
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

// tableCard is a card for the table, or a sticker for a tub.
func (s *Server) tableCard(c *gin.Context) error {
	query := c.Request.URL.Query()
	r, req, _, res, err := s.loadBench(c, query)
	if err != nil {
		return err
	}
	v := tableCardView{nutritionView: s.nutritionView(r.ID, r.Title, scaledWritten(r.Doc, req), req, res, nutrition.EU, ""), Size: "a6"}
	if query.Get("size") == "sticker" {
		v.Size = "sticker"
	}
	if v.Unread { // a card that others eat by is not made of guesses
		s.show(c, http.StatusUnprocessableEntity, "tablecard", page{Title: r.Title, Nav: "shelf", View: v})
		return nil
	}
	s.show(c, http.StatusOK, "tablecard", page{Title: r.Title, Nav: "shelf", Script: "card", View: v})
	return nil
}

// tableCardView is what stands beside the bake on the table.
type tableCardView struct {
	nutritionView
	Size string // a6 or sticker
}
