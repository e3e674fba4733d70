package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"slices"
	"strings"

	"github.com/google/uuid"

	"talloak/core/bands"
	"talloak/core/board"
	"talloak/core/claims"
	"talloak/core/decision"
	"talloak/core/measure"
	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/rulebook"
	"talloak/core/units"
	"talloak/publish"
	"talloak/store"
)

// DefaultRules are those of a new review. 16 kHz is the necessary bandwidth of FM voice:
// twice 5 kHz of deviation and 3 kHz of speech (47 CFR 2.202, from memory).
var DefaultRules = record.Rules{
	RuleBook: bands.DefaultBook, DecisionRule: string(decision.Guarded), Scheme: string(claims.Tolerance),
	ToleranceDB: claims.DefaultToleranceDB, PassPercent: claims.DefaultPassPercent, BandwidthHz: 16000,
}

// StartReview writes a new review of a unit under a key made by who asks.
func (a *App) StartReview(ctx context.Context, id string, subject record.Subject) error {
	if err := checkTexts(struct {
		Subject record.Subject `json:"subject"`
	}{subject}); err != nil {
		return err
	}
	request := store.Fingerprint([]any{id, subject})
	if subject.Region == 0 {
		var err error
		if subject.Region, err = a.Store.Region(ctx); err != nil {
			return err
		}
	}
	return a.addReview(ctx, &record.Review{ID: id, Subject: subject, Claims: []record.Claim{}, Rules: DefaultRules}, request)
}

// AddReview is StartReview with claims and rules of its own.
func (a *App) AddReview(ctx context.Context, r *record.Review) error {
	return a.addReview(ctx, r, store.Fingerprint([]any{r.ID, r.Subject}))
}

func (a *App) addReview(ctx context.Context, r *record.Review, request string) error {
	if strings.TrimSpace(r.Subject.Model) == "" {
		return problem.New("subject.model", "type at least the model of the radio")
	}
	again, err := a.Store.AddReview(ctx, r, request)
	if err == nil && !again {
		a.Events.publish("review", r.ID, r.ID)
	}
	return err
}

// ReviewChange is what a person says of a review, on the version it was read at.
type ReviewChange struct {
	ID      string
	Version int
	Subject record.Subject `json:"subject"`
	Claims  []record.Claim `json:"claims"`
	Rules   record.Rules   `json:"rules"`
	Sheet   *record.Sheet  `json:"sheet"` // nil leaves it as it is
	Adds    *record.Adds   `json:"adds"`  // nil leaves it as it is
}

// ChangeReview writes a change; store.ErrStale where the version is not the newest. The
// same change again is the same write.
func (a *App) ChangeReview(ctx context.Context, c ReviewChange) error {
	if err := checkTexts(c); err != nil {
		return err
	}
	var bad problem.List
	bad.AddErr("rules", measure.CheckRules(c.Rules))
	bad.AddErr("subject", checkSubject(&c.Subject))
	if err := bad.Err(); err != nil {
		return err
	}
	if _, err := a.book(ctx, "rules.rule_book", c.Rules.RuleBook); err != nil {
		return err
	}
	for band, id := range c.Rules.Books {
		if _, err := a.book(ctx, "rules.books."+band, id); err != nil {
			return err
		}
	}
	if c.Claims == nil {
		c.Claims = []record.Claim{}
	}
	r := &record.Review{ID: c.ID, Version: c.Version, Subject: c.Subject, Claims: c.Claims, Rules: c.Rules}
	if c.Sheet == nil || c.Adds == nil {
		old, err := a.Store.Review(ctx, c.ID)
		if err != nil {
			return err
		}
		c.Sheet, c.Adds = cmp.Or(c.Sheet, &old.Sheet), cmp.Or(c.Adds, &old.Adds)
	}
	if err := checkSheet(c.Sheet); err != nil {
		return err
	}
	if err := checkAdds(c.Adds); err != nil {
		return err
	}
	r.Sheet, r.Adds = *c.Sheet, *c.Adds
	if err := a.Store.ChangeReview(ctx, r); err != nil {
		return err
	}
	a.Events.publish("review", c.ID, c.ID)
	return nil
}

// Summary is a review in the list, with the ruling as it stands.
type Summary struct {
	Title    string        `json:"title"`
	Headline string        `json:"headline"`
	Kinds    []board.Whole `json:"kinds"`
	Before   string        `json:"before,omitempty" doc:"What a program before this one ruled on the same facts, where it ruled otherwise"`
}

// since says what was ruled before where a later program rules otherwise on the same facts.
func (s *Summary) since(before *Summary) {
	verdicts := func(kinds []board.Whole) (out []string) {
		for _, k := range kinds {
			out = append(out, k.Kind+" "+string(k.Verdict))
		}
		return out
	}
	if s.Before = before.Before; s.Before == "" && !slices.Equal(verdicts(s.Kinds), verdicts(before.Kinds)) {
		s.Before = before.Headline
	}
}

