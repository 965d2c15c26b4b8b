package web

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"math"
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
	v := shopView{Back: planURL(p.ID), Kept: p.ID, Ticked: len(p.Bought)}
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
	ticked := form["bought"]
	if form.Get("do") == "tick" { // one, whatever others tick meanwhile
		ticked = nil
	}
	moved := map[string]float64{}
	switch form.Get("do") {
	case "stock":
		query, _ := url.ParseQuery(p.Query)
		_, results, _, err := s.allPlanned(c, plannedBakes(query))
		if err != nil {
			return err
		}
		for _, b := range adapt.Shopping(results, s.kit) {
			if slices.Contains(ticked, string(b.Ingredient)) && b.Buy != "" {
				moved[string(b.Ingredient)] = b.Brings(s.kit.Larder.Get(b.Ingredient))
			}
		}
		ticked = nil
	case "unstock":
		for of, g := range p.Stocked {
			moved[of] = -g
		}
		for of := range p.Stocked {
			ticked = append(ticked, of)
		}
	}
	if moved, err = s.moveStock(c, moved); err != nil {
		return err
	}
	err = s.store.ChangePlan(c.Request.Context(), id, store.AnyRev, func(p *store.Plan) error {
		if form.Get("do") == "tick" {
			of := form.Get("bought")
			p.Bought = slices.DeleteFunc(p.Bought, func(x string) bool { return x == of })
			if form.Get("on") == "1" && of != "" {
				p.Bought = append(p.Bought, of)
			}
			return nil
		}
		p.Bought = ticked
		if p.Stocked == nil {
			p.Stocked = map[string]float64{}
		}
		for of, g := range moved {
			if p.Stocked[of] += g; p.Stocked[of] <= 0 || g < 0 {
				delete(p.Stocked, of)
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, planURL(id)+"/shop")
	return nil
}

// moveStock adds grams to what is in the house, or takes them out; it never goes below nothing. It
// returns what was moved.
func (s *Server) moveStock(c *gin.Context, grams map[string]float64) (map[string]float64, error) {
	if len(grams) == 0 {
		return nil, nil
	}
	all, _, err := s.store.Own(c.Request.Context())
	if err != nil {
		return nil, err
	}
	moved := map[string]float64{}
	var changed []larder.Own
	for id, g := range grams {
		o := larder.Own{ID: larder.ID(id)}
		if n := slices.IndexFunc(all, func(x larder.Own) bool { return x.ID == o.ID }); n >= 0 {
			o = all[n]
		}
		pack := larder.Pack{}
		if o.Pack != nil {
			pack = *o.Pack
		}
		now := math.Max(0, pack.Stock+g)
		moved[id], pack.Stock = now-pack.Stock, now
		o.Pack = &pack
		changed = append(changed, o)
	}
	return moved, s.store.SetOwn(c.Request.Context(), changed...)
}

// useByBake takes what a finished bake really used from the house, or gives it back where it goes on after all. A
// bake of a plan leaves that to the plan.
func (s *Server) useByBake(c *gin.Context, t *sitting) error {
	over := !t.state.Over.IsZero()
	if !s.home.Day.Uses || t.Plan != 0 || over == (t.Used != nil) {
		return nil
	}
	grams, used := map[string]float64{}, map[string]float64(nil)
	for id, g := range t.Used {
		grams[id] = g
	}
	if over {
		used = map[string]float64{}
		for n := range t.state.Strips {
			for line, g := range t.state.Strips[n].In {
				if i := s.kit.Larder.Get(t.sheets[n].Recipe.Line(line).Ingredient); i != nil && i.Pack != nil && i.Pack.Stock > 0 {
					grams[string(i.ID)] -= g
				}
			}
		}
	}
	moved, err := s.moveStock(c, grams)
	if err != nil {
		return err
	}
	for id, g := range moved {
		if over {
			used[id] = -g
		}
	}
	return s.store.SetUsed(c.Request.Context(), t.ID, used)
}

// useStock takes what a finished plan's bakes used from the house, or gives it back.
func (s *Server) useStock(c *gin.Context, p store.Plan, finished bool) error {
	if !s.home.Day.Uses || finished == (p.Used != nil) {
		return nil
	}
	grams := map[string]float64{}
	if finished {
		query, _ := url.ParseQuery(p.Query)
		_, results, _, err := s.allPlanned(c, plannedBakes(query))
		if err != nil {
			return err
		}
		for id, g := range adapt.Used(results, s.kit) {
			grams[string(id)] = -g
		}
	} else {
		for id, g := range p.Used {
			grams[id] = g
		}
	}
	moved, err := s.moveStock(c, grams)
	if err != nil {
		return err
	}
	return s.store.ChangePlan(c.Request.Context(), p.ID, store.AnyRev, func(p *store.Plan) error {
		p.Used = nil
		if finished {
			p.Used = map[string]float64{}
			for id, g := range moved {
				p.Used[id] = -g
			}
		}
		return nil
	})
}
