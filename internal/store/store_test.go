package store_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
	"kollaris/internal/demo/recipes"
	"kollaris/internal/store"
)

func open(t *testing.T) (*store.Store, string) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "a b?#.db") // a name that needs escaping
	st, err := store.Open(t.Context(), file)
	require.NoError(t, err)
	t.Cleanup(func() { st.Close() })
	return st, file
}

func put(t *testing.T, st *store.Store, name string) int64 {
	t.Helper()
	text := recipes.Text(name)
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	id, err := st.AddRecipe(t.Context(), rd.Recipe, text, store.Typed{Facts: reader.Facts{Servings: "9"}})
	require.NoError(t, err)
	return id
}

// raw opens the file past the store, to look at it or to spoil it.
func raw(t *testing.T, file string) *sql.DB {
	t.Helper()
	db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: file}).EscapedPath())
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	return db
}

const (
	pear   = "1-pear-cardamom-loaf.txt"
	scones = "3-cheddar-chive-scones.txt"
)

func TestARecipeComesBackAsItWent(t *testing.T) {
	st, file := open(t)
	ctx := t.Context()
	id := put(t, st, pear)
	require.NoError(t, st.Close())
	st, err := store.Open(ctx, file) // another start of the program
	require.NoError(t, err)
	defer st.Close()
	r, err := st.Recipe(ctx, id)
	require.NoError(t, err)
	want, err := reader.Read(recipes.Text(pear), reader.Options{})
	require.NoError(t, err)
	assert.Equal(t, want.Recipe, r.Doc)
	v, err := st.Version(ctx, r.Head)
	require.NoError(t, err)
	assert.Equal(t, recipes.Text(pear), v.SourceText)
	assert.Equal(t, "9", v.Typed.Facts.Servings)
	assert.False(t, v.Adapted())
	_, err = st.Recipe(ctx, 99)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

func TestAnAdaptedVersionIsKeptForGood(t *testing.T) {
	st, file := open(t)
	ctx := t.Context()
	st.Engine, st.Data = "1.2", "abc"
	id := put(t, st, pear)
	r, err := st.Recipe(ctx, id)
	require.NoError(t, err)
	res, err := adapt.Adapt(r.Doc, adapt.Request{Diets: []diet.ID{diet.EggFree}}, adapt.DefaultKit())
	require.NoError(t, err)
	vid, err := st.KeepAdapted(ctx, id, r.Head, "ours", res)
	require.NoError(t, err)
	v, err := st.Version(ctx, vid)
	require.NoError(t, err)
	assert.Equal(t, res.Recipe.Lines, v.Result.Recipe.Lines)
	assert.Equal(t, res.Changes, v.Result.Changes)
	assert.InDelta(t, res.Serving.Energy, v.Result.Serving.Energy, 1e-9)
	assert.Equal(t, "diet=egg-free", v.Request)
	assert.Equal(t, []any{"1.2", 2, r.Head}, []any{v.Engine, v.N, v.Parent})
	list, err := st.Versions(ctx, id)
	require.NoError(t, err)
	assert.Len(t, list, 1)

	_, err = raw(t, file).Exec("UPDATE version SET title = 'other'")
	assert.ErrorContains(t, err, "a kept version never changes")
}

func TestACorrectionIsANewWrittenVersion(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	id := put(t, st, pear)
	r, err := st.Recipe(ctx, id)
	require.NoError(t, err)
	doc := r.Doc.Clone()
	doc.Title = "Pear loaf"
	require.NoError(t, st.CorrectRecipe(ctx, id, r.Rev, doc, "text", store.Typed{}))
	assert.ErrorIs(t, st.CorrectRecipe(ctx, id, r.Rev, doc, "text", store.Typed{}), store.ErrChanged, "another window was first")
	now, err := st.Recipe(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "Pear loaf", now.Title)
	old, err := st.Version(ctx, r.Head)
	require.NoError(t, err)
	assert.Equal(t, "Pear and cardamom loaf", old.Title)
}

func TestSearch(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	put(t, st, pear)
	put(t, st, scones)
	for query, want := range map[string]int{"": 2, "pear": 1, "PEA": 1, "cardam": 1, "buttermilk": 1, "flour": 2, "cheddar chiv": 1, "pear cheddar": 0, `pear-and-cardamom`: 1, `"`: 0, `a" OR "b`: 0, "* NEAR(": 0, "kumquat": 0} {
		got, err := st.Recipes(ctx, query)
		require.NoError(t, err, query)
		assert.Len(t, got, want, query)
	}
	all, err := st.Recipes(ctx, "")
	require.NoError(t, err)
	assert.Equal(t, "Cheddar-and-chive scones", all[0].Title, "newest first")
}

func TestDeletingCanBeUndone(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	id := put(t, st, pear)
	require.NoError(t, st.Delete(ctx, id))
	_, err := st.Recipe(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, st.Delete(ctx, id), "pressed twice")
	assert.ErrorIs(t, st.Delete(ctx, 99), store.ErrNotFound)
	for range 2 {
		require.NoError(t, st.Restore(ctx, id))
		r, err := st.Recipe(ctx, id)
		require.NoError(t, err)
		assert.EqualValues(t, 4, r.Rev, "each was done once")
	}
	assert.ErrorIs(t, st.Restore(ctx, 99), store.ErrNotFound)
}

func TestDraftsAndPhrases(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	id, err := st.AddDraft(ctx, 0, "text", store.Typed{})
	require.NoError(t, err)
	a, err := st.Draft(ctx, id)
	require.NoError(t, err)
	b, err := st.Draft(ctx, id)
	require.NoError(t, err)
	a.Typed.Fixes = map[string]reader.Fix{"2 tbsp blorf": {Ingredient: "poppy-seeds"}}
	require.NoError(t, st.SaveDraft(ctx, a))
	assert.ErrorIs(t, st.SaveDraft(ctx, b), store.ErrChanged)
	back, err := st.Draft(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, a.Typed, back.Typed)
	require.NoError(t, st.DropDraft(ctx, id, true))
	_, err = st.Draft(ctx, id)
	assert.ErrorIs(t, err, store.ErrNotFound)

	require.NoError(t, st.RememberPhrase(ctx, "Corn  Flour", "maize-flour"))
	require.NoError(t, st.RememberPhrase(ctx, "corn flour", "cornflour"))
	require.NoError(t, st.RememberAmount(ctx, "tin coconut milk", 400))
	known, err := st.Remembered(ctx)
	require.NoError(t, err)
	assert.Equal(t, store.Remembered{Phrases: map[string]larder.ID{"corn flour": "cornflour"}, Amounts: map[string]float64{"tin coconut milk": 400}}, known)
	require.NoError(t, st.Forget(ctx, "tin coconut milk", true))
	require.ErrorIs(t, st.Forget(ctx, "tin coconut milk", true), store.ErrNotFound)
	require.ErrorIs(t, st.Forget(ctx, "tin of beans", false), store.ErrNotFound)
	known, err = st.Remembered(ctx)
	require.NoError(t, err)
	assert.Empty(t, known.Amounts)
	require.NoError(t, st.Forget(ctx, "tin coconut milk", false))
	require.NoError(t, st.Forget(ctx, "corn flour", true))
	known, err = st.Remembered(ctx)
	require.NoError(t, err)
	assert.Equal(t, store.Remembered{Phrases: map[string]larder.ID{}, Amounts: map[string]float64{"tin coconut milk": 400}}, known)
	require.NoError(t, st.RememberPhrase(ctx, "corn flour", "maize-flour"))
	known, err = st.Remembered(ctx)
	require.NoError(t, err)
	assert.Equal(t, larder.ID("maize-flour"), known.Phrases["corn flour"], "what is settled anew counts")
}

func TestHousehold(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	h, err := st.Household(ctx)
	require.NoError(t, err)
	assert.Equal(t, "spooned", h.Kitchen.Filling)
	require.NoError(t, st.SetLast(ctx, "diet=vegan"))
	require.NoError(t, st.ChangeHousehold(ctx, h.Rev, func(h *store.Household) { h.Kitchen.Cup = 250 }), "what was remembered is no other setting")
	assert.ErrorIs(t, st.ChangeHousehold(ctx, h.Rev, func(h *store.Household) { h.Kitchen.Cup = 240 }), store.ErrChanged)
	require.NoError(t, st.ChangeHousehold(ctx, store.AnyRev, func(h *store.Household) { h.Altitude = 1600 }))
	require.NoError(t, st.SetLast(ctx, "diet=egg-free"))
	back, err := st.Household(ctx)
	require.NoError(t, err)
	want := h
	want.Rev, want.Kitchen.Cup, want.Altitude, want.Last = 2, 250, 1600, "diet=egg-free"
	assert.Equal(t, want, back)
}

// Fields that are saved at the same time are all kept.
func TestNoSavingOfTheHouseholdIsLost(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	var wg sync.WaitGroup
	for n := range 30 {
		wg.Go(func() {
			assert.NoError(t, st.ChangeHousehold(ctx, store.AnyRev, func(h *store.Household) { h.Altitude += 100 }))
		})
		wg.Go(func() { assert.NoError(t, st.SetLast(ctx, fmt.Sprint("n=", n))) })
	}
	wg.Wait()
	h, err := st.Household(ctx)
	require.NoError(t, err)
	assert.Equal(t, 3000.0, h.Altitude)
}

func TestOvensAndTins(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	id, err := st.AddOven(ctx, store.Oven{Name: "old", Fan: true, Width: 44})
	require.NoError(t, err)
	tin, err := st.AddTin(ctx, store.OwnTin{Name: "dented", Text: "ring 24 cm"})
	require.NoError(t, err)
	require.NoError(t, st.ChangeOven(ctx, id, store.AnyRev, func(o *store.Oven) {
		o.Readings = append(o.Readings, store.Reading{Dial: 180, Air: 190, On: "2026-01-02"})
	}))
	ovens, err := st.Ovens(ctx)
	require.NoError(t, err)
	require.Equal(t, []store.Oven{{ID: id, Rev: 2, Name: "old", Fan: true, Width: 44, Readings: []store.Reading{{Dial: 180, Air: 190, On: "2026-01-02"}}}}, ovens)
	assert.Equal(t, 1, ovens[0].Learned().Readings)
	assert.ErrorIs(t, st.ChangeOven(ctx, id, 1, func(*store.Oven) {}), store.ErrChanged)
	assert.ErrorIs(t, st.ChangeOven(ctx, tin, store.AnyRev, func(*store.Oven) {}), store.ErrNotFound, "a tin is no oven")
	require.NoError(t, st.PutAway(ctx, id, true))
	require.NoError(t, st.PutAway(ctx, tin, true))
	ovens, err = st.Ovens(ctx)
	require.NoError(t, err)
	assert.Empty(t, ovens)
	require.NoError(t, st.PutAway(ctx, tin, false))
	tins, err := st.OwnTins(ctx)
	require.NoError(t, err)
	assert.Equal(t, []store.OwnTin{{ID: tin, Rev: 1, Name: "dented", Text: "ring 24 cm"}}, tins)
}

// A file that is refused stays as it was, to the byte.
func TestFilesThatAreNotOursAreLeftAlone(t *testing.T) {
	dir := t.TempDir()
	noise := filepath.Join(dir, "noise.db")
	require.NoError(t, os.WriteFile(noise, []byte("this is no database, but a letter to the reader"), 0o600))
	foreign := filepath.Join(dir, "foreign.db")
	_, err := raw(t, foreign).Exec("CREATE TABLE song (title TEXT)")
	require.NoError(t, err)
	stamped := filepath.Join(dir, "stamped.db")
	_, err = raw(t, stamped).Exec("PRAGMA application_id = 7")
	require.NoError(t, err)
	st, newer := open(t)
	put(t, st, pear)
	require.NoError(t, st.Close())
	db := raw(t, newer)
	_, err = db.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, 1); PRAGMA journal_mode = DELETE")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	short := filepath.Join(dir, "short.db")
	require.NoError(t, os.WriteFile(short, []byte("SQLite format 3\x00 and no more"), 0o600))
	for file, want := range map[string]string{noise: "cannot be read as a database", foreign: store.ErrForeign.Error(), stamped: store.ErrForeign.Error(), newer: store.ErrNewer.Error(), short: ""} {
		before, err := os.ReadFile(file)
		require.NoError(t, err)
		_, err = store.Open(t.Context(), file)
		require.Error(t, err, file)
		assert.ErrorContains(t, err, want)
		after, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, before, after, file)
		assert.NoFileExists(t, file+"-wal")
	}
}

