package adapt_test

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/core/method"
	"kollaris/core/recipe"
)

// foods are words of a method by which a baker knows a food that was banned or replaced; a
// word counts as gone where no line's name and no title of a school holds it any more.
// They are written for this test alone.
var foods = map[string]*regexp.Regexp{
	"egg": word(`eggs?|yolks?|egg whites?`), "butter": word(`butter`), "buttermilk": word(`buttermilk`), "milk": word(`milk`),
	"honey": word(`honey`), "yogurt": word(`yogh?urt`), "cream": word(`(?:double|whipping|sour(?:ed)?) cream`),
}

func word(of string) *regexp.Regexp {
	return regexp.MustCompile(`(?i)(?:^|[^\pL\pM])(?:` + of + `)(?:$|[^\pL\pM])`)
}

// unsound says what is wrong with a method: the rules of the issue, each by a path that the
// writing does not share.
func unsound(res *adapt.Result, written *recipe.Recipe, predicted bool) []string {
	var out []string
	fault := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	lib := larder.Builtin()
	sum := map[recipe.LineID]float64{}
	all := ""
	for _, t := range res.Method {
		all += t.Text + "\n"
		if strings.TrimSpace(t.Text) == "" {
			fault("a task says nothing: %s", t.Verb)
		}
		for _, u := range t.Uses {
			sum[u.Line] += u.Share
			if res.Recipe.Line(u.Line) == nil {
				fault("%q uses line %d, which is not there", t.Text, u.Line)
			}
		}
		solid, foamer := false, false
		for _, u := range t.Uses {
			if l := res.Recipe.Line(u.Line); l != nil {
				if i := lib.Get(l.Ingredient); i != nil {
					solid, foamer = solid || method.SolidFat(i), foamer || method.Foams(i)
				}
			}
		}
		if len(t.Uses) > 0 && t.Changed {
			switch {
			case (t.Verb == method.Cream || t.Verb == method.RubIn) && !solid && !firmFat.MatchString(t.Text):
				fault("%s without a firm fat: %q", t.Verb, t.Text)
			case t.Verb == method.Foam && !foamer:
				fault("no foamer: %q", t.Text)
			}
		}
		if t.Verb == method.Knead && (res.Becomes == "gluten-free" || res.Becomes == "nut") {
			fault("kneads what has no gluten: %q", t.Text)
		}
	}
	for _, l := range res.Recipe.Lines {
		if l.Known && l.Grams > 0 && len(res.Method) > 0 && (sum[l.ID] < 0.999 || sum[l.ID] > 1.001) {
			fault("%s is used %.2f times", l.Name, sum[l.ID])
		}
	}
	for id, said := range foods {
		held := func(name string) bool { return said.MatchString(name) }
		had := slices.ContainsFunc(written.Lines, func(l recipe.Line) bool { return l.Ingredient == larder.ID(id) })
		still := slices.ContainsFunc(res.Recipe.Lines, func(l recipe.Line) bool { return held(l.Name) || held(l.Phrase) || l.Ingredient == larder.ID(id) }) ||
			slices.ContainsFunc(res.Changes, func(c adapt.Change) bool { return held(c.SchoolName) })
		if text := strings.NewReplacer("peanut butter", "", "nut butter", "", "shea butter", "").Replace(all); had && !still && said.MatchString(text) {
			fault("%s is gone and still said: %q", id, sentence(text, said))
		}
	}
	bound := false
	for _, t := range res.Method {
		if t.Part != "" {
			continue
		}
		if bound && (t.Verb == method.Heat || t.Verb == method.Rest || t.Verb == method.Chill) {
			fault("%s stands behind what does not wait: %q", t.Verb, t.Text)
		}
		bound = t.AtOnce && t.Verb != method.Bloom
	}
	blind := slices.ContainsFunc(res.Method, func(t method.Task) bool { return t.Verb == method.BakeBlind })
	if e := res.Bake; predicted && e != nil && !blind { // a filling's bake is not the one foretold
		k := measure.DefaultKitchen()
		for _, t := range res.Method {
			if t.Part != "" || t.Verb != method.Bake && t.Verb != method.Heat {
				continue
			}
			for _, c := range regexp.MustCompile(`\d+ ?°C`).FindAllString(t.Text, -1) {
				ok := strings.ReplaceAll(c, " ", "") == strings.ReplaceAll(k.OvenText(e.Oven), " ", "") || strings.Contains(t.Text, c+" in the middle") || strings.Contains(t.Text, "middle reads")
				for _, st := range e.Setup.Stages {
					ok = ok || c == k.OvenText(st.Oven)
				}
				if !ok {
					fault("%s beside the answer's %s: %q", c, k.OvenText(e.Oven), t.Text)
				}
			}
			if t.Verb == method.Bake {
				want := fmt.Sprintf("Look first at %.0f minutes", e.FirstLook)
				if !strings.Contains(t.Text, want) {
					fault("%q does not say %q", t.Text, want)
				}
				if n := regexp.MustCompile(`(?i)\d+ ?(?:to|-|–) ?\d+ min|\bhours?\b`).FindString(t.Text); n != "" {
					fault("another time, %q: %q", n, t.Text)
				}
			}
		}
	}
	return out
}

