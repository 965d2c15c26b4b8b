package en_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"kollaris/core/text/en"
)

// Times as recipes write them; the minutes by hand.
func TestTimes(t *testing.T) {
	for text, want := range map[string]string{
		"Bake for 45 minutes":             "45",
		"50-55 min":                       "50-55",
		"50 – 55 mins.":                   "50-55",
		"15\nto 18 minutes":               "15-18",
		"15\u00a0to\u00a018\u00a0minutes": "15-18",
		"three quarters of an hour":       "45",
		"three-quarters of an hour":       "45",
		"a quarter of an hour":            "15",
		"half an hour":                    "30",
		"a half hour":                     "30",
		"an hour":                         "60",
		"another hour":                    "60",
		"a further hour":                  "60",
		"a further 25 minutes":            "25",
		"50 mins to 1 hour":               "50-60",
		"an hour and a quarter to an hour and a half": "75-90",
		"1h20":                                   "80",
		"1h 20m":                                 "80",
		"1 h 20 min":                             "80",
		"1 hr 10":                                "70",
		"1 hour to 1 hr 10.":                     "60-70",
		"2 hours to 2 h 15, cover":               "120-135",
		"1 hour 180 C":                           "60",
		"1 hour 20 minutes":                      "80",
		"1 hour 2 eggs":                          "60",
		"1 hour 10-12 buns":                      "60",
		"1 hr. 10 min.":                          "70",
		"1 hour and 15 minutes":                  "75",
		"1 hour 15 minutes to 1 hour 30 minutes": "75-90",
		"1 to 1½ hours":                          "60-90",
		"1-1 1/2 hours":                          "60-90",
		"1½–2 hours":                             "90-120",
		"2.5 hours":                              "150",
		"2,5 hours":                              "150",
		"one and a half hours":                   "90",
		"forty-five minutes":                     "45",
		"forty five minutes":                     "45",
		"twenty to twenty-five minutes":          "20-25",
		"between 20 and 25 minutes":              "20-25",
		"20 or 25 minutes":                       "20-25",
		"a 40-minute rise":                       "40",
		"45min":                                  "45",
		"45'":                                    "45",
		"10 minutes, then 20 minutes":            "10 20",
		"mix 2 eggs and 1 hour":                  "60",
		"1 hour, or until doubled":               "60",
		"55 to 50 minutes":                       "50-55",
		"¾ hour":                                 "45",
		"1/0 hour":                               "",
		"200 g flour, 2 hands, a minced onion":   "",
		"a dozen minutes":                        "12",
		"half a dozen minutes":                   "6",
		"two dozen":                              "",
		"180 to 200":                             "",
		"an egg, 4 eggs to 6":                    "",
		"7h":                                     "420",
		"the h and m":                            "",
		"0 minutes":                              "",
	} {
		var got []string
		for _, x := range en.Times(text) {
			s := fmt.Sprintf("%g-%g", x.Min, x.Max)
			if x.Min == x.Max {
				s = fmt.Sprintf("%g", x.Min)
			}
			got = append(got, s)
			assert.True(t, x.From >= 0 && x.From < x.To && x.To <= len(text), text)
		}
		assert.Equal(t, want, strings.Join(got, " "), text)
	}
	x := en.Times("Bake an hour and a half.")[0]
	assert.Equal(t, []int{5, 23}, []int{x.From, x.To})
}

func FuzzTimes(f *testing.F) {
	for _, s := range []string{"1h20", "half a dozen", "1/0 hour", "between 2 and", "½", "a quarter of", "12'"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		last := 0
		for _, x := range en.Times(s) {
			if x.From < last || x.To <= x.From || x.To > len(s) || x.Min > x.Max || x.Max <= 0 {
				t.Fatalf("%q: %+v", s, x)
			}
			last = x.To
		}
	})
}

func BenchmarkTimes(b *testing.B) {
	for b.Loop() {
		en.Times("Bake at 180C for 50 to 55 minutes until golden, then leave in the tin for a quarter of an hour.")
	}
}
