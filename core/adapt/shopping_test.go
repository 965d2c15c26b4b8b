package adapt_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// What two bakes need together, less what is in the house, in the household's packs; eggs whole,
// labels to read, water free, in the order of a shop.
func TestShoppingForTwo(t *testing.T) {
	kit := adapt.DefaultKit()
	l, left := kit.Larder.With([]larder.Own{
		{ID: "plain-flour", Pack: &larder.Pack{Grams: 1000, Price: 1.2, Stock: 150}}, {ID: "sugar", Pack: &larder.Pack{Grams: 500, Price: 0.9}},
		{ID: "salt", Pack: &larder.Pack{Grams: 500, Stock: 200}},
	})
	require.Empty(t, left)
	kit.Larder = l
	one := read(t, "Loaf\nServes 8\n\n700 g plain flour\n300 g sugar\n3 eggs\n3 g salt\n100 ml water\n2 apples\n\nMix. Bake at 180C.")
	two := read(t, "Cake\nServes 8\n\n500 g plain flour\n200 g sugar\n2 eggs\n1 yolk\n100 ml milk\n100 g butter\na little butter, for greasing\n\nMix. Bake at 180C.")
	first, err := adapt.Adapt(one, adapt.Request{}, kit)
	require.NoError(t, err)
	second, err := adapt.Adapt(two, adapt.Request{Diets: []diet.ID{diet.DairyFree}}, kit)
	require.NoError(t, err)
	by := map[larder.ID]adapt.Buy{}
	at := map[larder.ID]int{}
	for n, b := range adapt.Shopping([]*adapt.Result{first, second}, kit) {
		by[b.Ingredient], at[b.Ingredient] = b, n
	}
	flour := by["plain-flour"]
	assert.Equal(t, 1200.0, flour.Grams)
	assert.Equal(t, 150.0, flour.Have)
	assert.Equal(t, "2 × 1000 g", flour.Buy, "1050 g are wanted")
	assert.Equal(t, 2, flour.Packs)
	assert.InDelta(t, 2.4, flour.Cost, 1e-9)
	assert.Equal(t, "1 × 500 g", by["sugar"].Buy, "just one")
	for stock, buy := range map[float64]string{2.4: "1 × 500 g", 2.6: ""} { // 3 g are wanted, half a gram is none
		kit := kit
		kit.Larder, _ = kit.Larder.With([]larder.Own{{ID: "salt", Pack: &larder.Pack{Grams: 500, Stock: stock}}})
		for _, b := range adapt.Shopping([]*adapt.Result{first}, kit) {
			if b.Ingredient == "salt" {
				assert.Equal(t, buy, b.Buy, "%g g in the house", stock)
			}
		}
	}
	assert.Equal(t, "6", by["egg"].Buy, "three, two, and one for its yolk")
	assert.NotContains(t, by, larder.ID("egg-yolk"))
	assert.Empty(t, by["salt"].Buy, "there is enough")
	assert.Equal(t, 3.0, by["salt"].Have)
	assert.NotContains(t, by, larder.ID("water"))
	assert.NotContains(t, by, larder.ID("butter"), "dairy-free")
	third, err := adapt.Adapt(two, adapt.Request{Diets: []diet.ID{diet.GlutenFree}}, kit)
	require.NoError(t, err)
	for _, b := range adapt.Shopping([]*adapt.Result{third, first}, kit) {
		assert.Equal(t, b.Ingredient == "gf-blend", len(b.Labels) > 0, b.Name)
	}
	assert.Empty(t, flour.Labels)
	assert.Less(t, at["apple"], at["egg"])
	assert.Less(t, at["egg"], at["plain-flour"])
	assert.Less(t, at["plain-flour"], at["salt"])
}

