// Package arch holds the one test of who may import whom.
package arch

import (
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// order lists core bottom to top: a package imports only what stands before it.
var order = []string{"fact", "phrase", "pattern", "tasting", "learn", "measure", "text", "text/en", "larder", "tin", "recipe", "step", "device", "balance", "structure", "reader", "method", "nutrition", "diet", "scan", "yeast", "soak", "doneness", "goal", "heat", "swap", "formula", "oven", "sweet", "review", "keep", "bake", "adapt", "table", "plan", "why", "trial"}

// leaves hold no word of baking: they import nothing of ours.
var leaves = []string{"fact", "phrase", "pattern", "goal", "heat", "doneness", "tasting", "text"}

// outside is what core may use beside the standard library.
var outside = []string{"gonum.org/v1/gonum/", "golang.org/x/text/", "github.com/pelletier/go-toml/v2"}

// never is what core must not use of the standard library.
var never = []string{"database/sql", "html/template", "net/http"}

// checks are what core's tests may use beside what core may: texts and a reference to
// check against, never pages or the database.
var checks = []string{"kollaris/internal/demo/recipes", "kollaris/internal/gnuunits"}

// imports lists what each package imports, or what its tests do.
func imports(t *testing.T, of string) map[string][]string {
	t.Helper()
	cmd := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join "+of+" \" \"}}", "./...")
	cmd.Dir = "../.."
	out, err := cmd.Output()
	require.NoError(t, err)
	m := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		f := strings.Fields(line)
		m[f[0]] = f[1:]
	}
	return m
}

func TestCoreImportsNothingOfTheApplication(t *testing.T) {
	seen := 0
	for pkg, deps := range imports(t, ".Imports") {
		name, ok := strings.CutPrefix(pkg, "kollaris/core/")
		if !ok {
			continue
		}
		seen++
		at := slices.Index(order, name)
		require.GreaterOrEqual(t, at, 0, "%s has no place in the order", pkg)
		for _, d := range deps {
			if own, ok := strings.CutPrefix(d, "kollaris/"); ok {
				below, isCore := strings.CutPrefix(own, "core/")
				require.True(t, isCore, "%s imports %s", pkg, d)
				assert.Less(t, slices.Index(order, below), at, "%s imports %s, which stands above it", pkg, d)
				assert.NotContains(t, leaves, name, "%s is a leaf and imports %s", pkg, d)
				continue
			}
			assert.NotContains(t, never, d, "%s imports %s", pkg, d)
			if first, _, _ := strings.Cut(d, "/"); strings.Contains(first, ".") {
				assert.True(t, slices.ContainsFunc(outside, func(o string) bool { return strings.HasPrefix(d, o) }), "%s imports %s", pkg, d)
			}
		}
	}
	assert.Equal(t, len(order), seen, "the order names packages that are gone")
}

func TestTheTestsOfCoreNeedNothingOfTheApplication(t *testing.T) {
	for _, of := range []string{".TestImports", ".XTestImports"} {
		for pkg, deps := range imports(t, of) {
			if !strings.HasPrefix(pkg, "kollaris/core/") {
				continue
			}
			for _, d := range deps {
				assert.True(t, !strings.HasPrefix(d, "kollaris/") || strings.HasPrefix(d, "kollaris/core/") || slices.Contains(checks, d), "a test of %s imports %s", pkg, d)
				assert.NotContains(t, never, d, "a test of %s imports %s", pkg, d)
			}
		}
	}
}

// A family is compared by its constant, which loading checks; what a rule asks of
// more than one is a column of family.csv.
func TestNoRuleSpellsAFamily(t *testing.T) {
	spelt := regexp.MustCompile(`\bFamily\s*[!=]=\s*"[^"]|switch \w+(\.\w+)*\.Family \{\s*case "`)
	require.NoError(t, filepath.WalkDir("../..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		b, err := os.ReadFile(path)
		assert.Empty(t, spelt.FindAllString(string(b), -1), path)
		return err
	}))
}

func TestNothingImportsTheCommandOrThePages(t *testing.T) {
	for pkg, deps := range imports(t, ".Imports") {
		for _, d := range deps {
			assert.False(t, strings.HasPrefix(d, "kollaris/cmd/"), "%s imports %s", pkg, d)
			if d == "kollaris/internal/web" {
				assert.Equal(t, "kollaris/cmd/kollaris", pkg)
			}
		}
	}
}

// What a page shows is worked out in files that know nothing of requests.
func TestViewsKnowNoRequest(t *testing.T) {
	files, err := filepath.Glob("../web/*view.go")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, path := range files {
		b, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.NotRegexp(t, `"net/http"|gin-gonic/gin"`, string(b), path)
	}
}

// A page's context goes back for the next request to use, so that nothing which may outlive the request holds it: what is
// given is that of the request, which also ends when who asked has gone.
func TestNobodyHoldsAPage(t *testing.T) {
	held := regexp.MustCompile(`\b(?:store\.\w+|journal\.\w+|larder)\(c[,)]`)
	files, err := filepath.Glob("../web/*.go")
	require.NoError(t, err)
	for _, path := range files {
		b, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Empty(t, held.FindAllString(string(b), -1), "%s: give c.Request.Context()", path)
	}
}

// expressions is how many regular expressions each package of core still holds outside the doors, where a text is understood and sentences are
// made. None may get more; who takes some out lowers the figure.
var expressions = map[string]int{"adapt": 14, "balance": 18, "larder": 2, "measure": 14, "method": 22, "nutrition": 1, "pattern": 1, "plan": 3, "reader": 119, "review": 9, "tin": 40}

// A language is understood in core/text and nowhere else: what is left elsewhere is counted, and only goes down. No package may begin.
func TestEnglishStandsAtTheDoors(t *testing.T) {
	spelt := regexp.MustCompile(`\b(?:regexp\.MustCompile|pattern\.Must)\(`)
	found := map[string]int{}
	require.NoError(t, filepath.WalkDir("../../core", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		b, err := os.ReadFile(path)
		if name := strings.TrimPrefix(filepath.ToSlash(filepath.Dir(path)), "../../core/"); !strings.HasPrefix(name, "text") {
			if n := len(spelt.FindAll(b, -1)); n > 0 {
				found[name] += n
			}
		}
		return err
	}))
	assert.Equal(t, expressions, found, "a phrase is a row of core/text/en/data/sign.csv; lower the figure where expressions went")
}
