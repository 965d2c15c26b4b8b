package web

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/table"
	"kollaris/internal/store"
)

// seats are those at the table, what they must not have read by today's rule, and by id
// what there is to ask of them where that changes it.
type seats struct {
	people []store.Person
	asked  map[int64][]diet.Changed
}

// covers says in full what bans shut out, those aside that are just one food.
func covers(bans []string) string {
	var out []string
	for _, b := range bans {
		if c := diet.Covers(b); c != "" {
			out = append(out, c)
		}
	}
	return strings.Join(out, " · ")
}

// peopleView is those at the table, with the sentence of one of them open.
type peopleView struct {
	People []personView
	New    personView
	Undo   *personView
	Ask    []personView // of whom there is something to ask
}

type personView struct {
	ID, Rev  int64
	Name     string
	Sentence string
	Diets    []checkbox
	F        fields // name, bans, portion
	Covers   string // what the bans shut out, in full
	Asked    []diet.Changed
	Limits   []field
	Degrees  []checkbox
	Guest    bool
	Open     bool
}

func (s *Server) personView(p store.Person) personView {
	v := personView{ID: p.ID, Rev: p.Rev, Name: p.Name, Sentence: p.Sentence(), Guest: p.Guest}
	for _, d := range diet.Diets {
		v.Diets = append(v.Diets, checkbox{string(d.ID), string(d.ID), d.Says, slices.Contains(p.Diets, d.ID)})
	}
	var bans []string
	for _, b := range p.Bans {
		bans = append(bans, diet.BanWords(b))
	}
	v.F = formFields(
		fmt.Sprintf("person-%d", p.ID),
		field{Name: "name", Words: "Who", Value: p.Name, Hint: "a name", Size: 14},
		field{
			Name: "bans", Words: "must not have", Value: strings.Join(append(bans, p.Unread...), ", "),
			Hint: "nuts, sesame", Size: 24, List: "bans",
		},
		field{Name: "portion", Words: "Eats", Unit: "servings", Hint: "1", Size: 4, Mode: "decimal"},
	)
	v.Covers = covers(p.Bans)
	for _, what := range diet.Limitable() {
		f := limitBox(fmt.Sprint(p.ID), what)
		for _, l := range p.Limits {
			if l.What == what {
				f.Value = fmt.Sprintf("%g", l.Max)
			}
		}
		v.Limits = append(v.Limits, f)
	}
	strict := p.Strict
	if strict == "" {
		strict = table.Upsets
	}
	for _, d := range table.Degrees {
		v.Degrees = append(v.Degrees, checkbox{ID: string(d.ID), Words: d.Words, On: d.ID == strict})
	}
	if p.Portion > 0 && p.Portion != 1 {
		v.F.set("portion", number(p.Portion))
	}
	return v
}

// readPerson reads the sentence's gaps; what cannot be used stays as typed with its
// fault.
func (s *Server) readPerson(form url.Values, p store.Person) (store.Person, *personView) {
	p.Name, p.Guest = strings.TrimSpace(form.Get("name")), form.Get("guest") != ""
	p.Diets, p.Bans, p.Limits, p.Portion = nil, nil, nil, 0
	faults := map[string]string{}
	if p.Name == "" || len(p.Name) > 40 {
		faults["name"] = "Say who it is: a name or a role of up to 40 letters."
	}
	for _, id := range form["diet"] {
		if _, ok := diet.Find(diet.ID(id)); ok {
			p.Diets = append(p.Diets, diet.ID(id))
		}
	}
	must, bad := diet.ParseBans(form.Get("bans"), s.kit.Larder)
	for _, m := range bad {
		faults["bans"] = strings.TrimSpace(faults["bans"] + " " + phrase.Sentence(m.Why))
	}
	must = diet.Demand{Diets: p.Diets}.With(must) // "no lactose" is a diet
	p.Diets, p.Bans = must.Diets, must.Bans
	for _, what := range diet.Limitable() {
		typed := strings.TrimSpace(form.Get("limit." + string(what)))
		if typed == "" {
			continue
		}
		l, err := diet.ParseLimit(string(what) + ":" + typed)
		if err != nil {
			faults["limit."+string(what)] = phrase.Sentence(err.Error())
			continue
		}
		p.Limits = append(p.Limits, l)
	}
	p.Strict = table.Strictness(form.Get("strict"))
	if p.Strict.Rank() == len(table.Degrees) {
		p.Strict = table.Upsets
	}
	if typed := strings.TrimSpace(form.Get("portion")); typed != "" {
		x, err := measure.ParseDecimal(typed)
		if err != nil || !(x > 0 && x <= 20) {
			faults["portion"] = fmt.Sprintf("“%s” is no number of servings: try 1 or 2.", typed)
		} else {
			p.Portion = x
		}
	}
	if len(faults) == 0 {
		return p, nil
	}
	v := s.personView(p)
	v.F, v.Open, v.Name = v.F.typed(form, faults), true, form.Get("name")
	for n := range v.Limits {
		f := &v.Limits[n]
		f.Value, f.Fault = form.Get(f.Name), faults[f.Name]
	}
	return p, &v
}