// An older program wrote its id last: a first start of it that was broken off left some
// tables without one, with what was written last still beside the file.
func TestABrokenOffFirstStartIsGoneOnWith(t *testing.T) {
	for name, undo := range map[string]string{
		"before any table": "",
		"after the first":  "CREATE TABLE goose_db_version (id INTEGER PRIMARY KEY AUTOINCREMENT, version_id INTEGER NOT NULL, is_applied INTEGER NOT NULL, tstamp TIMESTAMP DEFAULT (datetime('now'))); INSERT INTO goose_db_version (version_id, is_applied) VALUES (0, 1)",
	} {
		file := filepath.Join(t.TempDir(), "k.db")
		db := raw(t, file)
		_, err := db.Exec("PRAGMA journal_mode = WAL; " + undo)
		require.NoError(t, err)
		st, err := store.Open(t.Context(), file)
		require.NoError(t, err, name)
		put(t, st, pear)
		require.NoError(t, st.Close())
		require.NoError(t, db.Close())
	}
	st, file := open(t)
	put(t, st, pear)
	require.NoError(t, st.Close())
	_, err := raw(t, file).Exec("PRAGMA application_id = 0")
	require.NoError(t, err)
	st, err = store.Open(t.Context(), file)
	require.NoError(t, err, "all tables, and no id yet")
	all, err := st.Recipes(t.Context(), "")
	require.NoError(t, err)
	assert.Len(t, all, 1)
	require.NoError(t, st.Close())
}

