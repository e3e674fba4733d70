package compute

import (
	"encoding/json"
	"errors"
	"math"
	"strconv"
	"strings"
	"testing"

	"talloak/core/problem"
	"talloak/rulebooks"
)

var engine = New(rulebooks.Find, rulebooks.IDs())

// answer is an output that can be asked for figures by dotted path.
type answer struct {
	t    *testing.T
	tree any
}

// run does a calculation that must succeed.
func run(t *testing.T, name, in string) answer {
	t.Helper()
	out, err := engine.Run(name, []byte(in))
	if err != nil {
		t.Fatalf("%s %s: %v", name, in, err)
	}
	var tree any
	if err := json.Unmarshal(out, &tree); err != nil {
		t.Fatal(err)
	}
	return answer{t, tree}
}

// at follows a path such as limits.0.limit_dbm.
func (a answer) at(path string) any {
	a.t.Helper()
	v := a.tree
	for _, key := range strings.Split(path, ".") {
		switch x := v.(type) {
		case map[string]any:
			var ok bool
			if v, ok = x[key]; !ok {
				a.t.Fatalf("no field %q of %q in %v", key, path, x)
			}
		case []any:
			i, err := strconv.Atoi(key)
			if err != nil || i >= len(x) {
				a.t.Fatalf("no item %q of %q", key, path)
			}
			v = x[i]
		default:
			a.t.Fatalf("%q: nothing below %v", path, v)
		}
	}
	return v
}

// near checks a figure to within tolerance.
func (a answer) near(path string, want, tolerance float64) {
	a.t.Helper()
	got, ok := a.at(path).(float64)
	if !ok || math.Abs(got-want) > tolerance {
		a.t.Errorf("%s = %v, want %v within %v", path, a.at(path), want, tolerance)
	}
}

// is checks a text, a truth, a whole number or nil.
func (a answer) is(path string, want any) {
	a.t.Helper()
	if n, ok := want.(int); ok {
		want = float64(n)
	}
	if got := a.at(path); got != want {
		a.t.Errorf("%s = %v, want %v", path, got, want)
	}
}

func (a answer) codes(path string) string {
	a.t.Helper()
	var codes []string
	for _, f := range a.at(path).([]any) {
		codes = append(codes, f.(map[string]any)["code"].(string))
	}
	return strings.Join(codes, " ")
}

// refused checks that an input is refused and which fields are named.
func refused(t *testing.T, name, in string, fields ...string) {
	t.Helper()
	out, err := engine.Run(name, []byte(in))
	var bad *problem.Error
	if !errors.As(err, &bad) {
		t.Errorf("%s %s: not refused: %s %v", name, in, out, err)
		return
	}
	var got []string
	for _, f := range bad.Fields {
		got = append(got, f.Field)
		if f.Detail == "" {
			t.Errorf("%s: %s is refused without a word", in, f.Field)
		}
	}
	if strings.Join(got, " ") != strings.Join(fields, " ") {
		t.Errorf("%s %s: refused %q, want %q (%v)", name, in, got, fields, err)
	}
}

func trim(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }
