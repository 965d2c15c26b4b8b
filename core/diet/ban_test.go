package diet_test

import (
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/diet"
	"kollaris/core/larder"
)

// meant writes a demand as the table does.
func meant(d diet.Demand) string {
	out := slices.Clone(d.Bans)
	for _, id := range d.Diets {
		out = append(out, "diet:"+string(id))
	}
	slices.Sort(out)
	return strings.Join(out, "+")
}

func TestBansAsPeopleTypeThem(t *testing.T) {
	l := larder.Builtin()
	text, err := os.ReadFile("testdata/words.txt")
	require.NoError(t, err)
	count := 0
	for _, row := range strings.Split(string(text), "\n") {
		want, words, ok := strings.Cut(row, ": ")
		if !ok || strings.HasPrefix(row, "#") {
			continue
		}
		if want != "?" {
			ids := strings.Split(strings.TrimSuffix(want, "-alone"), "+")
			if strings.HasSuffix(want, "-alone") {
				ids[0] = "only:" + ids[0]
			}
			slices.Sort(ids)
			want = strings.Join(ids, "+")
		}
		for _, typed := range strings.Split(words, "; ") {
			count++
			d, bad := diet.ParseBans(strings.ReplaceAll(typed, `\n`, "\n"), l)
			if want == "?" {
				assert.NotEmpty(t, bad, "%q must be asked about, not taken for %s", typed, meant(d))
				continue
			}
			assert.Empty(t, bad, typed)
			assert.Equal(t, want, meant(d), typed)
		}
	}
	assert.GreaterOrEqual(t, count, 300)
}

func TestWhatIsNotCertainNamesWhatComesNear(t *testing.T) {
	for typed, says := range map[string]string{"pinut": "peanuts", "glutin": "gluten", "seasame": "sesame", "mikl": "milk", "bran": "wheat bran", "flour": "plain flour", "moon du5t": "neither an allergen nor in the larder", "tae": "tea", "coconut zorblax": "coconut", "milk free zorblax": "milk", "dark brown zorblax": "is it dark brown sugar"} {
		_, err := diet.ParseBan(typed, larder.Builtin())
		require.Error(t, err, typed)
		assert.Contains(t, err.Error(), says)
		assert.Contains(t, err.Error(), "nothing was shut out by it")
	}
}

// Whatever a ban is printed as reads back as the same ban, and so does its id: an address,
// a kept person and a typed word are one thing.
func TestABanReadsBackAsItself(t *testing.T) {
	l := larder.Builtin()
	var ids []string
	for _, b := range diet.Bans() {
		assert.NoError(t, b.Source.Check())
		d, err := diet.ParseBan(b.Words, l)
		require.NoError(t, err, b.Words)
		ids = append(ids, d.Bans...)
		assert.NotEmpty(t, d.Covers()[0])
	}
	for _, i := range l.All() {
		ids = append(ids, diet.Alone(i.ID, l))
	}
	assert.Greater(t, len(ids), 450)
	for _, id := range ids {
		for _, typed := range []string{id, diet.BanWords(id)} {
			d, err := diet.ParseBan(typed, l)
			require.NoError(t, err, typed)
			assert.Equal(t, []string{id}, d.Bans, typed)
		}
	}
}

// An independent walk: the ban of an allergen's own word shuts out, or asks to read the
// label of, every food that the catalogue says holds it.
func TestABanLeavesNoFoodOfItsAllergenIn(t *testing.T) {
	l := larder.Builtin()
	for word, allergens := range map[string][]string{"soys": {"soya"}, "groundnuts": {"peanuts"}, "Nuts.": {"nuts", "peanuts"}, "tree nuts": {"nuts"}, "sesame seeds": {"sesame"}, "dairy": {"milk"}, "eggs": {"egg"}, "glutens": {"gluten"}, "wheat": {"wheat"}, "sulfites": {"sulphites"}, "lupine": {"lupin"}, "celeriac": {"celery"}, "mustard seed": {"mustard"}, "shellfish": {"crustaceans", "molluscs"}, "seafood": {"fish", "crustaceans", "molluscs"}} {
		d, err := diet.ParseBan(word, l)
		require.NoError(t, err)
		for _, i := range l.All() {
			want := diet.Fine
			for _, a := range allergens {
				switch i.Allergens[a] {
				case larder.Contains, larder.May:
					want = diet.Breaks
				case larder.Check:
					want = max(want, diet.CheckLabel)
				}
			}
			got, _ := d.Judge(i)
			assert.Equal(t, want, got, "%s: %s", word, i.ID)
		}
	}
}

