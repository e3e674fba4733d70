package httpapi

import (
	"context"
	"net/http"

	"talloak/core/rulebook"
	"talloak/core/scratch"
)

func (s *Server) listScratch(context.Context, *nothing) (*body[[]scratch.Calc], error) {
	return &body[[]scratch.Calc]{scratch.All()}, nil
}

type scratchAsked struct {
	Name string `path:"calc" maxLength:"60"`
	Body struct {
		Typed map[string]string `json:"typed" doc:"What was typed, by the names of the fields; what is left out is as it usually is"`
	}
}

func (s *Server) workScratch(ctx context.Context, in *scratchAsked) (*body[scratch.Answer], error) {
	calc, ok := scratch.Find(in.Name)
	if !ok {
		return nil, newProblem(http.StatusNotFound, "No such calculation", "The scratch pad has no calculation of this name.")
	}
	shelf, err := s.app.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	out, err := calc.Work(in.Body.Typed, func(id string) (*rulebook.Book, bool) { return shelf.Find(id) })
	if err != nil {
		return nil, err
	}
	return &body[scratch.Answer]{out}, nil
}
