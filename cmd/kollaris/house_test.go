package main_test

import (
	"bytes"
	"database/sql"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/recipe"
	"kollaris/core/table"
	"kollaris/internal/store"
)

// said is what a program writes, read while it runs.
type said struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (s *said) Write(p []byte) (int, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.b.Write(p)
}

func (s *said) String() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.b.String()
}

// begin starts the program and waits until its address answers.
func begin(t *testing.T, addr string, env []string, args ...string) (*exec.Cmd, *said) {
	t.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Env = append(os.Environ(), env...)
	out := &said{}
	cmd.Stdout, cmd.Stderr = out, out
	require.NoError(t, cmd.Start())
	t.Cleanup(func() {
		cmd.Process.Kill() //nolint:errcheck // it may be gone
		cmd.Wait()         //nolint:errcheck // likewise
	})
	require.Eventually(t, func() bool {
		res, err := http.Get("http://" + addr + "/healthz")
		if err != nil {
			return false
		}
		res.Body.Close()
		return res.StatusCode == 200
	}, 10*time.Second, 20*time.Millisecond, out)
	return cmd, out
}

// phone is a browser on another machine.
type phone struct {
	t *testing.T
	*http.Client
	at string
}

func newPhone(t *testing.T, at string) phone {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return phone{t, &http.Client{Jar: jar, Timeout: 20 * time.Second}, at}
}

