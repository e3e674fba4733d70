package httpapi

import (
	"context"

	"talloak/core/bands"
	"talloak/core/record"
)

// Publication is what is said once of the publication.
type Publication struct {
	Region bands.Region        `json:"itu_region" required:"false" doc:"ITU region from which new reviews begin; 0 until it was said. Written as 0 or left out, it stays as it is"`
	Who    *record.Publication `json:"who,omitempty" doc:"Who publishes; left out, it stays as it is"`
	Demo   string              `json:"demo,omitempty" readOnly:"true" doc:"Where this is the demo the review to open first; empty where it is not"`
}

func (s *Server) getPublication(ctx context.Context, _ *nothing) (*body[Publication], error) {
	r, err := s.app.Region(ctx)
	if err != nil {
		return nil, err
	}
	who, err := s.app.Store.Publication(ctx)
	if err != nil {
		return nil, err
	}
	out := Publication{Region: r, Who: &who}
	if _, err := s.app.Store.Review(ctx, s.first); s.first != "" && err == nil {
		out.Demo = s.first
	}
	return &body[Publication]{out}, nil
}

type publicationWrite struct {
	Body Publication
}

func (s *Server) putPublication(ctx context.Context, in *publicationWrite) (*body[Publication], error) {
	if in.Body.Region != 0 || in.Body.Who == nil {
		if err := s.app.SetRegion(ctx, in.Body.Region); err != nil {
			return nil, err
		}
	}
	if in.Body.Who != nil {
		if err := s.app.SetPublication(ctx, *in.Body.Who); err != nil {
			return nil, err
		}
	}
	return s.getPublication(ctx, nil)
}
