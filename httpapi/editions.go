package httpapi

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"

	"talloak/app"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/publish"
	"talloak/store"
)

// EditionView is an edition without its contents.
type EditionView struct {
	ID         string    `json:"id"`
	Number     int       `json:"number"`
	FrozenAt   time.Time `json:"frozen_at"`
	Title      string    `json:"title"`
	Headline   string    `json:"headline"`
	Kind       string    `json:"kind" doc:"first, correction, re-test or addendum; empty of one frozen before that was said"`
	Changed    string    `json:"changed"`
	SHA256     string    `json:"sha256"`
	PageSHA256 string    `json:"page_sha256"`
}

func viewEdition(e record.Edition) EditionView {
	return EditionView{e.ID, e.Number, e.FrozenAt, e.Title, e.Headline, e.Kind, e.Changed, e.SHA256, e.PageSHA256}
}

// PublishView is what stands between a review and its next edition. Basis names what was
// seen; the edition is frozen from that, or not at all.
type PublishView struct {
	NextNumber int                `json:"next_number"`
	Obstacles  []measure.Obstacle `json:"obstacles"`
	Ready      bool               `json:"ready"`
	Unchanged  bool               `json:"unchanged" doc:"Nothing has changed since the last edition: there is nothing to freeze"`
	Basis      string             `json:"basis"`
	Editions   []EditionView      `json:"editions"`
}

