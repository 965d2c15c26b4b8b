package web

import (
	"errors"
	"fmt"
	"maps"
	"math"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
	"kollaris/core/phrase"
	"kollaris/core/swap"
	"kollaris/core/sweet"
)

// sweetenView is the sweetener calculator.
type sweetenView struct {
	Was, WasFault string
	Uses, Matches []checkbox
	With          []candidateGroup
	Fields        []field // servings, water, polyols, net carbohydrate, sugars
	Hidden        []hidden
	Recipe        string // whose sugar it is, "" for none
	Back          string
	Fault         string
	Blend         *blendView
	Alone         []aloneRow
	By            string
	Fruits        []fruitRow
}

// candidateGroup is a shelf of what a blend may be made of.
type candidateGroup struct {
	Title string
	Of    []candidateView
}

type candidateView struct {
	ID, Words, Note string
	On              bool
	Shut            string // why the people it is for cannot have it
}

type blendView struct {
	For       string // "200 g granulated sugar"
	Parts     []blendPart
	Missed    []string
	Rows      []blendRow
	Effects   []effectView
	Dilutions []string
	Put       string // address that puts it in the recipe
	Capped    *link  // a limit that was not asked for, with the way to take it off
}

type blendPart struct{ Grams, Name, Measure string }

type blendRow struct{ Name, Was, Now, Each string }

type effectView struct{ State, Icon, Words, Source string }

type aloneRow struct{ ID, Name, Grams, Measure, Sugars, Net, Energy, Bulk, Note, Shut string }

type fruitRow struct{ ID, Name, State, Sugars, As, Say, Source string }

// effectsOf are effects as the pages print them, what stops first.
func effectsOf(es []sweet.Effect) []effectView {
	var out []effectView
	for _, state := range []sweet.State{sweet.Stop, sweet.Look, sweet.Fine} {
		for _, e := range es {
			if e.State == state {
				icon := map[sweet.State]string{sweet.Fine: "check-circle-fill", sweet.Look: "exclamation-triangle-fill", sweet.Stop: "x-octagon-fill"}[e.State]
				out = append(out, effectView{string(e.State), icon, phrase.Capital(e.Words), e.Source.Words()})
			}
		}
	}
	return out
}

// uses offers what is sweetened, and returns what was chosen.
func (v *sweetenView) uses(chosen string) sweet.Use {
	use := sweet.Batter
	for _, u := range sweet.Uses {
		if chosen == string(u.ID) {
			use = u.ID
		}
	}
	for _, u := range sweet.Uses {
		v.Uses = append(v.Uses, checkbox{ID: string(u.ID), Words: u.Words, On: u.ID == use})
	}
	return use
}

// matches offers what the blend has to equal, and returns what was chosen.
func (v *sweetenView) matches(chosen string) sweet.Match {
	match := sweet.Both
	ways := []struct {
		id    sweet.Match
		words string
	}{{sweet.Both, "as sweet, and four fifths of the bulk"}, {sweet.BySweetness, "as sweet"}, {sweet.ByBulk, "as much bulk"}}
	for _, m := range ways {
		if chosen == string(m.id) {
			match = m.id
		}
	}
	for _, m := range ways {
		v.Matches = append(v.Matches, checkbox{ID: string(m.id), Words: m.words, On: m.id == match})
	}
	return match
}

// candidates offers what sweetens, by shelf, what the demand shuts out locked; it returns
// what was ticked.
func (v *sweetenView) candidates(with []string, demand diet.Demand, l *larder.Larder) []*larder.Ingredient {
	var ticked []*larder.Ingredient
	v.With = []candidateGroup{{Title: "Sugar by any name"}, {Title: "Bulk sweeteners and fillers"}, {Title: "Extracts"}}
	for _, t := range sweet.Tastes() {
		i := l.Get(t.ID)
		if i == nil {
			continue
		}
		row := candidateView{ID: string(i.ID), Words: i.Name, Note: t.Note, On: slices.Contains(with, string(i.ID))}
		if judged, why := demand.Judge(i); judged == diet.Breaks {
			row.Shut, row.On = why.Words(), false
		}
		if row.On {
			ticked = append(ticked, i)
		}
		n := 0
		switch {
		case sweet.IsIntense(i) || i.Family == larder.FamilySweetener:
			n = 2
		case i.Family == larder.FamilyPolyol || i.Family == larder.FamilyFibre || i.ID == "fibre-syrup":
			n = 1
		}
		v.With[n].Of = append(v.With[n].Of, row)
	}
	return ticked
}

