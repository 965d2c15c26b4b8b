package reader_test

import (
	"math"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/larder"
	"kollaris/core/reader"
)

// corpus are lines as they stand in letters, cards, pages and notebooks, one a
// line: what is written | ingredient | grams. The weights are those written, or
// follow from ounces, pounds and the catalogue's cup, spoon and piece, which
// core/larder holds to GNU units. "?" must be asked about.
const corpus = `
6oz/170g caster sugar | caster-sugar | 170.1
170g/6oz caster sugar | caster-sugar | 170
4oz. marg | spread | 113.4
1lb 4oz strong white flour | strong-flour | 567
1 1/2 lbs bread flour | strong-flour | 680.4
2 & 1/2 cups plain flour | plain-flour | 300
2-1/2 cups plain flour | plain-flour | 300
2 1/2 c plain flour | plain-flour | 300
two and a half cups plain flour | plain-flour | 300
1 cup + 2 tbsp plain flour | plain-flour | 135
1 scant cup plain flour | plain-flour | 120
1 heaping cup plain flour | plain-flour | 120
120g (1 cup) plain flour | plain-flour | 120
Plain flour - 250g | plain-flour | 250
Plain flour: 250 g | plain-flour | 250
plain flour, 250g | plain-flour | 250
flour (plain) 250g | plain-flour | 250
250 grams plain flour | plain-flour | 250
250 gm plain flour | plain-flour | 250
250gms plain flour | plain-flour | 250
0,25 kg plain flour | plain-flour | 250
¼ kg plain flour | plain-flour | 250
250g gluten free self raising flour | gf-self-raising | 250
200g gluten-free plain flour blend | gf-blend | 200
100g ground almonds (almond meal) | almond-flour | 100
75g of rolled oats | oats | 75
75g porridge oats | oats | 75
50g oat flour | oat-flour | 50
30g coconut flour, sifted | coconut-flour | 30
150g buckwheat flour | buckwheat-flour | 150
100g rice flour (white) | rice-flour | 100
60 g tapioca flour | tapioca | 60
60g potato starch (not flour) | potato-starch | 60
1 tsp xanthan gum | xanthan | 3
10g psyllium husk, whole | psyllium-husk | 10
3 eggs, separated | egg | 150
3 eggs (large) | egg | 150
3 free-range eggs | egg | 150
3 eggs, room temperature | egg | 150
3 eggs, at room temperature, lightly beaten | egg | 150
eggs: 3 | egg | 150
Three eggs | egg | 150
1 whole egg | egg | 50
1 egg + 1 yolk | ? | 0
2 yolks | egg-yolk | 34
2 egg yolks, lightly beaten | egg-yolk | 34
4 whites | egg-white | 132
whites of 2 eggs | egg-white | 66
1 beaten egg, to glaze | egg | 50
1 egg for glazing | egg | 50
100g unsalted butter, cubed and chilled | butter | 100
100g cold butter, diced | butter | 100
100g butter, melted and cooled | butter | 100
100g melted butter | butter | 100
100g butter (softened) | butter | 100
100g butter, plus extra for greasing | butter | 100
1 stick (113g) butter | butter | 113.4
2 sticks butter, at room temp | butter | 226.8
1/2 stick butter | butter | 56.7
3 tbsp. butter | butter | 42.6
100g lard or butter | lard | 100
80g vegan block | plant-block | 80
80g dairy-free spread | spread | 80
100ml vegetable oil | sunflower-oil | 90
3 tablespoons olive oil | olive-oil | 40.5
3 tbs olive oil | olive-oil | 40.5
3 Tbsp. extra virgin olive oil | olive-oil | 40.5
50g coconut oil, melted | coconut-oil | 50
150ml (¼ pint) milk | milk | 153.4
1/4 pint milk | milk | 121
100ml semi-skimmed milk | milk-semi | 102
200ml oat milk | oat-drink | 206
200 ml unsweetened soya milk | soya-drink | 206
180ml almond milk, unsweetened | almond-drink | 182
284ml carton buttermilk | buttermilk | 290
142ml pot soured cream | sour-cream | 145.2
150g natural yogurt | yogurt | 150
150g full-fat Greek-style yoghurt | greek-yogurt | 150
250g mascarpone | mascarpone | 250
200g full fat soft cheese | cream-cheese | 200
100g mature cheddar, grated | cheddar | 100
50g parmesan, finely grated | parmesan | 50
200g golden caster sugar | caster-sugar | 200
200g granulated sugar, divided | sugar | 200
200 g dark brown soft sugar | dark-brown-sugar | 200
200g light muscovado sugar | light-muscovado | 200
50g demerara sugar, for the top | demerara-sugar | 50
50g icing sugar, to dust | icing-sugar | 50
100 g powdered sugar | icing-sugar | 100
2 tbsp runny honey | honey | 42
2 tbsp clear honey | honey | 42
1 tbsp black treacle | treacle | 19.9
100g maple syrup | maple-syrup | 100
100g erythritol | erythritol | 100
80g xylitol | xylitol | 80
1 tsp vanilla | vanilla | 4.2
1 tsp vanilla essence | vanilla | 4.2
2tsp baking powder | baking-powder | 9.2
2 level tsp baking powder | baking-powder | 9.2
2 level teaspoons of baking powder | baking-powder | 9.2
1/2 teaspoon bicarbonate of soda | baking-soda | 2.3
½ tsp bicarbonate of soda | baking-soda | 2.3
½tsp bicarb. of soda | baking-soda | 2.3
1/2 tsp. baking soda | baking-soda | 2.3
1 level teaspoon cream of tartar | cream-of-tartar | 3.2
1/4 tsp fine sea salt | salt | 1.5
1/4 tsp table salt | salt | 1.5
7g dried active yeast | active-dry-yeast | 7
7g fast action dried yeast | instant-yeast | 7
15g fresh yeast, crumbled | fresh-yeast | 15
150g active sourdough starter | sourdough-starter | 150
1 tsp ground cinnamon | cinnamon | 2.6
1 tsp. cinnamon, ground | cinnamon | 2.6
1 tbsp cider vinegar | cider-vinegar | 15
2 tbsp lemon juice | lemon-juice | 30
Juice of half a lemon | lemon-juice | 22.5
100g dark chocolate, 70% cocoa solids | dark-chocolate | 100
100g milk chocolate chips | milk-chocolate | 100
25g cocoa | cocoa | 25
25g cocoa powder, sifted | cocoa | 25
100g walnut halves | walnuts | 100
100g pecans, toasted | pecans | 100
50g flaked almonds | almonds | 50
100g sultanas | sultanas | 100
100g seedless raisins | raisins | 100
100 g dried cranberries | dried-cranberries | 100
100g pitted dates, chopped | dates | 100
150g blueberries (fresh or frozen) | blueberries | 150
150g frozen raspberries | raspberries | 150
200g grated carrot | carrot | 200
200g courgettes, grated and squeezed | courgette | 200
250g pumpkin puree | pumpkin-puree | 250
125g unsweetened apple sauce | apple-puree | 125
2 apples, peeled, cored and diced (about 250g) | apple | 250
30g poppy seeds | poppy-seeds | 30
2 tbsp milled flaxseed | flax-ground | 13
30g sunflower seeds, plus 1 tbsp to sprinkle | sunflower-seeds | 30
300ml warm water | water | 300
300 ml lukewarm water | water | 300
300ml tepid water (approx.) | water | 300
300ml boiling water | water | 300
about 300ml water | water | 300
300–320 ml water | water | 310
300 to 320ml water | water | 310
400g tin coconut milk | coconut-milk | 400
1 x 400g can coconut milk | coconut-milk | 400
1 (400 g) can coconut milk | coconut-milk | 400
2 fl. oz. milk | milk | 60.5
2 cups all purpose flour | plain-flour | 240
2 cups AP flour | plain-flour | 240
2 cups unbleached flour | plain-flour | 240
1 cup whole wheat flour | wholemeal-flour | 120
1 cup white whole wheat flour | wholemeal-flour | 120
1 cup atta | wholemeal-flour | 120
200g SR flour | self-raising-flour | 200
200 g self raising flour | self-raising-flour | 200
1 cup self-rising flour | self-raising-flour | 120
250g tipo 00 flour | 00-flour | 250
250g spelt flour | spelt-flour | 250
100g rye flour, dark | rye-flour | 100
50g fine semolina | semolina | 50
100g polenta | cornmeal | 100
100g gram flour | chickpea-flour | 100
100g besan | chickpea-flour | 100
2 tbsp cornstarch | cornflour | 15
2 tbsp arrowroot powder | arrowroot | 16
100g cassava flour | cassava-flour | 100
1 cup blanched almond flour | almond-flour | 96
1 cup super-fine almond flour | almond-flour | 96
1/4 cup coconut flour | coconut-flour | 28
1/2 cup granulated erythritol | erythritol | 100
1/4 cup allulose | allulose | 47.5
2 tbsp chia seeds, ground | chia | 21
1 tbsp psyllium husk powder | psyllium-powder | 9
1/2 cup vegetable shortening | shortening | 96
1/2 cup margarine | spread | 112.5
1/2 cup butter | butter | 113.5
1/2 c. butter, softened | butter | 113.5
8 tbsp butter | butter | 113.6
4 oz cold unsalted butter | butter | 113.4
1/3 cup ghee | ghee | 64.3
1/2 cup canola oil | rapeseed-oil | 106.5
1/4 cup milk, plus 1 tbsp for brushing | milk | 60.5
1 cup 2% milk | milk-semi | 242
1 cup whole milk | milk | 242
1 cup skim milk | milk-skimmed | 242
1 cup heavy cream | cream | 232
1 cup heavy whipping cream | cream | 232
150ml double cream | cream | 150
150ml single cream | single-cream | 150
1 cup Greek yogurt | greek-yogurt | 245
1/2 cup curd | yogurt | 122.5
1/2 cup sour cream | sour-cream | 121
8 ounces cream cheese, softened | cream-cheese | 226.8
1 (8-ounce) package cream cheese | cream-cheese | 226.8
1 cup shredded sharp cheddar | cheddar | 113
1/4 cup grated parmesan cheese | parmesan | 25
100g paneer | ? | 0
1 (14-ounce) can sweetened condensed milk | condensed-milk | 396.9
3/4 cup packed light brown sugar | light-brown-sugar | 162.75
3/4 cup brown sugar (packed) | light-brown-sugar | 162.75
1 cup confectioners' sugar | icing-sugar | 113
1 cup confectioners sugar, sifted | icing-sugar | 100
1/2 cup jaggery powder | jaggery | 100
1/4 cup molasses | treacle | 79.8
1/3 cup pure maple syrup | maple-syrup | 105
1/4 cup agave nectar | agave-syrup | 82.5
2 tsp pure vanilla extract | vanilla | 8.4
1 teaspoon baking soda | baking-soda | 4.6
1 Tbsp baking powder | baking-powder | 13.8
2 1/4 tsp active dry yeast | active-dry-yeast | 7
1 packet (2 1/4 tsp) active dry yeast | active-dry-yeast | 7
1 envelope instant yeast (7 g) | instant-yeast | 7
1 tsp kosher salt | ? | 0
3/4 tsp salt | salt | 4.5
1/8 tsp ground cloves | cloves | 0.26
1 tsp ground ginger | ginger | 1.8
1 tbsp grated fresh ginger | ginger-fresh | 6
zest of one lemon | lemon-zest | 6
finely grated zest of 2 lemons | lemon-zest | 12
zest of 1 orange | lemon-zest | 8
juice of 2 limes | lime-juice | 60
zest of 2 limes | lemon-zest | 8
1/4 cup lemon juice (about 2 lemons) | lemon-juice | 60
1 cup chopped walnuts | walnuts | 117
1 cup pecan halves | pecans | 109
1/2 cup sliced almonds | almonds | 46
1/2 cup raisins | raisins | 75
1 cup fresh blueberries | blueberries | 148
1 cup grated zucchini | courgette | 124
1 cup canned pumpkin | pumpkin-puree | 245
1 cup mashed banana | banana | 227
3 ripe bananas | banana | 354
1 cup chocolate chips | dark-chocolate | 170
6 oz semisweet chocolate, chopped | dark-chocolate | 170.1
1/2 cup unsweetened cocoa powder | cocoa | 41
1/2 cup Dutch-process cocoa | dutch-cocoa | 46
1 cup strong brewed coffee | coffee | 237
2 tbsp rum | rum | 28
1/2 cup creamy peanut butter | peanut-butter | 129
1/4 cup tahini | tahini | 60
3 tbsp aquafaba | aquafaba | 45
120g silken tofu, blended | silken-tofu | 120
1 tbsp ground flax + 3 tbsp water | ? | 0
1/2 cup water | water | 118.3
1 cup ice water | water | 236.6
`

