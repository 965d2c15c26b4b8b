package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"slices"
	"time"

	"kollaris/core/adapt"
	"kollaris/core/bake"
)

// Bake is a sitting at the counter: what is baked, as it was begun. What happened is in its events.
type Bake struct {
	ID    int64     `json:"-"`
	Name  string    `json:"-"`
	Begun time.Time `json:"-"`
	Over  time.Time `json:"-"` // zero while it goes on
	Of    []BakeOf  `json:"of"`
	Plan  int64     `json:"plan,omitempty"` // 0 for none
	Who   string    `json:"who,omitempty"`  // bakes, "" for not said

	Used map[string]float64 `json:"used,omitempty"` // g of each that it took from the house
}

// BakeOf is one of its bakes.
type BakeOf struct {
	Title   string        `json:"title"`
	Code    string        `json:"code"` // as an address names it
	Result  *adapt.Result `json:"result"`
	Preheat int           `json:"preheat"` // minutes
	Oven    string        `json:"oven,omitempty"`
	Drinks  float64       `json:"drinks,omitempty"` // g of liquid for each g of flour that were put in from the start, as the flour was learned
}

// mostEvents is the most that one bake holds.
const mostEvents = 20000

// AddBake keeps a bake that is begun, with what is told of it already, in one step.
func (s *Store) AddBake(ctx context.Context, b Bake, events ...bake.Event) (id int64, err error) {
	doc, err := json.Marshal(b)
	if err != nil {
		return 0, err
	}
	err = s.write(ctx, func(tx *sql.Tx) error {
		res, err := tx.ExecContext(ctx, "INSERT INTO bake (name, doc, begun_at) VALUES (?, ?, ?)", b.Name, string(doc), b.Begun.UTC().Format(time.RFC3339Nano))
		if err != nil {
			return err
		}
		if id, err = res.LastInsertId(); err != nil {
			return err
		}
		_, err = addEvents(ctx, tx, id, events)
		return err
	})
	return id, err
}

const readBake = "SELECT id, name, doc, begun_at, coalesce(over_at, '') FROM bake WHERE deleted_at IS NULL"

// Bake returns one; ErrNotFound where it is not there.
func (s *Store) Bake(ctx context.Context, id int64) (Bake, error) {
	b, err := scanBake(s.db.QueryRowContext(ctx, readBake+" AND id = ?", id).Scan)
	return b, missing(err)
}

// BakeHead is what a list of many shows of a bake without reading it.
type BakeHead struct {
	ID          int64
	Name, Who   string
	Begun, Over time.Time
	Codes       []string // what is baked, as addresses name it; of those that go on alone
}

// Bakes lists them, those that go on first, then the last begun. Who baked it is asked of the log, and of the bake itself, which is
// long, where it has no line there yet.
func (s *Store) Bakes(ctx context.Context) ([]BakeHead, error) {
	return s.bakeHeads(ctx, "'[]'", "")
}

// Running lists those that go on.
func (s *Store) Running(ctx context.Context) ([]BakeHead, error) {
	return s.bakeHeads(ctx, "(SELECT json_group_array(json_extract(o.value, '$.code')) FROM json_each(b.doc, '$.of') o)", " AND b.over_at IS NULL")
}

func (s *Store) bakeHeads(ctx context.Context, codes, where string) (out []BakeHead, err error) {
	err = s.each(ctx, `SELECT b.id, b.name, coalesce((SELECT l.who FROM bake_log l WHERE l.bake = b.id LIMIT 1), json_extract(b.doc, '$.who'), ''), b.begun_at, coalesce(b.over_at, ''), `+codes+`
		FROM bake b WHERE b.deleted_at IS NULL`+where+" ORDER BY b.over_at IS NOT NULL, b.begun_at DESC, b.id DESC", func(scan func(...any) error) error {
		var b BakeHead
		var begun, over, codes string
		if err := scan(&b.ID, &b.Name, &b.Who, &begun, &over, &codes); err != nil {
			return err
		}
		out = append(out, b)
		last := &out[len(out)-1]
		if err := json.Unmarshal([]byte(codes), &last.Codes); err != nil {
			return err
		}
		last.Begun, last.Over = timeOf(begun), timeOf(over)
		return nil
	})
	return out, err
}

