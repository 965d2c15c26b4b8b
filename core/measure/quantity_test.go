package measure_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/measure"
)

func TestScanQuantity(t *testing.T) {
	for _, c := range []struct {
		in       string
		min, max float64
		rest     string
	}{
		{"2 cups", 2, 2, " cups"},
		{"2.5 cups", 2.5, 2.5, " cups"},
		{"2,5 dl", 2.5, 2.5, " dl"},
		{"1,000 g", 1000, 1000, " g"},
		{"1/2 cup", .5, .5, " cup"},
		{"1 / 2 cup", .5, .5, " cup"},
		{"1⁄4 tsp", .25, .25, " tsp"},
		{"1 1/2 cups", 1.5, 1.5, " cups"},
		{"1-1/2 cups", 1.5, 1.5, " cups"},
		{"1 and 1/2 cups", 1.5, 1.5, " cups"},
		{"1 & ½ cups", 1.5, 1.5, " cups"},
		{"1½ cups", 1.5, 1.5, " cups"},
		{"1 ¾ cups", 1.75, 1.75, " cups"},
		{"⅔ cup", 2. / 3, 2. / 3, " cup"},
		{"half a cup", .5, .5, " cup"},
		{"a half cup", .5, .5, " cup"},
		{"Half an onion", .5, .5, " onion"},
		{"three quarters of a cup", .75, .75, " cup"},
		{"one and a half cups", 1.5, 1.5, " cups"},
		{"a dozen eggs", 12, 12, " eggs"},
		{"half a dozen eggs", 6, 6, " eggs"},
		{"a couple of eggs", 2, 2, " eggs"},
		{"two eggs", 2, 2, " eggs"},
		{"a pinch", 1, 1, " pinch"},
		{"2-3 tbsp", 2, 3, " tbsp"},
		{"2 – 3 tbsp", 2, 3, " tbsp"},
		{"2 to 3 tbsp", 2, 3, " tbsp"},
		{"2 or 3 pears", 2, 3, " pears"},
		{"1-1½ tsp", 1, 1.5, " tsp"},
		{"3-2 tbsp", 2, 3, " tbsp"},
		{"2 14-oz tins", 2, 2, " 14-oz tins"},
		{"1 3/4-inch slice", 1.75, 1.75, "-inch slice"},
		{"200g", 200, 200, "g"},
		{"  4 eggs", 4, 4, " eggs"},
		{"plain flour", 0, 0, "plain flour"},
		{"apples", 0, 0, "apples"},
		{"onely", 0, 0, "onely"},
		{"- flour", 0, 0, "- flour"},
	} {
		q, n, err := measure.ScanQuantity(c.in)
		require.NoError(t, err, c.in)
		assert.InDelta(t, c.min, q.Min, 1e-9, c.in)
		assert.InDelta(t, c.max, q.Max, 1e-9, c.in)
		assert.Equal(t, c.rest, c.in[n:], c.in)
	}
}

func TestAmountsThatCannotBeSayWhatWouldDo(t *testing.T) {
	for in, want := range map[string]string{
		"1/0 cup":     "divided by 0: try 1/2",
		"1 1/0 cup":   "divided by 0",
		"-2 cups":     "negative amount (-2) cannot be measured: try 2",
		"−½ cup":      "negative",
		"99999999 kg": "too much",
	} {
		_, _, err := measure.ScanQuantity(in)
		assert.ErrorContains(t, err, want, in)
	}
	for in, want := range map[string]string{"": "no amount", "some": "is not an amount", "2 cups": "is not an amount"} {
		_, err := measure.ParseQuantity(in)
		assert.ErrorContains(t, err, want, in)
	}
}

func TestQuantityWritesWhatScanReads(t *testing.T) {
	for _, s := range []string{"½", "1¾", "2–3", "0.7", "1⅓", "250"} {
		q, err := measure.ParseQuantity(s)
		require.NoError(t, err)
		assert.Equal(t, s, q.String())
	}
}

