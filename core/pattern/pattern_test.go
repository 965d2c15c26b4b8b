package pattern

import (
	"fmt"
	"math/rand"
	"regexp"
	"regexp/syntax"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWhatMustBeThere(t *testing.T) {
	for _, c := range []struct {
		expr string
		want []string
	}{
		{`\b(?:egg|yolk)s?\b`, []string{"egg", "yolk"}},
		{`(?i)B(?:eaten|ROWNED)`, []string{"beaten", "browned"}},
		{`\d+ (?:min|hour)s?\b`, []string{" min", " hour"}},
		{`bake[^.]*tins?`, []string{"bake"}}, // the first of two as long
		{`tin[^.]*baked`, []string{"baked"}},
		{`(?:oven|(?:hot )?hob) at \d`, []string{"oven at ", "hob at ", "hot hob at "}},
		{`(?:salt)+`, []string{"salt"}},
		{`[ab]c|x[yz]`, []string{"ac", "bc", "xy", "xz"}},
		{`(?:fold){2,3}`, []string{"foldfold"}},
		{`½ cup`, []string{"½ cup"}},
		{`crème|creme`, []string{"crème", "creme"}},
		{`(?i)éclair`, nil}, // É has other bytes
		{`éclair`, []string{"éclair"}},
		{`salt?`, []string{"sal"}},
		{`(?:salt)?`, nil},
		{`(?:salt)*|pepper`, nil},
		{`salt|.*`, nil},
		{`\d+`, nil},
		{`^salt`, nil}, // answered at the beginning
		{`(^salt)`, nil},
		{`(?m)^salt`, []string{"salt"}},
		{`[^\x00-\x{10FFFF}]`, nil},
		{`[a-h]z`, strings.Fields("az bz cz dz ez fz gz hz")},
		{`[a-i]z`, []string{"z"}},
		{`(?:[a-h]){2}[a-h]z`, strings.Fields("az bz cz dz ez fz gz hz")}, // 64 and eight more are too many to join
		{``, nil},
	} {
		p := Must(c.expr)
		p.may("")
		var got []string
		for _, words := range p.words {
			got = append(got, words...)
		}
		assert.ElementsMatch(t, c.want, got, c.expr)
	}
	assert.Panics(t, func() { Must("(") })
}

// All methods answer what regexp answers: by its own words for either.
func TestItAnswersAsRegexpDoes(t *testing.T) {
	exprs := []string{`(?i)\bs(?:ift|alt)(ed)?\b`, `(\d+) ?(?:min|hours?)`, `k(?:ett|it)`, `(?i)kettles?`, `[½¼] cups?`, `(?i)^warm|hot`, `a|b`, `(?i)(?:oven|hob)[^.]{0,9}(\d)`}
	texts := []string{"", "Salted, SIFTED salt", "5 min or 2 hours", "Kettle, kettles, kit", "\u212aettle and ſalt ſifted", "½ CUP, ¼ cups", "warm or hot, Warm", "oven at 9, the HOB at 7", "zzz", "\xff salt \xc5"}
	for _, expr := range exprs {
		want, got := regexp.MustCompile(expr), Must(expr)
		for _, s := range texts {
			same(t, want, got, s)
		}
	}
}

func same(t *testing.T, want *regexp.Regexp, got *Pattern, s string) {
	t.Helper()
	what := fmt.Sprintf("%q in %q", want, s)
	up := func(x string) string { return strings.ToUpper(x) + "!" }
	require.Equal(t, want.MatchString(s), got.MatchString(s), what)
	require.Equal(t, want.FindString(s), got.FindString(s), what)
	require.Equal(t, want.FindStringIndex(s), got.FindStringIndex(s), what)
	require.Equal(t, want.FindStringSubmatch(s), got.FindStringSubmatch(s), what)
	require.Equal(t, want.FindStringSubmatchIndex(s), got.FindStringSubmatchIndex(s), what)
	require.Equal(t, want.FindAllString(s, -1), got.FindAllString(s, -1), what)
	require.Equal(t, want.FindAllStringIndex(s, -1), got.FindAllStringIndex(s, -1), what)
	require.Equal(t, want.FindAllStringSubmatch(s, -1), got.FindAllStringSubmatch(s, -1), what)
	require.Equal(t, want.FindAllStringSubmatchIndex(s, -1), got.FindAllStringSubmatchIndex(s, -1), what)
	require.Equal(t, want.ReplaceAllString(s, "<$0>"), got.ReplaceAllString(s, "<$0>"), what)
	require.Equal(t, want.ReplaceAllStringFunc(s, up), got.ReplaceAllStringFunc(s, up), what)
}

// Expressions made at random, on texts made of what they are made of.
func TestAnyExpression(t *testing.T) {
	r := rand.New(rand.NewSource(7))
	parts := []string{"a", "B", "ab", "ſ", "K", "k", "é", "½", "[ab]", "[^a]", ".", `\b`, `\d`, "1", " ", "^", "$"}
	var expr func(deep int) string
	expr = func(deep int) string {
		switch n := r.Intn(9); {
		case deep == 0 || n < 3:
			return parts[r.Intn(len(parts))]
		case n < 5:
			return expr(deep-1) + expr(deep-1)
		case n < 7:
			return "(?:" + expr(deep-1) + "|" + expr(deep-1) + ")"
		case n < 8:
			return "(" + expr(deep-1) + ")" + []string{"?", "*", "+", "{2}", "{1,3}"}[r.Intn(5)]
		}
		return "(?i:" + expr(deep-1) + ")"
	}
	sure := 0
	for range 3000 {
		e := expr(4)
		if _, err := syntax.Parse(e, syntax.Perl); err != nil {
			continue
		}
		want, got := regexp.MustCompile(e), Must(e)
		if got.may(""); got.words != nil {
			sure++
		}
		for range 6 {
			var b strings.Builder
			for range r.Intn(5) {
				b.WriteString([]string{"a", "A", "b", "B", "s", "S", "ſ", "k", "K", "K", "é", "É", "½", "1", " ", "ab"}[r.Intn(16)])
			}
			require.Equal(t, want.FindAllStringIndex(b.String(), -1), got.FindAllStringIndex(b.String(), -1), "%q in %q", e, b.String())
		}
	}
	assert.Greater(t, sure, 1000, "of most something is sure")
}

// The look before answers for nothing but what regexp says.
func FuzzPattern(f *testing.F) {
	f.Add(`(?i)\b(?:oat|soya?)\b`, "Oat or soy")
	f.Add(`(?i)[kſ]alt`, "\u212aalt")
	f.Fuzz(func(t *testing.T, expr, text string) {
		if len(expr) > 60 || len(text) > 200 {
			return
		}
		want, err := regexp.Compile(expr)
		if err != nil {
			return
		}
		require.Equal(t, want.FindStringSubmatchIndex(text), Must(expr).FindStringSubmatchIndex(text), "%q in %q", expr, text)
	})
}
