package scan

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/diet"
	"kollaris/core/larder"
)

// said are the words that a text is found to name, joined.
func said(text string) string {
	var out []string
	for _, m := range Mentions(text, larder.Builtin()) {
		out = append(out, m.Said)
	}
	return strings.Join(out, "|")
}

// hits are the words of a text that break a demand, joined.
func hits(text string, d diet.Demand) string {
	var out []string
	for _, h := range Against(text, d, larder.Builtin()) {
		if h.Verdict == diet.Breaks {
			out = append(out, h.Said)
		}
	}
	return strings.Join(out, "|")
}

func TestEveryRowOfTheTableIsInTheLarder(t *testing.T) {
	x, err := load(files, larder.Builtin())
	require.NoError(t, err)
	assert.Greater(t, len(x.phrases), 3000)
}

// What a row of the table must not be is told with its line.
func TestAFaultyTable(t *testing.T) {
	for table, says := range map[string]string{
		"like,words\n": "word.csv:1: want like,made,words,source",
		"like,made,words,source\nmoon,,dust,practice\n": `word.csv:2: "moon" is not in the larder`,
		"like,made,words,source\nmilk,maybe,dust,x\n":   `word.csv:2: made is "maybe"`,
		"like,made,words,source\nmilk,,dust\n":          "word.csv: record on line 2",
	} {
		_, err := load(fstest.MapFS{"data/word.csv": {Data: []byte(table)}}, larder.Builtin())
		require.Error(t, err, table)
		assert.Contains(t, err.Error(), says)
	}
	_, err := load(fstest.MapFS{}, larder.Builtin())
	assert.Error(t, err)
}

// What is named, and what its words make of it. Source: practice; the sentences are of our own.
func TestWhatATextNames(t *testing.T) {
	for text, want := range map[string]string{
		"Egg wash: 1 egg beaten with water":       "Egg wash|egg|water",
		"2 tbsp slivered pistachios":              "slivered pistachios",
		"Serve with custard":                      "custard",
		"300g rye sourdough starter":              "rye sourdough starter",
		"400 g strong wholemeal bread flour":      "strong wholemeal bread flour",
		"acacia honey":                            "acacia honey",
		"smoky hill honey":                        "honey",
		"free-range eggs":                         "eggs",
		"such as walnuts":                         "walnuts",
		"add as much milk as needed":              "milk",
		"Whisk whites to peaks with white sugar":  "whites|white sugar",
		"no more than 2 eggs":                     "eggs",
		"no more than 5 g of butter":              "butter",
		"Spread with butter":                      "butter",
		"clotted cream, to serve":                 "clotted cream",
		"if you like honey, add it":               "honey",
		"as well as eggs":                         "eggs",
		"Brush with milk. No cream is needed":     "milk",
		"replace half the butter with lard":       "lard",
		"Don't forget the milk":                   "milk",
		"1:1 gluten-free blend":                   "1:1 gluten-free blend",
		"1 tsp gravy browning":                    "gravy browning",
		"crème fraîche":                           "crème fraîche",
		"CHOPPED NUTS":                            "CHOPPED NUTS",
		"without the eggs, brush with milk":       "milk",
		"oat milk or milk":                        "oat milk|milk",
		"the milk(or cream)":                      "milk|cream",
		"Use butter rather than oil":              "butter",
		"milk-chocolate chips":                    "milk-chocolate chips",
		"Butter, eggs and flour at room warmth":   "Butter|eggs|flour",
		"Irish cream liqueur":                     "Irish cream liqueur",
		"cream sherry and cream of coconut sauce": "cream sherry|cream|coconut",
	} {
		assert.Equal(t, want, said(text), text)
	}
}

// Words that are another thing, are not there, are likened or are done raise no alarm.
func TestWhatRaisesNoAlarm(t *testing.T) {
	for _, text := range []string{
		"butter beans", "egg plant", "eggplant", "Cream the fat", "Cream, add the rest", "cream together until pale", "as though making mayonnaise", "natural release",
		"white programme", "walnut-sized balls", "the size of a walnut", "as runny as single cream", "no milk, eggs or nuts", "wheat-free", "nut-free", "dairy-free block",
		"egg-free", "vegan custard", "instead of butter", "in place of the eggs", "free from milk", "thicker than double cream", "like breadcrumbs", "resembles fine breadcrumbs",
		"egg replacer", "bake to a toffee brown", "wrap in a tea towel", "a wine glass", "cheesecloth", "doughnut pan", "oyster-style",
		"spread it out and level", "if browning too fast", "a fish slice", "use-by date", "pea-sized lumps", "flax egg (instead: water)", "milk (left out here)",
		"soft as butter", "Shape like a walnut", "never butter", "unsweetened, without any honey",
	} {
		found := hits(text, diet.Demand{Diets: []diet.ID{diet.Vegan, diet.GlutenFree}, Bans: []string{"nuts", "fish", "molluscs", "peas", "dates", "mustard", "sesame"}})
		assert.Empty(t, found, text)
	}
	quiet := diet.Demand{Bans: []string{"tree-nuts", "peanuts", "milk", "egg", "gluten"}}
	for _, text := range []string{
		"coconut milk", "cream of tartar", "buckwheat flour", "nutmeg", "cocoa butter", "rosemary, coarse sugar, pineapple rings", "oat fibre", "soya quark", "sunflower butter", "pumpkin seed butter",
		"rice milk", "peas and sweetcorn", "glutinous rice flour", "butternut squash", "tiger nut flour", "apple butter", "honeydew melon", "vegan cream cheese", "gluten-free flour",
	} {
		assert.Empty(t, hits(text, quiet), text)
	}
}