func TestTheCorpusOfLines(t *testing.T) {
	right, all := 0, 0
	for _, row := range strings.Split(strings.TrimSpace(corpus), "\n") {
		f := strings.Split(row, " | ")
		all++
		rd, err := reader.Read("A cake\n\nIngredients\n"+f[0], reader.Options{})
		if !assert.NoError(t, err) || !assert.Len(t, rd.Recipe.Lines, 1, f[0]) {
			continue
		}
		l := rd.Recipe.Lines[0]
		grams := decimal(f[2])
		switch {
		case f[1] == "?":
			assert.False(t, l.Known, "must be asked about: %s", f[0])
			right++
		case !l.Known:
			t.Logf("asked: %-45s %s", f[0], l.Doubt)
		case l.Ingredient != larder.ID(f[1]) || math.Abs(l.Grams-grams) > 0.02*grams+0.05:
			t.Errorf("silently wrong: %s: %s %.1f g, want %s %.1f g", f[0], l.Ingredient, l.Grams, f[1], grams)
		default:
			right++
		}
	}
	t.Logf("%d of %d lines wholly right", right, all)
	assert.GreaterOrEqual(t, float64(right), 0.98*float64(all))
}

func decimal(s string) float64 {
	x, err := strconv.ParseFloat(s, 64)
	if err != nil {
		panic(err)
	}
	return x
}
