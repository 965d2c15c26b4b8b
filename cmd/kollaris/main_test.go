package main_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/recipes"
	"kollaris/internal/store"
)

var binary string

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "kollaris-")
	if err != nil {
		panic(err)
	}
	binary = filepath.Join(dir, "kollaris")
	if out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
		fmt.Fprintln(os.Stderr, string(out))
		os.Exit(1)
	}
	code := m.Run()
	os.RemoveAll(dir)
	os.Exit(code)
}

// call runs the program with text on standard input.
func call(t *testing.T, stdin string, args ...string) (stdout, stderr string, code int) {
	t.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Stdin = strings.NewReader(stdin)
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	err := cmd.Run()
	if _, isExit := err.(*exec.ExitError); err != nil && !isExit {
		t.Fatal(err)
	}
	return out.String(), errs.String(), cmd.ProcessState.ExitCode()
}

func document(t *testing.T, s string) map[string]any {
	t.Helper()
	var m map[string]any
	require.NoError(t, json.Unmarshal([]byte(s), &m), s)
	return m
}

func keys(t *testing.T, m any, want ...string) {
	t.Helper()
	for _, k := range want {
		assert.Contains(t, m, k)
	}
}

var pear = recipes.Text("1-pear-cardamom-loaf.txt")

func TestRead(t *testing.T) {
	t.Parallel()
	out, _, code := call(t, pear, "read", "--json", "-")
	require.Equal(t, 0, code)
	d := document(t, out)
	keys(t, d, "title", "kind", "servings", "oven_c", "bake_minutes", "tins", "lines", "findings", "method", "equipment", "hands_min", "total_min")
	task := d["method"].([]any)[2].(map[string]any)
	keys(t, task, "part", "verb", "text", "written", "uses", "hands_min", "wait_min", "where", "oven_c", "until", "at_once", "inferred")
	assert.Equal(t, []any{"beat", 210.0, 1.0}, []any{task["verb"], task["uses"].([]any)[0].(map[string]any)["grams"], task["uses"].([]any)[0].(map[string]any)["share"]})
	assert.Equal(t, map[string]any{"min": 50.0, "max": 55.0}, d["bake_minutes"])
	assert.Equal(t, "loaf 9x5 in", d["tins"].([]any)[0].(map[string]any)["name"])
	line := d["lines"].([]any)[0].(map[string]any)
	keys(t, line, "text", "section", "amount", "unit", "ingredient", "name", "grams", "known", "optional")
	assert.Equal(t, []any{1.75, "cup", "plain-flour", 210.0, true}, []any{line["amount"], line["unit"], line["ingredient"], line["grams"], line["known"]})

	file := filepath.Join(t.TempDir(), "pear.txt")
	require.NoError(t, os.WriteFile(file, []byte(pear), 0o600))
	out, _, code = call(t, "", "read", file)
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "11 of 11 lines understood")
}

func TestAdapt(t *testing.T) {
	t.Parallel()
	out, _, code := call(t, pear, "adapt", "--json", "--diet", "egg-free", "--diet", "dairy-free", "--ban", "soya", "--swap", "egg=chia-gel", "--tin", "muffin", "-")
	require.Equal(t, 0, code)
	d := document(t, out)
	keys(t, d, "recipe", "changes", "nutrition", "bake", "method", "equipment", "hands_min", "total_min", "cautions", "refused")
	gel := d["method"].([]any)[0].(map[string]any)
	assert.Equal(t, []any{"gel", "chia gel", true, map[string]any{"min": 15.0, "max": 15.0}}, []any{gel["verb"], gel["makes"], gel["changed"], gel["wait_min"]})
	assert.Nil(t, d["refused"])
	lines := d["recipe"].(map[string]any)["lines"].([]any)
	seen := map[string]bool{}
	for _, l := range lines {
		keys(t, l, "measure")
		seen[l.(map[string]any)["ingredient"].(string)] = true
	}
	assert.True(t, seen["chia"])
	for _, banned := range []string{"egg", "butter", "buttermilk", "soya-drink"} {
		assert.False(t, seen[banned], banned)
	}
	n := d["nutrition"].(map[string]any)
	for _, side := range []string{"serving", "before"} {
		keys(t, n[side], "energy_kcal", "fat_g", "saturates_g", "carbohydrate_g", "sugars_g", "fibre_g", "protein_g", "salt_g", "net_carb_g")
	}
	keys(t, d["bake"], "oven_c", "minutes", "first_look", "tin")
	assert.Equal(t, "12 muffin cups", d["bake"].(map[string]any)["tin"])
	whys := map[string]bool{} // as codes, beside the words
	for _, c := range d["changes"].([]any) {
		keys(t, c, "from", "to", "reason", "confidence")
		assert.NotEmpty(t, c.(map[string]any)["reason"])
		if why, ok := c.(map[string]any)["why"].(map[string]any); ok {
			whys[fmt.Sprint(c.(map[string]any)["use"], " ", why["kind"], " ", why["food"], " ", why["allergen"])] = true
		}
	}
	assert.True(t, whys["egg holds egg egg"], whys)
	assert.Contains(t, []any{"fine", "look"}, d["verdict_state"])

	out, _, code = call(t, pear, "adapt", "--diet", "egg-free", "-")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "ground flax")
}

