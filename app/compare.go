package app

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"talloak/core/problem"
	"talloak/core/record"
	"talloak/core/units"
	"talloak/publish"
	"talloak/publish/drawing"
	"talloak/store"
)

// Comparing asks for reviews to stand beside each other. Class is of the most that a radio claims: up-to-1-w, up-to-10-w
// or over-10-w; Band is one that it has. Empty asks for any.
type Comparing struct {
	store.Wanted
	Band  string
	Class string
}

// Comparison is a review among others.
type Comparison struct {
	Review   record.Review
	Title    string
	Compared []publish.Compared
	publish.Kits
	Outside []record.OutsideFigure
	Answers []record.Letter // of readers, about units of theirs

	// The meters and analyzers that it was measured with, where most of the others had other ones.
	OtherMeters, OtherAnalyzers string
}

// mostLooked is how many reviews are looked through for a page of those that are of a band or class.
const mostLooked = 1000

// Compare is a page of reviews beside each other, the newest change first; next is where the one after it begins, nil
// at the end.
func (a *App) Compare(ctx context.Context, ask Comparing, after *store.Place, n int) (out []Comparison, next *store.Place, err error) {
	if !slices.Contains([]string{"", upTo1, upTo10, over10}, ask.Class) {
		return nil, nil, problem.New("class", "give %s, %s or %s", upTo1, upTo10, over10)
	}
	for looked := 0; len(out) < n && looked < mostLooked; {
		rows, says, err := a.summaries(ctx, ask.Wanted, after, n)
		if err != nil {
			return nil, nil, err
		}
		for i := range rows {
			after = &store.Place{UpdatedAt: rows[i].Review.UpdatedAt, ID: rows[i].Review.ID}
			if c := (Comparison{Review: rows[i].Review, Title: says[i].Title, Compared: says[i].Compared, Kits: says[i].Kits}); ask.takes(&c) {
				out = append(out, c)
			}
			if len(out) == n && (i < len(rows)-1 || len(rows) == n) {
				return out, after, a.beside(ctx, out) // there may be more behind it
			}
		}
		looked += len(rows)
		if len(rows) < n {
			after = nil
			break
		}
	}
	return out, after, a.beside(ctx, out)
}

// The classes of power.
const (
	upTo1  = "up-to-1-w"
	upTo10 = "up-to-10-w"
	over10 = "over-10-w"
)

func (q *Comparing) takes(c *Comparison) bool {
	most, has := 0.0, q.Band == ""
	for _, b := range c.Compared {
		has = has || b.Band == q.Band
		if b.ClaimedW != nil {
			most = max(most, *b.ClaimedW)
		}
	}
	switch q.Class {
	case upTo1:
		return has && most > 0 && most <= 1
	case upTo10:
		return has && most > 1 && most <= 10
	case over10:
		return has && most > 10
	}
	return has
}

// beside adds what others say, and which rows were measured with other kit than most.
func (a *App) beside(ctx context.Context, rows []Comparison) error {
	ids := []string{}
	for i := range rows {
		ids = append(ids, rows[i].Review.ID)
	}
	outside, err := a.Store.Outside(ctx, ids)
	if err != nil {
		return err
	}
	letters, err := a.Store.LettersOf(ctx, ids)
	if err != nil {
		return err
	}
	meters := usual(rows, func(c *Comparison) []string { return c.Meters })
	analyzers := usual(rows, func(c *Comparison) []string { return c.Analyzers })
	for i := range rows {
		r := &rows[i]
		for _, f := range outside {
			if f.ReviewID == r.Review.ID {
				f.ClaimDB = againstClaim(&f, r.Compared)
				r.Outside = append(r.Outside, f)
			}
		}
		for _, l := range letters {
			if l.ReviewID == r.Review.ID && l.Kind == "answer" {
				r.Answers = append(r.Answers, l)
			}
		}
		r.OtherMeters, r.OtherAnalyzers = otherThan(meters, r.Meters), otherThan(analyzers, r.Analyzers)
	}
	return nil
}

// againstClaim is the power of somebody else over what is claimed of the band and level; nil where one of them is not.
func againstClaim(f *record.OutsideFigure, of []publish.Compared) *float64 {
	for _, c := range of {
		if c.Name == f.Box && f.Watts != nil && c.ClaimedW != nil {
			db := float64(units.RatioDB(*f.Watts / *c.ClaimedW))
			return &db
		}
	}
	return nil
}

func together(names []string) string {
	return strings.Join(slices.Sorted(slices.Values(names)), ", ")
}

// usual is the kit of most rows, the first of those that as many have.
func usual(rows []Comparison, of func(*Comparison) []string) (most string) {
	count := map[string]int{}
	for i := range rows {
		if k := together(of(&rows[i])); k != "" {
			count[k]++
		}
	}
	for i := range rows {
		if k := together(of(&rows[i])); count[k] > count[most] {
			most = k
		}
	}
	return most
}

// otherThan is kit by its names, where there is any and it is not the usual.
func otherThan(usual string, names []string) string {
	if k := together(names); k != usual {
		return k
	}
	return ""
}

