package httpapi

import (
	"cmp"
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"talloak/core/problem"
	"talloak/core/reading"
	"talloak/core/rulebook"
	"talloak/core/sweep"
	"talloak/core/units"
	"talloak/dossier"
	"talloak/store"
)

// ReadingWrite is a key-up line with what was keyed and the path it was read on.
type ReadingWrite struct {
	dossier.Keyed
	Text   string `json:"text" maxLength:"500"`
	PathID string `json:"path_id" format:"uuid"`
}

// StandingWrite is a word on a reading or sweep, with its reason.
type StandingWrite struct {
	ID       string `json:"id" format:"uuid"`
	Target   string `json:"target" enum:"reading,sweep"`
	TargetID string `json:"target_id" format:"uuid"`
	Standing string `json:"standing" enum:"in-force,suspect,struck,explained"`
	Reason   string `json:"reason" minLength:"1" maxLength:"500"`
}

func (s *Server) registerMeasurements(api huma.API) {
	tag := []string{"measurements"}
	huma.Register(api, huma.Operation{OperationID: "list-readings", Method: http.MethodGet, Path: "/api/v1/reviews/{id}/readings", Summary: "All readings of a review, worked out, in the order taken", Tags: tag},
		func(ctx context.Context, in *IDPath) (*body[[]dossier.Reading], error) {
			d, err := s.open(ctx, in.ID, store.WithoutTraces, nil)
			if err != nil {
				return nil, answer(err)
			}
			out := d.Readings()
			if out == nil {
				out = []dossier.Reading{}
			}
			return &body[[]dossier.Reading]{out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "preview-reading", Method: http.MethodPost, Path: "/api/v1/reviews/{id}/readings/preview", Summary: "Work a key-up line out without keeping it", Tags: tag},
		func(ctx context.Context, in *struct {
			IDPath
			Body ReadingWrite
		}) (*body[dossier.Reading], error) {
			out, _, err := s.preview(ctx, in.ID, in.Body)
			return out, answer(err)
		})
	huma.Register(api, huma.Operation{OperationID: "add-reading", Method: http.MethodPost, Path: "/api/v1/reviews/{id}/readings", Summary: "Log a reading under an id made by the client", Tags: tag, DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct {
			IDPath
			Body struct {
				ID string `json:"id" format:"uuid"`
				ReadingWrite
			}
		}) (*body[dossier.Reading], error) {
			w := in.Body.ReadingWrite
			out, through, err := s.preview(ctx, in.ID, w)
			if err != nil {
				return nil, answer(err)
			}
			row := &store.Reading{
				ID: in.Body.ID, RequestHash: store.Fingerprint(in.Body), ReviewID: in.ID,
				Keyed: store.Keyed{Band: w.Band, Level: w.Level, Mode: string(w.Mode), FrequencyHz: out.Body.FrequencyHz},
				Text:  w.Text, Through: *through,
			}
			again, err := s.store.AddReading(ctx, row)
			if err != nil {
				return nil, answer(err)
			}
			if again { // the answer is of what was written then, through the path as it was
				d, err := s.open(ctx, in.ID, store.WithoutTraces, nil)
				if err != nil {
					return nil, answer(err)
				}
				for _, r := range d.Readings() {
					if r.ID == row.ID {
						return &body[dossier.Reading]{r}, nil
					}
				}
			}
			out.Body.ID, out.Body.TakenAt = row.ID, row.TakenAt
			return out, nil
		})
	huma.Register(api, huma.Operation{OperationID: "add-sweep", Method: http.MethodPost, Path: "/api/v1/reviews/{id}/sweeps", Summary: "Load a sweep from CSV under an id made by the client", Tags: tag, DefaultStatus: http.StatusCreated, MaxBodyBytes: maxBody},
		func(ctx context.Context, in *sweepIn) (*body[dossier.Emissions], error) { return s.addSweep(ctx, in) })
	huma.Register(api, huma.Operation{OperationID: "get-sweep-original", Method: http.MethodGet, Path: "/api/v1/sweeps/{id}/original", Summary: "The text a sweep was read from", Tags: tag},
		func(ctx context.Context, in *IDPath) (*download, error) {
			name, text, err := s.store.SweepOriginal(ctx, in.ID)
			return &download{"text/csv; charset=utf-8", attachment(name + ".csv"), pagePolicy, text}, answer(err)
		})
	huma.Register(api, huma.Operation{OperationID: "get-emissions", Method: http.MethodGet, Path: "/api/v1/reviews/{id}/emissions", Summary: "The ruling on one box, with its traces at the connector", Tags: tag},
		func(ctx context.Context, in *struct {
			IDPath
			Band  string `query:"band" required:"true"`
			Level string `query:"level" required:"true"`
			Mode  string `query:"mode" default:"FM" enum:"FM,AM,SSB,CW,DIGITAL"`

			FrequencyHz float64 `query:"frequency_hz" minimum:"0" doc:"One of the carriers swept; without it the worst stands for the box"`
		}) (*body[dossier.Emissions], error) {
			d, err := s.open(ctx, in.ID, store.WithTraces, nil)
			if err != nil {
				return nil, answer(err)
			}
			return &body[dossier.Emissions]{d.EmissionsAt(dossier.Keyed{Band: in.Band, Level: in.Level, Mode: rulebook.Mode(in.Mode), FrequencyHz: in.FrequencyHz}, true)}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "add-standing", Method: http.MethodPost, Path: "/api/v1/reviews/{id}/standings", Summary: "Strike or doubt a reading or sweep, or take that back, with a reason", Tags: tag, DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct {
			IDPath
			Body StandingWrite
		}) (*body[StandingWrite], error) {
			w := in.Body
			if w.Standing == "explained" && w.Target != "reading" {
				return nil, answer(problem.New("standing", "only a difference of readings can be explained; a sweep is in force, suspect or struck"))
			}
			row := &store.Standing{ID: w.ID, RequestHash: store.Fingerprint(w), ReviewID: in.ID, Target: w.Target, TargetID: w.TargetID, Standing: w.Standing, Reason: w.Reason}
			if _, err := s.store.AddStanding(ctx, row); err != nil {
				return nil, answer(err)
			}
			return &body[StandingWrite]{w}, nil
		})
}

func (s *Server) preview(ctx context.Context, reviewID string, w ReadingWrite) (*body[dossier.Reading], *store.Through, error) {
	d, err := s.open(ctx, reviewID, store.WithoutTraces, nil)
	if err != nil {
		return nil, nil, err
	}
	through, err := s.store.Through(ctx, w.PathID)
	if err != nil {
		return nil, nil, err
	}
	out, err := d.Preview(w.Keyed, w.Text, *through, "")
	if err != nil {
		return nil, nil, err
	}
	out.Doubts = append(out.Doubts, d.LevelDoubts(&out)...)
	out.Doubts = append(out.Doubts, d.Contradictions(&out)...)
	if err := s.nameMeters(ctx, &out); err != nil {
		return nil, nil, err
	}
	return &body[dossier.Reading]{out}, through, nil
}

// nameMeters says which owned meter would do where this one does not cover the band.
func (s *Server) nameMeters(ctx context.Context, r *dossier.Reading) error {
	if r.Result == nil || !slices.ContainsFunc(r.Result.Flags, func(f reading.Flag) bool { return f.Code == "meter-out-of-range" }) {
		return nil
	}
	bench, err := s.store.Kit(ctx)
	if err != nil {
		return err
	}
	if do := dossier.MetersFor(bench, units.Hertz(r.FrequencyHz)); len(do) > 0 {
		r.WhyNot += "; on the bench this would do: " + strings.Join(do, ", ")
	}
	return nil
}

type sweepIn struct {
	IDPath
	Key         string  `query:"key" required:"true" format:"uuid" doc:"The id of the sweep, made by the client"`
	Name        string  `query:"name" required:"true" minLength:"1" maxLength:"200"`
	Band        string  `query:"band" required:"true"`
	Level       string  `query:"level" required:"true"`
	Mode        string  `query:"mode" default:"FM" enum:"FM,AM,SSB,CW,DIGITAL"`
	FrequencyHz float64 `query:"frequency_hz" required:"true" exclusiveMinimum:"0"`
	PathID      string  `query:"path_id" required:"true" format:"uuid"`
	RBWHz       float64 `query:"rbw_hz" minimum:"0" doc:"Resolution bandwidth where the file does not say it"`
	Detector    string  `query:"detector" enum:"peak,rms,average,sample" doc:"Left out where it is not told"`
	Hold        string  `query:"hold" enum:"single,max,average" doc:"Left out where it is not told"`
	Modulated   string  `query:"modulated" enum:"bare,modulated" doc:"Whether the carrier was modulated; left out where it is not told"`
	Unit        string  `query:"unit" enum:"Hz,kHz,MHz,GHz" doc:"Of the frequencies, where what the file says cannot be meant"`
	RawBody     []byte  `contentType:"text/csv"`
}

func (s *Server) addSweep(ctx context.Context, in *sweepIn) (*body[dossier.Emissions], error) {
	read, err := sweep.ParseCSVIn(in.RawBody, in.Unit)
	if err != nil {
		return nil, answer(err)
	}
	if doubt := read.Doubt(units.Hertz(in.FrequencyHz)); doubt != "" {
		return nil, answer(problem.New("unit", "%s", doubt))
	}
	t := read.Trace
	if t.RBW == 0 {
		t.RBW = units.Hertz(in.RBWHz)
	}
	through, err := s.store.Through(ctx, in.PathID)
	if err != nil {
		return nil, answer(err)
	}
	detector, hold := cmp.Or(read.Detector, in.Detector), cmp.Or(read.Hold, in.Hold) // the file knows best
	if dossier.Purpose(*through) != "emissions" {
		return nil, answer(problem.New("path_id", "the path %q does not end in an analyzer, so no sweep can have come through it", through.Name))
	}
	if _, err := s.store.Review(ctx, in.ID); err != nil {
		return nil, answer(err)
	}
	row := &store.Sweep{
		ID: in.Key, RequestHash: store.Fingerprint(in), ReviewID: in.ID,
		Keyed: store.Keyed{Band: in.Band, Level: in.Level, Mode: in.Mode, FrequencyHz: in.FrequencyHz},
		Name:  in.Name, Detector: detector, Hold: hold, Modulated: in.Modulated, Through: *through,
		StartHz: float64(t.Start), StopHz: float64(t.Stop), RBWHz: float64(t.RBW), Points: len(t.Levels), Taken: read.Taken,
		Levels: store.PackLevels(t.Levels), Original: in.RawBody,
	}
	if _, err := s.store.AddSweep(ctx, row); err != nil {
		return nil, answer(err)
	}
	d, err := s.open(ctx, in.ID, store.WithTraces, nil)
	if err != nil {
		return nil, answer(err)
	}
	return &body[dossier.Emissions]{d.EmissionsAt(dossier.Keyed{Band: in.Band, Level: in.Level, Mode: rulebook.Mode(in.Mode), FrequencyHz: in.FrequencyHz}, true)}, nil
}

// download is a file as it was kept.
type download struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Policy      string `header:"Content-Security-Policy"`
	Body        []byte
}

// pagePolicy lets a page run no script and load nothing: it has all it needs.
const pagePolicy = "default-src 'none'; style-src 'unsafe-inline'; font-src data:"
