package demo_test

import (
	"archive/zip"
	"bytes"
	"io"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// schema compiles a JSON Schema from a file.
func schema(t *testing.T, file string) *jsonschema.Schema {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile(file)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func valid(t *testing.T, s *jsonschema.Schema, what string, content []byte) {
	t.Helper()
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(content))
	if err == nil {
		err = s.Validate(v)
	}
	if err != nil {
		t.Errorf("%s: %v", what, err)
	}
}

// TestDataAndPackageAreValid: the data of every edition of the demo by the schema that is given out with them, and its
// package by the schema of tabular data packages that is published with that standard (Data Package v1, Open Knowledge
// Foundation: the profile of the npm package datapackage 1.1.10).
func TestDataAndPackageAreValid(t *testing.T) {
	_, reviews := load(t)
	data, packages := schema(t, "../docs/edition.schema.json"), schema(t, "testdata/tabular-data-package.json")
	for title, r := range reviews {
		e := freeze(t, r, nil)
		valid(t, data, title, e.doc)
		archive, err := zip.NewReader(bytes.NewReader(e.pack), int64(len(e.pack)))
		if err != nil {
			t.Fatal(err)
		}
		in, err := archive.Open("datapackage.json")
		if err != nil {
			t.Fatal(err)
		}
		described, err := io.ReadAll(in)
		if err != nil {
			t.Fatal(err)
		}
		valid(t, packages, title+", package", described)
	}
}
