package web

import (
	"context"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/store"
)

// What breaks in a job is an error of that job, and its turn is given up.
func TestAJobThatBreaks(t *testing.T) {
	st, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "k.db"))
	require.NoError(t, err)
	t.Cleanup(func() { st.Close() })
	app, err := New(st)
	require.NoError(t, err)
	s := app.server
	for range 5 { // more than there are turns
		j := s.jobs.begin(1, reading, 2)
		assert.False(t, s.turns(j, 2, func(int) error { panic("a text that nobody foresaw") }))
		left, _ := s.jobs.left(1)
		assert.Zero(t, left)
	}
	in, err := s.gates.heavy.enter(context.Background(), false)
	require.NoError(t, err)
	assert.True(t, in)
}
