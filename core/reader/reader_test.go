package reader_test

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/tin"
	"kollaris/internal/demo/recipes"
)

// The demo's recipes come in eight notations; each is understood whole.
func TestWholeRecipes(t *testing.T) {
	for _, c := range []struct {
		file, title string
		kind        recipe.Kind
		lines       int
		steps       int
		servings    int
		oven        float64
		min, max    float64
		tin         string
	}{
		{"1-pear-cardamom-loaf.txt", "Pear and cardamom loaf", recipe.QuickBread, 11, 5, 10, 177, 50, 55, "loaf 9x5 in"},
		{"2-carrot-hazelnut-ring.txt", "Carrot-hazelnut ring cake", recipe.AllInCake, 14, 6, 14, 180, 45, 50, "ring 25 cm"},
		{"3-cheddar-chive-scones.txt", "Cheddar-and-chive scones", recipe.Scone, 8, 5, 8, 218, 12, 14, "baking sheet"},
		{"4-rye-honey-rolls.txt", "Rye-honey rolls", recipe.RichBread, 9, 3, 12, 190, 20, 25, "13x9 in"},
		{"5-lemon-poppy-squares.txt", "Lemon-poppy squares", recipe.CreamedCake, 11, 5, 16, 177, 28, 32, "square 8 in"},
		{"6-oat-ginger-biscuits.txt", "Oat-ginger biscuits", recipe.Biscuit, 9, 4, 20, 175, 11, 13, "baking sheet"},
		{"7-buckwheat-seed-bread.txt", "Buckwheat seed bread", recipe.QuickBread, 10, 3, 12, 191, 45, 50, "loaf 8.5x4.5 in"},
		{"8-almond-orange-cake.txt", "Almond-orange cake", recipe.AllInCake, 6, 3, 10, 170, 50, 60, "round 20 cm"},
	} {
		rd, err := reader.Read(recipes.Text(c.file), reader.Options{})
		require.NoError(t, err)
		r := rd.Recipe
		assert.Equal(t, c.title, r.Title)
		assert.Equal(t, c.kind, r.Kind, c.title)
		assert.Len(t, r.Lines, c.lines, c.title)
		assert.Empty(t, r.Unknown(), c.title)
		assert.Len(t, r.Steps, c.steps, c.title)
		assert.Equal(t, c.servings, r.Servings, c.title)
		assert.InDelta(t, c.oven, float64(r.Oven), 1, c.title)
		assert.Equal(t, recipe.Minutes{Min: c.min, Max: c.max}, r.Bake, c.title)
		if assert.Len(t, r.Tins, 1, c.title) {
			assert.Equal(t, c.tin, r.Tins[0].Name, c.title)
		}
	}
	rd, err := reader.Read(recipes.Text("2-carrot-hazelnut-ring.txt"), reader.Options{})
	require.NoError(t, err)
	assert.Equal(t, "icing", rd.Recipe.Lines[13].Section)
	rd, err = reader.Read(recipes.Text("1-pear-cardamom-loaf.txt"), reader.Options{})
	require.NoError(t, err)
	assert.Contains(t, rd.Recipe.Notes[0], "juniors")
}

func TestHeadingsOfManyKinds(t *testing.T) {
	for _, head := range []string{"Ingredients", "INGREDIENTS:", "## Ingredients", "You will need"} {
		for _, steps := range []string{"Method", "Directions:", "INSTRUCTIONS", "How to make it", ""} {
			rd, err := reader.Read("Seed cake\n"+head+"\n- 200 g flour\n- 2 eggs\n\n"+steps+"\n1. Mix all of it well.\n2. Bake 40 minutes at 180C.", reader.Options{})
			require.NoError(t, err)
			assert.Len(t, rd.Recipe.Lines, 2, head+" "+steps)
			assert.Len(t, rd.Recipe.Steps, 2, head+" "+steps)
			assert.Equal(t, "Seed cake", rd.Recipe.Title)
		}
	}
}