// numbers reads the fields of the case and its limits; an empty field asks for none.
func (v *sweetenView) numbers(query url.Values, ask *sweet.Ask) {
	for _, f := range []struct {
		id, words, unit, hint string
		most                  float64
		to                    func(float64)
	}{
		{"serves", "Serves", "", "10", 200, func(x float64) { ask.Servings = int(x) }},
		{"water", "Water in the whole of it", "g", "not known", 20000, func(x float64) { ask.Water = x }},
		{"polyols", "Sugar alcohols a serving at most", "g", measure.Digits(sweet.MostPolyols, 2), 100, func(x float64) { ask.Polyols = x }},
		{"netcarb", "Net carbohydrate a serving at most", "g", "no limit", 100, func(x float64) { ask.NetCarb = x }},
		{"sugars", "Sugars a serving at most", "g", "no limit", 100, func(x float64) { ask.Sugars = x }},
	} {
		row := field{
			ID: f.id, Words: f.words, Unit: f.unit, Hint: f.hint, Mode: "decimal", Size: 6,
			Value: strings.TrimSpace(query.Get(f.id)),
		}
		if row.Value != "" {
			x, err := measure.ParseDecimal(row.Value, f.unit)
			if err != nil || !(x >= 0 && x <= f.most) || f.id == "serves" && x < 1 {
				row.Fault = fmt.Sprintf("“%s” will not do: try a number up to %g.", row.Value, f.most)
			} else {
				f.to(x)
			}
		}
		v.Fields = append(v.Fields, row)
	}
	if ask.Servings == 0 && (ask.NetCarb >= 0 || ask.Sugars >= 0 || ask.Polyols > 0) {
		for n := range v.Fields {
			if v.Fields[n].ID == "serves" && v.Fields[n].Fault == "" {
				v.Fields[n].Fault = "A limit a serving wants to know for how many: try 10."
			}
		}
	}
}

