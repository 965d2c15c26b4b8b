package web_test

import (
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo/recipes"
)

// A draft that was kept leads to its recipe, whatever is pressed and however often; a change of it is a correction.
func TestAKeptDraftIsItsRecipe(t *testing.T) {
	s := newSite(t)
	_, _, draft := s.post("/recipes", url.Values{"text": {recipes.Text("1-pear-cardamom-loaf.txt")}})
	code, _, at := s.post(draft, url.Values{"do": {"keep"}})
	require.Equal(t, 303, code)
	code, _, again := s.post(draft, url.Values{"do": {"facts"}, "then": {"keep"}, "rev": {"1"}})
	assert.Equal(t, 303, code)
	assert.Equal(t, at, again)
	code, _, h := s.do(httptest.NewRequest("GET", draft, nil))
	assert.Equal(t, 303, code)
	assert.Equal(t, strings.Replace(at, "adapt", "read", 1), h.Get("Location"))
	code, body, _ := s.post(draft, url.Values{"do": {"facts"}, "rev": {"1"}, "title": {"Pear loaf, ours"}})
	assert.Equal(t, 200, code)
	assert.Contains(t, body, "Keep the correction")
	assert.Contains(t, body, "Pear loaf, ours")
}

// A text that is too much for a draft is said to be, and the draft stays as it was.
func TestTooMuchForADraft(t *testing.T) {
	s := newSite(t)
	_, _, draft := s.post("/recipes", url.Values{"text": {"Squares\n200 g flour\n2 eggs"}})
	code, body, _ := s.post(draft, url.Values{"do": {"text"}, "rev": {"1"}, "text": {strings.Repeat("200 g flour\n", 60000)}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "more text than can be taken")
	assert.Contains(t, body, "200 g flour", "what was there before")
}

// Whatever two windows change: the second is shown both, and may keep its own.
func TestTwoWindows(t *testing.T) {
	s := newSite(t)
	_, page := s.get("/ovens")
	oven := regexp.MustCompile(`action="(/ovens/\d+)"><input type="hidden" name="rev" value="(\d+)"`).FindStringSubmatch(page)
	_, page = s.get("/people")
	person := regexp.MustCompile(`action="(/people/\d+)"><input type="hidden" name="rev" value="(\d+)"`).FindStringSubmatch(page)
	_, _, draft := s.post("/recipes", url.Values{"text": {"200 g flour\n100 g sugar\n2 eggs"}})
	for _, c := range []struct {
		at, rev     string
		first, mine url.Values
		words       string
	}{
		{oven[1], oven[2], url.Values{"name": {"gas oven"}, "width": {"44"}}, url.Values{"name": {"river oven"}, "width": {"43"}}, "Called"},
		{person[1], person[2], url.Values{"name": {"bow"}, "strict": {"choice"}}, url.Values{"name": {"bow side"}, "strict": {"choice"}}, "Who"},
		{draft, "1", url.Values{"do": {"facts"}, "title": {"Squares"}}, url.Values{"do": {"facts"}, "title": {"Small squares"}}, "Name"},
		{draft, "3", url.Values{"do": {"text"}, "text": {"210 g flour\n100 g sugar\n2 eggs"}}, url.Values{"do": {"text"}, "text": {"220 g flour\n100 g sugar\n2 eggs"}}, "Your text"},
		{"/larder/i/honey", "0", url.Values{"weight": {"52"}}, url.Values{"weight": {"55"}}, ""},
	} {
		c.first.Set("rev", c.rev)
		c.mine.Set("rev", c.rev)
		code, body, _ := s.post(c.at, c.first)
		require.Contains(t, []int{200, 303}, code, c.at+body)
		code, body, _ = s.post(c.at, c.mine)
		require.Equal(t, 409, code, c.at)
		assert.Contains(t, body, `<th scope="row">`+c.words, c.at)
		for name := range c.mine {
			if name != "rev" && name != "do" && name != "strict" {
				line := strings.NewReplacer("\n", " ")
				assert.Contains(t, body, `<td><pre class="source">`+line.Replace(c.mine.Get(name)), c.at)
				assert.Contains(t, body, `<td><pre class="source">`+line.Replace(c.first.Get(name)), c.at)
				assert.Contains(t, body, `<input type="hidden" name="`+name+`" value="`+line.Replace(c.mine.Get(name)), c.at)
			}
		}
		rev := regexp.MustCompile(`name="rev" value="(\d+)"`).FindStringSubmatch(body)
		require.NotNil(t, rev, c.at)
		c.mine.Set("rev", rev[1])
		code, _, _ = s.post(c.at, c.mine)
		assert.Contains(t, []int{200, 303}, code, c.at)
	}
}

// Two corrections of a recipe at once: the second sees both texts.
func TestTwoCorrections(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, _, one := s.post(pear+"/correct", nil)
	_, _, two := s.post(pear+"/correct", nil)
	text := recipes.Text("1-pear-cardamom-loaf.txt")
	s.post(one, url.Values{"do": {"text"}, "text": {strings.Replace(text, "2 large eggs", "3 large eggs", 1)}})
	s.post(two, url.Values{"do": {"text"}, "text": {strings.Replace(text, "2 large eggs", "4 large eggs", 1)}})
	code, _, _ := s.post(one, url.Values{"do": {"keep"}})
	require.Equal(t, 303, code)
	code, body, _ := s.post(two, url.Values{"do": {"keep"}})
	require.Equal(t, 409, code)
	assert.Regexp(t, `(?s)Your text.*4 large eggs.*3 large eggs.*What was understood.*200 g egg.*150 g egg`, body)
	code, _, at := s.post(two, url.Values{"do": {"keep"}, "over": {"1"}})
	require.Equal(t, 303, code)
	_, body = s.get(strings.Replace(at, "adapt", "read", 1))
	assert.Contains(t, body, "4 large eggs")
}
