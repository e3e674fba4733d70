package measure

import (
	"errors"
	"fmt"
	"math"
	"reflect"

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
	if out, err = work(); err == nil && !finite(reflect.ValueOf(out)) {
		err = errors.New("its figures are beyond all numbers")
	}
	return out, err
}

var asTaken = reflect.TypeFor[*record.Through]() // the path as it was: bounded where it was kept

// finite tells whether every number in v that is written down can be.
func finite(v reflect.Value) bool {
	switch v.Kind() {
	case reflect.Float64:
		f := v.Float()
		return !math.IsNaN(f) && !math.IsInf(f, 0)
	case reflect.Pointer, reflect.Interface:
		return v.IsNil() || v.Type() == asTaken || finite(v.Elem())
	case reflect.Slice:
		for i := range v.Len() {
			if !finite(v.Index(i)) {
				return false
			}
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if f := v.Type().Field(i); f.IsExported() && f.Tag.Get("json") != "-" && !finite(v.Field(i)) {
				return false
			}
		}
	}
	return true
}