// inspect tells a newer file by how many migrations there are.
func TestMigrationsAreNumberedFromOneOn(t *testing.T) {
	names, err := filepath.Glob("migrations/*.sql")
	require.NoError(t, err)
	for n, name := range names {
		assert.True(t, strings.HasPrefix(filepath.Base(name), fmt.Sprintf("%05d_", n+1)), name)
	}
}

func TestOwnRecordsThatCannotBeReadAreNamed(t *testing.T) {
	st, file := open(t)
	ctx := t.Context()
	require.NoError(t, st.SetOwn(ctx, larder.Own{ID: "egg", Names: []string{"hen fruit"}}, larder.Own{ID: "own-drink", Name: "Drink", Like: "oat-drink"}))
	_, err := raw(t, file).Exec(`UPDATE own_ingredient SET doc = '{"id": 5}' WHERE id = 'egg'; INSERT INTO own_ingredient (id, doc, updated_at) VALUES ('milk', '{"id":"butter"}', '')`)
	require.NoError(t, err)
	own, lost, err := st.Own(ctx)
	require.NoError(t, err)
	require.Len(t, own, 1)
	require.Len(t, lost, 2)
	assert.Equal(t, []string{"egg", `{"id": 5}`, "milk"}, []string{lost[0].ID, lost[0].Doc, lost[1].ID})
}

