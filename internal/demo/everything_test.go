package demo_test

import (
	"archive/zip"
	"bytes"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
	"kollaris/internal/demo/demotest"
	"kollaris/internal/store"
)

// Everything of the boathouse goes out and comes back into an empty program, twice, byte for byte: recipes and their versions,
// people, ovens, plans, the log with its pictures, what was learned and what was put away.
func TestEverythingComesBackByteForByte(t *testing.T) {
	ctx := t.Context()
	st, _ := demotest.Open(t)
	require.NoError(t, demo.Season(ctx, st))
	recipes, err := st.Recipes(ctx, "")
	require.NoError(t, err)
	require.NoError(t, st.Delete(ctx, recipes[0].ID))
	require.NoError(t, st.PutAway(ctx, 1, true))
	_, err = st.AddDraft(ctx, recipes[1].ID, "half a thought", store.Typed{})
	require.NoError(t, err)
	out := func(st *store.Store) []byte {
		var b bytes.Buffer
		require.NoError(t, st.Everything(ctx, &b, nil))
		return b.Bytes()
	}
	first := out(st)
	again := first
	for range 2 {
		empty, err := store.Open(ctx, filepath.Join(t.TempDir(), "empty.db"))
		require.NoError(t, err)
		t.Cleanup(func() { empty.Close() })
		n, err := empty.BringEverything(ctx, bytes.NewReader(again), int64(len(again)))
		require.NoError(t, err)
		assert.Equal(t, len(recipes)-1, n)
		found, err := empty.Recipes(ctx, "egg-free")
		require.NoError(t, err)
		assert.NotEmpty(t, found, "the search finds versions again")
		again = out(empty)
		require.True(t, bytes.Equal(first, again), "byte for byte")
		_, err = empty.BringEverything(ctx, bytes.NewReader(again), int64(len(again)))
		assert.ErrorIs(t, err, store.ErrNotEmpty)
	}

	broken := func(change func(name string, data []byte) []byte) error {
		z, err := zip.NewReader(bytes.NewReader(first), int64(len(first)))
		require.NoError(t, err)
		var b bytes.Buffer
		w := zip.NewWriter(&b)
		for _, f := range z.File {
			r, err := f.Open()
			require.NoError(t, err)
			var data bytes.Buffer
			_, err = data.ReadFrom(r)
			require.NoError(t, err)
			if d := change(f.Name, data.Bytes()); d != nil {
				to, err := w.Create(f.Name)
				require.NoError(t, err)
				_, err = to.Write(d)
				require.NoError(t, err)
			}
		}
		require.NoError(t, w.Close())
		empty, err := store.Open(ctx, filepath.Join(t.TempDir(), "empty.db"))
		require.NoError(t, err)
		defer empty.Close()
		_, err = empty.BringEverything(ctx, bytes.NewReader(b.Bytes()), int64(b.Len()))
		left, wrong := empty.Recipes(ctx, "")
		require.NoError(t, wrong)
		assert.Empty(t, left, "all or nothing")
		return err
	}
	only := func(name string, to []byte) func(string, []byte) []byte {
		return func(n string, d []byte) []byte {
			if n == name {
				return to
			}
			return d
		}
	}
	assert.ErrorIs(t, broken(only("kollaris.json", nil)), store.ErrNotEverything)
	assert.ErrorIs(t, broken(only("kollaris.json", []byte(`{"kollaris":"everything","version":1,"schema":9999}`))), store.ErrNewer)
	assert.ErrorIs(t, broken(only("data/version.json", []byte("[]"))), store.ErrNotWhole, "recipes without their text")
	assert.ErrorIs(t, broken(only("data/person.json", []byte(`[{"id":1,"name":"cox","doc":{},"owns":"a boat"}]`))), store.ErrNotWhole)
	assert.ErrorIs(t, broken(only("data/photo.json", []byte("[{"))), store.ErrNotWhole)
}
