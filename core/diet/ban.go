package diet

import (
	"embed"
	"encoding/csv"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"
	"sync"

	"kollaris/core/fact"
	"kollaris/core/larder"
)

//go:embed data/*.csv
var files embed.FS

// only marks a ban of one food where its name would mean more: "only:milk" shuts milk
// out, "milk" every food of milk.
const only = "only:"

// ban is something that can be shut out by one word: an allergen of the law, or a
// family of foods.
type ban struct {
	id, words, says string
	source          fact.Source
	whole           bool // a food that is named after it ("soya drink") stands for the whole of it
	allergens       []string
	origins         []string
	families        map[larder.Family]larder.Level
	foods           map[larder.ID]larder.Level
	columns         map[larder.Column]larder.Level
}

// traceOf is the share from which a food holds a sugar, g per 100 g. Source: EU
// 1924/2006 annex, "sugars-free".
const traceOf = 0.5

// level says how surely a food is shut out. An ingredient of the household's own is
// taken for what it behaves like, too.
func (b *ban) level(i *larder.Ingredient) (worst larder.Level, ok bool) {
	see := func(lv larder.Level) {
		if !ok || lv != larder.Check {
			worst, ok = lv, true
		}
	}
	for _, a := range b.allergens {
		if lv, has := i.Allergens[a]; has {
			see(lv)
		}
	}
	if lv, has := b.families[i.Family]; has {
		see(lv)
	}
	if slices.Contains(b.origins, i.Origin) {
		see(larder.Contains)
	}
	for c, lv := range b.columns {
		switch {
		case !i.Facts.Known(c):
			see(larder.Check)
		case i.Facts[c] > traceOf:
			see(lv)
		}
	}
	for _, id := range []larder.ID{i.ID, i.Like} {
		if lv, has := b.foods[id]; has {
			see(lv)
		}
	}
	return worst, ok
}

// bans are all of them by id; loaded and checked once.
var bans = sync.OnceValue(func() map[string]*ban {
	sub, _ := fs.Sub(files, "data")
	out, err := loadBans(sub, larder.Builtin())
	if err != nil {
		panic("diet: embedded bans: " + err.Error()) // a test loads them first
	}
	return out
})

// rows reads a table with its head; a fault is reported as "file:line: why".
func rows(fsys fs.FS, file, head string, row func(fields []string) error) error {
	f, err := fsys.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	all, err := csv.NewReader(f).ReadAll()
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	if len(all) == 0 || strings.Join(all[0], ",") != head {
		return fmt.Errorf("%s:1: want %s", file, head)
	}
	var faults []error
	for n, fields := range all[1:] {
		err := fact.Source(fields[len(fields)-1]).Check()
		if err == nil {
			err = row(fields)
		}
		if err != nil {
			faults = append(faults, fmt.Errorf("%s:%d: %w", file, n+2, err))
		}
	}
	return errors.Join(faults...)
}

func loadBans(fsys fs.FS, l *larder.Larder) (map[string]*ban, error) {
	out := map[string]*ban{}
	err := rows(fsys, "ban.csv", "id,words,whole,says,source", func(f []string) error {
		if out[f[0]] != nil || f[1] == "" || f[3] == "" {
			return fmt.Errorf("%q stands here twice or says nothing", f[0])
		}
		b := &ban{
			id: f[0], words: f[1], whole: f[2] == "yes", says: f[3], source: fact.Source(f[4]),
			families: map[larder.Family]larder.Level{}, foods: map[larder.ID]larder.Level{},
			columns: map[larder.Column]larder.Level{},
		}
		if larder.IsAllergen(b.id) && b.id != "nuts" { // of "nuts" the members are listed: at home the word means more
			b.allergens = []string{b.id}
		}
		out[b.id] = b
		return nil
	})
	if err != nil {
		return nil, err
	}
	return out, rows(fsys, "member.csv", "ban,level,members,source", func(f []string) error {
		b, lv := out[f[0]], larder.Level(f[1])
		if b == nil || lv != larder.Contains && lv != larder.Check {
			return fmt.Errorf("%q is no ban, or %q no level", f[0], lv)
		}
		for _, m := range strings.Fields(f[2]) {
			if err := b.add(m, lv, l); err != nil {
				return err
			}
		}
		return nil
	})
}

