package en

import (
	"os"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestSentences(t *testing.T) {
	for in, want := range map[string]string{
		"Mix. Bake.":                            "Mix.|Bake.",
		"Use a 9 x 5 in. tin. Bake 1.5 h.":      "Use a 9 x 5 in. tin.|Bake 1.5 h.",
		"At 180 °C. fan too":                    "At 180 °C. fan too",
		"Add 2 tbsp. Stir":                      "Add 2 tbsp.|Stir",
		"Wait! Is it risen? Bake; cool.\nServe": "Wait!|Is it risen?|Bake;|cool.|Serve",
		"He said “bake.” Now":                   "He said “bake.|” Now",
		"e.g. butter":                           "e.g. butter",
		"170C fan... no, 180C. Cool":            "170C fan... no, 180C.|Cool",
		"Leave 30 mins. 200 C, 45 mins.":        "Leave 30 mins.|200 C, 45 mins.",
		"Rest 1 hr. 10 min. more":               "Rest 1 hr. 10 min. more",
		"a!b":                                   "a!b",
		"":                                      "",
	} {
		var got []string
		for _, s := range Sentences(in) {
			got = append(got, in[s.From:s.To])
		}
		assert.Equal(t, want, strings.Join(got, "|"), in)
	}
}

// A sentence, its clauses, and what each tells to do. Source: read by eye, as a baker would.
func TestWhatAClauseTells(t *testing.T) {
	file, err := os.ReadFile("testdata/clauses.txt")
	require.NoError(t, err)
	seen := 0
	for line := range strings.Lines(string(file)) {
		line = strings.TrimSpace(line)
		if line == "" || strings.HasPrefix(line, "#") {
			continue
		}
		want := strings.ReplaceAll(line, " || ", " ")
		var plain strings.Builder
		for _, part := range strings.Split(line, " || ") {
			_, text, ok := strings.Cut(part, "] ")
			require.True(t, ok, line)
			plain.WriteString(text + " ")
		}
		s := strings.TrimSpace(plain.String())
		var got []string
		for _, c := range Clauses(s, Span{0, len(s)}) {
			text := s[c.From:c.To]
			does, ok := DeedOf(strings.TrimRight(text, " .;,"), c.From == 0)
			if !ok {
				does = "-"
			}
			got = append(got, "["+does+"] "+text)
		}
		strip := func(s string) string {
			return strings.NewReplacer(" and [", " [", ", [", " [", " then [", " [", ": [", " [", " – [", " [").Replace(s)
		}
		assert.Equal(t, strip(want), strip(strings.Join(got, " ")))
		seen++
	}
	assert.Greater(t, seen, 60)
}

func TestALineThatTellsToDo(t *testing.T) {
	for line, want := range map[string]bool{
		"Toast the nuts": true, "Toast crumbs": false, "Drizzle": false, "Drizzle over the cake": true, "Butter the tin": true, "Butter 80 g": false,
		"Butter for the tin": false, "Flour": false, "Flour the board": true, "In a bowl, whisk eggs": true, "In season": false, "Then the flour": true,
		"Second rise": true, "The night before: soak": true, "Oven at 200": true, "Oven gloves": false, "Egg wash: 1 egg": false, "Egg wash the tops": true,
		"Cream 200 ml": false, "Cream the butter": true, "Juice of 1 lemon": false, "Juice the lemons": true, "Gently stir": true, "": false, "Salt": false,
		"Salt the slices": true, "2 eggs": false, "Once cold, slice": true, "To serve": true, "Crumble topping": false, "Split peas": false, "Now": false,
		"Pinch of salt": false, "Pinch the edges": true, "Roll spoonfuls": true, "Roll": true, "Ice the cakes": true, "Ice": false, "Zest 1 lemon": false,
	} {
		assert.Equal(t, want, Tells(line), line)
	}
}

func TestABareTin(t *testing.T) {
	for text, want := range map[string]bool{
		"20 cm round tin": true, "Two 20 cm tins": true, "in a 2 lb loaf tin, double lined": true, "a 9 x 5 in greased loaf pan": true, "12 muffin cups": true,
		"pour it all slowly into a tin": false, "the tin of milk": false, "a big old round rusty black tin": false, "20 cm": false, "tin": true, "tins, well buttered.": true,
	} {
		assert.Equal(t, want, IsBareTin(text), text)
	}
}

func TestTablesAreRefusedWithTheirLine(t *testing.T) {
	for file, want := range map[string]string{
		"sign,words,source\na,b,p\na,c,p\n": "sign.csv:3: a stands there twice",
		"sign,words,source\na,@fish,p\n":    "sign.csv:2: @fish",
		"sign,words,source\na,b,\n":         "sign.csv:2: want a source",
		"sign\na,b,\n":                      "sign.csv: ",
	} {
		_, err := readSigns(file)
		assert.ErrorContains(t, err, want)
	}
	for file, want := range map[string]string{
		"verb,words,bare,source\nbake,@fish,,p\n": "deed.csv:2: @fish",
		"verb,words,bare,source\nbake,b,no,p\n":   "deed.csv:2: want yes or nothing",
		"verb,words,bare,source\nbake,b,,\n":      "deed.csv:2: want yes or nothing",
		"verb\na,b\n":                             "deed.csv: ",
	} {
		_, err := readDeeds(file)
		assert.ErrorContains(t, err, want)
	}
	assert.Panics(t, func() { sign("no such") })
	assert.Panics(t, func() { must(readDeeds("")) })
}

// Clauses are pieces of their sentence, in order, and miss no letter of it but what joins them.
func FuzzClauses(f *testing.F) {
	for _, s := range []string{"Mix, then bake: cool and serve", "To make the dough, mix", "a: b: c", "190C for 20 min, 220c 12 min – cut", "and and, then", "egg-wash, don't"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if !utf8.ValidString(s) || len(s) > 2000 {
			return
		}
		last := 0
		for _, x := range Sentences(s) {
			assert.LessOrEqual(t, last, x.From)
			at := x.From
			for _, c := range Clauses(s, x) {
				assert.LessOrEqual(t, at, c.From)
				assert.LessOrEqual(t, c.From, c.To)
				DeedOf(s[c.From:c.To], c.From == x.From)
				IsBareTin(s[c.From:c.To])
				at = c.To
			}
			assert.LessOrEqual(t, at, x.To)
			last = x.To
		}
		Tells(s)
	})
}

func BenchmarkDeedOf(b *testing.B) {
	for b.Loop() {
		DeedOf("In a large bowl whisk the eggs with the sugar until thick and pale", true)
	}
}