func TestADocumentOfANewerSchemaIsRefused(t *testing.T) {
	st, file := open(t)
	id := put(t, st, pear)
	_, err := raw(t, file).Exec("DROP TRIGGER version_is_kept; UPDATE version SET schema = ?", recipe.Schema+1)
	require.NoError(t, err)
	_, err = st.Recipe(context.Background(), id)
	assert.ErrorIs(t, err, store.ErrNewer)
}

// testdata/schema-1.json is a document as it was kept before parts had roles.
func TestADocumentOfAnEarlierSchemaIsRead(t *testing.T) {
	st, file := open(t)
	id := put(t, st, pear)
	doc, err := os.ReadFile("testdata/schema-1.json")
	require.NoError(t, err)
	_, err = raw(t, file).Exec("DROP TRIGGER version_is_kept; UPDATE version SET schema = 1, doc = ?", string(doc))
	require.NoError(t, err)
	r, err := st.Recipe(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, recipe.Schema, r.Doc.Schema)
	assert.Equal(t, []recipe.Part{{Name: ""}, {Name: "icing", Role: recipe.Icing}}, r.Doc.Parts)
	var batter []string
	for _, l := range r.Doc.Batter() {
		batter = append(batter, l.Name)
	}
	assert.Equal(t, []string{"plain flour", "caster sugar", "unsalted butter"}, batter)
	assert.Equal(t, recipe.Brush, r.Doc.Lines[3].Use)
	result, err := json.Marshal(adapt.Result{Recipe: &recipe.Recipe{Schema: 1, Lines: r.Doc.Lines[4:]}})
	require.NoError(t, err)
	bakeID, err := st.AddBake(t.Context(), store.Bake{Name: "B", Begun: time.Now(), Of: []store.BakeOf{{Title: "Loaf", Result: &adapt.Result{Recipe: &recipe.Recipe{Title: "Loaf"}}}}})
	require.NoError(t, err)
	_, err = raw(t, file).Exec("UPDATE bake SET doc = json_set(doc, '$.of[0].result', json(?))", string(result))
	require.NoError(t, err)
	b, err := st.Bake(t.Context(), bakeID)
	require.NoError(t, err)
	assert.Equal(t, recipe.Schema, b.Of[0].Result.Recipe.Schema)
	assert.Len(t, b.Of[0].Result.Recipe.Parts, 1)
}

