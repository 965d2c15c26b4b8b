package web

import "kollaris/core/phrase"

// cupsView is a trial of a few cups.
type cupsView struct {
	Title, URL, Q, Seed string
	Rail                []railItem
	Foods               []choice
	Boxes               []cupsBox
	Fault, Faint        string
	Names               []string // of what varies
	Bowl                []row2
	Share, Bake         string
	Cups                []cupRow
	Pairs               []cupPair
	Answers             []cupsAnswer
}

// cupsBox is an ingredient that varies, as its boxes hold it.
type cupsBox struct {
	N           int
	Food, Tried string
}

type row2 struct{ A, B string }

type cupRow struct {
	Code     string
	Adds, Of []string
	Scores   string
	Best     string
}

// words say what is in a cup, as amounts of the whole recipe.
func (c cupRow) words(names []string) string {
	var out []string
	for n, of := range c.Of {
		out = append(out, of+" "+names[n])
	}
	return phrase.And(out)
}

type cupPair struct{ A, B, WonA, WonB string }

type cupsAnswer struct{ Words, Next string }
