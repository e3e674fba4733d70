// Package core_test holds the core to what it may import.
package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
)

// TestCoreImportsNothingOfTheWorld: the core does no I/O and knows no database,
// clock, network or screen; beyond the standard library it has gonum alone.
func TestCoreImportsNothingOfTheWorld(t *testing.T) {
	forbidden := []string{"os", "net", "net/http", "database/sql", "os/exec", "log", "log/slog", "embed", "io/ioutil"}
	seen := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		seen++
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		for _, i := range file.Imports {
			name, _ := strconv.Unquote(i.Path.Value)
			outside := strings.Contains(strings.Split(name, "/")[0], ".") && !strings.HasPrefix(name, "gonum.org/")
			ours := strings.HasPrefix(name, "talloak/") && !strings.HasPrefix(name, "talloak/core/")
			for _, f := range forbidden {
				outside = outside || name == f
			}
			if outside || ours {
				t.Errorf("%s imports %s", path, name)
			}
		}
		return nil
	})
	if err != nil || seen < 20 {
		t.Errorf("%d files looked at, %v", seen, err)
	}
}
