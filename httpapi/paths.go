package httpapi

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"talloak/core/advise"
	"talloak/core/dc"
	"talloak/core/problem"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/dossier"
	"talloak/store"
)

// PathDraft is a path as it is drawn.
type PathDraft struct {
	Name            string            `json:"name" maxLength:"200"`
	Socket          string            `json:"socket" required:"false" maxLength:"100" doc:"The radio's socket it starts from; some have two"`
	Parts           []store.PathPart  `json:"parts" maxItems:"60"`
	Supply          *store.PathSupply `json:"supply,omitempty"`
	AppliedOffsetDB float64           `json:"applied_offset_db" required:"false" doc:"What the instrument already adds to what it shows, with its sign"`
}

// WiringAsk is what will be keyed into a path.
type WiringAsk struct {
	FrequencyHz float64       `json:"frequency_hz" exclusiveMinimum:"0"`
	Levels      []dc.Level    `json:"levels" required:"false" doc:"Claimed powers; none where nothing is claimed"`
	MeasuredW   float64       `json:"measured_w" required:"false" minimum:"0"`
	Mode        rulebook.Mode `json:"mode" required:"false" default:"FM" enum:"FM,AM,SSB,CW,DIGITAL"`
	RuleBook    string        `json:"rule_book" required:"false" default:"us-amateur"`
	RadioMinV   *float64      `json:"radio_min_v,omitempty"`
	RadioMaxV   *float64      `json:"radio_max_v,omitempty"`
}

// PadsFound are the choices of owned pads, each with the parts to make a path of.
type PadsFound struct {
	Choices []PadChoice `json:"choices"`
}

// PadChoice is a choice with the whole path it makes.
type PadChoice struct {
	advise.Choice
	Parts []store.PathPart `json:"parts"`
}

