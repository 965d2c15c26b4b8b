package larder_test

import (
	"maps"
	"math"
	"os"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/internal/gnuunits"
)

func TestEveryRowAddsUp(t *testing.T) {
	all := larder.Builtin().All()
	assert.GreaterOrEqual(t, len(all), 300)
	for _, i := range all {
		f := &i.Facts
		sum := f[larder.Water] + f[larder.Protein] + f[larder.Fat] + f[larder.Carbohydrate] + f[larder.Ash] + f[larder.Alcohol]
		assert.InDelta(t, 100, sum, 1.5, "%s: what it is made of", i.ID)
		carbs := f.Sugars() + f[larder.Starch] + f.Polyols() + f[larder.Allulose]
		assert.LessOrEqual(t, carbs, f[larder.Carbohydrate]-f[larder.Fibre]+1, "%s: sugars and starch", i.ID)
		assert.LessOrEqual(t, f[larder.Saturates], f[larder.Fat]+0.01, "%s: saturates", i.ID)
		assert.LessOrEqual(t, f[larder.SolidFat], f[larder.Fat]+0.01, "%s: solid fat", i.ID)
		for _, c := range []larder.Column{larder.Sodium, larder.Acid, larder.Absorption, larder.Sweetness, larder.Binding} {
			assert.True(t, f.Known(c), "%s: %s is not known", i.ID, larder.Columns[c].Name)
		}
		for c, x := range f {
			assert.False(t, !math.IsNaN(x) && (x < larder.Columns[c].Min || math.IsInf(x, 0)), "%s: %s", i.ID, larder.Columns[c].Name)
		}
		assert.NotEmpty(t, i.Shelf.Texture)
		assert.Contains(t, []string{"plant", "milk", "egg", "meat", "honey", "mineral"}, i.Origin, i.ID)
		for table, s := range i.Sources {
			assert.NoError(t, s.Check(), "%s %s", i.ID, table)
		}
	}
}

// What comes from an animal must carry its allergen: a row without it would be
// handed to those it harms.
func TestAnimalFoodsCarryTheirAllergen(t *testing.T) {
	for _, i := range larder.Builtin().All() {
		switch i.Origin {
		case "milk", "egg":
			assert.Equal(t, larder.Contains, i.Allergens[i.Origin], i.ID)
		}
		switch i.Family {
		case "wheat-flour":
			assert.Equal(t, larder.Contains, i.Allergens["gluten"], i.ID)
		case "nut-butter", "nut":
			// coconut, chestnuts and pine nuts are none of the tree nuts of EU law
			if i.ID != "desiccated-coconut" && i.ID != "coconut-butter" && i.ID != "chestnuts" && i.ID != "sunflower-butter" {
				held := i.Allergens["nuts"] + i.Allergens["peanuts"] + i.Allergens["sesame"]
				assert.Contains(t, held, larder.Contains, i.ID)
			}
		}
	}
}

