package web_test

import (
	"html"
	"net/http/httptest"
	"net/url"
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A bake that is in the oven: looks and readings move its end, are taken back, and what cannot be is said.
func TestABakeInTheOven(t *testing.T) {
	s := newSite(t)
	one := s.shelve(plainLoaf)
	b := one[len("/recipes/"):] + ":diet=egg-free"
	in := time.Now().Add(-40 * time.Minute).Truncate(time.Minute)
	at := func(more ...string) string {
		q := url.Values{"b": {b}, "in": {in.Format("2006-01-02T15:04")}}
		for n := 0; n+1 < len(more); n += 2 {
			q.Add(more[n], more[n+1])
		}
		return "/oven?" + q.Encode()
	}
	follow := func(path string) (int, string, string) {
		code, body, h := s.do(httptest.NewRequest("GET", path, nil))
		return code, body, h.Get("Location")
	}
	page := func(path string) string {
		code, body := s.get(path)
		require.Equal(t, 200, code, path)
		return html.UnescapeString(body)
	}
	window := func(body string) (from, to string) {
		m := regexp.MustCompile(`Likely done (\d\d:\d\d) to (\d\d:\d\d)`).FindStringSubmatch(body)
		require.NotNil(t, m, body)
		return m[1], m[2]
	}
	minutes := func(hour string) float64 {
		h, err := time.ParseInLocation("2006-01-02 15:04", in.Format("2006-01-02 ")+hour, time.Local)
		require.NoError(t, err)
		if h.Before(in) {
			h = h.Add(24 * time.Hour)
		}
		return h.Sub(in).Minutes()
	}
	body := page(at())
	assert.Regexp(t, `First look at \d\d:\d\d\.`, body)
	low, high := window(body)

	code, _, to := follow(at("look", "wet"))
	require.Equal(t, 303, code)
	assert.Contains(t, to, "s=40%3Awet")
	for code, tent := range map[string]string{"20:golden": "golden, and has long to go", "52:golden": "", "35:dark": "dark before it is through", "20:pale": ""} {
		body := page(at("s", code))
		if tent == "" {
			assert.NotContains(t, body, "Lay foil over it now", code)
		} else {
			assert.Contains(t, body, "Lay foil over it now: it is "+tent, code)
		}
	}
	assert.NotContains(t, page(at("s", "35:dark", "s", "39:clean")), "Lay foil", "it is done")
	body = page(to)
	assert.Regexp(t, `Look again at \d\d:\d\d, in \d+ min\.`, body)
	assert.Contains(t, body, "skewer wet")
	wetLow, wetHigh := window(body)
	assert.GreaterOrEqual(t, minutes(wetLow), minutes(low))
	undo := regexp.MustCompile(`href="(/oven\?[^"]*)">[^<]*<svg`).FindStringSubmatch(body)
	require.NotNil(t, undo)
	back, _ := window(page(undo[1]))
	assert.Equal(t, low, back)

	_, _, to = follow(at("s", "40:wet", "probe", "70", "at", in.Add(41*time.Minute).Format("15:04")))
	assert.Contains(t, to, "41%3Ac70.0")
	_, coldHigh := window(page(to))
	assert.Greater(t, minutes(coldHigh), minutes(wetHigh), "70 °C after so long is late")
	assert.Greater(t, minutes(high), minutes(low))

	assert.Contains(t, page(at("s", "52:clean")), "Done, by what you saw.")
	assert.Contains(t, page(at("s", "50:wet", "s", "70:wet", "s", "95:dents")), "more minutes may not be the answer")
	assert.Contains(t, page(at("s", "10:c90", "s", "11:c91", "s", "nonsense", "s", "5:humming")), "The readings are not those of a middle")
	for query, says := range map[string][]string{
		"“hot” is not how warm the middle is": {"probe", "hot"}, "“noon” is no hour: try ": {"look", "wet", "at", "noon"},
	} {
		assert.Contains(t, page(at(says...)), query)
	}
	assert.Contains(t, page("/oven?b="+url.QueryEscape(b)+"&in=soon"), "“soon” is no time")
	code, _ = s.get("/oven")
	assert.Equal(t, 400, code)
	foam := s.shelve("Meringues\nMakes 20\n\n4 egg whites\n220 g caster sugar\n\nWhisk the whites to stiff peaks, whisk in the sugar. Bake 90 minutes at 110C.")
	assert.Contains(t, page("/oven?b="+url.QueryEscape(foam[len("/recipes/"):]+":diet=egg-free&ban=aquafaba")), "cannot be baked so")
}
