package adapt_test

import (
	"embed"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/review"
)

//go:embed testdata/hurt.txt
var hurtFile embed.FS

// hurtRecipes are those that rows of testdata/hurt.txt name.
var hurtRecipes = map[string]string{
	"poolish":     "Poolish sticks\nServes 9\n\nPoolish\n150 g strong flour\n150 g water\n1/8 tsp instant yeast\n\nDough\n350 g strong flour\n190 g water\n1/2 tsp instant yeast\n10 g salt\n\nStir poolish together the night before and leave 12 hours at room temperature. Next day mix poolish with the dough ingredients. Knead 6 minutes. Prove 90 minutes. Shape. Prove 45 minutes. Bake at 240C for 22 minutes.",
	"noknead":     "Slow boathouse bread\nServes 10\n\n360 g strong flour\n1/4 tsp instant yeast\n8 g salt\n290 g water\n\nStir together. Cover and leave at room temperature 18 hours. Fold, and rest 1 hour. Bake at 230C in a 2 lb loaf tin for 40 minutes.",
	"milkpoolish": "Milk poolish buns\nMakes 8\n\n200 g milk\n1 egg\n400 g strong flour\n3 g instant yeast\n7 g salt\n\nMix all to a dough and leave 10 hours at room temperature. Shape 8 buns. Prove 1 hour. Bake at 190C for 18 minutes.",
	"foam":        "Reed ring\nServes 10\n\n6 egg whites\n200 g caster sugar\n90 g plain flour\n1 tsp cream of tartar\npinch of salt\n\nWhisk the whites with tartar to soft peaks. Whisk in the sugar. Fold in the flour and salt. Spoon into an ungreased 23 cm ring tin. Bake at 170C for 35 minutes.",
	"hotfat":      "Puffed tray\nMakes 12\n\n140 g plain flour\n4 eggs\n200 ml milk\n12 tsp sunflower oil\n\nWhisk flour, eggs and milk. Put a teaspoon of oil in each hole of a 12-hole muffin tin, heat at 220C until smoking. Pour in the batter, bake 20 minutes.",
	"poundslab":   "Pound slab\nServes 10\n\n200 g butter\n180 g sugar\n4 eggs\n200 g plain flour\n1 tsp baking powder\n\nCream the butter and sugar. Beat in the eggs one by one. Fold in the flour and powder. Bake at 170C in a 2 lb loaf tin for 50 minutes.",
	"basin":       "Basin sponge\nServes 6\n\n100 g butter\n100 g caster sugar\n2 eggs\n150 g self-raising flour\n3 tbsp golden syrup\n2 tbsp milk\n\nGrease a 1 litre pudding basin and spoon in the syrup. Cream butter and sugar, beat in eggs, fold in the flour and milk. Cover with greased paper. Steam for 1 hour 45 minutes. Turn out.",
	"steamed":     "Steamed syrup pudding\nServes 6\n\n3 tbsp golden syrup\n120 g butter\n120 g caster sugar\n2 eggs\n120 g self-raising flour\n\nGrease a 1.2 litre pudding basin. Spoon in the syrup. Cream butter and sugar, beat in eggs, fold in the flour. Cover with greased paper. Steam for 1 hour 30 minutes. Turn out.",
	"pressure":    "Pressure cooker cake\nServes 8\n\n150 g plain flour\n150 g sugar\n2 tsp baking powder\n2 eggs\n120 g yogurt\n80 g butter, melted\n\nWhisk all together. Pour into a greased ring. Put into the pressure cooker on the trivet. High pressure for 35 minutes, natural release 10 minutes.",
	"machine":     "Bread machine milk loaf\nServes 10\n\n280 ml milk\n25 g butter\n1 egg\n500 g strong white flour\n2 tsp sugar\n1 1/2 tsp salt\n1 1/2 tsp fast-action yeast\n\nPut all into the bread machine pan in the order listed. Basic white programme, large loaf, about 3 hours.",
	"slow":        "Slow cooker ginger cake\nServes 8\n\n150 g butter\n120 g brown sugar\n2 eggs\n200 g self-raising flour\n2 tsp ground ginger\n100 ml milk\n\nCream butter and sugar. Beat in eggs, fold in flour and ginger, stir in the milk. Put into the greased slow cooker pot, a tea towel under the lid. Cook on HIGH for 2 hours.",
	"airfry":      "Air fryer buns\nMakes 6\n\n200 g self-raising flour\n150 g yogurt\n20 g sugar\n\nMix to a dough. Shape 6 buns. Air fry at 170C for 12 minutes.",
	"naan":        "Pan flatbreads\nMakes 6\n\n250 g self-raising flour\n200 g yogurt\n20 g sugar\n\nMix to a dough. Roll out 6 rounds. Cook in a hot dry frying pan for 2 minutes a side.",
	"fridge":      "No-bake oat squares\nMakes 12\n\n200 g rolled oats\n100 g butter\n80 g sugar\n\nMelt the butter with the sugar. Stir in the oats. Press into a dish. Chill until set, about 2 hours.",
	"micro":       "Mug sponge\nServes 1\n\n30 g self-raising flour\n30 g sugar\n20 g butter, melted\n1 egg\n\nMix all in a mug. Microwave on full power for 90 seconds.",
	"mug":         "Sweet mug sponge\nServes 1\n\n40 g self-raising flour\n60 g sugar\n20 g butter, melted\n1 egg\n\nMix all in a mug. Microwave on full power for 2 minutes.",
	"browned":     "Browned butter squares\nMakes 16\n\n200 g butter\n200 g brown sugar\n2 eggs\n200 g plain flour\n1 tsp baking powder\n\nBrown the butter in a saucepan until nutty, and cool it. Stir in the sugar, then the eggs. Fold in flour and powder. Bake at 175C in a 20 cm square tin for 25 minutes.",
	"skillet":     "Hot skillet bread\nServes 8\n\n140 g cornmeal\n120 g plain flour\n1 tbsp baking powder\n240 ml buttermilk\n2 eggs\n50 g butter\n\nHeat the skillet with the butter in the oven at 210C. Mix the rest. Pour the batter into the hot skillet. Bake 20 minutes.",
	"angel":       "Angel ring\nServes 10\n\n10 egg whites\n300 g caster sugar\n120 g plain flour\n1 tsp cream of tartar\n\nHeat the oven to 170C. Whisk the whites with the cream of tartar to peaks, whisk in the sugar, fold in the flour. Pour into an ungreased 25 cm ring tin. Bake 40 minutes. Cool upside down.",
	"yorkshire":   "Batter puddings\nMakes 12\n\n140 g plain flour\n4 eggs\n200 ml milk\n60 ml sunflower oil\n\nHeat the oven to 220C. Put a teaspoon of oil into each hole of a 12-hole tin and heat until smoking hot. Whisk flour, eggs and milk. Pour in. Bake 20 minutes.",
	"lidded":      "Lidded pot loaf\nServes 12\n\n500 g strong flour\n350 ml water\n10 g salt\n3 g instant yeast\n\nMix. Leave 10 hours at room temperature. Heat the oven to 240C with a dutch oven in it. Tip in the dough, put the lid on and bake 30 minutes, then bake with the lid off for 15 minutes.",
	"dry":         "Dry crumble biscuits\nMakes 12\n\n200 g plain flour\n100 g butter\n80 g sugar\n\nRub the butter into the flour. Stir in the sugar. Press together. Bake at 170C for 15 minutes.",
	"layer":       "Layered oar cake\nServes 10\n\n250 g self-raising flour\n250 g caster sugar\n250 g butter\n4 eggs\n50 ml milk\n\nIcing\n400 g icing sugar\n200 g butter\n\nCream the butter and sugar. Beat in the eggs, fold in the flour and milk. Bake in two 20 cm round tins at 180C for 25 minutes. Beat the icing butter and icing sugar. Spread over the cakes.",
}

