package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"kollaris/core/learn"
)

// Logged is a bake that was baked, in a line: for lists. All else is in its events.
type Logged struct {
	Bake    int64
	Strip   int
	Recipe  int64
	Title   string
	At      time.Time
	Overall int    // as core/bake.Judged has it
	Words   string // what was seen of it, "" for nothing
	Who     string // baked it, "" for not said

	Tried  string          // the cause whose change the next bake tries, "" for none
	Helped map[string]bool // of causes whose change this bake tried, whether it helped
	Seen   []learn.Seen    // what it teaches; written, and read by Lessons
}

// SetLogged keeps the lines of a bake in place of those that it had.
func (s *Store) SetLogged(ctx context.Context, bake int64, lines []Logged) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, "DELETE FROM bake_log WHERE bake = ?", bake); err != nil {
			return err
		}
		for _, l := range lines {
			helped, err := json.Marshal(l.Helped)
			if err != nil {
				return err
			}
			seen, err := json.Marshal(append([]learn.Seen{}, l.Seen...))
			if err != nil {
				return err
			}
			if _, err := tx.ExecContext(
				ctx, "INSERT INTO bake_log (bake, strip, recipe, title, at, overall, words, tried, helped, seen, who) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
				bake, l.Strip, l.Recipe, l.Title, l.At.UTC().Format(time.RFC3339Nano), l.Overall, l.Words, l.Tried, string(helped), string(seen), l.Who,
			); err != nil {
				return err
			}
		}
		return nil
	})
}

// Unlogged are the bakes that are over and have no line in the log: the program was killed between the two.
func (s *Store) Unlogged(ctx context.Context) (ids []int64, err error) {
	err = s.each(ctx, "SELECT id FROM bake b WHERE over_at IS NOT NULL AND deleted_at IS NULL AND NOT EXISTS (SELECT 1 FROM bake_log l WHERE l.bake = b.id) ORDER BY id", func(scan func(...any) error) error {
		var id int64
		err := scan(&id)
		ids = append(ids, id)
		return err
	})
	return ids, err
}

// Log lists what was baked of a recipe, the last first; of all recipes for 0.
func (s *Store) Log(ctx context.Context, recipe int64) ([]Logged, error) {
	return s.logged(ctx, " AND (?1 = 0 OR l.recipe = ?1) ORDER BY l.at DESC, l.bake DESC, l.strip", recipe)
}

// LastOf is the last line of the log of each of some recipes.
func (s *Store) LastOf(ctx context.Context, ids []int64) ([]Logged, error) {
	return s.logged(ctx, ` AND (l.bake, l.strip) IN (SELECT k.bake, k.strip FROM json_each(?1) i, bake_log k WHERE k.rowid = (
		SELECT x.rowid FROM bake_log x JOIN bake y ON y.id = x.bake WHERE y.deleted_at IS NULL AND x.recipe = i.value ORDER BY x.at DESC, x.bake DESC, x.strip LIMIT 1))`, listed(ids))
}

func (s *Store) logged(ctx context.Context, where string, arg any) ([]Logged, error) {
	var out []Logged
	err := s.each(
		ctx, "SELECT l.bake, l.strip, l.recipe, l.title, l.at, l.overall, l.words, l.tried, l.helped, l.who FROM bake_log l JOIN bake b ON b.id = l.bake WHERE b.deleted_at IS NULL"+where,
		func(scan func(...any) error) error {
			var l Logged
			var at, helped string
			if err := scan(&l.Bake, &l.Strip, &l.Recipe, &l.Title, &at, &l.Overall, &l.Words, &l.Tried, &helped, &l.Who); err != nil {
				return err
			}
			if json.Unmarshal([]byte(helped), &l.Helped) != nil {
				l.Helped = nil // as Lessons
			}
			l.At = timeOf(at)
			out = append(out, l)
			return nil
		}, arg,
	)
	return out, err
}
