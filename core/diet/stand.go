package diet

import (
	"io/fs"
	"maps"
	"slices"
	"strings"

	"kollaris/core/larder"
)

// wordly marks a ban of a word that neither the larder nor a table knows: "word:kiwi". Nothing can be proved free of it; what names
// it is stopped.
const wordly = "word:"

// WordBan is the ban of a word that is not known here.
func WordBan(word string) string { return wordly + strings.ReplaceAll(larder.Normal(word), " ", "-") }

// Unknowns lists what a demand shuts out by a word alone, as it is printed: "kiwi".
func (d Demand) Unknowns() (out []string) {
	for _, b := range d.Bans {
		if w, ok := strings.CutPrefix(b, wordly); ok {
			out = append(out, strings.ReplaceAll(w, "-", " "))
		}
	}
	return out
}

// Word is a word by which a ban, a diet or one food is called.
type Word struct {
	Words string
	Ban   string
	Food  larder.ID
}

// BanWordList lists the English words of bans and foods, sorted: those of data/word.csv and the bans' own.
func BanWordList() []Word {
	var out []Word
	sub, _ := fs.Sub(files, "data")
	_ = rows(sub, "word.csv", "means,locale,words,source", func(f []string) error { // its faults were told when it was loaded
		if f[1] != "en" || strings.HasPrefix(f[0], "diet:") {
			return nil
		}
		for _, w := range strings.Split(f[2], ";") {
			w = strings.TrimSpace(w)
			if strings.ContainsFunc(w, func(r rune) bool { return r > 0x7f }) || foreign[strings.ToLower(w)] {
				continue
			}
			if id, ok := strings.CutPrefix(f[0], "food:"); ok {
				out = append(out, Word{Words: w, Food: larder.ID(id)})
			} else {
				out = append(out, Word{Words: w, Ban: f[0]})
			}
		}
		return nil
	})
	for _, id := range slices.Sorted(maps.Keys(bans())) {
		out = append(out, Word{Words: bans()[id].words, Ban: id})
	}
	return out
}

// foreign are words of other languages among those rows that are other English words, or none of a recipe's.
var foreign = set("mandel mela ail jau coco burro nata pomme anda date-free rice-free riso riz reis pera brazil til spice colour vegetable cream egg whites carne jus sel sucre miel citron lime limone")

// Stands are foods that hold what a ban shuts out, for what is only named by its word: of an allergen one that holds it and is
// like one of its foods where the larder has any; of a family none, unless a food that is named after it stands for the whole of it.
func Stands(id string, l *larder.Larder) []*larder.Ingredient {
	b := bans()[id]
	if b == nil || !b.whole {
		return nil
	}
	var like *larder.Ingredient
	for _, i := range l.All() {
		lv, ok := b.level(i)
		if !ok || lv != larder.Contains || i.Own {
			continue
		}
		if like == nil || string(i.ID) == id {
			like = i
		}
	}
	stand := larder.Ingredient{Origin: "plant", Shelf: l.All()[0].Shelf}
	if like != nil {
		stand = *like
	}
	stand.Allergens = maps.Clone(stand.Allergens)
	if stand.Allergens == nil {
		stand.Allergens = map[string]larder.Level{}
	}
	for _, a := range b.allergens {
		stand.Allergens[a] = larder.Contains
	}
	switch id {
	case "fish", "crustaceans", "molluscs", "shellfish", "seafood":
		stand.Origin = "meat"
	}
	stand.Name = b.words
	return []*larder.Ingredient{&stand}
}