const hurtBase = "Ferry buns\nMakes 10\n\n300 g rice flour\n120 g buckwheat flour\n60 g caster sugar\n2 tsp baking powder\n50 ml olive oil\n200 ml water\n%s\n\nMix all together and shape 10 buns. %s Bake at 190C for 20 minutes.\n%s"

// hurtText is the recipe of a row.
func hurtText(t *testing.T, put string) string {
	what, of, _ := strings.Cut(put, ": ")
	switch what {
	case "line", "find":
		return fmt.Sprintf(hurtBase, of, "", "")
	case "head":
		return fmt.Sprintf(hurtBase, "\n"+of+":\n20 g salt", "", "")
	case "step":
		return fmt.Sprintf(hurtBase, "", of, "")
	case "note":
		return fmt.Sprintf(hurtBase, "", "", "\nNotes:\n"+of)
	case "both":
		line, step, ok := strings.Cut(of, " / ")
		require.True(t, ok, put)
		return fmt.Sprintf(hurtBase, line, step, "")
	case "recipe":
		require.NotEmpty(t, hurtRecipes[of], put)
		return hurtRecipes[of]
	}
	t.Fatalf("%q puts nothing in", put)
	return ""
}

// hurtAnswer is all that a person reads of an answer, as the command and the pages have it.
func hurtAnswer(res *adapt.Result) string {
	v := res.Verdict
	holds, newly, gone := v.Allergens("none")
	out := []string{v.State, v.Words}
	out = append(out, v.More...)
	if res.Refused != nil {
		return strings.Join(append(out, res.Refused.Reason), "\n")
	}
	out = append(out, fmt.Sprintf("Still holds: %s. New: %s. Gone: %s.", holds, newly, gone))
	for _, l := range res.Recipe.Lines {
		out = append(out, l.Text)
	}
	for _, x := range res.Method {
		out = append(out, strings.TrimSpace(x.Text+" "+x.Note))
	}
	out = append(out, res.Recipe.Notes...)
	out = append(out, res.Doubts...)
	out = append(out, res.BakeProblem)
	for _, c := range res.Cautions {
		out = append(out, c.Text)
	}
	return strings.Join(out, "\n")
}