func TestHeadingsBetweenDashes(t *testing.T) {
	for _, form := range []string{"--- %s ---", "%s:", "== %s ==", "– %s —–", "For the %s:", "*** %s ***"} {
		text := "Bread\n"
		for _, part := range []string{"Dough\x00300 g flour", "Glaze\x001 egg", "Topping\x0050 g walnuts"} {
			name, line, _ := strings.Cut(part, "\x00")
			text += fmt.Sprintf(form, name) + "\n" + line + "\n"
		}
		rd, err := reader.Read(text+"\nMix. Bake 30 min at 200 C.", reader.Options{})
		require.NoError(t, err)
		require.Len(t, rd.Recipe.Lines, 3, form)
		for n, want := range []string{"dough", "glaze", "topping"} {
			assert.Equal(t, want, rd.Recipe.Lines[n].Section, form)
		}
		assert.Equal(t, "Bread", rd.Recipe.Title)
	}
}

// Texts in the ways of other places: emphasis marks, two systems side by side,
// names before amounts, headings without a colon, no headings at all.
func TestUntidyTexts(t *testing.T) {
	for name, c := range map[string]struct {
		text     string
		lines    int
		steps    int
		oven     float64
		time     float64
		sections string
	}{
		"emphasis":                {"**Cocoa sponge**\n\n*For the sponge*\n- 175g/6oz self-raising flour\n- 4 large free-range eggs\n\n*For the filling*\n- 75g/2½oz butter\n\n1. Preheat oven to 180C/160C Fan/Gas 4.\n2. Bake for 25–30 minutes.", 3, 2, 180, 27.5, "sponge,sponge,filling"},
		"name first, no headings": {"Eggless cake\nMaida - 1 1/2 cups\nCurd - 1 cup\nCooking soda - 1/2 tsp\n\nPreheat oven to 180 deg C. Beat it all. Bake 30-35 mins.", 3, 1, 180, 32.5, ",,"},
		"a card of facts":         {"Bran loaf\nPrep time: 15 mins\nCook time: 1 hr\nServings: 10\n\nIngredients:\n200 g flour\n1/2 cup chopped walnuts (optional)\n\nDirections:\n1 Preheat the oven to 350°F (175°C), and butter a loaf pan.\n2 Mix and bake 1 hr.", 2, 2, 175, 60, ","},
		"headings of one word":    {"Sweet rolls\nDough\n1 c warm milk (110F)\n4 to 4 1/2 c bread flour\nFilling\n1 c brown sugar\nIcing\n4 oz cream cheese\npinch of salt\nDirections\nRise 1 hour until doubled. Bake at 350F 18-20 minutes.", 5, 1, 176.7, 19, "dough,dough,filling,icing,icing"},
		"a time in the head and another in the method": {"Seed bread\nMakes: 16 slices | Prep: 10 min | Bake: 60 min\n- 280 g almond flour\n\nPreheat the oven to 180°C (356°F). Mix.\nBake for 45 min or until a skewer comes out clean.", 1, 2, 180, 45, ""},
		"spoons by letter": {"Drop cookies (makes 24)\n\n2 1/4 c. AP flour\n1 t. baking soda\n1 C. (2 sticks) butter, softened\n2 lg. eggs\n\nHeat oven to 375. Beat butter. Bake 9 to 11 min.", 4, 1, 190.6, 10, ",,,"},
	} {
		rd, err := reader.Read(c.text, reader.Options{})
		require.NoError(t, err)
		var sections []string
		for _, l := range rd.Recipe.Lines {
			assert.True(t, l.Known, "%s: %s: %s", name, l.Text, l.Doubt)
			sections = append(sections, l.Section)
		}
		assert.Equal(t, c.sections, strings.Join(sections, ","), name)
		assert.Len(t, rd.Recipe.Steps, c.steps, name)
		assert.InDelta(t, c.oven, float64(rd.Recipe.Oven), 0.1, name)
		assert.InDelta(t, c.time, rd.Recipe.Bake.Mid(), 0.1, name)
	}
}

func TestTimesInTheOven(t *testing.T) {
	for text, want := range map[string]recipe.Minutes{
		"Bake for 50-55 minutes.": {Min: 50, Max: 55}, "Bake 1 hour.": {Min: 60, Max: 60}, "Bake for 1 hour 10 minutes": {Min: 70, Max: 70}, "Bake for 1 1/2 hours": {Min: 90, Max: 90},
		"Leave to rise 1 hour, then bake 30 to 35 min": {Min: 30, Max: 35}, "Cool 10 minutes. Bake 25 minutes.": {Min: 25, Max: 25}, "Bake an hour and cool for 20 minutes": {Min: 60, Max: 60},
		"Bake at 230C for 15 minutes, then turn down to 200C for 30 minutes": {Min: 45, Max: 45},
		"Let rest 15 minutes while the oven heats; bake about 45 mins":       {Min: 45, Max: 45},
	} {
		rd, err := reader.Read("A cake\nIngredients\n200 g flour\nMethod\n"+text, reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, want, rd.Recipe.Bake, text)
	}
}

