package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// The ways in which a database fails at what it was asked, whatever that was.
var (
	// ErrAway is a database that does not answer: a write may have been done or not.
	ErrAway = errors.New("the database does not answer")
	// ErrReadOnly is one that takes no writes at present.
	ErrReadOnly = errors.New("the database takes no writes at present: it is read-only")
	// ErrFull is one that has no room left.
	ErrFull = errors.New("the disk of the database is full")
	// ErrBusy is one in which something else held what was needed, or that took too long.
	ErrBusy = errors.New("the database is busy: something else held what was needed for too long")
)

// Trouble is which of these an error is; nil where it is none. Codes are those of PostgreSQL
// 15, appendix A: class 08 and 57P01 to 57P03 end a connection, 25006 is a read-only
// transaction, 53100 a full disk and 58030 one that cannot be written, 53200 and 53300 are a
// lack of memory and of connections, 55P03 and 57014 the time-outs of locks and statements,
// 40P01 and 40001 what others were at as well.
func Trouble(err error) error {
	if err == nil || errors.Is(err, context.Canceled) {
		return nil
	}
	var refused *pgconn.PgError
	if errors.As(err, &refused) {
		switch code := refused.Code; {
		case strings.HasPrefix(code, "08"), strings.HasPrefix(code, "57P0"):
			return ErrAway
		case code == "25006":
			return ErrReadOnly
		case code == "53100", code == "58030":
			return ErrFull
		case strings.HasPrefix(code, "53"), code == "55P03", code == "57014", code == "40P01", code == "40001":
			return ErrBusy
		}
		return nil
	}
	for _, known := range []error{ErrAway, ErrReadOnly, ErrFull, ErrBusy} {
		if errors.Is(err, known) {
			return known
		}
	}
	var connect *pgconn.ConnectError
	var network net.Error
	if errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, driver.ErrBadConn) || errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) ||
		errors.Is(err, sql.ErrConnDone) || err.Error() == "sql: database is closed" || errors.Is(err, net.ErrClosed) || pgconn.Timeout(err) {
		return ErrAway
	}
	return nil
}
