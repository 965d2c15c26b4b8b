package web

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/tasting"
	"kollaris/core/trial"
	"kollaris/internal/store"
)

// cups plans trial cups of a recipe, and says which was best. All stands in the address.
func (s *Server) cups(c *gin.Context) error {
	query := c.Request.URL.Query()
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	res, code, err := s.cupsOf(c, r, query)
	if err != nil {
		return err
	}
	v := &cupsView{Title: r.Title, Rail: rail(r.ID, "log", ""), URL: recipeURL(r.ID, "cups", ""), Q: code}
	for _, l := range res.Recipe.Batter() {
		if l.Grams > 0 && !slices.ContainsFunc(v.Foods, func(x choice) bool { return x.Value == string(l.Ingredient) }) {
			v.Foods = append(v.Foods, choice{Value: string(l.Ingredient), Words: fmt.Sprintf("%s (%s)", l.Name, gramWords(l.Grams))})
		}
	}
	var varies []trial.Vary
	for n := range 2 {
		box := cupsBox{N: n, Food: query.Get(fmt.Sprintf("vary%d", n)), Tried: strings.TrimSpace(query.Get(fmt.Sprintf("tried%d", n)))}
		v.Boxes = append(v.Boxes, box)
		if box.Food == "" || n > 0 && box.Tried == "" {
			continue
		}
		tried, ok := amountsOf(box.Tried)
		if !ok {
			v.Fault = fmt.Sprintf("“%s” is no %s.", phrase.Clip(box.Tried, 30), trial.ErrTried)
			break
		}
		varies = append(varies, trial.Vary{Food: larder.ID(box.Food), Tried: tried})
	}
	if len(varies) > 0 && v.Fault == "" {
		if query.Get("seed") == "" {
			seed, err := newSeed()
			if err != nil {
				return err
			}
			query.Set("seed", seed)
			c.Redirect(http.StatusSeeOther, recipeURL(r.ID, "cups", query.Encode()))
			return nil
		}
		v.Seed = query.Get("seed")
		seed, _ := strconv.ParseUint(v.Seed, 10, 64)
		p, err := trial.Cups(res, varies, seed, s.kit)
		switch {
		case errors.Is(err, trial.ErrFood), errors.Is(err, trial.ErrTried), errors.Is(err, trial.ErrMany), errors.Is(err, trial.ErrBatch):
			v.Fault = phrase.Sentence(err.Error())
		case err != nil:
			return err
		default:
			v.plan(p, s.kit.Kitchen)
			v.tasted(p, query, func(food larder.ID, grams float64) string {
				next := res.Request
				next.Holds = map[larder.ID]float64{food: grams}
				for id, g := range res.Request.Holds {
					if id != food {
						next.Holds[id] = g
					}
				}
				return recipeURL(r.ID, "adapt", next.Values().Encode())
			})
		}
	}
	s.show(c, http.StatusOK, "cups", page{Title: "Trial cups: " + r.Title, Nav: "shelf", Script: "card", View: v})
	return nil
}

// cupsOf is the recipe as the address asks for it.
func (s *Server) cupsOf(c *gin.Context, r *store.Recipe, query url.Values) (*adapt.Result, string, error) {
	if err := s.reread(c, r); err != nil {
		return nil, "", err
	}
	code, err := url.ParseQuery(query.Get("q"))
	if err != nil {
		return nil, "", fmt.Errorf("%w: %w", errForm, err)
	}
	req, _, err := s.asked(c, code, r.ID)
	if err != nil {
		return nil, "", err
	}
	res, err := adapt.Adapt(r.Doc, req, s.kit)
	return res, req.Values().Encode(), err
}

// amountsOf reads several amounts, g.
func amountsOf(typed string) (out []float64, ok bool) {
	for _, w := range strings.Fields(strings.NewReplacer(";", " ", "/", " ", " g", " ").Replace(typed)) {
		x, err := measure.ParseDecimal(w, "g")
		if err != nil || x < 0 {
			return nil, false
		}
		out = append(out, x)
	}
	return out, len(out) > 0
}

