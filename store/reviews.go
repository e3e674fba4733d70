package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"talloak/core/record"
)

// Review is one review; ErrNotFound where there is none.
func (s *Store) Review(ctx context.Context, id string) (*record.Review, error) {
	var out reviewRow
	if err := s.db.WithContext(ctx).First(&out, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	return out.fact(), nil
}

// AddReview writes a new review at version 1, under the fingerprint of its request.
func (s *Store) AddReview(ctx context.Context, r *record.Review, request string) (again bool, err error) {
	at, err := later(s.db.WithContext(ctx))
	if err != nil {
		return false, err
	}
	row := &reviewRow{ID: r.ID, RequestHash: request, Version: 1, CreatedAt: at, UpdatedAt: at, Subject: r.Subject, Claims: r.Claims, Rules: r.Rules, Sheet: r.Sheet, Adds: r.Adds, Follows: orNull(r.Follows), Practice: r.Practice}
	again, err = addOnce(ctx, s.db, row)
	*r = *row.fact()
	return again, err
}

// later is the time, or just behind the newest change of any review where the clock was set
// back: no order is changed by that.
func later(db *gorm.DB) (time.Time, error) {
	at := now()
	var newest sql.NullTime
	if err := db.Raw("SELECT max(updated_at) FROM reviews").Row().Scan(&newest); err != nil {
		return at, err
	}
	if newest.Valid && !at.After(newest.Time) {
		at = newest.Time.Add(time.Microsecond).UTC()
	}
	return at, nil
}

// EarlierOf is the id of the review of the same maker and model begun last before this one;
// empty where there is none.
func (s *Store) EarlierOf(ctx context.Context, r *record.Review) (string, error) {
	var row reviewRow
	err := s.db.WithContext(ctx).Where("subject ->> 'maker' = ? AND subject ->> 'model' = ? AND created_at < ? AND practice = ''", r.Subject.Maker, r.Subject.Model, r.CreatedAt).Order("created_at DESC").Limit(1).Find(&row).Error
	return row.ID, translate(err)
}

// Family are the reviews that a review is related to by re-tests, itself among them: the one that the first was, and
// all that follow, in the order begun. ErrNotFound where there is no such review.
func (s *Store) Family(ctx context.Context, reviewID string) (out []record.Review, err error) {
	var rows []reviewRow
	err = s.db.WithContext(ctx).Raw(`WITH RECURSIVE
		up AS (SELECT id, follows FROM reviews WHERE id = ? UNION SELECT r.id, r.follows FROM reviews r JOIN up ON r.id = up.follows),
		down AS (SELECT id FROM up WHERE follows IS NULL UNION SELECT r.id FROM reviews r JOIN down ON r.follows = down.id)
		SELECT r.* FROM reviews r JOIN down ON r.id = down.id ORDER BY r.created_at, r.id`, reviewID).Scan(&rows).Error
	if err == nil && len(rows) == 0 {
		err = ErrNotFound
	}
	for i := range rows {
		out = append(out, *rows[i].fact())
	}
	return out, err
}

// ChangeReview writes what a person says of a review whose version is still the one
// given. The very same write again is the same write; anything else on an older version
// is ErrStale. On success r has the version written.
func (s *Store) ChangeReview(ctx context.Context, r *record.Review) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var old reviewRow
		if err := tx.Clauses(clause.Locking{Strength: "NO KEY UPDATE"}).First(&old, "id = ?", r.ID).Error; err != nil {
			return translate(err)
		}
		same := Fingerprint([]any{old.Subject, old.Claims, old.Rules, old.Sheet, old.Adds}) == Fingerprint([]any{r.Subject, r.Claims, r.Rules, r.Sheet, r.Adds})
		switch {
		case same && (old.Version == r.Version || old.Version == r.Version+1):
			*r = *old.fact()
			return nil
		case old.Version != r.Version:
			return ErrStale
		}
		at, err := later(tx)
		if err != nil {
			return err
		}
		old.Version, old.UpdatedAt = old.Version+1, at
		old.Subject, old.Claims, old.Rules, old.Sheet, old.Adds = r.Subject, r.Claims, r.Rules, r.Sheet, r.Adds
		*r = *old.fact()
		return tx.Save(&old).Error
	})
}

