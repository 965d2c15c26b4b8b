package device

import (
	"embed"
	"fmt"
	"net/http"
	"strconv"
)

//go:embed page
var pages embed.FS

// answer sends what a stand-in shows, as a line of JSON.
func answer(w http.ResponseWriter, form string, args ...any) {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	fmt.Fprintf(w, form+"\n", args...)
}

// page serves the page of a stand-in and what it sends.
func page(name string, post func(r *http.Request), state http.HandlerFunc) http.Handler {
	m := http.NewServeMux()
	m.HandleFunc("GET /{$}", func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Security-Policy", "default-src 'self'")
		http.ServeFileFS(w, r, pages, "page/"+name+".html")
	})
	m.HandleFunc("GET /{file}", func(w http.ResponseWriter, r *http.Request) {
		http.ServeFileFS(w, r, pages, "page/"+r.PathValue("file"))
	})
	m.HandleFunc("GET /state", state)
	m.HandleFunc("POST /", func(w http.ResponseWriter, r *http.Request) {
		r.Body = http.MaxBytesReader(w, r.Body, 1<<10)
		post(r)
		state(w, r)
	})
	return http.NewCrossOriginProtection().Handler(m)
}

// Page is the scale's page: a bowl to pour into.
func (s *StandScale) Page() http.Handler {
	return page("scale", func(r *http.Request) {
		if g, err := strconv.ParseFloat(r.FormValue("pour"), 64); err == nil && g > -mostLoad && g < mostLoad {
			s.Pour(g)
		}
	}, func(w http.ResponseWriter, _ *http.Request) {
		shown, _ := s.Shows()
		answer(w, `{"shown":%.1f}`, shown)
	})
}

// Page is the probe's page: a loaf to put into the oven.
func (s *StandProbe) Page() http.Handler {
	return page("probe", func(r *http.Request) {
		switch r.FormValue("do") {
		case "in":
			s.PutIn(true)
		case "out":
			s.PutIn(false)
		case "slip":
			s.Slip(true)
		case "back":
			s.Slip(false)
		}
	}, func(w http.ResponseWriter, _ *http.Request) {
		m := s.Minutes()
		core := 21.0
		if m > 0 {
			core, _ = s.Truth(m)
		}
		answer(w, `{"minutes":%.1f,"core":%.1f,"speed":%g}`, m, core, s.Speed)
	})
}
