package httpapi

import (
	"context"

	"talloak/core/record"
)

// letterWrite is something written about a review.
type letterWrite struct {
	IDPath
	Body struct {
		ID       string `json:"id" format:"uuid"`
		Replaces string `json:"replaces,omitempty" format:"uuid" doc:"The letter that this one stands in place of; with no text, that is taken out"`
		Kind     string `json:"kind" enum:"reply,denial,admission,refund,third-laboratory,question,answer"`
		From     string `json:"from" enum:"maker,seller,reader,laboratory,us"`
		Name     string `json:"name,omitempty"`
		SaidOn   string `json:"said_on" doc:"The day it is from, 2026-11-25"`
		About    string `json:"about,omitempty" doc:"The band and level it is about, by its name; empty for all of it"`
		Text     string `json:"text" doc:"Word for word"`
		MayPrint bool   `json:"may_print,omitempty" doc:"Whether it may be printed; else it is kept for the reviewer alone"`
		Serial   string `json:"serial,omitempty" doc:"Of the unit that a reader writes of"`
		DateCode string `json:"date_code,omitempty"`
	}
}

func (s *Server) listLetters(ctx context.Context, in *IDPath) (*body[[]record.Letter], error) {
	all, err := s.app.Store.Letters(ctx, in.ID)
	if all == nil {
		all = []record.Letter{}
	}
	return &body[[]record.Letter]{all}, err
}

func (s *Server) addLetter(ctx context.Context, in *letterWrite) (*body[record.Letter], error) {
	b := in.Body
	l := &record.Letter{ID: b.ID, ReviewID: in.ID, Replaces: b.Replaces, Kind: b.Kind, From: b.From, Name: b.Name, SaidOn: b.SaidOn, About: b.About, Text: b.Text, MayPrint: b.MayPrint, Serial: b.Serial, DateCode: b.DateCode}
	if err := s.app.AddLetter(ctx, l); err != nil {
		return nil, err
	}
	return &body[record.Letter]{*l}, nil
}
