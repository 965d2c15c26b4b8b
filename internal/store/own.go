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
	err = s.each(ctx, "SELECT id, doc FROM own_ingredient ORDER BY id", func(scan func(...any) error) error {
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

// SetOwn writes records, all or none.
func (s *Store) SetOwn(ctx context.Context, own ...larder.Own) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		for _, o := range own {
			doc, err := json.Marshal(o)
			if err != nil {
				return err
			}
			_, err = tx.ExecContext(ctx, `INSERT INTO own_ingredient (id, doc, updated_at) VALUES (?, ?, ?)
				ON CONFLICT (id) DO UPDATE SET doc = excluded.doc, rev = rev + 1, updated_at = excluded.updated_at`, string(o.ID), string(doc), now())
			if err != nil {
				return err
			}
		}
		return nil
	})
}

// DropOwn forgets what the household said of an ingredient.
func (s *Store) DropOwn(ctx context.Context, id larder.ID) error {
	_, err := s.db.ExecContext(ctx, "DELETE FROM own_ingredient WHERE id = ?", string(id))
	return err
}
