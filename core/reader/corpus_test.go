package reader_test

import (
	_ "embed"
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// corpusLines are lines as they stand in letters, cards, pages and notebooks, one
// a line: what is written => ingredient grams. The weights are those written, or
// follow from ounces, pounds and the catalogue's cup, spoon and piece, which
// core/larder holds to GNU units. "?" must be asked about.
//
//go:embed testdata/lines.txt
var corpusLines string

// corpusRecipes are whole recipes: "== how it is written", "-- title | kind |
// serves | oven | time | tins | steps | waits and the sign that it is done", then
// the text, whose ingredient lines end as those of corpusLines; several
// ingredients of one line are parted by semicolons.
//
//go:embed testdata/recipes.txt
var corpusRecipes string

// expected is an ingredient line as it should be read.
type expected struct {
	ingredient string // "?" for a line that must be asked about
	grams      float64
	optional   bool
}

// annotated parts a row of the corpus into the text and what is expected of it.
func annotated(row string) (text string, want []expected) {
	text, all, ok := strings.Cut(row, " => ")
	if ok {
		for _, s := range strings.Split(all, "; ") {
			f := strings.Fields(s)
			want = append(want, expected{f[0], decimal(f[1]), len(f) > 2 && f[2] == "optional"})
		}
	}
	return text, want
}

// rightly reports whether a line was read as expected; a wrong amount that is not
// in doubt fails the test, a question without need is only counted.
func rightly(t *testing.T, where string, l recipe.Line, want expected) bool {
	switch {
	case want.ingredient == "?":
		return assert.False(t, l.Known, "%s: must be asked about: %s", where, l.Text)
	case !l.Known:
		t.Logf("asked: %s: %-45s %s", where, l.Text, l.Doubt)
		return false
	case l.Ingredient != larder.ID(want.ingredient) || math.Abs(l.Grams-want.grams) > 0.02*want.grams+0.5 || want.grams < 10 && math.Abs(l.Grams-want.grams) > 0.5 || l.Optional != want.optional:
		t.Errorf("silently wrong: %s: %s: %s %.1f g, want %s %.1f g", where, l.Text, l.Ingredient, l.Grams, want.ingredient, want.grams)
		return false
	}
	return true
}

func TestTheCorpus(t *testing.T) {
	right, all := 0, 0
	compare := func(where string, want []expected, lines []recipe.Line) {
		all += len(want)
		if !assert.Equal(t, len(want), len(lines), "%s: %s", where, texts(lines)) {
			return
		}
		for n, w := range want {
			if rightly(t, where, lines[n], w) {
				right++
			}
		}
	}
	for _, row := range strings.Split(strings.TrimSpace(corpusLines), "\n") {
		text, want := annotated(row)
		rd, err := reader.Read("A cake\n\nIngredients\n"+text, reader.Options{})
		require.NoError(t, err, row)
		compare(text, want, rd.Recipe.Lines)
	}
	recipes := strings.Split(strings.TrimPrefix(corpusRecipes, "== "), "\n== ")
	for _, rec := range recipes {
		name, rest, _ := strings.Cut(rec, "\n")
		head, rest, _ := strings.Cut(rest, "\n")
		var text strings.Builder
		var want []expected
		for _, row := range strings.Split(rest, "\n") {
			ln, exp := annotated(row)
			text.WriteString(ln + "\n")
			want = append(want, exp...)
		}
		rd, err := reader.Read(strings.TrimSpace(text.String()), reader.Options{})
		require.NoError(t, err, name)
		assert.Equal(t, strings.TrimPrefix(head, "-- "), factsOf(rd.Recipe), name)
		compare(name, want, rd.Recipe.Lines)
	}
	t.Logf("%d of %d lines wholly right, %d recipes", right, all, len(recipes))
	assert.GreaterOrEqual(t, float64(right), 0.98*float64(all))
	assert.GreaterOrEqual(t, len(recipes), 60)
	assert.GreaterOrEqual(t, all, 800)
}

// factsOf writes all but the lines of a recipe.
func factsOf(r *recipe.Recipe) string {
	f := []string{r.Title, string(r.Kind), fmt.Sprintf("serves %d", r.Servings), fmt.Sprintf("%.0f °C", float64(r.Oven)), fmt.Sprintf("%g-%g min", r.Bake.Min, r.Bake.Max)}
	for _, t := range r.Tins {
		f = append(f, t.Words())
	}
	f = append(f, fmt.Sprintf("steps %d", len(r.Steps)))
	if w := waitsOf(r); w != "" {
		f = append(f, w)
	}
	return strings.Join(f, " | ")
}

func texts(lines []recipe.Line) string {
	var out []string
	for _, l := range lines {
		out = append(out, l.Text)
	}
	return strings.Join(out, " / ")
}

func decimal(s string) float64 {
	x, err := strconv.ParseFloat(s, 64)
	if err != nil {
		panic(err)
	}
	return x
}
