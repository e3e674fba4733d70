package httpapi

import (
	"context"

	"talloak/app"
	"talloak/practice"
)

// ScenarioView is a scenario in the list: nothing of what is hidden in it.
type ScenarioView struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Story string `json:"story"`
}

// PracticeList is what can be practised, and what was.
type PracticeList struct {
	Scenarios []ScenarioView    `json:"scenarios"`
	Runs      []app.PracticeRun `json:"runs"`
}

func (s *Server) listPractice(ctx context.Context, _ *nothing) (*body[PracticeList], error) {
	out := PracticeList{Scenarios: []ScenarioView{}}
	for _, p := range practice.Shipped() {
		out.Scenarios = append(out.Scenarios, ScenarioView{p.Name, p.Title, p.Story})
	}
	runs, err := s.app.PracticeRuns(ctx)
	out.Runs = runs
	return &body[PracticeList]{out}, err
}

type practiceBegun struct {
	Body struct {
		ID       string `json:"id" format:"uuid"`
		Scenario string `json:"scenario"`
		Seed     uint64 `json:"seed" required:"false" maximum:"4294967296" doc:"0 draws one"`
	}
}

func (s *Server) beginPractice(ctx context.Context, in *practiceBegun) (*body[app.PracticeView], error) {
	if err := s.app.BeginPractice(ctx, in.Body.ID, in.Body.Scenario, in.Body.Seed); err != nil {
		return nil, err
	}
	return s.getPractice(ctx, &IDPath{in.Body.ID})
}

func (s *Server) getPractice(ctx context.Context, in *IDPath) (*body[app.PracticeView], error) {
	out, err := s.app.Practice(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &body[app.PracticeView]{*out}, nil
}

type handOn struct {
	IDPath
	Body app.Hand
}

func (s *Server) handOn(ctx context.Context, in *handOn) (*body[app.Handled], error) {
	out, err := s.app.HandOn(ctx, in.ID, in.Body)
	if err != nil {
		return nil, err
	}
	return &body[app.Handled]{*out}, nil
}

type practiceEnded struct {
	IDPath
	Body struct {
		Suspected []string `json:"suspected" maxItems:"40"`
	}
}

func (s *Server) endPractice(ctx context.Context, in *practiceEnded) (*body[app.PracticeView], error) {
	out, err := s.app.EndPractice(ctx, in.ID, in.Body.Suspected)
	if err != nil {
		return nil, err
	}
	return &body[app.PracticeView]{*out}, nil
}
