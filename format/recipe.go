package format

import (
	"archive/zip"
	"bytes"
	"cmp"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"path"
	"strings"
	"unicode/utf8"

	"github.com/PuerkitoBio/goquery"

	"kollaris/core/larder"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// Limits of what is taken in at once: a shelf of ten thousand as it is given away. MaxFile is the largest file read.
const (
	maxRecipes  = 12000     // recipes of one document, files of one zip
	MaxFile     = 2 << 20   // bytes of one file, unpacked
	maxUnpacked = 100 << 20 // bytes of one zip, unpacked
)

// Found is a recipe found in a file, as text for reader.Read, or the reason why
// there is none.
type Found struct {
	File  string // "shelf.zip: pear.json"
	Title string
	Text  string
	Fault string // what is wrong and what would do; "" for none
}

// Recipes finds the recipes in a file: plain text, Markdown, JSON-LD, a saved
// HTML page that holds JSON-LD, CSV of lines, or a zip of these. The bytes say
// which; the name only tells CSV from text. Every file gives at least one Found.
func Recipes(name string, data []byte) []Found {
	if bytes.HasPrefix(data, []byte("PK\x03\x04")) || bytes.HasPrefix(data, []byte("PK\x05\x06")) {
		return unzip(name, data)
	}
	found, err := one(name, data)
	if err != nil {
		return []Found{{File: name, Fault: err.Error()}}
	}
	for n := range found {
		found[n].File = name
	}
	return found
}

func one(name string, data []byte) ([]Found, error) {
	data = bytes.TrimPrefix(data, []byte("\ufeff"))
	text := bytes.TrimSpace(data)
	switch {
	case len(text) == 0:
		return nil, errors.New("there is no text to read in it")
	case len(data) > MaxFile:
		return nil, fmt.Errorf("it is %d KB; a file of up to %d KB is taken", len(data)>>10, MaxFile>>10)
	case !utf8.Valid(data):
		return nil, errors.New("it is not text: save it as plain text, Markdown, JSON-LD or a web page")
	case text[0] == '{' || text[0] == '[' && strings.EqualFold(path.Ext(name), ".json"):
		return readJSONLD(text)
	case isHTML(text):
		return readHTML(text)
	case strings.EqualFold(path.Ext(name), ".csv"):
		return readLines(name, text)
	case len(data) > reader.MaxText:
		return nil, fmt.Errorf(
			"it is %d KB of text; a recipe of up to %d KB is read: one recipe to a file", len(data)>>10,
			reader.MaxText>>10,
		)
	}
	return []Found{{Text: strings.ReplaceAll(string(text), "\r\n", "\n")}}, nil
}

func isHTML(text []byte) bool {
	head := bytes.ToLower(text[:min(len(text), 2000)])
	return text[0] == '<' &&
		(bytes.Contains(head, []byte("<html")) || bytes.Contains(head, []byte("<!doctype html")) || bytes.Contains(head, []byte("<script")))
}

// readHTML finds the JSON-LD of a saved page.
func readHTML(data []byte) ([]Found, error) {
	doc, err := goquery.NewDocumentFromReader(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("the page cannot be read (%v)", err)
	}
	var out []Found
	var last error
	doc.Find(`script[type="application/ld+json"]`).Each(func(_ int, s *goquery.Selection) {
		found, err := readJSONLD([]byte(s.Text()))
		if err != nil {
			last = err
			return
		}
		out = append(out, found...)
	})
	switch {
	case len(out) > 0:
		return out, nil
	case last != nil:
		return nil, last
	}
	return plainPage(doc)
}

// unzip reads the files of a zip. Each has its own result; folders and hidden
// files are passed over.
func unzip(name string, data []byte) []Found {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return []Found{{File: name, Fault: fmt.Sprintf("the zip is damaged (%v): make it again", err)}}
	}
	var out []Found
	files, room := 0, int64(maxUnpacked)
	for _, f := range z.File {
		base := path.Base(f.Name)
		if f.FileInfo().IsDir() || strings.HasPrefix(base, ".") || strings.HasPrefix(f.Name, "__MACOSX/") {
			continue
		}
		if files++; files > maxRecipes {
			return append(
				out,
				Found{File: name, Fault: fmt.Sprintf("it holds more than %d files: the rest was left", maxRecipes)},
			)
		}
		b, err := unpack(f, min(room, MaxFile))
		if err != nil {
			out = append(out, Found{File: name + ": " + f.Name, Fault: err.Error()})
			continue
		}
		room -= int64(len(b))
		if bytes.HasPrefix(b, []byte("PK\x03\x04")) {
			out = append(
				out, Found{File: name + ": " + f.Name, Fault: "a zip within a zip is not opened: unpack it first"},
			)
			continue
		}
		for _, x := range Recipes(base, b) {
			x.File = name + ": " + f.Name
			out = append(out, x)
		}
	}
	if len(out) == 0 {
		return []Found{{File: name, Fault: "there is no file in it"}}
	}
	return out
}