// add takes one member: an ingredient, or "family:", "allergen:", "origin:", "column:"
// with what is meant.
func (b *ban) add(member string, lv larder.Level, l *larder.Larder) error {
	what, name, ok := strings.Cut(member, ":")
	if !ok {
		what, name = "", member
	}
	known := false
	switch what {
	case "":
		known = l.Get(larder.ID(name)) != nil
		if b.foods[larder.ID(name)] != larder.Contains {
			b.foods[larder.ID(name)] = lv
		}
	case "family":
		known = slices.ContainsFunc(l.All(), func(i *larder.Ingredient) bool { return string(i.Family) == name })
		b.families[larder.Family(name)] = lv
	case "allergen":
		known = larder.IsAllergen(name)
		b.allergens = append(b.allergens, name)
	case "origin":
		known = slices.ContainsFunc(l.All(), func(i *larder.Ingredient) bool { return i.Origin == name })
		b.origins = append(b.origins, name)
	case "column":
		for c, info := range larder.Columns {
			if info.Name == name {
				b.columns[larder.Column(c)], known = lv, true
			}
		}
	}
	if !known {
		return fmt.Errorf("%q is not in the larder", member)
	}
	return nil
}

// BanWords gives a ban as the application prints it, and as ParseBan reads it back.
func BanWords(id string) string {
	if b := bans()[id]; b != nil {
		return b.words
	}
	name, alone := strings.CutPrefix(strings.TrimPrefix(id, wordly), only)
	name = strings.ReplaceAll(name, "-", " ")
	if alone {
		return "only " + name
	}
	return name
}

// Listed is a ban as the application lists it.
type Listed struct {
	Words, Says string
	Source      fact.Source
}

// Bans lists the allergens and families that can be shut out, by their words.
func Bans() []Listed {
	var out []Listed
	for _, b := range bans() {
		out = append(out, Listed{b.words, b.says, b.source})
	}
	slices.SortFunc(
		out, func(a, b Listed) int { return strings.Compare(strings.ToLower(a.Words), strings.ToLower(b.Words)) },
	)
	return out
}

// NoWords says that a ban is asked: "no soya", "no butter, that alone".
func NoWords(id string) string {
	words, alone := strings.CutPrefix(BanWords(id), "only ")
	if alone {
		return "no " + words + ", that alone"
	}
	return "no " + words
}

// Covers says in full what a ban shuts out: "soya: beans, drink, flour …". "" for a
// single food, which is just itself.
func Covers(id string) string {
	if b := bans()[id]; b != nil {
		return b.words + ": " + b.says
	}
	if word, ok := strings.CutPrefix(id, wordly); ok {
		return fmt.Sprintf("%s, which Kollaris does not know: what names it is stopped, and nothing is proved free of it", strings.ReplaceAll(word, "-", " "))
	}
	return ""
}

// OfAllergen is the ban of one allergen of the law and of nothing else: the law's nuts are
// tree nuts.
func OfAllergen(allergen string) string {
	if allergen == "nuts" {
		return "tree-nuts"
	}
	return allergen
}

// AllergensOf lists the allergens of the law that a ban shuts out, none for other
// foods.
func AllergensOf(id string) []string {
	if b := bans()[id]; b != nil {
		return slices.Clone(b.allergens)
	}
	return nil
}

// banned judges an ingredient by one ban.
func banned(id string, i *larder.Ingredient) (Verdict, Reason) {
	why := because(ShutOut, i)
	why.Ban = id
	b := bans()[id]
	if word, ok := strings.CutPrefix(id, wordly); ok {
		if i.Own && slices.Contains(strings.Fields(larder.Normal(i.Name)), word) {
			return Breaks, why
		}
		return Fine, Reason{}
	}
	if b == nil {
		switch larder.ID(strings.TrimPrefix(id, only)) {
		case i.ID:
			return Breaks, why
		case i.Like:
			why.Kind = Behaves
			return CheckLabel, why
		}
		return Fine, Reason{}
	}
	worst, reason := Fine, Reason{}
	for _, a := range b.allergens {
		if v, r := allergenIn(i, a); v > worst {
			worst, reason = v, r
		}
	}
	if worst == Breaks {
		return worst, reason
	}
	switch lv, ok := b.level(i); {
	case ok && lv != larder.Check:
		return Breaks, why
	case ok && worst == Fine:
		why.Kind = ReadLabel
		return CheckLabel, why
	}
	return worst, reason
}

// allergenIn judges an ingredient by an allergen of the law.
func allergenIn(i *larder.Ingredient, a string) (Verdict, Reason) {
	why := because(HoldsIt, i)
	why.Allergen = a
	switch lv, ok := i.Has(a); {
	case !ok:
		return Fine, Reason{}
	case lv == larder.Contains:
		return Breaks, why
	case lv == larder.May:
		why.Kind = MayHold
		return Breaks, why
	}
	why.Kind = ReadLabel
	return CheckLabel, why
}
