package tin_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/measure"
	"kollaris/core/tin"
)

func TestTinsAsPeopleNameThem(t *testing.T) {
	for _, c := range []struct {
		in    string
		name  string
		shape tin.Shape
		count int
	}{
		{"loaf 9x5 in", "loaf 9x5 in", tin.Loaf, 1}, {"a 9 x 5-inch loaf pan", "loaf 9x5 in", tin.Loaf, 1}, {`9"x5" loaf tin`, "loaf 9x5 in", tin.Loaf, 1}, {"23 x 13 cm loaf tin", "loaf 9x5 in", tin.Loaf, 1},
		{"an 8.5 x 4.5 inch loaf pan", "loaf 8.5x4.5 in", tin.Loaf, 1}, {"8x4 loaf", "loaf 8x4 in", tin.Loaf, 1}, {"a 2 lb loaf tin", "loaf 9x5 in", tin.Loaf, 1}, {"450g loaf tin", "loaf 8x4 in", tin.Loaf, 1}, {"a loaf tin", "loaf 9x5 in", tin.Loaf, 1},
		{"20 cm round tin", "round 20 cm", tin.Round, 1}, {"round 20 cm", "round 20 cm", tin.Round, 1}, {"8-inch round cake pan", "round 8 in", tin.Round, 1}, {"a deep 23 cm springform tin", "round 23 cm, 7.5 cm deep", tin.Round, 1}, {"two 20 cm sandwich tins", "round 20 cm", tin.Round, 2},
		{"8-inch square pan", "square 8 in", tin.Square, 1}, {"square 8 in", "square 8 in", tin.Square, 1}, {"20 cm square tin", "square 20 cm", tin.Square, 1},
		{"13x9 in", "13x9 in", tin.Sheet, 1}, {"a 9 x 13 inch baking pan", "13x9 in", tin.Sheet, 1}, {"25 cm ring tin", "ring 25 cm", tin.Ring, 1},
		{"muffin", "muffin", tin.Cups, 12}, {"12-cup muffin tin", "muffin", tin.Cups, 12}, {"12 muffin cups", "muffin", tin.Cups, 12}, {"line 6 muffin cases", "muffin", tin.Cups, 6}, {"a mini muffin tin", "small muffin", tin.Cups, 24},
		{"prove in 2 x 2lb loaf tins", "loaf 9x5 in", tin.Loaf, 2}, {"three 18 cm sandwich tins", "round 18 cm", tin.Round, 3},
		// a first number is a count only where it can be no size
		{"5 x 9 inch loaf pan", "loaf 9x5 in", tin.Loaf, 1}, {"4 x 8 in loaf tin", "loaf 8x4 in", tin.Loaf, 1}, {"4 x 8 in loaf tins", "loaf 8x4 in", tin.Loaf, 4}, {"2 x 9x5 in loaf tins", "loaf 9x5 in", tin.Loaf, 2},
		{"2 x 8 inch round", "round 8 in", tin.Round, 2}, {"2 x 20 cm round", "round 20 cm", tin.Round, 2}, {"3 x 18 cm", "round 18 cm", tin.Round, 3}, {"3 x 6 inch round", "round 6 in", tin.Round, 3}, {"20 x 5 cm round", "round 20 cm", tin.Round, 1}, {"8 x 2 in round", "round 8 in", tin.Round, 1},
		{"two 8 inch rounds", "round 8 in", tin.Round, 2}, {"a pair of 20 cm tins", "round 20 cm", tin.Round, 2}, {"2 x 900g loaf tin", "loaf 9x5 in", tin.Loaf, 2}, {"2 x 2 lb loaf", "loaf 9x5 in", tin.Loaf, 2}, {"2 x 23 cm square", "square 9 in", tin.Square, 2},
		{"a lined baking sheet", "baking sheet", tin.Free, 1},
		{"two lined baking sheets", "baking sheet", tin.Free, 2},
		{"drop onto lined sheets", "baking sheet", tin.Free, 2},
		{"6-hole popover tin", "large muffin", tin.Cups, 6},
		{"an eight-inch round tin", "round 8 in", tin.Round, 1},
		{"two 9x13s", "13x9 in", tin.Sheet, 2},
	} {
		got, ok := tin.Parse(c.in)
		assert.True(t, ok, c.in)
		assert.Equal(t, c.shape, got.Shape, c.in)
		assert.Equal(t, c.count, got.Count, c.in)
		if c.shape != tin.Ring {
			assert.Equal(t, c.name, got.Name, c.in)
		}
	}
	for _, s := range []string{"", "a bowl", "cool in the tin", "bake 45 minutes", "2 cups"} {
		_, ok := tin.Parse(s)
		assert.False(t, ok, s)
	}
}