func unpack(f *zip.File, limit int64) ([]byte, error) {
	r, err := f.Open()
	if err != nil {
		return nil, fmt.Errorf("it cannot be unpacked (%v)", err)
	}
	defer r.Close()
	b, err := io.ReadAll(io.LimitReader(r, limit+1))
	switch {
	case err != nil:
		return nil, fmt.Errorf("it cannot be unpacked (%v)", err)
	case int64(len(b)) > limit:
		return nil, fmt.Errorf(
			"unpacked it is larger than can be taken: %d KB a file, %d MB a zip", MaxFile>>10, maxUnpacked>>20,
		)
	}
	return b, nil
}

// The columns of a recipe's lines as CSV. Grams are those of the reading, to look
// at; the line reads back from its amount, unit, ingredient and note.
var linesHead = []string{"section", "amount", "unit", "ingredient", "note", "grams"}

// WriteLines writes the ingredient lines as CSV.
func WriteLines(w io.Writer, r *recipe.Recipe, l *larder.Larder) error {
	c := csv.NewWriter(w)
	if err := c.Write(linesHead); err != nil {
		return err
	}
	for _, ln := range r.Lines {
		amount, unit, what, note := parts(ln, l)
		if err := c.Write([]string{ln.Section, amount, unit, what, note, num(math.Round(ln.Grams*10) / 10)}); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// readLines reads lines from CSV. With a head row the columns named as in
// linesHead are joined to a line; without one, all fields of a row are. A column "recipe" or "title" parts several recipes.
func readLines(name string, data []byte) ([]Found, error) {
	c := csv.NewReader(bytes.NewReader(data))
	c.FieldsPerRecord = -1
	c.TrimLeadingSpace = true
	if first, _, _ := bytes.Cut(data, []byte("\n")); bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		c.Comma = ';'
	}
	rows, err := c.ReadAll()
	if err != nil {
		return nil, fmt.Errorf("the table cannot be read (%v): save it again as CSV", err)
	}
	at := map[string]int{}
	for n, h := range rows[0] {
		at[strings.ToLower(strings.TrimSpace(h))] = n
	}
	if _, ok := at["ingredient"]; ok {
		rows = rows[1:]
	} else {
		at = nil
	}
	file := strings.TrimSpace(strings.TrimSuffix(path.Base(name), path.Ext(name)))
	var titles []string // of the recipes, in their order
	texts := map[string]*strings.Builder{}
	sects := map[string]string{}
	for _, row := range rows {
		get := func(key string) string {
			if n, ok := at[key]; ok && n < len(row) {
				return oneLine(row[n])
			}
			return ""
		}
		title := cmp.Or(get("recipe"), get("title"), file)
		b := texts[title]
		if b == nil {
			if len(titles) >= maxRecipes {
				return nil, fmt.Errorf("it holds more than %d recipes: part it", maxRecipes)
			}
			titles, b = append(titles, title), &strings.Builder{}
			texts[title] = b
			b.WriteString(title + "\n\nIngredients\n")
		}
		if s := get("section"); s != sects[title] {
			sects[title] = s
			b.WriteString("For the " + cmp.Or(s, "cake") + ":\n")
		}
		text := oneLine(strings.Join(row, " "))
		if at != nil {
			text = join(get("amount"), get("unit"), get("ingredient"), get("note"))
		}
		if text != "" {
			b.WriteString(text + "\n")
		}
	}
	if len(titles) == 0 {
		return nil, errors.New("the table has a head and no lines below it")
	}
	var out []Found
	for _, title := range titles {
		out = append(out, Found{Title: title, Text: texts[title].String()})
	}
	return out, nil
}
