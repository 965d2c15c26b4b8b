package reader

import (
	"cmp"
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strings"
	"sync"
	"unicode"

	"kollaris/core/device"
	"kollaris/core/recipe"
)

//go:embed data/role.csv
var roleFile string

//go:embed data/use.csv
var useFile string

// named is a row of a table that says what words mean.
type named struct{ word, means string }

// table reads a file of words, what they mean, their language and their source.
func table(name, file string, known func(string) bool) []named {
	rows, err := csv.NewReader(strings.NewReader(file)).ReadAll()
	if err != nil {
		panic(fmt.Sprintf("reader/data/%s: %v", name, err))
	}
	var out []named
	for n, row := range rows[1:] {
		if row[0] == "" || !known(row[1]) || row[2] == "" || row[3] == "" {
			panic(fmt.Sprintf("reader/data/%s:%d: want a word, what it means, a language and a source", name, n+2))
		}
		out = append(out, named{" " + row[0] + " ", row[1]})
	}
	return out
}

var (
	roleWords = sync.OnceValue(func() []named {
		return table("role.csv", roleFile, func(s string) bool { return recipe.Role(s).Known() })
	})
	useWords = sync.OnceValue(func() []named {
		return table("use.csv", useFile, func(s string) bool { return recipe.Use(s).Known() })
	})
)

// plainWords are the words of a text in lower case, each between blanks.
func plainWords(s string) string {
	return " " + strings.Join(strings.FieldsFunc(strings.ToLower(s), func(c rune) bool { return !unicode.IsLetter(c) && c != '\'' }), " ") + " "
}

// RoleOf is the role of a part by its heading; Batter where the heading says nothing of it.
func RoleOf(heading string) recipe.Role {
	text := plainWords(heading)
	for _, aside := range []bool{true, false} { // "cake filling": what is beside the batter counts first
		for _, w := range roleWords() {
			if r := recipe.Role(w.means); r.Aside() == aside && strings.Contains(text, w.word) {
				return r
			}
		}
	}
	return recipe.Batter
}

// BatterRole is how the role of a batter is written where one is typed.
const BatterRole = "batter"

// roles lays the typed roles of parts over those of their headings.
func (r *reading) roles() {
	for name, typed := range r.opt.Facts.Roles {
		role := recipe.Role(typed)
		if typed == BatterRole {
			role = recipe.Batter
		}
		if !role.Known() {
			continue
		}
		for n := range r.Recipe.Parts {
			if p := &r.Recipe.Parts[n]; p.Name == name {
				p.Role = role
			}
		}
		for n := range r.Recipe.Lines {
			if l := &r.Recipe.Lines[n]; l.Section == name {
				l.Role = role
			}
		}
	}
}

// device settles what it is heated with: as typed, else by its words.
func (r *reading) device() {
	typed := r.opt.Facts.Device
	d := device.Called(typed)
	switch {
	case d.Other() || typed == device.Oven:
		r.Recipe.Device = typed
	default:
		r.Recipe.Device = cmp.Or(device.Read(r.Recipe).Name, device.Oven)
	}
}

// RoleNamed reports whether a heading says what it is of: "main dough", as well as "icing".
func RoleNamed(heading string) bool {
	text := plainWords(heading)
	return slices.ContainsFunc(roleWords(), func(w named) bool { return strings.Contains(text, w.word) })
}

// extras begin what is beside the amount: "plus extra for dusting".
var extras = []string{" extra ", " more ", " another "}

// UseOf is what the note of a line says that it is for. What is extra, for brushing or dusting, is no part of the amount, which is mixed in.
func UseOf(note string) recipe.Use {
	if note == "" {
		return recipe.In
	}
	text := plainWords(note)
	for _, w := range extras {
		if at := strings.Index(text, w); at >= 0 {
			text = text[:at+1]
		}
	}
	first, use := len(text), recipe.In
	for _, w := range useWords() {
		for _, to := range []string{" to", " for"} {
			if at := strings.Index(text, to+w.word); at >= 0 && at < first {
				first, use = at, recipe.Use(w.means)
			}
		}
	}
	return use
}

// settle settles the role of a line's part, and what the line is for.
func settle(l *recipe.Line) { l.Role, l.Use = RoleOf(l.Section), UseOf(l.Note) }

// Settle settles the parts of a recipe, their roles and what each line is for, by headings and notes: a recipe that was kept before these
// were part of it gets them here.
func Settle(r *recipe.Recipe) {
	r.Parts = nil
	batter := false
	for n := range r.Lines {
		l := &r.Lines[n]
		settle(l)
		batter = batter || !l.Topping()
		if !slices.ContainsFunc(r.Parts, func(p recipe.Part) bool { return p.Name == l.Section }) {
			r.Parts = append(r.Parts, recipe.Part{Name: l.Section, Role: l.Role})
		}
	}
	if batter {
		return
	}
	for n := range r.Lines { // "For the meringue" of a pavlova: what is beside nothing is the bake
		if l := &r.Lines[n]; l.Section == r.Parts[0].Name {
			l.Role = recipe.Batter
		}
	}
	if len(r.Parts) > 0 {
		r.Parts[0].Role = recipe.Batter
	}
}
