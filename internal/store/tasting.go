package store

import (
	"context"
	"database/sql"
	"time"
)

// Tasting is a triangle test that was held: so many picked the odd one of three.
type Tasting struct {
	ID        int64
	At        time.Time
	Name      string // what was tasted against what; those of one name are pooled
	Right, Of int
}

// AddTasting keeps one.
func (s *Store) AddTasting(ctx context.Context, t Tasting) error {
	_, err := s.db.ExecContext(
		ctx, `INSERT INTO tasting (at, name, "right", tasters) VALUES (?, ?, ?, ?)`, t.At.UTC().Format(time.RFC3339Nano), t.Name, t.Right, t.Of,
	)
	return err
}

// Tastings lists them, the first first.
func (s *Store) Tastings(ctx context.Context) ([]Tasting, error) {
	var out []Tasting
	err := s.each(ctx, `SELECT id, at, name, "right", tasters FROM tasting WHERE deleted_at IS NULL ORDER BY at, id`, func(scan func(...any) error) error {
		var t Tasting
		var at string
		if err := scan(&t.ID, &at, &t.Name, &t.Right, &t.Of); err != nil {
			return err
		}
		t.At = timeOf(at)
		out = append(out, t)
		return nil
	})
	return out, err
}

// DropTasting takes one away, and back.
func (s *Store) DropTasting(ctx context.Context, id int64, gone bool) error {
	return changed(s.db.ExecContext(ctx, "UPDATE tasting SET deleted_at = ? WHERE id = ?", sql.NullString{String: now(), Valid: gone}, id))
}
