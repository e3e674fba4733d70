package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/problem"
	"talloak/dossier"
	"talloak/store"
)

// ReviewView is a review with what its claims were read as.
type ReviewView struct {
	ID        string              `json:"id"`
	Version   int                 `json:"version"`
	CreatedAt time.Time           `json:"created_at"`
	UpdatedAt time.Time           `json:"updated_at"`
	Title     string              `json:"title"`
	Subject   store.Subject       `json:"subject"`
	Claims    []dossier.ClaimLine `json:"claims"`
	Cells     []claims.Cell       `json:"cells"`
	Rules     store.Rules         `json:"rules"`
	Editions  []EditionView       `json:"editions"`
	Readings  int                 `json:"readings"`
	Sweeps    int                 `json:"sweeps"`
}

// ReviewSummary is a review in the list, with the ruling as it stands.
type ReviewSummary struct {
	ID        string         `json:"id"`
	Title     string         `json:"title"`
	Changes   string         `json:"changes"`
	UpdatedAt time.Time      `json:"updated_at"`
	Power     decision.Whole `json:"power"`
	Emissions decision.Whole `json:"emissions"`
	Headline  string         `json:"headline"`
	Editions  int            `json:"editions"`
}

// ReviewWrite is what a person says of a review.
type ReviewWrite struct {
	Subject store.Subject `json:"subject"`
	Claims  []store.Claim `json:"claims"`
	Rules   store.Rules   `json:"rules"`
}

// DefaultRules are those of a new review.
var DefaultRules = store.Rules{
	RuleBook: "us-amateur", DecisionRule: string(decision.Guarded), Scheme: string(claims.Tolerance),
	ToleranceDB: claims.DefaultToleranceDB, PassPercent: claims.DefaultPassPercent, BandwidthHz: 16000,
}

// IDPath is the id in an address. It is exported because only then is it read
// where it is embedded.
type IDPath struct {
	ID string `path:"id" format:"uuid"`
}

type body[T any] struct{ Body T }

func (s *Server) registerReviews(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-reviews", Method: http.MethodGet, Path: "/api/v1/reviews", Summary: "All reviews, the newest change first", Tags: []string{"reviews"}},
		func(ctx context.Context, _ *struct{}) (*body[[]ReviewSummary], error) { return s.listReviews(ctx) })
	huma.Register(api, huma.Operation{OperationID: "add-review", Method: http.MethodPost, Path: "/api/v1/reviews", Summary: "Start a review under an id made by the client", Tags: []string{"reviews"}, DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct {
			Body struct {
				ID      string        `json:"id" format:"uuid"`
				Subject store.Subject `json:"subject"`
			}
		}) (*body[ReviewView], error) {
			row := &store.Review{ID: in.Body.ID, RequestHash: store.Fingerprint(in.Body), Subject: in.Body.Subject, Claims: []store.Claim{}, Rules: DefaultRules}
			if _, err := s.store.AddReview(ctx, row); err != nil {
				return nil, answer(err)
			}
			return s.viewReview(ctx, row.ID)
		})
	huma.Register(api, huma.Operation{OperationID: "get-review", Method: http.MethodGet, Path: "/api/v1/reviews/{id}", Summary: "One review", Tags: []string{"reviews"}},
		func(ctx context.Context, in *IDPath) (*body[ReviewView], error) { return s.viewReview(ctx, in.ID) })
	huma.Register(api, huma.Operation{OperationID: "change-review", Method: http.MethodPut, Path: "/api/v1/reviews/{id}", Summary: "Write a review on the version it was read at; 409 when it is stale", Tags: []string{"reviews"}},
		func(ctx context.Context, in *struct {
			IDPath
			Body struct {
				Version int `json:"version"`
				ReviewWrite
			}
		}) (*body[ReviewView], error) {
			if _, ok := s.books(in.Body.Rules.RuleBook); !ok {
				return nil, answer(problem.New("rules.rule_book", "there is no rule book %q here", in.Body.Rules.RuleBook))
			}
			if swr := in.Body.Rules.SourceSWR; swr != 0 && swr < 1 {
				return nil, answer(problem.New("rules.source_swr", "give an SWR of 1 or more, or 0 for the typical value"))
			}
			row := &store.Review{ID: in.ID, Version: in.Body.Version, Subject: in.Body.Subject, Claims: in.Body.Claims, Rules: in.Body.Rules}
			if err := s.store.ChangeReview(ctx, row); err != nil {
				return nil, answer(err)
			}
			return s.viewReview(ctx, in.ID)
		})
	huma.Register(api, huma.Operation{OperationID: "get-board", Method: http.MethodGet, Path: "/api/v1/reviews/{id}/board", Summary: "The ruling on a review, by its own rules or by others to try", Tags: []string{"reviews"}},
		func(ctx context.Context, in *struct {
			IDPath
			RuleBook     string `query:"rule_book"`
			DecisionRule string `query:"decision_rule" enum:"guarded,simple"`
			Scheme       string `query:"scheme" enum:"tolerance,percent"`

			SourceSWR float64 `query:"source_swr" default:"-1" minimum:"-1" doc:"The radio's own SWR at its harmonics, 0 for the typical one; -1 leaves that of the review"`
		}) (*body[dossier.Board], error) {
			d, err := s.open(ctx, in.ID, store.WithTraces, func(r *store.Rules) {
				replace(&r.RuleBook, in.RuleBook)
				replace(&r.DecisionRule, in.DecisionRule)
				replace(&r.Scheme, in.Scheme)
				if in.SourceSWR >= 0 {
					r.SourceSWR = in.SourceSWR
				}
			})
			if err != nil {
				return nil, answer(err)
			}
			return &body[dossier.Board]{d.Board(false)}, nil
		})
}

