package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"kollaris/internal/photo"
)

// Photo is a picture of a bake.
type Photo struct {
	ID    int64
	Bake  int64
	Strip int
	At    time.Time
	Words string // what is on it, "" for nothing said
	photo.Photo
}

// MostPhotos is how much all pictures may take, bytes; keptAway how long one that was taken away can be brought back.
const (
	MostPhotos = 500 << 20
	keptAway   = 30 * 24 * time.Hour
)

// ErrNoRoom says that the pictures take all that they may.
var ErrNoRoom = fmt.Errorf("the pictures fill the %d MB that they may: take some away, which frees their place after thirty days", MostPhotos>>20)

// AddPhoto keeps a picture, once however often it is sent. Those that were taken away long ago make room.
func (s *Store) AddPhoto(ctx context.Context, p Photo) (id int64, err error) {
	err = s.write(ctx, func(tx *sql.Tx) error {
		before := time.Now().Add(-keptAway).UTC().Format(time.RFC3339Nano)
		if _, err := tx.ExecContext(ctx, "DELETE FROM photo WHERE deleted_at < ?", before); err != nil {
			return err
		}
		err := tx.QueryRowContext(ctx, "SELECT id FROM photo WHERE bake = ? AND strip = ? AND deleted_at IS NULL AND small = ? AND large = ?", p.Bake, p.Strip, p.Small, p.Large).Scan(&id)
		if !errors.Is(err, sql.ErrNoRows) { // sent twice
			return err
		}
		var used int64
		if err := tx.QueryRowContext(ctx, photoBytes).Scan(&used); err != nil {
			return err
		}
		if used+int64(len(p.Large)+len(p.Small)) > MostPhotos {
			return ErrNoRoom
		}
		res, err := tx.ExecContext(
			ctx, "INSERT INTO photo (bake, strip, at, words, width, height, large, small) SELECT id, ?, ?, ?, ?, ?, ?, ? FROM bake WHERE id = ? AND deleted_at IS NULL",
			p.Strip, p.At.UTC().Format(time.RFC3339Nano), p.Words, p.Width, p.Height, p.Large, p.Small, p.Bake,
		)
		if err != nil {
			return err
		}
		if n, err := res.RowsAffected(); err != nil || n == 0 {
			return ErrNotFound
		}
		id, err = res.LastInsertId()
		return err
	})
	return id, err
}

const photoBytes = "SELECT coalesce(sum(length(large) + length(small)), 0) FROM photo"

// PhotoBytes is how much all pictures take, those that can be brought back as well.
func (s *Store) PhotoBytes(ctx context.Context) (used int64, err error) {
	err = s.db.QueryRowContext(ctx, photoBytes).Scan(&used)
	return used, err
}

const readPhoto = "SELECT p.id, p.bake, p.strip, p.at, p.words, p.width, p.height FROM photo p JOIN bake b ON b.id = p.bake WHERE b.deleted_at IS NULL"

// Photos lists the pictures of a bake without what is on them; of all bakes for 0.
func (s *Store) Photos(ctx context.Context, bake int64) ([]Photo, error) {
	var out []Photo
	err := s.each(ctx, readPhoto+" AND p.deleted_at IS NULL AND (?1 = 0 OR p.bake = ?1) ORDER BY p.bake, p.strip, p.id", func(scan func(...any) error) error {
		p, err := scanPhoto(scan)
		out = append(out, p)
		return err
	}, bake)
	return out, err
}

// Photo returns one without what is on it, taken away or not; ErrNotFound where it is not there.
func (s *Store) Photo(ctx context.Context, id int64) (Photo, error) {
	p, err := scanPhoto(s.db.QueryRowContext(ctx, readPhoto+" AND p.id = ?", id).Scan)
	return p, missing(err)
}

func scanPhoto(scan func(...any) error) (p Photo, err error) {
	var at string
	if err := scan(&p.ID, &p.Bake, &p.Strip, &at, &p.Words, &p.Width, &p.Height); err != nil {
		return p, err
	}
	p.At = timeOf(at)
	return p, nil
}

// Picture is what is on a picture, JPEG.
func (s *Store) Picture(ctx context.Context, id int64, small bool) (jpeg []byte, err error) {
	err = s.db.QueryRowContext(
		ctx, "SELECT iif(?2, p.small, p.large) FROM photo p JOIN bake b ON b.id = p.bake WHERE p.id = ?1 AND p.deleted_at IS NULL AND b.deleted_at IS NULL", id, small,
	).Scan(&jpeg)
	return jpeg, missing(err)
}

// DropPhoto takes a picture away, and back.
func (s *Store) DropPhoto(ctx context.Context, id int64, gone bool) error {
	return s.changePhoto(ctx, "UPDATE photo SET deleted_at = ? WHERE id = ?", sql.NullString{String: now(), Valid: gone}, id)
}

// SayPhoto says what is on a picture; ErrChanged where the words that stand are no longer those of rev. AnyRev takes any.
func (s *Store) SayPhoto(ctx context.Context, id, rev int64, words string) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		var now string
		if err := tx.QueryRowContext(ctx, "SELECT words FROM photo WHERE id = ?", id).Scan(&now); err != nil {
			return missing(err)
		}
		if rev != AnyRev && rev != RevOf(now) {
			return ErrChanged
		}
		_, err := tx.ExecContext(ctx, "UPDATE photo SET words = ? WHERE id = ?", words, id)
		return err
	})
}

func (s *Store) changePhoto(ctx context.Context, query string, args ...any) error {
	return changed(s.db.ExecContext(ctx, query, args...))
}
