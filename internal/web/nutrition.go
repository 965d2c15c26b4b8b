package web

import (
	"maps"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	"kollaris/core/nutrition"
)

// nutritionView is all that a recipe holds, by serving, by 100 g and whole.
type nutritionView struct {
	ID          int64
	Title       string
	Rail        []railItem
	Verdict     verdictView
	For         string // whom and what it is worked out for
	Law         nutrition.Law
	Laws        []railItem
	Back        string
	Headline    string
	Counts      []countView
	Serving     string // "1 of 10, 88 g as baked"
	Rows        []nutritionRow
	Net         []netRow
	Claims      []nutrition.Claim
	Ingredients []listedView
	Slice       sliceOfMine
	Hidden      []hidden
	Card        string // addresses of what can be printed
	Sticker     string
	Alcohol     string
	Gaps        string // lines that the figures leave out, as a sentence
	Unread      bool   // a line was not understood: no label, no claim, no card
	Read        string // address where it is settled
}

type nutritionRow struct {
	ID, Name, Unit                 string
	Sub                            bool
	Was, Now, Per100, Batch, Exact string
	Daily                          string
	Known                          string // "known for 82 % of the weight", "" for all
	Why                            []termRow
}

type netRow struct{ Words, Was, Now string }

type listedView struct {
	Name      string
	Allergens string // set off
	Last      bool
}

// sliceOfMine is the carbohydrate of one person's own slice.
type sliceOfMine struct {
	field
	Says []string
}

func (s *Server) nutrition(c *gin.Context) error {
	query := c.Request.URL.Query()
	r, req, _, res, err := s.loadBench(c, query)
	if err != nil {
		return err
	}
	h := s.home
	law := nutrition.EU
	if h.Labels == "us" {
		law = nutrition.US
	}
	switch asked := nutrition.Law(query.Get("law")); asked {
	case nutrition.EU, nutrition.US:
		law = asked
	}
	v := s.nutritionView(r.ID, r.Title, scaledWritten(r.Doc, req), req, res, law, query.Get("slice"))
	if v.For, err = s.forWords(c, r, req); err != nil {
		return err
	}
	s.show(c, http.StatusOK, "nutrition", page{Title: r.Title + ": what it holds", Nav: "shelf", Script: "page", View: v})
	return nil
}

// tableCard is a card for the table, or a sticker for a tub.
func (s *Server) tableCard(c *gin.Context) error {
	query := c.Request.URL.Query()
	r, req, _, res, err := s.loadBench(c, query)
	if err != nil {
		return err
	}
	v := tableCardView{
		nutritionView: s.nutritionView(r.ID, r.Title, scaledWritten(r.Doc, req), req, res, nutrition.EU, ""),
		Size:          "a6",
	}
	if query.Get("size") == "sticker" {
		v.Size = "sticker"
	}
	v.Sheet = query.Get("sheet") != ""
	v.Copies = make([]struct{}, 1)
	if v.Sheet {
		v.Copies = make([]struct{}, map[string]int{"a6": 4, "sticker": 8}[v.Size])
	}
	listed := 0
	for _, i := range v.Ingredients {
		listed += len(i.Name) + len(i.Allergens) + 4
	}
	v.Long = listed > map[string]int{"a6": 420, "sticker": 170}[v.Size]
	for _, x := range []struct{ size, sheet, words string }{
		{"", "", "a card, A6"}, {"", "1", "four on a sheet"}, {"sticker", "", "a sticker, 100 × 60 mm"}, {"sticker", "1", "a sheet of eight"},
	} {
		q := url.Values(maps.Clone(map[string][]string(c.Request.URL.Query())))
		q.Del("size")
		q.Del("sheet")
		if x.size != "" {
			q.Set("size", x.size)
		}
		if x.sheet != "" {
			q.Set("sheet", x.sheet)
		}
		v.Sizes = append(v.Sizes, choice{recipeURL(r.ID, "tablecard", q.Encode()), x.words, (x.size != "") == (v.Size == "sticker") && (x.sheet != "") == v.Sheet})
	}
	if v.Unread { // a card that others eat by is not made of guesses
		s.show(c, http.StatusUnprocessableEntity, "tablecard", page{Title: r.Title + ": card for the table", Nav: "shelf", View: v})
		return nil
	}
	s.show(c, http.StatusOK, "tablecard", page{Title: r.Title + ": card for the table", Nav: "shelf", Script: "card", View: v})
	return nil
}
