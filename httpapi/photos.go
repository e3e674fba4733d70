package httpapi

import (
	"context"
	"io"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/labstack/echo/v5"

	"talloak/app"
	"talloak/core/problem"
	"talloak/core/record"
)

// PhotoView is a photograph that is kept.
type PhotoView struct {
	ID      string    `json:"id"`
	About   string    `json:"about"`
	Name    string    `json:"name"`
	TakenAt time.Time `json:"taken_at"`
	SHA256  string    `json:"sha256"`
}

func viewPhoto(p record.Photo) PhotoView {
	return PhotoView{p.ID, p.About, p.Name, p.TakenAt, p.SHA256}
}

func (s *Server) listPhotos(ctx context.Context, in *IDPath) (*body[[]PhotoView], error) {
	all, err := s.app.Store.Photos(ctx, in.ID)
	out := make([]PhotoView, len(all))
	for i, p := range all {
		out[i] = viewPhoto(p)
	}
	return &body[[]PhotoView]{out}, err
}

func (s *Server) getPhoto(ctx context.Context, in *IDPath) (*download, error) {
	p, err := s.app.Store.Photo(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{p.MediaType, "inline", pagePolicy, p.Content}, nil
}

// registerPhoto puts the route on e that takes a photograph as its body.
func (s *Server) registerPhoto(api huma.API, e *echo.Echo) {
	text := &huma.Schema{Type: huma.TypeString}
	picture := &huma.MediaType{Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}
	api.OpenAPI().AddOperation(&huma.Operation{
		OperationID: "add-photo", Method: http.MethodPost, Path: root + "/reviews/{id}/photos", Tags: []string{"measurements"},
		Summary: "Keep a photograph, PNG or JPEG to 10 MB, under an id made by the client; it is drawn anew, without what a camera writes into it",
		Parameters: []*huma.Param{
			{Name: "id", In: "path", Required: true, Schema: text}, {Name: "key", In: "query", Required: true, Schema: text},
			{Name: "about", In: "query", Required: true, Description: "The id of a measurement, or the text of a claim", Schema: text}, {Name: "file", In: "query", Description: "Its name", Schema: text},
		},
		RequestBody: &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{"image/png": picture, "image/jpeg": picture}},
		Responses:   map[string]*huma.Response{"201": {Description: "Created"}},
	})
	e.POST("/api/v1/reviews/:id/photos", func(c *echo.Context) error {
		q := c.Request().URL.Query()
		p := &record.Photo{ID: q.Get("key"), ReviewID: c.Param("id"), About: q.Get("about"), Name: q.Get("file")}
		var bad problem.List
		for field, id := range map[string]string{"id": p.ReviewID, "key": p.ID} {
			if uuid.Validate(id) != nil {
				bad.Add(field, "give a UUID")
			}
		}
		err := bad.Err()
		if err == nil {
			p.Content, err = io.ReadAll(io.LimitReader(c.Request().Body, app.MaxPhoto+1))
		}
		if err == nil {
			err = s.app.AddPhoto(c.Request().Context(), p)
		}
		return answerFile(c, http.StatusCreated, viewPhoto(*p), err)
	})
}
