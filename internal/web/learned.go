package web

import (
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"kollaris/core/adapt"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/learn"
	"kollaris/core/measure"
	"kollaris/core/phrase"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// learned is what bakes taught; it asks the store once a request.
func (s *Server) learned(c *gin.Context) (*journal.Taught, error) {
	if s.taught == nil {
		taught, err := journal.Learned(c.Request.Context(), s.store)
		if err != nil {
			return nil, err
		}
		s.taught = &taught
	}
	return s.taught, nil
}

// taughtView is the page of what was learned.
type taughtView struct {
	Ovens  []ovenView
	Groups []learnedGroup
	Nobody bool // nothing was learned yet
	Spoon  fields
	Units  []choice
	Foods  []choice
	Fault  string
	Saved  string
}

// learnedGroup are the figures of a kind.
type learnedGroup struct {
	Words, Does, Source string
	Rows                []learnedRow
}

// learnedRow is one figure.
type learnedRow struct {
	Kind, Key, Of string
	Words         string // what was learned
	From          string // of how many bakes, how sure, how far shrunk
	Does          string // what it changes
	Forgotten     string // what of it counts no more
	Bag           bool   // a new bag forgets it
}

// learnedGroups are the kinds in the words of the page: what they are, and what each changes.
var learnedGroups = map[learn.Kind]learnedGroup{
	learn.Recipe: {Words: "How long a recipe takes you", Does: "Foretold times of it, plans and the oven page."},
	learn.Flour:  {Words: "What a flour drinks", Does: "The page before a bake offers to put it in from the start."},
	learn.Spoon:  {Words: "What your spoons weigh", Does: "Grams of recipes that are written in spoons and cups."},
	learn.Task:   {Words: "How long your hands take", Does: fmt.Sprintf("Plans, once a task was timed %d times.", leastTold)},
	learn.Taste:  {Words: "How sweet this table likes it", Does: "Nothing by itself: hold the sugar on the bench."},
}

// learnedPage is what Kollaris has learned, each figure with what it is from, what it changes and a way to forget it.
func (s *Server) learnedPage(c *gin.Context) error {
	return s.showLearned(c, http.StatusOK, url.Values{}, "")
}

func (s *Server) showLearned(c *gin.Context, status int, typed url.Values, fault string) error {
	taught, err := s.learned(c)
	if err != nil {
		return err
	}
	heads, err := s.store.Heads(c.Request.Context(), "", "", 0, -1)
	if err != nil {
		return err
	}
	titles := map[string]string{}
	for _, r := range heads {
		titles[strconv.FormatInt(r.ID, 10)] = r.Title
	}
	v := &taughtView{Fault: fault, Saved: c.Query("saved")}
	for _, kind := range journal.Kinds {
		g := learnedGroups[kind]
		if p, ok := learn.Priors[kind]; ok {
			g.Source = p.Source.Name()
		} else {
			g.Source = "a difference of a tenth is just noticed in water, in a bake rather more"
		}
		for _, f := range taught.Figures {
			if f.Kind == kind {
				g.Rows = append(g.Rows, s.learnedRow(f, titles))
			}
		}
		if len(g.Rows) > 0 {
			v.Groups = append(v.Groups, g)
		}
	}
	ovens, err := s.store.Ovens(c.Request.Context())
	if err != nil {
		return err
	}
	for _, o := range ovens {
		if l := o.Learned(); l.Readings+l.Bakes > 0 {
			v.Ovens = append(v.Ovens, ovenView{ID: o.ID, Name: o.Name, Sentence: ovenSentence(o, s.kit.Kitchen)})
		}
	}
	v.Nobody = len(v.Groups)+len(v.Ovens) == 0
	v.Spoon = formFields(
		"spoon", field{Name: "food", Words: "of", Value: typed.Get("food"), Hint: "ground flaxseed", Size: 22},
		field{Name: "grams", Words: "weighs", Value: typed.Get("grams"), Hint: "8.5", Mode: "decimal", Size: 5},
	)
	for _, u := range spoonUnits {
		v.Units = append(v.Units, choice{u.id, u.words, u.id == typed.Get("unit")})
	}
	s.show(c, status, "learned", page{Title: "What Kollaris has learned", Nav: "bakes", Script: "page", View: v})
	return nil
}

// spoonUnits are what a household may weigh a filling of.
var spoonUnits = []struct{ id, words string }{{"tbsp", "tablespoon"}, {"tsp", "teaspoon"}, {"cup", "cup"}}

// learnedRow says what was learned of one figure.
func (s *Server) learnedRow(f journal.Figure, titles map[string]string) learnedRow {
	r := learnedRow{Kind: string(f.Kind), Key: f.Key}
	n := f.Normal
	lo, hi := n.Interval()
	per := func(x float64) string { return signed(math.Round(100 * math.Expm1(x))) }
	from := fmt.Sprintf("from %s; eight times in ten it is %s to %s %%", counted(n.N, "bake", "bakes"), per(lo), per(hi))
	food := func(id string) string {
		if i := s.kit.Larder.Get(larder.ID(id)); i != nil {
			return i.Name
		}
		return id
	}
	switch f.Kind {
	case learn.Recipe:
		if r.Of = titles[f.Key]; r.Of == "" {
			r.Of = "a recipe that is off the shelf"
		}
		switch times := math.Round(100 * math.Expm1(n.Mean)); {
		case times > 0:
			r.Words = fmt.Sprintf("takes %.0f %% longer than foretold", times)
		case times < 0:
			r.Words = fmt.Sprintf("takes %.0f %% less than foretold", -times)
		default:
			r.Words = "takes as long as foretold"
		}
	case learn.Flour:
		r.Of, r.Bag = food(f.Key), true
		r.Words = fmt.Sprintf("drinks %s g of liquid for each 100 g, beside what is written", signed(math.Round(1000*n.Mean)/10))
		from = fmt.Sprintf("from %s; eight times in ten it is %s to %s g", counted(n.N, "bake", "bakes"), signed(math.Round(1000*lo)/10), signed(math.Round(1000*hi)/10))
	case learn.Spoon:
		unit, id, _ := strings.Cut(f.Key, " ")
		r.Of = fmt.Sprintf("Your %s of %s", unitWords(unit), food(id))
		if one, ok := s.spoonful(unit, id); ok {
			r.Words = fmt.Sprintf("weighs %s g, not %s", measure.Digits(one*math.Exp(n.Mean), 2), measure.Digits(one, 2))
		}
		from = fmt.Sprintf("from %s; eight times in ten it is %s to %s %%", counted(n.N, "weighing", "weighings"), per(lo), per(hi))
	case learn.Task:
		r.Of, r.Words = phrase.Capital(f.Key), fmt.Sprintf("takes %s %% of the minutes that are usual", measure.Digits(100*math.Exp(n.Mean), 2))
		if n.N < leastTold {
			r.Does = "Not enough yet to count on."
		}
	case learn.Taste:
		if r.Of = phrase.Capital(f.Key); f.Key == "" {
			r.Of = "The table"
		}
		r.Words = fmt.Sprintf("best at %s %% of the written sweetness; from %s %% on it is missed", per(n.Mean), per(f.Taste.Notice))
	}
	if p, ok := learn.Priors[f.Kind]; ok && n.N > 0 {
		from += fmt.Sprintf("; %.0f %% of it is still what was believed before", 100*p.Weight(n.N))
	}
	if n.N > 0 {
		r.From = from + "."
	} else {
		r.Words, r.From = "nothing counts", ""
	}
	if f.Forgotten && f.Before > 0 {
		r.Forgotten = counted(f.Before, "bake is", "bakes are") + " forgotten"
	}
	return r
}

func unitWords(id string) string {
	for _, u := range spoonUnits {
		if u.id == id {
			return u.words
		}
	}
	return id
}

// spoonful is what one spoonful weighs by the catalogue, g.
func (s *Server) spoonful(unit, food string) (float64, bool) {
	i := s.kit.Larder.Get(larder.ID(food))
	u, ok := measure.UnitByID(unit)
	if i == nil || !ok {
		return 0, false
	}
	per, _, ok := i.MLGrams(s.kit.Kitchen)
	return float64(s.kit.Kitchen.ML(u)) * per, ok
}

// signed is a figure with its sign, a real minus.
func signed(x float64) string {
	switch words := measure.Digits(math.Abs(x), 3); {
	case x > 0:
		return "+" + words
	case x < 0:
		return "−" + words
	default:
		return "±0"
	}
}

// counted is a number with what it counts.
func counted(n int, one, more string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, more)
}

