package httpapi

import (
	"context"
	"mime"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"talloak/dossier"
	"talloak/publish"
	"talloak/store"
)

// EditionView is an edition without its contents.
type EditionView struct {
	ID       string    `json:"id"`
	Number   int       `json:"number"`
	FrozenAt time.Time `json:"frozen_at"`
	Title    string    `json:"title"`
	Headline string    `json:"headline"`
	SHA256   string    `json:"sha256"`
}

func viewEdition(e store.Edition) EditionView {
	return EditionView{e.ID, e.Number, e.FrozenAt, e.Title, e.Headline, e.SHA256}
}

// PublishView is what stands between a review and its next edition.
type PublishView struct {
	NextNumber int                `json:"next_number"`
	Obstacles  []publish.Obstacle `json:"obstacles"`
	Ready      bool               `json:"ready"`
	Editions   []EditionView      `json:"editions"`
}

func (s *Server) registerEditions(api huma.API) {
	tag := []string{"editions"}
	huma.Register(api, huma.Operation{OperationID: "get-publish", Method: http.MethodGet, Path: "/api/v1/reviews/{id}/publish", Summary: "What stands between a review and its next edition", Tags: tag},
		func(ctx context.Context, in *IDPath) (*body[PublishView], error) {
			d, next, editions, err := s.forEdition(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			out := PublishView{NextNumber: next, Obstacles: publish.Obstacles(d, d.Board(false)), Ready: true, Editions: []EditionView{}}
			for _, o := range out.Obstacles {
				out.Ready = out.Ready && !o.Blocks
			}
			for _, e := range editions {
				out.Editions = append(out.Editions, viewEdition(e))
			}
			return &body[PublishView]{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "preview-edition", Method: http.MethodGet, Path: "/api/v1/reviews/{id}/preview", Summary: "The page as the next edition would show it", Tags: tag},
		func(ctx context.Context, in *IDPath) (*download, error) {
			d, next, _, err := s.forEdition(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			page, err := publish.Preview(d, next)
			return &download{"text/html; charset=utf-8", "inline", pagePolicy, page}, answer(err)
		})
	huma.Register(api, huma.Operation{OperationID: "freeze-edition", Method: http.MethodPost, Path: "/api/v1/reviews/{id}/editions", Summary: "Freeze the next edition under an id made by the client", Tags: tag, DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct {
			IDPath
			Body struct {
				ID string `json:"id" format:"uuid"`
			}
		}) (*body[EditionView], error) {
			d, _, _, err := s.forEdition(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			e := &store.Edition{ID: in.Body.ID, RequestHash: store.Fingerprint([]string{in.ID, in.Body.ID}), ReviewID: in.ID}
			_, err = s.store.Freeze(ctx, e, func(e *store.Edition) error { return publish.Freeze(d, e) })
			if err != nil {
				return nil, answer(err)
			}
			return &body[EditionView]{viewEdition(*e)}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-edition-page", Method: http.MethodGet, Path: "/api/v1/editions/{id}/page", Summary: "An edition as a web page in one file, byte by byte as frozen", Tags: tag},
		func(ctx context.Context, in *IDPath) (*download, error) {
			e, err := s.store.Edition(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			return &download{"text/html; charset=utf-8", "inline", pagePolicy, e.Page}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-edition-data", Method: http.MethodGet, Path: "/api/v1/editions/{id}/data", Summary: "An edition's data as JSON, byte by byte as frozen", Tags: tag},
		func(ctx context.Context, in *IDPath) (*download, error) {
			e, err := s.store.Edition(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			return &download{"application/json", attachment("edition.json"), pagePolicy, e.Document}, nil
		})
}

func attachment(name string) string {
	return mime.FormatMediaType("attachment", map[string]string{"filename": name})
}

// forEdition works a review out and tells the number of its next edition.
func (s *Server) forEdition(ctx context.Context, id string) (*dossier.Dossier, int, []store.Edition, error) {
	d, err := s.open(ctx, id, store.WithTraces, nil)
	if err != nil {
		return nil, 0, nil, err
	}
	editions, err := s.store.Editions(ctx, id)
	return d, len(editions) + 1, editions, err
}
