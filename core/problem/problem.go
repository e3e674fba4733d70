package problem

import (
	"errors"
	"fmt"
	"slices"
	"strings"
)

// Field is one refusal: the dotted path of the input field
// (path.elements[1].max_w; empty for the input as a whole) and what would do.
type Field struct {
	Field  string `json:"field"`
	Detail string `json:"detail"`
}

// Error is a refused input with every field that was wrong.
type Error struct {
	Fields []Field
}

// Error joins the refusals into one line.
func (e *Error) Error() string {
	parts := make([]string, len(e.Fields))
	for i, f := range e.Fields {
		parts[i] = f.Detail
		if f.Field != "" {
			parts[i] = f.Field + ": " + f.Detail
		}
	}
	return strings.Join(parts, "; ")
}

// New is a refusal of a single field.
func New(field, format string, args ...any) *Error {
	return &Error{Fields: []Field{{field, fmt.Sprintf(format, args...)}}}
}

// With is e and the refusals of err for fields that e does not name already.
func (e *Error) With(err error) *Error {
	var more *Error
	if !errors.As(err, &more) {
		return e
	}
	out := &Error{Fields: slices.Clone(e.Fields)}
	for _, f := range more.Fields {
		if !names(e.Fields, f.Field) {
			out.Fields = append(out.Fields, f)
		}
	}
	return out
}

// List collects refusals while an input is checked. The zero value is ready.
type List struct {
	fields []Field
}

// Add notes that field is wrong and what would be accepted. A field that was
// refused already keeps its first reason.
func (l *List) Add(field, format string, args ...any) {
	if !names(l.fields, field) {
		l.fields = append(l.fields, Field{field, fmt.Sprintf(format, args...)})
	}
}

func names(fields []Field, field string) bool {
	return slices.ContainsFunc(fields, func(f Field) bool { return f.Field == field })
}

// AddErr notes err under a parent field: the fields of an *Error keep their own
// path below it, any other error becomes the parent's detail. A nil err adds nothing.
func (l *List) AddErr(parent string, err error) {
	if err == nil {
		return
	}
	var e *Error
	if !errors.As(err, &e) {
		l.Add(parent, "%s", err.Error())
		return
	}
	for _, f := range e.Fields {
		l.Add(Join(parent, f.Field), "%s", f.Detail)
	}
}

// Empty tells whether nothing was refused so far.
func (l *List) Empty() bool { return len(l.fields) == 0 }

// Fields are the refusals so far.
func (l *List) Fields() []Field { return l.fields }

// Err is nil when nothing was refused, else an *Error with all of it.
func (l *List) Err() error {
	if l.Empty() {
		return nil
	}
	return &Error{Fields: l.fields}
}

// Join puts a field path below a parent: Join("path", "elements[0]") is
// "path.elements[0]"; an index path "[0]" is appended without a dot.
func Join(parent, field string) string {
	switch {
	case parent == "":
		return field
	case field == "":
		return parent
	case strings.HasPrefix(field, "["):
		return parent + field
	}
	return parent + "." + field
}

// Object is a problem as RFC 9457 has it, with the refused fields.
type Object struct {
	Title  string  `json:"title"`
	Status int     `json:"status"`
	Detail string  `json:"detail"`
	Errors []Field `json:"errors"`
}

// Refused is the problem object of a refused input: status 422.
func Refused(e *Error) Object {
	return Object{"The input was refused", 422, e.Error(), e.Fields}
}
