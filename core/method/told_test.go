package method_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// What the baker corrects of a task holds, and what is corrected of words that are no
// longer there changes nothing.
func TestTasksAsTheBakerCorrectsThem(t *testing.T) {
	const text = `Rye squares
200 g rye flour
100 g butter
100 g sugar
2 eggs

Cream the butter and sugar. Stir. Add the eggs. Stir. Fold in the flour. Rest for 10 minutes. Bake at 180C for 20 minutes.`
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	tasks := func(told ...recipe.Told) []string {
		r := *rd.Recipe
		r.Told = told
		var out []string
		for _, task := range method.Read(&r, larder.Builtin()) {
			if !task.Inferred {
				out = append(out, detail(&r, task))
			}
		}
		return out
	}
	verbs := func(of []string) string {
		var out []string
		for _, s := range of {
			v, _, _ := strings.Cut(s, " | ")
			out = append(out, strings.TrimSpace(v))
		}
		return strings.Join(out, " ")
	}
	require.Equal(t, "cream mix mix mix fold rest bake", verbs(tasks()))
	minutes := recipe.Minutes{Min: 3, Max: 4}
	for _, c := range []struct {
		name  string
		told  recipe.Told
		at    int
		verbs string
		has   string
	}{
		{"another verb", recipe.Told{Clause: "Add the eggs", Verb: "beat"}, 2, "cream mix beat mix fold rest bake", "hands 2-4 (practice)"},
		{"minutes by hand", recipe.Told{Clause: "Stir #2", Minutes: minutes}, 3, "cream mix mix mix fold rest bake", "hands 3-4 (yours)"},
		{"of two alike the first", recipe.Told{Clause: "Stir", Minutes: minutes}, 1, "cream mix mix mix fold rest bake", "hands 3-4 (yours)"},
		{"minutes that it waits", recipe.Told{Clause: "Rest for 10 minutes", Minutes: minutes}, 5, "cream mix mix mix fold rest bake", "wait 3-4 (yours)"},
		{"minutes in the oven", recipe.Told{Clause: "Bake at 180C for 20 minutes", Minutes: minutes}, 6, "cream mix mix mix fold rest bake", "wait 3-4 (yours)"},
		{"its lines", recipe.Told{Clause: "Stir #2", Lines: []string{"200 g rye flour"}}, 3, "cream mix mix mix fold rest bake", "100 % of 1 rye flour"},
		{"later", recipe.Told{Clause: "Cream the butter and sugar", Move: 2}, 2, "mix mix cream mix fold rest bake", "Cream the"},
		{"earlier than the first", recipe.Told{Clause: "Fold in the flour", Move: -9}, 0, "fold cream mix mix mix rest bake", "Fold in"},
		{"words that are gone", recipe.Told{Clause: "Beat in", Verb: "foam", Move: 1}, 0, "cream mix mix mix fold rest bake", "Cream"},
	} {
		got := tasks(c.told)
		assert.Equal(t, c.verbs, verbs(got), c.name)
		assert.Contains(t, got[c.at], c.has, c.name)
	}
	assert.Contains(t, tasks(recipe.Told{Clause: "Add the eggs", Nothing: true})[2], "mix | Add the eggs. | counter")
	assert.NotContains(t, tasks(recipe.Told{Clause: "Stir #2", Lines: []string{"200 g rye flour"}})[4], "flour | counter")
}
