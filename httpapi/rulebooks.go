package httpapi

import (
	"context"
	"encoding/json"

	"talloak/app"
	"talloak/core/rulebook"
	"talloak/store"
)

// BookView is a rule book as it stands; one of the user's own did not ship.
type BookView struct {
	rulebook.Book
	Own     bool   `json:"own"`
	Wording string `json:"wording" doc:"Names the book as it is worded"`
}

func bookView(shelf *rulebook.Shelf, b *rulebook.Book) BookView {
	return BookView{*b, shelf.IsOwn(b.ID), app.Wording(b)}
}

// BookWrite is a book of the user's own, under a key made by the client.
type BookWrite struct {
	ID   string          `json:"id" format:"uuid"`
	Book json.RawMessage `json:"book"`
	Over string          `json:"over,omitempty" doc:"The wording it changes, 'any' for whatever stands; 409 where another stands under its id"`
}

// BookChecked says that a book was held against its text.
type BookChecked struct {
	ID string `json:"id" format:"uuid"`
	rulebook.Checked
}

// BookPath names a rule book.
type BookPath struct {
	Book string `path:"book" maxLength:"60"`
}

func (s *Server) listRuleBooks(ctx context.Context, _ *nothing) (*body[[]BookView], error) {
	shelf, err := s.app.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	out := []BookView{}
	for _, b := range shelf.Books() {
		out = append(out, bookView(shelf, b))
	}
	return &body[[]BookView]{out}, nil
}

func (s *Server) exportRuleBook(ctx context.Context, in *BookPath) (*download, error) {
	shelf, err := s.app.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	b, ok := shelf.Find(in.Book)
	if !ok {
		return nil, store.ErrNotFound
	}
	text, err := json.MarshalIndent(b, "", "  ")
	return &download{"application/json", attachment(b.ID + ".json"), pagePolicy, append(text, '\n')}, err
}

func (s *Server) addRuleBook(ctx context.Context, in *struct{ Body BookWrite }) (*body[BookView], error) {
	b, err := s.app.WriteBook(ctx, in.Body.ID, in.Body.Book, in.Body.Over)
	if err != nil {
		return nil, err
	}
	return s.ruleBook(ctx, b.ID)
}

func (s *Server) checkRuleBook(ctx context.Context, in *struct {
	BookPath
	Body BookChecked
}) (*body[BookView], error) {
	if err := s.app.CheckBook(ctx, in.Body.ID, in.Book, in.Body.Checked); err != nil {
		return nil, err
	}
	return s.ruleBook(ctx, in.Book)
}

func (s *Server) withdrawRuleBook(ctx context.Context, in *struct {
	BookPath
	Body struct {
		ID string `json:"id" format:"uuid"`
	}
}) (*body[BookView], error) {
	if err := s.app.WithdrawBook(ctx, in.Body.ID, in.Book); err != nil {
		return nil, err
	}
	return s.ruleBook(ctx, in.Book)
}

func (s *Server) ruleBook(ctx context.Context, id string) (*body[BookView], error) {
	shelf, err := s.app.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	b, _ := shelf.Find(id)
	return &body[BookView]{bookView(shelf, b)}, nil
}
