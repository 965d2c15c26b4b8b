package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"hash/crc32"

	"kollaris/core/measure"
	"kollaris/core/plan"
)

// Household is what the people of the house settled once.
type Household struct {
	Rev      int64           `json:"-"` // 0 while nothing was settled
	Kitchen  measure.Kitchen `json:"kitchen"`
	Last     string          `json:"last"`               // the last table's demand, as URL values
	Currency string          `json:"currency,omitempty"` // as it is written before a price
	Labels   string          `json:"labels,omitempty"`   // which packets are read: "eu" or "us"
	Keys     string          `json:"keys,omitempty"`     // "off": single letters are no shortcuts
	Paper    string          `json:"paper,omitempty"`    // in the printer: "letter", else A4
	Altitude float64         `json:"altitude,omitempty"` // m
	Day      Day             `json:"day,omitzero"`
	Devices  Devices         `json:"devices,omitzero"`

	DailyCopies  int `json:"daily_copies,omitempty"` // kept by the program, as Copies reads them
	WeeklyCopies int `json:"weekly_copies,omitempty"`

	LAN bool `json:"lan,omitempty"` // other machines of the house are wanted in
}

// Devices are where the scale and the probe are, "" for none: "192.168.1.20:7411".
type Devices struct {
	Scale string `json:"scale,omitempty"`
	Probe string `json:"probe,omitempty"`
}

// Day is with whom and with what the household bakes, as its plans reckon.
type Day struct {
	From   string          `json:"from,omitempty"` // hands work from, "06:00"
	To     string          `json:"to,omitempty"`   // and to
	Away   string          `json:"away,omitempty"` // hours away by weekday, as plan.ParseAway reads them
	Cooks  int             `json:"cooks,omitempty"`
	Room   measure.Celsius `json:"room_c,omitempty"`
	Bowls  int             `json:"bowls,omitempty"`  // mixing bowls; 0 is enough
	Tins   int             `json:"tins,omitempty"`   // of one kind; 0 is enough
	Fridge int             `json:"fridge,omitempty"` // bowls or trays that it has room for; 0 is enough
	Hob    int             `json:"hob,omitempty"`    // rings; 0 is enough
	Warm   int             `json:"warm,omitempty"`   // bowls or tins that the warm place has room for; 0 is enough
	Uses   bool            `json:"uses,omitempty"`   // baking takes from what is in the house
}

// Counts is what there is only so much of, as plans count it.
func (d Day) Counts() plan.Counts {
	return plan.Counts{Tins: d.Tins, Bowls: d.Bowls, Fridge: d.Fridge, Hob: d.Hob, Warm: d.Warm}
}

// Household returns the settings, the defaults where none were made.
func (s *Store) Household(ctx context.Context) (Household, error) {
	return household(s.db.QueryRowContext(ctx, readHousehold))
}

const readHousehold = "SELECT rev, doc FROM household WHERE id = 1"

func household(row *sql.Row) (Household, error) {
	h := Household{Kitchen: measure.DefaultKitchen()}
	var doc string
	err := row.Scan(&h.Rev, &doc)
	if errors.Is(err, sql.ErrNoRows) {
		return h, nil
	}
	if err != nil {
		return h, err
	}
	return h, decode("household", 1, "how you measure", doc, &h)
}

// AnyRev lets a change of the household be made whatever was changed meanwhile: of one
// field that nothing else writes.
const AnyRev = -1

// RevOf is the rev of what has no number of its own: a checksum of what stands. What was changed there and back counts as unchanged.
func RevOf(x any) int64 {
	b, _ := json.Marshal(x) // texts and numbers are always written
	return int64(crc32.ChecksumIEEE(b))
}

// ChangeHousehold changes the settings as they are now; ErrChanged where they are no
// longer those of rev.
func (s *Store) ChangeHousehold(ctx context.Context, rev int64, change func(*Household)) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		h, err := household(tx.QueryRowContext(ctx, readHousehold))
		if err != nil {
			return err
		}
		if rev != AnyRev && rev != h.Rev {
			return ErrChanged
		}
		change(&h)
		doc, err := json.Marshal(h)
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(
			ctx,
			"INSERT INTO household (id, doc) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET doc = excluded.doc, rev = rev + 1",
			string(doc),
		)
		return err
	})
}

// SetLast remembers the last table's demand. It is no setting that anybody edits, so that
// the rev of the settings stays.
func (s *Store) SetLast(ctx context.Context, last string) error {
	_, err := s.db.ExecContext(
		ctx,
		"INSERT INTO household (id, rev, doc) VALUES (1, 0, json_object('last', ?)) ON CONFLICT (id) DO UPDATE SET doc = json_set(doc, '$.last', ?)",
		last, last,
	)
	return err
}