// firmFat names a fat that a task may speak of though an earlier one took it.
var firmFat = regexp.MustCompile(`(?i)butter|block|lard|coconut oil|ghee`)

func sentence(text string, word *regexp.Regexp) string {
	for s := range strings.SplitSeq(text, "\n") {
		if word.MatchString(s) {
			return s
		}
	}
	return ""
}

// Every recipe of the corpora before every demand: nothing that is gone is said, all that is
// there is used once, what does not wait is not kept waiting.
func TestMethodsAreSound(t *testing.T) {
	kit := adapt.DefaultKit()
	seen := map[string]int{}
	n := 0
	for k, r := range corpus(t) {
		if len(r.Steps) == 0 {
			continue
		}
		for q, req := range requests() {
			if k > 8 && (k+q)%9 != 0 {
				continue
			}
			res, err := adapt.Adapt(r, req, kit)
			require.NoError(t, err)
			if res.Refused != nil {
				continue
			}
			n++
			for _, f := range unsound(res, r, false) {
				if seen[f]++; seen[f] == 1 && len(seen) < 40 {
					t.Errorf("%s, %v: %s", r.Title, req.Demand().Words(), f)
				}
			}
		}
	}
	assert.Greater(t, n, 500)
	t.Logf("%d methods", n)
}

// With the bake foretold no other heat or time is left in it.
func TestFiguresOfTheBakeAreTheAnswers(t *testing.T) {
	kit := adapt.DefaultKit()
	for _, r := range corpus(t) {
		for _, req := range []adapt.Request{
			{Diets: []diet.ID{diet.EggFree}}, {Diets: []diet.ID{diet.GlutenFree}, Tin: "muffin"}, {Diets: []diet.ID{diet.Keto}}, {Tin: "round 20 cm"},
		} {
			res, err := adapt.Predicted(r, req, kit)
			require.NoError(t, err)
			if res.Refused == nil {
				assert.Empty(t, unsound(res, r, true), "%s, %v in %q", r.Title, req.Diets, req.Tin)
			}
		}
	}
}

// What is written is read again as the same tasks, but for what terse writers leave open:
// "rub in, mix" is one task of the writer's.
func TestWhatIsWrittenReadsBackAsTheSameTasks(t *testing.T) {
	whole, all, right, wanted := 0, 0, 0, 0
	for k, r := range corpus(t) {
		for q, req := range requests() {
			if len(r.Steps) == 0 || (k+q)%23 != 0 {
				continue
			}
			res, err := adapt.Predicted(r, req, adapt.DefaultKit())
			require.NoError(t, err)
			if res.Refused != nil {
				continue
			}
			back := *res.Recipe
			back.Steps, back.Told = nil, nil
			at := 0
			var want, got []string
			for _, task := range res.Method {
				back.Steps = append(back.Steps, recipe.Step{Text: task.Text, Span: recipe.Span{From: at, To: at + len(task.Text)}})
				at += len(task.Text) + 1
				want = append(want, string(task.Verb)+"/"+task.Part)
			}
			for _, task := range method.Read(&back, larder.Builtin()) {
				got = append(got, string(task.Verb)+"/"+task.Part)
			}
			all++
			if slices.Equal(got, want) {
				whole++
			}
			left := slices.Clone(got)
			for _, w := range want {
				if n := slices.Index(left, w); n >= 0 {
					left = slices.Delete(left, n, n+1)
					right++
				}
			}
			wanted += max(len(want), len(got))
		}
	}
	t.Logf("%d of %d methods wholly, %d of %d tasks", whole, all, right, wanted)
	assert.Greater(t, all, 200)
	assert.GreaterOrEqual(t, float64(whole)/float64(all), 0.85)
	assert.GreaterOrEqual(t, float64(right)/float64(wanted), 0.97)
}