func scanBake(scan func(...any) error) (b Bake, err error) {
	var doc, begun, over string
	if err := scan(&b.ID, &b.Name, &doc, &begun, &over); err != nil {
		return b, err
	}
	if err := decode("bake", b.ID, b.Name, doc, &b); err != nil {
		return b, err
	}
	b.Begun, b.Over = timeOf(begun), timeOf(over)
	for _, of := range b.Of {
		if of.Result == nil || of.Result.Recipe == nil {
			b.Of = nil
			break
		}
		settled(of.Result.Recipe)
	}
	if len(b.Of) == 0 {
		return b, &Broken{"bake", b.ID, b.Name, doc, errUnread}
	}
	return b, nil
}

// DropBake takes a bake away, and back.
func (s *Store) DropBake(ctx context.Context, id int64, gone bool) error {
	return changed(s.db.ExecContext(ctx, "UPDATE bake SET deleted_at = ? WHERE id = ?", sql.NullString{String: now(), Valid: gone}, id))
}

// AddEvents tells what happened, in one step; what was told before is passed over. It returns how
// many were new.
func (s *Store) AddEvents(ctx context.Context, id int64, events []bake.Event) (added int, err error) {
	err = s.write(ctx, func(tx *sql.Tx) (err error) {
		added, err = addEvents(ctx, tx, id, events)
		return err
	})
	return added, err
}

func addEvents(ctx context.Context, tx *sql.Tx, id int64, events []bake.Event) (added int, err error) {
	var have, is int
	if err := tx.QueryRowContext(ctx, "SELECT (SELECT count(*) FROM bake_event WHERE bake = ?1), (SELECT count(*) FROM bake WHERE id = ?1 AND deleted_at IS NULL)", id).Scan(&have, &is); err != nil {
		return 0, err
	}
	if is == 0 {
		return 0, ErrNotFound
	}
	if have+len(events) > mostEvents {
		return 0, ErrFull
	}
	for _, e := range events {
		doc, err := json.Marshal(e)
		if err != nil {
			return 0, err
		}
		res, err := tx.ExecContext(ctx, "INSERT INTO bake_event (bake, id, doc) VALUES (?, ?, ?) ON CONFLICT (bake, id) DO NOTHING", id, e.ID, string(doc))
		if err != nil {
			return 0, err
		}
		n, err := res.RowsAffected()
		if err != nil {
			return 0, err
		}
		added += int(n)
	}
	return added, settleOver(ctx, tx, id, events)
}

// settleOver writes when a bake was over, where what is told may have changed it.
func settleOver(ctx context.Context, tx *sql.Tx, id int64, told []bake.Event) error {
	if !slices.ContainsFunc(told, func(e bake.Event) bool { return e.What == bake.Finish || e.What == bake.Undo }) {
		return nil
	}
	rows, err := tx.QueryContext(ctx, "SELECT doc FROM bake_event WHERE bake = ?", id)
	if err != nil {
		return err
	}
	defer rows.Close()
	var all []bake.Event
	for rows.Next() {
		var doc string
		var e bake.Event
		if err := rows.Scan(&doc); err != nil {
			return err
		}
		if err := json.Unmarshal([]byte(doc), &e); err != nil {
			return err
		}
		all = append(all, e)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	over := bake.Fold(nil, all).Over
	_, err = tx.ExecContext(ctx, "UPDATE bake SET over_at = ? WHERE id = ?", sql.NullString{String: over.UTC().Format(time.RFC3339Nano), Valid: !over.IsZero()}, id)
	return err
}

// Events are those of a bake as they came, with the number of the last.
func (s *Store) Events(ctx context.Context, id int64) (events []bake.Event, last int64, err error) {
	err = s.each(ctx, "SELECT seq, doc FROM bake_event WHERE bake = ? ORDER BY seq", func(scan func(...any) error) error {
		var doc string
		var e bake.Event
		if err := scan(&last, &doc); err != nil {
			return err
		}
		if err := json.Unmarshal([]byte(doc), &e); err != nil {
			return err
		}
		events = append(events, e)
		return nil
	}, id)
	return events, last, err
}

// KnowsEvents reports whether one of the events is kept already, of a bake that was taken away as well.
func (s *Store) KnowsEvents(ctx context.Context, events []bake.Event) (known bool, err error) {
	for _, e := range events {
		err := s.db.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM bake_event WHERE id = ?)", e.ID).Scan(&known)
		if err != nil || known {
			return known, err
		}
	}
	return false, nil
}

// LastEvent is the number of a bake's last event, 0 for none.
func (s *Store) LastEvent(ctx context.Context, id int64) (last int64, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT coalesce(max(seq), 0) FROM bake_event WHERE bake = ?", id).Scan(&last)
	return last, err
}
