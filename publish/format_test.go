package publish

import (
	"encoding/json"
	"os"
	"os/exec"
	"regexp"
	"testing"

	"talloak/core/claims"
	"talloak/core/units"
)

// asShown runs the screen's own formatting over the values: a row of watts, dB, dBm, dBc,
// fine dB, frequency, percent and µV for each.
const asShown = `
const ts = require('./node_modules/typescript'), fs = require('fs')
const { outputText } = ts.transpileModule(fs.readFileSync('src/shared/figures.ts', 'utf8'), { compilerOptions: { module: 'commonjs', target: 'es2022' } })
const m = { exports: {} }
new Function('exports', 'module', outputText)(m.exports, m)
const f = m.exports
const values = JSON.parse(fs.readFileSync(0, 'utf8'))
console.log(JSON.stringify(values.map((v) => [f.watts(Math.abs(v)), f.db(v), f.dbm(v), f.dbc(v), f.fine(v), f.megahertz(Math.abs(v)), f.percent(Math.abs(v)), v ? f.microvolts(Math.abs(v)) : ""])))`

// TestTheScreenRoundsAsTheEditionDoes, to the last figure and at a half: a reviewer must
// not find another figure in the edition than was on the screen.
func TestTheScreenRoundsAsTheEditionDoes(t *testing.T) {
	values := []float64{0, 0.04, -0.04, 0.05, 0.25, -0.25, 0.125, 2.125, 9.995, 9.996, 9995, 0.9995, 9.995e-4, 99.95, 12.5, 0.9996, 1e-3, 9.5e-4, 6.25e-7, 1.5e-12, 4.71, 146.52e6, 1.2417e9, 999.95, 100, 1000, 433.0000005e6}
	in, err := json.Marshal(values)
	if err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("node", "-e", asShown)
	cmd.Dir = "../web"
	stdin, err := cmd.StdinPipe()
	if err != nil {
		t.Fatal(err)
	}
	go func() {
		_, _ = stdin.Write(in)
		_ = stdin.Close()
	}()
	out, err := cmd.CombinedOutput()
	var rows [][]string
	if err != nil || json.Unmarshal(out, &rows) != nil {
		t.Fatalf("%v: %s (make build installs what the front end needs)", err, out)
	}
	microvolts := func(v float64) string {
		if v == 0 {
			return ""
		}
		return units.Microvolts(v).String()
	}
	for i, v := range values {
		a := max(v, -v)
		for k, want := range []string{watts(&a), db(&v), dbm(&v), dbc(&v), fine(&v), hertz(a), claims.Result{Percent: a}.PercentWords(), microvolts(a)} {
			if rows[i][k] != want {
				t.Errorf("%g: the screen shows %q and the edition %q", v, rows[i][k], want)
			}
		}
	}
}

// TestTheScreenSpeaksAsTheEditionDoes: a ruling has the same word beside its shape.
func TestTheScreenSpeaksAsTheEditionDoes(t *testing.T) {
	drawn, err := os.ReadFile("../web/src/shared/shapes/RulingShape.vue")
	if err != nil {
		t.Fatal(err)
	}
	words := map[string]string{}
	for _, m := range regexp.MustCompile(`(?m)^  '?([a-z-]+)'?: '([^']+)',$`).FindAllStringSubmatch(string(drawn), -1) {
		words[m[1]] = m[2]
	}
	for v := range shapes {
		if words[string(v)] != spoken(v) {
			t.Errorf("%s: the screen says %q and the edition %q", v, words[string(v)], spoken(v))
		}
	}
	if len(words) != len(shapes) {
		t.Errorf("%d words for %d shapes", len(words), len(shapes))
	}
}
