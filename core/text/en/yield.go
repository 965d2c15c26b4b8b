package en

import (
	"strings"

	"kollaris/core/text"
)

// Yield is how many portions or pieces a text says that a recipe makes, and the bytes it says it at.
type Yield struct {
	Count    int
	Rank     int // how plainly it is said: RankServes most
	From, To int
}

// Ranks of what is said. Source: practice.
const (
	RankCups   = 2 // "a 12-hole muffin tin"
	RankStep   = 4 // "cut into 16", "shape 10 buns"
	RankPieces = 6 // "24 bars", "(12)" behind a title
	RankMakes  = 7 // "makes 12"
	RankSlices = 8 // "10 slices", "slices: 10"
	RankServes = 9 // "serves 8"
)

// Where is what a text is of the recipe.
type Where int

// The places.
const (
	InTitle Where = iota
	InFacts       // beside list and method
	InStep
)

// pieces are what recipes are counted in, without s. Source: practice.
var pieces = set(`piece square scone muffin biscuit cookie roll bar wedge cupcake bun round finger bagel crumpet pancake waffle doughnut donut macaroon
	macaron tartlet bap pitta flatbread farl baguette base brownie blondie flapjack shortbread cracker breadstick pretzel meringue truffle ball heap
	patty case cake pie tart loaf pasty teacake drop slab naan wrap stick twist rusk`)

// eaten are those that are a portion each.
var eaten = set("slice serving portion person people helping eater guest")

// between are words between a verb that parts and how many it makes. Source: practice.
var between = set(`the it them dough cake loaf mixture batter slab tray log round rounds while still warm into in between among about roughly equal equally evenly
	even up out cold when cool sheet traybake shortbread circle rest everything bake to make onto with a of small large neat approx around`)

// partsIt are verbs that part what is baked. Source: practice.
var partsIt = set("cut cuts cutting divide divides divided slice mark score portion shape form roll pipe drop scoop stamp make makes")

// never follow a number that counts portions: they are of a size, a time or an inner part. Source: practice.
var never = set(`cm mm inch inche in g kg lb oz ml hour hr h min minute day week month strand strip layer part third quarter half halve degree c f time x year
	percent cup tbsp tsp tablespoon teaspoon cube segment egg fold turn side tin tier litre step ingredient point`)

func set(words string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(words) {
		out[w] = true
	}
	return out
}

// What is cut into fewer is the inside of one loaf or cake; what dough is divided into for a plait or a tin, too. Source: practice.
const (
	leastParts  = 4
	leastShaped = 6
)

// one is a word without its plural.
func one(w string) string {
	switch {
	case w == "loaves":
		return "loaf"
	case strings.HasSuffix(w, "ies") && len(w) > 5 && w != "cookies" && w != "brownies" && w != "blondies":
		return w[:len(w)-3] + "y"
	}
	return strings.TrimSuffix(w, "s")
}

// counted reads a whole number from 1 to 200, or the first of a range, at n.
func (t stream) counted(n int) (count, end int) {
	x, end := t.number(n)
	if end == 0 || x < 1 || x > 200 || x != float64(int(x)) {
		return 0, 0
	}
	if t.is(end, "-", "–", "to", "or") {
		if y, to := t.number(end + 1); to > 0 && y > x && y <= 200 {
			return int(x), to
		}
	}
	return int(x), end
}

// noun is the word that a number at end counts, past what tells its kind: "12 small, even rolls"; "" for none.
func (t stream) noun(end int, where Where) string {
	w, _ := t.nounTo(end, where)
	return w
}

// kinds may stand between a number and what it counts; in a title whatever does: "12 honey buns". Source: practice.
var kinds = set(`generous thick thin even equal small smaller large larger big medium mini nice good round flat long short paper muffin cupcake rough neat
	equal-sized sized sourdough bread`)

// nounTo is noun, with where the word ends: end where there is none.
func (t stream) nounTo(end int, where Where) (noun string, to int) {
	for n := end; n < len(t) && n < end+4; n++ {
		w := t[n]
		switch {
		case n == end && t.is(n, "%", `"`, "”", "″", "°", "/", "×"), n == end && t.is(n, "-") && n+1 < len(t) && never[one(t[n+1].Text)]:
			return "%", end
		case w.Kind != text.Word:
			if w.Text != "," || n == end {
				return "", end
			}
		case n == end && never[one(w.Text)], pieces[one(w.Text)] && one(w.Text) != w.Text, eaten[one(w.Text)]:
			return one(w.Text), n + 1
		case !kinds[w.Text] && !pieces[one(w.Text)] && where != InTitle:
			return "", end
		}
	}
	return "", end
}

