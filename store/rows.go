package store

import (
	"encoding/json"
	"time"

	"talloak/core/kit"
	"talloak/core/path"
	"talloak/core/record"
)

// The rows of the database, each with its way to and from package record.

type reviewRow struct {
	ID          string `gorm:"primaryKey"`
	RequestHash string
	Version     int
	CreatedAt   time.Time
	UpdatedAt   time.Time      `gorm:"autoUpdateTime:false"` // see later
	Subject     record.Subject `gorm:"serializer:json"`
	Claims      []record.Claim `gorm:"serializer:json"`
	Rules       record.Rules   `gorm:"serializer:json"`
	Sheet       record.Sheet   `gorm:"serializer:json"`
	Adds        record.Adds    `gorm:"serializer:json"`
	Follows     *string
	Practice    string
	Away        bool
}

func (reviewRow) TableName() string { return "reviews" }

func (r *reviewRow) fact() *record.Review {
	return &record.Review{ID: r.ID, Version: r.Version, CreatedAt: r.CreatedAt, UpdatedAt: r.UpdatedAt, Subject: r.Subject, Claims: r.Claims, Rules: r.Rules, Sheet: r.Sheet, Adds: r.Adds, Follows: orEmpty(r.Follows), Practice: r.Practice, Away: r.Away}
}

func orEmpty(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

// orNull is nil for what is empty.
func orNull(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

type measurementRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	Kind        string
	Format      int
	TakenAt     time.Time
	Band        string
	Level       string
	Mode        string
	FrequencyHz float64
	Payload     json.RawMessage `gorm:"type:jsonb"`
	Through     json.RawMessage `gorm:"type:jsonb"`
	Blob        []byte
}

func (measurementRow) TableName() string { return "measurements" }

// fileRow is the file a measurement was read from, packed by gzip.
type fileRow struct {
	ID        string `gorm:"primaryKey"`
	Name      string
	MediaType string
	Packed    []byte
}

func (fileRow) TableName() string { return "files" }

type standingRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	TargetID    string
	Standing    string
	Reason      string
	SaidAt      time.Time
}

func (standingRow) TableName() string { return "standings" }

func (r *standingRow) fact() record.Standing {
	return record.Standing{ID: r.ID, ReviewID: r.ReviewID, TargetID: r.TargetID, Standing: r.Standing, Reason: r.Reason, SaidAt: r.SaidAt}
}

type editionRow struct {
	ID          string `gorm:"primaryKey"`
	RequestHash string
	ReviewID    string
	Number      int
	FrozenAt    time.Time
	Title       string
	Headline    string
	SHA256      string `gorm:"column:sha256"`
	Document    []byte
	Page        []byte
	PageSHA256  string `gorm:"column:page_sha256"`
	Basis       string
	Kind        string
	Changed     string
}

func (editionRow) TableName() string { return "editions" }

func (r *editionRow) fact() *record.Edition {
	return &record.Edition{
		ID: r.ID, ReviewID: r.ReviewID, Number: r.Number, FrozenAt: r.FrozenAt, Title: r.Title, Headline: r.Headline,
		SHA256: r.SHA256, PageSHA256: r.PageSHA256, Document: r.Document, Page: r.Page, Basis: r.Basis, Kind: r.Kind, Changed: r.Changed,
	}
}

type kitRow struct {
	ID        string `gorm:"primaryKey"`
	Version   int
	Position  int `gorm:"->" json:"-"` // given by the database
	Name      string
	Spec      kit.Spec `gorm:"serializer:json"`
	RetiredAt *time.Time
	Practice  *string
}

func (kitRow) TableName() string { return "kit" }

func itemRow(i *record.Item) *kitRow {
	return &kitRow{ID: i.ID, Version: i.Version, Name: i.Name, Spec: i.Spec, RetiredAt: i.RetiredAt, Practice: orNull(i.Practice)}
}

func (r *kitRow) fact() record.Item {
	return record.Item{ID: r.ID, Version: r.Version, Name: r.Name, Spec: r.Spec, RetiredAt: r.RetiredAt, Practice: orEmpty(r.Practice)}
}

type pathRow struct {
	ID              string `gorm:"primaryKey"`
	Version         int
	Position        int `gorm:"->" json:"-"` // given by the database
	Name            string
	Socket          string
	Parts           []record.PathPart  `gorm:"serializer:json"`
	Supply          *record.PathSupply `gorm:"serializer:json"`
	AppliedOffsetDB float64            `gorm:"column:applied_offset_db"`
	RetiredAt       *time.Time
	Practice        *string
}

func (pathRow) TableName() string { return "paths" }

func rowOfPath(p *record.Path) *pathRow {
	return &pathRow{ID: p.ID, Version: p.Version, Name: p.Name, Socket: p.Socket, Parts: p.Parts, Supply: p.Supply, AppliedOffsetDB: p.AppliedOffsetDB, RetiredAt: p.RetiredAt, Practice: orNull(p.Practice)}
}

func (r *pathRow) fact() record.Path {
	return record.Path{ID: r.ID, Version: r.Version, Name: r.Name, Socket: r.Socket, Parts: r.Parts, Supply: r.Supply, AppliedOffsetDB: r.AppliedOffsetDB, RetiredAt: r.RetiredAt, Practice: orEmpty(r.Practice)}
}

type stackRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	TakenAt     time.Time
	MeasuredOn  string
	Parts       []record.PathPart    `gorm:"serializer:json"`
	Found       []path.MeasuredPoint `gorm:"serializer:json"`
	Evidence    record.StackEvidence `gorm:"serializer:json"`
}

func (stackRow) TableName() string { return "stacks" }

func (r *stackRow) fact() record.Stack {
	return record.Stack{ID: r.ID, TakenAt: r.TakenAt, MeasuredOn: r.MeasuredOn, Parts: r.Parts, Found: r.Found, Evidence: r.Evidence}
}

type baselineRow struct {
	Seq         int64  `gorm:"->"`
	ID          string `gorm:"primaryKey"`
	RequestHash string
	TakenAt     time.Time
	MeasuredOn  string
	Meters      []record.KitCopy     `gorm:"serializer:json"`
	Rows        []record.BaselineRow `gorm:"serializer:json"`
}

func (baselineRow) TableName() string { return "baselines" }

func (r *baselineRow) fact() record.Baseline {
	return record.Baseline{ID: r.ID, TakenAt: r.TakenAt, MeasuredOn: r.MeasuredOn, Meters: r.Meters, Rows: r.Rows}
}

// rulingRow is what a review came to, under what that was worked out from.
type rulingRow struct {
	ReviewID string `gorm:"primaryKey"`
	Basis    string
	Summary  json.RawMessage `gorm:"type:jsonb"`
}

func (rulingRow) TableName() string { return "rulings" }

// keyed is a row written once under a key made by the client.
type keyed interface{ key() (id, hash string) }

func (r *reviewRow) key() (string, string)      { return r.ID, r.RequestHash }
func (r *measurementRow) key() (string, string) { return r.ID, r.RequestHash }
func (r *standingRow) key() (string, string)    { return r.ID, r.RequestHash }
func (r *editionRow) key() (string, string)     { return r.ID, r.RequestHash }
func (r *stackRow) key() (string, string)       { return r.ID, r.RequestHash }
func (r *baselineRow) key() (string, string)    { return r.ID, r.RequestHash }

// versioned is a row of the bench, changed in place under a version.
type versioned interface {
	row() (id string, version *int)
}

func (k *kitRow) row() (string, *int)  { return k.ID, &k.Version }
func (p *pathRow) row() (string, *int) { return p.ID, &p.Version }
