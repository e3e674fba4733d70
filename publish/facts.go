package publish

import (
	"encoding/json"
	"slices"
	"time"

	"talloak/core/measure"
	"talloak/core/record"
	"talloak/core/rulebook"
)

// facts are what an edition was worked out of, as they were: with the unit, claims and rules of the document
// they are enough to work every ruling out anew, without the database that they are from.
type facts struct {
	StartedAt    time.Time         `json:"started_at"`
	Books        []*rulebook.Book  `json:"rule_books"` // every one that a band could be judged by
	Paths        []*record.Through `json:"paths"`      // that something was taken through, each as it was
	Measurements []fact            `json:"measurements"`
	Standings    []said            `json:"standings"`
}

// fact is a measurement as it was kept. Path is where its own stands among the paths; Levels are those of a
// sweep, packed as they are kept.
type fact struct {
	ID      string    `json:"id"`
	Kind    string    `json:"kind"`
	TakenAt time.Time `json:"taken_at"`
	Format  int       `json:"format"`
	record.Keyed
	Path    int             `json:"path"` // -1 for none
	Payload json.RawMessage `json:"payload"`
	Levels  []byte          `json:"levels,omitempty"`
	File    *FileNote       `json:"file,omitempty"` // that it was read from
}

// FileNote names an original file by what it is, so that a copy can be told from it.
type FileNote struct {
	Name      string `json:"name"`
	MediaType string `json:"media_type"`
	Bytes     int    `json:"bytes"`
	SHA256    string `json:"sha256"`
}

// said is a word on a measurement.
type said struct {
	Target   string    `json:"measurement"`
	Standing string    `json:"standing"`
	Reason   string    `json:"reason"`
	SaidAt   time.Time `json:"said_at"`
}

func factsOf(r *measure.Review, files map[string]FileNote) facts {
	out := facts{StartedAt: r.CreatedAt.UTC(), Books: r.Shelf(), Paths: []*record.Through{}, Measurements: []fact{}, Standings: []said{}}
	kept := r.Facts()
	places := map[string]int{}
	for i := range kept.Measurements {
		m := &kept.Measurements[i]
		f := fact{ID: m.ID, Kind: m.Kind, TakenAt: m.TakenAt.UTC(), Format: m.Format, Keyed: m.Keyed, Path: -1, Payload: m.Payload, Levels: m.Blob}
		if m.Through != nil {
			text, err := json.Marshal(m.Through)
			if err != nil {
				panic(err) // plain data, which came out of JSON
			}
			at, known := places[string(text)]
			if !known {
				at = len(out.Paths)
				places[string(text)], out.Paths = at, append(out.Paths, m.Through)
			}
			f.Path = at
		}
		if note, ok := files[m.ID]; ok {
			f.File = &note
		}
		out.Measurements = append(out.Measurements, f)
	}
	for _, s := range kept.Standings {
		out.Standings = append(out.Standings, said{s.TargetID, s.Standing, s.Reason, s.SaidAt.UTC()})
	}
	return out
}

// Reopen opens the review that an edition was worked out of, from its data alone. Data of an edition that has
// no facts in it, one of an older format, give nil.
func (d *Document) Reopen(kinds []measure.Kind) (*measure.Review, error) {
	if d.Facts == nil {
		return nil, nil
	}
	r := &record.Review{ID: d.ReviewID, CreatedAt: d.Facts.StartedAt, Subject: d.Subject, Rules: d.Rules, Claims: []record.Claim{}}
	for _, c := range d.Claims {
		r.Claims = append(r.Claims, c.Claim)
	}
	var all record.Facts
	for _, f := range d.Facts.Measurements {
		m := record.Measurement{ID: f.ID, Kind: f.Kind, ReviewID: d.ReviewID, TakenAt: f.TakenAt, Format: f.Format, Keyed: f.Keyed, Payload: f.Payload, Blob: f.Levels}
		if f.Path >= 0 && f.Path < len(d.Facts.Paths) {
			m.Through = d.Facts.Paths[f.Path]
		}
		all.Measurements = append(all.Measurements, m)
	}
	for _, s := range d.Facts.Standings {
		all.Standings = append(all.Standings, record.Standing{ReviewID: d.ReviewID, TargetID: s.Target, Standing: s.Standing, Reason: s.Reason, SaidAt: s.SaidAt})
	}
	books := func(id string) (*rulebook.Book, bool) {
		at := slices.IndexFunc(d.Facts.Books, func(b *rulebook.Book) bool { return b != nil && b.ID == id })
		if at < 0 {
			return nil, false
		}
		return d.Facts.Books[at], true
	}
	return measure.Open(r, all, d.Rules, books, kinds)
}

// files are the notes of the original files, by the measurement read from each.
func (f *facts) files() map[string]FileNote {
	out := map[string]FileNote{}
	for _, m := range f.Measurements {
		if m.File != nil {
			out[m.ID] = *m.File
		}
	}
	return out
}
