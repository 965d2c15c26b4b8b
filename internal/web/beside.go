package web

import (
	"cmp"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/internal/store"
)

func (s *Server) beside(c *gin.Context) error {
	r, err := s.store.Recipe(c.Request.Context(), paramID(c))
	if err == nil {
		err = s.reread(c, r)
	}
	if err != nil {
		return err
	}
	k := s.kit.Kitchen
	v := besideView{ID: r.ID, Title: r.Title, Rail: rail(r.ID, "adapt", "")}
	kept, err := s.store.Versions(c.Request.Context(), r.ID)
	if err != nil {
		return err
	}
	codes := c.QueryArray("v")
	if len(codes) == 0 {
		if codes, err = s.nearestWays(c, r); err != nil {
			return err
		}
	}
	ways := []besideWay{{words: "As written", open: recipeURL(r.ID, "adapt", "")}}
	if ways[0].res, err = adapt.Predicted(r.Doc, adapt.Request{}, s.kit); err != nil {
		return err
	}
	for _, code := range codes {
		w, err := s.besideWay(c, r, kept, code)
		if err != nil {
			return err
		}
		if w.res == nil || len(ways) > mostBeside || slices.ContainsFunc(ways, func(have besideWay) bool { return have.code == w.code }) {
			continue
		}
		ways = append(ways, w)
		v.Held = append(v.Held, w.code)
	}
	var results []*adapt.Result
	for n, w := range ways {
		results = append(results, w.res)
		verdict := verdictOf(w.res.Verdict)
		col := besideColumn{
			Words: w.words, Verdict: w.res.Verdict.Words, Refused: w.res.Refused != nil || w.version, State: verdict.State,
			Icon: verdict.Icon, Adapt: w.open,
		}
		if n == 0 {
			col.Verdict = ""
		} else {
			col.Away = besideURL(r.ID, slices.Delete(slices.Clone(v.Held), n-1, n))
			for name, values := range w.req.Values() {
				for _, val := range values {
					col.Fields = append(col.Fields, hidden{name, val})
				}
			}
			slices.SortFunc(col.Fields, func(a, b hidden) int {
				return cmp.Or(strings.Compare(a.Name, b.Name), strings.Compare(a.Value, b.Value))
			})
		}
		v.Columns = append(v.Columns, col)
	}
	v.Span = len(v.Columns) + 1
	v.Groups = besideGroups(results, s.kit.Larder, s.currency(), k)
	if len(v.Held) < mostBeside {
		last := ways[len(ways)-1]
		v.More = s.moreWays(last.req, last.res)
		if group := keptWays(r, kept, v.Held); len(group.Options) > 0 {
			v.More = append([]moreWays{group}, v.More...)
		}
	}
	s.show(c, http.StatusOK, "beside", page{Title: r.Title + ": side by side", Nav: "shelf", Script: "page", View: v})
	return nil
}

// besideWay is one way that stands beside the written recipe: a request, or a version as it was kept.
type besideWay struct {
	code, words, open string
	req               adapt.Request
	res               *adapt.Result // nil where the code names nothing
	version           bool          // kept already
}

// versionCode stands for a kept version among the ways: "kept 12".
const versionCode = "kept "

func (s *Server) besideWay(c *gin.Context, r *store.Recipe, kept []*store.Version, code string) (besideWay, error) {
	if id, ok := strings.CutPrefix(code, versionCode); ok {
		for _, ver := range kept {
			if strconv.FormatInt(ver.ID, 10) == id {
				return besideWay{code, "“" + versionShort(r.Title, ver.Title) + "”, kept", "/versions/" + id, ver.Result.Request, ver.Result.Predict(s.kit.Kitchen), true}, nil
			}
		}
		return besideWay{}, nil
	}
	q, err := url.ParseQuery(code)
	if err != nil {
		return besideWay{}, nil //nolint:nilerr // an address that says nothing stands for nothing
	}
	req, _, err := s.asked(c, q, r.ID)
	if err != nil {
		return besideWay{}, err
	}
	res, err := adapt.Predicted(r.Doc, req, s.kit)
	code = req.Values().Encode()
	return besideWay{code: code, words: s.requestWords(req), open: recipeURL(r.ID, "adapt", code), req: req, res: res}, err
}

// nearestWays are two to begin with: what was asked for last or the first diet that the recipe breaks, and the same with the
// next way to replace what goes first.
func (s *Server) nearestWays(c *gin.Context, r *store.Recipe) ([]string, error) {
	var base adapt.Request
	if last, err := url.ParseQuery(s.home.Last); err == nil && s.home.Last != "" {
		if base, _, err = s.asked(c, last, r.ID); err != nil {
			return nil, err
		}
	}
	tries := []adapt.Request{base}
	for _, d := range diet.Diets {
		tries = append(tries, adapt.Request{Diets: []diet.ID{d.ID}})
	}
	for _, req := range tries {
		res, err := adapt.Adapt(r.Doc, req, s.kit)
		if err != nil {
			return nil, err
		}
		if res.Refused != nil || !slices.ContainsFunc(res.Changes, func(ch adapt.Change) bool { return ch.Use != "" }) {
			continue
		}
		out := []string{req.Values().Encode()}
		for _, group := range s.moreWays(req, res) {
			if strings.HasPrefix(group.Label, "instead of") {
				out = append(out, group.Options[0].ID)
				break
			}
		}
		return out, nil
	}
	return nil, nil
}

// keptWays are the versions that do not stand there yet.
func keptWays(r *store.Recipe, kept []*store.Version, held []string) moreWays {
	group := moreWays{Label: "a version that was kept"}
	for _, ver := range kept {
		if code := versionCode + strconv.FormatInt(ver.ID, 10); !slices.Contains(held, code) {
			group.Options = append(group.Options, readChoice{code, versionShort(r.Title, ver.Title)})
		}
	}
	return group
}
