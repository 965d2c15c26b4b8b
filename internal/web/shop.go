package web

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/internal/store"
)

// shopView is one list for the bakes of a plan.
type shopView struct {
	Names, Have, Total string
	Faults             []string
	Rows               []shopRow
	Back               string
	Files              []hidden // forms in which it may be taken along: words and address
	Kept               int64    // the plan's id, 0 for one that is not kept
	Rev                int64    // of what was put into the house from it
	Ticked             int
	Instead            []string // ways to buy less
	Stocked            string   // what was put into the house from it, in words
}

// shopRow is something to buy.
type shopRow struct {
	ID                    string
	Buy, Name, Need, Cost string
	Spare                 string
	Labels                []string
	On                    bool // it is ticked off
}

// shop is the list of what has to be bought for the bakes of a plan: as a page, as text, as Markdown
// or as CSV.
func (s *Server) shop(c *gin.Context) error {
	query := c.Request.URL.Query()
	asked := url.Values{"b": query["b"]}.Encode()
	return s.showShop(c, plannedBakes(query), shopView{Back: "/plans?" + query.Encode()}, "/plans/shop", "?"+asked, nil)
}

// keptShop is that of a kept plan, which remembers what is ticked off.
func (s *Server) keptShop(c *gin.Context) error {
	p, err := s.store.Plan(c.Request.Context(), paramID(c))
	if err != nil {
		return err
	}
	query, err := url.ParseQuery(p.Query)
	if err != nil {
		return err
	}
	v := shopView{Back: planURL(p.ID), Kept: p.ID, Rev: store.RevOf(p.Stocked), Ticked: len(p.Bought)}
	var in []string
	for id := range p.Stocked {
		if i := s.kit.Larder.Get(larder.ID(id)); i != nil {
			in = append(in, i.Name)
		}
	}
	slices.Sort(in)
	v.Stocked = phrase.And(in)
	return s.showShop(c, plannedBakes(query), v, planURL(p.ID)+"/shop", "", p.Bought)
}

func (s *Server) showShop(c *gin.Context, bakes []plannedBake, v shopView, path, query string, bought []string) error {
	names, results, faults, err := s.allPlanned(c, bakes)
	if err != nil {
		return err
	}
	v.Faults, v.Names = faults, phrase.And(names)
	if len(names) == 0 {
		v.Names = "no bake"
	}
	for _, f := range [][2]string{{"As text", ".txt"}, {"As Markdown", ".md"}, {"As CSV", ".csv"}} {
		v.Files = append(v.Files, hidden{f[0], path + f[1] + query})
	}
	buys := adapt.Shopping(results, s.kit)
	v.Instead = adapt.Instead(results, s.kit)
	servings := 0.0
	for _, r := range results {
		servings += float64(r.Recipe.Servings)
	}
	v.fill(buys, s.currency(), servings, bought)
	switch at := c.Request.URL.Path; {
	case strings.HasSuffix(at, ".txt"):
		attach(c, "text/plain; charset=utf-8", "to-buy.txt", v.text("[ ] ", "      "))
	case strings.HasSuffix(at, ".md"):
		attach(c, "text/markdown; charset=utf-8", "to-buy.md", v.text("- [ ] ", "  - "))
	case strings.HasSuffix(at, ".csv"):
		attach(c, "text/csv; charset=utf-8", "to-buy.csv", shopCSV(buys))
	default:
		s.show(c, http.StatusOK, "shop", page{Title: "To buy", Nav: "plans", Script: "shop", View: v})
	}
	return nil
}

func attach(c *gin.Context, kind, name string, data []byte) {
	c.Header("Content-Disposition", `attachment; filename="`+name+`"`)
	c.Data(http.StatusOK, kind, data)
}

