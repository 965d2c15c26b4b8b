package nutrition_test

import (
	"math"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
)

// 21 CFR 101.9(c), at every boundary: figure → as printed.
func TestRoundingOfTheUS(t *testing.T) {
	for id, rows := range map[string]string{
		"energy":       "0:0 4.9:0 5:5 7.4:5 7.5:10 47.5:50 50:50 51:50 55:60 104:100 105:110 244:240",
		"fat":          "0.49:0 0.5:0.5 0.74:0.5 0.75:1 4.7:4.5 4.75:5 5:5 5.4:5 5.5:6",
		"saturates":    "0.3:0 2.3:2.5 6.6:7",
		"cholesterol":  "1.9:0 2:less_than_5 5:less_than_5 5.1:5 7.4:5 7.5:10 52:50",
		"sodium":       "4.9:0 5:5 7:5 138:140 140:140 141:140 145:150 288:290",
		"potassium":    "4:0 62:60 199:200",
		"calcium":      "14:10 16:20",
		"iron":         "0.04:0.0 0.06:0.1 1.34:1.3 1.36:1.4",
		"carbohydrate": "0.4:0 0.5:less_than_1 0.99:less_than_1 1:1 1.4:1 1.5:2 30.5:31",
		"fibre":        "0.49:0 0.6:less_than_1 2.5:3",
		"added":        "0.4:0 12.4:12",
		"protein":      "0.7:less_than_1 3.5:4",
	} {
		for _, pair := range strings.Fields(rows) {
			x, want, _ := strings.Cut(pair, ":")
			assert.Equal(t, strings.ReplaceAll(want, "_", " "), nutrition.RoundUS(id, figure(t, x)), "%s %s", id, x)
		}
	}
}

func TestRoundingOfTheEU(t *testing.T) {
	for id, rows := range map[string]string{
		"energy": "244.4:244 244.5:245", "energy-kj": "1021.6:1022", "fat": "0.5:<0.5 0.51:0.5 3.25:3.3 9.94:9.9 9.96:10 10.4:10 10.5:11",
		"saturates": "0.1:<0.1 0.14:0.1 4.44:4.4 12.5:13", "sugars": "0.3:<0.5 0.56:0.6", "salt": "0.012:<0.01 0.013:0.01 0.444:0.44 0.994:0.99 0.996:1.0 1.26:1.3",
	} {
		for _, pair := range strings.Fields(rows) {
			x, want, _ := strings.Cut(pair, ":")
			assert.Equal(t, want, nutrition.RoundEU(id, figure(t, x)), "%s %s", id, x)
		}
	}
}

// Almond flour's carbohydrate lies ±40 % apart by its labels, a weighing ±2 %, a cup ±10 %; a
// pack of one's own ±5 %. Its fat has no more than the tables' ±10 %.
func TestHowFarAFigureMayBeOff(t *testing.T) {
	carb := func(i *larder.Ingredient) float64 { return i.Facts[larder.Carbohydrate] }
	l, left := larder.Builtin().With([]larder.Own{{ID: "own-almond", Name: "our almond flour", Like: "almond-flour", Values: map[string]float64{"fibre": 10}}})
	require.Empty(t, left)
	brings := carb(l.Get("almond-flour")) / 4 // 100 g in four
	for _, c := range []struct {
		id   larder.ID
		unit string
		want float64
	}{
		{"almond-flour", "g", math.Hypot(0.02, 0.4)}, {"almond-flour", "cup", math.Hypot(0.1, 0.4)}, {"own-almond", "g", math.Hypot(0.02, 0.05)},
	} {
		r := &recipe.Recipe{Servings: 4, Lines: []recipe.Line{{Ingredient: c.id, Grams: 100, Unit: c.unit}, {Ingredient: "egg", Grams: 10, Unit: "g"}}}
		plus, most := nutrition.Plus(r, l, carb)
		assert.InDelta(t, brings*c.want, plus, 0.001, c)
		assert.Equal(t, c.id, most.Ingredient)
	}
	sum := nutrition.Sum(&recipe.Recipe{Servings: 1, Lines: []recipe.Line{{Ingredient: "almond-flour", Grams: 100, Unit: "g"}}}, l)
	assert.InDelta(t, math.Hypot(0.02, 0.1), sum.Plus[larder.Fat]/sum.Facts[larder.Fat], 1e-9)
	assert.InDelta(t, math.Hypot(0.02, 0.4), sum.Plus[larder.Sodium]/sum.Facts[larder.Sodium], 1e-9)
	for _, row := range sum.Label(nutrition.US, 1) {
		if f := sum.Facts; row.ID == "energy" {
			of := math.Hypot(9*sum.Plus[larder.Fat], math.Hypot(4*sum.Plus[larder.Protein], 4*sum.Plus[larder.Carbohydrate])) / (9*f[larder.Fat] + 4*f[larder.Protein] + 4*f[larder.Carbohydrate])
			assert.InDelta(t, of, row.Plus/row.Exact, 1e-9)
		}
	}
}