func TestServings(t *testing.T) {
	for text, want := range map[string]int{"Serves 8": 8, "Serves 8-10": 8, "Makes 12 muffins": 12, "Makes about 20 biscuits": 20, "Yield: 1 loaf (10 slices)": 10, "Makes one loaf, about 12 slices": 12, "Servings: 6": 6, "Makes 1 loaf": 0,
		"1 loaf, 14 slices": 14, "1 large loaf (10 slices)": 10, "2 loaves, about 24 slices": 24, "one 2 lb loaf": 0, "1 cake, serves 12": 12} {
		rd, err := reader.Read("A cake\n"+text+"\nIngredients\n200 g flour", reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, want, rd.Recipe.Servings, text)
		assert.Len(t, rd.Recipe.Lines, 1, text)
	}
}

func TestTypedFactsComeBeforeThoseRead(t *testing.T) {
	text := "A cake\nServes 8\nIngredients\n200 g flour\nMethod\nBake in a 20 cm round tin at 180C for 40 minutes."
	rd, err := reader.Read(text, reader.Options{Facts: reader.Facts{Title: "Ours", Kind: "scone", Servings: "6", Tin: "loaf 9x5 in", Oven: "350 F", Time: "1 hour"}})
	require.NoError(t, err)
	r := rd.Recipe
	assert.Equal(t, []any{"Ours", recipe.Scone, 6, "loaf 9x5 in", 60.0}, []any{r.Title, r.Kind, r.Servings, r.Tins[0].Name, r.Bake.Max})
	assert.InDelta(t, 176.7, float64(r.Oven), 0.1)

	rd, err = reader.Read(text, reader.Options{Facts: reader.Facts{Kind: "pie", Servings: "0", Tin: "bucket", Oven: "warm", Time: "a while"}})
	require.NoError(t, err)
	assert.Len(t, rd.Faults, 5)
	assert.Contains(t, rd.Faults["servings"], "whole number from 1 to 200")
	assert.Equal(t, 8, rd.Recipe.Servings, "what was read stays")
}

func TestTextsThatCannotBeRead(t *testing.T) {
	for text, want := range map[string]string{"": "no text", "  \n ": "no text", strings.Repeat("flour\n", 40000): "KB of text", "\xff\xfe": "not plain text"} {
		_, err := reader.Read(text, reader.Options{})
		assert.ErrorContains(t, err, want)
	}
}

func TestEveryMarkIsAPlaceInTheText(t *testing.T) {
	for _, name := range recipes.Names() {
		text := recipes.Text(name)
		rd, err := reader.Read(text, reader.Options{})
		require.NoError(t, err)
		end := 0
		for _, m := range rd.Marks {
			assert.GreaterOrEqual(t, m.From, end)
			end = m.To
			if m.Kind == "time" || m.Kind == "oven" {
				assert.Regexp(t, `^\d|^gas|^an? `, strings.ToLower(text[m.From:m.To]), name)
			}
		}
		for _, l := range rd.Recipe.Lines {
			assert.Equal(t, l.Text, text[l.Span.From:l.Span.To])
		}
		for _, s := range rd.Recipe.Steps {
			assert.Equal(t, s.Text, text[s.Span.From:s.Span.To])
		}
	}
}

// A sentence that ends without a stop is marked where it stands.
func TestAMarkWithoutAFullStop(t *testing.T) {
	text := "Loaf\n\n240 g flour\n\nMix it. Bake at 180C for 30 minutes"
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	said := map[string]string{}
	for _, m := range rd.Marks {
		said[m.Kind] = text[m.From:m.To]
	}
	assert.Equal(t, []string{"180C", "30 minutes"}, []string{said["oven"], said["time"]})
}