// Whatever the method says, nothing that is gone is said and all that is there is used once.
func FuzzMethods(f *testing.F) {
	f.Add("Melt the butter. Whisk the egg whites to peaks, fold in the yolks and milk. Rub in butter. Knead, prove, knock back. Bake.", uint8(3))
	f.Add("Beat everything but the eggs; brush with egg, half the milk and the rest", uint8(40))
	reqs := requests()
	kit := adapt.DefaultKit()
	f.Fuzz(func(t *testing.T, words string, pick uint8) {
		if len(words) > 600 {
			return
		}
		r := &recipe.Recipe{Title: "f", Kind: recipe.Kinds[int(pick)%len(recipe.Kinds)].ID, Oven: 180, Servings: 8}
		for n, x := range []struct {
			id    larder.ID
			grams float64
		}{{"plain-flour", 240}, {"sugar", 120}, {"butter", 100}, {"egg", 100}, {"milk", 100}, {"baking-powder", 8}} {
			name := larder.Builtin().Get(x.id).Name
			r.Lines = append(r.Lines, recipe.Line{ID: recipe.LineID(n + 1), Ingredient: x.id, Grams: x.grams, Known: true, Name: name, Phrase: name})
		}
		r.Steps = []recipe.Step{{Text: words, Span: recipe.Span{To: len(words)}}}
		res, err := adapt.Adapt(r, reqs[int(pick)%len(reqs)], kit)
		if err != nil {
			t.Fatal(err)
		}
		if res.Refused == nil {
			faults := slices.DeleteFunc(unsound(res, r, false), func(f string) bool {
				return strings.HasPrefix(f, "no foamer") || strings.Contains(f, "without a firm fat")
			}) // of words without sense
			if len(faults) > 0 {
				t.Fatalf("%q, %v: %v", words, res.Request.Demand().Words(), faults)
			}
		}
	})
}

// An egg for the wash is no egg of the dough: what stands for it is brushed on, and nothing of it is
// said that is not there, though the list names none.
func TestAnEggWash(t *testing.T) {
	buns := "Buns\nMakes 8\n\n300 g plain flour\n7 g instant yeast\n180 ml milk\n%s\nMix and knead. Prove 1 hour. Shape into 8 buns. %s Bake at 190C for 20 minutes."
	for _, c := range []struct{ line, step, want string }{
		{"1 egg, beaten, for egg wash\n", "Egg wash the tops.", "Brush with 20 g oat drink, 4 g sunflower oil and 4 g maple syrup."},
		{"1 egg, beaten, for the egg wash\n", "Brush with the egg wash.", "Brush with 20 g oat drink, 4 g sunflower oil and 4 g maple syrup."},
		{"", "Eggwash (optional).", "Brush with a little oil, if you like: it browns and shines less than with egg."},
	} {
		res := run(t, read(t, fmt.Sprintf(buns, c.line, c.step)), adapt.Request{Diets: []diet.ID{diet.EggFree}})
		require.Nil(t, res.Refused)
		var brushed []string
		for _, x := range res.Method {
			if x.Verb == method.Brush {
				brushed = append(brushed, x.Text)
			}
			assert.NotContains(t, strings.ToLower(x.Text), "wash")
		}
		assert.Equal(t, []string{c.want}, brushed, c.step)
		for _, l := range res.Recipe.Lines {
			assert.NotContains(t, l.Text, "egg", "neither in the dough nor beside it")
			assert.NotEqual(t, larder.ID("flax-ground"), l.Ingredient)
		}
	}
	res := run(t, read(t, fmt.Sprintf(buns, "1 egg, beaten, for egg wash\n", "Egg wash the tops.")), adapt.Request{})
	assert.Contains(t, res.Method[len(res.Method)-3].Text+res.Method[len(res.Method)-4].Text, "Egg wash (50 g) the tops.")
}
