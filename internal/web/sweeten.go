package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/core/sweet"
)

func (s *Server) sweeten(c *gin.Context) error {
	query := c.Request.URL.Query()
	v := sweetenView{Was: strings.TrimSpace(query.Get("was"))}
	if v.Was == "" {
		v.Was = "200 g sugar"
	}
	var req adapt.Request
	if code, err := url.ParseQuery(query.Get("q")); err == nil {
		if req, _, err = s.asked(c, code, 0); err != nil {
			return err
		}
	}
	ask := sweet.Ask{
		Match: v.matches(query.Get("match")), NetCarb: -1, Sugars: -1, Case: sweet.Case{Use: v.uses(query.Get("use"))},
	}
	with := query["with"]
	if len(with) == 0 {
		for _, id := range sweet.UsualParts(ask.Case.Use, s.home.Labels == "us") {
			with = append(with, string(id))
		}
	}
	if !query.Has("serves") {
		query.Set("serves", "10")
	}
	v.numbers(query, &ask)
	ask.With = v.candidates(with, req.Demand(), s.kit.Larder)
	status := http.StatusOK
	ask.Was, v.WasFault = s.readMix(v.Was)
	for _, f := range v.Fields {
		if f.Fault != "" {
			status = http.StatusUnprocessableEntity
		}
	}
	if v.WasFault != "" {
		status = http.StatusUnprocessableEntity
	} else {
		v.answer(s, ask, req, query)
	}
	v.fruits(s.kit.Larder)
	if id, _ := strconv.ParseInt(query.Get("recipe"), 10, 64); id > 0 {
		if r, err := s.store.Recipe(c.Request.Context(), id); err == nil {
			v.Recipe, v.Back = r.Title, recipeURL(id, "adapt", query.Get("q"))
			for _, name := range []string{"recipe", "q", "key"} {
				v.Hidden = append(v.Hidden, hidden{name, query.Get(name)})
			}
		}
	}
	s.show(c, status, "sweeten", page{Title: "Sweeten", Nav: "sweeten", Script: "page", View: v})
	return nil
}

// readMix reads "200 g sugar + 1 tbsp honey" or a line each. The fault says what was
// not understood.
func (s *Server) readMix(text string) (sweet.Mix, string) {
	if len(text) > 2000 {
		return nil, "That is a long list for what sweetens: a few lines will do."
	}
	lines := strings.Join(
		strings.FieldsFunc(text, func(r rune) bool { return r == '+' || r == '\n' || r == ';' }), "\n",
	)
	read, err := reader.ReadLines(lines, reader.Options{Larder: s.kit.Larder, Kitchen: s.kit.Kitchen})
	if err != nil {
		return nil, phrase.Sentence(err.Error())
	}
	var m sweet.Mix
	for _, ln := range read {
		i := s.kit.Larder.Get(ln.Ingredient)
		switch {
		case i == nil || ln.Grams <= 0:
			return nil, fmt.Sprintf("“%s” was not understood: try “200 g sugar” or “1 cup honey”.", ln.Text)
		case i.Facts[larder.Sweetness] < 0.03:
			return nil, fmt.Sprintf("%s does not sweeten: write what does.", phrase.Capital(i.Name))
		}
		m = append(m, sweet.Part{Of: i, Grams: ln.Grams})
	}
	if len(m) == 0 {
		return nil, "Write what sweetens it now: try “200 g sugar” or “1 cup honey”."
	}
	return m, ""
}