func FuzzRead(f *testing.F) {
	for _, name := range recipes.Names() {
		f.Add(recipes.Text(name))
	}
	f.Add("1/0\n½½½ x 2 (3 (4\nFor the :\n2 x 2 x 2 g tins\n- - -\njuice of of 1/0 lemon")
	f.Fuzz(func(t *testing.T, text string) {
		rd, err := reader.Read(text, reader.Options{})
		if err != nil {
			return
		}
		for _, l := range rd.Recipe.Lines {
			if l.Grams < 0 || l.Grams > 20000 || l.Known && l.Ingredient == "" || !l.Known && l.Doubt == "" {
				t.Fatalf("%q: %+v", text, l)
			}
		}
		for _, m := range rd.Marks {
			if m.From < 0 || m.To > len(text) || m.From > m.To {
				t.Fatalf("%q: mark %+v", text, m)
			}
		}
	})
}

func BenchmarkRead(b *testing.B) {
	text := recipes.Text("2-carrot-hazelnut-ring.txt")
	for b.Loop() {
		if _, err := reader.Read(text, reader.Options{}); err != nil {
			b.Fatal(err)
		}
	}
}

func TestALineByItself(t *testing.T) {
	ln, ok := reader.ReadLine("200 g honey", reader.Options{})
	require.True(t, ok)
	assert.Equal(t, larder.ID("honey"), ln.Ingredient)
	assert.InDelta(t, 200, ln.Grams, 1e-9)
	for _, s := range []string{"", "1 cup honey\n2 eggs", "Serves 8"} {
		_, ok := reader.ReadLine(s, reader.Options{})
		assert.False(t, ok, "%q", s)
	}
}

// What an earlier part makes is not asked for again; a food of that name with an amount is.
func TestALineThatPointsBack(t *testing.T) {
	text := "Tea cake\n\nSoak\n200 g mixed fruit\n150 ml hot tea\n\nCake\n250 g plain flour\n%s\n2 tsp baking powder\n\nMix and bake at 180C 40 minutes"
	for line, back := range map[string]bool{"soaked fruit, blended": true, "the soaked fruit (above)": true, "Half the soaked mixture": true, "tea syrup, as above": true, "100 g soaked fruit": false, "soaked blorf": false} {
		rd, err := reader.Read(fmt.Sprintf(text, line), reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, back, len(rd.Recipe.Unknown()) == 0, line)
		assert.Equal(t, back, slices.ContainsFunc(rd.Findings, func(f reader.Finding) bool { return f.Code == "made-above" }), line)
	}
	rd, err := reader.Read("Cake\n\n200 g flour\nsoaked fruit\n2 tsp baking powder\n\nMix.", reader.Options{})
	require.NoError(t, err)
	assert.Len(t, rd.Recipe.Unknown(), 1, "nothing above it could have made it")
}

// Whose sizes eggs are: the line's word, the kitchen's, the text's words, in this order.
func TestWhoseSizesEggsAre(t *testing.T) {
	for _, c := range []struct {
		flour, eggs string
		kitchen     measure.EggSizes
		want        float64
	}{
		{"flour", "2 large eggs", "", 100}, {"caster sugar", "2 large eggs", "", 120}, {"caster sugar", "2 large eggs", measure.USEggs, 100},
		{"flour", "2 large eggs", measure.EUEggs, 120}, {"flour", "2 large eggs (US)", measure.EUEggs, 100}, {"flour", "2 eggs", measure.EUEggs, 100},
		{"caster sugar (1 cup)", "2 large eggs", "", 100}, {"flour", "2 small eggs", measure.EUEggs, 86}, {"flour", "2 extra large eggs", measure.EUEggs, 136}, {"flour", "2 egg yolks (large)", measure.EUEggs, 38},
	} {
		k := measure.DefaultKitchen()
		k.Eggs = c.kitchen
		lines, err := reader.ReadLines("200 g "+c.flour+"\n"+c.eggs, reader.Options{Kitchen: k})
		require.NoError(t, err)
		assert.InDelta(t, c.want, lines[1].Grams, 0.01, c)
	}
}

