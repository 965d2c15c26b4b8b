package main_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
	"kollaris/internal/store"
)

// served starts the program on a file; base is its address.
func served(t *testing.T, db string) (cmd *exec.Cmd, base string) {
	t.Helper()
	addr := free(t)
	cmd = exec.Command(binary, "serve", "--addr", addr, "--db", db)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Kill(); _ = cmd.Wait() })
	base = "http://" + addr
	require.Eventually(t, func() bool {
		res, err := http.Get(base + "/healthz")
		if err != nil {
			return false
		}
		res.Body.Close()
		return res.StatusCode == http.StatusOK
	}, 10*time.Second, 20*time.Millisecond)
	return cmd, base
}

// Killed in the middle of a bake, again and again: whatever was answered for is there, and timers run on.
func TestKilledInTheMiddleOfABake(t *testing.T) {
	t.Parallel()
	db := filepath.Join(t.TempDir(), "k.db")
	st, err := store.Open(t.Context(), db)
	require.NoError(t, err)
	require.NoError(t, demo.Fill(t.Context(), st))
	all, err := st.Recipes(t.Context(), "")
	require.NoError(t, err)
	require.NoError(t, st.Close())
	client := http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }, Timeout: 5 * time.Second}
	at, told, began := "", 0, time.Now()
	for round := range 5 {
		cmd, base := served(t, db)
		if at == "" {
			res, err := client.PostForm(base+"/bakes", url.Values{"b": {fmt.Sprintf("%d:", all[0].ID)}})
			require.NoError(t, err)
			res.Body.Close()
			at = res.Header.Get("Location")
			require.Regexp(t, `^/bakes/\d+$`, at)
			res, err = client.PostForm(base+at, url.Values{"what": {"timer"}, "key": {"k"}, "text": {"nuts"}, "value": {"30"}, "bake": {"0"}})
			require.NoError(t, err)
			res.Body.Close()
			told++
			began = time.Now()
		}
		die := time.AfterFunc(time.Duration(60+40*round)*time.Millisecond, func() { _ = cmd.Process.Kill() })
		for n := 0; n < 500; n++ {
			res, err := client.PostForm(base+at, url.Values{"what": {"spoon"}, "food": {"water"}, "value": {"1"}, "bake": {"0"}, "id": {fmt.Sprintf("%d-%d", round, n)}})
			if err != nil {
				break
			}
			res.Body.Close()
			if res.StatusCode != http.StatusSeeOther {
				break
			}
			told++
		}
		die.Stop()
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
	}
	_, base := served(t, db)
	res, err := http.Get(base + at + ".json")
	require.NoError(t, err)
	defer res.Body.Close()
	var w struct {
		Seq    int
		Timers []struct{ Seconds float64 }
	}
	require.NoError(t, json.NewDecoder(res.Body).Decode(&w))
	assert.Greater(t, told, 5)
	assert.GreaterOrEqual(t, w.Seq, told, "nothing that was answered for is lost")
	require.Len(t, w.Timers, 1)
	assert.InDelta(t, 30*60-time.Since(began).Seconds(), w.Timers[0].Seconds, 2)
}

// A whole bake is rehearsed: each task in its order, and done near the truth, which nobody was told.
func TestRehearse(t *testing.T) {
	t.Parallel()
	out, errs, code := call(t, pear, "rehearse", "--seed", "4", "--speed", "1200", "--diet", "egg-free", "--diet", "dairy-free", "-")
	require.Equal(t, 0, code, errs)
	for _, words := range []string{"Task 1 of 10", "Task 10 of 10", "In the oven. First look in 40 min", "plain flour: 2", "All is done."} {
		assert.Contains(t, out, words)
	}
	m := regexp.MustCompile(`Take it out, after (\d+) min\. Foretold were \d+; in truth it was done at (\d+)`).FindStringSubmatch(out)
	require.NotNil(t, m, out)
	after, err := strconv.ParseFloat(m[1], 64)
	require.NoError(t, err)
	truth, err := strconv.ParseFloat(m[2], 64)
	require.NoError(t, err)
	assert.InEpsilon(t, truth, after, 0.1)
	for _, c := range [][]string{{"rehearse", "--speed", "2", "x"}, {"device", "probe", "--speed", "0"}, {"demo", "--speed", "9999"}, {"device", "scale", "--addr", "0.0.0.0:7411"}} {
		_, errs, code := call(t, "", c...)
		assert.Equal(t, 2, code, "%v: %s", c, errs)
	}
}
