package adapt_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/keep"
	"kollaris/core/larder"
	"kollaris/core/method"
)

// What it became, what lies on it and what it was soaked in decide how long it keeps.
func TestHowLongWhatIsBakedKeeps(t *testing.T) {
	cake := "Seed cake\nServes 10\n\n240 g plain flour\n120 g sugar\n120 g butter\n2 eggs\n150 ml milk\n2 tsp baking powder\n"
	how := "\nCream the butter and sugar, beat in the eggs, fold in the rest. Bake in a 20 cm round tin at 180C for 45 minutes."
	for name, c := range map[string]struct {
		text  string
		diets []diet.ID
		want  string
	}{
		"as written":        {cake + how, nil, "a cake"},
		"on nuts":           {cake + how, []diet.ID{diet.Keto}, "a moist loaf with little sugar"},
		"with cream cheese": {cake + "\nFor the icing\n100 g cream cheese\n50 g icing sugar\n" + how + " Beat the icing and spread it on.", nil, "with cream or soft cheese"},
		"with plain icing":  {cake + "\nFor the icing\n100 g icing sugar\n20 ml lemon juice\n" + how + " Beat the icing and spread it on.", nil, "a cake"},
		"filled with cream": {cake + "200 ml double cream, whipped\n" + how + " Slice it through and fill with the cream.", nil, "with cream or soft cheese"},
		"brushed and baked": {cake + "1 tbsp milk, for brushing\n" + strings.Replace(how, "Bake in", "Brush with the milk. Bake in", 1), nil, "a cake"},
		"in syrup":          {cake + how + " Brush the warm cake with the syrup.", nil, "a cake soaked in syrup"},
	} {
		res := run(t, read(t, c.text), adapt.Request{Diets: c.diets})
		require.Nil(t, res.Refused, name)
		assert.Equal(t, c.want, res.Life(larder.Builtin()).As, name)
	}
	fruit := "Rich fruit cake\nServes 16\n\n250 g plain flour\n200 g brown sugar\n200 g butter\n4 eggs\n400 g currants\n200 g raisins\n"
	for spirit, want := range map[string]string{"30 ml rum\n": "a fruit cake with spirit", "1 tsp rum\n": "a fruit cake without spirit", "": "a fruit cake without spirit"} {
		res := run(t, read(t, fruit+spirit+"\nMix all. Bake in a 20 cm round tin at 150C for 2 hours."), adapt.Request{})
		assert.Equal(t, want, res.Life(larder.Builtin()).As, spirit)
	}
	res := run(t, read(t, cake+how), adapt.Request{})
	assert.Equal(t, keep.Days{Min: 3, Max: 4}, res.Life(larder.Builtin()).Room)
}

