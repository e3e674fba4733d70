package httpapi

import (
	"context"

	"talloak/app"
	"talloak/core/advise"
	"talloak/core/dc"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/core/wiring"
)

// PathDraft is a path as it is drawn.
type PathDraft struct {
	Name            string             `json:"name" maxLength:"200"`
	Socket          string             `json:"socket" required:"false" maxLength:"100" doc:"The radio's socket it starts from; some have two"`
	Parts           []record.PathPart  `json:"parts" maxItems:"60"`
	Supply          *record.PathSupply `json:"supply,omitempty"`
	AppliedOffsetDB float64            `json:"applied_offset_db" required:"false" doc:"What the instrument already adds to what it shows, with its sign"`
}

func (d *PathDraft) path(id string, version int) *record.Path {
	return &record.Path{ID: id, Version: version, Name: d.Name, Socket: d.Socket, Parts: d.Parts, Supply: d.Supply, AppliedOffsetDB: d.AppliedOffsetDB}
}

// WiringAsk is what will be keyed into a path.
type WiringAsk struct {
	FrequencyHz float64       `json:"frequency_hz" exclusiveMinimum:"0"`
	Levels      []dc.Level    `json:"levels" required:"false" doc:"Claimed powers; none where nothing is claimed"`
	MeasuredW   float64       `json:"measured_w" required:"false" minimum:"0"`
	Mode        rulebook.Mode `json:"mode" required:"false" default:"FM" enum:",FM,AM,SSB,CW,DIGITAL"`
	RuleBook    string        `json:"rule_book" required:"false" default:"us-amateur"`
	RadioMinV   *float64      `json:"radio_min_v,omitempty"`
	RadioMaxV   *float64      `json:"radio_max_v,omitempty"`
}

func (s *Server) wiring(ctx context.Context, p *record.Path, ask WiringAsk) (*wiring.Wiring, error) {
	return s.app.Wiring(ctx, p, wiring.Wiring{
		Carrier: units.Hertz(ask.FrequencyHz), Levels: ask.Levels, MeasuredW: ask.MeasuredW, Mode: ask.Mode, RadioMinV: ask.RadioMinV, RadioMaxV: ask.RadioMaxV,
	}, ask.RuleBook)
}

// PadsFound are the choices of owned pads, each with the parts to make a path of.
type PadsFound struct {
	Choices []PadChoice `json:"choices"`
	Asked   string      `json:"asked"` // of a choice
}

// PadChoice is a choice with the whole path it makes.
type PadChoice struct {
	advise.Choice
	RoomDB *float64          `json:"room_db"` // before anything is damaged
	Short  bool              `json:"short"`   // of room
	Parts  []record.PathPart `json:"parts"`
}

type pathPut struct {
	IDPath
	Body struct {
		Version int `json:"version" minimum:"0"`
		PathDraft
		Retired bool `json:"retired" required:"false"`
	}
}

func (s *Server) putPath(ctx context.Context, in *pathPut) (*body[PathView], error) {
	p := in.Body.PathDraft.path(in.ID, in.Body.Version)
	if err := s.app.KeepPath(ctx, p, in.Body.Retired); err != nil {
		return nil, err
	}
	return s.onePath(ctx, p)
}

func (s *Server) onePath(ctx context.Context, p *record.Path) (*body[PathView], error) {
	items, err := s.app.Store.Kit(ctx, p.Practice)
	if err != nil {
		return nil, err
	}
	return &body[PathView]{viewPath(p, items)}, nil
}

type staircaseAsked struct {
	Body struct {
		PathID string     `json:"path_id,omitempty" format:"uuid"`
		Draft  *PathDraft `json:"draft,omitempty"`
		WiringAsk
	}
}

func (s *Server) getStaircase(ctx context.Context, in *staircaseAsked) (*body[wiring.Staircase], error) {
	p := &record.Path{ID: in.Body.PathID}
	switch d := in.Body.Draft; {
	case d != nil:
		p = d.path(in.Body.PathID, 0)
	case in.Body.PathID == "":
		return nil, problem.New("path_id", "give the id of a kept path, or a draft")
	default:
		kept, err := s.app.Store.Path(ctx, in.Body.PathID)
		if err != nil {
			return nil, err
		}
		p = kept
	}
	w, err := s.wiring(ctx, p, in.Body.WiringAsk)
	if err != nil {
		return nil, err
	}
	out, err := app.Stairs(*w)
	if err != nil {
		return nil, err
	}
	return &body[wiring.Staircase]{*out}, nil
}

type padsAsked struct {
	Body struct {
		Before   []record.PathPart `json:"before" required:"false" doc:"What lies between the radio and the pads"`
		Analyzer record.PathPart   `json:"analyzer"`
		MostPads int               `json:"most_pads" required:"false" minimum:"0" maximum:"4"`
		WiringAsk
	}
}

func (s *Server) askPads(ctx context.Context, in *padsAsked) (*body[PadsFound], error) {
	p := &record.Path{Name: "pads asked for", Parts: append(in.Body.Before, in.Body.Analyzer)}
	w, err := s.wiring(ctx, p, in.Body.WiringAsk)
	if err != nil {
		return nil, err
	}
	choices, pads, err := wiring.PadAdvice(*w, in.Body.MostPads)
	if err != nil {
		return nil, err
	}
	out := PadsFound{[]PadChoice{}, advise.Asked()}
	for _, c := range choices {
		whole := PadChoice{c, c.Room(), c.Short(), append([]record.PathPart{}, in.Body.Before...)}
		for _, i := range c.Pads {
			whole.Parts = append(whole.Parts, record.PathPart{KitID: pads[i].Item, Setting: pads[i].Setting})
		}
		whole.Parts = append(whole.Parts, in.Body.Analyzer)
		out.Choices = append(out.Choices, whole)
	}
	return &body[PadsFound]{out}, nil
}

func (s *Server) getPathTouchstone(ctx context.Context, in *IDPath) (*download, error) {
	t, _, err := s.app.Store.Through(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	p, err := wiring.Compile(t)
	if err != nil {
		return nil, err
	}
	return lossFile(p, func(units.Hertz) *float64 { return nil }, t.Name, "the sum of its parts, as measured where they were measured")
}