// AddOutside keeps a figure of somebody else, under a key made by who asks. Errors are *problem.Error on its fields.
func (a *App) AddOutside(ctx context.Context, f *record.OutsideFigure) error {
	if err := checkTexts(*f); err != nil {
		return err
	}
	var bad problem.List
	if f.Watts == nil && f.RoomDB == nil && f.Replaces == "" {
		bad.Add("watts", "give a power in W, or the room under the limit in dB")
	}
	if f.Watts != nil {
		if err := units.CheckW(*f.Watts); err != nil {
			bad.Add("watts", "%s", err.Error())
		}
	}
	if f.RoomDB != nil && !(*f.RoomDB >= -200 && *f.RoomDB <= 200) {
		bad.Add("room_db", "give -200 to 200 dB")
	}
	if strings.TrimSpace(f.Source) == "" {
		bad.Add("source", "say where it was read")
	}
	if _, err := time.Parse(time.DateOnly, f.SaidOn); err != nil {
		bad.Add("said_on", "give the day it is from, such as 2026-11-25")
	}
	r, err := a.Open(ctx, f.ReviewID, store.WithoutTraces, nil)
	if err != nil {
		return err
	}
	named := false
	for _, c := range r.Cells {
		named = named || r.BoxName(c) == f.Box
	}
	if !named {
		bad.Add("box", "give the name of a band and level of the review, such as 2m High")
	}
	if err := bad.Err(); err != nil {
		return err
	}
	again, err := a.Store.AddOutside(ctx, f, store.Fingerprint([]any{f.ReviewID, f.Replaces, f.Box, f.Watts, f.RoomDB, f.Source, f.SaidOn}))
	if err == nil && !again {
		a.Events.publish("outside", f.ID, f.ReviewID)
	}
	return err
}

// mostDrawn is how many reviews go into one picture.
const mostDrawn = 40

// ComparePicture draws reviews beside each other: their power against the claim, or with margins their worst emissions.
func (a *App) ComparePicture(ctx context.Context, ids []string, margins bool) (drawing.Picture, error) {
	rows, err := a.compared(ctx, ids)
	if err != nil {
		return drawing.Picture{}, err
	}
	return publish.ComparePicture(lines(rows, func(c *Comparison) string {
		if margins {
			return c.OtherAnalyzers
		}
		return c.OtherMeters
	}), margins), nil
}

func lines(rows []Comparison, other func(*Comparison) string) []publish.CompareRow {
	var out []publish.CompareRow
	for i := range rows {
		out = append(out, publish.CompareRow{Title: rows[i].Title, Other: other(&rows[i]), Compared: rows[i].Compared, Outside: rows[i].Outside})
	}
	return out
}

// FreezeComparison freezes a comparison of some reviews into a page of its own, under a key made by who asks. Errors
// are *problem.Error on "title" or "ids".
func (a *App) FreezeComparison(ctx context.Context, id, title string, ids []string) (*record.FrozenComparison, error) {
	if err := checkTexts(struct {
		Title string `json:"title"`
	}{title}); err != nil {
		return nil, err
	}
	if title = strings.TrimSpace(title); title == "" {
		return nil, problem.New("title", "say what is compared")
	}
	rows, err := a.compared(ctx, ids)
	if err != nil {
		return nil, err
	}
	who, err := a.Store.Publication(ctx)
	if err != nil {
		return nil, err
	}
	out := &record.FrozenComparison{ID: id, Title: title, FrozenAt: a.Store.Now()}
	out.Page, err = publish.FreezeComparison(title, out.FrozenAt, who, lines(rows, func(c *Comparison) string {
		return together(slices.DeleteFunc([]string{c.OtherMeters, c.OtherAnalyzers}, func(s string) bool { return s == "" }))
	}))
	if err != nil {
		return nil, err
	}
	out.SHA256 = sumOf(out.Page)
	again, err := a.Store.AddComparison(ctx, out, store.Fingerprint([]any{id, title, ids}))
	if err == nil && !again {
		a.Events.publish("comparison", id, "")
	}
	return out, err
}

// CompareTable is reviews beside each other as rows under their columns.
func (a *App) CompareTable(ctx context.Context, ids []string) ([][]string, error) {
	rows, err := a.compared(ctx, ids)
	if err != nil {
		return nil, err
	}
	out := [][]string{{"review", "band", "level", "mode", "whose", "source", "claimed_w", "measured_w", "low_w", "high_w", "against_claim_db", "power", "worst", "room_db", "expanded_uncertainty_db", "emissions", "kit"}}
	bare := func(v *float64) string {
		if v == nil {
			return ""
		}
		return fmt.Sprint(*v)
	}
	for i := range rows {
		r := &rows[i]
		for _, c := range r.Compared {
			out = append(out, []string{r.Title, c.Band, c.Level, c.Mode, "ours", "", bare(c.ClaimedW), bare(c.MeasuredW), bare(c.LowW), bare(c.HighW), bare(c.ClaimDB), string(c.Power), c.Product, bare(c.RoomDB), bare(c.ExpandedDB), string(c.Emissions), together(slices.Concat(r.Meters, r.Analyzers))})
			for _, f := range r.Outside {
				if f.Box == c.Name {
					out = append(out, []string{r.Title, c.Band, c.Level, c.Mode, "outside", f.Source + ", " + f.SaidOn, "", bare(f.Watts), "", "", "", "", "", bare(f.RoomDB), "", "", ""})
				}
			}
		}
	}
	return out, nil
}

func (a *App) compared(ctx context.Context, ids []string) ([]Comparison, error) {
	if len(ids) == 0 || len(ids) > mostDrawn {
		return nil, problem.New("ids", "give the ids of 1 to %d reviews, parted by commas", mostDrawn)
	}
	rows, _, err := a.Compare(ctx, Comparing{Wanted: store.Wanted{IDs: ids}}, nil, mostDrawn)
	slices.SortStableFunc(rows, func(x, y Comparison) int { return slices.Index(ids, x.Review.ID) - slices.Index(ids, y.Review.ID) })
	return rows, err
}
