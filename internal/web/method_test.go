package web

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/demo/recipes"
)

func adapted(t *testing.T, name string, diets ...diet.ID) *adapt.Result {
	t.Helper()
	rd, err := reader.Read(recipes.Text(name), reader.Options{})
	require.NoError(t, err)
	res, err := adapt.Predicted(rd.Recipe, adapt.Request{Diets: diets}, adapt.DefaultKit())
	require.NoError(t, err)
	return res
}

func TestAMethodIsShownWithItsPartsAndTheWritersWords(t *testing.T) {
	res := adapted(t, "2-carrot-hazelnut-ring.txt", diet.EggFree, diet.GlutenFree)
	v := methodOf(res.Method, res.Recipe, freshNames(res))
	var parts, written []string
	fresh := ""
	for _, s := range v.Steps {
		if s.Part != "" {
			parts = append(parts, s.Part)
		}
		if s.Written != "" {
			written = append(written, s.Written)
			assert.True(t, s.Changed)
		}
		for _, p := range s.Text {
			if p.New {
				fresh += p.Text + ", "
			}
		}
	}
	assert.Equal(t, []string{"Icing"}, parts)
	assert.Contains(t, written, "Whisk eggs and sugar for two minutes.")
	assert.Contains(t, fresh, "chia gel")
	assert.NotContains(t, fresh, "water")
	assert.Regexp(t, `^Hands on \d+–\d+ min, about [\d½]+ h in all\.$`, v.Times)
	assert.Contains(t, v.Tools, "sieve")
	assert.Contains(t, v.Tools, "ring 25 cm")
	old := methodOf([]method.Task{{Text: "Bake.", Note: "instead of egg: flax gel"}}, res.Recipe, nil)
	assert.Empty(t, old.Times, "of a version kept before there were tasks nothing is known")
	assert.Equal(t, "instead of egg: flax gel", old.Steps[0].Note)
}

func TestIngredientsAsTheyAreUsed(t *testing.T) {
	res := adapted(t, "2-carrot-hazelnut-ring.txt", diet.EggFree)
	var rows []lineRow
	for _, l := range res.Recipe.Lines {
		rows = append(rows, lineRow{ID: int(l.ID), Name: l.Name})
	}
	got := byTask(rows, res.Method, res.Recipe)
	var heads []string
	at := map[string]int{}
	for n, r := range got {
		if r.Section != "" {
			heads = append(heads, r.Section)
		}
		at[r.Name] = n
	}
	assert.Equal(t, "sift", heads[0])
	assert.Equal(t, "cream, icing", heads[len(heads)-1])
	assert.Less(t, at["plain flour"], at["carrot, grated"])
	assert.GreaterOrEqual(t, len(got), len(rows))
	half := byTask([]lineRow{{ID: 1, Name: "flour"}, {ID: 2, Name: "glitter"}}, []method.Task{
		{Verb: method.Mix, Uses: []method.Use{{Line: 1, Share: 0.25}}}, {Verb: method.Fold, Uses: []method.Use{{Line: 1, Share: 0.75}}},
	}, &recipe.Recipe{Lines: []recipe.Line{{ID: 1, Grams: 200}, {ID: 2}}})
	require.Len(t, half, 3)
	assert.Equal(t, []string{"50 g", "150 g", "beside"}, []string{half[0].Grams, half[1].Grams, half[2].Section})
	links := orderLinks(7, url.Values{"diet": {"vegan"}}, true)
	assert.True(t, links[1].Current && strings.Contains(links[1].URL, "lines=task") && !strings.Contains(links[0].URL, "lines="))
}
