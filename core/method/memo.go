package method

import (
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"slices"
	"sync"

	"kollaris/core/larder"
	"kollaris/core/recipe"
)

// A reading follows from the recipe's document and the larder alone, and one adaptation asks for it several times: the last
// ones are remembered. What is remembered is a copy that nobody changes, and what is given is a copy of that.
const mostReadings = 100

type readingKey struct {
	doc [sha256.Size]byte
	l   *larder.Larder
}

// remembered keeps two ages of readings: what is asked for again moves into the younger one, and the older goes when that
// is full.
var remembered = struct {
	sync.Mutex
	young, old map[readingKey]*reading
}{young: map[readingKey]*reading{}}

// keyOf is all that a reading follows from.
func keyOf(r *recipe.Recipe, l *larder.Larder) readingKey {
	doc, err := json.Marshal(r)
	if err != nil { // a figure that is none: two of one text are one then
		doc = fmt.Append(nil, *r)
	}
	return readingKey{sha256.Sum256(doc), l}
}

// read reads a method, or remembers it.
func read(r *recipe.Recipe, l *larder.Larder) *reading {
	key := keyOf(r, l)
	remembered.Lock()
	rd, ok := remembered.young[key]
	if !ok {
		rd, ok = remembered.old[key]
	}
	remembered.Unlock()
	if !ok {
		rd = readAnew(r.Clone(), l)
	}
	remembered.Lock()
	if len(remembered.young) >= mostReadings {
		remembered.young, remembered.old = map[readingKey]*reading{}, remembered.young
	}
	remembered.young[key] = rd
	remembered.Unlock()
	out := *rd
	out.tasks, out.mentions = clone(rd.tasks), slices.Clone(rd.mentions)
	return &out
}