// leastDrink is how much more liquid is worth putting in from the start, g; leastBags how often the flour must have
// been seen. Source: practice: a teaspoon; once may be a slip of the spoon.
const leastDrink, leastBags = 5.0, 2

// drinks is a result with what its flour was learned to drink put in from the start, into the liquid that is the
// most: g for each g of flour, 0 where that is not worth it or nothing is known.
func (s *Server) drinks(c *gin.Context, res *adapt.Result) (*adapt.Result, float64, string, error) {
	taught, err := s.learned(c)
	if err != nil {
		return nil, 0, "", err
	}
	flour, grams := journal.FlourOf(res.Recipe, s.kit.Larder)
	if flour == nil {
		return res, 0, "", nil
	}
	n := taught.Of(learn.Flour, string(flour.ID))
	more := math.Round(n.Mean * grams)
	if n.N < leastBags || more < leastDrink {
		return res, 0, "", nil
	}
	copied := *res
	copied.Recipe = res.Recipe.Clone()
	var most *recipe.Line
	for k := range copied.Recipe.Lines {
		l := &copied.Recipe.Lines[k]
		i := s.kit.Larder.Get(l.Ingredient)
		if i != nil && !l.Topping() && formula.AtBowl(i) == "liquid" && (most == nil || l.Grams > most.Grams) {
			most = l
		}
	}
	if most == nil {
		return res, 0, "", nil
	}
	most.Grams += more
	words := fmt.Sprintf("Put in %s more %s from the start: your %s drank more in the last %d bakes", gramWords(more), most.Name, flour.Name, n.N)
	return &copied, more / grams, words, nil
}

