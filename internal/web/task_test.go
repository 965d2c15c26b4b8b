package web_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A task is corrected as a line is: what will not do stands at its field, a correction holds
// when the text is read again, follows the recipe onto the bench, and can be taken back.
func TestTasksAreCorrected(t *testing.T) {
	s := newSite(t)
	text := "Seed squares\nServes 9\nIngredients\n200 g plain flour\n100 g sugar\n2 eggs\n100 g butter\nMethod\nCream the butter and sugar. Beat in the eggs. Fold in the flour. Bake in a 20 cm square tin at 180C for 30 minutes."
	_, _, draft := s.post("/recipes", url.Values{"text": {text}})
	_, body := s.get(draft)
	assert.Contains(t, body, "<b>cream</b><span>Cream the butter and sugar.</span>")
	assert.Contains(t, body, "1 step of the method, 4 things to do")

	fix := func(v url.Values) (int, string) {
		v.Set("do", "task")
		code, _, to := s.post(draft, v)
		if to == "" {
			to = draft
		}
		_, body := s.get(to)
		return code, body
	}
	code, body, _ := s.post(draft, url.Values{"do": {"task"}, "task": {"Fold in the flour"}, "verb": {"fold"}, "minutes": {"a while"}, "takes": {"200 g plain flour"}})
	assert.Equal(t, 422, code)
	assert.Contains(t, body, "“a while” is no time: try minutes such as 10, or 10-15.")
	assert.Contains(t, body, `value="a while"`, "what was typed stays")

	code, body = fix(url.Values{"task": {"Fold in the flour"}, "verb": {"sift"}, "minutes": {"4-6"}, "takes": {"200 g plain flour", "2 eggs"}})
	assert.Equal(t, 303, code)
	assert.Contains(t, body, "<b>sift</b><span>Fold in the flour.</span><span class=\"quiet-words\">plain flour, egg · 4–6 min · as you say</span>")
	assert.Contains(t, body, "<b>beat</b><span>Beat in the eggs.</span><span class=\"quiet-words\">usually 2–4 min</span>")
	_, body = fix(url.Values{"task": {"Beat in the eggs"}, "verb": {"beat"}, "order": {"earlier"}, "takes": {"2 eggs"}})
	assert.Regexp(t, `Beat in the eggs\..*Cream the butter`, body)

	_, _, _ = s.post(draft, url.Values{"do": {"text"}, "text": {text + "\nServe cold."}})
	_, body = s.get(draft)
	assert.Contains(t, body, "<b>sift</b>", "it holds when the text is read again")
	code, _, kept := s.post(draft, url.Values{"do": {"keep"}})
	require.Equal(t, 303, code)
	at := strings.Split(strings.TrimPrefix(kept, "/recipes/"), "/")[0]
	_, body = s.get("/recipes/" + at + "/adapt?diet=dairy-free&tab=recipe")
	assert.Regexp(t, `Beat in the eggs.*Cream the `, body, "and goes with it")

	_, _, draft = s.post("/recipes", url.Values{"text": {text}})
	_, _ = fix(url.Values{"task": {"Fold in the flour"}, "verb": {"sift"}, "takes": {"200 g plain flour"}})
	_, body = fix(url.Values{"task": {"Fold in the flour"}, "undo": {"1"}})
	assert.Contains(t, body, "<b>fold in</b><span>Fold in the flour.</span>")
	_, body = fix(url.Values{"task": {"Words that nobody wrote"}, "verb": {"sift"}})
	assert.NotContains(t, body, "<b>sift</b>")
}
