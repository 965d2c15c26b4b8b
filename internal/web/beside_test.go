package web_test

import (
	"html"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Three versions beside the written one, each kept or taken away by itself; a
// fourth and a second of the same kind are passed over.
func TestVersionsSideBySide(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	q := url.Values{"v": {"diet=egg-free", "diet=keto", "diet=egg-free", "diet=vegan", "diet=gluten-free", "%zz"}}
	code, body := s.get(pear + "/beside?" + q.Encode())
	require.Equal(t, 200, code)
	assert.Equal(t, 3, strings.Count(body, "> Keep<"))
	assert.Contains(t, body, "Three fit side by side")
	assert.NotContains(t, body, "diet=gluten-free")
	assert.Regexp(t, `(?s)>ground flaxseed</th>.{0,400}14 g`, body)
	assert.Regexp(t, `(?s)New allergens</th>.{0,300}tree nuts`, body)
	away := regexp.MustCompile(`href="([^"]+)">Take away<span class="visually-hidden"> egg-free<`).FindStringSubmatch(body)
	require.NotNil(t, away)
	_, body = s.get(strings.ReplaceAll(away[1], "&amp;", "&"))
	assert.Equal(t, 2, strings.Count(body, "> Keep<"))
	assert.Contains(t, body, "Set another beside them")
	// what is added is the last one with another way, or one more demand
	assert.Contains(t, body, "instead of 2 eggs")
	assert.Contains(t, body, "and low-sugar")
	code, _, loc := s.post(pear+"/versions", url.Values{"diet": {"keto"}})
	require.Equal(t, 303, code)
	_, body = s.get(loc)
	assert.Contains(t, body, "Pear and cardamom loaf, keto")
}

// A choice that no demand asks for: honey for sugar, kept under its own name; and
// nothing that is not in the house.
func TestAWayTakenByChoiceAndOnlyFromTheLarder(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/adapt?diet=")
	assert.Contains(t, body, `<option value="honey">honey</option>`)
	_, body = s.get(pear + "/adapt?swap.sugar=honey")
	assert.Contains(t, body, "Changed as you chose")
	assert.Contains(t, body, "leave it as written")
	assert.Contains(t, body, "Begins at the usual")
	_, _, loc := s.post(pear+"/versions", url.Values{"swap.sugar": {"honey"}})
	_, body = s.get(loc)
	assert.Contains(t, body, "Pear and cardamom loaf, with honey")
	_, body = s.get(pear + "/adapt?swap.sugar=as-written&swap.egg=as-written")
	assert.Contains(t, body, "As written.")

	_, body = s.get(pear + "/adapt?diet=dairy-free&stock=1")
	assert.Contains(t, body, "is not in your larder")
	assert.Contains(t, body, `id="stock" checked`)
}

// A limit a serving is shown with what came of it, and with ways where it is passed.
func TestLimitsAServing(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/adapt?diet=keto&limit.net-carb=4")
	assert.Contains(t, body, "net carbohydrate a serving, within your 4")
	assert.Contains(t, body, "It becomes a nut-flour batter")
	assert.Contains(t, body, "13 g a serving<")
	_, body = s.get(pear + "/adapt?limit.net-carb=1&limit.sodium=")
	assert.Contains(t, body, "net carbohydrate a serving, over your 1")
	assert.Regexp(t, `Cut it into \d+ servings instead of 10`, body)
	assert.Contains(t, body, "or leave it out: it brings")
}

// A sum outside its window is said in spoons and grams, with an amount to press that brings it back.
func TestASumIsBroughtBack(t *testing.T) {
	s := newSite(t)
	at := s.id("Pear and cardamom loaf") + "/adapt?diet=egg-free"
	for hold, want := range map[string][2]string{
		"hold.baking-powder=2": {"rises less, as if 1½ tsp of powder were missing", "Take 8.8 g baking powder instead of 2 g"},
		"hold.baking-soda=5":   {"¼ tsp &#43; ⅛ tsp of it meets no acid", "Take 3.2 g baking soda (bicarbonate) instead of 5 g"},
		"hold.plain-flour=300": {"drier by 28 g free water", "Take 212 g buttermilk instead of 182 g"},
	} {
		_, body := s.get(at + "&" + hold)
		assert.Contains(t, body, want[0], hold)
		assert.Contains(t, body, want[1], hold)
		_, body, _ = strings.Cut(body, `class="sum-list"`)
		_, body, _ = strings.Cut(body, want[0])
		_, link, _ := strings.Cut(body, `class="remedy"><a class="btn-quiet" href="`)
		link, _, _ = strings.Cut(link, `"`)
		_, body = s.get(html.UnescapeString(link))
		assert.NotContains(t, body, want[0], "%s: %s brings it back", hold, link)
	}
}
