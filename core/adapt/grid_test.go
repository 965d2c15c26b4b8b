package adapt_test

import (
	_ "embed"
	"fmt"
	"math"
	"os"
	"runtime"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/demo/recipes"
)

// corpus are the demo's recipes and those of the reader's corpus that hold an
// ingredient.
func corpus(t *testing.T) []*recipe.Recipe {
	t.Helper()
	var out []*recipe.Recipe
	for _, name := range recipes.Names() {
		out = append(out, read(t, recipes.Text(name)))
	}
	data, err := os.ReadFile("../reader/testdata/recipes.txt")
	require.NoError(t, err)
	for _, rec := range strings.Split(string(data), "== ")[1:] {
		_, text, _ := strings.Cut(rec, "\n")
		_, text, _ = strings.Cut(text, "\n")
		var lines []string
		for _, ln := range strings.Split(text, "\n") {
			ln, _, _ = strings.Cut(ln, " => ")
			lines = append(lines, ln)
		}
		rd, err := reader.Read(strings.Join(lines, "\n"), reader.Options{})
		if err == nil && len(rd.Recipe.Lines) > 0 {
			out = append(out, rd.Recipe)
		}
	}
	return out
}

// requests are every single diet, all pairs, ten triples, and bans on top.
func requests() []adapt.Request {
	var ids []diet.ID
	for _, d := range diet.Diets {
		ids = append(ids, d.ID)
	}
	var out []adapt.Request
	for n, a := range ids {
		out = append(out, adapt.Request{Diets: []diet.ID{a}})
		for _, b := range ids[n+1:] {
			out = append(out, adapt.Request{Diets: []diet.ID{a, b}})
		}
	}
	for _, triple := range [][]diet.ID{
		{diet.EggFree, diet.DairyFree, diet.GlutenFree}, {diet.EggFree, diet.DairyFree, diet.Keto}, {diet.EggFree, diet.DairyFree, diet.LowSugar}, {diet.GlutenFree, diet.DairyFree, diet.Keto}, {diet.GlutenFree, diet.DairyFree, diet.LowSugar},
		{diet.Vegan, diet.GlutenFree, diet.LowSugar}, {diet.Vegan, diet.GrainFree, diet.LowSugar}, {diet.EggFree, diet.GlutenFree, diet.LowSodium}, {diet.Keto, diet.GlutenFree, diet.EggFree}, {diet.LactoseFree, diet.GlutenFree, diet.LowSugar},
	} {
		out = append(out, adapt.Request{Diets: triple})
	}
	for _, bans := range [][]string{{"soya"}, {"nuts"}, {"soya", "nuts", "coconut"}, {"sesame", "gluten"}, {"wheat"}, {"gum"}, {"flax-ground", "chia"}, {"polyol"}, {"nuts", "sesame", "gluten"}} {
		out = append(out, adapt.Request{Bans: bans}, adapt.Request{Diets: []diet.ID{diet.DairyFree, diet.EggFree}, Bans: bans}, adapt.Request{Diets: []diet.ID{diet.GlutenFree}, Bans: bans}, adapt.Request{Diets: []diet.ID{diet.Keto}, Bans: bans})
	}
	return out
}

// walk looks a line up in the catalogue's own tables, by rules written for this
// test alone: no code of the engine or of package diet takes part.
func walk(i *larder.Ingredient, req adapt.Request) (holds, label string) {
	allergens := map[string]bool{}
	for _, b := range req.Bans {
		allergens[b] = true
		if b == "nuts" { // as they are called at home
			allergens["peanuts"] = true
		}
		if b == string(i.ID) || b == string(i.Family) || strings.HasPrefix(string(i.ID), b+"-") || strings.HasSuffix(string(i.ID), "-"+b) {
			return b, ""
		}
	}
	for _, d := range req.Diets {
		switch d {
		case diet.EggFree:
			allergens["egg"] = true
		case diet.DairyFree:
			allergens["milk"] = true
		case diet.GlutenFree:
			allergens["gluten"] = true
		case diet.Vegan:
			if slices.Contains([]string{"egg", "milk", "meat", "honey"}, i.Origin) {
				return "something of animals", ""
			}
		case diet.LactoseFree:
			if i.Facts[larder.Lactose] > 1 {
				return "lactose", ""
			}
		case diet.GrainFree:
			for _, word := range []string{"wheat", "rice", "oat", "maize", "corn", "rye", "spelt", "barley", "buckwheat", "millet", "sorghum"} {
				if strings.Contains(string(i.ID), word) && !strings.Contains(string(i.ID), "oat-cheese") && i.ID != "goat-milk" && i.ID != "goat-cheese" && i.ID != "peppercorn" {
					return "grain", ""
				}
			}
		case diet.Keto:
			if slices.Contains([]larder.Family{"wheat-flour", "starch", "sugar", "syrup", "dried-fruit"}, i.Family) && i.ID != "fibre-syrup" && i.ID != "allulose-syrup" {
				return "starch or sugar", ""
			}
		}
	}
	for a, level := range i.Allergens {
		if allergens[a] {
			if level != larder.Check {
				return a, ""
			}
			label = a
		}
	}
	return "", label
}

