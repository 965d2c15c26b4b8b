package text

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const some = "words,classes,source\nbake cook,verb,practice\nbaked,state,practice\ntin tins,tin thing,practice\nthe a,det,practice\n"

func TestALexicon(t *testing.T) {
	l, err := ReadLexicon("some.csv", some)
	require.NoError(t, err)
	assert.True(t, l.Is("cook", l.Class("verb")))
	assert.False(t, l.Is("cook", l.Class("tin")))
	assert.True(t, l.Is("tins", l.Class("thing")))
	assert.Zero(t, l.Class("fish"))
	for file, want := range map[string]string{
		"words,classes,source\na,,practice\n":    "some.csv:2: want classes and a source",
		"words,classes,source\na,x,p\nb,y,\n":    "some.csv:3: want classes and a source",
		"words,classes,source\na,x,p\nb a,y,p\n": "some.csv:3: a stands there twice",
		"words,classes\na,x,p\n":                 "some.csv: ",
		"words,classes,source\na,1 2 3 4 5 6 7 8 9 10 11 12 13 14 15 16 17 18 19 20 21 22 23 24 25 26 27 28 29 30 31 32 33,p\n": "some.csv:2: 33 is one class too many",
	} {
		_, err := ReadLexicon("some.csv", file)
		assert.ErrorContains(t, err, want)
	}
}

func TestWordsOfAText(t *testing.T) {
	l, err := ReadLexicon("some.csv", some)
	require.NoError(t, err)
	var got []string
	for _, w := range l.Words("Don't egg-wash the cake's top - 2½ cm, 1/2 tin; 20-25 x") {
		got = append(got, w.Text)
	}
	assert.Equal(t, []string{"don't", "egg", "wash", "the", "cake", "top", "-", "2", "½", "cm", ",", "1/2", "tin", ";", "20", "-", "25", "x"}, got)
	ws := l.Words("the cake’s tin")
	assert.Equal(t, "cake’s", "the cake’s tin"[ws[1].From:ws[1].To])
	assert.True(t, ws[2].Is(l.Class("tin")))
	assert.False(t, ws[1].Is(l.Class("tin")))
}

func TestPhrases(t *testing.T) {
	l, err := ReadLexicon("some.csv", some)
	require.NoError(t, err)
	for _, c := range []struct{ phrase, text, want string }{
		{"bake", "now bake it", "bake"},
		{"bake", "a bakery", ""},
		{"bak*", "a bakery", "bakery"},
		{"^ bake", "now bake it", ""},
		{"^ bake", "bake it", "bake"},
		{"^ now? bake", "now bake it", "now bake"},
		{"^ now? bake", "bake it", "bake"},
		{"bake/cook the? @tin", "then cook tins", "cook tins"},
		{"bake/cook the? @tin", "then cook the tin", "cook the tin"},
		{"bake/cook the? @tin", "then cook a tin", ""},
		{"bake ~ @tin", "bake in the big tin", "bake in the big tin"},
		{"bake ~ @tin", "bake in the very big tin", ""},
		{"bake .. @tin", "bake it in the very big old tin now", "bake it in the very big old tin"},
		{"tin $", "in the tin.", "tin"},
		{"tin $", "in the tin now", ""},
		{"#3 °", "at 180 °C", "180 °"},
		{"#3 °", "at 18 °C", ""},
		{"# min", "10 min", "10 min"},
		{"# min", "½ min", "½ min"},
		{"# min", "no min", ""},
		{"on , then/now", "on, now", "on, now"},
		{"one|two three", "two three one", "two three"},
		{"@det/his tin", "his tin", "his tin"},
		{"@det/his tin", "a tin", "a tin"},
	} {
		p, err := l.ReadPhrase(c.phrase)
		require.NoError(t, err, c.phrase)
		ws := l.Words(c.text)
		first, end, ok := p.Find(ws, 0)
		assert.Equal(t, c.want != "", ok, "%s in %s", c.phrase, c.text)
		assert.Equal(t, ok, p.Match(ws))
		if ok {
			assert.Equal(t, c.want, c.text[ws[first].From:ws[end-1].To], c.phrase)
		}
	}
	for _, bad := range []string{"", "a|", "@fish", "a//b"} {
		_, err := l.ReadPhrase(bad)
		assert.Error(t, err, bad)
	}
}

func TestWhereAPhraseStands(t *testing.T) {
	l, err := ReadLexicon("some.csv", some)
	require.NoError(t, err)
	p, err := l.ReadPhrase("bake|bake it")
	require.NoError(t, err)
	ws := l.Words("bake, bake it")
	first, end, ok := p.Find(ws, 1)
	assert.Equal(t, [3]any{2, 3, true}, [3]any{first, end, ok})
	end, ok = p.At(ws, 2)
	assert.Equal(t, [2]any{4, true}, [2]any{end, ok}, "the longest")
	_, ok = p.At(ws, 1)
	assert.False(t, ok)
	begun, err := l.ReadPhrase("^ bake")
	require.NoError(t, err)
	_, _, ok = begun.Find(ws, 2)
	assert.False(t, ok, "no beginning there")
	assert.False(t, begun.Match(nil))
}
