package adapt_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/nutrition"
	"kollaris/core/recipe"
	"kollaris/core/sweet"
)

// polyols are the sugar alcohols of a serving, by the lines.
func polyolsOf(r *recipe.Recipe) float64 {
	sum := 0.0
	for _, l := range r.Lines {
		if i := larder.Builtin().Get(l.Ingredient); i != nil {
			sum += l.Grams / 100 * i.Facts.Polyols()
		}
	}
	return sum / float64(r.Servings)
}

const iced = "Iced pound cake\nServes 8\n225 g butter\n225 g sugar\n4 eggs\n225 g plain flour\n1 tsp baking powder\n\nFor the icing\n250 g icing sugar\n60 g butter\n\n" +
	"Cream the butter and sugar. Beat in the eggs. Fold in the flour and powder. Bake in a 2 lb loaf tin at 160C for 60 minutes. Beat the icing sugar and butter and spread over."

// Fifteen grams of sugar alcohols a serving are for the whole of it, icing too, and it is
// sweet all the same where something else may sweeten it.
func TestSugarAlcoholsAreCountedOverTheWholeServing(t *testing.T) {
	r := written(t, iced)
	for asks, least := range map[string]float64{ // share of the written sweetness that stays
		"diet=keto": 0.4, "diet=low-sugar": 0.4, "diet=low-sugar&ban=allulose": 0.27, "limit=sugars:15": 0.6, // 59 g of sugar a slice: what most bear of the others is half
		"diet=keto&limit=sweet-load:60": 0.48, "diet=low-sugar&limit=sweet-load:60": 0.48, "diet=keto&limit=sweet-load:14": 0.15,
		"diet=keto&swap=sugar:erythritol&swap=sugar-topping:icing-sweetener": 0.1, // as the baker chose
	} {
		v, err := url.ParseQuery(asks)
		require.NoError(t, err)
		req, faults := adapt.ParseRequest(v, larder.Builtin())
		require.Empty(t, faults)
		res, err := adapt.Adapt(r, req, adapt.DefaultKit())
		require.NoError(t, err)
		require.Nil(t, res.Refused, asks)
		assert.LessOrEqual(t, polyolsOf(res.Recipe), 15.3, asks) // spoons round
		assert.LessOrEqual(t, res.Serving.Load, 1.03*req.Demand().LoadMax(), asks)
		inulin := 0.0
		for _, l := range res.Recipe.Lines {
			if l.Ingredient == "inulin" {
				inulin += l.Grams / float64(res.Recipe.Servings)
			}
		}
		assert.LessOrEqual(t, inulin, 15.3, asks)
		sweet := 0.0
		for _, part := range []string{"", "icing"} {
			of := 0.0
			for _, l := range res.Recipe.Lines {
				if i := larder.Builtin().Get(l.Ingredient); i != nil && l.Section == part {
					of += l.Grams * i.Facts[larder.Sweetness]
				}
			}
			assert.Positive(t, of, "%s leaves %q unsweetened", asks, part)
			sweet += of
		}
		assert.GreaterOrEqual(t, sweet/475, least, asks)
	}
}

// What is chosen by default is a blend: of a batter's mix erythritol is no more than half, where
// the law lets allulose be sold it is there, and where it does not it never is.
func TestWhatSweetensByDefaultIsABlend(t *testing.T) {
	asked := map[nutrition.Law]int{}
	for k, r := range corpus(t) {
		if r.Kind.Yeasted() || k%2 == 1 {
			continue
		}
		for _, law := range []nutrition.Law{nutrition.US, nutrition.EU} {
			kit := adapt.DefaultKit()
			kit.Law = law
			res, err := adapt.Adapt(r, adapt.Request{Diets: []diet.ID{diet.Keto}}, kit)
			require.NoError(t, err)
			if res.Refused != nil {
				continue
			}
			was, _ := sweet.MixOf(r, kit.Larder, false)
			now, _ := sweet.MixOf(res.Recipe, kit.Larder, false)
			sum, allulose, white := now.Sum(), 0.0, false
			for _, p := range now {
				allulose += p.Grams * p.Of.Facts[larder.Allulose] / 100
			}
			for _, p := range was {
				white = white || p.Of.ID == "sugar" || p.Of.ID == "caster-sugar"
			}
			if law == nutrition.EU {
				assert.Zero(t, allulose, r.Title)
			}
			if white && sum.Grams > 20 && len(now) > 1 {
				asked[law]++
				assert.LessOrEqual(t, sum.Erythritol, 0.53*sum.Grams, "%s by %s: %v", r.Title, law, now)
			}
		}
	}
	assert.GreaterOrEqual(t, asked[nutrition.US], 8, asked)
	assert.GreaterOrEqual(t, asked[nutrition.EU], 8, asked)
}

// What turns gritty or cools the mouth is said, in the batter and in the icing.
func TestGritAndCoolingAreSaid(t *testing.T) {
	r := written(t, iced)
	said := func(swaps map[string]string) string {
		res, err := adapt.Adapt(r, adapt.Request{Diets: []diet.ID{diet.LowSugar}, Swaps: swaps}, adapt.DefaultKit())
		require.NoError(t, err)
		return strings.Join(res.Doubts, "\n")
	}
	assert.Contains(t, said(map[string]string{"sugar": "erythritol"}), "Cools the mouth clearly")
	assert.Contains(t, said(map[string]string{"sugar-topping": "icing-sweetener"}), "In the topping: Cools the mouth clearly")
	assert.NotContains(t, said(map[string]string{"sugar": "allulose", "sugar-topping": "as-written"}), "Cools")
}

// A limit is met and not overshot: as much sugar stays as it allows.
func TestALimitIsMetNotOvershot(t *testing.T) {
	r := written(t, iced)
	for _, limit := range []float64{5, 15, 30} {
		res, err := adapt.Adapt(r, adapt.Request{Limits: []diet.Limit{{What: diet.AddedSugars, Max: limit}}}, adapt.DefaultKit())
		require.NoError(t, err)
		require.Len(t, res.Limits, 1)
		assert.True(t, res.Limits[0].Kept, res.Limits[0].Words)
		assert.GreaterOrEqual(t, res.Limits[0].Got, 0.8*limit)
	}
}
