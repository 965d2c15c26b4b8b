package demo

import (
	"context"
	"fmt"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/diet"
	"kollaris/core/doneness"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/plan"
	"kollaris/core/recipe"
	"kollaris/internal/journal"
	"kollaris/internal/photo"
	"kollaris/internal/store"
)

// past is a bake of the season: what was baked how many days ago in which oven, for how long against what was
// foretold, and what was said of it.
type past struct {
	ago      int // days
	of       string
	diets    []diet.ID
	oven     int     // of ovens, by its place
	ratio    float64 // of the time foretold for an oven that tells the truth
	core     float64 // °C of the middle as it came out, above (or below) done
	overall  int
	symptoms []string
	cooled   float64 // hours
	tried    string  // the cause whose change the next bake tries
	helped   string  // the cause whose change helped
	words    string
	picture  *slice
	height   float64 // cm, as it was measured
	spoons   float64 // g of the liquid that went in by the spoon, beside what is written
}

// season is the boathouse's: the old gas oven is learned, and the loaf that was gummy is not any more. All invented.
var season = []past{
	{ago: 84, of: "1-pear-cardamom-loaf.txt", diets: []diet.ID{diet.EggFree, diet.DairyFree}, oven: 0, ratio: 0.86, core: -6, overall: 2, symptoms: []string{"gummy", "wet-line", "dark"}, cooled: 1, tried: "cut-warm", words: "clay in the middle, brown outside", height: 6.1, picture: &slice{high: 0.6, dome: 0.04, open: 40, wet: 0.45, dark: true, seed: 1}},
	{ago: 77, of: "3-cheddar-chive-scones.txt", oven: 1, ratio: 1.02, core: 0.5, overall: 4, words: "gone before the second boat was in"},
	{ago: 70, of: "1-pear-cardamom-loaf.txt", diets: []diet.ID{diet.EggFree, diet.DairyFree}, oven: 0, ratio: 0.88, core: -4, overall: 2, symptoms: []string{"gummy"}, cooled: 4, tried: "underbaked", words: "better cold, still wet below", height: 6.6, picture: &slice{high: 0.66, dome: 0.07, open: 90, wet: 0.2, seed: 2}},
	{ago: 63, of: "6-oat-ginger-biscuits.txt", oven: 0, ratio: 0.87, core: 1, overall: 3, symptoms: []string{"dark", "early"}, words: "three minutes less would do"},
	{ago: 56, of: "4-rye-honey-rolls.txt", oven: 0, ratio: 0.9, core: 1, overall: 3, symptoms: []string{"dense"}, tried: "short-proof", words: "the hall was cold", spoons: 18},
	{ago: 49, of: "1-pear-cardamom-loaf.txt", diets: []diet.ID{diet.EggFree, diet.DairyFree}, oven: 0, ratio: 0.93, core: 0.6, overall: 4, cooled: 4, helped: "underbaked", words: "nobody could tell", height: 7.4, picture: &slice{high: 0.74, dome: 0.12, open: 240, seed: 3}},
	{ago: 42, of: "8-almond-orange-cake.txt", oven: 1, ratio: 1.06, core: 0.4, overall: 4, symptoms: []string{"too-sweet"}, words: "coach asked for the recipe"},
	{ago: 35, of: "4-rye-honey-rolls.txt", oven: 0, ratio: 0.89, core: 1, overall: 4, helped: "short-proof", words: "a dent stayed, then in", spoons: 14},
	{ago: 28, of: "7-buckwheat-seed-bread.txt", oven: 1, ratio: 1.04, core: 0.8, overall: 3, symptoms: []string{"crumbly"}, words: "fine when toasted"},
	{ago: 21, of: "2-carrot-hazelnut-ring.txt", oven: 0, ratio: 0.88, core: 0.5, overall: 3, symptoms: []string{"split"}, words: "split along the top"},
	{ago: 7, of: "1-pear-cardamom-loaf.txt", diets: []diet.ID{diet.EggFree, diet.DairyFree}, oven: 0, ratio: 0.9, core: 0.7, overall: 4, cooled: 3, words: "as the last", height: 7.5, picture: &slice{high: 0.75, dome: 0.12, open: 260, seed: 4}},
}

// Season bakes the season: the boathouse's log. It comes after Fill.
func Season(ctx context.Context, st *store.Store) error {
	all, err := st.Recipes(ctx, "")
	if err != nil {
		return err
	}
	kitchens, err := st.Ovens(ctx)
	if err != nil {
		return err
	}
	byTitle := map[string]*store.Recipe{}
	for _, r := range all {
		byTitle[r.Title] = r
	}
	for n, p := range season {
		r := byTitle[titleOf(p.of)]
		if r == nil {
			return fmt.Errorf("season: no %s", p.of)
		}
		if err := p.keep(ctx, st, r, kitchens[p.oven], n); err != nil {
			return fmt.Errorf("season, %s: %w", p.of, err)
		}
	}
	return nil
}

