package table

import (
	"math/bits"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

var (
	cox  = Person{Name: "cox", Bans: []string{"gluten"}, Strict: Allergy}
	bow  = Person{Name: "bow", Diets: []diet.ID{diet.EggFree, diet.DairyFree}, Strict: Upsets}
	five = Person{Name: "five", Diets: []diet.ID{diet.Vegan}, Strict: Choice, Portion: 2}
	six  = Person{Name: "six"}
)

func read(t *testing.T, text string) *recipe.Recipe {
	t.Helper()
	rd, err := reader.Read(text, reader.Options{})
	require.NoError(t, err)
	return rd.Recipe
}

const (
	loaf    = "Loaf\nServes 10\nIngredients\n240 g plain flour\n150 g sugar\n100 g butter\n2 eggs\n180 g milk\n2 tsp baking powder"
	oatbars = "Seed bars\nServes 8\nIngredients\n200 g sunflower seeds\n100 g maple syrup\n60 g sunflower oil\n100 g raisins"
)

func TestPeopleAsSentences(t *testing.T) {
	assert.Equal(t, "must not have gluten cereals; traces matter.", cox.Sentence())
	assert.Equal(t, "eats egg-free, dairy-free.", bow.Sentence())
	assert.Equal(t, "eats everything.", six.Sentence())
	d := Join([]Person{cox, bow, {Limits: []diet.Limit{{What: diet.Sugars, Max: 9}}}, {Limits: []diet.Limit{{What: diet.Sugars, Max: 6}}}})
	assert.Equal(t, diet.Demand{Diets: []diet.ID{diet.DairyFree, diet.EggFree}, Bans: []string{"gluten"}, Limits: []diet.Limit{{What: diet.Sugars, Max: 6}}}, d)
	notes := Traces([]Person{cox, bow, six})
	assert.Contains(t, notes[0], "Bake it before anything that holds gluten cereals")
	assert.Nil(t, Traces([]Person{bow, six}))
}

func TestARecipeBeforeAPerson(t *testing.T) {
	kit := adapt.DefaultKit()
	for _, c := range []struct {
		person Person
		text   string
		want   State
		says   string
	}{
		{six, loaf, Fits, ""},
		{cox, loaf, Changes, "plain flour holds gluten"},
		{bow, loaf, Changes, "unsalted butter holds milk"},
		{five, oatbars, Fits, ""},
		{cox, "Bars\nServes 8\nIngredients\n200 g rolled oats\n80 g honey", Label, "read the label for gluten"},
		{six, "Bars\nServes 8\nIngredients\n200 g rolled oats\n80 g blorf", No, "could hold anything"},
		{six, "Bars\nServes 8\nIngredients\n200 g sunflower seeds\n1 cup corn flour", No, "could hold anything"},
		{Person{Limits: []diet.Limit{{What: diet.AddedSugars, Max: 50}}}, "Bars\nServes 8\nIngredients\n200 g sunflower seeds\nhoney, to taste", No, "gives no amount"},
		{Person{Unread: []string{"zorblax"}}, oatbars, No, "say under People what is meant"},
		{Person{Bans: []string{"salt"}}, "Bread\nServes 8\nIngredients\n500 g strong flour\n10 g salt\n7 g instant yeast\n300 g water", No, "nothing to put in its place"},
		{Person{Limits: []diet.Limit{{What: diet.Sugars, Max: 3}}}, loaf, Changes, "over 3"},
		{five, oatbars + "\nMethod\n1. Press into a tin.\n2. Brush with beaten egg and bake.", Changes, "the method speaks of beaten egg"},
		{six, oatbars + "\nMethod\n1. Press into a tin.\n2. Brush with beaten egg and bake.", Fits, ""},
		{five, oatbars + "\nMethod\n1. Press into a lined tin and bake until firm.\n2. Serve with oat milk.", Fits, ""},
		{cox, oatbars + "\nMethod\n1. Butter and flour the tin.\n2. Press it in and bake.", Changes, "the method speaks of flour"},
		{bow, oatbars + "\n100 ml oat drink (or milk)", Changes, "names milk too"},
		{six, oatbars + "\n100 ml oat drink (or milk)", Fits, ""},
		{cox, oatbars + "\n100 ml oat drink (or milk)", Label, "read the label"},
		{cox, oatbars + "\n1 tbsp cornflour or plain flour", Changes, "names plain flour too"},
		{cox, oatbars + "\nMethod\n1. Dust the tin with rice flour.\n2. Press it in and bake.", Fits, ""},
	} {
		cell, err := Look(read(t, c.text), c.person.Demand(), kit)
		require.NoError(t, err)
		assert.Equal(t, c.want, cell.State, "%s %v", c.person.Name, cell.Why)
		if c.says != "" {
			require.NotEmpty(t, cell.Why)
			assert.Contains(t, cell.Why[0]+cell.Why[len(cell.Why)-1], c.says)
		}
		assert.Equal(t, c.want == Changes, len(cell.Changes) > 0)
	}
}

// Who eats of what was adapted to another is told of what only its method names too.
func TestABakeForOthersIsNoTrap(t *testing.T) {
	washed := loaf + "\nMethod\n1. Mix it all.\n2. Sprinkle with walnuts and bake for 40 minutes."
	nuts := Person{Name: "four", Bans: []string{"nuts"}, Strict: Allergy}
	m, err := Fewest([]*recipe.Recipe{read(t, washed)}, []Person{cox, nuts}, adapt.DefaultKit())
	require.NoError(t, err)
	require.Empty(t, m.Unfed)
	for _, b := range m.Bakes {
		for _, k := range b.Feeds {
			if k == 1 {
				assert.Contains(t, b.Demand.Bans, "nuts")
			}
		}
	}
	cell, err := Look(read(t, washed), nuts.Demand(), adapt.DefaultKit())
	require.NoError(t, err)
	assert.Equal(t, []string{"leave out the walnuts, which only the method names"}, cell.Changes)
	assert.Nil(t, cell.Result.Method, "a table asks for no method")
}

// The whole table side by side is what each place says alone; who asks what is not
// understood gets no other's answer.
func TestTheTableIsItsPlaces(t *testing.T) {
	kit := adapt.DefaultKit()
	docs := []*recipe.Recipe{read(t, loaf), read(t, oatbars), read(t, loaf)}
	lost := six
	lost.Unread = []string{"blorf"}
	people := []Person{cox, bow, six, five, bow, lost}
	grid, err := Grid(docs, people, kit)
	require.NoError(t, err)
	for n, r := range docs {
		require.Len(t, grid[n], len(people))
		for k, p := range people {
			alone, err := Look(r, p.Demand(), kit)
			require.NoError(t, err)
			assert.Equal(t, alone.State, grid[n][k].State, "%d %d", n, k)
			assert.Equal(t, alone.Why, grid[n][k].Why, "%d %d", n, k)
			assert.Equal(t, alone.Changes, grid[n][k].Changes, "%d %d", n, k)
		}
	}
	_, err = Grid([]*recipe.Recipe{nil}, people, kit)
	assert.Error(t, err, "what breaks is said, and takes nothing else down")
}

// Somebody kept under the first rule is read by today's, and asked about.
func TestAPersonKeptBeforeIsReadAgain(t *testing.T) {
	l := adapt.DefaultKit().Larder
	p, asked := Person{Name: "bow", Bans: []string{"soy", "lactose", "egg", "powder"}, Diets: []diet.ID{diet.Vegan}}.Reread(l)
	assert.Equal(t, diet.Demand{Diets: []diet.ID{diet.Vegan, diet.LactoseFree}, Bans: []string{"soya", "egg"}, Unread: []string{"powder"}}, p.Demand())
	assert.Len(t, asked, 3)
	today := Person{Bans: []string{"soy"}, Rule: diet.Rule}
	same, asked := today.Reread(l)
	assert.Equal(t, today, same)
	assert.Empty(t, asked)
}

func TestTheFewestBakes(t *testing.T) {
	kit := adapt.DefaultKit()
	people := []Person{six, cox, bow, five}
	m, err := Fewest([]*recipe.Recipe{read(t, loaf), read(t, oatbars)}, people, kit)
	require.NoError(t, err)
	require.Len(t, m.Bakes, 1, "the bars feed all four as they are")
	assert.Equal(t, 1, m.Bakes[0].Recipe)
	assert.Equal(t, 5.0, m.Bakes[0].Wanted, "five eats for two")
	assert.Equal(t, Allergy, m.Bakes[0].Strict)
	assert.Empty(t, m.Unfed)

	m, err = Fewest([]*recipe.Recipe{read(t, loaf)}, append(people, Person{Name: "coach", Bans: []string{"sugar", "polyol", "syrup", "dried-fruit", "fibre", "puree"}}), kit)
	require.NoError(t, err)
	assert.Equal(t, []int{4}, m.Unfed, "nothing is left to sweeten it for coach")
	for _, b := range m.Bakes {
		assert.NotContains(t, b.Feeds, 4)
	}
}

// Whoever a bake is said to feed may eat what comes of its demand, and where one bake
// feeds several its demand is that of them all.
func TestAMenuHoldsForEachOfThem(t *testing.T) {
	kit := adapt.DefaultKit()
	people := []Person{six, cox, bow, five, {Name: "stroke", Limits: []diet.Limit{{What: diet.AddedSugars, Max: 8}}}}
	recipes := []*recipe.Recipe{read(t, loaf)}
	m, err := Fewest(recipes, people, kit)
	require.NoError(t, err)
	require.NotEmpty(t, m.Bakes)
	for _, b := range m.Bakes {
		made := recipes[b.Recipe]
		if !b.Demand.Empty() {
			cell, err := Look(made, b.Demand, kit)
			require.NoError(t, err)
			made = cell.Result.Recipe
			assert.True(t, b.Joint)
		}
		for _, k := range b.Feeds {
			state, why := Written(made, people[k].Demand(), kit)
			assert.NotEqual(t, No, state, "%s: %v", people[k].Name, why)
		}
	}
}

// Of two recipes that feed the same with as sure changes, the one that changes less is
// baked; and where an experiment feeds more than what is well tried, that is no better.
func TestTheDearestBakeIsChosen(t *testing.T) {
	kit := adapt.DefaultKit()
	bread := "Bread\nServes 8\nIngredients\n400 g strong flour\n250 g water\n6 g salt\n7 g instant yeast\n20 g butter\nBake in a 9x5 inch loaf tin at 210 C for 35 minutes."
	vegan := []Person{{Name: "six", Diets: []diet.ID{diet.Vegan}, Strict: Choice}}
	m, err := Fewest([]*recipe.Recipe{read(t, loaf), read(t, bread)}, vegan, kit)
	require.NoError(t, err)
	require.Len(t, m.Bakes, 1)
	assert.Equal(t, 1, m.Bakes[0].Recipe, "butter alone, not butter, milk and eggs")
	assert.Nil(t, m.Better)
	keto := []Person{{Name: "coach", Diets: []diet.ID{diet.Keto, diet.Vegan}, Strict: Choice}, six}
	m, err = Fewest([]*recipe.Recipe{read(t, loaf)}, keto, kit)
	require.NoError(t, err)
	require.True(t, m.Trial, "egg-free and without starch is an experiment")
	assert.Empty(t, m.Unfed)
	assert.Nil(t, m.Better, "what is well tried leaves coach unfed")
}

// The search against every combination there is, on random tables.
func TestCoverIsExact(t *testing.T) {
	rnd := rand.New(rand.NewPCG(7, 11))
	for range 300 {
		people, n := 2+rnd.IntN(6), 1+rnd.IntN(9)
		var all []candidate
		goal := uint32(0)
		for range n {
			c := candidate{feeds: rnd.Uint32() & rnd.Uint32() & (1<<people - 1), cost: float64(rnd.IntN(6))}
			if c.feeds != 0 {
				all = append(all, c)
				goal |= c.feeds
			}
		}
		bestSize, bestCost := 99, 1e9
		for mask := range 1 << len(all) {
			fed, cost := uint32(0), 0.0
			for k, c := range all {
				if mask&(1<<k) != 0 {
					fed, cost = fed|c.feeds, cost+c.cost
				}
			}
			size := bits.OnesCount(uint(mask))
			if fed == goal && (size < bestSize || size == bestSize && cost < bestCost) {
				bestSize, bestCost = size, cost
			}
		}
		got := Cover(people, all)
		cost := 0.0
		for _, c := range got {
			cost += c.cost
		}
		if goal == 0 {
			assert.Nil(t, got)
			continue
		}
		assert.Len(t, got, bestSize)
		assert.InDelta(t, bestCost, cost, 1e-9)
	}
}

// Who may eat of several bakes eats of the one that was changed least; who may eat of none is left over.
func TestEachEatsOfWhatWasChangedLeast(t *testing.T) {
	people := []Person{{Name: "four"}, {Name: "six"}, {Name: "cox"}}
	m := serve(people, []candidate{{recipe: 3, cost: 5, feeds: 0b011}, {recipe: 4, cost: 2, feeds: 0b010}, {recipe: 5, cost: 9, feeds: 0b010}})
	require.Len(t, m.Bakes, 2, "nobody is left for the third")
	assert.Equal(t, []int{0}, m.Bakes[0].Feeds)
	assert.Equal(t, []int{1}, m.Bakes[1].Feeds)
	assert.Equal(t, 4, m.Bakes[1].Recipe)
	assert.Equal(t, []int{2}, m.Unfed)
}
