package e2e

import (
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/store"
)

// sheets are the pages of what is printed, in mm, and their text.
func (v visit) sheets() (sizes []string, text []string) {
	v.t.Helper()
	yes := true
	file := get(v, chromedp.PrintToPDF(func(p *page.PrintToPDFParams) { p.PreferCSSPageSize = &yes }))
	name := filepath.Join(v.t.TempDir(), "page.pdf")
	require.NoError(v.t, os.WriteFile(name, file, 0o644))
	info, err := exec.Command("pdfinfo", "-f", "1", "-l", "99", name).Output()
	require.NoError(v.t, err)
	for _, m := range regexp.MustCompile(`Page +\d+ size: +([\d.]+) x ([\d.]+) pts`).FindAllStringSubmatch(string(info), -1) {
		mm := func(pt string) int {
			x, err := strconv.ParseFloat(pt, 64)
			require.NoError(v.t, err)
			return int(math.Round(x / 72 * 25.4))
		}
		sizes = append(sizes, fmt.Sprintf("%dx%d", mm(m[1]), mm(m[2])))
	}
	out, err := exec.Command("pdftotext", "-layout", name, "-").Output()
	require.NoError(v.t, err)
	for _, p := range strings.Split(strings.TrimSuffix(string(out), "\f"), "\f") {
		text = append(text, strings.Join(strings.Fields(p), " "))
	}
	return sizes, text
}

// What is printed comes on the paper it is for, whole, and overflows only where the text needs it: the card, the card for
// the table, the sticker, one or a sheet of them.
func TestWhatIsPrintedFitsItsPaper(t *testing.T) {
	v := start(t)
	a4, letter, a5, a6, sticker := "210x297", "216x279", "148x210", "148x105", "100x60"
	long := "Longest loaf\nServes 12\n" + strings.Repeat("20 g plain flour\n", 40) + "2 eggs\n200 g sugar\n\n" + strings.Repeat("Stir it gently from the middle outwards until no streak is seen, then wait a little and stir once more, without haste. ", 14) + "\nBake at 180 C for 40 minutes in a 2 lb loaf tin."
	v.open("/new")
	v.run(chromedp.SetValue(chromedp.CSS("#text"), long))
	v.click("form.newform button")
	v.wait(".read-bar .btn-act")
	v.click(".read-bar .btn-act")
	v.wait("#bench")
	longOne := strings.TrimSuffix(eval[string](v, `location.pathname`), "/adapt")
	kept := func(recipe, query string) string {
		v.open(recipe + "/adapt" + query)
		v.click(".verdict-acts .btn-act")
		v.waitFor(`location.pathname.startsWith("/versions/")`)
		return eval[string](v, `location.pathname`)
	}
	pear := v.id("Pear and cardamom loaf")
	short, much := kept(pear, "?diet=egg-free&diet=gluten-free"), kept(longOne, "?diet=egg-free")
	for _, c := range []struct {
		at    string
		sizes []string
	}{
		{short + "/card", []string{a4}},
		{short + "/card?on=a5", []string{a5, a5}},
		{pear + "/tablecard?diet=egg-free", []string{a6}},
		{pear + "/tablecard?diet=egg-free&sheet=1", []string{"297x210"}},
		{pear + "/tablecard?diet=vegan&diet=gluten-free&size=sticker", []string{sticker}},
		{pear + "/tablecard?diet=egg-free&size=sticker&sheet=1", []string{a4}},
		{longOne + "/tablecard?size=sticker", []string{sticker}},
	} {
		v.open(c.at)
		sizes, text := v.sheets()
		assert.Equal(t, c.sizes, sizes, c.at)
		last := text[len(text)-1]
		assert.True(t, len(last) > 200, "%s: the last sheet holds more than what is said of estimates: %s", c.at, last)
	}
	v.open(pear + "/tablecard?diet=egg-free&sheet=1")
	_, text := v.sheets()
	assert.Equal(t, 4, strings.Count(text[0], "Made in a home kitchen"))
	v.open(pear + "/tablecard?diet=egg-free&size=sticker&sheet=1")
	_, text = v.sheets()
	assert.Equal(t, 8, strings.Count(text[0], "Made in a home kitchen"))

	v.open(much + "/card")
	sizes, text := v.sheets()
	assert.LessOrEqual(t, len(sizes), 2)
	assert.NotRegexp(t, `^Worked out by Kollaris`, text[len(text)-1])
	assert.Contains(t, strings.Join(text, " "), "likely done")

	require.NoError(t, v.st.ChangeHousehold(t.Context(), store.AnyRev, func(h *store.Household) { h.Paper = "letter" }))
	for at, want := range map[string]string{short + "/card": letter, pear + "/tablecard?sheet=1": "279x216", pear + "/tablecard?size=sticker&sheet=1": letter} {
		v.open(at)
		sizes, _ := v.sheets()
		assert.Equal(t, []string{want}, sizes, at)
	}
}
