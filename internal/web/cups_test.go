package web_test

import (
	"html"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Three cups are laid out, stay the same by their address, and what the tasters said of them leads to the next
// version; what cannot be used is said and stays.
func TestTrialCups(t *testing.T) {
	s := newSite(t)
	loaf := s.id("Pear and cardamom loaf")
	ask := url.Values{"q": {"diet=dairy-free&diet=egg-free"}, "vary0": {"flax-ground"}, "tried0": {"10 14 18"}}
	code, _, h := s.do(httptest.NewRequest("GET", loaf+"/cups?"+ask.Encode(), nil))
	require.Equal(t, 303, code)
	at := h.Get("Location")
	page := func(more string) string {
		code, body := s.get(at + more)
		require.Equal(t, 200, code)
		return html.UnescapeString(body)
	}
	body := page("")
	assert.Contains(t, body, "45 g</b> plain flour", "210 g of it in 976 g, three cups of 70 g")
	cups := regexp.MustCompile(`<th scope="row">(\d{3})</th><td><b>([\d.]+) g</b></td><td>(\d+) g`).FindAllStringSubmatch(regexp.MustCompile(`>\s+<`).ReplaceAllString(body, "><"), -1)
	require.Len(t, cups, 3)
	by := map[string]string{}
	for _, c := range cups {
		by[c[3]] = c[1]
	}
	assert.Regexp(t, `first look after \d+ min, done after \d+ to \d+`, body)
	body = page("&score" + by["10"] + "=5+4+5&score" + by["14"] + "=8+8+7&score" + by["18"] + "=6+5+6")
	assert.Regexp(t, `By scores: Best at 14\.\d g of ground flaxseed`, body)
	assert.Regexp(t, `/recipes/\d+/adapt\?diet=dairy-free&diet=egg-free&hold=flax-ground%3A14\.\d`, body)
	body = page("&won" + by["18"] + "." + by["10"] + "=6&won" + by["18"] + "." + by["14"] + "=5&won" + by["14"] + "." + by["18"] + "=1")
	assert.Contains(t, body, "By pairs: cup "+by["18"]+", with 18 g ground flaxseed.")
	assert.Contains(t, body, "hold=flax-ground%3A18\"")
	assert.Contains(t, page("&score"+by["10"]+"=lots"), "“lots”: scores of cup "+by["10"])
	assert.Contains(t, page("&score"+by["10"]+"=11"), "from 0 to 10")
	assert.Contains(t, page("&score"+by["10"]+"=5+4"), "Scores of three amounts or more")
	assert.Contains(t, page("&won"+by["10"]+"."+by["14"]+"=-1"), "how many took cup "+by["10"])
	for tried, says := range map[string]string{"10": "Amounts: two to 6 different ones", "some": "“some” is no amounts", "1 2 3 4 5 6 7": "Amounts: two to 6"} {
		ask.Set("tried0", tried)
		ask.Set("seed", "1")
		_, body := s.get(loaf + "/cups?" + ask.Encode())
		assert.Contains(t, html.UnescapeString(body), says)
		assert.Contains(t, body, `value="`+tried+`"`)
	}
}

// Tastings of one name are counted together, taken away and back.
func TestTastingsArePooled(t *testing.T) {
	s := newSite(t)
	for _, x := range [][3]string{{"5", "8", "flax against egg"}, {"6", "9", "flax against egg"}, {"1", "4", ""}} {
		code, _, _ := s.post("/tasting", url.Values{"right": {x[0]}, "of": {x[1]}, "name": {x[2]}})
		require.Equal(t, 303, code)
	}
	_, body := s.get("/tasting")
	assert.Contains(t, body, "11 of 17 right: they can tell. By chance it would be so once in 125.")
	assert.Contains(t, body, "this against that")
	_, _, to := s.post("/tasting", url.Values{"do": {"drop"}, "id": {"2"}})
	_, body = s.get(to)
	assert.Contains(t, body, "5 of 8 right: could be chance, 1 in 11.")
	assert.Contains(t, body, "The tasting is taken away.")
	s.post("/tasting", url.Values{"do": {"restore"}, "id": {"2"}})
	_, body = s.get("/tasting")
	assert.Equal(t, 1, strings.Count(body, "11 of 17 right"))
	code, _, _ := s.post("/tasting", url.Values{"right": {"9"}, "of": {"8"}})
	assert.Equal(t, 400, code)
}