// The reference table gives cups and spoons by ingredient and filling; yolk and
// white follow USDA instead (handbook).
func TestWeightsAgainstGNUUnits(t *testing.T) {
	for _, c := range []struct{ id, how, have string }{
		{"plain-flour", "sifted", "uscup flour_sifted"}, {"plain-flour", "spooned", "uscup flour_spooned"}, {"plain-flour", "scooped", "uscup flour_scooped"},
		{"cake-flour", "sifted", "uscup cakeflour_sifted"}, {"cake-flour", "spooned", "uscup cakeflour_spooned"}, {"cake-flour", "scooped", "uscup cakeflour_scooped"},
		{"strong-flour", "sifted", "uscup breadflour_sifted"}, {"strong-flour", "spooned", "uscup breadflour_spooned"}, {"strong-flour", "scooped", "uscup breadflour_scooped"},
		{"cornflour", "spooned", "uscup cornstarch"}, {"cocoa", "sifted", "uscup cocoa_sifted"}, {"cocoa", "spooned", "uscup cocoa_spooned"}, {"cocoa", "scooped", "uscup cocoa_scooped"},
		{"dutch-cocoa", "sifted", "uscup dutchcocoa_sifted"}, {"dutch-cocoa", "spooned", "uscup dutchcocoa_spooned"}, {"dutch-cocoa", "scooped", "uscup dutchcocoa_scooped"},
		{"butter", "packed", "uscup butter"}, {"ghee", "packed", "uscup butter_clarified"}, {"sunflower-oil", "liquid", "uscup oil"}, {"cream", "liquid", "uscup heavycream"},
		{"milk", "liquid", "uscup milk"}, {"sour-cream", "liquid", "uscup sourcream"}, {"treacle", "liquid", "uscup molasses"}, {"corn-syrup", "liquid", "uscup cornsyrup"},
		{"honey", "liquid", "uscup honey"}, {"sugar", "spooned", "uscup sugar"}, {"icing-sugar", "spooned", "uscup powdered_sugar"},
		{"light-brown-sugar", "packed", "uscup brownsugar_light"}, {"dark-brown-sugar", "packed", "uscup brownsugar_dark"},
		{"cocoa-butter", "packed", "uscup cocoa_butter"}, {"shortening", "packed", "uscup shortening"}, {"baking-powder", "level", "ustsp baking_powder"}, {"salt", "level", "ustsp salt"}, {"flaky-salt", "level", "ustsp koshersalt"}, {"egg", "large", "egg"},
	} {
		w, ok := larder.Builtin().Get(larder.ID(c.id)).WeightHow(c.how)
		require.True(t, ok, c.id+" "+c.how)
		assert.InEpsilon(t, gnuunits.Convert(t, c.have, "g"), float64(w.Grams), 0.05, "%s %s", c.id, c.how)
	}
}

// US law names nine; the EU fourteen. Wheat is in both laws' tables here, so that
// a wheat allergy is not taken for coeliac disease.
func TestTheNineAndTheFourteen(t *testing.T) {
	us := 0
	for _, a := range larder.Allergens() {
		if larder.IsUSAllergen(a) {
			us++
		}
	}
	assert.Equal(t, 9, us)
	assert.Len(t, larder.Allergens(), 16)
	for _, i := range larder.Builtin().All() {
		_, gluten := i.Has("gluten")
		_, wheat := i.Has("wheat")
		assert.Equal(t, gluten, wheat, "%s: one is said, the other not", i.ID)
	}
	assert.Equal(t, larder.Check, larder.Builtin().Get("rye-flour").Allergens["wheat"])
}

// One egg-equivalent: 38 g water, 6.3 g protein, 4.75 g fat (handbook of the
// trade, from USDA figures).
func TestAnEgg(t *testing.T) {
	f := larder.Builtin().Get("egg").Facts
	assert.InDelta(t, 38, f[larder.Water]/2, 0.5)
	assert.InDelta(t, 6.3, f[larder.Protein]/2, 0.1)
	assert.InDelta(t, 4.75, f[larder.Fat]/2, 0.1)
	assert.InDelta(t, 1, f[larder.Binding]/2, 1e-9)
}

func TestSweetnessFollowsFromTheSugars(t *testing.T) {
	l := larder.Builtin()
	// handbook working values: ripe banana 0.13, apple purée 0.1
	assert.InDelta(t, 0.13, l.Get("banana").Facts[larder.Sweetness], 0.03)
	assert.InDelta(t, 0.1, l.Get("apple-puree").Facts[larder.Sweetness], 0.03)
	assert.InDelta(t, 1, l.Get("caster-sugar").Facts[larder.Sweetness], 1e-9)
	for id, want := range map[larder.ID]float64{"xylitol": 1, "erythritol": 0.65, "maltitol": 0.9, "isomalt": 0.5, "allulose": 0.7} {
		assert.InDelta(t, want, l.Get(id).Facts[larder.Sweetness], 0.03, id)
	}
	// of sugars mixed, by hand from the sugars of the row
	for _, id := range []larder.ID{"milk", "raisin", "apple-puree", "pear"} {
		i := l.Get(id)
		if i == nil {
			continue
		}
		f := i.Facts
		want := (f[larder.Sucrose] + 1.2*f[larder.Fructose] + 0.7*f[larder.Glucose] + 0.4*f[larder.Maltose] + 0.2*f[larder.Lactose]) / 100
		assert.InDelta(t, want, f[larder.Sweetness], 0.01, id)
	}
}

