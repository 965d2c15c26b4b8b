package store

import (
	"context"
	"database/sql"
	"encoding/json"

	"kollaris/core/larder"
)

// Own lists what the household says of ingredients, sorted by id.
func (s *Store) Own(ctx context.Context) ([]larder.Own, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT doc FROM own_ingredient ORDER BY id")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []larder.Own
	for rows.Next() {
		var doc string
		if err := rows.Scan(&doc); err != nil {
			return nil, err
		}
		var o larder.Own
		if err := json.Unmarshal([]byte(doc), &o); err != nil {
			return nil, err
		}
		out = append(out, o)
	}
	return out, rows.Err()
}

// OwnStamp changes whenever a record does, so that a larder laid over the
// catalogue can be kept until then.
func (s *Store) OwnStamp(ctx context.Context) (string, error) {
	var stamp string
	err := s.db.QueryRowContext(ctx, "SELECT count(*) || ' ' || coalesce(sum(rev), 0) || ' ' || coalesce(max(updated_at), '') FROM own_ingredient").Scan(&stamp)
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
