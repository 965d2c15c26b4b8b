package main

import (
	"cmp"
	"math"
	"slices"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/nutrition"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/review"
	"kollaris/core/swap"
)

// The JSON documents of read and adapt. Field names are part of the product:
// docs/cli.md says what each means.

type wireRange struct {
	Min float64 `json:"min"`
	Max float64 `json:"max"`
}

type wireTin struct {
	Name     string  `json:"name"`
	VolumeML float64 `json:"volume_ml"`
	Count    int     `json:"count"`
}

type wireLine struct {
	ID         int     `json:"id"`
	Text       string  `json:"text"`
	Section    string  `json:"section"`
	Role       string  `json:"part"` // of its part: "" for the batter, icing, filling …
	Use        string  `json:"use"`  // "" where it is mixed in; on, brush, dust, tin, serve
	Amount     float64 `json:"amount"`
	AmountMax  float64 `json:"amount_max"`
	Unit       string  `json:"unit"`
	Ingredient string  `json:"ingredient"`
	Name       string  `json:"name"`
	Grams      float64 `json:"grams"`
	Known      bool    `json:"known"`
	Optional   bool    `json:"optional"`
	Note       string  `json:"note,omitempty"`
	How        string  `json:"how,omitempty"`
	Doubt      string  `json:"doubt,omitempty"`
	Measure    string  `json:"measure"`
	Origin     string  `json:"origin"` // written, worked or held
}

type wireFinding struct {
	Code     string `json:"code"`
	Severity string `json:"severity"`
	Message  string `json:"message"`
	Line     string `json:"line,omitempty"`   // the line it speaks of, as written
	Fix      string `json:"fix,omitempty"`    // what would mend it
	Source   string `json:"source,omitempty"` // of what is usual
	Sure     string `json:"sure,omitempty"`   // sure, likely or perhaps
}

// findingsOf puts what the reader noticed and what a review says together.
func findingsOf(rd *reader.Reading) []wireFinding {
	out := []wireFinding{}
	text := func(id recipe.LineID) string {
		if l := rd.Recipe.Line(id); l != nil {
			return l.Text
		}
		return ""
	}
	for _, f := range rd.Findings {
		out = append(out, wireFinding{Code: f.Code, Severity: f.Severity, Message: f.Message, Line: text(f.Line)})
	}
	for _, n := range review.Notes(rd.Recipe, larder.Builtin()) {
		w := wireFinding{
			Code: n.Code, Severity: n.Severity, Message: n.Message(), Line: text(n.Line), Source: n.Source.Words(),
			Sure: string(n.Sure),
		}
		if n.Fix != nil {
			w.Fix = n.Fix.Words
		}
		out = append(out, w)
	}
	return out
}

type wireStage struct {
	OvenC   float64   `json:"oven_c"`
	Minutes wireRange `json:"minutes"`
}

type wireWait struct {
	What    string    `json:"what"`
	Minutes wireRange `json:"minutes"`
	Until   string    `json:"until,omitempty"`
}

type wireRecipe struct {
	Title       string        `json:"title"`
	Kind        string        `json:"kind"`
	Servings    int           `json:"servings"`
	Device      string        `json:"device"`
	OvenC       float64       `json:"oven_c"`
	BakeMinutes wireRange     `json:"bake_minutes"`
	Tins        []wireTin     `json:"tins"`
	OtherTins   []wireTin     `json:"other_tins,omitempty"`
	Stages      []wireStage   `json:"stages,omitempty"`
	Waits       []wireWait    `json:"waits,omitempty"`
	Done        string        `json:"done,omitempty"`
	Lines       []wireLine    `json:"lines"`
	Findings    []wireFinding `json:"findings"`
	*wireDoing                // of a recipe that is only read
}

// wireDoing is what is to be done.
type wireDoing struct {
	Method    []wireTask  `json:"method"`
	Equipment []string    `json:"equipment"`
	HandsMin  wireMinutes `json:"hands_min"`
	TotalMin  wireMinutes `json:"total_min"`
}

func doingOf(tasks []method.Task, r *recipe.Recipe) *wireDoing {
	return &wireDoing{
		wireMethod(tasks, r), list(method.Equipment(tasks, r)), minutesOf(method.Hands(tasks)), minutesOf(method.Total(tasks)),
	}
}