func TestWhatHappensAtTheCounterStays(t *testing.T) {
	st, file := open(t)
	ctx := t.Context()
	begun := time.Date(2026, 11, 28, 8, 0, 0, 0, time.UTC)
	id, err := st.AddBake(ctx, store.Bake{Name: "Breakfast", Begun: begun, Of: []store.BakeOf{{Title: "Loaf", Code: "v3", Preheat: 18, Result: &adapt.Result{Recipe: &recipe.Recipe{Title: "Loaf"}}}}, Plan: 4})
	require.NoError(t, err)
	e := func(id string, what bake.What, key string) bake.Event {
		return bake.Event{ID: id, At: begun.Add(time.Minute), What: what, Key: key, Value: 3}
	}
	n, err := st.AddEvents(ctx, id, []bake.Event{e("a", bake.Hot, ""), e("b", bake.Lined, "")})
	require.NoError(t, err)
	assert.Equal(t, 2, n)
	n, err = st.AddEvents(ctx, id, []bake.Event{e("a", bake.Hot, ""), e("c", bake.Finish, "")})
	require.NoError(t, err)
	assert.Equal(t, 1, n, "told twice, it happened once")
	got, last, err := st.Events(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, []bake.Event{e("a", bake.Hot, ""), e("b", bake.Lined, ""), e("c", bake.Finish, "")}, got)
	newest, err := st.LastEvent(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, last, newest)
	b, err := st.Bake(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, begun.Add(time.Minute), b.Over)
	assert.Equal(t, "Breakfast", b.Name)
	assert.Equal(t, 18, b.Of[0].Preheat)
	_, err = st.AddEvents(ctx, id, []bake.Event{e("d", bake.Undo, "c")})
	require.NoError(t, err)
	b, err = st.Bake(ctx, id)
	require.NoError(t, err)
	assert.True(t, b.Over.IsZero(), "it goes on after all")
	db := raw(t, file)
	for _, q := range []string{"DELETE FROM bake_event", "UPDATE bake_event SET doc = '{}'"} {
		_, err := db.Exec(q)
		assert.Error(t, err, q)
	}
	require.NoError(t, st.DropBake(ctx, id, true))
	_, err = st.Bake(ctx, id)
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = st.AddEvents(ctx, id, []bake.Event{e("z", bake.Hot, "")})
	require.ErrorIs(t, err, store.ErrNotFound)
	require.NoError(t, st.DropBake(ctx, id, false))
	all, err := st.Bakes(ctx)
	require.NoError(t, err)
	require.Len(t, all, 1)
	none, err := st.LastEvent(ctx, 99)
	require.NoError(t, err)
	assert.Zero(t, none)
}

func TestTheLogOfARecipe(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	day := func(n int) time.Time { return time.Date(2026, 11, n, 9, 0, 0, 0, time.UTC) }
	var ids []int64
	for n := range 3 {
		id, err := st.AddBake(ctx, store.Bake{Name: "x", Begun: day(n + 1)})
		require.NoError(t, err)
		ids = append(ids, id)
	}
	line := func(n, strip int, recipe int64, words string) store.Logged {
		return store.Logged{Bake: ids[n], Strip: strip, Recipe: recipe, Title: "Loaf", At: day(n + 1), Overall: 3, Words: words, Tried: "wet", Helped: map[string]bool{"cut-warm": true}}
	}
	require.NoError(t, st.SetLogged(ctx, ids[0], []store.Logged{line(0, 0, 7, "too wet")}))
	require.NoError(t, st.SetLogged(ctx, ids[1], []store.Logged{line(1, 0, 7, ""), line(1, 1, 8, "")}))
	require.NoError(t, st.SetLogged(ctx, ids[1], []store.Logged{line(1, 0, 7, "pale")}))
	require.NoError(t, st.SetLogged(ctx, ids[2], []store.Logged{line(2, 0, 7, "gone")}))
	require.NoError(t, st.DropBake(ctx, ids[2], true))
	got, err := st.Log(ctx, 7)
	require.NoError(t, err)
	assert.Equal(t, []store.Logged{line(1, 0, 7, "pale"), line(0, 0, 7, "too wet")}, got)
	got, err = st.Log(ctx, 8)
	require.NoError(t, err)
	assert.Empty(t, got, "its line was taken back")
	got, err = st.Log(ctx, 0)
	require.NoError(t, err)
	assert.Len(t, got, 2)
}

