package strictjson

import (
	"bytes"
	"encoding"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"reflect"
	"sort"
	"strconv"
	"strings"

	"talloak/core/problem"
)

// Decode reads one JSON object from data into the struct that into points to.
// A JSON null counts as a field not given. The error is a *problem.Error; text
// that is not JSON gives the field "".
func Decode(data []byte, into any) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	d.DisallowUnknownFields()
	tree, err := readValue(d, "")
	if err == nil {
		if _, extra := d.Token(); extra != io.EOF {
			err = problem.New("", "there is more after the JSON value; give one JSON object")
		}
	}
	if err != nil {
		if _, ok := err.(*problem.Error); ok {
			return err
		}
		return problem.New("", "not JSON: %s", strings.TrimPrefix(err.Error(), "json: "))
	}
	if tree == nil {
		return problem.New("", "give a JSON object")
	}
	var bad problem.List
	assign(&bad, "", tree, reflect.ValueOf(into).Elem())
	return bad.Err()
}

// object keeps the members in the order written, so that refusals come in it.
type object struct {
	names  []string
	values map[string]any
}

const maxDepth = 64

func readValue(d *json.Decoder, path string) (any, error) {
	return readDepth(d, path, 0)
}

func readDepth(d *json.Decoder, path string, depth int) (any, error) {
	if depth > maxDepth {
		return nil, problem.New(path, "nested too deeply; at most %d levels", maxDepth)
	}
	t, err := d.Token()
	if err != nil {
		if err == io.EOF {
			err = io.ErrUnexpectedEOF
		}
		return nil, err
	}
	switch t {
	case json.Delim('{'):
		o := object{values: map[string]any{}}
		for d.More() {
			key, err := d.Token()
			if err != nil {
				return nil, err
			}
			name := key.(string)
			if _, twice := o.values[name]; twice {
				return nil, problem.New(problem.Join(path, name), "given twice")
			}
			v, err := readDepth(d, problem.Join(path, name), depth+1)
			if err != nil {
				return nil, err
			}
			o.names = append(o.names, name)
			o.values[name] = v
		}
		_, err = d.Token()
		return o, err
	case json.Delim('['):
		list := []any{}
		for d.More() {
			v, err := readDepth(d, path+"["+strconv.Itoa(len(list))+"]", depth+1)
			if err != nil {
				return nil, err
			}
			list = append(list, v)
		}
		_, err = d.Token()
		return list, err
	}
	return t, nil
}

func assign(bad *problem.List, path string, v any, to reflect.Value) {
	if v == nil {
		figure := to.Kind() == reflect.Pointer && to.Type().Elem().Kind() == reflect.Float64 // one that was not read
		if strings.HasSuffix(path, "]") && !figure {
			bad.Add(path, "null is no value here")
		}
		return
	}
	if to.Kind() == reflect.Pointer {
		fresh := reflect.New(to.Type().Elem())
		assign(bad, path, v, fresh.Elem())
		to.Set(fresh)
		return
	}
	if t, ok := to.Addr().Interface().(encoding.TextUnmarshaler); ok { // a point in time
		s, isText := v.(string)
		if !isText {
			bad.Add(path, "give a text, not %s", kindOf(v))
		} else if err := t.UnmarshalText([]byte(s)); err != nil {
			bad.Add(path, "cannot be read: %s", err.Error())
		}
		return
	}
	switch to.Kind() {
	case reflect.Struct:
		o, ok := v.(object)
		if !ok {
			bad.Add(path, "give an object, not %s", kindOf(v))
			return
		}
		assignStruct(bad, path, o, to)
	case reflect.Map: // by names that are not known before
		o, ok := v.(object)
		if !ok {
			bad.Add(path, "give an object, not %s", kindOf(v))
			return
		}
		to.Set(reflect.MakeMap(to.Type()))
		for _, name := range o.names {
			value := reflect.New(to.Type().Elem()).Elem()
			assign(bad, problem.Join(path, name), o.values[name], value)
			to.SetMapIndex(reflect.ValueOf(name), value)
		}
	case reflect.Slice:
		list, ok := v.([]any)
		if !ok {
			bad.Add(path, "give a list, not %s", kindOf(v))
			return
		}
		out := reflect.MakeSlice(to.Type(), len(list), len(list))
		for i, item := range list {
			if n, isNumber := item.(json.Number); isNumber && out.Index(i).Kind() == reflect.Float64 {
				// The long lists are levels: no path is built for those that are fine.
				if f, err := n.Float64(); err == nil && !math.IsInf(f, 0) {
					out.Index(i).SetFloat(f)
					continue
				}
			}
			assign(bad, path+"["+strconv.Itoa(i)+"]", item, out.Index(i))
		}
		to.Set(out)
	case reflect.String:
		s, ok := v.(string)
		if !ok {
			bad.Add(path, "give a text, not %s", kindOf(v))
			return
		}
		to.SetString(s)
	case reflect.Bool:
		b, ok := v.(bool)
		if !ok {
			bad.Add(path, "give true or false, not %s", kindOf(v))
			return
		}
		to.SetBool(b)
	case reflect.Float64:
		n, ok := v.(json.Number)
		if !ok {
			bad.Add(path, "give a number, not %s", kindOf(v))
			return
		}
		f, err := n.Float64()
		if err != nil || math.IsInf(f, 0) {
			bad.Add(path, "the number %s is too large", shorten(n.String()))
			return
		}
		to.SetFloat(f)
	case reflect.Int:
		n, ok := v.(json.Number)
		if !ok {
			bad.Add(path, "give a whole number, not %s", kindOf(v))
			return
		}
		i, err := strconv.ParseInt(n.String(), 10, 32)
		if err != nil {
			bad.Add(path, "give a whole number, not %s", shorten(n.String()))
			return
		}
		to.SetInt(i)
	default:
		panic("strictjson: no rule for " + to.Type().String())
	}
}

func assignStruct(bad *problem.List, path string, o object, to reflect.Value) {
	fields := map[string]reflect.Value{}
	collectFields(to, fields)
	for _, name := range o.names {
		field, known := fields[name]
		if !known {
			bad.Add(problem.Join(path, name), "unknown field; known here: %s", strings.Join(sortedNames(fields), ", "))
			continue
		}
		assign(bad, problem.Join(path, name), o.values[name], field)
	}
}

func collectFields(v reflect.Value, into map[string]reflect.Value) {
	for i := range v.NumField() {
		f := v.Type().Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		switch {
		case f.Anonymous && name == "":
			collectFields(v.Field(i), into)
		case name != "" && name != "-":
			into[name] = v.Field(i)
		}
	}
}

func sortedNames(m map[string]reflect.Value) []string {
	names := make([]string, 0, len(m))
	for n := range m {
		names = append(names, n)
	}
	sort.Strings(names)
	return names
}

func kindOf(v any) string {
	switch v := v.(type) {
	case object:
		return "an object"
	case []any:
		return "a list"
	case string:
		return fmt.Sprintf("the text %q", shorten(v))
	case bool:
		return strconv.FormatBool(v)
	case json.Number:
		return "the number " + shorten(v.String())
	}
	return "null"
}

func shorten(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}
