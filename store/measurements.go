package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"io"
	"slices"

	"gorm.io/gorm"

	"talloak/core/record"
)

// Traces says whether measurements are read with their blobs, which are long.
type Traces bool

// The two ways to read measurements.
const (
	WithTraces    Traces = true
	WithoutTraces Traces = false
)

// Facts reads the measurements of a review in the order taken, and what was said of
// them. Measurements through the very same path share one copy of it.
func (s *Store) Facts(ctx context.Context, reviewID string, traces Traces) (record.Facts, error) {
	return readFacts(s.db.WithContext(ctx), reviewID, traces)
}

// FactsSince reads what was added to a review since it was read at a standpoint, of which the
// facts are given, and gives all; false where something else came between, such as a fact that
// was begun earlier and written later: then all are to be read anew.
func (s *Store) FactsSince(ctx context.Context, reviewID string, before record.Facts, was, now Standpoint) (record.Facts, bool, error) {
	db := s.db.WithContext(ctx).Where("review_id = ?", reviewID).Order("seq").Session(&gorm.Session{})
	more, err := readMeasurements(db.Where("seq > ? AND seq <= ?", was.LastSeq, now.LastSeq), WithoutTraces)
	if err != nil {
		return record.Facts{}, false, err
	}
	var said []standingRow
	if err := db.Where("seq > ? AND seq <= ?", was.LastSaid, now.LastSaid).Find(&said).Error; err != nil {
		return record.Facts{}, false, err
	}
	// Readings through the very same path go on sharing their copy of it.
	for i := range more {
		for _, m := range slices.Backward(before.Measurements) {
			if same(m.Through, more[i].Through) {
				more[i].Through = m.Through
				break
			}
		}
	}
	out := record.Facts{Measurements: slices.Concat(before.Measurements, more), Standings: slices.Clone(before.Standings)}
	for i := range said {
		out.Standings = append(out.Standings, said[i].fact())
	}
	return out, int64(len(out.Measurements)) == now.Measurements && int64(len(out.Standings)) == now.Standings, nil
}

func same(a, b *record.Through) bool {
	return a.PathID == b.PathID && a.Name == b.Name && Fingerprint(a) == Fingerprint(b)
}

func readFacts(db *gorm.DB, reviewID string, traces Traces) (out record.Facts, err error) {
	db = db.Where("review_id = ?", reviewID).Order("seq").Session(&gorm.Session{})
	if out.Measurements, err = readMeasurements(db, traces); err != nil {
		return out, err
	}
	var said []standingRow
	if err := db.Find(&said).Error; err != nil {
		return out, err
	}
	for i := range said {
		out.Standings = append(out.Standings, said[i].fact())
	}
	return out, nil
}

// readMeasurements scans row by row: a review may have thousands.
func readMeasurements(db *gorm.DB, traces Traces) (out []record.Measurement, err error) {
	blob := "blob"
	if traces == WithoutTraces {
		blob = "NULL::bytea"
	}
	rows, err := db.Model(&measurementRow{}).Select("id, kind, review_id, taken_at, format, band, level, mode, frequency_hz, payload, through, " + blob).Rows()
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, rows.Close()) }()
	throughs := map[string]*record.Through{}
	var raw sql.RawBytes
	for rows.Next() {
		m := record.Measurement{}
		if err := rows.Scan(&m.ID, &m.Kind, &m.ReviewID, &m.TakenAt, &m.Format, &m.Band, &m.Level, &m.Mode, &m.FrequencyHz, &m.Payload, &raw, &m.Blob); err != nil {
			return nil, err
		}
		if m.Through = throughs[string(raw)]; m.Through == nil {
			m.Through = &record.Through{}
			if err := json.Unmarshal(raw, m.Through); err != nil {
				return nil, err
			}
			throughs[string(raw)] = m.Through
		}
		out = append(out, m)
	}
	return out, rows.Err()
}

