package table

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/recipe"
)

const (
	withEgg  = "Egg loaf\nServes 8\nIngredients\n200 g rice flour\n100 g sugar\n3 eggs\n80 g sunflower oil"
	withNuts = "Nut bars\nServes 8\nIngredients\n200 g hazelnuts\n100 g maple syrup\n60 g plain flour"
	plain    = "Oil bread\nServes 8\nIngredients\n300 g plain flour\n200 g water\n20 g olive oil"
)

// bakesOf are bakes of those texts, each feeding one of the people.
func bakesOf(t *testing.T, people []Person, texts ...string) []Bake {
	t.Helper()
	var out []Bake
	for n, text := range texts {
		out = append(out, Bake{Recipe: n, Made: read(t, text), Feeds: []int{n}, Strict: people[n].Strict})
	}
	return out
}

func titles(bakes []Bake) (out []string) {
	for _, b := range bakes {
		out = append(out, b.Made.Title)
	}
	return out
}

// What would get into another comes after it, whoever is stricter; and each bake says why
// it stands where it does.
func TestBakesStandInTheOrderOfWhatWouldGetIntoWhat(t *testing.T) {
	kit := adapt.DefaultKit()
	noEgg := Person{Name: "bow", Diets: []diet.ID{diet.EggFree}, Strict: Allergy}
	noGluten := Person{Name: "cox", Bans: []string{"gluten"}, Strict: Allergy}
	noNuts := Person{Name: "seven", Bans: []string{"nuts"}, Strict: Allergy}
	all := Person{Name: "four", Strict: Choice}
	vegan := Person{Name: "six", Diets: []diet.ID{diet.Vegan}, Strict: Choice}
	for _, c := range []struct {
		name          string
		people        []Person
		texts         []string
		want          []string
		before, clean []int // guards at each place
	}{
		{"the egg after the egg-free", []Person{all, noEgg}, []string{withEgg, plain}, []string{"Oil bread", "Egg loaf"}, []int{1, 0}, []int{0, 0}},
		{"a chain: nuts last, gluten after the gluten-free", []Person{all, noNuts, noGluten}, []string{withNuts, plain, withEgg}, []string{"Egg loaf", "Oil bread", "Nut bars"}, []int{2, 1, 0}, []int{0, 0, 0}},
		{"each holds what the other's eater must not have", []Person{noEgg, noGluten}, []string{plain, withEgg}, []string{"Oil bread", "Egg loaf"}, []int{1, 0}, []int{0, 1}},
		{"conviction fears no crumb", []Person{all, vegan}, []string{withEgg, plain}, []string{"Egg loaf", "Oil bread"}, []int{0, 0}, []int{0, 0}},
		{"an allergy outweighs what upsets", []Person{{Name: "two", Bans: []string{"gluten"}, Strict: Upsets}, noEgg}, []string{withEgg, plain}, []string{"Oil bread", "Egg loaf"}, []int{1, 0}, []int{0, 1}},
		{"a limit does no harm by the crumb", []Person{all, {Name: "coach", Diets: []diet.ID{diet.Keto, diet.LowSugar, diet.LowSodium}, Strict: Allergy}}, []string{withNuts, withEgg}, []string{"Egg loaf", "Nut bars"}, []int{0, 0}, []int{0, 0}},
	} {
		got := order(bakesOf(t, c.people, c.texts...), c.people, kit)
		assert.Equal(t, c.want, titles(got), c.name)
		for n, b := range got {
			assert.Len(t, b.Before, c.before[n], "%s: %s", c.name, b.Made.Title)
			assert.Len(t, b.Clean, c.clean[n], "%s: %s", c.name, b.Made.Title)
			for _, g := range b.Before {
				assert.Greater(t, g.Bake, n)
			}
			for _, g := range b.Clean {
				assert.Less(t, g.Bake, n)
			}
		}
	}
	two := []Person{noEgg, {Name: "five", Diets: []diet.ID{diet.EggFree}, Strict: Allergy}, all}
	bakes := bakesOf(t, two[:1], plain)
	bakes[0].Feeds = []int{0, 1}
	bakes = append(bakes, Bake{Recipe: 1, Made: read(t, withEgg), Feeds: []int{2}, Strict: Choice})
	both := order(bakes, two, kit)
	assert.Equal(t, Guard{Bake: 1, What: []string{"egg"}, For: []int{0, 1}}, both[0].Before[0], "for both of those who eat of it")
	people := []Person{noEgg, noGluten}
	got := order(bakesOf(t, people, plain, withEgg), people, kit)
	assert.Equal(t, Guard{Bake: 1, What: []string{"egg"}, For: []int{0}}, got[0].Before[0])
	assert.Equal(t, Guard{Bake: 0, What: []string{"gluten cereals"}, For: []int{1}}, got[1].Clean[0])
}

