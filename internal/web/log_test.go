package web_test

import (
	"html"
	"net/http/httptest"
	"net/url"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/bake"
	"kollaris/core/learn"
	"kollaris/core/oven"
)

// What is said of a bake is kept, says what may be behind it with what speaks for it, and stands on the shelf.
func TestWhatCameOfABake(t *testing.T) {
	s := newSite(t)
	at := s.begin()
	s.upTo(at, 8)
	s.tell(at, "what", "went-in", "task", "8")
	s.tell(at, "what", "probe", "value", "88")
	s.tell(at, "what", "out", "task", "8")
	s.upTo(at, 99)
	s.tell(at, "what", "finish")
	page := func(path string) string {
		code, body := s.get(path)
		require.Equal(t, 200, code, path)
		return html.UnescapeString(body)
	}
	judge := func(form url.Values) string {
		form.Set("bake", "0")
		code, _, to := s.post(at+"/log", form)
		require.Equal(t, 303, code)
		return strings.TrimSuffix(to, "#why-h")
	}
	assert.Contains(t, page("/"), "last baked ")
	body := page(at + "/log")
	assert.Contains(t, body, "Tick what was not as it should be")
	assert.Contains(t, body, "The middle read 88 °C last.")
	assert.Contains(t, body, "In the bowl 976 g.")
	body = page(judge(url.Values{"symptom": {"gummy", "wet-line"}, "overall": {"2"}, "height": {"7,5"}, "cooled": {"3"}, "words": {"clay in the middle"}}))
	assert.Regexp(t, `<h3>It came out too early <span class="quiet-words">\d+ %`, body, "the first")
	assert.Contains(t, body, "the middle was 8 K below done")
	assert.Contains(t, body, "clay in the middle")
	assert.Contains(t, body, `value="7.5"`)
	said := page(judge(url.Values{"symptom": {"gummy", "wet-line"}, "overall": {"2"}, "height": {"7,5"}, "cooled": {"3"}, "words": {"clay in the middle"}, "eater": {"cox", "bow"}, "eater-overall": {"3", "0"}, "eater-sweet": {"too-sweet", "sour"}}))
	assert.Contains(t, said, `<details class="folded" open>`)
	assert.Regexp(t, `value="cox"><b>cox</b>[^§]{0,400}value="3" selected[^§]{0,500}value="too-sweet" selected`, said)
	assert.Equal(t, 1, s.learnedOf(learn.Taste, "cox").N)
	assert.Zero(t, s.learnedOf(learn.Taste, "bow").N)
	assert.Contains(t, body, `name="tried" value="wet"`)
	code, _, to := s.post(at+"/log", url.Values{"bake": {"0"}, "tried": {"wet"}})
	require.Equal(t, 303, code)
	assert.Regexp(t, `^/recipes/\d+/adapt\?.*hold=oat-drink%3A1[78]\d`, to, "less liquid, as a version to work out")
	asked := strings.Contains(body, "What would part them")
	require.True(t, asked)
	body = page(judge(url.Values{"answer": {"underbaked"}, "yes": {"1"}}))
	assert.Contains(t, body, "you said so")
	body = page(judge(url.Values{"symptom": {"gummy"}, "overall": {"2"}, "height": {"7.5"}, "cooled": {"3"}, "words": {"clay in the middle"}}))
	assert.NotContains(t, body, `value="wet-line" checked`)
	assert.Contains(t, body, `value="gummy" checked`)
	assert.Contains(t, page("/"), "gummy inside")
	loaf := s.id("Pear and cardamom loaf")
	body = page(loaf + "/log")
	assert.Contains(t, body, "so-so · gummy inside")
	assert.Contains(t, body, at+"/log")
	code, body, _ = s.post(at+"/log", url.Values{"bake": {"0"}, "symptom": {"wet-line"}, "overall": {"3"}, "height": {"tall"}, "cooled": {"-1"}, "words": {"a line at the foot"}, "eater": {"cox"}, "eater-overall": {"1"}, "eater-sweet": {"just-so"}})
	require.Equal(t, 422, code)
	for _, kept := range []string{
		`value="tall" aria-invalid="true"`, "“tall” is not how high in cm: try 7.5.", `value="-1" aria-invalid="true"`, "“-1” is not how many hours", "a line at the foot", `value="wet-line" checked`,
		`name="overall" value="3" checked`, `value="just-so" selected`, "gummy inside",
	} {
		assert.Contains(t, body, kept, "nothing that was typed is lost")
	}
	assert.NotContains(t, body, `value="gummy" checked`)
	assert.Contains(t, page(at+"/log"), `value="gummy" checked`, "and nothing is kept")
	again := s.begin() // the next bake of it
	s.tell(again, "what", "finish")
	body = page(again + "/log")
	assert.Contains(t, body, "this was to be tried: <b>A twentieth less liquid.</b> Did it help?")
	s.post(again+"/log", url.Values{"bake": {"0"}, "helped": {"wet"}, "yes": {"1"}})
	assert.Contains(t, page(again+"/log"), "You said that it helped.")
	log, err := s.st.Log(t.Context(), 0)
	require.NoError(t, err)
	assert.Equal(t, map[string]bool{"wet": true}, log[0].Helped)
	assert.Equal(t, "wet", log[1].Tried)
	code, _, _ = s.post(at+"/log", url.Values{"bake": {"7"}})
	assert.Equal(t, 400, code)
	for _, path := range []string{"/bakes/99/log", "/recipes/99/log"} {
		code, _ := s.get(path)
		assert.Equal(t, 404, code, path)
	}
	s.post(at, url.Values{"what": {"drop"}})
	s.post(again, url.Values{"what": {"drop"}})
	assert.NotContains(t, page("/"), "last baked ")
}

