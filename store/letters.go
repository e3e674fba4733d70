package store

import (
	"context"
	"slices"
	"time"

	"talloak/core/record"
)

type letterRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	Replaces    *string
	Kind        string
	Sender      string
	Name        string
	SaidOn      string
	About       string
	Body        string
	MayPrint    bool
	Serial      string
	DateCode    string
	WrittenAt   time.Time
}

func (letterRow) TableName() string         { return "letters" }
func (r *letterRow) key() (id, hash string) { return r.ID, r.RequestHash }

func (r *letterRow) fact() record.Letter {
	return record.Letter{
		ID: r.ID, ReviewID: r.ReviewID, Replaces: orEmpty(r.Replaces), Kind: r.Kind, From: r.Sender, Name: r.Name, SaidOn: r.SaidOn, About: r.About, Text: r.Body,
		MayPrint: r.MayPrint, Serial: r.Serial, DateCode: r.DateCode, WrittenAt: r.WrittenAt,
	}
}

// AddLetter writes a letter about a review, under the fingerprint of its request; ErrNotFound where the review, or
// the letter that it replaces, is not there.
func (s *Store) AddLetter(ctx context.Context, l *record.Letter, request string) (again bool, err error) {
	row := &letterRow{
		ID: l.ID, RequestHash: request, ReviewID: l.ReviewID, Replaces: orNull(l.Replaces), Kind: l.Kind, Sender: l.From, Name: l.Name, SaidOn: l.SaidOn, About: l.About, Body: l.Text,
		MayPrint: l.MayPrint, Serial: l.Serial, DateCode: l.DateCode, WrittenAt: now(),
	}
	again, err = addOnce(ctx, s.db, row)
	*l = row.fact()
	return again, err
}

// Letters are those about a review in the order written, without what was replaced or taken out.
func (s *Store) Letters(ctx context.Context, reviewID string) ([]record.Letter, error) {
	return s.LettersOf(ctx, []string{reviewID})
}

// LettersOf are those about some reviews, as Letters are.
func (s *Store) LettersOf(ctx context.Context, reviewIDs []string) ([]record.Letter, error) {
	all, err := facts(s.db.WithContext(ctx).Where("review_id IN ?", reviewIDs).Order("seq"), func(r *letterRow) record.Letter { return r.fact() })
	replaced := map[string]bool{}
	for _, l := range all {
		replaced[l.Replaces] = true
	}
	return slices.DeleteFunc(all, func(l record.Letter) bool { return replaced[l.ID] || l.Text == "" }), err
}
