// Package rulebooks ships rule books: one JSON file a book, with a JSON Schema
// beside them. What they mean is package core/rulebook. Start from Find.
package rulebooks
