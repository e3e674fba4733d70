package httpapi

import (
	"cmp"
	"context"
	"time"

	"talloak/app"
	"talloak/core/board"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/wiring"
	"talloak/store"
)

// ReviewView is a review with what its claims were read as.
type ReviewView struct {
	ID        string              `json:"id"`
	Version   int                 `json:"version"`
	CreatedAt time.Time           `json:"created_at"`
	UpdatedAt time.Time           `json:"updated_at"`
	Title     string              `json:"title"`
	Subject   record.Subject      `json:"subject"`
	Claims    []measure.ClaimLine `json:"claims"`
	Cells     []NamedCell         `json:"cells"`
	Bands     []NamedCell         `json:"bands"`
	Heard     []NamedCell         `json:"heard"` // received only
	Whole     []NamedCell         `json:"whole"` // the radio as one
	Rules     record.Rules        `json:"rules"`
	Sheet     record.Sheet        `json:"sheet"`
	Adds      record.Adds         `json:"adds"`
	Follows   string              `json:"follows,omitempty" doc:"The review that this one is the re-test of"`
	Practice  string              `json:"practice,omitempty" doc:"The scenario that it practises on"`
	Editions  []EditionView       `json:"editions"`
	Stages    []board.Stage       `json:"stages"`
}

// NamedCell is a box of the matrix and what it is called.
type NamedCell struct {
	claims.Cell
	Name string `json:"name"`
}

// ReviewSummary is a review in the list, with the ruling as it stands.
type ReviewSummary struct {
	ID        string    `json:"id"`
	Changes   string    `json:"changes"`
	UpdatedAt time.Time `json:"updated_at"`
	Editions  int       `json:"editions"`
	app.Summary
}

// ReviewPage is a page of the list. Next is what to ask with for the one after it, empty
// at the end.
type ReviewPage struct {
	Reviews []ReviewSummary `json:"reviews"`
	Next    string          `json:"next"`
}

// ReviewWrite is what a person says of a review.
type ReviewWrite struct {
	Subject record.Subject `json:"subject"`
	Claims  []record.Claim `json:"claims" maxItems:"100"`
	Rules   record.Rules   `json:"rules"`
	Sheet   *record.Sheet  `json:"sheet,omitempty" doc:"Left out, it stays as it is"`
	Adds    *record.Adds   `json:"adds,omitempty" doc:"What comes into an edition beside what was measured; left out, it stays as it is"`
}

// IDPath is the id in an address. It is exported because only then is it read where it
// is embedded.
type IDPath struct {
	ID string `path:"id" format:"uuid"`
}

type body[T any] struct{ Body T }

type nothing struct{}

// PageAsked asks for a page of a list. It is exported because only then is it read where it is embedded.
type PageAsked struct {
	After string `query:"after" doc:"What the page before gave as next"`
	Limit int    `query:"limit" default:"30" minimum:"1" maximum:"200"`
}

type reviewsAsked struct {
	PageAsked
	Words      string `query:"q" maxLength:"200" doc:"Words of the maker, model, serial or date code"`
	Band       string `query:"band" maxLength:"60" doc:"A band that is claimed"`
	Verdict    string `query:"verdict" enum:",pass,passes-so-far,fail,inconclusive,not-examined,not-covered,no-limit,void" doc:"What power or emissions come to"`
	Unfinished bool   `query:"unfinished" doc:"Without an edition"`
	Away       bool   `query:"away" doc:"Those put away, instead of the others"`
	Since      string `query:"since" format:"date" doc:"Last changed on this day or later"`
	Until      string `query:"until" format:"date" doc:"Last changed on this day or before"`
	Sort       string `query:"sort" default:"changed" enum:"changed,name"`
}

func (in *reviewsAsked) find() app.Find {
	day := func(text string, more int) (at time.Time) {
		if day, err := time.Parse(time.DateOnly, text); err == nil { // the schema has looked at it
			at = day.AddDate(0, 0, more)
		}
		return at
	}
	return app.Find{
		Wanted: store.Wanted{Words: in.Words, Away: &in.Away, Unfinished: in.Unfinished, Since: day(in.Since, 0), Until: day(in.Until, 1)},
		Band:   in.Band, Verdict: decision.Verdict(in.Verdict), ByName: in.Sort == "name",
	}
}

func (s *Server) listReviews(ctx context.Context, in *reviewsAsked) (*body[ReviewPage], error) {
	after, err := placeOf(in.After)
	if err != nil {
		return nil, err
	}
	rows, next, err := s.app.Reviews(ctx, in.find(), after, in.Limit)
	if err != nil {
		return nil, err
	}
	out := ReviewPage{Reviews: make([]ReviewSummary, len(rows))}
	for i, r := range rows {
		out.Reviews[i] = ReviewSummary{r.Review.ID, r.Review.Subject.Changes, r.Review.UpdatedAt, r.Editions, r.Says}
	}
	if out.Next, err = placeText(next); err != nil {
		return nil, err
	}
	return &body[ReviewPage]{out}, nil
}

type awaySaid struct {
	IDPath
	Body struct {
		Away bool `json:"away"`
	}
}

func (s *Server) putAway(ctx context.Context, in *awaySaid) (*nothing, error) {
	return nil, s.app.PutAway(ctx, in.ID, in.Body.Away)
}