// PutAway puts a review away, or brings it back; ErrNotFound where there is none.
func (s *Store) PutAway(ctx context.Context, id string, away bool) error {
	done := s.db.WithContext(ctx).Model(&reviewRow{}).Where("id = ?", id).Update("away", away)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// Standpoint tells a review's facts apart from those it had before: facts are only ever
// added, so their number and the last of each kind of row name them all.
type Standpoint struct {
	Version      int `gorm:"column:at_version"`
	Measurements int64
	LastSeq      int64
	Standings    int64
	LastSaid     int64
}

// Summary is a review in a list, with what it was said to come to under a basis; that is
// nil where nothing was kept.
type Summary struct {
	Review     record.Review
	Editions   int
	Standpoint Standpoint
	Basis      string
	Kept       json.RawMessage
}

const standpointColumns = `r.version AS at_version,
	(SELECT count(*) FROM measurements m WHERE m.review_id = r.id) AS measurements,
	(SELECT coalesce(max(seq), 0) FROM measurements m WHERE m.review_id = r.id) AS last_seq,
	(SELECT count(*) FROM standings t WHERE t.review_id = r.id) AS standings,
	(SELECT coalesce(max(seq), 0) FROM standings t WHERE t.review_id = r.id) AS last_said`

// Place is where in the list of reviews a page ended.
type Place struct {
	UpdatedAt time.Time `json:"updated_at"`
	ID        string    `json:"id"`
}

// Reviews lists at most n reviews, the newest change first, after a place; from the
// beginning where that is nil.
func (s *Store) Reviews(ctx context.Context, after *Place, n int) ([]Summary, error) {
	return s.ReviewsOf(ctx, Wanted{}, after, n)
}

// Wanted are the reviews asked for: with these words in maker, model, serial or date code, of this rule book, these
// alone; put away or not where Away is told, without an edition where Unfinished, last changed from Since to before
// Until where these are told. Empty asks for any.
type Wanted struct {
	Words      string
	Book       string
	IDs        []string
	Away       *bool
	Unfinished bool
	Since      time.Time
	Until      time.Time
}

// ReviewsOf lists at most n of the reviews wanted, as Reviews does.
func (s *Store) ReviewsOf(ctx context.Context, want Wanted, after *Place, n int) ([]Summary, error) {
	var rows []struct {
		Row      reviewRow  `gorm:"embedded"`
		At       Standpoint `gorm:"embedded"`
		Editions int
		Basis    string
		Kept     json.RawMessage
	}
	query := `SELECT r.*, ` + standpointColumns + `,
		(SELECT count(*) FROM editions e WHERE e.review_id = r.id) AS editions, coalesce(k.basis, '') AS basis, k.summary AS kept
		FROM (SELECT * FROM reviews %s ORDER BY updated_at DESC, id LIMIT ?) r LEFT JOIN rulings k ON k.review_id = r.id ORDER BY r.updated_at DESC, r.id`
	where, args := "WHERE practice = ''", []any{}
	also := func(condition string, more ...any) {
		where += " AND (" + condition + ")"
		args = append(args, more...)
	}
	if after != nil {
		also("updated_at < ? OR updated_at = ? AND id > ?", after.UpdatedAt, after.UpdatedAt, after.ID)
	}
	for _, word := range strings.Fields(want.Words) {
		also("concat_ws(' ', subject ->> 'maker', subject ->> 'model', subject ->> 'serial', subject ->> 'date_code') ILIKE ?", "%"+escapeLike.Replace(word)+"%")
	}
	if want.Book != "" {
		also("rules ->> 'rule_book' = ?", want.Book)
	}
	if want.IDs != nil {
		also("id IN ?", want.IDs)
	}
	if want.Away != nil {
		also("away = ?", *want.Away)
	}
	if want.Unfinished {
		also("NOT EXISTS (SELECT 1 FROM editions e WHERE e.review_id = reviews.id)")
	}
	if !want.Since.IsZero() {
		also("updated_at >= ?", want.Since)
	}
	if !want.Until.IsZero() {
		also("updated_at < ?", want.Until)
	}
	if err := s.db.WithContext(ctx).Raw(fmt.Sprintf(query, where), append(args, n)...).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Summary, len(rows))
	for i := range rows {
		r := &rows[i]
		out[i] = Summary{*r.Row.fact(), r.Editions, r.At, r.Basis, r.Kept}
	}
	return out, nil
}

