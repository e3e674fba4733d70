package main

import (
	"cmp"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// tests are those of the core, built once with every condition in them: which one is false is told by the
// environment. So a mutant costs the running of tests, not their building.
type tests struct{ dir string }

// switched is the package in which a condition asks whether it is the one that is false.
const switched = `package switched

import (
	"os"
	"strconv"
)

var at, _ = strconv.Atoi(os.Getenv("MUTANT"))

func Off(n int) bool { return n == at }
`

// build numbers the conditions among the mutants and builds the tests with them.
func build(all []mutant) *tests {
	type edit struct {
		at, inner int // where two end, that which begins later ends first
		text      string
	}
	edits, sources := map[string][]edit{}, map[string][]byte{}
	for i := range all {
		m := &all[i]
		if m.now != "("+string(m.source[m.from:m.to])+") && false" {
			continue
		}
		m.number = i + 1
		sources[m.file] = m.source
		edits[m.file] = append(edits[m.file], edit{m.from, m.from, "("}, edit{m.to, -m.from, fmt.Sprintf(") && !switched.Off(%d)", m.number)})
	}
	dir, err := os.MkdirTemp("", "mutants")
	check(err)
	files := map[string][]byte{filepath.Join("core", "switched", "switched.go"): []byte(switched)}
	for file, source := range sources {
		of := edits[file]
		slices.SortStableFunc(of, func(a, b edit) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.inner, b.inner)) })
		var out strings.Builder
		from := 0
		for _, e := range of {
			out.Write(source[from:e.at])
			out.WriteString(e.text)
			from = e.at
		}
		out.Write(source[from:])
		text := out.String()
		at := strings.Index(text, "\npackage ")
		if strings.HasPrefix(text, "package ") {
			at = 0
		}
		end := at + 1 + strings.Index(text[at+1:], "\n")
		files[file] = []byte(text[:end] + "\n\nimport \"talloak/core/switched\"\n" + text[end:])
	}
	if len(sources) > 0 {
		out, err := exec.Command("go", "test", "-c", "-vet=off", "-overlay", overlay(dir, files), "-o", dir+string(filepath.Separator), "./core/...").CombinedOutput()
		if err != nil {
			check(fmt.Errorf("%s%w", out, err))
		}
	}
	return &tests{dir}
}

// caught tells whether a test fails with the mutant: of its own room, else of any in the core that uses it.
func (t *tests) caught(m mutant) (missed, is bool) {
	if m.number == 0 {
		return caught(m)
	}
	own := "talloak/core/" + m.room
	for _, pkg := range append([]string{own}, users(own)...) {
		dir := strings.TrimPrefix(pkg, "talloak/")
		binary := filepath.Join(t.dir, filepath.Base(dir)+".test")
		if _, err := os.Stat(binary); err != nil {
			continue // it has no tests
		}
		ctx, stop := context.WithTimeout(context.Background(), time.Minute)
		run := exec.CommandContext(ctx, binary, "-test.failfast", "-test.timeout=50s")
		run.Dir, run.Env = dir, append(os.Environ(), fmt.Sprint("MUTANT=", m.number))
		err := run.Run()
		stop()
		if err != nil {
			return true, true
		}
	}
	return false, true
}
