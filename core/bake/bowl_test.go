package bake_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/bake"
	"kollaris/core/diet"
	"kollaris/core/formula"
	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// squeezing is a loaf with vegetables that are squeezed, for as many of its diets.
func squeezing(t testing.TB, vegetable string, grams int, diets ...diet.ID) bake.Sheet {
	t.Helper()
	rd, err := reader.Read(fmt.Sprintf(`Savoury loaf
Serves 10
220 g plain flour
2 tsp baking powder
1/2 tsp salt
2 eggs
80 g sunflower oil
120 g milk
%d g %s, grated

Salt the %[2]s, drain 30 minutes and squeeze it.
Stir flour, baking powder and salt in a bowl.
Whisk the eggs with the oil and the milk, stir them into the dry.
Fold in the %[2]s.
Bake at 180 C for 50 minutes.
`, grams, vegetable), reader.Options{})
	require.NoError(t, err)
	res, err := adapt.Adapt(rd.Recipe, adapt.Request{Diets: diets}, adapt.DefaultKit())
	require.NoError(t, err)
	require.Nil(t, res.Refused)
	return bake.Sheet{Name: res.Recipe.Title, Recipe: res.Recipe, Tasks: res.Method, Preheat: 20}
}

func sumOf(a formula.BowlAmounts, id string) formula.BowlSum {
	for _, s := range a.Sums {
		if s.ID == id {
			return s
		}
	}
	return formula.BowlSum{}
}

// Squeezed more or less by two fifths than usual, the wetness comes back into its window in loaves on
// wheat and on nuts: the liquid takes it, or flour is added; held lines stay.
func TestSqueezedVegetablesMoreOrLess(t *testing.T) {
	for _, vegetable := range []string{"courgettes", "carrots"} {
		for _, grams := range []int{150, 250} {
			for _, diets := range [][]diet.ID{nil, {diet.EggFree}, {diet.DairyFree}, {diet.GlutenFree}, {diet.GrainFree}, {diet.Keto}} {
				for _, off := range []float64{-0.4, -0.2, 0.2, 0.4} {
					s := squeezing(t, vegetable, grams, diets...)
					id := larder.ID("courgette")
					if vegetable == "carrots" {
						id = "carrot"
					}
					line := lineOf(t, s, id)
					want, water, after := s.Expected(line.ID)
					require.True(t, water)
					assert.Equal(t, method.Squeeze, s.Tasks[after].Verb, "weighed once it is squeezed")
					assert.InDelta(t, 0.72*line.Grams, want, 1e-9)
					p, _ := fold(s, bake.Event{What: bake.Weighs, Line: line.ID, Value: want * (1 + off)})
					b := p.Bowl(s, kit(diets...))
					assert.InDelta(t, want*off, b.Water[line.ID], 1e-9)
					got, err := b.Solve()
					require.NoError(t, err)
					w := sumOf(got, "water")
					assert.InDelta(t, want*off, w.Is-w.Aim, 0.01)
					told := bake.Tell(b, got)
					if w.Miss > 0 && b.Water[line.ID] > 0 { // more than all the rest takes up: it is squeezed again
						again := fmt.Sprintf("Squeeze the %s again: %.0f g more", line.Name, math.Ceil(w.Miss))
						require.Contains(t, strings.Join(told.Moves, " "), again)
						assert.Empty(t, told.Stays)
						b.Water[line.ID] -= math.Ceil(w.Miss)
						got, err = b.Solve()
						require.NoError(t, err)
						w = sumOf(got, "water")
					}
					assert.Zero(t, w.Miss, "%s %d %v %+.0f %%: %+v", vegetable, grams, diets, 100*off, got.Moves)
					if w.Off != 0 {
						assert.NotEmpty(t, told.Moves)
						assert.Contains(t, told.Why, "than worked out")
					}
				}
			}
		}
	}
}

