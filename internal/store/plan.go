package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/json"
	"net/url"
	"strings"
	"time"
)

// Plan is a timetable that is kept: what is asked of it, and what of it is done.
type Plan struct {
	ID    int64     `json:"-"`
	Rev   int64     `json:"-"`
	Name  string    `json:"-"`
	Kept  time.Time `json:"-"`     // last changed
	UID   string    `json:"uid"`   // by which calendars know it
	Query string    `json:"query"` // its bakes and hours, as the page's address has them
	// Done are the tasks that are done by their keys, with when the hands were; Shape is how the
	// methods read then, since the keys count their tasks.
	Done     map[string]time.Time `json:"done,omitempty"`
	Shape    string               `json:"shape,omitempty"`
	From     time.Time            `json:"from,omitzero"` // nothing begins before: it was begun late
	Order    []int                `json:"order,omitempty"`
	Calendar string               `json:"calendar,omitempty"` // the word by which a calendar may read it, "" for none
	Bought   []string             `json:"bought,omitempty"`   // ingredients that are ticked off
	Stocked  map[string]float64   `json:"stocked,omitempty"`  // g of each that was put into the house from its list
	Used     map[string]float64   `json:"used,omitempty"`     // g of each that its bakes took from the house
}

// Plans lists the plans, the last changed first, without those that cannot be read: Torn.
func (s *Store) Plans(ctx context.Context) ([]Plan, error) {
	var out []Plan
	err := s.each(ctx, "SELECT id, rev, name, doc, updated_at FROM plan WHERE deleted_at IS NULL ORDER BY updated_at DESC, id DESC", func(scan func(...any) error) error {
		p, err := scanPlan(scan)
		if err == nil {
			out = append(out, p)
		}
		return passed(err)
	})
	return out, err
}

const readPlan = "SELECT id, rev, name, doc, updated_at FROM plan WHERE id = ? AND deleted_at IS NULL"

// Plan returns one; ErrNotFound where it is not there.
func (s *Store) Plan(ctx context.Context, id int64) (Plan, error) {
	p, err := scanPlan(s.db.QueryRowContext(ctx, readPlan, id).Scan)
	return p, missing(err)
}

func scanPlan(scan func(...any) error) (p Plan, err error) {
	var doc, kept string
	if err := scan(&p.ID, &p.Rev, &p.Name, &doc, &kept); err != nil {
		return p, err
	}
	if err := decode("plan", p.ID, p.Name, doc, &p); err != nil {
		return p, err
	}
	p.Kept = timeOf(kept)
	if _, err := url.ParseQuery(p.Query); err != nil {
		return p, &Broken{"plan", p.ID, p.Name, doc, err}
	}
	return p, nil
}

// AddPlan keeps a plan.
func (s *Store) AddPlan(ctx context.Context, p Plan) (int64, error) {
	p.UID = strings.ToLower(rand.Text())
	doc, err := json.Marshal(p)
	if err != nil {
		return 0, err
	}
	res, err := s.db.ExecContext(ctx, "INSERT INTO plan (name, doc, updated_at) VALUES (?, ?, ?)", p.Name, string(doc), now())
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// ChangePlan changes a plan as it is now, in one step; ErrNotFound where it is not there,
// ErrChanged where it is no longer that of rev. AnyRev takes any. What change refuses changes nothing.
func (s *Store) ChangePlan(ctx context.Context, id, rev int64, change func(*Plan) error) error {
	return s.write(ctx, func(tx *sql.Tx) error { return changePlan(ctx, tx, id, rev, change) })
}

func changePlan(ctx context.Context, tx *sql.Tx, id, rev int64, change func(*Plan) error) error {
	p, err := scanPlan(tx.QueryRowContext(ctx, readPlan, id).Scan)
	if err != nil {
		return missing(err)
	}
	if rev != AnyRev && rev != p.Rev {
		return ErrChanged
	}
	if err := change(&p); err != nil {
		return err
	}
	doc, err := json.Marshal(p)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, "UPDATE plan SET name = ?, doc = ?, rev = rev + 1, updated_at = ? WHERE id = ?", p.Name, string(doc), now(), id)
	return err
}

// DropPlan takes a plan away, and back.
func (s *Store) DropPlan(ctx context.Context, id int64, gone bool) error {
	return changed(s.db.ExecContext(ctx, "UPDATE plan SET deleted_at = ? WHERE id = ?", sql.NullString{String: now(), Valid: gone}, id))
}
