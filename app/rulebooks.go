package app

import (
	"context"
	"encoding/json"
	"fmt"
	"sync"

	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/store"
)

// shelved is the shelf of rule books as it was last read, and at which word.
type shelved struct {
	sync.Mutex
	at    string
	shelf *rulebook.Shelf
}

// checkedWord is what is kept of a check: it holds for the wording it was made of, and for
// no other, be that of the user or of a later program.
type checkedWord struct {
	rulebook.Checked
	Of string `json:"of"`
}

// ErrBookStands is that another book has the id, or this one another wording than was changed.
var ErrBookStands = fmt.Errorf("another wording stands: %w", store.ErrStale)

// AnyWording changes whatever wording stands.
const AnyWording = "any"

// Wording names a book as it is worded.
func Wording(b *rulebook.Book) string {
	plain := *b
	plain.Checked = nil
	return store.Fingerprint(plain)
}

// Shelf is the rule books that ship and those of the user's own, as they stand now. It must
// not be changed.
func (a *App) Shelf(ctx context.Context) (*rulebook.Shelf, error) {
	at, err := a.Store.BookWordsAt(ctx)
	if err != nil {
		return nil, err
	}
	a.shelved.Lock()
	defer a.shelved.Unlock()
	if a.shelved.shelf != nil && a.shelved.at == at {
		return a.shelved.shelf, nil
	}
	words, err := a.Store.BookWords(ctx)
	if err != nil {
		return nil, err
	}
	a.shelved.at, a.shelved.shelf = at, a.shelfOf(words)
	return a.shelved.shelf, nil
}

// shelfOf is the shelf by all that was written of rule books, in order.
func (a *App) shelfOf(words []record.BookWord) *rulebook.Shelf {
	shelf := rulebook.NewShelf(a.books, a.ids)
	for _, w := range words {
		switch w.What {
		case record.BookWritten:
			if b, err := rulebook.Parse(w.Content); err == nil {
				shelf.Put(b)
			} else {
				shelf.PutUnread(w.BookID, err)
			}
		case record.BookChecked:
			var c checkedWord
			if b, ok := shelf.Find(w.BookID); ok && json.Unmarshal(w.Content, &c) == nil && c.Of == Wording(b) {
				shelf.Check(w.BookID, c.Checked)
			}
		case record.BookWithdrawn:
			shelf.Withdraw(w.BookID)
		}
	}
	return shelf
}

// WriteBook puts a book of the user's own on the shelf, or a new wording of it over the one
// named; ErrBookStands where another stands under its id.
func (a *App) WriteBook(ctx context.Context, key string, text json.RawMessage, over string) (*rulebook.Book, error) {
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	book, err := shelf.Accept(text)
	if err != nil {
		return nil, err
	}
	content, err := json.Marshal(book)
	if err != nil {
		return nil, err
	}
	w := &record.BookWord{ID: key, BookID: book.ID, What: record.BookWritten, Content: content}
	return book, a.bookWord(ctx, w, book, func(shelf *rulebook.Shelf) error {
		// What stands may be this very wording, of another window.
		if b, ok := shelf.Find(book.ID); ok && over != AnyWording && over != Wording(b) && Wording(book) != Wording(b) {
			return ErrBookStands
		}
		return nil
	})
}

// CheckBook notes that a book was held against its text.
func (a *App) CheckBook(ctx context.Context, key, id string, c rulebook.Checked) error {
	if err := c.Check(); err != nil {
		return err
	}
	w := &record.BookWord{ID: key, BookID: id, What: record.BookChecked}
	return a.bookWord(ctx, w, c, func(shelf *rulebook.Shelf) (err error) {
		b, err := standing(shelf, id, false)
		if err == nil {
			w.Content, err = json.Marshal(checkedWord{c, Wording(b)})
		}
		return err
	})
}

// WithdrawBook takes a book of the user's own out of what is offered; reviews that are
// judged by it still are.
func (a *App) WithdrawBook(ctx context.Context, key, id string) error {
	w := &record.BookWord{ID: key, BookID: id, What: record.BookWithdrawn, Content: json.RawMessage("{}")}
	return a.bookWord(ctx, w, nil, func(shelf *rulebook.Shelf) error {
		_, err := standing(shelf, id, true)
		return err
	})
}

// standing is a book by its id; store.ErrNotFound where there is none.
func standing(shelf *rulebook.Shelf, id string, own bool) (*rulebook.Book, error) {
	b, ok := shelf.Find(id)
	switch {
	case !ok:
		return nil, store.ErrNotFound
	case own && !shelf.IsOwn(id):
		return nil, problem.New("id", "%s ships with the program and stays: copy it, and change the copy", id)
	}
	return b, nil
}

// bookWord writes a word of a rule book, once for what was asked, where it may be: that is
// looked at on the shelf as it stands in the very moment of the write.
func (a *App) bookWord(ctx context.Context, w *record.BookWord, asked any, may func(*rulebook.Shelf) error) error {
	if err := checkTexts(struct {
		Asked any `json:""`
	}{untyped(asked)}); err != nil {
		return err
	}
	again, err := a.Store.AddBookWord(ctx, w, store.Fingerprint([]any{w.BookID, w.What, asked}), func(words []record.BookWord) error { return may(a.shelfOf(words)) })
	if err == nil && !again {
		a.Events.publish("rule-book", w.BookID, "")
	}
	return err
}

// untyped is a value as JSON has it.
func untyped(v any) (out any) {
	if text, err := json.Marshal(v); err == nil {
		_ = json.Unmarshal(text, &out)
	}
	return out
}
