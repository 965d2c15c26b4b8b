package adapt_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// told are the recipes of the method's corpus, by name.
func told(t *testing.T) map[string]*recipe.Recipe {
	t.Helper()
	data, err := os.ReadFile("../method/testdata/recipes.txt")
	require.NoError(t, err)
	out := map[string]*recipe.Recipe{}
	for _, rec := range strings.Split(string(data), "\n== ")[1:] {
		name, text, _ := strings.Cut(rec, "\n")
		var lines []string
		for line := range strings.SplitSeq(text, "\n") {
			if !strings.HasPrefix(line, "> ") {
				lines = append(lines, line)
			}
		}
		rd, err := reader.Read(strings.Join(lines, "\n"), reader.Options{})
		require.NoError(t, err, name)
		out[name] = rd.Recipe
	}
	return out
}

// Twenty adaptations as a baker reads them, printed in testdata/methods.txt and read there
// by eye: WRITE=1 prints them anew.
func TestTwentyMethodsAsTheyAreRead(t *testing.T) {
	recipes := told(t)
	var b strings.Builder
	for _, c := range []struct {
		name string
		req  adapt.Request
	}{
		{"numbered, British", adapt.Request{Diets: []diet.ID{diet.EggFree, diet.DairyFree}}},
		{"one paragraph", adapt.Request{Diets: []diet.ID{diet.Vegan}}},
		{"US, short imperatives", adapt.Request{Diets: []diet.ID{diet.DairyFree}}},
		{"yeast, two proofs", adapt.Request{Diets: []diet.ID{diet.GlutenFree}}},
		{"yeast, two proofs", adapt.Request{Diets: []diet.ID{diet.Keto}}},
		{"rubbed in scones", adapt.Request{Diets: []diet.ID{diet.DairyFree}, Swaps: map[string]string{"butter": "sunflower-oil"}}},
		{"separated eggs", adapt.Request{Diets: []diet.ID{diet.EggFree}}},
		{"cake with an icing", adapt.Request{Diets: []diet.ID{diet.Vegan, diet.GlutenFree}}},
		{"crust and filling", adapt.Request{Diets: []diet.ID{diet.DairyFree}}},
		{"biscuits, chilled", adapt.Request{Diets: []diet.ID{diet.GlutenFree, diet.EggFree}}},
		{"active dry yeast", adapt.Request{Diets: []diet.ID{diet.GlutenFree}}},
		{"all in one", adapt.Request{Diets: []diet.ID{diet.EggFree}}},
		{"melting method", adapt.Request{Diets: []diet.ID{diet.LowSugar}}},
		{"muffins", adapt.Request{Diets: []diet.ID{diet.GlutenFree, diet.DairyFree}, Tin: "loaf 9x5 in"}},
		{"drizzle", adapt.Request{Diets: []diet.ID{diet.Vegan}}},
		{"wholly US", adapt.Request{Diets: []diet.ID{diet.DairyFree}, Swaps: map[string]string{"butter": "sunflower-oil"}}},
		{"foam cake", adapt.Request{Diets: []diet.ID{diet.GlutenFree}}},
		{"meringue", adapt.Request{Diets: []diet.ID{diet.EggFree}}},
		{"braid", adapt.Request{Diets: []diet.ID{diet.Vegan}}},
		{"shortbread", adapt.Request{Diets: []diet.ID{diet.DairyFree, diet.GlutenFree}}},
	} {
		res, err := adapt.Predicted(recipes[c.name], c.req, adapt.DefaultKit())
		require.NoError(t, err, c.name)
		fmt.Fprintf(&b, "== %s: %s\n", res.Recipe.Title, strings.Join(c.req.Demand().Words(), ", "))
		if res.Refused != nil {
			fmt.Fprintf(&b, "refused: %s\n\n", res.Refused.Reason)
			continue
		}
		assert.Empty(t, unsound(res, recipes[c.name], true), c.name)
		for n, task := range res.Method {
			mark := map[bool]string{true: "*", false: " "}[task.Changed]
			if task.Inferred {
				mark = "+"
			}
			fmt.Fprintf(&b, "%s%2d. %s\n", mark, n+1, task.Text)
		}
		b.WriteByte('\n')
	}
	const file = "testdata/methods.txt"
	if os.Getenv("WRITE") != "" {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(file, []byte(b.String()), 0o644))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(want), b.String())
}
