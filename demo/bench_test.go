package demo_test

import (
	"testing"
	"time"

	"talloak/app"
	"talloak/core/kinds"
	"talloak/demo"
	"talloak/publish"
	"talloak/rulebooks"
	"talloak/store"
	"talloak/store/storetest"
)

// BenchmarkEdition is what comes out of the demo's largest edition: its freezing, and its PDF (aim 1 s).
func BenchmarkEdition(b *testing.B) {
	s := storetest.Open(b)
	a := app.New(s, kinds.All(), rulebooks.Find, rulebooks.IDs())
	if err := demo.Load(b.Context(), a); err != nil {
		b.Fatal(err)
	}
	reviews, err := s.Reviews(b.Context(), nil, 100)
	if err != nil {
		b.Fatal(err)
	}
	var largest *publish.Document
	size := 0
	for i := range reviews {
		r, err := a.Open(b.Context(), reviews[i].Review.ID, store.WithTraces, nil)
		if err != nil {
			b.Fatal(err)
		}
		doc, _, _, err := publish.Compose(r, publish.Frame{ID: "e", Number: 1, FrozenAt: time.Unix(0, 0), Kind: publish.First}, nil, nil)
		if err != nil {
			b.Fatal(err)
		}
		if len(doc) > size {
			size = len(doc)
			if largest, err = publish.Read(doc); err != nil {
				b.Fatal(err)
			}
		}
	}
	b.Run("PDF", func(b *testing.B) {
		for b.Loop() {
			if _, err := largest.PDF("a4", ""); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("freezing", func(b *testing.B) {
		r, err := largest.Reopen(kinds.All())
		if err != nil {
			b.Fatal(err)
		}
		for b.Loop() {
			if _, _, _, err := publish.Compose(r, publish.Frame{ID: "e", Number: 1, FrozenAt: time.Unix(0, 0), Kind: publish.First}, nil, nil); err != nil {
				b.Fatal(err)
			}
		}
	})
}
