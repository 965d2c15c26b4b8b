package web

import (
	"cmp"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
)

func (s *Server) beside(c *gin.Context) error {
	r, err := s.store.Recipe(c, paramID(c))
	if err == nil {
		err = s.reread(c, r)
	}
	if err != nil {
		return err
	}
	k := s.kit.Kitchen
	v := besideView{ID: r.ID, Title: r.Title, Rail: rail(r.ID, "adapt", "")}
	reqs := []adapt.Request{{}}
	for _, code := range c.QueryArray("v") {
		q, err := url.ParseQuery(code)
		if err != nil || len(reqs) > mostBeside {
			continue
		}
		req, _, err := s.asked(c, q, r.ID)
		if err != nil {
			return err
		}
		if slices.ContainsFunc(
			reqs, func(have adapt.Request) bool { return have.Values().Encode() == req.Values().Encode() },
		) {
			continue
		}
		reqs = append(reqs, req)
		v.Held = append(v.Held, req.Values().Encode())
	}
	var results []*adapt.Result
	for n, req := range reqs {
		res, err := adapt.Predicted(r.Doc, req, s.kit)
		if err != nil {
			return err
		}
		results = append(results, res)
		col := besideColumn{Words: s.requestWords(req), Verdict: res.Verdict.Words, Refused: res.Refused != nil}
		verdict := verdictOf(res.Verdict)
		col.State, col.Icon = verdict.State, verdict.Icon
		col.Adapt = recipeURL(r.ID, "adapt", req.Values().Encode())
		if n > 0 {
			rest := slices.Delete(slices.Clone(v.Held), n-1, n)
			col.Away = besideURL(r.ID, rest)
			for name, values := range req.Values() {
				for _, val := range values {
					col.Fields = append(col.Fields, hidden{name, val})
				}
			}
			slices.SortFunc(col.Fields, func(a, b hidden) int {
				return cmp.Or(strings.Compare(a.Name, b.Name), strings.Compare(a.Value, b.Value))
			})
		} else {
			col.Words, col.Verdict = "As written", ""
		}
		v.Columns = append(v.Columns, col)
	}
	v.Span = len(v.Columns) + 1
	v.Groups = besideGroups(results, s.kit.Larder, s.currency(), k)
	if len(v.Held) < mostBeside {
		v.More = s.moreWays(reqs[len(reqs)-1], results[len(results)-1])
	}
	s.show(c, http.StatusOK, "beside", page{Title: r.Title, Nav: "shelf", Script: "page", View: v})
	return nil
}
