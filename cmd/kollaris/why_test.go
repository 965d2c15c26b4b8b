package main_test

import (
	"encoding/json"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/recipe"
	"kollaris/internal/store"
)

func TestWhyAndTriangle(t *testing.T) {
	t.Parallel()
	out, _, code := call(t, pear, "why", "--symptom", "soapy", "--diet", "egg-free", "-")
	require.Equal(t, 0, code)
	assert.Contains(t, out, "Next time, this alone:")
	assert.Contains(t, out, "against: no soda is left over", "what the recipe says of itself")
	out, _, code = call(t, "", "why", "--symptom", "crumbly", "--json")
	require.Equal(t, 0, code)
	var found []struct {
		Cause  string
		Odds   float64
		Change string
	}
	require.NoError(t, json.Unmarshal([]byte(out), &found))
	require.NotEmpty(t, found)
	assert.Greater(t, found[0].Odds, found[1].Odds)
	assert.NotEmpty(t, found[0].Change)
	out, _, code = call(t, "", "why", "--symptoms")
	require.Equal(t, 0, code)
	assert.Contains(t, out, "gummy        gummy inside")
	out, _, code = call(t, "", "triangle", "5", "8")
	require.Equal(t, 0, code)
	assert.Contains(t, out, "5 of 8 right: could be chance, 1 in 11.")
	assert.Contains(t, out, "of 8, 6 right would rule out chance")
	out, _, code = call(t, "", "triangle", "2", "2", "--json")
	require.Equal(t, 0, code)
	assert.InDelta(t, 1.0/9, document(t, out)["chance"], 1e-9)
	for _, bad := range [][]string{{"why"}, {"why", "--symptom", "humming"}, {"triangle", "9", "8"}, {"triangle", "five", "8"}} {
		_, errs, code := call(t, "", bad...)
		assert.Equal(t, 2, code, "%v: %s", bad, errs)
	}
}

func TestLogPrintsWhatWasBaked(t *testing.T) {
	t.Parallel()
	db := filepath.Join(t.TempDir(), "k.db")
	st, err := store.Open(t.Context(), db)
	require.NoError(t, err)
	id, err := st.AddBake(t.Context(), store.Bake{
		Name: "Loaf", Begun: time.Now(), Who: "cox", Of: []store.BakeOf{{Title: "Loaf", Code: "1:", Result: &adapt.Result{Recipe: &recipe.Recipe{Title: "Loaf"}}}},
	})
	require.NoError(t, err)
	at := time.Date(2026, 5, 3, 10, 0, 0, 0, time.UTC)
	_, err = st.AddEvents(t.Context(), id, []bake.Event{{ID: "a", At: at, What: bake.Judge, Key: "overall", Value: 2}, {ID: "b", At: at, What: bake.Finish}})
	require.NoError(t, err)
	require.NoError(t, st.SetLogged(t.Context(), id, []store.Logged{{Bake: id, Title: "Loaf", At: at, Overall: 2, Words: "gummy, low"}}))
	require.NoError(t, st.Close())
	out, _, code := call(t, "", "log", "--db", db)
	require.Equal(t, 0, code)
	assert.Equal(t, at.Local().Format("2006-01-02")+"  Loaf  gummy, low\n", out)
	out, _, _ = call(t, "", "log", "--csv", "--db", db)
	assert.Contains(t, out, "\n2026-05-03T10:00:00Z,Loaf,cox,,,,,,so-so,,,0,1\n")
	out, _, _ = call(t, "", "log", "--md", "--db", db)
	assert.Contains(t, out, "- so-so\n- baked by cox\n")
	file, other := filepath.Join(t.TempDir(), "log.zip"), filepath.Join(t.TempDir(), "other.db")
	_, _, code = call(t, "", "log", "--zip", file, "--db", db)
	require.Equal(t, 0, code)
	_, bad, code := call(t, "", "log", "--zip", file, "--db", db)
	assert.Equal(t, 1, code, "it is there already")
	assert.Contains(t, bad, "cannot write the zip")
	for _, want := range []string{"1 came, 0 were there already.\n", "0 came, 1 were there already.\n"} {
		out, _, code = call(t, "", "log", "--from", file, "--db", other)
		assert.Equal(t, 0, code)
		assert.Equal(t, want, out)
	}
	_, bad, code = call(t, "", "log", "--from", db, "--db", other)
	assert.NotZero(t, code)
	assert.Contains(t, bad, "no log that was taken out")
	out, _, _ = call(t, "", "log", "--json", "--db", db)
	assert.Contains(t, out, `"overall": 2`)
	out, _, _ = call(t, "", "log", "--db", filepath.Join(t.TempDir(), "none.db"))
	assert.Equal(t, "Nothing was baked yet.\n", out)
}