// The corpus of testdata/names.txt: at least 97 of 100 right, and never a
// confident mistake that changes which allergens are seen.
func TestNames(t *testing.T) {
	b, err := os.ReadFile("testdata/names.txt")
	require.NoError(t, err)
	l := larder.Builtin()
	total, right := 0, 0
	for line := range strings.Lines(string(b)) {
		id, phrases, ok := strings.Cut(strings.TrimSpace(line), ": ")
		if !ok || strings.HasPrefix(line, "#") {
			continue
		}
		for phrase := range strings.SplitSeq(phrases, "; ") {
			total++
			m, found := l.Find(phrase, nil)
			sure := found && m.Confidence >= larder.SureEnough
			switch {
			case id == "?" && !sure, sure && string(m.ID) == id:
				right++
			case sure:
				t.Logf("%q: taken for %s, is %s", phrase, m.ID, id)
				if want := l.Get(larder.ID(id)); want == nil || !maps.Equal(want.Allergens, l.Get(m.ID).Allergens) {
					t.Errorf("%q is confidently taken for %s: its allergens are other ones", phrase, m.ID)
				}
			default:
				t.Logf("%q: asked about, is %s (best %s, %.2f)", phrase, id, m.ID, m.Confidence)
			}
		}
	}
	t.Logf("%d of %d right", right, total)
	assert.GreaterOrEqual(t, total, 400)
	assert.GreaterOrEqual(t, float64(right), 0.97*float64(total))
}

func TestAnAmbiguousNameNamesBoth(t *testing.T) {
	m, _ := larder.Builtin().Find("corn flour", nil)
	assert.Equal(t, larder.ID("maize-flour"), m.Ambiguous)
	assert.Less(t, m.Confidence, larder.SureEnough)
}

func TestWhatItDoes(t *testing.T) {
	for id, want := range map[larder.ID]string{"psyllium-husk": "Binds, and drinks six times its weight.", "plain-flour": "Builds the crumb with gluten.", "baking-soda": "Lifts where it meets acid.", "butter": "Creams and rubs in (firm at 20 °C).", "salt": "Salts and slows yeast."} {
		assert.Equal(t, want, larder.Builtin().Get(id).Does())
	}
	for _, i := range larder.Builtin().All() {
		assert.Regexp(t, `^[A-Z0-9].*\.$`, i.Does(), i.ID)
	}
}

func TestWhatTheHouseSettledIsRemembered(t *testing.T) {
	m, ok := larder.Builtin().Find("Corn  Flour", map[string]larder.ID{larder.Normal("corn flour"): "maize-flour"})
	require.True(t, ok)
	assert.Equal(t, larder.Match{ID: "maize-flour", Confidence: 1}, m)
}

func TestCupsAreFilledAsTheKitchenFillsThem(t *testing.T) {
	flour := larder.Builtin().Get("plain-flour")
	for filling, grams := range map[string]float64{"sifted": 113, "spooned": 120, "scooped": 142} {
		k := measure.DefaultKitchen()
		k.Filling = filling
		per, w, ok := flour.MLGrams(k)
		require.True(t, ok)
		assert.Equal(t, filling, w.How)
		assert.InDelta(t, grams, per*float64(measure.USCup), 0.1)
	}
}