func TestALimitAndWhatTheBatterBecomes(t *testing.T) {
	t.Parallel()
	out, _, code := call(t, pear, "adapt", "--json", "--diet", "keto", "--limit", "net-carb=1", "-")
	require.Equal(t, 0, code)
	d := document(t, out)
	assert.Equal(t, "nut", d["becomes"])
	limit := d["limits"].([]any)[0].(map[string]any)
	keys(t, limit, "what", "max", "written", "got", "plus", "kept", "words", "ways")
	assert.Equal(t, false, limit["kept"])
	assert.Len(t, limit["ways"], 3)
	assert.Contains(t, d["verdict"], "over your 1")
	out, _, _ = call(t, pear, "adapt", "--limit", "added-sugars=9", "-")
	assert.Contains(t, out, "a serving, within your 9.")
}

const honeyed = "Honey biscuits\nMakes 18\n250 g plain flour\n120 g butter\n54 g honey\n50 g golden syrup\n60 g sugar\n%s baking powder\nCream the butter and sugar, stir in the rest. Bake at 180 C for 12 minutes."

// Of what a limit replaces one ingredient may be kept; as-written keeps all of a use; what a
// demand shuts out cannot be.
func TestWhatIsKept(t *testing.T) {
	t.Parallel()
	text := fmt.Sprintf(honeyed, "1 tsp")
	out, _, code := call(t, text, "adapt", "--diet", "low-sugar", "--keep", "honey", "-")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "  54 g honey\n")
	assert.NotContains(t, out, "  50 g golden syrup\n")
	out, _, _ = call(t, text, "adapt", "--diet", "low-sugar", "--swap", "syrup=as-written", "-")
	assert.Contains(t, out, "  54 g honey\n  50 g golden syrup\n")
	out, _, _ = call(t, text, "adapt", "--diet", "vegan", "--keep", "honey", "-")
	assert.Contains(t, out, "? The honey cannot be kept: honey is of animals.")
	assert.NotContains(t, out, "g honey\n")
	_, errs, code := call(t, text, "adapt", "--keep", "blorf", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "“blorf” is not in the larder")
}

// The lines of a larger batch are written as large; what reading finds is said again.
func TestABatchAndWhatReadingFinds(t *testing.T) {
	t.Parallel()
	out, _, code := call(t, fmt.Sprintf(honeyed, "2 tbsp"), "adapt", "--scale", "2", "--servings", "40", "-")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "  500 g plain flour (4 cups + 3 tbsp)\n")
	assert.Contains(t, out, "1 of 40")
	assert.Contains(t, out, "First look at what is written: 4 tbsp of baking powder")
	assert.Contains(t, out, "\n✕ 2 tbsp of baking powder")
	_, errs, code := call(t, fmt.Sprintf(honeyed, "1 tsp"), "adapt", "--scale", "0", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "from 0.1 to 20")
}