// A heat without a scale is taken in one, and that is said.
func TestTheScaleOfAHeatIsSaidWhereItIsTaken(t *testing.T) {
	for written, want := range map[string]string{
		"Bake at 350 for 35 minutes": "350 is written without °C or °F: taken as °F, since no home oven is set to that in °C.", "Bake at 180 for 35 minutes": "180 is written without °C or °F: taken as °C.",
		"Bake at 350F for 35 minutes": "", "Bake at 180 °C for 35 minutes": "", "Bake at gas 4 for 35 minutes": "", "Bake at 160 fan for 35 minutes": "",
	} {
		rd, err := reader.Read("Loaf\n\n200 g flour\n2 eggs\n\nMix. "+written+".", reader.Options{})
		require.NoError(t, err)
		got := ""
		for _, f := range rd.Findings {
			if f.Code == "oven-scale" {
				got = f.Message
			}
		}
		assert.Equal(t, want, got, written)
		assert.NotZero(t, rd.Recipe.Oven, written)
		if strings.Contains(written, "fan") {
			assert.InDelta(t, 180, float64(rd.Recipe.Oven), 0.1, "a fan's figure")
		}
	}
}

// A section in one line is its lines; what is no list stays one line, or a step.
func TestASectionInOneLine(t *testing.T) {
	read := func(line string) (out []string) {
		rd, err := reader.Read("Nut roll\nfor 2 rolls\n\n500 g plain flour\n80 g sugar\n"+line+"\n\nKnead all. Bake at 180C for 40 minutes.", reader.Options{})
		require.NoError(t, err)
		for _, l := range rd.Recipe.Lines[2:] {
			out = append(out, fmt.Sprintf("%s|%s|%.0f", l.Section, l.Ingredient, l.Grams))
		}
		return out
	}
	for line, want := range map[string][]string{
		"Filling: 300 g ground walnuts, 100 g sugar, 120 ml hot milk, 2 tbsp rum": {"filling|walnut-ground|300", "filling|sugar|100", "filling|milk|123", "filling|rum|28"},
		"For the topping: 50 g butter, melted; 30 g almonds, chopped":             {"topping|butter|50", "topping|almonds|30"},
		"100 g butter, 2 eggs, 50 ml milk":                                        {"|butter|100", "|egg|100", "|milk|51"},
		"200 g walnuts, chopped, toasted and cooled":                              {"|walnuts|200"},
		"100 g butter, melted, plus 1 tbsp for the tin":                           {"|butter|100"},
	} {
		got := read(line)
		for n, w := range want {
			if assert.Less(t, n, len(got), line) && !strings.Contains(w, "|walnut") && !strings.Contains(w, "|almonds") {
				assert.Equal(t, w, got[n], line)
			}
		}
		assert.Len(t, got, len(want), "%s: %v", line, got)
	}
}

// The time of a bake is that of the oven, however far its verb stands from it, not that of a sauce.
func TestTheTimeOfTheBakeIsTheOvens(t *testing.T) {
	for steps, want := range map[string]recipe.Minutes{
		"Mix all. Bake until a tester comes out with a few moist crumbs, 30 to 35 min. For the sauce, bring all to a simmer; cook 4 minutes.":       {Min: 30, Max: 35},
		"Cook the caramel, stirring, for 8 minutes. Mix all. Bake at 180C until it is golden and a skewer comes out quite clean, about 45 minutes.": {Min: 45, Max: 45},
		"Mix all. Cook in the oven at 180C for 25 minutes.": {Min: 25, Max: 25},
	} {
		rd, err := reader.Read("Squares\nMakes 16\n\n200 g plain flour\n100 g sugar\n\n"+steps, reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, want, rd.Recipe.Bake, steps)
	}
}