// Listed is a review of the list with its summary.
type Listed struct {
	store.Summary
	Says Summary
}

// kept is what is kept of a review between two looks at lists.
type kept struct {
	Summary
	Compared []publish.Compared `json:"compared"`
	publish.Kits
}

// Find is which reviews are asked for: those wanted, of them the ones that claim a band and come to a verdict in power
// or emissions, where these are told; by their names instead of by their last change where ByName.
type Find struct {
	store.Wanted
	Band    string
	Verdict decision.Verdict
	ByName  bool
}

func (f *Find) fits(k *kept) bool {
	band := f.Band == "" || slices.ContainsFunc(k.Compared, func(c publish.Compared) bool { return strings.EqualFold(c.Band, f.Band) })
	return band && (f.Verdict == "" || slices.ContainsFunc(k.Kinds, func(w board.Whole) bool { return w.PerLevel && w.Verdict == f.Verdict }))
}

// pageRead is how many reviews are looked through at a time.
const pageRead = 100

// Reviews is a page of the reviews asked for, and where the next begins; nil at the end. What they come to is read
// where it was kept on the same basis, and worked out and kept where not. By name all of them are one page.
func (a *App) Reviews(ctx context.Context, find Find, after *store.Place, n int) (out []Listed, next *store.Place, err error) {
	out = []Listed{}
	for {
		rows, says, err := a.summaries(ctx, find.Wanted, after, pageRead)
		if err != nil {
			return nil, nil, err
		}
		for i := range rows {
			after = &store.Place{UpdatedAt: rows[i].Review.UpdatedAt, ID: rows[i].Review.ID}
			if !find.fits(&says[i]) {
				continue
			}
			if out = append(out, Listed{rows[i], says[i].Summary}); len(out) == n && !find.ByName {
				return out, after, nil
			}
		}
		if len(rows) < pageRead {
			break
		}
	}
	if find.ByName {
		slices.SortStableFunc(out, func(x, y Listed) int {
			return cmp.Or(cmp.Compare(strings.ToLower(x.Says.Title), strings.ToLower(y.Says.Title)), cmp.Compare(x.Review.ID, y.Review.ID))
		})
	}
	return out, nil, nil
}

// PutAway puts a review away, or brings it back.
func (a *App) PutAway(ctx context.Context, id string, away bool) error {
	err := a.Store.PutAway(ctx, id, away)
	if err == nil {
		a.Events.publish("review", id, id)
	}
	return err
}

// summaries are a page of the reviews wanted with what each comes to.
func (a *App) summaries(ctx context.Context, want store.Wanted, after *store.Place, n int) ([]store.Summary, []kept, error) {
	rows, err := a.Store.ReviewsOf(ctx, want, after, n)
	if err != nil {
		return nil, nil, err
	}
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return nil, nil, err
	}
	out := make([]kept, len(rows))
	for i := range rows {
		if out[i], err = a.summary(ctx, &rows[i], shelf); err != nil {
			return nil, nil, err
		}
	}
	return rows, out, nil
}

func (a *App) summary(ctx context.Context, row *store.Summary, shelf *rulebook.Shelf) (out kept, err error) {
	basis := basis(&row.Review, row.Standpoint, shelf)
	var before kept
	known := json.Unmarshal(row.Kept, &before) == nil
	if known && row.Basis == basis {
		return before, nil
	}
	r, err := a.Open(ctx, row.Review.ID, store.WithTraces, nil)
	if err != nil {
		return out, err
	}
	b := board.Of(r, false)
	out.Summary = Summary{Title: b.Title, Headline: b.Headline, Kinds: b.Kinds}
	out.Compared, out.Kits = publish.Compare(r, b)
	if known && onlyLater(row.Basis, basis) {
		out.since(&before.Summary)
	}
	text, err := json.Marshal(out)
	if err != nil {
		return out, err
	}
	// Kept to be quicker next time: a list is read where nothing can be written, too.
	if err := a.Store.KeepRuling(ctx, row.Review.ID, basis, text); err != nil {
		slog.Warn("a ruling is not kept for the list", "error", err)
	}
	return out, nil
}

// Publishing is what stands between a review and its next edition. Basis names what was
// seen: the edition is frozen from that, or not at all.
type Publishing struct {
	Next      int
	Unchanged bool // since the last edition: there is nothing to freeze
	Obstacles []measure.Obstacle
	Basis     string
	Editions  []record.Edition
}

// Publishing gathers what stands between a review and its next edition.
func (a *App) Publishing(ctx context.Context, id string) (*Publishing, error) {
	r, at, err := a.forEdition(ctx, id)
	if err != nil {
		return nil, err
	}
	editions, err := a.Store.Editions(ctx, id)
	if err != nil {
		return nil, err
	}
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	b := board.Of(r, false)
	now, last := basis(r.Review, at, shelf), lastOf(editions)
	return &Publishing{last.Number + 1, last.Basis == now, board.Obstacles(r, &b), seen(now, last), editions}, nil
}

