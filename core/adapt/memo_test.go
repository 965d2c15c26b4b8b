package adapt_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/measure"
	"kollaris/core/oven"
	"kollaris/core/recipe"
)

type memo map[string]*adapt.Result

func (m memo) Get(key string) (*adapt.Result, bool) { r, ok := m[key]; return r, ok }

func (m memo) Add(key string, r *adapt.Result) bool { m[key] = r; return false }

// A result is remembered for as long as nothing that it follows from changes.
func TestWhatAResultFollowsFromIsItsKey(t *testing.T) {
	r := read(t, pear)
	kit := adapt.DefaultKit()
	kit.Memo, kit.Stamp = memo{}, "one"
	get := func(kit adapt.Kit, req adapt.Request) *adapt.Result {
		res, err := adapt.Adapt(r, req, kit)
		require.NoError(t, err)
		return res
	}
	first := get(kit, both)
	assert.Same(t, first, get(kit, both))
	assert.Equal(t, run(t, r, both), first, "remembering changes nothing")

	stamped, scaled, untold := kit, kit, kit
	stamped.Stamp = "two"
	scaled.Kitchen.FineScale = true
	untold.Stamp = ""
	theirs, learned, unread := both, both, both
	theirs.Theirs = diet.Demand{Bans: []string{"soya"}}
	learned.Oven.Learned = oven.Learned{Offset: 10}
	unread.Unread = []adapt.Fault{{Field: "ban", Typed: "zorblax"}}
	for name, other := range map[string]*adapt.Result{"larder": get(stamped, both), "kitchen": get(scaled, both), "without a stamp": get(untold, both), "people": get(kit, theirs), "oven": get(kit, learned), "unread": get(kit, unread)} {
		assert.NotSame(t, first, other, name)
	}
	changed := r.Clone()
	changed.Lines[0].Grams++
	other, err := adapt.Adapt(changed, both, kit)
	require.NoError(t, err)
	assert.NotSame(t, first, other)

	baked, err := adapt.Predicted(r, both, kit)
	require.NoError(t, err)
	again, err := adapt.Predicted(r, both, kit)
	require.NoError(t, err)
	assert.Same(t, baked, again)
	assert.Equal(t, first.Predict(measure.DefaultKitchen()), baked)
	assert.Nil(t, first.Bake)
}

// Where nobody waits any more nothing is worked out, and nothing of it remembered.
func TestStopped(t *testing.T) {
	r := read(t, pear)
	kit := adapt.DefaultKit()
	kept := memo{}
	gone := errors.New("gone")
	kit.Memo, kit.Stamp, kit.Stop = kept, "one", func() error { return gone }
	for _, f := range []func(*recipe.Recipe, adapt.Request, adapt.Kit) (*adapt.Result, error){adapt.Adapt, adapt.Judged, adapt.Predicted} {
		_, err := f(r, both, kit)
		require.ErrorIs(t, err, gone)
	}
	assert.Empty(t, kept)
}