// A table in Markdown, steps numbered without a dot, a drizzle after a dash, and a time on the hob.
func TestOtherWaysToWriteIt(t *testing.T) {
	rd, err := reader.Read(`**Everyday loaf**

| Ingredient | Amount |
|---|---:|
| Strong white flour | 500 g |
| 310 ml | Water |
| Fast yeast | 1 1/4 tsp |
For the drizzle – juice of 2 lemons and 100 g icing sugar
1 level tsp salt

1 Preheat the oven to 220C.
2 Mix in the salt. Boil the potatoes for 12 minutes.
3 Bake for 30 min.`, reader.Options{})
	require.NoError(t, err)
	var got []string
	for _, l := range rd.Recipe.Lines {
		got = append(got, fmt.Sprintf("%s %.0f %s", l.Ingredient, l.Grams, l.Section))
	}
	assert.Equal(t, []string{"strong-flour 500 ", "water 310 ", "instant-yeast 4 ", "lemon-juice 90 drizzle", "icing-sugar 100 drizzle", "salt 6 drizzle"}, got)
	require.Len(t, rd.Recipe.Steps, 3)
	assert.Equal(t, "Preheat the oven to 220C.", rd.Recipe.Steps[0].Text)
	assert.Equal(t, recipe.Minutes{Min: 30, Max: 30}, rd.Recipe.Bake)
	rd, err = reader.Read("Flatbreads\n\n350 g potatoes\n250 g plain flour\n\nBoil the potatoes until tender, 12-15 minutes. Fry 2-3 minutes per side.", reader.Options{})
	require.NoError(t, err)
	assert.Zero(t, rd.Recipe.Bake, "nothing of it is baked")
}

// Markup of Markdown and of pages is no part of a title or a fact; a dozen is twelve; thousands may be parted by a point; what
// bakers shorten is known.
func TestWhatWritersWriteOtherwise(t *testing.T) {
	for text, want := range map[string]string{
		"# **Pear loaf** #\n**Serves:** 10\n\n200 g plain flour\n2 eggs":                  "Pear loaf|10|0",
		"<b>Pear</b> <i>loaf</i>\n**Serves**: 8\n200 g plain flour\n2 eggs":               "Pear loaf|8|0",
		"Pear buns\nMakes a dozen\nOven 375\n200 g plain flour\n2 eggs\nBake 20 minutes.": "Pear buns|12|190",
		"Pear buns\nMakes half a dozen\nOven: 180\n200 g plain flour\n2 eggs":             "Pear buns|6|180",
	} {
		rd, err := reader.Read(text, reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, want, fmt.Sprintf("%s|%d|%.0f", rd.Recipe.Title, rd.Recipe.Servings, math.Floor(float64(rd.Recipe.Oven))), text)
	}
	for line, want := range map[string]string{"1.000 g flour": "1000 plain-flour", "1.5 g salt": "2 salt", "2.500 ml milk": "2557 milk", "1.000 kg flour": "1000 plain-flour", "2 t. b.p.": "9 baking-powder", "1 cup b'milk": "242 buttermilk"} {
		l, ok := reader.ReadLine(line, reader.Options{})
		require.True(t, ok, line)
		assert.Equal(t, want, fmt.Sprintf("%.0f %s", l.Grams, l.Ingredient), line)
	}
}

// A pan on the hob is no tin that a batter is parted into.
func TestAPanOnTheHobIsNoTin(t *testing.T) {
	for step, want := range map[string]string{
		"Melt the butter in a 20 cm pan and pour it into a 23 cm round tin.":      "round 23 cm",
		"Warm the oven and grease a 2 lb loaf tin or a 6-hole muffin tin.":        "loaf 9x5 in or 6 muffin cups",
		"Divide between a 20 cm round tin and 6 muffin cups.":                     "round 20 cm and 6 muffin cups",
		"Pour into a 20 cm round tin. Cool, then serve from a 30 cm round plate.": "round 20 cm",
	} {
		rd, err := reader.Read("Cake\n\n200 g flour\n100 g butter\n2 eggs\n\n"+step+"\nBake at 180C for 30 minutes.", reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, want, tin.Together(rd.Recipe.Tins, rd.Recipe.OtherTins), step)
	}
}