// What a label may say weighs less than what is certain, and is said as such.
func TestALabelIsACaseOfItsOwn(t *testing.T) {
	kit := adapt.DefaultKit()
	p := Person{Bans: []string{"gluten", "soya"}, Diets: []diet.ID{diet.Vegan}, Strict: Allergy}
	what, label := harms(read(t, "Bars\nServes 8\nIngredients\n200 g rolled oats\n80 g maple syrup"), p, kit)
	assert.Equal(t, []string{"gluten cereals"}, what)
	assert.True(t, label)
	what, label = harms(read(t, "Bars\nServes 8\nIngredients\n200 g rolled oats\n80 g soya drink\n2 eggs"), p, kit)
	assert.Equal(t, []string{"what is not vegan", "soya"}, what, "what is certain comes before the oats' label")
	assert.False(t, label)
	for _, c := range []struct {
		strict Strictness
		label  bool
		want   float64
	}{{Allergy, false, 1e6}, {Allergy, true, 1e3}, {Upsets, false, 100}, {Upsets, true, 0.1}, {Choice, false, 0}} {
		assert.InDelta(t, c.want, weigh(c.strict, c.label), 1e-9)
	}
}

// The sequence against every order there is, on random tables; and without harm the given
// order stays.
func TestTheSequenceHarmsLeast(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 5))
	for range 60 {
		n := 2 + rnd.IntN(4)
		w := make([][]float64, n)
		for a := range w {
			w[a] = make([]float64, n)
			for b := range w[a] {
				if a != b && rnd.IntN(2) == 0 {
					w[a][b] = float64(rnd.IntN(9))
				}
			}
		}
		cost := func(seq []int) (sum float64) {
			for k, b := range seq {
				for _, a := range seq[k+1:] {
					sum += w[a][b]
				}
			}
			return sum
		}
		least := math.Inf(1)
		var permute func(done []int, left []int)
		permute = func(done, left []int) {
			if len(left) == 0 {
				least = math.Min(least, cost(done))
			}
			for k := range left {
				rest := append(append([]int{}, left[:k]...), left[k+1:]...)
				permute(append(append([]int{}, done...), left[k]), rest)
			}
		}
		all := make([]int, n)
		for k := range all {
			all[k] = k
		}
		permute(nil, all)
		got := sequence(w)
		assert.Len(t, got, n)
		assert.InDelta(t, least, cost(got), 1e-9)
	}
	none := make([][]float64, 9)
	for k := range none {
		none[k] = make([]float64, 9)
	}
	assert.Equal(t, []int{0, 1, 2, 3, 4, 5, 6, 7, 8}, sequence(none))
	assert.Equal(t, []int{0, 1, 2}, sequence(none[:3]))
	for k := 1; k < 9; k++ {
		none[k][0] = 1 // what 0 holds harms all others
	}
	assert.Equal(t, []int{1, 2, 3, 4, 5, 6, 7, 8, 0}, sequence(none))
}

// A bake tells what it brings that was not there.
func TestAMenuTellsOfNewAllergens(t *testing.T) {
	kit := adapt.DefaultKit()
	bread := "Almond cake\nServes 8\nIngredients\n200 g plain flour\n150 g sugar\n100 g butter\n2 eggs\n100 g milk\n2 tsp baking powder"
	m, err := Fewest([]*recipe.Recipe{read(t, bread)}, []Person{{Name: "coach", Diets: []diet.ID{diet.Keto}, Strict: Choice}}, kit)
	require.NoError(t, err)
	require.Len(t, m.Bakes, 1)
	cell, err := Look(read(t, bread), m.Bakes[0].Demand, kit)
	require.NoError(t, err)
	assert.NotEmpty(t, m.Bakes[0].New, "keto brings ground nuts")
	assert.Equal(t, cell.Result.Verdict.New, m.Bakes[0].New)
	assert.Equal(t, cell.Result.Recipe.Lines, m.Bakes[0].Made.Lines)
}
