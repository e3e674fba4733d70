package httpapi

import (
	"context"
	"fmt"
	"mime"
	"strings"
	"time"

	"talloak/core/measure"
	"talloak/core/record"
)

// EditionView is an edition without its contents.
type EditionView struct {
	ID         string    `json:"id"`
	Number     int       `json:"number"`
	FrozenAt   time.Time `json:"frozen_at"`
	Title      string    `json:"title"`
	Headline   string    `json:"headline"`
	SHA256     string    `json:"sha256"`
	PageSHA256 string    `json:"page_sha256"`
}

func viewEdition(e record.Edition) EditionView {
	return EditionView{e.ID, e.Number, e.FrozenAt, e.Title, e.Headline, e.SHA256, e.PageSHA256}
}

// PublishView is what stands between a review and its next edition. Basis names what was
// seen; the edition is frozen from that, or not at all.
type PublishView struct {
	NextNumber int                `json:"next_number"`
	Obstacles  []measure.Obstacle `json:"obstacles"`
	Ready      bool               `json:"ready"`
	Unchanged  bool               `json:"unchanged" doc:"Nothing has changed since the last edition: there is nothing to freeze"`
	Basis      string             `json:"basis"`
	Editions   []EditionView      `json:"editions"`
}

func (s *Server) getPublish(ctx context.Context, in *IDPath) (*body[PublishView], error) {
	p, err := s.app.Publishing(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	out := PublishView{NextNumber: p.Next, Obstacles: p.Obstacles, Ready: !p.Unchanged, Unchanged: p.Unchanged, Basis: p.Basis, Editions: []EditionView{}}
	for _, o := range out.Obstacles {
		out.Ready = out.Ready && !o.Blocks
	}
	for _, e := range p.Editions {
		out.Editions = append(out.Editions, viewEdition(e))
	}
	return &body[PublishView]{out}, nil
}

type previewAsked struct {
	IDPath
	Basis string `query:"basis" doc:"What was seen; 409 when the review is not that any more"`
}

func (s *Server) previewEdition(ctx context.Context, in *previewAsked) (*download, error) {
	page, err := s.app.PreviewEdition(ctx, in.ID, in.Basis)
	return &download{"text/html; charset=utf-8", "inline", pagePolicy, page}, err
}

type freezing struct {
	IDPath
	Body struct {
		ID    string `json:"id" format:"uuid"`
		Basis string `json:"basis" minLength:"1" doc:"That of what was previewed; 409 when the review is not that any more"`
	}
}

func (s *Server) freezeEdition(ctx context.Context, in *freezing) (*body[EditionView], error) {
	e, err := s.app.Freeze(ctx, in.ID, in.Body.ID, in.Body.Basis)
	if err != nil {
		return nil, err
	}
	return &body[EditionView]{viewEdition(*e)}, nil
}

func (s *Server) getEditionPage(ctx context.Context, in *IDPath) (*download, error) {
	e, err := s.app.Store.Edition(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"text/html; charset=utf-8", "inline", pagePolicy, e.Page}, nil
}

func (s *Server) getEditionData(ctx context.Context, in *IDPath) (*download, error) {
	e, err := s.app.Store.Edition(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"application/json", attachment("edition.json"), pagePolicy, e.Document}, nil
}

// getEditionFile gives the page as a file: it has its faces and pictures in it.
func (s *Server) getEditionFile(ctx context.Context, in *IDPath) (*download, error) {
	e, err := s.app.Store.Edition(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"text/html; charset=utf-8", attachment(editionName(e) + ".html"), pagePolicy, e.Page}, nil
}

func (s *Server) getEditionText(ctx context.Context, in *IDPath) (*download, error) {
	text, err := s.app.EditionText(ctx, in.ID)
	return &download{"text/plain; charset=utf-8", "inline", pagePolicy, text}, err
}

func (s *Server) getEditionPackage(ctx context.Context, in *IDPath) (*download, error) {
	e, pack, err := s.app.EditionPackage(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"application/zip", attachment(editionName(e) + ".zip"), pagePolicy, pack}, nil
}

// editionName is what a file of an edition is called, without what an address or a shell takes for more.
func editionName(e *record.Edition) string {
	plain := strings.Map(func(r rune) rune {
		switch {
		case r >= '0' && r <= '9', r >= 'A' && r <= 'Z', r >= 'a' && r <= 'z':
			return r
		}
		return '-'
	}, e.Title)
	return fmt.Sprintf("%s-edition-%d", strings.Join(strings.FieldsFunc(plain, func(r rune) bool { return r == '-' }), "-"), e.Number)
}

func attachment(name string) string {
	return mime.FormatMediaType("attachment", map[string]string{"filename": name})
}
