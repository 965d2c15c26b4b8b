package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/reader"
	"kollaris/core/recipe"
)

// Typed is what the baker typed over a text: corrections of lines and facts.
type Typed struct {
	Fixes map[string]reader.Fix `json:"fixes,omitempty"`
	Facts reader.Facts          `json:"facts,omitzero"`
	Told  []recipe.Told         `json:"told,omitempty"` // of the method's tasks
}

// Recipe is a recipe on the shelf with its written version.
type Recipe struct {
	ID        int64
	Rev       int64
	Title     string
	Head      int64 // the written version
	UpdatedAt time.Time
	Deleted   bool
	Doc       *recipe.Recipe
}

// Version is a kept version: the written recipe, or an adapted one with the
// request it came from and the result as it was then.
type Version struct {
	ID         int64
	Recipe     int64
	Parent     int64 // 0 for none
	N          int
	Title      string // as it was named when it was kept, or by the baker since
	Note       string // the baker's
	Gone       bool   // put away
	Doc        *recipe.Recipe
	SourceText string
	Typed      Typed
	Request    string        // encoded adapt.Request, "" for a written version
	Result     *adapt.Result // nil for a written version
	Engine     string
	CreatedAt  time.Time
}

// Adapted reports whether the version is an adapted one.
func (v *Version) Adapted() bool { return v.Result != nil }

// AddRecipe puts a recipe on the shelf with its written version.
func (s *Store) AddRecipe(ctx context.Context, doc *recipe.Recipe, text string, typed Typed) (id int64, err error) {
	err = s.write(ctx, func(tx *sql.Tx) error {
		id, err = s.addRecipe(ctx, tx, doc, text, typed)
		return err
	})
	return id, err
}

func (s *Store) addRecipe(ctx context.Context, tx *sql.Tx, doc *recipe.Recipe, text string, typed Typed) (int64, error) {
	t := now()
	res, err := tx.ExecContext(
		ctx, "INSERT INTO recipe (title, kind, created_at, updated_at) VALUES (?, ?, ?, ?)", doc.Title, string(doc.Kind), t, t,
	)
	if err != nil {
		return 0, err
	}
	id, err := res.LastInsertId()
	if err != nil {
		return 0, err
	}
	return id, s.setHead(ctx, tx, id, 0, doc, text, typed)
}

// CorrectRecipe gives a recipe a new written version; the old one stays. It is
// ErrChanged when rev is not the recipe's.
func (s *Store) CorrectRecipe(ctx context.Context, id, rev int64, doc *recipe.Recipe, text string, typed Typed) error {
	return s.write(ctx, func(tx *sql.Tx) error { return s.correctRecipe(ctx, tx, id, rev, doc, text, typed) })
}

func (s *Store) correctRecipe(ctx context.Context, tx *sql.Tx, id, rev int64, doc *recipe.Recipe, text string, typed Typed) error {
	var head, have int64
	if err := tx.QueryRowContext(ctx, "SELECT head, rev FROM recipe WHERE id = ? AND deleted_at IS NULL", id).Scan(&head, &have); err != nil {
		return missing(err)
	}
	if rev != AnyRev && have != rev {
		return ErrChanged
	}
	return s.setHead(ctx, tx, id, head, doc, text, typed)
}

func (s *Store) setHead(
	ctx context.Context, tx *sql.Tx, id, parent int64, doc *recipe.Recipe, text string, typed Typed,
) error {
	reading, err := json.Marshal(typed)
	if err != nil {
		return err
	}
	head, err := s.insertVersion(
		ctx, tx, Version{Recipe: id, Parent: parent, Title: doc.Title, Doc: doc, SourceText: text}, string(reading),
		"{}",
	)
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, "UPDATE recipe SET head = ?, title = ?, kind = ?, rev = rev + 1, updated_at = ? WHERE id = ?", head, doc.Title, string(doc.Kind), now(), id); err != nil {
		return err
	}
	var names []string
	for _, l := range doc.Lines {
		names = append(names, l.Name, l.Phrase)
	}
	if _, err := tx.ExecContext(ctx, "DELETE FROM recipe_fts WHERE rowid = ?", id); err != nil {
		return err
	}
	_, err = tx.ExecContext(
		ctx, "INSERT INTO recipe_fts (rowid, title, ingredients) VALUES (?, ?, ?)", id, doc.Title,
		strings.Join(names, " "),
	)
	return err
}

