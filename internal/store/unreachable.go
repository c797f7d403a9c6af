package store

import (
	"database/sql"
	"database/sql/driver"
	"errors"
	"net"
	"slices"

	"github.com/jackc/pgx/v5/pgconn"
)

// comingAndGoing are what a server says that stops or starts: shutdown on request,
// after a crash, and not ready yet.
var comingAndGoing = []string{"57P01", "57P02", "57P03"}

// Unreachable reports an error that says nothing but that the database does not
// answer now.
func Unreachable(err error) bool {
	var connecting *pgconn.ConnectError
	var network net.Error
	var refused *pgconn.PgError
	switch {
	case errors.As(err, &connecting), errors.Is(err, driver.ErrBadConn), errors.Is(err, sql.ErrConnDone):
		return true
	case errors.As(err, &refused):
		return slices.Contains(comingAndGoing, refused.Code)
	default:
		return errors.As(err, &network) && !network.Timeout()
	}
}