func TestExitCodes(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		name  string
		stdin string
		args  []string
		code  int
		says  string // on standard error, or in the refusal
	}{
		{"no text", " ", []string{"read", "-"}, 2, "no text to read"},
		{"no such file", "", []string{"read", "/no/such/file"}, 2, "no such file"},
		{"no file named", "", []string{"adapt"}, 2, "name one file"},
		{"a flag that is none", pear, []string{"adapt", "--fast", "-"}, 2, "unknown flag"},
		{"no ingredient line", "A cake\n\nMix it well and then bake it.", []string{"adapt", "-"}, 2, "no ingredient line"},
		{"a diet that is none", pear, []string{"adapt", "--diet", "moonlight", "-"}, 2, "the ids are egg-free, dairy-free"},
		{"a ban that is none", pear, []string{"adapt", "--ban", "moon du5t", "-"}, 2, "neither an allergen"},
		{"a ban of nothing", pear, []string{"adapt", "--ban", " ", "-"}, 2, "--ban names nothing"},
		{"a ban beyond measure", pear, []string{"adapt", "--ban", strings.Repeat("moondust ", 9000), "-"}, 2, "was not looked at"},
		{"words that must not be there", pear + "\nServe with chopped walnuts.\n", []string{"adapt", "--ban", "nuts", "-"}, 4, ""},
		{"a ban that no table knows", pear, []string{"adapt", "--ban", "kiwi", "-"}, 0, ""},
		{"a use that is none", pear, []string{"adapt", "--swap", "stone=x", "-"}, 2, "is no swap"},
		{"a school that is none", pear, []string{"adapt", "--swap", "egg=x", "-"}, 2, "flax-gel"},
		{"a tin that is none", pear, []string{"adapt", "--tin", "bucket", "-"}, 2, "names no tin"},
		{"a limit that is none", pear, []string{"adapt", "--limit", "joy=5", "-"}, 2, "is no limit"},
	} {
		_, stderr, code := call(t, c.stdin, c.args...)
		assert.Equal(t, c.code, code, c.name)
		assert.Contains(t, stderr, c.says, c.name)
		assert.NotContains(t, stderr, "goroutine", c.name)
	}
	out, _, code := call(t, pear, "adapt", "--json", "--ban", "salt", "-")
	assert.Equal(t, 3, code)
	refused := document(t, out)["refused"].(map[string]any)
	assert.Contains(t, refused["reason"], "nothing to put in its place")
	assert.Len(t, refused["nearest"], 3)
}

// free finds a port that nothing listens at.
func free(t *testing.T) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	return l.Addr().String()
}

func TestServeStartsAnswersAndStops(t *testing.T) {
	t.Parallel()
	addr := free(t)
	db := filepath.Join(t.TempDir(), "deep", "er", "k.db")
	cmd := exec.Command(binary, "serve", "--addr", addr, "--db", db)
	var errs bytes.Buffer
	cmd.Stderr = &errs
	require.NoError(t, cmd.Start())
	defer cmd.Process.Kill() //nolint:errcheck // gone already when all is well
	require.Eventually(t, func() bool {
		res, err := http.Get("http://" + addr + "/healthz")
		if err != nil {
			return false
		}
		defer res.Body.Close()
		return res.StatusCode == 200
	}, 5*time.Second, 20*time.Millisecond, errs.String())

	_, stderr, code := call(t, "", "serve", "--addr", addr, "--db", filepath.Join(t.TempDir(), "other.db"))
	assert.Equal(t, 1, code)
	assert.Equal(t, "kollaris: "+addr+" is taken by another program: stop it, or choose another address with --addr\n", stderr)

	require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
	assert.NoError(t, cmd.Wait(), "a graceful stop exits with 0: %s", errs.String())
}

func TestADatabaseThatCannotBeUsedIsOneLine(t *testing.T) {
	t.Parallel()
	noise := filepath.Join(t.TempDir(), "noise.db")
	require.NoError(t, os.WriteFile(noise, []byte("a letter to the reader, and no database at all"), 0o600))
	_, stderr, code := call(t, "", "serve", "--addr", free(t), "--db", noise)
	assert.Equal(t, 1, code)
	assert.Contains(t, stderr, "cannot use the database")
	assert.Equal(t, 1, strings.Count(stderr, "\n"))
}

