// Command load asks a running Kollaris for pages, many at once, and then a bare Gin for the same bytes with the same
// compression, and prints both with their ratio. It speaks with loopback addresses alone, for a bounded time.
//
//	go run ./tools/load [-at http://127.0.0.1:8080] [-clients 200] [-for 10s] [PATH…]
//
// In a path, %d is a number that grows, so that nothing remembered answers.
package main

import (
	"context"
	"flag"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"os"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
)

// What is asked for where nothing is named: the pages that are opened again and again, and new adaptations.
var usual = []string{"/", "/larder", "/recipes/8/adapt?diet=egg-free&diet=dairy-free", "/recipes/8/adapt?diet=egg-free&limit.sodium=%d", "/recipes/8/heat?diet=egg-free", "/table"}

const (
	mostClients = 400
	mostTime    = time.Minute
)

func main() {
	at := flag.String("at", "http://127.0.0.1:8080", "where it runs, on a loopback address")
	clients := flag.Int("clients", 200, "how many ask at once")
	long := flag.Duration("for", 10*time.Second, "how long each path is asked for")
	flag.Parse()
	u, err := url.Parse(*at)
	if err != nil || net.ParseIP(u.Hostname()) == nil || !net.ParseIP(u.Hostname()).IsLoopback() || *clients < 1 || *clients > mostClients || *long > mostTime {
		fmt.Fprintf(os.Stderr, "load: a loopback address, 1 to %d clients, at most %v a path\n", mostClients, mostTime)
		os.Exit(2)
	}
	paths := flag.Args()
	if len(paths) == 0 {
		paths = usual
	}
	fmt.Printf("%-58s %8s %8s %8s %7s %7s %9s %7s\n", "path, "+fmt.Sprint(*clients)+" clients", "req/s", "p50 ms", "p95 ms", "busy", "broken", "bare/s", "ratio")
	for _, path := range paths {
		fmt.Println(line(*at, path, *clients, *long))
	}
}

func line(at, path string, clients int, long time.Duration) string {
	res, err := http.Get(at + numbered(path, 1))
	if err != nil {
		return fmt.Sprintf("%-58s %v", path, err)
	}
	body, err := io.ReadAll(res.Body)
	res.Body.Close()
	if err != nil || res.StatusCode != 200 {
		return fmt.Sprintf("%-58s %s %v", path, res.Status, err)
	}
	bare, stop := bareGin(body, res.Header.Get("Content-Type"))
	defer stop()
	got, same := ask(at, path, clients, long), ask(bare, "/", clients, long/2)
	return fmt.Sprintf("%-58s %8.0f %8.0f %8.0f %7d %7d %9.0f %7.3f", path, got.rate, got.p50, got.p95, got.busy, got.broken, same.rate, got.rate/same.rate)
}

func numbered(path string, n int64) string {
	return strings.ReplaceAll(path, "%d", fmt.Sprint(100+n%1900))
}

// bareGin serves these bytes and nothing else.
func bareGin(body []byte, kind string) (at string, stop func()) {
	gin.SetMode(gin.ReleaseMode)
	e := gin.New()
	e.Use(gzip.Gzip(gzip.BestSpeed))
	e.GET("/", func(c *gin.Context) { c.Data(http.StatusOK, kind, body) })
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		panic(err)
	}
	srv := &http.Server{Handler: e, ReadHeaderTimeout: time.Second}
	go srv.Serve(l) //nolint:errcheck // it ends with the trial
	return "http://" + l.Addr().String(), func() { srv.Close() }
}

type outcome struct {
	rate, p50, p95 float64 // answers a second, ms
	busy, broken   int64   // 503 with a time to come back; anything else that is no page
}

// ask has clients ask one after the other, all at once, for so long. Those that are told to come back do so after a
// second.
func ask(at, path string, clients int, long time.Duration) (o outcome) {
	tr := &http.Transport{MaxIdleConnsPerHost: clients, DisableCompression: true}
	defer tr.CloseIdleConnections()
	ctx, stop := context.WithTimeout(context.Background(), long)
	defer stop()
	var n atomic.Int64
	var mu sync.Mutex
	var took []float64
	var all sync.WaitGroup
	for range clients {
		all.Go(func() {
			for ctx.Err() == nil {
				began := time.Now()
				r, _ := http.NewRequestWithContext(ctx, http.MethodGet, at+numbered(path, n.Add(1)), nil)
				r.Header.Set("Accept-Encoding", "gzip")
				res, err := tr.RoundTrip(r)
				if err != nil {
					if ctx.Err() == nil {
						atomic.AddInt64(&o.broken, 1)
					}
					continue
				}
				_, err = io.Copy(io.Discard, res.Body)
				res.Body.Close()
				switch {
				case err != nil:
				case res.StatusCode == http.StatusServiceUnavailable && res.Header.Get("Retry-After") != "":
					atomic.AddInt64(&o.busy, 1)
					select {
					case <-ctx.Done():
					case <-time.After(time.Second):
					}
				case res.StatusCode != http.StatusOK:
					atomic.AddInt64(&o.broken, 1)
				default:
					mu.Lock()
					took = append(took, float64(time.Since(began).Microseconds())/1000)
					mu.Unlock()
				}
			}
		})
	}
	all.Wait()
	o.rate = float64(len(took)) / long.Seconds()
	if slices.Sort(took); len(took) > 0 {
		o.p50, o.p95 = took[len(took)/2], took[len(took)*95/100]
	}
	return o
}