func (s *Server) getPublish(ctx context.Context, in *IDPath) (*body[PublishView], error) {
	p, err := s.app.Publishing(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	out := PublishView{NextNumber: p.Next, Obstacles: p.Obstacles, Ready: !p.Unchanged, Unchanged: p.Unchanged, Basis: p.Basis, Editions: []EditionView{}}
	for _, o := range out.Obstacles {
		out.Ready = out.Ready && !o.Blocks
	}
	for _, e := range p.Editions {
		out.Editions = append(out.Editions, viewEdition(e))
	}
	return &body[PublishView]{out}, nil
}

type previewAsked struct {
	IDPath
	Basis string `query:"basis" doc:"What was seen; 409 when the review is not that any more"`
}

func (s *Server) previewEdition(ctx context.Context, in *previewAsked) (*download, error) {
	page, err := s.app.PreviewEdition(ctx, in.ID, in.Basis)
	return &download{"text/html; charset=utf-8", "inline", pagePolicy, page}, err
}

type freezing struct {
	IDPath
	Body struct {
		ID      string       `json:"id" format:"uuid"`
		Basis   string       `json:"basis" minLength:"1" doc:"That of what was previewed; 409 when the review is not that any more"`
		Kind    publish.Kind `json:"kind,omitempty" enum:"first,correction,re-test,addendum" doc:"What it is to the editions before it; that which is the first may leave it out"`
		Changed string       `json:"changed,omitempty" doc:"What was wrong, repeated or added, in a sentence: of all but the first"`
	}
}

func (s *Server) freezeEdition(ctx context.Context, in *freezing) (*body[EditionView], error) {
	e, err := s.app.Freeze(ctx, app.Freezing{ReviewID: in.ID, EditionID: in.Body.ID, Saw: in.Body.Basis, Kind: cmp.Or(in.Body.Kind, publish.First), Changed: in.Body.Changed})
	if err != nil {
		return nil, err
	}
	return &body[EditionView]{viewEdition(*e)}, nil
}

func (s *Server) getEditionPage(ctx context.Context, in *IDPath) (*download, error) {
	e, err := s.app.Store.Edition(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"text/html; charset=utf-8", "inline", pagePolicy, e.Page}, nil
}

func (s *Server) getEditionData(ctx context.Context, in *IDPath) (*download, error) {
	e, err := s.app.Store.Edition(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"application/json", attachment("edition.json"), pagePolicy, e.Document}, nil
}

// getEditionFile gives the page as a file: it has its faces and pictures in it.
func (s *Server) getEditionFile(ctx context.Context, in *IDPath) (*download, error) {
	e, err := s.app.Store.Edition(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"text/html; charset=utf-8", attachment(editionName(e) + ".html"), pagePolicy, e.Page}, nil
}

func (s *Server) getEditionText(ctx context.Context, in *IDPath) (*download, error) {
	text, err := s.app.EditionText(ctx, in.ID)
	return &download{"text/plain; charset=utf-8", "inline", pagePolicy, text}, err
}

func (s *Server) getEditionPackage(ctx context.Context, in *IDPath) (*download, error) {
	e, pack, err := s.app.EditionPackage(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return &download{"application/zip", attachment(editionName(e) + ".zip"), pagePolicy, pack}, nil
}

type paperAsked struct {
	IDPath
	Paper string `query:"paper" default:"a4" doc:"a4 or letter"`
}

func (s *Server) getEditionPDF(ctx context.Context, in *paperAsked) (*download, error) {
	e, pdf, err := s.app.EditionPDF(ctx, in.ID, in.Paper)
	if err != nil {
		return nil, err
	}
	return &download{"application/pdf", attachment(editionName(e) + ".pdf"), pagePolicy, pdf}, nil
}

type cardAsked struct {
	IDPath
	File string `path:"file" doc:"Name of a card with .png: result, strip, comparison, correction"`
	Size string `query:"size" default:"1920x1080" doc:"1920x1080 or 1080x1350"`
}

func (s *Server) getEditionCard(ctx context.Context, in *cardAsked) (*download, error) {
	name, ok := strings.CutSuffix(in.File, ".png")
	if !ok || !slices.Contains(publish.CardNames, name) {
		return nil, noSuchPicture()
	}
	png, err := s.app.EditionCard(ctx, in.ID, name, in.Size)
	var nothing publish.NothingToShow
	switch {
	case errors.As(err, &nothing):
		return nil, newProblem(http.StatusNotFound, "Nothing to show", nothing.Error())
	case err != nil:
		return nil, err
	}
	return &download{"image/png", "inline", pagePolicy, png}, nil
}

func noSuchPicture() error {
	return newProblem(http.StatusNotFound, "No such picture", "There is no picture of that name: the list of plots, and the cards "+strings.Join(publish.CardNames, ", ")+", are what there is.",
		problem.Field{Field: "file", Detail: "is none of them"})
}

// PlotView names a plot of an edition.
type PlotView struct {
	Name  string `json:"name"`
	Title string `json:"title"`
}

// PlotsView lists the plots of an edition.
type PlotsView struct {
	Plots []PlotView `json:"plots"`
}

func (s *Server) listEditionPlots(ctx context.Context, in *IDPath) (*body[PlotsView], error) {
	all, err := s.app.EditionPlots(ctx, in.ID)
	out := PlotsView{Plots: []PlotView{}}
	for _, p := range all {
		out.Plots = append(out.Plots, PlotView{p.Name, p.Title})
	}
	return &body[PlotsView]{out}, err
}

type plotAsked struct {
	IDPath
	File string `path:"file" doc:"Name of a plot with .svg or .png"`
}

func (s *Server) getEditionPlot(ctx context.Context, in *plotAsked) (*download, error) {
	all, err := s.app.EditionPlots(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	name, kind, _ := strings.Cut(in.File, ".")
	for i := range all {
		if all[i].Name == name {
			content, mediaType, err := all[i].As(kind)
			if content != nil || err != nil {
				return &download{mediaType, "inline", pagePolicy, content}, err
			}
		}
	}
	return nil, noSuchPicture()
}

// editionName is what a file of an edition is called, without what an address or a shell takes for more.
func editionName(e *record.Edition) string {
	plain := strings.Map(func(r rune) rune {
		switch {
		case r >= '0' && r <= '9', r >= 'A' && r <= 'Z', r >= 'a' && r <= 'z':
			return r
		}
		return '-'
	}, e.Title)
	return fmt.Sprintf("%s-edition-%d", strings.Join(strings.FieldsFunc(plain, func(r rune) bool { return r == '-' }), "-"), e.Number)
}

func attachment(name string) string {
	return mime.FormatMediaType("attachment", map[string]string{"filename": name})
}

// LineView is a review in a lineage.
type LineView struct {
	ReviewID string        `json:"review_id"`
	Title    string        `json:"title"`
	Follows  string        `json:"follows" doc:"The review that this one is the re-test of; empty for none"`
	Editions []EditionView `json:"editions"`
}

func (s *Server) getLineage(ctx context.Context, in *IDPath) (*body[[]LineView], error) {
	lines, err := s.app.Lineage(ctx, in.ID)
	out := []LineView{}
	for _, l := range lines {
		view := LineView{l.ReviewID, l.Title, l.Follows, []EditionView{}}
		for _, e := range l.Editions {
			view.Editions = append(view.Editions, viewEdition(e))
		}
		out = append(out, view)
	}
	return &body[[]LineView]{out}, err
}

func isUUID(id string) bool { return uuid.Validate(id) == nil }

// readEdition is the page for readers: the edition's own with what has followed it round it.
func (s *Server) readEdition(c *echo.Context) error {
	id := c.Param("id")
	if !isUUID(id) {
		return c.String(http.StatusNotFound, "There is no such edition here.")
	}
	page, err := s.app.ReadEdition(c.Request().Context(), id)
	if err != nil {
		status, words := http.StatusInternalServerError, "The edition cannot be shown at present."
		if errors.Is(err, store.ErrNotFound) {
			status, words = http.StatusNotFound, "There is no such edition here."
		}
		return c.String(status, words)
	}
	c.Response().Header().Set("Content-Security-Policy", pagePolicy)
	return c.Blob(http.StatusOK, "text/html; charset=utf-8", page)
}
