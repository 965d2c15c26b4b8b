package web

import (
	"cmp"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/measure"
	"kollaris/internal/store"
)

// settingsView is how the household measures.
type settingsView struct {
	Groups    []settingGroup
	Saved     bool
	Settled   []settledRow // what corrections taught
	Forgotten string
	Rev       int64 // of the settings that are shown
	Day       dayView
	Say       string // of bringing everything back
	Bad       bool
	Backups   backupsView
	Door      doorView
}

// settledRow is a phrase or a measure whose meaning the household settled.
type settledRow struct{ Key, Words string }

type settingGroup struct {
	Name, Label, Hint string
	Options           []settingOption
}

type settingOption struct {
	Value, Words string
	On           bool
}

func (s *Server) settings(c *gin.Context) error {
	return s.showSettings(c, http.StatusOK, c.Query("saved") != "", nil)
}

// showSettings shows them; day is what was typed for the plans and cannot be kept, nil for none; invited the guests' token
// where it was just made.
func (s *Server) showSettings(c *gin.Context, status int, saved bool, day *dayView, invited ...string) error {
	h := s.home
	if day == nil {
		day = &dayView{Fields: dayFields(h.Day, h.Kitchen), Rev: h.Rev, Uses: h.Day.Uses, Saved: c.Query("day") != ""}
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
		{
			"cup", "A cup is",
			"Which cup your recipes mean. US customary is 236.6 ml, US labels use 240, metric countries 250.",
			[]settingOption{
				{Value: "236.588", Words: "236.6 ml, US"}, {Value: "240", Words: "240 ml"},
				{Value: "250", Words: "250 ml, metric"},
			},
		},
		{
			"tablespoon", "A tablespoon is", "Australian tablespoons hold four teaspoons.",
			[]settingOption{
				{Value: "14.787", Words: "14.8 ml, US"}, {Value: "15", Words: "15 ml, metric"},
				{Value: "20", Words: "20 ml, Australian"},
			},
		},
		{
			"filling", "Flour gets into the cup", "A cup of plain flour weighs 113, 120 or 142 g by how it was filled.",
			[]settingOption{
				{Value: "sifted", Words: "sifted into it"}, {Value: "spooned", Words: "spooned in and levelled"},
				{Value: "scooped", Words: "scooped and levelled"},
			},
		},
		{
			"cups", "Show first", "",
			[]settingOption{{Value: "no", Words: "grams"}, {Value: "yes", Words: "cups and spoons"}},
		},
		{
			"fine", "The smallest thing your scale shows",
			"With a fine scale lift and salt are given in tenths of a gram.",
			[]settingOption{{Value: "no", Words: "1 g"}, {Value: "yes", Words: "0.1 g"}},
		},
		{
			"eggs", "Medium and large eggs are", "A large egg is 60 g without its shell in Europe, 50 g in the US.",
			[]settingOption{
				{Value: "", Words: "as the recipe’s words tell"}, {Value: "eu", Words: "European and UK sizes"}, {Value: "us", Words: "US sizes"},
			},
		},
		{
			"labels", "Packets in your house carry",
			"How the table on a packet counts: EU carbohydrate is without fibre, US carbohydrate with it.",
			[]settingOption{
				{Value: "eu", Words: "an EU table, per 100 g"}, {Value: "us", Words: "a US panel, per serving"},
			},
		},
		{
			"currency", "Prices in", "",
			[]settingOption{
				{Value: "€", Words: "€"}, {Value: "£", Words: "£"}, {Value: "$", Words: "$"}, {Value: "₹", Words: "₹"},
				{Value: "kr", Words: "kr"},
			},
		},
		{
			"paper", "Paper in the printer", "",
			[]settingOption{{Value: "a4", Words: "A4"}, {Value: "letter", Words: "Letter"}},
		},
		{
			"keys", "Single letters as shortcuts", "Press ? on any page to see its keys.",
			[]settingOption{{Value: "on", Words: "on"}, {Value: "off", Words: "off"}},
		},
		{"fahrenheit", "Oven in", "", []settingOption{{Value: "no", Words: "°C"}, {Value: "yes", Words: "°F"}}},
	}
	now := map[string]string{
		"cup": num(k.Cup), "tablespoon": num(k.Tablespoon), "filling": k.Filling, "eggs": string(k.Eggs), "cups": flag(k.Cups),
		"fine": flag(k.FineScale), "labels": labels, "currency": s.currency(),
		"fahrenheit": flag(k.Fahrenheit), "paper": cmp.Or(h.Paper, "a4"), "keys": cmp.Or(h.Keys, "on"),
	}
	for n := range groups {
		for m := range groups[n].Options {
			groups[n].Options[m].On = groups[n].Options[m].Value == now[groups[n].Name]
		}
	}
	known, err := s.store.Remembered(c.Request.Context())
	if err != nil {
		return err
	}
	backups, err := s.backupsOf(c)
	if err != nil {
		return err
	}
	door, err := s.doorOf(c)
	if err != nil {
		return err
	}
	for _, token := range invited {
		if err := door.invite(token); err != nil {
			return err
		}
	}
	s.show(
		c, status, "settings",
		page{
			Title: "Settings", Nav: "settings",
			View: settingsView{groups, saved, s.settled(known), c.Query("forgot"), h.Rev, *day, c.Query("say"), c.Query("bad") != "", backups, door},
		},
	)
	return nil
}