// Yields finds what a line says of how much the recipe makes.
func Yields(s string, where Where) []Yield {
	var out []Yield
	t := stream(text.Tokens(s))
	add := func(count, rank, from, end int) {
		if _, to := t.nounTo(end, where); end > 0 && to > end { // "24 bars" is said with its word
			end = to
		}
		if count > 0 && count <= 200 {
			out = append(out, Yield{count, rank, t[from].From, t[end-1].To})
		}
	}
	for n := range t {
		switch {
		case t.is(n, "serves", "serve", "feeds") && !(where == InStep && t.is(n, "serve")), t.is(n, "enough") && t.is(n+1, "for"):
			if count, end := t.counted(t.about(n + 1)); end > 0 && !never[t.noun(end, where)] && t.noun(end, where) != "%" {
				add(count, RankServes, n, end)
			}
		case t.is(n, "makes", "make", "yield", "yields", "gives") && !(where == InStep && t.is(n, "make")):
			if count, end := t.counted(t.about(n + 1)); end > 0 && count > 2 && !never[t.noun(end, where)] && t.noun(end, where) != "%" {
				add(count, RankMakes, n, end)
			}
		case n < len(t) && (eaten[one(t[n].Text)] || pieces[one(t[n].Text)]) && t.is(n+1, ":"):
			if count, end := t.counted(t.about(n + 2)); end > 0 && t.noun(end, where) != "%" {
				add(count, RankSlices, n, end)
			}
		case partsIt[t[n].Text]:
			at := n + 1
			for at < len(t) && at < n+9 && between[t[at].Text] {
				at++
			}
			count, end := t.counted(at)
			noun := t.noun(end, where)
			switch {
			case end == 0, count < leastParts, never[noun], noun == "%":
			case count < leastShaped && (t.is(n, "divide", "divides", "divided") || noun == "piece" || noun == "ball"): // of one loaf
			case noun != "", end < len(t) && strings.HasSuffix(t[end].Text, "s") && len(t[end].Text) > 4: // "shape 8 bundles"
				add(count, RankStep, n, end)
			case end == len(t), t[end].Kind == text.Mark, t.is(end, "and", "then", "with", "when", "while", "to", "before", "for"):
				if t.is(at-1, "into", "in", "between", "among", "about", "roughly") {
					add(count, RankStep, n, end)
				}
			}
		}
		count, end := t.counted(n)
		if end == 0 || t.is(n-1, "/") || t.is(n-1, ".") && t.is(n-2, "no") || n > 1 && t.is(n-1, "-", "x", "×", "by") && t[n-2].Kind == text.Figure {
			continue
		}
		noun := t.noun(end, where)
		switch {
		case eaten[noun] && where != InStep:
			add(count, RankSlices, n, end)
		case eaten[noun]:
			add(count, RankStep, n, end)
		case pieces[noun] && count > 2 && where != InStep:
			add(count, RankPieces, n, end)
		case pieces[noun] && count >= leastParts && !(count < leastShaped && (noun == "piece" || noun == "ball")):
			add(count, RankCups, n, end)
		case count > 3 && where == InStep && t.hollows(end):
			add(count, RankCups, n, end)
		case where != InStep && count > 2 && t.is(end, "of") && t.is(end+1, "them"):
			add(count, RankPieces, n, end+2)
		case where == InTitle && noun == "" && count > 2 && t.closes(n, end):
			add(count, RankPieces, n, end)
		}
	}
	return out
}

// hollows reports whether a number counts those of a muffin tin; a ring of 12 cups is one of that volume.
func (t stream) hollows(n int) bool {
	if t.is(n, "-") {
		n++
	}
	return t.is(n, "hole") || t.is(n, "cup") && t.is(n+1, "muffin", "cupcake", "bun")
}

// about goes over what stands between a word and its number: "makes: about 12", "serves up to 8", "makes one 9-inch cake, 12 servings".
func (t stream) about(n int) int {
	for t.is(n, "a") && t.is(n+1, "crowd", "party", "table", "family") && t.is(n+2, "of") || t.is(n, "crowd", "party", "table", "family") || t.is(n, ":", "about", "approx", "approximately", "around", "roughly", "up", "to", "for", "into", "~", "(", ".", "of") {
		n++
	}
	return n
}

// closes reports whether a number stands behind a title by itself: "(12)", "— 12", ", about 10", "x12".
func (t stream) closes(n, end int) bool {
	start := n
	for t.is(start-1, "about", "approx", ".", "around", "makes") {
		start--
	}
	if t.is(start-1, "(") {
		return t.is(end, ")")
	}
	return end == len(t) && start > 1 && t.is(start-1, "-", "–", "—", ",", "x", "×", ":")
}

// TitleAlone gives a title without what it says at its end of how much it makes: "Flapjacks, makes 16" is Flapjacks.
func TitleAlone(s string) string {
	for _, y := range Yields(s, InTitle) {
		if strings.Trim(s[y.To:], " .)]") != "" {
			continue
		}
		alone := s[:y.From]
		for _, w := range []string{"about", "approx", "around", "makes", "serves"} {
			alone = strings.TrimSuffix(strings.TrimRight(alone, " .:"), w)
		}
		if cut := strings.TrimRight(alone, " .,:;([-–—x×"); len(cut) < len(strings.TrimRight(alone, " ")) && len(strings.Fields(cut)) > 0 && y.From > 2 {
			return TitleAlone(cut) // "(makes 3, serves 9)"
		}
	}
	return s
}

// Best is the plainest of some yields, the first of those; ok is false for none.
func Best(ys []Yield) (y Yield, ok bool) {
	for _, x := range ys {
		if !ok || x.Rank > y.Rank {
			y, ok = x, true
		}
	}
	return y, ok
}
