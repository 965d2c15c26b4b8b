package web

import (
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/larder"
	"kollaris/core/measure"
	"kollaris/internal/store"
)

// The views are worked out without a request: these know no server.

func TestAFieldKeepsWhatWasTyped(t *testing.T) {
	f := formFields("tin", field{Name: "length", Value: "23"}, field{Name: "deep"})
	assert.Equal(t, "tin-length", f["length"].ID)
	assert.Equal(t, "length", f["length"].Sends())
	assert.Equal(t, "slice", field{ID: "slice"}.Sends())
	f.typed(url.Values{"length": {" wide "}}, map[string]string{"length": "“wide” cannot be that"})
	assert.Equal(t, "wide", f["length"].Value)
	assert.Equal(t, "“wide” cannot be that.", f["length"].Fault)
	assert.Empty(t, f["deep"].Fault)
	f.set("deep", "7")
	assert.Equal(t, "7", f["deep"].Value)
	assert.Empty(t, formFields("", field{Name: "at"})["at"].Value)
	assert.Equal(t, "at", formFields("", field{Name: "at"})["at"].ID)
	assert.Equal(t, []string{"", "1.5"}, []string{number(0), number(1.5)})
}

func TestAnOvenIsSaidInASentence(t *testing.T) {
	k := measure.DefaultKitchen()
	assert.Contains(t, ovenSentence(store.Oven{}, k), "Nothing is measured yet: ovens lie by 10 to 15 °C")
	hot := store.Oven{Readings: []store.Reading{{Dial: 180, Air: 200}, {Dial: 160, Air: 180}, {Dial: 200, Air: 220}}}
	assert.Regexp(t, `^1\d ± \d °C hotter than its dial\. Your 3 readings differ on average by 20 °C; so few draw it a little towards an honest dial\.$`, ovenSentence(hot, k))
	cool := store.Oven{Readings: []store.Reading{{Dial: 200, Air: 180}, {Dial: 180, Air: 160}}}
	assert.Regexp(t, `cooler than its dial`, ovenSentence(cool, k))
	true_ := store.Oven{Readings: []store.Reading{{Dial: 180, Air: 181}}}
	assert.Regexp(t, `^True to its dial, within \d+ °C\.$`, ovenSentence(true_, k))
}

func TestTwoBakesAreCompared(t *testing.T) {
	assert.Equal(t, "B is done 3 min sooner.", than(40, 43.2))
	assert.Equal(t, "B is done 3 min later.", than(43.2, 40))
	assert.Equal(t, "Both are done together.", than(40.4, 40))
}

func TestAnIngredientIsShownWithItsSources(t *testing.T) {
	kit := adapt.DefaultKit()
	v := ingredientViewOf(kit.Larder.Get("egg"), kit)
	require.NotEmpty(t, v.Facts)
	assert.Equal(t, "Energy", v.Facts[0].Name)
	for _, f := range v.Facts {
		assert.True(t, f.Source != "" || f.Value == "not known", f.Name)
	}
	assert.Contains(t, v.Holds, "egg")
	assert.NotEmpty(t, v.Instead, "what stands for it")
	has := func(name string) bool {
		for _, r := range v.Behaviour {
			if r.Name == name {
				return true
			}
		}
		return false
	}
	assert.True(t, has("Binds"))
	assert.False(t, has("Gluten"), "what it does not do is left out")
	pear := weightRows(kit.Larder.Get("pear"))
	require.NotEmpty(t, pear)
	assert.Equal(t, "in the cupboard", keepsWords(larder.Keeping{Room: 90})[len("3 months "):])
	assert.Equal(t, "9 days in the fridge, 2 months frozen", keepsWords(larder.Keeping{Fridge: 9, Freezer: 60}))
}

// A packet is named only beside what was typed from it.
func TestOnlyWhatWasTypedIsFromAPacket(t *testing.T) {
	l, left := larder.Builtin().With([]larder.Own{{ID: "plain-flour", Values: map[string]float64{"protein": 11.5}}})
	require.Empty(t, left)
	from := map[string]string{}
	for _, f := range composition(l.Get("plain-flour")) {
		from[f.Name] = f.Source
	}
	assert.Contains(t, from["Protein"], "typed from your packet")
	assert.NotContains(t, from["Fat"], "packet")
	assert.NotEmpty(t, from["Fat"])
}
