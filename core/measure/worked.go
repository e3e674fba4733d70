package measure

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"slices"
	"sync"

	"talloak/core/record"
)

// Worked works one record out. What has no finite figures, and what the program fails at, is an
// error of that record: the others of a review stand beside it.
func Worked[T any](work func() (T, error)) (out T, err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("the program fails at it: %v", r)
		}
	}()
	if out, err = work(); err == nil && !finite(reflect.ValueOf(&out).Elem()) {
		err = errors.New("its figures are beyond all numbers")
	}
	return out, err
}

// finite tells whether every number in v that is written down can be.
func finite(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.Float64:
		f := v.Float()
		return !math.IsNaN(f) && !math.IsInf(f, 0)
	case reflect.Pointer, reflect.Interface:
		return v.IsNil() || finite(v.Elem())
	case reflect.Slice, reflect.Array:
		if !hasNumbers(v.Type().Elem(), nil) {
			return true
		}
		for i := range v.Len() {
			if !finite(v.Index(i)) {
				return false
			}
		}
	case reflect.Struct:
		for _, i := range numbered(v.Type()) {
			if !finite(v.Field(i)) {
				return false
			}
		}
	}
	return true
}

var (
	asTaken = reflect.TypeFor[record.Through]() // the path as it was: bounded where it was kept
	plans   sync.Map                            // of a struct type: the fields that may hold numbers
)

// numbered are the fields of a struct that are written down and may hold numbers.
func numbered(t reflect.Type) []int {
	if known, ok := plans.Load(t); ok {
		return known.([]int)
	}
	out := fields(t, nil)
	plans.Store(t, out) // whole or not at all: others ask at the same time
	return out
}

// fields are those of a type that stands within others.
func fields(t reflect.Type, within []reflect.Type) (out []int) {
	within = append(slices.Clone(within), t)
	for i := range t.NumField() {
		if f := t.Field(i); f.IsExported() && f.Tag.Get("json") != "-" && hasNumbers(f.Type, within) {
			out = append(out, i)
		}
	}
	return out
}

func hasNumbers(t reflect.Type, within []reflect.Type) bool {
	switch t.Kind() {
	case reflect.Float64, reflect.Interface:
		return true
	case reflect.Pointer, reflect.Slice, reflect.Array:
		return hasNumbers(t.Elem(), within)
	case reflect.Struct:
		return t != asTaken && (slices.Contains(within, t) || len(fields(t, within)) > 0)
	}
	return false
}
