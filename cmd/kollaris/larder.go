package main

import (
	"fmt"
	"io"
	"math"
	"strings"

	"github.com/spf13/cobra"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/nutrition"
)

func larderCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "larder [--json] NAME…",
		Short: "Say what a name was taken for, and what the larder knows of it",
		RunE: func(c *cobra.Command, args []string) error {
			if len(args) == 0 {
				return unusable("name at least one ingredient, for instance “plain flour, sifted”")
			}
			docs := []wireIngredient{}
			for _, name := range args {
				docs = append(docs, ingredientOf(name, larder.Builtin()))
			}
			if asJSON {
				return writeJSON(c.OutOrStdout(), docs)
			}
			for _, d := range docs {
				printIngredient(c.OutOrStdout(), d)
			}
			return nil
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "write one JSON array, one document a name")
	return c
}

type wirePer100 struct {
	Energy       float64 `json:"energy_kcal"`
	Water        float64 `json:"water_g"`
	Protein      float64 `json:"protein_g"`
	Fat          float64 `json:"fat_g"`
	Saturates    float64 `json:"saturates_g"`
	Carbohydrate float64 `json:"carbohydrate_g"` // by difference, fibre included
	Fibre        float64 `json:"fibre_g"`
	Sugars       float64 `json:"sugars_g"`
	Starch       float64 `json:"starch_g"`
	Polyols      float64 `json:"polyols_g"`
	Sodium       float64 `json:"sodium_mg"`
}

type wireBehaviour struct {
	Absorption float64 `json:"absorption_g_per_g"`
	Sweetness  float64 `json:"sweetness"`
	Binding    float64 `json:"binding_eggs_per_100g"`
	Acid       float64 `json:"acid_meq"`
	Soda       float64 `json:"soda_meq"`
	CO2        float64 `json:"co2_mmol"`
	Gluten     float64 `json:"gluten_g"`
	Setting    float64 `json:"setting_protein_g"`
	SolidFat   float64 `json:"solid_fat_g"`
	Air        float64 `json:"air_mmol"`
	Does       string  `json:"does"`
}

type wireAllergen struct {
	ID    string `json:"id"`
	Level string `json:"level"` // contains, may or check
}

type wireSource struct {
	Table  string `json:"table"`
	Tag    string `json:"tag"`
	Source string `json:"source"`
}

type wireIngredient struct {
	Phrase     string             `json:"phrase"`
	ID         string             `json:"id"` // "" when it is not known
	Name       string             `json:"name"`
	Confidence float64            `json:"confidence"`
	Sure       bool               `json:"sure"` // taken without asking
	RunnerUp   string             `json:"runner_up,omitempty"`
	Ambiguous  string             `json:"ambiguous_with,omitempty"`
	Family     string             `json:"family"`
	Origin     string             `json:"origin"`
	Per100     *wirePer100        `json:"per_100g"`
	Density    map[string]float64 `json:"density"` // filling → g/ml
	Pieces     map[string]float64 `json:"pieces"`  // size → g, edible part
	Edible     float64            `json:"edible_share"`
	Glycaemic  string             `json:"glycaemic"`
	Behaviour  *wireBehaviour     `json:"behaviour"`
	Allergens  []wireAllergen     `json:"allergens"`
	Sources    []wireSource       `json:"sources"`
}

func ingredientOf(phrase string, l *larder.Larder) wireIngredient {
	w := wireIngredient{
		Phrase: phrase, Density: map[string]float64{}, Pieces: map[string]float64{}, Allergens: []wireAllergen{},
		Sources: []wireSource{},
	}
	m, ok := l.Find(phrase, nil)
	if !ok {
		return w
	}
	i := l.Get(m.ID)
	f := &i.Facts
	n := nutrition.Per100(f)
	w.ID, w.Name, w.Confidence, w.Sure = string(i.ID), i.Name, math.Round(
		m.Confidence*100,
	)/100, m.Confidence >= larder.SureEnough
	w.RunnerUp, w.Ambiguous, w.Family, w.Origin, w.Edible, w.Glycaemic = string(m.RunnerUp), string(
		m.Ambiguous,
	), string(i.Family), i.Origin, i.Edible, i.Glycaemic
	w.Per100 = &wirePer100{
		tidy(n.Energy), f[larder.Water], f[larder.Protein], f[larder.Fat], f[larder.Saturates], f[larder.Carbohydrate],
		f[larder.Fibre], tidy(f.Sugars()), f[larder.Starch], tidy(f.Polyols()), f.Or(larder.Sodium, 0),
	}
	w.Behaviour = &wireBehaviour{
		f[larder.Absorption], tidy(f[larder.Sweetness]), f[larder.Binding], f[larder.Acid], f[larder.Soda],
		f[larder.CO2], f[larder.Gluten], f[larder.SettingProtein], f[larder.SolidFat], f[larder.Air], i.Does(),
	}
	us := measure.DefaultKitchen()
	for _, wt := range i.Weights {
		if wt.Unit == "piece" {
			w.Pieces[wt.How] = float64(wt.Grams)
			continue
		}
		u, _ := measure.UnitByID(wt.Unit)
		w.Density[wt.How] = tidy(float64(wt.Grams) / float64(us.ML(u)))
	}
	for _, a := range larder.Allergens() {
		if lv, ok := i.Has(a); ok {
			w.Allergens = append(w.Allergens, wireAllergen{a, string(lv)})
		}
	}
	for _, table := range []string{"ingredient", "macro", "sugars", "minerals", "acid", "behave", "keep"} {
		if s := i.Sources[table]; s != "" {
			w.Sources = append(w.Sources, wireSource{table, string(s.Tag()), s.Words()})
		}
	}
	return w
}

func printIngredient(w io.Writer, d wireIngredient) {
	if d.ID == "" {
		fmt.Fprintf(w, "%s: not in the larder\n\n", d.Phrase)
		return
	}
	sure := ""
	if !d.Sure {
		sure = " — not sure: it would be asked about"
	}
	p := d.Per100
	fmt.Fprintf(w, "%s → %s (%s), %.0f %%%s\n%s\n", d.Phrase, d.Name, d.ID, 100*d.Confidence, sure, d.Behaviour.Does)
	fmt.Fprintf(
		w,
		"per 100 g: %.0f kcal, water %g g, protein %g g, fat %g g, carbohydrate %g g (by difference), fibre %g g, sugars %g g, starch %g g, sodium %g mg\n",
		p.Energy, p.Water, p.Protein, p.Fat, p.Carbohydrate, p.Fibre, p.Sugars, p.Starch, p.Sodium,
	)
	var holds []string
	for _, a := range d.Allergens {
		holds = append(holds, a.ID+" ("+a.Level+")")
	}
	if len(holds) > 0 {
		fmt.Fprintf(w, "allergens: %s\n", strings.Join(holds, ", "))
	}
	fmt.Fprintln(w)
}