// keep keeps one bake with what happened.
func (p past) keep(ctx context.Context, st *store.Store, r *store.Recipe, in store.Oven, n int) error {
	req := adapt.Request{Diets: p.diets}
	req.Oven.Oven, req.Oven.Setup.Fan = in.ID, in.Fan
	res, err := adapt.Predicted(r.Doc, req, adapt.DefaultKit())
	if err != nil {
		return err
	}
	if res.Bake == nil {
		return fmt.Errorf("%s is not foretold", p.of)
	}
	day := time.Now().AddDate(0, 0, -p.ago)
	begun := time.Date(day.Year(), day.Month(), day.Day(), 7, 10, 0, 0, time.Local)
	code := fmt.Sprintf("%d:%s", r.ID, adapt.Request{Diets: p.diets}.Values().Encode())
	b := store.Bake{Name: r.Title, Begun: begun, Who: []string{"bow", "stroke", "cox"}[n%3], Of: []store.BakeOf{{Title: r.Title, Code: code, Result: res, Preheat: max(in.Preheat, plan.UsualPreheat), Oven: in.Name}}}
	events := p.events(res, begun, n)
	if b.ID, err = st.AddBake(ctx, b, events...); err != nil {
		return err
	}
	if p.picture != nil {
		file, err := p.picture.png()
		if err != nil {
			return err
		}
		shot := store.Photo{Bake: b.ID, At: begun.Add(5 * time.Hour), Words: "the cut face, drawn"}
		if shot.Photo, err = photo.Take(file); err != nil {
			return err
		}
		if _, err := st.AddPhoto(ctx, shot); err != nil {
			return err
		}
	}
	return journal.Keep(ctx, st, larder.Builtin(), b, bake.Fold(journal.Sheets(b), events))
}

// events are what happened at one bake of the season: every task in its order, and what was said.
func (p past) events(res *adapt.Result, begun time.Time, n int) (out []bake.Event) {
	at := begun
	add := func(e bake.Event) {
		e.ID, e.At, e.Who = fmt.Sprintf("season-%d-%d", n, len(out)), at, "bow"
		out = append(out, e)
		at = at.Add(time.Second)
	}
	in, spooned := false, false
	for k, t := range res.Method {
		switch {
		case t.Verb == method.Bake && !in:
			in = true
			add(bake.Event{What: bake.WentIn, Task: k})
			minutes := res.Bake.Minutes * p.ratio
			at = at.Add(time.Duration(0.8 * minutes * float64(time.Minute)))
			add(bake.Event{What: bake.Seen, Text: string(doneness.Golden)})
			at = at.Add(time.Duration(0.2 * minutes * float64(time.Minute)))
			add(bake.Event{What: bake.Probe, Value: float64(res.Bake.Done) + p.core})
			add(bake.Event{What: bake.CameOut, Task: k})
		case t.Verb == method.Bake:
		default:
			if p.spoons > 0 && (t.Verb == method.Knead || t.Verb == method.Mix) && !spooned {
				spooned = true
				add(bake.Event{What: bake.Spoon, Line: wettest(res.Recipe), Value: p.spoons})
				add(bake.Event{What: bake.Stands, Text: "smooth"})
			}
			at = at.Add(time.Duration(float64(1+(n+k)%4) * 0.4 * t.Hands.Mid() * float64(time.Minute))) // now quick, now slow
			add(bake.Event{What: bake.Done, Task: k})
		}
	}
	judge := func(key string, value float64, text string) {
		add(bake.Event{What: bake.Judge, Key: key, Value: value, Text: text})
	}
	for _, s := range p.symptoms {
		judge("symptom:"+s, 1, "")
	}
	judge("overall", float64(p.overall), "")
	judge("cooled", p.cooled, "")
	judge("height", p.height, "")
	judge("words", 0, p.words)
	if p.tried != "" {
		judge("tried", 0, p.tried)
	}
	if p.helped != "" {
		judge("helped:"+p.helped, 1, "")
	}
	add(bake.Event{What: bake.Finish})
	return out
}

// wettest is the line of which water is the most.
func wettest(r *recipe.Recipe) (id recipe.LineID) {
	most := 0.0
	for _, l := range r.Batter() {
		if i := larder.Builtin().Get(l.Ingredient); i != nil && !i.IsBase() && l.Grams*i.Facts[larder.Water] > most {
			id, most = l.ID, l.Grams*i.Facts[larder.Water]
		}
	}
	return id
}