func lastOf(editions []record.Edition) *record.Edition {
	if len(editions) == 0 {
		return &record.Edition{}
	}
	return &editions[len(editions)-1]
}

// seen names what a person has before them of the next edition: what it rests on, and the
// edition that it follows.
func seen(basis string, last *record.Edition) string { return fmt.Sprintf("%s %d", basis, last.Number) }

// FrozenAlready is a freeze of what the last edition is of: nothing has changed since.
type FrozenAlready struct{ Number int }

// Error says which edition that is.
func (f FrozenAlready) Error() string {
	return fmt.Sprintf("nothing has changed since edition %d", f.Number)
}

func (a *App) forEdition(ctx context.Context, id string) (*measure.Review, store.Standpoint, error) {
	at, err := a.Store.Standpoint(ctx, id) // before the facts: what comes between is told by it
	if err != nil {
		return nil, at, err
	}
	r, err := a.Open(ctx, id, store.WithTraces, nil)
	return r, at, err
}

// PreviewEdition is the page as the next edition would show it, of the basis given;
// store.ErrStale where the review is not that any more. Empty takes what there is.
func (a *App) PreviewEdition(ctx context.Context, id, saw string) ([]byte, error) {
	r, at, err := a.forEdition(ctx, id)
	if err != nil {
		return nil, err
	}
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	editions, err := a.Store.Editions(ctx, id)
	if err != nil {
		return nil, err
	}
	last := lastOf(editions)
	if saw != "" && saw != seen(basis(r.Review, at, shelf), last) {
		return nil, store.ErrStale
	}
	frame, err := a.frame(ctx, r.Review, editions)
	if err != nil {
		return nil, err
	}
	frame.Number = last.Number + 1
	return publish.Preview(r, frame)
}

// frame is what an edition says beside what was measured, but for its kind, number and time.
func (a *App) frame(ctx context.Context, r *record.Review, editions []record.Edition) (out publish.Frame, err error) {
	if out.Publication, err = a.Store.Publication(ctx); err != nil {
		return out, err
	}
	letters, err := a.Store.Letters(ctx, r.ID)
	if err != nil {
		return out, err
	}
	out.Recommendation, out.Ambient, out.Letters = r.Adds.Recommendation, r.Adds.Ambient, publish.Printed(letters)
	for _, id := range r.Adds.Photos {
		p, err := a.Store.Photo(ctx, id)
		if errors.Is(err, store.ErrNotFound) {
			continue // ticked elsewhere, and never sent
		}
		if err != nil {
			return out, err
		}
		if p.ReviewID == r.ID {
			out.Photos = append(out.Photos, publish.Photo{About: p.About, Name: p.Name, MediaType: p.MediaType, TakenAt: p.TakenAt.UTC(), Content: p.Content})
		}
	}
	for i := range editions {
		out.Earlier = append(out.Earlier, earlier(&editions[i]))
	}
	before := lastOf(editions)
	if before.Number == 0 && r.Follows != "" {
		others, err := a.Store.Editions(ctx, r.Follows)
		if err != nil {
			return out, err
		}
		if before = lastOf(others); before.Number > 0 {
			e := earlier(before)
			out.Follows = &e
		}
	}
	if before.Number > 0 {
		whole, err := a.Store.Edition(ctx, before.ID)
		if err != nil {
			return out, err
		}
		out.Before, err = publish.FiguresOf(whole.Document)
		return out, err
	}
	return out, nil
}

func earlier(e *record.Edition) publish.Earlier {
	return publish.Earlier{ID: e.ID, Number: e.Number, Kind: publish.Kind(e.Kind), FrozenAt: e.FrozenAt.UTC(), Title: e.Title, Changed: e.Changed, SHA256: e.SHA256}
}

// fileNotes are those of the original files of a review.
func (a *App) fileNotes(ctx context.Context, reviewID string) (map[string]publish.FileNote, error) {
	ids, err := a.Store.FilesOf(ctx, reviewID)
	out := map[string]publish.FileNote{}
	for _, id := range ids {
		f, err := a.Store.File(ctx, id)
		if err != nil {
			return nil, err
		}
		out[id] = publish.FileNote{Name: f.Name, MediaType: f.MediaType, Bytes: len(f.Content), SHA256: sumOf(f.Content)}
	}
	return out, err
}

// Freezing asks for the next edition of a review under a key made by who asks. Saw is the
// basis of what was previewed; empty for whoever has seen nothing and takes what there is.
type Freezing struct {
	ReviewID, EditionID, Saw string
	Kind                     publish.Kind
	Changed                  string
}

