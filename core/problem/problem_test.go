package problem

import (
	"errors"
	"fmt"
	"testing"
)

func TestListKeepsFirstReasonAndOrder(t *testing.T) {
	var l List
	if l.Err() != nil || !l.Empty() {
		t.Error("an empty list refuses")
	}
	l.Add("b", "first %d", 1)
	l.Add("a", "second")
	l.Add("b", "again")
	l.AddErr("path", New("elements[0]", "bad"))
	l.AddErr("path", New("", "as a whole"))
	l.AddErr("csv", errors.New("line 3"))
	l.AddErr("nothing", nil)
	want := `b: first 1; a: second; path.elements[0]: bad; path: as a whole; csv: line 3`
	if got := l.Err().Error(); got != want {
		t.Errorf("%s\nwant %s", got, want)
	}
}

func TestJoin(t *testing.T) {
	for _, c := range [][3]string{{"", "a", "a"}, {"a", "", "a"}, {"a", "b", "a.b"}, {"a", "[0].b", "a[0].b"}} {
		if got := Join(c[0], c[1]); got != c[2] {
			t.Errorf("%q and %q: %q", c[0], c[1], got)
		}
	}
}

func TestWithAddsOnlyOtherFields(t *testing.T) {
	e := New("a", "unknown")
	more := &Error{Fields: []Field{{"a", "missing"}, {"b", "missing"}}}
	if got := e.With(fmt.Errorf("wrapped: %w", more)).Error(); got != "a: unknown; b: missing" {
		t.Error(got)
	}
	if e.With(nil) != e || len(e.Fields) != 1 {
		t.Error("the original changed")
	}
	if o := Refused(e); o.Status != 422 || o.Title == "" || len(o.Errors) != 1 {
		t.Errorf("%+v", o)
	}
}