// changeLearned forgets a figure, remembers it again, or takes in what a spoonful weighs.
func (s *Server) changeLearned(c *gin.Context) error {
	form, err := postForm(c)
	if err != nil {
		return err
	}
	to := "/learned"
	switch do := form.Get("do"); do {
	case "forget", "remember":
		f := store.Forgot{Kind: learn.Kind(form.Get("kind")), Key: phrase.Clip(form.Get("key"), 60)}
		if learnedGroups[f.Kind].Words == "" {
			return fmt.Errorf("%w: no such kind", errForm)
		}
		if err := s.store.SetForgotten(c.Request.Context(), f, do == "forget"); err != nil {
			return err
		}
		to += "#" + string(f.Kind)
	case "spoon":
		seen, fault := s.readSpoonful(form)
		if fault != "" {
			return s.showLearned(c, http.StatusUnprocessableEntity, form, fault)
		}
		if err := s.store.AddSpoonful(c.Request.Context(), seen); err != nil {
			return err
		}
		to += "?saved=" + urlEscape("What the spoonful weighs") + "#weigh-one"
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// mostOff is by how many times a spoonful may weigh what the catalogue says. Source: practice: past that something
// else was weighed.
const mostOff = 3.0

// readSpoonful reads what a spoonful weighs; fault says what would do.
func (s *Server) readSpoonful(form url.Values) (seen learn.Seen, fault string) {
	unit, typed := form.Get("unit"), strings.TrimSpace(form.Get("food"))
	got, ok := reader.ReadLine("1 "+unitWords(unit)+" "+typed, reader.Options{Larder: s.kit.Larder, Kitchen: s.kit.Kitchen})
	if !ok || got.Ingredient == "" || typed == "" {
		return seen, fmt.Sprintf("“%s” is not in the larder: try ground flaxseed, or add it there first.", phrase.Clip(typed, 30))
	}
	one, ok := s.spoonful(unit, string(got.Ingredient))
	if !ok {
		return seen, fmt.Sprintf("What a %s of %s weighs by the book is not known: give recipes with it in grams.", unitWords(unit), got.Name)
	}
	grams, err := measure.ParseDecimal(form.Get("grams"), "g")
	if err != nil || grams < one/mostOff || grams > one*mostOff {
		return seen, fmt.Sprintf(
			"“%s” g is not what a %s of %s may weigh: by the book it is %s g.", phrase.Clip(form.Get("grams"), 12), unitWords(unit), got.Name,
			measure.Digits(one, 2),
		)
	}
	return learn.Seen{Kind: learn.Spoon, Key: reader.Spoonful(unit, got.Ingredient), X: math.Log(grams / one)}, ""
}