func wireOf(r *recipe.Recipe, findings []wireFinding, measures map[int]string) wireRecipe {
	w := wireRecipe{
		Title: r.Title, Kind: string(r.Kind), Servings: r.Servings, Device: r.Device, OvenC: math.Round(float64(r.Oven)*10) / 10,
		BakeMinutes: wireRange(r.Bake), Tins: []wireTin{}, Lines: []wireLine{}, Findings: []wireFinding{},
	}
	for _, t := range r.Tins {
		w.Tins = append(w.Tins, wireTin{t.Name, math.Round(float64(t.Volume)), t.Count})
	}
	for _, t := range r.OtherTins {
		w.OtherTins = append(w.OtherTins, wireTin{t.Name, math.Round(float64(t.Volume)), t.Count})
	}
	for _, l := range r.Lines {
		w.Lines = append(
			w.Lines,
			wireLine{
				int(l.ID), l.Text, l.Section, string(l.Role), string(l.Use), tidy(l.Amount.Min), tidy(l.Amount.Max), l.Unit, string(l.Ingredient), l.Name,
				tidy(l.Grams), l.Known, l.Optional, l.Note, l.How, l.Doubt, measures[int(l.ID)],
				cmp.Or(string(l.Origin), "written"),
			},
		)
	}
	for _, st := range r.Stages {
		w.Stages = append(w.Stages, wireStage{math.Round(float64(st.Oven)*10) / 10, wireRange(st.Minutes)})
	}
	for _, x := range r.Waits {
		w.Waits = append(w.Waits, wireWait{string(x.What), wireRange(x.Minutes), x.Until})
	}
	w.Done = r.Done
	w.Findings = append(w.Findings, findings...)
	return w
}

// tidy rounds to a thousandth: no precision that is not there.
func tidy(x float64) float64 { return math.Round(x*1000) / 1000 }

type wireAmount struct {
	Ingredient string  `json:"ingredient"`
	Name       string  `json:"name"`
	Grams      float64 `json:"grams"`
	Measure    string  `json:"measure"`
}

type wireChange struct {
	Kind       string       `json:"kind"`
	Use        string       `json:"use,omitempty"`
	From       []wireAmount `json:"from"`
	To         []wireAmount `json:"to"`
	School     string       `json:"school,omitempty"`
	Reason     string       `json:"reason"`
	Why        *diet.Reason `json:"why,omitempty"` // the demand that it breaks, as codes
	Confidence string       `json:"confidence"`
}

type wireServing struct {
	Energy       float64 `json:"energy_kcal"`
	Fat          float64 `json:"fat_g"`
	Saturates    float64 `json:"saturates_g"`
	Carbohydrate float64 `json:"carbohydrate_g"`
	Sugars       float64 `json:"sugars_g"`
	Added        float64 `json:"added_sugars_g"`
	Fibre        float64 `json:"fibre_g"`
	Protein      float64 `json:"protein_g"`
	Salt         float64 `json:"salt_g"`
	NetCarb      float64 `json:"net_carb_g"`
	WeightG      float64 `json:"weight_g"`
}

type wireNutrition struct {
	Serving wireServing `json:"serving"`
	Before  wireServing `json:"before"`
	AtLeast bool        `json:"at_least"` // some line is not counted
	Open    []string    `json:"open"`     // those lines
}

type wireBake struct {
	OvenC     float64 `json:"oven_c"`
	Minutes   float64 `json:"minutes"`
	Low       float64 `json:"minutes_low"`
	High      float64 `json:"minutes_high"`
	FirstLook float64 `json:"first_look"`
	Tin       string  `json:"tin"`
	Fill      float64 `json:"fill"`
	Fitted    bool    `json:"fitted"`
}

type wireCaution struct {
	Code string `json:"code"`
	Text string `json:"text"`
}

type wireRefusal struct {
	Reason  string   `json:"reason"`
	Nearest []string `json:"nearest"`
}

type wireAllergens struct {
	Holds []string `json:"holds"`
	Check []string `json:"check_label"`
	New   []string `json:"new"`
	Gone  []string `json:"gone"`

	Unread []string `json:"unread"` // lines that could hold anything
}

type wireDemand struct {
	ID     string `json:"id"`
	Covers string `json:"covers"`
}

type wireLimit struct {
	What    string   `json:"what"`
	Max     float64  `json:"max"`
	Written float64  `json:"written"`
	Got     float64  `json:"got"`
	Plus    float64  `json:"plus"`
	Kept    bool     `json:"kept"`
	Words   string   `json:"words"`
	Open    []string `json:"open"` // lines that are not counted and could add to it
	Ways    []string `json:"ways"`
}

