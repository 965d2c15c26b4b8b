package main

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"net"
	"net/http"
	"time"

	"kollaris/core/phrase"
	"kollaris/internal/store"
)

// repairWaits is how long the page stands that says why nothing could be opened. No source: a cup of tea.
const repairWaits = 15 * time.Minute

var repairPage = template.Must(template.New("repair").Parse(`<!doctype html>
<html lang="en-GB">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Kollaris cannot open its file</title>
<style>
:root { color-scheme: light dark }
body { font: 1.125rem/1.5 system-ui, sans-serif; max-width: 44rem; margin: 2rem auto; padding: 0 1rem }
h1 { font-size: 1.6rem } h2 { font-size: 1.25rem; margin-top: 1.5rem } code { overflow-wrap: anywhere } li { margin: .75rem 0 } form { display: inline }
button { font: inherit; padding: .4rem .9rem; min-height: 2.75rem }
</style></head>
<body><main>
<h1>Kollaris cannot open its file</h1>
<p role="alert"><strong>{{.Why}}</strong></p>
<p>The file is <code>{{.File}}</code>.</p>
<details><summary>What was said exactly</summary><p>{{.Exactly}}</p></details>
{{if .Copies}}
<h2>Bring back a copy</h2>
<p>Each was taken while the program ran. What is there now is kept beside it.</p>
<ul>{{range .Copies}}
<li>{{if .Auto}}{{.Taken.Format "Monday 2 January 2006"}}{{else}}{{.Taken.Format "Monday 2 January 2006, 15:04"}}{{end}} <form method="post" action="/back"><button name="name" value="{{.Name}}">Bring this back</button></form></li>{{end}}
</ul>
{{else}}
<p>No copy was taken of it yet.</p>
{{end}}
<form method="post" action="/again"><button>Try again</button></form> <form method="post" action="/end"><button>Close Kollaris</button></form>
</main></body></html>
`))

// repair says in the browser why the file could not be opened, to whoever started the program by a double click and has no terminal to
// read it in, and brings a copy back where that is pressed. It reports whether to open the file again. The page is for this machine alone.
func repair(ctx context.Context, db string, why error) (again bool, err error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return false, err
	}
	pressed := make(chan bool, 1)
	press := func(again bool) {
		select {
		case pressed <- again:
		default: // pressed before
		}
	}
	said := why.Error()
	show := func(w http.ResponseWriter, status int) {
		copies, err := store.CopiesOf(db)
		if err != nil {
			said = fmt.Sprintf("%s. The copies cannot be read: %v", said, err)
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.WriteHeader(status)
		page := map[string]any{"Why": inPlainWords(why), "Exactly": said, "File": db, "Copies": copies}
		repairPage.Execute(w, page) //nolint:errcheck // who has gone reads nothing
	}
	mux := http.NewServeMux()
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, _ *http.Request) { show(w, http.StatusOK) })
	mux.HandleFunc("POST /again", func(w http.ResponseWriter, _ *http.Request) {
		fmt.Fprintln(w, "It opens in a new tab.")
		press(true)
	})
	mux.HandleFunc("POST /end", func(w http.ResponseWriter, _ *http.Request) {
		fmt.Fprintln(w, "Kollaris is closed.")
		press(false)
	})
	mux.HandleFunc("POST /back", func(w http.ResponseWriter, r *http.Request) {
		if err := bringCopyBack(ctx, db, r.PostFormValue("name")); err != nil {
			why, said = err, err.Error()
			show(w, http.StatusUnprocessableEntity)
			return
		}
		fmt.Fprintln(w, "The copy is back. It opens in a new tab.")
		press(true)
	})
	host := l.Addr().String()
	only := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Host != host { // as the program itself refuses other names
			http.Error(w, "This page is called by another name.", http.StatusMisdirectedRequest)
			return
		}
		mux.ServeHTTP(w, r)
	})
	srv := &http.Server{Handler: http.NewCrossOriginProtection().Handler(only), ReadHeaderTimeout: 5 * time.Second}
	go srv.Serve(l) //nolint:errcheck // it is closed below
	fmt.Println("Kollaris says what is the matter at http://" + host)
	if err := openBrowser("http://" + host); err != nil {
		return false, errors.Join(err, srv.Close())
	}
	select {
	case again = <-pressed:
	case <-time.After(repairWaits):
	case <-ctx.Done():
	}
	grace, stop := context.WithTimeout(context.WithoutCancel(ctx), 2*time.Second)
	defer stop()
	return again, srv.Shutdown(grace)
}

// inPlainWords says what is the matter with a file that cannot be opened.
func inPlainWords(err error) string {
	switch of := store.TroubleOf(err); {
	case of != store.NoTrouble:
		return phrase.Sentence(string(of))
	case errors.Is(err, store.ErrNewer):
		return "It was made by a newer version of Kollaris: start that one."
	case errors.Is(err, store.ErrForeign):
		return "It belongs to another program."
	case errors.Is(err, store.ErrNoDatabase):
		return "It is nothing that Kollaris can read."
	}
	return phrase.Sentence(err.Error())
}

// bringCopyBack puts one of the copies of a file in its place, while nobody has it open.
func bringCopyBack(ctx context.Context, db, name string) error {
	copied, err := store.CopyOf(db, name)
	if err != nil {
		return fmt.Errorf("“%s” is no copy that is there", phrase.Clip(name, 40))
	}
	held, at, err := hold(db)
	if err != nil {
		return err
	}
	if held == nil {
		return fmt.Errorf("another Kollaris has the file, at %s", at)
	}
	defer held.Unlock() //nolint:errcheck // it goes with the program
	if _, _, err := store.PutBack(ctx, copied, db); err != nil {
		return troubled("nothing was brought back", err)
	}
	return nil
}
