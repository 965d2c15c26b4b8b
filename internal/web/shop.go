package web

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/measure"
	"kollaris/core/phrase"
)

// shopView is one list for the bakes of a plan.
type shopView struct {
	Names, Have, Total string
	Faults             []string
	Rows               []shopRow
	Back, Text, CSV    string
}

// shopRow is something to buy.
type shopRow struct {
	Buy, Name, Need, Cost string
	Labels                []string
}

// shop is the list of what has to be bought for the bakes of a plan: as a page, as text or as
// CSV.
func (s *Server) shop(c *gin.Context) error {
	query := c.Request.URL.Query()
	var results []*adapt.Result
	var names []string
	v := shopView{Back: "/plans?" + query.Encode(), Text: "/plans/shop.txt?" + query.Encode(), CSV: "/plans/shop.csv?" + query.Encode()}
	for _, b := range plannedBakes(query) {
		title, res, err := s.planned(c, b)
		if err != nil {
			return err
		}
		if res.Refused != nil {
			v.Faults = append(v.Faults, cannotBake(title, res))
			continue
		}
		results, names = append(results, res), append(names, title)
	}
	v.Names = phrase.And(names)
	if len(names) == 0 {
		v.Names = "no bake"
	}
	buys := adapt.Shopping(results, s.kit)
	v.fill(buys, s.currency())
	switch {
	case strings.HasSuffix(c.Request.URL.Path, ".txt"):
		attach(c, "text/plain; charset=utf-8", "to-buy.txt", v.text())
	case strings.HasSuffix(c.Request.URL.Path, ".csv"):
		attach(c, "text/csv; charset=utf-8", "to-buy.csv", shopCSV(buys))
	default:
		s.show(c, http.StatusOK, "shop", page{Title: "To buy", Nav: "shelf", Script: "card", View: v})
	}
	return nil
}

func attach(c *gin.Context, kind, name string, data []byte) {
	c.Header("Content-Disposition", `attachment; filename="`+name+`"`)
	c.Data(http.StatusOK, kind, data)
}

// fill sorts what has to be bought from what is in the house.
func (v *shopView) fill(buys []adapt.Buy, currency string) {
	var have []string
	total, priced := 0.0, true
	for _, b := range buys {
		if b.Buy == "" {
			have = append(have, b.Name)
			continue
		}
		row := shopRow{Buy: b.Buy, Name: b.Name, Labels: b.Labels}
		if b.Packs > 0 {
			row.Need = fmt.Sprintf("(%s needed)", measure.Grams(b.Grams-b.Have))
		}
		if b.Cost > 0 {
			row.Cost = fmt.Sprintf("%s %.2f", currency, b.Cost)
			total += b.Cost
		} else {
			priced = false
		}
		v.Rows = append(v.Rows, row)
	}
	v.Have = strings.Join(have, ", ")
	if total > 0 {
		v.Total = fmt.Sprintf("%s %.2f", currency, total)
		if !priced {
			v.Total = "At least " + v.Total + ": not all have a price in the larder"
		}
		v.Total += "."
	}
}

// text is the list as plain text, a line each.
func (v *shopView) text() []byte {
	var b strings.Builder
	fmt.Fprintf(&b, "To buy for %s\n\n", v.Names)
	for _, r := range v.Rows {
		fmt.Fprintf(&b, "[ ] %s %s %s", r.Buy, r.Name, r.Need)
		b.WriteString("\n")
		for _, l := range r.Labels {
			fmt.Fprintf(&b, "      %s\n", l)
		}
	}
	return []byte(b.String())
}

func shopCSV(buys []adapt.Buy) []byte {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	_ = w.Write([]string{"ingredient", "name", "grams", "have", "buy", "cost", "labels"}) // a buffer takes all
	for _, x := range buys {
		_ = w.Write([]string{
			string(x.Ingredient), x.Name, measure.Digits(x.Grams, 4), measure.Digits(x.Have, 4), x.Buy, measure.Digits(x.Cost, 4), strings.Join(x.Labels, "; "),
		})
	}
	w.Flush()
	return b.Bytes()
}

// shopAddress is the list's address for the bakes of a plan.
func shopAddress(bakes []plannedBake) string {
	v, _ := url.Parse(planAddress(bakes))
	return "/plans/shop?" + v.RawQuery
}
