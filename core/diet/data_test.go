package diet

import (
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"

	"kollaris/core/larder"
)

// A table with a fault is refused, with its file, its line and what is wrong.
func TestFaultsOfTheTablesAreNamed(t *testing.T) {
	const bans, members, words = "id,words,whole,says,source\n", "ban,level,members,source\n", "means,locale,words,source\n"
	l := larder.Builtin()
	load := func(ban, member string) error {
		_, err := loadBans(fstest.MapFS{"ban.csv": {Data: []byte(bans + ban)}, "member.csv": {Data: []byte(members + member)}}, l)
		return err
	}
	for _, c := range []struct{ ban, member, says string }{
		{"gum,gums,,all,practice\ngum,gums,,all,practice", "", `ban.csv:3: "gum" stands here twice`},
		{"gum,,,all,practice", "", "ban.csv:2:"},
		{"gum,gums,,,practice", "", "ban.csv:2:"},
		{"gum,gums,,all,hearsay", "", "ban.csv:2:"},
		{"gum,gums,,all,practice", "sugar,contains,sugar,practice", `member.csv:2: "sugar" is no ban`},
		{"gum,gums,,all,practice", "gum,may,sugar,practice", `"may" no level`},
		{"gum,gums,,all,practice", "gum,contains,moon-dust,practice", `member.csv:2: "moon-dust" is not in the larder`},
		{"gum,gums,,all,practice", "gum,contains,family:moon,practice", `"family:moon" is not`},
		{"gum,gums,,all,practice", "gum,contains,allergen:moon,practice", `"allergen:moon" is not`},
		{"gum,gums,,all,practice", "gum,contains,origin:moon,practice", `"origin:moon" is not`},
		{"gum,gums,,all,practice", "gum,contains,column:moon,practice", `"column:moon" is not`},
		{"gum,gums,,all,practice", "gum,contains,planet:moon,practice", `"planet:moon" is not`},
	} {
		assert.ErrorContains(t, load(c.ban, c.member), c.says)
	}
	assert.NoError(t, load("gum,gums,,all,practice", "gum,contains,agar family:gum allergen:soya origin:meat column:xylitol,practice"))
	for table, says := range map[string]string{
		"moon,en,moon,practice":                                    `word.csv:2: "moon" is no ban`,
		"diet:moon,en,moon,practice":                               `"moon" is no diet`,
		"food:moon,en,moon,practice":                               `"moon" is not in the larder`,
		"soya,en,soya; ;bean,practice":                             "or nothing",
		"soya,en,bean,practice\npulses,en,beans,practice":          `word.csv:3: "beans" means`,
		"soya,en,bean,practice\nsoya,en,the bean; Bean,practice\n": "",
	} {
		_, err := loadWords(fstest.MapFS{"word.csv": {Data: []byte(words + table)}}, l)
		if says == "" {
			assert.NoError(t, err)
		} else {
			assert.ErrorContains(t, err, says[:len(says)-1])
		}
	}
	_, err := loadBans(fstest.MapFS{"ban.csv": {Data: []byte("id\n")}}, l)
	assert.ErrorContains(t, err, "ban.csv:1: want id,words")
	_, err = loadBans(fstest.MapFS{}, l)
	assert.Error(t, err)
}

func TestLettersBetweenTwoWords(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want int
	}{{"milk", "milk", 0}, {"mikl", "milk", 1}, {"mlik", "milk", 1}, {"pinut", "peanut", 2}, {"", "egg", 3}, {"soya", "soy", 1}, {"ab", "ba", 1}, {"glutin", "gluten", 1}} {
		assert.Equal(t, c.want, distance(c.a, c.b), c.a)
		assert.Equal(t, c.want, distance(c.b, c.a), c.a)
	}
	assert.Equal(t, []int{1, 1, 2, 2, 3}, []int{slips(2), slips(4), slips(5), slips(7), slips(8)})
}

func TestListsArePartedAtTheirWords(t *testing.T) {
	for s, want := range map[string][]string{"milk and eggs": {" milk", " eggs"}, "a/b & c": {" a", " b", " c"}, "and": {"and"}, "milk": {" milk"}, "nor milk or": {" milk"}} {
		assert.Equal(t, want, listed(s), s)
	}
}
