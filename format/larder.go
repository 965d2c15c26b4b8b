// Package format reads and writes open formats, one a file.
package format

import (
	"bufio"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"sort"
	"strconv"
	"strings"

	"kollaris/core/larder"
	"kollaris/core/measure"
)

// The columns of a larder's CSV: who, what it behaves like, other names, weights,
// the pack, allergens ("milk=contains; soya=check"), then every figure per 100 g.
// An empty field says nothing; 0 says none.
var larderHead = []string{"id", "name", "like", "names", "weights", "pack_g", "price", "stock_g", "allergens"}

// RowFault is a row that cannot be used, and why.
type RowFault struct {
	Line int
	Text string // what stands there, shortened
	Why  string
}

// maxRows is the most rows of one file.
const maxRows = 5000

// WriteLarder writes a household's records as CSV.
func WriteLarder(w io.Writer, own []larder.Own) error {
	c := csv.NewWriter(w)
	head := slices.Clone(larderHead)
	for _, info := range larder.Columns {
		head = append(head, info.Name)
	}
	if err := c.Write(head); err != nil {
		return err
	}
	for _, o := range own {
		var weights, allergens []string
		for _, wt := range o.Weights {
			weights = append(weights, fmt.Sprintf("%s %s %g", wt.How, wt.Unit, float64(wt.Grams)))
		}
		for _, a := range slices.Sorted(maps.Keys(o.Allergens)) {
			allergens = append(allergens, a+"="+string(o.Allergens[a]))
		}
		if o.Allergens != nil && len(allergens) == 0 {
			allergens = []string{"none"}
		}
		row := []string{
			string(o.ID), o.Name, string(o.Like), strings.Join(o.Names, "; "), strings.Join(weights, "; "), "", "", "",
			strings.Join(allergens, "; "),
		}
		if p := o.Pack; p != nil {
			row[5], row[6], row[7] = num(p.Grams), num(p.Price), num(p.Stock)
		}
		for _, info := range larder.Columns {
			s := ""
			if x, ok := o.Values[info.Name]; ok {
				s = num(x)
			}
			row = append(row, s)
		}
		if err := c.Write(row); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

func num(x float64) string { return strconv.FormatFloat(x, 'g', -1, 64) }

// separator is what parts the columns of a table: as spreadsheets of the country write it.
func separator(head string) rune {
	best, most := ',', strings.Count(head, ",")
	for _, sep := range []rune{';', '\t'} {
		if n := strings.Count(head, string(sep)); n > most {
			best, most = sep, n
		}
	}
	return best
}

// idOf makes an id of a name, for a table that has no ids: "Mill oat drink" is own-mill-oat-drink.
func idOf(name string) string {
	words := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9') })
	if len(words) == 0 {
		return ""
	}
	return "own-" + strings.Join(words, "-")
}

// ReadLarder reads such a CSV, parted by commas, semicolons or tabs, with points or commas in its numbers. Columns may
// stand in any order and be left out, the id too where there is a name; a column that is not known is a fault;
// rows that cannot be used are returned as faults with their line, the good ones
// beside them. An error means that the file is no such table at all.
func ReadLarder(r io.Reader, l *larder.Larder) ([]larder.Own, []RowFault, error) {
	b := bufio.NewReader(r)
	first, _ := b.Peek(4096)
	line, _, _ := strings.Cut(string(first), "\n")
	c := csv.NewReader(b)
	c.Comma = separator(line)
	c.FieldsPerRecord = -1
	c.TrimLeadingSpace = true
	head, err := c.Read()
	if err != nil {
		return nil, nil, fmt.Errorf("this is no table of ingredients: want CSV with a head row that begins with id")
	}
	at := map[string]int{}
	var own []larder.Own
	var faults []RowFault
	for n, h := range head {
		h = strings.ToLower(strings.TrimSpace(strings.TrimPrefix(h, "\ufeff")))
		at[h] = n
		if h != "" && !slices.Contains(larderHead, h) && !slices.ContainsFunc(larder.Columns[:], func(c larder.ColumnInfo) bool { return c.Name == h }) {
			faults = append(faults, RowFault{1, h, fmt.Sprintf("no column is called “%s”: it is left out", h)})
		}
	}
	_, hasID := at["id"]
	_, hasName := at["name"]
	if !hasID && !hasName {
		return nil, nil, fmt.Errorf("the head row names neither a column “id” nor “name”; it holds %s", strings.Join(head, ", "))
	}
	for rows := 0; ; rows++ {
		rec, err := c.Read()
		if err == io.EOF {
			break
		}
		if err != nil {
			var pe *csv.ParseError
			line := 0
			if errors.As(err, &pe) {
				line = pe.StartLine
			}
			return own, append(
				faults, RowFault{line, "", "the quotes do not close; nothing from this line on was read"},
			), nil
		}
		line, _ := c.FieldPos(0)
		if rows >= maxRows {
			return own, append(
				faults, RowFault{line, "", fmt.Sprintf("more than %d rows: the rest was not read", maxRows)},
			), nil
		}
		get := func(name string) string {
			if n, ok := at[name]; ok && n < len(rec) {
				return strings.TrimSpace(rec[n])
			}
			return ""
		}
		o, why := ownOf(get)
		if o.ID == "" {
			o.ID = larder.ID(idOf(o.Name))
		}
		if why == "" {
			for _, f := range o.Check(l) {
				why = f.Field + ": " + f.Why
				break
			}
		}
		if why != "" {
			text := strings.Join(rec, ",")
			if len(text) > 60 {
				text = strings.ToValidUTF8(text[:60], "") + "…"
			}
			faults = append(faults, RowFault{line, text, why})
			continue
		}
		own = append(own, o)
	}
	sort.SliceStable(own, func(a, b int) bool { return own[a].ID < own[b].ID })
	return own, faults, nil
}

func ownOf(get func(string) string) (o larder.Own, why string) {
	o = larder.Own{ID: larder.ID(get("id")), Name: get("name"), Like: larder.ID(get("like"))}
	number := func(field string) (float64, bool) {
		s := get(field)
		if s == "" {
			return 0, false
		}
		x, err := measure.ParseDecimal(s)
		if err != nil && why == "" {
			why = fmt.Sprintf("%s: “%s” is no number", field, s)
		}
		return x, err == nil
	}
	for _, n := range strings.Split(get("names"), ";") {
		if n = strings.TrimSpace(n); n != "" {
			o.Names = append(o.Names, n)
		}
	}
	for _, w := range strings.Split(get("weights"), ";") {
		f := strings.Fields(w)
		if len(f) == 0 {
			continue
		}
		g, err := 0.0, error(nil)
		if len(f) == 3 {
			g, err = measure.ParseDecimal(f[2])
		}
		if len(f) != 3 || err != nil || f[1] != "cup" && f[1] != "tbsp" && f[1] != "tsp" && f[1] != "piece" {
			return o, fmt.Sprintf(
				"weights: “%s”: want how, unit and grams, such as “spooned cup 120”", strings.TrimSpace(w),
			)
		}
		o.Weights = append(o.Weights, larder.Weight{How: f[0], Unit: f[1], Grams: measure.Grams(g)})
	}
	if g, ok := number("pack_g"); ok {
		o.Pack = &larder.Pack{Grams: g}
		o.Pack.Price, _ = number("price")
		o.Pack.Stock, _ = number("stock_g")
	}
	if a := get("allergens"); a != "" {
		o.Allergens = map[string]larder.Level{}
		for _, pair := range strings.Split(a, ";") {
			name, level, ok := strings.Cut(strings.TrimSpace(pair), "=")
			if name == "" || name == "none" {
				continue
			}
			if !ok {
				level = string(larder.Contains)
			}
			o.Allergens[strings.TrimSpace(name)] = larder.Level(strings.TrimSpace(level))
		}
	}
	for _, info := range larder.Columns {
		if x, ok := number(info.Name); ok {
			if o.Values == nil {
				o.Values = map[string]float64{}
			}
			o.Values[info.Name] = x
		}
	}
	return o, why
}