// A class of what is free of something keeps what else it holds.
func TestFreeOfOneThingIsNotFreeOfAnother(t *testing.T) {
	for text, by := range map[string]diet.Demand{
		"egg-free custard": {Bans: []string{"milk"}}, "dairy-free custard": {Bans: []string{"egg"}}, "gluten-free mayonnaise": {Diets: []diet.ID{diet.EggFree}},
		"nut-free milk chocolate": {Diets: []diet.ID{diet.DairyFree}}, "wheat-free rye flour": {Diets: []diet.ID{diet.GlutenFree}},
		"dairy-free spread and butter": {Bans: []string{"milk"}}, "vegan cheese with honey": {Diets: []diet.ID{diet.Vegan}}, "egg-free mayonnaise or an egg": {Diets: []diet.ID{diet.EggFree}},
		"gluten-free flour and rye": {Diets: []diet.ID{diet.GlutenFree}}, "plant milk, or milk": {Bans: []string{"milk"}},
		"sugar-free milk": {Bans: []string{"milk"}}, "free-range yolks": {Diets: []diet.ID{diet.EggFree}},
	} {
		assert.NotEmpty(t, hits(text, by), text)
	}
	assert.Empty(t, hits("egg-free custard", diet.Demand{Diets: []diet.ID{diet.EggFree}}))
	assert.Empty(t, hits("dairy-free and egg-free custard", diet.Demand{Diets: []diet.ID{diet.Vegan}}))
	assert.Equal(t, "milk", hits("gluten-free bread, made the day before with milk", diet.Demand{Bans: []string{"milk", "gluten"}}))
	assert.Empty(t, hits("gluten-free breadcrumbs", diet.Demand{Diets: []diet.ID{diet.GlutenFree}}))
	assert.Empty(t, hits("vegan mayonnaise", diet.Demand{Diets: []diet.ID{diet.Vegan}}))
}

// A word that no table knows is found by itself, and in no other.
func TestAWordThatNoTableKnows(t *testing.T) {
	d := diet.Demand{Bans: []string{diet.WordBan("Kiwi fruit"), diet.WordBan("kiwis")}}
	assert.Equal(t, []string{"kiwi fruit", "kiwi"}, d.Unknowns())
	assert.Equal(t, "Kiwi fruit|Kiwi|kiwis", hits("Kiwi fruit and kiwis", d))
	assert.Empty(t, hits("kiwiberry, no kiwi, kiwi-free", d))
	h := Against("2 kiwis", d, larder.Builtin())
	require.Len(t, h, 1)
	assert.Equal(t, "“kiwis” is what must not be here", h[0].Why.Words())
}

// What a mention is, in full.
func TestAMention(t *testing.T) {
	text := "Butter the tin; it may contain nuts (with custard)"
	m := Mentions(text, larder.Builtin())
	require.Len(t, m, 3)
	assert.True(t, m[0].Verb)
	assert.Equal(t, "Butter", text[m[0].From:m[0].To])
	assert.True(t, m[1].Holds)
	assert.Equal(t, "nuts", m[1].Ban)
	assert.True(t, m[2].Made)
	assert.Len(t, m[2].Foods, 2)
	assert.False(t, m[2].Verb || m[2].Holds)
	assert.Equal(t, m, Mentions(text, larder.Builtin()), "remembered")
	h := Against("dark chocolate", diet.Demand{Diets: []diet.ID{diet.DairyFree}}, larder.Builtin())
	require.Len(t, h, 1)
	assert.Equal(t, diet.CheckLabel, h[0].Verdict)
	assert.Equal(t, diet.ShutOut, Against("some fruit", diet.Demand{Bans: []string{"fruit"}}, larder.Builtin())[0].Why.Kind)
}

// Reading any text neither panics nor names what does not stand there.
func FuzzMentions(f *testing.F) {
	for _, text := range []string{"Egg wash: 1 egg", "1:1 blend, 'no' milk’s", "“crème” (oat) milk—or", "free free range", "as as as cream", "\xff\xfeegg"} {
		f.Add(text)
	}
	d := diet.Demand{Diets: []diet.ID{diet.Vegan, diet.Keto}, Bans: []string{"nuts", diet.WordBan("kiwi")}}
	f.Fuzz(func(t *testing.T, text string) {
		last := 0
		for _, h := range Against(text, d, larder.Builtin()) {
			assert.Equal(t, h.Said, text[h.From:h.To])
			if h.Word == "" {
				assert.GreaterOrEqual(t, h.From, last)
				last = h.To
			}
		}
	})
}
