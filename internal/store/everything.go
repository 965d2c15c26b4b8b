package store

import (
	"archive/zip"
	"bufio"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/recipe"
)

// Everything that a household has, as one zip: docs/everything.md describes it.
const (
	everythingKind    = "everything"
	everythingVersion = 1
	mostOfFile        = 512 << 20 // bytes of one file within it, unpacked
	mostOfAll         = 2 << 30   // bytes of all of them
)

// Errors of a zip that is brought in.
var (
	ErrNotEverything = errors.New("it is not a zip of everything, as Kollaris gives it")
	ErrNotEmpty      = errors.New("there is something here already: everything comes back only into an empty program")
	ErrNotWhole      = errors.New("it is damaged: nothing was brought in")
)

// manifest says what a zip is.
type manifest struct {
	Kollaris string `json:"kollaris"` // everythingKind
	Version  int    `json:"version"`
	Schema   int64  `json:"schema"` // of the database
}

// derived are tables that are made of others, and those of who may come in, which never leave the machine but in its backups.
var derived = regexp.MustCompile(`^(?:goose_db_version|sqlite_.*|.*_fts(?:_.*)?|access|session)$`)

// documents are the columns that hold JSON.
var documents = []string{"doc", "result", "reading", "seen"}

// tables lists what a household's data stand in, by name.
func tables(ctx context.Context, q interface {
	QueryContext(context.Context, string, ...any) (*sql.Rows, error)
}) ([]string, error) {
	rows, err := q.QueryContext(ctx, "SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []string
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, err
		}
		if !derived.MatchString(name) {
			out = append(out, name)
		}
	}
	return out, rows.Err()
}

// Everything writes all that the household has into a zip, and more beside it where that is given: the same data give the
// same bytes.
func (s *Store) Everything(ctx context.Context, w io.Writer, more func(*zip.Writer) error) error {
	tx, err := s.db.BeginTx(ctx, &sql.TxOptions{ReadOnly: true}) // one moment of all tables
	if err != nil {
		return err
	}
	defer tx.Rollback() //nolint:errcheck // nothing was written
	z := zip.NewWriter(w)
	m := manifest{Kollaris: everythingKind, Version: everythingVersion}
	if err := tx.QueryRowContext(ctx, "SELECT max(version_id) FROM goose_db_version").Scan(&m.Schema); err != nil {
		return err
	}
	doc, err := json.MarshalIndent(m, "", "  ")
	if err != nil {
		return err
	}
	if err := put(z, "kollaris.json", append(doc, '\n')); err != nil {
		return err
	}
	names, err := tables(ctx, tx)
	if err != nil {
		return err
	}
	for _, name := range names {
		if err := writeTable(ctx, tx, z, name); err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
	}
	if more != nil {
		if err := more(z); err != nil {
			return err
		}
	}
	return z.Close()
}

func put(z *zip.Writer, name string, data []byte) error {
	f, err := z.Create(name)
	if err == nil {
		_, err = f.Write(data)
	}
	return err
}

// writeTable writes a table as an array of its rows, a line each; what is no text goes into a file of its own. It is written row by
// row, since pictures may take half a gigabyte.
func writeTable(ctx context.Context, tx *sql.Tx, z *zip.Writer, name string) error {
	f, err := z.Create("data/" + name + ".json")
	if err != nil {
		return err
	}
	out := bufio.NewWriter(f)
	blobs, err := writeRows(ctx, tx, out, name)
	if err == nil {
		err = out.Flush()
	}
	if err != nil {
		return err
	}
	for _, b := range blobs {
		var data []byte
		if err := tx.QueryRowContext(ctx, "SELECT "+b.column+" FROM "+name+" WHERE rowid = ?", b.row).Scan(&data); err != nil {
			return err
		}
		if err := put(z, b.name, data); err != nil {
			return err
		}
	}
	return nil
}

// blob is what is no text in a row of a table, and the name of its file.
type blob struct {
	name, column string
	row          int64
}

