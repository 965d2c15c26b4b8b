package journal_test

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/internal/demo"
	"kollaris/internal/demo/demotest"
	"kollaris/internal/journal"
	"kollaris/internal/store"
)

// house is a household with the demo's season.
func house(t *testing.T, season bool) *store.Store {
	st, _ := demotest.Open(t)
	if season {
		require.NoError(t, demo.Season(t.Context(), st))
	}
	return st
}

// The log that is taken out comes back in another house as it was: bakes, what was learned, pictures; a second time
// nothing comes.
func TestTheLogComesBack(t *testing.T) {
	t.Parallel()
	from, to := house(t, true), house(t, false)
	var file bytes.Buffer
	require.NoError(t, journal.Zip(t.Context(), from, &file))
	came, there, err := journal.Bring(t.Context(), to, larder.Builtin(), bytes.NewReader(file.Bytes()), int64(file.Len()))
	require.NoError(t, err)
	assert.Equal(t, [2]int{11, 0}, [2]int{came, there})
	log := func(st *store.Store) (out []store.Logged) {
		out, err := st.Log(t.Context(), 0)
		require.NoError(t, err)
		for n := range out {
			out[n].Bake = 0
		}
		return out
	}
	assert.Equal(t, log(from), log(to))
	was, err := journal.Learned(t.Context(), from)
	require.NoError(t, err)
	is, err := journal.Learned(t.Context(), to)
	require.NoError(t, err)
	require.Equal(t, len(was.Figures), len(is.Figures))
	for n, f := range was.Figures {
		assert.Equal(t, f.Normal, is.Figures[n].Normal, "%s %s", f.Kind, f.Key)
	}
	a, err := from.Ovens(t.Context())
	require.NoError(t, err)
	b, err := to.Ovens(t.Context())
	require.NoError(t, err)
	for n := range a {
		assert.InDelta(t, a[n].Learned().Log, b[n].Learned().Log, 1e-9)
	}
	photos, err := to.Photos(t.Context(), 0)
	require.NoError(t, err)
	assert.Len(t, photos, 4)
	assert.Equal(t, "the cut face, drawn", photos[0].Words)
	came, there, err = journal.Bring(t.Context(), to, larder.Builtin(), bytes.NewReader(file.Bytes()), int64(file.Len()))
	require.NoError(t, err)
	assert.Equal(t, [2]int{0, 11}, [2]int{came, there})
	assert.Len(t, log(to), 11)
}

func TestTheLogToRead(t *testing.T) {
	t.Parallel()
	st := house(t, true)
	var table, text bytes.Buffer
	require.NoError(t, journal.CSV(t.Context(), st, &table))
	rows, err := csv.NewReader(&table).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 12)
	assert.Equal(t, journal.Columns, rows[0])
	first := map[string]string{}
	for n, name := range rows[0] {
		first[name] = rows[1][n]
	}
	for name, want := range map[string]string{"title": "Pear and cardamom loaf", "who": "bow", "oven": "old gas oven", "overall": "so-so", "seen": "dark gummy wet-line", "height_cm": "6.1", "words": "clay in the middle, brown outside"} {
		assert.Equal(t, want, first[name], name)
	}
	require.NoError(t, journal.Markdown(t.Context(), st, &text))
	assert.Contains(t, text.String(), "\n## Pear and cardamom loaf, ")
	assert.Contains(t, text.String(), "- 6.1 cm high\n")
	assert.Contains(t, text.String(), "![the cut face, drawn](pictures/1.jpg)")
}

// What is no log leaves nothing behind.
func TestWhatIsNoLog(t *testing.T) {
	st := house(t, false)
	packed := func(json string) []byte {
		var b bytes.Buffer
		z := zip.NewWriter(&b)
		f, err := z.Create("log.json")
		require.NoError(t, err)
		_, err = f.Write([]byte(json))
		require.NoError(t, err)
		require.NoError(t, z.Close())
		return b.Bytes()
	}
	for _, file := range [][]byte{
		nil, []byte("PK\x03\x04"), packed("{"), packed(`{"bakes": []}`), packed(`{"kollaris_log": 1, "bakes": [{"name": "x"}]}`),
		packed(`{"kollaris_log": 1, "bakes": [{"name": "x", "begun": "2026-11-07T09:00:00Z", "recipes": [""], "of": [{"title": "x", "result": {}}], "events": [{"id": "a", "what": "finish"}]}]}`),
		packed(`{"kollaris_log": 1, "bakes": [` + strings.Repeat(`{},`, 6000) + `{}]}`),
	} {
		came, _, err := journal.Bring(t.Context(), st, larder.Builtin(), bytes.NewReader(file), int64(len(file)))
		assert.ErrorIs(t, err, journal.ErrCarried)
		assert.Zero(t, came)
	}
	log, err := st.Log(t.Context(), 0)
	require.NoError(t, err)
	assert.Empty(t, log)
}

// A bake that is over and has no line, since the program was killed between the two, gets it; others stay as they are.
func TestWhatWasCutOffIsWrittenAnew(t *testing.T) {
	t.Parallel()
	st := house(t, true)
	ctx := t.Context()
	was, err := st.Log(ctx, 0)
	require.NoError(t, err)
	ovens, err := st.Ovens(ctx)
	require.NoError(t, err)
	for _, l := range was[:2] {
		require.NoError(t, st.SetLogged(ctx, l.Bake, nil))
	}
	running, err := st.AddBake(ctx, store.Bake{Name: "Rolls"})
	require.NoError(t, err)
	ids, err := st.Unlogged(ctx)
	require.NoError(t, err)
	assert.ElementsMatch(t, []int64{was[0].Bake, was[1].Bake}, ids)
	assert.NotContains(t, ids, running)
	for range 2 {
		require.NoError(t, journal.Mend(ctx, st, larder.Builtin()))
		is, err := st.Log(ctx, 0)
		require.NoError(t, err)
		assert.Equal(t, was, is)
	}
	now, err := st.Ovens(ctx)
	require.NoError(t, err)
	for n := range ovens {
		assert.Equal(t, ovens[n].Learned(), now[n].Learned(), "an oven learns of a bake once")
	}
	ids, err = st.Unlogged(ctx)
	require.NoError(t, err)
	assert.Empty(t, ids)
}