// A bake that changes its heat has a stage for each time, each with the heat that is said of it.
func TestEachStageHasItsHeat(t *testing.T) {
	stage := func(c, from, to float64) recipe.Stage {
		return recipe.Stage{Oven: measure.Celsius(c), Minutes: recipe.Minutes{Min: from, Max: to}}
	}
	for steps, want := range map[string][]recipe.Stage{
		"Bake 10 minutes at 210 C, then 20 minutes at 180 C.":                                     {stage(210, 10, 10), stage(180, 20, 20)},
		"Bake 10 minutes at 210 C, then 20 minutes more.":                                         {stage(210, 10, 10), stage(210, 20, 20)},
		"Bake for 15 minutes at 230C, reduce to 200C and bake for 30 minutes.":                    {stage(230, 15, 15), stage(200, 30, 30)},
		"Bake for 10 minutes at 220 C, then lower the heat to 190 C and bake 25-30 minutes more.": {stage(220, 10, 10), stage(190, 25, 30)},
		"Preheat to 220 C. Bake 10 min. Then 180 C for 25 min.":                                   {stage(220, 10, 10), stage(180, 25, 25)},
		"Preheat the oven to 200 C. Bake for 10 minutes. Lower to 180 C and bake 20 minutes more": {stage(200, 10, 10), stage(180, 20, 20)},
		"Bake at 200 C 20 minutes then 160 C 30 minutes then 140 C 10 minutes.":                   {stage(200, 20, 20), stage(160, 30, 30), stage(140, 10, 10)},
		"Bake for 20 minutes at 180 C.":                                                           nil,
	} {
		rd, err := reader.Read("Loaf\n200 g flour\n\n"+steps, reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, want, rd.Recipe.Stages, steps)
		if want != nil {
			assert.Equal(t, want[0].Oven, rd.Recipe.Oven, steps)
		}
	}
}

// When it is done is what is looked for in the bake, the surest sign of all; what is fried before is no bake.
func TestWhenItIsDone(t *testing.T) {
	for steps, want := range map[string]string{
		"Fry the onions until golden. Mix all and stir.":                                                          "",
		"Fry the onions until golden. Mix. Bake for 30 minutes until deep brown.":                                 "deep brown",
		"Mix. Bake for 30 minutes until a skewer comes out clean. Brush, and bake until golden, 5 minutes.":       "a skewer comes out clean",
		"Mix. Bake until golden, 20 minutes. Return it to the oven until a skewer comes out clean, 5 minutes on.": "a skewer comes out clean",
	} {
		rd, err := reader.Read("Loaf\n200 g flour\n\n"+steps, reader.Options{})
		require.NoError(t, err)
		assert.Contains(t, rd.Recipe.Done, want, steps)
		assert.Equal(t, want == "", rd.Recipe.Done == "", steps)
	}
}

// Two weights of one line that differ by more than packs and tables do are told, with the line that they stand in; ounces are rounded.
func TestTwoWeightsOfALine(t *testing.T) {
	rd, err := reader.Read("Loaf\n1 cup (128 g) plain flour\n1 cup (131 g) plain flour\n8 oz (250 g) butter\n8 oz (300 g) butter\n1 cup (140 g) plain flour\nzest of 1/0 lemon", reader.Options{})
	require.NoError(t, err)
	got := map[recipe.LineID]string{}
	for _, f := range rd.Findings {
		if f.Code == "amounts-differ" {
			got[f.Line] = f.Severity
		}
	}
	assert.Equal(t, map[recipe.LineID]string{2: "look", 3: "note", 4: "look", 5: "look"}, got, "a cup holds 120 g: 7 and 9 % more, 250 of 227 g, 300 of them, 17 % more")
	for n, grams := range []float64{128, 131, 226.8, 226.8, 140, 0} {
		assert.InDelta(t, grams, rd.Recipe.Lines[n].Grams, 0.05)
	}
	assert.Contains(t, rd.Recipe.Lines[5].Doubt, "divided by 0")
}

// What is shared is shared: a pinch of each, a spoon in halves, an amount of its own.
func TestTwoOfOneAmount(t *testing.T) {
	for text, want := range map[string]string{
		"pinch of salt and pepper":                               "pinch salt; pinch pepper",
		"salt and pepper":                                        "salt; pepper",
		"2 tsp cinnamon and ginger":                              "1 tsp cinnamon; 1 tsp ginger",
		"1 tsp each cinnamon and ginger":                         "1 tsp cinnamon; 1 tsp ginger",
		"2 tsp salt and 1 tsp pepper":                            "2 tsp salt; 1 tsp pepper",
		"| Amount | What |\n|---|---|\n| | salt |\n| 2 | eggs |": "salt; 2 eggs",
	} {
		rd, err := reader.Read("Loaf\n\n200 g flour\n"+text+"\n\nBake 20 minutes.", reader.Options{})
		require.NoError(t, err)
		var got []string
		for _, l := range rd.Recipe.Lines[1:] {
			assert.True(t, l.Known, "%s: %s", text, l.Doubt)
			got = append(got, l.Text)
		}
		assert.Equal(t, want, strings.Join(got, "; "), text)
	}
}