// A worked label, by hand: 200 g sugar, 200 g butter, 200 g plain flour, 200 g egg, a
// creamed cake of 8. Fat: butter 81.1 × 2 + flour 1 × 2 + egg 9.5 × 2 = 183; loses 9 %
// in the oven: 800 → 728 g. Per 100 g as baked: 183/7.28 = 25.1.
func TestAWorkedLabel(t *testing.T) {
	r := &recipe.Recipe{Kind: recipe.CreamedCake, Servings: 8}
	for _, id := range []larder.ID{"sugar", "butter", "plain-flour", "egg"} {
		r.Lines = append(r.Lines, recipe.Line{Ingredient: id, Grams: 200, Unit: "g", Known: true})
	}
	sum := nutrition.Sum(r, larder.Builtin())
	assert.InDelta(t, 728, sum.Baked, 0.01)
	row := func(rows []nutrition.LabelRow, id string) nutrition.LabelRow {
		for _, x := range rows {
			if x.ID == id {
				return x
			}
		}
		require.Fail(t, "no row "+id)
		return nutrition.LabelRow{}
	}
	eu := sum.Label(nutrition.EU, sum.Of100())
	assert.InDelta(t, 25.1, row(eu, "fat").Exact, 0.4)
	assert.Equal(t, "25", row(eu, "fat").Text)
	us := sum.Label(nutrition.US, 1./8)
	// US carbohydrate holds the fibre: the flour's 200 × 2.7 % / 8 = 0.7 g more than the EU's
	euServing := sum.Label(nutrition.EU, 1./8)
	assert.InDelta(t, row(us, "fibre").Exact, row(us, "carbohydrate").Exact-row(euServing, "carbohydrate").Exact, 1e-9)
	assert.InDelta(t, 25, row(us, "added").Exact, 0.3, "200 g of sugar in eight")
	assert.InDelta(t, 4.184, row(eu, "energy-kj").Exact/row(eu, "energy").Exact, 0.06)
	assert.Zero(t, row(us, "potassium").Known, "no food of it has a figure for it")
	plus := row(eu, "fat").Plus
	assert.Greater(t, plus, 0.5)
	assert.Less(t, plus, 4.0, "±10 % at most")
}

func TestAlcoholThatIsLeft(t *testing.T) {
	for minutes, want := range map[float64]float64{15: .40, 30: .35, 45: .30, 60: .25, 90: .20, 120: .10, 150: .05, 240: .05} {
		assert.InDelta(t, want, nutrition.AlcoholLeft(minutes), 1e-9)
	}
	r := &recipe.Recipe{Kind: recipe.FruitCake, Bake: recipe.Minutes{Min: 60, Max: 60}, Lines: []recipe.Line{{Ingredient: "rum", Grams: 100, Unit: "g"}}}
	full := larder.Builtin().Get("rum").Facts[larder.Alcohol]
	assert.InDelta(t, full/4, nutrition.Sum(r, larder.Builtin()).Facts[larder.Alcohol], 1e-9)
	r.Lines[0].Role = recipe.Syrup
	assert.InDelta(t, full, nutrition.Sum(r, larder.Builtin()).Facts[larder.Alcohol], 1e-9, "spirit fed after baking stays")
}

