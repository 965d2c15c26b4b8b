package adapt_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
)

// Whatever food of the larder a line offers beside its own, a table that must not have it is told, or asked about the line.
func TestNothingBesideALineIsHandedOut(t *testing.T) {
	lib := larder.Builtin()
	for _, how := range []string{"(or %s)", ", with a little %s", ", 20 g %s", "; %s if you have none"} {
		for _, i := range lib.All() {
			for _, d := range diet.Diets {
				demand := diet.Demand{Diets: []diet.ID{d.ID}}
				if j, _ := demand.Judge(i); j != diet.Breaks {
					continue
				}
				for _, own := range []string{"sugar", "1:1 gluten-free blend"} {
					rd, err := reader.Read(fmt.Sprintf("Squares\n\n100 g %s "+how+"\n50 g salt\n\nMix and bake.", own, i.Name), reader.Options{})
					require.NoError(t, err)
					told := len(adapt.Beside(rd.Recipe, demand, lib)) > 0
					for _, l := range rd.Recipe.Lines {
						food := lib.Get(l.Ingredient)
						if told = told || food == nil || !l.Known; !told {
							j, _ := demand.Judge(food)
							told = j == diet.Breaks
						}
					}
					assert.True(t, told, "%s "+how+" for %s", own, i.Name, d.ID)
				}
				break
			}
		}
	}
}

// What a line names beside its own food is said, left out of its words, and taken out of the method; nothing else is.
func TestWhatALineNamesBeside(t *testing.T) {
	for _, c := range []struct {
		line, step string
		diet       diet.ID
		words      string // of the verdict, in part; "" where nothing is said of it
		is         string // the line in the result
	}{
		{"100 ml oat drink (or milk)", "Mix.", diet.DairyFree, "names milk too, which is not for this table: leave it out", "103 g oat drink (¼ cup + 3 tbsp)"},
		{"100 ml soya drink, or milk if you have none", "Mix.", diet.DairyFree, "names milk too", "103 g soya drink, unsweetened (¼ cup + 3 tbsp)"},
		{"100 ml oat drink (not milk)", "Mix.", diet.DairyFree, "", "100 ml oat drink (not milk)"},
		{"100 ml oat drink, instead of milk", "Mix.", diet.DairyFree, "", "100 ml oat drink, instead of milk"},
		{"50 ml milk, almond", "Mix.", diet.DairyFree, "", "50 ml milk, almond"},
		{"100 g flour, gluten-free", "Mix.", diet.GlutenFree, "", "100 g flour, gluten-free"},
		{"100 g almond meal/flour", "Mix.", diet.GlutenFree, "", "100 g almond meal/flour"},
		{"100 g dark chocolate (may contain milk)", "Mix.", diet.DairyFree, "says that it holds milk: for this table only one without", "100 g dark chocolate, 55–70 % (½ cup + 1 tbsp), without milk"},
		{"1 tbsp butter or milk, to glaze", "Mix.", diet.DairyFree, "“1 tbsp butter or milk, to glaze” names milk too", "11 g sunflower oil (2½ tsp), to glaze"},
		{"30 g cornflour (or an egg)", "Whisk the eggs.", diet.EggFree, "names egg too", "30 g cornflour (maize starch) (¼ cup)"},
	} {
		r := read(t, "Squares\nServes 8\n\n240 g rice flour\n100 g sugar\n8 g baking powder\n"+c.line+"\n\n"+c.step+" Bake at 180C for 30 minutes.")
		res := run(t, r, adapt.Request{Diets: []diet.ID{c.diet}})
		var texts []string
		for _, l := range res.Recipe.Lines {
			texts = append(texts, l.Text)
		}
		assert.Contains(t, texts, c.is)
		assert.Equal(t, c.words != "", len(res.Verdict.Beside) > 0, c.line)
		if c.words != "" {
			assert.Contains(t, strings.Join(append(res.Verdict.More, res.Verdict.Words), " "), c.words)
			assert.Equal(t, map[bool]string{true: "stop", false: "look"}[strings.Contains(c.step, "egg")], res.Verdict.State)
		}
		assert.Equal(t, strings.Contains(c.step, "egg"), len(res.Verdict.Spoken) > 0, c.line)
		assert.Empty(t, adapt.Beside(res.Recipe, res.Request.Demand(), larder.Builtin()), "nothing of it is left")
	}
}