// Every recipe for every demand gives a recipe without anything that is banned,
// with every label to read said, or a refusal that says what would come nearest.
// The counts are printed.
func TestTheGrid(t *testing.T) {
	if testing.Short() {
		t.Skip("six thousand adaptations")
	}
	l := larder.Builtin()
	all, reqs := corpus(t), requests()
	type tally struct{ fine, look, refused int }
	counts := make([]tally, len(reqs))
	var mu sync.Mutex
	var wg sync.WaitGroup
	jobs := make(chan int)
	for range runtime.NumCPU() {
		wg.Go(func() {
			for n := range jobs {
				for _, r := range all {
					where := fmt.Sprintf("%s for %v", r.Title, reqs[n].Demand().Words())
					res, err := adapt.Adapt(r, reqs[n], adapt.DefaultKit())
					mu.Lock()
					if !assert.NoError(t, err, where) {
						mu.Unlock()
						continue
					}
					switch {
					case res.Refused != nil:
						counts[n].refused++
						assert.NotEmpty(t, res.Refused.Reason, where)
						assert.NotEmpty(t, res.Refused.Nearest, where)
						assert.Equal(t, "stop", res.Verdict.State, where)
						mu.Unlock()
						continue
					case res.Verdict.State == "fine":
						counts[n].fine++
					default:
						counts[n].look++
					}
					label := false
					for _, line := range res.Recipe.Lines {
						i := l.Get(line.Ingredient)
						if i == nil {
							assert.False(t, line.Known, where)
							assert.NotEqual(t, "fine", res.Verdict.State, "%s: a line that is not understood", where)
							continue
						}
						if was := r.Line(line.Replaces); line.Origin == recipe.Worked && (was == nil || was.Grams > 0) {
							assert.Regexp(t, `[\d¼½¾⅓⅔⅛]`, line.Text, where)
							assert.Positive(t, line.Grams, "%s: %s", where, line.Text)
							assert.NotRegexp(t, `[⅓⅔] tsp|\b[3-9] tsp`, line.Text+" "+res.Measures[int(line.ID)], "%s: no spoon for it", where)
						}
						holds, read := walk(i, reqs[n])
						assert.Empty(t, holds, "%s: %s", where, line.Text)
						label = label || read != ""
						assert.False(t, math.IsNaN(line.Grams) || math.IsInf(line.Grams, 0) || line.Grams < 0, "%s: %s", where, line.Text)
					}
					before := *r
					before.Servings = res.Recipe.Servings
					assert.LessOrEqual(t, polyolsOf(res.Recipe), max(15.5, polyolsOf(&before)+0.5), "%s: sugar alcohols of a serving", where)
					if label {
						assert.NotEmpty(t, res.Verdict.Labels, "%s: a label to read is said", where)
						assert.NotEqual(t, "fine", res.Verdict.State, where)
					}
					for _, s := range res.Sums {
						assert.False(t, math.IsNaN(s.After) || math.IsInf(s.After, 0), "%s: %s", where, s.Name)
					}
					for _, lim := range res.Limits {
						within := lim.Got <= lim.Max*1.005+0.005
						assert.Equal(t, within && len(lim.Open) == 0, lim.Kept, where)
						assert.False(t, lim.Kept && len(res.Recipe.Unknown()) > 0, "%s: a line that is not understood could pass it", where)
						assert.True(t, lim.Kept || len(lim.Ways) > 0 && res.Verdict.State != "fine", "%s: %s", where, lim.Words)
					}
					mu.Unlock()
				}
			}
		})
	}
	for n := range reqs {
		jobs <- n
	}
	close(jobs)
	wg.Wait()
	total := tally{}
	for n, c := range counts {
		t.Logf("%3d fine, %3d to look at, %3d refused: %s", c.fine, c.look, c.refused, strings.Join(reqs[n].Demand().Words(), ", "))
		total.fine, total.look, total.refused = total.fine+c.fine, total.look+c.look, total.refused+c.refused
	}
	t.Logf("%d recipes, %d demands: %d fine, %d to look at, %d refused", len(all), len(reqs), total.fine, total.look, total.refused)
	assert.Less(t, total.refused*10, total.fine+total.look, "a refusal is the exception")
}
