package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"database/sql"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode/utf8"

	"golang.org/x/crypto/argon2"
	"golang.org/x/text/unicode/norm"
)

// ErrWeak is a passphrase that is guessed too soon.
var ErrWeak = errors.New("a passphrase has 12 to 200 characters, and not one over and over: four words do")

// Least and most characters of a passphrase (OWASP ASVS 5.0, 6.2: at least 8, better 15; at least 64 are taken), and how
// long a session lasts that nobody uses.
const (
	leastPhrase, mostPhrase = 12, 200
	sessionIdle             = 90 * 24 * time.Hour
	seenEvery               = time.Hour // a session is not written to at each request
)

// The cost of argon2id, of OWASP's Password Storage Cheat Sheet: 19 MiB, two passes, one lane.
const (
	argonMemory  = 19 << 10 // KiB
	argonPasses  = 2
	argonLanes   = 1
	argonSize    = 32 // bytes
	argonSalt    = 16 // bytes
	sessionBytes = 32
)

// Session is one browser that was let in.
type Session struct {
	ID    string // of the list; it is not the token
	Guest bool   // may only look at cards, shopping lists and bakes
	From  string // the address that it was made from
	Made  time.Time
	Seen  time.Time
}

// slow lets one passphrase be worked out at a time: each takes 19 MiB.
var slow = make(chan struct{}, 1)

func argon(phrase string, salt []byte) []byte {
	slow <- struct{}{}
	defer func() { <-slow }()
	return argon2.IDKey([]byte(norm.NFC.String(phrase)), salt, argonPasses, argonMemory, argonLanes, argonSize)
}

