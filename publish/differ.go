package publish

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
)

// differing is how two documents differ: in figures and rulings, place by place, and in how many words beside.
type differing struct {
	figures []string
	words   int
}

// differences are those of two JSON texts, as printed and as made anew. With strict any word counts as a figure, and
// what stands in only one of them; else words may differ, and the newer may have more in it.
func differences(printed, again []byte, strict bool) (differing, error) {
	var a, b any
	for _, in := range []struct {
		text []byte
		into *any
	}{{printed, &a}, {again, &b}} {
		d := json.NewDecoder(bytes.NewReader(in.text))
		d.UseNumber() // digit by digit
		if err := d.Decode(in.into); err != nil {
			return differing{}, err
		}
	}
	var out differing
	out.walk("", a, b, strict)
	return out, nil
}

// ruled are the names of words that are rulings.
var ruled = []string{"verdict", "said", "power", "standing", "decided_by"}

func (d *differing) walk(at string, a, b any, strict bool) {
	switch x := a.(type) {
	case map[string]any:
		y, ok := b.(map[string]any)
		if !ok {
			break
		}
		for _, name := range slices.Sorted(maps.Keys(x)) {
			v, has := y[name]
			if !has && !strict {
				continue // a later program may have it elsewhere
			}
			d.walk(at+"."+name, x[name], v, strict || slices.Contains(ruled, name))
		}
		for _, name := range slices.Sorted(maps.Keys(y)) {
			if _, has := x[name]; !has && strict {
				d.differ(at+"."+name, nil, y[name])
			}
		}
		return
	case []any:
		y, ok := b.([]any)
		if !ok || len(x) != len(y) {
			break
		}
		for i := range x {
			d.walk(fmt.Sprintf("%s[%s]", at, placeName(i, x[i])), x[i], y[i], strict)
		}
		return
	case json.Number:
		if y, ok := b.(json.Number); ok && !strict && close(x, y) {
			return
		}
	case string:
		if y, ok := b.(string); ok && x != y && !strict {
			d.words++
			return
		}
	}
	if !same(a, b) {
		d.differ(at, a, b)
	}
}

// close tells whether two numbers differ by no more than what processors round differently, 1 in 10^9.
func close(a, b json.Number) bool {
	x, errX := a.Float64()
	y, errY := b.Float64()
	return errX == nil && errY == nil && math.Abs(x-y) <= 1e-9*max(1, math.Abs(x))
}

// same compares leaves; what is not of a kind is not the same.
func same(a, b any) bool {
	x, errX := json.Marshal(a)
	y, errY := json.Marshal(b)
	return errX == nil && errY == nil && bytes.Equal(x, y)
}

func (d *differing) differ(at string, a, b any) {
	d.figures = append(d.figures, fmt.Sprintf("%s is %s, worked out anew %s", at[min(1, len(at)):], brief(a), brief(b)))
}

func brief(v any) string {
	if v == nil {
		return "not there"
	}
	text, err := json.Marshal(v)
	if err != nil {
		return "no value"
	}
	if r := []rune(string(text)); len(r) > 80 {
		return string(r[:80]) + "…"
	}
	return string(text)
}

// placeName is the name of a part of a list where it has one, else its place.
func placeName(i int, v any) string {
	if m, ok := v.(map[string]any); ok {
		if name, ok := m["name"].(string); ok && name != "" {
			return name
		}
	}
	return fmt.Sprint(i)
}