// The ban of an allergen of the law is of that alone.
func TestTheBanOfOneAllergen(t *testing.T) {
	for _, a := range larder.Allergens() {
		assert.Equal(t, []string{a}, diet.AllergensOf(diet.OfAllergen(a)))
	}
	assert.Equal(t, []string{"nuts", "peanuts"}, diet.AllergensOf("nuts"))
	assert.Empty(t, diet.AllergensOf("coconut"))
	assert.Empty(t, diet.AllergensOf("coconut-oil"))
	d := diet.Demand{Diets: []diet.ID{diet.EggFree}, Bans: []string{"nuts"}}
	assert.Equal(t, []bool{true, true, false}, []bool{d.ShutsOut("egg"), d.ShutsOut("peanuts"), d.ShutsOut("milk")})
}

// Families by what a shopper finds on the shelf, and what must stay.
func TestFamiliesAreShutOutWhole(t *testing.T) {
	l := larder.Builtin()
	for _, c := range []struct{ typed, breaks, check, fine string }{
		{"peanuts", "peanuts peanut-butter", "mixed-nuts groundnut-oil", "walnuts almond-butter"},
		{"coconut", "coconut-oil coconut-flour coconut-sugar desiccated-coconut coconut-yogurt", "vegan-cheese plant-block", "cocoa butter"},
		{"almonds", "almond-flour almond-unblanched marzipan almond-yogurt", "almond-extract mixed-nuts", "hazelnuts walnuts"},
		{"pecans", "pecans", "ground-walnuts mixed-nuts", "almonds walnuts"},
		{"cashews", "cashews cashew-drink", "hazelnut-butter vegan-cheese", "almonds"},
		{"lactose", "milk yogurt condensed-milk", "", "lactose-free-milk butter soya-drink"},
		{"corn", "cornflour cornmeal corn-syrup sweetcorn custard-powder", "baking-powder icing-sugar", "rice-flour potato-starch"},
		{"rice", "rice-flour brown-rice-flour rice-drink rice-syrup", "gf-blend", "oats"},
		{"legumes", "soya-drink peanut-butter lupin-flour chickpea-flour pea-protein aquafaba", "gf-blend", "almonds"},
		{"chocolate", "cocoa dutch-cocoa dark-chocolate white-chocolate choc-nut-spread drinking-chocolate", "", "carob-free coffee"},
		{"alcohol", "rum wine beer cider liqueur", "vanilla", "apple-juice"},
		{"pork", "lard bacon", "gelatine", "suet-beef butter"},
		{"sorbitol", "sorbitol", "pear prunes", "xylitol"},
		{"erythritol", "erythritol stevia-1to1 sweetener-1to1", "stevia-extract", "xylitol sugar"},
		{"fructose", "fructose honey agave-syrup pear", "sugar", "plain-flour butter dextrose"},
		{"grapes", "raisins sultanas wine balsamic", "muesli", "apple"},
		{"only soya milk", "soya-drink", "", "soya-flour silken-tofu"},
		{"only milk", "milk", "", "butter cream"},
		{"butter", "butter salted-butter ghee lactose-free-butter", "", "cocoa-butter peanut-butter milk"},
		{"nightshades", "potato potato-starch paprika tomato-puree", "gf-blend", "sweet-potato"},
	} {
		d, err := diet.ParseBan(c.typed, l)
		require.NoError(t, err, c.typed)
		for want, list := range map[diet.Verdict]string{diet.Breaks: c.breaks, diet.CheckLabel: c.check, diet.Fine: c.fine} {
			for _, id := range strings.Fields(list) {
				if i := l.Get(larder.ID(id)); i != nil {
					got, why := d.Judge(i)
					assert.Equal(t, want, got, "%s: %s: %s", c.typed, id, why)
				}
			}
		}
	}
}