func writeRows(ctx context.Context, tx *sql.Tx, out *bufio.Writer, name string) (blobs []blob, err error) {
	rows, err := tx.QueryContext(ctx, "SELECT rowid, * FROM "+name+" ORDER BY rowid")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	columns, err := rows.Columns()
	if err != nil {
		return nil, err
	}
	columns = columns[1:] // after the rowid
	var row int64
	values := make([]any, len(columns))
	at := []any{&row}
	for k := range values {
		at = append(at, &values[k])
	}
	out.WriteString("[") //nolint:errcheck // the writer keeps its first error for Flush
	for n := 0; rows.Next(); n++ {
		if err := rows.Scan(at...); err != nil {
			return nil, err
		}
		line := []byte("\n{")
		if n > 0 {
			line = []byte(",\n{")
		}
		for k, c := range columns {
			v := values[k]
			switch x := v.(type) {
			case []byte:
				b := blob{fmt.Sprintf("blobs/%s-%v-%s", name, values[0], c), c, row}
				blobs, v = append(blobs, b), map[string]string{"file": b.name}
			case string:
				if slices.Contains(documents, c) && json.Valid([]byte(x)) && strings.IndexAny(x, "{[") == 0 {
					v = json.RawMessage(x)
				}
			}
			doc, err := json.Marshal(v)
			if err != nil {
				return nil, err
			}
			if k > 0 {
				line = append(line, ',')
			}
			line = append(append(append(line, strconv.Quote(c)...), ':'), doc...)
		}
		out.Write(append(line, '}')) //nolint:errcheck // likewise
	}
	out.WriteString("\n]\n") //nolint:errcheck // likewise
	return blobs, rows.Err()
}

// BringEverything brings a zip of everything into a program in which nothing stands yet, all or nothing, and counts
// the recipes that came.
func (s *Store) BringEverything(ctx context.Context, r io.ReaderAt, size int64) (recipes int, err error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return 0, ErrNotEverything
	}
	files := map[string]*zip.File{}
	all := uint64(0)
	for _, f := range z.File {
		files[f.Name] = f
		all += f.UncompressedSize64
	}
	if all > mostOfAll {
		return 0, ErrNotEverything
	}
	var m manifest
	doc, err := unpack(files["kollaris.json"])
	if err != nil || json.Unmarshal(doc, &m) != nil || m.Kollaris != everythingKind {
		return 0, ErrNotEverything
	}
	err = s.write(ctx, func(tx *sql.Tx) error {
		var schema int64
		if err := tx.QueryRowContext(ctx, "SELECT max(version_id) FROM goose_db_version").Scan(&schema); err != nil {
			return err
		}
		if m.Version > everythingVersion || m.Schema > schema {
			return ErrNewer
		}
		if _, err := tx.ExecContext(ctx, "PRAGMA defer_foreign_keys = ON"); err != nil {
			return err
		}
		names, err := tables(ctx, tx)
		if err != nil {
			return err
		}
		for _, name := range names {
			n := 0
			if err := tx.QueryRowContext(ctx, "SELECT count(*) FROM "+name).Scan(&n); err != nil {
				return err
			}
			if n > 0 && name != "household" {
				return ErrNotEmpty
			}
		}
		for _, name := range names {
			if files["data/"+name+".json"] == nil {
				continue // of an older program, which had none
			}
			if err := readTable(ctx, tx, files, name); err != nil {
				return fmt.Errorf("%w (%s: %w)", ErrNotWhole, name, err)
			}
		}
		var newer int
		if err := tx.QueryRowContext(ctx, "SELECT count(*), (SELECT count(*) FROM version WHERE schema > ?) FROM recipe WHERE deleted_at IS NULL", recipe.Schema).Scan(&recipes, &newer); err != nil {
			return err
		}
		if newer > 0 {
			return ErrNewer
		}
		return refind(ctx, tx)
	})
	if err != nil && strings.Contains(err.Error(), "FOREIGN KEY") {
		err = ErrNotWhole
	}
	return recipes, err
}

