package swap_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/swap"
)

// A share left out, or a mix of one's own, is a school like any other; what cannot be
// made of a text leaves the use as it was.
func TestSchoolsOfOnesOwn(t *testing.T) {
	l, sugar := larder.Builtin(), swap.Builtin().Use("sugar")
	s := sugar.With(swap.Less(25), l).School("less:25")
	require.NotNil(t, s)
	assert.Equal(t, 75.0, s.Parts[0].Grams)
	assert.Equal(t, swap.From, s.Parts[0].ID)
	assert.Equal(t, swap.Workable, s.Confidence)
	assert.Equal(t, swap.Experiment, sugar.With("less:60", l).School("less:60").Confidence)
	id := swap.Mix([]swap.Part{{ID: "erythritol", Grams: 50}, {ID: "stevia-extract", Grams: 0.2}})
	assert.Equal(t, "mix:erythritol=50+stevia-extract=0.2", id)
	s = sugar.With(id, l).School(id)
	require.NotNil(t, s)
	assert.Len(t, s.Parts, 2)
	assert.Len(t, sugar.Schools, len(sugar.With("as-written", l).Schools), "the table is as it was")
	for _, bad := range []string{"", "less", "less:0", "less:99", "less:x", "mix:", "mix:erythritol", "mix:erythritol=-1", "mix:erythritol=1e9", "mix:plain-flour=50", "mix:moon=50", "other:1"} {
		assert.Same(t, sugar, sugar.With(bad, l), bad)
	}
	egg := swap.Builtin().Use("egg")
	assert.Same(t, egg, egg.With("less:20", l))
}

// What a limit lets stay stands beside a school, but for one that keeps some anyway.
func TestKeepingSomeOfIt(t *testing.T) {
	u := swap.Builtin().Use("sugar")
	differs := &swap.School{ID: "x", Parts: []swap.Part{{ID: "allulose", Grams: 80, As: "sugar", By: map[string]float64{"biscuit": 60}}}}
	assert.InDelta(t, 45, u.Keeping(differs, 0.25, larder.Builtin()).Parts[1].By["biscuit"], 1e-9, "three quarters of what the kind takes")
	for id, keeps := range map[string]bool{"allulose": true, "half-sweetener": false} {
		s := u.School(id)
		k := u.Keeping(s, 0.25, larder.Builtin())
		assert.Equal(t, keeps, k != s, id)
		if keeps {
			assert.Equal(t, swap.Part{ID: swap.From, Grams: 25, As: "sugar"}, k.Parts[0])
			assert.InDelta(t, 0.75*s.Parts[0].Grams, k.Parts[1].Grams, 1e-9)
			assert.Contains(t, k.Title, swap.Beside)
		}
		assert.Same(t, s, u.Keeping(s, 0, larder.Builtin()), "nothing may stay")
	}
}
