package app

import (
	"context"
	"strings"

	"talloak/core/problem"
	"talloak/core/record"
	"talloak/store"
)

// Retest starts the review of another unit of a model, or of the same one after a change, under a key made by who
// asks: with the claims, the sheet and the rules of the review that it follows. How another unit was come by has to
// be said anew.
func (a *App) Retest(ctx context.Context, of, id string, same bool, changes string) error {
	if err := checkTexts(struct {
		Changes string `json:"changes"`
	}{changes}); err != nil {
		return err
	}
	before, err := a.Store.Review(ctx, of)
	if err != nil {
		return err
	}
	if before.Practice != "" {
		return problem.New("id", "a practice radio is not there to be tested again: begin the scenario anew")
	}
	changes = strings.TrimSpace(changes)
	if same && changes == "" {
		return problem.New("changes", "say what was changed on the unit since")
	}
	s := before.Subject
	if same {
		s.Changes = changes
	} else {
		s.Serial, s.DateCode, s.Firmware, s.Changes, s.ComeBy, s.ComeByNote, s.Interest = "", "", "", "", "", "", ""
	}
	r := &record.Review{ID: id, Subject: s, Claims: before.Claims, Rules: before.Rules, Sheet: before.Sheet, Follows: of}
	return a.addReview(ctx, r, store.Fingerprint([]any{of, id, same, changes}))
}