// A powder of a spice is the spice; one of anything else is not what it is made of.
func TestPowders(t *testing.T) {
	for text, want := range map[string]string{"1 tsp turmeric powder": "turmeric", "1 tsp powdered ginger": "ginger", "30 g milk powder": "milk-powder", "20 g beetroot powder": "", "1 tsp carrot powder": ""} {
		rd, err := reader.Read("Loaf\n200 g flour\n"+text, reader.Options{})
		require.NoError(t, err)
		assert.EqualValues(t, want, rd.Recipe.Lines[1].Ingredient, text)
		assert.Equal(t, want != "", rd.Recipe.Lines[1].Known, text)
	}
}

// A second list below the steps counts, headed or not; what a slice holds does not, nor what tells what to do.
func TestIngredientsAmongTheSteps(t *testing.T) {
	for after, want := range map[string]string{
		"2 eggs": "egg",
		"50 g walnuts, chopped\nsalt\na little milk\nStir into the icing.": "walnuts salt milk",
		"100 g icing sugar\n1 tbsp lemon juice\n\nStir both and spread.":   "icing-sugar lemon-juice",
		"Topping: 50 g butter, 2 tbsp honey\nMelt both.":                   "butter honey",
		"2 eggs, 1 for the glaze":                                          "egg",
		"100 g zorblax":                                                    "?",
		"100 g sugar, 2 eggs and 50 g butter":                              "sugar egg butter",
		"Per slice: 200 kcal\n10 g fat\n12 g sugar\n1 g salt":              "",
		"10 g fat\n12 g sugar\n1 g salt":                                   "",
		"Serves 8, 250 kcal each\n12 g sugars":                             "",
		"1 cup of the flour goes on the board":                             "",
		"Keep 2 eggs for the glaze":                                        "",
		"12 slices":                                                        "",
		"1 hour rest":                                                      "",
		"salt":                                                             "",
	} {
		rd, err := reader.Read("Loaf\n200 g flour\n\nMix. Bake 20 minutes.\n"+after, reader.Options{})
		require.NoError(t, err)
		var got []string
		for n, l := range rd.Recipe.Lines[1:] {
			got = append(got, cmp.Or(string(l.Ingredient), "?"))
			told := slices.ContainsFunc(rd.Findings, func(f reader.Finding) bool { return f.Code == "among-steps" && f.Line == l.ID })
			assert.Equal(t, !strings.Contains(after, "50 g butter"), told, "%s: line %d", after, n)
		}
		assert.Equal(t, want, strings.Join(got, " "), after)
	}
}

// A heading needs neither a colon nor "for the": it stands over amounts. A food without an amount is none.
func TestHeadingsWithoutASign(t *testing.T) {
	for _, c := range []struct {
		name, text string
		want       []string // sections of the lines
	}{
		{"behind an empty line", "Lemon cupcakes\n\nCupcakes\n100 g flour\n1 egg\n\nLemon curd\n2 egg yolks\n60 g sugar\n\nMeringue\n2 egg whites\n50 g sugar", []string{"cupcakes", "cupcakes", "lemon curd", "lemon curd", "meringue", "meringue"}},
		{"without empty lines, by what it is", "Buns\n300 g flour\n1 egg\nMain dough\n200 g flour\n60 ml milk", []string{"", "", "main dough", "main dough"}},
		{"by the title", "Lemon cupcakes\nIngredients\n1 lemon\nCupcakes\n100 g flour\n1 egg", []string{"", "cupcakes", "cupcakes"}},
		{"a food", "Bread\n300 g flour\nsalt\n200 ml water\n2 g yeast", []string{"", "", "", ""}},
		{"a food behind an empty line", "Bread\n300 g flour\n\nhoney\n200 ml water\n2 g yeast", []string{"", "", "", ""}},
		{"for the", "Cake\n100 g flour\n\nFor the icing\n50 g butter\n100 g icing sugar", []string{"", "icing", "icing"}},
	} {
		rd, err := reader.Read(c.text+"\n\nMethod\nMix and bake.", reader.Options{})
		require.NoError(t, err)
		var got []string
		for _, l := range rd.Recipe.Lines {
			got = append(got, l.Section)
		}
		assert.Equal(t, c.want, got, c.name)
	}
}
