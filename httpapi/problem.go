package httpapi

import (
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"talloak/app"
	"talloak/core/problem"
	"talloak/store"
)

// Problem is every error answer (RFC 9457), naming the fields that were wrong.
type Problem struct {
	problem.Object
}

// Error makes a Problem an error.
func (p *Problem) Error() string { return p.Detail }

// GetStatus is the HTTP status of the answer.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType is that of problem answers.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

func newProblem(status int, title, detail string, fields ...problem.Field) *Problem {
	if fields == nil {
		fields = []problem.Field{}
	}
	return &Problem{problem.Object{Title: title, Status: status, Detail: detail, Errors: fields}}
}

// init gives huma's own refusals the same shape, and keeps the text of inner
// errors inside.
func init() {
	huma.DefaultArrayNullable = false
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		if status >= 500 {
			return newProblem(status, "Something went wrong here", "The server's log says more. What you sent may have been written or not: sending the very same again is safe.")
		}
		if status == http.StatusRequestEntityTooLarge {
			return newProblem(status, "Too large", "This is larger than is read here and was refused before it was read whole. Items of kit and benches may have 4 MiB with the files on them, sweeps 64 MiB.")
		}
		var fields []problem.Field
		for _, err := range errs {
			var detail *huma.ErrorDetail
			if errors.As(err, &detail) {
				field := strings.TrimPrefix(strings.TrimPrefix(detail.Location, "body"), ".")
				fields = append(fields, problem.Field{Field: field, Detail: detail.Message})
			} else if err != nil {
				fields = append(fields, problem.Field{Detail: err.Error()})
			}
		}
		return newProblem(status, http.StatusText(status), message, fields...)
	}
	huma.NewErrorWithContext = func(_ huma.Context, status int, message string, errs ...error) huma.StatusError {
		return huma.NewError(status, message, errs...)
	}
}

// troubled is the answer where the database fails, with the cause and what becomes of what was
// sent.
func troubled(cause error) *Problem {
	const kept = " It stays where you typed it, and is sent again by itself."
	switch cause {
	case store.ErrReadOnly:
		return newProblem(http.StatusServiceUnavailable, "The database is read-only", "The database takes no writes at present, so what you sent was not written."+kept)
	case store.ErrFull:
		return newProblem(http.StatusServiceUnavailable, "The disk is full", "The disk of the database is full, so what you sent was not written: make room on it."+kept)
	case store.ErrBusy:
		return newProblem(http.StatusServiceUnavailable, "The database is busy", "Something else held what was needed for too long, so what you sent was not written."+kept)
	}
	return newProblem(http.StatusServiceUnavailable, "The database does not answer", "What you sent may have been written or not. It is safe to send the very same again, which is done by itself where you typed it.")
}

// answer turns an error of the inner rooms into a Problem.
func answer(err error) error {
	var refused *problem.Error
	var said *Problem
	var frozen app.FrozenAlready
	var spoken *app.InstrumentTrouble
	switch {
	case err == nil:
		return nil
	case errors.As(err, &refused):
		return &Problem{problem.Refused(refused)}
	case errors.Is(err, store.ErrNotFound):
		return newProblem(http.StatusNotFound, "Not found", "There is no such thing here; it may never have been written.")
	case errors.As(err, &said):
		return said
	case store.Trouble(err) != nil:
		slog.Warn("the database fails", "error", err)
		return troubled(store.Trouble(err))
	case errors.As(err, &frozen):
		return newProblem(http.StatusConflict, "Frozen already", fmt.Sprintf("Edition %d is of just this: nothing has changed since.", frozen.Number),
			problem.Field{Field: "basis", Detail: fmt.Sprintf("is that of edition %d", frozen.Number)})
	case errors.As(err, &spoken):
		return newProblem(http.StatusUnprocessableEntity, "The instrument", spoken.Says, problem.Field{Field: "instrument", Detail: spoken.Says})
	case errors.Is(err, app.ErrUnaware):
		return newProblem(http.StatusConflict, "This server is open to others", "It is reached from other machines too, and whoever uses it makes it connect to the addresses on the bench. Say that you know that, and it does.",
			problem.Field{Field: "aware", Detail: "say that you know it"})
	case errors.Is(err, app.ErrPathChanged):
		return newProblem(http.StatusConflict, "The path was changed", "The path was changed since its figures were shown. Look at them again; what you typed is still with you.",
			problem.Field{Field: "wiring", Detail: "is not any more what was seen"})
	case errors.Is(err, app.ErrBookStands):
		return newProblem(http.StatusConflict, "Another wording stands", "A book of yours has this id, or got another wording since you began. Give this one another id, or keep it as the new wording of that.",
			problem.Field{Field: "id", Detail: "is that of a book of yours that is worded otherwise: give another, or keep this as its new wording"})
	case errors.Is(err, store.ErrStale):
		return newProblem(http.StatusConflict, "Changed meanwhile", "This was changed elsewhere since you read it. Read it again; what you typed is still with you.",
			problem.Field{Field: "version", Detail: "is no longer the newest"})
	case errors.Is(err, store.ErrInUse):
		return newProblem(http.StatusConflict, "In use", "A measurement or a path names this item. Retire it instead: it stays to be seen where it was used.")
	case errors.Is(err, store.ErrKeyReused):
		return newProblem(http.StatusConflict, "Key used before", "This id was used for a different write. Make a new one.",
			problem.Field{Field: "id", Detail: "was used for something else"})
	}
	slog.Error("request failed", "error", err)
	return huma.NewError(http.StatusInternalServerError, "")
}