func (s *Server) registerPaths(api huma.API) {
	tag := []string{"bench"}
	huma.Register(api, huma.Operation{OperationID: "put-path", Method: http.MethodPut, Path: "/api/v1/paths/{id}", Summary: "Write a path on the version it was read at, or a new one at version 0", Tags: tag},
		func(ctx context.Context, in *struct {
			IDPath
			Body struct {
				Version int `json:"version" minimum:"0"`
				PathDraft
				Retired bool `json:"retired" required:"false"`
			}
		}) (*body[PathView], error) {
			row := in.Body.PathDraft.row(in.ID, in.Body.Version)
			if in.Body.Retired {
				at := time.Now().UTC().Truncate(time.Microsecond)
				row.RetiredAt = &at
			}
			if err := s.checkPath(ctx, row); err != nil {
				return nil, answer(err)
			}
			if err := s.store.PutPath(ctx, row); err != nil {
				return nil, answer(err)
			}
			return s.onePath(ctx, row)
		})
	huma.Register(api, huma.Operation{OperationID: "get-staircase", Method: http.MethodPost, Path: "/api/v1/staircase", Summary: "Levels along a path, kept or only drawn, at a carrier and its multiples; dangers and what on the bench would cure them", Tags: tag},
		func(ctx context.Context, in *struct {
			Body struct {
				PathID string     `json:"path_id,omitempty" format:"uuid"`
				Draft  *PathDraft `json:"draft,omitempty"`
				WiringAsk
			}
		}) (*body[dossier.Staircase], error) {
			p := &store.Path{ID: in.Body.PathID}
			switch d := in.Body.Draft; {
			case d != nil:
				p = d.row(in.Body.PathID, 0)
			case in.Body.PathID == "":
				return nil, answer(problem.New("path_id", "give the id of a kept path, or a draft"))
			default:
				kept, err := s.store.Path(ctx, in.Body.PathID)
				if err != nil {
					return nil, answer(err)
				}
				p = kept
			}
			w, err := s.wiring(ctx, p, in.Body.WiringAsk)
			if err != nil {
				return nil, answer(err)
			}
			out, err := dossier.Wire(*w)
			if err != nil {
				return nil, answer(err)
			}
			return &body[dossier.Staircase]{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "ask-pads", Method: http.MethodPost, Path: "/api/v1/pad-advice", Summary: "Which owned pads, in which order, suit an analyzer, a power and a rule book", Tags: tag},
		func(ctx context.Context, in *struct {
			Body struct {
				Before   []store.PathPart `json:"before" required:"false" doc:"What lies between the radio and the pads"`
				Analyzer store.PathPart   `json:"analyzer"`
				MostPads int              `json:"most_pads" required:"false" minimum:"0" maximum:"4"`
				WiringAsk
			}
		}) (*body[PadsFound], error) {
			p := &store.Path{Name: "pads asked for", Parts: append(in.Body.Before, in.Body.Analyzer)}
			w, err := s.wiring(ctx, p, in.Body.WiringAsk)
			if err != nil {
				return nil, answer(err)
			}
			choices, pads, err := dossier.PadAdvice(*w, in.Body.MostPads)
			if err != nil {
				return nil, answer(err)
			}
			out := PadsFound{[]PadChoice{}}
			for _, c := range choices {
				whole := PadChoice{c, append([]store.PathPart{}, in.Body.Before...)}
				for _, i := range c.Pads {
					whole.Parts = append(whole.Parts, store.PathPart{KitID: pads[i].Item, Setting: pads[i].Setting})
				}
				whole.Parts = append(whole.Parts, in.Body.Analyzer)
				out.Choices = append(out.Choices, whole)
			}
			return &body[PadsFound]{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "get-path-touchstone", Method: http.MethodGet, Path: "/api/v1/paths/{id}/touchstone", Summary: "The loss of a whole path as a two-port file", Tags: tag},
		func(ctx context.Context, in *IDPath) (*download, error) {
			t, err := s.store.Through(ctx, in.ID)
			if err != nil {
				return nil, answer(err)
			}
			p, err := dossier.Compile(*t)
			if err != nil {
				return nil, answer(err)
			}
			return lossFile(p, func(units.Hertz) *float64 { return nil }, t.Name, "the sum of its parts, as measured where they were measured")
		})
}

func (d *PathDraft) row(id string, version int) *store.Path {
	parts := d.Parts
	if parts == nil {
		parts = []store.PathPart{}
	}
	return &store.Path{ID: id, Version: version, Name: strings.TrimSpace(d.Name), Socket: strings.TrimSpace(d.Socket), Parts: parts, Supply: d.Supply, AppliedOffsetDB: d.AppliedOffsetDB}
}

// checkPath refuses a path without a name, or with parts that cannot lie on it
// as they are set. Dangers are no refusal: a path is drawn before it is safe.
func (s *Server) checkPath(ctx context.Context, p *store.Path) error {
	var bad problem.List
	if p.Name == "" {
		bad.Add("name", "give the path a name")
	}
	t, err := s.store.ThroughOf(ctx, p)
	if err != nil {
		return err
	}
	_, err = dossier.Elements(*t)
	bad.AddErr("", err)
	if bad.Empty() {
		_, err = dossier.Compile(*t)
		bad.AddErr("", err)
	}
	return bad.Err()
}

func (s *Server) onePath(ctx context.Context, row *store.Path) (*body[PathView], error) {
	items, err := s.store.Kit(ctx)
	if err != nil {
		return nil, answer(err)
	}
	return &body[PathView]{viewPath(row, items)}, nil
}

// wiring gathers what a staircase rests on.
func (s *Server) wiring(ctx context.Context, p *store.Path, ask WiringAsk) (*dossier.Wiring, error) {
	book, ok := s.books(ask.RuleBook)
	if !ok {
		return nil, problem.New("rule_book", "there is no rule book %q here", ask.RuleBook)
	}
	for i, l := range ask.Levels {
		if l.W < 0 {
			return nil, problem.New(fmt.Sprintf("levels[%d].w", i), "give 0 W or more")
		}
	}
	t, err := s.store.ThroughOf(ctx, p)
	if err != nil {
		return nil, err
	}
	bench, err := s.store.Kit(ctx)
	if err != nil {
		return nil, err
	}
	return &dossier.Wiring{
		Through: *t, Carrier: units.Hertz(ask.FrequencyHz), Levels: ask.Levels, MeasuredW: ask.MeasuredW, Mode: ask.Mode, Book: book,
		RadioMinV: ask.RadioMinV, RadioMaxV: ask.RadioMaxV, Bench: bench,
	}, nil
}
