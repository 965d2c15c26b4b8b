package format

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/demo/recipes"
)

func read(t *testing.T, text string) *recipe.Recipe {
	t.Helper()
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	return rd.Recipe
}

// essence is what must survive a journey through a file.
func essence(r *recipe.Recipe) []string {
	out := []string{r.Title, string(r.Kind), fmt.Sprintf("serves %d, oven %.0f, %v, %v", r.Servings, r.Oven, r.Bake, r.Tins)}
	for _, l := range r.Lines {
		out = append(out, fmt.Sprintf("[%s] %s %.1f %v %v", l.Section, l.Ingredient, l.Grams, l.Known, l.Optional))
	}
	for _, s := range r.Steps {
		out = append(out, s.Text)
	}
	return out
}

func TestEveryFormReadsBack(t *testing.T) {
	l := larder.Builtin()
	for _, name := range recipes.Names() {
		want := read(t, recipes.Text(name))
		ld, err := JSONLD(want, nil, "", l)
		require.NoError(t, err)
		for form, file := range map[string]string{"plain.txt": Text(want, l), "sheet.md": Markdown(want, l), "doc.json": string(ld)} {
			found := Recipes(form, []byte(file))
			require.Len(t, found, 1, form)
			require.Empty(t, found[0].Fault, form)
			assert.Equal(t, essence(want), essence(read(t, found[0].Text)), "%s as %s:\n%s", name, form, file)
		}
		var b bytes.Buffer
		require.NoError(t, WriteLines(&b, want, l))
		found := Recipes(want.Title+".csv", b.Bytes())
		require.Len(t, found, 1)
		got := read(t, found[0].Text)
		assert.Equal(t, want.Title, got.Title)
		require.Len(t, got.Lines, len(want.Lines), b.String())
		for n, ln := range want.Lines {
			assert.Equal(t, ln.Ingredient, got.Lines[n].Ingredient, ln.Text)
			assert.InDelta(t, ln.Grams, got.Lines[n].Grams, 0.05+0.001*ln.Grams, ln.Text)
			assert.Equal(t, ln.Section, got.Lines[n].Section, ln.Text)
		}
	}
}

func TestACorrectedLineIsWrittenFromItsParts(t *testing.T) {
	text := "Small cake\nIngredients\n1 tsp blorf\n1 tbsp baking soda\n200 g plain flour"
	rd, err := reader.Read(text, reader.Options{Fixes: map[string]reader.Fix{"1 tsp blorf": {Ingredient: "poppy-seeds"}, "1 tbsp baking soda": {Amount: "1", Unit: "tsp"}}})
	require.NoError(t, err)
	out := Text(rd.Recipe, larder.Builtin())
	assert.NotContains(t, out, "blorf")
	assert.Contains(t, out, "1 tsp poppy seeds\n")
	assert.Contains(t, out, "1 tsp baking soda (bicarbonate)\n")
	assert.Contains(t, out, "\n200 g plain flour\n")
}

// The published vocabulary (schema.org, Recipe and its parents CreativeWork and
// Thing; HowToStep) has these properties; the types are those of its pages.
func TestJSONLDUsesOnlyThePublishedVocabulary(t *testing.T) {
	r := read(t, recipes.Text(recipes.Names()[1]))
	tasks := method.Read(r, larder.Builtin())
	r.Steps = nil
	for _, task := range tasks {
		r.Steps = append(r.Steps, recipe.Step{Text: task.Text})
	}
	b, err := JSONLD(r, tasks, "", larder.Builtin())
	require.NoError(t, err)
	var doc map[string]any
	require.NoError(t, json.Unmarshal(b, &doc))
	of := map[string]any{"@context": "", "@type": "", "name": "", "description": "", "recipeYield": "", "cookTime": "", "prepTime": "", "totalTime": "", "tool": []any{}, "recipeIngredient": []any{}, "recipeInstructions": []any{}, "text": ""}
	for key, v := range doc {
		require.Contains(t, of, key)
		assert.IsType(t, of[key], v, key)
	}
	assert.Equal(t, "Recipe", doc["@type"])
	for _, key := range []string{"prepTime", "cookTime", "totalTime"} {
		assert.Regexp(t, `^PT\d+M$`, doc[key], "an ISO 8601 duration")
	}
	assert.Equal(t, map[string]any{"@type": "HowToTool", "name": "1 mixing bowl"}, doc["tool"].([]any)[0])
	sections := doc["recipeInstructions"].([]any)
	require.Len(t, sections, 2, "the cake and its icing")
	assert.Equal(t, []any{"HowToSection", "icing"}, []any{sections[1].(map[string]any)["@type"], sections[1].(map[string]any)["name"]})
	timed := 0
	for _, x := range sections[0].(map[string]any)["itemListElement"].([]any) {
		step := x.(map[string]any)
		assert.Equal(t, "HowToStep", step["@type"])
		if d, ok := step["itemListElement"].([]any); ok {
			timed++
			assert.Regexp(t, `^PT\d+M$`, d[0].(map[string]any)["performTime"])
		}
	}
	assert.Equal(t, 3, timed, "bake, cool in the tin, cool")
}

