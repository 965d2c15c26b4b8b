package adapt_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

const unread = "Seed loaf\nServes 10\nIngredients\n200 g ground almonds\n4 eggs\n60 g butter\n100 g zorblax powder\n1 cup glorp syrup\n2 tsp baking powder"

func readAnyway(t *testing.T, text string) *recipe.Recipe {
	t.Helper()
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	return rd.Recipe
}

// A line that was not understood never counts as nothing: no limit is called kept, nothing
// is said to be gone, and there is no word "none".
func TestWhatWasNotUnderstoodNeverCountsAsNothing(t *testing.T) {
	r := readAnyway(t, unread)
	for _, req := range []adapt.Request{{Diets: []diet.ID{diet.Keto}}, {Diets: []diet.ID{diet.LowSugar}}, {Diets: []diet.ID{diet.Vegan}}, {Limits: []diet.Limit{{What: diet.Sodium, Max: 900}}}, {}} {
		res := run(t, r, req)
		v := res.Verdict
		assert.Equal(t, "look", v.State, "%v", req.Demand().Words())
		assert.Equal(t, []string{"100 g zorblax powder", "1 cup glorp syrup"}, v.Unread)
		assert.Empty(t, v.Gone)
		for _, words := range list3(v.Allergens("none")) {
			assert.NotContains(t, words, "none")
		}
		assert.NotEmpty(t, res.Gaps)
		assert.Contains(t, res.Doubts[len(res.Doubts)-1], "“100 g zorblax powder” and “1 cup glorp syrup” are not counted")
		for _, l := range res.Limits {
			assert.False(t, l.Kept, l.Words)
			assert.Contains(t, l.Words, "at least")
			assert.NotContains(t, l.Words, "within your "+"6.0")
			assert.Len(t, l.Open, 2)
		}
	}
}

// Within a limit by less than labels differ is no tick: the verdict looks, and names the pack to read.
func TestALimitNearerThanBrandsDifferIsLookedAt(t *testing.T) {
	r := read(t, "Almond loaf\n\n300 g almond flour\n4 eggs\n60 g butter\n2 tsp baking powder\n\nMakes 12 slices\n\nMix. Bake 45 minutes at 160C.")
	got := run(t, r, adapt.Request{Limits: []diet.Limit{{What: diet.NetCarb, Max: 60}}}).Limits[0]
	for over, want := range map[float64]string{1.3: "look", 1.6: "fine"} {
		res := run(t, r, adapt.Request{Limits: []diet.Limit{{What: diet.NetCarb, Max: got.Got * over}}})
		require.True(t, res.Limits[0].Kept)
		assert.Equal(t, want, res.Verdict.State)
		assert.Equal(t, want == "look", res.Limits[0].Near)
		if want == "look" {
			assert.Contains(t, res.Verdict.Words, "brands may put it over")
			assert.Equal(t, []string{"Most of the ± is the ground almonds: brands differ by ±40 %. Enter the figures of your pack in the larder."}, res.Limits[0].Ways)
		}
	}
}

func list3(a, b, c string) []string { return []string{a, b, c} }

// A line whose amount is missing counts as unknown where it could matter, and only there.
func TestAMissingAmountMattersWhereItCould(t *testing.T) {
	bread := "Bread\nServes 10\nIngredients\n400 g ground almonds\n4 eggs\n10 g instant yeast\n200 g water\n"
	for _, c := range []struct {
		line    string
		what    diet.Limited
		matters bool
	}{
		{"sugar, to taste", diet.AddedSugars, true}, {"sugar, to taste", diet.NetCarb, true}, {"sugar, to taste", diet.Sodium, false},
		{"salt to taste", diet.Sodium, true}, {"salt to taste", diet.NetCarb, false},
		{"butter for greasing", diet.Sodium, false}, {"butter for greasing", diet.NetCarb, false},
		{"a little honey", diet.Sugars, true}, {"icing sugar to serve", diet.AddedSugars, true},
		{"water as needed", diet.NetCarb, false},
	} {
		res := run(t, readAnyway(t, bread+c.line), adapt.Request{Limits: []diet.Limit{{What: c.what, Max: 90}}})
		require.Len(t, res.Limits, 1)
		assert.Equal(t, c.matters, !res.Limits[0].Kept, "%s: %s", c.line, res.Limits[0].Words)
		assert.Equal(t, c.matters, len(res.Limits[0].Open) > 0, c.line)
	}
}

// What was asked and not understood holds up the verdict, whatever else is right.
func TestADemandThatIsNotUnderstoodHoldsUpTheVerdict(t *testing.T) {
	res := run(t, read(t, pear), adapt.Request{Unread: []adapt.Fault{{Field: "ban", Typed: "zorblax"}}})
	assert.Equal(t, "look", res.Verdict.State)
	assert.Contains(t, res.Verdict.Words, "“zorblax” was asked and is not understood")
}

// An ingredient that the household has forgotten is as good as not understood.
func TestAForgottenIngredientIsNotUnderstood(t *testing.T) {
	r := read(t, pear)
	r.Lines[0].Ingredient = "own-flour"
	res := run(t, r, adapt.Request{Diets: []diet.ID{diet.GlutenFree}})
	assert.Len(t, res.Verdict.Unread, 1)
	assert.NotEqual(t, "fine", res.Verdict.State)
}