// The trade's table in cups (handbook): each tin inside its range.
func TestVolumesAgainstTheTradeTable(t *testing.T) {
	for name, r := range map[string][2]float64{
		"loaf 8x4 in": {4, 5.5}, "loaf 8.5x4.5 in": {6, 6}, "loaf 9x5 in": {8, 8}, "round 6 in": {4, 4}, "round 8 in": {6, 7}, "round 9 in": {8, 8}, "round 10 in": {10, 11},
		"square 8 in": {8, 8}, "square 9 in": {10, 10}, "13x9 in": {14, 15}, "muffin": {.5, .5}, "ring 10 in": {12, 12},
	} {
		got, _ := tin.Parse(name)
		cups := float64(got.Volume / measure.USCup)
		assert.GreaterOrEqual(t, cups, r[0]-0.01, name)
		assert.LessOrEqual(t, cups, r[1]+0.01, name)
	}
}

// Tins taper: no tin of the catalogue holds more than upright walls would (the table rounds to half cups), and none but a
// ring, whose funnel takes a quarter, less than two thirds.
func TestTinsTaper(t *testing.T) {
	for _, std := range tin.Standard {
		switch x := std.Taper(); std.Shape {
		case tin.Free:
			assert.Zero(t, x)
		case tin.Ring:
			assert.InDelta(t, 0.68, x, 0.1, std.Name)
		default:
			assert.True(t, x > 0.66 && x <= 1.03, "%s: %g", std.Name, x)
		}
	}
}

// Geometry stands in where the table has no row; at its own rows it comes near.
func TestGeometryComesNearTheTable(t *testing.T) {
	for _, c := range []struct{ odd, std string }{{"round 20 cm", "round 8 in"}, {"square 20 cm", "square 8 in"}, {"round 23 cm", "round 9 in"}} {
		a, _ := tin.Parse(c.odd)
		b, _ := tin.Parse(c.std)
		assert.InEpsilon(t, float64(b.Volume), float64(a.Volume), 0.10, c.odd)
	}
}

// By hand: 4 % of a 22.9 cm loaf is 9 mm; of a 20 cm round the rim is 62.8 cm, so 2.5 cm.
func TestASliceOfIt(t *testing.T) {
	for _, c := range []struct {
		name  string
		share float64
		want  string
	}{
		{"loaf 9x5 in", 0.04, "a slice 9 mm thick"}, {"round 20 cm", 0.04, "a wedge 2.5 cm wide at the rim"}, {"square 20 cm", 0.0625, "a piece 5 cm square"},
		{"12 muffin cups", 0.05, "0.6 of a cup"}, {"two 20 cm round tins", 0.02, "a wedge 2.5 cm wide at the rim"}, {"baking sheet", 0.1, ""}, {"loaf 9x5 in", 2, ""}, {"loaf 9x5 in", 0, ""},
	} {
		tn, ok := tin.Parse(c.name)
		assert.True(t, ok, c.name)
		assert.Equal(t, c.want, tn.Slice(c.share), "%s %g", c.name, c.share)
	}
}