// What a food holds of a sugar by its table shuts it out above a trace; what is not known
// is asked.
func TestASugarIsShutOutByTheTable(t *testing.T) {
	for held, want := range map[float64]diet.Verdict{0: diet.Fine, 0.45: diet.Fine, 0.55: diet.Breaks, math.NaN(): diet.CheckLabel} {
		i := larder.Ingredient{ID: "own-thing", Name: "thing"}
		i.Facts[larder.Fructose] = held
		got, _ := (diet.Demand{Bans: []string{"fructose"}}).Judge(&i)
		assert.Equal(t, want, got, "%g g", held)
	}
}

func TestADemandThatKeepsBoth(t *testing.T) {
	a := diet.Demand{Diets: []diet.ID{diet.Vegan}, Bans: []string{"soya"}, Limits: []diet.Limit{{What: diet.Sugars, Max: 9}}, Unread: []string{"x"}}
	b := diet.Demand{Diets: []diet.ID{diet.Vegan, diet.Keto}, Bans: []string{"soya", "nuts"}, Limits: []diet.Limit{{What: diet.Sugars, Max: 6}, {What: diet.Sodium, Max: 140}}, Unread: []string{"x", "y"}}
	want := diet.Demand{Diets: []diet.ID{diet.Vegan, diet.Keto}, Bans: []string{"soya", "nuts"}, Limits: []diet.Limit{{What: diet.Sugars, Max: 6}, {What: diet.Sodium, Max: 140}}, Unread: []string{"x", "y"}}
	assert.Equal(t, want, a.With(b))
	assert.Equal(t, 6.0, b.With(a).Limits[0].Max)
	assert.Equal(t, []string{"vegan", "no soya", "at most 9 g sugars a serving", "“x”, which is not understood"}, a.Words())
	assert.True(t, diet.Demand{}.Empty())
	for _, d := range []diet.Demand{{Diets: a.Diets}, {Bans: a.Bans}, {Limits: a.Limits}, {Unread: a.Unread}} {
		assert.False(t, d.Empty())
	}
}

// What the household calls its own is judged as what it behaves like, too.
func TestABanSeesThroughAnIngredientOfOnesOwn(t *testing.T) {
	l, left := larder.Builtin().With([]larder.Own{{ID: "own-crunch", Name: "Mill crunch", Like: "desiccated-coconut"}, {ID: "own-drink", Name: "Mill drink", Like: "soya-drink"}})
	require.Empty(t, left)
	for typed, want := range map[string]diet.Verdict{"coconut": diet.Breaks, "soya": diet.Fine, "only desiccated coconut": diet.CheckLabel, "Mill crunch": diet.Breaks} {
		d, err := diet.ParseBan(typed, l)
		require.NoError(t, err, typed)
		got, _ := d.Judge(l.Get("own-crunch"))
		assert.Equal(t, want, got, typed)
	}
}

func TestKeptBansAreReadAgain(t *testing.T) {
	l := larder.Builtin()
	d, asked := diet.Reread([]string{"soy", "milk", "lactose", "sesame-seed", "groundnut", "nuts", "walnuts", "flour"}, l)
	assert.Equal(t, []string{"soya", "milk", "sesame", "peanuts", "nuts", "walnuts"}, d.Bans)
	assert.Equal(t, []diet.ID{diet.LactoseFree}, d.Diets)
	assert.Equal(t, []string{"flour"}, d.Unread, "what is not understood is no free pass")
	var was []string
	for _, c := range asked {
		was = append(was, c.Was)
		assert.Equal(t, c.Was == "flour", c.Now == "")
	}
	assert.Equal(t, []string{"soy", "lactose", "sesame seed", "groundnut", "nuts", "walnuts", "flour"}, was, "milk meant milk all along")
}

