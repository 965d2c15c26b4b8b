package web

import (
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/reader"
	"kollaris/internal/demo/recipes"
	"kollaris/internal/store"
)

// example is a recipe to begin with.
const example = "1-pear-cardamom-loaf.txt"

// howView is a short tour, drawn with the program's own strips.
type howView struct {
	Text            string
	Strips, Upright stripView
	Verdict         verdictView
	Ledger          []ledgerRow
	Bake            bakeView
}

// how shows what the program does with a recipe, on the example.
func (s *Server) how(c *gin.Context) error {
	v := howView{Text: recipes.Text(example)}
	rd, err := reader.Read(v.Text, reader.Options{Larder: s.kit.Larder, Kitchen: s.kit.Kitchen})
	if err != nil {
		return err
	}
	res, err := adapt.Predicted(rd.Recipe, adapt.Request{Diets: []diet.ID{diet.EggFree, diet.DairyFree}}, s.kit)
	if err != nil {
		return err
	}
	k := s.kit.Kitchen
	v.Strips, v.Upright = benchStrips(rd.Recipe, res, s.kit.Larder, false, k), benchStrips(rd.Recipe, res, s.kit.Larder, true, k)
	v.Verdict, v.Ledger, v.Bake = verdictOf(res.Verdict), ledgerOf(res, res.Request, k), bakeOf(res, k)
	s.show(c, http.StatusOK, "how", page{Title: "How it works", Nav: "shelf", View: v})
	return nil
}

// tryExample begins a draft with the example.
func (s *Server) tryExample(c *gin.Context) error {
	id, err := s.store.AddDraft(c.Request.Context(), 0, recipes.Text(example), store.Typed{})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/drafts/%d", id))
	return nil
}
