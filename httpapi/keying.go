package httpapi

import (
	"context"

	"talloak/core/keying"
	"talloak/core/record"
)

// UnplannedAsk is a step that is on no sheet, as it is typed, and where one is now.
type UnplannedAsk struct {
	Text string       `json:"text" maxLength:"200"`
	Now  record.Keyed `json:"now"`
}

type unplannedAsked struct {
	IDPath
	Body UnplannedAsk
}

func (s *Server) getUnplanned(ctx context.Context, in *unplannedAsked) (*body[record.Keyed], error) {
	k, err := s.app.Unplanned(ctx, in.ID, in.Body.Text, in.Body.Now)
	if err != nil {
		return nil, err
	}
	return &body[record.Keyed]{k}, nil
}

// WaysAsk is which paths are asked for: to measure power or emissions of some boxes.
type WaysAsk struct {
	Purpose string         `json:"purpose" enum:"power,emissions"`
	Boxes   []record.Keyed `json:"boxes" maxItems:"200"`
	Last    string         `json:"last" required:"false" maxLength:"60" doc:"The path used last in another review"`
}

type waysAsked struct {
	IDPath
	Body WaysAsk
}

func (s *Server) getWays(ctx context.Context, in *waysAsked) (*body[[][]keying.Way], error) {
	out, err := s.app.WaysTo(ctx, in.ID, in.Body.Purpose, in.Body.Boxes, in.Body.Last)
	if err != nil {
		return nil, err
	}
	return &body[[][]keying.Way]{out}, nil
}

func (s *Server) getGhosts(ctx context.Context, in *IDPath) (*body[[]keying.Ghost], error) {
	out, err := s.app.Ghosts(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &body[[]keying.Ghost]{out}, nil
}
