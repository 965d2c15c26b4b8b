package web

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/recipe"
	"kollaris/internal/store"
)

// versionView is a kept version, as it was when it was kept.
type versionView struct {
	ID, RecipeID int64
	Title        string
	For          string
	Kept         string
	Verdict      verdictView
	Lines        []lineRow
	Ledger       []ledgerRow
	Steps        []stepRow
	Slice        sliceView
	Bake         bakeView
	Cautions     []cautionView
	Doubts       []string
	Confidence   string
	Again        string // address of the bench with the same request
	Facts        string
	Engine       string
	Adapted      bool
	Take         takeView
}

// keep keeps what stands on the bench as a version under its recipe.
func (s *Server) keep(c *gin.Context) {
	if err := c.Request.ParseForm(); err != nil {
		s.fail(c, http.StatusRequestEntityTooLarge, broken)
		return
	}
	r, req, faults, res, err := s.loadBench(c, c.Request.PostForm)
	if err != nil {
		s.failed(c, err)
		return
	}
	if len(faults) > 0 || res.Refused != nil {
		v := s.benchView(r, req, faults, res, "", s.kitchen(c), s.currency(c))
		if res.Refused != nil {
			v.Faults = append(v.Faults, "Nothing was kept: this cannot be adapted as asked.")
		}
		s.show(c, http.StatusUnprocessableEntity, "adapt", page{Title: r.Title, Nav: "shelf", Script: "bench", View: v})
		return
	}
	title := versionTitle(r.Title, req)
	id, err := s.store.KeepAdapted(c, r.ID, r.Head, title, res)
	if err != nil {
		s.failed(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/versions/%d", id))
}

// versionTitle names a version by what it is for.
func versionTitle(title string, req adapt.Request) string {
	if words := req.Demand().Words(); len(words) > 0 {
		return title + ", " + strings.Join(words, ", ")
	}
	return title + ", as written"
}

func (s *Server) loadVersion(c *gin.Context) (versionView, *store.Version, error) {
	ver, err := s.store.Version(c, paramID(c))
	if err != nil {
		return versionView{}, nil, err
	}
	return s.versionView(ver, s.kitchen(c)), ver, nil
}

func (s *Server) versionView(ver *store.Version, k measure.Kitchen) versionView {
	v := versionView{ID: ver.ID, RecipeID: ver.Recipe, Title: ver.Title, Kept: ver.CreatedAt.Local().Format("2 January 2006, 15:04"), Engine: ver.Engine, Adapted: ver.Adapted(), Take: takeView{ver.ID, forms}}
	if res := ver.Result; res != nil {
		changed := map[recipe.LineID]bool{}
		for _, ch := range res.Changes {
			for _, t := range ch.To {
				changed[t.Line] = true
			}
		}
		v.For = strings.Join(res.Request.Demand().Words(), ", ")
		v.Verdict = verdictOf(res)
		v.Lines = s.lineRows(res, changed, k)
		v.Ledger = ledgerOf(res, res.Request)
		v.Steps = stepRows(res)
		v.Slice = sliceOf(res, res.Recipe, s.kit.Larder)
		v.Bake = bakeOf(res, k)
		v.Doubts, v.Confidence = res.Doubts, confidenceWords(string(res.Confidence))
		for _, ca := range res.Cautions {
			v.Cautions = append(v.Cautions, cautionView{ca.Text, ca.Defers})
		}
		v.Again = fmt.Sprintf("/recipes/%d/adapt?%s", ver.Recipe, ver.Request)
		v.Facts = fmt.Sprintf("serves %d", res.Recipe.Servings)
		return v
	}
	res := &adapt.Result{Recipe: ver.Doc, Measures: map[int]string{}}
	for _, l := range ver.Doc.Lines {
		res.Measures[int(l.ID)] = strings.TrimSpace(l.Amount.String() + " " + l.Unit)
	}
	v.Lines = s.lineRows(res, nil, k)
	for _, st := range ver.Doc.Steps {
		v.Steps = append(v.Steps, stepRow{Text: st.Text})
	}
	v.Facts = factsWords(ver.Doc)
	v.Again = fmt.Sprintf("/recipes/%d/adapt", ver.Recipe)
	return v
}

func (s *Server) version(c *gin.Context) {
	v, _, err := s.loadVersion(c)
	if err != nil {
		s.failed(c, err)
		return
	}
	s.show(c, http.StatusOK, "version", page{Title: v.Title, Nav: "shelf", View: v})
}

// card is the version as one sheet to print.
func (s *Server) card(c *gin.Context) {
	v, _, err := s.loadVersion(c)
	if err != nil {
		s.failed(c, err)
		return
	}
	s.show(c, http.StatusOK, "card", page{Title: v.Title, Nav: "shelf", Script: "card", View: v})
}

// settingsView is how the household measures.
type settingsView struct {
	Groups []settingGroup
	Saved  bool
}

type settingGroup struct {
	Name, Label, Hint string
	Options           []settingOption
}

type settingOption struct {
	Value, Words string
	On           bool
}

func (s *Server) settings(c *gin.Context) { s.showSettings(c, c.Query("saved") != "") }

func (s *Server) showSettings(c *gin.Context, saved bool) {
	h, err := s.store.Household(c)
	if err != nil {
		s.failed(c, err)
		return
	}
	k := h.Kitchen
	labels := "eu"
	if h.Labels == "us" {
		labels = "us"
	}
	num := func(x measure.Millilitres) string { return fmt.Sprintf("%g", float64(x)) }
	flag := func(b bool) string {
		if b {
			return "yes"
		}
		return "no"
	}
	groups := []settingGroup{
		{"cup", "A cup is", "Which cup your recipes mean. US customary is 236.6 ml, US labels use 240, metric countries 250.", []settingOption{{Value: "236.588", Words: "236.6 ml, US"}, {Value: "240", Words: "240 ml"}, {Value: "250", Words: "250 ml, metric"}}},
		{"tablespoon", "A tablespoon is", "Australian tablespoons hold four teaspoons.", []settingOption{{Value: "14.787", Words: "14.8 ml, US"}, {Value: "15", Words: "15 ml, metric"}, {Value: "20", Words: "20 ml, Australian"}}},
		{"filling", "Flour gets into the cup", "A cup of plain flour weighs 113, 120 or 142 g by how it was filled.", []settingOption{{Value: "sifted", Words: "sifted into it"}, {Value: "spooned", Words: "spooned in and levelled"}, {Value: "scooped", Words: "scooped and levelled"}}},
		{"cups", "Show first", "", []settingOption{{Value: "no", Words: "grams"}, {Value: "yes", Words: "cups and spoons"}}},
		{"fine", "The smallest thing your scale shows", "With a fine scale lift and salt are given in tenths of a gram.", []settingOption{{Value: "no", Words: "1 g"}, {Value: "yes", Words: "0.1 g"}}},
		{"labels", "Packets in your house carry", "How the table on a packet counts: EU carbohydrate is without fibre, US carbohydrate with it.", []settingOption{{Value: "eu", Words: "an EU table, per 100 g"}, {Value: "us", Words: "a US panel, per serving"}}},
		{"currency", "Prices in", "", []settingOption{{Value: "€", Words: "€"}, {Value: "£", Words: "£"}, {Value: "$", Words: "$"}, {Value: "₹", Words: "₹"}, {Value: "kr", Words: "kr"}}},
		{"fahrenheit", "Oven in", "", []settingOption{{Value: "no", Words: "°C"}, {Value: "yes", Words: "°F"}}},
	}
	now := map[string]string{"cup": num(k.Cup), "tablespoon": num(k.Tablespoon), "filling": k.Filling, "cups": flag(k.Cups), "fine": flag(k.FineScale), "labels": labels, "currency": s.currency(c), "fahrenheit": flag(k.Fahrenheit)}
	for n := range groups {
		for m := range groups[n].Options {
			groups[n].Options[m].On = groups[n].Options[m].Value == now[groups[n].Name]
		}
	}
	s.show(c, http.StatusOK, "settings", page{Title: "How you measure", Nav: "settings", View: settingsView{groups, saved}})
}

func (s *Server) saveSettings(c *gin.Context) {
	h, err := s.store.Household(c)
	if err != nil {
		s.failed(c, err)
		return
	}
	if err := c.Request.ParseForm(); err != nil {
		s.fail(c, http.StatusBadRequest, broken)
		return
	}
	form := c.Request.PostForm
	pick := func(name string, from map[string]measure.Millilitres, now measure.Millilitres) measure.Millilitres {
		if v, ok := from[form.Get(name)]; ok {
			return v
		}
		return now
	}
	k := &h.Kitchen
	k.Cup = pick("cup", map[string]measure.Millilitres{"236.588": measure.USCup, "240": 240, "250": 250}, k.Cup)
	k.Tablespoon = pick("tablespoon", map[string]measure.Millilitres{"14.787": measure.USTablespoon, "15": 15, "20": 20}, k.Tablespoon)
	switch f := form.Get("filling"); f {
	case "sifted", "spooned", "scooped":
		k.Filling = f
	}
	switch cur := form.Get("currency"); cur {
	case "€", "£", "$", "₹", "kr":
		h.Currency = cur
	}
	if l := form.Get("labels"); l == "eu" || l == "us" {
		h.Labels = l
	}
	k.Cups, k.FineScale, k.Fahrenheit = form.Get("cups") == "yes", form.Get("fine") == "yes", form.Get("fahrenheit") == "yes"
	if err := s.store.SetHousehold(c, h); err != nil {
		s.failed(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/settings?saved=1")
}

// sourcesView lists where the numbers come from.
type sourcesView struct {
	Ingredients []sourceRow
	Schools     []schoolRow
	Count       int
}

type sourceRow struct {
	Name, Family, Source, Weights, Allergens string
	Energy, Water, Fat, Sugars               string
}

type schoolRow struct{ Use, Title, Parts, Source string }

func (s *Server) sources(c *gin.Context) {
	v := sourcesView{Count: len(s.kit.Larder.All())}
	for _, i := range s.kit.Larder.All() {
		n := nutritionPer100(i)
		row := sourceRow{Name: i.Name, Family: strings.ReplaceAll(string(i.Family), "-", " "), Source: i.Sources["macro"].Words(), Energy: fmt.Sprintf("%.0f", n.Energy), Water: measure.Digits(i.Facts[larder.Water], 3), Fat: measure.Digits(i.Facts[larder.Fat], 3), Sugars: measure.Digits(i.Facts.Sugars(), 3)}
		var ws []string
		for _, w := range i.Weights {
			ws = append(ws, fmt.Sprintf("%s %s %s (%s)", w.How, w.Unit, w.Grams, w.Source.Tag().Words()))
		}
		row.Weights = strings.Join(ws, "; ")
		row.Allergens = holdsWords(i)
		v.Ingredients = append(v.Ingredients, row)
	}
	for _, u := range s.kit.Swaps.Uses() {
		for _, sc := range u.Schools {
			var ps []string
			for _, p := range sc.Parts {
				ps = append(ps, fmt.Sprintf("%s %s", measure.Grams(p.Grams), s.kit.Larder.Get(p.ID).Name))
			}
			v.Schools = append(v.Schools, schoolRow{fmt.Sprintf("%g g %s", u.Per, u.Title), sc.Title, strings.Join(ps, " + "), sc.Source.Words()})
		}
	}
	s.show(c, http.StatusOK, "sources", page{Title: "Where the numbers come from", Nav: "sources", View: v})
}
