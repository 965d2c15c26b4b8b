package method_test

import (
	"fmt"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

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