// What is made, and what is near enough to a tin of the trade, on both sides of each line.
func TestSizesThatAreTins(t *testing.T) {
	for in, want := range map[string]bool{
		"8 cm round": true, "7 cm round": false, "45 cm round": true, "46 cm round": false,
		"8 cm ring": true, "7 cm ring": false, "45 cm ring": true, "46 cm ring": false,
		"120 x 60 cm tin": true, "121 x 60 cm tin": false, "30 x 20 x 40 cm": true, "30 x 20 x 41 cm": false,
		"30 x 1.9 cm": false, "30 x 20 x 0.9 cm": false,
	} {
		_, ok := tin.Parse(in)
		assert.Equal(t, want, ok, in)
	}
	for in, want := range map[string]string{
		"21.1 cm round": "round 8 in", // 3.8 % off the nearest of the trade
		"21.2 cm round": "round 21.2 cm",
		"28 cm square":  "square 28 cm",
		"36 x 12 cm":    "sheet 36×12 cm", "31 x 12 cm": "loaf 31×12 cm",
	} {
		got, ok := tin.Parse(in)
		assert.True(t, ok, in)
		assert.Equal(t, want, got.Name, in)
	}
	own, _ := tin.Parse("28 cm square")
	assert.Equal(t, 5.1, own.Depth, "the usual depth where none is named")
	deep, _ := tin.Parse("28 cm square, 7 cm deep")
	assert.Equal(t, 7.0, deep.Depth)
}

// What is not sure is asked, and never taken for another tin in silence. Cups of a ring, quarts of a dish, depths of what is
// named for its bake: the trade's (practice).
func TestATinIsAskedForWhereItIsNotSure(t *testing.T) {
	for _, c := range []struct{ in, words, asks, or string }{
		{"bundt 10 in", "ring 10 in", "", ""}, {"10-inch fluted tube pan", "ring 10 in", "", ""}, {"fluted tart tin 23 cm", "round 23 cm, 2.8 cm deep", "", ""},
		{"two 8 inch rounds", "2 × round 8 in", "", ""}, {"two 9x5 inch loaf pans", "2 × loaf 9x5 in", "", ""}, {"3 rounds 20 cm", "3 × round 20 cm", "", ""},
		{"12 cups", "12 muffin cups", "Muffin cups, or a tin that holds so many cups?", "ring 10 in"}, {"12 cup muffin tin", "12 muffin cups", "", ""}, {"18 mini muffins", "18 small muffin cups", "", ""},
		{"12-cup ring", "ring 10 in", "", ""}, {"10 cup bundt pan", "ring 23.9 cm, 8.4 cm deep, holds 2366 ml", "", ""}, {"2 quart baking dish", "sheet 24.5×17 cm, 5.1 cm deep, holds 1893 ml", "", ""}, {"2 litre tin", "round 23 cm", "Of what shape?", "ring 20 cm, holds 2000 ml"},
		{"three mini loaf pans", "3 × loaf 15×8 cm", "", ""}, {"loaf tin", "loaf 9x5 in", "No size is said: the larger of the two usual ones?", "loaf 8x4 in"}, {"gugelhupf", "ring 10 in", "No size is said: the usual large one?", "ring 20 cm"},
		{"20 cm", "round 20 cm", "Round or square?", "square 20 cm"}, {"23 cm springform", "round 23 cm, 6.5 cm deep", "", ""}, {"9-inch round, 2 inches deep", "round 9 in", "", ""}, {"8 in heart", "round 8 in", "It is counted as a round one. Nearer to a square?", "square 8 in"},
		{"jelly roll pan 15x10", "sheet 38.1×25.4 cm, 2 cm deep", "", ""}, {"15x8 loaf", "loaf 38.1×20.3 cm", "Inches, or cm?", "loaf 15×8 cm"}, {"swiss roll tin 33x23 cm", "sheet 33×23 cm, 2 cm deep", "", ""}, {"kastenform 30 cm", "loaf 30×11 cm", "", ""}, {"pie dish 9 in", "round 22.9 cm, 3.5 cm deep", "", ""}, {"1.5 l pudding basin", "round 14.5 cm, 9.4 cm deep", "", ""}, {"7 inch panettone case", "round 17.8 cm, 11.6 cm deep", "", ""}, {"6 ramekins", "6 ramekin cups", "", ""},
	} {
		r, ok := tin.Read(c.in)
		assert.True(t, ok, c.in)
		assert.Equal(t, c.words, r.Tin.Words(), c.in)
		assert.Equal(t, c.asks, r.Why, c.in)
		if assert.Equal(t, c.or == "", len(r.Or) == 0, c.in); c.or != "" {
			assert.Equal(t, c.or, r.Or[0].Words(), c.in)
			again, ok := tin.Parse(c.or)
			assert.True(t, ok, c.or)
			assert.InEpsilon(t, float64(r.Or[0].Volume), float64(again.Volume), 0.05, c.or)
		}
	}
}