// SetPassphrase lets in whoever knows it from now on, and nobody who was let in before; ErrWeak where it is too short.
func (s *Store) SetPassphrase(ctx context.Context, phrase string) error {
	n := utf8.RuneCountInString(phrase)
	if n < leastPhrase || n > mostPhrase || !utf8.ValidString(phrase) || len(strings.Trim(phrase, phrase[:1])) == 0 {
		return ErrWeak
	}
	salt := make([]byte, argonSalt)
	rand.Read(salt) //nolint:errcheck // it never fails
	enc := base64.RawStdEncoding.EncodeToString
	phc := fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, argonMemory, argonPasses, argonLanes, enc(salt), enc(argon(phrase, salt)))
	return s.write(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, "DELETE FROM session"); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO access (id, passphrase, made_at) VALUES (1, ?, ?)
			ON CONFLICT (id) DO UPDATE SET passphrase = excluded.passphrase, made_at = excluded.made_at, guest = NULL`, phc, now())
		return err
	})
}

// ClearPassphrase lets nobody in from other machines any more.
func (s *Store) ClearPassphrase(ctx context.Context) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx, "DELETE FROM session")
		if err == nil {
			_, err = tx.ExecContext(ctx, "DELETE FROM access")
		}
		return err
	})
}

// HasPassphrase tells whether one is set.
func (s *Store) HasPassphrase(ctx context.Context) (bool, error) {
	phc, _, err := s.access(ctx)
	return phc != "", err
}

func (s *Store) access(ctx context.Context) (phc string, guest []byte, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT passphrase, guest FROM access").Scan(&phc, &guest)
	if errors.Is(err, sql.ErrNoRows) {
		err = nil
	}
	return phc, guest, err
}

// CheckPassphrase tells whether it is the one that is set. It takes as long whether there is one or not.
func (s *Store) CheckPassphrase(ctx context.Context, phrase string) (bool, error) {
	phc, _, err := s.access(ctx)
	if err != nil || len(phrase) > 4*mostPhrase {
		return false, err
	}
	part := strings.Split(phc, "$") // "", argon2id, v, costs, salt, hash
	if len(part) != 6 {
		part = make([]string, 6)
	}
	salt, _ := base64.RawStdEncoding.DecodeString(part[4])
	want, _ := base64.RawStdEncoding.DecodeString(part[5])
	return subtle.ConstantTimeCompare(argon(phrase, salt), want) == 1, nil
}

func token() string {
	b := make([]byte, sessionBytes)
	rand.Read(b) //nolint:errcheck // it never fails
	return base64.RawURLEncoding.EncodeToString(b)
}

func hashed(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}

// BeginSession lets a browser in; what is returned is its cookie's, and is kept nowhere.
func (s *Store) BeginSession(ctx context.Context, from string, guest bool) (string, error) {
	t := token()
	_, err := s.db.ExecContext(ctx, "INSERT INTO session (token, guest, from_at, made_at, seen_at) VALUES (?, ?, ?, ?, ?)", hashed(t), guest, from, now(), now())
	return t, err
}

// Session finds the session of a cookie; ErrNotFound where there is none, or none any more.
func (s *Store) Session(ctx context.Context, token string) (Session, error) {
	x, err := session(s.db.QueryRowContext(ctx, readSession+" WHERE token = ?", hashed(token)))
	if err != nil {
		return x, missing(err)
	}
	switch idle := time.Since(x.Seen); {
	case idle > sessionIdle:
		return x, errors.Join(ErrNotFound, s.EndSession(ctx, token))
	case idle > seenEvery:
		_, err = s.db.ExecContext(ctx, "UPDATE session SET seen_at = ? WHERE token = ?", now(), hashed(token))
	}
	return x, err
}

const readSession = "SELECT substr(hex(token), 1, 16), guest, from_at, made_at, seen_at FROM session"

func session(row interface{ Scan(...any) error }) (x Session, err error) {
	var made, seen string
	if err := row.Scan(&x.ID, &x.Guest, &x.From, &made, &seen); err != nil {
		return x, err
	}
	x.Made, x.Seen = timeOf(made), timeOf(seen)
	return x, nil
}

// Sessions lists them, the one last seen first.
func (s *Store) Sessions(ctx context.Context) (out []Session, err error) {
	err = each(ctx, s.db, readSession+" ORDER BY seen_at DESC", func(scan func(...any) error) error {
		x, err := session(scanner(scan))
		out = append(out, x)
		return err
	})
	return out, err
}

type scanner func(...any) error

func (f scanner) Scan(to ...any) error { return f(to...) }

// EndSession logs one browser out.
func (s *Store) EndSession(ctx context.Context, token string) error {
	_, err := s.db.ExecContext(ctx, "DELETE FROM session WHERE token = ?", hashed(token))
	return err
}

// EndSessions logs all of them out.
func (s *Store) EndSessions(ctx context.Context) error {
	_, err := s.db.ExecContext(ctx, "DELETE FROM session")
	return err
}

// InviteGuests makes a new token of guests, which ends the one before with all who came by it.
func (s *Store) InviteGuests(ctx context.Context) (string, error) {
	t := token()
	return t, s.guests(ctx, hashed(t))
}

// EndGuests takes the guests' token back.
func (s *Store) EndGuests(ctx context.Context) error { return s.guests(ctx, nil) }

func (s *Store) guests(ctx context.Context, hash []byte) error {
	return s.write(ctx, func(tx *sql.Tx) error {
		if _, err := tx.ExecContext(ctx, "DELETE FROM session WHERE guest"); err != nil {
			return err
		}
		return changed(tx.ExecContext(ctx, "UPDATE access SET guest = ?", hash))
	})
}

// GuestsInvited tells whether a token of guests is out.
func (s *Store) GuestsInvited(ctx context.Context) (bool, error) {
	_, guest, err := s.access(ctx)
	return guest != nil, err
}

// IsGuest tells whether it is the guests' token.
func (s *Store) IsGuest(ctx context.Context, token string) (bool, error) {
	_, guest, err := s.access(ctx)
	return guest != nil && subtle.ConstantTimeCompare(guest, hashed(token)) == 1, err
}
