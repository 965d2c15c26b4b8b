package store

import (
	"context"
	"fmt"
)

// Stamp is another one after each change of the file by whomever, and the same until then. It is of this run of the program
// alone.
func (s *Store) Stamp(ctx context.Context) (string, error) {
	s.watch.Lock()
	defer s.watch.Unlock()
	if s.watch.conn == nil { // it writes nothing, so that it is told of every change
		conn, err := s.db.Conn(context.WithoutCancel(ctx))
		if err != nil {
			return "", err
		}
		s.watch.conn = conn
	}
	var n int64
	err := s.watch.conn.QueryRowContext(context.WithoutCancel(ctx), "PRAGMA data_version").Scan(&n)
	return fmt.Sprint(n), err
}
