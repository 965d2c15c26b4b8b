package web

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"testing"
	"testing/synctest"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/store"
)

// As many as fit go in, the next wait in their order, those past the bound are turned away unless they write something
// down, and who has gone waits no more.
func TestAGate(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		g := newGate(1, 2)
		var order []int
		enter := func(n int, ctx context.Context, patient bool) (bool, error) {
			in, err := g.enter(ctx, patient)
			if in {
				order = append(order, n)
			}
			return in, err
		}
		ctx := t.Context()
		in, _ := enter(1, ctx, false)
		assert.True(t, in)
		gone, leave := context.WithCancel(ctx)
		errs := make(chan error, 1)
		go func() { _, err := enter(2, gone, false); errs <- err }()
		synctest.Wait()
		go enter(3, ctx, false) //nolint:errcheck // order tells
		synctest.Wait()
		in, err := enter(4, ctx, false)
		require.NoError(t, err)
		assert.False(t, in)
		go enter(5, ctx, true) //nolint:errcheck // order tells
		synctest.Wait()
		leave()
		require.ErrorIs(t, <-errs, context.Canceled)
		for range 3 {
			g.leave()
			synctest.Wait()
		}
		assert.Equal(t, []int{1, 3, 5}, order)
		assert.Zero(t, g.waiting.Load())
	})
}

// While the heavy gate is full light pages pass; a panic is a page as ever; nothing of an answer is sent before it is whole.
func TestAdmitted(t *testing.T) {
	v, err := loadViews()
	require.NoError(t, err)
	st, err := store.Open(t.Context(), filepath.Join(t.TempDir(), "k.db"))
	require.NoError(t, err)
	defer st.Close()
	answers, err := lru.New[string, sentPage](2)
	require.NoError(t, err)
	s := &Server{views: v, door: newDoor(), gates: gates{newGate(1, 0), newGate(1, 0)}, store: st, answers: answers}
	e := gin.New()
	e.Use(s.recovered, s.admitted, gzip.Gzip(gzip.DefaultCompression))
	free := make(chan struct{})
	e.GET("/table", func(c *gin.Context) {
		c.String(http.StatusTeapot, "first")
		<-free
		c.Writer.WriteString(" and last") //nolint:errcheck // of a recorder
	})
	e.GET("/", func(c *gin.Context) { c.String(http.StatusOK, "shelf") })
	e.POST("/bakes/:id", func(c *gin.Context) {
		if c.Request.Context().Err() == nil {
			c.String(http.StatusOK, "kept")
		}
	})
	e.GET("/people", func(*gin.Context) { panic("oh") })
	get := func(path string) *httptest.ResponseRecorder {
		w := httptest.NewRecorder()
		e.ServeHTTP(w, httptest.NewRequest(http.MethodGet, path, nil))
		return w
	}
	first := make(chan *httptest.ResponseRecorder)
	go func() { first <- get("/table") }()
	require.Eventually(t, func() bool {
		return !s.gates.heavy.in.TryAcquire(1) || func() bool { s.gates.heavy.leave(); return false }()
	}, time.Second, time.Millisecond)
	busy := get("/table")
	assert.Equal(t, 503, busy.Code)
	assert.Equal(t, "1", busy.Header().Get("Retry-After"))
	assert.Equal(t, "shelf", get("/").Body.String())
	close(free)
	w := <-first
	assert.Equal(t, http.StatusTeapot, w.Code)
	assert.Equal(t, "first and last", w.Body.String())
	gone, leave := context.WithCancel(t.Context())
	leave()
	w = httptest.NewRecorder()
	e.ServeHTTP(w, httptest.NewRequestWithContext(gone, http.MethodPost, "/bakes/1", nil))
	assert.Equal(t, "kept", w.Body.String(), "what is told is written down, though who told it has gone")
	for range 2 { // its turn was given up
		w = get("/people")
		assert.Equal(t, 500, w.Code)
		assert.Contains(t, w.Body.String(), "Something broke on our side")
	}
}

// A page is remembered as it was sent until anything in the file is changed, by this program or another.
func TestRecalled(t *testing.T) {
	file := filepath.Join(t.TempDir(), "k.db")
	st, err := store.Open(t.Context(), file)
	require.NoError(t, err)
	defer st.Close()
	app, err := New(st)
	require.NoError(t, err)
	get := func(path string, fragment string) string {
		r := httptest.NewRequest(http.MethodGet, path, nil)
		r.Host = "localhost"
		r.Header.Set("X-Fragment", fragment)
		w := httptest.NewRecorder()
		app.ServeHTTP(w, r)
		require.Equal(t, 200, w.Code)
		require.Equal(t, "text/html; charset=utf-8", w.Header().Get("Content-Type"))
		require.NotEmpty(t, w.Header().Get("Content-Security-Policy"))
		return w.Body.String()
	}
	kept := func() int { return app.server.answers.Len() }
	first := get("/people", "")
	assert.Equal(t, 1, kept())
	assert.Equal(t, first, get("/people", ""))
	assert.Equal(t, 1, kept())
	get("/people?q=2", "")
	assert.Equal(t, 2, kept(), "another address is another page")
	get("/plans", "")
	get("/settings", "")
	assert.Equal(t, 2, kept(), "what follows from the clock or the door is not remembered")

	require.NoError(t, st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Kitchen.Fahrenheit = true }))
	changed := get("/people", "")
	assert.NotEqual(t, first, changed)
	assert.Contains(t, changed, "°F")
	other, err := store.Open(t.Context(), file)
	require.NoError(t, err)
	require.NoError(t, other.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Kitchen.Fahrenheit = false }))
	require.NoError(t, other.Close())
	assert.Equal(t, first, get("/people", ""))
}

// A large file may come slowly and be worked on for long, also where the answer is kept until it is whole and compressed.
func TestALargeFileMayTakeLong(t *testing.T) {
	gates := &Server{gates: gates{newGate(1, 1), newGate(1, 1)}, bodies: &bodies{}}
	gin.SetMode(gin.ReleaseMode)
	e := gin.New()
	e.Use(limitBody, gates.received, gates.admitted, gzip.Gzip(gzip.BestSpeed))
	read := func(c *gin.Context) {
		b, err := io.ReadAll(c.Request.Body)
		time.Sleep(300 * time.Millisecond)
		c.String(http.StatusOK, fmt.Sprint(string(b), err))
	}
	e.POST("/log", read)
	e.POST("/people", read)
	srv := httptest.NewUnstartedServer(e)
	srv.Config.WriteTimeout, srv.Config.ReadTimeout = 200*time.Millisecond, 200*time.Millisecond
	srv.Start()
	defer srv.Close()
	send := func(path string) (string, error) {
		body, slow := io.Pipe()
		go func() {
			time.Sleep(300 * time.Millisecond)
			slow.Write([]byte("zip")) //nolint:errcheck // what is read tells
			slow.Close()
		}()
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, srv.URL+path, body)
		require.NoError(t, err)
		res, err := srv.Client().Do(req)
		if err != nil {
			return "", err
		}
		defer res.Body.Close()
		b, err := io.ReadAll(res.Body)
		return string(b), err
	}
	got, err := send("/log")
	require.NoError(t, err)
	assert.Equal(t, "zip<nil>", got)
	_, err = send("/people")
	assert.Error(t, err, "others are not waited for")
}