// A jar holds what is dry, keeps and goes in with the flour: no fat, no egg, no sugar that is creamed,
// and yeast for a month at most.
func TestADryMix(t *testing.T) {
	names := func(lines []adapt.MixLine) (out []string) {
		for _, l := range lines {
			out = append(out, l.Words())
		}
		return out
	}
	stirred := "Seed loaf\nServes 10\n\n240 g plain flour\n100 g sugar\n2 tsp baking powder\n1 pinch salt\n2 eggs\n90 ml oil\n150 ml milk\n50 g sunflower seeds, to finish\n\nStir the flour, sugar, powder and salt together. Whisk in the eggs, oil and milk. Scatter the seeds over. Bake in a 9x5 in loaf tin at 180C for 45 minutes."
	m := run(t, read(t, stirred), adapt.Request{}).DryMix(adapt.DefaultKit())
	assert.Equal(t, []string{"240 g plain flour", "100 g granulated sugar", "9.2 g baking powder", "0.4 g fine salt"}, names(m.Lines))
	assert.Equal(t, []string{"100 g egg", "81 g sunflower oil", "153 g whole milk"}, names(m.Rest)[:3])
	assert.InDelta(t, 349.6, m.Grams, 0.1)
	assert.Equal(t, 180, m.Days)
	assert.Empty(t, m.Short)

	creamed := "Seed loaf\nServes 10\n\n240 g ground almonds\n100 g sugar\n2 tsp baking powder\n100 g butter\n2 eggs\n\nCream the butter and sugar. Beat in the eggs. Fold in the almonds and powder. Bake in a 9x5 in loaf tin at 180C for 45 minutes."
	m = run(t, read(t, creamed), adapt.Request{}).DryMix(adapt.DefaultKit())
	assert.Equal(t, []string{"240 g ground almonds", "9.2 g baking powder"}, names(m.Lines), "the sugar meets the butter")
	assert.Equal(t, "ground almonds", m.Short, "they are half fat")
	assert.Equal(t, 60, m.Days)

	rubbed := "Scones\nMakes 8\n\n250 g plain flour\n50 g sugar\n3 tsp baking powder\n60 g butter\n140 ml milk\n\nRub the butter into the flour, sugar and powder. Stir in the milk. Cut out and bake at 220C for 12 minutes."
	m = run(t, read(t, rubbed), adapt.Request{}).DryMix(adapt.DefaultKit())
	assert.Len(t, m.Lines, 3, "fat is rubbed into the mix")

	dough := "Bread\nServes 10\n\n500 g strong white bread flour\n7 g instant yeast\n9 g salt\n320 ml water\n\nMix all and knead. Leave to rise 1 hour. Bake at 220C for 35 minutes."
	m = run(t, read(t, dough), adapt.Request{}).DryMix(adapt.DefaultKit())
	assert.Len(t, m.Lines, 3)
	assert.Equal(t, 30, m.Days)
	assert.Equal(t, "instant yeast", m.Short)
}

// A rise changes with what its dough became, by more than its spread only; the usual one by what the
// dough is. By hand: half the yeast of a dough with 20 % sugar takes 2 × 1.87 as long as usual, a little more
// for the flour's own sugar.
func TestARiseGoesByItsDough(t *testing.T) {
	bread := func(yeast, sugar, rise string) string {
		return "Bread\nServes 10\n\n500 g strong white bread flour\n" + yeast + "\n9 g salt\n" + sugar + "320 ml water\n\nMix all and knead. " + rise + " Bake at 220C for 35 minutes."
	}
	rises := func(text string, req adapt.Request) (out [][2]float64, note string) {
		res := run(t, read(t, text), req)
		require.Nil(t, res.Refused)
		for _, x := range res.Method {
			if x.Verb == method.Prove {
				out, note = append(out, [2]float64{x.Wait.Min, x.Wait.Max}), x.Note
			}
		}
		return out, note
	}
	got, note := rises(bread("5 g instant yeast", "", "Leave to rise until doubled."), adapt.Request{})
	assert.Equal(t, [][2]float64{{60, 90}}, got)
	assert.Empty(t, note)
	got, note = rises(bread("2.5 g instant yeast", "100 g sugar\n", "Leave to rise until doubled."), adapt.Request{})
	assert.Equal(t, [][2]float64{{225, 340}}, got)
	assert.Equal(t, "Longer than usual, about 225 to 340 min: more sugar, which slows yeast. A quarter more or less; end it by its sign.", note)
	got, note = rises(bread("10 g instant yeast", "", "Leave to rise until doubled."), adapt.Request{})
	assert.Equal(t, [][2]float64{{30, 50}}, got)
	assert.Contains(t, note, "Shorter than usual, about 30 to 50 min: more yeast for the flour.")
	got, _ = rises(bread("2.5 g instant yeast", "100 g sugar\n", "Leave to rise for 3 hours."), adapt.Request{})
	assert.Equal(t, [][2]float64{{180, 180}}, got, "what is written knows its dough")
	got, note = rises(bread("5 g instant yeast", "100 g sugar\n", "Leave to rise for 2 hours."), adapt.Request{Diets: []diet.ID{diet.LowSugar}})
	require.Len(t, got, 1)
	assert.Less(t, got[0][1], 105.0, "without the sugar it is quicker")
	assert.Contains(t, note, "Shorter than written")
	assert.Contains(t, note, "less sugar, which slows yeast")
	got, _ = rises(bread("12 g fresh yeast", "", "Leave to rise until doubled."), adapt.Request{})
	assert.Equal(t, [][2]float64{{75, 110}}, got, "4 g of instant")
}