func FuzzScanQuantity(f *testing.F) {
	for _, s := range []string{"1 1/2", "½-¾", "one and a half", "1/0", "-3", "2,000,0", "٣"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		q, n, err := measure.ScanQuantity(s)
		if n < 0 || n > len(s) || utf8.ValidString(s) && !utf8.ValidString(s[n:]) {
			t.Fatalf("%q: took %d bytes", s, n)
		}
		if err == nil && (q.Min < 0 || q.Max < q.Min || q.Max > 1e6) {
			t.Fatalf("%q: %v", s, q)
		}
	})
}

func TestScanUnit(t *testing.T) {
	for _, c := range []struct{ in, unit, rest string }{
		{"cups flour", "cup", " flour"}, {"c. sugar", "cup", " sugar"}, {"C sugar", "cup", " sugar"}, {"T oil", "tbsp", " oil"}, {"t salt", "tsp", " salt"}, {"Tbsp. oil", "tbsp", " oil"},
		{"TSP salt", "tsp", " salt"}, {"tablespoonfuls", "tbsp", ""}, {"g flour", "g", " flour"}, {"gluten", "", "gluten"}, {"grams", "g", ""}, {"kg", "kg", ""}, {"fl oz milk", "fl oz", " milk"},
		{"fluid ounces", "fl oz", ""}, {"oz.", "oz", ""}, {"lbs", "lb", ""}, {"ml", "ml", ""}, {"litre", "l", ""}, {"large", "", "large"}, {"sticks butter", "stick", " butter"},
		{"pinch of", "pinch", " of"}, {"can’t", "", "can’t"}, {"pot-set yogurt", "", "pot-set yogurt"}, {"eggs", "", "eggs"},
	} {
		u, n := measure.ScanUnit(c.in)
		assert.Equal(t, c.unit, u.ID, c.in)
		assert.Equal(t, c.rest, c.in[n:], c.in)
	}
}

func TestSpoonsWriteWhatACookMeasures(t *testing.T) {
	k := measure.DefaultKitchen()
	for _, c := range []struct {
		ml   float64
		want string
	}{
		{236.6, "1 cup"}, {118.3, "½ cup"}, {59.1, "¼ cup"}, {78.9, "⅓ cup"}, {473.2, "2 cups"}, {266.2, "1 cup + 2 tbsp"}, {133, "½ cup + 1 tbsp"},
		{14.8, "1 tbsp"}, {22.2, "1½ tbsp"}, {29.6, "2 tbsp"}, {4.93, "1 tsp"}, {2.46, "½ tsp"}, {3.7, "¾ tsp"}, {1.23, "¼ tsp"}, {0.62, "⅛ tsp"}, {17.2, "1 tbsp + ½ tsp"}, {43.8, "3 tbsp"}, {0.4, "⅛ tsp"}, {0.3, "a pinch"}, {42.9, "2 tbsp + 2¾ tsp"}, {1.8, "¼ tsp + ⅛ tsp"}, {8.6, "1¾ tsp"},
	} {
		got, _ := k.Spoons(measure.Millilitres(c.ml))
		assert.Equal(t, c.want, got, "%g ml", c.ml)
	}
}

func TestSpoonsComeNearTheVolume(t *testing.T) {
	k := measure.DefaultKitchen()
	for ml := 2.0; ml < 900; ml *= 1.07 {
		text, back := k.Spoons(measure.Millilitres(ml))
		miss := float64(back) - ml
		assert.LessOrEqual(t, max(miss, -miss), max(0.13*ml, 0.7), "%g ml as %s", ml, text)
	}
}