// All the tins of a text, beside each other or one instead of the other, and the same when they are written out.
func TestAllTheTinsOfAText(t *testing.T) {
	for in, want := range map[string]string{
		"Grease a 9x5 inch loaf pan and a 6-cup muffin tin":   "loaf 9x5 in and 6 muffin cups",
		"one 9x5 in loaf tin and four small ones":             "loaf 9x5 in and 4 × loaf 15×8 cm",
		"20 cm or 23 cm springform tin":                       "round 20 cm or round 23 cm, 6.5 cm deep",
		"Use an 8-inch square pan or two 6-inch rounds":       "square 8 in or 2 × round 6 in",
		"Grease and flour two 9-inch cake pans":               "2 × round 9 in",
		"Bake in a 20 cm round tin and cool in the round tin": "round 20 cm",
		"Line a 2 lb loaf tin and heat a baking sheet":        "loaf 9x5 in",
		"a 9 inch/23 cm round tin":                            "round 9 in",
		"a 20 cm round tin and a 20 cm square tin":            "round 20 cm and square 20 cm",
		"Bake in a 2 lb loaf tin or in two 1 lb loaf tins":    "loaf 9x5 in or 2 × loaf 8x4 in",
	} {
		together := func(s string) string {
			var used, instead []tin.Tin
			for _, x := range tin.ReadAll(s) {
				if x.Else {
					instead = append(instead, x.Tin)
				} else {
					used = append(used, x.Tin)
				}
			}
			return tin.Together(used, instead)
		}
		assert.Equal(t, want, together(in), in)
		assert.Equal(t, want, together(want))
	}
	a, _ := tin.Parse("loaf 9x5 in")
	b, _ := tin.Parse("4 × loaf 15×8 cm")
	got := tin.Shares([]tin.Tin{a, b})
	assert.InDelta(t, 1893/(1893+4*567.6), got[0], 0.001)
	assert.InDelta(t, 1, got[0]+got[1], 1e-12)
	sheet, _ := tin.Parse("baking sheet")
	assert.Equal(t, []float64{0.5, 0.5}, tin.Shares([]tin.Tin{a, sheet}), "what has no walls parts it evenly")
}

// By hand: six and twelve cups of 7 cm with 1.5 cm a side, and the rim; a loaf tin nobody lists is 6.8 cm deep.
func TestWhatATinTakesOnAShelf(t *testing.T) {
	twelve, _ := tin.Parse("12 muffin cups")
	length, width := twelve.Footprint()
	assert.Equal(t, []float64{4*8.5 + 2, 3*8.5 + 2}, []float64{length, width})
	loaf, _ := tin.Parse("loaf 24x11 cm")
	assert.Equal(t, 6.8, loaf.Depth)
	assert.InDelta(t, 24*11*6.8*0.86, float64(loaf.Volume), 0.5)
}

func TestWhereABakeStands(t *testing.T) {
	for text, want := range map[string]string{
		"a lined baking sheet": "on a baking sheet", "two baking sheets": "on 2 baking sheets", "a 2 lb loaf tin": "in loaf 9x5 in",
	} {
		x, ok := tin.Read(text)
		assert.True(t, ok, text)
		assert.Equal(t, want, x.Tin.In())
	}
}
