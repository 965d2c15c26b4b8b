package method_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/method"
	"kollaris/core/reader"
)

// Which step takes which line, where a name may mean several: read as a baker reads. Each case is a list, a method and what the tasks take.
func TestWhichLineAStepMeans(t *testing.T) {
	for _, c := range []struct{ name, list, steps, want string }{
		{"all but", "200 g flour\n50 g sugar\n60 g butter\n1 egg", "Mix everything but the butter. Add the butter, knead. Bake.", "mix flour sugar egg; mix butter"},
		{"all but, of two", "200 g flour\n50 g sugar\n60 g butter\n80 g raisins", "Knead all but the butter and raisins. Work in the butter and raisins.", "knead flour sugar; mix butter raisins"},
		{"except at the end", "200 g flour\n60 g butter\n7 g yeast\n120 ml milk", "Knead all ingredients, except butter, 8 minutes. Add butter.", "knead flour yeast milk; mix butter"},
		{"a name of its own", "500 g strong flour\n10 g fine salt\n1 tsp flaky salt\n300 ml water", "Mix flour, salt and water. Bake. Scatter with flaky salt.", "mix flour salt water; top salt"},
		{"by its amount", "250 g flour\n300 ml water\n1 tsp baking soda\n50 ml water", "Beat the flour and 300 ml water. Stir in soda dissolved in the 50 ml water.", "beat flour 300-water; mix soda 50-water"},
		{"everything, and what comes later", "200 g flour\n80 g nuts\n2 tbsp orange juice", "Fold everything together. Loosen with the orange juice.", "fold flour nuts; mix juice"},
		{"a verb and its fat", "3 eggs\n240 ml milk\n150 g flour\n1 tbsp butter", "Whisk eggs and milk, whisk in flour. Butter the cups. Bake.", "beat egg milk; beat flour; line butter"},
		{"off the heat", "100 g butter\n100 g sugar\n30 g cocoa\n100 g flour", "Melt the butter. Off the heat, stir in the sugar and cocoa. Fold in the flour.", "melt butter; mix sugar cocoa; fold flour"},
		{"a part by its name", "Sponge\n100 g strong flour\n80 ml milk\n7 g yeast\n\nMain dough\n400 g strong flour\n100 ml milk\n50 g sugar", "Mix sponge, stand 1 hour. Add flour, sugar, milk; knead 10 minutes.", "mix 100-flour milk yeast; mix 400-flour sugar milk"},
		{"a part piped", "300 g flour\n7 g yeast\n200 ml milk\nCross: 75 g flour, 75 ml water", "Knead flour, yeast and milk. Pipe the cross. Bake.", "knead flour yeast milk; ice flour water"},
		{"iced", "200 g flour\n100 g butter\n1 egg\n\nRoyal icing\n1 egg white\n200 g icing sugar", "Rub butter into flour, add egg. Bake. Cool and ice.", "rub-in butter flour; mix egg; cool white icing"},
		{"the filling's butter", "Dough\n300 g flour\n40 g butter\n150 ml milk\n\nFilling\n60 g butter\n80 g brown sugar", "Mix flour, butter and milk. Roll out, spread butter, sprinkle sugar. Bake.", "mix flour 40-butter milk; top 60-butter; top sugar"},
		{"a part with a word beside it", "Poolish (night before)\n100 g strong flour\n100 g water\n\nDough\n400 g strong flour\n240 g water", "Stir the poolish together, leave 12 hours. Mix the poolish with flour and water.", "mix 100-flour 100-water; mix 400-flour 240-water"},
		{"both flours", "100 g rye flour\n200 g plain flour\n200 ml water", "Mix the flours with the water. Dust with rye flour.", "mix rye flour water"},
	} {
		t.Run(c.name, func(t *testing.T) {
			rd, err := reader.Read("Squares\n\n"+c.list+"\n\nMethod\n"+c.steps, reader.Options{})
			require.NoError(t, err)
			var got []string
			for _, x := range method.Read(rd.Recipe, larder.Builtin()) {
				if len(x.Uses) == 0 {
					continue
				}
				words := string(x.Verb)
				for _, u := range x.Uses {
					words += fmt.Sprintf(" %s(%.0f)", rd.Recipe.Line(u.Line).Text, 100*u.Share)
				}
				got = append(got, words)
			}
			want := strings.Split(c.want, "; ")
			require.Len(t, got, len(want), "%q", got)
			for n, w := range want {
				words := strings.Fields(w)
				assert.True(t, strings.HasPrefix(got[n], words[0]+" "), "%s: %s", w, got[n])
				assert.Equal(t, len(words)-1, strings.Count(got[n], "(100)"), "%s: %s", w, got[n])
				for _, food := range words[1:] {
					for _, part := range strings.Split(food, "-") {
						assert.Contains(t, got[n], part, w)
					}
				}
			}
		})
	}
}

// A share that is only a word is said with all that the task takes of it.
func TestMostOfALineIsSaidWhole(t *testing.T) {
	rd, err := reader.Read("Farls\n250 g flour\n250 ml milk\n100 g currants\n\nMethod\nPour in most of the milk and mix. Fold in some of the currants. Top with the rest of the currants.", reader.Options{})
	require.NoError(t, err)
	var said []string
	for _, x := range method.Rewrite(rd.Recipe, method.Became{Recipe: rd.Recipe, Larder: larder.Builtin()}) {
		said = append(said, x.Text)
	}
	all := strings.Join(said, " ")
	assert.NotContains(t, all, "g milk)", "nothing of it stands behind the sentence")
}
