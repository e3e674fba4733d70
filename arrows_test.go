// Package talloak_test holds the rooms of the house to the way their arrows point.
package talloak_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
)

// may lists, for every room outside the core, the rooms of ours it may know beside the
// core. A room that is not here may not be there.
var may = map[string][]string{
	"app":                   {"store", "publish", "publish/drawing", "instruments", "instruments/simulated", "practice"},
	"cmd/talloak":           {"app", "demo", "httpapi", "instruments/simulated", "practice", "publish", "rulebooks", "store", "web"},
	"demo":                  {"app", "instruments/simulated", "publish", "store"},
	"httpapi":               {"app", "practice", "publish", "store"},
	"instruments":           {},
	"instruments/scpi":      {},
	"instruments/simulated": {"instruments/scpi"},
	"practice":              {"instruments/simulated"},
	"measuretest":           {"rulebooks"},
	"publish":               {"publish/drawing"},
	"publish/drawing":       {},
	"rulebooks":             {},
	"scripts":               {},
	"scripts/campaign":      {},
	"scripts/mutants":       {},
	"store":                 {},
	"store/storetest":       {"store"},
	"web":                   {},
	"e2e":                   {},
}

// TestTheArrowsPointOneWay: web -> httpapi -> app -> (store, publish, instruments) -> core.
func TestTheArrowsPointOneWay(t *testing.T) {
	seen := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if name := d.Name(); d.IsDir() && (name == "node_modules" || name == "dist" || len(name) > 1 && strings.HasPrefix(name, ".")) {
			return fs.SkipDir
		}
		if d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasPrefix(path, "core/") {
			return nil
		}
		seen++
		room := filepath.ToSlash(filepath.Dir(path))
		allowed, known := may[room]
		if !known {
			t.Errorf("%s: the room %s is in no list", path, room)
			return nil
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		for _, i := range file.Imports {
			name, _ := strconv.Unquote(i.Path.Value)
			ours, is := strings.CutPrefix(name, "talloak/")
			if !is || strings.HasPrefix(ours, "core/") {
				continue
			}
			fine := false
			for _, a := range allowed {
				fine = fine || a == ours
			}
			if !fine {
				t.Errorf("%s imports %s", path, name)
			}
		}
		return nil
	})
	if err != nil || seen < 40 {
		t.Errorf("%d files looked at, %v", seen, err)
	}
}

// TestKindsAreKnownByTheirListAlone: outside their own rooms, the list, and the rooms that
// rest on power or draw the first two in their own way, nobody names a kind.
func TestKindsAreKnownByTheirListAlone(t *testing.T) {
	may := map[string][]string{
		"power":       {"core/kinds", "core/keying", "core/measure/power", "core/measure/emissions", "core/measure/supply", "publish", "demo"},
		"emissions":   {"core/kinds", "core/measure/emissions", "publish", "demo"},
		"sensitivity": {"core/kinds", "core/measure/sensitivity", "core/compute"},
		"frequency":   {"core/kinds", "core/compute", "demo"},
		"deviation":   {"core/kinds", "core/compute", "demo"},
		"occupied":    {"core/kinds", "core/compute", "demo"},
		"antenna":     {"core/kinds", "core/compute", "demo"},
		"battery":     {"core/kinds", "core/compute", "demo"},
		"supply":      {"core/kinds", "demo"},
		"features":    {"core/kinds", "demo"},
		"receiver":    {"core/kinds", "demo"},
		"simple":      {"core/measure/antenna", "core/measure/frequency", "core/measure/deviation", "core/measure/occupied", "core/measure/supply", "core/measure/battery", "core/measure/features", "core/measure/receiver", "core/measure/sensitivity"},
	}
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() && (d.Name() == "node_modules" || d.Name() == ".data") {
			return map[bool]error{true: fs.SkipDir, false: err}[err == nil]
		}
		if d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		room := filepath.ToSlash(filepath.Dir(path))
		for _, i := range file.Imports {
			name, _ := strconv.Unquote(i.Path.Value)
			kind, is := strings.CutPrefix(name, "talloak/core/measure/")
			fine := !is
			for _, a := range may[kind] {
				fine = fine || a == room
			}
			if !fine {
				t.Errorf("%s knows the kind %s", path, kind)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}
