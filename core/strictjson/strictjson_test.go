package strictjson

import (
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"talloak/core/problem"
)

type inner struct {
	Hz    float64  `json:"hz"`
	Level *float64 `json:"level"`
}

type shared struct {
	Note string `json:"note"`
}

type outer struct {
	shared
	Name  *string   `json:"name"`
	Count *int      `json:"count"`
	On    bool      `json:"on"`
	Items []inner   `json:"items"`
	Plain []float64 `json:"plain"`
	Deep  *inner    `json:"deep"`
}

func fieldsOf(t *testing.T, err error) string {
	t.Helper()
	var bad *problem.Error
	if err == nil {
		return ""
	}
	if !errors.As(err, &bad) {
		t.Fatalf("%T %v", err, err)
	}
	out := make([]string, len(bad.Fields))
	for i, f := range bad.Fields {
		out[i] = fmt.Sprintf("%q", f.Field)
	}
	return strings.Join(out, " ")
}

func TestDecode(t *testing.T) {
	var o outer
	err := Decode([]byte(`{"name":"a","count":3,"on":true,"note":"n","items":[{"hz":1e6,"level":-3}],"plain":[1,2.5],"deep":{"hz":2},"extra":null}`), &o)
	if fieldsOf(t, err) != `"extra"` {
		t.Errorf("an unknown field, even if null, is refused: %v", err)
	}
	o = outer{}
	if err := Decode([]byte(`{"name":"a","count":3,"on":true,"note":"n","items":[{"hz":1e6,"level":-3}],"plain":[1,2.5],"deep":{"hz":2}}`), &o); err != nil {
		t.Fatal(err)
	}
	if *o.Name != "a" || *o.Count != 3 || !o.On || o.Note != "n" || *o.Items[0].Level != -3 || o.Plain[1] != 2.5 || o.Deep.Hz != 2 {
		t.Errorf("%+v", o)
	}
	o = outer{}
	if err := Decode([]byte(` {"name":null,"deep":null} `), &o); err != nil || o.Name != nil || o.Deep != nil {
		t.Errorf("null counts as not given: %+v %v", o, err)
	}
}

func TestDecodeNamesEveryField(t *testing.T) {
	for in, want := range map[string]string{
		`{"name":1,"count":1.5,"on":"yes"}`:      `"name" "count" "on"`,
		`{"items":[{"hz":"x"},{"Hz":1},3,null]}`: `"items[0].hz" "items[1].Hz" "items[2]" "items[3]"`,
		`{"plain":[1,"x",null,1e999,{}]}`:        `"plain[1]" "plain[2]" "plain[3]" "plain[4]"`,
		`{"deep":[],"items":{}}`:                 `"deep" "items"`,
		`{"deep":{"hz":1,"hz":2}}`:               `"deep.hz"`,
		`{"count":99999999999999999999}`:         `"count"`,
		`{"a":1,"b":2}`:                          `"a" "b"`,
		`[1]`:                                    `""`,
		`"text"`:                                 `""`,
		`{"name":"a"`:                            `""`,
		`{"name":"a",}`:                          `""`,
		`{"name":NaN}`:                           `""`,
		`{} x`:                                   `""`,
		``:                                       `""`,
		strings.Repeat(`{"deep":`, 100) + `1` + strings.Repeat("}", 100): `"` + strings.TrimSuffix(strings.Repeat("deep.", 65), ".") + `"`,
	} {
		var o outer
		if got := fieldsOf(t, Decode([]byte(in), &o)); got != want {
			t.Errorf("%.60s: %s, want %s", in, got, want)
		}
	}
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte(`{"name":"a","items":[{"hz":1}],"plain":[1,null]}`))
	f.Add([]byte(`{"deep":{"hz":1e999}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		var o outer
		if err := Decode(data, &o); err != nil {
			fieldsOf(t, err)
		}
	})
}

// TestPointsInTime are texts (RFC 3339).
func TestPointsInTime(t *testing.T) {
	var in struct {
		At *time.Time `json:"at"`
	}
	if err := Decode([]byte(`{"at":"2026-06-14T09:00:00Z"}`), &in); err != nil || in.At.Unix() != 1781427600 {
		t.Errorf("%v %v", in.At, err)
	}
	for _, bad := range []string{`{"at":"in June"}`, `{"at":5}`} {
		if got := fieldsOf(t, Decode([]byte(bad), &in)); got != `"at"` {
			t.Errorf("%s: %q", bad, got)
		}
	}
}