func (s *Store) insertVersion(ctx context.Context, tx *sql.Tx, v Version, reading, result string) (int64, error) {
	doc, err := json.Marshal(v.Doc)
	if err != nil {
		return 0, err
	}
	var parent any
	if v.Parent != 0 {
		parent = v.Parent
	}
	res, err := tx.ExecContext(
		ctx,
		`INSERT INTO version (recipe, parent, n, title, schema, doc, source_text, reading, request, result, engine, catalogue, created_at)
		VALUES (?, ?, (SELECT coalesce(max(n), 0) + 1 FROM version WHERE recipe = ?), ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		v.Recipe,
		parent,
		v.Recipe,
		v.Title,
		recipe.Schema,
		string(doc),
		v.SourceText,
		reading,
		v.Request,
		result,
		s.Engine,
		s.Data,
		now(),
	)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// KeepAdapted keeps an adapted version under its recipe.
func (s *Store) KeepAdapted(
	ctx context.Context, recipeID, parent int64, title string, res *adapt.Result,
) (id int64, err error) {
	result, err := json.Marshal(res)
	if err != nil {
		return 0, err
	}
	err = s.write(ctx, func(tx *sql.Tx) error {
		id, err = s.insertVersion(
			ctx, tx,
			Version{
				Recipe: recipeID, Parent: parent, Title: title, Doc: res.Recipe, Request: res.Request.Values().Encode(),
			},
			"{}",
			string(result),
		)
		if err != nil {
			return err
		}
		if err := s.findable(ctx, tx, id, title); err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, "UPDATE recipe SET updated_at = ? WHERE id = ?", now(), recipeID)
		return err
	})
	return id, err
}

// findable lets the shelf's search find a version by its name and by what it is made of.
func (s *Store) findable(ctx context.Context, tx *sql.Tx, id int64, title string) error {
	if _, err := tx.ExecContext(ctx, "DELETE FROM version_fts WHERE rowid = ?", id); err != nil {
		return err
	}
	_, err := tx.ExecContext(
		ctx, `INSERT INTO version_fts (rowid, title, ingredients)
		SELECT id, coalesce(nullif(?, ''), title), (SELECT coalesce(group_concat(json_extract(value, '$.name'), ' '), '') FROM json_each(doc, '$.lines')) FROM version WHERE id = ?`, title, id,
	)
	return err
}

// MarkRev is the rev of what a baker says of a version: its name and its note.
func (v *Version) MarkRev() int64 { return RevOf([]string{v.Title, v.Note}) }

// MarkVersion gives a version a name and a note of the baker's; what was kept stays as it is. ErrChanged where they are no longer
// those of rev; AnyRev takes any.
func (s *Store) MarkVersion(ctx context.Context, id, rev int64, name, note string) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		var now Version
		err := tx.QueryRowContext(ctx, `SELECT coalesce(nullif(m.name, ''), title), coalesce(m.note, '') FROM version LEFT JOIN version_mark m ON m.version = id WHERE id = ?`, id).Scan(&now.Title, &now.Note)
		if err != nil {
			return missing(err)
		}
		if rev != AnyRev && rev != now.MarkRev() {
			return ErrChanged
		}
		err = changed(tx.ExecContext(
			ctx, `INSERT INTO version_mark (version, name, note) SELECT id, ?, ? FROM version WHERE id = ? AND result <> '{}'
			ON CONFLICT (version) DO UPDATE SET name = excluded.name, note = excluded.note`, name, note, id,
		))
		if err != nil {
			return err
		}
		return s.findable(ctx, tx, id, name)
	})
}

// DropVersion puts an adapted version away, or brings it back.
func (s *Store) DropVersion(ctx context.Context, id int64, gone bool) error {
	return changed(s.db.ExecContext(
		ctx, `INSERT INTO version_mark (version, deleted_at) SELECT id, ? FROM version WHERE id = ? AND result <> '{}'
		ON CONFLICT (version) DO UPDATE SET deleted_at = excluded.deleted_at`, sql.NullString{String: now(), Valid: gone}, id,
	))
}

const recipeColumns = "r.id, r.rev, r.title, r.head, r.updated_at, r.deleted_at IS NOT NULL, v.doc, v.schema"

func scanRecipe(row interface{ Scan(...any) error }) (*Recipe, error) {
	var r Recipe
	var at, doc string
	var schema int
	if err := row.Scan(&r.ID, &r.Rev, &r.Title, &r.Head, &at, &r.Deleted, &doc, &schema); err != nil {
		return nil, missing(err)
	}
	r.UpdatedAt = timeOf(at)
	var err error
	r.Doc, err = decodeDoc(doc, schema)
	return &r, err
}

// errUnread is a stored recipe that cannot be read.
var errUnread = errors.New("what stands there cannot be read")

// decodeDoc reads a stored recipe; one with a newer schema is refused.
func decodeDoc(doc string, schema int) (*recipe.Recipe, error) {
	if schema > recipe.Schema {
		return nil, fmt.Errorf("%w: it was %w", errUnread, ErrNewer)
	}
	r := &recipe.Recipe{}
	if err := json.Unmarshal([]byte(doc), r); err != nil {
		return nil, fmt.Errorf("%w: %w", errUnread, err)
	}
	settled(r)
	return r, nil
}

// settled gives a document of an earlier schema what it lacks.
func settled(r *recipe.Recipe) {
	if r != nil && r.Schema < rolesSchema {
		reader.Settle(r)
		r.Schema = recipe.Schema
	}
}

// rolesSchema is the first schema whose documents hold their parts and what each line is for.
const rolesSchema = 2

// Recipe returns a recipe on the shelf, ErrNotFound when it is not there or was
// deleted.
func (s *Store) Recipe(ctx context.Context, id int64) (*Recipe, error) {
	r, err := scanRecipe(
		s.db.QueryRowContext(
			ctx,
			"SELECT "+recipeColumns+" FROM recipe r JOIN version v ON v.id = r.head WHERE r.id = ? AND r.deleted_at IS NULL",
			id,
		),
	)
	if errors.Is(err, errUnread) {
		torn := &Broken{Kind: "recipe", ID: r.ID, Name: r.Title, Err: err}
		if err := s.db.QueryRowContext(ctx, "SELECT coalesce(nullif(source_text, ''), doc) FROM version WHERE id = ?", r.Head).Scan(&torn.Doc); err != nil {
			return nil, err
		}
		return nil, torn
	}
	return r, err
}

// Recipes lists the shelf, newest first; with a query those whose title or
// ingredients hold all its words, the last of which may be unfinished.
// One that cannot be read is left out; Shelf says which.
func (s *Store) Recipes(ctx context.Context, query string) ([]*Recipe, error) {
	out, _, err := s.Shelf(ctx, query)
	return out, err
}

// Shelf is Recipes with those beside it that cannot be read, each with the text it was read from, so that one of them holds up
// nothing else.
func (s *Store) Shelf(ctx context.Context, query string) (out []*Recipe, lost []Unreadable, err error) {
	where, args := looked(query, "")
	return s.shelf(ctx, where, args)
}

// ShelfOf is Shelf of some recipes alone.
func (s *Store) ShelfOf(ctx context.Context, ids []int64) (out []*Recipe, lost []Unreadable, err error) {
	return s.shelf(ctx, " AND r.id IN (SELECT value FROM json_each(?))", []any{listed(ids)})
}

// Head is what a shelf of many shows of each recipe without reading it.
type Head struct {
	ID    int64
	Title string
	Head  int64 // the version that stands
}

// shelfOrder is the way along the shelf. SQLite takes a search that finds nearly everything for one that finds little, and sorts all
// of it (15 ms of 10 000 recipes, 4 by the order that is there).
const shelfOrder = "INDEXED BY recipe_shelf WHERE r.deleted_at IS NULL"

// Heads lists the recipes of Shelf, in its order, from one place on and at most so many, all that are left where most is below 0;
// a kind keeps to that kind.
func (s *Store) Heads(ctx context.Context, query, kind string, from, most int) (out []Head, err error) {
	where, args := looked(query, kind)
	err = s.each(ctx, "SELECT r.id, r.title, coalesce(r.head, 0) FROM recipe r "+shelfOrder+where+" ORDER BY r.updated_at DESC, r.id DESC LIMIT ? OFFSET ?", func(scan func(...any) error) error {
		var h Head
		err := scan(&h.ID, &h.Title, &h.Head)
		out = append(out, h)
		return err
	}, append(args, most, from)...)
	return out, err
}

// Holding is a recipe with an ingredient, and how much of it its first line of that has, g.
type Holding struct {
	ID    int64
	Title string
	Grams float64
}

// Holds lists the recipes with an ingredient in their lines as they are kept, in the order of the shelf, at most so many.
func (s *Store) Holds(ctx context.Context, ingredient string, most int) (out []Holding, err error) {
	err = s.each(ctx, `SELECT r.id, r.title, (SELECT json_extract(l.value, '$.grams') FROM json_each(v.doc, '$.lines') l WHERE json_extract(l.value, '$.ingredient') = ?1 LIMIT 1) g
		FROM recipe r JOIN version v ON v.id = r.head WHERE r.deleted_at IS NULL AND g IS NOT NULL ORDER BY r.updated_at DESC, r.id DESC LIMIT ?2`, func(scan func(...any) error) error {
		var h Holding
		err := scan(&h.ID, &h.Title, &h.Grams)
		out = append(out, h)
		return err
	}, ingredient, most)
	return out, err
}

// CountHeads is how many there are in all.
func (s *Store) CountHeads(ctx context.Context, query, kind string) (n int, err error) {
	from, args := "recipe r", []any(nil)
	if m := ftsQuery(query); m != "" { // from what is found to the shelf: half the time of asking of each on the shelf whether it is found
		from, args = "("+found+") f CROSS JOIN recipe r ON r.id = f.id", []any{m, m}
	}
	where, of := looked("", kind)
	err = s.db.QueryRowContext(ctx, "SELECT count(*) FROM "+from+" WHERE r.deleted_at IS NULL"+where, append(args, of...)...).Scan(&n)
	return n, err
}

// KindsOf tells which of some kinds there are on the shelf.
func (s *Store) KindsOf(ctx context.Context, kinds []string) (out map[string]bool, err error) {
	of, _ := json.Marshal(kinds) // words are always written
	out = map[string]bool{}
	err = s.each(ctx, "SELECT k.value FROM json_each(?) k WHERE EXISTS (SELECT 1 FROM recipe r WHERE r.deleted_at IS NULL AND r.kind = k.value)", func(scan func(...any) error) error {
		var kind string
		err := scan(&kind)
		out[kind] = true
		return err
	}, string(of))
	return out, err
}

// found are the recipes a search finds, by their own words or by those of a version that was kept.
const found = `SELECT rowid AS id FROM recipe_fts WHERE recipe_fts MATCH ? UNION SELECT x.recipe FROM version x
	LEFT JOIN version_mark m ON m.version = x.id WHERE m.deleted_at IS NULL AND x.id IN (SELECT rowid FROM version_fts WHERE version_fts MATCH ?)`

// looked is the condition of a search, "" for none.
func looked(query, kind string) (where string, args []any) {
	if kind != "" {
		where, args = " AND r.kind = ?", []any{kind}
	}
	if m := ftsQuery(query); m != "" {
		where, args = where+" AND r.id IN ("+found+")", append(args, m, m)
	}
	return where, args
}

// listed is a list of ids as SQLite reads it.
func listed(ids []int64) string {
	b, _ := json.Marshal(append([]int64{}, ids...)) // numbers are always written
	return string(b)
}

func (s *Store) shelf(ctx context.Context, where string, args []any) (out []*Recipe, lost []Unreadable, err error) {
	rows, err := s.db.QueryContext(
		ctx, "SELECT "+recipeColumns+" FROM recipe r JOIN version v ON v.id = r.head WHERE r.deleted_at IS NULL"+where+" ORDER BY r.updated_at DESC, r.id DESC", args...,
	)
	if err != nil {
		return nil, nil, err
	}
	defer rows.Close()
	for rows.Next() {
		switch r, err := scanRecipe(rows); {
		case err != nil && r == nil:
			return nil, nil, err
		case err != nil:
			lost = append(lost, Unreadable{ID: fmt.Sprint(r.ID), Why: strings.TrimPrefix(err.Error(), errUnread.Error()+": "), Doc: r.Title})
		default:
			out = append(out, r)
		}
	}
	if err := rows.Err(); err != nil {
		return nil, nil, err
	}
	for n := range lost {
		l := &lost[n]
		if err := s.db.QueryRowContext(ctx, "SELECT v.source_text FROM recipe r JOIN version v ON v.id = r.head WHERE r.id = ?", l.ID).Scan(&l.Doc); err != nil {
			return nil, nil, missing(err)
		}
	}
	return out, lost, nil
}

// ftsQuery quotes every word a person typed, so that none is taken for syntax.
func ftsQuery(s string) string {
	words := strings.Fields(strings.ReplaceAll(s, "\x00", " "))
	for n, w := range words {
		words[n] = `"` + strings.ReplaceAll(w, `"`, `""`) + `"`
	}
	if len(words) == 0 {
		return ""
	}
	return strings.Join(words, " ") + "*"
}