func TestOvenTemperatures(t *testing.T) {
	for _, c := range []struct {
		in   string
		want float64
	}{
		{"Heat the oven to 350°F.", 176.7}, {"350 F", 176.7}, {"180C", 180}, {"180 °C (fan 160 °C)", 180}, {"220°C/200°C fan/gas 7", 220}, {"160C fan", 180}, {"fan 160", 180}, {"210C fan 190C", 210}, {"200°C, fan 180°C", 200}, {"180°C, fan 160°C", 180}, {"convection 160", 180}, {"160C convection", 180}, {"160 hot air", 180},
		{"gas mark three", 162.8}, {"gas mark six for 25 mins, then 180C", 204.4}, {"180C or gas mark three", 180}, {"Bake in a moderate oven", 180}, {"a hot oven for 10 minutes", 220}, {"in a very slow oven", 120},
		{"gas 4", 176.7}, {"Gas mark 7", 218.3}, {"preheat to 350 degrees", 176.7}, {"bake at 175º", 175}, {"325 degrees Fahrenheit", 162.8},
	} {
		got, _, _, ok := measure.FindOven(c.in)
		assert.True(t, ok, c.in)
		assert.InDelta(t, c.want, float64(got), 0.1, c.in)
	}
	for _, s := range []string{"97 °C in the middle", "20 cm round tin", "bake 45 minutes", "2 cups", "a 900 g tin"} {
		_, _, _, ok := measure.FindOven(s)
		assert.False(t, ok, s)
	}
	assert.Equal(t, "175 °C", measure.DefaultKitchen().OvenText(measure.FromFahrenheit(350)))
	assert.Equal(t, "350 °F", measure.Kitchen{Fahrenheit: true}.OvenText(176.7))
}

func TestTemperaturesAsTyped(t *testing.T) {
	for _, c := range []struct {
		in   string
		f    bool
		want float64
		ok   bool
	}{
		{"22", false, 22, true}, {"72", true, 22.222, true}, {" 22,5 °C", true, 22.5, true}, {"350F", false, 176.667, true}, {"-18 C", false, -18, true},
		{"", false, 0, false}, {"warm", false, 0, false}, {"20 K", false, 0, false}, {"NaN", false, 0, false}, {"1e999", false, 0, false},
	} {
		got, ok := measure.ParseTemperature(c.in, c.f)
		assert.Equal(t, c.ok, ok, c.in)
		assert.InDelta(t, c.want, float64(got), 0.01, c.in)
	}
	k := measure.Kitchen{Fahrenheit: true}
	assert.Equal(t, "205 °F", k.Temperature(96))
	assert.Equal(t, "96 °C", measure.Kitchen{}.Temperature(96))
}

// A sentence's temperatures are said in the kitchen's scale: by hand 96 °C is 204.8 °F, 38
// is 100.4, -18 is -0.4. Differences are written by Warmer.
func TestTemperaturesInASentence(t *testing.T) {
	f, c := measure.Kitchen{Fahrenheit: true}, measure.Kitchen{}
	for in, want := range map[string]string{
		"Bake until the middle reads 96 to 99 °C, and cool it.": "Bake until the middle reads 205 to 210 °F, and cool it.",
		"warm water, 38–43 °C":                                  "warm water, 100–109 °F",
		"firm below 24 °C; keep at -18 °C":                      "firm below 75 °F; keep at 0 °F",
		"90 °C in the middle is never reached at 85.5 °C":       "194 °F in the middle is never reached at 186 °F",
		"no heat in it: 12 g, 30 minutes":                       "no heat in it: 12 g, 30 minutes",
		"":                                                      "",
	} {
		assert.Equal(t, want, f.Say(in))
		assert.Equal(t, in, c.Say(in), "nothing to turn")
		assert.Equal(t, want, f.Say(f.Say(in)), "turned once is turned for good")
	}
	assert.Equal(t, "36 °F", f.Warmer(20))
	assert.Equal(t, "20 °C", c.Warmer(20))
	assert.Equal(t, "°F", f.Degrees())
	assert.Equal(t, "350 °F", f.OvenText(176.7), "a dial goes by fives")
	assert.Equal(t, "175 °C", c.OvenText(176.7))
}