// A draft that is kept many times at once is one recipe, and afterwards it still says which.
func TestADraftIsKeptOnce(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	id, err := st.AddDraft(ctx, 0, "text", store.Typed{})
	require.NoError(t, err)
	d, err := st.Draft(ctx, id)
	require.NoError(t, err)
	all, err := st.Drafts(ctx)
	require.NoError(t, err)
	assert.Len(t, all, 1)
	kept := make([]int64, 20)
	var wait sync.WaitGroup
	for n := range kept {
		wait.Go(func() {
			var err error
			kept[n], err = st.KeepDraft(ctx, d, &recipe.Recipe{Title: "Loaf"})
			assert.NoError(t, err)
		})
	}
	wait.Wait()
	d, err = st.Draft(ctx, id)
	require.NoError(t, err)
	for _, k := range kept {
		assert.Equal(t, d.Kept, k)
	}
	recipes, err := st.Recipes(ctx, "")
	require.NoError(t, err)
	assert.Len(t, recipes, 1)
	all, err = st.Drafts(ctx)
	require.NoError(t, err)
	assert.Empty(t, all, "it is none any more")

	var two [2]*store.Draft
	for n := range two {
		id, err := st.AddDraft(ctx, d.Kept, "text", store.Typed{})
		require.NoError(t, err)
		two[n], err = st.Draft(ctx, id)
		require.NoError(t, err)
	}
	_, err = st.KeepDraft(ctx, two[0], &recipe.Recipe{Title: "Loaf, once corrected"})
	require.NoError(t, err)
	_, err = st.KeepDraft(ctx, two[1], &recipe.Recipe{Title: "Loaf, corrected otherwise"})
	require.ErrorIs(t, err, store.ErrChanged)
	require.NoError(t, st.Rebase(ctx, two[1]))
	_, err = st.KeepDraft(ctx, two[1], &recipe.Recipe{Title: "Loaf, corrected otherwise"})
	require.NoError(t, err)
	r, err := st.Recipe(ctx, d.Kept)
	require.NoError(t, err)
	assert.Equal(t, "Loaf, corrected otherwise", r.Title)
}

// Before an older file is brought up to date it is copied, whole; a file of today is not.
func TestAnOlderFileIsCopiedFirst(t *testing.T) {
	st, file := open(t)
	ctx := t.Context()
	id := put(t, st, "1-pear-cardamom-loaf.txt")
	require.NoError(t, st.Close())
	copies := func() []string {
		all, err := filepath.Glob(filepath.Dir(file) + "/*.before-*")
		require.NoError(t, err)
		return all
	}
	assert.Empty(t, copies())
	db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: file}).EscapedPath())
	require.NoError(t, err)
	for _, q := range []string{ // as the file was before the last step
		"ALTER TABLE phrase DROP COLUMN deleted_at", "ALTER TABLE remembered_amount DROP COLUMN deleted_at", "ALTER TABLE draft DROP COLUMN seen", "ALTER TABLE draft DROP COLUMN brought", "DROP TABLE brought", "DROP INDEX recipe_shelf", "DROP INDEX recipe_kind", "DROP INDEX recipe_away", "DROP TABLE session", "DROP TABLE access", "DROP TABLE version_fts", "DROP TABLE version_mark", "ALTER TABLE own_ingredient DROP COLUMN deleted_at", "ALTER TABLE draft DROP COLUMN deleted_at",
		"ALTER TABLE draft DROP COLUMN kept", "ALTER TABLE draft DROP COLUMN base", "DELETE FROM goose_db_version WHERE version_id >= 14",
	} {
		_, err := db.ExecContext(ctx, q)
		require.NoError(t, err, q)
	}
	require.NoError(t, db.Close())
	for range 2 {
		st, err = store.Open(ctx, file)
		require.NoError(t, err)
		_, err = st.Recipe(ctx, id)
		require.NoError(t, err)
		require.NoError(t, st.Close())
		require.Len(t, copies(), 1)
	}
	old, err := sql.Open("sqlite", "file:"+(&url.URL{Path: copies()[0]}).EscapedPath())
	require.NoError(t, err)
	defer old.Close()
	n := 0
	require.NoError(t, old.QueryRowContext(ctx, "SELECT count(*) FROM recipe").Scan(&n))
	assert.Equal(t, 1, n)
}

