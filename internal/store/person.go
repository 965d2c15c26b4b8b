package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"kollaris/core/diet"
	"kollaris/core/table"
)

// Person is one who eats at the household's table.
type Person struct {
	ID  int64
	Rev int64
	table.Person
}

// People lists those at the table, in the order they were added.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	var out []Person
	err := s.each(
		ctx, "SELECT id, rev, name, doc FROM person WHERE deleted_at IS NULL ORDER BY id",
		func(scan func(...any) error) error {
			var p Person
			var name, doc string
			if err := scan(&p.ID, &p.Rev, &name, &doc); err != nil {
				return err
			}
			if err := decode("person", p.ID, name, doc, &p.Person); err != nil {
				return err
			}
			out = append(out, p)
			return nil
		},
	)
	return out, err
}

// AddPerson puts somebody at the table.
func (s *Store) AddPerson(ctx context.Context, p table.Person) (int64, error) {
	p.Rule = diet.Rule
	doc, err := json.Marshal(p)
	if err != nil {
		return 0, err
	}
	res, err := s.db.ExecContext(ctx, "INSERT INTO person (name, doc) VALUES (?, ?)", p.Name, string(doc))
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// SetPerson changes somebody; ErrChanged where another window did so first.
func (s *Store) SetPerson(ctx context.Context, p Person) error {
	p.Rule = diet.Rule
	doc, err := json.Marshal(p.Person)
	if err != nil {
		return err
	}
	res, err := s.db.ExecContext(
		ctx, "UPDATE person SET name = ?, doc = ?, rev = rev + 1 WHERE id = ? AND rev = ? AND deleted_at IS NULL",
		p.Name, string(doc), p.ID, p.Rev,
	)
	if err != nil {
		return err
	}
	if n, _ := res.RowsAffected(); n == 0 {
		var one int
		err := s.db.QueryRowContext(ctx, "SELECT 1 FROM person WHERE id = ? AND deleted_at IS NULL", p.ID).Scan(&one)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		return ErrChanged
	}
	return nil
}

// LeaveTable takes somebody off the table, and back.
func (s *Store) LeaveTable(ctx context.Context, id int64, gone bool) error {
	when := sql.NullString{String: now(), Valid: gone}
	return changed(s.db.ExecContext(ctx, "UPDATE person SET deleted_at = ? WHERE id = ?", when, id))
}
