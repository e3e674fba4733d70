package httpapi

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"net/http"
	"strings"

	"talloak/app"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/publish"
	"talloak/store"
)

// CompareRow is a review among others.
type CompareRow struct {
	ID             string                 `json:"id"`
	Title          string                 `json:"title"`
	Maker          string                 `json:"maker"`
	Model          string                 `json:"model"`
	Serial         string                 `json:"serial"`
	DateCode       string                 `json:"date_code"`
	Changes        string                 `json:"changes"`
	RuleBook       string                 `json:"rule_book"`
	Boxes          []publish.Compared     `json:"boxes"`
	Kit            publish.Kits           `json:"kit"`
	OtherMeters    string                 `json:"other_meters" doc:"What its power was read on, where most of the others were read on something else"`
	OtherAnalyzers string                 `json:"other_analyzers" doc:"What its emissions were seen on, where most of the others were seen on something else"`
	Outside        []record.OutsideFigure `json:"outside"`
	Answers        []record.Letter        `json:"answers" doc:"What readers said of units of theirs, with serial and date code where they told them"`
}

// ComparePage is a page of reviews beside each other.
type ComparePage struct {
	Rows []CompareRow `json:"rows"`
	Next string       `json:"next" doc:"What to ask with for the page after it; empty at the end"`
}

type compareAsked struct {
	PageAsked
	Text     string `query:"text" doc:"Words in maker, model, serial or date code"`
	Band     string `query:"band"`
	Class    string `query:"class" doc:"By the most that is claimed: up-to-1-w, up-to-10-w, over-10-w"`
	RuleBook string `query:"rule_book"`
}

func (s *Server) compare(ctx context.Context, in *compareAsked) (*body[ComparePage], error) {
	after, err := placeOf(in.After)
	if err != nil {
		return nil, err
	}
	rows, next, err := s.app.Compare(ctx, app.Comparing{Wanted: store.Wanted{Words: in.Text, Book: in.RuleBook}, Band: in.Band, Class: in.Class}, after, in.Limit)
	if err != nil {
		return nil, err
	}
	out := ComparePage{Rows: []CompareRow{}}
	for _, r := range rows {
		u := r.Review.Subject
		row := CompareRow{ID: r.Review.ID, Title: r.Title, Maker: u.Maker, Model: u.Model, Serial: u.Serial, DateCode: u.DateCode, Changes: u.Changes, RuleBook: r.Review.Rules.RuleBook, Boxes: r.Compared, Kit: r.Kits, OtherMeters: r.OtherMeters, OtherAnalyzers: r.OtherAnalyzers, Outside: r.Outside}
		if row.Outside == nil {
			row.Outside = []record.OutsideFigure{}
		}
		if row.Answers = r.Answers; row.Answers == nil {
			row.Answers = []record.Letter{}
		}
		out.Rows = append(out.Rows, row)
	}
	out.Next, err = placeText(next)
	return &body[ComparePage]{out}, err
}

// placeOf reads a place in a list as it was given out.
func placeOf(text string) (after *store.Place, err error) {
	if text == "" {
		return nil, nil
	}
	raw, err := base64.RawURLEncoding.DecodeString(text)
	if err == nil {
		err = json.Unmarshal(raw, &after)
	}
	if err != nil {
		return nil, newProblem(http.StatusBadRequest, "No such place", "The list is asked for from a place that it never gave.", problem.Field{Field: "after", Detail: "give what the page before gave as next"})
	}
	return after, nil
}

func placeText(at *store.Place) (string, error) {
	if at == nil {
		return "", nil
	}
	text, err := json.Marshal(at)
	return base64.RawURLEncoding.EncodeToString(text), err
}

type comparePicture struct {
	File string `path:"file" doc:"power.svg, power.png, margins.svg, margins.png or figures.csv"`
	IDs  string `query:"ids" doc:"The reviews, by their ids, parted by commas"`
}

func (s *Server) compareFile(ctx context.Context, in *comparePicture) (*download, error) {
	var ids []string
	for id := range strings.SplitSeq(in.IDs, ",") {
		if isUUID(id) {
			ids = append(ids, id)
		}
	}
	if in.File == "figures.csv" {
		rows, err := s.app.CompareTable(ctx, ids)
		if err != nil {
			return nil, err
		}
		csv, err := measure.CSV(rows)
		return &download{"text/csv; charset=utf-8", attachment("compare.csv"), pagePolicy, csv}, err
	}
	name, kind, _ := strings.Cut(in.File, ".")
	if (name != "power" && name != "margins") || (kind != "svg" && kind != "png") {
		return nil, newProblem(http.StatusNotFound, "No such picture", "There are power.svg, power.png, margins.svg, margins.png and figures.csv.", problem.Field{Field: "file", Detail: "is none of them"})
	}
	p, err := s.app.ComparePicture(ctx, ids, name == "margins")
	if err != nil {
		return nil, err
	}
	content, mediaType, err := p.As(kind)
	return &download{mediaType, "inline", pagePolicy, content}, err
}

type outsideWrite struct {
	IDPath
	Body struct {
		ID       string   `json:"id" format:"uuid"`
		Replaces string   `json:"replaces,omitempty" format:"uuid" doc:"The figure that this one stands in place of; with neither power nor room, that is taken out"`
		Box      string   `json:"box" doc:"Band and level, by its name"`
		Watts    *float64 `json:"watts,omitempty"`
		RoomDB   *float64 `json:"room_db,omitempty" doc:"Under the limit; below 0 it is over it"`
		Source   string   `json:"source"`
		SaidOn   string   `json:"said_on" doc:"The day it is from, 2026-11-25"`
	}
}

func (s *Server) addOutside(ctx context.Context, in *outsideWrite) (*body[record.OutsideFigure], error) {
	b := in.Body
	f := &record.OutsideFigure{ID: b.ID, ReviewID: in.ID, Replaces: b.Replaces, Box: b.Box, Watts: b.Watts, RoomDB: b.RoomDB, Source: b.Source, SaidOn: b.SaidOn}
	if err := s.app.AddOutside(ctx, f); err != nil {
		return nil, err
	}
	return &body[record.OutsideFigure]{*f}, nil
}

type comparisonWrite struct {
	Body struct {
		ID    string   `json:"id" format:"uuid"`
		Title string   `json:"title"`
		IDs   []string `json:"ids" doc:"The reviews, in their order" maxItems:"40"`
	}
}

func (s *Server) freezeComparison(ctx context.Context, in *comparisonWrite) (*body[record.FrozenComparison], error) {
	var ids []string
	for _, id := range in.Body.IDs {
		if isUUID(id) {
			ids = append(ids, id)
		}
	}
	c, err := s.app.FreezeComparison(ctx, in.Body.ID, in.Body.Title, ids)
	if err != nil {
		return nil, err
	}
	return &body[record.FrozenComparison]{*c}, nil
}

func (s *Server) listComparisons(ctx context.Context, _ *nothing) (*body[[]record.FrozenComparison], error) {
	all, err := s.app.Store.Comparisons(ctx)
	if all == nil {
		all = []record.FrozenComparison{}
	}
	return &body[[]record.FrozenComparison]{all}, err
}

func (s *Server) getComparison(ctx context.Context, in *IDPath) (*download, error) {
	c, err := s.app.Store.Comparison(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"text/html; charset=utf-8", "inline", pagePolicy, c.Page}, nil
}
