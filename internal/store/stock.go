package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"math"

	"kollaris/core/larder"
)

// What is in the house moves in one step with what moved it, so that nothing is taken twice, and nothing is lost that somebody else
// says of the same food.

// StockFromList moves what a plan's shopping list puts into the house, or takes out again. Move changes the plan as it is now and says
// what moves, g by food, or refuses; keep notes what really moved, since a house never holds less than nothing.
func (s *Store) StockFromList(ctx context.Context, id int64, move func(*Plan) (map[string]float64, error), keep func(p *Plan, moved map[string]float64)) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		return changePlan(ctx, tx, id, AnyRev, func(p *Plan) error {
			moves, err := move(p)
			if err != nil {
				return err
			}
			moved, err := moveStock(ctx, tx, moves)
			keep(p, moved)
			return err
		})
	})
}

// UseByPlan takes from the house what a plan's bakes used once it is over, g by food, and gives it back where it goes on after all.
func (s *Store) UseByPlan(ctx context.Context, id int64, over bool, takes map[string]float64) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		return changePlan(ctx, tx, id, AnyRev, func(p *Plan) (err error) {
			p.Used, err = use(ctx, tx, p.Used, over, takes)
			return err
		})
	})
}

// UseByBake does so of a bake that is over.
func (s *Store) UseByBake(ctx context.Context, id int64, over bool, takes map[string]float64) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		var doc sql.NullString
		if err := tx.QueryRowContext(ctx, "SELECT json_extract(doc, '$.used') FROM bake WHERE id = ?", id).Scan(&doc); err != nil {
			return missing(err)
		}
		var used map[string]float64
		if doc.Valid {
			if err := json.Unmarshal([]byte(doc.String), &used); err != nil {
				return err
			}
		}
		used, err := use(ctx, tx, used, over, takes)
		if err != nil {
			return err
		}
		made, err := json.Marshal(used)
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, "UPDATE bake SET doc = json_set(doc, '$.used', json(?)) WHERE id = ?", string(made), id)
		return err
	})
}

// use is what is used once something is over or not, as the house gave it; nil for nothing yet.
func use(ctx context.Context, tx *sql.Tx, used map[string]float64, over bool, takes map[string]float64) (map[string]float64, error) {
	switch {
	case over == (used != nil): // that was done
		return used, nil
	case !over:
		_, err := moveStock(ctx, tx, used)
		return nil, err
	}
	grams := map[string]float64{}
	for id, g := range takes {
		grams[id] = -g
	}
	moved, err := moveStock(ctx, tx, grams)
	for id, g := range moved {
		moved[id] = -g
	}
	return moved, err
}

// moveStock adds grams to what is in the house, or takes them out; it returns what moved.
func moveStock(ctx context.Context, tx *sql.Tx, grams map[string]float64) (moved map[string]float64, err error) {
	moved = map[string]float64{}
	for id, g := range grams {
		o := larder.Own{ID: larder.ID(id)}
		var doc string
		switch err := tx.QueryRowContext(ctx, "SELECT doc FROM own_ingredient WHERE id = ? AND deleted_at IS NULL", id).Scan(&doc); {
		case errors.Is(err, sql.ErrNoRows):
		case err != nil:
			return nil, err
		default:
			if err := json.Unmarshal([]byte(doc), &o); err != nil {
				return nil, err
			}
		}
		pack := larder.Pack{}
		if o.Pack != nil {
			pack = *o.Pack
		}
		now := math.Max(0, pack.Stock+g)
		moved[id], pack.Stock = now-pack.Stock, now
		o.Pack = &pack
		if err := putOwn(ctx, tx, o); err != nil {
			return nil, err
		}
	}
	return moved, nil
}
