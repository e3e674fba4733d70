package record

import "encoding/json"

// What is written of a rule book: the book itself, that it was checked against the text, or
// that it is withdrawn from the lists.
const (
	BookWritten   = "book"
	BookChecked   = "checked"
	BookWithdrawn = "withdrawn"
)

// BookWord is one thing written of a rule book, never changed; the last one counts. Content
// is the book, or a rulebook.Checked.
type BookWord struct {
	ID      string
	BookID  string
	What    string
	Content json.RawMessage
}
