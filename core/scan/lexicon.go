package scan

import (
	"cmp"
	"embed"
	"encoding/csv"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"
	"sync"

	"kollaris/core/diet"
	"kollaris/core/fact"
	"kollaris/core/larder"
)

//go:embed data/word.csv
var files embed.FS

// lexicons are those of the larders that were asked, the last few: a household's larder is another after each change.
var lexicons = struct {
	sync.Mutex
	of map[*larder.Larder]*lexicon
}{of: map[*larder.Larder]*lexicon{}}

// mostLarders is how many are kept.
const mostLarders = 8

func lexiconOf(l *larder.Larder) *lexicon {
	lexicons.Lock()
	defer lexicons.Unlock()
	if x := lexicons.of[l]; x != nil {
		return x
	}
	x, err := load(files, l)
	if err != nil {
		panic("scan: embedded words: " + err.Error()) // a test loads them first
	}
	if len(lexicons.of) >= mostLarders {
		clear(lexicons.of)
	}
	lexicons.of[l] = x
	return x
}

// load puts the words together: the names of the larder first, then the table, then the bans' words.
func load(fsys fs.FS, l *larder.Larder) (*lexicon, error) {
	x := &lexicon{phrases: map[string]entry{}, longest: map[string]int{}}
	l.EachName(func(phrase string, id larder.ID) { x.put(phrase, entry{foods: []*larder.Ingredient{l.Get(id)}}) })
	err := x.table(fsys, l)
	for _, w := range diet.BanWordList() {
		switch {
		case w.Food != "":
			x.put(w.Words, entry{foods: []*larder.Ingredient{l.Get(w.Food)}})
		case w.Ban != "":
			x.put(w.Words, entry{foods: diet.Stands(w.Ban, l), ban: w.Ban})
		}
	}
	return x, err
}

// put takes a phrase in; what stood there first stays, but for the ban of it.
func (x *lexicon) put(phrase string, e entry) {
	key := larder.Normal(phrase)
	if key == "" {
		return
	}
	if was, ok := x.phrases[key]; ok {
		if len(was.foods) > 0 {
			for _, i := range e.foods { // what a name of the larder leaves out: royal icing has egg white
				if e.ban == "" && !slices.Contains(was.foods, i) {
					was.foods = append(slices.Clone(was.foods), i)
				}
			}
			was.ban, was.made = cmp.Or(was.ban, e.ban), was.made || e.made
			x.phrases[key] = was
		}
		return
	}
	x.phrases[key] = e
	first, _, _ := strings.Cut(key, " ")
	x.longest[first] = max(x.longest[first], len(strings.Fields(key)))
}

// table reads data/word.csv: "like,made,words,source". Like is one or more foods of the larder, or "ban:" and a ban of which the
// larder has no food; none makes the words harmless. Those go before the larder's names.
func (x *lexicon) table(fsys fs.FS, l *larder.Larder) error {
	f, err := fsys.Open("data/word.csv")
	if err != nil {
		return err
	}
	defer f.Close()
	all, err := csv.NewReader(f).ReadAll()
	if err != nil {
		return fmt.Errorf("word.csv: %w", err)
	}
	if len(all) == 0 || strings.Join(all[0], ",") != "like,made,words,source" {
		return errors.New("word.csv:1: want like,made,words,source")
	}
	var faults []error
	for n, row := range all[1:] {
		e := entry{made: row[1] == "yes", like: true}
		for _, id := range strings.Fields(row[0]) {
			if ban, ok := strings.CutPrefix(id, "ban:"); ok {
				e.foods, e.ban = append(e.foods, diet.Stands(ban, l)...), ban
			} else if i := l.Get(larder.ID(id)); i != nil {
				e.foods = append(e.foods, i)
			} else {
				faults = append(faults, fmt.Errorf("word.csv:%d: %q is not in the larder", n+2, id))
			}
		}
		if err := fact.Source(row[3]).Check(); err != nil || row[1] != "" && row[1] != "yes" {
			faults = append(faults, fmt.Errorf("word.csv:%d: made is %q (yes or nothing), source %q: %w", n+2, row[1], row[3], err))
		}
		for _, w := range strings.Split(row[2], ";") {
			if len(e.foods) == 0 {
				if was, ok := x.phrases[larder.Normal(w)]; ok && len(was.foods) > 0 {
					continue // a food of the larder: its own allergens say whether it is harmless
				}
			}
			x.put(w, e)
		}
	}
	return errors.Join(faults...)
}

// wordIn finds a word, or words, that were asked for and that no table knows.
func wordIn(text, word string) (out []Mention) {
	want := strings.Fields(larder.Normal(word))
	tokens := tokenise(text)
	for at := 0; len(want) > 0 && at+len(want) <= len(tokens); at++ {
		same := true
		for n, w := range want {
			same = same && tokens[at+n].norm == w
		}
		c := context{text, tokens, at, at + len(want) - 1, 0}
		if same && !c.compared() && !c.denied(-1) {
			from, to := tokens[at].from, tokens[at+len(want)-1].to
			out = append(out, Mention{From: from, To: to, Said: text[from:to], Word: word})
		}
	}
	return out
}