var escapeLike = strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`)

// Standpoint is that of one review; ErrNotFound where there is none.
func (s *Store) Standpoint(ctx context.Context, id string) (Standpoint, error) {
	return standpoint(s.db.WithContext(ctx), id)
}

func standpoint(db *gorm.DB, id string) (out Standpoint, err error) {
	done := db.Raw("SELECT "+standpointColumns+" FROM reviews r WHERE r.id = ?", id).Scan(&out)
	if done.Error == nil && done.RowsAffected == 0 {
		return out, ErrNotFound
	}
	return out, done.Error
}

// KeepRuling keeps what a review came to, in place of what was kept before.
func (s *Store) KeepRuling(ctx context.Context, reviewID, basis string, summary json.RawMessage) error {
	row := &rulingRow{reviewID, basis, summary}
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "review_id"}}, UpdateAll: true}).Create(row).Error
}

// Editions lists the editions of a review, oldest first, without their contents.
func (s *Store) Editions(ctx context.Context, reviewID string) ([]record.Edition, error) {
	return editions(s.db.WithContext(ctx).Omit("document", "page").Where("review_id = ?", reviewID).Order("number"))
}

// AllEditions lists every edition of every review whole, oldest first, one at a time.
func (s *Store) AllEditions(ctx context.Context, see func(*record.Edition) error) error {
	var ids []string
	if err := s.db.WithContext(ctx).Model(&editionRow{}).Order("frozen_at, id").Pluck("id", &ids).Error; err != nil {
		return err
	}
	for _, id := range ids {
		e, err := s.Edition(ctx, id)
		if err == nil {
			err = see(e)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func editions(db *gorm.DB) ([]record.Edition, error) {
	var rows []editionRow
	err := db.Find(&rows).Error
	out := make([]record.Edition, len(rows))
	for i := range rows {
		out[i] = *rows[i].fact()
	}
	return out, err
}

// Edition is one edition whole; ErrNotFound where there is none.
func (s *Store) Edition(ctx context.Context, id string) (*record.Edition, error) {
	var out editionRow
	if err := s.db.WithContext(ctx).First(&out, "id = ?", id).Error; err != nil {
		return nil, translate(err)
	}
	return out.fact(), nil
}

// Freeze numbers and writes an edition. Compose is given the review's facts as they are, with their standpoint, the
// number, the time and the edition before, and fills the edition. Nothing waits while it does, so that one may go on
// keying; what was added meanwhile is told by the standpoint, and composed anew.
func (s *Store) Freeze(ctx context.Context, e *record.Edition, request string, compose func(e *record.Edition, r *record.Review, facts record.Facts, at Standpoint, last *record.Edition) error) (again bool, err error) {
	const tries = 5
	for range tries {
		again, err = s.freezeOnce(ctx, e, request, compose)
		if !errors.Is(err, errMeanwhile) {
			return again, err
		}
	}
	return false, ErrStale
}

// errMeanwhile is a freeze of a review that something was added to while its edition was made.
var errMeanwhile = errors.New("something was added meanwhile")

func (s *Store) freezeOnce(ctx context.Context, e *record.Edition, request string, compose func(*record.Edition, *record.Review, record.Facts, Standpoint, *record.Edition) error) (again bool, err error) {
	db := s.db.WithContext(ctx)
	if again, err := frozenBefore(db, e, request); again || err != nil {
		return again, err
	}
	at, err := standpoint(db, e.ReviewID) // before the facts: what comes between is told by it
	if err != nil {
		return false, err
	}
	r, err := s.Review(ctx, e.ReviewID)
	if err != nil {
		return false, err
	}
	last, err := lastEdition(db, e.ReviewID)
	if err != nil {
		return false, err
	}
	facts, err := readFacts(db, e.ReviewID, WithTraces)
	if err != nil {
		return false, err
	}
	e.Number, e.FrozenAt = last.Number+1, now()
	if err := compose(e, r, facts, at, last); err != nil {
		return false, err
	}
	err = db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&reviewRow{}, "id = ?", e.ReviewID).Error; err != nil {
			return translate(err)
		}
		var err error
		if again, err = frozenBefore(tx, e, request); again || err != nil {
			return err
		}
		now, err := standpoint(tx, e.ReviewID)
		if err != nil {
			return err
		}
		newest, err := lastEdition(tx, e.ReviewID)
		if err != nil {
			return err
		}
		if now != at || newest.Number != last.Number {
			return errMeanwhile
		}
		if err := tx.Create(&editionRow{
			ID: e.ID, RequestHash: request, ReviewID: e.ReviewID, Number: e.Number, FrozenAt: e.FrozenAt, Title: e.Title, Headline: e.Headline,
			SHA256: e.SHA256, PageSHA256: e.PageSHA256, Document: e.Document, Page: e.Page, Basis: e.Basis, Kind: e.Kind, Changed: e.Changed,
		}).Error; err != nil {
			return err
		}
		return chained(tx, "editions", e.ID)
	})
	return again, err
}

// frozenBefore tells whether the edition was written under its key already, and fills it then.
func frozenBefore(db *gorm.DB, e *record.Edition, request string) (bool, error) {
	var old editionRow
	switch err := db.First(&old, "id = ?", e.ID).Error; {
	case err == nil && old.RequestHash != request:
		return false, ErrKeyReused
	case err == nil:
		*e = *old.fact()
		return true, nil
	case !errors.Is(err, gorm.ErrRecordNotFound):
		return false, err
	}
	return false, nil
}

// lastEdition is the newest of a review, without its page; number 0 where there is none.
func lastEdition(db *gorm.DB, reviewID string) (*record.Edition, error) {
	var last editionRow
	err := db.Omit("page").Where("review_id = ?", reviewID).Order("number DESC").Limit(1).Find(&last).Error
	return last.fact(), err
}