// settled lists what corrections taught, measures first.
func (s *Server) settled(known store.Remembered) []settledRow {
	var out []settledRow
	for _, key := range slices.Sorted(maps.Keys(known.Amounts)) {
		unit, what, _ := strings.Cut(key, " ")
		words := map[string]string{"piece": "One " + what, "some": "“" + what + "” without an amount"}[unit]
		out = append(
			out,
			settledRow{key, cmp.Or(words, "A "+unit+" of "+what) + " is " + measure.Grams(known.Amounts[key]).String()},
		)
	}
	for _, key := range slices.Sorted(maps.Keys(known.Phrases)) {
		if i := s.kit.Larder.Get(known.Phrases[key]); i != nil {
			out = append(out, settledRow{key, "“" + key + "” is " + i.Name})
		}
	}
	return out
}

// forget puts away one thing that was settled, or brings it back.
func (s *Server) forget(c *gin.Context) error {
	key := c.PostForm("key")
	back := c.PostForm("do") == "return"
	if err := s.store.Forget(c.Request.Context(), key, !back); err != nil {
		return err
	}
	if back {
		c.Redirect(http.StatusSeeOther, "/settings#settled")
		return nil
	}
	c.Redirect(http.StatusSeeOther, "/settings?forgot="+urlEscape(key)+"#settled")
	return nil
}

func (s *Server) saveSettings(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	if err := s.store.ChangeHousehold(c.Request.Context(), seenRev(form), func(h *store.Household) { readSettings(form, h) }); err != nil {
		return err
	}
	to := "/settings?saved=1"
	if form.Get("back") == "/" { // asked on the empty shelf
		to = "/"
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// readSettings lays what was chosen over the settings; what is none of the choices leaves
// them.
func readSettings(form url.Values, h *store.Household) {
	pick := func(name string, from map[string]measure.Millilitres, now measure.Millilitres) measure.Millilitres {
		if v, ok := from[form.Get(name)]; ok {
			return v
		}
		return now
	}
	k := &h.Kitchen
	k.Cup = pick("cup", map[string]measure.Millilitres{"236.588": measure.USCup, "240": 240, "250": 250}, k.Cup)
	k.Tablespoon = pick(
		"tablespoon", map[string]measure.Millilitres{"14.787": measure.USTablespoon, "15": 15, "20": 20}, k.Tablespoon,
	)
	switch f := form.Get("filling"); f {
	case "sifted", "spooned", "scooped":
		k.Filling = f
	}
	switch e := measure.EggSizes(form.Get("eggs")); e {
	case "", measure.EUEggs, measure.USEggs:
		if form.Has("eggs") {
			k.Eggs = e
		}
	}
	switch cur := form.Get("currency"); cur {
	case "€", "£", "$", "₹", "kr":
		h.Currency = cur
	}
	if l := form.Get("labels"); l == "eu" || l == "us" {
		h.Labels = l
	}
	switch k := form.Get("keys"); k {
	case "on", "off":
		h.Keys = map[string]string{"off": "off"}[k]
	}
	switch p := form.Get("paper"); p {
	case "a4", "letter":
		h.Paper = p
	}
	for name, to := range map[string]*bool{"cups": &k.Cups, "fine": &k.FineScale, "fahrenheit": &k.Fahrenheit} {
		switch form.Get(name) { // a key sends one alone
		case "yes":
			*to = true
		case "no":
			*to = false
		}
	}
}