// Too much of any line, up to a fifth: the sums come back, or it is said what does not.
func TestTooMuchOfALineComesBackOrIsSaid(t *testing.T) {
	for _, diets := range [][]diet.ID{nil, {diet.EggFree, diet.DairyFree}, {diet.GlutenFree}} {
		s := sheetOf(t, "1-pear-cardamom-loaf.txt", diets...)
		for _, l := range s.Recipe.Batter() {
			if l.Grams < 5 {
				continue
			}
			for _, k := range []float64{1.06, 1.2} {
				b := formula.Bowl{Aim: s.Recipe, Larder: lib, Kitchen: home, In: map[recipe.LineID]float64{l.ID: k * l.Grams}, Water: map[recipe.LineID]float64{}}
				got, err := b.Solve()
				require.NoError(t, err)
				told := bake.Tell(b, got)
				for _, sum := range got.Sums {
					if sum.Off != 0 && sum.Miss == 0 {
						assert.NotEmpty(t, told.Moves, "%s ×%g: %s", l.Name, k, sum.ID)
					}
				}
				n := 0
				for _, sum := range got.Sums {
					if sum.Miss != 0 {
						n++
					}
					assert.LessOrEqual(t, math.Abs(sum.Miss), math.Abs(sum.Off)+0.03*sum.Scale, "%s ×%g: %s is not made worse", l.Name, k, sum.ID)
				}
				assert.Len(t, told.Stays, n, "what does not come back is said")
			}
		}
	}
}

func TestTheRestIsScaledToWhatIsIn(t *testing.T) {
	s := loaf(t)
	flour, sugar := lineOf(t, s, "plain-flour"), lineOf(t, s, "sugar")
	dry := taskOf(t, s, method.Beat)
	p, _ := fold(s,
		bake.Event{What: bake.Put, Task: dry, Line: flour.ID, Value: 1.1 * flour.Grams}, bake.Event{What: bake.Scale, Value: 1.1},
	)
	b := p.Bowl(s, kit())
	assert.InDelta(t, 1.1*sugar.Grams, b.Aim.Line(sugar.ID).Grams, 1e-6)
	assert.InDelta(t, 1.1*flour.Grams, b.In[flour.ID], 1e-6)
	got, err := b.Solve()
	require.NoError(t, err)
	assert.Empty(t, got.Moves)
	eggs := sheetOf(t, "1-pear-cardamom-loaf.txt")
	egg := lineOf(t, eggs, "egg")
	for k, n := range map[float64]float64{1.06: 2, 1.2: 2, 1.3: 3, 2: 4, 0.4: 1} {
		p, _ := fold(eggs, bake.Event{What: bake.Scale, Value: k})
		assert.InDelta(t, n*50, p.Bowl(eggs, kit()).Aim.Line(egg.ID).Grams, 0.01, "%g: whole eggs", k)
	}
}

// What a line weighs: of two tasks that take of it, a spoonful, a slip, what is held.
func TestWhatTheBowlTakesForIn(t *testing.T) {
	s := sheetOf(t, "3-cheddar-chive-scones.txt")
	cheese, egg := lineOf(t, s, "cheddar"), lineOf(t, s, "egg")
	mix := taskOf(t, s, method.Mix)
	p, _ := fold(s, bake.Event{What: bake.Done, Task: mix})
	assert.NotContains(t, p.Bowl(s, kit()).In, cheese.ID, "a part is in as it should: the rest is open")
	p, _ = fold(s, bake.Event{What: bake.Put, Task: mix, Line: cheese.ID, Value: 100})
	share := 0.0
	for _, u := range s.Tasks[mix].Uses {
		if u.Line == cheese.ID {
			share = u.Share
		}
	}
	require.Less(t, share, 1.0)
	assert.InDelta(t, 100+(1-share)*cheese.Grams, p.Bowl(s, kit()).In[cheese.ID], 1e-6)
	p, _ = fold(s, bake.Event{What: bake.Spoon, Line: egg.ID, Value: 15})
	assert.InDelta(t, egg.Grams+15, p.Bowl(s, kit()).In[egg.ID], 1e-6)
	p, _ = fold(s, bake.Event{What: bake.Spoon, Food: "water", Value: 15}, bake.Event{What: bake.Slip, Text: "got-in", Food: "sugar", Value: 20})
	k := kit()
	k.Held = []larder.ID{"egg"}
	b := p.Bowl(s, k)
	require.Len(t, b.Extra, 2)
	assert.Equal(t, 15.0, b.Extra[0].Grams)
	assert.Equal(t, 20.0, b.Extra[1].Grams)
	assert.Equal(t, []recipe.LineID{egg.ID}, b.Held)
	p, _ = fold(s, bake.Event{What: bake.Spoon, Line: egg.ID, Food: "egg", Value: 15})
	assert.Empty(t, p.Bowl(s, kit()).Extra, "a spoonful of a line is that line's")
	p, _ = fold(s, bake.Event{What: bake.Spoon, Food: "no-such-food", Value: 15})
	assert.Empty(t, p.Bowl(s, kit()).Extra)
}