// fill sorts what has to be bought from what is in the house.
func (v *shopView) fill(buys []adapt.Buy, currency string, servings float64, bought []string) {
	var have []string
	total, priced := 0.0, true
	for _, b := range buys {
		if b.Buy == "" {
			have = append(have, b.Name)
			continue
		}
		row := shopRow{
			ID: string(b.Ingredient), Buy: b.Buy, Name: b.Name, Spare: b.Spare, On: slices.Contains(bought, string(b.Ingredient)),
		}
		for _, l := range b.Labels {
			row.Labels = append(row.Labels, phrase.Capital(strings.TrimPrefix(l, b.Name+": ")))
		}
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
	if total <= 0 {
		return
	}
	v.Total = fmt.Sprintf("%s %.2f", currency, total)
	if servings > 0 {
		v.Total += fmt.Sprintf(", %s %.2f a portion", currency, total/servings)
	}
	if !priced {
		v.Total = "At least " + v.Total + ": not all have a price in the larder"
	}
	v.Total += "."
}

// text is the list as plain text or Markdown, a line each with what is to be read below it.
func (v *shopView) text(box, below string) []byte {
	var b strings.Builder
	title := "To buy for " + v.Names
	if strings.HasPrefix(box, "-") {
		title = "# " + title
	}
	fmt.Fprintf(&b, "%s\n\n", title)
	for _, why := range v.Faults { // what is not on the list
		fmt.Fprintf(&b, "%s\n\n", why)
	}
	for _, r := range v.Rows {
		box := box
		if r.On {
			box = strings.Replace(box, "[ ]", "[x]", 1)
		}
		b.WriteString(strings.TrimRight(fmt.Sprintf("%s%s %s %s", box, r.Buy, r.Name, r.Need), " ") + "\n")
		for _, l := range r.Labels {
			fmt.Fprintf(&b, "%s%s\n", below, l)
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

// changeShop ticks off what is bought, puts it into the house, and takes it out again.
func (s *Server) changeShop(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	id := paramID(c)
	p, err := s.store.Plan(c.Request.Context(), id)
	if err != nil {
		return err
	}
	brings := map[string]float64{}
	if form.Get("do") == "stock" {
		query, _ := url.ParseQuery(p.Query)
		_, results, _, err := s.allPlanned(c, plannedBakes(query))
		if err != nil {
			return err
		}
		for _, b := range adapt.Shopping(results, s.kit) {
			if b.Buy != "" {
				brings[string(b.Ingredient)] = b.Brings(s.kit.Larder.Get(b.Ingredient))
			}
		}
	}
	err = s.store.StockFromList(c.Request.Context(), id, func(p *store.Plan) (map[string]float64, error) {
		if rev := seenRev(form); rev != store.AnyRev && rev != store.RevOf(p.Stocked) { // ticks change the plan meanwhile, and not that
			return nil, store.ErrChanged
		}
		return tickOff(p, form, brings), nil
	}, func(p *store.Plan, moved map[string]float64) {
		if p.Stocked == nil {
			p.Stocked = map[string]float64{}
		}
		for of, g := range moved {
			if p.Stocked[of] += g; p.Stocked[of] <= 0 || g < 0 {
				delete(p.Stocked, of)
			}
		}
	})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, planURL(id)+"/shop")
	return nil
}

// tickOff ticks what is bought on a plan's list, and says what of it moves into the house or out of it, g by food; brings is how much
// of each would come.
func tickOff(p *store.Plan, form url.Values, brings map[string]float64) map[string]float64 {
	moves := map[string]float64{}
	switch form.Get("do") {
	case "tick": // one, whatever others tick meanwhile
		of := form.Get("bought")
		p.Bought = slices.DeleteFunc(p.Bought, func(x string) bool { return x == of })
		if form.Get("on") == "1" && of != "" {
			p.Bought = append(p.Bought, of)
		}
	case "stock":
		for _, of := range form["bought"] {
			if g, ok := brings[of]; ok {
				moves[of] = g
			}
		}
		p.Bought = slices.DeleteFunc(p.Bought, func(x string) bool { return slices.Contains(form["bought"], x) }) // others tick meanwhile
	case "unstock":
		for _, of := range slices.Sorted(maps.Keys(p.Stocked)) {
			moves[of] = -p.Stocked[of]
			if !slices.Contains(p.Bought, of) {
				p.Bought = append(p.Bought, of)
			}
		}
	default:
		p.Bought = form["bought"]
	}
	return moves
}

// useByBake takes what a finished bake really used from the house, or gives it back where it goes on after all. A
// bake of a plan leaves that to the plan.
func (s *Server) useByBake(c *gin.Context, t *sitting) error {
	over := !t.state.Over.IsZero()
	if !s.home.Day.Uses || t.Plan != 0 || over == (t.Used != nil) {
		return nil
	}
	takes := map[string]float64{}
	if over {
		for n := range t.state.Strips {
			for line, g := range t.state.Strips[n].In {
				if i := s.kit.Larder.Get(t.sheets[n].Recipe.Line(line).Ingredient); i != nil && i.Pack != nil && i.Pack.Stock > 0 {
					takes[string(i.ID)] += g
				}
			}
		}
	}
	return s.store.UseByBake(c.Request.Context(), t.ID, over, takes)
}

// useStock takes what a finished plan's bakes used from the house, or gives it back.
func (s *Server) useStock(c *gin.Context, p store.Plan, finished bool) error {
	if !s.home.Day.Uses || finished == (p.Used != nil) {
		return nil
	}
	var takes map[string]float64
	if finished {
		query, _ := url.ParseQuery(p.Query)
		_, results, _, err := s.allPlanned(c, plannedBakes(query))
		if err != nil {
			return err
		}
		takes = map[string]float64{}
		for id, g := range adapt.Used(results, s.kit) {
			takes[string(id)] = g
		}
	}
	return s.store.UseByPlan(c.Request.Context(), p.ID, finished, takes)
}