func TestFaultsInTheTablesNameTheirPlace(t *testing.T) {
	head := map[string]string{
		"ingredient": "id,name,family,origin,source\n", "macro": "id,water,protein,fat,saturates,carbohydrate,fibre,ash,alcohol,source\n",
		"sugars":   "id,sucrose,glucose,fructose,lactose,maltose,starch,erythritol,xylitol,maltitol,sorbitol,isomalt,allulose,source\n",
		"minerals": "id,sodium,cholesterol,potassium,calcium,iron,phosphorus,source\n", "acid": "id,acid,soda,co2,source\n",
		"behave":  "id,absorption,sweetness,binding,gluten,egg_protein,setting_protein,solid_fat,air,source\n",
		"keep":    "id,edible,glycaemic,room_days,fridge_days,freezer_days,source\n",
		"family":  "family,texture,flour,moves,rebased,spooned,added_sugar,carbohydrate,pieces,salted,sweetens,fills,water,brands,source\n",
		"measure": "id,how,unit,grams,source\n", "allergen": "id,allergen,level,source\n", "name": "phrase,id,locale,ambiguous_with\n",
	}
	fs := fstest.MapFS{}
	for name, h := range head {
		fs[name+".csv"] = &fstest.MapFile{Data: []byte(h)}
	}
	put := func(table, row string) { fs[table+".csv"].Data = append(fs[table+".csv"].Data, row+"\n"...) }
	put("family", "wheat-flour,flour,yes,,,,,,,,,,none,,practice")
	put("family", "gf-flour,powder,yes,,,,,,,,,,none,,practice")
	put("family", "gf-flour,flour,yes,,,,,,,,,,none,,practice")
	put("family", "wheat-flour,flour,yes,,,,,,,,,,none,,practice")
	put("family", "nut-flour,flour,yes,,,,,,,,,,none,1.4,practice")
	put("ingredient", "flour,flour,wheat-flour,plant,practice")
	put("ingredient", "rice,rice,gf-flower,plant,practice")
	put("ingredient", "flour,flour again,wheat-flour,plant,hearsay")
	put("macro", "flour,120,1,1,1,1,1,1,0,practice")
	put("measure", "stone,level,cup,10,practice")
	put("allergen", "flour,dust,contains,practice")
	put("name", "powder,flour,,")
	put("name", "powder,nobody,,")
	_, err := larder.Load(fs)
	require.Error(t, err)
	for _, want := range []string{`ingredient.csv:4: id: "flour" stands here twice`, "macro.csv:2: water: \"120\": want a number from 0 to 100", `measure.csv:2: id: "stone"`, `allergen.csv:2: allergen: "dust"`, `name.csv:3: id: "nobody"`,
		`family.csv:3: texture: "powder": want one of flour, liquid, fat, sugar, egg, lift, fruit, salt`, `family.csv:4: family: "gf-flour" stands here twice`, `family.csv:5: family: "wheat-flour" stands here twice`, `family.csv:6: brands: "1.4": want a number from 0.01 to 1`,
		`family: a rule names "yeast", which has no row here`, `ingredient.csv:3: family: "gf-flower" is not in family.csv`} {
		assert.ErrorContains(t, err, want)
	}
}

func TestSearch(t *testing.T) {
	first := func(q string) larder.ID { return larder.Builtin().Search(q)[0].ID }
	assert.Equal(t, larder.ID("oat-bran"), first("oat b"))
	assert.Equal(t, larder.ID("flax-ground"), first("milled flax"), "by any of its names")
	assert.Empty(t, larder.Builtin().Search("wuzzle"))
	assert.Len(t, larder.Builtin().Search(" "), len(larder.Builtin().All()))
	assert.Contains(t, larder.Builtin().NamesOf("baking-soda"), "bicarb")
}

func BenchmarkFind(b *testing.B) {
	l := larder.Builtin()
	for b.Loop() {
		l.Find("2 tbsp of my best organic xantham gum powder", nil)
	}
}

// How sure a match is, by hand: a slip in a long word counts 0.85 of it, a word left over
// takes its share, a longer name a hundredth a word.
func TestHowSureAMatchIs(t *testing.T) {
	for phrase, want := range map[string]float64{"cinamon": 0.85, "buckweat flour": 1.85/2 + 0.02, "my special oat drink": 2./(2+2) + 0.02, "cinnamon": 1} {
		m, ok := larder.Builtin().Find(phrase, nil)
		require.True(t, ok)
		assert.InDelta(t, want, m.Confidence, 1e-9, phrase)
	}
	assert.Equal(t, 0.7, larder.SureEnough)
	for phrase, id := range map[string]larder.ID{"cinnmaon": "cinnamon", "cinnamonn": "cinnamon", "cinnomon": "cinnamon"} {
		m, _ := larder.Builtin().Find(phrase, nil)
		assert.Equal(t, id, m.ID, phrase)
	}
	for _, phrase := range []string{"dinnamon", "cinoman", "cinn"} { // another first letter, two slips, too short
		m, ok := larder.Builtin().Find(phrase, nil)
		assert.False(t, ok && m.ID == "cinnamon", phrase)
	}
}