// Delete takes a recipe off the shelf; Restore puts it back. Pressed twice each does so once; ErrNotFound where it never was.
func (s *Store) Delete(ctx context.Context, id int64) error {
	return s.mark(ctx, id, "UPDATE recipe SET deleted_at = coalesce(deleted_at, ?), rev = rev + (deleted_at IS NULL) WHERE id = ?", now())
}

// Restore puts a deleted recipe back on the shelf.
func (s *Store) Restore(ctx context.Context, id int64) error {
	return s.mark(
		ctx, id, "UPDATE recipe SET rev = rev + (deleted_at IS NOT NULL), deleted_at = ? WHERE id = ?", nil,
	)
}

func (s *Store) mark(ctx context.Context, id int64, sqlText string, at any) error {
	return changed(s.db.ExecContext(ctx, sqlText, at, id))
}

const versions = `SELECT id, recipe, coalesce(parent, 0), n, coalesce(nullif(m.name, ''), title), coalesce(m.note, ''), m.deleted_at IS NOT NULL, schema, doc, source_text, reading, request,
	result, engine, created_at FROM version LEFT JOIN version_mark m ON m.version = id`

func scanVersion(row interface{ Scan(...any) error }) (*Version, error) {
	var v Version
	var doc, reading, result, at string
	var schema int
	if err := row.Scan(&v.ID, &v.Recipe, &v.Parent, &v.N, &v.Title, &v.Note, &v.Gone, &schema, &doc, &v.SourceText, &reading, &v.Request, &result, &v.Engine, &at); err != nil {
		return nil, missing(err)
	}
	v.CreatedAt = timeOf(at)
	var err error
	torn := func(what string, err error) error {
		if !errors.Is(err, errUnread) {
			err = fmt.Errorf("%w: %w", errUnread, err)
		}
		return &Broken{Kind: "version", ID: v.ID, Name: v.Title, Doc: what, Err: err}
	}
	if v.Doc, err = decodeDoc(doc, schema); err != nil {
		return nil, torn(doc, err)
	}
	if err := json.Unmarshal([]byte(reading), &v.Typed); err != nil {
		return nil, torn(reading, err)
	}
	if result != "{}" {
		v.Result = &adapt.Result{}
		if err := json.Unmarshal([]byte(result), v.Result); err != nil {
			return nil, torn(result, err)
		}
		settled(v.Result.Recipe)
	}
	return &v, nil
}