// A kept version is judged again by today's reading, never more mildly.
func TestAKeptVersionIsReadAgain(t *testing.T) {
	l := larder.Builtin()
	for _, c := range []struct {
		kept  []string // as the first rule read it
		line  larder.ID
		state string
		says  string
	}{
		{[]string{"soy"}, "soya-drink", "stop", "not for this table: soya drink, unsweetened holds soya"},
		{[]string{"walnuts"}, "ground-walnuts", "stop", "not for this table"},
		{[]string{"soya"}, "oat-drink", "fine", "Nothing here breaks your demand."},
		{[]string{"zorblax"}, "oat-drink", "look", "“zorblax” was asked"},
		{[]string{"soy"}, "xanthan", "look", "1 label is to read: xanthan gum"},
	} {
		res := &adapt.Result{Request: adapt.Request{Bans: c.kept}, Verdict: adapt.Verdict{State: "fine", Words: "Nothing here breaks your demand."}, Recipe: &recipe.Recipe{Lines: []recipe.Line{{ID: 1, Ingredient: c.line, Known: true, Text: "some", Grams: 10}}}}
		v := res.Today(l)
		assert.Equal(t, c.state, v.State, "%v", c.kept)
		assert.Contains(t, v.Words, c.says)
	}
	stopped := &adapt.Result{Verdict: adapt.Verdict{State: "stop", Words: "Not for this table."}, Recipe: &recipe.Recipe{}}
	assert.Equal(t, "stop", stopped.Today(l).State)
}

// What only the method names is judged too: it is told to leave it out, at its step and first of all. What
// another word makes of it, or who may have it, is no matter.
func TestWhatOnlyTheMethodNames(t *testing.T) {
	verdict := func(step string, req adapt.Request) (words, note string) {
		res := run(t, read(t, "Buns\nMakes 8\n\n300 g plain flour\n7 g instant yeast\n180 ml water\n\nMix and knead. Prove 1 hour. Shape into 8 buns. "+step+" Bake at 190C for 20 minutes."), req)
		for _, x := range res.Method {
			if strings.Contains(x.Text, "(leave it out: not for this table)") {
				note += strings.ReplaceAll(x.Text, " (leave it out: not for this table)", "") + " "
			}
		}
		assert.Equal(t, note != "", res.Verdict.State == "stop" && len(res.Verdict.Spoken) > 0, step)
		return strings.Join(append([]string{res.Verdict.Words}, res.Verdict.More...), " "), note
	}
	eggs, milk, vegan := adapt.Request{Diets: []diet.ID{diet.EggFree}}, adapt.Request{Diets: []diet.ID{diet.DairyFree}}, adapt.Request{Diets: []diet.ID{diet.Vegan}}
	nuts := adapt.Request{Bans: []string{"nuts"}}
	for _, c := range []struct {
		step string
		req  adapt.Request
		food string
	}{
		{"Brush with beaten egg.", eggs, "beaten egg"}, {"Glaze with a yolk.", eggs, "yolk"}, {"Brush with milk.", milk, "milk"}, {"Dot with butter.", milk, "butter"},
		{"Top with grated cheddar.", milk, "grated cheddar"}, {"Scatter over chopped nuts.", nuts, "chopped nuts"}, {"Sprinkle with flaked almonds.", nuts, "flaked almonds"},
		{"Drizzle with honey.", vegan, "honey"}, {"Fill with whipped cream.", vegan, "cream"}, {"Fill with yoghurt.", milk, "yoghurt"},
		{"Beaten egg.", eggs, "beaten egg"}, {"Topping: butter, sugar.", milk, "butter"}, {"A little melted butter.", milk, "butter"}, // no sentence, and yet it is used
		{"Brush with buttermilk.", milk, "buttermilk"}, {"Fill with quark.", milk, "quark"}, {"Fill with lemon curd.", eggs, "lemon curd"}, {"Spread with mayonnaise.", eggs, "mayonnaise"},
		{"Drizzle with melted white chocolate.", milk, "white chocolate"}, {"Pour over caramel sauce.", milk, "caramel sauce"}, {"Scatter over chopped cashews.", nuts, "cashews"},
		{"Scatter over macadamia nuts.", adapt.Request{Bans: []string{"macadamias"}}, "macadamia nuts"}, {"Brush with soy sauce.", adapt.Request{Bans: []string{"soya"}}, "soy sauce"},
		{"Set it with gelatine.", vegan, "gelatine"}, {"Fry in lard.", vegan, "lard"}, {"Brush with mustard.", adapt.Request{Bans: []string{"mustard"}}, "mustard"},
		{"Sprinkle with crushed biscuits.", adapt.Request{Diets: []diet.ID{diet.GlutenFree}}, "crushed biscuits"}, {"Dust with rye flour.", adapt.Request{Diets: []diet.ID{diet.GlutenFree}}, "rye flour"}, {"Sprinkle with wheat bran.", adapt.Request{Diets: []diet.ID{diet.GlutenFree}}, "wheat bran"},
		{"Sprinkle the tray with semolina.", adapt.Request{Diets: []diet.ID{diet.GlutenFree}}, "semolina"},
	} {
		words, note := verdict(c.step, c.req)
		assert.Regexp(t, "^Not for this table as it stands: leave out .*, or say what is meant. In the method “"+regexp.QuoteMeta(c.step)+"”: (?i)"+c.food, words, c.step)
		assert.Contains(t, note, c.step)
	}
	for step, req := range map[string]adapt.Request{
		"Brush with milk.": eggs, "Brush with beaten egg.": milk, "Brush with oat milk.": milk, "Dot with plant butter.": milk, "Brush with water, not egg.": eggs,
		"Spread with peanut butter.": milk, "Fill with vegan cream.": vegan, "Cream the dough a little.": milk, "It should be as runny as single cream.": milk,
		"Roll it with a wine bottle.": {Bans: []string{"sulphites"}}, "Spread with vegan mayonnaise.": eggs, "Fill with soya quark.": milk, "Bake to a toffee brown.": eggs,
		"Roll into balls the size of a walnut.": nuts, "Shape into walnut-sized balls.": nuts,
	} {
		words, note := verdict(step, req)
		assert.NotContains(t, words, "as it stands", step)
		assert.Empty(t, note, step)
	}
}

