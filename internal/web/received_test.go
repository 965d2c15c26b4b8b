package web_test

import (
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Who sends a body slowly, or none of it, holds no page up, is answered once the time is over, and may not send many at once.
func TestWhoSendsSlowlyHoldsNobodyUp(t *testing.T) {
	s := newSite(t)
	srv := httptest.NewUnstartedServer(s.h)
	srv.Config.ReadTimeout = 2 * time.Second
	srv.Start()
	defer srv.Close()
	var slow []net.Conn
	for range 8 {
		conn, err := net.Dial("tcp", srv.Listener.Addr().String())
		require.NoError(t, err)
		defer conn.Close()
		fmt.Fprintf(conn, "POST /enter HTTP/1.1\r\nHost: %s\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 100\r\n\r\nphrase=", srv.Listener.Addr())
		slow = append(slow, conn)
	}
	client := &http.Client{Timeout: time.Second}
	require.Eventually(t, func() bool { // a ninth body is told to come back
		res, err := client.Post(srv.URL+"/people", "application/x-www-form-urlencoded", strings.NewReader("name=stern"))
		if err != nil {
			return false
		}
		defer res.Body.Close()
		return res.StatusCode == http.StatusServiceUnavailable && res.Header.Get("Retry-After") != ""
	}, time.Second, 20*time.Millisecond)
	for _, page := range []string{"/", "/larder", "/people"} { // and pages come as ever
		res, err := client.Get(srv.URL + page)
		require.NoError(t, err, page)
		res.Body.Close()
		assert.Equal(t, http.StatusOK, res.StatusCode, page)
	}
	for _, conn := range slow {
		require.NoError(t, conn.SetReadDeadline(time.Now().Add(6*time.Second)))
		got, _ := io.ReadAll(conn)
		assert.Contains(t, string(got), "408", "it did not come whole")
	}
	res, err := client.Post(srv.URL+"/people", "application/x-www-form-urlencoded", strings.NewReader("name=stern"))
	require.NoError(t, err)
	res.Body.Close()
	assert.Equal(t, http.StatusOK, res.StatusCode, "their turns are free again")
}

// A large body waits in a file, which is gone once it is answered.
func TestALargeBodyLeavesNoFile(t *testing.T) {
	s := newSite(t)
	srv := httptest.NewServer(s.h)
	defer srv.Close()
	res, err := http.Post(srv.URL+"/recipes/import", "multipart/form-data; boundary=x", strings.NewReader("--x\r\nContent-Disposition: form-data; name=\"files\"; filename=\"a.txt\"\r\n\r\n"+strings.Repeat("x", 3<<20)+"\r\n--x--\r\n"))
	require.NoError(t, err)
	res.Body.Close()
	assert.Less(t, res.StatusCode, 500)
	left, err := filepath.Glob(filepath.Join(os.TempDir(), "kollaris-body-*"))
	require.NoError(t, err)
	assert.Empty(t, left)
}
