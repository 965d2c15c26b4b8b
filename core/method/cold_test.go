package method

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// What stands too long: raw egg and what is of milk and wet, not butter nor powders. Source: food authorities, two hours.
func TestWhatSpoils(t *testing.T) {
	l := larder.Builtin()
	for _, id := range []larder.ID{"egg", "egg-white", "milk", "double-cream", "yogurt", "quark"} {
		assert.True(t, Spoils(l.Get(id)), id)
	}
	for _, id := range []larder.ID{"butter", "ghee", "milk-powder", "egg-white-powder", "water", "oat-drink", "sugar"} {
		assert.False(t, Spoils(l.Get(id)), id)
	}
	assert.False(t, Spoils(nil))
}

// The warm waits before the bake are added up, those in the cold are not.
func TestHowLongItStandsWarm(t *testing.T) {
	wait := func(v Verb, where Place, min float64) Task {
		return Task{Verb: v, Where: where, Wait: Time{recipe.Minutes{Min: min, Max: 2 * min}, "practice"}}
	}
	tasks := []Task{wait(Mix, Counter, 5), wait(Rest, Counter, 100), wait(Heat, InOven, 20), wait(Chill, Fridge, 600), wait(Prove, Warm, 40), wait(Bake, InOven, 50), wait(Cool, Counter, 60)}
	for from, want := range map[int]float64{0: 145, 1: 140, 3: 40, 4: 40, 5: 0} {
		assert.InDelta(t, want, warm(tasks, from), 1e-9, "from %d", from)
	}
	tasks[1].Part = "icing"
	assert.InDelta(t, 45, warm(tasks, 0), 1e-9, "another part waits by itself")
	r := &recipe.Recipe{Lines: []recipe.Line{{ID: 1, Ingredient: "egg", Name: "egg"}, {ID: 2, Ingredient: "butter", Name: "butter"}}}
	tasks[0].Uses, tasks[1].Part = []Use{{1, 1}, {2, 1}}, ""
	assert.Equal(t, []string{"egg"}, LeftWarm(tasks, r, larder.Builtin()))
	tasks[1].Wait.Min = 70
	assert.Empty(t, LeftWarm(tasks, r, larder.Builtin()), "115 minutes")
	tasks[1].Wait.Min = 75
	assert.Empty(t, LeftWarm(tasks, r, larder.Builtin()), "two hours")
	tasks[0].Uses, tasks[0].Text, r.Lines[0].Section = nil, "Mix the poolish.", "Poolish"
	tasks[1].Wait.Min, tasks[4].Uses = 100, []Use{{1, 1}}
	assert.Equal(t, []string{"egg"}, LeftWarm(tasks, r, larder.Builtin()), "its part is made first")
	r.Lines[0].Section = "Dough"
	assert.Empty(t, LeftWarm(tasks, r, larder.Builtin()), "it comes in later")
}