// What only a note tells to use is told to be left out too; what a note only tells of is not.
func TestWhatOnlyANoteNames(t *testing.T) {
	verdict := func(note, step string, req adapt.Request) adapt.Verdict {
		return run(t, read(t, "Buns\nMakes 8\n\n300 g plain flour\n7 g instant yeast\n180 ml water\n\nMix and knead. Prove 1 hour. "+step+"Bake at 190C for 20 minutes.\n\nNotes:\n"+note), req).Verdict
	}
	eggs, milk := adapt.Request{Diets: []diet.ID{diet.EggFree}}, adapt.Request{Diets: []diet.ID{diet.DairyFree}}
	for _, c := range []struct {
		note string
		req  adapt.Request
		food string
	}{
		{"For a shiny crust brush with 1 beaten egg before baking.", eggs, "beaten egg"}, {"Lovely served with butter.", milk, "butter"}, {"Egg wash: 1 egg and a little salt.", eggs, "egg wash"}, {"It is richer after stirring some buttermilk into it.", milk, "buttermilk"},
		{"You could use milk for the water. Or stir in grated cheddar.", milk, "milk and grated cheddar"}, {"Top them with flaked almonds.", adapt.Request{Bans: []string{"nuts"}}, "flaked almonds"},
	} {
		v := verdict(c.note, "", c.req)
		assert.Equal(t, "stop", v.State, c.note)
		for _, food := range strings.Split(c.food, " and ") {
			assert.Regexp(t, "[Ii]n a note “.*”: (?i)"+food, v.More[0], c.note)
		}
	}
	for note, req := range map[string]adapt.Request{
		"For a shiny crust brush with 1 beaten egg.": milk, "They keep for 3 days. My aunt liked hers with butter.": milk, "Brush with oat milk.": milk, "Use no egg. It would be too much.": eggs,
		"Use a large bowl. Butter goes soft there.": milk,
	} {
		v := verdict(note, "", req)
		assert.Empty(t, v.Spoken, note)
		assert.Equal(t, "fine", v.State, note)
	}
	v := verdict("Serve with butter.", "Brush with egg. ", adapt.Request{Diets: []diet.ID{diet.EggFree, diet.DairyFree}})
	assert.Equal(t, "Not for this table as it stands: leave out egg and butter, or say what is meant.", v.Words)
	assert.Equal(t, "In the method “Brush with egg.”: egg holds egg; in a note “Serve with butter.”: butter holds milk.", v.More[0])
	assert.Equal(t, []string{"egg", "butter"}, v.Spoken)
}

// A plant's cream in the list is no leave for the dairy's in the method; and a bake without gluten is dusted
// with its own flour.
func TestTheMethodsOwnWordsForIt(t *testing.T) {
	res := run(t, read(t, "Buns\nMakes 8\n\n300 g plain flour\n7 g instant yeast\n180 ml water\n50 ml oat cream\n\nMix all and knead. Prove 1 hour. Shape into 8 buns on a well-floured board. Bake at 190C for 20 minutes. Serve with clotted cream."), adapt.Request{Diets: []diet.ID{diet.DairyFree}})
	assert.Equal(t, []string{"clotted cream"}, res.Verdict.Spoken)
	res = run(t, read(t, "Buns\nMakes 8\n\n300 g plain flour\n7 g instant yeast\n180 ml water\n\nMix all and knead. Prove 1 hour. Shape into 8 buns. Dust with flour. Bake at 190C for 20 minutes."), adapt.Request{Diets: []diet.ID{diet.GlutenFree}})
	text := ""
	for _, x := range res.Method {
		text += x.Text + " "
	}
	assert.Contains(t, text, "Dust with a little of its own flour")
}
