package adapt_test

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/step"
	"kollaris/core/swap"
)

var (
	stepText = regexp.MustCompile(`(op = "[^"]*", place = "[^}]*?text = ")((?:[^"{}]|\{[a-z0-9-]+\})*)(" \})`)
	outside  = regexp.MustCompile(`\{[a-z0-9-]+\}|[^{}]+`)
	marked   = regexp.MustCompile(`⟦(\d+):[^⟧]*⟧`)
)

// worded are the schools with the text of every step in marks, its words as they are or each by nonsense. It gives how many there are.
func worded(t *testing.T, nonsense bool) (*swap.Table, int) {
	t.Helper()
	files, steps := fstest.MapFS{}, 0
	names, err := filepath.Glob("../swap/data/*.toml")
	require.NoError(t, err)
	for _, name := range names {
		raw, err := os.ReadFile(name)
		require.NoError(t, err)
		text := stepText.ReplaceAllStringFunc(string(raw), func(step string) string {
			m := stepText.FindStringSubmatch(step)
			say := m[2]
			if nonsense {
				say = outside.ReplaceAllStringFunc(say, func(part string) string {
					if strings.HasPrefix(part, "{") {
						return part
					}
					return strings.Repeat("gnu ", 1+len(part)/9)
				})
			}
			steps++
			return fmt.Sprintf("%s⟦%d:%s⟧%s", m[1], steps, say, m[3])
		})
		files[filepath.Base(name)] = &fstest.MapFile{Data: []byte(text)}
	}
	table, err := swap.Load(fs.FS(files), larder.Builtin())
	require.NoError(t, err)
	return table, steps
}

// What a step does stands in its fields: with other words for every step of every school nothing of an answer changes but those words.
func TestTheTextOfAStepIsOnlyPrinted(t *testing.T) {
	plainly, steps := worded(t, false)
	nonsense, _ := worded(t, true)
	require.Greater(t, steps, 75)
	kinds := types(t)
	var recipes []*recipe.Recipe
	for _, name := range slices.Sorted(maps.Keys(kinds)) {
		recipes = append(recipes, kinds[name])
	}
	for _, text := range []string{
		plain,
		"Macaroons\nMakes 20\n3 egg whites\n200 g sugar\n200 g ground almonds\n50 g plain flour\n\nStir the sugar, almonds and flour together. Beat in the egg whites. Drop spoonfuls on a sheet. Bake at 170C for 15 minutes.",
		"Lemon curd squares\nMakes 12\n200 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n1 tsp baking powder\n\nFor the filling\n200 g lemon curd\n\nCream the butter and sugar. Beat in the eggs. Fold in the flour and powder. Bake at 180C for 25 minutes. Spread with the curd.",
		"Jam squares\nMakes 12\n200 g plain flour\n100 g sugar\n100 g butter\n150 g raspberry jam\n100 g ground almonds\n50 g apricot jam\n\nRub the butter into the flour. Stir in the sugar and almonds. Press into a 20 cm square tin. Spread with the jam. Bake at 180C for 25 minutes.",
		"Set cream cake\nServes 8\n100 g plain flour\n100 g sugar\n3 eggs\n300 g mascarpone\n300 ml double cream\n10 g gelatine\n\nWhisk the eggs and sugar until thick. Fold in the flour. Bake at 180C for 20 minutes in a 20 cm round tin. Soak the gelatine, melt it and whisk it into the mascarpone and cream. Spread over the cake.",
		"Buttermilk bread\nServes 10\n400 g plain flour\n300 ml buttermilk\n1 tsp bicarbonate of soda\n1 tsp salt\n\nMix the dry ingredients. Stir in the buttermilk. Shape. Bake at 200C for 40 minutes.",
		"Yeast loaf\nServes 12\n500 g strong white flour\n7 g active dry yeast\n320 ml water\n20 g sugar\n10 g salt\n\nStir the yeast into the water. Mix in the rest and knead for 10 minutes. Prove for 1 hour. Shape. Prove for 40 minutes. Bake at 220C for 35 minutes.",
		"Fresh yeast rolls\nMakes 12\n500 g strong white flour\n20 g fresh yeast\n320 ml water\n10 g salt\n\nMix everything and knead. Prove for 1 hour. Shape into rolls. Prove for 40 minutes. Bake at 220C for 18 minutes.",
		"Instant loaf\nServes 12\n500 g strong white flour\n7 g instant yeast\n320 ml water\n10 g salt\n\nMix everything and knead. Prove for 1 hour. Shape. Prove for 40 minutes. Bake at 220C for 35 minutes.",
	} {
		recipes = append(recipes, read(t, text))
	}
	const often = 4 // answers with a step are enough
	seen := map[string]int{}
	for _, r := range recipes {
		for _, u := range plainly.Uses() {
			if !slices.ContainsFunc(r.Lines, func(l recipe.Line) bool { return slices.Contains(u.For, l.Ingredient) }) {
				continue
			}
			for _, s := range u.Schools {
				if !slices.ContainsFunc(s.Steps, func(e step.Step) bool { return seen[marked.FindStringSubmatch(e.Text)[1]] < often }) {
					continue
				}
				for _, req := range []adapt.Request{{}, {Diets: []diet.ID{diet.Vegan}}, {Diets: []diet.ID{diet.GlutenFree}}, {Diets: []diet.ID{diet.Keto}}} {
					req.Swaps = map[string]string{u.ID: s.ID, u.ID + "-topping": s.ID}
					if len(req.Diets) == 0 {
						for _, l := range r.Lines {
							if slices.Contains(u.For, l.Ingredient) {
								req.Bans = append(req.Bans, string(l.Ingredient))
							}
						}
					}
					answer := func(of *swap.Table, note bool) string {
						kit := adapt.DefaultKit()
						kit.Swaps = of
						res, err := adapt.Adapt(r, req, kit)
						require.NoError(t, err)
						out, err := json.Marshal(res)
						require.NoError(t, err)
						if note {
							for _, m := range marked.FindAllStringSubmatch(string(out), -1) {
								seen[m[1]]++
							}
						}
						return marked.ReplaceAllString(string(out), "⟦$1⟧")
					}
					want := answer(plainly, true)
					if !strings.Contains(want, "⟦") {
						continue
					}
					got := answer(nonsense, false)
					if want != got {
						at := 0
						for at < len(want) && at < len(got) && want[at] == got[at] {
							at++
						}
						require.Failf(t, "the words of a step count", "%s, %s for %s, %v: %.300s\nand %.300s", r.Title, s.ID, u.ID, req.Diets, want[max(0, at-150):], got[max(0, at-150):])
					}
				}
			}
		}
	}
	assert.GreaterOrEqual(t, len(seen), steps-1, "%d of %d steps were printed", len(seen), steps)
	for n := 1; n <= steps; n++ {
		if seen[fmt.Sprint(n)] == 0 {
			t.Log("not printed:", n)
		}
	}
}