func TestClaimsAtTheirThresholds(t *testing.T) {
	total := func(sugars, fibre, sodium float64) nutrition.Total {
		t := nutrition.Total{Baked: 100, Raw: 110}
		t.Facts[larder.Sucrose], t.Facts[larder.Carbohydrate], t.Facts[larder.Fibre], t.Facts[larder.Sodium] = sugars, sugars+fibre+40, fibre, sodium
		return t
	}
	meets := func(was, is nutrition.Total) string {
		var out []string
		for _, c := range nutrition.Claims(was, is, 2, func(string) []nutrition.Gap { return nil }) {
			if c.Meets {
				law, _, _ := strings.Cut(c.Law, " ")
				out = append(out, law+" "+c.Words)
			}
			assert.NotEmpty(t, c.Why)
		}
		return strings.Join(out, ", ")
	}
	was := total(30, 1, 500)
	assert.Empty(t, meets(was, was))
	assert.Equal(t, "EU low sugars, EU reduced sugars, 21 reduced sugar", meets(was, total(5, 1, 500)))
	assert.Equal(t, "EU reduced sugars, 21 reduced sugar", meets(was, total(21, 1, 500)), "30 % less")
	assert.Equal(t, "21 reduced sugar", meets(was, total(22, 1, 500)), "27 % less")
	assert.Equal(t, "EU source of fibre", meets(was, total(30, 3, 500)))
	assert.Equal(t, "EU source of fibre, EU high fibre", meets(was, total(30, 6.5, 500)))
	assert.Equal(t, "EU low sodium, 21 low sodium", meets(was, total(30, 1, 120)))
	assert.Equal(t, "21 low sodium", meets(was, total(30, 1, 280)), "140 mg in each of two servings")
}

func figure(t *testing.T, s string) float64 {
	t.Helper()
	x, err := strconv.ParseFloat(s, 64)
	require.NoError(t, err)
	return x
}

// Net carbohydrate by its three schools: 40 g carbohydrate with 5 fibre, 10 erythritol,
// 6 xylitol, 4 allulose: 15; 15 + 3 = 18; 15 + 4 = 19.
func TestNetCarbohydrate(t *testing.T) {
	sum := nutrition.Total{Baked: 100, Raw: 100}
	sum.Facts[larder.Carbohydrate], sum.Facts[larder.Fibre], sum.Facts[larder.Erythritol], sum.Facts[larder.Xylitol], sum.Facts[larder.Allulose] = 40, 5, 10, 6, 4
	var got []float64
	for _, n := range sum.Net(1) {
		got = append(got, n.Grams)
	}
	assert.Equal(t, []float64{15, 18, 19}, got)
}

// The same amounts in a bake of 80 g are a quarter more in 100 g, and a share is a share.
func TestClaimsAndNetByTheWeight(t *testing.T) {
	sum := nutrition.Total{Baked: 80, Raw: 90}
	sum.Facts[larder.Carbohydrate], sum.Facts[larder.Fibre], sum.Facts[larder.Sucrose], sum.Facts[larder.Sodium], sum.Facts[larder.Xylitol] = 40, 2, 4.2, 92, 8
	why := map[string]string{}
	for _, c := range nutrition.Claims(sum, sum, 4, func(string) []nutrition.Gap { return nil }) {
		if c.Law == "EU 1924/2006, annex" {
			why[c.Words] = c.Why
			assert.Equal(t, c.Words == "low sodium", c.Meets, c.Words)
		}
	}
	assert.Equal(t, "5.2 g of sugars in 100 g; 5 at most", why["low sugars"])
	assert.Equal(t, "115 mg of sodium in 100 g; 120 at most", why["low sodium"])
	net := sum.Net(0.5)
	assert.InDelta(t, 15, net[0].Grams, 1e-9, "(40 - 2 - 8) / 2")
	assert.InDelta(t, 17, net[1].Grams, 1e-9, "with half of the xylitol")
}

// Energy by each law's factors, a gram of each: EU 1169/2011 annex XIV and 21 CFR
// 101.9(c)(1)(i), by hand.
func TestEnergyByBothLaws(t *testing.T) {
	for _, c := range []struct {
		col            larder.Column
		kcal, us, kJ   float64
		inCarbohydrate bool
	}{
		{larder.Protein, 4, 4, 17, false}, {larder.Fat, 9, 9, 37, false}, {larder.Alcohol, 7, 7, 29, false}, {larder.Fibre, 2, 1, 8, true},
		{larder.Erythritol, 0, 0, 0, true}, {larder.Xylitol, 2.4, 2.4, 10, true}, {larder.Maltitol, 2.4, 2.1, 10, true}, {larder.Sorbitol, 2.4, 2.6, 10, true}, {larder.Isomalt, 2.4, 2, 10, true}, {larder.Allulose, 0.4, 0.4, 1.7, true}, {larder.Starch, 4, 4, 17, true},
	} {
		sum := nutrition.Total{Baked: 100, Raw: 100}
		sum.Facts[c.col] = 100
		if c.inCarbohydrate {
			sum.Facts[larder.Carbohydrate] = 100
		}
		exact := map[string]float64{}
		text := map[string]string{}
		for _, law := range []nutrition.Law{nutrition.EU, nutrition.US} {
			for _, r := range sum.Label(law, 1) {
				exact[string(law)+r.ID], text[string(law)+r.ID] = r.Exact, r.Text
			}
		}
		assert.InDelta(t, 100*c.kcal, exact["euenergy"], 1e-9, larder.Columns[c.col].Name)
		assert.InDelta(t, 100*c.us, exact["usenergy"], 1e-9, larder.Columns[c.col].Name)
		assert.InDelta(t, 100*c.kJ, exact["euenergy-kj"], 1e-9, larder.Columns[c.col].Name)
		if c.col == larder.Starch {
			assert.Equal(t, []string{"<0.5", "0"}, []string{text["eufat"], text["usfat"]}, "each law rounds in its way")
		}
	}
}