// What harms nobody comes first: a gluten-free bake before one of wheat, by allergens and bans,
// not by a diet of choice; where each harms the other they only clash.
func TestWhichBakeComesBeforeWhich(t *testing.T) {
	kit := adapt.DefaultKit()
	wheat := read(t, "Loaf\nServes 8\n\n250 g plain flour\n100 g sugar\n100 g butter\n2 eggs\n2 tsp baking powder\n\nMix. Bake at 180C.")
	nutty := read(t, "Nut cake\nServes 8\n\n250 g ground almonds\n100 g sugar\n4 eggs\n\nMix. Bake at 180C.")
	of := func(r *recipe.Recipe, req adapt.Request) *adapt.Result {
		res, err := adapt.Adapt(r, req, kit)
		require.NoError(t, err)
		require.Nil(t, res.Refused)
		return res
	}
	plain, free := of(wheat, adapt.Request{}), of(wheat, adapt.Request{Diets: []diet.ID{diet.GlutenFree}})
	noNuts := of(wheat, adapt.Request{Bans: []string{"nuts"}})
	almond := of(nutty, adapt.Request{Diets: []diet.ID{diet.GlutenFree}})
	sweetless := of(wheat, adapt.Request{Diets: []diet.ID{diet.LowSugar}})
	for _, c := range []struct {
		results []*adapt.Result
		before  [][]int
		clash   [][2]int
	}{
		{[]*adapt.Result{plain, free}, [][]int{nil, {0}}, nil}, {[]*adapt.Result{free, plain}, [][]int{{1}, nil}, nil},
		{[]*adapt.Result{plain, plain}, [][]int{nil, nil}, nil}, {[]*adapt.Result{plain, sweetless}, [][]int{nil, nil}, nil},
		{[]*adapt.Result{noNuts, almond}, [][]int{nil, nil}, [][2]int{{0, 1}}}, // wheat for one, nuts for the other
		{[]*adapt.Result{almond, plain, free}, [][]int{{1}, nil, {1}}, nil},
	} {
		before, clash := adapt.Orders(c.results, kit)
		assert.Equal(t, c.before, before)
		assert.Equal(t, c.clash, clash)
	}
}

// What would save a purchase: another way that needs only what is in the house, enough of it, and
// brings no allergen; and a pack that is opened for hardly anything.
func TestWhatNeedNotBeBought(t *testing.T) {
	r := read(t, "Loaf\nServes 8\n\n300 g plain flour\n150 g sugar\n2 eggs\n100 g butter\n2 tsp baking powder\n100 ml milk\n\nMix. Bake at 180C for 40 minutes.")
	saved := func(stock float64, swap string) []string {
		kit := adapt.DefaultKit()
		l, left := kit.Larder.With([]larder.Own{{ID: "flax-ground", Pack: &larder.Pack{Stock: stock}}})
		require.Empty(t, left)
		kit.Larder = l
		res, err := adapt.Adapt(r, adapt.Request{Diets: []diet.ID{diet.EggFree}, Swaps: map[string]string{"egg": swap}}, kit)
		require.NoError(t, err)
		return adapt.Instead([]*adapt.Result{res}, kit)
	}
	assert.Equal(t, []string{"Loaf: for 2 eggs, flax gel would do, and is in the house."}, saved(14, "chia-gel"))
	assert.Empty(t, saved(13, "chia-gel"), "not enough of it")
	assert.Empty(t, saved(14, "flax-gel"), "it is what is taken")

	spare := func(grams string) string {
		kit := adapt.DefaultKit()
		l, _ := kit.Larder.With([]larder.Own{{ID: "sugar", Pack: &larder.Pack{Grams: 500, Price: 1}}})
		kit.Larder = l
		res, err := adapt.Adapt(read(t, "Loaf\nServes 8\n\n300 g plain flour\n"+grams+" g sugar\n\nMix. Bake at 180C."), adapt.Request{}, kit)
		require.NoError(t, err)
		for _, b := range adapt.Shopping([]*adapt.Result{res}, kit) {
			if b.Ingredient == "sugar" {
				return b.Spare
			}
		}
		return "none"
	}
	assert.Contains(t, spare("540"), "The last pack is opened for 40 g")
	assert.Empty(t, spare("550"), "a tenth is more than a batch forgives")
	assert.Empty(t, spare("500"))
	assert.Empty(t, spare("40"), "the first pack is no spare one")

	kit := adapt.DefaultKit()
	l, _ := kit.Larder.With([]larder.Own{{ID: "sugar", Pack: &larder.Pack{Grams: 500, Stock: 100}}, {ID: "butter", Pack: &larder.Pack{Stock: 900}}})
	kit.Larder = l
	res, err := adapt.Adapt(r, adapt.Request{}, kit)
	require.NoError(t, err)
	assert.Equal(t, map[larder.ID]float64{"sugar": 100, "butter": 100}, adapt.Used([]*adapt.Result{res}, kit))
	for _, b := range adapt.Shopping([]*adapt.Result{res}, kit) {
		switch b.Ingredient {
		case "sugar":
			assert.Equal(t, 500.0, b.Brings(l.Get("sugar")), "a pack")
		case "egg":
			assert.Equal(t, 100.0, b.Brings(l.Get("egg")))
		case "butter":
			assert.Zero(t, b.Brings(l.Get("butter")))
		}
	}
}