func TestMarksOfGas(t *testing.T) {
	// GNU units, definitions.units: gasmark(1) = 275 °F, (0.5) = 250, (8) = 450.
	for mark, f := range map[float64]float64{0.25: 225, 0.5: 250, 1: 275, 4: 350, 8: 450} {
		assert.InDelta(t, f, measure.GasMark(mark).Fahrenheit(), 0.01, "mark %g", mark)
	}
}

func TestTeaspoonsOfTheWorld(t *testing.T) {
	assert.InDelta(t, 4.93, float64(measure.DefaultKitchen().Teaspoon()), 0.01)
	assert.InDelta(t, 5, float64(measure.Kitchen{Tablespoon: 20}.Teaspoon()), 0.01)
}

func TestDigits(t *testing.T) {
	for want, x := range map[string]float64{"0.463": 0.46312, "14": 14.04, "1235": 1234.6, "0": 0, "-0.5": -0.5} {
		assert.Equal(t, want, measure.Digits(x, 3))
	}
	assert.Equal(t, "1.2 g", measure.Grams(1.15).String())
	assert.Equal(t, "8.1 g", measure.Grams(1.75*4.6-2e-15).String(), "the last bit of a sum decides nothing")
	assert.Equal(t, "8 g", measure.Grams(8.049).String())
	for x, want := range map[float64]float64{2.5: 3, 2.5 - 1e-12: 3, 2.4999: 2, -2.5: -3, -2.5 + 1e-12: -3, 0: 0} {
		assert.Equal(t, want, measure.Nearest(x), "%g", x)
	}
	assert.False(t, strings.Contains(measure.Grams(12345).String(), "e"))
}

func TestAWritersTemperaturesInTheKitchensScale(t *testing.T) {
	f, c := measure.Kitchen{Fahrenheit: true}, measure.Kitchen{}
	for _, x := range []struct {
		in, f, c string
		oven     bool
	}{
		{"Bake at 190C for 20 minutes", "Bake at 375 °F for 20 minutes", "Bake at 190C for 20 minutes", true},
		{"Bake at 350 degrees F", "Bake at 350 degrees F", "Bake at 175 °C", true},
		{"until it reads 93°C", "until it reads 199 °F", "until it reads 93°C", false},
		{"reads 93 to 96 °C", "reads 199 to 205 °F", "reads 93 to 96 °C", false},
		{"warm water, 100-110F", "warm water, 100-110F", "warm water, 38-43 °C", false},
		{"at 180°C/350°F until", "at 350 °F until", "at 180°C/350°F until", true},
		{"at 350F (180C) until", "at 350F (180C) until", "at 180 °C until", true},
		{"in 2 C flour, 9 x 13 in, 30 F", "in 2 C flour, 9 x 13 in, 30 F", "in 2 C flour, 9 x 13 in, -1 °C", false},
	} {
		assert.Equal(t, x.f, f.InScale(x.in, x.oven))
		assert.Equal(t, x.c, c.InScale(x.in, x.oven))
	}
}

// Both sides of where a mass and a fraction are written otherwise.
func TestWhereWritingTurns(t *testing.T) {
	for g, want := range map[measure.Grams]string{
		9.94: "9.9 g", 10.4: "10 g", 9999: "9999 g", 10000: "10 kg", 12345: "12.35 kg", -9999: "-9999 g", -10400: "-10.4 kg",
	} {
		assert.Equal(t, want, g.String())
	}
	for x, want := range map[float64]string{0.5: "½", 0.505: "½", 0.507: "0.51", 0.493: "0.49", 0.495: "½"} {
		assert.Equal(t, want, measure.Quantity{Min: x, Max: x}.String(), "%g", x)
	}
}

// The international inch of 1959 is 2.54 cm exactly.
func TestTheInchIsExact(t *testing.T) { assert.Equal(t, 2.54, float64(measure.Inch)) }
