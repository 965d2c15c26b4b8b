package web_test

import (
	"fmt"
	"net/http/httptest"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/demotest"
	"kollaris/internal/web"
)

func BenchmarkTmp(b *testing.B) {
	st, _ := demotest.Open(b)
	h, err := web.New(st)
	require.NoError(b, err)
	path := os.Getenv("P")
	b.ReportAllocs()
	for n := 0; b.Loop(); n++ {
		at := path
		if path == "cold" {
			at = fmt.Sprintf("/recipes/8/adapt?diet=egg-free&limit.sodium=%d", 100+n%1900)
		}
		r := httptest.NewRequest("GET", at, nil)
		r.Host = "localhost"
		r.Header.Set("Accept-Encoding", "gzip")
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		if w.Code != 200 {
			b.Fatal(w.Code)
		}
	}
}