type wireAdapted struct {
	Recipe    wireRecipe    `json:"recipe"`
	Changes   []wireChange  `json:"changes"`
	Demands   []wireDemand  `json:"demands"` // diets and bans, with what they shut out
	Verdict   string        `json:"verdict"`
	More      []string      `json:"verdict_more"`
	Stops     []adapt.Stop  `json:"stops"`
	State     string        `json:"verdict_state"`
	Allergens wireAllergens `json:"allergens"`
	Nutrition wireNutrition `json:"nutrition"`
	Bake      *wireBake     `json:"bake"`
	*wireDoing
	Cautions   []wireCaution `json:"cautions"`
	Becomes    string        `json:"becomes"`
	Limits     []wireLimit   `json:"limits"`
	AsWritten  []wireClaim   `json:"as_written"`
	Doubts     []string      `json:"doubts"`
	Confidence string        `json:"confidence"`
	Refused    *wireRefusal  `json:"refused"`
}

// wireClaim is what the written recipe shows itself to be free of.
type wireClaim struct {
	ID      string `json:"id"`
	By      string `json:"by"`
	Against string `json:"against"`
	Off     bool   `json:"off"`
}

func adaptedOf(res *adapt.Result, findings []wireFinding) wireAdapted {
	v := res.Verdict
	w := wireAdapted{
		Recipe: wireOf(res.Recipe, findings, res.Measures), Changes: []wireChange{}, Verdict: v.Words, State: v.State,
		Allergens:  wireAllergens{list(v.Holds), list(v.Check), list(v.New), list(v.Gone), list(v.Unread)},
		More:       list(v.More),
		Stops:      append([]adapt.Stop{}, v.Stops...),
		Demands:    []wireDemand{},
		AsWritten:  []wireClaim{},
		Nutrition:  wireNutrition{servingOf(res.Serving), servingOf(res.ServingBefore), len(res.Gaps) > 0, []string{}},
		Cautions:   []wireCaution{},
		Becomes:    res.Becomes,
		Limits:     []wireLimit{},
		Doubts:     list(res.Doubts),
		Confidence: string(res.Confidence),
	}
	for _, g := range res.Gaps {
		w.Nutrition.Open = append(w.Nutrition.Open, g.Text)
	}
	demand := res.Request.Demand()
	covers := demand.Covers()
	for _, c := range res.AsWritten {
		w.AsWritten = append(w.AsWritten, wireClaim{c.ID(), c.By, c.Against, slices.Contains(res.Request.Loose, c.ID())})
	}
	for n, id := range demand.Bans {
		w.Demands = append(w.Demands, wireDemand{id, covers[n]})
	}
	for n, id := range demand.Diets {
		w.Demands = append(w.Demands, wireDemand{string(id), covers[len(demand.Bans)+n]})
	}
	for _, l := range res.Limits {
		w.Limits = append(
			w.Limits,
			wireLimit{
				string(l.What), l.Max, tidy(l.Written), tidy(l.Got), tidy(l.Plus), l.Kept, l.Words, list(l.Open),
				list(l.Ways),
			},
		)
	}
	for _, c := range res.Changes {
		conf := c.Confidence
		if conf == "" {
			conf = swap.WellTried
		}
		x := wireChange{
			Kind: c.Kind, Use: c.Use, From: amountsOf(c.From), To: amountsOf(c.To), School: c.School, Reason: c.Reason,
			Confidence: string(conf),
		}
		if c.Why != (diet.Reason{}) {
			x.Why = &c.Why
		}
		w.Changes = append(w.Changes, x)
	}
	if b := res.Bake; b != nil {
		w.Bake = &wireBake{
			math.Round(float64(b.Oven)), math.Round(b.Minutes), math.Round(b.Low), math.Round(b.High),
			math.Round(b.FirstLook), b.Fill.Tin.Words(), tidy(b.Fill.Share), b.Fitted,
		}
	}
	w.wireDoing = doingOf(res.Method, res.Recipe)
	for _, c := range res.Cautions {
		w.Cautions = append(w.Cautions, wireCaution{c.Code, c.Text + " " + c.Defers})
	}
	if res.Refused != nil {
		w.Refused = &wireRefusal{res.Refused.Reason, list(res.Refused.Nearest)}
	}
	return w
}

func list(s []string) []string {
	if s == nil {
		return []string{}
	}
	return s
}

func amountsOf(as []adapt.Amount) []wireAmount {
	out := []wireAmount{}
	for _, a := range as {
		out = append(out, wireAmount{string(a.Ingredient), a.Name, tidy(a.Grams), a.Measure})
	}
	return out
}

func servingOf(f nutrition.Facts) wireServing {
	r := func(x float64) float64 { return math.Round(x*100) / 100 }
	return wireServing{
		r(f.Energy), r(f.Fat), r(f.Saturates), r(f.Carbohydrate), r(f.Sugars), r(f.Added), r(f.Fibre), r(f.Protein),
		r(f.Salt), r(f.NetCarb), r(f.Weight),
	}
}
