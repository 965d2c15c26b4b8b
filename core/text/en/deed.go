package en

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"strings"

	"kollaris/core/text"
)

//go:embed data/deed.csv
var deedFile string

// deed is a row of data/deed.csv: by which words a clause tells to do what.
type deed struct {
	does string
	*text.Phrase
	bare bool // it holds of words that no verb opens, too
}

var deeds = must(readDeeds(deedFile))

func readDeeds(file string) ([]deed, error) {
	rows, err := csv.NewReader(strings.NewReader(file)).ReadAll()
	if err != nil {
		return nil, fmt.Errorf("text/en/data/deed.csv: %w", err)
	}
	var out []deed
	for n, row := range rows[1:] {
		p, err := lexicon.ReadPhrase(row[1])
		if err != nil {
			return nil, fmt.Errorf("text/en/data/deed.csv:%d: %w", n+2, err)
		}
		if row[3] == "" || row[2] != "" && row[2] != "yes" {
			return nil, fmt.Errorf("text/en/data/deed.csv:%d: want yes or nothing, and a source", n+2)
		}
		out = append(out, deed{row[0], p, row[2] == "yes"})
	}
	return out, nil
}

// The deeds that the grammar itself tells.
const (
	Remark = "remark" // nothing to do
	Work   = "work"   // something that no row knows
	bake   = "bake"
)

// Deeds are what the rows of data/deed.csv tell to do, each once.
func Deeds() []string {
	var out []string
	seen := map[string]bool{}
	for _, d := range deeds {
		if !seen[d.does] {
			seen[d.does] = true
			out = append(out, d.does)
		}
	}
	return out
}

// DeedOf is what a clause tells to do, by a row of data/deed.csv: the first that fits; ok is false where it tells nothing to do. Starts tells that
// a sentence begins with it, where a word that names a thing as well is likelier a verb.
func DeedOf(clause string, starts bool) (does string, ok bool) {
	whole := Words(clause)
	at, opened := deedAt(whole, starts)
	t := whole
	if opened {
		t = adverbs(whole[at:])
	}
	t = head(t, mostAhead)
	if bareBake(t) {
		return bake, true
	}
	for _, d := range deeds {
		if !opened && !d.bare {
			continue
		}
		of := t
		if d.does == Remark {
			of = head(whole, mostAhead)
		}
		if d.Match(of) {
			return d.does, d.does != Remark
		}
	}
	if opened {
		return Work, true
	}
	return Remark, false
}

// BareTin reports whether words name a tin and nothing more: "20 cm round tin, double lined". It says where all goes.
func BareTin(t []text.Token) bool {
	n := 0
	is := func(words ...string) bool {
		for _, w := range words {
			if n < len(t) && t[n].Text == w {
				n++
				return true
			}
		}
		return false
	}
	is("in", "into", "for")
	is("a", "an", "one", "two", "the")
	for n < len(t) && (t[n].Kind != text.Word || is("cm", "inch", "inches", "in", "lb", "g", "litre", "l", "x")) && n < len(t) {
		if t[n].Kind != text.Word {
			n++
		}
	}
	for words := 0; n < len(t) && !t[n].Is(aTin); words++ {
		if t[n].Kind != text.Word || words == 4 {
			return false
		}
		n++
	}
	if n == len(t) {
		return false
	}
	for n++; n < len(t); {
		is(",")
		is("double", "base", "well")
		if !is("lined", "greased", "buttered", "floured") {
			break
		}
	}
	for n < len(t) && t[n].Kind == text.Mark {
		n++
	}
	return n == len(t)
}

// IsBareTin is BareTin of a text.
func IsBareTin(s string) bool { return BareTin(Words(s)) }
