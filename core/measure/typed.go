package measure

import (
	"encoding/json"
	"reflect"
	"slices"

	"talloak/core/record"
	"talloak/core/strictjson"
)

// Answer is what a kind says, of a type that it declares: written down as it is, and taken back by those
// who know the kind with Own.
type Answer interface{ json.Marshaler }

type answer[T any] struct{ of T }

func (a answer[T]) MarshalJSON() ([]byte, error) { return json.Marshal(a.of) }

// Answers makes an answer of what a kind says.
func Answers[T any](v T) Answer { return answer[T]{v} }

// Own is what was said, in the kind's own type; it panics where the kind says no such thing.
func Own[T any](a Answer) T { return a.(answer[T]).of }

// Types are those of a kind: its draft, how a measurement is shown, what stands for a box, and what
// Studied and ReadLine give, which are nil where there are none.
type Types struct{ Draft, View, Ruling, Study, Line reflect.Type }

// TypesOf are those of a kind that says nothing beside boxes.
func TypesOf[D, V, R any]() Types {
	return Types{reflect.TypeFor[D](), reflect.TypeFor[V](), reflect.TypeFor[R](), nil, nil}
}

// With is the same kind with what it says beside its boxes.
func (t Types) With(study reflect.Type) Types {
	t.Study = study
	return t
}

// Lines is the same kind with what it reads of a line that may be more than a draft.
func (t Types) Lines(line reflect.Type) Types {
	t.Line = line
	return t
}

// Offered is what a kind offers before anything is measured: choices with what belongs to them. The zero
// value is nothing.
type Offered struct {
	Answer
	Type reflect.Type
}

// Offers makes it of what a kind offers.
func Offers[T any](v T) Offered { return Offered{Answers(v), reflect.TypeFor[T]()} }

// Works is a kind in a review in its own types: D is its draft, V how a measurement is shown, R what
// stands for a box. It is what a kind writes; RoomOf makes a Room of it.
type Works[D, V, R any] interface {
	Tells
	// Read works out what was given, without keeping it. Errors are those of Room.Take.
	Read(Taking, D) (Worth[V], error)
	// Taken is measurement i of the kind, from 0 in the order taken, worked out.
	Taken(i int) *V
	// RulingAt is what stands at the frequency keyed, to be looked at, with pictures.
	RulingAt(record.Keyed) R
}

// Worth is a Taking worked out: where the radio was keyed, what is kept of it, and how it is shown.
type Worth[V any] struct {
	Keyed   record.Keyed
	Payload any
	Blob    []byte
	View    V
	Unkeyed bool
}

// Shown is a view that can be told which measurement it is of.
type Shown[V any] interface {
	*V
	Keep(*record.Measurement)
}

// RoomOf is the room of a kind in a review.
func RoomOf[D, V, R any, P Shown[V]](r *Review, kind string, w Works[D, V, R]) Room {
	return &room[D, V, R, P]{w, w, r.Of(kind)}
}

// Inside is a kind's own account of a review.
func Inside[W Tells](r *Review, k Kind) W { return r.Room(k).Inside().(W) }

type room[D, V, R any, P Shown[V]] struct {
	Tells
	works Works[D, V, R]
	rows  []*record.Measurement
}

// Inside implements Room.
func (d *room[D, V, R, P]) Inside() Tells { return d.Tells }

// Take implements Room.
func (d *room[D, V, R, P]) Take(t Taking) (Taken, error) {
	var in D
	if err := strictjson.Decode(t.Draft, &in); err != nil {
		return Taken{}, err
	}
	out, err := d.works.Read(t, in)
	if err != nil {
		return Taken{}, err
	}
	payload, err := json.Marshal(out.Payload)
	return Taken{out.Keyed, payload, out.Blob, Answers(out.View), out.Unkeyed}, err
}

// Show implements Room.
func (d *room[D, V, R, P]) Show(t Taken, m *record.Measurement) Answer {
	out := Own[V](t.View)
	P(&out).Keep(m)
	return Answers(out)
}

// View implements Room.
func (d *room[D, V, R, P]) View(id string) Answer {
	if i := slices.IndexFunc(d.rows, func(m *record.Measurement) bool { return m.ID == id }); i >= 0 {
		return Answers(d.works.Taken(i))
	}
	return nil
}

// Count implements Room.
func (d *room[D, V, R, P]) Count() int { return len(d.rows) }

// List implements Room.
func (d *room[D, V, R, P]) List(from, to int) Answer {
	out := make([]*V, 0, to-from)
	for i := from; i < to; i++ {
		out = append(out, d.works.Taken(i))
	}
	return Answers(out)
}

// Ruling implements Room.
func (d *room[D, V, R, P]) Ruling(k record.Keyed) Answer { return Answers(d.works.RulingAt(k)) }
