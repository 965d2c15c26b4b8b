package web_test

import (
	"context"
	"fmt"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/recipe"
	"kollaris/internal/store"
)

// Somebody is added by a sentence; what cannot be used stays where it was typed.
func TestPeopleComeAndGo(t *testing.T) {
	s := newSite(t)
	code, body, _ := s.post("/people", url.Values{"name": {"guest"}, "bans": {"sesame, moon du5t"}, "limit.sugars": {"lots"}, "portion": {"0"}, "strict": {"allergy"}})
	assert.Equal(t, 422, code)
	for _, says := range []string{"neither an allergen", "“lots” cannot be the sugars", "“0” is no number of servings", `value="sesame, moon du5t"`, `value="lots"`} {
		assert.Contains(t, body, says)
	}
	code, _, _ = s.post("/people", url.Values{"name": {"guest"}, "bans": {"sesame, Tree nuts"}, "diet": {"vegan"}, "limit.sugars": {"9"}, "strict": {"allergy"}, "guest": {"1"}})
	require.Equal(t, 303, code)
	_, body = s.get("/people")
	assert.Contains(t, body, "must not have sesame, tree nuts; eats vegan; at most 9 g sugars a serving; traces matter.")
	assert.Contains(t, body, "guest today")
	people, err := s.st.People(t.Context())
	require.NoError(t, err)
	last := people[len(people)-1]
	at := fmt.Sprintf("/people/%d", last.ID)
	code, _, _ = s.post(at, url.Values{"rev": {"1"}, "name": {"guest"}, "strict": {"choice"}})
	assert.Equal(t, 303, code)
	code, _, _ = s.post(at, url.Values{"rev": {"1"}, "name": {"late"}})
	assert.Equal(t, 409, code, "changed in another window")
	code, _, loc := s.post(at, url.Values{"do": {"leave"}, "name": {"guest"}})
	assert.Equal(t, 303, code)
	_, body = s.get(loc)
	assert.Contains(t, body, "guest has left the table")
	_, _, _ = s.post(at, url.Values{"do": {"return"}})
	_, body = s.get("/people")
	assert.Contains(t, body, "<b>guest</b>")
}

func TestTheBenchForPeople(t *testing.T) {
	s := newSite(t)
	pear := s.id("Pear and cardamom loaf")
	_, body := s.get(pear + "/adapt?eater=1&eater=2&eater=99")
	assert.Contains(t, body, `id="eater-1" checked`)
	assert.Contains(t, body, "Gone:</b> gluten cereals, wheat, egg")
	assert.Contains(t, body, "Bake it before anything that holds egg or gluten cereals, and cover it: cox, bow must not be given a crumb of that.")
	code, _, loc := s.post(pear+"/versions", url.Values{"eater": {"1"}})
	require.Equal(t, 303, code)
	_, body = s.get(loc)
	assert.Contains(t, body, "Pear and cardamom loaf, gluten-free")
}

func TestTheTable(t *testing.T) {
	s := newSite(t)
	code, body := s.get("/table")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "fits as it is")
	assert.Contains(t, body, "plain flour holds gluten cereals")
	assert.Contains(t, body, "→ 1:1 gluten-free blend, with xanthan")
	_, body = s.get("/table?menu=1")
	assert.Regexp(t, `(One bake|\d bakes) feeds? everybody`, body)
	assert.Contains(t, body, "Or, better tried")
	assert.NotContains(t, body, "Bake it first.")
	for _, p := range []string{"1", "2", "3", "4", "5", "6", "7", "8"} {
		_, _, _ = s.post("/people/"+p, url.Values{"do": {"leave"}})
	}
	_, body = s.get("/table?menu=1")
	assert.Contains(t, body, "Put <a href=\"/people\">people</a> at the table")
}

