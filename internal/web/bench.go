package web

import (
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"slices"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/learn"
	"kollaris/internal/store"
)

// loadBench reads the recipe and the request of a bench or heat screen.
func (s *Server) loadBench(
	c *gin.Context, v url.Values,
) (*store.Recipe, adapt.Request, []adapt.Fault, *adapt.Result, error) {
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err != nil {
		return nil, adapt.Request{}, nil, nil, err
	}
	if err := s.reread(c, r); err != nil {
		return nil, adapt.Request{}, nil, nil, err
	}
	s.scaled(c, v)
	req, faults, err := s.asked(c, v, r.ID)
	if err != nil {
		return nil, adapt.Request{}, nil, nil, err
	}
	res, err := adapt.Predicted(r.Doc, req, s.kit)
	return r, req, faults, res, err
}

// reread reads a recipe's text as the household measures today, so that its
// grams follow the settings. Adapted versions stay as they were kept.
func (s *Server) reread(c *gin.Context, r *store.Recipe) error {
	ver, err := s.store.Version(c.Request.Context(), r.Head)
	if err != nil || ver.SourceText == "" {
		return err
	}
	ground, err := s.ground(c)
	if err != nil {
		return err
	}
	key, err := json.Marshal([]any{ver.SourceText, ver.Typed, ground})
	if err != nil {
		return err
	}
	doc, ok := s.readings.Get(string(key)) // all that a reading follows from
	if !ok {
		rd, err := s.reading(c, ver.SourceText, ver.Typed)
		if err != nil {
			return err
		}
		doc = rd.Recipe
		s.readings.Add(string(key), doc)
	}
	r.Doc = doc.Clone()
	r.Doc.Title = r.Title
	return nil
}

// ground is what all recipes are read and judged by, as one short word: how the household measures and is sold to, its larder, its
// words, and what its spoons hold.
func (s *Server) ground(c *gin.Context) (string, error) {
	known, err := s.remembered(c)
	if err != nil {
		return "", err
	}
	taught, err := s.learned(c)
	if err != nil {
		return "", err
	}
	all, err := json.Marshal([]any{s.kit.Kitchen, s.kit.Law, s.kit.Stamp, known.Phrases, known.Amounts, taught.Times(learn.Spoon, 1)})
	return fmt.Sprintf("%x", sha256.Sum256(all)), err
}

func (s *Server) bench(c *gin.Context) error {
	query := c.Request.URL.Query()
	h := s.home
	r, req, faults, res, err := s.loadBench(c, query)
	if err != nil {
		return err
	}
	v := s.benchView(r, req, faults, res, query, h.Kitchen, s.currency())
	if v.Tab == "different" {
		asks, err := adapt.Asks(r.Doc, req, res, s.kit)
		if err != nil {
			return err
		}
		v.Asks = askRows(asks)
	}
	if err := s.benchPeople(c, &v, req); err != nil {
		return err
	}
	v.LastTime = s.asLastTime(c, r.ID, req)
	if table, err := url.ParseQuery(query.Get("table")); err == nil && query.Has("table") {
		v.Table = "?" + table.Encode()
	}
	out := slices.DeleteFunc(slices.Clone(res.Sums), func(x adapt.Sum) bool { return !x.Out })
	for n := range v.Sums {
		v.Sums[n].Remedy = s.remedy(r.ID, r.Doc, req, res, out[n])
	}
	if v.Refused != nil {
		if v.Refused.Ways, err = s.waysOut(c, r.ID, r.Doc, req); err != nil {
			return err
		}
	}
	versions, err := s.store.VersionNames(c.Request.Context(), r.ID)
	if err != nil {
		return err
	}
	for _, ver := range versions[r.ID] {
		v.Versions = append(v.Versions, versionLink{ver.ID, ver.Title, ver.CreatedAt.Format("2 Jan 2006")})
	}
	s.show(c, http.StatusOK, "adapt", page{Title: r.Title + ": adapt", Nav: "shelf", Script: "bench", View: v})
	return nil
}

// asLastTime offers what was asked for last, where nothing is asked for yet; nil for nothing to offer.
func (s *Server) asLastTime(c *gin.Context, id int64, req adapt.Request) *link {
	last, err := url.ParseQuery(s.home.Last)
	if err != nil || s.home.Last == "" || len(req.Diets)+len(req.Bans)+len(req.Limits)+len(req.For) > 0 {
		return nil
	}
	was, faults, err := s.asked(c, last, id)
	if err != nil || len(faults) > 0 {
		return nil
	}
	words := s.requestWords(was)
	if words == "as written" {
		return nil
	}
	now := req
	now.Diets, now.Bans, now.Limits, now.For = was.Diets, was.Bans, was.Limits, was.For
	return &link{recipeURL(id, "adapt", now.Values().Encode()), words}
}

// remember keeps for whom was baked last, so that the next recipe begins with it: the
// bench tells after each change, and keeping a version does too. What was not understood
// is not kept.
func (s *Server) remember(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	req, faults := adapt.ParseRequest(form, s.kit.Larder)
	if len(faults) == 0 {
		if err := s.setLast(c, req); err != nil {
			return err
		}
	}
	c.Status(http.StatusNoContent)
	return nil
}

func (s *Server) setLast(c *gin.Context, req adapt.Request) error {
	return s.store.SetLast(
		c.Request.Context(), adapt.Request{Diets: req.Diets, Bans: req.Bans, Limits: req.Limits, For: req.For}.Values().Encode(),
	)
}
