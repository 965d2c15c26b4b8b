package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"time"
)

// Brought is what files that were brought in together held.
type Brought struct {
	ID    int64
	At    time.Time
	Found int          // recipes and files that cannot be read: as many as there will be, once all of it is read
	Lost  []LostFile   // files that could not be read
	Of    []BroughtOne // the recipes that were read so far, without those that were put away
	Away  int          // how many these are
}

// LostFile is one that could not be read, and why.
type LostFile struct {
	File  string `json:"file"`
	Fault string `json:"fault"`
}

// BroughtOne is a recipe that a file held: a draft, and the recipe that became of it.
type BroughtOne struct {
	Draft int64
	Kept  int64  // 0 while it is a draft
	Seen  string // what was found when it was brought, JSON
}

// BeginBrought begins to bring in files.
func (s *Store) BeginBrought(ctx context.Context) (int64, error) {
	res, err := s.db.ExecContext(ctx, "INSERT INTO brought (at) VALUES (?)", now())
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// ExpectBrought says that so many more were found, and will be read.
func (s *Store) ExpectBrought(ctx context.Context, id int64, more int) error {
	return changed(s.db.ExecContext(ctx, "UPDATE brought SET found = found + ? WHERE id = ?", more, id))
}

// AddBrought begins a draft of a text that was brought, with what was found in it.
func (s *Store) AddBrought(ctx context.Context, id int64, text, seen string) (int64, error) {
	res, err := s.db.ExecContext(ctx, "INSERT INTO draft (text, doc, updated_at, brought, seen) VALUES (?, '{}', ?, ?, ?)", text, now(), id, seen)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// LoseBrought notes a file that cannot be read.
func (s *Store) LoseBrought(ctx context.Context, id int64, lost LostFile) error {
	doc, _ := json.Marshal(lost) // words are always written
	return changed(s.db.ExecContext(ctx, "UPDATE brought SET lost = json_insert(lost, '$[#]', json(?)) WHERE id = ?", string(doc), id))
}

// Brought returns what was brought in together, ErrNotFound where there is nothing of it.
func (s *Store) Brought(ctx context.Context, id int64) (*Brought, error) {
	b := Brought{ID: id}
	var at, lost string
	if err := s.db.QueryRowContext(ctx, "SELECT at, found, lost FROM brought WHERE id = ?", id).Scan(&at, &b.Found, &lost); err != nil {
		return nil, missing(err)
	}
	b.At = timeOf(at)
	if err := json.Unmarshal([]byte(lost), &b.Lost); err != nil {
		return nil, fmt.Errorf("files of %d that could not be read: %w", id, err)
	}
	err := s.each(ctx, `SELECT d.id, coalesce(r.id, 0), d.seen, coalesce(r.deleted_at, d.deleted_at) IS NOT NULL FROM draft d LEFT JOIN recipe r ON r.id = d.kept
		WHERE d.brought = ? ORDER BY d.id`, func(scan func(...any) error) error {
		var one BroughtOne
		var away bool
		err := scan(&one.Draft, &one.Kept, &one.Seen, &away)
		if away {
			b.Away++
		} else {
			b.Of = append(b.Of, one)
		}
		return err
	}, id)
	return &b, err
}

// UnfinishedBrought lists what was brought in and neither kept nor put away, the last first, with how many drafts are left of each.
func (s *Store) UnfinishedBrought(ctx context.Context) (out []Brought, err error) {
	err = s.each(ctx, `SELECT b.id, b.at, count(*) FROM brought b JOIN draft d ON d.brought = b.id
		WHERE d.kept IS NULL AND d.deleted_at IS NULL GROUP BY b.id ORDER BY b.id DESC`, func(scan func(...any) error) error {
		var b Brought
		var at string
		err := scan(&b.ID, &at, &b.Found)
		b.At = timeOf(at)
		out = append(out, b)
		return err
	})
	return out, err
}

// UndoBrought puts away all that was brought in together: its drafts, and the recipes that became of them, but those that were corrected
// or adapted since, which it counts.
func (s *Store) UndoBrought(ctx context.Context, id int64) (left int, err error) {
	err = s.write(ctx, func(tx *sql.Tx) error {
		const kept = "id IN (SELECT kept FROM draft WHERE brought = ?2) AND deleted_at IS NULL"
		const as = " AND (SELECT count(*) FROM version v WHERE v.recipe = recipe.id) = 1"
		for _, q := range []string{
			"UPDATE recipe SET deleted_at = ?1, rev = rev + 1 WHERE " + kept + as,
			"UPDATE draft SET deleted_at = ?1 WHERE brought = ?2 AND kept IS NULL AND deleted_at IS NULL",
		} {
			if _, err := tx.ExecContext(ctx, q, now(), id); err != nil {
				return err
			}
		}
		return tx.QueryRowContext(ctx, "SELECT count(*) FROM recipe WHERE ?1 <> '' AND "+kept, now(), id).Scan(&left)
	})
	return left, err
}

// RedoBrought brings back what was put away of it.
func (s *Store) RedoBrought(ctx context.Context, id int64) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		for _, q := range []string{
			"UPDATE recipe SET deleted_at = NULL, rev = rev + 1 WHERE deleted_at IS NOT NULL AND id IN (SELECT kept FROM draft WHERE brought = ?)",
			"UPDATE draft SET deleted_at = NULL WHERE deleted_at IS NOT NULL AND brought = ?",
		} {
			if _, err := tx.ExecContext(ctx, q, id); err != nil {
				return err
			}
		}
		return nil
	})
}