// A packet's label held against itself, on both sides of each line.
func TestLinesOfALabel(t *testing.T) {
	like := larder.Builtin().Get("wheat-bran")
	base := larder.Label{Serving: 100, Fat: 4, Saturates: 1, Carbohydrate: 50, Sugars: 5, Fibre: 20, Protein: 15}
	for _, c := range []struct {
		field string
		at    func(*larder.Label)
		fault bool
	}{
		{"saturates", func(l *larder.Label) { l.Saturates = 4.1 }, false}, {"saturates", func(l *larder.Label) { l.Saturates = 4.12 }, true},
		{"sugars", func(l *larder.Label) { l.Sugars = 70.1 }, false}, {"sugars", func(l *larder.Label) { l.Sugars = 70.12 }, true},
		{"carbohydrate", func(l *larder.Label) { l.Carbohydrate = 62.4 }, false}, {"carbohydrate", func(l *larder.Label) { l.Carbohydrate = 62.6 }, true},
		{"fibre", func(l *larder.Label) { l.Fibre = 51 }, false}, // an EU table gives it beside the carbohydrate
		{"fibre", func(l *larder.Label) { l.US, l.Fibre = true, 50.1 }, false}, {"fibre", func(l *larder.Label) { l.US, l.Fibre = true, 50.12 }, true},
		// 9×4 + 4×15 + 4×50 + 2×20 = 336 kcal; a sixth and a bit is let pass
		{"energy", func(l *larder.Label) { l.Energy = 401 }, false}, {"energy", func(l *larder.Label) { l.Energy = 402 }, true},
		{"energy", func(l *larder.Label) { l.Energy = 271 }, false}, {"energy", func(l *larder.Label) { l.Energy = 270 }, true},
		{"serving", func(l *larder.Label) { l.Serving = 0 }, true},
	} {
		starchy := larder.Builtin().Get("plain-flour")
		v, _, _ := larder.Label{Serving: 100, Carbohydrate: 72, Sugars: 2, Fibre: 3, Protein: 10}.Values(starchy)
		assert.InDelta(t, 70, v["starch"], 1e-9, "what is neither sugar nor fibre is starch, as in what it behaves like; a label of this table gives fibre beside")
		lb := base
		c.at(&lb)
		_, _, faults := lb.Values(like)
		assert.Equal(t, c.fault, slices.ContainsFunc(faults, func(f larder.OwnFault) bool { return f.Field == c.field }), "%s: %+v", c.field, lb)
	}
	lb := base
	lb.Energy = 100
	_, _, faults := lb.Values(larder.Builtin().Get("erythritol"))
	assert.Empty(t, faults, "the factors do not fit polyols")
	assert.Equal(t, 1.5, larder.Pack{Grams: 500, Price: 3}.Per(250))
	// a weight measured the same way takes the place of the catalogue's, another is added
	n := len(larder.Builtin().Get("plain-flour").Weights)
	for how, want := range map[string]int{"spooned": n, "my mug": n + 1} {
		own, left := larder.Builtin().With([]larder.Own{{ID: "plain-flour", Weights: []larder.Weight{{How: how, Unit: "cup", Grams: 131}}}})
		assert.Empty(t, left)
		w, ok := own.Get("plain-flour").WeightHow(how)
		assert.True(t, ok)
		assert.EqualValues(t, 131, w.Grams)
		assert.Len(t, own.Get("plain-flour").Weights, want)
	}
	same, left := larder.Builtin().With(nil)
	assert.Same(t, larder.Builtin(), same)
	assert.Empty(t, left)
}