// The shelf holds more than five hundred, and no letter breaks its search.
func TestAShelfOfMany(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	for n := range 520 {
		_, err := st.AddRecipe(ctx, &recipe.Recipe{Title: fmt.Sprintf("Loaf %d", n)}, "text", store.Typed{})
		require.NoError(t, err)
	}
	all, err := st.Recipes(ctx, "")
	require.NoError(t, err)
	assert.Len(t, all, 520)
	for _, q := range []string{"\x00", "loaf\x00 51", `"`, "*", "-"} {
		_, err := st.Recipes(ctx, q)
		assert.NoError(t, err, "%q", q)
	}
}

// The pages of a search are counted as they are listed: of a kind or not, by a recipe's words or a kept version's, nothing that was put away.
func TestAPageOfTheShelf(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	first := put(t, st, pear)
	away := put(t, st, pear)
	put(t, st, scones)
	require.NoError(t, st.Delete(ctx, away))
	r, err := st.Recipe(ctx, first)
	require.NoError(t, err)
	res, err := adapt.Adapt(r.Doc, adapt.Request{Diets: []diet.ID{diet.EggFree}}, adapt.DefaultKit())
	require.NoError(t, err)
	_, err = st.KeepAdapted(ctx, first, r.Head, "Saturday pears", res)
	require.NoError(t, err)
	for _, c := range []struct {
		query, kind string
		want        []string
	}{
		{"", "", []string{"Pear and cardamom loaf", "Cheddar-and-chive scones"}},
		{"flour", "", []string{"Pear and cardamom loaf", "Cheddar-and-chive scones"}},
		{"flour", string(recipe.Scone), []string{"Cheddar-and-chive scones"}},
		{"", string(r.Doc.Kind), []string{"Pear and cardamom loaf"}},
		{"saturday", "", []string{"Pear and cardamom loaf"}},
		{"saturday", string(recipe.Scone), nil},
		{"kumquat", "", nil},
	} {
		n, err := st.CountHeads(ctx, c.query, c.kind)
		require.NoError(t, err)
		assert.Equal(t, len(c.want), n, "%q of %q", c.query, c.kind)
		for from := range c.want {
			page, err := st.Heads(ctx, c.query, c.kind, from, 1)
			require.NoError(t, err)
			require.Len(t, page, 1)
			assert.Equal(t, c.want[from], page[0].Title, "%q of %q", c.query, c.kind)
		}
	}
}

// One recipe that cannot be read takes nothing else with it, and gives its text away.
func TestARecipeThatCannotBeRead(t *testing.T) {
	st, file := open(t)
	ctx := t.Context()
	id := put(t, st, "1-pear-cardamom-loaf.txt")
	put(t, st, "3-cheddar-chive-scones.txt")
	db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: file}).EscapedPath())
	require.NoError(t, err)
	defer db.Close()
	_, err = db.ExecContext(ctx, "INSERT INTO version (recipe, n, title, schema, doc, source_text, engine, catalogue, created_at) SELECT recipe, 99, title, 99, doc, source_text, engine, catalogue, created_at FROM version WHERE recipe = ?", id)
	require.NoError(t, err)
	_, err = db.ExecContext(ctx, "UPDATE recipe SET head = (SELECT max(id) FROM version) WHERE id = ?", id)
	require.NoError(t, err)
	all, lost, err := st.Shelf(ctx, "")
	require.NoError(t, err)
	assert.Len(t, all, 1)
	require.Len(t, lost, 1)
	assert.Contains(t, lost[0].Doc, "Pear and cardamom loaf")
	assert.Contains(t, lost[0].Why, "newer version")
	all, err = st.Recipes(ctx, "")
	require.NoError(t, err)
	assert.Len(t, all, 1)
}