// answer solves the blend and lists each sweetener by itself.
func (v *sweetenView) answer(s *Server, ask sweet.Ask, req adapt.Request, query url.Values) {
	was := ask.Was.Sum()
	by := ask.Match
	v.By = "as sweet"
	if by == sweet.ByBulk {
		v.By = "as much bulk"
	}
	for _, t := range sweet.Tastes() {
		i := s.kit.Larder.Get(t.ID)
		g, ok := sweet.Alone(i, was, by)
		if !ok {
			continue
		}
		sum := sweet.Mix{{Of: i, Grams: g}}.Sum()
		row := aloneRow{
			ID: string(i.ID), Name: i.Name, Grams: gramsText(g), Measure: s.spoons(i, g),
			Sugars: measure.Digits(sum.Sugars, 2), Net: measure.Digits(sum.NetCarb, 2),
			Energy: fmt.Sprintf("%.0f", sum.Energy), Note: t.Note,
		}
		if was.Bulk > 0 {
			row.Bulk = fmt.Sprintf("%.0f %%", 100*sum.Bulk/was.Bulk)
		}
		if judged, why := req.Demand().Judge(i); judged == diet.Breaks {
			row.Shut = why.Words()
		}
		v.Alone = append(v.Alone, row)
	}
	b, err := sweet.Solve(ask)
	if err != nil {
		v.Fault = phrase.Sentence(err.Error())
		if !errors.Is(err, sweet.ErrNothing) && !errors.Is(err, sweet.ErrNoParts) {
			v.Fault = "No blend could be worked out of these: choose others, or loosen a limit."
		}
		return
	}
	bv := &blendView{Missed: b.Missed}
	var names []string
	for _, p := range ask.Was {
		names = append(names, gramsText(p.Grams)+" "+p.Of.Name)
	}
	bv.For = phrase.And(names)
	step := 1.0
	if s.kit.Kitchen.FineScale {
		step = 0.1
	}
	var parts []swap.Part
	for _, p := range b.Mix {
		bv.Parts = append(bv.Parts, blendPart{gramsText(p.Grams), p.Of.Name, s.spoons(p.Of, p.Grams)})
		if d, ok := sweet.Dilute(p.Grams, step); ok && sweet.IsIntense(p.Of) {
			bv.Dilutions = append(
				bv.Dilutions,
				fmt.Sprintf(
					"%s of %s is too little for a scale that shows %g g. Dissolve %s in %s of water (1:%d), take %s of that and hold back as much liquid; a week in the fridge.",
					gramsText(p.Grams), p.Of.Name, step, gramsText(d.Weigh), gramsText(d.Water), d.Ratio,
					gramsText(d.Take),
				),
			)
		}
		parts = append(parts, swap.Part{ID: p.Of.ID, Grams: math.Round(1e4*p.Grams/was.Grams) / 100})
	}
	now := b.Sum
	for _, r := range []struct {
		name, unit string
		was, now   float64
	}{{"Sweet as sugar", "g", was.Sweet, now.Sweet}, {"Bulk", "g", was.Bulk, now.Bulk}, {"Sugars", "g", was.Sugars, now.Sugars}, {"Sugar alcohols", "g", was.Polyols, now.Polyols},
		{"Net carbohydrate", "g", was.NetCarb, now.NetCarb}, {"Energy", "kcal", was.Energy, now.Energy}} {
		row := blendRow{Name: r.name, Was: fmt.Sprintf("%.0f", r.was), Now: fmt.Sprintf("%.0f %s", r.now, r.unit)}
		if ask.Servings > 0 {
			row.Each = measure.Digits(r.now/float64(ask.Servings), 2) + " " + r.unit
		}
		bv.Rows = append(bv.Rows, row)
	}
	ask.Brush = sweet.Brush(req.Demand(), s.kit.Larder)
	bv.Effects = effectsOf(sweet.Effects(ask.Was, b.Mix, ask.Case))
	if most := sweet.MostPolyols; ask.Polyols == 0 && ask.Servings > 0 && now.Polyols > 0.97*most*float64(ask.Servings) {
		q := url.Values(maps.Clone(map[string][]string(query)))
		q.Set("polyols", "100")
		bv.Capped = &link{"/sweeten?" + q.Encode(), fmt.Sprintf("Sugar alcohols are kept to %g g a serving, which you did not ask for: above it many guts complain.", most)}
	}
	if id, _ := strconv.ParseInt(query.Get("recipe"), 10, 64); id > 0 && len(parts) > 0 {
		if req.Swaps == nil {
			req.Swaps = map[string]string{}
		}
		key := query.Get("key")
		if key == "" {
			key = "sugar"
		}
		req.Swaps[key] = swap.Mix(parts)
		code := req.Values()
		code.Set("tab", "sweet")
		bv.Put = recipeURL(id, "adapt", code.Encode())
	}
	v.Blend = bv
}

// spoons is a weight by cup and spoon, "" for extracts, which no spoon measures.
func (s *Server) spoons(i *larder.Ingredient, grams float64) string {
	if sweet.IsIntense(i) {
		return ""
	}
	return s.kit.Measure(i, grams)
}

// gramsText writes a weight with the figures that a blend needs: 0.08 g, 4.5 g, 120 g.
func gramsText(g float64) string {
	g = sweet.Round(g)
	if g < 10 {
		return strconv.FormatFloat(math.Round(100*g)/100, 'g', -1, 64) + " g"
	}
	return measure.Grams(g).String()
}

// fruits is the table of fruit that sweetens.
func (v *sweetenView) fruits(l *larder.Larder) {
	for _, f := range sweet.Fruits() {
		i := l.Get(f.ID)
		if i == nil {
			continue
		}
		kind := "its own: total, not added"
		if nutrition.IsAdded(i) {
			kind = "free sugars where purées count (UK); total elsewhere"
		}
		say := f.Say
		if say != "" {
			say += "; "
		}
		v.Fruits = append(
			v.Fruits,
			fruitRow{
				string(i.ID), i.Name, f.State, measure.Digits(f.Factor*i.Facts.Sugars(), 2),
				measure.Digits(100*f.Factor*i.Facts[larder.Sweetness], 2), say + kind, f.Source.Words(),
			},
		)
	}
}
