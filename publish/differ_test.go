package publish

import "testing"

// TestDifferences: of the same program every digit and word counts; of another what a processor rounds otherwise does
// not, nor words beside rulings, but a figure or a ruling does.
func TestDifferences(t *testing.T) {
	for _, c := range []struct {
		a, b           string
		strict         bool
		figures, words int
	}{
		{`{"w":4.123456789012345}`, `{"w":4.123456789012346}`, true, 1, 0}, {`{"w":4.123456789012345}`, `{"w":4.123456789012346}`, false, 0, 0}, {`{"w":4.1}`, `{"w":4.1001}`, false, 1, 0},
		{`{"why":"a"}`, `{"why":"b"}`, true, 1, 0}, {`{"why":"a"}`, `{"why":"b"}`, false, 0, 1}, {`{"verdict":"pass"}`, `{"verdict":"fail"}`, false, 1, 0},
		{`{"a":1}`, `{"a":1,"b":2}`, false, 0, 0}, {`{"a":1}`, `{"a":1,"b":2}`, true, 1, 0}, {`[1,2]`, `[1]`, false, 1, 0}, {`{"w":null}`, `{"w":1}`, false, 1, 0},
	} {
		got, err := differences([]byte(c.a), []byte(c.b), c.strict)
		if err != nil || len(got.figures) != c.figures || got.words != c.words {
			t.Errorf("%s and %s: %+v %v", c.a, c.b, got, err)
		}
	}
}
