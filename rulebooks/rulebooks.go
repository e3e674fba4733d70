package rulebooks

import (
	"embed"
	"fmt"
	"slices"
	"strings"

	"talloak/core/rulebook"
)

//go:embed *.json
var files embed.FS

const schemaFile = "rulebook.schema.json"

var shipped = load()

func load() map[string]*rulebook.Book {
	entries, err := files.ReadDir(".")
	if err != nil {
		panic(err)
	}
	books := map[string]*rulebook.Book{}
	for _, e := range entries {
		if e.Name() == schemaFile {
			continue
		}
		data, err := files.ReadFile(e.Name())
		if err != nil {
			panic(err)
		}
		b, err := rulebook.Parse(data)
		if err != nil {
			panic(fmt.Sprintf("shipped rule book %s: %v", e.Name(), err))
		}
		if b.ID+".json" != e.Name() {
			panic(fmt.Sprintf("shipped rule book %s calls itself %s", e.Name(), b.ID))
		}
		books[b.ID] = b
	}
	return books
}

// Find is a shipped book by its id. It must not be changed.
func Find(id string) (*rulebook.Book, bool) {
	b, ok := shipped[id]
	return b, ok
}

// IDs lists the shipped books, law before house practice.
func IDs() []string {
	ids := make([]string, 0, len(shipped))
	for id := range shipped {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, func(a, b string) int {
		if ka, kb := shipped[a].Kind, shipped[b].Kind; ka != kb {
			return strings.Compare(kb, ka)
		}
		return strings.Compare(a, b)
	})
	return ids
}

// Schema is the JSON Schema of a book.
func Schema() []byte {
	data, err := files.ReadFile(schemaFile)
	if err != nil {
		panic(err)
	}
	return data
}
