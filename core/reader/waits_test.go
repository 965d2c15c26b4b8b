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

// waitsOf writes the waits, the stages of the bake and the sign that it is done.
func waitsOf(r *recipe.Recipe) string {
	var out []string
	for _, w := range r.Waits {
		s := string(w.What)
		if w.Minutes.Max > 0 {
			s += " " + span(w.Minutes)
		}
		if w.Until != "" {
			s += " until " + w.Until
		}
		out = append(out, s)
	}
	for _, st := range r.Stages {
		out = append(out, fmt.Sprintf("%.0f° %s", float64(st.Oven), span(st.Minutes)))
	}
	if r.Done != "" {
		out = append(out, "done: "+r.Done)
	}
	return strings.Join(out, ", ")
}

func span(m recipe.Minutes) string {
	if m.Min == m.Max {
		return fmt.Sprintf("%g", m.Max)
	}
	return fmt.Sprintf("%g-%g", m.Min, m.Max)
}

func TestTimesBesideTheOvenAndTheSignThatItIsDone(t *testing.T) {
	for text, want := range map[string]string{
		"Soak the fruit in cold juice overnight.":                                                              "soak 480-720",
		"Leave to soak for 2 to 3 days, shaking the jar daily.":                                                "soak 2880-4320",
		"Knead 10 minutes, then leave to rise for an hour.":                                                    "proof 60",
		"Let rise until doubled, about 1 1/2 hours.":                                                           "proof 90 until doubled",
		"Prove in the tin until puffy.":                                                                        "proof until puffy",
		"Chill the dough for at least 30 min, then roll it out.":                                               "chill 30",
		"Stir and let stand 10-15 minutes to thicken.":                                                         "rest 10-15",
		"Beat for 5 minutes. Bake at 180C for 40 minutes, cool in the tin for 15 minutes.":                     "cool 15",
		"Leave in the tin for 20 minutes before turning out.":                                                  "cool 20",
		"Simmer the fruit 10 minutes and leave to cool.":                                                       "",
		"Bake at 180C for 40 minutes until a skewer comes out clean.":                                          "done: a skewer comes out clean",
		"Bake 25 min or until golden and the top springs back. Cool on a rack.":                                "done: golden and the top springs back",
		"Bake at 200C for 35 minutes. It is done when it sounds hollow.":                                       "done: it sounds hollow",
		"Beat butter and sugar until pale. Bake 20 min until golden.":                                          "done: golden",
		"Fry the onion until golden, 10 minutes. Mix. Bake 50 min until the middle reads 96 °C.":               "done: the middle reads 96 °C",
		"Bake at 230C for 15 minutes, then turn down to 200C for 30 minutes.":                                  "230° 15, 200° 30",
		"Bake at 220C for 20 minutes. Reduce the heat to 180C and bake 25-30 minutes more.":                    "220° 20, 180° 25-30",
		"Cover with foil and bake 30 minutes at 350F. Remove the foil and bake another 15 min. Cool 1 hour.":   "cool 60, 177° 30, 177° 15",
		"Bake 45 min. Turn out after 20 minutes.":                                                              "",
		"Cool 10 minutes, 1 hour on the rack is better still, and leave it until the next day before cutting.": "cool 10, cool 60",
	} {
		rd, err := reader.Read("A cake\nIngredients\n200 g flour\nMethod\n"+text, reader.Options{})
		require.NoError(t, err)
		assert.Equal(t, want, waitsOf(rd.Recipe), text)
	}
	rd, err := reader.Read("A cake\nIngredients\n200 g raisins, soaked overnight in cider\n200 g flour", reader.Options{})
	require.NoError(t, err)
	assert.Equal(t, "soak 480-720", waitsOf(rd.Recipe))
}

// A wait is of minutes to two days; what is longer is no wait of a method, nor is none.
func TestHowLongAWaitMayBe(t *testing.T) {
	for text, want := range map[string]float64{"Leave to rest for 40 minutes.": 40, "Leave to rest for 48 hours.": 2880, "Leave to rest for 60 hours.": 0, "Leave to rest for 0 minutes.": 0} {
		rd, err := reader.Read("Loaf\n\n200 g flour\n2 eggs\n\nMix. "+text+" Bake at 180C for 30 minutes.", reader.Options{})
		require.NoError(t, err)
		most := 0.0
		for _, w := range rd.Recipe.Waits {
			most = max(most, w.Minutes.Max)
		}
		assert.Equal(t, want, most, text)
	}
}
