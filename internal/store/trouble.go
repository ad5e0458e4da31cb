package store

import (
	"context"
	"errors"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// Unavailable reports whether err says that the database did not answer in time, or not at
// all, or had no room: the same may go through later. What was to be stored may be
// stored or not.
func Unavailable(err error) bool {
	var pg *pgconn.PgError
	if errors.As(err, &pg) {
		for _, class := range []string{"08", "53", "57", "58"} { // connection, resources, operator, system
			if strings.HasPrefix(pg.Code, class) {
				return true
			}
		}
		return pg.Code == "55P03" || pg.Code == "40001" || pg.Code == "40P01" // a lock, another's change
	}
	var connect *pgconn.ConnectError
	var network net.Error
	return errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, context.DeadlineExceeded) ||
		errors.Is(err, net.ErrClosed) || pgconn.SafeToRetry(err) || errors.Is(err, io.ErrUnexpectedEOF)
}

// Limits are how long the database is waited for by one who serves; zero: for ever.
type Limits struct {
	Statement string // as PostgreSQL writes it: 30s
	Lock      string
}

// Serving are the limits of a server: a person waits, and sends again.
var Serving = Limits{Statement: "20s", Lock: "5s"}
