package httpapi

import (
	"context"

	"talloak/app"
	"talloak/core/measure/power"
	"talloak/core/record"
)

func (s *Server) getPowerStudy(ctx context.Context, in *IDPath) (*body[power.Study], error) {
	_, study, err := s.app.PowerStudy(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &body[power.Study]{*study}, nil
}

type tableAsked struct {
	IDPath
	Of string `query:"of" required:"true" doc:"The title of the table, as the study's section has it"`
}

func (s *Server) getPowerTable(ctx context.Context, in *tableAsked) (*download, error) {
	f, err := s.app.PowerTable(ctx, in.ID, in.Of)
	if err != nil {
		return nil, err
	}
	return &download{f.MediaType, attachment(f.Name), pagePolicy, f.Content}, nil
}

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

func (s *Server) getGhosts(ctx context.Context, in *IDPath) (*body[[]app.Ghost], error) {
	out, err := s.app.Ghosts(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &body[[]app.Ghost]{out}, nil
}