// What is in the house moves once with what moved it, however often that is told at once, and never below nothing.
func TestStockMovesOnce(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	stock := func() (out []float64) {
		own, lost, err := st.Own(ctx)
		require.NoError(t, err)
		require.Empty(t, lost)
		for _, o := range own {
			out = append(out, o.Pack.Stock)
		}
		return out
	}
	require.NoError(t, st.SetOwn(ctx, larder.Own{ID: "egg", Names: []string{"hen fruit"}, Pack: &larder.Pack{Stock: 300}}, larder.Own{ID: "sugar", Pack: &larder.Pack{Stock: 80}}))
	plan, err := st.AddPlan(ctx, store.Plan{Name: "Saturday"})
	require.NoError(t, err)
	begun, err := st.AddBake(ctx, store.Bake{Name: "Loaf"}, bake.Event{ID: "one", What: bake.Hot})
	require.NoError(t, err)
	events, _, err := st.Events(ctx, begun)
	require.NoError(t, err)
	assert.Len(t, events, 1)
	takes := map[string]float64{"egg": 100, "sugar": 120}
	for what, use := range map[string]func(over bool) error{
		"plan": func(over bool) error { return st.UseByPlan(ctx, plan, over, takes) },
		"bake": func(over bool) error { return st.UseByBake(ctx, begun, over, takes) },
	} {
		for _, over := range []bool{true, false} {
			var all sync.WaitGroup
			for range 10 {
				all.Go(func() { assert.NoError(t, use(over)) })
			}
			all.Wait()
			want := []float64{200, 0}
			if !over {
				want = []float64{300, 80}
			}
			assert.Equal(t, want, stock(), "%s, over: %v", what, over)
		}
	}
	refused := errors.New("no")
	moves := func(err error) error {
		return st.StockFromList(ctx, plan, func(p *store.Plan) (map[string]float64, error) {
			p.Name = "Sunday"
			return map[string]float64{"egg": -500, "plain-flour": 1000}, err
		}, func(p *store.Plan, moved map[string]float64) { p.Stocked = moved })
	}
	require.ErrorIs(t, moves(refused), refused)
	assert.Equal(t, []float64{300, 80}, stock())
	require.NoError(t, moves(nil))
	assert.Equal(t, []float64{0, 1000, 80}, stock(), "by id; flour that was not there is")
	p, err := st.Plan(ctx, plan)
	require.NoError(t, err)
	assert.Equal(t, "Sunday", p.Name)
	assert.Equal(t, map[string]float64{"egg": -300, "plain-flour": 1000}, p.Stocked, "what really moved")
	own, _, err := st.Own(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"hen fruit"}, own[0].Names, "what else is said of it stays")
	assert.ErrorIs(t, st.UseByBake(ctx, 99, true, takes), store.ErrNotFound)
}

// Recipes are found by what their lines hold, in the order of the shelf, and no more than are asked for.
func TestRecipesThatHold(t *testing.T) {
	st, _ := open(t)
	ctx := t.Context()
	add := func(title string, lines ...recipe.Line) int64 {
		id, err := st.AddRecipe(ctx, &recipe.Recipe{Title: title, Lines: lines}, "", store.Typed{})
		require.NoError(t, err)
		return id
	}
	rye := recipe.Line{ID: 1, Ingredient: "rye-flour", Grams: 200}
	one := add("Rolls", rye, recipe.Line{ID: 2, Ingredient: "rye-flour", Grams: 50})
	add("Scones", recipe.Line{ID: 1, Ingredient: "plain-flour", Grams: 250})
	two := add("Loaf", recipe.Line{ID: 1, Ingredient: "water", Grams: 100}, rye)
	require.NoError(t, st.Delete(ctx, add("Put away", rye)))
	got, err := st.Holds(ctx, "rye-flour", 5)
	require.NoError(t, err)
	assert.Equal(t, []store.Holding{{ID: two, Title: "Loaf", Grams: 200}, {ID: one, Title: "Rolls", Grams: 200}}, got)
	got, err = st.Holds(ctx, "rye-flour", 1)
	require.NoError(t, err)
	assert.Len(t, got, 1)
	got, err = st.Holds(ctx, "kumquat", 5)
	require.NoError(t, err)
	assert.Empty(t, got)
}