func TestTheListOfIngredients(t *testing.T) {
	l := larder.Builtin()
	r := &recipe.Recipe{Lines: []recipe.Line{{Name: "salt", Ingredient: "salt", Known: true}, {Name: "oats", Ingredient: "oats", Known: true, Grams: 50}, {Name: "butter", Ingredient: "butter", Known: true, Grams: 40}, {Name: "zorblax", Grams: 60}, {Name: "corn flour", Ingredient: "cornflour", Grams: 5}, {Name: "butter", Ingredient: "butter", Known: true, Grams: 30}}}
	assert.Equal(t, []nutrition.Listed{
		{Name: "butter", Grams: 70, Allergens: []string{"milk"}},
		{Name: "zorblax", Grams: 60, Unread: true},
		{Name: "oats", Grams: 50, Allergens: []string{"oats"}, Check: []string{"gluten", "wheat"}},
		{Name: "corn flour", Grams: 5, Unread: true},
		{Name: "salt"},
	}, nutrition.List(r, l))
}

// Added sugars are those of what is put in as sugar, not of fruit, milk or flour.
func TestAddedSugarsByHand(t *testing.T) {
	r := &recipe.Recipe{Servings: 1}
	for id, g := range map[larder.ID]float64{"sugar": 100, "milk": 100, "plain-flour": 100, "pear": 100, "raisins": 50} {
		r.Lines = append(r.Lines, recipe.Line{Ingredient: id, Grams: g, Known: true})
	}
	assert.InDelta(t, 99.8, nutrition.Sum(r, larder.Builtin()).Added, 1e-9)
	for id, want := range map[larder.ID]bool{"honey": true, "jam": true, "date-paste": true, "apple-puree": true, "pumpkin-puree": false, "raisins": false, "condensed-milk": true, "milk": false, "erythritol": true} {
		assert.Equal(t, want, nutrition.IsAdded(larder.Builtin().Get(id)), id)
	}
}

// What a bake loses in the oven, from a cheesecake's twentieth to choux's third. Source: common
// practice, 6 to 14 % for batters and doughs.
func TestWhatABakeLoses(t *testing.T) {
	for k, want := range map[recipe.Kind]float64{
		recipe.QuickBread: 0.1, recipe.AllInCake: 0.09, recipe.CreamedCake: 0.09, recipe.FruitCake: 0.06, recipe.Scone: 0.11, recipe.Biscuit: 0.13,
		recipe.LeanBread: 0.11, recipe.Flatbread: 0.12, recipe.OneBowl: 0.08, recipe.WhiteFoam: 0.15, recipe.Cheesecake: 0.05, recipe.Choux: 0.3,
		recipe.Griddle: 0.1, recipe.Custard: 0.06, recipe.Brownie: 0.08, "unheard of": 0.1,
	} {
		assert.InDelta(t, want, nutrition.Loss(k), 1e-9, k)
	}
}

// A daily value is a share of the law's, and no row has one that the law gives none. Source:
// published, 21 CFR 101.9(c)(9) and EU 1169/2011 annex XIII.
func TestDailyValues(t *testing.T) {
	var sum nutrition.Total
	sum.Facts[larder.Sodium], sum.Facts[larder.Fat], sum.Facts[larder.Carbohydrate], sum.Facts[larder.Erythritol] = 230, 39, 60, 5
	for law, want := range map[nutrition.Law]map[string]float64{
		nutrition.US: {"sodium": 10, "fat": 50, "carbohydrate": 60. / 2.75, "polyols": 0, "energy": 0, "saturates": 0},
		nutrition.EU: {"fat": 39. / 0.7, "salt": 0.575 / 0.06, "polyols": 0, "carbohydrate": 60. / 2.6},
	} {
		got := map[string]float64{}
		for _, r := range sum.Label(law, 1) {
			got[r.ID] = r.Daily
		}
		for id, daily := range want {
			assert.InDelta(t, daily, got[id], 0.01, "%s %s", law, id)
		}
	}
}
