package adapt_test

import (
	"embed"
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/scan"
	"kollaris/internal/demo/recipes"
)

//go:embed testdata/words.txt
var wordFile embed.FS

// asked is what a row of testdata/words.txt asks, with its words.
type asked struct {
	says  string
	req   adapt.Request
	words []string
}

func askedWords(t testing.TB) (out []asked) {
	text, err := wordFile.ReadFile("testdata/words.txt")
	require.NoError(t, err)
	for _, line := range strings.Split(string(text), "\n") {
		head, list, ok := strings.Cut(line, "|")
		if !ok || strings.HasPrefix(line, "#") {
			continue
		}
		a := asked{says: strings.TrimSpace(head)}
		what, id, _ := strings.Cut(a.says, " ")
		if what == "diet" {
			a.req.Diets = []diet.ID{diet.ID(id)}
		} else {
			d, bad := diet.ParseBans(id, larder.Builtin())
			require.Empty(t, bad, id)
			a.req.Bans, a.req.Diets = d.Bans, d.Diets
		}
		for _, w := range strings.Split(list, ";") {
			a.words = append(a.words, strings.TrimSpace(w))
		}
		out = append(out, a)
	}
	return out
}

// places are where a word is put into a recipe: into its list, its steps, its notes.
var places = []struct{ name, list, step, note string }{
	{"line", "30 g %s", "", ""}, {"tail", "100 g salt, with %s", "", ""}, {"bracket", "100 g salt (%s)", "", ""},
	{"second", "100 g salt, 50 g %s", "", ""}, {"step", "", "Scatter %s over the top.", ""}, {"note", "", "", "Notes:\nGood with %s."},
	{"heading", "%s topping:\n20 g water", "", ""}, {"serve", "%s, to serve", "", ""}, {"unknown", "30 g blorfed %s zib", "", ""}, {"plus", "100 g salt, plus %s", "", ""},
}

// plainRecipes are of our own, as people write them down, and hold few of the words themselves.
var plainRecipes = []string{
	"Ferry loaf\nServes 10\n\n300 g plain flour\n2 tsp baking powder\n120 g sugar\n2 eggs\n150 ml milk\n80 ml sunflower oil\n\nMix the dry things. Whisk the eggs, milk and oil, stir in. Bake at 180C in a 2 lb loaf tin for 50 minutes.",
	"Rower's buns\nMakes 8\n\n500 g strong flour\n7 g instant yeast\n10 g salt\n320 ml water\n30 g butter\n\nMix and knead. Prove 1 hour. Shape into 8 buns. Prove 40 minutes. Bake at 200C for 20 minutes.",
	"Boathouse squares\nServes 12\n\n150 g butter\n150 g caster sugar\n3 eggs\n150 g self-raising flour\n50 g ground almonds\n\nCream the butter and sugar. Beat in the eggs. Fold in the flour and almonds. Bake at 170C in a 20 cm square tin for 35 minutes.",
	"Landing scones\nMakes 8\n\n250 g self-raising flour\n50 g butter\n25 g sugar\n130 ml buttermilk\n\nRub the butter into the flour. Stir in the sugar and buttermilk. Cut 8 rounds. Bake at 220C for 12 minutes.",
	"Oar biscuits\nMakes 20\n\n120 g butter\n100 g brown sugar\n200 g plain flour\n1 tsp ground ginger\n1 egg\n\nBeat butter and sugar, then the egg. Stir in flour and ginger. Chill 30 minutes. Bake at 180C for 12 minutes.",
	"Cox's pear cake\nServes 8\n\n175 g plain flour\n1 tbsp baking powder\n125 g sugar\n2 eggs\n100 ml rapeseed oil\n2 pears, diced\n\nWhisk eggs, sugar and oil. Fold in flour, powder and pears. Bake at 180C in a 20 cm round tin for 45 minutes.",
	"Plain rye tin\nServes 12\n\n300 g rye flour\n200 g strong flour\n350 ml water\n7 g instant yeast\n9 g salt\n\nMix to a sticky dough. Prove 2 hours. Scrape into a 2 lb loaf tin. Bake at 220C for 45 minutes.",
	"Rice muffins\nMakes 12\n\n240 g rice flour\n100 g sugar\n2 tsp baking powder\n2 eggs\n200 ml oat drink\n90 ml oil\n\nWhisk all together. Fill 12 muffin cups. Bake at 190C for 20 minutes.",
	"Corn pan bread\nServes 8\n\n140 g cornmeal\n120 g plain flour\n1 tbsp baking powder\n240 ml buttermilk\n2 eggs\n50 g butter, melted\n\nMix all to a batter. Pour into a 23 cm round tin. Bake at 200C for 22 minutes.",
	"Carrot tray\nServes 16\n\n250 g wholemeal flour\n2 tsp bicarbonate of soda\n200 g brown sugar\n3 eggs\n180 ml oil\n300 g carrots, grated\n1 tbsp cider vinegar\n\nBeat eggs, sugar and oil. Stir in flour, soda, carrots and vinegar. Bake at 175C in a 13x9 in tin for 35 minutes.",
	"Soft oat slab\nServes 12\n\n150 g butter\n100 g golden syrup\n250 g rolled oats\n50 g brown sugar\n\nMelt the butter, syrup and sugar. Stir in the oats. Press into a 20 cm square tin. Bake at 160C for 25 minutes.",
	"Stern pancakes\nServes 4\n\n150 g plain flour\n2 tsp baking powder\n1 egg\n180 ml milk\n\nWhisk to a batter. Fry spoonfuls in a pan until bubbles stay open, then turn.",
}