func TestJSONLDOfOtherPrograms(t *testing.T) {
	const ingredients = `"recipeIngredient":["200&nbsp;g plain flour","<b>2</b> eggs"]`
	cases := []struct{ name, json, want string }{
		{"bare", `{"@type":"Recipe","name":"Oat squares",` + ingredients + `}`, "Oat squares\n\nIngredients\n200 g plain flour\n2 eggs\n"},
		{"type in a list, full address", `{"@type":["https://schema.org/Recipe","Thing"],"name":"A",` + ingredients + `}`, "A\n\nIngredients\n200 g plain flour"},
		{"an array", `[{"@type":"WebSite"},{"@type":"Recipe","name":"B",` + ingredients + `}]`, "B\n"},
		{"a graph", `{"@context":"https://schema.org","@graph":[{"@type":"Person"},{"@type":"Recipe","name":"C",` + ingredients + `}]}`, "C\n"},
		{"yield as a number", `{"@type":"Recipe","name":"D","recipeYield":12,` + ingredients + `}`, "D\nServes 12\n"},
		{"yield with words wins", `{"@type":"Recipe","name":"E","recipeYield":["12","12 scones"],` + ingredients + `}`, "Makes 12 scones\n"},
		{"time", `{"@type":"Recipe","name":"F","cookTime":"PT1H5M",` + ingredients + `}`, "Bake time: 65 minutes\n"},
		{"one text for the method", `{"@type":"Recipe","name":"G","recipeInstructions":"<p>Rub in.</p><p>Bake.</p>",` + ingredients + `}`, "Method\nRub in.\nBake.\n"},
		{"steps", `{"@type":"Recipe","name":"H","recipeInstructions":[{"@type":"HowToStep","text":"Rub in."},{"@type":"HowToStep","name":"Bake."}],` + ingredients + `}`, "Method\nRub in.\nBake.\n"},
		{"sections", `{"@type":"Recipe","name":"I","recipeInstructions":[{"@type":"HowToSection","name":"Icing:","itemListElement":[{"@type":"HowToStep","text":"Beat."},{"@type":"HowToStep","text":"Spread."}]}],` + ingredients + `}`, "Method\nIcing. Beat.\nSpread.\n"},
		{"a description", `{"@type":"Recipe","name":"J","description":"Keeps a week",` + ingredients + `}`, "Notes\nKeeps a week\n"},
		{"a text that is something else", `{"@type":"Recipe","name":"K","text":"Lovely.",` + ingredients + `}`, "K\n\nIngredients\n200 g"},
		{"a number for a name", `{"@type":"Recipe","name":7,` + ingredients + `}`, "7\n"},
	}
	for _, c := range cases {
		found := Recipes("x.json", []byte(c.json))
		require.Len(t, found, 1, c.name)
		assert.Empty(t, found[0].Fault, c.name)
		assert.Contains(t, found[0].Text, c.want, c.name)
		page := "<!doctype html><html><head><script type=\"application/ld+json\">" + c.json + "</script></head><body>…</body></html>"
		assert.Equal(t, found[0].Text, Recipes("page.html", []byte(page))[0].Text, "%s in a saved page", c.name)
	}
}

func TestFilesThatCannotBeTaken(t *testing.T) {
	cases := []struct{ name, data, says string }{
		{"none.txt", " \n", "no text to read"},
		{"photo.txt", "\xff\xd8\xff\xe0", "it is not text"},
		{"half.json", `{"@type":"Recipe"`, "not whole JSON"},
		{"list.json", `{"@type":"ItemList"}`, "no schema.org Recipe"},
		{"page.html", "<html><body>Hello</body></html>", "holds no list of ingredients"},
		{"big.txt", strings.Repeat("a", reader.MaxText+1), "one recipe to a file"},
		{"huge.json", strings.Repeat("a", MaxFile+1), "up to 2048 KB"},
		{"odd.csv", "a,\"b", "save it again as CSV"},
		{"cut.zip", "PK\x03\x04abc", "damaged"},
	}
	for _, c := range cases {
		found := Recipes(c.name, []byte(c.data))
		require.Len(t, found, 1, c.name)
		assert.Contains(t, found[0].Fault, c.says, c.name)
		assert.Equal(t, c.name, found[0].File)
	}
}

