package store

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"slices"

	"kollaris/core/oven"
)

// Oven is one of the household's, with what was measured of it.
type Oven struct {
	ID       int64      `json:"-"`
	Rev      int64      `json:"-"`
	Name     string     `json:"-"`
	Fan      bool       `json:"fan,omitempty"`
	Width    float64    `json:"width_cm,omitempty"` // of a shelf
	Depth    float64    `json:"depth_cm,omitempty"`
	Shelves  int        `json:"shelves,omitempty"`     // used at once
	Preheat  int        `json:"preheat_min,omitempty"` // till it is hot; 0 not said
	Readings []Reading  `json:"readings,omitempty"`
	Bakes    []OvenBake `json:"bakes,omitempty"`
}

// OvenBake is what a bake says of its oven: how long it took over what was foretold for an oven that tells the
// truth, and how the logarithm of that changes with a degree.
type OvenBake struct {
	Bake      int64   `json:"bake"`
	Strip     int     `json:"strip,omitempty"`
	Title     string  `json:"title"`
	On        string  `json:"on"` // date, YYYY-MM-DD
	Ratio     float64 `json:"ratio"`
	PerDegree float64 `json:"per_degree"`
	Forgotten bool    `json:"forgotten,omitempty"` // by the household: it counts no more
}

// Reading is an oven thermometer's, °C.
type Reading struct {
	Dial float64 `json:"dial_c"`
	Air  float64 `json:"air_c"`
	On   string  `json:"on"` // date, YYYY-MM-DD

	Forgotten bool `json:"forgotten,omitempty"` // by the household: it counts no more
}

// Learned is what readings and bakes say of it.
func (o Oven) Learned() oven.Learned {
	l := oven.NewOven()
	for _, r := range o.Readings {
		if !r.Forgotten {
			l = l.Reading(r.Dial, r.Air)
		}
	}
	for _, b := range o.Bakes {
		if b.Ratio > 0 && !b.Forgotten {
			l = l.Bake(b.Ratio, b.PerDegree)
		}
	}
	return l
}

// Hindsight is how far foretold times in it were off without learning from its bakes, and with what had been
// learned before each, as shares; bakes is how many it is of.
func (o Oven) Hindsight() (without, with float64, bakes int) {
	start, seen := o.seen()
	without, with = oven.Hindsight(start, seen)
	return without, with, len(seen)
}

// Drift is by how much its last bakes took longer than those before had taught, as a share; ok where that is more than
// chance gives.
func (o Oven) Drift() (longer float64, ok bool) {
	start, seen := o.seen()
	return oven.Drift(start, seen)
}

// seen are the bakes that count, in their order, and what the thermometer alone says.
func (o Oven) seen() (start oven.Learned, seen []oven.Seen) {
	bakes := slices.Clone(o.Bakes)
	slices.SortStableFunc(bakes, func(a, b OvenBake) int { return cmp.Compare(a.On, b.On) })
	for _, b := range bakes {
		if b.Ratio > 0 && !b.Forgotten {
			seen = append(seen, oven.Seen{Ratio: b.Ratio, PerDegree: b.PerDegree})
		}
	}
	o.Bakes = nil
	return o.Learned(), seen
}

// OwnTin is a tin of the household's: its name, and the tin as package tin reads it.
type OwnTin struct {
	ID   int64  `json:"-"`
	Rev  int64  `json:"-"`
	Name string `json:"-"`
	Text string `json:"tin"`
}

// Ovens lists the household's ovens in the order they were added, without those that cannot be read: Torn.
func (s *Store) Ovens(ctx context.Context) ([]Oven, error) {
	return equipment(ctx, s, "oven", func(id, rev int64, name string, o *Oven) { o.ID, o.Rev, o.Name = id, rev, name })
}

// OwnTins lists the household's tins as Ovens does.
func (s *Store) OwnTins(ctx context.Context) ([]OwnTin, error) {
	return equipment(ctx, s, "tin", func(id, rev int64, name string, t *OwnTin) { t.ID, t.Rev, t.Name = id, rev, name })
}

func equipment[T any](ctx context.Context, s *Store, kind string, named func(id, rev int64, name string, x *T)) ([]T, error) {
	var out []T
	err := s.each(
		ctx, "SELECT id, rev, name, doc FROM equipment WHERE kind = '"+kind+"' AND deleted_at IS NULL ORDER BY id",
		func(scan func(...any) error) error {
			var id, rev int64
			var name, doc string
			var x T
			if err := scan(&id, &rev, &name, &doc); err != nil {
				return err
			}
			if err := decode(kind, id, name, doc, &x); err != nil {
				return passed(err)
			}
			named(id, rev, name, &x)
			out = append(out, x)
			return nil
		},
	)
	return out, err
}

// AddOven puts an oven into the kitchen.
func (s *Store) AddOven(ctx context.Context, o Oven) (int64, error) {
	return s.addEquipment(ctx, "oven", o.Name, o)
}

// AddTin puts a tin into the cupboard.
func (s *Store) AddTin(ctx context.Context, t OwnTin) (int64, error) {
	return s.addEquipment(ctx, "tin", t.Name, t)
}

func (s *Store) addEquipment(ctx context.Context, kind, name string, x any) (int64, error) {
	doc, err := json.Marshal(x)
	if err != nil {
		return 0, err
	}
	res, err := s.db.ExecContext(
		ctx, "INSERT INTO equipment (kind, name, doc) VALUES (?, ?, ?)", kind, name, string(doc),
	)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// ChangeOven changes an oven in one step, so that no reading is lost; ErrNotFound where
// it is not there, ErrChanged where it is no longer that of rev. AnyRev takes any.
func (s *Store) ChangeOven(ctx context.Context, id, rev int64, change func(*Oven)) error {
	return changeEquipment(ctx, s, "oven", id, rev, func(name *string, o *Oven) {
		o.ID, o.Name = id, *name
		change(o)
		*name = o.Name
	})
}

// ChangeTin changes a tin as ChangeOven does an oven.
func (s *Store) ChangeTin(ctx context.Context, id, rev int64, change func(*OwnTin)) error {
	return changeEquipment(ctx, s, "tin", id, rev, func(name *string, t *OwnTin) {
		t.ID, t.Name = id, *name
		change(t)
		*name = t.Name
	})
}

func changeEquipment[T any](ctx context.Context, s *Store, kind string, id, rev int64, change func(*string, *T)) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		var x T
		var name, doc string
		var have int64
		if err := tx.QueryRowContext(ctx, "SELECT rev, name, doc FROM equipment WHERE id = ? AND kind = ? AND deleted_at IS NULL", id, kind).Scan(&have, &name, &doc); err != nil {
			return missing(err)
		}
		if rev != AnyRev && rev != have {
			return ErrChanged
		}
		if err := decode(kind, id, name, doc, &x); err != nil {
			return err
		}
		change(&name, &x)
		made, err := json.Marshal(x)
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(
			ctx, "UPDATE equipment SET name = ?, doc = ?, rev = rev + 1 WHERE id = ?", name, string(made), id,
		)
		return err
	})
}

// PutAway takes an oven or tin out of the kitchen, and back.
func (s *Store) PutAway(ctx context.Context, id int64, gone bool) error {
	return changed(s.db.ExecContext(
		ctx, "UPDATE equipment SET deleted_at = ? WHERE id = ?", sql.NullString{String: now(), Valid: gone}, id,
	))
}
