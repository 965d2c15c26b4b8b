package main_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
	"kollaris/internal/store"
)

func recipeFile(t *testing.T, name, text string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	return file
}

func TestAPlanOfTwoBakes(t *testing.T) {
	t.Parallel()
	one, two := recipeFile(t, "pear.txt", pear), recipeFile(t, "honey.txt", "Honey biscuits\nMakes 18\n250 g plain flour\n120 g butter\n54 g honey\n60 g sugar\n1 tsp baking powder\nCream the butter and sugar, stir in the rest. Bake at 180 C for 12 minutes.")
	calendar := filepath.Join(t.TempDir(), "plan.ics")
	out, _, code := call(t, "", "plan", "--json", "--eat", "2026-12-05T09:00", "--oven", "gas oven=15", "--oven", "small", "--ics", calendar, "--diet", "egg-free", one, two)
	require.Equal(t, 0, code)
	d := document(t, out)
	assert.Equal(t, true, d["feasible"])
	begin, err := time.Parse(time.RFC3339, d["begin"].(string))
	require.NoError(t, err)
	ready, err := time.Parse(time.RFC3339, d["ready"].(string))
	require.NoError(t, err)
	assert.Equal(t, "2026-12-05 09:00", ready.Format("2006-01-02 15:04"))
	bakes, hands := map[string]bool{}, 0
	for _, x := range d["tasks"].([]any) {
		task := x.(map[string]any)
		from, err := time.Parse(time.RFC3339, task["from"].(string))
		require.NoError(t, err)
		assert.False(t, from.Before(begin))
		if task["hands"].(float64) > 0 {
			hands++
		}
		if task["verb"] == "bake" {
			bakes[task["bake"].(string)] = task["oven"] == "gas oven" || task["oven"] == "small"
		}
	}
	assert.Equal(t, map[string]bool{"Pear and cardamom loaf": true, "Honey biscuits": true}, bakes)
	file, err := os.Open(calendar)
	require.NoError(t, err)
	defer file.Close()
	cal, err := ics.ParseCalendar(file)
	require.NoError(t, err)
	assert.Len(t, cal.Events(), hands)

	out, _, code = call(t, "", "plan", "--eat", "2026-12-05T09:00", one)
	assert.Equal(t, 0, code)
	assert.Regexp(t, `^Begin Sat 5 Dec 0\d:\d\d\. Ready Sat 5 Dec 09:00\. Hands \d+ min in all\.`, out)
	out, _, _ = call(t, "", "plan", "--eat", "2026-12-05T09:00", "--now", "2026-12-05T08:30", one)
	assert.Contains(t, out, "✕ Late by ")
	assert.Contains(t, out, "as cups")
	assert.Contains(t, out, "Eat 1 h 05 later, at Sat 10:05.")
}

func TestWhatAPlanCannotUse(t *testing.T) {
	t.Parallel()
	file := recipeFile(t, "pear.txt", pear)
	for want, args := range map[string][]string{
		"say when it is eaten":    {file},
		"name one recipe":         {"--eat", "2026-12-05T09:00"},
		"try 1 to 9":              {"--eat", "2026-12-05T09:00", "--cooks", "0", file},
		"try 06:00-22:30":         {"--eat", "2026-12-05T09:00", "--awake", "all day", file},
		"is no hour of the day":   {"--eat", "2026-12-05T09:00", "--awake", "dawn-22:00", file},
		"try 20":                  {"--eat", "2026-12-05T09:00", "--oven", "gas=hot", file},
		"try 21 or 70F":           {"--eat", "2026-12-05T09:00", "--room", "hot", file},
		"is no time":              {"--eat", "2026-12-05T09:00", "--now", "soon", file},
		"is no diet":              {"--eat", "2026-12-05T09:00", "--diet", "airy", file},
		"the calendar cannot be":  {"--eat", "2026-12-05T09:00", "--ics", filepath.Join(t.TempDir(), "none", "x.ics"), file},
		"no room within three we": {"--eat", "2026-12-05T09:00", "--awake", "12:00-12:01", file},
	} {
		_, errs, code := call(t, "", append([]string{"plan"}, args...)...)
		assert.Equal(t, 2, code, want)
		assert.Contains(t, errs, want)
	}
	meringue := recipeFile(t, "meringue.txt", "Meringues\nMakes 20\n\n4 egg whites\n220 g caster sugar\n\nWhisk the whites to stiff peaks, whisk in the sugar. Bake 90 minutes at 110C.")
	_, errs, code := call(t, "", "plan", "--eat", "2026-12-05T09:00", "--diet", "egg-free", "--ban", "aquafaba", meringue)
	assert.Equal(t, 3, code, errs)
}

