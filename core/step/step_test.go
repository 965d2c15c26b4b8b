package step_test

import (
	"strings"
	"testing"

	"github.com/pelletier/go-toml/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/larder"
	"kollaris/core/recipe"
	"kollaris/core/step"
)

func read(text string) (step.Step, error) {
	var s struct{ Step step.Step }
	err := toml.NewDecoder(strings.NewReader("step = " + text)).DisallowUnknownFields().Decode(&s)
	return s.Step, err
}

// What is wrong with a step of a school of chia and water, by hand.
func TestWhatDoesNotFitTogether(t *testing.T) {
	for text, want := range map[string]string{
		`{op="gel",place="start",of=["chia"],into=["water"],wait=10,text="Stir {chia} into {water}."}`: "",
		`{op="gel",place="start",of=["chia"],into=["liquid"],text="Stir {weights} into {liquid}."}`:    "",
		`{op="whisk",place="mix",of=["from"],at_once=true,text="Beat it."}`:                            "",
		`{op="tell",place="beside",beside="knead",unlisted=["sugar"],text="well"}`:                     "",
		`{op="cool",place="end",until="it sounds hollow",text="Cool it."}`:                             "",
		`{place="start",text="y"}`:                                               "want op, place and text",
		`{op="tell",text="y"}`:                                                   "want op, place and text",
		`{op="tell",place="start"}`:                                              "want op, place and text",
		`{op="tell",place="beside",text="y"}`:                                    `place "beside" beside ""`,
		`{op="tell",place="start",beside="knead",text="y"}`:                      `place "start" beside "knead"`,
		`{op="gel",place="start",of=["flax-ground"],text="y"}`:                   `takes "flax-ground", which is no part`,
		`{op="gel",place="start",of=["chia"],into=["sand"],text="y"}`:            `takes "sand", which is no part`,
		`{op="tell",place="start",unlisted=["moon"],text="y"}`:                   `names "moon", which is not in the larder`,
		`{op="gel",place="start",text="y"}`:                                      `op "gel" of []`,
		`{op="foam",place="last",text="y"}`:                                      `op "foam" of []`,
		`{op="tell",place="start",of=["chia"],text="y"}`:                         `op "tell" of ["chia"]`,
		`{op="gel",place="start",of=["chia"],into=["liquid"],text="the liquid"}`: "both or none",
		`{op="gel",place="start",of=["chia"],text="into {liquid}"}`:              "both or none",
		`{op="stir",place="start",of=["chia","liquid"],text="y"}`:                "both or none",
		`{op="rest",place="before-oven",until="it puffs",text="y"}`:              `op "rest" until "it puffs"`,
	} {
		s, err := read(text)
		require.NoError(t, err, text)
		got := strings.Join(s.Check([]larder.ID{"chia", "water"}, larder.Builtin()), "; ")
		if want == "" {
			assert.Empty(t, got, text)
		} else {
			assert.Contains(t, got, want, text)
		}
	}
}

// Every word of the vocabularies is read and written alike, and no other is.
func TestTheVocabularies(t *testing.T) {
	for o := step.Tell; o <= step.CoolTin; o++ {
		var back step.Op
		require.NoError(t, back.UnmarshalText([]byte(o.String())))
		assert.Equal(t, o, back)
	}
	for p := step.AtStart; p <= step.BesideStep; p++ {
		var back step.Place
		require.NoError(t, back.UnmarshalText([]byte(p.String())))
		assert.Equal(t, p, back)
	}
	var op step.Op
	assert.ErrorContains(t, op.UnmarshalText([]byte("gell")), `"gell" is none of tell, gel, sour`)
	assert.Error(t, op.UnmarshalText(nil))
	var place step.Place
	assert.ErrorContains(t, place.UnmarshalText([]byte("before")), "before-oven")
	var beside step.Besides
	assert.NoError(t, beside.UnmarshalText([]byte("knead")))
	assert.Equal(t, "knead", beside.String())
	assert.Error(t, beside.UnmarshalText([]byte("mix")))
}

// Where no oven bakes, nothing is said of foil, racks and tins.
func TestWhatAsksForAnOven(t *testing.T) {
	for op, want := range map[step.Op]bool{step.Tent: true, step.Cool: true, step.CoolTin: true, step.FillTin: true, step.AtOnce: true, step.Gel: false, step.Rest: false, step.Chill: false, step.Foam: false} {
		assert.Equal(t, want, op.OfAnOven(), op)
	}
}

func TestAStepOfAnotherFood(t *testing.T) {
	s, err := read(`{op="gel",place="start",of=["chia"],into=["water"],only=["scone"],text="Stir {chia} into {water}."}`)
	require.NoError(t, err)
	own := s.With("chia", "own-chia")
	assert.True(t, own.Takes("own-chia") && own.Takes("water") && !own.Takes("chia"))
	assert.Equal(t, "Stir {own-chia} into {water}.", own.Text)
	assert.True(t, s.Takes("chia"), "the first is as it was")
	assert.True(t, s.In(recipe.Scone))
	assert.False(t, s.In(recipe.Biscuit))
	assert.False(t, s.InLiquid())
}

func TestHolesAndWhatFillsThem(t *testing.T) {
	assert.Equal(t, []string{"a", "b"}, step.Holes("x {a} y {b}"))
	assert.Empty(t, step.Holes("x } y { z"))
	assert.Equal(t, "x 5 g y {b}", step.Fill("x {a} y {b}", map[string]string{"a": "5 g"}))
}