// withWord puts a word into a recipe.
func withWord(text string, at int, word string) string {
	p := places[at]
	head, method, _ := strings.Cut(text, "\n\n")
	list, steps, _ := strings.Cut(method, "\n\n")
	if p.list != "" {
		list += "\n" + fmt.Sprintf(p.list, word)
	}
	if p.step != "" {
		steps += " " + fmt.Sprintf(p.step, word)
	}
	if p.note != "" {
		steps += "\n\n" + fmt.Sprintf(p.note, word)
	}
	return head + "\n\n" + list + "\n\n" + steps
}

// Whatever a demand shuts out, in whatever place its word is put into a recipe, is never handed out as fine, never as "none", never as
// "made without": unless the word is not there any more in anything that is shown. By `make words` the whole of it, some of it here.
func TestNoWordIsHandedOut(t *testing.T) {
	every := 61
	if os.Getenv("KOLLARIS_WORDS") == "all" {
		every = 1
	}
	texts := append([]string{}, plainRecipes...)
	for _, name := range recipes.Names() {
		texts = append(texts, recipes.Text(name))
	}
	runs, n, bad := 0, 0, 0
	for _, a := range askedWords(t) {
		for _, word := range a.words {
			for at := range places {
				for k, text := range texts {
					if places[at].name == "heading" && k >= len(plainRecipes) {
						continue // there it would stand over the whole list
					}
					if n++; n%every != 0 {
						continue
					}
					runs++
					rd, err := reader.Read(withWord(text, at, word), reader.Options{})
					require.NoError(t, err)
					res, err := adapt.Adapt(rd.Recipe, a.req, adapt.DefaultKit())
					require.NoError(t, err)
					if why := handedOut(res, word); why != "" {
						if bad++; bad < 40 {
							assert.Fail(t, why, "%s: %q as %s in recipe %d: %s", a.says, word, places[at].name, k, res.Verdict.Words)
						}
					}
				}
			}
		}
	}
	t.Logf("%d runs, %d bad", runs, bad)
	require.Zero(t, bad)
}

// handedOut says what is wrong where a result shows a word as if it were fine.
func handedOut(res *adapt.Result, word string) string {
	v := res.Verdict
	_, newly, _ := v.Allergens("none")
	shows := func(text string) bool {
		found, _ := regexp.MatchString(`(?i)(?:^|[^\pL-])`+regexp.QuoteMeta(word)+`(?:$|[^\pL-])`, text)
		found = found && !regexp.MustCompile(`(?i)(?:egg-free|vegetable|vegan|oat|plant|soya|almond|coconut|dairy-free) `+regexp.QuoteMeta(word)).MatchString(text)
		return found && !strings.Contains(text, word+scan.Instead) && !strings.Contains(text, word+scan.LeftOut)
	}
	where := ""
	for _, l := range res.Recipe.Lines {
		if last := l.Name[strings.LastIndex(l.Name, " ")+1:]; l.Name != word && last == word {
			return "" // what stands for it is called so in the method: "egg-free mayonnaise", "oat yogurt"
		}
		if shows(l.Text) {
			where = "line “" + l.Text + "”"
		}
		if shows(l.Section) {
			where = "heading “" + l.Section + "”"
		}
	}
	for _, x := range append(res.Recipe.Notes, "") {
		if shows(x) {
			where = "note “" + x + "”"
		}
	}
	for _, x := range res.Method {
		if shows(strings.ReplaceAll(x.Text, "a teaspoon of sugar, which is not in the list", "")) { // what yeast eats up
			where = "step “" + x.Text + "”"
		}
	}
	switch {
	case where != "" && v.State == "fine":
		return "fine, with " + where
	case len(v.Unread) > 0 && newly == "none":
		return "new: none, with a line that is not understood"
	}
	if where == "" || res.Refused != nil {
		return ""
	}
	if v.State != "stop" && !strings.Contains(strings.Join(append(v.More, v.Words), " "), "label") {
		return "no stop, with " + where
	}
	for _, c := range res.Cautions {
		if strings.HasPrefix(c.Text, "Made without") {
			return "made without, with " + where
		}
	}
	return ""
}