// What is kept in the household's file is planned with its hours and ovens, and shopped for with its
// larder.
func TestAPlanOfKeptVersions(t *testing.T) {
	t.Parallel()
	db := filepath.Join(t.TempDir(), "house.db")
	st, err := store.Open(t.Context(), db)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(t.Context(), st))
	require.NoError(t, st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Day = store.Day{From: "07:30", To: "21:00", Away: "Fri 12:00-18:00"} }))
	all, err := st.Recipes(t.Context(), "")
	require.NoError(t, err)
	var kept []string
	for _, r := range all {
		versions, err := st.Versions(t.Context(), r.ID)
		require.NoError(t, err)
		for _, v := range versions {
			kept = append(kept, "--version", fmt.Sprint(v.ID))
		}
	}
	require.NoError(t, st.Close())
	require.Len(t, kept, 4)
	out, errs, code := call(t, "", append([]string{"plan", "--json", "--db", db, "--eat", "2026-12-05T09:00"}, kept...)...)
	require.Equal(t, 0, code, errs)
	d := document(t, out)
	ovens := map[string]bool{}
	for _, x := range d["tasks"].([]any) {
		task := x.(map[string]any)
		from, err := time.Parse(time.RFC3339, task["from"].(string))
		require.NoError(t, err)
		if at := from.Format("15:04"); task["verb"] != "heat" {
			assert.True(t, at >= "07:30" && at < "21:00" && !(from.Day() == 4 && at >= "12:00" && at < "18:00"), "%s at %s", task["text"], from)
		}
		if oven, ok := task["oven"].(string); ok {
			ovens[oven] = true
		}
	}
	assert.Subset(t, []string{"old gas oven", "small electric oven"}, slices.Collect(maps.Keys(ovens)))
	out, _, code = call(t, "", append([]string{"shop", "--json", "--db", db}, kept...)...)
	require.Equal(t, 0, code)
	assert.Contains(t, out, `"ingredient": "flax-ground"`)
	_, errs, code = call(t, "", "plan", "--db", db, "--eat", "2026-12-05T09:00", "--version", "999")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "no version 999 is kept in")
	_, errs, code = call(t, "", "shop", "--db", db+"x", "--version", "1")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "there is no household’s file at")
	assert.NoFileExists(t, db+"x")
}

// How it is eaten, and a rise in the fridge, by flags.
func TestAPlanOfWarmRolls(t *testing.T) {
	t.Parallel()
	rolls := recipeFile(t, "rolls.txt", "Seed rolls\nMakes 12\n500 g strong white bread flour\n7 g instant yeast\n9 g salt\n320 ml water\nMix and knead for 10 minutes. Leave to rise 1 hour. Shape into 12 rolls on a baking sheet, leave to rise for 45 minutes. Bake at 210C for 18 minutes.")
	out, _, code := call(t, "", "plan", "--eat", "2026-12-05T08:30", "--serve", "warm", rolls)
	require.Equal(t, 0, code)
	assert.Contains(t, out, "set it in the fridge to rise slowly, 8 to 16 hours")
	out, _, _ = call(t, "", "plan", "--eat", "2026-12-05T08:30", "--serve", "warm", "--rise", "first", rolls)
	assert.Contains(t, out, "8 to 24 hours")
	for want, args := range map[string][]string{"try warm, iced or aged": {"--serve", "hot"}, "try first, final or none": {"--rise", "both"}, "try Mon-Fri": {"--away", "now"}} {
		_, errs, code := call(t, "", append([]string{"plan", "--eat", "2026-12-05T08:30", rolls}, args...)...)
		assert.Equal(t, 2, code)
		assert.Contains(t, errs, want)
	}
}

func TestOneListForTwoBakes(t *testing.T) {
	t.Parallel()
	one, two := recipeFile(t, "pear.txt", pear), recipeFile(t, "eggs.txt", "Egg cake\n200 g plain flour\n3 eggs\n150 g sugar\n2 tsp baking powder\na little butter, for greasing\n100 ml water\nMix.")
	out, _, code := call(t, "", "shop", "--json", "--diet", "gluten-free", one, two)
	require.Equal(t, 0, code)
	var buys []map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &buys))
	by := map[string]map[string]any{}
	for _, b := range buys {
		by[b["ingredient"].(string)] = b
	}
	assert.Equal(t, "5", by["egg"]["buy"], "two and three eggs")
	assert.NotEmpty(t, by["gf-blend"]["labels"])
	assert.Nil(t, by["water"])
	assert.Equal(t, "egg", buys[1]["ingredient"], "after the fruit")
	out, _, _ = call(t, "", "shop", two)
	assert.Contains(t, out, "3 egg\n")
	assert.Contains(t, out, "a little unsalted butter\n")
}