func TestAZipGivesEachFileItsResult(t *testing.T) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, f := range [][2]string{
		{"a.txt", "A\n200 g flour"}, {"bad.json", "{"}, {".hidden", "x"}, {"in/b.csv", "amount;unit;ingredient\n200;g;flour\n1/2;tsp;salt"}, {"c.zip", "PK\x03\x04"},
	} {
		w, err := z.Create(f[0])
		require.NoError(t, err)
		_, err = w.Write([]byte(f[1]))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	found := Recipes("shelf.zip", b.Bytes())
	require.Len(t, found, 4)
	assert.Equal(t, "A\n200 g flour", found[0].Text)
	assert.Contains(t, found[1].Fault, "not whole JSON")
	assert.Equal(t, "shelf.zip: in/b.csv", found[2].File)
	assert.Equal(t, "b\n\nIngredients\n200 g flour\n1/2 tsp salt\n", found[2].Text)
	assert.Contains(t, found[3].Fault, "unpack it first")
}

func TestAZipThatSwellsIsStopped(t *testing.T) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for n := range 12 {
		f, err := z.Create(fmt.Sprintf("%d.txt", n))
		require.NoError(t, err)
		_, err = f.Write(make([]byte, MaxFile+1))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	for _, f := range Recipes("bomb.zip", b.Bytes()) {
		assert.Contains(t, f.Fault, "larger than can be taken")
	}
}

func FuzzRecipes(f *testing.F) {
	f.Add("a.json", `{"@graph":[{"@type":"Recipe","name":"A","recipeIngredient":["1 egg"],"recipeInstructions":{"itemListElement":["x"]}}]}`)
	f.Add("a.csv", "amount,unit,ingredient\n1,cup,flour")
	f.Add("a.html", `<html><script type="application/ld+json">[]</script>`)
	f.Fuzz(func(t *testing.T, name, data string) {
		found := Recipes(name, []byte(data))
		require.NotEmpty(t, found)
		for _, x := range found {
			if x.Fault == "" {
				_, _ = reader.Read(x.Text, reader.Options{})
			}
		}
	})
}

// A saved page that says nothing to programs is read by its headings; a table with a column of recipes is as many.
func TestPagesAndTablesOfSeveral(t *testing.T) {
	page := `<!doctype html><html><head><title>Blog</title><style>p{}</style></head><body><nav><a>Home</a></nav><h1>Pear squares</h1><p>My aunt's story, long and dear.</p>
<div class="r"><div><h3>Ingredients</h3><ul><li>200 g <b>plain</b> flour</li><li>2 eggs</li><li>1&frac12; tsp baking powder</li></ul></div><div><h3>Method</h3><ol><li>Mix.</li><li>Bake at 180&deg;C for 30 minutes.</li></ol></div></div>
<footer>200 comments</footer><script>var x = "100 g sugar"</script></body></html>`
	found := Recipes("page.html", []byte(page))
	require.Len(t, found, 1)
	require.Empty(t, found[0].Fault)
	assert.Equal(t, "Pear squares\n\nIngredients\n200 g plain flour\n2 eggs\n1½ tsp baking powder\nMethod\nMix.\nBake at 180°C for 30 minutes.", found[0].Text)
	found = Recipes("two.csv", []byte("recipe;amount;unit;ingredient\nSeed loaf;200;g;flour\nPear buns;2;;eggs\nSeed loaf;1,5;tsp;salt\n"))
	require.Len(t, found, 2)
	assert.Equal(t, "Seed loaf\n\nIngredients\n200 g flour\n1,5 tsp salt\n", found[0].Text)
	assert.Equal(t, "Pear buns", found[1].Title)
}

// A shelf of ten thousand is taken in whole; what is more than that is said, not dropped.
func TestMoreRecipesThanAreTaken(t *testing.T) {
	node := `{"@type":"Recipe","name":"Seed loaf","recipeIngredient":["300 g flour"]},`
	found := Recipes("many.json", []byte("["+strings.Repeat(node, 10000)+strings.TrimSuffix(node, ",")+"]"))
	require.Len(t, found, 10001)
	assert.Empty(t, found[10000].Fault)
	found = Recipes("more.json", []byte("["+strings.Repeat(node, 12002)+strings.TrimSuffix(node, ",")+"]"))
	require.Len(t, found, 12001)
	assert.Equal(t, "it holds 12003 recipes, of which the last 3 were left: part it", found[12000].Fault)
}