// An oven learns from a bake that was seen to be done, unlearns one that is taken back, and forgets what it is told to.
func TestAnOvenLearnsFromABake(t *testing.T) {
	s := newSite(t)
	ovens, err := s.st.Ovens(t.Context())
	require.NoError(t, err)
	before := ovens[1].Learned()
	require.Zero(t, before.Bakes)
	loaf := s.id("Pear and cardamom loaf")[len("/recipes/"):] + ":"
	_, begin := s.get("/bakes/new?b=" + url.QueryEscape(loaf))
	assert.Contains(t, begin, ">the small electric oven</option>")
	code, _, at := s.post("/bakes", url.Values{"b": {loaf}, "in": {strconv.FormatInt(ovens[1].ID, 10)}})
	require.Equal(t, 303, code)
	learned := func() oven.Learned {
		ovens, err := s.st.Ovens(t.Context())
		require.NoError(t, err)
		return ovens[1].Learned()
	}
	task := -1
	for n := 0; n < 20 && task < 0; n++ {
		if x := s.state(at).Bakes[0].Task; x.Verb == "bake" {
			task = x.N
		} else {
			s.upTo(at, x.N+1)
		}
	}
	require.Positive(t, task)
	id, err := strconv.ParseInt(at[len("/bakes/"):], 10, 64)
	require.NoError(t, err)
	went := time.Now().Add(-70 * time.Minute) // longer than was foretold
	_, err = s.st.AddEvents(t.Context(), id, []bake.Event{
		{ID: "in", At: went, What: bake.WentIn, Task: task}, {ID: "seen", At: went.Add(69 * time.Minute), What: bake.Seen, Text: "skewer wet"},
	})
	require.NoError(t, err)
	s.tell(at, "what", "out", "task", strconv.Itoa(task), "id", "out")
	assert.Zero(t, learned().Bakes, "a wet skewer is no end")
	s.tell(at, "what", "look", "text", "clean", "id", "clean")
	s.tell(at, "what", "judge", "key", "overall", "value", "3")
	l := learned()
	assert.Equal(t, 1, l.Bakes)
	assert.Greater(t, l.Log, before.Log, "it takes longer than was foretold")
	code, body := s.get("/ovens")
	require.Equal(t, 200, code)
	assert.Contains(t, body, "Learned from one bake.")
	assert.Regexp(t, `Pear and cardamom loaf took 1\.\d\d of the time`, body)
	s.post("/ovens/"+strconv.FormatInt(ovens[1].ID, 10), url.Values{"do": {"forget-bake"}, "n": {"0"}})
	assert.Equal(t, before, learned(), "forgotten leaves no trace")
	s.tell(at, "what", "judge", "key", "overall", "value", "4")
	assert.Equal(t, before, learned(), "and stays forgotten")
	s.post("/ovens/"+strconv.FormatInt(ovens[1].ID, 10), url.Values{"do": {"count-bake"}, "n": {"0"}})
	assert.Equal(t, 1, learned().Bakes)
	s.tell(at, "what", "undo", "key", "out")
	assert.Equal(t, before, learned(), "it has not come out after all")
}

// The cards stay the same by their address; what came of it is said, and what cannot be is said at its place.
func TestCanAnyoneTell(t *testing.T) {
	s := newSite(t)
	code, _, h := s.do(httptest.NewRequest("GET", "/tasting?tasters=6", nil))
	require.Equal(t, 303, code)
	at := h.Get("Location")
	_, first := s.get(at)
	_, again := s.get(at)
	assert.Equal(t, first, again)
	assert.Equal(t, 6, strings.Count(first, `<th scope="row">`))
	_, body := s.get(at + "&right=5&of=8")
	assert.Contains(t, body, "5 of 8 right: could be chance, 1 in 11.")
	assert.Contains(t, body, `<th scope="row">6</th>`, "the cards stay")
	for path, says := range map[string]string{"/tasting?right=9&of=8": "how many picked the odd one", "/tasting?right=x&of=8": "how many picked the odd one", "/tasting?tasters=900&seed=1": "“900”: for how many tasters? Three to 120", "/tasting?tasters=x&seed=1": "“x”: for how many"} {
		code, body := s.get(path)
		assert.Equal(t, 200, code)
		assert.Contains(t, strings.ToLower(html.UnescapeString(body)), strings.ToLower(says), path)
	}
}
