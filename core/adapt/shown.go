package adapt

import (
	"slices"
	"strings"

	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/pattern"
	"kollaris/core/recipe"
)

// Claim is what a written recipe shows itself to be free of: who wrote it so had a reason,
// and what comes in must not undo it.
type Claim struct {
	Diet diet.ID `json:"diet,omitempty"`
	Ban  string  `json:"ban,omitempty"` // where it is no diet: "nuts"
	By   string  `json:"by"`            // what shows it: "the title says “vegan”"
	// Against is a line that is not free of it, where the title says so all the same: then
	// nothing can be promised, and the claim is no demand.
	Against string `json:"against,omitempty"`
}

// ID is the claim's diet or ban, as Request.Loose names it.
func (c Claim) ID() string {
	if c.Diet != "" {
		return string(c.Diet)
	}
	return c.Ban
}

// Words is the claim in the application's words.
func (c Claim) Words() string {
	if c.Diet != "" {
		return string(c.Diet)
	}
	return diet.NoWords(c.Ban)
}

type claimWords struct {
	diet diet.ID
	ban  string
	like *pattern.Pattern
}

// claims are words by which writers say what a recipe is free of. Source: practice.
var claims = []claimWords{
	{diet.GlutenFree, "", claimed(`gluten[- ]?free|wheat and gluten free|(?-i:GF)|free of gluten|without gluten|no gluten`)},
	{diet.Vegan, "", claimed(`vegan|plant[- ]based`)},
	{diet.DairyFree, "", claimed(`dairy[- ]?free|milk[- ]free|non[- ]?dairy|without dairy|no dairy`)},
	{diet.EggFree, "", claimed(`egg[- ]?free|eggless|egg[- ]less|without eggs?|no[- ]eggs?`)},
	{diet.LactoseFree, "", claimed(`lactose[- ]?free`)},
	{diet.GrainFree, "", claimed(`grain[- ]?free|paleo`)},
	{diet.Keto, "", claimed(`keto|low[- ]carb(?:ohydrate)?`)},
	{diet.LowSugar, "", claimed(`sugar[- ]?free|low[- ]sugar|no (?:added )?sugar|without sugar`)},
	{"", "nuts", claimed(`nut[- ]?free|without nuts|no nuts`)},
	{"", "soya", claimed(`soya?[- ]?free`)},
	{"", "sesame", claimed(`sesame[- ]?free`)},
}

func claimed(words string) *pattern.Pattern { return pattern.Must(`(?i)\b(?:` + words + `)\b`) }

// maybe are words that make a claim an offer: "vegan option", "can be gluten-free".
var maybe = pattern.Must(`(?i)\b(?:options?|optional|if you|can be|could be|or|not|version below|variation|adaptable)\b`)

// anyClaim is in every claim.
var anyClaim = pattern.Must(`(?i)free|vegan|plant|less|with|no|keto|low|paleo|gf`)

// Shown lists what a written recipe shows itself to be free of: by its title or the name of
// a part, by a line ("dairy-free spread") where no line is against it, and of gluten also by
// a gum or husk among flours that hold none.
func Shown(r *recipe.Recipe, l *larder.Larder) []Claim {
	var out []Claim
	var telling []recipe.Line // most lines claim nothing
	for _, ln := range r.Lines {
		if anyClaim.MatchString(ln.Section) || anyClaim.MatchString(ln.Text) {
			telling = append(telling, ln)
		}
	}
	for _, x := range claims {
		c := Claim{Diet: x.diet, Ban: x.ban}
		title := false
		if m := x.like.FindString(r.Title); m != "" && !maybe.MatchString(r.Title) {
			c.By, title = "the title says “"+m+"”", true
		}
		for _, ln := range telling {
			if m := x.like.FindString(ln.Section); m != "" && !maybe.MatchString(ln.Section) && c.By == "" {
				c.By = "a part is called “" + ln.Section + "”"
			}
			figures := x.diet == diet.Keto || x.diet == diet.LowSugar // what one line has says nothing of a serving
			if m := x.like.FindString(ln.Text); m != "" && !figures && !maybe.MatchString(ln.Text) && c.By == "" {
				c.By = "a line says “" + m + "”"
			}
		}
		if c.By == "" && x.diet == diet.GlutenFree {
			c.By = boundWithoutGluten(r, l)
		}
		if c.By == "" {
			continue
		}
		if c.Against = c.against(r, l); c.Against == "" || title {
			out = append(out, c)
		}
	}
	return slices.DeleteFunc(out, func(c Claim) bool { // vegan says it all
		return (c.Diet == diet.EggFree || c.Diet == diet.DairyFree || c.Diet == diet.LactoseFree) && c.Against == "" &&
			slices.ContainsFunc(out, func(o Claim) bool { return o.Diet == diet.Vegan && o.Against == "" })
	})
}

// boundWithoutGluten tells a dough of flours without gluten that a gum or husk holds.
func boundWithoutGluten(r *recipe.Recipe, l *larder.Larder) string {
	flour, holds := false, ""
	for _, ln := range r.Batter() {
		i := l.Get(ln.Ingredient)
		if i == nil {
			continue
		}
		if v, _ := (diet.Demand{Diets: []diet.ID{diet.GlutenFree}}).Judge(i); v == diet.Breaks {
			return ""
		}
		flour = flour || i.IsBase() && i.Facts[larder.Starch] >= 20
		if (i.Family == larder.FamilyGum || strings.HasPrefix(string(i.ID), "psyllium")) && holds == "" {
			holds = i.Name
		}
	}
	if !flour || holds == "" {
		return ""
	}
	return holds + " holds flours that have no gluten"
}

// against is the line that is not free of what is claimed, or the limit that it passes; ""
// where the recipe keeps it.
func (c Claim) against(r *recipe.Recipe, l *larder.Larder) string {
	d := c.demand()
	for _, ln := range r.Lines {
		if i := l.Get(ln.Ingredient); i != nil && !ln.Optional {
			if v, _ := d.Judge(i); v == diet.Breaks {
				return ln.Name
			}
		}
	}
	portioned := *r
	portioned.Servings = servings(r, Request{})
	s := nutrition.Serving(&portioned, l)
	for _, lim := range d.Limited() {
		if lim.What.Of(s) > lim.Max*1.005 {
			return lim.What.Words()
		}
	}
	return ""
}

func (c Claim) demand() diet.Demand {
	if c.Diet != "" {
		return diet.Demand{Diets: []diet.ID{c.Diet}}
	}
	return diet.Demand{Bans: []string{c.Ban}}
}

// asWritten lays what the recipe shows itself to be free of over what is asked, but for
// what the baker took off.
func (q Request) asWritten(shown []Claim) Request {
	q.Shown = diet.Demand{}
	for _, c := range shown {
		if c.Against == "" && !slices.Contains(q.Loose, c.ID()) {
			q.Shown = q.Shown.With(c.demand())
		}
	}
	return q
}

// contradicted are the doubts about claims that a line is against.
func contradicted(shown []Claim) []string {
	var out []string
	for _, c := range shown {
		if c.Against != "" {
			out = append(out, "It is not kept to "+c.Words()+": "+c.By+", but the "+c.Against+
				" is against it. Say on Read which one was used, or ask for "+c.Words()+" above.")
		}
	}
	return out
}