func TestHowItStandsAndWhatToAdd(t *testing.T) {
	s := sheetOf(t, "1-pear-cardamom-loaf.txt")
	assert.Equal(t, "drops", bake.ConsistencyOf(s.Recipe, lib).Wanted)
	_, ok := bake.Correct(s.Recipe, "drops", lib, home)
	assert.False(t, ok, "as it should be")
	c, ok := bake.Correct(s.Recipe, "stands", lib, home)
	require.True(t, ok)
	assert.Equal(t, larder.ID("buttermilk"), c.Food)
	assert.InDelta(t, 15.3, c.Grams, 0.4, "a tablespoon")
	assert.Contains(t, c.Words, "stiffer")
	c, ok = bake.Correct(s.Recipe, "pours", lib, home)
	require.True(t, ok)
	assert.Equal(t, larder.ID("plain-flour"), c.Food)
	assert.InDelta(t, 7.6, c.Grams, 0.5)
	assert.Contains(t, c.Words, "softer")
	_, ok = bake.Correct(s.Recipe, "unheard", lib, home)
	assert.False(t, ok)
	c, ok = bake.Correct(&recipe.Recipe{Kind: recipe.Biscuit, Lines: []recipe.Line{{ID: 1, Ingredient: "plain-flour", Grams: 100}}}, "crumbles", lib, home)
	require.True(t, ok)
	assert.Equal(t, larder.ID("water"), c.Food, "no liquid of its own")
	nut := sheetOf(t, "8-almond-orange-cake.txt")
	assert.Equal(t, "drops", bake.ConsistencyOf(nut.Recipe, lib).Wanted, "%s on nuts, a step stiffer", nut.Recipe.Kind)
	rolls := sheetOf(t, "4-rye-honey-rolls.txt")
	want := bake.ConsistencyOf(rolls.Recipe, lib)
	assert.True(t, want.Dough)
	assert.Equal(t, bake.Doughs, want.Row())
	free := bake.ConsistencyOf(sheetOf(t, "4-rye-honey-rolls.txt", diet.GlutenFree).Recipe, lib)
	assert.False(t, free.Dough, "without gluten it is a batter")
	for n := range rolls.Tasks {
		p, _ := fold(rolls)
		for _, w := range p.Weighings(rolls, n, lib, home, nil) {
			if w.Food.Shelf.Moves == "liquid" && w.Target > 200 {
				assert.InDelta(t, w.Target/10, w.Back, 3, "a tenth of a dough's liquid is kept back")
			} else {
				assert.Zero(t, w.Back, w.Line.Name)
			}
		}
	}
	p, _ := fold(s)
	for n := range s.Tasks {
		for _, w := range p.Weighings(s, n, lib, home, nil) {
			assert.Zero(t, w.Back, "wheat batters are known: %s", w.Line.Name)
		}
	}
}