// plan fills in what is mixed and what goes into each cup.
func (v *cupsView) plan(p *trial.Plan, k measure.Kitchen) {
	for _, i := range p.Varies {
		v.Names = append(v.Names, i.Name)
	}
	for _, a := range p.Bowl {
		v.Bowl = append(v.Bowl, row2{gramWords(a.Grams), a.Name})
	}
	v.Share, v.Faint = gramWords(p.Share), p.Faint
	for _, c := range p.Cups {
		row := cupRow{Code: c.Code}
		for n := range c.Of {
			row.Adds = append(row.Adds, fmt.Sprintf("%.1f g", c.Adds[n]))
			row.Of = append(row.Of, gramWords(c.Of[n]))
		}
		v.Cups = append(v.Cups, row)
	}
	if e := p.Res.Bake; e != nil {
		v.Bake = fmt.Sprintf("Bake them all together at %s: first look after %.0f min, done after %.0f to %.0f.", k.OvenText(e.Oven), e.FirstLook, e.Low, e.High)
	}
}

// tasted reads what was said of the cups and says what is best.
func (v *cupsView) tasted(p *trial.Plan, query url.Values, next func(larder.ID, float64) string) {
	var amounts, scores []float64
	won := make([][]float64, len(p.Cups))
	picks := 0.0
	for k, c := range p.Cups {
		v.Cups[k].Scores = strings.TrimSpace(query.Get("score" + c.Code))
		if v.Cups[k].Scores != "" {
			list, ok := amountsOf(v.Cups[k].Scores)
			if !ok || slices.Max(list) > mostScore {
				v.Fault = fmt.Sprintf("“%s”: scores of cup %s from 0 to %d, one for each taster, for instance 6 7 5.", phrase.Clip(v.Cups[k].Scores, 30), c.Code, mostScore)
				return
			}
			for _, x := range list {
				amounts, scores = append(amounts, c.Of[0]), append(scores, x)
			}
		}
		won[k] = make([]float64, len(p.Cups))
		for j, other := range p.Cups {
			if j == k {
				continue
			}
			name := "won" + c.Code + "." + other.Code
			x, err := strconv.Atoi(cmp.Or(strings.TrimSpace(query.Get(name)), "0"))
			if err != nil || x < 0 {
				v.Fault = fmt.Sprintf("“%s”: how many took cup %s over cup %s?", phrase.Clip(query.Get(name), 12), c.Code, other.Code)
			}
			won[k][j] = float64(x)
			picks += float64(x)
		}
	}
	for k := range p.Cups {
		for j := k + 1; j < len(p.Cups); j++ {
			a, b := p.Cups[k].Code, p.Cups[j].Code
			v.Pairs = append(v.Pairs, cupPair{a, b, query.Get("won" + a + "." + b), query.Get("won" + b + "." + a)})
		}
	}
	if v.Fault != "" {
		return
	}
	if picks > 0 {
		if all, err := tasting.Prefer(won); err == nil {
			best := 0
			for k := range all {
				v.Cups[k].Best = fmt.Sprintf("%.0f %%", 100*all[k].Best)
				if all[k].Best > all[best].Best {
					best = k
				}
			}
			v.Answers = append(v.Answers, cupsAnswer{
				fmt.Sprintf("By pairs: cup %s, with %s. That it is the best of them holds %.0f times in a hundred.", p.Cups[best].Code, v.Cups[best].words(v.Names), 100*all[best].Best),
				next(p.Varies[0].ID, p.Cups[best].Of[0]),
			})
		}
	}
	if len(scores) > 0 && len(p.Varies) == 1 {
		o, err := tasting.Best(amounts, scores)
		switch {
		case err != nil:
			v.Fault = phrase.Sentence(err.Error())
		case o.Found:
			v.Answers = append(v.Answers, cupsAnswer{"By scores: " + o.Words("g of "+p.Varies[0].Name), next(p.Varies[0].ID, measure.Nearest(10*o.Best)/10)})
		default:
			v.Answers = append(v.Answers, cupsAnswer{"By scores: " + o.Words(""), ""})
		}
	}
}

// mostScore is the best score.
const mostScore = 10