type reviewStarted struct {
	Body struct {
		ID      string         `json:"id" format:"uuid"`
		Subject record.Subject `json:"subject"`
	}
}

func (s *Server) addReview(ctx context.Context, in *reviewStarted) (*body[ReviewView], error) {
	if err := s.app.StartReview(ctx, in.Body.ID, in.Body.Subject); err != nil {
		return nil, err
	}
	return s.getReview(ctx, &IDPath{in.Body.ID})
}

type retestAsked struct {
	IDPath
	Body struct {
		ID      string `json:"id" format:"uuid" doc:"Of the review that is started"`
		Same    bool   `json:"same" doc:"The same unit after a change; else another one of its model"`
		Changes string `json:"changes,omitempty" doc:"What was changed on the same unit"`
	}
}

func (s *Server) retest(ctx context.Context, in *retestAsked) (*body[ReviewView], error) {
	if err := s.app.Retest(ctx, in.ID, in.Body.ID, in.Body.Same, in.Body.Changes); err != nil {
		return nil, err
	}
	return s.getReview(ctx, &IDPath{in.Body.ID})
}

type reviewChanged struct {
	IDPath
	Body struct {
		Version int `json:"version"`
		ReviewWrite
	}
}

func (s *Server) changeReview(ctx context.Context, in *reviewChanged) (*body[ReviewView], error) {
	w := in.Body
	if err := s.app.ChangeReview(ctx, app.ReviewChange{ID: in.ID, Version: w.Version, Subject: w.Subject, Claims: w.Claims, Rules: w.Rules, Sheet: w.Sheet, Adds: w.Adds}); err != nil {
		return nil, err
	}
	return s.getReview(ctx, &in.IDPath)
}

func (s *Server) getReview(ctx context.Context, in *IDPath) (*body[ReviewView], error) {
	r, err := s.app.Open(ctx, in.ID, store.WithoutTraces, nil)
	if err != nil {
		return nil, err
	}
	editions, err := s.app.Store.Editions(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	out := ReviewView{
		ID: r.ID, Version: r.Version, CreatedAt: r.CreatedAt, UpdatedAt: r.UpdatedAt, Title: r.Title(), Subject: r.Subject, Claims: r.Lines,
		Cells: namedCells(r, r.Cells), Bands: namedCells(r, r.Bands()), Heard: namedCells(r, r.Heard()), Whole: namedCells(r, []claims.Cell{{}}), Rules: r.Review.Rules, Sheet: r.Sheet, Adds: r.Adds, Follows: r.Follows, Practice: r.Practice, Editions: []EditionView{}, Stages: board.Stages(r, len(editions)),
	}
	for _, e := range editions {
		out.Editions = append(out.Editions, viewEdition(e))
	}
	return &body[ReviewView]{out}, nil
}

func namedCells(r *measure.Review, cells []claims.Cell) []NamedCell {
	out := []NamedCell{}
	for _, c := range cells {
		out = append(out, NamedCell{c, r.BoxName(c)})
	}
	return out
}

type boardAsked struct {
	IDPath
	RuleBook     string  `query:"rule_book"`
	DecisionRule string  `query:"decision_rule" enum:"guarded,simple"`
	Scheme       string  `query:"scheme" enum:"tolerance,percent"`
	ToleranceDB  float64 `query:"tolerance_db" minimum:"0" doc:"0 leaves that of the review"`
	PassPercent  float64 `query:"pass_percent" minimum:"0" maximum:"100" doc:"0 leaves that of the review"`
	SourceSWR    float64 `query:"source_swr" default:"-1" minimum:"-1" doc:"The radio's own SWR at its harmonics, 0 for the typical one; -1 leaves that of the review"`
}

func (s *Server) getBoard(ctx context.Context, in *boardAsked) (*body[board.Board], error) {
	r, err := s.app.Open(ctx, in.ID, store.WithTraces, func(r *record.Rules) {
		if in.RuleBook != "" && in.RuleBook != r.RuleBook { // tried on every band
			r.Books = nil
		}
		replace(&r.RuleBook, in.RuleBook)
		replace(&r.DecisionRule, in.DecisionRule)
		replace(&r.Scheme, in.Scheme)
		r.ToleranceDB, r.PassPercent = cmp.Or(in.ToleranceDB, r.ToleranceDB), cmp.Or(in.PassPercent, r.PassPercent)
		if in.SourceSWR >= 0 {
			r.SourceSWR = in.SourceSWR
		}
	})
	if err != nil {
		return nil, err
	}
	return &body[board.Board]{board.Of(r, false)}, nil
}

func replace(to *string, v string) {
	if v != "" {
		*to = v
	}
}

// KeyingAsk is what will be keyed, into which kept path.
type KeyingAsk struct {
	record.Keyed
	PathID string `json:"path_id" format:"uuid"`
}

type keyingAsked struct {
	IDPath
	Body KeyingAsk
}

func (s *Server) getKeying(ctx context.Context, in *keyingAsked) (*body[wiring.Staircase], error) {
	out, err := s.app.Staircase(ctx, in.ID, in.Body.Keyed, in.Body.PathID)
	if err != nil {
		return nil, err
	}
	return &body[wiring.Staircase]{*out}, nil
}