// Freeze freezes the next edition: store.ErrStale where the review is not what was previewed any
// more, FrozenAlready where nothing has changed since the last edition.
func (a *App) Freeze(ctx context.Context, ask Freezing) (*record.Edition, error) {
	if err := checkTexts(struct {
		Changed string `json:"changed"`
	}{ask.Changed}); err != nil {
		return nil, err
	}
	shelf, err := a.Shelf(ctx)
	if err != nil {
		return nil, err
	}
	key, err := a.signingKey()
	if err != nil {
		return nil, err
	}
	e := &record.Edition{ID: ask.EditionID, ReviewID: ask.ReviewID, Kind: string(ask.Kind), Changed: strings.TrimSpace(ask.Changed)}
	again, err := a.Store.Freeze(ctx, e, store.Fingerprint([]string{ask.ReviewID, ask.EditionID}), func(e *record.Edition, r *record.Review, facts record.Facts, at store.Standpoint, last *record.Edition) error {
		if e.Basis = basis(r, at, shelf); last.Basis == e.Basis {
			return FrozenAlready{last.Number}
		}
		if ask.Saw != "" && ask.Saw != seen(e.Basis, last) {
			return store.ErrStale
		}
		if err := publish.CheckKind(ask.Kind, ask.Changed, last.Number, r.Follows != ""); err != nil {
			return err
		}
		// What is read here besides is of this moment, too: something added meanwhile has all of it made anew.
		editions, err := a.Store.Editions(ctx, r.ID)
		if err != nil {
			return err
		}
		frame, err := a.frame(ctx, r, editions)
		if err != nil {
			return err
		}
		frame.Kind, frame.Changed = ask.Kind, e.Changed
		files, err := a.fileNotes(ctx, r.ID)
		if err != nil {
			return err
		}
		opened, err := measure.Open(r, facts, r.Rules, shelf.Find, a.Kinds)
		if err != nil {
			return err
		}
		if err := publish.Freeze(opened, e, frame, files, key); err != nil {
			return err
		}
		if last.Number > 0 && publish.Alike(last.Document, e.Document) { // a later program, or what no edition tells
			return FrozenAlready{last.Number}
		}
		return nil
	})
	if err == nil && !again {
		a.Events.publish("edition", e.ID, ask.ReviewID)
	}
	return e, err
}

// checkSubject refuses figures of a unit that none has.
func checkSubject(s *record.Subject) error {
	var bad problem.List
	for _, f := range []struct {
		field       string
		v           *float64
		least, most float64
		unit        string
	}{
		{"supply_min_v", s.SupplyMinV, units.LeastV, units.MostV, "V"}, {"supply_v", s.SupplyV, units.LeastV, units.MostV, "V"}, {"supply_max_v", s.SupplyMaxV, units.LeastV, units.MostV, "V"},
		{"most_w", s.MostW, units.LeastW, units.MostW, "W"}, {"key_s", s.KeyS, 0.1, 86400, "s"}, {"rest_s", s.RestS, 0, 86400, "s"}, {"antenna_gain_dbd", s.AntennaGainDBd, -40, 20, "dBd"},
	} {
		if f.v != nil && !(*f.v >= f.least && *f.v <= f.most) {
			bad.Add(f.field, "give %g to %g %s", f.least, f.most, f.unit)
		}
	}
	for i, hz := range s.ClocksHz {
		if err := units.CheckHz(hz); err != nil {
			bad.Add(fmt.Sprintf("clocks_hz[%d]", i), "%s", err.Error())
		}
	}
	return bad.Err()
}

// mostPhotos is how many photographs come into an edition at most.
const mostPhotos = 40

// checkAdds refuses photographs by what is no id, and more of them than a page holds. Errors are on "adds...".
func checkAdds(a *record.Adds) error {
	var bad problem.List
	if len(a.Photos) > mostPhotos {
		bad.Add("adds.photos", "tick at most %d photographs", mostPhotos)
	}
	for i, id := range a.Photos {
		if uuid.Validate(id) != nil {
			bad.Add(fmt.Sprintf("adds.photos[%d]", i), "give the id of a photograph")
		}
	}
	return bad.Err()
}

// checkSheet refuses figures that are none. Errors are on "sheet...".
func checkSheet(s *record.Sheet) error {
	var bad problem.List
	for i, v := range s.SupplyV {
		if !(v >= units.LeastV && v <= units.MostV) {
			bad.Add(fmt.Sprintf("sheet.supply_v[%d]", i), "give a voltage of 1 mV to 1 kV")
		}
	}
	for band, all := range s.Own {
		for i, f := range all {
			if err := units.CheckHz(f); err != nil {
				bad.Add(fmt.Sprintf("sheet.own.%s[%d]", band, i), "%s", err.Error())
			}
		}
	}
	return bad.Err()
}
