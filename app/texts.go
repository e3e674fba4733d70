package app

import (
	"fmt"
	"reflect"
	"strings"
	"unicode/utf8"

	"talloak/core/problem"
)

// maxText is the longest text that is taken in a field, in characters; files that are
// kept in one may be longer.
const maxText = 2000

// checkTexts refuses texts that cannot be kept: with a NUL in them, not UTF-8, or longer
// than a person types; a file in one is held to a size by who reads it. Errors are on the fields by their names in JSON.
func checkTexts(in any) error {
	var bad problem.List
	walkTexts(&bad, "", "", reflect.ValueOf(in))
	return bad.Err()
}

func walkTexts(bad *problem.List, path, name string, v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			walkTexts(bad, path, name, v.Elem())
		}
	case reflect.Struct:
		for i := range v.NumField() {
			f := v.Type().Field(i)
			if !f.IsExported() {
				continue
			}
			field, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			if f.Anonymous && field == "" {
				walkTexts(bad, path, name, v.Field(i))
			} else if field != "-" {
				walkTexts(bad, problem.Join(path, field), field, v.Field(i))
			}
		}
	case reflect.Map:
		for _, key := range v.MapKeys() {
			walkTexts(bad, problem.Join(path, key.String()), key.String(), v.MapIndex(key))
		}
	case reflect.Slice:
		if v.Type().Elem().Kind() == reflect.Uint8 {
			return
		}
		for i := range v.Len() {
			walkTexts(bad, fmt.Sprintf("%s[%d]", path, i), name, v.Index(i))
		}
	case reflect.String:
		s := v.String()
		switch {
		case strings.ContainsRune(s, 0):
			bad.Add(path, "has a NUL character in it, which cannot be kept; take it out")
		case !utf8.ValidString(s):
			bad.Add(path, "is not UTF-8 text")
		case utf8.RuneCountInString(s) > maxText && !strings.HasSuffix(name, "touchstone") && name != "file":
			bad.Add(path, "is over %d characters long", maxText)
		}
	}
}