// Version returns one kept version.
func (s *Store) Version(ctx context.Context, id int64) (*Version, error) {
	return scanVersion(s.db.QueryRowContext(ctx, versions+" WHERE id = ?", id))
}

// VersionName is a kept version without what it is.
type VersionName struct {
	ID        int64
	Title     string
	CreatedAt time.Time
}

// VersionNames are the adapted versions of some recipes, by recipe, newest first.
func (s *Store) VersionNames(ctx context.Context, ids ...int64) (map[int64][]VersionName, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT v.recipe, v.id, coalesce(nullif(m.name, ''), v.title), v.created_at FROM version v LEFT JOIN version_mark m ON m.version = v.id
		WHERE v.recipe IN (SELECT value FROM json_each(?)) AND v.result <> '{}' AND m.deleted_at IS NULL ORDER BY v.n DESC`, listed(ids))
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := map[int64][]VersionName{}
	for rows.Next() {
		var of int64
		var at string
		var v VersionName
		if err := rows.Scan(&of, &v.ID, &v.Title, &at); err != nil {
			return nil, err
		}
		v.CreatedAt = timeOf(at)
		out[of] = append(out[of], v)
	}
	return out, rows.Err()
}

// Versions lists the adapted versions of a recipe, newest first.
func (s *Store) Versions(ctx context.Context, recipeID int64) ([]*Version, error) {
	rows, err := s.db.QueryContext(
		ctx, versions+" WHERE recipe = ? AND result <> '{}' AND m.deleted_at IS NULL ORDER BY n DESC", recipeID,
	)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []*Version
	for rows.Next() {
		v, err := scanVersion(rows)
		if errors.Is(err, errUnread) {
			continue // its own page says so
		}
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, rows.Err()
}
