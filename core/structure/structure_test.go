package structure

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/balance"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

var lib = larder.Builtin()

// batter is "100 plain-flour, 50 egg".
func batter(t *testing.T, of string) []balance.Item {
	t.Helper()
	var out []balance.Item
	for part := range strings.SplitSeq(of, ", ") {
		grams, id, _ := strings.Cut(part, " ")
		i := lib.Get(larder.ID(id))
		require.NotNil(t, i, id)
		var g float64
		for _, d := range grams {
			g = g*10 + float64(d-'0')
		}
		out = append(out, balance.Item{Ingredient: i, Grams: g})
	}
	return out
}

// By hand, for 100 g of flour: 8.5 g of gluten are 0.85, 50 g of egg 6.3/7.6 × 0.6 = 0.50, 70 g
// of starch 0.47.
func TestWhatCarriesABatter(t *testing.T) {
	for _, c := range []struct {
		of, carrier string
		kind        recipe.Kind
		want        float64
	}{
		{"100 plain-flour, 50 egg", "gluten", recipe.QuickBread, 0.85},
		{"100 plain-flour, 50 egg", "egg", recipe.QuickBread, 0.497},
		{"100 plain-flour, 50 egg", "egg", recipe.LeanBread, 0.348}, // counts 0.7 there
		{"200 plain-flour, 100 egg", "egg", recipe.QuickBread, 0.497},
		{"100 plain-flour, 50 egg", "starch", recipe.QuickBread, 0.467},
		{"100 plain-flour, 50 egg", "starch", recipe.LeanBread, 0.373},
		{"100 rice-flour, 5 psyllium-husk", "psyllium", recipe.LeanBread, 0.6},
		{"100 rice-flour, 20 psyllium-husk", "psyllium", recipe.LeanBread, 0.9},                                 // capped
		{"100 almond-flour, 20 psyllium-husk", "psyllium", recipe.LeanBread, 0.2 + 2*0.0037},                    // a gel alone,
		{"80 almond-flour, 20 cornflour, 20 psyllium-husk", "psyllium", recipe.QuickBread, 0.2 + 2*0.4*18.3/60}, // a little starch for it
		{"100 rice-flour, 2 xanthan", "gum", recipe.QuickBread, 0.4},
		{"100 rice-flour, 9 xanthan", "gum", recipe.QuickBread, 0.6},
		{"100 gf-blend-gum, 50 water", "gum", recipe.QuickBread, 0.12},
		{"100 plain-flour, 7 flax-ground", "seed", recipe.QuickBread, 0.15},
		{"100 plain-flour, 60 flax-ground", "seed", recipe.QuickBread, 0.35},
		{"100 plain-flour, 60 apple-puree", "puree", recipe.QuickBread, 0.08},
		{"100 plain-flour, 900 apple-puree", "puree", recipe.QuickBread, 0.2},
		{"100 plain-flour, 12 whey-protein", "whey", recipe.QuickBread, 0.5},
		{"100 plain-flour, 20 pea-protein", "protein", recipe.QuickBread, 0.343},
		{"100 plain-flour, 90 aquafaba", "foam", recipe.CreamedCake, 0.3},
		{"100 plain-flour, 90 aquafaba", "foam", recipe.AllInCake, 0.21},
		{"100 plain-flour, 90 aquafaba", "foam", recipe.LeanBread, 0},
		{"100 plain-flour, 200 cream-cheese", "cheese", recipe.Cheesecake, 0.2},
		{"100 plain-flour, 50 egg", "gluten", recipe.Sponge, 0},
		{"100 egg-white, 200 sugar", "egg", recipe.WhiteFoam, 10.9 / 7.6 * 0.6 / 0.75},
		{"100 egg, 200 sugar", "egg", recipe.WhiteFoam, 0},
	} {
		h := Judge(c.kind, batter(t, c.of), batter(t, c.of))
		assert.InDelta(t, c.want, h.By[c.carrier], 0.015, "%s in %s of %s", c.carrier, c.kind, c.of)
		sum := 0.0
		for _, x := range h.By {
			sum += x
		}
		assert.InDelta(t, sum, h.After, 1e-9, "%s of %s: the whole is its carriers", c.kind, c.of)
	}
}