// What the other rules take from the figures, by hand.
func TestFiguresOfFigures(t *testing.T) {
	f := larder.Facts{}
	f[larder.Water], f[larder.Absorption] = 12, 0.6
	assert.InDelta(t, 12-60, f.FreeWater(), 1e-9, "flour drinks more than it brings")
	f[larder.Sucrose], f[larder.Glucose], f[larder.Erythritol], f[larder.Xylitol], f[larder.Allulose] = 10, 5, 20, 3, 7
	assert.InDelta(t, 15, f.Sugars(), 1e-9)
	assert.InDelta(t, 23, f.Polyols(), 1e-9)
	assert.InDelta(t, 45, f.Bulk(), 1e-9)
	for x, fine := range map[float64]bool{0: true, 100: true, -0.1: false, 100.1: false} {
		faults := larder.Own{ID: "plain-flour", Values: map[string]float64{"protein": x}}.Check(larder.Builtin())
		assert.Equal(t, fine, len(faults) == 0, "%g %v", x, faults)
	}
}

// What a food is made of comes to its weight.
func TestTheCatalogueComesToItsWeight(t *testing.T) {
	for _, i := range larder.Builtin().All() {
		f := &i.Facts
		sum := f[larder.Water] + f[larder.Protein] + f[larder.Fat] + f[larder.Carbohydrate] + f[larder.Ash] + f.Or(larder.Alcohol, 0)
		assert.InDelta(t, 100, sum, 3, "%s", i.ID)
		inside := f.Sugars() + f.Polyols() + f.Or(larder.Allulose, 0) + f.Or(larder.Starch, 0) + f.Or(larder.Fibre, 0)
		assert.LessOrEqual(t, inside, f[larder.Carbohydrate]+3, "%s: sugars, starch and fibre are carbohydrate", i.ID)
		assert.LessOrEqual(t, f.Or(larder.Saturates, 0), f[larder.Fat]+0.1, "%s", i.ID)
	}
}

// A slip of the pen is the word; another consonant in a short word may be a name of its own,
// and is asked about.
func TestSlipsAndNamesThatAreNearAWord(t *testing.T) {
	for phrase, sure := range map[string]bool{
		"suger": true, "suagr": true, "buttr": true, "flouer": true, "cucoa": true, "buttermilt": true,
		"stolk": false, "sugat": false, "brown sugat": false, "hutter": false,
	} {
		m, ok := larder.Builtin().Find(phrase, nil)
		assert.Equal(t, sure, ok && m.Confidence >= larder.SureEnough, "%s: %v", phrase, m)
	}
}

// What a weight and a pack may be, both sides of each bound.
func TestBoundsOfAPack(t *testing.T) {
	faults := func(o larder.Own) (fields []string) {
		for _, f := range o.Check(larder.Builtin()) {
			fields = append(fields, f.Field)
		}
		return fields
	}
	for grams, ok := range map[float64]bool{0: false, 0.1: true, 4999: true, 5000: false, -1: false} {
		got := faults(larder.Own{ID: "plain-flour", Weights: []larder.Weight{{How: "spooned", Unit: "cup", Grams: measure.Grams(grams)}}})
		assert.Equal(t, !ok, slices.Contains(got, "weight"), "a cup of %g g: %v", grams, got)
	}
	for _, c := range []struct {
		p  larder.Pack
		ok bool
	}{
		{larder.Pack{Grams: 1000, Price: 2}, true}, {larder.Pack{Grams: 1e5, Price: 2}, true}, {larder.Pack{Grams: 1.1e5, Price: 2}, false}, {larder.Pack{Stock: 20}, true},
		{larder.Pack{Price: 2}, false}, {larder.Pack{Grams: 10, Price: -1}, false}, {larder.Pack{Grams: 10, Price: 1e6}, false}, {larder.Pack{Grams: 10, Stock: -1}, false}, {larder.Pack{Grams: -1}, false},
	} {
		got := faults(larder.Own{ID: "plain-flour", Pack: &c.p})
		assert.Equal(t, !c.ok, slices.Contains(got, "pack"), "%+v: %v", c.p, got)
	}
}
