package text

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
)

func TestOddSignsBecomePlain(t *testing.T) {
	card := "APPLE SQUARES\n200G PLAIN FLOUR\n2 T BUTTER\n1 L MILK\nMIX IT. BAKE AT 180C OR 350°F FOR 30 MINUTES! COOL."
	for _, c := range []struct{ name, in, want string }{
		{"plain", "200 g flour\n> 2 eggs"[:11], "200 g flour"},
		{"no-break", "200\u00a0g flour, 1\u202f½\u2009cups", "200 g flour, 1 ½ cups"},
		{"no width", "flo\u00adur\u200b \ufeffmilk\u2060", "flour milk"},
		{"a joiner stays", "👩\u200d🍳 cake", "👩\u200d🍳 cake"},
		{"accents", "cre\u0300me bru\u0302le\u0301e 1\u20442", "crème brûlée 1/2"},
		{"hyphens", "self\u2011raising\u2010", "self-raising-"},
		{"dashes stay", "50–55 — min", "50–55 — min"},
		{"quoted", "> > 2 eggs\n>1 cup\n  > salt\na > b", "2 eggs\n1 cup\nsalt\na > b"},
		{"empty quoted", ">\n> a", "\na"},
		{"bold", "**Rest** 12 hours, __then__ <b>bake</b> it<br/>now<p class=\"x\">so", "Rest 12 hours, then bake it\nnow\nso"},
		{"no tags", "heat <200 and > 100 <nothing> a <", "heat <200 and > 100 <nothing> a <"},
		{"entities", "1&frac12;&nbsp;cups &amp; salt &unknown; & so", "1½ cups & salt &unknown; & so"},
		{"capitals", card, "Apple squares\n200g plain flour\n2 T butter\n1 L milk\nMix it. Bake at 180C or 350°F for 30 minutes! Cool."},
		{"few capitals", "SERVES 12", "SERVES 12"},
		{"a line in capitals", "Farls\nSIFT FLOUR AND SALT. POUR IN MILK.\nFOR THE TOP\nMix it.", "Farls\nSift flour and salt. Pour in milk.\nFOR THE TOP\nMix it."},
		{"a few words small", strings.ToLower(card[:20]) + card[20:36], strings.ToLower(card[:20]) + card[20:36]},
	} {
		got := Open(c.in)
		assert.Equal(t, c.want, got.Text, c.name)
		assert.Equal(t, c.in == c.want, got.Same(), c.name)
	}
}

func TestEveryByteKnowsWhereItStood(t *testing.T) {
	src := "> 1\u00a0cup **cre\u0300me**\n> 2 eggs"
	d := Open(src)
	assert.Equal(t, "1 cup crème\n2 eggs", d.Text)
	for _, w := range []struct{ here, there string }{{"1", "1"}, {"cup", "cup"}, {"crème", "cre\u0300me"}, {"2", "2"}, {"eggs", "eggs"}} {
		at := strings.Index(d.Text, w.here)
		from, to := d.At(at), d.At(at+len(w.here))
		assert.True(t, strings.HasPrefix(src[from:], w.there), w.here)
		assert.Contains(t, src[from:to], w.there)
	}
	assert.Equal(t, len(src), d.At(len(d.Text)))
	assert.Equal(t, len(src), d.At(1000))
	assert.Equal(t, d.At(0), d.At(-3))
	same := Open("salt")
	assert.Equal(t, []int{0, 2, 4, 4}, []int{same.At(-1), same.At(2), same.At(4), same.At(9)})
}

// What is plain stays, what is made plain is plain, and places never go back.
func FuzzOpen(f *testing.F) {
	for _, s := range []string{"> 1\u00a0cup", "**a** <b>", "ONE CUP OF FLOUR AND TWO EGGS, WELL BEATEN, AND SALT", "&frac12;", "e\u0301\u0301", ">", "\u0301"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if !utf8.ValidString(s) {
			return
		}
		d := Open(s)
		assert.True(t, utf8.ValidString(d.Text))
		last := 0
		for n := range len(d.Text) + 1 {
			assert.GreaterOrEqual(t, d.At(n), last)
			last = d.At(n)
			assert.LessOrEqual(t, last, len(s))
		}
	})
}
