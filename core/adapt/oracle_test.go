package adapt_test

import (
	"encoding/csv"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/fact"
	"kollaris/core/recipe"
	"kollaris/core/swap"
)

// types are the recipes of testdata/types.txt by their names.
func types(t *testing.T) map[string]*recipe.Recipe {
	t.Helper()
	data, err := os.ReadFile("testdata/types.txt")
	require.NoError(t, err)
	out := map[string]*recipe.Recipe{}
	for _, rec := range strings.Split(string(data), "\n== ")[1:] {
		name, text, _ := strings.Cut(rec, "\n")
		out[name] = written(t, text)
		require.Empty(t, out[name].Unknown(), name)
	}
	return out
}

// comesOut says in the oracle's words what an adaptation came to: the same bake, another
// one (an experiment), none, or one that does not keep a limit.
func comesOut(res *adapt.Result) string {
	switch {
	case res.Refused != nil:
		return "refuse"
	case slices.ContainsFunc(res.Limits, func(l adapt.LimitOutcome) bool { return !l.Kept }):
		return "limits"
	case res.Confidence == swap.Experiment:
		return "other"
	}
	return "same"
}

// The oracle of the trade: what a practitioner expects of each type of bake before each
// demand. Where several answers are good practice any of them will do.
func TestTheOracleOfTheTrade(t *testing.T) {
	recipes := types(t)
	f, err := os.Open("testdata/oracle.csv")
	require.NoError(t, err)
	defer f.Close()
	rows, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	asked, right := 0, 0
	for _, row := range rows[1:] {
		r := recipes[row[0]]
		require.NotNil(t, r, row[0])
		require.NoError(t, fact.Source(row[len(row)-1]).Check(), row[0])
		for n, demand := range rows[0][1 : len(row)-1] {
			var req adapt.Request
			for id := range strings.FieldsSeq(demand) {
				req.Diets = append(req.Diets, diet.ID(id))
			}
			res, err := adapt.Adapt(r, req, adapt.DefaultKit())
			require.NoError(t, err)
			got := comesOut(res)
			asked++
			if slices.Contains(strings.Split(row[n+1], "/"), got) {
				right++
				continue
			}
			why := strings.Join(res.Doubts, " ")
			if res.Refused != nil {
				why = res.Refused.Reason
			}
			t.Logf("%s, %s: %s where the trade says %s. %s", row[0], demand, got, row[n+1], why)
		}
	}
	t.Logf("%d of %d as the trade has it (%.1f %%)", right, asked, 100*float64(right)/float64(asked))
	assert.GreaterOrEqual(t, asked, 120)
	assert.GreaterOrEqual(t, float64(right)/float64(asked), 0.95)
}
