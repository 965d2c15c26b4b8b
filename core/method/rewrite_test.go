package method_test

import (
	"fmt"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/pelletier/go-toml/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/fact"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

// detail writes all that a task holds, for a case that was read by eye.
func detail(r *recipe.Recipe, t method.Task) string {
	mark := " "
	switch {
	case t.Inferred:
		mark = "+"
	case t.Changed:
		mark = "*"
	}
	name := string(t.Verb)
	if t.Part != "" {
		name += "/" + t.Part
	}
	out := []string{mark + name, t.Text}
	put := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	for _, u := range t.Uses {
		if l := r.Line(u.Line); l != nil {
			put("%.0f %% of %d %s", 100*u.Share, u.Line, method.Short(l.Name))
		}
	}
	put("%s", t.Where)
	if t.Oven > 0 {
		put("%.0f °C", float64(t.Oven))
	}
	span := func(of string, m method.Time) {
		if m.Max > 0 {
			put("%s %.3g-%.3g (%s)", of, m.Min, m.Max, m.Source)
		}
	}
	span("hands", t.Hands)
	span("wait", t.Wait)
	for _, more := range []struct{ of, is string }{{"until ", t.Until}, {"takes ", strings.Join(t.Takes, " + ")}, {"makes ", t.Makes}} {
		if more.is != "" {
			put("%s%s", more.of, more.is)
		}
	}
	if t.AtOnce {
		put("at once")
	}
	return strings.Join(out, " | ")
}

// became is what a case makes of a recipe: its lines that begin with a tilde.
//
//	~ swap USE | words of the lines that go | title | grams ingredient [<the line it replaces, or none], ...
//	~ step TABLE, of the last swap: a step.Step
//	~ add grams ingredient [name]; out words; base NAME; cups; no butter
//	~ answer °C | first look | low-high | tin [| other tin] [| done 96 °C] [| then 150 °C@15]
type became struct {
	t      *testing.T
	was    *recipe.Recipe
	b      method.Became
	last   recipe.LineID
	answer *method.Answer
}

func (c *became) find(words string) []recipe.LineID {
	c.t.Helper()
	var out []recipe.LineID
	for word := range strings.SplitSeq(words, ", ") {
		n := len(out)
		for _, l := range c.was.Lines {
			if strings.Contains(strings.ToLower(l.Text), word) {
				out = append(out, l.ID)
			}
		}
		require.Greater(c.t, len(out), n, "no line says %q", word)
	}
	return out
}

func (c *became) drop(ids []recipe.LineID) {
	var kept []recipe.Line
	for _, l := range c.b.Recipe.Lines {
		if !has(ids, l.ID) {
			kept = append(kept, l)
		}
	}
	c.b.Recipe.Lines = kept
}

func has(ids []recipe.LineID, id recipe.LineID) bool {
	for _, x := range ids {
		if x == id {
			return true
		}
	}
	return false
}

// add puts in "90 water <egg": 90 g of water for the line that says "egg".
func (c *became) add(of string, gone []recipe.LineID) recipe.LineID {
	c.t.Helper()
	of, stands, ok := strings.Cut(of, " <")
	switch {
	case stands == "none":
		gone = nil
	case ok:
		gone = c.find(stands)
	}
	grams, id, _ := strings.Cut(strings.TrimSpace(of), " ")
	g, err := strconv.ParseFloat(grams, 64)
	require.NoError(c.t, err)
	i := c.b.Larder.Get(larder.ID(id))
	require.NotNil(c.t, i, id)
	c.last++
	l := recipe.Line{ID: 100 + c.last, Ingredient: i.ID, Name: i.Name, Phrase: i.Name, Grams: g, Known: true}
	if len(gone) > 0 {
		l.Replaces, l.Section, l.Role = gone[0], c.was.Line(gone[0]).Section, c.was.Line(gone[0]).Role
	}
	c.b.Recipe.Lines = append(c.b.Recipe.Lines, l)
	return l.ID
}

func (c *became) tell(what string) {
	c.t.Helper()
	what, rest, _ := strings.Cut(what, " ")
	f := strings.Split(rest, " | ")
	switch what {
	case "swap":
		s := method.Swap{Use: f[0], Gone: c.find(f[1]), Title: f[2]}
		for of := range strings.SplitSeq(f[3], ", ") {
			s.To = append(s.To, c.add(of, s.Gone))
		}
		c.drop(s.Gone)
		c.b.Swaps = append(c.b.Swaps, s)
	case "step":
		s := &c.b.Swaps[len(c.b.Swaps)-1]
		var p struct{ Step step.Step }
		require.NoError(c.t, toml.NewDecoder(strings.NewReader("step = "+rest)).DisallowUnknownFields().Decode(&p), rest)
		s.Steps = append(s.Steps, p.Step)
	case "add":
		c.add(rest, nil)
	case "out":
		c.drop(c.find(rest))
	case "base":
		c.b.Base = rest
	case "cups":
		c.b.Cups = true
	case "no":
		c.b.NoButter = true
	case "answer":
		a := method.Answer{Heat: f[0] + " °C", Tin: f[3]}
		for _, x := range []struct {
			from string
			to   *float64
		}{{f[0], (*float64)(&a.Oven)}, {f[1], &a.FirstLook}} {
			_, err := fmt.Sscan(x.from, x.to)
			require.NoError(c.t, err)
		}
		_, err := fmt.Sscanf(f[2], "%f-%f", &a.Low, &a.High)
		require.NoError(c.t, err)
		for _, more := range f[4:] {
			if heat, after, ok := strings.Cut(strings.TrimPrefix(more, "then "), "@"); ok {
				x, _ := strconv.ParseFloat(after, 64)
				a.Lower = append(a.Lower, method.Lower{Heat: heat, After: x})
			} else if done, ok := strings.CutPrefix(more, "done "); ok {
				a.Done = done
			}
			a.OtherTin, a.NoFlour = a.OtherTin || more == "other tin", a.NoFlour || more == "no flour"
		}
		c.answer = &a
	default:
		c.t.Fatalf("what is %q?", what)
	}
}

// compare holds what was worked out against what stands in a file of cases, and prints it
// there anew with WRITE=1, to be read by eye.
func compare(t *testing.T, file, got string) {
	t.Helper()
	if os.Getenv("WRITE") != "" {
		require.NoError(t, os.WriteFile(file, []byte(got), 0o644))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(want), got)
}

// What each rule makes of a small method, with all that the tasks hold.
func TestMethodsAreWrittenForWhatTheyBecame(t *testing.T) {
	const file = "testdata/rewrites.txt"
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	head, _, _ := strings.Cut(string(data), "\n== ")
	out := head
	for _, rec := range strings.Split(string(data), "\n== ")[1:] {
		name, text, _ := strings.Cut(rec, "\n")
		var told, lines []string
		kept := "\n== " + name
		for line := range strings.SplitSeq(strings.TrimSpace(text), "\n") {
			if strings.HasPrefix(line, "> ") {
				continue
			}
			kept += "\n" + line
			if what, ok := strings.CutPrefix(line, "~ "); ok {
				told = append(told, what)
			} else {
				lines = append(lines, line)
			}
		}
		rd, err := reader.Read(strings.Join(lines, "\n"), reader.Options{})
		require.NoError(t, err, name)
		now := *rd.Recipe
		c := became{t: t, was: rd.Recipe, b: method.Became{Recipe: &now, Larder: larder.Builtin(), Measure: measured}}
		for _, what := range told {
			c.tell(what)
		}
		tasks := method.Rewrite(c.was, c.b)
		if c.answer != nil {
			tasks = method.Timed(tasks, *c.answer)
		}
		for _, task := range tasks {
			kept += "\n> " + detail(c.b.Recipe, task)
		}
		out += kept + "\n"
	}
	compare(t, file, out)
}

// measured is in whole teaspoons and cups, enough to see where they are asked for.
func measured(i *larder.Ingredient, grams float64) string {
	if i.Family == larder.FamilyEgg {
		return ""
	}
	if grams < 20 {
		return fmt.Sprintf("%.0f tsp", grams/5)
	}
	return fmt.Sprintf("%.2g cups", grams/240)
}

// What is read from each recipe of the corpus beside verb and lines: where, how long, until
// which sign, in what heat, and what nobody wrote.
func TestTasksOfTheCorpusInFull(t *testing.T) {
	out := ""
	for _, c := range corpus(t) {
		out += "== " + c.name + "\n"
		tasks := method.Read(c.r, larder.Builtin())
		for _, task := range tasks {
			out += detail(c.r, task) + "\n"
		}
		hands, total, baking := method.Hands(tasks), method.Total(tasks), method.Baking(tasks)
		out += fmt.Sprintf("hands %.3g-%.3g, in all %.4g-%.4g, in the oven %.3g-%.3g; %s\n\n",
			hands.Min, hands.Max, total.Min, total.Max, baking.Min, baking.Max, strings.Join(method.Equipment(tasks, c.r), ", "))
	}
	compare(t, "testdata/tasks.txt", out)
}

// Hands take as long as this household's do, by verb; what the baker typed stays.
func TestHandsOfAHousehold(t *testing.T) {
	m := func(min, max float64, from fact.Source) method.Time {
		return method.Time{Minutes: recipe.Minutes{Min: min, Max: max}, Source: from}
	}
	was := []method.Task{{Verb: method.Grate, Hands: m(8, 10, "practice")}, {Verb: method.Mix, Hands: m(2, 3, "practice")}, {Verb: method.Grate, Hands: m(8, 10, method.Yours)}, {Verb: method.Grate}}
	got := method.WithHands(was, map[string]float64{"grate": 1.3})
	assert.Equal(t, m(10.5, 13, method.Learned), got[0].Hands)
	assert.Equal(t, was[1:], got[1:])
	assert.Equal(t, 8.0, was[0].Hands.Min, "the method itself stays")
	assert.Equal(t, 0.5, method.WithHands(was, map[string]float64{"mix": 0.1})[1].Hands.Min)
}
