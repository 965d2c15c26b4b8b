package store

import (
	"context"
	"database/sql"
	"encoding/json"

	"kollaris/core/larder"
)

// Unreadable is a stored record that cannot be read, with what stands there.
type Unreadable struct{ ID, Why, Doc string }

// Own lists what the household says of ingredients, sorted by id, and apart from them the
// records that cannot be read.
func (s *Store) Own(ctx context.Context) (own []larder.Own, lost []Unreadable, err error) {
	err = s.each(ctx, "SELECT id, doc FROM own_ingredient WHERE deleted_at IS NULL ORDER BY id", func(scan func(...any) error) error {
		var id, doc string
		if err := scan(&id, &doc); err != nil {
			return err
		}
		var o larder.Own
		switch err := json.Unmarshal([]byte(doc), &o); {
		case err != nil:
			lost = append(lost, Unreadable{id, "what stands there is not written as a record is", doc})
		case string(o.ID) != id:
			lost = append(lost, Unreadable{id, "the record speaks of another ingredient", doc})
		default:
			own = append(own, o)
		}
		return nil
	})
	return own, lost, err
}

// OwnStamp changes whenever a record does, so that a larder laid over the
// catalogue can be kept until then.
func (s *Store) OwnStamp(ctx context.Context) (string, error) {
	var stamp string
	err := s.db.QueryRowContext(
		ctx,
		"SELECT count(*) || ' ' || coalesce(sum(rev), 0) || ' ' || coalesce(max(updated_at), '') FROM own_ingredient",
	).Scan(&stamp)
	return stamp, err
}

// OwnRev is which state of a record stands there, 0 where there is none.
func (s *Store) OwnRev(ctx context.Context, id larder.ID) (rev int64, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT coalesce(max(rev), 0) FROM own_ingredient WHERE id = ? AND deleted_at IS NULL", string(id)).Scan(&rev)
	return rev, err
}

// SetOwn writes records, all or none.
func (s *Store) SetOwn(ctx context.Context, own ...larder.Own) error {
	return s.setOwn(ctx, AnyRev, own)
}

// ChangeOwn writes a record over the state of it that was seen; ErrChanged where it is another by now.
func (s *Store) ChangeOwn(ctx context.Context, rev int64, o larder.Own) error {
	return s.setOwn(ctx, rev, []larder.Own{o})
}

func (s *Store) setOwn(ctx context.Context, rev int64, own []larder.Own) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		if rev != AnyRev {
			var have int64
			if err := tx.QueryRowContext(ctx, "SELECT coalesce(max(rev), 0) FROM own_ingredient WHERE id = ? AND deleted_at IS NULL", string(own[0].ID)).Scan(&have); err != nil {
				return err
			}
			if have != rev {
				return ErrChanged
			}
		}
		for _, o := range own {
			if err := putOwn(ctx, tx, o); err != nil {
				return err
			}
		}
		return nil
	})
}

func putOwn(ctx context.Context, tx *sql.Tx, o larder.Own) error {
	doc, err := json.Marshal(o)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO own_ingredient (id, doc, updated_at) VALUES (?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET doc = excluded.doc, rev = rev + 1, updated_at = excluded.updated_at, deleted_at = NULL`, string(o.ID), string(doc), now())
	return err
}

// DropOwn forgets what the household said of an ingredient, or brings it back.
func (s *Store) DropOwn(ctx context.Context, id larder.ID, gone bool) error {
	return changed(s.db.ExecContext(
		ctx, "UPDATE own_ingredient SET deleted_at = ?, rev = rev + 1, updated_at = ? WHERE id = ?", sql.NullString{String: now(), Valid: gone}, now(), string(id),
	))
}
