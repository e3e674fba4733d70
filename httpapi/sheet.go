package httpapi

import (
	"context"

	"talloak/core/bands"
	"talloak/core/keying"
)

func (s *Server) getSheet(ctx context.Context, in *IDPath) (*body[keying.Plan], error) {
	_, plan, err := s.app.RunSheet(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &body[keying.Plan]{*plan}, nil
}

func (s *Server) getChannelList(ctx context.Context, in *IDPath) (*download, error) {
	f, err := s.app.ChannelList(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{f.MediaType, attachment(f.Name), pagePolicy, f.Content}, nil
}

// BandView is a band as it is in a region, with its channels and the groups of them that
// share a rule on power, and where its edges are from.
type BandView struct {
	bands.Band
	Service  bands.Service   `json:"service"`
	Source   string          `json:"source"`
	Channels []bands.Channel `json:"channels"`
	Groups   []string        `json:"groups"`
}

type bandsAsked struct {
	Region int `query:"region" default:"2" minimum:"1" maximum:"3" doc:"ITU region"`
}

func (s *Server) listBands(_ context.Context, in *bandsAsked) (*body[[]BandView], error) {
	out := []BandView{}
	for _, name := range bands.Names() {
		b, ok := bands.Find(name, bands.Region(in.Region))
		if !ok {
			continue
		}
		v := BandView{b, b.Service, b.Source, b.Channels(), bands.Groups(name)}
		if v.Channels == nil {
			v.Channels = []bands.Channel{}
		}
		if v.Groups == nil {
			v.Groups = []string{}
		}
		out = append(out, v)
	}
	return &body[[]BandView]{out}, nil
}