func replace(to *string, v string) {
	if v != "" {
		*to = v
	}
}

// open reads a review and works it out; try may change the rules for this look.
func (s *Server) open(ctx context.Context, id string, traces store.Traces, try func(*store.Rules)) (*dossier.Dossier, error) {
	r, err := s.store.Review(ctx, id)
	if err != nil {
		return nil, err
	}
	facts, err := s.store.Facts(ctx, id, traces)
	if err != nil {
		return nil, err
	}
	rules := r.Rules
	if try != nil {
		try(&rules)
	}
	return dossier.Open(r, facts, rules, s.books)
}

func (s *Server) listReviews(ctx context.Context) (*body[[]ReviewSummary], error) {
	rows, err := s.store.Reviews(ctx)
	if err != nil {
		return nil, answer(err)
	}
	out := make([]ReviewSummary, 0, len(rows))
	for i := range rows {
		d, err := s.open(ctx, rows[i].ID, store.WithTraces, nil)
		if err != nil {
			return nil, answer(err)
		}
		editions, err := s.store.Editions(ctx, rows[i].ID)
		if err != nil {
			return nil, answer(err)
		}
		b := d.Board(false)
		out = append(out, ReviewSummary{rows[i].ID, b.Title, rows[i].Subject.Changes, rows[i].UpdatedAt, b.Power, b.Emissions, b.Headline, len(editions)})
	}
	return &body[[]ReviewSummary]{out}, nil
}

func (s *Server) viewReview(ctx context.Context, id string) (*body[ReviewView], error) {
	d, err := s.open(ctx, id, store.WithoutTraces, nil)
	if err != nil {
		return nil, answer(err)
	}
	editions, err := s.store.Editions(ctx, id)
	if err != nil {
		return nil, answer(err)
	}
	r := d.Review
	out := ReviewView{
		ID: r.ID, Version: r.Version, CreatedAt: r.CreatedAt, UpdatedAt: r.UpdatedAt, Title: d.Title(), Subject: r.Subject,
		Claims: d.Lines, Cells: d.Cells, Rules: r.Rules, Editions: []EditionView{}, Readings: len(d.Readings()), Sweeps: d.SweepCount(),
	}
	if out.Cells == nil {
		out.Cells = []claims.Cell{}
	}
	for _, e := range editions {
		out.Editions = append(out.Editions, viewEdition(e))
	}
	return &body[ReviewView]{out}, nil
}