// The day a pack's label was read is kept and said where that label matters.
func TestLabelReadOnAPack(t *testing.T) {
	s := newSite(t)
	code, body, _ := s.post("/larder/i/baking-powder", url.Values{"read": {"soon"}, "serving": {"100"}, "label": {"eu"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "is no day: write it as 2026-11-20")
	code, _, _ = s.post("/larder/i/baking-powder", url.Values{"read": {"2026-11-20"}, "serving": {"100"}, "label": {"eu"}, "allergen.gluten": {"check"}})
	require.Equal(t, 303, code)
	_, body = s.get("/larder/i/baking-powder")
	assert.Contains(t, body, `value="2026-11-20"`)
	_, body = s.get("/recipes/1/adapt?diet=gluten-free")
	assert.Contains(t, body, "your pack’s label was read on 20 November 2026")
}

// A gathering of more of one sort asks for more of its bake; numbers that cannot be
// stand at their field.
func TestAGathering(t *testing.T) {
	s := newSite(t)
	_, body := s.get("/recipes/1/adapt?diet=")
	assert.Regexp(t, `href="/recipes/1/adapt\?eater=1&amp;eater=2[^"]*">Everyone at the table`, body)
	_, body = s.get("/table?menu=1&n.1=6&n.2=0")
	assert.Contains(t, body, "6 × cox")
	assert.Contains(t, body, `name="n.2" size="3" value="0"`)
	code, body := s.get("/table?menu=1&n.1=lots")
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "“lots” people cannot come")
	all := url.Values{"menu": {"1"}}
	for n := 1; n <= 20; n++ {
		all.Set(fmt.Sprintf("n.%d", n), "0")
	}
	code, body = s.get("/table?" + all.Encode())
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "Nobody comes")
}

// A table of more recipes than a page holds is parted; who goes away meanwhile leaves nothing at work.
func TestAPagedTable(t *testing.T) {
	s := newSite(t)
	for n := range 60 {
		_, err := s.st.AddRecipe(t.Context(), &recipe.Recipe{Title: fmt.Sprintf("Loaf %02d", n), Lines: []recipe.Line{{ID: 1, Ingredient: "plain-flour", Name: "plain flour", Grams: 200}}}, "Loaf\n200 g plain flour", store.Typed{})
		require.NoError(t, err)
	}
	_, body := s.get("/table")
	assert.Contains(t, body, "1 – 50")
	assert.NotContains(t, body, ">Loaf 09</a>")
	_, body = s.get("/table?page=2")
	assert.Contains(t, body, ">Loaf 09</a>")

	for _, c := range []struct{ ask, first, last string }{
		{"", "Loaf 59", "Loaf 10"},
		{"q=flour", "Loaf 59", "Loaf 10"},
		{"q=flour&page=2", "Loaf 09", "Loaf 00"},
		{"q=flour&page=3", "Loaf 59", "Loaf 10"}, // there is no such page
		{"q=flour&page=-1", "Loaf 59", "Loaf 10"},
		{"q=flour&page=9223372036854775807", "Loaf 59", "Loaf 10"},
		{"q=" + strings.Repeat("flour+", 34) + "kumquat", "Loaf 59", "Loaf 10"}, // past the most letters
		{"q=loaf+0&page=2", "Loaf 09", "Loaf 00"},
	} {
		_, body := s.get("/?" + c.ask)
		found := regexp.MustCompile(`>(Loaf \d\d)</a>`).FindAllStringSubmatch(body, -1)
		require.NotEmpty(t, found, c.ask)
		assert.Equal(t, c.first, found[0][1], c.ask)
		assert.Equal(t, c.last, found[len(found)-1][1], c.ask)
	}

	_, body = s.get("/larder/i/plain-flour")
	assert.Equal(t, 50, strings.Count(body, "/adapt\">Loaf "), "those that were changed last")
	assert.Contains(t, body, "Look for all of them on the shelf")

	ctx, stop := context.WithCancel(t.Context())
	stop()
	code, body, _ := s.do(httptest.NewRequestWithContext(ctx, "GET", "/table?page=1&x=1", nil))
	assert.Equal(t, 499, code)
	assert.Empty(t, body)
}