// A first start that is killed, or finds the disk full, leaves a file that the next start
// uses.
func TestAFirstStartMayBreakOff(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	broken := func(name string, start func(file string) *exec.Cmd, after time.Duration) {
		file := filepath.Join(dir, name)
		cmd := start(file)
		require.NoError(t, cmd.Start())
		if after > 0 {
			time.Sleep(after)
			_ = cmd.Process.Kill()
		}
		_ = cmd.Wait()
		st, err := store.Open(t.Context(), file)
		require.NoError(t, err, name)
		require.NoError(t, st.Health(t.Context()))
		_, err = st.Recipes(t.Context(), "")
		require.NoError(t, err, "%s: all tables are there", name)
		require.NoError(t, st.Close())
	}
	for n := range 40 {
		broken(fmt.Sprintf("killed-%d.db", n), func(file string) *exec.Cmd { return exec.Command(binary, "serve", "--addr", free(t), "--db", file) }, time.Duration(5+2*n)*time.Millisecond)
	}
	for _, kib := range []int{0, 4, 12, 40, 90} {
		broken(fmt.Sprintf("full-%d.db", kib), func(file string) *exec.Cmd {
			return exec.Command("bash", "-c", fmt.Sprintf("ulimit -f %d; exec timeout 1 %s serve --addr %s --db %s", kib, binary, free(t), file))
		}, 0)
	}
}

// Without a passphrase the program listens on this machine alone.
func TestItListensOnThisMachineAlone(t *testing.T) {
	t.Parallel()
	db := filepath.Join(t.TempDir(), "k.db")
	for addr, says := range map[string]string{":0": "can be reached by other machines", "0.0.0.0:0": "can be reached by other machines", "[::]:0": "let them in with --lan", "127.0.0.1": "is no address to listen at: try 127.0.0.1:8080"} {
		_, stderr, code := call(t, "", "serve", "--addr", addr, "--db", db)
		assert.Equal(t, 2, code, addr)
		assert.Contains(t, stderr, says)
		assert.NoFileExists(t, db)
	}
	noise := filepath.Join(t.TempDir(), "noise.db")
	require.NoError(t, os.WriteFile(noise, []byte("a letter to the reader, and no database at all"), 0o600))
	for _, host := range []string{"localhost", "[::1]"} {
		_, port, err := net.SplitHostPort(free(t))
		require.NoError(t, err)
		_, stderr, code := call(t, "", "serve", "--addr", host+":"+port, "--db", noise)
		assert.Equal(t, 1, code)
		assert.NotContains(t, stderr, "passphrase", host)
	}
}

func TestVersion(t *testing.T) {
	t.Parallel()
	out, _, code := call(t, "", "version")
	assert.Equal(t, 0, code)
	assert.Regexp(t, `^kollaris \S+, go\S+, \w+/\w+\n(built from [0-9a-f]{40} of \S+(, changed since)?\n)?$`, out)
}

func TestLarder(t *testing.T) {
	t.Parallel()
	out, _, code := call(t, "", "larder", "--json", "2 tbsp ground linseed", "corn flour", "wuzzle")
	require.Equal(t, 0, code)
	var docs []map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &docs))
	require.Len(t, docs, 3)
	keys(t, docs[0], "id", "confidence", "per_100g", "density", "pieces", "behaviour", "allergens", "sources")
	keys(t, docs[0]["per_100g"], "energy_kcal", "water_g", "protein_g", "fat_g", "saturates_g", "carbohydrate_g", "fibre_g", "sugars_g", "starch_g", "polyols_g", "sodium_mg")
	assert.Equal(t, []any{"flax-ground", true}, []any{docs[0]["id"], docs[0]["sure"]})
	assert.Equal(t, []any{"maize-flour", false}, []any{docs[1]["ambiguous_with"], docs[1]["sure"]})
	assert.Equal(t, "", docs[2]["id"])
	out, _, code = call(t, "", "larder", "plain flour")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "Builds the crumb with gluten.")
	_, _, code = call(t, "", "larder")
	assert.Equal(t, 2, code)
}