// What trades say of the ends: it comes out, is a trial, or does not come out.
func TestWhatIsHeldUpAndWhatIsNot(t *testing.T) {
	for _, c := range []struct {
		kind          recipe.Kind
		before, after string
		fails, doubt  bool
		gone          string
	}{
		{recipe.QuickBread, "240 plain-flour, 100 egg", "240 plain-flour, 14 flax-ground", false, false, ""},
		{recipe.QuickBread, "240 plain-flour, 100 egg", "240 gf-blend, 2 xanthan, 100 egg", false, false, ""},
		{recipe.LeanBread, "500 strong-flour, 320 water", "500 almond-flour, 55 pea-protein, 25 psyllium-husk", false, true, ""},
		{recipe.LeanBread, "500 strong-flour, 320 water", "500 almond-flour, 320 water", true, true, "flour"},
		{recipe.LeanBread, "500 strong-flour, 320 water", "350 rice-flour, 150 tapioca, 25 psyllium-husk", false, false, ""},
		{recipe.Sponge, "120 plain-flour, 200 egg, 120 sugar", "120 plain-flour, 200 greek-yogurt, 120 sugar", true, true, "egg"},
		{recipe.Sponge, "120 plain-flour, 200 egg, 120 sugar", "120 gf-blend, 200 egg, 120 sugar", false, false, ""},
		{recipe.Custard, "500 cream, 102 egg-yolk", "500 cream, 30 sunflower-oil", true, true, "egg"},
		{recipe.Custard, "500 milk, 102 egg-yolk", "500 milk, 26 cornflour", false, false, ""},
		{recipe.Choux, "100 strong-flour, 150 egg, 75 butter", "100 strong-flour, 20 flax-ground", true, true, "egg"},
		{recipe.Choux, "100 strong-flour, 150 egg, 75 butter", "100 almond-flour, 150 egg", true, false, "flour"},
		{recipe.WhiteFoam, "130 egg-white, 260 sugar", "130 egg-white, 260 erythritol", true, false, "sugar"},
		{recipe.WhiteFoam, "130 egg-white, 260 sugar", "130 egg-white, 170 allulose, 80 erythritol", false, false, ""},
		{recipe.WhiteFoam, "330 egg-white, 250 sugar, 120 plain-flour", "330 egg-white, 250 allulose, 120 almond-flour, 100 egg", true, false, "yolk"},
		{recipe.WhiteFoam, "330 egg-white, 250 sugar, 120 plain-flour", "330 egg-white, 250 sugar, 110 almond-flour, 5 psyllium-husk", true, false, "husk"},
		{recipe.WhiteFoam, "330 egg-white, 250 sugar, 120 plain-flour, 3 psyllium-powder", "330 egg-white, 250 sugar, 120 gf-blend, 3 psyllium-powder", false, false, ""},
		{recipe.WhiteFoam, "330 egg-white, 250 sugar, 120 plain-flour", "330 aquafaba, 250 sugar, 120 plain-flour", true, true, "egg"},
		{recipe.AllInCake, "200 dark-chocolate, 300 egg, 200 sugar, 150 butter", "200 dark-chocolate, 40 chia, 250 water, 200 sugar, 150 butter", true, true, "egg"},
		{recipe.Biscuit, "240 plain-flour, 50 egg, 120 butter", "240 plain-flour, 120 butter", false, false, ""},
	} {
		h := Judge(c.kind, batter(t, c.before), batter(t, c.after))
		where := string(c.kind) + ": " + c.after + " — " + h.Words()
		assert.Equal(t, c.fails, h.Fails(), "%s %.2f", where, h.Share())
		assert.Equal(t, c.doubt, h.Doubtful(), "%s %.2f", where, h.Share())
		if c.gone != "" {
			assert.Equal(t, c.gone, h.Gone(), where)
			assert.NotEmpty(t, InsteadOf(c.kind, h.Gone()).Words, where)
		}
		as := Judge(c.kind, batter(t, c.before), batter(t, c.before))
		assert.GreaterOrEqual(t, as.Share(), 1.0, "%s as written is known to work", c.kind)
		assert.False(t, as.Fails() || as.Other(), "%s as written", c.kind)
	}
	other := Judge(recipe.Custard, batter(t, "500 milk, 102 egg-yolk"), batter(t, "500 milk, 26 cornflour"))
	assert.True(t, other.Other(), "it sets, as another")
	assert.False(t, Judge(recipe.QuickBread, batter(t, "240 plain-flour, 100 egg"), batter(t, "240 plain-flour, 14 flax-ground")).Other())
	assert.Equal(t, 1.0, Hold{}.Share(), "where nothing is needed")
	assert.Equal(t, "nothing", Hold{}.Words())
	assert.Equal(t, "egg protein 0.5", Hold{By: map[string]float64{"egg": 0.5, "gum": 0.04}}.Words())
}

// Every kind has its need and every bake that fails has a way out.
func TestTheTablesOfStructure(t *testing.T) {
	assert.Len(t, Needs(), len(recipe.Kinds))
	for _, k := range recipe.Kinds {
		for _, gone := range []string{"egg", "flour"} {
			assert.NotEmpty(t, InsteadOf(k.ID, gone).Did, "%s without %s", k.ID, gone)
		}
	}
	assert.NotEqual(t, InsteadOf(recipe.Choux, "egg").Did, InsteadOf(recipe.QuickBread, "egg").Did)
	for _, bad := range []struct{ carriers, needs, instead, says string }{
		{"id,words,of,per,gives,cap,source\negg,egg,fact:egg,x,1,1,practice\n", needCSV, insteadCSV, "carrier.csv:2"},
		{"id,words,of,per,gives,cap,source\negg,egg,fact:egg,1,1,1,hearsay\n", needCSV, insteadCSV, "carrier.csv:2"},
		{carrierCSV, "kind,need,counts,must,source\nbread,1,,,practice\n", insteadCSV, "is no kind"},
		{carrierCSV, "kind,need,counts,must,source\nchoux,1,glue:1,,practice\n", insteadCSV, "glue:1"},
		{carrierCSV, "kind,need,counts,must,source\nchoux,1,egg:much,,practice\n", insteadCSV, "egg:much"},
		{carrierCSV, "kind,need,counts,must,source\nchoux,much,,,practice\n", insteadCSV, "need.csv:2"},
		{carrierCSV, needCSV, "kind,gone,did,instead,source\nchoux,egg\n", "instead.csv"},
	} {
		_, err := load(bad.carriers, bad.needs, bad.instead)
		assert.ErrorContains(t, err, bad.says)
	}
}
