package web_test

import (
	"encoding/json"
	"fmt"
	"html"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var answerRE = regexp.MustCompile(`First look <b>(\d+) min</b>\. Likely done (\d+)–(\d+) min`)

// Every recipe of the shelf in every way of baking answers with a look before its window,
// a field that is done when the page says, and no formatting left over.
func TestEveryRecipeInEveryOven(t *testing.T) {
	s := newSite(t)
	all, err := s.st.Recipes(t.Context(), "")
	require.NoError(t, err)
	for _, r := range all {
		for _, how := range []string{
			"", "fan=1", "at=160&cold=1", "at=200&then=150&after=10", "metal=stone", "metal=silicone&full=1", "collar=1&paper=1&covered=1", "steam=1&batter=4C", "in=1", "in=2&tin=12+muffin+cups",
			"tin=2+×+round+18+cm", "tin=ring+24+cm,+9+cm+deep,+holds+2100+ml", "tin=baking+sheet", "flame=1&tin=round+20+cm", "scale=0.5", "diet=keto", "diet=vegan&diet=gluten-free&tin=loaf+8x4+in",
		} {
			at := fmt.Sprintf("/recipes/%d/heat?%s", r.ID, how)
			code, body := s.get(at)
			require.Equal(t, 200, code, at)
			assert.NotContains(t, body, "%!", at)
			assert.NotContains(t, body, "NaN", at)
			m := answerRE.FindStringSubmatch(body)
			if m == nil { // refused: then it says why
				assert.Contains(t, body, "No time can be foretold", at)
				continue
			}
			look, low, high := whole(t, m[1]), whole(t, m[2]), whole(t, m[3])
			assert.LessOrEqual(t, look, low, at)
			assert.Less(t, low, high, at)
			_, data, found := strings.Cut(body, `data-heat="`)
			require.True(t, found, at)
			data, _, _ = strings.Cut(data, `"`)
			var field struct {
				B struct {
					Ready, Done float64
					Frames      []struct{ M, Middle float64 }
				}
			}
			require.NoError(t, json.Unmarshal([]byte(html.UnescapeString(data)), &field), at)
			assert.True(t, field.B.Ready >= low && field.B.Ready <= high+1, "%s: %g", at, field.B.Ready)
			for _, f := range field.B.Frames {
				if f.M < 0.5*field.B.Ready {
					assert.Less(t, f.Middle, field.B.Done, "%s at %g min", at, f.M)
				}
			}
		}
	}
}

func whole(t *testing.T, s string) float64 {
	t.Helper()
	n, err := strconv.Atoi(s)
	require.NoError(t, err)
	return float64(n)
}

// What is typed and cannot be used stays where it was typed, each with what would do, and
// the rest is answered.
func TestFaultsOnTinAndHeat(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/heat?tin=bucket&at=lukewarm&then=9&after=soon&batter=boiling&scale=no&metal=tinfoil&watts=lots")
	for field, says := range map[string]string{
		"tin": "“bucket” names no tin", "at": "“lukewarm” is not an oven&#39;s heat: try 180, 350 F or gas 4", "then": "“9” is not an oven&#39;s heat",
		"after": "“soon” is no time to change the heat: try minutes such as 15", "batter": "“boiling” is no batter&#39;s temperature", "scale": "“no” is no size of batch",
	} {
		assert.Contains(t, body, says, field)
		assert.Regexp(t, `id="`+field+`"[^>]*aria-invalid="true"[^>]*aria-describedby="`+field+`-fault"`, body, field)
	}
	for _, typed := range []string{`value="bucket"`, `value="lukewarm"`, `value="soon"`, `value="boiling"`, `name="scale" size="4" value="no"`} {
		assert.Contains(t, body, typed)
	}
	assert.Equal(t, 2, strings.Count(body, `<details class="folded tinmore" open>`), "no fault is folded away")
	assert.Contains(t, body, "“tinfoil” is no material of tins: try glass or dark")
	assert.Contains(t, body, "First look <b>39 min</b>", "as written, since nothing typed can be used")
	_, body = s.get(pear + "/heat?then=160&lower=1")
	assert.Contains(t, body, `name="then" size="7" value="160"`, "the half that was typed stays")
	assert.Regexp(t, `name="lower" value="1" checked`, body)
	assert.Contains(t, body, "Say after how many minutes that is")
}

// The batter that is too much for its tin goes into cups, or the batch is made smaller.
func TestTooMuchForTheTin(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/heat?tin=loaf+8x4+in")
	m := regexp.MustCompile(`(\d+) g too much for it: make (\d) cups with it`).FindStringSubmatch(body)
	require.NotNil(t, m)
	assert.InDelta(t, 218, whole(t, m[1]), 20)
	assert.InDelta(t, 3, whole(t, m[2]), 1)
	_, link, _ := strings.Cut(body, `<a href="/recipes/`)
	assert.NotEmpty(t, link)
	smaller := regexp.MustCompile(`<a href="([^"]*)">Make ([\d.]+) times the batch for this tin</a>`).FindStringSubmatch(body)
	require.NotNil(t, smaller)
	_, body = s.get(html.UnescapeString(smaller[1]))
	assert.NotContains(t, body, "too much for it")
	u, err := url.Parse(html.UnescapeString(smaller[1]))
	require.NoError(t, err)
	assert.Equal(t, smaller[2], u.Query().Get("scale"))
}
