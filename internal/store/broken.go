package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
)

// Broken is a row whose document cannot be read. Where it may be what somebody must not eat nothing is judged or shown without it;
// an oven, tin or plan is left out, and named on its page. Its text is there to be copied, and it can be put away.
type Broken struct {
	Kind string // person, oven, tin, plan, bake, draft, recipe, version or household
	ID   int64
	Name string
	Doc  string
	Err  error
}

func (b *Broken) Error() string { return fmt.Sprintf("%s %d cannot be read: %v", b.Kind, b.ID, b.Err) }

func (b *Broken) Unwrap() error { return b.Err }

// decode reads a document of a row.
func decode(kind string, id int64, name, doc string, to any) error {
	if err := json.Unmarshal([]byte(doc), to); err != nil {
		return &Broken{kind, id, name, doc, err}
	}
	return nil
}

// BrokenOf is the row that could not be read, of what a call returned; nil where it is something else.
func BrokenOf(err error) *Broken {
	var torn *Broken
	errors.As(err, &torn)
	return torn
}

// passed is the error of a row that others stand beside, nil for one that cannot be read: Torn has it.
func passed(err error) error {
	if BrokenOf(err) != nil {
		return nil
	}
	return err
}

// Torn lists the ovens, tins or plans that cannot be read.
func (s *Store) Torn(ctx context.Context, kind string) (out []*Broken, err error) {
	rows := "SELECT id, 0, name, doc, '' FROM equipment WHERE kind = ? AND deleted_at IS NULL ORDER BY id"
	read := map[string]func(scan func(...any) error) error{
		"oven": func(scan func(...any) error) error { return scanEquipment(scan, kind, &Oven{}) },
		"tin":  func(scan func(...any) error) error { return scanEquipment(scan, kind, &OwnTin{}) },
		"plan": func(scan func(...any) error) error { _, err := scanPlan(scan); return err },
	}[kind]
	if kind == "plan" {
		rows = "SELECT id, rev, name, doc, updated_at FROM plan WHERE ? <> '' AND deleted_at IS NULL ORDER BY id"
	}
	err = s.each(ctx, rows, func(scan func(...any) error) error {
		err := read(scan)
		if torn := BrokenOf(err); torn != nil {
			out = append(out, torn)
			return nil
		}
		return err
	}, kind)
	return out, err
}

func scanEquipment(scan func(...any) error, kind string, to any) error {
	var id, rev int64
	var name, doc, at string
	if err := scan(&id, &rev, &name, &doc, &at); err != nil {
		return err
	}
	return decode(kind, id, name, doc, to)
}

// putBroken takes a row of a kind away without reading it. The settings begin anew.
var putBroken = map[string]string{
	"person": "UPDATE person SET deleted_at = ?1 WHERE id = ?2 AND deleted_at IS NULL",
	"oven":   "UPDATE equipment SET deleted_at = ?1 WHERE id = ?2 AND kind = 'oven' AND deleted_at IS NULL",
	"tin":    "UPDATE equipment SET deleted_at = ?1 WHERE id = ?2 AND kind = 'tin' AND deleted_at IS NULL",
	"plan":   "UPDATE plan SET deleted_at = ?1 WHERE id = ?2 AND deleted_at IS NULL",
	"bake":   "UPDATE bake SET deleted_at = ?1 WHERE id = ?2 AND deleted_at IS NULL",
	"draft":  "UPDATE draft SET deleted_at = ?1 WHERE id = ?2 AND deleted_at IS NULL",

	"recipe":  "UPDATE recipe SET deleted_at = ?1, rev = rev + 1 WHERE id = ?2 AND deleted_at IS NULL",
	"version": "INSERT INTO version_mark (version, deleted_at) SELECT id, ?1 FROM version WHERE id = ?2 AND result <> '{}' ON CONFLICT (version) DO UPDATE SET deleted_at = ?1",

	"household": "DELETE FROM household WHERE ?1 <> '' AND id = ?2",
}

// PutBroken puts such a row away; ErrNotFound for a kind or row that is not there.
func (s *Store) PutBroken(ctx context.Context, kind string, id int64) error {
	q, ok := putBroken[kind]
	if !ok {
		return ErrNotFound
	}
	return changed(s.db.ExecContext(ctx, q, now(), id))
}
