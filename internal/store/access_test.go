package store

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPassphrase(t *testing.T) {
	s, _ := shelved(t, 0)
	ctx := t.Context()
	is := func(phrase string) bool {
		ok, err := s.CheckPassphrase(ctx, phrase)
		require.NoError(t, err)
		return ok
	}
	assert.False(t, is(""), "where none is set nothing is right")
	for _, weak := range []string{"", "short", "eleven char", strings.Repeat("o", 30), strings.Repeat("long ", 41), "\xff\xfe\xfd\xfc\xfb\xfa\xf9\xf8\xf7\xf6\xf5\xf4"} {
		require.ErrorIs(t, s.SetPassphrase(ctx, weak), ErrWeak, weak)
	}
	require.NoError(t, s.SetPassphrase(ctx, "ergs and pe\u0301rs")) // typed on another keyboard
	assert.True(t, is("ergs and pérs"))
	assert.False(t, is("ergs and pers"))
	assert.False(t, is(""))
	phc, _, err := s.access(ctx)
	require.NoError(t, err)
	assert.Regexp(t, `^\$argon2id\$v=19\$m=19456,t=2,p=1\$[A-Za-z0-9+/]{22}\$[A-Za-z0-9+/]{43}$`, phc)

	token, err := s.BeginSession(ctx, "10.0.0.7", false)
	require.NoError(t, err)
	require.NoError(t, s.SetPassphrase(ctx, "another four words"))
	_, err = s.Session(ctx, token)
	require.ErrorIs(t, err, ErrNotFound, "a new one logs all out")
	other, _, err := s.access(ctx)
	require.NoError(t, err)
	assert.NotEqual(t, phc, other)
	require.NoError(t, s.ClearPassphrase(ctx))
	has, err := s.HasPassphrase(ctx)
	require.NoError(t, err)
	assert.False(t, has)
}

func TestSessions(t *testing.T) {
	s, _ := shelved(t, 0)
	ctx := t.Context()
	_, err := s.InviteGuests(ctx)
	require.ErrorIs(t, err, ErrNotFound, "no guests without a house")
	require.NoError(t, s.SetPassphrase(ctx, "four words or so"))
	a, err := s.BeginSession(ctx, "10.0.0.7", false)
	require.NoError(t, err)
	g, err := s.InviteGuests(ctx)
	require.NoError(t, err)
	ok, err := s.IsGuest(ctx, g)
	require.NoError(t, err)
	assert.True(t, ok)
	b, err := s.BeginSession(ctx, "10.0.0.8", true)
	require.NoError(t, err)
	x, err := s.Session(ctx, b)
	require.NoError(t, err)
	assert.True(t, x.Guest)
	assert.Equal(t, "10.0.0.8", x.From)
	var holds int
	require.NoError(t, s.db.QueryRow("SELECT count(*) FROM session WHERE CAST(token AS TEXT) IN (?, ?)", a, b).Scan(&holds))
	assert.Zero(t, holds, "what a cookie holds is kept nowhere")

	require.NoError(t, s.EndGuests(ctx))
	_, err = s.Session(ctx, b)
	require.ErrorIs(t, err, ErrNotFound)
	ok, err = s.IsGuest(ctx, g)
	require.NoError(t, err)
	assert.False(t, ok)

	back := func(by time.Duration) {
		_, err := s.db.Exec("UPDATE session SET seen_at = ?", time.Now().Add(-by).UTC().Format(time.RFC3339Nano))
		require.NoError(t, err)
	}
	back(sessionIdle - time.Minute)
	_, err = s.Session(ctx, a)
	require.NoError(t, err)
	x, err = s.Session(ctx, a)
	require.NoError(t, err)
	assert.WithinDuration(t, time.Now(), x.Seen, time.Minute, "seen now")
	back(sessionIdle + time.Minute)
	_, err = s.Session(ctx, a)
	require.ErrorIs(t, err, ErrNotFound)
	all, err := s.Sessions(ctx)
	require.NoError(t, err)
	assert.Empty(t, all, "and it is gone")
}

// A copy brings back neither a passphrase that was changed since nor those who were logged out.
func TestNoCopyOpensTheDoor(t *testing.T) {
	s, _ := shelved(t, 0)
	ctx := t.Context()
	require.NoError(t, s.SetPassphrase(ctx, "the old four words"))
	old, err := s.BeginSession(ctx, "10.0.0.7", false)
	require.NoError(t, err)
	name, _, err := s.TakeCopy(ctx)
	require.NoError(t, err)
	require.NoError(t, s.SetPassphrase(ctx, "the new four words"))
	file, err := s.CopyFile(name)
	require.NoError(t, err)
	_, _, err = s.BringBack(ctx, file)
	require.NoError(t, err)
	ok, err := s.CheckPassphrase(ctx, "the new four words")
	require.NoError(t, err)
	assert.True(t, ok)
	_, err = s.Session(ctx, old)
	require.ErrorIs(t, err, ErrNotFound)
}
