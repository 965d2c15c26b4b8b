package store

import (
	"context"
	"database/sql"
	"errors"

	"kollaris/core/larder"
)

// Remembered is what the household settled while correcting lines.
type Remembered struct {
	Phrases map[string]larder.ID // larder.Normal(phrase) → what it means
	Amounts map[string]float64   // reader.Measure → g of one
}

// Remembered returns all that was settled.
func (s *Store) Remembered(ctx context.Context) (Remembered, error) {
	out := Remembered{Phrases: map[string]larder.ID{}, Amounts: map[string]float64{}}
	err := s.each(ctx, "SELECT phrase, ingredient FROM phrase WHERE deleted_at IS NULL", func(scan func(...any) error) error {
		var phrase, id string
		err := scan(&phrase, &id)
		out.Phrases[phrase] = larder.ID(id)
		return err
	})
	if err != nil {
		return out, err
	}
	return out, s.each(ctx, "SELECT measure, grams FROM remembered_amount WHERE deleted_at IS NULL", func(scan func(...any) error) error {
		var measure string
		var grams float64
		err := scan(&measure, &grams)
		out.Amounts[measure] = grams
		return err
	})
}

func (s *Store) each(ctx context.Context, query string, row func(scan func(...any) error) error, args ...any) error {
	return each(ctx, s.db, query, row, args...)
}

// each calls row for every row of a query.
func each(ctx context.Context, db *sql.DB, query string, row func(scan func(...any) error) error, args ...any) error {
	rows, err := db.QueryContext(ctx, query, args...)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := row(rows.Scan); err != nil {
			return err
		}
	}
	return rows.Err()
}

// RememberPhrase keeps what a phrase means for next time.
func (s *Store) RememberPhrase(ctx context.Context, phrase string, id larder.ID) error {
	_, err := s.db.ExecContext(
		ctx,
		"INSERT INTO phrase (phrase, ingredient) VALUES (?, ?) ON CONFLICT (phrase) DO UPDATE SET ingredient = excluded.ingredient, deleted_at = NULL",
		larder.Normal(phrase), string(id),
	)
	return err
}

// RememberAmount keeps what one of a measure weighs, in g.
func (s *Store) RememberAmount(ctx context.Context, measure string, grams float64) error {
	_, err := s.db.ExecContext(
		ctx,
		"INSERT INTO remembered_amount (measure, grams) VALUES (?, ?) ON CONFLICT (measure) DO UPDATE SET grams = excluded.grams, deleted_at = NULL",
		measure, grams,
	)
	return err
}

// Known is what is settled now of a phrase and of a measure.
func (r Remembered) Known(phrase, measure string) Known {
	phrase = larder.Normal(phrase)
	return Known{phrase, r.Phrases[phrase], measure, r.Amounts[measure]}
}

// Restored brings back what was settled before a step.
func (s *Store) Restored(ctx context.Context, known []Known) error {
	for _, k := range known {
		for _, x := range []struct {
			key    string
			settle func() error
			was    bool
		}{
			{k.Phrase, func() error { return s.RememberPhrase(ctx, k.Phrase, k.Ingredient) }, k.Ingredient != ""},
			{k.Measure, func() error { return s.RememberAmount(ctx, k.Measure, k.Grams) }, k.Grams > 0},
		} {
			err := error(nil)
			switch {
			case x.key == "":
			case x.was:
				err = x.settle()
			default:
				err = s.unsettle(ctx, x.key)
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}

// Forget puts away what was settled about a phrase or a measure, or brings it back; ErrNotFound where nothing was.
func (s *Store) Forget(ctx context.Context, key string, gone bool) error {
	found := false
	for _, q := range []string{
		"UPDATE phrase SET deleted_at = ?1 WHERE phrase = ?2 AND (deleted_at IS NULL) = (?1 IS NOT NULL)",
		"UPDATE remembered_amount SET deleted_at = ?1 WHERE measure = ?2 AND (deleted_at IS NULL) = (?1 IS NOT NULL)",
	} {
		err := changed(s.db.ExecContext(ctx, q, sql.NullString{String: now(), Valid: gone}, key))
		if err != nil && !errors.Is(err, ErrNotFound) {
			return err
		}
		found = found || err == nil
	}
	if !found {
		return ErrNotFound
	}
	return nil
}

// unsettle drops what a step settled that is taken back.
func (s *Store) unsettle(ctx context.Context, key string) error {
	for _, q := range []string{"DELETE FROM phrase WHERE phrase = ?", "DELETE FROM remembered_amount WHERE measure = ?"} {
		if _, err := s.db.ExecContext(ctx, q, key); err != nil {
			return err
		}
	}
	return nil
}