// unpack reads a file of a zip, up to what one may hold.
func unpack(f *zip.File) ([]byte, error) {
	if f == nil {
		return nil, errors.New("it is not there")
	}
	r, err := f.Open()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, mostOfFile+1))
	if err == nil && len(data) > mostOfFile {
		err = errors.New("it is too large")
	}
	return data, err
}

func readTable(ctx context.Context, tx *sql.Tx, files map[string]*zip.File, name string) error {
	known := map[string]bool{}
	info, err := tx.QueryContext(ctx, "SELECT name FROM pragma_table_info(?)", name)
	if err != nil {
		return err
	}
	defer info.Close()
	for info.Next() {
		var c string
		if err := info.Scan(&c); err != nil {
			return err
		}
		known[c] = true
	}
	if err := info.Err(); err != nil {
		return err
	}
	if name == "household" {
		if _, err := tx.ExecContext(ctx, "DELETE FROM household"); err != nil {
			return err
		}
	}
	f, err := files["data/"+name+".json"].Open()
	if err != nil {
		return err
	}
	defer f.Close()
	rows := json.NewDecoder(io.LimitReader(f, mostOfFile)) // row by row: a table may be large
	if _, err := rows.Token(); err != nil {                // [
		return err
	}
	for rows.More() {
		var row map[string]json.RawMessage
		if err := rows.Decode(&row); err != nil {
			return err
		}
		var columns, marks []string
		var values []any
		for c, raw := range row {
			if !known[c] {
				return fmt.Errorf("no column is called %q", c)
			}
			v, err := valueOf(raw, files)
			if err != nil {
				return err
			}
			columns, marks, values = append(columns, `"`+c+`"`), append(marks, "?"), append(values, v)
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO "+name+" ("+strings.Join(columns, ", ")+") VALUES ("+strings.Join(marks, ", ")+")", values...); err != nil {
			return err
		}
	}
	_, err = rows.Token() // ]
	return err
}

// valueOf is a value as the database takes it: a document as its text, a named file as its bytes.
func valueOf(raw json.RawMessage, files map[string]*zip.File) (any, error) {
	var file struct {
		File string `json:"file"`
	}
	switch raw[0] {
	case '{':
		if json.Unmarshal(raw, &file) == nil && strings.HasPrefix(file.File, "blobs/") {
			return unpack(files[file.File])
		}
		return string(raw), nil
	case '[':
		return string(raw), nil
	case 'n':
		return nil, nil
	case '"':
		var s string
		err := json.Unmarshal(raw, &s)
		return s, err
	}
	if n, err := strconv.ParseInt(string(raw), 10, 64); err == nil {
		return n, nil
	}
	return strconv.ParseFloat(string(raw), 64)
}

// refind makes the tables of the search anew.
func refind(ctx context.Context, tx *sql.Tx) error {
	for _, q := range []string{
		"DELETE FROM recipe_fts", "DELETE FROM version_fts",
		`INSERT INTO recipe_fts (rowid, title, ingredients) SELECT r.id, r.title, (SELECT coalesce(group_concat(json_extract(value, '$.name') || ' ' || coalesce(json_extract(value, '$.phrase'), ''), ' '), '')
			FROM json_each(v.doc, '$.lines')) FROM recipe r JOIN version v ON v.id = r.head`,
		`INSERT INTO version_fts (rowid, title, ingredients) SELECT v.id, coalesce(nullif(m.name, ''), v.title), (SELECT coalesce(group_concat(json_extract(value, '$.name'), ' '), '')
			FROM json_each(v.doc, '$.lines')) FROM version v LEFT JOIN version_mark m ON m.version = v.id WHERE v.result <> '{}'`,
	} {
		if _, err := tx.ExecContext(ctx, q); err != nil {
			return err
		}
	}
	return nil
}