// What can be saved after a slip, by what the bowl then holds.
func TestSlips(t *testing.T) {
	s := sheetOf(t, "1-pear-cardamom-loaf.txt")
	id := func(f larder.ID) recipe.LineID { return lineOf(t, s, f).ID }
	judge := func(k bake.Kit, x bake.Slipped, events ...bake.Event) string {
		p, _ := fold(s, events...)
		r := p.Judge(s, x, k)
		var b strings.Builder
		b.WriteString(r.Lead + "|" + r.Never)
		for _, w := range r.Ways {
			b.WriteString("|" + w.Title + ": " + w.How)
		}
		return b.String()
	}
	in := bake.Event{What: bake.WentIn, Task: taskOf(t, s, method.Bake)}
	for _, c := range []struct {
		x    bake.Slipped
		in   bool
		want []string
		not  []string
	}{
		{bake.Slipped{Kind: bake.Twice, Line: id("baking-soda")}, false, []string{"2.3 g instead of 1.1 g", "double batch"}, []string{"Begin anew"}},
		{bake.Slipped{Kind: bake.Twice, Line: id("sugar")}, false, []string{"double batch", "What stays: sweeter"}, []string{"Begin anew"}},
		{bake.Slipped{Kind: bake.Twice, Line: id("sugar")}, true, []string{"Let it bake"}, []string{"double batch", "Lift it out"}},
		{bake.Slipped{Kind: bake.Instead, Line: id("sugar"), Food: "salt"}, false, []string{"Begin anew", "Nothing takes salt out", "Lift it out"}, []string{"Go on with it"}},
		{bake.Slipped{Kind: bake.Instead, Line: id("baking-powder"), Food: "baking-soda"}, false, []string{"Begin anew", "soap"}, nil},
		{bake.Slipped{Kind: bake.Instead, Line: id("salt"), Food: "sugar"}, false, []string{"Add what is missing"}, []string{"Begin anew"}},
		{bake.Slipped{Kind: bake.Forgot, Line: id("sugar")}, false, []string{"Add the granulated sugar now: 133 g", "Dissolve"}, []string{"Lift"}},
		{bake.Slipped{Kind: bake.Forgot, Line: id("sugar")}, true, []string{"syrup"}, []string{"Add the"}},
		{bake.Slipped{Kind: bake.Forgot, Line: id("baking-powder")}, false, []string{"Sift it over"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("baking-powder")}, true, []string{"flat, close slab"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("salt")}, false, []string{"tablespoon of the liquid"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("salt")}, true, []string{"Salted butter"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("egg")}, false, []string{"by thirds"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("egg")}, true, []string{"may not hold"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("butter")}, false, []string{"lukewarm"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("butter")}, true, []string{"drier"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("plain-flour")}, false, []string{"toughens"}, nil},
		{bake.Slipped{Kind: bake.Forgot, Line: id("pear")}, false, []string{"till it is even"}, nil},
		{bake.Slipped{Kind: bake.Forgot}, false, []string{"Say which line"}, nil},
		{bake.Slipped{Kind: bake.Instead, Line: id("sugar")}, false, []string{"Say what went in instead"}, nil},
		{bake.Slipped{Kind: bake.GotIn, Food: "walnuts", Grams: 20}, false, []string{"got in"}, []string{"Begin anew"}},
	} {
		var events []bake.Event
		if c.in {
			events = append(events, in)
		}
		got := judge(kit(), c.x, events...)
		for _, w := range c.want {
			assert.Contains(t, got, w, "%+v", c.x)
		}
		for _, w := range c.not {
			assert.NotContains(t, got, w, "%+v", c.x)
		}
	}
	twice := judge(kit(), bake.Slipped{Kind: bake.Twice, Line: id("baking-powder")})
	assert.NotContains(t, twice, "acid meet", "powder brings its own")

	before := bake.Event{ID: "s1", What: bake.Slip, Text: "got-in", Food: "sugar", Value: 60}
	assert.Contains(t, judge(kit(), bake.Slipped{ID: "s2", Kind: bake.GotIn, Food: "walnuts", Grams: 5}, before), "sweeter", "an earlier slip is still in")
	once := judge(kit(), bake.Slipped{ID: "s1", Kind: bake.GotIn, Food: "sugar", Grams: 60}, before)
	assert.Equal(t, once, judge(kit(), bake.Slipped{ID: "s1", Kind: bake.GotIn, Food: "sugar", Grams: 60}), "and the one that is judged is in once")
	assert.Contains(t, judge(kit(), bake.Slipped{Kind: bake.GotIn, Food: "sugar", Grams: 60}), "sweeter", "what got in is weighed with the rest")
	for salt, bin := range map[float64]bool{4: false, 4.6: true} { // twice: 3.8 and 4.4 % of the flour
		x := s
		x.Recipe = s.Recipe.Clone()
		x.Recipe.Line(id("salt")).Grams = salt
		p, _ := fold(x)
		found := false
		for _, w := range p.Judge(x, bake.Slipped{Kind: bake.Twice, Line: id("salt")}, kit()).Ways {
			found = found || strings.Contains(w.How, "Nothing takes salt out")
		}
		assert.Equal(t, bin, found, "%g g twice on 210 g of flour", salt)
	}

	assert.NotContains(t, judge(kit(), bake.Slipped{Kind: bake.GotIn, Line: id("sugar"), Food: "walnuts", Grams: 5}), "less sweet", "a line that is named beside is still in")

	// An allergen is never rescued for that eater, however little got in, and whenever.
	for _, k := range []bake.SlipKind{bake.GotIn, bake.Instead} {
		for _, now := range [][]bake.Event{nil, {in}} {
			got := judge(kit(diet.EggFree), bake.Slipped{Kind: k, Line: id("buttermilk"), Food: "egg", Grams: 0.5}, now...)
			assert.Contains(t, got, "Not for those you bake this for: ")
			assert.Contains(t, got, "begin anew for the rest")
			assert.NotContains(t, got, "Go on with it")
			assert.NotContains(t, got, "Lift it out:")
		}
	}
	assert.Contains(t, judge(kit(diet.DairyFree), bake.Slipped{Kind: bake.GotIn, Food: "dark-chocolate", Grams: 5}), "Read its label")
}

