package web

import (
	"encoding/json"
	"fmt"
	"os/exec"
	"reflect"
	"strings"
	"testing"
)

// bundled bundles a plain module of the front end, works an expression of it (m) out for each input (v)
// and prints the answers.
const bundled = `
import { rolldown } from 'rolldown'
import { readFileSync } from 'node:fs'
const made = await rolldown({ input: %q, platform: 'node', logLevel: 'silent' })
const { output } = await made.generate({ format: 'esm' })
const m = await import('data:text/javascript,' + encodeURIComponent(output[0].code))
console.log(JSON.stringify(JSON.parse(readFileSync(0, 'utf8')).map((v) => { const out = %s; return out === undefined ? 'undefined' : out })))`

// logic is what the front end answers to each input.
func logic(t *testing.T, module, expression string, in any) []any {
	t.Helper()
	text, err := json.Marshal(in)
	if err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("node", "--input-type=module", "-e", fmt.Sprintf(bundled, "src/"+module, expression))
	cmd.Stdin = strings.NewReader(string(text))
	answer, err := cmd.Output()
	var out []any
	if err != nil || json.Unmarshal(answer, &out) != nil {
		t.Fatalf("%v: %s (make build installs what the front end needs)", err, answer)
	}
	return out
}

// TestThreeVersionsOfOneThing: what only one of two windows changed is taken from that one; what both did
// stays mine and is told; a list is one field.
func TestThreeVersionsOfOneThing(t *testing.T) {
	type object = map[string]any
	cases := []struct {
		before, mine, theirs, want any
		clashes                    int
	}{
		{object{"a": 1, "b": 2}, object{"a": 3, "b": 2}, object{"a": 1, "b": 4}, object{"a": 3.0, "b": 4.0}, 0},
		{object{"a": 1}, object{"a": 2}, object{"a": 3}, object{"a": 2.0}, 1},
		{object{"a": 1}, object{"a": 2}, object{"a": 2}, object{"a": 2.0}, 0},
		{object{"s": object{"x": 1, "y": 1}}, object{"s": object{"x": 2, "y": 1}}, object{"s": object{"x": 1, "y": 2}}, object{"s": object{"x": 2.0, "y": 2.0}}, 0},
		{object{"l": []int{1, 2}}, object{"l": []int{1, 2, 3}}, object{"l": []int{0, 1, 2}}, object{"l": []any{1.0, 2.0, 3.0}}, 1},
		{object{"l": []int{1}}, object{"l": []int{1}}, object{"l": []int{2}}, object{"l": []any{2.0}}, 0},
		{object{"a": 1}, object{"a": 1, "new": 5}, object{"a": 1}, object{"a": 1.0, "new": 5.0}, 0},
		{object{"a": 1}, object{}, object{"a": 1}, object{}, 0}, // taken away
		{nil, object{"a": 1}, object{"b": 2}, object{"a": 1.0, "b": 2.0}, 0},
	}
	var in [][]any
	for _, c := range cases {
		in = append(in, []any{c.before, c.mine, c.theirs})
	}
	for i, got := range logic(t, "shared/server/merge.ts", "(() => { const clashes = []; const out = m.merge(v[0], v[1], v[2], clashes); return { out, clashes: clashes.length } })()", in) {
		c := cases[i]
		if want := (object{"out": c.want, "clashes": float64(c.clashes)}); !reflect.DeepEqual(got, any(want)) {
			t.Errorf("%v: %v, want %v", in[i], got, want)
		}
	}
}

// TestWhatASentVersionBecame: a write whose answer was lost is seen to be there, or not.
func TestWhatASentVersionBecame(t *testing.T) {
	type object = map[string]any
	in := [][]any{
		{object{"a": 1, "b": 1}, object{"a": 2, "b": 1}, object{"a": 2, "b": 9}}, // another window changed b
		{object{"a": 1}, object{"a": 2}, object{"a": 1}},
		{object{"a": 1}, object{"a": 1}, object{"a": 7}}, // nothing was changed
		{object{"s": object{"x": 1}}, object{"s": object{"x": 2}}, object{"s": object{"x": 3}}},
	}
	want := []any{true, false, true, false}
	if got := logic(t, "shared/server/merge.ts", "m.written(...v)", in); !reflect.DeepEqual(got, want) {
		t.Errorf("%v, want %v", got, want)
	}
}

// TestLinesThatMayBeCommands: those that begin with a letter by itself are asked about, no others.
func TestLinesThatMayBeCommands(t *testing.T) {
	in := []string{"r", "j 5", " N 144.1", "4.71 4.86 h", "mid 4.8", "rx 4", "", "?", "5w", "\u00b5 5"}
	want := []any{true, true, true, false, false, false, false, false, false, true}
	if got := logic(t, "measure/power/words.ts", "m.mayCommand(v)", in); !reflect.DeepEqual(got, want) {
		t.Errorf("%v, want %v", got, want)
	}
}

// TestNumbersOfAField: a comma or a point, a true minus; open is not nought, and what is none is told
// apart from both.
func TestNumbersOfAField(t *testing.T) {
	in := []string{"", "  ", "2", "2,5", "2.5", "\u22123", "two", "0", "1.2.3"}
	want := []any{"undefined", "undefined", 2.0, 2.5, 2.5, -3.0, -1.0, 0.0, -1.0}
	if got := logic(t, "shared/numbers.ts", "m.toldNumber(v)", in); !reflect.DeepEqual(got, want) {
		t.Errorf("%v, want %v", got, want)
	}
}

// TestOrdinals: English ones.
func TestOrdinals(t *testing.T) {
	if got, want := logic(t, "shared/figures.ts", "m.ordinal(v)", []int{1, 2, 3, 4, 11, 12, 13, 21, 22, 101, 111}), []any{"1st", "2nd", "3rd", "4th", "11th", "12th", "13th", "21st", "22nd", "101st", "111th"}; !reflect.DeepEqual(got, want) {
		t.Errorf("%v, want %v", got, want)
	}
}
