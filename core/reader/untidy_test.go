package reader_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// sheet writes what a reading came to, a line of text each, so that a whole
// recipe is compared at once.
func sheet(rd *reader.Reading) string {
	r := rd.Recipe
	var b strings.Builder
	fmt.Fprintf(&b, "%s | %s | serves %d | %.0f °C | %g-%g min", r.Title, r.Kind, r.Servings, float64(r.Oven), r.Bake.Min, r.Bake.Max)
	for _, t := range r.Tins {
		fmt.Fprintf(&b, " | %s", t.Words())
	}
	b.WriteString("\n")
	section := ""
	for _, l := range r.Lines {
		if l.Section != section {
			section = l.Section
			fmt.Fprintf(&b, "[%s]\n", section)
		}
		id := string(l.Ingredient)
		if !l.Known {
			id = "? " + l.Text
		}
		fmt.Fprintf(&b, "%s %.0f", id, l.Grams)
		if l.Optional {
			b.WriteString(" optional")
		}
		b.WriteString("\n")
	}
	fmt.Fprintf(&b, "steps %d", len(r.Steps))
	return b.String()
}

// Whole recipes as people paste them: from a card, an old book, a message, a
// page copied with its buttons, in five ways of measuring.
func TestRecipesAsPeoplePasteThem(t *testing.T) {
	for _, c := range []struct{ name, text, want string }{
		{"an old book", `GINGERBREAD (Aunt's)

8 oz. plain flour
2 level teaspoonfuls ground ginger
1 level teaspoonful bicarbonate of soda
4 oz. margarine
4 oz. soft brown sugar
4 oz. black treacle
1/4 pint milk
1 egg

Sieve the flour, ginger and soda. Melt the margarine, sugar and treacle and cool.
Add with the beaten egg and milk. Pour into a lined 8 inch square tin.
Bake in the middle of a moderate oven, gas mark 4, for about 50 minutes.`,
			`GINGERBREAD (Aunt's) | quick-bread | serves 0 | 177 °C | 50-50 min | square 8 in
plain-flour 227
ginger 4
baking-soda 5
spread 113
light-brown-sugar 113
treacle 113
milk 121
egg 50
steps 3`},
		{"a baker's list on one line", `Boathouse tin loaf
strong flour 80 %, wholemeal flour 20 %, water 68 %, salt 2 %, instant yeast 1.2 %
Knead, rest 1 hour. Bake 30 minutes at 220C in a 2 lb loaf tin.`,
			`Boathouse tin loaf | yeast-lean | serves 0 | 220 °C | 30-30 min | loaf 9x5 in
strong-flour 400
wholemeal-flour 100
water 340
salt 10
instant-yeast 6
steps 1`},
		{"percentages with a weight", `Seed rolls
100% strong flour (600 g)
65% water
2% salt
1,5% instant yeast
10% butter, soft
Knead. Bake 18 minutes at 220C.`,
			`Seed rolls | yeast-rich | serves 0 | 220 °C | 18-18 min
strong-flour 600
water 390
salt 12
instant-yeast 9
butter 60
steps 1`},
		{"percentages that are of something else", `Drop scones
200 g plain flour
100 ml milk, 2 % fat
50 g dark chocolate 70%
100 ml cream 35%
2 tsp baking powder`,
			`Drop scones | scone | serves 0 | 0 °C | 0-0 min
plain-flour 200
milk 102
dark-chocolate 50
? 100 ml cream 35% 0
baking-powder 9
steps 0`},
		{"one paragraph of prose", `Gran's honey cake
Cream 115 g of butter with half a cup of sugar, then beat in 2 eggs and a tablespoon of honey. Sift 1 and 1/2 cups of plain flour with 2 tsp baking powder and a pinch of salt, fold in with 100 ml milk and pour into a 2 lb loaf tin. Bake at 180C/350F for 45 minutes. Serves 8.`,
			`Gran's honey cake | creamed-cake | serves 8 | 180 °C | 45-45 min | loaf 9x5 in
butter 115
sugar 100
egg 100
honey 21
plain-flour 180
baking-powder 9
salt 0
milk 102
steps 4`},
		{"told, without a title", `For the scones I rub 50g of cold butter into 225 g self-raising flour, stir in a handful of grated cheddar, an egg and about 100ml of milk, roll it 2 cm thick and cut 8 rounds. They go in at 220 degrees for 12 to 15 minutes.`,
			` | scone | serves 8 | 220 °C | 12-15 min
butter 50
self-raising-flour 225
cheddar 40
egg 50
milk 102
steps 2`},
		{"prose with nothing in it to weigh", `I bake it at 180C/350F for 2 hours in two 8 inch tins, one above the other, and turn it with a wooden spoon after 5 minutes.`,
			` | quick-bread | serves 0 | 180 °C | 120-120 min | 2 × round 8 in
steps 1`},
		{"prose with a stranger", `Stir 3 tbsp of wuzzle into 200g flour, then an egg.`,
			`Stir 3 tbsp of wuzzle into 200g flour, then an egg. | quick-bread | serves 0 | 0 °C | 0-0 min
? 3 tbsp of wuzzle 0
plain-flour 200
egg 50
steps 0`},
		{"rules between the parts", `Nana's rye biscuits (makes 24)
-----------
6 oz rye flour
2 oz oats
4 oz butter
3 oz soft brown sugar
1 tbsp golden syrup
1/2 tsp bicarb
pinch salt
-----------
Melt butter, sugar + syrup. Stir in dry things. Roll into 24 balls, flatten. 
Gas 4, 12-15 mins.`,
			`Nana's rye biscuits (makes 24) | biscuit | serves 24 | 177 °C | 12-15 min
rye-flour 170
oats 57
butter 113
light-brown-sugar 85
golden-syrup 21
baking-soda 2
salt 0
steps 2`},
		{"ticked boxes, two stages", `SPELT & SEED LOAF
Prep: 15 min | Proof: 2 hrs | Bake: 40 min | Makes: 1 loaf (14 slices)

Ingredients:
▢ 500g wholemeal spelt flour
▢ 10g fine sea salt
▢ 7g (1 sachet) easy-bake yeast
▢ 1 tbsp honey
▢ 400ml lukewarm water
▢ 2 tbsp olive oil
▢ 60g mixed seeds (plus 1 tbsp for the top)

Directions
Step 1: Mix flour, salt, yeast and seeds.
Step 2: Add honey, water and oil, knead 8 minutes.
Step 3: Prove 1 hour, shape, put in a 900g loaf tin, prove 45 minutes.
Step 4: Bake at 220°C (200°C fan) for 10 minutes, then turn down to 190°C and bake for 30 minutes more.`,
			`Spelt & seed loaf | yeast-rich | serves 14 | 220 °C | 40-40 min | loaf 9x5 in
spelt-flour 500
salt 10
instant-yeast 7
honey 21
water 400
olive-oil 27
mixed-seeds 60
steps 4`},
		{"a cake and its drizzle", `Lemon drizzle squares

Serves 16

For the cake
225g butter, softened
225g caster sugar
4 eggs
225g self-raising flour
zest of 2 lemons
2 tbsp milk

For the drizzle
juice of 2 lemons
100g granulated sugar

1. Heat oven to 180C/160C fan/gas 4. Grease and line a 30 x 20cm tin.
2. Beat butter and sugar until pale and fluffy. Add the eggs one at a time.
3. Fold in the flour, zest and milk. Spread in the tin.
4. Bake for 30-35 mins.
5. Mix the juice and sugar and pour over while warm.`,
			`Lemon drizzle squares | creamed-cake | serves 16 | 180 °C | 30-35 min | sheet 30×20 cm
[cake]
butter 225
caster-sugar 225
egg 200
self-raising-flour 225
lemon-zest 12
milk 30
[drizzle]
lemon-juice 90
sugar 100
steps 5`},
		{"capitals and small letters of spoons", `Buttermilk Biscuits
Yield: 10 biscuits

2 c. all-purpose flour (plus more for the board)
1 T. baking powder
1/4 t. baking soda
1 t. salt
6 T. butter, very cold, cut into bits
1 c. buttermilk (approx)

Preheat your oven to 450°F.
Combine the dry ingredients. Cut the butter in. Add the buttermilk and mix JUST until combined.
Pat to 1/2 inch thick, cut out biscuits with a 2 inch cutter.
Bake for 10-12 minutes.`,
			`Buttermilk Biscuits | scone | serves 10 | 232 °C | 10-12 min
plain-flour 240
baking-powder 14
baking-soda 1
salt 6
butter 85
buttermilk 242
steps 4`},
		{"bars for line ends, a time without the word bake", `Focaccia, the lazy way
500g strong flour | 2 tsp salt | 1 sachet dried yeast | 2 tbsp olive oil + extra | 400ml water
Stir it all to a sticky dough. Cover, leave overnight in the fridge.
Oil a 33x23cm tin, tip it in, leave 2 hours. Dimple, oil, salt flakes.
220C 25 min.`,
			`Focaccia, the lazy way | yeast-lean | serves 0 | 220 °C | 25-25 min | 13x9 in
strong-flour 500
salt 12
active-dry-yeast 7
olive-oil 27
water 400
steps 3`},
		{"fan-forced, tbs, no heading", `Anzac-style oat biscuits

1 cup plain flour
1 cup rolled oats
1 cup desiccated coconut
3/4 cup brown sugar
125g butter
2 tbs golden syrup
1/2 tsp bicarb soda
1 tbs boiling water

1. Preheat oven to 160°C fan-forced.
2. Combine flour, oats, coconut and sugar.
3. Melt butter and syrup; mix the bicarb with the water, add.
4. Roll tablespoonfuls, bake 12-15 mins or until golden.
Makes about 30`,
			`Anzac-style oat biscuits | biscuit | serves 30 | 180 °C | 12-15 min
plain-flour 120
oats 90
desiccated-coconut 80
light-brown-sugar 163
butter 125
golden-syrup 43
baking-soda 2
water 15
steps 5`},
		{"names first, with dashes", `Nankhatai

Maida – 1 cup
Besan – 1/4 cup
Sooji – 2 tbsp
Ghee – 1/2 cup
Powdered sugar – 1/2 cup
Cardamom powder – 1/2 tsp
Baking powder – 1/2 tsp
Curd – 1 tbsp
Pistachios – few, chopped

Method:
Cream the ghee and sugar. Add dry ingredients and curd. Make 20 balls and bake at 160 degree C for 20 mins.`,
			`Nankhatai | biscuit | serves 0 | 160 °C | 20-20 min
plain-flour 120
chickpea-flour 23
semolina 21
ghee 96
icing-sugar 56
cardamom 1
baking-powder 2
yogurt 15
pistachios 0
steps 1`},
		{"a quoted letter", `Re: that pear cake!!
On Sat Mum wrote:
> here you go love
> 3 pears
> 150g s.r. flour
> 100g caster sugar
> 100g marg
> 2 eggs
> Peel the pears & slice. Beat everything else together. Put in 8" tin, pears on top. 180 for 45 mins`,
			`Re: that pear cake!! | all-in-cake | serves 0 | 180 °C | 45-45 min | round 8 in
pear 495
self-raising-flour 150
caster-sugar 100
spread 100
egg 100
steps 1`},
		{"names first, without any mark", `Low carb almond mug... no, loaf

almond flour 250g
psyllium 20 g
eggs x 4
butter 80g melted
baking powder 2tsp
salt ½ tsp
apple cider vinegar 1tbsp
boiling water 120ml

Mix dry, add wet, add water last. Loaf tin 8x4. 175C, 50-55 min.`,
			`Low carb almond mug... no, loaf | quick-bread | serves 0 | 175 °C | 50-55 min | loaf 8x4 in
almond-flour 250
psyllium-husk 20
egg 200
butter 80
baking-powder 9
salt 3
cider-vinegar 15
water 120
steps 1`},
		{"a message", `hi! here's the loaf:
2 c flour
1 c sugar
1/2 c oil
2 eggs
1 c grated carrots
1 tsp soda, 
1/2 tsp salt
bake 350 for 1 hr in loaf pan. enjoy!!`,
			`hi! here's the loaf | quick-bread | serves 0 | 177 °C | 60-60 min | loaf 9x5 in
plain-flour 240
sugar 200
sunflower-oil 106
egg 100
carrot 110
baking-soda 5
salt 3
steps 1`},
		{"a page with its buttons", `Lemon Ricotta Cake

Prep Time: 15 minutes
Cook Time: 45 minutes
Total Time: 1 hour
Yield: 10 servings

Ingredients
Scale 1x 2x 3x
▢ 1½ cups (180 g) all-purpose flour
▢ 2 teaspoons baking powder
▢ ½ teaspoon fine salt
▢ 1 cup (200 g) granulated sugar
▢ 1 tablespoon lemon zest
▢ 1 cup (246 g) whole milk ricotta
▢ 3 large eggs, room temperature
▢ ½ cup (113 g) unsalted butter, melted and cooled
▢ powdered sugar, for serving

Instructions
Heat the oven to 350°F (177°C). Grease a 9-inch round pan.
Whisk the dry ingredients.
Whisk the rest; stir together.
Bake for 40 to 45 minutes.

Notes
Keeps 3 days.`,
			`Lemon Ricotta Cake | all-in-cake | serves 10 | 177 °C | 40-45 min | round 9 in
plain-flour 180
baking-powder 9
salt 3
sugar 200
lemon-zest 6
ricotta 246
egg 150
butter 113
icing-sugar 0
steps 4`},
		{"metric, name first", `Dinkelkuchen

Zutaten wie gesagt:
Spelt flour 250 g
Butter 125 g, soft
Sugar 120 g
Eggs: 3
Milk 100 ml
Baking powder 2 tsp

Cream butter and sugar, add the eggs one by one, then flour, powder and milk.
Bake at 175 °C for 45 minutes in a 23 cm round tin. Serves 12.`,
			`Dinkelkuchen | creamed-cake | serves 12 | 175 °C | 45-45 min | round 23 cm
[zutaten wie gesagt]
spelt-flour 250
butter 125
sugar 120
egg 150
milk 102
baking-powder 9
steps 2`},
		{"a bread in baker's hands", `Everyday tin loaf
Makes 1 loaf (14 slices)

500g strong white bread flour, plus extra for dusting
7g sachet fast-action dried yeast
1½ tsp fine salt
1 tbsp olive oil
300-320ml lukewarm water

1. Mix everything and knead for 10 mins.
2. Leave to rise for 1 hr until doubled.
3. Shape, put in an oiled 2lb loaf tin, prove 30-40 mins.
4. Bake at 220C/200C fan/gas 7 for 30-35 mins.`,
			`Everyday tin loaf | yeast-lean | serves 14 | 220 °C | 30-35 min | loaf 9x5 in
strong-flour 500
instant-yeast 7
salt 9
olive-oil 13
water 310
steps 4`},
		{"spoons and handfuls", `Seed bars
makes 16
a handful of pumpkin seeds
3 heaped tbsp runny honey
half a cup of peanut butter
2 cups porridge oats
a pinch of salt
a few drops vanilla extract
1/3 cup raisins or chopped apricots (optional)

Warm honey and peanut butter, stir in the rest, press into an 8 inch square tin. Bake 20 min at 160 C fan.`,
			`Seed bars | biscuit | serves 16 | 180 °C | 20-20 min | square 8 in
pumpkin-seeds 40
honey 62
peanut-butter 129
oats 180
salt 0
vanilla 0
raisins 50 optional
steps 1`},
		{"Indian kitchen", `Eggless tutti cake

1 & 1/2 cup maida
3/4 cup powdered sugar
1/2 cup curd (dahi)
1/2 cup oil
1 tsp baking powder
1/2 tsp cooking soda
1 tbsp vinegar
1/2 cup milk + 2 tbsp
1/4 cup cashew nuts, chopped

Preheat oven at 180 degree C for 10 min. Bake for 35-40 minutes in a 7" round tin.`,
			`Eggless tutti cake | all-in-cake | serves 0 | 180 °C | 35-40 min | round 18 cm
plain-flour 180
icing-sugar 85
yogurt 123
sunflower-oil 106
baking-powder 5
baking-soda 2
vinegar 15
milk 151
cashews 34
steps 1`},
		{"two parts and a glaze", `Orange bundles

For the dough:
250 g plain flour
60 g cold butter
1 tsp baking powder
120 ml orange juice
Zest of 1 orange

For the glaze:
80 g icing sugar
1 tbsp orange juice

METHOD
Rub in, stir, shape 8 bundles, set on a lined baking tray.
Bake at 200°C for 15 minutes.
Glaze while warm.`,
			`Orange bundles | scone | serves 8 | 200 °C | 15-15 min | baking sheet
[dough]
plain-flour 250
butter 60
baking-powder 5
orange-juice 126
lemon-zest 8
[glaze]
icing-sugar 80
orange-juice 16
steps 3`},
	} {
		rd, err := reader.Read(c.text, reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, c.want, sheet(rd), c.name)
	}
}

