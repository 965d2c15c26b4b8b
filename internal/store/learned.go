package store

import (
	"context"
	"encoding/json"
	"time"

	"kollaris/core/learn"
)

// Lesson is what was seen of a figure, and when.
type Lesson struct {
	learn.Seen
	At    time.Time
	Bake  int64 // 0 for none
	Title string
}

// Forgot is a figure that was forgotten: what was seen before counts no more.
type Forgot struct {
	Kind learn.Kind
	Key  string
}

// Lessons are all that was seen, the oldest first.
func (s *Store) Lessons(ctx context.Context) ([]Lesson, error) {
	var out []Lesson
	err := s.each(
		ctx, "SELECT l.at, l.bake, l.title, l.seen FROM bake_log l JOIN bake b ON b.id = l.bake WHERE b.deleted_at IS NULL AND l.seen <> '[]' "+
			"UNION ALL SELECT at, 0, '', json_array(json(seen)) FROM learned_spoonful ORDER BY 1, 2",
		func(scan func(...any) error) error {
			var l Lesson
			var at, doc string
			var seen []learn.Seen
			if err := scan(&at, &l.Bake, &l.Title, &doc); err != nil {
				return err
			}
			if json.Unmarshal([]byte(doc), &seen) != nil {
				return nil // it follows from what happened, and is written anew when more is said of it
			}
			l.At = timeOf(at)
			for _, x := range seen {
				l.Seen = x
				out = append(out, l)
			}
			return nil
		},
	)
	return out, err
}

// AddSpoonful keeps what a spoonful weighed.
func (s *Store) AddSpoonful(ctx context.Context, seen learn.Seen) error {
	doc, err := json.Marshal(seen)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, "INSERT INTO learned_spoonful (at, seen) VALUES (?, ?)", now(), string(doc))
	return err
}

// Forgotten are the figures that were forgotten, and when.
func (s *Store) Forgotten(ctx context.Context) (map[Forgot]time.Time, error) {
	out := map[Forgot]time.Time{}
	err := s.each(ctx, "SELECT kind, key, at FROM learned_forgotten", func(scan func(...any) error) error {
		var f Forgot
		var at string
		if err := scan(&f.Kind, &f.Key, &at); err != nil {
			return err
		}
		out[f] = timeOf(at)
		return nil
	})
	return out, err
}

// SetForgotten forgets a figure, or remembers what was forgotten of it.
func (s *Store) SetForgotten(ctx context.Context, f Forgot, forgotten bool) error {
	if !forgotten {
		_, err := s.db.ExecContext(ctx, "DELETE FROM learned_forgotten WHERE kind = ? AND key = ?", f.Kind, f.Key)
		return err
	}
	_, err := s.db.ExecContext(
		ctx, "INSERT INTO learned_forgotten (kind, key, at) VALUES (?, ?, ?) ON CONFLICT (kind, key) DO UPDATE SET at = excluded.at", f.Kind, f.Key, now(),
	)
	return err
}
