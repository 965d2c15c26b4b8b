package web

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/recipe"
	"kollaris/core/structure"
	"kollaris/core/swap"
	"kollaris/core/sweet"
	"kollaris/internal/store"
)

// versionView is a kept version, as it was when it was kept.
type versionView struct {
	ID, RecipeID int64
	Title        string
	For          string
	Kept         string
	Verdict      verdictView
	Lines        []lineRow
	Ledger       []ledgerRow
	Method       methodView
	Slice        sliceView
	Bake         bakeView
	Cautions     []cautionView
	Doubts       []string
	Confidence   string
	Again        string // address of the bench with the same request
	Facts        string
	Engine       string
	Adapted      bool
	Take         takeView
}

// keep keeps what stands on the bench as a version under its recipe.
func (s *Server) keep(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	r, req, faults, res, err := s.loadBench(c, form)
	if err != nil {
		return err
	}
	if len(faults) > 0 || res.Refused != nil {
		v := s.benchView(r, req, faults, res, form, s.kit.Kitchen, s.currency())
		if res.Refused != nil {
			v.Faults = append(v.Faults, "Nothing was kept: this cannot be adapted as asked.")
		}
		s.show(c, http.StatusUnprocessableEntity, "adapt", page{Title: r.Title, Nav: "shelf", Script: "bench", View: v})
		return nil
	}
	title := s.versionTitle(r.Title, req)
	id, err := s.store.KeepAdapted(c, r.ID, r.Head, title, res)
	if err == nil {
		err = s.setLast(c, req)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/versions/%d", id))
	return nil
}

// versionTitle names a version by what it is for.
func (s *Server) versionTitle(title string, req adapt.Request) string {
	return title + ", " + s.requestWords(req)
}

func (s *Server) loadVersion(c *gin.Context) (versionView, *store.Version, error) {
	ver, err := s.store.Version(c, paramID(c))
	if err != nil {
		return versionView{}, nil, err
	}
	return s.versionView(ver, s.kit.Kitchen), ver, nil
}

func (s *Server) versionView(ver *store.Version, k measure.Kitchen) versionView {
	v := versionView{
		ID: ver.ID, RecipeID: ver.Recipe, Title: ver.Title, Kept: ver.CreatedAt.Local().Format("2 January 2006, 15:04"),
		Engine: ver.Engine, Adapted: ver.Adapted(), Take: takeView{ver.ID, forms},
	}
	if res := ver.Result; res != nil {
		changed := map[recipe.LineID]bool{}
		for _, ch := range res.Changes {
			for _, t := range ch.To {
				changed[t.Line] = true
			}
		}
		v.For = strings.Join(res.Request.Demand().Words(), ", ")
		v.Verdict = verdictOf(res.Today(s.kit.Larder))
		v.Lines = s.lineRows(res, changed, k)
		v.Ledger = ledgerOf(res, res.Request)
		v.Method = methodOf(res.Method, res.Recipe, freshNames(res))
		v.Slice = sliceOf(res, s.kit.Larder)
		v.Bake = bakeOf(res, k)
		v.Doubts, v.Confidence = res.Doubts, confidenceWords(string(res.Confidence))
		for _, ca := range res.Cautions {
			v.Cautions = append(v.Cautions, cautionView{ca.Text, ca.Defers})
		}
		v.Again = recipeURL(ver.Recipe, "adapt", ver.Request)
		v.Facts = fmt.Sprintf("serves %d", res.Recipe.Servings)
		return v
	}
	res := &adapt.Result{Recipe: ver.Doc, Measures: map[int]string{}}
	for _, l := range ver.Doc.Lines {
		res.Measures[int(l.ID)] = strings.TrimSpace(l.Amount.String() + " " + l.Unit)
	}
	v.Lines = s.lineRows(res, nil, k)
	for _, st := range ver.Doc.Steps { // as it is written
		v.Method.Steps = append(v.Method.Steps, stepRow{Text: []textPart{{Text: st.Text}}})
	}
	v.Facts = factsWords(ver.Doc)
	v.Again = recipeURL(ver.Recipe, "adapt", "")
	return v
}

func (s *Server) version(c *gin.Context) error {
	v, _, err := s.loadVersion(c)
	if err != nil {
		return err
	}
	s.show(c, http.StatusOK, "version", page{Title: v.Title, Nav: "shelf", View: v})
	return nil
}

// card is the version as one sheet to print.
func (s *Server) card(c *gin.Context) error {
	v, _, err := s.loadVersion(c)
	if err != nil {
		return err
	}
	s.show(c, http.StatusOK, "card", page{Title: v.Title, Nav: "shelf", Script: "card", View: v})
	return nil
}

// sourcesView lists where the numbers come from.
type sourcesView struct {
	Ingredients []sourceRow
	Schools     []schoolRow
	Sweet       []substanceRow
	Heat        []termRow // with the source as ID
	Bans        []termRow // likewise
	Holds       []termRow // likewise: what holds a bake up, and what each kind needs
	Count       int
}

// substanceRow is what a pure sugar or sugar alcohol does.
type substanceRow struct{ Name, Browns, Feeds, Cools, Dissolves, Source string }

type sourceRow struct {
	Name, Family, Source, Weights, Allergens string
	Energy, Water, Fat, Sugars               string
}

type schoolRow struct{ Use, Title, Parts, Source string }

func (s *Server) sources(c *gin.Context) error {
	v := sourcesView{Count: len(s.kit.Larder.All())}
	for _, i := range s.kit.Larder.All() {
		n := nutritionPer100(i)
		row := sourceRow{
			Name: i.Name, Family: i.Family.Words(), Source: i.Sources["macro"].Words(),
			Energy: fmt.Sprintf("%.0f", n.Energy), Water: measure.Digits(i.Facts[larder.Water], 3),
			Fat: measure.Digits(i.Facts[larder.Fat], 3), Sugars: measure.Digits(i.Facts.Sugars(), 3),
		}
		var ws []string
		for _, w := range i.Weights {
			ws = append(ws, fmt.Sprintf("%s %s %s (%s)", w.How, w.Unit, w.Grams, w.Source.Tag().Words()))
		}
		row.Weights = strings.Join(ws, "; ")
		row.Allergens = holdsWords(i)
		v.Ingredients = append(v.Ingredients, row)
	}
	for _, u := range s.kit.Swaps.Uses() {
		for _, sc := range u.Schools {
			var ps []string
			for _, p := range sc.Parts {
				if p.ID == swap.From {
					continue // some of it stays
				}
				ps = append(ps, fmt.Sprintf("%s %s", measure.Grams(p.Grams), s.kit.Larder.Get(p.ID).Name))
			}
			v.Schools = append(
				v.Schools,
				schoolRow{fmt.Sprintf("%g g %s", u.Per, u.Title), sc.Title, strings.Join(ps, " + "), sc.Source.Words()},
			)
		}
	}
	for _, x := range sweet.Substances() {
		feeds := "no"
		if x.Feeds > 0 {
			feeds = "yes"
		}
		v.Sweet = append(
			v.Sweet,
			substanceRow{
				larder.Columns[x.Column].Name, measure.Digits(x.Browns, 2), feeds, measure.Digits(x.Cools, 3),
				measure.Digits(x.Dissolves, 3), x.Source.Words(),
			},
		)
	}
	for _, b := range diet.Bans() {
		v.Bans = append(v.Bans, termRow{b.Source.Words(), phrase.Capital(b.Words), b.Says})
	}
	for _, x := range structure.Carriers() {
		v.Holds = append(v.Holds, termRow{
			x.Source.Words(), phrase.Capital(x.Words), fmt.Sprintf("%g g give %g, at most %g", x.Per, x.Gives, x.Cap),
		})
	}
	for _, x := range structure.Needs() {
		v.Holds = append(v.Holds, termRow{x.Source.Words(), phrase.Capital(x.Kind.Words()), fmt.Sprintf("needs %g", x.Need)})
	}
	for _, x := range oven.Constants() {
		v.Heat = append(v.Heat, termRow{x.Source.Words(), phrase.Capital(x.What), x.Value})
	}
	s.show(c, http.StatusOK, "sources", page{Title: "Where the numbers come from", Nav: "sources", View: v})
	return nil
}