// Slips are marked, never swallowed: whatever the line, either the amount is what
// is written or the line is in doubt.
func TestNoWrongAmountPassesSilently(t *testing.T) {
	for text, want := range map[string]float64{
		"1 to 2 cups flour": 180, "1 cup flour or more": 120, "2 cups flour, divided": 240, "1 cup less 1 tbsp flour": -1, "flour, 2 cups": 240, "about 2 cups of flour": 240,
		"2 cups plus 3 tbsp flour": 262.5, "2¼ c flour": 270, "2 1/4 cups flour (270 g)": 270, "1 cup (heaped) flour": 120, "two cups flour": 240, "2 cups + 1 tbsp flour": 247.5,
		"1.5 cups flour": 180, "1,5 cups flour": 180, "500 grams flour": 500, "0.5kg flour": 500, "1 lb 2 oz flour": 510.3, "1 pound flour": 453.6, "17½ oz flour": 496.1,
	} {
		rd, err := reader.Read("A cake\n\nIngredients\n"+text, reader.Options{})
		require.NoError(t, err)
		require.Len(t, rd.Recipe.Lines, 1, text)
		l := rd.Recipe.Lines[0]
		if want < 0 {
			assert.False(t, l.Known, "%s was taken for %.0f g", text, l.Grams)
			continue
		}
		if l.Known {
			assert.InDelta(t, want, l.Grams, 1, text)
		}
	}
}

func TestKindIsTypedOverInferred(t *testing.T) {
	rd, err := reader.Read("Rounds\nIngredients\n225 g flour\n55 g butter\n140 ml milk", reader.Options{Facts: reader.Facts{Kind: "biscuit"}})
	require.NoError(t, err)
	assert.Equal(t, recipe.Biscuit, rd.Recipe.Kind)
}