// Soda that is in twice is met by lemon juice where a batter bears that much of it.
func TestSodaThatIsTooMuchIsMet(t *testing.T) {
	s := bake.Sheet{Recipe: &recipe.Recipe{Kind: recipe.QuickBread, Servings: 8, Lines: []recipe.Line{
		{ID: 1, Ingredient: "plain-flour", Name: "flour", Grams: 200}, {ID: 2, Ingredient: "baking-soda", Name: "soda", Grams: 1.2},
		{ID: 3, Ingredient: "milk", Name: "milk", Grams: 200}, {ID: 4, Ingredient: "sugar", Name: "sugar", Grams: 120},
	}}}
	how := func(k bake.Kit, times float64) string {
		p, _ := fold(s)
		x := s
		x.Recipe = s.Recipe.Clone()
		x.Recipe.Lines[1].Grams *= times
		for _, w := range p.Judge(x, bake.Slipped{Kind: bake.Twice, Line: 2}, k).Ways {
			if w.Title == "Let acid meet it" || w.Title == "Begin anew" {
				return w.How
			}
		}
		return ""
	}
	// 2.4 g are 28.6 meq; the flour and the milk bring 8, a quarter per cent of the flour (5.95) is not tasted
	acid := 2*lib.Get("plain-flour").Facts[larder.Acid] + 2*lib.Get("milk").Facts[larder.Acid]
	want := math.Ceil(100 * (2.4*1000/84.007 - acid - 0.0025*200*1000/84.007) / lib.Get("lemon-juice").Facts[larder.Acid])
	assert.Contains(t, how(kit(), 1), fmt.Sprintf("%.0f g of lemon juice", want))
	assert.Contains(t, how(kit(), 2), "tastes of soap", "more than a batter bears")
	k := kit()
	k.Demand.Bans = []string{"lemon-juice"}
	assert.Empty(t, how(k, 1), "it is not for this table")
}

// What a corrected line ended at, against what was worked out: next time begins from it.
func TestUnlikeWhatWasWorkedOut(t *testing.T) {
	s := loaf(t)
	oat, flour := lineOf(t, s, "oat-drink"), lineOf(t, s, "plain-flour")
	sour := taskOf(t, s, method.Sour)
	p, _ := fold(s, bake.Event{What: bake.Put, Task: sour, Line: oat.ID, Value: oat.Grams - 20}, bake.Event{What: bake.Spoon, Line: oat.ID, Value: 15}, bake.Event{What: bake.Put, Task: 4, Line: flour.ID, Value: 212})
	assert.Equal(t, map[recipe.LineID]float64{oat.ID: -5}, p.Unlike(s))
}

// What is kept back of a dough's milk is no shortage; less than that is.
func TestWhatIsKeptBackIsNoShortage(t *testing.T) {
	s := sheetOf(t, "4-rye-honey-rolls.txt")
	milk := lineOf(t, s, "milk")
	for in, short := range map[float64]bool{milk.Grams - 24: false, milk.Grams - 60: true} {
		p, _ := fold(s, bake.Event{What: bake.Put, Task: taskOf(t, s, method.Mix), Line: milk.ID, Value: in})
		got, err := p.Bowl(s, kit()).Solve()
		require.NoError(t, err)
		assert.Equal(t, short, sumOf(got, "water").Off != 0, "%.0f of %.0f g", in, milk.Grams)
	}
}

// Weighed before it is squeezed it is more or less of the food; what is left of it tells the water.
func TestBeforeAndAfterItIsSqueezed(t *testing.T) {
	s := squeezing(t, "courgettes", 200)
	line := lineOf(t, s, "courgette")
	salting := taskOf(t, s, method.Mix)
	put := bake.Event{What: bake.Put, Task: salting, Line: line.ID, Value: 210}
	p, _ := fold(s, put)
	b := p.Bowl(s, kit())
	assert.Equal(t, 210.0, b.In[line.ID])
	assert.Zero(t, b.Water[line.ID])
	p, _ = fold(s, put, bake.Event{What: bake.Weighs, Line: line.ID, Value: 160})
	b = p.Bowl(s, kit())
	assert.Equal(t, 210.0, b.In[line.ID])
	assert.InDelta(t, 160-0.72*210, b.Water[line.ID], 1e-9, "151 g are usually left of 210")
}