// AddMeasurement writes a measurement, with the file it was read from where there is
// one, under the fingerprint of its request.
func (s *Store) AddMeasurement(ctx context.Context, m *record.Measurement, file *record.File, request string) (again bool, err error) {
	m.TakenAt = now()
	through, err := json.Marshal(m.Through)
	if err != nil {
		return false, err
	}
	row := &measurementRow{
		ID: m.ID, RequestHash: request, ReviewID: m.ReviewID, Kind: m.Kind, Format: m.Format, TakenAt: m.TakenAt,
		Band: m.Band, Level: m.Level, Mode: string(m.Mode), FrequencyHz: m.FrequencyHz, Payload: m.Payload, Through: through, Blob: m.Blob,
	}
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if again, err = addOnce(ctx, tx, row); err != nil || again || file == nil {
			return err
		}
		packed, err := pack(file.Content)
		if err != nil {
			return err
		}
		if err := tx.Create(&fileRow{m.ID, file.Name, file.MediaType, packed}).Error; err != nil {
			return err
		}
		return chained(tx, "files", m.ID)
	})
	m.TakenAt = row.TakenAt
	return again, err
}

// ReviewOf is the review a measurement belongs to; ErrNotFound where there is no such
// measurement.
func (s *Store) ReviewOf(ctx context.Context, measurementID string) (reviewID string, err error) {
	err = s.db.WithContext(ctx).Model(&measurementRow{}).Select("review_id").Where("id = ?", measurementID).Take(&reviewID).Error
	return reviewID, translate(err)
}

// Wrote tells whether a measurement was written by the very same request before.
func (s *Store) Wrote(ctx context.Context, id, request string) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&measurementRow{}).Where("id = ? AND request_hash = ?", id, request).Count(&n).Error
	return n > 0, err
}

// File is the file a measurement was read from; ErrNotFound where there is none.
func (s *Store) File(ctx context.Context, measurementID string) (*record.File, error) {
	var row fileRow
	err := s.db.WithContext(ctx).First(&row, "id = ?", measurementID).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		var older struct {
			Name     string
			Original []byte
		}
		err = s.db.WithContext(ctx).Table("older_files").Select("name", "original").Where("id = ?", measurementID).Take(&older).Error
		return &record.File{Name: older.Name + ".csv", MediaType: "text/csv", Content: older.Original}, translate(err)
	}
	if err != nil {
		return nil, err
	}
	content, err := unpack(row.Packed)
	return &record.File{Name: row.Name, MediaType: row.MediaType, Content: content}, err
}

// FilesOf are the measurements of a review that were read from a file, by their ids.
func (s *Store) FilesOf(ctx context.Context, reviewID string) (ids []string, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT m.id FROM measurements m WHERE m.review_id = ? AND (EXISTS (SELECT 1 FROM files f WHERE f.id = m.id) OR EXISTS (SELECT 1 FROM older_files o WHERE o.id = m.id)) ORDER BY m.seq", reviewID).Scan(&ids).Error
	return ids, err
}

// AddStanding writes a word on a measurement of the same review; ErrNotFound where there
// is none.
func (s *Store) AddStanding(ctx context.Context, r *record.Standing, request string) (again bool, err error) {
	switch review, err := s.ReviewOf(ctx, r.TargetID); {
	case err != nil:
		return false, err
	case review != r.ReviewID:
		return false, ErrNotFound
	}
	r.SaidAt = now()
	row := &standingRow{ID: r.ID, RequestHash: request, ReviewID: r.ReviewID, TargetID: r.TargetID, Standing: r.Standing, Reason: r.Reason, SaidAt: r.SaidAt}
	again, err = addOnce(ctx, s.db, row)
	*r = row.fact()
	return again, err
}

func pack(content []byte) ([]byte, error) {
	var out bytes.Buffer
	w, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err != nil {
		return nil, err
	}
	if _, err := w.Write(content); err != nil {
		return nil, err
	}
	if err := w.Close(); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

func unpack(packed []byte) ([]byte, error) {
	r, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return nil, err
	}
	return io.ReadAll(r)
}