// No input panics; what is understood is stable under its own words; and a word that is
// refused bans nothing.
func FuzzParseBans(f *testing.F) {
	for _, s := range []string{"soys", "Nuts.", "milk and eggs", "only soya milk", "nuts but not coconut", "Ei/Milch", "no no no", "œuf", "peanut\u00adbutter", strings.Repeat("nut ", 40), "only", "only:", "free from", "\xff\x00", "a-b-c-d-e-f-g-h-i-j-k-l-m-n-o-p-q"} {
		f.Add(s)
	}
	l := larder.Builtin()
	f.Fuzz(func(t *testing.T, typed string) {
		if len(typed) > 400 {
			return
		}
		d, bad := diet.ParseBans(typed, l)
		for _, m := range bad {
			if m.Why == "" || m.Typed == "" {
				t.Fatalf("%q: refused without a word", typed)
			}
		}
		for _, id := range d.Bans {
			back, err := diet.ParseBan(diet.BanWords(id), l)
			if err != nil || !slices.Equal(back.Bans, []string{id}) {
				t.Fatalf("%q: %q reads back as %v, %v", typed, id, back.Bans, err)
			}
		}
	})
}

// A food that is named after what is shut out is shut out, or its label is to be read: "flax
// egg" by flax. Those that only sound so stand here with why.
func TestFoodsNamedAfterABanAreShutOutByIt(t *testing.T) {
	only := map[string]string{
		"butter": "peanut-butter almond-butter hazelnut-butter sunflower-butter coconut-butter cocoa-butter apple-syrup", // none of milk
		"milk":   "coconut-milk coconut-condensed",
		"cream":  "cream-of-tartar cream-cheese coconut-cream oat-cream soya-cream vegan-whip",
		"cheese": "vegan-cheese vegan-soft-cheese",
		"yogurt": "soya-yogurt coconut-yogurt oat-yogurt almond-yogurt",
		"egg":    "flax-egg chia-egg vegan-mayo", // stand for it
		"sugar":  "sweetener-1to1 sugar-free-chocolate stevia-1to1 monk-fruit-1to1",
		"fruit":  "monk-fruit-extract monk-fruit-1to1", "vegetables": "shortening spread suet-veg", // its fat alone
		"potato": "sweet-potato", "salt": "salt-substitute", // another plant, another salt
	}
	l := larder.Builtin()
	asked := 0
	for _, b := range diet.Bans() {
		id := strings.ToLower(b.Words)
		d, bad := diet.ParseBans(id, l)
		if len(bad) > 0 || len(d.Bans) != 1 {
			continue
		}
		for _, i := range l.All() {
			named := false
			for _, w := range strings.Fields(strings.NewReplacer(",", " ", "-", " ").Replace(strings.ToLower(i.Name))) {
				named = named || w == id || w+"s" == id || w == id+"s"
			}
			if !named || strings.Contains(" "+strings.ReplaceAll(only[id], ":", " ")+" ", " "+string(i.ID)+" ") {
				continue
			}
			asked++
			v, _ := d.Judge(i)
			assert.NotEqual(t, diet.Fine, v, "%s (%s) for %s", i.Name, i.ID, id)
		}
	}
	assert.Greater(t, asked, 150)
}

// A list beyond measure is looked at as far as it may be one, and the rest is told: comparing each of ten thousand words with all that
// are known took half a minute.
func TestAListBeyondMeasure(t *testing.T) {
	l := larder.Builtin()
	for _, typed := range []string{strings.Repeat("glutin,", 14000), strings.Repeat("glutin and ", 9000), strings.Repeat("x", 100_000), strings.Repeat("glutin/", 80)} {
		_, bad := diet.ParseBans(typed, l)
		require.NotEmpty(t, bad)
		assert.LessOrEqual(t, len(bad), 101)
		for _, m := range bad {
			assert.LessOrEqual(t, len(m.Typed), 300)
		}
	}
	d, bad := diet.ParseBans("milk, kiwi, "+strings.Repeat("egg, ", 98)+"nuts", l)
	assert.Contains(t, d.Bans, "word:kiwi")
	assert.NotContains(t, d.Bans, "nuts")
	assert.Len(t, bad, 1, "the 101st is told")
	_, err := diet.ParseBan(strings.Repeat("y", 200), l)
	assert.ErrorContains(t, err, "too long")
}
