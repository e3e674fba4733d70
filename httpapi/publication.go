package httpapi

import (
	"context"

	"talloak/core/bands"
)

// Publication is what is said once of the publication.
type Publication struct {
	Region bands.Region `json:"itu_region" doc:"ITU region from which new reviews begin; 0 until it was said"`
}

func (s *Server) getPublication(ctx context.Context, _ *nothing) (*body[Publication], error) {
	r, err := s.app.Region(ctx)
	return &body[Publication]{Publication{r}}, err
}

type publicationWrite struct {
	Body Publication
}

func (s *Server) putPublication(ctx context.Context, in *publicationWrite) (*body[Publication], error) {
	err := s.app.SetRegion(ctx, in.Body.Region)
	return &body[Publication]{in.Body}, err
}
