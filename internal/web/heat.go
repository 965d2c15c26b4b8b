package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/phrase"
	"kollaris/core/tin"
	"kollaris/internal/store"
)

func (s *Server) heat(c *gin.Context) error {
	query := c.Request.URL.Query()
	pinned := query.Get("a")
	query.Del("a")
	hand, err := s.atHand(c, query)
	if err != nil {
		return err
	}
	r, req, faults, res, err := s.loadBench(c, query)
	if err != nil {
		return err
	}
	k := s.kit.Kitchen
	v := heatView{
		ID: r.ID, Title: r.Title, Rail: rail(r.ID, "heat", req.Values().Encode()), Bake: bakeOf(res, k), Hand: hand,
	}
	for _, change := range res.Changes {
		if change.Kind == adapt.Scaled {
			v.Scaled = append(v.Scaled, change.Reason+" So: "+measureWords(change.To)+".")
		}
	}
	if err := s.heatControls(c, &v, req, faults, res, k); err != nil {
		return err
	}
	sim, err := res.Simulate(c.Request.Context())
	if c.Request.Context().Err() != nil {
		return nil // a later change is on its way
	}
	if err != nil {
		return err
	}
	if sim != nil {
		v.Data.Unit, v.Data.B = k.Degrees(), fieldOf(sim)
		v.Fit = fitTin(r.ID, req, r.Doc.Kind, sim.Fill)
		v.Batter = fmt.Sprintf("%s of batter", measure.Grams(float64(res.After.Mass)))
		v.Facts, v.Rows = heatFacts(sim, k), minuteRows(sim, k)
		if err := s.pinned(c, &v, r, pinned, sim); err != nil {
			return err
		}
		v.Section = sectionOf(sim.Estimate)
		v.Chart = chartOf(sim, v.Data.a, k)
	}
	if v.For, err = s.forWords(c, r, req); err != nil {
		return err
	}
	v.Written = writtenBake(r.Doc, k)
	v.Others = s.otherTins(r.ID, req, res)
	v.askTin(r, req, res)
	v.Announce = "First look " + v.Bake.FirstLook + ", likely done " + v.Bake.Window
	s.show(c, http.StatusOK, "heat", page{Title: r.Title + ": tin and heat", Nav: "shelf", Script: "heat", View: v})
	return nil
}

// heatControls fills what can be set.
func (s *Server) heatControls(
	c *gin.Context, v *heatView, req adapt.Request, faults []adapt.Fault, res *adapt.Result, k measure.Kitchen,
) error {
	set := req.Oven
	v.F = heatFields(req, res, faults, c.Request.URL.Query(), k)
	v.Lie = phrase.Capital(ovensLie(k))
	if m := res.Microwave; m != nil {
		v.Bowl = &bowlView{adapt.Clock(m.FirstLook()), adapt.Clock(m.Done()), fmt.Sprintf("%.0f W", m.Watts)}
	}
	for _, f := range faults {
		if f.Field == "metal" {
			v.NoMetal = phrase.Sentence(f.Why)
		}
	}
	for _, m := range tin.Materials {
		words := m.Words
		if m.ID == tin.Bright {
			words = "as the tin says"
		}
		v.Metals = append(v.Metals, choice{string(m.ID), words, m.ID == set.Setup.Of})
	}
	v.Moved = c.Query("lower") != ""
	if len(set.Setup.Stages) > 0 {
		v.Moved = set.Setup.Stages[0].Lower
	}
	v.More = v.Moved || v.F["then"].Value != "" || v.F["after"].Value != "" || v.F["batter"].Value != "" ||
		set.Setup.Of != tin.Bright ||
		v.NoMetal != ""
	v.Flags = set.Setup.Flags()
	for n, f := range v.Flags {
		v.More = v.More || f.On && f.Name != "fan"
		v.Flags[n].Words = phrase.Capital(f.Words)
	}
	elsewhere := req // what this form does not ask for
	elsewhere.Tin, elsewhere.Scale, elsewhere.Oven = "", 0, oven.Choice{}
	for name, values := range elsewhere.Values() {
		for _, val := range values {
			v.Hidden = append(v.Hidden, hidden{name, val})
		}
	}
	if res.Bake != nil {
		v.InOven = "/oven?" + url.Values{"b": {plannedBake{id: v.ID, query: req.Values()}.code()}}.Encode()
		v.Cautions = oven.Cautions(set.Setup, res.Bake.Fill.Tin)
	}
	v.Altitude = s.altitude(req, res, k)
	return s.kitchenOf(c, v, set, res, k)
}

// kitchenOf offers the household's ovens and tins, with what is known of the chosen oven.
func (s *Server) kitchenOf(c *gin.Context, v *heatView, set oven.Choice, res *adapt.Result, k measure.Kitchen) error {
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return err
	}
	v.Ovens = []choice{{"", "an oven true to its dial", set.Oven == 0}}
	for _, o := range ovens {
		v.Ovens = append(v.Ovens, choice{fmt.Sprint(o.ID), o.Name, o.ID == set.Oven})
		if o.ID == set.Oven && res.Bake != nil {
			v.Hints = append(v.Hints, ovenHints(o, res.Bake, set.At > 0, k)...)
		}
	}
	tins, err := s.store.OwnTins(c.Request.Context())
	if err != nil {
		return err
	}
	for _, t := range tins {
		v.Names = append(v.Names, choice{Value: t.Name, Words: t.Text})
	}
	if t, ok := ownTin(tins, v.F["tin"].Value); ok {
		v.F.set("tin", t.Name)
	}
	for _, t := range tin.Standard {
		v.Names = append(v.Names, choice{Value: t.Words()})
	}
	return nil
}

// pinned lays the set-up that was pinned as A beside this one.
func (s *Server) pinned(c *gin.Context, v *heatView, r *store.Recipe, code string, b *oven.Simulation) error {
	here := v.Rail[2].URL
	_, query, _ := strings.Cut(here, "?")
	v.Pin = here + map[bool]string{true: "&", false: "?"}[query != ""] + "a=" + urlEscape(query+"&")
	if code == "" {
		return nil
	}
	v.Let = here
	q, err := url.ParseQuery(code)
	if err != nil {
		return nil // no address of ours: B stands alone
	}
	q.Del("a")
	_, _, _, res, err := s.loadBench(c, q)
	if err != nil {
		return err
	}
	a, err := res.Simulate(c.Request.Context())
	if err != nil || a == nil {
		return err
	}
	k := s.kit.Kitchen
	at := bakeOf(res, k)
	v.Against = &againstView{
		Code: code, Words: at.Tin + " at " + strings.TrimSuffix(at.Oven, ","),
		Answer: fmt.Sprintf("First look %s. Likely done %s.", at.FirstLook, at.Window),
		Than:   than(b.Minutes, a.Minutes),
	}
	f := fieldOf(a)
	v.Data.A, v.Data.a = &f, a
	return nil
}
