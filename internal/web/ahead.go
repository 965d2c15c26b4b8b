package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/soak"
)

// ahead is what of a bake is prepared ahead and how it keeps: the days, a label, a dry mix. The bake
// is a b as plannedBake.code writes it.
func (s *Server) ahead(c *gin.Context) error {
	query := c.Request.URL.Query()
	code, title, res, err := s.theBake(c, query)
	if err != nil {
		return err
	}
	v := aheadView{Title: title, Bake: code, Unread: res.Verdict.Open()}
	if res.Refused != nil {
		v.Faults = append(v.Faults, cannotBake(title, res))
	} else {
		life := res.Life(s.kit.Larder)
		v.keeps(life, s.kit.Kitchen)
		v.Made = field{ID: "made", Words: "Baked on", Value: strings.TrimSpace(query.Get("made"))}
		day := time.Now()
		if v.Made.Value != "" {
			if day, err = time.ParseInLocation(time.DateOnly, v.Made.Value, time.Local); err != nil {
				v.Made.Fault = fmt.Sprintf("“%s” is no day: try %s", phrase.Clip(v.Made.Value, 20), time.Now().Format(time.DateOnly))
				day = time.Now()
			}
		}
		v.label(res, life, day, s.kit)
		v.Batches = field{ID: "n", Words: "Batches", Mode: "numeric", Size: 3, Value: strings.TrimSpace(query.Get("n"))}
		n, err := strconv.Atoi(v.Batches.Value)
		if v.Batches.Value == "" {
			v.Batches.Value, n, err = "3", 3, nil
		}
		if err != nil || n < 1 || n > mostJars {
			v.Batches.Fault = fmt.Sprintf("“%s” are no batches: try 1 to %d", phrase.Clip(v.Batches.Value, 10), mostJars)
			n = 1
		}
		v.tins(res, n)
		v.mix(res, n, day, s.kit)
	}
	s.show(c, http.StatusOK, "ahead", page{Title: title + ": ahead", Nav: "plans", Script: "card", View: v})
	return nil
}

// mostJars is how many batches are weighed out at once. Source: practice.
const mostJars = 20

// soakFields are the boxes of the soak.
func soakFields(query url.Values) (fields, soak.Asked, map[string]string) {
	fs := formFields("soak", field{Name: "fruit", Words: "Dried fruit", Unit: "g", Mode: "decimal", Size: 5, Hint: "250"},
		field{Name: "liquid", Words: "Liquid", Unit: "g", Mode: "decimal", Size: 5, Hint: "150"},
		field{Name: "sugars", Words: "Sugars in it", Unit: "g in 100 g", Mode: "decimal", Size: 4, Hint: "10"})
	asked := soak.Asked{In: soak.In(query.Get("in")), Whole: query.Get("whole") != ""}
	if asked.In == "" {
		asked.In = soak.Juice
	}
	faults := map[string]string{}
	read := func(name string, usual float64) float64 {
		typed := strings.TrimSpace(query.Get(name))
		if typed == "" {
			return usual
		}
		x, err := measure.ParseDecimal(typed, "g")
		if err != nil {
			faults[name] = fmt.Sprintf("“%s” is no weight: try %s", phrase.Clip(typed, 10), fs[name].Hint)
		}
		return x
	}
	asked.Fruit, asked.Liquid = measure.Grams(read("fruit", 0)), measure.Grams(read("liquid", 0))
	asked.Sugars = read("sugars", 0)
	return fs, asked, faults
}

// soak works out how dried fruit takes up what it stands in.
func (s *Server) soak(c *gin.Context) error {
	query := c.Request.URL.Query()
	fs, asked, faults := soakFields(query)
	v := soakView{Whole: asked.Whole}
	for _, w := range soak.Ways {
		v.Ways = append(v.Ways, choice{string(w.ID), w.Words, w.ID == asked.In})
	}
	if query.Has("fruit") && len(faults) == 0 {
		r, err := soak.Of(asked)
		switch err {
		case nil:
			v.answer(asked, r)
		case soak.ErrFruit:
			faults["fruit"] = err.Error()
		case soak.ErrSugars:
			faults["sugars"] = err.Error()
		default:
			faults["liquid"] = err.Error()
		}
	}
	v.Fields = fs.typed(query, faults)
	s.show(c, http.StatusOK, "soak", page{Title: "Soaking dried fruit", Nav: "plans", Script: "card", View: v})
	return nil
}
