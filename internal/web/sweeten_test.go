package web_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A blend for 200 g of sugar: as sweet, bulky enough, within the limit, weighable;
// and each sweetener by itself, as the trade has it.
func TestSweetenWorksOutABlend(t *testing.T) {
	s := newSite(t)
	code, body := s.get("/sweeten")
	require.Equal(t, 200, code)
	for _, says := range []string{"for 200 g granulated sugar", "xylitol", "Dissolve 5 g in", "Xylitol is deadly to dogs", "Each by itself, as sweet", "<b>167 g</b>", "<b>235 g</b>", "yellow, still firm", "hold back"} {
		assert.Contains(t, body, says)
	}
	_, body = s.get("/sweeten?" + url.Values{"was": {"1 cup sugar + 2 tbsp honey"}, "with": {"erythritol", "allulose"}, "serves": {"12"}, "polyols": {"5"}, "water": {"300"}}.Encode())
	assert.Contains(t, body, "and 42 g honey")
	assert.Contains(t, body, "not authorised in the EU")
	assert.NotContains(t, body, "stevia extract, pure is too little")
	_, body = s.get("/sweeten?use=caramel&with=erythritol&was=100+g+sugar")
	assert.Contains(t, body, "no caramel")
	_, body = s.get("/sweeten?use=icing&was=100+g+icing+sugar")
	assert.Contains(t, body, "stands in for icing sugar")
}

// What cannot be read keeps what was typed and says what would do.
func TestSweetenRefusesWithReason(t *testing.T) {
	s := newSite(t)
	for _, c := range []struct{ query, says, keeps string }{
		{"was=200+g+flour", "does not sweeten", "200 g flour"},
		{"was=some+moon+dust", "was not understood", "some moon dust"},
		{"was=" + strings.Repeat("x", 2100), "a few lines will do", "xxx"},
		{"serves=none", "“none” will not do", `value="none"`},
		{"serves=0", "“0” will not do", `value="0"`},
		{"serves=&sugars=5", "wants to know for how many", `value="5"`},
		{"polyols=-3", "“-3” will not do", `value="-3"`},
	} {
		code, body := s.get("/sweeten?" + c.query)
		assert.Equal(t, 422, code, c.query)
		assert.Contains(t, body, c.says, c.query)
		assert.Contains(t, body, c.keeps, c.query)
	}
}

// From the bench: the tab says where the sugar is, a share is left out, a blend is
// worked out and put back, and what the table must not have is shut.
func TestSweetnessOnTheBench(t *testing.T) {
	s := newSite(t)
	_, body := s.get("/recipes/1/adapt?diet=&tab=sweet&less.sugar=30")
	for _, says := range []string{"As sweet as", "as written", `value="30"`, "to a third", "Where the sugar is", "Work out a blend instead"} {
		assert.Contains(t, body, says)
	}
	_, body = s.get("/recipes/1/adapt?diet=&tab=sweet&less.sugar=0&swap.sugar=less:30")
	assert.Contains(t, body, `name="less.sugar" min="0" max="95" step="5" value="0"`)
	_, body = s.get("/recipes/1/adapt?diet=&tab=sweet&limit=added-sugars:9")
	for _, says := range []string{"To 9 g added sugars a serving; as written it is 20.0", "cut it into 23 instead of 10", "leave out 55 % of it", "let Kollaris choose"} { // 200 g of sugar: 90 may stay, 110 go
		assert.Contains(t, body, says)
	}
	_, body = s.get("/recipes/1/adapt?diet=&tab=sweet&less.sugar=many")
	assert.Contains(t, body, "is no share to leave out")
	_, body = s.get("/sweeten?" + url.Values{"recipe": {"1"}, "key": {"sugar"}, "q": {"ban=xylitol"}, "was": {"200 g caster sugar"}, "serves": {"10"}, "with": {"xylitol", "erythritol", "inulin"}}.Encode())
	assert.Regexp(t, `value="xylitol" +disabled`, body)
	assert.Contains(t, body, "Put it in ")
	_, put, _ := strings.Cut(body, `<a class="btn-act" href="`)
	put, _, _ = strings.Cut(put, `"`)
	_, body = s.get(strings.ReplaceAll(put, "&amp;", "&"))
	assert.Contains(t, body, `name="swap.sugar" value="mix:erythritol=`)
	assert.Contains(t, body, "inulin")
}
