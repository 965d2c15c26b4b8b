package method_test

import (
	"fmt"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// told is a recipe of the corpus with the tasks that a baker reads from it.
type told struct {
	name string
	r    *recipe.Recipe
	want []string
}

func corpus(t *testing.T) []told {
	t.Helper()
	data, err := os.ReadFile("testdata/recipes.txt")
	require.NoError(t, err)
	var out []told
	for _, rec := range strings.Split(string(data), "\n== ")[1:] {
		name, text, _ := strings.Cut(rec, "\n")
		c := told{name: name}
		var lines []string
		for line := range strings.SplitSeq(text, "\n") {
			if task, ok := strings.CutPrefix(line, "> "); ok {
				c.want = append(c.want, task)
			} else {
				lines = append(lines, line)
			}
		}
		rd, err := reader.Read(strings.Join(lines, "\n"), reader.Options{})
		require.NoError(t, err, name)
		c.r = rd.Recipe
		out = append(out, c)
	}
	return out
}

// said writes a task as the corpus does, its lines by their numbers.
func said(t method.Task) string {
	s := string(t.Verb)
	if t.Part != "" {
		s += "/" + t.Part
	}
	var uses []string
	for _, u := range t.Uses {
		use := strconv.Itoa(int(u.Line))
		if u.Share < 0.995 {
			use += fmt.Sprintf("*%.2f", u.Share)
		}
		uses = append(uses, use)
	}
	slices.Sort(uses)
	if len(uses) > 0 {
		s += ": " + strings.Join(uses, ", ")
	}
	return s
}

// expected is a task of the corpus with its words resolved to the numbers of lines.
func expected(t *testing.T, c told, want string) string {
	t.Helper()
	head, list, ok := strings.Cut(want, ": ")
	if !ok {
		return head
	}
	var uses []string
	for word := range strings.SplitSeq(list, ", ") {
		word, share, shared := strings.Cut(word, "*")
		var ids []string
		for _, l := range c.r.Lines {
			if strings.Contains(strings.ToLower(l.Text), word) {
				ids = append(ids, strconv.Itoa(int(l.ID)))
			}
		}
		require.NotEmpty(t, ids, "%s: no line says %q", c.name, word)
		if shared {
			x, err := strconv.ParseFloat(share, 64)
			require.NoError(t, err)
			ids[0] += fmt.Sprintf("*%.2f", x)
		}
		uses = append(uses, ids[0])
	}
	slices.Sort(uses)
	return head + ": " + strings.Join(uses, ", ")
}

// common is how many tasks stand in both lists in the same order.
func common(a, b []string) int {
	best := make([][]int, len(a)+1)
	for n := range best {
		best[n] = make([]int, len(b)+1)
	}
	for n := range a {
		for m := range b {
			best[n+1][m+1] = max(best[n][m+1], best[n+1][m])
			if a[n] == b[m] {
				best[n+1][m+1] = max(best[n+1][m+1], best[n][m]+1)
			}
		}
	}
	return best[len(a)][len(b)]
}

// At least so much of the corpus is read as a baker reads it: of all tasks, and of whole
// recipes.
const (
	tasksRight   = 0.97
	recipesRight = 0.90
)

func TestTheCorpusIsReadAsABakerReadsIt(t *testing.T) {
	whole, all, right, wanted := 0, 0, 0, 0
	for _, c := range corpus(t) {
		var got, want []string
		for _, task := range method.Read(c.r, larder.Builtin()) {
			if !task.Inferred {
				got = append(got, said(task))
			}
		}
		for _, w := range c.want {
			want = append(want, expected(t, c, w))
		}
		n := common(got, want)
		all++
		right, wanted = right+n, wanted+max(len(want), len(got))
		if n == len(want) && n == len(got) {
			whole++
		} else if os.Getenv("SHOW") != "" {
			t.Logf("== %s\n got %s\nwant %s", c.name, strings.Join(got, " | "), strings.Join(want, " | "))
		}
	}
	t.Logf("%d of %d recipes wholly (%.0f %%), %d of %d tasks (%.1f %%)", whole, all, 100*float64(whole)/float64(all), right, wanted, 100*float64(right)/float64(wanted))
	assert.GreaterOrEqual(t, all, 60)
	assert.GreaterOrEqual(t, float64(right)/float64(wanted), tasksRight)
	assert.GreaterOrEqual(t, float64(whole)/float64(all), recipesRight)
}

// between is what may stand between two tasks and belongs to neither.
var between = regexp.MustCompile(`(?i)^(?:[\s\v,.;:!?–—-]|and|but|then|now|next|finally|immediately)*$`)

// unread are the pieces of a written method that no task holds.
func unread(r *recipe.Recipe, tasks []method.Task) []string {
	var out []string
	for n, st := range r.Steps {
		at := 0
		for _, t := range tasks {
			if t.Step != n {
				continue
			}
			from, to := t.Span.From-st.Span.From, t.Span.To-st.Span.From
			if from > at && !between.MatchString(st.Text[at:from]) {
				out = append(out, st.Text[at:from])
			}
			at = max(at, to)
		}
		if !between.MatchString(st.Text[at:]) {
			out = append(out, st.Text[at:])
		}
	}
	return out
}

func TestEveryWordOfAMethodIsInATask(t *testing.T) {
	for _, c := range corpus(t) {
		assert.Empty(t, unread(c.r, method.Read(c.r, larder.Builtin())), c.name)
	}
}

// What every baker does and nobody writes is added: the oven is hot and the tin lined before
// the batter is in it, and what is hot cools.
func TestWhatNobodyWritesIsAdded(t *testing.T) {
	for _, c := range corpus(t) {
		tasks := method.Read(c.r, larder.Builtin())
		at := func(v ...method.Verb) int {
			return slices.IndexFunc(tasks, func(t method.Task) bool { return slices.Contains(v, t.Verb) })
		}
		bake := at(method.Bake)
		if bake < 0 || tasks[bake].Where == method.Microwave || c.r.Oven == 0 {
			continue
		}
		heat := at(method.Heat)
		assert.True(t, heat >= 0 && heat < bake, c.name)
		assert.Positive(t, float64(tasks[bake].Oven), c.name)
		assert.Positive(t, tasks[bake].Wait.Max, c.name)
		warm := slices.ContainsFunc(c.r.Steps, func(s recipe.Step) bool { return strings.Contains(strings.ToLower(s.Text), "serve warm") })
		assert.Equal(t, !warm, at(method.Cool, method.CoolTin) >= 0, "%s: what is eaten warm is not cooled", c.name)
		if line := at(method.Line); line >= 0 {
			assert.Less(t, line, bake, c.name)
		}
	}
}

// The words are a random method over known lines: it is read without a word lost, and every
// line is used once.
func FuzzRead(f *testing.F) {
	f.Add("Cream the butter and sugar, beat in the eggs one at a time, then fold in half the flour. Bake at 180C for 30 minutes; cool.")
	f.Add("whisk whites to peaks; fold everything in!! the rest of the milk, and\nthe dry into the wet - bake")
	f.Add("Half the flour. half the flour half the flour the remaining flour the rest")
	f.Fuzz(func(t *testing.T, words string) {
		if len(words) > 2000 {
			return
		}
		r := &recipe.Recipe{Title: "f", Kind: recipe.CreamedCake, Oven: 180, Bake: recipe.Minutes{Min: 30, Max: 30}}
		for n, id := range []larder.ID{"plain-flour", "caster-sugar", "butter", "egg", "milk", "baking-powder", "icing-sugar"} {
			l := recipe.Line{ID: recipe.LineID(n + 1), Ingredient: id, Name: larder.Builtin().Get(id).Name, Grams: 100, Known: true}
			l.Phrase = l.Name
			if id == "icing-sugar" {
				l.Section, l.Role = "icing", recipe.Icing
			}
			r.Lines = append(r.Lines, l)
		}
		r.Steps = []recipe.Step{{Text: words, Span: recipe.Span{From: 7, To: 7 + len(words)}}}
		tasks := method.Read(r, larder.Builtin())
		sum := map[recipe.LineID]float64{}
		for _, task := range tasks {
			for _, u := range task.Uses {
				sum[u.Line] += u.Share
			}
		}
		for _, l := range r.Lines {
			if sum[l.ID] < 0.999 || sum[l.ID] > 1.001 {
				t.Fatalf("%s is used %g times: %+v", l.Name, sum[l.ID], tasks)
			}
		}
		if left := unread(r, tasks); len(left) > 0 && strings.IndexFunc(strings.Join(left, ""), unicode.IsLetter) >= 0 {
			t.Fatalf("lost: %q of %q", left, words)
		}
	})
}

// Hands take longer over more: three times the dough is shaped in three times the minutes, as
// far as hands do it at all; what is written stands.
func TestHandsGoByTheAmount(t *testing.T) {
	rolls := "Rolls\nMakes 12\n\n500 g strong flour\n300 ml water\n7 g instant yeast\n300 g carrots\n4 eggs\n\nSeparate the eggs. Grate the carrots. Knead for 10 minutes. Shape into 12 rolls. Bake at 220C for 15 minutes."
	rd, err := reader.Read(rolls, reader.Options{})
	require.NoError(t, err)
	hands := func(times float64) map[method.Verb]recipe.Minutes {
		out := map[method.Verb]recipe.Minutes{}
		for _, task := range method.Read(rd.Recipe.Scaled(times), larder.Builtin()) {
			out[task.Verb] = task.Hands.Minutes
		}
		return out
	}
	for times, want := range map[float64][4]recipe.Minutes{ // separate, grate, knead, shape
		0.5: {{Min: 2, Max: 3}, {Min: 5, Max: 5}, {Min: 10, Max: 10}, {Min: 5, Max: 10}},
		1:   {{Min: 2, Max: 3}, {Min: 5, Max: 5}, {Min: 10, Max: 10}, {Min: 5, Max: 11}},
		3:   {{Min: 3, Max: 5}, {Min: 8, Max: 8}, {Min: 10, Max: 10}, {Min: 10, Max: 20}},
		40:  {{Min: 12, Max: 18}, {Min: 30, Max: 30}, {Min: 10, Max: 10}, {Min: 30, Max: 60}},
	} {
		got := hands(times)
		for n, v := range []method.Verb{method.Separate, method.Grate, method.Knead, method.Shape} {
			assert.Equal(t, want[n], got[v], "%g times, %s", times, v)
		}
	}
}

// Words that writers begin with less often, what is done the evening before, an oven turned while
// nothing is in it, times that are of a part only, and what is done warm before it cools.
func TestWhatWritersAlsoSay(t *testing.T) {
	read := func(steps string) (out []string) {
		rd, err := reader.Read("Test bake\nServes 8\n\n300 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n150 g dried apricots\n100 ml orange juice\n7 g instant yeast\n\n"+steps, reader.Options{})
		require.NoError(t, err)
		for _, x := range method.Read(rd.Recipe, larder.Builtin()) {
			out = append(out, strings.TrimSpace(fmt.Sprintf("%s %g-%g %g", x.Verb, x.Wait.Min, x.Wait.Max, float64(x.Oven))))
		}
		return out
	}
	for steps, want := range map[string][]string{
		"Soak the apricots in the juice for 36 hours in the fridge.":                                   {"soak 2160-2160 0"},
		"Steep the apricots in the juice for 2 days.":                                                  {"soak 2880-2880 0"},
		"Mix all. Bulk ferment for 4 hours, folding every 30 minutes for the first 2 hours.":           {"mix 0-0 0", "prove 240-240 0"},
		"Mix and knead. Leave to rise for another hour.":                                               {"mix 0-0 0", "knead 0-0 0", "prove 60-60 0"},
		"Second rise 45-60 mins until it has doubled.":                                                 {"prove 45-60 0"},
		"Turn it out, peel off the paper and cool on a wire rack for 2 hours.":                         {"cool 0-0 0", "cut 0-0 0", "cool 120-120 0"},
		"Leave to rest for 20 minutes (or overnight in the fridge).":                                   {"chill 20-20 0"},
		"Mix all. Cover. Leave to rise for 1 hour.":                                                    {"rest 0-0 0", "prove 60-60 0"},
		"Put a muffin pan in the oven and heat to 230C. Mix all. Bake for 20 minutes.":                 {"heat 12-25 230", "bake 20-20 230"},
		"Boil the apricots for 10 minutes; drain.":                                                     {"drain 0-0 0"},
		"The night before, mix the flour and sugar.":                                                   {"mix 0-0 0"},
		"Rub the butter into the flour. Blind bake at 190C for 15 minutes.":                            {"heat 12-25 190", "rub-in 0-0 0", "bake-blind 15-15 190"},
		"Mix all. Bake at 180C for 30 minutes. Brush the warm buns with jam. Sprinkle with the sugar.": {"heat 12-25 180", "mix 0-0 0", "bake 30-30 180", "brush 0-0 0", "cool 60-120 0", "top 0-0 0"},
	} {
		got := read(steps)
		for _, w := range want {
			assert.Contains(t, got, w, steps)
		}
	}
	tart := read("Rub the butter into the flour. Blind bake at 190C for 15 minutes. Reduce the oven to 150C. Whisk the eggs and sugar. Pour into the case. Bake for 30 minutes until set.")
	assert.Equal(t, []string{"heat 12-25 190", "rub-in 0-0 0", "bake-blind 15-15 190", "heat 12-25 150", "beat 0-0 0", "fill 0-0 0", "bake 30-30 150"}, tart[:7])
	turned := read("Mix all. Bake at 230C for 15 minutes. Reduce the oven to 200C. Bake for 20 minutes more.")
	assert.Equal(t, 1, strings.Count(strings.Join(turned, ","), "heat"), "while it is in the oven it is no heating: %v", turned)
}

// Where a name stands in two sections that are made in turn each mention is of its own; where it is
// said once it is of both.
func TestSectionsMadeInTurn(t *testing.T) {
	flours := func(steps string) (out []string) {
		rd, err := reader.Read("Brioche\n\nSponge\n60 ml milk\n7 g dried yeast\n70 g bread flour\n\nDough\n430 g bread flour\n60 g sugar\n5 eggs\n\n"+steps, reader.Options{})
		require.NoError(t, err)
		for _, x := range method.Read(rd.Recipe, larder.Builtin()) {
			grams := 0.0
			for _, u := range x.Uses {
				if l := rd.Recipe.Line(u.Line); l.Ingredient == "strong-flour" {
					grams += u.Share * l.Grams
				}
			}
			if grams > 0 {
				out = append(out, fmt.Sprintf("%s %.0f", x.Verb, grams))
			}
		}
		return out
	}
	assert.Equal(t, []string{"bloom 70", "mix 430"}, flours("Make the sponge: mix milk, yeast and flour, leave for 45 minutes until bubbly. Add the flour, sugar and eggs. Bake at 190C for 30 minutes."))
	assert.Equal(t, []string{"mix 500"}, flours("Mix milk, yeast, flour, sugar and eggs. Bake at 190C for 30 minutes."))
	assert.Equal(t, []string{"simmer 70", "mix 430"}, flours("Sponge: whisk flour and milk in a saucepan over low heat until thick. Combine all dough ingredients with the sponge. Bake at 190C for 30 minutes."))
	assert.Equal(t, []string{"mix 500"}, flours("Mix everything. Knead in a little extra flour if it sticks. Dust with flour. Bake at 190C for 30 minutes."), "what is dusted is not all of it")
	assert.Equal(t, []string{"mix 500"}, flours("Mix everything. Bake at 190C for 30 minutes."))
}

// What says more of a step in a paragraph of its own belongs to the step before; a yield, a heading and what is long stand alone.
func TestARemarkInAParagraphOfItsOwn(t *testing.T) {
	for remark, alone := range map[string]bool{
		"The batter will be thin.": false, "It looks curdled, which is right.": false, "Makes 12 squares.": true, "A word on it: thin is right.": true,
		"It will look thin and a little curdled at this point but there is no need at all to worry about it now.": true,
	} {
		rd, err := reader.Read("Squares\n200 g flour\n2 eggs\n\nMethod\nBeat the eggs with the flour.\n"+remark+"\nBake at 180 C for 30 minutes.", reader.Options{})
		require.NoError(t, err)
		tasks := method.Read(rd.Recipe, larder.Builtin())
		found := false
		for _, x := range tasks {
			if strings.Contains(x.Text, strings.TrimSuffix(remark, ".")) {
				found = true
				assert.Equal(t, alone, x.Verb == method.Remark, remark)
				assert.Equal(t, !alone, strings.HasPrefix(x.Text, "Beat"), remark)
			}
		}
		assert.True(t, found, remark)
	}
}

// What the trade says of verbs by columns of their table; a word that is none is refused with its line.
func TestPropertiesOfVerbs(t *testing.T) {
	for v, want := range map[method.Verb][]method.Property{
		method.Mix: {method.Mixes, method.Combines, method.MayCook}, method.Soak: {method.Sideways, method.Aside, method.Harmless, method.OtherBowl, method.Prepares, method.MayCook},
		method.Tent: {method.Inside}, method.Knead: {method.Mixes, method.Combines, method.OfWhole}, method.Bake: nil,
	} {
		for p := method.Mixes; p <= method.MayCook; p <<= 1 {
			assert.Equal(t, slices.Contains(want, p), v.Is(p), "%s %d", v, p)
		}
	}
}

// Nobody puts on a rack what the writer leaves elsewhere; what is done with it warm is done where it stands.
func TestTheWrittenWordCools(t *testing.T) {
	for end, want := range map[string]string{
		"Serve warm.": "", "Best eaten warm.": "", "Wrap in a clean tea towel.": "", "Hang upside down.": "", "Leave with the oven door ajar.": "",
		"Spoon the syrup over the hot cake.": "Let it cool.", "Brush with milk while still warm.": "Let it cool.", "Cut into 9 squares.": "Cool on a rack.",
		"Serve with warm custard.": "Cool on a rack.",
	} {
		rd, err := reader.Read("Squares\n200 g flour\n2 eggs\n50 g golden syrup\n\nMethod\nMix. Pour into a 20 cm square tin. Bake at 180 C for 30 minutes. "+end, reader.Options{})
		require.NoError(t, err)
		got := ""
		for _, x := range method.Read(rd.Recipe, larder.Builtin()) {
			if x.Inferred && x.Verb == method.Cool {
				got = x.Text
			}
		}
		assert.Equal(t, want, got, end)
	}
}