// What must be said, and what must not, where somebody could be hurt: the rows of testdata/hurt.txt.
func TestNobodyIsHurt(t *testing.T) {
	text, err := hurtFile.ReadFile("testdata/hurt.txt")
	require.NoError(t, err)
	rows := 0
	for _, row := range strings.Split(string(text), "\n") {
		f := strings.Split(row, " | ")
		if strings.HasPrefix(row, "#") || len(f) < 3 {
			continue
		}
		rows++
		rd, err := reader.Read(hurtText(t, f[1]), reader.Options{})
		require.NoError(t, err, row)
		v := url.Values{}
		for _, a := range strings.Split(f[0], ", ") {
			if what, id, ok := strings.Cut(strings.TrimSpace(a), " "); ok {
				v.Add(what, strings.Replace(id, "=", ":", 1))
			}
		}
		req, faults := adapt.ParseRequest(v, larder.Builtin())
		require.Empty(t, faults, row)
		got := ""
		if strings.HasPrefix(f[1], "find: ") {
			got = findings(rd.Recipe)
		} else {
			res, err := adapt.Adapt(rd.Recipe, req, adapt.DefaultKit())
			require.NoError(t, err, row)
			got = hurtAnswer(res.Predict(measure.DefaultKitchen()))
		}
		_, of, _ := strings.Cut(f[1], ": ")
		says := func(words string) bool {
			if words == "stop or gone" {
				return strings.HasPrefix(got, "stop\n") && strings.Contains(got, "Not for this table") || !strings.Contains(got, strings.TrimSuffix(of, "."))
			}
			if words == "stop" || words == "look" {
				return strings.HasPrefix(got, words+"\n")
			}
			return strings.Contains(got, words)
		}
		for _, words := range strings.Split(f[2], "; ") {
			if words = strings.TrimSpace(words); words != "" {
				assert.True(t, says(words), "%s\nsays %q:\n%s", row, words, got)
			}
		}
		if gone := strings.HasPrefix(f[2], "stop or gone") && !strings.HasPrefix(got, "stop\n"); len(f) > 3 && !gone {
			for _, words := range strings.Split(f[3], "; ") {
				if words = strings.TrimSpace(words); words != "" {
					assert.False(t, says(words), "%s\ndoes not say %q:\n%s", row, words, got)
				}
			}
		}
	}
	assert.GreaterOrEqual(t, rows, 250)
}

func findings(r *recipe.Recipe) string {
	var out []string
	for _, n := range review.Notes(r, larder.Builtin()) {
		out = append(out, n.Message())
	}
	return strings.Join(out, "\n")
}