func (p phone) do(method, path, host string, form url.Values) (status int, body, landed string) {
	p.t.Helper()
	r, err := http.NewRequest(method, p.at+path, strings.NewReader(form.Encode()))
	require.NoError(p.t, err)
	r.Header.Set("Accept", "text/html")
	if form != nil {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	if host != "" {
		r.Host = host
	}
	res, err := p.Do(r)
	require.NoError(p.t, err)
	defer res.Body.Close()
	b, err := io.ReadAll(res.Body)
	require.NoError(p.t, err)
	return res.StatusCode, string(b), res.Request.URL.Path
}

// Other machines of the house come in with the passphrase and not without; 127.0.0.3 stands for the house's network.
func TestOtherMachines(t *testing.T) {
	t.Parallel()
	addr, db := free(t), filepath.Join(t.TempDir(), "k.db")
	_, port, err := net.SplitHostPort(addr)
	require.NoError(t, err)
	far := "127.0.0.3:" + port
	shut := func() bool {
		c, err := net.DialTimeout("tcp", far, time.Second)
		if err == nil {
			c.Close()
		}
		return err != nil
	}
	_, out := begin(t, addr, nil, "serve", "--addr", addr, "--db", db, "--lan", "--lan-at", "127.0.0.3", "--host", "Oven.house", "--log")
	require.Eventually(t, func() bool { return strings.Contains(out.String(), "No passphrase is set") }, 5*time.Second, 20*time.Millisecond)
	assert.True(t, shut(), "without a passphrase it does not listen")

	here := newPhone(t, "http://"+addr)
	_, body, _ := here.do("POST", "/door", "", url.Values{"act": {"set"}, "passphrase": {"too short"}})
	assert.Contains(t, body, "It was not set")
	_, body, _ = here.do("POST", "/door", "", url.Values{"act": {"set"}, "passphrase": {"four words of ours"}})
	assert.Contains(t, body, "The passphrase is set")
	require.Eventually(t, func() bool { return !shut() }, 5*time.Second, 20*time.Millisecond)
	assert.Contains(t, out.String(), "at http://"+far)

	p := newPhone(t, "http://"+far)
	for _, path := range []string{"/", "/settings", "/recipes/1/adapt", "/everything.zip", "/backups/kollaris-2026-11-26.db", "/bakes/1.json", "//people"} {
		_, body, landed := p.do("GET", path, "", nil)
		assert.Equal(t, "/enter", landed, path)
		assert.NotContains(t, body, "Must not hold", path)
	}
	for _, path := range []string{"/recipes", "/people", "/door", "/quit", "/backups"} {
		status, _, _ := p.do("POST", path, "", url.Values{"act": {"clear"}})
		assert.Equal(t, 401, status, path)
	}
	// a name of this machine does not make one sit at it, nor does a wrong name or a forwarded one
	status, _, landed := p.do("GET", "/", "127.0.0.1:"+port, nil)
	assert.True(t, status == 200 && landed == "/enter")
	status, _, _ = here.do("GET", "/", "evil.example", nil)
	assert.Equal(t, 421, status)
	_, _, landed = here.do("GET", "/", "oven.house", nil)
	assert.Equal(t, "/enter", landed, "what is handed on for others has to know it")
	status, _, _ = p.do("GET", "/static/x/css/app.css", "", nil)
	assert.Equal(t, 200, status)

	status, body, _ = p.do("POST", "/enter", "", url.Values{"passphrase": {"four words of yours"}})
	assert.Equal(t, 401, status)
	assert.Contains(t, body, "That is not it")
	_, _, landed = p.do("POST", "/enter", "", url.Values{"passphrase": {"four words of ours"}, "to": {"//evil.example/x"}})
	assert.Equal(t, "/", landed, "it goes to no other site")
	u, err := url.Parse(p.at)
	require.NoError(t, err)
	require.Len(t, p.Jar.Cookies(u), 1)
	status, body, _ = p.do("GET", "/settings", "", nil)
	assert.Equal(t, 200, status)
	assert.NotContains(t, body, `value="set"`, "who may come in is settled at the machine")
	status, _, _ = p.do("POST", "/door", "", url.Values{"act": {"set"}, "passphrase": {"mine from now on"}})
	assert.Equal(t, 403, status)
	status, _, _ = p.do("POST", "/quit", "", url.Values{})
	assert.Equal(t, 404, status)

	// two windows see each other from there too
	_, _, _ = p.do("POST", "/people", "", url.Values{"name": {"bow"}, "strict": {"choice"}})
	for n, want := range []int{200, 409} {
		status, body, _ = p.do("POST", "/people/1", "", url.Values{"rev": {"1"}, "name": {[]string{"stroke", "cox"}[n]}, "strict": {"choice"}})
		assert.Equal(t, want, status)
	}
	assert.Regexp(t, `<th scope="row">Who</th>(?s:.*)cox(?s:.*)stroke`, body)
	status, _, landed = p.do("GET", "/people/1", "", nil)
	assert.True(t, status == 200 && landed == "/people", "the address of a form leads to where it stands: %s", landed)

	// guests look, and only where they may
	_, body, _ = here.do("POST", "/door", "", url.Values{"act": {"guests"}})
	link := regexp.MustCompile(`/guest/[\w-]{43}`).FindString(body)
	require.NotEmpty(t, link)
	g := newPhone(t, p.at)
	status, _, _ = g.do("GET", "/guest/"+strings.Repeat("A", 43), "", nil)
	assert.Equal(t, 404, status)
	status, _, landed = g.do("GET", link, "", nil)
	assert.Equal(t, "/guest", landed)
	assert.Equal(t, 200, status)
	for _, path := range []string{"/people", "/recipes/1/adapt", "/settings", "/everything.zip", "/bakes/1/log", "/versions/1", "/plans/1"} {
		status, _, _ = g.do("GET", path, "", nil)
		assert.Equal(t, 403, status, path)
	}
	for _, path := range []string{"/bakes/1", "/plans/1/shop", "/recipes"} {
		status, _, _ = g.do("POST", path, "", url.Values{})
		assert.Equal(t, 403, status, path)
	}
	status, _, _ = g.do("GET", "/versions/1/card", "", nil)
	assert.Equal(t, 404, status, "there is none yet")
	_, _, _ = here.do("POST", "/door", "", url.Values{"act": {"noguests"}})
	_, _, landed = g.do("GET", "/guest", "", nil)
	assert.Equal(t, "/enter", landed)

	// many tries are too many, and all of them are in the log, without what was typed or asked
	for n := range 8 {
		status, _, _ = g.do("POST", "/enter", "", url.Values{"passphrase": {fmt.Sprint("guess number ", n)}})
	}
	assert.Equal(t, 429, status)
	_, _, _ = p.do("GET", "/?q=secretword", "", nil)
	assert.NotContains(t, out.String(), "guess number")
	assert.NotContains(t, out.String(), "secretword")
	assert.Contains(t, out.String(), "INFO passphrase from=127.0.0.")
	assert.Contains(t, out.String(), "INFO request method=GET path=/enter status=200")

	_, _, _ = here.do("POST", "/door", "", url.Values{"act": {"out"}})
	_, _, landed = p.do("GET", "/people", "", nil)
	assert.Equal(t, "/enter", landed)

	// forgotten: set anew from the command line, while it runs
	stdout, _, code := call(t, "another four words\n", "passphrase", "--db", db)
	assert.Equal(t, 0, code)
	assert.Contains(t, stdout, "The passphrase is set")
	stdout, _, code = call(t, "", "passphrase", "--clear", "--db", db)
	assert.Equal(t, 0, code)
	assert.Contains(t, stdout, "no other machine is let in")
	_, _, _ = here.do("POST", "/door", "", url.Values{"act": {"shut"}})
	require.Eventually(t, shut, 5*time.Second, 20*time.Millisecond)
}

// A double click opens the shelf in the browser, a second one goes to the first; it is stopped from its pages.
func TestStartedWithoutAWord(t *testing.T) {
	t.Parallel()
	home := t.TempDir()
	browser, seen := filepath.Join(home, "browser"), filepath.Join(home, "seen")
	require.NoError(t, os.WriteFile(browser, []byte("#!/bin/sh\necho $1 >> "+seen+"\n"), 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(home, "xdg-open"), []byte("#!/bin/sh\necho $1 > "+seen+".folder\n"), 0o700))
	env := []string{"XDG_DATA_HOME=" + home, "BROWSER=" + browser, "PATH=" + home + ":" + os.Getenv("PATH")}
	opened := func() []string {
		b, _ := os.ReadFile(seen)
		return strings.Fields(string(b))
	}
	cmd := exec.Command(binary)
	cmd.Env = append(os.Environ(), env...)
	require.NoError(t, cmd.Start())
	defer cmd.Process.Kill() //nolint:errcheck // gone when all is well
	require.Eventually(t, func() bool { return len(opened()) == 1 }, 10*time.Second, 20*time.Millisecond)
	at := opened()[0]
	p := newPhone(t, at)
	_, body, _ := p.do("GET", "/settings", "", nil)
	assert.Contains(t, body, filepath.Join(home, "kollaris", "kollaris.db"))
	assert.Contains(t, body, ">Quit<")
	assert.Contains(t, body, "Show me the file")
	_, _, _ = p.do("POST", "/file", "", nil)
	require.Eventually(t, func() bool {
		b, _ := os.ReadFile(seen + ".folder")
		return strings.TrimSpace(string(b)) == filepath.Join(home, "kollaris")
	}, 5*time.Second, 20*time.Millisecond)

	second := exec.Command(binary)
	second.Env = cmd.Env
	out, err := second.CombinedOutput()
	require.NoError(t, err, string(out))
	require.Eventually(t, func() bool { return len(opened()) == 2 }, 5*time.Second, 20*time.Millisecond)
	assert.Equal(t, at, opened()[1])

	_, stderr, code := call(t, "", "serve", "--addr", free(t), "--db", filepath.Join(home, "kollaris", "kollaris.db"))
	assert.Equal(t, 1, code)
	assert.Contains(t, stderr, "is used by another Kollaris, at "+at)
	_, stderr, code = call(t, "", "restore", "nothing.db", "--db", filepath.Join(home, "kollaris", "kollaris.db"))
	assert.Equal(t, 1, code)
	assert.Contains(t, stderr, "stop it first")

	_, body, _ = p.do("POST", "/quit", "", url.Values{})
	assert.Contains(t, body, "Kollaris has stopped")
	require.NoError(t, cmd.Wait())
	copies, err := filepath.Glob(filepath.Join(home, "kollaris", "kollaris-backups", "*.db"))
	require.NoError(t, err)
	assert.Len(t, copies, 1, "a copy of the day")
}

// Closing the terminal stops it as Ctrl-C does.
func TestAHangUpStopsIt(t *testing.T) {
	t.Parallel()
	addr := free(t)
	cmd, out := begin(t, addr, nil, "serve", "--addr", addr, "--db", filepath.Join(t.TempDir(), "k.db"))
	require.NoError(t, cmd.Process.Signal(syscall.SIGHUP))
	require.NoError(t, cmd.Wait(), out)
}

func TestBackupAndRestore(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	db, to := filepath.Join(dir, "k.db"), filepath.Join(dir, "copy.db")
	_, stderr, code := call(t, "", "backup", to, "--db", db)
	assert.Equal(t, 2, code)
	assert.Contains(t, stderr, "there is no database")
	addr := free(t)
	cmd, _ := begin(t, addr, nil, "serve", "--addr", addr, "--db", db)
	p := newPhone(t, "http://"+addr)
	_, _, landed := p.do("POST", "/recipes/example", "", url.Values{})
	_, _, _ = p.do("POST", landed, "", url.Values{"act": {"keep"}})
	stdout, stderr, code := call(t, "", "backup", to, "--db", db) // while it runs
	assert.Equal(t, 0, code, stderr)
	assert.Regexp(t, `copy\.db: \d recipes, .*It was read through`, stdout)
	_, stderr, code = call(t, "", "backup", to, "--db", db)
	assert.Equal(t, 1, code)
	assert.Contains(t, stderr, "is there already")
	require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
	require.NoError(t, cmd.Wait())

	require.NoError(t, os.WriteFile(db, []byte("overwritten by mistake"), 0o600))
	_, stderr, code = call(t, "", "restore", filepath.Join(dir, "none.db"), "--db", db)
	assert.Equal(t, 2, code, stderr)
	stdout, stderr, code = call(t, "", "restore", to, "--db", db)
	assert.Equal(t, 0, code, stderr)
	assert.Contains(t, stdout, "Brought back:")
	assert.Contains(t, stdout, "k.db.replaced-")
	_, stderr, code = call(t, "", "restore", db, "--db", db)
	assert.Equal(t, 0, code, stderr)
}

// A program that is killed while it brings an older file up to date leaves a file that the next start uses, whole.
func TestAMigrationMayBreakOff(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	old := filepath.Join(dir, "old.db")
	st, err := store.Open(t.Context(), old)
	require.NoError(t, err)
	for n := range 30 {
		_, err := st.AddRecipe(t.Context(), &recipe.Recipe{Title: fmt.Sprint("Loaf ", n)}, "Loaf", store.Typed{})
		require.NoError(t, err)
	}
	require.NoError(t, st.Close())
	db, err := sql.Open("sqlite", old)
	require.NoError(t, err)
	_, err = db.Exec("ALTER TABLE phrase DROP COLUMN deleted_at; ALTER TABLE remembered_amount DROP COLUMN deleted_at; ALTER TABLE draft DROP COLUMN seen; ALTER TABLE draft DROP COLUMN brought; DROP TABLE brought; DROP INDEX recipe_shelf; DROP INDEX recipe_kind; DROP INDEX recipe_away; DROP TABLE session; DROP TABLE access; DELETE FROM goose_db_version WHERE version_id >= 15")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	data, err := os.ReadFile(old)
	require.NoError(t, err)
	for n := range 25 {
		file := filepath.Join(dir, fmt.Sprintf("k%d.db", n))
		require.NoError(t, os.WriteFile(file, data, 0o600))
		cmd := exec.Command(binary, "serve", "--addr", free(t), "--db", file)
		require.NoError(t, cmd.Start())
		time.Sleep(time.Duration(20+6*n) * time.Millisecond)
		cmd.Process.Kill() //nolint:errcheck // it runs
		cmd.Wait()         //nolint:errcheck // it was killed
		st, err := store.Open(t.Context(), file)
		require.NoError(t, err, n)
		all, err := st.Recipes(t.Context(), "")
		require.NoError(t, err)
		assert.Len(t, all, 30)
		require.NoError(t, st.Close())
		for _, copied := range []string{file + ".before-19"} {
			if _, err := os.Stat(copied); err == nil {
				n, err := store.Verify(t.Context(), copied)
				require.NoError(t, err, "a copy that is there is whole")
				assert.Equal(t, 30, n.Recipes)
			}
		}
	}
}

// Whoever started it by a double click reads in the browser why the file cannot be opened, and brings a copy back there.
func TestADamagedFileIsSaidInTheBrowser(t *testing.T) {
	t.Parallel()
	home := t.TempDir()
	file := filepath.Join(home, "kollaris", "kollaris.db")
	st, err := store.Open(t.Context(), file)
	require.NoError(t, err)
	_, err = st.AddPerson(t.Context(), table.Person{Name: "bow"})
	require.NoError(t, err)
	name, _, err := st.TakeCopy(t.Context())
	require.NoError(t, err)
	require.NoError(t, st.Close())
	require.NoError(t, os.WriteFile(file, []byte("no database <b>"), 0o600))

	browser, seen := filepath.Join(home, "browser"), filepath.Join(home, "seen")
	require.NoError(t, os.WriteFile(browser, []byte("#!/bin/sh\necho $1 >> "+seen+"\n"), 0o700))
	opened := func(n int) string {
		var all []string
		require.Eventually(t, func() bool {
			b, _ := os.ReadFile(seen)
			all = strings.Fields(string(b))
			return len(all) == n
		}, 10*time.Second, 20*time.Millisecond)
		return all[n-1]
	}
	cmd := exec.Command(binary)
	cmd.Env = append(os.Environ(), "XDG_DATA_HOME="+home, "BROWSER="+browser)
	require.NoError(t, cmd.Start())
	defer cmd.Process.Kill() //nolint:errcheck // gone when all is well
	p := newPhone(t, opened(1))
	status, body, _ := p.do("GET", "/", "", nil)
	require.Equal(t, 200, status)
	for _, says := range []string{"cannot open its file", "It is nothing that Kollaris can read.", "cannot be read as a database", file, `value="` + name + `"`, "Bring this back"} {
		assert.Contains(t, body, says)
	}
	status, _, _ = p.do("GET", "/", "kollaris.example", nil)
	assert.Equal(t, 421, status, "called by another name")
	status, body, _ = p.do("POST", "/back", "", url.Values{"name": {"../kollaris.db"}})
	assert.Equal(t, 422, status)
	assert.Contains(t, body, "is no copy that is there")
	_, body, _ = p.do("POST", "/again", "", url.Values{})
	assert.Contains(t, body, "opens in a new tab")
	p = newPhone(t, opened(2)) // it is no better
	_, body, _ = p.do("POST", "/back", "", url.Values{"name": {name}})
	assert.Contains(t, body, "The copy is back")
	p = newPhone(t, opened(3))
	_, body, _ = p.do("GET", "/people", "", nil)
	assert.Contains(t, body, "bow", "the program itself")
	kept, err := filepath.Glob(file + ".replaced-*")
	require.NoError(t, err)
	assert.Len(t, kept, 1, "what was there is kept")
	_, _, _ = p.do("POST", "/quit", "", url.Values{})
	require.NoError(t, cmd.Wait())
}
